"""A motor of three wires: only behind a controller that drives three, fuse and switches before it, three cores to the pump."""

import pytest

from squall.catalogue import catalogue
from squall.core.advice.refusals import supply_refusal, wires_refusal
from squall.core.drive.solve import solve
from squall.core.kit.supply import Banked, Controlled, Direct
from squall.core.prove.expect import typed_light
from squall.demo import demo_jobs
from squall.job.document.job import Job
from squall.job.fitted.cutlist import cut_list
from squall.job.trouble.chain import chain_of
from squall.job.wired.gives_way import weak_parts
from squall.job.wired.live import live_circuit
from squall.job.wired.order import order_of_joining
from squall.job.wired.terminals import input_lines, terminal_map
from squall.job.worked.assess import Assessment, assess

DONKEYS = demo_jobs()[3]
PARTS = catalogue()
SLOTS = {
    "pump": "auger-9t", "source": "controller", "controller": "warden-48t", "panel": "ridge-215", "in_series": 2, "in_parallel": 1,
    "array_cable": "mm2:4", "pump_cable": "mm2:4",
}  # fmt: skip


def fitted(*devices: str, **change: object) -> Job:
    option = DONKEYS.option.model_copy(update={**SLOTS, **change})
    return DONKEYS.model_copy(update={"options": [option], "devices": list(devices), "protection": "breaker"})


def worked(job: Job) -> Assessment:
    a = assess(job)
    assert a.chosen is not None
    assert a.wiring is not None
    return a


def test_it_is_refused_by_panels_by_a_bank_and_by_a_controller_of_two() -> None:
    pump, two = PARTS.pumps["auger-9t"], PARTS.pumps["auger-12"]
    bank = Banked(PARTS.controllers["sluice-30"], PARTS.batteries["anvil-75"], 4)
    assert wires_refusal(pump, Direct()).code == "three-wires-want-controller"
    assert wires_refusal(pump, bank).code == "three-wires-want-controller"
    assert wires_refusal(pump, Controlled(PARTS.controllers["warden-48"])).code == "controller-drives-other-wires"
    assert wires_refusal(two, Controlled(PARTS.controllers["warden-48t"])).code == "controller-drives-other-wires"
    assert wires_refusal(pump, Controlled(PARTS.controllers["warden-48t"])) is None
    assert wires_refusal(two, Direct()) is None
    a = worked(fitted(controller="warden-48"))
    assert a.chosen.refusal is not None
    assert "2 wires" in str(a.chosen.refusal)
    assert worked(fitted()).chosen.refusal is None


def test_nobody_saying_how_many_is_no_reason() -> None:
    from dataclasses import replace

    pump = replace(PARTS.pumps["auger-9t"], motor_wires=None)
    held = Controlled(replace(PARTS.controllers["warden-48"], motor_wires=None))
    assert wires_refusal(pump, Controlled(PARTS.controllers["warden-48t"])) is None
    assert wires_refusal(PARTS.pumps["auger-9t"], held) is None
    assert wires_refusal(pump, Direct()) is None


def test_the_ranking_and_the_kit_ask_the_same() -> None:
    a = worked(fitted())
    assert supply_refusal(a.chosen.kit) is None


def test_fuse_and_switches_stand_before_the_controller_and_are_judged_by_the_panels() -> None:
    a = worked(fitted("isolator-32", "toggle-20"))
    kinds = [one.kind for one in live_circuit(a, a.chosen, typed_light(800.0, 20.0)).kit.placed]
    assert kinds.index("isolator") < kinds.index("breaker") < kinds.index("switch") < kinds.index("controller")
    panels = a.chosen.kit.panel.module
    assert a.wiring.protection.least_a == pytest.approx(1.25 * 1.25 * panels.isc_a)
    assert a.wiring.loop_v == pytest.approx(a.wiring.open_cold_v)
    assert any("toggle switch 20 A is made for 30" in str(problem) for problem in a.wiring.problems)
    cable = next(run for run in a.wiring.runs if run.key == "pump")
    assert cable.bears_a == a.chosen.kit.controller.max_a, "nothing but the controller holds its amps back"
    assert all(
        weak.name != "isolator 32 A (both poles)"
        for weak in weak_parts(live_circuit(a, a.chosen, typed_light(800.0, 20.0)), a.wiring)
    )


@pytest.mark.parametrize("light", [300.0, 900.0])
def test_circuit_and_drive_agree(light: float) -> None:
    a = worked(fitted("isolator-32"))
    now, setup = typed_light(light, 20.0), a.chosen.setup
    drive = solve(setup.source_at(light, now.cell_c), setup.pump_ohm, setup.kit.pump.motor, setup.line)
    assert live_circuit(a, a.chosen, now).part("motor").amps_a == pytest.approx(drive.motor_a, rel=1e-3)


def test_three_cores_on_map_cuts_and_price_and_no_meter_of_two_leads() -> None:
    a = worked(fitted())
    wires = terminal_map(live_circuit(a, a.chosen, typed_light(800.0, 20.0)).kit)
    last = wires[-3:]
    assert [str(wire.second.terminal) for wire in last] == ["lead 1", "lead 2", "lead 3"]
    assert [wire.number for wire in wires] == list(range(1, len(wires) + 1))
    lines = {line.key: line for line in cut_list(a.job, a, a.chosen)}
    assert "three-core" in str(lines["cable-4 mm²-3"].name)
    assert len(lines["sleeve"].pieces) == 3
    two = worked(fitted(pump="auger-12", controller="warden-48"))
    metres = a.job.pump_cable.si
    pumps = PARTS.pumps["auger-9t"].price - PARTS.pumps["auger-12"].price
    boxes = PARTS.controllers["warden-48t"].price - PARTS.controllers["warden-48"].price
    assert a.chosen.price - two.chosen.price == pytest.approx(pumps + boxes + 0.5 * metres * (0.35 + 0.42 * 4.0))
    lines = " ".join(str(line) for line in input_lines(a.chosen.kit))
    assert "milliamps" in lines
    assert "Probe" in lines
    assert "is bridged" in lines
    assert input_lines(worked(DONKEYS).chosen.kit) == ()
    chain = chain_of(a, a.chosen)
    assert not chain.two_wires
    assert set(chain.inputs) == {"float", "probe"}
    assert not chain.behind_controller


def test_the_order_has_all_three_labelled_and_read_alike() -> None:
    a = worked(fitted())
    live = live_circuit(a, a.chosen, typed_light(800.0, 20.0))
    steps = order_of_joining(a.chosen.setup, live.kit, terminal_map(live.kit), typed_light(800.0, 20.0))
    assert "Label all three" in str(steps[1].bites)
    assert "between each two of the three" in str(steps[1].check)
    assert "controller's input" in str(steps[-1].check)


def test_an_input_that_opens_stops_its_controller_and_stands_on_neither_rail() -> None:
    a = worked(fitted())
    now = typed_light(800.0, 20.0)
    closed = live_circuit(a, a.chosen, now)
    inputs = [part for part in closed.parts if part.signals]
    assert [part.placed.id for part in inputs] == ["input_float", "input_probe"]
    assert all(part.amps_a == 0.0 and part.live and part.can_open for part in inputs)
    assert closed.motor is not None
    for ident in ("input_float", "input_probe"):
        stopped = live_circuit(a, a.chosen, now, [ident])
        assert stopped.motor is None
        assert stopped.part(ident).open
        assert stopped.part("motor").amps_a == pytest.approx(0.0, abs=1e-6)
        assert stopped.part("controller").live, "its panels still feed it"
