"""How much water is wanted: litres a day in each month."""

from dataclasses import dataclass

from squall.core.errors import OutOfRange, require


@dataclass(frozen=True)
class Drinkers:
    """Animals or uses that each want the same. `count` [-], `litres_each` a day [L]"""

    name: str
    count: float
    litres_each: float

    def __post_init__(self) -> None:
        require(f"count of {self.name or 'the herd'}", self.count, 0.0, 100_000.0, "")
        require(f"litres each for {self.name or 'the herd'}", self.litres_each, 0.0, 10_000.0, "L")

    @property
    def litres_a_day(self) -> float:
        """All of them together. [L/d]"""
        return self.count * self.litres_each


def monthly_need(litres_a_day: float, by_month: tuple[float | None, ...]) -> tuple[float, ...]:
    """Litres a day for each month.

    Parameters
    ----------
    litres_a_day : float
        In a month with no figure of its own, 0 to 10 million. [L/d]
    by_month : tuple
        Twelve entries, January first; None where the month has no figure of its own. [L/d]

    Returns
    -------
    tuple[float, ...]
        Twelve. [L/d]

    Raises
    ------
    OutOfRange
        For a negative or absurd figure, or not twelve months.
    """
    if len(by_month) != 12:
        raise OutOfRange("months of the need", len(by_month), "12")
    months = tuple(litres_a_day if month is None else month for month in by_month)
    for month in months:
        require("litres a day", month, 0.0, 1e7, "L")
    return months
