"""The place in a browser: by the outline, by keys, on a phone, without scripts, and nothing for axe to find."""

import re

import pytest
from axe import faults
from playwright.sync_api import Page, expect


def bare_job(page: Page) -> str:
    page.goto("/")
    page.locator("input[name=name]").fill("Nowhere yet")
    page.locator("input[name=name]").press("Enter")
    page.wait_for_url(re.compile(r"/jobs/\d+/survey"))
    return page.url.split("/jobs/")[1].split("/")[0]


def test_a_press_on_the_outline_writes_a_place_and_a_button_takes_it(laptop: Page) -> None:
    number = bare_job(laptop)
    laptop.goto(f"/jobs/{number}/kits")
    expect(laptop.get_by_role("heading", name="First: where is it?")).to_be_visible()
    world = laptop.locator("[data-world]")
    box = world.bounding_box()
    assert box is not None
    world.click(position={"x": box["width"] * (180 + 25) / 360, "y": box["height"] * (75 + 30) / 134})
    expect(laptop.locator("#place-at")).to_have_value(re.compile(r"^(29|30)\.\d S 2[45]\.\d E$"))
    laptop.get_by_role("button", name="Put the job there").click()
    expect(laptop.locator("#verdict")).to_contain_text("Nobody has said yet")


def test_the_outline_by_keys(laptop: Page) -> None:
    number = bare_job(laptop)
    laptop.goto(f"/jobs/{number}/place")
    laptop.locator("[data-world]").focus()
    for key in ("Shift+ArrowUp", "ArrowUp", "Shift+ArrowRight", "ArrowLeft"):
        laptop.keyboard.press(key)
    expect(laptop.locator("#place-at")).to_have_value("11.0 N 9.0 E")


def test_this_kit_elsewhere(laptop: Page) -> None:
    laptop.goto("/jobs/1/place")
    laptop.locator("#place-at").fill("44.5 N 7.6 E")
    laptop.get_by_role("button", name="See this kit there").click()
    expect(laptop.locator("#elsewhere")).to_contain_text("44.5° N, 7.6° E")
    expect(laptop.locator(".world-spot")).to_have_count(2)


def test_where_this_device_is(laptop: Page) -> None:
    laptop.context.grant_permissions(["geolocation"])
    laptop.context.set_geolocation({"latitude": -30.4123, "longitude": 24.6})
    number = bare_job(laptop)
    laptop.goto(f"/jobs/{number}/place")
    laptop.get_by_role("button", name="Where this device is").click()
    expect(laptop.locator("#place-at")).to_have_value("-30.4123, 24.6000")


def test_a_wrong_place_keeps_what_was_typed(phone: Page) -> None:
    number = bare_job(phone)
    phone.goto(f"/jobs/{number}/place")
    phone.locator("#place-at").fill("95, 10")
    phone.get_by_role("button", name="Put the job there").click()
    expect(phone.locator("#place-at-problem")).to_contain_text("beyond the pole")
    expect(phone.locator("#place-at")).to_have_value("95, 10")


@pytest.mark.parametrize("path", ["/jobs/1/place", "/jobs/1/place?see=44.5+N+7.6+E"])
def test_axe_finds_nothing_on_the_place(laptop: Page, phone: Page, path: str) -> None:
    for page in (laptop, phone):
        page.goto(path)
        page.wait_for_timeout(200)
        assert not faults(page)


def test_the_place_does_not_scroll_sideways_on_a_phone(phone: Page) -> None:
    phone.goto("/jobs/1/place")
    assert phone.evaluate("document.documentElement.scrollWidth <= window.innerWidth")
