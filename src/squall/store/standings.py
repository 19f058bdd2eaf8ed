"""The jobs as a list to be searched: names and places, when changed, and how each stood when last worked out.

A standing is only good for the revision and the version of Squall that it was worked out with; else it counts as
not known, and is worked out anew by whoever asks.
"""

import sqlite3
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from squall import __version__
from squall.store.folder.database import transaction

SELECT_ROWS = """
    SELECT job.id, job.revision, job.changed_at, json_extract(job.document, '$.name') AS name,
        json_extract(job.document, '$.place') AS place, json_extract(job.document, '$.notes') AS notes,
        standing.grade, standing.missing
    FROM job LEFT JOIN standing ON standing.job_id = job.id AND standing.mark = :version || ' ' || job.revision
    WHERE job.removed_at IS NULL
"""
KEEP = """
    INSERT INTO standing (job_id, mark, grade, missing)
    SELECT id, :mark, :grade, :missing FROM job WHERE id = :id AND removed_at IS NULL
    ON CONFLICT (job_id) DO UPDATE SET mark = excluded.mark, grade = excluded.grade, missing = excluded.missing
"""
SORTS = ("opened", "changed", "name", "made")


@dataclass(frozen=True)
class JobRow:
    """A job as the list knows it without reading it whole; `grade` is None where it isn't worked out for this revision."""

    id: int
    revision: int
    changed_at: str
    name: str
    place: str
    notes: str
    grade: str | None
    missing: tuple[str, ...]


@dataclass(frozen=True)
class Standing:
    """How a job stands at a revision: the verdict's grade, and what is missing by its keys."""

    job_id: int
    revision: int
    grade: str
    missing: tuple[str, ...]


def job_rows(conn: sqlite3.Connection) -> list[JobRow]:
    """All jobs, oldest first."""
    return [
        JobRow(
            row["id"], row["revision"], row["changed_at"], row["name"] or "", row["place"] or "", row["notes"] or "",
            row["grade"], tuple((row["missing"] or "").split()),
        )
        for row in conn.execute(SELECT_ROWS + " ORDER BY job.id", {"version": __version__})
    ]  # fmt: skip


def found(
    rows: Iterable[JobRow], words: str = "", grade: str = "", missing: str = "", unknown: bool = True
) -> list[JobRow]:
    """The rows whose name, place or notes hold all the words, with a grade and a gap if those are asked for.

    Parameters
    ----------
    rows : iterable
        From :func:`job_rows`.
    words : str
        In any order, in any case.
    grade, missing : str
        A grade of the verdict, a key of what is missing; empty for any.
    unknown : bool
        Whether rows that nobody has worked out yet stay in.
    """
    asked = words.casefold().split()
    kept = []
    for row in rows:
        text = f"{row.name} {row.place} {row.notes}".casefold()
        if not all(word in text for word in asked):
            continue
        if (grade or missing) and row.grade is None:
            if unknown:
                kept.append(row)
            continue
        if (not grade or row.grade == grade) and (not missing or missing in row.missing):
            kept.append(row)
    return kept


def in_order(rows: Iterable[JobRow], sort: str, opened: Sequence[int] = ()) -> list[JobRow]:
    """The rows by a key of :data:`SORTS`: last opened, last changed, by name, last made first."""
    newest = sorted(rows, key=lambda row: row.id, reverse=True)
    if sort == "name":
        return sorted(newest, key=lambda row: row.name.casefold())
    if sort == "made":
        return newest
    changed = sorted(newest, key=lambda row: row.changed_at, reverse=True)
    if sort == "changed":
        return changed
    place = {job_id: number for number, job_id in enumerate(opened)}
    return sorted(changed, key=lambda row: place.get(row.id, len(place)))


def keep_standings(conn: sqlite3.Connection, standings: Iterable[Standing]) -> None:
    """Keep how jobs stand; of a job that is gone, nothing."""
    with transaction(conn):
        for one in standings:
            conn.execute(KEEP, {
                "id": one.job_id, "mark": f"{__version__} {one.revision}", "grade": one.grade, "missing": " ".join(one.missing),
            })  # fmt: skip
