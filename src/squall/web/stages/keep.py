"""Keep: a visit in under a minute, what all of them mean, when that leaves too little water, and what is due."""

from collections.abc import Sequence
from datetime import UTC, date, datetime
from sqlite3 import Connection
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Form, Request, Response
from pydantic import BaseModel, Field

from squall.core.errors import BadQuantity, NotFound, SquallError
from squall.core.explain import Figure, Input
from squall.core.prove.expect import POINTS
from squall.core.reason import Reason, Spoken
from squall.core.upkeep.due import tasks_of
from squall.core.upkeep.states import DONE
from squall.core.upkeep.wear import Level
from squall.formats.upkeep_calendar import calendar_of
from squall.job.document.base import Typed
from squall.job.document.job import Visit
from squall.job.edit.changes import now_stamp
from squall.job.kept.ahead import AHEAD_DAYS, Ahead, ahead_of
from squall.job.kept.hours import HoursRun, hours_run, meter_of
from squall.job.kept.upkeep import (
    ASK_LIGHT,
    DONE_WORDS,
    MOST_READ,
    Kept,
    begin_of,
    day_of,
    due_now,
    kept_of,
    place_of,
    put_off_day,
)
from squall.job.told.prove import KIND, Taken, expected_now, now_from, taken_of
from squall.job.wired.not_yet import not_yet
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.kit import KitAssessment
from squall.store.folder.database import connect
from squall.store.jobs import Stored, one_job
from squall.store.log import add_visit, latest_visits
from squall.store.proofs import birth_of
from squall.store.upkeep import keep_done, lasts_of, take_back
from squall.web.frame.edits import answer, form_of
from squall.web.frame.job_page import Notices, job_page
from squall.web.frame.pages import Prefs, database, figure_map, file_name, prefs_of, status_of
from squall.words import later, say
from squall.words.units import text

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
SHOWN_VISITS = 12
# Fewer visits than this foretell nothing: a line wants more than two points. [-]
FORETELLS = 3
# What the page of a visit asks besides its readings.
ASKED = ("light", "short", "air", "bank")


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """All of the page; nothing without a kit."""
    conn = connect(request.app.state.settings.database)
    try:
        return shown(conn, stored, prefs, {})
    finally:
        conn.close()


def shown(conn: Connection, stored: Stored, prefs: Prefs, typed: dict[str, str], problems: dict[str, str] | None = None) -> dict[str, Any]:  # fmt: skip
    """Everything of the page, with what was typed and what was wrong with it."""
    a = assess(stored.job)
    if a.chosen is None:
        return {"kept": None}
    today = datetime.now(UTC).date()
    docs = latest_visits(conn, stored.id, 5000)
    birth = birth_of(conn, stored.id, a.chosen.option.id)
    begun = None if birth is None else day_of(birth.at)
    kept = kept_of(a, a.chosen, docs, today, begun)
    since = begin_of(docs, begun, today)
    run = hours_run(docs, a.chosen.option.name, since, today, a.chosen.season.hours_a_year)
    lasts = lasts_of(conn, stored.id, a.chosen.option.id)
    due = due_now(stored.job, a, a.chosen, docs, lasts, since, today)
    now, _ = now_from(a.chosen, {name: typed.get(name, "") for name in ASKED}, prefs.units)
    return {
        "kept": kept, "due": due, "today": today, "birth": birth, "typed": typed, "problems": problems or {}, "done_words": DONE_WORDS,
        "not_yet": not_yet(a, a.chosen),
        "points": [(one.point, POINTS[one.point]) for one in expected_now(a, a.chosen, now)], "kinds": KIND, "point_names": POINTS,
        "figures": figure_map([*flow_figures(kept), hours_figure(run)]), "levels": [(level, level_words(level)) for level in kept.worn.levels],
        "reason": Reason, "shown_visits": kept.reads[:SHOWN_VISITS], "older": max(len(kept.reads) - SHOWN_VISITS, 0), "most_read": MOST_READ,
        "short_words": short_words(kept), "remedy_words": remedy_words(kept), "light": ASK_LIGHT, "year_hours": a.chosen.season.hours_a_year,
        "begun": since, "run": run, "ahead": ahead_of(a, a.chosen, today, left_of(kept)), "ahead_words": ahead_words, "day_of": day_of, "done_codes": [code for code in DONE if _touches(a, a.chosen, code)],
    }  # fmt: skip


def left_of(kept: Kept) -> float:
    """Share of its stated flow that a kit gives still; all of it until enough visits foretell anything. [-]"""
    if kept.believed < FORETELLS or kept.worn.label_flow_m3_s <= 0.0:
        return 1.0
    return kept.worn.flow_m3_s / kept.worn.label_flow_m3_s


