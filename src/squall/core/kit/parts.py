"""The parts a kit is made of, as the core sees them.

Every part carries `guessed`: the names of those of its figures that no maker stated.
"""

from dataclasses import dataclass, field
from typing import Literal

from squall.core.drive.motors import Motor
from squall.core.electrics.modules import Module
from squall.core.reason import Reason

Placement = Literal["submersible", "surface", "bilge"]
SourceKind = Literal["panel", "controller", "battery"]
SOURCE_WORDS: dict[SourceKind, Reason] = {
    "panel": Reason("panel-direct"),
    "controller": Reason("panel-pump-controller"),
    "battery": Reason("panel-battery-charge-controller"),
}


@dataclass(frozen=True)
class Part:
    """What every part has: identifier, maker, name, price, mass; how many are owned already, and cost nothing; torque of its screws, where its maker states one. [-], [kg], [N m]"""

    id: str
    maker: str
    name: str
    price: float
    mass_kg: float
    guessed: tuple[str, ...] = field(default=(), kw_only=True)
    owned: int = field(default=0, kw_only=True)
    torque_nm: float | None = field(default=None, kw_only=True)

    def price_of(self, count: float) -> float:
        """Price of so many of them (metres of a hose), those that are owned left out. [catalogue's money]

        Examples
        --------
        >>> Part("x", "", "panel", 40.0, 1.0, owned=1).price_of(3)
        80.0
        """
        return max(count - self.owned, 0.0) * self.price

    @property
    def title(self) -> str:
        """Maker and name."""
        return f"{self.maker} {self.name}".strip()


