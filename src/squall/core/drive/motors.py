"""A DC motor with its pump end, at any volts: the drive model.

Speed is measured in volts of back-EMF, w = V - I R. From the points measured at rated volts
the end's own dimensionless curves follow, and from them its behaviour at any other volts:

* **centrifugal**: Q/w, H/w^2 and (I - I0)/w^2 belong together, whatever the speed (affinity);
* **displacement**: Q/w and I depend on the head alone.

Between measured points a monotone cubic is drawn in those variables. Outside them nothing is
promised, and every answer says so.
"""

import itertools
from dataclasses import dataclass
from functools import cached_property
from math import inf, isfinite, sqrt
from typing import Literal

from squall.core.errors import BadCurve, OutOfRange
from squall.core.hydraulics.curves import MonotoneCubic, PumpCurve, check_curve
from squall.core.hydraulics.pipes import Line
from squall.core.reason import Between, Quantity, Reason
from squall.core.roots import root

Kind = Literal["centrifugal", "displacement"]
Regime = Literal["pumping", "no-flow", "beyond-last-point", "before-first-point", "stalled"]


@dataclass(frozen=True)
class Motor:
    """A motor and its pump end as one thing with points measured at rated volts.

    Attributes
    ----------
    kind : str
        ``centrifugal`` or ``displacement``.
    rated_v : float
        Volts at which the points were measured. [V]
    points : tuple[tuple[float, float, float], ...]
        (flow [m3/s], head [m], current [A]).
    resistance_ohm : float
        Winding and brushes. [ohm]
    no_load_a : float
        Current when turning free. [A]
    max_v : float or None
        Most volts the maker allows. [V]
    """

    kind: Kind
    rated_v: float
    points: tuple[tuple[float, float, float], ...]
    resistance_ohm: float
    no_load_a: float
    max_v: float | None = None

    def __post_init__(self) -> None:
        ordered = tuple(sorted(self.points))
        object.__setattr__(self, "points", ordered)
        if self.kind == "centrifugal":
            check_curve(tuple((q, h) for q, h, _ in ordered))
        else:
            self._check_displacement()
        if not 0.0 < self.rated_v <= 400.0:
            raise OutOfRange("rated-volts", Quantity(self.rated_v, "volts"), Between(0.0, 400.0, "volts"))
        if self.resistance_ohm < 0.0:
            raise OutOfRange("motor-resistance", Quantity(self.resistance_ohm, "ohms"), Between(0.0, None, "ohms"))
        if self.no_load_a < 0.0:
            raise OutOfRange("no-load-current", Quantity(self.no_load_a, "amps"), Between(0.0, None, "amps"))
        for _, head, amps in ordered:
            if amps < self.no_load_a:
                raise BadCurve(Reason("pump-draws-less-than-no-load", head=head, amps=amps, no_load=self.no_load_a))
            if self.rated_v - amps * self.resistance_ohm <= 0.0:
                raise BadCurve(
                    Reason(
                        "windings-would-take-all-resistance-current",
                        amps=amps,
                        resistance=self.resistance_ohm,
                        rated=self.rated_v,
                    )
                )

    def _check_displacement(self) -> None:
        by_head = sorted(self.points, key=lambda point: point[1])
        if len(by_head) < 2:
            raise BadCurve(Reason("pump-curve-needs-least-two-points"))
        if any(q < 0.0 or h < 0.0 for q, h, _ in by_head):
            raise BadCurve(Reason("flow-head-every-point-must-or"))
        for (q1, h1, i1), (q2, h2, i2) in itertools.pairwise(by_head):
            if h1 == h2:
                raise BadCurve(Reason("two-flows-given-displacement-pump-has", h1=h1))
            if q2 > q1:
                raise BadCurve(Reason("flow-grows-head-from-two-figures", q1=q1, h1=h1, q2=q2, h2=h2))
            if i2 < i1:
                raise BadCurve(Reason("current-falls-from-displacement-pump-draws", i1=i1, h1=h1, i2=i2, h2=h2))

    @cached_property
    def speeds(self) -> list[float]:
        """Speed at each point, by its back-EMF. [V]"""
        return [self.rated_v - amps * self.resistance_ohm for _, _, amps in self.points]

    @cached_property
    def psi(self) -> MonotoneCubic:
        """H/w^2 over Q/w (centrifugal). [m/V2] over [m3/s/V]"""
        return self._over_phi([h / w**2 for (_, h, _), w in zip(self.points, self.speeds, strict=True)])

    @cached_property
    def tau(self) -> MonotoneCubic:
        """(I - I0)/w^2 over Q/w (centrifugal). [A/V2] over [m3/s/V]"""
        return self._over_phi(
            [(i - self.no_load_a) / w**2 for (_, _, i), w in zip(self.points, self.speeds, strict=True)]
        )

    def _over_phi(self, values: list[float]) -> MonotoneCubic:
        phis = [q / w for (q, _, _), w in zip(self.points, self.speeds, strict=True)]
        if any(b <= a for a, b in itertools.pairwise(phis)):
            raise BadCurve(Reason("points-contradict-one-another-once-windings"))
        return MonotoneCubic(phis, values)

    @cached_property
    def phi_range(self) -> tuple[float, float]:
        """Least and greatest Q/w that was measured. [m3/s/V]"""
        return self.psi.ends

    @cached_property
    def flow_per_speed(self) -> MonotoneCubic:
        """Q/w over head (displacement). [m3/s/V] over [m]"""
        return self._over_head([q / w for (q, _, _), w in zip(self.points, self.speeds, strict=True)])

    @cached_property
    def amps_by_head(self) -> MonotoneCubic:
        """I over head (displacement). [A] over [m]"""
        return self._over_head([i for _, _, i in self.points])

    def _over_head(self, values: list[float]) -> MonotoneCubic:
        rows = sorted((h, value) for (_, h, _), value in zip(self.points, values, strict=True))
        return MonotoneCubic([h for h, _ in rows], [value for _, value in rows])

    @cached_property
    def head_range(self) -> tuple[float, float]:
        """Least and greatest head that was measured. [m]"""
        heads = [h for _, h, _ in self.points]
        return min(heads), max(heads)

    @property
    def rated_curve(self) -> PumpCurve:
        """Head over flow at rated volts."""
        return PumpCurve(tuple((q, h) for q, h, _ in self.points))


