"""Price lists in and out: looked at before anything is written, and one step of undo."""

from sqlite3 import Connection
from typing import Annotated

from fastapi import APIRouter, Depends, Form, Request, Response, UploadFile
from fastapi.responses import JSONResponse, RedirectResponse

from squall.catalogue.families import FAMILIES
from squall.catalogue.reader import shipped
from squall.catalogue.shelf import family
from squall.core.errors import SquallError
from squall.formats.parts import files as part_files
from squall.formats.parts import lists as part_lists
from squall.formats.parts.lists import ReadList
from squall.store.shelf import look_at_list, on_shelf, put_parts, setting, take_list
from squall.web.frame.pages import database, page
from squall.words import later_n

router = APIRouter()
Db = Annotated[Connection, Depends(database)]


def _read(conn: Connection, family_key: str, data: bytes) -> ReadList:
    shelf = on_shelf(conn)
    if data.lstrip()[:1] == b"{":
        return part_files.read_json(data, shelf, shipped())
    return part_lists.read(data, family_key, shelf, shipped(), setting(conn, "currency"))


@router.post("/parts/look")
def look(request: Request, conn: Db, file: UploadFile, family: Annotated[str, Form()] = "pumps") -> Response:
    """What a list would bring: new, changed, wrong; nothing is written yet."""
    from hashlib import sha256

    data = file.file.read(part_lists.MOST_BYTES + 1)
    name = (file.filename or "")[:80]
    mark = sha256(data + family.encode()).hexdigest()[:16]
    look_at_list(conn, mark, family[:40], name, data)
    return _shown(request, conn, mark, family, name, data)


def _shown(request: Request, conn: Connection, mark: str, family_key: str, name: str, data: bytes) -> Response:
    try:
        found, problem = _read(conn, family_key, data), ""
    except SquallError as error:
        found, problem = None, str(error)
    context = {"found": found, "problem": problem, "name": name, "mark": mark, "kind": FAMILIES.get(family_key)}
    return page(request, "parts/look.html", context, 422 if found is None else 200)


@router.post("/parts/take-list")
def take(conn: Db, mark: Annotated[str, Form()]) -> Response:
    """Put the good rows of a list that was looked at on the shelf."""
    family_key, name, data = take_list(conn, mark)
    found = _read(conn, family_key, data)
    parts = [row.part for row in found.of("new", "changed") if row.part is not None]
    if parts:
        put_parts(
            conn,
            parts,
            later_n("a part read from {name}", "{n} parts read from {name}", len(parts), name=name or "CSV"),
        )
    return RedirectResponse(f"/parts?whose=mine&family={found.family}", 303)


@router.get("/parts/list.csv")
def list_out(conn: Db, family: str = "pumps", blank: bool = False) -> Response:
    """A family's own parts as CSV, or its headings alone to be filled in."""
    kind = _family(family)
    own = [] if blank else [part for part in on_shelf(conn).values() if part.family == kind]
    text = part_lists.write(kind, own, setting(conn, "currency"))
    return Response(
        "\ufeff" + text,
        media_type="text/csv; charset=utf-8",
        headers={"content-disposition": f'attachment; filename="squall-{kind}{"-to-fill" if blank else ""}.csv"'},
    )


def _family(key: str) -> str:
    return family(key).key


@router.get("/parts/shelf.json")
def shelf_out(conn: Db) -> Response:
    """All parts of one's own as JSON."""
    text = part_files.write_json(on_shelf(conn).values())
    return Response(
        text, media_type="application/json", headers={"content-disposition": 'attachment; filename="squall-parts.json"'}
    )


@router.get("/schema/parts")
def parts_schema() -> Response:
    """The JSON schema of a file of parts."""
    return JSONResponse(part_files.parts_schema())
