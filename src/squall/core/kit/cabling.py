"""Which cables a kit is to have: what each must bear, what it may lose, a life outdoors; nothing thinner is ever chosen."""

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from squall.core.circuit.parts import CLOSED_OHM, PROTECTOR_OHM
from squall.core.drive.tables import LoadTable
from squall.core.electrics.conductors import (
    Conductor,
    Standard,
    ambient_factor,
    choose,
    sizes,
)
from squall.core.electrics.protection import (
    CONTINUOUS_FACTOR,
    Kind,
    LoopPart,
    next_rating,
)
from squall.core.electrics.splices import SPLICES, SpliceKind
from squall.core.errors import OutOfRange
from squall.core.kit.kit import Kit
from squall.core.kit.layout import CablePiece, Layout
from squall.core.kit.parts import Protector
from squall.core.kit.relays import Coil, PlainLoad
from squall.core.kit.setup import (
    CONDUCTOR_C,
    Cabling,
    design_current_a,
    loop_open_v,
    own_m,
    pieces_of,
    pieces_ohm,
    pump_run_m,
)
from squall.core.kit.supply import Banked, Controlled, Direct
from squall.core.reason import Quantity, Reason, Told

# Amps in the sun over those at 1000 W/m2, for whatever can't hold them back: NEC 690.8(A)(1), from memory.
OVER_SUN = 1.25


LEAST_MM2 = 1.5
# Bus bars stand beside their bank. [m]
BAR_LINK_M = 0.3


@dataclass(frozen=True)
class Rules:
    """How a job wants its kits wired.

    Attributes
    ----------
    max_drop : float
        Share of the volts that a run may lose. [-]
    standard : str
        ``metric`` or ``awg``.
    kind : str
        ``fuse`` or ``breaker`` in the pump's loop.
    devices : tuple of LoopPart
        Switches, relays, timers and joints that carry the pump's current.
    before : tuple of LoopPart
        Plugs and isolators on the panels' side: they carry the panels' current, the pump's only where nothing stands between.
    loads : tuple of PlainLoad
        Beside the pump on its bank.
    splice : str
        How cores are joined at the pump: key of :data:`squall.core.electrics.splices.SPLICES`.
    protectors : tuple of Protector
        Fuses and breakers that there are.
    charge_lead_m : float
        From charger to bank, one way. [m]
    coil : Coil or None
        A relay's coil, and the switches that drive it in place of carrying the pump.
    cable_prices : tuple of (str, float)
        Price of one metre of two-core cable by its conductor's key, where somebody has one. [money/m]
    """

    max_drop: float
    standard: Standard
    kind: Kind = "fuse"
    devices: tuple[LoopPart, ...] = ()
    protectors: tuple[Protector, ...] = ()
    charge_lead_m: float = 2.0
    cable_prices: tuple[tuple[str, float], ...] = ()
    coil: Coil | None = None
    before: tuple[LoopPart, ...] = ()
    loads: tuple[PlainLoad, ...] = ()
    splice: SpliceKind = "sleeve"

    def in_loop(self, kit: Kit) -> tuple[LoopPart, ...]:
        """Whatever stands in one loop with the pump's fuse on a kit."""
        whole = isinstance(kit.supply, Direct) or kit.switched_ahead
        return (*self.before, *self.devices) if whole else self.devices

    def contacts(self, kit: Kit) -> tuple[float, float]:
        """What fuses and contacts take of themselves, as the circuit has them: on the pump's side, on the panels' side of a box. [ohm]"""
        fuses = 2 if self.loads and isinstance(kit.supply, Banked) else 1
        loop = fuses * PROTECTOR_OHM + CLOSED_OHM * sum(part.poles for part in self.in_loop(kit))
        if isinstance(kit.supply, Direct):
            return loop, 0.0
        return (0.0, loop) if kit.switched_ahead else (loop, CLOSED_OHM * sum(part.poles for part in self.before))

    @property
    def coil_a(self) -> float:
        """What a driven coil takes beside the pump. [A]"""
        return 0.0 if self.coil is None else self.coil.amps

    def priced(self, size: Conductor) -> Conductor:
        """A size with the price of its cable, where somebody has one."""
        found = self.price_by_size.get(size.key)
        return size if found is None else replace(size, price_m=found)

    @cached_property
    def price_by_size(self) -> dict[str, float]:
        """Price of a metre of cable by its conductor's key. [money/m]"""
        return dict(self.cable_prices)

    @cached_property
    def torque_of(self) -> dict[tuple[str, float], float]:
        """Torque of the screws of a fuse or breaker by its kind and rating, where all that state one state the same. [N m] by [-], [A]"""
        found: dict[tuple[str, float], set[float]] = {}
        for protector in self.protectors:
            if protector.torque_nm is not None:
                found.setdefault((protector.kind, protector.rating_a), set()).add(protector.torque_nm)
        return {which: next(iter(stated)) for which, stated in found.items() if len(stated) == 1}

    @cached_property
    def protector_v(self) -> dict[float, float]:
        """Most volts that a fuse or breaker of the kind parts, by its rating, among those there are. [V] by [A]"""
        found: dict[float, float] = {}
        for protector in self.protectors:
            if protector.kind == self.kind:
                found[protector.rating_a] = max(protector.rating_v, found.get(protector.rating_a, 0.0))
        return found


