"""A kit through the year's typical days, and what it gives by month: flow by the half hour, litres a day.

A clear and an average day show the drive at work. Litres are not those of a day of mean light, for a pump doesn't follow
light evenly: they are the mean of all the days that :mod:`squall.core.years.many_days` makes, by
:mod:`squall.core.years.outlook`.
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from squall.core.drive.solve import Battery, DriveResult, solve
from squall.core.drive.tables import Course, LoadTable, on_volts
from squall.core.electrics.timers import week_of
from squall.core.kit.bank import BankState, drawn_a, standing_a, usable_ah
from squall.core.kit.course import sun_course, with_shadow
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Layout
from squall.core.kit.setup import Setup, table_on
from squall.core.kit.supply import Banked
from squall.core.reason import Reason, Told
from squall.core.sky.typical_days import AVERAGE, CLEAR, STEP_H, STEPS, Light
from squall.core.years.by_light import instant_v, start_light
from squall.core.years.lit import LitLight, daily_charge, lit_light
from squall.core.years.many_days import days_of
from squall.core.years.nodes import Means, means_of
from squall.core.years.outlook import flow_through
from squall.core.years.use import Use

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
    mean_flow_m3_s : NDArray
        Flow at each half hour as the mean of a month's days, shape (12, 48). [m3/s]
    wet_h : NDArray
        Hours a day with water, as the mean of a month's days, shape (12,). [h]
    means : Means
        What all the days of ten years bring.
    instant_v : float
        At the motor at the brightest instant of the coldest day, panels straight on it; else 0. [V]
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
    mean_flow_m3_s: Floats
    wet_h: Floats
    means: Means
    instant_v: float = 0.0
    stopped: tuple[Told, ...] = ()

    @cached_property
    def litres(self) -> Floats:
        """Litres a day, shape (2, 12): of a clear day, and the mean of the month's days. [l]"""
        return np.stack([self.flow_m3_s[CLEAR].sum(axis=1) * _LITRES_A_STEP, self.means.litres])

    @property
    def average_litres(self) -> Floats:
        """Litres a day of each month, the mean of its days, shape (12,). [l]"""
        return self.means.litres

    @property
    def clear_litres(self) -> Floats:
        """Litres on a clear day of each month, shape (12,). [l]"""
        clear: Floats = self.litres[CLEAR]
        return clear

    def flow_of(self, kind: int, month: int) -> Floats:
        """Flow through a clear day, or through the mean of a month's days. [m3/s]"""
        flow: Floats = self.flow_m3_s[CLEAR, month] if kind == CLEAR else self.mean_flow_m3_s[month]
        return flow

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
        return self.means.most_l_s > 0.0

    @property
    def noon_motor_v(self) -> float:
        """Highest volts at the motor in any half hour. [V]"""
        return self.means.most_v

    @property
    def most_motor_v(self) -> float:
        """Highest volts at the motor at any instant: at a clear noon, or at a cloud's edge on the coldest day. [V]"""
        return max(self.noon_motor_v, self.instant_v)

    @property
    def most_motor_a(self) -> float:
        """Highest running current in any half hour. [A]"""
        return self.means.most_a

    @property
    def most_flow_m3_s(self) -> float:
        """Most flow in any half hour of any day. [m3/s]"""
        return self.means.most_l_s / 1000.0

    def hours_run(self, month: int) -> float:
        """Hours with water a day, the mean of a month's days. [h]"""
        return float(self.wet_h[month])

    @property
    def hours_a_year(self) -> float:
        """Hours with water in a year. [h]"""
        return sum(self.hours_run(month) for month in range(12)) * 365.0 / 12.0


