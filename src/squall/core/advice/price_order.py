"""Kits in the order of the least that they can cost, taken up one by one until enough hold: the work behind a search.

A pump comes up at the least that any kit of it can cost, then each way to feed it, then each hose with that, then the kit at
its true price, cables chosen; then by its months, and last through ten years of made weather. Whatever is left out is kept for
:mod:`squall.core.advice.nearest`, in case too few hold.
"""

import heapq
from collections.abc import Callable
from dataclasses import replace
from math import inf

import numpy as np
from numpy.typing import NDArray

from squall.core.advice.asked import Asked, RefusedKits
from squall.core.advice.bounds import YEARS_SLACK, NeedBound, PumpBound, bound_of, need_bound
from squall.core.advice.joined import Joined, Joiner, Refused, arrays_of, supply_price
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
from squall.core.advice.taken_up import Dim, Feed, Judged, Leaf, Left, Priced, Way
from squall.core.advice.years_gate import YearsGate
from squall.core.drive.motors import shut_off_head
from squall.core.drive.tables import LoadTable
from squall.core.electrics.conductors import sizes
from squall.core.errors import Stopped
from squall.core.kit.cabling import LEAST_MM2, Rules
from squall.core.kit.carried import carried_kg
from squall.core.kit.layout import Layout
from squall.core.kit.parts import Hose, Pump, SourceKind, Stock
from squall.core.kit.setup import SUNDRIES_PRICE, Cabling, Setup, cable_price, table_on
from squall.core.kit.supply import Banked, Controlled
from squall.core.reason import Reason, Told
from squall.core.sky.typical_days import Light
from squall.core.years.many_days import days_of
from squall.core.years.use import Use

OVER_CODES = ("motor-instant-maker-allows", "motor-instant-nobody-allows")
# Below the true price by rounding alone. [catalogue's money]
_DUST = 1e-6
_TOLD_EVERY = 16
# Ways to feed a pump that are looked at together, at the most. [-]
_MOST_BATCH = 64

# What comes up next: the least it can cost, unjudged before judged, more water first, and in the order it came in.
_Item = tuple[float, int, float, int, object]


