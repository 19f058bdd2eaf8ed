"""A kit as a circuit: what must balance, what floats, what relays and controllers do, and what is refused."""

import itertools
import math

import pytest
from circuits import (
    CENTRIFUGAL,
    DISPLACEMENT,
    MODULE,
    PIPES,
    Part,
    battery,
    by_chance,
    controller,
    fuse,
    ohms,
    pump,
    pv,
    relay,
    supply,
    switch,
)

from squall.core.circuit import controllers
from squall.core.circuit.blocks import Edge
from squall.core.circuit.curves import PanelCurve, Straight
from squall.core.circuit.parts import Controller, Panels, Resistor
from squall.core.circuit.solve import Circuit
from squall.core.drive.solve import PvArray
from squall.core.electrics.modules import Module
from squall.core.errors import BadCircuit
from squall.sums import run
from squall.sums.circuits import CircuitOut
from squall.sums.registry import BadSum

LIKE = Module(voc_v=22.1, isc_a=5.2, vmp_v=18.0, imp_a=4.9, cells=36, isc_percent_per_k=0.05, voc_percent_per_k=-0.32)
ENDS = {"diode": ("anode", "cathode"), "relay": ("contact_a", "contact_b")}
SOURCES = ("pv", "battery", "supply")


def solved(*parts: Part, probes: list[tuple[str, str]] | None = None) -> CircuitOut:
    answer = run("circuit", {"components": list(parts), "probes": [list(pair) for pair in probes or []]})
    assert isinstance(answer, CircuitOut)
    return answer


def settled(parts: list[Part]) -> CircuitOut | None:
    """The answer; None where a relay chatters, which is all that may be refused."""
    try:
        return solved(*parts)
    except BadCircuit as error:
        if "settles" in str(error):
            return None
        raise


def unbalanced(parts: list[Part], answer: CircuitOut) -> float:
    """The most amps that come to a node and don't leave it. [A]"""
    left: dict[str, float] = {}

    def carry(a: str, b: str, amps: float) -> None:
        left[a] = left.get(a, 0.0) - amps
        left[b] = left.get(b, 0.0) + amps

    for part in parts:
        first, second = ENDS.get(part["type"], ("plus", "minus") if "plus" in part else ("a", "b"))
        amps = answer.component_a[part["id"]]
        carry(part[first], part[second], -amps if part["type"] in SOURCES else amps)
        if part["type"] == "relay" and part["coil_a"] in answer.node_v and part["coil_b"] in answer.node_v:
            volts = answer.node_v[part["coil_a"]] - answer.node_v[part["coil_b"]]
            carry(part["coil_a"], part["coil_b"], volts / part["coil_ohm"])
    return max((abs(amps) for node, amps in left.items() if node in answer.node_v), default=0.0)


def test_every_node_balances_in_circuits_by_chance() -> None:
    counted = 0
    for seed in range(200):
        parts = by_chance(seed)
        answer = settled(parts)
        if answer is None:
            continue
        assert unbalanced(parts, answer) < 1e-6, seed
        assert all(math.isfinite(volts) for volts in answer.node_v.values()), seed
        counted += 1
    assert counted > 180


@pytest.mark.parametrize("motor", [CENTRIFUGAL, DISPLACEMENT], ids=["centrifugal", "displacement"])
@pytest.mark.parametrize("light", [30.0, 120.0, 400.0, 1000.0])
@pytest.mark.parametrize("box", [False, True], ids=["direct", "controller"])
def test_a_kit_as_a_circuit_gives_what_the_drive_gives(motor: dict, light: float, box: bool) -> None:
    head = 6.0 if motor is CENTRIFUGAL else 35.0
    sun = {"module": MODULE, "modules_in_series": 2, "irradiance_w_per_m2": light, "cell_temperature_c": 40.0}
    limits = {"efficiency": 0.93, "min_v": 12.0, "max_v": 60.0, "out_max_v": 15.0}
    source = {"type": "pv-controller", **sun, **limits} if box else {"type": "pv", **sun}
    drive = run("drive", {
        "source": source, "cable_resistance_ohm": 0.3, "motor": motor, "static_head_m": head, "pipes": PIPES,
    })  # fmt: skip
    array = pv("sun", "array", "back", light, 40.0, modules_in_series=2)
    middle = [controller()] if box else [ohms("lead", "array", "out", 0.0)]
    answer = solved(
        array, *middle, ohms("to", "out", "m", 0.15), pump("p", "m", "n", head, motor), ohms("from", "n", "back", 0.15)
    )
    assert answer.component_a["p"] == pytest.approx(drive.motor_a, rel=1e-6, abs=1e-7)
    assert answer.node_v["m"] - answer.node_v["n"] == pytest.approx(drive.motor_v, rel=1e-6, abs=1e-7)
    if drive.flow_l_per_min is not None:
        assert answer.flow_l_per_min["p"] == pytest.approx(drive.flow_l_per_min, rel=1e-5, abs=1e-6)


