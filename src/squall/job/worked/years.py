"""The years of a job: its chosen kit through made or measured weather, kept as a report that knows when it is stale."""

from collections.abc import Callable
from datetime import UTC, datetime
from hashlib import sha256
from typing import Annotated

import numpy as np
from pydantic import Field

from squall.core.electrics.timers import TimerStart
from squall.core.errors import OutOfRange, SquallError
from squall.core.kit.bank import BankState
from squall.core.need.demand import Demand, demand_of
from squall.core.reason import Quantity, Spoken
from squall.core.sky.made_weather import DAYS, Draw
from squall.core.sky.whole_year import MeasuredYear, YearLight, made_clearness, made_light, measured_light
from squall.core.years.record import YearRun
from squall.core.years.tanks import Tank, effective_travel_m, without_switch
from squall.core.years.whole import Floats, LazyYears, run_years
from squall.job.document.base import Doc
from squall.job.document.job import Job
from squall.job.document.power import DAY_NAMES
from squall.job.worked.assess import Assessment, physics_key
from squall.job.worked.kit import KitAssessment
from squall.job.worked.place import climate_of, site_of
from squall.job.worked.resolve import mounting_of
from squall.words import Message, later
from squall.words.keeping import kept, revived

# Where litres are typed and no hours: they are wanted between these hours of the clock.
TYPED_HOURS = (6.0, 18.0)
ENOUGH, TIGHT, SHORT, NOTHING = "e", "t", "s", "-"


def tank_in(job: Job, chosen: KitAssessment) -> Tank | None:
    """The store of a job with its float switch: what trough and tank hold, and a tank that the kit brings.

    Raises
    ------
    OutOfRange
        If the float's travel leaves nothing over the ripple, or is more than the water is deep.
    """
    unit = chosen.kit.tank
    litres = job.want.trough.si * 1000.0 + (unit.capacity_l if unit is not None else 0.0)
    if litres <= 0.0:
        return None
    if not job.store.float_switch:
        return without_switch(litres)
    depth = unit.depth_m if unit is not None and job.want.trough.si == 0.0 else job.store.depth.si
    travel = effective_travel_m(job.store.travel.si, job.store.ripple.si)
    if travel <= 0.0:
        raise OutOfRange(
            later("Float's travel"),
            Quantity(job.store.travel.si, "length"),
            later("more than the ripple under it, {ripple:length}", ripple=job.store.ripple.si),
        )
    if job.store.travel.si > depth:
        raise OutOfRange(
            later("Float's travel"),
            Quantity(job.store.travel.si, "length"),
            later("at most the water's depth in the tank, {depth:head}", depth=depth),
        )
    return Tank(litres, litres * (1.0 - travel / depth), litres)


def demand_in(a: Assessment) -> Demand:
    """What is drawn through the day: each row over its own hours, a herd's burst within its first hour. No headroom."""
    job, wanted = a.job, a.wanted_l
    if job.need_by == "litres" or not a.need_parts:
        return demand_of([(wanted, *TYPED_HOURS)])
    sums = [sum(part.litres[month] for part in a.need_parts) for month in range(12)]
    scale = [want / total if total > 0.0 else 0.0 for want, total in zip(wanted, sums, strict=True)]
    herd = {row.id for row in job.herd}
    parts: list[tuple[tuple[float, ...], float, float]] = []
    for part in a.need_parts:
        litres = tuple(value * factor for value, factor in zip(part.litres, scale, strict=True))
        share = job.want.burst.si if part.id in herd else 0.0
        span = (part.to_hour - part.from_hour) % 24.0 or 24.0
        if share > 0.0 and span > 1.0:
            first, rest = (tuple(value * s for value in litres) for s in (share, 1.0 - share))
            parts += [(first, part.from_hour, part.from_hour + 1.0), (rest, part.from_hour + 1.0, part.to_hour)]
        else:
            parts.append((litres, part.from_hour, part.to_hour))
    lost = tuple(want if total <= 0.0 else 0.0 for want, total in zip(wanted, sums, strict=True))
    return demand_of([*parts, (lost, *TYPED_HOURS)])


def well_gives(job: Job) -> float | None:
    """What a well recovers, where it is known. [L/s]"""
    return job.well.gives.si * 1000.0 if job.water == "well" and job.well.gives is not None else None


def bank_in(a: Assessment) -> BankState:
    """The battery of a job: its age, the coldest month's air, its timer."""
    job = a.job
    coldest = min((m.t_min_c + m.t_max_c) / 2.0 for m in climate_of(job, a.parts).months)
    starts = tuple(
        TimerStart(row.at.si, row.minutes.si / 60.0, tuple(bool(getattr(row, day)) for day in DAY_NAMES))
        for row in job.bank.timer
    )
    return BankState(job.bank.age.si, coldest, starts)


def digest_of(job: Job, weather: str = "") -> str:
    """A mark of all that a run of the years hangs on; `weather` marks the file, where one is used."""
    option = [job.option] if job.option is not None else []
    key = physics_key(job.model_copy(update={"options": option}))
    return sha256((key + weather).encode()).hexdigest()[:32]


class BadDay(Doc):
    """A day on which something was wanted and not there: year and day from 0, and litres."""

    year: int
    day: int
    short_l: float


