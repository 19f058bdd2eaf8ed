"""Jobs and their revisions. Every change is one transaction that also appends a revision."""

import sqlite3
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime

from squall.catalogue import Catalogue
from squall.core.errors import NotFound, StaleEdit
from squall.core.reason import Spoken
from squall.job.document.fields import as_typed, edit, value_at
from squall.job.document.job import Job
from squall.store.database import transaction
from squall.words import later
from squall.words.keeping import kept, revived
from squall.words.units import System


@dataclass(frozen=True)
class Stored:
    """A job as it is kept: its number, the revision it is at, the document."""

    id: int
    revision: int
    changed_at: str
    job: Job


@dataclass(frozen=True)
class Revision:
    """One state that a job has had."""

    number: int
    parent: int | None
    at: str
    who: str
    what: Spoken


JOB_MADE = later("job made")
SELECT_ALL = "SELECT id, revision, changed_at, document FROM job ORDER BY id"
SELECT_ONE = "SELECT id, revision, changed_at, document FROM job WHERE id = :id"
INSERT_JOB = """
    INSERT INTO job (revision, created_at, changed_at, document)
    VALUES (1, :at, :at, :document)
"""
UPDATE_JOB = "UPDATE job SET revision = :revision, changed_at = :at, document = :document WHERE id = :id"
DELETE_JOB = "DELETE FROM job WHERE id = :id"
INSERT_REMOVED = "INSERT INTO removed_job (removed_at, document) VALUES (:at, :document)"
SELECT_REMOVED = "SELECT id, document FROM removed_job ORDER BY id DESC LIMIT 1"
DELETE_REMOVED = "DELETE FROM removed_job WHERE id = :id"
INSERT_REVISION = """
    INSERT INTO revision (job_id, number, parent, at, who, what, path, document)
    VALUES (:job_id, :number, :parent, :at, :who, :what, :path, :document)
"""
SELECT_REVISION = "SELECT number, parent, document, what FROM revision WHERE job_id = :job_id AND number = :number"
LAST_ON_PATH = """
    SELECT who FROM revision WHERE job_id = :job_id AND path = :path AND number > :after
    ORDER BY number DESC LIMIT 1
"""
LAST_NUMBER = "SELECT max(number) FROM revision WHERE job_id = :job_id"
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


def _now() -> str:
    return datetime.now(UTC).isoformat(timespec="seconds")


def _stored(row: sqlite3.Row) -> Stored:
    return Stored(row["id"], row["revision"], row["changed_at"], Job.model_validate_json(row["document"]))


def all_jobs(conn: sqlite3.Connection) -> list[Stored]:
    """All jobs, oldest first."""
    return [_stored(row) for row in conn.execute(SELECT_ALL)]


def one_job(conn: sqlite3.Connection, job_id: int) -> Stored:
    """One job.

    Raises
    ------
    NotFound
        If there is none of that number.
    """
    row = conn.execute(SELECT_ONE, {"id": job_id}).fetchone()
    if row is None:
        raise NotFound(later("There is no job {job_id}; it may have been deleted.", job_id=job_id))
    return _stored(row)


def add_job(conn: sqlite3.Connection, job: Job, who: str, what: Spoken = JOB_MADE) -> Stored:
    """Keep a new job."""
    with transaction(conn):
        at, document = _now(), job.model_dump_json()
        job_id = conn.execute(INSERT_JOB, {"at": at, "document": document}).lastrowid
        assert job_id is not None
        _append(conn, job_id, 1, None, at, who, what, None, document)
    return one_job(conn, job_id)


def _append(
    conn: sqlite3.Connection, job_id: int, number: int, parent: int | None, at: str, who: str, what: Spoken,
    path: str | None, document: str,
) -> None:  # fmt: skip
    conn.execute(
        INSERT_REVISION,
        {"job_id": job_id, "number": number, "parent": parent, "at": at, "who": who, "what": kept(what), "path": path,
         "document": document},
    )  # fmt: skip


def _advance(conn: sqlite3.Connection, stored: Stored, job: Job, who: str, what: Spoken, path: str | None) -> None:
    if job == stored.job:
        return
    at, document = _now(), job.model_dump_json()
    number = int(conn.execute(LAST_NUMBER, {"job_id": stored.id}).fetchone()[0]) + 1
    _append(conn, stored.id, number, stored.revision, at, who, what, path, document)
    conn.execute(UPDATE_JOB, {"id": stored.id, "revision": number, "at": at, "document": document})


