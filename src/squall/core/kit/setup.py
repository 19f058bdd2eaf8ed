"""A kit as it is set up: the parts on their line, with their cables; what it costs."""

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import Literal

from squall.core.drive.motors import Motor
from squall.core.drive.solve import PvController, Source
from squall.core.drive.tables import LoadTable, load_table
from squall.core.electrics.conductors import Conductor, resistance_ohm
from squall.core.hydraulics.pipes import Line
from squall.core.kit.kit import Kit
from squall.core.kit.layout import CablePiece, CablePlace, Layout
from squall.core.kit.outlets import round_table
from squall.core.kit.parts import Hose
from squall.core.kit.supply import FULL_SHARE, Banked, Controlled, Direct
from squall.core.reason import Reason, Told

CONDUCTOR_C = 40.0


# Sundries that every kit needs (clamps, sleeves, rope, fuse holder), a guess of the demo catalogue.
SUNDRIES_PRICE = 18.0


@dataclass(frozen=True)
class Cabling:
    """The conductors of both runs; the array run is None where the panel joins the pump directly.

    `fuse_a` is the fuse or breaker that is fitted in the pump's loop; None for the one that is worked out. [A]
    `joint_ohm` is what bad joints add to the pump's run, `contacts_ohm` what its fuse, switches, plugs and splices take of
    themselves, `splice_ohm` what each core's joint at the pump does, `ahead_ohm` those on the panels' side of a box: see :meth:`squall.core.kit.cabling.Rules.contacts`. [ohm]
    """

    pump: Conductor
    array: Conductor | None
    fuse_a: float | None = None
    joint_ohm: float = 0.0
    contacts_ohm: float = 0.0
    ahead_ohm: float = 0.0
    splice_ohm: float = 0.0

    def pump_ohm(self, kit: Kit, layout: Layout) -> float:
        """Source to motor, there and back, warm, with fuse and contacts. [ohm]"""
        return self.cores_ohm(kit, layout) + self.contacts_ohm

    def cores_ohm(self, kit: Kit, layout: Layout) -> float:
        """The cable alone with its joints, there and back, warm, and what they have grown by. [ohm]"""
        pieces = pieces_of(kit, layout, "pump")
        own = own_ohm(self.pump, pump_run_m(kit, layout), pieces)
        return own + 2.0 * self.splice_ohm * (1 + len(pieces)) + self.joint_ohm

    def array_ohm(self, layout: Layout) -> float:
        """Panel to box, there and back, warm, with what stands there; 0 where there is no box. [ohm]"""
        if self.array is None:
            return 0.0
        pieces = pieces_of(None, layout, "array")
        return own_ohm(self.array, layout.array_cable_m, pieces) + 2.0 * self.splice_ohm * len(pieces) + self.ahead_ohm


@dataclass(frozen=True)
class Setup:
    """A kit on its line with its cables: all that an answer needs but the light.

    What changes an answer is a change of a setup: a lever has a price, a doubt a spread, a fault a symptom.

    Attributes
    ----------
    kit : Kit
        The parts.
    layout : Layout
        Lift, run, water, cable lengths.
    cabling : Cabling
        The conductors.
    """

    kit: Kit
    layout: Layout
    cabling: Cabling

    @cached_property
    def line(self) -> Line:
        """The line with the kit's hose on it."""
        return self.layout.line(self.kit.hose)

    @cached_property
    def table(self) -> LoadTable:
        """The pump on that line, at every volts."""
        return table_on(self.kit.pump.motor, self.layout, self.kit.hose)

    def knowing(self, table: LoadTable) -> "Setup":
        """The same, its table being at hand: a search makes a thousand setups on one."""
        self.__dict__["table"] = table
        return self

    @cached_property
    def pump_ohm(self) -> float:
        """Source to motor, there and back, warm, with fuse and contacts. [ohm]"""
        return self.cabling.pump_ohm(self.kit, self.layout)

    @property
    def cores_ohm(self) -> float:
        """The pump's cable alone, there and back, warm. [ohm]"""
        return self.cabling.cores_ohm(self.kit, self.layout)

    @cached_property
    def array_ohm(self) -> float:
        """Panel to box, there and back, warm; 0 where there is no box. [ohm]"""
        return self.cabling.array_ohm(self.layout)

    def source_at(self, irradiance_w_m2: float, cell_c: float) -> Source:
        """The source as the drive sees it in given light, the array's cable counted. [W/m2], [°C]"""
        source = self.kit.source_at(irradiance_w_m2, cell_c)
        return replace(source, array_ohm=self.array_ohm) if isinstance(source, PvController) else source

    @property
    def price(self) -> float:
        """Of all parts. [catalogue's money]"""
        return kit_price(self)


def pieces_of(kit: Kit | None, layout: Layout, run: Literal["array", "pump"]) -> tuple[CablePiece, ...]:
    """Pieces of other cable in a run; where panels join the pump straight all lie in the pump's."""
    if kit is not None and isinstance(kit.supply, Direct):
        return layout.cable_pieces if run == "pump" else ()
    return tuple(piece for piece in layout.cable_pieces if piece.run == run)


def own_m(run_m: float, pieces: tuple[CablePiece, ...]) -> float:
    """What is left of a run for its own cable beside the pieces of other. [m]"""
    return max(run_m - sum(piece.length_m for piece in pieces), 0.0)


def pieces_ohm(pieces: tuple[CablePiece, ...]) -> float:
    """Copper of pieces of other cable, there and back, warm. [ohm]"""
    return sum(resistance_ohm(one.conductor.ohm_per_m, one.length_m, CONDUCTOR_C) for one in pieces)


