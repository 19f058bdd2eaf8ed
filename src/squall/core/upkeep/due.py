"""What is due on a kit, and when: by days, by hours run, by season, each from when it was done last or put off to."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal

Code = Literal[
    "look", "screen", "box", "plugs", "battery", "pump-life", "tilt", "before-frost", "after-frost", "filters", "rope", "mice",
    "leaves", "first-rain",
]  # fmt: skip
_DAYS_A_YEAR = 365.25


@dataclass(frozen=True)
class Task:
    """A job that comes back.

    Attributes
    ----------
    code : str
        Its name.
    every_days : int
        After so many days; 0 where it goes by months or by hours. [d]
    months : tuple of int
        Months in whose first days it is due, 1 to 12.
    minutes : int
        What it takes. [min]
    """

    code: Code
    every_days: int
    minutes: int
    months: tuple[int, ...] = ()


# How often: common practice, no source.
LOOK, SCREEN, GRITTY_SCREEN, BOX, PLUGS, LEAD, LITHIUM, FILTERS, ROPE, MICE = (
    30,
    60,
    21,
    180,
    180,
    60,
    180,
    30,
    365,
    365,
)
# A pump is renewed before it stops: at this share of its life. Common practice, no source. [-]
WORN_SHARE = 0.9


@dataclass(frozen=True)
class Place:
    """What a kit and its place ask for.

    Attributes
    ----------
    gritty : bool
        Whether the water brings sand, silt, clay, weed or leaves.
    chemistry : str
        Of its battery; empty without one.
    hangs : bool
        Whether its pump hangs on a rope.
    drips : bool
        Whether drippers hang on it.
    roof : bool
        Whether rain off a roof fills it.
    tilts : tuple of int
        Months in which the panels are turned; empty where they stay.
    frost : tuple of int
        Months whose nights freeze, 1 to 12; empty without any.
    life_h, hours_a_year : float
        Hours until the pump is worn, and run in a year. [h]
    """

    gritty: bool = False
    chemistry: str = ""
    hangs: bool = False
    drips: bool = False
    roof: bool = False
    tilts: tuple[int, ...] = ()
    frost: tuple[int, ...] = ()
    life_h: float = 0.0
    hours_a_year: float = 0.0


@dataclass(frozen=True)
class Last:
    """When a job was done last, and until when it is put off with what reason."""

    done: date | None = None
    put_off: date | None = None
    reason: str = ""


@dataclass(frozen=True)
class Due:
    """A job with its day."""

    task: Task
    on: date
    last: Last

    def late(self, today: date) -> bool:
        """Whether its day is over."""
        return self.on < today


def tasks_of(place: Place) -> tuple[Task, ...]:
    """Every job that comes back on a kit, as its place asks.

    Examples
    --------
    >>> [task.code for task in tasks_of(Place())]
    ['look', 'screen', 'box', 'plugs', 'mice']
    """
    found = [
        Task("look", LOOK, 10), Task("screen", GRITTY_SCREEN if place.gritty else SCREEN, 15), Task("box", BOX, 15),
        Task("plugs", PLUGS, 20),
    ]  # fmt: skip
    if place.chemistry:
        found.append(Task("battery", LEAD if place.chemistry.startswith("lead") else LITHIUM, 10))
    if place.life_h > 0.0 and place.hours_a_year > 0.0:
        found.append(Task("pump-life", int(WORN_SHARE * place.life_h / place.hours_a_year * _DAYS_A_YEAR), 60))
    if place.tilts:
        found.append(Task("tilt", 0, 20, place.tilts))
    if place.frost and len(place.frost) < 12:
        found.append(Task("before-frost", 0, 45, (_month_before(_first_of(place.frost)),)))
        found.append(Task("after-frost", 0, 30, (_last_of(place.frost) % 12 + 1,)))
    if place.drips:
        found.append(Task("filters", FILTERS, 10))
    if place.hangs:
        found.append(Task("rope", ROPE, 20))
    if place.roof:
        found.append(Task("leaves", LOOK, 15))
    found.append(Task("mice", MICE, 10))
    return tuple(found)


def _month_before(month: int) -> int:
    return (month - 2) % 12 + 1


def _first_of(months: Sequence[int]) -> int:
    """The month that follows one outside the run."""
    return next(month for month in months if _month_before(month) not in months)


def _last_of(months: Sequence[int]) -> int:
    return next(month for month in months if month % 12 + 1 not in months)


def due_on(task: Task, last: Last, begun: date) -> date:
    """The day on which a job is due next.

    Parameters
    ----------
    task : Task
        The job.
    last : Last
        When it was done, and until when it is put off.
    begun : date
        When the kit's keeping began: what was never done counts from there.

    Returns
    -------
    date
        Never before what it is put off to.
    """
    since = last.done or begun
    if task.months:
        on = _next_month(task.months, since, done=last.done is not None)
    else:
        on = since + timedelta(days=min(task.every_days, 36_500))
    return on if last.put_off is None or last.put_off < on else last.put_off


def _next_month(months: Sequence[int], since: date, *, done: bool) -> date:
    """First day of the next of some months after a day; where it was done within three weeks before one, that one is past."""
    at = since + timedelta(days=21 if done else 0)
    for step in range(25):
        month = (at.month - 1 + step) % 12 + 1
        first = date(at.year + (at.month - 1 + step) // 12, month, 1)
        if month in months and first > (at if done else since - timedelta(days=31)):
            return first
    return since


def due_of(tasks: Sequence[Task], lasts: Mapping[str, Last], begun: date) -> tuple[Due, ...]:
    """All jobs with their days, the soonest first."""
    none = Last()
    found = [Due(task, due_on(task, lasts.get(task.code, none), begun), lasts.get(task.code, none)) for task in tasks]
    return tuple(sorted(found, key=lambda due: (due.on, due.task.code)))
