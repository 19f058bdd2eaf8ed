"""What a sun-driven kit gives at each light on a mild day, the light at which it begins, and its brightest instant."""

from functools import lru_cache

import numpy as np

from squall.core.drive.tables import Course
from squall.core.electrics.modules import Module, diode_at
from squall.core.kit.course import Floats, PanelStates, sun_course
from squall.core.kit.setup import Setup, table_on
from squall.core.kit.supply import Direct
from squall.core.sky.typical_days import NOCT_C

# The day by which starting light is told: mild air, and light in steps. [°C], [W/m2]
MILD_AIR_C, MILD_STEP_W_M2 = 18.0, 10.0
MILD_LIGHTS_W_M2 = np.arange(MILD_STEP_W_M2, 1201.0, MILD_STEP_W_M2)


@lru_cache(maxsize=2048)
def flow_by_light(setup: Setup) -> tuple[Floats, Course]:
    """Course of a sun-driven kit against light on a mild day (18 °C air). [m3/s]

    Parameters
    ----------
    setup : Setup
        The kit, without a bank of its own; where it stands and what joins it.

    Returns
    -------
    tuple
        Light, 10 to 1200 W/m2 in steps of 10, and the course there.
    """
    kit, layout = setup.kit, setup.layout
    table = table_on(kit.pump.motor, layout, kit.hose)
    return MILD_LIGHTS_W_M2, sun_course(setup, table, mild_states(kit.panel.module, tuple(MILD_LIGHTS_W_M2.tolist())))


@lru_cache(maxsize=256)
def mild_states(module: Module, lights_w_m2: tuple[float, ...]) -> PanelStates:
    """One panel at a row of lights [W/m2] on a mild day (18 °C air)."""
    light = np.array(lights_w_m2)
    return PanelStates(diode_at(module, light, MILD_AIR_C + (NOCT_C - 20.0) / 800.0 * light))


# The brightest instant: sun beside a cloud's lit edge on a record-cold day, cells still cold from its shadow.
# 1400 W/m2: R. H. Inman, Y. Chu, C. F. M. Coimbra, Solar Energy 130 (2016), 128-138, from memory. [W/m2]
EDGE_W_M2, SHADOW_W_M2 = 1400.0, 400.0


@lru_cache(maxsize=256)
def brightest_states(module: Module, record_low_c: float) -> PanelStates:
    """One panel at the brightest instant of the coldest day [°C]: at a cloud's edge, warmed by no more than its shadow."""
    cell = record_low_c + (NOCT_C - 20.0) / 800.0 * SHADOW_W_M2
    return PanelStates(diode_at(module, np.array([EDGE_W_M2]), np.array([cell])))


def instant_v(setup: Setup) -> float:
    """Volts at the motor at the brightest instant of the coldest day, panels straight on it; 0 from a bank or behind a box. [V]"""
    kit = setup.kit
    if not isinstance(kit.supply, Direct):
        return 0.0
    states = brightest_states(kit.panel.module, setup.layout.record_low_c)
    if setup.layout.round is None:
        return float(sun_course(setup, setup.table, states).motor_v[0])
    alone = [Setup(kit, place, setup.cabling) for place in setup.layout.places]
    return max(float(sun_course(each, each.table, states).motor_v[0]) for each in alone)


def start_light(setup: Setup) -> float | None:
    """Light at which water first arrives on a mild day, to within 10 W/m2; None if never. [W/m2]"""
    light, course = flow_by_light(setup)
    wet = np.nonzero(course.flow_m3_s > 0.0)[0]
    return float(light[wet[0]]) - 5.0 if wet.size else None
