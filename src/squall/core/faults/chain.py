"""A kit as a chain: source, source cable, fuse, switches, controller if any, pump cable, motor, line.

What Fault needs of a kit and no more; :mod:`squall.core.faults.causes` says what can be wrong with it.
"""

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from squall.core.drive.motors import Motor
from squall.core.drive.solve import Battery, PvArray, PvController, Source, Supply
from squall.core.errors import OutOfRange
from squall.core.hydraulics.pipes import Line
from squall.core.reason import Between, Quantity, Reason

Placement = Literal["submersible", "surface", "bilge"]
SwitchKind = Literal["toggle", "float", "timer"]
Input = Literal["float", "probe"]


@dataclass(frozen=True)
class Way:
    """A switch in the chain: its name, and what moves it (a hand, a float, a timer)."""

    name: str
    kind: SwitchKind


# How many figures of a kit as stated may be off.
OFFSETS = 8


@dataclass(frozen=True)
class Offsets:
    """How a kit is off its statement, in the standard deviations of :mod:`squall.core.faults.sweep`.

    Attributes
    ----------
    mean, spread : tuple of float
        Of both cables, winding, amps, head, lift and two of the source; nil and one where nobody read anything. [-]
    """

    mean: tuple[float, ...] = (0.0,) * OFFSETS
    spread: tuple[float, ...] = (1.0,) * OFFSETS


@dataclass(frozen=True)
class Chain:
    """A kit as it was stated, from its source to its outlet.

    Attributes
    ----------
    source : Source
        Battery, supply, array, or array with controller; the light of panels is said apart.
    source_cable_ohm, pump_cable_ohm : float
        There and back. [ohm]
    fuse_a : float or None
        The fuse's rating; None without one. [A]
    switches : tuple[Way, ...]
        In the way of the current, before any controller.
    inputs : tuple[str, ...]
        Of a controller: ``float``, ``probe``.
    motor : Motor
        With its end.
    motor_wires : int
        2 or 3.
    brushed : bool
        Whether it has brushes.
    placement : str
        ``submersible``, ``surface`` or ``bilge``.
    line : Line
        Lift and every pipe, the suction's too.
    check_valve, outlet_valve : bool
        Whether there is one.
    age_hours : float
        How long it has run. [h]
    behind_controller : bool
        Whether fuse and switches stand behind the controller, on the pump's side; else before it.
    offsets : Offsets
        What its first day and its visits taught of how it is off its statement.
    """

    source: Source
    source_cable_ohm: float
    pump_cable_ohm: float
    fuse_a: float | None
    switches: tuple[Way, ...]
    inputs: tuple[Input, ...]
    motor: Motor
    motor_wires: int
    brushed: bool
    placement: Placement
    line: Line
    check_valve: bool
    outlet_valve: bool
    age_hours: float = 0.0
    behind_controller: bool = False
    offsets: Offsets = Offsets()

    def __post_init__(self) -> None:
        if self.fuse_a is not None and self.fuse_a <= 0.0:
            raise OutOfRange("fuse-rating", Quantity(self.fuse_a, "amps"), Between(0.0, None, "amps"))
        if self.inputs and self.controller is None:
            raise OutOfRange("controller-inputs", ", ".join(self.inputs), Reason("none-without-a-controller"))
        if self.motor_wires == 3 and self.controller is None:
            raise OutOfRange("motor-wires", self.motor_wires, Reason("two-without-a-controller"))

    @property
    def controller(self) -> PvController | None:
        """The pump controller, if there is one."""
        return self.source if isinstance(self.source, PvController) else None

    @cached_property
    def array(self) -> PvArray | None:
        """The panels, if there are any, whatever the light on them."""
        if isinstance(self.source, PvController):
            return self.source.array
        return self.source if isinstance(self.source, PvArray) else None

    @property
    def battery(self) -> Battery | None:
        """The battery, if that is the source."""
        return self.source if isinstance(self.source, Battery) else None

    @property
    def supply(self) -> Supply | None:
        """The plug-in supply, if that is the source."""
        return self.source if isinstance(self.source, Supply) else None

    @property
    def panels(self) -> int:
        """How many panels."""
        return 0 if self.array is None else self.array.in_series * self.array.in_parallel

    @property
    def centrifugal(self) -> bool:
        """Whether the end is centrifugal."""
        return self.motor.kind == "centrifugal"

    @property
    def two_wires(self) -> bool:
        """Whether volts and amps at the pump can be read on two wires."""
        return self.motor_wires == 2

    @property
    def has_float(self) -> bool:
        """Whether a float stands among its switches or inputs."""
        return "float" in self.inputs or any(way.kind == "float" for way in self.switches)

    def share_of_floats(self, among: Literal["switches", "inputs"]) -> float:
        """Which share of its switches, or of its inputs, are floats. [-]"""
        kinds = [way.kind for way in self.switches] if among == "switches" else list(self.inputs)
        return sum(kind == "float" for kind in kinds) / len(kinds) if kinds else 0.0
