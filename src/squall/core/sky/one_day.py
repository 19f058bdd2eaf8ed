"""Light on a plane through one day at one place, by the laws of :mod:`squall.core.sky.sunlight` (pvlib)."""

from dataclasses import dataclass
from datetime import date, datetime
from datetime import time as clock
from typing import TYPE_CHECKING

import numpy as np

from squall.core.sky.climate import Site
from squall.core.sky.sunlight import Floats, clear_sky, day_shapes, onto_plane, split_light, sun_path

if TYPE_CHECKING:
    import pandas as pd


@dataclass(frozen=True, eq=False)
class SunDay:
    """A day's light: moments (universal time, the middle of each step) and light there [W/m2], sums [kWh/m2]."""

    moments: "pd.DatetimeIndex"
    plane_w_m2: Floats
    plane_kwh_m2: float
    level_kwh_m2: float
    outside_kwh_m2: float


def sun_day(
    site: Site, day: date, tilt_deg: float, azimuth_deg: float, clearness: float | None, steps: int, turbidity: float
) -> SunDay:
    """Light on a plane from one solar midnight, to the nearest step, to the next.

    Parameters
    ----------
    site : Site
        Where; its clock offset is not used.
    day : date
        At that place.
    tilt_deg, azimuth_deg : float
        From level; from north clockwise. [°]
    clearness : float or None
        The day's light on the level over that outside the atmosphere; None for a clear sky. [-]
    steps : int
        Into how many the day is cut.
    turbidity : float
        Linke turbidity of the clear sky. [-]

    Returns
    -------
    SunDay
        Clear sky after Ineichen; else the hours after Collares-Pereira and Rabl, split after Erbs.
        Onto the plane after Hay and Davies.
    """
    import pandas as pd

    step_h = 24.0 / steps
    early = round(site.longitude_deg / 15.0 / step_h) * step_h
    midnight = pd.Timestamp(datetime.combine(day, clock()), tz="UTC") - pd.Timedelta(hours=early)
    moments = pd.DatetimeIndex([midnight + pd.Timedelta(hours=(k + 0.5) * step_h) for k in range(steps)])
    path = sun_path(site, moments)
    outside = path.level_outside_w_m2
    if clearness is None:
        sky = clear_sky(path, site.altitude_m, turbidity)
    else:
        number = np.array([day.timetuple().tm_yday])
        sky = split_light(path, clearness * day_shapes(outside[None, :], site.latitude_deg, number)[0])
    plane = onto_plane(path, sky, tilt_deg, azimuth_deg)
    plane_kwh, level_kwh, outside_kwh = (
        float(values.sum()) * step_h / 1000.0 for values in (plane, sky.whole, outside)
    )
    return SunDay(moments, plane, plane_kwh, level_kwh, outside_kwh)
