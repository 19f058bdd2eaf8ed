"""What a logger's file tells: hours, litres, starts, gaps, its clock, and where it ran steadily; checked against what was put in."""

import numpy as np
import pytest

from squall.core.errors import BadEvidence
from squall.core.upkeep.logged import DAY_S, Logged, running, steady, thinned, told_of

STEP_S = 60


def sunny(days: int = 6, off_h: float = 0.0, step_s: int = STEP_S, noon_h: float = 12.0) -> Logged:
    """Six hours about noon each day: 3 A at 15 V, 4 L/min; else nothing."""
    at = np.arange(0, days * DAY_S, step_s) + 20_000 * DAY_S
    hour = at % DAY_S / 3600.0
    on = np.abs(hour - noon_h) < 3.0
    noise = np.random.default_rng(4).normal(0.0, 0.005, len(at))
    return Logged(
        at + int(off_h * 3600),
        {"volts": np.where(on, 15.0 + noise, 0.0), "amps": np.where(on, 3.0 + noise, 0.0), "flow": np.where(on, 4.0 / 60_000.0, 0.0)},
    )  # fmt: skip


def test_hours_litres_and_starts_are_those_that_were_put_in() -> None:
    told = told_of(sunny(), 12.0)
    assert told.hours == pytest.approx(36.0, rel=0.01)
    assert told.water_m3 == pytest.approx(36.0 * 60.0 * 4.0 / 1000.0, rel=0.01)
    assert [day.starts for day in told.days] == [1] * 6
    assert all(day.hours == pytest.approx(6.0, rel=0.01) for day in told.days)
    assert told.clock_off_h is None
    assert told.gaps_h == 0.0


@pytest.mark.parametrize("off", [-7.0, -2.0, 2.0, 5.0, 11.0])
def test_a_clock_that_is_off_is_said_with_its_hours(off: float) -> None:
    assert told_of(sunny(off_h=off), 12.0).clock_off_h == pytest.approx(off, abs=0.1)
    assert told_of(sunny(off_h=off), None).clock_off_h is None, "of a kit on a bank nothing tells"


@pytest.mark.parametrize("off", [-1.0, 0.5, 1.2])
def test_a_clock_within_the_rules_of_clocks_is_left_alone(off: float) -> None:
    assert told_of(sunny(off_h=off), 12.0).clock_off_h is None


def test_a_day_or_two_tell_nothing_of_a_clock() -> None:
    assert told_of(sunny(days=2, off_h=6.0), 12.0).clock_off_h is None


def test_a_gap_is_neither_running_nor_rest() -> None:
    whole = sunny()
    hour = whole.at_s % DAY_S / 3600.0
    kept = ~((hour > 11.0) & (hour < 13.0))
    told = told_of(Logged(whole.at_s[kept], {key: one[kept] for key, one in whole.columns.items()}), 12.0)
    assert told.hours == pytest.approx(24.0, rel=0.02)
    assert told.gaps_h == pytest.approx(12.0, rel=0.02)
    assert told.covered_h + told.gaps_h == pytest.approx(6 * 24.0, rel=0.01)


def test_it_runs_by_its_flow_where_no_amps_are_logged_and_by_nothing_where_neither_is() -> None:
    whole = sunny()
    flow = Logged(whole.at_s, {"flow": whole.columns["flow"]})
    assert told_of(flow).hours == pytest.approx(36.0, rel=0.01)
    assert not running(Logged(whole.at_s, {"level": np.ones(len(whole.at_s))})).any()
    assert not running(Logged(whole.at_s, {"amps": np.zeros(len(whole.at_s))})).any()
    told = told_of(Logged(whole.at_s, {"level": np.ones(len(whole.at_s))}))
    assert (told.hours, told.water_m3) == (0.0, None)


def test_steady_stretches_stand_where_it_ran_evenly_one_a_day() -> None:
    found = steady(sunny())
    assert len(found) == 6
    for one in found:
        assert one.lasted_s >= 500
        assert one.means["amps"] == pytest.approx(3.0, rel=0.01)
        assert one.means["flow"] == pytest.approx(4.0 / 60_000.0)
        assert abs(one.at_s % DAY_S / 3600.0 - 12.0) < 3.0


def test_what_flickers_or_comes_too_seldom_is_not_steady() -> None:
    whole = sunny()
    flicker = whole.columns["amps"] * (1.0 + 0.3 * (np.arange(len(whole.at_s)) % 2))
    assert steady(Logged(whole.at_s, {**whole.columns, "amps": flicker})) == ()
    assert steady(sunny(step_s=900)) == ()
    assert steady(Logged(whole.at_s, {"volts": whole.columns["volts"]})) == ()


def test_thinning_loses_no_peak() -> None:
    whole = sunny(days=20)
    amps = whole.columns["amps"].copy()
    amps[len(amps) // 3], amps[len(amps) // 2] = 9.0, np.nan
    thin = thinned(Logged(whole.at_s, {"amps": amps}), 100)["amps"]
    assert len(thin.mean) == 100
    assert np.nanmax(thin.most) == 9.0
    assert np.nanmean(thin.mean) == pytest.approx(np.nanmean(amps), rel=0.01)


def test_one_row_tells_nothing() -> None:
    with pytest.raises(BadEvidence):
        Logged(np.array([1]), {"amps": np.array([1.0])})
