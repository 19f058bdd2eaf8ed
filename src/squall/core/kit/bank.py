"""A battery bank as it is: aged, cold, with a timer."""

from dataclasses import dataclass

from squall.core.electrics.timers import TimerStart
from squall.core.errors import require
from squall.core.kit.kit import Kit


@dataclass(frozen=True)
class BankState:
    """How a battery has fared, and when it may run.

    Attributes
    ----------
    age : float
        Share of its rated charge that it still holds, 0.2 to 1. [-]
    air_c : float
        Coldest mean day that it stands in. [°C]
    timer : tuple[TimerStart, ...]
        When the pump may run; at any time without one.
    coil_a : float
        That a relay's coil takes while the pump runs. [A]
    drain_w : float
        That other loads on the bank take, over day and night. [W]
    """

    age: float = 1.0
    air_c: float = 20.0
    timer: tuple[TimerStart, ...] = ()
    coil_a: float = 0.0
    drain_w: float = 0.0

    def __post_init__(self) -> None:
        require("charge-aged-battery-still-holds", self.age, 0.2, 1.0, "share")


# Charge that cold leaves, per kelvin under 25 °C: lead-acid and lithium, guesses after common practice, no source. [1/K]
COLD_LOSS = {"lead": 0.008, "lithium": 0.004}


def cold_factor(chemistry: str, air_c: float) -> float:
    """Share of its charge that a battery gives in the cold, 1 from 25 °C up, at least 0.3. [-]

    Examples
    --------
    >>> cold_factor("lead-acid", 25.0)
    1.0
    >>> round(cold_factor("lead-acid", 0.0), 2)
    0.8
    """
    per_k = COLD_LOSS["lithium" if "lith" in chemistry.lower() else "lead"]
    return max(1.0 - per_k * max(25.0 - air_c, 0.0), 0.3)


def usable_ah(kit: Kit, bank: BankState) -> float:
    """Charge that may be drawn from the bank as it is: rated x usable x age x cold. [Ah]"""
    battery = kit.battery
    if battery is None:
        return 0.0
    return battery.capacity_ah * battery.usable * bank.age * cold_factor(battery.chemistry, bank.air_c)


def drawn_a(motor_a: float, bank: BankState) -> float:
    """Amps that the bank gives while the pump runs: the motor's and the relay's coil; none where the motor stands. [A]

    Examples
    --------
    >>> drawn_a(4.0, BankState(coil_a=0.15))
    4.15
    """
    return motor_a + bank.coil_a if motor_a > 0.0 else motor_a


def standing_a(kit: Kit, bank: BankState) -> float:
    """Amps that the bank gives day and night: its charger's own, and the mean of other loads. [A]"""
    if kit.battery is None or kit.controller is None:
        return 0.0
    return kit.controller.own_a + bank.drain_w / kit.bank_v


AS_NEW = BankState()
