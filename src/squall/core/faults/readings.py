"""What every check would show on rows of one cause, and with what doubt.

Readings follow from the chain as it was worked through; only what no physics tells (a look, a hum, a valve) comes from tables.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from squall.core.circuit.parts import CLOSED_OHM, PROTECTOR_OHM
from squall.core.faults import columns as at
from squall.core.faults.chain import Chain
from squall.core.faults.checks import Check
from squall.core.faults.sweep import Swept, most_volts

Floats = NDArray[np.float64]

# What is written down for an open loop on the ohmmeter; whoever writes more than the second means it too. [ohm]
OPEN_LOOP_OHM, OPEN_FROM_OHM = 1e6, 1e5
# How often a look is wrong, and a reading a slip of hand or meter. Common practice, no source. [-]
LOOK_WRONG, SLIP = 0.04, 0.01
# A flow that a bucket doesn't tell from nothing. [m3/s]
_TRICKLE_M3_S = 5e-7


@dataclass(frozen=True)
class Reading:
    """What a measured check shows on each row: its value and one standard deviation, in SI, and the width within which it may lie. [of its kind]"""

    value: Floats
    sigma: Floats
    span: float


def _volts(value: Floats, chain: Chain) -> Reading:
    """A cheap meter: 1 % and two last digits; and a hundredth of the open volts for a model that isn't the yard."""
    most = most_volts(chain)
    digit = 0.01 if most < 20.0 else 0.1
    sigma = np.sqrt(
        (0.012 * value) ** 2 + (1.2 * digit) ** 2 + (0.004 * most * (np.abs(value) > 0.02 * most)) ** 2 + 0.02**2
    )
    return Reading(value, sigma, 2.0 * most)


def _amps(value: Floats, most: float) -> Reading:
    sigma = np.sqrt((0.03 * value) ** 2 + 0.03**2 + (0.01 * most * (np.abs(value) > 0.03 * most)) ** 2)
    return Reading(value, sigma, 2.0 * most)


def _most_amps(chain: Chain) -> float:
    most = max(amps for _, _, amps in chain.motor.points)
    array = chain.array
    return max(most, array.module.isc_a * array.in_parallel * 1.1) if array is not None else 1.5 * most


def _source_open(swept: Swept, chain: Chain) -> Reading:
    return _volts(swept.out[:, at.SOURCE_OPEN_V], chain)


def _short_amps(swept: Swept, chain: Chain) -> Reading:
    return _amps(swept.out[:, at.SHORT_A], _most_amps(chain))


def _rest_volts(swept: Swept, chain: Chain) -> Reading:
    return _volts(swept.rows[:, at.OPEN_V], chain)


def _box_volts(swept: Swept, chain: Chain) -> Reading:
    return _volts(swept.out[:, at.BOX_V], chain)


def _opened(swept: Swept, kind: float) -> NDArray[np.bool_]:
    """Rows in which the fuse (1) or a switch (2) is open, before the controller or behind it."""
    behind = np.isclose(swept.rows[:, at.DOWN_OPEN], 1.0 + 0.1 * kind)
    opened: NDArray[np.bool_] = (swept.rows[:, at.UP_OPEN] == kind) | behind
    return opened


def _across_break(swept: Swept, chain: Chain, kind: float) -> Reading:
    """Across a fuse or the switches: the source's open volts where it is open and something behind it still joins its two ends.

    A controller at rest may or may not let a meter's few microamps pass, and nobody's label says: half of the rows each way.
    """
    opened = _opened(swept, kind)
    joined = np.ones(len(opened), dtype=bool)
    if chain.controller is not None and not chain.behind_controller:
        joined = swept.draws[:, -1] < 0.5
    elif not chain.brushed:
        joined = swept.draws[:, -1] < 0.8
    ohm = PROTECTOR_OHM if kind == 1.0 else CLOSED_OHM * len(chain.switches)
    amps = np.where(np.abs(swept.out[:, at.PUMP_A]) > 0.0, swept.out[:, at.PUMP_A], 0.0)
    behind = swept.rows[:, at.OUT_MAX_V] if chain.behind_controller else swept.out[:, at.SOURCE_OPEN_V]
    return _volts(np.where(opened & joined, behind, np.where(opened, 0.0, amps * ohm)), chain)


def _fuse_volts(swept: Swept, chain: Chain) -> Reading:
    return _across_break(swept, chain, 1.0)


def _switch_volts(swept: Swept, chain: Chain) -> Reading:
    return _across_break(swept, chain, 2.0)


def _signed(swept: Swept, value: Floats) -> Floats:
    return np.where(swept.rows[:, at.BACKWARDS] > 0.0, -value, value)


def _pump_volts(swept: Swept, chain: Chain) -> Reading:
    return _volts(_signed(swept, swept.out[:, at.PUMP_V]), chain)


