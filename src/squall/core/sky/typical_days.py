"""Light and heat on the panels: a clear and an average day of each month, by the half hour."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from squall.core.errors import require
from squall.core.sky.climate import Climate, Site
from squall.core.sky.outside import DAYS_IN_MONTH, TYPICAL_DAYS
from squall.core.sky.sunlight import (
    Horizon,
    SkyLight,
    SunPath,
    clear_sky,
    day_shapes,
    hidden_by,
    onto_plane,
    shadow_over,
    split_light,
    sun_path,
)

Floats = NDArray[np.float64]
STEP_H = 0.5
STEPS = 48
CLEAR, AVERAGE = 0, 1
MONTH_OF_STEP = np.repeat(np.arange(12), STEPS)
DAYS_OF_YEAR = np.cumsum((0, *DAYS_IN_MONTH[:-1])) + np.array(TYPICAL_DAYS)
NOCT_C = 45.0


@dataclass(frozen=True)
class Post:
    """Something near, a post or a tree, as seen from the panel that it shades.

    Attributes
    ----------
    from_azimuth_deg, to_azimuth_deg : float
        Between which it stands, clockwise from north. [°]
    top_deg : float
        Height of its top above the level. [°]
    panels : int
        How many panels of one string its shadow covers.
    bypass : bool
        Whether the panels have bypass diodes.
    """

    from_azimuth_deg: float
    to_azimuth_deg: float
    top_deg: float
    panels: int = 1
    bypass: bool = True

    def __post_init__(self) -> None:
        require("azimuth-shadows-edge", self.from_azimuth_deg, 0.0, 360.0, "angle")
        require("azimuth-shadows-other-edge", self.to_azimuth_deg, 0.0, 360.0, "angle")
        require("top-what-stands-near", self.top_deg, 0.0, 90.0, "angle")

    def shades(self, path: SunPath) -> NDArray[np.bool_]:
        """Whether it stands before the sun."""
        return shadow_over(self.from_azimuth_deg, self.to_azimuth_deg, self.top_deg, path)


@dataclass(frozen=True)
class Mounting:
    """How the panels stand.

    Attributes
    ----------
    tilt_deg : float
        From level, 0 to 90. [°]
    azimuth_deg : float
        Where they face, from north clockwise, 0 to 360. [°]
    dirt : float
        Share of the light lost to dirt and age, 0 to 0.6. [-]
    other_tilt_deg : float or None
        The tilt of the second season; None keeps one tilt. [°]
    other_months : tuple[bool, ...]
        The months of that season, January first.
    other_azimuth_deg : float or None
        Where a second group, of as many strings, faces instead; None: all face one way. [°]
    group_tilt_deg : float or None
        That group's own tilt all year; None: as the others. [°]
    third_azimuth_deg, third_tilt_deg : float or None
        Of a third group, where there is a second. [°]
    horizon : tuple
        Hills and trees far off: (azimuth, height), see :func:`squall.core.sky.sunlight.hidden_by`. [°]
    post : Post or None
        Something near that shades one panel.
    """

    tilt_deg: float
    azimuth_deg: float
    dirt: float = 0.05
    other_tilt_deg: float | None = None
    other_months: tuple[bool, ...] = (False,) * 12
    other_azimuth_deg: float | None = None
    group_tilt_deg: float | None = None
    third_azimuth_deg: float | None = None
    third_tilt_deg: float | None = None
    horizon: Horizon = ()
    post: Post | None = None

    def __post_init__(self) -> None:
        require("tilt", self.tilt_deg, 0.0, 90.0, "angle")
        require("azimuth", self.azimuth_deg, 0.0, 360.0, "angle")
        require("dirt", self.dirt, 0.0, 0.6, "share")
        if self.other_tilt_deg is not None:
            require("second-tilt", self.other_tilt_deg, 0.0, 90.0, "angle")
        if self.group_tilt_deg is not None:
            require("tilt-other-half", self.group_tilt_deg, 0.0, 90.0, "angle")
        if self.third_tilt_deg is not None:
            require("tilt-other-half", self.third_tilt_deg, 0.0, 90.0, "angle")
        for azimuth in (self.other_azimuth_deg, self.third_azimuth_deg):
            if azimuth is not None:
                require("second-azimuth", azimuth, 0.0, 360.0, "angle")
        for azimuth, height in self.horizon:
            require("azimuth-horizon", azimuth, 0.0, 360.0, "angle")
            require("height-horizon", height, 0.0, 80.0, "angle")

    def tilt_in(self, month: int) -> float:
        """Tilt in a month, January 0. [°]"""
        other = self.other_tilt_deg
        return other if other is not None and self.other_months[month] else self.tilt_deg

    @property
    def ways(self) -> int:
        """Into how many groups the strings are parted; a kit's must be a multiple of it."""
        if self.other_azimuth_deg is None:
            return 1
        return 2 if self.third_azimuth_deg is None else 3

    def faces_in(self, month: int) -> list[tuple[float, float]]:
        """Azimuth and tilt of each group in a month, January 0. [°]"""
        first, faces = self.tilt_in(month), [(self.azimuth_deg, self.tilt_in(month))]
        others = ((self.other_azimuth_deg, self.group_tilt_deg), (self.third_azimuth_deg, self.third_tilt_deg))
        for azimuth, tilt in others[: self.ways - 1]:
            assert azimuth is not None
            faces.append((azimuth, first if tilt is None else tilt))
        return faces

    def light_on(
        self, path: SunPath, sky: SkyLight, month_of_step: NDArray[np.int64], *, behind_post: bool = False
    ) -> Floats:
        """Light on the panels before dirt, the mean of the groups where they face more ways than one. [W/m2]

        Parameters
        ----------
        path, sky : SunPath, SkyLight
            The sun and the sky; the last axis of the sky is the path's.
        month_of_step : NDArray
            Month of each moment, January 0.
        behind_post : bool
            On a panel that what stands near shades.
        """
        groups = self.groups_on(path, sky, month_of_step, behind_post=behind_post)
        total: Floats = np.mean(groups, axis=0)
        return total

    def groups_on(
        self, path: SunPath, sky: SkyLight, month_of_step: NDArray[np.int64], *, behind_post: bool = False
    ) -> list[Floats]:
        """Light on each group of panels before dirt. [W/m2]"""
        blocked = hidden_by(self.horizon, path)
        if behind_post and self.post is not None:
            blocked = blocked | self.post.shades(path)
        faces = [self.faces_in(month) for month in range(12)]
        return [
            _on_tilts(path, sky, np.array([month[n][1] for month in faces])[month_of_step], faces[0][n][0], blocked)
            for n in range(self.ways)
        ]


