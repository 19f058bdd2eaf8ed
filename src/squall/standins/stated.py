"""A job's own kit as its owner would tell it to the sums: what a lesson hides a fault in."""

from squall.core.drive.solve import Battery, PvArray, PvController, Source, Supply
from squall.core.faults.chain import Chain
from squall.standins.kits import Json

_L_MIN = 60_000.0


def stated_of(chain: Chain) -> Json:
    """A chain as the sums take a kit.

    Parameters
    ----------
    chain : Chain
        Of a job, as Fault works with it.

    Returns
    -------
    dict
        The same kit as a plain chain: fuse and switches before any controller, one outlet, a source whose level stays.
    """
    motor, line = chain.motor, chain.line
    return {
        "source": _source(chain.source),
        "source_cable_ohm": chain.source_cable_ohm,
        "pump_cable_ohm": chain.pump_cable_ohm,
        "fuse_a": chain.fuse_a,
        "switches": [{"name": str(way.name), "kind": way.kind} for way in chain.switches],
        "inputs": list(chain.inputs),
        "motor": {
            "kind": motor.kind, "rated_v": motor.rated_v, "resistance_ohm": motor.resistance_ohm, "no_load_a": motor.no_load_a,
            "max_v": motor.max_v, "points": [[flow * _L_MIN, head, amps] for flow, head, amps in motor.points],
        },
        "motor_wires": chain.motor_wires, "brushed": chain.brushed, "placement": chain.placement,
        "static_head_m": max(line.static_head_m, 0.0),
        "pipes": [
            {"length_m": pipe.length_m, "inner_diameter_mm": pipe.inner_diameter_m * 1000.0,
             "roughness_mm": pipe.roughness_m * 1000.0, "minor_loss_k": pipe.minor_loss_k}
            for pipe in line.pipes
        ],
        "check_valve": chain.check_valve, "outlet_valve": chain.outlet_valve, "age_hours": chain.age_hours,
    }  # fmt: skip


def _source(source: Source) -> Json:
    if isinstance(source, Battery):
        return {"type": "battery", "open_v": source.open_v, "internal_ohm": source.internal_ohm}
    if isinstance(source, Supply):
        return {"type": "supply", "set_v": source.set_v, "max_a": source.max_a}
    if isinstance(source, PvController):
        limits = {"efficiency": source.efficiency, "min_v": source.min_v, "max_v": source.max_v}
        return {**_array(source.array), "type": "pv-controller", **limits, "out_max_v": source.out_max_v}
    return {"type": "pv", **_array(source)}


def _array(array: PvArray) -> Json:
    panel = array.module
    module = {
        "voc_v": panel.voc_v, "isc_a": panel.isc_a, "vmp_v": panel.vmp_v, "imp_a": panel.imp_a, "cells": panel.cells,
        "isc_percent_per_k": panel.isc_percent_per_k, "voc_percent_per_k": panel.voc_percent_per_k,
    }  # fmt: skip
    return {"module": module, "modules_in_series": array.in_series, "strings_in_parallel": array.in_parallel}
