"""The need of a job by month: animals, crops, drippers, taps, tanks and channels, each with its own figure."""

from collections.abc import Sequence
from dataclasses import dataclass

from squall.catalogue import Catalogue
from squall.catalogue.reader import pick
from squall.core.hydraulics.gravity import ENTRY_AND_END_K, PLAIN_WALL_M, Zone, zone_below
from squall.core.hydraulics.pipes import Pipe
from squall.core.hydraulics.water import water_at
from squall.core.need.crops import crop_litres, monthly_et0
from squall.core.need.demand import (
    COOL_DAY_C,
    HOT_DAY_C,
    STATE_FACTORS,
    Burst,
    Drinkers,
    burst,
    busiest_hour,
    in_season,
    litres_at,
    monthly_need,
    span_h,
    tap_litres,
)
from squall.core.reason import Spoken
from squall.core.sky.climate import Climate
from squall.job.document.job import HerdRow, Job, UseDoc
from squall.job.worked.place import altitude_of, climate_of, where
from squall.words import later

Twelve = tuple[float, ...]


@dataclass(frozen=True)
class Part:
    """One row of the need: its words, litres a day by month, and its hours of the clock."""

    id: str
    name: str
    litres: Twelve
    from_hour: float
    to_hour: float
    how: Spoken
    kind: str = "herd"


def herd_part(row: HerdRow, climate: Climate) -> Part:
    """Animals: count x litres a head by the month's warmth, x what milk or birth adds."""
    hot = row.each.si * 1000.0
    cool = hot if row.cool is None else row.cool.si * 1000.0
    factor = STATE_FACTORS[row.state]
    season = in_season(row.first, row.last)
    litres = tuple(
        Drinkers(row.name, row.count.si, litres_at(month.t_max_c, cool, hot) * factor).litres_a_day if here else 0.0
        for month, here in zip(climate.months, season, strict=True)
    )
    how = later(
        "count x what one drinks, straight from the cool day's figure at {cool:temperature} to the hot day's at {hot:temperature}",
        cool=COOL_DAY_C,
        hot=HOT_DAY_C,
    )
    return Part(row.id, row.name, litres, row.from_hour.si, row.to_hour.si, how)


def emitters_of(use: UseDoc) -> float:
    """Drippers: counted by line and spacing where both are given, else as typed."""
    if use.row_length is not None and use.spacing is not None:
        return use.row_length.si / use.spacing.si
    return use.emitters.si


def use_part(use: UseDoc, climate: Climate, et0_mm: Twelve, catalogue: Catalogue) -> Part:
    """One more use of water, in the months it is for."""
    season = in_season(use.first, use.last)
    if use.kind == "crop":
        crop = pick(catalogue.crops, use.crop, "crop")
        rain = [month.rain_mm for month in climate.months]
        litres = crop_litres(crop, use.first - 1, use.area.si, use.efficiency.si, et0_mm, rain)
        how = later("(Kc x ET0 - effective rain) x area / what reaches the roots")
        return Part(use.id, use.name, litres, use.from_hour.si, use.to_hour.si, how, use.kind)
    if use.kind == "drip":
        a_day, how = (
            emitters_of(use) * use.rate.si * use.hours.si * 3_600_000.0,
            later("drippers x the trickle of each x hours"),
        )
    elif use.kind == "taps":
        a_day = tap_litres(use.times.si, use.minutes.si / 60.0, use.flow.si, use.running.si)
        how = later("uses x minutes x flow x share of the time that water runs")
    elif use.kind == "channel":
        a_day, how = (
            use.volume.si * 1000.0 * use.turnovers.si * use.hours.si,
            later("volume x turn-overs an hour x hours"),
        )
    else:
        a_day, how = use.volume.si * 1000.0, later("as typed")
    litres = tuple(a_day if wanted else 0.0 for wanted in season)
    return Part(use.id, use.name, litres, use.from_hour.si, use.to_hour.si, how, use.kind)


def zone_of(job: Job, use: UseDoc, part: Part) -> Zone | None:
    """What a use gets from a tank above it; None where no tank feeds it by its height.

    Its flow is what it takes while it runs: all drippers, the tap, a crop's water of its thirstiest day over its hours.
    """
    fall = use.fall or job.want.fall
    if fall is None or use.kind not in ("drip", "taps", "crop"):
        return None
    if use.kind == "drip":
        flow = emitters_of(use) * use.rate.si
    elif use.kind == "taps":
        flow = use.flow.si
    else:
        flow = max(part.litres) / (1000.0 * 3600.0 * max(span_h(part.from_hour, part.to_hour), 0.1))
    pipe = None
    if use.pipe_length is not None and use.pipe_bore is not None:
        pipe = Pipe(use.pipe_length.si, use.pipe_bore.si, PLAIN_WALL_M, ENTRY_AND_END_K)
    return zone_below(fall.si, flow, pipe, water_at(job.water_temperature.si))


def et0_of(job: Job, catalogue: Catalogue) -> Twelve:
    """Reference evapotranspiration of each month at the job's place. [mm/d]"""
    return monthly_et0(climate_of(job, catalogue), where(job)[0], altitude_of(job).si, job.want.et)


def parts_of_need(job: Job, catalogue: Catalogue) -> list[Part]:
    """Every row of the need, as the list has them; nothing where litres are typed."""
    if job.need_by == "litres":
        return []
    climate = climate_of(job, catalogue)
    et0 = et0_of(job, catalogue) if any(use.kind == "crop" for use in job.uses) else (0.0,) * 12
    herd = [herd_part(row, climate) for row in job.herd]
    return herd + [use_part(use, climate, et0, catalogue) for use in job.uses]


def wanted_of(job: Job, parts: Sequence[Part]) -> Twelve:
    """Litres a day by month before headroom: a month's own figure, else the sum of the list, else what was typed."""
    own = tuple(None if month is None else month.si * 1000.0 for month in job.months)
    if job.need_by == "litres":
        return monthly_need(job.litres.si * 1000.0, own)
    sums = [sum(part.litres[month] for part in parts) for month in range(12)]
    found: list[float] = []
    for month, total in enumerate(sums):
        found += monthly_need(total, own)[month : month + 1]
    return tuple(found)


def need_of(job: Job, catalogue: Catalogue) -> Twelve:
    """Litres a day by month that a kit is judged by: what is wanted x headroom."""
    wanted = wanted_of(job, parts_of_need(job, catalogue))
    return tuple(litres * job.want.headroom.si for litres in wanted)


def burst_of(job: Job, parts: Sequence[Part], flow_m3_s: float) -> Burst | None:
    """The herd's thirstiest hour in its thirstiest month; None without animals."""
    herd = [part for part in parts if part.id in {row.id for row in job.herd}]
    most = max((sum(part.litres[month] for part in herd) for month in range(12)), default=0.0)
    return burst(most, job.want.burst.si, job.want.trough.si * 1000.0, flow_m3_s) if most > 0.0 else None


def busiest(parts: Sequence[Part], month: int) -> tuple[int, float]:
    """Hour of the clock in which the list wants most in a month, and its litres."""
    return busiest_hour([(part.litres[month], part.from_hour, part.to_hour) for part in parts])