def _pump_amps(swept: Swept, chain: Chain) -> Reading:
    return _amps(np.abs(swept.out[:, at.PUMP_A]), _most_amps(chain))


def _ohms(value: Floats, share: float) -> Reading:
    opened = value >= OPEN_FROM_OHM
    return Reading(value, np.where(opened, 1e4, np.sqrt((share * value) ** 2 + 0.12**2)), 100.0)


def _loop_ohms(swept: Swept, _chain: Chain) -> Reading:
    broken = swept.rows[:, at.DOWN_OPEN] == 1.0
    return _ohms(np.where(broken, OPEN_LOOP_OHM, swept.rows[:, at.DOWN_OHM]), 0.04)


def _part_ohms(swept: Swept, kind: float) -> Reading:
    return _ohms(np.where(_opened(swept, kind), OPEN_LOOP_OHM, 0.02), 0.2)


def _fuse_ohms(swept: Swept, _chain: Chain) -> Reading:
    return _part_ohms(swept, 1.0)


def _switch_ohms(swept: Swept, _chain: Chain) -> Reading:
    return _part_ohms(swept, 2.0)


def _motor_ohms(swept: Swept, _chain: Chain) -> Reading:
    broken = swept.rows[:, at.DOWN_OPEN] == 2.0
    return _ohms(np.where(broken, OPEN_LOOP_OHM, swept.rows[:, at.MOTOR_OHM]), 0.08)


def _flow(flow_m3_s: Floats, chain: Chain, share: float) -> Reading:
    """A bucket: 5 % and more where the points are far; a trickle is soon miscounted."""
    most = max(flow for flow, _, _ in chain.motor.points)
    sigma = np.sqrt(
        (share * flow_m3_s) ** 2 + (0.012 * most * (flow_m3_s > 0.0)) ** 2 + (0.004 * most) ** 2 + _TRICKLE_M3_S**2
    )
    return Reading(flow_m3_s, sigma, 2.0 * most)


def _outlet(swept: Swept, chain: Chain) -> Reading:
    return _flow(swept.out[:, at.FLOW], chain, 0.06)


def _bucket(swept: Swept, chain: Chain) -> Reading:
    # With no lift the points promise little: a broad guess.
    return _flow(swept.out[:, at.BUCKET], chain, 0.12)


def _shut_head(swept: Swept, chain: Chain) -> Reading:
    value = swept.out[:, at.SHUT_HEAD]
    most = chain.motor.head_range[1]
    return Reading(value, np.sqrt((0.04 * value) ** 2 + (0.02 * most) ** 2), 2.0 * most)


def _level_drop(swept: Swept, chain: Chain) -> Reading:
    fallen = swept.rows[:, at.LIFT_M] - chain.line.static_head_m
    # The survey's own error stands in the lift of every row; half a metre is what a fall begins with.
    return Reading(np.where(fallen > 0.5 * _FALLEN_M, fallen, 0.0), np.full(len(fallen), 0.15), 8.0)


_FALLEN_M = 1.0

MEASURED: Mapping[str, Callable[[Swept, Chain], Reading]] = {
    "source-open-volts": _source_open,
    "short-circuit-amps": _short_amps,
    "battery-rest-volts": _rest_volts,
    "box-volts-on": _box_volts,
    "fuse-volts": _fuse_volts,
    "switch-volts": _switch_volts,
    "pump-volts-on": _pump_volts,
    "pump-amps-on": _pump_amps,
    "cable-loop-ohms": _loop_ohms,
    "motor-ohms": _motor_ohms,
    "fuse-ohms": _fuse_ohms,
    "switch-ohms": _switch_ohms,
    "outlet-flow": _outlet,
    "bucket-flow-no-lift": _bucket,
    "shut-off-head": _shut_head,
    "pumping-water-level-drop": _level_drop,
}

# Looks that only a cause's own name tells: the cause, and the answer it gives.
_SEEN: Mapping[str, Mapping[str, str]] = {
    "rotor-by-hand": {
        "rotor-drags": "drags", "rotor-stuck": "stuck", "impeller-misplaced": "stuck", "impeller-loose": "loose",
        "rotor-unscrewed": "loose", "stator-melted": "stuck",
    },
    "screen": {"screen-blocked": "blocked"},
    "hose": {"hose-kinked": "kinked", "ice": "kinked", "hose-leaks": "leaks", "suction-leaks": "leaks"},
    "panels": {"panels-dirty": "dirty", "panel-shaded": "shaded"},
    "polarity": {"polarity-reversed": "reversed", "phase-swapped": "reversed"},
    "air": {"air-locked": "bubbles", "intake-bare": "bubbles", "suction-leaks": "bubbles"},
    "dial": {"dial-low": "low"},
    "probe": {"probe-dirty": "dirty"},
    "outlet-valve-position": {"outlet-valve-shut": "shut"},
    "check-valve": {"check-valve-stuck": "stuck"},
}  # fmt: skip


