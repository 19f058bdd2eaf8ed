"""Live: what a logger, or a stand-in, sends as it reads; each reading judged in the light of now, and kept with a click."""

import json
from collections.abc import AsyncIterator, Mapping
from contextlib import closing
from datetime import UTC, datetime, timedelta
from itertools import pairwise
from pathlib import Path
from sqlite3 import Connection
from typing import Annotated, Any

import anyio
from anyio.to_thread import run_sync
from fastapi import APIRouter, Depends, Form, Request, Response
from fastapi.responses import PlainTextResponse, StreamingResponse

from squall.core.errors import NotFound, SquallError
from squall.core.prove.expect import POINTS
from squall.core.reason import Reason, Spoken
from squall.drawing.small.logged import LaneDrawn, draw_logged
from squall.formats import live_lines
from squall.formats.live_lines import Line, Lines, read_lines
from squall.job.document.job import ReadingValue
from squall.job.told.prove import KIND, taken_of
from squall.job.trouble.chain import chain_of
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.kit import KitAssessment
from squall.standins.instruments import EVERY_S, lines_at
from squall.standins.play import faults_of
from squall.standins.stated import stated_of
from squall.store.folder.database import connect
from squall.store.jobs import Stored, one_job
from squall.store.kit.live import (
    Sent,
    add_sent,
    addresses_of,
    end_address,
    job_of,
    last_sent,
    newest_sent,
    open_address,
)
from squall.web.frame.edits import answer
from squall.web.frame.job_page import Notices, job_page
from squall.web.frame.pages import Prefs, RowId, database, prefs_of, status_of
from squall.words import Message, later, say
from squall.words.units import text

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
# A reading older than this is not of now; lanes go back so far, in so many spans.
NOW = timedelta(minutes=2)
LANES, SPANS = timedelta(minutes=30), 120
# Of a stand-in so many sendings are shown.
STANDIN_TICKS = 48
# How often it is looked whether something came, and how long one listens before asking anew. [s]
LOOKS_EVERY_S, LISTENS_S = 1.0, 240.0
# Lines as a logger sends them, for whoever makes it send.
EXAMPLE = ("2026-12-02T12:00:00Z,light,640 W/m2", "2026-12-02T12:00:00Z,pump-volts,15.1 V", ",pump-amps,3.9 A", ",outlet-flow,8.2 L/min")  # fmt: skip
_NAMES: Mapping[str, Message] = {"light": later("light on the panels"), "air": later("air"), "level": later("water below its level")}  # fmt: skip
# How a value in SI is written so that it is read as itself. [point: (measure, unit)]
_WRITTEN = {"volts": (1.0, "V"), "amps": (1.0, "A"), "flow": (60_000.0, "L/min"), "irradiance": (1.0, "W/m2"), "temperature": (1.0, "degC"), "length": (1.0, "m")}  # fmt: skip


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """All of the page; nothing without a kit."""
    with closing(connect(request.app.state.settings.database)) as conn:
        return shown(request, conn, stored, prefs)


def shown(request: Request, conn: Connection, stored: Stored, prefs: Prefs, opened: str = "") -> dict[str, Any]:
    """Everything of the page; with the code of an address that was opened just now."""
    a = assess(stored.job)
    if a.chosen is None:
        return {"rows": None}
    now = datetime.now(UTC)
    stated = stated_of(chain_of(a, a.chosen))
    asked = request.query_params.get("standin", "")[:40]
    faults = faults_of(stated)
    standin = asked if asked in faults else ""
    if standin:
        lines = read_lines(lines_at(stated, standin, now, STANDIN_TICKS), now).read
    else:
        sent = newest_sent(conn, stored.id, a.chosen.option.id)
        lines = tuple(Line(datetime.fromisoformat(one.at), one.point, one.value) for one in reversed(sent))
    newest = {line.point: line for line in lines if now - line.at <= NOW}
    settings = request.app.state.settings
    addresses = settings.addresses or (str(request.base_url),)
    form = form_of_now(newest)
    return {
        "rows": _rows(a, a.chosen, newest, form, prefs, now), "form": form, "standin": standin, "standins": faults, "reason": Reason,
        "lanes": _lanes(lines, now), "last": max((line.at for line in lines), default=None), "addresses": addresses_of(conn, stored.id),
        "opened": [f"{address}live/{opened}" for address in addresses] if opened else [], "points": live_lines.POINTS, "every_s": EVERY_S,
        "example": EXAMPLE, "sealed": settings.sealed,
    }  # fmt: skip


