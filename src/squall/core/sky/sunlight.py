"""The sun's path and the light of a sky: clear, or of a given clearness; on the level and on a tilted plane."""

from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from squall.core.sky.climate import Site

if TYPE_CHECKING:
    import pandas as pd

Floats = NDArray[np.float64]
ALBEDO = 0.2
MOST_LIGHT_W_M2 = 1450.0


@dataclass(frozen=True, eq=False)
class SunPath:
    """Where the sun stands at a row of moments, seen from one place.

    Attributes
    ----------
    zenith_deg, apparent_zenith_deg : NDArray
        From overhead; the second as the air bends it. [°]
    azimuth_deg : NDArray
        From north clockwise. [°]
    outside_w_m2 : NDArray
        Light square to the sun outside the atmosphere. [W/m2]
    """

    zenith_deg: Floats
    apparent_zenith_deg: Floats
    azimuth_deg: Floats
    outside_w_m2: Floats

    @property
    def level_outside_w_m2(self) -> Floats:
        """Light on the level outside the atmosphere. [W/m2]"""
        level: Floats = self.outside_w_m2 * np.maximum(np.cos(np.radians(self.zenith_deg)), 0.0)
        return level


@dataclass(frozen=True, eq=False)
class SkyLight:
    """Light of a sky at a row of moments: whole and diffuse on the level, beam square to the sun. [W/m2]"""

    whole: Floats
    diffuse: Floats
    beam: Floats


def sun_path(site: Site, moments: "pd.DatetimeIndex") -> SunPath:
    """Position of the sun and the light outside the atmosphere, by NREL's SPA (through pvlib).

    Parameters
    ----------
    site : Site
        Where.
    moments : DatetimeIndex
        With time zone.

    Returns
    -------
    SunPath
        One entry a moment.

    References
    ----------
    I. Reda, A. Andreas, Solar Energy 76 (2004), 577-589.
    """
    from pvlib import atmosphere, spa

    earth = _earth_at(moments.as_unit("ns").asi8.tobytes())
    lat, elevation = site.latitude_deg, site.altitude_m
    hour = spa.local_hour_angle(earth.sidereal_deg, site.longitude_deg, earth.ascension_deg)
    parallax, u = spa.equatorial_horizontal_parallax(earth.distance_au), spa.uterm(lat)
    x, y = spa.xterm(u, lat, elevation), spa.yterm(u, lat, elevation)
    shift = spa.parallax_sun_right_ascension(x, parallax, hour, earth.declination_deg)
    declination = spa.topocentric_sun_declination(earth.declination_deg, x, y, parallax, shift, hour)
    hour = spa.topocentric_local_hour_angle(hour, shift)
    height = spa.topocentric_elevation_angle_without_atmosphere(lat, declination, hour)
    pressure_hpa = atmosphere.alt2pres(elevation) / 100.0
    seen = height + spa.atmospheric_refraction_correction(pressure_hpa, _AIR_C, height, _REFRACTION_DEG)
    azimuth = spa.topocentric_azimuth_angle(spa.topocentric_astronomers_azimuth(hour, declination, lat))
    return SunPath(90.0 - height, 90.0 - seen, azimuth, earth.outside_w_m2)


# As pvlib takes them for refraction where nobody says: air, and the sun's at the horizon. [°C], [°]
_AIR_C, _REFRACTION_DEG = 12.0, 0.5667
# Terrestrial over universal time, as pvlib takes it. [s]
_DELTA_T_S = 67.0


@dataclass(frozen=True, eq=False)
class _Earth:
    """The sun from the earth's centre at a row of moments, wherever on it one stands: the dear part of SPA."""

    sidereal_deg: Floats
    ascension_deg: Floats
    declination_deg: Floats
    distance_au: Floats
    outside_w_m2: Floats


@lru_cache(maxsize=12)
def _earth_at(nanoseconds: bytes) -> _Earth:
    import pandas as pd
    from pvlib import irradiance, spa

    stamps = np.frombuffer(nanoseconds, dtype=np.int64)
    seconds = stamps / 1e9
    sidereal, ascension, declination = spa.solar_position_numpy(
        seconds, 0.0, 0.0, 0.0, 1013.25, _AIR_C, _DELTA_T_S, _REFRACTION_DEG, 1, sst=True
    )
    day = spa.julian_ephemeris_day(spa.julian_day(seconds), _DELTA_T_S)
    millennium = spa.julian_ephemeris_millennium(spa.julian_ephemeris_century(day))
    outside = irradiance.get_extra_radiation(pd.DatetimeIndex(stamps, tz="UTC")).to_numpy(np.float64)
    return _Earth(sidereal, ascension, declination, spa.heliocentric_radius_vector(millennium), outside)


