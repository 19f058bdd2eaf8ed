"""Sums of the weather: ``reference-et`` and ``sun-day``."""

from datetime import date
from typing import Annotated, Literal

from pydantic import Field, model_validator

from squall.core.need.evapotranspiration import hargreaves, penman_monteith, solar_from_sunshine, vapour_from_humidity
from squall.core.sky.climate import Site
from squall.core.sky.one_day import sun_day
from squall.core.sky.outside import DaySky, day_sky
from squall.sums.fields import Finite, NotNegative, Strict
from squall.words import later

Percent = Annotated[float, Field(ge=0.0, le=100.0)]


class ReferenceEtIn(Strict):
    """A day's weather; Penman-Monteith wants humidity, wind and sun besides temperatures."""

    method: Literal["penman-monteith", "hargreaves"]
    latitude_deg: Annotated[float, Field(ge=-65.0, le=65.0)]
    day_of_year: Annotated[int, Field(ge=1, le=366)]
    altitude_m: Annotated[float, Field(ge=-430.0, le=6000.0)]
    t_min_c: Annotated[float, Field(ge=-40.0, le=50.0)]
    t_max_c: Annotated[float, Field(ge=-40.0, le=60.0)]
    ea_kpa: Annotated[float, Field(ge=0.0, le=10.0)] | None = None
    rh_min_percent: Percent | None = None
    rh_max_percent: Percent | None = None
    wind_2m_m_per_s: Annotated[float, Field(ge=0.0, le=40.0)] | None = None
    solar_mj_per_m2: NotNegative | None = None
    sunshine_h: Annotated[float, Field(ge=0.0, le=24.0)] | None = None
    soil_heat_mj_per_m2: Finite = 0.0

    @model_validator(mode="after")
    def whole(self) -> "ReferenceEtIn":
        """What Penman-Monteith needs, each in exactly one way."""
        if self.method == "hargreaves":
            return self
        both = self.rh_min_percent is not None and self.rh_max_percent is not None
        either = self.rh_min_percent is not None or self.rh_max_percent is not None
        if (self.ea_kpa is None) != both or (self.ea_kpa is not None and either):
            raise ValueError(later("give either ea_kpa, or rh_min_percent together with rh_max_percent"))
        if self.wind_2m_m_per_s is None:
            raise ValueError(later("give wind_2m_m_per_s"))
        if (self.solar_mj_per_m2 is None) == (self.sunshine_h is None):
            raise ValueError(later("give either solar_mj_per_m2 or sunshine_h"))
        return self


class ReferenceEtOut(Strict):
    """Reference evapotranspiration, and the sun outside the atmosphere."""

    et0_mm_per_day: float
    extraterrestrial_mj_per_m2: float


def sum_reference_et(given: ReferenceEtIn) -> ReferenceEtOut:
    """Reference evapotranspiration of a day, by Penman-Monteith or Hargreaves."""
    sky = day_sky(given.latitude_deg, given.day_of_year)
    et0 = _penman(given, sky) if given.method == "penman-monteith" else hargreaves(sky, given.t_min_c, given.t_max_c)
    return ReferenceEtOut(et0_mm_per_day=et0, extraterrestrial_mj_per_m2=sky.extraterrestrial_mj_m2)


def _penman(given: ReferenceEtIn, sky: DaySky) -> float:
    assert given.wind_2m_m_per_s is not None
    vapour, solar = given.ea_kpa, given.solar_mj_per_m2
    if vapour is None:
        assert given.rh_min_percent is not None
        assert given.rh_max_percent is not None
        vapour = vapour_from_humidity(given.t_min_c, given.t_max_c, given.rh_min_percent, given.rh_max_percent)
    if solar is None:
        assert given.sunshine_h is not None
        solar = solar_from_sunshine(sky, given.sunshine_h)
    return penman_monteith(
        sky,
        given.altitude_m,
        given.t_min_c,
        given.t_max_c,
        vapour,
        given.wind_2m_m_per_s,
        solar,
        given.soil_heat_mj_per_m2,
    )


class SunDayIn(Strict):
    """A place, a date, a plane and a sky: ``clear``, or a day's clearness (light on the level over that outside)."""

    latitude_deg: Annotated[float, Field(ge=-65.0, le=65.0)]
    longitude_deg: Annotated[float, Field(ge=-180.0, le=180.0)]
    altitude_m: Annotated[float, Field(ge=-430.0, le=5500.0)]
    date: Annotated[date, Field(strict=False)]
    tilt_deg: Annotated[float, Field(ge=0.0, le=90.0)]
    azimuth_deg: Annotated[float, Field(ge=0.0, le=360.0)]
    sky: Literal["clear", "clearness"] | Annotated[float, Field(ge=0.0, le=0.9, allow_inf_nan=False)] = "clear"
    clearness: Annotated[float, Field(ge=0.0, le=0.9, allow_inf_nan=False)] | None = None
    step_min: Annotated[float, Field(ge=1.0, le=60.0)] = 15.0
    turbidity: Annotated[float, Field(ge=1.0, le=10.0)] = 3.0

    @model_validator(mode="after")
    def whole(self) -> "SunDayIn":
        """A year that SPA covers, steps that fill the day, one clearness where one is wanted."""
        if not 1950 <= self.date.year <= 2100:
            raise ValueError(later("have a date between 1950 and 2100"))
        if abs(1440.0 / self.step_min - round(1440.0 / self.step_min)) > 1e-9:
            raise ValueError(later("have a step_min that divides the day's 1440 minutes, such as 5, 10, 15, 30 or 60"))
        if (self.sky == "clearness") != (self.clearness is not None):
            raise ValueError(later('give clearness together with sky "clearness", and only then'))
        return self


class SunDayOut(Strict):
    """Light on the plane at the middle of each step of the local solar day, universal time, and its sum."""

    times: list[str]
    irradiance_w_per_m2: list[float]
    day_kwh_per_m2: float
    level_kwh_per_m2: float
    outside_kwh_per_m2: float


def sum_sun_day(given: SunDayIn) -> SunDayOut:
    """Light on a tilted plane through one day, clear or of a given clearness."""
    site = Site(given.latitude_deg, given.longitude_deg, given.altitude_m, 0.0)
    clearness = given.clearness if isinstance(given.sky, str) else given.sky
    day = sun_day(
        site, given.date, given.tilt_deg, given.azimuth_deg, clearness, round(1440.0 / given.step_min), given.turbidity
    )
    return SunDayOut(
        times=[moment.strftime("%Y-%m-%dT%H:%M:%SZ") for moment in day.moments],
        irradiance_w_per_m2=day.plane_w_m2.tolist(),
        day_kwh_per_m2=day.plane_kwh_m2,
        level_kwh_per_m2=day.level_kwh_m2,
        outside_kwh_per_m2=day.outside_kwh_m2,
    )
