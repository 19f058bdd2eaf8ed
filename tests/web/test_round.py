"""The round: what is due on every kit, place by place; what is late, put off, unseen for long, fitted for now; what to load."""

from datetime import UTC, date, datetime, timedelta

import pytest
from bs4 import BeautifulSoup

from squall.core.upkeep.due import Due, Last, Task
from squall.store.folder.database import connect
from squall.store.jobs import one_job
from squall.web.lists.round_trip import UNSEEN_DAYS, Stop, by_place, stop_of, to_take

TODAY = datetime.now(UTC).date()


def words(answer) -> str:
    return " ".join(
        BeautifulSoup(answer.text, "html.parser").select_one("main").get_text(" ").replace("\u00a0", " ").split()
    )


def stop(client, job: int, days: int = 30, today: date = TODAY) -> Stop | None:
    conn = connect(client.settings.database)
    try:
        return stop_of(conn, one_job(conn, job), today, days)
    finally:
        conn.close()


def test_every_kit_is_on_the_round_with_what_is_due(client) -> None:
    page = words(client.get("/round?days=90"))
    assert "Goat trough on Kestrel Ridge" in page
    assert "School roof" not in page, "no kit, nothing to look after"
    assert "kits want a hand within 90 days" in page
    assert "To load" in page
    due = stop(client, 1, 90).due
    assert [one.on for one in due] == sorted(one.on for one in due)
    assert len(stop(client, 1, 366).due) > len(stop(client, 1, 7).due)


def test_what_is_done_leaves_the_round_and_what_is_put_off_comes_back(client) -> None:
    before = stop(client, 1, 60)
    code = before.due[0].task.code
    client.change("/jobs/1/keep/due", {"task": code, "days": "20", "why": "waiting for rope"})
    assert "put off: waiting for rope" in words(client.get("/round?days=60"))
    client.change("/jobs/1/keep/due", {"task": code})
    after = {one.task.code: one.on for one in stop(client, 1, 366).due}
    assert after.get(code, date.max) > before.due[0].on


def test_a_kit_unseen_for_long_is_told_whatever_is_due(client) -> None:
    seen = stop(client, 1).seen
    assert seen == date(2026, 11, 2)
    assert not stop(client, 1, today=seen + timedelta(days=UNSEEN_DAYS)).unseen
    assert stop(client, 1, today=seen + timedelta(days=UNSEEN_DAYS + 1)).unseen


def test_what_was_fitted_for_now_is_told_once_its_day_is_over(client) -> None:
    client.change(
        "/jobs/1/row", {"stage": "fit", "list": "fit.for_now", "what": "a borrowed clamp", "until": "2026-01-01"}
    )
    assert "its day is over: a borrowed clamp" in words(client.get("/round?days=7"))


@pytest.mark.parametrize("days", ["0", "367", "soon", "9" * 30])
def test_days_that_are_none_are_said(client, days: str) -> None:
    assert client.get(f"/round?days={days}").status_code == 422


def _stop(client, job: int, place: str, *on: date) -> Stop:
    conn = connect(client.settings.database)
    stored = one_job(conn, job)
    conn.close()
    moved = type(stored)(stored.id, stored.revision, stored.changed_at, stored.job.model_copy(update={"place": place}))
    return Stop(moved, tuple(Due(Task("look", 30, 10), day, Last()) for day in on), (), None, False)


def test_places_stand_together_and_the_longest_wait_first(client) -> None:
    stops = [
        _stop(client, 1, "ridge", TODAY), _stop(client, 2, "", TODAY), _stop(client, 3, "Brook", TODAY),
        _stop(client, 4, "ridge", TODAY - timedelta(days=9), TODAY),
    ]  # fmt: skip
    groups = by_place(stops)
    assert [place for place, _ in groups] == ["Brook", "ridge", ""]
    assert [row.stored.id for row in groups[1][1]] == [4, 1]
    assert groups[1][1][0].minutes == 20
    assert to_take(stops) == ["bucket", "watch"], "the same tools are loaded once"


def test_a_job_that_cannot_be_worked_out_does_not_kill_the_round(client, monkeypatch) -> None:
    from squall.core.errors import OutOfRange

    def breaks(*_: object) -> None:
        raise OutOfRange("lift", 5.0, "less")

    monkeypatch.setattr("squall.web.lists.round_trip.due_now", breaks)
    assert "It can't be worked out" in words(client.get("/round"))
