"""A thought-of yard: the kit as stated, off by what nobody knows, with each cause at many severities, worked through the chain.

The same draws serve every cause, so that two causes differ by what they do and not by luck.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from squall.core.circuit.parts import CLOSED_OHM, PROTECTOR_OHM
from squall.core.drive.motors import Motor
from squall.core.electrics.modules import diode_at
from squall.core.faults import columns as at
from squall.core.faults.causes import NONE, Cause, causes_of
from squall.core.faults.chain import OFFSETS, Chain
from squall.core.faults.changes import CHANGES, Draw, Sound

Floats = NDArray[np.float64]

# What a light that nobody read may be. [W/m2]
DARKEST, BRIGHTEST = 30.0, 1000.0
# Cells over the air in full sun, from the contract of the sums. [K per W/m2]
CELL_K_PER_LIGHT = 0.03
# Draws for each cause; a power of two, as Sobol's sequence wants.
DRAWS = 512
# How far the stated kit may be off, one standard deviation: common practice, no source. [-], [-], [-], [-], [-], [m], [-], [-]
_HEAD, _AMPS, _PANEL_A, _PANEL_V = 0.04, 0.04, 0.035, 0.015
_CABLE, _LIFT_M, _INNER, _WINDING = 0.08, 0.25, 0.25, 0.05
# The same by name, for whoever applies an estimate of them. [-], [m]
OFF_BY = {
    "cable": _CABLE,
    "winding": _WINDING,
    "amps": _AMPS,
    "head": _HEAD,
    "lift_m": _LIFT_M,
    "panel_a": _PANEL_A,
    "panel_v": _PANEL_V,
}
_TABLE = 160
# Which column of the draws is what.
U_LIGHT, U_SEVERITY, U_SECOND = 0, 1, 2
_DIMENSIONS = 12


@dataclass(frozen=True)
class Lit:
    """What is known of the light and the air.

    Attributes
    ----------
    irradiance_w_m2 : float or None
        Light on the panels; None where nobody knows. [W/m2]
    air_c : float
        Air. [°C]
    off : float
        How far that light may be off, one standard deviation. [-]
    """

    irradiance_w_m2: float | None
    air_c: float
    off: float = 0.05


@dataclass(frozen=True)
class Swept:
    """Rows of one cause: how the kit was thought to be, what it then does, and how much each row counts.

    Attributes
    ----------
    rows, out : NDArray
        As :mod:`squall.core.faults.columns`, one row a draw.
    draws : NDArray
        The even draws from 0 to 1 behind the rows.
    weight : NDArray
        How much each counts; they add up to 1. [-]
    light_w_m2 : NDArray
        Light of each row. [W/m2]
    """

    rows: Floats
    out: Floats
    draws: Floats
    weight: Floats
    light_w_m2: Floats


@lru_cache(maxsize=4)
def even_draws(count: int) -> Floats:
    """The same draws from 0 to 1 whenever so many are asked for: (count, dimensions). [-]"""
    from scipy.stats import qmc

    draws: Floats = qmc.Sobol(_DIMENSIONS, scramble=True, rng=20261127).random(count)
    return draws


def _normal(draws: Floats) -> Floats:
    from scipy.special import ndtri

    # No draw counts as farther off than two and a half deviations.
    spread: Floats = np.clip(ndtri(draws), -2.5, 2.5)
    return spread


@dataclass(frozen=True)
class _End:
    """The pump's end and its line as even tables for the kernels."""

    packed: tuple[bool, float, Floats, Floats, float, Floats, float]
    top_v: float


@lru_cache(maxsize=64)
def _end_of(motor: Motor, chain: Chain, top_v: float) -> _End:
    centrifugal = motor.kind == "centrifugal"
    if centrifugal:
        x, first, second = _centrifugal_tables(motor)
        most = x * top_v
    else:
        x, first, second = _displacement_tables(motor)
        most = float(first.max()) * top_v
    flows = np.linspace(0.0, most, _TABLE)
    losses = chain.line.head_at(flows) - chain.line.static_head_m
    return _End((centrifugal, x, first, second, most, losses, motor.no_load_a), top_v)


def _centrifugal_tables(motor: Motor) -> tuple[float, Floats, Floats]:
    """psi and tau over Q/w; beyond the last point psi goes on straight to nil, which nothing promises: a bucket test goes there."""
    low, high = motor.phi_range
    end, slope = motor.psi.at(high), min(motor.psi.slope_at(high), -0.2 * motor.psi.at(low) / high)
    top = min(high - end / slope, 1.6 * high)
    phi = np.linspace(0.0, top, _TABLE)
    inside = np.clip(phi, low, high)
    psi = motor.psi(inside) + np.where(phi > high, slope * (phi - high), 0.0)
    return top, np.maximum(psi, 0.0), motor.tau(inside)


