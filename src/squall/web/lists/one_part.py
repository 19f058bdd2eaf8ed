"""One part: its label, its curve, where it is used; made, changed, copied, taken off the shelf."""

from datetime import UTC, datetime
from sqlite3 import Connection
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Form, Request, Response
from fastapi.responses import RedirectResponse
from pydantic import BaseModel, ConfigDict

from squall.catalogue import catalogue
from squall.catalogue.families import FAMILIES, Family
from squall.catalogue.held import shipped_parts, shipped_row
from squall.catalogue.shelf import BadFigures, ShelfPart, family, written_part
from squall.core.errors import BadQuantity, NotFound
from squall.formats.parts.cells import POINTS, fresh_id
from squall.store.shelf import counts_in_van, on_shelf, put_parts, setting, take_off
from squall.web.frame.pages import database, page, prefs_of
from squall.web.lists.part_views import (
    CARRIED,
    figures_of,
    heading_of,
    jobs_with,
    oddities,
    part_chart,
    shown_cell,
    shown_points,
)
from squall.words import later
from squall.words.units import in_own_units

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
MOST_TEXT = 4000


def found_part(conn: Connection, part_id: str) -> tuple[ShelfPart, bool]:
    """A part of a person's own or a shipped one, and whether it is their own.

    Raises
    ------
    NotFound
        If there is none.
    """
    own = on_shelf(conn).get(part_id)
    if own is not None:
        return own, True
    row = shipped_row(part_id)
    if row is None:
        raise NotFound(
            later("There is no part called {part:quoted} on your shelf or in the catalogue.", part=part_id[:40])
        )
    return next(part for part in shipped_parts(row[0]) if part.id == part_id), False


def typed_of(part: ShelfPart) -> dict[str, str]:
    """A part's figures as its owner would type them."""
    found = {}
    for key, written in part.figures.items():
        column = part.kind.column(key)
        if column is None:
            continue
        if isinstance(written.value, str):
            found[key] = shown_points(written.value) if key == POINTS else str(written.value)
        elif written.typed and any(not (c.isdigit() or c in ".,-") for c in written.typed):
            found[key] = in_own_units(written.typed, written.value * column.si, column.kind)
        else:
            found[key] = shown_cell(column, written.value)
    return found


def form_page(
    request: Request, kind: Family, typed: dict[str, str], *, part_id: str = "", note: str = "", problems: dict[str, Any] | None = None,
    status: int = 200,
) -> Response:  # fmt: skip
    """The form of a part, with what was typed and what is wrong with it."""
    fields = [
        {
            "key": column.key, "name": heading_of(column), "choices": column.choices, "needed": column.needed, "label": column.label,
            "value": typed.get(column.key, ""), "problem": (problems or {}).get(column.key, ""), "long": column.key in (POINTS, "lamps", "stall", "inputs"),
        }
        for column in kind.whole
    ]  # fmt: skip
    context = {"kind": kind, "fields": fields, "part_id": part_id, "note": note, "problems": problems or {}}
    return page(request, "parts/form.html", context, status)


@router.get("/parts/new")
def blank(request: Request, conn: Db, family: str = "pumps", copy: str = "") -> Response:
    """The form of a new part, empty or as a copy of another."""
    if copy:
        part, _ = found_part(conn, copy)
        return form_page(request, part.kind, typed_of(part), note=part.note)
    return form_page(request, _family(family), {})


def _family(key: str) -> Family:
    return family(key)


class PartForm(BaseModel):
    """A part as it is typed: one text a figure, by its column."""

    model_config = ConfigDict(extra="allow")
    family: str
    part_id: str = ""
    part_note: str = ""


@router.post("/parts/save")
def save(request: Request, conn: Db, form: Annotated[PartForm, Form()]) -> Response:
    """Put a part on the shelf, or change it; what is wrong stands beside its figure."""
    typed = {key: str(value)[:MOST_TEXT] for key, value in (form.model_extra or {}).items()}
    part_id, note = form.part_id, form.part_note
    kind = family(form.family)
    shelf = on_shelf(conn)
    new = part_id not in shelf
    if new:
        part_id = fresh_id(typed.get("name", "part"), {*shelf, *(p.id for k in FAMILIES for p in shipped_parts(k))})
    elif shelf[part_id].family != kind.key:
        raise BadQuantity(later("A part can't change its family; make a new one."))
    try:
        part = written_part(
            part_id, kind.key, typed, prefs_of(request).units, note, datetime.now(UTC).date().isoformat()
        )
    except BadFigures as error:
        return form_page(
            request, kind, typed, part_id="" if new else part_id, note=note, problems=error.problems, status=422
        )
    words = later("{name} put on the shelf", name=part.name) if new else later("{name} changed", name=part.name)
    put_parts(conn, [part], words)
    return RedirectResponse(f"/parts/{part.id}", 303)


@router.get("/parts/{part_id}")
def show_part(part_id: str, request: Request, conn: Db) -> Response:
    """One part as a page a person can read."""
    part, own = found_part(conn, part_id)
    made = catalogue().slot(part.kind.slot).get(part_id)
    context = {
        "part": part, "own": own, "figures": figures_of(part, own), "odd": oddities(part) if own else [], "chart": part_chart(made),
        "jobs": jobs_with(conn, part_id), "count": counts_in_van(conn).get(part_id, 0), "carried": part.family in CARRIED,
        "made": made, "broken": made is None, "hidden": part_id in catalogue().unranked and not own, "currency": setting(conn, "currency"),
        "unpriced": own and "price" not in part.figures,
    }  # fmt: skip
    return page(request, "parts/one.html", context)


@router.get("/parts/{part_id}/edit")
def edit_part(part_id: str, request: Request, conn: Db) -> Response:
    """The form of a part of one's own."""
    part, own = found_part(conn, part_id)
    if not own:
        return RedirectResponse(f"/parts/new?copy={part_id}", 303)
    return form_page(request, part.kind, typed_of(part), part_id=part_id, note=part.note)


@router.post("/parts/{part_id}/remove")
def remove(part_id: str, conn: Db) -> Response:
    """Take a part off the shelf; undo brings it back, and jobs keep their own copy."""
    part, _ = found_part(conn, part_id)
    take_off(conn, part_id)
    return RedirectResponse(f"/parts?family={part.family}", 303)
