"""What the figures of a part are called before a person: one name for a form, a price list's heading and a sentence."""

from collections.abc import Iterable, Mapping

from squall.words.message import Message, later, listed

FIGURES: Mapping[str, Message] = {
    "name": later("Name"),
    "maker": later("Maker"),
    "price": later("Price"),
    "mass_kg": later("Mass"),
    "note": later("Note"),
    # Pumps
    "end": later("Kind of end"),
    "placement": later("Stands"),
    "brushed": later("Has brushes"),
    "rated_v": later("Volts on its label"),
    "label_w": later("Watts on its label"),
    "label_flow_l_min": later("Flow on its label (no height)"),
    "label_head_m": later("Height on its label (flow stops)"),
    "points_l_min_m_a": later("Measured points: flow, head, amps"),
    "least_v": later("Least volts"),
    "best_from_v": later("Best volts from"),
    "best_to_v": later("best volts up to"),
    "max_v": later("Most volts"),
    "resistance_ohm": later("resistance"),
    "no_load_a": later("amps with nothing to do"),
    "locked_rotor_a": later("amps when stalled"),
    "max_fuse_a": later("Largest fuse its maker allows"),
    "life_h": later("Hours until worn"),
    "barb_mm": later("Hose tail"),
    "passes_mm": later("Largest grain that passes"),
    "npsh_required_m": later("suction it needs (NPSH)"),
    "motor_wires": later("Wires to the motor"),
    "self_priming": later("Fills its own suction"),
    "most_flow": later("Most flow"),
    "most_head": later("Most head"),
    "curve": later("curve"),
    "current": later("amps along the curve"),
    # Panels
    "watts": later("Watts"),
    "voc_v": later("Open volts"),
    "isc_a": later("Short-circuit amps"),
    "vmp_v": later("Working volts"),
    "imp_a": later("Working amps"),
    "cells": later("Cells in series"),
    "isc_percent_per_k": later("short-circuit amps against heat"),
    "voc_percent_per_k": later("open volts against heat"),
    "max_series_fuse_a": later("Largest string fuse"),
    "area_m2": later("Surface"),
    # Controllers
    "kind": later("Kind"),
    "min_v": later("Least open volts"),
    "in_max_v": later("Most open volts"),
    "out_max_v": later("Most volts it gives"),
    "max_a": later("Rated amps"),
    "efficiency": later("efficiency"),
    "own_a": later("amps for itself"),
    "stall": later("What it does when the pump stands"),
    "restart_shadow_min": later("Starts again after a shadow in"),
    "restart_dry_min": later("Starts again after running dry in"),
    "inputs": later("Inputs"),
    "dial": later("Speed dial"),
    "lamps": later("Lamps: which, colour, steady or blinking, what it means"),
    # Batteries
    "chemistry": later("Chemistry"),
    "nominal_v": later("Volts by name"),
    "open_v": later("rest volts"),
    "internal_ohm": later("internal resistance"),
    "capacity_ah": later("Charge"),
    "usable": later("share that may be drawn"),
    "charge_efficiency": later("charge that comes out again"),
    # Hoses and fittings, tanks, devices, protectors, cables
    "nominal": later("Size by name"),
    "inner_diameter_mm": later("Inner diameter"),
    "roughness_mm": later("roughness"),
    "rated_head_m": later("Head it bears"),
    "minor_loss_k": later("K"),
    "source": later("Where K comes from"),
    "litres": later("Holds"),
    "depth_m": later("Depth when full"),
    "rating_a": later("rated amps"),
    "rating_v": later("rated volts"),
    "coil_v": later("volts of a relay's coil"),
    "torque_nm": later("Torque of its screws"),
    "coil_ohm": later("resistance of a relay's coil"),
    "size": later("Conductor size"),
}  # fmt: skip


def figure_names(columns: Iterable[str]) -> str:
    """Columns of the catalogue as a person calls them."""
    return listed(_small(str(FIGURES[column])) for column in columns)


def _small(said: str) -> str:
    """Within a sentence: a small first letter, but for what is written large anywhere."""
    return said if said[:2].isupper() or len(said) < 2 else said[:1].lower() + said[1:]
