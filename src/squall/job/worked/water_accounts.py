"""The pond and the roof of a job, worked out: what they hold, what comes and goes, how long they last."""

from dataclasses import dataclass
from datetime import date, timedelta

from squall.core.sources.ponds import Account, Outlook, Pond, outlook
from squall.core.sources.roofs import RainYear, Roof, overflow_bore, overflow_capacity, rain_year, storm_inflow
from squall.job.worked.assess import Assessment
from squall.job.worked.place import climate_of
from squall.job.worked.seasons import kept_pond


@dataclass(frozen=True)
class PondView:
    """A pond worked out from a day and a depth; `problem` says what is missing."""

    pond: Pond
    account: Account
    start: date
    depth_m: float
    inflow_off_m3_d: float
    outlook: Outlook
    depths_m: tuple[float, ...]
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
    kept = kept_pond(a.job, a.parts, a.wanted_l, closed_circuit=a.layout.closed_circuit)
    ahead = outlook(kept.pond, kept.account, kept.start, kept.depth_m, a.job.pond.intake.si, kept.inflow_off_m3_d)
    return PondView(
        kept.pond, kept.account, kept.start, kept.depth_m, kept.inflow_off_m3_d, ahead, kept.depths_m, kept.problem
    )


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
