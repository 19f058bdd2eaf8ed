"""What a job was: back and forward again, what was done when, and how old history thins."""

import json
import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any

from squall.core.errors import BadQuantity, NotFound
from squall.core.reason import Spoken
from squall.job.document.job import Job
from squall.store.beside import RowChange, as_kept, folded, put_rows, row_at, rows_of
from squall.store.deltas import ABSENT, backward, forward
from squall.store.folder.database import transaction
from squall.store.jobs import (
    SELECT_REVISION,
    UPDATE_JOB,
    Marks,
    Stored,
    document_at,
    now_text,
    one_job,
    turn,
)
from squall.words import later
from squall.words.keeping import revived


@dataclass(frozen=True)
class Revision:
    """One state that a job has had."""

    number: int
    parent: int | None
    at: str
    who: str
    what: Spoken


KEEP_DAYS = 90
# How a change that tells of photos is known.
PHOTOS = '"photos"'
# Undo looks back over so many changes; what somebody else changed within so long is theirs alone to take back. [-], [min]
MOST_BACK, JUST_NOW_MIN = 200, 10
_COLUMNS = "number, parent, at, who, what, document, change, undoes, redoes"
LINE = f"""
    WITH RECURSIVE back (n, next, depth) AS (
        SELECT number, parent, 1 FROM revision WHERE job_id = :job_id AND number = :number
        UNION ALL
        SELECT r.number, r.parent, back.depth + 1 FROM revision AS r JOIN back ON r.job_id = :job_id AND r.number = back.next
        WHERE back.depth < :most
    )
    SELECT {_COLUMNS} FROM back JOIN revision ON job_id = :job_id AND number = back.n ORDER BY back.depth
"""
# The newest revisions of a job, wherever they lie.
LATEST = """
    SELECT number, parent, who, undoes, redoes FROM revision WHERE job_id = :job_id ORDER BY number DESC LIMIT :most
"""
HISTORY = """
    WITH RECURSIVE back (number, parent, at, who, what) AS (
        SELECT number, parent, at, who, what FROM revision WHERE job_id = :job_id AND number = :number
        UNION ALL
        SELECT r.number, r.parent, r.at, r.who, r.what
        FROM revision AS r JOIN back ON r.job_id = :job_id AND r.number = back.parent
    )
    SELECT number, parent, at, who, what FROM back LIMIT :most
"""


OLD_JOBS = """
    SELECT DISTINCT job_id FROM revision JOIN job ON job.id = job_id AND job.removed_at IS NULL WHERE at < :before
"""
# Hours of weather files that no job has and no state that is kept had.
UNNAMED_HOURS = """
    DELETE FROM weather_hours WHERE mark NOT IN (SELECT mark FROM weather)
    AND NOT EXISTS (SELECT 1 FROM revision WHERE instr(change, weather_hours.mark) > 0)
"""
ALL_NUMBERS = "SELECT number, parent, at, document IS NULL AS lean, change FROM revision WHERE job_id = :job_id"
DELETE_REVISION = "DELETE FROM revision WHERE job_id = :job_id AND number = :number"
MAKE_WHOLE = """
    UPDATE revision SET parent = :parent, document = :document, change = :change
    WHERE job_id = :job_id AND number = :number
"""


# What a job leaves behind besides its document, as tables for whoever keeps it next.
TABLES = {
    "upkeep": """
        SELECT option AS kit, task, at, put_off, reason, who FROM upkeep WHERE job_id = :job_id ORDER BY id
    """,
    "first-day": """
        SELECT option AS kit, "check", value, answer, skipped, typed, at, who FROM proof WHERE job_id = :job_id ORDER BY id
    """,
    "birth": "SELECT option AS kit, at, who, rows FROM birth WHERE job_id = :job_id ORDER BY id",
    "searches": """
        SELECT s.id AS search, s.option AS kit, s.begun_at, s.story, s.ended_at, s.found, s.note, f."check", f.value, f.answer, f.typed, f.at
        FROM fault_search AS s LEFT JOIN fault_seen AS f ON f.search_id = s.id WHERE s.job_id = :job_id ORDER BY s.id, f.id
    """,
    "ticks": "SELECT option AS kit, step, at, who, note FROM fit_tick WHERE job_id = :job_id ORDER BY at",
}


