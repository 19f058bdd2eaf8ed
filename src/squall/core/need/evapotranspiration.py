"""Reference evapotranspiration of a day: Penman-Monteith and Hargreaves, after FAO paper 56.

Equation numbers are those of R. G. Allen, L. S. Pereira, D. Raes, M. Smith, "Crop
evapotranspiration", FAO Irrigation and Drainage Paper 56, Rome 1998.
"""

from math import exp, sqrt

from squall.core.errors import OutOfRange, require
from squall.core.reason import Quantity, Reason
from squall.core.sky.outside import DaySky

ALBEDO = 0.23
STEFAN_BOLTZMANN_MJ = 4.903e-9


def saturation_kpa(air_c: float) -> float:
    """Saturation vapour pressure over air temperature, equation 11. [kPa]

    Examples
    --------
    >>> round(saturation_kpa(20.0), 3)
    2.338
    """
    return 0.6108 * exp(17.27 * air_c / (air_c + 237.3))


def _check_air(t_min_c: float, t_max_c: float) -> None:
    require("least-air-temperature", t_min_c, -40.0, 50.0, "temperature")
    require("greatest-air-temperature", t_max_c, -40.0, 60.0, "temperature")
    if t_min_c > t_max_c:
        raise OutOfRange("least-air-temperature", Quantity(t_min_c, "temperature"), Reason("most", t_max=t_max_c))


def hargreaves(sky: DaySky, t_min_c: float, t_max_c: float) -> float:
    """Reference evapotranspiration from temperatures alone, equation 52.

    Parameters
    ----------
    sky : DaySky
        Of the day.
    t_min_c, t_max_c : float
        Least and greatest air temperature. [°C]

    Returns
    -------
    float
        0.0023 (T + 17.8) sqrt(Tmax - Tmin) Ra, with Ra as millimetres of water. [mm/d]
    """
    _check_air(t_min_c, t_max_c)
    mean = (t_min_c + t_max_c) / 2.0
    return max(0.0023 * (mean + 17.8) * sqrt(t_max_c - t_min_c) * 0.408 * sky.extraterrestrial_mj_m2, 0.0)


def solar_from_sunshine(sky: DaySky, sunshine_h: float) -> float:
    """Solar radiation from hours of bright sun, equation 35 with a = 0.25, b = 0.50. [MJ/m2]

    Raises
    ------
    OutOfRange
        For more sunshine than the day has.
    """
    require("hours-sunshine", sunshine_h, 0.0, round(sky.daylight_h, 6), "hours")
    return (0.25 + 0.50 * sunshine_h / sky.daylight_h) * sky.extraterrestrial_mj_m2


def vapour_from_humidity(t_min_c: float, t_max_c: float, rh_min_percent: float, rh_max_percent: float) -> float:
    """Actual vapour pressure from both humidities of the day, equation 17. [kPa]

    Examples
    --------
    >>> round(vapour_from_humidity(18.0, 25.0, 54.0, 82.0), 2)
    1.7
    """
    require("least-humidity", rh_min_percent / 100.0, 0.0, 1.0, "share")
    require("greatest-humidity", rh_max_percent / 100.0, rh_min_percent / 100.0, 1.0, "share")
    cool, warm = saturation_kpa(t_min_c) * rh_max_percent, saturation_kpa(t_max_c) * rh_min_percent
    return (cool + warm) / 200.0


def penman_monteith(
    sky: DaySky,
    altitude_m: float,
    t_min_c: float,
    t_max_c: float,
    ea_kpa: float,
    wind_2m_m_s: float,
    solar_mj_m2: float,
    soil_heat_mj_m2: float = 0.0,
) -> float:
    """Reference evapotranspiration, equation 6 with net radiation by equations 37 to 40.

    Parameters
    ----------
    sky : DaySky
        Of the day.
    altitude_m : float
        For air pressure, equation 7. [m]
    t_min_c, t_max_c : float
        Least and greatest air temperature. [°C]
    ea_kpa : float
        Actual vapour pressure. [kPa]
    wind_2m_m_s : float
        Wind two metres up. [m/s]
    solar_mj_m2 : float
        Solar radiation on the level. [MJ/m2]
    soil_heat_mj_m2 : float
        Heat into the soil. [MJ/m2]

    Returns
    -------
    float
        Never below nil. [mm/d]

    Raises
    ------
    OutOfRange
        For impossible weather, such as more sun than outside the atmosphere.
    """
    _check_air(t_min_c, t_max_c)
    require("altitude", altitude_m, -430.0, 6000.0, "length")
    require("vapour-pressure", ea_kpa, 0.0, 10.0, "vapour")
    require("wind", wind_2m_m_s, 0.0, 40.0, "wind")
    require("solar-radiation", solar_mj_m2, 0.0, round(sky.extraterrestrial_mj_m2, 6), "radiation")
    mean = (t_min_c + t_max_c) / 2.0
    slope = 4098.0 * saturation_kpa(mean) / (mean + 237.3) ** 2
    pressure = 101.3 * ((293.0 - 0.0065 * altitude_m) / 293.0) ** 5.26
    gamma = 0.665e-3 * pressure
    saturation = (saturation_kpa(t_min_c) + saturation_kpa(t_max_c)) / 2.0
    clear = (0.75 + 2e-5 * altitude_m) * sky.extraterrestrial_mj_m2
    # Where the sun stays down no sky is clear or cloudy by its light: half and half.
    cloud = 1.35 * (min(solar_mj_m2 / clear, 1.0) if clear > 0.0 else 0.5) - 0.35
    kelvin4 = ((t_max_c + 273.16) ** 4 + (t_min_c + 273.16) ** 4) / 2.0
    long_wave = STEFAN_BOLTZMANN_MJ * kelvin4 * (0.34 - 0.14 * sqrt(ea_kpa)) * cloud
    net = (1.0 - ALBEDO) * solar_mj_m2 - long_wave
    dry = gamma * 900.0 / (mean + 273.0) * wind_2m_m_s * (saturation - ea_kpa)
    thirst = (0.408 * slope * (net - soil_heat_mj_m2) + dry) / (slope + gamma * (1.0 + 0.34 * wind_2m_m_s))
    return max(float(thirst), 0.0)
