"""Who is in and who tried: sessions, persons, links to look on, and the key of changes.

Rows, so that a restart sends nobody back to the door and several processes agree. What stands here opens no door: tokens,
codes and passphrases are kept as hashes.
"""

import secrets
import sqlite3
import threading
import time
from collections.abc import Mapping
from dataclasses import dataclass
from hashlib import sha256

from squall.core.errors import BadQuantity
from squall.store.folder.database import transaction
from squall.store.jobs import now_text
from squall.words import later

# How long a session lasts. [s]
LASTS_S = 14 * 86_400
INSERT = """
    INSERT INTO session (token_hash, made_for, ends_at, who, may) VALUES (:token_hash, :made_for, :ends_at, :who, :may)
"""
SELECT = "SELECT made_for, who, may FROM session WHERE token_hash = :token_hash AND ends_at > :now"
DELETE_OLD = "DELETE FROM session WHERE ends_at <= :now"
PERSON_OF = "SELECT 1 FROM person WHERE name = :name AND hash = :hash"
PUT_PERSON = """
    INSERT INTO person (name, salt, hash, made_at) VALUES (:name, :salt, :hash, :at)
    ON CONFLICT (name) DO UPDATE SET salt = excluded.salt, hash = excluded.hash, made_at = excluded.made_at
"""
PUT_GUEST = "INSERT INTO guest (code_hash, note, ends_at) VALUES (:code_hash, :note, :ends_at)"
GUEST_OF = "SELECT id, note, ends_at FROM guest WHERE code_hash = :code_hash AND ends_at > :now"
GUEST_LASTS = "SELECT 1 FROM guest WHERE id = :id AND ends_at > :now"
PUT_FEED = "INSERT INTO feed (code_hash, job_id, note, made_at) VALUES (:code_hash, :job_id, :note, :at)"
FEED_OF = "SELECT id, job_id, note, made_at FROM feed WHERE code_hash = :code_hash"
MOST_OF_A_NAME, MOST_FEEDS = 24, 50
DELETE_ONE = "DELETE FROM session WHERE token_hash = :token_hash"
DELETE_ALL = "DELETE FROM session"
# Wrong tries of one address, and of all together, within so long. [-], [-], [s]
TRIES, TRIES_OF_ALL, WAIT_S = 5, 40, 60.0
FORGET_TRIES = "DELETE FROM door_try WHERE at <= :before"
FORGET_TRIES_OF = "DELETE FROM door_try WHERE address = :address"
COUNT_TRIES = "SELECT coalesce(sum(address = :address), 0), count(*) FROM door_try WHERE at > :after"
_ONE_TRY = threading.Lock()
KEEP_TRY = "INSERT INTO door_try (address, at) VALUES (:address, :now)"
GET_KEY = "SELECT value FROM setting WHERE key = 'change-key'"
SET_KEY = "INSERT INTO setting (key, value) VALUES ('change-key', :value) ON CONFLICT (key) DO UPDATE SET value = excluded.value"


def hash_of(token: str) -> str:
    """What is kept of a code or token in its place."""
    return sha256(token.encode()).hexdigest()


@dataclass(frozen=True)
class Session:
    """Who is in: a person's name, empty for whoever gave the house's passphrase; and whether they may only look on."""

    who: str = ""
    looks_on: bool = False


HOUSE = Session()


def begin(conn: sqlite3.Connection, made_for: str, session: Session = HOUSE, ends_at: int | None = None) -> str:
    """A new session's token; what is over goes.

    Parameters
    ----------
    conn : sqlite3.Connection
        Open, outside a transaction.
    made_for : str
        Which passphrase or link it was given: with that it ends.
    session : Session
        Whose it is, and what it may.
    ends_at : int, optional
        When it ends at the latest. [s]
    """
    token, now = secrets.token_urlsafe(32), int(time.time())
    row = {
        "token_hash": hash_of(token), "made_for": made_for, "ends_at": min(now + LASTS_S, ends_at or now + LASTS_S), "who": session.who,
        "may": "look" if session.looks_on else "all",
    }  # fmt: skip
    with transaction(conn):
        conn.execute(DELETE_OLD, {"now": now})
        conn.execute(INSERT, row)
    return token


def session_of(conn: sqlite3.Connection, token: str, house: str) -> Session | None:
    """The session of a token, if it goes on: begun with the house's passphrase of now, a person's of now, or a link that lasts.

    Parameters
    ----------
    conn : sqlite3.Connection
        Open.
    token : str
        What the cookie brings.
    house : str
        Hash of the house's passphrase.
    """
    row = conn.execute(SELECT, {"token_hash": hash_of(token), "now": int(time.time())}).fetchone()
    if row is None or not _still_given(conn, row, house):
        return None
    return Session(row["who"], row["may"] == "look")


def _still_given(conn: sqlite3.Connection, row: sqlite3.Row, house: str) -> bool:
    kind, _, of = row["made_for"].partition(" ")
    if kind == "person":
        return conn.execute(PERSON_OF, {"name": row["who"], "hash": of}).fetchone() is not None
    if kind == "guest":
        return conn.execute(GUEST_LASTS, {"id": int(of), "now": int(time.time())}).fetchone() is not None
    return bool(row["made_for"] == house)


def persons(conn: sqlite3.Connection) -> list[str]:
    """Names of those with a passphrase of their own."""
    return [row["name"] for row in conn.execute("SELECT name FROM person ORDER BY name")]


