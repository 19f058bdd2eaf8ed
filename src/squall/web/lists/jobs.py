"""Jobs as a whole: made, copied, taken in, given out, deleted, brought back."""

from sqlite3 import Connection
from typing import Annotated

from fastapi import APIRouter, Depends, Form, Request, Response, UploadFile
from fastapi.responses import RedirectResponse

from squall.catalogue import catalogue
from squall.core.errors import BadFile, BadQuantity, NotFound, OutOfRange
from squall.formats import history_json, job_json
from squall.job.document.fields import read, spec
from squall.job.edit.beginnings import QUESTIONS, begun, one_more
from squall.store.jobs import add_job, one_job, whole
from squall.store.kit.handed import TAKEN_IN, take_in
from squall.store.removed import delete_job, restore_deleted
from squall.web.frame.pages import database, file_name, page, prefs_of
from squall.web.lists.board import NewJob, listed
from squall.words import later

router = APIRouter()
Db = Annotated[Connection, Depends(database)]


@router.post("/jobs")
def make_job(request: Request, conn: Db, form: Annotated[NewJob, Form()]) -> Response:
    """Make a new job and open its survey."""
    try:
        typed = read(form.name, spec("name", catalogue()), "metric")
        job = begun(typed, form.kind, form.model_dump(include=set(QUESTIONS)), catalogue(), prefs_of(request).units)
    except (BadQuantity, OutOfRange, NotFound) as error:
        return listed(request, conn, str(error), status=422, typed=form)
    stored = add_job(conn, job, prefs_of(request).who)
    return RedirectResponse(f"/jobs/{stored.id}/survey", 303)


@router.post("/jobs/{job_id}/copy")
def copy_job(job_id: int, request: Request, conn: Db) -> Response:
    """Make one more of a job, without what was logged of it."""
    stored = add_job(conn, one_more(one_job(conn, job_id).job), prefs_of(request).who, later("copied from another job"))
    return RedirectResponse(f"/jobs/{stored.id}/survey", 303)


@router.post("/import")
def import_job(request: Request, conn: Db, file: UploadFile) -> Response:
    """Take in an exported job, or its whole history; one that can't be taken changes nothing."""
    data = file.file.read(job_json.MOST_BYTES + 1)
    try:
        history = history_json.read(data, catalogue())
    except BadFile as error:
        return listed(request, conn, f"{(file.filename or 'The file')[:80]}: {error}", status=422)
    who = prefs_of(request).who
    stored = take_in(conn, history, who, later("job taken in") if history.alone else TAKEN_IN)
    return RedirectResponse(f"/jobs/{stored.id}/survey", 303)


@router.get("/jobs/{job_id}/export.json")
def export_job(job_id: int, conn: Db) -> Response:
    """A job as a JSON file."""
    stored = one_job(conn, job_id)
    return Response(
        job_json.export(whole(conn, stored)),
        media_type="application/json",
        headers={"content-disposition": f'attachment; filename="{file_name(stored.job.name, "squall.json")}"'},
    )


@router.post("/jobs/{job_id}/delete")
def delete(job_id: int, request: Request, conn: Db) -> Response:
    """Delete a job; where it stood, the list offers to bring it back."""
    name = delete_job(conn, job_id, prefs_of(request).who)
    if request.headers.get("hx-request") is None:
        return RedirectResponse("/", 303)
    return page(request, "jobs/_deleted.html", {"removed": job_id, "name": name})


@router.post("/restore")
def bring_back(request: Request, conn: Db, removed: Annotated[int | None, Form()] = None) -> Response:
    """Bring a deleted job back, the last one if none is named."""
    stored = restore_deleted(conn, prefs_of(request).who, removed)
    return RedirectResponse(f"/jobs/{stored.id}/survey", 303)
