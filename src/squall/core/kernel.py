"""The drive of a whole year at once: the loop of :mod:`squall.core.drive`, compiled.

One :class:`LoadTable` says, for a motor on a line, what current and flow go with each terminal
voltage. The compiled kernels then find, for each light of the year, where a source meets it.
The answers agree with :func:`squall.core.drive.solve` to a few parts in ten thousand (tested).
"""

from dataclasses import dataclass

import numpy as np
from numba import njit
from numpy.typing import NDArray

from squall.core.modules import Diode
from squall.core.motors import Motor
from squall.core.pipes import Line

Floats = NDArray[np.float64]
_NODES = 260
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
        measured head is entered as giving nothing.
    """
    top = motor.rated_v * _TOP_OF_RATED
    if motor.kind == "centrifugal":
        psi_shut = float(motor.psi(motor.phi_range[0]))
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
    low, high = np.full(speeds.shape, first), np.full(speeds.shape, last)
    for _ in range(30):
        middle = 0.5 * (low + high)
        gains = motor.psi(middle) * speeds**2 > line.head_at(middle * speeds)
        low, high = np.where(gains, middle, low), np.where(gains, high, middle)
    phi = 0.5 * (low + high)
    flows = motor.psi(np.full(speeds.shape, first)) * speeds**2 > line.head_at(first * speeds)
    phi = np.where(flows, phi, first)
    beyond = motor.psi(np.full(speeds.shape, last)) * speeds**2 > line.head_at(last * speeds)
    current = motor.no_load_a + motor.tau(phi) * speeds**2
    return np.where(flows, phi * speeds, 0.0), current, np.where(beyond & flows, 1.0, 0.0)


def _displacement_nodes(motor: Motor, line: Line, speeds: Floats) -> tuple[Floats, Floats, Floats]:
    first, last = motor.head_range
    low, high = np.full(speeds.shape, first), np.full(speeds.shape, last)
    for _ in range(30):
        middle = 0.5 * (low + high)
        spare = middle > line.head_at(motor.flow_per_speed(middle) * speeds)
        low, high = np.where(spare, low, middle), np.where(spare, middle, high)
    head = 0.5 * (low + high)
    flow = motor.flow_per_speed(head) * speeds
    too_high = line.head_at(motor.flow_per_speed(np.full(speeds.shape, last)) * speeds) > last
    below = line.head_at(motor.flow_per_speed(np.full(speeds.shape, first)) * speeds) < first
    return np.where(too_high, 0.0, flow), motor.amps_by_head(head), np.where(below & ~too_high, 1.0, 0.0)


@njit(cache=True, nogil=True)
def _diode_surplus(volts, amps, light, saturation, series, shunt, ideality):  # type: ignore[no-untyped-def]
    junction = volts + amps * series
    return light - saturation * (np.exp(min(junction / ideality, 500.0)) - 1.0) - junction / shunt - amps


@njit(cache=True, nogil=True)
def _meet_array(  # type: ignore[no-untyped-def]
    volts, amps, flow, beyond, cable, in_series, in_parallel, light, saturation, series, shunt, ideality, out
):
    """Search the node below the crossing from that of the light before, then close in on it."""
    last = volts.size - 1
    guess = last // 2
    at_v = (volts + amps * cable) / in_series
    at_i = amps / in_parallel
    for c in range(light.size):
        for j in range(4):
            out[j, c] = 0.0
        if light[c] <= 1e-6:
            continue
        il, i0, rs, rp, a = light[c], saturation[c], series[c], shunt[c], ideality[c]
        if _diode_surplus(at_v[0], at_i[0], il, i0, rs, rp, a) <= 0.0:
            out[1, c] = min(il * in_parallel, amps[0])
            continue
        if _diode_surplus(at_v[last], at_i[last], il, i0, rs, rp, a) > 0.0:
            low, share = last - 1, 1.0
        else:
            low, high, step = 0, last, 1
            if _diode_surplus(at_v[guess], at_i[guess], il, i0, rs, rp, a) > 0.0:
                low = guess
                while low + step < last and _diode_surplus(at_v[low + step], at_i[low + step], il, i0, rs, rp, a) > 0.0:
                    low, step = low + step, step * 2
                high = min(low + step, last)
            else:
                high = guess
                while (
                    high - step > 0 and _diode_surplus(at_v[high - step], at_i[high - step], il, i0, rs, rp, a) <= 0.0
                ):
                    high, step = high - step, step * 2
                low = max(high - step, 0)
            while high - low > 1:
                middle = (low + high) // 2
                if _diode_surplus(at_v[middle], at_i[middle], il, i0, rs, rp, a) > 0.0:
                    low = middle
                else:
                    high = middle
            guess = low
            share = _close_in(at_v, at_i, low, il, i0, rs, rp, a)
        out[0, c] = volts[low] + share * (volts[low + 1] - volts[low])
        out[1, c] = amps[low] + share * (amps[low + 1] - amps[low])
        out[2, c] = flow[low] + share * (flow[low + 1] - flow[low])
        out[3, c] = max(beyond[low], beyond[low + 1])


@njit(cache=True, nogil=True)
def _close_in(at_v, at_i, low, il, i0, rs, rp, a):  # type: ignore[no-untyped-def]
    """Where between two nodes the surplus is nil: false position, Illinois form. [-]"""
    left, right = 0.0, 1.0
    f_left = _diode_surplus(at_v[low], at_i[low], il, i0, rs, rp, a)
    f_right = _diode_surplus(at_v[low + 1], at_i[low + 1], il, i0, rs, rp, a)
    share = 0.5
    for _ in range(12):
        share = (left * f_right - right * f_left) / (f_right - f_left)
        v = at_v[low] + share * (at_v[low + 1] - at_v[low])
        i = at_i[low] + share * (at_i[low + 1] - at_i[low])
        f = _diode_surplus(v, i, il, i0, rs, rp, a)
        if abs(f) < 1e-7:
            break
        if f > 0.0:
            left, f_left = share, f
            f_right *= 0.5
        else:
            right, f_right = share, f
            f_left *= 0.5
    return share


@njit(cache=True, nogil=True)
def _into_volts(bank_v, cable, in_series, in_parallel, light, saturation, series, shunt, ideality, out):  # type: ignore[no-untyped-def]
    # Newton from the light current: the surplus is concave and falling, so it closes in from above.
    slope = in_parallel * cable / in_series
    for c in range(light.size):
        current = light[c]
        for _ in range(40):
            volts = bank_v / in_series + current * slope
            junction = volts + current * series[c]
            grown = saturation[c] * np.exp(min(junction / ideality[c], 500.0))
            surplus = light[c] - grown + saturation[c] - junction / shunt[c] - current
            steep = -(grown / ideality[c] + 1.0 / shunt[c]) * (slope + series[c]) - 1.0
            step = surplus / steep
            current -= step
            if abs(step) < 1e-9:
                break
        out[c] = max(current, 0.0) * in_parallel


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
    out = np.empty(diode.light_current_a.size)
    _into_volts(
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
    out = np.empty((4, diode.light_current_a.size))
    _meet_array(
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
