"""A neighbour looks on by a link: in by what stands behind the #, told that nothing can be changed, out when the link ends."""

from pathlib import Path

from conftest import served
from playwright.sync_api import Browser, expect

from squall.web.passphrases import keep_passphrase
from squall.web.settings import Settings


def test_a_link_is_made_given_and_ended(browser: Browser, tmp_path: Path) -> None:
    settings = Settings(tmp_path, need_passphrase=True)
    keep_passphrase(settings.passphrase_file, "under the third cairn")
    with served(settings) as address:
        owner = browser.new_context(base_url=address).new_page()
        owner.goto("/")
        owner.locator("#passphrase").fill("a wrong one, quite")
        owner.get_by_role("button", name="Enter").click()
        expect(owner.locator(".problem")).to_contain_text("not the passphrase")
        owner.locator("#passphrase").fill("under the third cairn")
        owner.get_by_role("button", name="Enter").click()
        expect(owner.locator(".job-row")).to_have_count(5)
        owner.goto("/people")
        owner.get_by_label("For whom").fill("the neighbour")
        owner.get_by_role("button", name="Make a link").click()
        link = owner.locator(".code .fingerprint").inner_text()
        guest = browser.new_context(viewport={"width": 390, "height": 844}).new_page()
        guest.goto(link)
        expect(guest.locator(".job-row")).to_have_count(5)
        assert "#" not in guest.url, "the code left the address"
        guest.goto(f"{address}/jobs/1/survey")
        expect(guest.locator("[data-looks-on]")).to_be_visible()
        guest.locator("#f-lift").fill("9 m")
        guest.locator("#f-lift").press("Tab")
        expect(guest.locator(".not-done")).to_contain_text("change nothing")
        expect(guest.locator("#unsent")).to_be_hidden()
        owner.get_by_role("button", name="End the link").click()
        guest.reload()
        expect(guest.locator("#passphrase")).to_be_visible()
