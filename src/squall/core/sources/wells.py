"""A well while it is pumped: how far its level falls, where the pump may hang, and what it can give."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import log10, pi
from typing import Literal

import numpy as np

from squall.core.errors import OutOfRange, require
from squall.core.reason import Quantity, Reason

LEAST_TEST_POINTS = 3


@dataclass(frozen=True)
class TestFit:
    """Straight line through a pumping test, drawdown over the logarithm of time.

    Attributes
    ----------
    flow_m3_s : float
        Steady flow of the test. [m3/s]
    at_one_second_m, per_cycle_m : float
        s = at_one_second_m + per_cycle_m log10(t in seconds). [m]
    misfit_m : float
        Root mean square distance of the readings from it. [m]
    """

    flow_m3_s: float
    at_one_second_m: float
    per_cycle_m: float
    misfit_m: float

    @property
    def transmissivity_m2_s(self) -> float:
        """2.30 Q / (4 pi ds), ds per log cycle. [m2/s]"""
        return 2.30 * self.flow_m3_s / (4.0 * pi * self.per_cycle_m)

    def drawdown_m(self, hours: float) -> float:
        """Drawdown after some hours at the test's flow. [m]"""
        return self.at_one_second_m + self.per_cycle_m * log10(hours * 3600.0)

    def per_flow_s_m2(self, hours: float) -> float:
        """Drawdown per flow after some hours, taken in proportion to the flow. [m per m3/s]"""
        return max(self.drawdown_m(hours), 0.0) / self.flow_m3_s


def fit_test(flow_m3_s: float, readings: Sequence[tuple[float, float]]) -> TestFit:
    """Fit a pumping test at steady flow.

    Parameters
    ----------
    flow_m3_s : float
        Above 0. [m3/s]
    readings : sequence of (float, float)
        Time since the pump started, above 0 [s], and drawdown below the static level [m];
        three or more.

    Returns
    -------
    TestFit
        The line and how far the readings lie from it.

    Raises
    ------
    OutOfRange
        For fewer than three readings, times that repeat or don't span a factor of two, or a
        level that rises while it is pumped.

    Notes
    -----
    Least squares of s on log10 t: the straight line of a confined aquifer once u < 0.01. Water
    that stood in the bore makes the first minutes fall slower than that line.

    References
    ----------
    H. H. Cooper, C. E. Jacob, Trans. Am. Geophys. Union 27 (1946), 526-534.
    """
    require("flow-pumping-test", flow_m3_s, 1e-7, 0.1, "flow")
    times = [time for time, _ in readings]
    if len(set(times)) < LEAST_TEST_POINTS:
        raise OutOfRange("readings-pumping-test", len(set(times)), Reason("least-three-different-times"))
    if min(times) <= 0.0:
        raise OutOfRange("time-test-reading", Quantity(min(times), "seconds"), Reason("more-than-pump-starts"))
    if max(times) < 2.0 * min(times):
        raise OutOfRange(
            "times-pumping-test",
            Reason("span-of-times", first=min(times), last=max(times)),
            Reason("span-twice-or-more"),
        )
    logs = np.log10(times)
    falls = np.array([fall for _, fall in readings])
    slope, start = (float(x) for x in np.polyfit(logs, falls, 1))
    if slope <= 0.0:
        raise OutOfRange(
            "levels-pumping-test",
            Reason("rising-time"),
            Reason("levels-fall-while-pump-runs-depths"),
        )
    misfit = float(np.sqrt(np.mean((start + slope * logs - falls) ** 2)))
    return TestFit(flow_m3_s, start, slope, misfit)


@dataclass(frozen=True)
class HangingRoom:
    """Depths between which a pump may hang, below the datum. `deepest_m` is None if the bottom is not known. [m]"""

    shallowest_m: float
    deepest_m: float | None

    @property
    def there_is_room(self) -> bool:
        """Whether any depth will do."""
        return self.deepest_m is None or self.deepest_m >= self.shallowest_m


def hanging_room(pumping_depth_m: float, total_depth_m: float | None, cover_m: float, clear_m: float) -> HangingRoom:
    """Where a pump may hang: covered at the lowest pumping level, clear of the bottom's mud.

    Parameters
    ----------
    pumping_depth_m : float
        Datum to the lowest pumping level. [m]
    total_depth_m : float or None
        Datum to the bottom, if known. [m]
    cover_m, clear_m : float
        Water wanted over the pump, and room under it. [m]

    Returns
    -------
    HangingRoom
        Possibly none.

    Examples
    --------
    >>> hanging_room(18.0, 24.0, 1.0, 1.0)
    HangingRoom(shallowest_m=19.0, deepest_m=23.0)
    """
    deepest = None if total_depth_m is None else total_depth_m - clear_m
    return HangingRoom(pumping_depth_m + cover_m, deepest)


Hang = Literal["fits", "no-room", "may-run-dry", "in-the-mud"]


def judge_hang(hang_depth_m: float, room: HangingRoom) -> Hang:
    """Whether a pump hangs well at a depth below the datum [m]: ``fits``, or what is wrong with it."""
    if not room.there_is_room:
        return "no-room"
    if hang_depth_m < room.shallowest_m:
        return "may-run-dry"
    if room.deepest_m is not None and hang_depth_m > room.deepest_m:
        return "in-the-mud"
    return "fits"


def outpumped(flow_m3_s: float, yield_m3_s: float | None) -> bool:
    """Whether a pump takes more than the well gives [m3/s], so that it will suck air.

    Examples
    --------
    >>> outpumped(12.0 / 60_000, 10.0 / 60_000)
    True
    """
    return yield_m3_s is not None and flow_m3_s > yield_m3_s


def minutes_of_storage(bore_m: float, depth_m: float, flow_m3_s: float, yield_m3_s: float) -> float | None:
    """Minutes until a pump that takes more than flows in has emptied the water standing over it.

    Parameters
    ----------
    bore_m : float
        Of the well. [m]
    depth_m : float
        Of water over the pump. [m]
    flow_m3_s, yield_m3_s : float
        Taken out, and flowing in. [m3/s]

    Returns
    -------
    float or None
        None if it never does. [min]
    """
    if flow_m3_s <= yield_m3_s:
        return None
    return pi / 4.0 * bore_m**2 * max(depth_m, 0.0) / (flow_m3_s - yield_m3_s) / 60.0
