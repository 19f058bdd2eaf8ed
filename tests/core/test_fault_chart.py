"""The chart for paper: whole, leading onwards only, and ending where the fault is when it is followed in a yard."""

import json
import random

import pytest

from squall.core.faults.chart import DEEPEST, MOST_STEPS, Branch, Step, chart_of
from squall.core.faults.sweep import Lit
from squall.standins.kits import KITS
from squall.standins.yard import Yard
from squall.sums.faults import KitIn

LIGHT = 800.0
CHARTED = ("panels", "three wires", "plug-in")


def chart(name: str) -> tuple[Step, ...]:
    return chart_of(KitIn.model_validate_json(json.dumps(KITS[name])).chain(), "unknown", Lit(LIGHT, 20.0))


@pytest.mark.parametrize("name", CHARTED)
def test_every_step_is_led_to_once_and_leads_on(name: str) -> None:
    steps = chart(name)
    assert [step.number for step in steps] == sorted({step.number for step in steps})
    assert len(steps) <= MOST_STEPS
    led = [branch.step for step in steps for branch in step.branches if branch.step is not None]
    assert sorted(led) == [step.number for step in steps[1:]]
    for step in steps:
        assert all(branch.step is None or branch.step > step.number for branch in step.branches)
        assert sum(branch.share for branch in step.branches) <= 1.0 + 1e-9


def taken(step: Step, value: float | str | list[float]) -> Branch | None:
    """The branch that an answer or a reading falls into."""
    for branch in step.branches:
        if isinstance(value, str):
            if branch.answer == value:
                return branch
        elif isinstance(value, list):
            low, dead = min(value) < -1.0, any(abs(one) <= 1.0 for one in value)
            if branch.answer == ("one-reversed" if low else "one-dead" if dead else "all-alike"):
                return branch
        elif branch.answer == "open" or value >= 1e5:
            if branch.answer == "open" and value >= 1e5:
                return branch
        elif (branch.low is None or value >= branch.low - 1e-9) and (branch.high is None or value <= branch.high):
            return branch
    return None


@pytest.mark.parametrize(
    ("name", "fault"),
    [
        ("panels", "fuse-blown"), ("panels", "switch-open"), ("panels", "cable-open"), ("panels", "winding-open"),
        ("panels", "panels-dirty"), ("three wires", "controller-waiting"), ("three wires", "probe-dirty"), ("three wires", "dial-low"),
        ("plug-in", "supply-off"), ("plug-in", "rotor-stuck"),
    ],
)  # fmt: skip
def test_followed_in_a_yard_it_ends_at_the_fault(name: str, fault: str) -> None:
    steps = {step.number: step for step in chart(name)}
    yard = Yard(KITS[name], fault, LIGHT, 20.0, random.Random(4), exact=True)
    step, seen = steps[1], 0
    while True:
        value = yard.exactly(step.check.code)
        value = value / 60_000.0 if step.check.kind == "flow" else value
        branch = taken(step, value)
        assert branch is not None, (step.check.code, value, step.branches)
        seen += 1
        if branch.step is None:
            break
        step = steps[branch.step]
    assert branch.cause == fault
    assert seen <= DEEPEST
