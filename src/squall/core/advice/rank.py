"""Kits that would do it: the whole catalogue against one job, ranked, with reasons."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from math import inf

import numpy as np

from squall.core.drive.tables import LoadTable
from squall.core.electrics.conductors import Standard
from squall.core.errors import OutOfRange, Stopped
from squall.core.hydraulics.suction import SuctionCheck, check_suction
from squall.core.kit.kit import TOUCH_LIMIT_V, Kit
from squall.core.kit.layout import Layout
from squall.core.kit.parts import BatteryUnit, Controller, Hose, Pump, Stock
from squall.core.kit.setup import Cabling, Setup, choose_cabling, design_current_a, kit_price, table_for
from squall.core.kit.supply import Banked, Controlled, Direct
from squall.core.reason import Reason
from squall.core.sky.typical_days import Light, clear_noons_only
from squall.core.years.typical import Season, YearSum, sum_of_year, year_of

MOST_PANELS = 4
RESERVE_DAYS = 2.0
MOST_SERIES = 4
MOST_OVERSIZE = 3.0
LEAST_SIZE = 0.6
# Most volts over rated where the maker states none: common practice, no source.
UNSTATED_MOST = 1.2
SURFACE_MARGIN_M = 0.5


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
        cheapest bank that bridges two dark days, else the largest.
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
            yield direct, _volts_refusal(direct)
            yield fitting_controller(direct, stock.controllers)
            bank = _bank(pump, stock.batteries, daily_ah)
            if bank is not None:
                battery, count = bank
                chargers = [c for c in stock.controllers if c.kind != "pump"]
                banked = [replace(direct, supply=Banked(c, battery, count)) for c in chargers]
                yield _cheapest_that_fits(banked, _charge_refusal)


def fitting_controller(direct: Kit, controllers: tuple[Controller, ...]) -> tuple[Kit, Reason | None]:
    """A kit joined directly, given the cheapest pump controller that fits; with the reason if none does."""
    held = [replace(direct, supply=Controlled(c)) for c in controllers if c.kind == "pump"]
    return _cheapest_that_fits(held, _pump_controller_refusal)


def _cheapest_that_fits(kits: list[Kit], refusal: Callable[[Kit], Reason | None]) -> tuple[Kit, Reason | None]:
    def price(kit: Kit) -> float:
        return kit.controller.price if kit.controller is not None else 0.0

    by_price = sorted(kits, key=price)
    for kit in by_price:
        if refusal(kit) is None:
            return kit, None
    rated = by_price[0].pump.motor.rated_v
    closest = min(by_price, key=lambda kit: abs((kit.controller.out_max_v if kit.controller else 0.0) - rated))
    return closest, refusal(closest)


def _bank(
    pump: Pump, batteries: tuple[BatteryUnit, ...], daily_ah: Callable[[float], float]
) -> tuple[BatteryUnit, int] | None:
    fitting = []
    for battery in batteries:
        count = round(pump.motor.rated_v / battery.nominal_v)
        if count >= 1 and abs(count * battery.nominal_v - pump.motor.rated_v) <= 1.0:
            bridges = battery.capacity_ah * battery.usable >= RESERVE_DAYS * daily_ah(battery.open_v * count)
            fitting.append((battery, count, bridges))
    if not fitting:
        return None
    enough = [(battery, count) for battery, count, bridges in fitting if bridges]
    if enough:
        return min(enough, key=lambda pair: pair[0].price * pair[1])
    battery, count, _ = max(fitting, key=lambda row: row[0].capacity_ah * row[0].usable)
    return battery, count


def _volts_refusal(kit: Kit) -> Reason | None:
    vmp, rated = kit.panel.module.vmp_v * kit.in_series, kit.pump.motor.rated_v
    if vmp < 0.9 * rated:
        return Reason("from-panels-below-what-pump-made", vmp=vmp, rated=rated)
    if vmp > 2.0 * rated:
        return Reason("from-panels-over-twice-pumps", vmp=vmp, rated=rated)
    return None


def _pump_controller_refusal(kit: Kit) -> Reason | None:
    c = kit.controller
    assert c is not None
    vmp, rated = kit.panel.module.vmp_v * kit.in_series, kit.pump.motor.rated_v
    limit = kit.pump.motor.max_v or rated
    if c.out_max_v > limit:
        return Reason("controller-can-give-pumps-maker-allows", out_max=c.out_max_v, limit=limit)
    if c.out_max_v < 0.9 * rated:
        return Reason("controller-gives-most-pump", out_max=c.out_max_v, rated=rated)
    if vmp < c.min_v * 1.1:
        return Reason("from-panels-too-near-controllers-least", vmp=vmp, min=c.min_v)
    return None


def _charge_refusal(kit: Kit) -> Reason | None:
    assert isinstance(kit.supply, Banked)
    c, nominal = kit.supply.controller, kit.supply.nominal_v
    vmp = kit.panel.module.vmp_v * kit.in_series
    if nominal > c.out_max_v:
        return Reason("charge-controller-serves-up-bank", out_max=c.out_max_v, nominal=nominal)
    if vmp < 1.25 * nominal:
        return Reason("from-panels-cant-charge-bank", vmp=vmp, nominal=nominal)
    if c.kind == "charge-switching" and vmp > 2.0 * nominal:
        return Reason("switching-charge-controller-wastes-most-bank", vmp=vmp, nominal=nominal)
    return None


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


def lifts(pump: Pump, table: LoadTable) -> bool:
    """Whether a pump gives water on a line at any volts that its maker allows."""
    most = pump.motor.max_v or pump.motor.rated_v * UNSTATED_MOST
    return bool(((table.flow_m3_s > 0.0) & (table.volts_v <= most)).any())


def cannot_lift(layout: Layout) -> Reason:
    """Refusal of a pump that can't reach the outlet."""
    return Reason("pump-cant-lift-water-any-volts", static_head=layout.static_head_m)


