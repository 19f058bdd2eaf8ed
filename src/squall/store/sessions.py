"""Who gave the passphrase: sessions as rows, so that a restart of Squall doesn't send the phone back to the door."""

import secrets
import sqlite3
import time
from hashlib import sha256

from squall.store.database import transaction

# How long a session lasts. [s]
LASTS_S = 14 * 86_400
INSERT = "INSERT INTO session (token_hash, made_for, ends_at) VALUES (:token_hash, :made_for, :ends_at)"
SELECT = "SELECT 1 FROM session WHERE token_hash = :token_hash AND made_for = :made_for AND ends_at > :now"
DELETE_OLD = "DELETE FROM session WHERE ends_at <= :now OR made_for <> :made_for"
DELETE_ONE = "DELETE FROM session WHERE token_hash = :token_hash"
DELETE_ALL = "DELETE FROM session"


def _hash(token: str) -> str:
    return sha256(token.encode()).hexdigest()


def begin(conn: sqlite3.Connection, made_for: str) -> str:
    """A new session's token; what is over goes.

    Parameters
    ----------
    conn : sqlite3.Connection
        Open, outside a transaction.
    made_for : str
        Which passphrase it was given.
    """
    token, now = secrets.token_urlsafe(32), int(time.time())
    with transaction(conn):
        conn.execute(DELETE_OLD, {"now": now, "made_for": made_for})
        conn.execute(INSERT, {"token_hash": _hash(token), "made_for": made_for, "ends_at": now + LASTS_S})
    return token


def lasts(conn: sqlite3.Connection, token: str, made_for: str) -> bool:
    """Whether a token is of a session that goes on, begun with the passphrase of now."""
    row = {"token_hash": _hash(token), "made_for": made_for, "now": int(time.time())}
    return conn.execute(SELECT, row).fetchone() is not None


def end(conn: sqlite3.Connection, token: str) -> None:
    """End one session."""
    with transaction(conn):
        conn.execute(DELETE_ONE, {"token_hash": _hash(token)})


def end_all(conn: sqlite3.Connection) -> None:
    """End every session."""
    with transaction(conn):
        conn.execute(DELETE_ALL)
