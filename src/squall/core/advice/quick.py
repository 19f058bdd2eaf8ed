"""Two questions asked of one kit before anything else: is its pump over its volts whatever the cable, and can it bring the need at all.

Both are answered with the cable that flatters the kit: no resistance for the water (a thinner cable at a PV source never
gives more), the thinnest that is ever chosen for the volts (a thicker one never gives fewer). So a kit that they drop is
one that the whole judgement refuses, or finds short (tested).
"""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from squall.core.advice.joined import Joined, Joiner
from squall.core.advice.refusals import stands_v
from squall.core.advice.years_gate import YearsGate
from squall.core.drive.motors import Motor
from squall.core.drive.tables import LoadTable, on_array, on_volts
from squall.core.electrics.conductors import resistance_ohm, sizes
from squall.core.kit.cabling import LEAST_MM2, Rules
from squall.core.kit.course import DARK_W_M2
from squall.core.kit.parts import Hose, Panel, Pump
from squall.core.kit.setup import CONDUCTOR_C, pieces_ohm
from squall.core.kit.supply import Banked, Controlled
from squall.core.sky.typical_days import STEP_H, STEPS
from squall.core.years.by_light import brightest_states
from squall.core.years.many_days import LIGHTS, READ_LIGHTS, READ_STEP, ManyDays, read_between
from squall.core.years.nodes import states_at_ends, weights_at_ends
from squall.core.years.record import SHORT_SHARE
from squall.core.years.use import Use

Floats = NDArray[np.float64]


# Rounding of single figures in the sums of days. [-]
_DAYS_SLACK = 4e-3
_DIODE = ("light_current_a", "saturation_current_a", "series_ohm", "shunt_ohm", "ideality_v")
_FLOWS = 65


def best_hose(hoses: tuple[Hose, ...]) -> Hose | None:
    """A hose as wide and as smooth as any of a stock's; None without one."""
    if not hoses:
        return None
    wide, smooth = max(h.inner_diameter_m for h in hoses), min(h.roughness_m for h in hoses)
    return replace(hoses[0], inner_diameter_m=wide, roughness_m=smooth)


def narrower_gives_less(pump: Pump) -> bool:
    """Whether a pump on panels always gives less through a narrower hose.

    A displacement end does: its flow falls and its amps grow with the head. A centrifugal one whose torque grows no faster
    than the flow over speed squared does too: where panels hold its amps, Q = phi (I / tau)^1/2 grows with phi.
    """
    motor = pump.motor
    if motor.kind == "displacement":
        return True
    phi = np.linspace(*motor.phi_range, _FLOWS)
    tau = np.maximum(motor.tau(phi), 1e-12)
    ratio = phi**2 / tau
    return bool((np.diff(ratio) >= -1e-9 * ratio.max()).all())


def most_amps(motor: Motor, volts: float) -> float:
    """Most that a motor draws at given volts against any head, a little over. [V], [A]"""
    if motor.kind == "displacement":
        return 1.02 * float(motor.amps_by_head(np.linspace(*motor.head_range, _FLOWS)).max())
    tau = np.maximum(motor.tau(np.linspace(*motor.phi_range, _FLOWS)), 0.0)
    ohm = motor.resistance_ohm
    # V = w + (I0 + tau w2) R
    spare = max(volts - motor.no_load_a * ohm, 0.0)
    speed = 2.0 * spare / (1.0 + np.sqrt(1.0 + 4.0 * tau * ohm * spare))
    return 1.02 * float((motor.no_load_a + tau * speed**2).max())


