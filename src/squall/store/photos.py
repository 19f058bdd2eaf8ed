"""Photos and notes of a job: rows of their own, their pictures files beside the database."""

import sqlite3
from collections.abc import Iterator
from dataclasses import dataclass

from squall.core.errors import BadQuantity, NotFound
from squall.store.beside import RowChange, row_at
from squall.store.folder.database import transaction
from squall.store.folder.picture_files import folder_of, get, put
from squall.store.jobs import change_rows, now_text, one_job
from squall.words import later

MOST_OF_A_JOB = 300
SELECT_ALL = (
    "SELECT id, part, at, note, picture_file IS NOT NULL AS pictured FROM photo WHERE job_id = :job_id ORDER BY id DESC"
)
SELECT_WHOLE = "SELECT id, part, at, note, picture_file FROM photo WHERE job_id = :job_id ORDER BY id"
NEXT = "SELECT coalesce((SELECT seq FROM sqlite_sequence WHERE name = 'photo'), 0) + 1"
SELECT_PICTURE = "SELECT picture_file, small_file FROM photo WHERE job_id = :job_id AND id = :id"


@dataclass(frozen=True)
class PhotoRow:
    """A photo or a note as a list shows it; `part` is a part of the drawing, or empty for the job."""

    id: int
    part: str
    at: str
    note: str
    pictured: bool


def photos_of(conn: sqlite3.Connection, job_id: int) -> list[PhotoRow]:
    """A job's photos and notes, the newest first."""
    return [
        PhotoRow(row["id"], row["part"], row["at"], row["note"], bool(row["pictured"]))
        for row in conn.execute(SELECT_ALL, {"job_id": job_id})
    ]


def add_photo(
    conn: sqlite3.Connection, job_id: int, part: str, note: str, who: str, pictures: tuple[bytes, bytes] | None
) -> int:  # fmt: skip
    """Keep a photo, a note, or both.

    Raises
    ------
    NotFound
        If the job is gone.
    BadQuantity
        With neither, or if it has too many.
    BadFile
        If the pictures can't be written; nothing is kept then.
    """
    if pictures is None and not note.strip():
        raise BadQuantity(later("Take a photo or write a note: there is nothing to keep yet."))
    one_job(conn, job_id)
    folder = folder_of(conn)
    picture, small = (None, None) if pictures is None else (put(folder, pictures[0]), put(folder, pictures[1]))
    with transaction(conn):
        stored = one_job(conn, job_id)
        if len(photos_of(conn, job_id)) >= MOST_OF_A_JOB:
            raise BadQuantity(later("A job keeps {MOST_OF_A_JOB} photos and notes at most; take some out.", MOST_OF_A_JOB=MOST_OF_A_JOB))  # fmt: skip
        key = int(conn.execute(NEXT).fetchone()[0])
        row = {
            "part": part[:60],
            "at": now_text(),
            "who": who,
            "note": note.strip()[:2000],
            "picture": picture,
            "small": small,
        }
        words = later("note kept") if picture is None else later("photo kept")
        change_rows(conn, stored, who, words, [RowChange("photos", str(key), None, row)])
    return key


def picture(conn: sqlite3.Connection, job_id: int, photo_id: int, *, small: bool = False) -> bytes:
    """A photo's JPEG.

    Raises
    ------
    NotFound
        If there is none.
    """
    row = conn.execute(SELECT_PICTURE, {"job_id": job_id, "id": photo_id}).fetchone()
    if row is None or row["picture_file"] is None:
        raise NotFound(later("There is no such photo; it may have been taken out."))
    data = get(folder_of(conn), row["small_file"] if small else row["picture_file"])
    if data is None:
        raise NotFound(later("The photo's file is gone from the data folder; a copy of it may still have it."))
    return data


def pictures_of(conn: sqlite3.Connection, job_id: int) -> Iterator[tuple[sqlite3.Row, bytes | None]]:
    """A job's photos and notes, the oldest first, each with its picture if there is one."""
    folder = folder_of(conn)
    for row in conn.execute(SELECT_WHOLE, {"job_id": job_id}):
        yield row, None if row["picture_file"] is None else get(folder, row["picture_file"])


def remove_photo(conn: sqlite3.Connection, job_id: int, photo_id: int, who: str) -> None:
    """Take one out; undo brings it back. Its file goes when neither history nor a copy names it any more."""
    with transaction(conn):
        stored = one_job(conn, job_id)
        before = row_at(conn, job_id, "photos", str(photo_id))
        if before is not None:
            words = later("note taken out") if before["picture"] is None else later("photo taken out")
            change_rows(conn, stored, who, words, [RowChange("photos", str(photo_id), before, None)])
