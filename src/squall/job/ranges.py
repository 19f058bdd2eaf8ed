"""The job's litres with their doubt: the range in the worst month, and the measurement that would narrow it most."""

from dataclasses import dataclass
from functools import lru_cache

from squall.core.climate import MONTHS
from squall.core.doubt import REMEDIES, Case, ChoiceRange, Effect, LitreRange, litre_range, spreads_of
from squall.core.season import sum_of_year
from squall.job.assess import Assessment, KitAssessment, assess
from squall.job.document import Job
from squall.units import System, text


@dataclass(frozen=True)
class Doubt:
    """The range of one month's litres, and whether the verdict hangs on it."""

    month: int
    need_l: float
    litres: LitreRange

    @property
    def decides(self) -> bool:
        """Whether the need lies within the range, so that a measurement may turn the verdict."""
        return self.litres.low < self.need_l <= self.litres.high


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
    case = Case(chosen.kit, chosen.layout, a.light)

    def litres_of(varied: Case) -> float:
        return float(sum_of_year(varied.kit, varied.layout, chosen.cabling, varied.light).average_litres[month])

    job = a.job
    spreads = spreads_of(case, a.heights.off_m, job.doubt.lengths.si, a.pump_band, job.doubt.light.si)
    return Doubt(month, chosen.need_l[month], litre_range(chosen.worst_litres, spreads, litres_of))


@lru_cache(maxsize=128)
def _remembered(core_of_job: str) -> Doubt | None:
    a = assess(Job.model_validate_json(core_of_job))
    if a.chosen is None or a.chosen.refusal is not None:
        return None
    return doubt_of(a, a.chosen)


def doubt_in(job: Job) -> Doubt | None:
    """The doubt of a job's chosen kit, worked out once for each state; None without a kit that works."""
    return _remembered(job.model_dump_json())


def range_words(doubt: Doubt, units: System) -> str:
    """The range in one sentence, with what would narrow it most."""
    low, high = (text(litres / 1000.0, "litres", units) for litres in (doubt.litres.low, doubt.litres.high))
    said = f"With what is known it may be {low} to {high} on an average {MONTHS[doubt.month]} day"
    worst = doubt.litres.worst
    if worst is None:
        return said + "."
    hangs = "; the verdict hangs on it" if doubt.decides else ""
    best = doubt.litres.to_measure
    measure = f" The measurement that would narrow it most: {best.spread.remedy}." if best is not None else ""
    return f"{said}{hangs}. Most of that comes from {worst.spread.name}.{measure}"


def amount_words(effect: Effect, units: System) -> str:
    """How far one input may be off."""
    spread = effect.spread
    return "\u00b1 " + text(spread.amount, "head" if spread.key == "lift" else "share", units)


def spreads_in(a: Assessment) -> tuple[float, float, float, float]:
    """Doubt of lift [m], and of lengths, pump and light as shares."""
    doubt = a.job.doubt
    return a.heights.off_m, doubt.lengths.si, doubt.pump.si, doubt.light.si


def choice_words(choice: ChoiceRange, a: Assessment, units: System) -> str:
    """Whether the kit hangs on a doubtful measurement, in a sentence or two."""
    best = choice.picks[0].best
    if best is None:
        return "No kit of this catalogue holds, so there is no choice to doubt."
    said = ""
    lifts = sorted(pick.lift_m for pick in choice.picks[:-1])
    if len(lifts) > 1:
        low, high = text(lifts[0], "head", units), text(lifts[-1], "head", units)
        if choice.same_at_any_lift:
            said = f"Any level that makes the lift between {low} and {high} gives the same kit: no need to measure it better."
        else:
            said = f"Between a lift of {low} and of {high} the cheapest kit changes: {REMEDIES['lift']} before you buy."
    if choice.same_at_worst:
        said += " Even with every doubt at its bad end it is the same kit."
    else:
        said += " With every doubt at its bad end another kit is wanted: the table says which."
    if choice.holds_to_m is not None:
        said += f" It holds up to a lift of {text(choice.holds_to_m, 'head', units)}."
    return said.strip()
