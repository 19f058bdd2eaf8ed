"""Source, cable, motor, pump and line as one loop: what really happens.

The source's volts less the cable's drop are the motor's; the motor's speed sets head and flow;
head and flow set the current, which sets the source's volts. :func:`solve` closes that loop.
"""

from dataclasses import dataclass, replace
from functools import cached_property
from math import exp, inf

import numpy as np

from squall.core.drive.motors import Motor, MotorState, rise_limit, state_at_speed, state_on_rise, volts_to_reach
from squall.core.electrics.modules import (
    ArrayPoint,
    Diode,
    Module,
    array_point,
    diode_at,
    module_current,
    open_and_short,
)
from squall.core.errors import OutOfRange
from squall.core.hydraulics.pipes import Line
from squall.core.reason import Between, Quantity, Reason, Told
from squall.core.roots import root


@dataclass(frozen=True)
class Battery:
    """A battery as open volts behind its internal resistance. [V], [ohm]"""

    open_v: float
    internal_ohm: float

    @property
    def most_volts(self) -> float:
        """Volts with nothing connected. [V]"""
        return self.open_v

    def surplus_a(self, volts_v: float, current_a: float) -> float:
        """How much the source could give beyond this load: positive, it gives more. [A]"""
        return self.open_v - current_a * self.internal_ohm - volts_v


@dataclass(frozen=True)
class Supply:
    """A mains plug-in supply: set volts up to a current limit. [V], [A]"""

    set_v: float
    max_a: float

    @property
    def most_volts(self) -> float:
        """Volts with nothing connected. [V]"""
        return self.set_v

    def surplus_a(self, volts_v: float, current_a: float) -> float:
        """How much the source could give beyond this load: positive, it gives more. [A]"""
        return min(self.set_v - volts_v, self.max_a - current_a)


@dataclass(frozen=True)
class PvArray:
    """Like panels in series and parallel, in given light and heat.

    Attributes
    ----------
    module : Module
        One panel.
    in_series, in_parallel : int
        Panels in a string; strings.
    irradiance_w_m2 : float
        Light on the panels' plane, 0 to 1500. [W/m2]
    cell_c : float
        Cell temperature. [°C]
    """

    module: Module
    in_series: int
    in_parallel: int
    irradiance_w_m2: float
    cell_c: float

    def __post_init__(self) -> None:
        for name, count in ((Reason("modules-series"), self.in_series), (Reason("strings-parallel"), self.in_parallel)):
            if not 1 <= count <= 100:
                raise OutOfRange(name, count, Between(1, 100, "number"))

    @cached_property
    def diode(self) -> Diode:
        """One module's diode here and now."""
        return diode_at(self.module, np.array([self.irradiance_w_m2]), np.array([self.cell_c]))

    @cached_property
    def point(self) -> ArrayPoint:
        """Marked points of the array's curve."""
        if self.irradiance_w_m2 <= 0.0:
            return ArrayPoint(0.0, 0.0, 0.0, 0.0, 0.0)
        return array_point(self.diode, self.in_series, self.in_parallel)[0]

    @cached_property
    def most_volts(self) -> float:
        """Volts with nothing connected. [V]"""
        return 0.0 if self.irradiance_w_m2 <= 0.0 else float(open_and_short(self.diode)[0][0]) * self.in_series

    @cached_property
    def short_a(self) -> float:
        """Amps with its leads joined. [A]"""
        return 0.0 if self.irradiance_w_m2 <= 0.0 else float(open_and_short(self.diode)[1][0]) * self.in_parallel

    def current_a(self, volts_v: float) -> float:
        """Current of the array at given volts. [A]"""
        if self.irradiance_w_m2 <= 0.0:
            return 0.0
        return float(module_current(np.array([volts_v / self.in_series]), self.diode)[0]) * self.in_parallel

    def surplus_a(self, volts_v: float, current_a: float) -> float:
        """How much the source could give beyond this load: positive, it gives more. [A]

        The diode's equation at the load's own volts and amps, for one module: nil on the curve,
        positive inside it, and finite however far outside.
        """
        d = self.diode
        amps = current_a / self.in_parallel
        junction = volts_v / self.in_series + amps * float(d.series_ohm[0])
        grown = float(d.saturation_current_a[0]) * (exp(min(junction / float(d.ideality_v[0]), 200.0)) - 1.0)
        return float(d.light_current_a[0]) - grown - junction / float(d.shunt_ohm[0]) - amps


