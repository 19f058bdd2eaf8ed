"""Six invented kits of six kinds, as the sums take them."""

from typing import Any

Json = dict[str, Any]

_SMALL_PANEL = {
    "voc_v": 22.6, "isc_a": 6.42, "vmp_v": 18.6, "imp_a": 5.93, "cells": 36, "isc_percent_per_k": 0.05, "voc_percent_per_k": -0.31,
}  # fmt: skip
_LARGE_PANEL = {
    "voc_v": 45.2, "isc_a": 5.6, "vmp_v": 37.0, "imp_a": 5.2, "cells": 72, "isc_percent_per_k": 0.05, "voc_percent_per_k": -0.3,
}  # fmt: skip
_SMALL_END = {
    "kind": "centrifugal", "rated_v": 12.0, "resistance_ohm": 0.42, "no_load_a": 0.35, "max_v": 30.0,
    "points": [[0, 12.5, 2.9], [8.8, 10.57, 4.5], [17.6, 5.3, 5.83], [24, 0.0, 6.2]],
}  # fmt: skip
_LARGE_END = {
    "kind": "centrifugal", "rated_v": 36.0, "resistance_ohm": 0.8, "no_load_a": 0.4,
    "points": [[0, 34, 3.0], [10, 27, 4.2], [20, 13, 5.0], [26, 0, 5.2]],
}  # fmt: skip
_MEMBRANE = {
    "kind": "displacement", "rated_v": 24.0, "resistance_ohm": 0.6, "no_load_a": 0.5,
    "points": [[7.5, 0, 1.5], [6.8, 15, 2.6], [6.2, 30, 3.9], [5.6, 45, 5.2]],
}  # fmt: skip
_HOSE = {"length_m": 64.0, "inner_diameter_mm": 19.1, "roughness_mm": 0.007, "minor_loss_k": 6.0}
_PIPE = {"length_m": 40.0, "inner_diameter_mm": 26.6, "roughness_mm": 0.007, "minor_loss_k": 6.0}
_THIN = {"length_m": 80.0, "inner_diameter_mm": 15.8, "roughness_mm": 0.007, "minor_loss_k": 4.0}


def _kit(source: Json, motor: Json, lift: float, pipe: Json, **more: Any) -> Json:
    return {
        "source": source, "source_cable_ohm": 0.05, "pump_cable_ohm": 0.15, "fuse_a": 10.0,
        "switches": [{"name": "main", "kind": "toggle"}], "inputs": [], "motor": motor, "motor_wires": 2, "brushed": True,
        "placement": "submersible", "static_head_m": lift, "pipes": [pipe], "check_valve": True, "outlet_valve": True,
    } | more  # fmt: skip


KITS: dict[str, Json] = {
    "battery": _kit({"type": "battery", "open_v": 12.7, "internal_ohm": 0.03}, _SMALL_END, 6.0, _HOSE),
    "panels": _kit({"type": "pv", "module": _SMALL_PANEL, "strings_in_parallel": 2}, _SMALL_END, 6.0, _HOSE,
                   switches=[{"name": "float", "kind": "float"}]),
    "three wires": _kit({"type": "pv-controller", "module": _LARGE_PANEL, "modules_in_series": 2, "efficiency": 0.95, "min_v": 30.0,
                         "max_v": 110.0, "out_max_v": 40.0}, _LARGE_END, 14.0, _PIPE, inputs=["float", "probe"], motor_wires=3, brushed=False),
    "membrane": _kit({"type": "pv", "module": _SMALL_PANEL, "modules_in_series": 2}, _MEMBRANE, 25.0, _THIN, check_valve=False,
                     outlet_valve=False),
    "plug-in": _kit({"type": "supply", "set_v": 12.5, "max_a": 8.0}, _SMALL_END, 6.0, _HOSE, placement="bilge", fuse_a=None,
                    switches=[{"name": "timer", "kind": "timer"}], brushed=False),
    "four panels": _kit({"type": "pv-controller", "module": _SMALL_PANEL, "modules_in_series": 2, "strings_in_parallel": 2,
                         "efficiency": 0.93, "min_v": 22.0, "max_v": 60.0, "out_max_v": 38.0}, _LARGE_END, 12.0, _PIPE, inputs=["float"],
                        brushed=False, placement="surface"),
}  # fmt: skip
