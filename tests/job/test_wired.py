"""The kit as one circuit: the same as the drive and the sheet, its terminals, the order of joining, what gives way."""

from dataclasses import replace

import pytest

from squall.catalogue import catalogue
from squall.core.circuit import parts
from squall.core.circuit.laid import INPUTS, KitCircuit
from squall.core.drive.solve import solve
from squall.core.kit.circuit_of import Y_LEAD_OHM
from squall.core.prove.expect import expected_readings, typed_light
from squall.demo import demo_jobs
from squall.formats.build_lists import terminals_csv
from squall.job.document.job import Job
from squall.job.wired.gives_way import weak_parts
from squall.job.wired.live import kit_circuit, live_circuit
from squall.job.wired.not_yet import too_much_now
from squall.job.wired.order import order_of_joining
from squall.job.wired.terminals import plugged, terminal_map
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.kit import KitAssessment

LIGHTS = (60.0, 250.0, 800.0, 1100.0)


def changed(job: Job, **change: object) -> Job:
    """A job with its chosen kit changed."""
    options = [row if row.id != job.chosen else row.model_copy(update=change) for row in job.options]
    return job.model_copy(update={"options": options})


def kits() -> dict[str, Job]:
    goats, terraces, _, donkeys, _ = demo_jobs()
    ducks = demo_jobs()[2]
    return {
        "straight, by a float": goats,
        "behind a controller": terraces,
        "bilge": ducks,
        "in series": donkeys,
        "from a bank": goats.model_copy(update={"chosen": "o1"}),
        "three strings": changed(donkeys, in_parallel=3),
        "every device": goats.model_copy(update={"devices": ["plug-30", "toggle-20", "timer-16", "joint-20"]}),
        "a breaker": goats.model_copy(update={"protection": "breaker"}),
    }


KITS = kits()


def of(name: str) -> tuple[Assessment, KitAssessment]:
    a = assess(KITS[name])
    assert a.chosen is not None
    assert a.wiring is not None
    return a, a.chosen


def loop_ohm(kit: KitCircuit) -> float:
    """All that stands in the pump's loop besides its source: cable, fuse, contacts. [ohm]"""
    found = 0.0
    for one in kit.placed:
        if one.kind == "y-lead":
            # Of two strings both poles' stems carry all.
            found += Y_LEAD_OHM
        if one.where in ("array", "run-charge") or one.id == "charge_fuse":
            continue
        match one.part:
            case parts.Resistor() | parts.Protector():
                found += one.part.ohm
            case parts.Switch():
                found += parts.CLOSED_OHM
            case _:
                pass
    return found


@pytest.mark.parametrize("name", ["straight, by a float", "bilge", "in series", "every device", "a breaker"])
@pytest.mark.parametrize("light", LIGHTS)
def test_a_kit_fed_straight_gives_what_the_drive_gives(name: str, light: float) -> None:
    a, chosen = of(name)
    now = typed_light(light, 22.0)
    live = live_circuit(a, chosen, now)
    kit = chosen.kit
    drive = solve(kit.source_at(now.irradiance_w_m2, now.cell_c), loop_ohm(live.kit), kit.pump.motor, chosen.setup.line)
    assert live.part("motor").amps_a == pytest.approx(drive.motor_a, rel=1e-6, abs=1e-9)
    assert (
        abs((live.motor.flow_m3_s if live.motor else 0.0) - (drive.flow_m3_s or 0.0))
        <= 1e-3 * (drive.flow_m3_s or 0.0) + 1e-12
    )


@pytest.mark.parametrize("name", KITS)
def test_the_sheet_and_the_diagram_read_the_same(name: str) -> None:
    a, chosen = of(name)
    if chosen.kit.in_series * chosen.kit.panel.module.voc_v > 60.0:
        return
    now = typed_light(700.0, 20.0)
    live = live_circuit(a, chosen, now)
    if chosen.kit.source == "battery":
        live = live_circuit(a, chosen, replace(now, irradiance_w_m2=0.0))
    sheet = {row.point: row.value for row in expected_readings(chosen.setup, now)}
    assert live.part("motor").amps_a == pytest.approx(sheet["pump-amps"], rel=0.001)
    assert live.part("motor").across_v == pytest.approx(sheet["pump-volts"], rel=0.001)


@pytest.mark.parametrize("number", range(5))
@pytest.mark.parametrize("light", [250.0, 900.0])
def test_circuit_and_drive_agree_within_a_part_in_a_thousand_on_every_demo_kit(number: int, light: float) -> None:
    job, found = demo_jobs()[number], 0
    for option in job.options:
        a = assess(job.model_copy(update={"chosen": option.id}))
        assert a.chosen is not None
        assert a.wiring is not None
        now = typed_light(light, 20.0)
        live, setup = live_circuit(a, a.chosen, now), a.chosen.setup
        source = setup.source_at(now.irradiance_w_m2, now.cell_c)
        if setup.kit.source == "battery":
            # By night: by day its charger lifts the bank.
            live = live_circuit(a, a.chosen, replace(now, irradiance_w_m2=0.0))
        amps = solve(source, setup.pump_ohm, setup.kit.pump.motor, setup.line).motor_a
        found += 1
        assert live.part("motor").amps_a == pytest.approx(amps, rel=1e-3, abs=1e-9)
    assert found or not job.options


