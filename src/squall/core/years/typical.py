"""A kit through the year's typical days: flow by the half hour, litres a day by month."""

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from squall.core.drive.solve import Battery, DriveResult, solve
from squall.core.drive.tables import Course, LoadTable, on_volts
from squall.core.electrics.modules import Module, diode_at
from squall.core.kit.course import DARK_W_M2, PanelStates, charge_at, sun_course, with_shadow
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Layout
from squall.core.kit.parts import Controller, Panel
from squall.core.kit.setup import Setup, table_for
from squall.core.kit.supply import Banked
from squall.core.reason import Reason, Told
from squall.core.sky.typical_days import AVERAGE, CLEAR, STEP_H, STEPS, Light, Post
from squall.core.years.by_light import start_light

Floats = NDArray[np.float64]
_LITRES_A_STEP = STEP_H * 3600.0 * 1000.0


@dataclass(frozen=True)
class Season:
    """What a kit gives through the year.

    Attributes
    ----------
    hours : NDArray
        Middle of each half hour. [h]
    flow_m3_s, motor_v, motor_a : NDArray
        Shape (2, 12, 48): clear days, then average days. [m3/s], [V], [A]
    beyond : NDArray
        1 where flow is counted only up to the pump's last measured point.
    plane_w_m2 : NDArray
        Light, same shape. [W/m2]
    start_w_m2 : float or None
        Light at which water first arrives on a mild day; None if never, or from a battery. [W/m2]
    stopped : tuple[str, ...]
        Why it gives nothing at all, if so.
    """

    hours: Floats
    flow_m3_s: Floats
    motor_v: Floats
    motor_a: Floats
    beyond: Floats
    plane_w_m2: Floats
    start_w_m2: float | None
    stopped: tuple[Told, ...] = ()

    @cached_property
    def litres(self) -> Floats:
        """Litres a day, shape (2, 12). [l]"""
        total: Floats = self.flow_m3_s.sum(axis=2) * _LITRES_A_STEP
        return total

    @property
    def average_litres(self) -> Floats:
        """Litres on the average day of each month, shape (12,). [l]"""
        average: Floats = self.litres[AVERAGE]
        return average

    @property
    def clear_litres(self) -> Floats:
        """Litres on a clear day of each month, shape (12,). [l]"""
        clear: Floats = self.litres[CLEAR]
        return clear

    def share_of(self, need_l: tuple[float, ...]) -> Floats:
        """Average litres over need, by month; infinite where nothing is needed. [-]"""
        need = np.array(need_l)
        share: Floats = np.divide(self.average_litres, need, out=np.full(12, np.inf), where=need > 0.0)
        return share

    def worst_month(self, need_l: tuple[float, ...]) -> int:
        """Index of the month whose average day covers least of its need [l] (least water if none)."""
        share = self.share_of(need_l)
        if not np.isfinite(share).any():
            return int(np.argmin(self.average_litres))
        return int(np.argmin(share))

    def water_hours(self, kind: int, month: int) -> tuple[float, float] | None:
        """Clock hours of first and last water on one day, or None. [h]

        Between two half hours the moment is read where the light crosses the starting light.
        """
        wet = np.nonzero(self.flow_m3_s[kind, month] > 0.0)[0]
        if wet.size == 0:
            return None
        first, last = int(wet[0]), int(wet[-1])
        return self._edge(kind, month, first, -1), self._edge(kind, month, last, 1)

    def _edge(self, kind: int, month: int, step: int, side: int) -> float:
        half = side * STEP_H / 2.0
        other = step + side
        if self.start_w_m2 is None or not 0 <= other < STEPS:
            return float(self.hours[step] + half)
        inside, outside = self.plane_w_m2[kind, month, step], self.plane_w_m2[kind, month, other]
        if inside <= self.start_w_m2 or inside <= outside:
            return float(self.hours[step] + half)
        share = min(max((inside - self.start_w_m2) / (inside - outside), 0.0), 1.0)
        return float(self.hours[step] + side * STEP_H * share)

    @property
    def gives_water(self) -> bool:
        """Whether it ever does."""
        return bool((self.flow_m3_s > 0.0).any())

    @property
    def most_motor_v(self) -> float:
        """Highest volts at the motor on any clear day. [V]"""
        return float(self.motor_v.max())

    @property
    def most_motor_a(self) -> float:
        """Highest running current on any day. [A]"""
        return float(self.motor_a[self.flow_m3_s > 0.0].max()) if (self.flow_m3_s > 0.0).any() else 0.0

    @property
    def most_flow_m3_s(self) -> float:
        """Most flow in any half hour of any day. [m3/s]"""
        return float(self.flow_m3_s.max())

    def hours_run(self, month: int) -> float:
        """Hours with water on the average day of a month. [h]"""
        return float((self.flow_m3_s[AVERAGE, month] > 0.0).sum() * STEP_H)

    @property
    def hours_a_year(self) -> float:
        """Hours with water in a year of average days. [h]"""
        return sum(self.hours_run(month) for month in range(12)) * 365.0 / 12.0


