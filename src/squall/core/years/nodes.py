"""What a kit makes of each light and air, and of ten years of made weather by month: a table of nodes, and sums over it.

A sun-driven kit is solved once at each of some lights, in the coldest air and in the warmest, and drawn out between them;
between the last light at which it stands and the first at which it gives water it is solved more closely. How many hours a month spends at each node (:mod:`squall.core.years.many_days`) makes the month's litres; every half
hour of the years is read between the same nodes (:mod:`squall.core.years.outlook`).
"""

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from squall.core.drive.tables import Course, on_volts
from squall.core.electrics.modules import Module, diode_at
from squall.core.electrics.timers import week_of
from squall.core.kit.bank import drawn_a, standing_a
from squall.core.kit.course import (
    DARK_W_M2,
    PanelStates,
    charge_at,
    power_in_window,
    powered_course,
    shadow_ways,
    sun_course,
    tracked,
    window_margin,
)
from squall.core.kit.layout import Falls
from squall.core.kit.parts import Panel
from squall.core.kit.setup import Setup
from squall.core.kit.supply import Banked
from squall.core.sky.outside import DAYS_IN_MONTH
from squall.core.sky.typical_days import STEPS, Post, cell_temperature
from squall.core.years.many_days import AIRS, LIGHTS, READ_LIGHTS, READ_PER_STEP, ManyDays, read_between
from squall.core.years.use import Use

Floats = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class Means:
    """What a kit makes of the years, as means.

    Attributes
    ----------
    litres : NDArray
        Litres a day by month, shape (12,), where every litre finds room: on a timer no more than its hours give, from a
        well no more than it yields. [L/d]
    rate_l_s : float
        Flow on a bank; 0 for a sun-driven kit. [L/s]
    nodes : NDArray
        At every node, shape (shades, airs, lights): flow of a sun-driven kit [L/s], or a bank's charging current. [A]
    most_v, most_a, most_l_s : float
        Volts and amps at the motor and flow in the brightest half hour of any month. [V], [A], [L/s]
    at_lowest : NDArray or None
        The same nodes with the source at its lowest of the year; None where its level stays. [L/s]
    falls : Falls or None
        How the level goes through the year.
    """

    litres: Floats
    rate_l_s: float
    nodes: Floats
    most_v: float = 0.0
    most_a: float = 0.0
    most_l_s: float = 0.0
    at_lowest: Floats | None = None
    falls: Falls | None = None

    def less(self, share: float, *, banked: bool) -> "Means":
        """The same where only a share of the flow arrives; a bank's nodes are what charges it, and stay. [-]"""
        return replace(
            self, litres=self.litres * share, rate_l_s=self.rate_l_s * share, nodes=self.nodes if banked else self.nodes * share,
            at_lowest=None if self.at_lowest is None else self.at_lowest * share,
        )  # fmt: skip


@dataclass(frozen=True)
class _Lit:
    """One panel at every light of the coldest and of the warmest air, by the light: where a kit is solved, and where it is read."""

    solved: PanelStates
    read: PanelStates


def _ends(days: ManyDays, lights_w_m2: Floats) -> tuple[Floats, Floats]:
    """Light and cells at some lights of the coldest and of the warmest air, shape (2 * lights,)."""
    light = np.tile(lights_w_m2, 2)
    return light, cell_temperature(np.repeat(days.airs_c[[0, -1]], lights_w_m2.size), light)


@lru_cache(maxsize=256)
def _states(module: Module, days: ManyDays) -> _Lit:
    """One panel in the open at every light, shape (2 * lights,)."""

    def of(lights_w_m2: Floats) -> PanelStates:
        light, cell = _ends(days, lights_w_m2)
        return PanelStates(diode_at(module, np.maximum(light, 1e-3), cell))

    return _Lit(of(days.lights_w_m2), of(days.read_w_m2))


