"""Measures what a person waits for: medians of one run on this machine, printed as a table."""

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
from pathlib import Path

import bench_years
from playwright.sync_api import sync_playwright

from squall.catalogue import catalogue
from squall.core.advice.rank import rank
from squall.demo import demo_jobs
from squall.job.worked.assess import assess
from squall.job.worked.doubts import doubt_of

PORT = 8093
BASE = f"http://127.0.0.1:{PORT}"


def median_ms(work: Callable[[], object], times: int) -> float:
    """Median duration of a piece of work. [ms]"""
    taken = []
    for _ in range(times):
        begin = time.perf_counter()
        work()
        taken.append((time.perf_counter() - begin) * 1000.0)
    return statistics.median(taken)


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
    return page.split('name="squall-key" content="')[1].split('"')[0]


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
            lifts = median_ms(lambda: edit(key, "lift", f"{8 + next(numbers) / 100:.2f} m"), 25)
            bores = median_ms(lambda: edit(key, "run.p1.length", f"{40 + next(numbers)} m"), 25)
            suns = median_ms(lambda: edit(key, "latitude", f"{-20 - next(numbers) / 50:.2f}"), 15)
            rows.append(("one edit's round trip, lift", f"{lifts:.0f} ms", "under 120 ms"))
            rows.append(("one edit's round trip, length", f"{bores:.0f} ms", "under 120 ms"))
            rows.append(("one edit's round trip, latitude", f"{suns:.0f} ms", "under 120 ms"))
            first, later = page_weights()
            rows.append(("first page, all it transfers", f"{first:.0f} kB", "under 700 kB"))
            rows.append(("heaviest later page", f"{later:.0f} kB", "under 60 kB"))
        finally:
            server.terminate()
            server.wait()
    a = assess(demo_jobs()[0])

    def ranking() -> None:
        for cached in CACHES:
            cached.cache_clear()
        found = rank(catalogue().stock, a.layout, a.light, a.need_l, 0.05, "metric")
        tried[0] = found.tried

    from squall.core.kit import kit as kits
    from squall.core.years import typical as season

    doubtful = assess(demo_jobs()[1])

    def ranged() -> None:
        for cached in CACHES:
            cached.cache_clear()
        doubt_of(doubtful, doubtful.chosen)

    CACHES.extend([kits.table_for, kits._line, season._remembered_charge, season.lit_light])
    tried = [0]
    ranking()
    rows.append((f"ranking of the whole catalogue ({tried[0]} kits), nothing remembered", f"{median_ms(ranking, 5):.0f} ms",
                 "under 1500 ms"))  # fmt: skip
    rows.append(
        ("range of litres and what narrows it, nothing remembered", f"{median_ms(ranged, 9):.0f} ms", "under 400 ms")
    )
    rows += bench_years.rows()
    for name, figure, wanted in rows:
        print(f"{name:70} {figure:>10}   {wanted}")


CACHES: list[object] = []
if __name__ == "__main__":
    main()
