"""Kits that would do it: the whole catalogue against one job, ranked, with reasons."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from math import inf

import numpy as np

from squall.core.advice.refusals import (
    cannot_lift,
    charge_refusal,
    lifts,
    limiting_cause,
    place_refusal,
    pump_controller_refusal,
    season_refusal,
    volts_refusal,
)
from squall.core.drive.tables import LoadTable
from squall.core.electrics.conductors import Standard
from squall.core.errors import OutOfRange, Stopped
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Layout
from squall.core.kit.parts import BatteryUnit, Controller, Pump, Stock
from squall.core.kit.setup import Cabling, Setup, choose_cabling, kit_price, table_for
from squall.core.kit.supply import Banked, Controlled, Direct
from squall.core.reason import Reason
from squall.core.sky.typical_days import Light, clear_noons_only
from squall.core.years.typical import sum_of_year, year_of

MOST_PANELS = 4
RESERVE_DAYS = 2.0
MOST_SERIES = 4
MOST_OVERSIZE = 3.0
LEAST_SIZE = 0.6


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
        On the average day of that month. [L/d]
    worst_share : float
        That over the need. [-]
    reason : str
        Why it stands where it stands, or why it is refused.
    holds : bool
        Whether the worst month's average day covers the need.
    """

    kit: Kit
    cabling: Cabling | None
    price: float
    worst_month: int
    worst_litres: float
    worst_share: float
    reason: Reason
    holds: bool


@dataclass(frozen=True)
class Ranking:
    """Kits that hold, cheapest first; kits that fall short, best first; kits refused."""

    holds: tuple[Ranked, ...]
    short: tuple[Ranked, ...]
    refused: tuple[Ranked, ...]
    tried: int


