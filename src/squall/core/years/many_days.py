"""Ten made years on the panels by ten minutes, kept small: what the quick verdict is worked from.

The days are those of :mod:`squall.core.sky.made_weather`: their spread, their order. So that an answer comes within
the blink of an edit, the sun's path is worked out for every fifth day of the year, the light on the panels for
fifteen clearnesses of each, and a made day is read between them. Nothing else is simplified: what a kit makes of a
light and an air is looked up in its own table over both (:mod:`squall.core.years.outlook`).
"""

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import Self

import numpy as np
from numpy.typing import NDArray

from squall.core.sky.climate import Climate, Site
from squall.core.sky.made_weather import DAYS, MONTH_OF_DAY, Draw, made_days, made_years
from squall.core.sky.sunlight import Floats, SunPath, clear_sky, day_shapes, split_light, sun_path
from squall.core.sky.typical_days import STEP_H, STEPS, Light, Mounting, air_of_day
from squall.core.sky.whole_year import CLEAN_TURBIDITY

YEARS = 10
# The verdict's own weather: always of one seed, so that a job's answer never hangs on the dice.
SEED = 1
# Every fifth day. [day of the year]
DAYS_SEEN: Floats = np.arange(73, dtype=np.float64) * 5.0 + 3.0
CLEARNESSES: Floats = np.array([0.0, 0.06, 0.12, 0.2, 0.3, 0.4, 0.45, 0.5, 0.55, 0.6, 0.65, 0.7, 0.75, 0.8, 1.0])
# Lights that a kit is solved at, evenly; and shares that a near shadow leaves of them. [W/m2], [-]
LIGHT_STEP_W_M2, MOST_W_M2 = 25.0, 1450.0
LIGHTS: Floats = np.arange(0.0, MOST_W_M2 + 1.0, LIGHT_STEP_W_M2)
# Lights that it is read at, so many to each step of those: it starts somewhere between two that it is solved at. [-], [W/m2]
READ_PER_STEP = 5
READ_STEP_W_M2 = LIGHT_STEP_W_M2 / READ_PER_STEP
READ_LIGHTS: Floats = np.arange((LIGHTS.size - 1) * READ_PER_STEP + 1, dtype=np.float64) * READ_STEP_W_M2
# Light is kept in whole units of this, and read in them. [W/m2], [1/32 W/m2]
A_UNIT_W_M2 = 1.0 / 32.0
READ_STEP = READ_STEP_W_M2 / A_UNIT_W_M2
# What each light solved at counts for at each light read at, shape (read, solved). [-]
READ_OF_SOLVED: Floats = np.maximum(1.0 - np.abs(READ_LIGHTS[:, None] - LIGHTS) / LIGHT_STEP_W_M2, 0.0)


def read_between(solved: Floats) -> Floats:
    """Figures at the lights solved at, drawn out straight to those read at: (..., n * solved) to (..., n * read). [any unit]"""
    drawn: Floats = solved.reshape(*solved.shape[:-1], -1, LIGHTS.size) @ READ_OF_SOLVED.T
    return drawn.reshape(*solved.shape[:-1], -1)


def covering(read: Floats) -> Floats:
    """Figures at the lights solved at that, drawn out straight, are nowhere less than those read: (..., read) to (..., solved). [any unit]

    For bounds: where figures run straight between two lights solved at they are their own, else both ends are raised by the
    most that is missing between.
    """
    solved: Floats = read[..., ::READ_PER_STEP].copy()
    missing = (read - solved @ READ_OF_SOLVED.T)[..., :-1].reshape(*read.shape[:-1], -1, READ_PER_STEP).max(axis=-1)
    missing = np.maximum(missing, 0.0)
    raised = np.zeros_like(solved)
    raised[..., :-1] = missing
    raised[..., 1:] = np.maximum(raised[..., 1:], missing)
    return solved + raised


SHADES: Floats = np.array([0.0, 0.1, 0.25, 0.5, 1.0])
OPEN: Floats = np.array([1.0])
AIRS = 16
HOURS: Floats = (np.arange(STEPS, dtype=np.float64) + 0.5) * STEP_H


@dataclass(frozen=True, eq=False)
class _Seen:
    """The sun on every fifth day at so many moments to the half hour: path of the lit ones, their index, shapes and daily sums outside and in clean air."""

    lit: NDArray[np.int64]
    path: SunPath
    shapes: Floats
    outside_kwh_m2: Floats
    clean_kwh_m2: Floats


# Moments of each half hour, so that dawn, dusk and the edge of a shadow fall where they do; a day is read at all of them.
MOMENTS = 3
DAY_MOMENTS = STEPS * MOMENTS


