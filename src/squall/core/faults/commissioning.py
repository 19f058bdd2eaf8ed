"""From the first plug to the hand-over: every test of a kit in the order of a careful hand, what each should show, and what a wrong one means.

What a sound kit shows is read off the same rows that Fault reasons with, the kit off by what nobody knows; so a reading that
passes here is one that Fault would not hold against the kit.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from math import inf
from typing import Literal

import numpy as np

from squall.core.faults.causes import NONE, NOTHING_KNOWN, OTHER, Frequencies
from squall.core.faults.chain import Chain
from squall.core.faults.checks import CHECKS, Check
from squall.core.faults.readings import MEASURED, OPEN_LOOP_OHM, looks, panel_volts
from squall.core.faults.suspicion import Evidence, believe
from squall.core.faults.sweep import Lit, Swept, sweep_all

Group = Literal["before", "dry", "line", "power", "water", "functions"]
Grade = Literal["good", "wrong", "told"]
_YES: tuple[str, ...] = ("yes", "no")
# Between conductors and to wet earth a sound cable shows at least this: common practice, no source. [ohm]
INSULATION_OHM = 1e6
# How far the time to the first water may be off: the hose's own fall and air in it, a guess. [-]
FIRST_WATER_OFF = 0.35


def _has_inputs(chain: Chain) -> bool:
    return bool(chain.inputs)


def _controlled(chain: Chain) -> bool:
    return chain.controller is not None


# Tests that say nothing to Fault's reasoning, but that a kit isn't handed over without.
_MORE = (
    Check("insulation", "ohms", (), 4.0, ("meter",), "line", "unplug-ohms", "off", lambda c: True),
    Check("inputs-bridged", None, _YES, 1.0, (), "box", "dead-first", "off", _controlled),
    Check("relay-clicks", None, _YES, 1.0, (), "box", "battery-short", "any", lambda c: c.battery is not None),
    Check("lamp-as-load", None, _YES, 5.0, ("screwdriver",), "box", "battery-short", "on", lambda c: c.battery is not None),
    Check("first-water", "seconds", (), 2.0, ("watch",), "outlet", "not-dry-long", "on", lambda c: True),
    Check("float-stops", None, _YES, 3.0, (), "outlet", "above-water", "on", lambda c: c.has_float),
    Check("float-starts", None, _YES, 3.0, (), "outlet", "above-water", "on", lambda c: c.has_float),
    Check("probe-stops", None, _YES, 20.0, (), "pump", "not-dry-long", "on", lambda c: "probe" in c.inputs),
    Check("restarts-after-shade", None, _YES, 15.0, (), "panels", "height", "on", _controlled),
)  # fmt: skip
MORE: Mapping[str, Check] = {check.code: check for check in _MORE}
# The order of a careful hand: common practice, no source.
ORDER: Mapping[Group, tuple[str, ...]] = {
    "before": (
        "panels", "polarity", "panel-open-volts", "source-open-volts", "short-circuit-amps", "battery-rest-volts",
        "fuse-ohms", "switch-ohms", "cable-loop-ohms", "insulation", "motor-ohms",
    ),
    "dry": ("dial", "inputs-bridged", "relay-clicks", "lamp-as-load", "known-good-source", "bucket-flow-no-lift"),
    "line": ("screen", "hose", "check-valve", "outlet-valve-position"),
    "power": ("box-volts-on", "lamp", "turns", "pump-volts-on", "pump-amps-on", "fuse-volts", "switch-volts"),
    "water": ("first-water", "air", "outlet-flow", "pumping-water-level-drop", "shut-off-head"),
    "functions": ("float-stops", "float-starts", "probe-stops", "restarts-after-shade"),
}  # fmt: skip


@dataclass(frozen=True)
class Proof:
    """One test of a kit.

    Attributes
    ----------
    group : str
        Key of :data:`ORDER`.
    check : Check
        What is done.
    low, high : float or None
        Between which a sound kit reads; None for a look, or where nobody knows. [SI, of the check's kind]
    middle : float or None
        What it should read. [the same]
    sound : str
        The answer of a sound kit; empty for a reading.
    """

    group: Group
    check: Check
    low: float | None = None
    high: float | None = None
    middle: float | None = None
    sound: str = ""


def known_check(code: str) -> Check | None:
    """The check of a code, one of Fault's or one that is only done here; None for what is none."""
    return CHECKS.get(code) or MORE.get(code)


def proofs_of(chain: Chain, lit: Lit, relay: bool = False, first_water_s: float | None = None) -> tuple[Proof, ...]:
    """All tests of a kit in their order, each with what a sound one shows.

    Parameters
    ----------
    chain : Chain
        The kit as stated.
    lit : Lit
        What is known of light and air; without the light the bands of whatever hangs on it are wide.
    relay : bool
        Whether a relay switches the pump.
    first_water_s : float, optional
        When the first water should come. [s]

    Returns
    -------
    tuple of Proof
        Those that this kit has.
    """
    sound = sweep_all(chain, lit)[NONE]
    found: list[Proof] = []
    for group, codes in ORDER.items():
        for code in codes:
            check = known_check(code)
            if check is None or not check.can(chain) or (code == "relay-clicks" and not relay):
                continue
            proof = Proof(group, check)
            if code == "insulation":
                proof = replace(proof, low=INSULATION_OHM, high=inf, middle=OPEN_LOOP_OHM)
            elif code == "first-water":
                if first_water_s is not None:
                    spread = FIRST_WATER_OFF * first_water_s
                    proof = replace(
                        proof, low=first_water_s - spread, high=first_water_s + spread, middle=first_water_s
                    )
            elif check.kind is None:
                proof = replace(proof, sound=_YES[0] if code in MORE else _sound_answer(check, chain, sound))
            else:
                reading = panel_volts(sound, chain)[0] if check.a_panel else MEASURED[code](sound, chain)
                wide = 2.0 * float(np.median(reading.sigma))
                low, middle, high = (float(np.quantile(reading.value, share)) for share in (0.05, 0.5, 0.95))
                least = low - wide
                if middle >= 0.0 and check.kind != "volts":
                    least = max(least, 0.0)
                proof = replace(proof, low=least, high=high + wide, middle=middle)
            found.append(proof)
    return tuple(found)


def _sound_answer(check: Check, chain: Chain, sound: Swept) -> str:
    """What a sound kit shows to the eye in this light, by its likeliest answer."""
    shares = looks(check, NONE, sound, chain, sound).mean(axis=0)
    return check.answers[int(shares.argmax())]


def grade_of(proof: Proof, piece: Evidence) -> Grade:
    """Whether a test passed: ``good``, ``wrong``, or ``told`` where nothing can be said of it.

    Of several panels the worst counts.
    """
    if piece.skipped:
        return "told"
    if proof.sound:
        return "good" if piece.answer == proof.sound else "wrong"
    if proof.low is None or proof.high is None or piece.value is None:
        return "told"
    values = piece.value if isinstance(piece.value, tuple) else (piece.value,)
    return "good" if all(proof.low <= value <= proof.high for value in values) else "wrong"


def meanings(
    chain: Chain, lit: Lit, piece: Evidence, most: int = 3, known: Frequencies = NOTHING_KNOWN
) -> tuple[tuple[str, float], ...]:
    """What a wrong test means on this kit: the likeliest causes, as if it were the only thing seen, by what the yard knows. [-]

    Nothing for tests that Fault doesn't reason with.

    Parameters
    ----------
    chain : Chain
        The kit.
    lit : Lit
        Light and air of the test.
    piece : Evidence
        What it showed.
    most : int
        How many causes at most.
    known : Frequencies
        What the yard knows of its faults.
    """
    if piece.check in MORE or piece.skipped:
        return ()
    shares = believe(chain, "never-ran", lit, [piece], known).shares
    likely = sorted(
        ((code, share) for code, share in shares.items() if code not in (NONE, OTHER)), key=lambda row: -row[1]
    )
    return tuple(likely[:most])


@dataclass(frozen=True)
class Drift:
    """How the light moved round a test: what it was then, and how far it went. [W/m2], [-]"""

    light_w_m2: float
    moved: float

    @property
    def steady(self) -> bool:
        """Whether a reading that hangs on the light can be judged."""
        return self.moved <= MOST_DRIFT


# Over this share of change between the two lights round a test, wait and do it over: common practice, no source. [-]
MOST_DRIFT = 0.15


def light_at(at_s: float, lights: Sequence[tuple[float, float]]) -> Drift | None:
    """The light at a moment, straight between the readings of it before and after.

    Parameters
    ----------
    at_s : float
        The moment. [s]
    lights : sequence of (float, float)
        When it was read, and what it was, in order of time. [s], [W/m2]

    Returns
    -------
    Drift or None
        Before the first and after the last the nearest stands, unmoved; None without any.
    """
    if not lights:
        return None
    times, values = np.array([row[0] for row in lights]), np.array([row[1] for row in lights])
    light = float(np.interp(at_s, times, values))
    after = int(np.searchsorted(times, at_s))
    if not 0 < after < times.size:
        return Drift(light, 0.0)
    before, then = float(values[after - 1]), float(values[after])
    return Drift(light, abs(then - before) / max(before, then))
