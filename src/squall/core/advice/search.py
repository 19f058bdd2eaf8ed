"""The cheapest kits that hold, out of all that can be joined, found without solving most of them.

Kits come up in the order of the least that they can cost: pump, array, supply, the cheapest hose, the thinnest cables. A kit
is judged only when nothing unjudged can be cheaper, so the first that hold are the cheapest that hold, and nothing better
can be missed. Before that, arrays whose energy can't bring the need by any hose (:mod:`squall.core.advice.bounds`) are
left out whole. What is found is what :func:`squall.core.advice.rank.rank` finds by trying everything (tested).
"""

from collections.abc import Callable
from dataclasses import replace

import numpy as np

from squall.core.advice.asked import MOST_DRY, MOST_HELPED, Asked, Found
from squall.core.advice.price_order import PriceOrder
from squall.core.advice.ranked import Ranked
from squall.core.advice.taken_up import Leaf
from squall.core.kit.cabling import Rules
from squall.core.kit.layout import Layout
from squall.core.kit.parts import Stock
from squall.core.sky.typical_days import Light
from squall.core.years.use import Use


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
    order = PriceOrder(stock, layout, light, use, rules, asked or Asked(), progress)
    complete = order.run()
    if len(order.holds) < order.asked.most:
        add_nearest(order)
    add_dry(order)
    order.short.sort(key=lambda r: (-r.worst_share, -round(r.year_share, 3), r.price))
    refused = sorted(order.refused.values(), key=lambda r: (r.pump, -r.count))
    dry = sorted((row for row in order.short if row.worst_share >= 1.0), key=lambda row: row.price)[:MOST_DRY]
    return Found(
        tuple(order.holds), tuple(few(order)), tuple(dry), tuple(refused), order.judged, order.all_there_are, complete
    )


def few(order: PriceOrder) -> list[Ranked]:
    """Of the kits that fall short as many as are lacking, the best first; one of each pump and source if that is asked."""
    lacking, seen = order.asked.most - len(order.holds), set(order.found)
    kept: list[Ranked] = []
    for row in order.short:
        key = (row.kit.pump.id, row.kit.source)
        if len(kept) >= lacking:
            break
        if not order.asked.each or key not in seen:
            kept.append(row)
            seen.add(key)
    return kept


def add_dry(order: PriceOrder) -> None:
    """Of each pump and source the cheapest that its days left out: a tank may help it."""
    seen: set[tuple[str, str]] = {(row.kit.pump.id, row.kit.source) for row in order.short if row.worst_share >= 1.0}
    for leaf in sorted(
        (leaf for left in order.dry for leaf in left.leaves),
        key=lambda leaf: leaf.way.price + order.hose_price[leaf.hose],
    ):
        key = (leaf.pump.id, leaf.source)
        if len(seen) >= MOST_HELPED:
            break
        if key not in seen:
            row = order.worked(leaf.pump, leaf.way, leaf.hose)
            if row is not None and row.price <= order.asked.budget:
                seen.add(key)
                order.short.append(replace(row, holds=False))


def add_nearest(order: PriceOrder) -> None:
    """Of pumps and sources that hold nowhere: the ways left out as too weak, those that may cover the most first.

    A family is left as soon as what its next way can cover at the most is less than what one of it covers.
    """
    best: dict[tuple[str, str], float] = {}
    for row in order.short:
        key = (row.kit.pump.id, row.kit.source)
        best[key] = max(best.get(key, 0.0), row.worst_share)
    wanted = order.asked.most - len(order.holds)
    for number, (share, leaf) in enumerate(_left_out(order)):
        key = (leaf.pump.id, leaf.source)
        kept = sorted(best.values())[-wanted:]
        if len(kept) >= wanted and share <= kept[0]:
            break
        if order.done(leaf.pump, leaf.source) or (order.asked.each and share <= best.get(key, 0.0)):
            continue
        if number % 16 == 0:
            order.tell()
        near = order.worked(leaf.pump, leaf.way, leaf.hose)
        if near is not None and near.price <= order.asked.budget:
            order.short.append(replace(near, holds=False))
            best[key] = max(best.get(key, 0.0), near.worst_share)


def _left_out(order: PriceOrder) -> list[tuple[float, Leaf]]:
    """Kits that were left out as too weak, with the most that each can cover of its worst month, the most first. [-]"""
    left = []
    for dim in order.dim:
        rows = np.array([way.array for way in dim.ways])
        least = order.need.shares[order.arrays.panel[rows]].min(axis=1) * dim.bound.l_per_j * order.arrays.count[rows]
        for share, way in zip(least.tolist(), dim.ways, strict=True):
            left += [(share, Leaf(dim.pump, way, dim.source, hose)) for hose in order.hoses]
    for leaf in (leaf for kept in (*order.weak, *order.dry) for leaf in kept.leaves):
        table = order.table(leaf.pump, leaf.hose)
        if table is not None:
            left.append((order.quick.most_share(table, leaf.way), leaf))
    return sorted(left, key=lambda row: -row[0])
