"""The drive model: its own points, affinity, sources, limits; and the compiled year against it."""

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from squall.core.drive.motors import Motor, state_at_speed, volts_to_reach
from squall.core.drive.solve import Battery, PvArray, PvController, Supply, solve
from squall.core.drive.tables import array_into_volts, load_table, marked_points, on_array, on_power, on_volts
from squall.core.electrics.modules import Module, array_point, diode_at
from squall.core.errors import BadCurve, OutOfRange, Unsolvable
from squall.core.hydraulics.pipes import Line, Pipe
from squall.core.hydraulics.water import water_at
from squall.core.roots import root

LM = 1.0 / 60_000.0
WATER = water_at(15.0)
MODULE = Module(22.6, 6.42, 18.6, 5.93, 36, 0.05, -0.31)


def bare_line(head: float) -> Line:
    return Line(head, (), WATER)


@pytest.mark.parametrize("point", [(10, 10, 3.8), (20, 6, 4.6)])
def test_rated_volts_give_the_measured_points_back(centrifugal: Motor, point) -> None:
    result = solve(Supply(12.0, 50.0), 0.0, centrifugal, bare_line(point[1]))
    assert result.flow_m3_s / LM == pytest.approx(point[0], rel=1e-9)
    assert result.motor_a == pytest.approx(point[2], rel=1e-9)


@pytest.mark.parametrize("point", [(10, 20, 3.8), (9, 40, 6.2)])
def test_displacement_gives_its_points_back(displacement: Motor, point) -> None:
    result = solve(Supply(24.0, 50.0), 0.0, displacement, bare_line(point[1]))
    assert result.flow_m3_s / LM == pytest.approx(point[0], rel=1e-9)
    assert result.motor_a == pytest.approx(point[2], rel=1e-9)


def test_affinity_by_hand(centrifugal: Motor) -> None:
    """At half the speed of the point (10 L/min, 10 m, 3.8 A): half the flow, a quarter of the head and torque.

    w0 = 12 - 3.8 x 0.5 = 10.1 V; w = 5.05 V; I = 0.8 + 3.0/4 = 1.55 A; V = 5.05 + 1.55 x 0.5 = 5.825 V.
    """
    state = state_at_speed(centrifugal, bare_line(2.5), 5.05)
    assert state.flow_m3_s / LM == pytest.approx(5.0, rel=1e-9)
    assert state.current_a == pytest.approx(1.55, rel=1e-9)
    assert state.volts_v == pytest.approx(5.825, rel=1e-9)


def test_displacement_at_other_volts_by_hand(displacement: Motor) -> None:
    """At 20 m it draws 3.8 A whatever the volts; w0 = 22.1 V for 10 L/min, so at 12 V, w = 10.1 and 4.570 L/min."""
    result = solve(Supply(12.0, 50.0), 0.0, displacement, bare_line(20.0))
    assert result.motor_a == pytest.approx(3.8)
    assert result.flow_m3_s / LM == pytest.approx(10 * 10.1 / 22.1, rel=1e-9)


def test_cannot_reach_turns_without_flow(centrifugal: Motor) -> None:
    result = solve(Battery(6.0, 0.0), 0.0, centrifugal, bare_line(8.0))
    assert (result.flows, result.flow_m3_s, result.regime) == (False, 0.0, "no-flow")
    assert "lift is 8 m" in result.why_not
    need = volts_to_reach(centrifugal, 8.0)
    assert need is not None
    assert not solve(Battery(need * 0.995, 0.0), 0.0, centrifugal, bare_line(8.0)).flows
    assert solve(Battery(need * 1.005, 0.0), 0.0, centrifugal, bare_line(8.0)).flows


def test_beyond_the_last_point_promises_nothing(centrifugal: Motor) -> None:
    result = solve(Battery(12.0, 0.0), 0.0, centrifugal, bare_line(0.2))
    assert result.flow_m3_s is None
    assert result.flows
    assert result.regime == "beyond-last-point"
    assert result.flow_at_least_m3_s is not None


def test_displacement_above_its_last_head_promises_nothing(displacement: Motor) -> None:
    result = solve(Battery(24.0, 0.0), 0.0, displacement, bare_line(70.0))
    assert (result.flows, result.flow_m3_s) == (False, None)
    assert "60 m" in result.why_not


def test_stalled_in_weak_sun(displacement: Motor) -> None:
    result = solve(PvArray(MODULE, 2, 1, 100.0, 20.0), 0.1, displacement, bare_line(40.0))
    assert result.regime == "stalled"
    assert result.motor_a == pytest.approx(0.642, rel=0.02)  # the array's short-circuit amps in that light


