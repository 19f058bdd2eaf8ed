"""Copies of the database: made while it is in use, looked at before they are called copies, put back when they are needed.

A copy is written under another name, checked whole, and only then given its own; so a copy that exists is one that can be put back.
"""

import json
import os
import re
import socket
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager, suppress
from datetime import UTC, date, datetime
from pathlib import Path

from squall.core.errors import BadFile
from squall.store.folder.picture_files import FOLDER, carry_in, sweep, wrong_with_pictures
from squall.words import later

# Daily copies that are kept.
KEPT_DAYS = 14
# Said beside the database while a server runs on it.
SERVING = "serving.json"
_DAILY = re.compile(r"squall-(\d{8})-daily\.sqlite3")
# What every database of Squall has, whatever its age.
_TABLES = {"job", "revision"}


def backup_name(path: Path, why: str) -> Path:
    """Where a backup goes: the folder ``backups`` beside the database, named by time."""
    stamp = datetime.now(UTC).strftime("%Y%m%d-%H%M%S-%f")
    return path.parent / "backups" / f"squall-{stamp}-{why}.sqlite3"


def backup(path: Path, target: Path, pictures: Path | None = None) -> Path:
    """Copy a database that may be in use, by SQLite's online backup, and look at the copy before it gets its name.

    Parameters
    ----------
    path, target : Path
        From, to; an existing target is not overwritten.
    pictures : Path, optional
        Folder whose pictures go into the copy, for one that leaves the data folder; a copy beside the database names them.

    Returns
    -------
    Path
        The target.

    Raises
    ------
    BadFile
        If there is nothing to copy, the target exists, can't be written, or the copy isn't whole.
    """
    if not path.exists():
        raise BadFile(later("There is no database at {path}.", path=path))
    if target.exists():
        raise BadFile(later("{target} exists already; choose another name.", target=target))
    half = target.with_name(target.name + ".half")
    try:
        target.parent.mkdir(parents=True, exist_ok=True)
        with closing(sqlite3.connect(path)) as source, closing(sqlite3.connect(half)) as copy:
            source.backup(copy)
            # A copy is one file: what is opened anew brings its log back.
            copy.execute("PRAGMA journal_mode = DELETE")
            if pictures is not None:
                carry_in(copy, pictures)
        wrong = wrong_with(half)
        if wrong:
            raise BadFile(
                later("The copy of {path} isn't whole: {wrong}. Nothing was kept.", path=path, wrong=wrong[0])
            )
        os.replace(half, target)
    except OSError as error:
        raise BadFile(
            later("{target} can't be written: {why}.", target=target, why=error.strerror or str(error))
        ) from error
    except sqlite3.Error as error:
        raise BadFile(
            later("{path} can't be copied to {target}: {why}.", path=path, target=target, why=error)
        ) from error
    finally:
        for end in ("", "-journal", "-wal", "-shm") if half.parent.is_dir() else ():
            half.with_name(half.name + end).unlink(missing_ok=True)
    return target


