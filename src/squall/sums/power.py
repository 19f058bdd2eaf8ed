"""Sums of panels, motors and energy: ``pv-curve``, ``drive``, ``energy``."""

from typing import Annotated, Literal

import numpy as np
from pydantic import Field, model_validator

from squall.core.drive.motors import Motor
from squall.core.drive.solve import Battery, PvArray, PvController, Source, Supply, solve
from squall.core.electrics.energy import energy_use
from squall.core.electrics.modules import Module
from squall.sums.fields import (
    CellCelsius,
    Count,
    Finite,
    Irradiance,
    NotNegative,
    Positive,
    Share,
    Strict,
    Volts,
)
from squall.sums.hydraulics import LITRES_PER_MIN, LineIn
from squall.words import later

_CURVE_POINTS = 61


class ModuleIn(Strict):
    """A panel's nameplate at 1000 W/m2 and 25 °C."""

    voc_v: Volts
    isc_a: Positive
    vmp_v: Volts
    imp_a: Positive
    cells: Annotated[int, Field(ge=1, le=300)]
    isc_percent_per_k: Finite
    voc_percent_per_k: Finite
    pmp_percent_per_k: Finite | None = None

    def module(self) -> Module:
        """The core's module."""
        return Module(
            self.voc_v, self.isc_a, self.vmp_v, self.imp_a, self.cells, self.isc_percent_per_k, self.voc_percent_per_k
        )


class PvIn(Strict):
    """An array in given light and heat."""

    module: ModuleIn
    modules_in_series: Count = 1
    strings_in_parallel: Count = 1
    irradiance_w_per_m2: Irradiance
    cell_temperature_c: CellCelsius

    def array(self) -> PvArray:
        """The core's array."""
        return PvArray(
            self.module.module(),
            self.modules_in_series,
            self.strings_in_parallel,
            self.irradiance_w_per_m2,
            self.cell_temperature_c,
        )


class PvCurveOut(Strict):
    """Marked points and the curve from short circuit to open circuit."""

    isc_a: float
    voc_v: float
    imp_a: float
    vmp_v: float
    pmp_w: float
    points: list[tuple[float, float]]


def sum_pv_curve(given: PvIn) -> PvCurveOut:
    """Current against volts of an array in given light and heat."""
    array = given.array()
    point = array.point
    volts = np.linspace(0.0, point.voc_v, _CURVE_POINTS)
    points = [(float(v), max(array.current_a(float(v)), 0.0)) for v in volts]
    return PvCurveOut(
        isc_a=point.isc_a, voc_v=point.voc_v, imp_a=point.imp_a, vmp_v=point.vmp_v, pmp_w=point.pmp_w, points=points
    )


class BatteryIn(Strict):
    """A battery as open volts behind its internal resistance."""

    type: Literal["battery"]
    open_v: Volts
    internal_ohm: NotNegative

    def source(self) -> Source:
        """The core's source."""
        return Battery(self.open_v, self.internal_ohm)


class SupplyIn(Strict):
    """A plug-in supply: set volts up to a current."""

    type: Literal["supply"]
    set_v: Volts
    max_a: Positive

    def source(self) -> Source:
        """The core's source."""
        return Supply(self.set_v, self.max_a)


class PvSourceIn(PvIn):
    """An array joined straight to the cable."""

    type: Literal["pv"]

    def source(self) -> Source:
        """The core's source."""
        return self.array()


class LimitsIn(Strict):
    """What a pump controller takes and gives."""

    efficiency: Share
    min_v: NotNegative
    max_v: Volts
    out_max_v: Volts

    def behind(self, array: PvArray) -> Source:
        """The core's source: an array with this controller behind it."""
        return PvController(array, self.efficiency, self.min_v, self.max_v, self.out_max_v)


class PvControllerIn(PvIn, LimitsIn):
    """An array behind a pump controller."""

    type: Literal["pv-controller"]

    def source(self) -> Source:
        """The core's source."""
        return self.behind(self.array())


