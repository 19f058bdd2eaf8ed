"""Pebble, weighed readings, suction, strings, starting light, reserve."""

from dataclasses import replace
from math import sqrt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from squall.core.drive.motors import Motor
from squall.core.drive.solve import PvArray, PvController, solve, start_irradiance
from squall.core.drive.strings import string_window
from squall.core.electrics.energy import autonomy_hours
from squall.core.electrics.modules import Module
from squall.core.errors import OutOfRange
from squall.core.hydraulics.pipes import Line, Pipe
from squall.core.hydraulics.suction import air_pressure, suction_limit
from squall.core.hydraulics.water import water_at
from squall.core.sources.levels import Level, combine_levels, depth_from_drop, sound_speed, trust_in

MODULE = Module(42.7, 5.6, 35.2, 5.2, 72, 0.05, -0.31)
WATER = water_at(15.0)


@given(st.floats(0.5, 80.0), st.floats(-10.0, 40.0))
def test_pebble_gives_the_depth_back(depth: float, air: float) -> None:
    """Forward by hand: fall sqrt(2 d/g), and the sound's way back d/c."""
    time = sqrt(2 * depth / 9.80665) + depth / sound_speed(air)
    if time <= 10.0:
        assert depth_from_drop(time, air).depth_m == pytest.approx(depth, rel=1e-9)


def test_pebble_by_hand() -> None:
    """A second's fall without the sound's way is 4.903 m; with it, t = 1 s is 4.767 m at 15 °C (by iteration by hand)."""
    level = depth_from_drop(1.0)
    assert level.depth_m == pytest.approx(4.767, abs=0.002)
    assert level.depth_m < 0.5 * 9.80665


def test_speed_of_sound() -> None:
    """343.2 m/s at 20 °C, handbook value (from memory)."""
    assert sound_speed(20.0) == pytest.approx(343.2, abs=0.1)


def test_a_late_thumb_reads_too_deep_by_what_is_said() -> None:
    level = depth_from_drop(1.6)
    late = depth_from_drop(1.8)
    assert late.depth_m - level.depth_m == pytest.approx(level.uncertainty_m, rel=0.08)
    with pytest.raises(OutOfRange):
        depth_from_drop(0.0)
    with pytest.raises(OutOfRange):
        depth_from_drop(11.0)


readings = st.lists(st.builds(Level, st.floats(1.0, 60.0), st.floats(0.01, 5.0)), min_size=1, max_size=8)


@given(readings)
def test_combining_never_widens_the_best(many: list[Level]) -> None:
    found = combine_levels(many)
    assert found.level.uncertainty_m <= min(reading.uncertainty_m for reading in many) * (1 + 1e-12)
    depths = [reading.depth_m for reading in many]
    assert min(depths) - 1e-9 <= found.level.depth_m <= max(depths) + 1e-9


def test_equal_readings_average_and_sharpen() -> None:
    found = combine_levels([Level(10.0, 0.2), Level(11.0, 0.2), Level(10.5, 0.2), Level(10.5, 0.2)])
    assert found.level.depth_m == pytest.approx(10.5)
    assert found.level.uncertainty_m == pytest.approx(0.1)


def test_a_reading_far_off_is_named() -> None:
    found = combine_levels([Level(11.72, 0.1), Level(11.70, 0.02), Level(9.0, 0.2)])
    assert not found.consistent
    assert found.outliers == (2,)
    assert combine_levels([Level(11.72, 0.1), Level(11.70, 0.02)]).consistent
    with pytest.raises(OutOfRange):
        combine_levels([])
    with pytest.raises(OutOfRange, match="uncertainty"):
        combine_levels([Level(5.0, 0.0)])


def test_ways_are_trusted_in_their_order() -> None:
    ways = ["contact meter", "weighted tape", "line and bottle", "timed pebble"]
    trusts = [trust_in(way) for way in ways]
    assert trusts == sorted(trusts)
    assert trust_in("bottle") == trust_in("line")
    with pytest.raises(OutOfRange, match="or give its uncertainty"):
        trust_in("dowsing rod")


