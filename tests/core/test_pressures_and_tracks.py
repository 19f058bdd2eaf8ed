"""Heights and pressures along a run; walked tracks."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from squall.core.errors import BadFile, OutOfRange
from squall.core.hydraulics.pipes import Line, Pipe, pipe_loss
from squall.core.hydraulics.pressures import end_heights, lowest_pressure, sag_after, stations
from squall.core.hydraulics.tracks import EARTH_RADIUS_M, TrackPoint, distance_m, profile_of
from squall.core.hydraulics.water import water_at

LM = 1.0 / 60_000.0
WATER = water_at(14.0)
PIPES = (Pipe(20.0, 0.0191, 7e-6, 1.0), Pipe(30.0, 0.0127, 7e-6, 2.0))


def test_heights_not_given_lie_straight_between() -> None:
    assert end_heights([10, 10, 20], [None, None, None], 0.0, 8.0) == pytest.approx([2.0, 4.0, 8.0])
    assert end_heights([10, 10, 20], [6.0, None, None], 0.0, 8.0) == pytest.approx([6.0, 6.0 + 2.0 / 3.0, 8.0])
    assert end_heights([0.0, 5.0], [None, None], 1.0, 3.0) == pytest.approx([1.0, 3.0])


def test_still_water_is_hydrostatics() -> None:
    """No flow: the grade is level and the pressure is the depth under it."""
    line = Line(10.0, PIPES, WATER)
    places = stations(line, 0.0, 0, [4.0, 10.0], -2.0, 10.0)
    assert {place.grade_m for place in places[2:]} == {10.0}
    assert next(p for p in places if str(p.name) == "pump, outlet side").pressure_m == pytest.approx(12.0)
    assert places[1].pressure_m == pytest.approx(2.0), "the pump hangs two metres under water"
    assert places[-1].pressure_m == pytest.approx(0.0)


def test_grade_falls_by_each_pieces_loss_and_ends_at_the_outlet() -> None:
    line, flow = Line(10.0, PIPES, WATER), 8 * LM
    places = stations(line, flow, 0, [4.0, 10.0], -2.0, line.head_m(flow))
    lost = [pipe_loss(flow, pipe, WATER).head_loss_m for pipe in PIPES]
    grades = [place.grade_m for place in places]
    assert grades[2] - grades[3] == pytest.approx(lost[0])
    assert grades[3] - grades[4] == pytest.approx(lost[1])
    assert places[-1].pressure_m == pytest.approx(0.0, abs=1e-9)
    assert [place.along_m for place in places] == [0.0, 0.0, 0.0, 20.0, 50.0]


def test_suction_stands_under_less_than_air() -> None:
    line, flow = Line(10.0, PIPES, WATER), 6 * LM
    places = stations(line, flow, 1, [3.0, 10.0], 3.0, line.head_m(flow))
    low = lowest_pressure(places)
    assert str(low.name) in ("end of piece 1", "pump, suction side")
    assert low.pressure_m == pytest.approx(-3.0 - pipe_loss(flow, PIPES[0], WATER).head_loss_m)


def test_drain_back_wants_a_fall_all_the_way() -> None:
    assert sag_after([2.0, 5.0, 9.0], -0.5) is None
    assert sag_after([2.0, 1.5, 9.0], -0.5) == 1
    assert sag_after([2.0, 2.0, 9.0], -0.5) is None


def test_a_degree_of_latitude() -> None:
    """pi R / 180 on the mean sphere (R 6371.0088 km, IUGG): 111.195 km."""
    assert distance_m(TrackPoint(-30, 24, 0), TrackPoint(-31, 24, 0)) == pytest.approx(111_195.0, rel=1e-5)
    assert distance_m(TrackPoint(-60, 24, 0), TrackPoint(-60, 25, 0)) == pytest.approx(111_195.0 / 2.0, rel=1e-4)
    assert pytest.approx(6_371_008.8) == EARTH_RADIUS_M


def walk(heights: list[float], step_m: float = 10.0) -> list[TrackPoint]:
    """A straight walk north."""
    return [TrackPoint(-30.0 + n * step_m / 111_195.0, 24.0, 1000.0 + h) for n, h in enumerate(heights)]


def test_a_walk_over_a_hump() -> None:
    profile = profile_of(walk([0, 2, 4, 6, 8, 10, 9, 8, 7, 6]))
    assert profile.highest_m == pytest.approx(10.0)
    assert profile.rise_m == pytest.approx(6.0)
    assert len(profile.legs) == 2
    assert profile.legs[0].end_m == pytest.approx(10.0)
    assert profile.highest_at_m == pytest.approx(profile.legs[0].length_m)
    assert sum(leg.length_m for leg in profile.legs) == pytest.approx(profile.length_m)
    assert profile.length_m == pytest.approx(5 * (100 + 4) ** 0.5 + 4 * (100 + 1) ** 0.5, rel=1e-3)


@given(st.lists(st.floats(-20, 20), min_size=2, max_size=60))
def test_any_walk_keeps_its_length_and_its_pieces_are_few(heights: list[float]) -> None:
    profile = profile_of(walk(heights))
    assert 1 <= len(profile.legs) <= 8
    assert sum(leg.length_m for leg in profile.legs) == pytest.approx(profile.length_m)
    assert profile.legs[-1].end_m == pytest.approx(profile.rise_m)
    assert profile.highest_m >= max(profile.rise_m, 0.0)


def test_walks_that_are_no_run() -> None:
    with pytest.raises(BadFile, match="fewer than two"):
        profile_of(walk([0.0]))
    with pytest.raises(BadFile, match="one place"):
        profile_of([TrackPoint(-30, 24, 5), TrackPoint(-30, 24, 5)])
    with pytest.raises(OutOfRange, match="length of the track"):
        profile_of(walk([0.0, 0.0, 0.0], 15_000.0))
