"""What a kit costs its owner: the offer on the day, and the years after it, beside what the water costs today."""

from dataclasses import dataclass
from math import ceil, inf

from squall.core.errors import require

# Weeks and months of a year, by which what is said of a week or a month is counted. [-]
WEEKS, MONTHS = 365.0 / 7.0, 12.0


@dataclass(frozen=True)
class Offer:
    """A price with its parts.

    Attributes
    ----------
    parts, labour, travel, margin, tax : float
        What it is made of. [money]
    """

    parts: float
    labour: float
    travel: float
    margin: float
    tax: float

    @property
    def net(self) -> float:
        """Before tax. [money]"""
        return self.parts + self.labour + self.travel + self.margin

    @property
    def total(self) -> float:
        """What the customer pays. [money]"""
        return self.net + self.tax


def offer(
    parts: float, labour_h: float, rate: float, travel: float, margin_share: float, tax_share: float
) -> Offer:  # fmt: skip
    """A price for the kit as it stands at the end of the day.

    Parameters
    ----------
    parts : float
        All parts, 0 or more. [money]
    labour_h : float
        Hours of work, 0 or more. [h]
    rate : float
        An hour costs, 0 or more. [money/h]
    travel : float
        There and back. [money]
    margin_share : float
        Added to the parts alone. [share]
    tax_share : float
        On all of it. [share]

    Returns
    -------
    Offer
        The price with its parts.

    Raises
    ------
    OutOfRange
        If anything is negative.

    Examples
    --------
    >>> offer(1000.0, 6.0, 20.0, 80.0, 0.1, 0.15).total
    1495.0
    """
    for name, value in (
        ("offer-parts", parts),
        ("offer-hours", labour_h),
        ("offer-rate", rate),
        ("offer-travel", travel),
    ):
        require(name, value, 0.0, 1e12, "number")
    require("offer-margin", margin_share, 0.0, 100.0, "share")
    require("offer-tax", tax_share, 0.0, 100.0, "share")
    labour, margin = labour_h * rate, parts * margin_share
    return Offer(parts, labour, travel, margin, (parts + labour + travel + margin) * tax_share)


def renewals(years: float, lasts_years: float) -> int:
    """How many times a part is bought again within so many years, the first one being there.

    Parameters
    ----------
    years : float
        Looked at, 0 or more. [years]
    lasts_years : float
        One lasts, above 0; infinite where it doesn't wear. [years]

    Returns
    -------
    int
        What is worn on the very last day is not bought again.

    Raises
    ------
    OutOfRange
        If it lasts no time at all.

    Examples
    --------
    >>> renewals(10.0, 4.0), renewals(10.0, 5.0), renewals(10.0, 20.0)
    (2, 1, 0)
    """
    require("offer-years", years, 0.0, 1000.0, "number")
    if lasts_years == inf:
        return 0
    require("life", lasts_years, 1e-4, 1e6, "number")
    return max(ceil(years / lasts_years - 1e-9) - 1, 0)


@dataclass(frozen=True)
class Habit:
    """What the water costs today, in a year.

    Attributes
    ----------
    hours : float
        Spent on it. [h]
    work, loads, fuel : float
        What the hours, the tanker's loads and the fuel cost. [money]
    fuel_m3 : float
        Fuel burnt. [m3]
    """

    hours: float
    work: float
    loads: float
    fuel: float
    fuel_m3: float

    @property
    def money(self) -> float:
        """All of it. [money]"""
        return self.work + self.loads + self.fuel


def habit(
    hours_a_week: float, hour_worth: float, loads_a_month: float, load_price: float, fuel_m3_a_week: float, litre_price: float
) -> Habit:  # fmt: skip
    """What the water costs in a year of today's way.

    Parameters
    ----------
    hours_a_week : float
        That carrying, driving and waiting take. [h]
    hour_worth : float
        What an hour is worth. [money/h]
    loads_a_month, load_price : float
        Of a tanker, and what one costs. [-], [money]
    fuel_m3_a_week, litre_price : float
        Of an engine, and what a litre costs. [m3], [money/L]

    Returns
    -------
    Habit
        A year of it.

    Examples
    --------
    >>> round(habit(7.0, 2.0, 1.0, 50.0, 0.014, 1.5).money)
    2425
    """
    hours, fuel = hours_a_week * WEEKS, fuel_m3_a_week * WEEKS
    return Habit(
        hours, hours * hour_worth, loads_a_month * MONTHS * load_price, fuel * 1000.0 * litre_price, fuel
    )  # fmt: skip
