"""Fault: what is likely wrong with the chosen kit, the one look worth the walk, and what was found."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime
from sqlite3 import Connection
from typing import Annotated, Any, cast, get_args

from fastapi import APIRouter, Depends, Form, Request, Response
from pydantic import BaseModel, Field

from squall.core.errors import BadEvidence, BadQuantity, NotFound, SquallError
from squall.core.faults.causes import CAUSES, NONE, OTHER, Part, Story
from squall.core.faults.chain import Chain
from squall.core.faults.checks import CHECKS, Check, caution_of, checks_of, minutes_of
from squall.core.faults.diagnosis import Diagnosis, diagnose
from squall.core.faults.suspicion import Evidence, checked
from squall.core.prove.expect import POINTS, unknown_light
from squall.core.reason import Reason, Spoken
from squall.drawing import Over, draw
from squall.drawing.circuit_words import Marks
from squall.drawing.sheet import Size
from squall.job.document.base import own
from squall.job.document.fields import with_unit
from squall.job.kept.record import day_of
from squall.job.kept.suspected import Fresh, Suspected, fresh_of, suspected_of
from squall.job.kept.upkeep import CHECK_OF
from squall.job.told.prove import KIND
from squall.job.trouble.chain import ON_DRAWING, chain_of, on_circuit
from squall.job.trouble.search import ANSWER_WORDS, SKIES, STORY_WORDS, evidence_of, lit_of
from squall.job.wired.not_yet import not_yet
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.kit import KitAssessment
from squall.store.folder.database import connect
from squall.store.jobs import Stored, one_job
from squall.store.kit.faults import (
    Began,
    Search,
    Seen,
    add_seen,
    begin_search,
    change_search,
    end_search,
    frequencies_of,
    open_again,
    remove_seen,
    searches_of,
)
from squall.store.kit.record import record_of
from squall.web.frame.edits import answer
from squall.web.frame.job_page import Notices, job_page
from squall.web.frame.pages import Prefs, RowId, database, prefs_of, status_of
from squall.web.stages.circuit import marked_diagrams
from squall.words import later, say
from squall.words.units import KINDS, System, text

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
# Causes shown with their bars before the rest is folded; parts that carry a bar on the drawing.
SHOWN, MARKED, LEAST_MARKED = 6, 3, 0.04
# Of the circuit beside the causes: a mild day's. [°C]
AIR_C = 20.0


@dataclass(frozen=True)
class SeenRow:
    """What a check showed, in words; whether it still counts."""

    id: int
    name: Spoken
    shown: Spoken
    counts: bool


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """All of the page; nothing without a kit."""
    a = assess(stored.job)
    if a.chosen is None:
        return {"stories": None}
    conn = connect(request.app.state.settings.database)
    try:
        searches = searches_of(conn, stored.id, a.chosen.option.id)
        record, known = record_of(conn, stored.id, a.chosen.option.id), frequencies_of(conn)
    finally:
        conn.close()
    running = running_of(searches)
    began = _today() if running is None else day_of(running.begun_at)
    page = shown(stored, a, a.chosen, searches, suspected_of(a, a.chosen, record, known, began), prefs.units)
    return page | {"fresh": fresh_words(fresh_of(a.chosen, chain_of(a, a.chosen), record, _today()))}


def fresh_words(fresh: Fresh | None) -> dict[str, Any] | None:
    """A visit that a search may begin with, as the page shows it."""
    if fresh is None:
        return None
    told = [
        (POINTS[value.point], own(value.measured, KIND[value.point]), value.verdict)
        for value in fresh.doc.values
        if any(piece.check == CHECK_OF[value.point] for piece in fresh.pieces)
    ]
    return {"id": fresh.doc.id, "at": fresh.doc.at, "told": told, "light": fresh.light_w_m2}


def _today() -> date:
    return datetime.now(UTC).date()


def running_of(searches: Sequence[Search]) -> Search | None:
    """The search that goes on, if one does."""
    return next((search for search in searches if search.ended_at is None), None)


def shown(
    stored: Stored, a: Assessment, chosen: KitAssessment, searches: list[Search], of: Suspected, units: System
) -> dict[str, Any]:
    """What the page shows of a kit's searches."""
    chain, running = of.chain, running_of(searches)
    page: dict[str, Any] = {
        "stories": STORY_WORDS,
        "skies": SKIES,
        "answers": ANSWER_WORDS,
        "has_panels": chain.panels > 0,
        "panel_count": chain.panels,
        "running": running,
        "before": [search for search in searches if search.ended_at is not None],
        "found_words": _found_words,
        "typed": {},
        "problems": {},
        "reason": Reason,
        "not_yet": not_yet(a, chosen),
        "yard": [(_found_words(cause), times) for cause, times in of.known.found.items() if cause in CAUSES],
        "said": [(_found_words(cause), share) for cause, share in of.known.said.items() if cause in CAUSES],
        "run": of.run,
        "days": of.days,
        "likelier": [(_found_words(cause), times) for cause, times in of.likelier.items()],
        "rarer": [_found_words(cause) for cause in of.rarer],
        "examples": {kind: KINDS[kind].example for kind in ("volts", "amps", "ohms", "flow", "length")},
    }
    if running is None:
        return page
    counting = [piece.evidence for piece in running.seen if _counts(chain, piece.evidence)]
    try:
        lit = lit_of(running.began.sky, running.began.light, running.began.air, units)
    except SquallError:
        lit = lit_of("unknown", "", "", units)
    found = diagnose(chain, running.began.story, lit, counting, of.known)
    suspects = suspects_of(found, ON_DRAWING.get)
    sizes: tuple[Size, ...] = ("beside", "narrow")
    drawn = {
        size: draw(stored.id, stored.job.name, a, "fault", size=size, page="fault", over=Over(suspects))
        for size in sizes
    }
    return page | drawn | {
        "found": found,
        "diagrams": marked_diagrams(
            stored, a, chosen, unknown_light(AIR_C), lambda kit: Marks(suspects_of(found, lambda part: on_circuit(part, kit)))
        ),
        "circuit_light": unknown_light(AIR_C).irradiance_w_m2,
        "beliefs": found.beliefs[:SHOWN],
        "rest": found.beliefs[SHOWN:],
        "next": found.advice.checks[0] if found.advice.checks and not found.advice.done else None,
        "others": _others(chain, found, counting),
        "seen": [seen_row(piece, chain) for piece in running.seen],
        "caution": lambda check: caution_of(check, chain),
        "minutes": lambda check: minutes_of(check, chain),
    }  # fmt: skip


