"""As learned: the kit's year by what its visits taught, beside its year as stated."""

from collections.abc import Mapping
from datetime import UTC, datetime
from sqlite3 import Connection
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Depends, Form, Request, Response

from squall.core.errors import NotFound
from squall.core.reason import Reason, Spoken
from squall.core.upkeep.learned import OF_PART, Learned, Part
from squall.job.document.job import Job
from squall.job.kept.as_learned import Beside, beside_of, judge_by, learned_doc
from squall.job.kept.told import FORETELLS
from squall.job.worked.assess import assess
from squall.job.worked.kit import KitAssessment, same_parts
from squall.store.folder.database import connect
from squall.store.jobs import Stored
from squall.store.kit.record import record_of
from squall.web.frame.edits import make
from squall.web.frame.pages import Prefs, database
from squall.words import Message, later
from squall.words.calendar import MONTHS
from squall.words.units import text

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
PARTS: Mapping[Part, Message] = {
    "pump": later("the pump"), "panel": later("the panels"), "cable": later("the cable"), "hose": later("the hose"), "lift": later("the lift"),
}  # fmt: skip


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """All of the page; nothing without a kit, little before enough visits count."""
    a = assess(stored.job)
    if a.chosen is None:
        return {"kit_there": False, "both": None, "taken": None}
    conn = connect(request.app.state.settings.database)
    try:
        record = record_of(conn, stored.id, a.chosen.option.id)
    finally:
        conn.close()
    found = beside_of(a, a.chosen, record, datetime.now(UTC).date())
    return {
        "kit_there": True, "taken": a.chosen.option.learned, "taken_lost": parts_changed(a.chosen), "both": found, "today": datetime.now(UTC).date().isoformat(), "foretells": FORETELLS, "month_names": MONTHS,
        "said": [] if found is None else beside_words(found), "learned_rows": [] if found is None else learned_rows(found.learned),
    }  # fmt: skip


def parts_changed(chosen: KitAssessment) -> list[Message]:
    """Parts of which what was taken over tells nothing any more: they are others now."""
    if chosen.option.learned is None:
        return []
    same = same_parts(chosen, chosen.option.learned)
    return [PARTS[part] for part in OF_PART if part not in same]


@router.post("/jobs/{job_id}/learned/judge")
def judge(
    job_id: int, request: Request, conn: Db, by: Annotated[Literal["visits", "label"], Form()] = "visits"
) -> Response:
    """From now on the chosen kit's water is judged by what its visits have taught until today, or by its label again."""

    def change(job: Job) -> tuple[Job, Spoken]:
        a = assess(job)
        if a.chosen is None:
            raise NotFound(later("No kit is chosen yet, so nothing was learned of it."))
        if by == "label":
            return judge_by(job, None)
        record = record_of(conn, job_id, a.chosen.option.id)
        return judge_by(job, learned_doc(a, a.chosen, record, datetime.now(UTC).date()))

    return make(request, conn, job_id, "learned", change)


def beside_words(found: Beside) -> list[Spoken]:
    """Both years in sentences."""
    worst = found.worst
    if found.refusal is not None:
        verdict = later("Whatever it gives, this kit won't do as stated ({why})", why=found.refusal)
    elif found.holds:
        verdict = later("As learned it holds")
    elif worst.learned_l < worst.need_l:
        verdict = later("As learned it falls short")
    else:
        verdict = later("As learned its months hold, but too many days run short")
    return [
        later("{verdict}: its worst month, {month}, makes {learned:litres} on the mean day and needs {need:litres}; as stated it would make {stated:litres}.", verdict=verdict, month=MONTHS[worst.month], learned=worst.learned_l / 1000.0, need=worst.need_l / 1000.0, stated=worst.stated_l / 1000.0),
        later("Of 100 days {learned:.0f} run short as learned, {stated:.0f} as stated; {allowed:.0f} may.", learned=found.short_learned, stated=found.short_stated, allowed=found.allowed),
    ]  # fmt: skip


def learned_rows(learned: Learned) -> list[tuple[Spoken, str]]:
    """What was learned, a line each, in the middle of what is thought likely."""
    return [
        (Reason("state-panel-light-lost"), text(learned.light_lost, "share")),
        (Reason("state-joint-ohm"), text(learned.joint_ohm, "ohms")),
        (
            Reason("state-drag"),
            str(later("{value:.2f} times", value=1.0 + learned.drag)),
        ),
        (Reason("state-head-lost"), text(learned.head_lost, "share")),
        (Reason("state-flow-lost"), text(learned.flow_lost, "share")),
        (later("panels' amps other than stated, from the first day"), text(learned.panel_a, "share")),
        (later("pump's height other than stated, from the first day"), text(learned.head, "share")),
        (later("pump's amps other than stated, from the first day"), text(learned.amps, "share")),
        (later("lift other than surveyed"), text(learned.lift_m, "length")),
    ]
