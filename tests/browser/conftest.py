"""The real application on a real port, driven in headless Chromium."""

import os
import socket
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
import uvicorn
from playwright.sync_api import Browser, Page, expect, sync_playwright

from squall.demo import fill
from squall.store.folder.database import connect
from squall.web.app import create_app
from squall.web.settings import Settings

# Workers share two cores: what comes late still comes.
expect.set_options(timeout=20_000)
CHROMIUM = os.environ.get("CHROMIUM", "/usr/bin/chromium")


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as play:
        chromium = play.chromium.launch(
            executable_path=CHROMIUM, args=["--no-sandbox", "--disable-background-networking"]
        )
        yield chromium
        chromium.close()


@contextmanager
def served(settings: Settings) -> Iterator[str]:
    """Squall with the demo's jobs on a port of its own; its address."""
    app = create_app(settings)
    conn = connect(settings.database)
    fill(conn)
    conn.close()
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    server = uvicorn.Server(uvicorn.Config(app, host="127.0.0.1", port=port, log_level="error"))
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.02)
    yield f"http://127.0.0.1:{port}"
    server.should_exit = True
    thread.join(5)


@pytest.fixture
def address(tmp_path: Path) -> Iterator[str]:
    with served(Settings(tmp_path)) as at:
        yield at


class Watched:
    """A page whose console complaints fail the test."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.complaints: list[str] = []
        page.on("console", lambda message: message.type == "error" and self.complaints.append(message.text))
        page.on("pageerror", lambda error: self.complaints.append(str(error)))


def _open(browser: Browser, address: str, width: int, height: int, **more: object) -> Iterator[Page]:
    context = browser.new_context(viewport={"width": width, "height": height}, base_url=address, **more)
    context.set_default_timeout(15_000)
    # The first page of a fresh clone waits until everything is compiled.
    context.set_default_navigation_timeout(90_000)
    page = context.new_page()
    watched = Watched(page)
    yield page
    refused = [c for c in watched.complaints if "status of 4" not in c]
    context.close()
    assert not refused, refused


@pytest.fixture
def laptop(browser: Browser, address: str) -> Iterator[Page]:
    yield from _open(browser, address, 1280, 800)


@pytest.fixture
def phone(browser: Browser, address: str) -> Iterator[Page]:
    yield from _open(browser, address, 390, 844, has_touch=True, is_mobile=True)
