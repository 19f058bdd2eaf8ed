"""Keep: a visit is logged in any unit, what is due is done or put off with a reason, and a calendar program reads it."""

from datetime import UTC, datetime, timedelta

import pytest
import vobject
from bs4 import BeautifulSoup


def page_of(answer) -> BeautifulSoup:
    return BeautifulSoup(answer.text, "html.parser")


def plain(words: str) -> str:
    return " ".join(words.replace("\u202f", "").replace("\u00a0", " ").split())


def visit(client, *, job: int = 1, **form):
    return client.change(f"/jobs/{job}/keep/visit", form)


def due(client, task: str, **more):
    return client.change("/jobs/1/keep/due", {"task": task, **more})


def rows_of(answer) -> dict[str, str]:
    soup = BeautifulSoup(answer.text, "html.parser")
    return {
        row["id"].removeprefix("due-"): plain(row.select_one(".gist").text) for row in soup.select(".due-list > li")
    }


def test_a_visit_is_kept_with_what_was_done_and_seen_under_prove(client) -> None:
    page = visit(
        client,
        light="700 W/m2",
        **{"outlet-flow": "1.05 gpm", "pump-volts": "13 V", "done-panels-cleaned": "yes", "note": "mud on the screen"},
    )
    assert page.status_code == 200
    told = plain(page.text)
    assert "The visit is kept." in told
    assert "Done: panels cleaned." in told
    assert "mud on the screen" in told
    assert "1.05 gpm" in client.get("/jobs/1/export.json").text
    assert "Too few visits to foretell anything: 2 of 3." in told


def test_a_note_alone_is_a_visit_and_nothing_at_all_is_none(client) -> None:
    assert visit(client, note="all well").status_code == 200
    empty = visit(client)
    assert empty.status_code == 422
    assert "Nothing is typed yet" in empty.text


def test_wrong_input_is_told_and_nothing_typed_is_lost(client) -> None:
    tomorrow = (datetime.now(UTC).date() + timedelta(days=2)).isoformat()
    for form, said in (
        ({"outlet-flow": "much"}, "much"), ({"on": tomorrow, "note": "x"}, "yet to come"), ({"on": "soon", "note": "x"}, "is not a day"),
        ({"on": "1889-01-01", "note": "x"}, "before any kit"), ({"pump-volts": "-3 V"}, "less than nothing"), ({"light": "9e9 W/m2", "note": "x"}, "allowed"),
    ):  # fmt: skip
        answer = visit(client, **form)
        assert answer.status_code == 422, form
        assert said in plain(answer.text), form
        assert all(f'value="{text}"' in answer.text for text in form.values()), form
    assert visit(client, job=5, note="x").status_code == 404


def test_what_is_due_is_done_put_off_and_taken_back(client) -> None:
    today = datetime.now(UTC).date()
    assert "late" in rows_of(client.get("/jobs/1/keep"))["screen"], (
        "the demo's only visit is older than its screen's interval"
    )
    done = due(client, "screen")
    assert "late" not in rows_of(done)["screen"]
    off = due(client, "box", days="200", why="no ladder")
    assert "put off: no ladder" in rows_of(off)["box"]
    assert (today + timedelta(days=200)).isoformat() in rows_of(off)["box"]
    for form, said in (
        ({"task": "box", "days": "9"}, "Say why"), ({"task": "box", "days": "many", "why": "x"}, "no count of days"),
        ({"task": "box", "days": "999", "why": "x"}, "1 to 366"), ({"task": "fly"}, "no such job"), ({"task": "battery"}, "no such job"),
    ):  # fmt: skip
        answer = client.change("/jobs/1/keep/due", form)
        assert answer.status_code in (404, 422)
        assert said in plain(answer.text)
    back = client.change("/jobs/1/keep/undue", {"task": "screen"})
    assert "late" in rows_of(back)["screen"]
    assert client.change("/jobs/1/keep/undue", {"task": "screen"}).status_code == 404


def test_another_program_reads_the_calendar(client) -> None:
    due(client, "box", days="20", why="rain; and mud, too")
    client.change("/jobs/1/row", {"stage": "fit", "list": "fit.for_now", "what": "25 A fuse", "until": "2027-01-09"})
    answer = client.get("/jobs/1/keep/calendar.ics")
    assert answer.headers["content-type"].startswith("text/calendar")
    events = list(vobject.readOne(answer.text).vevent_list)
    assert len(events) == len(rows_of(client.get("/jobs/1/keep"))) + 1
    assert len({event.uid.value for event in events}) == len(events)
    shown = {plain(event.summary.value): event for event in events}
    fuse = next(event for name, event in shown.items() if "25 A fuse" in name)
    assert fuse.dtstart.value.isoformat() == "2027-01-09"
    assert any(
        "Put off: rain; and mud, too" in event.description.value for event in events if hasattr(event, "description")
    )
    assert client.get("/jobs/5/keep/calendar.ics").status_code == 404


