"""What follows from where a place is: its height, its clock, and how panels stand best there."""

from squall.core.sky.climate import TROPIC_DEG, Site
from squall.core.sky.ground import altitude_at
from squall.core.sky.outside import MOST_LATITUDE_DEG

# Steeper than the latitude by this much, panels catch most in winter: common practice, no source. [°]
WINTER_EXTRA_DEG = 15.0
# Flatter than this, rain does not wash them: common practice, no source. [°]
LEAST_TILT_DEG = 10.0
MOST_TILT_DEG = 75.0


def facing_deg(latitude_deg: float) -> float:
    """Where panels face: the equator, from north clockwise. [°]

    Examples
    --------
    >>> facing_deg(-30.0), facing_deg(44.5)
    (0.0, 180.0)
    """
    return 0.0 if latitude_deg < 0.0 else 180.0


def winter_tilt_deg(latitude_deg: float) -> float:
    """The steepest tilt that is of use: for the winter's sun, as a kit is judged by its worst month. [°]

    Examples
    --------
    >>> winter_tilt_deg(-30.4), winter_tilt_deg(2.0), winter_tilt_deg(66.0)
    (45.0, 17.0, 75.0)
    """
    return float(round(min(max(abs(latitude_deg) + WINTER_EXTRA_DEG, LEAST_TILT_DEG), MOST_TILT_DEG)))


def clock_h(longitude_deg: float) -> float:
    """Clock less universal time by the sun alone, whole hours: a guess until somebody says what the clock shows. [h]

    Examples
    --------
    >>> clock_h(24.6), clock_h(-71.0), clock_h(180.0)
    (2.0, -5.0, 12.0)
    """
    return float(round(longitude_deg / 15.0))


def turned_away_deg(latitude_deg: float, azimuth_deg: float, tilt_deg: float) -> float | None:
    """How far panels are turned from the equator, where that costs light; None where they may face anywhere. [°]

    Within the tropics the sun stands on both sides through the year, and flat panels face no way.
    """
    if abs(latitude_deg) < TROPIC_DEG or tilt_deg < LEAST_TILT_DEG:
        return None
    off = abs((azimuth_deg - facing_deg(latitude_deg) + 180.0) % 360.0 - 180.0)
    return off if off > 90.0 else None


def site_at(latitude_deg: float, longitude_deg: float) -> Site:
    """A place known by its latitude and longitude alone: height by the world's table, clock by the sun. [°]

    Raises
    ------
    OutOfRange
        Poleward of 73.5°.
    """
    inside = -MOST_LATITUDE_DEG <= latitude_deg <= MOST_LATITUDE_DEG
    altitude = min(altitude_at(latitude_deg, longitude_deg), 5500.0) if inside else 0.0
    return Site(latitude_deg, longitude_deg, altitude, clock_h(longitude_deg))
