"""Lessons that were finished, a row each, by the name of whoever learned."""

import sqlite3
from dataclasses import asdict, dataclass

from squall.store.folder.database import transaction
from squall.store.jobs import now_text

MOST_NAME = 40
KEEP = """
    INSERT OR IGNORE INTO lesson (at, learner, kit, level, number, acts, named, fault, minutes, looks, unsafe)
    VALUES (:at, :learner, :kit, :level, :number, :acts, :named, :fault, :minutes, :looks, :unsafe)
"""
SELECT = "SELECT at, learner, kit, level, number, acts, named, fault, minutes, looks, unsafe FROM lesson ORDER BY id"
SUMS = """
    SELECT learner, count(*) AS lessons, sum(named = fault) AS "right", avg(minutes) AS minutes, avg(looks) AS looks, sum(unsafe) AS unsafe
    FROM lesson GROUP BY learner ORDER BY learner
"""


@dataclass(frozen=True)
class Finished:
    """A finished lesson: by whom, which, what was done, named and hidden, and what it took. [min]"""

    learner: str
    kit: str
    level: str
    number: int
    acts: str
    named: str
    fault: str
    minutes: float
    looks: int
    unsafe: int
    at: str = ""


@dataclass(frozen=True)
class Progress:
    """What a person's lessons came to: how many, how many right, minutes and looks of one on the average, unsafe acts in all. [min]"""

    learner: str
    lessons: int
    right: int
    minutes: float
    looks: float
    unsafe: int


def named_of(learner: str) -> str:
    """A name as it is kept."""
    return " ".join(learner.split())[:MOST_NAME]


def keep_lesson(conn: sqlite3.Connection, done: Finished) -> None:
    """Keep a finished lesson; of one that was done before the first try stays."""
    with transaction(conn):
        conn.execute(KEEP, {**asdict(done), "learner": named_of(done.learner), "at": now_text()})


def lessons(conn: sqlite3.Connection) -> list[Finished]:
    """All that were finished, the oldest first."""
    return [Finished(**dict(row)) for row in conn.execute(SELECT)]


def progress(conn: sqlite3.Connection) -> list[Progress]:
    """What each person's came to."""
    return [Progress(**dict(row)) for row in conn.execute(SUMS)]
