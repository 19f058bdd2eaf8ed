"""A weather file rules: verdict, ranking, doubt and air go by its days, wherever the years go by its hours."""

from pathlib import Path

import numpy as np
import pvlib
import pytest

from squall.catalogue import catalogue
from squall.core.errors import NotFound, OutOfRange
from squall.core.sky.file_days import months_of_file
from squall.core.sky.made_weather import MONTH_OF_DAY
from squall.demo import demo_jobs
from squall.formats import weather
from squall.job.document.fields import edit, spec_in
from squall.job.document.job import Job
from squall.job.edit.places import set_file_sky, set_place
from squall.job.told.place import light_source, place_findings
from squall.job.worked.assess import assess
from squall.job.worked.doubts import doubt_in
from squall.job.worked.place import climate_of, light_doubt
from squall.job.worked.years import run_of

PARTS = catalogue()
# TMY3 of Greensboro, 36.1 N 79.95 W, as pvlib 0.16 ships it.
GREENSBORO = (36.1, -79.95)
SHIPPED = Path(pvlib.__file__).parent / "data" / "723170TYA.CSV"


@pytest.fixture(scope="module")
def year():
    return weather.read(SHIPPED.read_bytes(), "shipped.csv", -5.0)


@pytest.fixture(scope="module")
def plain() -> Job:
    return set_place(demo_jobs()[0], *GREENSBORO)[0]


@pytest.fixture(scope="module")
def filed(plain, year) -> Job:
    return set_file_sky(plain, year, "shipped.csv")[0]


def test_the_file_names_its_place(year) -> None:
    assert year.at == pytest.approx(GREENSBORO, abs=0.05)


def test_months_of_a_file_have_its_own_days(year) -> None:
    """Against numpy's own percentiles of the file's days."""
    days = year.whole_w_m2.reshape(365, 24).sum(axis=1) / 1000.0
    for number, month in enumerate(months_of_file(year)):
        here = days[month_days(number)]
        assert month.light.mean_kwh_m2 == pytest.approx(here.mean())
        for share in (0.25, 0.5, 0.75):
            assert month.light.under(share) == pytest.approx(np.quantile(here, share), rel=0.04, abs=0.05)


def month_days(number: int):
    return np.equal(MONTH_OF_DAY, number)


def test_light_and_air_of_the_job_are_the_files(filed, year) -> None:
    climate = climate_of(filed, PARTS)
    for number, month in enumerate(climate.light.months):
        assert month.mean_kwh_m2 == pytest.approx(
            year.whole_w_m2[np.repeat(month_days(number), 24)].mean() * 0.024, rel=1e-3
        )
        air = year.air_c.reshape(365, 24)[month_days(number)]
        assert climate.months[number].t_max_c == pytest.approx(air.max(axis=1).mean(), abs=0.01)
    assert not climate.air_guessed
    assert climate.record_low_c < year.air_c.min()
    assert light_doubt(filed, climate).more == pytest.approx(0.08)
    assert "shipped.csv" in light_source(filed, climate)


@pytest.mark.parametrize(("number", "days"), [(0, 6.0), (1, 5.0)])
def test_verdict_and_years_of_one_file_agree(number, days, year) -> None:
    """Made days of the file's spread against its own hours, kit and tank the same.

    One year of a file has its own luck, and a kit straight on its panel is touchier: 11.7 days against 6.3 in a hundred."""
    job = set_file_sky(set_place(demo_jobs()[number], *GREENSBORO)[0], year, "shipped.csv")[0]
    for path, text in (("tilt", ""), ("need_by", "litres"), ("litres", "900 L"), ("want.headroom", "1")):
        job = edit(job, path, text, PARTS)
    a = assess(job)
    run, made = run_of(a, a.chosen, year), a.chosen.outlook
    assert made.pumped_l.sum() / 10.0 == pytest.approx(run.pumped_l.sum(), rel=0.06)
    assert made.short_in_a_hundred == pytest.approx(run.short_in_a_hundred, abs=days)


def test_the_verdict_moves_with_the_file(plain, filed) -> None:
    by_table, by_file = assess(plain).chosen.season, assess(filed).chosen.season
    assert not np.allclose(by_table.average_litres, by_file.average_litres, rtol=0.01)
    assert doubt_in(filed) is not None


def test_a_file_of_the_other_half_of_the_world_is_refused(plain, year) -> None:
    south = set_place(plain, -GREENSBORO[0], GREENSBORO[1])[0]
    with pytest.raises(OutOfRange, match="other half of the world"):
        set_file_sky(south, year, "shipped.csv")


def test_a_file_of_far_away_is_told_and_one_nearby_is_not(filed, plain, year) -> None:
    assert not [f for f in place_findings(assess(filed)) if "weather file" in str(f.text)]
    far = set_file_sky(set_place(plain, 33.0, -85.0)[0], year, "shipped.csv")[0]
    told = [str(f.text) for f in place_findings(assess(far)) if "weather file" in str(f.text)]
    assert len(told) == 1
    assert "km" in told[0]


def test_a_new_place_lets_the_file_go_and_the_next_hill_does_not(filed) -> None:
    near = set_place(filed, GREENSBORO[0] + 0.05, GREENSBORO[1])[0]
    assert near.climate == "file"
    moved, words = set_place(filed, 40.0, -80.0)
    assert moved.climate == "world"
    assert "light by the world's table" in str(words)
    told = [str(f.text) for f in place_findings(assess(moved)) if "weather file" in str(f.text)]
    assert "does not rule" in told[0]


def test_the_file_goes_with_the_document(filed) -> None:
    back = Job.model_validate_json(filed.model_dump_json())
    assert back == filed
    assert assess(back).chosen.season.average_litres == pytest.approx(assess(filed).chosen.season.average_litres)


def test_the_file_is_a_choice_only_where_there_is_one(plain, filed) -> None:
    assert "file" not in spec_in(plain, "climate", PARTS).choices
    assert edit(edit(filed, "climate", "world", PARTS), "climate", "file", PARTS).climate == "file"
    with pytest.raises(NotFound, match="No weather file"):
        climate_of(plain.model_copy(update={"climate": "file"}), PARTS)


def test_typed_air_and_a_measured_month_rule_over_the_file(filed) -> None:
    typed = edit(edit(filed, "air.by", "extremes", PARTS), "air.hottest", "44 °C", PARTS)
    assert max(m.t_max_c for m in climate_of(typed, PARTS).months) == pytest.approx(44.0, abs=0.5)


def test_typed_air_begins_with_the_files(filed) -> None:
    begun = edit(filed, "air.by", "extremes", PARTS)
    months = filed.file_sky.months
    assert begun.air.hottest.si == pytest.approx(max(m.t_max for m in months), abs=0.5)
    assert begun.air.coldest.si == pytest.approx(min(m.t_min for m in months), abs=0.5)
    assert len(edit(filed, "air.by", "months", PARTS).air.months) == 12