def tables_of(conn: sqlite3.Connection, job_id: int) -> dict[str, list[list[Any]]]:
    """Each of :data:`TABLES` of a job, its heads first; only those in which something stands."""
    found = {}
    for name, sql in TABLES.items():
        rows = conn.execute(sql, {"job_id": job_id})
        heads = [column[0] for column in rows.description]
        kept = [list(row) for row in rows]
        if kept:
            found[name] = [heads, *kept]
    return found


def undo(conn: sqlite3.Connection, job_id: int, who: str | None = None) -> tuple[Stored, Spoken]:
    """Take one's own last change back; it survives a restart, and :func:`redo` makes it again.

    Parameters
    ----------
    conn : sqlite3.Connection
        Open, outside a transaction.
    job_id : int
        The job.
    who : str, optional
        Whose change; without it the last one, whoever made it.

    Returns
    -------
    tuple[Stored, Spoken]
        The job, and what was undone.

    Raises
    ------
    NotFound
        If there is nothing of theirs to undo.
    BadQuantity
        If somebody else changed the same since: nothing was changed.
    """
    with transaction(conn):
        stored = one_job(conn, job_id)
        line = _line(conn, stored)
        row = _undone_next(line, who)
        if row is None:
            raise NotFound(_nothing_to_undo(line))
        if row["number"] == stored.revision:
            change = _change(row)
            if row["document"] is None:
                document = backward(json.loads(stored.job.model_dump_json()), change["document"])
            else:
                document = document_at(conn, job_id, row["parent"])
            _go_to(conn, job_id, row["parent"], document, [(r.kind, r.key, r.before) for r in rows_of(change)])
        else:
            _turn(conn, stored, row, who or row["who"], back=True)
    return one_job(conn, job_id), revived(row["what"])


def redo(conn: sqlite3.Connection, job_id: int, who: str | None = None) -> tuple[Stored, Spoken]:
    """Make the newest change again that was undone: one's own, also where others went on since.

    Parameters
    ----------
    conn, job_id, who
        As :func:`undo` takes them.

    Raises
    ------
    NotFound
        If nothing was undone.
    BadQuantity
        If somebody else changed the same since: nothing was changed.
    """
    with transaction(conn):
        stored = one_job(conn, job_id)
        row = _redone_next(conn, stored, who)
        if row is None:
            raise NotFound(later("There is nothing to do again."))
        if row["parent"] == stored.revision:
            _go_to(
                conn, job_id, row["number"], document_at(conn, job_id, row["number"]),
                [(r.kind, r.key, r.after) for r in rows_of(_change(row))],
            )  # fmt: skip
        else:
            _turn(conn, stored, row, who or row["who"], back=False)
    return one_job(conn, job_id), revived(row["what"])


def _change(row: sqlite3.Row) -> dict[str, Any]:
    change: dict[str, Any] = json.loads(row["change"] or '{"document": [], "visits": []}')
    return change


def _line(conn: sqlite3.Connection, stored: Stored) -> list[sqlite3.Row]:
    """The states behind a job, newest first, as far as undo looks."""
    return conn.execute(LINE, {"job_id": stored.id, "number": stored.revision, "most": MOST_BACK}).fetchall()


def _undone_next(line: Sequence[sqlite3.Row], who: str | None) -> sqlite3.Row | None:
    """What undo takes back: one's own newest change that stands; of somebody else only what lies at the end and isn't of just now."""
    undone = {row["undoes"] for row in line if row["undoes"] is not None}
    stands = [
        row for row in line if row["parent"] is not None and row["undoes"] is None and row["number"] not in undone
    ]
    own = stands if who is None else [row for row in stands if row["who"] == who]
    if own:
        return own[0]
    last = line[0]
    if last["parent"] is None or last["undoes"] is not None or _of_just_now(last["at"]):
        return None
    return last


