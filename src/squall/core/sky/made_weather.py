"""Made weather: daily clearness that keeps a month's mean and the persistence of real days, seeded.

Each day's clearness is drawn from the distribution that Bendt, Collares-Pereira and Rabl found to
hold anywhere, given the month's mean: exponential between a dull and a clear day. Days follow one
another with the lag-one correlation of 0.29 that Graham, Hollands and Brunger found in the
normalised series. Passing clouds within a day are not made: the day's light keeps its mean shape.

References
----------
P. Bendt, M. Collares-Pereira, A. Rabl, Solar Energy 27 (1981), 1-5.
K. G. T. Hollands, R. G. Huget, Solar Energy 30 (1983), 195-209 (greatest clearness).
V. A. Graham, K. G. T. Hollands, T. E. Brunger, Solar Energy 40 (1988), 83-92.
All from memory; the generator's own mean and correlation are tested.
"""

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from squall.core.errors import require
from squall.core.roots import root
from squall.core.sky.climate import DAYS_IN_MONTH, Climate

Floats = NDArray[np.float64]
DAYS = 365
MONTH_OF_DAY = np.repeat(np.arange(12), DAYS_IN_MONTH)
PERSISTENCE = 0.29
LEAST_CLEARNESS = 0.05
MOST_YEARS = 100


def most_clearness(mean: float) -> float:
    """Clearness of the clearest day in a month of given mean (Hollands and Huget 1983). [-]"""
    return max(0.6313 + 0.267 * mean - 11.9 * (mean - 0.75) ** 8, mean + 0.02)


@lru_cache(maxsize=512)
def slope_of(mean: float) -> float:
    """The exponent gamma for which the distribution has a month's mean. [-]

    Parameters
    ----------
    mean : float
        Between the dullest and the clearest day. [-]

    Notes
    -----
    The mean of a density that grows as e^(gamma K) between K0 and K1 is
    [(K1 - 1/g) e^(g K1) - (K0 - 1/g) e^(g K0)] / (e^(g K1) - e^(g K0)).
    """
    low, high = LEAST_CLEARNESS, most_clearness(mean)

    def off(gamma: float) -> float:
        span = high - low
        if abs(gamma) * span < 1e-6:
            return (low + high) / 2.0 + gamma * span**2 / 12.0 - mean
        if gamma > 0.0:
            fade = np.exp(-gamma * span)
            return float(((high - 1 / gamma) - (low - 1 / gamma) * fade) / (1.0 - fade)) - mean
        fade = np.exp(gamma * span)
        return float(((high - 1 / gamma) * fade - (low - 1 / gamma)) / (fade - 1.0)) - mean

    return root(off, -400.0, 400.0)


def clearness_at(share: Floats, mean: float) -> Floats:
    """Clearness that a given share of a month's days stay under. [-]

    Parameters
    ----------
    share : NDArray
        0 to 1. [-]
    mean : float
        The month's. [-]
    """
    low, high, gamma = LEAST_CLEARNESS, most_clearness(mean), slope_of(mean)
    span = high - low
    if abs(gamma) * span < 1e-6:
        return low + share * span
    # F(K) = (e^(g (K - low)) - 1) / (e^(g span) - 1), turned round.
    if gamma > 0.0:
        clearness: Floats = high + np.log(share + (1.0 - share) * np.exp(-gamma * span)) / gamma
    else:
        clearness = low + np.log1p(share * np.expm1(gamma * span)) / gamma
    return np.clip(clearness, low, high)


def made_years(climate: Climate, years: int, seed: int, light_factor: float = 1.0) -> Floats:
    """Daily clearness of many made years.

    Parameters
    ----------
    climate : Climate
        Gives each month's mean.
    years : int
        1 to 100.
    seed : int
        The same seed gives the same weather, 0 or more.
    light_factor : float
        Brighter or duller than the climate's months, 0.3 to 1.5. [-]

    Returns
    -------
    NDArray
        Shape (years, 365), January first. [-]
    """
    require("years-made-weather", years, 1, MOST_YEARS, "number")
    require("seed-weather", seed, 0, 2**31 - 1, "number")
    from scipy.special import ndtr

    kicks = np.random.default_rng(seed).standard_normal(years * DAYS)
    normal = np.empty(years * DAYS)
    normal[0] = kicks[0]
    fresh = np.sqrt(1.0 - PERSISTENCE**2)
    for day in range(1, normal.size):
        normal[day] = PERSISTENCE * normal[day - 1] + fresh * kicks[day]
    share = np.asarray(ndtr(normal)).reshape(years, DAYS)
    clearness = np.empty((years, DAYS))
    for month, here in enumerate(climate.months):
        days = month == MONTH_OF_DAY
        mean = min(max(here.clearness * light_factor, 0.08), 0.83)
        clearness[:, days] = clearness_at(share[:, days], mean)
    return clearness
