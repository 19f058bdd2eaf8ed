"""The whole history of a job as one document: the job with its log, and all that was kept beside it."""

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import AfterValidator, Field, StringConstraints

from squall.core.faults.causes import Story
from squall.core.faults.checks import CHECKS, Kind
from squall.job.document.base import Doc
from squall.job.document.job import Job
from squall.job.trouble.search import SKIES

HISTORY_FORMAT: Literal["squall-history"] = "squall-history"
HISTORY_VERSION: Literal[1] = 1
MOST_KEPT = 20_000


def _moment(text: str) -> str:
    datetime.fromisoformat(text)
    return text


def _day(text: str) -> str:
    date.fromisoformat(text)
    return text


def _check(code: str) -> str:
    if code not in CHECKS:
        raise ValueError(f"{code} is no check of Squall's")
    return code


def _sky(code: str) -> str:
    if code not in SKIES:
        raise ValueError(f"{code} is no sky that Squall knows")
    return code


Short = Annotated[str, StringConstraints(max_length=60)]
Note = Annotated[str, StringConstraints(max_length=400)]
Moment = Annotated[str, StringConstraints(max_length=40), AfterValidator(_moment)]
Day = Annotated[str, StringConstraints(max_length=10), AfterValidator(_day)]
CheckCode = Annotated[str, AfterValidator(_check)]
SkyCode = Annotated[str, AfterValidator(_sky)]
# Nothing that is measured on such a kit is beyond this. [SI]
Reading = Annotated[float, Field(ge=-1e9, le=1e9)]
Value = Reading | Annotated[list[Reading], Field(max_length=100)] | None


class UpkeepRow(Doc):
    """A job of the upkeep that was done, or put off until a day with a reason."""

    option: Short
    task: Short
    at: Moment
    put_off: Day | None = None
    reason: Note = ""
    who: Note = ""


class ShownRow(Doc):
    """What a test or a check showed: a value in SI, an answer, or why it wasn't done."""

    check: CheckCode
    value: Value = None
    answer: Short | None = None
    skipped: Note | None = None
    typed: Note = ""
    at: Moment
    who: Note = ""


class ProofRow(ShownRow):
    """Such a test of the first day, and the kit that it is of."""

    option: Short


class BornRow(Doc):
    """A test as a birth certificate keeps it, with what was expected then, in SI."""

    check: CheckCode
    group: Short
    kind: Kind | None
    value: Value
    answer: Short | None
    skipped: Note | None
    at: Moment | Literal[""]
    low: Reading | None
    high: Reading | None
    sound: Short | None
    light_w_m2: Reading | None
    grade: Short | None


class BirthDoc(Doc):
    """A birth certificate: the tests that were kept when the kit was handed over."""

    option: Short
    at: Moment
    who: Note = ""
    rows: Annotated[list[BornRow], Field(max_length=200)]


class TickRow(Doc):
    """A step of fitting that was done."""

    option: Short
    step: Short
    at: Moment
    who: Note = ""
    note: Note = ""


class SearchDoc(Doc):
    """A search for what was wrong: how it began, what was seen, how it ended if it did."""

    option: Short
    begun_at: Moment
    who: Note = ""
    story: Story
    sky: SkyCode
    light: Short = ""
    air: Short = ""
    ended_at: Moment | None = None
    found: Short | None = None
    note: Note = ""
    seen: Annotated[list[ShownRow], Field(max_length=400)] = Field(default_factory=list)


class History(Doc):
    """All that is kept of a job but its photos and its older states; ``format`` and ``version`` open the file."""

    format: Literal["squall-history"] = HISTORY_FORMAT
    version: Literal[1] = HISTORY_VERSION
    job: Job
    upkeep: Annotated[list[UpkeepRow], Field(max_length=MOST_KEPT)] = Field(default_factory=list)
    births: Annotated[list[BirthDoc], Field(max_length=100)] = Field(default_factory=list)
    proofs: Annotated[list[ProofRow], Field(max_length=MOST_KEPT)] = Field(default_factory=list)
    ticks: Annotated[list[TickRow], Field(max_length=2000)] = Field(default_factory=list)
    searches: Annotated[list[SearchDoc], Field(max_length=2000)] = Field(default_factory=list)

    @property
    def alone(self) -> bool:
        """Whether nothing was kept beside the job."""
        return not (self.upkeep or self.births or self.proofs or self.ticks or self.searches)
