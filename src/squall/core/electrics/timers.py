"""A timer: up to eight starts a day, any days of the week (common practice, no source)."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from squall.core.errors import OutOfRange, require
from squall.core.reason import Reason

MOST_STARTS = 8
EVERY_DAY = (True,) * 7


@dataclass(frozen=True)
class TimerStart:
    """One start: at an hour of the clock [h], for some minutes [min], on some days of the week, Monday first."""

    at_h: float
    minutes: float
    days: tuple[bool, ...] = EVERY_DAY

    def __post_init__(self) -> None:
        require("start-timer", self.at_h, 0.0, 24.0, "hours")
        require("minutes-timer", self.minutes * 60.0, 0.0, 86400.0, "minutes")
        if len(self.days) != 7:
            raise OutOfRange("days-timer", len(self.days), Reason("monday-first"))


def week_of(starts: tuple[TimerStart, ...], steps_a_day: int) -> NDArray[np.float64]:
    """Share of each step of a week in which a timer lets the pump run; all of it without a start.

    Parameters
    ----------
    starts : tuple[TimerStart, ...]
        Up to eight on any one day; those that overlap are joined; one may run over midnight.
    steps_a_day : int
        Equal steps of a day.

    Returns
    -------
    NDArray
        Shape (7 * steps,), Monday first. [-]

    Raises
    ------
    OutOfRange
        For more than eight starts on one day.
    """
    if not starts:
        return np.ones(7 * steps_a_day)
    for day in range(7):
        count = sum(1 for start in starts if start.days[day])
        if count > MOST_STARTS:
            raise OutOfRange(Reason("starts-on-day", day=day), count, Reason("up-to-number", most=MOST_STARTS))
    minutes = np.zeros(7 * 1440 + 1440)
    for start in starts:
        for day in range(7):
            if start.days[day]:
                first = day * 1440 + round(start.at_h * 60.0)
                minutes[first : first + round(start.minutes)] = 1.0
    minutes[:1440] = np.maximum(minutes[:1440], minutes[7 * 1440 :])
    per_step: NDArray[np.float64] = minutes[: 7 * 1440].reshape(7 * steps_a_day, -1).mean(axis=1)
    return per_step
