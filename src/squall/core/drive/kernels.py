"""Loops compiled by numba, on plain arrays; :mod:`squall.core.drive.tables` is their face.

Apart from it so that numba is loaded only when a year is first run.
"""

import numpy as np
from numba import njit


@njit(cache=True, nogil=True)
def _diode_surplus(volts, amps, light, saturation, series, shunt, ideality):  # type: ignore[no-untyped-def]
    junction = volts + amps * series
    return light - saturation * (np.exp(min(junction / ideality, 500.0)) - 1.0) - junction / shunt - amps


@njit(cache=True, nogil=True)
def meet_array(  # type: ignore[no-untyped-def]
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
def into_volts(bank_v, cable, in_series, in_parallel, light, saturation, series, shunt, ideality, out):  # type: ignore[no-untyped-def]
    """Current of an array into a bank at each light, by Newton from the light current. [A]"""
    # The surplus is concave and falling, so it closes in from above.
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


@njit(cache=True, nogil=True)
def most_power(light, saturation, series, shunt, ideality, volts, amps):  # type: ignore[no-untyped-def]
    """Volts and amps of one module at its maximum power.

    With the junction's voltage x as the unknown, I = IL - I0 (exp(x/a) - 1) - x/Rsh and
    V = x - I Rs are explicit; the power's slope dP/dx falls through nil once.
    """
    share = 0.8
    for c in range(light.size):
        a, i0, rs, rp = ideality[c], saturation[c], series[c], shunt[c]
        top = a * np.log(light[c] / i0 + 1.0)
        low, high, x = 0.0, top, share * top
        current, slope = 0.0, 0.0
        for _ in range(60):
            # Newton on dP/dx from the light before's share of the open volts, halving where it would leave the bracket.
            grown = i0 * np.exp(x / a)
            current = light[c] - grown + i0 - x / rp
            slope = -grown / a - 1.0 / rp
            rising = (1.0 - slope * rs) * current + (x - current * rs) * slope
            if rising > 0.0:
                low = x
            else:
                high = x
            bend = -grown / (a * a)
            steep = -bend * rs * current + 2.0 * (1.0 - slope * rs) * slope + (x - current * rs) * bend
            after = x - rising / steep
            if not low < after < high:
                after = 0.5 * (low + high)
            if abs(after - x) < 1e-11 * top:
                break
            x = after
        share = x / top
        amps[c] = current
        volts[c] = x - current * rs


@njit(cache=True, nogil=True)
def open_volts(light, saturation, shunt, ideality, volts):  # type: ignore[no-untyped-def]
    """Volts of one module with nothing joined: the junction at which no current is left."""
    for c in range(light.size):
        # Newton from above: what is left falls ever faster, so every step stays above the answer.
        x = ideality[c] * np.log(light[c] / saturation[c] + 1.0)
        for _ in range(60):
            grown = saturation[c] * np.exp(x / ideality[c])
            left = light[c] - grown + saturation[c] - x / shunt[c]
            step = left / (grown / ideality[c] + 1.0 / shunt[c])
            x += step
            if abs(step) < 1e-11 * ideality[c]:
                break
        volts[c] = x
