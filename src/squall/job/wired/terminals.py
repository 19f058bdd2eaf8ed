"""The terminal map: every wire of a kit with its two ends, its size, length, colour, and how each end is made."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal

from squall.core.circuit import parts
from squall.core.circuit.laid import KitCircuit, Placed
from squall.core.electrics.conductors import Conductor
from squall.core.electrics.splices import SpliceKind, splice_words
from squall.core.kit.kit import Kit
from squall.core.kit.supply import Controlled
from squall.core.reason import Reason, Spoken
from squall.words import later

# Colours of direct current: red plus, black minus. Common practice, no source; local codes may ask for others.
RED, BLACK = later("red"), later("black")
# Three wires to a motor have no plus and no minus: whoever joins them marks both ends of each.
MARKED = (later("marked 1"), later("marked 2"), later("marked 3"))
# What a wire between two parts of one box is counted as. [m]
LINK_M = 0.3


@dataclass(frozen=True)
class End:
    """One end of a wire: at which part, at which of its terminals, how it is made, and what kind of part that is."""

    at: Spoken
    terminal: Spoken
    made: Spoken
    kind: str = "terminal block"

    @property
    def says(self) -> Spoken:
        """Part and terminal."""
        return later("{at}, {terminal}", at=self.at, terminal=self.terminal) if self.terminal else self.at


Side = Literal["before", "behind", "under", "back"]


@dataclass(frozen=True)
class Wire:
    """One wire.

    Attributes
    ----------
    number : int
        Written on both its ends.
    first, second : End
        Sun side first.
    conductor : Conductor
        Its size.
    length_m : float
        One way. [m]
    colour : Spoken
        Of its sheath or of the sleeve on it.
    link : bool
        Whether it is a short one within a box.
    third : bool
        Whether it is the third of a motor's wires.
    by : tuple of str
        Of a short one: the part beside which it lies, and on which side of it: ``before``, ``behind`` (towards the pump),
        ``under`` (towards minus), or ``back`` (before it, on the rail of minus).
    """

    number: int
    first: End
    second: End
    conductor: Conductor
    length_m: float
    colour: Spoken
    link: bool
    third: bool = False
    by: tuple[str, Side] | None = None


_LEGS: Spoken = later("legs")


def terminal_of(one: Placed, node: str) -> Spoken:
    """What a part calls its terminal at a node."""
    match one.part:
        case parts.Panels() | parts.Bank():
            return later("+") if node == one.part.plus else later("\u2212")
        case parts.Pump():
            return later("+ lead") if node == one.part.plus else later("\u2212 lead")
        case parts.Controller():
            into = node in (one.part.pv_plus, one.part.pv_minus)
            side = later("in") if one.kind == "controller" else later("panels")
            other = later("out") if one.kind == "controller" else later("battery")
            if node == one.part.pv_minus and one.wires == 3:
                return later("{side} \u2212", side=side)
            if node == one.part.pv_minus:
                return later("{side} and {other} \u2212", side=side, other=other)
            return later("{side} +", side=side if into else other)
        case parts.Diode():
            if node == one.common:
                return later("{side} and {other} \u2212", side=later("panels"), other=later("battery"))
            return later("panels +") if node == one.part.anode else later("battery +")
        case parts.Relay():
            # After DIN 72552, from memory: coil 86 and 85, contact 30 and 87.
            numbers = ("86", "85") if one.kind == "coil" else ("30", "87")
            return numbers[0] if node == one.ends[0] else numbers[1]
        case parts.Switch() if one.kind == "isolator":
            # Each pole by its sign; what leads on towards the pump is out.
            sign, outward = ("+", one.ends[1]) if one.pole == "plus" else ("\u2212", one.ends[0])
            return later("{sign} out", sign=sign) if node == outward else later("{sign} in", sign=sign)
        case parts.Resistor() if one.kind == "y-lead":
            # Two strings go in, both their amps come out.
            stem = one.ends[1] if one.pole == "plus" else one.ends[0]
            return later("stem") if node == stem else _LEGS
        case parts.Protector() | parts.Switch() | parts.Resistor():
            return later("in") if node == one.ends[0] else later("out")
        case _:
            return ""


def _made(one: Placed, splice: Spoken) -> Spoken:
    """How a wire ends at a part, and how tight where its maker says."""
    made = _end_of(one, splice)
    return made if one.torque_nm is None else later("{made}, {torque:torque}", made=made, torque=one.torque_nm)


def _end_of(one: Placed, splice: Spoken) -> Spoken:
    match one.kind:
        case "panel" | "connector" | "y-lead":
            return later("panel plug, crimped; match the arrows")
        case "battery":
            return later("ring, crimped, under the post's nut")
        case "motor" | "joint":
            return splice
        case _:
            return later("ferrule under the screw")


def _nodes(one: Placed) -> tuple[str, ...]:
    """Where it has terminals: a relay's coil and its contact each at its own."""
    if isinstance(one.part, parts.Relay):
        return one.ends
    return tuple(node for pair in parts.ends(one.part) for node in pair)