def short_a(kit: Kit) -> float:
    """What the panels give into a short in full sun (1000 W/m2). [A]"""
    return kit.panel.module.isc_a * kit.in_parallel


def most_running_a(kit: Kit, table: LoadTable, record_low_c: float) -> float:
    """More than the pump can draw while it runs, whatever the light or the charge: its fuse and cable are sized for it. [A]"""
    match kit.supply:
        case Direct():
            top_v = kit.open_cold_v(record_low_c)
        case Controlled():
            top_v = kit.supply.controller.out_max_v
        case _:
            top_v = loop_open_v(kit, record_low_c)
    amps = float(np.interp(top_v, table.volts_v, table.heaviest_a))
    if isinstance(kit.supply, Direct):
        return min(amps, OVER_SUN * short_a(kit))
    return min(amps, kit.supply.controller.max_a) if isinstance(kit.supply, Controlled) else amps


def array_run_bears_a(kit: Kit, kind: Kind) -> float:
    """What the panels' cable must bear: their short-circuit amps in more than full sun, and a fuse that stands in it. [A]"""
    most = OVER_SUN * short_a(kit)
    return (next_rating(kind, CONTINUOUS_FACTOR * most) or CONTINUOUS_FACTOR * most) if kit.switched_ahead else most


def pump_run_bears_a(kit: Kit, running_a: float, kind: Kind) -> float:
    """What the pump's cable must bear: its own fuse, and the panels' short-circuit amps where they feed it; without a fuse
    of its own all that its controller gives. [A]
    """
    if kit.switched_ahead and kit.controller is not None:
        return kit.controller.max_a
    fuse = next_rating(kind, CONTINUOUS_FACTOR * running_a) or CONTINUOUS_FACTOR * running_a
    return max(fuse, OVER_SUN * short_a(kit)) if isinstance(kit.supply, Direct) else fuse


def charging_most_a(kit: Kit) -> float:
    """Most that runs from charger to bank: its rating where it tracks, 1.25 x the panels' short-circuit amps where it switches. [A]"""
    assert isinstance(kit.supply, Banked)
    c = kit.supply.controller
    return c.max_a if c.kind == "charge-tracking" else OVER_SUN * short_a(kit)


def thinnest(
    volts_v: float, drop_a: float, bears_a: float, metres: float, rules: Rules, ambient_c: float, max_drop: float = 0.0
) -> Conductor:
    """Thinnest conductor for a run: its drop, what it must bear in the heat, a life outdoors.

    Parameters
    ----------
    volts_v, drop_a : float
        Volts of the run and amps that its drop is counted at. [V], [A]
    bears_a : float
        What it must bear. [A]
    metres : float
        One way. [m]
    rules : Rules
        Drop allowed, standard.
    ambient_c : float
        Air around it. [°C]
    max_drop : float
        Drop allowed on this run, where it is not that of the rules. [-]

    Raises
    ------
    OutOfRange
        If no size of the table does.
    """
    first = choose(
        volts_v, drop_a, metres, max_drop or rules.max_drop, rules.standard, ambient_c, CONDUCTOR_C
    ).conductor  # fmt: skip
    factor = ambient_factor(ambient_c, rules.standard)
    for size in sizes(rules.standard):
        if size.area_mm2 >= max(first.area_mm2, LEAST_MM2) - 1e-9 and size.ampacity_30c_a * factor >= bears_a:
            return rules.priced(size)
    thickest = sizes(rules.standard)[-1]
    raise OutOfRange(
        Reason("its-heat"),
        Reason("amps-in-heat", amps=bears_a),
        Reason("less-even-thickest-bears", label=thickest.label, bears=thickest.ampacity_30c_a * factor),
    )


