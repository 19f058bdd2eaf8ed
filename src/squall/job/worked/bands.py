"""A month's days against the need: how bright the dull, the usual and the clear ones are, and how bright a day must be."""

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from squall.catalogue import Catalogue, catalogue
from squall.core.hydraulics.curves import MonotoneCubic
from squall.core.kit.supply import Banked
from squall.core.sky.climate import Climate
from squall.core.sky.made_weather import clearness_at
from squall.core.sky.outside import typical_outside_kwh
from squall.core.sky.typical_days import AVERAGE, Light, light_of_year
from squall.core.years.by_light import start_light
from squall.core.years.typical import typical_litres
from squall.job.worked.assess import Assessment, assess_key, physics_key
from squall.job.worked.place import climate_of, site_of, where
from squall.job.worked.resolve import mounting_of

SHARES = (0.05, 0.10, 0.25, 0.50, 0.75, 0.90, 0.95)
# Clearness of the days by which the need's light is found: even steps from a black day to a clear one.
_STEPS = (0.02, *(round(0.05 + 0.035 * n, 3) for n in range(22)))


@dataclass(frozen=True)
class MonthBand:
    """One month's days.

    Attributes
    ----------
    light_kwh_m2 : tuple[float, ...]
        What the shares :data:`SHARES` of its days stay under, on the level. [kWh/m2]
    mean_kwh_m2 : float
        Of all days. [kWh/m2]
    need_kwh_m2 : float or None
        Light of a day on which the kit just makes what is wanted, without headroom; None without kit or need, ``inf``
        where no day does.
    start_kwh_m2 : float or None
        Light of a day whose noon just starts the pump; None for a battery kit or without kit.
    short : float or None
        Share of the days that stay under the need's light. [-]
    """

    light_kwh_m2: tuple[float, ...]
    mean_kwh_m2: float
    need_kwh_m2: float | None = None
    start_kwh_m2: float | None = None
    short: float | None = None


def spread_of(climate: Climate, latitude_deg: float, month: int) -> tuple[tuple[float, ...], float]:
    """What the shares of a month's days stay under, and their mean, on the level. [kWh/m2]"""
    if climate.light is not None:
        here = climate.light.months[month]
        return tuple(here.under(share) for share in SHARES), here.mean_kwh_m2
    outside, mean = typical_outside_kwh(latitude_deg, month), climate.months[month].clearness
    if not 0.08 <= mean <= 0.83:
        return (mean * outside,) * len(SHARES), mean * outside
    return tuple((clearness_at(np.array(SHARES), mean) * outside).tolist()), mean * outside


def share_under(climate: Climate, latitude_deg: float, month: int, light_kwh_m2: float) -> float:
    """Share of a month's days that stay under a light on the level [kWh/m2]. [-]"""
    if climate.light is not None:
        return climate.light.months[month].share_under(light_kwh_m2)
    shares = np.linspace(0.0, 1.0, 201)
    outside, mean = typical_outside_kwh(latitude_deg, month), climate.months[month].clearness
    if not 0.08 <= mean <= 0.83:
        return float(mean * outside < light_kwh_m2)
    return float(np.interp(light_kwh_m2, clearness_at(shares, mean) * outside, shares))


def month_bands(a: Assessment) -> tuple[MonthBand, ...]:
    """The twelve months of a job's place, with its kit where it has one. Remembered for each state."""
    return _bands(physics_key(a.job), catalogue())


@lru_cache(maxsize=32)
def _bands(key: str, held: Catalogue) -> tuple[MonthBand, ...]:
    a = assess_key(key, held).judged
    climate, (latitude, _) = climate_of(a.job, a.parts), where(a.job)
    spreads = [spread_of(climate, latitude, month) for month in range(12)]
    plain = tuple(MonthBand(light, mean) for light, mean in spreads)
    if a.chosen is None or a.chosen.refusal is not None:
        return plain
    days = [_day_of(a, clear) for clear in _STEPS]
    litres = np.array([typical_litres(a.chosen.setup, light, a.chosen.use) for light in days])
    level = np.array([light.level_kwh_m2[AVERAGE] for light in days])
    starts = None if isinstance(a.chosen.kit.supply, Banked) else start_light(a.chosen.setup)
    found = []
    for month, band in enumerate(plain):
        need = a.wanted_l[month]
        wanted = light_for(need, litres[:, month], level[:, month]) if need > 0.0 else None
        start = None if starts is None else _start_day(days, starts, month)
        short = None if wanted is None else share_under(climate, latitude, month, wanted)
        found.append(replace(band, need_kwh_m2=wanted, start_kwh_m2=start, short=short))
    return tuple(found)


def _day_of(a: Assessment, clearness: float) -> Light:
    """Light of the year's typical days, all of one clearness."""
    climate = climate_of(a.job, a.parts)
    months = tuple(replace(month, clearness=clearness) for month in climate.months)
    return light_of_year(site_of(a.job), replace(climate, months=months, light=None), mounting_of(a.job))


def light_for(need_l: float, litres: "np.ndarray[tuple[int], np.dtype[np.float64]]", level_kwh_m2: "np.ndarray[tuple[int], np.dtype[np.float64]]") -> float:  # fmt: skip
    """Light at which rising litres reach the need; ``inf`` where they never do. [L], [kWh/m2]"""
    if (np.diff(level_kwh_m2) <= 0.0).any():
        return float("inf")  # the sun stays down: no sky makes a day brighter
    fine = np.linspace(level_kwh_m2[0], level_kwh_m2[-1], 400)
    rising = np.maximum.accumulate(MonotoneCubic(level_kwh_m2.tolist(), litres.tolist())(fine))
    if need_l > rising[-1]:
        return float("inf")
    return float(np.interp(need_l, rising, fine))


def _start_day(days: list[Light], start_w_m2: float, month: int) -> float | None:
    """Light of a day whose brightest half hour is just the pump's start. [kWh/m2]"""
    noons = np.array([light.plane_w_m2[AVERAGE, month].max() for light in days])
    level = np.array([light.level_kwh_m2[AVERAGE, month] for light in days])
    return float(np.interp(start_w_m2, noons, level)) if noons[-1] >= start_w_m2 else None
