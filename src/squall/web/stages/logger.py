"""A logger's files: taken in whole, their columns said once, told in lanes and days, and read into the log."""

from collections.abc import Mapping
from sqlite3 import Connection
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Form, Request, Response, UploadFile

from squall.core.errors import BadQuantity, NotFound, SquallError
from squall.core.upkeep.logged import COLUMNS, Column
from squall.drawing.small.logged import LaneDrawn, draw_logged
from squall.formats import logger_csv
from squall.formats.logger_csv import UNITS, Heads
from squall.job.kept.logger import (
    KIND,
    NAMES,
    SHOWN_DAYS,
    LoggerTold,
    Mapped,
    MappedDoc,
    clock_h,
    doc_of,
    logger_words,
    noon_h,
    tell,
    visits_from,
)
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.kit import KitAssessment
from squall.store.folder.database import connect
from squall.store.jobs import Stored, one_job
from squall.store.kit.loggers import (
    Came,
    LoggerFile,
    add_file,
    files_of,
    known_mappings,
    raw_of,
    remove_file,
    set_told,
)
from squall.store.log import add_visits
from squall.web.frame.edits import answer, form_of
from squall.web.frame.job_page import Notices, job_page
from squall.web.frame.pages import Prefs, RowId, database, file_name, prefs_of, status_of
from squall.words import later, say
from squall.words.units import text

router = APIRouter()
Db = Annotated[Connection, Depends(database)]


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """All of the page; nothing without a kit."""
    conn = connect(request.app.state.settings.database)
    try:
        return shown(conn, stored, {}, {})
    finally:
        conn.close()


def shown(conn: Connection, stored: Stored, typed: Mapping[str, str], problems: Mapping[str, str]) -> dict[str, Any]:
    """Everything of the page, with what was said of a file's columns and what was wrong with it."""
    a = assess(stored.job)
    if a.chosen is None:
        return {"files": None}
    files = [_file(conn, stored.id, file) for file in files_of(conn, stored.id, a.chosen.option.id)]
    return {
        "files": files, "typed": typed, "problems": problems, "columns": COLUMNS, "names": NAMES, "units": UNITS,
        "most_mb": logger_csv.MOST_BYTES / 1e6, "shown_days": SHOWN_DAYS,
    }  # fmt: skip


def _file(conn: Connection, job_id: int, file: LoggerFile) -> dict[str, Any]:
    if file.told is None:
        heads = logger_csv.look(raw_of(conn, job_id, file.id)[1])
        return {"file": file, "told": None, "heads": heads, "guess": logger_csv.guess(heads)}
    told = LoggerTold.model_validate_json(file.told)
    return {
        "file": file,
        "told": told,
        "words": logger_words(told),
        "lanes": _lanes(told),
        "days": told.days[-SHOWN_DAYS:],
    }


def _lanes(told: LoggerTold) -> Any:
    lanes = []
    for key, lane in told.lanes.items():
        most = max((value for value in lane.most if value is not None), default=0.0)
        lanes.append(
            LaneDrawn(NAMES[key], say("most {value}", value=text(most, KIND[key])), lane.least, lane.mean, lane.most)
        )
    about = say("What was logged from {begins} to {ends}; the table of days tells it in words.", begins=told.first.isoformat(), ends=told.last.isoformat())  # fmt: skip
    return draw_logged(lanes, f"{told.begins:%Y-%m-%d %H:%M}", f"{told.ends:%Y-%m-%d %H:%M}", about)


def _kit_of(stored: Stored) -> tuple[Assessment, KitAssessment]:
    a = assess(stored.job)
    if a.chosen is None:
        raise NotFound(later("This job has no kit yet, and so nothing that a logger could tell of."))
    return a, a.chosen


@router.post("/jobs/{job_id}/logger")
def take_file(job_id: int, request: Request, conn: Db, file: UploadFile) -> Response:
    """Take a logger's file in, whole; what its columns are is known from one like it, or asked."""
    stored, prefs = one_job(conn, job_id), prefs_of(request)
    data = file.file.read(logger_csv.MOST_BYTES + 1)
    try:
        a, chosen = _kit_of(stored)
        if len(data) > logger_csv.MOST_BYTES:
            raise BadQuantity(
                later("The file is larger than {most:.0f} MB: part it by months.", most=logger_csv.MOST_BYTES / 1e6)
            )
        heads = logger_csv.look(data)
        known = _known(conn, heads)
        told = None if known is None else tell(logger_csv.read(data, known.mapped(), clock_h(a)), noon_h(a, chosen))
        came = Came(
            file.filename or "logger.csv", data, known.model_dump_json() if known and told else None,
            None if told is None else told.model_dump_json(),
        )  # fmt: skip
        add_file(conn, job_id, chosen.option.id, came, prefs.who)
    except SquallError as error:
        return answer(request, conn, stored, "logger", Notices(banner=str(error), banner_kind="bad"), status_of(error))
    said = (
        say("The file is kept, its columns as before.") if told else say("The file is kept; say what its columns are.")
    )
    return answer(request, conn, stored, "logger", Notices(banner=said))


