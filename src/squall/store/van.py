"""Parts that a person has in the van."""

import sqlite3
from datetime import UTC, datetime

from squall.store.database import transaction

SELECT = "SELECT part_id FROM van ORDER BY part_id"
PUT_IN = "INSERT INTO van (part_id, since) VALUES (:part_id, :since) ON CONFLICT (part_id) DO NOTHING"
TAKE_OUT = "DELETE FROM van WHERE part_id = :part_id"


def in_van(conn: sqlite3.Connection) -> frozenset[str]:
    """Identifiers of all of them."""
    return frozenset(row["part_id"] for row in conn.execute(SELECT))


def put_in_van(conn: sqlite3.Connection, part_id: str, there: bool) -> None:
    """Put a part in, or take it out."""
    with transaction(conn):
        if there:
            conn.execute(PUT_IN, {"part_id": part_id, "since": datetime.now(UTC).date().isoformat()})
        else:
            conn.execute(TAKE_OUT, {"part_id": part_id})
