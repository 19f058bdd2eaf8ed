"""A circuit's parts as an installer knows them: what each is to the hand, on which rail, in which place, between sun and pump."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from squall.core.circuit import parts
from squall.core.circuit.solve import Circuit
from squall.core.electrics.conductors import Conductor
from squall.core.reason import Told

Kind = Literal[
    "panel", "string-fuse", "core", "connector", "joint", "fuse", "breaker", "switch", "float switch", "timer",
    "pressure switch", "radio switch", "isolator", "relay", "coil", "controller", "charger", "battery", "main-fuse", "load-fuse",
    "load", "motor", "y-lead", "float-input", "probe-input",
]  # fmt: skip
Pole = Literal["plus", "minus", "across"]
Where = Literal["array", "run-array", "box", "post", "run-charge", "run-pump", "pump"]
# What a hand, a float or a clock opens; on the page a click does.
OPENED: frozenset[str] = frozenset(
    {
        "switch",
        "float switch",
        "timer",
        "pressure switch",
        "radio switch",
        "isolator",
        "relay",
        "breaker",
        "fuse",
        "string-fuse",
        "main-fuse",
        "load-fuse",
        "float-input",
        "probe-input",
    }
)
# What a controller asks by: contacts at terminals of its own, through which only its own milliamps go.
INPUTS: frozenset[str] = frozenset({"float-input", "probe-input"})


# What the second pole of a part that parts both rails is called by: its own id with this behind it.
OTHER_POLE = "_minus"


@dataclass(frozen=True)
class Placed:
    """A part of the circuit with what an installer knows of it.

    Attributes
    ----------
    part : Part
        What it is to the circuit.
    kind : str
        What it is to the hand.
    name : str or Told
        What it is called.
    pole : str
        ``plus`` or ``minus`` rail, or ``across`` both.
    where : str
        The box, the array, a run of cable, the pump.
    conductor : Conductor or None
        Of a core of cable.
    length_m : float
        Of a core of cable, one way. [m]
    common : str
        Node of its minus terminals, of a switching charger: minus goes straight through it.
    ident : str
        Where two stand for one part of the circuit, the second's own name: a relay's coil.
    pair : int
        Which of its part's pairs of nodes it stands between: a relay's contact is the second.
    rating_a, rating_v : float or None
        What it may carry and part, where somebody says. [A], [V]
    wires : int
        Of a controller, how many lead to its motor: with three none of them is its minus. [-]
    torque_nm : float or None
        Of its screws, where its maker states one. [N m]
    """

    part: parts.Part
    kind: Kind
    name: str | Told
    pole: Pole
    where: Where
    conductor: Conductor | None = None
    length_m: float = 0.0
    rating_a: float | None = None
    rating_v: float | None = None
    common: str = ""
    ident: str = ""
    pair: int = 0
    wires: int = 2
    torque_nm: float | None = None

    @property
    def id(self) -> str:
        """Name of the part within the circuit."""
        return self.ident or self.part.id

    @property
    def ends(self) -> tuple[str, str]:
        """Its two nodes; of a box with four terminals those of its input."""
        return parts.ends(self.part)[self.pair]


@dataclass(frozen=True)
class Column:
    """What stands side by side at one place between sun and pump.

    Attributes
    ----------
    where : str
        The place.
    plus, minus : Placed or None
        On either rail.
    across : tuple of tuple of Placed
        From rail to rail, each a row of parts.
    meets : tuple of tuple of Placed
        Where one more string meets those before it: the Y-lead of the plus rail and that of the minus rail.
    inputs : tuple of Placed
        At a controller's own terminals, on neither rail.
    """

    where: Where
    plus: Placed | None = None
    minus: Placed | None = None
    across: tuple[tuple[Placed, ...], ...] = ()
    meets: tuple[tuple[Placed, Placed], ...] = ()
    inputs: tuple[Placed, ...] = ()


@dataclass(frozen=True)
class KitCircuit:
    """A kit's circuit and how it stands.

    Attributes
    ----------
    columns : tuple of Column
        From sun to pump.
    three_wires : bool
        Whether three cores lead to the motor: two of them carry its current at a time, and those two are solved.
    """

    columns: tuple[Column, ...]
    three_wires: bool = False

    @property
    def placed(self) -> tuple[Placed, ...]:
        """All parts, from the sun to the pump and back."""
        found: list[Placed] = []
        for column in self.columns:
            found += [one for stack in (*column.across, *column.meets, column.inputs) for one in stack]
            found += [one for one in (column.plus, column.minus) if one is not None]
        return tuple(found)

    @property
    def minus(self) -> str:
        """The common minus, from which volts are read: the battery's, else the panels'."""
        bank = next((one for one in self.placed if one.kind == "battery"), None)
        return "array_minus" if bank is None else bank.ends[1]

    def circuit(self) -> Circuit:
        """The circuit to be solved: what an input does is in its controller, and a coil is its relay's."""
        return Circuit([one.part for one in self.placed if one.kind != "coil" and one.kind not in INPUTS])

    def opened(self, ids: Sequence[str]) -> "KitCircuit":
        """The same with some switches open and some fuses blown."""
        return KitCircuit(tuple(_column_opened(column, frozenset(ids)) for column in self.columns), self.three_wires)


def _column_opened(column: Column, ids: frozenset[str]) -> Column:
    stopped = any(one.id in ids for one in column.inputs)

    def changed(one: Placed) -> Placed:
        part = one.part
        if isinstance(part, parts.Controller) and stopped:
            return replace(one, part=replace(part, runs=False))
        if one.id in ids and isinstance(part, parts.Switch):
            return replace(one, part=replace(part, closed=False))
        if one.id in ids and isinstance(part, parts.Protector):
            return replace(one, part=replace(part, blown=True))
        return one

    return replace(
        column,
        plus=None if column.plus is None else changed(column.plus),
        minus=None if column.minus is None else changed(column.minus),
        across=tuple(tuple(changed(one) for one in stack) for stack in column.across),
        inputs=tuple(changed(one) for one in column.inputs),
    )
