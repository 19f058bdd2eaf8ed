"""What has worn on a kit by its visits, and what its outlet gives at some day: with bands, and alarms only beyond doubt."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from squall.core.errors import BadEvidence
from squall.core.faults import columns as at
from squall.core.faults.chain import Chain
from squall.core.faults.sweep import Lit
from squall.core.reason import Reason
from squall.core.upkeep.reads import Moment, readable, thought, worked
from squall.core.upkeep.smoother import LEVELS, SIZE, Leg, Smoothed, beginning, smooth, step_of
from squall.core.upkeep.states import STATES, WEARING, Done, State, set_back_by, states_of

Floats = NDArray[np.float64]

_DAYS_A_YEAR = 365.25
# A light that nobody read, and one that was. [W/m2], [-], [-]
_LIGHT_GUESS, _LIGHT_UNREAD, _LIGHT_READ = 550.0, 0.45, 0.05
# Bounds of a band of 90 %, in standard deviations.
_NINETY = 1.645
# Draws from the last estimate by which the flow's band is worked.
_DRAWS = 400
# Draws that are tried for those, and how far below nothing still counts as nothing, of what may be there at first. [-], [-]
_TRIED, _HAIR = 8192, 0.1
# How far the chain's own flow may be from a yard's, one standard deviation. [-]
_MODEL_OFF = 0.025
# An alarm wants a level this many deviations from nothing.
_BEYOND_DOUBT = 2.6


@dataclass(frozen=True)
class Visit:
    """A visit: day, air, light if it was known, readings by check in SI, what was done then."""

    day: date
    air_c: float
    irradiance_w_m2: float | None
    readings: Mapping[str, float | tuple[float, ...]]
    done: tuple[Done, ...] = ()


@dataclass(frozen=True)
class Ask:
    """The day that is asked about, its light and air. [W/m2], [°C]"""

    day: date
    irradiance_w_m2: float
    air_c: float


@dataclass(frozen=True)
class Level:
    """A state with its band of 90 %, as it is shown: drag as times the stated no-load amps. [its unit]"""

    state: State
    value: float
    low: float
    high: float


@dataclass(frozen=True)
class Alarm:
    """What has worn beyond doubt, and the visit since which that shows."""

    state: State
    since: date

    @property
    def words(self) -> Reason:
        """What it is, in words."""
        return Reason(f"worn-{self.state}")


@dataclass(frozen=True)
class Worn:
    """What has worn; what the outlet gives at the day asked about, with its band; what the stated kit would. [m3/s]"""

    levels: tuple[Level, ...]
    flow_m3_s: float
    flow_low_m3_s: float
    flow_high_m3_s: float
    label_flow_m3_s: float
    alarms: tuple[Alarm, ...]


def _moment(chain: Chain, visit: Visit) -> Moment:
    readings: dict[str, float] = {}
    drop = 0.0
    for check, value in visit.readings.items():
        if check == "pumping-water-level-drop" and not isinstance(value, tuple):
            drop = value
        elif check in readable(list(visit.readings)):
            readings[check] = abs(_one(value)) if check == "pump-amps-on" else _one(value)
    light, off = visit.irradiance_w_m2, _LIGHT_READ
    if light is None:
        light, off = _LIGHT_GUESS, _LIGHT_UNREAD
        array = chain.array
        if array is not None and "short-circuit-amps" in readings:
            full = array.module.isc_a * array.in_parallel
            light, off = min(max(readings["short-circuit-amps"] / full * 1000.0, 30.0), 1300.0), 0.15
    return Moment(Lit(light, visit.air_c, off), drop, readings)


def _one(value: float | tuple[float, ...]) -> float:
    return sum(value) / len(value) if isinstance(value, tuple) else value


def _legs(chain: Chain, visits: Sequence[Visit], ends: date, *, read_first: bool) -> list[Leg]:
    """From each visit to the next, and to the day asked about: what was done counts after the readings of its visit, or before."""
    days = [visit.day for visit in visits] + [ends]
    legs = []
    for number in range(len(visits)):
        doing = visits[number].done
        if not read_first:
            doing = visits[number + 1].done if number + 1 < len(visits) else ()
        back = tuple(dict.fromkeys(state for done in doing for state in set_back_by(done, chain)))
        years = (days[number + 1] - days[number]).days / _DAYS_A_YEAR
        legs.append(Leg(years, back, "pump-renewed" in doing))
    return legs


def _estimated(chain: Chain, visits: Sequence[Visit], ends: date) -> tuple[Smoothed, list[Leg], bool]:
    """Whoever cleans may read before it or after it: whichever fits the readings better, and whether that is before."""
    moments = [_moment(chain, visit) for visit in visits]
    legs = _legs(chain, visits, ends, read_first=True)
    found = smooth(chain, moments, legs[:-1])
    if any(visit.done for visit in visits):
        other = _legs(chain, visits, ends, read_first=False)
        after = smooth(chain, moments, other[:-1])
        if after.fits > found.fits + 1.0:
            return after, other, False
    return found, legs, True


@dataclass(frozen=True, eq=False)
class Estimate:
    """What the visits tell of a kit's states: asked at any later day, with anything done meanwhile.

    Attributes
    ----------
    chain : Chain
        The kit as stated.
    last : date or None
        Day of the last visit; None without any.
    mean, covariance : NDArray
        At the last visit, its readings counted. [states' units]
    done : tuple of str
        What was done after those readings.
    alarms : tuple of Alarm
        What had worn beyond doubt by then.
    first : date or None
        Day of the first visit.
    """

    chain: Chain
    last: date | None
    mean: Floats
    covariance: Floats
    done: tuple[Done, ...]
    alarms: tuple[Alarm, ...]
    first: date | None = None

    def on(self, day: date, done: Sequence[Done] = ()) -> tuple[Floats, Floats]:
        """Mean and covariance of the states on a day not before the last visit, as if something were done right after it. [states' units]"""
        if self.last is None:
            return self.mean, self.covariance
        doing = (*self.done, *done)
        back = tuple(dict.fromkeys(state for one in doing for state in set_back_by(one, self.chain)))
        years = max((day - self.last).days, 0) / _DAYS_A_YEAR
        matrix, added = step_of(Leg(years, back, "pump-renewed" in doing))
        return matrix @ self.mean, matrix @ self.covariance @ matrix.T + added

    def at(self, ask: Ask, done: Sequence[Done] = (), draws: int = _DRAWS) -> Worn:
        """What has worn, and what the outlet gives, at a day not before the last visit; as if something were done right after that visit.

        With fewer draws it is told sooner, and its band more roughly.

        Raises
        ------
        BadEvidence
            For a day before the last visit.
        """
        chain = self.chain
        if self.last is not None and ask.day < self.last:
            raise BadEvidence(
                Reason("asked-before-the-last-visit", day=ask.day.isoformat(), last=self.last.isoformat())
            )
        mean, covariance = self.on(ask.day, done)
        now = Moment(Lit(ask.irradiance_w_m2, ask.air_c, 0.0), 0.0, {})
        drawn = _drawn(mean, covariance, draws)
        # The last row is the kit as stated, nothing worn.
        rows = np.vstack((drawn, np.zeros(SIZE)))
        out = worked(chain, thought([now], len(rows), rows)).out[:, at.FLOW]
        flow, label = out[:-1], out[-1]
        # The chain isn't the yard: a few per cent stay, however much was read.
        flow = flow * (1.0 + _MODEL_OFF * _bell(len(flow)))
        low, middle, high = np.quantile(flow, (0.05, 0.5, 0.95))
        return Worn(
            levels=_levels(states_of(chain), drawn),
            flow_m3_s=float(middle),
            flow_low_m3_s=float(low),
            flow_high_m3_s=float(high),
            label_flow_m3_s=float(label),
            alarms=self.alarms,
        )


def estimate(chain: Chain, visits: Sequence[Visit]) -> Estimate:
    """What a kit's visits tell of its states.

    Parameters
    ----------
    chain : Chain
        The kit as stated; it is off by a few per cent from the first day, which is no wear.
    visits : Sequence[Visit]
        In any order.
    """
    ordered = sorted(visits, key=lambda visit: visit.day)
    if not ordered:
        mean, covariance = beginning()
        return Estimate(chain, None, mean, covariance, (), ())
    found, legs, read_first = _estimated(chain, ordered, ordered[-1].day)
    done = ordered[-1].done if read_first else ()
    alarms = _alarms(chain, ordered, found, legs)
    return Estimate(chain, ordered[-1].day, found.means[-1], found.covariances[-1], done, alarms, ordered[0].day)


def wear(chain: Chain, visits: Sequence[Visit], ask: Ask) -> Worn:
    """What has worn on a kit, and what its outlet gives on some day.

    Parameters
    ----------
    chain, visits
        As :func:`estimate` takes them.
    ask : Ask
        The day asked about, not before the last visit.

    Returns
    -------
    Worn
        Levels with bands of 90 %, flow likewise.

    Raises
    ------
    BadEvidence
        For a day asked about that lies before a visit.
    """
    return estimate(chain, visits).at(ask)


def _bell(count: int) -> Floats:
    """Even draws of a bell, in an order that belongs to nothing else."""
    from scipy.special import ndtri

    spread: Floats = ndtri((np.arange(count) + 0.5) / count)[np.random.default_rng(20261127).permutation(count)]
    return spread


@lru_cache(maxsize=1)
def _bells() -> Floats:
    """Even draws of a bell in every direction, a row a draw."""
    from scipy.special import ndtri
    from scipy.stats import qmc

    even = qmc.Sobol(SIZE, scramble=True, rng=20261127).random(_TRIED)
    bells: Floats = ndtri(np.clip(even, 1e-6, 1.0 - 1e-6))
    return bells


def _drawn(mean: Floats, covariance: Floats, draws: int) -> Floats:
    """So many draws from the estimate; the same ones whenever it is the same estimate, and near ones when it is nearly the same.

    That wants the square root of the covariance that is symmetric: there is one. Its eigenvectors alone may turn about
    wherever two states are as sure as each other, and every draw with them.

    Nothing wears less than not at all, and what is left of the estimate then is not each state cut off for itself: draws that
    go below nothing are left out whole, with what went along with them; the least of them stay if too few are left.
    """
    values, vectors = np.linalg.eigh((covariance + covariance.T) / 2.0)
    tried = _bells()[: _TRIED * draws // _DRAWS]
    spread: Floats = mean + tried @ ((vectors * np.sqrt(np.maximum(values, 0.0))) @ vectors.T)
    begins = np.array([WEARING[state].begin for state in STATES])
    below = np.minimum(spread[:, :LEVELS] / begins + _HAIR, 0.0)
    kept = spread[np.argsort((below**2).sum(axis=1), kind="stable")[:draws]]
    most = [WEARING[state].most for state in STATES]
    kept[:, :LEVELS] = np.clip(kept[:, :LEVELS], 0.0, most)
    return kept


def _levels(states: Sequence[State], draws: Floats) -> tuple[Level, ...]:
    ends = np.quantile(draws[:, :LEVELS], (0.05, 0.5, 0.95), axis=0)
    told = []
    for state in states:
        low, middle, high = ends[:, STATES.index(state)] + (1.0 if state == "drag" else 0.0)
        told.append(Level(state, float(middle), float(low), float(high)))
    return tuple(told)


def _alarms(chain: Chain, visits: Sequence[Visit], found: Smoothed, legs: Sequence[Leg]) -> tuple[Alarm, ...]:
    """States that stood beyond doubt over what matters at the last visit, and weren't set back then; since when."""
    told = []
    for state in states_of(chain):
        n = STATES.index(state)
        if state in legs[-1].set_back:
            continue
        since: date | None = None
        for number, visit in enumerate(visits):
            level, spread = found.means[number, n], float(np.sqrt(max(found.covariances[number, n, n], 0.0)))
            worn = level > WEARING[state].matters and level - _BEYOND_DOUBT * spread > 0.0
            since = (since or visit.day) if worn else None
        if since is not None:
            told.append(Alarm(state, since))
    return tuple(told)
