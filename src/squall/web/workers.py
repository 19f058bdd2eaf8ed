"""Several processes on one data folder: what each of them is told, and how it begins."""

import gc
import json
import os
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


def application() -> FastAPI:
    """The application of one process among several."""
    end_with_parent()
    gc.disable()
    kept = json.loads(os.environ[TOLD])
    desk = kept.pop("desk")
    settings = Settings(
        **{**kept, "data": Path(kept["data"]), "hosts": tuple(kept["hosts"]), "addresses": tuple(kept["addresses"])}
    )
    with closing(connect(settings.database)) as conn:
        settings = replace(settings, key=kept_key(conn))
    app = create_app(settings)
    app.state.background = DeskBackground(desk)
    warm(app, alone=False)
    gc.freeze()
    gc.enable()
    return app