def _on_tilts(path: SunPath, sky: SkyLight, tilts: Floats, azimuth_deg: float, blocked: NDArray[np.bool_]) -> Floats:
    several = np.unique(tilts)
    light = onto_plane(path, sky, float(several[0]), azimuth_deg, blocked)
    for tilt in several[1:]:
        light = np.where(tilts == tilt, onto_plane(path, sky, float(tilt), azimuth_deg, blocked), light)
    return light


@dataclass(frozen=True)
class Origin:
    """What light was worked out from, and how much brighter than that it is taken. [-]"""

    site: Site
    climate: Climate
    mounting: Mounting
    factor: float = 1.0


@dataclass(frozen=True, eq=False)
class Light:
    """Light on the panels for the year's typical days; two are equal only if they are one object.

    Attributes
    ----------
    hours : NDArray
        Middle of each half hour, clock time, shape (48,). [h]
    plane_w_m2 : NDArray
        Light on the plane of the panels after dirt, shape (2, 12, 48): clear days, then
        average days. [W/m2]
    cell_c, air_c : NDArray
        Cell and air temperature, same shape. [°C]
    level_kwh_m2 : NDArray
        Daily light on the level, shape (2, 12). [kWh/m2]
    shaded_w_m2 : NDArray or None
        Light on a module in the shadow of something near, shape of `plane_w_m2`; equal to it where
        no shadow falls, None where nothing stands near. [W/m2]
    post : Post or None
        What stands near.
    origin : Origin or None
        What it was worked out from: :mod:`squall.core.years.many_days` makes whole years of the same.
    """

    hours: Floats
    plane_w_m2: Floats
    cell_c: Floats
    air_c: Floats
    level_kwh_m2: Floats
    shaded_w_m2: Floats | None = None
    post: Post | None = None
    origin: Origin | None = None

    @property
    def plane_kwh_m2(self) -> Floats:
        """Daily light on the panels, shape (2, 12). [kWh/m2]"""
        total: Floats = self.plane_w_m2.sum(axis=2) * STEP_H / 1000.0
        return total