def form_of_now(newest: Mapping[str, Line]) -> dict[str, str]:
    """What stands at each point now, as Prove's form takes it; the level is none of its points."""
    return {point: _written(point, line.value) for point, line in newest.items() if point != "level"}


def _written(point: str, value: float) -> str:
    measure, unit = _WRITTEN[live_lines.POINTS[point]]
    return f"{value * measure:.6g} {unit}"


def _name(point: str) -> Spoken:
    """As Prove names it; what Prove has no point for has a name of its own."""
    return POINTS[point] if point in KIND else _NAMES[point]  # type: ignore[index]


def _rows(a: Assessment, chosen: KitAssessment, newest: Mapping[str, Line], form: Mapping[str, str], prefs: Prefs, now: datetime) -> list[dict[str, Any]]:  # fmt: skip
    """Each point that reads now: its name, what it reads, how old that is, what it should be, and whether it is."""
    judged: dict[str, ReadingValue] = {value.point: value for value in taken_of(a, chosen, form, prefs.units).values}
    rows = []
    for point in live_lines.POINTS:
        if point not in newest:
            continue
        line, value = newest[point], judged.get(point)
        rows.append({
            "point": point, "name": _name(point), "reads": text(line.value, live_lines.POINTS[point]), "ago": max(round((now - line.at).total_seconds()), 0),
            "kind": live_lines.POINTS[point], "value": value,
        })  # fmt: skip
    return rows


def _lanes(lines: tuple[Line, ...], now: datetime) -> Any:
    """The last half hour of each point, one over the other; nothing where none came."""
    begins = max(now - LANES, min((line.at for line in lines), default=now))
    span = max((now - begins).total_seconds(), 1.0) / SPANS
    found: dict[str, list[list[float]]] = {}
    for line in lines:
        if line.at >= begins:
            place = min(int((line.at - begins).total_seconds() / span), SPANS - 1)
            found.setdefault(line.point, [[] for _ in range(SPANS)])[place].append(line.value)
    if not found:
        return ""
    drawn = []
    for point in live_lines.POINTS:
        if point not in found or point == "air":
            continue
        spans = _filled(found[point])
        most = max(max(one) for one in spans if one)
        drawn.append(LaneDrawn(
            _name(point), say("most {value}", value=text(most, live_lines.POINTS[point])), [min(one) if one else None for one in spans],
            [sum(one) / len(one) if one else None for one in spans], [max(one) if one else None for one in spans],
        ))  # fmt: skip
    return draw_logged(
        drawn,
        say("{n:.0f} min ago", n=(now - begins).total_seconds() / 60.0),
        say("now"),
        say("What was sent of late; the table tells its end in words."),
    )


def _filled(spans: list[list[float]]) -> list[list[float]]:
    """Between two readings the last one stands, for as long as readings are apart."""
    at = [number for number, one in enumerate(spans) if one]
    apart = max((b - a for a, b in pairwise(at)), default=20)
    filled: list[list[float]] = []
    last: list[float] = []
    since = 0
    for one in spans:
        last, since = (one, 0) if one else (last, since + 1)
        filled.append(last if since < min(apart, 20) else [])
    return filled


def _kit_of(stored: Stored) -> KitAssessment:
    a = assess(stored.job)
    if a.chosen is None:
        raise NotFound(later("This job has no kit yet, and so nothing that could be read live."))
    return a.chosen


