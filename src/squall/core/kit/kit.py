"""A kit: the parts bought for one job, and what follows from their choice."""

from dataclasses import dataclass, replace
from typing import Literal

from squall.core.drive.solve import PvArray, Source
from squall.core.electrics.modules import open_volts_at
from squall.core.errors import OutOfRange
from squall.core.kit.parts import BatteryUnit, Controller, Hose, Panel, Pump, SourceKind, TankUnit
from squall.core.kit.supply import Banked, Controlled, Direct, Supply
from squall.core.reason import Between, Reason

TOUCH_LIMIT_V = 60.0


@dataclass(frozen=True)
class Kit:
    """Pump, source, array, hose and the cables' sizes.

    Attributes
    ----------
    pump : Pump
        The pump.
    supply : Direct, Controlled or Banked
        How the pump is fed.
    panel : Panel
        Like panels throughout.
    in_series, in_parallel : int
        Panels in a string; strings.
    hose : Hose or None
        The delivery hose; None keeps the run as surveyed.
    tank : TankUnit or None
        A tank that the kit brings; the job's own is not part of it.
    pumps : int
        Like pumps that take turns on the line, 1 or 2: one runs at a time.
    """

    pump: Pump
    supply: Supply
    panel: Panel
    in_series: int
    in_parallel: int
    hose: Hose | None = None
    tank: TankUnit | None = None
    pumps: int = 1

    def __post_init__(self) -> None:
        if not (1 <= self.in_series <= 12 and 1 <= self.in_parallel <= 12):
            raise OutOfRange(
                "panels",
                Reason("series-strings", in_series=self.in_series, in_parallel=self.in_parallel),
                Between(1, 12, "number"),
            )

    @property
    def life_h(self) -> float:
        """Hours with water until its pumps are worn. [h]"""
        return self.pumps * self.pump.life_h

    @property
    def source(self) -> SourceKind:
        """How the pump is fed, by its key: ``panel``, ``controller`` or ``battery``."""
        return self.supply.kind

    @property
    def controller(self) -> Controller | None:
        """Pump or charge controller, if there is one."""
        return None if isinstance(self.supply, Direct) else self.supply.controller

    @property
    def battery(self) -> BatteryUnit | None:
        """One battery of the bank, if there is one."""
        return self.supply.battery if isinstance(self.supply, Banked) else None

    @property
    def switched_ahead(self) -> bool:
        """Whether fuse and switches stand on the panels' side of a pump controller: three wires are not parted one by one."""
        return isinstance(self.supply, Controlled) and self.pump.three_wires

    @property
    def pump_cores(self) -> int:
        """Cores of the cable to the pump. [-]"""
        return 3 if self.pump.three_wires else 2

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
        return self.supply.open_v if isinstance(self.supply, Banked) else 0.0

    @property
    def charging_v(self) -> float:
        """Volts of the bank while it is charged, 0 without one. [V]"""
        return self.supply.charging_v if isinstance(self.supply, Banked) else 0.0

    @property
    def bank_ohm(self) -> float:
        """Internal resistance of the bank. [ohm]"""
        return self.supply.ohm if isinstance(self.supply, Banked) else 0.0

    @property
    def system_v(self) -> float:
        """Volts by which drops are counted: the bank's, else the pump's rated volts. [V]"""
        return self.bank_v or self.pump.motor.rated_v

    def open_cold_v(self, record_low_c: float) -> float:
        """String open volts in full sun on the coldest morning. [V]"""
        return self.in_series * open_volts_at(self.panel.module, record_low_c)

    def source_at(self, irradiance_w_m2: float, cell_c: float) -> Source:
        """The source as the drive sees it in given light. [W/m2], [°C]"""
        return self.supply.source(PvArray(self.panel.module, self.in_series, self.in_parallel, irradiance_w_m2, cell_c))


def with_hose(kit: Kit, hose: Hose | None) -> Kit:
    """The same kit with another hose."""
    return replace(kit, hose=hose)


Direction = Literal["series", "parallel"]


def with_panels(kit: Kit, more: int, direction: Direction) -> Kit:
    """The same kit with more panels in a string, or more strings."""
    if direction == "series":
        return replace(kit, in_series=kit.in_series + more)
    return replace(kit, in_parallel=kit.in_parallel + more)
