"""The air of a place: guessed from latitude and height until somebody types it, and marked as a guess wherever it decides.

Light is known for anywhere (:mod:`squall.core.sky.world`), air is not. What hangs on it: the cold that raises a
panel's volts, the heat that wears a cable, frost, and what crops drink. The guess is rough and from memory (the table
names no source); rain is never guessed: it counts as none.
"""

import csv
from dataclasses import dataclass, replace
from functools import cache
from importlib.resources import files

import numpy as np

from squall.core.errors import OutOfRange
from squall.core.reason import Quantity, Reason
from squall.core.sky.climate import Climate

# Air cools so much with height: the standard atmosphere (ISO 2533:1975). [K/m]
LAPSE_K_M = 0.0065
# Between night and afternoon of a mean day, inland: a guess. [K]
DAY_SPREAD_K = 12.0
# No mean month is guessed colder, however high the place: only on ice caps, where nobody pumps. [°C]
_COLDEST_C = -33.0
# The warmest month, January first: July in the north, January in the south.
_WARMEST = {True: 6, False: 0}


@dataclass(frozen=True)
class Air:
    """Air by month, January first, and its records.

    Attributes
    ----------
    t_min_c, t_max_c : tuple[float, ...]
        Mean least and greatest of the day. [°C]
    record_low_c, record_high_c : float
        The coldest and the hottest there ever was. [°C]
    rain_mm, wet_days : tuple[float, ...]
        Of each month; nil where nobody knows. [mm], [-]
    guessed : bool
        Whether nobody typed it.
    """

    t_min_c: tuple[float, ...]
    t_max_c: tuple[float, ...]
    record_low_c: float
    record_high_c: float
    rain_mm: tuple[float, ...] = (0.0,) * 12
    wet_days: tuple[float, ...] = (0.0,) * 12
    guessed: bool = False


@cache
def _by_latitude() -> dict[str, list[float]]:
    text = (files("squall.core.sky") / "data" / "air_by_latitude.csv").read_text("utf8")
    rows = list(csv.DictReader(line for line in text.splitlines() if not line.startswith("#")))
    return {name: [float(row[name]) for row in rows] for name in rows[0]}


def _course(latitude_deg: float) -> list[float]:
    """How far each month is on its way from the coldest (-1) to the warmest (1)."""
    warmest = _WARMEST[latitude_deg >= 0.0]
    return [float(np.cos(2.0 * np.pi * (month - warmest - 0.3) / 12.0)) for month in range(12)]


def guessed_air(latitude_deg: float, altitude_m: float) -> Air:
    """Air guessed from latitude and height alone: good for a first look, not for a frost.

    Parameters
    ----------
    latitude_deg : float
        North positive. [°]
    altitude_m : float
        Above the sea. [m]

    Examples
    --------
    >>> air = guessed_air(-30.0, 1000.0)
    >>> round(air.t_min_c[6]), round(air.t_max_c[0]), air.guessed
    (-2, 25, True)
    """
    table = _by_latitude()
    mean, swing, cold, heat = (
        float(np.interp(latitude_deg, table["latitude_deg"], table[name]))
        for name in ("mean_c", "swing_c", "cold_c", "heat_c")
    )
    mean -= LAPSE_K_M * max(altitude_m, 0.0)
    months = [mean + swing * way for way in _course(latitude_deg)]
    low, high = (
        [max(month + side * DAY_SPREAD_K / 2.0, _COLDEST_C + 6.0 * side) for month in months] for side in (-1.0, 1.0)
    )
    return Air(tuple(low), tuple(high), max(min(low) - cold, -55.0), max(high) + heat, guessed=True)


def air_between(hottest_c: float, coldest_c: float, latitude_deg: float, altitude_m: float) -> Air:
    """Air where two things are known: the hottest month's afternoon and the coldest month's night.

    Parameters
    ----------
    hottest_c : float
        Mean greatest of the hottest month. [°C]
    coldest_c : float
        Mean least of the coldest month. [°C]
    latitude_deg, altitude_m : float
        For the months' order and for how far the records lie beyond. [°], [m]

    Raises
    ------
    OutOfRange
        If the hottest is not above the coldest.
    """
    if hottest_c <= coldest_c:
        raise OutOfRange(
            "hottest-month", Quantity(hottest_c, "temperature"), Reason("above-coldest", coldest=coldest_c)
        )
    guess = guessed_air(latitude_deg, altitude_m)
    span = min(DAY_SPREAD_K, hottest_c - coldest_c)
    middle, swing = (hottest_c + coldest_c) / 2.0, (hottest_c - coldest_c - span) / 2.0
    course = _course(latitude_deg)
    scale = max(abs(way) for way in course)
    months = [middle + swing * way / scale for way in course]
    low, high = records_beyond(guess, coldest_c, hottest_c)
    return replace(
        guess,
        t_min_c=tuple(month - span / 2.0 for month in months),
        t_max_c=tuple(month + span / 2.0 for month in months),
        record_low_c=low,
        record_high_c=high,
        guessed=False,
    )


def records_beyond(guess: Air, coldest_c: float, hottest_c: float) -> tuple[float, float]:
    """Records as far beyond the coldest and the hottest month as those of a guess lie beyond its own. [°C]"""
    return (
        coldest_c - (min(guess.t_min_c) - guess.record_low_c),
        hottest_c + (guess.record_high_c - max(guess.t_max_c)),
    )


def air_like(climate: Climate) -> Air:
    """The air of a known climate, for a place that is like it. [°C], [mm]"""
    return Air(
        tuple(month.t_min_c for month in climate.months),
        tuple(month.t_max_c for month in climate.months),
        climate.record_low_c,
        climate.record_high_c,
        tuple(month.rain_mm for month in climate.months),
        tuple(month.wet_days for month in climate.months),
        climate.air_guessed,
    )
