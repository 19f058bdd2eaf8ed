"""The log, revisions of what changed, history thinned with age, and one writer for a database."""

import json
import sqlite3
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from types import SimpleNamespace

import numpy as np
import pytest
from hill import new_job
from hypothesis import given
from hypothesis import strategies as st

from squall.catalogue import catalogue
from squall.core.errors import BadQuantity, Busy, NotFound
from squall.core.sky.whole_year import MeasuredYear
from squall.job.document.job import ReadingValue, Visit, quantity
from squall.job.edit.places import set_file_sky
from squall.job.worked.assess import assess, physics_key
from squall.store import history, jobs, log, removed, years
from squall.store.deltas import backward, changes_between, forward
from squall.store.folder import database
from squall.store.jobs import Stored
from squall.store.photos import add_photo, photos_of
from squall.store.standings import job_rows

PLAIN = st.recursive(
    st.none() | st.booleans() | st.integers(-5, 5) | st.text("abc", max_size=2),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text("xyz", min_size=1, max_size=1), inner),
    max_leaves=8,
)


@pytest.fixture
def path(tmp_path) -> Path:
    target = tmp_path / "squall.sqlite3"
    database.prepare(target)
    return target


@pytest.fixture
def conn(path):
    connection = database.connect(path)
    yield connection
    connection.close()


def a_visit(visit_id: str = "v1") -> Visit:
    value = ReadingValue(
        point="pump-volts", measured=quantity("12.1 V", 12.1), expected=12.0, low=11.0, high=13.0, verdict="good"
    )
    return Visit(id=visit_id, at="2026-11-26T08:00Z", option="x", irradiance_w_m2=800.0, air_c=20.0, told_by="typed-light", values=[value] * 6)  # fmt: skip


def edit(conn, stored: Stored, typed: str, path: str = "lift") -> Stored:
    return jobs.edit_field(
        conn, stored.id, jobs.FieldEdit(path, typed, stored.revision), catalogue(), "me", check=assess
    )


@given(PLAIN, PLAIN)
def test_a_change_leads_both_ways(before: object, after: object) -> None:
    changes = changes_between(before, after)
    assert forward(before, changes) == after
    assert backward(after, changes) == before
    assert (changes == []) == (before == after)
    assert json.loads(json.dumps(changes)) == changes


def test_visits_are_rows_that_undo_takes_back(conn) -> None:
    stored = jobs.add_job(conn, new_job("log"), "me")
    one = log.add_visit(conn, stored.id, a_visit, "me")
    two = log.add_visit(conn, stored.id, a_visit, "me")
    assert (one.visits, two.visits, two.job.visits) == (1, 2, [])
    assert [v.id for v in log.latest_visits(conn, stored.id, 5)] == ["v2", "v1"]
    gone = log.remove_visit(conn, stored.id, "v1", "me")
    assert gone.visits == 1
    back, what = history.undo(conn, stored.id)
    assert (back.visits, str(what)) == (2, "readings removed")
    assert history.undo(conn, stored.id)[0].visits == 1
    assert history.redo(conn, stored.id)[0].visits == 2
    assert [v.id for v in jobs.whole(conn, back).visits] == ["v1", "v2"]
    with pytest.raises(NotFound, match="not in this job any more"):
        log.remove_visit(conn, stored.id, "v9", "me")


def a_year(level: float) -> MeasuredYear:
    hours = np.full(8760, level)
    return MeasuredYear(hours, hours / 2, hours / 100, "a file")


def take_file(conn, job_id: int, name: str, level: float, who: str = "me") -> Stored:
    year = a_year(level)
    return jobs.change_job(
        conn,
        job_id,
        lambda job: set_file_sky(job, year, name),
        who,
        beside=lambda: [years.keep_weather(conn, job_id, name, year)],
    )


