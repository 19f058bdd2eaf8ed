"""Searches for what is wrong with a kit: rows of their own, so that two people on two phones see each other's."""

import json
import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from squall.core.errors import NotFound
from squall.core.faults.causes import CAUSES, Frequencies, Story
from squall.core.faults.suspicion import Evidence
from squall.store.folder.database import transaction
from squall.store.jobs import now_text, one_job
from squall.store.shelf import set_setting, setting
from squall.words import later

SELECT_SEARCHES = """
    SELECT id, option, begun_at, story, sky, light, air, ended_at, found, note FROM fault_search
    WHERE job_id = :job_id AND option = :option ORDER BY id DESC LIMIT :most
"""
SELECT_SEEN = 'SELECT id, "check", value, answer, typed, at FROM fault_seen WHERE search_id = :search_id ORDER BY id'
BEGIN_SEARCH = """
    INSERT INTO fault_search (job_id, option, begun_at, who, story, sky, light, air)
    VALUES (:job_id, :option, :at, :who, :story, :sky, :light, :air)
"""
CHANGE_SEARCH = """
    UPDATE fault_search SET story = :story, sky = :sky, light = :light, air = :air
    WHERE id = :id AND job_id = :job_id AND ended_at IS NULL
"""
END_SEARCH = """
    UPDATE fault_search SET ended_at = :at, found = :found, note = :note WHERE id = :id AND job_id = :job_id AND ended_at IS NULL
"""
OPEN_AGAIN = "UPDATE fault_search SET ended_at = NULL, found = NULL WHERE id = :id AND job_id = :job_id"
ADD_SEEN = """
    INSERT INTO fault_seen (search_id, "check", value, answer, typed, at, who)
    SELECT id, :check, :value, :answer, :typed, :at, :who FROM fault_search WHERE id = :search_id AND job_id = :job_id AND ended_at IS NULL
"""
REMOVE_SEEN = """
    DELETE FROM fault_seen WHERE id = :id AND search_id IN (SELECT id FROM fault_search WHERE job_id = :job_id)
"""
COUNT_FOUND = """
    SELECT found, count(*) AS times FROM fault_search WHERE ended_at IS NOT NULL AND job_id > 0 AND found IS NOT NULL GROUP BY found
"""
MOST_NOTE = 400
# The owner's own figures, as a setting.
SAID = "frequencies"


@dataclass(frozen=True)
class Began:
    """How a search begins: the story, the sky by eye or the light as typed, the air as typed."""

    story: Story
    sky: str
    light: str
    air: str


@dataclass(frozen=True)
class Seen:
    """What one check showed, with its row's number, and as it was typed."""

    id: int
    evidence: Evidence
    typed: str
    at: str


@dataclass(frozen=True)
class Search:
    """A search: how it began, what was seen, and how it ended if it did."""

    id: int
    began: Began
    begun_at: str
    ended_at: str | None
    found: str | None
    note: str
    seen: tuple[Seen, ...]


def _seen(conn: sqlite3.Connection, search_id: int) -> tuple[Seen, ...]:
    found = []
    for row in conn.execute(SELECT_SEEN, {"search_id": search_id}):
        value = None if row["value"] is None else json.loads(row["value"])
        evidence = Evidence(row["check"], tuple(value) if isinstance(value, list) else value, row["answer"])
        found.append(Seen(row["id"], evidence, row["typed"], row["at"]))
    return tuple(found)


def searches_of(conn: sqlite3.Connection, job_id: int, option: str, most: int = 20) -> list[Search]:
    """The last searches of a kit of a job, newest first."""
    rows = conn.execute(SELECT_SEARCHES, {"job_id": job_id, "option": option, "most": most}).fetchall()
    return [
        Search(
            row["id"],
            Began(row["story"], row["sky"], row["light"], row["air"]),
            row["begun_at"],
            row["ended_at"],
            row["found"],
            row["note"],
            _seen(conn, row["id"]),
        )
        for row in rows
    ]


def found_before(conn: sqlite3.Connection) -> Mapping[str, int]:
    """How often each cause was found, on all kits of all jobs."""
    return {row["found"]: row["times"] for row in conn.execute(COUNT_FOUND)}


def frequencies_of(conn: sqlite3.Connection) -> Frequencies:
    """What this yard knows of its faults: what was found, and what the owner says."""
    said = json.loads(setting(conn, SAID, "{}"))
    return Frequencies(found_before(conn), {code: float(share) for code, share in said.items() if code in CAUSES})


def say_frequencies(conn: sqlite3.Connection, said: Mapping[str, float]) -> None:
    """The owner's own figures instead of the trade's guesses, all of them at once. [in a hundred]"""
    set_setting(conn, SAID, json.dumps(dict(said)))


def begin_search(
    conn: sqlite3.Connection, job_id: int, option: str, began: Began, who: str, first: Sequence[tuple[Evidence, str]] = ()
) -> None:  # fmt: skip
    """Begin a search, with what was seen at first, each as it was typed, if anything was."""
    with transaction(conn):
        one_job(conn, job_id)
        search_id = conn.execute(BEGIN_SEARCH, {
            "job_id": job_id, "option": option, "at": now_text(), "who": who, "story": began.story, "sky": began.sky,
            "light": began.light, "air": began.air,
        }).lastrowid  # fmt: skip
        assert search_id is not None
        for piece, typed in first:
            _add(conn, job_id, search_id, piece, typed, who)


def change_search(conn: sqlite3.Connection, job_id: int, search_id: int, began: Began) -> None:
    """How it began was otherwise."""
    with transaction(conn):
        _one(conn.execute(CHANGE_SEARCH, {
            "id": search_id, "job_id": job_id, "story": began.story, "sky": began.sky, "light": began.light, "air": began.air,
        }))  # fmt: skip


def add_seen(conn: sqlite3.Connection, job_id: int, search_id: int, piece: Evidence, typed: str, who: str) -> None:
    """Keep what a check showed.

    Raises
    ------
    NotFound
        If that search has ended, or isn't this job's.
    """
    with transaction(conn):
        _add(conn, job_id, search_id, piece, typed, who)


def _add(conn: sqlite3.Connection, job_id: int, search_id: int, piece: Evidence, typed: str, who: str) -> None:
    value = None if piece.value is None else json.dumps(piece.value)
    _one(conn.execute(ADD_SEEN, {
        "search_id": search_id, "job_id": job_id, "check": piece.check, "value": value, "answer": piece.answer,
        "typed": typed[:MOST_NOTE], "at": now_text(), "who": who,
    }))  # fmt: skip


def remove_seen(conn: sqlite3.Connection, job_id: int, seen_id: int) -> None:
    """Take back what a check showed."""
    with transaction(conn):
        _one(conn.execute(REMOVE_SEEN, {"id": seen_id, "job_id": job_id}))


def end_search(conn: sqlite3.Connection, job_id: int, search_id: int, found: str, note: str) -> None:
    """It was found and mended, or given up."""
    with transaction(conn):
        _one(conn.execute(END_SEARCH, {
            "id": search_id, "job_id": job_id, "at": now_text(), "found": found, "note": note.strip()[:MOST_NOTE],
        }))  # fmt: skip


def open_again(conn: sqlite3.Connection, job_id: int, search_id: int) -> None:
    """It wasn't mended after all."""
    with transaction(conn):
        _one(conn.execute(OPEN_AGAIN, {"id": search_id, "job_id": job_id}))


def _one(cursor: sqlite3.Cursor) -> None:
    if cursor.rowcount != 1:
        raise NotFound(later("That search has ended, or is gone; load the page anew."))