@dataclass(frozen=True, eq=False)
class LitLight:
    """The lit half hours of the year, the day each belongs to, and one module's states in them.

    `day` counts the twelve clear days first, then the twelve average ones. `shaded_w_m2` is the
    light on a panel in a near shadow, None where nothing stands near.
    """

    lit: NDArray[np.bool_]
    day: NDArray[np.int64]
    states: PanelStates
    plane_w_m2: Floats
    cell_c: Floats
    shaded_w_m2: Floats | None = None
    post: Post | None = None


@lru_cache(maxsize=256)
def lit_light(light: Light, module: Module) -> LitLight:
    """Diode and maximum power of one module in every lit half hour, remembered per light.

    Parameters
    ----------
    light : Light
        The year's light.
    module : Module
        The panel.

    Returns
    -------
    LitLight
        Half hours with more than 5 W/m2.
    """
    lit = light.plane_w_m2 > DARK_W_M2
    diode = diode_at(module, light.plane_w_m2[lit], light.cell_c[lit])
    kind, month, _ = np.nonzero(lit)
    shaded = None if light.shaded_w_m2 is None else light.shaded_w_m2[lit]
    return LitLight(
        lit, kind * 12 + month, PanelStates(diode), light.plane_w_m2[lit], light.cell_c[lit], shaded, light.post
    )


def year_of(setup: Setup, light: Light, *, start: bool = True) -> Season:
    """Run a kit through the clear and the average day of each month.

    Parameters
    ----------
    setup : Setup
        The kit, where it stands and what joins it.
    light : Light
        Half-hourly light and heat.
    start : bool
        Whether to find the light at which water first arrives.

    Returns
    -------
    Season
        Flow, volts and amps by the half hour.

    Notes
    -----
    Panel direct and pump controller: the drive of :mod:`squall.core.drive.solve` at every half hour,
    no storage of speed between them. Battery: the day's charge into the battery, less the
    controller's own draw, buys pumping time at the battery's volts; that time is laid around
    noon. Where the pump would run past its last measured point, only the flow at that point is
    counted.
    """
    kit, layout = setup.kit, setup.layout
    table = table_for(kit.pump.motor, layout.line(kit.hose))
    sunlit = lit_light(light, kit.panel.module)
    if isinstance(kit.supply, Banked):
        return _battery_year(setup, light, table)
    course = _lit_course(setup, table, sunlit)

    def over_days(values: Floats) -> Floats:
        full = np.zeros(light.plane_w_m2.shape)
        full[sunlit.lit] = values
        return full

    first = start_light(setup) if start else None
    return Season(
        light.hours, over_days(course.flow_m3_s), over_days(course.motor_v), over_days(course.motor_a),
        over_days(course.beyond), light.plane_w_m2, first,
    )  # fmt: skip


def _lit_course(setup: Setup, table: LoadTable, lit: LitLight) -> Course:
    course = sun_course(setup, table, lit.states)
    if lit.shaded_w_m2 is None or lit.post is None:
        return course
    return with_shadow(setup, table, course, lit.plane_w_m2, lit.shaded_w_m2, lit.cell_c, lit.post)


@dataclass(frozen=True)
class _BatteryDays:
    """Steady volts, amps and flow on the bank, whether that flow is a lower bound, and hours a day, (2, 12)."""

    motor_v: float
    motor_a: float
    flow_m3_s: float
    beyond: bool
    hours: Floats


def _battery_days(setup: Setup, light: Light, table: LoadTable) -> _BatteryDays:
    kit, layout, cabling = setup.kit, setup.layout, setup.cabling
    battery, controller = kit.battery, kit.controller
    assert battery is not None
    assert controller is not None
    loop_ohm = kit.bank_ohm + cabling.pump_ohm(kit, layout)
    motor_v, motor_a, rate, held = on_volts(table, loop_ohm, kit.bank_v)
    if rate <= 0.0:
        return _BatteryDays(motor_v, motor_a, 0.0, held, np.zeros((2, 12)))
    daily_ah = daily_charge(setup, light) * battery.charge_efficiency - 24.0 * controller.own_a
    return _BatteryDays(motor_v, motor_a, rate, held, np.clip(daily_ah / motor_a, 0.0, 24.0))


def _no_lift_on(kit: Kit) -> Reason:
    return Reason("pump-cant-push-water-over-lift", bank=kit.bank_v)


def _battery_year(setup: Setup, light: Light, table: LoadTable) -> Season:
    kit = setup.kit
    days = _battery_days(setup, light, table)
    stopped = () if days.flow_m3_s > 0.0 else (_no_lift_on(kit),)
    share = _around_noon(days.hours, light.hours)
    runs: Floats = np.where(share > 0.0, 1.0, 0.0)
    return Season(
        light.hours, days.flow_m3_s * share, days.motor_v * runs, days.motor_a * runs, float(days.beyond) * runs,
        light.plane_w_m2, None, stopped,
    )  # fmt: skip


