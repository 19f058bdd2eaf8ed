"""What comes up while kits are taken in the order of price, and what is left out meanwhile."""

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from squall.core.advice.bounds import PumpBound
from squall.core.advice.joined import Joined
from squall.core.advice.ranked import Ranked
from squall.core.drive.tables import LoadTable
from squall.core.kit.parts import Hose, Pump, SourceKind
from squall.core.kit.setup import Setup
from squall.core.years.nodes import Means


@dataclass(eq=False, slots=True)
class Way:
    """One way to feed a pump, its rows in the order of price, from the one that comes next."""

    pump: Pump
    source: SourceKind
    ways: list[Joined]
    at: int = 0
    looked: int = 0
    weak: list[bool] = field(default_factory=list)
    dry: list[bool] = field(default_factory=list)


@dataclass(eq=False, slots=True)
class Feed:
    """A pump and a kind of source whose ways are not laid out yet."""

    pump: Pump
    source: SourceKind
    table: LoadTable
    bound: PumpBound
    sized: NDArray[np.bool_]


@dataclass(eq=False, slots=True)
class Leaf:
    """One kit that may be: a pump, a way to feed it, a hose."""

    pump: Pump
    way: Joined
    source: SourceKind
    hose: Hose | None


@dataclass(eq=False, slots=True)
class Left:
    """Kits left out together: a pump, a way to feed it, and every hose for which that was seen."""

    pump: Pump
    way: Joined
    source: SourceKind
    hoses: tuple[Hose | None, ...]

    @property
    def leaves(self) -> list[Leaf]:
        """Each of them for itself."""
        return [Leaf(self.pump, self.way, self.source, hose) for hose in self.hoses]


@dataclass(eq=False, slots=True)
class Priced:
    """A kit with its cables, at its true price."""

    setup: Setup
    leaf: Leaf


@dataclass(eq=False, slots=True)
class Judged:
    """A kit whose months cover the need, before its years."""

    row: Ranked
    means: Means


@dataclass(frozen=True, eq=False)
class Dim:
    """Ways of a pump and source whose energy can't bring the need: looked at only if too few hold."""

    pump: Pump
    source: SourceKind
    ways: list[Joined]
    bound: PumpBound
