"""How long a circuit of forty parts takes, and its diagram."""

import json
import statistics
import time
from collections.abc import Callable

from squall.core.prove.expect import typed_light
from squall.demo import demo_jobs
from squall.drawing.circuit import draw_circuit
from squall.job.wired.live import live_circuit
from squall.job.wired.terminals import terminal_map
from squall.job.worked.assess import assess
from squall.sums import SUMS
from squall.sums.circuits import CircuitIn

Part = dict[str, object]
PUMP = {key: SUMS["drive"].example[key] for key in ("motor", "static_head_m", "pipes")}
MODULE = SUMS["pv-curve"].example


def median(work: Callable[[], object]) -> float:
    """Median of fifteen runs. [ms]"""
    taken = []
    for _ in range(15):
        begin = time.perf_counter()
        work()
        taken.append((time.perf_counter() - begin) * 1000.0)
    return statistics.median(taken)


def row_of(name: str, first: str, last: str, count: int) -> list[Part]:
    """So many joints and fuses in a row."""
    nodes = [first, *(f"{name}{n}" for n in range(count - 1)), last]
    return [
        {"id": f"{name}_{n}", "type": "resistor", "a": nodes[n], "b": nodes[n + 1], "ohm": 0.01} for n in range(count)
    ]


def kit_of(controlled: bool) -> list[Part]:
    """Forty parts: panels, joints, perhaps a controller, a pump."""
    pump: Part = {"id": "pump", "type": "pump", "plus": "m", "minus": "n", **PUMP}
    if not controlled:
        sun: Part = {"id": "sun", "type": "pv", "plus": "p", "minus": "z", **MODULE}
        return [sun, *row_of("u", "p", "m", 19), *row_of("d", "n", "z", 19), pump]
    one: Part = {"id": "one", "type": "pv", "plus": "p", "minus": "j", **MODULE}
    two: Part = {"id": "two", "type": "pv", "plus": "j", "minus": "z", **MODULE}
    box: Part = {
        "id": "box", "type": "controller", "pv_plus": "i", "pv_minus": "k", "out_plus": "o", "out_minus": "k",
        "efficiency": 0.93, "min_v": 12.0, "max_v": 60.0, "out_max_v": 15.0,
    }  # fmt: skip
    rows = [*row_of("u", "p", "i", 9), *row_of("d", "k", "z", 9), *row_of("x", "o", "m", 9), *row_of("y", "n", "k", 9)]
    return [one, two, box, pump, *rows]


def rows() -> list[tuple[str, str, str]]:
    """What of it, how long, how long it may."""
    found = []
    for controlled, words in ((False, "straight"), (True, "behind a controller that seeks the most power")):
        parts = kit_of(controlled)
        given = CircuitIn.model_validate_json(json.dumps({"components": parts}))
        taken = median(lambda given=given: given.circuit().solve())  # type: ignore[misc]
        found.append((f"a circuit of {len(parts)} parts, {words}", f"{taken:.1f} ms", "under 5 ms"))
    a = assess(demo_jobs()[1])
    chosen = a.chosen
    assert chosen is not None

    def drawn() -> object:
        live = live_circuit(a, chosen, typed_light(800.0, 20.0))
        wires = terminal_map(live.kit)
        return [draw_circuit(live, wires, lambda part: "#", down=down) for down in (False, True)]

    drawn()
    found.append(("circuit of a kit, solved and drawn both ways", f"{median(drawn):.0f} ms", "under 80 ms"))
    return found