def _refused(kit: Kit, reason: Reason) -> Ranked:
    return Ranked(kit, None, 0.0, 0, 0.0, 0.0, reason, False)


def place_refusal(kit: Kit, layout: Layout) -> Reason | None:
    """Why the place itself forbids a kit, if so: its coldest morning, or a pump that would have to pull too far."""
    cold = kit.open_cold_v(layout.record_low_c)
    if kit.controller is not None and cold > kit.controller.max_v:
        return Reason("open-coldest-morning-over-controllers", cold=cold, max=kit.controller.max_v)
    if cold > 2.0 * TOUCH_LIMIT_V:
        return Reason("open-coldest-morning-beyond-small-low", cold=cold)
    if kit.pump.placement == "surface" and not layout.closed_circuit:
        check = surface_check(kit.pump, layout, kit.hose, 0.0)
        if check.spare_m < 0.0:
            return Reason("surface-pump-bank-would-have-pull", bank=layout.bank_m, limit=max(check.limit_m, 0.0))
    return None


def surface_check(pump: Pump, layout: Layout, hose: Hose | None, flow_m3_s: float) -> SuctionCheck:
    """Suction of a surface pump on the bank at a flow, its own suction pieces counted.

    Half a metre is kept in hand: common practice, no source.
    """
    suction = layout.suction_line(hose)
    stands = layout.bank_m + layout.drawdown_s_m2 * flow_m3_s
    return check_suction(layout.altitude_m, suction, flow_m3_s, pump.npsh_required_m, SURFACE_MARGIN_M, stands)


def flow_refusal(kit: Kit, layout: Layout, most_flow_m3_s: float) -> Reason | None:
    """Why the flow of a bright noon forbids a kit, if so: a surface pump whose suction pipe then takes too much."""
    if kit.pump.placement != "surface" or layout.closed_circuit or not layout.suction_pieces:
        return None
    check = surface_check(kit.pump, layout, kit.hose, most_flow_m3_s)
    if check.spare_m >= 0.0:
        return None
    return Reason(
        "full-flow-suction-loses-stands-above", losses=check.losses_m, stands=check.stands_m, spare=-check.spare_m
    )


def judge(
    kit: Kit, layout: Layout, light: Light, need_l: tuple[float, ...], max_drop: float, standard: Standard
) -> Ranked:
    """Judge one kit on a job; a refused kit has no cabling."""
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


def season_refusal(kit: Kit, layout: Layout, season: Season | YearSum) -> Reason | None:
    """What the year shows that forbids a kit."""
    if season.stopped:
        return Reason("gives-no-water", why=season.stopped[0])
    if not season.gives_water:
        return Reason("never-gives-water-lift-any-months")
    far = flow_refusal(kit, layout, season.most_flow_m3_s)
    if far is not None:
        return far
    most = kit.pump.motor.max_v
    if most is not None and season.most_motor_v > most:
        return Reason("motor-noon-maker-allows", most_motor=season.most_motor_v, most=most)
    if kit.controller is not None and kit.controller.kind == "pump" and season.most_motor_a > kit.controller.max_a:
        return Reason("pump-draws-controller-gives", most_motor=season.most_motor_a, max=kit.controller.max_a)
    return None


def limiting_cause(kit: Kit, layout: Layout, season: Season) -> Reason:
    """What most holds the kit back, in plain words."""
    if bool(season.beyond.any()):
        return Reason("held-by-nothing")
    line = layout.line(kit.hose)
    flow = float(season.flow_m3_s.max())
    loss = line.loss_m(flow)
    if loss > 0.5 * max(line.static_head_m, 0.5):
        if kit.hose is not None:
            return Reason("held-by-run-through-hose", loss=loss, hose=kit.hose.nominal)
        return Reason("held-by-run", loss=loss)
    table = table_for(kit.pump.motor, line)
    if (
        not isinstance(kit.supply, Banked)
        and design_current_a(kit, table) >= 0.9 * kit.panel.module.isc_a * kit.in_parallel
    ):
        return Reason("held-by-panels")
    return Reason("held-by-sun") if not isinstance(kit.supply, Banked) else Reason("held-by-charge")
