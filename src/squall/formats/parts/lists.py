"""Price lists of one family of parts: CSV with units in the headings, or JSON; read whole before anything is written.

A heading is a figure's name with its unit in brackets, ``Open volts [V]``; a bare number is in that unit, and a cell may bring
its own: ``25 ft``. Rows are told from one another by their ``Id``, or by maker and name where a list has none.
"""

import csv
import io
import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Literal

from squall.catalogue.families import Column, Family
from squall.catalogue.reader import Catalogue
from squall.catalogue.shelf import BadFigures, ShelfPart, family, written_part
from squall.core.errors import BadFile, SquallError
from squall.core.reason import Spoken
from squall.formats.cells import as_meant, safe_cell
from squall.formats.parts.cells import NOTE, cell, changes_of, fresh_id, heading, with_heads_unit
from squall.words import later, voice

MOST_BYTES, MOST_ROWS = 2_000_000, 2000
ID = "Id"
ID_RULE = re.compile(r"^[a-z0-9][a-z0-9-]{0,39}$")
Status = Literal["new", "changed", "same", "wrong"]


@dataclass(frozen=True)
class ReadRow:
    """One row of a list: where it stands, what it would do, the part it makes, and what is wrong, by heading.

    `changes` has what was and what would be, by the figure's name.
    """

    line: int
    name: str
    status: Status
    part: ShelfPart | None
    problems: tuple[tuple[Spoken, Spoken], ...] = ()
    changes: tuple[tuple[Spoken, str, str], ...] = ()


@dataclass(frozen=True)
class ReadList:
    """A whole list as it was read: its rows, and headings that nobody knows."""

    family: str
    rows: tuple[ReadRow, ...]
    unknown: tuple[str, ...] = ()

    def of(self, *statuses: Status) -> list[ReadRow]:
        """Its rows of some statuses."""
        return [row for row in self.rows if row.status in statuses]


def write(family_key: str, parts: Iterable[ShelfPart], currency: str = "") -> str:
    """A family's parts as CSV in the reader's units; what is guessed stays empty. With no parts, a list to be filled in."""
    kind, system = family(family_key), voice().units
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    heads = [f"{c.name} [{currency}]" if c.key == "price" and currency else heading(c, system) for c in kind.whole]
    writer.writerow([ID, *heads, NOTE])
    shelf = list(parts)
    if not shelf:
        for column in (column for column in kind.whole if column.choices):
            writer.writerow([f"# {column.name}: {', '.join(column.choices or {})}"])
    for part in shelf:
        cells = [cell(c, part.figures[c.key].value, system) if c.key in part.figures else "" for c in kind.whole]
        writer.writerow([part.id, *map(safe_cell, cells), safe_cell(part.note)])
    return out.getvalue()


def text_of(data: bytes) -> str:
    """A file's text.

    Raises
    ------
    BadFile
        If it is none, or too large.
    """
    if len(data) > MOST_BYTES:
        raise BadFile(later("The list is larger than {most:.0f} MB; nothing was read.", most=MOST_BYTES / 1e6))
    if b"\0" in data[:4000]:
        raise BadFile(later("This is no text: save the sheet as CSV, then give that file. Nothing was read."))
    for encoding in ("utf-8-sig", "cp1252"):
        try:
            return data.decode(encoding)
        except UnicodeDecodeError:
            continue
    raise BadFile(later("This is no text: save the sheet as CSV, then give that file. Nothing was read."))


def read(
    data: bytes, family_key: str, shelf: Mapping[str, ShelfPart], shipped: Catalogue, currency: str = ""
) -> ReadList:  # fmt: skip
    """A list as it would be put on the shelf; writes nothing.

    Parameters
    ----------
    data : bytes
        The file: CSV parted by commas, semicolons or tabs.
    family_key : str
        Whose list it is.
    shelf : mapping
        What stands there.
    shipped : Catalogue
        Whose identifiers are taken.
    currency : str
        Code of the owner's money; a list in another is refused.

    Raises
    ------
    BadFile
        If it is no list at all: no text, no heading that is known, no rows, too many.
    """
    kind = family(family_key)
    text = text_of(data)
    try:
        lines = [[as_meant(c) for c in row] for row in csv.reader(io.StringIO(text), delimiter=_delimiter(text))]
    except csv.Error as error:
        raise BadFile(
            later(
                "This is no list that can be read: a quotation mark is never closed, or a cell has no end. Nothing was read."
            )
        ) from error
    rows = [
        (n, row) for n, row in enumerate(lines, start=1) if any(c.strip() for c in row) and not row[0].startswith("#")
    ]
    if not rows:
        raise BadFile(
            later(
                "The list is empty; its first row names the figures, such as {heads}.",
                heads=", ".join(_heads(kind)[:4]),
            )
        )
    (_, first), body = rows[0], rows[1:]
    columns, unknown = _columns(kind, first)
    if not any(
        isinstance(found, Head) and found.column is not None and found.column.key == "name" for found in columns
    ):
        raise BadFile(
            later(
                "The first row names no column “Name”; it should read {heads}. Nothing was read.",
                heads=", ".join(_heads(kind)[:6]),
            )
        )
    if not body:
        raise BadFile(later("The list has headings and no parts."))
    money = next((h.sign for h in columns if h is not None and h.column is not None and h.column.key == "price"), "")
    if money and currency and money.upper() != currency:
        raise BadFile(
            later(
                "The list's prices are in {money}, yours in {currency}: Squall converts none. Nothing was read.",
                money=money[:8],
                currency=currency,
            )
        )
    if len(body) > MOST_ROWS:
        raise BadFile(later("{n} rows; at most {most} are read at once.", n=len(body), most=MOST_ROWS))
    reader = RowReader(kind, columns, shelf, shipped)
    return ReadList(kind.key, tuple(reader.row(line, cells) for line, cells in body), tuple(unknown))


