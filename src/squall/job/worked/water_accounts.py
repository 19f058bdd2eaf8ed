"""The pond and the roof of a job, worked out: what they hold, what comes and goes, how long they last."""

from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta

from squall.core.errors import OutOfRange, SquallError
from squall.core.sources.ponds import (
    OPEN_WATER_FACTOR,
    Account,
    Outlook,
    Pond,
    a_day,
    depths_through,
    inflow_from_readings,
    outlook,
    pond_of,
)
from squall.core.sources.roofs import RainYear, Roof, overflow_bore, overflow_capacity, rain_year, storm_inflow
from squall.job.worked.assess import Assessment
from squall.job.worked.needs import et0_of
from squall.job.worked.place import climate_of
from squall.words import later

# Where the inflow was typed, how far it may be off: a guess.
TYPED_INFLOW_OFF = 0.25
SHOWN_DAYS = 365


@dataclass(frozen=True)
class PondView:
    """A pond worked out from a day and a depth; `problem` says what is missing."""

    pond: Pond
    account: Account
    start: date
    depth_m: float
    inflow_off_m3_d: float
    outlook: Outlook
    depths_m: list[float]
    problem: str = ""


@dataclass(frozen=True)
class RoofView:
    """A roof and its tanks worked out."""

    roof: Roof
    tank_m3: float
    year: RainYear
    storm_m3_s: float
    passes_m3_s: float
    needed_bore_m: float

    @property
    def overflow_is_enough(self) -> bool:
        """Whether the overflow passes what the storm brings."""
        return self.passes_m3_s >= self.storm_m3_s


def pond_view(a: Assessment) -> PondView:
    """The pond of a job: its account from today's depth (or the last reading's).

    Raises
    ------
    OutOfRange
        If a reading lies above the full depth, or the days contradict one another.
    """
    doc = a.job.pond
    pond = pond_of(doc.shape, doc.depth_full.si, doc.area_full.si)
    climate = climate_of(a.job, a.parts)
    evaporation = tuple(mm * OPEN_WATER_FACTOR / 1000.0 for mm in et0_of(a.job, a.parts))
    rain = a_day([month.rain_mm / 1000.0 for month in climate.months])
    taken = 0.0 if a.layout.closed_circuit else 1.0  # a closed circuit gives back what it takes
    drawn = tuple(taken * litres / 1000.0 + doc.draw.si for litres in a.wanted_l)
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
    depths = depths_through(pond, account, start, depth, SHOWN_DAYS)
    ahead = outlook(pond, account, start, depth, doc.intake.si, off)
    return PondView(pond, account, start, depth, off, ahead, depths, problem)


def day_of(view: PondView, days: int) -> date:
    """The day some days after the pond's start."""
    return view.start + timedelta(days=days)


def roof_view(a: Assessment) -> RoofView:
    """The roof of a job: a year of the climate's rain, the tanks, and the overflow."""
    doc = a.job.roof
    roof = Roof(doc.roof.si, doc.runoff.si, doc.first_flush.si)
    tank = doc.barrels * doc.barrel.si
    months = climate_of(a.job, a.parts).months
    year = rain_year(
        roof, tank, [m.rain_mm / 1000.0 for m in months], [m.wet_days for m in months],
        [litres / 1000.0 for litres in a.wanted_l],
    )  # fmt: skip
    storm = storm_inflow(roof, doc.storm.si)
    passes = overflow_capacity(doc.overflow.si, doc.overflow_head.si)
    return RoofView(roof, tank, year, storm, passes, overflow_bore(storm, doc.overflow_head.si))
