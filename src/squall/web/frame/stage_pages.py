"""The page of each stage, and the drawing as a file."""

from importlib import import_module
from sqlite3 import Connection
from typing import Annotated

from fastapi import APIRouter, Depends, Request, Response
from fastapi.responses import RedirectResponse

from squall.drawing import draw_file
from squall.job.stages import STAGES
from squall.job.worked.assess import assess
from squall.store.jobs import one_job
from squall.web.frame.job_page import PANELS, show
from squall.web.frame.pages import database, note_opened

router = APIRouter()
Db = Annotated[Connection, Depends(database)]


def routers() -> list[APIRouter]:
    """Bring in the page of every stage, ``web/stages/KEY.py`` with its ``panel``: the requests that are its own."""
    found = []
    for key in STAGES:
        module = import_module(f"squall.web.stages.{key}")
        PANELS[key] = module.panel
        if hasattr(module, "router"):
            found.append(module.router)
    return found


@router.get("/jobs/{job_id}")
def start(job_id: int, conn: Db) -> Response:
    """A job opens at its survey."""
    one_job(conn, job_id)
    return RedirectResponse(f"/jobs/{job_id}/survey", 303)


@router.get("/jobs/{job_id}/drawing.svg")
def drawing(job_id: int, request: Request, conn: Db, stage: str = "survey") -> Response:
    """The long-section as a file of its own."""
    stored = one_job(conn, job_id)
    svg = draw_file(job_id, stored.job.name, assess(stored.job), STAGES[stage].lens if stage in STAGES else "survey")
    return Response(
        svg, media_type="image/svg+xml", headers={"content-disposition": f'attachment; filename="job-{job_id}.svg"'}
    )


@router.get("/jobs/{job_id}/{stage}")
def stage_page(job_id: int, stage: str, request: Request, conn: Db) -> Response:
    """A job at one stage, or at a page under it."""
    answer = show(request, conn, one_job(conn, job_id), stage)
    note_opened(request, answer, job_id)
    return answer
