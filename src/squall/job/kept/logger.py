"""What a logger's file tells of a kit, as it is kept and as it is said."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict

from squall.core.prove.expect import Point
from squall.core.reason import Spoken
from squall.core.upkeep.logged import COLUMNS, DAY_S, Column, Logged, steady, thinned, told_of
from squall.job.document.base import quantity
from squall.job.document.job import ReadingValue, Visit
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.job.worked.place import clock_of
from squall.words import Message, later
from squall.words.units import text

SPANS = 480
# Prove's points by what a logger may have; no light goes with them.
POINT_OF: dict[Column, Point] = {"volts": "pump-volts", "amps": "pump-amps", "flow": "outlet-flow"}
KIND: dict[Column, str] = {"volts": "volts", "amps": "amps", "flow": "flow", "level": "length"}
NAMES: dict[Column, Message] = {
    "volts": later("volts at the pump"), "amps": later("amps of the pump"), "flow": later("flow at the outlet"), "level": later("level"),
}  # fmt: skip
# Of the days so many are told in a table, the last ones.
SHOWN_DAYS = 31
# A day's starts beyond which a float or a switch chatters. Common practice, no source. [-]
CHATTERS = 40


@dataclass(frozen=True)
class Mapped:
    """What the columns are: the one of the time, and of each quantity its column and unit."""

    time: int
    columns: Mapping[Column, tuple[int, str]]


@dataclass(frozen=True)
class Taken:
    """The rows of a file, how many couldn't be read, how many stood out of their order or twice."""

    logged: Logged
    unread: int
    disordered: int


class Lane(BaseModel):
    """A column thinned: least, mean and most of each span; None where there are no rows. [SI]"""

    model_config = ConfigDict(frozen=True)
    least: list[float | None]
    mean: list[float | None]
    most: list[float | None]


class DayTold(BaseModel):
    """A day of the file: hours run, water brought, starts. [h], [m3]"""

    model_config = ConfigDict(frozen=True)
    on: date
    hours: float
    water_m3: float | None
    starts: int


class Stretch(BaseModel):
    """A steady stretch, by the kit's own clock: what stood there in the mean. [SI]"""

    model_config = ConfigDict(frozen=True)
    at: datetime
    lasted_s: int
    means: dict[Column, float]


class LoggerTold(BaseModel):
    """What a file tells, as it is kept beside it.

    `first` and `last` are its days, `rows` how many could be read, `unread` and `disordered` how many couldn't, or stood out of
    their order; the rest as in :class:`squall.core.upkeep.logged.Told`.
    """

    model_config = ConfigDict(frozen=True)
    first: date
    last: date
    begins: datetime
    ends: datetime
    rows: int
    unread: int
    disordered: int
    hours: float
    covered_h: float
    gaps_h: float
    water_m3: float | None
    clock_off_h: float | None
    days: list[DayTold]
    lanes: dict[Column, Lane]
    steady: list[Stretch]


class MappedDoc(BaseModel):
    """What the columns of a file are, as it is kept; `names` are the file's own, by which its like is known again."""

    model_config = ConfigDict(frozen=True)
    names: list[str]
    time: int
    columns: dict[Column, tuple[int, str]]

    def mapped(self) -> Mapped:
        """As the reader takes it."""
        return Mapped(self.time, self.columns)


def clock_h(a: Assessment) -> float:
    """How far the clock of the job's place is ahead of universal time. [h]"""
    return clock_of(a.job).si


def noon_h(a: Assessment, chosen: KitAssessment) -> float | None:
    """When the sun stands highest by that clock, on the mean day, for a kit that runs on panels alone; None for others. [h]"""
    if chosen.kit.battery is not None or a.job.longitude is None:
        return None
    return 12.0 + clock_h(a) - a.job.longitude.si / 15.0


