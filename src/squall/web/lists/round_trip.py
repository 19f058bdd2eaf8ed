"""The round: what is due on every kit of the yard in the coming days, place by place, and what to load for it."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from sqlite3 import Connection
from typing import Annotated

from fastapi import APIRouter, Depends, Query, Request, Response

from squall.core.errors import NotFound, SquallError
from squall.core.reason import Reason
from squall.core.upkeep.due import Due
from squall.formats.upkeep_calendar import KitDue, calendar_of
from squall.job.kept.board import UNSEEN_DAYS
from squall.job.kept.for_now import overdue
from squall.job.kept.record import day_of
from squall.job.kept.upkeep import due_now
from squall.job.worked.assess import assess
from squall.store.jobs import Stored, all_jobs, one_job
from squall.store.kit.record import record_of
from squall.store.sessions import feed_of
from squall.web.frame.pages import database, page
from squall.words import later, say

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
SPANS = (7, 14, 30, 90)


@dataclass(frozen=True)
class Stop:
    """A kit on the round: what is due there, what was fitted for now and is over its day, when somebody was there last."""

    stored: Stored
    due: tuple[Due, ...]
    for_now: tuple[str, ...]
    seen: date | None
    unseen: bool
    problem: str = ""

    @property
    def minutes(self) -> int:
        """How long all of it takes there. [min]"""
        return sum(one.task.minutes for one in self.due)

    @property
    def wanted(self) -> bool:
        """Whether somebody should go there."""
        return bool(self.due or self.for_now or self.unseen or self.problem)


def stop_of(conn: Connection, stored: Stored, today: date, days: int) -> Stop | None:
    """A job as a stop of the round; None where there is no kit to look after."""
    try:
        a = assess(stored.job)
        if a.chosen is None:
            return None
        record = record_of(conn, stored.id, a.chosen.option.id)
        docs, begun = record.docs, record.begun
        until = today + timedelta(days=days)
        due = tuple(one for one in due_now(stored.job, a, a.chosen, record, today) if one.on <= until)
        own = [day_of(doc.at) for doc in docs if doc.option == a.chosen.option.name and day_of(doc.at) <= today]
        seen = max([*own, *([begun] if begun is not None else [])], default=None)
        unseen = seen is not None and (today - seen).days > UNSEEN_DAYS
        return Stop(stored, due, tuple(row.what for row in overdue(stored.job, today)), seen, unseen)
    except SquallError as error:
        return Stop(stored, (), (), None, False, str(error))


def by_place(stops: Sequence[Stop]) -> list[tuple[str, list[Stop]]]:
    """Stops by their place, those of no place last; in each the one that has waited longest first."""
    groups: dict[str, list[Stop]] = {}
    for stop in stops:
        groups.setdefault(stop.stored.job.place.strip(), []).append(stop)
    for rows in groups.values():
        rows.sort(key=lambda stop: (min((one.on for one in stop.due), default=date.max), stop.stored.job.name))
    return sorted(groups.items(), key=lambda group: (not group[0], group[0].casefold()))


def to_take(stops: Sequence[Stop]) -> list[str]:
    """What to load: the tools and parts of everything that is due, each once."""
    codes = dict.fromkeys(one.task.code for stop in stops for one in stop.due)
    return list(dict.fromkeys(thing.strip() for code in codes for thing in str(Reason(f"due-{code}-tools")).split(",")))


@router.get("/round")
def round_trip(request: Request, conn: Db, days: Annotated[int, Query(ge=1, le=366)] = 30) -> Response:
    """All that is due within some days, place by place."""
    today = datetime.now(UTC).date()
    every = [stop for stored in all_jobs(conn) if (stop := stop_of(conn, stored, today, days)) is not None]
    stops = [stop for stop in every if stop.wanted]
    context = {
        "groups": by_place(stops), "days": days, "spans": SPANS, "today": today, "take": to_take(stops), "kits": len(every), "stops": len(stops),
        "minutes": sum(stop.minutes for stop in stops), "late": sum(one.late(today) for stop in stops for one in stop.due), "reason": Reason,
    }  # fmt: skip
    return page(request, "round/round.html", context)


# A calendar is told what comes within so many days. [d]
TOLD_DAYS = 366


@router.get("/calendar/{code}.ics")
def followed(code: str, conn: Db) -> Response:
    """What is due on one kit or on all, for a calendar that follows: the code in its address opens this file alone.

    Raises
    ------
    NotFound
        For a code that nobody made, or that was ended.
    """
    feed = feed_of(conn, code)
    if feed is None:
        raise NotFound(later("No calendar is told under this address any more."))
    today = datetime.now(UTC).date()
    jobs = all_jobs(conn) if feed.job_id is None else [one_job(conn, feed.job_id)]
    stops = [stop for stored in jobs if (stop := stop_of(conn, stored, today, TOLD_DAYS)) is not None]
    kits = [
        KitDue(job.name, stop.stored.id, job.chosen or "", stop.due, job.fit.for_now, job.place)
        for stop in stops
        if (job := stop.stored.job)
    ]
    name = say("all kits") if feed.job_id is None else jobs[0].job.name
    made = calendar_of(say("Upkeep: {name}", name=name), kits)
    return Response(made, media_type="text/calendar; charset=utf-8")
