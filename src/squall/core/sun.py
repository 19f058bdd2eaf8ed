"""Light and heat on the panels: a clear and an average day of each month, by the half hour."""

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from squall.core.climate import Climate, Site
from squall.core.errors import require

Floats = NDArray[np.float64]
STEP_H = 0.5
STEPS = 48
CLEAR, AVERAGE = 0, 1
# Klein's days, on which the daily extraterrestrial light equals the month's mean.
# S. A. Klein, Solar Energy 19 (1977), 325-329, table 1.
TYPICAL_DAYS = (17, 16, 16, 15, 15, 11, 17, 16, 15, 15, 14, 10)
NOCT_C = 45.0


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
    """

    tilt_deg: float
    azimuth_deg: float
    dirt: float = 0.05

    def __post_init__(self) -> None:
        require("tilt", self.tilt_deg, 0.0, 90.0, "degrees")
        require("azimuth", self.azimuth_deg, 0.0, 360.0, "degrees")
        require("dirt", self.dirt * 100, 0.0, 60.0, "%")


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
    """

    hours: Floats
    plane_w_m2: Floats
    cell_c: Floats
    air_c: Floats
    level_kwh_m2: Floats

    @property
    def plane_kwh_m2(self) -> Floats:
        """Daily light on the panels, shape (2, 12). [kWh/m2]"""
        total: Floats = self.plane_w_m2.sum(axis=2) * STEP_H / 1000.0
        return total


@lru_cache(maxsize=32)
def clear_noons_only(light: Light) -> Light:
    """The same light with each clear day reduced to its brightest half hour.

    Enough to rank kits: litres are counted on average days, and the volts of a clear noon say
    whether a pump is overdriven.
    """
    plane = light.plane_w_m2.copy()
    brightest = plane[CLEAR].max(axis=1, keepdims=True)
    plane[CLEAR] = np.where(plane[CLEAR] == brightest, plane[CLEAR], 0.0)
    return replace(light, plane_w_m2=plane)


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
    import pandas as pd
    from pvlib import atmosphere, clearsky, irradiance, solarposition

    hours: Floats = (np.arange(STEPS, dtype=np.float64) + 0.5) * STEP_H
    stamps = pd.DatetimeIndex(
        [
            pd.Timestamp(2025, month + 1, day) + pd.Timedelta(hours=float(hour))
            for month, day in enumerate(TYPICAL_DAYS)
            for hour in hours
        ]
    ).tz_localize("UTC") - pd.Timedelta(hours=site.utc_offset_h)
    sun = solarposition.get_solarposition(stamps, site.latitude_deg, site.longitude_deg, site.altitude_m)
    zenith = sun["apparent_zenith"].to_numpy()
    outside = irradiance.get_extra_radiation(stamps).to_numpy()
    turbidity = np.repeat([month.turbidity for month in climate.months], STEPS)
    airmass = atmosphere.get_absolute_airmass(
        atmosphere.get_relative_airmass(zenith), atmosphere.alt2pres(site.altitude_m)
    )
    with np.errstate(divide="ignore", invalid="ignore"):  # below the horizon the model divides by nothing
        clear = clearsky.ineichen(zenith, airmass, turbidity, altitude=site.altitude_m, dni_extra=outside)
    level_outside = outside * np.maximum(np.cos(np.radians(sun["zenith"].to_numpy())), 0.0)
    average_level = _average_day(level_outside, site, climate)
    split = irradiance.erbs(average_level, sun["zenith"].to_numpy(), stamps)
    days = (
        (np.nan_to_num(clear["ghi"]), np.nan_to_num(clear["dhi"]), np.nan_to_num(clear["dni"])),
        (average_level, np.nan_to_num(split["dhi"]), np.nan_to_num(split["dni"])),
    )
    plane, level = [], []
    for whole, diffuse, beam in days:
        total = irradiance.get_total_irradiance(
            mounting.tilt_deg, mounting.azimuth_deg, zenith, sun["azimuth"].to_numpy(), beam, whole, diffuse,
            dni_extra=outside, model="haydavies", albedo=0.2,
        )  # fmt: skip
        plane.append(np.nan_to_num(np.asarray(total["poa_global"])).clip(0.0, 1450.0).reshape(12, STEPS))
        level.append(np.asarray(whole).reshape(12, STEPS).sum(axis=1) * STEP_H / 1000.0)
    plane_w_m2 = np.stack(plane) * (1.0 - mounting.dirt)
    air = _air_of_day(climate, hours)
    air_c = np.stack([air, air])
    return Light(hours, plane_w_m2, cell_temperature(air_c, plane_w_m2), air_c, np.stack(level))


def cell_temperature(air_c: Floats, plane_w_m2: Floats) -> Floats:
    """Cell temperature of an open-rack panel. [°C]

    Air plus (NOCT - 20)/800 times the light, NOCT 45 °C (R. G. Ross, 1980).
    """
    warm: Floats = air_c + (NOCT_C - 20.0) / 800.0 * plane_w_m2
    return warm


def _air_of_day(climate: Climate, hours: Floats) -> Floats:
    low = np.array([month.t_min_c for month in climate.months])[:, None]
    high = np.array([month.t_max_c for month in climate.months])[:, None]
    air: Floats = (low + high) / 2.0 + (high - low) / 2.0 * np.cos(2.0 * np.pi * (hours - 15.0) / 24.0)
    return air


def _average_day(level_outside: Floats, site: Site, climate: Climate) -> Floats:
    """Spread each month's mean light over the hours of its day, on the level. [W/m2]

    References
    ----------
    M. Collares-Pereira, A. Rabl, Solar Energy 22 (1979), 155-164.
    """
    months = level_outside.reshape(12, STEPS)
    latitude = np.radians(site.latitude_deg)
    average = np.zeros((12, STEPS))
    for m, climate_month in enumerate(climate.months):
        day_of_year = int(np.cumsum((0, 31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30))[m]) + TYPICAL_DAYS[m]
        declination = np.radians(23.45) * np.sin(np.radians(360.0 * (284 + day_of_year) / 365.0))
        sunset = np.arccos(np.clip(-np.tan(latitude) * np.tan(declination), -1.0, 1.0))
        a = 0.409 + 0.5016 * np.sin(sunset - np.pi / 3.0)
        b = 0.6609 - 0.4767 * np.sin(sunset - np.pi / 3.0)
        peak = months[m].max()
        # cos(hour angle) recovered from the sun's height, so that clock and sun agree.
        noon = np.cos(latitude - declination)
        height = months[m] / peak * noon
        cos_hour = (height - np.sin(latitude) * np.sin(declination)) / (np.cos(latitude) * np.cos(declination))
        shape = np.where(months[m] > 0.0, months[m] * (a + b * np.clip(cos_hour, -1.0, 1.0)), 0.0)
        shape = np.maximum(shape, 0.0)
        daily = climate_month.clearness * months[m].sum() * STEP_H
        average[m] = shape / (shape.sum() * STEP_H) * daily
    return average.ravel()
