"""A large, plausible, seeded stock for the search's benchmark: pumps, panels, controllers, batteries, hoses about the shipped ones.

Every part is a shipped one with its figures moved together by up to a third, so that each stays what such a part can be.
"""

from collections.abc import Callable
from dataclasses import replace
from typing import TypeVar

import numpy as np

from squall.core.drive.motors import Motor
from squall.core.kit.parts import BatteryUnit, Controller, Hose, Panel, Part, Pump, Stock

P = TypeVar("P", bound=Part)
# Sixteen times of the benchmark's shelf.
LARGE = {"pumps": 300, "panels": 80, "controllers": 12, "batteries": 12, "hoses": 12}


def _pump(part: Pump, rng: np.random.Generator) -> Pump:
    flow, head = rng.uniform(0.75, 1.3, 2)
    motor = part.motor
    points = tuple((q * flow, h * head, a * flow * head) for q, h, a in motor.points)
    moved = Motor(
        motor.kind,
        motor.rated_v,
        points,
        motor.resistance_ohm / (flow * head),
        motor.no_load_a * flow * head,
        motor.max_v,
    )
    fuse = None if part.max_fuse_a is None else part.max_fuse_a * max(flow * head, 1.0)
    return replace(part, motor=moved, max_fuse_a=fuse, locked_rotor_a=part.locked_rotor_a * flow * head)


def _panel(part: Panel, rng: np.random.Generator) -> Panel:
    amps = float(rng.uniform(0.75, 1.3))
    module = replace(part.module, isc_a=part.module.isc_a * amps, imp_a=part.module.imp_a * amps)
    return replace(
        part, module=module, max_series_fuse_a=part.max_series_fuse_a * max(amps, 1.0), area_m2=part.area_m2 * amps
    )


def _controller(part: Controller, rng: np.random.Generator) -> Controller:
    return replace(part, max_a=part.max_a * float(rng.uniform(0.8, 1.6)))


def _battery(part: BatteryUnit, rng: np.random.Generator) -> BatteryUnit:
    charge = float(rng.uniform(0.7, 1.5))
    return replace(part, capacity_ah=part.capacity_ah * charge, internal_ohm=part.internal_ohm / charge)


def _hose(part: Hose, rng: np.random.Generator) -> Hose:
    return replace(part, rated_head_m=part.rated_head_m * float(rng.uniform(0.9, 1.6)))


def _many(
    parts: tuple[P, ...], count: int, moved: Callable[[P, np.random.Generator], P], rng: np.random.Generator
) -> tuple[P, ...]:
    """So many parts: the shipped ones first, then moved copies at their own prices."""
    found = list(parts[:count])
    while len(found) < count:
        part = parts[len(found) % len(parts)]
        price = part.price * float(rng.uniform(0.7, 1.5))
        found.append(
            replace(moved(part, rng), id=f"{part.id}-{len(found)}", name=f"{part.name} {len(found)}", price=price)
        )
    return tuple(found)


def stock_of(shipped: Stock, counts: dict[str, int], seed: int = 11) -> Stock:
    """A stock of so many parts of each family."""
    rng = np.random.default_rng(seed)
    return Stock(
        _many(shipped.pumps, counts["pumps"], _pump, rng),
        _many(shipped.panels, counts["panels"], _panel, rng),
        _many(shipped.batteries, counts["batteries"], _battery, rng),
        _many(shipped.controllers, counts["controllers"], _controller, rng),
        _many(shipped.hoses, counts["hoses"], _hose, rng),
        shipped.tanks,
    )