def test_panels_one_at_a_time_are_the_array() -> None:
    one = solved(
        pv("sun", "a", "0", modules_in_series=2, strings_in_parallel=2), pump("p", "a", "0", 30.0, DISPLACEMENT)
    )
    four = solved(
        pv("a1", "a", "j"),
        pv("a2", "j", "0"),
        pv("b1", "a", "k"),
        pv("b2", "k", "0"),
        pump("p", "a", "0", 30.0, DISPLACEMENT),
    )
    assert four.component_a["p"] == pytest.approx(one.component_a["p"], rel=1e-9)
    assert four.component_a["a1"] == pytest.approx(one.component_a["sun"] / 2, rel=1e-9)


def test_a_reversed_panel_takes_from_the_string_and_a_pump_reversed_gives_no_water() -> None:
    right = solved(pv("one", "a", "j"), pv("two", "j", "0"), ohms("r", "a", "0", 8.0))
    wrong = solved(pv("one", "a", "j"), pv("two", "0", "j"), ohms("r", "a", "0", 8.0))
    assert wrong.component_a["r"] < 0.05 * right.component_a["r"]
    back = solved(battery("b", "post", "0"), pump("p", "0", "post"))
    assert back.component_a["p"] < 0.0
    assert back.flow_l_per_min["p"] == 0.0
    assert back.regime["p"] == "backwards"
    ahead = solved(battery("b", "post", "0"), pump("p", "post", "0", 40.0))
    assert ahead.regime["p"] == "no-flow"
    assert -back.component_a["p"] == pytest.approx(ahead.component_a["p"], rel=1e-9)


def test_a_held_rotor_draws_volts_over_ohms_and_the_fuse_would_open() -> None:
    answer = solved(
        battery("b", "post", "0", 12.6, 0.05), fuse("f", "post", "m", 10.0), pump("p", "m", "0", locked=True)
    )
    assert answer.component_a["p"] == pytest.approx(12.6 / (0.05 + 0.005 + CENTRIFUGAL["resistance_ohm"]))
    assert answer.would_open == ["f"]
    assert solved(battery("b", "post", "0"), fuse("f", "post", "m"), pump("p", "m", "0")).would_open == []


def test_what_is_open_floats_and_a_meter_across_it_reads_the_source() -> None:
    answer = solved(
        battery("b", "post", "0"), fuse("f", "post", "x", blown=True), switch("s", "x", "m", closed=False), pump("p", "m", "0"),
        probes=[("post", "x"), ("x", "m"), ("m", "0"), ("post", "m"), ("post", "0")],
    )  # fmt: skip
    assert answer.floating == ["x"]
    assert "x" not in answer.node_v
    assert answer.node_v["m"] == 0.0
    across_fuse, across_switch, at_pump, both, source = answer.probe_v
    assert across_fuse == 0.0, "nothing comes back from beyond an open switch"
    assert across_switch == 0.0
    assert at_pump == 0.0
    assert both == pytest.approx(12.6, rel=1e-6), "the meter closes the loop through the motor"
    assert source == pytest.approx(12.6, rel=1e-6)


def test_a_meter_loads_what_is_weak() -> None:
    answer = solved(battery("b", "a", "0"), ohms("leak", "a", "x", 10e6), probes=[("x", "0")])
    assert answer.node_v["x"] == pytest.approx(12.6)
    assert answer.probe_v == [pytest.approx(6.3, rel=1e-6)]


