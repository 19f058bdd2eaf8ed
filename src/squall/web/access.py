"""Who may come: host names, cross-site requests, and the passphrase for other machines."""

import hmac
import re
import time
from contextlib import closing
from sqlite3 import Connection
from typing import Annotated

from fastapi import APIRouter, Form, Request, Response
from fastapi.responses import RedirectResponse
from starlette.datastructures import MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from squall.catalogue.held import hold
from squall.core.errors import BadFile
from squall.store import sessions
from squall.store.folder.database import connect
from squall.store.shelf import all_parts
from squall.web.frame.codes import code_of
from squall.web.frame.edits import Db
from squall.web.frame.pages import of_port, page, voice_of
from squall.web.passphrases import NOBODY, fits, read_hash
from squall.web.settings import SAFE, Settings
from squall.words import say, speak_as

COOKIE = "squall_session"
# The key of this run, as a form without scripts brings it along: never in an address.
KEY_COOKIE = "squall_key"
POLICY = (
    "default-src 'self'; img-src 'self' data:; object-src 'none'; base-uri 'none'; "
    "frame-ancestors 'none'; form-action 'self'"
)
HEADERS = {
    "content-security-policy": POLICY,
    "x-content-type-options": "nosniff",
    "referrer-policy": "same-origin",
    "cross-origin-opener-policy": "same-origin",
    "cross-origin-resource-policy": "same-origin",
}
# Where somebody comes in: by a passphrase, by a link to look on.
DOORS = ("/enter", "/guest")
# Where an address itself tells who may read: a calendar brings neither cookie nor passphrase.
CALENDARS = "/calendar/"
# And who may write there: a logger brings no more, and reads nothing.
LOGGERS = "/live/"
# What a link to look on doesn't show: the data whole, and who comes in.
NOT_FOR_GUESTS = ("/data", "/people", "/phone")
router = APIRouter()


def _may_look(request: Request) -> bool:
    """Whether a request changes nothing, and takes away nothing that isn't a page's."""
    # How jobs stand is worked out from them, and kept only so that nobody works it out again.
    if request.url.path.startswith("/api/sums/") or request.url.path in ("/leave", "/preferences", "/standings"):
        return True
    return request.method in SAFE and not request.url.path.startswith(NOT_FOR_GUESTS)


def let_in(
    request: Request, conn: Connection, made_for: str, session: sessions.Session, ends_at: int | None = None
) -> Response:
    """Begin a session, and on to the jobs."""
    settings: Settings = request.app.state.settings
    answer = RedirectResponse("/", 303)
    answer.set_cookie(
        cookie_of(request, COOKIE, settings), sessions.begin(conn, made_for, session, ends_at), max_age=sessions.LASTS_S, httponly=True,
        samesite="strict", secure=settings.sealed, path="/",
    )  # fmt: skip
    return answer


def cookie_of(request: Request, name: str, settings: Settings) -> str:
    """Name of a cookie of the door: its port in it, as a browser keeps one jar for all that run on a machine.

    Sealed, the browser itself sees to it that the cookie is of this very host and never goes unsealed.
    """
    name = of_port(request, name)
    return f"__Host-{name}" if settings.sealed else name


