"""Finding by plain words: fields where they stand, pages, parts, jobs."""

import re

import pytest
from bs4 import BeautifulSoup

from squall.job.document.specs import PLAIN, ROWS
from squall.web.lists.find import stage_of_field


def found(client, words: str, job: int = 1) -> list[tuple[str, str]]:
    answer = client.get("/find", params={"q": words, "job": job}, headers={"hx-request-type": "partial"})
    assert answer.status_code == 200
    return [(link.b.text, link["href"]) for link in BeautifulSoup(answer.text, "html.parser").select(".hits a")]


def test_every_field_has_a_page(client) -> None:
    """A field that no page shows could not be found, nor typed."""
    assert set(stage_of_field()) >= set(PLAIN)
    assert set(ROWS) - set(stage_of_field()) <= {"own_pumps.points"}


def test_what_was_found_is_there(client) -> None:
    """Each field's address leads to a page on which that field stands, unless the job as it is has no use for it."""
    hits = [hit for word in ("lift", "drop", "water", "tilt", "noon") for hit in found(client, word)]
    assert len(hits) > 10
    there = 0
    for _, address in hits:
        path, _, anchor = address.partition("#")
        page = client.get(path)
        assert page.status_code == 200, address
        there += bool(anchor and re.search(f'id="{anchor}"', page.text))
    assert there >= 5


@pytest.mark.parametrize(
    ("words", "first"),
    [("survey", "/jobs/1/survey"), ("frost", "/jobs/1/outdoors"), ("drop allowed", "/jobs/1/wire#f-max_drop-form"), ("stairwell", "/parts/stairwell-8")],
)  # fmt: skip
def test_the_likeliest_stands_first(client, words: str, first: str) -> None:
    assert found(client, words)[0][1] == first


def test_other_peoples_words_are_known(client) -> None:
    assert any("hose" in name.casefold() for name, _ in found(client, "pipe"))
    assert any("lift" in name.casefold() for name, _ in found(client, "height"))


def test_jobs_are_found_and_outside_a_job_no_fields(client) -> None:
    assert ("Duck nursery channel", "/jobs/3") in found(client, "duck", job=0)
    assert not any("/survey" in address for _, address in found(client, "lift", job=0))
    assert found(client, "") == []
    assert "Nothing is called so" in client.get("/find?q=zebra").text
    assert client.get("/find", params={"q": "(["}).status_code == 200
    assert client.get("/find", params={"q": "lift", "job": "one"}).status_code == 422
