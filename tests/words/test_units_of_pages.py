"""In one system no page, drawing or sheet shows a unit of the other."""

import json
import re
from collections.abc import Iterable

import pytest
from crawl import Seen, crawl, texts_of
from hill import new_job

from squall.core.advice import rank
from squall.job.document.fields import edit
from squall.job.document.paths import value_at
from squall.words import Voice, speaking

_METRIC = "N/m²|mm|cm|m|km|L|mL|L/min|L/h|L/d|m²|m³|°C|kg|N|m/s|km/h|mm/h|kPa|bar"
_US = "lbf/ft²|ft|in|yd|mi|gal|gpm|gph|ft²|°F|lb|lbf|mph|in/h|ft/s|psi"
# A number followed by a unit that the other system has no use for; ``W/m²`` and ``kWh/m²`` are the same in both.
OTHER = {
    "us": re.compile(
        rf"\d[\u00a0\u202f ]?(?:{_METRIC})(?![\w²³/])|\b(?:litres?|metres?|centimetres?)\b|(?<!kWh )on each m²",
        re.IGNORECASE,
    ),
    "metric": re.compile(
        rf"\d[\u00a0\u202f ]?(?:{_US})(?![\w²/]| (?:series|parallel|a|the|an|its)\b)|\b(?:feet|gallons?|inches)\b"
    ),
}
# A latitude is no force in newtons.
NORTH = re.compile(r"(?<=\d) N(?=[, ] ?\d+(?:\.\d+)? ?[EW]\b)")
UPPER_L = re.compile(r"\d[\u00a0\u202f ]?(?:M|KM|MM|KG|n|l/MIN)(?![\w²/])")


def wrong(seen: Iterable[Seen], system: str) -> list[str]:
    """What shows the other system's units."""
    found = []
    for text in seen:
        words = text.words
        if text.place.endswith(("@data-chart", "@data-strip")):
            words = " ".join(str(v) for v in _strings(json.loads(words)))
        if "from-file" in text.place:
            continue
        words = NORTH.sub("north", words)
        for hit in OTHER[system].finditer(words):
            if not UPPER_L.match(hit[0]):
                found.append(f"{text.url} {text.place}: …{words[max(hit.start() - 40, 0) : hit.end() + 20]}…")
    return found


def _strings(data: object) -> list[str]:
    if isinstance(data, dict):
        return [s for value in data.values() for s in _strings(value)]
    if isinstance(data, list):
        return [s for value in data for s in _strings(value)]
    return [data] if isinstance(data, str) else []


@pytest.fixture(autouse=True)
def few_kits(monkeypatch) -> None:
    """Two panels at most: what a search says does not hang on how many kits it tries."""
    monkeypatch.setattr(rank, "MOST_PANELS", 2)


@pytest.mark.parametrize("system", ["us", "metric"])
def test_every_page_drawing_and_sheet_speaks_one_system(client, system: str) -> None:
    client.cookies.set("squall_units", system)
    for number in range(1, 6):
        client.type("years.count", "1", job=number, stage="years")
        client.change(f"/jobs/{number}/years/run")
    later = []
    for number in range(1, 6):
        client.get(f"/jobs/{number}/kits")
        client.settle()
        for part in ("kits/state", "kits/choice", "kits/trials", "years/state"):
            later += list(texts_of(f"{number}/{part}", client.get(f"/jobs/{number}/{part}").text))
    seen = [*crawl(client, 5), *later]
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
