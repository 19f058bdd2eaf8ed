"""Prove: what each test point should read now, and what was measured."""

from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from sqlite3 import Connection
from typing import Annotated, Any
from urllib.parse import urlencode

from fastapi import APIRouter, Depends, Request, Response
from fastapi.responses import RedirectResponse

from squall.core.errors import BadQuantity, Busy, NotFound
from squall.core.faults.causes import Part
from squall.core.prove.expect import POINTS, Now, Point, meaning, typed_light
from squall.core.reason import Spoken
from squall.drawing import Over, draw
from squall.drawing.sheet import Size
from squall.job.document.job import ReadingValue, Visit
from squall.job.edit.changes import now_stamp
from squall.job.kept.as_learned import points_as_learned
from squall.job.kept.record import day_of
from squall.job.kept.suspected import FRESH
from squall.job.kept.upkeep import CHECK_OF
from squall.job.told.prove import KIND, expected_now, light_by, now_from, point_figure, taken_of
from squall.job.trouble.chain import chain_of, read_at
from squall.job.worked.assess import Assessment, assess
from squall.store.folder.database import connect
from squall.store.jobs import Stored, one_job
from squall.store.kit.record import record_of
from squall.store.log import add_visit, latest_visits
from squall.web.frame.edits import form_of
from squall.web.frame.job_page import Notices, job_page
from squall.web.frame.pages import Prefs, database, prefs_of, status_of
from squall.web.stages.circuit import marked_diagrams, readings_on
from squall.words import later, say
from squall.words.units import text

router = APIRouter()
# Visits shown on the page, newest first; the export has them all.
SHOWN_VISITS = 30
Db = Annotated[Connection, Depends(database)]
# What is asked of the moment: light, short-circuit amps, air, the bank's volts.
ASKED = ("light", "short", "air", "bank")
# Number of the mark on the drawing at which each point is taken.
MARK: dict[str, int] = {"open-volts": 1, "short-amps": 1, "pump-volts": 2, "pump-amps": 2, "outlet-flow": 3}


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """Test points in the light of now, and earlier readings."""
    assessment = assess(stored.job)
    typed = {name: request.query_params.get(name, "")[:60] for name in ASKED}
    conn = connect(request.app.state.settings.database)
    try:
        shown = sheet(assessment, typed, {}, prefs, stored, latest_visits(conn, stored.id, SHOWN_VISITS))
        drawn = _with_readings(stored, assessment, shown["past"])
        return shown | drawn | {"as_learned": _as_learned(conn, stored.id, assessment, shown["now"])}
    finally:
        conn.close()


# Where on the drawing each point is read.
_READ_AT: Mapping[str, str] = {
    "open-volts": "panel", "short-amps": "panel", "pump-volts": "pump", "pump-amps": "pump", "outlet-flow": "outlet",
}  # fmt: skip
_SIGN = {"good": "✓", "low": "✕", "high": "✕", None: ""}


def _with_readings(stored: Stored, a: Assessment, past: Sequence[tuple[Visit, Any]]) -> dict[str, Any]:
    """The drawing with what the last visit read at each part; as it is without any."""
    last = next((visit for visit, _ in past if a.chosen is not None and visit.option == a.chosen.option.name), None)
    if last is None:
        return {}
    words: dict[str, list[str]] = {}
    for value in last.values:
        if part := _READ_AT.get(value.point):
            words.setdefault(part, []).append(f"{text(value.measured.si, KIND[value.point])}{_SIGN[value.verdict]}")
    taken = _taken_at(a, last)
    diagrams = (
        marked_diagrams(
            stored, a, a.chosen, typed_light(last.irradiance_w_m2, last.air_c), lambda kit: readings_on(taken, kit)
        )
        if a.chosen
        else ()
    )
    over = Over(readings={part: " ".join(said) for part, said in words.items()})
    sizes: tuple[Size, ...] = ("beside", "narrow")
    drawn: dict[str, Any] = {
        size: draw(stored.id, stored.job.name, a, "prove", size=size, page="prove", over=over) for size in sizes
    }
    return drawn | {"diagrams": diagrams, "diagram_light": last.irradiance_w_m2}


def _taken_at(a: Assessment, last: Visit) -> list[tuple[Part, str]]:
    """Each reading of a visit with its judgement, by the part of the kit that it was read at."""
    assert a.chosen is not None
    chain = chain_of(a, a.chosen)
    told = [(read_at(CHECK_OF[value.point], chain), value) for value in last.values]
    return [
        (part, f"{text(value.measured.si, KIND[value.point])} {_SIGN[value.verdict]}".strip())
        for part, value in told
        if part is not None
    ]


