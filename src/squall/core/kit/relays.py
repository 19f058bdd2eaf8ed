"""Who carries the pump's amps and who only commands: a small switch drives the coil of a relay, whose contact carries the pump."""

from dataclasses import dataclass

from squall.core.electrics.protection import LoopPart
from squall.core.kit.kit import Kit
from squall.core.kit.parts import Device
from squall.core.reason import Reason

# A coil pulls in from this share of its rated volts, and stands this much of them for hours: common practice, no source. [-]
PULLS_IN, STANDS = 0.75, 1.25
# What a hand, a float, a clock or a radio closes: may command in place of carrying.
COMMANDS = frozenset({"switch", "float switch", "timer", "pressure switch", "radio switch"})
# What stands on the panels' side of whatever feeds the pump.
ON_PANELS_SIDE = frozenset({"connector", "isolator"})


@dataclass(frozen=True)
class PlainLoad:
    """Something else on the bank. [W]"""

    name: str
    watts: float


@dataclass(frozen=True)
class Loop:
    """What stands in a pump's loop.

    Attributes
    ----------
    carries : tuple of Device
        Carry the pump's amps, a relay's contact among them.
    pilots : tuple of Device
        Drive the relay's coil, all of them in a row.
    relay : Device or None
        Whose coil that is.
    loads : tuple of PlainLoad
        Beside the pump on its bank.
    """

    carries: tuple[Device, ...] = ()
    pilots: tuple[Device, ...] = ()
    relay: Device | None = None
    loads: tuple[PlainLoad, ...] = ()

    @property
    def coil_a(self) -> float:
        """What the coil takes while the pump is on; nothing where none is driven. [A]"""
        return 0.0 if self.relay is None or not self.pilots else self.relay.coil_a or 0.0


@dataclass(frozen=True)
class Coil:
    """A relay's coil and what drives it, as the rules of wiring ask of them. [V], [A]"""

    name: str
    volts: float
    amps: float
    pilots: tuple[LoopPart, ...]


def coil_problems(kit: Kit, coil: Coil | None) -> tuple[Reason, ...]:
    """What speaks against a relay whose coil is driven on a kit, each in a sentence.

    Panels and pump controllers bring their volts up and down with every cloud: a coil on them chatters, and its contact burns.
    """
    if coil is None:
        return ()
    if kit.battery is None:
        return (Reason("coil-wants-bank", name=coil.name),)
    found: list[Reason] = []
    if kit.charging_v > STANDS * coil.volts:
        found.append(Reason("coil-burns", name=coil.name, made=coil.volts, bank=kit.charging_v))
    if kit.bank_v < PULLS_IN * coil.volts:
        found.append(Reason("coil-wont-pull", name=coil.name, made=coil.volts, bank=kit.bank_v))
    found += [
        Reason("pilot-too-small", name=pilot.name, stands=pilot.rating_a, coil=coil.amps)
        for pilot in coil.pilots
        if pilot.rating_a < coil.amps
    ]
    return tuple(found)
