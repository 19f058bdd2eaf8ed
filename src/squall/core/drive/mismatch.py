"""Panels that are not alike, or not alike lit: the exact curve of a string and of an array, and what a pump gets from it.

A string's volts are the sum of its modules' at one current; an array's amps the sum of its strings'
at one voltage. A bypass diode takes the current round a module that would be driven backwards.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from squall.core.drive.tables import LoadTable
from squall.core.electrics.modules import STC_CELL_C, STC_IRRADIANCE_W_M2, Module, diode_at, fit_module
from squall.core.errors import OutOfRange
from squall.core.reason import Reason

Floats = NDArray[np.float64]
# A bypass diode conducts at this; without one a shaded module is driven back to this at most: guesses. [V]
BYPASS_V = -0.5
BACKWARD_V = -15.0
_POINTS = 400


@dataclass(frozen=True)
class LitModule:
    """One module of a string: its nameplate, light [W/m2], cell temperature [°C], and whether it has bypass diodes."""

    module: Module
    irradiance_w_m2: float
    cell_c: float
    bypass: bool = True


@dataclass(frozen=True, eq=False)
class MixedCurve:
    """Amps against rising volts of an array, and its marked points."""

    volts_v: Floats
    amps_a: Floats

    @property
    def best(self) -> tuple[float, float]:
        """Volts and amps at which it gives the most power. [V], [A]"""
        place = int(np.argmax(self.volts_v * self.amps_a))
        return float(self.volts_v[place]), float(self.amps_a[place])

    @property
    def most_w(self) -> float:
        """Most power. [W]"""
        return float(np.max(self.volts_v * self.amps_a))

    @property
    def open_v(self) -> float:
        """Open volts. [V]"""
        return float(np.interp(0.0, self.amps_a[::-1], self.volts_v[::-1]))

    @property
    def short_a(self) -> float:
        """Short-circuit amps. [A]"""
        return float(self.amps_a[0])

    @property
    def peaks(self) -> int:
        """How many tops its power has: more than one misleads a controller that looks for the top."""
        power = self.volts_v * self.amps_a
        inner = power[1:-1]
        tops = (inner > power[:-2]) & (inner >= power[2:]) & (inner > 0.05 * power.max())
        return int(tops.sum())


def module_volts(lit: LitModule, amps_a: Floats) -> Floats:
    """Volts of one module at given amps, backwards too. [V]

    Parameters
    ----------
    lit : LitModule
        The module.
    amps_a : NDArray
        0 or more. [A]

    Notes
    -----
    With the junction's voltage x: I = IL - I0 (e^(x/a) - 1) - x/Rsh falls with x, so x is found by
    halving; V = x - I Rs, not under the bypass diode's.
    """
    dark = lit.irradiance_w_m2 <= 0.0
    d = diode_at(lit.module, np.array([max(lit.irradiance_w_m2, 1.0)]), np.array([lit.cell_c]))
    light, i0, rs, rp, a = (
        float(v[0]) for v in (d.light_current_a, d.saturation_current_a, d.series_ohm, d.shunt_ohm, d.ideality_v)
    )
    if dark:
        light = 0.0
    low = np.full(amps_a.shape, BACKWARD_V * 4.0)
    high = np.full(amps_a.shape, a * np.log(light / i0 + 1.0) + 1e-9)
    for _ in range(60):
        x = 0.5 * (low + high)
        left = light - i0 * np.expm1(np.minimum(x / a, 500.0)) - x / rp - amps_a
        low, high = np.where(left > 0.0, x, low), np.where(left > 0.0, high, x)
    volts = 0.5 * (low + high) - amps_a * rs
    floor: Floats = np.maximum(volts, BYPASS_V if lit.bypass else BACKWARD_V)
    return floor


def array_curve(strings: Sequence[Sequence[LitModule]]) -> MixedCurve:
    """The curve of strings in parallel, each of modules in series.

    Parameters
    ----------
    strings : sequence of sequences of LitModule
        At least one, none empty.

    Returns
    -------
    MixedCurve
        From nil volts up to the highest open volts. A string may be driven backwards by another:
        its amps are then negative and taken from the sum.
    """
    if not strings or any(not string for string in strings):
        raise OutOfRange("strings", len(strings), Reason("least-one-none-them-empty"))
    curves = [_string_curve(string) for string in strings]
    top = max(float(volts.max()) for volts, _ in curves)
    grid = np.linspace(0.0, max(top, 1e-6), _POINTS)
    total = np.zeros(_POINTS)
    for volts, amps in curves:
        order = np.argsort(volts)
        total += np.interp(grid, volts[order], amps[order])
    return MixedCurve(grid, total)


def _string_curve(string: Sequence[LitModule]) -> tuple[Floats, Floats]:
    """Volts and amps of one string, from backward amps to its strongest module's short circuit."""
    most = max(lit.module.isc_a * max(lit.irradiance_w_m2, 1.0) / 1000.0 * 1.05 for lit in string)
    share = np.linspace(0.0, 1.0, _POINTS)
    amps = most * np.concatenate([-0.5 * share[:0:-1] ** 2, 1.0 - (1.0 - share) ** 2])
    volts = np.zeros(amps.shape)
    for lit in string:
        volts += module_volts(lit, amps)
    return volts, amps


