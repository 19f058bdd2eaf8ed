"""An entry of the log is put right, never silently, and undone; the log is looked through by words and days."""

from datetime import UTC, datetime, timedelta

import pytest
from bs4 import BeautifulSoup
from bs4.element import Tag

from squall.job.document.job import Visit
from squall.job.kept.log import put_visit_right

READ = {"light": "700 W/m2", "outlet-flow": "1.05 gpm", "pump-volts": "13 V"}


def plain(words: str) -> str:
    return " ".join(words.replace("\u202f", "").replace("\u00a0", " ").split())


def soup_of(answer) -> BeautifulSoup:
    return BeautifulSoup(answer.text, "html.parser")


def page(client, **asked):
    return client.get("/jobs/1/keep", params=asked)


def entry(answer, words: str) -> Tag:
    return next(row for row in soup_of(answer).select(".logged") if words in plain(row.text))


def form_of(row: Tag) -> tuple[str, dict[str, str]]:
    """Where a row's form goes, and what it would send untouched."""
    form = row.select_one("form[id^=right-]")
    sent = {}
    for field in form.select("input[name]"):
        if field.get("type") != "checkbox" or field.has_attr("checked"):
            sent[field["name"]] = field.get("value", "")
    return form["action"], sent


def log(client, **form) -> tuple[str, dict[str, str]]:
    answer = client.change("/jobs/1/keep/visit", form)
    assert answer.status_code == 200
    return form_of(entry(answer, form["note"]))


@pytest.fixture
def mud(client) -> tuple[str, dict[str, str]]:
    return log(client, **READ, **{"done-panels-cleaned": "yes", "note": "mud on the screen", "meter": "120 h"})


def test_a_form_sent_as_it_stands_changes_nothing(client, mud) -> None:
    before = client.revision()
    answer = client.change(*mud)
    assert answer.status_code == 200
    assert client.revision() == before
    assert "Put right 20" not in plain(answer.text)
    assert "The visit stands as it was." in plain(answer.text)


def test_what_is_put_right_is_judged_anew_told_and_undone(client, mud) -> None:
    to, sent = mud
    day = (datetime.now(UTC).date() - timedelta(days=3)).isoformat()
    sent |= {"pump-volts": "3 V", "outlet-flow": "", "note": "mud on the float", "meter": "121 h", "on": day}
    del sent["done-panels-cleaned"]
    answer = client.change(to, sent)
    assert answer.status_code == 200
    row = plain(entry(answer, "mud on the float").text)
    assert day in row
    assert "3 V (low)" in row, "judged by what it should have been in the light of then"
    assert "1.05 gpm" not in row
    assert "121 h" in row
    assert "Done:" not in row
    assert f"Put right {datetime.now(UTC).date().isoformat()}" in row
    assert "tab" not in row.split("Put right")[1], "a tab is nobody's name"
    told = plain(soup_of(client.get("/jobs/1/history")).text)
    assert "put right" in told
    back = client.change("/jobs/1/undo", {"stage": "keep"})
    row = plain(entry(back, "mud on the screen").text)
    assert "13 V" in row
    assert "Done: panels cleaned." in row
    assert "Put right 20" not in row
    again = client.change("/jobs/1/redo", {"stage": "keep"})
    assert "mud on the float" in plain(again.text)


@pytest.mark.parametrize(
    ("typed", "said"),
    [
        ({"pump-volts": "much"}, "much"), ({"pump-volts": "-3 V"}, "less than nothing"), ({"meter": "-1 h"}, "no count of a pump's hours"),
        ({"on": "2999-01-01"}, "yet to come"), ({"on": "1889-01-01"}, "before any kit"), ({"on": "soon"}, "is not a day"),
        ({"pump-volts": "9e9 V"}, "far more than any small pump's"),
        ({"pump-volts": "", "outlet-flow": "", "note": "", "meter": "", "done-panels-cleaned": ""}, "take it out instead"),
    ],
)  # fmt: skip
def test_what_cant_be_read_is_told_where_it_stands_and_nothing_is_lost(client, mud, typed, said) -> None:
    to, sent = mud
    before = client.revision()
    answer = client.change(to, {**sent, **typed, "note": typed.get("note", "as typed")})
    assert answer.status_code == 422
    assert client.revision() == before
    row = soup_of(answer).select_one(f"#visit-{to.rpartition('/')[2]}")
    assert said in plain(row.text)
    assert row.select_one("details").has_attr("open")
    for name, text in typed.items():
        if not name.startswith("done-"):
            assert row.select_one(f"[name={name}]")["value"] == text
    assert len(soup_of(answer).select(".logged details[open]")) == 1


