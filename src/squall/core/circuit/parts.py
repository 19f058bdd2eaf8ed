"""Parts of a circuit: what each is, and between which nodes it stands.

Amps count as positive from a part's first-named node to its second; of whatever gives power, out of its plus.
"""

from dataclasses import dataclass
from math import inf

from squall.core.drive.motors import Motor
from squall.core.drive.solve import Battery, PvArray, Supply
from squall.core.hydraulics.pipes import Line

# A closed switch or contact. [ohm]
CLOSED_OHM, PROTECTOR_OHM = 0.001, 0.005
# Over this many times its rating a fuse or breaker opens sooner or later (IEC 60269's conventional fusing current lies near it).
OPENS_OVER = 1.35


@dataclass(frozen=True)
class Panels:
    """An array of like panels, or one panel, in its light."""

    id: str
    plus: str
    minus: str
    array: PvArray


@dataclass(frozen=True)
class Bank:
    """A battery: open volts behind its internal resistance."""

    id: str
    plus: str
    minus: str
    battery: Battery


@dataclass(frozen=True)
class PlugIn:
    """A plug-in supply: set volts up to a current; takes nothing back."""

    id: str
    plus: str
    minus: str
    supply: Supply


@dataclass(frozen=True)
class Resistor:
    """A core of a cable, a joint, a lamp, a clip. [ohm]"""

    id: str
    a: str
    b: str
    ohm: float


@dataclass(frozen=True)
class Diode:
    """I = saturation_a (exp(V / slope_v) - 1). [A], [V]"""

    id: str
    anode: str
    cathode: str
    saturation_a: float
    slope_v: float


@dataclass(frozen=True)
class Protector:
    """A fuse or breaker: its rating [A], its own resistance [ohm], and whether it has opened."""

    id: str
    a: str
    b: str
    rating_a: float
    ohm: float = PROTECTOR_OHM
    blown: bool = False


@dataclass(frozen=True)
class Switch:
    """A switch, or any contact that a hand, a float or a clock closes."""

    id: str
    a: str
    b: str
    closed: bool


@dataclass(frozen=True)
class Relay:
    """A coil that moves a contact: pulled in at `pull_in_v` or more across the coil, whichever way round. [ohm], [V]"""

    id: str
    coil_a: str
    coil_b: str
    coil_ohm: float
    pull_in_v: float
    contact_a: str
    contact_b: str
    normally_open: bool = True

    def closed(self, pulled: bool) -> bool:
        """Whether its contact is closed."""
        return pulled is self.normally_open


@dataclass(frozen=True)
class Pump:
    """A brushed motor with its end on its line; `locked`: something holds its rotor."""

    id: str
    plus: str
    minus: str
    motor: Motor
    line: Line
    locked: bool = False


@dataclass(frozen=True)
class Controller:
    """A pump controller: holds its input at the most power and gives the motor what is left of it.

    Attributes
    ----------
    efficiency : float
        Output power over input power, above 0 to 1. [-]
    min_v, max_v : float
        Input volts within which it works. [V]
    out_max_v : float
        Most volts it gives. [V]
    dial : float
        Its knob: the share of `out_max_v` it may give, 0 to 1. [-]
    runs : bool
        False while an input stops it.
    most_w : float
        Most that its output gives, whatever the light. [W]
    """

    id: str
    pv_plus: str
    pv_minus: str
    out_plus: str
    out_minus: str
    efficiency: float
    min_v: float
    max_v: float
    out_max_v: float
    dial: float = 1.0
    runs: bool = True
    most_w: float = inf

    @property
    def most_out_v(self) -> float:
        """Most volts it gives as its knob stands. [V]"""
        return self.dial * self.out_max_v


Part = Panels | Bank | PlugIn | Resistor | Diode | Protector | Switch | Relay | Pump | Controller
Source = Panels | Bank | PlugIn


def ends(part: Part) -> tuple[tuple[str, str], ...]:
    """Pairs of nodes that a part stands between; two pairs for a relay (coil, contact) and a controller (input, output)."""
    match part:
        case Panels() | Bank() | PlugIn() | Pump():
            return ((part.plus, part.minus),)
        case Resistor() | Protector() | Switch():
            return ((part.a, part.b),)
        case Diode():
            return ((part.anode, part.cathode),)
        case Relay():
            return ((part.coil_a, part.coil_b), (part.contact_a, part.contact_b))
        case Controller():
            return ((part.pv_plus, part.pv_minus), (part.out_plus, part.out_minus))