@router.post("/jobs/{job_id}/live/open")
def open_one(job_id: int, request: Request, conn: Db, note: Annotated[str, Form(max_length=200)] = "") -> Response:
    """Open an address to which a logger may send; it is shown this once."""
    stored, prefs = one_job(conn, job_id), prefs_of(request)
    try:
        _kit_of(stored)
        code = open_address(conn, job_id, note)
    except SquallError as error:
        return answer(request, conn, stored, "live", Notices(banner=str(error), banner_kind="bad"), status_of(error))
    return job_page(request, conn, stored, "live", shown(request, conn, stored, prefs, code))


@router.post("/jobs/{job_id}/live/end")
def end_one(job_id: int, request: Request, conn: Db, address: Annotated[RowId, Form()]) -> Response:
    """End an address."""
    stored = one_job(conn, job_id)
    try:
        end_address(conn, job_id, address)
    except SquallError as error:
        return answer(request, conn, stored, "live", Notices(banner=str(error), banner_kind="bad"), status_of(error))
    return answer(request, conn, stored, "live")


async def body_of_lines(request: Request) -> bytes:
    """What was sent, read to its end."""
    return await request.body()


@router.post("/live/{code}", responses={422: {"description": "nothing of it could be read"}})
def take_lines(code: str, conn: Db, body: Annotated[bytes, Depends(body_of_lines)]) -> Response:
    """Take in a logger's lines, ``time,point,reading`` each; what can't be read is said by its line, the rest is kept."""
    job_id = job_of(conn, code)
    chosen = _kit_of(one_job(conn, job_id))
    lines = read_lines(body.decode("utf8", "replace"), datetime.now(UTC))
    if lines.read:
        sent = [Sent(line.at.isoformat(), line.point, line.value) for line in lines.read]
        add_sent(conn, job_id, chosen.option.id, sent)
    return PlainTextResponse(_told(lines), 200 if lines.read or not lines.refused else 422)


def _told(lines: Lines) -> str:
    said: list[object] = [later("{n} readings kept.", n=len(lines.read))]
    if lines.clock_off:
        said.append(later("{n} of them had a clock that can't be believed, and count as of now.", n=lines.clock_off))
    said += [later("Line {number}: {why}", number=number, why=why) for number, why in lines.refused]
    return "\n".join(str(one) for one in said) + "\n"


# An answer that doesn't end for minutes: not for whoever calls all that is described.
@router.get("/jobs/{job_id}/live/events", response_class=StreamingResponse, include_in_schema=False)
def events(job_id: int, request: Request, conn: Db, standin: str = "") -> StreamingResponse:
    """A word whenever something came, as server-sent events; of a stand-in whenever it sends."""
    one_job(conn, job_id)
    told = _standin_ticks() if standin else _words(request.app.state.settings.database, job_id)
    return StreamingResponse(told, media_type="text/event-stream", headers={"x-accel-buffering": "no"})


async def _standin_ticks() -> AsyncIterator[str]:
    """A word at each sending of a stand-in."""
    for _ in range(int(LISTENS_S / EVERY_S)):
        yield f"data: {json.dumps({'came': int(datetime.now(UTC).timestamp()) // EVERY_S})}\n\n"
        await anyio.sleep(EVERY_S)


async def _words(path: Path, job_id: int) -> AsyncIterator[str]:
    """A word at each reading that came; looked for in a thread, so that nobody waits for it."""

    def last() -> int:
        with closing(connect(path)) as conn:
            return last_sent(conn, job_id)

    before = -1
    for _ in range(int(LISTENS_S / LOOKS_EVERY_S)):
        now = await run_sync(last)
        if now != before:
            before = now
            yield f"data: {json.dumps({'came': now})}\n\n"
        await anyio.sleep(LOOKS_EVERY_S)
