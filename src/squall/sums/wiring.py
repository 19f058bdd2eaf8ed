"""Sums of cable and protection: ``wire``, ``choose-wire``, ``protect``."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from squall.core.electrics.conductors import choose, metric_conductor, resistance_ohm
from squall.core.electrics.protection import LoopPart, protect, stall_current
from squall.core.electrics.wire_gauge import awg_ohm_per_m
from squall.sums.fields import NotNegative, Positive, Strict, Volts
from squall.words import later

RunLength = Annotated[float, Field(ge=0.0, le=5000.0)]


class WireIn(Strict):
    """A run of cable of one size, metric or AWG."""

    system_v: Volts
    current_a: NotNegative
    one_way_m: RunLength
    area_mm2: Positive | None = None
    awg: int | str | None = None
    conductor_temperature_c: Annotated[float, Field(ge=-60.0, le=120.0)] = 20.0

    @model_validator(mode="after")
    def one_size(self) -> "WireIn":
        """Exactly one of the two sizes."""
        if (self.area_mm2 is None) == (self.awg is None):
            raise ValueError(later("give either area_mm2 or awg, and not both"))
        return self

    @property
    def ohm_per_m(self) -> float:
        """Of one conductor at 20 °C. [ohm/m]"""
        if self.area_mm2 is not None:
            return metric_conductor(self.area_mm2).ohm_per_m
        return awg_ohm_per_m(str(self.awg))


class WireOut(Strict):
    """Resistance and drop, there and back."""

    resistance_ohm: float
    drop_v: float
    drop_fraction: float


def sum_wire(given: WireIn) -> WireOut:
    """Resistance and drop of a run of cable, there and back."""
    ohm = resistance_ohm(given.ohm_per_m, given.one_way_m, given.conductor_temperature_c)
    drop = ohm * given.current_a
    return WireOut(resistance_ohm=ohm, drop_v=drop, drop_fraction=drop / given.system_v)


class ChooseWireIn(Strict):
    """A run whose size is wanted."""

    system_v: Volts
    current_a: NotNegative
    one_way_m: RunLength
    max_drop_fraction: Annotated[float, Field(gt=0.0, lt=1.0)]
    standard: Literal["metric", "awg"]
    ambient_c: Annotated[float, Field(ge=-50.0, le=60.0)] = 30.0


class ChooseWireOut(Strict):
    """The thinnest size that meets drop and ampacity; the drop is at 20 °C copper."""

    size: str
    area_mm2: float
    drop_fraction: float
    ampacity_a: float
    limited_by: Literal["drop", "ampacity"]
    drop_v: float
    resistance_ohm: float
    ampacity_source: str


def sum_choose_wire(given: ChooseWireIn) -> ChooseWireOut:
    """Thinnest cable that meets both drop and ampacity."""
    chosen = choose(
        given.system_v, given.current_a, given.one_way_m, given.max_drop_fraction, given.standard, given.ambient_c
    )
    return ChooseWireOut(
        size=chosen.conductor.size,
        area_mm2=chosen.conductor.area_mm2,
        drop_fraction=chosen.drop_fraction,
        ampacity_a=chosen.ampacity_a,
        limited_by=chosen.limited_by,
        drop_v=chosen.drop_v,
        resistance_ohm=chosen.resistance_ohm,
        ampacity_source=chosen.conductor.ampacity_source,
    )


class DeviceIn(Strict):
    """Something in the load path with what it stands."""

    name: Annotated[str, Field(min_length=1, max_length=120)]
    rating_a: Positive


class ProtectIn(Strict):
    """A loop to be protected."""

    continuous_a: NotNegative
    cable_ampacity_a: Positive
    maker_max_fuse_a: Positive | None = None
    devices: Annotated[list[DeviceIn], Field(max_length=50)]
    source_v: Volts
    loop_resistance_ohm: NotNegative
    motor_resistance_ohm: NotNegative | None = None
    kind: Literal["fuse", "breaker"]


class ProtectOut(Strict):
    """The rating to fit, or null with what contradicts."""

    rating_a: float | None
    weakest: str
    stall_current_a: float
    stall_blows: bool
    problems: list[str]
    fixes: list[str]
    reasons: list[str]


def sum_protect(given: ProtectIn) -> ProtectOut:
    """Fuse or breaker of a loop, and whether a stalled pump would open it.

    The loop's resistance is source, cable and joints; the motor's winding comes on top.
    """
    stall = stall_current(given.source_v, given.loop_resistance_ohm, given.motor_resistance_ohm or 0.0)
    found = protect(
        given.continuous_a,
        given.cable_ampacity_a,
        tuple(LoopPart(device.name, device.rating_a) for device in given.devices),
        stall,
        given.kind,
        given.maker_max_fuse_a,
    )
    return ProtectOut(
        rating_a=found.rating_a,
        weakest=str(found.weakest),
        stall_current_a=found.stall_current_a,
        stall_blows=found.stall_blows,
        problems=[str(said) for said in found.problems],
        fixes=[str(said) for said in found.fixes],
        reasons=[str(said) for said in found.reasons],
    )
