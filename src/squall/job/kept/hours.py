"""How long a pump has run: by its hour meter where somebody read it, else by its logger, else by a year's run between the visits."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

from squall.core.errors import BadQuantity
from squall.job.document.base import Typed, quantity
from squall.job.kept.record import LoggedHours, Record, day_of
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
    by: Literal["meter", "logger", "year"]
    since: date
    until: date


def hours_run(record: Record, option: str, today: date, hours_a_year: float) -> HoursRun:
    """Hours that the pump of a kit has run.

    Parameters
    ----------
    record : Record
        What is kept of the kit.
    option : str
        Name of the kit; visits of others don't count.
    today : date
        The day that is asked about.
    hours_a_year : float
        By the years worked out, where neither meter nor logger tells. [h]

    Returns
    -------
    HoursRun
        Since the pump was renewed last, else since the kit is kept. Where a meter was read that rules, else a logger; outside
        what they cover the pump is taken to have run as it did within.

    Notes
    -----
    A meter that shows less than before, or more hours than there were, was changed or misread: what came before doesn't count.
    """
    own = sorted((v for v in record.docs if v.option == option and day_of(v.at) <= today), key=lambda v: v.at)
    renewed = [day_of(v.at) for v in own if "pump-renewed" in v.done]
    since = max([record.since(today), *renewed[-1:]])
    read: list[tuple[date, float]] = []
    for visit in own:
        day = day_of(visit.at)
        if visit.meter is None or day < since:
            continue
        shown = visit.meter.si
        if read and not 0.0 <= shown - read[-1][1] <= _HOURS_A_DAY * ((day - read[-1][0]).days + 1):
            read = []
        read.append((day, shown))
    if len(read) >= 2 and (days := (read[-1][0] - read[0][0]).days) >= LEAST_DAYS:
        a_year = (read[-1][1] - read[0][1]) / days * _DAYS_A_YEAR
        outside = (today - since).days - days
        return HoursRun(read[-1][1] - read[0][1] + a_year * outside / _DAYS_A_YEAR, a_year, "meter", since, today)
    logged_h, covered_d = _by_logger(record.logged, since, today)
    if covered_d >= LEAST_DAYS:
        a_year = logged_h / covered_d * _DAYS_A_YEAR
        uncovered_d = max((today - since).days - covered_d, 0.0)
        return HoursRun(logged_h + a_year * uncovered_d / _DAYS_A_YEAR, a_year, "logger", since, today)
    return HoursRun(hours_a_year * (today - since).days / _DAYS_A_YEAR, hours_a_year, "year", since, today)


def _by_logger(files: Sequence[LoggedHours], since: date, today: date) -> tuple[float, float]:
    """Hours run and days covered by the files that lie between two days; of files that overlap the one that began first. [h], [d]"""
    hours, covered = 0.0, 0.0
    until = since
    for one in sorted(files, key=lambda one: (one.first, one.last)):
        if one.first >= until and one.last <= today:
            hours, covered, until = hours + one.hours, covered + one.covered_h / _HOURS_A_DAY, one.last
    return hours, covered


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
