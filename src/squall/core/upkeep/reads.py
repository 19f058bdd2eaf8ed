"""What a worn kit reads at a visit, and how that moves with each of its states: the chain of Fault, at one row for each step aside."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from squall.core.faults import columns as at
from squall.core.faults.chain import OFFSETS, Chain
from squall.core.faults.readings import MEASURED
from squall.core.faults.sweep import Lit, Swept, rows_in, run
from squall.core.upkeep.states import STATES, WEARING

Floats = NDArray[np.float64]

_DIMENSIONS = 12
# A step aside, by which slopes are taken: of a state, a share of what matters; of an offset or the light. [-]
_STEP_OF_STATE, _STEP = 0.3, 0.25
# A meter's part of the doubt in a reading; the rest is the model's, which stays the same from visit to visit. [-]
METERS_PART = 0.75


@dataclass(frozen=True)
class Moment:
    """A visit's light and air, how far the water stood below its level [m], and its readings by check. [SI]"""

    lit: Lit
    drop_m: float
    readings: Mapping[str, float]


@dataclass(frozen=True)
class Thought:
    """Rows of a worn kit, each at a moment of its own.

    Attributes
    ----------
    light_w_m2, light_off, air_c, drop_m : NDArray
        (n,) the light as it was taken and how far that may be off (a share), the air, how far the water stood below. [W/m2], [-], [°C], [m]
    levels : NDArray
        (n, states) of :data:`squall.core.upkeep.states.STATES`. [their units]
    offsets : NDArray
        (n, :data:`OFFSETS`), in standard deviations. [-]
    light : NDArray
        (n,) how far the light is off, in standard deviations. [-]
    """

    light_w_m2: Floats
    light_off: Floats
    air_c: Floats
    drop_m: Floats
    levels: Floats
    offsets: Floats
    light: Floats


def thought(moments: Sequence[Moment], each: int, states: Floats) -> Thought:
    """Rows of some moments, so many of each [-], by their states as :mod:`squall.core.upkeep.smoother` has them. [their units]"""
    n = len(STATES)
    told = np.array([[one.lit.irradiance_w_m2 or 0.0, one.lit.off, one.lit.air_c, one.drop_m] for one in moments])
    light, off, air, drop = np.repeat(told, each, axis=0).T
    return Thought(light, off, air, drop, states[:, :n], states[:, 2 * n : 2 * n + OFFSETS], states[:, -1])


def worked(chain: Chain, of: Thought) -> Swept:
    """Rows of a worn kit, worked through its chain."""
    # No state counts as farther off than two and a half deviations.
    bound = 2.5
    if chain.array is None:
        light = np.zeros(len(of.light))
    else:
        light = np.clip(of.light_w_m2 * (1.0 + of.light_off * np.clip(of.light, -bound, bound)), 0.0, 1500.0)
    rows = rows_in(chain, light, of.air_c, np.clip(of.offsets, -bound, bound))
    worn = {state: np.clip(of.levels[:, n], 0.0, WEARING[state].most) for n, state in enumerate(STATES)}
    rows[:, at.LIGHT_A] *= 1.0 - worn["panel-light-lost"]
    rows[:, at.DOWN_OHM] += worn["joint-ohm"]
    rows[:, at.NO_LOAD_A] *= 1.0 + worn["drag"]
    rows[:, at.HEAD_SHARE] *= 1.0 - worn["head-lost"]
    rows[:, at.LEAK] = worn["flow-lost"]
    rows[:, at.LIFT_M] += of.drop_m
    middle = np.full((len(rows), _DIMENSIONS), 0.5)
    return Swept(rows, run(chain, rows), middle, np.full(len(rows), 1.0 / len(rows)), light)


def _shown(chain: Chain, swept: Swept, check: str) -> tuple[Floats, Floats]:
    if check == "panel-open-volts":
        volts = swept.out[:, at.PANEL_V]
        return volts, 0.006 * volts + 0.05
    reading = MEASURED[check](swept, chain)
    return reading.value, METERS_PART * reading.sigma


@dataclass(frozen=True)
class Line:
    """What the readings of a visit should be, how they move with the state, their doubt: (readings), (readings, states), (readings). [SI]"""

    shown: Floats
    slopes: Floats
    doubts: Floats


def linear(chain: Chain, moments: Sequence[Moment], about: Floats) -> list[Line]:
    """What each visit's readings should be about a state, and how they move with it.

    Parameters
    ----------
    chain : Chain
        The kit as stated.
    moments : sequence of Moment
        The visits.
    about : NDArray
        (visits, states): levels, rates, offsets, light; see :mod:`squall.core.upkeep.smoother`. [-]

    Returns
    -------
    list of Line
        One for each visit.
    """
    n, size = len(STATES), about.shape[1]
    moved = [*range(n), *range(2 * n, size)]
    steps = np.array([_STEP_OF_STATE * WEARING[state].matters for state in STATES] + [_STEP] * (size - 2 * n))
    each = 1 + len(moved)
    states = np.repeat(about, each, axis=0)
    states[:, :n] = np.maximum(states[:, :n], 0.0)
    for place, column in enumerate(moved):
        states[1 + place :: each, column] += steps[place]
    swept = worked(chain, thought(moments, each, states))
    checks = dict.fromkeys(check for moment in moments for check in moment.readings)
    told = {check: tuple(of.reshape(-1, each) for of in _shown(chain, swept, check)) for check in checks}
    lines = []
    for number, moment in enumerate(moments):
        own = [(told[check][0][number], told[check][1][number]) for check in moment.readings]
        slopes = np.zeros((len(own), size))
        for row, (shown, _) in enumerate(own):
            slopes[row, moved] = (shown[1:] - shown[0]) / steps
        lines.append(Line(np.array([shown[0] for shown, _ in own]), slopes, np.array([sigma[0] for _, sigma in own])))
    return lines


def readable(checks: Sequence[str]) -> list[str]:
    """Of some checks those whose readings tell of wear. [codes]"""
    return [check for check in checks if check in MEASURED or check == "panel-open-volts"]
