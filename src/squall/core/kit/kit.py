"""A kit: the parts bought for one job, and what follows from their choice."""

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from squall.core.drive.motors import Motor
from squall.core.drive.solve import Battery, PvArray, PvController, Source
from squall.core.drive.tables import LoadTable, load_table
from squall.core.electrics.conductors import Conductor, Standard, choose, resistance_ohm
from squall.core.electrics.modules import open_volts_at
from squall.core.errors import OutOfRange
from squall.core.hydraulics.pipes import Line, Pipe
from squall.core.hydraulics.water import Water
from squall.core.kit.parts import BatteryUnit, Controller, Hose, Panel, Pump, SourceKind, TankUnit
from squall.core.reason import Between, Reason, Told

TOUCH_LIMIT_V = 60.0
CONDUCTOR_C = 40.0
# Sundries that every kit needs (clamps, sleeves, rope, fuse holder), a guess of the demo catalogue.
SUNDRIES_PRICE = 18.0


@dataclass(frozen=True)
class Kit:
    """Pump, source, array, hose and the cables' sizes.

    Attributes
    ----------
    pump : Pump
        The pump.
    source : str
        ``panel``, ``controller`` or ``battery``.
    panel : Panel
        Like panels throughout.
    in_series, in_parallel : int
        Panels in a string; strings.
    hose : Hose or None
        The delivery hose; None keeps the run as surveyed.
    controller : Controller or None
        Pump or charge controller.
    battery : BatteryUnit or None
        One battery of the bank.
    batteries_in_series : int
        How many make the bank's volts.
    tank : TankUnit or None
        A tank that the kit brings; the job's own is not part of it.
    """

    pump: Pump
    source: SourceKind
    panel: Panel
    in_series: int
    in_parallel: int
    hose: Hose | None = None
    controller: Controller | None = None
    battery: BatteryUnit | None = None
    batteries_in_series: int = 1
    tank: TankUnit | None = None

    def __post_init__(self) -> None:
        if not (1 <= self.in_series <= 12 and 1 <= self.in_parallel <= 12):
            raise OutOfRange(
                "panels",
                Reason("series-strings", in_series=self.in_series, in_parallel=self.in_parallel),
                Between(1, 12, "number"),
            )
        if self.source != "panel" and self.controller is None:
            raise OutOfRange("controller", Reason("none-at-all"), Reason("one-for-this-source"))
        if self.source == "battery" and self.battery is None:
            raise OutOfRange("battery", Reason("none-at-all"), Reason("one-for-this-source"))

    @property
    def panels(self) -> int:
        """Number of panels."""
        return self.in_series * self.in_parallel

    @property
    def joining(self) -> Reason:
        """How the panels are joined, in plain words."""
        if self.panels == 1:
            return Reason("one-panel")
        if self.in_parallel == 1:
            return Reason("so-many-in-series", in_series=self.in_series)
        if self.in_series == 1:
            return Reason("so-many-in-parallel", in_parallel=self.in_parallel)
        return Reason("strings-series", in_parallel=self.in_parallel, in_series=self.in_series)

    @property
    def array_w(self) -> float:
        """Nameplate watts of the array. [W]"""
        return self.panels * self.panel.module.watts

    @property
    def bank_v(self) -> float:
        """Open volts of the battery bank, 0 without one. [V]"""
        return self.battery.open_v * self.batteries_in_series if self.battery else 0.0

    @property
    def bank_ohm(self) -> float:
        """Internal resistance of the bank. [ohm]"""
        return self.battery.internal_ohm * self.batteries_in_series if self.battery else 0.0

    @property
    def system_v(self) -> float:
        """Volts by which drops are counted: the bank's, else the pump's rated volts. [V]"""
        return self.bank_v or self.pump.motor.rated_v

    def open_cold_v(self, record_low_c: float) -> float:
        """String open volts in full sun on the coldest morning. [V]"""
        return self.in_series * open_volts_at(self.panel.module, record_low_c)

    def source_at(self, irradiance_w_m2: float, cell_c: float) -> Source:
        """The source as the drive sees it in given light."""
        if self.source == "battery":
            return Battery(self.bank_v, self.bank_ohm)
        array = PvArray(self.panel.module, self.in_series, self.in_parallel, irradiance_w_m2, cell_c)
        if self.controller is None:
            return array
        c = self.controller
        return PvController(array, c.efficiency, c.min_v, c.max_v, c.out_max_v)


@dataclass(frozen=True)
class RunPiece:
    """One piece of the surveyed run.

    Attributes
    ----------
    length_m : float
        Length. [m]
    inner_diameter_m, roughness_m : float
        Bore and wall as surveyed. [m]
    minor_loss_k : float
        Sum of its fittings. [-]
    replaceable : bool
        Whether a kit's hose takes its place.
    suction : bool
        Whether a surface pump draws through it.
    end_height_m : float or None
        Its end above the standing water, where surveyed. [m]
    """

    length_m: float
    inner_diameter_m: float
    roughness_m: float
    minor_loss_k: float
    replaceable: bool = True
    suction: bool = False
    end_height_m: float | None = None


