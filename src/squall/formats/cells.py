"""Cells of a CSV file that a spreadsheet would take for a formula, made plain text; and back."""

import re

_FORMULA = re.compile(r"^[=+\-@\t\r]")
_NUMBER = re.compile(r"^[+-]?[.,]?\d[\d.,\u00a0\u202f ]*$")


def safe_cell(text: str) -> str:
    """A cell's text; with a mark before it that spreadsheets take for "this is text" where they would run it."""
    return "'" + text if _FORMULA.match(text) and not _NUMBER.match(text) else text


def as_meant(cell: str) -> str:
    """A cell as it was before :func:`safe_cell`."""
    return cell[1:] if cell[:1] == "'" and _FORMULA.match(cell[1:]) else cell
