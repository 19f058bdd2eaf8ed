"""Circuit and Fit in the browser: a switch by click and by keys, the long-section beside it, steps ticked by a thumb; axe."""

import io
import re

import pytest
import zxingcpp
from axe import faults
from PIL import Image
from playwright.sync_api import Page, expect

# No two words of the diagram stand on one another, none leaves the sheet, and no wire runs through a symbol.
CROWDED = """() => {
  const svg = [...document.querySelectorAll("svg.circuit")].find((s) => s.getBoundingClientRect().height > 0);
  const bad = [], texts = [...svg.querySelectorAll("text:not(.wire-digit):not(.motor-letter)")], view = svg.viewBox.baseVal;
  texts.forEach((one, n) => {
    const a = one.getBBox();
    if (a.x < 0 || a.y < 0 || a.x + a.width > view.width || a.y + a.height > view.height) bad.push(one.textContent + " out");
    for (const other of texts.slice(n + 1)) {
      const b = other.getBBox();
      if (Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x) > 1 && Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y) > 2) bad.push(one.textContent + " on " + other.textContent);
    }
  });
  return bad;
}"""


def test_a_switch_opens_by_click_and_closes_by_keys(laptop: Page) -> None:
    laptop.goto("/jobs/1/circuit")
    expect(laptop.locator(".circuit-state")).to_contain_text("The pump runs at")
    laptop.locator("svg.along a[data-part=device0]").click()
    expect(laptop.locator(".circuit-state")).to_contain_text("The pump stands still")
    expect(laptop.locator("svg.along a[data-part=panel1_1]")).not_to_have_class(re.compile("dead"))
    expect(laptop.locator("svg.along a[data-part=motor]")).to_have_class(re.compile("dead"))
    laptop.locator("svg.along a[data-part=device0]").focus()
    laptop.keyboard.press("Enter")
    expect(laptop.locator(".circuit-state")).to_contain_text("The pump runs at")


def test_the_light_moves_the_circuit_and_an_open_switch_stays_open(laptop: Page) -> None:
    laptop.goto("/jobs/1/circuit?open=device0")
    laptop.locator("#light").fill("300")
    laptop.locator("#light").press("Tab")
    expect(laptop.locator(".circuit-state")).to_contain_text("300")
    expect(laptop.locator(".circuit-state")).to_contain_text("The pump stands still")
    laptop.get_by_role("link", name="All closed again").click()
    before = laptop.locator(".circuit-state > b").first.inner_text()
    laptop.locator("#light").fill("300")
    laptop.locator("#light").press("Tab")
    expect(laptop.locator(".circuit-state > b").first).not_to_have_text(before)


def test_the_light_is_slid_by_keys_and_the_amps_typed_before_give_way(laptop: Page) -> None:
    laptop.goto("/jobs/1/circuit?short=2")
    state = laptop.locator(".circuit-state")
    slider = laptop.get_by_label("Or slide the light")
    before = state.inner_text()
    slider.focus()
    laptop.keyboard.press("Home")
    expect(state).not_to_have_text(before)
    expect(laptop.locator("#light")).to_have_value("20")
    expect(laptop.locator("#short")).to_have_value("")
    expect(state).to_contain_text("stands still")
    laptop.keyboard.press("End")
    expect(state).to_contain_text(re.compile("1\\D?200"))
    expect(state).to_contain_text("The pump runs at")
    assert laptop.evaluate("document.activeElement.id") == "light-slide", "the hand stays on it"


def test_the_long_section_leads_to_the_row_of_a_part(laptop: Page) -> None:
    laptop.goto("/jobs/1/circuit")
    laptop.locator("svg.beside a.part-pump").first.focus()
    laptop.keyboard.press("Enter")
    expect(laptop.locator("#row-motor")).to_be_visible()


@pytest.mark.parametrize("screen", ["laptop", "phone"])
def test_the_diagrams_words_stand_free(request: pytest.FixtureRequest, screen: str) -> None:
    page: Page = request.getfixturevalue(screen)
    for job in (1, 2, 3, 4):
        page.goto(f"/jobs/{job}/circuit")
        assert page.evaluate(CROWDED) == [], job
        assert page.evaluate("document.documentElement.scrollWidth <= innerWidth"), job


def test_steps_are_ticked_with_a_thumb_and_taken_up_again(phone: Page) -> None:
    phone.goto("/jobs/4/fit")
    box = phone.locator("#step-lay-out .tick-button")
    assert (box.bounding_box() or {"height": 0})["height"] >= 44
    phone.locator("#step-lay-out input[name=note]").fill("rope 21.5 m")
    box.click()
    expect(phone.locator("#done-so-far")).to_contain_text("1 of 13 done")
    expect(phone.locator("#step-lay-out .when")).to_contain_text("rope 21.5 m")
    expect(phone.locator("#step-end details")).to_have_attribute("open", "")
    phone.reload()
    expect(phone.locator("#step-lay-out .tick-button")).to_have_attribute("aria-pressed", "true")
    phone.locator("#step-lay-out .tick-button").click()
    expect(phone.locator("#done-so-far")).to_contain_text("0 of 13 done")


@pytest.mark.parametrize("screen", ["laptop", "phone"])
def test_axe_finds_nothing_on_circuit_and_fit(request: pytest.FixtureRequest, screen: str) -> None:
    page: Page = request.getfixturevalue(screen)
    for address in ("/jobs/1/circuit?open=device0", "/jobs/2/circuit", "/jobs/4/fit", "/jobs/1/sheet/build"):
        page.goto(address)
        page.evaluate("document.querySelectorAll('#work details').forEach((d) => d.open = true)")
        found = faults(page)
        assert not found, address


def test_a_printed_tag_is_read_by_a_camera(laptop: Page) -> None:
    """zxing-cpp (test only) reads each size off the page as it is drawn."""
    laptop.goto("/jobs/4/sheet/labels")
    wanted = laptop.locator(".tag-says").inner_text()
    for n in range(3):
        seen = Image.open(io.BytesIO(laptop.locator(".tag").nth(n).screenshot())).convert("L")
        seen = seen.resize((seen.width * 3, seen.height * 3), Image.Resampling.NEAREST)
        (read,) = zxingcpp.read_barcodes(seen)
        assert read.text == wanted
