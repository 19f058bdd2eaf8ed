"""Volts against amps of each kind of part, drawn by one rising parameter.

A part's volts and amps (from its first node to its second) both rise, or stay, with its parameter `s`. So an upright piece (a
supply at its set volts), a level one (a supply at its limit) and an exponential are all finite, and Newton's method can
walk along each in its own measure.
"""

from dataclasses import dataclass, field
from math import exp, expm1, inf, log, log1p
from typing import Protocol

from squall.core.drive.solve import PvArray

# Slope of an upright piece, in the walk only: two of them side by side would leave the walk without direction. [ohm]
UPRIGHT_OHM = 1e-6
# And of a level piece: two of them in a row would share their volts anyhow. [A/V]
LEVEL_A_PER_V = 1e-9
# Over this an exponential's argument isn't followed: e^250 amps are nobody's.
_STEEPEST = 250.0


@dataclass(frozen=True, slots=True)
class Place:
    """A place on a curve: volts, amps, and how they grow with the parameter. [V], [A], [V], [A]"""

    volts_v: float
    amps_a: float
    volts_slope: float
    amps_slope: float


class Curve(Protocol):
    """Volts and amps along one parameter."""

    @property
    def start(self) -> float:
        """Where a walk begins. [as its parameter]"""
        ...

    @property
    def corners(self) -> tuple[float, ...]:
        """Where it changes direction; a walk stops there and looks anew. [as its parameter]"""
        ...

    def at(self, s: float) -> Place:
        """Place at a parameter. [as its parameter]"""
        ...

    def reach(self, old: float, new: float) -> float:
        """How far a walk may go at once. [as its parameter]"""
        ...


@dataclass(frozen=True)
class Straight:
    """volts = emf + ohm x amps: cable, battery, coil, meter. [V], [ohm]"""

    emf_v: float
    ohm: float


def _rising(old: float, new: float, slope: float, knee: float) -> float:
    """Where an exponential rises, only as far as its current grows some twenty times: a step in its logarithm."""
    if new <= max(old, knee):
        return new
    begin = max(old, knee)
    return begin + slope * log1p((new - begin) / slope)


@dataclass(frozen=True)
class DiodeCurve:
    """A diode; the parameter is its volts. [A], [V]"""

    saturation_a: float
    slope_v: float
    start: float = 0.0
    corners: tuple[float, ...] = ()

    def at(self, s: float) -> Place:
        """Place at given volts. [V]"""
        argument = min(s / self.slope_v, _STEEPEST)
        return Place(s, self.saturation_a * expm1(argument), 1.0, self.saturation_a * exp(argument) / self.slope_v)

    def reach(self, old: float, new: float) -> float:
        """Less the steeper. [V]"""
        return _rising(old, new, self.slope_v, self.slope_v * log(1e-3 / self.saturation_a + 1.0))


@dataclass(frozen=True, eq=False)
class PanelCurve:
    """Like panels in series and parallel; the parameter is one panel's junction volts, so nothing is solved within. [V]"""

    array: PvArray
    corners: tuple[float, ...] = ()
    diode: tuple[float, float, float, float, float] = field(init=False)

    def __post_init__(self) -> None:
        d = self.array.diode
        shunt, light = float(d.shunt_ohm[0]), float(d.light_current_a[0])
        if self.array.irradiance_w_m2 <= 0.0:
            light, shunt = 0.0, inf
        series, saturation, slope = float(d.series_ohm[0]), float(d.saturation_current_a[0]), float(d.ideality_v[0])
        object.__setattr__(self, "diode", (light, saturation, series, shunt, slope))

    @property
    def start(self) -> float:
        """A little under the open volts. [V]"""
        light, saturation, _, _, slope = self.diode
        return 0.85 * slope * log1p(light / saturation)

    def at(self, s: float) -> Place:
        """Place at given junction volts. [V]"""
        light, saturation, series, shunt, slope = self.diode
        argument = min(s / slope, _STEEPEST)
        given = light - saturation * expm1(argument) - s / shunt
        steep = saturation * exp(argument) / slope + 1.0 / shunt
        in_series, in_parallel = self.array.in_series, self.array.in_parallel
        return Place(
            in_series * (s - given * series),
            -in_parallel * given,
            in_series * (1.0 + series * steep),
            in_parallel * steep,
        )

    def reach(self, old: float, new: float) -> float:
        """Less the steeper. [V]"""
        light, saturation, _, _, slope = self.diode
        return _rising(old, new, slope, slope * log1p(max(light, 1e-3) / saturation))


@dataclass(frozen=True)
class SupplyCurve:
    """Set volts down to a limit of amps given out; nothing is taken back. [V], [A]"""

    set_v: float
    most_a: float

    @property
    def start(self) -> float:
        """Half the limit. [A]"""
        return -0.5 * self.most_a

    @property
    def corners(self) -> tuple[float, ...]:
        """At the limit, and at nothing. [A]"""
        return -self.most_a, 0.0

    def at(self, s: float) -> Place:
        """Place at amps while upright, at volts beyond. [A or V]"""
        if s < -self.most_a:
            return Place(self.set_v + (s + self.most_a), -self.most_a, 1.0, LEVEL_A_PER_V)
        if s > 0.0:
            return Place(self.set_v + s, 0.0, 1.0, LEVEL_A_PER_V)
        return Place(self.set_v, s, UPRIGHT_OHM, 1.0)

    def reach(self, old: float, new: float) -> float:
        """Anywhere. [A or V]"""
        return new


@dataclass(frozen=True)
class PowerCurve:
    """A controller's output: the same watts at any amps, up to its most volts; nothing is taken back. [W], [V]"""

    watts: float
    most_v: float

    @property
    def start(self) -> float:
        """Where the volts begin to fall. [A]"""
        return -self.watts / self.most_v

    @property
    def corners(self) -> tuple[float, ...]:
        """Where the volts begin to fall, and at nothing. [A]"""
        return -self.watts / self.most_v, 0.0

    def at(self, s: float) -> Place:
        """Place at amps, at volts beyond nothing. [A or V]"""
        if s > 0.0:
            return Place(self.most_v + s, 0.0, 1.0, LEVEL_A_PER_V)
        if s >= -self.watts / self.most_v:
            return Place(self.most_v, s, UPRIGHT_OHM, 1.0)
        return Place(self.watts / -s, s, self.watts / s**2, 1.0)

    def reach(self, old: float, new: float) -> float:
        """At most to twice the amps, or to half: a hyperbola is straight only nearby. [A]"""
        if old < 0.0:
            return max(new, 2.0 * old)
        return new
