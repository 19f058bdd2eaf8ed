"""The order of joining, worked from the circuit: dead first, then from the pump towards the sun, the source last.

Whoever joins in this order never holds a live end: each step's far side is dead, and what could feed it is joined after it.
To take apart, the same steps are gone back.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import chain

from squall.core.circuit.laid import KitCircuit
from squall.core.circuit.parts import Bank, Resistor
from squall.core.drive.solve import PvArray
from squall.core.electrics.splices import SpliceKind
from squall.core.kit.setup import Setup
from squall.core.kit.supply import Banked, Controlled
from squall.core.prove.expect import Now
from squall.core.reason import Quantity, Spoken
from squall.job.wired.live import KIND_WORDS
from squall.job.wired.terminals import BLACK, End, Wire, plugged
from squall.words import later

# Under this nothing is felt and no spark is drawn: what a covered array may still show. Common practice, no source. [V]
DEAD_V = 1.0


@dataclass(frozen=True)
class Step:
    """One step: what to do, what to see before the next, why, and what could bite."""

    does: Spoken
    check: Spoken
    why: Spoken
    bites: Spoken = ""
    undone: Spoken = ""


def _wire_words(wire: Wire) -> Spoken:
    said: Spoken = later(
        "Wire {number}, {colour}: {first} to {second}.",
        number=wire.number, colour=wire.colour, first=wire.first.says, second=wire.second.says,
    )  # fmt: skip
    if _minus_ring(wire):
        # Whatever ends at the battery's minus is made now and put on its post last of all.
        return later("{wire} Its ring stays off the battery's post until the last.", wire=said)
    return said


def _minus_ring(wire: Wire) -> bool:
    return _at_battery(wire) and wire.colour == BLACK


def _undo_words(wire: Wire) -> Spoken:
    return later(
        "Wire {number} off: {second}, then {first}.", number=wire.number, first=wire.first.says, second=wire.second.says
    )


def _dead(setup: Setup) -> Step:
    open_v = Quantity(setup.kit.in_series * setup.kit.panel.module.voc_v, "volts")
    does: Spoken = later(
        "Make it dead: cover every panel so that no light gets in, keep their plugs apart, open every switch, take every fuse out."
    )
    check: Spoken = later("Between the array's plus and minus under {dead:volts}.", dead=DEAD_V)
    if isinstance(setup.kit.supply, Banked):
        does = later("{panels} Take the battery's rings off, minus first, and sleeve them.", panels=does)
        check = later("{panels} No ring on the battery's posts.", panels=check)
    return Step(
        does, check,
        later("Panels can't be switched off: in light they stand at up to {open}.", open=open_v),
        later("A direct current's arc doesn't go out by itself. Never part or join a plug under load. Tie covers down: wind lifts them."),
        later("Uncover nothing before the last ring is off."),
    )  # fmt: skip


_JOINT_BITES: dict[SpliceKind, Spoken] = {
    "sleeve": later("Sleeve on the core before the joint is made; glue must ooze at both ends."),
    "resin": later("The cores apart in the mould, and the resin set before it goes down."),
    "silicone": later(
        "Each core parted, soaked and dry before it goes down: under water this is the joint that fails first."
    ),
    "clips": later("Minus first, the pump into the water, plus last; for a trial, and never left."),
}


def _pump_end(setup: Setup, wires: Sequence[Wire], kit: KitCircuit, splice: SpliceKind) -> Step:
    motor = setup.kit.pump.motor
    cores = [one.part for one in kit.placed if one.kind == "core" and one.where == "run-pump"]
    loop = motor.resistance_ohm + sum(core.ohm for core in cores if isinstance(core, Resistor))
    check: Spoken = (
        later("At the other end of the cable about {loop:ohms} between the cores: motor and cable.", loop=loop)
        if setup.kit.pump.brushed
        else later(
            "At the other end the cores don't touch: no ohms near nothing. What a brushless motor reads says no more."
        )
    )
    why = later("The joint at the pump is the one that can't be reached again. Plus on plus: a brushed motor swapped runs backwards and gives no water, a brushless one may die.")  # fmt: skip
    bites: Spoken = _JOINT_BITES[splice]
    if kit.three_wires:
        check = later("At the other end about {loop:ohms} between each two of the three, all alike: one that differs is a bad joint or winding.", loop=loop)  # fmt: skip
        why = later("The joint at the pump is the one that can't be reached again. Lead 1 on core 1, 2 on 2, 3 on 3.")
        bites = later("{sleeve} Label all three, at both ends, before it goes down. Two swapped, it hums and runs backwards without water, and may unscrew its rotor: then swap two, and try it in a bucket first.", sleeve=bites)  # fmt: skip
    elif isinstance(setup.kit.supply, Controlled) and not setup.kit.pump.brushed and setup.kit.pump.motor_wires is None:
        bites = later("{sleeve} If this motor has three wires, label all three before it goes down: two swapped, it runs backwards.", sleeve=bites)  # fmt: skip
    return Step(_joined(wires), check, why, bites, _parted(wires))


def _joined(wires: Sequence[Wire]) -> Spoken:
    said: Spoken = _wire_words(wires[0])
    for wire in wires[1:]:
        said = later("{first} {second}", first=said, second=_wire_words(wire))
    return said


def _parted(wires: Sequence[Wire]) -> Spoken:
    backwards = list(reversed(wires))
    said: Spoken = _undo_words(backwards[0])
    for wire in backwards[1:]:
        said = later("{first} {second}", first=said, second=_undo_words(wire))
    return said


def _across_open(kit: KitCircuit, ident: str) -> float:
    """Volts between a part's source side and the common minus while it is open, and nothing before it. [V]"""
    opened = kit.opened([ident])
    node = next(one.ends[0] for one in kit.placed if one.id == ident)
    return opened.circuit().solve([(node, kit.minus)]).probe_v[0]


