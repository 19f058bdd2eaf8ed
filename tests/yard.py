"""A yard apart from Fault: a kit whose parts are off by a few per cent, with one fault, read through the circuit's own sum.

Nothing of :mod:`squall.core.faults` is used: every reading is a probe on the circuit that the fault has changed, every look is the
sentence of the contract. Kits and faults are thrown by chance.
"""

import copy
import random
from typing import Any

from squall.sums.registry import run

Json = dict[str, Any]
MODULE = {
    "voc_v": 22.6, "isc_a": 6.42, "vmp_v": 18.6, "imp_a": 5.93, "cells": 36,
    "isc_percent_per_k": 0.05, "voc_percent_per_k": -0.31,
}  # fmt: skip
BIG = {
    "voc_v": 45.2, "isc_a": 5.6, "vmp_v": 37.0, "imp_a": 5.2, "cells": 72,
    "isc_percent_per_k": 0.05, "voc_percent_per_k": -0.3,
}  # fmt: skip
SMALL_END = {
    "kind": "centrifugal", "rated_v": 12.0, "resistance_ohm": 0.42, "no_load_a": 0.35, "max_v": 30.0,
    "points": [[0, 12.5, 2.9], [8.8, 10.57, 4.5], [17.6, 5.3, 5.83], [24, 0.0, 6.2]],
}  # fmt: skip
LARGE_END = {
    "kind": "centrifugal", "rated_v": 36.0, "resistance_ohm": 0.8, "no_load_a": 0.4,
    "points": [[0, 34, 3.0], [10, 27, 4.2], [20, 13, 5.0], [26, 0, 5.2]],
}  # fmt: skip
MEMBRANE = {
    "kind": "displacement", "rated_v": 24.0, "resistance_ohm": 0.6, "no_load_a": 0.5,
    "points": [[7.5, 0, 1.5], [6.8, 15, 2.6], [6.2, 30, 3.9], [5.6, 45, 5.2]],
}  # fmt: skip
HOSE = {"length_m": 64.0, "inner_diameter_mm": 19.1, "roughness_mm": 0.007, "minor_loss_k": 6.0}
PIPE = {"length_m": 40.0, "inner_diameter_mm": 26.6, "roughness_mm": 0.007, "minor_loss_k": 6.0}
THIN = {"length_m": 80.0, "inner_diameter_mm": 15.8, "roughness_mm": 0.007, "minor_loss_k": 4.0}


def _kit(source: Json, motor: Json, lift: float, pipe: Json, **more: Any) -> Json:
    return {
        "source": source, "pump_cable_ohm": 0.15, "fuse_a": 10.0, "switches": [{"name": "main", "kind": "toggle"}],
        "motor": motor, "motor_wires": 2, "brushed": True, "placement": "submersible", "static_head_m": lift, "pipes": [pipe],
        "check_valve": True, "outlet_valve": True,
    } | more  # fmt: skip


KITS = (
    _kit({"type": "battery", "open_v": 12.7, "internal_ohm": 0.03}, SMALL_END, 6.0, HOSE),
    _kit({"type": "pv", "module": MODULE, "strings_in_parallel": 2}, SMALL_END, 6.0, HOSE,
         switches=[{"name": "float", "kind": "float"}]),
    _kit({"type": "pv-controller", "module": BIG, "modules_in_series": 2, "efficiency": 0.95, "min_v": 30.0, "max_v": 110.0,
          "out_max_v": 40.0}, LARGE_END, 14.0, PIPE, inputs=["float", "probe"], motor_wires=3, brushed=False),
    _kit({"type": "pv", "module": MODULE, "modules_in_series": 2}, MEMBRANE, 25.0, THIN, check_valve=False, outlet_valve=False),
    _kit({"type": "supply", "set_v": 12.5, "max_a": 8.0}, SMALL_END, 6.0, HOSE, placement="bilge", fuse_a=None,
         switches=[{"name": "timer", "kind": "timer"}], brushed=False),
    _kit({"type": "pv-controller", "module": MODULE, "modules_in_series": 2, "strings_in_parallel": 2, "efficiency": 0.93,
          "min_v": 22.0, "max_v": 60.0, "out_max_v": 38.0}, LARGE_END, 12.0, PIPE, inputs=["float"], brushed=False),
)  # fmt: skip