def _displacement_tables(motor: Motor) -> tuple[float, Floats, Floats]:
    """Q/w and amps over head; beyond the last head flow goes on falling, to nil at half as much again, and amps go on rising."""
    low, high = motor.head_range
    top = 1.5 * high
    head = np.linspace(0.0, top, _TABLE)
    inside = np.clip(head, low, high)
    over = np.maximum(head - high, 0.0)
    flow = motor.flow_per_speed(inside) * np.maximum(1.0 - over / (top - high), 0.0)
    amps = motor.amps_by_head(inside) + max(motor.amps_by_head.slope_at(high), 0.0) * over
    return top, np.maximum(flow, 0.0), amps


def _light(chain: Chain, lit: Lit, draws: Floats) -> Floats:
    if chain.array is None:
        return np.zeros(len(draws))
    if lit.irradiance_w_m2 is None:
        return DARKEST + (BRIGHTEST - DARKEST) * draws[:, U_LIGHT]
    return np.clip(lit.irradiance_w_m2 * (1.0 + lit.off * _normal(draws[:, U_LIGHT])), 0.0, 1500.0)


def to_start_from(chain: Chain, lit: Lit, draws: Floats) -> tuple[Floats, Floats]:
    """Rows of the kit as stated, off by what nobody knows, before any cause changes them; and the light of each. [W/m2]"""
    light = _light(chain, lit, draws)
    off = _normal(draws[:, 3:])
    off[:, :OFFSETS] = np.array(chain.offsets.mean) + np.array(chain.offsets.spread) * off[:, :OFFSETS]
    return rows_in(chain, light, np.full(len(draws), lit.air_c), off), light


def rows_in(chain: Chain, light: Floats, air_c: Floats, off: Floats) -> Floats:
    """Rows of the kit as stated, each in a light and an air of its own, off by so many standard deviations.

    Parameters
    ----------
    chain : Chain
        The kit.
    light, air_c : NDArray
        (n,) each. [W/m2], [°C]
    off : NDArray
        (n, 8 or more): both cables, winding, amps, head, lift, two of the source. [-]
    """
    rows = np.zeros((len(light), at.WIDTH))
    motor = chain.motor
    up = chain.source_cable_ohm * (1.0 + _CABLE * off[:, 0]) + CLOSED_OHM * len(chain.switches)
    rows[:, at.UP_OHM] = up + (PROTECTOR_OHM if chain.fuse_a is not None else 0.0)
    rows[:, at.DOWN_OHM] = chain.pump_cable_ohm * (1.0 + _CABLE * off[:, 1])
    rows[:, at.MOTOR_OHM] = motor.resistance_ohm * (1.0 + _WINDING * off[:, 2])
    rows[:, at.NO_LOAD_A] = motor.no_load_a * (1.0 + _AMPS * off[:, 3])
    rows[:, at.AMPS_SHARE] = 1.0 + _AMPS * off[:, 3]
    rows[:, at.HEAD_SHARE] = 1.0 + _HEAD * off[:, 4]
    rows[:, at.FLOW_SHARE] = 1.0 if chain.centrifugal else 1.0 + _HEAD * off[:, 4]
    rows[:, at.LIFT_M] = np.maximum(chain.line.static_head_m + _LIFT_M * off[:, 5], 0.0)
    rows[:, at.MOST_A] = 1e9
    if chain.battery is not None:
        rows[:, at.OPEN_V] = chain.battery.open_v * (1.0 + 0.01 * off[:, 6])
        rows[:, at.INNER_OHM] = np.maximum(chain.battery.internal_ohm * (1.0 + _INNER * off[:, 7]), 1e-4)
    elif chain.supply is not None:
        rows[:, at.OPEN_V] = chain.supply.set_v * (1.0 + 0.015 * off[:, 6])
        rows[:, at.MOST_A] = chain.supply.max_a * (1.0 + 0.05 * off[:, 7])
    elif chain.array is not None:
        _light_panels(chain, light, air_c, off[:, 6:8], rows)
    if chain.controller is not None:
        rows[:, at.OUT_MAX_V] = chain.controller.out_max_v
    return rows


def _light_panels(chain: Chain, light: Floats, air_c: Floats, off: Floats, rows: Floats) -> None:
    assert chain.array is not None
    cell = np.clip(air_c + CELL_K_PER_LIGHT * light, -60.0, 120.0)
    diode = diode_at(chain.array.module, np.maximum(light, 1.0), cell)
    rows[:, at.LIGHT_A] = np.where(light > 0.0, diode.light_current_a, 0.0) * (1.0 + _PANEL_A * off[:, 0])
    rows[:, at.SATURATION_A] = diode.saturation_current_a
    rows[:, at.SERIES_OHM] = diode.series_ohm
    rows[:, at.SHUNT_OHM] = diode.shunt_ohm
    # Volts off by a share: the ideality carries it.
    rows[:, at.IDEALITY_V] = diode.ideality_v * (1.0 + _PANEL_V * off[:, 1])