@dataclass(frozen=True)
class Pump(Part):
    """A pump with its motor.

    Attributes
    ----------
    end : str
        ``centrifugal``, ``helical``, ``diaphragm`` or ``piston``.
    placement : str
        ``submersible``, ``bilge`` or ``surface``.
    brushed : bool
        Carbon brushes, or electronics.
    motor : Motor
        Points at rated volts, resistance, no-load amps, most volts.
    locked_rotor_a : float
        Current at rated volts with the rotor held. [A]
    max_fuse_a : float or None
        Largest fuse the maker allows. [A]
    life_h : float
        Hours until worn. [h]
    barb_m : float
        Outer diameter of the hose tail. [m]
    passes_m : float
        Largest grain that passes. [m]
    npsh_required_m : float
        Net positive suction head that a surface pump needs. [m]
    self_priming : bool
        Whether it fills its own suction pipe.
    label_w : float or None
        Watts on its label, where it states them. [W]
    least_v, best_from_v, best_to_v : float or None
        Under which it is not to run, and between which it is meant to, where its maker says so. [V]
    motor_wires : int or None
        2 of direct current, or 3 that want a pump controller; None where nobody says. [-]
    band : float or None
        How far a flow read from its curve may be off, each way, by how the curve is known; None where a maker states it. [-]
    """

    end: str
    placement: Placement
    brushed: bool
    motor: Motor
    locked_rotor_a: float
    max_fuse_a: float | None
    life_h: float
    barb_m: float
    passes_m: float
    npsh_required_m: float = 3.0
    self_priming: bool = False
    label_w: float | None = None
    least_v: float | None = None
    best_from_v: float | None = None
    best_to_v: float | None = None
    band: float | None = None
    motor_wires: int | None = None

    @property
    def three_wires(self) -> bool:
        """Whether its motor has three wires, and so wants a pump controller of three; two where nobody says."""
        return self.motor_wires == 3

    @property
    def rated_w(self) -> float:
        """Electrical power at the middle measured point. [W]"""
        return self.motor.rated_v * self.motor.points[len(self.motor.points) // 2][2]

    @property
    def stated_w(self) -> float:
        """Watts on its label, by which people size panels; where it states none, those of the middle measured point. [W]"""
        return self.rated_w if self.label_w is None else self.label_w


@dataclass(frozen=True)
class Panel(Part):
    """A PV panel. `max_series_fuse_a` as on its label. [A]; `area_m2` [m2]"""

    module: Module
    area_m2: float
    max_series_fuse_a: float


@dataclass(frozen=True)
class BatteryUnit(Part):
    """One battery.

    Attributes
    ----------
    chemistry : str
        In plain words.
    nominal_v, open_v : float
        Name of its voltage; open-circuit volts at about 70 % charge. [V]
    internal_ohm : float
        Internal resistance. [ohm]
    capacity_ah : float
        Rated charge. [Ah]
    usable : float
        Share that may be drawn without harm, 0 to 1. [-]
    charge_efficiency : float
        Charge that comes out over charge put in, 0 to 1. [-]
    """

    chemistry: str
    nominal_v: float
    open_v: float
    internal_ohm: float
    capacity_ah: float
    usable: float
    charge_efficiency: float


@dataclass(frozen=True)
class TankUnit(Part):
    """A tank or trough. `capacity_l` full [L], `depth_m` of its water then [m]"""

    capacity_l: float
    depth_m: float


@dataclass(frozen=True)
class Lamp:
    """One sign of a controller's lamps: which, of what colour, how it stands (steady, blinking, off), and what that means."""

    which: str
    how: str
    means: str


@dataclass(frozen=True)
class Controller(Part):
    """A pump controller, or a charge controller of either kind.

    Attributes
    ----------
    kind : str
        ``pump``; ``charge-tracking`` (converts at maximum power) or ``charge-switching``
        (joins panel and battery directly).
    min_v, max_v : float
        Window of input volts. [V]
    out_max_v : float
        Most volts to the motor (pump), or highest battery nominal volts (charge). [V]
    max_a : float
        Rated output current. [A]
    efficiency : float
        Output power over input power, 0 to 1. [-]
    own_a : float
        What it draws day and night. [A]
    best_from_v, best_to_v : float or None
        Input volts between which it works best, where its maker says so. [V]
    restart_shadow_min, restart_dry_min : float or None
        How long it waits after a shadow, and after its probe ran dry, where its maker says so. [min]
    motor_wires : int or None
        Of the motors that it drives, 2 or 3; None where nobody says. [-]
    lamps : tuple[Lamp, ...]
        What its lamps say, as its owner wrote them down.
    stall, inputs, dial : str
        What it does when the pump stalls, what its inputs are, what its dial does, in its owner's words.
    """

    kind: Literal["pump", "charge-tracking", "charge-switching"]
    min_v: float
    max_v: float
    out_max_v: float
    max_a: float
    efficiency: float
    own_a: float
    best_from_v: float | None = None
    best_to_v: float | None = None
    restart_shadow_min: float | None = None
    restart_dry_min: float | None = None
    motor_wires: int | None = None
    lamps: tuple[Lamp, ...] = ()
    stall: str = ""
    inputs: str = ""
    dial: str = ""

    @property
    def asks(self) -> tuple[Literal["float", "probe"], ...]:
        """What its inputs ask before it runs, as far as its owner's words name a float or a probe. [-]"""
        words, found = self.inputs.lower(), list[Literal["float", "probe"]]()
        if "float" in words:
            found.append("float")
        if "probe" in words or "dry" in words:
            found.append("probe")
        return tuple(found)


@dataclass(frozen=True)
class Hose(Part):
    """Hose or pipe by nominal size; price and mass are for one metre.

    `inner_diameter_m` is the true bore and `roughness_m` the wall's, in metres;
    `burst_m` the head it is rated for.
    """

    nominal: str
    kind: str
    inner_diameter_m: float
    roughness_m: float
    rated_head_m: float


@dataclass(frozen=True)
class Fitting(Part):
    """A fitting with its loss coefficient K on the velocity head of its pipe. [-]"""

    minor_loss_k: float
    source: str


@dataclass(frozen=True)
class Device(Part):
    """A switch, relay or connector in the load path. `rating_a` [A], `rating_v` DC [V]; of a relay its coil. [V], [ohm]"""

    kind: str
    rating_a: float
    rating_v: float
    coil_v: float | None = None
    coil_ohm: float | None = None

    @property
    def poles(self) -> int:
        """How many conductors it parts: an isolator both. [-]"""
        return 2 if self.kind == "isolator" else 1

    @property
    def coil_a(self) -> float | None:
        """What its coil takes at its rated volts; None where it has none, or nobody says. [A]"""
        return None if self.coil_v is None or self.coil_ohm is None else self.coil_v / self.coil_ohm


@dataclass(frozen=True)
class Protector(Part):
    """A fuse or breaker. `rating_a` [A], `rating_v` DC [V]; kind ``fuse`` or ``breaker``"""

    kind: Literal["fuse", "breaker"]
    rating_a: float
    rating_v: float


@dataclass(frozen=True)
class Cable(Part):
    """Two-core cable by the metre, as `size` names its conductor; price and mass are for one metre."""

    size: str


@dataclass(frozen=True)
class Sundry(Part):
    """What no sum asks for, but a price list has: a mount, a rope, a sleeve, a supply."""

    kind: str


@dataclass(frozen=True)
class Stock:
    """What there is to choose from."""

    pumps: tuple[Pump, ...]
    panels: tuple[Panel, ...]
    batteries: tuple[BatteryUnit, ...]
    controllers: tuple[Controller, ...]
    hoses: tuple[Hose, ...]
    tanks: tuple[TankUnit, ...] = ()