@lru_cache(maxsize=8)
def _seen(site: Site, moments: int) -> _Seen:
    import pandas as pd

    start = pd.Timestamp(2025, 1, 1, tz="UTC") - pd.Timedelta(hours=site.utc_offset_h)
    days = np.round(DAYS_SEEN).astype(int)
    steps = STEPS * moments
    hours = (np.arange(steps, dtype=np.float64) + 0.5) * STEP_H / moments
    minutes = (np.repeat(days - 1, steps) * 1440.0 + np.tile(hours, days.size) * 60.0) * 60e9
    path = sun_path(site, pd.DatetimeIndex(start + pd.to_timedelta(minutes.astype(np.int64), unit="ns")))
    shapes = day_shapes(path.level_outside_w_m2.reshape(-1, steps), site.latitude_deg, days)
    clean = clear_sky(path, site.altitude_m, CLEAN_TURBIDITY).whole.reshape(-1, steps)
    lit = np.flatnonzero(path.zenith_deg < 90.0)
    kwh = STEP_H / moments / 1000.0
    return _Seen(
        lit, SunPath(path.zenith_deg[lit], path.apparent_zenith_deg[lit], path.azimuth_deg[lit], path.outside_w_m2[lit]),
        shapes, shapes.sum(axis=1) * kwh, clean.sum(axis=1) * kwh,
    )  # fmt: skip


def _through_year(seen: Floats) -> Floats:
    """A figure of the days seen, for each of 365."""
    whole: Floats = np.interp(np.arange(1.0, DAYS + 1.0), DAYS_SEEN, seen, period=float(DAYS))
    return whole


def _days_about() -> tuple[NDArray[np.intp], Floats]:
    """For each of 365 days the one seen before it, and how far it stands on the way to the next, 0 to 1. [-]"""
    day = np.arange(1.0, DAYS + 1.0)
    before: NDArray[np.intp] = np.searchsorted(DAYS_SEEN, day, side="right") - 1
    since = (day - DAYS_SEEN[before]) % DAYS
    return before % DAYS_SEEN.size, since / ((np.roll(DAYS_SEEN, -1)[before] - DAYS_SEEN[before]) % DAYS)


@lru_cache(maxsize=8)
def clearness_of(site: Site, climate: Climate) -> Floats:
    """Daily clearness of the verdict's ten years, shape (10, 365). [-]"""
    draw = Draw(YEARS, SEED)
    if climate.light is None:
        return made_years(climate, draw)
    seen = _seen(site, 1)
    return made_days(climate.light, _through_year(seen.outside_kwh_m2), _through_year(seen.clean_kwh_m2), draw)


