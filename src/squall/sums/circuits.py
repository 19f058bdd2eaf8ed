"""Sums of a kit as a circuit: ``circuit`` and ``netlist``."""

from typing import Annotated, Literal

from pydantic import Field

from squall.core.circuit import parts
from squall.core.circuit.solve import Circuit
from squall.core.drive.solve import Battery, Supply
from squall.formats.spice import netlist
from squall.sums.fields import NotNegative, Positive, Share, Strict, Volts
from squall.sums.hydraulics import LITRES_PER_MIN, LineIn
from squall.sums.power import MotorIn, PvIn

Name = Annotated[str, Field(pattern=r"^[a-z0-9_]+$", max_length=60)]


class PanelsIn(PvIn):
    """A whole array of like panels, or one panel."""

    id: Name
    type: Literal["pv"]
    plus: Name
    minus: Name

    def part(self) -> parts.Part:
        """The core's part."""
        return parts.Panels(self.id, self.plus, self.minus, self.array())


class BatteryPartIn(Strict):
    """A battery."""

    id: Name
    type: Literal["battery"]
    plus: Name
    minus: Name
    open_v: Annotated[float, Field(ge=0.0, le=1000.0, allow_inf_nan=False)]
    internal_ohm: NotNegative

    def part(self) -> parts.Part:
        """The core's part."""
        return parts.Bank(self.id, self.plus, self.minus, Battery(self.open_v, self.internal_ohm))


class SupplyPartIn(Strict):
    """A plug-in supply."""

    id: Name
    type: Literal["supply"]
    plus: Name
    minus: Name
    set_v: Volts
    max_a: Positive

    def part(self) -> parts.Part:
        """The core's part."""
        return parts.PlugIn(self.id, self.plus, self.minus, Supply(self.set_v, self.max_a))


class ResistorIn(Strict):
    """A core of a cable, a joint, a lamp, a clip."""

    id: Name
    type: Literal["resistor"]
    a: Name
    b: Name
    ohm: NotNegative

    def part(self) -> parts.Part:
        """The core's part."""
        return parts.Resistor(self.id, self.a, self.b, self.ohm)


class DiodeIn(Strict):
    """I = saturation_a (exp(V / slope_v) - 1)."""

    id: Name
    type: Literal["diode"]
    anode: Name
    cathode: Name
    saturation_a: Positive
    slope_v: Positive

    def part(self) -> parts.Part:
        """The core's part."""
        return parts.Diode(self.id, self.anode, self.cathode, self.saturation_a, self.slope_v)


class ProtectorIn(Strict):
    """A fuse or breaker."""

    id: Name
    type: Literal["fuse", "breaker"]
    a: Name
    b: Name
    rating_a: Positive
    ohm: NotNegative = 0.005
    blown: bool = False

    def part(self) -> parts.Part:
        """The core's part."""
        return parts.Protector(self.id, self.a, self.b, self.rating_a, self.ohm, self.blown)


class SwitchIn(Strict):
    """A switch."""

    id: Name
    type: Literal["switch"]
    a: Name
    b: Name
    closed: bool

    def part(self) -> parts.Part:
        """The core's part."""
        return parts.Switch(self.id, self.a, self.b, self.closed)


class RelayIn(Strict):
    """A relay: a coil, and the contact it moves."""

    id: Name
    type: Literal["relay"]
    coil_a: Name
    coil_b: Name
    coil_ohm: Positive
    pull_in_v: Positive
    contact_a: Name
    contact_b: Name
    contact: Literal["normally-open", "normally-closed"]

    def part(self) -> parts.Part:
        """The core's part."""
        return parts.Relay(
            self.id, self.coil_a, self.coil_b, self.coil_ohm, self.pull_in_v, self.contact_a, self.contact_b,
            self.contact == "normally-open",
        )  # fmt: skip


