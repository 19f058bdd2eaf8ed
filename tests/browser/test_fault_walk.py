"""Fault in the browser: three taps, answers by a thumb, a reading that can't be read, what was mended; axe."""

import pytest
from axe import faults
from playwright.sync_api import Locator, Page, expect


def form_of(page: Page, check: str) -> Locator:
    """The form of a check, whether it is the one advised or lies among the others, which are then unfolded as by hand."""
    form = page.locator(f"form.seen-form:has(input[name=check][value={check}])")
    for fold in ("#other-checks", f"#check-{check}"):
        shut = page.locator(f"{fold}:not([open]) > summary")
        if not form.is_visible() and shut.count():
            shut.click()
    return form


@pytest.mark.parametrize("screen", ["laptop", "phone"])
def test_a_pump_that_stands_still_is_looked_into_and_mended(request: pytest.FixtureRequest, screen: str) -> None:
    page: Page = request.getfixturevalue(screen)
    page.goto("/jobs/1/fault")
    page.get_by_label("Ran, then stopped").check()
    page.get_by_label("Full sun, sharp shadows").check()
    page.get_by_role("button", name="Look for it").click()
    # The first answer after an installation waits for the compiler.
    expect(page.locator("#next-check h2")).to_contain_text("Next:", timeout=60_000)
    form_of(page, "turns").get_by_role("button", name="It stands still").click()
    expect(page.locator("#seen")).to_contain_text("it stands still")
    form_of(page, "box-volts-on")
    field = page.locator("#seen-box-volts-on")
    field.fill("some")
    field.press("Enter")
    expect(page.locator("#seen-box-volts-on-p")).to_contain_text("some")
    expect(field).to_have_value("some")
    field.fill("0.01")
    field.press("Enter")
    expect(page.locator("#seen")).to_contain_text("0.01")
    found = faults(page)
    assert not found
    page.locator("#found").select_option("fuse-blown")
    page.get_by_role("button", name="It runs: keep it so").click()
    expect(page.locator("#found-before")).to_be_visible()
    page.evaluate("document.querySelectorAll('#work details').forEach((d) => d.open = true)")
    expect(page.locator("#found-before")).to_contain_text("The fuse has blown")
    assert page.evaluate("document.documentElement.scrollWidth") <= page.viewport_size["width"]
    found = faults(page)
    assert not found
