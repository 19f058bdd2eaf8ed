"""A tank from event to event, and whole years of tank and bank, compiled by numba.

:mod:`squall.core.years.tanks` and :mod:`squall.core.years.whole` are its faces. The loops stand in one file
because numba keeps what it compiled by the file's own date: it would not see a change in another.
"""

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
            if inflow > 0.0:
                totals[1] += after - level + draw * spent
            if came > 0.0:
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
    """Level of a tank through a row of steps, from its start."""
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


# Columns of a day's record.
PUMPED, SHORT, SPILLED, WANTED, LOWEST, ENDED, RUN_S, STARTS, CHARGE_LOW, CHARGE_END, WASTED_AH, RUNNING_S = range(12)
COLUMNS = 12


@njit(cache=True, nogil=True)
def run_days(  # type: ignore[no-untyped-def]
    days,
    steps,
    step_s,
    month,
    draw,
    flow,
    tank,
    on,
    off,
    wait_s,
    banked,
    by_sun,
    bank,
    allowed,
    charge,
    amps,
    rate,
    state,
    out,
    trace,
    most_short,
    short_share,
):
    """Follow tank and bank through whole days.

    draw (12, steps) [L/s]; flow (days*steps) [L/s] that the sun would give, used where not banked;
    tank, on, off [L], a tank of 0 means none: what is pumped goes straight to the outlet, and what nobody takes then is lost.
    wait_s: how long a controller waits after the light came back. by_sun: what a day wants is taken whenever it comes.
    bank: usable Ah, cut-off share, share at which it is let run again, charge efficiency, own draw [A].
    allowed (7*steps): share of each step that the timer lets it run; charge (days*steps) [A] into the bank.
    amps, rate: what the pump draws and gives on the bank. state: level [L], charge [Ah], float closed, running,
    seconds to wait, cut off, seconds of the present run. out (days, COLUMNS); trace (4, days*steps): share of each step that the pump ran, level and charge at its end,
    litres short in it; none is kept where it has no columns. most_short: after more days than this on which more than
    `short_share` of what was wanted is missing it stops. Answers how many there were.
    """
    nodes = np.array([0.0, tank if tank > 0.0 else 1.0])
    ones = np.ones(2)
    totals = np.zeros(6)
    missed = 0
    level, stored, closed, running, wait, cut, run_s = (
        state[0],
        state[1],
        state[2] > 0.0,
        state[3] > 0.0,
        state[4],
        state[5] > 0.0,
        state[6],
    )
    for d in range(days):
        low, low_charge = level, stored
        record = out[d]
        owed = 0.0
        if by_sun:
            for s in range(steps):
                owed += draw[month[d], s] * step_s
            record[WANTED] = owed
        for s in range(steps):
            k = d * steps + s
            want = owed / step_s if by_sun else draw[month[d], s]
            short_before = record[SHORT]
            # What the pump gives in this step, were the float closed all through it.
            if banked:
                room = allowed[(d % 7) * steps + s]
                if cut and stored > bank[2] * bank[0]:
                    cut = False
                if stored <= bank[1] * bank[0]:
                    cut = True
                can = 0.0 if cut else rate * room
                # No further than the cut-off, wherever in the step that falls.
                runs = room if tank > 0.0 or rate <= 0.0 else min(room, want / rate)
                falls = (amps * runs + bank[4] - charge[k] * bank[3]) / 3600.0
                if can > 0.0 and falls * step_s > stored - bank[1] * bank[0]:
                    can *= max((stored - bank[1] * bank[0]) / (falls * step_s), 0.0)
            else:
                can = flow[k]
                if can <= 0.0:
                    wait = wait_s if running else max(wait - step_s, 0.0)
                elif wait > 0.0:
                    can *= 1.0 - min(wait / step_s, 1.0)
                    wait = max(wait - step_s, 0.0)
            ran_s = 0.0
            if tank > 0.0:
                totals[:] = 0.0
                was_closed = closed
                after = level + ((can if closed else 0.0) - want) * step_s
                if closed and 0.0 < after < min(off, tank):
                    # Neither empty, nor full, nor at the switch: the step is one straight line.
                    totals[1] = can * step_s
                    if can > 0.0:
                        totals[4] = step_s
                    run_s += step_s
                    level = after
                elif not closed and after > on and off != np.inf:
                    level = after
                else:
                    level, closed, run_s, _ = step_level(
                        nodes, ones, tank, on, off, level, closed, step_s, want, can, totals, run_s, 1e9
                    )
                record[PUMPED] += totals[1]
                if by_sun:
                    owed = max(totals[2], 0.0)
                else:
                    record[SHORT] += totals[2]
                record[SPILLED] += totals[3]
                ran_s = totals[4]
                begun = totals[0]
                if can > 0.0 and was_closed and not running and ran_s > 0.0:
                    begun += 1.0
                if can <= 0.0:
                    begun = 0.0
                record[STARTS] += begun
                running = can > 0.0 and closed
            else:
                gives = can
                taken = min(can, want)
                if banked:
                    # On demand: as much of the step as what is wanted takes.
                    gives = taken
                    ran_s = step_s * gives / rate if rate > 0.0 else 0.0
                elif can > 0.0:
                    ran_s = step_s
                if by_sun:
                    owed = max(owed - taken * step_s, 0.0)
                else:
                    record[SHORT] += (want - taken) * step_s
                record[SPILLED] += (gives - taken) * step_s
                record[PUMPED] += gives * step_s
                if gives > 0.0 and not running:
                    record[STARTS] += 1.0
                running = gives > 0.0
            if not by_sun:
                record[WANTED] += want * step_s
            if banked:
                on_s = ran_s * (1.0 if tank <= 0.0 or rate <= 0.0 else can / rate)
                drawn = amps * on_s / 3600.0 + bank[4] * step_s / 3600.0
                came = charge[k] * bank[3] * step_s / 3600.0
                after = stored + came - drawn
                if after > bank[0]:
                    record[WASTED_AH] += (after - bank[0]) / bank[3]
                    after = bank[0]
                stored = after
                low_charge = min(low_charge, stored)
                ran_s = on_s
            if k < trace.shape[1]:
                trace[0, k] = ran_s / step_s
                trace[1, k] = level
                trace[2, k] = stored
                trace[3, k] = record[SHORT] - short_before
            record[RUN_S] += ran_s
            low = min(low, level)
        record[LOWEST] = low
        record[ENDED] = level
        record[CHARGE_LOW] = low_charge
        record[CHARGE_END] = stored
        if by_sun:
            record[SHORT] = owed
        if record[WANTED] > 0.0 and record[SHORT] > short_share * record[WANTED]:
            missed += 1
            if missed > most_short:
                break
    state[0], state[1], state[2], state[3], state[4], state[5], state[6] = (
        level,
        stored,
        closed,
        running,
        wait,
        cut,
        run_s,
    )
    return missed
