"""A job's place: before it is given, what follows from it, its air and its light, and a kit moved elsewhere."""

from dataclasses import replace

import pytest
from hill import new_job as hill_job

from squall.core.errors import NoPlace, OutOfRange, SquallError
from squall.core.sky.climate import wrong_season
from squall.core.sky.outside import typical_outside_kwh
from squall.core.sky.typical_days import AVERAGE, light_of_year
from squall.core.sky.world import light_at
from squall.core.years.typical import typical_litres
from squall.demo import demo_jobs
from squall.job.document.fields import check_all, edit
from squall.job.document.job import new_job
from squall.job.edit.places import set_place
from squall.job.edit.rows import add_typed_row
from squall.job.told.place import place_figures, place_findings, short_words
from squall.job.told.verdict import verdict_of
from squall.job.worked.assess import assess
from squall.job.worked.bands import SHARES, month_bands
from squall.job.worked.doubts import doubt_in
from squall.job.worked.place import (
    UNKNOWN_ALTITUDE_M,
    air_of,
    altitude_of,
    azimuth_of,
    climate_of,
    clock_of,
    light_doubt,
    site_of,
    tilt_of,
)
from squall.job.worked.resolve import mounting_of
from squall.job.worked.years import lights_of


def texts(found):
    return " ".join(str(one.text) + " ".join(str(answer) for answer in one.answers) for one in found)


@pytest.fixture
def goats():
    return demo_jobs()[0]


def test_a_new_job_is_nowhere_and_says_so(parts):
    job = new_job("x")
    a = assess(job)
    assert not job.placed
    assert a.light is None
    assert a.chosen is None
    assert a.layout.lift_m == 6.0
    assert a.layout.altitude_m == UNKNOWN_ALTITUDE_M
    assert verdict_of(a).grade == "open"
    assert "where this job is" in verdict_of(a).sentence
    for ask in (lambda: site_of(job), lambda: climate_of(job, parts), lambda: a.lit):
        with pytest.raises(NoPlace):
            ask()


def test_what_follows_from_a_place_follows_another(parts):
    south, _ = set_place(new_job("x"), -30.4, 24.6)
    north, words = set_place(south, 44.5, 7.6)
    assert (azimuth_of(south).si, azimuth_of(north).si) == (0.0, 180.0)
    assert (tilt_of(south).si, tilt_of(north).si) == (45.0, 60.0)
    assert (clock_of(south).si, clock_of(north).si) == (2.0, 1.0)
    assert altitude_of(south).told_by == "place"
    assert altitude_of(south).si != altitude_of(north).si
    assert "44.5° N" in str(words)
    assert all(figure.label for figure in place_figures(north))


def test_what_was_typed_for_another_place_is_let_go_and_told(goats):
    moved, words = set_place(goats, 44.5, 7.6)
    assert moved.altitude is None
    assert moved.clock_offset is None
    assert moved.azimuth is None
    assert moved.tilt == goats.tilt
    assert moved.climate == "world"
    for said in ("height and clock follow it", "panels turned towards the equator", "light by the world's table"):
        assert said in str(words)
    near, words = set_place(goats, -30.5, 24.7)
    assert near.altitude == goats.altitude
    assert near.azimuth == goats.azimuth
    assert "height" not in str(words)


@pytest.mark.parametrize("latitude", [74.0, 90.0, -60.0])
def test_poleward_of_the_light_no_job_stands(latitude):
    with pytest.raises(OutOfRange, match="weather file"):
        set_place(new_job("x"), latitude, 20.0)


def test_typed_fields_rule_and_can_be_emptied(parts):
    job, _ = set_place(new_job("x"), -30.4, 24.6)
    job = edit(edit(job, "altitude", "1500 m", parts), "azimuth", "20", parts)
    assert (altitude_of(job).si, altitude_of(job).told_by) == (1500.0, "typed")
    job = edit(edit(job, "altitude", "", parts), "azimuth", "", parts)
    assert altitude_of(job).told_by == "place"
    assert azimuth_of(job).si == 0.0
    assert edit(job, "latitude", "31 12 S", parts).latitude.si == pytest.approx(-31.2)
    check_all(job, parts)


