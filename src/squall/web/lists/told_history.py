"""A job's history as a person reads it: when, who, what."""

from sqlite3 import Connection
from typing import Annotated

from fastapi import APIRouter, Depends, Request, Response

from squall.store.history import history
from squall.store.jobs import one_job, person_of
from squall.web.frame.pages import RowId, database, page

router = APIRouter()
# States that are told, the newest. [-]
MOST = 500


@router.get("/jobs/{job_id}/history")
def told(job_id: RowId, request: Request, conn: Annotated[Connection, Depends(database)]) -> Response:
    """What was done to a job, the newest first."""
    stored = one_job(conn, job_id)
    rows = [(one.at, person_of(one.who), one.what) for one in history(conn, stored, MOST)]
    return page(request, "jobs/history.html", {"job": stored.job, "job_id": job_id, "rows": rows, "most": MOST})
