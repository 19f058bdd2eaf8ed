"""What a kit's own readings say to a search for a fault: how it was off from the first day, and which slow fault they make likelier."""

import json
import random
from dataclasses import replace
from datetime import date, timedelta

import pytest

from squall.core.faults.causes import NONE, Frequencies
from squall.core.faults.chain import Offsets
from squall.core.faults.diagnosis import diagnose
from squall.core.faults.suspicion import Evidence, believe
from squall.core.faults.sweep import Lit
from squall.core.upkeep.suspects import offsets_of, times_likelier
from squall.core.upkeep.wear import Visit, estimate
from squall.standins.kits import KITS
from squall.standins.worn import readings_of, true_kit
from squall.sums.faults import KitIn, in_si
from squall.sums.registry import run

BEGAN = date(2026, 1, 10)
LIGHT, AIR = 800.0, 20.0
READ = ("pump-volts-on", "pump-amps-on", "outlet-flow", "short-circuit-amps", "shut-off-head", "cable-loop-ohms")


def chain(name: str):
    return KitIn.model_validate_json(json.dumps(KITS[name])).chain()


def visits(name: str, states_at, seed: int = 4, count: int = 4, every: int = 60) -> list[Visit]:
    """What is read on a stand-in kit, off by a few per cent, every two months while it wears."""
    throw = random.Random(seed)
    new = true_kit(KITS[name], throw)
    rows = {row["check"]: row for row in run("checks", {"kit": KITS[name]}).model_dump()}
    own = {code: rows[code] for code in READ if code in rows}
    found = []
    for number in range(count):
        read = readings_of(new, states_at(number), LIGHT, AIR, own, throw)
        told = {code: in_si(code, value) for code, value in read.items()}
        found.append(Visit(BEGAN + timedelta(days=every * number), AIR, LIGHT, told))
    return found


def day_after(found: list[Visit]) -> date:
    return found[-1].day + timedelta(days=10)


WEARS = {
    "impeller-worn": ("battery", lambda n: {"head-lost": 0.05 * n}),
    "rotor-drags": ("battery", lambda n: {"drag": 1.0 + 0.35 * n}),
    "joint-resistance": ("battery", lambda n: {"joint-ohm": 0.12 * n}),
    "panels-dirty": ("panels", lambda n: {"panel-light-lost": 0.07 * n}),
    "valves-worn": ("membrane", lambda n: {"flow-lost": 0.09 * n}),
}


@pytest.mark.parametrize("cause", WEARS)
def test_what_the_visits_saw_coming_is_likelier_and_nothing_else_much(cause: str) -> None:
    name, states_at = WEARS[cause]
    found = visits(name, states_at)
    times = times_likelier(estimate(chain(name), found), day_after(found))
    assert times[cause] > 1.3, times
    sound = visits(name, lambda _: {})
    assert times_likelier(estimate(chain(name), sound), day_after(sound))[cause] < 0.8 * times[cause]
    assert max(times.values()) <= 6.0
    assert min(times.values()) >= 0.5


def test_no_visit_says_nothing() -> None:
    nothing = estimate(chain("battery"), [])
    assert times_likelier(nothing, BEGAN) == {}
    assert offsets_of(nothing, BEGAN) == Offsets()


def test_what_was_mended_at_the_last_visit_is_no_suspect_any_more() -> None:
    found = visits("battery", lambda n: {"drag": 1.0 + 0.35 * n})
    mended = [*found[:-1], replace(found[-1], done=("pump-cleaned",))]
    before = times_likelier(estimate(chain("battery"), found), day_after(found))["rotor-drags"]
    after = times_likelier(estimate(chain("battery"), mended), day_after(found))["rotor-drags"]
    assert after < 0.6 * before


def test_a_kit_that_always_drew_more_than_its_label_is_no_kit_that_drags() -> None:
    """Seven per cent more amps and six less head from the first day on: without its first day a search calls that a fault."""
    own = chain("battery")
    off = estimate(own, [replace(visit, readings=_as_it_is(own, visit)) for visit in visits("battery", lambda _: {})])
    told = offsets_of(off, BEGAN + timedelta(days=200))
    assert told.mean[3] > 0.5, "amps"
    assert told.mean[4] < -0.5, "head"
    assert all(0.6 <= spread <= 1.0 for spread in told.spread)
    today = _as_it_is(own, visits("battery", lambda _: {})[0])
    seen = [Evidence(code, today[code]) for code in ("pump-amps-on", "outlet-flow", "shut-off-head")]
    lit = Lit(LIGHT, AIR)
    blind = believe(own, "unknown", lit, seen).shares[NONE]
    knowing = believe(replace(own, offsets=told), "unknown", lit, seen).shares[NONE]
    assert knowing > 1.5 * blind


def _as_it_is(own, visit: Visit) -> dict[str, float]:
    """The readings of a stand-in with 7 % more amps and 6 % less head than stated."""
    stated = json.loads(json.dumps(KITS["battery"]))
    motor = stated["motor"]
    motor["points"] = [[q, h * 0.94, a * 1.07] for q, h, a in motor["points"]]
    motor["no_load_a"] *= 1.07
    from squall.standins.broken import broken
    from squall.standins.yard import Yard

    yard = Yard.of(broken(stated, "none", None), LIGHT, AIR, random.Random(1))
    return {code: in_si(code, float(yard.exactly(code))) for code in visit.readings}


def test_the_logs_share_is_one_more_factor_of_the_prior() -> None:
    own = chain("battery")
    lit = Lit(LIGHT, AIR)
    plain = believe(own, "unknown", lit, []).shares
    told = believe(own, "unknown", lit, [], Frequencies(logged={"rotor-drags": 3.0})).shares
    odds = told["rotor-drags"] / told["fuse-blown"]
    assert odds == pytest.approx(3.0 * plain["rotor-drags"] / plain["fuse-blown"])


def test_two_at_once_are_weighed_with_what_the_yard_found_too() -> None:
    seen = [
        Evidence("cable-loop-ohms", 1.6), Evidence("hose", answer="kinked"), Evidence("outlet-flow", 2.0 / 60_000.0),
        Evidence("pump-volts-on", 8.0),
    ]  # fmt: skip

    def share(known: Frequencies) -> float:
        told = diagnose(chain("battery"), "unknown", Lit(None, 20.0), seen, known).together
        return next(pair.share for pair in told if {pair.first, pair.second} == {"joint-resistance", "hose-kinked"})

    plain = share(Frequencies())
    assert share(Frequencies(found={"hose-kinked": 12})) > plain + 0.1
    assert share(Frequencies(found={"screen-blocked": 12})) == pytest.approx(plain), "of which it is no part"
