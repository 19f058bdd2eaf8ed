"""Readings that a logger sends as it reads them, and the addresses to which it may."""

import secrets
import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass

from squall.core.errors import BadQuantity, NotFound
from squall.store.folder.database import transaction
from squall.store.jobs import now_text, one_job
from squall.store.sessions import hash_of
from squall.words import later

ADDRESSES = "SELECT id, note, made_at FROM live_address WHERE job_id = :job_id ORDER BY id"
OPEN = "INSERT INTO live_address (code_hash, job_id, note, made_at) VALUES (:code_hash, :job_id, :note, :at)"
OF_CODE = "SELECT job_id FROM live_address WHERE code_hash = :code_hash"
END = "DELETE FROM live_address WHERE id = :id AND job_id = :job_id"
ADD = "INSERT INTO live (job_id, option, at, point, value) VALUES (:job_id, :option, :at, :point, :value)"
TRIM = """
    DELETE FROM live WHERE job_id = :job_id AND id <= (
        SELECT id FROM live WHERE job_id = :job_id ORDER BY id DESC LIMIT 1 OFFSET :most
    )
"""
NEWEST = (
    "SELECT id, at, point, value FROM live WHERE job_id = :job_id AND option = :option ORDER BY id DESC LIMIT :most"
)
LAST = "SELECT coalesce(max(id), 0) FROM live WHERE job_id = :job_id"
MOST_ADDRESSES, MOST_KEPT = 20, 5000


@dataclass(frozen=True)
class Address:
    """An address to which a logger may send: its row, what it is for, since when."""

    id: int
    note: str
    made_at: str


@dataclass(frozen=True)
class Sent:
    """A reading that was sent: when, at which point, in SI. [of the point]"""

    at: str
    point: str
    value: float


def addresses_of(conn: sqlite3.Connection, job_id: int) -> list[Address]:
    """The addresses of a job, the oldest first."""
    return [Address(**dict(row)) for row in conn.execute(ADDRESSES, {"job_id": job_id})]


def open_address(conn: sqlite3.Connection, job_id: int, note: str) -> str:
    """The code of a new address, told this once; only its hash is kept.

    Raises
    ------
    BadQuantity
        Where a job has more than any logger needs.
    """
    code = secrets.token_urlsafe(24)
    with transaction(conn):
        one_job(conn, job_id)
        if len(addresses_of(conn, job_id)) >= MOST_ADDRESSES:
            raise BadQuantity(later("{most} addresses of one job are the most; end one first.", most=MOST_ADDRESSES))
        row = {"code_hash": hash_of(code), "job_id": job_id, "note": " ".join(note.split())[:80], "at": now_text()}
        conn.execute(OPEN, row)
    return code


def job_of(conn: sqlite3.Connection, code: str) -> int:
    """The job that an address is of.

    Raises
    ------
    NotFound
        If it is none, or was ended.
    """
    row = conn.execute(OF_CODE, {"code_hash": hash_of(code)}).fetchone()
    if row is None:
        raise NotFound(later("Nothing is taken in at this address any more."))
    return int(row["job_id"])


def end_address(conn: sqlite3.Connection, job_id: int, address_id: int) -> None:
    """End an address: what is sent there is refused from now on."""
    with transaction(conn):
        if conn.execute(END, {"id": address_id, "job_id": job_id}).rowcount != 1:
            raise NotFound(later("That address is ended already; load the page anew."))


def add_sent(conn: sqlite3.Connection, job_id: int, option: str, rows: Sequence[Sent]) -> None:
    """Keep what was sent; the oldest beyond the last few thousand go."""
    with transaction(conn):
        one_job(conn, job_id)
        conn.executemany(
            ADD,
            [
                {"job_id": job_id, "option": option, "at": row.at, "point": row.point, "value": row.value}
                for row in rows
            ],
        )
        conn.execute(TRIM, {"job_id": job_id, "most": MOST_KEPT})


def newest_sent(conn: sqlite3.Connection, job_id: int, option: str, most: int = MOST_KEPT) -> list[Sent]:
    """The last readings of a kit, the newest first."""
    rows = conn.execute(NEWEST, {"job_id": job_id, "option": option, "most": most})
    return [Sent(row["at"], row["point"], row["value"]) for row in rows]


def last_sent(conn: sqlite3.Connection, job_id: int) -> int:
    """Number of the last reading of a job, 0 without any: another one where something came."""
    return int(conn.execute(LAST, {"job_id": job_id}).fetchone()[0])
