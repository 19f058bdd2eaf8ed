"""Jobs and their revisions. Every change is one transaction that also appends a revision: what changed, and who, when.

Visits, photos and the weather file are rows of their own (``store.beside``): they are no part of the document that a page
works with, and a revision tells of one only by that one. History is kept whole for 90 days; of what is older one state a
day stays (``store.history.thin``).
"""

import json
import sqlite3
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from functools import lru_cache
from typing import Any

from squall.catalogue import Catalogue, catalogue
from squall.core.errors import Deleted, NotFound, StaleEdit
from squall.core.reason import Spoken
from squall.job.document.fields import edit
from squall.job.document.job import Job
from squall.job.document.parts import copies_of
from squall.job.document.paths import as_typed, value_at
from squall.store.beside import RowChange, as_kept, put_rows, visit_change, visits_of
from squall.store.deltas import changes_between, forward
from squall.store.folder.database import transaction
from squall.words import later
from squall.words.keeping import kept
from squall.words.units import System


@dataclass(frozen=True)
class Stored:
    """A job as it is kept: its number, the revision it is at, the document less its visits, and how many those are."""

    id: int
    revision: int
    changed_at: str
    job: Job
    visits: int = 0


JOB_MADE = later("job made")
# Every so many revisions the whole document is kept, so that a state far back is near a whole one.
WHOLE_EVERY = 40
# What a line of history takes back that changes nothing: no revision has this number.
NOTHING = 0
SELECT_ALL = """
    SELECT id, revision, changed_at, document, (SELECT count(*) FROM visit WHERE job_id = job.id) AS visits
    FROM job WHERE removed_at IS NULL ORDER BY id
"""
SELECT_SOME = """
    SELECT id, revision, changed_at, document, (SELECT count(*) FROM visit WHERE job_id = job.id) AS visits
    FROM job WHERE removed_at IS NULL AND id IN (SELECT value FROM json_each(:ids))
"""
SELECT_ONE = """
    SELECT id, revision, changed_at, document, (SELECT count(*) FROM visit WHERE job_id = job.id) AS visits
    FROM job WHERE id = :id AND removed_at IS NULL
"""
SELECT_GONE = "SELECT json_extract(document, '$.name') AS name FROM job WHERE id = :id"
INSERT_JOB = """
    INSERT INTO job (id, revision, created_at, changed_at, document)
    VALUES ((SELECT highest + 1 FROM counted WHERE what = 'job'), 1, :at, :at, :document)
"""
UPDATE_JOB = "UPDATE job SET revision = :revision, changed_at = :at, document = :document WHERE id = :id"
INSERT_REVISION = """
    INSERT INTO revision (job_id, number, parent, at, who, what, path, document, change, undoes, redoes)
    VALUES (:job_id, :number, :parent, :at, :who, :what, :path, :document, :change, :undoes, :redoes)
"""
SELECT_REVISION = """
    SELECT number, parent, at, who, what, document, change FROM revision WHERE job_id = :job_id AND number = :number
"""
LAST_ON_PATH = """
    SELECT who FROM revision WHERE job_id = :job_id AND path = :path AND number > :after
    ORDER BY number DESC LIMIT 1
"""
LAST_NUMBER = "SELECT max(number) FROM revision WHERE job_id = :job_id"


def now_text() -> str:
    return datetime.now(UTC).isoformat(timespec="seconds")


def person_of(who: str) -> str:
    """The name of whoever did something, where they have one; else empty: a tab is nobody's name."""
    name, comma, _ = who.rpartition(", ")
    return name if comma else ""


@lru_cache(maxsize=128)
def _job_of(document: str) -> Job:
    """A document as it is worked with; it never changes, so the same text is read once."""
    return Job.model_validate_json(document)


def _stored(row: sqlite3.Row) -> Stored:
    job = _job_of(row["document"])
    return Stored(row["id"], row["revision"], row["changed_at"], job, row["visits"])


def all_jobs(conn: sqlite3.Connection) -> list[Stored]:
    """All jobs, oldest first."""
    return [_stored(row) for row in conn.execute(SELECT_ALL)]


def jobs_of(conn: sqlite3.Connection, ids: Sequence[int]) -> list[Stored]:
    """Some jobs, in the order of their numbers as given; one that is gone is left out."""
    found = {row["id"]: row for row in conn.execute(SELECT_SOME, {"ids": json.dumps(list(ids))})}
    return [_stored(found[job_id]) for job_id in ids if job_id in found]


