"""Amps of a pump on its line against the volts across it, forwards, backwards and held: the drive model as one curve."""

from functools import cached_property, lru_cache

from squall.core.circuit.curves import UPRIGHT_OHM, Place
from squall.core.drive.motors import Motor, MotorState, flow_at_last_head, rise_limit, state_at_speed, state_on_rise
from squall.core.hydraulics.pipes import Line

# Width of the piece on which water begins while the speed stands, in the curve's own measure. [V]
_RISE_V = 1.0
_LEAST_PHI = 1e-6


class PumpCurve:
    """A motor with its end, by a parameter: its amps while it stands, then its speed in volts of back-EMF.

    Parameters
    ----------
    motor : Motor
        Motor and end.
    line : Line
        Lift and pipes.

    Notes
    -----
    Too few volts to turn: I = V/R. Backwards it gives no water and draws the amps of no flow at that size of volts, sign
    turned; a displacement end those of its least head.
    """

    def __init__(self, motor: Motor, line: Line) -> None:
        self.motor = motor
        self.line = line

    @cached_property
    def starting_a(self) -> tuple[float, float]:
        """Amps above which it turns, forwards and backwards. [A]"""
        if self.motor.kind == "centrifugal":
            return self.motor.no_load_a, self.motor.no_load_a
        return state_at_speed(self.motor, self.line, 0.0).current_a, self.motor.amps_by_head.at(
            self.motor.head_range[0]
        )

    @cached_property
    def _water(self) -> tuple[float, float, float] | None:
        """Speed at which water begins, the Q/w it settles at there, and the width given to that; None if at any speed.

        [V], [m3/s/V], [V]
        """
        motor = self.motor
        if motor.kind != "centrifugal" or motor.phi_range[0] > 0.0 or self.line.static_head_m <= 0.0:
            return None
        if motor.psi.at(0.0) <= 0.0:
            return None
        begins, settled = rise_limit(motor, self.line)
        return begins, settled, _RISE_V if settled > _LEAST_PHI * motor.phi_range[1] else 0.0

    @cached_property
    def _last_head(self) -> float | None:
        """Speed at which a displacement end comes to its last measured head; None if it never or always does. [V]"""
        motor = self.motor
        if motor.kind != "displacement":
            return None
        passes = motor.flow_per_speed.at(motor.head_range[1])
        flow = flow_at_last_head(motor, self.line)
        return flow / passes if passes > 0.0 and flow > 0.0 else None

    @property
    def start(self) -> float:
        """Most of its rated volts. [V]"""
        return self.starting_a[0] + 0.8 * self.motor.rated_v

    @cached_property
    def corners(self) -> tuple[float, ...]:
        """Where it begins to turn, either way, and where water begins. [A, V]"""
        forwards, backwards = self.starting_a
        if self._water is None:
            last = self._last_head
            return (-backwards, forwards) if last is None else (-backwards, forwards, forwards + last)
        begins, _, width = self._water
        return -backwards, forwards, forwards + begins, forwards + begins + width

    def reach(self, old: float, new: float) -> float:
        """Not over twice its rated volts further at once. [V]"""
        most = 2.0 * self.motor.rated_v
        return min(max(new, old - most), old + most)

    def state(self, s: float) -> MotorState | None:
        """What it does at a parameter; None backwards, or while it stands. [A or V]"""
        speed = s - self.starting_a[0]
        if speed <= 0.0:
            return None
        if self._water is None or speed <= self._water[0]:
            return state_at_speed(self.motor, self.line, speed)
        begins, settled, width = self._water
        if speed < begins + width:
            share = max((speed - begins) / width, _LEAST_PHI)
            return state_on_rise(self.motor, self.line, share * settled, begins)
        return state_at_speed(self.motor, self.line, speed - width)

    def at(self, s: float) -> Place:
        """Place at a parameter. [A or V]"""
        forwards, backwards = self.starting_a
        ohm = self.motor.resistance_ohm
        if -backwards <= s <= forwards:
            return Place(ohm * s, s, max(ohm, UPRIGHT_OHM), 1.0)
        if s < -backwards:
            return self._turned(-s - backwards, ohm)
        state = self.state(s)
        assert state is not None
        speed_slope, amps_slope = self._slopes(s, state)
        return Place(state.volts_v, state.current_a, speed_slope + ohm * amps_slope, amps_slope)

    def _turned(self, speed: float, ohm: float) -> Place:
        motor = self.motor
        if motor.kind == "centrifugal":
            tau = motor.tau.at(motor.phi_range[0])
            amps, slope = motor.no_load_a + tau * speed**2, 2.0 * tau * speed
        else:
            amps, slope = self.starting_a[1], 0.0
        return Place(-(speed + amps * ohm), -amps, 1.0 + ohm * slope, slope)

    def _slopes(self, s: float, state: MotorState) -> tuple[float, float]:
        """How speed and amps grow with the parameter, from the end's and the line's own slopes. [-], [A/V]"""
        if self._water is not None:
            begins, _, width = self._water
            first = self.starting_a[0] + begins
            if first < s < first + width:
                return self._by_steps(s, first, width)
        if self.motor.kind == "displacement":
            return 1.0, self._displacement_slope(state)
        return 1.0, self._centrifugal_slope(state)

    def _by_steps(self, s: float, first: float, width: float) -> tuple[float, float]:
        left, right = max(s - 1e-4, first + 1e-9), min(s + 1e-4, first + width - 1e-9)
        low, high = self.state(left), self.state(right)
        assert low is not None
        assert high is not None
        slope = (high.speed_v - low.speed_v) / (right - left)
        return slope, max((high.current_a - low.current_a) / (right - left), UPRIGHT_OHM)

    def _centrifugal_slope(self, state: MotorState) -> float:
        motor, speed = self.motor, state.speed_v
        if state.regime != "pumping":
            phi = motor.phi_range[1] if state.regime == "beyond-last-point" else motor.phi_range[0]
            return 2.0 * motor.tau.at(phi) * speed
        # Rounding may set it a hair beyond the last point, where no curve speaks.
        phi = min(max(state.flow_m3_s / speed, motor.phi_range[0]), motor.phi_range[1])
        steeper = _line_slope(self.line, state.flow_m3_s)
        by_phi = motor.psi.slope_at(phi) * speed**2 - steeper * speed
        by_speed = 2.0 * motor.psi.at(phi) * speed - steeper * phi
        phi_slope = -by_speed / by_phi if by_phi < 0.0 else 0.0
        return max(2.0 * motor.tau.at(phi) * speed + motor.tau.slope_at(phi) * speed**2 * phi_slope, 0.0)

    def _displacement_slope(self, state: MotorState) -> float:
        motor = self.motor
        if state.regime != "pumping":
            return 0.0
        low, high = motor.head_range
        head = min(max(self.line.head_m(state.flow_m3_s), low), high)
        steeper = _line_slope(self.line, state.flow_m3_s)
        falls = 1.0 - steeper * motor.flow_per_speed.slope_at(head) * state.speed_v
        head_slope = steeper * motor.flow_per_speed.at(head) / falls if falls > 0.0 else 0.0
        return max(motor.amps_by_head.slope_at(head) * head_slope, 0.0)


def _line_slope(line: Line, flow_m3_s: float) -> float:
    """How the head that a line asks grows with the flow. [m per m3/s]"""
    step = max(1e-4 * flow_m3_s, 1e-10)
    return (line.head_m(flow_m3_s + step) - line.head_m(max(flow_m3_s - step, 0.0))) / (
        flow_m3_s + step - max(flow_m3_s - step, 0.0)
    )


@lru_cache(maxsize=64)
def pump_curve(motor: Motor, line: Line) -> PumpCurve:
    """The curve of a motor on its line; the same one for the same two."""
    return PumpCurve(motor, line)
