"""A well while it is pumped: how far its level falls, where the pump may hang, and what it can give."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import log10, pi

import numpy as np

from squall.core.errors import OutOfRange, require

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
    require("flow of the pumping test", flow_m3_s, 1e-7, 0.1, "m3/s")
    times = [time for time, _ in readings]
    if len(set(times)) < LEAST_TEST_POINTS:
        raise OutOfRange("readings of the pumping test", len(set(times)), "at least three, at different times")
    if min(times) <= 0.0:
        raise OutOfRange("time of a test reading", f"{min(times):g} s", "more than 0: the pump starts at 0")
    if max(times) < 2.0 * min(times):
        raise OutOfRange("times of the pumping test", f"{min(times):g} to {max(times):g} s", "a span of twice or more")
    logs = np.log10(times)
    falls = np.array([fall for _, fall in readings])
    slope, start = (float(x) for x in np.polyfit(logs, falls, 1))
    if slope <= 0.0:
        raise OutOfRange(
            "levels of the pumping test",
            "rising with time",
            "levels that fall while the pump runs; are depths swapped?",
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
    """
    deepest = None if total_depth_m is None else total_depth_m - clear_m
    return HangingRoom(pumping_depth_m + cover_m, deepest)


def hang_problem(hang_depth_m: float, room: HangingRoom) -> str | None:
    """What is wrong with the depth that a pump hangs at, in a sentence; None if nothing is."""
    if not room.there_is_room:
        deepest = room.deepest_m or 0.0
        return (
            f"there is no room for this pump: it would have to hang {room.shallowest_m:.1f} m down to stay covered, and "
            f"at most {deepest:.1f} m down to stay clear of the bottom. Pump less, so that the level falls less"
        )
    if hang_depth_m < room.shallowest_m:
        return (
            f"hanging {hang_depth_m:.1f} m down it may run dry: {room.shallowest_m:.1f} m keeps it covered at the lowest "
            "pumping level. Deeper costs cable and hose, not head"
        )
    if room.deepest_m is not None and hang_depth_m > room.deepest_m:
        return f"hanging {hang_depth_m:.1f} m down it stands in the mud: {room.deepest_m:.1f} m keeps it clear of the bottom"
    return None


YIELD_ANSWERS = (
    "turn the speed down, if it has a dial",
    "throttle the outlet, never the suction",
    "fit a low-level probe that stops it before it sucks air",
    "let it run on a float switch in the sunny hours only, so that the well recovers",
    "take a smaller pump",
)


def outpumped(flow_m3_s: float, yield_m3_s: float | None) -> bool:
    """Whether a pump takes more than the well gives, so that it will suck air."""
    return yield_m3_s is not None and flow_m3_s > yield_m3_s