def sweep_two(chain: Chain, start: tuple[Floats, Floats], causes: tuple[Cause, Cause], draws: Floats) -> Swept:
    """Rows of two causes at once, each with severities of its own.

    Parameters
    ----------
    chain : Chain
        The kit as stated.
    start : tuple
        As :func:`to_start_from` gives them, for the same draws.
    causes : tuple of Cause
        The two.
    draws : NDArray
        (n, dimensions), from 0 to 1. [-]

    Returns
    -------
    Swept
        n rows, all counting alike.
    """
    rows, light = start[0].copy(), start[1]
    sound = sound_in_good_light(chain)
    CHANGES[causes[0].change](Draw(rows, draws[:, U_SEVERITY], draws[:, U_SECOND], chain, sound))
    CHANGES[causes[1].change](Draw(rows, draws[:, -2], draws[:, -3], chain, sound))
    if chain.behind_controller:
        _move_behind(rows)
    return Swept(rows, run(chain, rows), draws, np.full(len(draws), 1.0 / len(draws)), light)


def _move_behind(rows: Floats) -> None:
    """A fuse or switch that stands behind the controller breaks the way to the pump, not the way from the panels."""
    broken = (rows[:, at.UP_OPEN] == 1.0) | (rows[:, at.UP_OPEN] == 2.0)
    rows[:, at.DOWN_OPEN] = np.where(broken, 1.0 + 0.1 * rows[:, at.UP_OPEN], rows[:, at.DOWN_OPEN])
    rows[:, at.UP_OPEN] = np.where(broken, 0.0, rows[:, at.UP_OPEN])


def most_volts(chain: Chain) -> float:
    """Volts that no part of this chain passes by much. [V]"""
    if chain.controller is not None:
        return max(chain.controller.out_max_v, 1.1 * chain.motor.rated_v) * 1.05
    if chain.array is not None:
        return max(chain.array.module.voc_v * chain.array.in_series * 1.25, 1.1 * chain.motor.rated_v)
    return max(chain.source.most_volts, chain.motor.rated_v) * 1.15


def run(chain: Chain, rows: Floats) -> Floats:
    """Work rows through a chain.

    Parameters
    ----------
    chain : Chain
        What all rows share.
    rows : NDArray
        (n, WIDTH) as :mod:`squall.core.faults.columns`.

    Returns
    -------
    NDArray
        (n, OUT_WIDTH). [as its columns]
    """
    from squall.core.faults.kernels import CONTROLLER, PANELS, VOLTS, work

    out = np.zeros((len(rows), at.OUT_WIDTH))
    array, controller = chain.array, chain.controller
    kind = VOLTS if array is None else PANELS if controller is None else CONTROLLER
    top_v = most_volts(chain)
    end = _end_of(chain.motor, chain, top_v).packed
    work(
        rows, kind, array.in_series if array else 1, array.in_parallel if array else 1,
        controller.efficiency if controller else 1.0, controller.min_v if controller else 0.0,
        controller.max_v if controller else 0.0, 1.05 * chain.motor.rated_v, top_v, end, out,
    )  # fmt: skip
    return out


@lru_cache(maxsize=64)
def sound_in_good_light(chain: Chain) -> Sound:
    """What the kit as stated does in 1000 W/m2, with nothing wrong."""
    rows, _ = to_start_from(chain, Lit(BRIGHTEST, 20.0), np.full((1, _DIMENSIONS), 0.5))
    out = run(chain, rows)
    return Sound(
        float(out[0, at.FLOW]),
        float(max(out[0, at.SHUT_HEAD], chain.motor.head_range[1] * 0.5)) - chain.line.static_head_m,
    )


def sweep(chain: Chain, lit: Lit, cause: Cause | None, draws: Floats, weight: Floats | None = None) -> Swept:
    """Rows of one cause for given draws.

    Parameters
    ----------
    chain : Chain
        The kit as stated.
    lit : Lit
        What is known of light and air.
    cause : Cause or None
        The cause; None where nothing is wrong.
    draws : NDArray
        (n, dimensions), from 0 to 1. [-]
    weight : NDArray or None
        How much each draw counts; None for all alike. [-]

    Returns
    -------
    Swept
        n rows.
    """
    rows, light = to_start_from(chain, lit, draws)
    change = CHANGES[NONE if cause is None else cause.change]
    change(Draw(rows, draws[:, U_SEVERITY], draws[:, U_SECOND], chain, sound_in_good_light(chain)))
    if chain.behind_controller:
        _move_behind(rows)
    counts = np.full(len(draws), 1.0 / len(draws)) if weight is None else weight / weight.sum()
    return Swept(rows, run(chain, rows), draws, counts, light)


@lru_cache(maxsize=24)
def sweep_all(chain: Chain, lit: Lit) -> dict[str, Swept]:
    """Rows of every cause that this kit can have, and of none, by the same draws."""
    causes: Sequence[Cause | None] = [None, *causes_of(chain)]
    draws = even_draws(DRAWS)
    done: dict[str, Swept] = {}
    by_change: dict[str, Swept] = {}
    for cause in causes:
        change = NONE if cause is None else cause.change
        if change not in by_change:
            by_change[change] = sweep(chain, lit, cause, draws)
        done[NONE if cause is None else cause.code] = by_change[change]
    return done
