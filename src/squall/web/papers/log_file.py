"""The log as a file: out as CSV, and in from a table that somebody kept; all of it or nothing."""

from datetime import UTC, datetime
from sqlite3 import Connection
from typing import Annotated

from fastapi import APIRouter, Depends, Request, Response, UploadFile

from squall.core.errors import BadQuantity, NotFound, SquallError
from squall.core.upkeep.states import DONE
from squall.formats import log_list
from squall.formats.log_list import LogRow
from squall.job.document.job import Visit
from squall.job.kept.hours import meter_of
from squall.job.kept.upkeep import DONE_WORDS
from squall.job.told.prove import taken_of
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.kit import KitAssessment
from squall.store.jobs import one_job
from squall.store.log import add_visits, latest_visits
from squall.web.frame.edits import answer
from squall.web.frame.job_page import Notices
from squall.web.frame.pages import database, file_name, prefs_of, status_of
from squall.words import later, say
from squall.words.units import System

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
# Of rows that can't be read so many are told at once.
MOST_TOLD = 12


@router.get("/jobs/{job_id}/keep/log.csv")
def log_out(job_id: int, request: Request, conn: Db) -> Response:
    """The whole log of a job, in the reader's units."""
    stored = one_job(conn, job_id)
    made = log_list.write(
        latest_visits(conn, job_id, 5000),
        prefs_of(request).units,
        {str(code): words for code, words in DONE_WORDS.items()},
    )
    name = file_name(f"{stored.job.name} log", "csv")
    headers = {"content-disposition": f'attachment; filename="{name}"'}
    return Response("\ufeff" + made, media_type="text/csv; charset=utf-8", headers=headers)


@router.post("/jobs/{job_id}/keep/log")
def log_in(job_id: int, request: Request, conn: Db, file: UploadFile) -> Response:
    """Take a table's visits into the log, as one change; those that are there already are left as they are."""
    stored, prefs = one_job(conn, job_id), prefs_of(request)
    data = file.file.read(log_list.MOST_BYTES + 1)
    try:
        a = assess(stored.job)
        if a.chosen is None:
            raise NotFound(later("This job has no kit yet, and so nothing to look after."))
        there = {(visit.at[:16], visit.option) for visit in latest_visits(conn, job_id, 5000)}
        made = visits_of(a, a.chosen, log_list.read(data), prefs.units)
        fresh = [visit for visit in made if (visit.at[:16], visit.option) not in there]
        if fresh:
            stored = add_visits(conn, job_id, fresh, prefs.who)
    except SquallError as error:
        return answer(request, conn, stored, "keep", Notices(banner=str(error), banner_kind="bad"), status_of(error))
    said = say("{fresh} visits were taken in; {old} were there already.", fresh=len(fresh), old=len(made) - len(fresh))
    return answer(request, conn, stored, "keep", Notices(banner=said))


def visits_of(a: Assessment, chosen: KitAssessment, rows: list[LogRow], units: System) -> list[Visit]:
    """The visits of a table, judged as if each had been typed on its day.

    Raises
    ------
    BadQuantity
        With the lines that can't be read; nothing was kept.
    """
    found, wrong, now = [], [], datetime.now(UTC).strftime("%Y-%m-%dT%H:%MZ")
    for row in rows:
        try:
            found.append(_visit(a, chosen, row, units, now))
        except SquallError as error:
            wrong.append(str(later("Line {line}: {why}", line=row.line, why=error.said)))
    if wrong:
        more = [str(later("and {more} more lines.", more=len(wrong) - MOST_TOLD))] if len(wrong) > MOST_TOLD else []
        told = " ".join([*wrong[:MOST_TOLD], *more])
        raise BadQuantity(later("Nothing was taken in. {told}", told=told))
    return found


def _visit(a: Assessment, chosen: KitAssessment, row: LogRow, units: System, now: str) -> Visit:
    kit = row.cells.get(log_list.KIT, "")
    if kit and kit != chosen.option.name:
        raise BadQuantity(
            later(
                "{kit:quoted} is not the kit that is chosen, {chosen:quoted}.", kit=kit[:60], chosen=chosen.option.name
            )
        )
    if row.at > now:
        raise BadQuantity(later("{on} is yet to come: a visit is of today or before.", on=row.at[:10]))
    done = _done_in(row.cells.get(log_list.DONE, ""))
    note, meter = row.cells.get(log_list.NOTE, "")[:400], meter_of(row.cells.get("meter", ""), units)
    taken = taken_of(a, chosen, row.cells, units)
    problems = {key: said for key, said in taken.problems.items() if key != "form" or not (done or note or meter)}
    if problems:
        raise BadQuantity(next(iter(problems.values())))
    return taken.visit("v1", row.at).model_copy(update={"done": done, "note": note, "meter": meter})


def _done_in(text: str) -> list[str]:
    by_word: dict[str, str] = {str(words).lower(): code for code, words in DONE_WORDS.items()}
    found: list[str] = []
    for part in (part.strip().lower() for part in text.split(";")):
        if not part:
            continue
        code = part if part in DONE else by_word.get(part)
        if code is None:
            raise BadQuantity(
                later(
                    "{part:quoted} is nothing that is done here; there are: {known}.",
                    part=part[:40],
                    known=", ".join(by_word),
                )
            )
        found.append(code)
    return found