def ahead_words(ahead: Ahead) -> list[Spoken]:
    """The coming ninety days in sentences."""
    days, litres = ahead.short_days, ahead.short_l
    said: list[Spoken] = []
    if days.worst == 0.0:
        said.append(
            later("In none of ten made years is a day short from now to {until}.", until=ahead.until.isoformat())
        )
    else:
        said.append(later("In the {days} days to {until}, {middle:.0f} run short in a middling year, {best:.0f} in the best of ten and {worst:.0f} in the worst; at most {longest} in a row.", until=ahead.until.isoformat(), middle=days.middle, days=AHEAD_DAYS, best=days.best, worst=days.worst, longest=ahead.longest_d))  # fmt: skip
        said.append(later("To be brought by hand, or done without: {middle:litres} in a middling year, {worst:litres} in the worst.", middle=litres.middle / 1000.0, worst=litres.worst / 1000.0))  # fmt: skip
    came = ahead.litres_a_day
    said.append(later("On the mean day {middle:litres} come ({worst:litres} to {best:litres}), {wanted:litres} are wanted.", middle=came.middle / 1000.0, worst=came.worst / 1000.0, best=came.best / 1000.0, wanted=ahead.wanted_l / 1000.0))  # fmt: skip
    if ahead.frost is not None and ahead.frost >= 0.5:
        said.append(later("About {nights:.0f} nights of frost.", nights=ahead.frost))
    if ahead.left < 0.995:
        said.append(later("Counted with what has worn: {left:share} of the stated flow is left.", left=ahead.left))
    return said


def hours_figure(run: HoursRun) -> Figure:
    """How long the pump has run, and by what that is known."""
    how = (
        say("what its hour meter showed, and before and after it at the same rate")
        if run.by == "meter"
        else say("hours in a year, as worked out on Power, x the time since")
    )
    inputs = (Input(say("since"), run.since.isoformat(), "text"), Input(say("hours a year"), run.a_year, "hours"))
    source = (
        say("its hour meter")
        if run.by == "meter"
        else say("docs/method.md, the day and the year; no hour meter is read yet")
    )
    return Figure("hours-run", say("The pump has run"), run.hours, "hours", inputs, how, source)


def _touches(a: Assessment, chosen: KitAssessment, code: str) -> bool:
    """Whether something that can be done means anything on this kit."""
    if code == "panels-cleaned":
        return chosen.kit.source != "battery"
    return True


def level_words(level: Level) -> tuple[Spoken, Spoken, Spoken, Spoken]:
    """A state in words: what it is, its value, and the ends of its band."""
    kind = {"joint-ohm": "ohms", "drag": "number"}.get(level.state, "share")

    def said(value: float) -> Spoken:
        return later("{value:.2f} times", value=value) if kind == "number" else text(value, kind)

    return Reason(f"state-{level.state}"), said(level.value), said(level.low), said(level.high)


def flow_figures(kept: Kept) -> list[Figure]:
    """What the outlet gives today by all visits, and as stated."""
    worn = kept.worn
    visits = Input(say("visits that count"), float(kept.believed), "number")
    light = Input(say("light on the panels"), ASK_LIGHT, "irradiance")
    return [
        Figure("flow-now", say("The outlet gives today"), worn.flow_m3_s, "flow",
               (light, visits, Input(say("90 % band, from"), worn.flow_low_m3_s, "flow"), Input(say("to"), worn.flow_high_m3_s, "flow")),
               say("the kit's own circuit, pump and hose with what has worn, worked back from all readings together"),
               say("docs/method.md, wear; how fast each part wears before anything is read: common practice, no source")),
        Figure("flow-new", say("As stated, nothing worn"), worn.label_flow_m3_s, "flow", (light,), say("the same without any wear"),
               say("docs/method.md, the drive model")),
    ]  # fmt: skip


