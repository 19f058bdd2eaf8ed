"""The list of jobs: found by words, by how they stand and by what is missing, in order, a page at a time."""

import pytest
from bs4 import BeautifulSoup
from hill import new_job

from squall.store.folder.database import connect
from squall.store.jobs import add_job


def soup(answer) -> BeautifulSoup:
    return BeautifulSoup(answer.text, "html.parser")


def names(client, query: str = "") -> list[str]:
    return [name.text for name in soup(client.get(f"/{query}")).select(".job-name")]


@pytest.fixture
def many(client):
    """Sixty more jobs, with nothing chosen."""
    conn = connect(client.settings.database)
    for number in range(60):
        add_job(
            conn,
            new_job(f"Trough {number:02d}").model_copy(
                update={"place": "north slope" if number % 2 else "south slope"}
            ),
            "demo",
        )
    conn.close()
    return client


def worked_out(client) -> int:
    """How many requests it takes until it is known how all jobs stand."""
    for asked in range(1, 100):
        answer = client.change("/standings")
        if "All are worked out." in answer.text:
            return asked
    raise AssertionError("never done")


def test_jobs_come_a_page_at_a_time_and_none_is_left_out(many) -> None:
    seen: list[str] = []
    for number in (1, 2, 3, 4):
        seen += names(many, f"?page={number}")
    assert len(seen) == len(set(seen)) == 65
    assert names(many, "?page=99") == names(many, "?page=4")
    assert "page 1 of 4" in soup(many.get("/")).select_one(".pages").text
    assert many.get("/?page=two").status_code == 422


def test_words_are_found_in_names_and_places_in_any_order(many) -> None:
    assert names(many, "?q=kestrel+GOAT") == ["Goat trough on Kestrel Ridge"]
    assert len(names(many, "?q=south+trough+1")) == 5
    page = soup(many.get("/?q=no+such+thing"))
    assert "None of the 65 jobs fits" in page.text
    assert page.select_one("input[name=q]")["value"] == "no such thing"
    assert names(many, "?q=%25") == []


def test_the_order_is_by_name_by_change_and_by_what_was_opened_last(many) -> None:
    assert names(many, "?sort=name")[0] == "Donkey-trek way-station"
    assert names(many, "?sort=made")[0] == "Trough 59"
    many.change("/jobs/3/field", {"path": "name", "stage": "survey", "revision": 1, "value": "Ducks"})
    assert names(many, "?sort=changed")[0] in ("Ducks", "Trough 59")
    many.get("/jobs/2/need")
    many.get("/jobs/5/survey")
    assert many.cookies.get("squall_opened") == "5.2"


def test_what_was_opened_last_stands_first(client) -> None:
    client.get("/jobs/2/need")
    client.get("/jobs/5/survey")
    client.get("/jobs/2/wire")
    links = [link["href"] for link in soup(client.get("/")).select(".job-link")]
    assert links[:2] == ["/jobs/2/survey", "/jobs/5/survey"]
    client.cookies.set("squall_opened", "2.x.-3.99999.5")
    assert [link["href"] for link in soup(client.get("/")).select(".job-link")][:2] == [
        "/jobs/2/survey",
        "/jobs/5/survey",
    ]


def test_jobs_are_found_by_how_they_stand_and_by_what_is_missing(client) -> None:
    assert soup(client.get("/?grade=holds")).select_one("#standings"), "what isn't known is worked out, not guessed"
    worked_out(client)
    page = soup(client.get("/?grade=holds"))
    assert not page.select_one("#standings")
    assert page.select(".job-row")
    assert {stamp.text for stamp in page.select(".stamp")} == {"holds"}
    without = soup(client.get("/?missing=kit"))
    assert without.select(".job-row")
    assert all("no kit is chosen" in row.text for row in without.select(".job-row"))


def test_a_standing_is_forgotten_when_the_job_changes(client) -> None:
    worked_out(client)
    name = names(client, "?grade=holds")[0]
    number = next(link["href"].split("/")[2] for link in soup(client.get("/")).select(".job-link") if name in link.text)
    client.change(f"/jobs/{number}/field", {"path": "lift", "stage": "survey", "revision": 1, "value": "190 m"})
    assert name not in names(client, "?grade=holds")
    assert "4 of 5" in soup(client.get("/?grade=holds")).select_one("#standings").text
    worked_out(client)
    assert name not in names(client, "?grade=holds")


def test_a_deleted_job_is_brought_back_where_it_stood(client) -> None:
    gone = soup(client.change("/jobs/3/delete"))
    assert "Duck nursery channel” is deleted" in gone.text
    client.change("/jobs/2/delete")
    removed = gone.select_one("input[name=removed]")["value"]
    assert client.change("/restore", {"removed": removed}, htmx=False).status_code == 303
    assert any("Duck" in name for name in names(client)), "that one, not the last"
    assert client.change("/restore", {"removed": removed}).status_code == 404
    assert len(names(client)) == 4


def test_an_empty_list_shows_how_to_begin(client) -> None:
    for number in range(1, 6):
        client.change(f"/jobs/{number}/delete")
    page = soup(client.get("/"))
    assert len(page.select(".first-run li")) == 3
    assert page.select_one("details#import[open] #import-file")
    assert not page.select_one(".job-search")


def test_an_old_address_of_a_deleted_job_says_so_and_brings_it_back(client) -> None:
    client.change("/jobs/1/delete")
    answer = client.get("/jobs/1/power")
    assert answer.status_code == 404
    assert "job 1, was deleted" in answer.text
    assert 'name="removed" value="1"' in answer.text
    assert client.change("/restore", {"removed": "1"}, htmx=False).status_code in (200, 303)
    assert client.get("/jobs/1/power").status_code == 200
    assert "There is no job 999." in client.get("/jobs/999/power").text


def test_the_list_says_when_the_first_page_of_a_job_keeps_one_waiting(client) -> None:
    assert "keeps you waiting" not in client.get("/").text
    client.app.state.compiles = True
    assert "keeps you waiting" in client.get("/").text
