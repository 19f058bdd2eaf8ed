"""Fit: what is cut, what hangs on the rope, when the first water comes, and the steps with their ticks."""

from collections.abc import Sequence
from sqlite3 import Connection
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Form, Request, Response
from pydantic import BaseModel

from squall.core.errors import NotFound, SquallError
from squall.core.explain import Figure, Input
from squall.core.fit.lifting import END_KEEPS, ROPE_KG_M, SAFETY
from squall.core.prove.expect import unknown_light
from squall.drawing.small.steps import step_picture
from squall.formats.build_lists import parts_csv
from squall.job.document.job import Job
from squall.job.fitted.cutlist import FirstWater, Lowering, cut_list, first_water_of, lowering_of
from squall.job.fitted.parts_list import parts_list
from squall.job.fitted.steps import FitStep, fit_steps, tools_of
from squall.job.told.prove import expected_now
from squall.job.wired.not_yet import not_yet
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.kit import KitAssessment
from squall.store.folder.database import connect
from squall.store.jobs import Stored, one_job
from squall.store.kit.fit import tick as keep_tick
from squall.store.kit.fit import ticks_of, untick
from squall.store.offcuts import LEAST_M, Offcut, cut_from, offcuts_of, take_out
from squall.store.shelf import counts_in_van
from squall.web.frame.edits import answer
from squall.web.frame.job_page import Notices
from squall.web.frame.pages import Prefs, database, figure_map, file_name, prefs_of, status_of
from squall.words import later, say

router = APIRouter()
Db = Annotated[Connection, Depends(database)]


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """All of the page; nothing without a kit."""
    a = assess(stored.job)
    if a.chosen is None:
        return {"steps": None}
    lowering = lowering_of(stored.job, a, a.chosen)
    water = first_water(a, a.chosen)
    conn = connect(request.app.state.settings.database)
    try:
        ticks = ticks_of(conn, stored.id, a.chosen.option.id)
        van, offcuts = counts_in_van(conn), offcuts_of(conn)
    finally:
        conn.close()
    steps, ends = fit_steps(stored.job, a, a.chosen, water), _by_key(offcuts)
    return {
        "steps": steps,
        "picture": step_picture,
        "ticks": ticks,
        "tools": tools_of(steps),
        "not_yet": not_yet(a, a.chosen),
        "next_step": next((step.key for step in steps if step.key not in ticks), ""),
        "cuts": cut_list(stored.job, a, a.chosen, ends),
        "offcuts": offcuts,
        "least_end_m": LEAST_M,
        "needed": () if a.wiring is None else parts_list(stored.job, a, a.chosen, van, ends),
        "lowering": lowering,
        "lowering_figures": figure_map(lowering_figures(stored.job, lowering)) if lowering else {},
        "water": figure_map(water_figures(water)) if water else {},
    }


def _by_key(offcuts: Sequence[Offcut]) -> dict[str, list[float]]:
    """Their lengths by their line of the cut list. [m]"""
    found: dict[str, list[float]] = {}
    for one in offcuts:
        found.setdefault(one.key, []).append(one.metres)
    return found


def first_water(a: Assessment, chosen: KitAssessment) -> FirstWater | None:
    """When the first water comes in the light that the sheet takes where nobody read it."""
    flow = next((row.value for row in expected_now(a, chosen, unknown_light(20.0)) if row.point == "outlet-flow"), None)
    return None if flow is None else first_water_of(a, chosen, flow)


def lowering_figures(job: Job, lowering: Lowering) -> list[Figure]:
    """What hangs on the rope, and what the rope must break at."""
    parts = {"pump": say("pump"), "hose": say("hose"), "cable": say("cable"), "rope": say("rope")}
    dry = tuple(Input(parts[name], kg, "mass") for name, kg, _ in lowering.load.lines)
    full = tuple(Input(parts[name], kg, "mass") for name, _, kg in lowering.load.lines)
    keeps = Input(say("its end keeps"), END_KEEPS[job.fit.rope_end], "share")
    return [
        Figure("hang-dry", say("Hangs on the rope, going in"), lowering.load.dry_kg, "mass", dry,
               say("pump + empty hose + cable + rope, in air"), say("masses of the parts; rope {mass:mass} on {ten:length}: wire rope of {thick:bore}, from memory", mass=10.0 * ROPE_KG_M, ten=10.0, thick=0.003)),
        Figure("hang-full", say("Coming out, the hose full"), lowering.load.lift_kg, "mass", full,
               say("the same with the hose's water; water lifts none of it at the top"), say("water 1000 kg/m3")),
        Figure("rope-needs", say("The rope must break at"), lowering.needs_kg, "mass",
               (Input(say("coming out"), lowering.load.lift_kg, "mass"), keeps, Input(say("safety"), SAFETY, "number")),
               say("load x safety / what the end keeps"), say("safety 5: common practice, no source; knot 0.5, clamps 0.8: from memory")),
        Figure("drum", say("A drum that floats it holds"), lowering.drum_l / 1000.0, "litres",
               (Input(say("coming out"), lowering.load.lift_kg, "mass"),), say("as much water as it weighs, and as much again above the water"),
               say("Archimedes; freeboard: a guess")),
    ]  # fmt: skip