class Guard:
    """ASGI middleware: host, cross-site and passphrase checks in, security headers out."""

    def __init__(self, app: ASGIApp, settings: Settings) -> None:
        self.app = app
        self.settings = settings

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer, refuse or pass on one request."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        request = Request(scope)
        speak_as(voice_of(request))
        if not request.url.path.startswith("/static/"):
            hold(all_parts(scope["app"].state.held))
        refusal = self._refusal(request)

        async def send_safely(message: Message) -> None:
            if message["type"] == "http.response.start":
                headers = MutableHeaders(scope=message)
                headers.update(HEADERS)
                # Browsers keep static files: their addresses change with their content.
                kept = request.url.path.startswith("/static/") and message["status"] == 200
                headers.setdefault("cache-control", "public, max-age=31536000, immutable" if kept else "no-store")
                if headers.get("content-type", "").startswith("text/html") and not self._has_key(request):
                    headers.append("set-cookie", self._key_cookie(request))
            await send(message)

        await (refusal or self.app)(scope, receive, send_safely)

    def _refusal(self, request: Request) -> Response | None:
        host = re.sub(r":\d+$", "", request.headers.get("host", ""))
        if "*" not in self.settings.hosts and host not in self.settings.hosts:
            return Response(
                say("Squall does not answer under the name {host:quoted}.", host=host[:80]),
                400,
                media_type="text/plain",
            )
        if request.method not in SAFE and not self._same_site(request):
            return Response(
                say("This change did not come from a page of Squall; nothing was done."), 403, media_type="text/plain"
            )
        path = request.url.path
        if not self.settings.need_passphrase or path.startswith("/static/") or path in DOORS:
            return None
        if path.startswith(CALENDARS) and request.method in SAFE:
            return None
        if path.startswith(LOGGERS):
            return None
        session = self._let_in(request)
        if session is None:
            if request.method in SAFE:
                return RedirectResponse("/enter", 303)
            return Response(say("Give the passphrase first."), 401, media_type="text/plain")
        request.state.session = session
        if session.looks_on and not _may_look(request):
            return Response(say("By this link one may look on, and change nothing."), 403, media_type="text/plain")
        return None

    def _let_in(self, request: Request) -> sessions.Session | None:
        token, kept = request.cookies.get(cookie_of(request, COOKIE, self.settings)), _hash_or_none(self.settings)
        if token is None or kept is None:
            return None
        with closing(connect(self.settings.database)) as conn:
            return sessions.session_of(conn, token, kept["hash"])

    def _same_site(self, request: Request) -> bool:
        """The browser's own word on where a change comes from, and the key of this run, in a header or a cookie.

        The sums change nothing and may be called by scripts, which send no such word; nor does a logger, whose address is its key.
        """
        site, origin = request.headers.get("sec-fetch-site"), request.headers.get("origin")
        if site not in (None, "same-origin", "none"):
            return False
        if origin is not None and origin.split("://", 1)[-1] != request.headers.get("host"):
            return False
        if request.url.path.startswith(("/api/sums/", LOGGERS)) or request.url.path in DOORS:
            return True
        given = request.headers.get("x-squall-key")
        if given is not None:
            return hmac.compare_digest(given.encode(), self.settings.key.encode())
        # A form without scripts: the browser must say itself that it stands on a page of this very origin.
        return (site == "same-origin" or origin is not None) and self._has_key(request)

    def _has_key(self, request: Request) -> bool:
        kept = request.cookies.get(cookie_of(request, KEY_COOKIE, self.settings), "")
        return hmac.compare_digest(kept.encode(), self.settings.key.encode())

    def _key_cookie(self, request: Request) -> str:
        name = cookie_of(request, KEY_COOKIE, self.settings)
        sealed = "; Secure" if self.settings.sealed else ""
        return f"{name}={self.settings.key}; Path=/; HttpOnly; SameSite=Strict{sealed}"


@router.get("/enter")
def ask(request: Request) -> Response:
    """The page that asks for the passphrase."""
    return page(request, "access/enter.html", {"problem": None, "name": ""})


@router.post("/enter")
def enter(
    request: Request, conn: Db, passphrase: Annotated[str, Form(max_length=1000)] = "",
    name: Annotated[str, Form(max_length=100)] = "",
) -> Response:  # fmt: skip
    """Let a person in who gives the passphrase, the house's or their own; five wrong tries make a minute's wait."""
    address = request.client.host if request.client else "?"
    house = read_hash(request.app.state.settings.passphrase_file)
    own = sessions.hash_of_person(conn, name) if name.strip() else None
    kept = own if name.strip() else house
    if not sessions.may_try(conn, address, time.time()):
        problem = say("Too many wrong tries; wait a minute.")
        return page(request, "access/enter.html", {"problem": problem, "name": name}, 429)
    # Nobody known by that name takes as long as somebody.
    fitting = fits(passphrase, kept or house or NOBODY) and kept is not None
    if not fitting or kept is None:
        problem = say("That is not the passphrase.")
        return page(request, "access/enter.html", {"problem": problem, "name": name}, 403)
    sessions.came_in(conn, address)
    if own is not None:
        return let_in(request, conn, f"person {own['hash']}", sessions.Session(" ".join(name.split())))
    return let_in(request, conn, kept["hash"], sessions.HOUSE)


def _hash_or_none(settings: Settings) -> dict[str, str] | None:
    """The kept passphrase; None where it is damaged too: the door stays shut, and the page of the door says why."""
    try:
        return read_hash(settings.passphrase_file)
    except BadFile:
        return None


@router.get("/phone")
def phone(request: Request) -> Response:
    """How the phone comes in: address, code to be scanned, fingerprint; and who is to be let out again."""
    settings: Settings = request.app.state.settings
    codes = {address: code_of(address) for address in settings.addresses}
    return page(request, "access/phone.html", {"codes": codes, "fingerprint": settings.fingerprint,
                                               "locked": settings.need_passphrase, "sealed": settings.sealed})  # fmt: skip


@router.post("/leave")
def leave(request: Request, conn: Db) -> Response:
    """End one's own session."""
    settings: Settings = request.app.state.settings
    token = request.cookies.get(cookie_of(request, COOKIE, settings))
    if token is not None:
        sessions.end(conn, token)
    return _out(request)


@router.post("/leave-all")
def leave_all(request: Request, conn: Db) -> Response:
    """End everybody's session, one's own too."""
    sessions.end_all(conn)
    return _out(request)


def _out(request: Request) -> Response:
    settings: Settings = request.app.state.settings
    answer = RedirectResponse("/enter" if settings.need_passphrase else "/", 303)
    answer.delete_cookie(
        cookie_of(request, COOKIE, settings), path="/", httponly=True, samesite="strict", secure=settings.sealed
    )
    return answer
