"""Few requests are worked on at once, in the order they came; what takes long gives way."""

import asyncio
from collections.abc import Awaitable, Callable

import pytest

from squall.web import turns
from squall.web.turns import CHANGES, MANY, PAGES, Turns


class Work:
    """An application whose answers begin when they are told to."""

    def __init__(self) -> None:
        self.begun: list[str] = []
        self.go: dict[str, asyncio.Event] = {}
        self.fails: set[str] = set()
        self.read_on = asyncio.Event()

    async def __call__(self, scope, receive, send) -> None:
        name = scope["path"]
        self.begun.append(name)
        await self.go.setdefault(name, asyncio.Event()).wait()
        if name in self.fails:
            raise ValueError(name)
        await send({"type": "http.response.start", "status": 200, "headers": []})
        await self.read_on.wait()
        await send({"type": "http.response.body", "body": b""})


class Hand:
    """Asks a row of requests of the work through its turns."""

    def __init__(self, several: bool = False) -> None:
        self.work = Work()
        self.app = Turns(self.work, several)
        self.said: dict[str, list[dict]] = {}
        self.tasks: dict[str, asyncio.Task] = {}

    async def ask(self, name: str, method: str = "GET") -> None:
        async def send(message) -> None:
            self.said.setdefault(name, []).append(message)

        scope = {"type": "http", "path": name, "method": method}
        self.tasks[name] = asyncio.create_task(self.app(scope, None, send))
        await asyncio.sleep(0)

    async def end(self, name: str) -> None:
        self.work.go.setdefault(name, asyncio.Event()).set()
        for _ in range(8):
            await asyncio.sleep(0)

    def closes(self, name: str) -> bool:
        return (b"connection", b"close") in self.said[name][0]["headers"]


def run(what: Callable[[], Awaitable[None]]) -> None:
    asyncio.run(what())


def test_few_pages_at_once_in_their_order_and_changes_beside_them() -> None:
    async def it() -> None:
        hand = Hand()
        for n in range(PAGES + 3):
            await hand.ask(f"/page/{n}")
        assert hand.work.begun == [f"/page/{n}" for n in range(PAGES)]
        for n in range(CHANGES + 1):
            await hand.ask(f"/change/{n}", "POST")
        assert hand.work.begun[PAGES:] == [f"/change/{n}" for n in range(CHANGES)]
        # The answer has begun, but nobody reads it: the turn is over all the same.
        await hand.end("/page/1")
        assert hand.work.begun[-1] == f"/page/{PAGES}"
        await hand.ask("/static/drawing.css")
        assert hand.work.begun[-1] == "/static/drawing.css"

    run(it)


def test_an_error_ends_a_turn() -> None:
    async def it() -> None:
        hand = Hand()
        for n in range(PAGES + 1):
            await hand.ask(f"/page/{n}")
        hand.work.fails.add("/page/0")
        await hand.end("/page/0")
        assert hand.work.begun[-1] == f"/page/{PAGES}"
        with pytest.raises(ValueError, match="/page/0"):
            await hand.tasks["/page/0"]

    run(it)


def test_one_who_leaves_while_waiting_takes_no_turn() -> None:
    async def it() -> None:
        hand = Hand()
        for n in range(PAGES + 2):
            await hand.ask(f"/page/{n}")
        hand.tasks[f"/page/{PAGES}"].cancel()
        await hand.end("/page/0")
        assert hand.work.begun[-1] == f"/page/{PAGES + 1}"

    run(it)


def test_what_takes_long_gives_way(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(turns, "LONG_S", 0.01)

    async def it() -> None:
        hand = Hand()
        for n in range(PAGES + 1):
            await hand.ask(f"/paper/{n}")
        assert len(hand.work.begun) == PAGES
        while len(hand.work.begun) == PAGES:
            await asyncio.sleep(0.005)
        # Its turn is over once, not twice.
        hand.work.read_on.set()
        for n in range(PAGES + 1):
            await hand.end(f"/paper/{n}")
        begun = len(hand.work.begun)
        for n in range(PAGES + 1):
            await hand.ask(f"/page/{n}")
        assert len(hand.work.begun) == begun + PAGES

    run(it)


@pytest.mark.parametrize("several", [False, True])
def test_of_several_processes_a_busy_one_sends_on_now_and_then(several: bool) -> None:
    async def it() -> None:
        hand = Hand(several)
        for n in range(PAGES + MANY + 1):
            await hand.ask(f"/page/{n}")
        await hand.end("/page/0")
        assert hand.closes("/page/0") is several
        # Not all of them at once: those who know this process are served best by it.
        await hand.end("/page/1")
        assert not hand.closes("/page/1")

    run(it)


def test_one_who_is_served_at_once_is_never_sent_on() -> None:
    async def it() -> None:
        hand = Hand(several=True)
        await hand.ask("/page/0")
        await hand.end("/page/0")
        assert not hand.closes("/page/0")

    run(it)
