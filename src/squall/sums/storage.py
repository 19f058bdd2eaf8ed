"""Sum of tank and float switch: ``storage-run``."""

from typing import Annotated

import numpy as np
from pydantic import Field, model_validator

from squall.core.errors import OutOfRange
from squall.core.hydraulics.curves import PumpCurve, operating_point
from squall.core.hydraulics.pipes import Line
from squall.core.hydraulics.water import water_at
from squall.core.years.tanks import Floats, Tank, fed_from_below, run_store
from squall.sums.fields import Head, NotNegative, Positive, Strict, WaterCelsius
from squall.sums.hydraulics import LITRES_PER_MIN, PipeIn
from squall.words import later

MOST_STEPS = 200_000
Series = Annotated[list[NotNegative], Field(min_length=1, max_length=MOST_STEPS)]


class FeedingPump(Strict):
    """A pump that fills the tank from below: its level adds to the head."""

    pump_curve: Annotated[list[tuple[NotNegative, NotNegative]], Field(min_length=2, max_length=200)]
    static_head_to_floor_m: Head
    pipes: Annotated[list[PipeIn], Field(max_length=200)]
    tank_area_m2: Positive


class StorageIn(Strict):
    """A tank, its float switch, draws by the step, and what the pump gives: a series, or a pump that feels the level."""

    tank_l: Positive
    start_l: NotNegative
    on_below_l: NotNegative
    off_above_l: Positive
    step_min: Annotated[float, Field(gt=0.0, le=1440.0)]
    draw_l_per_min: Series
    inflow_l_per_min: Series | None = None
    pump: FeedingPump | None = None
    water_temperature_c: WaterCelsius = 15.0

    @model_validator(mode="after")
    def whole(self) -> "StorageIn":
        """One way of filling, series of one length, levels within the tank and in order."""
        if (self.inflow_l_per_min is None) == (self.pump is None):
            raise ValueError(later("give either inflow_l_per_min or pump"))
        if self.inflow_l_per_min is not None and len(self.inflow_l_per_min) != len(self.draw_l_per_min):
            raise ValueError(
                later(
                    "give as many steps of inflow_l_per_min ({inflow_l_per_min}) as of draw_l_per_min ({draw_l_per_min})",
                    inflow_l_per_min=len(self.inflow_l_per_min),
                    draw_l_per_min=len(self.draw_l_per_min),
                )
            )
        if self.on_below_l >= self.off_above_l:
            raise ValueError(
                later(
                    "have on_below_l ({on_below:g}) lower than off_above_l ({off_above:g})",
                    on_below=self.on_below_l,
                    off_above=self.off_above_l,
                )
            )
        if max(self.off_above_l, self.start_l) > self.tank_l:
            raise ValueError(later("keep off_above_l and start_l at or below tank_l ({tank:g})", tank=self.tank_l))
        return self


class StorageOut(Strict):
    """Levels (one more than the steps), and totals: start + pumped = end + drawn - short + overflow.

    `beyond_points`: somewhere the pump would run past its last point; that point's flow is counted.
    """

    levels_l: list[float]
    starts: int
    pumped_l: float
    short_l: float
    overflow_l: float
    run_h: float
    shortest_run_h: float | None
    beyond_points: bool


def sum_storage(given: StorageIn) -> StorageOut:
    """Level of a tank with a float switch through steps of draw."""
    tank = Tank(given.tank_l, given.on_below_l, given.off_above_l)
    draw = np.array(given.draw_l_per_min) / 60.0
    by_level, beyond = None, False
    if given.pump is None:
        inflow = np.array(given.inflow_l_per_min) / 60.0
    else:
        inflow = np.ones(draw.size)
        by_level, beyond = _by_level(tank, given.pump, given.water_temperature_c)
    run = run_store(tank, given.start_l, given.step_min * 60.0, draw, inflow, by_level)
    return StorageOut(
        levels_l=run.levels_l.tolist(), starts=run.starts, pumped_l=run.pumped_l, short_l=run.short_l,
        overflow_l=run.overflow_l, run_h=run.run_h, shortest_run_h=run.shortest_run_h,
        beyond_points=beyond,
    )  # fmt: skip


def _by_level(tank: Tank, pump: FeedingPump, water_c: float) -> tuple[tuple[Floats, Floats], bool]:
    """Flow against level, and whether anywhere the pump would run past its last point (that point's flow is counted)."""
    curve = PumpCurve(tuple((flow * LITRES_PER_MIN, head) for flow, head in pump.pump_curve))
    pipes, water = tuple(pipe.pipe() for pipe in pump.pipes), water_at(water_c)
    beyond = False

    def flow_at(height_m: float) -> float:
        nonlocal beyond
        point = operating_point(curve, Line(pump.static_head_to_floor_m + height_m, pipes, water))
        if point.limiting == "curve-start":
            raise OutOfRange(
                later("pump curve"), later("a first point at {pump_curve:litres}/min", pump_curve=pump.pump_curve[0][0] / 1000.0),
                later("one that begins at the flow met with the water {height:head} over the floor, or at none", height=height_m),
            )  # fmt: skip
        beyond = beyond or point.limiting == "curve-end"
        return (curve.last[0] if point.flow_m3_s is None else point.flow_m3_s) * 1000.0

    return fed_from_below(tank, pump.tank_area_m2, flow_at), beyond
