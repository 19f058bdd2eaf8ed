"""A chart for paper: which check first, and where each of its answers leads, from the same beliefs as Fault's page.

Worked for a light that stays; each branch is followed by what stands for it, so that the chart says what the page would say.
"""

import heapq
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from math import inf

import numpy as np
from numpy.typing import NDArray

from squall.core.faults.causes import NONE, NOTHING_KNOWN, OTHER, Frequencies, Story
from squall.core.faults.chain import Chain
from squall.core.faults.checks import Check
from squall.core.faults.next_check import advise, likeliest
from squall.core.faults.readings import MEASURED, OPEN_FROM_OHM, OPEN_LOOP_OHM, looks, panel_volts
from squall.core.faults.suspicion import Beliefs, Evidence, believe
from squall.core.faults.sweep import Lit

Floats = NDArray[np.float64]

# Steps on one page, how deep it goes, and how rare a branch is left out. Common practice, no source.
MOST_STEPS, DEEPEST, LEAST_BRANCH = 24, 6, 0.03
# On paper it ends sooner than on the page: who stands there without a phone tries the remedy. [-]
SURE_ON_PAPER = 0.85
# A reading under this share of what it should be is as good as none. [-]
_NOTHING = 0.06


@dataclass(frozen=True)
class Branch:
    """One answer of a check, or one range of readings, and where it leads.

    Attributes
    ----------
    answer : str
        Of a look; of a reading ``nothing``, ``less``, ``as-it-should``, ``more``, ``open``; of panels ``one-dead``,
        ``one-reversed``, ``all-alike``.
    low, high : float or None
        Ends of the range of readings. [SI, of the check's kind]
    share : float
        How likely it comes to this. [-]
    step : int or None
        Number of the step that it leads to; None where it ends.
    cause : str
        What is likeliest then. [code]
    sure : float
        How likely. [-]
    """

    answer: str
    low: float | None
    high: float | None
    share: float
    step: int | None
    cause: str
    sure: float


@dataclass(frozen=True)
class Step:
    """A numbered step: the check, and its branches."""

    number: int
    check: Check
    branches: tuple[Branch, ...]


@dataclass(frozen=True)
class _Way:
    """A branch before it is followed: what stands for it."""

    answer: str
    low: float | None
    high: float | None
    share: float
    piece: Evidence


def _mixed(check: Check, chain: Chain, beliefs: Beliefs) -> tuple[Floats, Floats]:
    """Values that a check may show, and how much each counts."""
    values, counts = [], []
    for code, swept in beliefs.swept.items():
        if beliefs.shares[code] > 1e-4:
            values.append(MEASURED[check.code](swept, chain).value)
            counts.append(beliefs.weight[code] * beliefs.shares[code])
    return np.concatenate(values), np.concatenate(counts)


def _of_readings(check: Check, chain: Chain, beliefs: Beliefs) -> list[_Way]:
    """Nothing, less than it should be, as it should be, more; of ohms an open loop too."""
    values, counts = _mixed(check, chain, beliefs)
    healthy = MEASURED[check.code](beliefs.swept[NONE], chain)
    middle, spread = float(np.median(healthy.value)), float(np.median(healthy.sigma))
    low = float(np.quantile(healthy.value, 0.05)) - 2.0 * spread
    high = float(np.quantile(healthy.value, 0.95)) + 2.0 * spread
    nothing = max(_NOTHING * middle, 3.0 * spread) if low > _NOTHING * middle else None
    ways: list[_Way] = []

    def add(answer: str, least: float | None, most: float | None, chosen: NDArray[np.bool_]) -> None:
        share = float(counts[chosen].sum())
        if share <= 0.0:
            return
        between = (-inf if least is None else least, inf if most is None else most)
        ways.append(_Way(answer, least, most, share, Evidence(check.code, between=between)))

    opened = values >= OPEN_FROM_OHM if check.kind == "ohms" else np.zeros(len(values), dtype=bool)
    if nothing is not None and nothing < low:
        add("nothing", None, nothing, (values <= nothing) & ~opened)
        add("less", nothing, low, (values > nothing) & (values < low) & ~opened)
    else:
        add("less", None, low, (values < low) & ~opened)
    add("as-it-should", max(low, 0.0) if middle >= 0.0 else low, high, (values >= low) & (values <= high) & ~opened)
    add("more", high, None, (values > high) & ~opened)
    if opened.any():
        share = float(counts[opened].sum())
        ways.append(_Way("open", None, None, share, Evidence(check.code, OPEN_LOOP_OHM)))
    return ways