def keep_person(conn: sqlite3.Connection, name: str, kept: Mapping[str, str]) -> None:
    """Give a person a passphrase of their own, by its salt and hash; who came in with the one before is out.

    Raises
    ------
    BadQuantity
        Without a name, or with one that can't be told in a history.
    """
    name = " ".join(name.split())
    if not 1 <= len(name) <= MOST_OF_A_NAME or "," in name or not name.isprintable():
        raise BadQuantity(later("A name of 1 to {most} letters, without a comma.", most=MOST_OF_A_NAME))
    with transaction(conn):
        conn.execute(PUT_PERSON, {"name": name, "salt": kept["salt"], "hash": kept["hash"], "at": now_text()})


def remove_person(conn: sqlite3.Connection, name: str) -> None:
    """Take a person's passphrase back; they are out at once, what they did stays theirs."""
    with transaction(conn):
        conn.execute("DELETE FROM person WHERE name = :name", {"name": name})


def hash_of_person(conn: sqlite3.Connection, name: str) -> dict[str, str] | None:
    """Salt and hash of a person's passphrase; None for nobody known."""
    row = conn.execute("SELECT salt, hash FROM person WHERE name = :name", {"name": " ".join(name.split())}).fetchone()
    return None if row is None else dict(row)


@dataclass(frozen=True)
class Guest:
    """A link by which somebody may look on: its number, what was noted of it, when it ends. [s]"""

    id: int
    note: str
    ends_at: int


def guests(conn: sqlite3.Connection) -> list[Guest]:
    """The links that last."""
    rows = conn.execute(
        "SELECT id, note, ends_at FROM guest WHERE ends_at > :now ORDER BY ends_at", {"now": int(time.time())}
    )
    return [Guest(**dict(row)) for row in rows]


def invite(conn: sqlite3.Connection, note: str, hours: float) -> str:
    """A link's code, told this once; only its hash is kept.

    Parameters
    ----------
    conn : sqlite3.Connection
        Open, outside a transaction.
    note : str
        For whom it is.
    hours : float
        How long it lasts, 1 to 168. [h]

    Raises
    ------
    BadQuantity
        For another length of time.
    """
    if not 1.0 <= hours <= 168.0:
        raise BadQuantity(later("A link to look on lasts from 1 hour to 168 (a week)."))
    code = secrets.token_urlsafe(18)
    with transaction(conn):
        conn.execute("DELETE FROM guest WHERE ends_at <= :now", {"now": int(time.time())})
        conn.execute(
            PUT_GUEST,
            {"code_hash": hash_of(code), "note": note.strip()[:80], "ends_at": int(time.time() + hours * 3600)},
        )
    return code


def guest_of(conn: sqlite3.Connection, code: str) -> Guest | None:
    """The link with a code, if it lasts."""
    row = conn.execute(GUEST_OF, {"code_hash": hash_of(code.strip()), "now": int(time.time())}).fetchone()
    return None if row is None else Guest(**dict(row))


def end_guest(conn: sqlite3.Connection, guest_id: int) -> None:
    """End a link, and let everybody out who came in by it."""
    with transaction(conn):
        conn.execute("DELETE FROM guest WHERE id = :id", {"id": guest_id})


def end(conn: sqlite3.Connection, token: str) -> None:
    """End one session."""
    with transaction(conn):
        conn.execute(DELETE_ONE, {"token_hash": hash_of(token)})


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
    # One at a time, and who tried too often writes nothing: a crowd at the door never stands in the way of those inside.
    with _ONE_TRY:
        if _too_often(conn, address, now):
            return False
        with transaction(conn):
            conn.execute(FORGET_TRIES, {"before": now - WAIT_S})
            if _too_often(conn, address, now):
                return False
            conn.execute(KEEP_TRY, {"address": address, "now": now})
        return True


def _too_often(conn: sqlite3.Connection, address: str, now: float) -> bool:
    tried, all_tried = conn.execute(COUNT_TRIES, {"address": address, "after": now - WAIT_S}).fetchone()
    return bool(tried >= TRIES or all_tried >= TRIES_OF_ALL)


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


@dataclass(frozen=True)
class Feed:
    """An address under which a calendar reads what is due: its number, whose job (None: all), for whom, since when."""

    id: int
    job_id: int | None
    note: str
    made_at: str


def feeds(conn: sqlite3.Connection) -> list[Feed]:
    """The addresses that are read, the oldest first."""
    return [Feed(**dict(row)) for row in conn.execute("SELECT id, job_id, note, made_at FROM feed ORDER BY id")]


def follow(conn: sqlite3.Connection, job_id: int | None, note: str) -> str:
    """The code of a new address for calendars, told this once; only its hash is kept.

    Raises
    ------
    BadQuantity
        Where there are more than anybody follows.
    """
    if len(feeds(conn)) >= MOST_FEEDS:
        raise BadQuantity(later("{most} calendars follow already: end one first.", most=MOST_FEEDS))
    code = secrets.token_urlsafe(24)
    row = {"code_hash": hash_of(code), "job_id": job_id, "note": " ".join(note.split())[:80], "at": now_text()}
    with transaction(conn):
        conn.execute(PUT_FEED, row)
    return code


def feed_of(conn: sqlite3.Connection, code: str) -> Feed | None:
    """The address with a code, if nobody ended it."""
    row = conn.execute(FEED_OF, {"code_hash": hash_of(code)}).fetchone()
    return None if row is None else Feed(**dict(row))


def end_feed(conn: sqlite3.Connection, feed_id: int) -> None:
    """End an address: a calendar that reads it is told nothing any more."""
    with transaction(conn):
        conn.execute("DELETE FROM feed WHERE id = :id", {"id": feed_id})
