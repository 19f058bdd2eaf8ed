"""What a hand does on the pages: opens what is folded, types, and goes on to the next field."""

from playwright.sync_api import Page

CLOSED = "e => { const shut = []; for (let f = e.closest('details:not([open])'); f; f = f.parentElement.closest('details:not([open])')) shut.unshift(f.id); return shut; }"


def unfold(page: Page, field: str) -> None:
    """Open whatever a field is folded away in, from the outside in, as a person would."""
    for name in page.locator(field).first.evaluate(CLOSED):
        page.locator(f"#{name} > summary").click()


def retype(page: Page, field: str, text: str) -> None:
    """Type a field anew and leave it."""
    unfold(page, field)
    box = page.locator(field)
    box.fill(text)
    box.press("Tab")