def year_of(setup: Setup, light: Light, use: Use, *, start: bool = True) -> Season:
    """Run a kit through the clear and the average day of each month, and through ten years of made weather.

    Parameters
    ----------
    setup : Setup
        The kit, where it stands and what joins it.
    light : Light
        Half-hourly light and heat.
    use : Use
        For the well's yield, the battery's state and its timer.
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
    table = table_on(kit.pump.motor, layout, kit.hose)
    sunlit = lit_light(light, kit.panel.module)
    days = days_of(light)
    means = means_of(setup, days, light.post, use)
    if isinstance(kit.supply, Banked):
        return _battery_year(setup, light, means, use)
    course = _lit_course(setup, table, sunlit)

    def over_days(values: Floats) -> Floats:
        full = np.zeros(light.plane_w_m2.shape)
        full[sunlit.lit] = values
        return full

    gives = _given(setup, course, sunlit, use)
    first = start_light(setup) if start else None
    flow, wet_h = flow_through(days, means)
    return Season(
        light.hours, over_days(gives), over_days(course.motor_v), over_days(course.motor_a),
        over_days(course.beyond), light.plane_w_m2, first, flow, wet_h, means, instant_v(setup),
    )  # fmt: skip


def _given(setup: Setup, course: Course, lit: LitLight, use: Use) -> Floats:
    """Flow of a sun-driven kit at each lit half hour, its source's level as it goes, and no more than the well gives. [m3/s]"""
    falls, gives = setup.layout.falls, course.flow_m3_s
    if falls is not None:
        low = Setup(setup.kit, setup.layout.lowest, setup.cabling)
        gives = falls.between(gives, _lit_course(low, low.table, lit).flow_m3_s, lit.day % 12)
    most = use.most_of(setup.kit)
    return gives if most is None else np.minimum(gives, most / 1000.0)


def _lit_course(setup: Setup, table: LoadTable, lit: LitLight) -> Course:
    course = sun_course(setup, table, lit.states)
    if lit.shaded_w_m2 is None or lit.post is None:
        return course
    return with_shadow(setup, table, course, lit.plane_w_m2, lit.shaded_w_m2, lit.cell_c, lit.post)


def _on_bank(setup: Setup) -> tuple[float, float, float, bool]:
    """Steady volts, amps and flow on the bank, and whether that flow is a lower bound. [V], [A], [m3/s]"""
    return on_volts(setup.table, setup.kit.bank_ohm + setup.pump_ohm, setup.kit.bank_v)


def _no_lift_on(kit: Kit) -> Reason:
    return Reason("pump-cant-push-water-over-lift", bank=kit.bank_v)


def _battery_year(setup: Setup, light: Light, means: Means, use: Use) -> Season:
    kit = setup.kit
    motor_v, motor_a, flow, held = _on_bank(setup)
    stopped = () if flow > 0.0 else (_no_lift_on(kit),)
    daily_ah = daily_charge(setup, light) * _efficiency(kit) - 24.0 * standing_a(kit, use.bank)
    drawn = drawn_a(motor_a, use.bank)
    allowed = week_of(use.bank.timer, STEPS).reshape(7, STEPS).mean(axis=0)
    hours = np.clip(daily_ah / drawn if drawn > 0.0 else np.zeros((2, 12)), 0.0, float(allowed.sum()) * STEP_H)
    mean_h = means.litres / (3600.0 * means.rate_l_s) if means.rate_l_s > 0.0 else np.zeros(12)
    clear_h: Floats = np.stack([hours[CLEAR], mean_h])
    share = _when_it_runs(clear_h, light.hours, allowed) if flow > 0.0 else np.zeros(light.plane_w_m2.shape)
    runs: Floats = np.where(share > 0.0, 1.0, 0.0)
    gives = share * means.rate_l_s / 1000.0
    if setup.layout.falls is not None:
        gives = gives * (1.0 - np.array(setup.layout.falls.bare))[:, None]
    return Season(
        light.hours, gives, motor_v * runs, motor_a * runs, float(held) * runs, light.plane_w_m2, None,
        gives[AVERAGE], mean_h, means, 0.0, stopped,
    )  # fmt: skip


def _efficiency(kit: Kit) -> float:
    assert kit.battery is not None
    return kit.battery.charge_efficiency


