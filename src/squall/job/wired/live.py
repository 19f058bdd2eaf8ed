"""The chosen kit's circuit in the light of now, with what somebody has opened: volts at each terminal, amps in each part."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from squall.core.circuit.laid import INPUTS, OPENED, OTHER_POLE, Column, KitCircuit, Placed
from squall.core.circuit.parts import Relay, ends
from squall.core.circuit.solve import Answer
from squall.core.drive.motors import MotorState
from squall.core.kit.circuit_of import circuit_of
from squall.core.prove.expect import Now
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.job.worked.resolve import loop_of
from squall.words import Message, later

KIND_WORDS: dict[str, Message] = {
    "panel": later("panel"), "string-fuse": later("string fuse"), "core": later("core of cable"),
    "connector": later("plug pair"), "joint": later("joint"), "fuse": later("fuse"), "breaker": later("breaker"),
    "switch": later("switch"), "float switch": later("float switch"), "timer": later("timer"),
    "pressure switch": later("pressure switch"), "radio switch": later("radio switch"), "relay": later("relay"),
    "controller": later("pump controller"), "charger": later("charge controller"), "battery": later("battery"),
    "motor": later("pump"), "coil": later("relay's coil"), "load-fuse": later("fuse"), "load": later("load"),
    "isolator": later("isolator"), "main-fuse": later("main fuse"),
    "y-lead": later("Y-lead"), "float-input": later("float input"), "probe-input": later("probe input"),
}  # fmt: skip
# Fewer volts than this nobody calls live. [V]
LIVE_V = 0.5
# Part of the long-section that a part of the circuit is.
PART_OF: dict[str, str] = {
    "array": "panel", "run-array": "cable-array", "box": "box", "post": "box", "run-charge": "box", "run-pump": "cable-pump",
    "pump": "pump",
}  # fmt: skip


@dataclass(frozen=True)
class LivePart:
    """A part as it stands now.

    Attributes
    ----------
    number : int
        In the order of the circuit, from 1.
    placed : Placed
        The part.
    amps_a : float
        Through it. [A]
    across_v : float or None
        From its first terminal to its second; None where one of them floats. [V]
    live : bool
        Whether either of its terminals has volts: in light a panel always has.
    open : bool
        Whether it is open, or blown.
    would_open : bool
        Whether it carries so much that it opens sooner or later.
    """

    number: int
    placed: Placed
    amps_a: float
    across_v: float | None
    live: bool
    open: bool
    would_open: bool

    @property
    def kind(self) -> Message:
        """What it is, in words."""
        return KIND_WORDS[self.placed.kind]

    @property
    def signals(self) -> bool:
        """Whether only its controller's own milliamps go through it."""
        return self.placed.kind in INPUTS

    @property
    def can_open(self) -> bool:
        """Whether a click opens or closes it."""
        return self.placed.kind in OPENED and not isinstance(self.placed.part, Relay)


@dataclass(frozen=True, eq=False)
class LiveCircuit:
    """A kit's circuit, solved."""

    kit: KitCircuit
    now: Now
    opened: tuple[str, ...]

    @cached_property
    def answer(self) -> Answer:
        """Volts and amps of everything."""
        return self.kit.circuit().solve()

    @cached_property
    def parts(self) -> tuple[LivePart, ...]:
        """Every part, from the sun to the pump."""
        return tuple(self._live(number, one) for number, one in enumerate(self.kit.placed, start=1))

    def volts(self, node: str) -> float | None:
        """Of a node over the common minus: the battery's, else the panels'; None where it floats. [V]"""
        found = self.answer.node_v.get(node)
        return None if found is None else found - self.answer.node_v.get(self.kit.minus, 0.0)

    def _live(self, number: int, one: Placed) -> LivePart:
        if one.kind in INPUTS:
            box = next(part for part in self.kit.placed if part.kind == "controller")
            return LivePart(number, one, 0.0, None, self._has_volts(box), one.id in self.opened, False)
        a, b = one.ends
        at_a, at_b = self.volts(a), self.volts(b)
        across = None if at_a is None or at_b is None else at_a - at_b
        live = self._has_volts(one)
        opens = one.id in self.answer.would_open
        if isinstance(one.part, Relay):
            amps = (across or 0.0) / one.part.coil_ohm if one.kind == "coil" else self.answer.part_a[one.id]
            still_open = one.kind == "relay" and not self.answer.closed[one.part.id]
            return LivePart(number, one, amps, across, live, still_open, opens)
        return LivePart(number, one, self.answer.part_a[one.id], across, live, one.id in self.opened, opens)

    def _has_volts(self, one: Placed) -> bool:
        return any(abs(self.volts(node) or 0.0) >= LIVE_V for pair in ends(one.part) for node in pair)

    def part(self, ident: str) -> LivePart:
        """The part of an id."""
        return next(part for part in self.parts if part.placed.id == ident)

    @property
    def motor(self) -> MotorState | None:
        """What the pump does; None while it stands."""
        return self.answer.pumps.get("motor")

    @property
    def columns(self) -> tuple[Column, ...]:
        """From sun to pump."""
        return self.kit.columns

    def nodes_of(self, column: Column) -> tuple[tuple[str, str], tuple[str, str]]:
        """Nodes of the plus rail and of the minus rail where a column begins and where it ends."""
        plus = minus = ""
        before = plus, minus
        for one in self.columns[: self.columns.index(column) + 1]:
            before = plus, minus
            if one.where == "array":
                plus, minus = "array_plus", "array_minus"
                continue
            if one.plus is not None:
                plus = one.plus.ends[1]
            if one.minus is not None:
                minus = one.minus.ends[0]
            for stack in one.across:
                if stack[0].kind in ("controller", "charger"):
                    plus = getattr(stack[0].part, "out_plus", None) or stack[0].ends[1]
        return (before[0] or plus, plus), (before[1] or minus, minus)


def kit_circuit(a: Assessment, chosen: KitAssessment, now: Now) -> KitCircuit:
    """The chosen kit's circuit in some light."""
    assert a.wiring is not None
    return circuit_of(chosen.setup, a.wiring, a.rules, loop_of(a.job, a.parts), now.irradiance_w_m2, now.cell_c)


def live_circuit(a: Assessment, chosen: KitAssessment, now: Now, opened: Sequence[str] = ()) -> LiveCircuit:
    """The chosen kit's circuit with some switches open; ids that it doesn't have are left out.

    Raises
    ------
    BadCircuit
        If there is no answer, naming the part.
    """
    kit = kit_circuit(a, chosen, now)
    can = [one.id for one in kit.placed if one.kind in OPENED]
    # Both poles of an isolator move as one.
    known = tuple(ident for ident in can if ident.removesuffix(OTHER_POLE) in opened)
    return LiveCircuit(kit.opened(known), now, known)
