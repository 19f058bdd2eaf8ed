"""First plug: every test of a kit before it is handed over, its birth certificate, and what the hand-over sheet says."""

from sqlite3 import Connection
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Form, Request, Response
from pydantic import BaseModel, Field

from squall.core.errors import BadQuantity, NotFound, SquallError
from squall.core.faults.checks import caution_of, minutes_of
from squall.core.faults.commissioning import ORDER
from squall.core.faults.suspicion import Evidence
from squall.core.prove.expect import typed_light, unknown_light
from squall.core.reason import Reason, Spoken
from squall.job.kept.commission import AIR_C, Kept, Test, light_typed, may_be_kept, shown_by, test_of, tests_of
from squall.job.trouble.chain import chain_of, read_at
from squall.job.trouble.search import ANSWER_WORDS
from squall.job.wired.not_yet import not_yet
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.kit import KitAssessment
from squall.store.folder.database import connect
from squall.store.jobs import Stored, one_job
from squall.store.kit.faults import frequencies_of
from squall.store.kit.proofs import Birth, add_shown, birth_of, keep_birth, remove_shown, shown_of
from squall.web.frame.edits import answer
from squall.web.frame.job_page import Notices, job_page
from squall.web.frame.pages import Prefs, RowId, database, prefs_of, status_of
from squall.web.stages.circuit import marked_diagrams, readings_on
from squall.words import later, say
from squall.words.units import KINDS, text

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
GROUP_WORDS = {
    "before": later("Before any power"), "dry": later("Dry, and in a bucket"), "line": later("Along the line"), "power": later("Power on"),
    "water": later("Water"), "functions": later("What it does by itself"),
}  # fmt: skip
GRADE_WORDS = {
    "good": later("good"), "wrong": later("wrong"), "told": later("not judged"), "moved": later("the light moved"),
    "dark": later("no light told"), "": later("to do"),
}  # fmt: skip
# Of what is judged, on the circuit.
SIGNS = {"good": "✓", "wrong": "✕"}
# Of a look, and of what is asked with yes or no.
ANSWERS = {**ANSWER_WORDS, "yes": later("yes"), "no": later("no")}
# Of ohms beyond this nobody reads a figure. [ohm]
_OPEN = 1e5


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """All of the page; nothing without a kit."""
    a = assess(stored.job)
    if a.chosen is None:
        return {"groups": None}
    conn = connect(request.app.state.settings.database)
    try:
        tests, light = stand_of(conn, stored, a, a.chosen)
        birth = birth_of(conn, stored.id, a.chosen.option.id)
    finally:
        conn.close()
    chain = chain_of(a, a.chosen)
    may, missing, against = may_be_kept(tests)
    taken = [
        (part, f"{shows(test.proof.check.code, test.piece, test.proof.check.kind)} {SIGNS.get(test.grade, '')}".strip())
        for test in tests
        if test.piece is not None and not test.piece.skipped and (part := read_at(test.proof.check.code, chain))
    ]
    now = unknown_light(AIR_C) if light is None else typed_light(light, AIR_C)
    return {
        "diagrams": marked_diagrams(stored, a, a.chosen, now, lambda kit: readings_on(taken, kit)) if taken else (),
        "diagram_light": now.irradiance_w_m2,
        "groups": [(group, GROUP_WORDS[group], [t for t in tests if t.proof.group == group]) for group in ORDER],
        "light_now": light, "birth": birth, "may": may, "missing": missing, "against": against, "answers": ANSWERS,
        "grades": GRADE_WORDS, "reason": Reason, "expects": expects, "shows": shows, "next_test": next((t.proof.check.code for t in tests if not t.grade), ""),
        "caution": lambda check: caution_of(check, chain), "minutes": lambda check: minutes_of(check, chain), "panel_count": chain.panels,
        "not_yet": not_yet(a, a.chosen), "typed": {}, "problems": {}, "done": sum(1 for t in tests if t.grade), "count": len(tests),
        "examples": {kind: KINDS[kind].example for kind in ("volts", "amps", "ohms", "flow", "length", "seconds")},
        "has_light": chain.panels > 0 or a.chosen.kit.panels > 0,
    }  # fmt: skip


def stand_of(conn: Connection, stored: Stored, a: Assessment, chosen: KitAssessment) -> tuple[tuple[Test, ...], float | None]:  # fmt: skip
    """Every test of the chosen kit as it stands, and the light last read. [W/m2]"""
    kept = [
        Kept(row.id, row.evidence, row.skipped, row.typed, row.at)
        for row in shown_of(conn, stored.id, chosen.option.id)
    ]
    return tests_of(a, chosen, chain_of(a, chosen), kept, frequencies_of(conn))


def expects(test: Test) -> Spoken:
    """What a sound kit shows, in words."""
    proof = test.proof
    if proof.sound:
        return ANSWERS[proof.sound]
    if proof.check.kind is None or proof.low is None or proof.high is None:
        return later("whatever it is: nothing is promised here")
    kind = proof.check.kind
    if proof.high >= 1e300:
        return later("{low} or more", low=text(proof.low, kind))
    if proof.low <= 0.0 and kind == "ohms":
        return later("{high} or less", high=text(proof.high, kind))
    return later("{low} to {high}", low=text(proof.low, kind), high=text(proof.high, kind))


