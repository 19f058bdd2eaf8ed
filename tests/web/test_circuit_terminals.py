"""Each terminal on the diagram has the name that the terminal map calls it by, on both layings, clear of the volts."""

import re

import pytest
from bs4 import BeautifulSoup

from squall.catalogue import catalogue
from squall.core.circuit import parts
from squall.core.prove.expect import typed_light
from squall.demo import demo_jobs
from squall.drawing.circuit import draw_circuit
from squall.job.document.job import Job
from squall.job.edit.changes import add_device, relay_for
from squall.job.wired.live import LiveCircuit, live_circuit
from squall.job.wired.terminals import terminal_map, terminal_of
from squall.job.worked.assess import assess
from squall.words.units import text

GOATS, TERRACES, DUCKS, DONKEYS, _ = demo_jobs()
BANK = GOATS.model_copy(update={"chosen": "o1", "devices": []})
RELAY = relay_for(add_device(BANK, "timer-16", catalogue())[0], "timer-16:relay-40-12", catalogue())[0]
THREE = DONKEYS.model_copy(
    update={
        "options": [
            DONKEYS.option.model_copy(
                update={"pump": "auger-9t", "source": "controller", "controller": "warden-48t", "panel": "ridge-215", "array_cable": "mm2:4"}
            )
        ],
        "devices": ["isolator-32"],
    }
)  # fmt: skip
KITS = {"goats": GOATS, "terraces": TERRACES, "ducks": DUCKS, "bank": BANK, "relay": RELAY, "three": THREE}


def live(job: Job) -> LiveCircuit:
    a = assess(job)
    assert a.chosen is not None
    return live_circuit(a, a.chosen, typed_light(800.0, 20.0))


def drawn(job: Job, *, down: bool) -> BeautifulSoup:
    circuit = live(job)
    return BeautifulSoup(str(draw_circuit(circuit, terminal_map(circuit.kit), lambda _: "#", down=down)), "html.parser")


def terminals(page: BeautifulSoup) -> list[str]:
    return [one.text for one in page.select("text.terminal")]


@pytest.mark.parametrize("kit", KITS)
@pytest.mark.parametrize("down", [False, True])
def test_every_terminal_of_the_map_stands_on_the_diagram(kit: str, down: bool) -> None:
    circuit, named = live(KITS[kit]), terminals(drawn(KITS[kit], down=down))
    placed = [
        one for one in circuit.kit.placed if one.kind not in ("core", "motor", "controller", "charger", "float-input", "probe-input")
    ]  # fmt: skip
    for one in placed:
        for node in one.ends:
            said = str(terminal_of(one, node))
            assert said in named, (one.id, said)
    box = next((one for one in circuit.kit.placed if one.kind in ("controller", "charger")), None)
    joined = " ".join(named)
    if box is not None and not circuit.kit.three_wires:
        for pair in parts.ends(box.part):
            for node in pair:
                assert str(terminal_of(box, node)) in joined, node


@pytest.mark.parametrize("kit", KITS)
@pytest.mark.parametrize("down", [False, True])
def test_every_wire_of_the_map_has_its_number_on_the_diagram_with_size_length_and_colour(kit: str, down: bool) -> None:
    circuit, page = live(KITS[kit]), drawn(KITS[kit], down=down)
    wires = terminal_map(circuit.kit)
    numbers = sorted(int(one.text) for one in page.select("text.wire-digit"))
    assert numbers == [wire.number for wire in wires], "each once"
    titles = [one.text for one in page.select("circle.short > title")]
    short = [wire for wire in wires if wire.link]
    assert len(titles) == len(short)
    for wire in short:
        assert any(
            f"wire {wire.number}: {wire.conductor.label}, {text(wire.length_m, 'length')}, {wire.colour}" == said
            for said in titles
        )
    told = " ".join(one.text for one in page.select("text.name"))
    for wire in wires:
        if not wire.link:
            assert wire.conductor.label in told
            assert text(wire.length_m, "length") in told
            assert str(wire.colour) in told


def test_the_number_of_a_short_wire_lies_beside_its_part() -> None:
    """By hand: behind the timer the coil, before the relay's contact what leads there, under the coil its minus."""
    page = drawn(RELAY, down=False)
    at = {int(t.text): (float(t["x"]), float(t["y"])) for t in page.select("text.wire-digit.short")}
    wires = {str(w.second.at): w.number for w in terminal_map(live(RELAY).kit) if w.link}
    names = {one.text: (float(one["x"]), float(one["y"])) for one in page.select("text.name")}
    timer = next(number for said, number in wires.items() if "timer" in said)
    assert abs(at[timer][1] - names["timer"][1]) < 40.0
    assert at[timer][0] < names["timer"][0], "on its wire, its name beside it"
    coil = next(number for said, number in wires.items() if "coil of" in said)
    assert at[timer][1] < at[coil][1], "from plus to minus"


def test_a_string_fuse_and_a_relay_are_named_the_way_round_they_stand() -> None:
    along = drawn(RELAY, down=False)
    at = {one.text: (float(one["x"]), float(one["y"])) for one in along.select("text.terminal")}
    assert at["30"][0] < at["87"][0], "the sun's side first"
    assert at["86"][1] < at["85"][1], "plus above minus"
    assert at["+"][1] < at["\u2212"][1]


def test_three_wires_have_numbers_and_no_minus_out() -> None:
    for down in (False, True):
        named = terminals(drawn(THREE, down=down))
        assert {"1", "2", "3", "motor 1", "motor 2", "in \u2212"} <= set(named)
        assert not any("in and out" in name for name in named)
    ends = " ".join(f"{wire.first.says} {wire.second.says}" for wire in terminal_map(live(THREE).kit))
    assert "in \u2212" in ends
    assert "in and out" not in ends


@pytest.mark.parametrize("kit", KITS)
def test_no_name_of_a_terminal_lies_on_the_volts(kit: str) -> None:
    """By the room that letters take: nine and eleven units high, half as wide each."""
    for down in (False, True):
        page = drawn(KITS[kit], down=down)
        boxes = {
            cls: [_room(one, size) for one in page.select(f"text.{cls}")]
            for cls, size in (("terminal", 9.0), ("volts", 13.0))
        }
        for said, left, right, top, low in boxes["terminal"]:
            for volts, left_v, right_v, top_v, low_v in boxes["volts"]:
                apart = right <= left_v or right_v <= left or low <= top_v or low_v <= top
                assert apart, (said, volts, down)


def _room(word, size: float) -> tuple[str, float, float, float, float]:
    wide = 0.52 * size * len(re.sub(r"\s", "", word.text))
    x, y = float(word["x"]), float(word["y"])
    left = {"start": x, "middle": x - wide / 2.0, "end": x - wide}[word["text-anchor"]]
    return word.text, left, left + wide, y - 0.75 * size, y