def edit_field(
    conn: sqlite3.Connection,
    job_id: int,
    path: str,
    typed: str,
    on_revision: int,
    catalogue: Catalogue,
    who: str,
    system: System = "metric",
    check: Callable[[Job], object] | None = None,
    label: Spoken = "",
) -> Stored:
    """Type one field of a job anew.

    Parameters
    ----------
    conn : sqlite3.Connection
        Open, outside a transaction.
    job_id : int
        The job.
    path, typed : str
        The field and the text.
    on_revision : int
        The revision that the person saw.
    catalogue : Catalogue
        For choices.
    who : str
        For the history.
    system : str
        Units of a bare number.
    check : callable, optional
        Works the job out; an error of it refuses the edit.
    label : str or Told
        For the history.

    Returns
    -------
    Stored
        The job after it.

    Raises
    ------
    StaleEdit
        If someone else changed this very field since; nothing was changed.
    NotFound, BadQuantity, OutOfRange
        A sentence; nothing was changed.
    """
    with transaction(conn):
        stored = one_job(conn, job_id)
        changed = edit(stored.job, path, typed, catalogue, system)
        if on_revision != stored.revision:
            _refuse_stale(conn, stored, changed, path, typed, on_revision, who)
        if check is not None:
            check(changed)
        _advance(
            conn,
            stored,
            changed,
            who,
            later("{label} set to {strip}", label=label or path, strip=typed.strip()[:60] or later("nothing")),
            path,
        )
    return one_job(conn, job_id)


def _refuse_stale(
    conn: sqlite3.Connection, stored: Stored, changed: Job, path: str, typed: str, on_revision: int, who: str
) -> None:
    row = conn.execute(SELECT_REVISION, {"job_id": stored.id, "number": on_revision}).fetchone()
    theirs = value_at(stored.job, path)
    if row is None or value_at(changed, path) == theirs:
        return
    try:
        seen = value_at(Job.model_validate_json(row["document"]), path)
    except NotFound:
        seen = None
    mine = conn.execute(LAST_ON_PATH, {"job_id": stored.id, "path": path, "after": on_revision}).fetchone()
    if seen != theirs and not (mine is not None and mine["who"] == who):
        raise StaleEdit(path, typed, as_typed(theirs))


def change_job(
    conn: sqlite3.Connection,
    job_id: int,
    change: Callable[[Job], tuple[Job, Spoken]],
    who: str,
    check: Callable[[Job], object] | None = None,
) -> Stored:
    """Make a larger change, such as a kit adopted, on the job as it now stands.

    Parameters
    ----------
    conn : sqlite3.Connection
        Open, outside a transaction.
    job_id : int
        The job.
    change : callable
        Gives the changed job and words for the history.
    who : str
        For the history.
    check : callable, optional
        Works the job out; an error of it refuses the change.

    Returns
    -------
    Stored
        The job after it.
    """
    with transaction(conn):
        stored = one_job(conn, job_id)
        job, what = change(stored.job)
        if check is not None:
            check(job)
        _advance(conn, stored, job, who, what, None)
    return one_job(conn, job_id)


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
        _go_to(conn, job_id, row["parent"])
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
        _go_to(conn, job_id, number)
    return one_job(conn, job_id), revived(row["what"])


def _go_to(conn: sqlite3.Connection, job_id: int, number: int) -> None:
    row = conn.execute(SELECT_REVISION, {"job_id": job_id, "number": number}).fetchone()
    conn.execute(UPDATE_JOB, {"id": job_id, "revision": number, "at": _now(), "document": row["document"]})


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


def delete_job(conn: sqlite3.Connection, job_id: int) -> None:
    """Delete a job; :func:`restore_deleted` brings the last one back."""
    with transaction(conn):
        stored = one_job(conn, job_id)
        conn.execute(INSERT_REMOVED, {"at": _now(), "document": stored.job.model_dump_json()})
        conn.execute(DELETE_JOB, {"id": job_id})


def restore_deleted(conn: sqlite3.Connection, who: str) -> Stored:
    """Bring the last deleted job back, as a new job with the same content.

    Raises
    ------
    NotFound
        If none was deleted.
    """
    row = conn.execute(SELECT_REMOVED).fetchone()
    if row is None:
        raise NotFound(later("No job was deleted."))
    stored = add_job(conn, Job.model_validate_json(row["document"]), who, later("deleted job brought back"))
    with transaction(conn):
        conn.execute(DELETE_REMOVED, {"id": row["id"]})
    return stored


def last_deleted(conn: sqlite3.Connection) -> str | None:
    """Name of the job that :func:`restore_deleted` would bring back."""
    row = conn.execute(SELECT_REMOVED).fetchone()
    return None if row is None else Job.model_validate_json(row["document"]).name
