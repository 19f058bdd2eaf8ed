"""Levers: single changes to a kit, each with its price and what it does to the worst month."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from squall.core.advice.rank import fitting_controller, place_refusal, season_refusal
from squall.core.electrics.conductors import Conductor, Standard, sizes
from squall.core.errors import SquallError
from squall.core.kit.kit import Kit, with_hose, with_panels
from squall.core.kit.layout import Layout
from squall.core.kit.parts import Hose, Stock
from squall.core.kit.setup import Cabling, Setup, kit_price
from squall.core.reason import Reason
from squall.core.sky.typical_days import Light
from squall.core.years.typical import year_of

LeverKind = Literal["hose", "panel", "fewer", "controller", "pump", "cable", "shorter"]
SHORTER_SHARE = 0.5


@dataclass(frozen=True)
class Lever:
    """One change, not yet made.

    Attributes
    ----------
    key : str
        Unique among the levers of a job.
    kind : str
        ``hose``, ``panel``, ``fewer``, ``controller``, ``pump``, ``cable`` or ``shorter``.
    label : str
        What it is, in plain words.
    kit, cabling : Kit, Cabling
        The kit after the change.
    array_cable_m, pump_cable_m : float
        Cable lengths after the change. [m]
    price_change : float
        [catalogue's money]
    litres : float
        In the worst month after the change. [L/d]
    change : float
        Of the worst month's litres, as a share of today's; infinite from nothing. [-]
    refusal : str or None
        Why it should not be made.
    """

    key: str
    kind: LeverKind
    label: Reason
    kit: Kit
    cabling: Cabling
    array_cable_m: float
    pump_cable_m: float
    price_change: float
    litres: float
    change: float
    refusal: Reason | None


def levers(
    kit: Kit,
    cabling: Cabling,
    layout: Layout,
    light: Light,
    need_l: tuple[float, ...],
    stock: Stock,
    standard: Standard,
    other_pumps: Sequence[Kit] = (),
) -> tuple[Lever, ...]:
    """Compute every single change that is on offer for a kit.

    Parameters
    ----------
    kit : Kit
        As it stands.
    cabling : Cabling
        Its cables.
    layout : Layout
        Lift, run, cable lengths.
    light : Light
        The year's light.
    need_l : tuple[float, ...]
        Litres a day by month. [L/d]
    stock : Stock
        The catalogue.
    standard : str
        Cable standard.
    other_pumps : sequence of Kit
        Kits with another pump that are worth showing.

    Returns
    -------
    tuple[Lever, ...]
        Next hose up, one more panel, one fewer, a pump controller, other pump, thicker cable,
        panel nearer.
    """
    before = year_of(Setup(kit, layout, cabling), light, start=False)
    month = before.worst_month(need_l)
    litres_before = float(before.average_litres[month])
    price_before = kit_price(Setup(kit, layout, cabling))
    found = []
    for key, kind, label, new_kit, new_cabling, new_layout in _changes(
        kit, cabling, layout, stock, standard, other_pumps
    ):
        try:
            after = year_of(Setup(new_kit, new_layout, new_cabling), light, start=False)
        except SquallError:
            continue
        litres = float(after.average_litres[after.worst_month(need_l)])
        change = litres / litres_before - 1.0 if litres_before > 0.0 else (float("inf") if litres > 0.0 else 0.0)
        refusal = place_refusal(new_kit, new_layout) or season_refusal(new_kit, new_layout, after)
        if refusal is None and litres <= 0.0 < litres_before:
            refusal = Reason("no-water-worst-months-average-day")
        found.append(
            Lever(
                key,
                kind,
                label,
                new_kit,
                new_cabling,
                new_layout.array_cable_m,
                new_layout.pump_cable_m,
                kit_price(Setup(new_kit, new_layout, new_cabling)) - price_before,
                litres,
                change,
                refusal,
            )
        )
    return tuple(found)


_Change = tuple[str, LeverKind, Reason, Kit, Cabling, Layout]


def _changes(
    kit: Kit, cabling: Cabling, layout: Layout, stock: Stock, standard: Standard, other_pumps: Sequence[Kit]
) -> list[_Change]:
    changes: list[_Change] = []
    bigger = next_hose(kit, layout, stock)
    if bigger is not None:
        changes.append(
            ("hose", "hose", Reason("hose-of", nominal=bigger.nominal), with_hose(kit, bigger), cabling, layout)
        )
    direction: Literal["series", "parallel"]
    for direction, words in (("parallel", Reason("in-parallel")), ("series", Reason("in-series"))):
        more = with_panels(kit, 1, direction)
        extra = more.panels - kit.panels
        label = Reason("panels-more", n=extra, how=words)
        changes.append((f"panel-{direction}", "panel", label, more, cabling, layout))
    fewer = one_panel_fewer(kit)
    if fewer is not None:
        gone = kit.panels - fewer.panels
        changes.append(("fewer", "fewer", Reason("panels-fewer", n=gone), fewer, cabling, layout))
    held = with_controller(kit, stock)
    if held is not None and held.controller is not None:
        array = cabling.array or cabling.pump
        label = Reason("controller-named", title=held.controller.title)
        changes.append(("controller", "controller", label, held, replace(cabling, array=array), layout))
    for number, other in enumerate(other_pumps):
        changes.append((f"pump-{number}", "pump", Reason("pump-named", title=other.pump.title), other, cabling, layout))
    thicker = next_size(cabling.pump, standard)
    if thicker is not None:
        label = Reason("cable-pump", label=thicker.label)
        changes.append(("cable", "cable", label, kit, replace(cabling, pump=thicker), layout))
    if layout.pump_cable_m > 4.0:
        metres = round(layout.pump_cable_m * SHORTER_SHARE, 1)
        nearer = replace(layout, pump_cable_m=metres)
        changes.append(("shorter", "shorter", Reason("pump-cable-cut", metres=metres), kit, cabling, nearer))
    return changes


def one_panel_fewer(kit: Kit) -> Kit | None:
    """The same kit with one string fewer, or one panel fewer in its only string."""
    if kit.in_parallel > 1:
        return with_panels(kit, -1, "parallel")
    return with_panels(kit, -1, "series") if kit.in_series > 1 else None


def with_controller(kit: Kit, stock: Stock) -> Kit | None:
    """A kit joined directly, given the cheapest pump controller that fits it."""
    if kit.source != "panel":
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


def next_size(size: Conductor, standard: Standard) -> Conductor | None:
    """The next thicker conductor of a standard."""
    return next((other for other in sizes(standard) if other.area_mm2 > size.area_mm2 * 1.02), None)