def own_ohm(conductor: Conductor, run_m: float, pieces: tuple[CablePiece, ...]) -> float:
    """Copper of a run with its pieces of other cable, there and back, warm. [m], [ohm]"""
    return resistance_ohm(conductor.ohm_per_m, own_m(run_m, pieces), CONDUCTOR_C) + pieces_ohm(pieces)


def cables_of(kit: Kit, layout: Layout, cabling: Cabling) -> list[tuple[Conductor, float, int, CablePlace | None]]:
    """All cable of a kit: size, metres, cores, where a piece of other lies (None of a run's own). [m], [-]"""
    found: list[tuple[Conductor, float, int, CablePlace | None]] = []
    runs: tuple[tuple[Literal["array", "pump"], Conductor | None, float, int], ...] = (
        ("pump", cabling.pump, pump_run_m(kit, layout), kit.pump_cores), ("array", cabling.array, layout.array_cable_m, 2),
    )  # fmt: skip
    for run, size, metres, cores in runs:
        if size is not None:
            pieces = pieces_of(kit, layout, run)
            found.append((size, own_m(metres, pieces), cores, None))
            found += [(piece.conductor, piece.length_m, cores, piece.place) for piece in pieces]
    return found


def pump_run_m(kit: Kit, layout: Layout) -> float:
    """One-way length of the run that ends at the pump. [m]"""
    return layout.pump_cable_m + (layout.array_cable_m if isinstance(kit.supply, Direct) else 0.0)


@lru_cache(maxsize=1024)
def table_for(motor: Motor, line: Line) -> LoadTable:
    """:func:`squall.core.drive.tables.load_table`, remembered."""
    return load_table(motor, line)


def table_on(motor: Motor, layout: Layout, hose: Hose | None) -> LoadTable:
    """A motor's table on a layout with a hose: on its line, or over the round of all its places."""
    return table_for(motor, layout.line(hose)) if layout.round is None else round_table(motor, layout, hose)


def design_current_a(kit: Kit, table: LoadTable) -> float:
    """Current that the pump's cable is sized for. [A]

    The motor's at rated volts on this line (a controller or an array may bring it higher for an
    hour at noon), but no more than an array's short-circuit current when joined directly.
    """
    amps = table.rated_a
    if isinstance(kit.supply, Direct):
        amps = min(amps, kit.panel.module.isc_a * kit.in_parallel)
    return amps


def loop_open_v(kit: Kit, record_low_c: float) -> float:
    """Highest DC volts that stand in the pump's loop with nothing running, on the coldest morning [°C]. [V]

    Panels straight on the pump: their open volts in that cold, and so where fuse and switches stand before a controller.
    Behind a pump controller: the most that it gives; a bank: its charging volts.
    """
    match kit.supply:
        case Banked():
            return FULL_SHARE * kit.supply.nominal_v
        case Controlled() if not kit.switched_ahead:
            return kit.supply.controller.out_max_v
        case _:
            return kit.open_cold_v(record_low_c)


def cable_price(size: Conductor, cores: int = 2) -> float:
    """Price of one metre of cable: as somebody priced its two cores, else a guess of the demo catalogue; a third core is half as much again. [-], [money/m]"""
    of_two = 0.35 + 0.42 * size.area_mm2 if size.price_m is None else size.price_m
    return of_two * cores / 2.0


def kit_price(setup: Setup) -> float:
    """Price of all parts.

    Parameters
    ----------
    setup : Setup
        The kit, where it stands and what joins it.

    Returns
    -------
    float
        Pump, panels, controller, batteries, hose, cables, sundries. [catalogue's money]
    """
    kit, layout, cabling = setup.kit, setup.layout, setup.cabling
    price = kit.pump.price_of(kit.pumps) + kit.panel.price_of(kit.panels) + SUNDRIES_PRICE
    price += sum(metres * cable_price(size, cores) for size, metres, cores, _ in cables_of(kit, layout, cabling))
    if kit.controller is not None:
        price += kit.controller.price_of(1)
    if isinstance(kit.supply, Banked):
        price += kit.supply.battery.price_of(kit.supply.count)
    if kit.hose is not None:
        price += kit.hose.price_of(layout.hose_m)
    if kit.tank is not None:
        price += kit.tank.price_of(1)
    return price


def pumps_title(kit: Kit) -> str | Told:
    """The pump's name, with how many take turns."""
    return kit.pump.title if kit.pumps == 1 else Reason("so-many-of-part", n=kit.pumps, part=kit.pump.title)


def price_lines(setup: Setup) -> list[tuple[str | Told, float]]:
    """What the price is made of: (part, price). [money]"""
    kit, layout, cabling = setup.kit, setup.layout, setup.cabling
    lines: list[tuple[str | Told, float]] = [
        (pumps_title(kit), kit.pump.price_of(kit.pumps)),
        (Reason("so-many-of-part", n=kit.panels, part=kit.panel.title), kit.panel.price_of(kit.panels)),
    ]
    if kit.controller is not None:
        lines.append((kit.controller.title, kit.controller.price_of(1)))
    if isinstance(kit.supply, Banked):
        count = kit.supply.count
        lines.append(
            (Reason("so-many-of-part", n=count, part=kit.supply.battery.title), kit.supply.battery.price_of(count))
        )
    if kit.hose is not None:
        lines.append(
            (Reason("length-of-part", metres=layout.hose_m, part=kit.hose.title), kit.hose.price_of(layout.hose_m))
        )
    lines += [
        (Reason("length-of-part", metres=metres, part=size.label), metres * cable_price(size, cores))
        for size, metres, cores, _ in cables_of(kit, layout, cabling)
    ]
    if kit.tank is not None:
        lines.append((kit.tank.title, kit.tank.price_of(1)))
    lines.append((Reason("clamps-rope-sleeves-fuse-holder"), SUNDRIES_PRICE))
    return lines
