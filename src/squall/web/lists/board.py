"""The board of the yard: every job by what needs a hand there, found by words, place, pump and person."""

from collections.abc import Sequence
from datetime import UTC, date, datetime
from itertools import groupby
from sqlite3 import Connection
from time import monotonic
from typing import Annotated
from urllib.parse import urlencode

from fastapi import APIRouter, Depends, Query, Request, Response
from pydantic import BaseModel

from squall.core.errors import SquallError
from squall.core.reason import Reason
from squall.drawing import draw_course, draw_thumbnail
from squall.job.document.specs import WATER
from squall.job.edit.beginnings import KINDS
from squall.job.kept.board import FOR_NOW, HAND_WORDS, HANDS, SOON_DAYS, Standing, standing_of
from squall.job.told.verdict import GAPS, GRADE_WORDS, gaps_in, verdict_of
from squall.job.worked.assess import assess
from squall.store.jobs import Stored, jobs_of, one_job
from squall.store.kit.record import record_of
from squall.store.removed import last_deleted
from squall.store.standings import JobRow, Sought, in_order, job_rows, keep_standings
from squall.web.frame.pages import database, opened_by, page
from squall.words import Message, later

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
ON_A_PAGE = 20
# So many are worked out before the page is shown; of more, each when it comes into sight.
AT_ONCE = 8
# How long one request works out standings before it answers. [s]
A_WHILE_S = 0.4
ORDERS = {
    "hand": later("what needs a hand"), "opened": later("last opened"), "changed": later("last changed"), "name": later("by name"),
    "made": later("last made"),
}  # fmt: skip


class NewJob(BaseModel):
    """A new job as it is asked for: its name, of what kind, and three questions."""

    name: str = ""
    kind: str = ""
    water: str = ""
    lift: str = ""
    litres: str = ""


class ListQuery(BaseModel):
    """What is asked of the board: words, a grade, a gap, a hand, a place, a pump, a person, an order, a page from 1."""

    q: str = ""
    grade: str = ""
    missing: str = ""
    hand: str = ""
    place: str = ""
    pump: str = ""
    who: str = ""
    sort: str = "hand"
    page: int = 1

    def sought(self, today: date) -> Sought:
        """As the store looks for it."""
        return Sought(today, self.q, self.grade, self.missing, self.hand, self.place, self.pump, self.who)

    @property
    def narrowed(self) -> bool:
        """Whether some jobs may be left out."""
        return bool(self.q.strip() or self.grade or self.missing or self.hand or self.place or self.pump or self.who)

    @property
    def folded(self) -> bool:
        """Whether any of the rarer questions is asked."""
        return bool(self.grade or self.missing or self.place or self.pump or self.who)

    def address(self, page: int, path: str = "/") -> str:
        """Of another page of the same board."""
        asked = {
            name: value
            for name, value in self.model_dump().items()
            if value and name != "page" and (name, value) != ("sort", "hand")
        }
        return f"{path}?" + urlencode(asked | {"page": page})


def _shown(stored: Stored, row: JobRow, today: date, *, now: bool) -> dict[str, object]:
    """One job of the board; its summary is left for later where many wait, or while the libraries still load."""
    return {
        "stored": stored,
        "job": stored.job,
        "thumbnail": draw_thumbnail(stored.id, stored.job),
        "summary": _summary(stored) if now else None,
        "standing": row.standing,
        "hands": row.hands(today),
        "next": None if row.standing is None else _next(row.standing, today),
        "course": "" if row.standing is None else draw_course([(one.on, one.share) for one in row.standing.course]),
    }


def _next(standing: Standing, today: date) -> tuple[Message | Reason, str, bool] | None:
    """What comes next there, its day, and whether that is over."""
    if not standing.due:
        return None
    code, on = standing.due[0]
    what = later("put right what was for now") if code == FOR_NOW else Reason(f"due-{code}")
    return what, on.isoformat(), on < today


def _summary(stored: Stored) -> dict[str, object]:
    try:
        assessment = assess(stored.job)
        gaps = gaps_in(assessment, stored.visits)
        return {"verdict": verdict_of(assessment), "missing": [GAPS[gap] for gap in gaps], "problem": ""}
    except SquallError as error:
        return {"verdict": None, "missing": [], "problem": str(error)}