@dataclass(frozen=True)
class Layout:
    """What the survey fixes whatever the kit: lift, run, water, cable lengths.

    Attributes
    ----------
    lift_m : float
        Water level to the free outlet, or to the tank's surface if fed from below. The level is
        the one while pumping, or the standing one where `drawdown_s_m2` says how far it falls. [m]
    end_pressure_m : float
        Pressure wanted at the outlet. [m]
    pieces : tuple[RunPiece, ...]
        The run from pump to outlet.
    water : Water
        The water.
    closed_circuit : bool
        Water returns to where it started, pipes full: lift is not counted.
    array_cable_m, pump_cable_m : float
        Panel to box, and box to pump, one way; a panel joined directly has both. [m]
    ambient_c : float
        Air around the cables on a hot day. [°C]
    record_low_c : float
        Coldest air. [°C]
    bank_m : float
        Bank or well rim above that level; a surface pump stands there. [m]
    altitude_m : float
        Above the sea. [m]
    pump_below_m : float
        How far under that level a submerged pump hangs. [m]
    drawdown_s_m2 : float
        How far the level falls for each flow. [m per m3/s]
    """

    lift_m: float
    end_pressure_m: float
    pieces: tuple[RunPiece, ...]
    water: Water
    closed_circuit: bool
    array_cable_m: float
    pump_cable_m: float
    ambient_c: float
    record_low_c: float
    bank_m: float = 0.0
    altitude_m: float = 0.0
    pump_below_m: float = 0.0
    drawdown_s_m2: float = 0.0

    @property
    def static_head_m(self) -> float:
        """Head before any flow. [m]

        An open run that climbs over a point higher than its outlet has to be pushed over it; what
        it falls beyond is not counted as gain, for air gathers at the top.
        """
        return (0.0 if self.closed_circuit else max(self.lift_m, self.highest_m)) + self.end_pressure_m

    @property
    def highest_m(self) -> float:
        """Highest surveyed point of the run above the standing water; the outlet if none is higher. [m]"""
        known = [piece.end_height_m for piece in self.pieces[:-1] if piece.end_height_m is not None]
        return max([*known, 0.0 if self.closed_circuit else self.lift_m])

    @property
    def suction_pieces(self) -> int:
        """How many pieces, from the first, a surface pump draws through."""
        count = 0
        for piece in self.pieces[:-1]:
            if not piece.suction:
                break
            count += 1
        return count

    def suction_line(self, hose: Hose | None) -> Line:
        """The pieces that a surface pump draws through."""
        whole = self.line(hose)
        return Line(0.0, whole.pipes[: self.suction_pieces], self.water)

    def pump_m(self, pump: Pump) -> float:
        """Height of a pump above the standing water: on the bank, or under it. [m]"""
        return self.bank_m if pump.placement == "surface" else -self.pump_below_m

    def line(self, hose: Hose | None) -> Line:
        """The line with a hose in place of the replaceable pieces."""
        return _line(self, hose)

    def build_line(self, hose: Hose | None) -> Line:
        """As :meth:`line`, built anew."""
        pipes = tuple(
            Pipe(piece.length_m, hose.inner_diameter_m, hose.roughness_m, piece.minor_loss_k)
            if hose is not None and piece.replaceable
            else Pipe(piece.length_m, piece.inner_diameter_m, piece.roughness_m, piece.minor_loss_k)
            for piece in self.pieces
        )
        return Line(self.static_head_m, pipes, self.water, self.drawdown_s_m2)

    @property
    def hose_m(self) -> float:
        """Length of hose that a kit brings. [m]"""
        return sum(piece.length_m for piece in self.pieces if piece.replaceable)


@lru_cache(maxsize=1024)
def _line(layout: Layout, hose: Hose | None) -> Line:
    return layout.build_line(hose)


@dataclass(frozen=True)
class Cabling:
    """The conductors of both runs; the array run is None where the panel joins the pump directly."""

    pump: Conductor
    array: Conductor | None

    def pump_ohm(self, kit: Kit, layout: Layout) -> float:
        """Source to motor, there and back, warm. [ohm]"""
        return resistance_ohm(self.pump.ohm_per_m, pump_run_m(kit, layout), CONDUCTOR_C)

    def array_ohm(self, layout: Layout) -> float:
        """Panel to box, there and back, warm; 0 where there is no box. [ohm]"""
        return 0.0 if self.array is None else resistance_ohm(self.array.ohm_per_m, layout.array_cable_m, CONDUCTOR_C)


def pump_run_m(kit: Kit, layout: Layout) -> float:
    """One-way length of the run that ends at the pump. [m]"""
    return layout.pump_cable_m + (layout.array_cable_m if kit.source == "panel" else 0.0)


