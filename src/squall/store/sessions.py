"""Who gave the passphrase and who tried, and the key of changes: rows, so that a restart sends nobody back to the door and several processes agree."""

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
# Wrong tries of one address, and of all together, within so long. [-], [-], [s]
TRIES, TRIES_OF_ALL, WAIT_S = 5, 40, 60.0
FORGET_TRIES = "DELETE FROM door_try WHERE at <= :before"
FORGET_TRIES_OF = "DELETE FROM door_try WHERE address = :address"
COUNT_TRIES = "SELECT coalesce(sum(address = :address), 0), count(*) FROM door_try"
KEEP_TRY = "INSERT INTO door_try (address, at) VALUES (:address, :now)"
GET_KEY = "SELECT value FROM setting WHERE key = 'change-key'"
SET_KEY = "INSERT INTO setting (key, value) VALUES ('change-key', :value) ON CONFLICT (key) DO UPDATE SET value = excluded.value"


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


def may_try(conn: sqlite3.Connection, address: str, now: float) -> bool:
    """Count a try of an address at the door before it is looked at; False if it, or all together, tried too often.

    Parameters
    ----------
    conn : sqlite3.Connection
        Open, outside a transaction.
    address : str
        Where it comes from.
    now : float
        The time. [s]
    """
    with transaction(conn):
        conn.execute(FORGET_TRIES, {"before": now - WAIT_S})
        tried, all_tried = conn.execute(COUNT_TRIES, {"address": address}).fetchone()
        if tried >= TRIES or all_tried >= TRIES_OF_ALL:
            return False
        conn.execute(KEEP_TRY, {"address": address, "now": now})
    return True


def came_in(conn: sqlite3.Connection, address: str) -> None:
    """Forget the tries of an address that gave the passphrase."""
    with transaction(conn):
        conn.execute(FORGET_TRIES_OF, {"address": address})


def fresh_key(conn: sqlite3.Connection) -> str:
    """A new key of changes, for this run of Squall and all its processes."""
    key = secrets.token_urlsafe(24)
    with transaction(conn):
        conn.execute(SET_KEY, {"value": key})
    return key


def kept_key(conn: sqlite3.Connection) -> str:
    """The key of changes of the run that goes on; empty where none was made yet."""
    row = conn.execute(GET_KEY).fetchone()
    return "" if row is None else str(row[0])
