"""Doubt: the range of litres, what narrows it, and the choice of kit at its ends."""

from dataclasses import replace

import pytest
from hill import PLAIN
from hypothesis import given, settings
from hypothesis import strategies as st

from squall.core.advice.doubt import Case, Place, choice_range, litre_range, mark_of, spreads_of
from squall.core.advice.rank import rank
from squall.core.electrics.conductors import conductor
from squall.core.errors import Stopped
from squall.core.kit.cabling import Rules
from squall.core.kit.changes import lower, pump_stronger, water_lower
from squall.core.kit.parts import Stock
from squall.core.kit.setup import Cabling, Setup
from squall.core.years.tanks import Tank
from squall.core.years.typical import sum_of_year
from squall.core.years.use import Use, plain_use

CABLES = Cabling(conductor("mm2:6"), None)
NEED = (600.0,) * 12


@pytest.fixture(scope="module")
def case(direct_kit, layout, light) -> Case:
    return Case(Setup(direct_kit, layout, CABLES), light)


def litres_of(case: Case) -> float:
    return float(sum_of_year(case.setup, case.light, PLAIN).average_litres[5])


def ranged(case: Case, *spreads: float):
    return litre_range(litres_of(case), spreads_of(case, *spreads), litres_of)


def test_no_doubt_no_range(case) -> None:
    found = ranged(case, 0.0, 0.0, 0.0, 0.0)
    assert found.low == found.litres == found.high
    assert found.effects == ()
    assert found.worst is found.to_measure is None


def test_each_input_moves_the_litres_the_right_way(case) -> None:
    found = ranged(case, 0.5, 0.1, 0.1, 0.1)
    assert found.low < found.litres < found.high
    for effect in found.effects:
        assert effect.at_low < found.litres < effect.at_high, effect.spread.key
    widths = [effect.width for effect in found.effects]
    assert widths == sorted(widths, reverse=True)


def test_one_input_alone_is_its_own_range(case) -> None:
    found = ranged(case, 0.8, 0.0, 0.0, 0.0)
    assert found.low == pytest.approx(litres_of(case.changed(water_lower(0.8))))
    assert found.high == pytest.approx(litres_of(case.changed(water_lower(-0.8))))
    assert found.to_measure.spread.key == "lift"
    assert "tape" in found.to_measure.spread.remedy


@settings(max_examples=8, deadline=None)
@given(lift=st.floats(0.05, 1.0), pump=st.floats(0.0, 0.3))
def test_more_doubt_never_narrows(case, lift: float, pump: float) -> None:
    narrow, wide = ranged(case, lift, 0.05, pump, 0.05), ranged(case, 2.0 * lift, 0.05, pump + 0.05, 0.05)
    assert wide.low <= narrow.low + 1e-9
    assert wide.high >= narrow.high - 1e-9


def test_light_can_not_be_measured_today(case) -> None:
    found = ranged(case, 0.0, 0.0, 0.0, 0.2)
    assert found.worst.spread.key == "light"
    assert found.to_measure is None


def test_the_pumps_flow_scales(case) -> None:
    more = case.changed(pump_stronger(1.1)).setup.kit.pump.motor.points
    assert [q for q, *_ in more] == pytest.approx([q * 1.1 for q, *_ in case.setup.kit.pump.motor.points])


def small_stock(parts) -> Stock:
    pumps = tuple(parts.pumps[key] for key in ("dabchick-20", "stairwell-8", "stairwell-14"))
    panels = tuple(parts.panels[key] for key in ("kite-50", "kite-80"))
    return Stock(pumps, panels, (), tuple(parts.controllers.values()), (parts.hoses["hose-19"],))


def stored(need: tuple[float, ...]) -> Use:
    """So many litres a day, with two days of water in a tank."""
    return plain_use(need).with_tank(Tank(1200.0, 900.0, 1200.0))


def choose(parts, case, lift_off: float, need=NEED, stop=None):
    stock = small_stock(parts)
    use, rules = stored(need), Rules(0.05, "metric")
    ranking = rank(stock, case.setup.layout, case.light, use, rules)
    best = ranking.holds[0] if ranking.holds else None
    return choice_range(
        stock, Place(case.setup.layout, case.light), use, rules, best, (lift_off, 0.05, 0.05, 0.05), stop
    )


def test_same_kit_at_both_ends_is_the_kit_between(parts, case) -> None:
    found = choose(parts, case, 0.3)
    assert found.same_at_any_lift
    assert [str(pick.words) for pick in found.picks] == [
        "as believed",
        "water higher",
        "water lower",
        "every doubt at its bad end",
    ]
    for lift in (-0.2, 0.1, 0.25):
        moved = lower(case.setup.layout, lift)
        there = rank(small_stock(parts), moved, case.light, stored(NEED), Rules(0.05, "metric")).holds[0]
        assert mark_of(there) == mark_of(found.picks[0].best)


def test_a_wide_doubt_changes_the_kit(parts, case) -> None:
    found = choose(parts, case, 8.0)
    assert not found.same_at_any_lift
    assert found.holds_to_m is not None
    held = replace(case.setup.layout, lift_m=found.holds_to_m - 0.1)
    assert mark_of(found.picks[0].best) in [
        mark_of(row) for row in rank(small_stock(parts), held, case.light, stored(NEED), Rules(0.05, "metric")).holds
    ]


def test_without_doubt_of_the_lift_only_the_bad_end_is_tried(parts, case) -> None:
    assert [str(pick.words) for pick in choose(parts, case, 0.0).picks] == ["as believed", "every doubt at its bad end"]


def test_nothing_holds_and_nothing_is_doubted(parts, case) -> None:
    found = choose(parts, case, 0.5, (1e6,) * 12)
    assert found.picks[0].best is None
    assert found.holds_to_m is None


def test_it_can_be_stopped(parts, case) -> None:
    with pytest.raises(Stopped):
        choose(parts, case, 0.5, NEED, lambda share: share < 0.3)