def _as_learned(conn: Connection, job_id: int, a: Assessment, now: Now | None) -> Mapping[Point, float]:
    """What each point should read by what the visits taught, beside what the kit as stated should."""
    if a.chosen is None or now is None:
        return {}
    record = record_of(conn, job_id, a.chosen.option.id)
    return points_as_learned(a, a.chosen, record, now, datetime.now(UTC).date())


def sheet(
    a: Assessment, typed: dict[str, str], measured: dict[str, str], prefs: Prefs, stored: Stored,
    visits: list[Visit], problems: dict[str, str] | None = None,
) -> dict[str, Any]:  # fmt: skip
    """Everything the sheet shows for what is typed so far."""
    chosen = a.chosen
    past = past_readings(visits)
    shared = {
        "past": past,
        "older": stored.visits - len(past),
        "point_names": POINTS,
        "kinds": KIND,
        "light_by": light_by,
        "as_learned": {},
        "diagrams": (),
        "wrong_now": bool(visits) and _wrong(visits[0], a),
    }
    if chosen is None:
        return {
            "rows": [],
            "now": None,
            "typed": typed,
            "problems": {},
            **shared,
        }
    now, found = now_from(chosen, typed, prefs.units)
    rows = []
    for expected in expected_now(a, chosen, now):
        rows.append(
            {
                "expected": expected,
                "figure": point_figure(expected, now, chosen),
                "name": POINTS[expected.point],
                "kind": KIND[expected.point],
                "mark": MARK.get(expected.point),
                "typed": measured.get(expected.point, ""),
            }
        )
    return {
        "rows": rows, "now": now, "typed": typed, "problems": {**found, **(problems or {})}, **shared,
    }  # fmt: skip


def _wrong(last: Visit, a: Assessment) -> bool:
    """Whether a visit of the chosen kit that a search may begin with read something that isn't good."""
    fresh = datetime.now(UTC).date() - FRESH <= day_of(last.at)
    own = a.chosen is not None and last.option == a.chosen.option.name
    return fresh and own and any(value.verdict in ("low", "high") for value in last.values)


def past_readings(visits: Sequence[Visit]) -> list[tuple[Visit, list[tuple[ReadingValue, Spoken]]]]:
    """Visits with what each of their readings meant."""
    return [(visit, [(value, _past_meaning(value)) for value in visit.values]) for visit in visits]


def _past_meaning(value: ReadingValue) -> Spoken:
    return say("nothing is promised here") if value.verdict is None else meaning(value.point, value.verdict)


@router.post("/jobs/{job_id}/readings")
def add_reading(job_id: int, request: Request, conn: Db, form: Annotated[dict[str, str], Depends(form_of)]) -> Response:
    """Judge and keep what was measured: htmx gets the sheet back, a plain form a redirect."""
    stored, prefs = one_job(conn, job_id), prefs_of(request)
    assessment = assess(stored.job)
    chosen = assessment.chosen
    if chosen is None:
        raise NotFound(later("There is no kit to measure yet; choose one first."))
    typed = {name: form.get(name, "") for name in ASKED}
    taken = taken_of(assessment, chosen, form, prefs.units)
    if taken.problems:
        extra = sheet(
            assessment, typed, form, prefs, stored, latest_visits(conn, job_id, SHOWN_VISITS), dict(taken.problems)
        )
        return _again(request, conn, stored, extra)
    try:
        stored = add_visit(conn, job_id, lambda visit_id: taken.visit(visit_id, now_stamp()), prefs.who)
    except (Busy, BadQuantity) as error:
        again = sheet(
            assessment, typed, form, prefs, stored, latest_visits(conn, job_id, SHOWN_VISITS), {"form": str(error)}
        )
        return _again(request, conn, stored, again, status_of(error))
    if request.headers.get("hx-request") is None:
        return RedirectResponse(f"/jobs/{job_id}/prove?{urlencode(typed)}", 303)
    extra = sheet(assessment, typed, {}, prefs, stored, latest_visits(conn, job_id, SHOWN_VISITS))
    extra |= _with_readings(stored, assessment, extra["past"])
    extra |= {"as_learned": _as_learned(conn, job_id, assessment, taken.now)}
    return job_page(request, conn, stored, "prove", extra, Notices(banner=say("Readings kept.")))


def _again(request: Request, conn: Connection, stored: Stored, extra: dict[str, Any], status: int = 422) -> Response:
    banner = extra["problems"].get("form", say("Some readings can't be read; nothing typed is lost."))
    return job_page(request, conn, stored, "prove", extra, Notices(banner=banner, banner_kind="bad"), status)
