"""How a pump is fed: straight from the panels, through a pump controller, or from a bank that panels charge."""

from dataclasses import dataclass
from typing import ClassVar

from squall.core.drive.solve import Battery, PvArray, PvController, Source
from squall.core.errors import OutOfRange
from squall.core.kit.parts import BatteryUnit, Controller, SourceKind
from squall.core.reason import Between

# Volts of a bank over its name while it takes its charge, and when it is full: 13.8 and 14.4 V of 12.
# Common practice, no source. [-]
CHARGING_SHARE, FULL_SHARE = 1.15, 1.2
# A pump controller waits this long after a shadow, and after its probe ran dry, where its maker says nothing: common
# practice, no source. [min]
SHADE_WAIT_MIN, PROBE_WAIT_MIN = 2.0, 15.0


@dataclass(frozen=True)
class Direct:
    """Panels joined straight to the pump."""

    kind: ClassVar[SourceKind] = "panel"

    def source(self, array: PvArray) -> Source:
        """What the drive sees of an array in some light."""
        return array


@dataclass(frozen=True)
class Controlled:
    """A pump controller between panels and pump."""

    controller: Controller
    kind: ClassVar[SourceKind] = "controller"

    @property
    def shade_wait_s(self) -> float:
        """How long it waits once the light is back. [s]"""
        said = self.controller.restart_shadow_min
        return 60.0 * (SHADE_WAIT_MIN if said is None else said)

    @property
    def dry_wait_s(self) -> float:
        """How long it waits once its probe ran dry. [s]"""
        said = self.controller.restart_dry_min
        return 60.0 * (PROBE_WAIT_MIN if said is None else said)

    def source(self, array: PvArray) -> Source:
        """What the drive sees of an array in some light."""
        c = self.controller
        return PvController(array, c.efficiency, c.min_v, c.max_v, c.out_max_v, most_w=c.max_a * c.out_max_v)


@dataclass(frozen=True)
class Banked:
    """A bank of like batteries in series, charged through a charge controller; the pump runs from the bank.

    Attributes
    ----------
    controller : Controller
        Of the charging.
    battery : BatteryUnit
        One of the bank.
    count : int
        Batteries in series, 1 to 8.
    """

    controller: Controller
    battery: BatteryUnit
    count: int = 1
    kind: ClassVar[SourceKind] = "battery"

    def __post_init__(self) -> None:
        if not 1 <= self.count <= 8:
            raise OutOfRange("batteries-in-series", self.count, Between(1, 8, "number"))

    @property
    def open_v(self) -> float:
        """Open volts of the bank. [V]"""
        return self.battery.open_v * self.count

    @property
    def nominal_v(self) -> float:
        """Nominal volts of the bank. [V]"""
        return self.battery.nominal_v * self.count

    @property
    def charging_v(self) -> float:
        """Volts of the bank while it is charged, midway from rest to full. [V]"""
        return CHARGING_SHARE * self.nominal_v

    @property
    def ohm(self) -> float:
        """Inner resistance of the bank. [ohm]"""
        return self.battery.internal_ohm * self.count

    def source(self, array: PvArray) -> Source:
        """What the drive sees: the bank, whatever the light."""
        return Battery(self.open_v, self.ohm)


Supply = Direct | Controlled | Banked
