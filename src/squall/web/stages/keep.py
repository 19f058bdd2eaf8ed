"""Keep: a visit in under a minute, what all of them mean, when that leaves too little water, and what is due."""

from collections.abc import Callable, Mapping, Sequence
from datetime import UTC, datetime
from sqlite3 import Connection
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Form, Request, Response
from pydantic import BaseModel, Field

from squall.catalogue import catalogue
from squall.core.errors import BadQuantity, NotFound, SquallError
from squall.core.prove.expect import POINTS
from squall.core.reason import Reason, Spoken
from squall.core.upkeep.due import tasks_of
from squall.core.upkeep.states import DONE
from squall.formats.upkeep_calendar import KitDue, calendar_of
from squall.job.document.base import Typed
from squall.job.document.job import Job, Visit
from squall.job.edit.rows import add_typed_row
from squall.job.kept.ahead import ahead_of
from squall.job.kept.cards import cards_by_task
from squall.job.kept.hours import meter_of
from squall.job.kept.log import ALONE, Sought, done_in, moment_of, put_visit_right, sought_in
from squall.job.kept.record import day_of
from squall.job.kept.told import (
    ahead_words,
    flow_figures,
    hours_figure,
    left_of,
    level_words,
    remedy_words,
    short_words,
)
from squall.job.kept.upkeep import (
    ASK_LIGHT,
    DONE_WORDS,
    MOST_READ,
    Read,
    due_now,
    kept_of,
    place_of,
    put_off_day,
    run_of,
)
from squall.job.told.prove import KIND, Taken, expected_now, now_from, taken_of
from squall.job.wired.not_yet import not_yet
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.kit import KitAssessment
from squall.store.folder.database import connect
from squall.store.jobs import Stored, change_job, one_job
from squall.store.kit.record import record_of
from squall.store.kit.upkeep import keep_done, take_back
from squall.store.log import add_visit, change_visit, mark_of, one_visit
from squall.web.frame.edits import answer, form_of
from squall.web.frame.job_page import Notices, job_page
from squall.web.frame.pages import Prefs, database, figure_map, file_name, prefs_of, status_of
from squall.words import later, say
from squall.words.units import System

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
SHOWN_VISITS, MOST_SHOWN = 12, 1000
# What the page of a visit asks besides its readings.
ASKED = ("light", "short", "air", "bank")


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """All of the page; nothing without a kit."""
    conn = connect(request.app.state.settings.database)
    try:
        return shown(conn, stored, prefs, {}, asked=dict(request.query_params))
    finally:
        conn.close()


def shown(
    conn: Connection, stored: Stored, prefs: Prefs, typed: dict[str, str], problems: dict[str, str] | None = None,
    asked: Mapping[str, str] | None = None,
) -> dict[str, Any]:  # fmt: skip
    """Everything of the page, with what was typed and what was wrong with it, and the entries of the log that are looked for."""
    a = assess(stored.job)
    if a.chosen is None:
        return {"kept": None}
    today = datetime.now(UTC).date()
    record = record_of(conn, stored.id, a.chosen.option.id)
    kept, run = kept_of(a, a.chosen, record, today), run_of(a.chosen, record, today)
    due = due_now(stored.job, a, a.chosen, record, today)
    now, _ = now_from(a.chosen, {name: typed.get(name, "") for name in ASKED}, prefs.units)
    return {
        "kept": kept, "due": due, "today": today, "typed": typed, "problems": problems or {}, "done_words": DONE_WORDS,
        "not_yet": not_yet(a, a.chosen), "cards": cards_by_task(a, a.chosen),
        "points": [(one.point, POINTS[one.point]) for one in expected_now(a, a.chosen, now)], "kinds": KIND, "point_names": POINTS,
        "figures": figure_map([*flow_figures(kept), hours_figure(run)]), "levels": [(level, level_words(level)) for level in kept.worn.levels],
        "reason": Reason, "log": _log(kept.reads, asked or {}), "most_read": MOST_READ,
        "short_words": short_words(kept), "remedy_words": remedy_words(kept), "light": ASK_LIGHT, "year_hours": a.chosen.season.hours_a_year,
        "begun": record.since(today), "run": run, "ahead": ahead_of(a, a.chosen, today, left_of(kept)), "ahead_words": ahead_words, "day_of": day_of, "every_done": DONE, "done_codes": [code for code in DONE if _touches(a, a.chosen, code)],
    }  # fmt: skip


