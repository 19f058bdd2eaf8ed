"""``checks``, ``faults`` and ``diagnose``: who has what, what is refused, and how well the advice finds a fault in a yard apart."""

import json
import math
import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from squall.core.errors import SquallError
from squall.core.faults.causes import CAUSES, STORIES
from squall.core.faults.checks import CHECKS
from squall.standins.kits import KITS as NAMED
from squall.standins.play import PLAYED, calibration, play_many, score
from squall.standins.yard import Yard
from squall.sums.registry import SUMS, run

KITS = tuple(NAMED.values())
BATTERY, PANELS, THREE_WIRES, MEMBRANE, PLUG, SURFACE = KITS
# The least that the contract of the sums asks for.
FAULTS = frozenset(
    [
        "air-locked",
        "battery-flat",
        "battery-weak",
        "brushes-worn",
        "cable-open",
        "check-valve-stuck",
        "controller-input-open",
        "controller-waiting",
        "dial-low",
        "fuse-blown",
        "hose-kinked",
        "hose-leaks",
        "impeller-loose",
        "impeller-worn",
        "joint-resistance",
        "outlet-valve-shut",
        "panel-lost",
        "panel-reversed",
        "panel-shaded",
        "panels-dirty",
        "phase-swapped",
        "polarity-reversed",
        "probe-dirty",
        "rotor-drags",
        "rotor-stuck",
        "screen-blocked",
        "supply-off",
        "switch-open",
        "valves-worn",
        "water-fallen",
        "winding-open",
    ]
)
LEAST_CHECKS = frozenset(
    [
        "air",
        "battery-rest-volts",
        "box-volts-on",
        "bucket-flow-no-lift",
        "cable-loop-ohms",
        "check-valve",
        "dial",
        "float-by-hand",
        "fuse-volts",
        "hose",
        "known-good-source",
        "lamp",
        "motor-ohms",
        "outlet-flow",
        "outlet-valve-position",
        "panel-open-volts",
        "panels",
        "polarity",
        "probe",
        "pump-amps-on",
        "pump-volts-on",
        "pumping-water-level-drop",
        "rotor-by-hand",
        "screen",
        "short-circuit-amps",
        "shut-off-head",
        "source-open-volts",
        "switch-volts",
        "turns",
    ]
)


def checks(kit):
    return {row["check"]: row for row in run("checks", {"kit": kit}).model_dump()}


def faults(kit, story="unknown", evidence=()):
    return {
        row["fault"]: row
        for row in run("faults", {"kit": kit, "story": story, "evidence": list(evidence)}).model_dump()
    }


def diagnose(kit, evidence=(), story="unknown", **more):
    return run("diagnose", {"kit": kit, "story": story, "evidence": list(evidence), **more}).model_dump()


def top(answer):
    return answer["beliefs"][0]["fault"]


def test_every_fault_and_check_of_the_contract_is_known_and_the_trade_has_forty_five() -> None:
    assert set(CAUSES) >= FAULTS
    assert set(CHECKS) >= LEAST_CHECKS
    assert len(CAUSES) >= 45


@pytest.mark.parametrize(
    ("kit", "has", "lacks"),
    [
        (BATTERY, "battery-rest-volts fuse-volts pump-volts-on motor-ohms shut-off-head check-valve known-good-source",
         "lamp dial probe panels panel-open-volts short-circuit-amps float-by-hand"),
        (PANELS, "panel-open-volts panels float-by-hand", "battery-rest-volts lamp"),
        (THREE_WIRES, "lamp dial probe float-by-hand motor-ohms", "pump-volts-on pump-amps-on known-good-source battery-rest-volts"),
        (MEMBRANE, "motor-ohms panels", "shut-off-head outlet-valve-position check-valve"),
        (PLUG, "switch-volts", "fuse-volts motor-ohms panels battery-rest-volts"),
        (SURFACE, "lamp dial pump-volts-on", "probe motor-ohms"),
    ],
)  # fmt: skip
def test_who_has_which_check(kit, has: str, lacks: str) -> None:
    own = set(checks(kit))
    assert set(has.split()) <= own
    assert not set(lacks.split()) & own


@pytest.mark.parametrize(
    ("kit", "has", "lacks"),
    [
        (BATTERY, "battery-flat battery-weak brushes-worn impeller-worn air-locked fuse-blown", "panel-lost dial-low phase-swapped valves-worn supply-off"),
        (PANELS, "panel-lost panel-reversed panels-dirty", "battery-flat controller-waiting"),
        (THREE_WIRES, "phase-swapped controller-input-open probe-dirty dial-low", "brushes-worn supply-off"),
        (MEMBRANE, "valves-worn panels-dirty", "impeller-worn impeller-loose air-locked check-valve-stuck outlet-valve-shut"),
        (PLUG, "supply-off switch-open", "fuse-blown brushes-worn panels-dirty"),
    ],
)  # fmt: skip
def test_who_can_have_which_fault(kit, has: str, lacks: str) -> None:
    own = set(faults(kit))
    assert set(has.split()) <= own
    assert not set(lacks.split()) & own


