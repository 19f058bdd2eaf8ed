"""A kit's parts as one circuit, in the order in which they stand from the sun to the pump.

What is listed here is drawn, read with a meter, joined and taken apart in this order. Columns run from the panels to the
motor: in each a part of the plus rail, one of the minus rail, or what stands across both.
"""

from collections.abc import Mapping, Sequence
from typing import Literal

from squall.core.circuit import parts
from squall.core.circuit.laid import OTHER_POLE, Column, Kind, KitCircuit, Placed, Where
from squall.core.drive.solve import Battery, PvArray
from squall.core.electrics.conductors import Conductor, resistance_ohm
from squall.core.electrics.protection import CONTINUOUS_FACTOR
from squall.core.kit.cabling import Bars, Rules
from squall.core.kit.layout import CablePiece
from squall.core.kit.parts import Device
from squall.core.kit.relays import ON_PANELS_SIDE, PULLS_IN, Loop, PlainLoad
from squall.core.kit.setup import CONDUCTOR_C, Setup, own_m, pieces_of, pump_run_m
from squall.core.kit.supply import FULL_SHARE, Banked, Controlled, Direct
from squall.core.kit.wiring import Wiring
from squall.core.reason import Reason

_INPUTS: dict[str, tuple[Kind, Reason]] = {
    "float": ("float-input", Reason("input-float")), "probe": ("probe-input", Reason("input-probe")),
}  # fmt: skip


# A Y-lead's moulded plugs, made once and for good, take less than a contact that moves; the year's runs leave it out, as the
# panels' own leads. Common practice, no source. [ohm]
Y_LEAD_OHM = 0.00025