def _delimiter(text: str) -> str:
    first = next((line for line in text.splitlines() if line.strip() and not line.startswith("#")), "")
    bare = re.sub(r"\[[^\]]*\]", "", first)
    return max(",;\t", key=bare.count)


def _heads(kind: Family) -> list[str]:
    return [heading(column, voice().units) for column in kind.whole]


@dataclass(frozen=True)
class Head:
    """A heading of a list: its column, None for the identifier and the note; and the unit it names."""

    text: str
    column: Column | None
    sign: str = ""


def _columns(kind: Family, first: list[str]) -> tuple[list[Head | None], list[str]]:
    known: dict[str, Column | None] = {ID.casefold(): None, NOTE.casefold(): None}
    for column in kind.whole:
        known[column.key.casefold()] = column
        known[str(column.name).casefold()] = column
    found: list[Head | None] = []
    unknown = []
    for text in first:
        bare = re.match(r"^\s*([^\[\]]*?)\s*(?:\[([^\]]*)\])?\s*$", text)
        name = (bare[1] if bare else text).casefold()
        if name in known:
            found.append(Head(text.strip(), known[name], (bare[2] or "").strip() if bare else ""))
        else:
            found.append(None)
            if text.strip():
                unknown.append(text.strip()[:40])
    return found, unknown


class RowReader:
    """Reads the rows of one list, minding what stands on the shelf and what came before in the list."""

    def __init__(
        self, kind: Family, columns: list[Head | None], shelf: Mapping[str, ShelfPart], shipped: Catalogue
    ) -> None:
        self.kind, self.columns, self.shelf, self.shipped = kind, columns, shelf, shipped
        self.seen: dict[str, int] = {}
        self.named: dict[tuple[str, str], int] = {}
        self.by_name = {
            (str(p.figures["maker"].value) if "maker" in p.figures else "", p.name): p
            for p in shelf.values()
            if p.family == kind.key
        }

    def row(self, line: int, cells: list[str]) -> ReadRow:
        """One row."""
        typed, problems, said_id, note = self._typed(cells)
        name = typed.get("name", "").strip()
        if len([c for c in cells if c.strip()]) > 0 and any(c.strip() for c in cells[len(self.columns) :]):
            problems.append(
                (
                    later("the row"),
                    later(
                        "it has {n} cells and the headings {heads}: is a comma inside a text without quotes?",
                        n=len(cells),
                        heads=len(self.columns),
                    ),
                )
            )
        part_id, trouble = self._id(said_id, typed, line)
        if trouble is not None:
            problems.append((ID, trouble))
        standing = self.shelf.get(part_id)
        if standing is not None and standing.family != self.kind.key:
            problems.append((ID, later("{id:quoted} is a part of another family on your shelf.", id=part_id)))
        if (
            trouble is None
            and name
            and (maker_and_name := (typed.get("maker", "").strip(), name)) in self.named
            and not said_id
        ):
            problems.append(
                (
                    later("the row"),
                    later(
                        "{name} stands in line {line} already: give each an Id if they are two parts.",
                        name=name,
                        line=self.named[maker_and_name],
                    ),
                )
            )
        self.named.setdefault((typed.get("maker", "").strip(), name), line)
        part: ShelfPart | None = None
        try:
            part = written_part(part_id, self.kind.key, typed, "metric", note, datetime.now(UTC).date().isoformat())
        except BadFigures as error:
            for key, sentence in error.problems.items():
                column = self.kind.column(key)
                problems.append((column.name if column is not None else key, sentence))
        if problems or part is None:
            return ReadRow(line, name, "wrong", None, tuple(problems))
        if standing is None:
            return ReadRow(line, name, "new", part)
        changes = changes_of(self.kind, standing, part)
        return ReadRow(line, name, "changed" if changes else "same", part, (), changes)

    def _typed(self, cells: list[str]) -> tuple[dict[str, str], list[tuple[Spoken, Spoken]], str, str]:
        typed: dict[str, str] = {}
        problems: list[tuple[Spoken, Spoken]] = []
        said_id = note = ""
        for head, text in zip(self.columns, cells, strict=False):
            if head is None:
                continue
            if head.column is None:
                if head.text.casefold().startswith(ID.casefold()):
                    said_id = text.strip()
                else:
                    note = text.strip()
                continue
            try:
                typed[head.column.key] = with_heads_unit(head.column, text, head.sign)
            except SquallError as error:
                problems.append((head.column.name, error.said))
        return typed, problems, said_id, note

    def _id(self, said: str, typed: Mapping[str, str], line: int) -> tuple[str, Spoken | None]:
        name, maker = typed.get("name", "").strip(), typed.get("maker", "").strip()
        if not said:
            known = self.by_name.get((maker, name))
            said = known.id if known is not None else fresh_id(name or "part", {*self.shelf, *self.seen})
        if not ID_RULE.match(said) or said.startswith("own-"):
            return said, later(
                "{id:quoted} can't be an identifier: small letters, figures and dashes, 40 at most.",
                id=said[:40],
            )
        if said in self.seen:
            return said, later("{id:quoted} stands in line {line} already.", id=said, line=self.seen[said])
        self.seen[said] = line
        if said not in self.shelf and any(said in self.shipped.slot(slot) for slot in _SLOTS):
            return said, later(
                "{id:quoted} is a part of the shipped catalogue: give yours another identifier.", id=said
            )
        return said, None


_SLOTS = (
    "pumps",
    "panels",
    "controllers",
    "batteries",
    "cables",
    "hoses",
    "fittings",
    "tanks",
    "devices",
    "protectors",
    "sundries",
)