class Quick:
    """The two questions on one job."""

    def __init__(self, joiner: Joiner, days: ManyDays, use: Use, rules: Rules) -> None:
        self.joiner, self.days, self.use = joiner, days, use
        self.weights = weights_at_ends(days) * 3600.0
        need = np.array(use.need_l)
        self.asks = need > 0.0
        self.need = need[self.asks]
        wanted = use.need_of_days(days.month)
        self.asking = wanted > 0.0
        self.least_a_day = wanted[self.asking] * (1.0 - SHORT_SHARE - _DAYS_SLACK)
        self.drawn = use.demand.draw_by(STEPS) * (STEP_H * 3600.0)
        self.dark = days.lights_w_m2 <= DARK_W_M2
        self.seconds: NDArray[np.float32] | None = None
        # Both questions are asked of the same kit, one after the other.
        self._flows_of: tuple[LoadTable, list[int], Floats] | None = None
        self.weights_asked = self.weights[self.asks]
        layout = joiner.layout
        thin = max(s.ohm_per_m for s in sizes(rules.standard) if s.area_mm2 >= LEAST_MM2 - 1e-9)
        longest = layout.pump_cable_m + layout.array_cable_m
        self.most_ohm = resistance_ohm(thin, longest, CONDUCTOR_C) + pieces_ohm(layout.cable_pieces)
        self.over: dict[int, NDArray[np.bool_]] = {}
        bright = [brightest_states(panel.module, layout.record_low_c).diode for panel in joiner.arrays.panels]
        self._bright = tuple(np.array([float(getattr(d, name)[0]) for d in bright]) for name in _DIODE)
        self.power: dict[str, Floats] = {}

    def over_whatever_hose(self, pump: Pump) -> NDArray[np.bool_]:
        """Which arrays, straight on a pump, bring it over its volts at the brightest instant of the coldest day, on any hose."""
        return self._over(stands_v(pump), most_amps(pump.motor, stands_v(pump)))

    def over_on(self, pump: Pump, table: LoadTable) -> NDArray[np.bool_]:
        """The same on the hose of a table."""
        found = self.over.get(id(table))
        if found is None:
            amps = float(np.interp(stands_v(pump), table.volts_v, table.heaviest_a))
            found = self.over[id(table)] = self._over(stands_v(pump), amps * (1.0 + 1e-6))
        return found

    def _over(self, limit: float, amps: float) -> NDArray[np.bool_]:
        """If an array gives more than the amps drawn at the most volts, and the thinnest cable's drop besides, the motor stands above them."""
        a = self.joiner.arrays
        il, i0, rs, rp, ideal = self._bright
        volts, each = (limit + amps * self.most_ohm) / a.series, amps / a.strings
        junction = volts + each * rs[a.panel]
        exponent = np.minimum(junction / ideal[a.panel], 500.0)
        over: NDArray[np.bool_] = il[a.panel] - i0[a.panel] * np.expm1(exponent) - junction / rp[a.panel] - each > 0.0
        return over

    def most_share(self, table: LoadTable, way: Joined) -> float:
        """No more than this of the need is covered in the worst month; 1 or more where nothing is wanted. [-]"""
        return float(self.most_shares(table, [way])[0])

    def most_shares(self, table: LoadTable, ways: Sequence[Joined]) -> Floats:
        """The same of several ways to feed one pump from one kind of source. [-]"""
        if self.need.size == 0:
            return np.ones(len(ways))
        if isinstance(ways[0].supply, Banked):
            return np.array([self._banked_share(table, way) for way in ways])
        shares: Floats = (self.weights_asked @ self._flows(table, ways).T * 1000.0 / self.need[:, None]).min(axis=0)
        return shares

    def too_dry(self, table: LoadTable, way: Joined, gate: YearsGate) -> bool:
        """Whether a kit without a store must run short on more days of ten years than are allowed, by the most that each light brings."""
        return bool(self.too_dry_each(table, [way], gate)[0])

    def too_dry_each(self, table: LoadTable, ways: Sequence[Joined], gate: YearsGate) -> NDArray[np.bool_]:
        """The same of several ways to feed one pump from one kind of source."""
        if isinstance(ways[0].supply, Banked) or self.use.tank is not None or self.need.size == 0:
            return np.zeros(len(ways), dtype=bool)
        lights = self.days.lights_w_m2.size
        most = self._flows(table, ways).reshape(len(ways), -1, lights).max(axis=1) * 1000.0
        most[:, self.dark] = 0.0
        if self.seconds is None:
            self.seconds = gate.seconds_of(stored=False)[1][self.asking]
        short = (self.seconds @ most.astype(np.float32).T < self.least_a_day[:, None]).sum(axis=0)
        dry: NDArray[np.bool_] = short > gate.most_short
        return dry

    def never_enough(self, table: LoadTable | None, ways: list[Joined], most_short: float) -> bool:
        """Whether no sun-driven way of a pump can hold where nothing is stored and the use has its hours; short days allowed. [days]

        As if the strongest panels of all of them stood there, in the air that gives most: of each half hour no more counts
        than is drawn in it. The table is the pump's on the widest hose, where
        a narrower one gives less.
        """
        days = self.days
        stored = self.use.by_sun or self.use.tank is not None
        if table is None or stored or days.shade is not None or self.need.size == 0 or not ways:
            return False
        a = self.joiner.arrays
        strongest: dict[int, float] = {}
        for way in ways:
            efficiency = way.supply.controller.efficiency if isinstance(way.supply, Controlled) else 1.0
            panel = int(a.panel[way.array])
            strongest[panel] = max(strongest.get(panel, 0.0), float(a.count[way.array]) * efficiency)
        power = read_between(np.max([self._power(a.panels[n]) * times for n, times in strongest.items()], axis=0))
        litres = self._on_most_power(table, power).reshape(-1, READ_LIGHTS.size).max(axis=0) * (STEP_H * 3_600_000.0)
        litres[days.read_w_m2 <= DARK_W_M2] = 0.0
        from squall.core.years.day_kernels import taken_of_days

        taken = np.empty(days.month.size)
        taken_of_days(days.plane, days.month, READ_STEP, litres, self.drawn, taken)
        return int(np.count_nonzero(taken[self.asking] < self.least_a_day)) > most_short

    def _flows(self, table: LoadTable, ways: Sequence[Joined]) -> Floats:
        """The most that each sun-driven kit can give at each light of the coldest and of the warmest air, a row a kit. [m3/s]"""
        known = self._flows_of
        if known is not None and known[0] is table and known[1] == [id(way) for way in ways]:
            return known[2]
        a = self.joiner.arrays
        rows = [way.array for way in ways]
        supply = ways[0].supply
        if isinstance(supply, Controlled):
            powers = [
                self._power(a.panel_of(way.array)) * (int(a.count[way.array]) * way.supply.controller.efficiency)
                for way in ways
                if isinstance(way.supply, Controlled)
            ]
            flows = self._on_most_power(table, np.array(powers))
        else:
            flows = np.array(
                [
                    on_array(
                        table, 0.0, states_at_ends(a.panel_of(row).module, self.days).diode, int(a.series[row]), int(a.strings[row])
                    ).flow_m3_s
                    for row in rows
                ]
            )  # fmt: skip
        # Between the lights at which water begins to come it rises more steeply than straight.
        from squall.core.years.day_kernels import raise_start

        raise_start(flows, LIGHTS.size)
        self._flows_of = table, [id(way) for way in ways], flows
        return flows

    def _power(self, panel: Panel) -> Floats:
        found = self.power.get(panel.id)
        if found is None:
            states = states_at_ends(panel.module, self.days)
            found = self.power[panel.id] = states.vmp_v * states.imp_a
        return found

    def _on_most_power(self, table: LoadTable, power_w: Floats) -> Floats:
        """Most flow for given powers: the most at any volts that take no more. [W], [m3/s]"""
        asked = np.maximum.accumulate(table.volts_v * table.current_a)
        most: Floats = np.interp(power_w, asked, np.maximum.accumulate(table.flow_m3_s))
        return np.where(power_w >= asked[0], most, 0.0)

    def _banked_share(self, table: LoadTable, way: Joined) -> float:
        """By the energy that comes, at the flow that the bank drives with no cable between. [-]"""
        a, row, supply = self.joiner.arrays, way.array, way.supply
        assert isinstance(supply, Banked)
        power_w = self._power(a.panel_of(row)) * int(a.count[row])
        _, amps, rate, _ = on_volts(table, supply.ohm, supply.open_v)
        if amps <= 0.0 or rate <= 0.0:
            return 0.0
        charge = self.weights_asked @ power_w / 3600.0 * supply.battery.charge_efficiency / supply.open_v
        litres = np.minimum(charge / amps, 24.0) * rate * 3_600_000.0
        return float((litres / self.need).min())
