"""Copies of the data: whole or not there; put back with what stood there kept; a number never used again; eight restores make one job."""

import socket
import sqlite3
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from datetime import date, timedelta
from pathlib import Path

import pytest

from squall.core.errors import BadFile, NotFound
from squall.demo import demo_jobs
from squall.store.folder import copies
from squall.store.folder.copies import backup, copies_of, daily, doctor, restore, said_to_serve, serving, wrong_with
from squall.store.folder.database import FILE_NAME, connect, migrations, prepare
from squall.store.jobs import add_job, all_jobs
from squall.store.removed import delete_job, restore_deleted

NEWEST = migrations()[-1][0]


@pytest.fixture
def path(tmp_path: Path) -> Path:
    at = tmp_path / FILE_NAME
    prepare(at)
    conn = connect(at)
    add_job(conn, demo_jobs()[0], "a")
    conn.close()
    return at


def names(path: Path) -> list[str]:
    conn = connect(path)
    try:
        return [stored.job.name for stored in all_jobs(conn)]
    finally:
        conn.close()


def damaged(path: Path) -> None:
    """Noise in the middle of a file."""
    raw = bytearray(path.read_bytes())
    raw[8192 : 8192 + 6000] = b"\xa5" * 6000
    path.write_bytes(bytes(raw))


def test_a_copy_is_one_whole_file_and_a_damaged_database_makes_none(path, tmp_path) -> None:
    target = backup(path, tmp_path / "away" / "copy.sqlite3")
    assert wrong_with(target) == []
    assert [file.name for file in target.parent.iterdir()] == ["copy.sqlite3"]
    with pytest.raises(BadFile, match="exists already"):
        backup(path, target)
    conn = connect(path)
    conn.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    conn.close()
    damaged(path)
    with pytest.raises(BadFile):
        backup(path, tmp_path / "away" / "second.sqlite3")
    assert [file.name for file in target.parent.iterdir()] == ["copy.sqlite3"], "no half copy stays"
    assert doctor(path, NEWEST)


def test_a_copy_that_cannot_be_written_says_so(path, tmp_path, monkeypatch) -> None:
    (tmp_path / "file").write_text("here")
    with pytest.raises(BadFile, match="can't be written"):
        backup(path, tmp_path / "file" / "copy.sqlite3")

    def full(_from: object, _to: object) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(copies.os, "replace", full)
    with pytest.raises(BadFile, match="No space left"):
        backup(path, tmp_path / "copy.sqlite3")
    assert not list(tmp_path.glob("copy*"))


def test_what_is_put_back_is_the_copy_and_what_stood_there_is_kept(path, tmp_path) -> None:
    copy = backup(path, tmp_path / "copy.sqlite3")
    conn = connect(path)
    add_job(conn, demo_jobs()[1], "a")
    conn.close()
    assert len(names(path)) == 2
    aside = restore(path, copy, NEWEST)
    assert names(path) == [demo_jobs()[0].name]
    assert len(names(aside)) == 2, "the log beside it went along"
    assert copy.exists()
    path.unlink()
    assert restore(path, copy, NEWEST) is None
    assert len(names(path)) == 1


def test_what_is_no_copy_is_refused_and_nothing_changes(path, tmp_path) -> None:
    before = path.read_bytes()
    garbage = tmp_path / "garbage.sqlite3"
    garbage.write_bytes(b"goats" * 4000)
    other = tmp_path / "other.sqlite3"
    conn = sqlite3.connect(other)
    conn.execute("CREATE TABLE recipe (id INTEGER)")
    conn.commit()
    conn.close()
    newer = backup(path, tmp_path / "newer.sqlite3")
    conn = sqlite3.connect(newer)
    conn.execute("PRAGMA user_version = 999")
    conn.close()
    empty = tmp_path / "empty.sqlite3"
    empty.touch()
    broken = backup(path, tmp_path / "broken.sqlite3")
    damaged(broken)
    for wrong in (garbage, other, newer, empty, broken, path, tmp_path / "none", tmp_path):
        with pytest.raises(BadFile):
            restore(path, wrong, NEWEST)
    assert path.read_bytes() == before


def test_nothing_is_put_back_under_a_running_server(path, tmp_path) -> None:
    copy = backup(path, tmp_path / "copy.sqlite3")
    with socket.socket() as listening:
        listening.bind(("127.0.0.1", 0))
        listening.listen()
        with said_to_serve(path, listening.getsockname()[1]):
            assert serving(path) is not None
            with pytest.raises(BadFile, match="stop it first"):
                restore(path, copy, NEWEST)
    assert serving(path) is None
    (path.parent / copies.SERVING).write_text('{"port": 1}')
    assert serving(path) is None, "an old note of a killed server stops nobody"
    restore(path, copy, NEWEST)


def test_a_day_has_one_copy_and_a_fortnight_of_them_stays(path) -> None:
    first = date(2026, 3, 1)
    for day in range(20):
        assert daily(path, first + timedelta(days=day)) is not None
        assert daily(path, first + timedelta(days=day)) is None
    mine = backup(path, path.parent / "backups" / "squall-by-hand.sqlite3")
    daily(path, first + timedelta(days=20))
    kept = [name for name, _, _ in copies_of(path) if "daily" in name]
    assert len(kept) == copies.KEPT_DAYS
    assert max(kept) == "squall-20260321-daily.sqlite3"
    assert mine.exists(), "what a hand made is nobody's to let go"


def test_a_number_is_never_used_again(path) -> None:
    conn = connect(path)
    second = add_job(conn, demo_jobs()[1], "a")
    delete_job(conn, second.id)
    assert add_job(conn, demo_jobs()[2], "a").id == second.id + 1
    delete_job(conn, second.id + 1)
    delete_job(conn, 1)
    assert add_job(conn, demo_jobs()[3], "a").id == second.id + 2, "not even when all are gone"
    conn.close()


def test_eight_restores_at_once_make_one_job(path) -> None:
    conn = connect(path)
    removed = 1
    delete_job(conn, removed)
    conn.close()

    def bring(_: int) -> int:
        own = connect(path)
        try:
            return restore_deleted(own, "a", removed).id
        except NotFound:
            return 0
        finally:
            own.close()

    with ThreadPoolExecutor(8) as pool:
        made = [number for number in pool.map(bring, range(8)) if number]
    assert len(made) == 1
    assert len(names(path)) == 1


def test_the_commands_speak_in_words(path, tmp_path) -> None:
    def squall(*words: str) -> subprocess.CompletedProcess[str]:
        return subprocess.run(
            [sys.executable, "-m", "squall.cli", *words, "--data", str(path.parent)],
            capture_output=True,
            text=True,
            timeout=120,
        )

    well = squall("doctor")
    assert well.returncode == 0
    assert "nothing is wrong" in well.stdout
    garbage = tmp_path / "garbage"
    garbage.write_bytes(b"x" * 5000)
    refused = squall("restore", str(garbage))
    assert refused.returncode == 2
    assert "can't be put back" in refused.stderr
    assert "Traceback" not in refused.stderr
    copy = backup(path, tmp_path / "copy.sqlite3")
    assert "put back" in squall("restore", str(copy)).stdout
    damaged(path)
    ill = squall("doctor")
    assert ill.returncode == 1
    assert FILE_NAME in ill.stdout
