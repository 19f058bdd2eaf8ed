"""How a kit fares through ten years of made weather, within the blink of an edit: litres by month, and days on which water was missing.

A sun-driven kit is solved once at each of some lights and airs; every half hour of ten years is read between
them, so that a month's litres are the mean of its dull, middling and bright days, not those of one day of mean light.
Tank, float, timer, battery and the well's yield then go through the same steps as in :mod:`squall.core.years.whole`,
by the same compiled loop. Ranking, verdict, levers and doubt all read these figures; the years' own run agrees with
them within a few parts in a hundred (tested).
"""

import itertools
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from squall.core.drive.tables import on_volts
from squall.core.electrics.timers import week_of
from squall.core.kit.bank import drawn_a, standing_a, usable_ah
from squall.core.kit.setup import Setup
from squall.core.kit.supply import Banked, Controlled
from squall.core.sky.made_weather import DAYS
from squall.core.sky.outside import DAYS_IN_MONTH
from squall.core.sky.typical_days import STEPS
from squall.core.years.many_days import READ_STEP, ManyDays
from squall.core.years.nodes import Means
from squall.core.years.record import SHORT_SHARE, DaysShort
from squall.core.years.use import Use

Floats = NDArray[np.float64]
STEP_S = 86_400.0 / STEPS
# A bank of which the pump takes more than this share in a half hour is followed in so many finer steps.
SMALL_SHARE, FINE = 0.1, 3
# A low-volts cut-off lets go again once this share of the usable charge is back: a guess.
LET_GO_SHARE = 0.15


def half_hours_of(days: ManyDays, nodes: Floats, some: slice | NDArray[np.intp] = slice(None)) -> Floats:
    """A figure of every half hour of some of the days, shape (days, 48), read between its nodes; in the nodes' unit: [L/s], [A]."""
    from squall.core.years.day_kernels import read_open, read_shaded

    plane, month = days.plane[some], days.month[some]
    course = np.empty((plane.shape[0], STEPS))
    if days.shade is None:
        read_open(plane, month, days.warmth, READ_STEP, nodes[0], course)
    else:
        read_shaded(plane, days.shade[some], days.shades, month, days.warmth, READ_STEP, nodes, course)
    return course


def flows_of(days: ManyDays, means: Means, some: slice | NDArray[np.intp] = slice(None)) -> Floats:
    """What a kit makes of every half hour of some of the days, shape (days, 48), its source's level as it goes: flow [L/s], or a bank's charge. [A]"""
    course = half_hours_of(days, means.nodes, some)
    if means.falls is None or means.at_lowest is None:
        return course
    return means.falls.between(course, half_hours_of(days, means.at_lowest, some), days.month[some])


@lru_cache(maxsize=3)
def whole_course(days: ManyDays, means: Means) -> Floats:
    """The same for all the days, remembered for the kit last looked at: its day and its years read one course. [L/s], [A]"""
    return flows_of(days, means)


def flow_through(days: ManyDays, means: Means) -> tuple[Floats, Floats]:
    """Flow of a sun-driven kit through the mean of each month's days, (12, 48), and hours with water, (12,). [m3/s], [h]"""
    by_year = whole_course(days, means).reshape(-1, DAYS, STEPS)
    first = np.cumsum((0, *DAYS_IN_MONTH[:-1]))
    counted = np.array(DAYS_IN_MONTH, dtype=np.float64)
    flow = np.add.reduceat(by_year.mean(axis=0), first, axis=0) / counted[:, None] / 1000.0
    wet_h = np.add.reduceat((by_year > 0.0).mean(axis=(0, 2)), first) / counted * 24.0
    return flow, wet_h


@dataclass(frozen=True, eq=False)
class Outlook(DaysShort):
    """Ten made years of a kit and its use, a row a day, shape (3650,).

    Attributes
    ----------
    pumped_l, short_l, wanted_l : NDArray
        Litres of each day. [L]
    """

    pumped_l: Floats
    short_l: Floats
    wanted_l: Floats


