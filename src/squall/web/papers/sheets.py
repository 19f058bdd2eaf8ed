"""Papers: as a page that prints, and as a file."""

from sqlite3 import Connection
from typing import Annotated

from fastapi import APIRouter, Depends, Request, Response

from squall.core.errors import NotFound
from squall.drawing import draw
from squall.store.jobs import Stored, one_job
from squall.web.frame.pages import database, file_name, page
from squall.web.papers.beside import Beside, beside_of
from squall.web.papers.content import PAPERS, STAGE_DRAWN, paper_of
from squall.web.papers.pdf import paper_pdf
from squall.words import later

router = APIRouter()
Db = Annotated[Connection, Depends(database)]


def _known(kind: str) -> str:
    if kind not in PAPERS:
        raise NotFound(
            later("There is no paper {kind:quoted}; there are: {known}.", kind=kind[:40], known=", ".join(PAPERS))
        )
    return kind


def _beside(conn: Connection, request: Request, stored: Stored, kind: str) -> Beside:
    return beside_of(conn, stored, kind, request.app.state.settings.addresses)


@router.get("/jobs/{job_id}/sheet/{kind}.pdf")
def sheet_file(job_id: int, kind: str, request: Request, conn: Db) -> Response:
    """A paper as a PDF file."""
    stored = one_job(conn, job_id)
    made = paper_pdf(stored, _known(kind), _beside(conn, request, stored, kind))
    name = file_name(f"{stored.job.name} {kind}", "pdf")
    return Response(
        made, media_type="application/pdf", headers={"content-disposition": f'attachment; filename="{name}"'}
    )


@router.get("/jobs/{job_id}/sheet/{kind}")
def print_sheet(job_id: int, kind: str, request: Request, conn: Db) -> Response:
    """A paper alone, to be printed."""
    stored = one_job(conn, job_id)
    shown = paper_of(stored, _known(kind), _beside(conn, request, stored, kind))
    narrow = draw(job_id, shown["job"].name, shown["a"], STAGE_DRAWN[kind], size="narrow")
    return page(request, "papers/page.html", {**shown, "drawing_for_phone": narrow, "papers": PAPERS})
