"""Revisions, undo, stale edits, migrations, backup."""

import sqlite3

import pytest
from hill import new_job

from squall.core.errors import BadFile, BadQuantity, NotFound, OutOfRange, StaleEdit
from squall.job.edit.changes import add_piece, remove_piece
from squall.job.worked.assess import assess
from squall.store import database, history, jobs

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
    jobs.delete_job(conn, stored.id)
    with pytest.raises(NotFound, match="may have been deleted"):
        jobs.one_job(conn, stored.id)
    assert jobs.last_deleted(conn) == "Trough"
    assert jobs.restore_deleted(conn, "me").job == stored.job
    with pytest.raises(NotFound):
        jobs.restore_deleted(conn, "me")


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
