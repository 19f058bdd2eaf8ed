"""The demo's jobs and its yard: invented people and places in steep dry hill country, about 30 degrees south."""

import json
import re
import sqlite3
from datetime import date
from importlib.resources import files

from squall.job.document.job import Job
from squall.job.kept.history import History
from squall.store.jobs import add_job, all_jobs
from squall.store.kit.handed import take_in

_DAY = re.compile(r"(?<!\d)(20\d\d-\d\d-\d\d)(?!\d)")


def demo_jobs() -> list[Job]:
    """The demo's jobs, each a different kind of water and trouble."""
    plain = json.loads((files("squall.demo") / "jobs.json").read_text("utf8"))
    return [Job.model_validate(one) for one in plain]


def yard(today: date) -> list[History]:
    """Twelve kits with two years of visits, upkeep and mends, moved by whole days so that the last of them is today."""
    text = (files("squall.demo") / "yard.json").read_text("utf8")
    moved = today - date.fromisoformat(json.loads(text)["last_day"])
    text = _DAY.sub(lambda day: (date.fromisoformat(day[1]) + moved).isoformat(), text)
    return [History.model_validate(one) for one in json.loads(text)["kits"]]


def fill(conn: sqlite3.Connection) -> None:
    """Put the demo's jobs into an empty database; one with jobs is left as it is."""
    if all_jobs(conn):
        return
    for job in demo_jobs():
        add_job(conn, job, "demo", "demo job made")


def fill_yard(conn: sqlite3.Connection, today: date) -> None:
    """Put the demo's yard into an empty database; one with jobs is left as it is."""
    if all_jobs(conn):
        return
    for history in yard(today):
        take_in(conn, history, "demo", "demo job made")
