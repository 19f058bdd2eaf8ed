"""Light on the panels through one whole year, in ten-minute steps."""

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from squall.core.errors import OutOfRange
from squall.core.sky.climate import Climate, Site
from squall.core.sky.made_weather import DAYS, MONTH_OF_DAY, Draw, made_days, made_years
from squall.core.sky.sunlight import Floats, SkyLight, SunPath, clear_sky, day_shapes, split_light, sun_path
from squall.core.sky.typical_days import Mounting, Post, air_of_day, cell_temperature

STEP_S = 600.0
DAY_STEPS = 144
YEAR_STEPS = DAYS * DAY_STEPS
HOURS: Floats = (np.arange(DAY_STEPS, dtype=np.float64) + 0.5) / 6.0


@dataclass(frozen=True, eq=False)
class YearPath:
    """The sun over one place through a year of 365 days.

    Attributes
    ----------
    steps : NDArray
        Index into the year's 52,560 steps of those in which the sun is up.
    path : SunPath
        The sun then.
    shapes : NDArray
        Light on the level were all that is outside to come through, as a mean day spreads it. [W/m2]
    """

    steps: NDArray[np.int64]
    path: SunPath
    shapes: Floats

    @cached_property
    def day(self) -> NDArray[np.int64]:
        """Day of the year of each step, January 1st is 0."""
        return self.steps // DAY_STEPS

    @cached_property
    def month(self) -> NDArray[np.int64]:
        """Month of each step, January 0."""
        return MONTH_OF_DAY[self.day]


def day_path(site: Site, day_of_year: int) -> SunPath:
    """The sun over a place every ten minutes of one day; the first of January is 1."""
    import pandas as pd

    start = pd.Timestamp(2025, 1, 1, tz="UTC") - pd.Timedelta(hours=site.utc_offset_h) + pd.Timedelta(minutes=5)
    begin = start + pd.Timedelta(days=day_of_year - 1)
    return sun_path(site, pd.date_range(begin, periods=DAY_STEPS, freq="10min"))


@lru_cache(maxsize=16)
def year_path(site: Site) -> YearPath:
    """The sun over a place, every ten minutes of a year without a leap day, remembered.

    Parameters
    ----------
    site : Site
        Where; its clock offset says where days begin.
    """
    import pandas as pd

    start = pd.Timestamp(2025, 1, 1, tz="UTC") - pd.Timedelta(hours=site.utc_offset_h) + pd.Timedelta(minutes=5)
    path = sun_path(site, pd.date_range(start, periods=YEAR_STEPS, freq="10min"))
    shapes = day_shapes(path.level_outside_w_m2.reshape(DAYS, DAY_STEPS), site.latitude_deg, np.arange(1, DAYS + 1))
    up = np.nonzero(path.zenith_deg < 90.0)[0]
    lit = SunPath(path.zenith_deg[up], path.apparent_zenith_deg[up], path.azimuth_deg[up], path.outside_w_m2[up])
    return YearPath(up, lit, shapes.ravel()[up])


# Linke turbidity of air with neither haze nor vapour: no day is brighter than a clear one of it, by definition.
# P. Ineichen, R. Perez, Solar Energy 73 (2002), 151-157.
CLEAN_TURBIDITY = 1.0


@lru_cache(maxsize=16)
def day_limits(site: Site) -> tuple[Floats, Floats]:
    """Light on the level of each day of a year outside the atmosphere, and through a clean, dry, clear sky. [kWh/m2]"""
    sun = year_path(site)
    clean = clear_sky(sun.path, site.altitude_m, CLEAN_TURBIDITY).whole
    outside, most = (
        np.bincount(sun.day, light, DAYS).astype(np.float64) * STEP_S / 3.6e6 for light in (sun.shapes, clean)
    )
    return outside, most


def made_clearness(site: Site, climate: Climate, draw: Draw) -> Floats:
    """Daily clearness of made years, shape (years, 365): by the world's table where the climate has it, else by its means. [-]"""
    if climate.light is None:
        return made_years(climate, draw)
    return made_days(climate.light, *day_limits(site), draw)


