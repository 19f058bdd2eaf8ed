"""Parts of a person's own as JSON, of any families, every figure as it was typed; read by the same rules as a price list."""

import json
from collections.abc import Iterable, Mapping
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from squall.catalogue.reader import Catalogue
from squall.catalogue.shelf import ShelfPart, family
from squall.core.errors import BadFile
from squall.formats.parts.cells import NOTE, cell, with_heads_unit
from squall.formats.parts.lists import ID, ID_RULE, MOST_ROWS, Head, ReadList, ReadRow, RowReader, text_of
from squall.words import later


class PartFile(BaseModel):
    """One part in a file: its family, and its figures as typed, by column."""

    model_config = ConfigDict(extra="forbid")
    id: str = Field(pattern=ID_RULE.pattern)
    family: str
    figures: dict[str, str]
    note: str = ""


class PartsFile(BaseModel):
    """Parts of a person's own, of any families, as JSON."""

    model_config = ConfigDict(extra="forbid")
    format: Literal["squall-parts"] = "squall-parts"
    version: Literal[1] = 1
    parts: list[PartFile] = Field(max_length=MOST_ROWS)


def parts_schema() -> dict[str, Any]:
    """The JSON schema of a file of parts."""
    return PartsFile.model_json_schema()


def write_json(parts: Iterable[ShelfPart]) -> str:
    """Parts as JSON, every figure as it was typed, with its unit."""
    rows = [
        PartFile(id=p.id, family=p.family, figures={k: _typed_in_full(p, k) for k in p.figures}, note=p.note)
        for p in parts
    ]
    return PartsFile(parts=rows).model_dump_json(indent=1)


def _typed_in_full(part: ShelfPart, key: str) -> str:
    """A figure as typed, with the unit that a bare number was read in."""
    column, written = part.kind.column(key), part.figures[key]
    if column is None or isinstance(written.value, str):
        return str(written.value)
    return with_heads_unit(column, cell(column, written.value, "metric"), "")


def read_json(data: bytes, shelf: Mapping[str, ShelfPart], shipped: Catalogue) -> ReadList:
    """A file of parts as it would be put on the shelf; writes nothing.

    Raises
    ------
    BadFile
        If it is no such file.
    """
    try:
        found = PartsFile.model_validate(json.loads(text_of(data)))
    except (ValueError, ValidationError, RecursionError) as error:
        raise BadFile(
            later("This is no file of Squall's parts: {error} Nothing was read.", error=str(error)[:200])
        ) from error
    rows: list[ReadRow] = []
    for number, row in enumerate(found.parts, start=1):
        kind = family(row.family)
        heads: list[Head | None] = [
            Head(ID, None),
            Head(NOTE, None),
            *(Head(key, kind.column(key)) for key in row.figures if kind.column(key) is not None),
        ]
        reader = RowReader(kind, heads, shelf, shipped)
        cells = [row.id, row.note, *(text for key, text in row.figures.items() if kind.column(key) is not None)]
        rows.append(reader.row(number, cells))
    return ReadList("", tuple(rows))
