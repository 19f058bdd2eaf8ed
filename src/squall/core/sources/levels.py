"""How deep the water stands: a timed pebble, and several readings weighed together."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from itertools import pairwise
from math import sqrt

import numpy as np

from squall.core.errors import OutOfRange, require
from squall.core.hydraulics.water import GRAVITY_M_S2
from squall.core.reason import Quantity, Reason


@dataclass(frozen=True)
class Way:
    """One way of reading a level.

    Attributes
    ----------
    name : str
        In plain words.
    how : str
        What the hand does, in a line.
    caution : str
        What goes wrong, in a line.
    trust_m : float
        How far a reading may lie from the truth. Common practice, no source. [m]
    """

    name: Reason
    how: Reason
    caution: Reason
    trust_m: float


WAYS: dict[str, Way] = {
    "look": Way(
        Reason("look-down"), Reason("shine-light-or-catch-sun-if"),
        Reason("guess-only-stand-off-edge-never"), 3.0),
    "pebble": Way(
        Reason("timed-pebble"), Reason("start-watch-as-pebble-leaves-hand"),
        Reason("one-pebble-only-never-pump-well"),
        3.0),
    "line": Way(
        Reason("line-bottle"), Reason("let-down-half-filled-bottle-line"),
        Reason("tie-bottle-lines-end-off-each"), 0.2),
    "tape": Way(
        Reason("weighted-tape"), Reason("let-down-washer-tape-listen-slap"),
        Reason("tie-tape-weight-off-twice"), 0.1),
    "meter": Way(
        Reason("contact-meter"), Reason("lower-until-beeps-lift-lower-again"),
        Reason("tie-reel-off-twice-light-end"), 0.02),
}  # fmt: skip
# How far a lift may be off by how it was found: a share of it, and at least so much. Guesses of ours; a map's or a phone's
# height is some metres off wherever it stands. [-], [m]
LIFT_WAYS = {"eye": (0.25, 0.5), "map": (0.0, 5.0), "level": (0.02, 0.1), "tape": (0.01, 0.05)}
# A level that is known to within this share of the lift, or this height, tells pumps apart: choices of ours. [-], [m]
GOOD_SHARE, GOOD_M = 0.05, 0.25
# Chi-squared at 95 % for 1 to 10 degrees of freedom: NIST/SEMATECH e-Handbook, table 1.3.6.7.4 (from memory).
_CHI_SQUARED_95 = (3.841, 5.991, 7.815, 9.488, 11.070, 12.592, 14.067, 15.507, 16.919, 18.307)


@dataclass(frozen=True)
class Level:
    """A depth to water below a datum, and how far off it may be. [m]"""

    depth_m: float
    uncertainty_m: float


@dataclass(frozen=True)
class CombinedLevel:
    """Readings weighed together.

    Attributes
    ----------
    level : Level
        The weighed depth and its uncertainty.
    consistent : bool
        Whether the readings agree within their own uncertainties (chi-squared, 95 %).
    outliers : tuple[int, ...]
        Places of the readings that lie more than twice their uncertainty from the weighed depth.
    """

    level: Level
    consistent: bool
    outliers: tuple[int, ...]


def sound_speed(air_c: float) -> float:
    """Speed of sound in air, 331.3 sqrt(1 + T/273.15). [m/s]

    Examples
    --------
    >>> round(sound_speed(15.0), 1)
    340.3
    """
    return 331.3 * sqrt(1.0 + air_c / 273.15)


def depth_from_drop(fall_time_s: float, air_c: float = 15.0, timing_error_s: float = 0.2) -> Level:
    """Depth at which a dropped pebble is heard to splash.

    Parameters
    ----------
    fall_time_s : float
        From letting go to hearing the splash, above 0 to 10. [s]
    air_c : float
        Air in the well, -40 to 55. [°C]
    timing_error_s : float
        How late or early the thumb may be, 0 to 5. [s]

    Returns
    -------
    Level
        Depth, and what the timing error makes of it.

    Raises
    ------
    OutOfRange
        Outside those ranges.

    Notes
    -----
    t = sqrt(2 d/g) + d/c, solved for sqrt(d); no drag. The uncertainty is the timing error over
    dt/dd = 1/sqrt(2 g d) + 1/c.

    Examples
    --------
    >>> round(depth_from_drop(1.8).depth_m, 2)
    15.11
    """
    if not 0.0 < fall_time_s <= 10.0:
        raise OutOfRange(
            "fall-time",
            Quantity(fall_time_s, "seconds"),
            Reason("more-than-nothing-up-to", most=Quantity(10.0, "seconds")),
        )
    require("air-temperature", air_c, -40.0, 55.0, "temperature")
    require("timing-error", timing_error_s, 0.0, 5.0, "seconds")
    speed, fall = sound_speed(air_c), sqrt(2.0 / GRAVITY_M_S2)
    # Written so that nothing is divided by what goes to nil with the depth.
    depth = (2.0 * fall_time_s / (fall + sqrt(fall**2 + 4.0 * fall_time_s / speed))) ** 2
    hits_at = sqrt(2.0 * GRAVITY_M_S2 * depth)
    return Level(depth, timing_error_s * hits_at * speed / (hits_at + speed))


def trust_in(method: str) -> float:
    """How far a reading by a way may be off, for a way named in plain words. [m]

    Raises
    ------
    OutOfRange
        If the way is not known; then the reading must bring its own uncertainty.
    """
    words = method.lower()
    for key in ("meter", "tape", "line", "pebble", "look"):
        if key in words:
            return WAYS[key].trust_m
    if "bottle" in words:
        return WAYS["line"].trust_m
    raise OutOfRange("method", method, Reason("one-of-or-uncertainty", names=", ".join(WAYS)))


def lift_trust_m(way: str, lift_m: float) -> float:
    """How far a typed lift may be off by how it was found, a key of :data:`LIFT_WAYS`. [m]

    Examples
    --------
    >>> lift_trust_m("eye", 8.0), lift_trust_m("tape", 8.0)
    (2.0, 0.08)
    """
    share, least = LIFT_WAYS[way]
    return max(share * abs(lift_m), least)


def good_enough_m(lift_m: float) -> float:
    """How well a lift is to be known before a pump is chosen by it. [m]"""
    return max(GOOD_SHARE * abs(lift_m), GOOD_M)


def combine_levels(readings: Sequence[Level]) -> CombinedLevel:
    """Weigh readings of one level by the inverse square of their uncertainty.

    Parameters
    ----------
    readings : sequence of Level
        At least one, each with an uncertainty above 0.

    Returns
    -------
    CombinedLevel
        Never less sure than the best reading alone.

    Raises
    ------
    OutOfRange
        Without readings, or with an uncertainty of 0 or less.
    """
    if not readings:
        raise OutOfRange("readings", 0, Reason("at-least-one"))
    for reading in readings:
        if reading.uncertainty_m <= 0.0:
            raise OutOfRange("uncertainty", Quantity(reading.uncertainty_m, "length"), Reason("more-than-nothing"))
    weights = [1.0 / reading.uncertainty_m**2 for reading in readings]
    depth = sum(w * reading.depth_m for w, reading in zip(weights, readings, strict=True)) / sum(weights)
    spread = [(reading.depth_m - depth) / reading.uncertainty_m for reading in readings]
    outliers = tuple(n for n, off in enumerate(spread) if abs(off) > 2.0)
    freedom = len(readings) - 1
    limit = _CHI_SQUARED_95[min(freedom, 10) - 1] * max(freedom / 10.0, 1.0) if freedom else float("inf")
    consistent = sum(off**2 for off in spread) <= limit
    return CombinedLevel(Level(depth, sqrt(1.0 / sum(weights))), consistent, outliers)


# A level goes with the seasons where readings of so many months, so long apart, contradict one that stays. [d]
SEASON_MONTHS, SEASON_DAYS = 3, 90
# Readings of so many days before the newest are of the same level. [d]
SAME_DAYS = 31
_YEAR_DAYS = 365.25
_MID_MONTH = tuple((number + 0.5) * _YEAR_DAYS / 12.0 for number in range(12))


@dataclass(frozen=True)
class YearOfLevels:
    """How a level goes through the year, by readings of several months.

    Attributes
    ----------
    now : CombinedLevel
        The newest readings together.
    of_now : tuple[int, ...]
        Places of those readings among all.
    on : date
        When the newest was read.
    known : tuple[tuple[float, float], ...]
        Day of the year and depth of each month that was read. [d], [m]
    """

    now: CombinedLevel
    of_now: tuple[int, ...]
    on: date
    known: tuple[tuple[float, float], ...]

    def depth_m(self, day_of_year: float) -> float:
        """Depth below the datum on a day of the year, straight between the months that were read, over the year's end too. [m]"""
        days, depths = zip(*self.known, strict=True)
        return float(np.interp(day_of_year, days, depths, period=_YEAR_DAYS))

    def depth_on(self, day: date) -> float:
        """The same on a day. [m]"""
        return self.depth_m(_of_year(day))

    @property
    def months_m(self) -> tuple[float, ...]:
        """In the middle of each month, January first. [m]"""
        return tuple(self.depth_m(day) for day in _MID_MONTH)

    @property
    def lowest_m(self) -> float:
        """The deepest month that was read. [m]"""
        return max(depth for _, depth in self.known)

    def next_above(self, depth_m: float) -> float:
        """The month's level that stands next above a depth, or the newest where none does: what a pumping test most likely began from. [m]"""
        above = [depth for _, depth in self.known if depth < depth_m]
        return max(above) if above else self.now.level.depth_m

    def reached(self, depth_m: float, today: date) -> date | None:
        """The day within a year on which the level first stands as low as a depth [m]; None if it doesn't."""
        days = (today + timedelta(days=n) for n in range(366))
        return next((day for day in days if self.depth_on(day) >= depth_m), None)


