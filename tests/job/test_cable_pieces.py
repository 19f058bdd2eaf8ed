"""Runs of more than one cable, and how cores are joined: one truth for drop, heat, fuse, circuit, drive, map, cuts and price."""

from dataclasses import replace

import pytest

from squall.core.drive.solve import solve
from squall.core.errors import OutOfRange
from squall.core.prove.expect import typed_light
from squall.demo import demo_jobs
from squall.drawing.small.steps import step_picture
from squall.job.document.base import quantity
from squall.job.document.job import Job
from squall.job.document.power import CableRow
from squall.job.fitted.cutlist import cut_list
from squall.job.fitted.parts_list import parts_list
from squall.job.fitted.steps import fit_steps
from squall.job.trouble.chain import chain_of
from squall.job.wired.live import live_circuit
from squall.job.wired.terminals import terminal_map
from squall.job.worked.assess import Assessment, assess

GOATS, TERRACES, DUCKS, DONKEYS, _ = demo_jobs()


def with_pieces(job: Job, *rows: CableRow) -> Job:
    return job.model_copy(update={"cables": list(rows)})


def piece(run: str, size: str, metres: float, place: str = "air", air: float | None = None) -> CableRow:
    return CableRow(
        id=f"c-{run}-{place}-{round(metres)}", run=run, size=size, length=quantity(f"{metres:g} m", metres), place=place,
        air=None if air is None else quantity(f"{air:g} °C", air),
    )  # fmt: skip


def splice(job: Job, kind: str) -> Job:
    return job.model_copy(update={"splice": kind})


def worked(job: Job) -> Assessment:
    a = assess(job)
    assert a.chosen is not None
    assert a.wiring is not None
    return a


CASES = {
    "straight": with_pieces(GOATS, piece("pump", "mm2:4", 5.0, "water"), piece("array", "mm2:2.5", 2.0, "sun", 60.0)),
    "controller": with_pieces(TERRACES, piece("pump", "mm2:2.5", 6.0, "water"), piece("array", "mm2:4", 2.0)),
    "bank": with_pieces(GOATS.model_copy(update={"chosen": "o1"}), piece("pump", "mm2:4", 6.0, "buried")),
}


@pytest.mark.parametrize("name", CASES)
def test_circuit_and_drive_count_the_pieces_alike(name: str) -> None:
    a = worked(CASES[name])
    now, setup = typed_light(700.0, 20.0), a.chosen.setup
    live = live_circuit(a, a.chosen, replace(now, irradiance_w_m2=0.0) if name == "bank" else now)
    amps = solve(setup.source_at(700.0, now.cell_c), setup.pump_ohm, setup.kit.pump.motor, setup.line).motor_a
    assert live.part("motor").amps_a == pytest.approx(amps, rel=1e-3)
    assert chain_of(a, a.chosen).pump_cable_ohm == pytest.approx(setup.cores_ohm)


def test_a_piece_of_the_runs_own_size_changes_nothing_but_a_joint() -> None:
    a = worked(GOATS)
    own = a.chosen.option.pump_cable
    same = worked(with_pieces(GOATS, piece("pump", own, 7.0)))
    assert same.chosen.setup.cores_ohm == pytest.approx(a.chosen.setup.cores_ohm + 2 * 0.001)
    assert same.chosen.price == pytest.approx(a.chosen.price)
    assert same.wiring.runs[0].whole_drop == pytest.approx(a.wiring.runs[0].choice.drop_fraction)


@pytest.mark.parametrize("name", CASES)
def test_map_cuts_and_price_hold_every_metre_once(name: str) -> None:
    a = worked(CASES[name])
    kit = live_circuit(a, a.chosen, typed_light(700.0, 20.0)).kit
    wires = [wire for wire in terminal_map(kit, a.rules.splice) if not wire.link]
    cores = 2.0 * sum(run.one_way_m for run in a.wiring.runs)
    assert sum(wire.length_m for wire in wires) == pytest.approx(cores)
    ends = [str(end.says) for wire in wires for end in (wire.first, wire.second)]
    assert ends.count("joint in the run") == 4 * len(a.job.cables)
    slack, lines = a.job.fit.slack.si, [line for line in cut_list(a.job, a, a.chosen) if line.key.startswith("cable")]
    charge = sum(run.one_way_m for run in a.wiring.runs if run.key == "charge")
    # Every run but the charger's short lead is cut with slack.
    cut = sum(metres for line in lines for _, metres in line.pieces)
    slacked = sum(len(line.pieces) for line in lines) - (charge > 0.0)
    assert cut == pytest.approx(cores / 2.0 + slack * slacked)
    listed = [line for line in parts_list(a.job, a, a.chosen, {}) if line.key.startswith("cable")]
    assert all(line.price is not None for line in listed)


