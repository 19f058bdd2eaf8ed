"""The survey's readings, well, run and water accounts, from the document to findings and figures."""

import pytest
from hill import new_job

from squall.core.electrics.conductors import conductor
from squall.core.errors import BadQuantity, NotFound, OutOfRange, SquallError
from squall.core.hydraulics.tracks import TrackPoint, profile_of
from squall.core.kit.kit import Kit
from squall.core.kit.setup import Cabling
from squall.core.kit.supply import Controlled, Direct
from squall.job.document.fields import check_all, edit
from squall.job.document.job import Job
from squall.job.document.paths import value_at
from squall.job.edit import changes, kits
from squall.job.edit.rows import add_row, add_typed_row, remove_row
from squall.job.told.sources import pond_figures, roof_figures
from squall.job.told.survey import (
    level_figures,
    run_findings,
    suction_figures,
    suction_findings,
    water_findings,
    well_findings,
)
from squall.job.worked.assess import assess
from squall.job.worked.heights import heights_of, reading_level
from squall.job.worked.place import climate_of
from squall.job.worked.run import pumping_depth
from squall.job.worked.water_accounts import pond_view, roof_view

LM = 1.0 / 60_000.0


def typed(job: Job, parts, **fields: str) -> Job:
    for path, text in fields.items():
        job = edit(job, path.replace("__", "."), text, parts)
    return job


def read(job: Job, parts, way: str, value: str, **more: str) -> Job:
    return add_typed_row(job, "level.readings", way, {"value": value, **more}, parts, "metric")[0]


@pytest.fixture
def well(parts) -> Job:
    """A well with a kit, two readings below its rim, and a pump that hangs."""
    job = typed(new_job("well"), parts, water="well", level__by="readings", level__outlet_height="2 m", altitude="1200 m",
                well__hang_depth="16 m", well__total_depth="20 m", run__p1__length="25 m", litres="300 L")  # fmt: skip
    job = read(read(job, parts, "tape", "12.0 m"), parts, "meter", "12.04 m")
    kit = Kit(parts.pumps["stairwell-14"], Controlled(parts.controllers["warden-24"]), parts.panels["kite-110"], 2, 1, parts.hoses["hose-19"])  # fmt: skip
    return kits.adopt(job, kit, Cabling(conductor("mm2:4"), conductor("mm2:4")))[0]


def test_readings_are_weighed_and_the_lift_follows(well, parts) -> None:
    heights = heights_of(well)
    weights = (1 / 0.1**2, 1 / 0.02**2)
    depth = (12.0 * weights[0] + 12.04 * weights[1]) / sum(weights)
    assert heights.level.level.depth_m == pytest.approx(depth)
    assert heights.lift_m == pytest.approx(depth + 2.0)
    assert heights.rim_m == pytest.approx(depth)
    assert heights.pump_below_m == pytest.approx(16.0 - depth)
    assert heights.off_m == pytest.approx(sum(weights) ** -0.5)
    assert assess(well).layout.lift_m == heights.lift_m


def test_a_pebble_is_read_in_seconds_and_weighs_little(well, parts) -> None:
    job = read(well, parts, "pebble", "1.70 s")
    pebble = reading_level(job, job.level.readings[-1])
    assert 13.0 < pebble.depth_m < 14.0
    assert pebble.uncertainty_m >= 3.0
    assert heights_of(job).lift_m == pytest.approx(heights_of(well).lift_m, abs=0.01)
    with pytest.raises(BadQuantity):
        read(well, parts, "pebble", "12 m")


def test_readings_from_a_casing_and_with_a_hands_own_doubt(well, parts) -> None:
    job = read(well, parts, "line", "12.4 m", raised="0.4 m", off="0.01 m")
    level = reading_level(job, job.level.readings[-1])
    assert level.depth_m == pytest.approx(12.0)
    assert level.uncertainty_m == 0.01


def test_without_readings_the_typed_lift_stands(parts) -> None:
    job = typed(new_job("x"), parts, level__by="readings", lift="7 m")
    assert heights_of(job).lift_m == 7.0
    assert heights_of(job).level is None


def test_typed_drawdown_lowers_the_flow(well, parts) -> None:
    falling = typed(well, parts, well__drawdown_by="typed", well__drawdown="3 m", well__drawdown_flow="10 L/min")
    still, low = assess(well), assess(falling)
    assert low.chosen.working.flow_m3_s < still.chosen.working.flow_m3_s
    assert low.chosen.worst_litres < still.chosen.worst_litres
    fall = pumping_depth(low) - low.heights.level.level.depth_m
    assert fall == pytest.approx(0.3 * low.chosen.working.flow_m3_s / LM)
    keys = {figure.key for figure in level_figures(low)}
    assert {"standing", "fall", "pumping", "lowest", "lift-found"} <= keys


