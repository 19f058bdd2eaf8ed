"""What was done of a kit's upkeep, and what was put off: rows of their own, so that two people see each other's."""

import sqlite3
from collections.abc import Mapping
from datetime import date

from squall.core.errors import NotFound
from squall.core.upkeep.due import Last
from squall.store.folder.database import transaction
from squall.store.jobs import now_text, one_job
from squall.words import later

SELECT = """
    SELECT task, at, put_off, reason FROM upkeep WHERE job_id = :job_id AND option = :option ORDER BY id
"""
ADD = """
    INSERT INTO upkeep (job_id, option, task, at, put_off, reason, who)
    VALUES (:job_id, :option, :task, :at, :put_off, :reason, :who)
"""
TAKE_BACK = """
    DELETE FROM upkeep WHERE id = (
        SELECT max(id) FROM upkeep WHERE job_id = :job_id AND option = :option AND task = :task
    )
"""
MOST_TEXT = 400


def lasts_of(conn: sqlite3.Connection, job_id: int, option: str) -> Mapping[str, Last]:
    """When each job was done last, and until when it is put off; a job done since is put off no more."""
    found: dict[str, Last] = {}
    for row in conn.execute(SELECT, {"job_id": job_id, "option": option}):
        before = found.get(row["task"], Last())
        if row["put_off"] is None:
            found[row["task"]] = Last(date.fromisoformat(row["at"][:10]))
        else:
            found[row["task"]] = Last(before.done, date.fromisoformat(row["put_off"]), row["reason"])
    return found


def keep_done(
    conn: sqlite3.Connection, job_id: int, option: str, task: str, who: str, put_off: date | None = None, reason: str = ""
) -> None:  # fmt: skip
    """A job was done today, or is put off.

    Raises
    ------
    NotFound
        If the job is gone.
    """
    with transaction(conn):
        one_job(conn, job_id)
        conn.execute(ADD, {
            "job_id": job_id, "option": option, "task": task, "at": now_text(), "put_off": None if put_off is None else put_off.isoformat(),
            "reason": reason.strip()[:MOST_TEXT], "who": who,
        })  # fmt: skip


def take_back(conn: sqlite3.Connection, job_id: int, option: str, task: str) -> None:
    """It wasn't done after all, or not put off: what was said before stands.

    Raises
    ------
    NotFound
        If nothing was said of it.
    """
    with transaction(conn):
        one_job(conn, job_id)
        if conn.execute(TAKE_BACK, {"job_id": job_id, "option": option, "task": task}).rowcount != 1:
            raise NotFound(later("Nothing was said of that; load the page anew."))
