"""Attack Squall as it is served, and print what held: ``make attack`` (or ``python tools/attack.py --minutes 1``).

Four ways: killed while it writes, fuzzed in every form and sum, loaded by fifty at once, and fed files that mean harm. Each
runs on a data folder of its own, against a process of its own; nothing is sent anywhere else. The dice have a seed.
"""

import argparse
import contextlib
import gzip
import http.client
import io
import json
import random
import re
import signal
import socket
import statistics
import subprocess
import sys
import tempfile
import threading
import time
import zipfile
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from urllib.parse import urlencode

import httpx2

NUMBERS = (
    "0",
    "-0",
    "1e308",
    "-1e308",
    "5e-324",
    "nan",
    "inf",
    "-inf",
    "1" * 5000,
    "9" * 30,
    str(2**63),
    str(-(2**63) - 1),
)
WORDS = ("", " ", "\0", "\ud7ff", "\u202etext", "<script>alert(1)</script>", "' OR 1=1 --", "{{7*7}}", "../../etc/passwd", "25 ft\0",
         "=cmd()", "𝟙𝟚 m", "12 m; DROP TABLE job", "%00", "a" * 3000)  # fmt: skip
SLOW_S, KILLS = 3.0, 30


@contextlib.contextmanager
def served(data: Path, workers: int = 1) -> Iterator[tuple[str, subprocess.Popen[bytes]]]:
    """Squall on a folder, as a process of its own; its address, once it answers."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    command = [
        sys.executable,
        "-m",
        "squall.cli",
        "demo",
        "--data",
        str(data),
        "--port",
        str(port),
        "--workers",
        str(workers),
    ]
    server = subprocess.Popen(
        command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, env={"NO_BROWSER": "1", "PATH": ""}
    )
    address = f"http://127.0.0.1:{port}"
    for _ in range(400):
        with contextlib.suppress(httpx2.HTTPError):
            httpx2.get(address + "/schema")
            break
        time.sleep(0.05)
    try:
        yield address, server
    finally:
        if server.poll() is None:
            server.terminate()
            server.wait(20)


def client_of(address: str) -> httpx2.Client:
    """A client with the key that pages carry."""
    client = httpx2.Client(base_url=address, timeout=60.0)
    found = re.search(r'name="squall-key" content="([^"]+)"', client.get("/").text)
    assert found is not None
    client.headers |= {"x-squall-key": found[1], "hx-request": "true"}
    return client


def killed(rng: random.Random, kills: int) -> list[str]:
    """Killed while edits come in: what was acknowledged is there after the next start."""
    lost = acknowledged = 0
    with tempfile.TemporaryDirectory() as folder:
        for _ in range(kills):
            last = flying = ""
            with served(Path(folder)) as (address, server):
                client = client_of(address)
                client.get("/jobs/1/survey")  # what is loaded at a start is loaded: the kill falls among edits
                ends = time.monotonic() + rng.uniform(0.3, 3.0)
                timer = threading.Timer(ends - time.monotonic(), server.send_signal, (signal.SIGKILL,))
                timer.start()
                with contextlib.suppress(httpx2.HTTPError):
                    while time.monotonic() < ends + 5.0:
                        value = f"note {rng.random():.12f}"
                        flying = value
                        sent = {"path": "notes", "value": value, "stage": "survey", "revision": "1"}
                        if client.post("/jobs/1/field", data=sent).status_code == 200:
                            last, acknowledged = value, acknowledged + 1
                timer.join()
                server.wait(20)
            if last:
                with served(Path(folder)) as (address, _):
                    kept = httpx2.get(f"{address}/jobs/1/export.json", timeout=30.0).json()["notes"]
                    lost += kept not in (last, flying)
    return [f"killed {kills} times in {acknowledged} acknowledged edits: {lost} lost"]


def fuzzed(rng: random.Random, minutes: float) -> list[str]:
    """Every form and sum of the whole interface, with what nobody would type: no fault of Squall's own, none slow."""
    found: Counter[int] = Counter()
    faults, slow, ends = [], [], time.monotonic() + 60.0 * minutes
    with tempfile.TemporaryDirectory() as folder, served(Path(folder)) as (address, _):
        client = client_of(address)
        paths = client.get("/openapi.json").json()["paths"]
        forms = sorted(
            path
            for path, verbs in paths.items()
            if "post" in verbs and "leave" not in path and path != "/jobs/{job_id}/delete"
        )
        gets = sorted(path for path, verbs in paths.items() if "get" in verbs)
        fields = sorted(_fields(client.get("/jobs/1/export.json").json()))
        while time.monotonic() < ends:
            value = rng.choice(NUMBERS + WORDS)
            path = re.sub(
                r"\{[^}]+\}",
                lambda _: rng.choice(("1", "2", str(2**63), "0", "-1", "x", "%2e%2e")),
                rng.choice(forms + gets),
            )
            begun = time.monotonic()
            try:
                if rng.random() < 0.35:
                    path = f"/jobs/{rng.randint(1, 5)}/field"
                    sent = {
                        "path": rng.choice(fields),
                        "value": value,
                        "stage": "survey",
                        "revision": rng.choice(("1", "999999", "-1", value)),
                    }
                    answer = client.post(path, data=sent)
                elif path.startswith("/api/sums/"):
                    answer = client.post(
                        path,
                        content=rng.choice((b"[", b"[" * 40_000, json.dumps({"x": value}).encode(), b"1e999", b"{}")),
                    )
                elif rng.random() < 0.5:
                    names = (
                        "value",
                        "item",
                        "stage",
                        "path",
                        "key",
                        "revision",
                        "at",
                        "note",
                        "check",
                        "answer",
                        "amps",
                        "list",
                        "mark",
                    )
                    answer = client.post(path, data={name: rng.choice(NUMBERS + WORDS) for name in names})
                else:
                    answer = client.get(path, params={"q": value[:900], "page": value[:900], "light": value[:900]})
            except (httpx2.InvalidURL, UnicodeError):
                continue
            found[answer.status_code] += 1
            if answer.status_code >= 500 and answer.status_code != 503:
                faults.append(f"{path}: {value[:40]!r}")
            if time.monotonic() - begun > SLOW_S:
                slow.append(f"{path}: {time.monotonic() - begun:.1f} s")
    lines = [
        f"fuzzed {sum(found.values())} requests, answers {dict(sorted(found.items()))}: {len(faults)} faults, {len(slow)} over {SLOW_S:g} s"
    ]
    return lines + [f"  fault {line}" for line in sorted(set(faults))[:20]] + [f"  slow {line}" for line in slow[:10]]


