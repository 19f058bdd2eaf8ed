"""A place and its months: no law, only the figures that a climate is told by, by definition."""

from dataclasses import dataclass, replace

from squall.core.errors import OutOfRange, require
from squall.core.reason import Quantity, Reason
from squall.core.sky.outside import MOST_LATITUDE_DEG
from squall.core.sky.world import PlaceLight


@dataclass(frozen=True)
class MonthClimate:
    """One month's mean day.

    Attributes
    ----------
    clearness : float
        Daily light on the level over the same outside the atmosphere, 0 to 0.95. [-]
    t_min_c, t_max_c : float
        Mean least and greatest air temperature of the day. [°C]
    turbidity : float
        Linke turbidity of a clear day, 1 to 10. [-]
    rain_mm, wet_days : float
        Rain of the month, and the days it falls on. [mm], [-]
    """

    clearness: float
    t_min_c: float
    t_max_c: float
    turbidity: float
    rain_mm: float = 0.0
    wet_days: float = 0.0

    def __post_init__(self) -> None:
        require("clearness", self.clearness, 0.0, 0.95, "number")
        require("least-air-temperature", self.t_min_c, -50.0, 50.0, "temperature")
        require("greatest-air-temperature", self.t_max_c, -50.0, 60.0, "temperature")
        require("turbidity", self.turbidity, 1.0, 10.0, "number")
        require("rain-month", self.rain_mm / 1000.0, 0.0, 3.0, "rain")
        require("wet-days-month", self.wet_days, 0.0, 31.0, "number")
        if self.t_min_c > self.t_max_c:
            raise OutOfRange(
                "least-air-temperature", Quantity(self.t_min_c, "temperature"), Reason("most", t_max=self.t_max_c)
            )


@dataclass(frozen=True)
class Climate:
    """Twelve months of a place and its extremes.

    Attributes
    ----------
    name : str
        Name of the table.
    months : tuple[MonthClimate, ...]
        January first.
    record_low_c, record_high_c : float
        Air temperatures. [°C]
    light : PlaceLight or None
        How each month's days are spread, where the world's table says so.
    air_guessed : bool
        Whether the air's figures are guessed from latitude and height.
    """

    name: str
    months: tuple[MonthClimate, ...]
    record_low_c: float
    record_high_c: float
    light: PlaceLight | None = None
    air_guessed: bool = False

    def __post_init__(self) -> None:
        if len(self.months) != 12:
            raise OutOfRange("months-climate", len(self.months), "12")


@dataclass(frozen=True)
class Site:
    """Where the panels stand.

    Attributes
    ----------
    latitude_deg : float
        North positive, -73.5 to 73.5. [°]
    longitude_deg : float
        East positive. [°]
    altitude_m : float
        Above the sea. [m]
    utc_offset_h : float
        Clock time less universal time. [h]
    """

    latitude_deg: float
    longitude_deg: float
    altitude_m: float
    utc_offset_h: float

    def __post_init__(self) -> None:
        require("latitude", self.latitude_deg, -MOST_LATITUDE_DEG, MOST_LATITUDE_DEG, "angle")
        require("longitude", self.longitude_deg, -180.0, 180.0, "angle")
        require("altitude", self.altitude_m, -430.0, 5500.0, "length")
        require("clock-offset", self.utc_offset_h, -12.0, 14.0, "hours")


# The sun stands overhead at most so far from the equator: between the tropics no half of the year is winter enough to tell. [°]
TROPIC_DEG = 23.44


def wrong_season(climate: Climate, latitude_deg: float) -> bool:
    """Whether a climate's warm half of the year is the cold half at a latitude; never between the tropics. [°]"""
    if abs(latitude_deg) < TROPIC_DEG:
        return False
    warm = [month.t_min_c + month.t_max_c for month in climate.months]
    northern = sum(warm[3:9]) > sum(warm) / 2.0
    return northern != (latitude_deg >= 0.0)


def in_season(climate: Climate, latitude_deg: float) -> Climate:
    """A climate told by its months alone, turned by half a year where it belongs to the other half of the world. [°]"""
    if climate.light is not None or not wrong_season(climate, latitude_deg):
        return climate
    return replace(climate, months=climate.months[6:] + climate.months[:6])