def _log(reads: Sequence[Read], asked: Mapping[str, str]) -> dict[str, Any]:
    """The entries of the log that are looked for, newest first; all of them where what is asked can't be read."""
    sought, problem = Sought(), ""
    try:
        sought = sought_in(asked)
    except SquallError as error:
        problem = str(error)
    found = sought.of(reads)
    most = MOST_SHOWN if asked.get("all") else SHOWN_VISITS
    return {
        "reads": found[:most], "found": len(found), "all": len(reads), "asked": asked, "sought": not sought.all, "problem": problem,
        "mark_of": mark_of, "alone": ALONE,
    }  # fmt: skip


def _touches(a: Assessment, chosen: KitAssessment, code: str) -> bool:
    """Whether something that can be done means anything on this kit."""
    if code == "panels-cleaned":
        return chosen.kit.source != "battery"
    return True


def _kit_of(stored: Stored) -> tuple[Assessment, KitAssessment]:
    a = assess(stored.job)
    if a.chosen is None:
        raise NotFound(later("This job has no kit yet, and so nothing to look after."))
    return a, a.chosen


@router.post("/jobs/{job_id}/keep/visit")
def keep_visit(job_id: int, request: Request, conn: Db, form: Annotated[dict[str, str], Depends(form_of)]) -> Response:
    """Keep a visit: readings, what was done, a note."""
    stored, prefs = one_job(conn, job_id), prefs_of(request)
    typed = {key: value[:400] for key, value in form.items()}
    try:
        a, chosen = _kit_of(stored)
        at = moment_of(form.get("on", ""))
        done = done_in(form)
        note, meter = form.get("note", "").strip()[:400], None
        taken = taken_of(a, chosen, form, prefs.units)
        problems = dict(taken.problems)
        try:
            meter = meter_of(form.get("meter", ""), prefs.units)
        except SquallError as error:
            problems["meter"] = str(error)
        depth = form.get("pond", "").strip() or form.get("well", "").strip()
        try:
            deeper = _level_read(depth, at[:10], prefs.units)
            deeper(stored.job)
        except SquallError as error:
            problems["well" if stored.job.water == "well" else "pond"] = str(error)
        problems = {
            key: said for key, said in problems.items() if key != "form" or not (done or note or meter or depth)
        }
        if problems:
            return _again(request, conn, stored, typed, problems)
        if depth:
            stored = change_job(conn, job_id, deeper, prefs.who, check=assess)
        if taken.values or done or note or meter:
            stored = add_visit(conn, job_id, lambda visit_id: _visit(taken, visit_id, at, done, note, meter), prefs.who)
    except SquallError as error:
        return _again(request, conn, stored, typed, {"form": str(error)}, status_of(error))
    extra = shown(conn, stored, prefs, {})
    return job_page(request, conn, stored, "keep", extra, Notices(banner=say("The visit is kept.")))


def _level_read(depth: str, on: str, units: System) -> Callable[[Job], tuple[Job, Spoken]]:
    """The level on the day of a visit as one more reading of it: a pond's depth, or how far below its mark a well's stands; nothing where nothing is typed."""

    def change(job: Job) -> tuple[Job, Spoken]:
        if not depth:
            return job, ""
        if job.water == "well":
            return add_typed_row(job, "level.readings", "tape", {"value": depth, "on": on}, catalogue(), units)
        return add_typed_row(job, "pond.readings", "", {"on": on, "depth": depth}, catalogue(), units)

    return change


def _visit(taken: Taken, visit_id: str, at: str, done: Sequence[str], note: str, meter: Typed | None) -> Visit:
    return taken.visit(visit_id, at).model_copy(update={"done": list(done), "note": note, "meter": meter})


