"""A logger's file as CSV: its columns looked at, said once what they are, and read, up to a million rows in some seconds."""

import csv
import io
import re
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from squall.core.errors import BadFile, BadQuantity
from squall.core.upkeep.logged import COLUMNS, Column, Logged
from squall.formats.parts.lists import text_of
from squall.job.kept.logger import KIND, Mapped, Taken
from squall.words import later
from squall.words.units import scale

MOST_BYTES, MOST_ROWS = 64_000_000, 1_500_000
# Rows that are shown before anybody says what the columns are; columns that are looked at.
SHOWN_ROWS, MOST_COLUMNS = 4, 40
# A file of which more can't be read is another file. [-]
_UNREAD = 0.2
UNITS: Mapping[Column, tuple[str, ...]] = {
    "volts": ("V", "mV"), "amps": ("A", "mA"), "flow": ("L/min", "L/h", "m3/h", "gpm"), "level": ("m", "cm", "mm", "ft"),
}  # fmt: skip
_UNIT_NAMES = {"L/h": "liter/hour", "L/min": "liter/minute", "m3/h": "meter**3/hour", "gpm": "gallon/minute"}
_NAMED: Mapping[str, str] = {
    "time": r"time|date|stamp|zeit|clock|\bat\b", "volts": r"volt|\bu\b|\bv\b|vdc", "amps": r"amp|current|\bi\b|\ba\b|adc",
    "flow": r"flow|l/min|lpm|gpm|l/h|litre|liter", "level": r"level|depth|height",
}  # fmt: skip
_FORMATS = (
    "%Y-%m-%d %H:%M:%S",
    "%Y-%m-%dT%H:%M:%S",
    "%Y-%m-%d %H:%M",
    "%Y-%m-%dT%H:%M",
    "%d.%m.%Y %H:%M:%S",
    "%d.%m.%Y %H:%M",
)


@dataclass(frozen=True)
class Heads:
    """A file's columns as they stand: their names, its first rows, what parts them, whether a comma is a point."""

    names: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    parted_by: str
    comma: bool


def look(data: bytes) -> Heads:
    """A file's columns.

    Raises
    ------
    BadFile
        If it is no table, or has too few or too many columns.
    """
    text = text_of(data[:20_000])
    lines = [line for line in text.splitlines()[: SHOWN_ROWS + 1] if line.strip()]
    if len(lines) < 2:
        raise BadFile(
            later("This file has no rows: a logger's file has a line of names and then a row for each moment.")
        )
    parted_by = max(";\t,", key=lines[0].count)
    rows = list(csv.reader(lines, delimiter=parted_by))
    names = tuple(cell.strip()[:60] for cell in rows[0])
    if not 2 <= len(names) <= MOST_COLUMNS:
        raise BadFile(later("A logger's file has a column of times and one or more of readings, parted by commas, semicolons or tabs."))  # fmt: skip
    comma = parted_by != "," and any(re.fullmatch(r"-?\d+,\d+", cell.strip()) for row in rows[1:] for cell in row)
    shown = tuple(tuple(cell.strip()[:40] for cell in row[: len(names)]) for row in rows[1:])
    return Heads(names, shown, parted_by, comma)


def guess(heads: Heads) -> Mapped | None:
    """What the columns are by their names; None where the time's isn't told or nothing else is."""
    found: dict[str, int] = {}
    for key, pattern in _NAMED.items():
        for number, name in enumerate(heads.names):
            if number not in found.values() and re.search(pattern, name.casefold()):
                found[key] = number
                break
    time = found.pop("time", None)
    if time is None or not found:
        return None
    return Mapped(time, {key: (found[key], _unit_in(heads.names[found[key]], key)) for key in COLUMNS if key in found})


def _unit_in(name: str, key: Column) -> str:
    words = re.split(r"[^a-z0-9/]+", name.casefold())
    return next((unit for unit in UNITS[key] if unit.casefold() in words), UNITS[key][0])


def check(mapped: Mapped, heads: Heads) -> None:
    """Refuse columns that aren't there, that are said twice, or units that are none.

    Raises
    ------
    BadQuantity
        With what is wrong.
    """
    used = [mapped.time, *(number for number, _ in mapped.columns.values())]
    if any(not 0 <= number < len(heads.names) for number in used):
        raise BadQuantity(later("That column isn't in the file."))
    if len(set(used)) != len(used):
        raise BadQuantity(later("Two of them are the same column: each is one thing."))
    if not mapped.columns:
        raise BadQuantity(later("Say of at least one column what it is: volts, amps, flow or level."))
    if any(unit not in UNITS[key] for key, (_, unit) in mapped.columns.items()):
        raise BadQuantity(later("That is no unit for it."))


