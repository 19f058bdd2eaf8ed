"""How the seasons take water away: a pond's account from its last reading, whose level the lift counts on; a line that is frozen shut."""

from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta

from squall.catalogue import Catalogue
from squall.core.errors import OutOfRange, SquallError
from squall.core.hydraulics.pressures import sag_after
from squall.core.kit.layout import Falls, Layout
from squall.core.sky.frost import frozen_months, soil_least_c
from squall.core.sources.ponds import (
    OPEN_WATER_FACTOR,
    Account,
    Pond,
    a_day,
    depths_through,
    inflow_from_readings,
    pond_of,
)
from squall.job.document.job import Job
from squall.job.worked.heights import season_of
from squall.job.worked.needs import et0_of
from squall.job.worked.place import climate_of
from squall.words import later

# Where the inflow was typed, how far it may be off: a guess.
TYPED_INFLOW_OFF = 0.25
SHOWN_DAYS = 365


@dataclass(frozen=True)
class Kept:
    """A pond as it is known: its shape, what comes and goes, the day and depth it is reckoned from, and what is missing.

    `depth_m` [m]; `inflow_off_m3_d` how far the inflow may be off [m3/d].
    """

    pond: Pond
    account: Account
    start: date
    depth_m: float
    inflow_off_m3_d: float
    problem: str = ""

    @property
    def depths_m(self) -> tuple[float, ...]:
        """At the end of each day of the year to come. [m]"""
        return depths_through(self.pond, self.account, self.start, self.depth_m, SHOWN_DAYS)


def kept_pond(job: Job, parts: Catalogue, wanted_l: tuple[float, ...], *, closed_circuit: bool) -> Kept:
    """The pond's account from the last reading's day and depth; without readings, full today.

    Raises
    ------
    OutOfRange
        If a reading lies above the full depth, or the days contradict one another.
    """
    doc = job.pond
    pond = pond_of(doc.shape, doc.depth_full.si, doc.area_full.si)
    climate = climate_of(job, parts)
    under_ice = frozen_months(climate)
    evaporation = tuple(
        0.0 if month in under_ice else mm * OPEN_WATER_FACTOR / 1000.0 for month, mm in enumerate(et0_of(job, parts))
    )
    rain = a_day([month.rain_mm / 1000.0 for month in climate.months])
    taken = 0.0 if closed_circuit else 1.0  # a closed circuit gives back what it takes
    drawn = tuple(taken * litres / 1000.0 + doc.draw.si for litres in wanted_l)
    account = Account(doc.inflow.si, drawn, evaporation, rain, doc.seepage.si)
    readings = sorted((date.fromisoformat(r.on), r.depth.si) for r in doc.readings)
    for _, depth in readings:
        if depth > pond.full_depth_m:
            raise OutOfRange(
                later("depth read in the pond"),
                f"{depth:g} m",
                later("up to its full depth, {full_depth:head}", full_depth=pond.full_depth_m),
            )
    start, depth = readings[-1] if readings else (datetime.now(UTC).date(), pond.full_depth_m)
    problem, off = "", TYPED_INFLOW_OFF * account.inflow_m3_d
    if doc.inflow_by == "readings":
        try:
            if len(readings) < 2:
                raise OutOfRange(later("readings of the pond"), len(readings), later("two, on different days"))
            inflow, off = inflow_from_readings(pond, account, readings[0], readings[-1])
            account = Account(inflow, drawn, evaporation, rain, doc.seepage.si)
        except SquallError as error:
            problem = str(error)
    return Kept(pond, account, start, depth, off, problem)


def falls_of(job: Job, parts: Catalogue, wanted_l: tuple[float, ...], layout: Layout) -> Falls | None:
    """How a source's level goes through the year, and the share of each month's days without water; None where nothing of it is known.

    Notes
    -----
    The lift is taken as surveyed at the last reading's level. A level that rises is not counted on. A month's fall is the
    mean of its days; its share of bare days those on which the intake isn't covered; all of them where the line is frozen.
    """
    if not job.placed:
        return None
    known = _pond_months(job, parts, wanted_l, layout) or _well_months(job, layout)
    months, bare = known or ((0.0,) * 12, (0.0,) * 12)
    frozen = frozen_shut(job, parts, layout)
    bare = tuple(1.0 if month in frozen else share for month, share in enumerate(bare))
    return Falls(months, bare) if max(months) > 0.0 or any(bare) else None


def _pond_months(
    job: Job, parts: Catalogue, wanted_l: tuple[float, ...], layout: Layout
) -> tuple[tuple[float, ...], tuple[float, ...]] | None:
    if job.water != "pond" or not job.pond.readings:
        return None
    try:
        kept = kept_pond(job, parts, wanted_l, closed_circuit=layout.closed_circuit)
    except SquallError:
        return None  # the Survey page says what is wrong with its readings
    if kept.problem:
        return None
    falls: list[list[float]] = [[] for _ in range(12)]
    bare: list[list[bool]] = [[] for _ in range(12)]
    for day, depth in enumerate(kept.depths_m[1:], start=1):
        month = (kept.start + timedelta(days=day)).month - 1
        falls[month].append(max(kept.depth_m - depth, 0.0))
        bare[month].append(depth <= job.pond.intake.si)
    return tuple(sum(rows) / len(rows) for rows in falls), tuple(sum(rows) / len(rows) for rows in bare)


def _well_months(job: Job, layout: Layout) -> tuple[tuple[float, ...], tuple[float, ...]] | None:
    """A well's level below the newest readings' by month, as its readings of the year have it; bare where it falls to the pump."""
    season = season_of(job)
    if season is None:
        return None
    falls = tuple(max(depth - season.now.level.depth_m, 0.0) for depth in season.months_m)
    hangs = layout.pump_below_m
    return falls, tuple(1.0 if hangs > 0.0 and fall >= hangs else 0.0 for fall in falls)


def frozen_shut(job: Job, parts: Catalogue, layout: Layout) -> frozenset[int]:
    """Months in which the line is frozen shut, January 0: it stands full, and neither drains nor lies below the frost.

    Notes
    -----
    Months whose mean day is below zero. A sleeve only puts the hour off. A run that falls all the way back to the pump and
    has no valve that holds it drains by itself; a closed circuit never does.
    """
    climate = climate_of(job, parts)
    if job.outdoors.lies == "buried" and soil_least_c(climate, job.outdoors.buried.si) >= 0.0:
        return frozenset()
    valves = any(piece.fittings.get("check") or piece.fittings.get("foot") for piece in job.run)
    ends = [piece.end_height_m for piece in layout.pieces if piece.end_height_m is not None and not piece.suction]
    if not layout.closed_circuit and not valves and sag_after(ends, -layout.pump_below_m) is None:
        return frozenset()
    return frozen_months(climate)
