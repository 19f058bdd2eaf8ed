"""Finding: fields, pages, parts and jobs by plain words, wherever one stands.

Which page a field stands on is read from the pages' own templates, so that a field that moves is found where it moved.
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from functools import cache
from sqlite3 import Connection
from typing import Annotated

from fastapi import APIRouter, Depends, Query, Request, Response
from pydantic import BaseModel

from squall.catalogue import catalogue
from squall.job.document.specs import PLAIN, ROWS
from squall.job.stages import STAGES
from squall.store.standings import Sought, job_rows
from squall.web.frame.pages import database, environment, page
from squall.words import say

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
MOST = 24
# What people say for what the pages call otherwise.
ALSO = {
    "height": "lift", "rise": "lift", "pipe": "hose", "tube": "hose", "solar": "panel", "pv": "panel", "cistern": "tank",
    "wire": "cable", "breaker": "protection", "animals": "drunk", "goats": "animals", "rain": "roof", "trees": "horizon",
    "shade": "shadow", "location": "place", "gps": "place", "price": "kits", "cost": "kits", "meter": "prove", "sheet": "prove",
}  # fmt: skip
_QUOTED = re.compile(r"'([a-z_.]+?)\.?'")


class Asked(BaseModel):
    """What is looked for, and from which job."""

    q: str = ""
    job: int = 0


@dataclass(frozen=True)
class Hit:
    """One thing that was found: what it is, what it is called, where it stands in words and as an address; `about` is searched too."""

    kind: str
    name: str
    more: str
    address: str
    about: str = ""


@cache
def stage_of_field() -> dict[str, str]:
    """The page on which each field stands: of a list's rows, by the list's name."""
    loader = environment().loader
    assert loader is not None
    names = [name for name in loader.list_templates() if "/" in name]
    found_on: dict[str, str] = {}
    for key in STAGES:
        for name in sorted(name for name in names if name.split("/")[0] == key):
            for path in _QUOTED.findall(loader.get_source(environment(), name)[0]):
                if path in PLAIN or path in ROWS:
                    found_on.setdefault(path, key)
    return found_on


def _fields(job: int) -> Iterator[Hit]:
    for path, key in stage_of_field().items():
        where = f"/jobs/{job}/{key}"
        if path in PLAIN:
            spec = PLAIN[path]
            anchor = path.replace(".", "-")
            yield Hit(say("field"), str(spec.label), str(STAGES[key].name), f"{where}#f-{anchor}-form", str(spec.hint))
            continue
        for spec in ROWS[path].values():
            yield Hit(say("field"), str(spec.label), str(STAGES[key].name), where)


def _everything(conn: Connection, job: int) -> Iterator[Hit]:
    if job:
        for stage in STAGES.values():
            yield Hit(say("page"), str(stage.name), str(stage.asks), f"/jobs/{job}/{stage.key}", str(stage.asks))
        yield from _fields(job)
    parts = catalogue()
    for family, kept in (("pumps", parts.pumps), ("panels", parts.panels), ("controllers", parts.controllers), ("batteries", parts.batteries), ("hoses", parts.hoses), ("tanks", parts.tanks), ("fittings", parts.fittings)):  # fmt: skip
        for key, part in kept.items():
            yield Hit(say("part"), getattr(part, "title", part.name), "", f"/parts/{key}" if family != "fittings" else "/parts#fittings")  # fmt: skip


def hits(conn: Connection, asked: Asked) -> list[Hit]:
    """What holds all the words, the likeliest first: names that begin with them, then the rest."""
    words = asked.q.casefold().split()
    if not words:
        return []
    wanted = [{word, ALSO.get(word, word)} for word in words]
    taken: dict[tuple[str, str], tuple[int, Hit]] = {}
    for hit in _everything(conn, asked.job):
        name, text = hit.name.casefold(), f"{hit.name} {hit.about}".casefold()
        if all(any(re.search(rf"\b{re.escape(way)}", text) for way in ways) for ways in wanted):
            rank = 0 if name.startswith(words[0]) else 1 if words[0] in name else 2
            taken.setdefault((hit.name, hit.address.split("#")[0]), (rank, hit))
    sought = Sought(today := datetime.now(UTC).date(), asked.q)
    in_jobs = [
        Hit(say("job"), row.name, row.place, f"/jobs/{row.id}") for row in job_rows(conn, today) if sought.fits(row)
    ]
    best = sorted(taken.values(), key=lambda one: one[0])
    return [*(hit for _, hit in best[: MOST - len(in_jobs[:6])]), *in_jobs[:6]]


@router.get("/find")
def find(request: Request, conn: Db, asked: Annotated[Asked, Query()]) -> Response:
    """What was found: as a list for the page that asked, or as a page of its own."""
    part = request.headers.get("hx-request-type") == "partial"
    context = {"asked": asked, "hits": hits(conn, asked)}
    return page(request, "find/_hits.html" if part else "find/page.html", context)