def _when_it_runs(hours_run: Floats, hours: Floats, allowed: Floats) -> Floats:
    """Share of each half hour that a pump on a bank runs: at the timer's hours, else laid around noon."""
    if bool((allowed >= 1.0).all()):
        return _around_noon(hours_run, hours)
    share: Floats = allowed * (hours_run / max(float(allowed.sum()) * STEP_H, 1e-9))[..., None]
    return share


@dataclass(frozen=True)
class YearSum:
    """A year in few numbers, as ranking needs them; each as the :class:`Season` of the same kit has it.

    Attributes
    ----------
    average_litres : NDArray
        Litres a day of each month, the mean of its days, shape (12,).
    most_motor_v, most_motor_a, most_flow_m3_s : float
        Highest at any instant; in any half hour with water. [V], [A], [m3/s]
    instant_v : float
        At the motor at the brightest instant of the coldest day, panels straight on it; else 0. [V]
    gives_water : bool
        Whether it ever does.
    stopped : tuple[str, ...]
        Why it gives nothing at all, if so.
    means : Means
        What all the days of ten years bring.
    """

    average_litres: Floats
    most_motor_v: float
    most_motor_a: float
    most_flow_m3_s: float
    instant_v: float
    gives_water: bool
    stopped: tuple[Told, ...]
    means: Means


def sum_of_year(setup: Setup, light: Light, use: Use, instant: float | None = None) -> YearSum:
    """Run a kit through the year as :func:`year_of` does, keeping only what ranking needs.

    `instant` is :func:`squall.core.years.by_light.instant_v`, where it is known already. [V]
    """
    kit = setup.kit
    means = means_of(setup, days_of(light), light.post, use)
    instant = instant_v(setup) if instant is None else instant
    most_v = max(means.most_v, instant)
    flows = means.most_l_s > 0.0
    stopped = () if flows or not isinstance(kit.supply, Banked) else (_no_lift_on(kit),)
    return YearSum(means.litres, most_v, means.most_a, means.most_l_s / 1000.0, instant, flows, stopped, means)


def typical_litres(setup: Setup, light: Light, use: Use) -> Floats:
    """Litres on a day of each month that is just as bright as the average one, shape (12,). [L]

    Not the mean of the month's days, which :func:`year_of` gives: for asking what a day of a given light brings. The well's
    yield, a falling source and a bank's timer count as they do there.
    """
    kit = setup.kit
    if isinstance(kit.supply, Banked):
        low = setup if setup.layout.falls is None else Setup(kit, setup.layout.lowest, setup.cabling)
        _, amps, flow, _ = _on_bank(low)
        most, bare = use.most_of(kit), 0.0 if setup.layout.falls is None else np.array(setup.layout.falls.bare)
        daily_ah = daily_charge(setup, light)[AVERAGE] * _efficiency(kit) - 24.0 * standing_a(kit, use.bank)
        allowed_h = 24.0 * float(week_of(use.bank.timer, STEPS).mean())
        hours: Floats = np.clip(daily_ah / drawn_a(amps, use.bank), 0.0, allowed_h) if flow > 0.0 else np.zeros(12)
        return hours * min(flow, flow if most is None else most / 1000.0) * 3_600_000.0 * (1.0 - bare)
    sunlit = lit_light(light, kit.panel.module)
    gives = _given(setup, _lit_course(setup, setup.table, sunlit), sunlit, use)
    total: Floats = np.bincount(sunlit.day, gives, 24)[12:].astype(np.float64) * _LITRES_A_STEP
    return total


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


def reserve_days(kit: Kit, litres_a_day: float, season: Season, bank: BankState) -> float | None:
    """Days without any sun that a full battery, as old and cold as it is, bridges at a given need [L]; None without one. [d]"""
    if kit.battery is None or season.means.rate_l_s <= 0.0 or litres_a_day <= 0.0:
        return None
    hours = litres_a_day / (season.means.rate_l_s * 3600.0)
    return usable_ah(kit, bank) / (season.most_motor_a * hours)
