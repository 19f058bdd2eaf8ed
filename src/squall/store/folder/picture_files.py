"""The pictures of photos: files beside the database, each named by the SHA-256 of its bytes, written once and never changed.

A file is there before the row that names it, so that no row ever names nothing; what no row and no copy names any more is
swept away later. A copy that leaves the folder carries the pictures inside, and lays them out again where it is opened.
"""

import hashlib
import os
import re
import sqlite3
import threading
import time
from collections.abc import Iterable, Iterator
from contextlib import closing
from pathlib import Path

from squall.core.errors import BadFile
from squall.words import later

FOLDER = "photos"
# A file that nothing names is left alone so long: its row may be on its way. [s]
YOUNG_S = 86_400.0
_NAME = re.compile(r"[0-9a-f]{64}")
_COLUMNS = (("picture", "picture_file"), ("small", "small_file"))


def folder_of(conn: sqlite3.Connection) -> Path:
    """Where the pictures of a database lie."""
    return Path(conn.execute("PRAGMA database_list").fetchone()[2]).parent / FOLDER


def _at(folder: Path, name: str) -> Path:
    return folder / name[:2] / f"{name}.jpg"


def put(folder: Path, data: bytes) -> str:
    """Keep a picture; it is on the disk, whole, when this returns.

    Parameters
    ----------
    folder : Path
        Where pictures lie; made if missing.
    data : bytes
        The picture.

    Returns
    -------
    str
        Its name: the digest, 64 hexadecimal digits.

    Raises
    ------
    BadFile
        If it can't be written.
    """
    name = hashlib.sha256(data).hexdigest()
    target = _at(folder, name)
    half = target.with_name(f"{name}.{os.getpid()}-{threading.get_ident()}.half")
    try:
        for wanted in (folder, target.parent):
            wanted.mkdir(parents=True, exist_ok=True, mode=0o700)
        if target.exists() and target.stat().st_size == len(data):
            os.utime(target)
            return name
        try:
            with open(os.open(half, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as out:
                out.write(data)
                out.flush()
                os.fsync(out.fileno())
            os.replace(half, target)
        finally:
            half.unlink(missing_ok=True)
    except OSError as error:
        raise BadFile(
            later("The photo can't be written to {folder}: {why}.", folder=folder, why=error.strerror or str(error))
        ) from error
    return name


def get(folder: Path, name: str) -> bytes | None:
    """A picture by its name; None where its file is gone."""
    if not _NAME.fullmatch(name):
        return None
    try:
        return _at(folder, name).read_bytes()
    except FileNotFoundError:
        return None


def names_in(conn: sqlite3.Connection) -> set[str]:
    """The pictures that a database names, also of photos that undo would bring back; none where it is older than such files."""
    have = {row[1] for row in conn.execute("PRAGMA table_info(photo)")}
    named = {
        row[0]
        for _, column in _COLUMNS
        if column in have
        for row in conn.execute(f"SELECT {column} FROM photo WHERE {column} IS NOT NULL")
    }
    if named or "picture_file" in have:
        for row in conn.execute("""SELECT change FROM revision WHERE change LIKE '%"photos"%'"""):
            named |= set(_NAME.findall(row[0]))
    return named


def lay_out(conn: sqlite3.Connection, folder: Path) -> int:
    """Pictures that a database carries inside become files beside it; how many did. [-]"""
    moved = 0
    for data_column, name_column in _COLUMNS:  # as a database of before has them
        waiting = [row[0] for row in conn.execute(f"SELECT id FROM photo WHERE {data_column} IS NOT NULL")]
        for row_id in waiting:
            data = conn.execute(f"SELECT {data_column} FROM photo WHERE id = ?", (row_id,)).fetchone()[0]
            change = f"UPDATE photo SET {name_column} = ?, {data_column} = NULL WHERE id = ?"
            conn.execute(change, (put(folder, bytes(data)), row_id))
            moved += 1
    for (name,) in conn.execute("SELECT name FROM carried").fetchall():
        put(folder, bytes(conn.execute("SELECT data FROM carried WHERE name = ?", (name,)).fetchone()[0]))
        conn.execute("DELETE FROM carried WHERE name = ?", (name,))
        moved += 1
    return moved


def carry_in(conn: sqlite3.Connection, folder: Path) -> None:
    """The pictures that a copy names go into the copy itself; one whose file is gone stays named and missing."""
    named = names_in(conn)
    if not named:
        return
    conn.execute("CREATE TABLE IF NOT EXISTS carried (name TEXT PRIMARY KEY, data BLOB NOT NULL) STRICT")
    for name in sorted(named):
        data = get(folder, name)
        if data is not None:
            conn.execute("INSERT OR REPLACE INTO carried (name, data) VALUES (?, ?)", (name, data))
    conn.commit()


def wrong_with_pictures(path: Path) -> list[str]:
    """Pictures of a database that are gone or no longer what they were, in words."""
    try:
        with closing(sqlite3.connect(f"{path.resolve().as_uri()}?mode=ro", uri=True)) as conn:
            names = names_in(conn)
    except sqlite3.Error:
        return []  # what ails the database itself is said elsewhere
    said = []
    for name in sorted(names):
        data = get(path.parent / FOLDER, name)
        if data is None:
            said.append(str(later("the photo {name} is gone from {folder}.", name=name[:12], folder=FOLDER)))
        elif hashlib.sha256(data).hexdigest() != name:
            said.append(str(later("the photo {name} in {folder} is damaged.", name=name[:12], folder=FOLDER)))
    return said


def _files(folder: Path) -> Iterator[Path]:
    return folder.glob("??/*") if folder.is_dir() else iter(())


def size_of(folder: Path) -> tuple[int, int]:
    """How many pictures lie there, and how large they are together. [-], [byte]"""
    sizes = [file.stat().st_size for file in _files(folder)]
    return len(sizes), sum(sizes)


def sweep(path: Path, copies: Iterable[Path]) -> int:
    """Take away what neither the database nor a copy beside it names, unless it is young; how many went. [-]

    A copy that can't be read may name anything: then nothing goes.
    """
    named: set[str] = set()
    try:
        for file in (path, *copies):
            with closing(sqlite3.connect(f"{file.resolve().as_uri()}?mode=ro", uri=True)) as conn:
                named |= names_in(conn)
    except sqlite3.Error:
        return 0
    before, gone = time.time() - YOUNG_S, 0
    for file in _files(path.parent / FOLDER):
        if file.stem not in named and file.stat().st_mtime < before:
            file.unlink(missing_ok=True)
            gone += 1
    return gone
