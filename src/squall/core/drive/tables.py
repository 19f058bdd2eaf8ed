"""The drive of a whole year at once: the loop of :mod:`squall.core.drive.solve`, compiled.

One :class:`LoadTable` says, for a motor on a line, what current and flow go with each terminal
voltage. The compiled kernels then find, for each light of the year, where a source meets it.
The answers agree with :func:`squall.core.drive.solve.solve` within two parts in a thousand (tested).
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from squall.core.drive.motors import Motor, flow_at_last_head
from squall.core.electrics.modules import Diode
from squall.core.hydraulics.pipes import Line

Floats = NDArray[np.float64]
_NODES = 200
_TOP_OF_RATED = 2.2


@dataclass(frozen=True)
class LoadTable:
    """Current and flow against terminal volts, of one motor on one line.

    Attributes
    ----------
    volts_v, current_a, flow_m3_s : NDArray
        Nodes with rising volts; the first is standstill. [V], [A], [m3/s]
    beyond : NDArray
        1 where the flow is held at the last measured point (a lower bound), else 0.
    standstill_a : float
        Current below which the motor stands still. [A]
    resistance_ohm : float
        Of the motor. [ohm]
    """

    volts_v: Floats
    current_a: Floats
    flow_m3_s: Floats
    beyond: Floats
    standstill_a: float
    resistance_ohm: float


def load_table(motor: Motor, line: Line) -> LoadTable:
    """Tabulate a motor on a line over its speeds.

    Parameters
    ----------
    motor : Motor
        Motor with its end.
    line : Line
        Lift and pipes.

    Returns
    -------
    LoadTable
        From standstill to 2.2 times rated volts; a displacement pump on a lift above its last
        measured head is entered as giving nothing, one that the line alone drives beyond it as
        giving what passes at that head.
    """
    top = motor.rated_v * _TOP_OF_RATED
    if motor.kind == "centrifugal":
        psi_shut = motor.psi.at(motor.phi_range[0])
        first = float(np.sqrt(max(line.static_head_m, 0.0) / psi_shut)) if psi_shut > 0.0 else top
        below = np.linspace(0.0, min(first, top), 24, endpoint=False)
        above = min(first, top) + (top - min(first, top)) * np.linspace(0.0, 1.0, _NODES - 24) ** 2
        speeds = np.concatenate([below, above])
        flow, current, beyond = _centrifugal_nodes(motor, line, speeds)
    else:
        speeds = np.linspace(0.0, top, _NODES)
        flow, current, beyond = _displacement_nodes(motor, line, speeds)
    return LoadTable(
        volts_v=speeds + current * motor.resistance_ohm,
        current_a=current,
        flow_m3_s=flow,
        beyond=beyond,
        standstill_a=float(current[0]),
        resistance_ohm=motor.resistance_ohm,
    )


def _centrifugal_nodes(motor: Motor, line: Line, speeds: Floats) -> tuple[Floats, Floats, Floats]:
    first, last = motor.phi_range

    def surplus(phi: Floats) -> Floats:
        spare: Floats = motor.psi(phi) * speeds**2 - line.head_at(phi * speeds)
        return spare

    phi, at_first, at_last = _crossings(surplus, np.full(speeds.shape, first), np.full(speeds.shape, last))
    flows, beyond = at_first > 0.0, at_last > 0.0
    current = motor.no_load_a + motor.tau(phi) * speeds**2
    return np.where(flows, phi * speeds, 0.0), current, np.where(beyond & flows, 1.0, 0.0)


def _displacement_nodes(motor: Motor, line: Line, speeds: Floats) -> tuple[Floats, Floats, Floats]:
    first, last = motor.head_range

    def surplus(head: Floats) -> Floats:
        spare: Floats = line.head_at(motor.flow_per_speed(head) * speeds) - head
        return spare

    head, at_first, at_last = _crossings(surplus, np.full(speeds.shape, first), np.full(speeds.shape, last))
    too_high, below = at_last > 0.0, at_first < 0.0
    flow = np.maximum(motor.flow_per_speed(head), 0.0) * speeds
    if too_high.any():
        flow = np.where(too_high, np.minimum(flow, flow_at_last_head(motor, line)), flow)
    return flow, motor.amps_by_head(head), np.where((below | too_high) & (flow > 0.0), 1.0, 0.0)


def _crossings(
    surplus: Callable[[Floats], Floats], low: Floats, high: Floats, rounds: int = 14
) -> tuple[Floats, Floats, Floats]:
    """Where falling functions are nil, each within its own bounds; at a bound if it is not nil between.

    False position in the Illinois form, every third round a halving. Answers the places, and
    the functions' values at both bounds.
    """
    f_low, f_high = surplus(low), surplus(high)
    at_low, at_high, start, end = f_low, f_high, low, high
    place = 0.5 * (low + high)
    for n in range(rounds):
        gap = np.where(f_low == f_high, 1.0, f_low - f_high)
        place = 0.5 * (low + high) if n % 3 == 2 else low + (high - low) * np.clip(f_low / gap, 0.0, 1.0)
        f = surplus(place)
        above = f > 0.0
        low, f_low, high, f_high = (
            np.where(above, place, low),
            np.where(above, f, 0.5 * f_low),
            np.where(above, high, place),
            np.where(above, 0.5 * f_high, f),
        )
    place = np.where(at_low <= 0.0, start, np.where(at_high > 0.0, end, place))
    return place, at_low, at_high


def marked_points(diode: Diode) -> tuple[Floats, Floats, Floats]:
    """Volts and amps at maximum power, and open volts, of one module at each light.

    Parameters
    ----------
    diode : Diode
        One module at each light, none of them dark.

    Returns
    -------
    tuple
        [V], [A], [V], each of the shape of `diode`. As :func:`squall.core.electrics.modules.array_point`
        gives them (tested), but for a whole year at once.
    """
    from squall.core.drive.kernels import most_power, open_volts

    volts, amps, open_v = (np.empty(diode.light_current_a.size) for _ in range(3))
    most_power(
        diode.light_current_a,
        diode.saturation_current_a,
        diode.series_ohm,
        diode.shunt_ohm,
        diode.ideality_v,
        volts,
        amps,
    )
    open_volts(diode.light_current_a, diode.saturation_current_a, diode.shunt_ohm, diode.ideality_v, open_v)
    return volts, amps, open_v


def array_into_volts(bank_v: float, cable_ohm: float, diode: Diode, in_series: int, in_parallel: int) -> Floats:
    """Current that an array pushes through a cable into fixed volts, 0 or more, at each light.

    Parameters
    ----------
    bank_v : float
        Volts at the far end. [V]
    cable_ohm : float
        Cable there and back. [ohm]
    diode : Diode
        One module at each light.
    in_series, in_parallel : int
        Modules in a string; strings.

    Returns
    -------
    NDArray
        Of the shape of `diode`. [A]
    """
    from squall.core.drive.kernels import into_volts

    out = np.empty(diode.light_current_a.size)
    into_volts(
        bank_v, cable_ohm, in_series, in_parallel,
        diode.light_current_a, diode.saturation_current_a, diode.series_ohm, diode.shunt_ohm, diode.ideality_v, out,
    )  # fmt: skip
    return out


def on_volts(table: LoadTable, loop_ohm: float, open_v: float) -> tuple[float, float, float, bool]:
    """Motor volts, amps, flow, and whether the flow is a lower bound, on a source of steady volts.

    Parameters
    ----------
    table : LoadTable
        Motor on its line.
    loop_ohm : float
        Cable there and back and the source's own resistance. [ohm]
    open_v : float
        The source's open volts. [V]

    Returns
    -------
    tuple
        [V], [A], [m3/s], bool. All nil where the motor stands still.
    """
    at_source = table.volts_v + table.current_a * loop_ohm
    if open_v <= at_source[0]:
        return 0.0, 0.0, 0.0, False
    volts, amps, flow = (
        float(np.interp(open_v, at_source, values)) for values in (table.volts_v, table.current_a, table.flow_m3_s)
    )
    return volts, amps, flow, bool(np.interp(open_v, at_source, table.beyond) > 0.0)


@dataclass(frozen=True)
class Course:
    """Motor volts, amps, flow, and where the flow is a lower bound, for each light; equal shapes."""

    motor_v: Floats
    motor_a: Floats
    flow_m3_s: Floats
    beyond: Floats

    @property
    def rows(self) -> tuple[Floats, Floats, Floats, Floats]:
        """The four in order: [V], [A], [m3/s], and whether beyond the curve."""
        return self.motor_v, self.motor_a, self.flow_m3_s, self.beyond


def on_array(table: LoadTable, cable_ohm: float, diode: Diode, in_series: int, in_parallel: int) -> Course:
    """Course of a motor joined straight to an array.

    Parameters
    ----------
    table : LoadTable
        Motor on its line.
    cable_ohm : float
        Cable there and back. [ohm]
    diode : Diode
        One module at each light; no light where ``light_current_a`` is 0.
    in_series, in_parallel : int
        Modules in a string; strings.

    Returns
    -------
    Course
        Of the shape of ``diode``.
    """
    from squall.core.drive.kernels import meet_array

    out = np.empty((4, diode.light_current_a.size))
    meet_array(
        table.volts_v, table.current_a, table.flow_m3_s, table.beyond, cable_ohm, in_series, in_parallel,
        diode.light_current_a, diode.saturation_current_a, diode.series_ohm, diode.shunt_ohm, diode.ideality_v, out,
    )  # fmt: skip
    return Course(out[0], out[1], out[2], out[3])


def on_power(table: LoadTable, cable_ohm: float, power_w: Floats, out_max_v: float) -> Course:
    """Course of a motor behind a controller that gives a set power up to a set voltage.

    Parameters
    ----------
    table : LoadTable
        Motor on its line.
    cable_ohm : float
        Cable from controller to motor, there and back. [ohm]
    power_w : NDArray
        Controller's output power at each light. [W]
    out_max_v : float
        Most volts at its output. [V]

    Returns
    -------
    Course
        Of the shape of ``power_w``.
    """
    at_source = table.volts_v + table.current_a * cable_ohm
    asked = at_source * table.current_a
    top = float(np.interp(out_max_v, at_source, asked))
    given = np.minimum(power_w, top)
    turns = given > asked[0]
    volts, amps, flow = (
        np.where(turns, np.interp(given, asked, values), 0.0)
        for values in (table.volts_v, table.current_a, table.flow_m3_s)
    )
    beyond = np.where(turns & (np.interp(given, asked, table.beyond) > 0.0), 1.0, 0.0)
    return Course(volts, amps, flow, beyond)
