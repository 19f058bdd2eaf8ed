"""Several processes on one data folder: one key, one desk for long work, and all of them gone with the one that began them."""

import os
import re
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Iterator
from functools import partial
from pathlib import Path

import httpx2
import pytest

from squall.core.errors import Busy
from squall.store.folder.database import connect, prepare
from squall.store.sessions import fresh_key, kept_key
from squall.web.frame.background import Task
from squall.web.frame.desk import DeskBackground, open_desk
from squall.web.workers import OneByOne


def count_up(task: Task, to: int, pause_s: float = 0.0) -> None:
    """Work for the desk: told as it goes on, stopped when it is asked to."""

    def work() -> int | None:
        for n in range(to):
            task.parts["one"].so_far.append(n)
            if not task.told("one")((n + 1) / to):
                return None
            time.sleep(pause_s)
        return to

    task.run("one", work)


def failed(known: Task) -> bool:
    """Whether it is to be begun anew."""
    return known.parts["one"].failed


@pytest.fixture
def desks() -> Iterator[tuple[DeskBackground, DeskBackground]]:
    manager = open_desk()
    try:
        yield DeskBackground(manager.address), DeskBackground(manager.address)
    finally:
        manager.shutdown()


def test_what_one_begins_another_sees_and_stops(desks) -> None:
    mine, theirs = desks
    task = mine.begin("x", "a", ("one",), partial(count_up, to=3), failed, "mark")
    assert task.parts["one"].done.wait(20.0)
    seen = theirs.task("x", "a")
    assert (seen.parts["one"].result, seen.parts["one"].so_far, seen.mark) == (3, [0, 1, 2], "mark")
    assert seen.ended
    assert theirs.begin("x", "a", ("one",), partial(count_up, to=9), failed).token == task.token, (
        "found, not begun again"
    )
    slow = mine.begin("x", "b", ("one",), partial(count_up, to=500, pause_s=0.05), failed)
    other = theirs.task("x", "b")
    other.stop()
    assert slow.parts["one"].done.wait(20.0)
    assert slow.stopped
    assert slow.parts["one"].result is None
    assert 0.0 < slow.parts["one"].share < 1.0
    assert theirs.begin("x", "b", ("one",), partial(count_up, to=2), failed).token != slow.token, (
        "what failed begins anew"
    )
    assert theirs.task("x", "none") is None
    mine.settle()


def test_a_desk_that_is_gone_is_said(desks) -> None:
    with pytest.raises(Busy):
        DeskBackground("/nowhere/at/all")
    mine, _ = desks
    gone = DeskBackground(mine._desk._token.address)
    gone._desk._token.address = "/nowhere/at/all"
    gone._desk._tls.__dict__.pop("connection", None)
    with pytest.raises(Busy, match="Nothing is lost"):
        gone.task("x", "a")


def test_all_processes_of_a_run_have_one_key_and_the_next_run_another(tmp_path: Path) -> None:
    path = tmp_path / "squall.sqlite3"
    prepare(path)
    conn, other = connect(path), connect(path)
    assert kept_key(conn) == ""
    key = fresh_key(conn)
    assert kept_key(other) == key
    assert fresh_key(other) != key
    conn.close()
    other.close()


@pytest.fixture
def served(tmp_path: Path) -> Iterator[tuple[str, subprocess.Popen[bytes]]]:
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    command = [
        sys.executable,
        "-m",
        "squall.cli",
        "demo",
        "--data",
        str(tmp_path),
        "--port",
        str(port),
        "--workers",
        "2",
    ]
    run = subprocess.Popen(command, stdout=subprocess.DEVNULL, env={**os.environ, "NO_BROWSER": "1"})
    address = f"http://127.0.0.1:{port}"
    for _ in range(600):
        try:
            httpx2.get(address + "/", timeout=20.0)
            break
        except httpx2.HTTPError:
            time.sleep(0.1)
    yield address, run
    if run.poll() is None:
        run.terminate()
        run.wait(20)


def gone(address: str, seconds: float = 10.0) -> bool:
    """Whether nobody answers there any more."""
    ends = time.monotonic() + seconds
    while time.monotonic() < ends:
        try:
            httpx2.get(address + "/", timeout=2.0)
        except httpx2.HTTPError:
            return True
        time.sleep(0.1)
    return False


def test_two_processes_serve_one_yard_and_end_with_their_parent(served) -> None:
    address, run = served
    clients = []
    for _ in range(6):
        client = httpx2.Client(base_url=address, timeout=60.0)
        key = re.search(r'squall-key" content="([^"]+)"', client.get("/").text)[1]
        client.headers.update({"x-squall-key": key, "hx-request": "true", "hx-request-type": "partial"})
        clients.append(client)
    assert len({client.headers["x-squall-key"] for client in clients}) == 1
    for n, client in enumerate(clients):
        seen = re.search(r'name="revision" value="(\d+)"', clients[0].get("/jobs/1/survey").text)[1]
        sent = {"path": "lift", "value": f"{5 + n} m", "stage": "survey", "revision": seen}
        assert client.post("/jobs/1/field", data=sent, headers={"x-squall-tab": f"t{n}"}).status_code == 200
        assert f"{5 + n} m" in clients[n - 1].get("/jobs/1/survey").text, "each sees what another typed"
    clients[0].get("/jobs/1/kits")
    for _ in range(300):
        pages = [client.get("/jobs/1/kits").text for client in clients]
        if all("cheapest that holds" in page for page in pages):
            break
        time.sleep(0.1)
    assert all("cheapest that holds" in page for page in pages)
    data = b"Id,Name,Watts [W],Open volts [V],Price\n,Roof 90,90,22,40\n"
    looked = clients[1].post("/parts/look", files={"file": ("l.csv", data, "text/csv")}, data={"family": "panels"})
    mark = re.search(r'name="mark" value="([^"]+)"', looked.text)[1]
    assert clients[2].post("/parts/take-list", data={"mark": mark}).status_code == 303, "looked at here, taken there"
    assert clients[3].post("/parts/take-list", data={"mark": mark}).status_code == 404, "once"
    for client in clients:
        client.close()
    os.kill(run.pid, signal.SIGKILL)
    run.wait(10)
    assert gone(address), "no process outlives the one that began it"


def test_a_process_takes_those_who_knock_one_by_one() -> None:
    """All at once would go to whoever woke first, and stay there."""
    with socket.socket() as listening:
        listening.bind(("127.0.0.1", 0))
        listening.listen(8)
        door = OneByOne(fileno=os.dup(listening.fileno()))
        door.setblocking(False)
        knock = [socket.create_connection(listening.getsockname()) for _ in range(2)]
        taken = []
        for _ in range(2):
            taken.append(door.accept()[0])
            # The second waits still, for whoever wakes next.
            with pytest.raises(BlockingIOError):
                door.accept()
        # Nobody is left; that is found at once, not a call later.
        for _ in range(2):
            with pytest.raises(BlockingIOError):
                door.accept()
        late = socket.create_connection(listening.getsockname())
        taken.append(door.accept()[0])
        for one in (*knock, *taken, late, door):
            one.close()
