"""The file for a phone, opened from its storage with no server and no line: light, judgement, bucket, readings that stay and come back."""

import re

from playwright.sync_api import Browser, Page, expect


def test_readings_are_typed_in_the_field_and_come_back(laptop: Page, browser: Browser, tmp_path) -> None:
    laptop.goto("/jobs/1/prove")
    with laptop.expect_download() as download:
        laptop.get_by_role("link", name="File for the phone").click()
    file = tmp_path / "goats.html"
    download.value.save_as(file)

    phone = browser.new_context(viewport={"width": 390, "height": 844}, offline=True)
    page = phone.new_page()
    wrong: list[str] = []
    page.on("pageerror", lambda error: wrong.append(str(error)))
    page.on("request", lambda request: request.url.startswith("file:") or wrong.append(request.url))
    page.goto(file.as_uri())
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    expect(page.locator("#light")).to_contain_text("short-circuit amps first")
    page.locator("#i-short-amps").fill("4,82 A")
    expect(page.locator("#light")).to_have_text(re.compile(r"^(79\d|80\d) W/m²$"))
    page.locator("#i-open-volts").fill("20.6")
    expect(page.locator("#p-open-volts .judge")).to_have_text("good")
    page.locator("#i-pump-volts").fill("9")
    expect(page.locator("#p-pump-volts .judge")).to_have_text("low")
    page.reload()
    expect(page.locator("#i-pump-volts")).to_have_value("9")
    page.locator("#watch").click()
    page.wait_for_timeout(900)
    page.locator("#watch").click()
    expect(page.locator("#i-outlet-flow")).to_have_value(re.compile(r"^\d+\.\d\d L/min$"))
    page.get_by_role("button", name="Keep these readings").click()
    expect(page.locator("#i-open-volts")).to_have_value("")
    expect(page.locator("#kept")).to_contain_text("1")
    with page.expect_download() as saved:
        page.get_by_role("button", name="Save them as a file").click()
    back = tmp_path / "back.json"
    saved.value.save_as(back)
    assert not wrong
    phone.close()

    visits = laptop.locator(".visit").count()
    laptop.locator("#carried > summary").click()
    laptop.locator("#carried-file").set_input_files(back)
    laptop.get_by_role("button", name="Take them in").click()
    expect(laptop.locator(".banner")).to_contain_text("1 set of readings kept")
    expect(laptop.locator(".visit")).to_have_count(visits + 1)