@lru_cache(maxsize=64)
def _held_states(module: Module, days: ManyDays, strings: int) -> _Lit:
    """One panel at each of those and every shade but the open one, its string held to the shadow's light: the strings' mean."""
    shades = days.shades[:-1]

    def of(lights_w_m2: Floats) -> PanelStates:
        light, cell = _ends(days, lights_w_m2)
        plane = np.concatenate([((strings - 1) * light + light * shade) / strings for shade in shades])
        return PanelStates(diode_at(module, np.maximum(plane, DARK_W_M2), np.tile(cell, shades.size)))

    return _Lit(of(days.lights_w_m2), of(days.read_w_m2))


# What a setup makes of one panel's states: rows of figures where it is read, as if any window were wide enough, and the
# window's margin there.
Makes = Callable[[Setup, _Lit], tuple[Floats, Floats | None]]
_WARM = np.linspace(0.0, 1.0, AIRS)
_BETWEEN = np.stack([1.0 - _WARM, _WARM], axis=1)


def _nodes(lights: Floats, rows: Floats, margin: Floats | None) -> Floats:
    """Rows at both ends of the air, drawn out to all airs, nil in the dark and outside the window: (rows, shades, airs, lights).

    Between cold and warm air a kit's flow, volts and charge run straight; whether a controller's window is open does not,
    so its margin is drawn out and asked at each air.
    """
    full: Floats = _BETWEEN @ rows.reshape(rows.shape[0], -1, 2, lights.size)
    if margin is not None:
        full *= _BETWEEN @ margin.reshape(-1, 2, lights.size) >= 0.0
    full[..., lights <= DARK_W_M2] = 0.0
    return full


def _in_light_and_shadow(setup: Setup, days: ManyDays, post: Post | None, makes: Makes) -> Floats:
    """Figures at every node, shape (rows, shades, airs, lights); in a shadow the most of the ways of :func:`shadow_ways`."""
    kit, module, lights = setup.kit, setup.kit.panel.module, days.read_w_m2
    states = _states(module, days)
    bright = _nodes(lights, *makes(setup, states))
    if post is None or days.shade is None:
        return bright
    best = _nodes(lights, *makes(setup, _held_states(module, days, kit.in_parallel)))
    for way, _ in shadow_ways(kit, lights, lights, post.panels, post.bypass)[1:]:
        best = np.maximum(best, _nodes(lights, *makes(Setup(way, setup.layout, setup.cabling), states)))
    return np.concatenate([best, bright], axis=1)


def _runs(setup: Setup, lit: _Lit) -> tuple[Floats, Floats | None]:
    """Flow [L/s], volts and amps at the motor of a sun-driven kit; and its controller's window."""
    if setup.kit.controller is not None:
        power = read_between(power_in_window(setup, lit.solved))
        return _rows_of(powered_course(setup, setup.table, power)), read_between(window_margin(setup, lit.solved))
    solved = _rows_of(sun_course(setup, setup.table, lit.solved))
    rows = read_between(solved)
    starts = _where_it_starts(solved[0])
    if starts.size:
        rows[:, starts] = _rows_of(sun_course(setup, setup.table, lit.read.at(starts)))
    return rows, None


def _rows_of(course: Course) -> Floats:
    return np.stack([course.flow_m3_s * 1000.0, course.motor_v, course.motor_a])


# Lights read at about the start, from the last one solved at without water: over two steps it rises too steeply to be drawn straight.
_ABOUT_START = np.array([n for n in range(2 * READ_PER_STEP) if n % READ_PER_STEP])


def _where_it_starts(flow: Floats) -> NDArray[np.intp]:
    """Places read at about the lights at which water begins to come, of each row of lights solved at."""
    wet = flow.reshape(-1, LIGHTS.size) > 0.0
    row, light = np.nonzero(wet[:, 1:-1] & ~wet[:, :-2])
    first = row * READ_LIGHTS.size + light * READ_PER_STEP
    places: NDArray[np.intp] = (first[:, None] + _ABOUT_START).ravel()
    return places


def _charges(setup: Setup, lit: _Lit) -> tuple[Floats, Floats | None]:
    """Current into the bank [A], and a tracking charger's window."""
    kit, c, ohm = setup.kit, setup.kit.controller, setup.array_ohm
    assert c is not None
    if c.kind == "charge-tracking":
        power = tracked(c, ohm, lit.solved, kit.in_series, kit.in_parallel)
        return read_between(np.minimum(power / kit.charging_v, c.max_a)[None]), read_between(
            window_margin(setup, lit.solved)
        )
    return read_between(charge_at(c, kit.charging_v, ohm, lit.solved, kit.in_series, kit.in_parallel)[None]), None


