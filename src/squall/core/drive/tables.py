"""The drive of a whole year at once: the loop of :mod:`squall.core.drive.solve`, compiled.

One :class:`LoadTable` says, for a motor on a line, what current and flow go with each terminal
voltage. The compiled kernels then find, for each light of the year, where a source meets it.
The answers agree with :func:`squall.core.drive.solve.solve` within two parts in a thousand (tested).
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from squall.core.drive.motors import Motor, flow_at_last_head
from squall.core.electrics.modules import Diode
from squall.core.hydraulics.curves import MonotoneCubic
from squall.core.hydraulics.pipes import Line

Floats = NDArray[np.float64]
_NODES = 190
# Of a centrifugal end's, below the speed at which it reaches the lift.
_BELOW = 24
# Flows at which an end is asked how fast it turns, while more than one goes with a speed.
_ON_RISE = 48
# As :mod:`squall.core.drive.line_kernels` has them.
PHI_AT_SPEED, SPEED_AT_PHI, HEAD_AT_SPEED = 0, 1, 2
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
    rated_a : float
        Current at the motor's rated volts. [A]
    most_a, most_flow_m3_s : NDArray or None
        Where more lines than one are served: at the one on which most is drawn, and most given, at the same volts. [A], [m3/s]
    """

    volts_v: Floats
    current_a: Floats
    flow_m3_s: Floats
    beyond: Floats
    standstill_a: float
    resistance_ohm: float
    rated_a: float
    most_a: Floats | None = None
    most_flow_m3_s: Floats | None = None

    @property
    def heaviest_a(self) -> Floats:
        """Current on the line on which most is drawn: what cables and ratings go by. [A]"""
        return self.current_a if self.most_a is None else self.most_a

    def peaks(self, volts_v: float, amps_a: float, flow_m3_s: float) -> tuple[float, float]:
        """Amps and flow that were worked out at given volts, as they are on the line on which most is drawn and given. [A], [m3/s]"""
        if self.most_a is None or self.most_flow_m3_s is None:
            return amps_a, flow_m3_s
        over = []
        for most, mean, value in (
            (self.most_a, self.current_a, amps_a), (self.most_flow_m3_s, self.flow_m3_s, flow_m3_s),
        ):  # fmt: skip
            here = float(np.interp(volts_v, self.volts_v, mean))
            over.append(value * float(np.interp(volts_v, self.volts_v, most)) / here if here > 0.0 else value)
        return over[0], over[1]


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

    Raises
    ------
    OutOfRange
        If a flow at twice the rated volts leaves the friction table.

    Notes
    -----
    Where head over speed squared rises from shut-off, a centrifugal end slows as it begins to flow: between shut-off and
    the first settled flow the nodes go by Q/w, as in :func:`squall.core.drive.motors.state_on_rise`.
    """
    top = motor.rated_v * _TOP_OF_RATED
    most = motor.phi_range[1] if motor.kind == "centrifugal" else motor.flow_per_speed.at(motor.head_range[0])
    line.head_at(np.array([most * top]))  # refuses what no friction factor is known for
    if motor.kind == "centrifugal":
        speeds, flow, current, beyond = _centrifugal_nodes(motor, line)
    else:
        speeds = np.linspace(0.0, top, _NODES)
        flow, current, beyond = _displacement_nodes(motor, line, speeds)
    volts = speeds + current * motor.resistance_ohm
    return LoadTable(
        volts_v=volts,
        current_a=current,
        flow_m3_s=flow,
        beyond=beyond,
        standstill_a=float(current[0]),
        resistance_ohm=motor.resistance_ohm,
        rated_a=float(np.interp(motor.rated_v, volts, current)),
    )


def _centrifugal_nodes(motor: Motor, line: Line) -> tuple[Floats, Floats, Floats, Floats]:
    top, (first, last) = motor.rated_v * _TOP_OF_RATED, motor.phi_range
    psi_shut = motor.psi.at(first)
    start = min(float(np.sqrt(max(line.static_head_m, 0.0) / psi_shut)) if psi_shut > 0.0 else top, top)
    slow_phi, slowed, start = _while_it_slows(motor, line, start, top)
    below = np.linspace(0.0, start if not slowed.size else float(slowed[0]), _BELOW, endpoint=slowed.size == 0)
    above = start + (top - start) * np.linspace(0.0, 1.0, _NODES - _BELOW) ** 2
    least = float(slow_phi[-1]) if slow_phi.size else first
    phi, at_least, at_last = _meet(motor.psi, line, PHI_AT_SPEED, above, least, last)
    flows = at_least > 0.0
    speeds = np.concatenate([below, slowed, above])
    phis = np.concatenate([np.full(below.size, first), slow_phi, phi])
    wet = np.concatenate([np.zeros(below.size), np.ones(slowed.size), np.where(flows | (slow_phi.size > 0), 1.0, 0.0)])
    held = np.concatenate([np.zeros(below.size + slowed.size), np.where((at_last > 0.0) & flows, 1.0, 0.0)])
    current = motor.no_load_a + motor.tau(phis) * speeds**2
    # As it begins to flow the motor may slow so far that its volts fall: a source of steady volts passes over that.
    volts = speeds + current * motor.resistance_ohm
    rising = np.concatenate([[True], volts[1:] > np.maximum.accumulate(volts)[:-1]])
    return speeds[rising], (wet * phis * speeds)[rising], current[rising], held[rising]


def _while_it_slows(motor: Motor, line: Line, start: float, top: float) -> tuple[Floats, Floats, float]:
    """Q/w and speeds from the first drop on while more than one flow goes with a speed, and the greatest speed there. [m3/s/V], [V], [V]

    Where head over speed squared rises from shut-off, or friction jumps as the flow turns turbulent, an end slows while it
    gives more: only Q/w tells the states apart. Nothing, and the start, where it doesn't.
    """
    nothing = np.zeros(0)
    first, last = motor.phi_range
    if first > 0.0 or not 1e-6 * top < start < top:
        return nothing, nothing, start
    most = float(_meet(motor.psi, line, PHI_AT_SPEED, np.array([top]), 0.0, last)[0][0])
    phi = most * (np.arange(1, _ON_RISE + 1) / _ON_RISE) ** 1.5
    speeds, _, _ = _meet(motor.psi, line, SPEED_AT_PHI, phi, 0.0, top * 1.0001)
    before = np.maximum.accumulate(np.concatenate([[start], speeds]))[:-1]
    slower = np.flatnonzero(speeds <= before)
    if not slower.size:
        return nothing, nothing, start
    ends = int(slower[-1]) + 1
    return phi[:ends], speeds[:ends], float(before[slower[-1]])


def _displacement_nodes(motor: Motor, line: Line, speeds: Floats) -> tuple[Floats, Floats, Floats]:
    first, last = motor.head_range
    head, at_first, at_last = _meet(motor.flow_per_speed, line, HEAD_AT_SPEED, speeds, first, last)
    too_high, below = at_last > 0.0, at_first < 0.0
    flow = np.maximum(motor.flow_per_speed(head), 0.0) * speeds
    if too_high.any():
        flow = np.where(too_high, np.minimum(flow, flow_at_last_head(motor, line)), flow)
    return flow, motor.amps_by_head(head), np.where((below | too_high) & (flow > 0.0), 1.0, 0.0)


def _meet(
    curve: MonotoneCubic, line: Line, kind: int, fixed: Floats, low: float, high: float
) -> tuple[Floats, Floats, Floats]:
    """Where an end's curve meets a line for each fixed figure, and the surplus at both ends of the search."""
    from squall.core.drive.line_kernels import meet

    knots, pieces = curve.pieces
    out = np.empty((3, fixed.size))
    meet(kind, fixed, low, high, knots, pieces, line.static_head_m, line.drawdown_s_m2, line.compiled, out)
    return out[0], out[1], out[2]


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
    above = min(int(at_source.searchsorted(open_v)), at_source.size - 1)
    low = above - 1
    share = min((open_v - float(at_source[low])) / float(at_source[above] - at_source[low]), 1.0)
    volts, amps, flow, beyond = (
        float(values[low]) + share * float(values[above] - values[low])
        for values in (table.volts_v, table.current_a, table.flow_m3_s, table.beyond)
    )
    return volts, amps, flow, beyond > 0.0


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
