"""Takes docs/screenshots afresh from demo data."""

import os
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

PORT = 8094
BASE = f"http://127.0.0.1:{PORT}"
OUT = Path(__file__).parent.parent / "docs" / "screenshots"
LAPTOP, PHONE = (1280, 800), (390, 844)
SHOTS = [
    ("survey", "/jobs/1/survey", LAPTOP), ("need", "/jobs/1/need", LAPTOP),
    ("lift", "/jobs/1/lift", LAPTOP), ("power", "/jobs/1/power", LAPTOP), ("kits", "/jobs/1/kits", LAPTOP),
    ("years", "/jobs/1/years", LAPTOP), ("commission", "/jobs/1/commission", LAPTOP),
    ("wire", "/jobs/1/wire", LAPTOP), ("prove", "/jobs/1/prove", LAPTOP), ("sheet", "/jobs/1/sheet/test", LAPTOP),
    ("circuit", "/jobs/2/circuit", LAPTOP), ("fit", "/jobs/4/fit", LAPTOP), ("fault", "/jobs/1/fault", LAPTOP), ("parts", "/parts?family=panels", LAPTOP),
    ("practise", "/practise/lesson?kit=four+panels&level=usual&number=4&red=in-plus&black=in-minus&dial=v200&acts=leads.v200.v.in-plus.in-minus", LAPTOP),
    ("phone-survey", "/jobs/4/survey", PHONE),
    ("phone-prove", "/jobs/1/prove", PHONE),
]  # fmt: skip
# Of the demo's yard, whose kits have two years behind them.
YARD_SHOTS = [("jobs", "/", LAPTOP), ("keep", "/jobs/8/keep", LAPTOP)]

SCROLLED = {
    "phone-prove": "readings",
    "years": "calendar",
    "kits": "kits-found",
}


def take(page: Page, name: str, address: str) -> None:
    """One picture, once its charts and ranking are there."""
    page.goto(BASE + address)
    if address.endswith("kits"):
        page.locator("#trial-words").wait_for(timeout=60_000)
    if address == "/":
        page.locator("#hands").wait_for(timeout=120_000)
        page.locator(".job-row .stamp").first.wait_for(timeout=60_000)
    if name == "years":
        page.get_by_role("button", name="Run the years").click()
        page.locator(".years-say").wait_for(timeout=60_000)
        page.goto(f"{BASE}{address}?year=0&day=140")
    if name == "commission":
        for check, typed in (("light", "800 W/m2"), ("panel-open-volts", "20.5 20.7"), ("cable-loop-ohms", "1.9 ohm")):
            page.evaluate(
                "id => document.querySelectorAll(id).forEach(fold => { fold.open = true; })", f"#proof-{check}"
            )
            page.locator(f"#shown-{check}").fill(typed)
            page.locator(f"#shown-{check}").press("Enter")
            page.wait_for_timeout(900)
    if name == "fault":
        page.get_by_label("Ran, then stopped").check()
        page.get_by_label("Full sun, sharp shadows").check()
        page.get_by_role("button", name="Look for it").click()
        page.locator("#next-check input.form-control").fill("0.02 V")
        page.locator("#next-check input.form-control").press("Enter")
        page.locator(".seen-list").wait_for()
    page.wait_for_timeout(700)
    if name in SCROLLED:
        for _ in range(2):
            page.evaluate("id => document.getElementById(id).scrollIntoView()", SCROLLED[name])
            page.wait_for_timeout(500)
    page.screenshot(path=OUT / f"{name}.png")


def taken_of(shots: list[tuple[str, str, tuple[int, int]]], *more: str) -> None:
    """Start a demo, take its pictures, stop it."""
    with tempfile.TemporaryDirectory() as folder:
        server = subprocess.Popen(
            [sys.executable, "-m", "squall.cli", "demo", *more, "--data", folder, "--port", str(PORT)],
            env={**os.environ, "NO_BROWSER": "1"},
        )  # fmt: skip
        try:
            for _ in range(400):
                try:
                    urllib.request.urlopen(BASE + "/").read()
                    break
                except urllib.error.URLError:
                    time.sleep(0.1)
            with sync_playwright() as play:
                browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox"])
                for name, address, (width, height) in shots:
                    page = browser.new_page(viewport={"width": width, "height": height})
                    take(page, name, address)
                    page.close()
                browser.close()
        finally:
            server.terminate()
            server.wait()


def main() -> None:
    """Take every picture."""
    OUT.mkdir(parents=True, exist_ok=True)
    taken_of(SHOTS)
    taken_of(YARD_SHOTS, "--yard")


if __name__ == "__main__":
    main()