def test_a_deleted_job_comes_back_whole_under_its_number(conn) -> None:
    stored = jobs.add_job(conn, new_job("log").model_copy(update={"visits": [a_visit()]}), "me")
    assert (stored.visits, stored.job.visits) == (1, [])
    edit(conn, stored, "7 m")
    take_file(conn, stored.id, "hill.epw", 150.0)
    add_photo(conn, stored.id, "pump", "leaks", "me", None)
    before = [str(one.what) for one in history.history(conn, jobs.one_job(conn, stored.id))]
    removed.delete_job(conn, stored.id, "her")
    assert jobs.all_jobs(conn) == job_rows(conn, date(2026, 12, 1)) == []
    with pytest.raises(NotFound, match="was deleted"):
        edit(conn, stored, "8 m")
    back = removed.restore_deleted(conn, "me")
    assert (back.id, back.visits, back.job.lift.typed) == (stored.id, 1, "7 m")
    assert years.kept_weather(conn, back.id).name == "hill.epw"
    assert [row.note for row in photos_of(conn, back.id)] == ["leaks"]
    told = history.history(conn, back)
    assert [str(one.what) for one in told] == ["deleted job brought back", "job deleted", *before]
    assert [one.who for one in told[:2]] == ["me", "her"]
    assert str(history.undo(conn, back.id, "me")[1]) == "note kept", "undo passes by what changed nothing"
    assert str(history.redo(conn, back.id, "me")[1]) == "note kept"
    assert history.history(conn, jobs.one_job(conn, back.id))[2].who == "me"


def test_a_run_of_a_deleted_job_goes_nowhere(conn) -> None:
    stored = jobs.add_job(conn, new_job("log"), "me")
    report = SimpleNamespace(digest="d", made_at="a", sentence_days="x", weather="y", model_dump_json=lambda: "{}")
    removed.delete_job(conn, stored.id)
    years.keep_run(conn, stored.id, report)
    assert conn.execute("SELECT count(*) FROM years_run").fetchone()[0] == 0
    removed.restore_deleted(conn, "me")
    years.keep_run(conn, stored.id, report)
    assert conn.execute("SELECT count(*) FROM years_run").fetchone()[0] == 1


def test_a_weather_file_is_part_of_undo(conn) -> None:
    stored = jobs.add_job(conn, new_job("x"), "me")
    by = stored.job.years.by
    first = take_file(conn, stored.id, "hill.epw", 150.0)
    take_file(conn, stored.id, "other.epw", 130.0)
    assert take_file(conn, stored.id, "other.epw", 130.0).revision == 3, "the same once more changes nothing"
    edit(conn, jobs.one_job(conn, stored.id), "7 m")
    jobs.edit_field(conn, stored.id, jobs.FieldEdit("name", "y", 4), catalogue(), "her")
    for _ in range(2):
        history.undo(conn, stored.id, "me")
    kept = years.kept_weather(conn, stored.id)
    assert (kept.name, float(kept.year.whole_w_m2[0])) == ("hill.epw", 150.0)
    assert jobs.one_job(conn, stored.id).job.years == first.job.years
    history.undo(conn, stored.id, "me")
    assert years.kept_weather(conn, stored.id) is None
    assert jobs.one_job(conn, stored.id).job.years.by == by
    for _ in range(2):
        history.redo(conn, stored.id, "me")
    assert years.kept_weather(conn, stored.id).name == "other.epw"
    take_file(conn, stored.id, "hers.epw", 100.0, "her")
    with pytest.raises(BadQuantity, match="Somebody changed the same"):
        history.undo(conn, stored.id, "me")
    assert years.kept_weather(conn, stored.id).name == "hers.epw"


def test_hours_that_nothing_names_go_with_old_history(conn) -> None:
    stored = jobs.add_job(conn, new_job("x"), "me")
    for level in (100.0, 130.0, 150.0):
        take_file(conn, stored.id, f"{level:g}.epw", level)
    conn.execute("UPDATE revision SET at = '2026-01-01T0' || number || ':00:00+00:00'")
    assert history.thin(conn, datetime(2026, 11, 1, tzinfo=UTC)) == 3
    assert conn.execute("SELECT count(*) FROM weather_hours").fetchone()[0] == 1
    assert years.kept_weather(conn, stored.id).name == "150.epw"