def test_pumping_test_gives_the_drawdown(well, parts) -> None:
    job = typed(well, parts, well__drawdown_by="test", well__test_flow="8 L/min", well__hours="6 h")
    assert "three" in heights_of(job).problem
    for minutes, level in ((1, 12.3), (10, 12.8), (100, 13.3)):
        job = add_typed_row(job, "well.test", "", {"after": f"{minutes} min", "level": f"{level} m"}, parts, "metric")[
            0
        ]
    heights = heights_of(job)
    assert heights.problem == ""
    assert heights.test.per_cycle_m == pytest.approx(0.5)
    # Half a metre each tenfold time: 100 min to 6 h is log10(3.6) of it more, below the weighed level.
    at_six_hours = 13.3 + 0.5 * 0.5563 - heights.level.level.depth_m
    assert heights.drawdown_s_m2 * 8 * LM == pytest.approx(at_six_hours, abs=1e-3)
    assert any(f.key == "fall" for f in level_figures(assess(job)))


@pytest.mark.parametrize(
    ("fields", "words", "grade"),
    [
        ({"well__hang_depth": "12.5 m"}, "may run dry", "bad"),
        ({"well__hang_depth": "19.8 m"}, "in the mud", "bad"),
        ({"well__total_depth": "13 m"}, "no room", "bad"),
        ({"well__hang_depth": "15 m"}, "hangs well", "good"),
        ({"well__gives": "1 L/min", "well__bore": "0.9 m"}, "more than the well gives", "bad"),
        ({"well__gives": "60 L/min"}, "the well gives 60", "good"),
    ],
)
def test_what_the_well_says(well, parts, fields, words: str, grade: str) -> None:
    found = well_findings(assess(typed(well, parts, **fields)))
    said = [f for f in found if words in f.text.replace("\u00a0", " ")]
    assert said, [f.text for f in found]
    assert said[0].grade == grade


def surface(parts, **fields: str) -> Job:
    job = typed(new_job("bank"), parts, rim="2 m", lift="6 m", altitude="1200 m", **fields)
    kit = Kit(parts.pumps["heron-s"], Direct(), parts.panels["ridge-215"], 1, 1, parts.hoses["hose-25"])
    return kits.adopt(job, kit, Cabling(conductor("mm2:6"), None))[0]


def test_suction_is_checked_with_its_own_pieces(parts) -> None:
    plain = suction_findings(assess(surface(parts)))
    assert any("No piece" in f.text for f in plain)
    assert any("foot valve" in f.text for f in plain)
    job, _ = changes.add_piece(surface(parts))
    job = typed(
        job, parts, run__p1__side="suction", run__p1__length="4 m", run__p1__fittings__foot="1", run__p2__length="30 m"
    )
    good = suction_findings(assess(job))
    assert [f.grade for f in good] == ["good"]
    thin = assess(typed(job, parts, run__p1__bore="10 mm", run__p1__length="30 m"))
    assert "suction loses" in str(thin.chosen.refusal)
    assert suction_findings(thin)[0].grade == "bad"
    figures = suction_figures(assess(job))
    assert figures[0].value == pytest.approx(sum(
        sign * i.value for sign, i in zip((1, -1, -1, -1), figures[0].inputs, strict=True)))  # fmt: skip


def test_a_hump_is_pushed_over_and_said(well, parts) -> None:
    job, _ = changes.add_piece(well)
    job = typed(job, parts, run__p1__end_height="22 m")
    a = assess(job)
    assert a.layout.static_head_m == 22.0
    words = [f.text for f in run_findings(a)]
    assert any("higher than its outlet" in w for w in words)
    assert any("doesn't drain back" in w for w in words)


def loop(parts, top: str, altitude: str = "600 m") -> Job:
    job, _ = changes.add_piece(typed(new_job("loop"), parts, outlet="loop", lift="1 m", altitude=altitude))
    job = typed(job, parts, run__p1__end_height=top)
    kit = Kit(parts.pumps["dabchick-20"], Direct(), parts.panels["kite-80"], 1, 1, parts.hoses["hose-25"])
    return kits.adopt(job, kit, Cabling(conductor("mm2:6"), None))[0]


def test_a_closed_circuit_is_filled_vented_and_kept_from_boiling(parts) -> None:
    """Common practice, no source: 2 m of pump serve 5 m of circuit if it can be filled; about 9 m is the end at sea level."""
    said = {top: run_findings(assess(loop(parts, top)))[0] for top in ("2 m", "5 m", "11 m")}
    assert said["2 m"].grade == "good"
    assert said["5 m"].grade == "care"
    assert "can't fill it" in said["5 m"].text
    assert said["5 m"].answers
    assert said["11 m"].grade == "bad"
    assert "boils" in said["11 m"].text
    assert run_findings(assess(loop(parts, "8.4 m", "0 m")))[0].grade == "care"
    assert run_findings(assess(loop(parts, "8.4 m", "2800 m")))[0].grade == "bad"


