"""Revisions, undo, stale edits, migrations, backup."""

import sqlite3
from contextlib import closing
from datetime import UTC, datetime, timedelta

import pytest
from hill import new_job
from hypothesis import given
from hypothesis import strategies as st

from squall.catalogue import catalogue
from squall.core.errors import BadFile, BadQuantity, NotFound, OutOfRange, StaleEdit
from squall.job.edit.changes import add_piece, remove_piece
from squall.job.worked.assess import assess
from squall.store import history, jobs, removed
from squall.store.folder import database

NEXT = database.migrations()[-1][0] + 1


@pytest.fixture
def path(tmp_path):
    target = tmp_path / "deep" / database.FILE_NAME
    database.prepare(target)
    return target


@pytest.fixture
def conn(path):
    connection = database.connect(path)
    yield connection
    connection.close()


@pytest.fixture
def stored(conn):
    return jobs.add_job(conn, new_job("Trough"), "me")


def type_lift(conn, stored, typed, on=None, who="me", parts=None, path="lift"):
    from squall.catalogue import catalogue

    return jobs.edit_field(
        conn, stored.id, jobs.FieldEdit(path, typed, on or stored.revision), catalogue(), who, check=assess
    )


def test_an_edit_is_a_revision_and_undo_survives_a_restart(conn, stored, path) -> None:
    type_lift(conn, stored, "7.6m")
    type_lift(conn, jobs.one_job(conn, stored.id), "25 ft")
    conn.close()
    again = database.connect(path)
    back, what = history.undo(again, stored.id)
    assert (back.job.lift.typed, str(what)) == ("7.6m", "lift set to 25 ft")
    back, _ = history.undo(again, stored.id)
    assert back.job == new_job("Trough")
    with pytest.raises(NotFound, match="nothing to undo"):
        history.undo(again, stored.id)
    forward, _ = history.redo(again, stored.id)
    assert forward.job.lift.typed == "7.6m"
    again.close()


def test_a_new_edit_after_undo_starts_a_new_branch(conn, stored) -> None:
    type_lift(conn, stored, "7 m")
    history.undo(conn, stored.id)
    now = type_lift(conn, jobs.one_job(conn, stored.id), "9 m")
    assert now.job.lift.typed == "9 m"
    with pytest.raises(NotFound, match="nothing to do again"):
        history.redo(conn, stored.id)
    assert history.undo(conn, stored.id)[0].job.lift.typed == "6 m"
    assert [w and str(w) for w in history.can_undo_redo(conn, jobs.one_job(conn, stored.id))] == [
        None,
        "lift set to 9 m",
    ]


def test_the_same_text_again_is_no_revision(conn, stored) -> None:
    assert type_lift(conn, stored, "6 m").revision == 1


def test_two_people_on_one_field_are_asked(conn, stored) -> None:
    type_lift(conn, stored, "7 m", who="her")
    with pytest.raises(StaleEdit) as caught:
        type_lift(conn, stored, "8 m", on=1, who="him")
    assert (caught.value.mine, caught.value.theirs) == ("8 m", "7 m")
    assert jobs.one_job(conn, stored.id).job.lift.typed == "7 m"


def test_two_people_on_two_fields_merge(conn, stored) -> None:
    type_lift(conn, stored, "7 m", who="her")
    merged = type_lift(conn, stored, "16 °C", on=1, who="him", path="water_temperature")
    assert (merged.job.lift.typed, merged.job.water_temperature.typed) == ("7 m", "16 °C")


def test_the_same_value_from_two_people_is_no_quarrel(conn, stored) -> None:
    type_lift(conn, stored, "7 m", who="her")
    assert type_lift(conn, stored, "7 m", on=1, who="him").job.lift.typed == "7 m"


def test_one_person_typing_fast_is_no_quarrel(conn, stored) -> None:
    type_lift(conn, stored, "7 m")
    assert type_lift(conn, stored, "8 m", on=1).job.lift.typed == "8 m"


def test_a_refused_edit_changes_nothing(conn, stored) -> None:
    for typed, error in (("4000 m", OutOfRange), ("3 gpm", BadQuantity)):
        with pytest.raises(error):
            type_lift(conn, stored, typed)
    assert jobs.one_job(conn, stored.id) == stored
    assert len(history.history(conn, stored)) == 1


def test_an_edit_of_a_removed_piece_says_so(conn, stored) -> None:
    jobs.change_job(conn, stored.id, add_piece, "her")
    jobs.change_job(conn, stored.id, lambda job: remove_piece(job, "p2"), "her")
    with pytest.raises(NotFound, match="not in this job any more"):
        type_lift(conn, stored, "5 m", path="run.p2.length")


