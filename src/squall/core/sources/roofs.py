"""Rain off a roof: what it brings, how long the tanks last, and what the overflow must pass."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import acos, pi, sin, sqrt

from squall.core.errors import require
from squall.core.hydraulics.water import GRAVITY_M_S2
from squall.core.roots import root
from squall.core.sky.outside import DAYS_IN_MONTH

# Contraction of a jet through a plain hole: Torricelli's theorem with 0.6, any hydraulics handbook.
DISCHARGE_COEFFICIENT = 0.6


@dataclass(frozen=True)
class Roof:
    """What catches. `area_m2` in plan; `runoff` share that reaches the gutter; `first_flush_m` lost of each rain. [m]"""

    area_m2: float
    runoff: float
    first_flush_m: float

    def __post_init__(self) -> None:
        require("roof", self.area_m2, 0.1, 1e6, "ground")
        require("runoff-coefficient", self.runoff, 0.0, 1.0, "number")
        require("first-flush", self.first_flush_m, 0.0, 0.02, "length")

    def caught_m3(self, rain_m: float) -> float:
        """Water of one day's rain. [m3]"""
        return self.area_m2 * max(rain_m * self.runoff - self.first_flush_m, 0.0)


@dataclass(frozen=True)
class RainYear:
    """A year on the roof's water.

    Attributes
    ----------
    level_m3 : tuple[float, ...]
        In the tanks at the end of each of 365 days.
    caught_m3, overflow_m3, drawn_m3 : float
        Over the year.
    days_met : tuple[int, ...]
        Days of each month whose whole need the tanks gave.
    """

    level_m3: tuple[float, ...]
    caught_m3: float
    overflow_m3: float
    drawn_m3: float
    days_met: tuple[int, ...]

    @property
    def days_of_water(self) -> int:
        """Days of the year whose whole need was met."""
        return sum(self.days_met)


def rain_days(rain_m: float, wet_days: float, days: int) -> list[float]:
    """A month's rain laid evenly on its wet days, those evenly through the month. [m]"""
    count = min(max(round(wet_days), 1 if rain_m > 0.0 else 0), days)
    falls = [0.0] * days
    for number in range(count):
        falls[int((number + 0.5) * days / count)] += rain_m / count
    return falls


def rain_year(
    roof: Roof, tank_m3: float, rain_m: Sequence[float], wet_days: Sequence[float], need_m3_d: Sequence[float]
) -> RainYear:
    """Tanks through a year of the climate's months, begun at the level that the year ends with.

    Parameters
    ----------
    roof : Roof
        What catches.
    tank_m3 : float
        All linked tanks together. [m3]
    rain_m, wet_days : sequence of float
        Of each month, January first. [m], [-]
    need_m3_d : sequence of float
        A day, by month. [m3/d]

    Returns
    -------
    RainYear
        Steady: three years are run and the last one told.

    Raises
    ------
    OutOfRange
        For tanks of nothing.
    """
    require("tanks", tank_m3, 0.001, 1e6, "litres")
    year = RainYear((), 0.0, 0.0, 0.0, ())
    level = 0.0
    for _ in range(3):
        year = _one_year(roof, tank_m3, rain_m, wet_days, need_m3_d, level)
        level = year.level_m3[-1]
    return year


def _one_year(
    roof: Roof, tank_m3: float, rain_m: Sequence[float], wet_days: Sequence[float], need_m3_d: Sequence[float],
    level: float,
) -> RainYear:  # fmt: skip
    levels, met = [], []
    caught = overflow = drawn = 0.0
    for month, days in enumerate(DAYS_IN_MONTH):
        good = 0
        for fall in rain_days(rain_m[month], wet_days[month], days):
            water = roof.caught_m3(fall)
            spilt = max(level + water - tank_m3, 0.0)
            level += water - spilt
            taken = min(need_m3_d[month], level)
            level -= taken
            good += taken >= need_m3_d[month] - 1e-12
            caught, overflow, drawn = caught + water, overflow + spilt, drawn + taken
            levels.append(level)
        met.append(good)
    return RainYear(tuple(levels), caught, overflow, drawn, tuple(met))


# Rain of the worst ten minutes over that of the hour that holds them, both as rates: F. C. Bell, J. Hydraulics Division
# ASCE 95 (1969), 311-327: 45 % of the hour's rain falls in its worst ten minutes, from memory. [-]
PEAK_OF_HOUR = 2.7


def storm_inflow(roof: Roof, storm_m_h: float) -> float:
    """What a storm brings off the roof in its worst ten minutes, nothing lost: gutter and overflow see minutes, not hours. [m3/s]

    Parameters
    ----------
    roof : Roof
        Its area.
    storm_m_h : float
        Rain of the storm's hour, 0 to 0.5. [m/h]
    """
    require("storm", storm_m_h, 0.0, 0.5, "storm")
    return PEAK_OF_HOUR * roof.area_m2 * storm_m_h / 3600.0


def overflow_capacity(diameter_m: float, head_m: float) -> float:
    """What an overflow passes before its tank spills.

    Parameters
    ----------
    diameter_m : float
        Bore, above 0. [m]
    head_m : float
        Water over its middle before the tank spills. [m]

    Returns
    -------
    float
        Covered, 0.6 A sqrt(2 g h); a pipe so near the rim that it can't be covered passes only what its filled part does,
        under half the depth in it. [m3/s]

    References
    ----------
    Torricelli's theorem; any hydraulics handbook. The filled part: by the same, a rule of ours that meets it where the
    pipe is just covered.
    """
    require("bore-overflow", diameter_m, 0.005, 1.0, "length")
    require("water-over-overflow", head_m, 0.005, 5.0, "length")
    radius = diameter_m / 2.0
    if head_m >= radius:
        return DISCHARGE_COEFFICIENT * pi * radius**2 * sqrt(2.0 * GRAVITY_M_S2 * head_m)
    depth = radius + head_m
    angle = 2.0 * acos(1.0 - depth / radius)
    filled = radius**2 / 2.0 * (angle - sin(angle))
    return DISCHARGE_COEFFICIENT * filled * sqrt(2.0 * GRAVITY_M_S2 * depth / 2.0)


def overflow_bore(inflow_m3_s: float, head_m: float) -> float:
    """Least bore that passes an inflow: :func:`overflow_capacity` turned round. [m]

    Raises
    ------
    OutOfRange
        If a metre of bore doesn't.

    Examples
    --------
    >>> round(overflow_bore(0.003, 0.05) * 1000.0)
    80
    """
    require("water-over-overflow", head_m, 0.005, 5.0, "length")
    most = overflow_capacity(1.0, head_m)
    require("storm-inflow", inflow_m3_s, 0.0, most, "flow")
    if inflow_m3_s <= overflow_capacity(0.005, head_m):
        return 0.005
    return root(lambda bore: overflow_capacity(bore, head_m) - inflow_m3_s, 0.005, 1.0)
