"""What the coming ninety days will bring: the same days of ten made years, with what has worn, in ranges."""

from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np

from squall.core.errors import SquallError
from squall.core.sky.frost import frost_nights
from squall.core.sky.made_weather import DAYS
from squall.core.sky.outside import DAYS_IN_MONTH
from squall.core.years.many_days import days_of
from squall.core.years.outlook import outlook_of
from squall.core.years.record import longest_run
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.job.worked.place import climate_of

AHEAD_DAYS = 90


@dataclass(frozen=True)
class Range:
    """A figure in the best, the middling and the worst of the years."""

    best: float
    middle: float
    worst: float


@dataclass(frozen=True)
class Ahead:
    """The coming days of a kit.

    Attributes
    ----------
    until : date
        Their last.
    short_days : Range
        On how many of them water is missing. [d]
    short_l : Range
        How much in all, which somebody has to bring. [L]
    longest_d : int
        Most short days in a row, of all years. [d]
    litres_a_day : Range
        What comes on their mean day: best is most. [L/d]
    wanted_l : float
        What is wanted on it. [L/d]
    frost : float or None
        Nights below zero; None where the climate isn't known.
    left : float
        Share of its flow that the kit was taken to give still. [-]
    """

    until: date
    short_days: Range
    short_l: Range
    longest_d: int
    litres_a_day: Range
    wanted_l: float
    frost: float | None
    left: float


def ahead_of(a: Assessment, chosen: KitAssessment, today: date, left: float = 1.0) -> Ahead:
    """The same ninety days of each of ten made years, tank and bank as they stood in that year.

    Parameters
    ----------
    a, chosen : Assessment, KitAssessment
        The job worked out, and its kit.
    today : date
        The first of the days.
    left : float
        Share of its flow that the kit still gives; no more than all of it counts. [-]
    """
    left = min(max(left, 0.0), 1.0)
    found = chosen.outlook
    if left < 1.0:
        worn = chosen.season.means.less(left, banked=chosen.kit.battery is not None)
        found = outlook_of(chosen.setup, days_of(chosen.light), worn, chosen.use)
    first = min(today.timetuple().tm_yday, DAYS) - 1
    rows = (np.arange(found.years)[:, None] * DAYS + first + np.arange(AHEAD_DAYS)) % found.is_short.size
    short, missing, came = (
        found.is_short[rows],
        np.where(found.is_short, found.short_l, 0.0)[rows],
        found.pumped_l[rows],
    )
    until = today + timedelta(days=AHEAD_DAYS - 1)
    return Ahead(
        until, _range(short.sum(axis=1)), _range(missing.sum(axis=1)), max(longest_run(row) for row in short),
        _range(-came.mean(axis=1), sign=-1.0), float(found.wanted_l[rows].mean()), _frost(a, today), left,
    )  # fmt: skip


def _range(years: np.ndarray, sign: float = 1.0) -> Range:
    return Range(sign * float(years.min()), sign * float(np.median(years)), sign * float(years.max()))


def _frost(a: Assessment, today: date) -> float | None:
    try:
        nights = frost_nights(climate_of(a.job, a.parts))
    except SquallError:
        return None
    months = [(today + timedelta(days=n)).month - 1 for n in range(AHEAD_DAYS)]
    return sum(nights[month] / DAYS_IN_MONTH[month] for month in months)
