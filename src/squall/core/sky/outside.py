"""What the sun could give on a day, were there no atmosphere, and how long the day is.

Equation numbers are those of R. G. Allen, L. S. Pereira, D. Raes, M. Smith, "Crop
evapotranspiration", FAO Irrigation and Drainage Paper 56, Rome 1998.
"""

from dataclasses import dataclass
from math import acos, cos, pi, sin, tan

from squall.core.errors import require

SOLAR_CONSTANT_MJ_M2_MIN = 0.0820
# As pvlib has it. [W/m2]
SOLAR_CONSTANT_W_M2 = 1366.1
# As far north as the world's table of light reaches; southward it ends sooner, which the table says itself.
MOST_LATITUDE_DEG = 73.5
DAYS_IN_MONTH = (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)
# Klein's days, on which the daily extraterrestrial light equals the month's mean.
# S. A. Klein, Solar Energy 19 (1977), 325-329, table 1.
TYPICAL_DAYS = (17, 16, 16, 15, 15, 11, 17, 16, 15, 15, 14, 10)


@dataclass(frozen=True)
class DaySky:
    """What the sun could give on one day: outside the atmosphere [MJ/m2], and daylight [h]."""

    extraterrestrial_mj_m2: float
    daylight_h: float


def day_sky(latitude_deg: float, day_of_year: int) -> DaySky:
    """Extraterrestrial radiation and daylight of a day, equations 21 to 25 and 34.

    Parameters
    ----------
    latitude_deg : float
        North positive, -73.5 to 73.5; where the sun does not set the day is 24 h. [°]
    day_of_year : int
        1 to 366.

    Returns
    -------
    DaySky
        Radiation and daylight.

    Raises
    ------
    OutOfRange
        Outside those ranges.

    Examples
    --------
    >>> round(day_sky(-20.0, 246).extraterrestrial_mj_m2, 1)
    32.2
    """
    require("latitude", latitude_deg, -MOST_LATITUDE_DEG, MOST_LATITUDE_DEG, "angle")
    require("day-year", day_of_year, 1, 366, "number")
    distance = 1.0 + 0.033 * cos(2.0 * pi * day_of_year / 365.0)
    declination = 0.409 * sin(2.0 * pi * day_of_year / 365.0 - 1.39)
    sunset, shape = _sunset_and_shape(latitude_deg, declination)
    return DaySky(24.0 * 60.0 / pi * SOLAR_CONSTANT_MJ_M2_MIN * distance * shape, 24.0 / pi * sunset)


def _sunset_and_shape(latitude_deg: float, declination: float) -> tuple[float, float]:
    """Hour angle of sunset, and the day's light on the level over its light square to the sun at noon, both in radians."""
    latitude = latitude_deg * pi / 180.0
    sunset = acos(max(-1.0, min(1.0, -tan(latitude) * tan(declination))))
    return sunset, sunset * sin(latitude) * sin(declination) + cos(latitude) * cos(declination) * sin(sunset)


# The middle day of each month, January first.
MIDDLE_DAYS = (15, 46, 75, 105, 135, 162, 198, 228, 258, 288, 318, 344)


def typical_outside_kwh(latitude_deg: float, month: int) -> float:
    """Light on the level outside the atmosphere on Klein's day of a month, January 0: the month's mean. [kWh/m2]"""
    return _outside_kwh(latitude_deg, sum(DAYS_IN_MONTH[:month]) + TYPICAL_DAYS[month])


def _outside_kwh(latitude_deg: float, day_of_year: int) -> float:
    """As equation 21, with declination and distance by J. W. Spencer, Search 2 (1971), 172: within 0.3 % of SPA. [kWh/m2]"""
    b = 2.0 * pi * (day_of_year - 1) / 365.0
    declination = (
        0.006918 - 0.399912 * cos(b) + 0.070257 * sin(b) - 0.006758 * cos(2 * b) + 0.000907 * sin(2 * b)
        - 0.002697 * cos(3 * b) + 0.00148 * sin(3 * b)
    )  # fmt: skip
    nearness = 1.00011 + 0.034221 * cos(b) + 0.00128 * sin(b) + 0.000719 * cos(2 * b) + 0.000077 * sin(2 * b)
    _, shape = _sunset_and_shape(latitude_deg, declination)
    return 24.0 / pi * SOLAR_CONSTANT_W_M2 / 1000.0 * nearness * shape


def daylight_outside_kwh(latitude_deg: float, month: int) -> float:
    """Light on the level outside the atmosphere on the middle day of a month, January 0. [kWh/m2]"""
    return day_sky(latitude_deg, MIDDLE_DAYS[month]).extraterrestrial_mj_m2 / 3.6
