"""The application: routes, static files, and answers to errors that a person can use."""

import logging
import sqlite3
import threading
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from datetime import UTC, datetime
from functools import cache
from pathlib import Path

from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from fastapi.staticfiles import StaticFiles
from starlette.exceptions import HTTPException
from starlette.middleware.gzip import GZipMiddleware

from squall import __version__
from squall.core.errors import Busy, Deleted, SquallError
from squall.store.folder.copies import daily
from squall.store.folder.database import cant_write, connect, prepare
from squall.store.history import thin
from squall.web import access, people
from squall.web.access import HEADERS, Guard
from squall.web.frame import edits, stage_pages
from squall.web.frame.background import Background
from squall.web.frame.pages import STATIC, page, status_of
from squall.web.frame.warming import compiled_before, warm_up
from squall.web.limits import Limits
from squall.web.lists import (
    board,
    courses,
    data_folder,
    find,
    jobs,
    one_part,
    part_files,
    parts,
    practise,
    preferences,
    round_trip,
    sums,
    told_history,
    yard,
)
from squall.web.papers import field_file, log_file, photos, sheets
from squall.web.settings import Settings
from squall.web.turns import Turns
from squall.words import say

log = logging.getLogger("squall")
WARM_AFTER_S = 1.0


def create_app(settings: Settings) -> FastAPI:
    """Make the application on one data folder.

    Parameters
    ----------
    settings : Settings
        Data folder and who may come.

    Returns
    -------
    FastAPI
        Ready to serve; the database is brought up to date.

    Raises
    ------
    BadFile
        If the database is damaged or from a newer Squall.
    """
    prepare(settings.database)
    app = FastAPI(
        title="Squall",
        version=__version__,
        docs_url=None,
        redoc_url=None,
        openapi_url="/openapi.json",
        lifespan=lifespan,
    )
    plainly = app.openapi
    # Made once, when it is first asked for.
    app.openapi = cache(lambda: sums.with_definitions(plainly()))  # type: ignore[method-assign]
    app.state.settings = settings
    app.state.background = Background()
    # One connection stays open, so that the data can be read on a disk that is full.
    app.state.held = connect(settings.database)
    app.state.held.execute("SELECT count(*) FROM job").fetchone()
    app.state.warmed = threading.Event()
    app.state.warmed.set()
    app.state.compiles = False
    static = StaticFiles(directory=STATIC, packages=[("squall.drawing", "static")])
    # A browser takes these once: they are pressed harder than pages.
    app.mount("/static", GZipMiddleware(static, minimum_size=500, compresslevel=9), name="static")
    pages = (access, people, preferences, board, jobs, find, sheets, field_file, log_file, photos, sums, parts, part_files, one_part, courses, practise,
             data_folder, round_trip, yard, told_history)  # fmt: skip
    routers = [*(part.router for part in pages), *stage_pages.routers(), edits.router, stage_pages.router]
    # One flat row of routes: a router within a router is asked twice for each request.
    for router in routers:
        app.router.routes.extend(router.routes)
    app.add_middleware(GZipMiddleware, minimum_size=500, compresslevel=4)
    app.add_middleware(Turns, several=settings.several)
    app.add_middleware(Limits)
    app.add_middleware(Guard, settings=settings)
    app.add_exception_handler(SquallError, squall_error)
    app.add_exception_handler(HTTPException, http_error)
    app.add_exception_handler(RequestValidationError, validation_error)
    app.add_exception_handler(OverflowError, beyond_counting)
    app.add_exception_handler(sqlite3.OperationalError, crash)
    app.add_exception_handler(Exception, crash)
    return app


@asynccontextmanager
async def lifespan(app: FastAPI) -> AsyncIterator[None]:
    """While the application runs; at its end long work is stopped."""
    yield
    app.state.background.stop_all()
    app.state.held.close()


