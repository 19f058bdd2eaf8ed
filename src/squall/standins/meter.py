"""A small meter with two leads, ranges, two sockets and a fuse of its own; and a lamp on two wires.

Amps put it across two terminals as a piece of wire: across a source its fuse goes. Ohms on a live part lie. A reading beyond the
range shows nothing but that.
"""

import random
from dataclasses import dataclass
from typing import Literal, get_args

from squall.core.faults.checks import Kind
from squall.standins.kits import Json
from squall.standins.terminals import Bench, Stand, Terminal, known_nodes
from squall.standins.yard import OPEN_OHM
from squall.sums.registry import run

Dial = Literal["v2", "v20", "v200", "a10", "r200", "r20k", "lamp"]
DIALS: tuple[Dial, ...] = get_args(Dial)
Socket = Literal["v", "a"]
SOCKETS: tuple[Socket, ...] = get_args(Socket)
# Of each place of the dial: what it reads, the most it shows, its last digit. [SI]
_RANGES: dict[Dial, tuple[Kind, float, float]] = {
    "v2": ("volts", 2.0, 0.001), "v20": ("volts", 20.0, 0.01), "v200": ("volts", 200.0, 0.1), "a10": ("amps", 10.0, 0.01),
    "r200": ("ohms", 200.0, 0.1), "r20k": ("ohms", 20_000.0, 10.0),
}  # fmt: skip
# Its shunt, its fuse, what it measures ohms with. [ohm], [A], [V], [ohm]
_SHUNT_OHM, FUSE_A, _OWN_V, _OWN_OHM = 0.02, 10.0, 0.5, 100.0
# Share and digits that a cheap one is off by. [-]
_SHARE, _DIGITS = {"volts": 0.005, "amps": 0.005, "ohms": 0.01}, 2.0
# On a source of fewer volts a range that shows tenths only tells too little of a drop. [V]
_LOW_V, _FINE_V = 20.0, 0.01
# The lamp at the kit's volts. [W]
LAMP_W = 20.0
# By the share of its watts: from here on it glows, burns bright, and burns out. [-]
_GLOWS, _BRIGHT, _BURNS_OUT = 0.06, 0.55, 2.2
Shows = Literal["value", "over", "open", "nothing", "blew", "stopped", "dark", "dim", "bright", "burnt-out"]


@dataclass(frozen=True)
class Reading:
    """What two leads showed.

    Attributes
    ----------
    shows : str
        A value, that it is over the range, an open loop, nothing (a wrong socket, or a fuse that went before), that the fuse
        went, that it was stopped; of a lamp how it burns.
    kind : str or None
        What a value is of.
    value : float
        In SI, of its kind.
    check : str or None
        The check that this is, where it is one.
    """

    shows: Shows
    kind: Kind | None = None
    value: float = 0.0
    check: str | None = None

    @property
    def unsafe(self) -> bool:
        """Whether it was an unsafe act."""
        return self.shows in ("blew", "stopped", "burnt-out")


@dataclass(frozen=True)
class Leads:
    """How the meter is set and where its two leads are."""

    dial: Dial
    socket: Socket
    red: Terminal
    black: Terminal


def read_leads(bench: Bench, stand: Stand, leads: Leads, fuse_whole: bool, throw: random.Random) -> Reading:
    """What a meter's two leads, or a lamp on two wires, show.

    Parameters
    ----------
    bench, stand : Bench, Stand
        The kit as it stands.
    leads : Leads
        The meter, and where its leads are.
    fuse_whole : bool
        Whether the meter's own fuse is.
    throw : random.Random
        What the meter adds.
    """
    parts = bench.components(stand)
    ends = [bench.node(one.id, stand) for one in (leads.red, leads.black)]
    joined = set(ends) <= known_nodes(parts) and ends[0] != ends[1]
    if leads.dial == "lamp":
        return _lamp(bench, parts, ends, joined)
    if leads.socket == "a":
        return _through(parts, ends, leads, joined, fuse_whole, throw)
    kind, _, _ = _RANGES[leads.dial]
    if kind == "amps":
        return Reading("nothing")
    if kind == "volts":
        volts = float(_solved(parts, ends)["probe_v"][0]) if joined else 0.0
        return _metered(volts, leads, throw, check_of(bench, stand, leads))
    if bench.is_live(leads.red, stand) or bench.is_live(leads.black, stand):
        return Reading("stopped")
    return _ohms(parts, ends, leads, throw, check_of(bench, stand, leads))


def _solved(parts: list[Json], ends: list[str]) -> Json:
    return run("circuit", {"components": parts, "probes": [ends]}).model_dump()


def _across(parts: list[Json], ends: list[str], ohm: float) -> float:
    """Amps through so much between two nodes. [A]"""
    bridge = {"id": "meter", "type": "resistor", "a": ends[0], "b": ends[1], "ohm": ohm}
    return float(_solved([*parts, bridge], ends)["component_a"]["meter"])