@pytest.mark.parametrize("name", KITS)
def test_opening_any_switch_or_fuse_of_the_pumps_loop_stops_it_and_leaves_the_panels_live(name: str) -> None:
    a, chosen = of(name)
    now = typed_light(800.0, 20.0)
    whole = live_circuit(a, chosen, now)
    for part in whole.parts:
        if not part.can_open or part.placed.kind == "string-fuse" or part.placed.id == "charge_fuse":
            continue
        live = live_circuit(a, chosen, now, [part.placed.id])
        assert live.part(part.placed.id).open
        assert live.part("motor").amps_a == pytest.approx(0.0, abs=1e-9), part.placed.id
        assert live.part("panel1_1").live
        assert not live.part("motor").live


def test_a_bank_keeps_its_pump_when_the_chargers_fuse_is_out_and_ids_of_nothing_are_left_out() -> None:
    a, chosen = of("from a bank")
    live = live_circuit(a, chosen, typed_light(800.0, 20.0), ["charge_fuse", "nothing", "battery"])
    assert live.opened == ("charge_fuse",)
    assert live.part("motor").amps_a > 1.0
    assert live.part("charger").amps_a == pytest.approx(0.0, abs=1e-3)


def test_one_string_fuse_out_leaves_the_others_amps() -> None:
    a, chosen = of("three strings")
    whole = live_circuit(a, chosen, typed_light(300.0, 20.0))
    less = live_circuit(a, chosen, typed_light(300.0, 20.0), ["string_fuse2"])
    assert less.part("panel2_1").amps_a == pytest.approx(0.0, abs=1e-6)
    assert less.part("motor").amps_a < whole.part("motor").amps_a
    assert less.part("motor").amps_a > 0.0


@pytest.mark.parametrize("name", KITS)
def test_every_terminal_is_on_the_map_and_every_wire_has_two_ends(name: str) -> None:
    a, chosen = of(name)
    kit = kit_circuit(a, chosen, typed_light(800.0, 20.0))
    wires = terminal_map(kit)
    assert [wire.number for wire in wires] == list(range(1, len(wires) + 1))
    ends = [(wire.first, wire.second) for wire in wires]
    said = " ".join(f"{first.says} {second.says}" for first, second in [*ends, *plugged(kit)])
    for one in kit.placed:
        if one.kind not in ("core", "panel") and one.kind not in INPUTS:
            assert str(one.name) in said, one.name
    assert all(str(wire.first.says) != str(wire.second.says) for wire in wires)
    assert all(wire.length_m > 0.0 for wire in wires)
    cores = [one for one in kit.placed if one.kind == "core"]
    assert sum(wire.length_m for wire in wires if not wire.link) == pytest.approx(sum(one.length_m for one in cores))
    lines = terminals_csv(wires).strip().splitlines()
    assert len(lines) == len(wires) + 1


@pytest.mark.parametrize("name", KITS)
def test_the_order_is_dead_first_the_pump_next_the_source_last(name: str) -> None:
    a, chosen = of(name)
    now = typed_light(800.0, 20.0)
    kit = kit_circuit(a, chosen, now)
    wires = terminal_map(kit)
    steps = order_of_joining(chosen.setup, kit, wires, now)
    said = [str(step.does) for step in steps]
    assert "cover every panel" in said[0]
    assert "+ lead" in said[1]
    assert "Panels still covered" in said[-2]
    assert "Every fuse in" in said[-1]
    assert ": 0\u00a0V between" not in str(steps[-1].check), "what is closed before the pump's fuse has volts to show"
    for wire in wires:
        assert sum(f"Wire {wire.number}," in one for one in said) == 1, wire.number
        assert sum(f"Wire {wire.number} off" in str(step.undone) for step in steps) == 1, wire.number
    if chosen.kit.source == "battery":
        posts = next(n for n, one in enumerate(said) if "last of all" in one)
        assert posts < len(said) - 2, "battery before panels"
        assert posts > 1, "pump before battery"


def test_every_string_is_read_alone_before_it_meets_another_and_every_plug_is_told_once() -> None:
    a, chosen = of("three strings")
    now = typed_light(800.0, 20.0)
    kit = kit_circuit(a, chosen, now)
    pairs = plugged(kit)
    # Three strings of a fuse and two panels: two plugs in each, and each pole's two Y-leads take two ends each.
    assert len(pairs) == 3 * 2 + 2 * 2 * 2
    assert len({(str(first.says), str(second.says)) for first, second in pairs}) == len(pairs)
    steps = order_of_joining(chosen.setup, kit, terminal_map(kit), now)
    strings, meet, source = steps[-4:-1]
    assert "panel 1, \u2212 into panel 2, +" in str(strings.does)
    assert "cover it again: 42\u00a0V" in str(meet.does), "two panels of 21 V a string: read before it meets"
    assert "Y-lead 1, plus, stem into Y-lead 2, plus, legs" in str(meet.does)
    assert "fed by the others" in str(meet.why)
    assert "Y-lead 2, plus, stem to" in str(source.does)
    for one in (strings, meet):
        assert str(one.undone).count(" off ") == str(one.does).count(" into ")