def _fields(value: object, stem: str = "") -> Iterator[str]:
    if isinstance(value, dict):
        if "typed" in value:
            yield stem
            return
        for key, inside in value.items():
            yield from _fields(inside, f"{stem}.{key}" if stem else key)
    elif isinstance(value, list):
        for row in value:
            if isinstance(row, dict) and "id" in row:
                yield from _fields(row, f"{stem}.{row['id']}")
    else:
        yield stem


class Browser:
    """One who looks and edits over one connection, as light as can be: it shares the cores with what it measures.

    It edits the state that it last saw, as a page does; what is closed under its hand it asks for again.
    """

    def __init__(self, address: str, headers: dict[str, str]) -> None:
        self.connection = http.client.HTTPConnection(address.split("://")[1], timeout=60.0)
        self.headers, self.revision = {**headers, "hx-request": "true", "accept-encoding": "gzip"}, "1"

    def ask(self, method: str, where: str, form: dict[str, str] | None = None) -> int:
        """Ask and read to the end; the status."""
        body = None if form is None else urlencode(form)
        headers = (
            self.headers if form is None else {**self.headers, "content-type": "application/x-www-form-urlencoded"}
        )
        for once_more in (True, False):
            try:
                self.connection.request(method, where, body, headers)
                answer = self.connection.getresponse()
                text = answer.read()
                break
            except (http.client.RemoteDisconnected, ConnectionResetError, BrokenPipeError):
                self.connection.close()
                if not once_more:
                    raise
        if answer.headers["content-encoding"] == "gzip":
            text = gzip.decompress(text)
        if seen := re.search(rb'name="revision" value="(\d+)"', text):
            self.revision = seen[1].decode()
        return answer.status


