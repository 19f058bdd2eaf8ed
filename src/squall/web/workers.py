"""Several processes on one data folder: what each of them is told, and how it begins."""

import asyncio
import gc
import json
import os
import socket
from contextlib import closing
from dataclasses import replace
from pathlib import Path
from typing import Any

from fastapi import FastAPI

from squall.store.folder.database import connect
from squall.store.sessions import fresh_key, kept_key
from squall.web.app import create_app, warm
from squall.web.frame.desk import DeskBackground, end_with_parent
from squall.web.settings import Settings

# By this name of the environment a process is told; nothing secret stands in it.
TOLD = "SQUALL_WORKER"


def told(settings: Settings, desk: Any) -> None:
    """Tell the processes to come who may come in and where the desk is; the key of changes they read from the database."""
    with closing(connect(settings.database)) as conn:
        fresh_key(conn)
    kept = {
        "data": str(settings.data), "hosts": settings.hosts, "need_passphrase": settings.need_passphrase, "demo": settings.demo,
        "sealed": settings.sealed, "addresses": settings.addresses, "fingerprint": settings.fingerprint, "desk": desk,
    }  # fmt: skip
    os.environ[TOLD] = json.dumps(kept)


class OneByOne(socket.socket):
    """A socket that gives one who knocks at a time: the others go to whoever is idle."""

    _given = False

    def accept(self) -> tuple[socket.socket, Any]:
        """As a socket's, but every second call finds nobody."""
        self._given = not self._given
        if not self._given:
            raise BlockingIOError
        try:
            return super().accept()
        except OSError:
            self._given = False
            raise


class _Loop(asyncio.SelectorEventLoop):
    """An event loop whose server takes connections one by one."""

    async def create_server(self, *args: Any, sock: socket.socket | None = None, **more: Any) -> asyncio.Server:
        """As any loop's."""
        if sock is not None:
            sock = OneByOne(fileno=os.dup(sock.fileno()))
        return await super().create_server(*args, sock=sock, **more)


def event_loop() -> asyncio.AbstractEventLoop:
    """The loop of one process among several; on Windows one that shares a socket with others as it is."""
    return asyncio.SelectorEventLoop() if os.name == "nt" else _Loop()


def application() -> FastAPI:
    """The application of one process among several."""
    end_with_parent()
    gc.disable()
    kept = json.loads(os.environ[TOLD])
    desk = kept.pop("desk")
    settings = Settings(
        **{**kept, "data": Path(kept["data"]), "hosts": tuple(kept["hosts"]), "addresses": tuple(kept["addresses"])},
        several=True,
    )
    with closing(connect(settings.database)) as conn:
        settings = replace(settings, key=kept_key(conn))
    app = create_app(settings)
    app.state.background = DeskBackground(desk)
    warm(app, alone=False)
    gc.freeze()
    gc.enable()
    return app