def test_a_deleted_job_can_be_brought_back(conn, stored) -> None:
    removed.delete_job(conn, stored.id)
    with pytest.raises(NotFound, match="was deleted"):
        jobs.one_job(conn, stored.id)
    assert removed.last_deleted(conn) == "Trough"
    assert removed.restore_deleted(conn, "me").job == stored.job
    with pytest.raises(NotFound):
        removed.restore_deleted(conn, "me")


def test_a_failed_transaction_leaves_nothing(conn, stored) -> None:
    def fail_half_way() -> None:
        with database.transaction(conn):
            conn.execute("UPDATE job SET revision = 99")
            raise ZeroDivisionError

    with pytest.raises(ZeroDivisionError):
        fail_half_way()
    assert jobs.one_job(conn, stored.id).revision == 1


def test_history_is_newest_first(conn, stored) -> None:
    type_lift(conn, stored, "7 m")
    now = jobs.one_job(conn, stored.id)
    assert [str(row.what) for row in history.history(conn, now)] == ["lift set to 7 m", "job made"]


def test_backup_of_an_open_database(conn, stored, path, tmp_path) -> None:
    copy = database.backup(path, tmp_path / "copy.sqlite3")
    other = database.connect(copy)
    assert jobs.one_job(other, stored.id).job == stored.job
    other.close()
    with pytest.raises(BadFile, match="exists already"):
        database.backup(path, copy)
    with pytest.raises(BadFile, match="no database"):
        database.backup(tmp_path / "none", tmp_path / "x")


def test_a_backup_is_made_before_a_migration(conn, stored, path, monkeypatch) -> None:
    newer = [*database.migrations(), (NEXT, "ALTER TABLE job ADD COLUMN note TEXT;")]
    monkeypatch.setattr(database, "migrations", lambda: newer)
    database.prepare(path)
    kept = list((path.parent / "backups").glob(f"*before-{NEXT:04d}*"))
    assert len(kept) == 1
    old = database.connect(kept[0])
    assert database.version_of(old) == NEXT - 1
    old.close()
    assert database.version_of(conn) == NEXT


def test_a_broken_migration_leaves_the_old_schema(conn, stored, path, monkeypatch) -> None:
    broken = [*database.migrations(), (NEXT, "ALTER TABLE job ADD COLUMN note TEXT; SELECT no_such_thing;")]
    monkeypatch.setattr(database, "migrations", lambda: broken)
    with pytest.raises(BadFile):
        database.prepare(path)
    assert database.version_of(conn) == NEXT - 1
    assert [row[1] for row in conn.execute("PRAGMA table_info(job)")] == [
        "id",
        "revision",
        "created_at",
        "changed_at",
        "document",
        "removed_at",
    ]


def test_foreign_and_newer_files_are_refused(tmp_path) -> None:
    foreign = tmp_path / "foreign.sqlite3"
    foreign.write_text("this is no database " * 100)
    with pytest.raises(BadFile, match="not a Squall database"):
        database.prepare(foreign)
    newer = tmp_path / "newer.sqlite3"
    conn = sqlite3.connect(newer)
    conn.execute("PRAGMA user_version = 99")
    conn.close()
    with pytest.raises(BadFile, match="newer Squall"):
        database.prepare(newer)


def edit_as(conn, job_id: int, who: str, path: str, text: str):
    now = jobs.one_job(conn, job_id)
    return jobs.edit_field(conn, job_id, jobs.FieldEdit(path, text, now.revision), catalogue(), who)


def test_undo_is_each_persons_own_and_says_what_it_takes_back(conn, stored) -> None:
    """Two phones on one job: what the laptop types is not the phone's to take back."""
    edit_as(conn, stored.id, "laptop", "lift", "7 m")
    edit_as(conn, stored.id, "phone", "name", "Ridge trough")
    edit_as(conn, stored.id, "laptop", "litres", "400 L")
    assert [str(words) for words in history.can_undo_redo(conn, jobs.one_job(conn, stored.id), "phone") if words] == [
        "name set to Ridge trough"
    ]
    back, what = history.undo(conn, stored.id, "phone")
    assert "name" in str(what)
    assert (back.job.name, back.job.lift.typed, back.job.litres.typed) == ("Trough", "7 m", "400 L")
    with pytest.raises(NotFound, match="nothing of yours"):
        history.undo(conn, stored.id, "phone")
    back, _ = history.undo(conn, stored.id, "laptop")
    assert back.job.litres.typed != "400 L"
    back, _ = history.undo(conn, stored.id, "laptop")
    assert (back.job.lift.typed, back.job.name) == ("6 m", "Trough")