def short_words(kept: Kept) -> Spoken:
    """When the worst month falls under the need, with its range; nothing is foretold from a visit or two."""
    if kept.believed < FORETELLS:
        if kept.soonest is None:
            return later("Too few visits to foretell anything: {visits} of {wanted}. As such kits wear, three years bring no shortage.", visits=kept.believed, wanted=FORETELLS)  # fmt: skip
        return later("Too few visits to foretell anything: {visits} of {wanted}. As such kits wear, too little could come from {soonest} at the soonest.", visits=kept.believed, wanted=FORETELLS, soonest=kept.soonest.isoformat()[:7])  # fmt: skip
    if kept.short_from is None:
        if kept.soonest is None:
            return later("Within three years no month falls under its need, if it goes on wearing as it did.")
        return later("It may last three years; if every doubt goes badly, too little comes from {soonest} on.", soonest=kept.soonest.isoformat()[:7])  # fmt: skip
    soonest = (kept.soonest or kept.short_from).isoformat()[:7]
    if kept.latest is None:
        return later("If nothing is done, too little comes from {day} on (from {soonest} at the soonest, maybe not within three years).", day=kept.short_from.isoformat()[:7], soonest=soonest)  # fmt: skip
    return later("If nothing is done, too little comes from {day} on (between {soonest} and {latest}).", day=kept.short_from.isoformat()[:7], soonest=soonest, latest=kept.latest.isoformat()[:7])  # fmt: skip


def remedy_words(kept: Kept) -> list[Spoken]:
    """What each remedy brings, the most first."""
    said: list[Spoken] = []
    if kept.believed < FORETELLS:
        return said
    for remedy in kept.remedies:
        gain = remedy.flow_m3_s / max(kept.worn.flow_m3_s, 1e-12) - 1.0
        if remedy.short_from is None:
            said.append(later("{done}: {gain:share} more water; then no month is short within three years", done=DONE_WORDS[remedy.done], gain=gain))  # fmt: skip
        else:
            said.append(later("{done}: {gain:share} more water; then too little from {day} on", done=DONE_WORDS[remedy.done], gain=gain, day=remedy.short_from.isoformat()[:7]))  # fmt: skip
    return said


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
        at = visit_moment(form.get("on", ""))
        done = [code for code in DONE if form.get(f"done-{code}")]
        note, meter = form.get("note", "").strip()[:400], None
        taken = taken_of(a, chosen, form, prefs.units)
        problems = dict(taken.problems)
        try:
            meter = meter_of(form.get("meter", ""), prefs.units)
        except SquallError as error:
            problems["meter"] = str(error)
        problems = {key: said for key, said in problems.items() if key != "form" or not (done or note or meter)}
        if problems:
            return _again(request, conn, stored, typed, problems)
        stored = add_visit(conn, job_id, lambda visit_id: _visit(taken, visit_id, at, done, note, meter), prefs.who)
    except SquallError as error:
        return _again(request, conn, stored, typed, {"form": str(error)}, status_of(error))
    extra = shown(conn, stored, prefs, {})
    return job_page(request, conn, stored, "keep", extra, Notices(banner=say("The visit is kept.")))


def _visit(taken: Taken, visit_id: str, at: str, done: Sequence[str], note: str, meter: Typed | None) -> Visit:
    return taken.visit(visit_id, at).model_copy(update={"done": list(done), "note": note, "meter": meter})


def visit_moment(on: str) -> str:
    """The moment of a visit: now, or noon of the day typed.

    Raises
    ------
    BadQuantity
        For what is no day, or one that is yet to come.
    """
    body = on.strip()
    if not body:
        return now_stamp()
    try:
        day = date.fromisoformat(body)
    except ValueError:
        raise BadQuantity(later("{on:quoted} is not a day; write it as 2026-11-25.", on=body[:20])) from None
    today = datetime.now(UTC).date()
    if day > today:
        raise BadQuantity(later("{on} is yet to come: a visit is of today or before.", on=day.isoformat()))
    if day.year < 1990:
        raise BadQuantity(later("{on} is before any kit of this kind stood.", on=day.isoformat()))
    return now_stamp() if day == today else f"{day.isoformat()}T12:00Z"


def _again(request: Request, conn: Connection, stored: Stored, typed: dict[str, str], problems: dict[str, str], status: int = 422) -> Response:  # fmt: skip
    extra = shown(conn, stored, prefs_of(request), typed, problems)
    banner = problems.get("form", say("Some readings can't be read; nothing typed is lost."))
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
    today, birth = datetime.now(UTC).date(), birth_of(conn, job_id, chosen.option.id)
    docs = latest_visits(conn, job_id, 5000)
    since = begin_of(docs, None if birth is None else day_of(birth.at), today)
    due = due_now(stored.job, a, chosen, docs, lasts_of(conn, job_id, chosen.option.id), since, today)
    made = calendar_of(stored.job.name, job_id, chosen.option.id, due, stored.job.fit.for_now)
    name = file_name(f"{stored.job.name} upkeep", "ics")
    return Response(
        made,
        media_type="text/calendar; charset=utf-8",
        headers={"content-disposition": f'attachment; filename="{name}"'},
    )
