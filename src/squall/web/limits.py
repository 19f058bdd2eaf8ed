"""How much a request may bring and how long it may take: looked at before a page reads a byte of it."""

import asyncio
import contextlib

from starlette.requests import Request
from starlette.responses import JSONResponse, PlainTextResponse, Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from squall.formats import logger_csv, pictures, weather
from squall.web.settings import SAFE
from squall.words import say

# What the body of a request may hold: a typed field, a sum's figures, a file and what stands about it. [bytes]
FIELD, SUM, FILE, AROUND = 64_000, 1_100_000, 8_000_000, 64_000
# Files that are larger by nature, by the end of their address. [bytes]
LARGER = {"/photos": pictures.MOST_BYTES, "/years/weather": weather.MOST_BYTES, "/logger": logger_csv.MOST_BYTES}
# Of what is too large so much is let go by before the answer. [bytes]
MOST_PASSED = 60_000_000
# Between two pieces of a body, and for all of it. [s]
PIECE_S, WHOLE_S = 20.0, 300.0


def most_of(path: str, kind: str) -> int:
    """The most that a request may bring, by its address and its content type. [bytes]"""
    if path.startswith("/api/sums/"):
        return SUM
    if not kind.startswith("multipart/form-data"):
        return FIELD
    return AROUND + next((most for end, most in LARGER.items() if path.endswith(end)), FILE)


class Limits:
    """ASGI middleware: a body is read here up to its limit, and handed on whole."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on with its body, or say what is too much or too slow of it."""
        if scope["type"] != "http" or scope["method"] in SAFE:
            await self.app(scope, receive, send)
            return
        request = Request(scope)
        most = most_of(request.url.path, request.headers.get("content-type", ""))
        declared = request.headers.get("content-length", "0")
        if not declared.isascii() or not declared.isdecimal() or len(declared) > 15 or int(declared) > most:
            await _let_pass(receive)
            await _refusal(request, 413, _too_large(most))(scope, receive, send)
            return
        try:
            async with asyncio.timeout(WHOLE_S):
                body, more = await _whole(receive, most)
        except TimeoutError:
            said = say("What was sent came too slowly; nothing was changed. Try again.")
            await _refusal(request, 408, said)(scope, receive, send)
            return
        if body is None:
            return
        if len(body) > most:
            if more:
                await _let_pass(receive)
            await _refusal(request, 413, _too_large(most))(scope, receive, send)
            return
        await self.app(scope, _once(body, receive), send)


def _too_large(most: int) -> str:
    if most <= FIELD:
        return say("That is too much for one field: at most {most} kB. Nothing was changed.", most=most // 1000)
    if most == SUM:
        return say("The input is over {most} kB.", most=1000)
    return say("That file is too large: at most {most} MB. Nothing was changed.", most=most // 1_000_000)


def _refusal(request: Request, status: int, said: str) -> Response:
    headers = {"connection": "close"}
    if request.url.path.startswith("/api/"):
        return JSONResponse({"error": said}, status, headers)
    return PlainTextResponse(said, status, headers)


async def _let_pass(receive: Receive) -> None:
    """Let go by what is too much, as far as patience goes: a browser that is still sending hears no answer."""
    passed = 0
    with contextlib.suppress(TimeoutError):
        async with asyncio.timeout(PIECE_S):
            while passed < MOST_PASSED:
                message = await receive()
                passed += len(message.get("body", b""))
                if message["type"] == "http.disconnect" or not message.get("more_body", False):
                    return


async def _whole(receive: Receive, most: int) -> tuple[bytes | None, bool]:
    """A request's body, no more than a piece beyond its limit, and whether more would come; None if whoever sent it has gone."""
    pieces, size = [], 0
    while True:
        message = await asyncio.wait_for(receive(), PIECE_S)
        if message["type"] == "http.disconnect":
            return None, False
        piece = message.get("body", b"")
        pieces.append(piece)
        size += len(piece)
        more = bool(message.get("more_body", False))
        if size > most or not more:
            return b"".join(pieces), more


def _once(body: bytes, receive: Receive) -> Receive:
    """A receiver that gives the body, and after it whatever comes."""
    given = False

    async def again() -> Message:
        nonlocal given
        if given:
            return await receive()
        given = True
        return {"type": "http.request", "body": body, "more_body": False}

    return again
