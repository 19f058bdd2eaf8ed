"""A kit's slow states through all its visits at once: an iterated extended Kalman smoother, with readings that may slip.

State at each visit: the levels of the five states, their rates, how the stated kit is off (constant), and how far this visit's light
is off (of this visit alone). Between visits a level grows by its rate and strays; what was done sets levels back.

References
----------
H. E. Rauch, F. Tung, C. T. Striebel, "Maximum likelihood estimates of linear dynamic systems", AIAA Journal 3 (1965), 1445-1450;
B. M. Bell, "The iterated Kalman smoother as a Gauss-Newton method", SIAM J. Optimization 4 (1994), 626-636 (both from memory).
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from squall.core.faults.chain import OFFSETS, Chain
from squall.core.upkeep.reads import Line, Moment, linear
from squall.core.upkeep.states import STATES, WEARING, State

Floats = NDArray[np.float64]

LEVELS = len(STATES)
SIZE = 2 * LEVELS + OFFSETS + 1
# Where the pump's own offsets stand: winding, amps, head.
_OF_PUMP = tuple(2 * LEVELS + n for n in (2, 3, 4))
_ROUNDS = 7
# Degrees of freedom of a reading's doubt: an odd one soon counts for little.
_FREEDOM = 4.0


@dataclass(frozen=True)
class Leg:
    """What lies between one visit and the next: years, what is set back, whether the pump is another. [a]"""

    years: float
    set_back: tuple[State, ...] = ()
    other_pump: bool = False


@dataclass(frozen=True)
class Smoothed:
    """Means and covariances at each visit, and how well it all fits: the logarithm of the likelihood. [-]"""

    means: Floats
    covariances: Floats
    fits: float


def beginning() -> tuple[Floats, Floats]:
    """Mean and covariance before the first visit. [states' units]"""
    mean = np.zeros(SIZE)
    spread = np.ones(SIZE)
    for n, state in enumerate(STATES):
        wearing = WEARING[state]
        spread[n], mean[LEVELS + n], spread[LEVELS + n] = wearing.begin, wearing.rate, wearing.rate_off
    return mean, np.diag(spread**2)


def step_of(leg: Leg) -> tuple[Floats, Floats]:
    """How a state comes from one visit to the next: the matrix, and what is added in doubt. [-], [states' units]"""
    back, fresh = np.eye(SIZE), np.zeros((SIZE, SIZE))
    for n, state in enumerate(STATES):
        if state in leg.set_back:
            back[n, n], fresh[n, n] = 0.0, WEARING[state].set_back ** 2
    if leg.other_pump:
        for n in _OF_PUMP:
            back[n, n], fresh[n, n] = 0.0, 1.0
    grow, strays = np.eye(SIZE), np.zeros((SIZE, SIZE))
    for n, state in enumerate(STATES):
        grow[n, LEVELS + n] = leg.years
        strays[n, n] = WEARING[state].wander ** 2 * leg.years
    # The light's own error belongs to one visit.
    grow[-1, -1], strays[-1, -1] = 0.0, 1.0
    return grow @ back, grow @ fresh @ grow.T + strays


def _forward(
    moments: Sequence[Moment], lines: Sequence[Line], steps: Sequence[tuple[Floats, Floats]], about: Floats
) -> tuple[Floats, Floats, list[tuple[Floats, Floats]], float]:
    mean, covariance = beginning()
    means, covariances, foreseen, fits = [], [], [], 0.0
    for number, (moment, line) in enumerate(zip(moments, lines, strict=True)):
        if number > 0:
            matrix, added = steps[number - 1]
            mean, covariance = matrix @ mean, matrix @ covariance @ matrix.T + added
        foreseen.append((mean, covariance))
        if moment.readings:
            shown, slopes, doubts = line.shown, line.slopes, line.doubts
            read = np.array(list(moment.readings.values()))
            off = (read - shown) / doubts
            weight = (_FREEDOM + 1.0) / (_FREEDOM + off**2)
            innovation = read - shown + slopes @ (about[number] - mean)
            noise = np.diag(doubts**2 / np.minimum(weight, 1.0))
            reach = slopes @ covariance
            spread = reach @ slopes.T + noise
            solved = np.linalg.solve(spread, np.column_stack((reach, innovation)))
            gain = solved[:, :-1].T
            fits -= 0.5 * float(innovation @ solved[:, -1]) + 0.5 * float(np.linalg.slogdet(spread)[1])
            mean = mean + gain @ innovation
            left = np.eye(SIZE) - gain @ slopes
            covariance = left @ covariance @ left.T + gain @ noise @ gain.T
        means.append(mean)
        covariances.append(covariance)
    return np.array(means), np.array(covariances), foreseen, fits


def smooth(chain: Chain, moments: Sequence[Moment], legs: Sequence[Leg]) -> Smoothed:
    """States at all visits, by all visits.

    Parameters
    ----------
    chain : Chain
        The kit as stated.
    moments : Sequence[Moment]
        The visits in their order, one or more.
    legs : Sequence[Leg]
        Between them, one fewer.

    Returns
    -------
    Smoothed
        Of every visit. [states' units]
    """
    about = np.repeat(beginning()[0][None, :], len(moments), axis=0)
    means, covariances, fits = about, np.zeros((len(moments), SIZE, SIZE)), 0.0
    steps = [step_of(leg) for leg in legs]
    for _ in range(_ROUNDS):
        means, covariances, foreseen, fits = _forward(moments, linear(chain, moments, about), steps, about)
        for number in range(len(moments) - 2, -1, -1):
            matrix, _ = steps[number]
            before, ahead = foreseen[number + 1]
            pull = np.linalg.solve(ahead + 1e-14 * np.eye(SIZE), matrix @ covariances[number]).T
            means[number] = means[number] + pull @ (means[number + 1] - before)
            covariances[number] = covariances[number] + pull @ (covariances[number + 1] - ahead) @ pull.T
        moved = float(np.abs(means - about).max())
        # Half of a long step: the chain is far from straight where light is little.
        about = means.copy() if moved < 1.0 else about + 0.6 * (means - about)
        if moved < 1e-3:
            break
    return Smoothed(means, covariances, fits)
