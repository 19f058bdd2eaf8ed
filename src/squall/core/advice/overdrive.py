"""Too many volts at noon, and three ways to limit them: a resistor, a regulator, a pump controller.

A panel joined straight to a pump may drive it past the volts that its maker allows. A dropping
resistor is simple, wastes, gets hot and is right at one light only; a regulator holds the limit
and passes what is below; a controller also turns volts into amps in weak light.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from squall.core.advice.rank import fitting_controller
from squall.core.advice.refusals import allowed_v
from squall.core.drive.tables import Course, LoadTable, on_array, on_volts
from squall.core.kit.course import sun_course
from squall.core.kit.parts import Controller
from squall.core.kit.setup import Cabling, Setup, table_on
from squall.core.kit.supply import Direct
from squall.core.reason import Reason
from squall.core.roots import root
from squall.core.sky.typical_days import STEP_H, Light
from squall.core.years.by_light import brightest_states, mild_states
from squall.core.years.lit import LitLight, lit_light
from squall.core.years.typical import Floats

# Volts that a regulator needs over what it gives: a guess. [V]
DROP_OUT_V = 0.5
# A resistor is bought for twice the heat that it must bear: common practice, no source.
RESISTOR_MARGIN = 2.0
COMPARED_LIGHTS = (200.0, 400.0, 600.0, 800.0, 1000.0)


@dataclass(frozen=True)
class Way:
    """One way of joining panel and pump, compared.

    Attributes
    ----------
    key, name : str
        ``bare``, ``resistor``, ``regulator`` or ``controller``; in plain words.
    most_v : float
        Highest volts at the pump at any instant of the year. [V]
    flows_m3_s : tuple[float, ...]
        At each of :data:`COMPARED_LIGHTS`, mild air. [m3/s]
    volts_v : tuple[float, ...]
        At the pump, there. [V]
    litres : tuple[float, ...]
        On the average day of each month. [L]
    ohms, heat_w : float
        Of the resistor; the most heat in it, or in the regulator's stead nil. [ohm], [W]
    price : float
        Of the added part, 0 where the catalogue has none. [catalogue's money]
    """

    key: str
    name: Reason
    most_v: float
    flows_m3_s: tuple[float, ...]
    volts_v: tuple[float, ...]
    litres: tuple[float, ...]
    ohms: float = 0.0
    heat_w: float = 0.0
    price: float = 0.0

    @property
    def resistor_w(self) -> float:
        """Watts that the resistor is bought for. [W]"""
        return RESISTOR_MARGIN * self.heat_w


def three_ways(
    setup: Setup, light: Light, controllers: tuple[Controller, ...], limit_v: float | None = None
) -> list[Way]:  # fmt: skip
    """Compare a panel joined straight with a resistor, a regulator and a controller between.

    Parameters
    ----------
    setup : Setup
        The kit on its line with its cables.
    light : Light
        The year's.
    controllers : tuple[Controller, ...]
        Those of the catalogue.
    limit_v : float, optional
        Volts to be held; what the pump stands without it. [V]

    Returns
    -------
    list[Way]
        Bare first. The resistor is sized for the brightest instant; where the bare panel stays
        under the limit it has nil ohms.
    """
    kit, layout, cabling = setup.kit, setup.layout, setup.cabling
    direct = replace(kit, supply=Direct())
    table = table_on(kit.pump.motor, layout, kit.hose)
    lit = lit_light(light, kit.panel.module)
    limit = limit_v if limit_v is not None else allowed_v(kit)
    ohm = cabling.pump_ohm(direct, layout)

    def course(extra_ohm: float) -> Course:
        return on_array(table, ohm + extra_ohm, lit.states.diode, kit.in_series, kit.in_parallel)

    bare = course(0.0)
    edge = brightest_states(kit.panel.module, layout.record_low_c).diode

    def most_v(extra_ohm: float) -> float:
        brightest = on_array(table, ohm + extra_ohm, edge, kit.in_series, kit.in_parallel)
        return max(float(course(extra_ohm).motor_v.max(initial=0.0)), float(brightest.motor_v[0]))

    added = _resistor(most_v, limit)
    held = course(added)
    alone, both = Setup(direct, layout, cabling), _both(cabling)
    ways = [
        _way("bare", Reason("straight-from-panel"), bare, lit, _compared(alone, table), most_v(0.0)),
        _way("resistor", Reason("with-resistor"), held, lit, _compared(alone, table, added), most_v(added)),
        _way(
            "regulator", Reason("with-regulator"), clipped(bare, table, limit), lit,
            clipped(_compared(alone, table), table, limit), min(most_v(0.0), limit),
        ),
    ]  # fmt: skip
    heat = float((held.motor_a**2).max(initial=0.0)) * added
    ways[1] = replace(ways[1], ohms=added, heat_w=heat)
    with_box, reason = fitting_controller(direct, controllers)
    if reason is None and with_box.controller is not None:
        driven = Setup(with_box, layout, both)
        name = Reason("with-controller", title=with_box.controller.title)
        way = _way("controller", name, sun_course(driven, table, lit.states), lit, _compared(driven, table))
        ways.append(replace(way, price=with_box.controller.price))
    return ways


def _both(cabling: Cabling) -> Cabling:
    """The same cable before and behind a box."""
    return cabling if cabling.array is not None else replace(cabling, array=cabling.pump)


def _resistor(most_v: Callable[[float], float], limit_v: float) -> float:
    if most_v(0.0) <= limit_v:
        return 0.0

    def over(ohms: float) -> float:
        return most_v(ohms) - limit_v

    high = 0.1
    while over(high) > 0.0:
        high *= 2.0
    return root(over, 0.0, high)


def clipped(course: Course, table: LoadTable, limit_v: float) -> Course:
    """A course behind a regulator: nothing above its limit [V], and its drop-out less everywhere below."""
    limit_v, amps, flow, beyond = on_volts(table, 0.0, limit_v)
    below = np.maximum(course.motor_v - DROP_OUT_V, 0.0)
    turns = below > table.volts_v[0]
    over = below >= limit_v

    def at(values: Floats, held: float) -> Floats:
        return np.where(over, held, np.where(turns, np.interp(below, table.volts_v, values), 0.0))

    return Course(
        np.where(over, limit_v, np.where(turns, below, 0.0)), at(table.current_a, amps), at(table.flow_m3_s, flow),
        np.where(over, 1.0 if beyond else 0.0, course.beyond),
    )  # fmt: skip


def monthly_litres(course: Course, lit: LitLight) -> tuple[float, ...]:
    """Litres on the average day of each month, of a course over the year's lit half hours. [L]"""
    total = np.bincount(lit.day, course.flow_m3_s, 24)[12:] * (STEP_H * 3_600_000.0)
    return tuple(float(v) for v in total)


def _compared(setup: Setup, table: LoadTable, added_ohm: float = 0.0) -> Course:
    """Course at the lights that ways are compared at."""
    kit = setup.kit
    states = mild_states(kit.panel.module, COMPARED_LIGHTS)
    if kit.controller is not None:
        return sun_course(setup, table, states)
    ohm = setup.cabling.pump_ohm(kit, setup.layout) + added_ohm
    return on_array(table, ohm, states.diode, kit.in_series, kit.in_parallel)


def _way(key: str, name: Reason, course: Course, lit: LitLight, row: Course, most_v: float | None = None) -> Way:
    highest = float(course.motor_v.max(initial=0.0)) if most_v is None else most_v
    return Way(
        key, name, highest, tuple(row.flow_m3_s.tolist()), tuple(row.motor_v.tolist()),
        monthly_litres(course, lit),
    )  # fmt: skip
