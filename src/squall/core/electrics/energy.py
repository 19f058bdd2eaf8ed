"""Watts, minutes and amp-hours of one use, by definition: W = V A, Wh = W h, Ah = A h."""

from dataclasses import dataclass

from squall.core.errors import OutOfRange
from squall.core.reason import Between, Quantity


@dataclass(frozen=True)
class EnergyUse:
    """Power [W], running minutes a day, energy [Wh], charge [Ah], share of the battery [-] or None."""

    power_w: float
    minutes: float
    energy_wh: float
    charge_ah: float
    battery_share: float | None


def energy_use(
    voltage_v: float,
    current_a: float,
    minutes: float,
    battery_v: float | None = None,
    battery_ah: float | None = None,
) -> EnergyUse:
    """Energy of running a load for some minutes.

    Parameters
    ----------
    voltage_v, current_a : float
        At the load. [V], [A]
    minutes : float
        Running time a day, 0 to 1440. [min]
    battery_v : float, optional
        Battery volts for the charge; the load's if not given. [V]
    battery_ah : float, optional
        Battery charge, for the share. [Ah]

    Returns
    -------
    EnergyUse
        W = V A; Wh = W min/60; Ah = Wh/V.

    Raises
    ------
    OutOfRange
        For more minutes than a day has.

    Examples
    --------
    >>> energy_use(12.0, 7.5, 15.0).energy_wh
    22.5
    """
    if not 0.0 <= minutes <= 1440.0:
        raise OutOfRange("minutes-day", Quantity(minutes, "number"), Between(0.0, 1440.0, "number"))
    power = voltage_v * current_a
    energy = power * minutes / 60.0
    charge = energy / (battery_v or voltage_v)
    return EnergyUse(power, minutes, energy, charge, charge / battery_ah if battery_ah else None)


def autonomy_hours(battery_ah: float, usable_fraction: float, efficiency: float, load_a: float) -> float:
    """Hours that a full battery carries a load.

    Parameters
    ----------
    battery_ah : float
        Rated charge. [Ah]
    usable_fraction, efficiency : float
        Above 0 to 1. [-]
    load_a : float
        Above 0. [A]

    Returns
    -------
    float
        Ah x usable x efficiency / A. [h]

    Examples
    --------
    >>> autonomy_hours(100.0, 0.5, 1.0, 5.0)
    10.0
    """
    return battery_ah * usable_fraction * efficiency / load_a
