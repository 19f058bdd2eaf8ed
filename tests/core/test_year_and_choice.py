"""The season, the ranking, the levers, wires and protection, readings."""

from dataclasses import replace

import numpy as np
import pytest
from hill import PLAIN

from squall.core.advice.levers import Goods, levers
from squall.core.advice.rank import candidates, judge, rank, reasons
from squall.core.advice.ranked import through_years
from squall.core.advice.refusals import limiting_cause, place_refusal
from squall.core.electrics.conductors import choose, conductor, metric_conductor
from squall.core.electrics.protection import LoopPart, protect, stall_current
from squall.core.electrics.timers import TimerStart
from squall.core.errors import OutOfRange, Stopped
from squall.core.kit.bank import AS_NEW, BankState
from squall.core.kit.cabling import Rules
from squall.core.kit.kit import Kit
from squall.core.kit.setup import Cabling, Setup, kit_price, price_lines
from squall.core.kit.supply import Controlled, Direct
from squall.core.need.demand import Drinkers, monthly_need
from squall.core.prove.expect import POINTS, expected_readings, light_from_short_amps, meaning, typed_light
from squall.core.prove.expect import judge as judge_reading
from squall.core.sky.climate import Climate, MonthClimate, Site
from squall.core.sky.typical_days import AVERAGE, CLEAR, STEP_H, Mounting, light_of_year
from squall.core.years.by_light import flow_by_light
from squall.core.years.lit import daily_charge
from squall.core.years.many_days import days_of
from squall.core.years.outlook import half_hours_of
from squall.core.years.typical import reserve_days, sum_of_year, year_of
from squall.core.years.use import plain_use

NEED = (750.0,) * 12
CABLES = Cabling(conductor("mm2:6"), None)
BOTH = Cabling(conductor("mm2:6"), conductor("mm2:1.5"))


def test_clear_days_give_at_least_average_days(direct_kit, layout, light) -> None:
    season = year_of(Setup(direct_kit, layout, CABLES), light, PLAIN)
    assert (season.clear_litres >= season.average_litres).all()
    assert season.worst_month(NEED) == int(np.argmin(season.average_litres))


def test_first_and_last_water_lie_at_the_starting_light(direct_kit, layout, light) -> None:
    season = year_of(Setup(direct_kit, layout, CABLES), light, PLAIN)
    first, last = season.water_hours(AVERAGE, 0)
    for hour in (first, last):
        here = np.interp(hour, light.hours, light.plane_w_m2[AVERAGE, 0])
        assert here == pytest.approx(season.start_w_m2, abs=60)
    assert 4 < first < 12 < last < 20


def test_no_flow_below_the_starting_light(direct_kit, layout) -> None:
    _light, course = flow_by_light(Setup(direct_kit, layout, CABLES))
    wet = course.flow_m3_s > 0
    assert wet[-1]
    assert not wet[0]
    assert (np.diff(course.flow_m3_s[wet]) >= -1e-12).all()


def test_battery_day_balances_its_charge(battery_kit, layout, light) -> None:
    """Charge drawn by the pump is charge put in x its efficiency, less the controller's own, within 0.1 %."""
    season = year_of(Setup(battery_kit, layout, BOTH), light, PLAIN)
    amps = season.motor_a.max()
    share = season.flow_m3_s / season.flow_m3_s.max()
    drawn = share.sum(axis=2) * STEP_H * amps
    setup = Setup(battery_kit, layout, BOTH)
    put_in = daily_charge(setup, light)[CLEAR] * battery_kit.battery.charge_efficiency
    put_in = put_in - 24 * battery_kit.controller.own_a
    assert (put_in > 0).all()
    assert drawn[CLEAR] == pytest.approx(np.minimum(put_in, 24 * amps), rel=1e-3)
    # A month's mean day: what ten years of half hours charge, by hand.
    days = days_of(light)
    charged = half_hours_of(days, season.means.nodes).sum(axis=1) * STEP_H
    mean = np.bincount(days.month, charged) / np.bincount(days.month)
    mean = mean * battery_kit.battery.charge_efficiency - 24 * battery_kit.controller.own_a
    assert drawn[AVERAGE] == pytest.approx(np.minimum(mean, 24 * amps), rel=1e-3)
    assert reserve_days(battery_kit, 750.0, season, AS_NEW) > 0.3