def clear_sky(path: SunPath, altitude_m: float, turbidity: Floats | float) -> SkyLight:
    """A clear sky after Ineichen (2002), through pvlib.

    Parameters
    ----------
    path : SunPath
        Where the sun stands.
    altitude_m : float
        Above the sea. [m]
    turbidity : float or NDArray
        Linke turbidity, 1 to 10. [-]

    Returns
    -------
    SkyLight
        Nil below the horizon.
    """
    from pvlib import atmosphere, clearsky

    zenith = path.apparent_zenith_deg
    airmass = atmosphere.get_absolute_airmass(atmosphere.get_relative_airmass(zenith), atmosphere.alt2pres(altitude_m))
    with np.errstate(divide="ignore", invalid="ignore"):  # below the horizon the model divides by nothing
        clear = clearsky.ineichen(zenith, airmass, turbidity, altitude=altitude_m, dni_extra=path.outside_w_m2)
    return SkyLight(np.nan_to_num(clear["ghi"]), np.nan_to_num(clear["dhi"]), np.nan_to_num(clear["dni"]))


def split_light(path: SunPath, whole: Floats) -> SkyLight:
    """Beam and diffuse of light on the level, after Erbs (1982), as pvlib has it.

    Parameters
    ----------
    path : SunPath
        Where the sun stands.
    whole : NDArray
        On the level; its last axis is the path's. [W/m2]
    """
    height = np.cos(np.radians(path.zenith_deg))
    kt = np.clip(whole / (path.outside_w_m2 * np.maximum(height, 0.065)), 0.0, 1.0)
    middle = 0.9511 + kt * (-0.1604 + kt * (4.388 + kt * (-16.638 + kt * 12.336)))
    share = np.where(kt <= 0.22, 1.0 - 0.09 * kt, np.where(kt <= 0.8, middle, 0.165))
    low = path.zenith_deg > 87.0
    diffuse = np.where(low, whole, share * whole)
    beam = np.where(low, 0.0, (whole - diffuse) / np.maximum(height, 1e-6))
    return SkyLight(whole, diffuse, np.maximum(beam, 0.0))


def day_shapes(level_outside: Floats, latitude_deg: float, day_of_year: NDArray[np.int64]) -> Floats:
    """How the light of a day spreads over its hours: the light there would be were all that is outside to come through.

    Parameters
    ----------
    level_outside : NDArray
        Outside the atmosphere on the level, one row a day. [W/m2]
    latitude_deg : float
        North positive. [°]
    day_of_year : NDArray
        One a row.

    Returns
    -------
    NDArray
        Of the same shape and the same sum a day; times a day's clearness it is that day's light. [W/m2]

    References
    ----------
    M. Collares-Pereira, A. Rabl, Solar Energy 22 (1979), 155-164.
    """
    latitude = np.radians(latitude_deg)
    declination = np.radians(23.45) * np.sin(np.radians(360.0 * (284 + day_of_year) / 365.0))
    sunset = np.arccos(np.clip(-np.tan(latitude) * np.tan(declination), -1.0, 1.0))
    a = 0.409 + 0.5016 * np.sin(sunset - np.pi / 3.0)
    b = 0.6609 - 0.4767 * np.sin(sunset - np.pi / 3.0)
    peak = level_outside.max(axis=1)
    noon = np.cos(latitude - declination)
    # cos(hour angle) recovered from the sun's height, so that clock and sun agree.
    height = level_outside / np.maximum(peak, 1e-9)[:, None] * noon[:, None]
    cos_hour = (height - (np.sin(latitude) * np.sin(declination))[:, None]) / (np.cos(latitude) * np.cos(declination))[
        :, None
    ]
    raw = level_outside * (a[:, None] + b[:, None] * np.clip(cos_hour, -1.0, 1.0))
    raw = np.maximum(np.where(level_outside > 0.0, raw, 0.0), 0.0)
    shapes: Floats = raw * (level_outside.sum(axis=1) / np.maximum(raw.sum(axis=1), 1e-9))[:, None]
    return shapes


