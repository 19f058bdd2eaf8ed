"""Where a pump's end meets its line, speed by speed, compiled by numba; :mod:`squall.core.drive.tables` is its face.

The same sums as :meth:`squall.core.hydraulics.pipes.Line.head_at` and :mod:`squall.core.drive.motors` (tested): a catalogue
asks for some thirty thousand of these meetings. Apart so that numba is loaded only when a table is first made.
"""

import numpy as np
from numba import njit

# What is sought: Q/w at a speed, the speed at a Q/w, or a displacement end's head at a speed.
PHI_AT_SPEED, SPEED_AT_PHI, HEAD_AT_SPEED = 0, 1, 2


@njit(cache=True, nogil=True)
def _head(flow, static, drawdown, line):  # type: ignore[no-untyped-def]
    """Head that a line asks at a flow: pipes are rows of bore's area, bore, length, K, water's viscosity and twice
    gravity; beyond them heads `more_h` at flows `more_q`, if any."""
    pipes, factors, log_first, log_step, laminar, more_q, more_h = line
    head = static + drawdown * flow
    for p in range(pipes.shape[0]):
        velocity = flow / pipes[p, 0]
        reynolds = velocity * pipes[p, 1] / pipes[p, 4]
        safe = max(reynolds, 1e-9)
        if safe <= laminar:
            factor = 64.0 / safe
        else:
            place = (np.log(safe) - log_first) / log_step
            i = min(max(int(place), 0), factors.shape[1] - 2)
            factor = factors[p, i] + (factors[p, i + 1] - factors[p, i]) * min(place - i, 1.0)
        head += (factor * pipes[p, 2] / pipes[p, 1] + pipes[p, 3]) * velocity * velocity / pipes[p, 5]
    if more_q.size > 1:
        j = min(max(np.searchsorted(more_q, flow, side="right") - 1, 0), more_q.size - 2)
        head += more_h[j] + (more_h[j + 1] - more_h[j]) * (flow - more_q[j]) / (more_q[j + 1] - more_q[j])
    return head


@njit(cache=True, nogil=True)
def _cubic(x, knots, pieces):  # type: ignore[no-untyped-def]
    """A monotone cubic at one place within its knots."""
    i = min(max(np.searchsorted(knots, x, side="right") - 1, 0), pieces.shape[0] - 1)
    along = x - knots[i]
    return ((pieces[i, 0] * along + pieces[i, 1]) * along + pieces[i, 2]) * along + pieces[i, 3]


@njit(cache=True, nogil=True)
def _surplus(kind, x, fixed, knots, pieces, static, drawdown, line):  # type: ignore[no-untyped-def]
    """Falls through nil where end and line agree; in head. [m]"""
    if kind == HEAD_AT_SPEED:
        flow = _cubic(x, knots, pieces) * fixed
        return _head(max(flow, 0.0), static, drawdown, line) - x
    phi, speed = (x, fixed) if kind == PHI_AT_SPEED else (fixed, x)
    asked = _head(phi * speed, static, drawdown, line)
    return _cubic(phi, knots, pieces) * speed * speed - asked


@njit(cache=True, nogil=True)
def meet(kind, fixed, low, high, knots, pieces, static, drawdown, line, out):  # type: ignore[no-untyped-def]
    """For each fixed figure the place between `low` and `high` where the surplus is nil, and the surplus at both ends.

    out (3, fixed): place, surplus at `low`, surplus at `high`; at a bound if it is not nil between. Regula falsi by
    Anderson and Bjoerck, BIT 13 (1973), 253-264 (from memory), every third round a halving, so that it always closes in.
    """
    for c in range(fixed.size):
        a, b = low, high
        fa = _surplus(kind, a, fixed[c], knots, pieces, static, drawdown, line)
        fb = _surplus(kind, b, fixed[c], knots, pieces, static, drawdown, line)
        out[1, c], out[2, c] = fa, fb
        falling = kind != SPEED_AT_PHI
        above, below = (fa, fb) if falling else (fb, fa)
        if above <= 0.0:
            out[0, c] = low if falling else high
            continue
        if below > 0.0:
            out[0, c] = high if falling else low
            continue
        x = a
        for n in range(200):
            if n % 3 == 2 or fa == fb:
                x = 0.5 * (a + b)
            else:
                x = a + (b - a) * (fa / (fa - fb))
            f = _surplus(kind, x, fixed[c], knots, pieces, static, drawdown, line)
            if f == 0.0:
                break
            if (f > 0.0) == (fa > 0.0):
                share = 1.0 - f / fa
                a, fa = x, f
                fb *= share if share > 0.0 else 0.5
            else:
                share = 1.0 - f / fb
                b, fb = x, f
                fa *= share if share > 0.0 else 0.5
            if abs(b - a) <= 1e-11 * max(abs(a), abs(b)):
                break
        out[0, c] = x