SourceIn = Annotated[BatteryIn | SupplyIn | PvSourceIn | PvControllerIn, Field(discriminator="type")]


class MotorIn(Strict):
    """A motor with its pump end; points [l/min, m, A] at rated volts."""

    kind: Literal["centrifugal", "displacement"]
    rated_v: Volts
    points: Annotated[list[tuple[NotNegative, NotNegative, NotNegative]], Field(min_length=2, max_length=200)]
    resistance_ohm: NotNegative
    no_load_a: NotNegative
    max_v: Volts | None = None

    def motor(self) -> Motor:
        """The core's motor."""
        points = tuple((flow * LITRES_PER_MIN, head, amps) for flow, head, amps in self.points)
        return Motor(self.kind, self.rated_v, points, self.resistance_ohm, self.no_load_a, self.max_v)


class DriveIn(LineIn):
    """Source, cable, motor and line."""

    source: SourceIn
    cable_resistance_ohm: NotNegative
    motor: MotorIn


class DriveOut(Strict):
    """What the loop does; flow and head are null where the points promise nothing."""

    flow_l_per_min: float | None
    head_m: float | None
    motor_v: float
    motor_a: float
    source_v: float
    source_w: float
    flows: bool
    why_not: str | None
    regime: str
    flow_at_least_l_per_min: float | None
    over_max_v: bool


def sum_drive(given: DriveIn) -> DriveOut:
    """Flow, volts and amps of a pump on its source, cable and line."""
    result = solve(given.source.source(), given.cable_resistance_ohm, given.motor.motor(), given.line())
    at_least = result.flow_at_least_m3_s
    return DriveOut(
        flow_l_per_min=None if result.flow_m3_s is None else result.flow_m3_s / LITRES_PER_MIN,
        head_m=result.head_m,
        motor_v=result.motor_v,
        motor_a=result.motor_a,
        source_v=result.source_v,
        source_w=result.source_w,
        flows=result.flows,
        why_not=None if result.why_not is None else str(result.why_not),
        regime=result.regime,
        flow_at_least_l_per_min=None if at_least is None else at_least / LITRES_PER_MIN,
        over_max_v=result.over_max_v,
    )


class EnergyIn(Strict):
    """A load and how long it runs: minutes, or a volume at a flow."""

    voltage_v: Volts
    current_a: NotNegative
    minutes_per_day: Annotated[float, Field(ge=0.0, le=1440.0)] | None = None
    volume_l_per_day: NotNegative | None = None
    flow_l_per_min: Positive | None = None
    battery_v: Volts | None = None
    battery_ah: Positive | None = None

    @model_validator(mode="after")
    def one_way(self) -> "EnergyIn":
        """Exactly one of minutes, or volume with flow."""
        by_volume = self.volume_l_per_day is not None and self.flow_l_per_min is not None
        half = (self.volume_l_per_day is None) != (self.flow_l_per_min is None)
        if half or by_volume == (self.minutes_per_day is not None):
            raise ValueError(
                later("give either minutes_per_day, or volume_l_per_day together with flow_l_per_min, and not both")
            )
        return self

    @property
    def minutes(self) -> float:
        """Running time a day. [min]"""
        if self.minutes_per_day is not None:
            return self.minutes_per_day
        assert self.volume_l_per_day is not None
        assert self.flow_l_per_min is not None
        return self.volume_l_per_day / self.flow_l_per_min


class EnergyOut(Strict):
    """Watts, minutes, watt-hours, amp-hours, share of the battery."""

    power_w: float
    minutes: float
    energy_wh: float
    charge_ah: float
    battery_share: float | None


def sum_energy(given: EnergyIn) -> EnergyOut:
    """Energy of one use a day."""
    use = energy_use(given.voltage_v, given.current_a, given.minutes, given.battery_v, given.battery_ah)
    return EnergyOut(
        power_w=use.power_w,
        minutes=use.minutes,
        energy_wh=use.energy_wh,
        charge_ah=use.charge_ah,
        battery_share=use.battery_share,
    )
