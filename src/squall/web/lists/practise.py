"""Practise: a kit with a hidden fault; looks cost minutes, unsafe ones are stopped; then the truth, and what each look was worth."""

import re
from sqlite3 import Connection
from typing import Annotated
from urllib.parse import urlencode

from fastapi import APIRouter, Depends, Query, Request, Response

from squall.core.errors import NotFound
from squall.core.faults.causes import CAUSES, NONE
from squall.core.faults.checks import Check
from squall.core.faults.suspicion import Evidence
from squall.core.reason import Reason, Spoken
from squall.job.trouble.chain import chain_of
from squall.job.trouble.search import ANSWER_WORDS
from squall.job.worked.assess import assess
from squall.standins.kits import Json
from squall.standins.play import faults_of
from squall.standins.practice import LEVELS, MOST_ACTS, Act, checks_in, lesson_of, play, worth_of
from squall.standins.stated import stated_of
from squall.store.jobs import Stored, one_job
from squall.sums.faults import in_si
from squall.web.frame.pages import database, page
from squall.words import later
from squall.words.units import text

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
KIT_WORDS = {
    "battery": later("a small pump on a battery"), "panels": later("a small pump straight on two panels, with a float"),
    "three wires": later("a well pump of three wires, two panels, a controller with float and probe"),
    "membrane": later("a membrane pump on two panels in a row"), "plug-in": later("a bilge pump on a plug-in supply, with a timer"),
    "four panels": later("a surface pump behind a controller, four panels"),
}  # fmt: skip
LEVEL_WORDS = {
    "plain": later("plain: one look shows it"),
    "usual": later("usual: whatever comes"),
    "hard": later("hard: several readings together"),
}
PLACES = ("panels", "source", "box", "line", "pump", "outlet")
_OPEN = 1e5


OWN = re.compile(r"job-(\d{1,15})")


@router.get("/practise")
def choose(request: Request, conn: Db, job: Annotated[int | None, Query(ge=1)] = None) -> Response:
    """Choose a kit, one of ours or a job's own, and how hard."""
    kits: dict[str, Spoken] = {}
    if job is not None:
        stored, _ = _own_kit(conn, job)
        kits[f"job-{job}"] = later("the kit of “{name}”", name=stored.job.name)
    return page(request, "practise/choose.html", {"kits": kits | KIT_WORDS, "levels": LEVEL_WORDS})


def _own_kit(conn: Connection, job_id: int) -> tuple[Stored, Json]:
    """A job and its chosen kit, as it is stated."""
    stored = one_job(conn, job_id)
    a = assess(stored.job)
    if a.chosen is None:
        raise NotFound(later("“{name}” has no kit yet: nothing can be practised on it.", name=stored.job.name))
    return stored, stated_of(chain_of(a, a.chosen))


@router.get("/practise/lesson")
def lesson(
    request: Request, conn: Db, kit: str = "", level: str = "usual", number: Annotated[int, Query(ge=0, le=10**9 - 1)] = 1,
    acts: Annotated[str, Query(max_length=4000)] = "", named: Annotated[str, Query(max_length=60)] = "",
) -> Response:  # fmt: skip
    """A lesson as it stands; once something is named, the truth."""
    own = OWN.fullmatch(kit)
    stored, stated = _own_kit(conn, int(own[1])) if own else (None, None)
    one = lesson_of(kit, level, number, stated)
    done = [code for code in acts.split(",") if code][:MOST_ACTS]
    played = play(one, done)
    causes = [code for code in faults_of(one.stated) if code != NONE]
    told = named in (*causes, NONE)
    checks = checks_in(one)

    def address(more: str = "", name: str = "") -> str:
        query = {"kit": kit, "level": level, "number": number, "acts": ",".join([*done, more] if more else done)}
        return f"/practise/lesson?{urlencode({**query, 'named': name} if name else query)}"

    return page(request, "practise/lesson.html", {
        "lesson": one, "played": played, "kit_words": KIT_WORDS[kit] if stored is None else stored.job.name, "job": stored, "level_words": LEVEL_WORDS[level], "address": address,
        "places": [(where, [check for check in checks if check.where == where]) for where in PLACES],
        "seen": [(act, act_words(act)) for act in played.acts], "causes": sorted(causes, key=lambda code: str(Reason(f"fault-{code}"))),
        "named": named if told else "", "right": named == one.fault, "worth": worth_of(one, played) if told else (),
        "reason": Reason, "none": NONE, "full": len(done) >= MOST_ACTS, "acts": ",".join(done), "levels": LEVELS,
        "remedy": f"remedy-{one.fault}" if one.fault in CAUSES or one.fault == NONE else "",
    })  # fmt: skip


def act_words(act: Act) -> Spoken:
    """What an act showed, in words."""
    if act.check is None:
        return later("switched on") if act.code == "on" else later("switched off")
    if act.stopped:
        return later(
            "stopped: it is switched on. What opens a connection, reads ohms or turns a rotor is done dead, or it bites"
        )
    if act.idle:
        return later("nothing to be seen: it is switched off")
    assert act.shown is not None
    return shown_words(act.check, act.shown)


def shown_words(check: Check, shown: dict[str, object]) -> Spoken:
    """What a check showed, in a person's units."""
    answer, value = shown.get("answer"), shown.get("value")
    if isinstance(answer, str):
        return ANSWER_WORDS.get(answer, answer)
    assert isinstance(value, float | int | list)
    found = in_si(check.code, value)
    piece = Evidence(check.code, value=found)
    values = piece.value if isinstance(piece.value, tuple) else (piece.value,)
    if check.kind == "ohms" and any(one is not None and one >= _OPEN for one in values):
        return later("open")
    return ", ".join(text(one, check.kind or "number") for one in values if one is not None)
