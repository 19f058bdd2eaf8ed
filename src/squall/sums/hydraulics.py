"""Sums of water in pipes: ``pipe-loss`` and ``operating-point``."""

from typing import Annotated

from pydantic import Field

from squall.core.hydraulics.curves import PumpCurve, operating_point
from squall.core.hydraulics.pipes import Line, Pipe, pipe_loss
from squall.core.hydraulics.water import water_at
from squall.sums.fields import Head, NotNegative, Strict, WaterCelsius

LITRES_PER_MIN = 1.0 / 60_000.0


class PipeIn(Strict):
    """One pipe with its fittings."""

    length_m: Annotated[float, Field(ge=0.0, le=20_000.0)]
    inner_diameter_mm: Annotated[float, Field(ge=1.0, le=1000.0)]
    roughness_mm: NotNegative
    minor_loss_k: Annotated[float, Field(ge=0.0, le=10_000.0)] = 0.0

    def pipe(self) -> Pipe:
        """In SI."""
        return Pipe(self.length_m, self.inner_diameter_mm / 1000.0, self.roughness_mm / 1000.0, self.minor_loss_k)


class LineIn(Strict):
    """The line that a driven pump works on."""

    static_head_m: Annotated[float, Field(ge=0.0, le=2000.0)]
    pipes: Annotated[list[PipeIn], Field(max_length=200)]
    closed_circuit: bool = False
    water_temperature_c: WaterCelsius = 15.0

    def line(self) -> Line:
        """The core's line; a closed circuit has no lift."""
        static = 0.0 if self.closed_circuit else self.static_head_m
        return Line(static, tuple(pipe.pipe() for pipe in self.pipes), water_at(self.water_temperature_c))


class PipeLossIn(PipeIn):
    """A pipe and the flow through it."""

    flow_l_per_min: NotNegative
    water_temperature_c: WaterCelsius = 15.0


class PipeLossOut(Strict):
    """Head lost and how it flows."""

    head_loss_m: float
    velocity_m_per_s: float
    reynolds_number: float
    friction_factor: float
    regime: str
    friction_m: float
    fittings_m: float


def sum_pipe_loss(given: PipeLossIn) -> PipeLossOut:
    """Head lost to friction and fittings in one pipe."""
    loss = pipe_loss(given.flow_l_per_min * LITRES_PER_MIN, given.pipe(), water_at(given.water_temperature_c))
    return PipeLossOut(
        head_loss_m=loss.head_loss_m,
        velocity_m_per_s=loss.velocity_m_s,
        reynolds_number=loss.reynolds_number,
        friction_factor=loss.friction_factor,
        regime=loss.regime,
        friction_m=loss.friction_m,
        fittings_m=loss.fittings_m,
    )


class OperatingPointIn(Strict):
    """A pump's curve and the line it works on."""

    pump_curve: Annotated[list[tuple[NotNegative, NotNegative]], Field(min_length=2, max_length=200)]
    static_head_m: Annotated[float, Field(ge=-100.0, le=2000.0)]
    end_pressure_m: Head = 0.0
    pipes: Annotated[list[PipeIn], Field(max_length=200)]
    closed_circuit: bool = False
    water_temperature_c: WaterCelsius = 15.0


class OperatingPointOut(Strict):
    """Where they meet; ``flow_l_per_min`` is null where the curve promises nothing."""

    flow_l_per_min: float | None
    head_m: float | None
    friction_m: float
    wall_friction_m: float
    fittings_m: float
    flows: bool
    limiting: str
    reasons: list[str]


_REASONS = {
    "lift": "The lift and end pressure cost most of the head.",
    "friction": "Wall friction in the pipes costs most of the head.",
    "fittings": "The fittings cost most of the head.",
    "curve-end": "The pump would give more than its last point; nothing is promised beyond it.",
    "curve-start": "The line asks for less flow than the curve's first point; nothing is promised there.",
}


def sum_operating_point(given: OperatingPointIn) -> OperatingPointOut:
    """Flow and head at which a pump meets a line.

    In a closed circuit the static head is not counted. ``friction_m`` is all that is lost in the
    pipes, of which ``wall_friction_m`` at their walls and ``fittings_m`` in their fittings.
    """
    curve = PumpCurve(tuple((flow * LITRES_PER_MIN, head) for flow, head in given.pump_curve))
    static = (0.0 if given.closed_circuit else given.static_head_m) + given.end_pressure_m
    line = Line(static, tuple(pipe.pipe() for pipe in given.pipes), water_at(given.water_temperature_c))
    point = operating_point(curve, line)
    if point.limiting == "too-high":
        reason = f"The pump can't get there: it is {point.missing_m:.2f} m short before any water flows."
    else:
        reason = _REASONS[point.limiting]
    return OperatingPointOut(
        flow_l_per_min=None if point.flow_m3_s is None else point.flow_m3_s / LITRES_PER_MIN,
        head_m=point.head_m,
        friction_m=point.friction_m + point.fittings_m,
        wall_friction_m=point.friction_m,
        fittings_m=point.fittings_m,
        flows=point.flows,
        limiting=point.limiting,
        reasons=[reason],
    )
