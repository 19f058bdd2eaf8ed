"""The terminal map joins whatever the circuit joins: isolators, bus bars, relays and other loads on every kind of supply."""

from dataclasses import replace

import pytest

from squall.core.circuit.laid import KitCircuit
from squall.core.prove.expect import typed_light
from squall.demo import demo_jobs
from squall.job.document.base import quantity
from squall.job.document.job import Job
from squall.job.document.power import LoadRow
from squall.job.wired.live import live_circuit
from squall.job.wired.order import order_of_joining
from squall.job.wired.terminals import Wire, terminal_map, terminal_of
from squall.job.worked.assess import Assessment, assess
from squall.words import Voice, speaking
from squall.words.units import text


def on_bank(job: Job, *loads: tuple[str, float]) -> Job:
    rows = [
        LoadRow(id=f"b{n}", name=name, watts=quantity(f"{watts} W", watts)) for n, (name, watts) in enumerate(loads)
    ]
    return job.model_copy(update={"chosen": "o1", "bank": job.bank.model_copy(update={"loads": rows})})


GOATS, TERRACES, DUCKS, DONKEYS, _ = demo_jobs()
KITS = {
    "straight": GOATS,
    "straight, isolator": DONKEYS.model_copy(update={"devices": ["isolator-32", "toggle-20"]}),
    "controller": TERRACES,
    "controller, plugs and isolator": TERRACES.model_copy(update={"devices": ["plug-30", "isolator-32"]}),
    "bank": on_bank(GOATS),
    "bank, relay": on_bank(GOATS).model_copy(update={"devices": ["float-5", "relay-40-12"], "pilots": ["float-5"]}),
    "bank, bars": on_bank(GOATS, ("lamp", 12.0), ("fence", 8.0)),
    "bank, all": on_bank(GOATS, ("lamp", 12.0)).model_copy(
        update={"devices": ["isolator-32", "plug-30", "float-5", "relay-40-12"], "pilots": ["float-5"]}
    ),
    "bilge": DUCKS,
}


def worked(name: str) -> tuple[Assessment, KitCircuit, tuple[Wire, ...]]:
    a = assess(KITS[name])
    assert a.chosen is not None
    live = live_circuit(a, a.chosen, typed_light(800.0, 20.0))
    return a, live.kit, terminal_map(live.kit)


class Joined:
    """Terminals that wires have made one."""

    def __init__(self) -> None:
        self.up: dict[str, str] = {}

    def root(self, label: str) -> str:
        above = self.up.setdefault(label, label)
        return label if above == label else self.root(above)

    def join(self, one: str, other: str) -> None:
        self.up[self.root(one)] = self.root(other)


@pytest.mark.parametrize("name", KITS)
def test_what_stands_at_one_node_is_joined_by_wires_and_nothing_else_is(name: str) -> None:
    _, kit, wires = worked(name)
    joined = Joined()
    for wire in wires:
        if wire.link:
            joined.join(str(wire.first.says), str(wire.second.says))
    cores = dict(
        zip((one.id for one in kit.placed if one.kind == "core"), (w for w in wires if not w.link), strict=True)
    )
    at: dict[str, set[str]] = {}
    for one in kit.placed:
        if one.kind in ("panel", "string-fuse"):
            continue
        if one.kind == "core":
            wire, nodes = cores[one.id], one.ends if one.pole == "plus" else one.ends[::-1]
            for node, end in zip(nodes, (wire.first, wire.second), strict=True):
                at.setdefault(node, set()).add(str(end.says))
            continue
        of_box = one.kind in ("controller", "charger")
        nodes = {*one.ends, one.common} if not of_box else {*one.ends, one.common, getattr(one.part, "out_plus", "")}
        for node in nodes - {""}:
            at.setdefault(node, set()).add(f"{one.name}, {terminal_of(one, node)}")
    of_node: dict[str, str] = {}
    for node, labels in at.items():
        roots = {joined.root(label) for label in labels}
        if node.startswith("array"):
            continue
        assert len(roots) == 1, (node, labels)
        assert of_node.setdefault(roots.pop(), node) == node


@pytest.mark.parametrize("name", [name for name in KITS if name.startswith("bank")])
def test_every_minus_ring_is_named_and_put_on_last(name: str) -> None:
    a, kit, wires = worked(name)
    assert a.chosen is not None
    steps = order_of_joining(a.chosen.setup, kit, wires, typed_light(800.0, 20.0))
    rings = [
        wire.number
        for wire in wires
        if str(wire.colour) == "black" and "battery" in (wire.first.kind, wire.second.kind)
    ]
    assert rings
    last = next(step for step in steps if "last of all" in str(step.does))
    assert f"wire {', '.join(map(str, rings))}, last of all" in str(last.does)


