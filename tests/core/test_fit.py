"""Cutting, lifting, filling: against brute force, by hand, and what practice says."""

import itertools
import random
from math import pi

import pytest

from squall.core.errors import OutOfRange
from squall.core.fit.cuts import CUT_M, cut_plan
from squall.core.fit.filling import first_water_s, volume_above_m3
from squall.core.fit.lifting import Hung, drum_litres, load_on_rope, rope_needs_kg
from squall.core.hydraulics.pipes import Line, Pipe
from squall.core.hydraulics.water import water_at


def least_rolls(pieces: list[float], roll: float) -> int:
    """Fewest rolls of one length, by trying every way to put pieces into them."""
    for count in range(1, len(pieces) + 1):
        for where in itertools.product(range(count), repeat=len(pieces)):
            loads = [sum(p + CUT_M for p, at in zip(pieces, where, strict=True) if at == n) for n in range(count)]
            if max(loads) <= roll + CUT_M + 1e-9:
                return count
    raise AssertionError


def test_rolls_are_as_few_as_brute_force_finds() -> None:
    rng = random.Random(3)
    for _ in range(25):
        pieces = [round(rng.uniform(2.0, 20.0), 1) for _ in range(rng.randint(2, 6))]
        plan = cut_plan(pieces, [25.0])
        assert len(plan.rolls) == least_rolls(pieces, 25.0), pieces
        cut = sorted(piece for roll in plan.rolls for piece in roll.pieces)
        assert cut == sorted(pieces)
        assert all(sum(roll.pieces) <= roll.length_m + 1e-9 for roll in plan.rolls)


def test_the_least_length_is_bought_where_rolls_differ() -> None:
    # 12 + 9 + 7 = 28 m: one of 30, not 25 + 10 nor 50.
    assert [roll.length_m for roll in cut_plan([12.0, 9.0, 7.0], [10.0, 25.0, 30.0, 50.0]).rolls] == [30.0]
    # Two that fit no single short roll together.
    assert cut_plan([24.0, 24.0], [25.0, 100.0]).bought_m == 50.0


def test_an_offcut_of_the_van_is_used_before_anything_is_bought() -> None:
    plan = cut_plan([8.0, 20.0], [25.0], own_m=[9.0])
    assert plan.bought_m == 25.0, "what lies in the van is bought by nobody"
    assert (9.0, (8.0,), True) in [(roll.length_m, roll.pieces, roll.own) for roll in plan.rolls]


def test_an_end_longer_than_any_roll_saves_a_joint() -> None:
    plan = cut_plan([28.0, 8.0], [25.0], own_m=[30.0, 60.0])
    assert plan.joints == 0
    assert plan.bought_m == 0.0
    assert (30.0, (28.0,), True) in [(roll.length_m, roll.pieces, roll.own) for roll in plan.rolls]
    assert cut_plan([28.0], [25.0], own_m=[27.0]).joints == 1


def test_a_piece_longer_than_a_roll_is_joined() -> None:
    plan = cut_plan([120.0], [50.0])
    assert plan.joints == 2
    assert plan.bought_m == 150.0
    assert cut_plan([100.0], [50.0]).joints == 1


@pytest.mark.parametrize(
    ("pieces", "rolls"), [([0.0], [25.0]), ([5.0], []), ([], [25.0]), ([5.0], [-1.0]), ([1.0] * 25, [25.0])]
)
def test_what_is_no_length_is_refused(pieces: list[float], rolls: list[float]) -> None:
    with pytest.raises(OutOfRange):
        cut_plan(pieces, rolls)


def test_a_rope_carries_pump_hose_water_cable_and_itself() -> None:
    load = load_on_rope(8.0, [Hung(20.0, 0.0254, 0.3)], 4.0, 20.0)
    water = 1000.0 * pi / 4.0 * 0.0254**2 * 20.0
    cable = 2 * 20.0 * 4.0e-6 * 8960.0 * 1.33
    assert load.dry_kg == pytest.approx(8.0 + 6.0 + cable + 0.72, rel=1e-6)
    assert load.lift_kg - load.dry_kg == pytest.approx(water)
    assert load.people == 2
    assert load_on_rope(2.0, [Hung(10.0, 0.0127, 0.15)], 2.5, 10.0).people == 1
    assert load_on_rope(8.0, [Hung(60.0, 0.0318, 0.5)], 6.0, 60.0).people == 2
    assert rope_needs_kg(load, "knot") == pytest.approx(load.lift_kg * 5.0 / 0.5)
    assert rope_needs_kg(load, "clamps") < rope_needs_kg(load, "knot")
    assert drum_litres(load) == pytest.approx(2.0 * load.lift_kg)


def test_the_first_water_comes_as_practice_says() -> None:
    # Common practice, no source: 28 m of half-inch hose, of which 25 m above the water, at 3.9 L/min: 49 s.
    line = Line(20.0, (Pipe(28.0, 0.0127, 7e-6, 0.0),), water_at(15.0))
    seconds = first_water_s(line, 25.0, 3.9 / 60_000.0)
    assert seconds == pytest.approx(49.0, abs=1.0)
    assert first_water_s(line, 25.0, 0.0) is None


def test_the_volume_above_the_water_is_counted_from_the_outlet_back() -> None:
    wide, thin = Pipe(10.0, 0.05, 7e-6, 0.0), Pipe(5.0, 0.01, 7e-6, 0.0)
    assert volume_above_m3((wide, thin), 5.0) == pytest.approx(pi / 4 * 0.01**2 * 5.0)
    assert volume_above_m3((wide, thin), 7.0) == pytest.approx(pi / 4 * (0.01**2 * 5.0 + 0.05**2 * 2.0))
    assert volume_above_m3((wide, thin), 99.0) == pytest.approx(pi / 4 * (0.01**2 * 5.0 + 0.05**2 * 10.0))
