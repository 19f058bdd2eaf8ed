"""By hand in the browser: the first day, a visit, what is due, the quote, a lesson; axe finds nothing there."""

import pytest
from axe import faults
from playwright.sync_api import Page, expect


@pytest.fixture(params=["laptop", "phone"])
def screen(request: pytest.FixtureRequest) -> Page:
    page: Page = request.getfixturevalue(request.param)
    return page


def open_test(page: Page, code: str):
    fold = page.locator(f"#proof-{code}")
    if fold.get_attribute("open") is None:
        fold.locator("summary").first.click()
    return fold


def test_a_first_day_begins_with_the_light_and_a_wrong_test_says_what_it_means(screen: Page) -> None:
    screen.goto("/jobs/1/commission")
    screen.locator("#shown-light").fill("800")
    screen.locator("#shown-light").press("Enter")
    expect(screen.locator("#light")).to_contain_text("last")
    open_test(screen, "panels").get_by_role("button", name="Clear").click()
    expect(screen.locator("#proof-panels .proof-grade")).to_have_text("good")
    ohms = open_test(screen, "cable-loop-ohms")
    ohms.locator("input[name=typed]").fill("2 ohm")
    ohms.get_by_role("button", name="Keep it").click()
    expect(screen.locator("#proof-cable-loop-ohms")).to_contain_text("Here that means")
    ohms.locator("input[name=typed]").fill("about two")
    ohms.get_by_role("button", name="Keep it").click()
    expect(screen.locator("#proof-cable-loop-ohms .problem").last).to_contain_text("about two")
    expect(ohms.locator("input[name=typed]")).to_have_value("about two")
    screen.reload()
    expect(screen.locator("#proof-cable-loop-ohms .proof-grade")).to_have_text("wrong")


def test_a_visit_is_logged_and_a_job_is_put_off(screen: Page) -> None:
    screen.goto("/jobs/4/keep")
    screen.locator("#v-light").fill("700 W/m2")
    screen.locator("#v-outlet-flow").fill("13 L/min")
    screen.get_by_label("Panels cleaned").check()
    screen.locator("#v-note").fill("weed on the screen")
    screen.get_by_role("button", name="Keep the visit").click()
    expect(screen.locator("#log")).to_contain_text("weed on the screen")
    expect(screen.locator("#log")).to_contain_text("panels cleaned")
    expect(screen.locator("#v-note")).to_have_value("")
    screen.locator("#due-box-more > summary").click()
    screen.locator("#why-box").fill("no ladder")
    screen.get_by_role("button", name="Put it off: Open the box").click()
    expect(screen.locator("#due-box")).to_contain_text("put off: no ladder")


@pytest.mark.parametrize(("job", "field"), [(4, "#v-well"), (3, "#v-pond")])
def test_a_level_that_is_kept_leaves_its_field_and_a_wrong_one_stays(laptop: Page, job: int, field: str) -> None:
    """Else the next press would keep it twice."""
    laptop.goto(f"/jobs/{job}/keep")
    before = laptop.locator(".level-kept").count()
    keep = laptop.get_by_role("button", name="Keep the visit")
    laptop.locator(field).fill("deep")
    keep.click()
    expect(laptop.locator(f"{field} ~ .problem")).to_contain_text("deep")
    expect(laptop.locator(field)).to_have_value("deep")
    laptop.locator(field).fill("1.3 m")
    keep.click()
    expect(laptop.locator(".level-kept")).to_have_count(before + 1)
    expect(laptop.locator(field)).to_have_value("")


def test_a_lesson_is_looked_into_and_named(screen: Page) -> None:
    screen.goto("/practise")
    screen.get_by_role("button", name="Begin").click()
    screen.get_by_role("link", name="Ohms of the pump's cable").click()
    expect(screen.locator("#seen")).to_contain_text("stopped")
    screen.get_by_role("link", name="Switch it off").click()
    screen.get_by_role("link", name="Ohms of the pump's cable").click()
    expect(screen.locator("#seen li")).to_have_count(3)
    screen.get_by_role("button", name="That is it").click()
    expect(screen.locator("#truth")).to_contain_text("It was:")


def test_axe_finds_nothing_from_offer_to_upkeep(laptop: Page) -> None:
    for address in (
        "/jobs/1/quote",
        "/jobs/1/commission",
        "/jobs/1/keep",
        "/practise/lesson?kit=panels&level=plain&number=1&acts=panels,motor-ohms&named=none",
    ):
        laptop.goto(address)
        laptop.evaluate("document.querySelectorAll('details').forEach(fold => { fold.open = true; })")
        assert not faults(laptop), address
