"""The parts of a kit and its terminal map as files: to send to a shop, to tick while the van is loaded, for the bench."""

from collections.abc import Sequence

from squall.formats.cells import csv_of, safe_cell
from squall.job.fitted.parts_list import PartLine
from squall.job.wired.terminals import Wire

PART_COLUMNS = ("part", "count", "unit", "price", "in_van", "missing")
WIRE_COLUMNS = ("wire", "from", "to", "size", "length_m", "colour", "end_from", "end_to")


def parts_csv(lines: Sequence[PartLine]) -> str:
    """The parts as CSV; lengths in metres, a price only where a list has one. [m]"""
    rows = [
        [safe_cell(str(line.name)), f"{line.count:g}" if not line.metres else f"{line.count:.2f}", "m" if line.metres else "",
         "" if line.price is None else f"{line.price:.2f}", line.van, f"{line.missing:g}"]
        for line in lines
    ]  # fmt: skip
    return csv_of([list(PART_COLUMNS), *rows])


def terminals_csv(wires: Sequence[Wire]) -> str:
    """The map as CSV, one wire a row; lengths in metres, one way. [m]"""
    rows = [
        [wire.number, safe_cell(str(wire.first.says)), safe_cell(str(wire.second.says)), wire.conductor.label, f"{wire.length_m:.2f}",
         str(wire.colour), str(wire.first.made), str(wire.second.made)]
        for wire in wires
    ]  # fmt: skip
    return csv_of([list(WIRE_COLUMNS), *rows])
