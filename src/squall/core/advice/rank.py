"""Kits that would do it: the whole catalogue against one job, ranked, with reasons."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from math import inf

import numpy as np

from squall.core.advice.joined import supply_price
from squall.core.advice.ranked import Ranked, Ranking, part_through_years, through_years
from squall.core.advice.refusals import (
    bright_refusal,
    cannot_lift,
    charge_refusal,
    draws,
    lifts,
    limiting_cause,
    place_refusal,
    pump_controller_refusal,
    season_refusal,
    volts_refusal,
)
from squall.core.drive.tables import LoadTable
from squall.core.errors import OutOfRange, Stopped
from squall.core.kit.cabling import Rules, choose_cabling
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Layout
from squall.core.kit.parts import BatteryUnit, Controller, Hose, Pump, Stock
from squall.core.kit.setup import Cabling, Setup, kit_price, table_on
from squall.core.kit.supply import Banked, Controlled, Direct
from squall.core.kit.wiring import wiring_refusal
from squall.core.reason import Reason, Told
from squall.core.sky.typical_days import Light
from squall.core.years.by_light import instant_v
from squall.core.years.nodes import Means
from squall.core.years.typical import sum_of_year, year_of
from squall.core.years.use import Use

MOST_PANELS = 4
RESERVE_DAYS = 2.0
MOST_SERIES = 4
MOST_OVERSIZE = 3.0
LEAST_SIZE = 0.6


def arrangements(most: int = MOST_PANELS) -> Iterator[tuple[int, int]]:
    """Panels in series and strings, up to so many panels. [-]

    Examples
    --------
    >>> list(arrangements())[:3]
    [(1, 1), (1, 2), (1, 3)]
    """
    for series in range(1, MOST_SERIES + 1):
        for parallel in range(1, most // series + 1):
            yield series, parallel


def candidates(pump: Pump, stock: Stock, daily_ah: Callable[[float], float]) -> Iterator[tuple[Kit, Reason | None]]:
    """Every array and source worth a look for a pump, with the reason if they can't be joined.

    Parameters
    ----------
    pump : Pump
        The pump.
    stock : Stock
        The catalogue. Of the controllers that fit, the cheapest is taken; of the batteries, the
        cheapest bank that bridges two dark days and bears the panels' amps, else the largest.
    daily_ah : callable
        Charge that the need takes a day from a bank of given volts. [Ah] of [V]

    Yields
    ------
    tuple[Kit, str or None]
        A kit without hose, and a refusal that needs no season to be seen.
    """
    held = by_price_of([Controlled(c) for c in stock.controllers if c.kind == "pump"])
    chargers = [c for c in stock.controllers if c.kind != "pump"]
    banked = by_price_of([Banked(c, *bank) for bank in banks_of(pump, stock.batteries, daily_ah) for c in chargers])
    for panel in stock.panels:
        for series, parallel in arrangements():
            watts = panel.module.watts * series * parallel
            if not LEAST_SIZE * pump.rated_w <= watts <= MOST_OVERSIZE * pump.rated_w:
                continue
            direct = Kit(pump, Direct(), panel, series, parallel)
            yield direct, volts_refusal(direct)
            if held:
                yield _cheapest_that_fits(direct, held, pump_controller_refusal)
            if banked:
                yield _cheapest_that_fits(direct, banked, charge_refusal)


def fitting_controller(direct: Kit, controllers: tuple[Controller, ...]) -> tuple[Kit, Reason | None]:
    """A kit joined directly, given the cheapest pump controller that fits; with the reason if none does."""
    held = by_price_of([Controlled(c) for c in controllers if c.kind == "pump"])
    return _cheapest_that_fits(direct, held, pump_controller_refusal)


def by_price_of(supplies: Sequence[Controlled | Banked]) -> list[Controlled | Banked]:
    """Supplies, the cheapest first."""
    return sorted(supplies, key=supply_price)


def _cheapest_that_fits(
    direct: Kit, by_price: list[Controlled | Banked], refusal: Callable[[Kit], Reason | None]
) -> tuple[Kit, Reason | None]:
    for supply in by_price:
        kit = Kit(direct.pump, supply, direct.panel, direct.in_series, direct.in_parallel, direct.hose, direct.tank)
        if refusal(kit) is None:
            return kit, None
    rated = direct.pump.motor.rated_v
    closest = replace(direct, supply=min(by_price, key=lambda supply: abs(supply.controller.out_max_v - rated)))
    return closest, refusal(closest)


def banks_of(
    pump: Pump, batteries: tuple[BatteryUnit, ...], daily_ah: Callable[[float], float]
) -> list[tuple[BatteryUnit, int]]:
    """Banks of a pump's volts that bridge the reserve [Ah], and how many of each; else the largest; none where nothing has those volts."""
    fitting = []
    for battery in batteries:
        count = round(pump.motor.rated_v / battery.nominal_v)
        if count >= 1 and abs(count * battery.nominal_v - pump.motor.rated_v) <= 1.0:
            bridges = battery.capacity_ah * battery.usable >= RESERVE_DAYS * daily_ah(battery.open_v * count)
            fitting.append((battery, count, bridges))
    enough = [(battery, count) for battery, count, bridges in fitting if bridges]
    if enough or not fitting:
        return enough
    battery, count, _ = max(fitting, key=lambda row: row[0].capacity_ah * row[0].usable)
    return [(battery, count)]


