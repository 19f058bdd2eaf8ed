"""Rows beside a job's document that change with it: visits, photos and notes, the weather file.

A revision tells of each as it was before and after, as plain data, so that undo and redo bring them back. What is large
lies elsewhere by a mark of what is in it (pictures as files, the hours of a weather file in a table of their own), and a
revision only names it.
"""

import json
import sqlite3
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from squall.job.document.job import Visit

Plain = dict[str, Any]
# A job has one weather file at most; its row goes by this key.
THE_FILE = "file"
READ = {
    "visits": "SELECT document FROM visit WHERE job_id = :job_id AND id = :key",
    "photos": """
        SELECT part, at, who, note, picture_file AS picture, small_file AS small FROM photo
        WHERE job_id = :job_id AND id = CAST(:key AS INTEGER)
    """,
    "weather": "SELECT name, mark, taken_at FROM weather WHERE job_id = :job_id",
}
PUT = {
    "visits": "INSERT OR REPLACE INTO visit (job_id, id, at, document) VALUES (:job_id, :key, :at, :document)",
    "photos": """
        INSERT OR REPLACE INTO photo (id, job_id, part, at, who, note, picture_file, small_file)
        VALUES (CAST(:key AS INTEGER), :job_id, :part, :at, :who, :note, :picture, :small)
    """,
    "weather": """
        INSERT OR REPLACE INTO weather (job_id, name, mark, taken_at) VALUES (:job_id, :name, :mark, :taken_at)
    """,
}
TAKE_OUT = {
    "visits": "DELETE FROM visit WHERE job_id = :job_id AND id = :key",
    "photos": "DELETE FROM photo WHERE job_id = :job_id AND id = CAST(:key AS INTEGER)",
    "weather": "DELETE FROM weather WHERE job_id = :job_id",
}
SELECT_VISITS = "SELECT document FROM visit WHERE job_id = :job_id ORDER BY at, CAST(substr(id, 2) AS INTEGER)"


@dataclass(frozen=True)
class RowChange:
    """A row before and after a change, None where there is none; `kind` is a key of :data:`READ`."""

    kind: str
    key: str
    before: Plain | None
    after: Plain | None


def visit_change(key: str, before: Visit | None, after: Visit | None) -> RowChange:
    """A visit's change."""
    return RowChange("visits", key, *(None if v is None else v.model_dump(mode="json") for v in (before, after)))


def visits_of(conn: sqlite3.Connection, job_id: int) -> list[Visit]:
    """All visits of a job, the oldest first."""
    return [Visit.model_validate_json(row["document"]) for row in conn.execute(SELECT_VISITS, {"job_id": job_id})]


def row_at(conn: sqlite3.Connection, job_id: int, kind: str, key: str) -> Plain | None:
    """A row as it stands now; None where there is none."""
    row = conn.execute(READ[kind], {"job_id": job_id, "key": key}).fetchone()
    if row is None:
        return None
    return _as_now(kind, json.loads(row["document"]) if kind == "visits" else dict(row))


def _as_now(kind: str, row: Plain | None) -> Plain | None:
    """A visit of an older Squall as this one would have kept it."""
    return row if row is None or kind != "visits" else Visit.model_validate(row).model_dump(mode="json")


def put_rows(conn: sqlite3.Connection, job_id: int, states: Iterable[tuple[str, str, Plain | None]]) -> None:
    """Rows by kind and key as they shall be, None to take one out; the caller owns the transaction."""
    for kind, key, state in states:
        of = {"job_id": job_id, "key": key}
        if state is None:
            conn.execute(TAKE_OUT[kind], of)
        elif kind == "visits":
            visit = Visit.model_validate(state)
            conn.execute(PUT[kind], {**of, "at": visit.at, "document": visit.model_dump_json()})
        else:
            conn.execute(PUT[kind], {**of, **state})


def as_kept(rows: Sequence[RowChange]) -> dict[str, list[list[Any]]]:
    """Changes of rows as a revision keeps them; :func:`rows_of` reads them back."""
    told: dict[str, list[list[Any]]] = {"visits": []}
    for row in rows:
        told.setdefault(row.kind, []).append([row.key, row.before, row.after])
    return told


def rows_of(change: dict[str, Any]) -> list[RowChange]:
    """The changes of rows that a revision tells."""
    return [
        RowChange(kind, key, _as_now(kind, before), _as_now(kind, after))
        for kind in READ
        for key, before, after in change.get(kind, [])
    ]


def folded(rows: Iterable[RowChange]) -> list[RowChange]:
    """Changes one after another as one: of each row what it was at first, and what it was at last."""
    first: dict[tuple[str, str], RowChange] = {}
    for row in rows:
        begun = first.get((row.kind, row.key), row)
        first[row.kind, row.key] = RowChange(row.kind, row.key, begun.before, row.after)
    return [row for row in first.values() if row.before != row.after]
