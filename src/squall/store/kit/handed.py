"""A job's whole history: gathered for whoever takes it over, and taken in from a file."""

import json
import sqlite3
from collections.abc import Sequence
from typing import Any

from squall.core.reason import Spoken
from squall.job.kept.history import BirthDoc, BornRow, History, ProofRow, SearchDoc, ShownRow, TickRow, UpkeepRow
from squall.store.folder.database import transaction
from squall.store.jobs import Stored, add_in, one_job, person_of, whole
from squall.words import later

_UPKEEP = "SELECT option, task, at, put_off, reason, who FROM upkeep WHERE job_id = :job_id ORDER BY id"
_BIRTHS = "SELECT option, at, who, rows FROM birth WHERE job_id = :job_id ORDER BY id"
_PROOFS = """
    SELECT option, "check", value, answer, skipped, typed, at, who FROM proof WHERE job_id = :job_id ORDER BY id
"""
_TICKS = "SELECT option, step, at, who, note FROM fit_tick WHERE job_id = :job_id ORDER BY at, step"
_SEARCHES = """
    SELECT id, option, begun_at, who, story, sky, light, air, ended_at, found, note FROM fault_search WHERE job_id = :job_id ORDER BY id
"""
_SEEN = 'SELECT "check", value, answer, typed, at, who FROM fault_seen WHERE search_id = :search_id ORDER BY id'
_PUT_UPKEEP = """
    INSERT INTO upkeep (job_id, option, task, at, put_off, reason, who)
    VALUES (:job_id, :option, :task, :at, :put_off, :reason, :who)
"""
_PUT_BIRTH = "INSERT INTO birth (job_id, option, at, who, rows) VALUES (:job_id, :option, :at, :who, :rows)"
_PUT_PROOF = """
    INSERT INTO proof (job_id, option, "check", value, answer, skipped, typed, at, who)
    VALUES (:job_id, :option, :check, :value, :answer, :skipped, :typed, :at, :who)
"""
_PUT_TICK = """
    INSERT OR IGNORE INTO fit_tick (job_id, option, step, at, who, note) VALUES (:job_id, :option, :step, :at, :who, :note)
"""
_PUT_SEARCH = """
    INSERT INTO fault_search (job_id, option, begun_at, who, story, sky, light, air, ended_at, found, note)
    VALUES (:job_id, :option, :begun_at, :who, :story, :sky, :light, :air, :ended_at, :found, :note)
"""
_PUT_SEEN = """
    INSERT INTO fault_seen (search_id, "check", value, answer, typed, at, who)
    VALUES (:search_id, :check, :value, :answer, :typed, :at, :who)
"""
TAKEN_IN = later("job taken in with its history")


def gather(conn: sqlite3.Connection, stored: Stored) -> History:
    """All that is kept of a job but its photos and its older states."""
    of_job = {"job_id": stored.id}
    # What is kept goes out as it is: it is judged where it is taken in.
    return History.model_construct(
        job=whole(conn, stored),
        upkeep=[UpkeepRow.model_construct(**_plain(row)) for row in conn.execute(_UPKEEP, of_job)],
        births=[
            BirthDoc.model_construct(**row | {"rows": [BornRow.model_construct(**born) for born in row["rows"]]})
            for row in (_plain(row, "rows") for row in conn.execute(_BIRTHS, of_job))
        ],
        proofs=[ProofRow.model_construct(**_plain(row, "value")) for row in conn.execute(_PROOFS, of_job)],
        ticks=[TickRow.model_construct(**_plain(row)) for row in conn.execute(_TICKS, of_job)],
        searches=[_search(conn, _plain(row)) for row in conn.execute(_SEARCHES, of_job).fetchall()],
    )


def _search(conn: sqlite3.Connection, row: dict[str, Any]) -> SearchDoc:
    seen = conn.execute(_SEEN, {"search_id": row.pop("id")})
    return SearchDoc.model_construct(
        **row, seen=[ShownRow.model_construct(**_plain(piece, "value"), skipped=None) for piece in seen]
    )


def _plain(row: sqlite3.Row, *packed: str) -> dict[str, Any]:
    """A row by its columns: what is packed as JSON opened, and of whoever did it the name alone."""
    found = {key: row[key] for key in row.keys()}  # noqa: SIM118
    found |= {key: json.loads(found[key]) for key in packed if found[key] is not None}
    return found | {"who": person_of(found["who"])}


def take_in(conn: sqlite3.Connection, history: History, who: str, what: Spoken = TAKEN_IN) -> Stored:
    """Keep a history as a job of its own, all of it or nothing.

    Parameters
    ----------
    conn : sqlite3.Connection
        Open, outside a transaction.
    history : History
        As :func:`gather` gives it.
    who : str
        Whoever takes it in; who did what before stays said by name.
    what : Spoken
        For the history.
    """
    with transaction(conn):
        job_id = add_in(conn, history.job, who, what)
        _put(conn, _PUT_UPKEEP, job_id, history.upkeep)
        _put(conn, _PUT_PROOF, job_id, history.proofs, "value")
        _put(conn, _PUT_TICK, job_id, history.ticks)
        _put(conn, _PUT_BIRTH, job_id, history.births, "rows")
        for search in history.searches:
            row = _row(search) | {"job_id": job_id}
            search_id = conn.execute(_PUT_SEARCH, {key: row[key] for key in row if key != "seen"}).lastrowid
            for seen in search.seen:
                conn.execute(_PUT_SEEN, _row(seen, "value") | {"search_id": search_id})
    return one_job(conn, job_id)


def _put(conn: sqlite3.Connection, sql: str, job_id: int, rows: Sequence[UpkeepRow | ProofRow | TickRow | BirthDoc], *packed: str) -> None:  # fmt: skip
    for row in rows:
        conn.execute(sql, _row(row, *packed) | {"job_id": job_id})


def _row(row: UpkeepRow | ShownRow | TickRow | BirthDoc | SearchDoc, *packed: str) -> dict[str, Any]:
    """A document as columns; whoever has a name keeps it, as one who had no tab."""
    found = row.model_dump(mode="json")
    found |= {key: json.dumps(found[key]) for key in packed if found[key] is not None}
    return found | {"who": f"{found['who']}, handed over" if found["who"] else "handed over"}
