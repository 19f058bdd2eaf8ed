"""What a worn kit reads at a visit, and how that moves with each of its states: the chain of Fault, at one row for each step aside."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from squall.core.faults import columns as at
from squall.core.faults.chain import Chain
from squall.core.faults.readings import MEASURED
from squall.core.faults.sweep import Lit, Swept, run, to_start_from
from squall.core.upkeep.states import STATES, WEARING

Floats = NDArray[np.float64]

# How the stated kit is off, in standard deviations: both cables, winding, amps, head, lift, two of the source.
OFFSETS = 8
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


def worked(chain: Chain, moment: Moment, levels: Floats, offsets: Floats, light: Floats) -> Swept:
    """Rows of a worn kit.

    Parameters
    ----------
    chain : Chain
        The kit as stated.
    moment : Moment
        Its light and air.
    levels : NDArray
        (n, states) of :data:`squall.core.upkeep.states.STATES`. [their units]
    offsets : NDArray
        (n, :data:`OFFSETS`), in standard deviations. [-]
    light : NDArray
        (n,) how far the light is off, in standard deviations. [-]
    """
    from scipy.special import ndtr

    draws = np.full((len(levels), _DIMENSIONS), 0.5)
    draws[:, 0] = ndtr(light)
    draws[:, 3 : 3 + OFFSETS] = ndtr(offsets)
    rows, lights = to_start_from(chain, moment.lit, draws)
    worn = {state: np.clip(levels[:, n], 0.0, WEARING[state].most) for n, state in enumerate(STATES)}
    rows[:, at.LIGHT_A] *= 1.0 - worn["panel-light-lost"]
    rows[:, at.DOWN_OHM] += worn["joint-ohm"]
    rows[:, at.NO_LOAD_A] *= 1.0 + worn["drag"]
    rows[:, at.HEAD_SHARE] *= 1.0 - worn["head-lost"]
    rows[:, at.LEAK] = worn["flow-lost"]
    rows[:, at.LIFT_M] += moment.drop_m
    return Swept(rows, run(chain, rows), draws, np.full(len(rows), 1.0 / len(rows)), lights)


def _shown(chain: Chain, swept: Swept, check: str) -> tuple[Floats, Floats]:
    if check == "panel-open-volts":
        volts = swept.out[:, at.PANEL_V]
        return volts, 0.006 * volts + 0.05
    reading = MEASURED[check](swept, chain)
    return reading.value, METERS_PART * reading.sigma


def linear(chain: Chain, moment: Moment, mean: Floats) -> tuple[Floats, Floats, Floats]:
    """What each reading should be at a mean state, how it moves with the state, and its doubt.

    Parameters
    ----------
    chain : Chain
        The kit as stated.
    moment : Moment
        The visit.
    mean : NDArray
        Levels, rates, offsets, light; see :mod:`squall.core.upkeep.smoother`. [-]

    Returns
    -------
    tuple of NDArray
        (readings), (readings, states), (readings). [SI]
    """
    n = len(STATES)
    size = len(mean)
    moved = [*range(n), *range(2 * n, size)]
    steps = np.array([_STEP_OF_STATE * WEARING[state].matters for state in STATES] + [_STEP] * (size - 2 * n))
    rows = np.repeat(mean[None, :], 1 + len(moved), axis=0)
    rows[:, :n] = np.maximum(rows[:, :n], 0.0)
    for place, column in enumerate(moved):
        rows[1 + place, column] += steps[place]
    swept = worked(chain, moment, rows[:, :n], rows[:, 2 * n : 2 * n + OFFSETS], rows[:, -1])
    values, slopes, doubts = [], [], []
    for check in moment.readings:
        shown, sigma = _shown(chain, swept, check)
        slope = np.zeros(size)
        slope[moved] = (shown[1:] - shown[0]) / steps
        values.append(shown[0])
        slopes.append(slope)
        doubts.append(sigma[0])
    return np.array(values), np.array(slopes).reshape(-1, size), np.array(doubts)


def readable(checks: Sequence[str]) -> list[str]:
    """Of some checks those whose readings tell of wear. [codes]"""
    return [check for check in checks if check in MEASURED or check == "panel-open-volts"]