def test_a_y_leads_stem_carries_what_its_strings_give_together() -> None:
    live = live_circuit(*of("three strings"), typed_light(800.0, 20.0))
    strings = [live.part(f"panel{n}_1").amps_a for n in (1, 2, 3)]
    assert live.part("y_lead1_plus").amps_a == pytest.approx(sum(strings[:2]), abs=1e-6)
    for pole in ("plus", "minus"):
        assert live.part(f"y_lead2_{pole}").amps_a == pytest.approx(sum(strings), abs=1e-6)


def test_a_batterys_minus_is_last_on_and_first_off() -> None:
    a, chosen = of("from a bank")
    now = typed_light(800.0, 20.0)
    kit = kit_circuit(a, chosen, now)
    wires = terminal_map(kit)
    steps = order_of_joining(chosen.setup, kit, wires, now)
    minus = [
        wire.number
        for wire in wires
        if "battery" in (wire.first.kind, wire.second.kind) and str(wire.colour) == "black"
    ]
    assert len(minus) == 2, "the charger's and the pump's"
    said = [str(step.does) for step in steps]
    for number in minus:
        made = next(one for one in said if f"Wire {number}," in one)
        assert "stays off the battery's post" in made
    posts = next(step for step in steps if "last of all" in str(step.does))
    assert str(posts.undone).startswith("The minus rings of wire " + ", ".join(map(str, minus)) + " off")
    assert str(posts.undone).index("minus rings") < str(posts.undone).index("Wire")


def test_what_is_to_be_read_before_the_fuse_goes_in_is_the_arrays_open_volts() -> None:
    a, chosen = of("straight, by a float")
    now = typed_light(640.0, 18.0)
    kit = kit_circuit(a, chosen, now)
    last = order_of_joining(chosen.setup, kit, terminal_map(kit), now)[-1]
    open_v = {row.point: row.value for row in expected_readings(chosen.setup, now)}["open-volts"]
    assert open_v is not None
    assert f"{open_v:.3g}" in str(last.check)


def test_the_fuse_gives_way_before_anything_unless_a_part_stands_less_than_it() -> None:
    a, chosen = of("straight, by a float")
    now = typed_light(800.0, 20.0)
    assert a.wiring is not None
    weak = weak_parts(live_circuit(a, chosen, now), a.wiring)
    assert weak[0].guards
    assert weak[0].times == pytest.approx(a.wiring.protection.rating_a / max(weak[0].stands_a / weak[0].times, 1e-9))
    # The story everyone learns once: 25 A where 10 belonged, and the switch's contact burns.
    large = changed(KITS["straight, by a float"], fuse=None)
    large = large.model_copy(
        update={"options": [row.model_copy(update={"fuse": fuse_of(25.0, row)}) for row in large.options]}
    )
    b = assess(large)
    assert b.chosen is not None
    assert b.wiring is not None
    first = weak_parts(live_circuit(b, b.chosen, now), b.wiring)[0]
    assert not first.guards
    assert "float" in str(first.name)


def fuse_of(amps: float, row: object) -> object:
    from squall.job.document.fields import edit

    job = edit(
        KITS["straight, by a float"],
        f"options.{KITS['straight, by a float'].chosen}.fuse",
        f"{amps:g} A",
        catalogue(),
        "metric",
    )
    assert job.option is not None
    return job.option.fuse


def test_whatever_stands_more_than_it_is_made_for_is_told() -> None:
    a, chosen = of("in series")
    over = too_much_now(live_circuit(a, chosen, typed_light(1000.0, 5.0)), chosen)
    assert any("its maker allows 32" in str(said) for said in over)
    assert not any(
        "its maker allows" in str(said)
        for said in too_much_now(live_circuit(a, chosen, typed_light(150.0, 5.0)), chosen)
    )
    weak = KITS["straight, by a float"].model_copy(update={"devices": ["float-5"]})
    weak = weak.model_copy(update={"options": [row.model_copy(update={"in_parallel": 4}) for row in weak.options]})
    b = assess(weak)
    assert b.chosen is not None
    said = [str(one) for one in too_much_now(live_circuit(b, b.chosen, typed_light(1000.0, 15.0)), b.chosen)]
    assert any("made for 5" in one for one in said), said


def test_the_other_school_lands_plus_first_on_request_and_the_source_last_in_both() -> None:
    a, chosen = of("behind a controller")
    now = typed_light(800.0, 20.0)
    live = live_circuit(a, chosen, now)
    wires = terminal_map(live.kit)
    one, other = (order_of_joining(chosen.setup, live.kit, wires, now, plus_first=first) for first in (False, True))
    assert len(one) == len(other)
    minus, plus = str(one[-2].does), str(other[-2].does)
    assert minus.index(", black:") < minus.index(", red:")
    assert plus.index(", red:") < plus.index(", black:")
    assert "Plus first" in str(other[-2].why)
    assert [str(step.does) for step in one[:-2]] == [str(step.does) for step in other[:-2]]
