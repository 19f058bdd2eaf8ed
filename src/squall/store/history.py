"""What a job was: back and forward again, what was done when, and how old history thins."""

import json
import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any

from squall.core.errors import NotFound
from squall.core.reason import Spoken
from squall.job.document.job import Job, Visit
from squall.store.database import transaction
from squall.store.deltas import backward
from squall.store.jobs import SELECT_REVISION, UPDATE_JOB, Stored, document_at, now_text, one_job, put_visits
from squall.words import later
from squall.words.keeping import revived


@dataclass(frozen=True)
class Revision:
    """One state that a job has had."""

    number: int
    parent: int | None
    at: str
    who: str
    what: Spoken


KEEP_DAYS = 90
CHILD = "SELECT max(number) FROM revision WHERE job_id = :job_id AND parent = :parent"
HISTORY = """
    WITH RECURSIVE back (number, parent, at, who, what) AS (
        SELECT number, parent, at, who, what FROM revision WHERE job_id = :job_id AND number = :number
        UNION ALL
        SELECT r.number, r.parent, r.at, r.who, r.what
        FROM revision AS r JOIN back ON r.job_id = :job_id AND r.number = back.parent
    )
    SELECT number, parent, at, who, what FROM back LIMIT :most
"""


OLD_JOBS = "SELECT DISTINCT job_id FROM revision WHERE at < :before"
ALL_NUMBERS = "SELECT number, parent, at, document IS NULL AS lean, change FROM revision WHERE job_id = :job_id"
DELETE_REVISION = "DELETE FROM revision WHERE job_id = :job_id AND number = :number"
MAKE_WHOLE = """
    UPDATE revision SET parent = :parent, document = :document, change = :change
    WHERE job_id = :job_id AND number = :number
"""


# What a job leaves behind besides its document, as tables for whoever keeps it next.
TABLES = {
    "upkeep": """
        SELECT option AS kit, task, at, put_off, reason, who FROM upkeep WHERE job_id = :job_id ORDER BY id
    """,
    "first-day": """
        SELECT option AS kit, "check", value, answer, skipped, typed, at, who FROM proof WHERE job_id = :job_id ORDER BY id
    """,
    "birth": "SELECT option AS kit, at, who, rows FROM birth WHERE job_id = :job_id ORDER BY id",
    "searches": """
        SELECT s.id AS search, s.option AS kit, s.begun_at, s.story, s.ended_at, s.found, s.note, f."check", f.value, f.answer, f.typed, f.at
        FROM fault_search AS s LEFT JOIN fault_seen AS f ON f.search_id = s.id WHERE s.job_id = :job_id ORDER BY s.id, f.id
    """,
    "ticks": "SELECT option AS kit, step, at, who, note FROM fit_tick WHERE job_id = :job_id ORDER BY at",
}


def tables_of(conn: sqlite3.Connection, job_id: int) -> dict[str, list[list[Any]]]:
    """Each of :data:`TABLES` of a job, its heads first; only those in which something stands."""
    found = {}
    for name, sql in TABLES.items():
        rows = conn.execute(sql, {"job_id": job_id})
        heads = [column[0] for column in rows.description]
        kept = [list(row) for row in rows]
        if kept:
            found[name] = [heads, *kept]
    return found


def undo(conn: sqlite3.Connection, job_id: int) -> tuple[Stored, Spoken]:
    """Go back one revision; it survives a restart, and :func:`redo` goes forward again.

    Returns
    -------
    tuple[Stored, Spoken]
        The job, and what was undone.

    Raises
    ------
    NotFound
        If there is nothing to undo.
    """
    with transaction(conn):
        stored = one_job(conn, job_id)
        row = conn.execute(SELECT_REVISION, {"job_id": job_id, "number": stored.revision}).fetchone()
        if row["parent"] is None:
            raise NotFound(later("There is nothing to undo: this is how the job began."))
        change = json.loads(row["change"] or '{"document": [], "visits": []}')
        if row["document"] is None:
            document = backward(json.loads(stored.job.model_dump_json()), change["document"])
        else:
            document = document_at(conn, job_id, row["parent"])
        _go_to(conn, job_id, row["parent"], document, [(key, before) for key, before, _ in change["visits"]])
    return one_job(conn, job_id), revived(row["what"])


