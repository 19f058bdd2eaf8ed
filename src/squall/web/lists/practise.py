"""Practise: a kit with a hidden fault; looks cost minutes, unsafe ones are stopped; then the truth, and what each look was worth."""

import re
from sqlite3 import Connection
from typing import Annotated
from urllib.parse import urlencode

from fastapi import APIRouter, Depends, Form, Query, Request, Response
from fastapi.responses import RedirectResponse
from pydantic import BaseModel, Field

from squall.core.errors import NotFound
from squall.core.faults.causes import CAUSES, NONE
from squall.core.faults.checks import Check
from squall.core.faults.suspicion import Evidence
from squall.core.reason import Reason, Spoken
from squall.formats.cells import csv_of
from squall.job.trouble.chain import chain_of
from squall.job.trouble.search import ANSWER_WORDS
from squall.job.worked.assess import assess
from squall.standins.courses import COURSES
from squall.standins.kits import Json
from squall.standins.play import faults_of
from squall.standins.practice import (
    LEVELS,
    MOST_ACTS,
    Act,
    Lesson,
    bench_of,
    checks_in,
    leads_code,
    lesson_of,
    play,
    worth_of,
)
from squall.standins.stated import stated_of
from squall.store.jobs import Stored, one_job
from squall.store.lessons import Finished, answered_of, keep_lesson, lessons, progress
from squall.sums.faults import in_si
from squall.web.frame.pages import database, page
from squall.web.lists.workplace import (
    DIAL_WORDS,
    HAND_WORDS,
    SOCKET_WORDS,
    act_name,
    dots_of,
    hands_of,
    reading_words,
    workplace,
)
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
LESSON_COLUMNS = (
    "at", "learner", "kit", "level", "lesson", "acts", "named", "fault", "right", "minutes", "looks", "stopped_as_unsafe",
)  # fmt: skip
PLACES = ("panels", "source", "box", "line", "pump", "outlet")
_OPEN = 1e5


OWN = re.compile(r"job-(\d{1,15})")


@router.get("/practise")
def choose(
    request: Request, conn: Db, job: Annotated[int | None, Query(ge=1)] = None, learner: Annotated[str, Query(max_length=200)] = ""
) -> Response:  # fmt: skip
    """Choose a kit, one of ours or a job's own, and how hard."""
    kits: dict[str, Spoken] = {}
    if job is not None:
        stored, _ = _own_kit(conn, job)
        kits[f"job-{job}"] = later("the kit of “{name}”", name=stored.job.name)
    learner = _learner(request) or learner
    courses = {code: (course.title, answered_of(conn, learner).get(code, 0)) for code, course in COURSES.items()}
    shown = {
        "kits": kits | KIT_WORDS, "levels": LEVEL_WORDS, "progress": progress(conn), "learner": learner, "courses": courses,
    }  # fmt: skip
    return page(request, "practise/choose.html", shown)


def may_keep(request: Request) -> bool:
    """Whether what is named is kept: not of somebody who only looks on."""
    session = getattr(request.state, "session", None)
    return session is None or not session.looks_on


def _learner(request: Request) -> str:
    """Whoever came in by a passphrase of their own."""
    session = getattr(request.state, "session", None)
    return session.who if session is not None else ""


def _own_kit(conn: Connection, job_id: int) -> tuple[Stored, Json]:
    """A job and its chosen kit, as it is stated."""
    stored = one_job(conn, job_id)
    a = assess(stored.job)
    if a.chosen is None:
        raise NotFound(later("“{name}” has no kit yet: nothing can be practised on it.", name=stored.job.name))
    return stored, stated_of(chain_of(a, a.chosen))


class Asked(BaseModel):
    """A lesson as its address has it: which, what was done so far, what it is said to be, who learns."""

    kit: str = ""
    level: str = "usual"
    number: int = Field(1, ge=0, le=10**9 - 1)
    acts: str = Field("", max_length=4000)
    named: str = Field("", max_length=60)
    learner: str = Field("", max_length=200)
    # Where the leads are, how the meter is set, and whether that is read now.
    red: str = Field("", max_length=30)
    black: str = Field("", max_length=30)
    dial: str = Field("v20", max_length=10)
    socket: str = Field("v", max_length=4)
    read: str = Field("", max_length=4)

    @property
    def done(self) -> list[str]:
        """What was done so far."""
        return [code for code in self.acts.split(",") if code][:MOST_ACTS]

    @property
    def leads(self) -> dict[str, str]:
        """Where the leads are and how the meter is set, as far as they are."""
        if not self.red and not self.black:
            return {}
        return {"red": self.red, "black": self.black, "dial": self.dial, "socket": self.socket}

    @property
    def held(self) -> dict[str, str]:
        """Terminals that have a lead."""
        return {terminal: lead for terminal, lead in ((self.black, "black"), (self.red, "red")) if terminal}

    def with_lead(self, terminal: str) -> str:
        """Where the lesson stands with the next lead on a terminal: red, then black, then red anew."""
        red, black = (self.red, terminal) if self.red and not self.black and terminal != self.red else (terminal, "")
        return self.model_copy(update={"red": red, "black": black}).address(self.done) + "#bench"

    def address(self, acts: list[str], named: str = "") -> str:
        """Where the lesson stands with these acts, and with something named."""
        query = {
            "kit": self.kit,
            "level": self.level,
            "number": self.number,
            "acts": ",".join(acts),
            "learner": self.learner,
            **self.leads,
        }
        return f"/practise/lesson?{urlencode({**query, 'named': named} if named else query)}"