def test_a_relay_pulls_in_by_volts_either_way_round_and_its_contact_may_be_closed_at_rest() -> None:
    for volts, closed in ((7.9, False), (8.1, True)):
        answer = solved(battery("b", "a", "0", volts, 0.0), relay("k", ("a", "0"), ("a", "m")), pump("p", "m", "0"))
        assert answer.closed["k"] is closed, volts
    turned = relay("k", ("0", "a"), ("a", "m"), contact="normally-closed")
    assert solved(battery("b", "a", "0"), turned, pump("p", "m", "0")).closed["k"] is False


def test_a_contact_that_feeds_its_own_coil_holds_what_it_was_reached_from() -> None:
    # Released it stays released; a second way to the coil pulls it in, and then it holds itself.
    own = [battery("b", "a", "0"), relay("k", ("c", "0"), ("a", "c")), pump("p", "c", "0")]
    assert solved(*own).closed["k"] is False
    assert solved(*own, ohms("button", "a", "c", 1.0)).closed["k"] is True


def test_a_relay_that_takes_away_its_own_volts_is_named() -> None:
    with pytest.raises(BadCircuit, match="buzzer never settles"):
        solved(battery("b", "a", "0"), relay("buzzer", ("c", "0"), ("a", "c"), contact="normally-closed"))


def test_a_supply_gives_its_amps_and_takes_nothing_back() -> None:
    short = solved(supply("s", "a", "0", 12.0, 2.5), ohms("r", "a", "0", 0.1))
    assert short.component_a["s"] == pytest.approx(2.5)
    above = solved(supply("s", "a", "0", 12.0, 2.5), battery("b", "a", "0", 13.0))
    assert above.component_a["s"] == pytest.approx(0.0, abs=1e-12)
    assert above.node_v["a"] == pytest.approx(13.0)


def test_a_controller_keeps_its_window_its_dial_and_its_power() -> None:
    sun, load = pv("sun", "array", "back", 1000.0, strings_in_parallel=2), ohms("load", "out", "back", 3.0)
    answer = solved(sun, controller(), load)
    assert answer.node_v["out"] == pytest.approx(15.0)
    taken = answer.controller_input_a["box"] * answer.node_v["array"]
    assert 15.0 * answer.component_a["box"] == pytest.approx(0.93 * taken, rel=1e-6)
    assert answer.node_v["array"] > MODULE["vmp_v"] * 0.95, "on the side of higher volts"
    assert solved(sun, controller(dial=0.5), load).node_v["out"] == pytest.approx(7.5)
    for change in ({"runs": False}, {"max_v": 19.0}, {"min_v": 19.0}, {"dial": 0.0}):
        assert solved(sun, controller(**change), load).component_a["box"] == 0.0, change


def test_a_controller_finds_the_higher_of_two_tops() -> None:
    bypass = {"id": "by", "type": "diode", "anode": "back", "cathode": "j", "saturation_a": 1e-7, "slope_v": 0.03}
    for dim in (120.0, 700.0):
        parts = [pv("one", "array", "j", 900.0), pv("two", "j", "back", dim), bypass]
        best = 0.0
        for volts in (0.1 * n for n in range(1, 460)):
            held = solved(*parts, {**battery("hold", "array", "back", volts, 0.0)})
            best = max(best, -volts * held.component_a["hold"])
        answer = solved(*parts, controller(min_v=5.0), ohms("load", "out", "back", 0.3))
        got = answer.controller_input_a["box"] * (answer.node_v["array"] - answer.node_v["back"])
        assert best <= got * (1.0 + 1e-6), dim
        assert got == pytest.approx(best, rel=0.01), dim


@pytest.mark.parametrize(
    ("parts", "words"),
    [
        ([ohms("r", "a", "b", 1.0), switch("s", "a", "b")], "Nothing feeds"),
        ([battery("b", "a", "0"), ohms("b", "a", "0", 1.0)], "Two parts are called b"),
        ([battery("b", "a", "a")], "joined to itself"),
        ([battery("b", "a", "0", 12.0, 0.0), battery("c", "a", "0", 6.0, 0.0)], "no resistance"),
    ],
)
def test_what_cannot_be_is_refused_in_words(parts: list[Part], words: str) -> None:
    with pytest.raises(BadCircuit, match=words):
        solved(*parts)


