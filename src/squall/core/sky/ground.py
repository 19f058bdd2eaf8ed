"""The height of the ground and the haze over it, anywhere: read from the world tables that pvlib carries."""

from functools import lru_cache

from squall.core.errors import require
from squall.core.sky.outside import MOST_LATITUDE_DEG


def _check(latitude_deg: float, longitude_deg: float) -> None:
    require("latitude", latitude_deg, -MOST_LATITUDE_DEG, MOST_LATITUDE_DEG, "angle")
    require("longitude", longitude_deg, -180.0, 180.0, "angle")


@lru_cache(maxsize=256)
def altitude_at(latitude_deg: float, longitude_deg: float) -> float:
    """Height of the ground above the sea, to some 10 km: a valley or a ridge within it is not seen. [°], [m]

    pvlib's ``lookup_altitude``; never below -430 m.
    """
    from pvlib.location import lookup_altitude

    _check(latitude_deg, longitude_deg)
    return max(float(lookup_altitude(latitude_deg, longitude_deg)), -430.0)


@lru_cache(maxsize=256)
def turbidity_at(latitude_deg: float, longitude_deg: float) -> tuple[float, ...]:
    """Linke turbidity of a clear day, by month, January first. [°], [-]

    pvlib's ``lookup_linke_turbidity``: J. Remund et al., Proc. ISES Solar World Congress, Göteborg 2003.
    """
    import pandas as pd
    from pvlib.clearsky import lookup_linke_turbidity

    _check(latitude_deg, longitude_deg)
    middles = pd.DatetimeIndex([pd.Timestamp(2025, month, 15, tz="UTC") for month in range(1, 13)])
    found = lookup_linke_turbidity(middles, latitude_deg, longitude_deg, interp_turbidity=False)
    return tuple(float(value) for value in found)
