"""The board of the yard: what needs a hand first, by place, pump and person; the demo's yard as it is shipped."""

from datetime import UTC, date, datetime, timedelta

import pytest
from bs4 import BeautifulSoup
from test_job_list import names, soup, worked_out

from squall.demo import yard
from squall.job.kept.board import Standing
from squall.store.folder.database import connect
from squall.store.jobs import one_job
from squall.store.kit.handed import take_in
from squall.store.kit.upkeep import keep_done
from squall.store.standings import job_rows

TODAY = datetime.now(UTC).date()
WEARING, SHORT, RESERVE = "Donkey-trek way-station", "Alpaca fold above the ford", "Nursery reserve"


@pytest.fixture
def board(client):
    """Three kits of the demo's yard beside the demo's jobs, all worked out."""
    conn = connect(client.settings.database)
    for history in yard(TODAY):
        if history.job.name in (WEARING, SHORT, RESERVE):
            take_in(conn, history, "Ilse Quarrie, tab 4")
    conn.close()
    worked_out(client)
    return client


def groups(answer) -> dict[str, list[str]]:
    """Names under each heading of the board."""
    found: dict[str, list[str]] = {}
    head = ""
    for tag in BeautifulSoup(answer.text, "html.parser").select(".hand-head, .job-name"):
        if "hand-head" in tag["class"]:
            head = tag.text
        else:
            found.setdefault(head, []).append(tag.text)
    return found


def test_what_needs_a_hand_stands_first(board) -> None:
    found = groups(board.get("/"))
    assert next(iter(found)) == "Short of water"
    assert SHORT in found["Short of water"]
    assert WEARING in found["Wearing"]
    assert RESERVE in found["Something is due"], "what was for now is over its day"
    assert list(found)[-1] == "On paper: not fitted yet"
    row = next(row for row in soup(board.get("/")).select(".job-row") if SHORT in row.text)
    assert row.select_one("svg.course")
    assert "of a sound kit's" in row.text
    assert row.select_one("a[href$='/keep']")
    late = next(row for row in soup(board.get("/")).select(".job-row") if RESERVE in row.text)
    assert "put right what was for now" in late.text
    assert "late since" in late.text


def test_the_board_is_asked_by_hand_place_pump_and_person(board) -> None:
    assert set(names(board, "?hand=worn")) >= {WEARING, SHORT}
    assert RESERVE not in names(board, "?hand=worn")
    assert names(board, "?place=Wren+Holloway's+upper+pond") == [RESERVE]
    assert names(board, "?pump=Torrent+%26+Tarn+Auger+7&hand=worn") == [WEARING]
    assert set(names(board, "?who=Ilse+Quarrie")) == {WEARING, SHORT, RESERVE}
    page = soup(board.get("/?who=nobody+here"))
    assert "None of the 8 jobs fits" in page.text
    assert page.select_one("details#narrow[open]")
    counted = {chip["href"]: int(chip.b.text) for chip in page.select("#hands a")}
    assert counted["/?hand=worn"] == len(names(board, "?hand=worn"))


def test_what_is_done_takes_a_kit_off_the_board_at_once(board) -> None:
    conn = connect(board.settings.database)
    number = next(row.id for row in job_rows(conn, TODAY) if row.name == WEARING)
    option = one_job(conn, number).job.chosen
    assert next(row for row in job_rows(conn, TODAY) if row.id == number).standing is not None
    keep_done(conn, number, option, "look", "Ilse Quarrie, tab 4")
    assert next(row for row in job_rows(conn, TODAY) if row.id == number).standing is None, "worked out anew"
    next_month = (TODAY.replace(day=1) + timedelta(days=40)).replace(day=1)
    assert all(row.standing is None for row in job_rows(conn, next_month)), "days ahead are told of their month only"
    conn.close()
    assert "7 of 8" in soup(board.get("/")).select_one("#standings").text


def test_the_board_alone_is_what_the_page_shows(board) -> None:
    whole, part = board.get("/?hand=worn"), board.get("/board?hand=worn")
    assert soup(part).select_one("#board").encode() == soup(whole).select_one("#board").encode()


def test_a_standing_tells_what_needs_a_hand_by_the_day() -> None:
    seen = date(2026, 11, 1)
    assert Standing("holds").hands(seen) == ("open",), "never fitted"
    fine = Standing("holds", seen=seen, due=(("look", date(2026, 12, 20)),))
    assert fine.hands(date(2026, 12, 1)) == ("fine",)
    assert fine.hands(date(2026, 12, 13)) == ("due",)
    assert fine.hands(date(2027, 3, 30)) == ("due", "unseen")
    assert Standing("stopped", seen=seen).hands(seen) == ("short",)
    assert Standing("holds", ("wiring",), seen=seen).hands(seen) == ("unsafe",), "whatever water it gives"
    soon = Standing("holds", seen=seen, short_from=date(2027, 1, 1), worn=("drag",))
    assert soon.hands(date(2026, 11, 2)) == ("worn",)
    assert soon.hands(date(2026, 12, 5)) == ("short", "worn")


def test_the_shipped_yard_tells_every_story_whatever_the_day() -> None:
    for today in (date(2026, 11, 24), date(2028, 3, 1)):
        kits = yard(today)
        assert len(kits) == 12
        newest = max(visit.at[:10] for kit in kits for visit in kit.job.visits)
        assert (today - date.fromisoformat(newest)).days < 10
        oldest = min(visit.at[:10] for kit in kits for visit in kit.job.visits)
        assert (today - date.fromisoformat(oldest)).days == 730
        assert sum(bool(kit.searches) for kit in kits) >= 3
