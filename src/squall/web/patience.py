"""How long a connection may dawdle over the head of a request, and how many one address may hold open."""

import asyncio
from collections import Counter
from typing import Any, cast

from uvicorn.protocols.http.h11_impl import H11Protocol

# Time for the head of a request, and connections of one address at once. [s], [-]
HEAD_S, MOST_OPEN = 15.0, 128
_open: Counter[str] = Counter()


class PatientProtocol(H11Protocol):
    """HTTP with an end to patience."""

    _from: str | None = None
    _waits: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """Take a connection, unless its address holds too many already."""
        peer = transport.get_extra_info("peername")
        self._from = str(peer[0]) if peer else "?"
        _open[self._from] += 1
        super().connection_made(transport)
        if _open[self._from] > MOST_OPEN:
            transport.abort()
            return
        self._wait()

    def connection_lost(self, exc: Exception | None) -> None:
        """Give the place free."""
        self._wait_no_more()
        if self._from is not None:
            _open[self._from] -= 1
            if _open[self._from] <= 0:
                del _open[self._from]
            self._from = None
        super().connection_lost(exc)

    def data_received(self, data: bytes) -> None:
        """Read on; a head that is whole waits no more."""
        if self._idle and self._waits is None:
            self._wait()
        super().data_received(data)
        if not self._idle:
            self._wait_no_more()

    @property
    def _idle(self) -> bool:
        """Whether no request is being answered."""
        cycle = cast(Any, self.cycle)
        return cycle is None or bool(cycle.response_complete)

    def _wait(self) -> None:
        self._waits = self.loop.call_later(HEAD_S, self._too_slow)

    def _wait_no_more(self) -> None:
        if self._waits is not None:
            self._waits.cancel()
            self._waits = None

    def _too_slow(self) -> None:
        self._waits = None
        if self._idle and self.transport is not None and not self.transport.is_closing():
            self.transport.abort()
