"""A person's own parts: kept, changed, undone; what is in the van; parts of the shipped catalogue that are hidden; the currency.

Every change is one transaction that also keeps what stood before it: a whole price list is one step of undo.
"""

import json
import sqlite3
from collections.abc import Iterable, Mapping
from datetime import UTC, datetime
from typing import Any

from squall.catalogue import Catalogue
from squall.catalogue.held import beside
from squall.catalogue.reader import shipped
from squall.catalogue.shelf import ShelfPart, Written
from squall.core.errors import NotFound
from squall.core.reason import Spoken
from squall.store.folder.database import transaction
from squall.words import later
from squall.words.keeping import kept, revived

SELECT = "SELECT part_id, family, figures, note, changed_on FROM shelf"
PUT = """
    INSERT INTO shelf (part_id, family, figures, note, changed_on) VALUES (:part_id, :family, :figures, :note, :changed_on)
    ON CONFLICT (part_id) DO UPDATE
    SET family = excluded.family, figures = excluded.figures, note = excluded.note, changed_on = excluded.changed_on
"""
DELETE = "DELETE FROM shelf WHERE part_id = :part_id"
REMEMBER = "INSERT INTO shelf_change (at, words, before, after) VALUES (:at, :words, :before, :after)"
FORGET_UNDONE = "DELETE FROM shelf_change WHERE undone = 1"
LAST = "SELECT number, words, before FROM shelf_change WHERE undone = 0 ORDER BY number DESC LIMIT 1"
NEXT = "SELECT number, words, after FROM shelf_change WHERE undone = 1 ORDER BY number LIMIT 1"
MARK = "UPDATE shelf_change SET undone = :undone WHERE number = :number"
GET_SETTING = "SELECT value FROM setting WHERE key = :key"
SET_SETTING = (
    "INSERT INTO setting (key, value) VALUES (:key, :value) ON CONFLICT (key) DO UPDATE SET value = excluded.value"
)
GROW = "UPDATE setting SET value = CAST(CAST(value AS INTEGER) + 1 AS TEXT) WHERE key = 'shelf-state'"
SELECT_HIDDEN = "SELECT part_id FROM hidden_part"
HIDE = "INSERT INTO hidden_part (part_id) VALUES (:part_id) ON CONFLICT (part_id) DO NOTHING"
UNHIDE = "DELETE FROM hidden_part WHERE part_id = :part_id"
SELECT_VAN = "SELECT part_id, count FROM van WHERE count > 0 ORDER BY part_id"
PUT_IN_VAN = """
    INSERT INTO van (part_id, since, count) VALUES (:part_id, :since, :count)
    ON CONFLICT (part_id) DO UPDATE SET count = excluded.count
"""
TAKE_OUT_OF_VAN = "DELETE FROM van WHERE part_id = :part_id"
LOOK_AT = "INSERT OR REPLACE INTO waiting_list (mark, family, name, data) VALUES (:mark, :family, :name, :data)"
LOOKED_AT = "SELECT family, name, data FROM waiting_list WHERE mark = :mark"
FORGET_LOOKED_AT = "DELETE FROM waiting_list WHERE number <= (SELECT max(number) FROM waiting_list) - :kept"
TAKE_LIST = "DELETE FROM waiting_list WHERE mark = :mark"
# Price lists that wait, the newest. [-]
MOST_WAITING = 8
# Steps of undo that are kept.
KEPT = 200
THIN = f"DELETE FROM shelf_change WHERE number <= (SELECT max(number) FROM shelf_change) - {KEPT}"


def _part(row: Any) -> ShelfPart:
    figures = json.loads(row["figures"])
    return ShelfPart(
        row["part_id"],
        row["family"],
        {key: Written(typed, value) for key, (typed, value) in figures.items()},
        row["note"],
        row["changed_on"],
    )


def _row(part: ShelfPart) -> dict[str, str]:
    figures = {key: [written.typed, written.value] for key, written in part.figures.items()}
    return {
        "part_id": part.id, "family": part.family, "figures": json.dumps(figures, ensure_ascii=False), "note": part.note,
        "changed_on": part.on,
    }  # fmt: skip


def on_shelf(conn: sqlite3.Connection) -> dict[str, ShelfPart]:
    """All of a person's own parts, by identifier."""
    return {row["part_id"]: _part(row) for row in conn.execute(f"{SELECT} ORDER BY family, part_id")}


def hidden_parts(conn: sqlite3.Connection) -> frozenset[str]:
    """Parts of the shipped catalogue that the ranking leaves out."""
    return frozenset(row["part_id"] for row in conn.execute(SELECT_HIDDEN))


def put_parts(conn: sqlite3.Connection, parts: Iterable[ShelfPart], words: Spoken) -> None:
    """Put parts on the shelf, or in place of those that are called the same; one step of undo."""
    _change(conn, {part.id: _row(part) for part in parts}, words)


def take_off(conn: sqlite3.Connection, part_id: str) -> None:
    """Take a part off the shelf; jobs that use it keep their own copy.

    Raises
    ------
    NotFound
        If it is not there.
    """
    part = on_shelf(conn).get(part_id)
    if part is None:
        raise NotFound(later("{part:quoted} is not on your shelf.", part=part_id[:40]))
    _change(conn, {part_id: None}, later("{name} taken off the shelf", name=part.name))


def _change(conn: sqlite3.Connection, after: Mapping[str, dict[str, str] | None], words: Spoken) -> None:
    with transaction(conn):
        before = {key: _standing(conn, key) for key in after}
        conn.execute(FORGET_UNDONE)
        conn.execute(
            REMEMBER,
            {
                "at": datetime.now(UTC).strftime("%Y-%m-%dT%H:%M:%SZ"),
                "words": kept(words),
                "before": json.dumps(before, ensure_ascii=False),
                "after": json.dumps(after, ensure_ascii=False),
            },
        )
        conn.execute(THIN)
        _write(conn, after)


