"""A box of invented parts becomes a judged kit with a test sheet, on a laptop and on a phone, and no shipped part comes in."""

import pytest
from own_kits import KITS, shipped_in, walk
from playwright.sync_api import Page


@pytest.mark.parametrize(("number", "screen"), [(1, "laptop"), (2, "phone")])
def test_from_the_label_to_the_test_sheet(request: pytest.FixtureRequest, number: int, screen: str) -> None:
    page: Page = request.getfixturevalue(screen)
    kit = KITS[number]
    hand = walk(page, kit)
    job = page.url.split("/jobs/")[1].split("/")[0]
    assert shipped_in(page.request.get(f"/jobs/{job}/export.json").text()) == []
    sheet = page.locator("body").inner_text()
    for _, label in kit.parts:
        if label["name"] in (kit.kit["pump"], kit.kit["panel"], *kit.slots.values()):
            assert label["name"] in sheet
    assert hand.presses <= 34
    assert hand.fields <= 36
    page.goto(f"/jobs/{job}/wire")
    taken = page.locator("#verdict").inner_text()
    assert "Box to pump, one way" in taken, "the cable's length was never typed"