_BLOCK = End(later("terminal block"), later("\u2212"), later("ferrule under the screw"))
_RING = later("ring under its screw")
_PLUS_BAR, _MINUS_BAR = End(Reason("plus-bar"), "", _RING, "bar"), End(Reason("minus-bar"), "", _RING, "bar")


class _Map:
    def __init__(self, kit: KitCircuit, splice: Spoken) -> None:
        self.placed, self.splice = kit.placed, splice
        self.cores = [one for one in self.placed if one.kind == "core"]
        self.wires: list[Wire] = []
        # Where one cable goes on as another, with nothing between.
        self.joints = {
            node
            for one, then in pairwise(kit.columns)
            if one.plus is not None
            and then.plus is not None
            and one.where == then.where
            and one.plus.kind == then.plus.kind == "core"
            for node in (one.plus.ends[1], one.minus.ends[0] if one.minus is not None else "")
        }
        self.main = next((one for one in self.placed if one.kind == "main-fuse"), None)
        # Where several minus wires meet.
        self.block = _BLOCK if self.main is None else _MINUS_BAR

    def standing(self, node: str) -> list[Placed]:
        """What has a terminal at a node, cores of cable left out; a box before an isolator that leads to it."""
        others = [one for one in self.placed if one.kind != "core" and (node == one.common or node in _nodes(one))]
        return sorted(others, key=lambda one: one.kind == "isolator")

    def at(self, one: Placed, node: str) -> End:
        """The end of a wire at a part; behind a main fuse it is the bar."""
        if one is self.main and node == one.ends[1]:
            return _PLUS_BAR
        return End(one.name, terminal_of(one, node), _made(one, self.splice), one.kind)

    def end(self, node: str) -> End:
        """Where a core ends at a node."""
        here = self.standing(node)
        if not here:
            joint = End(Reason("joint-of-run"), "", self.splice, "joint")
            return joint if node in self.joints else self.block
        if self.shared(node):
            return self.block
        return self.at(here[0], node)

    def shared(self, node: str) -> bool:
        """Whether a minus node is a block on which several parts' wires meet."""
        here = [one for one in self.standing(node) if one.kind != "isolator"]
        return len(here) > 1 and here[0].pole == "across" and node.startswith("m")

    def beside(self, met: Placed | None, stack: Sequence[Placed], like: Placed) -> None:
        """What stands from rail to rail in a row, from the part that it is fed from to the common minus."""
        like = stack[0] if stack[0].conductor is not None else like
        if met is not None:
            self.link(met, stack[0], stack[0].ends[0], like)
        for one, then in pairwise(stack):
            self.link(one, then, then.ends[0], like)
        self.add(
            self.at(stack[-1], stack[-1].ends[1]), self.block, like, LINK_M, plus=False, by=(stack[-1].id, "under")
        )

    def link(self, one: Placed, then: Placed, node: str, like: Placed, *, plus: bool = True) -> None:
        """A short wire from one part to the next, at a node."""
        self.add(
            self.at(one, node), self.at(then, node), like, LINK_M, plus=plus, by=(then.id, "before" if plus else "back")
        )

    def add(
        self, first: End, second: End, like: Placed, metres: float, *, plus: bool, by: tuple[str, Side] | None = None
    ) -> None:
        """One more wire: a core of cable, or a short one beside a part."""
        assert like.conductor is not None
        colour = RED if plus else BLACK
        number = len(self.wires) + 1
        self.wires.append(Wire(number, first, second, like.conductor, metres, colour, by is not None, by=by))


# What stands between two circuits: a wire behind it is as thick as the cable that goes on from there.
_BETWEEN = ("controller", "charger", "battery")


def _likes(kit: KitCircuit) -> list[Placed]:
    """The core that each column's short wires are as thick as: of the cable that feeds it, behind a box of the one that it feeds."""
    cores = [None if column.plus is None or column.plus.kind != "core" else column.plus for column in kit.columns]
    found, like = [], next(core for core in cores if core is not None)
    for number, column in enumerate(kit.columns):
        if cores[number] is not None:
            like = cores[number]  # type: ignore[assignment]
        found.append(like)
        if any(stack[0].kind in _BETWEEN for stack in column.across):
            like = next((core for core in cores[number:] if core is not None), like)
    return found


