"""A job to carry on a phone with no server: one file with the drawing, what to read in any light, and room for readings.

What is typed there stays on the phone and comes back as a small file (``squall-readings``), which is judged here as
readings typed here are. A reading that is kept already is not kept twice; where the kit is another by now, it is asked.
"""

import json
from hashlib import sha256
from sqlite3 import Connection
from typing import Annotated, Literal

from fastapi import APIRouter, Depends, Form, Request, Response, UploadFile
from pydantic import BaseModel, ConfigDict, Field, StringConstraints, ValidationError

from squall.core.errors import BadFile, NotFound, SquallError
from squall.core.explain import QuantityName
from squall.core.prove.expect import POINTS
from squall.drawing import draw
from squall.job.told.prove import KIND, light_columns, taken_of
from squall.job.told.verdict import verdict_of
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.kit import KitAssessment
from squall.job.worked.resolve import devices_of
from squall.store.jobs import Stored, one_job, whole
from squall.store.log import add_visit
from squall.web.frame.edits import answer
from squall.web.frame.job_page import Notices
from squall.web.frame.pages import STATIC, database, environment, file_name, prefs_of, refusal_of, speaker
from squall.web.frame.script_words import script_words
from squall.web.papers.content import BUCKET, hose_lines
from squall.web.papers.pdf import drawing_style
from squall.web.stages.prove import MARK
from squall.words import later, say, say_n, voice
from squall.words.units import KINDS, parse, scale, shown

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
# Lights for which the file knows what to read; between two it goes straight. [W/m2]
LIGHTS = tuple(float(light) for light in range(50, 1201, 50))
MOST_BYTES = 200_000
Text = Annotated[str, StringConstraints(max_length=60)]


class CarriedVisit(BaseModel):
    """What was typed at one time, as text."""

    model_config = ConfigDict(extra="forbid")
    at: Annotated[str, StringConstraints(pattern=r"^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d)?Z?$")]
    typed: Annotated[dict[Text, Text], Field(max_length=20)]


class Carried(BaseModel):
    """The small file that comes back."""

    model_config = ConfigDict(extra="forbid")
    format: Literal["squall-readings"]
    version: Literal[1]
    job: int
    name: Annotated[str, StringConstraints(max_length=200)]
    kit: Text
    units: Literal["metric", "us"]
    visits: Annotated[list[CarriedVisit], Field(min_length=1, max_length=200)]


def kit_mark(a: Assessment, chosen: KitAssessment) -> str:
    """Another for every kit and line: by it a file from the phone tells what it was made for."""
    return sha256(repr((chosen.setup.kit, chosen.layout, a.pump_band)).encode()).hexdigest()[:16]


def _number(value: float | None, kind: QuantityName) -> float | None:
    """In the person's own units, for the file's own arithmetic."""
    if value is None:
        return None
    factor, offset = scale(kind, KINDS[kind].us if voice().units == "us" else KINDS[kind].metric)
    return float(f"{value * factor + offset:.4g}")


def field_html(stored: Stored) -> str:
    """The whole file.

    Raises
    ------
    NotFound
        If no kit is chosen: then there is nothing to read.
    """
    a = assess(stored.job)
    chosen = a.chosen
    if chosen is None:
        raise NotFound(later("No kit is chosen yet, so there is nothing to carry: choose one first."))
    columns = light_columns(a, chosen, LIGHTS)
    points = [
        {
            "point": point, "name": str(POINTS[point]), "sign": shown(0.0, KIND[point])[1], "mark": MARK.get(point),
            "lanes": [[_number(getattr(c.points.get(point), name, None), KIND[point]) for c in columns] for name in ("value", "low", "high")],
        }
        for point in columns[-1].points
    ]  # fmt: skip
    bucket = BUCKET[voice().units]
    data = {
        "job": stored.id, "name": stored.job.name, "kit": kit_mark(a, chosen), "units": voice().units, "lights": LIGHTS, "points": points,
        "bucket": _number(parse(bucket, "litres", voice().units), "litres"), "words": script_words(),
    }  # fmt: skip
    svg = str(draw(stored.id, stored.job.name, a, "prove", size="narrow"))
    context = {
        **speaker(), "job": stored.job, "verdict": verdict_of(a), "chosen": chosen, "wiring": a.wiring, "devices": devices_of(stored.job, a.parts), "hoses": hose_lines(a, chosen), "joints": None, "points": points,
        "drawing_svg": svg.replace(">", f"><style>{drawing_style()} .section.narrow {{ display: block; }}</style>", 1), "bucket": bucket,
        "data": json.dumps(data, ensure_ascii=True, allow_nan=False).replace("<", "\\u003c"), "style": (STATIC / "field.css").read_text("utf8"),
        "script": (STATIC / "field.js").read_text("utf8"),
    }  # fmt: skip
    return environment().get_template("papers/field.html").render(context)


