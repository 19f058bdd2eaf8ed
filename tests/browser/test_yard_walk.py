"""A kit that was handed over, taken in by hand: the board says what it asks for, its logger's file is read, its papers are there."""

import math
import urllib.request
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from squall.demo import yard
from squall.formats.history_json import export


def logged(days: int = 12) -> str:
    """A kit that runs about noon, read every five minutes."""
    begin = datetime.now(UTC).replace(tzinfo=None, hour=0, minute=0, second=0, microsecond=0) - timedelta(days=20)
    rows = ["Time,Volts,Amps,Flow L/min"]
    for n in range(days * 288):
        at = begin + timedelta(minutes=5 * n)
        on = math.sin(math.pi * (at.hour + at.minute / 60.0 - 6.3) / 12.0) > 0.5
        rows.append(f"{at:%Y-%m-%d %H:%M:%S},{15.0 * on},{3.0 * on},{4.0 * on}")
    return "\n".join(rows)


@pytest.mark.parametrize("screen", ["laptop", "phone"])
def test_a_kit_that_is_taken_over_is_kept_on(request: pytest.FixtureRequest, screen: str, tmp_path: Path) -> None:
    page: Page = request.getfixturevalue(screen)
    handed = next(one for one in yard(datetime.now(UTC).date()) if one.job.name == "Geese on Sallow Flat")
    name = f"Geese, taken over on the {screen}"
    history = handed.model_copy(update={"job": handed.job.model_copy(update={"name": name})})
    (tmp_path / "geese.squall.json").write_text(export(history), "utf8")
    (tmp_path / "june.csv").write_text(logged(), "utf8")
    page.goto("/")
    page.get_by_text("Take in a job file, or what was handed over").click()
    page.get_by_label("Import a job").set_input_files(tmp_path / "geese.squall.json")
    page.get_by_role("button", name="Import", exact=True).click()
    expect(page.locator("#job")).to_be_visible()
    job = page.locator("#job").get_attribute("data-job")

    page.goto("/")
    chip = page.locator("#hands a", has_text="Wearing")
    expect(chip).to_be_visible(timeout=60_000)
    chip.click()
    row = page.locator(".job-row", has_text=name)
    expect(row).to_contain_text("The pump draws more and turns harder")
    expect(row.locator("svg.course")).to_be_visible()
    row.get_by_role("link", name=f"Keep {name}").click()
    expect(page.locator("#alarms")).to_contain_text("dirt or a bearing")
    page.get_by_role("link", name="Upkeep cards").click()
    expect(page.locator("#card-centrifugal")).to_contain_text("Bucket test before it goes back")

    page.goto(f"/jobs/{job}/logger")
    page.locator("#logger-file").set_input_files(tmp_path / "june.csv")
    page.get_by_role("button", name="Take it in").click()
    expect(page.get_by_label("Which column is the time")).to_have_value("0")
    page.get_by_label("Unit of the amps of the pump").select_option("mA")
    page.get_by_label("Unit of the amps of the pump").select_option("A")
    page.get_by_role("button", name="Read it").click()
    expect(page.locator(".logged-lanes")).to_be_visible()
    page.get_by_role("button", name="Take a reading a week into the log, from june.csv").click()
    expect(page.locator(".banner")).to_contain_text("2 readings are in the log")
    assert page.evaluate("document.documentElement.scrollWidth") <= page.viewport_size["width"]


def test_the_page_moves_with_what_a_logger_sends(laptop: Page) -> None:
    laptop.goto("/jobs/1/live")
    laptop.get_by_role("button", name="Open an address").click()
    address = laptop.locator("#live-address-1 code").inner_text()
    laptop.get_by_role("link", name="Look again").click()
    expect(laptop.locator("#live-now")).to_contain_text("Nothing has been sent yet")
    laptop.get_by_label("What sends").fill("half typed")
    laptop.get_by_label("This kit, as if").select_option("fuse-blown")
    for reading in ("11.9 V", "12.4 V"):
        sent = urllib.request.Request(address, data=f",pump-volts,{reading}\n".encode(), method="POST")
        with urllib.request.urlopen(sent, timeout=20) as answer:
            assert answer.read() == b"1 readings kept.\n"
        expect(laptop.locator("#live-now tbody")).to_contain_text(reading.replace(" ", "\u00a0"), timeout=15_000)
    expect(laptop.get_by_label("What sends")).to_have_value("half typed")
    expect(laptop.get_by_label("This kit, as if")).to_have_value("fuse-blown")
