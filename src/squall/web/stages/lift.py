"""Lift: pump curve against line, where the head goes, what costs water, pumps of one's own, files out."""

from sqlite3 import Connection
from typing import Annotated, Any

import numpy as np
from fastapi import APIRouter, Depends, Form, Request, Response, UploadFile
from pydantic import BaseModel

from squall.catalogue import catalogue
from squall.core.errors import NotFound, SquallError
from squall.core.hydraulics.pressures import Station, lowest_pressure
from squall.core.kit.ends import FIT_WORDS, SCHOOLS
from squall.core.reason import Spoken
from squall.formats import epanet, pump_curves
from squall.job.document.job import Job
from squall.job.edit.rows import add_typed_row, own_pump_from_curve
from squall.job.fitted.joints import joints_of
from squall.job.told.lift import (
    Trim,
    costs_of,
    ends_of,
    how_fitted,
    life_figures,
    lift_figures,
    own_view,
    trim_of,
)
from squall.job.told.survey import run_findings, suction_findings
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.kit import KitAssessment
from squall.job.worked.own_parts import homemades
from squall.job.worked.run import heights_along, stations_of
from squall.store.jobs import Stored, change_job, one_job
from squall.web.frame.edits import answer, make
from squall.web.frame.job_page import Notices
from squall.web.frame.pages import Prefs, chart_number, database, prefs_of, refusal_of
from squall.words import later, say, voice
from squall.words.units import parse, shown

router = APIRouter()
Db = Annotated[Connection, Depends(database)]


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """Figures, losses by the water they cost, pressures along the run, the charts, pumps of one's own."""
    a = assess(stored.job)
    context: dict[str, Any] = {
        "figures": [], "costs": [], "chart": None, "stations": [], "grade_chart": None, "trim": None, "joints": None,
        "ends": ends_of(a), "fit_words": FIT_WORDS, "schools": SCHOOLS,
        "own": [own_view(a, made) for made in homemades(stored.job)],
    }  # fmt: skip
    if a.chosen is None:
        return context
    places = stations_of(a.chosen)
    return context | {
        "figures": lift_figures(a.chosen),
        "life": life_figures(a.chosen),
        "costs": costs_of(a, a.chosen),
        "chart": curve_chart(a.chosen, a.pump_band),
        "stations": places,
        "lowest": lowest_pressure(places) if places else None,
        "grade_chart": grade_chart(places) if places else None,
        "trim": trim(request, a.chosen),
        "joints": joints_of(a, a.chosen),
        "run_found": run_findings(a) + suction_findings(a),
    }


def trim(request: Request, chosen: KitAssessment) -> Trim:
    """The valve for the flow asked in the address, if one is asked."""
    typed = request.query_params.get("trim", "")[:40]
    if not typed.strip():
        return Trim("", None, [], "")
    try:
        return trim_of(chosen, parse(typed, "flow", voice().units), typed)
    except SquallError as error:
        return Trim(typed, None, [], str(error))


def curve_chart(chosen: KitAssessment, band: float) -> dict[str, Any]:
    """Pump curve at the volts shown with its doubt, the line's demand, and their crossing, in a person's units."""
    curve = chosen.working_curve
    line = chosen.layout.line(chosen.kit.hose)
    flows = np.linspace(curve.first[0], curve.last[0], 41)
    heads = curve.heads_m(flows)
    system = line.head_at(flows)
    top = max(float(np.nanmax(heads)), line.static_head_m) * 1.25
    crossing = chosen.crossing

    def pairs(values: Any, times: float = 1.0) -> list[list[float]]:
        return [
            [chart_number(q * times, "flow"), chart_number(h, "head")]
            for q, h in zip(flows, values, strict=True)
            if np.isfinite(h) and h <= top
        ]

    point = None
    if crossing.flow_m3_s and crossing.head_m is not None:
        point = [chart_number(crossing.flow_m3_s, "flow"), chart_number(crossing.head_m, "head")]
    return {
        "type": "curves",
        "name": say("pump at {working:volts}", working=chosen.working_v),
        "x": say("flow, {shown}", shown=shown(0, "flow")[1]),
        "y": say("head, {shown}", shown=shown(0, "head")[1]),
        "pump": pairs(heads),
        "low": pairs(heads, 1.0 - band) if band > 0.0 else [],
        "high": pairs(heads, 1.0 + band) if band > 0.0 else [],
        "measured": [[chart_number(q, "flow"), chart_number(h, "head")] for q, h in curve.points],
        "system": pairs(system),
        "point": point,
    }