def _of_just_now(at: str) -> bool:
    return datetime.now(UTC) - datetime.fromisoformat(at) < timedelta(minutes=JUST_NOW_MIN)


def _nothing_to_undo(line: Sequence[sqlite3.Row]) -> Spoken:
    if line[0]["parent"] is None:
        return later("There is nothing to undo: this is how the job began.")
    return later(
        "There is nothing of yours to undo here. The last change is somebody else's, of just now: {what}.",
        what=revived(line[0]["what"]),
    )


def _redone_next(conn: sqlite3.Connection, stored: Stored, who: str | None) -> sqlite3.Row | None:
    """What redo makes again: of one's own changes that were taken back the last one taken back.

    Undo takes the newest first, so that is the oldest of them. What somebody did anew since leaves nothing to be made again.
    """
    past = {row["number"]: row for row in conn.execute(LATEST, {"job_id": stored.id, "most": MOST_BACK})}
    here, again = _behind(past, stored.revision), {row["redoes"] for row in past.values()}
    turned = {
        row["undoes"]: row["number"] for row in past.values() if row["undoes"] is not None and row["number"] in here
    }
    own = [
        row
        for row in past.values()
        if who in (None, row["who"]) and row["undoes"] is None and row["parent"] is not None
    ]
    for row in sorted(own, key=lambda row: row["number"]):
        number = row["number"]
        if number in again or (number in here and number not in turned):
            continue
        anew = (one["number"] for one in own if one["redoes"] is None and one["number"] > number)
        if not any(_since(past, one, number, turned.get(number)) for one in anew):
            found: sqlite3.Row = conn.execute(SELECT_REVISION, {"job_id": stored.id, "number": number}).fetchone()
            return found
    return None


def _behind(past: Mapping[int, sqlite3.Row], number: int) -> set[int]:
    """The revisions that led to one, itself among them."""
    found: set[int] = set()
    at: int | None = number
    while at is not None and at in past:
        found.add(at)
        at = past[at]["parent"]
    return found


def _since(past: Mapping[int, sqlite3.Row], one: int, number: int, turned: int | None) -> bool:
    """Whether a revision was made after another was taken back: it doesn't stand on that, or it stands on its being taken back."""
    behind = _behind(past, one)
    return number not in behind if turned is None else turned in behind


def _turn(conn: sqlite3.Connection, stored: Stored, row: sqlite3.Row, who: str, *, back: bool) -> None:
    """Take a change back, or make it again, where others went on since; refused where they changed the same."""
    change, document = _change(row), json.loads(stored.job.model_dump_json())
    rows = rows_of(change)
    if back:
        rows = [RowChange(one.kind, one.key, one.after, one.before) for one in rows]
    if any(row_at(conn, stored.id, one.kind, one.key) != one.before for one in rows):
        raise _changed_since(row)
    for path, before, after in change["document"]:
        if _at(document, path) != (after if back else before):
            raise _changed_since(row)
    turned = (backward if back else forward)(document, change["document"])
    what = revived(row["what"])
    words = later("taken back: {what}", what=what) if back else later("done again: {what}", what=what)
    marks = Marks(undoes=row["number"]) if back else Marks(redoes=row["number"])
    turn(conn, stored, turned, who, words, rows, marks)


def _changed_since(row: sqlite3.Row) -> BadQuantity:
    return BadQuantity(
        later("Somebody changed the same since: “{what}” can't be turned back by itself. Nothing was changed; type it as it should be.", what=revived(row["what"]))
    )  # fmt: skip


def _at(document: Any, path: Sequence[str | int]) -> Any:
    """What stands at a path; nothing where the way there is gone."""
    for key in path:
        try:
            document = document[key]
        except (KeyError, IndexError, TypeError):
            return ABSENT
    return document


