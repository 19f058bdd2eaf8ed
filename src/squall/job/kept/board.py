"""How a job stands on the board of the yard: what needs a hand there, what comes next, how its water went."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal, get_args

from squall.core.errors import SquallError
from squall.core.upkeep.states import DONE, Done, State
from squall.job.document.job import Job, Visit
from squall.job.kept.record import Record, day_of
from squall.job.kept.told import FORETELLS
from squall.job.kept.upkeep import Kept, due_now, kept_of, run_of
from squall.job.told.verdict import Grade, gaps_in, verdict_of
from squall.job.worked.assess import assess
from squall.job.worked.kit import KitAssessment
from squall.words import Message, later

Hand = Literal["unsafe", "short", "worn", "due", "unseen", "fine", "open"]
HANDS: tuple[Hand, ...] = get_args(Hand)
HAND_WORDS: Mapping[Hand, Message] = {
    "unsafe": later("Not safe as it is wired"), "short": later("Short of water"), "worn": later("Wearing"), "due": later("Something is due"),
    "unseen": later("Nobody was there for long"), "fine": later("Fine"), "open": later("On paper: not fitted yet"),
}  # fmt: skip
# A kit that nobody has seen for so long is told, whatever is due; what is due within so many asks for a hand already. [d]
UNSEEN_DAYS, SOON_DAYS = 120, 7
# So many readings of the outlet are drawn as its course.
COURSE = 12
# What was fitted for now, among the codes of what is due.
FOR_NOW = "for-now"


@dataclass(frozen=True)
class Course:
    """What came out at a visit, over what a kit without fault gives in that light. [-]"""

    on: date
    share: float


@dataclass(frozen=True)
class Standing:
    """How a job stood when it was last worked out; what hangs on the day is told by its dates.

    Attributes
    ----------
    grade : str
        The verdict's.
    missing : tuple of str
        What is missing, by its keys.
    pump : str
        Title of its kit's pump; empty without a kit.
    seen : date or None
        When somebody was there last; None for a kit that nobody has fitted.
    short_from : date or None
        When too little comes if nothing is done; None for not within three years, or too few visits.
    worn : tuple of str
        States worn beyond doubt.
    less : bool
        Whether it gives less than stated beyond doubt, whichever part wears.
    due : tuple
        Each job that comes back, and what was for now, with its day, the soonest first.
    course : tuple of Course
        What came out at its visits, the oldest first.
    life_h : float
        Hours that its pump is made for. [h]
    renewed : tuple
        Each day on which its pump was renewed, and the hours that the old one had run.
    done : tuple
        What was done to it at its visits, with the day.
    """

    grade: Grade
    missing: tuple[str, ...] = ()
    pump: str = ""
    seen: date | None = None
    short_from: date | None = None
    worn: tuple[State, ...] = ()
    less: bool = False
    due: tuple[tuple[str, date], ...] = ()
    course: tuple[Course, ...] = ()
    life_h: float = 0.0
    renewed: tuple[tuple[date, float], ...] = ()
    done: tuple[tuple[Done, date], ...] = ()

    def hands(self, today: date) -> tuple[Hand, ...]:
        """What needs a hand, the most urgent first; of a kit that stands and wants nothing, that it is fine."""
        if self.seen is None:
            return ("open",)
        soon = today + timedelta(days=SOON_DAYS)
        asked: dict[Hand, bool] = {
            "unsafe": "wiring" in self.missing,
            "short": self.grade in ("short", "stopped") or (self.short_from is not None and self.short_from <= today + timedelta(days=31)),
            "worn": bool(self.worn) or self.less,
            "due": any(on <= soon for _, on in self.due),
            "unseen": (today - self.seen).days > UNSEEN_DAYS,
        }  # fmt: skip
        return tuple(hand for hand, wanted in asked.items() if wanted) or ("fine",)


def standing_of(job: Job, record: Record, today: date) -> Standing:
    """Work out how a job stands; one that can't be worked out is stopped.

    Parameters
    ----------
    job : Job
        The document.
    record : Record
        What is kept of it.
    today : date
        The day that is asked about.
    """
    try:
        a = assess(job)
        grade, gaps = verdict_of(a).grade, gaps_in(a, len(record.docs))
        chosen = a.chosen
        if chosen is None:
            return Standing(grade, gaps)
        own = [doc for doc in record.docs if doc.option == chosen.option.name and day_of(doc.at) <= today]
        seen = max([day_of(doc.at) for doc in own] + ([] if record.begun is None else [record.begun]), default=None)
        if seen is None:
            return Standing(grade, gaps, chosen.kit.pump.title)
        kept = kept_of(a, chosen, record, today)
        due: list[tuple[str, date]] = [(one.task.code, one.on) for one in due_now(job, a, chosen, record, today)]
        due += [(FOR_NOW, date.fromisoformat(row.until)) for row in job.fit.for_now]
        return Standing(
            grade, gaps, chosen.kit.pump.title, seen, kept.short_from if kept.believed >= FORETELLS else None,
            tuple(alarm.state for alarm in kept.worn.alarms), kept.less_beyond_doubt, tuple(sorted(due, key=lambda one: one[1])), course_of(kept),
            chosen.kit.life_h, _renewed(chosen, record, own), tuple((code, day_of(doc.at)) for doc in reversed(own) for code in DONE if code in doc.done),
        )  # fmt: skip
    except SquallError:
        return Standing("stopped")


def _renewed(chosen: KitAssessment, record: Record, own: Sequence[Visit]) -> tuple[tuple[date, float], ...]:
    """Each renewal of the pump, with the hours that the old one had run: from the one before, or from when the kit is kept."""
    found: list[tuple[date, float]] = []
    begun = None
    for day in sorted(day_of(doc.at) for doc in own if "pump-renewed" in doc.done):
        until = Record(
            [doc for doc in record.docs if day_of(doc.at) < day], {}, begun or record.since(day), record.logged
        )
        found.append((day, run_of(chosen, until, day).hours))
        begun = day
    return tuple(found)


def course_of(kept: Kept) -> tuple[Course, ...]:
    """What came out at the visits that count, over what was expected then, the oldest first."""
    found = [
        Course(day_of(read.doc.at), value.measured.si / value.expected)
        for read in kept.reads
        if read.visit is not None
        for value in read.doc.values
        # What was too near the starting light to be judged tells nothing.
        if value.point == "outlet-flow" and value.expected and value.verdict and "outlet-flow" in read.visit.readings
    ]
    return tuple(reversed(found[:COURSE]))
