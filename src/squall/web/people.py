"""Who comes in by what: persons with a passphrase of their own, and links by which somebody may look on for a while."""

import time
from sqlite3 import Connection
from typing import Annotated, Any

from fastapi import APIRouter, Form, Request, Response
from fastapi.responses import RedirectResponse

from squall.core.errors import SquallError
from squall.store import sessions
from squall.store.jobs import all_jobs, one_job
from squall.web.access import let_in
from squall.web.frame.codes import code_of
from squall.web.frame.edits import Db
from squall.web.frame.pages import RowId, page, refusal_of
from squall.web.passphrases import hash_passphrase
from squall.words import say
from squall.words.units import parse

router = APIRouter()


def _page(request: Request, conn: Connection, status: int = 200, **more: Any) -> Response:
    shown = {
        "persons": sessions.persons(conn), "guests": sessions.guests(conn), "now": time.time(), "problem": "", "trouble": "", "name": "",
        "note": "", "hours": "", "links": {}, "feed": [], "feed_trouble": "", "feeds": _feeds(conn), "locked": request.app.state.settings.need_passphrase, **more,
    }  # fmt: skip
    return page(request, "access/people.html", shown, status)


def _feeds(conn: Connection) -> list[tuple[sessions.Feed, str]]:
    """The addresses that calendars read, each with whose kit it tells of."""
    names = {stored.id: stored.job.name for stored in all_jobs(conn)}
    return [
        (feed, say("all kits") if feed.job_id is None else names.get(feed.job_id) or say("a deleted job"))
        for feed in sessions.feeds(conn)
    ]


@router.get("/people")
def people(request: Request, conn: Db) -> Response:
    """Persons and links."""
    return _page(request, conn)


@router.post("/people/add")
def add(
    request: Request, conn: Db, name: Annotated[str, Form(max_length=100)] = "",
    passphrase: Annotated[str, Form(max_length=1000)] = "",
) -> Response:  # fmt: skip
    """Give a person a passphrase, or a new one."""
    try:
        sessions.keep_person(conn, name, hash_passphrase(passphrase))
    except SquallError as error:
        return _page(request, conn, refusal_of(error), problem=str(error), name=name)
    return RedirectResponse("/people", 303)


@router.post("/people/remove")
def remove(conn: Db, name: Annotated[str, Form(max_length=100)] = "") -> Response:
    """Take a person's passphrase back."""
    sessions.remove_person(conn, name)
    return RedirectResponse("/people", 303)


@router.post("/people/guest")
def invite(
    request: Request, conn: Db, note: Annotated[str, Form(max_length=200)] = "", hours: Annotated[str, Form(max_length=40)] = ""
) -> Response:  # fmt: skip
    """Make a link to look on; it is shown this once."""
    try:
        code = sessions.invite(conn, note, parse(hours or "24 h", "hours"))
    except SquallError as error:
        return _page(request, conn, refusal_of(error), trouble=str(error), note=note, hours=hours)
    settings = request.app.state.settings
    # The code stands behind the #: a browser sends that to nobody, and no log has it.
    addresses = [f"{address}guest#{code}" for address in settings.addresses or (str(request.base_url),)]
    return _page(request, conn, links={address: code_of(address) for address in addresses})


@router.post("/people/guest-end")
def end(conn: Db, guest: Annotated[RowId, Form()]) -> Response:
    """End a link."""
    sessions.end_guest(conn, guest)
    return RedirectResponse("/people", 303)


@router.post("/people/calendar")
def follow(
    request: Request, conn: Db, note: Annotated[str, Form(max_length=200)] = "", job: Annotated[RowId | None, Form()] = None
) -> Response:  # fmt: skip
    """Make an address that a calendar may read, of a job or of all; it is shown this once."""
    try:
        if job is not None:
            one_job(conn, job)
        code = sessions.follow(conn, job, note)
    except SquallError as error:
        return _page(request, conn, refusal_of(error), feed_trouble=str(error))
    settings = request.app.state.settings
    addresses = settings.addresses or (str(request.base_url),)
    return _page(request, conn, feed=[f"{address}calendar/{code}.ics" for address in addresses])


@router.post("/people/calendar-end")
def end_follow(conn: Db, feed: Annotated[RowId, Form()]) -> Response:
    """End an address."""
    sessions.end_feed(conn, feed)
    return RedirectResponse("/people#calendars", 303)


@router.get("/guest")
def ask(request: Request) -> Response:
    """Where a link leads: its code is read from behind the # and given."""
    return page(request, "access/guest.html", {"problem": ""})


@router.post("/guest")
def come_in(request: Request, conn: Db, code: Annotated[str, Form(max_length=200)] = "") -> Response:
    """Let somebody in who may look on."""
    address = request.client.host if request.client else "?"
    if not sessions.may_try(conn, address, time.time()):
        return page(request, "access/guest.html", {"problem": say("Too many wrong tries; wait a minute.")}, 429)
    guest = sessions.guest_of(conn, code)
    if guest is None:
        return page(request, "access/guest.html", {"problem": say("That link is over, or was never made.")}, 403)
    sessions.came_in(conn, address)
    return let_in(request, conn, f"guest {guest.id}", sessions.Session("", looks_on=True), guest.ends_at)
