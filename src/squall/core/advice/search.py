"""The cheapest kits that hold, out of all that can be joined, found without solving most of them.

Kits come up in the order of the least that they can cost: pump, array, supply, the cheapest hose, the thinnest cables. A kit
is judged only when nothing unjudged can be cheaper, so the first that hold are the cheapest that hold, and nothing better
can be missed. Before that, arrays whose energy can't bring the need by any hose (:mod:`squall.core.advice.bounds`) are
left out whole. What is found is what :func:`squall.core.advice.rank.rank` finds by trying everything (tested).
"""

import heapq
from collections.abc import Callable
from dataclasses import dataclass, replace
from math import inf

import numpy as np
from numpy.typing import NDArray

from squall.core.advice.bounds import YEARS_SLACK, NeedBound, PumpBound, bound_of, drawn_days, need_bound
from squall.core.advice.joined import Joined, Joiner, Refused, arrays_of
from squall.core.advice.quick import Quick, best_hose, narrower_gives_less
from squall.core.advice.rank import (
    LEAST_SIZE,
    MOST_OVERSIZE,
    arrangements,
    banks_of,
    by_price_of,
    cabling_or_why,
    daily_charge_of,
    judge_cabled,
    judge_months,
)
from squall.core.advice.ranked import Ranked
from squall.core.advice.refusals import cannot_lift, lifts, stand_refusal, stands_v
from squall.core.drive.motors import shut_off_head
from squall.core.drive.tables import LoadTable
from squall.core.electrics.conductors import sizes
from squall.core.errors import Stopped
from squall.core.kit.cabling import LEAST_MM2, Rules
from squall.core.kit.layout import Layout
from squall.core.kit.parts import Hose, Pump, SourceKind, Stock
from squall.core.kit.setup import SUNDRIES_PRICE, Cabling, Setup, cable_price, table_for
from squall.core.kit.supply import Banked, Controlled
from squall.core.reason import Reason, Told
from squall.core.sky.typical_days import Light
from squall.core.years.fewest_short import fewest_short
from squall.core.years.many_days import days_of
from squall.core.years.nodes import Means
from squall.core.years.outlook import holds_through, most_short
from squall.core.years.use import Use

Floats = NDArray[np.float64]
SOURCES: tuple[SourceKind, ...] = ("panel", "controller", "battery")
# Kits that are found, where nobody asks for another number.
MOST = 24
OVER_CODES = ("motor-instant-maker-allows", "motor-instant-nobody-allows")
# Below the true price by rounding alone. [catalogue's money]
_DUST = 1e-6
_TOLD_EVERY = 16


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
    """

    most: int = MOST
    each: bool = True
    sources: tuple[SourceKind, ...] = SOURCES
    budget: float = inf


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
        The cheapest that hold through ten made years, cheapest first.
    short : tuple[Ranked, ...]
        Where fewer hold than were asked for: those that come nearest, best first.
    refused : tuple[RefusedKits, ...]
        Kits that came up and are refused, by pump.
    judged, all_there_are : int
        Kits that were worked out, and that could be put together of the stock.
    complete : bool
        Whether nothing else holds.
    """

    holds: tuple[Ranked, ...]
    short: tuple[Ranked, ...]
    refused: tuple[RefusedKits, ...]
    judged: int
    all_there_are: int
    complete: bool


# What comes up next: the least it can cost, unjudged before judged, more water first, and in the order it came in.
_Item = tuple[float, int, float, int, object]


@dataclass(frozen=True, eq=False)
class _Way:
    """One way to feed a pump, its rows in the order of price, from the one that comes next."""

    pump: Pump
    source: SourceKind
    ways: list[Joined]
    at: int = 0


@dataclass(frozen=True, eq=False)
class _Leaf:
    pump: Pump
    way: Joined
    source: SourceKind
    hose: Hose | None


@dataclass(frozen=True, eq=False)
class _Priced:
    setup: Setup
    leaf: _Leaf


@dataclass(frozen=True, eq=False)
class _Judged:
    row: Ranked
    means: Means


