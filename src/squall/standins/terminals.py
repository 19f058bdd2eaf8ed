"""Where a meter's leads can go on a stand-in kit, and its circuit as it stands: switched on or off, the pump plugged in or not.

The main switch stands at the box, where the source's lead ends: off, all behind it is dead, and the source's own side is not.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from squall.standins.kits import Json
from squall.standins.yard import Yard

Where = Literal["panels", "source", "box", "pump"]
Kind = Literal[
    "panels",
    "battery",
    "supply",
    "core",
    "main",
    "fuse",
    "switch",
    "float switch",
    "timer",
    "controller",
    "plug",
    "motor",
]
_WAYS: Mapping[str, Kind] = {"toggle": "switch", "float": "float switch", "timer": "timer"}
# Covered panels still get so much of the light. [-]
COVERED = 0.12


@dataclass(frozen=True)
class Stand:
    """How a kit stands: switched on, the pump plugged in, its panels covered."""

    on: bool = True
    plugged: bool = True
    covered: bool = False


@dataclass(frozen=True)
class Terminal:
    """A place for a lead.

    Attributes
    ----------
    code : str
        Its name.
    where : str
        Where a hand stands to reach it.
    before_main : bool
        Whether it stays joined to the source when the main switch is off.
    number : int
        Of what is so called, from 1; 0 for the only one.
    """

    code: str
    where: Where
    before_main: bool = False
    number: int = 0

    @property
    def id(self) -> str:
        """Its name with its number."""
        return f"{self.code}-{self.number}" if self.number else self.code


@dataclass(frozen=True)
class Place:
    """What stands at one place between source and pump, with the terminals at its far end on either rail.

    `between` are those between the panels of each string, from the minus up.
    """

    kind: Kind
    plus: Terminal | None = None
    minus: Terminal | None = None
    between: tuple[tuple[Terminal, ...], ...] = ()


class Bench:
    """A yard with its terminals."""

    def __init__(self, yard: Yard) -> None:
        self.yard = yard
        self.covered = yard.under(COVERED * yard.light_w_m2)

    @property
    def _kit(self) -> Json:
        return self.yard.true.kit

    @property
    def controller(self) -> bool:
        """Whether a pump controller stands in the box."""
        return bool(self._kit["source"]["type"] == "pv-controller")

    @property
    def source_v(self) -> float:
        """The source's open volts by its label. [V]"""
        source = self._kit["source"]
        if "module" in source:
            return float(source["module"]["voc_v"] * source.get("modules_in_series", 1))
        return float(source.get("open_v") or source.get("set_v"))

    @property
    def two_wires(self) -> bool:
        """Whether a meter of two leads reads anything behind the box."""
        return bool(self._kit["motor_wires"] == 2)

    def places(self) -> tuple[Place, ...]:
        """From the source to the pump."""
        source = self._kit["source"]
        at: Where = "panels" if "module" in source else "source"
        kind: Kind = "panels" if "module" in source else source["type"]
        found = [
            Place(kind, Terminal("source-plus", at, True), Terminal("source-minus", at, True), self._between()),
            Place("core", Terminal("lead-plus", "box", True), Terminal("lead-minus", "box", True)),
            Place("main", Terminal("kit-plus", "box")),
        ]
        if self._kit["fuse_a"]:
            found.append(Place("fuse", Terminal("fuse-out", "box")))
        many = len(self._kit["switches"]) > 1
        for number, way in enumerate(self._kit["switches"], start=1):
            found.append(Place(_WAYS[way["kind"]], Terminal("switch-out", "box", number=number if many else 0)))
        if self.controller:
            out = (Terminal("out-plus", "box"), Terminal("out-minus", "box")) if self.two_wires else (None, None)
            found.append(Place("controller", *out))
        cable = (Terminal("cable-plus", "pump"), Terminal("cable-minus", "pump")) if self.two_wires else (None, None)
        return (*found, Place("core", *cable), Place("plug", Terminal("motor-plus", "pump"), Terminal("motor-minus", "pump")), Place("motor"))  # fmt: skip

    def _between(self) -> tuple[tuple[Terminal, ...], ...]:
        source = self._kit["source"]
        series, strings = source.get("modules_in_series", 1), source.get("strings_in_parallel", 1)
        if "module" not in source or series < 2:
            return ()
        return tuple(
            tuple(Terminal("between", "panels", True, s * (series - 1) + p) for p in range(1, series))
            for s in range(strings)
        )

    def terminals(self) -> tuple[Terminal, ...]:
        """Every place for a lead, from the source to the pump; those of a controller's input among them."""
        found: list[Terminal] = []
        for place in self.places():
            found += [one for string in place.between for one in string]
            if place.kind == "controller":
                found += [Terminal("in-plus", "box"), Terminal("in-minus", "box")]
            found += [one for one in (place.plus, place.minus) if one is not None]
        return tuple(found)

    def node(self, ident: str, stand: Stand) -> str:
        """The circuit's node of a terminal, by its id."""
        back = "back" if self.controller else "0"
        yard, backwards = self.yard, self.yard.backwards
        leads = ("lead_plus", back) if stand.plugged else ("motor_plus", "motor_minus")
        in_plus, in_minus = ("0", "box") if yard.reversed_at_box else ("box", "0")
        fixed = {
            "source-plus": "sun", "source-minus": "0", "lead-plus": "up", "lead-minus": "0", "kit-plus": "up" if stand.on else "kit",
            "fuse-out": "fused", "in-plus": in_plus, "in-minus": in_minus, "out-plus": "out", "out-minus": back,
            "cable-plus": "lead_plus", "cable-minus": back, "motor-plus": leads[1 if backwards else 0],
            "motor-minus": leads[0 if backwards else 1], "switch-out": "w0",
        }  # fmt: skip
        if ident in fixed:
            return fixed[ident]
        code, _, number = ident.rpartition("-")
        if code == "switch-out":
            return f"w{int(number) - 1}"
        series = self._kit["source"]["modules_in_series"]
        string, place = divmod(int(number) - 1, series - 1)
        return f"s{string}_{place + 1}"

    def components(self, stand: Stand) -> list[Json]:
        """The circuit's parts as it stands."""
        yard = self.covered if stand.covered else self.yard
        back = "back" if self.controller else "0"
        parts = []
        for part in yard.components(yard.line_now()):
            moved = dict(part)
            if part["id"] == "fuse" and not stand.on:
                moved["a"] = "kit"
            if part["id"] == "brush" and not stand.plugged:
                moved["a"] = "motor_plus"
            if part["id"] == "pump" and not stand.plugged:
                moved |= {end: "motor_minus" for end in ("plus", "minus") if part[end] == back}
            parts.append(moved)
        return parts

    def is_live(self, terminal: Terminal, stand: Stand) -> bool:
        """Whether a terminal is joined to the source: an ohmmeter on it lies."""
        behind_plug = terminal.code in ("motor-plus", "motor-minus")
        return (stand.on and (stand.plugged or not behind_plug)) or (
            terminal.before_main and terminal.code not in ("source-minus", "lead-minus")
        )


def known_nodes(parts: Sequence[Json]) -> set[str]:
    """Every node that some parts stand between."""
    ends = ("a", "b", "plus", "minus", "anode", "cathode", "pv_plus", "pv_minus", "out_plus", "out_minus")
    return {part[end] for part in parts for end in ends if end in part}
