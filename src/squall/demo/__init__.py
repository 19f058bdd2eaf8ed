"""The demo's jobs: invented people and places in steep dry hill country, about 30 degrees south."""

import json
import sqlite3
from importlib.resources import files

from squall.job.document.job import Job
from squall.store.jobs import add_job, all_jobs


def demo_jobs() -> list[Job]:
    """The demo's jobs, each a different kind of water and trouble."""
    plain = json.loads((files("squall.demo") / "jobs.json").read_text("utf8"))
    return [Job.model_validate(one) for one in plain]


def fill(conn: sqlite3.Connection) -> None:
    """Put the demo's jobs into an empty database; one with jobs is left as it is."""
    if all_jobs(conn):
        return
    for job in demo_jobs():
        add_job(conn, job, "demo", "demo job made")
