"""A well while it is pumped: the test's straight line, hanging room, yield."""

from dataclasses import replace
from math import log10

import pytest
from hypothesis import given
from hypothesis import strategies as st

from squall.core.errors import OutOfRange
from squall.core.hydraulics.curves import PumpCurve, operating_point
from squall.core.hydraulics.pipes import Line, Pipe
from squall.core.hydraulics.water import water_at
from squall.core.sources.wells import fit_test, hanging_room, judge_hang, minutes_of_storage, outpumped

LM = 1.0 / 60_000.0
# D. K. Todd, Groundwater Hydrology, 2nd ed. (1980), the example of Jacob's method: 2,500 m3/day, an observation
# well; minutes and metres of drawdown, from memory. The book finds 0.40 m a log cycle and 1,090 to 1,160 m2/day.
TODD_FLOW = 2500.0 / 86_400.0
TODD = [(5, 0.45), (6, 0.48), (8, 0.53), (10, 0.57), (12, 0.60), (14, 0.63), (18, 0.67), (24, 0.72), (30, 0.76),
        (40, 0.81), (50, 0.85), (60, 0.90), (80, 0.93), (100, 0.96), (120, 1.00), (150, 1.04), (180, 1.07), (210, 1.10),
        (240, 1.12)]  # fmt: skip


def test_todds_pumping_test() -> None:
    """Within 3 % of the book's 1,144 m2/day, which was read from a line drawn by hand."""
    fit = fit_test(TODD_FLOW, [(minutes * 60.0, fall) for minutes, fall in TODD])
    assert fit.per_cycle_m == pytest.approx(0.40, abs=0.01)
    assert fit.transmissivity_m2_s * 86_400.0 == pytest.approx(1144.0, rel=0.03)
    assert fit.misfit_m < 0.02
    assert fit.drawdown_m(4.0) == pytest.approx(1.12, abs=0.02)


@given(start=st.floats(0.05, 3.0), slope=st.floats(0.01, 2.0), flow=st.floats(1e-5, 1e-2), hours=st.floats(0.5, 24.0))
def test_a_true_straight_line_is_found_again(start: float, slope: float, flow: float, hours: float) -> None:
    fit = fit_test(flow, [(t, start + slope * log10(t)) for t in (60.0, 120.0, 600.0, 3600.0)])
    assert fit.per_cycle_m == pytest.approx(slope, rel=1e-6)
    assert fit.misfit_m == pytest.approx(0.0, abs=1e-9)
    assert fit.per_flow_s_m2(hours) * flow == pytest.approx(fit.drawdown_m(hours))
    assert fit.drawdown_m(hours) < fit.drawdown_m(2.0 * hours)


@pytest.mark.parametrize(
    ("readings", "words"),
    [
        ([(60, 0.1), (120, 0.2)], "three"),
        ([(60, 0.1), (60, 0.2), (60, 0.3)], "three"),
        ([(0, 0.1), (60, 0.2), (120, 0.3)], "starts at 0"),
        ([(60, 0.1), (70, 0.2), (80, 0.3)], "span"),
        ([(60, 0.5), (120, 0.4), (240, 0.3)], "swapped"),
    ],
)
def test_a_test_that_tells_nothing_is_refused(readings, words: str) -> None:
    with pytest.raises(OutOfRange, match=words):
        fit_test(10 * LM, readings)


def test_pumping_level_is_found_together_with_the_flow() -> None:
    """The crossing of curve and line with drawdown is where both agree, however it is reached."""
    curve = PumpCurve(((0.0, 30.0), (15 * LM, 22.0), (30 * LM, 5.0)))
    line = Line(12.0, (Pipe(40.0, 0.0191, 7e-6, 4.0),), water_at(14.0), drawdown_s_m2=0.3 / LM)
    flow = operating_point(curve, line).flow_m3_s
    assert flow is not None
    level = 0.0
    for _ in range(200):
        at_level = operating_point(curve, replace(line, static_head_m=12.0 + level, drawdown_s_m2=0.0)).flow_m3_s
        level += 0.3 * (0.3 / LM * at_level - level)
    assert flow == pytest.approx(at_level, rel=1e-6)
    assert flow < operating_point(curve, replace(line, drawdown_s_m2=0.0)).flow_m3_s


def test_hanging_room_has_two_margins() -> None:
    room = hanging_room(18.0, 24.0, 1.0, 0.5)
    assert (room.shallowest_m, room.deepest_m) == (19.0, 23.5)
    assert judge_hang(18.5, room) == "may-run-dry"
    assert judge_hang(19.0, room) == judge_hang(23.5, room) == "fits"
    assert judge_hang(23.9, room) == "in-the-mud"
    assert judge_hang(20.0, hanging_room(22.9, 24.0, 1.0, 0.5)) == "no-room"
    assert judge_hang(99.0, hanging_room(18.0, None, 1.0, 0.5)) == "fits", "no bottom known"


def test_a_pump_that_takes_more_than_the_well_gives() -> None:
    assert outpumped(12 * LM, 10 * LM)
    assert not outpumped(10 * LM, 10 * LM)
    assert not outpumped(12 * LM, None)
    # A bore of 0.15 m holds 17.67 L for each metre (pi/4 d2); 5 m of it at 2 L/min too much lasts 44.2 minutes.
    assert minutes_of_storage(0.15, 5.0, 12 * LM, 10 * LM) == pytest.approx(44.18, abs=0.05)
    assert minutes_of_storage(0.15, 5.0, 8 * LM, 10 * LM) is None