@pytest.mark.parametrize("name", KITS)
def test_no_wire_of_a_box_bears_less_than_the_fuse_before_it(name: str) -> None:
    a, kit, wires = worked(name)
    assert a.wiring is not None
    ratings = {
        str(one.name): one.rating_a for one in kit.placed if one.kind in ("fuse", "main-fuse", "load-fuse", "breaker")
    }
    for wire in wires:
        rating = ratings.get(str(wire.first.at))
        if rating is not None and wire.link:
            assert wire.conductor.ampacity_30c_a >= rating, wire


def test_an_isolator_parts_both_rails_at_once_and_the_panels_stay_live() -> None:
    a = assess(KITS["controller, plugs and isolator"])
    assert a.chosen is not None
    live = live_circuit(a, a.chosen, typed_light(800.0, 20.0), ["device1"])
    assert live.opened == ("device1", "device1_minus")
    assert live.part("device1_minus").open
    assert live.part("motor").amps_a == pytest.approx(0.0, abs=1e-9)
    assert live.part("panel1_1").live


def test_what_stands_on_the_panels_side_is_judged_by_the_panels_and_not_by_the_pump() -> None:
    # 7 m of string volts in the cold and 1.25 times the short-circuit amps, though the pump behind the box sees 14 V.
    small = TERRACES.parts
    assert not small
    for device, code in (("toggle-10", None), ("isolator-32", None), ("plug-30", None)):
        a = assess(TERRACES.model_copy(update={"devices": [device]}))
        assert a.wiring is not None
        assert [getattr(p, "code", "") for p in a.wiring.before_problems] == ([code] if code else [])
    three = [
        row.model_copy(update={"in_parallel": 6}) if row.id == TERRACES.chosen else row for row in TERRACES.options
    ]
    a = assess(TERRACES.model_copy(update={"devices": ["plug-30"], "options": three}))
    assert a.wiring is not None
    short = a.chosen.kit.panel.module.isc_a * 6 * 1.25 if a.chosen else 0.0
    assert [getattr(p, "code", "") for p in a.wiring.before_problems] == (
        ["part-too-small-for-panels"] if short > 30.0 else []
    )
    assert short > 30.0
    assert a.wiring.before_problems[0] in a.wiring.problems


def test_a_main_fuse_counts_all_that_runs_at_once_and_a_bank_of_too_many_loads_is_said() -> None:
    a = assess(KITS["bank, bars"])
    assert a.wiring is not None
    assert a.chosen is not None
    bars = a.wiring.bars
    assert bars is not None
    volts = a.chosen.kit.bank_v
    assert bars.main.amps_a == pytest.approx(a.wiring.continuous_a + 20.0 / volts)
    assert bars.main.fuse_a is not None
    assert bars.main.fuse_a >= 1.25 * bars.main.amps_a
    assert bars.main.fuse_a >= (a.wiring.protection.rating_a or 0.0)
    huge = assess(on_bank(GOATS, *((f"heater {n}", 900.0) for n in range(3))))
    assert huge.wiring is not None
    assert any("no fuse of the table is so large" in str(problem) for problem in huge.wiring.problems)


def test_how_tight_stands_where_a_maker_says() -> None:
    """By the part, at its own screws; what two sellers state two ways of is told by nobody."""
    a = assess(TERRACES.model_copy(update={"chosen": "o2", "protection": "breaker"}))
    ends = [
        (str(end.at), str(end.made))
        for wire in terminal_map(live_circuit(a, a.chosen, typed_light(800.0, 20.0)).kit)
        for end in (wire.first, wire.second)
    ]  # fmt: skip
    box = a.chosen.kit.controller
    assert box.torque_nm is not None
    assert {made for at, made in ends if at == box.title} == {
        f"ferrule under the screw, {text(box.torque_nm, 'torque')}"
    }
    rating = a.wiring.protection.rating_a
    stated = next(p.torque_nm for p in a.parts.protectors.values() if (p.kind, p.rating_a) == ("breaker", rating))
    assert any(at == "the pump's breaker" and text(stated, "torque") in made for at, made in ends)
    assert not any("N·m" in made for at, made in ends if a.chosen.kit.pump.title in at)
    with speaking(Voice("us")):
        said = [
            str(end.made)
            for wire in terminal_map(live_circuit(a, a.chosen, typed_light(800.0, 20.0)).kit)
            for end in (wire.first, wire.second)
        ]
        assert any("in·lb" in made for made in said)
        assert not any("N·m" in made for made in said)
    other = replace(a.parts.protectors["snap-16"], id="mine", torque_nm=2.0)
    two = replace(a.rules, protectors=(*a.rules.protectors, other))
    assert ("breaker", 16.0) not in two.torque_of
    assert two.torque_of["breaker", 10.0] == 1.2
