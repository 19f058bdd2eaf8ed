"""The parts that speak in this request: the shipped ones with a person's shelf beside them.

As the voice does, they belong to whoever asks: the web and the commands hold them, and what asks nobody gets the shipped ones.
"""

from collections.abc import Iterable, Mapping
from contextvars import ContextVar
from dataclasses import replace
from functools import cache
from typing import Any

from squall.catalogue.families import FAMILIES, Column
from squall.catalogue.reader import Catalogue, shipped, table
from squall.catalogue.shelf import ShelfPart, Written
from squall.core.errors import SquallError

_held: ContextVar[Catalogue | None] = ContextVar("parts", default=None)


def catalogue() -> Catalogue:
    """The parts of this request."""
    return _held.get() or shipped()


def hold(parts: Catalogue) -> None:
    """Speak of these parts from here on, within this request."""
    _held.set(parts)


def beside(base: Catalogue, shelf: Iterable[ShelfPart], hidden: frozenset[str] = frozenset()) -> Catalogue:
    """A catalogue with a person's own parts in it, which stand before it where they are called the same.

    Parameters
    ----------
    base : Catalogue
        The shipped one.
    shelf : iterable of ShelfPart
        Their own; one that makes no part any more is left out.
    hidden : frozenset of str
        Parts of the base that the ranking leaves out.
    """
    added: dict[str, dict[str, Any]] = {}
    unpriced = set()
    rows = dict(base.rows)
    for own in shelf:
        try:
            made = own.part
        except SquallError:
            continue
        added.setdefault(own.kind.slot, {})[own.id] = made
        rows[own.id] = (own.family, own.row)
        if "price" in made.guessed:
            unpriced.add(own.id)
    if not added and not hidden:
        return base
    slots: dict[str, Mapping[str, Any]] = {slot: {**base.slot(slot), **parts} for slot, parts in added.items()}
    return replace(base, **slots, rows=rows, unranked=base.unranked | hidden | unpriced)  # type: ignore[arg-type]


def family_of(parts: Catalogue, part_id: str) -> str | None:
    """Which family a part belongs to; None if there is none of that name."""
    for family in FAMILIES.values():
        part = parts.slot(family.slot).get(part_id)
        if part is not None:
            wrong = family.slot == "controllers" and (family.key == "pump-controllers") != (part.kind == "pump")
            if not wrong:
                return family.key
    return None


# Where the shipped rows of a family lie, and which of the file's rows are its.
_FILES = {"pump-controllers": "controllers", "chargers": "controllers", "switches": "devices", "fuses": "protectors"}


@cache
def shipped_parts(family_key: str) -> tuple[ShelfPart, ...]:
    """The shipped parts of a family, in the shape of a person's own; what nobody stated of them is left out."""
    name = _FILES.get(family_key, family_key)
    if family_key in ("cables", "sundries"):
        return ()
    found = []
    for row in table(name)[2]:
        if name == "controllers" and (row["kind"] == "pump") != (family_key == "pump-controllers"):
            continue
        guessed = row["guessed"].split()
        figures = {
            column.key: Written(row[column.key], _value(column, row[column.key]))
            for column in FAMILIES[family_key].whole
            if row.get(column.key) and (column.needed or column.key not in guessed)
        }
        found.append(ShelfPart(row["id"], family_key, figures))
    return tuple(found)


def _value(column: Column, text: str) -> float | str:
    return float(text) if column.kind else text


def shipped_row(part_id: str) -> tuple[str, dict[str, str]] | None:
    """Family and whole row of a shipped part; None if there is none."""
    for family in FAMILIES.values():
        if any(part.id == part_id for part in shipped_parts(family.key)):
            row = next(row for row in table(_FILES.get(family.key, family.key))[2] if row["id"] == part_id)
            return family.key, row
    return None