def grade_chart(places: list[Station]) -> dict[str, Any]:
    """Height of the run and hydraulic grade over the length of hose, to scale."""
    return {
        "type": "grade",
        "x": say("along the run, {shown}", shown=shown(0, "length")[1]),
        "y": say("height, {shown}", shown=shown(0, "head")[1]),
        "run": [[chart_number(p.along_m, "length"), chart_number(p.height_m, "head")] for p in places],
        "grade": [[chart_number(p.along_m, "length"), chart_number(p.grade_m, "head")] for p in places],
    }


class TestForm(BaseModel):
    """A bucket test, or a point of a curve, as it is typed."""

    __test__ = False

    pump: str
    height: str = ""
    bucket: str = ""
    seconds: str = ""
    flow: str = ""
    amps: str = ""


@router.post("/jobs/{job_id}/lift/test")
def keep_test(job_id: int, request: Request, conn: Db, form: Annotated[TestForm, Form()]) -> Response:
    """Keep a bucket test, or a point of a curve, of a pump of one's own."""
    prefs, pump = prefs_of(request), form.pump
    asked = form.model_dump(exclude={"pump"})
    typed = {name: text for name, text in asked.items() if text.strip() or name == "height"}

    def change(job: Job) -> tuple[Job, Spoken]:
        return add_typed_row(job, f"own_pumps.{pump}.points", "", typed, catalogue(), prefs.units)

    try:
        stored = change_job(conn, job_id, change, prefs.who, check=assess)
    except SquallError as error:
        notices = Notices(errors={f"test-{pump}": str(error)}, typed=asked)
        return answer(request, conn, one_job(conn, job_id), "lift", notices, refusal_of(error))
    return answer(request, conn, stored, "lift")


@router.post("/jobs/{job_id}/lift/curve")
def read_curve(job_id: int, request: Request, conn: Db, file: UploadFile) -> Response:
    """A pump of one's own from a CSV file of its curve."""
    data = file.file.read(pump_curves.MOST_BYTES + 1)
    name = (file.filename or "pump").rsplit(".", 1)[0][:40]

    def change(job: Job) -> tuple[Job, Spoken]:
        curve = pump_curves.read(data)
        points = [(row.flow_m3_s, row.head_m, row.amps) for row in curve.rows]
        return own_pump_from_curve(job, name, points, curve.told, catalogue())

    return make(request, conn, job_id, "lift", change)


def _chosen(conn: Connection, job_id: int) -> tuple[Assessment, KitAssessment]:
    a = assess(one_job(conn, job_id).job)
    if a.chosen is None:
        raise NotFound(later("No kit is chosen yet; take one on the Kits page first."))
    return a, a.chosen


@router.get("/jobs/{job_id}/model.inp")
def model(job_id: int, conn: Db) -> Response:
    """The hydraulic model as an EPANET file."""
    _, chosen = _chosen(conn, job_id)
    text = epanet.write(
        one_job(conn, job_id).job.name,
        chosen.kit,
        chosen.layout,
        heights_along(chosen.layout, chosen.kit.pump),
        chosen.working_curve,
    )
    return _file(text, "text/plain", f"job-{job_id}.inp")


@router.get("/jobs/{job_id}/pump.csv")
def pump_file(job_id: int, conn: Db) -> Response:
    """The chosen pump's points as CSV."""
    a, chosen = _chosen(conn, job_id)
    text = pump_curves.write(chosen.kit.pump, how_fitted(a.job, chosen.kit.pump))
    return _file(text, "text/csv", f"job-{job_id}-pump.csv")


def _file(text: str, kind: str, name: str) -> Response:
    return Response(
        text, media_type=f"{kind}; charset=utf-8", headers={"content-disposition": f'attachment; filename="{name}"'}
    )