@dataclass(frozen=True)
class Met:
    """What a motor makes of an array: volts and amps at the motor, and flow. [V], [A], [m3/s]"""

    motor_v: float
    motor_a: float
    flow_m3_s: float


def meet(table: LoadTable, cable_ohm: float, curve: MixedCurve) -> Met:
    """Where a motor on its line and an array's curve agree, the cable between.

    Parameters
    ----------
    table : LoadTable
        Motor on its line.
    cable_ohm : float
        There and back. [ohm]
    curve : MixedCurve
        The array.

    Notes
    -----
    Where a curve of steps meets the load more than once, the lowest crossing is taken: the motor
    starts from standstill.
    """
    at_source = table.volts_v + table.current_a * cable_ohm
    spare = np.interp(at_source, curve.volts_v, curve.amps_a, right=-1.0) - table.current_a
    if spare[0] <= 0.0:
        return Met(0.0, min(curve.short_a, float(table.current_a[0])), 0.0)
    falls = np.nonzero((spare[:-1] > 0.0) & (spare[1:] <= 0.0))[0]
    n = int(falls[0]) if falls.size else table.volts_v.size - 2
    share = float(np.clip(spare[n] / max(spare[n] - spare[n + 1], 1e-12), 0.0, 1.0))

    def between(values: Floats) -> float:
        return float(values[n] + share * (values[n + 1] - values[n]))

    return Met(between(table.volts_v), between(table.current_a), between(table.flow_m3_s))


def not_alike(one: Module, other: Module, in_series: bool) -> Reason | None:
    """Why two panels should not be joined so, in words; None where they are alike enough.

    Within 5 % of amps in series, of volts side by side: common practice, no source.
    """
    mine, theirs = (one.imp_a, other.imp_a) if in_series else (one.vmp_v, other.vmp_v)
    if abs(mine - theirs) <= 0.05 * max(mine, theirs):
        return None
    weaker = min(mine, theirs)
    return Reason("unlike-in-series", amps=weaker) if in_series else Reason("unlike-side-by-side", volts=weaker)


def as_one(strings: Sequence[Sequence[Module]]) -> Module:
    """Unlike panels, joined, as if they were one panel: its nameplate.

    Parameters
    ----------
    strings : sequence of sequences of Module
        Strings side by side, each of panels in series.

    Returns
    -------
    Module
        Of like strings one string of so many times the amps.

    Raises
    ------
    BadNameplate
        Where what they make together has no curve like a panel's: strings of unlike volts.

    Notes
    -----
    In series the weakest panel's amps rule and the volts add, each panel at its own best: so a string gives a little less
    than its exact curve. Side by side the exact curves are added (tested: strings of the same volts within 1 % in any light).
    """
    joined = [_string_as_one(string) for string in strings]
    if len(joined) == 1:
        return joined[0]
    curve = array_curve([[LitModule(module, STC_IRRADIANCE_W_M2, STC_CELL_C)] for module in joined])
    volts, amps = curve.best
    whole = sum(module.isc_a for module in joined)

    def mean(figure: str) -> float:
        return float(sum(getattr(module, figure) * module.isc_a for module in joined) / whole)

    made = Module(
        curve.open_v, curve.short_a, volts, amps, max(module.cells for module in joined), mean("isc_percent_per_k"),
        mean("voc_percent_per_k"),
    )  # fmt: skip
    fit_module(made)
    return made


def _string_as_one(string: Sequence[Module]) -> Module:
    weakest = min(string, key=lambda module: module.imp_a)
    if all(module == string[0] for module in string) and len(string) == 1:
        return string[0]
    open_v = sum(module.voc_v for module in string)
    falls = sum(module.voc_v * module.voc_percent_per_k for module in string) / open_v
    return Module(
        open_v, weakest.isc_a, sum(module.vmp_v for module in string), weakest.imp_a,
        sum(module.cells for module in string), weakest.isc_percent_per_k, falls,
    )  # fmt: skip
