"""The pages under Power in the browser: a day scrubbed by keys, the years run and opened, panels joined; axe finds nothing."""

import pytest
from axe import faults
from playwright.sync_api import Page, expect


def run_years(page: Page) -> None:
    page.goto("/jobs/1/years")
    page.locator("#f-years-count").fill("2")
    page.locator("#f-years-count").press("Enter")
    expect(page.locator("#f-years-count")).to_have_value("2")
    page.get_by_role("button", name="Run the years").click()
    expect(page.locator(".years-say")).to_contain_text("as of now")


def test_a_day_is_scrubbed_by_keys_and_the_drawing_follows(laptop: Page) -> None:
    laptop.goto("/jobs/1/power?month=0&kind=clear")
    now = laptop.locator("svg.beside .hour-now")
    slider = laptop.locator(".strip input[type=range]")
    slider.focus()
    before = now.get_attribute("transform")
    expect(laptop.locator("svg.beside.flowing")).to_have_count(1)
    for _ in range(6):
        slider.press("ArrowRight")
    assert now.get_attribute("transform") != before
    said = laptop.locator(".strip-now").inner_text()
    assert slider.get_attribute("aria-valuetext").split(",")[0] == said.split(":")[0] + ":" + said.split(":")[1]
    expect(now.locator("text")).to_contain_text("L/min")
    slider.press("Home")
    expect(laptop.locator(".strip-now")).to_contain_text("00:15")
    expect(laptop.locator("svg.beside.flowing")).to_have_count(0)
    expect(now).to_be_hidden()


def test_the_years_run_and_a_day_opens_by_arrows(laptop: Page) -> None:
    run_years(laptop)
    first = laptop.locator(".calendar a[tabindex='0']")
    first.focus()
    laptop.keyboard.press("ArrowDown")
    laptop.keyboard.press("ArrowRight")
    assert "2 February" in laptop.evaluate("document.activeElement.getAttribute('aria-label')")
    expect(laptop.locator(".calendar a[tabindex='0']")).to_have_count(1)
    laptop.keyboard.press("Enter")
    expect(laptop.locator(".strip h3")).to_have_text("2 February, year 1")
    expect(laptop.locator(".strip-now")).to_contain_text("in the tank")
    expect(laptop.locator("#chart-stores svg")).to_be_visible()


def test_a_long_run_shows_progress_and_can_be_stopped(laptop: Page) -> None:
    laptop.goto("/jobs/1/years")
    laptop.locator("#f-years-count").fill("100")
    laptop.locator("#f-years-count").press("Enter")
    expect(laptop.locator("#f-years-count")).to_have_value("100")
    laptop.get_by_role("button", name="Run the years").click()
    expect(laptop.locator("#years-run progress")).to_be_visible()
    laptop.get_by_role("button", name="Stop").click()
    expect(laptop.locator("#years-run .banner")).to_contain_text("stopped")
    expect(laptop.locator("#years-run progress")).to_have_count(0)


def test_panels_are_joined_with_a_thumb(phone: Page) -> None:
    phone.goto("/jobs/1/join")
    more = phone.get_by_role("button", name="one more string")
    assert more.bounding_box()["height"] >= 30
    more.tap()
    expect(phone.locator("#part-panel h2")).to_contain_text("3 in parallel")
    expect(phone.locator(".strings .cell")).to_have_count(3)
    phone.locator("#undo").tap()
    expect(phone.locator("#part-panel h2")).to_contain_text("2 in parallel")
    phone.locator(".strings .ghost").first.tap()
    expect(phone.locator("#part-panel h2")).to_contain_text("2 strings of 2 in series")
    wide = phone.evaluate("document.documentElement.scrollWidth")
    assert wide <= 390


def test_no_page_scrolls_sideways_on_a_phone(phone: Page) -> None:
    for page_name in ("sun", "join", "store", "years", "outdoors"):
        phone.goto(f"/jobs/2/{page_name}")
        assert phone.evaluate("document.documentElement.scrollWidth") <= 390, page_name


def test_a_kit_is_taken_from_the_trials(laptop: Page) -> None:
    laptop.goto("/jobs/1/kits")
    expect(laptop.locator("#trial-words")).to_contain_text("Cheapest that holds", timeout=60_000)
    expect(laptop.locator("#chart-front svg")).to_be_visible()
    laptop.locator("#kit-trials tbody tr.worst button[aria-label^='Take']").click()
    expect(laptop.locator(".options thead th", has_text="(chosen)")).to_contain_text("Bellows")
    laptop.locator("#undo").click()
    expect(laptop.locator(".options thead th", has_text="(chosen)")).to_contain_text("Stairwell 8, 2 x Kite 50 direct")


@pytest.mark.parametrize("theme", ["dark", "sun"])
def test_axe_finds_nothing_under_power(laptop: Page, theme: str) -> None:
    laptop.goto("/jobs/1/power")
    laptop.get_by_role("button", name=theme, exact=True).click()
    run_years(laptop)
    every = ("power", "sun", "join?other=kite-20&open=12&cell=45", "store?supply_volts=12&supply_amps=9", "years?day=140", "outdoors", "kits")  # fmt: skip
    for address in every if theme == "dark" else ("sun", "years?day=140"):
        laptop.goto(f"/jobs/1/{address}")
        if address == "kits":
            expect(laptop.locator("#trial-words")).to_be_visible(timeout=60_000)
        laptop.wait_for_timeout(300)
        assert not faults(laptop, "all" if theme == "dark" else "colours"), address
