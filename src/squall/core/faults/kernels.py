"""The chain worked row by row, compiled by numba; :mod:`squall.core.faults.sweep` is its face.

The same equations as :mod:`squall.core.drive` and :mod:`squall.core.circuit` on tables of a hundred places (tested against
both): a first answer asks for some forty thousand working points within a third of a second.
"""

import numpy as np
from numba import njit

from squall.core.faults.columns import (
    AIR,
    AMPS_SHARE,
    BACKWARDS,
    BEST_V,
    BOX_V,
    BUCKET,
    DOWN_OHM,
    DOWN_OPEN,
    FLOW,
    FLOW_SHARE,
    HEAD_SHARE,
    INNER_OHM,
    KNOWN_FLOW,
    KNOWN_TURNS,
    LEAK,
    LIFT_M,
    LOCKED,
    LOOSE,
    MOST_A,
    MOTOR_OHM,
    NO_LOAD_A,
    OPEN_V,
    OUT_MAX_V,
    PIPE_K,
    PUMP_A,
    PUMP_V,
    SCREEN_K,
    SHUT,
    SHUT_HEAD,
    SOURCE_OPEN_V,
    SPEED_V,
    STOPPED,
    UP_OHM,
    UP_OPEN,
    UP_REVERSED,
)
from squall.core.faults.panel_kernels import NODES, best_power, limited_input, panels_lit, rising

VOLTS, PANELS, CONTROLLER = 0, 1, 2


@njit(cache=True, nogil=True)
def _even(x, top, table):  # type: ignore[no-untyped-def]
    """A table of even steps from 0 to `top`, at one place; held at its ends."""
    place = x / top * (table.size - 1)
    if place <= 0.0:
        return table[0]
    i = int(place)
    if i >= table.size - 1:
        return table[table.size - 1]
    return table[i] + (table[i + 1] - table[i]) * (place - i)


@njit(cache=True, nogil=True)
def _pump_end(speed, row, lift, pipe_k, screen_k, loss_share, shut, end):  # type: ignore[no-untyped-def]
    """Flow [m3/s] and amps at a speed, on a lift, the line's own loss and losses by the square of flow."""
    centrifugal, top_x, first, second, top_flow, losses, no_load = end
    if row[LOOSE] > 0.0:
        return 0.0, row[NO_LOAD_A]
    drag = row[NO_LOAD_A] - no_load
    k = pipe_k + screen_k
    if centrifugal:
        phi = 0.0
        over = first[0] * row[HEAD_SHARE] * speed * speed - lift
        if not shut and over > 0.0:
            low, high, f_low, f_high, side = 0.0, top_x, over, 0.0, 0
            for step in range(40):
                phi = top_x if step == 0 else low + (high - low) * f_low / (f_low - f_high)
                flow = phi * speed
                asked = lift + loss_share * _even(flow, top_flow, losses) + k * flow * flow
                f = _even(phi, top_x, first) * row[HEAD_SHARE] * speed * speed - asked
                if step == 0:
                    if f >= 0.0:
                        break
                    f_high = f
                    continue
                if abs(f) < 1e-4 * over or high - low < 1e-5 * top_x:
                    break
                if f > 0.0:
                    low, f_low = phi, f
                    f_high *= 0.5 if side == 1 else 1.0
                    side = 1
                else:
                    high, f_high = phi, f
                    f_low *= 0.5 if side == -1 else 1.0
                    side = -1
        torque = _even(phi, top_x, second) * row[AMPS_SHARE] * speed * speed
        return phi * speed, no_load * row[AMPS_SHARE] + drag + torque
    head = top_x
    if not shut:
        low, high, f_low, f_high, side = 0.0, top_x, 0.0, 0.0, 0
        for step in range(40):
            head = 0.0 if step == 0 else top_x if step == 1 else low + (high - low) * f_low / (f_low - f_high)
            flow = _even(head, top_x, first) * row[FLOW_SHARE] * speed
            f = lift + loss_share * _even(flow, top_flow, losses) + k * flow * flow - head * row[HEAD_SHARE]
            if step == 0:
                f_low = f
                if f <= 0.0:
                    break
            elif step == 1:
                f_high = f
                if f >= 0.0:
                    break
            elif abs(f) < 1e-4 * top_x or high - low < 1e-5 * top_x:
                break
            elif f > 0.0:
                low, f_low = head, f
                f_high *= 0.5 if side == 1 else 1.0
                side = 1
            else:
                high, f_high = head, f
                f_low *= 0.5 if side == -1 else 1.0
                side = -1
    flow = 0.0 if shut else _even(head, top_x, first) * row[FLOW_SHARE] * speed
    return flow, _even(head, top_x, second) * row[AMPS_SHARE] + drag