def test_redo_survives_what_others_did_since(conn, stored) -> None:
    edit_as(conn, stored.id, "phone", "lift", "7 m")
    history.undo(conn, stored.id, "phone")
    edit_as(conn, stored.id, "laptop", "name", "Ridge trough")
    again, what = history.redo(conn, stored.id, "phone")
    assert (again.job.lift.typed, again.job.name) == ("7 m", "Ridge trough")
    assert "lift" in str(what)
    with pytest.raises(NotFound, match="nothing to do again"):
        history.redo(conn, stored.id, "phone")
    with pytest.raises(NotFound, match="nothing to do again"):
        history.redo(conn, stored.id, "laptop")
    back, _ = history.undo(conn, stored.id, "phone")
    assert back.job.lift.typed == "6 m"
    edit_as(conn, stored.id, "laptop", "litres", "300 L")
    again, _ = history.redo(conn, stored.id, "phone")
    assert (again.job.lift.typed, again.job.litres.typed) == ("7 m", "300 L")


def test_the_same_changed_since_is_not_turned_back_in_silence(conn, stored) -> None:
    edit_as(conn, stored.id, "phone", "lift", "7 m")
    edit_as(conn, stored.id, "laptop", "lift", "8 m")
    edit_as(conn, stored.id, "laptop", "name", "Ridge trough")
    with pytest.raises(BadQuantity, match="changed the same since"):
        history.undo(conn, stored.id, "phone")
    assert jobs.one_job(conn, stored.id).job.lift.typed == "8 m"


def test_what_somebody_else_did_long_ago_may_be_taken_back_from_the_end(conn, stored) -> None:
    edit_as(conn, stored.id, "laptop", "lift", "7 m")
    with pytest.raises(NotFound, match="somebody else's, of just now"):
        history.undo(conn, stored.id, "phone")
    long_ago = (datetime.now(UTC) - timedelta(minutes=history.JUST_NOW_MIN + 1)).isoformat(timespec="seconds")
    conn.execute("UPDATE revision SET at = ? WHERE who = 'laptop'", (long_ago,))
    assert history.undo(conn, stored.id, "phone")[0].job.lift.typed == "6 m"


def test_lists_that_others_changed_are_not_cut(conn, stored) -> None:
    """A row added by one and a row added by another: taking the first back would take the wrong one; that is said."""
    from squall.job.edit import changes

    for who in ("phone", "laptop"):
        jobs.change_job(conn, stored.id, changes.add_drinkers, who)
    with pytest.raises(BadQuantity, match="changed the same since"):
        history.undo(conn, stored.id, "phone")
    assert len(jobs.one_job(conn, stored.id).job.herd) == 2


@given(
    st.lists(
        st.tuples(st.sampled_from("ab"), st.sampled_from(["lift", "litres", "undo", "redo"]), st.integers(1, 9)),
        max_size=14,
    )
)
def test_any_order_of_two_peoples_turns_keeps_each_ones_word(moves) -> None:
    """Whatever two do, each on a field of their own, a field is what its owner's own steps make it."""
    with closing(sqlite3.connect(":memory:", isolation_level=None)) as conn:
        conn.row_factory = sqlite3.Row
        for _, sql in database.migrations():
            conn.executescript(sql)
        job_id = jobs.add_job(conn, new_job("Trough"), "a").id
        own = {"a": "lift", "b": "litres"}
        begun = {name: getattr(jobs.one_job(conn, job_id).job, name).typed for name in own.values()}
        past, ahead = {"a": [], "b": []}, {"a": [], "b": []}
        for who, what, number in moves:
            if what in own.values():
                text = f"{number} m" if own[who] == "lift" else f"{number}00 L"
                now = past[who][-1] if past[who] else begun[own[who]]
                edit_as(conn, job_id, who, own[who], text)
                if text != now:
                    past[who].append(text)
                    ahead[who].clear()
            elif what == "undo" and past[who]:
                history.undo(conn, job_id, who)
                ahead[who].append(past[who].pop())
            elif what == "redo" and ahead[who]:
                history.redo(conn, job_id, who)
                past[who].append(ahead[who].pop())
        job = jobs.one_job(conn, job_id).job
        for who, name in own.items():
            assert getattr(job, name).typed == (past[who][-1] if past[who] else begun[name]), (who, moves)
