"""What is due on a kit as a calendar file (iCalendar, RFC 5545): a whole day for each job, with why and what to take."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta

from icalendar import Calendar, Event

from squall.core.reason import Reason
from squall.core.upkeep.due import Due
from squall.job.document.fitting import ForNowRow
from squall.words import say


@dataclass(frozen=True)
class KitDue:
    """What is due on one kit.

    Attributes
    ----------
    name : str
        Of the job.
    job_id, option : int, str
        By which a calendar that is read again knows an entry.
    due : sequence of Due
        Jobs with their days.
    for_now : sequence of ForNowRow
        What was fitted for now, with the day by which it is put right.
    place : str
        Where it stands.
    """

    name: str
    job_id: int
    option: str
    due: Sequence[Due]
    for_now: Sequence[ForNowRow]
    place: str = ""


def calendar_of(title: str, kits: Sequence[KitDue], made: datetime | None = None) -> bytes:
    """The jobs due on some kits as a calendar.

    Parameters
    ----------
    title : str
        What the calendar is called.
    kits : sequence of KitDue
        What is due on each.
    made : datetime, optional
        The moment it is made.
    """
    calendar = Calendar()
    calendar.add("prodid", "-//Squall//upkeep//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", title)
    at = made or datetime.now(UTC)
    for kit in kits:
        _add_kit(calendar, kit, at)
    return bytes(calendar.to_ical())


def _add_kit(calendar: Calendar, kit: KitDue, at: datetime) -> None:
    for one in kit.due:
        code = one.task.code
        told = [
            str(Reason(f"due-{code}-why")),
            say("About {minutes} min; take: {tools}.", minutes=one.task.minutes, tools=Reason(f"due-{code}-tools")),
        ]
        if one.last.reason:
            told.append(say("Put off: {reason}", reason=one.last.reason))
        calendar.add_component(
            _event(f"{code}-{kit.option}-{kit.job_id}", one.on, f"{kit.name}: {Reason(f'due-{code}')}", " ".join(told), kit.place, at)
        )  # fmt: skip
    for row in kit.for_now:
        what = say("{name}: put right what was for now: {what}", name=kit.name, what=row.what)
        key, on = f"for-now-{row.id}-{kit.job_id}", date.fromisoformat(row.until)
        calendar.add_component(_event(key, on, what, "", kit.place, at))


def _event(key: str, on: date, title: str, told: str, place: str, at: datetime) -> Event:
    event = Event()
    event.add("uid", f"{key}@squall.invalid")
    event.add("dtstamp", at)
    event.add("dtstart", on)
    event.add("dtend", on + timedelta(days=1))
    event.add("summary", title)
    if told:
        event.add("description", told)
    if place:
        event.add("location", place)
    event.add("transp", "TRANSPARENT")
    return event
