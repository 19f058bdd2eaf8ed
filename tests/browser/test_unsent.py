"""Nothing typed is lost: without the line, with a server that fails, over a reload, and beside somebody else's change."""

from collections.abc import Iterator

import pytest
from hand import retype
from playwright.sync_api import Browser, BrowserContext, Page, Route, expect


@pytest.fixture
def person(browser: Browser, address: str) -> Iterator[BrowserContext]:
    """A browser whose line may break: its console says so, which is no fault of the page."""
    context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=address)
    context.set_default_timeout(15_000)
    context.set_default_navigation_timeout(90_000)
    yield context
    context.close()


def at(person: BrowserContext, path: str) -> Page:
    page = person.new_page()
    page.goto(path)
    return page


def test_a_change_made_without_the_line_is_kept_and_sent_when_it_is_back(person: BrowserContext) -> None:
    page = at(person, "/jobs/1/survey")
    person.set_offline(True)
    retype(page, "#f-lift", "8 m")
    expect(page.locator("#unsent")).to_contain_text("8 m")
    expect(page.locator("#saved")).to_have_text("not saved")
    retype(page, "#f-rim", "0.9 m")
    expect(page.locator("#unsent")).to_contain_text("0.9 m")
    expect(page.locator("#f-lift")).to_have_value("8 m")
    person.set_offline(False)
    expect(page.locator("#unsent")).to_be_hidden()
    expect(page.locator("svg.beside")).to_contain_text("lift 8")
    expect(page.locator("#saved")).to_have_text("saved")
    again = at(person, "/jobs/1/survey")
    expect(again.locator("#f-lift")).to_have_value("8 m")
    expect(again.locator("#f-rim")).to_have_value("0.9 m")


def test_it_outlives_the_page_and_is_sent_from_another(person: BrowserContext) -> None:
    page = at(person, "/jobs/1/survey")
    person.set_offline(True)
    retype(page, "#f-lift", "8 m")
    expect(page.locator("#unsent")).to_be_visible()
    page.close(run_before_unload=False)
    person.set_offline(False)
    other = at(person, "/")
    expect(other.locator("#unsent")).to_be_hidden()
    other.goto("/jobs/1/survey")
    expect(other.locator("#f-lift")).to_have_value("8 m")


def test_somebody_elses_change_meanwhile_is_asked_about(person: BrowserContext, browser: Browser, address: str) -> None:
    page = at(person, "/jobs/1/survey")
    person.set_offline(True)
    retype(page, "#f-lift", "8 m")
    other = browser.new_context(base_url=address)
    theirs = at(other, "/jobs/1/survey")
    retype(theirs, "#f-lift", "7 m")
    expect(theirs.locator("svg.beside")).to_contain_text("lift 7")
    other.close()
    person.set_offline(False)
    expect(page.locator(".conflict")).to_contain_text("7 m")
    expect(page.locator(".conflict")).to_contain_text("8 m")
    page.get_by_role("button", name="Keep mine").click()
    expect(page.locator("svg.beside")).to_contain_text("lift 8")
    expect(page.locator("#unsent")).to_be_hidden()


def test_what_is_half_typed_outlives_a_reload_and_other_pages(person: BrowserContext) -> None:
    page = at(person, "/jobs/1/survey")
    page.locator("#f-rim").click()
    page.keyboard.press("Control+A")
    page.keyboard.type("1.2 m")
    page.reload()
    expect(page.locator("#f-rim")).to_have_value("1.2 m")
    expect(page.locator("#f-rim-form .unsent-note")).to_contain_text("not kept yet")
    page.locator("#f-rim").press("Enter")
    expect(page.locator("#saved")).to_have_text("saved")
    page.reload()
    expect(page.locator("#f-rim")).to_have_value("1.2 m")
    expect(page.locator(".unsent-note")).to_have_count(0)

    page.goto("/jobs/1/prove?light=800")
    page.locator("#m-open-volts").fill("19.8 V")
    page.goto("/jobs/1/wire")
    page.goto("/jobs/1/prove?light=800")
    expect(page.locator("#m-open-volts")).to_have_value("19.8 V")
    page.get_by_role("button", name="Judge and keep").click()
    expect(page.locator("#saved")).to_have_text("saved")
    page.goto("/jobs/1/prove?light=800")
    expect(page.locator("#m-open-volts")).to_have_value("")


