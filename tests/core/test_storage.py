"""A tank with a float switch: water balance, switching, what is refused."""

from math import exp

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from squall.core.errors import OutOfRange, Unsolvable
from squall.core.years.tanks import Tank, effective_travel_m, fed_from_below, float_cycle, run_store, without_switch

TANK = Tank(1000.0, 600.0, 950.0)
rates = st.lists(st.floats(0.0, 0.4), min_size=1, max_size=30)


@given(
    draw=rates,
    seed=st.integers(0, 999),
    start=st.floats(0.0, 1000.0),
    on=st.floats(0.0, 800.0),
    travel=st.floats(1.0, 200.0),
)
def test_no_water_is_made_or_lost(draw, seed, start, on, travel) -> None:
    inflow = np.random.default_rng(seed).uniform(0.0, 0.5, len(draw))
    run = run_store(Tank(1000.0, on, on + travel), start, 600.0, np.array(draw), inflow)
    taken = sum(draw) * 600.0 - run.short_l
    assert start + run.pumped_l == pytest.approx(run.levels_l[-1] + taken + run.overflow_l, abs=1e-6)
    assert (run.levels_l >= -1e-9).all()
    assert (run.levels_l <= 1000.0 + 1e-9).all()
    assert run.levels_l.size == len(draw) + 1
    assert 0.0 <= run.run_h <= len(draw) / 6.0 + 1e-9


@given(draw=rates, start=st.floats(0.0, 1000.0))
def test_cutting_steps_in_two_changes_nothing(draw, start) -> None:
    """Within a step the level is followed exactly, so half steps give the same."""
    inflow = np.full(len(draw), 0.3)
    whole = run_store(TANK, start, 600.0, np.array(draw), inflow)
    halves = run_store(TANK, start, 300.0, np.repeat(draw, 2), np.repeat(inflow, 2))
    assert halves.levels_l[::2] == pytest.approx(whole.levels_l, abs=1e-6)
    assert halves.starts == whole.starts
    assert halves.pumped_l == pytest.approx(whole.pumped_l, abs=1e-6)


def test_switching_by_hand() -> None:
    """700 L, 2 L/min drawn: 50 min to 600 L; on at 8 L/min the level rises 6 L/min: 58.3 min to 950 L; and so on."""
    draw, inflow = np.full(300, 2.0 / 60.0), np.full(300, 8.0 / 60.0)
    run = run_store(TANK, 700.0, 60.0, draw, inflow)
    rise = 350.0 / 6.0
    assert run.levels_l[50] == pytest.approx(600.0, abs=1e-9)
    assert run.levels_l[80] == pytest.approx(600.0 + 30.0 * 6.0)
    assert run.shortest_run_h == pytest.approx(rise / 60.0)
    assert run.starts == 2  # at 50 min, and 50 + 58.3 + 175 = 283 min
    assert run.run_h * 60.0 == pytest.approx(rise + (300.0 - 50.0 - rise - 175.0))


def test_float_stays_as_it_is_between_its_marks() -> None:
    nothing = np.zeros(10)
    assert run_store(TANK, 800.0, 600.0, nothing, np.ones(10)).pumped_l == 0.0
    assert run_store(TANK, 600.0, 600.0, nothing, np.ones(10)).starts == 0
    begun = run_store(TANK, 599.0, 600.0, nothing, np.ones(10))
    assert begun.starts == 1
    assert begun.levels_l[-1] == 950.0


def test_an_empty_tank_passes_on_what_comes() -> None:
    run = run_store(TANK, 0.0, 3600.0, np.array([0.2, 0.2]), np.array([0.05, 0.0]))
    assert run.levels_l.tolist() == [0.0, 0.0, 0.0]
    assert run.pumped_l == pytest.approx(180.0)
    assert run.short_l == pytest.approx(0.15 * 3600 + 0.2 * 3600)


def test_without_a_switch_it_spills() -> None:
    run = run_store(without_switch(100.0), 100.0, 600.0, np.array([0.0, 0.1]), np.array([0.5, 0.5]))
    assert run.overflow_l == pytest.approx(300.0 + 240.0)
    assert run.levels_l[-1] == 100.0


def test_a_level_that_feeds_back_follows_its_closed_form() -> None:
    """Inflow falling straight with the level: l = le - (le - l0) e^(-t k), with k the slope and le where they balance."""
    tank = Tank(1000.0, 900.0, 1000.0)
    levels, flows = fed_from_below(tank, 0.5, lambda h: 0.5 - 0.2 * h)  # 1000 L on 0.5 m2 is 2 m: 0.5 to 0.1 L/s
    run = run_store(tank, 100.0, 60.0, np.full(200, 0.2), np.ones(200), (levels, flows))
    k, balance = 0.4 / 1000.0, 750.0
    t = np.arange(201) * 60.0
    assert run.levels_l == pytest.approx([balance - (balance - 100.0) * exp(-k * s) for s in t], abs=1e-6)
    assert run.starts == 1


@pytest.mark.parametrize(
    ("bad", "said"),
    [((0.0, 0.0, 0.0), "tank"), ((100.0, 60.0, 60.0), "on below"), ((100.0, 80.0, 60.0), "on below"),
     ((100.0, 20.0, 120.0), "off above"), ((100.0, -1.0, 50.0), "on below"), ((float("nan"), 1.0, 2.0), "tank")],
)  # fmt: skip
def test_tanks_that_cannot_be(bad, said) -> None:
    with pytest.raises(OutOfRange, match=said):
        Tank(*bad)


def test_runs_that_cannot_be() -> None:
    one = np.ones(1)
    with pytest.raises(OutOfRange, match="start"):
        run_store(TANK, 1200.0, 60.0, one, one)
    with pytest.raises(OutOfRange, match="steps"):
        run_store(TANK, 100.0, 60.0, one, np.ones(2))
    with pytest.raises(OutOfRange, match="negative"):
        run_store(TANK, 100.0, 60.0, -one, one)
    with pytest.raises(OutOfRange, match="step"):
        run_store(TANK, 100.0, 0.0, one, one)
    with pytest.raises(OutOfRange, match="surface"):
        fed_from_below(TANK, 0.0, lambda h: 1.0)
    with pytest.raises(Unsolvable, match="more travel"):
        run_store(Tank(1000.0, 500.0, 500.0001), 500.0, 86_400.0, np.full(300, 0.2), np.full(300, 0.4))


def test_float_cycle_and_ripple() -> None:
    cycle = float_cycle(180.0, 0.3, 0.1)
    assert cycle is not None
    assert cycle.run_h == pytest.approx(180.0 / 0.2 / 3600.0)
    assert cycle.pause_h == pytest.approx(180.0 / 0.1 / 3600.0)
    assert cycle.starts_a_day == pytest.approx(24.0 / (cycle.run_h + cycle.pause_h))
    assert float_cycle(180.0, 0.1, 0.1) is None
    assert float_cycle(180.0, 0.1, 0.0) is None
    assert effective_travel_m(0.3, 0.02) == pytest.approx(0.28)
    assert effective_travel_m(0.02, 0.05) == 0.0
    with pytest.raises(OutOfRange, match="travel"):
        float_cycle(0.0, 0.3, 0.1)