def _known(conn: Connection, heads: Heads) -> MappedDoc | None:
    """What the columns are, from the last file of the same names."""
    docs = (MappedDoc.model_validate_json(text_) for text_ in known_mappings(conn))
    return next((doc for doc in docs if tuple(doc.names) == heads.names), None)


@router.post("/jobs/{job_id}/logger/{file_id}/columns")
def say_columns(
    job_id: int, file_id: int, request: Request, conn: Db, form: Annotated[dict[str, str], Depends(form_of)]
) -> Response:
    """Say what a file's columns are; it is read at once."""
    stored = one_job(conn, job_id)
    try:
        a, chosen = _kit_of(stored)
        _, data = raw_of(conn, job_id, file_id)
        heads, mapped = logger_csv.look(data), _mapped(form)
        told = tell(logger_csv.read(data, mapped, clock_h(a)), noon_h(a, chosen))
        set_told(conn, job_id, file_id, doc_of(mapped, heads.names).model_dump_json(), told.model_dump_json())
    except SquallError as error:
        typed = {f"{file_id}.{key}": value[:40] for key, value in form.items()}
        extra = shown(conn, stored, typed, {str(file_id): str(error)})
        notices = Notices(banner=str(error), banner_kind="bad")
        return job_page(request, conn, stored, "logger", extra, notices, status_of(error))
    return answer(request, conn, stored, "logger", Notices(banner=say("Read.")))


def _mapped(form: Mapping[str, str]) -> Mapped:
    columns: dict[Column, tuple[int, str]] = {}
    for key in COLUMNS:
        number = form.get(key, "")
        if number:
            columns[key] = _number(number), form.get(f"{key}-unit", "")
    return Mapped(_number(form.get("time", "")), columns)


def _number(text_: str) -> int:
    if not text_.isdecimal() or len(text_) > 3:
        raise BadQuantity(later("Say which column the time is."))
    return int(text_)


@router.post("/jobs/{job_id}/logger/{file_id}/read")
def into_log(job_id: int, file_id: int, request: Request, conn: Db) -> Response:
    """Take a reading a week from a file's steady stretches into the log, as one change."""
    stored, prefs = one_job(conn, job_id), prefs_of(request)
    try:
        a, chosen = _kit_of(stored)
        told = next(
            (LoggerTold.model_validate_json(file.told) for file in files_of(conn, job_id, chosen.option.id) if file.id == file_id and file.told),
            None,
        )  # fmt: skip
        if told is None:
            raise NotFound(later("Say first what its columns are."))
        if told.clock_off_h is not None:
            raise BadQuantity(later("Its clock can't be believed: no reading is taken from it."))
        made = visits_from(told, a, chosen)
        if not made:
            raise BadQuantity(
                later("It has no steady stretch of ten minutes with volts and amps: no reading is taken from it.")
            )
        stored = add_visits(conn, job_id, made, prefs.who)
    except SquallError as error:
        return answer(request, conn, stored, "logger", Notices(banner=str(error), banner_kind="bad"), status_of(error))
    return answer(
        request,
        conn,
        stored,
        "logger",
        Notices(banner=say("{n} readings are in the log under Keep; undo takes them back.", n=len(made))),
    )


@router.post("/jobs/{job_id}/logger/remove")
def take_out(job_id: int, request: Request, conn: Db, file: Annotated[RowId, Form()]) -> Response:
    """Take a file out."""
    stored = one_job(conn, job_id)
    try:
        remove_file(conn, job_id, file)
    except SquallError as error:
        return answer(request, conn, stored, "logger", Notices(banner=str(error), banner_kind="bad"), status_of(error))
    return answer(request, conn, stored, "logger", Notices(banner=say("Taken out.")))


@router.get("/jobs/{job_id}/logger/{file_id}.csv")
def give_file(job_id: int, file_id: int, conn: Db) -> Response:
    """A file as it came."""
    name, data = raw_of(conn, job_id, file_id)
    headers = {"content-disposition": f'attachment; filename="{file_name(name.removesuffix(".csv"), "csv")}"'}
    return Response(data, media_type="text/csv", headers=headers)