def states_at_ends(module: Module, days: ManyDays) -> PanelStates:
    """One open panel at every light solved at, of the coldest air and then of the warmest."""
    return _states(module, days).solved


def weights_at_ends(days: ManyDays) -> Floats:
    """Hours a day that a month's light counts at those, shape (12, 2 * lights): what is drawn out between cold and warm air, summed. [h]"""
    lit = days.weights.sum(axis=1)
    lit[..., days.lights_w_m2 <= DARK_W_M2] = 0.0
    ends: Floats = np.einsum("mal,ae->mel", lit, _BETWEEN).reshape(12, -1)
    return ends


def power_nodes(module: Module, days: ManyDays) -> Floats:
    """Most power of one open panel at every air and light, shape (airs, lights): what no load takes more of. [W]"""
    states = states_at_ends(module, days)
    full: Floats = _nodes(days.lights_w_m2, (states.vmp_v * states.imp_a)[None], None)[0, 0]
    return full


@dataclass(frozen=True)
class _Charged:
    """What a bank's charging hangs on, whatever pump and hose it feeds; `setup` is any that has these."""

    panel: Panel
    in_series: int
    in_parallel: int
    supply: Banked
    array_ohm: float
    setup: Setup = field(compare=False)


@lru_cache(maxsize=64)
def _charge_nodes(what: _Charged, days: ManyDays, post: Post | None) -> tuple[Floats, Floats]:
    """Current into the bank at every node [A], and charge before losses by month, shape (12,). [Ah/d]"""
    nodes = _in_light_and_shadow(what.setup, days, post, _charges)[0]
    return nodes, days.flat_weights @ nodes.ravel()


def charging(
    setup: Setup, states: PanelStates, plane_w_m2: Floats, shaded_w_m2: Floats | None, cell_c: Floats, post: Post | None
) -> Floats:
    """Current into a kit's bank at a row of lights, a near shadow counted. [A]

    Parameters
    ----------
    setup : Setup
        The kit, where it stands and what joins it.
    states : PanelStates
        One open panel at each light.
    plane_w_m2, shaded_w_m2, cell_c : NDArray
        Light on the panels and on those in shadow, and the cells. [W/m2], [°C]
    post : Post or None
        What stands near.
    """
    kit, ohm, c = setup.kit, setup.array_ohm, setup.kit.controller
    assert c is not None
    amps = charge_at(c, kit.charging_v, ohm, states, kit.in_series, kit.in_parallel)
    if shaded_w_m2 is None or post is None:
        return amps
    where = shaded_w_m2 < plane_w_m2 - 1.0
    best = np.zeros(int(where.sum()))
    for way, plane in shadow_ways(kit, plane_w_m2[where], shaded_w_m2[where], post.panels, post.bypass):
        shaded = PanelStates(diode_at(kit.panel.module, np.maximum(plane, 1e-3), cell_c[where]))
        best = np.maximum(best, charge_at(c, kit.charging_v, ohm, shaded, way.in_series, way.in_parallel))
    amps = amps.copy()
    amps[where] = best
    return amps


