"""Survey: the water and its level, the run, the lift, the sky."""

from sqlite3 import Connection
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Form, Request, Response, UploadFile
from pydantic import BaseModel

from squall.catalogue import catalogue
from squall.core.errors import SquallError
from squall.core.hydraulics.tracks import profile_of
from squall.core.reason import Spoken
from squall.core.sources.levels import WAYS
from squall.formats import gpx
from squall.job.document.fields import spec
from squall.job.document.job import Job
from squall.job.document.specs import ROWS
from squall.job.edit.changes import run_from_track
from squall.job.edit.places import set_place
from squall.job.edit.rows import add_typed_row, today
from squall.job.told.lift import bottom_findings, level_findings
from squall.job.told.place import place_figures, place_findings, place_words
from squall.job.told.sources import pond_figures, pond_findings, roof_figures
from squall.job.told.survey import (
    hang_figures,
    level_figures,
    run_findings,
    suction_figures,
    suction_findings,
    water_findings,
    well_findings,
)
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.heights import reading_level
from squall.job.worked.resolve import piece_k
from squall.job.worked.served import places_served
from squall.job.worked.water_accounts import PondView, RoofView, day_of, pond_view, roof_view
from squall.store.jobs import Stored, change_job, one_job
from squall.web.frame.edits import answer, make
from squall.web.frame.job_page import Notices
from squall.web.frame.pages import Prefs, chart_number, database, prefs_of, refusal_of
from squall.words import later, say
from squall.words.calendar import month_name
from squall.words.units import shown

router = APIRouter()
Db = Annotated[Connection, Depends(database)]


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """Readings and their sum, findings of well, suction, run and water, the pond, the roof."""
    a, job = assess(stored.job), stored.job
    context: dict[str, Any] = {
        "piece_ks": {piece.id: piece_k(piece, a.parts) for piece in job.run},
        "hose_words": {**(spec("run.p1.hose", a.parts).choices or {}), "own": say("of your own bore")},
        "carried": [
            spec(f"carries.{name}", a.parts).label for name, there in job.carries.model_dump().items() if there is True
        ],
        "length_first": any(path.startswith("run.") for path in job.unsaid),
        "ways": WAYS,
        "today": today(),
        "levels": {row.id: reading_level(job, row) for row in job.level.readings},
        "outliers": _outliers(a),
        "level_figures": level_figures(a),
        "hang_figures": hang_figures(a),
        "suction_figures": suction_figures(a),
        "level_found": level_findings(a),
        "well_found": [*well_findings(a), *bottom_findings(a)],
        "suction_found": suction_findings(a),
        "run_found": run_findings(a),
        "water_found": water_findings(a),
        "place_words": place_words(job),
        "place_figures": place_figures(job) if job.placed else [],
        "place_found": place_findings(a),
        **_places(a),
        "pond": None,
        "pond_problem": "",
        "roof": None,
    }
    if job.water == "pond":
        try:
            view = pond_view(a)
            context |= {"pond": view, "pond_problem": view.problem, "pond_chart": pond_chart(view, job),
                        "pond_figures": pond_figures(view, view.start.month - 1), "pond_found": pond_findings(a, view), "day_of": day_of}  # fmt: skip
        except SquallError as error:
            context["pond_problem"] = str(error)
    if job.water == "cistern" and job.roof.used:
        roof = roof_view(a)
        context |= {"roof": roof, "roof_figures": roof_figures(roof), "roof_chart": roof_chart(roof)}
    return context


def _places(a: Assessment) -> dict[str, Any]:
    """The places that share the kit, and how one more is typed."""
    place = ROWS["outlets"]
    behind = {piece.id: later("after “{name}”", name=piece.name) for piece in a.job.run[:-1]}
    return {
        "served": places_served(a),
        "served_v": 0.0 if a.chosen is None else a.chosen.working_v,
        "worst_month": "" if a.judged.chosen is None else month_name(a.judged.chosen.worst_month),
        "place_labels": {name: spec.label for name, spec in place.items()},
        "place_after": {**(place["after"].choices or {}), **behind},
    }


def _outliers(a: Assessment) -> set[str]:
    """Readings that lie more than twice their doubt from the weighed level."""
    level = a.heights.level
    return set() if level is None else {a.job.level.readings[number].id for number in level.outliers}


