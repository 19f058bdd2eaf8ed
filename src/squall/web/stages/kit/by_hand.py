"""Kits by hand, on the Kits page: the kit as it stands entered, its slots, what is owned, copies older than the shelf's."""

from collections.abc import Mapping
from dataclasses import dataclass
from sqlite3 import Connection
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Form, Request, Response
from pydantic import BaseModel

from squall.catalogue import catalogue
from squall.catalogue.families import FAMILIES
from squall.core.electrics.conductors import conductor
from squall.core.errors import NotFound, SquallError
from squall.core.reason import Spoken
from squall.job.document.fields import spec as field_spec
from squall.job.document.job import Job
from squall.job.document.parts import part_choices
from squall.job.document.power import LOT
from squall.job.edit.kits import carried_of, enter_kit, own_part, renew_part
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.own_parts import lot_of
from squall.store.jobs import change_job, one_job
from squall.store.shelf import count_in_van, counts_in_van
from squall.web.frame.edits import answer, make
from squall.web.frame.job_page import Notices
from squall.web.frame.pages import database, prefs_of, refusal_of
from squall.words import later, say

router = APIRouter()
SLOTS = ("pumps", "panels", "controllers", "batteries", "tanks", "devices")
Db = Annotated[Connection, Depends(database)]


class EnterForm(BaseModel):
    """The kit as it stands, as it is typed."""

    pump: str = ""
    panel: str = ""
    source: str = ""
    in_series: str = "1"
    in_parallel: str = "1"
    pump_cable: str = ""


@dataclass(frozen=True)
class OldCopy:
    """A part that the shelf has changed since the job took it, and what taking the new one would do."""

    part: str
    name: str
    effect: Spoken


@dataclass(frozen=True)
class FromVan:
    """One part of the kit: how many it takes, how many the van has."""

    name: str
    wanted: int
    there: int


def from_van(a: Assessment, job: Job, counts: dict[str, int]) -> list[FromVan]:
    """What the chosen kit takes from the van; what can't be named any more is left out."""
    if job.option is None:
        return []
    found = []
    for part, wanted in carried_of(job, job.option).items():
        named = next((known for slot in SLOTS if (known := a.parts.slot(slot).get(part)) is not None), None)
        if named is not None:
            found.append(FromVan(named.title, wanted, min(counts.get(part, 0), wanted)))
    return found


def by_hand(a: Assessment, job: Job, counts: dict[str, int]) -> dict[str, Any]:
    """What the Kits page needs for its slots, its own parts, and its older copies."""
    spec = {slot: part_choices("options", slot, a.parts) for slot in ("pump", "panel", "source")}
    owned = part_choices("owned", "part", a.parts)
    titles = {} if owned is None or owned.choices is None else owned.choices
    return {
        "slot_choices": {slot: found.choices for slot, found in spec.items() if found is not None},
        "enter_labels": {slot: field_spec(f"options.o1.{slot}", a.parts).label for slot in EnterForm.model_fields},
        "owned_choices": titles,
        "owned_groups": _groups(a, titles),
        "old_copies": old_copies(job),
        "option": job.option,
        "lot": lot_of(job, a.parts),
        "lot_panels": {key: panel.title for key, panel in a.parts.panels.items() if key != LOT},
        "from_van": from_van(a, job, counts),
        "cable_labels": _labels(job),
    }


def _groups(a: Assessment, titles: Mapping[str, Spoken]) -> list[tuple[Spoken, dict[str, Spoken]]]:
    """Parts to choose from, under the name of their kind."""
    known = {family.slot: family.title for family in FAMILIES.values()} | {"controllers": later("Controllers")}
    sorted_out = [(known[slot], {key: titles[key] for key in a.parts.slot(slot) if key in titles}) for slot in SLOTS]
    return [(title, rows) for title, rows in sorted_out if rows]


def _labels(job: Job) -> dict[str, str]:
    """How the chosen kit's cables are called."""
    o = job.option
    sizes = {} if o is None else {"pump": o.pump_cable, "array": o.array_cable}
    return {run: conductor(size).label for run, size in sizes.items() if size}


def old_copies(job: Job) -> list[OldCopy]:
    """The job's copies that aren't as the shelf has them now."""
    held, found = catalogue(), []
    for copy in job.parts:
        now = held.rows.get(copy.id)
        if now is not None and dict(now[1]) != copy.row:
            found.append(OldCopy(copy.id, copy.row.get("name", copy.id), _effect(job, copy.id)))
    return found


def _effect(job: Job, part_id: str) -> Spoken:
    try:
        was, will = assess(job).chosen, assess(renew_part(job, part_id, catalogue())[0]).chosen
    except SquallError as error:
        return error.said
    if was is None or will is None or part_id not in _named(job):
        return later("the chosen kit doesn't use it")
    if will.refusal is not None:
        return later("the kit would be refused: {why}", why=will.refusal)
    return later(
        "{will:litres} a day in the worst month in place of {was:litres}, price {new:.0f} in place of {old:.0f}",
        will=will.worst_litres / 1000.0, was=was.worst_litres / 1000.0, new=will.price, old=was.price,
    )  # fmt: skip


def _named(job: Job) -> set[str | None]:
    o = job.option
    return set() if o is None else {o.pump, o.panel, o.controller, o.battery, o.hose, o.tank}


@router.post("/jobs/{job_id}/kits/enter")
def enter(job_id: int, request: Request, conn: Db, form: Annotated[EnterForm, Form()]) -> Response:
    """Enter the kit as it stands."""
    asked = form.model_dump()

    def change(job: Job) -> tuple[Job, Spoken]:
        return enter_kit(job, asked, catalogue())

    try:
        stored = change_job(conn, job_id, change, prefs_of(request).who, check=assess)
    except SquallError as error:
        notices = Notices(errors={"enter": str(error)}, typed={f"enter.{key}": text for key, text in asked.items()})
        return answer(request, conn, one_job(conn, job_id), "kits", notices, refusal_of(error))
    return answer(request, conn, stored, "kits")


@router.post("/jobs/{job_id}/kits/fitted")
def fitted(job_id: int, request: Request, conn: Db) -> Response:
    """Take what the chosen kit takes out of the van's counts."""
    job = one_job(conn, job_id).job
    if job.option is None:
        raise NotFound(later("No kit is chosen yet; take one on the Kits page first."))
    counts = counts_in_van(conn)
    count_in_van(
        conn,
        {part: max(counts.get(part, 0) - n, 0) for part, n in carried_of(job, job.option).items() if part in counts},
    )
    return answer(
        request,
        conn,
        one_job(conn, job_id),
        "kits",
        Notices(banner=say("The van's counts are less by what this kit takes.")),
    )


@router.post("/jobs/{job_id}/kits/own")
def own(
    job_id: int, request: Request, conn: Db, part: Annotated[str, Form()] = "", count: Annotated[str, Form()] = "1"
) -> Response:
    """Say that a part is there already."""
    return make(request, conn, job_id, "kits", lambda job: own_part(job, part, count, catalogue()))
