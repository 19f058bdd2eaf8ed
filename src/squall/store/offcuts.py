"""What is left of rolls and lies in the van, for the next job of whatever yard."""

import sqlite3
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, datetime

from squall.core.errors import NotFound
from squall.core.reason import Spoken
from squall.store.folder.database import transaction
from squall.words import later
from squall.words.keeping import kept, revived

# Shorter is waste. [m]
LEAST_M = 0.5
# No van holds more ends than this; of more the longest stay.
MOST = 200

SELECT = "SELECT id, key, name, metres, since, who FROM offcut ORDER BY key, metres DESC, id"
PUT_IN = "INSERT INTO offcut (key, name, metres, since, who) VALUES (:key, :name, :metres, :since, :who)"
TAKE_OUT = "DELETE FROM offcut WHERE id = :id"
FORGET_SHORTEST = "DELETE FROM offcut WHERE id NOT IN (SELECT id FROM offcut ORDER BY metres DESC, id LIMIT :most)"


@dataclass(frozen=True)
class Offcut:
    """One end: of what, how long, since when, by whom. [m]"""

    id: int
    key: str
    name: Spoken
    metres: float
    since: str
    who: str


def offcuts_of(conn: sqlite3.Connection) -> tuple[Offcut, ...]:
    """All that lie in the van, the longest of each kind first."""
    return tuple(
        Offcut(row["id"], row["key"], revived(row["name"]), row["metres"], row["since"], row["who"])
        for row in conn.execute(SELECT)
    )


def cut_from(
    conn: sqlite3.Connection, key: str, name: Spoken, used_m: Iterable[float], left_m: Iterable[float], who: str
) -> None:
    """Take out what was cut from, and put in what is left of it and of what was bought.

    Parameters
    ----------
    conn : Connection
        To the database.
    key, name : str, Spoken
        Of the line of the cut list.
    used_m, left_m : iterable of float
        Lengths of the offcuts that were cut from; of all that is left: what is shorter than half a metre is waste. [m]
    who : str
        Who cut.

    Raises
    ------
    NotFound
        If one that was to be cut from lies there no more; nothing is changed then.
    """
    since = datetime.now(UTC).date().isoformat()
    with transaction(conn):
        there = [one for one in offcuts_of(conn) if one.key == key]
        for metres in used_m:
            found = next((one for one in there if abs(one.metres - metres) < 1e-6), None)
            if found is None:
                raise NotFound(later("One of these ends lies in the van no more; look again at what to cut from."))
            there.remove(found)
            conn.execute(TAKE_OUT, {"id": found.id})
        for metres in left_m:
            if metres >= LEAST_M:
                conn.execute(PUT_IN, {"key": key, "name": kept(name), "metres": metres, "since": since, "who": who})
        conn.execute(FORGET_SHORTEST, {"most": MOST})


def take_out(conn: sqlite3.Connection, offcut_id: int) -> None:
    """Take one out of the van.

    Raises
    ------
    NotFound
        If it lies there no more.
    """
    with transaction(conn):
        if conn.execute(TAKE_OUT, {"id": offcut_id}).rowcount == 0:
            raise NotFound(later("That end lies in the van no more."))
