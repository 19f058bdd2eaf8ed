"""The list of jobs: search, make, import, export, delete, bring back."""

from sqlite3 import Connection
from time import monotonic
from typing import Annotated
from urllib.parse import urlencode

from fastapi import APIRouter, Depends, Form, Query, Request, Response, UploadFile
from fastapi.responses import RedirectResponse
from pydantic import BaseModel

from squall.catalogue import catalogue
from squall.core.errors import BadFile, BadQuantity, NotFound, OutOfRange, SquallError
from squall.drawing import draw_thumbnail
from squall.formats import job_json
from squall.job.document.fields import read, spec
from squall.job.document.specs import WATER
from squall.job.edit.beginnings import KINDS, QUESTIONS, begun, one_more
from squall.job.told.verdict import GAPS, GRADE_WORDS, gaps_in, verdict_of
from squall.job.worked.assess import assess
from squall.store.jobs import Stored, add_job, jobs_of, one_job, whole
from squall.store.removed import delete_job, last_deleted, restore_deleted
from squall.store.standings import Standing, found, in_order, job_rows, keep_standings
from squall.web.frame.pages import database, file_name, opened_by, page, prefs_of
from squall.words import later, say

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
ON_A_PAGE = 20
# So many are worked out before the page is shown; of more, each when it comes into sight.
AT_ONCE = 8
# How long one request works out standings before it answers. [s]
A_WHILE_S = 0.4


class NewJob(BaseModel):
    """A new job as it is asked for: its name, of what kind, and three questions."""

    name: str = ""
    kind: str = ""
    water: str = ""
    lift: str = ""
    litres: str = ""


class ListQuery(BaseModel):
    """What is asked of the list: words, a grade, a gap, an order, a page from 1."""

    q: str = ""
    grade: str = ""
    missing: str = ""
    sort: str = "opened"
    page: int = 1

    @property
    def narrowed(self) -> bool:
        """Whether some jobs may be left out."""
        return bool(self.q.strip() or self.grade or self.missing)

    def address(self, page: int) -> str:
        """Of another page of the same list."""
        asked = {name: value for name, value in self.model_dump().items() if value and name != "page"}
        return "/?" + urlencode(asked | {"page": page})


def _shown(stored: Stored, *, now: bool) -> dict[str, object]:
    """One job of the list; its summary is left for later where many wait, or while the libraries still load."""
    return {
        "stored": stored,
        "job": stored.job,
        "thumbnail": draw_thumbnail(stored.id, stored.job),
        "summary": _summary(stored) if now else None,
    }


def _summary(stored: Stored) -> dict[str, object]:
    try:
        assessment = assess(stored.job)
        gaps = gaps_in(assessment, stored.visits)
        return {"verdict": verdict_of(assessment), "missing": [GAPS[gap] for gap in gaps], "problem": ""}
    except SquallError as error:
        return {"verdict": None, "missing": [], "problem": str(error)}


def _list(
    request: Request, conn: Connection, problem: str = "", status: int = 200, typed: NewJob | None = None,
    query: ListQuery | None = None,
) -> Response:  # fmt: skip
    query = query or ListQuery()
    every = job_rows(conn)
    rows = in_order(found(every, query.q, query.grade, query.missing, unknown=False), query.sort, opened_by(request))
    pages = max(-(-len(rows) // ON_A_PAGE), 1)
    number = min(max(query.page, 1), pages)
    here = jobs_of(conn, [row.id for row in rows[(number - 1) * ON_A_PAGE : number * ON_A_PAGE]])
    now = request.app.state.warmed.is_set() and len(here) <= AT_ONCE
    asked = bool(query.grade or query.missing)
    context = {
        "rows": [_shown(stored, now=now) for stored in here],
        "problem": problem,
        "deleted": last_deleted(conn),
        "typed": typed or NewJob(),
        "kinds": KINDS,
        "waters": WATER,
        "query": query,
        "found": len(rows),
        "every": len(every),
        "pages": pages,
        "number": number,
        "grades": GRADE_WORDS,
        "gaps": GAPS,
        "not_known": sum(row.grade is None for row in every) if asked else 0,
    }
    return page(request, "jobs/list.html", context, status)


@router.post("/standings")
def work_out_standings(request: Request, conn: Db) -> Response:
    """Work out how some of those jobs stand of which it isn't known; the page asks again until none is left."""
    begun_at, standings = monotonic(), []
    for row in job_rows(conn):
        if row.grade is not None:
            continue
        if monotonic() - begun_at > A_WHILE_S:
            break
        standings.append(_standing(one_job(conn, row.id)))
    keep_standings(conn, standings)
    rows = job_rows(conn)
    left = sum(row.grade is None for row in rows)
    answer = page(request, "jobs/_standings.html", {"not_known": left, "every": len(rows)})
    if not left:
        answer.headers["HX-Refresh"] = "true"
    return answer


def _standing(stored: Stored) -> Standing:
    try:
        assessment = assess(stored.job)
        return Standing(stored.id, stored.revision, verdict_of(assessment).grade, gaps_in(assessment, stored.visits))
    except SquallError:
        return Standing(stored.id, stored.revision, "stopped", ())


@router.get("/jobs/{job_id}/summary")
def summary(job_id: int, request: Request, conn: Db) -> Response:
    """Verdict and gaps of one job, for its row in the list."""
    return page(request, "jobs/_summary.html", {"summary": _summary(one_job(conn, job_id))})


@router.get("/")
def list_jobs(request: Request, conn: Db, query: Annotated[ListQuery, Query()]) -> Response:
    """The jobs with thumbnail, verdict and what is missing: those asked for, a page at a time."""
    return _list(request, conn, query=query)


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