def test_what_was_refused_outlives_a_reload(person: BrowserContext) -> None:
    page = at(person, "/jobs/1/survey")
    retype(page, "#f-lift", "3 gpm")
    expect(page.locator("#f-lift-problem")).to_contain_text("that is a flow")
    expect(page.locator("#saved")).to_have_text("not saved")
    page.reload()
    expect(page.locator("#f-lift")).to_have_value("3 gpm")


def test_a_change_on_its_way_arrives_before_the_page_is_left(person: BrowserContext) -> None:
    page = at(person, "/jobs/1/survey")
    page.locator("#f-lift").fill("8 m")
    page.locator(".tape").get_by_text("Need").click()
    page.wait_for_url("**/need")
    page.goto("/jobs/1/survey")
    expect(page.locator("#f-lift")).to_have_value("8 m")


KINDS = {
    "no line": lambda route: route.abort("internetdisconnected"),
    "a fault": lambda route: route.fulfill(status=500, content_type="text/html", body="<!doctype html><html><body><div class=error-page><p>A fault here.</p></div></body></html>"),
    "busy": lambda route: route.fulfill(status=503, content_type="text/html", body="<!doctype html><html><body><div class=error-page><p>Busy now.</p></div></body></html>"),
    "no passphrase": lambda route: route.fulfill(status=401, content_type="text/plain", body="Give the passphrase first."),
    "another page": lambda route: route.fulfill(status=200, content_type="text/html", body="<!doctype html><html><body><p>Quite another page</p></body></html>"),
    "gone": lambda route: route.fulfill(status=404, content_type="text/html", body="<!doctype html><html><body><div class=error-page><p>There is no job 1.</p></div></body></html>"),
}  # fmt: skip


@pytest.mark.parametrize("kind", sorted(KINDS))
def test_an_action_that_fails_says_so_in_its_place(person: BrowserContext, kind: str) -> None:
    page = at(person, "/jobs/1/survey")

    def answer(route: Route) -> None:
        KINDS[kind](route)

    page.route("**/jobs/1/do/add-piece", answer)
    page.get_by_role("button", name="Add a piece", exact=True).click()
    note = page.locator("#part-run .not-done")
    expect(note).to_be_visible()
    words = {"a fault": "A fault here.", "busy": "Busy now.", "no passphrase": "passphrase", "gone": "There is no job"}
    expect(note).to_contain_text(words.get(kind, ""))
    assert page.locator("#job").count() == 1
    assert page.locator("#job .masthead, #job html, #job .error-page").count() == 0
    page.unroute("**/jobs/1/do/add-piece")
    page.get_by_role("button", name="Add a piece", exact=True).click()
    expect(page.locator("#part-run details.row-opens")).to_have_count(3)
    expect(note).to_have_count(0)


@pytest.mark.parametrize("kind", ["a fault", "another page", "busy", "no line", "no passphrase"])
def test_a_field_that_fails_is_kept_whatever_the_failure(person: BrowserContext, kind: str) -> None:
    page = at(person, "/jobs/1/survey")
    page.route("**/jobs/1/field", lambda route: KINDS[kind](route))
    retype(page, "#f-lift", "8 m")
    expect(page.locator("#unsent")).to_contain_text("8 m")
    expect(page.locator("#f-lift")).to_have_value("8 m")
    page.unroute("**/jobs/1/field")
    page.get_by_role("button", name="Send now").click()
    expect(page.locator("#unsent")).to_be_hidden()
    expect(page.locator("svg.beside")).to_contain_text("lift 8")


def test_a_server_started_anew_takes_what_an_open_page_sends(person: BrowserContext) -> None:
    page = at(person, "/jobs/1/survey")
    page.evaluate("document.querySelector('meta[name=squall-key]').content = 'of the run before'")
    retype(page, "#f-lift", "8 m")
    expect(page.locator("svg.beside")).to_contain_text("lift 8")
    expect(page.locator("#unsent")).to_be_hidden()
