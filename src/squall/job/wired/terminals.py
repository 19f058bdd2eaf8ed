"""The terminal map: every wire of a kit with its two ends, its size, length, colour, and how each end is made."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from squall.core.circuit import parts
from squall.core.electrics.conductors import Conductor
from squall.core.kit.circuit_of import KitCircuit, Placed
from squall.core.reason import Spoken
from squall.words import later

# Colours of direct current: red plus, black minus. Common practice, no source; local codes may ask for others.
RED, BLACK = later("red"), later("black")
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
    """

    number: int
    first: End
    second: End
    conductor: Conductor
    length_m: float
    colour: Spoken
    link: bool


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
        case parts.Protector() | parts.Switch() | parts.Resistor():
            return later("in") if node == one.ends[0] else later("out")
        case _:
            return ""


def _made(one: Placed, wet: bool) -> Spoken:
    """How a wire ends at a part."""
    match one.kind:
        case "panel" | "connector":
            return later("panel plug, crimped; match the arrows")
        case "battery":
            return later("ring, crimped, under the post's nut")
        case "motor" | "joint" if wet:
            return later("splice in an adhesive-lined sleeve or resin; sleeve on first")
        case "motor" | "joint":
            return later("splice in an adhesive-lined sleeve; sleeve on first")
        case _:
            return later("ferrule under the screw")


def _nodes(one: Placed) -> tuple[str, ...]:
    """Where it has terminals: a relay's coil and its contact each at its own."""
    if isinstance(one.part, parts.Relay):
        return one.ends
    return tuple(node for pair in parts.ends(one.part) for node in pair)


_BAR = (later("terminal block"), later("\u2212"), later("ferrule under the screw"))


class _Map:
    def __init__(self, kit: KitCircuit, wet: bool) -> None:
        self.placed, self.wet = kit.placed, wet
        self.cores = [one for one in self.placed if one.kind == "core"]
        self.wires: list[Wire] = []

    def standing(self, node: str) -> list[Placed]:
        """What has a terminal at a node, cores of cable left out."""
        others = [one for one in self.placed if one.kind != "core"]
        return [one for one in others if node == one.common or node in _nodes(one)]

    def end(self, node: str) -> End:
        """Where a core ends at a node."""
        here = self.standing(node)
        if not here:
            return End(*_BAR)
        if len(here) > 1 and all(one.kind in ("panel", "string-fuse") for one in here):
            sign = later("+") if node == "array_plus" else later("\u2212")
            return End(later("Y-lead of the strings"), sign, _made(here[-1], self.wet), here[-1].kind)
        if len(here) > 1 and here[0].pole == "across" and node.startswith("m"):
            return End(*_BAR)
        return End(here[0].name, terminal_of(here[0], node), _made(here[0], self.wet), here[0].kind)

    def beside(self, met: Placed | None, stack: Sequence[Placed], like: Placed) -> None:
        """What stands from rail to rail in a row, from the part that it is fed from to the common minus."""
        if met is not None:
            self.link(met, stack[0], stack[0].ends[0], like)
        for one, then in pairwise(stack):
            self.link(one, then, then.ends[0], like)
        last = stack[-1]
        end = End(last.name, terminal_of(last, last.ends[1]), _made(last, self.wet), last.kind)
        self.add(end, End(*_BAR), like, LINK_M, False, True)

    def link(self, one: Placed, then: Placed, node: str, like: Placed) -> None:
        first = End(one.name, terminal_of(one, node), _made(one, self.wet), one.kind)
        second = End(then.name, terminal_of(then, node), _made(then, self.wet), then.kind)
        self.add(first, second, like, LINK_M, True, True)

    def add(self, first: End, second: End, like: Placed, metres: float, plus: bool, link: bool) -> None:
        """One more wire."""
        assert like.conductor is not None
        colour = RED if plus else BLACK
        self.wires.append(Wire(len(self.wires) + 1, first, second, like.conductor, metres, colour, link))


def terminal_map(kit: KitCircuit, wet: bool) -> tuple[Wire, ...]:
    """Every wire of a kit, from the sun to the pump.

    Parameters
    ----------
    kit : KitCircuit
        Its parts in order.
    wet : bool
        Whether the pump's joint lies under water.

    Returns
    -------
    tuple of Wire
        Cores of cable, and the links between parts that stand side by side.
    """
    made = _Map(kit, wet)
    around = made.cores[-1]
    met: Placed | None = None
    for column in kit.columns:
        for one in (column.plus, column.minus):
            if one is not None and one.kind == "core":
                a, b = one.ends if one.pole == "plus" else one.ends[::-1]
                made.add(made.end(a), made.end(b), one, one.length_m, one.pole == "plus", False)
        rows = [stack for stack in column.across if len(stack) > 1 and column.where != "array"]
        for one in (column.plus, *(stack[0] for stack in column.across[:1] if not rows)):
            if one is None or one.kind == "core" or column.where in ("array",):
                continue
            node = one.ends[0]
            if met is not None and node in _nodes(met):
                made.link(met, one, node, around)
            met = one
        for stack in rows:
            made.beside(met, stack, around)
        if column.plus is not None and column.plus.kind == "core":
            met = None
    return tuple(made.wires)
