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
    BYPASSED,
    DOWN_OHM,
    DOWN_OPEN,
    FAULTY_PANEL_V,
    FLOW,
    FLOW_SHARE,
    HEAD_SHARE,
    IDEALITY_V,
    INNER_OHM,
    KNOWN_FLOW,
    KNOWN_TURNS,
    LEAK,
    LIFT_M,
    LIGHT_A,
    LOCKED,
    LOOSE,
    MOST_A,
    MOTOR_OHM,
    NO_LOAD_A,
    OPEN_V,
    OUT_MAX_V,
    PANEL_FAULT,
    PANEL_V,
    PIPE_K,
    PUMP_A,
    PUMP_V,
    REVERSED,
    SATURATION_A,
    SCREEN_K,
    SERIES_OHM,
    SHADED,
    SHADED_LIGHT,
    SHADED_SHARE,
    SHORT_A,
    SHUNT_OHM,
    SHUT,
    SHUT_HEAD,
    SOUND,
    SOURCE_OPEN_V,
    SPEED_V,
    STOPPED,
    STRING_OPEN,
    UP_OHM,
    UP_OPEN,
    UP_REVERSED,
)  # fmt: skip

VOLTS, PANELS, CONTROLLER = 0, 1, 2
NODES = 64


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
def _falling(x, xs, ys):  # type: ignore[no-untyped-def]
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
def _rising(x, xs, ys):  # type: ignore[no-untyped-def]
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
            string_v[j] = others - _falling(-amps, panel_a, panel_v)
        else:
            # The shaded cells are the same diode with less light: the same junction at so many amps less.
            shaded = -1e9
            if amps + lost_a <= panel_a[0]:
                shaded = _falling(amps + lost_a, panel_a, panel_v) + lost_a * row[SERIES_OHM]
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
            amps[j] += _rising(volts[j], string_v, panel_a)
    return True


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
        return _rising(volts, array_v, array_a) - amps
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
def _best_power(ohms, array_v, array_a):  # type: ignore[no-untyped-def]
    """Most watts of an array behind a cable, and the volts there at the cable's end. [W], [V]"""
    best, at = 0.0, 0.0
    for j in range(NODES):
        volts = array_v[j] - array_a[j] * ohms
        if volts * array_a[j] > best and volts > 0.0:
            best, at = volts * array_a[j], volts
    return best, at


@njit(cache=True, nogil=True)
def _limited_input(watts, ohms, array_v, array_a):  # type: ignore[no-untyped-def]
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
def _panels_lit(row, in_series, in_parallel, scratch, told):  # type: ignore[no-untyped-def]
    """The array's curve into `scratch`, its marks into `told`; whether it gives anything."""
    gives = _array(row, in_series, in_parallel, scratch)
    array_v, array_a, panel_v, panel_a, string_v = scratch
    told[SOURCE_OPEN_V] = _falling(0.0, array_a, array_v) if gives else 0.0
    told[SHORT_A] = max(_rising(0.0, array_v, array_a), 0.0) if gives else 0.0
    if row[LIGHT_A] > 1e-6:
        told[PANEL_V] = _falling(0.0, panel_a, panel_v)
        fault = row[PANEL_FAULT]
        if fault == REVERSED:
            told[FAULTY_PANEL_V] = -told[PANEL_V]
        elif fault == SHADED:
            _faulty_string(row, 1, panel_v, panel_a, string_v)
            told[FAULTY_PANEL_V] = _falling(0.0, panel_a, string_v)
        elif fault == SOUND:
            told[FAULTY_PANEL_V] = told[PANEL_V]
    return gives and told[SOURCE_OPEN_V] > 0.05


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
        told[BOX_V] = best_v if full else _limited_input(watts / efficiency, row[UP_OHM], array_v, array_a)
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
            gives = _panels_lit(row, in_series, in_parallel, scratch, told)
        open_v, power, ohms = told[SOURCE_OPEN_V], 0.0, row[UP_OHM] + row[DOWN_OHM]
        if gives and row[UP_OPEN] == 0.0:
            told[BOX_V] = -open_v if row[UP_REVERSED] > 0.0 else open_v
        runs = gives and row[UP_OPEN] == 0.0
        if kind == CONTROLLER and runs:
            ohms = row[DOWN_OHM]
            power, told[BEST_V] = _best_power(row[UP_OHM], array_v, array_a)
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
