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

    out (3, fixed): place, surplus at `low`, surplus at `high`; at a bound if it is not nil between. After Chandrupatla,
    Adv. Eng. Software 28 (1997), 145-149 (from memory): it always closes in, from both sides.
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
        out[0, c] = _close_in(kind, fixed[c], a, b, fa, fb, knots, pieces, static, drawdown, line)


@njit(cache=True, nogil=True)
def _close_in(kind, fixed, a, b, fa, fb, knots, pieces, static, drawdown, line):  # type: ignore[no-untyped-def]
    """The place between two of opposite sign, to 1e-11 of itself: inverse quadratic steps where they are sure, else halving."""
    x1, x2, f1, f2 = b, a, fb, fa
    x3, f3, share = b, fb, 0.5
    for _ in range(100):
        x = x1 + share * (x2 - x1)
        f = _surplus(kind, x, fixed, knots, pieces, static, drawdown, line)
        if (f > 0.0) == (f1 > 0.0):
            x3, f3 = x1, f1
        else:
            x3, f3, x2, f2 = x2, f2, x1, f1
        x1, f1 = x, f
        best = x1 if abs(f1) < abs(f2) else x2
        width = abs(x2 - x1)
        near = 1e-11 * max(abs(best), 1e-300)
        if f == 0.0 or width <= 2.0 * near:
            return best
        share = 0.5
        xi, phi = (x1 - x2) / (x3 - x2), (f1 - f2) / (f3 - f2)
        if phi * phi < xi and (1.0 - phi) * (1.0 - phi) < 1.0 - xi:
            share = f1 / (f2 - f1) * f3 / (f2 - f3) + (x3 - x1) / (x2 - x1) * f1 / (f3 - f1) * f2 / (f3 - f2)
        least = near / width
        share = min(max(share, least), 1.0 - least)
    return best
