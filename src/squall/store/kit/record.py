"""What is kept of a kit beside its job, gathered from its tables."""

import sqlite3

from squall.job.kept.record import BornReading, Record, day_of
from squall.store.kit.loggers import hours_logged
from squall.store.kit.proofs import Birth, birth_of
from squall.store.kit.upkeep import lasts_of
from squall.store.log import latest_visits

# More visits than a log may have.
EVERY_VISIT = 5000


def record_of(conn: sqlite3.Connection, job_id: int, option: str) -> Record:
    """All of it for a kit of a job, by the kit's identifier."""
    birth = birth_of(conn, job_id, option)
    return Record(
        docs=latest_visits(conn, job_id, EVERY_VISIT),
        lasts=lasts_of(conn, job_id, option),
        begun=None if birth is None else day_of(birth.at),
        logged=hours_logged(conn, job_id, option),
        born=() if birth is None else _readings(birth),
    )


def _readings(birth: Birth) -> tuple[BornReading, ...]:
    """What was measured for a birth certificate."""
    return tuple(
        BornReading(row["check"], tuple(value) if isinstance(value, list) else float(value), row["light_w_m2"])
        for row in birth.rows
        if (value := row["value"]) is not None
    )
