"""Files of a kit's logger: whole as they came, with what was said of their columns and what they tell."""

import gzip
import sqlite3
from dataclasses import dataclass
from datetime import date

from squall.core.errors import BadQuantity, NotFound
from squall.job.kept.record import LoggedHours
from squall.store.folder.database import transaction
from squall.store.jobs import now_text, one_job
from squall.words import later

SELECT = """
    SELECT id, name, at, who, length(raw) AS size, mapped, told FROM logger
    WHERE job_id = :job_id AND option = :option ORDER BY id DESC
"""
ADD = """
    INSERT INTO logger (job_id, option, name, at, who, raw, mapped, told)
    VALUES (:job_id, :option, :name, :at, :who, :raw, :mapped, :told)
"""
READ = "UPDATE logger SET mapped = :mapped, told = :told WHERE id = :id AND job_id = :job_id"
RAW = "SELECT name, raw FROM logger WHERE id = :id AND job_id = :job_id"
REMOVE = "DELETE FROM logger WHERE id = :id AND job_id = :job_id"
KNOWN = "SELECT mapped FROM logger WHERE mapped IS NOT NULL ORDER BY id DESC LIMIT 200"
COUNT = "SELECT count(*) AS n FROM logger WHERE job_id = :job_id"
COUNTED = """
    SELECT json_extract(told, '$.first') AS first, json_extract(told, '$.last') AS last, json_extract(told, '$.hours') AS hours,
        json_extract(told, '$.covered_h') AS covered_h
    FROM logger WHERE job_id = :job_id AND option = :option AND told IS NOT NULL AND json_extract(told, '$.hours') IS NOT NULL
"""
MOST_FILES = 100
GONE = later("That file is not in this job any more; load the page anew.")


@dataclass(frozen=True)
class LoggerFile:
    """A file as it is kept: its row, name, when and by whom, its size as kept [bytes], its columns and what it tells as JSON."""

    id: int
    name: str
    at: str
    who: str
    size: int
    mapped: str | None
    told: str | None


@dataclass(frozen=True)
class Came:
    """A file as it came: its name, its bytes, its columns and what it tells as JSON where they are known already."""

    name: str
    data: bytes
    mapped: str | None = None
    told: str | None = None


def files_of(conn: sqlite3.Connection, job_id: int, option: str) -> list[LoggerFile]:
    """The files of a kit, the newest first."""
    return [LoggerFile(*row) for row in conn.execute(SELECT, {"job_id": job_id, "option": option})]


def add_file(conn: sqlite3.Connection, job_id: int, option: str, came: Came, who: str) -> None:
    """Keep a file, whole.

    Raises
    ------
    NotFound
        If the job is gone.
    BadQuantity
        If there are too many.
    """
    raw = gzip.compress(came.data, 4)
    with transaction(conn):
        one_job(conn, job_id)
        if conn.execute(COUNT, {"job_id": job_id}).fetchone()["n"] >= MOST_FILES:
            raise BadQuantity(
                later("{most} files of a logger are the most for one job; take some out.", most=MOST_FILES)
            )
        conn.execute(ADD, {
            "job_id": job_id, "option": option, "name": came.name[:80], "at": now_text(), "who": who, "raw": raw,
            "mapped": came.mapped, "told": came.told,
        })  # fmt: skip


def set_told(conn: sqlite3.Connection, job_id: int, file_id: int, mapped: str, told: str) -> None:
    """It is known what a file's columns are, and what it tells."""
    with transaction(conn):
        if conn.execute(READ, {"id": file_id, "job_id": job_id, "mapped": mapped, "told": told}).rowcount != 1:
            raise NotFound(GONE)


def raw_of(conn: sqlite3.Connection, job_id: int, file_id: int) -> tuple[str, bytes]:
    """A file's name, and its bytes as they came.

    Raises
    ------
    NotFound
        If it is gone.
    """
    row = conn.execute(RAW, {"id": file_id, "job_id": job_id}).fetchone()
    if row is None:
        raise NotFound(GONE)
    return row["name"], gzip.decompress(row["raw"])


def remove_file(conn: sqlite3.Connection, job_id: int, file_id: int) -> None:
    """Take a file out."""
    with transaction(conn):
        if conn.execute(REMOVE, {"id": file_id, "job_id": job_id}).rowcount != 1:
            raise NotFound(GONE)


def known_mappings(conn: sqlite3.Connection) -> list[str]:
    """What was said of the columns of other files, the newest first."""
    return [row["mapped"] for row in conn.execute(KNOWN)]


def hours_logged(conn: sqlite3.Connection, job_id: int, option: str) -> tuple[LoggedHours, ...]:
    """What each file of a kit counted; of those whose columns nobody has said, nothing."""
    rows = conn.execute(COUNTED, {"job_id": job_id, "option": option})
    return tuple(
        LoggedHours(date.fromisoformat(row["first"]), date.fromisoformat(row["last"]), row["hours"], row["covered_h"])
        for row in rows
    )
