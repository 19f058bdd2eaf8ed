"""Steps of fitting that are ticked: rows of their own, so that two people on two phones see each other's."""

import sqlite3
from collections.abc import Mapping
from dataclasses import dataclass

from squall.store.folder.database import transaction
from squall.store.jobs import now_text, one_job

SELECT_TICKS = "SELECT step, at, note FROM fit_tick WHERE job_id = :job_id AND option = :option"
# A step ticked again keeps when it was done first, and takes the newer note.
TICK = """
    INSERT INTO fit_tick (job_id, option, step, at, who, note) VALUES (:job_id, :option, :step, :at, :who, :note)
    ON CONFLICT (job_id, option, step) DO UPDATE SET note = excluded.note
"""
UNTICK = "DELETE FROM fit_tick WHERE job_id = :job_id AND option = :option AND step = :step"
MOST_NOTE = 400


@dataclass(frozen=True)
class Tick:
    """A step that is done: when, and what was noted."""

    at: str
    note: str


def ticks_of(conn: sqlite3.Connection, job_id: int, option: str) -> Mapping[str, Tick]:
    """What is done of a kit of a job, by its step."""
    rows = conn.execute(SELECT_TICKS, {"job_id": job_id, "option": option})
    return {row["step"]: Tick(row["at"], row["note"]) for row in rows}


def tick(conn: sqlite3.Connection, job_id: int, option: str, step: str, who: str, note: str) -> None:
    """A step is done.

    Raises
    ------
    NotFound
        If the job is gone.
    """
    with transaction(conn):
        one_job(conn, job_id)
        conn.execute(TICK, {
            "job_id": job_id, "option": option, "step": step, "at": now_text(), "who": who, "note": note.strip()[:MOST_NOTE],
        })  # fmt: skip


def untick(conn: sqlite3.Connection, job_id: int, option: str, step: str) -> None:
    """A step isn't done after all."""
    with transaction(conn):
        one_job(conn, job_id)
        conn.execute(UNTICK, {"job_id": job_id, "option": option, "step": step})
