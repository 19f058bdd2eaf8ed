"""The sums by name, each with its models and an example."""

import json
import logging
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import BaseModel, ValidationError

from squall.core.errors import BadQuantity, NotFound, SquallError
from squall.sums import arrays, circuits, faults, hydraulics, levels, light, power, storage, upkeep, weather, wiring
from squall.words import later


@dataclass(frozen=True)
class Sum:
    """One sum: name, models, function, an example that works."""

    name: str
    given: type[BaseModel]
    answer: type[BaseModel]
    function: Callable[[Any], BaseModel]
    example: Mapping[str, Any]

    @property
    def about(self) -> str:
        """First sentence of its docstring."""
        return (self.function.__doc__ or "").strip().split("\n")[0]


class BadSum(SquallError):
    """Input of a sum that is refused: the sentences, one for each field."""

    def __init__(self, problems: list[dict[str, str]]) -> None:
        self.problems = problems
        super().__init__(" ".join(problem["message"] for problem in problems))


_MODULE = {
    "voc_v": 22.6, "isc_a": 6.42, "vmp_v": 18.6, "imp_a": 5.93, "cells": 36,
    "isc_percent_per_k": 0.05, "voc_percent_per_k": -0.31,
}  # fmt: skip
_PIPE = {"length_m": 64.0, "inner_diameter_mm": 19.1, "roughness_mm": 0.007, "minor_loss_k": 6.0}
_MOTOR = {
    "kind": "centrifugal", "rated_v": 12.0, "resistance_ohm": 0.42, "no_load_a": 0.35, "max_v": 16.0,
    "points": [[0, 12.5, 2.9], [8.8, 10.57, 4.5], [17.6, 5.3, 5.83], [22, 1.5, 6.2]],
}  # fmt: skip
_PV = {"module": _MODULE, "irradiance_w_per_m2": 800.0, "cell_temperature_c": 45.0}

_KIT = [
    {"id": "sun", "type": "pv", "plus": "array", "minus": "back", **_PV},
    {"id": "fuse", "type": "fuse", "a": "array", "b": "box", "rating_a": 10.0},
    {"id": "float", "type": "switch", "a": "box", "b": "out", "closed": True},
    {"id": "core1", "type": "resistor", "a": "out", "b": "motor_plus", "ohm": 0.1},
    {"id": "core2", "type": "resistor", "a": "motor_minus", "b": "back", "ohm": 0.1},
    {"id": "pump", "type": "pump", "plus": "motor_plus", "minus": "motor_minus", "motor": _MOTOR, "static_head_m": 6.0,
     "pipes": [_PIPE]},
]  # fmt: skip

_CHAIN = {
    "source": {"type": "pv", "module": _MODULE, "strings_in_parallel": 2}, "pump_cable_ohm": 0.15, "fuse_a": 10.0,
    "switches": [{"name": "float", "kind": "float"}], "motor": _MOTOR, "motor_wires": 2, "brushed": True,
    "placement": "submersible", "static_head_m": 6.0, "pipes": [_PIPE], "check_valve": True, "outlet_valve": False,
}  # fmt: skip

