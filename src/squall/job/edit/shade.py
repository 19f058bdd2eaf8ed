"""Shade as it was said becomes points of the horizon."""

import numpy as np

from squall.core.errors import BadQuantity
from squall.core.sky.sunlight import SunPath, higher_of, horizon_seen
from squall.core.sky.typical_days import DAYS_OF_YEAR
from squall.core.sky.whole_year import HOURS, day_path
from squall.job.document.job import Job, quantity
from squall.job.document.power import HorizonRow
from squall.job.edit.changes import Changed
from squall.job.worked.place import site_of
from squall.words import later
from squall.words.calendar import month_name
from squall.words.shade import read_shade

MOST_POINTS = 36


def day_of_month(job: Job, month: int) -> SunPath:
    """The sun through a clear day in the middle of a month, in steps of :data:`HOURS`.

    Raises
    ------
    NoPlace
        Before a place is given.
    """
    return day_path(site_of(job), int(DAYS_OF_YEAR[month]))


def add_shade(job: Job, text: str, month: int) -> Changed:
    """Put shade that was seen in a month on the horizon: the lowest that hides the sun so, over what stands there already.

    Raises
    ------
    BadQuantity
        If it can't be read, the sun isn't up then, or stands higher than a horizon may.
    """
    shade = read_shade(text)
    path, hidden = day_of_month(job, month), np.ones(HOURS.size, dtype=bool)
    if shade.from_h is not None:
        hidden &= shade.from_h - 1e-6 <= HOURS
    if shade.until_h is not None:
        hidden &= shade.until_h - 1e-6 > HOURS
    seen = horizon_seen(path, hidden)
    if not seen:
        raise BadQuantity(
            later("The sun isn't up then in {month:month}: write 2 pm or 14:00 for the afternoon.", month=month)
        )
    if max(height for _, height in seen) > 80.0:
        raise BadQuantity(
            later("The sun stands nearly overhead then, so no horizon hides it: tell a post or tree near by as near shadow instead.")
        )  # fmt: skip
    there = tuple((row.azimuth.si, row.height.si) for row in job.mount.horizon)
    joined = higher_of(there, seen)
    if len(joined) > MOST_POINTS:
        raise BadQuantity(
            later("A horizon has {MOST_POINTS} points at most; take some out first.", MOST_POINTS=MOST_POINTS)
        )
    rows = [
        HorizonRow(id=f"h{number}", azimuth=quantity(f"{azimuth:.1f}°", round(azimuth, 1)), height=quantity(f"{max(height, 0.0):.1f}°", round(max(height, 0.0), 1)))
        for number, (azimuth, height) in enumerate(joined, start=1)
    ]  # fmt: skip
    mount = job.mount.model_copy(update={"horizon": rows})
    return job.model_copy(update={"mount": mount}), later("shade put on the horizon: {text}, in {month}", text=text.strip()[:60], month=month_name(month))  # fmt: skip
