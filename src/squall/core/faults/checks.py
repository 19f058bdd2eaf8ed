"""What a person can look at, feel or measure on a kit: a table of checks, which kits have each, and what it takes.

Minutes, tools and the order of hands are common practice, no source. What makes it safe stands at the check itself.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal

from squall.core.faults.chain import Chain

# What a reading is of, in SI: volts, amps, ohms, m3/s, metres.
Kind = Literal["volts", "amps", "ohms", "flow", "length", "seconds"]
Power = Literal["off", "on", "any"]
Where = Literal["panels", "source", "box", "pump", "outlet", "line"]
Tool = Literal["meter", "clamp", "bucket", "watch", "gauge", "tape", "battery", "hose", "screwdriver"]
Caution = Literal[
    "", "live-panels", "short-panels", "battery-short", "dead-first", "unplug-ohms", "hands-out-first", "not-dry-long",
    "shut-briefly", "wet-hands", "spanner-dead", "amps-through-meter", "above-water", "height",
]  # fmt: skip


@dataclass(frozen=True)
class Check:
    """One thing to look at.

    Attributes
    ----------
    code : str
        Its name in the sums.
    kind : str or None
        What a reading is of, see ``squall.words.units.KINDS``; None for a look.
    answers : tuple[str, ...]
        Of a look; empty for a reading.
    minutes : float
        What it takes once there. [min]
    tools : tuple[str, ...]
        What to carry.
    where : str
        Where the person stands.
    caution : str
        What bites; empty if nothing does.
    power : str
        State of the switch while the hand goes there.
    can : Callable
        Whether a chain has it.
    a_panel : bool
        A list, one reading for each panel.
    in_hand : bool
        Whether the pump must lie in the hand: one that hangs in the water is lifted first.
    """

    code: str
    kind: Kind | None
    answers: tuple[str, ...]
    minutes: float
    tools: tuple[Tool, ...]
    where: Where
    caution: Caution
    power: Power
    can: Callable[[Chain], bool]
    a_panel: bool = False
    in_hand: bool = False


def _every(_chain: Chain) -> bool:
    return True


def _two_wires(chain: Chain) -> bool:
    return chain.two_wires


def _panels(chain: Chain) -> bool:
    return chain.panels > 0


def _controller(chain: Chain) -> bool:
    return chain.controller is not None


_METER: tuple[Tool, ...] = ("meter",)
_ALL = (
    Check("source-open-volts", "volts", (), 3.0, _METER, "source", "live-panels", "off", _every),
    Check("panel-open-volts", "volts", (), 5.0, _METER, "panels", "live-panels", "off", _panels, a_panel=True),
    Check("short-circuit-amps", "amps", (), 4.0, _METER, "panels", "short-panels", "off", _panels),
    Check("battery-rest-volts", "volts", (), 1.0, _METER, "source", "battery-short", "off", lambda c: c.battery is not None),
    Check("box-volts-on", "volts", (), 2.0, _METER, "box", "live-panels", "on", _every),
    Check("fuse-volts", "volts", (), 1.0, _METER, "box", "live-panels", "on", lambda c: c.fuse_a is not None),
    Check("switch-volts", "volts", (), 1.5, _METER, "box", "live-panels", "on", lambda c: bool(c.switches)),
    Check("pump-volts-on", "volts", (), 3.0, _METER, "pump", "wet-hands", "on", _two_wires),
    Check("pump-amps-on", "amps", (), 3.0, ("clamp",), "pump", "amps-through-meter", "on", _two_wires),
    Check("cable-loop-ohms", "ohms", (), 8.0, _METER, "line", "unplug-ohms", "off", _every),
    Check("motor-ohms", "ohms", (), 6.0, _METER, "pump", "unplug-ohms", "off", lambda c: c.brushed or c.motor_wires == 3),
    Check("fuse-ohms", "ohms", (), 3.0, _METER, "box", "unplug-ohms", "off", lambda c: c.fuse_a is not None),
    Check("switch-ohms", "ohms", (), 4.0, _METER, "box", "unplug-ohms", "off", lambda c: bool(c.switches)),
    Check("outlet-flow", "flow", (), 3.0, ("bucket", "watch"), "outlet", "", "on", _every),
    Check("bucket-flow-no-lift", "flow", (), 12.0, ("bucket", "watch", "hose"), "pump", "not-dry-long", "on", _every, in_hand=True),
    Check("shut-off-head", "length", (), 6.0, ("gauge",), "line", "shut-briefly", "on", lambda c: c.centrifugal and c.outlet_valve),
    Check("pumping-water-level-drop", "length", (), 5.0, ("tape",), "line", "above-water", "any", _every),
    Check("turns", None, ("turns", "hums", "still"), 0.5, (), "pump", "", "on", _every),
    Check("lamp", None, ("off", "ready", "running", "waiting", "dry", "fault"), 0.3, (), "box", "", "on", _controller),
    Check("rotor-by-hand", None, ("free", "drags", "stuck", "loose"), 8.0, ("screwdriver",), "pump", "hands-out-first", "off", _every, in_hand=True),
    Check("screen", None, ("clean", "blocked"), 4.0, (), "pump", "hands-out-first", "off", _every, in_hand=True),
    Check("hose", None, ("sound", "kinked", "leaks"), 4.0, (), "line", "", "any", _every),
    Check("panels", None, ("clear", "dirty", "shaded"), 1.0, (), "panels", "height", "any", _panels),
    Check("polarity", None, ("right", "reversed"), 2.0, (), "box", "dead-first", "off", _every),
    Check("air", None, ("none", "bubbles"), 2.0, (), "pump", "", "on", _every),
    Check("dial", None, ("full", "low"), 0.3, (), "box", "", "any", _controller),
    Check("float-by-hand", None, ("obeys", "dead"), 3.0, (), "line", "above-water", "on", lambda c: c.has_float),
    Check("probe", None, ("clean", "dirty"), 5.0, (), "pump", "hands-out-first", "off", lambda c: "probe" in c.inputs, in_hand=True),
    Check("outlet-valve-position", None, ("open", "shut"), 1.0, (), "outlet", "", "any", lambda c: c.outlet_valve),
    Check("check-valve", None, ("free", "stuck"), 6.0, ("screwdriver",), "line", "spanner-dead", "off", lambda c: c.check_valve),
    Check("known-good-source", None, ("runs", "weak", "dead"), 10.0, ("battery", "bucket"), "pump", "battery-short", "off", _two_wires, in_hand=True),
)  # fmt: skip
CHECKS: Mapping[str, Check] = {check.code: check for check in _ALL}


def checks_of(chain: Chain) -> list[Check]:
    """What this kit lets one look at, in the order of the table."""
    return [check for check in _ALL if check.can(chain)]


# Lifting a pump out of the water and letting it down again: common practice, no source. [min]
_LIFTING_MIN = 12.0


def minutes_of(check: Check, chain: Chain) -> float:
    """What a check takes on this kit once there: a submerged pump is lifted before a hand is laid on it. [min]"""
    return check.minutes + (_LIFTING_MIN if check.in_hand and chain.placement == "submersible" else 0.0)


def caution_of(check: Check, chain: Chain) -> Caution:
    """What bites at a check on this kit: panels' cautions only where there are panels, the battery's where it is one. [code]"""
    if check.caution == "live-panels" and chain.panels == 0:
        return "battery-short" if chain.battery is not None else ""
    return check.caution