def rank(
    stock: Stock,
    layout: Layout,
    light: Light,
    use: Use,
    rules: Rules,
    progress: Callable[[float], bool] | None = None,
) -> Ranking:
    """Try the whole catalogue on one job.

    Parameters
    ----------
    stock : Stock
        What there is.
    layout : Layout
        Lift, run, cable lengths.
    light : Light
        The year's light on the panels.
    use : Use
        What is wanted, and what waits.
    rules : Rules
        How kits are wired here.
    progress : callable, optional
        Called with the share done, 0 to 1 [-]; answers False to stop.

    Returns
    -------
    Ranking
        Kits that hold sorted by price, others by how much of the need they cover.

    Raises
    ------
    Stopped
        If `progress` answers False.

    Notes
    -----
    A kit holds if each month's days cover the need on the mean and ten made years bring no more short days than are
    allowed, as the verdict has it. The years are run from the cheapest on. Refused are kits whose volts or current would
    harm a part, whose wiring would be condemned, or whose pump can't reach the lift.
    """
    holds: list[tuple[Ranked, Means]] = []
    short: list[Ranked] = []
    refused: list[Ranked] = []
    tried = 0
    for number, pump in enumerate(stock.pumps):
        if progress is not None and not progress(number / len(stock.pumps)):
            raise Stopped(Reason("search-stopped-nothing-changed"))
        # A hose that takes no piece's place is not bought, and makes no kit another.
        hoses: tuple[Hose | None, ...] = stock.hoses if layout.hose_m > 0.0 else (None,)
        tables = {hose: table_on(pump.motor, layout, hose) for hose in hoses}
        reaching = {hose: table for hose, table in tables.items() if lifts(pump, table)}
        if not reaching:
            any_kit = Kit(pump, Direct(), stock.panels[0], 1, 1)
            refused.append(_refused(any_kit, cannot_lift(layout)))
            tried += 1
            continue
        widest = max(reaching, key=lambda hose: 0.0 if hose is None else hose.inner_diameter_m)
        for bare, reason in candidates(pump, stock, daily_charge_of(reaching[widest], max(use.need_l))):
            reason = reason or place_refusal(bare, layout, light)
            if reason is not None:
                refused.append(_refused(bare, reason))
                tried += 1
                continue
            for hose, table in reaching.items():
                kit = Kit(pump, bare.supply, bare.panel, bare.in_series, bare.in_parallel, hose)
                ranked, means = judge_months(kit, table, layout, light, use, rules)
                tried += 1
                if means is not None and ranked.holds:
                    holds.append((ranked, means))
                else:
                    (refused if ranked.cabling is None else short).append(ranked)
    holds.sort(key=lambda row: (row[0].price, -row[0].worst_litres))
    held, dry = part_through_years(holds, layout, light, use)
    short += dry
    short.sort(key=lambda r: (-r.worst_share, -round(r.year_share, 3), r.price))
    return Ranking(tuple(held), tuple(short), tuple(refused), tried)


def daily_charge_of(table: LoadTable, litres: float) -> Callable[[float], float]:
    """Charge that so many litres a day take from a bank of given volts. [L], [V] to [Ah]"""

    def daily_ah(bank_v: float) -> float:
        flow = float(np.interp(bank_v, table.volts_v, table.flow_m3_s))
        amps = float(np.interp(bank_v, table.volts_v, table.current_a))
        return amps * litres / (flow * 3_600_000.0) if flow > 0.0 else 0.0

    return daily_ah


def _refused(kit: Kit, reason: Told) -> Ranked:
    return Ranked(kit, None, 0.0, 0, 0.0, 0.0, reason, False)


