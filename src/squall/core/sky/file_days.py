"""What a weather file's year tells of its place: each month's days by how bright they are, and its air.

So a file rules wherever the world's table would have: the verdict, the ranking and the doubt draw their made days from
the file's own spread, and the years may still be run through its very hours (:func:`squall.core.sky.whole_year.measured_light`).

References
----------
Shares of sorted days at the middle of each day's own share: A. Hazen, Trans. ASCE 77 (1914), 1539-1640, from memory.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from squall.core.errors import OutOfRange
from squall.core.reason import Quantity, Reason
from squall.core.sky.made_weather import DAYS, MONTH_OF_DAY
from squall.core.sky.outside import typical_outside_kwh
from squall.core.sky.whole_year import MeasuredYear
from squall.core.sky.world import KWH_OF_MEAN, MonthLight, shares_of_days

Floats = NDArray[np.float64]
# How far a month of a file's year may be off what is usual there: a choice of ours, see made_weather's spread. [-]
FILE_DOUBT = 0.08
# No month anywhere is clearer on the mean: one that is belongs to another place or season. A choice of ours. [-]
MOST_MONTH_CLEARNESS = 0.85
# Where less light than this stands outside the air, a ratio says nothing. [kWh/m2]
_DUSK_KWH = 0.6


@dataclass(frozen=True)
class FileMonth:
    """One month of a file: its days' light on the level, and its mean day's least and greatest air. [kWh/m2], [°C]"""

    light: MonthLight
    t_min_c: float
    t_max_c: float


def months_of_file(year: MeasuredYear) -> tuple[FileMonth, ...]:
    """The twelve months of a year of hours.

    Parameters
    ----------
    year : MeasuredYear
        8,760 hours.

    Notes
    -----
    The shares of a month's days are read between its sorted days (each standing for the middle of its own share) and
    set to the month's mean.
    """
    light = year.whole_w_m2.reshape(DAYS, 24).mean(axis=1) * KWH_OF_MEAN
    air: Floats = year.air_c.reshape(DAYS, 24)
    shares = shares_of_days()
    found = []
    for month in range(12):
        here = np.equal(MONTH_OF_DAY, month)
        days = light[here]
        mean, quantiles = float(days.mean()), np.quantile(days, shares, method="hazen")
        drawn = float(np.trapezoid(quantiles, shares))
        spread = quantiles * (mean / drawn if drawn > 0.0 else 1.0)
        months_light = MonthLight(mean, tuple(spread.tolist()), FILE_DOUBT)
        low, high = float(air[here].min(axis=1).mean()), float(air[here].max(axis=1).mean())
        found.append(FileMonth(months_light, low, high))
    return tuple(found)


def require_light_of(months: tuple[FileMonth, ...], latitude_deg: float) -> None:
    """Refuse a file whose months can't be of this latitude: of the other half of the world, or far off. [°]

    Raises
    ------
    OutOfRange
        If a month is brighter than any sky lets through here.
    """
    for number, month in enumerate(months):
        outside = typical_outside_kwh(latitude_deg, number)
        if outside < _DUSK_KWH and month.light.mean_kwh_m2 < 2.0 * _DUSK_KWH:
            continue
        most = MOST_MONTH_CLEARNESS * outside
        if month.light.mean_kwh_m2 > most:
            raise OutOfRange(
                Reason("file-light-of-month", month=number),
                Quantity(month.light.mean_kwh_m2, "daylight"),
                Reason("most-through-air-here", most=most),
            )