def test_panels_facing_the_sun_gather_more(parts) -> None:
    site, climate = Site(-30.4, 24.6, 1180.0, 2.0), parts.climates["ridge"]
    north = light_of_year(site, climate, Mounting(35.0, 0.0)).plane_kwh_m2
    south = light_of_year(site, climate, Mounting(35.0, 180.0)).plane_kwh_m2
    assert (north[:, 5] > 1.5 * south[:, 5]).all()
    assert north[CLEAR, 5] > north[AVERAGE, 5]


@pytest.mark.parametrize("bad", [(-74.0, 0, 0, 0), (0, 200, 0, 0), (0, 0, 9000, 0), (0, 0, 0, 20)])
def test_impossible_sites(bad) -> None:
    with pytest.raises(OutOfRange):
        Site(*bad)


def test_impossible_months() -> None:
    with pytest.raises(OutOfRange, match="clearness"):
        MonthClimate(0.96, 5, 10, 3)
    with pytest.raises(OutOfRange, match="least air"):
        MonthClimate(0.5, 15, 10, 3)
    with pytest.raises(OutOfRange, match="months"):
        Climate("x", (MonthClimate(0.5, 5, 10, 3),), -5, 40)


def test_need_by_month() -> None:
    assert Drinkers("goats", 70, 9).litres_a_day == 630
    assert monthly_need(500, (None, 800, *([None] * 10)))[:3] == (500, 800, 500)
    with pytest.raises(OutOfRange):
        monthly_need(500, (None,) * 11)
    with pytest.raises(OutOfRange, match="goats"):
        Drinkers("goats", -3, 9)


@pytest.fixture(scope="module")
def ranking(parts, layout, light):
    stock = replace(
        parts.stock,
        pumps=tuple(parts.pumps[p] for p in ("stairwell-8", "rill-5", "auger-7", "dabchick-40")),
        hoses=tuple(parts.hoses[h] for h in ("hose-13", "hose-19")),
    )
    return rank(stock, layout, light, plain_use(NEED), Rules(0.05, "metric")), stock


def test_ranking_is_cheapest_first_and_holds(ranking, layout, light) -> None:
    found, _ = ranking
    prices = [row.price for row in found.holds]
    assert prices == sorted(prices)
    assert found.holds
    assert all(row.worst_share >= 1 for row in found.holds)
    dry = [row for row in found.short if row.worst_share >= 1]
    for row in dry[::9]:
        assert through_years(row, layout, light, plain_use(NEED)).short_in_a_hundred > 3.0
    for row in found.holds[:2]:
        assert through_years(row, layout, light, plain_use(NEED)).short_in_a_hundred <= 3.0
    assert found.tried == len(found.holds) + len(found.short) + len(found.refused)


def test_ranking_says_what_the_jobs_own_page_says(ranking, layout, light) -> None:
    """The list keeps few numbers; the job's own year must give the same."""
    found, _ = ranking
    for row in (*found.holds[::40], *found.short[::40]):
        season = year_of(Setup(row.kit, layout, row.cabling), light, PLAIN)
        assert row.worst_litres == pytest.approx(season.average_litres[row.worst_month], rel=1e-9)
        assert row.price == pytest.approx(kit_price(Setup(row.kit, layout, row.cabling)))
        few = sum_of_year(Setup(row.kit, layout, row.cabling), light, PLAIN)
        assert (few.most_motor_v, few.most_motor_a) == pytest.approx((season.most_motor_v, season.most_motor_a))


def test_every_refusal_has_a_reason(ranking) -> None:
    found, _ = ranking
    assert {row.kit.pump.id for row in found.refused} >= {"rill-5", "dabchick-40"}
    assert all(row.reason and row.cabling is None for row in found.refused)
    assert any("can't lift water 9.4 m" in row.reason for row in found.refused)


def test_reasons_name_the_cheapest(ranking, layout, light) -> None:
    found, _ = ranking
    words = reasons(found.holds[:3], layout, light, plain_use(NEED))
    assert str(words[0]).startswith("cheapest that holds")
    assert "more than the cheapest" in words[1]
    assert "held back by" in words[2]


def test_ranking_can_be_stopped(ranking, layout, light) -> None:
    _, stock = ranking
    with pytest.raises(Stopped):
        rank(stock, layout, light, plain_use(NEED), Rules(0.05, "metric"), progress=lambda share: share < 0.3)


def test_batteries_bridge_two_days_where_they_can(parts) -> None:
    kits = [
        kit
        for kit, why in candidates(parts.pumps["stairwell-8"], parts.stock, lambda volts: 10.0)
        if kit.battery and not why
    ]
    assert kits
    assert all(kit.battery.capacity_ah * kit.battery.usable >= 20 for kit in kits)


