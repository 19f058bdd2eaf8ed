"""How much water is wanted: litres a day in each month, and when in the day."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from squall.core.errors import OutOfRange, require
from squall.core.reason import Reason


@dataclass(frozen=True)
class Drinkers:
    """Animals or uses that each want the same. `count` [-], `litres_each` a day [L]"""

    name: str
    count: float
    litres_each: float

    def __post_init__(self) -> None:
        require(Reason("count-of", name=self.name or Reason("the-herd")), self.count, 0.0, 100_000.0, "number")
        require(
            Reason("litres-each-of", name=self.name or Reason("the-herd")),
            self.litres_each / 1000.0,
            0.0,
            10.0,
            "litres",
        )

    @property
    def litres_a_day(self) -> float:
        """All of them together. [L/d]"""
        return self.count * self.litres_each


def monthly_need(litres_a_day: float, by_month: tuple[float | None, ...]) -> tuple[float, ...]:
    """Litres a day for each month.

    Parameters
    ----------
    litres_a_day : float
        In a month with no figure of its own, 0 to 10 million. [L/d]
    by_month : tuple
        Twelve entries, January first; None where the month has no figure of its own. [L/d]

    Returns
    -------
    tuple[float, ...]
        Twelve. [L/d]

    Raises
    ------
    OutOfRange
        For a negative or absurd figure, or not twelve months.

    Examples
    --------
    >>> monthly_need(500.0, (None,) * 11 + (800.0,))[10:]
    (500.0, 800.0)
    """
    if len(by_month) != 12:
        raise OutOfRange("months-need", len(by_month), "12")
    months = tuple(litres_a_day if month is None else month for month in by_month)
    for month in months:
        require("litres-day", month / 1000.0, 0.0, 10000.0, "litres")
    return months


# Between a day this warm and this warm, animals go from the cool figure to the hot one: a guess. [°C]
COOL_DAY_C, HOT_DAY_C = 15.0, 30.0
# What an animal in milk, or near birth, drinks over one that is neither: common practice, no source.
STATE_FACTORS: dict[str, float] = {"plain": 1.0, "milk": 1.6, "birthing": 1.25}
STATE_WORDS: dict[str, Reason] = {
    "plain": Reason("neither-milk-nor-birth"),
    "milk": Reason("in-milk"),
    "birthing": Reason("near-birth"),
}


@dataclass(frozen=True)
class StockKind:
    """A kind and class of animal: litres a head on a cool day and a hot one [L], and on whose word."""

    id: str
    name: str
    cool_litres: float
    hot_litres: float
    source: str


def litres_at(warmest_c: float, cool_litres: float, hot_litres: float) -> float:
    """Litres a head on a day of given warmth, straight between a cool day's and a hot day's. [L]

    Examples
    --------
    >>> litres_at(22.5, 3.0, 7.0)
    5.0
    """
    share = (warmest_c - COOL_DAY_C) / (HOT_DAY_C - COOL_DAY_C)
    return cool_litres + (hot_litres - cool_litres) * min(max(share, 0.0), 1.0)


def in_season(first: int, last: int) -> tuple[bool, ...]:
    """Which months a span covers, both ends in it, over New Year if it must; months 1 to 12.

    Examples
    --------
    >>> in_season(11, 2)[:3]
    (True, True, False)
    """
    if first <= last:
        return tuple(first <= month <= last for month in range(1, 13))
    return tuple(month >= first or month <= last for month in range(1, 13))


@dataclass(frozen=True)
class Burst:
    """The thirstiest hour, all in litres: what is drunk, and what trough and flow give meanwhile."""

    drunk_l: float
    trough_l: float
    flow_l: float

    @property
    def short_l(self) -> float:
        """What is missing; nil if trough and flow carry the burst. [L]"""
        return max(self.drunk_l - self.trough_l - self.flow_l, 0.0)


def burst(litres_a_day: float, share_in_first_hour: float, trough_l: float, flow_m3_s: float) -> Burst:
    """A herd that comes at once: a share of its day's water within one hour.

    Parameters
    ----------
    litres_a_day : float
        The herd's. [L/d]
    share_in_first_hour : float
        0 to 1. [-]
    trough_l : float
        Full when they come. [L]
    flow_m3_s : float
        Into the trough meanwhile. [m3/s]

    Returns
    -------
    Burst
        And what is missing.
    """
    require("share-drunk-first-hour", share_in_first_hour, 0.0, 1.0, "number")
    return Burst(litres_a_day * share_in_first_hour, trough_l, flow_m3_s * 3_600_000.0)


def tap_litres(times: float, minutes: float, flow_m3_s: float, running: float) -> float:
    """Litres a day by use: true use is less than tap time.

    Parameters
    ----------
    times : float
        Uses a day. [-]
    minutes : float
        Tap time of each. [min]
    flow_m3_s : float
        While it runs. [m3/s]
    running : float
        Share of the tap time in which water runs, 0 to 1. [-]

    Returns
    -------
    float
        times x minutes x flow x running. [L/d]

    Examples
    --------
    >>> tap_litres(4.0, 5.0, 10.0 / 60_000, 0.3)
    60.0
    """
    require("share-time-water-runs", running, 0.0, 1.0, "number")
    return times * minutes * flow_m3_s * 60_000.0 * running


def span_h(begin: float, end: float) -> float:
    """Hours from one hour of the clock to another: over midnight where the second is the earlier, the whole day where they
    are equal, a minute at least. [h]

    Examples
    --------
    >>> span_h(6.0, 18.0), span_h(22.0, 4.0), span_h(7.0, 7.0)
    (12.0, 6.0, 24.0)
    """
    return max((end - begin) % 24.0 or 24.0, 1.0 / 60.0)


def busiest_hour(parts: list[tuple[float, float, float]]) -> tuple[int, float]:
    """Hour of the clock in which most is wanted, each part spread evenly over its own hours.

    Parameters
    ----------
    parts : list of (litres a day, from hour, to hour)
        As :func:`span_h` has them.

    Returns
    -------
    tuple[int, float]
        The hour it begins at, and litres in it.

    Examples
    --------
    >>> busiest_hour([(600.0, 6.0, 12.0), (100.0, 11.0, 12.0)])
    (11, 200.0)
    """
    hours = [0.0] * 24
    for litres, begin, end in parts:
        span = span_h(begin, end)
        for hour in range(24):
            hours[hour] += litres * _overlap(hour, begin % 24.0, span) / span
    best = max(range(24), key=lambda hour: hours[hour])
    return best, hours[best]


def _overlap(hour: int, begin: float, span: float) -> float:
    total = 0.0
    for shift in (0.0, 24.0):
        total += max(min(hour + 1.0 + shift, begin + span) - max(hour + shift, begin), 0.0)
    return total


# Draws are told by the ten minutes.
DRAW_STEPS, DRAW_STEP_S = 144, 600.0


@dataclass(frozen=True)
class Demand:
    """What is wanted: litres a second by month and ten minutes of the day, shape (12, 144). [L/s]"""

    draw_l_s: NDArray[np.float64]

    @property
    def litres_a_day(self) -> NDArray[np.float64]:
        """By month. [L]"""
        total: NDArray[np.float64] = self.draw_l_s.sum(axis=1) * DRAW_STEP_S
        return total

    def draw_by(self, steps: int) -> NDArray[np.float64]:
        """The same by so many steps of a day, of which 144 is a multiple, shape (12, steps). [L/s]"""
        draw: NDArray[np.float64] = self.draw_l_s.reshape(12, steps, DRAW_STEPS // steps).mean(axis=2)
        return draw


def demand_of(parts: list[tuple[tuple[float, ...], float, float]], times: float = 1.0) -> Demand:
    """What is wanted through the day [l/s], each use spread evenly over its hours.

    Parameters
    ----------
    parts : list of (litres a day by month, from hour, to hour)
        As :func:`span_h` has them.
    times : float
        Each is taken this many times.
    """
    draw = np.zeros((12, DRAW_STEPS))
    edges = np.arange(DRAW_STEPS + 1) / 6.0
    for litres, begin, end in parts:
        span = span_h(begin, end)
        share = np.zeros(DRAW_STEPS)
        for shift in (-24.0, 0.0, 24.0):
            low, high = begin % 24.0 + shift, begin % 24.0 + shift + span
            share += np.clip(np.minimum(edges[1:], high) - np.maximum(edges[:-1], low), 0.0, None) / span
        draw += np.outer(np.array(litres), share) * times / DRAW_STEP_S
    return Demand(draw)
