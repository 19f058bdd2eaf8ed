"""Kits in their places, and the ten made years that part those that hold from those that run short."""

from dataclasses import dataclass, replace

from squall.core.kit.kit import Kit
from squall.core.kit.layout import Layout
from squall.core.kit.setup import Cabling, Setup
from squall.core.reason import Told
from squall.core.sky.typical_days import Light
from squall.core.years.fewest_short import fewest_short
from squall.core.years.many_days import ManyDays, days_of
from squall.core.years.nodes import Means, means_of
from squall.core.years.outlook import holds_through, most_short, outlook_of
from squall.core.years.use import Use

# Kits whose fewest short days are looked at together.
_AT_ONCE = 100


@dataclass(frozen=True)
class Ranked:
    """A kit with its place.

    Attributes
    ----------
    kit, cabling : Kit, Cabling
        The parts.
    price : float
        Of all parts. [catalogue's money]
    worst_month : int
        Index, January 0.
    worst_litres : float
        A day, the mean of that month's days. [L/d]
    worst_share : float
        That over the need. [-]
    reason : str
        Why it stands where it stands, or why it is refused.
    holds : bool
        Whether every month's days cover the need on the mean, and no more than the allowed ones are short.
    short_in_a_hundred : float or None
        Short days in a hundred of ten years of made weather; None where they were not run to their end. [-]
    year_share : float
        Of what the year wants, how much its months bring, each counted up to its own need. [-]
    """

    kit: Kit
    cabling: Cabling | None
    price: float
    worst_month: int
    worst_litres: float
    worst_share: float
    reason: Told
    holds: bool
    short_in_a_hundred: float | None = None
    year_share: float = 0.0


@dataclass(frozen=True)
class Ranking:
    """Kits that hold, cheapest first; kits that fall short, best first; kits refused.

    The cheapest that holds of each pump and source has been through its years; the dearer ones cover the need on the mean.
    """

    holds: tuple[Ranked, ...]
    short: tuple[Ranked, ...]
    refused: tuple[Ranked, ...]
    tried: int


def part_through_years(
    rows: list[tuple[Ranked, Means]], layout: Layout, light: Light, use: Use
) -> tuple[list[Ranked], list[Ranked]]:  # fmt: skip
    """Kits whose mean covers the need, parted into those that hold through ten years, and those that run short.

    Of each pump and source the years are run from the cheapest on, until one holds; those dearer than it stand as they
    are until somebody looks at them (:func:`through_years`).
    """
    held: list[Ranked] = []
    dry: list[Ranked] = []
    found: set[tuple[str, str]] = set()
    days = days_of(light)
    fewest = _FewestShort(rows, layout, days, use)
    for number, (row, means) in enumerate(rows):
        key = (row.kit.pump.id, row.kit.source)
        if key in found:
            held.append(row)
            continue
        if fewest.may_hold(number, found) and holds_through(Setup(row.kit, layout, _cabled(row)), days, means, use):
            found.add(key)
            held.append(row)
        else:
            dry.append(replace(row, holds=False))
    return held, dry


class _FewestShort:
    """The fewest short days of the next rows at a time, as a search comes to them."""

    def __init__(self, rows: list[tuple[Ranked, Means]], layout: Layout, days: ManyDays, use: Use) -> None:
        self.rows, self.layout, self.days, self.use = rows, layout, days, use
        self.known: dict[int, int] = {}
        self.most = most_short(days, use)
        self.seconds = days.seconds_of_days() if days.shade is None and rows and layout.falls is None else None

    def may_hold(self, number: int, found: set[tuple[str, str]]) -> bool:
        """Whether a row may run short no more often than is allowed."""
        if self.seconds is None:
            return True  # nodes are many where a shadow falls: the years are run at once
        if number not in self.known:
            ahead = [
                n
                for n, (row, _) in enumerate(self.rows[number:], start=number)
                if (row.kit.pump.id, row.kit.source) not in found
            ][:_AT_ONCE]
            setups = [
                (Setup(row.kit, self.layout, _cabled(row)), means) for row, means in (self.rows[n] for n in ahead)
            ]
            self.known |= dict(zip(ahead, fewest_short(setups, self.seconds, self.days, self.use), strict=True))
        return self.known[number] <= self.most


def _cabled(row: Ranked) -> Cabling:
    assert row.cabling is not None
    return row.cabling


def through_years(row: Ranked, layout: Layout, light: Light, use: Use) -> Ranked:
    """A ranked kit with its short days of ten years of made weather, and whether it holds by them."""
    if row.cabling is None or row.short_in_a_hundred is not None:
        return row
    setup, days = Setup(row.kit, layout, row.cabling), days_of(light)
    short = outlook_of(setup, days, means_of(setup, days, light.post, use), use).short_in_a_hundred
    return replace(row, holds=row.worst_share >= 1.0 and short <= use.allowed, short_in_a_hundred=short)
