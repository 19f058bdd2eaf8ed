"""Limits and invariants of pipes and pump curves."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from squall.core.errors import BadCurve, OutOfRange
from squall.core.hydraulics.curves import PumpCurve, operating_point
from squall.core.hydraulics.pipes import Line, Pipe, flow_for_loss, pipe_loss
from squall.core.hydraulics.water import water_at

LM = 1.0 / 60_000.0
WATER = water_at(15.0)
CURVE = PumpCurve(((0.0, 12.5), (8.8 * LM, 10.57), (17.6 * LM, 5.3), (22 * LM, 1.5)))


def line(lift: float, length: float = 64.0, bore: float = 0.0191, k: float = 6.0) -> Line:
    return Line(lift, (Pipe(length, bore, 7e-6, k),), WATER)


def test_no_flow_no_loss() -> None:
    loss = pipe_loss(0.0, Pipe(10.0, 0.02, 1e-5), WATER)
    assert (loss.head_loss_m, loss.regime) == (0.0, "still")


@given(st.floats(0.05, 60.0), st.floats(1.0, 300.0), st.floats(0.006, 0.06))
def test_twice_the_length_twice_the_friction(flow: float, length: float, bore: float) -> None:
    once = pipe_loss(flow * LM, Pipe(length, bore, 7e-6), WATER)
    twice = pipe_loss(flow * LM, Pipe(2 * length, bore, 7e-6), WATER)
    assert twice.friction_m == pytest.approx(2 * once.friction_m, rel=1e-12)


@given(st.floats(0.0, 11.0), st.floats(0.01, 5.0))
def test_more_lift_never_gives_more_water(lift: float, more: float) -> None:
    low, high = operating_point(CURVE, line(lift)), operating_point(CURVE, line(lift + more))
    assert (high.flow_m3_s or 0.0) <= (low.flow_m3_s if low.flow_m3_s is not None else 1.0)


@given(st.floats(0.008, 0.04), st.floats(1.02, 2.0))
def test_wider_hose_never_gives_less(bore: float, wider: float) -> None:
    narrow, wide = operating_point(CURVE, line(5.0, bore=bore)), operating_point(CURVE, line(5.0, bore=bore * wider))
    limit = CURVE.last[0]
    assert (wide.flow_m3_s or limit) >= (narrow.flow_m3_s or limit) * (1 - 1e-9)


@given(st.lists(st.tuples(st.floats(0.1, 5.0), st.floats(0.1, 5.0)), min_size=2, max_size=8))
def test_any_curve_passes_its_own_points(steps: list[tuple[float, float]]) -> None:
    flow, head = 0.0, sum(fall for _, fall in steps) + 1.0
    points = [(flow, head)]
    for grow, fall in steps:
        flow, head = flow + grow * LM, head - fall
        points.append((flow, head))
    curve = PumpCurve(tuple(points))
    for q, h in points:
        assert curve.head_m(q) == pytest.approx(h, abs=1e-9)


def test_three_points_from_zero_make_a_power_law() -> None:
    """A - B Q^2 through its points: 10 - 0.1 Q^2 at Q in l/min."""
    curve = PumpCurve(((0.0, 10.0), (5 * LM, 7.5), (9 * LM, 1.9)))
    assert curve.head_m(7 * LM) == pytest.approx(10 - 0.1 * 49, rel=1e-9)


def test_torricelli_limit() -> None:
    """With nothing lost but the outlet's own K = 1, v = sqrt(2 g h) (Torricelli)."""
    only_exit = Line(0.0, (Pipe(0.0, 0.02, 0.0, 1.0),), WATER)
    assert flow_for_loss(2.0, only_exit) / (3.14159265 / 4 * 0.02**2) == pytest.approx(
        (2 * 9.80665 * 2.0) ** 0.5, rel=1e-6
    )


def test_pump_that_cannot_reach_says_by_how_much() -> None:
    point = operating_point(CURVE, line(14.0))
    assert (point.flows, point.flow_m3_s, point.limiting) == (False, 0.0, "too-high")
    assert point.missing_m == pytest.approx(1.5)


def test_nothing_is_promised_beyond_the_last_point() -> None:
    point = operating_point(CURVE, line(0.0, length=1.0, bore=0.05, k=0.0))
    assert (point.flow_m3_s, point.limiting) == (None, "curve-end")
    assert CURVE.head_m(CURVE.last[0] * 1.01) != CURVE.head_m(CURVE.last[0] * 1.01)  # not a number


def test_curve_that_starts_above_zero_promises_nothing_below() -> None:
    late = PumpCurve(((5 * LM, 8.0), (10 * LM, 4.0)))
    assert operating_point(late, line(9.0)).limiting == "curve-start"


@pytest.mark.parametrize(
    ("points", "words"),
    [
        (((0.0, 5.0), (5 * LM, 6.0)), "rises with the flow"),
        (((0.0, 5.0),), "at least two points"),
        (((0.0, 5.0), (0.0, 4.0)), "Two heads"),
        (((-LM, 5.0), (LM, 4.0)), "impossible"),
        (((0.0, float("nan")), (LM, 4.0)), "impossible"),
    ],
)
def test_curves_that_no_pump_has(points, words: str) -> None:
    with pytest.raises(BadCurve, match=words):
        PumpCurve(points)


@pytest.mark.parametrize(
    "bad", [{"inner_diameter_m": 0.0}, {"length_m": -1.0}, {"roughness_m": 0.01}, {"minor_loss_k": -2.0}]
)
def test_impossible_pipes(bad: dict[str, float]) -> None:
    with pytest.raises(OutOfRange):
        Pipe(**({"length_m": 10.0, "inner_diameter_m": 0.02, "roughness_m": 1e-5} | bad))


def test_negative_flow_and_hot_water_are_refused() -> None:
    with pytest.raises(OutOfRange, match="flow"):
        pipe_loss(-1e-5, Pipe(1.0, 0.02, 0.0), WATER)
    with pytest.raises(OutOfRange, match="water temperature"):
        water_at(75.0)
