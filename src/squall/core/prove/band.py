"""How far a sound kit's reading may lie from what its model says, worked from what it hangs on at this light.

Each input is moved both ways by :data:`WIDE` times its own standard deviation, and what that does to the reading is summed
by squares with the meter's share. Near the starting light a little less light stops the flow altogether: there the band
reaches down to nothing, and the reading is not judged.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import hypot

import numpy as np

from squall.core.drive.motors import Motor
from squall.core.drive.tables import on_volts
from squall.core.electrics.modules import Module, diode_at
from squall.core.errors import SquallError
from squall.core.kit.changes import Change, flow_by, run_longer, water_lower
from squall.core.kit.course import PanelStates, sun_course
from squall.core.kit.setup import Setup
from squall.core.kit.supply import Banked

# So many standard deviations keep 98 or 99 of 100 sound readings within: 3 in 100 are to be left out at most.
WIDE = 2.5
# A band wider than this share of the reading, to either side, judges nothing: a choice of ours. [-]
TOO_WIDE = 0.5


@dataclass(frozen=True)
class Off:
    """How far each input of a reading may be off: one standard deviation.

    Attributes
    ----------
    light : float
        Share. Typed: a hand's light meter; by short-circuit amps: the panel's own label. [-]
    cell_k : float
        Temperature of the cells. [K]
    lift_m : float
        Lift. [m]
    length, pump : float
        Shares of the run's length and of the pump's flow at each head. [-]
    amps, panel_a, panel_v, cable, bank_v, bank_ohm : float
        Shares: the motor's amps, the panel's amps and volts off its label, the cable's ohms, the bank's volts and inner
        ohms. The labels' few per cent and a battery's quarter are common practice, no source. [-]
    """

    light: float = 0.03
    cell_k: float = 4.0
    lift_m: float = 0.15
    length: float = 0.02
    pump: float = 0.04
    amps: float = 0.04
    panel_a: float = 0.025
    panel_v: float = 0.015
    cable: float = 0.05
    bank_v: float = 0.01
    bank_ohm: float = 0.25


# A light typed from a hand meter may be off by this, one standard deviation: common practice, no source. [-]
TYPED_LIGHT_OFF, NO_LIGHT_OFF = 0.07, 0.25
# A bank whose volts nobody read may stand anywhere between flat and charging. [-]
UNREAD_BANK_OFF = 0.04
# A cheap meter: a share of the reading and two last digits; a bucket and a watch. [-], [V] or [A], [-]
METER, DIGITS, BUCKET = 0.01, 0.02, 0.05


@dataclass(frozen=True)
class Moment:
    """Light on the panels, heat of the cells, the bank's open volts: what the readings of now hang on. [W/m2], [°C], [V]"""

    light_w_m2: float
    cell_c: float
    bank_v: float = 0.0


Readings = dict[str, float]
Varied = tuple[Setup, Moment]


def readings(setup: Setup, at: Moment) -> Readings:
    """Open volts, short-circuit amps, volts and amps at the pump and flow of a kit at a moment. [V], [A], [m3/s]"""
    kit = setup.kit
    light = np.array([max(at.light_w_m2, 1.0)])
    states = PanelStates(diode_at(kit.panel.module, light, np.array([at.cell_c])))
    found = {
        "open-volts": float(states.voc_v[0]) * kit.in_series,
        "short-amps": float(states.diode.light_current_a[0]) * kit.in_parallel,
    }
    if isinstance(kit.supply, Banked):
        volts, amps, flow, _ = on_volts(setup.table, kit.bank_ohm + setup.pump_ohm, at.bank_v)
        return {**found, "rest-volts": at.bank_v, "pump-volts": volts, "pump-amps": amps, "outlet-flow": flow}
    course = sun_course(setup, setup.table, states)
    volts, amps, flow = (float(row[0]) for row in course.rows[:3])
    return {**found, "pump-volts": volts, "pump-amps": amps, "outlet-flow": flow}


def bands(setup: Setup, at: Moment, off: Off) -> dict[str, tuple[float, float]]:
    """How far each reading of a sound kit may lie below and above what it should be.

    Parameters
    ----------
    setup : Setup
        The kit, where it stands and what joins it.
    at : Moment
        Light, heat, the bank's volts.
    off : Off
        How far each input may be off.

    Returns
    -------
    dict
        By test point: less, more; both 0 or more. [V], [A], [m3/s]
    """
    middle = readings(setup, at)
    less: dict[str, list[float]] = {key: [] for key in middle}
    more: dict[str, list[float]] = {key: [] for key in middle}
    for vary in _inputs(off, isinstance(setup.kit.supply, Banked)):
        ends = [_end(vary, setup, at, side * WIDE, middle) for side in (-1.0, 1.0)]
        for key, value in middle.items():
            less[key].append(max(value - min(end[key] for end in ends), 0.0))
            more[key].append(max(max(end[key] for end in ends) - value, 0.0))
    found = {}
    for key, value in middle.items():
        meter = WIDE * (BUCKET * value if key == "outlet-flow" else hypot(METER * value, DIGITS))
        found[key] = hypot(*less[key], meter), hypot(*more[key], meter)
    return found