def warm(app: FastAPI, *, alone: bool = True) -> None:
    """Load in the background, once the first page is out, what the first edit would otherwise wait for.

    `alone`, it also lets old history go and makes today's copy; of several processes the one that began them does.
    """
    app.state.warmed.clear()
    app.state.compiles = not compiled_before()

    def work() -> None:
        try:
            warm_up()
            if alone:
                look_after(app.state.settings.database)
        finally:
            app.state.compiles = False
            app.state.warmed.set()

    timer = threading.Timer(WARM_AFTER_S, work)
    timer.daemon = True
    timer.start()


def look_after(path: Path) -> None:
    """What a data folder wants once a start: old history thinned, a copy of the day."""
    _thin(path)
    _copy_of_today(path)


def _thin(path: Path) -> None:
    """Let old history go, once a start; another time if somebody is writing just now."""
    conn = connect(path)
    try:
        thin(conn)
    except Busy:
        log.info("history is thinned at the next start")
    finally:
        conn.close()


def _copy_of_today(path: Path) -> None:
    """A copy of the data once a day; where it can't be made, that is logged and nothing else waits for it."""
    try:
        daily(path, datetime.now(UTC).date())
    except (SquallError, OSError) as error:
        log.error("today's copy of the data could not be made: %s", error)


def _wants_json(request: Request) -> bool:
    return request.url.path.startswith("/api/") or request.headers.get("accept", "").startswith("application/json")


def _answer(request: Request, status: int, title: str, sentence: str, removed: int | None = None) -> Response:
    if _wants_json(request):
        return JSONResponse({"error": sentence}, status)
    told = {"title": title, "sentence": sentence, "status": status, "removed": removed}
    return page(request, "errors/error.html", told, status)


def squall_error(request: Request, error: Exception) -> Response:
    """An error of ours that no page caught: its own sentence."""
    assert isinstance(error, SquallError)
    status = status_of(error)
    titles = {404: say("Not here"), 503: say("Busy"), 507: say("Not kept")}
    removed = error.job_id if isinstance(error, Deleted) else None
    answer = _answer(request, status, titles.get(status, say("That can't be")), str(error), removed)
    if status == 503:
        answer.headers["retry-after"] = "3"
    return answer


def http_error(request: Request, error: Exception) -> Response:
    """An address that leads nowhere, or a method it does not take."""
    status = error.status_code if isinstance(error, HTTPException) else 500
    if status == 404:
        return _answer(request, 404, say("Not here"), say("There is no page at {path}.", path=request.url.path[:120]))
    return _answer(
        request, status, say("That can't be done here"), say("This address does not take that kind of request.")
    )


def validation_error(request: Request, error: Exception) -> Response:
    """A request whose parts are missing or of the wrong kind."""
    assert isinstance(error, RequestValidationError)
    first = error.errors()[0]
    field = ".".join(str(part) for part in first["loc"][1:])
    return _answer(request, 422, say("That can't be"), f"{field or 'The request'}: {first['msg']}.")


def beyond_counting(request: Request, error: Exception) -> Response:
    """A number of a row beyond what a database counts to: nothing can be there."""
    if "SQLite INTEGER" not in str(error):
        return crash(request, error)
    return _answer(request, 404, say("Not here"), say("There is nothing of so large a number."))


def crash(request: Request, error: Exception) -> Response:
    """A fault of Squall's own: said plainly, with nothing of its inside shown."""
    if isinstance(error, sqlite3.OperationalError) and isinstance(told := cant_write(error), SquallError):
        log.error("disk at %s: %s", request.url.path, error)
        answer = squall_error(request, told)
        answer.headers.update({**HEADERS, "cache-control": "no-store"})
        return answer
    log.error("fault at %s", request.url.path, exc_info=error)
    sentence = say(
        "Squall has a fault here. What you typed before is kept; go back and try another way. The window in which Squall was started shows what happened."
    )
    answer = _answer(request, 500, say("A fault of Squall's own"), sentence)
    # It goes out past everything that would set them.
    answer.headers.update({**HEADERS, "cache-control": "no-store"})
    return answer
