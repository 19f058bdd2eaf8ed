"""The parts of a kit as a file: to send to a shop, or to tick while the van is loaded."""

import csv
import io
from collections.abc import Sequence

from squall.formats.cells import safe_cell
from squall.job.fitted.parts_list import PartLine

COLUMNS = ("part", "count", "unit", "price", "in_van", "missing")


def parts_csv(lines: Sequence[PartLine]) -> str:
    """The list as CSV; lengths in metres, a price only where a list has one. [m]"""
    made = io.StringIO()
    rows = csv.writer(made)
    rows.writerow(COLUMNS)
    for line in lines:
        price = "" if line.price is None else f"{line.price:.2f}"
        rows.writerow(
            [safe_cell(str(line.name)), f"{line.count:g}" if not line.metres else f"{line.count:.2f}", "m" if line.metres else "",
             price, line.van, f"{line.missing:g}"]
        )  # fmt: skip
    return made.getvalue()