def read(data: bytes, mapped: Mapped, clock_h: float = 0.0) -> Taken:
    """A file's rows.

    Parameters
    ----------
    data : bytes
        The file.
    mapped : Mapped
        What its columns are.
    clock_h : float
        How far the kit's clock is ahead of universal time, for times that say their zone. [h]

    Returns
    -------
    Taken
        In the order of time, each moment once; what can't be read is not a number, and counted.

    Raises
    ------
    BadFile
        If it is too long, or more than a fifth of it can't be read.
    BadQuantity
        As :func:`check`.
    """
    import pandas

    heads = look(data)
    check(mapped, heads)
    keys = list(mapped.columns)
    wanted = [mapped.time, *(mapped.columns[key][0] for key in keys)]
    try:
        table = pandas.read_csv(
            io.BytesIO(data), sep=heads.parted_by, header=0, names=range(len(heads.names)), usecols=wanted, index_col=False,
            decimal="," if heads.comma else ".", encoding="utf-8-sig", encoding_errors="replace", on_bad_lines="skip", low_memory=False,
            nrows=MOST_ROWS + 1,
        )  # fmt: skip
    except (ValueError, pandas.errors.ParserError) as error:
        raise BadFile(later("This file can't be read as a table; nothing was kept.")) from error
    if len(table) > MOST_ROWS:
        raise BadFile(
            later("A file of more than {most:.1f} million rows is too long: part it by months.", most=MOST_ROWS / 1e6)
        )
    at = _seconds(table[mapped.time], clock_h)
    values = {key: _si(table[mapped.columns[key][0]], key, mapped.columns[key][1]) for key in keys}
    good = at >= 0
    some = np.zeros(len(at), dtype=bool)
    for one in values.values():
        some |= np.isfinite(one)
    kept = good & some
    unread = int((~kept).sum())
    if not kept.any() or unread > _UNREAD * len(at):
        raise BadFile(
            later("{unread} of {rows} rows can't be read with these columns: is each what you said? Nothing was kept.", unread=unread, rows=len(at))
        )  # fmt: skip
    at, values = at[kept], {key: one[kept] for key, one in values.items()}
    order = np.argsort(at, kind="stable")
    first = np.append(True, np.diff(at[order]) > 0)
    disordered = int((np.diff(at) <= 0).sum())
    return Taken(Logged(at[order][first], {key: one[order][first] for key, one in values.items()}), unread, disordered)


def _seconds(cells: "pandas.Series", clock_h: float) -> NDArray[np.int64]:  # type: ignore[name-defined]  # noqa: F821
    """Times as seconds since 1970 by the kit's clock; -1 where they can't be read. One without a zone is taken as it stands, a count of seconds as universal time."""
    import pandas

    if pandas.api.types.is_numeric_dtype(cells):
        plain = cells.to_numpy(dtype=float, na_value=np.nan)
        with np.errstate(invalid="ignore"):
            plain = np.where(plain > 1e11, plain / 1000.0, plain)
            return np.where((plain > 1e8) & (plain < 1e10), np.nan_to_num(plain) + clock_h * 3600.0, -1.0).astype(
                np.int64
            )
    text = cells.astype(str)
    if re.search(r"\d(?:Z|[+-]\d\d:?\d\d)$", str(text.iloc[0])):
        made = pandas.to_datetime(text, format="ISO8601", utc=True, errors="coerce")
        stamps = made.dt.tz_localize(None).to_numpy().astype("datetime64[s]").astype(np.int64) + round(clock_h * 3600.0)
        return np.where(made.isna().to_numpy(), -1, stamps)
    if "." in str(text.iloc[0])[-7:]:
        text = text.str.replace(r"\.\d+$", "", regex=True)
    for form in _FORMATS:
        made = pandas.to_datetime(text, format=form, errors="coerce")
        if made.notna().mean() > 1.0 - _UNREAD:
            stamps = made.to_numpy().astype("datetime64[s]").astype(np.int64)
            return np.where(made.isna().to_numpy(), -1, stamps)
    return np.full(len(cells), -1, dtype=np.int64)


def _si(cells: "pandas.Series", key: Column, unit: str) -> NDArray[np.float64]:  # type: ignore[name-defined]  # noqa: F821
    import pandas

    factor, offset = scale(KIND[key], _UNIT_NAMES.get(unit, unit))
    plain = pandas.to_numeric(cells, errors="coerce").to_numpy(dtype=float, na_value=np.nan)
    with np.errstate(invalid="ignore"):
        made: NDArray[np.float64] = np.where(np.abs(plain) < 1e9, (plain - offset) / factor, np.nan)
    return made