def choose_cabling(kit: Kit, layout: Layout, table: LoadTable, rules: Rules) -> Cabling:
    """Thinnest cables for a kit that nothing on the page of cables condemns.

    Parameters
    ----------
    kit : Kit
        The kit.
    layout : Layout
        Lengths and air temperature.
    table : LoadTable
        The pump on this line.
    rules : Rules
        Drop allowed, standard, kind of protection.

    Returns
    -------
    Cabling
        One or two conductors.

    Raises
    ------
    OutOfRange
        If no size of the table does.
    """
    bears = pump_run_bears_a(kit, most_running_a(kit, table, layout.record_low_c), rules.kind)
    amps = design_current_a(kit, table)
    pump = _beside(
        pieces_of(kit, layout, "pump"), kit.system_v, amps, bears, pump_run_m(kit, layout), rules, layout.ambient_c
    )
    behind, ahead = rules.contacts(kit)
    splice = SPLICES[rules.splice].ohm
    if isinstance(kit.supply, Direct):
        return Cabling(pump, None, contacts_ohm=behind, splice_ohm=splice)
    module = kit.panel.module
    array = _beside(
        pieces_of(kit, layout, "array"), module.vmp_v * kit.in_series, module.imp_a * kit.in_parallel,
        array_run_bears_a(kit, rules.kind), layout.array_cable_m, rules, layout.ambient_c,
    )  # fmt: skip
    return Cabling(pump, array, contacts_ohm=behind, ahead_ohm=ahead, splice_ohm=splice)


def _beside(
    pieces: tuple[CablePiece, ...], volts_v: float, amps: float, bears_a: float, run_m: float, rules: Rules, ambient_c: float
) -> Conductor:  # fmt: skip
    """Thinnest cable for what pieces of other leave of a run, in length and in volts to be lost."""
    taken = pieces_ohm(pieces) * amps / volts_v
    left = rules.max_drop - taken
    if pieces and left <= 0.0:
        raise OutOfRange(
            Reason("drop-of-pieces"), Quantity(taken, "share"), Reason("less-than-drop-allowed", most=rules.max_drop)
        )
    return thinnest(volts_v, amps, bears_a, own_m(run_m, pieces), rules, ambient_c, left)


@dataclass(frozen=True)
class Branch:
    """What one conductor from a bus bar carries: its amps, its fuse, its size; no fuse where every table ends below them. [A]"""

    amps_a: float
    fuse_a: float | None
    conductor: Conductor


@dataclass(frozen=True)
class Bars:
    """Bus bars at a bank that feeds more than its pump.

    Attributes
    ----------
    main : Branch
        Between the battery's post and the bars: all that runs at once.
    loads : tuple of Branch
        Each of the other loads.
    """

    main: Branch
    loads: tuple[Branch, ...]

    @property
    def problems(self) -> tuple[Told, ...]:
        """That no fuse is large enough for all at once, if so."""
        return () if self.main.fuse_a is not None else (Reason("no-main-fuse", amps=self.main.amps_a),)


def bars_of(kit: Kit, rules: Rules, running_a: float, ambient_c: float) -> Bars | None:
    """Fuses and conductors from a bank's bus bars, the pump running at so many amps; None where it feeds the pump alone. [A], [°C]

    Each fuse is 1.25 times what runs through it, and each conductor bears its fuse: NEC 240.4, from memory.
    """
    if not rules.loads or not isinstance(kit.supply, Banked):
        return None

    def branch(amps: float) -> Branch:
        fuse = next_rating("fuse", CONTINUOUS_FACTOR * amps)
        try:
            size = thinnest(kit.bank_v, amps, fuse or CONTINUOUS_FACTOR * amps, BAR_LINK_M, rules, ambient_c)
        except OutOfRange:
            return Branch(amps, None, sizes(rules.standard)[-1])
        return Branch(amps, fuse, size)

    loads = [load.watts / kit.bank_v for load in rules.loads]
    return Bars(branch(running_a + rules.coil_a + sum(loads)), tuple(branch(amps) for amps in loads))
