"""A pump from bucket tests or its label; which end; life; throttle; joints; what costs water."""

from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from squall.core.drive.known_pumps import (
    BucketTest,
    bucket_flow,
    curve_from_label,
    curve_from_tests,
    half_of_label,
    motor_of,
)
from squall.core.drive.motors import curve_at
from squall.core.drive.solve import Battery, solve
from squall.core.errors import BadCurve, OutOfRange
from squall.core.hydraulics.curves import PumpCurve, operating_point
from squall.core.hydraulics.joints import End, clamps, join, joints_along
from squall.core.hydraulics.losses import water_costs
from squall.core.hydraulics.pipes import Line, Pipe
from squall.core.hydraulics.throttle import gate_k, gate_opening, throttle_for
from squall.core.hydraulics.water import water_at
from squall.core.kit.ends import advise_ends, life_of
from squall.words import Voice, speaking
from squall.words.forms import trade_size

LM = 1.0 / 60_000.0
WATER = water_at(14.0)


@example(low=4.76837161504683, step=0.5, most=2.0, share=0.109375, kind="centrifugal")  # psi all but flat from shut-off
@example(low=3.9375, step=0.5, most=2.0, share=0.25, kind="centrifugal")
@given(
    low=st.floats(0.0, 5.0), step=st.floats(0.5, 20.0), most=st.floats(2.0, 60.0), share=st.floats(0.1, 0.95),
    kind=st.sampled_from(["centrifugal", "displacement"]),
)  # fmt: skip
def test_a_curve_of_two_tests_passes_through_both(low, step, most, share, kind) -> None:
    tests = [BucketTest(most * LM, low), BucketTest(most * share * LM, low + step)]
    known = curve_from_tests(tests, kind)
    assert known.misfit == pytest.approx(0.0, abs=1e-7)
    motor = motor_of(known, kind, 12.0, 60.0)
    for test in tests:
        line = Line(test.height_m, (), WATER)
        found = solve(Battery(12.0, 0.0), 0.0, motor, line)
        if found.flow_m3_s is not None and found.flows:
            assert found.flow_m3_s == pytest.approx(test.flow_m3_s, rel=0.02)
    assert all(h2 <= h1 for (_, h1), (_, h2) in pairwise(sorted(known.points)))


def test_many_tests_lie_near_their_curve() -> None:
    true = [(q, 12.0 - 0.02 * q**2) for q in (4.0, 10.0, 16.0, 20.0)]
    tests = [BucketTest(q * (1.03 if n % 2 else 0.97) * LM, h) for n, (q, h) in enumerate(true)]
    known = curve_from_tests(tests, "centrifugal")
    assert 0.005 < known.misfit < 0.06
    assert known.band >= 2.0 * known.misfit
    assert known.points[0] == (0.0, pytest.approx(12.0, rel=0.05))


@pytest.mark.parametrize(
    ("tests", "words"),
    [
        ([BucketTest(10 * LM, 3.0)], "two heights"),
        ([BucketTest(10 * LM, 3.0), BucketTest(9 * LM, 3.0)], "two heights"),
        ([BucketTest(10 * LM, 3.0), BucketTest(12 * LM, 6.0)], "swapped"),
        ([BucketTest(10 * LM, 3.0), BucketTest(10 * LM, 6.0)], "tell nothing"),
        ([BucketTest(20 * LM, 1), BucketTest(2 * LM, 3), BucketTest(19 * LM, 5), BucketTest(1 * LM, 7)], "contradict"),
        ([BucketTest(-1 * LM, 3.0), BucketTest(2 * LM, 1.0)], "0 or more"),
    ],
)
def test_nonsense_is_refused(tests, words: str) -> None:
    with pytest.raises(BadCurve, match=words):
        curve_from_tests(tests, "centrifugal")


def test_bucket_and_watch() -> None:
    assert bucket_flow(10.0, 60.0) == pytest.approx(10 * LM)
    with pytest.raises(OutOfRange, match="time"):
        bucket_flow(10.0, 0.0)
    with pytest.raises(OutOfRange, match="bucket"):
        bucket_flow(0.0, 10.0)


