"""A year of ten-minute steps through tank and battery, compiled by numba; :mod:`squall.core.running` is its face."""

import numpy as np
from numba import njit

from squall.core.compiled_store import step_level

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
    wait_steps,
    banked,
    bank,
    allowed,
    charge,
    amps,
    rate,
    state,
    out,
    trace,
):
    """Follow tank and bank through whole days.

    draw (12, steps) [L/s]; flow (days*steps) [L/s] that the sun would give, used where not banked;
    tank, on, off [L], a tank of 0 means none: what is pumped goes straight to the outlet.
    bank: usable Ah, cut-off share, share at which it is let run again, charge efficiency, own draw [A].
    allowed (7*steps): share of each step that the timer lets it run; charge (days*steps) [A] into the bank.
    amps, rate: what the pump draws and gives on the bank. state: level [L], charge [Ah], float closed, running,
    steps to wait, cut off, seconds of the present run. out (days, COLUMNS); trace (4, days*steps): share of each step that the pump ran, level and charge at its end,
    litres short in it.
    """
    nodes = np.array([0.0, tank if tank > 0.0 else 1.0])
    ones = np.ones(2)
    totals = np.zeros(6)
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
        for s in range(steps):
            k = d * steps + s
            want = draw[month[d], s]
            short_before = record[SHORT]
            # What the pump gives in this step, were the float closed all through it.
            if banked:
                room = allowed[(d % 7) * steps + s]
                if cut and stored > bank[2] * bank[0]:
                    cut = False
                if stored <= bank[1] * bank[0]:
                    cut = True
                can = 0.0 if cut else rate * room
            else:
                can = flow[k]
                if can <= 0.0:
                    if running:
                        wait = wait_steps
                    elif wait > 0.0:
                        wait -= 1.0
                elif wait > 0.0:
                    wait -= 1.0
                    can = 0.0
            ran_s = 0.0
            if tank > 0.0:
                totals[:] = 0.0
                was_closed = closed
                level, closed, run_s, _ = step_level(
                    nodes, ones, tank, on, off, level, closed, step_s, want, can, totals, run_s, 1e9
                )
                record[PUMPED] += totals[1]
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
                if banked:
                    # On demand: as much of the step as what is wanted takes.
                    gives = min(can, want)
                    ran_s = step_s * gives / rate if rate > 0.0 else 0.0
                    record[SHORT] += (want - gives) * step_s
                elif can > 0.0:
                    ran_s = step_s
                record[PUMPED] += gives * step_s
                if gives > 0.0 and not running:
                    record[STARTS] += 1.0
                running = gives > 0.0
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
        if tank <= 0.0 and not banked:
            # No store: a day is judged by its litres.
            record[SHORT] = max(record[WANTED] - record[PUMPED], 0.0)
            record[SPILLED] = max(record[PUMPED] - record[WANTED], 0.0)
    state[0], state[1], state[2], state[3], state[4], state[5], state[6] = (
        level,
        stored,
        closed,
        running,
        wait,
        cut,
        run_s,
    )
