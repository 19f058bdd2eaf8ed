"""A relay takes the load off a small switch; other loads share the bank. What burns is said, what they take is counted."""

import pytest

from squall.catalogue import catalogue
from squall.core.errors import NotFound
from squall.core.kit.bank import BankState, standing_a
from squall.core.kit.relays import Coil, coil_problems
from squall.core.prove.expect import unknown_light
from squall.demo import demo_jobs
from squall.formats.job_json import export, read
from squall.formats.spice import netlist
from squall.job.document.job import Job
from squall.job.edit.changes import add_device, relay_for, remove_device, turn_pilot
from squall.job.edit.rows import add_typed_row
from squall.job.fitted.parts_list import parts_list
from squall.job.told.wire import relays_for
from squall.job.trouble.chain import chain_of
from squall.job.wired.gives_way import weak_parts
from squall.job.wired.live import live_circuit
from squall.job.wired.order import order_of_joining
from squall.job.wired.terminals import terminal_map
from squall.job.worked.assess import Assessment, assess

GOATS = demo_jobs()[0]
# On its battery, with no switch in the loop but a small float's.
BANKED = add_device(GOATS.model_copy(update={"chosen": "o1", "devices": []}), "float-5", catalogue())[0]


def driven(relay: str = "relay-40-12") -> Job:
    return relay_for(BANKED, f"float-5:{relay}", catalogue())[0]


def live(a: Assessment, *opened: str):
    return live_circuit(a, a.chosen, unknown_light(20.0), opened)


def loaded(job: Job, watts: str, hours: str) -> Job:
    fields = {"name": "fence energizer", "watts": watts, "hours": hours}
    return add_typed_row(job, "bank.loads", "", fields, catalogue(), "metric")[0]


def test_a_relay_is_offered_where_a_switch_is_small_and_only_on_a_bank() -> None:
    a = assess(BANKED)
    offered = relays_for(a, a.chosen)
    assert set(offered) == {"float-5"}
    assert offered["float-5"].id == "relay-40-12", "a coil of the bank's volts"
    direct = BANKED.model_copy(update={"chosen": "o2"})
    assert relays_for(assess(direct), assess(direct).chosen) == {}
    assert relays_for(assess(driven()), assess(driven()).chosen) == {}, "it has one already"


def test_the_switch_leaves_the_load_path_for_every_judgement() -> None:
    before, after = assess(BANKED), assess(driven())
    assert before.wiring.protection.most_a == 5.0
    assert after.wiring.protection.most_a > 5.0
    assert [part.name for part in after.rules.devices] == ["relay 40 A (12 V coil)"]
    assert not after.wiring.problems
    names = [str(weak.name) for weak in weak_parts(live(after), after.wiring)]
    assert not any("float" in name for name in names)


def test_losing_the_command_stops_the_pump() -> None:
    a = assess(driven())
    runs, stopped = live(a), live(a, "pilot0")
    assert runs.motor.flow_m3_s > 0.0
    assert not runs.part("relay").open
    assert stopped.motor is None or stopped.motor.flow_m3_s == 0.0
    assert stopped.part("relay").open
    coil = runs.part("relay_coil")
    assert coil.amps_a == pytest.approx(coil.across_v / 85.0, rel=1e-9)
    assert not runs.part("relay").can_open, "a hand moves the switch, not the contact"


def test_terminals_order_parts_and_netlist_know_it() -> None:
    a = assess(driven())
    kit = live(a).kit
    wires = terminal_map(kit)
    ends = [f"{wire.first.says} > {wire.second.says}" for wire in wires]
    assert any("30" in words and "float" in words for words in ends)
    assert any("86" in words for words in ends)
    assert any("85 > terminal block" in words for words in ends)
    assert any("87" in words for words in ends)
    steps = order_of_joining(a.chosen.setup, kit, wires, unknown_light(20.0))
    assert sum(str(step.does).count("85") for step in steps) == 1
    assert "relay" in netlist(kit.circuit())
    assert any(line.key == "suppressor" for line in parts_list(a.job, a, a.chosen, {}))
    assert {way.kind for way in chain_of(a, a.chosen).switches} == {"float"} or len(chain_of(a, a.chosen).switches) == 2


def test_what_would_burn_is_said() -> None:
    bank12 = assess(driven()).chosen.kit
    said = [reason.code for reason in coil_problems(bank12, Coil("relay", 6.0, 0.1, ()))]
    assert said == ["coil-burns"]
    assert [r.code for r in coil_problems(bank12, Coil("relay", 24.0, 0.1, ()))] == ["coil-wont-pull"]
    direct = assess(driven().model_copy(update={"chosen": "o2"}))
    assert any("chatters" in str(problem) for problem in direct.wiring.problems)
    assert live(direct).motor is not None, "drawn and solved all the same"
    assert any("doesn't pull in" in str(p) for p in assess(driven("relay-40-24")).wiring.problems)


def test_coil_and_other_loads_take_their_share_of_the_day() -> None:
    plain, relay = assess(BANKED).chosen, assess(driven()).chosen
    drawn = plain.season.most_motor_a
    assert relay.use.bank.coil_a == pytest.approx(12.0 / 85.0)
    assert relay.worst_litres == pytest.approx(plain.worst_litres * drawn / (drawn + 12.0 / 85.0), rel=0.02)
    fence = assess(loaded(BANKED, "4 W", "24 h")).chosen
    assert standing_a(fence.kit, fence.use.bank) == pytest.approx(fence.kit.controller.own_a + 4.0 / fence.kit.bank_v)
    assert fence.worst_litres < 0.7 * plain.worst_litres, "96 Wh of a small panel's winter day"
    assert assess(loaded(BANKED, "4 W", "0 h")).chosen.worst_litres == pytest.approx(plain.worst_litres, rel=0.005), (
        "but for a main fuse"
    )
    assert standing_a(assess(GOATS).chosen.kit, BankState(drain_w=5.0)) == 0.0, "no bank, nothing drawn from it"


def test_other_loads_stand_in_the_circuit_behind_their_own_fuse() -> None:
    a = assess(loaded(BANKED, "30 W", "4 h"))
    now = live(a)
    assert now.part("load_fuse0").placed.rating_a == 3.0
    assert now.part("load0").amps_a == pytest.approx(30.0 / 12.6, rel=0.03)
    gone = live(a, "load_fuse0")
    assert gone.part("load0").amps_a == pytest.approx(0.0, abs=1e-6)
    assert gone.motor.flow_m3_s > 0.0, "its fuse is its own"


def test_a_pilot_goes_with_its_switch_and_a_file_keeps_it() -> None:
    job = driven()
    assert read(export(job).encode(), catalogue()).pilots == ["float-5"]
    gone, _ = remove_device(job, 0, catalogue())
    assert gone.pilots == []
    back, _ = turn_pilot(job, "float-5", catalogue())
    assert assess(back).rules.coil is None
    for wrong in ("relay-40-12", "toggle-10"):
        with pytest.raises(NotFound):
            turn_pilot(job, wrong, catalogue())