def test_cold_string_over_the_controller_is_refused(parts, layout, light) -> None:
    kit = Kit(parts.pumps["stairwell-14"], Controlled(parts.controllers["warden-24"]), parts.panels["ridge-215"], 2, 1, parts.hoses["hose-19"])  # fmt: skip
    assert "coldest morning" in str(place_refusal(kit, layout, light))
    overdriven = Kit(parts.pumps["auger-7"], Direct(), parts.panels["kite-110"], 2, 1, parts.hoses["hose-25"])
    assert "its maker allows 32 V" in judge(overdriven, layout, light, plain_use(NEED), Rules(0.05, "metric")).reason


def test_levers_are_computed(direct_kit, layout, light, parts) -> None:
    other = replace(direct_kit, pump=parts.pumps["bellows-11"])
    found = {
        lever.key: lever
        for lever in levers(
            Setup(direct_kit, layout, CABLES),
            light,
            plain_use(NEED),
            Goods(parts.stock, Rules(0.05, "metric"), [other]),
        )
    }
    # A thicker cable brings nothing here and costs: it is not offered.
    assert set(found) == {"hose", "panel-parallel", "panel-series", "fewer", "controller", "pump-0", "shorter"}
    thin = Setup(direct_kit, layout, Cabling(conductor("mm2:1.5"), None))
    offered = levers(thin, light, plain_use(NEED), Goods(parts.stock, Rules(0.05, "metric")))
    thicker = next(lever for lever in offered if lever.kind == "cable")
    assert thicker.change > 0.005
    assert thicker.setup.cabling.pump.key == "mm2:2.5"
    assert found["hose"].setup.kit.hose.id == "hose-16"
    before = year_of(Setup(direct_kit, layout, CABLES), light, PLAIN)
    after = year_of(found["hose"].setup, light, PLAIN)
    assert found["hose"].litres == pytest.approx(after.average_litres.min())
    assert found["hose"].change == pytest.approx(after.average_litres.min() / before.average_litres.min() - 1)
    assert found["hose"].price_change == pytest.approx(64 * (1.0 - 0.8))
    assert found["shorter"].setup.layout.pump_cable_m == 11.0
    assert (found["fewer"].setup.kit.panels, found["controller"].setup.kit.controller.id) == (1, "warden-12")


def test_price_lists_every_part(battery_kit, layout) -> None:
    names = [name for name, _ in price_lines(Setup(battery_kit, layout, BOTH))]
    assert kit_price(Setup(battery_kit, layout, BOTH)) == pytest.approx(
        sum(p for _, p in price_lines(Setup(battery_kit, layout, BOTH)))
    )
    assert len(names) == 8
    assert any("64 m of" in str(name).replace("\u00a0", " ") for name in names)


def test_choose_wire_takes_the_worse_of_drop_and_heat() -> None:
    long = choose(12.0, 5.0, 30.0, 0.05, "metric")
    assert (long.conductor.size, long.limited_by) == ("10", "drop")
    short = choose(48.0, 30.0, 1.0, 0.05, "metric", ambient_c=45.0)
    assert (short.conductor.size, short.limited_by) == ("6", "ampacity")
    assert short.ampacity_a == pytest.approx(41 * 0.79)
    with pytest.raises(OutOfRange, match="too thin"):
        choose(12.0, 60.0, 200.0, 0.03, "awg")
    with pytest.raises(OutOfRange, match="a metric size"):
        metric_conductor(3.3)
    with pytest.raises(OutOfRange, match="60\u00a0°C"):
        choose(12.0, 5.0, 1.0, 0.05, "metric", ambient_c=61.0)


def test_fuse_between_its_bounds() -> None:
    found = protect(5.0, 24.0, (LoopPart("float switch", 10.0),), 22.0, "fuse", 10.0)
    assert (found.rating_a, found.weakest, found.stall_blows) == (7.5, "float switch", True)


def test_the_story_everyone_learns_once() -> None:
    """A pump that needs a 15 A fuse behind a 10 A switch: no rating satisfies both, and the switch is named."""
    found = protect(10.5, 32.0, (LoopPart("radio switch", 10.0),), 40.0, "fuse")
    assert found.rating_a is None
    assert "radio switch" in found.problems[0]
    assert "relay's coil" in found.fixes[0]


def test_a_long_thin_cable_hides_a_stall() -> None:
    stall = stall_current(12.5, 2.4, 0.42)
    found = protect(3.5, 6.0, (), stall, "fuse")
    assert found.rating_a == 5.0
    assert not found.stall_blows
    assert "cook" in found.problems[0]
    with pytest.raises(OutOfRange):
        stall_current(12.0, 0.0, 0.0)


