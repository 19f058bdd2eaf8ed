"""The contract's drive model written a second time, as plainly as it can be, and compared.

Nothing of squall.core's drive, motors or kernel is used on the reference's side: it walks along the
speed in small steps and reads SciPy's PCHIP, fluids' friction factor and pvlib's module current.
"""

from dataclasses import dataclass
from functools import lru_cache

import fluids
import numpy as np
import pvlib
import pytest
from scipy.interpolate import PchipInterpolator
from scipy.optimize import bisect

from squall.core.hydraulics.water import water_at
from squall.sums import run

MODULE = {
    "voc_v": 22.6,
    "isc_a": 6.42,
    "vmp_v": 18.6,
    "imp_a": 5.93,
    "cells": 36,
    "isc_percent_per_k": 0.05,
    "voc_percent_per_k": -0.31,
}
CENTRIFUGAL = {
    "kind": "centrifugal",
    "rated_v": 24.0,
    "resistance_ohm": 0.55,
    "no_load_a": 0.4,
    "points": [[0, 21, 2.93], [6, 20.13, 3.66], [12, 17.76, 4.41], [18, 14, 5.2], [24, 8.91, 5.55], [30, 2.52, 5.85]],
}
HELICAL = {
    "kind": "displacement",
    "rated_v": 24.0,
    "resistance_ohm": 0.42,
    "no_load_a": 0.5,
    "points": [[11.47, 0, 0.65], [10.19, 15, 3.17], [8.98, 30, 5.69], [7.85, 45, 8.22], [6.78, 60, 10.74]],
}


@dataclass
class Answer:
    """What the reference finds."""

    flow_l_per_min: float
    volts: float
    amps: float


def system_head(flow_l_per_min: float, lift: float, pipes: list[dict[str, float]]) -> float:
    """Lift and losses, with fluids' friction factor."""
    water = water_at(15.0)
    head = lift
    for pipe in pipes:
        bore = pipe["inner_diameter_mm"] / 1000
        speed = flow_l_per_min / 60_000 / (np.pi / 4 * bore**2)
        if speed <= 0:
            continue
        reynolds = speed * bore / water.viscosity_m2_s
        rough = pipe["roughness_mm"] / pipe["inner_diameter_mm"]
        factor = 64 / reynolds if reynolds <= 2000 else fluids.friction.Colebrook(reynolds, rough)
        head += (factor * pipe["length_m"] / bore + pipe["minor_loss_k"]) * speed**2 / (2 * 9.80665)
    return head


def at_speed(motor: dict, w: float, lift: float, pipes: list[dict[str, float]]) -> tuple[float, float]:
    """Flow [l/min] and amps of a motor at one speed."""
    points = np.array(motor["points"], dtype=float)
    speeds = motor["rated_v"] - points[:, 2] * motor["resistance_ohm"]
    if motor["kind"] == "centrifugal":
        phi = points[:, 0] / speeds
        psi = PchipInterpolator(phi, points[:, 1] / speeds**2)
        tau = PchipInterpolator(phi, (points[:, 2] - motor["no_load_a"]) / speeds**2)
        found = 0.0
        if psi(0.0) * w**2 > lift:
            found = bisect(lambda x: psi(x) * w**2 - system_head(x * w, lift, pipes), 0.0, phi[-1], xtol=1e-12)
        return found * w, motor["no_load_a"] + float(tau(found)) * w**2
    order = np.argsort(points[:, 1])
    per_speed = PchipInterpolator(points[order, 1], (points[:, 0] / speeds)[order])
    amps = PchipInterpolator(points[order, 1], points[order, 2])
    head = bisect(lambda h: h - system_head(float(per_speed(h)) * w, lift, pipes), 0.0, points[:, 1].max(), xtol=1e-10)
    return float(per_speed(head)) * w, float(amps(head))


@lru_cache(maxsize=32)
def array_params(light: float, cell: float) -> tuple[float, ...]:
    """pvlib's five parameters, fitted and scaled by pvlib."""
    alpha = MODULE["isc_a"] * MODULE["isc_percent_per_k"] / 100
    beta = MODULE["voc_v"] * MODULE["voc_percent_per_k"] / 100
    nameplate = (MODULE["vmp_v"], MODULE["imp_a"], MODULE["voc_v"], MODULE["isc_a"])
    fit, _ = pvlib.ivtools.sdm.fit_desoto(*nameplate, alpha, beta, MODULE["cells"], root_kwargs={"method": "lm"})
    return pvlib.pvsystem.calcparams_desoto(
        light, cell, alpha, fit["a_ref"], fit["I_L_ref"], fit["I_o_ref"], fit["R_sh_ref"], fit["R_s"]
    )


def array_amps(volts: float, series: int, parallel: int, light: float, cell: float) -> float:
    """pvlib's current of the array."""
    return parallel * float(pvlib.pvsystem.i_from_v(volts / series, *array_params(light, cell), method="newton"))


