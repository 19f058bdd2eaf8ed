"""Where a job is, and what follows from it: height, clock, stand of the panels, climate, and how far its light may be off.

Whatever is typed rules; what is left empty follows the place, and says so.
"""

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from squall.catalogue import Catalogue
from squall.catalogue.reader import pick
from squall.core.errors import NoPlace, NotFound
from squall.core.sky.air import Air, air_between, air_like, guessed_air, records_beyond
from squall.core.sky.climate import Climate, MonthClimate, Site, in_season
from squall.core.sky.file_days import FILE_DOUBT
from squall.core.sky.ground import altitude_at
from squall.core.sky.local import climate_at
from squall.core.sky.outside import daylight_outside_kwh
from squall.core.sky.place import clock_h, facing_deg, winter_tilt_deg
from squall.core.sky.world import MonthLight, PlaceLight, light_at
from squall.job.document.job import FILE_CLIMATE, WORLD_CLIMATE, Job, Typed
from squall.job.document.specs import OWN_CLIMATE
from squall.words import later

# Turbidity of a clear day where a climate is typed: a usual one, a guess.
TYPED_TURBIDITY = 3.0
# How far a month's light may be off where it comes from a climate's table: a choice of ours.
TABLE_DOUBT = 0.08
# A month that somebody measured here is off by its own year's luck: a choice of ours, see made_weather's spread.
MEASURED_DOUBT = 0.08
# Height that suction is reckoned for while nobody knows the place: high, so that no pump is promised too much. [m]
UNKNOWN_ALTITUDE_M = 1500.0

From = Literal["typed", "place", "unknown"]


@dataclass(frozen=True)
class Followed:
    """A figure that is typed or follows from the place: in SI, and where it comes from."""

    si: float
    told_by: From


def _or(typed: Typed | None, follows: float | None, unknown: float) -> Followed:
    if typed is not None:
        return Followed(typed.si, "typed")
    return Followed(unknown, "unknown") if follows is None else Followed(follows, "place")


def where(job: Job) -> tuple[float, float]:
    """Latitude and longitude. [°]

    Raises
    ------
    NoPlace
        Before they are given.
    """
    if job.latitude is None or job.longitude is None:
        raise NoPlace
    return job.latitude.si, job.longitude.si


def altitude_of(job: Job) -> Followed:
    """Height above the sea: typed, or by the map. [m]"""
    by_map = min(altitude_at(*where(job)), 5500.0) if job.placed and job.altitude is None else None
    return _or(job.altitude, by_map, UNKNOWN_ALTITUDE_M)


def clock_of(job: Job) -> Followed:
    """Clock less universal time: typed, or by the sun. [h]"""
    return _or(job.clock_offset, clock_h(job.longitude.si) if job.longitude is not None else None, 0.0)


def tilt_of(job: Job) -> Followed:
    """Tilt of the panels from level: typed, or for the winter's sun. [°]"""
    return _or(job.tilt, winter_tilt_deg(job.latitude.si) if job.latitude is not None else None, 35.0)


def azimuth_of(job: Job) -> Followed:
    """Where the panels face: typed, or the equator. [°]"""
    return _or(job.azimuth, facing_deg(job.latitude.si) if job.latitude is not None else None, 0.0)


def site_of(job: Job) -> Site:
    """Where the panels stand.

    Raises
    ------
    NoPlace
        Before a place is given.
    """
    return Site(*where(job), altitude_of(job).si, clock_of(job).si)


def climate_of(job: Job, catalogue: Catalogue) -> Climate:
    """The months of the place: by the world's table, the catalogue's, or typed.

    Raises
    ------
    NoPlace
        Before a place is given.
    """
    latitude, _ = where(job)
    if job.climate == WORLD_CLIMATE:
        measured = tuple((row.month - 1, row.light.si) for row in job.measured)
        return _world_climate(site_of(job), air_of(job, catalogue), measured)
    if job.climate == FILE_CLIMATE:
        return _file_climate(job, catalogue)
    chosen = chosen_climate(job, catalogue)
    if chosen is not None:
        return in_season(chosen, latitude)
    if job.sky is None:
        raise NotFound(later("No climate is typed yet; choose “typed below” first."))
    months = []
    for number, month in enumerate(job.sky.months):
        clearness = month.light.si / daylight_outside_kwh(latitude, number)
        months.append(
            MonthClimate(
                clearness, month.t_min.si, month.t_max.si, TYPED_TURBIDITY, month.rain.si * 1000.0, month.wet_days.si
            )
        )
    return Climate("typed", tuple(months), job.sky.record_low.si, job.sky.record_high.si)


