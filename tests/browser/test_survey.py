"""Survey, Need and Lift in the browser: by keys alone, with a thumb, with files, with wrong input; axe finds nothing."""

import re

import pytest
from axe import faults
from hand import retype, unfold
from playwright.sync_api import Page, expect

GPX = (
    b'<?xml version="1.0"?><gpx version="1.1" creator="t" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>'
    b'<trkpt lat="-30.4" lon="24.6"><ele>1180</ele></trkpt><trkpt lat="-30.4003" lon="24.6"><ele>1183</ele></trkpt>'
    b'<trkpt lat="-30.4006" lon="24.6"><ele>1189</ele></trkpt></trkseg></trk></gpx>'
)


def tab_to(page: Page, selector: str, most: int = 400) -> None:
    """Press Tab until an element has the focus."""
    for _ in range(most):
        page.keyboard.press("Tab")
        if page.evaluate("s => document.activeElement && document.activeElement.matches(s)", selector):
            return
    raise AssertionError(f"Tab never reached {selector}")


def test_the_survey_by_keys_alone(laptop: Page) -> None:
    """From the level's readings to the well, the run and the sky without a mouse."""
    laptop.goto("/jobs/5/survey")
    tab_to(laptop, "#f-water")
    laptop.keyboard.press("h")
    expect(laptop.locator("#part-well h2")).to_have_text("Well")
    tab_to(laptop, "#new-way")
    laptop.keyboard.press("c")
    tab_to(laptop, "#new-value")
    laptop.keyboard.type("11.2 m")
    laptop.keyboard.press("Enter")
    expect(laptop.locator(".readings tbody tr")).to_have_count(1)
    expect(laptop.locator(".readings tbody th")).to_have_text("contact meter")
    tab_to(laptop, "#f-well-total_depth")
    laptop.keyboard.type("18 m")
    laptop.keyboard.press("Tab")
    expect(laptop.locator("#why-hang-bottom")).to_have_count(1)
    tab_to(laptop, "#f-run-p1-length")
    laptop.keyboard.type("40 m")
    laptop.keyboard.press("Enter")
    expect(laptop.locator("#f-run-p1-length")).to_have_value("40 m")
    tab_to(laptop, "#undo")
    laptop.keyboard.press("Enter")
    expect(laptop.locator("#f-run-p1-length")).to_have_value("31 m")


def test_a_pebble_is_timed_with_a_thumb(phone: Page) -> None:
    phone.goto("/jobs/4/survey")
    unfold(phone, "#new-way")
    phone.locator("#new-way").select_option("pebble")
    expect(phone.locator(".way-help:visible").first).to_contain_text("never with a pump in the well")
    start = phone.locator("#level-entry .thumb-button")
    assert start.bounding_box()["height"] >= 48
    start.tap()
    expect(start).to_have_text("Stop")
    phone.wait_for_timeout(1300)
    start.tap()
    expect(phone.locator("#new-value")).to_have_value(re.compile(r"^[1-9]\.\d\d s$"))
    phone.locator("#new-value").fill("1.31 s")  # a busy machine stops its watch late
    phone.get_by_role("button", name="Keep this reading").tap()
    expect(phone.locator(".readings tbody tr")).to_have_count(4)
    expect(phone.locator(".readings tr.outlying")).to_have_count(1)


def test_a_wrong_reading_loses_nothing(phone: Page) -> None:
    phone.goto("/jobs/4/survey")
    unfold(phone, "#new-value")
    phone.locator("#new-value").fill("seventeen")
    phone.locator("#new-raised").fill("0.4 m")
    phone.get_by_role("button", name="Keep this reading").tap()
    expect(phone.locator("#new-reading-problem")).to_contain_text("can't be read")
    expect(phone.locator("#new-value")).to_have_value("seventeen")
    expect(phone.locator("#new-raised")).to_have_value("0.4 m")
    phone.locator("#new-value").fill("17.9 m")
    phone.get_by_role("button", name="Keep this reading").tap()
    expect(phone.locator(".readings tbody tr")).to_have_count(4)
    expect(phone.locator("#new-reading-problem")).to_have_text("")
    expect(phone.locator("#new-value")).to_have_value("")


