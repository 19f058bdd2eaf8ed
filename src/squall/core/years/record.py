"""What one or more years brought: a row a day, the last year step by step, and where the energy went."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from squall.core.sky.made_weather import DAYS, MONTH_OF_DAY

Floats = NDArray[np.float64]
# A day counts as short where more than this share of what was wanted wasn't there.
SHORT_SHARE = 0.01


@dataclass(frozen=True)
class Energy:
    """Where a year's energy went, in watt-hours.

    Attributes
    ----------
    array_wh : float
        From the panels, by their own curve at the volts they worked at.
    controller_wh, array_cable_wh, pump_cable_wh, motor_wh : float
        Lost in the controller and both cables; taken by the motor.
    battery_wh : float
        Lost in charging and in the bank, its own draw, what it wasted when full, and what stayed in it.
    """

    array_wh: float
    controller_wh: float
    array_cable_wh: float
    pump_cable_wh: float
    motor_wh: float
    battery_wh: float = 0.0

    @property
    def off(self) -> float:
        """What doesn't balance, over what the panels gave. [-]"""
        spent = self.controller_wh + self.array_cable_wh + self.pump_cable_wh + self.motor_wh + self.battery_wh
        return (self.array_wh - spent) / self.array_wh if self.array_wh > 0.0 else 0.0


@dataclass(frozen=True, eq=False)
class Steps:
    """One year by the ten minutes, shape (365, 144) each.

    Attributes
    ----------
    light_w_m2 : NDArray
        On the panels. [W/m2]
    could_l_s : NDArray
        Flow that light or bank would give, were the float closed. [L/s]
    motor_v, motor_a : NDArray
        While it runs. [V], [A]
    ran : NDArray
        Share of the step that it ran. [-]
    level_l, charge_ah : NDArray
        In tank and bank at the step's end. [L], [Ah]
    short_l : NDArray
        Wanted in the step and not there; nil where days are judged whole. [L]
    """

    light_w_m2: Floats
    could_l_s: Floats
    motor_v: Floats
    motor_a: Floats
    ran: Floats
    level_l: Floats
    charge_ah: Floats
    short_l: Floats


def longest_run(short: NDArray[np.bool_]) -> int:
    """Most days in a row that are short. [d]

    Parameters
    ----------
    short : NDArray
        Whether each day is, shape (days,).

    Examples
    --------
    >>> longest_run(np.array([True, False, True, True]))
    2
    """
    longest = now = 0
    for one in short.tolist():
        now = now + 1 if one else 0
        longest = max(longest, now)
    return longest


class DaysShort:
    """Days of one or more years, of which some run short: what both the years' own run and the verdict's quick one tell.

    Attributes
    ----------
    pumped_l, short_l, wanted_l : NDArray
        Litres of each day; a year has 365. [L]
    """

    pumped_l: Floats
    short_l: Floats
    wanted_l: Floats

    @property
    def years(self) -> int:
        """How many."""
        return self.pumped_l.size // DAYS

    @property
    def month(self) -> NDArray[np.int64]:
        """Month of each day, January 0."""
        return np.tile(MONTH_OF_DAY, self.years)

    @cached_property
    def is_short(self) -> NDArray[np.bool_]:
        """Days on which something was wanted and not there."""
        short: NDArray[np.bool_] = self.short_l > SHORT_SHARE * np.maximum(self.wanted_l, 1e-9)
        return short & (self.wanted_l > 0.0)

    @property
    def short_in_a_hundred(self) -> float:
        """Short days in a hundred of those on which water is wanted. [-]"""
        wanted = int((self.wanted_l > 0.0).sum())
        return 100.0 * float(self.is_short.sum()) / wanted if wanted else 0.0

    @property
    def short_by_month(self) -> Floats:
        """Short days in a hundred, by month, shape (12,). [-]"""
        days = np.bincount(self.month, self.wanted_l > 0.0, 12)
        short: Floats = 100.0 * np.bincount(self.month, self.is_short, 12) / np.maximum(days, 1.0)
        return short

    @property
    def worst_month(self) -> int:
        """Month with the most short days; with none, that in which least was pumped over the need. January 0."""
        by_month = self.short_by_month
        if by_month.max() > 0.0:
            return int(by_month.argmax())
        pumped, wanted = (np.bincount(self.month, litres, 12) for litres in (self.pumped_l, self.wanted_l))
        return int(np.argmin(np.where(wanted > 0.0, pumped / np.maximum(wanted, 1e-9), np.inf)))

    @property
    def longest_dry_spell_days(self) -> int:
        """Most short days in a row. [d]"""
        return longest_run(self.is_short)


@dataclass(frozen=True, eq=False)
class YearRun(DaysShort):
    """What one or more years brought, a row a day.

    Attributes
    ----------
    pumped_l, short_l, spilled_l, wanted_l : NDArray
        Litres of each day. [L]
    lowest_l, ended_l : NDArray
        Least water in the tank that day, and at its end. [L]
    run_h : NDArray
        Hours with water. [h]
    starts : NDArray
        How often the pump began. [-]
    charge_low_ah, charge_end_ah, wasted_ah : NDArray
        Least usable charge that day, at its end, and refused by a full bank. [Ah]
    light_kwh_m2 : NDArray
        On the panels. [kWh/m2]
    tank_l, bank_ah : float
        Tank and usable charge, 0 without. [L], [Ah]
    energy : Energy
        Of all of it.
    states : NDArray
        With which each year began, for :func:`run_years`.
    last : Steps
        The last year, step by step.
    """

    pumped_l: Floats
    short_l: Floats
    spilled_l: Floats
    wanted_l: Floats
    lowest_l: Floats
    ended_l: Floats
    run_h: Floats
    starts: Floats
    charge_low_ah: Floats
    charge_end_ah: Floats
    wasted_ah: Floats
    light_kwh_m2: Floats
    tank_l: float
    bank_ah: float
    energy: Energy
    states: Floats
    last: "Steps"

    @cached_property
    def is_tight(self) -> NDArray[np.bool_]:
        """Days that were enough, but with less than a quarter of tank and bank left, or less than a tenth over the need."""
        left = np.zeros(self.short_l.shape)
        if self.tank_l > 0.0:
            left = np.maximum(left, self.lowest_l / self.tank_l)
        if self.bank_ah > 0.0:
            left = np.maximum(left, self.charge_low_ah / self.bank_ah)
        if self.tank_l <= 0.0 and self.bank_ah <= 0.0:
            low = self.pumped_l < 1.1 * self.wanted_l
        else:
            low = left < 0.25
        tight: NDArray[np.bool_] = low & ~self.is_short & (self.wanted_l > 0.0)
        return tight

    @property
    def hours_a_year(self) -> float:
        """Hours with water. [h]"""
        return float(self.run_h.sum()) / self.years

    @property
    def starts_a_day(self) -> float:
        """Beginnings of the pump on a mean day. [-]"""
        return float(self.starts.mean())

    @property
    def cycles_a_year(self) -> float:
        """Charge drawn from the bank over its usable charge, in a year. [-]"""
        if self.bank_ah <= 0.0:
            return 0.0
        fallen = np.maximum(np.concatenate([[self.bank_ah], self.charge_end_ah[:-1]]) - self.charge_low_ah, 0.0)
        return float(fallen.sum()) / self.bank_ah / self.years

    @property
    def litres_a_year(self) -> float:
        """Water that reached the outlet or the tank. [L]"""
        return float(self.pumped_l.sum()) / self.years