def loaded(minutes: float, workers: int, clients: int = 50) -> list[str]:
    """Fifty at once, pages and edits: how long they wait, and whether any is turned away."""
    pages: list[float] = []
    edits: list[float] = []
    answers: Counter[str] = Counter()
    with tempfile.TemporaryDirectory() as folder, served(Path(folder), workers) as (address, _):
        time.sleep(5.0)
        first = client_of(address)
        for n in range(clients):
            first.post(f"/jobs/{n % 5 + 1}/copy")
        own = re.findall(
            r'href="/jobs/(\d+)/export.json"',
            "".join(first.get("/", params={"page": str(n)}).text for n in range(1, 5)),
        )
        assert len(own) >= clients, own
        ends = time.monotonic() + 60.0 * minutes

        key = str(first.headers["x-squall-key"])

        def work(seed: int) -> None:
            rng, job = random.Random(seed), int(own[seed])
            browser = Browser(address, {"x-squall-key": key, "x-squall-tab": f"tab {seed}"})
            browser.ask("GET", f"/jobs/{job}/survey")
            while time.monotonic() < ends:
                time.sleep(rng.uniform(0.5, 2.0))
                begun = time.monotonic()
                if rng.random() < 0.3:
                    sent = {"path": "lift", "value": f"{rng.uniform(3.0, 12.0):.2f} m", "stage": "survey"}
                    status = browser.ask("POST", f"/jobs/{job}/field", {**sent, "revision": browser.revision})
                    edits.append(time.monotonic() - begun)
                else:
                    where = rng.choice(("/", f"/jobs/{job}/survey", f"/jobs/{job}/power", f"/jobs/{job}/wire"))
                    status = browser.ask("GET", where)
                    pages.append(time.monotonic() - begun)
                answers[str(status)] += 1

        threads = [threading.Thread(target=work, args=(n,)) for n in range(clients)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
    p95 = [statistics.quantiles(rows, n=20)[-1] for rows in (pages, edits)]
    return [
        f"{clients} at once, {workers} processes: {len(pages)} pages p95 {p95[0]:.2f} s, {len(edits)} edits p95 {p95[1]:.2f} s, answers {dict(answers)}"
    ]


def hostile() -> list[str]:
    """Files that mean harm, to every place that takes one."""
    bomb = io.BytesIO()
    with zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED) as made:
        made.writestr("a", b"0" * 50_000_000)
    files = {
        "nothing": b"", "nul": b"\0" * 1000, "deep": b"[" * 200_000 + b"]" * 200_000, "deep-objects": b'{"a":' * 100_000,
        "numbers": json.dumps({"format": "squall-job", "version": 2, "name": "x", "lift": {"typed": "1", "si": 1}}).encode().replace(b"1}", b"9" * 5000 + b"}"),
        "bomb.zip": bomb.getvalue(), "entities": b'<?xml version="1.0"?><!DOCTYPE g [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;">]><gpx>&b;</gpx>',
        "outside": b'<?xml version="1.0"?><!DOCTYPE g [<!ENTITY x SYSTEM "file:///etc/passwd">]><gpx><trk><name>&x;</name></trk></gpx>',
        "long-track": b"<gpx><trk><trkseg>" + b'<trkpt lat="-30.1" lon="24.1"><ele>900</ele></trkpt>' * 100_000 + b"</trkseg></trk></gpx>",
        "curve": b"flow [L/min],head [m]\n" + b"1,1\n" * 30_000, "curve-nan": b"flow [L/min],head [m]\nnan,1\n1e999,2\n",
        "picture": b"\x89PNG\r\n\x1a\n" + b"\0" * 500, "wide-picture": _wide_picture(), "csv": b"Id,Name\n" + b'"' * 100_000,
    }  # fmt: skip
    places = (
        "/import",
        "/jobs/1/photos",
        "/jobs/1/survey/track",
        "/jobs/1/lift/curve",
        "/jobs/1/years/weather",
        "/parts/look",
        "/jobs/1/carried",
    )
    found: Counter[int] = Counter()
    wrong = []
    with tempfile.TemporaryDirectory() as folder, served(Path(folder)) as (address, _):
        client = client_of(address)
        client.get("/jobs/1/survey")  # a start is slow enough by itself
        for place in places:
            for name, data in files.items():
                begun = time.monotonic()
                try:
                    answer = client.post(place, files={"file": (name, data)}, data={"family": "panels"})
                except httpx2.HTTPError as error:
                    wrong.append(f"  {place} {name}: no answer, {error}")
                    client = client_of(address)
                    continue
                took = time.monotonic() - begun
                found[answer.status_code] += 1
                if answer.status_code >= 500 or took > SLOW_S or "root:" in answer.text:
                    wrong.append(f"  {place} {name}: {answer.status_code} after {took:.1f} s")
    return [f"{sum(found.values())} hostile files, answers {dict(sorted(found.items()))}: {len(wrong)} wrong", *wrong]


def _wide_picture() -> bytes:
    """A picture of few bytes and very many points."""
    from PIL import Image

    made = io.BytesIO()
    Image.new("1", (30_000, 30_000)).save(made, "PNG")
    return made.getvalue()


def main() -> None:
    """Run all four and print what held."""
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--minutes", type=float, default=2.0)
    asked.add_argument("--seed", type=int, default=1)
    asked.add_argument("--kills", type=int, default=KILLS)
    asked.add_argument("--workers", type=int, default=2, help="processes that answer fifty at once")
    asked.add_argument("--only", default="", help="killed, fuzzed, loaded or hostile")
    given = asked.parse_args()
    rng = random.Random(given.seed)
    ways = {
        "killed": lambda: killed(rng, given.kills), "fuzzed": lambda: fuzzed(rng, given.minutes),
        "loaded": lambda: loaded(given.minutes, given.workers), "hostile": hostile,
    }  # fmt: skip
    for name, attack in ways.items():
        if given.only in ("", name):
            print("\n".join(attack()), flush=True)


if __name__ == "__main__":
    main()
