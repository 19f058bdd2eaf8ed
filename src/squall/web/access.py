"""Who may come: host names, cross-site requests, and the passphrase for other machines."""

import base64
import hashlib
import hmac
import json
import re
import secrets
import time
from pathlib import Path

from fastapi import APIRouter, Form, Request, Response
from fastapi.responses import RedirectResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from squall.catalogue.held import hold
from squall.core.errors import BadQuantity
from squall.store.shelf import parts_now
from squall.web.frame.pages import page, voice_of
from squall.web.settings import Settings, read_hash
from squall.words import later, say, speak_as

COOKIE = "squall_session"
SAFE = frozenset({"GET", "HEAD", "OPTIONS"})
TRIES, WAIT_S = 5, 60.0
POLICY = (
    "default-src 'self'; img-src 'self' data:; object-src 'none'; base-uri 'none'; "
    "frame-ancestors 'none'; form-action 'self'"
)
router = APIRouter()


def hash_passphrase(passphrase: str) -> dict[str, str]:
    """Salt and scrypt hash of a passphrase, as kept in the data folder.

    Raises
    ------
    BadQuantity
        If it is shorter than eight characters.
    """
    if len(passphrase) < 8:
        raise BadQuantity(later("The passphrase is too short; eight characters or more are wanted."))
    salt = secrets.token_bytes(16)
    return {"salt": base64.b64encode(salt).decode(), "hash": base64.b64encode(_scrypt(passphrase, salt)).decode()}


def _scrypt(passphrase: str, salt: bytes) -> bytes:
    return hashlib.scrypt(passphrase.encode(), salt=salt, n=2**14, r=8, p=1)


def fits(passphrase: str, kept: dict[str, str]) -> bool:
    """Whether a passphrase is the one that was kept."""
    found = _scrypt(passphrase, base64.b64decode(kept["salt"]))
    return hmac.compare_digest(found, base64.b64decode(kept["hash"]))


def keep_passphrase(path: Path, passphrase: str) -> None:
    """Write the hash of a passphrase, readable by its owner only."""
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_text(json.dumps(hash_passphrase(passphrase)), "utf8")
    path.chmod(0o600)


class Doorkeeper:
    """Sessions that gave the passphrase, and addresses that failed too often."""

    def __init__(self) -> None:
        self.sessions: set[str] = set()
        self.failed: dict[str, list[float]] = {}

    def blocked(self, address: str) -> bool:
        """Whether an address has failed five times within a minute."""
        recent = [at for at in self.failed.get(address, []) if time.monotonic() - at < WAIT_S]
        self.failed[address] = recent
        return len(recent) >= TRIES

    def enter(self) -> str:
        """A new session's token."""
        token = secrets.token_urlsafe(32)
        self.sessions.add(token)
        return token


class Guard:
    """ASGI middleware: host, cross-site and passphrase checks in, security headers out."""

    def __init__(self, app: ASGIApp, settings: Settings, doorkeeper: Doorkeeper) -> None:
        self.app = app
        self.settings = settings
        self.doorkeeper = doorkeeper

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer, refuse or pass on one request."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        request = Request(scope)
        speak_as(voice_of(request))
        if not request.url.path.startswith("/static/"):
            hold(parts_now(self.settings.database))
        refusal = self._refusal(request)

        async def send_safely(message: Message) -> None:
            if message["type"] == "http.response.start":
                message.setdefault("headers", []).extend(
                    (name.encode(), value.encode())
                    for name, value in (
                        ("content-security-policy", POLICY),
                        ("x-content-type-options", "nosniff"),
                        ("referrer-policy", "same-origin"),
                        ("cross-origin-opener-policy", "same-origin"),
                    )
                )
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
        locked = self.settings.need_passphrase and not path.startswith(("/static/", "/enter"))
        if locked and request.cookies.get(COOKIE) not in self.doorkeeper.sessions:
            if request.method in SAFE:
                return RedirectResponse("/enter", 303)
            return Response(say("Give the passphrase first."), 401, media_type="text/plain")
        return None

    def _same_site(self, request: Request) -> bool:
        """The browser's own word on where a change comes from, and the token of this run.

        The sums change nothing and may be called by scripts, which send no such word.
        """
        site, origin = request.headers.get("sec-fetch-site"), request.headers.get("origin")
        if site not in (None, "same-origin", "none"):
            return False
        if origin is not None and origin.split("://", 1)[-1] != request.headers.get("host"):
            return False
        if request.url.path.startswith(("/api/sums/", "/enter")):
            return True
        given = request.headers.get("x-squall-key") or request.query_params.get("key") or ""
        return hmac.compare_digest(given.encode(), self.settings.key.encode())


@router.get("/enter")
def ask(request: Request) -> Response:
    """The page that asks for the passphrase."""
    return page(request, "access/enter.html", {"problem": None})


@router.post("/enter")
def enter(request: Request, passphrase: str = Form("")) -> Response:
    """Let a person in who gives the passphrase; five wrong tries make a minute's wait."""
    app = request.app.state
    address = request.client.host if request.client else "?"
    if app.doorkeeper.blocked(address):
        problem = say("Too many wrong tries; wait a minute.")
        return page(request, "access/enter.html", {"problem": problem}, 429)
    kept = read_hash(app.settings.passphrase_file)
    if kept is None or not fits(passphrase, kept):
        app.doorkeeper.failed.setdefault(address, []).append(time.monotonic())
        return page(request, "access/enter.html", {"problem": say("That is not the passphrase.")}, 403)
    answer = RedirectResponse("/", 303)
    answer.set_cookie(COOKIE, app.doorkeeper.enter(), httponly=True, samesite="strict")
    return answer