@pytest.mark.parametrize(("altitude", "kpa"), [(0, 101.325), (1000, 89.875), (2000, 79.495), (3000, 70.108)])
def test_air_pressure_against_the_standard_atmosphere(altitude: float, kpa: float) -> None:
    """ISO 2533:1975 standard atmosphere, table of pressure by geopotential altitude (from memory)."""
    assert air_pressure(altitude) / 1000 == pytest.approx(kpa, rel=2e-4)


def test_suction_is_five_to_six_metres_in_practice() -> None:
    """Common practice, no source: 5 to 6 m, less at height."""
    pipe = Line(0.0, (Pipe(7.0, 0.0254, 7e-6, 5.0),), WATER)
    sea = suction_limit(0.0, pipe, 25 / 60_000, 3.0, 0.5)
    hill = suction_limit(1500.0, pipe, 25 / 60_000, 3.0, 0.5)
    assert 5.0 < sea < 7.0
    assert hill < sea - 1.4
    assert suction_limit(0.0, replace(pipe, water=water_at(55.0)), 25 / 60_000, 3.0, 0.5) < sea
    assert suction_limit(4000.0, pipe, 60 / 60_000, 6.0, 0.5) < 0


def test_two_long_panels_in_series_by_the_trade() -> None:
    """Common practice, no source: two of 42.7 V make 85.4 V; wants at least 48, likes 60 to 90."""
    found = string_window(MODULE, 2, 25.0, 65.0, 150.0, 48.0, 60.0, 90.0)
    assert found.voc_cold_v == pytest.approx(85.4)
    assert found.verdict == "outside-best" if found.vmp_hot_v < 60 else found.verdict == "safe"


@pytest.mark.parametrize(
    ("series", "most", "least", "best", "verdict"),
    [
        (2, 120.0, 40.0, (50.0, 90.0), "safe"),
        (3, 120.0, 40.0, (50.0, 90.0), "too-high"),
        (1, 120.0, 40.0, (50.0, 90.0), "too-low"),
        (2, 120.0, 40.0, (65.0, 90.0), "outside-best"),
        (2, 120.0, 40.0, (50.0, 60.0), "outside-best"),
        (2, 120.0, 40.0, (None, None), "safe"),
    ],
)
def test_windows(series, most, least, best, verdict) -> None:
    found = string_window(MODULE, series, -9.0, 70.0, most, least, *best)
    assert found.verdict == verdict
    assert found.reasons
    assert found.voc_cold_v == pytest.approx(series * 42.7 * (1 + 0.0031 * 34))


def test_starting_light_is_where_the_drive_starts(centrifugal: Motor) -> None:
    line = Line(5.0, (Pipe(20, 0.019, 7e-6, 2),), WATER)
    small = Module(22.6, 6.42, 18.6, 5.93, 36, 0.05, -0.31)
    light, why = start_irradiance(PvArray(small, 1, 1, 0.0, 30.0), 0.2, centrifugal, line)
    assert why is None
    assert solve(PvArray(small, 1, 1, light, 30.0), 0.2, centrifugal, line).flows
    assert not solve(PvArray(small, 1, 1, light - 0.05, 30.0), 0.2, centrifugal, line).flows
    held = PvController(PvArray(small, 1, 1, 0.0, 30.0), 0.95, 5.0, 50.0, 14.0)
    assert start_irradiance(held, 0.2, centrifugal, line)[0] < light
    none, why = start_irradiance(PvArray(small, 1, 1, 0.0, 30.0), 0.2, centrifugal, replace(line, static_head_m=60.0))
    assert none is None
    assert "lift is 60 m" in why


def test_autonomy_by_hand() -> None:
    assert autonomy_hours(75.0, 0.5, 0.9, 4.5) == pytest.approx(7.5)


@given(st.floats(0.0, 10.0, exclude_min=True))
def test_a_pebble_falls_to_a_depth_and_a_doubt_however_short_it_falls(seconds: float) -> None:
    level = depth_from_drop(seconds)
    fall, echo = sqrt(2.0 * level.depth_m / 9.80665), level.depth_m / sound_speed(15.0)
    assert fall + echo == pytest.approx(seconds, rel=1e-9, abs=1e-150)
    assert 0.0 <= level.uncertainty_m <= 0.2 * sound_speed(15.0)
