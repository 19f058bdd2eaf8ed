"""Changes to a job: one field, a larger edit, undo and redo. htmx gets the job back, a form a redirect."""

from collections.abc import Callable
from sqlite3 import Connection
from typing import Annotated

from fastapi import APIRouter, Depends, Form, Request, Response
from fastapi.responses import RedirectResponse

from squall.catalogue import catalogue
from squall.catalogue.reader import pick
from squall.core.errors import BadQuantity, Busy, NotFound, SquallError, StaleEdit
from squall.core.reason import Spoken
from squall.job.document.fields import spec
from squall.job.document.job import Job
from squall.job.document.paths import as_typed, value_at
from squall.job.document.specs import ROWS
from squall.job.edit import changes, kits, rows
from squall.job.told.sun import stood
from squall.job.worked.assess import assess
from squall.store.history import redo, undo
from squall.store.jobs import FieldEdit, Stored, change_job, edit_field, one_job
from squall.store.log import remove_visit
from squall.web.frame.job_page import Conflict, Notices, show
from squall.web.frame.pages import database, prefs_of, refusal_of, status_of
from squall.words import later, say

router = APIRouter()
Db = Annotated[Connection, Depends(database)]


def answer(
    request: Request, conn: Connection, stored: Stored, stage: str, notices: Notices | None = None, status: int = 200
) -> Response:
    """The job again: the part that changed to htmx, the page it came from to a plain form."""
    if request.headers.get("hx-request") is None and status < 400:
        return RedirectResponse(f"/jobs/{stored.id}/{stage}", 303)
    return show(request, conn, stored, stage, notices, status)


@router.post("/jobs/{job_id}/field")
def type_field(
    job_id: int,
    request: Request,
    conn: Db,
    path: Annotated[str, Form()],
    stage: Annotated[str, Form()],
    revision: Annotated[int, Form()],
    value: Annotated[str, Form()] = "",
) -> Response:
    """Type one field anew."""
    prefs = prefs_of(request)
    try:
        label = spec(path, catalogue()).label
        typed = FieldEdit(path, value, revision, label)
        stored = edit_field(conn, job_id, typed, catalogue(), prefs.who, prefs.units, check=assess)
    except StaleEdit as error:
        notices = Notices(conflicts={path: Conflict(error.mine, error.theirs)})
        return answer(request, conn, one_job(conn, job_id), stage, notices, 409)
    except NotFound as error:
        return answer(request, conn, one_job(conn, job_id), stage, Notices(banner=str(error), banner_kind="bad"), 422)
    except SquallError as error:
        notices = Notices(errors={path: str(error)}, typed={path: value})
        return answer(request, conn, one_job(conn, job_id), stage, notices, status_of(error))
    # The field under the hand keeps the very words; elsewhere and later it is shown in the reader's own units.
    return answer(request, conn, stored, stage, Notices(typed={path: as_typed(value_at(stored.job, path))}))


def make(
    request: Request, conn: Connection, job_id: int, stage: str, change: Callable[[Job], tuple[Job, Spoken]]
) -> Response:
    """Make a larger change and show the job, or say why not."""
    who = prefs_of(request).who
    return keep(request, conn, job_id, stage, lambda: change_job(conn, job_id, change, who, check=assess))


def keep(
    request: Request, conn: Connection, job_id: int, stage: str, work: Callable[[], Stored],
    told: Callable[[Stored], str] | None = None,
) -> Response:  # fmt: skip
    """Do what changes a job and show it, with what is to be told of it, or say why not."""
    try:
        stored = work()
    except SquallError as error:
        notices = Notices(banner=str(error), banner_kind="bad")
        return answer(request, conn, one_job(conn, job_id), stage, notices, refusal_of(error))
    return answer(request, conn, stored, stage, None if told is None else Notices(banner=told(stored)))