def test_what_the_water_brings_changes_the_advice(well, parts) -> None:
    assert water_findings(assess(well)) == []
    dirty = typed(well, parts, carries__leaves="yes", carries__silt="yes", carries__drunk_by="people")
    words = " ".join(f.text for f in water_findings(assess(dirty)))
    assert all(word in words for word in ("float", "mud", "bleach"))
    kit = Kit(parts.pumps["auger-7"], Controlled(parts.controllers["warden-24"]), parts.panels["kite-110"], 2, 1, parts.hoses["hose-19"])  # fmt: skip
    sandy, _ = kits.adopt(typed(well, parts, carries__sand="yes"), kit, Cabling(conductor("mm2:4"), conductor("mm2:4")))
    assert water_findings(assess(sandy))[0].grade == "bad"


def test_run_laid_along_a_track(parts) -> None:
    points = [TrackPoint(-30.0 + n * 1e-4, 24.0, 1000.0 + h) for n, h in enumerate((0, 3, 6, 12, 18, 17))]
    job, words = changes.run_from_track(new_job("walked"), profile_of(points))
    assert "track of" in words
    assert job.lift.si == pytest.approx(17.0)
    assert max(piece.end_height.si for piece in job.run) == pytest.approx(18.0)
    assert sum(piece.length.si for piece in job.run) == pytest.approx(profile_of(points).length_m, abs=0.3)
    assert job.run[0].fittings == new_job("x").run[0].fittings
    check_all(job, parts)


def test_pond_lasts_until_its_intake_is_bare(parts) -> None:
    job = typed(new_job("pond"), parts, water="pond", litres="2000 L", want__headroom="1", pond__intake="0.6 m")
    for day, depth in (("2026-11-01", "1.60 m"), ("2026-11-11", "1.45 m")):
        job = add_typed_row(job, "pond.readings", "", {"on": day, "depth": depth}, parts, "metric")[0]
    job = typed(job, parts, pond__inflow_by="readings")
    view = pond_view(assess(job))
    assert view.problem == ""
    assert view.outlook.fewest <= view.outlook.days <= view.outlook.most
    assert view.depths_m[view.outlook.days] <= 0.6 < view.depths_m[view.outlook.days - 1]
    assert pond_figures(view, 10)[0].value == pytest.approx(view.pond.volume_m3(1.45))
    one, _ = remove_row(job, "pond.readings.d2")
    assert "two" in pond_view(assess(one)).problem
    with pytest.raises(OutOfRange, match="full depth"):
        pond_view(assess(typed(job, parts, pond__readings__d1__depth="5 m")))


def test_roof_and_its_overflow(parts) -> None:
    job = typed(new_job("roof"), parts, water="cistern", roof__used="yes", roof__roof="180 m2", litres="200 L",
                roof__overflow="38 mm", want__headroom="1")  # fmt: skip
    view = roof_view(assess(job))
    assert not view.overflow_is_enough
    fixed = roof_view(assess(typed(job, parts, roof__overflow=f"{view.needed_bore_m * 1000 + 1:.0f} mm")))
    assert fixed.overflow_is_enough
    assert 0 < view.year.days_of_water < 365
    assert len(roof_figures(view)) == 6


def test_a_climate_typed(parts) -> None:
    job = typed(new_job("sky"), parts, climate="own")
    start = climate_of(job, parts)
    assert start.months[0].clearness == pytest.approx(parts.climates["ridge"].months[0].clearness, abs=0.01)
    dim = typed(job, parts, sky__months__5__light="2.4 kWh/m2", sky__months__5__rain="3 in")
    assert climate_of(dim, parts).months[5].clearness < start.months[5].clearness
    assert climate_of(dim, parts).months[5].rain_mm == pytest.approx(76.2)
    check_all(dim, parts)
    with pytest.raises(SquallError):
        assess(typed(job, parts, sky__months__5__t_min="30 °C"))
    with pytest.raises(SquallError):
        assess(typed(job, parts, sky__months__5__light="11 kWh/m2"))
    with pytest.raises(NotFound):
        edit(new_job("x"), "sky.months.5.light", "3", parts)


@pytest.mark.parametrize("place", ["level.readings", "well.test", "pond.readings", "uses", "own_pumps"])
def test_rows_come_and_go(parts, place: str) -> None:
    job = new_job("rows")
    first, words = add_row(job, place)
    second, _ = add_row(first, place)
    assert len(value_at(second, place)) == 2
    assert str(words).endswith("added")
    check_all(second, parts)
    row = value_at(second, place)[0]["id"]
    left, _ = remove_row(second, f"{place}.{row}")
    assert len(value_at(left, place)) == 1
    with pytest.raises(NotFound):
        remove_row(left, f"{place}.{row}")


def test_rows_of_no_list(parts) -> None:
    for place in ("run", "nothing", "own_pumps.w9.points"):
        with pytest.raises(NotFound):
            add_row(new_job("x"), place)
    for place, hint in (("level.readings", "dowsing"), ("uses", "swimming")):
        with pytest.raises(BadQuantity):
            add_row(new_job("x"), place, hint)