class YearsReport(Doc):
    """What a run of years brought, as it is kept.

    `days` has one letter for each day of each year: e enough, t tight, s short, - nothing wanted.
    `states` are those with which each year began.
    """

    digest: str
    made_at: str
    told_by: str
    years: int
    seed: int
    short_in_a_hundred: float
    short_by_month: Annotated[list[float], Field(min_length=12, max_length=12)]
    worst_month: int
    dry_spell_days: int
    hours_a_year: float
    starts_a_day: float
    cycles_a_year: float
    litres_a_year: float
    spilled_a_year: float
    tank_l: float
    bank_ah: float
    energy_wh: list[float]
    energy_off: float
    days: list[str]
    bad: list[BadDay]
    states: list[list[float]]
    litres: list[list[float]]
    stored: list[list[float]]
    charge: list[list[float]]

    @property
    def weather(self) -> Spoken:
        """Which weather it was, in words."""
        return revived(self.told_by)

    @property
    def sentence_days(self) -> Message:
        """Short days in words."""
        if self.short_in_a_hundred == 0.0:
            return later("short on no day")
        if self.short_in_a_hundred < 1.0:
            return later("short on fewer than 1 day in a hundred")
        return later("short on {short_in_a_hundred:.0f} days in a hundred", short_in_a_hundred=self.short_in_a_hundred)


_BAD_KEPT = 40


def _made_words(years: int, seed: int) -> Message:
    if years == 1:
        return later("one made year, seed {seed}", seed=seed)
    return later("{years} made years, seed {seed}", years=years, seed=seed)


def lights_of(a: Assessment, measured: MeasuredYear | None) -> LazyYears:
    """Light of the job's years, worked out as each is run.

    Raises
    ------
    SquallError
        For years or a seed out of range.
    """
    job = a.job
    site, climate, mounting = site_of(job), climate_of(job, a.parts), mounting_of(job)
    if measured is not None:
        year = measured

        def read(number: int) -> YearLight:
            return measured_light(site, mounting, year)

        return LazyYears(1, read)
    clearness = made_clearness(site, climate, Draw(job.years.count, job.years.seed))
    return LazyYears(job.years.count, lambda number: made_light(site, climate, mounting, clearness[number]))


def run_of(
    a: Assessment, chosen: KitAssessment, measured: MeasuredYear | None = None,
    progress: Callable[[float], bool] | None = None, only: int | None = None, begin: list[float] | None = None,
) -> YearRun:  # fmt: skip
    """Run a job's kit through its years, or through one of them.

    Parameters
    ----------
    a, chosen : Assessment, KitAssessment
        The job and its kit.
    measured : MeasuredYear, optional
        A file's year; made weather without it.
    progress : callable, optional
        Called with the share done; answers False to stop.
    only : int, optional
        Just this year, begun with `begin`.
    """
    lights = lights_of(a, measured)
    if only is not None:
        if not 0 <= only < len(lights):
            raise OutOfRange("year", only + 1, later("1 to {lights}", lights=len(lights)))
        whole = lights
        lights = LazyYears(1, lambda _: whole[only])
    return run_years(
        chosen.setup, lights, demand_in(a), tank_in(a.job, chosen), bank_in(a), progress,
        None if begin is None else np.array(begin), well_gives(a.job),
    )  # fmt: skip


def report_of(
    a: Assessment, chosen: KitAssessment, measured: MeasuredYear | None, weather: str,
    progress: Callable[[float], bool] | None = None,
) -> YearsReport:  # fmt: skip
    """Run the years and keep what they brought.

    Raises
    ------
    SquallError
        If the kit won't do, something is out of range, or `progress` stopped it.
    """
    if chosen.refusal is not None:
        raise SquallError(later("This kit won't do: {refusal}.", refusal=chosen.refusal))
    run = run_of(a, chosen, measured, progress)
    letters = np.where(
        run.is_short, SHORT, np.where(run.is_tight, TIGHT, np.where(run.wanted_l > 0.0, ENOUGH, NOTHING))
    )
    days = ["".join(row) for row in letters.reshape(run.years, DAYS).tolist()]
    bad = np.nonzero(run.is_short)[0]
    worst = bad[np.argsort(-run.short_l[bad], kind="stable")][:_BAD_KEPT]
    kept_days = [
        BadDay(year=int(n) // DAYS, day=int(n) % DAYS, short_l=round(float(run.short_l[n]), 1))
        for n in sorted(worst.tolist())
    ]  # fmt: skip
    e = run.energy
    return YearsReport(
        digest=digest_of(a.job, weather),
        made_at=datetime.now(UTC).strftime("%Y-%m-%dT%H:%MZ"),
        told_by=kept(measured.told_by if measured is not None else _made_words(run.years, a.job.years.seed)),
        years=run.years,
        seed=a.job.years.seed,
        short_in_a_hundred=run.short_in_a_hundred,
        short_by_month=[float(value) for value in run.short_by_month],
        worst_month=run.worst_month,
        dry_spell_days=run.longest_dry_spell_days,
        hours_a_year=run.hours_a_year,
        starts_a_day=run.starts_a_day,
        cycles_a_year=run.cycles_a_year,
        litres_a_year=run.litres_a_year,
        spilled_a_year=float(run.spilled_l.sum()) / run.years,
        tank_l=run.tank_l,
        bank_ah=run.bank_ah,
        energy_wh=[e.array_wh, e.motor_wh, e.pump_cable_wh, e.array_cable_wh, e.controller_wh, e.battery_wh],
        energy_off=e.off,
        days=days,
        bad=kept_days,
        states=[[float(v) for v in row] for row in run.states.tolist()],
        litres=_rows(run.pumped_l, run.years),
        stored=_rows(run.ended_l, run.years) if run.tank_l > 0.0 else [],
        charge=_rows(run.charge_end_ah, run.years) if run.bank_ah > 0.0 else [],
    )


def _rows(values: Floats, years: int) -> list[list[float]]:
    return [[round(v, 1) for v in row] for row in values.reshape(years, DAYS).tolist()]