def arrangements() -> Iterator[tuple[int, int]]:
    """Panels in series and strings, up to four panels.

    Examples
    --------
    >>> list(arrangements())[:3]
    [(1, 1), (1, 2), (1, 3)]
    """
    for series in range(1, MOST_SERIES + 1):
        for parallel in range(1, MOST_PANELS // series + 1):
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
    for panel in stock.panels:
        for series, parallel in arrangements():
            watts = panel.module.watts * series * parallel
            if not LEAST_SIZE * pump.rated_w <= watts <= MOST_OVERSIZE * pump.rated_w:
                continue
            direct = Kit(pump, Direct(), panel, series, parallel)
            yield direct, volts_refusal(direct)
            yield fitting_controller(direct, stock.controllers)
            chargers = [c for c in stock.controllers if c.kind != "pump"]
            banks = _banks(pump, stock.batteries, daily_ah)
            if banks:
                banked = [replace(direct, supply=Banked(c, *bank)) for bank in banks for c in chargers]
                yield _cheapest_that_fits(banked, charge_refusal)


def fitting_controller(direct: Kit, controllers: tuple[Controller, ...]) -> tuple[Kit, Reason | None]:
    """A kit joined directly, given the cheapest pump controller that fits; with the reason if none does."""
    held = [replace(direct, supply=Controlled(c)) for c in controllers if c.kind == "pump"]
    return _cheapest_that_fits(held, pump_controller_refusal)


def _cheapest_that_fits(kits: list[Kit], refusal: Callable[[Kit], Reason | None]) -> tuple[Kit, Reason | None]:
    def price(kit: Kit) -> float:
        bank = kit.supply.battery.price * kit.supply.count if isinstance(kit.supply, Banked) else 0.0
        return bank + (kit.controller.price if kit.controller is not None else 0.0)

    by_price = sorted(kits, key=price)
    for kit in by_price:
        if refusal(kit) is None:
            return kit, None
    rated = by_price[0].pump.motor.rated_v
    closest = min(by_price, key=lambda kit: abs((kit.controller.out_max_v if kit.controller else 0.0) - rated))
    return closest, refusal(closest)


def _banks(
    pump: Pump, batteries: tuple[BatteryUnit, ...], daily_ah: Callable[[float], float]
) -> list[tuple[BatteryUnit, int]]:
    """Banks of a pump's volts that bridge the reserve; else the largest; none where nothing has those volts."""
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
    need_l: tuple[float, ...],
    max_drop: float,
    standard: Standard,
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
    need_l : tuple[float, ...]
        Litres a day by month. [L/d]
    max_drop : float
        Drop allowed on the pump's cable. [-]
    standard : str
        Cable standard.
    progress : callable, optional
        Called with the share done; answers False to stop.

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
    A kit holds if the average day of its worst month covers the need. Refused are kits whose
    volts or current would harm a part, whose pump can't reach the lift, or whose points don't
    cover this line.
    """
    holds: list[Ranked] = []
    short: list[Ranked] = []
    refused: list[Ranked] = []
    light = clear_noons_only(light)
    tried = 0
    for number, pump in enumerate(stock.pumps):
        if progress is not None and not progress(number / len(stock.pumps)):
            raise Stopped(Reason("search-stopped-nothing-changed"))
        tables = {hose: table_for(pump.motor, layout.line(hose)) for hose in stock.hoses}
        reaching = {hose: table for hose, table in tables.items() if lifts(pump, table)}
        if not reaching:
            any_kit = Kit(pump, Direct(), stock.panels[0], 1, 1)
            refused.append(_refused(any_kit, cannot_lift(layout)))
            tried += 1
            continue
        widest = max(reaching, key=lambda hose: hose.inner_diameter_m)
        for bare, reason in candidates(pump, stock, _daily_charge(reaching[widest], max(need_l))):
            reason = reason or place_refusal(bare, layout)
            if reason is not None:
                refused.append(_refused(bare, reason))
                tried += 1
                continue
            for hose, table in reaching.items():
                ranked = _judge(replace(bare, hose=hose), table, layout, light, need_l, max_drop, standard)
                tried += 1
                (refused if ranked.cabling is None else holds if ranked.holds else short).append(ranked)
    holds.sort(key=lambda r: (r.price, -r.worst_litres))
    short.sort(key=lambda r: (-r.worst_share, r.price))
    return Ranking(tuple(holds), tuple(short), tuple(refused), tried)


def _daily_charge(table: LoadTable, litres: float) -> Callable[[float], float]:
    def daily_ah(bank_v: float) -> float:
        flow = float(np.interp(bank_v, table.volts_v, table.flow_m3_s))
        amps = float(np.interp(bank_v, table.volts_v, table.current_a))
        return amps * litres / (flow * 3_600_000.0) if flow > 0.0 else 0.0

    return daily_ah


def _refused(kit: Kit, reason: Reason) -> Ranked:
    return Ranked(kit, None, 0.0, 0, 0.0, 0.0, reason, False)


def judge(
    kit: Kit, layout: Layout, light: Light, need_l: tuple[float, ...], max_drop: float, standard: Standard
) -> Ranked:
    """Judge one kit on a job.

    Parameters
    ----------
    kit : Kit
        The kit.
    layout : Layout
        Lift, run and cable lengths.
    light : Light
        Half-hourly light and heat.
    need_l : tuple of float
        What each month asks for a day. [L]
    max_drop : float
        Greatest share of the volts that a cable may take.
    standard : str
        ``metric`` or ``awg`` cable sizes.

    Returns
    -------
    Ranked
        Its litres, price and months, or why it is refused; a refused kit has no cabling.
    """
    table = table_for(kit.pump.motor, layout.line(kit.hose))
    if not lifts(kit.pump, table):
        return _refused(kit, cannot_lift(layout))
    return _judge(kit, table, layout, light, need_l, max_drop, standard)


def _judge(
    kit: Kit,
    table: LoadTable,
    layout: Layout,
    light: Light,
    need_l: tuple[float, ...],
    max_drop: float,
    standard: Standard,
) -> Ranked:
    try:
        cabling = choose_cabling(kit, layout, table, max_drop, standard)
    except OutOfRange as error:
        return _refused(kit, Reason("no-cable-thick-enough", error=error.said))
    year = sum_of_year(Setup(kit, layout, cabling), light)
    problem = season_refusal(kit, layout, year)
    if problem is not None:
        return _refused(kit, problem)
    month, litres, share = worst_of(year.average_litres.tolist(), need_l)
    price = kit_price(Setup(kit, layout, cabling))
    covers = Reason("covers-share-of-month", share=share, month=month) if need_l[month] > 0 else Reason("no-need-set")
    return Ranked(kit, cabling, price, month, litres, share, covers, share >= 1.0)


def reasons(ranked: Sequence[Ranked], layout: Layout, light: Light) -> list[Reason]:
    """Why each of some kits stands at its place, the first being the cheapest that holds.

    Parameters
    ----------
    ranked : sequence of Ranked
        In order; kits that hold first.
    layout, light : Layout, Light
        As they were ranked.

    Returns
    -------
    list[str]
        One sentence part each.
    """
    words = []
    for place, row in enumerate(ranked):
        assert row.cabling is not None
        season = year_of(Setup(row.kit, layout, row.cabling), light, start=False)
        held = limiting_cause(row.kit, layout, season)
        if not row.holds:
            first = Reason("falls-short")
        elif place == 0:
            first = Reason("cheapest-holds")
        else:
            first = Reason("more-than-cheapest", price=row.price - ranked[0].price)
        words.append(Reason("place-and-cause", place=first, reason=row.reason, held=held))
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
