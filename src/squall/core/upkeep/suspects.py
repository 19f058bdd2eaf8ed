"""What a kit's own log says to whoever looks for a fault: how the kit is off its statement, and which slow fault it makes likelier."""

from collections.abc import Mapping
from datetime import date

import numpy as np
from numpy.typing import NDArray

from squall.core.faults.causes import CAUSES
from squall.core.faults.chain import OFFSETS, Offsets
from squall.core.upkeep.smoother import LEVELS, Leg, beginning, step_of
from squall.core.upkeep.states import STATES, State
from squall.core.upkeep.wear import Estimate

Floats = NDArray[np.float64]

# Slow faults by what wears, and from how much of it on it is one: two thirds of the least that the fault is thought to be.
# [the state's unit]
_SLOW: Mapping[str, tuple[State, float]] = {
    "panels-dirty": ("panel-light-lost", 0.10),
    "joint-resistance": ("joint-ohm", 0.20),
    "joint-wet": ("joint-ohm", 0.20),
    "rotor-drags": ("drag", 0.20),
    "impeller-worn": ("head-lost", 0.07),
    "hose-leaks": ("flow-lost", 0.15),
    "valves-worn": ("flow-lost", 0.15),
}
# Such a fault may come at once as well, between two visits: half of them. Common practice, no source. [-]
_AT_ONCE = 0.5
# No log makes a fault likelier than this, and no chance counts as smaller. [-]
_MOST, _LEAST_CHANCE = 6.0, 0.02
# Beyond this no offset is believed; and however much was read, the chain isn't the yard: so much of the doubt stays. [-]
_MOST_OFF, _LEAST_SPREAD = 2.0, 0.6
# Offsets are told to this: nearer would be another kit to every cache. [-]
_ROUGH = 0.1
_DAYS_A_YEAR = 365.25


def _beyond(mean: float, variance: float, level: float) -> float:
    """How likely a state stands over a level. [-]"""
    from scipy.special import ndtr

    return float(ndtr((mean - level) / np.sqrt(max(variance, 1e-12))))


def times_likelier(found: Estimate, day: date) -> dict[str, float]:
    """How many times likelier each slow fault is by the visits than without any. [-]

    Parameters
    ----------
    found : Estimate
        By all visits.
    day : date
        The day of the search.

    Returns
    -------
    dict
        By the fault's code, from a half to six; nothing without a visit.

    Notes
    -----
    Half of such faults come slowly: those are as much likelier as the state is likelier over the fault's least by the visits
    than by what is thought of a kit that nobody read, as old as it.
    """
    if found.last is None or found.first is None:
        return {}
    mean, covariance = found.on(day)
    before, spread = beginning()
    matrix, added = step_of(Leg(max((day - found.first).days, 0) / _DAYS_A_YEAR))
    before, spread = matrix @ before, matrix @ spread @ matrix.T + added
    told = {}
    for code, (state, least) in _SLOW.items():
        if not CAUSES[code].can(found.chain):
            continue
        n = STATES.index(state)
        now = _beyond(float(mean[n]), float(covariance[n, n]), least)
        unread = _beyond(float(before[n]), float(spread[n, n]), least)
        ratio = (now + _LEAST_CHANCE) / (unread + _LEAST_CHANCE)
        told[code] = min(_AT_ONCE + (1.0 - _AT_ONCE) * ratio, _MOST)
    return told


def offsets_of(found: Estimate, day: date) -> Offsets:
    """How a kit is off its statement by its visits, with what doubt stays; a pump that was renewed is a new one. [-]

    Parameters
    ----------
    found : Estimate
        By all visits.
    day : date
        The day of the search.
    """
    mean, covariance = found.on(day)
    own = slice(2 * LEVELS, 2 * LEVELS + OFFSETS)
    spread = np.clip(np.sqrt(np.diag(covariance)[own]), _LEAST_SPREAD, 1.0)
    return Offsets(_rough(np.clip(mean[own], -_MOST_OFF, _MOST_OFF)), _rough(spread))


def _rough(values: Floats) -> tuple[float, ...]:
    """To the nearest tenth. [-]"""
    return tuple(round(float(value) / _ROUGH) * _ROUGH for value in values)
