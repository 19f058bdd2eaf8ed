"""What this yard knows: how long its pumps last, what was found and done, and the owner's own figures instead of the trade's."""

from collections.abc import Mapping
from datetime import UTC, datetime
from sqlite3 import Connection
from typing import Annotated

from fastapi import APIRouter, Depends, Request, Response

from squall.core.errors import BadQuantity, SquallError
from squall.core.faults.causes import CAUSES, trade_share
from squall.core.reason import Reason
from squall.job.kept.fleet import done_in, pumps_in
from squall.job.kept.upkeep import DONE_WORDS
from squall.store.kit.faults import frequencies_of, say_frequencies
from squall.store.standings import job_rows
from squall.web.frame.edits import form_of
from squall.web.frame.pages import database, page, status_of
from squall.web.lists.board import ListQuery
from squall.words import later, say

router = APIRouter()
Db = Annotated[Connection, Depends(database)]


def _shown(
    request: Request, conn: Connection, typed: Mapping[str, str], problems: Mapping[str, str], status: int = 200, said: str = ""
) -> Response:  # fmt: skip
    rows = job_rows(conn, datetime.now(UTC).date())
    standings = [row.standing for row in rows if row.standing is not None]
    known = frequencies_of(conn)
    causes = sorted(
        CAUSES.values(), key=lambda cause: (-known.found.get(cause.code, 0), -trade_share(cause), cause.code)
    )
    context = {
        "pumps": pumps_in(standings), "done": done_in(standings), "done_words": DONE_WORDS, "known": known, "causes": causes,
        "trade_share": trade_share, "reason": Reason, "typed": typed, "problems": problems, "banner": said,
        "not_known": len(rows) - len(standings), "every": len(rows), "query": ListQuery(),
    }  # fmt: skip
    return page(request, "yard/yard.html", context, status)


@router.get("/yard")
def yard(request: Request, conn: Db) -> Response:
    """What this yard knows."""
    return _shown(request, conn, {}, {})


@router.post("/yard/frequencies")
def keep_frequencies(request: Request, conn: Db, form: Annotated[dict[str, str], Depends(form_of)]) -> Response:
    """Keep the owner's own figures; an empty one goes back to the trade's guess."""
    said, problems = {}, {}
    for code in CAUSES:
        text = form.get(code, "").strip()
        if not text:
            continue
        try:
            said[code] = _in_a_hundred(text)
        except SquallError as error:
            problems[code] = str(error)
    if problems:
        return _shown(
            request,
            conn,
            form,
            problems,
            status_of(BadQuantity("")),
            say("Some figures can't be read; nothing typed is lost."),
        )
    say_frequencies(conn, said)
    return _shown(request, conn, {}, {}, said=say("Kept. Every search weighs with them from now on."))


def _in_a_hundred(text: str) -> float:
    """A count of a hundred faults. [in a hundred]"""
    try:
        value = float(text.replace(",", ".").removesuffix("%"))
    except ValueError:
        value = -1.0
    if not 0.01 <= value <= 90.0:
        raise BadQuantity(later("{text:quoted} is no count of a hundred faults: from 0.01 to 90.", text=text[:20]))
    return value