def test_whoever_saw_an_older_state_is_told(client, mud) -> None:
    to, sent = mud
    client.change(to, {**sent, "note": "theirs"}, tab="two")
    late = client.change(to, {**sent, "note": "mine"})
    assert late.status_code == 422
    assert "Somebody has put this visit right" in plain(late.text)
    row = soup_of(late).select_one(f"#visit-{to.rpartition('/')[2]}")
    assert "theirs" in plain(row.text)
    assert row.select_one("[name=note]")["value"] == "mine"
    client.change("/jobs/1/do/remove-visit", {"stage": "keep", "item": to.rpartition("/")[2]})
    gone = client.change(to, sent)
    assert gone.status_code == 404
    assert "not in this job any more" in plain(gone.text)
    assert client.change("/jobs/1/keep/visit/v999", sent).status_code == 404
    assert client.change("/jobs/5/keep/visit/v1", sent).status_code == 404


def test_the_light_and_what_others_were_judged_by_stay(client) -> None:
    """Short-circuit amps told the light of all readings: put right alone they would leave wrong verdicts behind."""
    client.change("/jobs/1/readings", {"stage": "prove", "short-amps": "3.1 A", "pump-volts": "13 V"})
    row = soup_of(page(client)).select_one(".logged")
    if "3.1 A" not in plain(row.text):
        pytest.fail("the reading of Prove isn't in the log")
    to, sent = form_of(row)
    assert "short-amps" not in sent
    answer = client.change(to, {**sent, "short-amps": "9 A", "note": "amps stay"})
    assert "3.1 A" in plain(entry(answer, "amps stay").text)


def test_what_a_newer_squall_calls_done_stays() -> None:
    visit = Visit(
        id="v1", at="2026-05-04T12:00Z", option="kit", irradiance_w_m2=700.0, air_c=20.0, told_by="light", values=[],
        done=["pump-cleaned", "moon-polished"],
    )  # fmt: skip
    made, problems = put_visit_right(visit, {"note": "so", "done-panels-cleaned": "yes"}, "metric")
    assert problems == {}
    assert made.done == ["panels-cleaned", "moon-polished"]


def test_the_log_is_looked_through(client) -> None:
    old = (datetime.now(UTC).date() - timedelta(days=40)).isoformat()
    mid = (datetime.now(UTC).date() - timedelta(days=20)).isoformat()
    log(client, note="leaf in the strainer", on=old)
    log(client, note="Leaf again, rope frayed", on=mid)
    log(client, note="all well", **{"done-pump-cleaned": "yes"})

    def found(**asked) -> list[str]:
        answer = page(client, **asked)
        assert answer.status_code == 200
        return [plain(row.text) for row in soup_of(answer).select(".logged")]

    whole = len(found())
    assert len(found(words="leaf")) == 2
    assert len(found(words="leaf rope")) == 1
    assert len(found(words="pump cleaned")) == 1
    assert len(found(since=mid)) >= 2
    assert len(found(until=old, words="leaf")) == 1
    assert found(words="zebra") == []
    assert 0 < len(found(uncounted="yes")) < whole
    told = plain(page(client, words="leaf").text)
    assert f"2 of {whole} visits." in told
    assert "No visit is like that." in plain(page(client, words="zebra").text)
    for asked, said in (
        ({"since": "soon"}, "is not a day"), ({"since": "2026-05-01", "until": "2026-04-01"}, "turn the days round"),
    ):  # fmt: skip
        wrong = page(client, **asked)
        assert said in plain(wrong.text)
        assert len(soup_of(wrong).select(".logged")) == whole, "all of it stands meanwhile"
        assert soup_of(wrong).select_one("#l-since")["value"] == asked["since"]


def test_many_visits_are_shown_when_asked_for(client) -> None:
    for n in range(15):
        client.change("/jobs/1/keep/visit", {"note": f"no. {n}"})
    assert len(soup_of(page(client)).select(".logged")) == 12
    assert len(soup_of(page(client, all="yes")).select(".logged")) >= 15
