"""What a yard's kits tell together: how long its pumps last, what is done to them how often."""

import itertools
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from statistics import median

from squall.core.upkeep.states import DONE, Done
from squall.job.kept.board import Standing

# A pump that is renewed under this share of what it is made for dies early. [-]
EARLY_SHARE = 0.7


@dataclass(frozen=True)
class PumpFacts:
    """A pump of the yard.

    Attributes
    ----------
    title : str
        Maker and name.
    kits : int
        That have it now.
    life_h : float
        What it is made for. [h]
    hours : tuple of float
        That those had run which were renewed, in their order. [h]
    """

    title: str
    kits: int
    life_h: float
    hours: tuple[float, ...]

    @property
    def middle_h(self) -> float | None:
        """The middle of them; None where none was renewed. [h]"""
        return median(self.hours) if self.hours else None

    @property
    def early(self) -> bool:
        """Whether they were renewed well before what they are made for."""
        return self.middle_h is not None and self.life_h > 0.0 and self.middle_h < EARLY_SHARE * self.life_h


@dataclass(frozen=True)
class DoneFacts:
    """Something that is done: how often, on how many kits, and the days from one time to the next on the same kit, their middle."""

    done: Done
    times: int
    kits: int
    every_days: float | None


def pumps_in(standings: Iterable[Standing]) -> list[PumpFacts]:
    """The pumps of the yard, those that die early first."""
    groups: dict[str, list[Standing]] = {}
    for one in standings:
        if one.seen is not None and one.pump:
            groups.setdefault(one.pump, []).append(one)
    facts = [
        PumpFacts(title, len(rows), rows[0].life_h, tuple(sorted(hours for row in rows for _, hours in row.renewed)))
        for title, rows in groups.items()
    ]
    return sorted(facts, key=lambda one: (not one.early, -len(one.hours), one.title.casefold()))


def done_in(standings: Sequence[Standing]) -> list[DoneFacts]:
    """What was done on the yard's kits, the oftenest first."""
    facts = []
    for code in DONE:
        days = [[day for done, day in one.done if done == code] for one in standings]
        between = [(later - earlier).days for row in days for earlier, later in itertools.pairwise(row)]
        if times := sum(map(len, days)):
            facts.append(DoneFacts(code, times, sum(bool(row) for row in days), median(between) if between else None))
    return sorted(facts, key=lambda one: -one.times)