@njit(cache=True, nogil=True)
def _surplus(kind, volts, amps, row, power, array_v, array_a):  # type: ignore[no-untyped-def]
    """How much more the source could give at its leads (a controller: at its output): falls through nil at the answer."""
    if kind == VOLTS:
        return min(row[OPEN_V] - amps * row[INNER_OHM] - volts, (row[MOST_A] - amps) * 10.0)
    if kind == PANELS:
        return rising(volts, array_v, array_a) - amps
    return min(row[OUT_MAX_V] - volts, (power - volts * amps) / max(row[OUT_MAX_V], 1e-9))


@njit(cache=True, nogil=True)
def _meet(kind, ohms, row, power, array_v, array_a, most_v, lift, pipe_k, screen_k, loss_share, shut, end):  # type: ignore[no-untyped-def]
    """Speed, flow and amps at which source, cable and motor agree; speed 0 where it can't be turned."""
    loop = ohms + row[MOTOR_OHM]
    flow, needed = _pump_end(0.0, row, lift, pipe_k, screen_k, loss_share, shut, end)
    if row[LOCKED] > 0.0 or _surplus(kind, needed * loop, needed, row, power, array_v, array_a) <= 0.0:
        low, high = 0.0, needed
        if row[LOCKED] > 0.0:
            high = 2000.0
        for _ in range(60):
            amps = 0.5 * (low + high)
            if _surplus(kind, amps * loop, amps, row, power, array_v, array_a) > 0.0:
                low = amps
            else:
                high = amps
        return 0.0, 0.0, low
    low, high = 0.0, most_v
    f_low, f_high, side = 1.0, -1.0, 0
    speed, amps = 0.0, needed
    for step in range(60):
        speed = 0.5 * (low + high) if step < 3 or step % 4 == 3 else (low * f_high - high * f_low) / (f_high - f_low)
        flow, amps = _pump_end(speed, row, lift, pipe_k, screen_k, loss_share, shut, end)
        f = _surplus(kind, speed + amps * loop, amps, row, power, array_v, array_a)
        if f > 0.0:
            low, f_low = speed, f
            f_high *= 0.5 if side == 1 else 1.0
            side = 1
        else:
            high, f_high = speed, f
            f_low *= 0.5 if side == -1 else 1.0
            side = -1
        if high - low < 1e-4 * most_v:
            break
    return speed, flow, amps


@njit(cache=True, nogil=True)
def _turned(kind, ohms, row, power, best_v, efficiency, array_v, array_a, top_v, end, told):  # type: ignore[no-untyped-def]
    """What it does on its own line, with its outlet shut, and in a bucket on its own source."""
    back, air, loose = row[BACKWARDS] > 0.0, row[AIR] > 0.0, row[LOOSE]
    shut = row[SHUT] > 0.0 or back or air
    if air:
        row[LOOSE] = 1.0
    speed, flow, amps = _meet(
        kind, ohms, row, power, array_v, array_a, top_v, row[LIFT_M], row[PIPE_K], row[SCREEN_K], 1.0, shut, end
    )
    told[SPEED_V], told[PUMP_A] = speed, amps
    told[PUMP_V] = speed + amps * row[MOTOR_OHM]
    told[FLOW] = flow * (1.0 - row[LEAK])
    if kind == CONTROLLER:
        watts = (told[PUMP_V] + amps * row[DOWN_OHM]) * amps
        full = watts >= power * 0.995
        told[BOX_V] = best_v if full else limited_input(watts / efficiency, row[UP_OHM], array_v, array_a)
    else:
        told[BOX_V] = told[PUMP_V] + amps * row[DOWN_OHM]
    if not back and row[LOOSE] == 0.0 and end[0]:
        speed, flow, amps = _meet(kind, ohms, row, power, array_v, array_a, top_v, 0.0, 0.0, 0.0, 0.0, True, end)
        told[SHUT_HEAD] = end[2][0] * row[HEAD_SHARE] * speed * speed
    row[LOOSE] = loose
    if not back:
        stuffed = row[SHUT] > 1.5
        speed, flow, amps = _meet(
            kind, ohms, row, power, array_v, array_a, top_v, 0.0, 0.0, row[SCREEN_K], 0.0, stuffed, end
        )
        told[BUCKET] = flow


