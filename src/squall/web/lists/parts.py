"""The catalogue as tables: every part with its figures, and which of them are guessed."""

from sqlite3 import Connection
from typing import Annotated

from fastapi import APIRouter, Depends, Form, Request, Response
from fastapi.responses import RedirectResponse

from squall.catalogue import catalogue
from squall.catalogue.reader import FILES, table
from squall.core.errors import NotFound
from squall.store.van import in_van, put_in_van
from squall.web.frame.pages import database, page
from squall.words import later

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
# Tables whose parts are had or not; hose, cable and tanks are bought for a job.
CARRIED = ("pumps", "panels", "controllers", "batteries")


@router.get("/parts")
def list_parts(request: Request, conn: Db) -> Response:
    """All parts, a table for each file of the catalogue, and which of them are in the van."""
    tables = [(name, words, *table(name)) for name, words in FILES.items()]
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
