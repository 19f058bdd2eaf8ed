"""Made weather: daily clearness that keeps a month's mean and the persistence of real days, seeded.

Each day's clearness is drawn from the distribution that Bendt, Collares-Pereira and Rabl found to
hold anywhere, given the month's mean: exponential between a dull and a clear day. Days follow one
another with the lag-one correlation of 0.29 that Graham, Hollands and Brunger found in the
normalised series. Passing clouds within a day are not made: the day's light keeps its mean shape.

Where the world's table knows the place (:mod:`squall.core.sky.world`), the days are drawn from its own
spread instead, with the same persistence. How much the months of one name differ from year to year follows
from both: 3 to 5 % of a month's mean in dry country, 5 to 10 % in mixed, 15 % in a northern winter; real months differ as much or more (C. A. Gueymard,
S. M. Wilcox, Solar Energy 85 (2011), 1068-1084), and five years of reanalysis are few to tell.

References
----------
P. Bendt, M. Collares-Pereira, A. Rabl, Solar Energy 27 (1981), 1-5.
K. G. T. Hollands, R. G. Huget, Solar Energy 30 (1983), 195-209 (greatest clearness).
V. A. Graham, K. G. T. Hollands, T. E. Brunger, Solar Energy 40 (1988), 83-92.
All from memory; the generator's own mean and correlation are tested.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from squall.core.errors import require
from squall.core.roots import root
from squall.core.sky.climate import Climate
from squall.core.sky.outside import DAYS_IN_MONTH
from squall.core.sky.world import PlaceLight, shares_of_days

Floats = NDArray[np.float64]
DAYS = 365
MONTH_OF_DAY = np.repeat(np.arange(12), DAYS_IN_MONTH)
PERSISTENCE = 0.29
LEAST_CLEARNESS = 0.05
MOST_YEARS = 200
# A made day is at most a clear one of the cleanest air; where the table's 96 % day of a date is brighter yet, at most
# this share of that, so that the table's own days are kept within three parts in a hundred. [-]
BELIEVED_SHARE, KEPT_OF_BELIEVED = 0.96, 0.985


@dataclass(frozen=True)
class Draw:
    """What weather is made: how many years, 1 to 200, of which seed, and how much brighter than usual, 0.3 to 1.5. [-]"""

    years: int
    seed: int
    light_factor: float = 1.0

    def __post_init__(self) -> None:
        require("years-made-weather", self.years, 1, MOST_YEARS, "number")
        require("seed-weather", self.seed, 0, 2**31 - 1, "number")
        require("light-factor", self.light_factor, 0.3, 1.5, "number")


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


@lru_cache(maxsize=4)
def _ranks(years: int, seed: int) -> Floats:
    """Rank of each day among the days of its month, 0 to 1, following the day before it; shape (years, 365)."""
    from scipy.special import ndtr

    kicks = np.random.default_rng(seed).standard_normal(years * DAYS)
    normal = np.empty(years * DAYS)
    normal[0] = kicks[0]
    fresh = np.sqrt(1.0 - PERSISTENCE**2)
    for day in range(1, normal.size):
        normal[day] = PERSISTENCE * normal[day - 1] + fresh * kicks[day]
    ranks: Floats = np.asarray(ndtr(normal)).reshape(years, DAYS)
    ranks.flags.writeable = False  # remembered
    return ranks


def _evened(shares: Floats) -> Floats:
    """Shares of one month's days moved, without changing their order, nearer to an even spread; shape (years, days).

    A single year stays as it was drawn; of many, the chance of the draw is taken out, so that all of them
    together have the table's days, while each year keeps its own luck.
    """
    order = shares.ravel().argsort().argsort()
    even = (order + 0.5).reshape(shares.shape) / shares.size
    evened: Floats = shares + (even - shares) * (1.0 - 1.0 / shares.shape[0])
    return evened


def made_years(climate: Climate, draw: Draw) -> Floats:
    """Daily clearness of many made years of a climate that is told by its means alone.

    Parameters
    ----------
    climate : Climate
        Gives each month's mean.
    draw : Draw
        How many years, of which seed, how much brighter.

    Returns
    -------
    NDArray
        Shape (years, 365), January first. [-]
    """
    share = _ranks(draw.years, draw.seed)
    clearness = np.empty((draw.years, DAYS))
    for month, here in enumerate(climate.months):
        days = month == MONTH_OF_DAY
        mean = min(max(here.clearness * draw.light_factor, 0.08), 0.83)
        clearness[:, days] = clearness_at(share[:, days], mean)
    return clearness


def made_days(light: PlaceLight, outside_kwh_m2: Floats, limit_kwh_m2: Floats, draw: Draw) -> Floats:
    """Daily clearness of many made years at a place of the world's table.

    Parameters
    ----------
    light : PlaceLight
        How each month's days are spread.
    outside_kwh_m2 : NDArray
        Light on the level outside the atmosphere on each day, shape (365,). [kWh/m2]
    limit_kwh_m2 : NDArray
        The most that comes through a clean, dry sky on each day, shape (365,). [kWh/m2]
    draw : Draw
        How many years, of which seed, how much brighter.

    Returns
    -------
    NDArray
        Shape (years, 365), January first; 0 where the sun stays down. [-]

    Notes
    -----
    A rank u of the day is drawn, and follows yesterday's as in :func:`made_years`. Within a month the days
    lengthen or shorten, and the table's days with them: Q(u) times the day's own length over the month's mean
    has, over the month, a distribution G of its own, and Q(G(.)) of it has the table's again. So the table's mean
    and quantiles hold for the month, and its last days are brighter than its first in spring.
    No day is brighter than a clear one of the cleanest air (:data:`KEPT_OF_BELIEVED` says where it may be).
    """
    ranks = _ranks(draw.years, draw.seed)
    made = np.zeros((draw.years, DAYS))
    shares = shares_of_days()
    for month, here in enumerate(light.months):
        days = np.flatnonzero(np.equal(MONTH_OF_DAY, month))
        mean_outside = float(outside_kwh_m2[days].mean())
        if here.mean_kwh_m2 <= 0.0 or mean_outside <= 0.0:
            continue
        quantiles = np.array(here.quantiles_kwh_m2)
        lengths = outside_kwh_m2[days] / mean_outside
        grid = np.linspace(0.0, 1.0, 600) ** 2 * float(quantiles[-1] * lengths.max())
        under = np.mean([np.interp(grid, quantiles * length, shares) for length in lengths if length > 0.0], axis=0)
        drawn = np.interp(ranks[:, days], shares, quantiles) * lengths
        light_of_days = np.interp(_evened(np.interp(drawn, grid, under)), shares, quantiles) * draw.light_factor
        believed = np.interp(np.interp(here.under(BELIEVED_SHARE) * lengths, grid, under), shares, quantiles)
        made[:, days] = np.minimum(light_of_days, np.maximum(limit_kwh_m2[days], KEPT_OF_BELIEVED * believed))
    return np.divide(made, outside_kwh_m2, out=np.zeros_like(made), where=outside_kwh_m2 > 0.0)