def test_label_of_a_small_diaphragm_pump() -> None:
    """Common practice, no source: labelled 70 m and 12 L/min it gave about 4 L/min from 27 m, and half is the first guess."""
    known = curve_from_label(12 * LM, 70.0, "displacement")
    flow = operating_point(PumpCurve(known.points), Line(27.0, (), WATER)).flow_m3_s / LM
    assert flow * (1 - known.band) < 4.0 < flow * (1 + known.band)
    assert half_of_label(12 * LM, 70.0, 27.0) == pytest.approx(6 * LM)
    assert half_of_label(12 * LM, 70.0, 40.0) is None


def test_nobody_gets_both_of_a_label() -> None:
    for kind in ("centrifugal", "displacement"):
        points = sorted(curve_from_label(20 * LM, 10.0, kind).points)
        assert points[0][1] == pytest.approx(10.0)
        assert points[0][0] == pytest.approx(0.0)
        assert points[-1][0] < 20 * LM
        assert points[-1][1] == pytest.approx(0.0)


def test_amps_that_were_read_take_the_guesss_place() -> None:
    tests = [BucketTest(20 * LM, 2.0, 5.0), BucketTest(10 * LM, 8.0, 4.0)]
    motor = motor_of(curve_from_tests(tests, "centrifugal"), "centrifugal", 12.0, 500.0, tests)
    amps = {round(q / LM): i for q, _, i in motor.points}
    assert amps[20] == pytest.approx(5.0)
    assert amps[10] == pytest.approx(4.0)
    guessed = motor_of(curve_from_tests(tests, "centrifugal"), "centrifugal", 12.0, 60.0)
    assert max(i for *_, i in guessed.points) == pytest.approx(5.0)


def test_other_volts_by_the_drive_model() -> None:
    """Affinity: at half the speed half the flow at a quarter of the head; volts stand near speed."""
    motor = motor_of(curve_from_label(20 * LM, 10.0, "centrifugal"), "centrifugal", 12.0, 50.0)
    full = solve(Battery(12.0, 0.0), 0.0, motor, Line(2.0, (), WATER)).flow_m3_s
    less = solve(Battery(9.0, 0.0), 0.0, motor, Line(2.0, (), WATER)).flow_m3_s
    assert 0.5 * full < less < full


@pytest.mark.parametrize("volts", [9.0, 12.0, 15.0])
def test_curve_at_any_volts_is_the_drives_own(parts, volts: float) -> None:
    """Every point of it is where the drive model works on those volts at that head; at rated volts the measured ones."""
    for key in ("stairwell-8", "bellows-4"):
        motor = parts.pumps[key].motor
        for flow, head in curve_at(motor, volts).points[1:-1]:
            found = solve(Battery(volts, 0.0), 0.0, motor, Line(head, (), WATER))
            assert found.flow_m3_s == pytest.approx(flow, rel=1e-4)
        for moved, measured in zip(curve_at(motor, motor.rated_v).points, motor.rated_curve.points, strict=True):
            assert moved == pytest.approx(measured)


@pytest.mark.parametrize(
    ("head", "l_min", "gritty", "first", "poor"),
    [
        (8.0, 30.0, False, "centrifugal", {"diaphragm", "piston"}),
        (45.0, 11.0, False, "helical", set()),
        (45.0, 11.0, True, "centrifugal", {"helical"}),
        (90.0, 4.0, False, "piston", {"centrifugal", "diaphragm"}),
    ],
)
def test_which_end(head, l_min, gritty, first, poor) -> None:
    """Common practice, no source: under 30 m or any sand centrifugal, above with clean water helical."""
    advice = advise_ends(head, l_min * LM, gritty, False, 5.0, mended=True)
    assert advice[0].end == first
    assert {a.end for a in advice if a.fit == "poor"} == poor
    assert all(a.reasons for a in advice)


def test_nobody_near_speaks_against_valves() -> None:
    near, far = (
        {a.end: a.fit for a in advise_ends(25.0, 6 * LM, False, False, 2.0, mended)} for mended in (True, False)
    )
    assert near["diaphragm"] == "good"
    assert far["diaphragm"] == "possible"


def test_life_in_months_and_money() -> None:
    """Common practice, no source: 700 to 800 h is half a year of daily pumping."""
    life = life_of(750.0, 4.0 * 365.0, 20.0)
    assert life.months == pytest.approx(6.2, abs=0.1)
    assert life.cost_a_year == pytest.approx(38.9, abs=0.1)
    assert life_of(750.0, 0.0, 20.0).months is None