def walk(motor: dict, surplus, lift: float, pipes: list[dict[str, float]], cable: float) -> Answer:
    """Step the speed up until the source can't follow, then halve the last step."""

    def spare(w: float) -> float:
        _, amps = at_speed(motor, w, lift, pipes)
        return surplus(w + amps * (motor["resistance_ohm"] + cable), amps)

    step, w = 0.5, 0.0
    while spare(w + step) > 0:
        w += step
    w = bisect(spare, w, w + step, xtol=1e-10)
    flow, amps = at_speed(motor, w, lift, pipes)
    return Answer(flow, w + amps * motor["resistance_ohm"], amps)


PIPES = [
    {"length_m": 38.0, "inner_diameter_mm": 19.1, "roughness_mm": 0.007, "minor_loss_k": 4.0},
    {"length_m": 12.0, "inner_diameter_mm": 15.9, "roughness_mm": 0.007, "minor_loss_k": 2.5},
]


def ours(motor: dict, source: dict, lift: float, cable: float) -> Answer:
    """The sum's answer to the same case."""
    given = {
        "source": source,
        "cable_resistance_ohm": cable,
        "motor": motor,
        "static_head_m": lift,
        "pipes": PIPES,
    }
    found = run("drive", given).model_dump()
    return Answer(found["flow_l_per_min"], found["motor_v"], found["motor_a"])


def agree(a: Answer, b: Answer) -> None:
    assert a.flow_l_per_min == pytest.approx(b.flow_l_per_min, rel=2e-4, abs=1e-6)
    assert a.volts == pytest.approx(b.volts, rel=1e-5)
    assert a.amps == pytest.approx(b.amps, rel=1e-5)


@pytest.mark.parametrize("motor", [CENTRIFUGAL, HELICAL], ids=["centrifugal", "helical"])
@pytest.mark.parametrize(("open_v", "inner", "cable"), [(25.6, 0.02, 0.15), (22.0, 0.1, 0.6), (28.0, 0.0, 0.0)])
@pytest.mark.parametrize("lift", [6.0, 14.0])
def test_on_a_battery(motor: dict, open_v: float, inner: float, cable: float, lift: float) -> None:
    reference = walk(motor, lambda volts, amps: open_v - amps * inner - volts, lift, PIPES, cable)
    agree(ours(motor, {"type": "battery", "open_v": open_v, "internal_ohm": inner}, lift, cable), reference)


@pytest.mark.parametrize("motor", [CENTRIFUGAL, HELICAL], ids=["centrifugal", "helical"])
@pytest.mark.parametrize(("light", "cell"), [(950.0, 52.0), (640.0, 38.0), (480.0, 25.0)])
def test_on_panels(motor: dict, light: float, cell: float) -> None:
    reference = walk(motor, lambda volts, amps: array_amps(volts, 2, 1, light, cell) - amps, 8.0, PIPES, 0.25)
    source = {
        "type": "pv",
        "module": MODULE,
        "modules_in_series": 2,
        "strings_in_parallel": 1,
        "irradiance_w_per_m2": light,
        "cell_temperature_c": cell,
    }
    agree(ours(motor, source, 8.0, 0.25), reference)


@pytest.mark.parametrize("motor", [CENTRIFUGAL, HELICAL], ids=["centrifugal", "helical"])
def test_on_a_controller(motor: dict) -> None:
    """With no cable resistance the two ways to read the contract's sentence agree."""
    light, cell = 700.0, 40.0
    volts = np.linspace(20, 44, 4001)
    power = max(v * array_amps(float(v), 2, 1, light, cell) for v in volts[::40])
    near = max(volts[::40], key=lambda v: v * array_amps(float(v), 2, 1, light, cell))
    power = max(v * array_amps(float(v), 2, 1, light, cell) for v in np.linspace(near - 0.3, near + 0.3, 200))
    reference = walk(motor, lambda v, amps: min(30.0 - v, 0.94 * power - v * amps), 8.0, PIPES, 0.0)
    source = {
        "type": "pv-controller",
        "module": MODULE,
        "modules_in_series": 2,
        "strings_in_parallel": 1,
        "irradiance_w_per_m2": light,
        "cell_temperature_c": cell,
        "efficiency": 0.94,
        "min_v": 20.0,
        "max_v": 60.0,
        "out_max_v": 30.0,
    }
    answer = ours(motor, source, 8.0, 0.0)
    assert answer.flow_l_per_min == pytest.approx(reference.flow_l_per_min, rel=1e-3)
    assert answer.volts * answer.amps == pytest.approx(0.94 * power, rel=1e-4) or answer.volts == pytest.approx(30.0)


@pytest.mark.parametrize("motor", [CENTRIFUGAL, HELICAL], ids=["centrifugal", "helical"])
def test_on_a_supply_at_its_limit(motor: dict) -> None:
    reference = walk(motor, lambda volts, amps: min(24.0 - volts, 3.4 - amps), 8.0, PIPES, 0.1)
    agree(ours(motor, {"type": "supply", "set_v": 24.0, "max_a": 3.4}, 8.0, 0.1), reference)
