"""A kit through whole years: the drive at single steps, water and energy that balance, float, timer, cut-off."""

from dataclasses import replace

import numpy as np
import pytest
from hill import on_demand, use_with

from squall.core.drive.solve import solve
from squall.core.electrics.conductors import conductor
from squall.core.electrics.timers import TimerStart, week_of
from squall.core.errors import OutOfRange, Stopped
from squall.core.kit.bank import BankState, cold_factor, usable_ah
from squall.core.kit.kit import Kit
from squall.core.kit.setup import Cabling, Setup
from squall.core.kit.supply import Controlled
from squall.core.need.demand import Demand, demand_of
from squall.core.sky.climate import Site
from squall.core.sky.made_weather import MONTH_OF_DAY, Draw, made_years
from squall.core.sky.typical_days import Mounting, Post, light_of_year
from squall.core.sky.whole_year import STEP_S, made_light
from squall.core.years.tanks import Tank, without_switch
from squall.core.years.typical import typical_litres
from squall.core.years.use import plain_use
from squall.core.years.whole import LazyYears, run_year, run_years

HILL = Site(-30.4, 24.6, 1180.0, 2.0)
STAND = Mounting(35.0, 0.0)
CABLES = Cabling(conductor("mm2:6"), None)
BOTH = Cabling(conductor("mm2:6"), conductor("mm2:1.5"))
DAY = demand_of([((700.0,) * 12, 6.0, 18.0)])
TANK = Tank(1500.0, 1200.0, 1500.0)


@pytest.fixture(scope="module")
def made(parts):
    return made_light(HILL, parts.climates["ridge"], STAND, made_years(parts.climates["ridge"], Draw(1, 4))[0])


@pytest.fixture(scope="module")
def held_kit(parts) -> Kit:
    return Kit(
        parts.pumps["stairwell-8"], Controlled(parts.controllers["warden-12"]), parts.panels["kite-80"], 1, 2, parts.hoses["hose-16"])  # fmt: skip


def kit_of(name: str, direct_kit: Kit, held_kit: Kit, battery_kit: Kit) -> tuple[Kit, Cabling]:
    return {"direct": (direct_kit, CABLES), "controller": (held_kit, BOTH), "battery": (battery_kit, BOTH)}[name]


@pytest.mark.parametrize("name", ["direct", "controller", "battery"])
@pytest.mark.parametrize("tank", [None, TANK, without_switch(400.0)])
@pytest.mark.parametrize("post", [None, Post(300.0, 345.0, 40.0)])
def test_water_and_energy_balance(name, tank, post, layout, parts, direct_kit, held_kit, battery_kit) -> None:
    """Energy closes to 0.1 % in every run; water to a drop; a share never leaves 0 to 1."""
    kit, cables = kit_of(name, direct_kit, held_kit, battery_kit)
    climate = parts.climates["ridge"]
    light = made_light(HILL, climate, replace(STAND, post=post), made_years(climate, Draw(1, 4))[0])
    year = run_year(Setup(kit, layout, cables), light, DAY, tank)
    assert abs(year.energy.off) < 1e-3
    if tank is not None:
        taken = year.wanted_l - year.short_l
        before = np.concatenate([[tank.capacity_l], year.ended_l[:-1]])
        assert before + year.pumped_l == pytest.approx(year.ended_l + taken + year.spilled_l, abs=1e-6)
    else:
        assert (year.pumped_l + year.short_l >= year.wanted_l - 1e-6).all()
    assert year.wanted_l == pytest.approx(np.full(365, 700.0))
    assert (year.last.ran >= -1e-12).all()
    assert (year.last.ran <= 1.0 + 1e-9).all()
    assert (year.run_h <= 24.0).all()


@pytest.mark.parametrize("name", ["direct", "controller"])
def test_single_steps_are_the_drives_own(name, layout, made, direct_kit, held_kit, battery_kit) -> None:
    """Flow, volts and amps at steps through the year against the drive solved by itself, within five parts in a thousand."""
    kit, cables = kit_of(name, direct_kit, held_kit, battery_kit)
    layout = replace(layout, array_cable_m=0.001)  # the single answer knows no cable before the controller
    year = run_year(Setup(kit, layout, cables), made, DAY, TANK)
    line, ohm = layout.line(kit.hose), cables.pump_ohm(kit, layout)
    flows = year.last.could_l_s.ravel()[made.steps]
    tested = 0
    for n in range(200, made.steps.size, 1777):
        if made.plane_w_m2[n] < 60.0:
            continue
        result = solve(kit.source_at(float(made.plane_w_m2[n]), float(made.cell_c[n])), ohm, kit.pump.motor, line)
        if name == "controller" and flows[n] == 0.0:
            continue
        assert flows[n] / 1000.0 == pytest.approx(result.flow_m3_s or 0.0, rel=8e-3, abs=3e-7)
        assert year.last.motor_a.ravel()[made.steps[n]] == pytest.approx(result.motor_a, rel=0.02, abs=0.02)
        tested += 1
    assert tested > 8


