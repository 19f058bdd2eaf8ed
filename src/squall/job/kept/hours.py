"""How long a pump has run: by its hour meter where somebody read it, else by a year's run between the visits."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

from squall.core.errors import BadQuantity
from squall.job.document.base import Typed, quantity
from squall.job.document.job import Visit
from squall.words import later
from squall.words.units import System, parse

# Two readings of a meter tell how much it runs in a year once so many days lie between. [d]
LEAST_DAYS = 30
_DAYS_A_YEAR, _HOURS_A_DAY = 365.25, 24.0
# A meter shows no more than this. [h]
MOST_METER_H = 200_000.0


@dataclass(frozen=True)
class HoursRun:
    """Hours that a pump has run since a day, how many that is in a year, and by what it is known. [h]"""

    hours: float
    a_year: float
    by: Literal["meter", "year"]
    since: date
    until: date


def hours_run(visits: Sequence[Visit], option: str, begun: date, today: date, hours_a_year: float) -> HoursRun:
    """Hours that the pump of a kit has run.

    Parameters
    ----------
    visits : sequence of Visit
        In any order.
    option : str
        Name of the kit; visits of others don't count.
    begun, today : date
        Since when the kit is kept; the day that is asked about.
    hours_a_year : float
        By the years worked out, where no meter tells. [h]

    Returns
    -------
    HoursRun
        Since the pump was renewed last, else since `begun`. Before the first reading of the meter and after its last the pump
        is taken to have run as it did between.

    Notes
    -----
    A meter that shows less than before, or more hours than there were, was changed or misread: what came before doesn't count.
    """
    own = sorted(
        (v for v in visits if v.option == option and date.fromisoformat(v.at[:10]) <= today), key=lambda v: v.at
    )
    renewed = [date.fromisoformat(v.at[:10]) for v in own if "pump-renewed" in v.done]
    since = max([begun, *renewed[-1:]])
    read: list[tuple[date, float]] = []
    for visit in own:
        day = date.fromisoformat(visit.at[:10])
        if visit.meter is None or day < since:
            continue
        hours = visit.meter.si
        if read and not 0.0 <= hours - read[-1][1] <= _HOURS_A_DAY * ((day - read[-1][0]).days + 1):
            read = []
        read.append((day, hours))
    if len(read) >= 2 and (days := (read[-1][0] - read[0][0]).days) >= LEAST_DAYS:
        a_year = (read[-1][1] - read[0][1]) / days * _DAYS_A_YEAR
        outside = (today - since).days - days
        return HoursRun(read[-1][1] - read[0][1] + a_year * outside / _DAYS_A_YEAR, a_year, "meter", since, today)
    return HoursRun(hours_a_year * (today - since).days / _DAYS_A_YEAR, hours_a_year, "year", since, today)


def meter_of(text: str, units: System) -> Typed | None:
    """What an hour meter showed, as typed; None where nothing is. [h]

    Raises
    ------
    BadQuantity
        For what is no count of hours.
    """
    if not text.strip():
        return None
    hours = parse(text, "hours", units)
    if not 0.0 <= hours <= MOST_METER_H:
        raise BadQuantity(later("{text:quoted} is no count of a pump's hours.", text=text[:30]))
    return quantity(text.strip()[:60], hours)
