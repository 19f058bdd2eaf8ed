"""What to look at next: the check that tells most for its minutes and its risk.

What a check tells is the mutual information of its answer and the cause, in bits, by the rows that still count.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from squall.core.faults.causes import CAUSES, NONE, OTHER
from squall.core.faults.chain import Chain
from squall.core.faults.checks import CHECKS, Caution, Check, caution_of, checks_of, minutes_of
from squall.core.faults.readings import MEASURED, Reading, looks, panel_volts
from squall.core.faults.suspicion import Beliefs, Evidence

Floats = NDArray[np.float64]

# A remedy this likely is worth doing before another look; a check that tells less than this isn't worth the walk.
SURE, LEAST_BITS = 0.95, 0.02
# By less than its minutes a check is held back: found by playing on kits thrown by chance, see docs/method.md.
_COST_POWER = 0.45
# A walk to another place, and a check that opens or bridges something, count as so many minutes more. Common practice, no source.
_WALK_MIN = 2.0
_RISK_MIN: Mapping[Caution, float] = {
    "short-panels": 2.0, "unplug-ohms": 1.0, "amps-through-meter": 0.5, "live-panels": 0.3, "battery-short": 0.3, "shut-briefly": 1.0,
    "spanner-dead": 1.0, "hands-out-first": 0.5, "wet-hands": 0.3, "not-dry-long": 0.5,
}  # fmt: skip
# A reading is sorted into so many bins by what the rows expect.
_BINS = 14
# Rows of a cause that its bins are worked by.
_ROWS = 96
# Causes less likely than this are not asked about. [-]
_LEAST_SHARE = 1e-3


@dataclass(frozen=True)
class NextCheck:
    """A check and what it would tell: bits, minutes with the walk, and the two causes it parts best. [bit], [min]"""

    check: Check
    gain_bits: float
    minutes: float
    caution: Caution
    parts: tuple[str, str]


@dataclass(frozen=True)
class Advice:
    """What to look at, best first; whether enough is known, and the cause to act on."""

    checks: tuple[NextCheck, ...]
    done: bool
    cause: str


def _drawn(weight: Floats) -> NDArray[np.intp]:
    """So many rows as stand for all of a cause, each as often as it counts."""
    along = np.cumsum(weight)
    places = (np.arange(_ROWS) + 0.5) / _ROWS * along[-1]
    picked: NDArray[np.intp] = np.minimum(np.searchsorted(along, places), len(weight) - 1)
    return picked


Drawn = Mapping[str, NDArray[np.intp]]


def _binned(readings: Mapping[str, Reading], beliefs: Beliefs, drawn: Drawn) -> dict[str, Floats]:
    """How likely a reading falls into each bin, by cause; bins by where the rows of all causes lie."""
    from scipy.special import ndtr

    values = np.array([reading.value[drawn[code]] for code, reading in readings.items()])
    sigmas = np.array([reading.sigma[drawn[code]] for code, reading in readings.items()])
    together, counts = values.ravel(), np.repeat([beliefs.shares[code] for code in readings], _ROWS)
    order = np.argsort(together)
    along = np.cumsum(counts[order])
    picks = np.searchsorted(along, np.linspace(0.0, along[-1], _BINS + 1)[1:-1])
    middle = np.unique(together[order][np.minimum(picks, len(together) - 1)])
    # An edge on a value that many rows share (nil, open) would part them by noise: it goes half a doubt beside it.
    typical = float(np.median(sigmas))
    edges = np.unique(np.concatenate([middle - 1.5 * typical, middle + 1.5 * typical]))
    below = ndtr((edges[:, None] - values[:, None, :]) / (1.1 * sigmas[:, None, :])).mean(axis=2)
    shares = np.maximum(np.diff(below, prepend=0.0, append=1.0, axis=1), 0.0) * 0.99 + 0.01 / (len(edges) + 1)
    return dict(zip(readings, shares, strict=True))


def _answers(check: Check, chain: Chain, beliefs: Beliefs, drawn: Drawn) -> dict[str, Floats]:
    """How likely each answer (or bin of readings) is, by cause."""
    healthy = beliefs.swept[NONE]
    if check.kind is None:
        return {code: beliefs.weight[code] @ looks(check, code, beliefs.swept[code], chain, healthy) for code in drawn}
    if check.a_panel:
        return _panel_answers(chain, beliefs, list(drawn))
    return _binned({code: MEASURED[check.code](beliefs.swept[code], chain) for code in drawn}, beliefs, drawn)


def _panel_answers(chain: Chain, beliefs: Beliefs, codes: Sequence[str]) -> dict[str, Floats]:
    """Of a list of panels: whether one is reversed, dead, low, or all are alike; and how high the sound ones are."""
    table: dict[str, Floats] = {}
    for code in codes:
        swept, weight = beliefs.swept[code], beliefs.weight[code]
        whole, one, wrong = panel_volts(swept, chain)
        alike = np.abs(one.value - whole.value) < 3.0 * whole.sigma
        kinds = np.zeros(4)
        if not wrong:
            kinds[0] = 1.0
        else:
            kinds[1] = float((weight * (one.value < -1.0)).sum())
            kinds[2] = float((weight * (np.abs(one.value) <= 1.0)).sum())
            kinds[3] = float((weight * ((one.value > 1.0) & ~alike)).sum())
            kinds[0] = max(1.0 - kinds.sum(), 0.0)
        table[code] = kinds * 0.96 + 0.01
    return table


def _bits(shares: Floats) -> float:
    held = shares[shares > 0.0]
    return float(-(held * np.log2(held)).sum())


def _gain(table: Mapping[str, Floats], shares: Mapping[str, float]) -> float:
    """Mutual information of answer and cause. [bit]"""
    whole = sum(shares[code] for code in table)
    mixed = sum((shares[code] / whole * table[code] for code in table), start=np.zeros(len(next(iter(table.values())))))
    return max(whole * (_bits(mixed) - sum(shares[code] / whole * _bits(table[code]) for code in table)), 0.0)


def _parted(table: Mapping[str, Floats], shares: Mapping[str, float]) -> tuple[str, str]:
    """The two likely causes whose answers differ most."""
    likely = sorted(table, key=lambda code: -shares[code])[:8]
    best, pair = -1.0, (likely[0], likely[-1])
    for i, one in enumerate(likely):
        for other in likely[i + 1 :]:
            apart = float(np.abs(table[one] - table[other]).sum()) * min(shares[one], shares[other])
            if apart > best:
                best, pair = apart, (one, other)
    return pair


def advise(chain: Chain, beliefs: Beliefs, evidence: Sequence[Evidence]) -> Advice:
    """What to look at next, and whether there is need to.

    Parameters
    ----------
    chain : Chain
        The kit.
    beliefs : Beliefs
        As things stand.
    evidence : Sequence[Evidence]
        What was asked already, skipped or not: it isn't asked again.

    Returns
    -------
    Advice
        Checks best first; empty only when done.
    """
    asked = {piece.check for piece in evidence}
    here = CHECKS[evidence[-1].check].where if evidence else ""
    codes = [code for code, share in beliefs.shares.items() if share > _LEAST_SHARE and code != OTHER]
    drawn = {code: _drawn(beliefs.weight[code]) for code in codes}
    offers = []
    for check in checks_of(chain):
        if check.code in asked or len(codes) < 2:
            continue
        table = _answers(check, chain, beliefs, drawn)
        gain = _gain(table, beliefs.shares)
        if gain >= LEAST_BITS:
            minutes = minutes_of(check, chain) + (0.0 if check.where == here else _WALK_MIN)
            offers.append(NextCheck(check, gain, minutes, caution_of(check, chain), _parted(table, beliefs.shares)))
    offers.sort(key=_worth, reverse=True)
    cause, share = likeliest(beliefs)
    return Advice(tuple(offers), share >= SURE or not offers, cause)


def _worth(offer: NextCheck) -> float:
    """What a check tells for what it costs: a dear check that tells much saves the walks of three cheap ones."""
    return offer.gain_bits / float((offer.minutes + _RISK_MIN.get(offer.caution, 0.0)) ** _COST_POWER)


def likeliest(beliefs: Beliefs) -> tuple[str, float]:
    """The cause to act on, and how likely its remedy mends it: causes that look alike on every meter share it. [code], [-]"""
    together: dict[str, float] = {}
    for code, share in beliefs.shares.items():
        family = CAUSES[code].change if code in CAUSES else code
        together[family] = together.get(family, 0.0) + share
    family = max(together, key=lambda code: together[code])
    members = [c for c in beliefs.shares if (CAUSES[c].change if c in CAUSES else c) == family]
    return max(members, key=lambda code: beliefs.shares[code]), together[family]
