"""Parts of circuits in the words of the sums, invented, and circuits made of them by chance."""

import copy
import random
from typing import Any

from squall.sums import SUMS

Part = dict[str, Any]
MODULE = SUMS["pv-curve"].example["module"]
PIPES = SUMS["drive"].example["pipes"]
CENTRIFUGAL = SUMS["drive"].example["motor"]
DISPLACEMENT = {
    "kind": "displacement", "rated_v": 24.0, "resistance_ohm": 0.6, "no_load_a": 0.5,
    "points": [[6, 5, 1.2], [5.7, 30, 2.4], [5.2, 60, 3.8]],
}  # fmt: skip


def pv(name: str, plus: str, minus: str, light: float = 800.0, cell_c: float = 45.0, **more: Any) -> Part:
    return {
        "id": name, "type": "pv", "plus": plus, "minus": minus, "module": MODULE, "irradiance_w_per_m2": light,
        "cell_temperature_c": cell_c, **more,
    }  # fmt: skip


def battery(name: str, plus: str, minus: str, volts: float = 12.6, ohm: float = 0.05) -> Part:
    return {"id": name, "type": "battery", "plus": plus, "minus": minus, "open_v": volts, "internal_ohm": ohm}


def supply(name: str, plus: str, minus: str, volts: float = 12.0, amps: float = 3.0) -> Part:
    return {"id": name, "type": "supply", "plus": plus, "minus": minus, "set_v": volts, "max_a": amps}


def ohms(name: str, a: str, b: str, ohm: float) -> Part:
    return {"id": name, "type": "resistor", "a": a, "b": b, "ohm": ohm}


def switch(name: str, a: str, b: str, closed: bool = True) -> Part:
    return {"id": name, "type": "switch", "a": a, "b": b, "closed": closed}


def fuse(name: str, a: str, b: str, amps: float = 10.0, **more: Any) -> Part:
    return {"id": name, "type": "fuse", "a": a, "b": b, "rating_a": amps, **more}


def relay(name: str, coil: tuple[str, ...], over: tuple[str, ...], pull_in_v: float = 8.0, **more: Any) -> Part:
    return {
        "id": name, "type": "relay", "coil_a": coil[0], "coil_b": coil[1], "coil_ohm": 80.0, "pull_in_v": pull_in_v,
        "contact_a": over[0], "contact_b": over[1], "contact": "normally-open", **more,
    }  # fmt: skip


def pump(name: str, plus: str, minus: str, head_m: float = 6.0, motor: Any = CENTRIFUGAL, **more: Any) -> Part:
    return {
        "id": name, "type": "pump", "plus": plus, "minus": minus, "motor": motor, "static_head_m": head_m, "pipes": PIPES,
        **more,
    }  # fmt: skip


def controller(name: str = "box", plus: str = "array", out: str = "out", minus: str = "back", **more: Any) -> Part:
    return {
        "id": name, "type": "controller", "pv_plus": plus, "pv_minus": minus, "out_plus": out, "out_minus": minus,
        "efficiency": 0.93, "min_v": 12.0, "max_v": 60.0, "out_max_v": 15.0, **more,
    }  # fmt: skip


def by_chance(seed: int) -> list[Part]:
    """Parts thrown between a few nodes: most such circuits nobody would build, and all must have their answer."""
    rng = random.Random(seed)
    nodes = [f"n{n}" for n in range(rng.randint(3, 8))]

    def two() -> list[str]:
        return rng.sample(nodes, 2)

    def source(name: str, kind: str) -> Part:
        a, b = two()
        if kind == "pv":
            light, cell = rng.choice([0.0, 150.0, 600.0, 1000.0]), rng.choice([10.0, 45.0])
            return pv(
                name, a, b, light, cell, modules_in_series=rng.choice([1, 1, 2]), strings_in_parallel=rng.choice([1, 2])
            )
        if kind == "battery":
            return battery(name, a, b, rng.choice([6.0, 12.6, 25.2]), rng.choice([0.01, 0.05, 0.5]))
        return supply(name, a, b, rng.choice([5.0, 12.0, 24.0]), rng.choice([0.5, 3.0, 10.0]))

    made = [source("s0", rng.choice(["pv", "battery", "supply"]))]
    kinds, weights = (
        ["ohms", "diode", "fuse", "switch", "relay", "pump", "pv", "battery", "supply"],
        [8, 2, 2, 3, 1, 2, 1, 1, 1],
    )
    for number in range(1, rng.randint(len(nodes), 2 * len(nodes) + 3)):
        (a, b), kind, name = two(), rng.choices(kinds, weights)[0], f"x{number}"
        match kind:
            case "ohms":
                made.append(ohms(name, a, b, round(10 ** rng.uniform(-2.5, 2.5), 4)))
            case "diode":
                slope = {"saturation_a": rng.choice([1e-9, 1e-6]), "slope_v": rng.choice([0.026, 0.04])}
                made.append({"id": name, "type": "diode", "anode": a, "cathode": b, **slope})
            case "fuse":
                made.append(fuse(name, a, b, 5.0, blown=rng.random() < 0.2))
            case "switch":
                made.append(switch(name, a, b, rng.random() < 0.7))
            case "relay":
                contact = rng.choice(["normally-open", "normally-closed"])
                made.append(relay(name, (a, b), tuple(two()), rng.choice([4.0, 8.0, 17.0]), contact=contact))
            case "pump":
                motor = copy.deepcopy(rng.choice([CENTRIFUGAL, DISPLACEMENT]))
                head = rng.choice([0.0, 2.0, 6.0, 20.0]) + (6.0 if motor["kind"] == "displacement" else 0.0)
                made.append(pump(name, a, b, head, motor, locked=rng.random() < 0.1))
            case _:
                made.append(source(name, kind))
    return made