class PriceOrder:
    """One search at work."""

    def __init__(
        self, stock: Stock, layout: Layout, light: Light, use: Use, rules: Rules, asked: Asked, progress: Callable[[float], bool] | None
    ) -> None:  # fmt: skip
        self.stock, self.layout, self.light, self.use, self.rules, self.asked = stock, layout, light, use, rules, asked
        self.progress = progress
        self.days = days_of(light)
        self.joins = list(arrangements(asked.most_panels))
        self.arrays = arrays_of(stock.panels, self.joins)
        self.joiner = Joiner(self.arrays, layout, light)
        self.gate = YearsGate(layout, light, use)
        self.need: NeedBound = need_bound(stock.panels, self.days, use, lambda: self.gate.seconds_of(stored=False)[0])
        self.hoses: tuple[Hose | None, ...] = (stock.hoses or (None,)) if layout.hose_m > 0.0 else (None,)
        self.widest_first = sorted(self.hoses, key=lambda h: 0.0 if h is None else -h.inner_diameter_m)
        self.held = [
            s
            for s in by_price_of([Controlled(c) for c in stock.controllers if c.kind == "pump"])
            if isinstance(s, Controlled)
        ]
        self.chargers = [c for c in stock.controllers if c.kind != "pump"]
        self.least_supply = self._least_supplies()
        self.hose_price = {hose: 0.0 if hose is None else hose.price_of(layout.hose_m) for hose in self.hoses}
        self.cable = self._least_cable()
        self.heap: list[_Item] = []
        self.number = 0
        self.judged = 0
        self.holds: list[Ranked] = []
        self.short: list[Ranked] = []
        self.found: set[tuple[str, str]] = set()
        self.refused: dict[tuple[str, str], RefusedKits] = {}
        self.dim: list[Dim] = []
        self.quick = Quick(self.joiner, self.days, use, rules)
        self.tables: dict[tuple[str, str | None], LoadTable | None] = {}
        self.weak: list[Left] = []
        self.dry: list[Left] = []
        self.over_words: dict[str, Reason] = {}
        # A hose as wide and as smooth as any: what is too weak on it is too weak on all.
        self.wide = None if None in self.hoses else best_hose(stock.hoses)
        self.best: dict[str, LoadTable] = {}

    def _least_cable(self) -> float:
        """Least price of a kit's cables. [catalogue's money]"""
        fit = (self.rules.priced(s) for s in sizes(self.rules.standard) if s.area_mm2 >= LEAST_MM2 - 1e-9)
        others = self.layout.cable_pieces
        own = self.layout.pump_cable_m + self.layout.array_cable_m - sum(piece.length_m for piece in others)
        return max(own, 0.0) * min(map(cable_price, fit)) + sum(
            piece.length_m * cable_price(piece.conductor) for piece in others if piece.run == "pump"
        )

    def _least_supplies(self) -> dict[SourceKind, float]:
        """Least that feeding a pump from each source costs beside the panels; without end where nothing does. [catalogue's money]"""
        chargers = min((c.price_of(1) for c in self.chargers), default=inf)
        banks = min((battery.price_of(1) for battery in self.stock.batteries), default=inf)
        return {"panel": 0.0, "controller": min(map(supply_price, self.held), default=inf), "battery": chargers + banks}

    def run(self) -> bool:
        """Take up what can be cheapest, again and again, until enough hold; tells whether nothing is left that may.

        Raises
        ------
        Stopped
            If the progress answers False.
        """
        for pump in self.stock.pumps:
            self._enter(pump)
        popped = 0
        while self.heap and len(self.holds) < self.asked.most:
            popped += 1
            if popped % _TOLD_EVERY == 0:
                self.tell()
            price, *_, what = heapq.heappop(self.heap)
            if price > self.asked.budget + _DUST:
                self.heap.clear()
                break
            self._take(what)
        return not self.heap

    @property
    def all_there_are(self) -> int:
        """Kits that could be put together of the stock, whether they fit or not. [-]"""
        supplies = 1 + len(self.held) + len(self.chargers) * len(self.stock.batteries)
        return len(self.stock.pumps) * len(self.arrays.price) * len(self.hoses) * supplies

    def tell(self) -> None:
        """Tell the progress; a search that is to stop ends here."""
        share = len(self.holds) / self.asked.most
        if self.progress is not None and not self.progress(max(share, 1.0 - 1.0 / (1.0 + self.judged / 400.0))):
            raise Stopped(Reason("search-stopped-nothing-changed"))

    def _push(self, price: float, what: object, stage: int = 0, less_water: float = 0.0) -> None:
        self.number += 1
        heapq.heappush(self.heap, (price - (_DUST if stage == 0 else 0.0), stage, less_water, self.number, what))

    def _enter(self, pump: Pump) -> None:
        """A pump comes up at the least that a kit of it can cost; one that can't lift the water doesn't."""
        motor = pump.motor
        if motor.kind == "centrifugal" and shut_off_head(motor, stands_v(pump)) <= self.layout.steady.least_static_m:
            self._refuse(pump, 1, cannot_lift(self.layout))
            return
        if self.stock.panels:
            self._push(self._least_of(pump), pump)

    def _least_of(self, pump: Pump) -> float:
        """Least that any kit of a pump can cost. [catalogue's money]"""
        rest = float(self.arrays.price.min()) + min(self.hose_price.values()) + self.cable
        return pump.price_of(1) + SUNDRIES_PRICE + rest

    def _refuse(self, pump: Pump, count: int, reason: Told) -> None:
        key = (pump.id, reason.code if isinstance(reason, Reason) else str(reason))
        known = self.refused.get(key)
        self.refused[key] = (
            RefusedKits(pump.title, count, reason) if known is None else replace(known, count=known.count + count)
        )

    def _take(self, what: object) -> None:
        match what:
            case Leaf():
                self._price(what)
            case Priced():
                self._judge(what)
            case Way():
                self._step(what)
            case Judged():
                self._through(what)
            case Pump():
                self._open(what)
            case Feed():
                self._feed(what)
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
        # Of a kit that serves several places no quick bound is known: a narrow hose may share the water out better.
        if self.wide is not None and self.layout.round is None and narrower_gives_less(pump):
            self.best[pump.id] = table_on(pump.motor, self.layout, self.wide)
        sized = self._sized(pump)
        for source in self.asked.sources:
            if self.least_supply[source] < inf:
                self._push(self._least_of(pump) + self.least_supply[source], Feed(pump, source, table, bound, sized))

    def _sized(self, pump: Pump) -> NDArray[np.bool_]:
        """Arrays that are neither far too small for a pump nor far too large."""
        watts = self.arrays.watts
        sized: NDArray[np.bool_] = (watts >= LEAST_SIZE * pump.rated_w) & (watts <= MOST_OVERSIZE * pump.rated_w)
        return sized

    def _feed(self, one: Feed) -> None:
        """All ways to feed a pump from one kind of source that may bring the need."""
        pump, source = one.pump, one.source
        ways, refused = self._ways(pump, source, one.sized, one.table)
        if source == "panel":
            ways = self._within_volts(pump, ways, self.quick.over_whatever_hose(pump))
        for why in refused:
            self._refuse(pump, why.count * len(self.hoses), why.reason)
        bright, dim = self._parted(ways, source, one.bound)
        if dim:
            self.dim.append(Dim(pump, source, dim, one.bound))
        if source != "battery" and self.quick.never_enough(self.best.get(pump.id), bright, self.gate.most_short):
            self.dry += [Left(pump, way, source, self.hoses) for way in bright]
        elif bright:
            self._push(self._least(pump, bright[0]), Way(pump, source, bright))

    def _within_volts(self, pump: Pump, ways: list[Joined], over: NDArray[np.bool_]) -> list[Joined]:
        """Ways that don't bring the pump over its volts whatever the hose; the first of the others tells why."""
        wrong = [way for way in ways if over[way.array]]
        for hose in self.widest_first:
            table = self.table(pump, hose)
            if wrong and table is not None:
                if self.worked(pump, wrong[0], hose) is not None:
                    return ways  # never: the whole judgement doesn't agree, so nothing is left out
                for said in [self.refused.get((pump.id, code)) for code in OVER_CODES]:
                    if said is not None:
                        self._refuse(pump, len(wrong) * len(self.hoses) - 1, said.reason)
                break
        return [way for way in ways if not over[way.array]]

    def _widest_table(self, pump: Pump) -> LoadTable | None:
        """The pump on the widest hose by which it lifts the water; None if it does by none."""
        for hose in self.widest_first:
            table = self.table(pump, hose)
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

    def done(self, pump: Pump, source: SourceKind) -> bool:
        """Whether nothing more of a pump and source is asked for."""
        return self.asked.each and (pump.id, source) in self.found

    def _step(self, way: Way) -> None:
        """The next way to feed a pump comes up with each hose, and the one after it."""
        if self.done(way.pump, way.source):
            return
        joined = way.ways[way.at]
        base = self._least(way.pump, joined) - min(self.hose_price.values())
        left = Left(way.pump, joined, way.source, self.hoses)
        weak, dry = self._seen(way)
        if weak:
            self.weak.append(left)
        elif dry:
            self.dry.append(left)
        else:
            for leaf in left.leaves:
                self._push(base + self.hose_price[leaf.hose], leaf)
        if way.at + 1 < len(way.ways):
            way.at += 1
            self._push(self._least(way.pump, way.ways[way.at]), way)

    def _seen(self, way: Way) -> tuple[bool, bool]:
        """Whether the way that comes next is too weak or too dry on any hose: seen of a batch at once, each twice the one before."""
        best = self.best.get(way.pump.id)
        if best is None:
            return False, False
        if way.at >= way.looked:
            batch = way.ways[way.at : way.at + min(4 + way.at, _MOST_BATCH)]
            weak = self.quick.most_shares(best, batch) < 1.0 - YEARS_SLACK
            way.weak += weak.tolist()
            way.dry += self.quick.too_dry_each(best, batch, self.gate).tolist()
            way.looked += len(batch)
        return way.weak[way.at], way.dry[way.at]

    def _price(self, leaf: Leaf) -> None:
        """A kit that may bring the need gets its cables, and comes up again at its true price."""
        if self.done(leaf.pump, leaf.source):
            return
        table = self.table(leaf.pump, leaf.hose)
        if table is None:
            return
        over = self.over_words.get(leaf.pump.id)
        if over is not None and leaf.source == "panel" and self.quick.over_on(leaf.pump, table)[leaf.way.array]:
            self._refuse(leaf.pump, 1, over)
            return
        if self.layout.round is None:
            if self.quick.most_share(table, leaf.way) < 1.0 - YEARS_SLACK:
                self.weak.append(Left(leaf.pump, leaf.way, leaf.source, (leaf.hose,)))
                return
            if self.quick.too_dry(table, leaf.way, self.gate):
                self.dry.append(Left(leaf.pump, leaf.way, leaf.source, (leaf.hose,)))
                return
        self.judged += 1
        kit = replace(self.joiner.kit(leaf.pump, leaf.way), hose=leaf.hose)
        cabling = cabling_or_why(kit, table, self.layout, self.rules)
        if not isinstance(cabling, Cabling):
            self._refuse(leaf.pump, 1, cabling)
            return
        setup = Setup(kit, self.layout, cabling).knowing(table)
        if not self._too_heavy(setup):
            self._push(setup.price, Priced(setup, leaf), 1)

    def table(self, pump: Pump, hose: Hose | None) -> LoadTable | None:
        """The pump on the line with a hose; None if it lifts nothing there."""
        key = (pump.id, None if hose is None else hose.id)
        if key not in self.tables:
            table = table_on(pump.motor, self.layout, hose)
            self.tables[key] = table if lifts(pump, table) else None
        return self.tables[key]

    def _judge(self, priced: Priced) -> None:
        """One kit worked out by its months; if they cover the need it comes up once more, for its years."""
        pump = priced.setup.kit.pump
        if self.done(pump, priced.setup.kit.source):
            return
        row, means = judge_cabled(priced.setup, self.light, self.use, self.rules)
        if row.cabling is None or means is None:
            self._refuse(pump, 1, row.reason)
            if isinstance(row.reason, Reason) and row.reason.code in OVER_CODES:
                self.over_words[pump.id] = row.reason
        elif row.holds:
            self._push(row.price, Judged(row, means), 2, -row.worst_litres)
        else:
            self.short.append(row)

    def worked(self, pump: Pump, way: Joined, hose: Hose | None) -> Ranked | None:
        """A kit by its months; None if it is refused."""
        table = self.table(pump, hose)
        if table is None:
            return None
        self.judged += 1
        kit = replace(self.joiner.kit(pump, way), hose=hose)
        row, _ = judge_months(kit, table, self.layout, self.light, self.use, self.rules)
        if row.cabling is None:
            self._refuse(pump, 1, row.reason)
            return None
        return None if self._too_heavy(Setup(kit, self.layout, row.cabling)) else row

    def _too_heavy(self, setup: Setup) -> bool:
        return self.asked.most_kg < inf and carried_kg(setup) > self.asked.most_kg

    def _through(self, judged: Judged) -> None:
        """A kit whose months cover the need, through ten years of made weather."""
        row = judged.row
        if self.done(row.kit.pump, row.kit.source) or row.price > self.asked.budget:
            return
        assert row.cabling is not None
        setup = Setup(row.kit, self.layout, row.cabling)
        if self.gate.lets_through(setup, judged.means):
            self.found.add((row.kit.pump.id, row.kit.source))
            self.holds.append(row)
            if self.asked.as_found is not None:
                self.asked.as_found(row)
        else:
            self.short.append(replace(row, holds=False))