def test_a_track_is_laid_and_drawn(laptop: Page, tmp_path) -> None:
    track = tmp_path / "walk.gpx"
    track.write_bytes(GPX)
    laptop.goto("/jobs/1/survey")
    unfold(laptop, "#track-file")
    laptop.locator("#track-file").set_input_files(track)
    laptop.get_by_role("button", name="Lay the run along it").click()
    expect(laptop.locator("details[id^=part-run-]")).to_have_count(2)
    expect(laptop.locator(".section.beside .part-run")).to_have_count(2)
    expect(laptop.locator("#f-lift")).to_have_value("9 m")


def test_a_bucket_makes_a_curve(phone: Page) -> None:
    phone.goto("/jobs/5/lift")
    pump = phone.locator("#part-own-w1")
    expect(pump).to_contain_text("off the curve")
    pump.locator(".watch .thumb-button").tap()
    phone.wait_for_timeout(900)
    pump.locator(".watch .thumb-button").tap()
    expect(pump.locator("input[name=seconds]")).to_have_value(re.compile(r"^\d\.\d\d s$"))
    pump.locator("input[name=seconds]").fill("70 s")
    pump.locator("input[name=height]").fill("4 m")
    pump.get_by_role("button", name="Keep this test").tap()
    expect(pump.locator(".point-row[role=group]")).to_have_count(4)


def test_needs_add_up_under_the_hand(laptop: Page) -> None:
    laptop.goto("/jobs/5/need")
    before = laptop.locator(".why[popovertarget=why-need-most]").inner_text()
    laptop.get_by_role("button", name="Add a tank to top up").click()
    expect(laptop.locator("details[id^=part-use-]")).to_have_count(3)
    expect(laptop.locator(".why[popovertarget=why-need-most]")).to_have_text(before), "nothing is said of it yet"
    expect(laptop.locator("#verdict")).to_contain_text("Nobody has said yet: Water a day (house tank)")
    laptop.get_by_label("Water a day").fill("200 L")
    laptop.get_by_label("Water a day").press("Enter")
    expect(laptop.locator(".why[popovertarget=why-need-most]")).not_to_have_text(before)
    expect(laptop.locator("#verdict")).to_contain_text("No kit is chosen yet")
    laptop.get_by_role("button", name="Take this use out: house tank").click()
    expect(laptop.locator(".why[popovertarget=why-need-most]")).to_have_text(before)


def test_the_doubt_moves_with_a_better_reading(laptop: Page) -> None:
    laptop.goto("/jobs/1/survey")
    before = laptop.locator("#doubt").inner_text()
    retype(laptop, "#f-doubt-lift", "1.5 m")
    expect(laptop.locator("#doubt")).not_to_have_text(before)
    expect(laptop.locator("#doubt")).to_contain_text("weighted tape")
    laptop.locator(".why[popovertarget=why-doubt]").click()
    expect(laptop.locator("#why-doubt")).to_contain_text("summed by squares")


@pytest.mark.parametrize("screen", ["laptop", "phone"])
def test_axe_finds_nothing_on_wells_ponds_roofs_and_own_pumps(request: pytest.FixtureRequest, screen: str) -> None:
    page: Page = request.getfixturevalue(screen)
    for address in (
        "/jobs/4/survey",
        "/jobs/3/survey",
        "/jobs/5/survey",
        "/jobs/5/need",
        "/jobs/5/lift",
        "/jobs/4/lift",
    ):
        page.goto(address)
        page.evaluate("document.querySelectorAll('details').forEach(d => { d.open = true; })")
        assert not faults(page, "all" if screen == "laptop" else "but colours"), address
        wide = page.evaluate("document.documentElement.scrollWidth - window.innerWidth")
        assert wide <= 0, f"{address} scrolls sideways by {wide}"