@lru_cache(maxsize=4096)
def table_for(motor: Motor, line: Line) -> LoadTable:
    """:func:`squall.core.drive.tables.load_table`, remembered."""
    return load_table(motor, line)


def design_current_a(kit: Kit, table: LoadTable) -> float:
    """Current that the pump's cable is sized for. [A]

    The motor's at rated volts on this line (a controller or an array may bring it higher for an
    hour at noon), but no more than an array's short-circuit current when joined directly.
    """
    import numpy as np

    amps = float(np.interp(kit.pump.motor.rated_v, table.volts_v, table.current_a))
    if kit.source == "panel":
        amps = min(amps, kit.panel.module.isc_a * kit.in_parallel)
    return amps


def choose_cabling(kit: Kit, layout: Layout, table: LoadTable, max_drop: float, standard: Standard) -> Cabling:
    """Thinnest cables for a kit: drop against system volts, ampacity in the heat.

    Parameters
    ----------
    kit : Kit
        The kit.
    layout : Layout
        Lengths and air temperature.
    table : LoadTable
        The pump on this line.
    max_drop : float
        Drop allowed on the pump's run, above 0. [-]
    standard : str
        ``metric`` or ``awg``.

    Returns
    -------
    Cabling
        One or two conductors.
    """
    amps = design_current_a(kit, table)
    pump = choose(
        kit.system_v, amps, pump_run_m(kit, layout), max_drop, standard, layout.ambient_c, CONDUCTOR_C
    ).conductor
    if kit.source == "panel":
        return Cabling(pump, None)
    array_v = kit.panel.module.vmp_v * kit.in_series
    array_a = kit.panel.module.imp_a * kit.in_parallel
    array = choose(array_v, array_a, layout.array_cable_m, max_drop, standard, layout.ambient_c, CONDUCTOR_C).conductor
    return Cabling(pump, array)


def cable_price(size: Conductor) -> float:
    """Price of one metre of two-core cable, a guess of the demo catalogue."""
    return 0.35 + 0.42 * size.area_mm2


def kit_price(kit: Kit, layout: Layout, cabling: Cabling) -> float:
    """Price of all parts.

    Parameters
    ----------
    kit : Kit
        The kit.
    layout : Layout
        Lengths.
    cabling : Cabling
        Sizes.

    Returns
    -------
    float
        Pump, panels, controller, batteries, hose, cables, sundries. [catalogue's money]
    """
    price = kit.pump.price + kit.panels * kit.panel.price + SUNDRIES_PRICE
    price += pump_run_m(kit, layout) * cable_price(cabling.pump)
    if kit.controller is not None:
        price += kit.controller.price
    if kit.battery is not None:
        price += kit.batteries_in_series * kit.battery.price
    if kit.hose is not None:
        price += layout.hose_m * kit.hose.price
    if cabling.array is not None:
        price += layout.array_cable_m * cable_price(cabling.array)
    if kit.tank is not None:
        price += kit.tank.price
    return price


def price_lines(kit: Kit, layout: Layout, cabling: Cabling) -> list[tuple[str | Told, float]]:
    """What the price is made of: (part, price)."""
    lines: list[tuple[str | Told, float]] = [
        (kit.pump.title, kit.pump.price),
        (Reason("so-many-of-part", n=kit.panels, part=kit.panel.title), kit.panels * kit.panel.price),
    ]
    if kit.controller is not None:
        lines.append((kit.controller.title, kit.controller.price))
    if kit.battery is not None:
        count = kit.batteries_in_series
        lines.append((Reason("so-many-of-part", n=count, part=kit.battery.title), count * kit.battery.price))
    if kit.hose is not None:
        lines.append(
            (Reason("length-of-part", metres=layout.hose_m, part=kit.hose.title), layout.hose_m * kit.hose.price)
        )
    run = pump_run_m(kit, layout)
    lines.append((Reason("length-of-part", metres=run, part=cabling.pump.label), run * cable_price(cabling.pump)))
    if cabling.array is not None:
        metres = layout.array_cable_m
        lines.append(
            (Reason("length-of-part", metres=metres, part=cabling.array.label), metres * cable_price(cabling.array))
        )
    if kit.tank is not None:
        lines.append((kit.tank.title, kit.tank.price))
    lines.append((Reason("clamps-rope-sleeves-fuse-holder"), SUNDRIES_PRICE))
    return lines


def with_hose(kit: Kit, hose: Hose | None) -> Kit:
    """The same kit with another hose."""
    return replace(kit, hose=hose)


Direction = Literal["series", "parallel"]


def with_panels(kit: Kit, more: int, direction: Direction) -> Kit:
    """The same kit with more panels in a string, or more strings."""
    if direction == "series":
        return replace(kit, in_series=kit.in_series + more)
    return replace(kit, in_parallel=kit.in_parallel + more)