@settings(max_examples=30, deadline=None)
@given(st.floats(8.0, 15.0), st.floats(0.0, 1.0), st.floats(0.0, 0.3), st.floats(0.0, 8.0))
def test_the_loop_closes_on_a_battery(volts: float, cable: float, inner: float, lift: float) -> None:
    points = ((0, 12, 3.0), (10 * LM, 10, 3.8), (20 * LM, 6, 4.6), (28 * LM, 1, 5.2))
    motor = Motor("centrifugal", 12.0, points, 0.5, 0.8)
    result = solve(Battery(volts, inner), cable, motor, Line(lift, (Pipe(30, 0.02, 7e-6, 2),), WATER))
    assert result.source_v == pytest.approx(volts - result.motor_a * inner, rel=1e-6)
    assert result.motor_v == pytest.approx(result.source_v - result.motor_a * cable, rel=1e-6)


def test_supply_at_its_limit(centrifugal: Motor) -> None:
    result = solve(Supply(12.0, 2.5), 0.0, centrifugal, bare_line(3.0))
    assert result.motor_a == pytest.approx(2.5)
    assert result.motor_v < 12.0


@pytest.mark.parametrize("light", [250.0, 600.0, 1000.0])
def test_array_meets_its_own_curve(centrifugal: Motor, light: float) -> None:
    array = PvArray(MODULE, 1, 1, light, 45.0)
    result = solve(array, 0.2, centrifugal, bare_line(2.0))
    assert array.current_a(result.source_v) == pytest.approx(result.motor_a, rel=1e-6)


@pytest.mark.parametrize("light", [300.0, 700.0])
def test_controller_passes_its_share_of_the_maximum(centrifugal: Motor, light: float) -> None:
    source = PvController(PvArray(MODULE, 1, 1, light, 40.0), 0.93, 10.0, 50.0, 30.0)
    result = solve(source, 0.15, centrifugal, bare_line(6.0))
    assert result.source_w == pytest.approx(0.93 * source.array.point.pmp_w, rel=1e-9)
    assert result.motor_v * result.motor_a == pytest.approx(result.source_w - 0.15 * result.motor_a**2, rel=1e-9)


def test_controller_limits(centrifugal: Motor) -> None:
    array = PvArray(MODULE, 1, 1, 900.0, 40.0)
    assert solve(PvController(array, 0.95, 10, 50, 12.5), 0.0, centrifugal, bare_line(6)).motor_v == pytest.approx(12.5)
    assert "damaged" in str(solve(PvController(array, 0.95, 10, 18, 14), 0.0, centrifugal, bare_line(6)).why_not)
    assert "at least" in str(solve(PvController(array, 0.95, 30, 60, 14), 0.0, centrifugal, bare_line(6)).why_not)


def test_dark_and_wrong_input(centrifugal: Motor) -> None:
    assert solve(PvArray(MODULE, 1, 1, 0.0, 20.0), 0.0, centrifugal, bare_line(2.0)).regime == "dark"
    with pytest.raises(OutOfRange, match="cable"):
        solve(Battery(12.0, 0.0), -0.1, centrifugal, bare_line(2.0))
    with pytest.raises(OutOfRange, match="irradiance"):
        solve(PvArray(MODULE, 1, 1, 2000.0, 20.0), 0.0, centrifugal, bare_line(2.0))


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"points": ((0, 5, 1.0), (5 * LM, 6, 2.0))}, "rises"),
        ({"resistance_ohm": 8.0}, "would take all"),
        ({"no_load_a": 3.5}, "no-load"),
    ],
)
def test_motors_that_contradict_themselves(centrifugal: Motor, change, words: str) -> None:
    fields = {
        "kind": "centrifugal",
        "rated_v": 12.0,
        "points": centrifugal.points,
        "resistance_ohm": 0.5,
        "no_load_a": 0.8,
    }
    with pytest.raises(BadCurve, match=words):
        Motor(**(fields | change))


@pytest.mark.parametrize(
    ("points", "words"),
    [
        (((10 * LM, 5, 2.0), (11 * LM, 9, 3.0)), "flow grows with the head"),
        (((10 * LM, 5, 2.0), (9 * LM, 9, 1.5)), "current falls"),
        (((10 * LM, 5, 2.0), (9 * LM, 5, 2.5)), "Two flows"),
    ],
)
def test_displacement_pumps_that_cannot_be(points, words: str) -> None:
    with pytest.raises(BadCurve, match=words):
        Motor("displacement", 24.0, points, 0.4, 0.5)