def _go_to(
    conn: sqlite3.Connection, job_id: int, number: int, document: dict[str, Any],
    states: Sequence[tuple[str, str, dict[str, Any] | None]],
) -> None:  # fmt: skip
    put_rows(conn, job_id, states)
    text = Job.model_validate(document).model_dump_json()
    conn.execute(UPDATE_JOB, {"id": job_id, "revision": number, "at": now_text(), "document": text})


def can_undo_redo(
    conn: sqlite3.Connection, stored: Stored, who: str | None = None
) -> tuple[Spoken | None, Spoken | None]:
    """Words of the change that undo would take back for somebody, and that redo would make again; None if none."""
    back, ahead = _undone_next(_line(conn, stored), who), _redone_next(conn, stored, who)
    return (None if back is None else revived(back["what"])), (None if ahead is None else revived(ahead["what"]))


def history(conn: sqlite3.Connection, stored: Stored, most: int = 50) -> list[Revision]:
    """The states behind a job, newest first."""
    rows = conn.execute(HISTORY, {"job_id": stored.id, "number": stored.revision, "most": most})
    return [Revision(r["number"], r["parent"], r["at"], r["who"], revived(r["what"])) for r in rows]


def thin(conn: sqlite3.Connection, now: datetime | None = None) -> int:
    """Thin history older than 90 days: of each day the last state stays, whole; undone branches go, and photos taken out.

    Parameters
    ----------
    conn : sqlite3.Connection
        Open, outside a transaction.
    now : datetime, optional
        Taken as the present.

    Returns
    -------
    int
        How many revisions were let go.
    """
    before = ((now or datetime.now(UTC)) - timedelta(days=KEEP_DAYS)).isoformat(timespec="seconds")
    gone = 0
    for (job_id,) in conn.execute(OLD_JOBS, {"before": before}).fetchall():
        with transaction(conn):
            gone += _thin_job(conn, job_id, before)
    if gone:
        with transaction(conn):
            conn.execute(UNNAMED_HOURS)
    return gone


def _thin_job(conn: sqlite3.Connection, job_id: int, before: str) -> int:
    rows = {row["number"]: row for row in conn.execute(ALL_NUMBERS, {"job_id": job_id})}
    line = _line_of(rows, one_job(conn, job_id).revision)
    stays = _days_ends([rows[number] for number in line], before)
    old = [row for row in rows.values() if row["at"] < before]
    if all(number in stays for number in line) and not any(
        row["number"] not in line or PHOTOS in (row["change"] or "") for row in old
    ):
        return 0
    previous, moved = None, []
    beside: list[RowChange] = []
    for number in line:
        beside += rows_of(_change(rows[number]))
        if number not in stays:
            continue
        if rows[number]["at"] < before:
            moved.append(
                {"job_id": job_id, "number": number, "parent": previous,
                 "document": json.dumps(document_at(conn, job_id, number), ensure_ascii=False),
                 "change": json.dumps({"document": [], **as_kept(_of_old(beside))}, ensure_ascii=False)}
            )  # fmt: skip
        previous, beside = number, []
    for row in moved:
        conn.execute(MAKE_WHOLE, row)
    going = [number for number in rows if number not in line or number not in stays]
    for number in going:
        conn.execute(DELETE_REVISION, {"job_id": job_id, "number": number})
    return len(going)


def _of_old(beside: Sequence[RowChange]) -> list[RowChange]:
    """What an old state still tells of its rows: photos it lets go, so that one taken out doesn't lie on the disk for ever."""
    return [row for row in folded(beside) if row.kind != "photos"]


def _line_of(rows: dict[int, sqlite3.Row], number: int) -> list[int]:
    """The revisions that lead to one, oldest first."""
    line: list[int] = []
    at: int | None = number
    while at is not None and at in rows:
        line.append(at)
        at = rows[at]["parent"]
    return line[::-1]


def _days_ends(line: Sequence[sqlite3.Row], before: str) -> set[int]:
    """Of a line of revisions, those that stay: all since a moment, and of each day before it the last."""
    last_of_day = {row["at"][:10]: row["number"] for row in line if row["at"] < before}
    return set(last_of_day.values()) | {row["number"] for row in line if row["at"] >= before}
