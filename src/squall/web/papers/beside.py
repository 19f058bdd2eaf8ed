"""What stands on a paper beside the job: its last readings, the owner's money, the kit's birth certificate."""

from collections.abc import Sequence
from dataclasses import dataclass
from sqlite3 import Connection

from squall.core.faults.causes import NOTHING_KNOWN, Frequencies
from squall.job.document.job import Visit
from squall.job.kept.history import History
from squall.job.kept.record import Record
from squall.store.jobs import Stored
from squall.store.kit.faults import frequencies_of
from squall.store.kit.handed import gather
from squall.store.kit.proofs import Birth, birth_of
from squall.store.kit.record import record_of
from squall.store.log import latest_visits
from squall.store.shelf import setting


@dataclass(frozen=True)
class Beside:
    """What the database knows of a job's paper.

    Attributes
    ----------
    visits : sequence of Visit
        Newest first; the last one is told.
    currency : str
        Code of the owner's money; empty if nobody said.
    birth : Birth or None
        The chosen kit's birth certificate.
    address : str
        Where phones reach Squall; empty where they don't.
    history, record : History, Record or None
        All that was kept of the job, and of its chosen kit; only gathered for what shows it.
    known : Frequencies
        What this yard knows of its faults.
    """

    visits: Sequence[Visit] = ()
    currency: str = ""
    birth: Birth | None = None
    address: str = ""
    history: History | None = None
    record: Record | None = None
    known: Frequencies = NOTHING_KNOWN


NOTHING = Beside()


def beside_of(conn: Connection, stored: Stored, kind: str, addresses: Sequence[str] = ()) -> Beside:
    """All of it for a paper of a job, of a kind of its own; the first of the addresses is the one that tags carry."""
    option = stored.job.option
    birth = None if option is None else birth_of(conn, stored.id, option.id)
    history = gather(conn, stored) if kind == "booklet" else None
    record = record_of(conn, stored.id, option.id) if kind in ("booklet", "fault") and option is not None else None
    return Beside(
        latest_visits(conn, stored.id, 1), setting(conn, "currency"), birth, next(iter(addresses), ""), history, record, frequencies_of(conn),
    )  # fmt: skip