def judge(kit: Kit, layout: Layout, light: Light, use: Use, rules: Rules) -> Ranked:
    """Judge one kit on a job.

    Parameters
    ----------
    kit : Kit
        The kit.
    layout : Layout
        Lift, run and cable lengths.
    light : Light
        Half-hourly light and heat.
    use : Use
        What is wanted, and what waits.
    rules : Rules
        How kits are wired here.

    Returns
    -------
    Ranked
        Its litres, price and months, or why it is refused; a refused kit has no cabling.
    """
    table = table_on(kit.pump.motor, layout, kit.hose)
    if not lifts(kit.pump, table):
        return _refused(kit, cannot_lift(layout))
    row, _ = judge_months(kit, table, layout, light, use, rules)
    return through_years(row, layout, light, use)


def judge_months(
    kit: Kit, table: LoadTable, layout: Layout, light: Light, use: Use, rules: Rules
) -> tuple[Ranked, Means | None]:
    """A kit ranked by its months' means, and what its days bring; refused as soon as anything forbids it.

    Parameters
    ----------
    kit, table : Kit, LoadTable
        The kit, and its pump on its line.
    layout, light, use, rules
        As :func:`rank` takes them.
    """
    cabling = cabling_or_why(kit, table, layout, rules)
    if not isinstance(cabling, Cabling):
        return _refused(kit, cabling), None
    return judge_cabled(Setup(kit, layout, cabling).knowing(table), light, use, rules)


def cabling_or_why(kit: Kit, table: LoadTable, layout: Layout, rules: Rules) -> Cabling | Told:
    """The cables of a kit, or why none is thick enough."""
    try:
        return choose_cabling(kit, layout, table, rules)
    except OutOfRange as error:
        return Reason("no-cable-thick-enough", error=error.said)


def judge_cabled(setup: Setup, light: Light, use: Use, rules: Rules) -> tuple[Ranked, Means | None]:
    """As :func:`judge_months`, of a kit whose cables are chosen."""
    kit, layout, need_l, instant = setup.kit, setup.layout, use.need_l, instant_v(setup)
    # Seen before any year is run, but where the flow of a bright noon may forbid it first.
    bright = None if draws(kit, layout) else bright_refusal(setup, instant)
    if bright is not None:
        return _refused(kit, bright), None
    year = sum_of_year(setup, light, use, instant)
    problem = season_refusal(setup, year) or wiring_refusal(setup, rules, year.most_motor_a)
    if problem is not None:
        return _refused(kit, problem), None
    month, litres, share = worst_of(year.average_litres.tolist(), need_l)
    price = kit_price(setup)
    covers = Reason("covers-share-of-month", share=share, month=month) if need_l[month] > 0 else Reason("no-need-set")
    met = sum(min(made, need) for made, need in zip(year.average_litres.tolist(), need_l, strict=True))
    whole = met / sum(need_l) if any(need_l) else 1.0
    row = Ranked(kit, setup.cabling, price, month, litres, share, covers, share >= 1.0, None, whole)
    return row, year.means


def reasons(ranked: Sequence[Ranked], layout: Layout, light: Light, use: Use) -> list[Reason]:
    """Why each of some kits stands at its place, the first being the cheapest that holds.

    Parameters
    ----------
    ranked : sequence of Ranked
        In order; kits that hold first.
    layout, light, use : Layout, Light, Use
        As they were ranked.

    Returns
    -------
    list[str]
        One sentence part each.
    """
    words = []
    for place, row in enumerate(ranked):
        assert row.cabling is not None
        season = year_of(Setup(row.kit, layout, row.cabling), light, use, start=False)
        held = limiting_cause(row.kit, layout, season, use)
        if not row.holds:
            first = Reason("falls-short")
        elif place == 0:
            first = Reason("cheapest-holds")
        else:
            first = Reason("more-than-cheapest", price=row.price - ranked[0].price)
        if row.short_in_a_hundred is None:
            words.append(Reason("place-and-cause", place=first, reason=row.reason, held=held))
        else:
            days = row.short_in_a_hundred
            words.append(Reason("place-days-and-cause", place=first, reason=row.reason, days=days, held=held))
    return words


def worst_of(average_litres: list[float], need_l: tuple[float, ...]) -> tuple[int, float, float]:
    """Worst month of a year, its litres, and their share of the need, as :class:`Season` tells them.

    Examples
    --------
    >>> worst_of([500.0] * 11 + [300.0], (400.0,) * 12)
    (11, 300.0, 0.75)
    """
    shares = [made / need if need > 0.0 else inf for made, need in zip(average_litres, need_l, strict=True)]
    keys = shares if min(shares) < inf else average_litres
    month = keys.index(min(keys))
    return month, average_litres[month], shares[month]
