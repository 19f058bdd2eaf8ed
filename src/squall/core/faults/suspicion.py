"""How likely each cause is, given what was seen: Bayes' rule over the rows of a sweep.

Every cause's rows say what a check would show; how well they fit what it did show is the cause's likelihood. `none` is the kit
as stated (too little light, or never right for the lift); `other` fits everything a little.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from squall.core.errors import BadEvidence
from squall.core.faults import columns as at
from squall.core.faults.causes import CAUSES, NONE, NOTHING_KNOWN, OTHER, Frequencies, Story, causes_of, of_yard, prior
from squall.core.faults.chain import Chain
from squall.core.faults.checks import CHECKS, Check, checks_of
from squall.core.faults.readings import MEASURED, OPEN_FROM_OHM, OPEN_LOOP_OHM, SLIP, Reading, looks, panel_volts
from squall.core.faults.sweep import DRAWS, U_LIGHT, U_SECOND, U_SEVERITY, Lit, Swept, even_draws, sweep, sweep_all
from squall.core.reason import Reason

Floats = NDArray[np.float64]

# What is neither on the list nor nothing: common practice, no source. [-]
_OTHER_SHARE = 0.02
# How rarely someone complains of a kit that does what its light allows; and of one that gives nothing.
_COMPLAINS_LEAST, _COMPLAINS_MOST = 0.12, 5.0
# A cause less likely than this isn't drawn anew.
_WORTH_DRAWING = 2e-3
_AGAIN, _FEW_ROWS = DRAWS // 2, 60.0
# Bins of a proposal, and how much of it stays even.
_BINS, _EVEN = 16, 0.25
# Degrees of freedom of the doubt: broad shoulders, for a yard that is not the model.
_FREEDOM = 6.0


@dataclass(frozen=True)
class Evidence:
    """What one check showed: a value, a list of them (each panel's), an answer, or that it wasn't done; values in SI.

    A chart knows of a reading only that it lies between two figures, either of which may be endless. [of the check's kind]
    """

    check: str
    value: float | tuple[float, ...] | None = None
    answer: str | None = None
    between: tuple[float, float] | None = None

    @property
    def skipped(self) -> bool:
        """Whether it says nothing."""
        return self.value is None and self.answer is None and self.between is None


@dataclass(frozen=True)
class Beliefs:
    """How likely each cause is, and the rows that say so.

    Attributes
    ----------
    shares : Mapping[str, float]
        By cause, with ``none`` and ``other``; they add up to 1. [-]
    swept : Mapping[str, Swept]
        Rows of each but ``other``.
    weight : Mapping[str, NDArray]
        How much each row counts now; they add up to 1. [-]
    """

    shares: Mapping[str, float]
    swept: Mapping[str, Swept]
    weight: Mapping[str, Floats]


def checked(chain: Chain, evidence: Iterable[Evidence]) -> list[Evidence]:
    """The evidence, if each piece of it is one that this kit can give.

    Raises
    ------
    BadEvidence
        For a check that isn't one or that this kit doesn't have, a look with a value, a reading with an answer, or a list of
        panels of the wrong length.
    """
    own = {check.code for check in checks_of(chain)}
    pieces = list(evidence)
    for piece in pieces:
        check = CHECKS.get(piece.check)
        if check is None:
            raise BadEvidence(Reason("no-such-check", check=piece.check))
        if piece.check not in own:
            raise BadEvidence(Reason("kit-has-no-such-check", check=piece.check))
        if not piece.skipped:
            _fits(check, piece, chain)
    return pieces


def _fits(check: Check, piece: Evidence, chain: Chain) -> None:
    if check.kind is None:
        if piece.answer is None or piece.value is not None:
            raise BadEvidence(Reason("check-wants-an-answer", check=check.code, answers=", ".join(check.answers)))
        if piece.answer not in check.answers:
            raise BadEvidence(
                Reason(
                    "no-answer-of-this-check", check=check.code, answer=piece.answer, answers=", ".join(check.answers)
                )
            )
        return
    if piece.between is not None:
        return
    if piece.value is None or piece.answer is not None:
        raise BadEvidence(Reason("check-wants-a-value", check=check.code, kind=check.kind))
    listed = isinstance(piece.value, tuple)
    if check.a_panel and (not isinstance(piece.value, tuple) or len(piece.value) != chain.panels):
        raise BadEvidence(Reason("check-wants-a-value-a-panel", check=check.code, panels=chain.panels))
    if listed and not check.a_panel:
        raise BadEvidence(Reason("check-wants-a-value", check=check.code, kind=check.kind))
    least = min(piece.value) if isinstance(piece.value, tuple) else piece.value
    if least < 0.0 and check.kind not in ("volts", "amps") and check.code != "pumping-water-level-drop":
        raise BadEvidence(Reason("check-is-never-negative", check=check.code, value=least))


def _density(reading: Reading, value: float) -> Floats:
    """How well a value fits each row, beside any value within the span: a broad bell, and a slip now and then. [-]"""
    off = (value - reading.value) / reading.sigma
    bell = 0.38 * (1.0 + off**2 / _FREEDOM) ** (-0.5 * (_FREEDOM + 1.0)) / reading.sigma
    return (1.0 - SLIP) * bell * reading.span + SLIP


def _within(reading: Reading, low: float, high: float) -> Floats:
    """How well it fits each row that the reading lies between two figures, beside any reading within the span. [-]"""
    from scipy.special import ndtr

    inside = ndtr((high - reading.value) / reading.sigma) - ndtr((low - reading.value) / reading.sigma)
    width = min(high, reading.span) - max(low, -reading.span)
    anyhow = min(max(width / reading.span, 0.02), 1.0)
    return np.asarray(((1.0 - SLIP) * inside + SLIP * anyhow) / anyhow)


def _panel_density(swept: Swept, chain: Chain, values: Sequence[float]) -> Floats:
    """Each panel by itself; where one is wrong, whichever it may be."""
    whole, one, wrong = panel_volts(swept, chain)
    # What is off in common (light, heat) is in the rows; a list of many panels must not count as so many proofs.
    tempered = 1.0 / len(values) ** 0.5
    good = [_density(whole, value) for value in values]
    together = np.prod(good, axis=0) if len(good) == 1 else np.exp(sum(np.log(g) for g in good))
    if not wrong:
        return np.asarray(together**tempered)
    each = [together / g * _density(one, value) for g, value in zip(good, values, strict=True)]
    return np.asarray((sum(each) / len(each)) ** tempered)


def fit(piece: Evidence, code: str, swept: Swept, chain: Chain, healthy: Swept) -> Floats:
    """How well a piece of evidence fits each row of a cause, beside a cause that fits anything alike.

    Parameters
    ----------
    piece : Evidence
        What was seen.
    code : str
        The cause, or ``none``.
    swept : Swept
        Its rows.
    chain : Chain
        The kit.
    healthy : Swept
        Rows with nothing wrong.

    Returns
    -------
    NDArray
        One a row. [-]
    """
    check = CHECKS[piece.check]
    if piece.answer is not None:
        shares = looks(check, code, swept, chain, healthy)
        return np.asarray(shares[:, check.answers.index(piece.answer)] * len(check.answers))
    if piece.between is not None:
        return _within(MEASURED[piece.check](swept, chain), *piece.between)
    if isinstance(piece.value, tuple):
        return _panel_density(swept, chain, piece.value)
    assert piece.value is not None
    if check.kind == "amps":
        # A clamp's sign is the hand's.
        return _density(MEASURED[piece.check](swept, chain), abs(piece.value))
    value = min(piece.value, OPEN_LOOP_OHM) if check.kind == "ohms" else piece.value
    if check.kind == "ohms" and value >= OPEN_FROM_OHM:
        value = OPEN_LOOP_OHM
    return _density(MEASURED[piece.check](swept, chain), value)


def _complaint(healthy: Swept, chain: Chain) -> Floats:
    """How likely somebody complains of a sound kit on each row: surely where it gives nothing, rarely where it gives its due."""
    flow = healthy.out[:, at.FLOW]
    most = max(point[0] for point in chain.motor.points)
    due = np.clip(flow / (0.35 * most), 0.0, 1.0)
    return np.asarray(_COMPLAINS_MOST + (_COMPLAINS_LEAST - _COMPLAINS_MOST) * due)


def _weigh(
    chain: Chain, given: Sequence[Evidence], swept: Mapping[str, Swept], healthy: Swept
) -> tuple[dict[str, float], dict[str, Floats]]:
    """Likelihood of the evidence by cause, and what each row counts after it."""
    likelihood: dict[str, float] = {}
    weight: dict[str, Floats] = {}
    for code, rows in swept.items():
        counts = rows.weight.copy()
        if code == NONE:
            counts = counts * _complaint(rows, chain)
        for piece in given:
            counts = counts * fit(piece, code, rows, chain, healthy)
        total = float(counts.sum())
        likelihood[code] = total
        weight[code] = counts / total if total > 0.0 else rows.weight
    return likelihood, weight


def _shares(
    chain: Chain, story: Story, lit: Lit, likelihood: Mapping[str, float], known: Frequencies
) -> dict[str, float]:
    priors = {
        code: 1.0 if code == NONE else prior(CAUSES[code], chain, story, lit.air_c) * of_yard(CAUSES[code], known)
        for code in likelihood
    }
    if story in ("after-cleaning", "after-rewiring"):
        priors[NONE] *= 0.5
    whole = sum(priors.values())
    grown = {code: priors[code] / whole * likelihood[code] for code in likelihood}
    grown[OTHER] = _OTHER_SHARE
    total = sum(grown.values())
    return {code: share / total for code, share in grown.items()}


def _again(first: Swept, counts: Floats, lit: Lit, cause: str, chain: Chain) -> Swept:
    """The cause drawn anew where the first rows fitted: light and severities by what they say, the rest evenly."""
    draws = even_draws(_AGAIN).copy()
    weight = np.ones(_AGAIN)
    # Every kind of row's own spread is widened by a bin to either side.
    for column in (U_LIGHT, U_SEVERITY, U_SECOND):
        if column == U_LIGHT and lit.irradiance_w_m2 is not None:
            continue
        found, _ = np.histogram(first.draws[:, column], bins=_BINS, range=(0.0, 1.0), weights=counts)
        spread = np.convolve(found, [0.25, 0.5, 0.25], mode="same")
        share = _EVEN / _BINS + (1.0 - _EVEN) * spread / max(spread.sum(), 1e-300)
        edges = np.concatenate([[0.0], np.cumsum(share)])
        draws[:, column] = np.clip(
            np.interp(draws[:, column] * edges[-1], edges, np.linspace(0.0, 1.0, _BINS + 1)), 1e-6, 1.0 - 1e-6
        )
        weight /= share[np.minimum((draws[:, column] * _BINS).astype(int), _BINS - 1)] * _BINS
    return sweep(chain, lit, None if cause == NONE else CAUSES[cause], draws, weight)


def _narrowed(counts: Floats) -> bool:
    """Whether too few rows still carry the cause's weight."""
    return float(1.0 / (counts**2).sum()) < _FEW_ROWS


def believe(
    chain: Chain, story: Story, lit: Lit, evidence: Sequence[Evidence], known: Frequencies = NOTHING_KNOWN
) -> Beliefs:
    """What is likely wrong with a kit.

    Parameters
    ----------
    chain : Chain
        The kit as stated.
    story : str
        What happened before.
    lit : Lit
        What is known of the light and the air.
    evidence : Sequence[Evidence]
        What was seen; what was skipped says nothing.
    known : Frequencies
        What this yard knows of its faults.

    Returns
    -------
    Beliefs
        A share for every cause this kit can have, ``none`` and ``other``. [-]

    Raises
    ------
    BadEvidence
        As :func:`checked`.
    """
    given = [piece for piece in checked(chain, evidence) if not piece.skipped]
    swept = dict(sweep_all(chain, lit))
    healthy = swept[NONE]
    likelihood, weight = _weigh(chain, given, swept, healthy)
    shares = _shares(chain, story, lit, likelihood, known)
    if given:
        again: dict[str, Swept] = {}
        for code, rows in swept.items():
            if shares[code] > _WORTH_DRAWING and _narrowed(weight[code]):
                again[code] = _again(rows, weight[code], lit, code, chain)
        more, counts = _weigh(chain, given, again, healthy)
        swept.update(again)
        likelihood.update(more)
        weight.update(counts)
        shares = _shares(chain, story, lit, likelihood, known)
    return Beliefs(shares, swept, weight)


def causes_believed(chain: Chain) -> list[str]:
    """Every name that beliefs of this kit carry. [code]"""
    return [*(cause.code for cause in causes_of(chain)), NONE, OTHER]