@pytest.mark.parametrize("kit", KITS)
def test_whatever_opens_reads_ohms_or_puts_a_hand_in_says_what_to_make_dead(kit) -> None:
    for row in checks(kit).values():
        if row["unit"] == "ohm" or row["check"] in ("rotor-by-hand", "screen", "check-valve", "probe"):
            assert row["power"] == "off", row["check"]
            assert any(word in row["caution"].lower() for word in ("make it dead", "source off")), row["check"]
        if row["check"] in ("short-circuit-amps", "pump-amps-on"):
            assert "meter" in row["caution"], row["check"]
            assert "stand" in row["caution"], row["check"]


@pytest.mark.parametrize("kit", KITS)
@pytest.mark.parametrize("story", ["never-ran", "unknown"])
def test_beliefs_add_up_and_the_next_check_is_one_of_the_kits_own(kit, story: str) -> None:
    answer = diagnose(kit, story=story)
    shares = {belief["fault"]: belief["probability"] for belief in answer["beliefs"]}
    assert sum(shares.values()) == pytest.approx(1.0, abs=1e-9)
    assert {"none", "other"} <= set(shares)
    assert set(shares) - {"none", "other"} == set(faults(kit))
    assert all(belief["words"] and belief["remedy"] for belief in answer["beliefs"])
    assert answer["next"]
    assert {offer["check"] for offer in answer["next"]} <= set(checks(kit))
    assert all(offer["gain_bits"] > 0.0 and offer["why"] for offer in answer["next"])


def test_a_story_is_a_hint() -> None:
    wired, worn = (faults(PANELS, story) for story in ("after-rewiring", "slowly-less"))
    assert wired["panel-reversed"]["probability"] > 1.5 * worn["panel-reversed"]["probability"]
    assert worn["panel-reversed"]["probability"] > 0.005
    assert all(faults(PANELS, story) for story in STORIES)


def test_what_was_skipped_is_not_asked_again_and_says_nothing() -> None:
    before = diagnose(PANELS, irradiance_w_per_m2=700.0)
    first = before["next"][0]["check"]
    after = diagnose(PANELS, [{"check": first, "skipped": True}], irradiance_w_per_m2=700.0)
    assert first not in {offer["check"] for offer in after["next"]}
    for one, other in zip(before["beliefs"], after["beliefs"], strict=True):
        assert one["probability"] == pytest.approx(other["probability"], rel=1e-9)


def test_all_skipped_is_done_without_a_verdict_made_up() -> None:
    answer = diagnose(PANELS, [{"check": check, "skipped": True} for check in checks(PANELS)])
    assert answer["done"]
    assert answer["next"] == []
    assert max(belief["probability"] for belief in answer["beliefs"]) < 0.5


def test_the_order_of_what_was_seen_changes_no_belief() -> None:
    seen = [
        {"check": "turns", "answer": "turns"},
        {"check": "outlet-flow", "value": 3.0},
        {"check": "hose", "answer": "sound"},
    ]
    one, other = diagnose(BATTERY, seen), diagnose(BATTERY, seen[::-1])
    by_name = {belief["fault"]: belief["probability"] for belief in other["beliefs"]}
    for belief in one["beliefs"]:
        assert belief["probability"] == pytest.approx(by_name[belief["fault"]], rel=1e-6, abs=1e-12)


@pytest.mark.parametrize(
    ("name", "first", "second", "seen"),
    [
        ("membrane", "panels-dirty", "hose-kinked", "panels hose short-circuit-amps outlet-flow pump-amps-on"),
        ("battery", "air-locked", "brushes-worn", "air motor-ohms outlet-flow pump-amps-on"),
        ("battery", "joint-resistance", "hose-kinked", "cable-loop-ohms hose outlet-flow pump-volts-on"),
        ("panels", "rotor-stuck", "hose-leaks", "turns rotor-by-hand hose pump-amps-on"),
    ],
)
def test_two_at_once_are_thought_of_where_one_cannot_explain(name: str, first: str, second: str, seen: str) -> None:
    import numpy as np

    from squall.core.faults.readings import MEASURED
    from squall.core.faults.sweep import Lit, sweep_two, to_start_from
    from squall.sums.faults import KitIn

    chain = KitIn.model_validate_json(json.dumps(NAMED[name])).chain()
    middle = np.full((1, 12), 0.5)
    both = sweep_two(chain, to_start_from(chain, Lit(800.0, 20.0), middle), (CAUSES[first], CAUSES[second]), middle)
    shows = {
        "panels": "dirty",
        "hose": "leaks" if second == "hose-leaks" else "kinked",
        "air": "bubbles",
        "turns": "still",
        "rotor-by-hand": "stuck",
    }
    evidence = []
    for check in seen.split():
        if check in shows:
            evidence.append({"check": check, "answer": shows[check]})
        else:
            value = float(MEASURED[check](both, chain).value[0]) * (60_000.0 if check == "outlet-flow" else 1.0)
            evidence.append({"check": check, "value": value})
    answer = (
        diagnose(NAMED[name], evidence, irradiance_w_per_m2=800.0)
        if "module" in NAMED[name]["source"]
        else diagnose(NAMED[name], evidence)
    )
    assert {first, second} in [set(pair["faults"]) for pair in answer["together"]]


