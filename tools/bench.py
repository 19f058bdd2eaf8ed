"""Measures what a person waits for: medians of one run on this machine, printed as a table."""

import json
import os
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.parse
import urllib.request
from collections.abc import Callable
from contextlib import closing
from pathlib import Path
from typing import Any

import bench_circuit
import bench_faults
import bench_years
from big_shelf import LARGE, stock_of
from playwright.sync_api import sync_playwright

from squall.catalogue import catalogue
from squall.core.advice.asked import Asked
from squall.core.advice.rank import rank
from squall.core.advice.search import search
from squall.core.kit.cabling import Rules
from squall.core.kit.parts import Stock
from squall.core.years.use import plain_use
from squall.demo import demo_jobs
from squall.job.document.base import quantity
from squall.job.document.job import ReadingValue, Visit
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.doubts import doubt_of
from squall.store.beside import visit_change
from squall.store.folder.database import FILE_NAME, connect, transaction
from squall.store.jobs import change_rows, one_job

PORT = 8093
BASE = f"http://127.0.0.1:{PORT}"


def taken_ms(work: Callable[[], object], times: int) -> list[float]:
    """Durations of a piece of work, shortest first. [ms]"""
    taken = []
    for _ in range(times):
        begin = time.perf_counter()
        work()
        taken.append((time.perf_counter() - begin) * 1000.0)
    return sorted(taken)


def median_ms(work: Callable[[], object], times: int) -> float:
    """Median duration of a piece of work. [ms]"""
    return statistics.median(taken_ms(work, times))


def of_edits(what: str, taken: list[float]) -> tuple[str, str, str]:
    """A row of edits: median, and what 95 in 100 stay under."""
    most = taken[round(0.95 * (len(taken) - 1))]
    return (f"one edit's round trip, {what}", f"{statistics.median(taken):.0f} ms, p95 {most:.0f}", "p95 under 80 ms")


def start_server(data: Path) -> tuple[subprocess.Popen[bytes], float]:
    """Start the demo and wait for its first page: process and seconds waited."""
    begin = time.perf_counter()
    server = subprocess.Popen(
        [sys.executable, "-m", "squall.cli", "demo", "--data", str(data), "--port", str(PORT)],
        env={**os.environ, "NO_BROWSER": "1"}, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
    )  # fmt: skip
    while True:
        try:
            urllib.request.urlopen(BASE + "/").read()
            return server, time.perf_counter() - begin
        except urllib.error.URLError:
            if time.perf_counter() - begin > 120:
                raise
            time.sleep(0.02)


def key_of_run() -> str:
    """The key that changes carry, read from a page as a browser does."""
    page = urllib.request.urlopen(BASE + "/").read().decode()
    found: str = page.split('name="squall-key" content="')[1].split('"')[0]
    return found


def edit(key: str, path: str, value: str) -> None:
    """One edit as the page sends it."""
    fields = {"path": path, "value": value, "stage": "survey", "revision": "1"}
    request = urllib.request.Request(
        BASE + "/jobs/1/field", urllib.parse.urlencode(fields).encode(),
        {"X-Squall-Key": key, "X-Squall-Tab": "bench", "HX-Request": "true", "HX-Request-Type": "partial"},
    )  # fmt: skip
    urllib.request.urlopen(request).read()


def page_weights() -> tuple[float, float]:
    """kB on the wire of the first page with all it loads, and of the heaviest later page."""
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox"])
        context = browser.new_context()
        page = context.new_page()
        session = context.new_cdp_session(page)
        session.send("Network.enable")
        total = [0.0]
        session.on("Network.loadingFinished", lambda event: total.__setitem__(0, total[0] + event["encodedDataLength"]))
        weights = []
        for address in (
            "/",
            *(
                f"/jobs/1/{s}"
                for s in (
                    "survey",
                    "need",
                    "lift",
                    "power",
                    "sun",
                    "join",
                    "store",
                    "years",
                    "outdoors",
                    "kits",
                    "wire",
                    "prove",
                )
            ),
        ):
            total[0] = 0.0
            page.goto(BASE + address)
            page.wait_for_timeout(1500)
            weights.append(total[0] / 1000.0)
        browser.close()
    return weights[0], max(weights[1:])


