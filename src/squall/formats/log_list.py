"""A kit's log as CSV: out for whoever keeps a table, and in from one."""

import csv
import io
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from squall.core.errors import BadFile, BadQuantity
from squall.core.prove.expect import POINTS
from squall.formats.cells import as_meant, safe_cell
from squall.formats.parts.lists import text_of
from squall.job.document.job import Visit
from squall.words import later, say
from squall.words.message import Message, System
from squall.words.units import KINDS, scale

MOST_BYTES, MOST_ROWS = 1_000_000, 400
# Columns that aren't test points: their names, and what they measure.
TIME, KIT, DONE, NOTE = "at", "kit", "done", "note"
_NAMES: Mapping[str, Message] = {
    TIME: later("Time (UTC)"), KIT: later("Kit"), "light": later("Light"), "air": later("Air"), "meter": later("Hour meter"),
    DONE: later("Done"), NOTE: later("Note"),
}  # fmt: skip
_KINDS = {
    "light": "irradiance", "air": "temperature", "meter": "hours", "open-volts": "volts", "short-amps": "amps", "rest-volts": "volts",
    "pump-volts": "volts", "pump-amps": "amps", "outlet-flow": "flow",
}  # fmt: skip
_ORDER = (TIME, KIT, "light", "air", "meter", *POINTS, DONE, NOTE)


@dataclass(frozen=True)
class LogRow:
    """One row of a list: its line in the file, its moment, and what stands in its cells, with their units."""

    line: int
    at: str
    cells: Mapping[str, str]


def _unit(key: str, system: System) -> str:
    kind = KINDS[_KINDS[key]]
    return kind.us if system == "us" else kind.metric


def _heading(key: str, system: System) -> str:
    name = str(_NAMES.get(key) or POINTS[key])  # type: ignore[index]
    name = name[:1].upper() + name[1:]
    return f"{name} [{_unit(key, system)}]" if key in _KINDS else name


def _number(value: float, key: str, system: System) -> str:
    factor, offset = scale(_KINDS[key], _unit(key, system))
    return f"{value * factor + offset:.6g}"


def write(visits: Sequence[Visit], system: System, done_words: Mapping[str, object]) -> str:
    """The log, oldest first, a visit a row; units in the headings.

    Parameters
    ----------
    visits : sequence of Visit
        In any order.
    system : str
        ``metric`` or ``us``.
    done_words : mapping
        Words for what can be done, by their codes.
    """
    made = io.StringIO()
    rows = csv.writer(made, lineterminator="\n")
    rows.writerow([_heading(key, system) for key in _ORDER])
    for visit in sorted(visits, key=lambda one: one.at):
        held: dict[str, str] = {value.point: _number(value.measured.si, value.point, system) for value in visit.values}
        told = visit.told_by != "light-not-known"
        cells = {
            TIME: visit.at.replace("T", " ").removesuffix("Z"), KIT: safe_cell(visit.option),
            "light": _number(visit.irradiance_w_m2, "light", system) if told else "", "air": _number(visit.air_c, "air", system),
            "meter": "" if visit.meter is None else _number(visit.meter.si, "meter", system),
            DONE: "; ".join(str(done_words.get(code, code)) for code in visit.done), NOTE: safe_cell(visit.note), **held,
        }  # fmt: skip
        rows.writerow([cells.get(key, "") for key in _ORDER])
    return made.getvalue()


def read(data: bytes) -> list[LogRow]:
    """Rows of a list, with the units of their headings put to their numbers.

    Parameters
    ----------
    data : bytes
        CSV parted by commas, semicolons or tabs; headings as :func:`write` has them, or the codes of the test points.

    Raises
    ------
    BadFile
        If it is no such list: no text, no column of times, a heading that means nothing, no rows, too many.
    BadQuantity
        For a time that can't be read, with its line.
    """
    if len(data) > MOST_BYTES:
        raise BadFile(later("The log is larger than {most:.0f} MB; nothing was read.", most=MOST_BYTES / 1e6))
    text = text_of(data)
    first = text.splitlines()[0] if text.strip() else ""
    mark = max(",;\t", key=first.count)
    try:
        lines = [[as_meant(c.strip()) for c in row] for row in csv.reader(io.StringIO(text), delimiter=mark)]
    except csv.Error as error:
        raise BadFile(
            later(
                "This is no list that can be read: a quotation mark is never closed, or a cell has no end. Nothing was read."
            )
        ) from error
    rows = [(n, row) for n, row in enumerate(lines, start=1) if any(row)]
    if len(rows) < 2:
        raise BadFile(later("The log has no rows under its headings."))
    if len(rows) - 1 > MOST_ROWS:
        raise BadFile(later("{n} rows; at most {most} are read at once.", n=len(rows) - 1, most=MOST_ROWS))
    columns = [_column(head) for head in rows[0][1]]
    if TIME not in [key for key, _ in columns]:
        raise BadFile(
            later(
                "No column says when: its heading should read {time}. Nothing was read.", time=_heading(TIME, "metric")
            )
        )
    return [_row(line, cells, columns) for line, cells in rows[1:]]


def _column(head: str) -> tuple[str, str]:
    """Key and unit of a heading."""
    name, _, rest = head.partition("[")
    wanted, unit = name.strip().lower(), rest.rstrip("] ").strip()
    for key in _ORDER:
        known = {key, str(_NAMES.get(key) or POINTS[key]).lower()}  # type: ignore[index]
        if wanted in known or (key == TIME and wanted in ("time", "day", "date", say("time"))):
            return key, unit
    raise BadFile(
        later(
            "The heading {head:quoted} means nothing here; there are: {known}. Nothing was read.",
            head=head[:40], known=", ".join(_heading(key, "metric") for key in _ORDER),
        )
    )  # fmt: skip


def _row(line: int, cells: Sequence[str], columns: Sequence[tuple[str, str]]) -> LogRow:
    held: dict[str, str] = {}
    for (key, unit), cell in zip(columns, cells, strict=False):
        bare = cell.replace(" ", "").replace(",", ".")
        number = bare.lstrip("+-").replace(".", "", 1).isdecimal()
        held[key] = f"{bare} {unit}" if number and unit else cell
    return LogRow(line, _moment(held.get(TIME, ""), line), held)


def _moment(text: str, line: int) -> str:
    try:
        at = datetime.fromisoformat(text.strip().replace(" ", "T").removesuffix("Z"))
    except ValueError:
        raise BadQuantity(
            later("Line {line}: {text:quoted} is no time; write it as 2026-11-25 14:30.", line=line, text=text[:30])
        ) from None
    if len(text.strip()) <= 10:
        at = at.replace(hour=12)
    return at.strftime("%Y-%m-%dT%H:%MZ")
