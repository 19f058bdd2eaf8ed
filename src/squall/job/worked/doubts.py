"""The job's litres with their doubt: the range in the worst month, and the measurement that would narrow it most."""

from dataclasses import dataclass
from functools import lru_cache

from squall.catalogue import Catalogue, catalogue
from squall.core.advice.doubt import MOST_SPREAD, Case, LitreRange, litre_range, scaled, spreads_of
from squall.core.kit.changes import pump_stronger, run_longer, water_lower
from squall.core.years.many_days import days_of
from squall.core.years.nodes import means_of
from squall.core.years.outlook import outlook_of
from squall.core.years.typical import sum_of_year
from squall.job.document.job import Job
from squall.job.worked.assess import KEPT, Assessment, assess_key, physics_key
from squall.job.worked.kit import KitAssessment
from squall.job.worked.place import climate_of, light_doubt


@dataclass(frozen=True)
class Doubt:
    """The range of one month's litres, and the short days in a hundred with every doubt at its bad end. [L], [-]"""

    month: int
    need_l: float
    litres: LitreRange
    short_at_worst: float
    allowed: float

    @property
    def decides(self) -> bool:
        """Whether the need lies within the range, so that a measurement may turn the verdict."""
        return self.litres.low < self.need_l <= self.litres.high

    @property
    def runs_short(self) -> bool:
        """Whether more days than are allowed run short with every doubt at its bad end."""
        return self.short_at_worst > self.allowed


def doubt_of(a: Assessment, chosen: KitAssessment) -> Doubt:
    """Work the range of the chosen kit's worst month out.

    Parameters
    ----------
    a : Assessment
        The job worked out.
    chosen : KitAssessment
        Its kit.

    Returns
    -------
    Doubt
        Each doubtful input is moved to both its ends in turn.
    """
    month = chosen.worst_month
    case = Case(chosen.setup, a.lit)

    def litres_of(varied: Case) -> float:
        return float(sum_of_year(varied.setup, varied.light, chosen.use).average_litres[month])

    job = a.job
    light = light_doubt(job, climate_of(job, a.parts), month)
    spreads = spreads_of(case, a.heights.off_m, job.doubt.lengths.si, a.pump_band, light.more, light.less)
    bad = Case(chosen.setup, scaled(a.lit, 1.0 - min(light.less, MOST_SPREAD)))
    for change in (
        water_lower(a.heights.off_m),
        run_longer(1.0 + job.doubt.lengths.si),
        pump_stronger(1.0 - min(a.pump_band, MOST_SPREAD)),
    ):
        bad = bad.changed(change)
    days = days_of(bad.light)
    worst = outlook_of(bad.setup, days, means_of(bad.setup, days, bad.light.post, chosen.use), chosen.use)
    found = litre_range(chosen.worst_litres, spreads, litres_of)
    return Doubt(month, chosen.need_l[month], found, worst.short_in_a_hundred, chosen.use.allowed)


@lru_cache(maxsize=KEPT)
def _remembered(key: str, held: Catalogue) -> Doubt | None:
    a = assess_key(key, held).judged
    if a.chosen is None or a.chosen.refusal is not None:
        return None
    return doubt_of(a, a.chosen)


def doubt_in(job: Job) -> Doubt | None:
    """The doubt of a job's chosen kit, worked out once for each state; None without a kit that works."""
    return _remembered(physics_key(job), catalogue())


def spreads_in(a: Assessment) -> tuple[float, float, float, float]:
    """Doubt of lift [m], and of lengths, pump and light (how much dimmer, over the year) as shares."""
    doubt, light = a.job.doubt, light_doubt(a.job, climate_of(a.job, a.parts))
    return a.heights.off_m, doubt.lengths.si, doubt.pump.si, light.less