def _counts(chain: Chain, piece: Evidence) -> bool:
    """Whether the kit as it is now can still have shown this."""
    try:
        checked(chain, [piece])
    except BadEvidence:
        return False
    return True


def suspects_of(found: Diagnosis, place: Callable[[Part], str | None]) -> dict[str, float]:
    """How likely the fault sits at each place of a drawing, the likeliest few; what has no place there is left out. [-]"""
    together: dict[str, float] = {}
    for belief in found.beliefs:
        part = None if belief.cause in (NONE, OTHER) else place(belief.part)
        if part is not None:
            together[part] = together.get(part, 0.0) + belief.share
    likely = sorted(together.items(), key=lambda item: -item[1])[:MARKED]
    return {part: share for part, share in likely if share >= LEAST_MARKED}


def _others(chain: Chain, found: Diagnosis, counting: list[Evidence]) -> list[Check]:
    """Checks that could be done besides the one that is advised: what tells most first, then the rest."""
    asked = {piece.check for piece in counting}
    ranked = [offer.check for offer in found.advice.checks]
    first = ranked[:1] if not found.advice.done else []
    rest = [check for check in checks_of(chain) if check not in ranked and check.code not in asked]
    return [check for check in (*ranked, *rest) if check not in first]


def _found_words(cause: str | None) -> Spoken:
    return Reason(f"fault-{cause}") if cause in CAUSES or cause in (NONE, OTHER) else ""


def seen_row(piece: Seen, chain: Chain) -> SeenRow:
    """What a check showed, in words."""
    check = CHECKS.get(piece.evidence.check)
    name: Spoken = Reason(f"check-{piece.evidence.check}") if check is not None else piece.evidence.check
    return SeenRow(piece.id, name, _shown(piece, check), _counts(chain, piece.evidence))


def _shown(piece: Seen, check: Check | None) -> Spoken:
    if piece.evidence.skipped or check is None:
        return say("not done")
    if piece.evidence.answer is not None:
        return ANSWER_WORDS.get(piece.evidence.answer, piece.evidence.answer)
    value = piece.evidence.value
    assert check.kind is not None
    if check.kind == "ohms" and isinstance(value, float) and value >= 1e5:
        return say("open")
    values = value if isinstance(value, tuple) else (value,)
    return ", ".join(text(one, check.kind) for one in values if one is not None)


class BeginForm(BaseModel):
    """How a search begins, or began otherwise."""

    story: str = "unknown"
    sky: str = "unknown"
    light: str = ""
    air: str = ""
    search: RowId = 0
    # The visit whose readings are what was seen first.
    visit: str = Field("", max_length=60)


class SeenForm(BaseModel):
    """What a check showed."""

    search: RowId
    check: str
    typed: str = ""
    skip: str = ""


class EndForm(BaseModel):
    """How a search ended."""

    search: RowId
    found: str = ""
    note: str = ""


def _kit_of(stored: Stored) -> tuple[Assessment, KitAssessment]:
    a = assess(stored.job)
    if a.chosen is None:
        raise NotFound(later("This job has no kit yet, and so nothing that could be wrong with it."))
    return a, a.chosen


