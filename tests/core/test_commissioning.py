"""A kit's first day: the order of a careful hand, and bands that a sound kit of another model passes and a broken one doesn't."""

import json
import random

import pytest

from squall.core.faults.commissioning import ORDER, Evidence, grade_of, light_at, meanings, proofs_of
from squall.core.faults.sweep import Lit
from squall.standins.kits import KITS
from squall.standins.yard import Yard
from squall.sums.faults import ChecksIn, in_si
from squall.sums.registry import run

AIR_C = 22.0


def chain_of(name: str):
    return ChecksIn.model_validate_json(json.dumps({"kit": KITS[name]})).kit.chain()


def piece(code: str, read: dict) -> Evidence:
    if "answer" in read:
        return Evidence(code, answer=read["answer"])
    return Evidence(code, value=in_si(code, read["value"]))


def test_a_sound_kit_of_another_model_passes() -> None:
    """Stand-in yards, each off by what nobody knows: common practice, no source. A reading is called wrong in at most 3 of 100."""
    wrong: dict[str, int] = {}
    read_in_all = 0
    for seed, name in enumerate(sorted(KITS) * 6):
        throw = random.Random(seed)
        light = throw.choice((450.0, 700.0, 950.0))
        yard = Yard(KITS[name], "none", light, AIR_C, throw)
        checks = {
            check.check: check.model_dump() for check in run("checks", {"kit": KITS[name]}).root
        }  # fmt: skip
        for proof in proofs_of(chain_of(name), Lit(light, AIR_C)):
            code = proof.check.code
            if code not in checks or proof.check.kind is None:
                continue
            read_in_all += 1
            if grade_of(proof, piece(code, yard.read(checks[code]))) == "wrong":
                wrong[code] = wrong.get(code, 0) + 1
    assert read_in_all > 300
    assert sum(wrong.values()) <= 0.03 * read_in_all, wrong


@pytest.mark.parametrize(
    ("name", "fault", "check"),
    [("battery", "joint-resistance", "cable-loop-ohms"), ("panels", "fuse-blown", "fuse-ohms"), ("panels", "water-fallen", "pumping-water-level-drop")],
)  # fmt: skip
def test_a_broken_kit_fails_where_it_is_broken_and_is_told_why(name, fault, check) -> None:
    chain, lit = chain_of(name), Lit(800.0, AIR_C)
    yard = Yard(KITS[name], fault, 800.0, AIR_C, random.Random(3), exact=True)
    proof = next(one for one in proofs_of(chain, lit) if one.check.code == check)
    seen = Evidence(check, value=in_si(check, yard.exactly(check)))
    assert grade_of(proof, seen) == "wrong"
    assert meanings(chain, lit, seen)[0][0] == fault


def test_hands_stay_safe_by_the_order() -> None:
    """What wants the power off comes before it is switched on; the functions come last."""
    for name in KITS:
        proofs = proofs_of(chain_of(name), Lit(800.0, AIR_C))
        groups = [proof.group for proof in proofs]
        assert groups == sorted(groups, key=list(ORDER).index)
        on = next(n for n, proof in enumerate(proofs) if proof.group == "power")
        assert all(proof.check.power != "off" for proof in proofs[on:]), name
        assert all(proof.check.power != "on" for proof in proofs[:on] if proof.group == "before"), name
        codes = {proof.check.code for proof in proofs}
        own = {check.check for check in run("checks", {"kit": KITS[name]}).root}
        assert own - codes <= {"rotor-by-hand", "probe", "float-by-hand"}, (
            "nothing that the kit lets one look at is left out"
        )


def test_light_between_two_readings_and_light_that_ran_away() -> None:
    assert light_at(5.0, []) is None
    assert light_at(50.0, [(0.0, 600.0)]).steady
    between = light_at(5.0, [(0.0, 600.0), (10.0, 660.0)])
    assert between.light_w_m2 == pytest.approx(630.0)
    assert between.steady
    assert not light_at(5.0, [(0.0, 300.0), (10.0, 900.0)]).steady
    assert light_at(99.0, [(0.0, 300.0), (10.0, 900.0)]).light_w_m2 == 900.0


def test_what_is_not_done_and_what_is_not_promised_is_not_judged() -> None:
    proof = next(one for one in proofs_of(chain_of("battery"), Lit(None, AIR_C)) if one.check.code == "first-water")
    assert grade_of(proof, Evidence("first-water")) == "told"
    assert grade_of(proof, Evidence("first-water", value=40.0)) == "told", "nobody said when it comes"
    told = next(
        one
        for one in proofs_of(chain_of("battery"), Lit(None, AIR_C), first_water_s=60.0)
        if one.check.code == "first-water"
    )
    assert grade_of(told, Evidence("first-water", value=55.0)) == "good"
    assert grade_of(told, Evidence("first-water", value=300.0)) == "wrong"
