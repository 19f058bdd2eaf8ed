"""Kits thrown together by chance: each is drawn, mapped, joined, cut and listed, and its circuit agrees with its drive."""

import random

import pytest

from squall.catalogue import catalogue
from squall.core.drive.solve import solve
from squall.core.prove.expect import expected_readings, typed_light
from squall.demo import demo_jobs
from squall.drawing.circuit import draw_circuit
from squall.job.document.base import quantity
from squall.job.document.job import Job
from squall.job.document.power import CableRow, LoadRow
from squall.job.fitted.cutlist import cut_list
from squall.job.fitted.parts_list import parts_list
from squall.job.fitted.steps import fit_steps
from squall.job.trouble.chain import chain_of
from squall.job.wired.gives_way import weak_parts
from squall.job.wired.live import live_circuit
from squall.job.wired.order import order_of_joining
from squall.job.wired.terminals import terminal_map
from squall.job.worked.assess import assess

PARTS = catalogue()
BOXES = {
    source: [key for key, one in PARTS.controllers.items() if (one.kind == "pump") is (source == "controller")]
    for source in ("controller", "battery")
}
COMMANDED = ("switch", "float switch", "timer", "radio switch")


def by_chance(dice: random.Random) -> Job:
    """A demo job with a kit, devices, cables and loads by chance; most of them no one would build."""
    base, source = dice.choice(demo_jobs()[:4]), dice.choice(["panel", "controller", "battery"])
    option = base.options[0].model_copy(
        update={
            "pump": dice.choice([*PARTS.pumps, "auger-9t", "auger-9t"]), "source": source, "panel": dice.choice(list(PARTS.panels)),
            "in_series": dice.randint(1, 3), "in_parallel": dice.randint(1, 4),
            "controller": None if source == "panel" else dice.choice([*BOXES[source], *(["warden-48t"] * 2 if source == "controller" else [])]),
            "battery": dice.choice(list(PARTS.batteries)) if source == "battery" else None, "batteries_in_series": dice.choice([1, 2, 4]),
            "pump_cable": dice.choice(["mm2:1.5", "mm2:4", "mm2:10", "awg:12"]),
            "array_cable": None if source == "panel" else dice.choice(["mm2:2.5", "mm2:6"]),
        }
    )  # fmt: skip
    devices = [dice.choice(list(PARTS.devices)) for _ in range(dice.randint(0, 4))]
    pilots = [one for one in devices if PARTS.devices[one].kind in COMMANDED][: dice.randint(0, 1)]
    cables = [
        CableRow(id=f"c{n}", run=dice.choice(["array", "pump"]), size=dice.choice(["mm2:1.5", "mm2:4", "awg:10"]),
                 place=dice.choice(["air", "sun", "water", "buried"]), air=dice.choice([None, quantity("58 °C", 58.0)]))
        for n in range(dice.randint(0, 2))
    ]  # fmt: skip
    watts = [dice.choice([2.0, 20.0, 300.0]) for _ in range(dice.randint(0, 3))]
    loads = [LoadRow(id=f"b{n}", name=f"load {n}", watts=quantity(f"{w:g} W", w)) for n, w in enumerate(watts)]
    return base.model_copy(
        update={
            "options": [option], "chosen": option.id, "devices": devices, "pilots": pilots, "cables": cables,
            "splice": dice.choice(["sleeve", "resin", "silicone", "clips"]), "protection": dice.choice(["fuse", "breaker"]),
            "bank": base.bank.model_copy(update={"loads": loads}),
        }
    )  # fmt: skip


@pytest.mark.parametrize("seed", range(4))
def test_every_page_of_wire_and_fit_has_an_answer_and_circuit_and_drive_the_same(seed: int) -> None:
    dice, compared = random.Random(seed), 0
    for _ in range(15):
        job, light = by_chance(dice), dice.choice([60.0, 400.0, 900.0])
        a = assess(job)
        assert a.chosen is not None, a.problem
        assert a.wiring is not None
        chosen, now = a.chosen, typed_light(light, 20.0)
        live = live_circuit(a, chosen, now)
        wires = terminal_map(live.kit, a.rules.splice)
        assert [wire.number for wire in wires] == list(range(1, len(wires) + 1))
        for plus_first in (False, True):
            steps = order_of_joining(chosen.setup, live.kit, wires, now, a.rules.splice, plus_first=plus_first)
            told = " ".join(str(step.does) for step in steps)
            assert all(f"Wire {wire.number}, " in told for wire in wires), "a wire that no step joins"
        assert draw_circuit(live, wires, lambda part: f"#{part.placed.id}", down=seed % 2 == 0)
        assert cut_list(job, a, chosen)
        assert parts_list(job, a, chosen, {})
        assert fit_steps(job, a, chosen, None)
        assert weak_parts(live, a.wiring)
        assert chain_of(a, chosen).motor is chosen.kit.pump.motor
        assert expected_readings(chosen.setup, now)
        # Without a fuse that fits the circuit has none, and its five milliohms neither.
        if chosen.kit.source == "battery" or a.wiring.protection.rating_a is None:
            continue
        drive = solve(
            chosen.setup.source_at(light, now.cell_c), chosen.setup.pump_ohm, chosen.kit.pump.motor, chosen.setup.line
        )
        assert live.part("motor").amps_a == pytest.approx(drive.motor_a, rel=2e-3, abs=1e-4)
        compared += 1
    assert compared >= 3