class Yard:
    """One kit with one fault, as it really stands there."""

    def __init__(
        self, kit: Json, fault: str, light: float, air: float, throw: random.Random, exact: bool = False
    ) -> None:
        self.stated, self.fault, self.light, self.throw = kit, fault, light, throw
        self.cell = air + 0.03 * light
        self.kit = copy.deepcopy(kit)
        self.exact = exact
        if not exact:
            self._off_by_a_little()
        self.severity = 0.5 if exact else throw.random()
        self.dead_float = throw.random() < 0.5
        self._as_read: dict[str, Any] = {}
        self.more: Json = {"up": 0.0, "down": 0.0, "leak": 0.0, "k": 0.0, "screen": 0.0, "brush": 0.0}
        self._break()

    def _off_by_a_little(self) -> None:
        spread = lambda share: 1.0 + self.throw.gauss(0.0, share)  # noqa: E731
        head, amps = spread(0.03), spread(0.03)
        motor = self.kit["motor"]
        points = motor["points"]
        motor["points"] = [
            [q * (1.0 if motor["kind"] == "centrifugal" else head), h * head, max(a * amps, motor["no_load_a"])]
            for q, h, a in points
        ]
        self.kit["pump_cable_ohm"] *= spread(0.05)
        self.kit["static_head_m"] += self.throw.gauss(0.0, 0.2)
        source = self.kit["source"]
        if "module" in source:
            volts, light = spread(0.01), spread(0.02)
            for key in ("voc_v", "vmp_v"):
                source["module"] = source["module"] | {key: source["module"][key] * volts}
            for key in ("isc_a", "imp_a"):
                source["module"] = source["module"] | {key: source["module"][key] * light}
        if source["type"] == "battery":
            source["internal_ohm"] *= max(spread(0.25), 0.3)

    def _break(self) -> None:
        """What the contract says of each fault, on the kit itself."""
        at, kit = self.severity, self.kit
        between = lambda low, high: low + (high - low) * at  # noqa: E731
        motor, source = kit["motor"], kit["source"]
        if self.fault == "joint-resistance":
            self.more["down"] = between(0.3, 3.0)
        elif self.fault == "battery-flat":
            source["open_v"] *= between(0.75, 0.93)
        elif self.fault == "battery-weak":
            source["internal_ohm"] *= between(3.0, 10.0)
        elif self.fault == "dial-low":
            source["out_max_v"] *= between(0.15, 0.5)
        elif self.fault == "brushes-worn":
            self.more["brush"] = between(0.3, 2.0)
        elif self.fault == "rotor-drags":
            more = motor["no_load_a"] * (between(1.3, 3.0) - 1.0)
            motor["no_load_a"] += more
            self.dragged = more
            motor["points"] = [[q, h, a + more] for q, h, a in motor["points"]]
        elif self.fault == "impeller-worn":
            motor["points"] = [[q, h * (1.0 - between(0.1, 0.45)), a] for q, h, a in motor["points"]]
        elif self.fault == "valves-worn":
            motor["points"] = [[q * (1.0 - between(0.2, 0.6)), h, a] for q, h, a in motor["points"]]
        elif self.fault == "hose-leaks":
            self.more["leak"] = between(0.3, 0.9)
        elif self.fault in ("screen-blocked", "hose-kinked", "check-valve-stuck", "outlet-valve-shut"):
            # A loss that leaves 2 to 40 % of a flow of 10 L/min at 10 m.
            left = between(0.4, 0.02) * 10.0 / 60_000.0
            self.more["screen" if self.fault == "screen-blocked" else "k"] = 10.0 / left**2
        elif self.fault == "water-fallen":
            kit["static_head_m"] += between(0.5, 6.0)

    def _line(self, pipes: bool, lift: bool, screen: bool, shut: bool = False) -> Json:
        kit = self.kit
        own = [dict(pipe) for pipe in kit["pipes"]] if pipes else []
        k = (self.more["k"] if pipes else 0.0) + (self.more["screen"] if screen else 0.0) + (1e15 if shut else 0.0)
        # A short wide piece carries the loss: h = K v2 / 2g; K of 10,000 at most each.
        if k > 0.0:
            bore = 0.02
            area = 3.141592653589793 * bore**2 / 4.0
            whole = k * 2.0 * 9.80665 * area**2
            while whole > 10_000.0 and bore > 0.002:
                bore *= 0.8
                area = 3.141592653589793 * bore**2 / 4.0
                whole = k * 2.0 * 9.80665 * area**2
            own.append(
                {
                    "length_m": 0.0,
                    "inner_diameter_mm": bore * 1000.0,
                    "roughness_mm": 0.0,
                    "minor_loss_k": min(whole, 10_000.0),
                }
            )
        return {"static_head_m": max(kit["static_head_m"], 0.0) if lift else 0.0, "pipes": own}

    def _panels(self) -> list[Json]:
        """One component a panel, between its own nodes."""
        source = self.kit["source"]
        series, strings = source.get("modules_in_series", 1), source.get("strings_in_parallel", 1)
        light = self.light * (1.0 - (0.15 + 0.35 * self.severity) if self.fault == "panels-dirty" else 1.0)
        parts = []
        for s in range(strings):
            for p in range(series):
                top = "sun_plus" if p == series - 1 else f"s{s}_{p + 1}"
                low = "0" if p == 0 else f"s{s}_{p}"
                first = s == 0 and p == 0
                if first and self.fault == "panel-lost":
                    if series > 1 and self.dead_float:
                        parts.append({"id": "bypass", "type": "resistor", "a": top, "b": low, "ohm": 0.05})
                    continue
                if first and self.fault == "panel-reversed":
                    top, low = low, top
                panel = {"type": "pv", "module": source["module"], "cell_temperature_c": self.cell}
                if first and self.fault == "panel-shaded":
                    parts += self._shaded(panel, top, low, light)
                    continue
                parts.append({"id": f"panel{s}_{p}", "plus": top, "minus": low, "irradiance_w_per_m2": light, **panel})
        return parts

    def _shaded(self, panel: Json, top: str, low: str, light: float) -> list[Json]:
        cells = panel["module"]["cells"]
        share = 0.5 if cells <= 40 else 1.0 / 3.0
        dark = round(cells * share)

        def part(count: int) -> Json:
            of = count / cells
            module = panel["module"] | {
                "voc_v": panel["module"]["voc_v"] * of,
                "vmp_v": panel["module"]["vmp_v"] * of,
                "cells": count,
            }
            return panel | {"module": module}

        return [
            {"id": "bright", "plus": top, "minus": "half", "irradiance_w_per_m2": light, **part(cells - dark)},
            {
                "id": "dark",
                "plus": "half",
                "minus": low,
                "irradiance_w_per_m2": light * (0.05 + 0.25 * self.severity),
                **part(dark),
            },
            {"id": "bypass", "type": "diode", "anode": low, "cathode": "half", "saturation_a": 1e-7, "slope_v": 0.028},
        ]

    def _source(self) -> list[Json]:
        source = self.kit["source"]
        if source["type"] == "battery":
            return [
                {
                    "id": "bank",
                    "type": "battery",
                    "plus": "sun_plus",
                    "minus": "0",
                    "open_v": source["open_v"],
                    "internal_ohm": source["internal_ohm"],
                }
            ]
        if source["type"] == "supply":
            if self.fault == "supply-off":
                return [
                    {
                        "id": "plug",
                        "type": "battery",
                        "plus": "sun_plus",
                        "minus": "0",
                        "open_v": 0.0,
                        "internal_ohm": 1.0,
                    }
                ]
            return [
                {
                    "id": "plug",
                    "type": "supply",
                    "plus": "sun_plus",
                    "minus": "0",
                    "set_v": source["set_v"],
                    "max_a": source["max_a"],
                }
            ]
        return self._panels()

    def components(self, line: Json) -> list[Json]:
        """The whole kit on a line, between `sun_plus`, `box`, `out` and the pump."""
        kit, fault = self.kit, self.fault
        parts = self._source()
        parts.append(
            {"id": "lead", "type": "resistor", "a": "sun_plus", "b": "up", "ohm": kit.get("source_cable_ohm", 0.05)}
        )
        node = "up"
        if kit["fuse_a"]:
            parts.append(
                {
                    "id": "fuse",
                    "type": "fuse",
                    "a": node,
                    "b": "fused",
                    "rating_a": 500.0,
                    "blown": fault == "fuse-blown",
                }
            )
            node = "fused"
        for number, _ in enumerate(kit["switches"]):
            closed = not (fault == "switch-open" and number == 0)
            parts.append({"id": f"way{number}", "type": "switch", "a": node, "b": f"w{number}", "closed": closed})
            node = f"w{number}"
        self.box = node
        back, out = "0", node
        source = kit["source"]
        if source["type"] == "pv-controller":
            stopped = fault in ("controller-input-open", "controller-waiting", "probe-dirty")
            plus, minus = (node, "0")
            if fault == "polarity-reversed":
                stopped = True
            parts.append({
                "id": "controller", "type": "controller", "pv_plus": plus, "pv_minus": minus, "out_plus": "out", "out_minus": "back",
                "efficiency": source["efficiency"], "min_v": source["min_v"], "max_v": source["max_v"], "out_max_v": source["out_max_v"],
                "runs": not stopped,
            })  # fmt: skip
            out, back = "out", "back"
        ohms = kit["pump_cable_ohm"] + self.more["down"]
        if fault != "cable-open":
            parts.append({"id": "core", "type": "resistor", "a": out, "b": "pump_plus", "ohm": ohms})
        if fault != "winding-open":
            plus, minus = "pump_plus", back
            if self.more["brush"]:
                parts.append(
                    {"id": "brush", "type": "resistor", "a": "pump_plus", "b": "winding", "ohm": self.more["brush"]}
                )
                plus = "winding"
            if fault == "polarity-reversed" and source["type"] != "pv-controller":
                if not kit["brushed"]:
                    return parts
                plus, minus = minus, plus
            parts.append({
                "id": "pump", "type": "pump", "plus": plus, "minus": minus, "motor": self._motor(), "locked": fault == "rotor-stuck", **line,
            })  # fmt: skip
        self.back = back
        return parts

    def _motor(self) -> Json:
        motor = dict(self.kit["motor"])
        if self.fault in ("impeller-loose", "air-locked"):
            motor["points"] = [[q, h, motor["no_load_a"]] for q, h, _ in motor["points"]]
        return motor

    def solve(self, probes: list[list[str]], line: Json | None = None) -> Json:
        """The circuit's answer."""
        chosen = line
        if chosen is None:
            lifted = self.fault in ("impeller-loose", "air-locked", "phase-swapped")
            chosen = {"static_head_m": 500.0, "pipes": []} if lifted else self._line(pipes=True, lift=True, screen=True)
        self.asked = {"components": self.components(chosen), "probes": probes}
        return run("circuit", self.asked).model_dump()

    def litres(self, line: Json | None = None) -> float:
        """Flow of the pump. [L/min]"""
        answer = self.solve([], line)
        flow = answer["flow_l_per_min"].get("pump", 0.0)
        return answer["flow_at_least_l_per_min"].get("pump", 0.0) if flow is None else flow

    def true(self, check: str) -> Any:
        """What a perfect meter or eye would read."""
        if check not in self._as_read:
            self._as_read[check] = getattr(self, "_" + check.replace("-", "_"))()
        return self._as_read[check]

    def _source_open_volts(self) -> float:
        parts = [*self._source(), {"id": "nothing", "type": "resistor", "a": "sun_plus", "b": "0", "ohm": 1e7}]
        return run("circuit", {"components": parts, "probes": [["sun_plus", "0"]]}).model_dump()["probe_v"][0]

    def _panel_open_volts(self) -> list[float]:
        source = self.kit["source"]
        count = source.get("modules_in_series", 1) * source.get("strings_in_parallel", 1)
        light = self.light * (1.0 - (0.15 + 0.35 * self.severity) if self.fault == "panels-dirty" else 1.0)
        one = run(
            "pv-curve", {"module": source["module"], "irradiance_w_per_m2": light, "cell_temperature_c": self.cell}
        ).model_dump()["voc_v"]
        volts = [one] * count
        if self.fault == "panel-lost":
            volts[0] = 0.0
        elif self.fault == "panel-reversed":
            volts[0] = -one
        elif self.fault == "panel-shaded":
            volts[0] = one * 0.96
        return volts

    def _short_circuit_amps(self) -> float:
        parts = [*self._source(), {"id": "meter", "type": "resistor", "a": "sun_plus", "b": "0", "ohm": 0.01}]
        return run("circuit", {"components": parts, "probes": []}).model_dump()["component_a"]["meter"]

    def _battery_rest_volts(self) -> float:
        return self.kit["source"]["open_v"]

    def _box_volts_on(self) -> float:
        volts = self.solve([["up", "0"]])  # names every node
        volts = self.solve([[self.box, "0"]])["probe_v"][0]
        return -volts if self.fault == "polarity-reversed" and self.kit["motor_wires"] == 3 else volts

    def _fuse_volts(self) -> float:
        return self.solve([["up", "fused"]])["probe_v"][0]

    def _switch_volts(self) -> float:
        self.solve([])
        return self.solve([["fused" if self.kit["fuse_a"] else "up", self.box]])["probe_v"][0]

    def _pump_volts_on(self) -> float:
        backwards = self.fault == "polarity-reversed"
        if backwards and not self.kit["brushed"]:
            return -self.kit["source"].get("out_max_v", self._source_open_volts())
        self.solve([])
        if self.fault == "cable-open":
            return 0.0
        volts = self.solve([["pump_plus", self.back]])["probe_v"][0]
        return -volts if backwards else volts

    def _pump_amps_on(self) -> float:
        return self.solve([])["component_a"].get("pump", 0.0)

    def _cable_loop_ohms(self) -> float:
        return 1e6 if self.fault == "cable-open" else self.kit["pump_cable_ohm"] + self.more["down"]

    def _fuse_ohms(self) -> float:
        return 1e6 if self.fault == "fuse-blown" else 0.01

    def _switch_ohms(self) -> float:
        return 1e6 if self.fault == "switch-open" else 0.01

    def _motor_ohms(self) -> float:
        return 1e6 if self.fault == "winding-open" else self.kit["motor"]["resistance_ohm"] + self.more["brush"]

    def _no_water(self) -> bool:
        return self.fault in ("impeller-loose", "phase-swapped", "polarity-reversed")

    def _outlet_flow(self) -> float:
        return 0.0 if self._no_water() or self.fault == "air-locked" else self.litres() * (1.0 - self.more["leak"])

    def _bucket_flow_no_lift(self) -> float:
        if self._no_water():
            return 0.0
        fault, self.fault = self.fault, "sound" if self.fault == "air-locked" else self.fault
        try:
            return self.litres(self._line(pipes=False, lift=False, screen=True))
        finally:
            self.fault = fault

    def _shut_off_head(self) -> float:
        if self._no_water() or self.fault == "air-locked":
            return 0.0
        answer = (
            self.solve(
                [["pump_plus", self.back if hasattr(self, "back") else "0"]], {"static_head_m": 1900.0, "pipes": []}
            )
            if self.fault not in ("cable-open", "winding-open")
            else None
        )
        if (
            answer is None
            or "pump" not in answer["component_a"]
            or answer["regime"].get("pump") in ("locked", "stalled")
        ):
            return 0.0
        motor = self.kit["motor"]
        speed = answer["probe_v"][0] - answer["component_a"]["pump"] * (motor["resistance_ohm"] + self.more["brush"])
        rated = motor["rated_v"] - motor["points"][0][2] * motor["resistance_ohm"]
        return motor["points"][0][1] * (speed / rated) ** 2

    def _pumping_water_level_drop(self) -> float:
        return 0.5 + 5.5 * self.severity if self.fault == "water-fallen" else 0.0

    # Looks.

    def _turns(self) -> str:
        if self.fault in ("cable-open", "winding-open") or (
            self.fault == "polarity-reversed" and not self.kit["brushed"]
        ):
            return "still"
        answer = self.solve([])
        amps, regime = abs(answer["component_a"].get("pump", 0.0)), answer["regime"].get("pump")
        if amps < 0.02:
            return "still"
        if self.fault == "phase-swapped":
            return "hums"
        if self.fault == "rotor-stuck":
            return "still" if self.kit["brushed"] else "hums"
        return "still" if regime == "stalled" else "turns"

    def _lamp(self) -> str:
        source = self.kit["source"]
        box = self.true("box-volts-on")
        if box < 0.5 * source["min_v"]:
            return "off"
        if self.fault == "controller-input-open" or self._best_volts() < source["min_v"]:
            return "ready"
        named = {
            "controller-waiting": "waiting",
            "probe-dirty": "dry",
            "rotor-stuck": "fault",
            "winding-open": "fault",
            "cable-open": "fault",
        }
        return named.get(self.fault, "running")

    def _best_volts(self) -> float:
        source = self.kit["source"]
        light = self.light * (1.0 - (0.15 + 0.35 * self.severity) if self.fault == "panels-dirty" else 1.0)
        series = source.get("modules_in_series", 1)
        if self.fault == "panel-lost" and source.get("strings_in_parallel", 1) == 1 and series > 1:
            series -= 1
        point = run(
            "pv-curve",
            {
                "module": source["module"],
                "modules_in_series": series,
                "irradiance_w_per_m2": light,
                "cell_temperature_c": self.cell,
            },
        )
        return point.model_dump()["vmp_v"]

    def _float_by_hand(self) -> str:
        switches = [way["kind"] for way in self.kit["switches"]]
        by_switch = self.fault == "switch-open" and switches[0] == "float"
        inputs = self.kit.get("inputs", [])
        by_input = self.fault == "controller-input-open" and "float" in inputs and (self.dead_float or len(inputs) == 1)
        return "dead" if by_switch or by_input else "obeys"

    def _known_good_source(self) -> str:
        if self.fault in ("rotor-stuck", "winding-open"):
            return "dead"
        if self.fault in ("impeller-loose", "screen-blocked", "valves-worn", "brushes-worn"):
            return "weak"
        return "runs"

    def __getattr__(self, name: str) -> Any:
        seen = {
            "_rotor_by_hand": ("free", {"rotor-drags": "drags", "rotor-stuck": "stuck", "impeller-loose": "loose"}),
            "_screen": ("clean", {"screen-blocked": "blocked"}),
            "_hose": ("sound", {"hose-kinked": "kinked", "hose-leaks": "leaks"}),
            "_panels_look": ("clear", {}),
            "_polarity": ("right", {"polarity-reversed": "reversed", "phase-swapped": "reversed"}),
            "_air": ("none", {"air-locked": "bubbles"}),
            "_dial": ("full", {"dial-low": "low"}),
            "_probe": ("clean", {"probe-dirty": "dirty"}),
            "_outlet_valve_position": ("open", {"outlet-valve-shut": "shut"}),
            "_check_valve": ("free", {"check-valve-stuck": "stuck"}),
        }.get(name)
        if seen is None:
            raise AttributeError(name)
        return lambda: seen[1].get(self.fault, seen[0])

    def read(self, check: Json) -> Json:
        """One check as a person with a cheap meter writes it down; a look is wrong one time in twenty-five."""
        code = check["check"]
        value = (
            self.true(code)
            if code != "panels"
            else {"panels-dirty": "dirty", "panel-shaded": "shaded"}.get(self.fault, "clear")
        )
        if check["answers"]:
            if self.throw.random() < 0.04:
                value = self.throw.choice([a for a in check["answers"] if a != value])
            return {"check": code, "answer": value}
        if isinstance(value, list):
            return {"check": code, "value": [self._metered(v, "V") for v in value]}
        return {"check": code, "value": self._metered(value, check["unit"])}

    def _metered(self, value: float, unit: str) -> float:
        if value >= 1e5:
            return 1e6
        share, digit = {
            "V": (0.005, 0.01),
            "A": (0.005, 0.01),
            "ohm": (0.01, 0.1),
            "L/min": (0.03, 0.02),
            "m": (0.02, 0.05),
        }[unit]
        noisy = value * (1.0 + self.throw.gauss(0.0, share)) + self.throw.uniform(-2.0, 2.0) * digit
        if unit in ("ohm", "L/min", "m"):
            noisy = max(noisy, 0.0)
        return round(noisy, 2)
