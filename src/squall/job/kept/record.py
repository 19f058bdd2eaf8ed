"""What is kept of a kit beside its job: its log, what was done of its upkeep, when it was handed over, what its logger counted."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date

from squall.core.upkeep.due import Last
from squall.job.document.job import Visit


@dataclass(frozen=True)
class LoggedHours:
    """What a logger's file counted: its first and last day, hours that the pump ran, hours that its rows stand for. [h]"""

    first: date
    last: date
    hours: float
    covered_h: float


@dataclass(frozen=True)
class BornReading:
    """A reading of the birth certificate: its check, what it showed, and the light of its moment where that was read. [SI], [W/m2]"""

    check: str
    value: float | tuple[float, ...]
    light_w_m2: float | None


@dataclass(frozen=True)
class Record:
    """All of it, for the chosen kit of a job.

    Attributes
    ----------
    docs : sequence of Visit
        The job's log, newest first; visits of its other kits among them.
    lasts : mapping
        When each job of the upkeep was done last.
    begun : date or None
        When its birth certificate was kept.
    logged : sequence of LoggedHours
        Of each of its logger's files.
    born : sequence of BornReading
        What the birth certificate holds of readings.
    """

    docs: Sequence[Visit] = ()
    lasts: Mapping[str, Last] = field(default_factory=dict)
    begun: date | None = None
    logged: Sequence[LoggedHours] = ()
    born: Sequence[BornReading] = ()

    def since(self, today: date) -> date:
        """Since when the kit is kept: its birth certificate, else its first visit or logged day, else today."""
        if self.begun is not None:
            return self.begun
        return min([*(day_of(doc.at) for doc in self.docs), *(one.first for one in self.logged)], default=today)


def day_of(at: str) -> date:
    """The day of a kept moment."""
    return date.fromisoformat(at[:10])
