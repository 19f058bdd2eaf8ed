"""Made days read between tabled ones, and what a kit makes of each: compiled by numba.

:mod:`squall.core.years.many_days`, :mod:`squall.core.years.outlook`, :mod:`squall.core.years.fewest_short` and
:mod:`squall.core.advice.quick` are its faces. None calls a loop of another file: numba keeps what it compiled by the file's own date.
"""

import numpy as np
from numba import njit


@njit(cache=True, nogil=True)
def between(table, clearnesses, clearness, before, part, most, out):  # type: ignore[no-untyped-def]
    """Light of every day by the half hour: between two clearnesses, and between the day seen before it and the one after."""
    days, seen, steps = before.size, table.shape[1], table.shape[2]
    for d in range(clearness.size):
        day = d % days
        at = np.searchsorted(clearnesses, clearness[d], side="right") - 1
        at = min(max(at, 0), clearnesses.size - 2)
        share = (clearness[d] - clearnesses[at]) / (clearnesses[at + 1] - clearnesses[at])
        one, two, p = before[day], (before[day] + 1) % seen, part[day]
        for s in range(steps):
            low = table[at, one, s] + (table[at, two, s] - table[at, one, s]) * p
            high = table[at + 1, one, s] + (table[at + 1, two, s] - table[at + 1, one, s]) * p
            out[d, s] = min(low + (high - low) * share, most)


@njit(cache=True, nogil=True)
def _shade_at(shades, shade, hidden):  # type: ignore[no-untyped-def]
    """Of a half hour in shadow for a share of it: node of that shadow, and what it, the next one and the open last one count."""
    last = shades.size - 1
    if last == 0 or hidden <= 0.0:
        return last, 1.0, 0.0, 0.0
    deep = min(max(1.0 - (1.0 - shade) / hidden, 0.0), 1.0)
    at = np.searchsorted(shades, deep, side="right") - 1
    at = min(max(at, 0), last - 1)
    g = min(max((deep - shades[at]) / (shades[at + 1] - shades[at]), 0.0), 1.0)
    return at, hidden * (1.0 - g), hidden * g, 1.0 - hidden


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


# Light runs through a half hour as from the one before to the one after: two moments, off its mean by this share of that, stand
# for the three ten minutes of it (the same mean and the same spread). [-]
OFF_MEAN = (2.0 / 3.0) ** 0.5 / 6.0


@njit(cache=True, nogil=True)
def spread(plane, shade, hidden, shades, month, place_of, warmth, step_w_m2, out):  # type: ignore[no-untyped-def]
    """Add each half hour to the nodes about it: out (places, shades, airs, lights) counts half hours, each day's at its place."""
    lights, steps, last = out.shape[3], plane.shape[1], out.shape[1] - 1
    for d in range(plane.shape[0]):
        m, q = month[d], place_of[d]
        row = d % shade.shape[0]
        for s in range(steps):
            mean = plane[d, s]
            if mean <= 0.0:
                continue
            before, after = plane[d, s - 1] if s > 0 else 0.0, plane[d, s + 1] if s + 1 < steps else 0.0
            by = min(abs(after - before) * OFF_MEAN, mean)
            k, here, next_on, in_open = _shade_at(shades, shade[row, s], hidden[row, s])
            a = min(int(warmth[m, s]), out.shape[2] - 2)
            w = warmth[m, s] - a
            for moment in range(2):
                place = (mean + (by if moment else -by)) / step_w_m2
                i = min(int(place), lights - 2)
                f = place - i
                for n, share in ((k, here), (k + 1, next_on), (last, in_open)):
                    if share > 0.0:
                        part = share / 2.0
                        out[q, n, a, i] += part * (1.0 - w) * (1.0 - f)
                        out[q, n, a, i + 1] += part * (1.0 - w) * f
                        out[q, n, a + 1, i] += part * w * (1.0 - f)
                        out[q, n, a + 1, i + 1] += part * w * f


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
def taken_of_days(plane, month, step_w_m2, litres, drawn, out):  # type: ignore[no-untyped-def]
    """What is taken each day of what comes by the light alone, and no half hour more than is drawn in it: litres (lights), drawn (12, steps)."""
    last = litres.shape[0] - 1
    for d in range(plane.shape[0]):
        total, m = 0.0, month[d]
        for s in range(plane.shape[1]):
            light, most = plane[d, s], drawn[m, s]
            if light <= 0.0 or most <= 0.0:
                continue
            place = light / step_w_m2
            i = int(place)
            came = litres[last] if i >= last else litres[i] + (litres[i + 1] - litres[i]) * (place - i)
            total += min(came, most)
        out[d] = total


@njit(cache=True, nogil=True)
def _read_at(row, place):  # type: ignore[no-untyped-def]
    """A row read between two of its lights."""
    i = min(int(place), row.size - 2)
    return row[i] + (row[i + 1] - row[i]) * (place - i)


@njit(cache=True, nogil=True)
def read_off(plane, shade, hidden, shades, month, warmth, step_w_m2, table, out):  # type: ignore[no-untyped-def]
    """A kit's figure at each half hour, read between its nodes at the same two moments: table (shades, airs, lights)."""
    steps, last = plane.shape[1], table.shape[0] - 1
    for d in range(plane.shape[0]):
        m = month[d]
        row = d % shade.shape[0]
        for s in range(steps):
            mean = plane[d, s]
            if mean <= 0.0:
                out[d, s] = 0.0
                continue
            before, after = plane[d, s - 1] if s > 0 else 0.0, plane[d, s + 1] if s + 1 < steps else 0.0
            by = min(abs(after - before) * OFF_MEAN, mean)
            low, high = (mean - by) / step_w_m2, (mean + by) / step_w_m2
            a = min(int(warmth[m, s]), table.shape[1] - 2)
            w = warmth[m, s] - a
            k, here, next_on, in_open = _shade_at(shades, shade[row, s], hidden[row, s])
            total = 0.0
            for n, share in ((k, here), (k + 1, next_on), (last, in_open)):
                if share > 0.0:
                    cold = _read_at(table[n, a], low) + _read_at(table[n, a], high)
                    warm = _read_at(table[n, a + 1], low) + _read_at(table[n, a + 1], high)
                    total += share * (cold + (warm - cold) * w)
            out[d, s] = total / 2.0
