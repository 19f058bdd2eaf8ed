"""The terminal map as a file: one wire a row, for the bench or a spreadsheet."""

import csv
import io
from collections.abc import Sequence

from squall.formats.cells import safe_cell
from squall.job.wired.terminals import Wire

COLUMNS = ("wire", "from", "to", "size", "length_m", "colour", "end_from", "end_to")


def terminals_csv(wires: Sequence[Wire]) -> str:
    """The map as CSV; lengths in metres, one way. [m]"""
    made = io.StringIO()
    rows = csv.writer(made)
    rows.writerow(COLUMNS)
    for wire in wires:
        rows.writerow(
            [wire.number, safe_cell(str(wire.first.says)), safe_cell(str(wire.second.says)), wire.conductor.label, f"{wire.length_m:.2f}",
             str(wire.colour), str(wire.first.made), str(wire.second.made)]
        )  # fmt: skip
    return made.getvalue()