def _lesson(conn: Connection, asked: Asked) -> tuple[Lesson, Stored | None]:
    """The lesson that is asked for, and the job whose kit it is of."""
    own = OWN.fullmatch(asked.kit)
    stored, stated = _own_kit(conn, int(own[1])) if own else (None, None)
    return lesson_of(asked.kit, asked.level, asked.number, stated), stored


@router.get("/practise/lesson")
def lesson(request: Request, conn: Db, asked: Annotated[Asked, Query()]) -> Response:
    """A lesson as it stands; once something is named, the truth."""
    one, stored = _lesson(conn, asked)
    if asked.read and asked.red and asked.black:
        act = leads_code(asked.dial, asked.socket, asked.red, asked.black)
        return RedirectResponse(f"{asked.address([*asked.done, act][:MOST_ACTS])}#bench", 303)
    played = play(one, asked.done)
    bench = bench_of(one)
    causes = [code for code in faults_of(one.stated) if code != NONE]
    told = asked.named in (*causes, NONE)
    checks = checks_in(one)
    return page(request, "practise/lesson.html", {
        "lesson": one, "played": played, "kit_words": KIT_WORDS[asked.kit] if stored is None else stored.job.name, "job": stored,
        "level_words": LEVEL_WORDS[asked.level], "address": lambda more: asked.address([*asked.done, more]),
        "places": [(where, [check for check in checks if check.where == where]) for where in PLACES],
        "seen": [(act, act_words(act)) for act in played.acts], "causes": sorted(causes, key=lambda code: str(Reason(f"fault-{code}"))),
        "named": asked.named if told else "", "right": asked.named == one.fault, "worth": worth_of(one, played) if told else (),
        "reason": Reason, "none": NONE, "full": len(asked.done) >= MOST_ACTS, "acts": ",".join(asked.done), "levels": LEVELS,
        "learner": asked.learner, "may_keep": may_keep(request),
        "bench": workplace(bench, played.stand, asked.held, asked.with_lead), "hands": hands_of(one, played), "hand_words": HAND_WORDS, "asked": asked,
        "dots": dots_of(bench), "dials": DIAL_WORDS, "sockets": SOCKET_WORDS, "act_name": lambda act: act_name(act, bench), "words_of": act_words,
        "last": played.acts[-1] if played.acts else None,
        "remedy": f"remedy-{one.fault}" if one.fault in CAUSES or one.fault == NONE else "",
    })  # fmt: skip


@router.post("/practise/lesson")
def name_it(conn: Db, form: Annotated[Asked, Form()]) -> Response:
    """Say what it is: kept with whoever learned, then the truth."""
    one, _ = _lesson(conn, form)
    played = play(one, form.done)
    if form.named in (*faults_of(one.stated), NONE):
        looks = sum(act.check is not None or act.leads is not None for act in played.acts)
        keep_lesson(conn, Finished(
            form.learner, form.kit, form.level, form.number, ",".join(form.done), form.named, one.fault, played.minutes, looks, played.unsafe,
        ))  # fmt: skip
    return RedirectResponse(form.address(form.done, form.named), 303)


@router.get("/practise/progress.csv")
def progress_file(conn: Db) -> Response:
    """Every finished lesson as CSV."""
    rows = [
        (one.at, one.learner, one.kit, one.level, one.number, one.acts.replace(",", " "), one.named, one.fault, "yes" if one.named == one.fault else "no",
         f"{one.minutes:.1f}", one.looks, one.unsafe)
        for one in lessons(conn)
    ]  # fmt: skip
    return Response(
        csv_of([LESSON_COLUMNS, *rows]),
        media_type="text/csv; charset=utf-8",
        headers={"content-disposition": 'attachment; filename="lessons.csv"'},
    )


def act_words(act: Act) -> Spoken:
    """What an act showed, in words."""
    if act.reading is not None:
        return reading_words(act.reading)
    if act.code in HAND_WORDS:
        return later("stopped: a plug is never parted or joined under load") if act.stopped else HAND_WORDS[act.code][1]
    if act.check is None:
        return later("switched on") if act.code == "on" else later("switched off")
    if act.stopped:
        return later(
            "stopped: it is switched on. What opens a connection, reads ohms or turns a rotor is done dead, or it bites"
        )
    if act.idle:
        return later("nothing to be seen: it is switched off, unplugged or covered")
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