def fill_log(data: Path, visits: int) -> None:
    """Keep visits in the log of the first job, six readings each."""
    point = ReadingValue(point="pump-volts", measured=quantity("12.1 V", 12.1), expected=12.0, low=11.0, high=13.0,
                         verdict="good")  # fmt: skip
    with closing(connect(data / FILE_NAME)) as conn, transaction(conn):
        stored = one_job(conn, 1)
        kept = [
            Visit(id=f"v{n}", at=f"2026-{n % 12 + 1:02}-01T08:00Z", option=stored.job.options[0].id, irradiance_w_m2=800.0,
                  air_c=20.0, told_by="typed-light", values=[point] * 6)
            for n in range(visits)
        ]  # fmt: skip
        for visit in kept:
            change_rows(conn, stored, "bench", "visit", [visit_change(visit.id, None, visit)])
            stored = one_job(conn, 1)


def page_while_locked(data: Path) -> float:
    """Slowest of some pages while another process holds the lock for writing. [ms]"""
    hold = "import sqlite3,sys,time;c=sqlite3.connect(sys.argv[1],isolation_level=None);c.execute('BEGIN IMMEDIATE');print(1,flush=True);time.sleep(3)"
    other = subprocess.Popen([sys.executable, "-c", hold, str(data / FILE_NAME)], stdout=subprocess.PIPE)
    assert other.stdout is not None
    other.stdout.readline()
    taken = []
    for address in ("/", "/jobs/1/survey", "/jobs/1/prove", "/jobs/1/power"):
        begin = time.perf_counter()
        urllib.request.urlopen(BASE + address).read()
        taken.append((time.perf_counter() - begin) * 1000.0)
    other.wait()
    return max(taken)


