"""The place: where it is, what follows from it, its light through the year, and the same kit elsewhere."""

from sqlite3 import Connection
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Form, Request, Response

from squall.core.errors import SquallError
from squall.core.reason import Spoken
from squall.drawing.bands import light_bands
from squall.drawing.world import spot, world_svg
from squall.job.document.job import Job
from squall.job.edit.places import set_place
from squall.job.told.place import (
    doubt_how,
    doubt_words,
    light_how,
    light_source,
    made_how,
    place_figures,
    place_findings,
    place_words,
    short_words,
)
from squall.job.told.verdict import Verdict, verdict_of
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.bands import month_bands
from squall.job.worked.place import climate_of, where
from squall.store.jobs import Stored, change_job, one_job
from squall.web.frame.edits import answer
from squall.web.frame.job_page import Notices
from squall.web.frame.pages import Prefs, database, prefs_of, refusal_of
from squall.words.places import place_text, read_place

router = APIRouter()
Db = Annotated[Connection, Depends(database)]


@router.get("/world.svg")
def world() -> Response:
    """The outline of the world's land."""
    return Response(world_svg(), media_type="image/svg+xml", headers={"cache-control": "public, max-age=86400"})


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """Where it is, the months' light as bands, the air, and the same kit at another place."""
    a = assess(stored.job)
    context: dict[str, Any] = {
        "place_words": place_words(stored.job),
        "place_figures": place_figures(stored.job) if stored.job.placed else [],
        "place_found": place_findings(a),
        "spot": None,
        "bands": (),
        "elsewhere": None,
        "asked": request.query_params.get("see", request.query_params.get("place", "")),
    }
    if not stored.job.placed:
        return context
    climate, bands = climate_of(stored.job, a.parts), month_bands(a)
    return context | {
        "spot": spot(*where(stored.job)),
        "bands": bands,
        "bands_wide": light_bands(bands, narrow=False),
        "bands_narrow": light_bands(bands, narrow=True),
        "short_words": short_words(bands),
        "month_doubts": [doubt_words(a, climate, month) for month in range(12)],
        "light_how": light_how(a.job),
        "light_source": light_source(a.job, climate),
        "doubt_how": doubt_how(a.job),
        "made_how": made_how(),
        "elsewhere": _elsewhere(a, str(context["asked"])),
    }


class Elsewhere:
    """The same kit at another place: its words, verdict, and litres by month; or why it can't be said."""

    def __init__(
        self, words: str, verdict: Verdict | None, litres: list[float], at: tuple[float, float] | None, problem: str
    ) -> None:
        self.words = words
        self.verdict = verdict
        self.litres = litres
        self.spot = None if at is None else spot(*at)
        self.problem = problem


def _elsewhere(a: Assessment, asked: str) -> Elsewhere | None:
    """The job moved to another place, with nothing kept of it."""
    if not asked.strip() or a.chosen is None:
        return None
    try:
        at = read_place(asked)
        there = assess(set_place(a.job, *at)[0]).judged
    except SquallError as error:
        return Elsewhere(asked, None, [], None, str(error))
    litres = [] if there.chosen is None else there.chosen.season.average_litres.tolist()
    return Elsewhere(place_text(*at), verdict_of(there), litres, at, "")


@router.post("/jobs/{job_id}/place")
def put_there(
    job_id: int,
    request: Request,
    conn: Db,
    where_to: Annotated[str, Form(alias="place")] = "",
    stage: Annotated[str, Form()] = "place",
) -> Response:
    """Put the job at a typed or pressed place."""
    prefs = prefs_of(request)

    def change(job: Job) -> tuple[Job, Spoken]:
        return set_place(job, *read_place(where_to))

    try:
        stored = change_job(conn, job_id, change, prefs.who, check=assess)
    except SquallError as error:
        notices = Notices(errors={"place-at": str(error)}, typed={"place-at": where_to})
        return answer(request, conn, one_job(conn, job_id), stage, notices, refusal_of(error))
    return answer(request, conn, stored, stage)
