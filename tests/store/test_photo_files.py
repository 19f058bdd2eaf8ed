"""Pictures beside the database: there before their row, inside a copy that goes away, laid out again where it is opened, swept when nothing names them."""

import os
import time
from datetime import UTC, date, datetime
from pathlib import Path

import pytest

from squall.core.errors import BadFile, BadQuantity, NotFound
from squall.demo import demo_jobs
from squall.store.folder import picture_files
from squall.store.folder.copies import backup, daily, doctor, restore, whole_copy
from squall.store.folder.database import FILE_NAME, connect, migrations, prepare
from squall.store.folder.picture_files import FOLDER, sweep
from squall.store.history import redo, thin, undo
from squall.store.jobs import add_job
from squall.store.photos import add_photo, photos_of, picture, remove_photo

NEWEST = migrations()[-1][0]
WHOLE, SMALL = b"\xff\xd8 a pump" * 900, b"\xff\xd8 small"


@pytest.fixture
def path(tmp_path: Path) -> Path:
    at = tmp_path / "data" / FILE_NAME
    prepare(at)
    conn = connect(at)
    add_job(conn, demo_jobs()[0], "a")
    add_photo(conn, 1, "pump", "", "a", (WHOLE, SMALL))
    conn.close()
    return at


def files(path: Path) -> list[Path]:
    return sorted((path.parent / FOLDER).glob("??/*"))


def shown(path: Path, photo: int = 1) -> bytes:
    conn = connect(path)
    try:
        return picture(conn, 1, photo)
    finally:
        conn.close()


def aged(path: Path) -> None:
    """All its pictures as old as a month."""
    for file in files(path):
        os.utime(file, (time.time() - 30 * 86_400,) * 2)


def test_a_picture_is_a_file_of_its_owner_and_none_of_it_in_the_database(path) -> None:
    assert len(files(path)) == 2
    assert shown(path) == WHOLE
    assert WHOLE not in path.read_bytes()
    assert (path.parent / FOLDER).stat().st_mode & 0o077 == 0
    assert all(file.stat().st_mode & 0o077 == 0 for file in files(path))
    conn = connect(path)
    add_photo(conn, 1, "pump", "the same again", "a", (WHOLE, SMALL))
    conn.close()
    assert len(files(path)) == 2, "the same picture is kept once"


def test_a_copy_that_goes_away_brings_them_and_one_that_stays_names_them(path, tmp_path) -> None:
    stays = daily(path, date(2026, 3, 1))
    assert WHOLE not in stays.read_bytes()
    gone = whole_copy(stays, tmp_path / "stick" / "copy.sqlite3")
    assert [file.name for file in gone.parent.iterdir()] == ["copy.sqlite3"]
    other = tmp_path / "elsewhere" / FILE_NAME
    other.parent.mkdir()
    restore(other, gone, NEWEST)
    prepare(other)
    assert shown(other) == WHOLE
    assert len(files(other)) == 2
    assert WHOLE not in other.read_bytes(), "laid out, and the room given back"
    assert doctor(other, NEWEST) == []


def test_a_database_of_before_lays_its_photos_out(path) -> None:
    """One of schema 12 had them inside."""
    for file in (path, *path.parent.glob("squall.sqlite3-*")):
        file.unlink()
    conn = connect(path)
    for number, sql in migrations():
        if number <= 12:
            conn.executescript(f"BEGIN;\n{sql}\nPRAGMA user_version = {number};\nCOMMIT;")
    document = demo_jobs()[0].model_dump_json()
    conn.execute("INSERT INTO job VALUES (1, 1, 'a', 'a', ?)", (document,))
    conn.execute(
        "INSERT INTO revision (job_id, number, at, who, what, document) VALUES (1, 1, 'a', 'a', 'made', ?)", (document,)
    )
    put = "INSERT INTO photo (job_id, part, at, who, note, picture, small) VALUES (1, '', '', '', '', ?, ?)"
    conn.execute(put, (WHOLE[::-1], SMALL[::-1]))
    conn.close()
    prepare(path)
    assert shown(path) == WHOLE[::-1]
    prepare(path)
    assert shown(path) == WHOLE[::-1]
    before = next((path.parent / "backups").glob("*before-*.sqlite3"))
    restore(path, before, NEWEST)
    prepare(path)
    assert shown(path) == WHOLE[::-1], "the copy of before has them inside"


def forget(path: Path) -> None:
    """History so old that it is thinned."""
    conn = connect(path)
    conn.execute("UPDATE revision SET at = '2026-01-01T00:00:00+00:00'")
    thin(conn, datetime(2026, 11, 1, tzinfo=UTC))
    conn.close()