def test_what_lies_in_water_or_ground_is_bought_for_it() -> None:
    a = worked(CASES["straight"])
    names = [str(line.name) for line in cut_list(CASES["straight"], a, a.chosen)]
    assert any("submersible, double insulated" in name for name in names)
    assert any("UV-stable" in name for name in names)


def test_the_thinnest_and_the_hottest_piece_rule_the_fuse_and_are_condemned() -> None:
    hot = worked(with_pieces(GOATS, piece("pump", "mm2:1.5", 2.0, "sun", 60.0)))
    cool = worked(with_pieces(GOATS, piece("pump", "mm2:1.5", 2.0)))
    assert cool.wiring.protection.most_a <= cool.wiring.runs[-1].choice.ampacity_a
    assert hot.wiring.protection.most_a < cool.wiring.protection.most_a
    thin = worked(with_pieces(GOATS, piece("pump", "mm2:0.75", 2.0)))
    assert any("piece 1 of other cable" in str(problem) for problem in thin.wiring.problems)
    # AWG in air over its table's end bears nothing: a sentence, not a fault.
    awg = worked(with_pieces(GOATS, piece("pump", "awg:12", 2.0, "sun", 58.0)))
    assert any("bears 0" in str(problem) for problem in awg.wiring.problems)


def test_pieces_longer_than_their_run_are_refused_in_words() -> None:
    with pytest.raises(OutOfRange, match="Pieces of other cable from box to pump is 40"):
        assess(with_pieces(TERRACES, piece("pump", "mm2:4", 40.0)))


def test_joints_by_their_school_count_their_milliohms_and_say_what_they_stand() -> None:
    ohm = {
        kind: worked(splice(GOATS, kind)).chosen.setup.cores_ohm for kind in ("sleeve", "resin", "silicone", "clips")
    }
    assert ohm["sleeve"] == ohm["resin"] < ohm["silicone"] < ohm["clips"]
    assert ohm["clips"] - ohm["sleeve"] == pytest.approx(2 * 0.019)
    clips = worked(splice(GOATS, "clips"))
    assert any("for trials out of the water" in str(problem) for problem in clips.wiring.problems)
    assert not any("trials" in str(problem) for problem in worked(splice(GOATS, "silicone")).wiring.problems)
    step = {kind: next(s for s in fit_steps(job, worked(job), worked(job).chosen, None) if s.key == "splice")
            for kind in ohm for job in (splice(GOATS, kind),)}  # fmt: skip
    assert {kind: one.drawn for kind, one in step.items()} == {
        "sleeve": "splice", "resin": "splice-resin", "silicone": "splice-silicone", "clips": "splice-clips"
    }, "each way has its own picture"  # fmt: skip
    assert len({str(step_picture(one.drawn)) for one in step.values()}) == 4
    assert "for years" not in str(step["clips"].why)
    assert "first to fail" in str(step["silicone"].bites)
    assert "trial only" in str(step["clips"].bites)
    assert "sleeve on first" in str(step["sleeve"].does)
    lines = {
        kind: [line.key for line in parts_list(a.job, a, a.chosen, {})]
        for kind in ohm
        for a in (worked(splice(GOATS, kind)),)
    }
    assert "sleeve" in lines["sleeve"]
    assert "sleeve" not in lines["resin"]
    assert "splice" in lines["resin"]


def test_no_lever_cuts_a_run_shorter_than_the_pieces_that_lie_in_it() -> None:
    keys = {
        metres: [lever.key for lever in worked(with_pieces(GOATS, piece("pump", "mm2:6", metres))).levers]
        for metres in (5.0, 18.0)
    }
    assert "shorter" in keys[5.0]
    assert "shorter" not in keys[18.0]


def test_the_ranking_and_the_page_of_cables_refuse_the_same_with_other_loads_on_the_bank() -> None:
    from squall.core.kit.wiring import wiring_refusal
    from squall.job.document.power import LoadRow

    for watts, refused in ((12.0, False), (4000.0, True)):
        rows = [LoadRow(id="b1", name="heater", watts=quantity(f"{watts} W", watts))]
        a = worked(GOATS.model_copy(update={"chosen": "o1", "bank": GOATS.bank.model_copy(update={"loads": rows})}))
        quick = wiring_refusal(a.chosen.setup, a.rules, a.chosen.season.most_motor_a)
        assert (quick is not None) is refused
        assert bool(a.wiring.problems) is refused
