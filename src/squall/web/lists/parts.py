"""Parts: the shelf by family, searched, filtered and sorted; what is in the van, what the ranking leaves out, the money."""

import re
from collections.abc import Callable
from sqlite3 import Connection
from typing import Annotated
from urllib.parse import quote

from fastapi import APIRouter, Depends, Form, Request, Response
from fastapi.responses import RedirectResponse

from squall.catalogue import catalogue
from squall.catalogue.families import FAMILIES
from squall.catalogue.held import family_of, shipped_row
from squall.catalogue.reader import table
from squall.core.errors import BadQuantity, NotFound, SquallError
from squall.core.reason import Spoken
from squall.store.shelf import (
    count_in_van,
    hide,
    last_change,
    next_change,
    on_shelf,
    redo_shelf,
    set_setting,
    setting,
    undo_shelf,
)
from squall.web.frame.pages import chart_number, database, page
from squall.web.lists.part_views import CARRIED, admitted, columns_of, heading_of, sorted_by, views_of
from squall.words import later, say
from squall.words.forms import own_sizes
from squall.words.units import number_text, shown

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
CURRENCY = "currency"
# Reference tables that are no parts.
TABLES = {"stock": later("Animals' water"), "crops": later("Crop coefficients"), "climates": later("Climates")}
_COLUMNS = {
    "id": later("identifier"), "name": later("name"), "source": later("source"), "cool_litres": later("cool day"),
    "hot_litres": later("hot day"), "kc_initial": later("Kc at first"), "kc_middle": later("Kc in the middle"),
    "kc_end": later("Kc at the end"), "days_initial": later("days at first"), "days_development": later("days growing"),
    "days_middle": later("days in the middle"), "days_late": later("days at the end"), "month": later("month"),
    "clearness": later("clearness"), "t_min_c": later("coolest of the day"), "t_max_c": later("warmest of the day"),
    "turbidity": later("turbidity"), "rain_mm": later("rain"), "wet_days": later("wet days"),
    "record_low_c": later("record low"), "record_high_c": later("record high"),
}  # fmt: skip
_KINDS = {
    "rain_mm": ("rain", 1e-3), "cool_litres": ("litres", 1e-3), "hot_litres": ("litres", 1e-3), "t_min_c": ("temperature", 1.0),
    "t_max_c": ("temperature", 1.0), "record_low_c": ("temperature", 1.0), "record_high_c": ("temperature", 1.0),
}  # fmt: skip


def _heading(column: str) -> str:
    name = str(_COLUMNS[column])
    return f"{name}, {shown(0.0, _KINDS[column][0])[1]}" if column in _KINDS else name


def _cell(column: str, given: str) -> str:
    if column in _KINDS and given:
        kind, si = _KINDS[column]
        return number_text(chart_number(float(given) * si, kind))
    return own_sizes(given)


@router.get("/parts")
def list_parts(
    request: Request, conn: Db, family: str = "", q: str = "", volts: str = "", whose: str = "", sort: str = ""
) -> Response:
    """The parts of one family, or those of any that a word finds."""
    chosen = family if family in FAMILIES else ""
    keys = [chosen] if chosen else list(FAMILIES)
    sections = []
    for key in keys:
        kind = FAMILIES[key]
        views = admitted(views_of(conn, kind), q[:80], volts, whose)
        if sort:
            views = sorted_by(views, kind, sort)
        columns = [(column.key, heading_of(column), bool(column.kind)) for column in columns_of(kind)]
        sections.append({"key": key, "kind": kind, "columns": columns, "views": views})
    context = {
        "families": FAMILIES, "sections": sections, "chosen": chosen, "q": q[:80], "volts": volts, "whose": whose, "sort": sort,
        "carried": CARRIED, "last": last_change(conn), "next": next_change(conn), "currency": setting(conn, CURRENCY), "tables": [] if chosen else _tables(),
        "own_count": len(on_shelf(conn)), "said": request.query_params.get("said", "")[:200],
    }  # fmt: skip
    return page(request, "parts/list.html", context)


def _tables() -> list[tuple[str, str, list[str], list[str], list[list[str]]]]:
    found = []
    for name, words in TABLES.items():
        comments, columns, rows = table(name)
        shown_rows = [[_cell(column, row[column]) for column in columns] for row in rows]
        found.append((name, str(words), comments, [_heading(column) for column in columns], shown_rows))
    return found


def back(family_key: str, part_id: str = "") -> RedirectResponse:
    """To a family's list, at a part."""
    return RedirectResponse(f"/parts?family={family_key}" + (f"#{part_id}" if part_id else ""), 303)


@router.post("/parts/van")
def carry(
    conn: Db, part: Annotated[str, Form()], there: Annotated[str, Form()] = "no", count: Annotated[str, Form()] = ""
) -> Response:
    """Say how many of a part are in the van."""
    key = family_of(catalogue(), part)
    if key is None or key not in CARRIED:
        raise NotFound(
            later("The catalogue has no part called {part:quoted} that is carried in a van.", part=part[:40])
        )
    if count.strip() and not re.fullmatch(r"\d{1,4}", count.strip()):
        raise BadQuantity(later("{count:quoted} is not a count of parts; a whole number is wanted.", count=count[:20]))
    count_in_van(conn, {part: int(count) if count.strip() else int(there == "yes")})
    return back(key, part)


@router.post("/parts/hide")
def leave_out(conn: Db, part: Annotated[str, Form()], hidden: Annotated[str, Form()] = "yes") -> Response:
    """Let the ranking leave a shipped part out, or choose from it again."""
    found = shipped_row(part)
    if found is None:
        raise NotFound(later("The catalogue has no part called {part:quoted}.", part=part[:40]))
    hide(conn, part, hidden == "yes")
    return back(found[0], part)


@router.post("/parts/currency")
def currency(conn: Db, code: Annotated[str, Form()] = "") -> Response:
    """The owner's money by its ISO 4217 code; nothing is converted."""
    said = code.strip().upper()
    if said and not re.fullmatch(r"[A-Z]{3}", said):
        raise BadQuantity(
            later(
                "{code:quoted} is no code of a currency: three letters are wanted, such as EUR or ZAR.", code=code[:20]
            )
        )
    set_setting(conn, CURRENCY, said)
    return RedirectResponse("/parts", 303)


@router.post("/parts/undo")
def take_back(conn: Db) -> Response:
    """Take the last change of the shelf back."""
    return _said(undo_shelf, conn, say("Undone"))


@router.post("/parts/redo")
def do_again(conn: Db) -> Response:
    """Make it again."""
    return _said(redo_shelf, conn, say("Done again"))


def _said(step: Callable[[Connection], Spoken], conn: Connection, word: str) -> Response:
    try:
        words = f"{word}: {step(conn)}."
    except SquallError as error:
        words = str(error)
    return RedirectResponse(f"/parts?said={quote(words)}", 303)