def water_figures(water: FirstWater) -> list[Figure]:
    """When the first water comes."""
    return [
        Figure("first-water", say("First water after"), water.seconds, "seconds",
               (Input(say("empty hose above the water"), water.litres / 1000.0, "litres"), Input(say("flow"), water.flow_m3_s, "flow")),
               say("volume of the hose above the water over the flow; it has less to climb while it fills, so a little sooner"),
               say("common practice, no source; the flow by the drive model")),
    ]  # fmt: skip


@router.get("/jobs/{job_id}/fit/parts.csv")
def parts_file(job_id: int, conn: Db) -> Response:
    """All parts of the chosen kit as CSV."""
    stored = one_job(conn, job_id)
    a = assess(stored.job)
    if a.chosen is None or a.wiring is None:
        raise NotFound(later("This job has no kit yet, and so nothing to fit."))
    made = parts_csv(parts_list(stored.job, a, a.chosen, counts_in_van(conn), _by_key(offcuts_of(conn))))
    name = file_name(f"{stored.job.name} parts", "csv")
    return Response(
        made, media_type="text/csv; charset=utf-8", headers={"content-disposition": f'attachment; filename="{name}"'}
    )


class TickForm(BaseModel):
    """A step as it is ticked or unticked."""

    step: str
    done: str = "yes"
    note: str = ""


@router.post("/jobs/{job_id}/fit/tick")
def tick_step(job_id: int, request: Request, conn: Db, form: Annotated[TickForm, Form()]) -> Response:
    """Tick a step of the chosen kit, or untick it."""
    stored = one_job(conn, job_id)
    try:
        chosen, known = _steps(stored)
        if form.step not in {step.key for step in known}:
            raise NotFound(later("There is no such step any more; the kit or the place has changed."))
        if form.done == "yes":
            keep_tick(conn, job_id, chosen.option.id, form.step, prefs_of(request).who, form.note)
        else:
            untick(conn, job_id, chosen.option.id, form.step)
    except SquallError as error:
        return answer(request, conn, stored, "fit", Notices(banner=str(error), banner_kind="bad"), status_of(error))
    return answer(request, conn, stored, "fit")


class CutForm(BaseModel):
    """A line of the cut list, by its key."""

    line: str


@router.post("/jobs/{job_id}/fit/cut")
def cut(job_id: int, request: Request, conn: Db, form: Annotated[CutForm, Form()]) -> Response:
    """A line of the cut list is cut: the ends it was cut from leave the van, what is left goes in."""
    stored = one_job(conn, job_id)
    a = assess(stored.job)
    try:
        lines = () if a.chosen is None else cut_list(stored.job, a, a.chosen, _by_key(offcuts_of(conn)))
        line = next((one for one in lines if one.key == form.line and one.plan is not None), None)
        if line is None or line.plan is None:
            raise NotFound(
                later("There is nothing of that to cut from rolls any more; the kit or the lengths have changed.")
            )
        rolls = line.plan.rolls
        used = [roll.length_m for roll in rolls if roll.own]
        cut_from(conn, line.key, line.name, used, [roll.left_m for roll in rolls], prefs_of(request).who)
    except SquallError as error:
        return answer(request, conn, stored, "fit", Notices(banner=str(error), banner_kind="bad"), status_of(error))
    said = say("Cut: what is left of {name} lies in the van.", name=line.name)
    return answer(request, conn, stored, "fit", Notices(banner=said))


class EndForm(BaseModel):
    """An end that lies in the van."""

    offcut: int


@router.post("/jobs/{job_id}/fit/offcut-out")
def offcut_out(job_id: int, request: Request, conn: Db, form: Annotated[EndForm, Form()]) -> Response:
    """Take an end out of the van."""
    stored = one_job(conn, job_id)
    try:
        take_out(conn, form.offcut)
    except SquallError as error:
        return answer(request, conn, stored, "fit", Notices(banner=str(error), banner_kind="bad"), status_of(error))
    return answer(request, conn, stored, "fit")


def _steps(stored: Stored) -> tuple[KitAssessment, tuple[FitStep, ...]]:
    a = assess(stored.job)
    if a.chosen is None:
        raise NotFound(later("This job has no kit yet, and so nothing to fit."))
    return a.chosen, fit_steps(stored.job, a, a.chosen, first_water(a, a.chosen))
