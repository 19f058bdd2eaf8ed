"""What is looked at or felt in a yard, by the words of the contract."""

from collections.abc import Mapping
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from squall.standins.yard import Yard

# By check: what is seen where all is well, and what each fault shows instead.
_SEEN: Mapping[str, tuple[str, Mapping[str, str]]] = {
    "rotor-by-hand": ("free", {"rotor-drags": "drags", "rotor-stuck": "stuck", "impeller-loose": "loose"}),
    "screen": ("clean", {"screen-blocked": "blocked"}),
    "hose": ("sound", {"hose-kinked": "kinked", "hose-leaks": "leaks"}),
    "panels": ("clear", {"panels-dirty": "dirty", "panel-shaded": "shaded"}),
    "polarity": ("right", {"polarity-reversed": "reversed", "phase-swapped": "reversed"}),
    "air": ("none", {"air-locked": "bubbles"}),
    "dial": ("full", {"dial-low": "low"}),
    "probe": ("clean", {"probe-dirty": "dirty"}),
    "outlet-valve-position": ("open", {"outlet-valve-shut": "shut"}),
    "check-valve": ("free", {"check-valve-stuck": "stuck"}),
    "known-good-source": ("runs", {
        "rotor-stuck": "dead", "winding-open": "dead", "impeller-loose": "weak", "screen-blocked": "weak", "valves-worn": "weak",
        "brushes-worn": "weak",
    }),
}  # fmt: skip
_LAMP: Mapping[str, str] = {
    "controller-waiting": "waiting", "probe-dirty": "dry", "rotor-stuck": "fault", "winding-open": "fault", "cable-open": "fault",
}  # fmt: skip
# Amps that nobody's motor hums at. [A]
_NO_AMPS = 0.02


def look(yard: "Yard", check: str) -> str | None:
    """What is seen at a check; None where it isn't looked at but measured."""
    if check == "turns":
        return _turns(yard)
    if check == "lamp":
        return _lamp(yard)
    if check == "float-by-hand":
        return _float(yard)
    if check not in _SEEN:
        return None
    sound, otherwise = _SEEN[check]
    return otherwise.get(yard.fault, sound)


def _turns(yard: "Yard") -> str:
    answer = yard.solve([])
    amps = abs(answer["component_a"].get("pump", 0.0))
    if amps < _NO_AMPS:
        return "still"
    if yard.fault == "phase-swapped":
        return "hums"
    if yard.fault == "rotor-stuck":
        return "still" if yard.true.kit["brushed"] else "hums"
    return "still" if answer["regime"].get("pump") == "stalled" else "turns"


def _lamp(yard: "Yard") -> str:
    least = yard.true.source["min_v"]
    if yard.exactly("box-volts-on") < 0.5 * least:
        return "off"
    if yard.fault == "controller-input-open" or yard.best_volts() < least:
        return "ready"
    return _LAMP.get(yard.fault, "running")


def _float(yard: "Yard") -> str:
    kit = yard.true.kit
    by_switch = yard.fault == "switch-open" and kit["switches"][0]["kind"] == "float"
    inputs = kit["inputs"]
    by_input = yard.fault == "controller-input-open" and "float" in inputs and (yard.heads or len(inputs) == 1)
    return "dead" if by_switch or by_input else "obeys"
