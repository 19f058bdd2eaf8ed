"""The log of a kit: the day of a visit, an entry put right, and the entries that somebody looks for."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime

from squall.core.errors import BadQuantity, SquallError
from squall.core.prove.expect import Point
from squall.core.upkeep.states import DONE
from squall.job.document.base import own
from squall.job.document.job import Visit
from squall.job.edit.changes import now_stamp
from squall.job.kept.hours import meter_of
from squall.job.kept.record import day_of
from squall.job.kept.upkeep import DONE_WORDS, Read
from squall.job.told.prove import KIND, put_right
from squall.words import later, say
from squall.words.units import System

# Readings that nothing else of a visit was judged by: the amps that told the light and the volts at rest are not among them.
ALONE: frozenset[Point] = frozenset({"open-volts", "pump-volts", "pump-amps", "outlet-flow"})


def moment_of(on: str) -> str:
    """The moment of a visit: now, or noon of the day typed.

    Raises
    ------
    BadQuantity
        For what is no day, or one that is yet to come.
    """
    day = _day(on)
    if day is None:
        return now_stamp()
    today = datetime.now(UTC).date()
    if day > today:
        raise BadQuantity(later("{on} is yet to come: a visit is of today or before.", on=day.isoformat()))
    if day.year < 1990:
        raise BadQuantity(later("{on} is before any kit of this kind stood.", on=day.isoformat()))
    return now_stamp() if day == today else f"{day.isoformat()}T12:00Z"


def _day(text: str) -> date | None:
    if not text.strip():
        return None
    try:
        return date.fromisoformat(text.strip())
    except ValueError:
        raise BadQuantity(later("{on:quoted} is not a day; write it as 2026-11-25.", on=text.strip()[:20])) from None


def done_in(form: Mapping[str, str]) -> list[str]:
    """What was done, by the boxes ticked."""
    return [code for code in DONE if form.get(f"done-{code}")]


def put_visit_right(visit: Visit, form: Mapping[str, str], units: System) -> tuple[Visit, dict[str, str]]:
    """An entry as somebody puts it right, and what can't be read of that, by field.

    Parameters
    ----------
    visit : Visit
        As it stands. Its light, its kit and the readings that others were judged by stay.
    form : mapping
        Text by test point (empty: that reading is taken out), ``on``, ``meter``, ``note``, and ``done-`` boxes.
    units : str
        In which a bare number is read.
    """
    problems: dict[str, str] = {}
    at, meter, values = visit.at, visit.meter, []
    try:
        if form.get("on", "").strip() not in ("", visit.at[:10]):
            at = moment_of(form["on"])
    except SquallError as error:
        problems["on"] = str(error)
    try:
        given = form.get("meter", "").strip()
        if meter is None or given not in (meter.typed, own(meter, "hours")):
            meter = meter_of(given, units)
    except SquallError as error:
        problems["meter"] = str(error)
    for value in visit.values:
        given = form.get(value.point, own(value.measured, KIND[value.point])).strip()
        if value.point not in ALONE:
            values.append(value)
        elif given:
            try:
                values.append(put_right(value, given, units))
            except SquallError as error:
                problems[value.point] = str(error)
    note = form.get("note", "").strip()[:400]
    # What a newer Squall calls something that was done stays as it is.
    done = [*done_in(form), *(code for code in visit.done if code not in DONE)]
    made = visit.model_copy(
        update={"at": at, "meter": meter, "values": values, "done": done, "note": " ".join(note.split())}
    )
    if not problems and not (values or made.done or made.note or made.meter):
        problems["form"] = say("Nothing would be left of this visit; take it out instead.")
    return made, problems


@dataclass(frozen=True)
class Sought:
    """Which entries of a log somebody looks for: words in it, days from and to, and only those that aren't counted."""

    words: str = ""
    since: date | None = None
    until: date | None = None
    uncounted: bool = False

    @property
    def all(self) -> bool:
        """Whether every entry is looked for."""
        return self == Sought()

    def finds(self, read: Read) -> bool:
        """Whether an entry is one of them."""
        day = day_of(read.doc.at)
        if (self.since is not None and day < self.since) or (self.until is not None and day > self.until):
            return False
        if self.uncounted and read.visit is not None:
            return False
        if not self.words:
            return True
        words = {str(code): str(said) for code, said in DONE_WORDS.items()}
        told = [
            read.doc.note,
            read.doc.option,
            read.doc.put_right_by,
            *(words.get(code, code) for code in read.doc.done),
        ]
        return all(word in " ".join(told).casefold() for word in self.words.casefold().split())

    def of(self, reads: Sequence[Read]) -> list[Read]:
        """Those of a log."""
        return list(reads) if self.all else [read for read in reads if self.finds(read)]


def sought_in(asked: Mapping[str, str]) -> Sought:
    """What somebody looks for in a log, as typed: ``words``, ``since``, ``until``, ``uncounted``.

    Raises
    ------
    BadQuantity
        For what is no day, or days the wrong way round.
    """
    since, until = _day(asked.get("since", "")), _day(asked.get("until", ""))
    if since is not None and until is not None and since > until:
        raise BadQuantity(
            later("{since} comes after {until}: turn the days round.", since=since.isoformat(), until=until.isoformat())
        )
    return Sought(asked.get("words", "").strip()[:80], since, until, bool(asked.get("uncounted")))