def one_job(conn: sqlite3.Connection, job_id: int) -> Stored:
    """One job.

    Raises
    ------
    NotFound
        If there is none of that number; as :class:`Deleted` if it was taken off the list.
    """
    row = conn.execute(SELECT_ONE, {"id": job_id}).fetchone()
    if row is not None:
        return _stored(row)
    gone = conn.execute(SELECT_GONE, {"id": job_id}).fetchone()
    if gone is None:
        raise NotFound(later("There is no job {job_id}.", job_id=job_id))
    raise Deleted(later("“{name}”, job {job_id}, was deleted.", name=gone["name"], job_id=job_id), job_id)


def whole(conn: sqlite3.Connection, stored: Stored) -> Job:
    """A job with its visits, as it is exported."""
    return stored.job.model_copy(update={"visits": visits_of(conn, stored.id)})


def lean(job: Job) -> Job:
    """A job less its visits, as it is kept and worked with."""
    return job.model_copy(update={"visits": []}) if job.visits else job


def add_job(conn: sqlite3.Connection, job: Job, who: str, what: Spoken = JOB_MADE) -> Stored:
    """Keep a new job, its visits as rows of their own."""
    with transaction(conn):
        job_id = add_in(conn, job, who, what)
    return one_job(conn, job_id)


def add_in(conn: sqlite3.Connection, job: Job, who: str, what: Spoken) -> int:
    """:func:`add_job` within a transaction: the new job's number."""
    at, document = now_text(), lean(job).model_dump_json()
    job_id = conn.execute(INSERT_JOB, {"at": at, "document": document}).lastrowid
    assert job_id is not None
    rows = [visit_change(visit.id, None, visit) for visit in job.visits]
    put_rows(conn, job_id, [(row.kind, row.key, row.after) for row in rows])
    _append(conn, Entry(job_id, 1, None, at, who, what, document=document))
    return job_id


@dataclass(frozen=True)
class Entry:
    """One revision as it is written."""

    job_id: int
    number: int
    parent: int | None
    at: str
    who: str
    what: Spoken
    path: str | None = None
    document: str | None = None
    change: str | None = None
    undoes: int | None = None
    redoes: int | None = None


@dataclass(frozen=True)
class Marks:
    """What a revision is of: the field that was typed, the revision that it takes back or makes again."""

    path: str | None = None
    undoes: int | None = None
    redoes: int | None = None


def turn(
    conn: sqlite3.Connection, stored: Stored, document: dict[str, Any], who: str, what: Spoken, rows: Sequence[RowChange],
    marks: Marks,
) -> None:  # fmt: skip
    """Write the state that taking a change back, or making it again, leads to; the caller owns the transaction."""
    _advance(conn, stored, Job.model_validate(document), who, what, rows, marks)


def _append(conn: sqlite3.Connection, entry: Entry) -> None:
    conn.execute(INSERT_REVISION, {**vars(entry), "what": kept(entry.what)})


def _advance(
    conn: sqlite3.Connection, stored: Stored, job: Job, who: str, what: Spoken, rows: Sequence[RowChange] = (),
    marks: Marks | None = None,
) -> None:  # fmt: skip
    """Write the job's next state; the caller owns the transaction. Nothing is written where nothing changed."""
    job = with_its_parts(job)
    rows = [row for row in rows if row.before != row.after]
    if job == stored.job and not rows:
        return
    at, document = now_text(), job.model_dump_json()
    changes = changes_between(json.loads(stored.job.model_dump_json()), json.loads(document))
    number = int(conn.execute(LAST_NUMBER, {"job_id": stored.id}).fetchone()[0]) + 1
    change = json.dumps({"document": changes, **as_kept(rows)}, ensure_ascii=False)
    snapshot = document if number % WHOLE_EVERY == 0 else None
    of = marks or Marks()
    _append(
        conn, Entry(stored.id, number, stored.revision, at, who, what, of.path, snapshot, change, of.undoes, of.redoes)
    )
    put_rows(conn, stored.id, [(row.kind, row.key, row.after) for row in rows])
    conn.execute(UPDATE_JOB, {"id": stored.id, "revision": number, "at": at, "document": document})


def with_its_parts(job: Job) -> Job:
    """A job with its own copies of what it uses of a person's own parts, and without those it uses no more."""
    copies = copies_of(job.used_parts, job.parts, catalogue())
    return job if copies == job.parts else job.model_copy(update={"parts": copies})


def change_rows(conn: sqlite3.Connection, stored: Stored, who: str, what: Spoken, rows: Sequence[RowChange]) -> None:
    """Keep, change or take out rows beside the document as one revision; the caller owns the transaction."""
    _advance(conn, stored, stored.job, who, what, rows)


