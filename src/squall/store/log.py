"""The log of a job: visits with their readings, each a row of its own."""

import hashlib
import sqlite3
from collections.abc import Callable, Sequence
from functools import lru_cache

from squall.core.errors import BadQuantity, NotFound
from squall.job.document.job import MOST_VISITS, Visit
from squall.store.beside import visit_change
from squall.store.folder.database import transaction
from squall.store.jobs import Stored, change_rows, now_text, one_job, person_of
from squall.words import later

GONE = later("Those readings are not in this job any more.")
LATEST = """
    SELECT document FROM visit WHERE job_id = :job_id ORDER BY at DESC, CAST(substr(id, 2) AS INTEGER) DESC LIMIT :most
"""
ONE = "SELECT document FROM visit WHERE job_id = :job_id AND id = :id"
HIGHEST = "SELECT coalesce(max(CAST(substr(id, 2) AS INTEGER)), 0) FROM visit WHERE job_id = :job_id"


def latest_visits(conn: sqlite3.Connection, job_id: int, most: int) -> list[Visit]:
    """The newest visits of a job, newest first."""
    return [_visit_of(row["document"]) for row in conn.execute(LATEST, {"job_id": job_id, "most": most})]


@lru_cache(maxsize=2048)
def _visit_of(document: str) -> Visit:
    """An entry as it is read; it never changes, so the same text is read once."""
    return Visit.model_validate_json(document)


def one_visit(conn: sqlite3.Connection, job_id: int, visit_id: str) -> Visit:
    """An entry of the log.

    Raises
    ------
    NotFound
        If it is gone.
    """
    row = conn.execute(ONE, {"job_id": job_id, "id": visit_id}).fetchone()
    if row is None:
        raise NotFound(GONE)
    return Visit.model_validate_json(row["document"])


def add_visit(conn: sqlite3.Connection, job_id: int, make: Callable[[str], Visit], who: str) -> Stored:
    """Keep a visit.

    Parameters
    ----------
    conn : sqlite3.Connection
        Open, outside a transaction.
    job_id : int
        The job.
    make : callable
        Gives the visit with the identifier that it is handed.
    who : str
        For the history.

    Returns
    -------
    Stored
        The job after it.

    Raises
    ------
    NotFound
        If the job is gone.
    BadQuantity
        If it has too many.
    """
    with transaction(conn):
        stored = one_job(conn, job_id)
        if stored.visits >= MOST_VISITS:
            raise BadQuantity(later("{most:whole} sets of readings are the most for one job.", most=MOST_VISITS))
        number = int(conn.execute(HIGHEST, {"job_id": job_id}).fetchone()[0]) + 1
        visit = make(f"v{number}")
        change_rows(conn, stored, who, later("readings kept"), [visit_change(visit.id, None, visit)])
    return one_job(conn, job_id)


def add_visits(conn: sqlite3.Connection, job_id: int, visits: Sequence[Visit], who: str) -> Stored:
    """Keep several visits as one change, each under a number of its own; one undo takes all back.

    Raises
    ------
    NotFound
        If the job is gone.
    BadQuantity
        If it would have too many.
    """
    with transaction(conn):
        stored = one_job(conn, job_id)
        if stored.visits + len(visits) > MOST_VISITS:
            raise BadQuantity(later("{most:whole} sets of readings are the most for one job.", most=MOST_VISITS))
        number = int(conn.execute(HIGHEST, {"job_id": job_id}).fetchone()[0])
        kept = [visit.model_copy(update={"id": f"v{number + n}"}) for n, visit in enumerate(visits, start=1)]
        words = later("{visits} visits taken into the log", visits=len(kept))
        change_rows(conn, stored, who, words, [visit_change(visit.id, None, visit) for visit in kept])
    return one_job(conn, job_id)


def remove_visit(conn: sqlite3.Connection, job_id: int, visit_id: str, who: str) -> Stored:
    """Take a visit out; undo brings it back.

    Raises
    ------
    NotFound
        If it is gone already.
    """
    with transaction(conn):
        stored = one_job(conn, job_id)
        visit = one_visit(conn, job_id, visit_id)
        change_rows(conn, stored, who, later("readings removed"), [visit_change(visit_id, visit, None)])
    return one_job(conn, job_id)


def change_visit(conn: sqlite3.Connection, job_id: int, visit_id: str, seen: str, after: Visit, who: str) -> Stored:
    """Put an entry of the log right; undo brings it back as it was.

    Parameters
    ----------
    conn : sqlite3.Connection
        Open, outside a transaction.
    job_id : int
        The job.
    visit_id : str
        The entry.
    seen : str
        :func:`mark_of` the entry as whoever puts it right saw it.
    after : Visit
        The entry as it shall be.
    who : str
        For the history.

    Raises
    ------
    NotFound
        If it is gone.
    BadQuantity
        If somebody else has put it right meanwhile.
    """
    with transaction(conn):
        stored = one_job(conn, job_id)
        before = one_visit(conn, job_id, visit_id)
        if after == before:
            return stored
        if mark_of(before) != seen:
            raise BadQuantity(
                later(
                    "Somebody has put this visit right since it was shown here. Look at it below, then type yours again."
                )
            )
        after = after.model_copy(update={"put_right_at": now_text()[:16] + "Z", "put_right_by": person_of(who)})
        words = later("the visit of {day} put right", day=before.at[:10])
        change_rows(conn, stored, who, words, [visit_change(visit_id, before, after)])
    return one_job(conn, job_id)


def mark_of(visit: Visit) -> str:
    """What tells one state of an entry from another."""
    return hashlib.sha256(visit.model_dump_json().encode()).hexdigest()[:16]
