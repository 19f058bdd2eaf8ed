"""Which pump end for this job: centrifugal, helical, diaphragm or piston, with the reasons and the schools.

The bounds are rules of thumb: common practice, no source.
"""

from dataclasses import dataclass
from math import inf
from typing import Literal

from squall.core.errors import require
from squall.core.reason import Reason

Fit = Literal["good", "possible", "poor"]
FIT_WORDS: dict[Fit, Reason] = {"good": Reason("suits"), "possible": Reason("could-do"), "poor": Reason("poor-choice")}
LOW_HEAD_M, HIGH_HEAD_M = 30.0, 60.0
HELICAL_LEAST_L_MIN, HELICAL_MOST_L_MIN = 5.0, 30.0
SLOW_MOST_L_MIN = 12.0
LONG_HOURS = 4.0
SCHOOLS = (
    Reason("one-school-fits-only-centrifugal-helical"),
    Reason("another-takes-diaphragm-piston-ends-too"),
)


@dataclass(frozen=True)
class EndAdvice:
    """How one end suits. `fit` is ``good``, ``possible`` or ``poor``; reasons in plain words."""

    end: str
    fit: Fit
    reasons: tuple[Reason, ...]


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
    require("head", head_m, 0.0, inf, "length")
    l_min = flow_m3_s * 60_000.0
    found = [
        _centrifugal(head_m, l_min, gritty or dirty),
        _helical(head_m, l_min, gritty),
        _diaphragm(head_m, l_min, gritty or dirty, hours_a_day, mended),
        _piston(head_m, l_min, gritty, mended),
    ]
    order: dict[Fit, int] = {"good": 0, "possible": 1, "poor": 2}
    return sorted(found, key=lambda advice: order[advice.fit])


def _graded(end: str, good: list[Reason], bad: list[Reason], worst: list[Reason]) -> EndAdvice:
    fit: Fit = "poor" if worst else "possible" if bad else "good"
    return EndAdvice(end, fit, (*worst, *bad, *good))


def _centrifugal(head_m: float, l_min: float, solids: bool) -> EndAdvice:
    good = [Reason("no-rubbing-parts-so-solids-do")] if solids else [Reason("few-parts-lots-water-price")]
    bad = [Reason("above-where-home-needs-more-watts", head=head_m, low=LOW_HEAD_M)] * (
        LOW_HEAD_M < head_m <= HIGH_HEAD_M
    )
    worst = [Reason("asks-many-stages-watts", head=head_m)] * (head_m > HIGH_HEAD_M)
    if head_m > 15.0 and l_min < HELICAL_LEAST_L_MIN:
        bad = [*bad, Reason("so-little-water-so-high-weak")]
    return _graded("centrifugal", good, bad, worst)


def _helical(head_m: float, l_min: float, gritty: bool) -> EndAdvice:
    good = [Reason("most-water-watts", head=head_m)] if head_m >= 15.0 else []
    bad = []
    if head_m < 15.0:
        bad.append(Reason("dear-so-low-lift"))
    if not HELICAL_LEAST_L_MIN <= l_min <= HELICAL_MOST_L_MIN:
        bad.append(Reason("small-ones-give-about-min", most=HELICAL_MOST_L_MIN / 60_000.0))
    worst = [Reason("grit-cuts-stator")] * gritty
    return _graded("helical", [*good, Reason("never-let-run-dry-stator-melts")], bad, worst)


def _diaphragm(head_m: float, l_min: float, solids: bool, hours: float, mended: bool) -> EndAdvice:
    good = [Reason("cheap-draws-own-prime")]
    bad = [] if mended else [Reason("nobody-near-renew-valves-membrane")]
    if solids:
        bad.append(Reason("grit-rubbish-hold-valves-open-screen"))
    if hours > LONG_HOURS:
        bad.append(Reason("hours-day-wear-out-brushes-membrane", hours=hours))
    worst = []
    if l_min > SLOW_MOST_L_MIN:
        worst.append(Reason("more-than-min-beyond-small-ones", most=SLOW_MOST_L_MIN / 60_000.0))
    if head_m > HIGH_HEAD_M:
        worst.append(Reason("too-high-small-one"))
    return _graded("diaphragm", good, bad, worst)


def _piston(head_m: float, l_min: float, gritty: bool, mended: bool) -> EndAdvice:
    good = [Reason("can-mended-here-washers-spanner")] if mended else []
    if head_m >= LOW_HEAD_M:
        good.insert(0, Reason("lifts-little-water-few-watts", head=head_m))
    bad = [] if mended else [Reason("nobody-near-renew-washers")]
    if gritty:
        bad.append(Reason("grit-scores-cylinder"))
    if head_m < LOW_HEAD_M:
        bad.append(Reason("slow-heavy-so-low-lift"))
    worst = [Reason("more-than-min-beyond-small-ones", most=SLOW_MOST_L_MIN / 60_000.0)] * (l_min > SLOW_MOST_L_MIN)
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

    Examples
    --------
    >>> life_of(800.0, 1600.0, 30.0).months
    6.0
    """
    require("life", life_h, 1.0, 1e6, "hours")
    if hours_a_year <= 0.0:
        return Life(0.0, None, None)
    return Life(hours_a_year, 12.0 * life_h / hours_a_year, price * hours_a_year / life_h)