@router.post("/jobs/{job_id}/do/{action}")
def act(
    job_id: int,
    action: str,
    request: Request,
    conn: Db,
    stage: Annotated[str, Form()] = "survey",
    item: Annotated[str, Form()] = "",
) -> Response:
    """One of the larger changes by name; `item` says of what."""
    parts = catalogue()

    def number() -> int:
        if not item.isdecimal():
            raise BadQuantity(later("{item:quoted} is not a number of a device.", item=item[:40]))
        return int(item)

    known: dict[str, Callable[[Job], tuple[Job, Spoken]]] = {
        "add-piece": changes.add_piece,
        "add-fitting": lambda job: changes.add_fitting(job, item, parts),
        "remove-piece": lambda job: changes.remove_piece(job, item),
        "add-drinkers": changes.add_drinkers,
        "remove-drinkers": lambda job: changes.remove_drinkers(job, item),
        "add-device": lambda job: changes.add_device(job, item, parts),
        "turn-pilot": lambda job: changes.turn_pilot(job, item, parts),
        "relay-for": lambda job: changes.relay_for(job, item, parts),
        "remove-device": lambda job: changes.remove_device(job, number(), parts),
        "choose-option": lambda job: kits.choose_option(job, item),
        "remove-option": lambda job: kits.remove_option(job, item),
        "copy-option": lambda job: kits.copy_option(job, item),
        "renew-part": lambda job: kits.renew_part(job, item, parts),
        "not-owned": lambda job: kits.own_part(job, item, "0", parts),
        "add-row": lambda job: rows.add_row(job, *_place_and_hint(item)),
        "remove-row": lambda job: rows.remove_row(job, item),
        "take-pump": lambda job: _take_pump(job, item),
        "pull-lever": lambda job: _pull(job, item),
        "join": lambda job: kits.join(job, item),
        "stand": lambda job: stood(job, item),
    }
    if action == "remove-visit":
        return keep(request, conn, job_id, stage, lambda: remove_visit(conn, job_id, item, prefs_of(request).who))
    if action not in known:
        raise NotFound(later("Squall has no change called {action:quoted}.", action=action[:40]))
    return make(request, conn, job_id, stage, known[action])


def _place_and_hint(item: str) -> tuple[str, str]:
    """``uses:crop`` is the list and what kind of row."""
    place, _, hint = item.partition(":")
    return place, hint


def _take_pump(job: Job, pump_id: str) -> tuple[Job, Spoken]:
    a = assess(job)
    if a.chosen is None:
        raise NotFound(
            later(
                "No kit is chosen yet: take one on the Kits page; pumps of your own are ranked there with the others."
            )
        )
    return kits.take_pump(job, a.chosen.kit, a.chosen.cabling, pick(a.parts.pumps, pump_id, "pump"))


def _pull(job: Job, key: str) -> tuple[Job, Spoken]:
    for lever in assess(job).levers:
        if lever.key == key:
            return kits.pull(job, lever)
    raise NotFound(later("That lever is not on offer any more; the job has changed."))


async def form_of(request: Request) -> dict[str, str]:
    """What a form of any fields carries; read where waiting for it holds nobody up."""
    return {key: str(value)[:60] for key, value in (await request.form()).items()}


@router.post("/jobs/{job_id}/row")
def add_typed(job_id: int, request: Request, conn: Db, form: Annotated[dict[str, str], Depends(form_of)]) -> Response:
    """One more row of a list with its fields typed at once; what can't be read is said beside it and stays."""
    place, stage, prefs = form.get("list", ""), form.get("stage", "survey"), prefs_of(request)
    typed = {name: form[name] for name in ROWS.get(place, {}) if name in form}

    def change(job: Job) -> tuple[Job, Spoken]:
        return rows.add_typed_row(job, place, form.get("hint", ""), typed, catalogue(), prefs.units)

    try:
        stored = change_job(conn, job_id, change, prefs.who, check=assess)
    except SquallError as error:
        again = {f"{place}.{name}": value for name, value in typed.items()}
        notices = Notices(errors={f"new-{place}": str(error)}, typed=again)
        return answer(request, conn, one_job(conn, job_id), stage, notices, status_of(error))
    return answer(request, conn, stored, stage)


@router.post("/jobs/{job_id}/undo")
def take_back(job_id: int, request: Request, conn: Db, stage: Annotated[str, Form()] = "survey") -> Response:
    """Take one's own last change back."""
    return _step(request, conn, job_id, stage, undo, say("Undone"))


@router.post("/jobs/{job_id}/redo")
def do_again(job_id: int, request: Request, conn: Db, stage: Annotated[str, Form()] = "survey") -> Response:
    """Make an undone change again."""
    return _step(request, conn, job_id, stage, redo, say("Done again"))


def _step(
    request: Request, conn: Connection, job_id: int, stage: str,
    step: Callable[[Connection, int, str | None], tuple[Stored, Spoken]], word: str,
) -> Response:  # fmt: skip
    try:
        stored, what = step(conn, job_id, prefs_of(request).who)
    except (NotFound, BadQuantity, Busy) as error:
        notices = Notices(banner=str(error), banner_kind="bad")
        return answer(request, conn, one_job(conn, job_id), stage, notices, 503 if isinstance(error, Busy) else 422)
    return answer(request, conn, stored, stage, Notices(banner=f"{word}: {what}."))