def order_of_joining(
    setup: Setup,
    kit: KitCircuit,
    wires: Sequence[Wire],
    now: Now,
    splice: SpliceKind = "sleeve",
    *,
    plus_first: bool = False,
) -> tuple[Step, ...]:
    """Steps from dead to running.

    Parameters
    ----------
    setup : Setup
        The kit on its line.
    kit : KitCircuit
        Its circuit in the light of now.
    wires : sequence of Wire
        Its terminal map.
    now : Now
        Light and heat, for what is to be read.
    splice : str
        How the cable is joined at the pump.
    plus_first : bool
        Whether the panels' plus lands before their minus, as one school has it.

    Returns
    -------
    tuple of Step
        Dead, pump, box from the pump's side, source, fuse and sun.
    """
    cores = [one for one in kit.placed if one.kind == "core"]
    of_core = dict(
        zip((one.id for one in cores), (wire for wire in wires if not wire.link and not wire.third), strict=True)
    )
    third = [wire for wire in wires if wire.third]
    at_pump = [wire for wire in wires if wire.link and wire.second.kind == "motor"]
    links = [wire for wire in wires if wire.link and wire not in at_pump]
    steps = [
        _dead(setup),
        _pump_end(setup, [*at_pump, *chain.from_iterable(_of_run(kit, of_core, "run-pump", third))], kit, splice),
    ]
    steps += [_link(wire) for wire in reversed(links) if not _at_battery(wire)]
    if isinstance(setup.kit.supply, Banked):
        minus = [wire for wire in wires if _minus_ring(wire)]
        steps += _bank(kit, of_core, [wire for wire in links if _at_battery(wire)], minus)
    steps += _plugs(setup, kit, now)
    if "array_plus" in of_core:
        # From the box towards the panels, so that what is held hangs on nothing yet.
        runs = _of_run(kit, of_core, "run-array")
        wired = [wire for pair in runs for wire in (pair if plus_first else reversed(pair))]
        steps.append(_source(setup, wired, now, plus_first=plus_first))
    steps.append(_on(setup, kit, now))
    return tuple(steps)


