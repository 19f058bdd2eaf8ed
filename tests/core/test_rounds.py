"""One kit on several places: its table over the round against the exact loop of each place alone; what must not burn; the search."""

from dataclasses import replace

import numpy as np
import pytest
from hill import PLAIN
from hypothesis import given
from hypothesis import strategies as st

from squall.core.advice.asked import Asked
from squall.core.advice.rank import rank
from squall.core.advice.refusals import limiting_cause, season_refusal
from squall.core.advice.search import search
from squall.core.drive.motors import Motor
from squall.core.drive.solve import Battery, solve
from squall.core.electrics.conductors import conductor
from squall.core.hydraulics.water import water_at
from squall.core.kit.changes import longer, lower
from squall.core.kit.course import sun_course
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Layout, Outlet, Round, RunPiece
from squall.core.kit.outlets import round_table, served_at
from squall.core.kit.setup import Cabling, Setup, table_on
from squall.core.kit.supply import Controlled, Direct
from squall.core.sky.typical_days import NOCT_C
from squall.core.years.by_light import MILD_AIR_C, instant_v, mild_states
from squall.core.years.typical import year_of
from squall.demo import demo_jobs
from squall.job.worked.assess import assess

LM = 1.0 / 60_000.0
PUMPS = {
    "centrifugal": Motor("centrifugal", 12.0, ((0, 12, 3.0), (10 * LM, 10, 3.8), (20 * LM, 6, 4.6), (28 * LM, 1, 5.2)), 0.5, 0.8, 16.0),
    "displacement": Motor("displacement", 24.0, ((9 * LM, 0, 2.0), (8 * LM, 30, 5.0), (7 * LM, 60, 8.0)), 0.4, 1.0, 30.0),
}  # fmt: skip


def laid(mode, *outlets: Outlet, lift=4.0) -> Layout:
    run = (RunPiece(20.0, 0.0191, 7e-6, 2.0), RunPiece(20.0, 0.0159, 7e-6, 1.0))
    return Layout(lift, 0.0, run, water_at(14.0), False, 3.0, 12.0, 35.0, -9.0, round=Round(mode, outlets))


def place(lift=6.0, share=0.4, after=1, length=25.0) -> Outlet:
    return Outlet("upper", lift, (RunPiece(length, 0.0159, 7e-6, 1.5),), share, after)


@pytest.mark.parametrize("kind", PUMPS)
def test_in_turn_each_place_takes_its_time(kind) -> None:
    """At given volts: Q = 1 / sum(s/q), each q by the exact loop on that place alone."""
    motor, layout = PUMPS[kind], laid("turn", place(), place(2.0, 0.3, 0))
    table = round_table(motor, layout, None)
    for share_of_rated in (0.8, 1.0, 1.2):
        volts = motor.rated_v * share_of_rated
        alone = [solve(Battery(volts, 0.0), 0.0, motor, each.line(None)) for each in layout.places]
        times = [s / a.flow_m3_s for s, a in zip((0.3, 0.4, 0.3), alone, strict=True)]
        assert np.interp(volts, table.volts_v, table.flow_m3_s) == pytest.approx(1.0 / sum(times), rel=3e-3)
        amps = sum(t * a.motor_a for t, a in zip(times, alone, strict=True)) / sum(times)
        assert np.interp(volts, table.volts_v, table.current_a) == pytest.approx(amps, rel=3e-3)
        assert np.interp(volts, table.volts_v, table.heaviest_a) == pytest.approx(
            max(a.motor_a for a in alone), rel=3e-3
        )
        served = served_at(motor, layout, None, volts)
        assert [s.time_share for s in served] == pytest.approx([t / sum(times) for t in times], rel=5e-3)


@pytest.mark.parametrize("kind", PUMPS)
def test_together_the_worst_served_counts(kind) -> None:
    motor, layout = PUMPS[kind], laid("together", place(6.0, 0.5))
    table = table_on(motor, layout, None)
    served = served_at(motor, layout, None, motor.rated_v)
    counted = min(served[0].flow_m3_s / 0.5, served[1].flow_m3_s / 0.5)
    assert np.interp(motor.rated_v, table.volts_v, table.flow_m3_s) == pytest.approx(counted, rel=3e-3)
    assert counted <= served[0].flow_m3_s + served[1].flow_m3_s


def test_a_place_out_of_reach_stops_the_round() -> None:
    """12 m and more can't be lifted at 12 V: nothing is promised, and what is refused says so."""
    for mode in ("turn", "together", "carried"):
        table = round_table(PUMPS["centrifugal"], laid(mode, place(lift=13.0)), None)
        assert np.interp(12.0, table.volts_v, table.flow_m3_s) == 0.0


@given(
    st.sampled_from(["carried", "turn", "together"]), st.sampled_from(sorted(PUMPS)),
    st.lists(st.tuples(st.floats(0.0, 9.0), st.floats(0.02, 0.3), st.integers(0, 1), st.floats(0.0, 300.0)), min_size=1, max_size=3),
)  # fmt: skip
def test_no_round_makes_more_than_its_easiest_place(mode, kind, rows) -> None:
    """In turn the flow lies between those of the worst and the best place; volts and current rise; nothing is negative."""
    motor, layout = PUMPS[kind], laid(mode, *(place(lift, share, after, length) for lift, share, after, length in rows))
    table = round_table(motor, layout, None)
    assert (np.diff(table.volts_v) > 0.0).all()
    assert (table.flow_m3_s >= 0.0).all()
    assert np.isfinite(table.current_a).all()
    if mode != "together":
        served = [each.flow_m3_s for each in served_at(motor, layout, None, motor.rated_v)]
        flow = float(np.interp(motor.rated_v, table.volts_v, table.flow_m3_s))
        assert flow <= max(served) * 1.003
        assert flow >= min(served) * 0.99 or min(served) == 0.0