def onto_plane(
    path: SunPath, light: SkyLight, tilt_deg: float, azimuth_deg: float, blocked: NDArray[np.bool_] | None = None
) -> Floats:
    """Light on a tilted plane after Hay and Davies (1980), ground albedo 0.2.

    Parameters
    ----------
    path, light : SunPath, SkyLight
        The sun and the sky; the last axis of the sky is the path's.
    tilt_deg, azimuth_deg : float
        From level; from north clockwise. [°]
    blocked : NDArray of bool, optional
        Where something hides the sun: its beam and the bright sky around it are gone.

    Returns
    -------
    NDArray
        Between 0 and 1450. [W/m2]
    """
    zenith, tilt = np.radians(path.apparent_zenith_deg), np.radians(tilt_deg)
    facing = np.cos(tilt) * np.cos(zenith) + np.sin(tilt) * np.sin(zenith) * np.cos(
        np.radians(path.azimuth_deg - azimuth_deg)
    )
    facing = np.maximum(facing, 0.0)
    beam_ratio = facing / np.maximum(np.cos(zenith), 0.01745)
    around_sun = light.beam / path.outside_w_m2
    beam, whole = light.beam, light.whole
    if blocked is not None:
        beam = np.where(blocked, 0.0, beam)
        whole = np.where(blocked, light.diffuse, whole)
        beam_ratio = np.where(blocked, 0.0, beam_ratio)
    sky = light.diffuse * ((1.0 - around_sun) * (1.0 + np.cos(tilt)) / 2.0 + around_sun * beam_ratio)
    ground = whole * ALBEDO * (1.0 - np.cos(tilt)) / 2.0
    plane: Floats = np.clip(beam * facing + sky + ground, 0.0, MOST_LIGHT_W_M2)
    return plane


Horizon = tuple[tuple[float, float], ...]


def height_at(horizon: Horizon, azimuth_deg: Floats) -> Floats:
    """How high a horizon of one point or more stands at some azimuths: straight between its points, around the whole circle. [°]"""
    points = sorted(horizon)
    height: Floats = np.interp(azimuth_deg, [a for a, _ in points], [h for _, h in points], period=360.0)
    return height


def hidden_by(horizon: Horizon, path: SunPath) -> NDArray[np.bool_]:
    """Whether the sun stands behind a horizon.

    Parameters
    ----------
    horizon : tuple of (azimuth, height)
        From north clockwise, 0 to 360; above the level. Straight between points, around the whole
        circle. An empty one hides nothing. [°], [°]
    path : SunPath
        Where the sun stands.
    """
    if not horizon:
        return np.zeros(path.azimuth_deg.shape, dtype=bool)
    hidden: NDArray[np.bool_] = (90.0 - path.apparent_zenith_deg) < height_at(horizon, path.azimuth_deg)
    return hidden


def shadow_over(from_azimuth_deg: float, to_azimuth_deg: float, top_deg: float, path: SunPath) -> NDArray[np.bool_]:
    """Whether the sun stands behind something near: between two azimuths, clockwise, and below its top. [°]"""
    width = (to_azimuth_deg - from_azimuth_deg) % 360.0
    within = (path.azimuth_deg - from_azimuth_deg) % 360.0 <= width
    behind: NDArray[np.bool_] = within & ((90.0 - path.apparent_zenith_deg) < top_deg)
    return behind


# What hides the sun stands this much higher than it, and ends this many steps beside it. [°], [-]
_HIGHER_DEG, _BESIDE = 1.5, 1


def horizon_seen(path: SunPath, hidden: NDArray[np.bool_]) -> Horizon:
    """The lowest horizon that hides the sun at the moments of one day at which it was seen hidden, and at no others.

    Parameters
    ----------
    path : SunPath
        The sun through one day, in even steps.
    hidden : NDArray of bool
        Whether it was hidden, a step each; steps of the night don't matter.

    Returns
    -------
    tuple of (azimuth, height)
        At most twelve points of the shade, and one on the level at each of its ends. Empty where the sun was never up
        while it was hidden. [°], [°]
    """
    height = 90.0 - path.apparent_zenith_deg
    steps = np.nonzero(hidden & (height > 0.0))[0]
    if not steps.size:
        return ()
    first, last = int(steps[0]), int(steps[-1])
    chosen = np.unique(np.linspace(first, last, min(12, last - first + 1)).round().astype(int))
    points = [(float(path.azimuth_deg[n]), float(height[n]) + _HIGHER_DEG) for n in chosen]
    ends = [n for n in (first - _BESIDE, last + _BESIDE) if 0 <= n < height.size]
    return tuple(sorted([*points, *((float(path.azimuth_deg[n]), 0.0) for n in ends)]))


def higher_of(one: Horizon, other: Horizon) -> Horizon:
    """Two horizons as one: at each point of either, the higher of both."""
    if not one or not other:
        return one or other

    azimuths = np.array(sorted({a for a, _ in (*one, *other)}))
    heights = np.maximum(height_at(one, azimuths), height_at(other, azimuths))
    return tuple(zip(azimuths.tolist(), heights.tolist(), strict=True))
