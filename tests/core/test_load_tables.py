"""Tables of a motor on a line against the exact drive: near the first flow, on the rise, far above; and what a search drops."""

from dataclasses import replace

import numpy as np
import pytest
from hill import PLAIN, on_demand, use_with

from squall.core.advice.rank import rank
from squall.core.drive.motors import Motor, state_at_speed
from squall.core.drive.solve import Battery, PvArray, solve
from squall.core.drive.tables import load_table, on_array, on_volts
from squall.core.electrics.modules import diode_at
from squall.core.hydraulics.pipes import Line, Pipe
from squall.core.hydraulics.water import water_at
from squall.core.kit.cabling import Rules
from squall.core.kit.setup import Setup
from squall.core.need.demand import demand_of
from squall.core.years.fewest_short import fewest_short
from squall.core.years.many_days import days_of
from squall.core.years.nodes import means_of
from squall.core.years.outlook import outlook_of
from squall.core.years.tanks import Tank

WATER = water_at(14.0)
BORES = (0.0095, 0.0127, 0.0191, 0.025)
LIFTS = (0.0, 0.8, 3.0, 9.4, 20.0)


def lines():
    return [
        Line(lift, (Pipe(12.0, bore, 7e-6, 4.0), Pipe(40.0, bore, 7e-6, 2.0)), WATER)
        for lift in LIFTS
        for bore in BORES
    ]


def test_volts_of_a_table_always_rise(parts) -> None:
    for pump in parts.pumps.values():
        for line in lines():
            assert (np.diff(load_table(pump.motor, line).volts_v) > 0.0).all(), pump.id


def test_the_table_gives_what_the_exact_drive_gives(parts) -> None:
    """Flow within 0.3 % of the pump's most, at random volts and just about the first flow; the states near shut-off too."""
    rng = np.random.default_rng(2)
    for pump in parts.pumps.values():
        motor = pump.motor
        for line in lines()[::3]:
            table = load_table(motor, line)
            wet = np.flatnonzero(table.flow_m3_s > 0.0)
            if not wet.size:
                continue
            begins = float(table.volts_v[wet[0]])
            tried = [*rng.uniform(0.3, 1.8, 3) * motor.rated_v, 1.01 * begins, 1.1 * begins]
            for volts in np.minimum(tried, float(table.volts_v[-1])):
                exact = solve(Battery(float(volts), 0.0), 0.2, motor, line)
                flow = exact.flow_m3_s if exact.flow_m3_s is not None else exact.flow_at_least_m3_s or 0.0
                got = on_volts(table, 0.2, float(volts))[2]
                assert got == pytest.approx(flow, abs=3e-3 * float(table.flow_m3_s.max())), (pump.id, volts, line)


def test_nodes_are_states_of_the_motor(parts) -> None:
    """Above the first flow each node is a root of pump against line, to a millionth of its flow."""
    for pump in parts.pumps.values():
        if pump.motor.kind != "centrifugal":
            continue
        for line in lines()[1::4]:
            table = load_table(pump.motor, line)
            speeds = table.volts_v - table.current_a * pump.motor.resistance_ohm
            for n in np.flatnonzero((table.flow_m3_s > 0.0) & (table.beyond == 0.0))[::9]:
                # Where friction jumps as the flow turns turbulent the root lies in the jump.
                spare = []
                for times in (1.0 - 1e-6, 1.0 + 1e-6):
                    phi = min(float(table.flow_m3_s[n] / speeds[n]) * times, pump.motor.phi_range[1])
                    head = pump.motor.psi.at(phi) * speeds[n] ** 2
                    spare.append(head - float(line.head_at(np.array([phi * speeds[n]]))[0]))
                assert spare[0] * spare[1] <= 1e-9, (pump.id, line, n, spare)


def test_litres_change_evenly_with_the_lift(direct_kit, layout, light) -> None:
    """Ten centimetres more never give more, and never cost more than twice what the ten before did (a cable of one size)."""
    from squall.core.electrics.conductors import conductor
    from squall.core.kit.setup import Cabling

    cables, days = Cabling(conductor("mm2:6"), None), days_of(light)
    litres = []
    for lift in np.arange(8.0, 10.5, 0.1):
        setup = Setup(direct_kit, replace(layout, lift_m=float(lift)), cables)
        litres.append(means_of(setup, days, None, PLAIN).litres[5])
    steps = -np.diff(litres)
    assert (steps > 0.0).all()
    assert steps.max() < 2.0 * steps.min()


def test_on_the_rise_an_array_meets_the_load_where_the_exact_drive_does(parts) -> None:
    """A pump whose head over speed squared rises from shut-off: flow against light, every 10 W/m2 about its start."""
    from squall.catalogue import catalogue

    motor: Motor = parts.pumps["stairwell-8"].motor
    module = catalogue().panels["kite-80"].module
    line = Line(9.4, (Pipe(64.0, 0.019, 7e-6, 6.0),), WATER)
    table = load_table(motor, line)
    lights = np.arange(420.0, 760.0, 10.0)
    cells = np.full(lights.size, 35.0)
    course = on_array(table, 0.15, diode_at(module, lights, cells), 1, 1)
    for n, light in enumerate(lights):
        exact = solve(PvArray(module, 1, 1, float(light), 35.0), 0.15, motor, line)
        assert course.flow_m3_s[n] == pytest.approx(exact.flow_m3_s or 0.0, abs=0.01 * float(table.flow_m3_s.max())), (
            light
        )
    assert (np.diff(course.flow_m3_s) >= -1e-12).all()
    assert state_at_speed(motor, line, 10.0).volts_v > 0.0


@pytest.mark.parametrize("waits", ["by the sun", "in a tank", "on demand"])
def test_no_kit_is_dropped_that_the_years_would_hold(parts, layout, light, waits) -> None:
    """The fewest short days of every kit of a ranking are no more than its years bring, and seldom far fewer without a store."""
    need = (700.0,) * 12
    demand = demand_of([(need, 6.0, 18.0)])
    use = {
        "by the sun": replace(PLAIN, need_l=need, demand=demand),
        "in a tank": use_with(demand, Tank(900.0, 700.0, 900.0)),
        "on demand": on_demand(demand),
    }[waits]
    use = replace(use, need_l=need)
    found = rank(parts.stock, layout, light, use, Rules(0.05, "metric"))
    rows = [row for row in (*found.holds, *found.short) if row.cabling is not None][::25]
    assert len(rows) > 30
    days = days_of(light)
    setups = [Setup(row.kit, layout, row.cabling) for row in rows]
    pairs = [(setup, means_of(setup, days, light.post, use)) for setup in setups]
    bounds = fewest_short(pairs, days.seconds_of_days(), days, use)
    truths = [int(outlook_of(setup, days, means, use).is_short.sum()) for setup, means in pairs]
    assert all(bound <= truth for bound, truth in zip(bounds, truths, strict=True))
    assert any(truth > 0 for truth in truths)
    if waits == "by the sun":
        sun = [(b, t) for b, t, row in zip(bounds, truths, rows, strict=True) if row.kit.source == "panel"]
        assert max(t - b for b, t in sun) < 40