@router.get("/jobs/{job_id}/field.html")
def field_file(job_id: int, conn: Db) -> Response:
    """The job as one file for a phone."""
    stored = one_job(conn, job_id)
    name = file_name(f"{stored.job.name} field", "html")
    return Response(
        field_html(stored), media_type="text/html", headers={"content-disposition": f'attachment; filename="{name}"'}
    )


@router.post("/jobs/{job_id}/carried")
def take_back(
    job_id: int, request: Request, conn: Db, file: UploadFile | None = None, text: Annotated[str, Form()] = "",
    anyway: Annotated[str, Form()] = "",
) -> Response:  # fmt: skip
    """Take in the readings of a phone's file: each kept once, judged by the kit as it is."""
    stored = one_job(conn, job_id)
    try:
        data = file.file.read(MOST_BYTES + 1) if file is not None else text.encode()
        carried = _read(data)
        told = _kept(conn, stored, carried, prefs_of(request).who, anyway=anyway == "yes")
    except _OtherKit as error:
        notices = Notices(banner=str(error), banner_kind="bad", typed={"carried": data.decode()})
        return answer(request, conn, stored, "prove", notices, 409)
    except SquallError as error:
        status = refusal_of(error)
        return answer(request, conn, stored, "prove", Notices(banner=str(error), banner_kind="bad"), status)
    return answer(request, conn, one_job(conn, job_id), "prove", Notices(banner=told))


class _OtherKit(SquallError):
    """The file was made for another kit or line than the job has now."""


def _read(data: bytes) -> Carried:
    if len(data) > MOST_BYTES:
        raise BadFile(later("That file is too large for readings from the field."))
    try:
        return Carried.model_validate_json(data)
    except ValidationError as error:
        raise BadFile(
            later("That is no file of readings from the field, or it is damaged: {why}.", why=error.errors()[0]["msg"])
        ) from error


def _kept(conn: Connection, stored: Stored, carried: Carried, who: str, *, anyway: bool) -> str:
    a = assess(stored.job)
    if a.chosen is None:
        raise NotFound(later("There is no kit to measure yet; choose one first."))
    if not anyway and (carried.kit != kit_mark(a, a.chosen) or carried.job != stored.id):
        raise _OtherKit(
            later("These readings were taken on “{name}” with a kit or line that isn't this job's any more. Judged by what stands here now they may look wrong.", name=carried.name)
        )  # fmt: skip
    there = {visit.at for visit in whole(conn, stored).visits}
    new, problems = 0, []
    for visit in carried.visits:
        if visit.at in there:
            continue
        taken = taken_of(a, a.chosen, visit.typed, carried.units)
        if taken.problems:
            problems += [f"{visit.at}: {problem}" for problem in taken.problems.values()]
            continue
        add_visit(conn, stored.id, lambda visit_id, taken=taken, at=visit.at: taken.visit(visit_id, at), who)  # type: ignore[misc]
        new += 1
    told = say_n("{n} set of readings kept.", "{n} sets of readings kept.", new)
    if len(carried.visits) - new - len(problems) > 0:
        told += " " + say("Those that were here already were not kept twice.")
    return " ".join([told, *problems])