def means_of(setup: Setup, days: ManyDays, post: Post | None, use: Use) -> Means:
    """What a kit makes of ten years of made weather, by month.

    Parameters
    ----------
    setup : Setup
        The kit, where it stands and what joins it.
    days : ManyDays
        The years on its panels.
    post : Post or None
        What shades them.
    use : Use
        For the well's yield, the battery's state and its timer.

    Returns
    -------
    Means
        Litres by month, and the nodes that :func:`outlook_of` reads.
    """
    kit = setup.kit
    if setup.layout.falls is not None:
        return _as_it_falls(setup, setup.layout.falls, days, post, use)
    well = use.most_of(kit)
    most = np.inf if well is None else well
    if kit.controller is None and well is None and (post is None or days.shade is None):
        return _straight(setup, days)
    if not isinstance(kit.supply, Banked):
        full = _in_light_and_shadow(setup, days, post, _runs)
        flow = np.minimum(full[0], most)
        litres: Floats = (days.flat_weights @ flow.ravel()) * 3600.0
        most_l_s, most_v, most_a = (full[:, -1].reshape(3, -1) @ days.peaks.T).max(axis=1).tolist()
        return Means(litres, 0.0, flow, most_v, most_a, most_l_s)
    volts_v, amps, rate, _ = on_volts(setup.table, kit.bank_ohm + setup.pump_ohm, kit.bank_v)
    peak_l_s = rate * 1000.0
    rate = min(rate * 1000.0, most)
    what = _Charged(kit.panel, kit.in_series, kit.in_parallel, kit.supply, setup.array_ohm, setup)
    charge, came_ah = _charge_nodes(what, days, post)
    if rate <= 0.0 or amps <= 0.0:
        return Means(np.zeros(12), 0.0, charge, volts_v, amps, 0.0)
    daily_ah = came_ah * kit.supply.battery.charge_efficiency - 24.0 * standing_a(kit, use.bank)
    allowed_h = 24.0 * float(week_of(use.bank.timer, STEPS).mean())
    hours = np.clip(daily_ah / drawn_a(amps, use.bank), 0.0, allowed_h)
    return Means(hours * rate * 3600.0, rate, charge, volts_v, amps, peak_l_s)


@lru_cache(maxsize=8)
def _counts_at_ends(days: ManyDays) -> tuple[Floats, Floats]:
    """What the nodes in the open count for, put on the coldest and the warmest air: hours a day by month, and the brightest half hours. [h], [-]"""
    hours = days.read_weights.sum(axis=1)
    both = np.stack([hours, days.peaks.reshape(hours.shape)])
    ends: Floats = np.einsum("kmal,ae->kmel", both, _BETWEEN).reshape(2, 12, -1)
    return ends[0], ends[1]


def _straight(setup: Setup, days: ManyDays) -> Means:
    """Of a kit joined straight, with no shadow and no weak well, everything runs straight between cold and warm air: the two ends tell it all."""
    hours, peaks = _counts_at_ends(days)
    rows, _ = _runs(setup, _states(setup.kit.panel.module, days))
    lights = days.read_w_m2
    rows.reshape(3, 2, -1)[..., lights <= DARK_W_M2] = 0.0
    most_l_s, most_v, most_a = (rows @ peaks.T).max(axis=1).tolist()
    nodes: Floats = (_BETWEEN @ rows[0].reshape(2, -1))[None]
    return Means((hours @ rows[0]) * 3600.0, 0.0, nodes, most_v, most_a, most_l_s)


def _as_it_falls(setup: Setup, falls: Falls, days: ManyDays, post: Post | None, use: Use) -> Means:
    """What a kit makes of a source that falls through the year: between the level surveyed and the lowest its flow runs straight.

    A bank's steady flow is taken at the lowest level all year.
    """
    now = means_of(Setup(setup.kit, setup.layout.steady, setup.cabling), days, post, use)
    low = means_of(Setup(setup.kit, setup.layout.lowest, setup.cabling), days, post, use)
    banked = isinstance(setup.kit.supply, Banked)
    litres = falls.between(low.litres if banked else now.litres, low.litres, np.arange(12))
    return Means(
        litres, low.rate_l_s, now.nodes, max(now.most_v, low.most_v), max(now.most_a, low.most_a),
        low.most_l_s if banked else now.most_l_s, None if banked else low.nodes, falls,
    )  # fmt: skip


def hours_over(setup: Setup, days: ManyDays, limit_v: float) -> float:
    """Hours a year, of ten made ones, whose half hour brings a sun-driven motor more than given volts [V]; no instants. [h]"""
    if isinstance(setup.kit.supply, Banked):
        return 0.0
    rows, margin = _runs(setup, _states(setup.kit.panel.module, days))
    over = _nodes(days.read_w_m2, rows[1:2], margin)[0, 0] > limit_v
    by_month = days.read_weights[:, -1].reshape(12, -1) @ over.ravel()
    return float(by_month @ np.array(DAYS_IN_MONTH))
