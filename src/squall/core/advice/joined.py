"""All arrays and sources that a pump may be joined with, a row each, found without making a kit of every one.

The same rules as :func:`squall.core.advice.rank.candidates` asks of one kit after the other (tested to agree), asked of
all arrays at once: volts of the panels against the pump, a controller's window and volts, a charger's and a bank's.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import inf

import numpy as np
from numpy.typing import NDArray

from squall.core.advice.refusals import (
    OVER_BANK,
    OVER_LEAST,
    PANEL_MOST,
    SWITCHED_MOST,
    bank_refusal,
    charge_share,
    least_v,
    place_refusal,
    supply_refusal,
    wires_refusal,
)
from squall.core.electrics.modules import open_volts_at
from squall.core.kit.cabling import OVER_SUN
from squall.core.kit.kit import TOUCH_LIMIT_V, Kit
from squall.core.kit.layout import Layout
from squall.core.kit.parts import Panel, Pump
from squall.core.kit.supply import Banked, Controlled, Direct, Supply
from squall.core.reason import Reason
from squall.core.sky.typical_days import Light

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]
Joins = Sequence[tuple[int, int]]


@dataclass(frozen=True, eq=False)
class Arrays:
    """All ways of joining all panels, a row each.

    Attributes
    ----------
    panels : tuple[Panel, ...]
        Of the stock.
    panel, series, strings : NDArray
        Which panel, how many in a string, how many strings.
    count, watts, price : NDArray
        Panels, nameplate watts, price of all. [-], [W], [catalogue's money]
    """

    panels: tuple[Panel, ...]
    panel: NDArray[np.int64]
    series: NDArray[np.int64]
    strings: NDArray[np.int64]
    count: NDArray[np.int64]
    watts: Floats
    price: Floats

    def panel_of(self, row: int) -> Panel:
        """The panel of a row."""
        return self.panels[int(self.panel[row])]


def arrays_of(panels: tuple[Panel, ...], joins: Joins) -> Arrays:
    """Every panel joined every way.

    Parameters
    ----------
    panels : tuple[Panel, ...]
        Of the stock.
    joins : sequence of tuple
        Panels in series and strings.
    """
    which = np.repeat(np.arange(len(panels)), len(joins))
    series = np.tile(np.array([s for s, _ in joins]), len(panels))
    strings = np.tile(np.array([p for _, p in joins]), len(panels))
    count = series * strings
    watts = np.array([panel.module.watts for panel in panels])
    price = np.array([panels[w].price_of(int(n)) for w, n in zip(which, count, strict=True)])
    return Arrays(panels, which, series, strings, count, watts[which] * count if panels else price, price)


@dataclass(eq=False, slots=True)
class Joined:
    """One way to feed a pump: the row of its array, the supply, and the price of both. [catalogue's money]"""

    array: int
    supply: Supply
    price: float


@dataclass(frozen=True)
class Refused:
    """Why some arrays can't feed a pump: how many, and the first one's reason."""

    count: int
    reason: Reason


class Joiner:
    """What can be joined on one job: arrays, controllers, chargers and banks of a stock."""

    def __init__(self, arrays: Arrays, layout: Layout, light: Light) -> None:
        self.arrays, self.layout, self.light = arrays, layout, light
        panels = arrays.panels
        self.vmp = np.array([p.module.vmp_v for p in panels])[arrays.panel] * arrays.series if panels else np.zeros(0)
        cold = np.array([open_volts_at(p.module, layout.record_low_c) for p in panels])
        self.cold = cold[arrays.panel] * arrays.series if panels else np.zeros(0)
        self.short = (
            np.array([p.module.isc_a for p in panels])[arrays.panel] * arrays.strings if panels else np.zeros(0)
        )
        self.stands = self.cold <= 2.0 * TOUCH_LIMIT_V
        stand = light.origin
        if stand is not None:
            self.stands &= arrays.strings % stand.mounting.ways == 0

    def direct(self, pump: Pump, wanted: Bools) -> tuple[list[Joined], list[Refused]]:
        """Panels straight on a pump, of the rows that are wanted."""
        rated = pump.motor.rated_v
        fits = (self.vmp >= least_v(pump)) & (self.vmp <= PANEL_MOST * rated) & self.stands & (not pump.three_wires)
        rows, straight = np.flatnonzero(fits & wanted), Direct()
        each = zip(rows.tolist(), self.arrays.price[rows].tolist(), strict=True)
        return [Joined(row, straight, price) for row, price in each], self._why(pump, wanted & ~fits, straight)

    def controlled(
        self, pump: Pump, by_price: Sequence[Controlled], allowed_v: float, wanted: Bools
    ) -> tuple[list[Joined], list[Refused]]:
        """Panels behind the cheapest pump controller that fits each row; the pump stands `allowed_v`. [V]"""
        chosen = np.full(self.vmp.size, -1)
        for number, supply in enumerate(by_price):
            c = supply.controller
            if c.out_max_v <= allowed_v and c.out_max_v >= least_v(pump) and wires_refusal(pump, supply) is None:
                chosen[(chosen < 0) & (self.vmp >= c.min_v * OVER_LEAST)] = number
        return self._settled(pump, by_price, chosen, wanted, [s.controller.max_v for s in by_price])

    def banked(self, pump: Pump, by_price: Sequence[Banked], wanted: Bools) -> tuple[list[Joined], list[Refused]]:
        """Panels charging the cheapest bank and charger that bear each row."""
        chosen = np.full(self.vmp.size, -1)
        for number, supply in enumerate(by_price):
            open_rows = (chosen < 0) & wanted
            if bank_refusal(pump, supply) is not None:
                continue
            if not open_rows.any():
                break
            chosen[open_rows & self._charges(supply)] = number
        return self._settled(pump, by_price, chosen, wanted, [s.controller.max_v for s in by_price])

    def _charges(self, supply: Banked) -> Bools:
        """Which arrays may charge a bank through a charger, as :func:`squall.core.advice.refusals.charge_refusal` has it."""
        c, battery, nominal = supply.controller, supply.battery, supply.nominal_v
        if nominal > c.out_max_v:
            return np.zeros(self.vmp.size, dtype=bool)
        fits = self.vmp >= OVER_BANK * nominal
        if c.kind == "charge-switching":
            fits &= (self.vmp <= SWITCHED_MOST * nominal) & (OVER_SUN * self.short <= c.max_a)
            amps = self.short
        else:
            amps = np.minimum(self.arrays.watts * c.efficiency / supply.open_v, c.max_a)
        found: Bools = fits & (amps <= charge_share(battery) * battery.capacity_ah)
        return found

    def _settled(
        self,
        pump: Pump,
        by_price: Sequence[Controlled] | Sequence[Banked],
        chosen: NDArray[np.int64],
        wanted: Bools,
        most_v: Sequence[float],
    ) -> tuple[list[Joined], list[Refused]]:
        limits = np.array([*most_v, inf])[chosen]
        fits = (chosen >= 0) & (self.cold <= limits) & self.stands
        rows = np.flatnonzero(fits & wanted)
        prices = np.array([supply_price(supply) for supply in by_price] or [0.0])
        each = zip(rows.tolist(), chosen[rows].tolist(), (self.arrays.price[rows] + prices[chosen[rows]]).tolist(), strict=True)  # fmt: skip
        found = [Joined(row, by_price[number], price) for row, number, price in each]
        none = wanted & (chosen < 0)
        refused = self._why(pump, none, by_price[0]) if by_price else []
        outside = np.flatnonzero(wanted & (chosen >= 0) & ~fits)
        if outside.size:
            refused += self._why(pump, wanted & (chosen >= 0) & ~fits, by_price[int(chosen[outside[0]])])
        return found, refused

    def _why(self, pump: Pump, rows: Bools, supply: Supply) -> list[Refused]:
        """How many rows are refused, and why the first of them is."""
        places = np.flatnonzero(rows)
        if places.size == 0:
            return []
        row = int(places[0])
        kit = self.kit(pump, Joined(row, supply, 0.0))
        reason = supply_refusal(kit) or place_refusal(kit, self.layout, self.light)
        return [] if reason is None else [Refused(int(places.size), reason)]

    def kit(self, pump: Pump, way: Joined) -> Kit:
        """The kit of a way to feed a pump, without a hose."""
        a = self.arrays
        return Kit(pump, way.supply, a.panel_of(way.array), int(a.series[way.array]), int(a.strings[way.array]))


def supply_price(supply: Supply) -> float:
    """Price of a controller, or of a charger and its bank. [catalogue's money]"""
    match supply:
        case Banked():
            return supply.battery.price_of(supply.count) + supply.controller.price_of(1)
        case Controlled():
            return supply.controller.price_of(1)
        case _:
            return 0.0
