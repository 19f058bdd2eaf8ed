"""The data folder: where all that was typed lies, whether it is whole, and the copies of it, to be taken along."""

from datetime import UTC, datetime
from pathlib import Path
from shutil import rmtree
from tempfile import mkdtemp
from typing import Annotated

from fastapi import APIRouter, Form, Request, Response
from fastapi.responses import FileResponse, RedirectResponse
from starlette.background import BackgroundTask

from squall.core.errors import NotFound, SquallError
from squall.store.folder.copies import KEPT_DAYS, backup, backup_name, copies_of, whole_copy, wrong_with
from squall.store.folder.picture_files import FOLDER, size_of, wrong_with_pictures
from squall.web.frame.pages import page, refusal_of
from squall.web.settings import Settings
from squall.words import later

router = APIRouter()


def _settings(request: Request) -> Settings:
    settings: Settings = request.app.state.settings
    return settings


def _page(request: Request, problem: str = "", looked: list[str] | None = None, status: int = 200) -> Response:
    path = _settings(request).database
    photos, photo_bytes = size_of(path.parent / FOLDER)
    copies = [(name, size / 1e6, at) for name, size, at in copies_of(path)]
    shown = {
        "path": str(path), "megabytes": path.stat().st_size / 1e6, "copies": copies, "days": KEPT_DAYS, "problem": problem,
        "photos": photos, "photo_megabytes": photo_bytes / 1e6, "looked": looked, "stale": not copies or (datetime.now(UTC) - copies[0][2]).days >= 2,
    }  # fmt: skip
    return page(request, "access/data.html", shown, status)


@router.get("/data")
def data_folder(request: Request) -> Response:
    """Where the data lies, and its copies."""
    return _page(request)


@router.post("/data/copy")
def copy_now(request: Request) -> Response:
    """Make a copy now."""
    path = _settings(request).database
    try:
        backup(path, backup_name(path, "by-hand"))
    except SquallError as error:
        return _page(request, str(error), status=refusal_of(error))
    return RedirectResponse("/data", 303)


@router.post("/data/look")
def look_now(request: Request) -> Response:
    """Look at the whole database now."""
    path = _settings(request).database
    return _page(request, looked=[*wrong_with(path), *wrong_with_pictures(path)])


@router.get("/data/copies/{name}")
def take_copy(request: Request, name: str) -> Response:
    """One of the copies, as a file, with the photos inside."""
    away = Path(mkdtemp(prefix="squall-"))
    try:
        whole = whole_copy(_copy(request, name), away / name)
    except SquallError:
        rmtree(away, ignore_errors=True)
        raise
    gone = BackgroundTask(rmtree, away, ignore_errors=True)
    return FileResponse(whole, media_type="application/vnd.sqlite3", filename=name, background=gone)


@router.post("/data/remove")
def remove_copy(request: Request, name: Annotated[str, Form(max_length=100)] = "") -> Response:
    """Take a copy away."""
    _copy(request, name).unlink(missing_ok=True)
    return RedirectResponse("/data", 303)


def _copy(request: Request, name: str) -> Path:
    """Where a copy lies; only what is listed can be asked for.

    Raises
    ------
    NotFound
        For a name that is none of them.
    """
    path = _settings(request).database
    if name not in {known for known, *_ in copies_of(path)}:
        raise NotFound(later("There is no copy called {name:quoted}.", name=name[:60]))
    return path.parent / "backups" / name
