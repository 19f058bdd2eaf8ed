"""The parts that a job keeps copies of, and the choices of its part fields.

A job is whole without a shelf: what it uses of a person's own parts it keeps as it was when it was taken, so that a part
changed or taken off the shelf changes no job behind anyone's back, and an exported job brings its parts along.
"""

import json
from collections.abc import Mapping
from dataclasses import replace
from functools import lru_cache
from typing import Annotated, Any

from pydantic import Field, StringConstraints

from squall.catalogue.families import FAMILIES
from squall.catalogue.reader import Catalogue
from squall.core.errors import BadFile, SquallError
from squall.core.kit.parts import SOURCE_WORDS
from squall.core.reason import Spoken
from squall.job.document.base import Count, Doc, Identifier, PartId, Tidy
from squall.job.document.field_spec import FieldSpec
from squall.words import later

Text = Annotated[str, Tidy, StringConstraints(max_length=2000)]


class PartCopy(Doc):
    """A part of somebody's own, as it was when the job took it: its family, and its row as a price list has it."""

    id: PartId
    family: Annotated[str, StringConstraints(max_length=40)]
    row: Annotated[dict[str, Text], Field(max_length=60)]


class OwnedRow(Doc):
    """A part that is there already and costs nothing: how many of it."""

    id: Identifier
    part: PartId
    count: Count = 1


@lru_cache(maxsize=512)
def _made(family: str, row: str) -> Any:
    if family not in FAMILIES:
        raise BadFile(later("There is no family of parts called {key:quoted}.", key=family[:40]))
    figures = json.loads(row)
    try:
        return FAMILIES[family].make(figures)
    except SquallError:
        raise
    except (KeyError, ValueError, TypeError) as error:
        raise BadFile(
            later(
                "The job's part {name:quoted} lacks a figure: {error}.",
                name=str(figures.get("name", ""))[:40],
                error=error,
            )
        ) from error


def with_copies(copies: list[PartCopy], owned: list[OwnedRow], parts: Catalogue) -> Catalogue:
    """A catalogue with a job's own copies put before its fellows, and what is owned marked as such.

    Raises
    ------
    BadFile
        If a copy makes no part.
    """
    slots: dict[str, dict[str, Any]] = {}
    rows = dict(parts.rows)
    for copy in copies:
        family = FAMILIES.get(copy.family)
        made = _made(copy.family, json.dumps(copy.row, sort_keys=True))
        assert family is not None
        slots.setdefault(family.slot, {})[copy.id] = made
        rows[copy.id] = (copy.family, copy.row)
    for row in owned:
        for slot in {family.slot for family in FAMILIES.values()}:
            part = slots.get(slot, {}).get(row.part) or parts.slot(slot).get(row.part)
            if part is not None:
                slots.setdefault(slot, {})[row.part] = replace(part, owned=row.count)
    if not slots:
        return parts
    whole: dict[str, Mapping[str, Any]] = {slot: {**parts.slot(slot), **added} for slot, added in slots.items()}
    return replace(parts, **whole, rows=rows)  # type: ignore[arg-type]


def copies_of(used: set[str], copies: list[PartCopy], parts: Catalogue) -> list[PartCopy]:
    """The copies that a job must keep of the parts it uses: those it has, and new ones of a shelf's."""
    kept = [copy for copy in copies if copy.id in used]
    have = {copy.id for copy in kept}
    for part_id in sorted(used - have):
        if part_id in parts.rows:
            family, row = parts.rows[part_id]
            kept.append(PartCopy(id=part_id, family=family, row=dict(row)))
    return kept


def part_choices(place: str, last: str, catalogue: Catalogue) -> FieldSpec | None:
    """How a field that names a part is chosen: its choices by identifier; None for any other field."""
    if last == "hose" and place in ("run", "outlets"):
        hoses: dict[str, Spoken] = {key: _title("hose", key, hose, catalogue) for key, hose in catalogue.hoses.items()}
        return FieldSpec(later("Hose"), "choice", choices={**hoses, "own": later("another: give bore and roughness")})
    if (place, last) == ("herd", "kind"):
        kinds = {key: kind.name for key, kind in catalogue.stock_kinds.items()}
        return FieldSpec(later("Kind"), "choice", choices={"own": later("others: type what they drink"), **kinds})
    if (place, last) == ("uses", "crop"):
        return FieldSpec(later("Crop"), "choice", choices={key: crop.name for key, crop in catalogue.crops.items()})
    if (place, last) == ("lot", "panel"):
        return FieldSpec(
            later("Panel"), "choice", choices={key: panel.title for key, panel in catalogue.panels.items()}
        )
    if (place, last) == ("owned", "part"):
        return FieldSpec(later("Part"), "choice", choices=_owned_choices(catalogue))
    return _slot(last, catalogue) if place == "options" else None


def _owned_choices(catalogue: Catalogue) -> dict[str, Spoken]:
    return {
        key: part.title
        for slot in ("pumps", "panels", "controllers", "batteries", "tanks")
        for key, part in catalogue.slot(slot).items()
    }


_NONE: dict[str, Spoken] = {"none": later("none")}


def _slot(last: str, catalogue: Catalogue) -> FieldSpec | None:
    """A slot of a kit."""
    sources: list[tuple[str, Spoken]] = list(SOURCE_WORDS.items())
    if last == "source":
        return FieldSpec(later("The pump is fed"), "choice", choices=dict(sources))
    named: dict[str, tuple[Spoken, Mapping[str, Any], dict[str, Spoken]]] = {
        "pump": (later("Pump"), catalogue.pumps, {}),
        "panel": (later("Panel"), catalogue.panels, {}),
        "controller": (later("Controller or charger"), catalogue.controllers, _NONE),
        "battery": (later("Battery"), catalogue.batteries, _NONE),
        "hose": (later("Hose"), catalogue.hoses, {"none": later("as the run was surveyed")}),
        "tank": (later("Tank that the kit brings"), catalogue.tanks, _NONE),
    }
    if last not in named:
        return None
    label, parts, first = named[last]
    titles: dict[str, Spoken] = {key: _title(last, key, part, catalogue) for key, part in parts.items()}
    return FieldSpec(label, "choice", choices={**first, **titles})


def _title(slot: str, part_id: str, part: Any, catalogue: Catalogue) -> Spoken:
    """How a part is called in a list: a hose by its size, and one of somebody's own by the name it was given as well."""
    if slot == "hose" and part_id in catalogue.rows:
        return later("{name}: {nominal:sizes}, {kind}", name=part.name, nominal=part.nominal, kind=part.kind)
    if slot == "hose":
        return later("{nominal:sizes}, {kind}", nominal=part.nominal, kind=part.kind)
    title: str = part.title
    return title
