"""Sums of water levels and suction: ``water-level-from-drop``, ``combine-levels``, ``suction-limit``."""

from typing import Annotated

from pydantic import Field

from squall.core.hydraulics.pipes import Line
from squall.core.hydraulics.suction import suction_limit
from squall.core.hydraulics.water import water_at
from squall.core.sources.levels import Level, combine_levels, depth_from_drop, trust_in
from squall.sums.fields import NotNegative, Positive, Strict, WaterCelsius
from squall.sums.hydraulics import LITRES_PER_MIN, PipeIn


class DropIn(Strict):
    """A pebble's fall, timed."""

    fall_time_s: Annotated[float, Field(gt=0.0, le=10.0)]
    air_temperature_c: Annotated[float, Field(ge=-40.0, le=55.0)] = 15.0
    timing_error_s: Annotated[float, Field(ge=0.0, le=5.0)] = 0.2


class DropOut(Strict):
    """Depth to the water, and how far off it may be."""

    depth_m: float
    uncertainty_m: float


def sum_drop(given: DropIn) -> DropOut:
    """Depth at which a dropped pebble is heard to splash, the sound's way back included."""
    level = depth_from_drop(given.fall_time_s, given.air_temperature_c, given.timing_error_s)
    return DropOut(depth_m=level.depth_m, uncertainty_m=level.uncertainty_m)


class ReadingIn(Strict):
    """One reading; its way gives an uncertainty where none is given."""

    method: Annotated[str, Field(min_length=1, max_length=60)]
    depth_m: Annotated[float, Field(ge=0.0, le=1000.0)]
    uncertainty_m: Positive | None = None


class CombineIn(Strict):
    """Readings of one level."""

    readings: Annotated[list[ReadingIn], Field(min_length=1, max_length=100)]


class CombineOut(Strict):
    """The weighed level, whether the readings agree, and which lie far off."""

    depth_m: float
    uncertainty_m: float
    consistent: bool
    outliers: list[int]


def sum_combine(given: CombineIn) -> CombineOut:
    """Several readings of one level weighed by how far each can be trusted."""
    readings = [Level(r.depth_m, r.uncertainty_m or trust_in(r.method)) for r in given.readings]
    found = combine_levels(readings)
    return CombineOut(
        depth_m=found.level.depth_m,
        uncertainty_m=found.level.uncertainty_m,
        consistent=found.consistent,
        outliers=list(found.outliers),
    )


class SuctionIn(Strict):
    """A surface pump and its suction pipe."""

    altitude_m: Annotated[float, Field(ge=-430.0, le=9000.0)]
    water_temperature_c: WaterCelsius
    flow_l_per_min: NotNegative
    pipes: Annotated[list[PipeIn], Field(max_length=200)]
    npsh_required_m: NotNegative
    margin_m: NotNegative = 0.5


class SuctionOut(Strict):
    """Greatest height above the water; below nil, the pump must stand under water level."""

    max_suction_lift_m: float


def sum_suction(given: SuctionIn) -> SuctionOut:
    """How far a surface pump can pull at this altitude, water temperature and flow."""
    line = Line(0.0, tuple(pipe.pipe() for pipe in given.pipes), water_at(given.water_temperature_c))
    flow = given.flow_l_per_min * LITRES_PER_MIN
    limit = suction_limit(given.altitude_m, line, flow, given.npsh_required_m, given.margin_m)
    return SuctionOut(max_suction_lift_m=limit)
