"""Learning to find what is wrong: a stand-in kit with a hidden fault, looked into step by step; then the truth, and what each look was worth.

A lesson is its kit, its level and its number, and what was done in it: played again it shows the same readings, so nothing has to be kept.
"""

import random
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Literal, get_args

from squall.core.errors import NotFound
from squall.core.faults.causes import NONE
from squall.core.faults.checks import CHECKS, Check
from squall.standins.kits import KITS, Json
from squall.standins.meter import DIALS, SOCKETS, Leads, Reading, read_leads
from squall.standins.play import faults_of
from squall.standins.terminals import Bench, Stand
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
# What hands do beside looking: the plug at the pump, a cloth over the panels, a new fuse in the meter.
HANDS = ("unplug", "plug", "cover", "uncover", "meter-fuse")
MOST_ACTS = 60
_AIR_C, _WALK_MIN, _SWITCH_MIN = 22.0, 2.0, 0.2
_HAND_MIN, _METER_FUSE_MIN, _LEADS_MIN = 1.0, 4.0, 1.0
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
    """What was done, and what it cost. [min]

    Attributes
    ----------
    code : str
        The switch, a hand's, a check's; of two leads as :func:`leads_code` has it.
    check : Check or None
        The check that it is, where it is one.
    shown : dict or None
        What that showed, as ``diagnose`` takes it.
    minutes : float
        With the walk. [min]
    stopped, idle : bool
        Whether it was stopped as unsafe; whether there was nothing to be seen.
    leads : Leads or None
        Where a meter's two leads were.
    reading : Reading or None
        What they showed.
    """

    code: str
    check: Check | None
    shown: Json | None
    minutes: float
    stopped: bool = False
    idle: bool = False
    leads: Leads | None = None
    reading: Reading | None = None


@dataclass(frozen=True)
class Played:
    """A lesson so far: every act, how the kit and the meter stand."""

    acts: tuple[Act, ...]
    stand: Stand = field(default_factory=Stand)
    fuse_whole: bool = True

    @property
    def on(self) -> bool:
        """Whether it is switched on."""
        return self.stand.on

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


def bench_of(lesson: Lesson) -> Bench:
    """A lesson's kit as the meter's leads find it, always the same one."""
    return Bench(_yard(lesson))


def _yard(lesson: Lesson) -> Yard:
    throw = random.Random(f"{lesson.kit} {lesson.number} yard")
    return Yard(lesson.stated, lesson.fault, lesson.light_w_m2, _AIR_C, throw)


def leads_code(dial: str, socket: str, red: str, black: str) -> str:
    """Two leads as an act has them: dial, socket and both terminals."""
    return f"leads.{dial}.{socket}.{red}.{black}"


def leads_of(code: str, bench: Bench) -> Leads | None:
    """Two leads of an act's code; None for what is none on this kit."""
    head, *rest = code.split(".")
    if head != "leads" or len(rest) != 4:
        return None
    dial, socket, red, black = rest
    own = {one.id: one for one in bench.terminals()}
    if red not in own or black not in own:
        return None
    for one_dial in DIALS:
        for one_socket in SOCKETS:
            if (dial, socket) == (one_dial, one_socket):
                return Leads(one_dial, one_socket, own[red], own[black])
    return None


def play(lesson: Lesson, acts: Sequence[str]) -> Played:
    """A lesson with what was done in it, in its order; acts that aren't any are left out.

    A check that wants the power off is stopped while it is on: told and counted; so is whoever opens a plug under load. One that
    wants it on shows nothing while it is off, unplugged or covered.
    """
    yard = _yard(lesson)
    game = _Game(lesson, yard, Bench(yard))
    for code in acts[:MOST_ACTS]:
        game.do(code)
    return Played(tuple(game.done), game.stand, game.fuse_whole)


class _Game:
    """A lesson while it is played."""

    def __init__(self, lesson: Lesson, yard: Yard, bench: Bench) -> None:
        self.lesson, self.yard, self.bench = lesson, yard, bench
        self.rows = {row.check: row.model_dump() for row in run("checks", {"kit": lesson.stated}).root}  # type: ignore[attr-defined]
        self.stand, self.fuse_whole, self.here = Stand(), True, ""
        self.done: list[Act] = []

    def do(self, code: str) -> None:
        """One act."""
        if code in SWITCHED:
            self.stand = replace(self.stand, on=code == "on")
            self.done.append(Act(code, None, None, _SWITCH_MIN))
        elif code in HANDS:
            self._hand(code)
        elif code in self.rows and code in CHECKS:
            self._check(code)
        elif (leads := leads_of(code, self.bench)) is not None:
            self._leads(code, leads)

    def _walk(self, where: str) -> float:
        walk = _WALK_MIN if where != self.here else 0.0
        self.here = where
        return walk

    def _hand(self, code: str) -> None:
        if code == "meter-fuse":
            if not self.fuse_whole:
                self.fuse_whole = True
                self.done.append(Act(code, None, None, _METER_FUSE_MIN))
            return
        covers = code in ("cover", "uncover")
        if covers and "module" not in self.lesson.stated["source"]:
            return
        minutes = self._walk("panels" if covers else "pump") + _HAND_MIN
        if not covers and self.stand.on:
            self.done.append(Act(code, None, None, minutes + _STOPPED_MIN, stopped=True))
            return
        field_, value = {
            "unplug": ("plugged", False), "plug": ("plugged", True), "cover": ("covered", True), "uncover": ("covered", False),
        }[code]  # fmt: skip
        self.stand = replace(self.stand, **{field_: value})
        self.done.append(Act(code, None, None, minutes))

    def _check(self, code: str) -> None:
        check, row = CHECKS[code], self.rows[code]
        walk = self._walk(check.where)
        if check.power == "off" and self.stand.on:
            self.done.append(Act(code, check, None, walk + _STOPPED_MIN, stopped=True))
        elif (check.power == "on" and not (self.stand.on and self.stand.plugged)) or (
            self.stand.covered and check.power != "any"
        ):
            self.done.append(Act(code, check, None, walk, idle=True))
        else:
            self.done.append(Act(code, check, self.yard.read(row), walk + row["minutes"]))

    def _leads(self, code: str, leads: Leads) -> None:
        minutes = self._walk(leads.red.where) + _LEADS_MIN
        # A chance of its own: what else was read stays as it was read.
        throw = random.Random(f"{self.lesson.kit} {self.lesson.number} {code} {self.stand}")
        reading = read_leads(self.bench, self.stand, leads, self.fuse_whole, throw)
        if reading.shows == "blew":
            self.fuse_whole = False
        check = CHECKS.get(reading.check or "") if reading.check in self.rows else None
        shown = None if check is None else {"check": check.code, "value": reading.value}
        minutes += _STOPPED_MIN if reading.unsafe else 0.0
        self.done.append(Act(code, check, shown, minutes, stopped=reading.unsafe, leads=leads, reading=reading))


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
        found.append(
            Worth(act, offers.get(act.check.code if act.check else "", 0.0), best, offers.get(best, 0.0), truth)
        )
        before = after
    return tuple(found)