def curve_at(motor: Motor, volts: float) -> PumpCurve:
    """Head over flow at any volts on the terminals.

    Parameters
    ----------
    motor : Motor
        The motor with its end.
    volts : float
        Above 0. [V]

    Returns
    -------
    PumpCurve
        Through the measured points moved to those volts: at its own volts, those points.

    Raises
    ------
    BadCurve
        If at such low volts fewer than two points are left.

    Notes
    -----
    Centrifugal: each point keeps phi, psi and tau, and w follows from V = w + (I0 + tau w^2) R.
    Displacement: each keeps its head and amps, and w = V - I R.
    """
    ohm, points = motor.resistance_ohm, []
    for (flow, head, amps), rated_w in zip(motor.points, motor.speeds, strict=True):
        if motor.kind == "displacement":
            speed = volts - amps * ohm
            if speed > 0.0:
                points.append((flow / rated_w * speed, head))
            continue
        speed = _speed_at(motor, volts, amps, rated_w)
        if speed > 0.0:
            points.append((flow / rated_w * speed, head * (speed / rated_w) ** 2))
    return PumpCurve(tuple(points))


def _speed_at(motor: Motor, volts: float, amps: float, rated_w: float) -> float:
    """Speed at which a point of a centrifugal end stands at given volts; 0 where it does not turn. [V]"""
    ohm = motor.resistance_ohm
    spare, slope = volts - motor.no_load_a * ohm, (amps - motor.no_load_a) / rated_w**2 * ohm
    if spare <= 0.0:
        return 0.0
    return (sqrt(1.0 + 4.0 * slope * spare) - 1.0) / (2.0 * slope) if slope > 0.0 else spare


def shut_off_head(motor: Motor, volts: float) -> float:
    """Head of a motor's first point, that of least flow, at any volts; the last measured one of a displacement end. [V], [m]"""
    if motor.kind == "displacement":
        return motor.head_range[1]
    (_, head, amps), rated_w = motor.points[0], motor.speeds[0]
    return head * (_speed_at(motor, volts, amps, rated_w) / rated_w) ** 2


@dataclass(frozen=True)
class MotorState:
    """What the motor does at one speed on one line.

    Attributes
    ----------
    speed_v : float
        Back-EMF. [V]
    flow_m3_s : float
        Flow; at ``beyond-last-point`` the flow up to which the curve speaks. [m3/s]
    current_a, volts_v : float
        At the motor's terminals. [A], [V]
    regime : str
        ``pumping``; ``no-flow`` (turns, can't reach the lift); ``beyond-last-point`` or
        ``before-first-point`` (outside the measured points); ``stalled``.
    """

    speed_v: float
    flow_m3_s: float
    current_a: float
    volts_v: float
    regime: Regime


def state_at_speed(motor: Motor, line: Line, speed_v: float) -> MotorState:
    """State of motor, end and line at one speed.

    Parameters
    ----------
    motor : Motor
        The motor with its end.
    line : Line
        Lift and pipes.
    speed_v : float
        Back-EMF, 0 or more. [V]

    Returns
    -------
    MotorState
        Flow, current and terminal volts.
    """
    if motor.kind == "centrifugal":
        return _centrifugal(motor, line, speed_v)
    return _displacement(motor, line, speed_v)