def outlook_of(setup: Setup, days: ManyDays, means: Means, use: Use) -> Outlook:
    """Run a kit and its use through ten years of made weather by the half hour.

    Parameters
    ----------
    setup : Setup
        The kit, where it stands and what joins it.
    days : ManyDays
        The years on its panels.
    means : Means
        What :func:`means_of` found of them.
    use : Use
        What is wanted, and what waits.

    Returns
    -------
    Outlook
        Each day's litres. Tank and bank begin full and carry over.
    """
    from squall.core.years import kernels as compiled

    out, _ = _run(setup, days, means, use, np.inf)
    # Copies: a view would keep all columns of ten years as long as the job is remembered.
    return Outlook(*(out[:, column].copy() for column in (compiled.PUMPED, compiled.SHORT, compiled.WANTED)))


def holds_through(setup: Setup, days: ManyDays, means: Means, use: Use) -> bool:
    """Whether ten made years bring no more short days than `use` allows; as :func:`outlook_of`, ended once they do."""
    most = most_short(days, use)
    return _run(setup, days, means, use, most)[1] <= most


def most_short(days: ManyDays, use: Use) -> float:
    """Short days of the years that are allowed, of those on which something is wanted. [days]"""
    return use.allowed / 100.0 * float((use.need_of_days(days.month) > 0.0).sum())


def _run(setup: Setup, days: ManyDays, means: Means, use: Use, most_short: float) -> tuple[Floats, int]:
    """A row a day of :data:`squall.core.years.kernels.COLUMNS`, and how many of them are short: run no further than a limit."""
    from squall.core.years import kernels as compiled

    kit = setup.kit
    banked = isinstance(kit.supply, Banked)
    usable, amps, rate = usable_ah(kit, use.bank), 0.0, 0.0
    if banked:
        low = setup if means.falls is None else Setup(kit, setup.layout.lowest, setup.cabling)
        _, motor_a, _, _ = on_volts(low.table, kit.bank_ohm + setup.pump_ohm, kit.bank_v)
        amps = drawn_a(motor_a, use.bank)
        rate = means.rate_l_s
    size, on, off = use.switched(banked)
    efficiency = kit.battery.charge_efficiency if kit.battery else 1.0
    figures = np.array([usable, 0.0, LET_GO_SHARE, efficiency, standing_a(kit, use.bank)])
    # A small bank is cut off and let go within a half hour, a timer sets off within one: these are followed by ten minutes.
    fine = FINE if banked and (use.bank.timer or amps * STEP_S / 3600.0 > SMALL_SHARE * usable) else 1
    draw, week = use.demand.draw_by(STEPS * fine), week_of(use.bank.timer, STEPS * fine)
    wait_s = kit.supply.shade_wait_s if isinstance(kit.supply, Controlled) else 0.0
    state, no_trace = np.array([size, usable, 0.0, 0.0, 0.0, 0.0, 0.0]), np.empty((4, 0))
    whole, missed = np.zeros((days.month.size, compiled.COLUMNS)), 0
    bare = (0.0,) * 12 if means.falls is None or not banked else means.falls.bare
    for some in _pieces(days, means, use, alone=not banked and size <= 0.0 and most_short < np.inf, monthly=any(bare)):
        course = whole_course(days, means)[some] if most_short == np.inf else flows_of(days, means, some)
        course, month = course.ravel(), days.month[some]
        if fine > 1:
            course = course.repeat(fine)
        out = np.zeros((month.size, compiled.COLUMNS))
        begins = some.start % DAYS if isinstance(some, slice) else 0
        hours = np.roll(week, -(begins % 7) * STEPS * fine) if begins else week
        missed += compiled.run_days(
            month.size, STEPS * fine, STEP_S / fine, month, draw, course, size, on, off, wait_s, banked, use.by_sun, figures, hours,
            course, amps, rate * (1.0 - bare[int(month[0])]), state, out, no_trace, most_short - missed, SHORT_SHARE,
        )  # fmt: skip
        whole[some] = out
        if missed > most_short:
            break
    return whole, missed


def _pieces(days: ManyDays, means: Means, use: Use, *, alone: bool, monthly: bool) -> list[slice | NDArray[np.intp]]:
    """The days in pieces: year by year, or month by month in their order; or, where each stands alone, months with the least water first, which soonest tell."""
    if not alone:
        years = range(0, days.month.size, DAYS)
        if not monthly:
            return [slice(first, first + DAYS) for first in years]
        ends = np.cumsum((0, *DAYS_IN_MONTH)).tolist()
        return [slice(first + a, first + b) for first in years for a, b in itertools.pairwise(ends)]
    spare = means.litres / np.maximum(use.demand.litres_a_day, 1e-9)
    return [days.of_month[month] for month in np.argsort(spare, kind="stable")]
