"""What a search is to find, and what it brought."""

from collections.abc import Callable
from dataclasses import dataclass, field
from math import inf

import numpy as np
from numpy.typing import NDArray

from squall.core.advice.ranked import Ranked, Ranking
from squall.core.kit.parts import SourceKind
from squall.core.reason import Told

Floats = NDArray[np.float64]
SOURCES: tuple[SourceKind, ...] = ("panel", "controller", "battery")
# Kits that are found, where nobody asks for another number.
MOST = 24
# Panels of an array, at most.
MOST_PANELS = 12
# So many kits that cover the need and run short are kept: a tank may help them.
MOST_DRY = 200
# And of those that their days left out before they were worked out so many, one of each pump and source.
MOST_HELPED = 40


@dataclass(frozen=True)
class Asked:
    """What is to be found.

    Attributes
    ----------
    most : int
        Kits.
    each : bool
        Whether one of each pump and source is enough: its cheapest that holds.
    sources : tuple of str
        Of which sources.
    budget : float
        Most that a kit may cost. [catalogue's money]
    most_panels : int
        Panels of an array, 1 to 12.
    most_kg : float
        Most that a kit may weigh to carry. [kg]
    as_found : callable or None
        Told of each kit that holds as soon as it is found: they come in the order of their price.
    """

    most: int = MOST
    each: bool = True
    sources: tuple[SourceKind, ...] = SOURCES
    budget: float = inf
    most_panels: int = MOST_PANELS
    most_kg: float = inf
    as_found: Callable[[Ranked], None] | None = field(default=None, compare=False)


@dataclass(frozen=True)
class RefusedKits:
    """Kits of one pump that are refused for one kind of reason: how many, and the first one's reason in full."""

    pump: str
    count: int
    reason: Told


@dataclass(frozen=True)
class Found:
    """What a search brought.

    Attributes
    ----------
    holds : tuple[Ranked, ...]
        The cheapest that hold through ten years of made weather, cheapest first.
    short : tuple[Ranked, ...]
        Where fewer hold than were asked for: those that come nearest, best first.
    dry : tuple[Ranked, ...]
        Cheaper ones that cover the need on the mean, and run short: a tank may help them.
    refused : tuple[RefusedKits, ...]
        Kits that came up and are refused, by pump.
    judged, all_there_are : int
        Kits that were worked out, and that could be put together of the stock.
    complete : bool
        Whether nothing else holds.
    """

    holds: tuple[Ranked, ...]
    short: tuple[Ranked, ...]
    dry: tuple[Ranked, ...]
    refused: tuple[RefusedKits, ...]
    judged: int
    all_there_are: int
    complete: bool

    @property
    def ranking(self) -> Ranking:
        """As a ranking: those that hold, and all others that were looked at and cover the need."""
        return Ranking(self.holds, self.dry, (), self.judged)
