"""Which pump end for this job: centrifugal, helical, diaphragm or piston, with the reasons and the schools.

The bounds are rules of thumb: common practice, no source.
"""

from dataclasses import dataclass
from math import inf
from typing import Literal

from squall.core.errors import require

Fit = Literal["good", "possible", "poor"]
FIT_WORDS: dict[Fit, str] = {"good": "suits", "possible": "could do", "poor": "poor choice"}
LOW_HEAD_M, HIGH_HEAD_M = 30.0, 60.0
HELICAL_LEAST_L_MIN, HELICAL_MOST_L_MIN = 5.0, 30.0
SLOW_MOST_L_MIN = 12.0
LONG_HOURS = 4.0
SCHOOLS = (
    "One school fits only centrifugal and helical ends: few parts, nothing to service on site.",
    "Another takes diaphragm and piston ends too: cheap to buy, and a hand with a spanner can mend them.",
)


@dataclass(frozen=True)
class EndAdvice:
    """How one end suits. `fit` is ``good``, ``possible`` or ``poor``; reasons in plain words."""

    end: str
    fit: Fit
    reasons: tuple[str, ...]


def advise_ends(
    head_m: float, flow_m3_s: float, gritty: bool, dirty: bool, hours_a_day: float, mended: bool = False
) -> list[EndAdvice]:
    """How each pump end suits a job, best first.

    Parameters
    ----------
    head_m : float
        Total head. [m]
    flow_m3_s : float
        Wanted while it runs. [m3/s]
    gritty : bool
        Sand or red clay in the water.
    dirty : bool
        Weed, leaves or silt.
    hours_a_day : float
        Of running. [h]
    mended : bool
        Whether a hand with a spanner is near.

    Returns
    -------
    list[EndAdvice]
        All four.
    """
    require("head", head_m, 0.0, inf, "m")
    l_min = flow_m3_s * 60_000.0
    found = [
        _centrifugal(head_m, l_min, gritty or dirty),
        _helical(head_m, l_min, gritty),
        _diaphragm(head_m, l_min, gritty or dirty, hours_a_day, mended),
        _piston(head_m, l_min, gritty, mended),
    ]
    order: dict[Fit, int] = {"good": 0, "possible": 1, "poor": 2}
    return sorted(found, key=lambda advice: order[advice.fit])


def _graded(end: str, good: list[str], bad: list[str], worst: list[str]) -> EndAdvice:
    fit: Fit = "poor" if worst else "possible" if bad else "good"
    return EndAdvice(end, fit, (*worst, *bad, *good))


def _centrifugal(head_m: float, l_min: float, solids: bool) -> EndAdvice:
    good = ["no rubbing parts, so solids do little harm"] if solids else ["few parts, lots of water for its price"]
    bad = [f"{head_m:.0f} m is above the {LOW_HEAD_M:.0f} m where it is at home: it needs more watts"] * (
        LOW_HEAD_M < head_m <= HIGH_HEAD_M
    )
    worst = [f"{head_m:.0f} m asks many stages and watts"] * (head_m > HIGH_HEAD_M)
    if head_m > 15.0 and l_min < HELICAL_LEAST_L_MIN:
        bad = [*bad, "so little water so high is its weak spot"]
    return _graded("centrifugal", good, bad, worst)


def _helical(head_m: float, l_min: float, gritty: bool) -> EndAdvice:
    good = [f"most water for its watts at {head_m:.0f} m"] if head_m >= 15.0 else []
    bad = []
    if head_m < 15.0:
        bad.append("dear for so low a lift")
    if not HELICAL_LEAST_L_MIN <= l_min <= HELICAL_MOST_L_MIN:
        bad.append(f"small ones give about 7 to {HELICAL_MOST_L_MIN:.0f} L/min")
    worst = ["grit cuts its stator"] * gritty
    return _graded("helical", [*good, "never let it run dry: the stator melts"], bad, worst)


def _diaphragm(head_m: float, l_min: float, solids: bool, hours: float, mended: bool) -> EndAdvice:
    good = ["cheap, draws its own prime"]
    bad = [] if mended else ["nobody near to renew its valves and membrane"]
    if solids:
        bad.append("grit and rubbish hold its valves open: screen the intake")
    if hours > LONG_HOURS:
        bad.append(f"{hours:.0f} hours a day wear out its brushes and membrane soon")
    worst = []
    if l_min > SLOW_MOST_L_MIN:
        worst.append(f"more than {SLOW_MOST_L_MIN:.0f} L/min is beyond small ones")
    if head_m > HIGH_HEAD_M:
        worst.append("too high for a small one")
    return _graded("diaphragm", good, bad, worst)


def _piston(head_m: float, l_min: float, gritty: bool, mended: bool) -> EndAdvice:
    good = ["can be mended here with washers and a spanner"] if mended else []
    if head_m >= LOW_HEAD_M:
        good.insert(0, f"lifts a little water {head_m:.0f} m for few watts")
    bad = [] if mended else ["nobody near to renew its washers"]
    if gritty:
        bad.append("grit scores its cylinder")
    if head_m < LOW_HEAD_M:
        bad.append("slow and heavy for so low a lift")
    worst = [f"more than {SLOW_MOST_L_MIN:.0f} L/min is beyond small ones"] * (l_min > SLOW_MOST_L_MIN)
    return _graded("piston", good, bad, worst)


@dataclass(frozen=True)
class Life:
    """How long a pump lasts at this job's hours. Hours a year [h], months [-], money a year [catalogue's money]"""

    hours_a_year: float
    months: float | None
    cost_a_year: float | None


def life_of(life_h: float, hours_a_year: float, price: float) -> Life:
    """Months until a pump is worn, and what replacing it costs a year.

    Parameters
    ----------
    life_h : float
        Hours until worn, above 0. [h]
    hours_a_year : float
        That this job runs it. [h]
    price : float
        Of one pump. [catalogue's money]

    Returns
    -------
    Life
        None for both where it never runs.
    """
    require("life", life_h, 1.0, 1e6, "h")
    if hours_a_year <= 0.0:
        return Life(0.0, None, None)
    return Life(hours_a_year, 12.0 * life_h / hours_a_year, price * hours_a_year / life_h)
