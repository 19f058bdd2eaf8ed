"""A well's level through the year: told by readings of several months, counted in the lift, its pump, its bank and its verdict."""

from dataclasses import replace
from datetime import date
from math import cos, tau

import pytest
from hill import new_job
from hypothesis import given
from hypothesis import strategies as st

from squall.core.advice.refusals import stand_refusal, surface_check
from squall.core.electrics.conductors import conductor
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Falls
from squall.core.kit.setup import Cabling
from squall.core.kit.supply import Direct
from squall.core.prove.expect import Now, expected_readings
from squall.core.reason import Reason
from squall.core.sources.levels import Level, levels_of_year
from squall.job.document.fields import edit
from squall.job.document.job import ReadingValue, Visit, quantity
from squall.job.edit.kits import adopt
from squall.job.edit.rows import add_typed_row
from squall.job.kept.record import Record
from squall.job.kept.upkeep import kept_of
from squall.job.told.survey import level_figures, well_findings
from squall.job.told.verdict import verdict_of
from squall.job.worked.assess import assess
from squall.job.worked.heights import lower_on
from squall.job.worked.run import lowest_depth

CABLES = Cabling(conductor("mm2:6"), None)
# Read with a tape on the 15th of these months: deepest in October. [m]
READ = {"2026-01-15": 9.0, "2026-04-15": 10.0, "2026-07-15": 11.5, "2026-10-15": 13.0}


def well_job(parts, readings=READ, **fields):
    kit = Kit(parts.pumps["stairwell-14"], Direct(), parts.panels["ridge-215"], 1, 1, parts.hoses["hose-25"])
    job, _ = adopt(new_job("well"), kit, CABLES)
    wanted = {
        "water": "well",
        "level.by": "readings",
        "litres": "800 L",
        "want.headroom": "1",
        "well.hang_depth": "16 m",
        **fields,
    }
    for path, text in wanted.items():
        job = edit(job, path, text, parts)
    for on, depth in readings.items():
        job = add_typed_row(job, "level.readings", "tape", {"value": f"{depth} m", "on": on}, parts, "metric")[0]
    return job


def dated(depths: dict[str, float], off: float = 0.1):
    return [(date.fromisoformat(on), Level(depth, off)) for on, depth in depths.items()]


def test_readings_of_a_few_months_tell_the_year_and_of_one_they_do_not() -> None:
    year = levels_of_year(dated(READ))
    assert year.months_m[0] == pytest.approx(9.0, abs=0.1)
    assert year.months_m[9] == pytest.approx(13.0, abs=0.1)
    assert year.months_m[1] == pytest.approx(9.0 + 1.0 / 3.0, abs=0.1), "straight between January and April"
    assert year.months_m[11] == pytest.approx(13.0 - 4.0 * 2.0 / 3.0, abs=0.1), "and over the year's end"
    assert year.on == date(2026, 10, 15)
    assert year.now.level.depth_m == pytest.approx(13.0)
    few = dict(list(READ.items())[:2])
    assert levels_of_year(dated(few)) is None, "two months"
    near = {"2026-05-01": 9.0, "2026-06-01": 10.0, "2026-07-01": 11.0}
    assert levels_of_year(dated(near)) is None, "two months apart"
    same = dict.fromkeys(READ, 9.0)
    assert levels_of_year(dated(same)) is None, "one level explains them"
    assert levels_of_year(dated(READ, off=6.0)) is None, "pebbles, each four metres off at most"
    assert levels_of_year([(None, level) for _, level in dated(READ)]) is None, "nobody said when"


def test_of_a_month_read_in_two_years_the_newer_counts() -> None:
    year = levels_of_year(dated({**READ, "2025-10-10": 19.0}))
    assert max(year.months_m) == pytest.approx(13.0, abs=0.1)


@given(st.floats(0.5, 6.0), st.integers(0, 11), st.lists(st.integers(0, 11), min_size=4, max_size=12, unique=True))
def test_it_never_leaves_what_was_read(swing: float, top: int, months: list[int]) -> None:
    depths = {f"2026-{n + 1:02}-15": 10.0 + swing * cos(tau * (n - top) / 12) for n in months}
    year = levels_of_year(dated(depths))
    if year is not None:
        assert min(depths.values()) - 1e-9 <= min(year.months_m)
        assert max(year.months_m) <= max(depths.values()) + 1e-9
        assert year.reached(max(depths.values()) + 0.01, date(2026, 12, 1)) is None


def test_the_lift_goes_with_it_and_the_verdict_says_so(parts) -> None:
    wet_last = {**READ, "2027-01-15": 9.0}
    a = assess(well_job(parts, wet_last))
    assert a.heights.rim_m == pytest.approx(9.0)
    assert a.layout.falls.most_m == pytest.approx(4.0, abs=0.1)
    litres = a.chosen.season.average_litres
    flat = assess(well_job(parts, {"2027-01-15": 9.0})).chosen.season.average_litres
    deep = assess(well_job(parts, {"2027-01-15": 13.0})).chosen.season.average_litres
    assert litres[0] == pytest.approx(flat[0], rel=0.02)
    assert litres[9] == pytest.approx(deep[9], rel=0.02)
    assert "The well's level falls by up to" in verdict_of(a).sentence
    assert "lowest in October" in " ".join(str(one.text) for one in well_findings(a))
    assert len(level_figures(a)[0].inputs) == 2, "the newest reading alone is weighed"


