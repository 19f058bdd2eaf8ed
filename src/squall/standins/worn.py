"""A kit that wears: the same true kit, off by a few per cent from its first day, with more of each slow state at every visit."""

import copy
import random
from collections.abc import Mapping

from squall.standins.broken import Broken, broken
from squall.standins.kits import Json
from squall.standins.yard import Yard


def true_kit(stated: Json, throw: random.Random) -> Broken:
    """A kit as it truly is on its first day."""
    return broken(stated, "none", throw)


def worn(new: Broken, states: Mapping[str, float]) -> Broken:
    """The same kit, worn.

    Parameters
    ----------
    new : Broken
        As it was on its first day.
    states : mapping
        By name as in the sum ``wear``; drag as times the no-load amps. [their units]
    """
    kit = copy.deepcopy(new.kit)
    motor = kit["motor"]
    more = motor["no_load_a"] * (states.get("drag", 1.0) - 1.0)
    motor["no_load_a"] += more
    kept = 1.0 - states.get("head-lost", 0.0)
    motor["points"] = [[q, h * kept, a + more] for q, h, a in motor["points"]]
    return Broken(
        kit,
        "none",
        0.5,
        joint_ohm=states.get("joint-ohm", 0.0),
        leak=states.get("flow-lost", 0.0),
        light_share=1.0 - states.get("panel-light-lost", 0.0),
    )


def readings_of(
    new: Broken,
    states: Mapping[str, float],
    light_w_m2: float,
    air_c: float,
    checks: Mapping[str, Json],
    throw: random.Random,
) -> dict[str, object]:
    """What a person reads on it at a visit.

    Parameters
    ----------
    new : Broken
        The kit on its first day.
    states : mapping
        What has worn. [as :func:`worn`]
    light_w_m2, air_c : float
        The moment. [W/m2], [°C]
    checks : mapping
        By name, as the sum ``checks`` gives them: those that are read.
    throw : random.Random
        What the meter adds.
    """
    yard = Yard.of(worn(new, states), light_w_m2, air_c, throw)
    return {code: yard.read(check)["value"] for code, check in checks.items()}