def test_a_meter_in_the_air_and_a_fuse_for_nothing_are_refused() -> None:
    with pytest.raises(BadCircuit, match="held on nowhere"):
        solved(battery("b", "a", "0"), probes=[("a", "nowhere")])
    with pytest.raises(BadSum, match="rating_a"):
        solved(battery("b", "a", "0"), fuse("f", "a", "0", 0.0))


def test_the_reference_is_node_0_or_the_first_sources_minus() -> None:
    assert solved(pv("sun", "a", "back"), ohms("r", "a", "back", 5.0)).reference == "back"
    assert solved(pv("sun", "a", "back"), ohms("r", "a", "0", 5.0), ohms("s", "0", "back", 1.0)).node_v["0"] == 0.0


def test_a_row_of_parts_has_the_volts_of_each_between() -> None:
    nodes = ["post", *(f"n{n}" for n in range(20)), "m"]
    row = [
        ohms(f"r{n}", b, a, 0.02) if n % 2 else ohms(f"r{n}", a, b, 0.02)
        for n, (a, b) in enumerate(itertools.pairwise(nodes))
    ]
    answer = solved(battery("b", "post", "0"), *row, ohms("lamp", "m", "0", 6.0))
    amps = answer.component_a["lamp"]
    for number, (a, b) in enumerate(itertools.pairwise(nodes)):
        assert answer.node_v[a] - answer.node_v[b] == pytest.approx(0.02 * amps)
        assert answer.component_a[f"r{number}"] == pytest.approx(-amps if number % 2 else amps)


def _pump_of(motor: dict, line: dict, source: list[dict], cable_ohm: float = 0.15) -> dict:
    """A pump at the end of a cable, on a line, as the sum tells it."""
    parts = [
        *source, {"id": "core", "type": "resistor", "a": "top", "b": "lead", "ohm": cable_ohm},
        {"id": "pump", "type": "pump", "plus": "lead", "minus": "0", "motor": motor, **line},
    ]  # fmt: skip
    return run("circuit", {"components": parts, "probes": []}).model_dump()


_SUN = {
    "type": "pv", "irradiance_w_per_m2": 809.0, "cell_temperature_c": 46.3,
    "module": {"voc_v": 22.6, "isc_a": 6.42, "vmp_v": 18.6, "imp_a": 5.93, "cells": 36, "isc_percent_per_k": 0.05, "voc_percent_per_k": -0.31},
}  # fmt: skip


@pytest.mark.parametrize("bore_mm", [4.0, 5.24288, 7.0])
def test_a_blocked_membrane_pump_on_panels_has_its_answer(bore_mm: float) -> None:
    """Its amps climb steeply to its last head and then stay: between two panels' short-circuit amps a walk went round in a ring."""
    membrane = {
        "kind": "displacement", "rated_v": 24.0, "resistance_ohm": 0.6, "no_load_a": 0.5,
        "points": [[7.551, 0.0, 1.572], [6.846, 15.1, 2.726], [6.242, 30.2, 4.088], [5.638, 45.3, 5.451]],
    }  # fmt: skip
    narrow = {"length_m": 0.0, "inner_diameter_mm": bore_mm, "roughness_mm": 0.0, "minor_loss_k": 7882.5}
    hose = {"length_m": 80.0, "inner_diameter_mm": 15.8, "roughness_mm": 0.007, "minor_loss_k": 4.0}
    two = [
        {"id": "low", "plus": "middle", "minus": "0", **_SUN},
        {"id": "high", "plus": "top", "minus": "middle", **_SUN},
    ]
    answer = _pump_of(membrane, {"static_head_m": 24.73, "pipes": [hose, narrow]}, two)
    drive = run("drive", {
        "source": {**_SUN, "modules_in_series": 2}, "cable_resistance_ohm": 0.15, "motor": membrane, "static_head_m": 24.73,
        "pipes": [hose, narrow],
    }).model_dump()  # fmt: skip
    assert answer["component_a"]["pump"] == pytest.approx(drive["motor_a"], rel=1e-4)


