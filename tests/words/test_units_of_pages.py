"""In one system no page, drawing or sheet shows a unit of the other."""

import pytest
from crawl import Seen, crawl, texts_of
from hill import new_job
from units_seen import wrong

from squall.core.advice import rank
from squall.job.document.fields import edit
from squall.job.document.paths import value_at
from squall.words import Voice, speaking


@pytest.fixture(autouse=True)
def few_kits(monkeypatch) -> None:
    """Two panels at most: what a search says does not hang on how many kits it tries."""
    monkeypatch.setattr(rank, "MOST_PANELS", 2)


# In US units all five jobs are read by the test of a second language, and judged there.
@pytest.mark.parametrize(("system", "jobs"), [("us", 1), ("metric", 2)])
def test_every_page_drawing_and_sheet_speaks_one_system(client, system: str, jobs: int) -> None:
    client.cookies.set("squall_units", system)
    for number in range(1, jobs + 1):
        client.type("years.count", "1", job=number, stage="years")
        client.change(f"/jobs/{number}/years/run")
    later = []
    for number in range(1, jobs + 1):
        client.get(f"/jobs/{number}/kits")
        client.settle()
        for part in ("kits/state", "kits/choice", "kits/trials", "years/state"):
            later += list(texts_of(f"{number}/{part}", client.get(f"/jobs/{number}/{part}").text))
    seen = [*crawl(client, jobs), *later]
    assert len(seen) > 5000
    assert wrong(seen, system) == []


@pytest.mark.parametrize("system", ["us", "metric"])
def test_a_new_job_begins_in_its_makers_units(client, system: str) -> None:
    client.cookies.set("squall_units", system)
    client.change("/jobs", {"name": "mine"}, htmx=False)
    for page in ("survey", "need", "lift", "power", "wire", "store", "outdoors"):
        body = client.get(f"/jobs/6/{page}").text
        assert wrong(texts_of(page, body), system) == []
    assert new_job("x", "us").wire_standard == "awg"
    assert new_job("x").wire_standard == "metric"


@pytest.mark.parametrize("system", ["us", "metric"])
def test_what_is_refused_is_told_in_ones_own_units(client, system: str) -> None:
    client.cookies.set("squall_units", system)
    for path, value in (("lift", "9000"), ("run.p1.bore", "90000"), ("water_temperature", "900"), ("litres", "-4"),
                        ("lift", "12 zorks"), ("lift", ""), ("outdoors.wind", "900"), ("store.travel", "3000")):  # fmt: skip
        answer = client.type(path, value)
        assert answer.status_code == 422
        assert wrong(texts_of(path, answer.text), system) == [], (path, value)


def test_the_test_sees_a_foreign_unit() -> None:
    assert wrong([Seen("x", "p", "lifts 9.4\u00a0m here")], "us")
    assert wrong([Seen("x", "p", "holds 30 litres")], "us")
    assert wrong([Seen("x", "p", "a 25 ft run of 3/4 in hose")], "metric")
    assert not wrong([Seen("x", "p", "800 W/m² and 5.5 kWh/m², 12 V, 3 A, 900 N/A")], "us")


def test_a_field_shown_in_other_units_keeps_what_was_typed(parts) -> None:
    """25 ft is shown as 7.62 m to a metric reader; given back as it was shown, it stays 25 ft."""
    job = edit(new_job("x"), "run.p1.length", "25.1 ft", parts)
    with speaking(Voice("metric")):
        same = edit(job, "run.p1.length", "7.65 m", parts)
        assert same == job
        other = edit(job, "run.p1.length", "7.66 m", parts)
    assert value_at(other, "run.p1.length") == {"typed": "7.66 m", "si": 7.66}