def redo(conn: sqlite3.Connection, job_id: int) -> tuple[Stored, Spoken]:
    """Go forward again to the newest change that was undone.

    Raises
    ------
    NotFound
        If nothing was undone.
    """
    with transaction(conn):
        stored = one_job(conn, job_id)
        number = conn.execute(CHILD, {"job_id": job_id, "parent": stored.revision}).fetchone()[0]
        if number is None:
            raise NotFound(later("There is nothing to do again."))
        row = conn.execute(SELECT_REVISION, {"job_id": job_id, "number": number}).fetchone()
        change = json.loads(row["change"] or '{"document": [], "visits": []}')
        _go_to(
            conn,
            job_id,
            number,
            document_at(conn, job_id, number),
            [(key, after) for key, _, after in change["visits"]],
        )
    return one_job(conn, job_id), revived(row["what"])


def _go_to(
    conn: sqlite3.Connection, job_id: int, number: int, document: dict[str, Any], visits: list[tuple[str, Any]]
) -> None:
    put_visits(conn, job_id, [(key, None if v is None else Visit.model_validate(v)) for key, v in visits])
    text = Job.model_validate(document).model_dump_json()
    conn.execute(UPDATE_JOB, {"id": job_id, "revision": number, "at": now_text(), "document": text})


def can_undo_redo(conn: sqlite3.Connection, stored: Stored) -> tuple[Spoken | None, Spoken | None]:
    """Words of the change that undo would take back, and that redo would make again; None if none."""
    here = conn.execute(SELECT_REVISION, {"job_id": stored.id, "number": stored.revision}).fetchone()
    child = conn.execute(CHILD, {"job_id": stored.id, "parent": stored.revision}).fetchone()[0]
    ahead = None
    if child is not None:
        ahead = revived(conn.execute(SELECT_REVISION, {"job_id": stored.id, "number": child}).fetchone()["what"])
    return (revived(here["what"]) if here["parent"] is not None else None), ahead


def history(conn: sqlite3.Connection, stored: Stored, most: int = 50) -> list[Revision]:
    """The states behind a job, newest first."""
    rows = conn.execute(HISTORY, {"job_id": stored.id, "number": stored.revision, "most": most})
    return [Revision(r["number"], r["parent"], r["at"], r["who"], revived(r["what"])) for r in rows]


def thin(conn: sqlite3.Connection, now: datetime | None = None) -> int:
    """Thin history older than 90 days: of each day the last state stays, whole; undone branches go.

    Parameters
    ----------
    conn : sqlite3.Connection
        Open, outside a transaction.
    now : datetime, optional
        Taken as the present.

    Returns
    -------
    int
        How many revisions were let go.
    """
    before = ((now or datetime.now(UTC)) - timedelta(days=KEEP_DAYS)).isoformat(timespec="seconds")
    gone = 0
    for (job_id,) in conn.execute(OLD_JOBS, {"before": before}).fetchall():
        with transaction(conn):
            gone += _thin_job(conn, job_id, before)
    return gone


def _thin_job(conn: sqlite3.Connection, job_id: int, before: str) -> int:
    rows = {row["number"]: row for row in conn.execute(ALL_NUMBERS, {"job_id": job_id})}
    line = _line_of(rows, one_job(conn, job_id).revision)
    stays = _days_ends([rows[number] for number in line], before)
    if all(number in stays for number in line) and not any(
        row["at"] < before for number, row in rows.items() if number not in line
    ):
        return 0
    previous, moved = None, []
    visits: list[Any] = []
    for number in line:
        visits += json.loads(rows[number]["change"] or '{"visits": []}')["visits"]
        if number not in stays:
            continue
        if rows[number]["at"] < before:
            moved.append(
                {"job_id": job_id, "number": number, "parent": previous,
                 "document": json.dumps(document_at(conn, job_id, number), ensure_ascii=False),
                 "change": json.dumps({"document": [], "visits": visits}, ensure_ascii=False)}
            )  # fmt: skip
        previous, visits = number, []
    for row in moved:
        conn.execute(MAKE_WHOLE, row)
    going = [number for number in rows if number not in line or number not in stays]
    for number in going:
        conn.execute(DELETE_REVISION, {"job_id": job_id, "number": number})
    return len(going)


def _line_of(rows: dict[int, sqlite3.Row], number: int) -> list[int]:
    """The revisions that lead to one, oldest first."""
    line: list[int] = []
    at: int | None = number
    while at is not None and at in rows:
        line.append(at)
        at = rows[at]["parent"]
    return line[::-1]


def _days_ends(line: Sequence[sqlite3.Row], before: str) -> set[int]:
    """Of a line of revisions, those that stay: all since a moment, and of each day before it the last."""
    last_of_day = {row["at"][:10]: row["number"] for row in line if row["at"] < before}
    return set(last_of_day.values()) | {row["number"] for row in line if row["at"] >= before}