@router.post("/jobs/{job_id}/fault/begin")
def begin(job_id: int, request: Request, conn: Db, form: Annotated[BeginForm, Form()]) -> Response:
    """Begin a search, or say how it began otherwise."""
    stored, prefs = one_job(conn, job_id), prefs_of(request)
    try:
        a, chosen = _kit_of(stored)
        if form.story not in get_args(Story) or form.sky not in SKIES:
            raise BadQuantity(later("There is no such story or sky; choose one of the list."))
        sky = "typed" if form.light.strip() else form.sky if form.sky != "typed" else "unknown"
        light = with_unit(form.light.strip()[:60], "irradiance", prefs.units)
        air = with_unit(form.air.strip()[:60], "temperature", prefs.units)
        lit_of(sky, light, air, prefs.units)
        began = Began(cast(Story, form.story), sky, light, air)
        if form.search:
            change_search(conn, job_id, form.search, began)
        elif form.visit:
            fresh = fresh_of(chosen, chain_of(a, chosen), record_of(conn, job_id, chosen.option.id), _today())
            if fresh is None or fresh.doc.id != form.visit:
                raise NotFound(later("That visit is gone, or too old to begin with; load the page anew."))
            first = [(piece, _typed_at(fresh, piece)) for piece in fresh.pieces]
            begin_search(conn, job_id, chosen.option.id, _began_at(fresh, began), prefs.who, first)
        else:
            begin_search(conn, job_id, chosen.option.id, began, prefs.who)
    except SquallError as error:
        return _refused(request, conn, stored, error, {"begin": form.model_dump()}, "begin")
    return answer(request, conn, stored, "fault")


def _began_at(fresh: Fresh, began: Began) -> Began:
    """How a search began that begins with a visit: in its light and air."""
    air = text(fresh.doc.air_c, "temperature")
    if fresh.light_w_m2 is None:
        return Began(began.story, "unknown", "", air)
    return Began(began.story, "typed", text(fresh.light_w_m2, "irradiance"), air)


def _typed_at(fresh: Fresh, piece: Evidence) -> str:
    return next(value.measured.typed for value in fresh.doc.values if CHECK_OF[value.point] == piece.check)


@router.post("/jobs/{job_id}/fault/seen")
def see(job_id: int, request: Request, conn: Db, form: Annotated[SeenForm, Form()]) -> Response:
    """Keep what a check showed, or that it can't be done."""
    stored, prefs = one_job(conn, job_id), prefs_of(request)
    try:
        a, chosen = _kit_of(stored)
        chain = chain_of(a, chosen)
        check = CHECKS.get(form.check)
        if check is None:
            raise NotFound(later("There is no such check; load the page anew."))
        piece = Evidence(check.code)
        if not form.skip:
            piece = evidence_of(check, form.typed, chain.panels, prefs.units)
        checked(chain, [piece])
        add_seen(conn, job_id, form.search, piece, form.typed, prefs.who)
    except SquallError as error:
        return _refused(request, conn, stored, error, {form.check: form.typed}, form.check)
    return answer(request, conn, stored, "fault")


def _refused(
    request: Request, conn: Connection, stored: Stored, error: SquallError, typed: Mapping[str, object], at: str
) -> Response:
    """The page again with what was typed, and the sentence where it belongs."""
    extra = panel(request, stored, prefs_of(request))
    extra |= {"typed": typed, "problems": {at: str(error)}}
    return job_page(
        request, conn, stored, "fault", extra, Notices(banner=str(error), banner_kind="bad"), status_of(error)
    )


@router.post("/jobs/{job_id}/fault/unsee")
def unsee(job_id: int, request: Request, conn: Db, seen: Annotated[RowId, Form()]) -> Response:
    """Take back what a check showed."""
    stored = one_job(conn, job_id)
    try:
        remove_seen(conn, job_id, seen)
    except SquallError as error:
        return _refused(request, conn, stored, error, {}, "")
    return answer(request, conn, stored, "fault")


@router.post("/jobs/{job_id}/fault/end")
def end(job_id: int, request: Request, conn: Db, form: Annotated[EndForm, Form()]) -> Response:
    """It runs again, or the search is given up."""
    stored = one_job(conn, job_id)
    try:
        if form.found not in CAUSES and form.found not in (NONE, OTHER):
            raise BadQuantity(later("Say what it was, or choose: none of these."))
        end_search(conn, job_id, form.search, form.found, form.note)
    except SquallError as error:
        return _refused(request, conn, stored, error, {"note": form.note}, "end")
    return answer(request, conn, stored, "fault")


@router.post("/jobs/{job_id}/fault/again")
def again(job_id: int, request: Request, conn: Db, search: Annotated[RowId, Form()]) -> Response:
    """It wasn't that after all: the search goes on."""
    stored = one_job(conn, job_id)
    try:
        open_again(conn, job_id, search)
    except SquallError as error:
        return _refused(request, conn, stored, error, {}, "")
    return answer(request, conn, stored, "fault")