def _state(motor: Motor, speed_v: float, flow_m3_s: float, current_a: float, regime: Regime) -> MotorState:
    return MotorState(speed_v, flow_m3_s, current_a, speed_v + current_a * motor.resistance_ohm, regime)


def _centrifugal(motor: Motor, line: Line, speed_v: float) -> MotorState:
    low, high = motor.phi_range

    def surplus(phi: float) -> float:
        return motor.psi.at(phi) * speed_v**2 - line.head_m(phi * speed_v)

    regime: Regime
    if surplus(low) <= 0.0:
        phi, regime = low, "no-flow" if low == 0.0 else "before-first-point"
    elif surplus(high) > 0.0:
        phi, regime = high, "beyond-last-point"
    else:
        phi, regime = root(surplus, low, high), "pumping"
    current = motor.no_load_a + motor.tau.at(phi) * speed_v**2
    flow = 0.0 if regime in ("no-flow", "before-first-point") else phi * speed_v
    return _state(motor, speed_v, flow, current, regime)


def rise_limit(motor: Motor, line: Line) -> tuple[float, float]:
    """Where a centrifugal end begins to flow, and the flow it settles at there.

    Parameters
    ----------
    motor : Motor
        Centrifugal, with a point at no flow.
    line : Line
        Lift and pipes.

    Returns
    -------
    tuple[float, float]
        The speed w at which it reaches the lift [V], and the Q/w at which it meets the line just
        above that speed [m3/s/V]: more than 0 where psi rises from shut-off before it falls.
    """
    speed = sqrt(line.static_head_m / motor.psi.at(0.0)) * (1.0 + 1e-9)
    state = _centrifugal(motor, line, speed)
    return speed, min(state.flow_m3_s / speed, motor.phi_range[1])


def state_on_rise(motor: Motor, line: Line, phi: float, most_speed_v: float) -> MotorState:
    """State at a given Q/w [m3/s/V] between shut-off and :func:`rise_limit`, at whatever speed meets the line there.

    As flow begins the motor slows; where psi rises from shut-off the speed alone doesn't tell how
    much flows, but Q/w does.
    """

    def surplus(speed_v: float) -> float:
        return motor.psi.at(phi) * speed_v**2 - line.head_m(phi * speed_v)

    speed = root(surplus, 0.0, 2.0 * most_speed_v)
    current = motor.no_load_a + motor.tau.at(phi) * speed**2
    return _state(motor, speed, phi * speed, current, "pumping")


def _displacement(motor: Motor, line: Line, speed_v: float) -> MotorState:
    low, high = motor.head_range

    def surplus(head: float) -> float:
        return head - line.head_m(motor.flow_per_speed.at(head) * speed_v)

    regime: Regime
    if surplus(high) < 0.0:
        head, regime = high, "beyond-last-point"
    elif surplus(low) > 0.0:
        head, regime = low, "before-first-point"
    else:
        head, regime = root(surplus, low, high), "pumping"
    flow = max(motor.flow_per_speed.at(head), 0.0) * speed_v
    if regime == "beyond-last-point":
        flow = min(flow, flow_at_last_head(motor, line))
    return _state(motor, speed_v, flow, motor.amps_by_head.at(head), regime)


def flow_at_last_head(motor: Motor, line: Line) -> float:
    """Flow at which a line asks a displacement end's last measured head of it; 0 where the lift alone asks more. [m3/s]

    Such an end pushes on beyond its last point, at a pressure nobody measured. Of its flow no more is promised than passes
    at the last one: running faster never gives less.
    """
    _, most = motor.head_range
    if line.head_m(0.0) >= most:
        return 0.0
    high = max(motor.flow_per_speed.at(most), 1e-9) * motor.rated_v
    while line.head_m(high) < most:
        high *= 2.0
        if high > 1.0:
            return high
    return root(lambda flow: line.head_m(flow) - most, 0.0, high)


def volts_to_reach(motor: Motor, static_head_m: float) -> float | None:
    """Terminal volts at which the first water comes over the top.

    Parameters
    ----------
    motor : Motor
        The motor with its end.
    static_head_m : float
        Lift to the outlet. [m]

    Returns
    -------
    float or None
        None where the measured points don't say. [V]

    Notes
    -----
    Centrifugal: psi(0) w^2 = H. Displacement: any speed will do once I(H) flows.
    """
    if motor.kind == "centrifugal":
        low, _ = motor.phi_range
        if low > 0.0:
            return None
        speed = sqrt(max(static_head_m, 0.0) / motor.psi.at(0.0)) if motor.psi.at(0.0) > 0.0 else inf
        if not isfinite(speed):
            return None
        return float(speed + (motor.no_load_a + motor.tau.at(0.0) * speed**2) * motor.resistance_ohm)
    low_head, high_head = motor.head_range
    if not low_head <= static_head_m <= high_head:
        return None
    return motor.amps_by_head.at(static_head_m) * motor.resistance_ohm