@pytest.mark.parametrize("kind", ["centrifugal", "displacement"])
def test_compiled_year_agrees_with_the_exact_loop(request, kind: str) -> None:
    motor: Motor = request.getfixturevalue(kind)
    line = Line(6.0 if kind == "centrifugal" else 25.0, (Pipe(30, 0.019, 7e-6, 3),), WATER)
    series = 1 if kind == "centrifugal" else 2
    lights = np.array([120.0, 260.0, 400.0, 650.0, 900.0, 1080.0])
    cells = np.full(6, 42.0)
    table, diode = load_table(motor, line), diode_at(MODULE, lights, cells)
    course = on_array(table, 0.25, diode, series, 1)
    powers = np.array([p.pmp_w for p in array_point(diode, series, 1)]) * 0.94
    tracked = on_power(table, 0.25, powers, motor.rated_v * 1.15)
    for n, light in enumerate(lights):
        exact = solve(PvArray(MODULE, series, 1, float(light), 42.0), 0.25, motor, line)
        assert course.flow_m3_s[n] == pytest.approx(exact.flow_m3_s or 0.0, rel=1e-3, abs=1e-9)
        held = PvController(PvArray(MODULE, series, 1, float(light), 42.0), 0.94, 5, 90, motor.rated_v * 1.15)
        through = solve(held, 0.25, motor, line)
        assert tracked.flow_m3_s[n] == pytest.approx(through.flow_m3_s or 0.0, rel=2e-3, abs=1e-9)
    volts, amps, flow, _ = on_volts(table, 0.3, motor.rated_v)
    exact = solve(Battery(motor.rated_v, 0.05), 0.25, motor, line)
    assert (volts, amps, flow) == pytest.approx((exact.motor_v, exact.motor_a, exact.flow_m3_s), rel=1e-3)


def test_array_into_fixed_volts() -> None:
    diode = diode_at(MODULE, np.array([800.0]), np.array([40.0]))
    amps = float(array_into_volts(13.0, 0.2, diode, 1, 2)[0])
    at = 13.0 + amps * 0.2
    assert PvArray(MODULE, 1, 2, 800.0, 40.0).current_a(at) == pytest.approx(amps, rel=1e-6)
    assert float(array_into_volts(40.0, 0.2, diode, 1, 2)[0]) == 0.0


def test_a_years_marked_points_agree_with_pvlib() -> None:
    """pvlib's singlediode, over light and heat."""
    diode = diode_at(MODULE, np.array([20.0, 200.0, 700.0, 1100.0]), np.array([0.0, 15.0, 45.0, 70.0]))
    volts, amps, open_v = marked_points(diode)
    for n, point in enumerate(array_point(diode, 1, 1)):
        assert (volts[n] * amps[n], open_v[n]) == pytest.approx((point.pmp_w, point.voc_v), rel=1e-7)
        assert volts[n] == pytest.approx(point.vmp_v, rel=1e-4)


@pytest.mark.parametrize("cable", [20.0, 2000.0, 1e6])
def test_a_hopeless_cable_stalls_or_starves_the_motor(centrifugal: Motor, cable: float) -> None:
    for source in (PvArray(MODULE, 1, 1, 900.0, 40.0), Battery(12.5, 0.01), Supply(12.0, 5.0)):
        result = solve(source, cable, centrifugal, bare_line(4.0))
        assert not result.flows
        assert result.motor_v < 12.0


def test_a_function_without_a_root_is_a_named_error() -> None:
    with pytest.raises(Unsolvable, match="far off"):
        root(lambda x: x * x + 1.0, -1.0, 1.0)
    assert root(lambda x: x - 0.25, 0.0, 1.0) == pytest.approx(0.25)


def test_every_measured_point_is_met_at_rated_volts(parts) -> None:
    """The model passes through its own points, those near shut-off too, where head over speed squared rises first."""
    for pump in parts.pumps.values():
        inner = sorted(pump.motor.points, key=lambda p: p[1])[1:-1]
        for flow, head, amps in inner:
            found = solve(Battery(pump.motor.rated_v, 0.0), 0.0, pump.motor, Line(head, (), water_at(14.0)))
            assert found.flow_m3_s == pytest.approx(flow, rel=1e-3), pump.id
            assert found.motor_a == pytest.approx(amps, rel=1e-3), pump.id
            assert found.motor_v == pytest.approx(pump.motor.rated_v, rel=1e-6), pump.id


def test_flow_grows_without_a_jump_as_volts_pass_the_start(parts) -> None:
    motor = parts.pumps["stairwell-8"].motor
    flows = [
        solve(Battery(v / 100.0, 0.0), 0.0, motor, Line(11.98, (), water_at(14.0))).flow_m3_s
        for v in range(1165, 1206, 2)
    ]
    assert flows[0] == 0.0
    assert all(b >= a for a, b in pairwise(flows))
    assert max(b - a for a, b in pairwise(flows)) < 1.2 / 60_000
