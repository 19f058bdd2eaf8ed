"""A photo taken on the phone: kept, shown, its form empty for the next; the data folder tells of it."""

import io

from PIL import Image
from playwright.sync_api import Page, expect


def test_a_photo_is_kept_once_and_its_form_is_empty_again(phone: Page) -> None:
    picture = io.BytesIO()
    Image.new("RGB", (800, 600), "green").save(picture, "JPEG")
    phone.goto("/jobs/1/survey")
    phone.locator("#side-more > summary").click()
    phone.locator("#photos > summary").click()
    phone.locator("#photo-form input[type=file]").set_input_files(
        {"name": "gate.jpg", "mimeType": "image/jpeg", "buffer": picture.getvalue()}
    )
    phone.locator("#photo-form input[name=note]").fill("by the gate")
    phone.get_by_role("button", name="Keep it").click()
    expect(phone.locator(".photo-list img")).to_have_count(1)
    expect(phone.locator(".photo-list")).to_contain_text("by the gate")
    expect(phone.locator("#photo-form input[name=note]")).to_have_value("")
    assert phone.locator("#photo-form input[type=file]").evaluate("e => e.files.length") == 0
    phone.get_by_role("button", name="Keep it").click()
    expect(phone.locator("#photo-form .problem")).to_contain_text("nothing to keep yet")
    expect(phone.locator(".photo-list img")).to_have_count(1)
    phone.goto("/data")
    expect(phone.locator("main")).to_contain_text("2 pictures")
