"""The level of a tank from event to event, compiled by numba; :mod:`squall.core.storage` is its face."""

import numpy as np
from numba import njit


@njit(cache=True, nogil=True)
def _segment(nodes, level, rising):  # type: ignore[no-untyped-def]
    """Index of the stretch between two tabled levels that a level moves into."""
    i = np.searchsorted(nodes, level, side="right") - 1
    if not rising and i > 0 and nodes[min(i, nodes.size - 1)] == level:
        i -= 1
    return min(max(i, 0), nodes.size - 2)


@njit(cache=True, nogil=True)
def _at(nodes, share, level):  # type: ignore[no-untyped-def]
    i = _segment(nodes, level, True)
    return share[i] + (share[i + 1] - share[i]) * (level - nodes[i]) / (nodes[i + 1] - nodes[i])


@njit(cache=True, nogil=True)
def step_level(nodes, share, capacity, on, off, level, closed, left, draw, inflow, totals, run_s, most):  # type: ignore[no-untyped-def]
    """One step: (level, closed, seconds the present run has lasted, whether it went well).

    `totals`: closings, pumped, short, spilled, seconds with water, shortest run.
    """
    while left > 0.0:
        if not closed and (level < on or (level == on and draw > 0.0) or off == np.inf):
            closed = True
            run_s = 0.0
            totals[0] += 1.0
            if totals[0] > most:
                return level, closed, run_s, False
        came = inflow * _at(nodes, share, level) if closed else 0.0
        net = came - draw
        if net == 0.0 or (level <= 0.0 and net < 0.0) or (level >= capacity and net > 0.0):
            # Nothing moves: empty and wanting, full and spilling, or in balance.
            if level <= 0.0 and net < 0.0:
                totals[2] -= net * left
            elif level >= capacity and net > 0.0:
                totals[3] += net * left
            totals[1] += came * left
            if came > 0.0:
                totals[4] += left
            run_s += left
            return level, closed, run_s, True
        rising = net > 0.0
        i = _segment(nodes, level, rising)
        target = nodes[i + 1] if rising else nodes[i]
        if closed and rising and level < off < target:
            target = off
        if not closed and not rising and target < on < level:
            target = on
        growth = inflow * (share[i + 1] - share[i]) / (nodes[i + 1] - nodes[i]) if closed else 0.0
        way = target - level
        if growth == 0.0 or abs(growth * way) < 1e-12 * abs(net):
            needed = way / net
        else:
            ratio = 1.0 + growth * way / net
            needed = np.log(ratio) / growth if ratio > 0.0 else np.inf
        if needed >= left:
            if abs(growth * left) < 1e-9:
                after = level + net * left
            else:
                after = level + net * (np.exp(growth * left) - 1.0) / growth
            after = min(max(after, 0.0), capacity)
            spent = left
        else:
            after, spent = target, needed
        if closed:
            pumped = after - level + draw * spent
            totals[1] += pumped
            if pumped > 0.0:
                totals[4] += spent
            run_s += spent
        level = after
        left -= spent
        if closed and level >= off:
            closed = False
            if totals[5] == 0.0 or run_s < totals[5]:
                totals[5] = run_s
    return level, closed, run_s, True


@njit(cache=True, nogil=True)
def follow(nodes, share, capacity, on, off, start, step, draw, inflow, levels, totals, most):  # type: ignore[no-untyped-def]
    level, closed, run_s = start, False, 0.0
    levels[0] = level
    for k in range(draw.size):
        level, closed, run_s, well = step_level(
            nodes, share, capacity, on, off, level, closed, step, draw[k], inflow[k], totals, run_s, most
        )
        if not well:
            return False
        levels[k + 1] = level
    return True
