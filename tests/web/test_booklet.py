"""A kit's booklet: its whole story on one paper, from the yard's log, upkeep and searches."""

import pytest
from test_board import TODAY
from test_job_list import soup

from squall.demo import yard
from squall.store.folder.database import connect
from squall.store.kit.handed import take_in


@pytest.fixture
def geese(client):
    """Two years of a kit, as the demo's yard tells them, and its history."""
    conn = connect(client.settings.database)
    history = next(one for one in yard(TODAY) if one.job.name == "Geese on Sallow Flat")
    number = take_in(conn, history, "me, tab 1").id
    conn.close()
    return number, history


def test_the_booklet_tells_the_kits_story(client, geese) -> None:
    number, history = geese
    page = soup(client.get(f"/jobs/{number}/sheet/booklet")).select_one(".paper")
    heads = {head.text: head.parent for head in page.select("h2")}
    log = heads["The log"].select("tbody tr")
    assert len(log) == len(history.job.visits)
    assert any("pump renewed" in row.text and "its bearing had gone" in row.text for row in log)
    mended = heads["What was found and mended"].select("tbody tr")
    assert len(mended) == len(history.searches) == 1
    assert history.searches[0].who in mended[0].text
    done = {row.th.text: int(row.select("td")[0].text) for row in heads["What was done to keep it"].select("tbody tr")}
    assert sum(done.values()) == sum(row.put_off is None for row in history.upkeep)
    assert heads["How it went"].select_one("svg.course")
    assert heads["What is due next"].select("tbody tr")
    assert "no birth certificate" in heads["Its first day"].text


def test_a_kit_of_which_nothing_was_kept_has_a_short_booklet(client) -> None:
    page = soup(client.get("/jobs/3/sheet/booklet")).select_one(".paper").text
    assert "No visit yet." in page
    assert "Nothing was searched for yet." in page
    assert "Nothing was ticked off yet." in page
    assert "No kit is chosen yet" in soup(client.get("/jobs/5/sheet/booklet")).text


def test_keep_leads_to_both_papers(client) -> None:
    links = [link["href"] for link in soup(client.get("/jobs/1/keep")).select("#due a")]
    assert "/jobs/1/sheet/cards" in links
    assert "/jobs/1/sheet/booklet" in links


def test_each_job_that_is_due_leads_to_its_card(client) -> None:
    page = soup(client.get("/jobs/1/keep"))
    cards = {section["id"] for section in soup(client.get("/jobs/1/sheet/cards")).select(".upkeep-card")}
    links = {row["id"]: row.select_one("a[href*=card]") for row in page.select(".due-list > li")}
    told = {name: link["href"].split("#")[1] for name, link in links.items() if link}
    assert told["due-screen"] == "card-screen"
    assert told["due-pump-life"] == "card-centrifugal"
    assert set(told.values()) <= cards
    assert not links["due-mice"]


def test_what_is_wrong_with_a_kit_stands_in_its_booklet_too(client) -> None:
    told = soup(client.get("/jobs/4/sheet/handover")).select_one(".caution").text
    page = soup(client.get("/jobs/4/sheet/booklet")).select_one(".caution").text
    assert "Wrong with it as it stands" in page
    assert told.split("as it is.")[1].strip() in page