def _of_run(kit: KitCircuit, of_core: dict[str, Wire], where: str, third: Sequence[Wire] = ()) -> list[list[Wire]]:
    """Wires of a run of cable by its pieces, the one at the pump first: plus, minus, and the third where there are three."""
    cores = [of_core[one.id] for one in kit.placed if one.kind == "core" and one.where == where]
    return [[*cores[2 * n : 2 * n + 2], *third[n : n + 1]] for n in reversed(range(len(cores) // 2))]


def _at_battery(wire: Wire) -> bool:
    return "battery" in (wire.first.kind, wire.second.kind)


def _link(wire: Wire) -> Step:
    return Step(
        _joined([wire]),
        later("A pull on each end; no strand outside its ferrule."),
        later("Inside the box, from the pump towards the sun, so that what lies behind is dead."),
        "",
        _parted([wire]),
    )


def _bank(kit: KitCircuit, of_core: dict[str, Wire], posts: Sequence[Wire], minus: Sequence[Wire]) -> list[Step]:
    charger = next((one for one in kit.placed if one.kind == "charger"), None)
    volts = next(one.part.battery.open_v for one in kit.placed if isinstance(one.part, Bank))
    found = []
    if "charge_plus" in of_core:
        found.append(
            Step(
                _joined([of_core["charge_minus"], of_core["charge_plus"]]),
                later("The charger's terminals marked for the battery, not those for panels or load."),
                later("Battery before panels: without a bank a charge controller may pass the panels' open volts to whatever is joined."),
                later("The charger's fuse stays out."),
                _parted([of_core["charge_minus"], of_core["charge_plus"]]),
            )
        )  # fmt: skip
    if posts:
        numbers = ", ".join(str(wire.number) for wire in minus)
        found.append(
            Step(
                later("{wires} Plus rings first; then the minus rings of wire {numbers}, last of all.", wires=_joined(posts), numbers=numbers),
                later("Between the posts {volts:volts}, give or take what its charge says.", volts=volts),
                later("With minus last on and first off, a spanner that touches plus and frame makes no spark."),
                later("A battery gives hundreds of amps into a spanner: rings and watches off. Lead makes hydrogen while it charges: air, no flame; its acid burns."),
                later("The minus rings of wire {numbers} off the battery's post first, and sleeved. {wires}", numbers=numbers, wires=_parted(posts)),
            )
        )  # fmt: skip
    if charger is not None:
        found.append(
            Step(
                later("The charger's fuse in."),
                later("The charger wakes and shows the battery: {volts:volts}.", volts=volts),
                later("It finds out what bank it is on, before it sees the sun."),
                "",
                later("The charger's fuse out."),
            )
        )
    return found


_COVERED = later("Panels are joined while nothing hangs on them, covered: a plug joined in light, under load, arcs.")
_SERIES_BITES = later("In series the volts add: over 60 V DC a shock is real, and work for licensed practice. Local codes override this.")  # fmt: skip


def _plugs(setup: Setup, kit: KitCircuit, now: Now) -> list[Step]:
    """Panel to panel, then string to string, on plugs of their own."""
    found, pairs = [], plugged(kit)
    within = [pair for pair in pairs if pair[1].kind != "y-lead"]
    if within:
        found.append(
            Step(
                later("Panels still covered, their cable off. Each string: {pairs}.", pairs=_into(within)),
                later("The arrows of each pair met, each pulled by hand, no mud inside."), _COVERED, _SERIES_BITES,
                later("Panels covered, their cable off: {pairs}.", pairs=_off(within)),
            )
        )  # fmt: skip
    meeting = [pair for pair in pairs if pair[1].kind == "y-lead"]
    if meeting:
        string = PvArray(setup.kit.panel.module, setup.kit.in_series, 1, now.irradiance_w_m2, now.cell_c)
        open_v = Quantity(string.most_volts, "volts")
        found.append(
            Step(
                later(
                    "Lift each string's cover by itself, read it and cover it again: {open} in the light typed above, plus on plus. Only then: {pairs}.",
                    open=open_v, pairs=_into(meeting),
                ),
                later("Between the last Y-leads' stems with all covers lifted the same {open}; covered again.", open=open_v),
                later("A string the wrong way round, or a panel short, is fed by the others, and burns."),
                "" if within else _COVERED,
                later("Panels covered, their cable off: {pairs}.", pairs=_off(meeting)),
            )
        )  # fmt: skip
    return found


def _into(pairs: Sequence[tuple[End, End]]) -> Spoken:
    said: Spoken = later("{first} into {second}", first=pairs[0][0].says, second=pairs[0][1].says)
    for one, then in pairs[1:]:
        said = later("{before}; {first} into {second}", before=said, first=one.says, second=then.says)
    return said


def _off(pairs: Sequence[tuple[End, End]]) -> Spoken:
    backwards = list(reversed(pairs))
    said: Spoken = later("{second} off {first}", first=backwards[0][0].says, second=backwards[0][1].says)
    for one, then in backwards[1:]:
        said = later("{before}; {second} off {first}", before=said, first=one.says, second=then.says)
    return said


def _source(setup: Setup, wires: Sequence[Wire], now: Now, *, plus_first: bool) -> Step:
    array = PvArray(setup.kit.panel.module, setup.kit.in_series, setup.kit.in_parallel, now.irradiance_w_m2, now.cell_c)
    school = later("The source last. Minus first is what is printed here: with plus open nothing can flow while both hands are at the terminals.")  # fmt: skip
    if plus_first:
        school = later("The source last, every switch towards the pump open. Plus first, as the other school has it: with the load open nothing flows until the minus lands, and plus is never a loose end while it does.")  # fmt: skip
    return Step(
        later("Panels still covered. {wires}", wires=_joined(wires)),
        later("Lift a corner of the cover: plus on plus, and once uncovered {open:volts} in the light typed above.", open=array.most_volts),
        school,
        _SERIES_BITES,
        _parted(wires),
    )  # fmt: skip


def _on(setup: Setup, kit: KitCircuit, now: Now) -> Step:
    answer = kit.circuit().solve()
    motor = next(one for one in kit.placed if one.kind == "motor")
    a, b = motor.ends
    across = answer.node_v.get(a, 0.0) - answer.node_v.get(b, 0.0)
    if kit.three_wires:
        # Three wires show nothing to a meter of direct current: what feeds the box does.
        box = next(one for one in kit.placed if one.kind == "controller")
        across = answer.node_v.get(box.ends[0], 0.0) - answer.node_v.get(box.ends[1], 0.0)
    fuse = next((one for one in kit.placed if one.kind in ("fuse", "breaker") and one.id == "fuse"), None)
    before: Spoken = ""
    if fuse is not None:
        volts = _across_open(kit, "fuse")
        kind = KIND_WORDS[fuse.kind]
        before = later(
            "With the pump's {kind} still open, all before it closed and the panels uncovered for it: {volts:volts} between its source side and minus; covered again. ",
            kind=kind,
            volts=volts,
        )
    running = later(
        "{before}Running: {across:volts} and {amps:amps} at the pump in this light.",
        before=before,
        across=across,
        amps=abs(answer.part_a["motor"]),
    )
    if kit.three_wires:
        running = later(
            "{before}Running: {across:volts} and {amps:amps} at the controller's input in this light.",
            before=before,
            across=across,
            amps=abs(answer.part_a["array_plus"]),
        )
    return Step(
        later("Water at the intake, outlet open. Every fuse in, cover off, then the switches, the pump's last."),
        running,
        later("Volts there and no water: look at once. A pump that stands burns, and panels can't blow its fuse."),
        "",
        later("Switches off, the pump's first; cover the panels; fuses out."),
    )  # fmt: skip