@njit(cache=True, nogil=True)
def _on_a_good_battery(row, known_v, array_v, array_a, top_v, end, told):  # type: ignore[no-untyped-def]
    """In a bucket, on a charged battery of a little over its rated volts; whoever joins it joins it the right way round."""
    inner, most, source_v, loose, idle = row[INNER_OHM], row[MOST_A], row[OPEN_V], row[LOOSE], row[NO_LOAD_A]
    row[INNER_OHM], row[MOST_A], row[OPEN_V] = 0.03, 1e9, known_v
    if row[BACKWARDS] > 0.0:
        row[LOOSE], row[NO_LOAD_A] = 0.0, end[6]
    stuffed = row[SHUT] > 1.5
    speed, flow, _ = _meet(VOLTS, 0.02, row, 0.0, array_v, array_a, top_v, 0.0, 0.0, row[SCREEN_K], 0.0, stuffed, end)
    row[INNER_OHM], row[MOST_A], row[OPEN_V], row[LOOSE], row[NO_LOAD_A] = inner, most, source_v, loose, idle
    told[KNOWN_FLOW], told[KNOWN_TURNS] = flow, 1.0 if speed > 0.0 else 0.0


@njit(cache=True, nogil=True)
def work(rows, kind, in_series, in_parallel, efficiency, min_v, max_v, known_v, top_v, end, out):  # type: ignore[no-untyped-def]
    """Every row's chain: on its own line, with its outlet shut, in a bucket, and in a bucket on a good battery."""
    for r in range(rows.shape[0]):
        row, told = rows[r], out[r]
        scratch = np.zeros((5, NODES))
        array_v, array_a = scratch[0], scratch[1]
        if kind == VOLTS:
            gives = row[OPEN_V] > 0.0
            told[SOURCE_OPEN_V] = row[OPEN_V]
        else:
            gives = panels_lit(row, in_series, in_parallel, scratch, told)
        open_v, power, ohms = told[SOURCE_OPEN_V], 0.0, row[UP_OHM] + row[DOWN_OHM]
        if gives and row[UP_OPEN] == 0.0:
            told[BOX_V] = -open_v if row[UP_REVERSED] > 0.0 else open_v
        runs = gives and row[UP_OPEN] == 0.0
        if kind == CONTROLLER and runs:
            ohms = row[DOWN_OHM]
            power, told[BEST_V] = best_power(row[UP_OHM], array_v, array_a)
            power *= efficiency
            stopped = row[STOPPED] > 0.0 or row[UP_REVERSED] > 0.0
            runs = not (stopped or open_v > max_v or told[BEST_V] < min_v)
        if runs and (row[DOWN_OPEN] > 1.5 or row[BACKWARDS] > 1.5):
            # An open winding, or a brushless motor the wrong way round: no current, and its leads show all the volts there are.
            told[PUMP_V] = row[OUT_MAX_V] if kind == CONTROLLER else open_v
        elif runs and row[DOWN_OPEN] == 0.0:
            _turned(kind, ohms, row, power, told[BEST_V], efficiency, array_v, array_a, top_v, end, told)
        if row[DOWN_OPEN] < 1.5:
            _on_a_good_battery(row, known_v, array_v, array_a, top_v, end, told)
