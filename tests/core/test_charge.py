"""Battery days: what the two kinds of charge controller bring in, and what the pump makes of it."""

from dataclasses import replace

import numpy as np
import pytest
from hill import PLAIN

from squall.core.electrics.conductors import conductor
from squall.core.errors import OutOfRange
from squall.core.kit.bank import AS_NEW, BankState, cold_factor
from squall.core.kit.kit import Kit
from squall.core.kit.setup import Cabling, Setup
from squall.core.sky.typical_days import AVERAGE
from squall.core.years.lit import charge_current, daily_charge
from squall.core.years.typical import reserve_days, year_of

CABLES = Cabling(conductor("mm2:6"), conductor("mm2:2.5"))


def with_charger(kit: Kit, parts, charger: str) -> Kit:
    return replace(kit, supply=replace(kit.supply, controller=parts.controllers[charger]))


def test_tracking_brings_more_than_switching(battery_kit, parts, layout, light) -> None:
    switching = daily_charge(Setup(battery_kit, layout, CABLES), light)
    tracking = daily_charge(Setup(with_charger(battery_kit, parts, "sluice-15"), layout, CABLES), light)
    assert (tracking > switching).all()
    assert (tracking < 1.6 * switching).all()


def test_charge_never_passes_the_controllers_rating(battery_kit, parts, layout, light) -> None:
    large = replace(battery_kit, panel=parts.panels["ridge-160"], in_parallel=3)
    current = charge_current(Setup(large, layout, CABLES), light)
    assert current.max() == pytest.approx(battery_kit.controller.max_a)


def test_switching_charge_is_never_more_than_the_short_circuit(battery_kit, layout, light) -> None:
    current = charge_current(Setup(battery_kit, layout, CABLES), light)
    most = battery_kit.panel.module.isc_a * light.plane_w_m2.max() / 1000 * 1.03
    assert 0 < current.max() <= most


def test_two_batteries_in_series_double_volts_and_resistance(battery_kit) -> None:
    two = replace(battery_kit, supply=replace(battery_kit.supply, count=2))
    assert two.bank_v == pytest.approx(2 * battery_kit.bank_v)
    assert two.bank_ohm == pytest.approx(2 * battery_kit.bank_ohm)
    assert two.system_v == two.bank_v


def test_a_day_has_twenty_four_hours(battery_kit, parts, layout, light) -> None:
    rich = replace(
        battery_kit,
        panel=parts.panels["ridge-160"],
        in_parallel=4,
        supply=replace(battery_kit.supply, controller=parts.controllers["till-20"]),
    )
    season = year_of(Setup(rich, layout, CABLES), light, PLAIN)
    hours = (season.flow_m3_s / season.flow_m3_s.max()).sum(axis=2) * 0.5
    assert hours.max() <= 24.0 + 1e-9
    assert hours[AVERAGE].min() > 8


def test_a_controllers_own_draw_costs_water(battery_kit, layout, light) -> None:
    thirsty = replace(
        battery_kit, supply=replace(battery_kit.supply, controller=replace(battery_kit.controller, own_a=0.2))
    )
    lean, fat = (year_of(Setup(kit, layout, CABLES), light, PLAIN).average_litres for kit in (thirsty, battery_kit))
    assert (lean < fat).all()


def test_a_bank_too_low_for_the_lift_says_so(battery_kit, layout, light) -> None:
    season = year_of(Setup(battery_kit, replace(layout, lift_m=30.0), CABLES), light, PLAIN)
    assert not season.gives_water
    assert "can't push water over the lift" in season.stopped[0]
    assert reserve_days(battery_kit, 500.0, season, AS_NEW) is None


def test_reserve_by_hand(battery_kit, layout, light) -> None:
    """Half of 35 Ah, in the cold as much less, over the amp-hours that 750 L take at the pump's own flow and amps."""
    season = year_of(Setup(battery_kit, layout, CABLES), light, PLAIN)
    hours = 0.75 / (season.flow_m3_s.max() * 3600)
    expected = 17.5 * cold_factor("lead", AS_NEW.air_c) / (season.motor_a.max() * hours)
    assert reserve_days(battery_kit, 750.0, season, AS_NEW) == pytest.approx(expected)
    half = reserve_days(battery_kit, 750.0, season, BankState(0.5, 25.0))
    assert half == pytest.approx(8.75 / (season.motor_a.max() * hours))
    assert reserve_days(battery_kit, 0.0, season, AS_NEW) is None


def test_pumping_lies_around_noon(battery_kit, layout, light) -> None:
    season = year_of(Setup(battery_kit, layout, CABLES), light, PLAIN)
    first, last = season.water_hours(AVERAGE, 6)
    assert (first + last) / 2 == pytest.approx(12.5, abs=0.3)


@pytest.mark.parametrize("change", [{"in_series": 0}, {"in_parallel": 13}])
def test_arrays_and_banks_that_can_not_be(battery_kit, change: dict[str, object]) -> None:
    with pytest.raises(OutOfRange):
        replace(battery_kit, **change)
    with pytest.raises(OutOfRange, match="batteries in series"):
        replace(battery_kit.supply, count=9)


def test_the_order_of_kinds_of_day(battery_kit, layout, light) -> None:
    season = year_of(Setup(battery_kit, layout, CABLES), light, PLAIN)
    assert np.all(season.litres[0] >= season.litres[1])
