"""A pond as an account: what it holds, what runs in, what is lost, and how long until the intake is bare."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import lru_cache

from squall.core.errors import OutOfRange, require
from squall.core.reason import Reason
from squall.core.sky.outside import DAYS_IN_MONTH

SHAPES: dict[str, Reason] = {
    "straight": Reason("straight-sides"),
    "wedge": Reason("sloping-trench"),
    "bowl": Reason("sloping-one-deepest-place"),
}
_POWERS = {"straight": 1.0, "wedge": 2.0, "bowl": 3.0}
# Evaporation over reference evapotranspiration: FAO paper 56, table 12, open water under 2 m deep (from memory).
OPEN_WATER_FACTOR = 1.05
# How far a reading of a pond's depth may be off: a guess. [m]
DEPTH_TRUST_M = 0.02
MOST_DAYS = 730


@dataclass(frozen=True)
class Pond:
    """Shape and fullness. Depths at the deepest place [m], `full_area_m2` of the surface when full.

    `power` makes the volume go as depth to that power: 1 straight sides, 2 a trench, 3 a bowl.
    """

    full_depth_m: float
    full_area_m2: float
    power: float

    def __post_init__(self) -> None:
        require("depth-full-pond", self.full_depth_m, 0.05, 60.0, "length")
        require("surface-full-pond", self.full_area_m2, 0.1, 1e7, "ground")
        require("shape-pond", self.power, 1.0, 3.0, "number")

    @property
    def full_m3(self) -> float:
        """Volume when full. [m3]"""
        return self.full_area_m2 * self.full_depth_m / self.power

    def volume_m3(self, depth_m: float) -> float:
        """Volume at a depth, 0 to full. [m3]"""
        return float(self.full_m3 * (min(max(depth_m, 0.0), self.full_depth_m) / self.full_depth_m) ** self.power)

    def depth_m(self, volume_m3: float) -> float:
        """Depth at a volume, 0 to full. [m]"""
        share = min(max(volume_m3, 0.0), self.full_m3) / self.full_m3
        return float(self.full_depth_m * share ** (1.0 / self.power))

    def area_m2(self, depth_m: float) -> float:
        """Surface at a depth. [m2]"""
        share = min(max(depth_m, 0.0), self.full_depth_m) / self.full_depth_m
        return float(self.full_area_m2 * share ** (self.power - 1.0))


def pond_of(shape: str, full_depth_m: float, full_area_m2: float) -> Pond:
    """A pond of a named shape, key of :data:`SHAPES`, when full. [m], [m2]

    Raises
    ------
    OutOfRange
        For a shape that is none.

    Examples
    --------
    >>> round(pond_of("bowl", 3.0, 900.0).full_m3)
    900
    """
    if shape not in _POWERS:
        raise OutOfRange("shape-pond", shape, Reason("one-of", names=", ".join(SHAPES)))
    return Pond(full_depth_m, full_area_m2, _POWERS[shape])


@dataclass(frozen=True)
class Account:
    """What comes and goes, by month from January.

    Attributes
    ----------
    inflow_m3_d : float
        Springs and runoff, all year. [m3/d]
    draw_m3_d : tuple[float, ...]
        Taken out, twelve. [m3/d]
    evaporation_m_d, rain_m_d : tuple[float, ...]
        Off and onto the surface, twelve. [m/d]
    seepage_m_d : float
        Through the bed. [m/d]
    """

    inflow_m3_d: float
    draw_m3_d: tuple[float, ...]
    evaporation_m_d: tuple[float, ...]
    rain_m_d: tuple[float, ...]
    seepage_m_d: float

    def surface_m_d(self, month: int) -> float:
        """Gained by the surface in one day of a month, mostly below nil. [m/d]"""
        return self.rain_m_d[month] - self.evaporation_m_d[month] - self.seepage_m_d


@lru_cache(maxsize=128)
def depths_through(pond: Pond, account: Account, start: date, start_depth_m: float, days: int) -> tuple[float, ...]:
    """Depth at the end of each day.

    Parameters
    ----------
    pond : Pond
        Its shape.
    account : Account
        What comes and goes.
    start : date
        The day of the first depth.
    start_depth_m : float
        0 to full. [m]
    days : int
        0 to 730.

    Returns
    -------
    tuple[float, ...]
        `days` + 1 depths, the first one given; what would run over is gone, and nothing is drawn
        from an empty pond. [m]
    """
    require("depth-pond", start_depth_m, 0.0, pond.full_depth_m, "length")
    require("days", days, 0, MOST_DAYS, "number")
    volume, day = pond.volume_m3(start_depth_m), start
    depths = [start_depth_m]
    for _ in range(days):
        month = day.month - 1
        change = account.inflow_m3_d - account.draw_m3_d[month]
        change += account.surface_m_d(month) * pond.area_m2(pond.depth_m(volume))
        volume = min(max(volume + change, 0.0), pond.full_m3)
        depths.append(pond.depth_m(volume))
        day += timedelta(days=1)
    return tuple(depths)


def inflow_from_readings(
    pond: Pond, account: Account, first: tuple[date, float], last: tuple[date, float]
) -> tuple[float, float]:
    """Inflow that explains two depths, all else being as the account says.

    Parameters
    ----------
    pond : Pond
        Its shape.
    account : Account
        With any inflow; only the rest counts.
    first, last : tuple[date, float]
        Day and depth. [m]

    Returns
    -------
    tuple[float, float]
        Inflow, possibly below nil where more is lost than was said; and how far it may be off,
        from 2 cm on each reading. [m3/d]

    Raises
    ------
    OutOfRange
        If the days are the same or out of order.

    Notes
    -----
    The rise in volume over the days, plus what was drawn and lost at the mean depth.
    """
    days = (last[0] - first[0]).days
    if days < 1:
        raise OutOfRange("days-between-two-readings", days, Reason("one-or-more-earlier-one-first"))
    for _, depth in (first, last):
        require("depth-pond", depth, 0.0, pond.full_depth_m, "length")
    mean_depth = 0.5 * (first[1] + last[1])
    area = pond.area_m2(mean_depth)
    gone = 0.0
    for step in range(days):
        month = (first[0] + timedelta(days=step)).month - 1
        gone += account.draw_m3_d[month] - account.surface_m_d(month) * area
    rise = pond.volume_m3(last[1]) - pond.volume_m3(first[1])
    return (rise + gone) / days, 2.0**0.5 * DEPTH_TRUST_M * area / days


@dataclass(frozen=True)
class Outlook:
    """Days until the intake is bare: as reckoned, and with more or less water; None where two years pass without it."""

    days: int | None
    fewest: int | None
    most: int | None


def outlook(
    pond: Pond, account: Account, start: date, depth_m: float, intake_m: float, inflow_off_m3_d: float
) -> Outlook:
    """How long the water lasts at the intake, with a range.

    Parameters
    ----------
    pond, account : Pond, Account
        As they stand.
    start : date
        Today.
    depth_m, intake_m : float
        Depth now, and the depth at which the intake is uncovered. [m]
    inflow_off_m3_d : float
        How far the inflow may be off. [m3/d]

    Returns
    -------
    Outlook
        The range takes the inflow lower and higher by its doubt, evaporation and seepage a
        fifth more and less.
    """

    def until(case: Account) -> int | None:
        for day, depth in enumerate(depths_through(pond, case, start, depth_m, MOST_DAYS)):
            if depth <= intake_m:
                return day
        return None

    def varied(inflow: float, loss: float) -> Account:
        return replace(
            account, inflow_m3_d=account.inflow_m3_d + inflow,
            evaporation_m_d=tuple(e * loss for e in account.evaporation_m_d), seepage_m_d=account.seepage_m_d * loss,
        )  # fmt: skip

    return Outlook(until(account), until(varied(-inflow_off_m3_d, 1.2)), until(varied(inflow_off_m3_d, 0.8)))


def a_day(by_month: Sequence[float]) -> tuple[float, ...]:
    """Monthly sums as daily means, January first. [any a day]"""
    return tuple(total / days for total, days in zip(by_month, DAYS_IN_MONTH, strict=True))
