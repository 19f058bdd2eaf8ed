"""A yard: the true kit's circuit, its readings by probes, its looks; written down as a person with a cheap meter does.

Nothing of :mod:`squall.core.faults` is used here: what Fault believes is held against another way of working.
"""

import random
from typing import Any

from squall.standins.broken import Broken, broken
from squall.standins.kits import Json
from squall.standins.looks import look
from squall.sums.registry import run

# The dark part of a shaded panel gets so much of the light, from the worst to the least.
_DARKEST, _DIMMEST = 0.05, 0.30
# An open loop on the ohmmeter, as it is written down. [ohm]
OPEN_OHM = 1e6
# More lift than any end has: it turns and moves nothing. [m]
_OUT_OF_REACH_M = 1900.0
# A cheap meter: a share of the reading and a digit; a bucket. [-], [check's unit]
_METER = {"V": (0.005, 0.01), "A": (0.005, 0.01), "ohm": (0.01, 0.1), "L/min": (0.03, 0.02), "m": (0.02, 0.05)}
LOOK_WRONG = 0.04


def _resistor(ident: str, a: str, b: str, ohm: float) -> Json:
    return {"id": ident, "type": "resistor", "a": a, "b": b, "ohm": ohm}


class Yard:
    """One kit with one fault in some light and air.

    Parameters
    ----------
    stated : dict
        The kit as its owner tells it.
    fault : str
        What is wrong with it, or ``none``.
    light_w_m2, air_c : float
        The moment. [W/m2], [°C]
    throw : random.Random
        Chance: how far the kit is off, how bad the fault is, what a meter adds.
    exact : bool
        The kit as stated, the fault half bad.
    """

    def __init__(
        self, stated: Json, fault: str, light_w_m2: float, air_c: float, throw: random.Random, exact: bool = False
    ) -> None:
        self.true: Broken = broken(stated, fault, None if exact else throw)
        self.light_w_m2 = light_w_m2
        self.cell_c = air_c + 0.03 * light_w_m2
        self.throw = throw
        # Which of two it is: a panel bypassed or its string open, the float or another input.
        self.heads = throw.random() < 0.5
        self._read: dict[str, Any] = {}

    @classmethod
    def of(cls, true: Broken, light_w_m2: float, air_c: float, throw: random.Random) -> "Yard":
        """A yard of a kit that is known as it truly is."""
        yard = cls(true.kit, "none", light_w_m2, air_c, throw, exact=True)
        yard.true = true
        return yard

    @property
    def fault(self) -> str:
        """What is wrong."""
        return self.true.fault

    # The circuit.

    def _panels(self) -> list[Json]:
        source = self.true.source
        series, strings = source.get("modules_in_series", 1), source.get("strings_in_parallel", 1)
        parts: list[Json] = []
        for s in range(strings):
            for p in range(series):
                top = "sun" if p == series - 1 else f"s{s}_{p + 1}"
                low = "0" if p == 0 else f"s{s}_{p}"
                parts += self._panel(f"panel{s}_{p}", top, low, wrong=s == 0 and p == 0)
        return parts

    def _panel(self, ident: str, top: str, low: str, *, wrong: bool) -> list[Json]:
        module, series = self.true.source["module"], self.true.source.get("modules_in_series", 1)
        light = self.light_w_m2 * self.true.light_share
        panel = {"type": "pv", "module": module, "cell_temperature_c": self.cell_c, "irradiance_w_per_m2": light}
        if wrong and self.fault == "panel-lost":
            return [_resistor("bypass", top, low, 0.05)] if series > 1 and self.heads else []
        if wrong and self.fault == "panel-shaded":
            return self._shaded(panel, top, low)
        if wrong and self.fault == "panel-reversed":
            top, low = low, top
        return [{"id": ident, "plus": top, "minus": low, **panel}]

    def _shaded(self, panel: Json, top: str, low: str) -> list[Json]:
        """Two parts in a row, the dark one under its bypass."""
        cells = panel["module"]["cells"]
        dark = round(cells * (0.5 if cells <= 40 else 1.0 / 3.0))
        dim = panel["irradiance_w_per_m2"] * self.true.between(_DARKEST, _DIMMEST)

        def part(ident: str, count: int, plus: str, minus: str, light: float) -> Json:
            of = count / cells
            module = panel["module"]
            less = module | {"voc_v": module["voc_v"] * of, "vmp_v": module["vmp_v"] * of, "cells": count}
            return panel | {"id": ident, "plus": plus, "minus": minus, "module": less, "irradiance_w_per_m2": light}

        return [
            part("bright", cells - dark, top, "half", panel["irradiance_w_per_m2"]),
            part("dark", dark, "half", low, dim),
            {"id": "bypass", "type": "diode", "anode": low, "cathode": "half", "saturation_a": 1e-7, "slope_v": 0.028},
        ]

    def _source(self) -> list[Json]:
        source = self.true.source
        ends = {"plus": "sun", "minus": "0"}
        if self.fault == "supply-off":
            return [{"id": "plug", "type": "battery", "open_v": 0.0, "internal_ohm": 1.0, **ends}]
        if source["type"] in ("battery", "supply"):
            return [{"id": "plug", **source, **ends}]
        return self._panels()

    def components(self, line: Json) -> list[Json]:
        """The whole kit on a line, from the source to the pump; the box's node is ``box``."""
        kit, fault = self.true.kit, self.fault
        parts = [*self._source(), _resistor("lead", "sun", "up", kit["source_cable_ohm"])]
        blown = fault == "fuse-blown"
        if kit["fuse_a"]:
            parts.append({"id": "fuse", "type": "fuse", "a": "up", "b": "fused", "rating_a": 500.0, "blown": blown})
        else:
            parts.append(_resistor("fuse", "up", "fused", 0.0))
        node = "fused"
        for number, _ in enumerate(kit["switches"]):
            closed = not (fault == "switch-open" and number == 0)
            parts.append({"id": f"way{number}", "type": "switch", "a": node, "b": f"w{number}", "closed": closed})
            node = f"w{number}"
        parts.append(_resistor("strip", node, "box", 0.0))
        out, back = self._box(parts)
        return [*parts, *self._pump(line, out, back)]

    def _box(self, parts: list[Json]) -> tuple[str, str]:
        source = self.true.source
        if source["type"] != "pv-controller":
            return "box", "0"
        stopped = self.fault in ("controller-input-open", "controller-waiting", "probe-dirty") or (
            self.fault == "polarity-reversed" and self.true.kit["motor_wires"] == 3
        )
        limits = {key: source[key] for key in ("efficiency", "min_v", "max_v", "out_max_v")}
        ends = {"pv_plus": "box", "pv_minus": "0", "out_plus": "out", "out_minus": "back"}
        parts.append({"id": "controller", "type": "controller", "runs": not stopped, **ends, **limits})
        return "out", "back"

    def _pump(self, line: Json, out: str, back: str) -> list[Json]:
        true, parts = self.true, []
        if self.fault != "cable-open":
            parts.append(_resistor("core", out, "lead_plus", true.kit["pump_cable_ohm"] + true.joint_ohm))
        backwards = self.backwards
        if self.fault == "winding-open" or (backwards and not true.kit["brushed"]):
            return parts
        parts.append(_resistor("brush", "lead_plus", "winding", true.brush_ohm))
        plus, minus = (back, "winding") if backwards else ("winding", back)
        locked, motor = self.fault == "rotor-stuck", dict(true.motor)
        if self.fault in ("impeller-loose", "air-locked"):
            motor["points"] = [[q, h, motor["no_load_a"]] for q, h, _ in motor["points"]]
        return [
            *parts, {"id": "pump", "type": "pump", "plus": plus, "minus": minus, "motor": motor, "locked": locked, **line},
        ]  # fmt: skip

    @property
    def backwards(self) -> bool:
        """Whether plus and minus are swapped at the pump's own leads."""
        return self.fault == "polarity-reversed" and self.true.kit["motor_wires"] == 2

    @property
    def moves_nothing(self) -> bool:
        """Whether it may turn, but no water goes anywhere."""
        return self.fault in ("impeller-loose", "air-locked", "phase-swapped") or self.fault == "polarity-reversed"

    def solve(self, probes: list[list[str]], line: Json | None = None) -> Json:
        """The circuit's answer, as its sum gives it."""
        parts = self.components(self.line_now() if line is None else line)
        return run("circuit", {"components": parts, "probes": probes}).model_dump()

    def line_now(self) -> Json:
        """The line as the pump feels it: out of its reach where it moves nothing."""
        return {"static_head_m": _OUT_OF_REACH_M, "pipes": []} if self.moves_nothing else self.true.line()

    def litres(self, line: Json | None = None) -> float:
        """What the pump gives. [L/min]"""
        answer = self.solve([], line)
        flow = answer["flow_l_per_min"].get("pump", 0.0)
        return float(answer["flow_at_least_l_per_min"].get("pump", 0.0) if flow is None else flow)

    def probe(self, plus: str, minus: str) -> float:
        """A meter between two nodes. [V]"""
        return float(self.solve([[plus, minus]])["probe_v"][0])

    def source_alone(self, ohm: float) -> Json:
        """The source with nothing but so much between its leads. [ohm]"""
        parts = [*self._source(), _resistor("meter", "sun", "0", ohm)]
        return run("circuit", {"components": parts, "probes": [["sun", "0"]]}).model_dump()

    def best_volts(self) -> float:
        """The array's best volts, alone. [V]"""
        source = self.true.source
        series = source.get("modules_in_series", 1)
        if self.fault == "panel-lost" and source.get("strings_in_parallel", 1) == 1 and series > 1:
            series -= 1
        return float(self._curve(series)["vmp_v"])

    def _curve(self, series: int) -> Json:
        light = self.light_w_m2 * self.true.light_share
        module = self.true.source["module"]
        return run("pv-curve", {
            "module": module, "modules_in_series": series, "irradiance_w_per_m2": light, "cell_temperature_c": self.cell_c,
        }).model_dump()  # fmt: skip

    # What a perfect meter reads.

    def _measure(self, check: str) -> Any:
        true, kit = self.true, self.true.kit
        match check:
            case "source-open-volts":
                return self.source_alone(1e7)["probe_v"][0]
            case "panel-open-volts":
                return self._each_panel()
            case "short-circuit-amps":
                return self.source_alone(0.01)["component_a"]["meter"]
            case "battery-rest-volts":
                return true.source["open_v"]
            case "box-volts-on":
                return -self.probe("box", "0") if self.reversed_at_box else self.probe("box", "0")
            case "fuse-volts":
                return self.probe("up", "fused")
            case "switch-volts":
                return self.probe("fused", "box")
            case "pump-volts-on":
                return self._pump_volts()
            case "pump-amps-on":
                return self.solve([])["component_a"].get("pump", 0.0)
            case "cable-loop-ohms":
                return OPEN_OHM if self.fault == "cable-open" else kit["pump_cable_ohm"] + true.joint_ohm
            case "motor-ohms":
                return OPEN_OHM if self.fault == "winding-open" else true.motor["resistance_ohm"] + true.brush_ohm
            case "fuse-ohms":
                return OPEN_OHM if self.fault == "fuse-blown" else 0.01
            case "switch-ohms":
                return OPEN_OHM if self.fault == "switch-open" else 0.01
            case "outlet-flow":
                return 0.0 if self.moves_nothing else self.litres() * (1.0 - true.leak)
            case "bucket-flow-no-lift":
                return self._in_a_bucket()
            case "shut-off-head":
                return self._shut_off_head()
            case _:
                return true.between(0.5, 6.0) if self.fault == "water-fallen" else 0.0

    @property
    def reversed_at_box(self) -> bool:
        """Whether plus and minus are swapped at the controller's input."""
        return self.fault == "polarity-reversed" and self.true.kit["motor_wires"] == 3

    def _each_panel(self) -> list[float]:
        source = self.true.source
        one = float(self._curve(1)["voc_v"])
        volts = [one] * (source.get("modules_in_series", 1) * source.get("strings_in_parallel", 1))
        first = {"panel-lost": 0.0, "panel-reversed": -one, "panel-shaded": one * 0.96}
        volts[0] = first.get(self.fault, one)
        return volts

    def _pump_volts(self) -> float:
        if self.fault == "cable-open":
            return 0.0
        back = "back" if self.true.source["type"] == "pv-controller" else "0"
        volts = self.probe("lead_plus", back)
        return -volts if self.backwards else volts

    def _in_a_bucket(self) -> float:
        if self.moves_nothing and self.fault != "air-locked":
            return 0.0
        if self.fault == "air-locked":
            # Under water in a bucket the air goes.
            freed = Yard(
                self.true.kit, "none", self.light_w_m2, self.cell_c - 0.03 * self.light_w_m2, self.throw, exact=True
            )
            return freed.litres(freed.true.line(pipes=False, lift=False))
        return self.litres(self.true.line(pipes=False, lift=False))

    def _shut_off_head(self) -> float:
        if self.moves_nothing:
            return 0.0
        if self.fault in ("cable-open", "winding-open"):
            return 0.0
        back = "back" if self.true.source["type"] == "pv-controller" else "0"
        answer = self.solve([["winding", back]], {"static_head_m": _OUT_OF_REACH_M, "pipes": []})
        if answer["regime"].get("pump") in (None, "locked", "stalled"):
            return 0.0
        motor = self.true.motor
        speed = answer["probe_v"][0] - answer["component_a"]["pump"] * motor["resistance_ohm"]
        rated = motor["rated_v"] - motor["points"][0][2] * motor["resistance_ohm"]
        return float(motor["points"][0][1] * max(speed / rated, 0.0) ** 2)

    def exactly(self, check: str) -> Any:
        """What a perfect meter or eye would write down, in the check's own unit."""
        if check not in self._read:
            seen = look(self, check)
            self._read[check] = self._measure(check) if seen is None else seen
        return self._read[check]

    def read(self, check: Json) -> Json:
        """One check as a person writes it down: `check` as the sum ``checks`` gives it; the answer as ``diagnose`` takes it."""
        code, value = check["check"], self.exactly(check["check"])
        if check["answers"]:
            if self.throw.random() < LOOK_WRONG:
                value = self.throw.choice([answer for answer in check["answers"] if answer != value])
            return {"check": code, "answer": value}
        if isinstance(value, list):
            return {"check": code, "value": [self._metered(one, "V") for one in value]}
        return {"check": code, "value": self._metered(value, check["unit"])}

    def under(self, light_w_m2: float) -> "Yard":
        """The same kit with the same fault in another light, in the same heat. [W/m2]"""
        other = Yard.of(self.true, light_w_m2, self.cell_c - 0.03 * self.light_w_m2, self.throw)
        other.heads = self.heads
        return other

    def _metered(self, value: float, unit: str) -> float:
        if value >= OPEN_OHM:
            return OPEN_OHM
        share, digit = _METER[unit]
        noisy = value * (1.0 + self.throw.gauss(0.0, share)) + self.throw.uniform(-2.0, 2.0) * digit
        return round(noisy if unit in ("V", "A") else max(noisy, 0.0), 2)
