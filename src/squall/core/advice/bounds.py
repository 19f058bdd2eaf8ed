"""What no kit can exceed: the most water that a pump can make of each joule, and of each hour, and the energy that panels bring.

By these a search leaves whole families of kits out without solving one of them: an array whose energy, all of it turned
into water at the pump's best, falls short of the need holds with no hose and no supply. Nothing that would hold is left
out (tested against the whole ranking): the head is taken at its least, cables and controllers as if they lost nothing.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import inf

import numpy as np
from numpy.typing import NDArray

from squall.core.drive.motors import Motor
from squall.core.kit.layout import Layout
from squall.core.kit.parts import Panel, Pump
from squall.core.sky.typical_days import STEPS
from squall.core.years.many_days import MOMENTS, ManyDays
from squall.core.years.nodes import power_nodes
from squall.core.years.outlook import most_short
from squall.core.years.record import SHORT_SHARE
from squall.core.years.use import Use

Floats = NDArray[np.float64]
# What the grid of states may miss of the best between its points, and rounding in the years' sums. [-]
GRID_SLACK, YEARS_SLACK = 0.03, 4e-3
_FLOWS, _SPEEDS = 33, 25


@dataclass(frozen=True)
class PumpBound:
    """The most a pump can do against the least head of its line.

    Attributes
    ----------
    l_per_j : float
        Water of each joule at its terminals. [L/J]
    most_l_s : float
        Flow at the most volts it stands. [L/s]
    """

    l_per_j: float
    most_l_s: float


def bound_of(pump: Pump, layout: Layout, most_v: float) -> PumpBound:
    """The most that a pump makes of a joule and of a second on a line of no loss.

    Parameters
    ----------
    pump : Pump
        The pump.
    layout : Layout
        Its static head is the least that any flow meets. [m]
    most_v : float
        Most volts that it stands. [V]

    Returns
    -------
    PumpBound
        Both nil if it can't lift to that head at all.
    """
    head = layout.steady.least_static_m
    if pump.motor.kind == "displacement":
        return _displacing(pump.motor, head, most_v)
    return _throwing(pump.motor, head, most_v)


def _displacing(motor: Motor, head_m: float, most_v: float) -> PumpBound:
    """At any volts Q/P = q/w (V - I R)/(V I), which grows with the volts towards q/(w I)."""
    low, high = motor.head_range
    # Above its last head it goes on as it does there, or worse.
    heads = np.linspace(min(max(head_m, low), high), high, _FLOWS)
    per_speed, amps = motor.flow_per_speed(heads), motor.amps_by_head(heads)
    speed = np.maximum(most_v - amps * motor.resistance_ohm, 0.0)
    per_joule = per_speed / amps
    return PumpBound(
        float(per_joule.max()) * 1000.0 * (1.0 + GRID_SLACK),
        float((per_speed * speed).max()) * 1000.0 * (1.0 + GRID_SLACK),
    )


def _throwing(motor: Motor, head_m: float, most_v: float) -> PumpBound:
    """Over flow per speed and speed: psi w2 must reach the head; I = I0 + tau w2, V = w + I R."""
    first, last = motor.phi_range
    phi = np.linspace(first, last, _FLOWS)
    psi, tau = motor.psi(phi), np.maximum(motor.tau(phi), 0.0)
    least = np.sqrt(np.maximum(head_m, 1e-4) / np.maximum(psi, 1e-12))
    speed = (
        least[:, None] * np.geomspace(1.0, max(most_v / max(float(least.min()), 1e-9), 1.0 + 1e-9), _SPEEDS)[None, :]
    )
    amps = motor.no_load_a + tau[:, None] * speed**2
    volts = speed + amps * motor.resistance_ohm
    can = (volts <= most_v * (1.0 + GRID_SLACK)) & (psi[:, None] > 0.0)
    if not can.any():
        return PumpBound(0.0, 0.0)
    flow = phi[:, None] * speed
    per_joule = np.where(can, flow / (volts * amps), 0.0)
    most = np.where(can, flow, 0.0)
    return PumpBound(
        float(per_joule.max()) * 1000.0 * (1.0 + GRID_SLACK), float(most.max()) * 1000.0 * (1.0 + 2.0 * GRID_SLACK)
    )


@dataclass(frozen=True, eq=False)
class NeedBound:
    """What a month and its days ask of the energy of one panel.

    Attributes
    ----------
    by_months, by_days : NDArray
        For each panel: water that must be made of each joule of one of it for a kit of one panel to hold, shape (panels,); by
        the months' means, and where nothing is stored by the days. [L/J]
    lit_l_s : float
        Flow that must be made through every lit hour. [L/s]
    shares : NDArray
        Energy of each panel over need, shape (panels, 12): times panels and L/J it bounds the share covered. [J/L]
    """

    by_months: Floats
    by_days: Floats
    lit_l_s: float
    shares: Floats


def need_bound(
    panels: tuple[Panel, ...], days: ManyDays, use: Use, seconds: Callable[[], NDArray[np.float32]] | None = None
) -> NeedBound:
    """How much of its energy each panel must turn into water, by the months' means and by the days of ten years of made weather.

    Parameters
    ----------
    panels : tuple[Panel, ...]
        Of the stock.
    days : ManyDays
        The years on them.
    use : Use
        What is wanted, how many days may run short, what waits: with a tank or a bank only the months bound.
    seconds : callable, optional
        Gives the seconds of the days in which water is taken, where somebody has them already. [s]
    """
    need = np.array(use.need_l)
    asks = need > 0.0
    if not asks.any() or not panels:
        nothing = np.zeros(len(panels))
        return NeedBound(nothing, nothing, 0.0, np.full((len(panels), 12), inf))
    open_weights = days.weights.sum(axis=1).reshape(12, -1)
    power = np.stack([power_nodes(panel.module, days).ravel() for panel in panels], axis=1)
    joules = (open_weights @ power).T * 3600.0
    shares: Floats = np.divide(joules, need[None, :], out=np.full_like(joules, inf), where=asks[None, :])
    least = np.divide(1.0, shares.min(axis=1), out=np.full(len(panels), inf), where=shares.min(axis=1) > 0.0)
    lights = days.lights_w_m2 > 0.0
    lit_h = days.weights[..., lights].sum(axis=(1, 2, 3))
    lit = float(np.divide(need, lit_h * 3600.0, out=np.zeros(12), where=lit_h > 0.0).max())
    stored = use.tank is not None or days.shade is not None
    days_ask = least if stored else np.maximum(least, _by_days(power, days, use, seconds))
    slack = 1.0 - YEARS_SLACK
    return NeedBound(least * slack, days_ask * slack, lit * slack, shares)


def drawn_days(days: ManyDays, use: Use) -> ManyDays:
    """The years with the light of those half hours alone in which water is taken, where what comes in others is lost."""
    if use.by_sun or use.tank is not None:
        return days
    drawn = use.demand.draw_by(STEPS) > 0.0
    if drawn.all():
        return days
    moments = drawn.repeat(MOMENTS, axis=1).astype(np.uint16)
    return replace(days, plane=days.plane * moments[days.month], plain=None)


def _by_days(power: Floats, days: ManyDays, use: Use, known: Callable[[], NDArray[np.float32]] | None) -> Floats:
    """What each panel's energy must make so that no more days run short than are allowed; nothing is stored. [L/J]"""
    seconds = drawn_days(days, use).seconds_of_days() if known is None else known()
    wanted = use.need_of_days(days.month)
    asks = wanted > 0.0
    joules = seconds[asks] @ power.astype(np.float32)
    ratio = (wanted[asks] * (1.0 - SHORT_SHARE))[:, None] / np.maximum(joules.astype(np.float64), 1e-9)
    allowed = int(most_short(days, use))
    if allowed >= ratio.shape[0]:
        return np.zeros(power.shape[1])
    ratio.sort(axis=0)
    # All but the allowed days must be covered.
    found: Floats = ratio[ratio.shape[0] - 1 - allowed]
    return found