def test_a_visit_that_came_and_went_on_one_old_day_stays_away(conn) -> None:
    """Changes folded into one: going back over them must not bring back what was not there."""
    stored = jobs.add_job(conn, new_job("x"), "me")
    log.add_visit(conn, stored.id, a_visit, "me")
    log.remove_visit(conn, stored.id, "v1", "me")
    conn.execute("UPDATE revision SET at = '2026-01-0' || min(number, 2) || 'T00:00:00+00:00'")
    history.thin(conn, datetime(2026, 11, 1, tzinfo=UTC))
    assert history.undo(conn, stored.id)[0].visits == 0


def test_jobs_removed_before_come_along(tmp_path) -> None:
    path = tmp_path / "old.sqlite3"
    old = sqlite3.connect(path)
    for number, sql in database.migrations()[:15]:
        old.executescript(f"BEGIN;\n{sql}\nPRAGMA user_version = {number};\nCOMMIT;")
    full = {**new_job("gone").model_dump(mode="json"), "visits": [a_visit().model_dump(mode="json")]}
    old.execute("INSERT INTO job VALUES (4, 1, 'a', 'a', ?)", (new_job("here").model_dump_json(),))
    for number in (2, 7):
        old.execute(
            "INSERT INTO removed_job VALUES (?, '2026-03-01', ?)",
            (number, json.dumps({**full, "name": f"gone {number}"})),
        )
        old.execute(
            "INSERT INTO photo (job_id, part, at, who, note) VALUES (?, '', '', '', ?)", (-number, f"of {number}")
        )
    old.commit()
    old.close()
    database.prepare(path)
    conn = database.connect(path)
    assert [stored.id for stored in jobs.all_jobs(conn)] == [4]
    assert removed.last_deleted(conn) == "gone 7"
    back = removed.restore_deleted(conn, "me")
    assert (back.id, back.job.name, back.visits) == (6, "gone 7", 1)
    assert [row.note for row in photos_of(conn, 6)] == ["of 7"]
    assert removed.restore_deleted(conn, "me").job.name == "gone 2"
    assert jobs.add_job(conn, new_job("new"), "me").id == 7, "their numbers are used up"
    conn.close()


def test_too_many_visits_are_said(conn, monkeypatch) -> None:
    monkeypatch.setattr(log, "MOST_VISITS", 1)
    stored = jobs.add_job(conn, new_job("log"), "me")
    log.add_visit(conn, stored.id, a_visit, "me")
    with pytest.raises(BadQuantity, match="are the most"):
        log.add_visit(conn, stored.id, a_visit, "me")


def test_a_revision_holds_what_changed_however_long_the_log(conn) -> None:
    """An edit's row is as large at 500 visits as at none, and the job's own row too."""
    plain = edit(conn, jobs.add_job(conn, new_job("a"), "me"), "7 m")
    many = new_job("b").model_copy(update={"visits": [a_visit(f"v{n}") for n in range(1, 501)]})
    long = edit(conn, jobs.add_job(conn, many, "me"), "7 m")
    sizes = [
        conn.execute(
            "SELECT length(change), document IS NULL FROM revision WHERE job_id = ? AND number = 2", (s.id,)
        ).fetchone()
        for s in (plain, long)
    ]
    assert [tuple(row) for row in sizes] == [tuple(sizes[0])] * 2
    assert sizes[0][0] < 200
    assert sizes[0][1] == 1
    rows = [conn.execute("SELECT length(document) FROM job WHERE id = ?", (s.id,)).fetchone()[0] for s in (plain, long)]
    assert rows[0] == rows[1]


def test_neither_words_nor_log_are_worked_out_again(conn) -> None:
    job = new_job("x")
    same = job.model_copy(update={"name": "y", "place": "z", "notes": "n", "visits": [a_visit()]})
    assert physics_key(job) == physics_key(same)
    assert assess(job) is assess(same)
    assert physics_key(job) != physics_key(job.model_copy(update={"lift": quantity("7 m", 7.0)}))


def test_every_state_of_a_long_history_is_found_again(conn) -> None:
    stored = jobs.add_job(conn, new_job("x"), "me")
    lifts = [stored.job.lift.typed]
    for n in range(100):
        stored = edit(conn, stored, f"{5 + n / 10:g} m")
        lifts.append(stored.job.lift.typed)
    for number in (1, 2, 39, 40, 41, 80, 101):
        assert jobs.document_at(conn, stored.id, number)["lift"]["typed"] == lifts[number - 1]
    for n in range(60):
        stored, _ = history.undo(conn, stored.id)
        assert stored.job.lift.typed == lifts[99 - n]


