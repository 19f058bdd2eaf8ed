"""Made days read between tabled ones, and what a kit makes of each: compiled by numba.

:mod:`squall.core.years.many_days`, :mod:`squall.core.years.outlook`, :mod:`squall.core.years.fewest_short` and
:mod:`squall.core.advice.quick` are its faces. None calls a loop of another file: numba keeps what it compiled by the file's own date.
"""

import numpy as np
from numba import njit

# Moments of a half hour, as :mod:`squall.core.years.many_days` has them (tested): known here, so that loops over them unroll.
MOMENTS = 3


@njit(cache=True, nogil=True)
def between(table, clearnesses, clearness, before, part, most, out):  # type: ignore[no-untyped-def]
    """Light of every day by the moment, in whole units of the table's: between two clearnesses, and between the day seen before it and the one after."""
    days, seen, steps, top = before.size, table.shape[1], table.shape[2], clearnesses.size - 1
    for d in range(clearness.size):
        day = d % days
        at = np.searchsorted(clearnesses, clearness[d], side="right") - 1
        at = min(max(at, 0), top - 1)
        share = (clearness[d] - clearnesses[at]) / (clearnesses[at + 1] - clearnesses[at])
        one, two, p = before[day], (before[day] + 1) % seen, part[day]
        for s in range(steps):
            if table[top, one, s] <= 0.0 and table[top, two, s] <= 0.0:  # night
                out[d, s] = 0
                continue
            low = table[at, one, s] + (table[at, two, s] - table[at, one, s]) * p
            high = table[at + 1, one, s] + (table[at + 1, two, s] - table[at + 1, one, s]) * p
            out[d, s] = int(min(low + (high - low) * share, most) + 0.5)


@njit(cache=True, nogil=True)
def _shade_at(shades, shade):  # type: ignore[no-untyped-def]
    """Node and share of a shadow between tabled ones; the last node is none."""
    if shades.size == 1:
        return 0, 0.0
    at = np.searchsorted(shades, shade, side="right") - 1
    at = min(max(at, 0), shades.size - 2)
    return at, min(max((shade - shades[at]) / (shades[at + 1] - shades[at]), 0.0), 1.0)


@njit(cache=True, nogil=True)
def short_of_store(inflow, want, store, short_share):  # type: ignore[no-untyped-def]
    """Days that stay short by more than a share, were each day's inflow there at once and a store, full at first, lossless."""
    level, missed = store, 0
    for d in range(inflow.size):
        level += inflow[d]
        taken = min(level, want[d])
        if want[d] > 0.0 and want[d] - taken > short_share * want[d]:
            missed += 1
        level = min(level - taken, store)
    return missed


@njit(cache=True, nogil=True)
def spread(plane, shade, shades, month, place_of, warmth, step, out):  # type: ignore[no-untyped-def]
    """Add each moment to the nodes about it: out (places, shades, airs, lights) counts half hours, each day's at its place."""
    lights = out.shape[3]
    for d in range(plane.shape[0]):
        m, q = month[d], place_of[d]
        row = d % shade.shape[0]
        for n in range(plane.shape[1]):
            light, s = plane[d, n], n // MOMENTS
            if light <= 0.0:
                continue
            k, g = _shade_at(shades, shade[row, n])
            a = min(int(warmth[m, s]), out.shape[2] - 2)
            w = warmth[m, s] - a
            place = light / step
            i = min(int(place), lights - 2)
            f = place - i
            for kk in range(2 if g > 0.0 else 1):
                part = (g if kk == 1 else 1.0 - g) / MOMENTS
                out[q, k + kk, a, i] += part * (1.0 - w) * (1.0 - f)
                out[q, k + kk, a, i + 1] += part * (1.0 - w) * f
                out[q, k + kk, a + 1, i] += part * w * (1.0 - f)
                out[q, k + kk, a + 1, i + 1] += part * w * f


@njit(cache=True, nogil=True)
def raise_start(flows, lights):  # type: ignore[no-untyped-def]
    """Raise, in place, the last figure without water of each row of `lights` to the first with it, and that one to the next."""
    rows = flows.reshape(-1, lights)
    for n in range(rows.shape[0]):
        for i in range(lights - 2):
            if rows[n, i] <= 0.0 and rows[n, i + 1] > 0.0:
                rows[n, i] = rows[n, i + 1]
                rows[n, i + 1] = max(rows[n, i + 1], rows[n, i + 2])
                break


@njit(cache=True, nogil=True)
def taken_of_days(plane, month, step, litres, drawn, out):  # type: ignore[no-untyped-def]
    """What is taken each day of what comes by the light alone, and no half hour more than is drawn in it: litres (lights) a half hour, drawn (12, steps)."""
    last, steps = litres.shape[0] - 1, drawn.shape[1]
    for d in range(plane.shape[0]):
        total, m = 0.0, month[d]
        for s in range(steps):
            most, came = drawn[m, s], 0.0
            if most <= 0.0:
                continue
            for n in range(MOMENTS):
                light = plane[d, s * MOMENTS + n]
                if light > 0.0:
                    place = light / step
                    i = int(place)
                    came += litres[last] if i >= last else litres[i] + (litres[i + 1] - litres[i]) * (place - i)
            total += min(came / MOMENTS, most)
        out[d] = total


@njit(cache=True, nogil=True)
def read_open(plane, month, warmth, step, table, out):  # type: ignore[no-untyped-def]
    """A kit's mean figure of each half hour where nothing stands near, its moments read between the nodes: table (airs, lights)."""
    steps, top, per_step = warmth.shape[1], table.shape[1] - 2, 1.0 / step
    for d in range(plane.shape[0]):
        m = month[d]
        for s in range(steps):
            if plane[d, MOMENTS * s] <= 0.0 and plane[d, MOMENTS * s + MOMENTS - 1] <= 0.0:
                out[d, s] = 0.0
                continue
            a = min(int(warmth[m, s]), table.shape[0] - 2)
            w, cold, warm = warmth[m, s] - a, 0.0, 0.0
            in_cold, in_warm = table[a], table[a + 1]
            for n in range(MOMENTS):
                place = plane[d, MOMENTS * s + n] * per_step
                i = min(int(place), top)
                f = place - i
                cold += in_cold[i] + (in_cold[i + 1] - in_cold[i]) * f
                warm += in_warm[i] + (in_warm[i + 1] - in_warm[i]) * f
            out[d, s] = (cold + (warm - cold) * w) / MOMENTS


@njit(cache=True, nogil=True)
def read_shaded(plane, shade, shades, month, warmth, step, table, out):  # type: ignore[no-untyped-def]
    """The same where a shadow comes: table (shades, airs, lights)."""
    lights, steps = table.shape[2], warmth.shape[1]
    for d in range(plane.shape[0]):
        m = month[d]
        for s in range(steps):
            a = min(int(warmth[m, s]), table.shape[1] - 2)
            w, total = warmth[m, s] - a, 0.0
            for n in range(s * MOMENTS, (s + 1) * MOMENTS):
                place = plane[d, n] / step
                i = min(int(place), lights - 2)
                f = place - i
                k, g = _shade_at(shades, shade[d, n])
                for kk in range(2 if g > 0.0 else 1):
                    cold = table[k + kk, a, i] + (table[k + kk, a, i + 1] - table[k + kk, a, i]) * f
                    warm = table[k + kk, a + 1, i] + (table[k + kk, a + 1, i + 1] - table[k + kk, a + 1, i]) * f
                    total += (g if kk == 1 else 1.0 - g) * (cold + (warm - cold) * w)
            out[d, s] = total / MOMENTS