def test_a_year_of_mean_days_gives_the_typical_days_litres(layout, parts, direct_kit) -> None:
    """Without a store, every day at its month's clearness: each month's litres within 4 % of the half-hourly average day's."""
    climate = parts.climates["ridge"]
    mean = np.array([month.clearness for month in climate.months])[MONTH_OF_DAY]
    year = run_year(Setup(direct_kit, layout, CABLES), made_light(HILL, climate, STAND, mean), DAY, None)
    typical = typical_litres(
        Setup(direct_kit, layout, CABLES), light_of_year(HILL, climate, STAND), plain_use((0.0,) * 12)
    )
    for month in range(12):
        assert year.pumped_l[month == MONTH_OF_DAY].mean() == pytest.approx(typical[month], rel=0.04)


def test_years_in_a_row_carry_tank_and_state_over(layout, parts, direct_kit) -> None:
    climate = parts.climates["ridge"]
    clearness = made_years(climate, Draw(3, 9))
    lights = [made_light(HILL, climate, STAND, one) for one in clearness]
    whole = run_years(Setup(direct_kit, layout, CABLES), lights, use_with(DAY, TANK))
    assert whole.years == 3
    again = run_years(Setup(direct_kit, layout, CABLES), [lights[1]], use_with(DAY, TANK), begin=whole.states[1])
    assert again.pumped_l == pytest.approx(whole.pumped_l[365:730])
    assert again.short_l == pytest.approx(whole.short_l[365:730])
    lazy = run_years(Setup(direct_kit, layout, CABLES), LazyYears(3, lambda n: lights[n]), use_with(DAY, TANK))
    assert lazy.pumped_l == pytest.approx(whole.pumped_l)


def test_a_run_tells_its_progress_and_stops(layout, made, direct_kit) -> None:
    told: list[float] = []
    run_years(
        Setup(direct_kit, layout, CABLES),
        [made, made],
        use_with(DAY, TANK),
        progress=lambda share: told.append(share) or True,
    )
    assert told == [0.0, 0.5]
    with pytest.raises(Stopped):
        run_years(Setup(direct_kit, layout, CABLES), [made], use_with(DAY, TANK), progress=lambda share: False)
    with pytest.raises(OutOfRange, match="years"):
        run_years(Setup(direct_kit, layout, CABLES), [], use_with(DAY, TANK))


def test_more_store_is_never_shorter(layout, made, direct_kit) -> None:
    short = [
        run_year(Setup(direct_kit, layout, CABLES), made, DAY, Tank(litres, 0.8 * litres, litres)).short_l.sum()
        for litres in (200.0, 600.0, 2000.0, 6000.0)
    ]
    assert short == sorted(short, reverse=True)
    assert short[0] > short[-1]


def test_tallies_of_a_year(layout, made, direct_kit) -> None:
    year = run_year(Setup(direct_kit, layout, CABLES), made, demand_of([((1350.0,) * 12, 5.0, 8.0)]), TANK)
    assert 0.0 < year.short_in_a_hundred < 100.0
    assert year.short_in_a_hundred == pytest.approx(100.0 * year.is_short.sum() / 365.0)
    assert year.short_by_month[year.worst_month] == year.short_by_month.max()
    spell = year.longest_dry_spell_days
    assert any(year.is_short[day : day + spell].all() for day in range(366 - spell))
    assert not any(year.is_short[day : day + spell + 1].all() for day in range(365 - spell))
    assert not (year.is_short & year.is_tight).any()
    # The burst of the morning outruns store and flow: what is missing is missing in its hours.
    missing = np.nonzero(year.last.short_l.sum(axis=0))[0]
    assert set(missing.tolist()) <= set(range(30, 48))


def test_a_weak_well_caps_the_flow(layout, made, direct_kit) -> None:
    free = run_year(Setup(direct_kit, layout, CABLES), made, DAY, TANK)
    held = run_years(Setup(direct_kit, layout, CABLES), [made], use_with(DAY, TANK, most_l_s=0.03))
    assert held.last.could_l_s.max() == pytest.approx(0.03)
    assert free.last.could_l_s.max() > 0.05
    assert held.pumped_l.sum() < free.pumped_l.sum()


