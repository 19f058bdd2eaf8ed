"""A kit through whole years in ten-minute steps: light, pump, tank with float switch, battery, and what was wanted.

The drive of :mod:`squall.core.drive.solve` is solved at every lit step; between steps only the tank's
level and the battery's charge are remembered. Cost grows with the number of lit steps, so with the
years; the sun's path is worked out once for a place.
"""

import itertools
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from squall.core.drive.tables import LoadTable, on_volts
from squall.core.electrics.modules import Module, diode_at
from squall.core.electrics.timers import week_of
from squall.core.errors import OutOfRange, Stopped
from squall.core.kit.bank import AS_NEW, BankState, drawn_a, standing_a, usable_ah
from squall.core.kit.course import DARK_W_M2, PanelStates, sun_course, with_shadow
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Falls
from squall.core.kit.setup import Setup, table_on
from squall.core.kit.supply import Banked, Controlled
from squall.core.need.demand import Demand
from squall.core.reason import Between, Reason
from squall.core.sky.made_weather import DAYS, MONTH_OF_DAY
from squall.core.sky.outside import DAYS_IN_MONTH
from squall.core.sky.whole_year import DAY_STEPS, STEP_S, YEAR_STEPS, YearLight
from squall.core.years.nodes import charging
from squall.core.years.outlook import LET_GO_SHARE
from squall.core.years.record import SHORT_SHARE, Energy, Steps, YearRun
from squall.core.years.tanks import Tank
from squall.core.years.use import Use

Floats = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class Powered:
    """What a kit does at the lit steps of one year: flow [L/s], motor volts and amps, and for a bank its charging amps."""

    flow_l_s: Floats
    motor_v: Floats
    motor_a: Floats
    charge_a: Floats
    array_w: Floats
    lost_w: tuple[Floats, Floats, Floats]


def run_year(
    setup: Setup, light: YearLight, demand: Demand, tank: Tank | None, bank: BankState = AS_NEW,
) -> YearRun:  # fmt: skip
    """Run a kit through one year.

    Parameters
    ----------
    setup : Setup
        The kit on its line with its cables.
    light : YearLight
        Made or measured.
    demand : Demand
        What is wanted.
    tank : Tank or None
        Fed from above; begins full. Without one the use follows the sun: what a day wants is taken whenever it comes.
    bank : BankState
        The battery's state and timer.

    Returns
    -------
    YearRun
        365 days.
    """
    return run_years(setup, [light], Use((0.0,) * 12, demand, tank, tank is None, bank))