@dataclass(frozen=True)
class PvController:
    """An array behind a pump controller that holds it at its maximum power.

    Attributes
    ----------
    array : PvArray
        The panels.
    efficiency : float
        Output power over the array's maximum power, above 0 to 1. [-]
    min_v, max_v : float
        Window of array volts in which it works. [V]
    out_max_v : float
        Most volts it gives to the motor. [V]
    array_ohm, most_w : float
        Of the cable from the array to it, there and back; most that its output gives, whatever the light. [ohm], [W]
    """

    array: PvArray
    efficiency: float
    min_v: float
    max_v: float
    out_max_v: float
    array_ohm: float = 0.0
    most_w: float = inf

    def __post_init__(self) -> None:
        if not 0.0 < self.efficiency <= 1.0:
            raise OutOfRange("controller-efficiency", self.efficiency, Reason("more-than-nothing-up-to", most=1.0))

    @property
    def most_volts(self) -> float:
        """Volts with nothing connected. [V]"""
        return self.out_max_v

    @property
    def power_w(self) -> float:
        """Power at its output when tracking. [W]"""
        point = self.array.point
        return min(self.efficiency * max(point.pmp_w - point.imp_a**2 * self.array_ohm, 0.0), self.most_w)

    def refusal(self) -> Reason | None:
        """Why it would not run in this light, if so."""
        point = self.array.point
        if point.voc_v > self.max_v:
            return Reason("arrays-open-volts-over-controllers-limit", voc=point.voc_v, max=self.max_v)
        if point.vmp_v < self.min_v:
            return Reason("array-works-controller-needs-least", vmp=point.vmp_v, min=self.min_v)
        return None

    def surplus_a(self, volts_v: float, current_a: float) -> float:
        """How much the source could give beyond this load: positive, it gives more. [A]"""
        return min(self.out_max_v - volts_v, (self.power_w - volts_v * current_a) / self.out_max_v)


Source = Battery | Supply | PvArray | PvController


@dataclass(frozen=True)
class DriveResult:
    """What the whole loop does.

    Attributes
    ----------
    flows : bool
        Whether water comes out.
    flow_m3_s, head_m : float or None
        None where the measured points promise nothing. [m3/s], [m]
    motor_v, motor_a : float
        At the motor's terminals. [V], [A]
    source_v, source_w : float
        At the source's terminals. [V], [W]
    regime : str
        As :class:`squall.core.drive.motors.MotorState`, or ``dark``, ``out-of-window``.
    why_not : str or None
        A sentence when no flow can be stated.
    flow_at_least_m3_s : float or None
        Beyond the last point: the flow up to which the curve speaks. [m3/s]
    over_max_v : bool
        The motor gets more volts than its maker allows.
    """

    flows: bool
    flow_m3_s: float | None
    head_m: float | None
    motor_v: float
    motor_a: float
    source_v: float
    source_w: float
    regime: str
    why_not: Told | None = None
    flow_at_least_m3_s: float | None = None
    over_max_v: bool = False


def solve(source: Source, cable_ohm: float, motor: Motor, line: Line) -> DriveResult:
    """Close the loop of source, cable, motor, pump and line.

    Parameters
    ----------
    source : Source
        Battery, supply, array, or array with controller.
    cable_ohm : float
        Cable resistance there and back, 0 or more. [ohm]
    motor : Motor
        Motor with its pump end.
    line : Line
        Lift and pipes.

    Returns
    -------
    DriveResult
        Volts, amps, flow, head, or why there is none.

    Raises
    ------
    OutOfRange
        If the cable's resistance is negative.

    Notes
    -----
    The one unknown is the speed w. The source's surplus over the load that w asks for falls
    as w grows, so the crossing is bracketed by standstill and the source's open volts.
    A controller's output power is its efficiency times the array's maximum power; the cable
    to the motor comes off that.
    """
    if cable_ohm < 0.0:
        raise OutOfRange("cable-resistance", Quantity(cable_ohm, "ohms"), Between(0.0, None, "ohms"))
    if isinstance(source, PvController):
        refusal = source.refusal()
        if refusal is not None:
            regime = "dark" if source.array.irradiance_w_m2 <= 0.0 else "out-of-window"
            return DriveResult(False, 0.0, None, 0.0, 0.0, 0.0, 0.0, regime, Reason("said-as-sentence", said=refusal))
    if isinstance(source, PvArray) and source.irradiance_w_m2 <= 0.0:
        return DriveResult(False, 0.0, None, 0.0, 0.0, 0.0, 0.0, "dark", Reason("there-no-light-panel"))

    def surplus(speed_v: float) -> float:
        state = state_at_speed(motor, line, speed_v)
        return source.surplus_a(state.volts_v + state.current_a * cable_ohm, state.current_a)

    if surplus(0.0) <= 0.0:
        return _stalled(source, cable_ohm, motor, line)
    speed = root(surplus, 0.0, source.most_volts + 1e-9)
    state = state_at_speed(motor, line, speed)
    if state.regime in ("no-flow", "pumping") and surplus(speed * (1.0 - 1e-9)) > 1e-6 > -1e-6 > surplus(
        speed * (1.0 + 1e-9)
    ):
        state = _on_the_rise(source, cable_ohm, motor, line) or state
    return _result(motor, line, state, cable_ohm)


