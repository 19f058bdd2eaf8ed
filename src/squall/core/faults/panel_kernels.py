"""Panels with one that is wrong, as curves of volts and amps, compiled by numba; see :mod:`squall.core.faults.kernels`."""

import numpy as np
from numba import njit

from squall.core.faults.columns import (
    BYPASSED,
    FAULTY_PANEL_V,
    IDEALITY_V,
    LIGHT_A,
    PANEL_FAULT,
    PANEL_V,
    REVERSED,
    SATURATION_A,
    SERIES_OHM,
    SHADED,
    SHADED_LIGHT,
    SHADED_SHARE,
    SHORT_A,
    SHUNT_OHM,
    SOUND,
    SOURCE_OPEN_V,
    STRING_OPEN,
)

NODES = 64


@njit(cache=True, nogil=True)
def falling(x, xs, ys):  # type: ignore[no-untyped-def]
    """y at x where xs fall along their places; held at the ends."""
    last = xs.size - 1
    if x >= xs[0]:
        return ys[0]
    if x <= xs[last]:
        return ys[last]
    low, high = 0, last
    while high - low > 1:
        middle = (low + high) // 2
        if xs[middle] >= x:
            low = middle
        else:
            high = middle
    width = xs[high] - xs[low]
    return ys[low] + (ys[high] - ys[low]) * (x - xs[low]) / width if width != 0.0 else ys[low]


@njit(cache=True, nogil=True)
def rising(x, xs, ys):  # type: ignore[no-untyped-def]
    """y at x where xs rise along their places; held at the ends."""
    last = xs.size - 1
    if x <= xs[0]:
        return ys[0]
    if x >= xs[last]:
        return ys[last]
    low, high = 0, last
    while high - low > 1:
        middle = (low + high) // 2
        if xs[middle] <= x:
            low = middle
        else:
            high = middle
    width = xs[high] - xs[low]
    return ys[low] + (ys[high] - ys[low]) * (x - xs[low]) / width if width != 0.0 else ys[low]


@njit(cache=True, nogil=True)
def _panel(row, volts, amps):  # type: ignore[no-untyped-def]
    """One sound panel's curve by its junction's volts: volts rise, amps fall, from below short circuit to beyond open."""
    il, i0, a = row[LIGHT_A], row[SATURATION_A], row[IDEALITY_V]
    top = a * np.log(2.2 * il / i0 + 1.0)
    first = -0.2 * top
    for j in range(NODES):
        share = 1.0 - j / (NODES - 1)
        x = first + (top - first) * (1.0 - share * share)
        amps[j] = il - i0 * (np.exp(x / a) - 1.0) - x / row[SHUNT_OHM]
        volts[j] = x - amps[j] * row[SERIES_OHM]


@njit(cache=True, nogil=True)
def _faulty_string(row, in_series, panel_v, panel_a, string_v):  # type: ignore[no-untyped-def]
    """Volts, at the panel's own amps, of the string in which one panel is wrong."""
    kind, share = row[PANEL_FAULT], row[SHADED_SHARE]
    lost_a = row[LIGHT_A] * (1.0 - row[SHADED_LIGHT])
    for j in range(NODES):
        amps, one = panel_a[j], panel_v[j]
        others = (in_series - 1) * one
        if kind == BYPASSED:
            string_v[j] = others - 0.5
        elif kind == REVERSED:
            string_v[j] = others - falling(-amps, panel_a, panel_v)
        else:
            # The shaded cells are the same diode with less light: the same junction at so many amps less.
            shaded = -1e9
            if amps + lost_a <= panel_a[0]:
                shaded = falling(amps + lost_a, panel_a, panel_v) + lost_a * row[SERIES_OHM]
            string_v[j] = others + (1.0 - share) * one + max(share * shaded, -0.5)


@njit(cache=True, nogil=True)
def _array(row, in_series, in_parallel, scratch):  # type: ignore[no-untyped-def]
    """Volts and amps of the whole array into the first two rows of `scratch`; false if it gives nothing."""
    volts, amps, panel_v, panel_a, string_v = scratch
    if row[LIGHT_A] <= 1e-6:
        return False
    _panel(row, panel_v, panel_a)
    kind = row[PANEL_FAULT]
    sound = in_parallel if kind == SOUND else in_parallel - 1
    for j in range(NODES):
        volts[j], amps[j] = in_series * panel_v[j], sound * panel_a[j]
    if kind == SOUND:
        return True
    if kind == STRING_OPEN:
        return sound > 0
    _faulty_string(row, in_series, panel_v, panel_a, string_v)
    for j in range(NODES):
        if sound == 0:
            volts[j], amps[j] = string_v[j], panel_a[j]
        else:
            amps[j] += rising(volts[j], string_v, panel_a)
    return True


@njit(cache=True, nogil=True)
def best_power(ohms, array_v, array_a):  # type: ignore[no-untyped-def]
    """Most watts of an array behind a cable, and the volts there at the cable's end. [W], [V]"""
    best, at = 0.0, 0.0
    for j in range(NODES):
        volts = array_v[j] - array_a[j] * ohms
        if volts * array_a[j] > best and volts > 0.0:
            best, at = volts * array_a[j], volts
    return best, at


@njit(cache=True, nogil=True)
def limited_input(watts, ohms, array_v, array_a):  # type: ignore[no-untyped-def]
    """Volts at a controller's input that takes fewer watts than the array's most, on the side of high volts."""
    for j in range(NODES - 1, -1, -1):
        volts = array_v[j] - array_a[j] * ohms
        if array_a[j] > 0.0 and volts * array_a[j] >= watts:
            if j == NODES - 1:
                return volts
            over, under = volts * array_a[j], (array_v[j + 1] - array_a[j + 1] * ohms) * array_a[j + 1]
            share = (over - watts) / (over - under) if over > under else 0.0
            return volts + share * (array_v[j + 1] - array_a[j + 1] * ohms - volts)
    return 0.0


@njit(cache=True, nogil=True)
def panels_lit(row, in_series, in_parallel, scratch, told):  # type: ignore[no-untyped-def]
    """The array's curve into `scratch`, its marks into `told`; whether it gives anything."""
    gives = _array(row, in_series, in_parallel, scratch)
    array_v, array_a, panel_v, panel_a, string_v = scratch
    told[SOURCE_OPEN_V] = falling(0.0, array_a, array_v) if gives else 0.0
    told[SHORT_A] = max(rising(0.0, array_v, array_a), 0.0) if gives else 0.0
    if row[LIGHT_A] > 1e-6:
        told[PANEL_V] = falling(0.0, panel_a, panel_v)
        fault = row[PANEL_FAULT]
        if fault == REVERSED:
            told[FAULTY_PANEL_V] = -told[PANEL_V]
        elif fault == SHADED:
            _faulty_string(row, 1, panel_v, panel_a, string_v)
            told[FAULTY_PANEL_V] = falling(0.0, panel_a, string_v)
        elif fault == SOUND:
            told[FAULTY_PANEL_V] = told[PANEL_V]
    return gives and told[SOURCE_OPEN_V] > 0.05
