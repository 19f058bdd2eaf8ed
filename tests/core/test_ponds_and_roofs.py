"""The pond's account and the roof's: volumes against integration, balances that close, Torricelli."""

from datetime import date
from math import pi, sqrt

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

from squall.core.errors import OutOfRange
from squall.core.sources.ponds import SHAPES, Account, a_day, depths_through, inflow_from_readings, outlook, pond_of
from squall.core.sources.roofs import (
    Roof,
    overflow_bore,
    overflow_capacity,
    rain_days,
    rain_year,
    storm_inflow,
)

NOTHING = (0.0,) * 12
START = date(2026, 11, 1)


def account(inflow=0.0, draw=0.0, evaporation=0.0, rain=0.0, seepage=0.0) -> Account:
    return Account(inflow, (draw,) * 12, (evaporation,) * 12, (rain,) * 12, seepage)


@pytest.mark.parametrize("shape", SHAPES)
def test_volume_is_the_integral_of_the_surface(shape: str) -> None:
    pond = pond_of(shape, 2.5, 400.0)
    for depth in (0.3, 1.0, 2.5):
        assert pond.volume_m3(depth) == pytest.approx(quad(pond.area_m2, 0.0, depth)[0], rel=1e-6)
        assert pond.depth_m(pond.volume_m3(depth)) == pytest.approx(depth)
    # A cone's volume is a third of base times height, a trench's a half, a box's all of it.
    assert pond.full_m3 == pytest.approx(400.0 * 2.5 / {"straight": 1, "wedge": 2, "bowl": 3}[shape])


def test_a_straight_pond_falls_by_what_is_drawn_and_evaporated() -> None:
    depths = depths_through(
        pond_of("straight", 3.0, 100.0), account(draw=2.0, evaporation=0.006, seepage=0.002), START, 2.0, 30
    )
    assert depths[0] == 2.0
    assert depths[30] == pytest.approx(2.0 - 30 * (0.02 + 0.008))


@given(
    shape=st.sampled_from(list(SHAPES)), depth=st.floats(0.4, 1.9), inflow=st.floats(0.0, 6.0), draw=st.floats(0.0, 4.0),
    days=st.integers(1, 10),
)  # fmt: skip
def test_inflow_is_found_again_from_two_readings(shape, depth, inflow, draw, days) -> None:
    """Exact for straight sides; elsewhere the mean surface stands for the changing one."""
    pond = pond_of(shape, 2.0, 300.0)
    true = account(inflow, draw, 0.005, 0.001, 0.001)
    later = depths_through(pond, true, START, depth, days)[-1]
    if 0.05 < later < 1.99:
        found, off = inflow_from_readings(
            pond, true, (START, depth), (date.fromordinal(START.toordinal() + days), later)
        )
        assert found == pytest.approx(inflow, abs=1e-6 if shape == "straight" else 0.15)
        assert off > 0.0


def test_outlook_has_a_range_and_an_end() -> None:
    pond = pond_of("bowl", 2.0, 300.0)
    ahead = outlook(pond, account(0.5, 3.0, 0.006, 0.0, 0.002), START, 1.6, 0.5, 0.2)
    assert ahead.fewest < ahead.days < ahead.most
    assert outlook(pond, account(50.0), START, 1.6, 0.5, 0.0).days is None
    assert outlook(pond, account(), START, 0.4, 0.5, 0.0).days == 0


@pytest.mark.parametrize(
    ("first", "last", "words"),
    [((START, 1.0), (START, 1.1), "days between"), ((START, 5.0), (date(2026, 11, 9), 1.0), "depth of the pond")],
)
def test_impossible_readings(first, last, words: str) -> None:
    with pytest.raises(OutOfRange, match=words):
        inflow_from_readings(pond_of("bowl", 2.0, 300.0), account(), first, last)


@pytest.mark.parametrize(("shape", "depth", "area"), [("cube", 2.0, 10.0), ("bowl", 0.0, 10.0), ("bowl", 2.0, -1.0)])
def test_impossible_ponds(shape, depth, area) -> None:
    with pytest.raises(OutOfRange):
        pond_of(shape, depth, area)


def test_monthly_sums_as_daily_means() -> None:
    assert a_day([31.0, 28.0, *[0.0] * 10])[:2] == (1.0, 1.0)


def test_roof_catches_rain_less_first_flush() -> None:
    roof = Roof(100.0, 0.8, 0.001)
    assert roof.caught_m3(0.010) == pytest.approx(100.0 * (0.008 - 0.001))
    assert roof.caught_m3(0.001) == 0.0
    assert sum(rain_days(0.06, 7, 30)) == pytest.approx(0.06)
    assert sum(1 for fall in rain_days(0.06, 7, 30) if fall) == 7
    assert rain_days(0.0, 0, 28) == [0.0] * 28


@given(tank=st.floats(0.5, 40.0), need=st.floats(0.0, 0.6), rain=st.floats(0.0, 0.15), wet=st.integers(1, 12))
def test_what_is_caught_is_drawn_or_runs_over(tank, need, rain, wet) -> None:
    """Nothing made, nothing lost: over the year caught = drawn + spilt + what the tanks gained."""
    year = rain_year(Roof(120.0, 0.85, 0.0005), tank, [rain] * 12, [wet] * 12, [need] * 12)
    gained = year.caught_m3 - year.overflow_m3 - year.drawn_m3
    assert abs(gained) <= tank + 1e-9
    assert 0.0 <= min(year.level_m3) <= max(year.level_m3) <= tank + 1e-9
    assert len(year.level_m3) == 365
    assert year.days_of_water <= 365
    larger = rain_year(Roof(120.0, 0.85, 0.0005), tank * 2.0, [rain] * 12, [wet] * 12, [need] * 12)
    assert larger.days_of_water >= year.days_of_water


def test_overflow_after_torricelli() -> None:
    """v = sqrt(2 g h): 1.401 m/s under 0.1 m; through 0.6 of a 100 mm bore that is 6.60 L/s. Any hydraulics handbook."""
    assert overflow_capacity(0.1, 0.1) == pytest.approx(0.6 * pi / 4 * 0.01 * sqrt(2 * 9.80665 * 0.1))
    assert overflow_capacity(0.1, 0.1) * 1000.0 == pytest.approx(6.60, abs=0.01)
    assert overflow_capacity(0.1, 0.4) == pytest.approx(2.0 * overflow_capacity(0.1, 0.1))
    assert overflow_bore(overflow_capacity(0.073, 0.15), 0.15) == pytest.approx(0.073)


def test_a_small_overflow_fails_a_storm() -> None:
    """Common practice, no source: 38 mm had to become 100 mm."""
    storm = storm_inflow(Roof(180.0, 0.9, 0.0), 0.06)
    # 60 mm in the hour; of them 45 % in the worst ten minutes, Bell (1969), from memory.
    assert storm * 1000.0 == pytest.approx(3.0 * 2.7)
    assert storm * 600.0 == pytest.approx(180.0 * 0.06 * 0.45, rel=0.01)
    # Common practice, no source: 38 mm had to become 100 mm.
    assert overflow_capacity(0.038, 0.1) < storm < overflow_capacity(0.1, 0.16)


def test_impossible_roofs() -> None:
    for build in (lambda: Roof(0.0, 0.8, 0.0), lambda: Roof(10.0, 1.2, 0.0), lambda: overflow_capacity(0.1, 0.0)):
        with pytest.raises(OutOfRange):
            build()
    with pytest.raises(OutOfRange, match="tanks"):
        rain_year(Roof(10.0, 0.8, 0.0), 0.0, NOTHING, NOTHING, NOTHING)