def test_history_is_whole_for_ninety_days_and_one_state_a_day_before(conn) -> None:
    stored = jobs.add_job(conn, new_job("x"), "me")
    now = datetime(2026, 11, 26, 12, tzinfo=UTC)
    for n in range(1, 121):
        stored = edit(conn, stored, f"{5 + n / 100:g} m")
        if n == 50:
            stored = log.add_visit(conn, stored.id, a_visit, "me")
    numbers = [r["number"] for r in conn.execute("SELECT number FROM revision ORDER BY number")]
    for place, number in enumerate(numbers):
        at = now - timedelta(days=110 - place // 2, hours=place % 2)
        conn.execute("UPDATE revision SET at = ? WHERE number = ?", (at.isoformat(timespec="seconds"), number))
    before = {n: jobs.document_at(conn, stored.id, n) for n in numbers}
    cutoff = (now - timedelta(days=history.KEEP_DAYS)).isoformat(timespec="seconds")
    dates = [(r["number"], r["at"]) for r in conn.execute("SELECT number, at FROM revision ORDER BY number")]
    expected = {n for n, at in dates if at >= cutoff}
    expected |= {
        n for n, at in dates if at < cutoff and not any(m > n and b[:10] == at[:10] and b < cutoff for m, b in dates)
    }
    gone = history.thin(conn, now)
    left = {r["number"] for r in conn.execute("SELECT number FROM revision")}
    assert left == expected
    assert gone == len(numbers) - len(left) > 0
    assert {n: jobs.document_at(conn, stored.id, n) for n in left} == {n: before[n] for n in left}
    assert history.thin(conn, now) == 0
    seen_visits = set()
    while True:
        try:
            stored, _ = history.undo(conn, stored.id)
        except NotFound:
            break
        assert stored.job.lift.typed == before[stored.revision]["lift"]["typed"]
        seen_visits.add(stored.visits)
    assert seen_visits == {0, 1}


def test_readings_of_an_old_database_become_rows_and_stay_undoable(tmp_path) -> None:
    path = tmp_path / "old.sqlite3"
    old = sqlite3.connect(path)
    for number, sql in database.migrations()[:2]:
        old.executescript(f"BEGIN;\n{sql}\nPRAGMA user_version = {number};\nCOMMIT;")
    bare = new_job("x").model_dump(mode="json")
    full = {**bare, "visits": [a_visit().model_dump(mode="json")]}
    old.execute("INSERT INTO job VALUES (1, 2, 'a', 'a', ?)", (json.dumps(full),))
    for number, parent, document in ((1, None, bare), (2, 1, full)):
        row = (number, parent, "2026-11-01T00:00:00+00:00", "me", "readings kept", None, json.dumps(document))
        old.execute("INSERT INTO revision VALUES (1, ?, ?, ?, ?, ?, ?, ?)", row)
    old.commit()
    old.close()
    database.prepare(path)
    conn = database.connect(path)
    stored = jobs.one_job(conn, 1)
    assert (stored.visits, stored.job.visits) == (1, [])
    assert history.undo(conn, 1)[0].visits == 0
    assert history.redo(conn, 1)[0].visits == 1
    conn.close()


HOLD = """
import sqlite3, sys, time
conn = sqlite3.connect(sys.argv[1], isolation_level=None)
conn.execute("BEGIN IMMEDIATE")
print("held", flush=True)
time.sleep(float(sys.argv[2]))
conn.execute("COMMIT")
"""


@contextmanager
def held(path: Path) -> Iterator[subprocess.Popen[str]]:
    """Another process that holds the write lock, until it is ended or a minute has gone."""
    other = subprocess.Popen([sys.executable, "-c", HOLD, str(path), "60"], stdout=subprocess.PIPE, text=True)
    assert other.stdout is not None
    assert other.stdout.readline() == "held\n"
    try:
        yield other
    finally:
        other.kill()
        other.wait()
        other.stdout.close()


def test_a_writer_waits_for_another_process_and_then_says_busy(path, conn, monkeypatch) -> None:
    stored = jobs.add_job(conn, new_job("x"), "me")
    with held(path) as other:
        threading.Timer(0.5, other.kill).start()
        assert edit(conn, stored, "7 m").job.lift.typed == "7 m"
    conn.execute("PRAGMA busy_timeout = 100")
    with held(path), pytest.raises(Busy, match="Nothing was changed"):
        edit(conn, jobs.one_job(conn, stored.id), "8 m")
    assert jobs.one_job(conn, stored.id).job.lift.typed == "7 m"


def test_the_queue_before_the_file_is_short(path, monkeypatch) -> None:
    monkeypatch.setattr(database, "MOST_WAITING", 2)
    monkeypatch.setattr(database, "WAIT_S", 0.2)
    conns = [database.connect(path) for _ in range(6)]
    said: list[str] = []
    begun, go = threading.Event(), threading.Event()

    def first() -> None:
        with database.transaction(conns[0]):
            begun.set()
            go.wait(5.0)

    def later(conn) -> None:
        try:
            with database.transaction(conn):
                said.append("done")
        except Busy as error:
            said.append(str(error))

    threads = [threading.Thread(target=first)] + [threading.Thread(target=later, args=(c,)) for c in conns[1:]]
    threads[0].start()
    begun.wait(5.0)
    for thread in threads[1:]:
        thread.start()
    for thread in threads[1:]:
        thread.join()
    go.set()
    threads[0].join()
    assert said == [str(database.BUSY)] * 5
    for conn in conns:
        conn.close()


@pytest.mark.parametrize("what", ["page", "edit", "reading", "import"])
def test_while_another_process_writes_pages_come_and_edits_wait(client, what: str, monkeypatch) -> None:
    """A page must not wait for a writer at all; a change waits, and if it can't be kept says so with what was typed."""
    from squall.formats import job_json

    monkeypatch.setattr(database, "WAIT_S", 0.3)
    assert client.get("/jobs/1/prove").status_code == 200
    with held(client.settings.database):
        if what == "page":
            for url in ("/", "/jobs/1/survey", "/jobs/2/prove", "/jobs/1/years", "/parts"):
                assert client.get(url).status_code == 200
        elif what == "edit":
            answer = client.type("lift", "9.9 m")
            assert answer.status_code == 503
            assert "Nothing was changed" in answer.text
            assert 'value="9.9 m"' in answer.text
        elif what == "reading":
            answer = client.change("/jobs/1/readings", {"light": "800 W/m2", "pump-volts": "12.34 V"})
            assert answer.status_code == 503
            assert "12.34 V" in answer.text
        else:
            file = {"file": ("a.json", job_json.export(new_job("x")).encode(), "application/json")}
            assert client.change("/import", files=file).status_code == 503
    assert client.get("/jobs/1/survey").status_code == 200


def test_no_route_blocks_the_server_while_it_waits() -> None:
    """Blocking work stands in plain functions, which the framework runs in threads; what is async only reads a body."""
    from squall.web import app as module

    source = Path(module.__file__).parent
    found = []
    for file in source.rglob("*.py"):
        text = file.read_text("utf8")
        for place in text.split("\nasync def ")[1:] + text.split("\n    async def ")[1:]:
            found.append(place.split("(")[0])
    waits_for_a_body = ["__call__", "__call__", "_let_pass", "_whole", "again", "body_of", "body_of_lines", "form_of"]
    waits_its_turn = ["__call__", "create_server"]
    # Sleep between two looks, which are made in threads.
    listens = ["_standin_ticks", "_words"]
    assert sorted(found) == sorted([*waits_for_a_body, *waits_its_turn, *listens, "lifespan"])


def test_edits_while_a_lock_is_held_leave_pages_free(client, monkeypatch) -> None:
    monkeypatch.setattr(database, "WAIT_S", 1.5)
    with held(client.settings.database):
        writers = [threading.Thread(target=lambda: client.type("lift", "9.9 m")) for _ in range(4)]
        for thread in writers:
            thread.start()
        time.sleep(0.2)
        assert client.get("/jobs/2/survey").status_code == 200
        still = sum(thread.is_alive() for thread in writers)
        for thread in writers:
            thread.join()
    assert still > 0, "the page came only after the writers"