def pond_chart(view: PondView, job: Job) -> dict[str, Any]:
    """Depth of the pond through a year, and the depth at which the intake is bare."""
    days = range(0, len(view.depths_m), 5)
    return {
        "type": "pond",
        "y": say("depth, {shown}", shown=shown(0, "head")[1]),
        "days": [day_of(view, day).isoformat() for day in days],
        "depth": [chart_number(view.depths_m[day], "head") for day in days],
        "bare": chart_number(job.pond.intake.si, "head"),
    }


def roof_chart(view: RoofView) -> dict[str, Any]:
    """Water in the tanks through the year."""
    levels = view.year.level_m3
    return {
        "type": "tanks",
        "y": say("in the tanks, {shown}", shown=shown(0, "litres")[1]),
        "days": list(range(1, len(levels) + 1)),
        "level": [chart_number(level, "litres") for level in levels],
        "full": chart_number(view.tank_m3, "litres"),
    }


@router.post("/jobs/{job_id}/survey/reading")
def keep_reading(
    job_id: int,
    request: Request,
    conn: Db,
    way: Annotated[str, Form()] = "tape",
    value: Annotated[str, Form()] = "",
    raised: Annotated[str, Form()] = "",
    on: Annotated[str, Form()] = "",
) -> Response:
    """Keep a reading of the level; the job then goes by its readings."""
    prefs = prefs_of(request)
    typed = {"value": value, "on": on} | ({"raised": raised} if raised.strip() else {})

    def change(job: Job) -> tuple[Job, Spoken]:
        changed, words = add_typed_row(job, "level.readings", way, typed, catalogue(), prefs.units)
        return changed.model_copy(update={"level": changed.level.model_copy(update={"by": "readings"})}), words

    try:
        stored = change_job(conn, job_id, change, prefs.who, check=assess)
    except SquallError as error:
        notices = Notices(
            errors={"new-reading": str(error)}, typed={"way": way, "value": value, "raised": raised, "on": on}
        )
        return answer(request, conn, one_job(conn, job_id), "survey", notices, refusal_of(error))
    return answer(request, conn, stored, "survey")


class PlaceForm(BaseModel):
    """One more place as it is typed."""

    name: str = ""
    lift: str = ""
    length: str = ""
    share: str = ""
    after: str = ""


@router.post("/jobs/{job_id}/survey/place")
def serve_place(job_id: int, request: Request, conn: Db, form: Annotated[PlaceForm, Form()]) -> Response:
    """One more place that shares the kit; its hose is that of the run until it is changed."""
    prefs = prefs_of(request)
    given = form.model_dump()

    def change(job: Job) -> tuple[Job, Spoken]:
        last = job.run[-1]
        typed = {key: text for key, text in given.items() if key != "name" or text.strip()}
        changed, words = add_typed_row(job, "outlets", "", typed, catalogue(), prefs.units)
        laid = {"hose": last.hose, "bore": last.bore, "roughness": last.roughness}
        row = changed.outlets[-1].model_copy(update=laid)
        return changed.model_copy(update={"outlets": [*changed.outlets[:-1], row]}), words

    try:
        stored = change_job(conn, job_id, change, prefs.who, check=assess)
    except SquallError as error:
        typed = {f"place-{key}": text for key, text in given.items()}
        notices = Notices(errors={"new-place": str(error)}, typed=typed)
        return answer(request, conn, one_job(conn, job_id), "survey", notices, 422)
    return answer(request, conn, stored, "survey")


@router.post("/jobs/{job_id}/survey/track")
def lay_along(job_id: int, request: Request, conn: Db, file: UploadFile) -> Response:
    """Lay the run along a walked track."""
    data = file.file.read(gpx.MOST_BYTES + 1)

    def change(job: Job) -> tuple[Job, Spoken]:
        points = gpx.read(data)
        laid, words = run_from_track(job, profile_of(points))
        if job.placed:
            return laid, words
        # A track knows where it was walked: a job without a place takes that of its first point.
        placed, told = set_place(laid, points[0].latitude_deg, points[0].longitude_deg)
        return placed, later("{words}; {told}", words=words, told=told)

    return make(request, conn, job_id, "survey", change)