class PumpIn(LineIn):
    """A brushed motor with its end on its line."""

    id: Name
    type: Literal["pump"]
    plus: Name
    minus: Name
    motor: MotorIn
    locked: bool = False

    def part(self) -> parts.Part:
        """The core's part."""
        return parts.Pump(self.id, self.plus, self.minus, self.motor.motor(), self.line(), self.locked)


class ControllerIn(Strict):
    """A pump controller."""

    id: Name
    type: Literal["controller"]
    pv_plus: Name
    pv_minus: Name
    out_plus: Name
    out_minus: Name
    efficiency: Share
    min_v: NotNegative
    max_v: Volts
    out_max_v: Volts
    dial: Annotated[float, Field(ge=0.0, le=1.0)] = 1.0
    runs: bool = True

    def part(self) -> parts.Part:
        """The core's part."""
        return parts.Controller(
            self.id, self.pv_plus, self.pv_minus, self.out_plus, self.out_minus, self.efficiency, self.min_v, self.max_v,
            self.out_max_v, self.dial, self.runs,
        )  # fmt: skip


PartIn = Annotated[
    PanelsIn | BatteryPartIn | SupplyPartIn | ResistorIn | DiodeIn | ProtectorIn | SwitchIn | RelayIn | PumpIn | ControllerIn,
    Field(discriminator="type"),
]  # fmt: skip


class CircuitIn(Strict):
    """Parts between named nodes, and where a meter is held."""

    components: Annotated[list[PartIn], Field(min_length=1, max_length=400)]
    probes: Annotated[list[tuple[Name, Name]], Field(max_length=200, default_factory=list)]

    def circuit(self) -> Circuit:
        """The core's circuit."""
        return Circuit([component.part() for component in self.components])


class CircuitOut(Strict):
    """Amps of each part, volts of each node, and what each pump, switch and fuse does."""

    component_a: dict[str, float]
    node_v: dict[str, float]
    probe_v: list[float]
    flow_l_per_min: dict[str, float | None]
    floating: list[str]
    would_open: list[str]
    closed: dict[str, bool]
    regime: dict[str, str]
    flow_at_least_l_per_min: dict[str, float]
    controller_input_a: dict[str, float]
    reference: str


def sum_circuit(given: CircuitIn) -> CircuitOut:
    """Volts and amps of a kit's circuit, as meters would read them.

    A pump's flow is null where its points promise nothing; ``flow_at_least_l_per_min`` then says up to where they speak.
    """
    circuit = given.circuit()
    answer = circuit.solve(given.probes)
    flows: dict[str, float | None] = {}
    regime: dict[str, str] = {}
    at_least: dict[str, float] = {}
    for part in circuit.parts:
        if not isinstance(part, parts.Pump):
            continue
        state = answer.pumps.get(part.id)
        litres = 0.0 if state is None else state.flow_m3_s / LITRES_PER_MIN
        regime[part.id] = "locked" if part.locked else "stalled" if state is None else state.regime
        if part.id in answer.backwards:
            regime[part.id] = "backwards"
        flows[part.id] = litres
        held = part.motor.kind == "displacement" and litres > 0.0
        if state is not None and state.regime in ("beyond-last-point", "before-first-point") and not held:
            flows[part.id], at_least[part.id] = None, litres
    return CircuitOut(
        component_a=dict(answer.part_a),
        node_v=dict(answer.node_v),
        probe_v=list(answer.probe_v),
        flow_l_per_min=flows,
        floating=list(answer.floating),
        would_open=list(answer.would_open),
        closed=dict(answer.closed),
        regime=regime,
        flow_at_least_l_per_min=at_least,
        controller_input_a=dict(answer.input_a),
        reference=circuit.reference,
    )


class NetlistOut(Strict):
    """A netlist for a SPICE program."""

    spice: str


def sum_netlist(given: CircuitIn) -> NetlistOut:
    """The same circuit as a netlist that a SPICE program runs as it stands."""
    return NetlistOut(spice=netlist(given.circuit()))
