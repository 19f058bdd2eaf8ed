"""Frost: how many nights, what freezes first on the line, how deep it goes, and what answers it."""

from dataclasses import dataclass
from math import exp, log

import numpy as np

from squall.core.errors import require
from squall.core.sky.climate import Climate
from squall.core.sky.outside import DAYS_IN_MONTH

# How far the night's least air strays about the month's mean: a guess after common practice, no source. [K]
NIGHT_SPREAD_K = 3.5
# Heat that still air takes from a bare wall, and through a foam sleeve: guesses. [W/m2/K]
BARE_FILM, SLEEVED_FILM = 12.0, 2.5
# Heat to cool a kilogram by a kelvin, and to freeze one; density. Handbook values. [J/kg/K], [J/kg], [kg/m3]
WATER_HEAT, FUSION_HEAT, WATER_DENSITY = 4186.0, 334_000.0, 1000.0
# Moist soil: how readily warmth moves through it. [m2/s] From memory of soil physics textbooks: 0.4 to 0.8e-6.
SOIL_DIFFUSIVITY = 0.6e-6
YEAR_S = 365.25 * 86_400.0


def frost_nights(climate: Climate) -> tuple[float, ...]:
    """Nights below zero in each month. [-]

    Parameters
    ----------
    climate : Climate
        Gives each month's mean least air.

    Notes
    -----
    The night's least air is taken as normally spread about the month's mean.
    """
    from scipy.special import ndtr

    return tuple(
        float(days * ndtr((0.0 - month.t_min_c) / NIGHT_SPREAD_K))
        for month, days in zip(climate.months, DAYS_IN_MONTH, strict=True)
    )


def frozen_months(climate: Climate) -> frozenset[int]:
    """Months whose mean day is below zero, January 0: ponds keep their ice, and a line that stands full stays shut."""
    return frozenset(n for n, month in enumerate(climate.months) if (month.t_min_c + month.t_max_c) / 2.0 < 0.0)


@dataclass(frozen=True)
class Freezing:
    """Hours of a cold night until water that stands begins to freeze, and until it is a plug; infinite if it never does."""

    begins_h: float
    plugged_h: float


def pipe_freezes(bore_m: float, water_c: float, air_c: float, film_w_m2_k: float) -> Freezing:
    """When the standing water in a pipe freezes.

    Parameters
    ----------
    bore_m : float
        Above 0. [m]
    water_c, air_c : float
        At the beginning; steady through the night. [°C]
    film_w_m2_k : float
        Heat taken at the wall, :data:`BARE_FILM` or :data:`SLEEVED_FILM`. [W/m2/K]

    Notes
    -----
    One lump: rho c (d/4) dT/dt = -h (T - T_air) down to nil, then rho L (d/4)/(h |T_air|) until
    solid. The wall's own heat is left out.
    """
    require("bore", bore_m, 0.001, 1.0, "bore")
    if air_c >= 0.0:
        return Freezing(float("inf"), float("inf"))
    depth = bore_m / 4.0
    cooling = WATER_DENSITY * WATER_HEAT * depth / film_w_m2_k * log((max(water_c, 0.0) - air_c) / -air_c)
    solid = WATER_DENSITY * FUSION_HEAT * depth / (film_w_m2_k * -air_c)
    return Freezing(cooling / 3600.0, (cooling + solid) / 3600.0)


def trough_ice_m(air_c: float, hours: float, water_c: float, depth_m: float) -> float:
    """Ice on an open trough after a cold night. [m]

    The whole of its water must cool first; then ice grows by what its upper face gives off, at most
    to the bottom.

    Examples
    --------
    >>> trough_ice_m(5.0, 12.0, 4.0, 0.3)
    0.0
    """
    if air_c >= 0.0:
        return 0.0
    cooling = WATER_DENSITY * WATER_HEAT * depth_m / BARE_FILM * log((max(water_c, 0.0) - air_c) / -air_c) / 3600.0
    left = max(hours - cooling, 0.0)
    return min(BARE_FILM * -air_c * left * 3600.0 / (WATER_DENSITY * FUSION_HEAT), depth_m)


# Water in an open trough stays this far over freezing while it is still liquid after cold days: a guess. [°C]
LEAST_WATER_C = 0.5


def trough_water_c(air_by_day_c: float, water_c: float) -> float:
    """Water in an open trough at dusk, after days of such air: as cold as they are, no warmer than it came. [°C]

    Parameters
    ----------
    air_by_day_c : float
        Mean air of the days before. [°C]
    water_c : float
        As it comes from the source. [°C]

    Examples
    --------
    >>> trough_water_c(-8.0, 12.0)
    0.5
    """
    return min(max(air_by_day_c, LEAST_WATER_C), max(water_c, LEAST_WATER_C))


def soil_least_c(climate: Climate, depth_m: float) -> float:
    """Coldest that the ground gets at a depth in a mean year. [°C]

    Notes
    -----
    The year's warmth as one wave that fades with depth: T = mean - swing e^(-z/D), D = sqrt(a P/pi)
    (Carslaw and Jaeger, Conduction of Heat in Solids, 2nd ed., section 2.6, from memory).
    """
    means = [(m.t_min_c + m.t_max_c) / 2.0 for m in climate.months]
    mean, swing = float(np.mean(means)), (max(means) - min(means)) / 2.0
    damping = (SOIL_DIFFUSIVITY * YEAR_S / np.pi) ** 0.5
    return mean - swing * exp(-depth_m / damping)