@pytest.mark.parametrize(
    ("path", "typed"), [("latitude", "95"), ("latitude", "7 E"), ("longitude", "200"), ("latitude", "-59")]
)
def test_coordinates_that_are_none(goats, parts, path, typed):
    with pytest.raises(SquallError):
        edit(goats, path, typed, parts)


def test_one_truth_for_the_average_day(parts):
    """The typical average day has the table's mean of the month."""
    job, _ = set_place(new_job("x"), -30.4, 24.6)
    a = assess(job)
    for month, here in enumerate(light_at(-30.4, 24.6).months):
        assert a.light.level_kwh_m2[AVERAGE, month] == pytest.approx(here.mean_kwh_m2, rel=0.012)


def test_the_years_days_are_the_tables(parts):
    """Ten made years at a place: the mean on the level panels within 3 % of the table's, dirt aside."""
    job, _ = set_place(hill_job("x"), 36.1, -79.9)
    job = edit(edit(edit(job, "tilt", "0", parts), "dirt", "0 %", parts), "azimuth", "180", parts)
    lights = lights_of(assess(job), None)
    year = sum(float(lights[n].day_kwh_m2.sum()) for n in range(10)) / 10.0
    assert year == pytest.approx(light_at(36.1, -79.9).year_kwh_m2, rel=0.03)


def test_air_is_a_guess_until_somebody_says(parts):
    job, _ = set_place(new_job("x"), -30.4, 24.6)
    assert climate_of(job, parts).air_guessed
    assert "guessed from latitude and height" in texts(place_findings(assess(job)))
    job = edit(job, "air.by", "extremes", parts)
    assert job.air.hottest is not None
    job = edit(edit(job, "air.hottest", "31 °C", parts), "air.coldest", "-2 °C", parts)
    air = air_of(job, parts)
    assert max(air.t_max_c) == pytest.approx(31.0, abs=0.5)
    assert not climate_of(job, parts).air_guessed
    assert "guessed" not in texts(place_findings(assess(job)))
    colder = edit(job, "air.record_low", "-15 °C", parts)
    assert assess(colder).layout.record_low_c == -15.0


def test_air_as_at_a_place_like_it_and_month_by_month(parts):
    job, _ = set_place(new_job("x"), -30.4, 24.6)
    like = edit(edit(job, "air.by", "like", parts), "air.like", "ridge", parts)
    assert climate_of(like, parts).record_low_c == parts.climates["ridge"].record_low_c
    typed = edit(job, "air.by", "months", parts)
    typed = edit(edit(typed, "air.months.6.t_min", "-7 °C", parts), "air.months.0.rain", "80 mm", parts)
    climate = climate_of(typed, parts)
    assert climate.months[6].t_min_c == -7.0
    assert climate.months[0].rain_mm == pytest.approx(80.0)
    check_all(typed, parts)
    with pytest.raises(SquallError, match="No air is typed yet"):
        edit(job, "air.months.6.t_min", "3 °C", parts)


def test_a_month_that_was_measured_corrects_that_month_alone(parts):
    job, _ = set_place(new_job("x"), -30.4, 24.6)
    job, _ = add_typed_row(job, "measured", "", {"month": "6", "light": "3.0 kWh/m2"}, parts, "metric")
    plain, mended = light_at(-30.4, 24.6).months, climate_of(job, parts).light.months
    assert mended[5].mean_kwh_m2 == 3.0
    assert mended[5].under(0.25) == pytest.approx(plain[5].under(0.25) * 3.0 / plain[5].mean_kwh_m2)
    assert mended[5].doubt < plain[5].doubt
    assert mended[6] == plain[6]


def test_the_doubt_of_the_light_goes_by_its_source(goats, parts):
    old = light_doubt(goats, climate_of(goats, parts))
    assert (old.less, old.more) == (0.08, 0.08)
    placed, _ = set_place(goats, -30.4, 24.6)
    placed = placed.model_copy(update={"doubt": placed.doubt.model_copy(update={"light": None})})
    june = light_doubt(placed, climate_of(placed, parts), 5)
    assert june.less >= june.more >= 0.10
    cloudy, _ = set_place(placed, 52.3, 4.8)
    winter = light_doubt(cloudy, climate_of(cloudy, parts), 11)
    assert winter.less > winter.more + 0.1
    told = doubt_in(placed)
    assert told is not None
    light = next(effect for effect in told.litres.effects if effect.spread.key == "light")
    assert (light.spread.less, light.spread.amount) == (pytest.approx(june_or_worst(placed, parts).less), pytest.approx(june_or_worst(placed, parts).more))  # fmt: skip


