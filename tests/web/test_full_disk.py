"""A disk that is full: every page can still be read, every change says that it was not kept, and nothing is lost or half written."""

import sqlite3

import pytest

from squall.core.errors import BadFile, CantWrite
from squall.store.folder import database
from squall.store.folder.database import cant_write, prepare
from squall.web.frame import pages
from squall.web.passphrases import keep_passphrase

CHANGES = {
    "/jobs": {"name": "one more"}, "/jobs/1/copy": {}, "/jobs/2/delete": {}, "/jobs/1/keep/visit": {"note": "all well"},
    "/parts/save": {"family": "panels", "name": "Shed 90", "watts": "90 W", "voc_v": "22 V", "price": "40"},
    "/parts/van": {"part": "kite-50", "count": "3"}, "/jobs/1/keep/due": {"task": "screen"}, "/jobs/1/do/add-piece": {"stage": "survey"},
    "/jobs/1/fault/begin": {"story": "ran-and-stopped"}, "/parts/hide": {"part": "kite-50", "hidden": "yes"},
    "/jobs/1/photos": {"note": "by the gate", "stage": "survey"}, "/jobs/1/readings": {"open-volts": "20 V"},
}  # fmt: skip
PAGES = (
    "/",
    "/parts",
    "/data",
    "/round",
    "/jobs/1/survey",
    "/jobs/1/kits",
    "/jobs/1/keep",
    "/jobs/1/prove",
    "/jobs/1/export.json",
)


class Full(sqlite3.Connection):
    """A connection to data on a disk without room: what is to be kept goes back by itself, as SQLite has it."""

    def execute(self, sql: str, *given):
        if sql == "COMMIT":
            super().execute("ROLLBACK")
            error = sqlite3.OperationalError("database or disk is full")
            error.sqlite_errorcode = sqlite3.SQLITE_FULL
            raise error
        return super().execute(sql, *given)


@pytest.fixture
def full(client, monkeypatch):
    """The client's data on a disk that has no room."""

    def cramped(path):
        conn = sqlite3.connect(path, isolation_level=None, check_same_thread=False, factory=Full)
        conn.row_factory = sqlite3.Row
        return conn

    monkeypatch.setattr(pages, "connect", cramped)
    return client


@pytest.mark.parametrize("address", CHANGES)
def test_a_change_says_that_it_was_not_kept(full, address: str) -> None:
    before = full.get("/jobs/1/export.json").text
    answer = full.change(address, CHANGES[address], htmx=False)
    assert answer.status_code == 507
    assert "disk that holds Squall" in answer.text.replace("&#39;", "'")
    assert full.get("/jobs/1/export.json").text == before
    # Every page once, after one of the changes.
    for page in PAGES[sorted(CHANGES).index(address) :: len(CHANGES)]:
        assert full.get(page).status_code == 200, page


def test_a_field_keeps_its_words_and_is_kept_when_there_is_room(full, monkeypatch) -> None:
    answer = full.type("notes", "as it stands")
    assert answer.status_code == 507
    assert "as it stands" in answer.text, "what was typed stands in the field"
    monkeypatch.undo()
    assert full.type("notes", "as it stands").status_code == 200


@pytest.mark.parametrize(
    ("code", "words"), [(sqlite3.SQLITE_FULL, "is full"), (sqlite3.SQLITE_READONLY, "only be read"), (sqlite3.SQLITE_IOERR, "can't be reached")]
)  # fmt: skip
def test_each_fault_of_a_disk_has_its_words(code: int, words: str) -> None:
    error = sqlite3.OperationalError("x")
    error.sqlite_errorcode = code
    told = cant_write(error)
    assert isinstance(told, CantWrite)
    assert words in str(told)
    other = sqlite3.OperationalError("no such table")
    other.sqlite_errorcode = sqlite3.SQLITE_ERROR
    assert cant_write(other) is other


def test_a_start_on_a_full_disk_and_a_passphrase_say_so(tmp_path, monkeypatch) -> None:
    def full(*_: object) -> None:
        error = sqlite3.OperationalError("database or disk is full")
        error.sqlite_errorcode = sqlite3.SQLITE_FULL
        raise error

    monkeypatch.setattr(database, "connect", full)
    with pytest.raises(CantWrite, match="is full"):
        prepare(tmp_path / "squall.sqlite3")
    (tmp_path / "file").write_text("no folder")
    with pytest.raises(BadFile, match="can't be written"):
        keep_passphrase(tmp_path / "file" / "passphrase.json", "under the third cairn")