def mark(conn: sqlite3.Connection, stored: Stored, who: str, what: Spoken) -> None:
    """A line of the history that changes nothing, and that undo passes by; the caller owns the transaction."""
    number = int(conn.execute(LAST_NUMBER, {"job_id": stored.id}).fetchone()[0]) + 1
    at, change = now_text(), json.dumps({"document": [], **as_kept(())})
    _append(conn, Entry(stored.id, number, stored.revision, at, who, what, change=change, undoes=NOTHING))
    document = stored.job.model_dump_json()
    conn.execute(UPDATE_JOB, {"id": stored.id, "revision": number, "at": at, "document": document})


def document_at(conn: sqlite3.Connection, job_id: int, number: int) -> dict[str, Any]:
    """The whole document as a revision left it.

    Raises
    ------
    NotFound
        If that revision is not there (any more).
    """
    changes: list[list[Any]] = []
    while True:
        row = conn.execute(SELECT_REVISION, {"job_id": job_id, "number": number}).fetchone()
        if row is None:
            raise NotFound(later("That state of the job is not kept any more."))
        if row["document"] is not None:
            document: dict[str, Any] = json.loads(row["document"])
            for step in reversed(changes):
                document = forward(document, step)
            return document
        changes.append(json.loads(row["change"])["document"])
        number = row["parent"]


@dataclass(frozen=True)
class FieldEdit:
    """What a person typed: the field, the text, the revision that they saw, and the field's label for the history."""

    path: str
    text: str
    on_revision: int
    label: Spoken = ""


def edit_field(
    conn: sqlite3.Connection, job_id: int, typed: FieldEdit, catalogue: Catalogue, who: str, system: System = "metric",
    check: Callable[[Job], object] | None = None,
) -> Stored:  # fmt: skip
    """Type one field of a job anew.

    Parameters
    ----------
    conn : sqlite3.Connection
        Open, outside a transaction.
    job_id : int
        The job.
    typed : FieldEdit
        The field and the text.
    catalogue : Catalogue
        For choices.
    who : str
        For the history.
    system : str
        Units of a bare number.
    check : callable, optional
        Works the job out; an error of it refuses the edit.

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
    # Worked out before the lock is taken; inside it again only if somebody came between.
    seen = one_job(conn, job_id).job
    changed = edit(seen, typed.path, typed.text, catalogue, system)
    if check is not None:
        check(changed)
    with transaction(conn):
        stored = one_job(conn, job_id)
        if stored.job is not seen:
            changed = edit(stored.job, typed.path, typed.text, catalogue, system)
            if check is not None:
                check(changed)
        if typed.on_revision != stored.revision:
            _refuse_stale(conn, stored, changed, typed, who)
        words = typed.text.strip()[:60] or later("nothing")
        what = later("{label} set to {strip}", label=typed.label or typed.path, strip=words)
        _advance(conn, stored, changed, who, what, marks=Marks(typed.path))
    return one_job(conn, job_id)


def _refuse_stale(conn: sqlite3.Connection, stored: Stored, changed: Job, typed: FieldEdit, who: str) -> None:
    path, on_revision = typed.path, typed.on_revision
    theirs = value_at(stored.job, path)
    if value_at(changed, path) == theirs:
        return
    try:
        seen = value_at(Job.model_validate(document_at(conn, stored.id, on_revision)), path)
    except NotFound:
        seen = None
    mine = conn.execute(LAST_ON_PATH, {"job_id": stored.id, "path": path, "after": on_revision}).fetchone()
    if seen != theirs and not (mine is not None and mine["who"] == who):
        raise StaleEdit(path, typed.text, as_typed(theirs))


def change_job(
    conn: sqlite3.Connection, job_id: int, change: Callable[[Job], tuple[Job, Spoken]], who: str,
    check: Callable[[Job], object] | None = None, beside: Callable[[], Sequence[RowChange]] = tuple,
) -> Stored:  # fmt: skip  # fmt: skip
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
    beside : callable, optional
        Gives rows beside the document that change with it; called inside the transaction.

    Returns
    -------
    Stored
        The job after it.
    """
    # As for a field: worked out before the lock is taken.
    seen = one_job(conn, job_id).job
    job, what = change(seen)
    if check is not None:
        check(job)
    with transaction(conn):
        stored = one_job(conn, job_id)
        if stored.job is not seen:
            job, what = change(stored.job)
            if check is not None:
                check(job)
        _advance(conn, stored, job, who, what, beside())
    return one_job(conn, job_id)