class _Rails:
    """Lays parts along two rails, naming the nodes between them."""

    def __init__(self, torques: Mapping[tuple[str, float], float]) -> None:
        self.torques = torques
        self.columns: list[Column] = []
        self.plus, self.minus = "array_plus", "array_minus"
        self._made = 0

    def node(self, rail: str) -> str:
        """A new node's name."""
        self._made += 1
        return f"{rail}{self._made}"

    def run(
        self, where: Where, key: str, own: tuple[Conductor, float], pieces: Sequence[CablePiece], joint_ohm: float
    ) -> None:
        """A run of cable with its pieces of other behind it; each core takes its joint's ohms."""
        self.cores(where, key, *own, 0.0 if key == "array" else joint_ohm)
        for number, piece in enumerate(pieces, start=1):
            self.cores(where, f"{key}{number}", piece.conductor, piece.length_m, joint_ohm)

    def cores(self, where: Where, key: str, conductor: Conductor, metres: float, joint_ohm: float = 0.0) -> None:
        """Both cores of a run of cable."""
        ohm = resistance_ohm(conductor.ohm_per_m, metres, CONDUCTOR_C) / 2.0 + joint_ohm
        plus, minus = self.node("p"), self.node("m")
        ahead = Placed(
            parts.Resistor(f"{key}_plus", self.plus, plus, ohm),
            "core",
            Reason("core-plus"),
            "plus",
            where,
            conductor,
            metres,
        )
        back = Placed(
            parts.Resistor(f"{key}_minus", minus, self.minus, ohm), "core", Reason("core-minus"), "minus", where, conductor,
            metres,
        )  # fmt: skip
        self.columns.append(Column(where, ahead, back))
        self.plus, self.minus = plus, minus

    def fuse(self, where: Where, rating_a: float, kind: Literal["fuse", "breaker"], ident: str, name: Reason) -> None:
        """A fuse or breaker in the plus rail."""
        plus = self.node("p")
        part = parts.Protector(ident, self.plus, plus, rating_a)
        torque = self.torques.get((kind, rating_a))
        self.columns.append(Column(where, Placed(part, kind, name, "plus", where, rating_a=rating_a, torque_nm=torque)))
        self.plus = plus

    def isolator(self, where: Where, device: Device, number: int) -> None:
        """One that parts both rails at once."""
        plus, minus, ident = self.node("p"), self.node("m"), f"device{number}"
        rated = (device.rating_a, device.rating_v)
        ahead = Placed(
            parts.Switch(ident, self.plus, plus, True),
            "isolator",
            device.title,
            "plus",
            where,
            None,
            0.0,
            *rated,
            torque_nm=device.torque_nm,
        )
        back = Placed(
            parts.Switch(f"{ident}{OTHER_POLE}", minus, self.minus, True), "isolator", device.title, "minus", where, None, 0.0, *rated, torque_nm=device.torque_nm
        )  # fmt: skip
        self.columns.append(Column(where, ahead, back))
        self.plus, self.minus = plus, minus

    def device(self, where: Where, device: Device, number: int) -> None:
        """A switch, timer, plug or joint in the plus rail; an isolator in both."""
        if device.kind == "isolator":
            self.isolator(where, device, number)
            return
        plus = self.node("p")
        kind: Kind = device.kind  # type: ignore[assignment]
        ident = f"device{number}"
        part: parts.Part
        if kind in ("connector", "joint"):
            # A plug, a crimp or a splice as it should be takes what a closed contact does: common practice, no source.
            part = parts.Resistor(ident, self.plus, plus, parts.CLOSED_OHM)
        else:
            part = parts.Switch(ident, self.plus, plus, True)
        placed = Placed(
            part,
            kind,
            device.title,
            "plus",
            where,
            None,
            0.0,
            device.rating_a,
            device.rating_v,
            torque_nm=device.torque_nm,
        )
        self.columns.append(Column(where, placed))
        self.plus = plus

    def relay(self, where: Where, loop: Loop) -> None:
        """A relay's contact in the plus rail; across the rails whatever drives its coil, in a row, and the coil."""
        relay = loop.relay
        assert relay is not None
        assert relay.coil_ohm is not None
        assert relay.coil_v is not None
        plus, at = self.node("p"), self.plus
        stack: list[Placed] = []
        for number, pilot in enumerate(loop.pilots):
            then = self.node("c")
            part = parts.Switch(f"pilot{number}", at, then, True)
            kind: Kind = pilot.kind  # type: ignore[assignment]
            stack.append(
                Placed(
                    part,
                    kind,
                    pilot.title,
                    "across",
                    where,
                    None,
                    0.0,
                    pilot.rating_a,
                    pilot.rating_v,
                    torque_nm=pilot.torque_nm,
                )
            )
            at = then
        moved = parts.Relay("relay", at, self.minus, relay.coil_ohm, PULLS_IN * relay.coil_v, self.plus, plus)
        stack.append(
            Placed(
                moved,
                "coil",
                Reason("coil-of-relay", part=relay.title),
                "across",
                where,
                ident="relay_coil",
                torque_nm=relay.torque_nm,
            )
        )
        contact = Placed(
            moved,
            "relay",
            relay.title,
            "plus",
            where,
            None,
            0.0,
            relay.rating_a,
            relay.rating_v,
            pair=1,
            torque_nm=relay.torque_nm,
        )
        self.columns.append(Column(where, contact, None, (tuple(stack),)))
        self.plus = plus

    def bars(self, bars: Bars, loads: Sequence[PlainLoad], volts: float) -> None:
        """A main fuse at the bank's post; behind it bus bars, and on them the other loads, each with a fuse of its own."""
        plus = self.node("bar")
        main = parts.Protector("main_fuse", self.plus, plus, bars.main.fuse_a or CONTINUOUS_FACTOR * bars.main.amps_a)
        placed = Placed(
            main, "main-fuse", Reason("main-fuse"), "plus", "post", bars.main.conductor, rating_a=main.rating_a
        )
        self.columns.append(Column("post", placed))
        self.plus = plus
        for number, (load, branch) in enumerate(zip(loads, bars.loads, strict=True)):
            middle = self.node("l")
            fuse = parts.Protector(
                f"load_fuse{number}", plus, middle, branch.fuse_a or CONTINUOUS_FACTOR * branch.amps_a
            )
            body = parts.Resistor(f"load{number}", middle, self.minus, volts**2 / load.watts)
            name = Reason("fuse-of-load", name=load.name)
            self.across(
                "box",
                (
                    Placed(fuse, "load-fuse", name, "across", "box", branch.conductor, rating_a=fuse.rating_a),
                    Placed(body, "load", load.name, "across", "box", branch.conductor),
                ),
            )

    def across(self, where: Where, *stacks: tuple[Placed, ...]) -> None:
        """What stands from rail to rail."""
        self.columns.append(Column(where, across=stacks))


