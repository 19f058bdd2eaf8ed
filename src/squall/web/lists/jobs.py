"""The list of jobs: make, import, export, delete, bring back."""

import re
from sqlite3 import Connection
from typing import Annotated

from fastapi import APIRouter, Depends, Form, Request, Response, UploadFile
from fastapi.responses import RedirectResponse
from pydantic import BaseModel

from squall.catalogue import catalogue
from squall.core.errors import BadFile, BadQuantity, NotFound, OutOfRange, SquallError
from squall.drawing import draw_thumbnail
from squall.formats import job_json
from squall.job.document.fields import read, spec
from squall.job.document.specs import WATER
from squall.job.edit.beginnings import KINDS, QUESTIONS, begun, one_more
from squall.job.told.verdict import missing_in, verdict_of
from squall.job.worked.assess import assess
from squall.store.jobs import Stored, add_job, all_jobs, delete_job, last_deleted, one_job, restore_deleted, whole
from squall.web.frame.pages import database, page, prefs_of
from squall.words import later, say

router = APIRouter()
Db = Annotated[Connection, Depends(database)]


class NewJob(BaseModel):
    """A new job as it is asked for: its name, of what kind, and three questions."""

    name: str = ""
    kind: str = ""
    water: str = ""
    lift: str = ""
    litres: str = ""


def _row(stored: Stored, request: Request, *, now: bool) -> dict[str, object]:
    """One job of the list; its summary is left for later while the libraries still load."""
    return {
        "stored": stored,
        "job": stored.job,
        "thumbnail": draw_thumbnail(stored.id, stored.job),
        "summary": _summary(stored, request) if now else None,
    }


def _summary(stored: Stored, request: Request) -> dict[str, object]:
    try:
        assessment = assess(stored.job)
        verdict = verdict_of(assessment)
        return {"verdict": verdict, "missing": missing_in(assessment, stored.visits), "problem": ""}
    except SquallError as error:
        return {"verdict": None, "missing": (), "problem": str(error)}


def _list(
    request: Request, conn: Connection, problem: str = "", status: int = 200, typed: NewJob | None = None
) -> Response:  # fmt: skip
    now = request.app.state.warmed.is_set()
    rows = [_row(stored, request, now=now) for stored in all_jobs(conn)]
    context = {
        "rows": rows,
        "problem": problem,
        "deleted": last_deleted(conn),
        "typed": typed or NewJob(),
        "kinds": KINDS,
        "waters": WATER,
    }
    return page(request, "jobs/list.html", context, status)


@router.get("/jobs/{job_id}/summary")
def summary(job_id: int, request: Request, conn: Db) -> Response:
    """Verdict and gaps of one job, for its row in the list."""
    return page(request, "jobs/_summary.html", {"summary": _summary(one_job(conn, job_id), request)})


@router.get("/")
def list_jobs(request: Request, conn: Db) -> Response:
    """All jobs with thumbnail, verdict and what is missing."""
    return _list(request, conn)


@router.post("/jobs")
def make_job(request: Request, conn: Db, form: Annotated[NewJob, Form()]) -> Response:
    """Make a new job and open its survey."""
    try:
        typed = read(form.name, spec("name", catalogue()), "metric")
        job = begun(typed, form.kind, form.model_dump(include=set(QUESTIONS)), catalogue(), prefs_of(request).units)
    except (BadQuantity, OutOfRange, NotFound) as error:
        return _list(request, conn, str(error), status=422, typed=form)
    stored = add_job(conn, job, prefs_of(request).who)
    return RedirectResponse(f"/jobs/{stored.id}/survey", 303)


@router.post("/jobs/{job_id}/copy")
def copy_job(job_id: int, request: Request, conn: Db) -> Response:
    """Make one more of a job, without what was logged of it."""
    stored = add_job(conn, one_more(one_job(conn, job_id).job), prefs_of(request).who, later("copied from another job"))
    return RedirectResponse(f"/jobs/{stored.id}/survey", 303)


@router.post("/import")
def import_job(request: Request, conn: Db, file: UploadFile) -> Response:
    """Take in an exported job; one that can't be taken changes nothing."""
    data = file.file.read(job_json.MOST_BYTES + 1)
    try:
        job = job_json.read(data, catalogue())
    except BadFile as error:
        return _list(request, conn, f"{(file.filename or 'The file')[:80]}: {error}", status=422)
    stored = add_job(conn, job, prefs_of(request).who, say("job imported"))
    return RedirectResponse(f"/jobs/{stored.id}/survey", 303)


@router.get("/jobs/{job_id}/export.json")
def export_job(job_id: int, conn: Db) -> Response:
    """A job as a JSON file."""
    stored = one_job(conn, job_id)
    name = re.sub(r"[^a-z0-9]+", "-", stored.job.name.lower()).strip("-") or f"job-{job_id}"
    return Response(
        job_json.export(whole(conn, stored)),
        media_type="application/json",
        headers={"content-disposition": f'attachment; filename="{name}.squall.json"'},
    )


@router.post("/jobs/{job_id}/delete")
def delete(job_id: int, request: Request, conn: Db) -> Response:
    """Delete a job; the list offers to bring it back."""
    delete_job(conn, job_id)
    return RedirectResponse("/", 303)


@router.post("/restore")
def bring_back(request: Request, conn: Db) -> Response:
    """Bring the last deleted job back."""
    stored = restore_deleted(conn, prefs_of(request).who)
    return RedirectResponse(f"/jobs/{stored.id}/survey", 303)
