"""Learning to find what is wrong: a stand-in kit with a hidden fault, looked into step by step; then the truth, and what each look was worth.

A lesson is its kit, its level and its number, and what was done in it: played again it shows the same readings, so nothing has to be kept.
"""

import random
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal, get_args

from squall.core.errors import NotFound
from squall.core.faults.causes import NONE
from squall.core.faults.checks import CHECKS, Check
from squall.standins.kits import KITS, Json
from squall.standins.play import faults_of
from squall.standins.yard import Yard
from squall.sums.registry import run
from squall.words import later

Level = Literal["plain", "usual", "hard"]
LEVELS: tuple[Level, ...] = get_args(Level)
# What a look or one reading shows; and what only several readings together do. Common practice, no source.
_PLAIN = frozenset(
    {"fuse-blown", "switch-open", "panels-dirty", "dial-low", "outlet-valve-shut", "hose-kinked", "battery-flat", "supply-off",
     "screen-blocked", "polarity-reversed", "rotor-stuck", "probe-dirty", "air-locked"}
)  # fmt: skip
_HARD = frozenset(
    {"joint-resistance", "impeller-worn", "brushes-worn", "rotor-drags", "water-fallen", "battery-weak", "hose-leaks", "check-valve-stuck",
     "panel-shaded", "valves-worn", "phase-swapped", NONE}
)  # fmt: skip
SWITCHED = ("on", "off")
MOST_ACTS = 60
_AIR_C, _WALK_MIN, _SWITCH_MIN = 22.0, 2.0, 0.2
# An unsafe act is stopped, and costs the time to take it in. [min]
_STOPPED_MIN = 5.0


@dataclass(frozen=True)
class Lesson:
    """A lesson by its kit, level and number, with what is hidden in it and its light. [W/m2]

    `stated` is the kit as the sums take it.
    """

    kit: str
    level: Level
    number: int
    fault: str
    light_w_m2: float
    stated: Json = field(repr=False)


@dataclass(frozen=True)
class Act:
    """What was done: the switch or a check, what it showed, what it cost, whether it was stopped as unsafe or couldn't be. [min]"""

    code: str
    check: Check | None
    shown: Json | None
    minutes: float
    stopped: bool = False
    idle: bool = False


@dataclass(frozen=True)
class Played:
    """A lesson so far: every act, whether it is switched on, minutes and unsafe acts. [min]"""

    acts: tuple[Act, ...]
    on: bool

    @property
    def minutes(self) -> float:
        """All of it. [min]"""
        return sum(act.minutes for act in self.acts)

    @property
    def unsafe(self) -> int:
        """How many acts were stopped."""
        return sum(act.stopped for act in self.acts)

    @property
    def evidence(self) -> list[Json]:
        """What the checks showed, as Fault takes it."""
        return [act.shown for act in self.acts if act.shown is not None]


@dataclass(frozen=True)
class Worth:
    """What a look was worth in bits, beside the best there was then; and how likely the truth stood after it. [bit], [bit], [-]"""

    act: Act
    bits: float
    best: str
    best_bits: float
    truth_share: float


def lesson_of(kit: str, level: str, number: int, own: Json | None = None) -> Lesson:
    """The lesson of a kit, a level and a number; `own` is a job's kit as it is stated, where the kit is none of ours.

    Raises
    ------
    NotFound
        For a kit or level that is none.
    """
    stated = own or KITS.get(kit)
    if stated is None or level not in LEVELS or not 0 <= number < 10**9:
        raise NotFound(later("There is no such lesson; choose one of the list."))
    throw = random.Random(f"{kit} {level} {number}")
    possible = faults_of(stated)
    chosen = [
        fault
        for fault in possible
        if (fault in _PLAIN if level == "plain" else fault in _HARD if level == "hard" else True)
    ]
    grade: Level = next(one for one in LEVELS if one == level)
    return Lesson(kit, grade, number, throw.choice(chosen or possible), throw.choice((350.0, 600.0, 850.0)), stated)


def checks_in(lesson: Lesson) -> list[Check]:
    """What can be looked at in a lesson."""
    return [CHECKS[row.check] for row in run("checks", {"kit": lesson.stated}).root if row.check in CHECKS]  # type: ignore[attr-defined]


def play(lesson: Lesson, acts: Sequence[str]) -> Played:
    """A lesson with what was done in it, in its order; acts that aren't any are left out.

    A check that wants the power off is stopped while it is on: told and counted. One that wants it on shows nothing while it is off.
    """
    kit = lesson.stated
    rows = {row.check: row.model_dump() for row in run("checks", {"kit": kit}).root}  # type: ignore[attr-defined]
    throw = random.Random(f"{lesson.kit} {lesson.number} yard")
    yard = Yard(kit, lesson.fault, lesson.light_w_m2, _AIR_C, throw)
    on, here, done = True, "", []
    for code in acts[:MOST_ACTS]:
        if code in SWITCHED:
            on = code == "on"
            done.append(Act(code, None, None, _SWITCH_MIN))
            continue
        if code not in rows or code not in CHECKS:
            continue
        check = CHECKS[code]
        walk = _WALK_MIN if rows[code]["where"] != here else 0.0
        here = rows[code]["where"]
        if check.power == "off" and on:
            done.append(Act(code, check, None, walk + _STOPPED_MIN, stopped=True))
        elif check.power == "on" and not on:
            done.append(Act(code, check, None, walk, idle=True))
        else:
            done.append(Act(code, check, yard.read(rows[code]), walk + rows[code]["minutes"]))
    return Played(tuple(done), on)


def worth_of(lesson: Lesson, played: Played) -> tuple[Worth, ...]:
    """What each look was worth as it was done, and what would have been best."""
    found: list[Worth] = []
    evidence: list[Json] = []
    moment: Json = {
        "kit": lesson.stated,
        "story": "unknown",
        "air_c": _AIR_C,
        "irradiance_w_per_m2": lesson.light_w_m2,
    }
    before = run("diagnose", {**moment, "evidence": evidence})
    for act in played.acts:
        if act.shown is None:
            continue
        offers = {row.check: row.gain_bits for row in before.next}  # type: ignore[attr-defined]
        best = before.next[0].check if before.next else ""  # type: ignore[attr-defined]
        evidence.append(act.shown)
        after = run("diagnose", {**moment, "evidence": evidence})
        truth = next((row.probability for row in after.beliefs if row.fault == lesson.fault), 0.0)  # type: ignore[attr-defined]
        found.append(Worth(act, offers.get(act.code, 0.0), best, offers.get(best, 0.0), truth))
        before = after
    return tuple(found)