def circuit_of(setup: Setup, wiring: Wiring, rules: Rules, loop: Loop, light_w_m2: float, cell_c: float) -> KitCircuit:
    """A kit's parts as they are joined, in some light.

    Parameters
    ----------
    setup : Setup
        The kit on its line with its cables.
    wiring : Wiring
        Its fuses.
    rules : Rules
        Fuse or breaker; length of the lead to the bank.
    loop : Loop
        Switches, timers, plugs and joints that carry the pump's current, those that drive a relay's coil, other loads.
    light_w_m2, cell_c : float
        On every panel; of their cells. [W/m2], [°C]

    Returns
    -------
    KitCircuit
        Fed straight: panels, cable, box with fuse and switches, cable, motor. Behind a pump controller: the controller in
        the box, its fuse behind it; with three wires to the motor, fuse and switches before it. From a bank: charger, lead, battery with a fuse at its post.

    Notes
    -----
    A switching charger joins panels and bank, through a diode that lets nothing back at night; a tracking one is a controller
    with the bank's full volts as its most.
    """
    kit, layout, cabling = setup.kit, setup.layout, setup.cabling
    rails = _Rails(rules.torque_of)
    rails.columns.append(_array(setup, wiring, light_w_m2, cell_c))
    rating = wiring.protection.rating_a
    array = cabling.array if cabling.array is not None else cabling.pump
    if not isinstance(kit.supply, Direct) or layout.array_cable_m > 0.0:
        # Straight on the pump all is one run, and its pieces of other cable lie at the pump's end.
        others = () if isinstance(kit.supply, Direct) else pieces_of(kit, layout, "array")
        rails.run("run-array", "array", (array, own_m(layout.array_cable_m, others)), others, cabling.splice_ohm)
    # On panels or behind a controller a coil chatters (told as a problem): drawn as if its switches carried the pump.
    driven = loop.relay if loop.pilots and isinstance(kit.supply, Banked) else None
    devices = [one for one in loop.carries if one is not driven] if driven else [*loop.carries, *loop.pilots]
    before = [device for device in devices if device.kind in ON_PANELS_SIDE]
    for number, device in enumerate(before):
        rails.device("box", device, number)
    after = [device for device in devices if device.kind != "joint" and device.kind not in ON_PANELS_SIDE]
    where: Where = "box"
    match kit.supply:
        case Controlled() if not kit.switched_ahead:
            _controller(rails, kit.supply)
        case Banked():
            _bank(rails, kit.supply, wiring, rules)
            where = "post"
            if wiring.bars is not None:
                where = "box"
                rails.bars(wiring.bars, loop.loads, kit.supply.open_v)
        case _:
            pass
    if rating is not None:
        rails.fuse(
            where, rating, rules.kind, "fuse", Reason("fuse-of-pump" if rules.kind == "fuse" else "breaker-of-pump")
        )
    if driven is not None:
        rails.relay("box", loop)
    for number, device in enumerate(after, start=len(before)):
        rails.device("box", device, number)
    if isinstance(kit.supply, Controlled) and kit.switched_ahead:
        _controller(rails, kit.supply)
    pieces = pieces_of(kit, layout, "pump")
    own = own_m(pump_run_m(kit, layout), pieces) - (layout.array_cable_m if isinstance(kit.supply, Direct) else 0.0)
    rails.run("run-pump", "pump", (cabling.pump, max(own, 0.0)), pieces, cabling.splice_ohm)
    joints = [device for device in devices if device.kind == "joint"]
    for number, device in enumerate(joints, start=len(before) + len(after)):
        rails.device("pump", device, number)
    motor = parts.Pump("motor", rails.plus, rails.minus, kit.pump.motor, setup.line)
    rails.across("pump", (Placed(motor, "motor", kit.pump.title, "across", "pump"),))
    return KitCircuit(tuple(rails.columns), kit.switched_ahead)


def _array(setup: Setup, wiring: Wiring, light_w_m2: float, cell_c: float) -> Column:
    """The strings, each from plus to minus, and the Y-leads on which each meets those before it."""
    strings = setup.kit.in_parallel
    meets = tuple((_y_lead(number, strings, "plus"), _y_lead(number, strings, "minus")) for number in range(1, strings))
    return Column("array", across=tuple(_strings(setup, wiring, light_w_m2, cell_c)), meets=meets)


def _meeting(string: int, strings: int, rail: Literal["plus", "minus"]) -> str:
    """Node at which a string, from 0, meets those before it; of one string alone the array's end."""
    return f"array_{rail}" if strings == 1 else f"y{max(string, 1)}_{rail}"