def test_demand_lies_in_its_hours() -> None:
    demand = demand_of([((144.0,) * 12, 22.0, 4.0), ((60.0,) * 12, 6.5, 7.0), ((24.0,) * 12, 3.0, 3.0)])
    assert demand.litres_a_day == pytest.approx(np.full(12, 228.0))
    day = demand.draw_l_s[0] * STEP_S
    assert day[39:42] == pytest.approx(20.0 + 24.0 / 144.0)
    assert day[132:].sum() == pytest.approx(144.0 / 3.0 + 2.0)
    assert day[60] == pytest.approx(24.0 / 144.0)
    assert demand_of([((10.0,) * 12, 0.0, 24.0)], times=2.0).litres_a_day[3] == pytest.approx(20.0)


def test_timer_days_and_hours(layout, made, battery_kit) -> None:
    """Two hours on weekdays alone: nothing is pumped on Saturday and Sunday, and never outside its hours."""
    weekdays = (True,) * 5 + (False,) * 2
    bank = BankState(1.0, 15.0, (TimerStart(8.0, 60.0, weekdays), TimerStart(23.5, 60.0, weekdays)))
    year = run_year(Setup(battery_kit, layout, BOTH), made, DAY, Tank(9000.0, 8900.0, 9000.0), bank)
    by_day = year.last.ran.reshape(365, 144)
    monday = by_day[0::7][: 365 // 7]
    assert by_day[6::7].sum() == 0.0
    assert by_day[5::7, 3:].sum() == 0.0  # Friday's late start runs into Saturday's first half hour
    assert by_day[:, 60:140].sum() == 0.0
    assert monday[12, 48:54] == pytest.approx(np.ones(6))


def test_timers_that_cannot_be() -> None:
    with pytest.raises(OutOfRange, match="starts on Monday"):
        week_of(tuple(TimerStart(float(n), 10.0) for n in range(9)), 144)
    with pytest.raises(OutOfRange, match="start"):
        TimerStart(25.0, 10.0)
    with pytest.raises(OutOfRange, match="days"):
        TimerStart(5.0, 10.0, (True,) * 6)
    assert week_of((), 144).tolist() == [1.0] * 1008
    week = week_of((TimerStart(6.0, 15.0),), 144)
    assert week[36:39].tolist() == [1.0, 0.5, 0.0]


def test_a_small_bank_is_cut_off_and_let_go_again(layout, made, battery_kit) -> None:
    thirsty = demand_of([((4000.0,) * 12, 0.0, 24.0)])
    year = run_years(Setup(battery_kit, layout, BOTH), [made], on_demand(thirsty))
    usable = usable_ah(battery_kit, BankState())
    assert year.charge_low_ah.min() < 0.02 * usable
    assert year.charge_low_ah.min() > -0.2 * usable
    assert year.is_short.all()
    little = on_demand(demand_of([((20.0,) * 12, 8.0, 9.0)]))
    small = run_years(Setup(battery_kit, layout, BOTH), [made], little)
    assert not small.is_short.any()
    assert small.wasted_ah.sum() > 0.0
    assert small.cycles_a_year < year.cycles_a_year


def test_age_and_cold_take_charge(battery_kit) -> None:
    fresh = usable_ah(battery_kit, BankState(1.0, 25.0))
    assert fresh == pytest.approx(battery_kit.battery.capacity_ah * battery_kit.battery.usable)
    assert usable_ah(battery_kit, BankState(0.5, 25.0)) == pytest.approx(0.5 * fresh)
    assert cold_factor("lead-acid (sealed)", 0.0) == pytest.approx(0.8)
    assert cold_factor("lithium iron phosphate", 0.0) == pytest.approx(0.9)
    assert cold_factor("lead", 40.0) == 1.0
    with pytest.raises(OutOfRange, match="aged"):
        BankState(0.1)


def test_nothing_wanted_is_never_short(layout, made, direct_kit) -> None:
    year = run_year(Setup(direct_kit, layout, CABLES), made, Demand(np.zeros((12, 144))), TANK)
    assert year.short_in_a_hundred == 0.0
    assert not year.is_tight.any()
    assert year.starts_a_day == 0.0


def test_no_light_is_no_running(layout, made, direct_kit) -> None:
    """A closed float in the dark, or in light too weak to lift, is neither run time nor water, to the last digit."""
    year = run_year(Setup(direct_kit, layout, CABLES), made, DAY, TANK)
    still = year.last.could_l_s == 0.0
    assert (year.last.ran[still] == 0.0).all()
    dull = year.last.could_l_s.sum(axis=1) == 0.0
    assert (year.pumped_l[dull] == 0.0).all()
    assert dull.any()
