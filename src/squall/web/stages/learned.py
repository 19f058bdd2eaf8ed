"""As learned: the kit's year by what its visits taught, beside its year as stated."""

from datetime import UTC, datetime
from typing import Any

from fastapi import Request

from squall.core.reason import Reason, Spoken
from squall.core.upkeep.learned import Learned
from squall.job.kept.as_learned import Beside, beside_of
from squall.job.kept.told import FORETELLS
from squall.job.worked.assess import assess
from squall.store.folder.database import connect
from squall.store.jobs import Stored
from squall.store.kit.record import record_of
from squall.web.frame.pages import Prefs
from squall.words import later
from squall.words.calendar import MONTHS
from squall.words.units import text


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """All of the page; nothing without a kit, little before enough visits count."""
    a = assess(stored.job)
    if a.chosen is None:
        return {"kit_there": False, "both": None}
    conn = connect(request.app.state.settings.database)
    try:
        record = record_of(conn, stored.id, a.chosen.option.id)
    finally:
        conn.close()
    found = beside_of(a, a.chosen, record, datetime.now(UTC).date())
    return {
        "kit_there": True, "both": found, "foretells": FORETELLS, "month_names": MONTHS,
        "said": [] if found is None else beside_words(found), "learned_rows": [] if found is None else learned_rows(found.learned),
    }  # fmt: skip


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
        later("{learned:.0f} days in 100 run short as learned, {stated:.0f} as stated; {allowed:.0f} are allowed.", learned=found.short_learned, stated=found.short_stated, allowed=found.allowed),
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