def _y_lead(number: int, strings: int, rail: Literal["plus", "minus"]) -> Placed:
    """A Y-lead: two strings, or a string and those that have met, into one."""
    legs = _meeting(number, strings, rail)
    stem = f"array_{rail}" if number == strings - 1 else _meeting(number + 1, strings, rail)
    a, b = (legs, stem) if rail == "plus" else (stem, legs)
    part = parts.Resistor(f"y_lead{number}_{rail}", a, b, Y_LEAD_OHM)
    name = Reason("y-lead-plus", number=number) if rail == "plus" else Reason("y-lead-minus", number=number)
    return Placed(part, "y-lead", name, rail, "array")


def _strings(setup: Setup, wiring: Wiring, light_w_m2: float, cell_c: float) -> list[tuple[Placed, ...]]:
    """Each string from plus to minus: its fuse if it has one, its panels."""
    kit = setup.kit
    one = PvArray(kit.panel.module, 1, 1, light_w_m2, cell_c)
    found = []
    for string in range(kit.in_parallel):
        stack: list[Placed] = []
        top, bottom = (_meeting(string, kit.in_parallel, rail) for rail in ("plus", "minus"))
        if wiring.string_fuse_a is not None:
            fuse = parts.Protector(f"string_fuse{string + 1}", f"s{string + 1}_0", top, wiring.string_fuse_a)
            stack.append(
                Placed(fuse, "string-fuse", Reason("string-fuse-number", number=string + 1), "across", "array",
                       rating_a=wiring.string_fuse_a)
            )  # fmt: skip
            top = f"s{string + 1}_0"
        for number in range(kit.in_series):
            low = bottom if number == kit.in_series - 1 else f"s{string + 1}_{number + 1}"
            panel = parts.Panels(f"panel{string + 1}_{number + 1}", top, low, one)
            name = Reason("panel-number", part=kit.panel.title, number=string * kit.in_series + number + 1)
            stack.append(Placed(panel, "panel", name, "across", "array"))
            top = low
        found.append(tuple(stack))
    return found


def _controller(rails: _Rails, supply: Controlled) -> None:
    c = supply.controller
    plus = rails.node("p")
    part = parts.Controller(
        "controller",
        rails.plus,
        rails.minus,
        plus,
        rails.minus,
        c.efficiency,
        c.min_v,
        c.max_v,
        c.out_max_v,
        most_w=c.max_a * c.out_max_v,
    )
    inputs = tuple(
        Placed(parts.Switch(f"input_{asked}", f"{asked}_1", f"{asked}_2", True), *_INPUTS[asked], "across", "box")
        for asked in c.asks
    )
    placed = Placed(
        part, "controller", c.title, "across", "box", rating_a=c.max_a, wires=c.motor_wires or 2, torque_nm=c.torque_nm
    )
    rails.columns.append(Column("box", across=((placed,),), inputs=inputs))
    rails.plus = plus


def _bank(rails: _Rails, supply: Banked, wiring: Wiring, rules: Rules) -> None:
    c = supply.controller
    plus = rails.node("p")
    part: parts.Part
    if c.kind == "charge-tracking":
        part = parts.Controller(
            "charger", rails.plus, rails.minus, plus, rails.minus, c.efficiency, c.min_v, c.max_v,
            FULL_SHARE * supply.nominal_v, most_w=c.max_a * supply.charging_v,
        )  # fmt: skip
    else:
        # Its transistors with what keeps the bank from the dark panels: half a volt at some amps, a guess.
        part = parts.Diode("charger", rails.plus, plus, 1e-6, 0.03)
    common = rails.minus if isinstance(part, parts.Diode) else ""
    rails.across(
        "box",
        (Placed(part, "charger", c.title, "across", "box", rating_a=c.max_a, common=common, torque_nm=c.torque_nm),),
    )
    rails.plus = plus
    lead = wiring.charge_lead
    if lead is not None:
        rails.cores("run-charge", "charge", lead.choice.conductor, rules.charge_lead_m)
    if wiring.charge_fuse_a is not None:
        rails.fuse("post", wiring.charge_fuse_a, "fuse", "charge_fuse", Reason("fuse-of-charger"))
    bank = parts.Bank("battery", rails.plus, rails.minus, Battery(supply.open_v, supply.ohm))
    rails.across(
        "post", (Placed(bank, "battery", supply.battery.title, "across", "post", torque_nm=supply.battery.torque_nm),)
    )