def chosen_climate(job: Job, catalogue: Catalogue) -> Climate | None:
    """The catalogue's climate that a job goes by, as it stands there; None where its light comes from elsewhere."""
    if job.climate in (WORLD_CLIMATE, FILE_CLIMATE, OWN_CLIMATE):
        return None
    return pick(catalogue.climates, job.climate, "climate")


@lru_cache(maxsize=64)
def _world_climate(site: Site, air: Air, measured: tuple[tuple[int, float], ...]) -> Climate:
    light = corrected(light_at(site.latitude_deg, site.longitude_deg), measured)
    return climate_at(light, air, site, WORLD_CLIMATE)


def _file_climate(job: Job, catalogue: Catalogue) -> Climate:
    if job.file_sky is None:
        raise NotFound(later("No weather file was given yet: give one, or choose another light."))
    months = tuple(MonthLight(month.mean, tuple(month.under), FILE_DOUBT) for month in job.file_sky.months)
    measured = tuple((row.month - 1, row.light.si) for row in job.measured)
    light = corrected(PlaceLight(*where(job), months, 0.0), measured)
    return _lit_climate(light, air_of(job, catalogue), site_of(job))


@lru_cache(maxsize=16)
def _lit_climate(light: PlaceLight, air: Air, site: Site) -> Climate:
    return climate_at(light, air, site, FILE_CLIMATE)


def corrected(light: PlaceLight, measured: tuple[tuple[int, float], ...]) -> PlaceLight:
    """A place's light with months that somebody measured: (month from 0, the day's light on the level [kWh/m2]).

    The month's days keep their spread about the new mean; the last row of a month counts.
    """
    months = list(light.months)
    for month, mean in measured:
        old = light.months[month]
        if old.mean_kwh_m2 > 0.0:
            times = mean / old.mean_kwh_m2
            spread = tuple(value * times for value in old.quantiles_kwh_m2)
            months[month] = replace(
                old, mean_kwh_m2=mean, quantiles_kwh_m2=spread, doubt=MEASURED_DOUBT, reads_high=0.0
            )
    return replace(light, months=tuple(months))


def air_of(job: Job, catalogue: Catalogue) -> Air:
    """The air of a place whose light comes from the world's table or a file: guessed or the file's, or as somebody typed it."""
    (latitude, _), height, doc = where(job), altitude_of(job).si, job.air
    air = guessed_air(latitude, height)
    if job.climate == FILE_CLIMATE and job.file_sky is not None:
        low, high = (tuple(m.t_min for m in job.file_sky.months), tuple(m.t_max for m in job.file_sky.months))
        air = Air(low, high, *records_beyond(air, min(low), max(high)))
    if doc.by == "extremes" and doc.hottest is not None and doc.coldest is not None:
        air = air_between(doc.hottest.si, doc.coldest.si, latitude, height)
    elif doc.by == "like":
        air = air_like(in_season(pick(catalogue.climates, doc.like, "climate"), latitude))
    elif doc.by == "months" and len(doc.months) == 12:
        low, high = (tuple(m.t_min.si for m in doc.months), tuple(m.t_max.si for m in doc.months))
        air = Air(
            low, high, *records_beyond(air, min(low), max(high)),
            rain_mm=tuple(m.rain.si * 1000.0 for m in doc.months), wet_days=tuple(m.wet_days.si for m in doc.months),
        )  # fmt: skip
    if doc.record_low is not None:
        air = replace(air, record_low_c=doc.record_low.si)
    if doc.record_high is not None:
        air = replace(air, record_high_c=doc.record_high.si)
    return air


@dataclass(frozen=True)
class LightDoubt:
    """How far a month's light may be off: dimmer and brighter, as shares. [-]"""

    less: float
    more: float


def light_doubt(job: Job, climate: Climate, month: int | None = None) -> LightDoubt:
    """Doubt of the light of a month, January 0, or of the year without one: typed, or by where the light comes from."""
    if job.doubt.light is not None:
        return LightDoubt(job.doubt.light.si, job.doubt.light.si)
    if climate.light is None:
        return LightDoubt(TABLE_DOUBT, TABLE_DOUBT)
    months = climate.light.months if month is None else climate.light.months[month : month + 1]
    weights = [m.mean_kwh_m2 for m in months] if any(m.mean_kwh_m2 > 0.0 for m in months) else [1.0] * len(months)
    total = sum(weights)
    more = sum(m.doubt * w for m, w in zip(months, weights, strict=True)) / total
    high = sum(m.reads_high * w for m, w in zip(months, weights, strict=True)) / total
    return LightDoubt(min(more + high, 0.8), min(more, 0.8))
