"""The catalogue as tables: every part with its figures, and which of them are guessed."""

from sqlite3 import Connection
from typing import Annotated

from fastapi import APIRouter, Depends, Form, Request, Response
from fastapi.responses import RedirectResponse

from squall.catalogue import catalogue
from squall.catalogue.reader import FILES, table
from squall.core.errors import NotFound
from squall.store.van import in_van, put_in_van
from squall.web.frame.pages import chart_number, database, page
from squall.words import later, say
from squall.words.forms import own_sizes
from squall.words.units import number_text, shown

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
# Tables whose parts are had or not; hose, cable and tanks are bought for a job.
CARRIED = ("pumps", "panels", "controllers", "batteries")


# Columns whose unit has a fellow in the other system: ending of the name, kind, and SI in one of it.
_KINDS = (
    ("rain_mm", "rain", 1e-3), ("area_m2", "ground", 1.0), ("litres", "litres", 1e-3), ("_mm", "bore", 1e-3),
    ("_m", "head", 1.0), ("_kg", "mass", 1.0), ("_c", "temperature", 1.0),
)  # fmt: skip
_POINTS = "points_l_min_m_a"


def heading(column: str) -> str:
    """Name of a column with the unit in which it is shown."""
    if column == _POINTS:
        return say(
            "points: flow [{flow}], head [{head}], amps [A]", flow=shown(0.0, "flow")[1], head=shown(0.0, "head")[1]
        )
    for ending, kind, _ in _KINDS:
        if column.endswith(ending):
            name = column.removesuffix(ending).strip("_").replace("_", " ") or {"litres": "holds"}.get(
                ending, ending.split("_")[0]
            )
            return f"{name}, {shown(0.0, kind)[1]}"
    return column.replace("_", " ")


def cell(column: str, given: str) -> str:
    """One figure of a table in the reader's units."""
    if column == _POINTS:
        triples = [[float(value) for value in point.split()] for point in given.split(";")]
        return "; ".join(
            f"{number_text(chart_number(q / 60_000.0, 'flow'))} {number_text(chart_number(h, 'head'))} {number_text(a)}"
            for q, h, a in triples
        )
    for ending, kind, si in _KINDS:
        if column.endswith(ending) and given:
            return number_text(chart_number(float(given) * si, kind))
    return own_sizes(given)


@router.get("/parts")
def list_parts(request: Request, conn: Db) -> Response:
    """All parts, a table for each file of the catalogue, and which of them are in the van."""
    tables = []
    for name, words in FILES.items():
        comments, columns, rows = table(name)
        shown_rows = [(row, [cell(column, row[column]) for column in columns]) for row in rows]
        tables.append((name, words, comments, [heading(column) for column in columns], shown_rows))
    return page(request, "parts/list.html", {"tables": tables, "van": in_van(conn), "carried": CARRIED})


@router.post("/parts/van")
def carry(conn: Db, part: Annotated[str, Form()], there: Annotated[str, Form()] = "no") -> Response:
    """Put a part in the van, or take it out."""
    parts = catalogue()
    if not any(part in group for group in (parts.pumps, parts.panels, parts.controllers, parts.batteries)):
        raise NotFound(
            later("The catalogue has no part called {part:quoted} that is carried in a van.", part=part[:40])
        )
    put_in_van(conn, part, there == "yes")
    return RedirectResponse(f"/parts#{part}", 303)