def tell(taken: Taken, noon: float | None) -> LoggerTold:
    """All that a file's rows tell."""
    logged = taken.logged
    told = told_of(logged, noon)
    begins, ends = _moment(int(logged.at_s[0])), _moment(int(logged.at_s[-1]))
    return LoggerTold(
        first=begins.date(), last=ends.date(), begins=begins, ends=ends, rows=len(logged.at_s), unread=taken.unread,
        disordered=taken.disordered, hours=told.hours, covered_h=told.covered_h, gaps_h=told.gaps_h, water_m3=told.water_m3,
        clock_off_h=told.clock_off_h,
        days=[DayTold(on=_moment(day.day * DAY_S).date(), hours=day.hours, water_m3=day.water_m3, starts=day.starts) for day in told.days],
        lanes=_lanes(logged),
        steady=[Stretch(at=_moment(one.at_s), lasted_s=one.lasted_s, means=dict(one.means)) for one in steady(logged)],
    )  # fmt: skip


def _moment(at_s: int) -> datetime:
    return datetime.fromtimestamp(at_s, UTC).replace(tzinfo=None)


def _lanes(logged: Logged) -> dict[Column, Lane]:
    return {
        key: Lane(least=_plain(thin.least), mean=_plain(thin.mean), most=_plain(thin.most))
        for key, thin in thinned(logged, SPANS).items()
    }


def _plain(values: NDArray[np.float64]) -> list[float | None]:
    return [None if not np.isfinite(value) else float(f"{value:.4g}") for value in values]


def logger_words(told: LoggerTold) -> list[Spoken]:
    """What a file tells, in sentences; what can't be believed of it first."""
    said: list[Spoken] = []
    if told.clock_off_h is not None:
        said.append(later("Its clock seems {hours:.1f} h {way}: a kit on panels runs about its noon. Its hours count; no reading is taken from it until that is put right.", hours=abs(told.clock_off_h), way=later("fast") if told.clock_off_h > 0.0 else later("slow")))  # fmt: skip
    said.append(later("{rows} rows from {first} to {last}; the pump ran {hours:hours}.", rows=told.rows, first=told.first.isoformat(), last=told.last.isoformat(), hours=told.hours))  # fmt: skip
    if told.water_m3 is not None:
        said.append(later("It brought {water:litres}, {day:litres} on the mean day.", water=told.water_m3, day=told.water_m3 / max(told.covered_h / 24.0, 1e-9)))  # fmt: skip
    if told.unread or told.disordered:
        said.append(later("{unread} rows can't be read, {disordered} stood out of their order or twice.", unread=told.unread, disordered=told.disordered))  # fmt: skip
    if told.gaps_h >= 1.0:
        said.append(later("For {gaps:hours} there are no rows: they count neither as running nor as rest.", gaps=told.gaps_h))  # fmt: skip
    busy = max(told.days, key=lambda day: day.starts, default=None)
    if busy is not None and busy.starts > CHATTERS:
        said.append(later("On {on} it started {starts} times: a float without travel, a switch or a cloud's edge. Look at the float.", on=busy.on.isoformat(), starts=busy.starts))  # fmt: skip
    return said


def visits_from(told: LoggerTold, a: Assessment, chosen: KitAssessment) -> list[Visit]:
    """A file's steady stretches as visits: a reading a week, in light that nobody read; the log numbers them.

    Parameters
    ----------
    told : LoggerTold
        With a clock that can be believed.
    a, chosen : Assessment, KitAssessment
        The job and its kit.
    """
    ahead = timedelta(hours=clock_h(a))
    made: list[Visit] = []
    last: datetime | None = None
    for one in told.steady:
        if last is not None and one.at - last < timedelta(days=7):
            continue
        last = one.at
        values = [
            ReadingValue(
                point=POINT_OF[key], measured=quantity(text(value, KIND[key], "metric"), value), expected=None, low=None, high=None, verdict=None,
            )
            for key in COLUMNS
            if key in POINT_OF and (value := one.means.get(key)) is not None
        ]  # fmt: skip
        made.append(
            Visit(
                id=f"v{len(made) + 1}", at=f"{one.at - ahead:%Y-%m-%dT%H:%MZ}", option=chosen.option.name, irradiance_w_m2=800.0, air_c=20.0,
                told_by="light-not-known", values=values, note=str(later("from the logger, steady for {minutes} min", minutes=one.lasted_s // 60)),
            )
        )  # fmt: skip
    return made


def doc_of(mapped: Mapped, names: Sequence[str]) -> MappedDoc:
    """As it is kept."""
    return MappedDoc(names=list(names), time=mapped.time, columns=dict(mapped.columns))