def _on_the_rise(source: Source, cable_ohm: float, motor: Motor, line: Line) -> MotorState | None:
    """State between shut-off and the first settled flow, where the load jumps with the speed; None if there is no such."""
    if motor.kind != "centrifugal" or motor.phi_range[0] > 0.0 or line.static_head_m <= 0.0:
        return None
    start, settled = rise_limit(motor, line)
    if settled <= 0.0:
        return None

    def surplus(phi: float) -> float:
        state = state_on_rise(motor, line, phi, start)
        return source.surplus_a(state.volts_v + state.current_a * cable_ohm, state.current_a)

    low = 1e-6 * settled
    if surplus(low) <= 0.0 or surplus(settled) >= 0.0:
        return None
    return state_on_rise(motor, line, root(surplus, low, settled), start)


def _stalled(source: Source, cable_ohm: float, motor: Motor, line: Line) -> DriveResult:
    needed = state_at_speed(motor, line, 0.0).current_a
    loop = cable_ohm + motor.resistance_ohm

    def surplus(current_a: float) -> float:
        return source.surplus_a(current_a * loop, current_a)

    current = 0.0 if surplus(0.0) <= 0.0 else root(surplus, 0.0, needed)
    volts = current * motor.resistance_ohm
    source_v = volts + current * cable_ohm
    why = Reason("motor-stands-still-source-can-push", current=current, needed=needed)
    return DriveResult(False, 0.0, None, volts, current, source_v, source_v * current, "stalled", why)


def _result(motor: Motor, line: Line, state: MotorState, cable_ohm: float) -> DriveResult:
    source_v = state.volts_v + state.current_a * cable_ohm
    flows = state.regime in ("pumping", "beyond-last-point") and state.flow_m3_s > 0.0
    if motor.kind == "displacement":
        flows = state.flow_m3_s > 0.0
    pumping = state.regime == "pumping"
    # A displacement end driven beyond its last head still gives what passes at that head.
    held = motor.kind == "displacement" and state.regime == "beyond-last-point" and flows
    unknown = state.regime in ("beyond-last-point", "before-first-point") and not held
    return DriveResult(
        flows=flows,
        flow_m3_s=None if unknown else state.flow_m3_s,
        head_m=line.head_m(state.flow_m3_s) if pumping or held else None,
        motor_v=state.volts_v,
        motor_a=state.current_a,
        source_v=source_v,
        source_w=source_v * state.current_a,
        regime=state.regime,
        why_not=_why_not(motor, line, state),
        flow_at_least_m3_s=state.flow_m3_s if unknown and flows else None,
        over_max_v=motor.max_v is not None and state.volts_v > motor.max_v,
    )


def _why_not(motor: Motor, line: Line, state: MotorState) -> Reason | None:
    if state.regime == "pumping":
        return None
    if state.regime == "no-flow":
        reached = motor.psi.at(0.0) * state.speed_v**2
        need = volts_to_reach(motor, line.static_head_m)
        more = Reason("would-take-volts", need=need) if need is not None else ""
        return Reason(
            "pump-reaches-lift-more",
            volts=state.volts_v,
            reached=reached,
            static_head=line.static_head_m,
            missing=line.static_head_m - reached,
            more=more,
        )
    if motor.kind == "displacement" and state.regime == "beyond-last-point":
        return Reason("line-asks-more-than-last-point", head_range=motor.head_range[1])
    if state.regime == "beyond-last-point":
        return Reason("pump-would-give-more-than-last", flow=state.flow_m3_s)
    return Reason("line-works-below-first-point-measured")


FULL_LIGHT_W_M2 = 1500.0


def start_irradiance(
    source: PvArray | PvController, cable_ohm: float, motor: Motor, line: Line
) -> tuple[float | None, Told | None]:
    """Least light at which water arrives.

    Parameters
    ----------
    source : PvArray or PvController
        Its own light is not counted; its cell temperature is.
    cable_ohm, motor, line
        As :func:`solve`.

    Returns
    -------
    tuple
        Light to within 0.01, or None; and why there is none even in 1500 W/m2. [W/m2]

    Notes
    -----
    More light never stops the water while the array is within its controller's window, so the
    light is found by halving.
    """

    def at(light: float) -> DriveResult:
        if isinstance(source, PvArray):
            return solve(replace(source, irradiance_w_m2=light), cable_ohm, motor, line)
        return solve(replace(source, array=replace(source.array, irradiance_w_m2=light)), cable_ohm, motor, line)

    full = at(FULL_LIGHT_W_M2)
    if not full.flows:
        return None, full.why_not or Reason("no-water-comes-any-light")
    low, high = 0.0, FULL_LIGHT_W_M2
    while high - low > 0.01:
        middle = 0.5 * (low + high)
        low, high = (low, middle) if at(middle).flows else (middle, high)
    return high, None
