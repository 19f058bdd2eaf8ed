"""Opening the database: migrations, backup before them, and the online copy."""

import re
import sqlite3
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from importlib.resources import files
from pathlib import Path

from squall.core.errors import BadFile, Busy, CantWrite, SquallError
from squall.store.folder.copies import backup, backup_name
from squall.store.folder.picture_files import FOLDER, lay_out
from squall.words import later

FILE_NAME = "squall.sqlite3"
# How long a change waits for others to finish writing, and how many changes may wait at once. [s], [-]
WAIT_S = 12.0
MOST_WAITING = 12
BUSY = later(
    "Others are writing to Squall's data just now. Nothing was changed and nothing typed is lost: try again in a moment."
)


def migrations() -> list[tuple[int, str]]:
    """Numbered SQL files of the schema, in order: (number, SQL)."""
    found = []
    for entry in (files("squall.store") / "migrations").iterdir():
        match = re.fullmatch(r"(\d{4})_\w+\.sql", entry.name)
        if match:
            found.append((int(match[1]), entry.read_text("utf8")))
    return sorted(found)


def connect(path: Path) -> sqlite3.Connection:
    """A connection as every part of the application wants it; the caller closes it."""
    conn = sqlite3.connect(path, timeout=WAIT_S, isolation_level=None, check_same_thread=False)
    conn.row_factory = sqlite3.Row
    conn.execute("PRAGMA foreign_keys = ON")
    conn.execute("PRAGMA synchronous = FULL")
    return conn


def version_of(conn: sqlite3.Connection) -> int:
    """Number of the last migration that the database has had."""
    return int(conn.execute("PRAGMA user_version").fetchone()[0])


def prepare(path: Path) -> None:
    """Bring the database at a path up to date, backing it up first if it needs a change.

    Parameters
    ----------
    path : Path
        The file; made, with its folder, if missing.

    Raises
    ------
    BadFile
        If it is no SQLite file, or comes from a newer Squall.
    """
    _for_the_owner(path)
    existed = path.stat().st_size > 0
    try:
        conn = connect(path)
        conn.execute("PRAGMA journal_mode = WAL")
    except sqlite3.DatabaseError as error:
        raise _no_database(path, error) from error
    try:
        wanted = migrations()
        have = version_of(conn)
        newest = wanted[-1][0]
        if have > newest:
            raise BadFile(
                later(
                    "{path} was written by a newer Squall (schema {have}, this one knows {newest}).",
                    path=path,
                    have=have,
                    newest=newest,
                )
            )
        todo = [(number, sql) for number, sql in wanted if number > have]
        if todo and existed and have > 0:
            backup(path, backup_name(path, f"before-{newest:04d}"))
        for number, sql in todo:
            conn.executescript(f"BEGIN;\n{sql}\nPRAGMA user_version = {number};\nCOMMIT;")
        if lay_out(conn, path.parent / FOLDER):
            conn.execute("VACUUM")
    except sqlite3.DatabaseError as error:
        raise _no_database(path, error) from error
    finally:
        conn.close()


def _no_database(path: Path, error: sqlite3.DatabaseError) -> SquallError:
    """What is wrong with a file that can't be opened: its disk, or what is in it."""
    told = cant_write(error) if isinstance(error, sqlite3.OperationalError) else error
    if isinstance(told, SquallError):
        return told
    return BadFile(later("{path} is not a Squall database: {error}.", path=path, error=error))


def _for_the_owner(path: Path) -> None:
    """The folder and the file of a database, made for its owner alone where they are not there yet.

    Raises
    ------
    BadFile
        If there can be none at that place.
    """
    try:
        if not path.parent.exists():
            path.parent.mkdir(parents=True, mode=0o700)
        path.touch(mode=0o600)
        if path.stat().st_mode & 0o077:
            path.chmod(0o600)
    except OSError as error:
        raise BadFile(later("{path} can't be written: {error}.", path=path, error=error.strerror or error)) from error


class _Writer:
    """One writer at a time for a database, and a short queue before it."""

    def __init__(self) -> None:
        self._turn = threading.Lock()
        self._count = threading.Lock()
        self._waiting = 0

    @contextmanager
    def turn(self, wait_s: float) -> Iterator[None]:
        """Wait for one's turn to write.

        Raises
        ------
        Busy
            If the queue is full, or one's turn doesn't come in time.
        """
        with self._count:
            if self._waiting >= MOST_WAITING:
                raise Busy(BUSY)
            self._waiting += 1
        try:
            got = self._turn.acquire(timeout=wait_s)
        finally:
            with self._count:
                self._waiting -= 1
        if not got:
            raise Busy(BUSY)
        try:
            yield
        finally:
            self._turn.release()


_writers: dict[str, _Writer] = {}
_writers_lock = threading.Lock()


def _writer_of(conn: sqlite3.Connection) -> _Writer:
    file = conn.execute("PRAGMA database_list").fetchone()[2] or f"memory {id(conn)}"
    with _writers_lock:
        return _writers.setdefault(file, _Writer())


@contextmanager
def transaction(conn: sqlite3.Connection) -> Iterator[sqlite3.Connection]:
    """All or nothing; takes the write lock at once.

    Writers of this process queue up here, so that at most one of them waits at the file for writers of other
    processes; readers wait for nobody.

    Raises
    ------
    Busy
        If the lock isn't to be had within :data:`WAIT_S`; nothing was changed.
    """
    with _writer_of(conn).turn(WAIT_S):
        try:
            conn.execute("BEGIN IMMEDIATE")
        except sqlite3.OperationalError as error:
            if error.sqlite_errorcode in (sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED):
                raise Busy(BUSY) from error
            raise cant_write(error) from error
        try:
            yield conn
            conn.execute("COMMIT")
        except BaseException as error:
            # On a full disk the database has gone back by itself.
            if conn.in_transaction:
                conn.execute("ROLLBACK")
            if isinstance(error, sqlite3.OperationalError):
                raise cant_write(error) from error
            raise


def cant_write(error: sqlite3.OperationalError) -> Exception:
    """What a fault of the disk means, in words; any other fault of the database is left as it is."""
    code = getattr(error, "sqlite_errorcode", 0) & 0xFF
    if code == sqlite3.SQLITE_FULL:
        return CantWrite(
            later("The disk that holds Squall's data is full. Nothing was changed; make room, then try again.")
        )
    if code == sqlite3.SQLITE_READONLY:
        return CantWrite(
            later("Squall's data may only be read just now. Nothing was changed; see who owns the data folder.")
        )
    if code in (sqlite3.SQLITE_IOERR, sqlite3.SQLITE_CANTOPEN):
        return CantWrite(
            later(
                "Squall's data folder can't be reached or written just now. Nothing was changed; look at its disk, then try again."
            )
        )
    return error
