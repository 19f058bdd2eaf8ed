"""Levers: single changes to a kit, each with its price and what it does to the worst month."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from squall.core.advice.rank import fitting_controller, worst_of
from squall.core.advice.refusals import place_refusal, season_refusal, supply_refusal
from squall.core.electrics.conductors import Conductor, sizes
from squall.core.errors import OutOfRange, SquallError
from squall.core.kit.cabling import Rules, choose_cabling
from squall.core.kit.changes import Change, hose_to, kit_to, panels_by, pump_cable_of, pump_cable_to
from squall.core.kit.kit import Direction, Kit, with_panels
from squall.core.kit.layout import Layout
from squall.core.kit.parts import Hose, Stock
from squall.core.kit.setup import Setup
from squall.core.kit.supply import Direct
from squall.core.kit.wiring import wiring_of
from squall.core.reason import Reason, Told
from squall.core.sky.typical_days import Light
from squall.core.years.typical import sum_of_year
from squall.core.years.use import Use

LeverKind = Literal["hose", "panel", "fewer", "controller", "pump", "cable", "shorter"]
SHORTER_SHARE = 0.5
# A change of less water than this is none. [-]
WORTH_SAYING = 0.005
# A drop that no run reaches: for asking what a cable must bear, whatever it loses. [-]
ANY_DROP = 0.99


@dataclass(frozen=True)
class Lever:
    """One change of the setup, not yet made.

    Attributes
    ----------
    key : str
        Unique among the levers of a job.
    kind : str
        ``hose``, ``panel``, ``fewer``, ``controller``, ``pump``, ``cable`` or ``shorter``.
    label : Reason
        What it is.
    setup : Setup
        As it is after the change.
    price_change : float
        [catalogue's money]
    litres : float
        In the worst month after the change. [L/d]
    change : float
        Of the worst month's litres, as a share of today's; infinite from nothing. [-]
    refusal : Reason or None
        Why it should not be made: what a part could not bear, or what its wiring would lack.
    """

    key: str
    kind: LeverKind
    label: Reason
    setup: Setup
    price_change: float
    litres: float
    change: float
    refusal: Reason | None


@dataclass(frozen=True)
class Offer:
    """A change that is worth a look: its key, kind and label, and the change itself."""

    key: str
    kind: LeverKind
    label: Reason
    change: Change


@dataclass(frozen=True)
class Goods:
    """What levers may bring: the catalogue's stock, how kits are wired here, other pumps worth showing."""

    stock: Stock
    rules: Rules
    other_pumps: Sequence[Kit] = ()


def levers(setup: Setup, light: Light, use: Use, goods: Goods) -> tuple[Lever, ...]:
    """Compute every single change that is on offer for a kit.

    Parameters
    ----------
    setup : Setup
        As it stands.
    light : Light
        The year's light.
    use : Use
        What is wanted, and what waits.
    goods : Goods
        What there is to change to.

    Returns
    -------
    tuple[Lever, ...]
        Next hose up, one more panel, one fewer, a pump controller, other pump, thicker cable,
        panel nearer.
    """
    before = sum_of_year(setup, light, use)
    _, litres, _ = worst_of(before.average_litres.tolist(), use.need_l)
    known = wiring_of(setup, goods.rules, before.most_motor_a).problems
    found = [_pulled(offer, Before(setup, litres, known), light, use, goods.rules) for offer in offers(setup, goods)]
    return tuple(lever for lever in found if lever is not None and not _for_nothing(lever))


def _for_nothing(lever: Lever) -> bool:
    """Whether a change costs money and brings no water worth the word."""
    return lever.refusal is None and abs(lever.change) < WORTH_SAYING and lever.price_change > 0.0


@dataclass(frozen=True)
class Before:
    """The kit as it stands: its setup, litres in its worst month [L/d], and what its wiring lacks already."""

    setup: Setup
    litres: float
    problems: tuple[Told, ...]


def _pulled(offer: Offer, before: Before, light: Light, use: Use, rules: Rules) -> Lever | None:
    """One offer worked out; None where its figures contradict themselves."""
    before_l, setup = before.litres, before.setup
    try:
        after = _rewired(offer.change(setup), setup, rules)
        year = sum_of_year(after, light, use)
        problems = wiring_of(after, rules, year.most_motor_a).problems
    except SquallError:
        return None
    _, litres, _ = worst_of(year.average_litres.tolist(), use.need_l)
    change = litres / before_l - 1.0 if before_l > 0.0 else (float("inf") if litres > 0.0 else 0.0)
    refusal = supply_refusal(after.kit) or place_refusal(after.kit, after.layout, light) or season_refusal(after, year)
    if refusal is None and len(problems) > len(before.problems):
        refusal = Reason("wiring-would-lack", problem=problems[0])
    if refusal is None and litres <= 0.0 < before_l:
        refusal = Reason("no-water-worst-months-average-day")
    return Lever(offer.key, offer.kind, offer.label, after, after.price - setup.price, litres, change, refusal)


def _rewired(after: Setup, before: Setup, rules: Rules) -> Setup:
    """The change with cables that bear it: none thinner than they were, thicker only where the amps ask it; a new run as
    the rules have it. Their price is the lever's.
    """
    if after.kit == before.kit:
        return after
    bearing = choose_cabling(after.kit, after.layout, after.table, replace(rules, max_drop=ANY_DROP))
    pump = max(after.cabling.pump, bearing.pump, key=lambda size: size.area_mm2)
    array = None
    if bearing.array is not None:
        if before.cabling.array is None:
            array = choose_cabling(after.kit, after.layout, after.table, rules).array
        else:
            array = max(before.cabling.array, bearing.array, key=lambda size: size.area_mm2)
    return replace(after, cabling=replace(after.cabling, pump=pump, array=array))


def offers(setup: Setup, goods: Goods) -> list[Offer]:
    """The single changes that are worth a look."""
    kit, layout = setup.kit, setup.layout
    found: list[Offer] = []
    bigger = next_hose(kit, layout, goods.stock)
    if bigger is not None:
        found.append(Offer("hose", "hose", Reason("hose-of", nominal=bigger.nominal), hose_to(bigger)))
    found += _panel_offers(kit)
    held = with_controller(kit, goods.stock)
    if held is not None and held.controller is not None:
        label = Reason("controller-named", title=held.controller.title)
        found.append(Offer("controller", "controller", label, kit_to(held)))
    for number, other in enumerate(goods.other_pumps):
        found.append(Offer(f"pump-{number}", "pump", Reason("pump-named", title=other.pump.title), kit_to(other)))
    thicker = next_size(setup.cabling.pump, goods.rules, borne_mm2(setup, goods.rules))
    if thicker is not None:
        found.append(Offer("cable", "cable", Reason("cable-pump", label=thicker.label), pump_cable_to(thicker)))
    metres = round(layout.pump_cable_m * SHORTER_SHARE, 1)
    # Pieces of other cable lie where they lie: no run is cut shorter than they are.
    if layout.pump_cable_m > 4.0 and metres >= sum(one.length_m for one in layout.cable_pieces if one.run == "pump"):
        found.append(Offer("shorter", "shorter", Reason("pump-cable-cut", metres=metres), pump_cable_of(metres)))
    return found


def _panel_offers(kit: Kit) -> list[Offer]:
    found: list[Offer] = []
    ways: tuple[tuple[Direction, Reason], ...] = (("parallel", Reason("in-parallel")), ("series", Reason("in-series")))
    for direction, how in ways:
        try:
            extra = with_panels(kit, 1, direction).panels - kit.panels
        except OutOfRange:
            continue
        label = Reason("panels-more", n=extra, how=how)
        found.append(Offer(f"panel-{direction}", "panel", label, panels_by(1, direction)))
    fewer = one_panel_fewer(kit)
    if fewer is not None:
        found.append(Offer("fewer", "fewer", Reason("panels-fewer", n=kit.panels - fewer.panels), kit_to(fewer)))
    return found


def one_panel_fewer(kit: Kit) -> Kit | None:
    """The same kit with one string fewer, or one panel fewer in its only string."""
    if kit.in_parallel > 1:
        return with_panels(kit, -1, "parallel")
    return with_panels(kit, -1, "series") if kit.in_series > 1 else None


def with_controller(kit: Kit, stock: Stock) -> Kit | None:
    """A kit joined directly, given the cheapest pump controller that fits it."""
    if not isinstance(kit.supply, Direct):
        return None
    held, why_not = fitting_controller(kit, stock.controllers)
    return held if why_not is None else None


def next_hose(kit: Kit, layout: Layout, stock: Stock) -> Hose | None:
    """The next hose up in bore, of the same kind where there is one."""
    if kit.hose is not None:
        bore, kind = kit.hose.inner_diameter_m, kit.hose.kind
    else:
        bores = [piece.inner_diameter_m for piece in layout.pieces if piece.replaceable]
        if not bores:
            return None
        bore, kind = min(bores), "smooth"
    wider = [hose for hose in stock.hoses if hose.inner_diameter_m > bore * 1.02]
    same = [hose for hose in wider if hose.kind == kind]
    return min(same or wider, key=lambda hose: hose.inner_diameter_m, default=None)


def borne_mm2(setup: Setup, rules: Rules) -> float:
    """Least cable to the pump that bears what may flow in it and a life outdoors, whatever it loses; 0 where no size does. [mm2]"""
    try:
        bearing = choose_cabling(setup.kit, setup.layout, setup.table, replace(rules, max_drop=ANY_DROP))
    except SquallError:
        return 0.0
    return bearing.pump.area_mm2


def next_size(size: Conductor, rules: Rules, least_mm2: float = 0.0) -> Conductor | None:
    """The next thicker conductor of the standard that is no thinner than the least one [mm2], at the price of its cable."""
    least = max(size.area_mm2 * 1.02, least_mm2)
    found = next((other for other in sizes(rules.standard) if other.area_mm2 >= least), None)
    return None if found is None else rules.priced(found)