def terminal_map(kit: KitCircuit, splice: SpliceKind = "sleeve") -> tuple[Wire, ...]:
    """Every wire of a kit, from the sun to the pump.

    Parameters
    ----------
    kit : KitCircuit
        Its parts in order.
    splice : str
        How its cable is joined at the pump, and piece to piece.

    Returns
    -------
    tuple of Wire
        Cores of cable, and the links between parts that stand side by side.
    """
    made = _Map(kit, splice_words(splice))
    met: Placed | None = None
    pole: Placed | None = None
    for column, like in zip(kit.columns, _likes(kit), strict=True):
        for one in (column.plus, column.minus):
            if one is not None and one.kind == "core":
                a, b = one.ends if one.pole == "plus" else one.ends[::-1]
                made.add(made.end(a), made.end(b), one, one.length_m, plus=one.pole == "plus")
        rows = [stack for stack in column.across if len(stack) > 1 and column.where != "array"]
        firsts = [] if rows or column.where == "array" else [stack[0] for stack in column.across[:1]]
        for one in (column.plus, *firsts):
            if one is None or one.kind == "core":
                continue
            node = one.ends[0]
            if met is not None and node in _nodes(met):
                made.link(met, one, node, one if one.kind == "main-fuse" else like)
            met = one
        _minus_links(made, pole, column.minus, firsts, like)
        if column.minus is not None or firsts:
            pole = None if column.minus is None or column.minus.kind == "core" else column.minus
        for stack in rows:
            made.beside(met, stack, like)
        if met is made.main and met is not None and column.plus is met:
            made.add(
                End(met.name, terminal_of(met, met.ends[1]), _made(met, made.splice), met.kind),
                _PLUS_BAR,
                met,
                LINK_M,
                plus=True,
                by=(met.id, "behind"),
            )
        if column.plus is not None and column.plus.kind == "core":
            met = None
    return _three_wires(made) if kit.three_wires else tuple(made.wires)


def _three_wires(made: _Map) -> tuple[Wire, ...]:
    """The map with each two wires between controller and motor as the first two of three, and the third behind them."""
    pairs = 2 * sum(one.where == "run-pump" for one in made.cores[::2])
    before, run = made.wires[:-pairs], made.wires[-pairs:]
    box, motor = (next(part for part in made.placed if part.kind == kind) for kind in ("controller", "motor"))

    def end(was: End, n: int) -> End:
        if was.kind not in ("controller", "motor"):
            return was
        part = box if was.kind == "controller" else motor
        terminal = later("motor {n}", n=n + 1) if part is box else later("lead {n}", n=n + 1)
        return End(part.name, terminal, _made(part, made.splice), part.kind)

    found: list[Wire] = []
    for place in range(0, pairs, 2):
        for n, like in enumerate((run[place], run[place + 1], run[place + 1])):
            number = len(before) + len(found) + 1
            found.append(
                replace(
                    like,
                    number=number,
                    first=end(like.first, n),
                    second=end(like.second, n),
                    colour=MARKED[n],
                    third=n == 2,
                )
            )
    return (*before, *found)


def _minus_links(made: _Map, pole: Placed | None, minus: Placed | None, firsts: Sequence[Placed], like: Placed) -> None:
    """Short wires of the minus rail: from an isolator's pole to what stands behind it, from a bank to the block it shares."""
    if pole is not None:
        behind = [one for one in (minus, *firsts) if one is not None and one.kind != "core"]
        for one in behind:
            if pole.ends[0] in (*_nodes(one), one.common):
                made.link(pole, one, pole.ends[0], like, plus=False)
    for one in firsts:
        if one.kind == "battery" and made.shared(one.ends[1]):
            # What is drawn and what charges both come back through it: as thick as the thicker.
            thick = max(
                (like, made.main or made.cores[-1]), key=lambda core: core.conductor.area_mm2 if core.conductor else 0.0
            )
            made.add(made.at(one, one.ends[1]), made.block, thick, LINK_M, plus=False, by=(one.id, "under"))


# What is joined by the panels' own moulded plugs, with no wire of the map.
_PLUGGED = ("panel", "string-fuse", "y-lead")


def plugged(kit: KitCircuit) -> tuple[tuple[End, End], ...]:
    """Each pair of plugs on the panels, string by string, then on the Y-leads: what goes into what.

    Returns
    -------
    tuple of pairs of End
        The second is a Y-lead's legs where several meet, else the next part towards minus.
    """
    made = _Map(kit, "")
    panels = [one for one in made.placed if one.kind == "panel"]

    def at(one: Placed, node: str) -> End:
        end = made.at(one, node)
        # By its number alone: all are of one title.
        return replace(end, at=later("panel {n}", n=panels.index(one) + 1)) if one in panels else end

    within, meeting = [], []
    for node in dict.fromkeys(node for one in made.placed if one.kind in _PLUGGED for node in one.ends):
        here = [one for one in made.standing(node) if one.kind in _PLUGGED]
        hub = next((one for one in here if one.kind == "y-lead" and terminal_of(one, node) == _LEGS), None)
        if hub is None:
            within += [(at(one, node), at(then, node)) for one, then in pairwise(here)]
        else:
            meeting += [(at(one, node), at(hub, node)) for one in here if one is not hub]
    return (*within, *meeting)


_INPUTS: dict[str, Spoken] = {
    "float": later("Float: two thin cores from the tank's float to its input. They carry milliamps and no pump; a full tank stops it."),
    "probe": later("Probe: its thin cores tied to the hose with the cable, the probe itself above the pump, to its input. Dry stops it."),
}  # fmt: skip


def input_lines(kit: Kit) -> tuple[Spoken, ...]:
    """How the inputs of a kit's pump controller are joined; none without one."""
    if not isinstance(kit.supply, Controlled):
        return ()
    named = [_INPUTS[one] for one in kit.supply.controller.asks]
    return (
        *named,
        later("An input of {name} that is not used is bridged, or it won't start.", name=kit.supply.controller.title),
    )
