"""What crops drink: crop coefficients by stage over reference evapotranspiration, after FAO paper 56."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import accumulate

from squall.core.errors import OutOfRange, require
from squall.core.need.evapotranspiration import hargreaves, penman_monteith, saturation_kpa
from squall.core.reason import Reason
from squall.core.sky.climate import Climate
from squall.core.sky.outside import DAYS_IN_MONTH, MIDDLE_DAYS, day_sky

# Where wind is not known: FAO paper 56, page 63, the mean of 2000 stations. [m/s]
USUAL_WIND_M_S = 2.0
# Dew point below the night's least in dry country: FAO paper 56, page 58 and annex 6. [K]
DRY_DEW_BELOW_MIN_K = 2.0


@dataclass(frozen=True)
class Crop:
    """A crop's coefficients and stages.

    Attributes
    ----------
    name : str
        In plain words.
    kc_initial, kc_middle, kc_end : float
        Crop coefficients. [-]
    stage_days : tuple[int, int, int, int]
        Initial, development, middle, late. [d]
    source : str
        Where they come from.
    """

    name: str
    kc_initial: float
    kc_middle: float
    kc_end: float
    stage_days: tuple[int, int, int, int]
    source: str

    def coefficient(self, day: float) -> float:
        """Kc on a day since planting, 0 outside the season: figure 34 of the paper. [-]"""
        first, second, third, last = accumulate(self.stage_days)
        if not 0.0 <= day <= last:
            return 0.0
        if day <= first:
            return self.kc_initial
        if day <= second:
            return self.kc_initial + (self.kc_middle - self.kc_initial) * (day - first) / (second - first)
        if day <= third:
            return self.kc_middle
        return self.kc_middle + (self.kc_end - self.kc_middle) * (day - third) / (last - third)

    def by_month(self, first_month: int) -> tuple[float, ...]:
        """Mean Kc of each month, January first, if planted on the first of a month (0 to 11). [-]"""
        means = [0.0] * 12
        day = 0
        for step in range(12):
            month = (first_month + step) % 12
            days = DAYS_IN_MONTH[month]
            means[month] = sum(self.coefficient(day + n + 0.5) for n in range(days)) / days
            day += days
        return tuple(means)


def monthly_et0(climate: Climate, latitude_deg: float, altitude_m: float, method: str) -> tuple[float, ...]:
    """Reference evapotranspiration of each month's middle day.

    Parameters
    ----------
    climate : Climate
        Its months.
    latitude_deg, altitude_m : float
        Of the place. [°], [m]
    method : str
        ``penman-monteith`` or ``hargreaves``.

    Returns
    -------
    tuple[float, ...]
        January first. [mm/d]

    Notes
    -----
    Penman-Monteith takes light as clearness times that outside the atmosphere, the dew point 2 K
    under the night's least (dry country), and wind as 2 m/s: the paper's ways for missing data.

    References
    ----------
    FAO Irrigation and Drainage Paper 56 (1998), equations 6, 48 and 52.
    """
    found = []
    for month, middle in zip(climate.months, MIDDLE_DAYS, strict=True):
        sky = day_sky(latitude_deg, middle)
        if method == "hargreaves":
            found.append(hargreaves(sky, month.t_min_c, month.t_max_c))
        elif method == "penman-monteith":
            damp = saturation_kpa(month.t_min_c - DRY_DEW_BELOW_MIN_K)
            light = min(month.clearness, 0.75) * sky.extraterrestrial_mj_m2
            found.append(penman_monteith(sky, altitude_m, month.t_min_c, month.t_max_c, damp, USUAL_WIND_M_S, light))
        else:
            raise OutOfRange("method", method, Reason("one-of", names="penman-monteith, hargreaves"))
    return tuple(found)


def effective_rain_mm(month_mm: float) -> float:
    """What a month's rain saves of irrigation.

    Parameters
    ----------
    month_mm : float
        Rain of the month, 0 or more. [mm]

    Returns
    -------
    float
        0.8 P - 25 above 75 mm, 0.6 P - 10 below, never below nil. [mm]

    References
    ----------
    C. Brouwer, M. Heibloem, Irrigation Water Management Training Manual 3 (FAO 1986), section 1.4.

    Examples
    --------
    >>> effective_rain_mm(100.0)
    55.0
    """
    require("rain-month", month_mm / 1000.0, 0.0, 3.0, "rain")
    return max(0.8 * month_mm - 25.0 if month_mm > 75.0 else 0.6 * month_mm - 10.0, 0.0)


def crop_litres(
    crop: Crop, first_month: int, area_m2: float, efficiency: float, et0_mm: Sequence[float], rain_mm: Sequence[float]
) -> tuple[float, ...]:
    """Water for a planted area on the mean day of each month.

    Parameters
    ----------
    crop : Crop
        Coefficients and stages.
    first_month : int
        Planted on its first day, January 0.
    area_m2 : float
        Planted. [m2]
    efficiency : float
        Share of the water that reaches the roots, above 0 to 1. [-]
    et0_mm : sequence of float
        Reference evapotranspiration by month. [mm/d]
    rain_mm : sequence of float
        Rain by month. [mm]

    Returns
    -------
    tuple[float, ...]
        January first. [L/d]

    Notes
    -----
    (Kc ET0 - effective rain) x area / efficiency; a millimetre on a square metre is a litre.
    """
    require("area", area_m2, 0.0, 1e7, "ground")
    require("efficiency", efficiency, 0.05, 1.0, "number")
    litres = []
    for kc, et0, rain, days in zip(crop.by_month(first_month), et0_mm, rain_mm, DAYS_IN_MONTH, strict=True):
        saved = effective_rain_mm(rain) / days if kc > 0.0 else 0.0
        litres.append(max(kc * et0 - saved, 0.0) * area_m2 / efficiency)
    return tuple(litres)