@dataclass(frozen=True)
class YearSum:
    """A year in few numbers, as ranking needs them; each as the :class:`Season` of the same kit has it.

    Attributes
    ----------
    average_litres : NDArray
        Litres on the average day of each month, shape (12,).
    most_motor_v, most_motor_a, most_flow_m3_s : float
        Highest in any half hour with water. [V], [A], [m3/s]
    gives_water : bool
        Whether it ever does.
    stopped : tuple[str, ...]
        Why it gives nothing at all, if so.
    """

    average_litres: Floats
    most_motor_v: float
    most_motor_a: float
    most_flow_m3_s: float
    gives_water: bool
    stopped: tuple[Told, ...] = ()


def sum_of_year(setup: Setup, light: Light) -> YearSum:
    """Run a kit through the year as :func:`year_of` does, keeping only what ranking needs."""
    kit, layout = setup.kit, setup.layout
    table = table_for(kit.pump.motor, layout.line(kit.hose))
    if isinstance(kit.supply, Banked):
        days = _battery_days(setup, light, table)
        litres: Floats = days.hours[AVERAGE] * (days.flow_m3_s * 3_600_000.0)
        flows = days.flow_m3_s > 0.0
        return YearSum(litres, days.motor_v, days.motor_a, days.flow_m3_s, flows, () if flows else (_no_lift_on(kit),))
    sunlit = lit_light(light, kit.panel.module)
    course = _lit_course(setup, table, sunlit)
    total: Floats = np.bincount(sunlit.day, course.flow_m3_s, 24)[12:].astype(np.float64) * _LITRES_A_STEP
    most_v = float(course.motor_v.max(initial=0.0))
    most_a = float(course.motor_a[int(course.motor_v.argmax())]) if course.motor_v.size else 0.0
    return YearSum(total, most_v, most_a, float(course.flow_m3_s.max(initial=0.0)), bool(course.flow_m3_s.any()))


def charge_current(setup: Setup, light: Light) -> Floats:
    """Current into the battery bank in each lit half hour. [A]

    A tracking charge controller turns the array's maximum power, less the cable's loss, into
    current at the bank's volts; a switching one passes the array's own current at those volts.
    Both stop at their rated current.
    """
    kit, layout, cabling = setup.kit, setup.layout, setup.cabling
    assert kit.controller is not None
    return _remembered_charge(
        kit.panel, kit.in_series, kit.in_parallel, kit.controller, kit.bank_v, cabling.array_ohm(layout), light
    )


def daily_charge(setup: Setup, light: Light) -> Floats:
    """Charge into the battery bank on each day, shape (2, 12). [Ah]"""
    kit = setup.kit
    amps = charge_current(setup, light)
    day = lit_light(light, kit.panel.module).day
    charge: Floats = np.bincount(day, amps, 24).reshape(2, 12).astype(np.float64) * STEP_H
    return charge


@lru_cache(maxsize=512)
def _remembered_charge(
    panel: Panel,
    in_series: int,
    in_parallel: int,
    controller: Controller,
    bank_v: float,
    array_ohm: float,
    light: Light,
) -> Floats:
    sunlit = lit_light(light, panel.module)
    return charge_at(controller, bank_v, array_ohm, sunlit.states, in_series, in_parallel)


def _around_noon(hours_run: Floats, hours: Floats) -> Floats:
    """Share of each half hour that a run of given length, laid around 12:30, fills."""
    start = np.minimum(np.maximum(12.5 - hours_run / 2.0, 0.0), 24.0 - hours_run)[..., None]
    end = start + hours_run[..., None]
    low, high = hours - STEP_H / 2.0, hours + STEP_H / 2.0
    share: Floats = np.clip(np.minimum(end, high) - np.maximum(start, low), 0.0, None) / STEP_H
    return share


def at_rated(kit: Kit, layout: Layout) -> DriveResult:
    """The pump on this line at its rated volts, no cable: what its curve meets."""
    return solve(Battery(kit.pump.motor.rated_v, 0.0), 0.0, kit.pump.motor, layout.line(kit.hose))


def reserve_days(kit: Kit, litres_a_day: float, season: Season) -> float | None:
    """Days without any sun that a full battery bridges at a given need; None without one. [d]"""
    if kit.battery is None or not (season.flow_m3_s > 0.0).any() or litres_a_day <= 0.0:
        return None
    flow = float(season.flow_m3_s.max())
    amps = season.most_motor_a
    hours = litres_a_day / (flow * 3_600_000.0)
    return kit.battery.capacity_ah * kit.battery.usable / (amps * hours)
