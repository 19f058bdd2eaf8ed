"""What is wanted and what waits for it: all that a verdict counts beside the kit and its light."""

from dataclasses import dataclass, replace
from math import inf

import numpy as np
from numpy.typing import NDArray

from squall.core.kit.bank import AS_NEW, BankState
from squall.core.kit.kit import Kit
from squall.core.kit.supply import PROBE_WAIT_MIN, Controlled
from squall.core.need.demand import Demand, demand_of
from squall.core.years.tanks import Tank

Floats = NDArray[np.float64]
# Where a hand switches on again, of a full tank: a guess. [-]
BY_HAND = 0.9
# Short days in a hundred that are allowed where nobody says: a choice of ours. [-]
ALLOWED_SHORT = 3.0


@dataclass(frozen=True, eq=False)
class Use:
    """What is wanted and what waits for it: all that a verdict counts beside the kit and its light.

    Attributes
    ----------
    need_l : tuple of float
        Litres a day by month, headroom counted. [L]
    demand : Demand
        What is drawn through the day, without headroom.
    tank : Tank or None
        The job's own store.
    by_sun : bool
        Whether the use itself follows the sun: what a day wants is taken whenever it comes. Else water that comes when
        nobody takes it is lost, or waits in the tank.
    bank : BankState
        A battery's age, cold and timer.
    most_l_s : float or None
        What the well gives. [L/s]
    stands_l : float or None
        What stands in it over the pump, where that is known: no more is to be had in each wait of a probe. [L]
    allowed : float
        Short days in a hundred up to which a kit is said to hold. [-]
    """

    need_l: tuple[float, ...]
    demand: Demand
    tank: Tank | None = None
    by_sun: bool = True
    bank: BankState = AS_NEW
    most_l_s: float | None = None
    stands_l: float | None = None
    allowed: float = ALLOWED_SHORT

    def most_of(self, kit: Kit) -> float | None:
        """What the well gives a kit whose probe stops it: its yield, and what stands over the pump in each wait; None for any flow. [L/s]"""
        if self.most_l_s is None or self.stands_l is None:
            return self.most_l_s
        wait_s = kit.supply.dry_wait_s if isinstance(kit.supply, Controlled) else 60.0 * PROBE_WAIT_MIN
        return self.most_l_s if wait_s <= 0.0 else min(self.most_l_s, self.stands_l / wait_s)

    def need_of_days(self, month: NDArray[np.int64]) -> Floats:
        """Litres that are drawn on days of given months, January 0, without headroom. [L]"""
        litres: Floats = self.demand.litres_a_day[month]
        return litres

    def switched(self, banked: bool) -> tuple[float, float, float]:
        """What the store holds, and below and above what it is switched on and off, nil without one. [L]

        Without a float switch panels pump on and the tank spills. A pump on a bank without one is taken as switched by
        hand when the tank is full, as it is without a tank when nobody takes water: else it would empty the bank.
        """
        if self.tank is None:
            return 0.0, 0.0, 0.0
        size, on, off = self.tank.capacity_l, self.tank.on_below_l, self.tank.off_above_l
        return (size, BY_HAND * size, size) if banked and off == inf else (size, on, off)

    def with_tank(self, tank: Tank | None) -> "Use":
        """The same with another store."""
        return replace(self, tank=tank)


def plain_use(need_l: tuple[float, ...]) -> Use:
    """So many litres a day by month [l], taken whenever they come, nothing stored."""
    return Use(need_l, demand_of([(need_l, 0.0, 0.0)]))