def june_or_worst(job, parts):
    return light_doubt(job, climate_of(job, parts), assess(job).chosen.worst_month)


def test_panels_and_climates_of_the_wrong_half_of_the_world_are_told(goats, parts):
    turned = edit(edit(goats, "latitude", "44.5", parts), "longitude", "7.6", parts)
    said = texts(place_findings(assess(turned)))
    assert "away from the sun" in said
    assert "turned by half a year" in said
    months = climate_of(turned, parts).months
    assert months[0].t_max_c < months[6].t_max_c
    assert months[3] == parts.climates["ridge"].months[9]
    own = edit(turned, "climate", "own", parts)
    assert "warm when it is winter here" in texts(place_findings(assess(own)))
    assert wrong_season(parts.climates["ridge"], 44.5)
    assert not wrong_season(parts.climates["ridge"], -30.0)
    assert place_findings(assess(goats)) == []


def test_a_place_at_sea_and_swapped_coordinates_are_told():
    swapped, _ = set_place(new_job("x"), 24.6, -30.4)
    said = texts(place_findings(assess(swapped)))
    assert "lies at sea" in said
    assert "swapped? 30.4° S, 24.6° E is on land" in said
    island, _ = set_place(new_job("x"), -4.2, 73.2)
    assert "km off, stands in for it" in texts(place_findings(assess(island)))


def test_bands_rise_and_say_which_days_run_short(goats):
    bands = month_bands(assess(goats))
    assert len(bands) == 12
    for band in bands:
        assert list(band.light_kwh_m2) == sorted(band.light_kwh_m2)
        assert band.start_kwh_m2 < band.need_kwh_m2
        assert 0.0 <= band.short <= 1.0
    worst = max(bands, key=lambda band: band.short)
    assert bands.index(worst) in (4, 5, 6, 7)
    assert "too dull" in short_words(bands)
    assert len(SHARES) == len(bands[0].light_kwh_m2)


def test_more_need_wants_more_light(goats, parts):
    plain = month_bands(assess(goats))
    herd = goats.herd[0]
    thirsty = edit(goats, f"herd.{herd.id}.count", str(2 * herd.count.si), parts)
    more = month_bands(assess(thirsty))
    assert all(a.need_kwh_m2 <= b.need_kwh_m2 for a, b in zip(plain, more, strict=True))
    assert sum(b.short for b in more) > sum(b.short for b in plain)


def test_a_weak_well_is_no_stronger_in_any_light(parts):
    """The bands know what the verdict knows: a well of 0.2 L/min gives no day's need, however bright."""
    donkeys = demo_jobs()[3]
    assert any((band.need_kwh_m2 or 0.0) < float("inf") for band in month_bands(assess(donkeys)))
    weak = month_bands(assess(edit(donkeys, "well.gives", "0.2 L/min", parts)))
    assert all(band.need_kwh_m2 == float("inf") and band.short == 1.0 for band in weak if band.need_kwh_m2 is not None)


@pytest.mark.parametrize(("times", "enough"), [(1.08, True), (0.92, False)])
def test_a_little_more_than_the_needs_light_makes_the_need_and_a_little_less_does_not(goats, times, enough):
    """A climate whose every day is that bright, a twelfth up or down: half hours near the start jump, so no nearer."""
    a = assess(goats)
    climate = climate_of(a.job, a.parts)
    months = tuple(
        replace(month, clearness=times * band.need_kwh_m2 / typical_outside_kwh(-30.4, n))
        for n, (month, band) in enumerate(zip(climate.months, month_bands(a), strict=True))
    )
    light = light_of_year(site_of(a.job), replace(climate, months=months), mounting_of(a.job))
    litres = typical_litres(a.chosen.setup, light, a.chosen.use)
    for made, wanted in zip(litres, a.wanted_l, strict=True):
        assert bool(made >= wanted) is enough
