"""The last run of each job's years, and the weather file that a job was given."""

import json
import sqlite3
from dataclasses import dataclass
from datetime import UTC, datetime
from hashlib import sha256

import numpy as np

from squall.core.reason import Spoken
from squall.core.sky.whole_year import MeasuredYear
from squall.job.document.job import Job
from squall.job.worked.years import YearsReport, digest_of
from squall.store.beside import THE_FILE, RowChange, row_at
from squall.store.folder.database import transaction
from squall.words import later
from squall.words.keeping import kept, revived

KEEP_RUN = """
    INSERT INTO years_run (job_id, digest, made_at, words, report) VALUES (:job_id, :digest, :made_at, :words, :report)
    ON CONFLICT (job_id) DO UPDATE
    SET digest = excluded.digest, made_at = excluded.made_at, words = excluded.words, report = excluded.report
"""
SELECT_WORDS = """
    SELECT years_run.digest, years_run.words, weather.mark FROM years_run
    LEFT JOIN weather ON weather.job_id = years_run.job_id WHERE years_run.job_id = :job_id
"""
SELECT_RUN = "SELECT report FROM years_run WHERE job_id = :job_id"
KEEP_HOURS = "INSERT OR IGNORE INTO weather_hours (mark, hours) VALUES (:mark, :hours)"
SELECT_WEATHER = """
    SELECT name, mark, hours FROM weather JOIN weather_hours USING (mark) WHERE job_id = :job_id
"""
STANDS = "SELECT 1 FROM job WHERE id = :job_id AND removed_at IS NULL"


COLUMNS = ("whole_w_m2", "diffuse_w_m2", "air_c")


def to_json(year: MeasuredYear) -> str:
    """A year of hours as text, to be kept."""
    columns = {key: np.round(getattr(year, key), 2).tolist() for key in COLUMNS}
    return json.dumps({"told_by": year.told_by, **columns})


def from_json(text: str) -> MeasuredYear:
    """Back from :func:`to_json`."""
    data = json.loads(text)
    whole, diffuse, air = (np.array(data[key], dtype=np.float64) for key in COLUMNS)
    return MeasuredYear(whole, diffuse, air, data["told_by"])


@dataclass(frozen=True, eq=False)
class KeptWeather:
    """A job's weather file: its name, the mark of its content, its year."""

    name: str
    mark: str
    year: MeasuredYear


def keep_run(conn: sqlite3.Connection, job_id: int, report: YearsReport) -> None:
    """Keep what a run brought, in place of the one before; nothing if the job is gone."""
    with transaction(conn):
        if conn.execute(STANDS, {"job_id": job_id}).fetchone() is None:
            return
        conn.execute(
            KEEP_RUN,
            {
                "job_id": job_id,
                "digest": report.digest,
                "made_at": report.made_at,
                "words": kept(later("{days:capital}, in {weather}", days=report.sentence_days, weather=report.weather)),
                "report": report.model_dump_json(),
            },
        )


def kept_run(conn: sqlite3.Connection, job_id: int) -> YearsReport | None:
    """What the last run brought, however old; None if there was none."""
    row = conn.execute(SELECT_RUN, {"job_id": job_id}).fetchone()
    return None if row is None else YearsReport.model_validate_json(row["report"])


@dataclass(frozen=True)
class RunWords:
    """The last run in one sentence, and whether nothing has changed since."""

    words: Spoken
    fresh: bool


def run_words(conn: sqlite3.Connection, job_id: int, job: Job) -> RunWords | None:
    """The last run of a job's years in one sentence; None if there was none."""
    row = conn.execute(SELECT_WORDS, {"job_id": job_id}).fetchone()
    if row is None:
        return None
    mark = row["mark"] if job.years.by == "file" and row["mark"] is not None else ""
    return RunWords(revived(row["words"]), row["digest"] == digest_of(job, mark))


def keep_weather(conn: sqlite3.Connection, job_id: int, name: str, year: MeasuredYear) -> RowChange:
    """Keep a weather file's hours, and tell what of the job changes by it; the caller owns the transaction."""
    hours = to_json(year)
    mark = sha256(hours.encode()).hexdigest()[:16]
    conn.execute(KEEP_HOURS, {"mark": mark, "hours": hours})
    before = row_at(conn, job_id, "weather", THE_FILE)
    if before is not None and (before["name"], before["mark"]) == (name, mark):
        return RowChange("weather", THE_FILE, before, before)
    taken = datetime.now(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")
    return RowChange("weather", THE_FILE, before, {"name": name, "mark": mark, "taken_at": taken})


def kept_weather(conn: sqlite3.Connection, job_id: int) -> KeptWeather | None:
    """The weather file of a job; None without one."""
    row = conn.execute(SELECT_WEATHER, {"job_id": job_id}).fetchone()
    return None if row is None else KeptWeather(row["name"], row["mark"], from_json(row["hours"]))