def test_a_plain_fault_is_not_told_as_two() -> None:
    seen = [
        {"check": "turns", "answer": "still"},
        {"check": "box-volts-on", "value": 0.0},
        {"check": "fuse-volts", "value": 20.9},
    ]
    assert diagnose(PANELS, seen, irradiance_w_per_m2=800.0)["together"] == []


def test_readings_that_no_fault_gives_make_none_of_these_grow() -> None:
    answer = diagnose(BATTERY, [
        {"check": "battery-rest-volts", "value": 19.6}, {"check": "box-volts-on", "value": 3.1}, {"check": "pump-volts-on", "value": 8.8},
        {"check": "outlet-flow", "value": 36.0},
    ])  # fmt: skip
    shares = {belief["fault"]: belief["probability"] for belief in answer["beliefs"]}
    assert shares["other"] > 0.3


def test_too_little_light_for_the_lift_is_an_answer() -> None:
    seen = [{"check": "turns", "answer": "turns"}, {"check": "panels", "answer": "clear"}, {"check": "outlet-flow", "value": 0.0},
            {"check": "polarity", "answer": "right"}, {"check": "screen", "answer": "clean"}, {"check": "hose", "answer": "sound"}]  # fmt: skip
    dim = diagnose(PANELS, seen, irradiance_w_per_m2=90.0)
    bright = diagnose(PANELS, seen, irradiance_w_per_m2=900.0)
    share = {name: answer["beliefs"] for name, answer in (("dim", dim), ("bright", bright))}
    none = {name: next(b["probability"] for b in beliefs if b["fault"] == "none") for name, beliefs in share.items()}
    assert none["dim"] > 0.3
    assert none["bright"] < 0.01


@pytest.mark.parametrize(
    ("evidence", "says"),
    [
        ({"check": "zorks", "value": 1.0}, "no check called zorks"),
        ({"check": "lamp", "answer": "off"}, "the part for it isn't there"),
        ({"check": "turns", "answer": "sings"}, "turns, hums, still"),
        ({"check": "turns", "value": 3.0}, "one of turns, hums, still"),
        ({"check": "outlet-flow", "answer": "lots"}, "wants one value"),
        ({"check": "outlet-flow", "value": -2.0}, "less than nothing"),
        ({"check": "outlet-flow", "value": [1.0, 2.0]}, "wants one value"),
        ({"check": "outlet-flow"}, "give one of value, answer"),
        ({"check": "outlet-flow", "value": 2.0, "skipped": True}, "give one of value, answer"),
        ({"check": "panel-open-volts", "value": 20.0}, "one for each of the 2 panels"),
        ({"check": "panel-open-volts", "value": [20.0, 20.0, 20.0]}, "one for each of the 2 panels"),
    ],
)
def test_evidence_that_this_kit_cannot_give_is_refused_in_words(evidence, says: str) -> None:
    with pytest.raises(SquallError) as refused:
        diagnose(PANELS, [evidence])
    assert says in str(refused.value).replace("\u00a0", " ")


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"motor_wires": 3}, "2 without a controller"),
        ({"inputs": ["probe"]}, "none without a controller"),
        ({"motor_wires": 4}, "motor_wires"),
        ({"fuse_a": 0.0}, "fuse_a"),
        ({"story": 1}, "story"),
        ({"pump_cable_ohm": -1.0}, "pump_cable_ohm"),
    ],
)
def test_a_kit_that_cannot_be_is_refused_in_words(change, says: str) -> None:
    with pytest.raises(SquallError) as refused:
        run("checks", {"kit": PANELS | change})
    assert says in str(refused.value)


def _kinds(kit):
    return st.sampled_from(sorted(checks(kit))).flatmap(lambda code: _piece(kit, checks(kit)[code]))


