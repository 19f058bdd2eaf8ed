"""What a logger's file tells of a kit: when it ran and for how long, what it brought each day, whether its clock is right, where it ran steadily."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np
from numpy.typing import NDArray

from squall.core.errors import BadEvidence
from squall.core.reason import Reason

Floats = NDArray[np.float64]
Seconds = NDArray[np.int64]

Column = Literal["volts", "amps", "flow", "level"]
COLUMNS: tuple[Column, ...] = get_args(Column)
DAY_S = 86_400
# A gap of so many usual steps is no running: nobody knows what happened in it. [-]
_GAP = 5.0
# It runs at this share of what it draws, or brings, at most of its time: the ninety-fifth part of a hundred. [-]
_RUNS = 0.15
# A stretch is steady where volts and amps stay within so much, for so long. [-], [s]
_STEADY, _STEADY_S = 0.03, 600
_LEAST_ROWS = 3
# A sun-driven kit runs about its noon: a clock off by more than this is said. [h]
_CLOCK_H = 1.5
# Fewer days than this tell nothing of a clock. [d]
_CLOCK_DAYS = 3


@dataclass(frozen=True, eq=False)
class Logged:
    """A logger's rows, in their order.

    Attributes
    ----------
    at_s : NDArray
        (n,) seconds since 1970 by the kit's own clock, rising. [s]
    columns : mapping
        What was logged of volts, amps, flow and level; not a number where nothing could be read. [V], [A], [m3/s], [m]
    """

    at_s: Seconds
    columns: Mapping[Column, Floats]

    def __post_init__(self) -> None:
        if len(self.at_s) < 2 or not self.columns:
            raise BadEvidence(Reason("logger-tells-nothing"))

    @property
    def step_s(self) -> float:
        """From row to row, as a rule. [s]"""
        return float(np.median(np.diff(self.at_s)))


@dataclass(frozen=True)
class DayLogged:
    """A day: its number since 1970, hours run, water brought, starts. [d], [h], [m3]"""

    day: int
    hours: float
    water_m3: float | None
    starts: int


@dataclass(frozen=True)
class Steady:
    """A steady stretch: when it began, for how long, what stood there in the mean. [s], [s], [their units]"""

    at_s: int
    lasted_s: int
    means: Mapping[Column, float]


@dataclass(frozen=True)
class Told:
    """What a logger's file tells.

    Attributes
    ----------
    hours : float
        It ran. [h]
    covered_h, gaps_h : float
        Time that rows stand for, and time between them for which none do. [h]
    water_m3 : float or None
        That it brought; None without a flow. [m3]
    days : tuple of DayLogged
        Each day with rows.
    clock_off_h : float or None
        How much later than its noon it runs on the mean day, where that is too much to be true; None where it is right or nothing tells. [h]
    """

    hours: float
    covered_h: float
    gaps_h: float
    water_m3: float | None
    days: tuple[DayLogged, ...]
    clock_off_h: float | None


def running(logged: Logged) -> NDArray[np.bool_]:
    """Rows in which it runs: by its amps where they are logged, else by its flow, else by nothing."""
    for key in ("amps", "flow"):
        values = logged.columns.get(key)  # type: ignore[call-overload]
        if values is None or not np.isfinite(values).any():
            continue
        most = float(np.nanpercentile(values, 95.0))
        return (
            np.asarray(np.nan_to_num(values) > max(_RUNS * most, 1e-12))
            if most > 0.0
            else np.zeros(len(values), dtype=bool)
        )
    return np.zeros(len(logged.at_s), dtype=bool)


def told_of(logged: Logged, noon_h: float | None = None) -> Told:
    """What a logger's file tells.

    Parameters
    ----------
    logged : Logged
        Its rows.
    noon_h : float or None
        When the sun stands highest by the kit's clock, for a kit that the sun drives; None where nothing tells of the clock. [h]

    Returns
    -------
    Told
        Each row stands for the time until the next, but for gaps.
    """
    steps = np.diff(logged.at_s).astype(float)
    usual = logged.step_s
    gap = steps > _GAP * usual
    lasts = np.append(np.where(gap, usual, steps), usual)
    runs = running(logged)
    flow = logged.columns.get("flow")
    water = None if flow is None else np.where(runs, np.nan_to_num(flow), 0.0) * lasts
    began = runs & ~np.append(False, runs[:-1])
    number = logged.at_s // DAY_S
    days, place = np.unique(number, return_inverse=True)
    hours = np.bincount(place, runs * lasts) / 3600.0
    brought = None if water is None else np.bincount(place, water)
    starts = np.bincount(place, began).astype(int)
    return Told(
        hours=float(hours.sum()),
        covered_h=float(lasts.sum()) / 3600.0,
        gaps_h=float(np.where(gap, steps - usual, 0.0).sum()) / 3600.0,
        water_m3=None if water is None else float(water.sum()),
        days=tuple(
            DayLogged(int(day), float(hours[n]), None if brought is None else float(brought[n]), int(starts[n]))
            for n, day in enumerate(days)
        ),
        clock_off_h=None if noon_h is None else _clock_off(logged, runs, lasts, noon_h),
    )


def _clock_off(logged: Logged, runs: NDArray[np.bool_], lasts: Floats, noon_h: float) -> float | None:
    """The middle of what ran each day against noon, the median of the days; wrapped to half a day each way."""
    number = logged.at_s[runs] // DAY_S
    if len(np.unique(number)) < _CLOCK_DAYS:
        return None
    # By the angle of the day, so that what runs over midnight has its middle there.
    angle = (logged.at_s[runs] % DAY_S) / DAY_S * 2.0 * np.pi
    days, place = np.unique(number, return_inverse=True)
    up, along = (np.bincount(place, turn * lasts[runs]) for turn in (np.sin(angle), np.cos(angle)))
    middle = np.arctan2(up, along) / (2.0 * np.pi) * 24.0
    off = (middle - noon_h + 12.0) % 24.0 - 12.0
    mean = float(np.median(off))
    return mean if abs(mean) > _CLOCK_H and len(days) >= _CLOCK_DAYS else None


@dataclass(frozen=True)
class Thin:
    """A column thinned to be drawn: least, mean and most of so many even spans of time; not a number where there are no rows."""

    least: Floats
    mean: Floats
    most: Floats


def thinned(logged: Logged, spans: int = 480) -> Mapping[Column, Thin]:
    """Each column over even spans of the file's time: no peak is lost.

    Parameters
    ----------
    logged : Logged
        Its rows.
    spans : int
        How many, 1 or more.
    """
    length = max(int(logged.at_s[-1] - logged.at_s[0]) + 1, spans)
    place = ((logged.at_s - logged.at_s[0]) * spans // length).astype(np.int64)
    found: dict[Column, Thin] = {}
    for key, values in logged.columns.items():
        good = np.isfinite(values)
        own, of = values[good], place[good]
        count = np.bincount(of, minlength=spans)
        total = np.bincount(of, own, minlength=spans)
        least, most = np.full(spans, np.inf), np.full(spans, -np.inf)
        np.minimum.at(least, of, own)
        np.maximum.at(most, of, own)
        none = count == 0
        with np.errstate(invalid="ignore", divide="ignore"):
            mean = np.where(none, np.nan, total / count)
        found[key] = Thin(np.where(none, np.nan, least), mean, np.where(none, np.nan, most))
    return found


def steady(logged: Logged, most: int = 60) -> tuple[Steady, ...]:
    """The best steady stretch of each day on which there is one: what may be kept as that day's reading.

    Parameters
    ----------
    logged : Logged
        Its rows; volts and amps must be among them.
    most : int
        So many days at most, spread over all of them.

    Returns
    -------
    tuple of Steady
        In their order; of a day the stretch with most amps. Empty where no stretch of ten minutes, and of three rows, stays within three in a hundred.
    """
    amps, volts = logged.columns.get("amps"), logged.columns.get("volts")
    if amps is None or volts is None or logged.step_s > _STEADY_S:
        return ()
    span = max(round(_STEADY_S / logged.step_s), _LEAST_ROWS)
    blocks = len(amps) // span
    if blocks == 0:
        return ()
    runs = running(logged)[: blocks * span].reshape(blocks, span).all(axis=1)
    at = logged.at_s[: blocks * span].reshape(blocks, span)
    even = (at[:, -1] - at[:, 0]) <= 1.5 * span * logged.step_s
    good = runs & even
    for values in (amps, volts):
        part = values[: blocks * span].reshape(blocks, span)
        middle = part.mean(axis=1)
        with np.errstate(invalid="ignore"):
            good &= np.isfinite(middle) & (np.ptp(part, axis=1) <= _STEADY * np.abs(middle))
    chosen = np.flatnonzero(good)
    if not len(chosen):
        return ()
    mean_amps = amps[: blocks * span].reshape(blocks, span).mean(axis=1)
    best: dict[int, int] = {}
    for block in chosen:
        day = int(at[block, 0] // DAY_S)
        if day not in best or mean_amps[block] > mean_amps[best[day]]:
            best[day] = int(block)
    picked = list(best.values())
    if len(picked) > most:
        picked = [picked[n] for n in np.linspace(0, len(picked) - 1, most).astype(int)]
    return tuple(
        Steady(
            int(at[block, 0]), int(at[block, -1] - at[block, 0]),
            {key: float(np.nanmean(values[block * span : (block + 1) * span])) for key, values in logged.columns.items()
             if np.isfinite(values[block * span : (block + 1) * span]).any()},
        )
        for block in picked
    )  # fmt: skip
