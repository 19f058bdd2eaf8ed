"""Parts that a person has in the van, and how many of each."""

import sqlite3
from datetime import UTC, datetime

from squall.store.database import transaction

SELECT = "SELECT part_id, count FROM van WHERE count > 0 ORDER BY part_id"
PUT_IN = """
    INSERT INTO van (part_id, since, count) VALUES (:part_id, :since, :count)
    ON CONFLICT (part_id) DO UPDATE SET count = excluded.count
"""
TAKE_OUT = "DELETE FROM van WHERE part_id = :part_id"


def counts_in_van(conn: sqlite3.Connection) -> dict[str, int]:
    """How many of each part are there."""
    return {row["part_id"]: row["count"] for row in conn.execute(SELECT)}


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
                conn.execute(PUT_IN, {"part_id": part_id, "since": since, "count": count})
            else:
                conn.execute(TAKE_OUT, {"part_id": part_id})