def test_a_level_that_falls_to_the_pump_brings_nothing_and_has_its_day(parts) -> None:
    a = assess(well_job(parts, {**READ, "2027-01-15": 9.0}, **{"well.hang_depth": "12.5 m"}))
    assert a.layout.falls.bare[9] == 1.0
    assert a.chosen.season.average_litres[9] == 0.0
    assert verdict_of(a).grade == "short"
    assert "falls to the pump in" in verdict_of(a).sentence
    assert any("It falls to the pump about" in str(one.text) and one.grade == "bad" for one in well_findings(a))


def test_the_room_for_the_pump_is_that_of_the_lowest_level(parts) -> None:
    wet, dry = (assess(well_job(parts, readings)) for readings in ({**READ, "2027-01-15": 9.0}, READ))
    assert lowest_depth(wet) >= 13.0
    assert lowest_depth(dry) >= 13.0


def test_a_pumping_test_stays_what_it_was_when_the_level_goes_on(parts) -> None:
    """Its levels were read from the rim on the survey's day: a later reading of the level at rest moves none of its drawdowns."""

    def tested(readings, **more):
        job = well_job(parts, readings, **{"well.drawdown_by": "test", "well.test_flow": "9 L/min", **more})
        for after, level in (("5 min", "9.25 m"), ("20 min", "9.5 m"), ("60 min", "9.72 m"), ("120 min", "9.86 m")):
            job = add_typed_row(job, "well.test", "", {"after": after, "level": level}, parts, "metric")[0]
        return assess(job).heights

    first, later = tested({"2026-01-15": 9.0}), tested({**READ, "2025-11-15": 7.0})
    assert not later.problem
    assert later.drawdown_s_m2 == pytest.approx(first.drawdown_s_m2, rel=1e-9)
    typed = tested({**READ, "2025-11-15": 7.0}, **{"well.test_standing": "8.5 m"})
    assert typed.drawdown_s_m2 > 1.3 * first.drawdown_s_m2, "what is typed counts"
    said = [str(one.text) for one in well_findings(assess(well_job(parts, READ)))]
    assert not any("taken to have begun" in one for one in said), "there is no test"


def test_a_surface_pump_pulls_from_the_lowest_level_of_the_year(parts, layout) -> None:
    """A pond or a well that falls by two metres leaves a pump on its bank dry, however well it draws today."""
    pump = next(one for one in parts.pumps.values() if one.placement == "surface")
    stands = replace(layout, bank_m=5.5)
    falling = replace(stands, falls=Falls((0.0,) * 8 + (1.0, 2.5, 1.0, 0.0)))
    assert stand_refusal(pump, stands) is None
    assert stand_refusal(pump, falling) is not None
    assert surface_check(pump, falling, None, 1e-4).stands_m == pytest.approx(
        surface_check(pump, falling.lowest, None, 1e-4).stands_m
    )


def visit_at(a, on: str, lower_m: float) -> Visit:
    """What a sound kit gives in the same light with the water so much lower."""
    setup = a.chosen.setup
    sunk = replace(setup, layout=replace(setup.layout, falls=None, lift_m=setup.layout.lift_m + lower_m))
    now = now_of(a, 850.0, 20.0)
    read = {one.point: one.value for one in expected_readings(sunk, now)}
    values = [
        ReadingValue(point=point, measured=quantity(str(read[point]), read[point]), expected=None, low=None, high=None, verdict="good")
        for point in ("pump-volts", "pump-amps", "outlet-flow")
    ]  # fmt: skip
    return Visit(
        id=on,
        at=f"{on}T12:00Z",
        option=a.chosen.option.name,
        irradiance_w_m2=850.0,
        air_c=20.0,
        told_by="typed-light",
        values=values,
    )


def now_of(a, light: float, air: float) -> Now:
    return Now(light, air + 0.03 * light, Reason("typed-light"))


def test_visits_are_read_at_the_level_of_their_day(parts) -> None:
    """A sound kit that gives less in the dry months is not worn: the well is low."""
    days = ["2026-02-15", "2026-04-15", "2026-06-15", "2026-08-15", "2026-10-15"]
    told = assess(well_job(parts, {**READ, "2027-01-15": 9.0}))
    untold = assess(well_job(parts, {"2027-01-15": 9.0}))
    lower = {on: lower_on(told.job, told.heights, date.fromisoformat(on)) for on in days}
    assert lower["2026-10-15"] == pytest.approx(4.0, abs=0.1)
    visits = [visit_at(told, on, drop) for on, drop in reversed(lower.items())]
    knowing, guessing = (kept_of(a, a.chosen, Record(docs=visits), date(2026, 10, 20)) for a in (told, untold))
    assert knowing.worn.flow_m3_s == pytest.approx(knowing.worn.label_flow_m3_s, rel=0.05)
    assert not knowing.worn.alarms
    assert guessing.worn.flow_m3_s < 0.9 * guessing.worn.label_flow_m3_s, "without it the well's fall looks like wear"


def test_a_ponds_depths_tell_its_level_between_the_days_they_were_read(parts) -> None:
    job = edit(well_job(parts), "water", "pond", parts)
    for on, depth in (("2026-03-01", "3 m"), ("2026-05-30", "2 m")):
        job = add_typed_row(job, "pond.readings", "", {"on": on, "depth": depth}, parts, "metric")[0]
    heights = assess(job).heights
    assert lower_on(job, heights, date(2026, 5, 30)) == 0.0
    assert lower_on(job, heights, date(2026, 3, 1)) == pytest.approx(-1.0), "it stood a metre higher"
    assert lower_on(job, heights, date(2026, 4, 15)) == pytest.approx(-0.5)
    assert lower_on(job, heights, date(2026, 8, 1)) == 0.0, "nothing is known of it"
    assert lower_on(edit(job, "outlet", "loop", parts), heights, date(2026, 3, 1)) == 0.0