def _of_panels(check: Check, chain: Chain, beliefs: Beliefs) -> list[_Way]:
    """One dead, one the wrong way round, or all alike."""
    whole, _, _ = panel_volts(beliefs.swept[NONE], chain)
    volts = float(np.median(whole.value))
    lost, turned = (beliefs.shares.get(code, 0.0) for code in ("panel-lost", "panel-reversed"))
    others = (volts,) * (chain.panels - 1)
    return [
        _Way("one-dead", None, None, lost, Evidence(check.code, (0.0, *others))),
        _Way("one-reversed", None, None, turned, Evidence(check.code, (-volts, *others))),
        _Way("all-alike", None, None, 1.0 - lost - turned, Evidence(check.code, (volts, *others))),
    ]


def _of_looks(check: Check, chain: Chain, beliefs: Beliefs) -> list[_Way]:
    healthy = beliefs.swept[NONE]
    shares = np.zeros(len(check.answers))
    for code, swept in beliefs.swept.items():
        if beliefs.shares[code] > 1e-4:
            shares += beliefs.shares[code] * (beliefs.weight[code] @ looks(check, code, swept, chain, healthy))
    return [
        _Way(answer, None, None, float(share), Evidence(check.code, answer=answer))
        for answer, share in zip(check.answers, shares, strict=True)
    ]


def _ways(check: Check, chain: Chain, beliefs: Beliefs) -> list[_Way]:
    if check.a_panel:
        return _of_panels(check, chain, beliefs)
    return _of_looks(check, chain, beliefs) if check.kind is None else _of_readings(check, chain, beliefs)


# The page and its PDF ask for the same one.
@lru_cache(maxsize=16)
def chart_of(chain: Chain, story: Story, lit: Lit, known: Frequencies = NOTHING_KNOWN) -> tuple[Step, ...]:
    """The chart of a kit in some light.

    Parameters
    ----------
    chain : Chain
        The kit.
    story : str
        What happened before.
    lit : Lit
        The light that it is made for.
    known : Frequencies
        What this yard knows of its faults.

    Returns
    -------
    tuple of Step
        At most :data:`MOST_STEPS`, the first first; a step leads to later ones only.
    """
    # The likeliest branch is followed first, so that what the page has room for is what is met.
    waiting: list[tuple[float, int, tuple[Evidence, ...]]] = [(-1.0, 1, ())]
    steps: dict[int, Step] = {}
    last = 1
    while waiting:
        reached, number, seen = heapq.heappop(waiting)
        beliefs = believe(chain, story, lit, seen, known)
        check = advise(chain, beliefs, seen).checks[0].check
        branches = []
        for way in _ways(check, chain, beliefs):
            if way.share < LEAST_BRANCH:
                continue
            after = (*seen, way.piece)
            then = believe(chain, story, lit, after, known)
            cause, sure = likeliest(then)
            goes_on = last < MOST_STEPS and len(after) < DEEPEST and not _ends(chain, then, after)
            if goes_on:
                last += 1
                heapq.heappush(waiting, (reached * way.share, last, after))
            step = last if goes_on else None
            branches.append(Branch(way.answer, way.low, way.high, way.share, step, cause, sure))
        steps[number] = Step(number, check, tuple(branches))
    return _in_order(steps)


def _in_order(steps: Mapping[int, Step]) -> tuple[Step, ...]:
    """The same with numbers as they are come to, row by row."""
    order = [1]
    for number in order:
        order += [branch.step for branch in steps[number].branches if branch.step is not None]
    new = {number: place for place, number in enumerate(order, start=1)}
    return tuple(
        Step(
            new[number],
            steps[number].check,
            tuple(replace(b, step=None if b.step is None else new[b.step]) for b in steps[number].branches),
        )
        for number in order
    )


def _ends(chain: Chain, beliefs: Beliefs, seen: Sequence[Evidence]) -> bool:
    advice = advise(chain, beliefs, seen)
    return likeliest(beliefs)[1] >= SURE_ON_PAPER or not advice.checks or advice.cause == OTHER
