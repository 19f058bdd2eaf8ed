"""Cells of a CSV file that a spreadsheet would take for a formula, made plain text; and back."""

import csv
import io
import re
from collections.abc import Iterable, Sequence

_FORMULA = re.compile(r"^[=+\-@\t\r]")
_NUMBER = re.compile(r"^[+-]?[.,]?\d[\d.,\u00a0\u202f ]*$")


def safe_cell(text: str) -> str:
    """A cell's text; with a mark before it that spreadsheets take for "this is text" where they would run it."""
    return "'" + text if _FORMULA.match(text) and not _NUMBER.match(text) else text


def as_meant(cell: str) -> str:
    """A cell as it was before :func:`safe_cell`."""
    return cell[1:] if cell[:1] == "'" and _FORMULA.match(cell[1:]) else cell


def csv_of(rows: Iterable[Sequence[object]]) -> str:
    """Rows as a CSV file that a spreadsheet opens in the right letters, every cell safe; None is an empty one."""
    made = io.StringIO()
    csv.writer(made).writerows([[safe_cell("" if cell is None else str(cell)) for cell in row] for row in rows])
    return "\ufeff" + made.getvalue()
