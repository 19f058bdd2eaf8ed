"""A pressure switch against Boyle's law and a run counted second by second; a restrictor against its own label; two pumps in turn."""

from dataclasses import replace

import pytest

from squall.core.drive.motors import curve_at
from squall.core.electrics.conductors import conductor
from squall.core.errors import OutOfRange
from squall.core.hydraulics.water import water_at
from squall.core.kit.carried import carried_kg, mass_lines, pieces_of, shared_out
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Layout, RunPiece
from squall.core.kit.pressure_switch import PressureSwitch, flow_at_head
from squall.core.kit.setup import Cabling, Setup, price_lines
from squall.core.kit.supply import Direct

LM = 1.0 / 60_000.0


def test_the_buffers_water_is_boyles() -> None:
    """20 to 40 psi, air at 18 psi before any water: V (18 + 14.7)(1/34.7 - 1/54.7), worked by hand: 0.3446 of the tank."""
    psi = 0.70307  # m of water, ASTM E29 rounding of 2.30666 ft
    switch = PressureSwitch(20 * psi, 40 * psi, 100.0)
    assert switch.buffered_l == pytest.approx(34.46, rel=0.005)
    assert PressureSwitch(10.0, 20.0).buffered_l == 0.0


def test_starts_an_hour_are_those_of_a_run_counted_second_by_second(displacement) -> None:
    switch = PressureSwitch(15.0, 30.0, 20.0, 2.0 * LM)
    cycles = switch.cycles(displacement, 24.0)
    gives, water, level, on, starts, steps = cycles.gives_m3_s, switch.buffered_l / 1000.0, 0.0, False, 0, 0
    assert gives == pytest.approx(flow_at_head(curve_at(displacement, 24.0), 22.5))
    while steps < 36_000:  # ten hours
        if not on and level <= 0.0:
            on, starts = True, starts + 1
        if on and level >= water:
            on = False
        level += (gives if on else 0.0) - 2.0 * LM
        steps += 1
    assert cycles.starts_h == pytest.approx(starts / 10.0, rel=0.06)


def test_it_chatters_without_a_buffer_and_runs_on_at_a_great_flow(displacement) -> None:
    bare = PressureSwitch(15.0, 30.0, 0.0, 2.0 * LM)
    assert bare.cycles(displacement, 24.0).starts_h is None
    assert bare.cycles(displacement, 24.0).too_often
    assert replace(bare, small_flow_m3_s=20.0 * LM).cycles(displacement, 24.0) is None
    assert replace(bare, small_flow_m3_s=None).cycles(displacement, 24.0) is None


def test_it_must_stop_and_start_again(centrifugal) -> None:
    """12 m shut-off at 12 V: a cut-out of 11.9 m is never reached for sure; a column of 8 m holds the switch off for ever."""
    assert PressureSwitch(9.0, 11.0).refusal(centrifugal, 12.0, 8.0) is None
    assert PressureSwitch(9.0, 11.9).refusal(centrifugal, 12.0, 8.0).code == "pressure-switch-never-stops"
    assert PressureSwitch(9.0, 11.0).refusal(centrifugal, 11.0, 8.0).code == "pressure-switch-never-stops"
    assert PressureSwitch(8.2, 11.0).refusal(centrifugal, 12.0, 8.0).code == "pressure-switch-never-starts"
    with pytest.raises(OutOfRange):
        PressureSwitch(11.0, 9.0)


def test_a_restrictor_passes_what_its_label_says_whatever_the_hose() -> None:
    """Nothing else in the way: 6 L/min at 30 m; at a quarter of the pressure half of it."""
    for bore in (0.0127, 0.0191, 0.05):
        run = (RunPiece(0.0, bore, 7e-6, 0.0),)
        laid = Layout(
            0.0, 0.0, run, water_at(15.0), False, 3.0, 10.0, 35.0, -9.0, restrict_s2_m5=30.0 / (6.0 * LM) ** 2
        )
        line = laid.line(None)
        assert line.loss_m(6.0 * LM) == pytest.approx(30.0, rel=1e-9)
        assert line.loss_m(3.0 * LM) == pytest.approx(7.5, rel=1e-9)


def test_two_pumps_in_turn_cost_two_and_last_twice(parts, layout) -> None:
    kit = Kit(parts.pumps["stairwell-8"], Direct(), parts.panels["kite-50"], 1, 2, parts.hoses["hose-13"])
    two = replace(kit, pumps=2)
    cabling = Cabling(conductor("mm2:2.5"), None)
    one_setup, two_setup = Setup(kit, layout, cabling), Setup(two, layout, cabling)
    assert two_setup.price - one_setup.price == pytest.approx(kit.pump.price)
    assert sum(p for _, p in price_lines(two_setup)) == pytest.approx(two_setup.price)
    assert sum(m for _, m in mass_lines(two_setup)) - sum(m for _, m in mass_lines(one_setup)) == pytest.approx(
        kit.pump.mass_kg
    )
    assert two.life_h == 2.0 * kit.life_h
    assert two_setup.table is one_setup.table or (two_setup.table.flow_m3_s == one_setup.table.flow_m3_s).all()


def test_bags_hold_all_of_it_and_none_is_much_too_heavy(parts, layout, battery_kit) -> None:
    setup = Setup(replace(battery_kit, in_parallel=2), layout, Cabling(conductor("mm2:2.5"), conductor("mm2:4")))
    whole = carried_kg(setup)
    heaviest = max(piece.each_kg for piece in pieces_of(setup))
    for count in (1, 2, 3, 5):
        bags = shared_out(setup, count)
        assert len(bags) == count
        assert sum(bag.mass_kg for bag in bags) == pytest.approx(whole)
        assert bags[0].mass_kg <= 4.0 / 3.0 * max(whole / count, heaviest) + 1e-9
    assert sum(mass for _, mass in mass_lines(setup)) == pytest.approx(whole)