def test_shares_of_one_place_change_nothing() -> None:
    """Three places that are the same place: the round is that place."""
    same = Outlet("same", 4.0, (RunPiece(20.0, 0.0159, 7e-6, 1.0),), 0.3, 1)
    layout = laid("turn", same, same)
    alone, together = (
        table_on(PUMPS["centrifugal"], layout.places[0], None),
        round_table(PUMPS["centrifugal"], layout, None),
    )
    for volts in (9.0, 12.0, 15.0):
        assert np.interp(volts, together.volts_v, together.flow_m3_s) == pytest.approx(
            np.interp(volts, alone.volts_v, alone.flow_m3_s), rel=2e-3
        )


def test_lower_water_and_longer_hoses_are_lower_and_longer_everywhere() -> None:
    layout = laid("turn", place())
    assert [each.lift_m for each in lower(layout, 1.0).places] == [5.0, 7.0]
    assert longer(layout, 1.1).places[1].pieces[-1].length_m == pytest.approx(27.5)
    assert laid("carried", place(after=0, length=70.0)).hose_m == 70.0
    assert laid("turn", place()).hose_m == 65.0


def test_the_hardest_place_rules_what_burns(parts, light) -> None:
    """A hose that bears the low place and not the high one; volts at the brightest instant are those of the place that draws least."""
    pump = parts.pumps["stairwell-8"]
    cabling = Cabling(conductor("mm2:2.5"), None)
    alone = laid("turn", place(lift=1.0)).places[0]
    both = replace(alone, round=Round("turn", (place(lift=1.0),)))
    kit = Kit(pump, Direct(), parts.panels["kite-50"], 1, 2, parts.hoses["hose-13"])
    volts = [instant_v(Setup(kit, each, cabling)) for each in both.places]
    assert instant_v(Setup(kit, both, cabling)) == max(volts)
    weak = replace(kit, hose=replace(kit.hose, rated_head_m=8.0))
    low = Outlet(
        "pit", 1.0, (RunPiece(25.0, 0.0159, 7e-6, 1.5, end_height_m=-9.0), RunPiece(1.0, 0.0159, 7e-6, 0.0)), 0.4, 0
    )
    pit = replace(alone, round=Round("turn", (low,)))
    setup = Setup(weak, pit, cabling)
    why = season_refusal(setup, year_of(setup, light, PLAIN))
    assert why is not None
    assert why.code in ("hose-rated-below-shut-off", "motor-instant-maker-allows", "motor-instant-nobody-allows")


def test_the_worst_place_is_named(parts, light) -> None:
    layout = laid("turn", place(lift=7.0, share=0.7), lift=2.0)
    kit = Kit(parts.pumps["stairwell-8"], Direct(), parts.panels["kite-50"], 1, 2, parts.hoses["hose-13"])
    setup = Setup(kit, layout, Cabling(conductor("mm2:2.5"), None))
    assert limiting_cause(kit, layout, year_of(setup, light, PLAIN), PLAIN).values["place"] == "upper"


@pytest.mark.parametrize("mode", ["turn", "together"])
def test_the_search_finds_what_trying_everything_finds_on_a_round(mode) -> None:
    a = assess(demo_jobs()[0])
    other = Outlet("upper", a.layout.lift_m * 0.8, (RunPiece(30.0, 0.0191, 7e-6, 2.0),), 0.35, 1)
    layout = replace(a.layout, round=Round(mode, (other,)))
    stock = replace(
        a.parts.stock, pumps=a.parts.stock.pumps[::2], panels=a.parts.stock.panels[:3], hoses=a.parts.stock.hoses[:3]
    )
    everything = rank(stock, layout, a.lit, a.used, a.rules)
    found = search(stock, layout, a.lit, a.used, a.rules, Asked(most=6, most_panels=4))
    first: dict[tuple[str, str], object] = {}
    for row in everything.holds:
        first.setdefault((row.kit.pump.id, row.kit.source), row)
    wanted = sorted(first.values(), key=lambda row: (row.price, -row.worst_litres))[:6]
    assert [row.kit for row in found.holds] == [row.kit for row in wanted]


@pytest.mark.parametrize("source", ["panel", "controller"])
def test_a_sun_driven_round_is_that_of_each_place_alone_light_by_light(parts, source) -> None:
    """1 / sum(s/q) of the exact loop's flows on panels in the same light: each place brings about volts and amps of its own."""
    layout = laid("turn", place(7.0, 0.5), place(1.0, 0.2, 0))
    supply = Direct() if source == "panel" else Controlled(parts.controllers["warden-12"])
    kit = Kit(
        parts.pumps["stairwell-8"],
        supply,
        parts.panels["kite-50"],
        1,
        2,
        parts.hoses["hose-16"],
    )
    setup = Setup(kit, layout, Cabling(conductor("mm2:2.5"), None if source == "panel" else conductor("mm2:2.5")))
    lights = (350.0, 600.0, 900.0)
    course = sun_course(setup, setup.table, mild_states(kit.panel.module, lights))
    for number, light in enumerate(lights):
        cell = MILD_AIR_C + (NOCT_C - 20.0) / 800.0 * light
        alone = [
            solve(kit.source_at(light, cell), setup.pump_ohm, kit.pump.motor, each.line(kit.hose))
            for each in layout.places
        ]
        if all(each.flows for each in alone):
            exact = 1.0 / sum(s / each.flow_m3_s for s, each in zip(layout.round.shares, alone, strict=True))
            assert course.flow_m3_s[number] == pytest.approx(exact, rel=0.02)
        else:
            assert course.flow_m3_s[number] == 0.0
    assert course.flow_m3_s[-1] > 0.0