def run_years(
    setup: Setup, lights: "list[YearLight] | LazyYears", use: Use,
    progress: Callable[[float], bool] | None = None, begin: Floats | None = None,
) -> YearRun:  # fmt: skip
    """Run a kit through years in a row; tank and bank carry over.

    Parameters
    ----------
    setup : Setup
        The kit, where it stands and what joins it.
    lights : list of YearLight, or LazyYears
        One for each year.
    use : Use
        What is drawn day by day, where the water waits, how the battery fares; and what the well gives: a dry-run
        probe then stops the pump now and again, so that no more comes on average.
    progress : callable, optional
        Called with the share done, 0 to 1 [-]; answers False to stop.
    begin : NDArray, optional
        State to begin with, one of :attr:`YearRun.states`; without it tank and bank begin full.

    Raises
    ------
    Stopped
        If `progress` answers False.

    """
    kit, falls = setup.kit, setup.layout.falls
    from squall.core.years import kernels as compiled

    count = len(lights)
    if count < 1:
        raise OutOfRange("years", count, Between(1, None, "number"))
    # A bank's steady flow is taken at the lowest level of the year, as the quick verdict has it.
    low = setup if falls is None else Setup(kit, setup.layout.lowest, setup.cabling)
    demand, bank, most_l_s = use.demand, use.bank, use.most_of(kit)
    usable = usable_ah(kit, bank)
    steady = _on_bank(low, low.table)
    if most_l_s is not None and steady[2] > most_l_s:
        steady = (steady[0], steady[1], most_l_s)
    size, on, off = use.switched(isinstance(kit.supply, Banked))
    state = np.array([size, usable, 0.0, 0.0, 0.0, 0.0, 0.0]) if begin is None else begin.copy()
    wait = kit.supply.shade_wait_s if isinstance(kit.supply, Controlled) else 0.0
    allowed = week_of(bank.timer, DAY_STEPS)
    efficiency = kit.battery.charge_efficiency if kit.battery else 1.0
    figures = np.array([usable, 0.0, LET_GO_SHARE, efficiency, standing_a(kit, bank)])
    records, energies, lit_kwh, states = [], [], [], []
    trace, flow, powered = np.empty((4, YEAR_STEPS)), np.zeros(YEAR_STEPS), None
    for number in range(count):
        if progress is not None and not progress(number / count):
            raise Stopped(Reason("run-stopped-nothing-changed"))
        light = lights[number]
        powered = _powered(setup, light)
        if falls is not None:
            powered = _between(powered, _powered(low, light), falls, MONTH_OF_DAY[light.steps // DAY_STEPS])
        flow, charge = np.zeros(YEAR_STEPS), np.zeros(YEAR_STEPS)
        flow[light.steps], charge[light.steps] = powered.flow_l_s, powered.charge_a
        if most_l_s is not None:
            flow = np.minimum(flow, most_l_s)
        out = np.zeros((DAYS, compiled.COLUMNS))
        states.append(state.copy())
        for first, last, wet in _spans(falls, isinstance(kit.supply, Banked)):
            steps = slice(first * DAY_STEPS, last * DAY_STEPS)
            part = np.empty((4, (last - first) * DAY_STEPS))
            compiled.run_days(
                last - first, DAY_STEPS, STEP_S, MONTH_OF_DAY[first:last], demand.draw_l_s, flow[steps], size, on, off, wait,
                isinstance(kit.supply, Banked), use.by_sun, figures, np.roll(allowed, -(first % 7) * DAY_STEPS), charge[steps],
                drawn_a(steady[1], bank), steady[2] * wet, state, out[first:last], part, np.inf, SHORT_SHARE,
            )  # fmt: skip
            trace[:, steps] = part
        records.append(out)
        lit_kwh.append(light.day_kwh_m2)
        charge_ah = float(states[-1][1]), float(state[1]), _beside_ah(kit, bank, out)
        energies.append(_energy(setup, powered, trace[0], light, steady, out, charge_ah))
    days = np.concatenate(records)
    return YearRun(
        pumped_l=days[:, compiled.PUMPED], short_l=days[:, compiled.SHORT], spilled_l=days[:, compiled.SPILLED],
        wanted_l=days[:, compiled.WANTED], lowest_l=days[:, compiled.LOWEST], ended_l=days[:, compiled.ENDED],
        run_h=days[:, compiled.RUN_S] / 3600.0, starts=days[:, compiled.STARTS],
        charge_low_ah=days[:, compiled.CHARGE_LOW], charge_end_ah=days[:, compiled.CHARGE_END],
        wasted_ah=days[:, compiled.WASTED_AH], light_kwh_m2=np.concatenate(lit_kwh), tank_l=size, bank_ah=usable,
        energy=Energy(*(sum(values) for values in zip(*energies, strict=True))), states=np.array(states),
        last=_last_of(powered, light, flow, trace, steady),
    )  # fmt: skip


def _beside_ah(kit: Kit, bank: BankState, out: Floats) -> float:
    """Charge that a year takes beside the pump's own: the charger's, other loads', a relay's coil while the pump runs. [Ah]"""
    from squall.core.years import kernels as compiled

    return standing_a(kit, bank) * 24.0 * DAYS + bank.coil_a * float(out[:, compiled.RUN_S].sum()) / 3600.0


def _spans(falls: Falls | None, banked: bool) -> list[tuple[int, int, float]]:
    """Days of a year that are run in one go, and the share of them on which the intake is covered: all of it, but for banks whose intake lies bare."""
    if falls is None or not banked or not any(falls.bare):
        return [(0, DAYS, 1.0)]
    ends = np.cumsum((0, *DAYS_IN_MONTH)).tolist()
    return [(a, b, 1.0 - bare) for (a, b), bare in zip(itertools.pairwise(ends), falls.bare, strict=True)]


def _between(now: Powered, low: Powered, falls: Falls, month: NDArray[np.int64]) -> Powered:
    """What is driven at each lit step with the source's level as it goes, between the surveyed and the lowest of the year."""

    def at(a: Floats, b: Floats) -> Floats:
        return falls.between(a, b, month)

    lost = at(now.lost_w[0], low.lost_w[0]), at(now.lost_w[1], low.lost_w[1]), at(now.lost_w[2], low.lost_w[2])
    return Powered(
        at(now.flow_l_s, low.flow_l_s), at(now.motor_v, low.motor_v), at(now.motor_a, low.motor_a),
        now.charge_a, at(now.array_w, low.array_w), lost,
    )  # fmt: skip


def _last_of(
    powered: "Powered | None", light: YearLight, flow_l_s: Floats, trace: Floats, steady: tuple[float, float, float]
) -> Steps:  # fmt: skip
    assert powered is not None
    shape = (DAYS, DAY_STEPS)

    def over_year(values: Floats) -> Floats:
        full = np.zeros(YEAR_STEPS)
        full[light.steps] = values
        return full.reshape(shape)

    ran, level, charge, short = (row.reshape(shape) for row in trace)
    if steady[2] > 0.0:
        volts, amps, flow = (np.full(shape, value) for value in steady)
    else:
        volts, amps, flow = over_year(powered.motor_v), over_year(powered.motor_a), flow_l_s.reshape(shape)
    return Steps(over_year(light.plane_w_m2), flow, volts, amps, ran, level, charge, short)


@dataclass(frozen=True)
class LazyYears:
    """Years whose light is worked out one by one, as they are run."""

    count: int
    make: Callable[[int], YearLight]

    def __len__(self) -> int:
        return self.count

    def __getitem__(self, number: int) -> YearLight:
        return self.make(number)


def _on_bank(setup: Setup, table: LoadTable) -> tuple[float, float, float]:
    """Motor volts, amps and flow [L/s] on a bank of steady volts; nil without one."""
    kit, layout, cabling = setup.kit, setup.layout, setup.cabling
    if not isinstance(kit.supply, Banked):
        return 0.0, 0.0, 0.0
    volts, amps, flow, _ = on_volts(table, kit.bank_ohm + cabling.pump_ohm(kit, layout), kit.bank_v)
    return volts, amps, flow * 1000.0


@lru_cache(maxsize=1)
def states_of(module: Module, light: YearLight) -> PanelStates:
    """One panel at every lit step of a year, remembered for the last: a source that falls asks twice."""
    return PanelStates(diode_at(module, np.maximum(light.plane_w_m2, 1e-3), light.cell_c))


def _powered(setup: Setup, light: YearLight) -> Powered:
    kit, layout, cabling = setup.kit, setup.layout, setup.cabling
    table = table_on(kit.pump.motor, layout, kit.hose)
    dim = light.plane_w_m2 <= DARK_W_M2
    states = states_of(kit.panel.module, light)
    nothing = np.zeros(light.steps.size)
    if isinstance(kit.supply, Banked):
        amps = charging(setup, states, light.plane_w_m2, light.shaded_w_m2, light.cell_c, light.post)
        amps[dim] = 0.0
        return Powered(nothing, nothing, nothing, amps, *_charge_power(setup, amps))
    course = sun_course(setup, table, states)
    if light.shaded_w_m2 is not None and light.post is not None:
        course = with_shadow(setup, table, course, light.plane_w_m2, light.shaded_w_m2, light.cell_c, light.post)
    for values in course.rows:
        values[dim] = 0.0
    volts, amps = course.motor_v, course.motor_a
    pump_ohm = cabling.pump_ohm(kit, layout)
    in_pump_cable = amps**2 * pump_ohm
    if kit.controller is None:
        d, source_v = states.diode, (volts + amps * pump_ohm) / kit.in_series
        junction = source_v + amps / kit.in_parallel * d.series_ohm
        own = d.light_current_a - d.saturation_current_a * np.expm1(np.minimum(junction / d.ideality_v, 500.0))
        own -= junction / d.shunt_ohm
        array_w = np.where(amps > 0.0, source_v * kit.in_series * own * kit.in_parallel, 0.0)
        if light.shaded_w_m2 is not None:  # in a shadow the string is not one of like panels: take what arrives
            hidden = light.shaded_w_m2 < light.plane_w_m2 - 1.0
            array_w = np.where(hidden, volts * amps + in_pump_cable, array_w)
        return Powered(course.flow_m3_s * 1000.0, volts, amps, nothing, array_w, (nothing, nothing, in_pump_cable))
    at_output = volts * amps + in_pump_cable
    taken = at_output / kit.controller.efficiency
    array_v = states.vmp_v * kit.in_series
    ohm = cabling.array_ohm(layout)
    # What the controller takes comes over the array's cable: V I - I^2 R = taken.
    root = np.sqrt(np.maximum(array_v**2 - 4.0 * ohm * taken, 0.0))
    array_a = np.where(at_output > 0.0, 2.0 * taken / np.maximum(array_v + root, 1e-9), 0.0)
    in_array_cable = array_a**2 * ohm
    return Powered(
        course.flow_m3_s * 1000.0, volts, amps, nothing, array_a * array_v,
        (taken - at_output, in_array_cable, in_pump_cable),
    )  # fmt: skip


def _charge_power(setup: Setup, amps: Floats) -> tuple[Floats, tuple[Floats, Floats, Floats]]:
    """Array's power while charging, and what controller and cables lose of it."""
    kit, layout, cabling = setup.kit, setup.layout, setup.cabling
    c = kit.controller
    assert c is not None
    ohm, into = cabling.array_ohm(layout), amps * kit.charging_v
    none = np.zeros(amps.size)
    if c.kind == "charge-tracking":
        lost = into / c.efficiency - into
        return into + lost, (lost, none, none)
    in_cable = amps**2 * ohm
    return into + in_cable, (none, in_cable, none)


def _energy(
    setup: Setup, powered: Powered, share: Floats, light: YearLight,
    steady: tuple[float, float, float], out: Floats, charge: tuple[float, float, float],
) -> tuple[float, ...]:  # fmt: skip
    """One year's account: array, controller, array cable, pump cable, motor, battery; charge at both ends, and taken beside the pump. [Wh], [Ah]"""
    kit, layout, cabling = setup.kit, setup.layout, setup.cabling
    from squall.core.years import kernels as compiled

    hours = STEP_S / 3600.0
    if not isinstance(kit.supply, Banked):
        ran = share[light.steps] * hours
        array, lost = float((powered.array_w * ran).sum()), [float((part * ran).sum()) for part in powered.lost_w]
        return array, *lost, float((powered.motor_v * powered.motor_a * ran).sum()), 0.0
    battery = kit.battery
    assert battery is not None
    array, lost = float(powered.array_w.sum()) * hours, [float(part.sum()) * hours for part in powered.lost_w]
    run_h = float(out[:, compiled.RUN_S].sum()) / 3600.0
    motor_v, amps, _ = steady
    motor = motor_v * amps * run_h
    in_cable = amps**2 * cabling.pump_ohm(kit, layout) * run_h
    in_bank = amps**2 * kit.bank_ohm * run_h
    came = float(powered.charge_a.sum()) * hours
    wasted = float(out[:, compiled.WASTED_AH].sum())
    kept = came - wasted
    unused = (kept * (1.0 - battery.charge_efficiency) + wasted + charge[2] + charge[1] - charge[0]) * kit.bank_v
    unused += came * (kit.charging_v - kit.bank_v)  # charge goes in at more volts than it comes out
    return array, lost[0], lost[1], lost[2] + in_cable, motor, in_bank + unused