def search(
    stock: Stock,
    layout: Layout,
    light: Light,
    use: Use,
    rules: Rules,
    asked: Asked | None = None,
    progress: Callable[[float], bool] | None = None,
) -> Found:
    """The cheapest kits that hold on a job.

    Parameters
    ----------
    stock : Stock
        What there is.
    layout, light, use, rules
        As :func:`squall.core.advice.rank.rank` takes them.
    asked : Asked, optional
        How many of which.
    progress : callable, optional
        Called with the share done, 0 to 1 [-]; answers False to stop.

    Returns
    -------
    Found
        Kits that hold, cheapest first; those that come nearest where there are too few.

    Raises
    ------
    Stopped
        If `progress` answers False.
    """
    return _Search(stock, layout, light, use, rules, asked or Asked(), progress).run()


@dataclass(frozen=True, eq=False)
class _Dim:
    """Ways of a pump and source whose energy can't bring the need: looked at only if too few hold."""

    pump: Pump
    source: SourceKind
    ways: list[Joined]
    bound: PumpBound


class _Search:
    def __init__(
        self, stock: Stock, layout: Layout, light: Light, use: Use, rules: Rules, asked: Asked, progress: Callable[[float], bool] | None
    ) -> None:  # fmt: skip
        self.stock, self.layout, self.light, self.use, self.rules, self.asked = stock, layout, light, use, rules, asked
        self.progress = progress
        self.days = days_of(light)
        self.joins = list(arrangements())
        self.arrays = arrays_of(stock.panels, self.joins)
        self.joiner = Joiner(self.arrays, layout, light)
        self.need: NeedBound = need_bound(stock.panels, self.days, use)
        self.hoses: tuple[Hose | None, ...] = stock.hoses if layout.hose_m > 0.0 else (None,)
        self.held = [
            s
            for s in by_price_of([Controlled(c) for c in stock.controllers if c.kind == "pump"])
            if isinstance(s, Controlled)
        ]
        self.chargers = [c for c in stock.controllers if c.kind != "pump"]
        self.hose_price = {hose: 0.0 if hose is None else hose.price_of(layout.hose_m) for hose in self.hoses}
        self.cable = self._least_cable()
        self.heap: list[_Item] = []
        self.number = 0
        self.judged = 0
        self.holds: list[Ranked] = []
        self.short: list[Ranked] = []
        self.found: set[tuple[str, str]] = set()
        self.refused: dict[tuple[str, str], RefusedKits] = {}
        self.dim: list[_Dim] = []
        self.most_short = most_short(self.days, use)
        self.quick = Quick(self.joiner, self.days, use, rules)
        self.tables: dict[tuple[str, str | None], LoadTable | None] = {}
        self.weak: list[_Leaf] = []
        self.over_words: dict[str, Reason] = {}
        # A hose as wide and as smooth as any: what is too weak on it is too weak on all.
        self.wide = None if None in self.hoses else best_hose(stock.hoses)
        self.best: dict[str, LoadTable] = {}
        self.seconds: dict[bool, tuple[NDArray[np.float32], NDArray[np.float32]]] = {}

    def _least_cable(self) -> float:
        """Least price of a kit's cables. [catalogue's money]"""
        thin = min((s for s in sizes(self.rules.standard) if s.area_mm2 >= LEAST_MM2 - 1e-9), key=lambda s: s.area_mm2)
        return (self.layout.pump_cable_m + self.layout.array_cable_m) * cable_price(thin)

    def run(self) -> Found:
        """Take up what can be cheapest, again and again, until enough hold."""
        for pump in self.stock.pumps:
            self._enter(pump)
        popped = 0
        while self.heap and len(self.holds) < self.asked.most:
            popped += 1
            if popped % _TOLD_EVERY == 0:
                self._tell()
            price, *_, what = heapq.heappop(self.heap)
            if price > self.asked.budget + _DUST:
                self.heap.clear()
                break
            self._take(what)
        complete = not self.heap
        if len(self.holds) < self.asked.most:
            self._nearest()
        self.short.sort(key=lambda r: (-r.worst_share, -round(r.year_share, 3), r.price))
        combinations = len(self.stock.pumps) * len(self.arrays.price) * len(self.hoses)
        combinations *= 1 + len(self.held) + len(self.chargers) * len(self.stock.batteries)
        refused = sorted(self.refused.values(), key=lambda r: (r.pump, -r.count))
        return Found(
            tuple(self.holds), tuple(self._few(self.short)), tuple(refused), self.judged, combinations, complete
        )

    def _few(self, rows: list[Ranked]) -> list[Ranked]:
        """Of rows that fall short the best, one of each pump and source if that is asked."""
        lacking, seen = self.asked.most - len(self.holds), set(self.found)
        kept: list[Ranked] = []
        for row in rows:
            key = (row.kit.pump.id, row.kit.source)
            if len(kept) >= lacking:
                break
            if not self.asked.each or key not in seen:
                kept.append(row)
                seen.add(key)
        return kept

    def _tell(self) -> None:
        share = len(self.holds) / self.asked.most
        if self.progress is not None and not self.progress(max(share, 1.0 - 1.0 / (1.0 + self.judged / 400.0))):
            raise Stopped(Reason("search-stopped-nothing-changed"))

    def _push(self, price: float, what: object, stage: int = 0, less_water: float = 0.0) -> None:
        self.number += 1
        heapq.heappush(self.heap, (price - (_DUST if stage == 0 else 0.0), stage, less_water, self.number, what))

    def _enter(self, pump: Pump) -> None:
        """A pump comes up at the least that a kit of it can cost; one that can't lift the water doesn't."""
        motor = pump.motor
        if motor.kind == "centrifugal" and shut_off_head(motor, stands_v(pump)) <= self.layout.steady.static_head_m:
            self._refuse(pump, 1, cannot_lift(self.layout))
            return
        if self.stock.panels:
            least = float(self.arrays.price.min()) + min(self.hose_price.values()) + self.cable
            self._push(pump.price_of(1) + SUNDRIES_PRICE + least, pump)

    def _refuse(self, pump: Pump, count: int, reason: Told) -> None:
        key = (pump.id, reason.code if isinstance(reason, Reason) else str(reason))
        known = self.refused.get(key)
        self.refused[key] = (
            RefusedKits(pump.title, count, reason) if known is None else replace(known, count=known.count + count)
        )

    def _take(self, what: object) -> None:
        match what:
            case _Leaf():
                self._price(what)
            case _Priced():
                self._judge(what)
            case _Way():
                self._step(what)
            case _Judged():
                self._through(what)
            case Pump():
                self._open(what)
            case _:
                raise AssertionError(what)

    def _open(self, pump: Pump) -> None:
        """All ways to feed a pump that may bring the need, each source for itself."""
        far = stand_refusal(pump, self.layout)
        table = self._widest_table(pump)
        if far is not None or table is None:
            self._refuse(pump, 1, far or cannot_lift(self.layout))
            return
        bound = bound_of(pump, self.layout, stands_v(pump))
        watts = self.arrays.watts
        sized = (watts >= LEAST_SIZE * pump.rated_w) & (watts <= MOST_OVERSIZE * pump.rated_w)
        if self.wide is not None and narrower_gives_less(pump):
            self.best[pump.id] = table_for(pump.motor, self.layout.line(self.wide))
        for source in self.asked.sources:
            ways, refused = self._ways(pump, source, sized, table)
            if source == "panel":
                over = self.quick.over_whatever_hose(pump)
                ways = self._within_volts(pump, ways, over)
            for why in refused:
                self._refuse(pump, why.count * len(self.hoses), why.reason)
            bright, dim = self._parted(ways, source, bound)
            if bright:
                self._push(self._least(pump, bright[0]), _Way(pump, source, bright))
            if dim:
                self.dim.append(_Dim(pump, source, dim, bound))

    def _within_volts(self, pump: Pump, ways: list[Joined], over: NDArray[np.bool_]) -> list[Joined]:
        """Ways that don't bring the pump over its volts whatever the hose; the first of the others tells why."""
        wrong = [way for way in ways if over[way.array]]
        for hose in self.hoses:
            table = self._table(pump, hose)
            if wrong and table is not None:
                row = self._worked(pump, wrong[0], hose)
                if row is not None:
                    return ways  # never: the whole judgement doesn't agree, so nothing is left out
                key = (pump.id, "motor-instant")
                said = next(
                    (r for k, r in self.refused.items() if k[0] == pump.id and k[1].startswith("motor-instant")), None
                )
                if said is not None:
                    self.refused[key] = replace(said, count=said.count + len(wrong) * len(self.hoses) - 1)
                break
        return [way for way in ways if not over[way.array]]

    def _widest_table(self, pump: Pump) -> LoadTable | None:
        """The pump on the widest hose by which it lifts the water; None if it does by none."""
        for hose in sorted(self.hoses, key=lambda h: 0.0 if h is None else -h.inner_diameter_m):
            table = self._table(pump, hose)
            if table is not None:
                return table
        return None

    def _ways(
        self, pump: Pump, source: SourceKind, sized: NDArray[np.bool_], table: LoadTable
    ) -> tuple[list[Joined], list[Refused]]:
        match source:
            case "panel":
                found, refused = self.joiner.direct(pump, sized)
            case "controller":
                found, refused = self.joiner.controlled(pump, self.held, stands_v(pump), sized)
            case _:
                banks = banks_of(pump, self.stock.batteries, daily_charge_of(table, max(self.use.need_l)))
                both = by_price_of([Banked(c, *bank) for bank in banks for c in self.chargers])
                found, refused = self.joiner.banked(pump, [s for s in both if isinstance(s, Banked)], sized)
        return sorted(found, key=lambda way: way.price), refused

    def _parted(self, ways: list[Joined], source: SourceKind, bound: PumpBound) -> tuple[list[Joined], list[Joined]]:
        """Ways whose energy may bring the need, and those whose can't."""
        if not ways:
            return [], []
        rows = np.array([way.array for way in ways])
        asks = (self.need.by_months if source == "battery" else self.need.by_days)[self.arrays.panel[rows]]
        may = bound.l_per_j * self.arrays.count[rows] >= asks
        if source != "battery":
            may &= bound.most_l_s >= self.need.lit_l_s
        return [w for w, m in zip(ways, may, strict=True) if m], [w for w, m in zip(ways, may, strict=True) if not m]

    def _least(self, pump: Pump, way: Joined) -> float:
        """Least that a kit of a pump and a way to feed it can cost."""
        return pump.price_of(1) + SUNDRIES_PRICE + way.price + self.cable + min(self.hose_price.values())

    def _done(self, pump: Pump, source: SourceKind) -> bool:
        return self.asked.each and (pump.id, source) in self.found

    def _step(self, way: _Way) -> None:
        """The next way to feed a pump comes up with each hose, and the one after it."""
        if self._done(way.pump, way.source):
            return
        joined = way.ways[way.at]
        base = self._least(way.pump, joined) - min(self.hose_price.values())
        best = self.best.get(way.pump.id)
        if best is not None and self.quick.most_share(best, joined) < 1.0 - YEARS_SLACK:
            self.weak += [_Leaf(way.pump, joined, way.source, hose) for hose in self.hoses]
        else:
            for hose in self.hoses:
                self._push(base + self.hose_price[hose], _Leaf(way.pump, joined, way.source, hose))
        if way.at + 1 < len(way.ways):
            after = replace(way, at=way.at + 1)
            self._push(self._least(way.pump, after.ways[after.at]), after)

    def _price(self, leaf: _Leaf) -> None:
        """A kit that may bring the need gets its cables, and comes up again at its true price."""
        if self._done(leaf.pump, leaf.source):
            return
        table = self._table(leaf.pump, leaf.hose)
        if table is None:
            return
        over = self.over_words.get(leaf.pump.id)
        if over is not None and leaf.source == "panel" and self.quick.over_on(leaf.pump, table)[leaf.way.array]:
            self._refuse(leaf.pump, 1, over)
            return
        if self.quick.most_share(table, leaf.way) < 1.0 - YEARS_SLACK:
            self.weak.append(leaf)
            return
        self.judged += 1
        kit = replace(self.joiner.kit(leaf.pump, leaf.way), hose=leaf.hose)
        cabling = cabling_or_why(kit, table, self.layout, self.rules)
        if not isinstance(cabling, Cabling):
            self._refuse(leaf.pump, 1, cabling)
            return
        setup = Setup(kit, self.layout, cabling).knowing(table)
        self._push(setup.price, _Priced(setup, leaf), 1)

    def _table(self, pump: Pump, hose: Hose | None) -> LoadTable | None:
        """The pump on the line with a hose; None if it lifts nothing there."""
        key = (pump.id, None if hose is None else hose.id)
        if key not in self.tables:
            table = table_for(pump.motor, self.layout.line(hose))
            self.tables[key] = table if lifts(pump, table) else None
        return self.tables[key]

    def _judge(self, priced: _Priced) -> None:
        """One kit worked out by its months; if they cover the need it comes up once more, for its years."""
        pump = priced.setup.kit.pump
        if self._done(pump, priced.setup.kit.source):
            return
        row, means = judge_cabled(priced.setup, self.light, self.use, self.rules)
        if row.cabling is None or means is None:
            self._refuse(pump, 1, row.reason)
            if isinstance(row.reason, Reason) and row.reason.code in OVER_CODES:
                self.over_words[pump.id] = row.reason
        elif row.holds:
            self._push(row.price, _Judged(row, means), 2, -row.worst_litres)
        else:
            self.short.append(row)

    def _worked(self, pump: Pump, way: Joined, hose: Hose | None) -> Ranked | None:
        """A kit by its months; None if it is refused."""
        table = self._table(pump, hose)
        if table is None:
            return None
        self.judged += 1
        kit = replace(self.joiner.kit(pump, way), hose=hose)
        row, _ = judge_months(kit, table, self.layout, self.light, self.use, self.rules)
        if row.cabling is None:
            self._refuse(pump, 1, row.reason)
            return None
        return row

    def _through(self, judged: _Judged) -> None:
        """A kit whose months cover the need, through ten made years."""
        row = judged.row
        if self._done(row.kit.pump, row.kit.source) or row.price > self.asked.budget:
            return
        assert row.cabling is not None
        setup = Setup(row.kit, self.layout, row.cabling)
        if self._may_hold(setup, judged.means) and holds_through(setup, self.days, judged.means, self.use):
            self.found.add((row.kit.pump.id, row.kit.source))
            self.holds.append(row)
        else:
            self.short.append(replace(row, holds=False))

    def _may_hold(self, setup: Setup, means: Means) -> bool:
        if self.days.shade is not None or self.layout.falls is not None:
            return True  # nodes are many where a shadow falls: the years are run at once
        whole, by_light = self._seconds(setup)
        # By the best air of each light first: a sixteenth of the sums, and most that run short show it.
        best = replace(means, nodes=means.nodes.max(axis=(0, 1)))
        for row, seconds in ((best, by_light), (means, whole)):
            if fewest_short([(setup, row)], seconds, self.days, self.use)[0] > self.most_short:
                return False
        return True

    def _seconds(self, setup: Setup) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
        """Seconds of each day at each node, and at each light; for a kit without a store those alone in which water is taken. [s]"""
        stored = isinstance(setup.kit.supply, Banked)
        found = self.seconds.get(stored)
        if found is None:
            days = self.days if stored else drawn_days(self.days, self.use)
            whole = days.seconds_of_days()
            found = self.seconds[stored] = whole, whole.reshape(len(whole), -1, days.lights_w_m2.size).sum(axis=1)
        return found

    def _nearest(self) -> None:
        """Of pumps and sources that hold nowhere: the ways left out as too weak, those that may cover the most first.

        A family is left as soon as what its next way can cover at the most is less than what one of it covers.
        """
        best: dict[tuple[str, str], float] = {}
        for row in self.short:
            key = (row.kit.pump.id, row.kit.source)
            best[key] = max(best.get(key, 0.0), row.worst_share)
        wanted = self.asked.most - len(self.holds)
        left = [(float(share), dim.pump, dim.source, way, hose)
                for dim in self.dim for share, way in zip(self._most_shares(dim), dim.ways, strict=True) for hose in self.hoses]  # fmt: skip
        for leaf in self.weak:
            table = self.tables[leaf.pump.id, None if leaf.hose is None else leaf.hose.id]
            assert table is not None
            left.append((self.quick.most_share(table, leaf.way), leaf.pump, leaf.source, leaf.way, leaf.hose))
        left.sort(key=lambda row: -row[0])
        for number, (share, pump, source, way, hose) in enumerate(left):
            key = (pump.id, source)
            kept = sorted(best.values())[-wanted:]
            if len(kept) >= wanted and share <= kept[0]:
                break
            if self._done(pump, source) or (self.asked.each and share <= best.get(key, 0.0)):
                continue
            if number % _TOLD_EVERY == 0:
                self._tell()
            near = self._worked(pump, way, hose)
            if near is not None:
                self.short.append(replace(near, holds=False))
                best[key] = max(best.get(key, 0.0), near.worst_share)

    def _most_shares(self, dim: _Dim) -> Floats:
        """The most that each of some ways can cover of its worst month. [-]"""
        rows = np.array([way.array for way in dim.ways])
        shares: Floats = (
            self.need.shares[self.arrays.panel[rows]].min(axis=1) * dim.bound.l_per_j * self.arrays.count[rows]
        )
        return shares