_ALL = (
    Sum("pipe-loss", hydraulics.PipeLossIn, hydraulics.PipeLossOut, hydraulics.sum_pipe_loss,
        {"flow_l_per_min": 12.0, **_PIPE}),
    Sum("operating-point", hydraulics.OperatingPointIn, hydraulics.OperatingPointOut, hydraulics.sum_operating_point,
        {"pump_curve": [[0, 12.5], [8.8, 10.57], [17.6, 5.3], [22, 1.5]], "static_head_m": 6.0, "pipes": [_PIPE]}),
    Sum("pv-curve", power.PvIn, power.PvCurveOut, power.sum_pv_curve, _PV),
    Sum("drive", power.DriveIn, power.DriveOut, power.sum_drive,
        {"source": {"type": "pv", **_PV}, "cable_resistance_ohm": 0.2, "motor": _MOTOR,
         "static_head_m": 6.0, "pipes": [_PIPE]}),
    Sum("energy", power.EnergyIn, power.EnergyOut, power.sum_energy,
        {"voltage_v": 12.0, "current_a": 5.0, "minutes_per_day": 20.0, "battery_ah": 35.0}),
    Sum("wire", wiring.WireIn, wiring.WireOut, wiring.sum_wire,
        {"system_v": 12.0, "current_a": 5.0, "one_way_m": 10.0, "area_mm2": 4.0}),
    Sum("choose-wire", wiring.ChooseWireIn, wiring.ChooseWireOut, wiring.sum_choose_wire,
        {"system_v": 12.0, "current_a": 5.0, "one_way_m": 10.0, "max_drop_fraction": 0.05, "standard": "metric"}),
    Sum("protect", wiring.ProtectIn, wiring.ProtectOut, wiring.sum_protect,
        {"continuous_a": 5.0, "cable_ampacity_a": 24.0, "devices": [{"name": "float switch", "rating_a": 10.0}],
         "source_v": 12.5, "loop_resistance_ohm": 0.15, "motor_resistance_ohm": 0.42, "kind": "fuse"}),
    Sum("water-level-from-drop", levels.DropIn, levels.DropOut, levels.sum_drop, {"fall_time_s": 1.6}),
    Sum("combine-levels", levels.CombineIn, levels.CombineOut, levels.sum_combine,
        {"readings": [{"method": "pebble", "depth_m": 13.1}, {"method": "tape", "depth_m": 11.7, "uncertainty_m": 0.1}]}),
    Sum("suction-limit", levels.SuctionIn, levels.SuctionOut, levels.sum_suction,
        {"altitude_m": 1180.0, "water_temperature_c": 14.0, "flow_l_per_min": 20.0, "npsh_required_m": 2.0,
         "pipes": [{"length_m": 6.0, "inner_diameter_mm": 25.4, "roughness_mm": 0.007, "minor_loss_k": 4.0}]}),
    Sum("string-window", arrays.StringIn, arrays.StringOut, arrays.sum_string_window,
        {"module": _MODULE, "modules_in_series": 2, "record_low_c": -9.0, "hottest_cell_c": 70.0, "max_input_v": 60.0,
         "min_working_v": 20.0, "best_low_v": 26.0, "best_high_v": 45.0}),
    Sum("start-irradiance", arrays.StartIn, arrays.StartOut, arrays.sum_start,
        {"source": {"type": "pv", "module": _MODULE, "cell_temperature_c": 30.0}, "cable_resistance_ohm": 0.2,
         "motor": _MOTOR, "static_head_m": 6.0, "pipes": [_PIPE]}),
    Sum("autonomy", arrays.AutonomyIn, arrays.AutonomyOut, arrays.sum_autonomy,
        {"battery_ah": 75.0, "usable_fraction": 0.5, "efficiency": 0.9, "load_a": 4.5}),
    Sum("reference-et", weather.ReferenceEtIn, weather.ReferenceEtOut, weather.sum_reference_et,
        {"method": "hargreaves", "latitude_deg": -30.4, "day_of_year": 15, "altitude_m": 1180.0, "t_min_c": 15.8,
         "t_max_c": 31.2}),
    Sum("sun-day", weather.SunDayIn, weather.SunDayOut, weather.sum_sun_day,
        {"latitude_deg": -30.4, "longitude_deg": 24.1, "altitude_m": 1180.0, "date": "2026-06-21", "tilt_deg": 40.0,
         "azimuth_deg": 0.0, "sky": 0.62, "step_min": 30.0}),
    Sum("circuit", circuits.CircuitIn, circuits.CircuitOut, circuits.sum_circuit,
        {"components": _KIT, "probes": [["motor_plus", "motor_minus"], ["box", "out"]]}),
    Sum("netlist", circuits.CircuitIn, circuits.NetlistOut, circuits.sum_netlist, {"components": _KIT}),
    Sum("checks", faults.ChecksIn, faults.ChecksOut, faults.sum_checks, {"kit": _CHAIN}),
    Sum("faults", faults.FaultsIn, faults.FaultsOut, faults.sum_faults, {"kit": _CHAIN, "story": "ran-and-stopped"}),
    Sum("diagnose", faults.DiagnoseIn, faults.DiagnoseOut, faults.sum_diagnose,
        {"kit": _CHAIN, "story": "ran-and-stopped", "irradiance_w_per_m2": 700.0,
         "evidence": [{"check": "turns", "answer": "still"}, {"check": "box-volts-on", "value": 0.02}]}),
    Sum("wear", upkeep.WearIn, upkeep.WearOut, upkeep.sum_wear,
        {"kit": _CHAIN, "ask": {"date": "2027-03-01", "irradiance_w_per_m2": 800.0, "air_c": 25.0}, "visits": [
            {"date": "2026-03-01", "air_c": 24.0, "irradiance_w_per_m2": 800.0,
             "readings": {"pump-volts-on": 12.3, "pump-amps-on": 5.8, "outlet-flow": 12.6}},
            {"date": "2026-09-01", "air_c": 18.0, "irradiance_w_per_m2": 760.0,
             "readings": {"pump-volts-on": 11.0, "pump-amps-on": 5.2, "outlet-flow": 11.0}, "done": ["panels-cleaned"]}]}),
    Sum("light-of-place", light.LightOfPlaceIn, light.LightOfPlaceOut, light.sum_light_of_place,
        {"latitude_deg": -30.4, "longitude_deg": 24.6}),
    Sum("made-light", light.MadeLightIn, light.MadeLightOut, light.sum_made_light,
        {"latitude_deg": -30.4, "longitude_deg": 24.6, "years": 1, "seed": 1}),
    Sum("storage-run", storage.StorageIn, storage.StorageOut, storage.sum_storage,
        {"tank_l": 1000.0, "start_l": 400.0, "on_below_l": 600.0, "off_above_l": 950.0, "step_min": 60.0,
         "draw_l_per_min": [0.0, 2.0, 2.0, 6.0], "inflow_l_per_min": [4.0, 9.0, 9.0, 4.0]}),
)  # fmt: skip
log = logging.getLogger("squall")
SUMS: Mapping[str, Sum] = {one.name: one for one in _ALL}