def _through(parts: list[Json], ends: list[str], leads: Leads, joined: bool, whole: bool, throw: random.Random) -> Reading:  # fmt: skip
    """A meter with its red lead in the amps' socket: a piece of wire, whatever the dial says."""
    if not whole:
        return Reading("nothing")
    amps = _across(parts, ends, _SHUNT_OHM) if joined else 0.0
    if abs(amps) > FUSE_A:
        return Reading("blew")
    if leads.dial != "a10":
        return Reading("nothing")
    codes = {leads.red.code, leads.black.code}
    short = codes <= {"source-plus", "lead-plus", "source-minus", "lead-minus"} and len(codes) == 2
    return _metered(amps, leads, throw, "short-circuit-amps" if short and joined else None)


def _ohms(parts: list[Json], ends: list[str], leads: Leads, throw: random.Random, check: str | None) -> Reading:
    if ends[0] == ends[1]:
        return _metered(0.0, leads, throw, check)
    if not set(ends) <= known_nodes(parts):
        return Reading("open", "ohms", OPEN_OHM, check)
    own = {
        "id": "meter",
        "type": "battery",
        "plus": ends[0],
        "minus": ends[1],
        "open_v": _OWN_V,
        "internal_ohm": _OWN_OHM,
    }
    found = _solved([*parts, own], ends)
    amps = float(found["component_a"]["meter"])
    ohm = OPEN_OHM if amps < 1e-6 else float(found["probe_v"][0]) / amps
    if ohm >= 0.5 * OPEN_OHM:
        return Reading("open", "ohms", OPEN_OHM, check)
    return _metered(max(ohm, 0.0), leads, throw, check)


def _metered(value: float, leads: Leads, throw: random.Random, check: str | None) -> Reading:
    kind, most, digit = _RANGES[leads.dial]
    off = value * (1.0 + throw.gauss(0.0, _SHARE[kind])) + throw.uniform(-_DIGITS, _DIGITS) * digit * (value != 0.0)
    if abs(off) > most:
        return Reading("over", kind)
    shown = round(round(off / digit) * digit, 3)
    return Reading("value", kind, max(shown, 0.0) if kind == "ohms" else shown, check)


def _lamp(bench: Bench, parts: list[Json], ends: list[str], joined: bool) -> Reading:
    volts = float(bench.yard.true.motor["rated_v"])
    if not joined:
        return Reading("dark")
    ohm = volts**2 / LAMP_W
    watts = _across(parts, ends, ohm) ** 2 * ohm / LAMP_W
    if watts > _BURNS_OUT:
        return Reading("burnt-out")
    return Reading("bright" if watts >= _BRIGHT else "dim" if watts >= _GLOWS else "dark")


# Pairs of terminals that a check is read between, red first: with the power on, and off.
_VOLTS_ON = {
    ("kit-plus", "fuse-out"): "fuse-volts", ("lead-plus", "fuse-out"): "fuse-volts", ("in-plus", "in-minus"): "box-volts-on",
    ("motor-plus", "motor-minus"): "pump-volts-on",
}  # fmt: skip
_OHMS_OFF = {("kit-plus", "fuse-out"): "fuse-ohms"}
_SOURCE_ALONE = {(plus, minus) for plus in ("source-plus", "lead-plus") for minus in ("source-minus", "lead-minus")}


def check_of(bench: Bench, stand: Stand, leads: Leads) -> str | None:
    """The check that two leads make on volts or ohms, the same way round; None for any other pair, or with covered panels. [code]"""
    if stand.covered:
        return None
    (kind, _, digit), pair = _RANGES[leads.dial], (leads.red.id, leads.black.id)
    if kind == "volts" and digit > _FINE_V and bench.source_v < _LOW_V:
        return None
    before, after = _switch_ends(bench)
    if kind == "volts" and stand.on and stand.plugged:
        if pair == (after, "lead-minus") and not bench.controller:
            return "box-volts-on"
        if pair == (before, after) and bench.yard.true.kit["switches"]:
            return "switch-volts"
        found = _VOLTS_ON.get(pair)
        return None if found == "pump-volts-on" and not bench.two_wires else found
    if kind == "volts" and not stand.on and pair in _SOURCE_ALONE:
        return "source-open-volts"
    if kind == "ohms" and not stand.on:
        if pair in ((before, after), (after, before)) and bench.yard.true.kit["switches"]:
            return "switch-ohms"
        if set(pair) == {"motor-plus", "motor-minus"} and not stand.plugged:
            brushed = bench.yard.true.kit["brushed"] or not bench.two_wires
            return "motor-ohms" if brushed else None
        return _OHMS_OFF.get(pair) or _OHMS_OFF.get((pair[1], pair[0]))
    return None


def _switch_ends(bench: Bench) -> tuple[str, str]:
    """Terminals before the first switch of the way and behind the last. [ids]"""
    ways = [one.id for one in bench.terminals() if one.code == "switch-out"]
    first = "fuse-out" if bench.yard.true.kit["fuse_a"] else "kit-plus"
    return first, ways[-1] if ways else first