def test_light_told_by_short_circuit_amps(direct_kit, layout) -> None:
    from squall.core.drive.solve import PvArray

    now = light_from_short_amps(direct_kit, 4.4, 22.0)
    array = PvArray(direct_kit.panel.module, 1, 2, now.irradiance_w_m2, now.cell_c)
    assert array.point.isc_a == pytest.approx(4.4, rel=2e-3)
    expected = {e.point: e for e in expected_readings(Setup(direct_kit, layout, CABLES), now)}
    assert expected["short-amps"].value == pytest.approx(4.4, rel=2e-3)
    with pytest.raises(OutOfRange, match="short-circuit amps"):
        light_from_short_amps(direct_kit, 40.0, 22.0)


def test_readings_are_judged_by_their_tolerance(direct_kit, battery_kit, layout) -> None:
    expected = expected_readings(Setup(direct_kit, layout, CABLES), typed_light(800.0, 20.0))
    assert [e.point for e in expected] == ["open-volts", "short-amps", "pump-volts", "pump-amps", "outlet-flow"]
    for e in expected:
        assert judge_reading(e, e.value) == "good"
        assert judge_reading(e, e.low * 0.99) == "low"
        assert judge_reading(e, e.high * 1.01) == "high"
        assert meaning(e.point, "low") != meaning(e.point, "good")
    assert "rest-volts" in [
        e.point for e in expected_readings(Setup(battery_kit, layout, BOTH), typed_light(800.0, 20.0))
    ]
    assert set(POINTS) == {*(e.point for e in expected), "rest-volts"}


def test_wrong_light_is_refused() -> None:
    with pytest.raises(OutOfRange, match="light"):
        typed_light(3000.0, 20.0)
    with pytest.raises(OutOfRange, match="air"):
        typed_light(300.0, 99.0)


def test_a_surface_pump_can_not_pull_from_a_deep_well(parts, layout, light) -> None:
    """Common practice, no source: 5 to 6 m is the practical limit, less at height."""
    from squall.core.advice.refusals import surface_check

    kit = Kit(parts.pumps["heron-s"], Direct(), parts.panels["ridge-215"], 1, 1, parts.hoses["hose-19"])
    shallow = replace(layout, bank_m=2.0, altitude_m=1200.0)
    deep = replace(layout, bank_m=17.8, altitude_m=1200.0)
    assert 4.5 < surface_check(kit.pump, shallow, kit.hose, 0.0).limit_m < 6.0
    assert place_refusal(kit, shallow, light) is None
    assert "pull water up 17.8 m" in place_refusal(kit, deep, light)
    assert place_refusal(replace(kit, pump=parts.pumps["stairwell-8"]), deep, light) is None
    assert place_refusal(kit, replace(deep, closed_circuit=True), light) is None


@pytest.mark.parametrize(
    ("source", "panels", "well_l_s", "minutes", "held"),
    [
        ("direct", 2, 0.02, 0.0, "held-by-well"),
        ("direct", 2, 5.0, 0.0, None),
        ("bank", 12, None, 0.0, "held-by-pump"),
        ("bank", 12, None, 30.0, "held-by-timer"),
        ("bank", 12, 0.02, 0.0, "held-by-well"),
        ("bank", 1, None, 0.0, None),
        ("bank", 1, 0.02, 0.0, None),
    ],
)
def test_what_the_source_and_the_hours_hold_back_is_named(
    source, panels, well_l_s, minutes, held, layout, light, direct_kit, battery_kit
) -> None:
    """Panels that no longer tell aren't named: a pump that runs day and night isn't held by its charge, nor one at a well's yield by the sun."""
    kit = replace(direct_kit, in_parallel=panels)
    if source == "bank":
        charger = replace(battery_kit.supply, controller=replace(battery_kit.supply.controller, max_a=80.0))
        kit = replace(battery_kit, in_parallel=panels, supply=charger)
    timer = (TimerStart(8.0, minutes),) if minutes else ()
    use = replace(plain_use((500.0,) * 12), most_l_s=well_l_s, bank=BankState(1.0, 20.0, timer))
    setup = Setup(kit, layout, Cabling(conductor("mm2:6"), conductor("mm2:1.5")))
    found = limiting_cause(kit, layout, year_of(setup, light, use), use).code
    assert found == held if held else found in ("held-by-run-through-hose", "held-by-charge", "held-by-sun")
