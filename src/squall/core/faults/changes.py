"""What each cause does to the chain: the figures of many rows at once, at many severities.

The ranges are those within which the trade meets each cause; where nothing is said beside one it is common practice, no source.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from squall.core.faults import columns as at
from squall.core.faults.chain import Chain

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Sound:
    """The same kit with nothing wrong, in good light: what severities are measured by.

    Attributes
    ----------
    flow_m3_s : float
        At its outlet. [m3/s]
    spare_m : float
        Head that it has over the lift when nothing flows. [m]
    """

    flow_m3_s: float
    spare_m: float


@dataclass(frozen=True)
class Draw:
    """Rows to be changed, two severities each from 0 to 1, the kit as stated and as it does when sound."""

    rows: Floats
    severity: Floats
    second: Floats
    chain: Chain
    sound: Sound


def _between(share: Floats, low: float, high: float) -> Floats:
    return low + (high - low) * share


def _evenly_by_factor(share: Floats, low: float, high: float) -> Floats:
    spread: Floats = low * (high / low) ** share
    return spread


def _none(_draw: Draw) -> None:
    """Nothing is wrong."""


def _set(column: int, value: float) -> Callable[[Draw], None]:
    def change(draw: Draw) -> None:
        draw.rows[:, column] = value

    return change


def _more_ohms(column: int, low: float, high: float) -> Callable[[Draw], None]:
    def change(draw: Draw) -> None:
        draw.rows[:, column] += _evenly_by_factor(draw.severity, low, high)

    return change


def _panel_lost(draw: Draw) -> None:
    array = draw.chain.array
    in_series = 1 if array is None else array.in_series
    bypassed = (draw.second < 0.5) & (in_series > 1)
    draw.rows[:, at.PANEL_FAULT] = np.where(bypassed, at.BYPASSED, at.STRING_OPEN)


def _panels_dirty(draw: Draw) -> None:
    draw.rows[:, at.LIGHT_A] *= 1.0 - _between(draw.severity, 0.15, 0.5)


def _panel_shaded(draw: Draw) -> None:
    cells = 36 if draw.chain.array is None else draw.chain.array.module.cells
    draw.rows[:, at.PANEL_FAULT] = at.SHADED
    draw.rows[:, at.SHADED_SHARE] = 0.5 if cells <= 40 else 1.0 / 3.0
    draw.rows[:, at.SHADED_LIGHT] = _between(draw.severity, 0.02, 0.45)


def _battery_flat(draw: Draw) -> None:
    draw.rows[:, at.OPEN_V] *= _between(np.sqrt(draw.severity), 0.6, 0.96)
    draw.rows[:, at.INNER_OHM] *= _evenly_by_factor(draw.second, 1.0, 3.0)


def _battery_weak(draw: Draw) -> None:
    draw.rows[:, at.INNER_OHM] *= _evenly_by_factor(draw.severity, 3.0, 10.0)


def _dial_low(draw: Draw) -> None:
    draw.rows[:, at.OUT_MAX_V] *= _between(draw.severity, 0.08, 0.6)


def _polarity_reversed(draw: Draw) -> None:
    if draw.chain.two_wires:
        draw.rows[:, at.BACKWARDS] = 1.0 if draw.chain.brushed else 2.0
        if not draw.chain.centrifugal:
            # What a membrane or screw draws backwards nobody's label says: from idling to its most.
            motor = draw.chain.motor
            draw.rows[:, at.LOOSE] = 1.0
            draw.rows[:, at.NO_LOAD_A] = _between(
                draw.second, motor.no_load_a, max(amps for _, _, amps in motor.points)
            )
    else:
        draw.rows[:, at.UP_REVERSED] = 1.0


def _rotor_drags(draw: Draw) -> None:
    draw.rows[:, at.NO_LOAD_A] *= _between(draw.severity, 1.3, 3.0)


def _head_lost(draw: Draw) -> None:
    draw.rows[:, at.HEAD_SHARE] *= 1.0 - _between(draw.severity, 0.10, 0.45)


def _blocked(column: int, shut: float) -> Callable[[Draw], None]:
    """Little of the flow is left, down to nothing: a loss by the square of flow."""

    def change(draw: Draw) -> None:
        left = _evenly_by_factor(draw.severity, 0.02, 0.6)
        flow = left * max(draw.sound.flow_m3_s, 1e-6)
        draw.rows[:, column] += max(draw.sound.spare_m, 1.0) / flow**2
        draw.rows[:, at.SHUT] = np.where(draw.second < 0.2, shut, 0.0)

    return change


def _hose_leaks(draw: Draw) -> None:
    draw.rows[:, at.LEAK] = _between(draw.severity, 0.15, 0.95)


def _water_fallen(draw: Draw) -> None:
    draw.rows[:, at.LIFT_M] += _between(draw.severity, 0.5, 6.0)


def _valves_worn(draw: Draw) -> None:
    draw.rows[:, at.FLOW_SHARE] *= 1.0 - _between(draw.severity, 0.2, 0.6)


CHANGES: Mapping[str, Callable[[Draw], None]] = {
    "none": _none,
    "fuse-blown": _set(at.UP_OPEN, 1.0),
    "switch-open": _set(at.UP_OPEN, 2.0),
    "source-unplugged": _set(at.UP_OPEN, 3.0),
    "cable-open": _set(at.DOWN_OPEN, 1.0),
    "winding-open": _set(at.DOWN_OPEN, 2.0),
    "joint-resistance": _more_ohms(at.DOWN_OHM, 0.25, 3.6),
    "connector-corroded": _more_ohms(at.UP_OHM, 0.25, 3.6),
    "brushes-worn": _more_ohms(at.MOTOR_OHM, 0.25, 2.4),
    "panel-lost": _panel_lost,
    "panel-reversed": _set(at.PANEL_FAULT, at.REVERSED),
    "panels-dirty": _panels_dirty,
    "panel-shaded": _panel_shaded,
    "battery-flat": _battery_flat,
    "battery-weak": _battery_weak,
    "supply-off": _set(at.OPEN_V, 0.0),
    "controller-input-open": _set(at.STOPPED, 1.0),
    "controller-waiting": _set(at.STOPPED, 2.0),
    "probe-dirty": _set(at.STOPPED, 3.0),
    "dial-low": _dial_low,
    "polarity-reversed": _polarity_reversed,
    "phase-swapped": _set(at.BACKWARDS, 1.0),
    "rotor-stuck": _set(at.LOCKED, 1.0),
    "rotor-drags": _rotor_drags,
    "impeller-worn": _head_lost,
    "impeller-loose": _set(at.LOOSE, 1.0),
    "screen-blocked": _blocked(at.SCREEN_K, 2.0),
    "hose-kinked": _blocked(at.PIPE_K, 1.0),
    "check-valve-stuck": _blocked(at.PIPE_K, 1.0),
    "outlet-valve-shut": _blocked(at.PIPE_K, 1.0),
    "hose-leaks": _hose_leaks,
    "air-locked": _set(at.AIR, 1.0),
    "water-fallen": _water_fallen,
    "valves-worn": _valves_worn,
    # Between its starts it runs as ever.
    "float-chatters": _none,
}
