"""What is due on a kit as a calendar file (iCalendar, RFC 5545): a whole day for each job, with why and what to take."""

from collections.abc import Sequence
from datetime import UTC, date, datetime, timedelta

from icalendar import Calendar, Event

from squall.core.reason import Reason
from squall.core.upkeep.due import Due
from squall.job.document.fitting import ForNowRow
from squall.words import say


def calendar_of(name: str, job_id: int, option: str, due: Sequence[Due], for_now: Sequence[ForNowRow], made: datetime | None = None) -> bytes:  # fmt: skip
    """The jobs due on one kit as a calendar.

    Parameters
    ----------
    name : str
        Of the job.
    job_id, option : int, str
        By which a calendar that is read again knows an entry.
    due : sequence of Due
        Jobs with their days.
    for_now : sequence of ForNowRow
        What was fitted for now, with the day by which it is put right.
    made : datetime, optional
        The moment it is made.
    """
    calendar = Calendar()
    calendar.add("prodid", "-//Squall//upkeep//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", say("Upkeep: {name}", name=name))
    at = made or datetime.now(UTC)
    for one in due:
        code = one.task.code
        told = [
            str(Reason(f"due-{code}-why")),
            say("About {minutes} min; take: {tools}.", minutes=one.task.minutes, tools=Reason(f"due-{code}-tools")),
        ]
        if one.last.reason:
            told.append(say("Put off: {reason}", reason=one.last.reason))
        calendar.add_component(
            _event(f"{code}-{option}-{job_id}", one.on, f"{name}: {Reason(f'due-{code}')}", " ".join(told), at)
        )
    for row in for_now:
        what = say("{name}: put right what was for now: {what}", name=name, what=row.what)
        calendar.add_component(_event(f"for-now-{row.id}-{job_id}", date.fromisoformat(row.until), what, "", at))
    return bytes(calendar.to_ical())


def _event(key: str, on: date, title: str, told: str, at: datetime) -> Event:
    event = Event()
    event.add("uid", f"{key}@squall.invalid")
    event.add("dtstamp", at)
    event.add("dtstart", on)
    event.add("dtend", on + timedelta(days=1))
    event.add("summary", title)
    if told:
        event.add("description", told)
    event.add("transp", "TRANSPARENT")
    return event