def _standing(conn: sqlite3.Connection, part_id: str) -> dict[str, str] | None:
    row = conn.execute(f"{SELECT} WHERE part_id = :part_id", {"part_id": part_id}).fetchone()
    return None if row is None else {key: row[key] for key in row.keys()}  # noqa: SIM118 - sqlite3.Row


def _write(conn: sqlite3.Connection, rows: Mapping[str, dict[str, str] | None]) -> None:
    for part_id, row in rows.items():
        if row is None:
            conn.execute(DELETE, {"part_id": part_id})
        else:
            conn.execute(PUT, row)
    conn.execute(GROW)


def undo_shelf(conn: sqlite3.Connection) -> Spoken:
    """Take the last change of the shelf back; tells which.

    Raises
    ------
    NotFound
        If there is none.
    """
    return _step(conn, LAST, "before", 1, later("There is nothing on the shelf to take back."))


def redo_shelf(conn: sqlite3.Connection) -> Spoken:
    """Make the last undone change of the shelf again; tells which.

    Raises
    ------
    NotFound
        If there is none.
    """
    return _step(conn, NEXT, "after", 0, later("There is nothing on the shelf to make again."))


def _step(conn: sqlite3.Connection, select: str, side: str, undone: int, none: Spoken) -> Spoken:
    with transaction(conn):
        row = conn.execute(select).fetchone()
        if row is None:
            raise NotFound(none)
        _write(conn, json.loads(row[side]))
        conn.execute(MARK, {"undone": undone, "number": row["number"]})
        return revived(row["words"])


def last_change(conn: sqlite3.Connection) -> Spoken | None:
    """What an undo would take back; None if there is nothing."""
    row = conn.execute(LAST).fetchone()
    return None if row is None else revived(row["words"])


def next_change(conn: sqlite3.Connection) -> Spoken | None:
    """What a redo would make again; None if there is nothing."""
    row = conn.execute(NEXT).fetchone()
    return None if row is None else revived(row["words"])


def hide(conn: sqlite3.Connection, part_id: str, hidden: bool) -> None:
    """Let the ranking leave a shipped part out, or choose from it again."""
    with transaction(conn):
        conn.execute(HIDE if hidden else UNHIDE, {"part_id": part_id})
        conn.execute(GROW)


def setting(conn: sqlite3.Connection, key: str, otherwise: str = "") -> str:
    """One setting of the installation."""
    row = conn.execute(GET_SETTING, {"key": key}).fetchone()
    return otherwise if row is None else str(row["value"])


def set_setting(conn: sqlite3.Connection, key: str, value: str) -> None:
    """Keep one setting."""
    with transaction(conn):
        conn.execute(SET_SETTING, {"key": key, "value": value})


def all_parts(conn: sqlite3.Connection) -> Catalogue:
    """The shipped parts with a person's own beside them, as they stand; the same object until they change."""
    path = conn.execute("PRAGMA database_list").fetchone()["file"]
    state = setting(conn, "shelf-state", "0")
    if state == "0":
        return shipped()
    return _kept(path, state, conn)


class _Kept:
    """The parts of the last few databases and states."""

    parts: dict[tuple[str, str], Catalogue] = {}  # noqa: RUF012 - shared on purpose


def _kept(path: str, state: str, conn: sqlite3.Connection) -> Catalogue:
    key = (path, state)
    found = _Kept.parts.get(key)
    if found is None:
        found = beside(shipped(), on_shelf(conn).values(), hidden_parts(conn))
        if len(_Kept.parts) >= 4:
            _Kept.parts.clear()
        _Kept.parts[key] = found
    return found


def counts_in_van(conn: sqlite3.Connection) -> dict[str, int]:
    """How many of each part are there."""
    return {row["part_id"]: row["count"] for row in conn.execute(SELECT_VAN)}


def in_van(conn: sqlite3.Connection) -> frozenset[str]:
    """Identifiers of all of them."""
    return frozenset(counts_in_van(conn))


def put_in_van(conn: sqlite3.Connection, part_id: str, there: bool) -> None:
    """Put one of a part in, or take all of it out."""
    count_in_van(conn, {part_id: 1 if there else 0})


def count_in_van(conn: sqlite3.Connection, counts: dict[str, int]) -> None:
    """Say how many of some parts are there; none of it takes a part out."""
    with transaction(conn):
        for part_id, count in counts.items():
            if count > 0:
                since = datetime.now(UTC).date().isoformat()
                conn.execute(PUT_IN_VAN, {"part_id": part_id, "since": since, "count": count})
            else:
                conn.execute(TAKE_OUT_OF_VAN, {"part_id": part_id})


def look_at_list(conn: sqlite3.Connection, mark: str, family: str, name: str, data: bytes) -> None:
    """Keep a price list that was looked at until it is taken; of those that wait, the newest stay."""
    with transaction(conn):
        conn.execute(LOOK_AT, {"mark": mark, "family": family, "name": name, "data": data})
        conn.execute(FORGET_LOOKED_AT, {"kept": MOST_WAITING})


def take_list(conn: sqlite3.Connection, mark: str) -> tuple[str, str, bytes]:
    """Family, file's name and content of a list that waited; it waits no more.

    Raises
    ------
    NotFound
        If it was taken already, or newer ones came.
    """
    with transaction(conn):
        row = conn.execute(LOOKED_AT, {"mark": mark}).fetchone()
        conn.execute(TAKE_LIST, {"mark": mark})
    if row is None:
        raise NotFound(later("That list was looked at too long ago; give the file once more."))
    return row["family"], row["name"], bytes(row["data"])