def run(name: str, data: object) -> BaseModel:
    """Work out one sum.

    Parameters
    ----------
    name : str
        Its name, e.g. ``pipe-loss``.
    data : object
        The parsed JSON.

    Returns
    -------
    BaseModel
        The answer.

    Raises
    ------
    NotFound
        For a name that is none.
    BadSum
        For input that is refused; lists each field.
    BadQuantity
        For figures that together lead beyond any number.
    SquallError
        For input that contradicts itself.
    """
    if name not in SUMS:
        raise NotFound(
            later("There is no sum called {name:quoted}; there are: {SUMS}.", name=name, SUMS=", ".join(SUMS))
        )
    wanted = SUMS[name]
    try:
        given = wanted.given.model_validate_json(json.dumps(data))
    except ValidationError as error:
        raise BadSum(problems_of(error)) from error
    try:
        return wanted.function(given)
    except (ArithmeticError, ValueError) as error:
        # Every figure is in its range, and together they lead to none: 1e300 m of pipe, a load of 5e-324 A.
        log.warning("sum %s: %s", name, error)
        raise BadQuantity(
            later("With these figures nothing can be worked out: look at their sizes and units.")
        ) from error


def problems_of(error: ValidationError) -> list[dict[str, str]]:
    """Each problem as field, what was given and what is allowed, in a sentence."""
    problems = []
    for detail in error.errors(include_url=False):
        field = ".".join(str(part) for part in detail["loc"]) or "input"
        given = repr(detail.get("input"))
        short = given if len(given) <= 60 else given[:57] + "..."
        if detail["type"] == "missing":
            message = f"{field} is missing."
        elif detail["type"] == "extra_forbidden":
            message = f"{field} is not a field of this sum."
        else:
            allowed = detail["msg"].removeprefix("Value error, ").removeprefix("Input ")
            message = f"{field} is {short}; it {allowed[0].lower() + allowed[1:]}."
        problems.append({"field": field, "given": short, "message": message})
    return problems
