"""The catalogue as tables: every part with its figures, and which of them are guessed."""

from fastapi import APIRouter, Request, Response

from squall.catalogue.reader import FILES, table
from squall.web.pages import page

router = APIRouter()


@router.get("/parts")
def list_parts(request: Request) -> Response:
    """All parts, a table for each file of the catalogue."""
    tables = [(name, words, *table(name)) for name, words in FILES.items()]
    return page(request, "parts/list.html", {"tables": tables})
