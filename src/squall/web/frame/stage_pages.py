"""The page of each stage, and the drawing as a file."""

from sqlite3 import Connection
from typing import Annotated

from fastapi import APIRouter, Depends, Request, Response
from fastapi.responses import RedirectResponse

from squall.drawing import draw_file
from squall.job.worked.assess import assess
from squall.store.jobs import one_job
from squall.web.frame.job_page import PANELS, STAGES, show
from squall.web.frame.pages import database
from squall.web.stages import join, kits, lift, need, outdoors, power, prove, store, sun, survey, wire, years

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
PANELS.update(
    survey=survey.panel, need=need.panel, lift=lift.panel, power=power.panel, kits=kits.panel, wire=wire.panel,
    prove=prove.panel, years=years.panel, sun=sun.panel, join=join.panel, store=store.panel, outdoors=outdoors.panel,
)  # fmt: skip


@router.get("/jobs/{job_id}")
def start(job_id: int, conn: Db) -> Response:
    """A job opens at its survey."""
    one_job(conn, job_id)
    return RedirectResponse(f"/jobs/{job_id}/survey", 303)


@router.get("/jobs/{job_id}/drawing.svg")
def drawing(job_id: int, request: Request, conn: Db, stage: str = "survey") -> Response:
    """The long-section as a file of its own."""
    stored = one_job(conn, job_id)
    svg = draw_file(job_id, stored.job.name, assess(stored.job), stage if stage in STAGES else "survey")
    return Response(
        svg, media_type="image/svg+xml", headers={"content-disposition": f'attachment; filename="job-{job_id}.svg"'}
    )


@router.get("/jobs/{job_id}/{stage}")
def stage_page(job_id: int, stage: str, request: Request, conn: Db) -> Response:
    """A job at one stage, or at a page under it."""
    return show(request, conn, one_job(conn, job_id), stage)