@given(wanted=st.floats(0.2, 0.9), lift=st.floats(0.0, 8.0))
def test_the_valve_gives_the_wanted_flow(wanted: float, lift: float) -> None:
    curve = PumpCurve(((0.0, 12.0), (10 * LM, 9.0), (20 * LM, 1.0)))
    pipe = Pipe(20.0, 0.0191, 7e-6, 2.0)
    line = Line(lift, (pipe,), WATER)
    free = operating_point(curve, line).flow_m3_s
    found = throttle_for(curve, line, pipe, wanted * free)
    trimmed = replace(line, pipes=(replace(pipe, minor_loss_k=2.0 + found.minor_loss_k),))
    assert operating_point(curve, trimmed).flow_m3_s == pytest.approx(wanted * free, rel=1e-6)


def test_too_much_cannot_be_trimmed() -> None:
    curve, pipe = PumpCurve(((0.0, 12.0), (10 * LM, 9.0), (20 * LM, 1.0))), Pipe(20.0, 0.0191, 7e-6)
    for flow in (0.0, 19.9, 40.0):
        with pytest.raises(OutOfRange, match="wanted flow"):
            throttle_for(curve, Line(6.0, (pipe,), WATER), pipe, flow * LM)


def test_gate_valve_rows_and_between() -> None:
    """Perry's Chemical Engineers' Handbook, 7th ed., table 6-4, from memory: 0.17, 0.9, 4.5, 24."""
    assert [gate_opening(k) for k in (0.1, 0.17, 0.9, 4.5, 24.0)] == pytest.approx([1.0, 1.0, 0.75, 0.5, 0.25])
    assert gate_opening(30.0) is None
    for opening in (0.25, 0.4, 0.6, 0.9, 1.0):
        assert gate_opening(gate_k(opening)) == pytest.approx(opening)
    with pytest.raises(OutOfRange):
        gate_k(0.1)


def test_sizes_that_meet_and_that_do_not() -> None:
    hose, pipe = End("slope hose", 0.0191, False), End("riser", 0.0254, True)
    first, second = joints_along(0.019, [hose, pipe])
    assert first.meets
    assert [str(need) for need in first.needs] == ["pushed on"]
    assert not second.meets
    assert list(map(str, second.needs)) == [
        "barb 19\u00a0mm to thread 19\u00a0mm",
        "enlarger 19\u00a0mm to 25\u00a0mm",
    ], "in this order"
    back = join(pipe, hose)
    assert list(map(str, back.needs)) == ["reducer 25\u00a0mm to 19\u00a0mm", "barb 19\u00a0mm to thread 19\u00a0mm"]
    bare = join(End(None, 0.032, True), pipe)
    assert [need.code for need in bare.needs] == ["short-soft-hose", "barb-to-thread", "reducer"]
    assert clamps([bare]) == 4, "the soft hose between has two ends"
    assert clamps([first, second]) == 4
    stiff = join(End(None, 0.0254, True), pipe)
    assert stiff.meets
    assert "soft hose" in stiff.needs[0]
    assert trade_size(0.0127) == "13\u00a0mm"
    with speaking(Voice("us")):
        assert trade_size(0.0127) == "1/2\u00a0in"


def test_what_costs_water_is_ranked_and_never_less_than_nothing() -> None:
    curve = PumpCurve(((0.0, 12.0), (10 * LM, 9.0), (20 * LM, 1.0)))
    line = Line(5.0, (Pipe(40.0, 0.0127, 7e-6, 3.0), Pipe(5.0, 0.0191, 7e-6, 1.0)), WATER)
    parts = [("wall", "a", 0, None), ("fittings", "a", 0, 3.0), ("wall", "b", 1, None), ("fittings", "b", 1, 1.0)]
    costs = water_costs(curve, line, parts)
    assert costs[0].name == "wall"
    assert costs[0].key == "a"
    assert [c.flow_m3_s for c in costs] == sorted((c.flow_m3_s for c in costs), reverse=True)
    today = operating_point(curve, line).flow_m3_s
    assert sum(c.lost_m for c in costs) == pytest.approx(line.loss_m(today))
    without = replace(line, pipes=(replace(line.pipes[0], length_m=0.0), line.pipes[1]))
    assert costs[0].flow_m3_s == pytest.approx(operating_point(curve, without).flow_m3_s - today)
