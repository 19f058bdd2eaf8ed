"""Two faults at once, thought of when none by itself explains what was seen."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from squall.core.faults.causes import CAUSES, NONE, NOTHING_KNOWN, OTHER, Frequencies, Story, of_yard, prior
from squall.core.faults.chain import Chain
from squall.core.faults.checks import CHECKS
from squall.core.faults.readings import LOOK_WRONG, looks
from squall.core.faults.suspicion import Beliefs, Evidence, fit
from squall.core.faults.sweep import DRAWS, Lit, Swept, even_draws, sweep_two, to_start_from

Floats = NDArray[np.float64]

# From how much "none of these" on two faults are thought of; how many single ones are paired; how much rarer two are than one.
# Common practice, no source. [-]
FROM_OTHER, _PAIRED, _RARER = 0.10, 9, 0.05
# A piece that fits less well than this is left to a slip of meter or eye.
_LEFT_TO_A_SLIP = 0.5
# A pair is told only if it explains what was seen so much better than nothing in particular.
_WORTH = 3.0
_LEAST_TOLD = 0.2


@dataclass(frozen=True)
class Pair:
    """Two causes that explain together what neither does, and how likely they are among all pairs and "none of these". [-]"""

    first: str
    second: str
    share: float


def _fit_of_two(piece: Evidence, codes: tuple[str, str], swept: Swept, chain: Chain, healthy: Swept) -> Floats:
    """How well evidence fits both together: a look shows what either changes."""
    check = CHECKS[piece.check]
    if piece.answer is None:
        return fit(piece, codes[0], swept, chain, healthy)
    sound = looks(check, NONE, healthy, chain, healthy).mean(axis=0)
    each = [looks(check, code, swept, chain, healthy) for code in codes]
    both = each[0] * each[1] / np.maximum(sound, LOOK_WRONG / len(check.answers))
    both /= both.sum(axis=1, keepdims=True)
    return np.asarray(both[:, check.answers.index(piece.answer)] * len(check.answers))


def pairs_of(
    chain: Chain, story: Story, lit: Lit, evidence: Sequence[Evidence], beliefs: Beliefs, known: Frequencies = NOTHING_KNOWN
) -> tuple[Pair, ...]:  # fmt: skip
    """Pairs that explain what was seen where no cause alone does.

    Parameters
    ----------
    chain : Chain
        The kit.
    story : str
        What happened before.
    lit : Lit
        Light and air.
    evidence : Sequence[Evidence]
        What was seen.
    beliefs : Beliefs
        In single causes.
    known : Frequencies
        What the yard knows of its faults.

    Returns
    -------
    tuple of Pair
        The likeliest three; empty while "none of these" is unlikely, or where no pair explains it either.
    """
    given = [piece for piece in evidence if not piece.skipped]
    healthy = beliefs.swept[NONE]
    if len(given) < 2 or not _unexplained(given, beliefs, chain, healthy):
        return ()
    likely = _candidates(given, beliefs, chain, healthy)
    draws = even_draws(DRAWS // 2)
    start = to_start_from(chain, lit, draws)
    found: dict[tuple[str, str], float] = {}
    for codes in combinations(likely, 2):
        if CAUSES[codes[0]].change == CAUSES[codes[1]].change:
            continue
        swept = sweep_two(chain, start, (CAUSES[codes[0]], CAUSES[codes[1]]), draws)
        counts = swept.weight.copy()
        for piece in given:
            counts = counts * _fit_of_two(piece, codes, swept, chain, healthy)
        weight = 1.0
        for code in codes:
            weight *= prior(CAUSES[code], chain, story, lit.air_c) * of_yard(CAUSES[code], known)
        found[codes] = float(counts.sum()) * weight * _RARER
    return _told({codes: grown for codes, grown in found.items() if grown > _WORTH * _RARER})


def _unexplained(given: Sequence[Evidence], beliefs: Beliefs, chain: Chain, healthy: Swept) -> bool:
    """Whether "none of these" is likely, or the likeliest cause leaves something that was seen to a slip."""
    if beliefs.shares[OTHER] >= FROM_OTHER:
        return True
    code = max(beliefs.swept, key=lambda one: beliefs.shares[one])
    swept, weight = beliefs.swept[code], beliefs.weight[code]
    return any(float(weight @ fit(piece, code, swept, chain, healthy)) < _LEFT_TO_A_SLIP for piece in given)


def _told(found: Mapping[tuple[str, str], float]) -> tuple[Pair, ...]:
    whole = sum(found.values()) + _RARER
    best = sorted(found.items(), key=lambda item: -item[1])[:3]
    told = (Pair(first, second, grown / whole) for (first, second), grown in best)
    return tuple(pair for pair in told if pair.share >= _LEAST_TOLD)


def _candidates(given: Sequence[Evidence], beliefs: Beliefs, chain: Chain, healthy: Swept) -> list[str]:
    """Causes that explain some piece of it best: what each piece by itself points to."""
    scores: dict[str, float] = {}
    for piece in given:
        by_code = {
            code: float((swept.weight * fit(piece, code, swept, chain, healthy)).mean())
            for code, swept in beliefs.swept.items()
            if code != NONE and CAUSES[code].weight == 1.0
        }
        most = max(by_code.values())
        for code, score in by_code.items():
            scores[code] = scores.get(code, 0.0) + (score / most if most > 0.0 else 0.0)
    return sorted(scores, key=lambda code: -scores[code])[:_PAIRED]
