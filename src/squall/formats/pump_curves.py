"""Pump curves as CSV, in and out: flow, head and, where known, amps, with their units in the heading.

What else is known of the pump stands above them, a line each: ``# volts: 12 V``. So a pump that goes out comes in as itself.
"""

import csv
import io
from dataclasses import dataclass

from squall.core.errors import BadFile, SquallError
from squall.core.kit.parts import Pump
from squall.words import later
from squall.words.units import parse

MOST_BYTES = 200_000
MOST_POINTS = 20
_COLUMNS = {"flow": "flow", "head": "head", "height": "head", "amps": "amps", "current": "amps"}
_PLAIN_UNITS = {"l/min": "L/min", "m": "m", "a": "A"}


@dataclass(frozen=True)
class CurveRow:
    """One point, in SI; amps where the file has them. [m3/s], [m], [A]"""

    flow_m3_s: float
    head_m: float
    amps: float | None


@dataclass(frozen=True)
class CurveFile:
    """A file's points, and what it tells of the pump: text by the name of a field of a pump of one's own."""

    rows: list[CurveRow]
    told: dict[str, str]


# What may stand above the points, and the field it goes into.
_TOLD = {
    "name": "name",
    "end": "end",
    "placement": "placement",
    "brushes": "brushed",
    "volts": "volts",
    "most volts": "most_volts",
    "watts": "watts",
    "largest fuse": "fuse",
    "life": "life",
    "hose tail": "barb",
}


def write(pump: Pump, fitted: str = "") -> str:
    """A pump's points at rated volts as CSV, with what else is known of it above them.

    `fitted` says what the points are, where they are not the maker's own.
    """
    out = io.StringIO()
    motor = pump.motor
    told = {
        "name": pump.title,
        "end": pump.end,
        "placement": pump.placement,
        "brushes": "yes" if pump.brushed else "no",
        "volts": f"{motor.rated_v:g} V",
        "most volts": "" if motor.max_v is None else f"{motor.max_v:g} V",
        "watts": f"{pump.stated_w:.4g} W",
        "largest fuse": "" if pump.max_fuse_a is None else f"{pump.max_fuse_a:g} A",
        "life": f"{pump.life_h:g} h",
        "hose tail": f"{pump.barb_m * 1000.0:g} mm",
        "points": fitted,
    }
    for name, text in told.items():
        if text:
            out.write(f"# {name}: {text}\n")
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(["flow [L/min]", "head [m]", "amps [A]"])
    for flow, head, amps in pump.motor.points:
        rows.writerow([f"{flow * 60_000:.6g}", f"{head:.6g}", f"{amps:.6g}"])
    return out.getvalue()


def read(data: bytes) -> CurveFile:
    """Points of a CSV file.

    Parameters
    ----------
    data : bytes
        Columns named ``flow`` and ``head`` (or ``height``), and ``amps`` if known, each with its
        unit in square brackets; commas or semicolons between; lines of comment start with ``#``, and those of
        :data:`_TOLD` are read.

    Returns
    -------
    CurveFile
        Two to twenty points, and what stands above them.

    Raises
    ------
    BadFile
        With the line and what was wrong with it. Nothing is kept of the file.
    """
    if len(data) > MOST_BYTES:
        raise BadFile(later("The file is too large to be a pump curve. Nothing was imported."))
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise BadFile(later("This is not a text file; a pump curve is CSV text. Nothing was imported.")) from None
    lines = [
        (n, line) for n, line in enumerate(text.splitlines(), start=1) if line.strip() and not line.startswith("#")
    ]
    if len(lines) < 3:
        raise BadFile(later("The file has no heading with two points under it. Nothing was imported."))
    if len(lines) - 1 > MOST_POINTS:
        raise BadFile(
            later(
                "The file has {found} points; {MOST_POINTS} are the most. Nothing was imported.",
                found=len(lines) - 1,
                MOST_POINTS=MOST_POINTS,
            )
        )
    mark = ";" if ";" in lines[0][1] else ","
    columns = _heading(next(csv.reader([lines[0][1]], delimiter=mark)))
    found = [_row(next(csv.reader([line], delimiter=mark)), columns, number) for number, line in lines[1:]]
    return CurveFile(found, _told_in(text))


def _told_in(text: str) -> dict[str, str]:
    told = {}
    for line in text.splitlines():
        name, mark, value = line.lstrip("# ").partition(":")
        field = _TOLD.get(name.strip().lower())
        if line.startswith("#") and mark and field is not None and value.strip():
            told[field] = value.strip()
    return told


def _heading(cells: list[str]) -> dict[str, tuple[int, str]]:
    columns: dict[str, tuple[int, str]] = {}
    for place, cell in enumerate(cells):
        name, _, unit = cell.partition("[")
        key = _COLUMNS.get(name.strip().lower())
        if key is not None:
            columns[key] = (place, unit.rstrip("] ").strip())
    missing = [name for name in ("flow", "head") if name not in columns]
    if missing:
        raise BadFile(
            later(
                "The heading lacks {missing}; it should read: flow [L/min], head [m], amps [A]. Nothing was imported.",
                missing=" and ".join(missing),
            )
        )
    return columns


def _row(cells: list[str], columns: dict[str, tuple[int, str]], number: int) -> CurveRow:
    def value(name: str) -> float | None:
        if name not in columns:
            return None
        place, unit = columns[name]
        text = cells[place].strip() if place < len(cells) else ""
        if not text and name == "amps":
            return None
        try:
            return parse(f"{text} {_PLAIN_UNITS.get(unit.lower(), unit)}".strip(), name)
        except SquallError as error:
            raise BadFile(
                later("Line {number}, {name}: {error} Nothing was imported.", number=number, name=name, error=error)
            ) from None

    flow, head = value("flow"), value("head")
    assert flow is not None
    assert head is not None
    return CurveRow(flow, head, value("amps"))
