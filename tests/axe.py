"""What axe finds on a page: all of it, or the half that a theme or a width can change."""

from typing import Literal

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page

# Colours cost half of the time: they hang on the theme and not on the width, all else on the width and not on the theme.
RULES = {
    "all": {"rules": {"label-content-name-mismatch": {"enabled": True}}},
    "but colours": {"rules": {"label-content-name-mismatch": {"enabled": True}, "color-contrast": {"enabled": False}}},
    "colours": {"runOnly": {"type": "rule", "values": ["color-contrast"]}},
}


def faults(page: Page, rules: Literal["all", "but colours", "colours"] = "all") -> list[tuple[str, list[str]]]:
    """Each rule that is broken, with the places."""
    found = Axe().run(page, options={**RULES[rules], "resultTypes": ["violations"]}).response["violations"]
    return [(one["id"], [node["html"][:160] for node in one["nodes"]]) for one in found]