def test_a_pump_in_a_bucket_without_pipes_has_its_answer() -> None:
    end = {
        "kind": "centrifugal", "rated_v": 36.0, "resistance_ohm": 0.8, "no_load_a": 0.4,
        "points": [[0.0, 34.05, 2.962], [10.0, 27.04, 4.146], [20.0, 13.02, 4.936], [26.0, 0.0, 5.134]],
    }  # fmt: skip
    for volts in (2.0, 17.6, 36.0):
        source = [{"id": "plug", "type": "supply", "plus": "top", "minus": "0", "set_v": volts, "max_a": 20.0}]
        answer = _pump_of(end, {"static_head_m": 0.0, "pipes": []}, source)
        speed = volts - answer["component_a"]["pump"] * (0.8 + 0.15)
        # With nothing to climb it runs where its head is nil: flow over speed as at its last point.
        assert answer["flow_l_per_min"]["pump"] == pytest.approx(26.0 * speed / (36.0 - 5.134 * 0.8), rel=1e-3)


def test_a_motor_of_much_resistance_has_its_answer() -> None:
    end = {
        "kind": "centrifugal", "rated_v": 12.0, "resistance_ohm": 1.959, "no_load_a": 0.35,
        "points": [[0.0, 13.0, 2.755], [8.8, 11.0, 4.275], [17.6, 5.515, 5.539], [24.0, 0.0, 5.89]],
    }  # fmt: skip
    hose = {"length_m": 64.0, "inner_diameter_mm": 19.1, "roughness_mm": 0.007, "minor_loss_k": 6.0}
    source = [{"id": "low", "plus": "top", "minus": "0", **_SUN}, {"id": "beside", "plus": "top", "minus": "0", **_SUN}]
    answer = _pump_of(end, {"static_head_m": 6.4, "pipes": [hose]}, source)
    assert answer["regime"]["pump"] == "pumping"


@pytest.mark.parametrize("light", [15.0, 120.0, 480.0, 1050.0])
@pytest.mark.parametrize("panels", [1, 2, 3])
def test_a_row_of_like_panels_before_a_controller_is_sought_along_one_parameter_and_answers_the_same(
    monkeypatch: pytest.MonkeyPatch, light: float, panels: int
) -> None:
    array = PvArray(LIKE, 1, 1, light, 30.0)
    nodes = ["p", *(f"j{n}" for n in range(panels - 1)), "z"]
    parts = [Panels(f"panel{n}", nodes[n], nodes[n + 1], array) for n in range(panels)]
    parts += [
        Resistor("ahead", "p", "i", 0.2), Resistor("back", "k", "z", 0.1), Resistor("load", "o", "k", 6.0),
        Controller("box", "i", "k", "o", "k", 0.93, 4.0, 80.0, 24.0),
    ]  # fmt: skip
    quick = Circuit(parts).solve()
    # Where the short way doesn't end in its steps the general one goes on: nothing half sought is told.
    monkeypatch.setattr(controllers, "_MOST_STEPS", 1)
    stopped = Circuit(parts).solve()
    asked = []
    monkeypatch.setattr(controllers, "_row_of", lambda *given: asked.append(given))
    slow = Circuit(parts).solve()
    assert asked, "the general way was gone"
    for part in quick.part_a:
        assert quick.part_a[part] == pytest.approx(slow.part_a[part], rel=1e-8, abs=1e-10)
        assert stopped.part_a[part] == pytest.approx(slow.part_a[part], rel=1e-8, abs=1e-10)


def test_strings_side_by_side_and_unlike_panels_are_no_row() -> None:
    bright, dim = (PanelCurve(PvArray(LIKE, 1, 1, light, 30.0)) for light in (800.0, 300.0))
    wire = Edge("wire", 0, "a", "plus", Straight(0.0, 0.1))
    row = [Edge("one", 0, "a", "b", bright), Edge("two", 0, "b", "minus", bright), wire]
    assert controllers._row_of(row, "plus", "minus") is not None
    assert controllers._row_of([*row[:1], Edge("two", 0, "b", "minus", dim), wire], "plus", "minus") is None
    assert controllers._row_of([*row, Edge("three", 0, "a", "minus", bright)], "plus", "minus") is None
    assert controllers._row_of([row[0], Edge("two", 0, "minus", "b", bright), wire], "plus", "minus") is None
    assert controllers._row_of([wire], "plus", "minus") is None