@router.post("/jobs/{job_id}/keep/visit/{visit_id}")
def right_visit(
    job_id: int, visit_id: str, request: Request, conn: Db, form: Annotated[dict[str, str], Depends(form_of)]
) -> Response:
    """Put an entry of the log right."""
    stored, prefs = one_job(conn, job_id), prefs_of(request)
    before = stored.revision
    typed = {f"{visit_id}.{key}": value[:400] for key, value in form.items()}
    try:
        _kit_of(stored)
        made, problems = put_visit_right(one_visit(conn, job_id, visit_id), form, prefs.units)
        if problems:
            return _again(request, conn, stored, typed, {f"{visit_id}.{key}": said for key, said in problems.items()})
        stored = change_visit(conn, job_id, visit_id, form.get("seen", ""), made, prefs.who)
    except SquallError as error:
        return _again(request, conn, stored, typed, {f"{visit_id}.form": str(error)}, status_of(error))
    extra = shown(conn, stored, prefs, {})
    said = say("The visit stands as it was.") if stored.revision == before else say("The visit is put right.")
    return job_page(request, conn, stored, "keep", extra, Notices(banner=said))


def _again(request: Request, conn: Connection, stored: Stored, typed: dict[str, str], problems: dict[str, str], status: int = 422) -> Response:  # fmt: skip
    extra = shown(conn, stored, prefs_of(request), typed, problems)
    whole = next((said for key, said in problems.items() if key.rpartition(".")[2] == "form"), None)
    banner = whole or say("Some readings can't be read; nothing typed is lost.")
    return job_page(request, conn, stored, "keep", extra, Notices(banner=banner, banner_kind="bad"), status)


class DueForm(BaseModel):
    """A job that was done, or is put off."""

    task: str = Field(max_length=40)
    days: str = ""
    why: str = ""


@router.post("/jobs/{job_id}/keep/due")
def settle_due(job_id: int, request: Request, conn: Db, form: Annotated[DueForm, Form()]) -> Response:
    """A job was done today, or is put off by some days with a reason."""
    stored, prefs = one_job(conn, job_id), prefs_of(request)
    try:
        a, chosen = _kit_of(stored)
        if form.task not in {task.code for task in tasks_of(place_of(stored.job, a, chosen))}:
            raise NotFound(later("This kit asks for no such job any more; load the page anew."))
        until = None
        if form.days.strip():
            if not form.days.strip().isdecimal() or len(form.days) > 6:
                raise BadQuantity(later("{days:quoted} is no count of days.", days=form.days[:20]))
            until = put_off_day(datetime.now(UTC).date(), int(form.days))
            if not form.why.strip():
                raise BadQuantity(later("Say why it is put off: it comes back, and somebody will ask."))
        keep_done(conn, job_id, chosen.option.id, form.task, prefs.who, until, form.why)
    except SquallError as error:
        return _due_refused(request, conn, stored, error, form)
    return answer(request, conn, stored, "keep")


def _due_refused(request: Request, conn: Connection, stored: Stored, error: SquallError, form: DueForm) -> Response:
    typed = {f"days-{form.task}": form.days, f"why-{form.task}": form.why}
    extra = shown(conn, stored, prefs_of(request), typed, {f"due-{form.task}": str(error)})
    notices = Notices(banner=str(error), banner_kind="bad")
    return job_page(request, conn, stored, "keep", extra, notices, status_of(error))


@router.post("/jobs/{job_id}/keep/undue")
def take_back_due(job_id: int, request: Request, conn: Db, task: Annotated[str, Form(max_length=40)]) -> Response:
    """It wasn't done after all, or not put off."""
    stored = one_job(conn, job_id)
    try:
        _, chosen = _kit_of(stored)
        take_back(conn, job_id, chosen.option.id, task)
    except SquallError as error:
        return answer(request, conn, stored, "keep", Notices(banner=str(error), banner_kind="bad"), status_of(error))
    return answer(request, conn, stored, "keep")


@router.get("/jobs/{job_id}/keep/calendar.ics")
def calendar_file(job_id: int, conn: Db) -> Response:
    """What is due as a calendar file."""
    stored = one_job(conn, job_id)
    a, chosen = _kit_of(stored)
    due = due_now(stored.job, a, chosen, record_of(conn, job_id, chosen.option.id), datetime.now(UTC).date())
    kit = KitDue(stored.job.name, job_id, chosen.option.id, due, stored.job.fit.for_now, stored.job.place)
    made = calendar_of(say("Upkeep: {name}", name=stored.job.name), [kit])
    name = file_name(f"{stored.job.name} upkeep", "ics")
    return Response(
        made,
        media_type="text/calendar; charset=utf-8",
        headers={"content-disposition": f'attachment; filename="{name}"'},
    )