def _piece(kit, check):
    if check["answers"]:
        shown = st.sampled_from(check["answers"]).map(lambda answer: {"check": check["check"], "answer": answer})
    else:
        low = -200.0 if check["unit"] in ("V", "A") else 0.0
        number = st.floats(low, 1e7 if check["unit"] == "ohm" else 500.0)
        if check["check"] == "panel-open-volts":
            source = kit["source"]
            count = source.get("modules_in_series", 1) * source.get("strings_in_parallel", 1)
            number = st.lists(number, min_size=count, max_size=count)
        shown = number.map(lambda value: {"check": check["check"], "value": value})
    return shown | st.just({"check": check["check"], "skipped": True})


@settings(max_examples=25)
@given(data=st.data(), kit=st.sampled_from(KITS), story=st.sampled_from(STORIES), light=st.none() | st.floats(0.0, 1500.0),
       air=st.floats(-40.0, 60.0))  # fmt: skip
def test_whatever_is_read_there_is_an_answer(data, kit, story: str, light, air: float) -> None:
    evidence = data.draw(st.lists(_kinds(kit), max_size=5))
    answer = diagnose(kit, evidence, story, air_c=air, **({} if light is None else {"irradiance_w_per_m2": light}))
    shares = [belief["probability"] for belief in answer["beliefs"]]
    assert all(math.isfinite(share) and share >= 0.0 for share in shares)
    assert sum(shares) == pytest.approx(1.0, abs=1e-6)
    assert answer["next"] or answer["done"]


PLAIN = (
    "none",
    "fuse-blown",
    "switch-open",
    "cable-open",
    "winding-open",
    "polarity-reversed",
    "rotor-stuck",
    "impeller-loose",
    "air-locked",
)
READ = (
    "source-open-volts",
    "short-circuit-amps",
    "box-volts-on",
    "pump-volts-on",
    "pump-amps-on",
    "outlet-flow",
    "bucket-flow-no-lift",
    "shut-off-head",
)


@pytest.mark.parametrize("number", range(len(KITS)))
def test_the_chain_reads_what_the_circuit_reads(number: int) -> None:
    """Every fault without a severity: Fault's compiled chain against the circuit, which is tested against ngspice."""
    import numpy as np

    from squall.core.faults.readings import MEASURED
    from squall.core.faults.sweep import Lit, sweep
    from squall.sums.faults import KitIn

    kit = KITS[number]
    chain = KitIn.model_validate_json(json.dumps(kit)).chain()
    own = set(faults(kit)) | {"none"}
    middle = np.full((1, 12), 0.5)
    compared = 0
    for light in (300.0, 800.0):
        for fault in PLAIN:
            if fault not in own or (fault == "polarity-reversed" and not chain.centrifugal):
                continue  # what a membrane draws backwards nobody's label says
            swept = sweep(chain, Lit(light, 22.0), None if fault == "none" else CAUSES[fault], middle)
            yard = Yard(kit, fault, light, 22.0, random.Random(1), exact=True)
            for check in READ:
                if check not in checks(kit):
                    continue
                told = float(MEASURED[check](swept, chain).value[0]) * (60_000.0 if "flow" in check else 1.0)
                true = abs(yard.exactly(check)) if check == "pump-amps-on" else yard.exactly(check)
                scale = {
                    "short-circuit-amps": 6.0,
                    "pump-amps-on": 5.0,
                    "outlet-flow": 12.0,
                    "bucket-flow-no-lift": 20.0,
                }.get(check, 12.0)
                assert told == pytest.approx(true, rel=0.025, abs=0.012 * scale), (fault, light, check)
                compared += 1
    assert compared > 60


def test_the_advice_finds_the_fault_in_a_yard_apart() -> None:
    """Kits off by a few per cent, looks wrong one time in twenty-five, no story: right, cheap, safe, and as sure as it says.

    The goal is 95 in a hundred, measured on many more (docs/method.md); on 24, chance alone takes one or two.
    """
    games = play_many(24, 20261127)
    told = score(games)
    assert told.right >= 0.87
    assert told.checks <= 5.0
    assert told.unsafe == 0
    assert abs(told.said - told.right) <= 0.1
    assert told.brier < 0.2
    assert sum(count for _, _, count, _ in calibration(games)) == 24


def test_a_printed_charts_order_takes_more_checks() -> None:
    advised, chart = (score(play_many(6, 3, advised=advised)) for advised in (True, False))
    assert advised.checks < 0.6 * chart.checks
    assert advised.minutes < 0.6 * chart.minutes


def test_the_same_seed_gives_the_same_games() -> None:
    assert play_many(2, 5) == play_many(2, 5)
    assert set(PLAYED) == FAULTS


def test_the_examples_are_what_they_say() -> None:
    example = SUMS["diagnose"].example
    answer = run("diagnose", example).model_dump()
    assert top(answer) in ("fuse-blown", "switch-open")
    assert answer["next"][0]["check"] in ("fuse-volts", "switch-volts", "float-by-hand")