def memory_rows() -> list[tuple[str, str, str]]:
    """What a server's process holds after a long day, in a process of its own."""
    tool = Path(__file__).parent / "bench_memory.py"
    out = subprocess.run([sys.executable, str(tool), "200", "50"], capture_output=True, text=True, check=True).stdout
    held = json.loads(out)
    late = held[len(held) // 2 :]
    return [
        ("memory after 200 rankings and 50 runs of ten years", f"{held[-1]} MB", "under 400 MB"),
        ("what the later half of them added", f"{late[-1] - late[0]} MB", "about none"),
    ]


def main() -> None:
    """Run everything and print the table."""
    rows: list[tuple[str, str, str]] = []
    with tempfile.TemporaryDirectory() as folder:
        starts = []
        for n in range(3):
            server, seconds = start_server(Path(folder) / f"d{n}")
            starts.append(seconds)
            if n < 2:
                server.terminate()
                server.wait()
        rows.append(("start of the server to first page", f"{statistics.median(starts):.2f} s", "under 2.5 s"))
        try:
            key = key_of_run()
            time.sleep(4.0)
            edit(key, "lift", "8.00 m")
            numbers = iter(range(1, 1000))
            lifts = taken_ms(lambda: edit(key, "lift", f"{8 + next(numbers) / 100:.2f} m"), 25)
            bores = taken_ms(lambda: edit(key, "run.p1.length", f"{40 + next(numbers)} m"), 25)
            suns = taken_ms(lambda: edit(key, "latitude", f"{-20 - next(numbers) / 50:.2f}"), 15)
            alone = median_ms(lambda: edit(key, "lift", f"{7 + next(numbers) / 500:.3f} m"), 25)
            fill_log(Path(folder) / "d2", 500)
            logged = median_ms(lambda: edit(key, "lift", f"{7 + next(numbers) / 500:.3f} m"), 25)
            waited = page_while_locked(Path(folder) / "d2")
            rows += [of_edits("lift", lifts), of_edits("length", bores), of_edits("latitude", suns)]
            rows.append(("the same with 500 visits kept, against none", f"{logged / alone:.2f} x", "at most 1.2 x"))
            rows.append(("slowest page while another process writes", f"{waited:.0f} ms", "under 1000 ms"))
            first, later = page_weights()
            rows.append(("first page, all it transfers", f"{first:.0f} kB", "under 450 kB"))
            rows.append(("heaviest later page", f"{later:.0f} kB", "under 40 kB"))
        finally:
            server.terminate()
            server.wait()
    a = assess(demo_jobs()[0])

    def ranking() -> None:
        for cached in CACHES:
            cached.cache_clear()
        found = rank(catalogue().stock, a.layout, a.lit, plain_use(a.need_l), Rules(0.05, "metric"))
        tried[0] = found.tried

    from squall.core.kit import layout, setup
    from squall.core.years import lit, nodes

    doubtful = assess(demo_jobs()[1])
    assert doubtful.chosen is not None
    chosen = doubtful.chosen

    def ranged() -> None:
        for cached in CACHES:
            cached.cache_clear()
        doubt_of(doubtful, chosen)

    CACHES.extend(
        [
            setup.table_for,
            layout._line,
            lit._remembered_charge,
            lit.lit_light,
            nodes._states,
            nodes._held_states,
            nodes._charge_nodes,
        ]
    )
    tried = [0]
    ranking()
    rows.append((f"trying everything of the catalogue ({tried[0]} kits), for the tests", f"{median_ms(ranking, 5):.0f} ms",
                 ""))  # fmt: skip
    rows += search_rows(a)
    rows.append(
        ("range of litres and what narrows it, nothing remembered", f"{median_ms(ranged, 9):.0f} ms", "under 400 ms")
    )
    rows += bench_years.rows()
    rows += bench_circuit.rows()
    rows += bench_faults.rows()
    rows += memory_rows()
    for name, figure, wanted in rows:
        print(f"{name:70} {figure:>10}   {wanted}")


def search_rows(a: Assessment) -> list[tuple[str, str, str]]:
    """The search for kits over the shipped stock, and over shelves of one, four and sixteen times a plain one."""
    rules, use = Rules(0.05, "metric"), plain_use(a.need_l)

    def of(stock: Stock, most: int, *, each: bool = True) -> Callable[[], None]:
        def run() -> None:
            for cached in CACHES:
                cached.cache_clear()
            search(stock, a.layout, a.lit, use, rules, Asked(most, each))

        run()
        return run

    def first_of(stock: Stock) -> Callable[[], None]:
        class First(Exception):
            """The first row is there."""

        def stop(row: object) -> None:
            raise First

        def run() -> None:
            for cached in CACHES:
                cached.cache_clear()
            try:
                search(stock, a.layout, a.lit, use, rules, Asked(50, each=False, as_found=stop))
            except First:
                return

        run()
        return run

    shipped = catalogue().stock
    rows = [("search of the shipped catalogue, one of each pump and source, nothing remembered",
             f"{median_ms(of(shipped, 24), 5):.0f} ms", "under 500 ms")]  # fmt: skip
    for times in (1, 4, 16):
        shelf = stock_of(shipped, {family: max(count * times // 16, 3) for family, count in LARGE.items()})
        kinds = len(shelf.pumps) * len(shelf.panels)
        rows.append((f"best 50 of a shelf of {times} x ({len(shelf.pumps)} pumps, {len(shelf.panels)} panels, {kinds} pairs)",
                     f"{median_ms(of(shelf, 50, each=False), 3) / 1000.0:.2f} s", "under 3 s"))  # fmt: skip
        rows.append((f"24 of different pumps and sources of it, as the page asks ({times} x)",
                     f"{median_ms(of(shelf, 24), 3) / 1000.0:.2f} s", ""))  # fmt: skip
    rows.append(("first row of the last of them", f"{median_ms(first_of(shelf), 3) / 1000.0:.2f} s", "under 1 s"))
    return rows


CACHES: list[Any] = []
if __name__ == "__main__":
    main()