def _end(vary: "Vary", setup: Setup, at: Moment, deviations: float, middle: Readings) -> Readings:
    """Readings with one input moved; as they are where it would be moved to what nothing can be, a run without end say."""
    try:
        return readings(*vary(setup, at, deviations))
    except SquallError:
        return middle


def too_wide(value: float, less: float, more: float) -> bool:
    """Whether a band says nothing of a reading, all in one unit: it may be half as much again, or as little, and still be sound. [-]"""
    return max(less, more) > TOO_WIDE * value


Vary = Callable[[Setup, Moment, float], Varied]


def _inputs(off: Off, banked: bool) -> list[Vary]:
    """Each input as a function that moves it by so many standard deviations; those without doubt left out."""
    found: list[tuple[float, Vary]] = [
        (off.lift_m, lambda s, at, n: (_changed(s, water_lower(n * off.lift_m)), at)),
        (off.length, lambda s, at, n: (_changed(s, run_longer(1.0 + n * off.length)), at)),
        (off.pump, lambda s, at, n: (_motor(s, lambda m: flow_by(m, 1.0 + n * off.pump)), at)),
        (off.amps, lambda s, at, n: (_motor(s, lambda m: amps_by(m, 1.0 + n * off.amps)), at)),
        (off.cable, lambda s, at, n: (_changed(s, run_of_cable(1.0 + n * off.cable)), at)),
        (off.light, lambda s, at, n: (s, replace(at, light_w_m2=at.light_w_m2 * max(1.0 + n * off.light, 0.02)))),
        (off.cell_k, lambda s, at, n: (s, replace(at, cell_c=at.cell_c + n * off.cell_k))),
        (off.panel_a, lambda s, at, n: (_panel(s, 1.0 + n * off.panel_a, 1.0), at)),
        (off.panel_v, lambda s, at, n: (_panel(s, 1.0, 1.0 + n * off.panel_v), at)),
    ]
    if banked:
        found += [
            (off.bank_v, lambda s, at, n: (s, replace(at, bank_v=at.bank_v * (1.0 + n * off.bank_v)))),
            (off.bank_ohm, lambda s, at, n: (_bank(s, max(1.0 + n * off.bank_ohm, 0.1)), at)),
        ]
    return [vary for amount, vary in found if amount > 0.0]


def _changed(setup: Setup, change: Change) -> Setup:
    return change(setup)


def _motor(setup: Setup, change: Callable[[Motor], Motor]) -> Setup:
    pump = setup.kit.pump
    return replace(setup, kit=replace(setup.kit, pump=replace(pump, motor=change(pump.motor))))


def amps_by(motor: Motor, factor: float) -> Motor:
    """A motor that draws more or less at every point by a factor. [-]"""
    points = tuple((q, h, i * factor) for q, h, i in motor.points)
    return replace(motor, points=points, no_load_a=motor.no_load_a * factor)


def run_of_cable(factor: float) -> Change:
    """Both runs of cable longer or shorter by a factor: more or fewer ohms. [-]"""

    def change(setup: Setup) -> Setup:
        layout = setup.layout
        return replace(
            setup,
            layout=replace(
                layout, pump_cable_m=layout.pump_cable_m * factor, array_cable_m=layout.array_cable_m * factor
            ),
        )

    return change


def _panel(setup: Setup, amps: float, volts: float) -> Setup:
    module = setup.kit.panel.module
    other = Module(
        module.voc_v * volts, module.isc_a * amps, module.vmp_v * volts, module.imp_a * amps, module.cells,
        module.isc_percent_per_k, module.voc_percent_per_k,
    )  # fmt: skip
    return replace(setup, kit=replace(setup.kit, panel=replace(setup.kit.panel, module=other)))


def _bank(setup: Setup, factor: float) -> Setup:
    supply = setup.kit.supply
    assert isinstance(supply, Banked)
    battery = replace(supply.battery, internal_ohm=supply.battery.internal_ohm * factor)
    return replace(setup, kit=replace(setup.kit, supply=replace(supply, battery=battery)))


# Volts of one 12 V block at rest, flat and full, by chemistry: common practice, no source. [V]
REST_12V = {"lead": (11.8, 12.9), "lithium": (12.8, 13.6)}


def rest_band(chemistry: str, nominal_v: float) -> tuple[float, float]:
    """Volts between which a sound bank rests, flat to full. [V]

    Parameters
    ----------
    chemistry : str
        As in the catalogue; lead where it names no lithium.
    nominal_v : float
        Of the bank. [V]

    Examples
    --------
    >>> rest_band("lead-acid (sealed)", 12.0)
    (11.8, 12.9)
    """
    low, high = REST_12V["lithium" if "lith" in chemistry.lower() else "lead"]
    return low * (nominal_v / 12.0), high * (nominal_v / 12.0)