def test_without_a_kit_there_is_nothing_to_keep(client) -> None:
    assert "No kit is chosen yet" in client.get("/jobs/5/keep").text


def test_a_kit_that_would_burn_is_kept_all_the_same_and_says_so(client) -> None:
    """Whoever has it fitted wants to log it; the same on the hand-over sheet."""
    page = plain(client.get("/jobs/4/keep").text)
    assert "Wrong with the kit as it stands" in page
    assert "its maker allows 32 V" in page
    assert visit(client, job=4, note="it still runs").status_code == 200
    assert "Not to be switched on as it is" in client.get("/jobs/4/sheet/handover").text


def test_the_next_ninety_days_are_told_in_both_systems(client) -> None:
    ahead = plain(BeautifulSoup(client.get("/jobs/1/keep").text, "html.parser").select_one("#ahead").text)
    assert "The next ninety days" in ahead
    assert " L come (" in ahead
    client.cookies.set("squall_units", "us")
    ahead = plain(BeautifulSoup(client.get("/jobs/1/keep").text, "html.parser").select_one("#ahead").text)
    assert " gal come (" in ahead
    assert " L " not in ahead


def test_the_ponds_depth_at_a_visit_is_one_more_reading_of_its_account(client) -> None:
    before = client.get("/jobs/3/export.json").json()["pond"]["readings"]
    form = page_of(client.get("/jobs/3/keep")).select_one("#visit-form")
    assert form.select_one("#v-pond")
    assert not page_of(client.get("/jobs/1/keep")).select_one("#v-pond"), "a spring has no depth to read"
    page = page_of(client.change("/jobs/3/keep/visit", {"pond": "1.21 m", "note": "low"}))
    assert "The visit is kept" in page.text
    job = client.get("/jobs/3/export.json").json()
    assert len(job["pond"]["readings"]) == len(before) + 1
    assert job["pond"]["readings"][-1]["depth"]["si"] == pytest.approx(1.21)
    assert job["visits"][-1]["note"] == "low"
    for wrong in ("-4 m", "deep", "900 m"):
        answer = client.change("/jobs/3/keep/visit", {"pond": wrong, "note": "odd"})
        assert answer.status_code == 422, wrong
        again = page_of(answer)
        assert again.select_one("#v-pond")["value"] == wrong
        assert again.select_one("#v-pond ~ .problem").text
    assert len(client.get("/jobs/3/export.json").json()["pond"]["readings"]) == len(before) + 1
    alone = client.change("/jobs/3/keep/visit", {"pond": "1.19 m"})
    assert alone.status_code == 200, "a depth alone is no visit"
    assert len(client.get("/jobs/3/export.json").json()["visits"]) == len(job["visits"])


def test_a_wells_level_at_a_visit_is_one_more_reading_of_it(client) -> None:
    before = client.get("/jobs/4/export.json").json()["level"]["readings"]
    field = page_of(client.get("/jobs/4/keep")).select_one("#v-well")
    assert "the stone rim" in field.find_previous("label").text
    assert not page_of(client.get("/jobs/3/keep")).select_one("#v-well"), "a pond has its own"
    assert client.change("/jobs/4/keep/visit", {"well": "18.4 m", "on": "2026-11-20"}).status_code == 200
    kept = client.get("/jobs/4/export.json").json()["level"]["readings"]
    assert len(kept) == len(before) + 1
    assert (kept[-1]["way"], kept[-1]["on"]) == ("tape", "2026-11-20")
    for wrong in ("deep", "-3 m", "900 m"):
        again = client.change("/jobs/4/keep/visit", {"well": wrong, "note": "odd"})
        assert again.status_code == 422, wrong
        assert page_of(again).select_one("#v-well")["value"] == wrong
        assert page_of(again).select_one("#v-well ~ .problem").text
    assert client.get("/jobs/4/export.json").json()["level"]["readings"] == kept


def test_where_the_level_goes_with_the_seasons_prove_and_fault_ask_for_it_first(client) -> None:
    for page in ("prove", "fault"):
        assert not page_of(client.get(f"/jobs/4/{page}")).select(".level-of"), "read within a week: one level"
    for on, depth in (("2026-04-10", "15.2 m"), ("2026-07-12", "16.4 m")):
        assert client.change("/jobs/4/keep/visit", {"well": depth, "on": on}).status_code == 200
    for page in ("prove", "fault"):
        note = page_of(client.get(f"/jobs/4/{page}")).select_one(".level-of")
        assert "the level read on 2026-11-03" in " ".join(note.text.split()), page
        assert note.select_one("a")["href"] == "/jobs/4/keep#v-well"