@dataclass(frozen=True, eq=False)
class ManyDays:
    """Ten made years on given panels.

    Attributes
    ----------
    plane : NDArray
        Light on the panels by day and moment, three to the half hour, shape (3650, 144), in :data:`A_UNIT_W_M2`: so it is
        half as large to keep. [1/32 W/m2]
    shade : NDArray or None
        Share of it that what stands near leaves on the panels it shades; None where nothing does. [-]
    air_c : NDArray
        Air by month and half hour, shape (12, 48). [°C]
    factor : float
        How much brighter than that all of it is taken. [-]
    plain : ManyDays or None
        The same years taken as they are, if these are brighter: each moment stands at the same node.
    """

    plane: NDArray[np.uint16]
    shade: NDArray[np.float32] | None
    air_c: Floats
    factor: float = 1.0
    plain: Self | None = None

    @cached_property
    def month(self) -> NDArray[np.int64]:
        """Month of each day, January 0."""
        return np.tile(MONTH_OF_DAY, YEARS)

    @cached_property
    def airs_c(self) -> Floats:
        """Airs that a kit is looked up at, from the coldest half hour to the warmest, evenly. [°C]"""
        return np.linspace(float(self.air_c.min()), float(self.air_c.max()) + 0.5, AIRS)

    @property
    def shades(self) -> Floats:
        """Shares left by a near shadow that a kit is looked up at. [-]"""
        return OPEN if self.shade is None else SHADES

    @property
    def lights_w_m2(self) -> Floats:
        """Lights that a kit is looked up at. [W/m2]"""
        lights: Floats = np.minimum(LIGHTS * self.factor, MOST_W_M2)
        return lights

    @property
    def read_w_m2(self) -> Floats:
        """Lights that a kit is read at, finer. [W/m2]"""
        lights: Floats = np.minimum(READ_LIGHTS * self.factor, MOST_W_M2)
        return lights

    @cached_property
    def read_weights(self) -> Floats:
        """Hours a day that each month spends at each node, shape (12, shades, airs, lights read at), so that sums are means. [h]"""
        if self.plain is not None:
            return self.plain.read_weights
        from squall.core.years.day_kernels import spread

        out = np.zeros((12, self.shades.size, AIRS, READ_LIGHTS.size))
        spread(self.plane, self.shade_or_open, self.shades, self.month, self.month, self.warmth, READ_STEP, out)
        days = np.bincount(self.month, minlength=12)
        hours: Floats = out * (STEP_H / days)[:, None, None, None]
        return hours

    @cached_property
    def weights(self) -> Floats:
        """The same at the lights that a kit is solved at, for what runs straight between them. [h]"""
        hours: Floats = self.read_weights @ READ_OF_SOLVED
        return hours

    @cached_property
    def flat_weights(self) -> Floats:
        """The hours at the lights read at, a row a month, shape (12, nodes). [h]"""
        flat: Floats = self.read_weights.reshape(12, -1)
        return flat

    @cached_property
    def peaks(self) -> Floats:
        """What each node without a shadow counts for in the brightest half hour of each month, shape (12, airs * lights read at). [-]"""
        if self.plain is not None:
            return self.plain.peaks
        out = np.zeros((12, AIRS, READ_LIGHTS.size))
        moments = [self.plane[:, n::MOMENTS].astype(np.float64) for n in range(MOMENTS)]
        half_hours = np.add.reduce(moments) * (A_UNIT_W_M2 / MOMENTS)
        for month in range(12):
            here = half_hours[self.month == month]
            light, warm = float(here.max()) / READ_STEP_W_M2, float(self.warmth[month, int(here.argmax()) % STEPS])
            below, air = min(int(light), READ_LIGHTS.size - 2), min(int(warm), AIRS - 2)
            for level, share in ((air, 1.0 - warm + air), (air + 1, warm - air)):
                out[month, level, below] += share * (1.0 - light + below)
                out[month, level, below + 1] += share * (light - below)
        return out.reshape(12, -1)

    @cached_property
    def warmth(self) -> Floats:
        """Where each month's half hours stand among the airs, 0 to one less than their count, shape (12, 48). [-]"""
        low, high = float(self.airs_c[0]), float(self.airs_c[-1])
        place: Floats = (self.air_c - low) / (high - low) * (AIRS - 1)
        return place

    def seconds_of_days(self) -> NDArray[np.float32]:
        """Seconds that each day spends at each node solved at, shape (days, nodes); large, so not kept. [s]"""
        from squall.core.years.day_kernels import spread

        out = np.zeros((self.month.size, self.shades.size, AIRS, LIGHTS.size), dtype=np.float32)
        each = np.arange(self.month.size)
        spread(
            self.plane, self.shade_or_open, self.shades, self.month, each, self.warmth, READ_STEP * READ_PER_STEP, out
        )
        seconds: NDArray[np.float32] = out.reshape(self.month.size, -1) * np.float32(STEP_H * 3600.0)
        return seconds

    @cached_property
    def of_month(self) -> list[NDArray[np.intp]]:
        """Which days are of each month."""
        return [np.flatnonzero(self.month == month) for month in range(12)]

    @cached_property
    def shade_or_open(self) -> NDArray[np.float32]:
        """The shade of every moment; one row of ones where nothing stands near. [-]"""
        return np.ones((1, DAY_MOMENTS), dtype=np.float32) if self.shade is None else self.shade


@lru_cache(maxsize=32)
def days_of(light: Light) -> ManyDays:
    """The ten made years on the panels of a year's typical days, worked out once; brighter where that is."""
    origin = light.origin
    assert origin is not None
    plain = many_days(origin.site, origin.climate, origin.mounting)
    return plain if origin.factor == 1.0 else replace(plain, factor=origin.factor, plain=plain)


@lru_cache(maxsize=16)
def many_days(site: Site, climate: Climate, mounting: Mounting) -> ManyDays:
    """Ten made years on given panels.

    Parameters
    ----------
    site, climate, mounting
        Where; its months; how the panels stand.

    Returns
    -------
    ManyDays
        Their light, moment by moment.
    """
    from squall.core.years.day_kernels import between

    seen, clearness = _seen(site, MOMENTS), clearness_of(site, climate).ravel()
    count, lit = CLEARNESSES.size, seen.lit
    sky = split_light(seen.path, CLEARNESSES[:, None] * seen.shapes.ravel()[lit])
    month = MONTH_OF_DAY[np.round(DAYS_SEEN).astype(int) - 1]
    month_of_step = np.repeat(month, DAY_MOMENTS)[lit]
    clean = 1.0 - mounting.dirt

    before, part = _days_about()

    def of_days(*, behind_post: bool) -> NDArray[np.uint16]:
        table, whole = (
            np.zeros((count, DAYS_SEEN.size * DAY_MOMENTS)),
            np.empty((clearness.size, DAY_MOMENTS), np.uint16),
        )
        light = mounting.light_on(seen.path, sky, month_of_step, behind_post=behind_post)
        table[:, lit] = light * (clean / A_UNIT_W_M2)
        by_day = table.reshape(count, -1, DAY_MOMENTS)
        between(by_day, CLEARNESSES, clearness, before, part, MOST_W_M2 / A_UNIT_W_M2, whole)
        return whole

    plane, shade = of_days(behind_post=False), None
    if mounting.post is not None:
        left, of = of_days(behind_post=True).astype(np.float32), plane.astype(np.float32)
        shade = np.divide(left, of, out=np.ones_like(of), where=of > 1.0 / A_UNIT_W_M2)
    return ManyDays(plane, shade, air_of_day(climate, HOURS))
