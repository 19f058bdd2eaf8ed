"""What each test of a kit showed on the day it was handed over, and the set that was kept as its birth certificate."""

import json
import sqlite3
from dataclasses import dataclass
from typing import Any

from squall.core.errors import BadQuantity, NotFound
from squall.core.faults.suspicion import Evidence
from squall.store.folder.database import transaction
from squall.store.jobs import now_text, one_job
from squall.words import later

SELECT = """
    SELECT id, "check", value, answer, skipped, typed, at, who FROM proof WHERE job_id = :job_id AND option = :option ORDER BY id
"""
COUNT = "SELECT count(*) AS n FROM proof WHERE job_id = :job_id AND option = :option"
ADD = """
    INSERT INTO proof (job_id, option, "check", value, answer, skipped, typed, at, who)
    VALUES (:job_id, :option, :check, :value, :answer, :skipped, :typed, :at, :who)
"""
REMOVE = "DELETE FROM proof WHERE id = :id AND job_id = :job_id"
SELECT_BIRTH = """
    SELECT at, who, rows FROM birth WHERE job_id = :job_id AND option = :option ORDER BY id DESC LIMIT 1
"""
ADD_BIRTH = "INSERT INTO birth (job_id, option, at, who, rows) VALUES (:job_id, :option, :at, :who, :rows)"
MOST_TEXT, MOST_ROWS = 400, 2000


@dataclass(frozen=True)
class Shown:
    """What a test showed: its row, the evidence, why it wasn't done, as typed, when and by whom."""

    id: int
    evidence: Evidence
    skipped: str
    typed: str
    at: str
    who: str


@dataclass(frozen=True)
class Birth:
    """A birth certificate: when, by whom, and its rows as they were kept."""

    at: str
    who: str
    rows: list[dict[str, Any]]


def shown_of(conn: sqlite3.Connection, job_id: int, option: str) -> list[Shown]:
    """Everything that was shown by a kit of a job, the oldest first."""
    found = []
    for row in conn.execute(SELECT, {"job_id": job_id, "option": option}):
        value = None if row["value"] is None else json.loads(row["value"])
        piece = Evidence(row["check"], tuple(value) if isinstance(value, list) else value, row["answer"])
        found.append(Shown(row["id"], piece, row["skipped"] or "", row["typed"], row["at"], row["who"]))
    return found


def add_shown(
    conn: sqlite3.Connection, job_id: int, option: str, piece: Evidence, typed: str, skipped: str, who: str
) -> None:  # fmt: skip
    """Keep what a test showed, or why it wasn't done.

    Raises
    ------
    NotFound
        If the job is gone.
    BadQuantity
        If there are too many.
    """
    with transaction(conn):
        one_job(conn, job_id)
        if conn.execute(COUNT, {"job_id": job_id, "option": option}).fetchone()["n"] >= MOST_ROWS:
            raise BadQuantity(
                later("{most} readings of one kit's first day are the most; take some back.", most=MOST_ROWS)
            )
        conn.execute(ADD, {
            "job_id": job_id, "option": option, "check": piece.check, "value": None if piece.value is None else json.dumps(piece.value),
            "answer": piece.answer, "skipped": skipped[:MOST_TEXT] or None, "typed": typed[:MOST_TEXT], "at": now_text(), "who": who,
        })  # fmt: skip


def remove_shown(conn: sqlite3.Connection, job_id: int, row_id: int) -> None:
    """Take back what a test showed."""
    with transaction(conn):
        if conn.execute(REMOVE, {"id": row_id, "job_id": job_id}).rowcount != 1:
            raise NotFound(later("That reading is gone already; load the page anew."))


def birth_of(conn: sqlite3.Connection, job_id: int, option: str) -> Birth | None:
    """The last birth certificate of a kit of a job, if it has one."""
    row = conn.execute(SELECT_BIRTH, {"job_id": job_id, "option": option}).fetchone()
    return None if row is None else Birth(row["at"], row["who"], json.loads(row["rows"]))


def keep_birth(conn: sqlite3.Connection, job_id: int, option: str, rows: list[dict[str, Any]], who: str) -> None:
    """Keep a set of tests as the kit's birth certificate; an older one stays beneath it."""
    with transaction(conn):
        one_job(conn, job_id)
        conn.execute(
            ADD_BIRTH, {"job_id": job_id, "option": option, "at": now_text(), "who": who, "rows": json.dumps(rows)}
        )