def _of_year(day: date) -> float:
    return day.timetuple().tm_yday - 0.5


def levels_of_year(readings: Sequence[tuple[date | None, Level]]) -> YearOfLevels | None:
    """How a level goes through the year, if its readings tell.

    Parameters
    ----------
    readings : sequence of (date or None, Level)
        Each with its day, where that is known. [m]

    Returns
    -------
    YearOfLevels or None
        None unless dated readings of at least three months, a quarter of a year apart, contradict one level that stays
        (chi-squared, 95 %). Of a month read in several years the newest counts.

    Notes
    -----
    Between the months that were read the level is taken as straight: nothing is known of it there. A month's readings are
    weighed together as :func:`combine_levels` does.
    """
    dated = [(day, number) for number, (day, _) in enumerate(readings) if day is not None]
    months: dict[int, list[tuple[date, int]]] = {}
    for day, number in sorted(dated):
        months.setdefault(day.month, []).append((day, number))
    newest = {month: [one for one in rows if rows[-1][0].year == one[0].year] for month, rows in months.items()}
    known, levels = [], []
    for rows in newest.values():
        level = combine_levels([readings[number][1] for _, number in rows]).level
        known.append((sum(_of_year(day) for day, _ in rows) / len(rows), level.depth_m))
        levels.append(level)
    known.sort()
    if len(known) < SEASON_MONTHS or _widest(known) < SEASON_DAYS or combine_levels(levels).consistent:
        return None
    last = max(day for day, _ in dated)
    of_now = tuple(number for day, number in dated if (last - day).days <= SAME_DAYS)
    now = combine_levels([readings[number][1] for number in of_now])
    now = replace(now, outliers=tuple(of_now[number] for number in now.outliers))
    return YearOfLevels(now, of_now, last, tuple(known))


def _widest(known: Sequence[tuple[float, float]]) -> float:
    """Days of the year that readings span, round the year's end or not: the year less its longest gap. [d]"""
    days = [day for day, _ in known]
    return _YEAR_DAYS - max(later - earlier for earlier, later in pairwise([*days, days[0] + _YEAR_DAYS]))