def board_of(request: Request, conn: Connection, query: ListQuery) -> dict[str, object]:
    """What the board shows of what is asked."""
    today = datetime.now(UTC).date()
    every = job_rows(conn, today)
    sought = query.sought(today)
    rows = in_order([row for row in every if sought.fits(row)], query.sort, today, opened_by(request))
    pages = max(-(-len(rows) // ON_A_PAGE), 1)
    number = min(max(query.page, 1), pages)
    part = rows[(number - 1) * ON_A_PAGE : number * ON_A_PAGE]
    here = {stored.id: stored for stored in jobs_of(conn, [row.id for row in part])}
    now = request.app.state.warmed.is_set() and len(here) <= AT_ONCE
    shown = [_shown(here[row.id], row, today, now=now) for row in part if row.id in here]
    by_hand = query.sort == "hand"
    groups = [(key, list(group)) for key, group in groupby(shown, key=lambda row: _first(row) if by_hand else "all")]
    return {
        "groups": groups,
        "query": query,
        "found": len(rows),
        "every": len(every),
        "pages": pages,
        "number": number,
        "hands": HAND_WORDS,
        "counts": [(hand, sum(hand in row.hands(today) for row in every)) for hand in HANDS],
        "not_known": sum(row.standing is None for row in every),
        "soon": SOON_DAYS,
        "reason": Reason,
        **_choices(every),
    }


def _first(row: dict[str, object]) -> str:
    hands = row["hands"]
    assert isinstance(hands, tuple)
    return hands[0] if hands else ""


def _choices(every: Sequence[JobRow]) -> dict[str, object]:
    """What can be asked for: places, pumps and people that there are."""
    return {
        "grades": GRADE_WORDS,
        "gaps": GAPS,
        "orders": ORDERS,
        "places": sorted({row.place.strip() for row in every} - {""}, key=str.casefold),
        "pumps": sorted({row.standing.pump for row in every if row.standing is not None} - {""}, key=str.casefold),
        "people": sorted({name for row in every for name in row.people}, key=str.casefold),
    }


def listed(
    request: Request, conn: Connection, problem: str = "", status: int = 200, typed: NewJob | None = None,
    query: ListQuery | None = None,
) -> Response:  # fmt: skip
    """The whole page, with what was typed of a new job and why it wasn't made."""
    context = board_of(request, conn, query or ListQuery()) | {
        "problem": problem,
        "deleted": last_deleted(conn),
        "typed": typed or NewJob(),
        "kinds": KINDS,
        "waters": WATER,
    }
    return page(request, "jobs/list.html", context, status)


@router.get("/")
def list_jobs(request: Request, conn: Db, query: Annotated[ListQuery, Query()]) -> Response:
    """The jobs with drawing, verdict, course and what comes next: those asked for, a page at a time."""
    return listed(request, conn, query=query)


@router.get("/board")
def board(request: Request, conn: Db, query: Annotated[ListQuery, Query()]) -> Response:
    """The board alone, once all is worked out."""
    return page(request, "jobs/_board.html", board_of(request, conn, query))


@router.post("/standings")
def work_out_standings(request: Request, conn: Db, query: Annotated[ListQuery, Query()]) -> Response:
    """Work out how some of those jobs stand of which it isn't known; the page asks again until none is left."""
    begun_at, today = monotonic(), datetime.now(UTC).date()
    found: dict[int, tuple[str, Standing]] = {}
    for row in job_rows(conn, today):
        if row.standing is not None:
            continue
        if monotonic() - begun_at > A_WHILE_S:
            break
        found[row.id] = row.mark, _standing(conn, one_job(conn, row.id), today)
    keep_standings(conn, found)
    rows = job_rows(conn, today)
    left = sum(row.standing is None for row in rows)
    return page(request, "jobs/_standings.html", {"not_known": left, "every": len(rows), "query": query})


def _standing(conn: Connection, stored: Stored, today: date) -> Standing:
    return standing_of(stored.job, record_of(conn, stored.id, stored.job.chosen or ""), today)


@router.get("/jobs/{job_id}/summary")
def summary(job_id: int, request: Request, conn: Db) -> Response:
    """Verdict and gaps of one job, for its row on the board."""
    return page(request, "jobs/_summary.html", {"summary": _summary(one_job(conn, job_id))})
