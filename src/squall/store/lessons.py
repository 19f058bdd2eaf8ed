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
# The level of what is a course's question.
COURSE = "course"
SUMS = """
    SELECT learner, sum(level <> :course) AS lessons, sum(level <> :course AND named = fault) AS "right",
        coalesce(avg(CASE WHEN level <> :course THEN minutes END), 0.0) AS minutes,
        coalesce(avg(CASE WHEN level <> :course THEN looks END), 0.0) AS looks, sum(unsafe) AS unsafe,
        sum(level = :course) AS asked, sum(level = :course AND named = fault) AS answered
    FROM lesson GROUP BY learner ORDER BY learner
"""
ANSWERED = "SELECT kit, count(*) AS n FROM lesson WHERE level = :course AND learner = :learner GROUP BY kit"


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
    """What a person's lessons came to: how many, how many right, minutes and looks of one on the average, unsafe acts in all; and of
    courses' questions how many were answered, and how many right. [min]
    """

    learner: str
    lessons: int
    right: int
    minutes: float
    looks: float
    unsafe: int
    asked: int = 0
    answered: int = 0


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
    return [Progress(**dict(row)) for row in conn.execute(SUMS, {"course": COURSE})]


def answered_of(conn: sqlite3.Connection, learner: str) -> dict[str, int]:
    """How many questions of each course somebody has answered."""
    rows = conn.execute(ANSWERED, {"course": COURSE, "learner": named_of(learner)})
    return {row["kit"]: row["n"] for row in rows}
