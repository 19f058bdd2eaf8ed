"""The last run of each job's years, and the weather file that a job was given."""

import sqlite3
from dataclasses import dataclass
from datetime import UTC, datetime
from hashlib import sha256

from squall.core.year_light import MeasuredYear
from squall.job.weather_year import from_json, to_json
from squall.job.year_runs import YearsReport
from squall.store.database import transaction

KEEP_RUN = """
    INSERT INTO years_run (job_id, digest, made_at, report) VALUES (:job_id, :digest, :made_at, :report)
    ON CONFLICT (job_id) DO UPDATE SET digest = excluded.digest, made_at = excluded.made_at, report = excluded.report
"""
SELECT_RUN = "SELECT report FROM years_run WHERE job_id = :job_id"
KEEP_WEATHER = """
    INSERT INTO weather (job_id, name, mark, taken_at, hours) VALUES (:job_id, :name, :mark, :taken_at, :hours)
    ON CONFLICT (job_id) DO UPDATE
    SET name = excluded.name, mark = excluded.mark, taken_at = excluded.taken_at, hours = excluded.hours
"""
SELECT_WEATHER = "SELECT name, mark, hours FROM weather WHERE job_id = :job_id"


@dataclass(frozen=True, eq=False)
class KeptWeather:
    """A job's weather file: its name, the mark of its content, its year."""

    name: str
    mark: str
    year: MeasuredYear


def keep_run(conn: sqlite3.Connection, job_id: int, report: YearsReport) -> None:
    """Keep what a run brought, in place of the one before; nothing if the job is gone."""
    with transaction(conn):
        if conn.execute("SELECT 1 FROM job WHERE id = :job_id", {"job_id": job_id}).fetchone() is None:
            return
        conn.execute(
            KEEP_RUN,
            {"job_id": job_id, "digest": report.digest, "made_at": report.made_at, "report": report.model_dump_json()},
        )


def kept_run(conn: sqlite3.Connection, job_id: int) -> YearsReport | None:
    """What the last run brought, however old; None if there was none."""
    row = conn.execute(SELECT_RUN, {"job_id": job_id}).fetchone()
    return None if row is None else YearsReport.model_validate_json(row["report"])


def keep_weather(conn: sqlite3.Connection, job_id: int, name: str, year: MeasuredYear) -> None:
    """Keep a weather file's year for a job; the caller owns the transaction."""
    hours = to_json(year)
    mark = sha256(hours.encode()).hexdigest()[:16]
    taken = datetime.now(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")
    conn.execute(KEEP_WEATHER, {"job_id": job_id, "name": name, "mark": mark, "taken_at": taken, "hours": hours})


def kept_weather(conn: sqlite3.Connection, job_id: int) -> KeptWeather | None:
    """The weather file of a job; None without one."""
    row = conn.execute(SELECT_WEATHER, {"job_id": job_id}).fetchone()
    return None if row is None else KeptWeather(row["name"], row["mark"], from_json(row["hours"]))
