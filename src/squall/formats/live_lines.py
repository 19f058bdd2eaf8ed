"""Lines that a logger sends as it reads: ``time,point,reading``, a line a reading; the time may stay empty.

A point is one of Prove's by its code, or ``light``, ``air``, ``level``; a reading has a unit, or is taken as volts, amps, litres a
minute, W/m2, °C or metres. A line of names, and what is empty, is passed over.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from squall.core.errors import BadQuantity, SquallError
from squall.core.explain import QuantityName
from squall.core.reason import Spoken
from squall.job.told.prove import KIND
from squall.words import later
from squall.words.units import parse

POINTS: Mapping[str, QuantityName] = {**KIND, "light": "irradiance", "air": "temperature", "level": "length"}
MOST_LINES = 1000
# A clock that is ahead by more than this, or behind by more than that, isn't believed: the line has come now.
AHEAD, BEHIND = timedelta(minutes=2), timedelta(days=7)


@dataclass(frozen=True)
class Line:
    """A reading of a line: when, at which point, in SI. [of the point]"""

    at: datetime
    point: str
    value: float


@dataclass(frozen=True)
class Lines:
    """What could be read, and the lines that couldn't, by their number, with why; how many had a clock that isn't believed."""

    read: tuple[Line, ...]
    refused: tuple[tuple[int, Spoken], ...]
    clock_off: int


def read_lines(body: str, now: datetime) -> Lines:
    """The lines of a body.

    Parameters
    ----------
    body : str
        As it was sent.
    now : datetime
        The moment that it came, with its zone: what has no time of its own was read then.
    """
    read: list[Line] = []
    refused: list[tuple[int, Spoken]] = []
    off = 0
    for number, text in enumerate(body.splitlines(), start=1):
        if not text.strip() or text.strip().casefold().replace(" ", "") == "time,point,reading":
            continue
        if len(read) + len(refused) >= MOST_LINES:
            refused.append((number, later("{most} lines at once are the most.", most=MOST_LINES)))
            break
        try:
            at, point, value = _line(text)
        except SquallError as error:
            refused.append((number, str(error)))
            continue
        if at is None or not now - BEHIND <= at <= now + AHEAD:
            off += at is not None
            at = now
        read.append(Line(at, point, value))
    return Lines(tuple(read), tuple(refused), off)


def _line(text: str) -> tuple[datetime | None, str, float]:
    cells = [cell.strip() for cell in text.split(",")]
    if len(cells) != 3:
        raise BadQuantity(later("A line is time,point,reading; this one has {n} cells.", n=len(cells)))
    time, point, reading = cells
    if point not in POINTS:
        raise BadQuantity(
            later("{point:quoted} is no point; it is one of {points}.", point=point[:40], points=", ".join(POINTS))
        )
    kind = POINTS[point]
    value = parse(reading[:60], kind, "metric")
    if value < 0.0 and kind != "temperature":
        raise BadQuantity(later("{typed:quoted} is less than nothing.", typed=reading[:40]))
    return _moment(time), point, value


def _moment(text: str) -> datetime | None:
    if not text:
        return None
    try:
        at = datetime.fromisoformat(text)
    except ValueError as error:
        raise BadQuantity(later("{typed:quoted} is no time, such as 2026-12-02T12:00:00Z.", typed=text[:40])) from error
    return at.replace(tzinfo=UTC) if at.tzinfo is None else at.astimezone(UTC)