def wrong_with(path: Path, *, quick: bool = False) -> list[str]:
    """What is wrong with a database file, in SQLite's words; empty where it is whole.

    Parameters
    ----------
    path : Path
        The file, which is only read.
    quick : bool
        Without looking whether every index holds its rows.
    """
    try:
        with closing(sqlite3.connect(f"{path.resolve().as_uri()}?mode=ro", uri=True)) as conn:
            check = "PRAGMA quick_check" if quick else "PRAGMA integrity_check"
            found = [str(row[0]) for row in conn.execute(check) if row[0] != "ok"]
            found += [f"{row[0]}: row {row[1]} points at nothing" for row in conn.execute("PRAGMA foreign_key_check")]
            tables = {row[0] for row in conn.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
            if tables and not tables >= _TABLES:
                found.append("it is another program's database")
            if not tables:
                found.append("it is empty")
            return found
    except sqlite3.Error as error:
        return [str(error)]


def check_restorable(path: Path, newest: int) -> None:
    """See that a file can be put back.

    Raises
    ------
    BadFile
        If it is missing, isn't whole, is no Squall's, or is of a newer Squall.
    """
    if not path.is_file():
        raise BadFile(later("There is no file at {path}.", path=path))
    wrong = wrong_with(path)
    if wrong:
        raise BadFile(later("{path} can't be put back: {wrong}.", path=path, wrong=wrong[0]))
    with closing(sqlite3.connect(f"{path.resolve().as_uri()}?mode=ro", uri=True)) as conn:
        version = int(conn.execute("PRAGMA user_version").fetchone()[0])
    if version > newest:
        raise BadFile(later("{path} was written by a newer Squall (schema {have}, this one knows {newest}).", path=path, have=version, newest=newest))  # fmt: skip


def restore(path: Path, copy: Path, newest: int) -> Path | None:
    """Put a copy in the place of the database; what stood there is kept aside.

    Parameters
    ----------
    path : Path
        The database.
    copy : Path
        The copy, which stays where it is.
    newest : int
        Schema that this Squall knows.

    Returns
    -------
    Path or None
        Where the database that stood there is now; None if none did.

    Raises
    ------
    BadFile
        If the copy can't be put back, a server runs on the database, or a file can't be written.
    """
    check_restorable(copy, newest)
    if copy.resolve() == path.resolve():
        raise BadFile(later("{path} is the database itself; name a copy of it.", path=path))
    if serving(path) is not None:
        raise BadFile(later("Squall runs on {path} just now: stop it first, then put the copy back.", path=path))
    aside = None
    try:
        if path.exists():
            aside = backup_name(path, "before-restore")
            aside.parent.mkdir(parents=True, exist_ok=True)
            _fold_in(path)
            os.replace(path, aside)
        for left in (path.with_name(path.name + "-wal"), path.with_name(path.name + "-shm")):
            left.unlink(missing_ok=True)
        backup(copy, path)
    except (OSError, sqlite3.Error) as error:
        raise BadFile(later("{path} can't be put back: {why}. What stood there is at {aside}.", path=path, why=error, aside=aside or path)) from error  # fmt: skip
    return aside


def _fold_in(path: Path) -> None:
    """What still stands in the write-ahead log goes into the file itself, as far as it can be read."""
    try:
        with closing(sqlite3.connect(path)) as conn:
            conn.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    except sqlite3.DatabaseError:
        return  # a damaged database is kept aside as it is


def daily(path: Path, today: date) -> Path | None:
    """Today's copy, if there is none yet; of older ones the last :data:`KEPT_DAYS` stay.

    Returns
    -------
    Path or None
        The new copy; None where today's was there.
    """
    folder = path.parent / "backups"
    target = folder / f"squall-{today:%Y%m%d}-daily.sqlite3"
    made = None if target.exists() else backup(path, target)
    for old in sorted(file for file in folder.iterdir() if _DAILY.fullmatch(file.name))[:-KEPT_DAYS]:
        old.unlink(missing_ok=True)
    if made is not None:
        sweep(path, folder.glob("*.sqlite3"))
    return made


def whole_copy(path: Path, target: Path) -> Path:
    """A copy that can leave the data folder: of the database, or of a copy beside it, with the pictures inside.

    Raises
    ------
    BadFile
        As :func:`backup`.
    """
    home = path.parent.parent if path.parent.name == "backups" else path.parent
    return backup(path, target, home / FOLDER)


def copies_of(path: Path) -> list[tuple[str, int, datetime]]:
    """Names, sizes and times of the copies beside a database, the newest first. [byte]"""
    folder = path.parent / "backups"
    if not folder.is_dir():
        return []
    found = [(file.name, file.stat()) for file in folder.iterdir() if file.suffix == ".sqlite3"]
    rows = [(name, stat.st_size, datetime.fromtimestamp(stat.st_mtime, UTC)) for name, stat in found]
    return sorted(rows, key=lambda row: row[2], reverse=True)


@contextmanager
def said_to_serve(path: Path, port: int) -> Iterator[None]:
    """While a server runs: a note beside the database that says so."""
    note = path.parent / SERVING
    # On a full disk there is no note; then only nobody is warned who puts a copy back meanwhile.
    with suppress(OSError):
        note.write_text(json.dumps({"port": port, "process": os.getpid()}), "utf8")
    try:
        yield
    finally:
        note.unlink(missing_ok=True)


def serving(path: Path) -> int | None:
    """The port at which a server answers on a database; None where none does, whatever an old note says."""
    note = path.parent / SERVING
    try:
        port = int(json.loads(note.read_text("utf8"))["port"])
        with socket.create_connection(("127.0.0.1", port), timeout=1.0):
            return port
    except (OSError, ValueError, KeyError, TypeError):
        return None


def doctor(path: Path, newest: int) -> list[str]:
    """What is wrong with a data folder, in words; empty where nothing is."""
    said: list[str] = []
    folder = path.parent
    if not folder.is_dir():
        return [str(later("There is no folder at {folder}.", folder=folder))]
    if not os.access(folder, os.W_OK):
        said.append(str(later("{folder} can't be written to: changes would be lost.", folder=folder)))
    if not path.exists():
        said.append(str(later("There is no database yet; Squall makes one when it is opened.")))
    else:
        said += [str(later("{path}: {wrong}.", path=path.name, wrong=wrong)) for wrong in wrong_with(path)]
        try:
            with closing(sqlite3.connect(f"{path.resolve().as_uri()}?mode=ro", uri=True)) as conn:
                version = int(conn.execute("PRAGMA user_version").fetchone()[0])
            if version > newest:
                said.append(str(later("{path} was written by a newer Squall (schema {have}, this one knows {newest}).", path=path.name, have=version, newest=newest)))  # fmt: skip
        except sqlite3.Error:
            pass  # said above
        said += wrong_with_pictures(path)
    said += [
        str(later("the copy {name} isn't whole: {wrong}.", name=name, wrong=wrong[0]))
        for name, _, _ in copies_of(path)[:KEPT_DAYS]
        if (wrong := wrong_with(folder / "backups" / name, quick=True))
    ]
    return said