@lru_cache(maxsize=32)
def typical_path(site: Site) -> SunPath:
    """The sun over a place on the year's typical days, every half hour: 12 x 48 moments, remembered."""
    import pandas as pd

    minutes = (np.arange(STEPS, dtype=np.float64) + 0.5) * STEP_H * 60.0
    days = pd.DatetimeIndex([pd.Timestamp(2025, month + 1, day) for month, day in enumerate(TYPICAL_DAYS)])
    stamps = days.repeat(STEPS) + pd.to_timedelta(np.tile(minutes, 12), unit="min")
    return sun_path(site, stamps.tz_localize("UTC") - pd.Timedelta(hours=site.utc_offset_h))


@lru_cache(maxsize=64)
def light_of_year(site: Site, climate: Climate, mounting: Mounting) -> Light:
    """Half-hourly light and temperature of a clear and an average day of each month.

    Parameters
    ----------
    site : Site
        Where.
    climate : Climate
        Its months.
    mounting : Mounting
        How the panels stand.

    Returns
    -------
    Light
        Arrays for 2 kinds of day, 12 months, 48 half hours.

    Notes
    -----
    Sun position: NREL's SPA. Clear day: Ineichen with the month's Linke turbidity. Average day:
    clearness times the extraterrestrial day, spread over the hours after Collares-Pereira and
    Rabl (1979). Beam and diffuse: Erbs (1982). Onto the plane: Hay and Davies (1980), ground
    albedo 0.2. Cell: air + (NOCT - 20) G/800. All through pvlib but the spread over hours.
    Air follows a cosine, coldest at 3, warmest at 15 o'clock.
    """
    hours: Floats = (np.arange(STEPS, dtype=np.float64) + 0.5) * STEP_H
    path = typical_path(site)
    turbidity = np.repeat([month.turbidity for month in climate.months], STEPS)
    clearness = np.array([month.clearness for month in climate.months])
    shapes = day_shapes(path.level_outside_w_m2.reshape(12, STEPS), site.latitude_deg, DAYS_OF_YEAR)
    skies = (
        clear_sky(path, site.altitude_m, turbidity),
        split_light(path, (clearness[:, None] * shapes).ravel()),
    )
    plane = [mounting.light_on(path, sky, MONTH_OF_STEP) for sky in skies]
    plane_w_m2 = np.stack(plane).reshape(2, 12, STEPS) * (1.0 - mounting.dirt)
    shaded = None
    if mounting.post is not None:
        shaded = np.stack([mounting.light_on(path, sky, MONTH_OF_STEP, behind_post=True) for sky in skies])
        shaded = shaded.reshape(2, 12, STEPS) * (1.0 - mounting.dirt)
    level = np.stack([sky.whole.reshape(12, STEPS).sum(axis=1) * STEP_H / 1000.0 for sky in skies])
    air = air_of_day(climate, hours)
    air_c = np.stack([air, air])
    return Light(
        hours, plane_w_m2, cell_temperature(air_c, plane_w_m2), air_c, level, shaded, mounting.post,
        Origin(site, climate, mounting),
    )  # fmt: skip


def cell_temperature(air_c: Floats, plane_w_m2: Floats) -> Floats:
    """Cell temperature of an open-rack panel. [°C]

    Air plus (NOCT - 20)/800 times the light, NOCT 45 °C (R. G. Ross, 1980).
    """
    warm: Floats = air_c + (NOCT_C - 20.0) / 800.0 * plane_w_m2
    return warm


def air_of_day(climate: Climate, hours: Floats) -> Floats:
    """Air over the hours of each month's mean day, shape (12, hours): coldest at 3, warmest at 15 o'clock. [°C]"""
    low = np.array([month.t_min_c for month in climate.months])[:, None]
    high = np.array([month.t_max_c for month in climate.months])[:, None]
    air: Floats = (low + high) / 2.0 + (high - low) / 2.0 * np.cos(2.0 * np.pi * (hours - 15.0) / 24.0)
    return air
