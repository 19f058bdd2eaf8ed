"""Prove: what each test point should read now, and what was measured."""

from sqlite3 import Connection
from typing import Annotated, Any
from urllib.parse import urlencode

from fastapi import APIRouter, Depends, Request, Response
from fastapi.responses import RedirectResponse

from squall.core.errors import BadQuantity, NotFound, SquallError
from squall.core.prove.expect import (
    POINTS,
    TOLERANCE,
    Expected,
    expected_readings,
    judge,
    meaning,
)
from squall.core.reason import Spoken
from squall.drawing import draw
from squall.job.document.fields import with_unit
from squall.job.document.job import ReadingValue, Visit, quantity
from squall.job.edit.changes import add_visit, now_stamp, visit_id
from squall.job.told.prove import DEFAULT_AIR, KIND, light_by, now_from, point_figure
from squall.job.worked.assess import assess
from squall.job.worked.kit import KitAssessment
from squall.store.jobs import Stored, change_job, one_job
from squall.web.frame.job_page import Notices, job_page
from squall.web.frame.pages import Prefs, database, page, prefs_of
from squall.words import later, say
from squall.words.units import System, parse

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
# Number of the mark on the drawing at which each point is taken.
MARK: dict[str, int] = {"open-volts": 1, "short-amps": 1, "pump-volts": 2, "pump-amps": 2, "outlet-flow": 3}


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """Test points in the light of now, and earlier readings."""
    chosen = assess(stored.job).chosen
    query = request.query_params
    typed = {name: query.get(name, "")[:60] for name in ("light", "short", "air")}
    return sheet(chosen, typed, {}, prefs, stored)


def sheet(
    chosen: KitAssessment | None, typed: dict[str, str], measured: dict[str, str], prefs: Prefs, stored: Stored,
    problems: dict[str, str] | None = None,
) -> dict[str, Any]:  # fmt: skip
    """Everything the sheet shows for what is typed so far."""
    past = [(visit, [(value, _past_meaning(value)) for value in visit.values]) for visit in reversed(stored.job.visits)]
    if chosen is None:
        return {
            "rows": [],
            "now": None,
            "typed": typed,
            "problems": {},
            "past": past,
            "point_names": POINTS,
            "kinds": KIND,
            "light_by": light_by,
        }
    now, found = now_from(chosen, typed["light"], typed["short"], typed["air"], prefs.units)
    rows = []
    for expected in expected_readings(chosen.kit, chosen.layout, chosen.cabling, now):
        rows.append(
            {
                "expected": expected,
                "figure": point_figure(expected, now, chosen),
                "name": POINTS[expected.point],
                "kind": KIND[expected.point],
                "mark": MARK.get(expected.point),
                "tolerance": TOLERANCE[expected.point],
                "typed": measured.get(expected.point, ""),
            }
        )
    return {
        "rows": rows, "now": now, "typed": typed, "problems": {**found, **(problems or {})}, "past": past,
        "point_names": POINTS, "kinds": KIND, "light_by": light_by,
            "light_by": light_by,
    }  # fmt: skip


def _past_meaning(value: ReadingValue) -> Spoken:
    return say("nothing is promised here") if value.verdict is None else meaning(value.point, value.verdict)


@router.post("/jobs/{job_id}/readings")
async def add_reading(job_id: int, request: Request, conn: Db) -> Response:
    """Judge and keep what was measured: htmx gets the sheet back, a plain form a redirect."""
    form = {key: str(value)[:60] for key, value in (await request.form()).items()}
    stored, prefs = one_job(conn, job_id), prefs_of(request)
    chosen = assess(stored.job).chosen
    if chosen is None:
        raise NotFound(later("There is no kit to measure yet; choose one first."))
    typed = {name: form.get(name, "") for name in ("light", "short", "air")}
    now, problems = now_from(
        chosen, typed["light"], typed["short"] or form.get("short-amps", ""), typed["air"], prefs.units
    )
    values = []
    for expected in expected_readings(chosen.kit, chosen.layout, chosen.cabling, now):
        text_given = form.get(expected.point, "").strip()
        if not text_given:
            continue
        try:
            values.append(_value(expected, text_given, prefs.units))
        except SquallError as error:
            problems[expected.point] = str(error)
    if not values and not problems:
        problems["form"] = say("Nothing is typed yet: write at least one reading.")
    if problems:
        extra = sheet(chosen, typed, form, prefs, stored, problems)
        return _again(request, conn, stored, extra)
    visit = Visit(
        id=visit_id(stored.job), at=now_stamp(), option=chosen.option.name, irradiance_w_m2=now.irradiance_w_m2,
        air_c=_air(typed["air"], prefs.units), told_by=now.told_by.code, values=values,
    )  # fmt: skip
    stored = change_job(conn, job_id, lambda job: add_visit(job, visit), prefs.who)
    if request.headers.get("hx-request") is None:
        return RedirectResponse(f"/jobs/{job_id}/prove?{urlencode(typed)}", 303)
    extra = sheet(chosen, typed, {}, prefs, stored)
    return job_page(request, conn, stored, "prove", extra, Notices(banner=say("Readings kept.")))


def _again(request: Request, conn: Connection, stored: Stored, extra: dict[str, Any]) -> Response:
    banner = extra["problems"].get("form", say("Some readings can't be read; nothing typed is lost."))
    return job_page(request, conn, stored, "prove", extra, Notices(banner=banner, banner_kind="bad"), 422)


def _air(typed: str, units: System) -> float:
    return parse(typed or DEFAULT_AIR, "temperature", units)


def _value(expected: Expected, given: str, units: System) -> ReadingValue:
    kind = KIND[expected.point]
    value = parse(given, kind, units)
    if value < 0.0:
        raise BadQuantity(
            later(
                "{given:quoted} is less than nothing; turn the meter's leads round, or type it without the sign.",
                given=given,
            )
        )
    most = 1000.0 if kind != "flow" else 0.1
    if value > most:
        raise BadQuantity(
            later(
                "{given:quoted} is far more than any small pump's {POINTS}.", given=given, POINTS=POINTS[expected.point]
            )
        )
    return ReadingValue(
        point=expected.point,
        measured=quantity(with_unit(given, kind, units), value),
        expected=expected.value,
        low=expected.low,
        high=expected.high,
        verdict=judge(expected, value),
    )


@router.get("/jobs/{job_id}/sheet/test")
def print_sheet(job_id: int, request: Request, conn: Db) -> Response:
    """The test sheet alone, for paper."""
    stored, prefs = one_job(conn, job_id), prefs_of(request)
    assessment = assess(stored.job)
    typed = {name: request.query_params.get(name, "")[:60] for name in ("light", "short", "air")}
    extra = sheet(assessment.chosen, typed, {}, prefs, stored)
    return page(
        request, "prove/sheet.html",
        {"stored": stored, "job": stored.job, "a": assessment, "chosen": assessment.chosen,
         "wiring": assessment.wiring, "drawing": draw(job_id, assessment, "prove", narrow=False), **extra},
    )  # fmt: skip