def _soft(answers: tuple[str, ...], shares: Mapping[str, Floats], rows: int) -> Floats:
    """Shares of each answer, with looks that are wrong now and then. (rows, answers) [-]"""
    true = np.zeros((rows, len(answers)))
    for answer, share in shares.items():
        true[:, answers.index(answer)] += share
    wrong = LOOK_WRONG / (len(answers) - 1)
    looked: Floats = true * (1.0 - LOOK_WRONG - wrong) + wrong
    return looked


def _turning(code: str, swept: Swept, chain: Chain) -> dict[str, Floats]:
    amps, speed = np.abs(swept.out[:, at.PUMP_A]), swept.out[:, at.SPEED_V]
    turned = np.clip((speed / chain.motor.rated_v - 0.01) / 0.04, 0.0, 1.0)
    if code == "phase-swapped":
        return {"hums": turned, "still": 1.0 - turned}
    jammed = (swept.rows[:, at.LOCKED] > 0.0) & (not chain.brushed)
    hums = np.where(jammed & (amps > 0.05), 1.0, 0.0)
    return {"hums": hums, "turns": turned * (1.0 - hums), "still": (1.0 - turned) * (1.0 - hums)}


def _lamp(code: str, swept: Swept, chain: Chain) -> dict[str, Floats]:
    assert chain.controller is not None
    box, best = swept.out[:, at.BOX_V], swept.out[:, at.BEST_V]
    least = chain.controller.min_v
    off = (
        np.clip((0.5 * least * 1.04 - box) / (0.04 * least + 1e-9), 0.0, 1.0)
        if least > 0.0
        else np.where(box <= 0.1, 1.0, 0.0)
    )
    weak = np.clip((least * 1.02 - best) / (0.04 * least + 1e-9), 0.0, 1.0) if least > 0.0 else np.zeros(len(box))
    named = {
        "controller-input-open": "ready", "controller-waiting": "waiting", "probe-dirty": "dry", "rotor-stuck": "fault",
        "impeller-misplaced": "fault", "winding-open": "fault", "thermal-cut-out": "fault", "cable-open": "fault", "cable-bitten": "fault",
        **(dict.fromkeys(("fuse-blown", "switch-open", "timer-set-wrong"), "fault") if chain.behind_controller else {}),
    }.get(code, "running")  # fmt: skip
    shares = {"off": off, "ready": (1.0 - off) * weak}
    rest = (1.0 - off) * (1.0 - weak)
    shares[named] = shares[named] + rest if named in shares else rest
    return shares


def _known_good(swept: Swept, healthy: float) -> dict[str, Floats]:
    turns = swept.out[:, at.KNOWN_TURNS]
    weak = np.clip((0.88 - swept.out[:, at.KNOWN_FLOW] / max(healthy, 1e-9)) / 0.2, 0.0, 1.0)
    return {"dead": 1.0 - turns, "weak": turns * weak, "runs": turns * (1.0 - weak)}


def _float_moves(code: str, chain: Chain, rows: int) -> dict[str, Floats]:
    among = {"switch-open": chain.share_of_floats("switches"), "controller-input-open": chain.share_of_floats("inputs")}
    dead = np.full(rows, among.get(code, 0.0))
    return {"dead": dead, "obeys": 1.0 - dead}


def looks(check: Check, code: str, swept: Swept, chain: Chain, healthy: Swept) -> Floats:
    """How likely each answer of a look is on every row of a cause.

    Parameters
    ----------
    check : Check
        The look.
    code : str
        The cause, or ``none``.
    swept : Swept
        Its rows.
    chain : Chain
        The kit.
    healthy : Swept
        Rows with nothing wrong.

    Returns
    -------
    NDArray
        (rows, answers). [-]
    """
    rows = len(swept.out)
    if check.code == "turns":
        shares = _turning(code, swept, chain)
    elif check.code == "lamp":
        shares = _lamp(code, swept, chain)
    elif check.code == "known-good-source":
        shares = _known_good(swept, float(healthy.out[:, at.KNOWN_FLOW].mean()))
    elif check.code == "float-by-hand":
        shares = _float_moves(code, chain, rows)
    else:
        shares = {_SEEN[check.code].get(code, check.answers[0]): np.ones(rows)}
    return _soft(check.answers, shares, rows)


def panel_volts(swept: Swept, chain: Chain) -> tuple[Reading, Reading, bool]:
    """Of a sound panel, of the one that a cause may have, and whether there is such a one."""
    whole, one = swept.out[:, at.PANEL_V], swept.out[:, at.FAULTY_PANEL_V]
    wrong = bool((swept.rows[:, at.PANEL_FAULT] > at.SOUND).any())
    return _volts(whole, chain), _volts(one, chain), wrong
