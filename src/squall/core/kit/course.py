"""What panels drive at a row of lights: a pump joined straight, behind a controller, in a near shadow, or a bank."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from squall.core.drive.mismatch import Met, MixedCurve, meet
from squall.core.drive.tables import Course, LoadTable, array_into_volts, marked_points, on_array, on_power
from squall.core.electrics.modules import Diode, diode_at
from squall.core.kit.kit import Kit
from squall.core.kit.outlets import in_turn
from squall.core.kit.parts import Controller
from squall.core.kit.setup import Setup, table_for
from squall.core.sky.typical_days import Post

Floats = NDArray[np.float64]
DARK_W_M2 = 5.0


@dataclass(frozen=True, eq=False)
class PanelStates:
    """One module at a row of lights: its diode, and on demand its maximum power and open volts. [V], [A], [V]"""

    diode: Diode

    @cached_property
    def _marked(self) -> tuple[Floats, Floats, Floats]:
        return marked_points(self.diode)

    @property
    def vmp_v(self) -> Floats:
        """Volts at maximum power. [V]"""
        return self._marked[0]

    @property
    def imp_a(self) -> Floats:
        """Amps at maximum power. [A]"""
        return self._marked[1]

    @property
    def voc_v(self) -> Floats:
        """Open volts. [V]"""
        return self._marked[2]

    def at(self, place: NDArray[np.bool_] | NDArray[np.intp]) -> "PanelStates":
        """The same at some of the lights."""
        d = self.diode
        return PanelStates(
            Diode(
                d.light_current_a[place], d.saturation_current_a[place], d.series_ohm[place], d.shunt_ohm[place],
                d.ideality_v[place],
            )
        )  # fmt: skip


def sun_course(setup: Setup, table: LoadTable, states: PanelStates) -> Course:
    """Course of a sun-driven kit over a row of lights.

    Parameters
    ----------
    setup : Setup
        The kit on its line with its cables.
    table : LoadTable
        Its motor on the line.
    states : PanelStates
        One of its panels at each light.

    Returns
    -------
    Course
        One entry a light.
    """
    kit, pump_ohm = setup.kit, setup.pump_ohm
    if kit.controller is None:
        return served(setup, table, lambda on: on_array(on, pump_ohm, states.diode, kit.in_series, kit.in_parallel))
    return powered_course(setup, table, controller_power(setup, states))


def powered_course(setup: Setup, table: LoadTable, power_w: Floats) -> Course:
    """Course of a kit whose pump controller gives such powers. [W]"""
    assert setup.kit.controller is not None
    top, pump_ohm = setup.kit.controller.out_max_v, setup.pump_ohm
    return served(setup, table, lambda on: on_power(on, pump_ohm, power_w, top))


def served(setup: Setup, table: LoadTable, course_on: Callable[[LoadTable], Course]) -> Course:
    """A course on the setup's own table; where places take turns, on each place's for the time that it takes."""
    layout, kit = setup.layout, setup.kit
    if layout.round is None or layout.round.mode == "together":
        return course_on(table)
    each = [course_on(table_for(kit.pump.motor, place.line(kit.hose))) for place in layout.places]
    return in_turn(each, layout.round.shares)


def controller_power(setup: Setup, states: PanelStates) -> Floats:
    """Power that a pump controller can give at a row of lights: none outside its window. [W]"""
    return np.where(window_margin(setup, states) >= 0.0, power_in_window(setup, states), 0.0)


def power_in_window(setup: Setup, states: PanelStates) -> Floats:
    """Power that a pump controller could give at a row of lights, were its window wide enough. [W]"""
    kit, c = setup.kit, setup.kit.controller
    assert c is not None
    power = tracked(c, setup.array_ohm, states, kit.in_series, kit.in_parallel)
    most: Floats = np.minimum(power, c.max_a * c.out_max_v)
    return most


def window_margin(setup: Setup, states: PanelStates) -> Floats:
    """How far a row of lights lies within a controller's window, as a share of its bounds; below 0 it stands. [-]

    Best volts are to be over its least; a pump controller's open volts under its most.
    """
    kit, c = setup.kit, setup.kit.controller
    assert c is not None
    over: Floats = states.vmp_v * kit.in_series / max(c.min_v, 1e-9) - 1.0
    if c.kind != "pump":
        return over
    return np.minimum(over, 1.0 - states.voc_v * kit.in_series / c.max_v)


def shadow_ways(
    kit: Kit, plane_w_m2: Floats, shaded_w_m2: Floats, panels: int, bypass: bool
) -> list[tuple[Kit, Floats]]:
    """What an array with some panels of one string in shadow may work as: kits and the light on all their panels.

    Parameters
    ----------
    kit : Kit
        The kit.
    plane_w_m2 : NDArray
        Light on the open panels. [W/m2]
    shaded_w_m2 : NDArray
        Light on those in shadow. [W/m2]
    panels : int
        How many of one string stand in shadow.
    bypass : bool
        Whether they have bypass diodes.

    Notes
    -----
    The shaded panels hold their string to their own light (other strings in parallel bring theirs,
    so the mean counts); or their string drops out and the others go on; or, with bypass diodes, the
    current goes around them and every string works at the volts of one that many panels shorter.
    The pump gets whichever gives most. Against the exact curve, with one panel at a fifth of the
    light, it finds 7 % less to 14 % more with bypass diodes (their 0.5 V isn't taken off), and never
    more without.
    """
    strings = kit.in_parallel
    ways = [(kit, ((strings - 1) * plane_w_m2 + shaded_w_m2) / strings)]
    if strings > 1:
        ways.append((replace(kit, in_parallel=strings - 1), plane_w_m2))
    if bypass and kit.in_series > panels:
        ways.append((replace(kit, in_series=kit.in_series - panels), plane_w_m2))
    return ways


def with_shadow(
    setup: Setup, table: LoadTable, course: Course,
    plane_w_m2: Floats, shaded_w_m2: Floats, cell_c: Floats, post: Post,
) -> Course:  # fmt: skip
    """A course with the hours in which a near shadow lies on one string put in.

    Parameters
    ----------
    setup : Setup
        The kit on its line with its cables.
    table
        As they stand.
    course : Course
        Without shadow.
    plane_w_m2, shaded_w_m2, cell_c : NDArray
        Light on the panels, on those in shadow (equal where no shadow falls), and of the cells. [W/m2], [°C]
    post : Post
        What stands there, how many panels it shades, and whether they have bypass diodes.

    Returns
    -------
    Course
        By :func:`shadow_ways`.
    """
    kit, layout, cabling = setup.kit, setup.layout, setup.cabling
    where = shaded_w_m2 < plane_w_m2 - 1.0
    if not where.any():
        return course
    best = Course(*(np.zeros(int(where.sum())) for _ in range(4)))
    for way, light in shadow_ways(kit, plane_w_m2[where], shaded_w_m2[where], post.panels, post.bypass):
        diode = diode_at(kit.panel.module, np.maximum(light, DARK_W_M2), cell_c[where])
        tried = sun_course(Setup(way, layout, cabling), table, PanelStates(diode))
        better = tried.flow_m3_s > best.flow_m3_s
        best = Course(*(np.where(better, new, old) for new, old in zip(tried.rows, best.rows, strict=True)))
    merged = []
    for whole, part in zip(course.rows, best.rows, strict=True):
        values = whole.copy()
        values[where] = part
        merged.append(values)
    return Course(*merged)


def tracked(controller: Controller, array_ohm: float, states: PanelStates, in_series: int, in_parallel: int) -> Floats:
    """Power that a controller which tracks could give at a row of lights, were its window wide enough.

    Parameters
    ----------
    controller : Controller
        Of a pump or a bank.
    array_ohm : float
        Of the array's cable, there and back. [ohm]
    states : PanelStates
        One panel at each light.
    in_series, in_parallel : int
        How the panels are joined.

    Returns
    -------
    NDArray
        Power. [W]
    """
    volts, amps = states.vmp_v * in_series, states.imp_a * in_parallel
    power: Floats = controller.efficiency * np.maximum(volts * amps - amps**2 * array_ohm, 0.0)
    return power


def charge_at(
    controller: Controller, bank_v: float, array_ohm: float, states: PanelStates, in_series: int, in_parallel: int
) -> Floats:
    """Current into a bank at a row of lights, as :func:`charge_current` has it.

    Parameters
    ----------
    controller : Controller
        The charge controller.
    bank_v : float
        Volts of the bank. [V]
    array_ohm : float
        Resistance from panels to controller, there and back. [ohm]
    states : PanelStates
        One panel at each light.
    in_series, in_parallel : int
        How the panels are joined.

    Returns
    -------
    NDArray
        Current. [A]
    """
    if controller.kind == "charge-tracking":
        power = tracked(controller, array_ohm, states, in_series, in_parallel)
        power = np.where(states.vmp_v * in_series >= controller.min_v, power, 0.0)
        return np.minimum(power / bank_v, controller.max_a)
    return np.minimum(array_into_volts(bank_v, array_ohm, states.diode, in_series, in_parallel), controller.max_a)


def met_by(setup: Setup, curve: MixedCurve) -> Met:
    """What a sun-driven kit's pump makes of panels that aren't all alike in light: straight on them, or behind its controller.

    Parameters
    ----------
    setup : Setup
        The kit, without a bank; where it stands and what joins it.
    curve : MixedCurve
        Its array, some of it in shadow.

    Returns
    -------
    Met
        Behind a controller, what it makes of the highest of the tops that it may find; nil outside its window.
        [V], [A], [m3/s]
    """
    c = setup.kit.controller
    if c is None:
        return meet(setup.table, setup.pump_ohm, curve)
    volts, amps = curve.best
    if volts < c.min_v or curve.open_v > c.max_v:
        return Met(0.0, 0.0, 0.0)
    power = c.efficiency * max(volts * amps - amps**2 * setup.array_ohm, 0.0)
    course = on_power(setup.table, setup.pump_ohm, np.array([min(power, c.max_a * c.out_max_v)]), c.out_max_v)
    return Met(float(course.motor_v[0]), float(course.motor_a[0]), float(course.flow_m3_s[0]))