@dataclass(frozen=True, eq=False)
class YearLight:
    """Light on the panels in every lit ten minutes of a year.

    Attributes
    ----------
    steps : NDArray
        Which of the year's 52,560 steps.
    plane_w_m2, cell_c : NDArray
        Light on the panels after dirt [W/m2] and the cells' temperature [°C].
    air_c : NDArray
        Air through the whole year, shape (365, 144). [°C]
    shaded_w_m2 : NDArray or None
        Light on a panel in a near shadow. [W/m2]
    post : Post or None
        What stands near.
    """

    steps: NDArray[np.int64]
    plane_w_m2: Floats
    cell_c: Floats
    air_c: Floats
    shaded_w_m2: Floats | None = None
    post: Post | None = None

    @cached_property
    def day_kwh_m2(self) -> Floats:
        """On the panels each day, shape (365,). [kWh/m2]"""
        total: Floats = np.bincount(self.steps // DAY_STEPS, self.plane_w_m2, DAYS).astype(np.float64) * STEP_S / 3.6e6
        return total


@lru_cache(maxsize=32)
def air_of_year(climate: Climate) -> Floats:
    """Air of every ten minutes, each month's mean day repeated, shape (365, 144). [°C]"""
    months = air_of_day(climate, HOURS)
    whole: Floats = months[MONTH_OF_DAY]
    return whole


def _onto_panels(sun: YearPath, sky: SkyLight, mounting: Mounting, air_c: Floats) -> YearLight:
    clean = 1.0 - mounting.dirt
    plane = mounting.light_on(sun.path, sky, sun.month) * clean
    shaded = None
    if mounting.post is not None:
        shaded = mounting.light_on(sun.path, sky, sun.month, behind_post=True) * clean
    cell = cell_temperature(air_c.ravel()[sun.steps], plane)
    return YearLight(sun.steps, plane, cell, air_c, shaded, mounting.post)


def made_light(site: Site, climate: Climate, mounting: Mounting, clearness: Floats) -> YearLight:
    """Light of a year of given daily clearness.

    Parameters
    ----------
    site, climate, mounting
        Where; for the air; how the panels stand.
    clearness : NDArray
        Of each day, shape (365,), as from :func:`squall.core.sky.made_weather.made_years`. [-]
    """
    if clearness.shape != (DAYS,):
        raise OutOfRange("days-clearness", clearness.size, "365")
    sun = year_path(site)
    sky = split_light(sun.path, clearness[sun.day] * sun.shapes)
    return _onto_panels(sun, sky, mounting, air_of_year(climate))


@dataclass(frozen=True, eq=False)
class MeasuredYear:
    """A year of measured or typical hours: on the level, shape (8760,) each, beginning at midnight of the site's clock.

    Attributes
    ----------
    whole_w_m2, diffuse_w_m2 : NDArray
        Mean of each hour on the level: all of it, and from the sky alone. [W/m2]
    air_c : NDArray
        Air. [°C]
    told_by : str
        Name of the file and its kind.
    at : tuple[float, float] or None
        Latitude and longitude that the file names. [°]
    """

    whole_w_m2: Floats
    diffuse_w_m2: Floats
    air_c: Floats
    told_by: str
    at: tuple[float, float] | None = None


def measured_light(site: Site, mounting: Mounting, year: MeasuredYear) -> YearLight:
    """Light of a year of measured hours, spread over their ten minutes.

    Parameters
    ----------
    site, mounting
        Where; how the panels stand.
    year : MeasuredYear
        Hours.

    Notes
    -----
    Whole and diffuse light follow the sun's height within the hour and keep the hour's mean; the
    beam is what is left, over the sun's height.
    """
    sun = year_path(site)
    hour = sun.steps // 6
    outside = sun.path.level_outside_w_m2
    mean = np.bincount(hour, outside, DAYS * 24) / 6.0
    scale = np.divide(outside, mean[hour], out=np.zeros_like(outside), where=mean[hour] > 1.0)
    whole, diffuse = year.whole_w_m2[hour] * scale, np.minimum(year.diffuse_w_m2, year.whole_w_m2)[hour] * scale
    height = np.cos(np.radians(sun.path.zenith_deg))
    beam = np.where(height > 0.05, (whole - diffuse) / np.maximum(height, 0.05), 0.0)
    beam = np.minimum(beam, sun.path.outside_w_m2)
    air = np.repeat(year.air_c.reshape(DAYS, 24), 6, axis=1)
    return _onto_panels(sun, SkyLight(whole, diffuse, beam), mounting, air)
