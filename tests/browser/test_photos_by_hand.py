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


def test_a_step_of_fit_is_photographed_with_one_tap(phone: Page) -> None:
    """The picture is kept as soon as it is taken, beside the step it is of; a file that is no picture is told in a sentence."""
    picture = io.BytesIO()
    Image.new("RGB", (640, 480), "brown").save(picture, "JPEG")
    phone.goto("/jobs/3/fit")
    step = phone.locator("#step-bucket")
    step.locator("input[type=file]").set_input_files(
        {"name": "b.jpg", "mimeType": "image/jpeg", "buffer": picture.getvalue()}
    )
    expect(step.locator(".step-photos img")).to_have_count(1)
    expect(phone.locator("#step-list .step-photos img")).to_have_count(1)
    step.locator("input[type=file]").set_input_files(
        {"name": "b.jpg", "mimeType": "image/jpeg", "buffer": b"no picture"}
    )
    expect(phone.locator(".banner")).to_contain_text("no photo that can be read")
    expect(step.locator(".step-photos img")).to_have_count(1)
    phone.locator("#side-more > summary").click()
    phone.locator("#photos > summary").click()
    expect(phone.locator(".photo-list")).to_contain_text("a step of Fit")