def test_one_taken_out_goes_when_neither_history_nor_a_copy_names_it(path) -> None:
    copy = daily(path, date(2026, 3, 1))
    conn = connect(path)
    remove_photo(conn, 1, 1, "a")
    assert photos_of(conn, 1) == []
    conn.close()
    aged(path)
    assert sweep(path, []) == 0, "undo would bring it back"
    forget(path)
    assert sweep(path, [copy]) == 0, "named by a copy"
    copy.write_bytes(b"noise" * 3000)
    assert sweep(path, [copy]) == 0, "a copy that can't be read may name anything"
    copy.unlink()
    assert sweep(path, []) == 2
    assert files(path) == []


def test_a_named_one_never_goes_and_the_daily_copy_sweeps(path) -> None:
    conn = connect(path)
    add_photo(conn, 1, "", "", "a", (b"second" * 50, b"s"))
    remove_photo(conn, 1, 2, "a")
    conn.close()
    forget(path)
    aged(path)
    daily(path, date(2026, 3, 1))
    assert len(files(path)) == 2
    assert shown(path) == WHOLE


def test_undo_and_redo_know_photos_and_notes(path, tmp_path) -> None:
    conn = connect(path)
    add_photo(conn, 1, "pump", "leaks at the clamp", "a", None)
    remove_photo(conn, 1, 1, "a")
    assert [row.note for row in photos_of(conn, 1)] == ["leaks at the clamp"]
    gone = whole_copy(path, tmp_path / "copy.sqlite3")
    assert str(undo(conn, 1, "a")[1]) == "photo taken out"
    assert picture(conn, 1, 1) == WHOLE
    assert str(undo(conn, 1, "a")[1]) == "note kept"
    assert str(undo(conn, 1, "a")[1]) == "photo kept"
    assert photos_of(conn, 1) == []
    for _ in range(2):
        redo(conn, 1, "a")
    assert [(row.id, row.note) for row in photos_of(conn, 1)] == [(2, "leaks at the clamp"), (1, "")]
    assert add_photo(conn, 1, "", "a third", "a", None) == 3, "a number once given is never another's"
    conn.close()
    other = tmp_path / "elsewhere" / FILE_NAME
    restore(other, gone, NEWEST)
    prepare(other)
    conn = connect(other)
    undo(conn, 1, "a")
    assert picture(conn, 1, 1) == WHOLE, "what undo brings back travels too"
    conn.close()


def test_a_photo_under_anothers_change_is_ones_own_to_take_back(path) -> None:
    conn = connect(path)
    add_photo(conn, 1, "pump", "a's", "a", None)
    add_photo(conn, 1, "pump", "b's", "b", None)
    undo(conn, 1, "a")
    assert [row.note for row in photos_of(conn, 1)] == ["b's", ""]
    redo(conn, 1, "a")
    assert [row.note for row in photos_of(conn, 1)] == ["b's", "a's", ""]
    remove_photo(conn, 1, 2, "b")
    with pytest.raises(BadQuantity, match="Somebody changed the same since"):
        undo(conn, 1, "a")
    conn.close()


def test_gone_or_damaged_ones_are_said_and_kill_no_page(path, tmp_path) -> None:
    one, other = files(path)
    one.write_bytes(b"noise")
    other.unlink()
    said = " ".join(doctor(path, NEWEST))
    assert "damaged" in said
    assert "is gone" in said
    gone = whole_copy(path, tmp_path / "copy.sqlite3")
    assert gone.exists(), "one photo less stops no copy of all the rest"
    for file in files(path):
        file.unlink()
    with pytest.raises(NotFound, match="gone from the data folder"):
        shown(path)


def test_a_full_disk_keeps_neither_row_nor_half_a_file(path, monkeypatch) -> None:
    def full(_: int) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(picture_files.os, "fsync", full)
    conn = connect(path)
    with pytest.raises(BadFile, match="No space left"):
        add_photo(conn, 1, "", "", "a", (b"new" * 40, b"n"))
    assert len(photos_of(conn, 1)) == 1
    conn.close()
    assert len(files(path)) == 2, "no half file stays"


def test_a_name_that_is_no_digest_reaches_no_other_file(path) -> None:
    conn = connect(path)
    conn.execute("UPDATE photo SET picture_file = '../../etc/passwd'")
    with pytest.raises(NotFound):
        picture(conn, 1, 1)
    conn.close()


def test_backup_says_it_has_no_database(tmp_path) -> None:
    with pytest.raises(BadFile):
        backup(tmp_path / "none.sqlite3", tmp_path / "x.sqlite3")
