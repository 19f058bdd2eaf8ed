"""Jobs taken off the list, with all that is kept of them, and put back on it."""

import sqlite3

from squall.core.errors import NotFound
from squall.store.folder.database import transaction
from squall.store.jobs import Stored, mark, now_text, one_job
from squall.words import later

REMOVE = "UPDATE job SET removed_at = :at WHERE id = :id"
BRING_BACK = "UPDATE job SET removed_at = NULL WHERE id = :id"
SELECT_REMOVED = """
    SELECT id, json_extract(document, '$.name') AS name FROM job
    WHERE removed_at IS NOT NULL AND (:id IS NULL OR id = :id) ORDER BY removed_at DESC, changed_at DESC, id DESC LIMIT 1
"""


def delete_job(conn: sqlite3.Connection, job_id: int, who: str = "") -> str:
    """Delete a job; :func:`restore_deleted` brings it back by its number, whole. Returns its name.

    Raises
    ------
    NotFound
        If it is gone already.
    """
    with transaction(conn):
        stored = one_job(conn, job_id)
        mark(conn, stored, who, later("job deleted"))
        conn.execute(REMOVE, {"at": now_text(), "id": job_id})
    return stored.job.name


def restore_deleted(conn: sqlite3.Connection, who: str, job_id: int | None = None) -> Stored:
    """Bring a deleted job back under its number with its history, readings, weather, runs and photos; the last one if none is named.

    Raises
    ------
    NotFound
        If none was deleted, or that one is back already.
    """
    with transaction(conn):
        row = conn.execute(SELECT_REMOVED, {"id": job_id}).fetchone()
        if row is None:
            raise NotFound(later("No job was deleted.") if job_id is None else later("That job is back already."))
        conn.execute(BRING_BACK, {"id": row["id"]})
        mark(conn, one_job(conn, row["id"]), who, later("deleted job brought back"))
    return one_job(conn, row["id"])


def last_deleted(conn: sqlite3.Connection) -> str | None:
    """Name of the job that :func:`restore_deleted` would bring back."""
    row = conn.execute(SELECT_REMOVED, {"id": None}).fetchone()
    return None if row is None else str(row["name"])
