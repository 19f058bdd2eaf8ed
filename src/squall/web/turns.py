"""Who is worked for next: few at a time, in the order they came, so that nobody waits for all who came after."""

import asyncio
import time
from weakref import WeakKeyDictionary

from starlette.datastructures import MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from squall.web.settings import SAFE

# Pages and changes that one process works on at once. [-]
PAGES, CHANGES = 2, 3
# What takes longer than this (a paper, a change that waits for another process) gives way: the next begin beside it. [s]
LONG_S = 0.5
# Of several processes one with so many waiting lets one of them knock again, where an idler one may open, this often at most. [-], [s]
MANY, SENT_ON_S = 2, 0.5


class _Queues:
    """Who waits in one event loop."""

    def __init__(self) -> None:
        self.pages = asyncio.Semaphore(PAGES)
        self.changes = asyncio.Semaphore(CHANGES)
        self.waiting = 0
        self.sent_on_at = -SENT_ON_S

    def sends_on(self) -> bool:
        """Whether whoever is answered now had better knock again."""
        if self.waiting < MANY or time.monotonic() < self.sent_on_at + SENT_ON_S:
            return False
        self.sent_on_at = time.monotonic()
        return True


class Turns:
    """ASGI middleware: a request waits here until it is its turn, and has had it once its answer begins.

    Parameters
    ----------
    app : ASGIApp
        What answers.
    several : bool
        Whether other processes answer at the same address.
    """

    def __init__(self, app: ASGIApp, several: bool = False) -> None:
        self.app = app
        self.several = several
        self._of_loop: WeakKeyDictionary[asyncio.AbstractEventLoop, _Queues] = WeakKeyDictionary()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on in its turn."""
        if scope["type"] != "http" or scope["path"].startswith("/static/"):
            await self.app(scope, receive, send)
            return
        queues = self._of_loop.setdefault(asyncio.get_running_loop(), _Queues())
        queue = queues.pages if scope["method"] in SAFE else queues.changes
        queues.waiting += 1
        try:
            await queue.acquire()
        finally:
            queues.waiting -= 1
        turn = _Turn(queue)

        async def send_on(message: Message) -> None:
            # The work is done; what is sent may be read slowly.
            turn.end()
            if self.several and message["type"] == "http.response.start" and queues.sends_on():
                MutableHeaders(scope=message)["connection"] = "close"
            await send(message)

        try:
            await self.app(scope, receive, send_on)
        finally:
            turn.end()


class _Turn:
    """One's turn, which ends once: by the answer, by an error, or because it takes long."""

    def __init__(self, queue: asyncio.Semaphore) -> None:
        self._queue: asyncio.Semaphore | None = queue
        self._gives_way = asyncio.get_running_loop().call_later(LONG_S, self.end)

    def end(self) -> None:
        """Let the next begin."""
        self._gives_way.cancel()
        if self._queue is not None:
            self._queue.release()
            self._queue = None