def shows(check: str, piece: Evidence, kind: str | None, skipped: str = "") -> Spoken:
    """What a test showed, in words."""
    if piece.skipped:
        return later("not done: {why}", why=skipped) if skipped else later("not done")
    if piece.answer is not None:
        return ANSWERS.get(piece.answer, piece.answer)
    values = piece.value if isinstance(piece.value, tuple) else (piece.value,)
    if kind == "ohms" and any(value is not None and value >= _OPEN for value in values):
        return later("open, or very many ohms")
    return ", ".join(text(value, kind or "number") for value in values if value is not None)


class ShownForm(BaseModel):
    """What a test showed, or why it isn't done."""

    check: str = Field(max_length=60)
    typed: str = ""
    skip: str = ""
    why: str = ""


def _kit_of(stored: Stored) -> tuple[Assessment, KitAssessment]:
    a = assess(stored.job)
    if a.chosen is None:
        raise NotFound(later("This job has no kit yet, and so nothing to test."))
    return a, a.chosen


@router.post("/jobs/{job_id}/commission/shown")
def keep_shown(job_id: int, request: Request, conn: Db, form: Annotated[ShownForm, Form()]) -> Response:
    """Keep what a test showed, or that it isn't done and why."""
    stored, prefs = one_job(conn, job_id), prefs_of(request)
    try:
        a, chosen = _kit_of(stored)
        chain = chain_of(a, chosen)
        if form.check == "light":
            piece = light_typed(form.typed, chosen, prefs.units)
        elif form.skip:
            piece = Evidence(test_of(form.check, chain).code)
            if not form.why.strip():
                raise BadQuantity(later("Say why it isn't done: whoever reads the sheet wants to know."))
        else:
            _, piece = shown_by(form.check, form.typed, chain, prefs.units)
        add_shown(conn, job_id, chosen.option.id, piece, form.typed, form.why.strip() if form.skip else "", prefs.who)
    except SquallError as error:
        return _refused(request, conn, stored, error, form)
    return answer(request, conn, stored, "commission")


def _refused(request: Request, conn: Connection, stored: Stored, error: SquallError, form: ShownForm) -> Response:
    extra = panel(request, stored, prefs_of(request))
    extra |= {"typed": {form.check: form.typed, f"{form.check}-why": form.why}, "problems": {form.check: str(error)}}
    notices = Notices(banner=str(error), banner_kind="bad")
    return job_page(request, conn, stored, "commission", extra, notices, status_of(error))


@router.post("/jobs/{job_id}/commission/unshown")
def take_back(job_id: int, request: Request, conn: Db, row: Annotated[RowId, Form()]) -> Response:
    """Take a test's last reading back; the one before it stands again."""
    stored = one_job(conn, job_id)
    try:
        remove_shown(conn, job_id, row)
    except SquallError as error:
        return answer(request, conn, stored, "commission", Notices(banner=str(error), banner_kind="bad"), status_of(error))  # fmt: skip
    return answer(request, conn, stored, "commission")


@router.post("/jobs/{job_id}/commission/birth")
def certify(job_id: int, request: Request, conn: Db) -> Response:
    """Keep the set as the kit's birth certificate."""
    stored, prefs = one_job(conn, job_id), prefs_of(request)
    try:
        a, chosen = _kit_of(stored)
        tests, _ = stand_of(conn, stored, a, chosen)
        may, missing, against = may_be_kept(tests)
        if not may:
            raise BadQuantity(later("It can't be kept yet: {missing} tests are to be done, {against} speak against it.", missing=missing, against=against))  # fmt: skip
        keep_birth(conn, job_id, chosen.option.id, [born_row(test) for test in tests], prefs.who)
    except SquallError as error:
        return answer(request, conn, stored, "commission", Notices(banner=str(error), banner_kind="bad"), status_of(error))  # fmt: skip
    return answer(request, conn, stored, "commission", Notices(banner=say("Kept as the kit's birth certificate.")))


def born_row(test: Test) -> dict[str, Any]:
    """A test as the certificate keeps it, in SI."""
    piece, proof = test.piece, test.proof
    assert piece is not None
    return {
        "check": proof.check.code, "group": proof.group, "kind": proof.check.kind, "value": piece.value, "answer": piece.answer,
        "skipped": test.skipped, "at": test.at, "low": proof.low, "high": None if proof.high is None or proof.high > 1e300 else proof.high,
        "sound": proof.sound, "light_w_m2": None if test.light is None else test.light.light_w_m2, "grade": test.grade,
    }  # fmt: skip


def born_words(birth: Birth) -> list[dict[str, Spoken]]:
    """The rows of a birth certificate as a sheet shows them."""
    rows = []
    for row in birth.rows:
        value = row["value"]
        piece = Evidence(row["check"], tuple(value) if isinstance(value, list) else value, row["answer"])
        kind = row["kind"]
        should: Spoken = ANSWERS.get(row["sound"], "") if row["sound"] else ""
        if kind is not None and row["low"] is not None:
            low = text(row["low"], kind)
            should = (
                later("{low} or more", low=low)
                if row["high"] is None
                else later("{low} to {high}", low=low, high=text(row["high"], kind))
            )
        light = "" if row["light_w_m2"] is None else text(row["light_w_m2"], "irradiance")
        rows.append(
            {
                "name": Reason(f"check-{row['check']}"),
                "shown": shows(row["check"], piece, kind, row["skipped"]),
                "should": should,
                "light": light,
            }
        )
    return rows
