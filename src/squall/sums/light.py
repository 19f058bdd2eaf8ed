"""Sums of the light of anywhere: ``light-of-place`` and ``made-light``."""

from typing import Annotated

from pydantic import Field

from squall.core.sky.made_weather import MOST_YEARS, Draw, made_days
from squall.core.sky.place import site_at
from squall.core.sky.whole_year import day_limits
from squall.core.sky.world import light_at
from squall.sums.fields import Strict

SHARES = {"5": 0.05, "25": 0.25, "50": 0.50, "75": 0.75, "95": 0.95}
SOURCE = (
    "NASA MERRA-2 reanalysis 2011-2015 (Gelaro et al. 2017), daily light on 3-degree cells "
    "by the package gsee-climate-data (Pfenninger and Staffell 2016)"
)
Latitude = Annotated[float, Field(ge=-90.0, le=90.0, allow_inf_nan=False)]
Longitude = Annotated[float, Field(ge=-180.0, le=180.0, allow_inf_nan=False)]


class LightOfPlaceIn(Strict):
    """A place: degrees, north and east positive."""

    latitude_deg: Latitude
    longitude_deg: Longitude


class MonthOut(Strict):
    """A day's light on the level in one month: mean, what shares of the days stay under, and doubt."""

    mean_kwh_per_m2: float
    quantiles_kwh_per_m2: dict[str, float]
    doubt: float


class LightOfPlaceOut(Strict):
    """Twelve months, January first; how far the nearest land with data is; where it comes from."""

    months: list[MonthOut]
    nearest_land_km: float
    year_kwh_per_m2: float
    source: str


def sum_light_of_place(given: LightOfPlaceIn) -> LightOfPlaceOut:
    """A day's light on the level at a place, month by month: its mean and how the days are spread."""
    light = light_at(given.latitude_deg, given.longitude_deg)
    return LightOfPlaceOut(
        months=[
            MonthOut(
                mean_kwh_per_m2=month.mean_kwh_m2,
                quantiles_kwh_per_m2={name: month.under(share) for name, share in SHARES.items()},
                doubt=month.doubt,
            )
            for month in light.months
        ],
        nearest_land_km=light.nearest_land_km,
        year_kwh_per_m2=light.year_kwh_m2,
        source=SOURCE,
    )


class MadeLightIn(LightOfPlaceIn):
    """A place, how many years, and the seed: the same seed gives the same days."""

    years: Annotated[int, Field(ge=1, le=MOST_YEARS)] = 1
    seed: Annotated[int, Field(ge=0, le=2**31 - 1)] = 1


class MadeLightOut(Strict):
    """Light on the level of each day, one list of 365 a year."""

    days_kwh_per_m2: list[list[float]]


def sum_made_light(given: MadeLightIn) -> MadeLightOut:
    """Made years of daily light on the level at a place, with its months' own spread of dull and clear days."""
    light = light_at(given.latitude_deg, given.longitude_deg)
    outside, most = day_limits(site_at(given.latitude_deg, given.longitude_deg))
    clearness = made_days(light, outside, most, Draw(given.years, given.seed))
    return MadeLightOut(days_kwh_per_m2=(clearness * outside).tolist())
