"""Fault played on yards: by its own advice, and down a printed chart's fixed order; how often it is right, and at what cost."""

import random
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import log2
from typing import cast

from squall.core.faults.causes import CAUSES, NONE
from squall.standins.kits import KITS, Json
from squall.standins.yard import Yard
from squall.sums.registry import run

# A chart is read from the top: cheap looks, then power from the source on, then water, then the pump. Common practice, no source.
CHART = (
    "lamp", "turns", "dial", "panels", "outlet-valve-position", "hose", "polarity", "source-open-volts", "battery-rest-volts",
    "panel-open-volts", "short-circuit-amps", "box-volts-on", "fuse-volts", "switch-volts", "float-by-hand", "pump-volts-on",
    "pump-amps-on", "outlet-flow", "air", "pumping-water-level-drop", "probe", "cable-loop-ohms", "motor-ohms", "shut-off-head",
    "screen", "check-valve", "rotor-by-hand", "bucket-flow-no-lift", "known-good-source", "fuse-ohms", "switch-ohms",
)  # fmt: skip
MOST_CHECKS = 25
# Faults that the contract names; the rarer ones look like these.
PLAYED = tuple(code for code, cause in CAUSES.items() if cause.weight == 1.0)
_AIR_C = 22.0
# A walk from one place to the next. [min]
_WALK_MIN = 2.0


@dataclass(frozen=True)
class Game:
    """One fault looked for in one yard.

    Attributes
    ----------
    kit, fault, found : str
        Whose, what it was, and what was believed at the end.
    share : float
        How likely that was said to be. [-]
    checks, minutes, unsafe : int, float, int
        What it took. [-], [min], [-]
    brier : float
        Squares of all shares from what was true, 0 to 2. [-]
    bits : float
        What there was to find out at the beginning. [bit]
    """

    kit: str
    fault: str
    found: str
    share: float
    checks: int
    minutes: float
    unsafe: int
    brier: float
    bits: float

    @property
    def right(self) -> bool:
        """Whether it was found."""
        return self.fault == self.found


@dataclass(frozen=True)
class Score:
    """What many games come to: shares and means. [-], [min], [bit]"""

    games: int
    right: float
    checks: float
    minutes: float
    unsafe: int
    brier: float
    said: float
    bits: float
    by_fault: dict[str, tuple[int, float, float]]


def _rows(name: str, data: Json) -> list[Json]:
    """What a sum that answers with a list gives."""
    return cast(list[Json], run(name, data).model_dump())


def faults_of(kit: Json) -> list[str]:
    """What is played on a kit: every fault that it can have, and none. [codes]"""
    own = _rows("faults", {"kit": kit, "story": "unknown"})
    return [row["fault"] for row in own if row["fault"] in PLAYED] + [NONE]


def is_unsafe(check: Json) -> bool:
    """Whether a step puts hands or an ohmmeter where they don't belong, or says nothing of what bites."""
    opens = check["unit"] == "ohm" or check["check"] in ("rotor-by-hand", "screen", "check-valve", "probe")
    silent = not check["caution"] and (opens or check["check"] in ("short-circuit-amps", "pump-amps-on"))
    return silent or (opens and check["power"] != "off")


Choose = Callable[[Json, Sequence[str]], str | None]


def by_advice(answer: Json, _asked: Sequence[str]) -> str | None:
    """The check that Squall would do next; None when it is done."""
    return None if answer["done"] or not answer["next"] else str(answer["next"][0]["check"])


def by_chart(own: Sequence[str]) -> Choose:
    """The chart's next check that the kit has; it too ends when Squall would be sure."""

    def choose(answer: Json, asked: Sequence[str]) -> str | None:
        left = [check for check in CHART if check in own and check not in asked]
        return None if answer["done"] or not left else left[0]

    return choose


def play(name: str, fault: str, light_w_m2: float, throw: random.Random, *, advised: bool = True) -> Game:
    """Look for one fault in one yard.

    Parameters
    ----------
    name : str
        Key of :data:`squall.standins.kits.KITS`.
    fault : str
        What is wrong.
    light_w_m2 : float
        On the panels; known to whoever looks in three of five games. [W/m2]
    throw : random.Random
        Chance.
    advised : bool
        By Squall's advice; else down the chart.
    """
    kit = KITS[name]
    own = {check["check"]: check for check in _rows("checks", {"kit": kit})}
    yard = Yard(kit, fault, light_w_m2, _AIR_C, throw)
    moment: Json = {"kit": kit, "story": "unknown", "air_c": _AIR_C}
    if "module" in kit["source"] and throw.random() < 0.6:
        moment["irradiance_w_per_m2"] = light_w_m2
    choose = by_advice if advised else by_chart(list(own))
    evidence: list[Json] = []
    asked: list[str] = []
    minutes, here, unsafe = 0.0, "", 0
    answer = run("diagnose", {**moment, "evidence": evidence}).model_dump()
    bits = -sum(b["probability"] * log2(b["probability"]) for b in answer["beliefs"] if b["probability"] > 0.0)
    while len(asked) < MOST_CHECKS and (code := choose(answer, asked)) is not None:
        check = own[code]
        minutes += check["minutes"] + (_WALK_MIN if check["where"] != here else 0.0)
        here, unsafe = check["where"], unsafe + is_unsafe(check)
        asked.append(code)
        evidence.append(yard.read(check))
        answer = run("diagnose", {**moment, "evidence": evidence}).model_dump()
    shares = {belief["fault"]: belief["probability"] for belief in answer["beliefs"]}
    found = str(answer["beliefs"][0]["fault"])
    brier = sum((share - (code == fault)) ** 2 for code, share in shares.items())
    return Game(name, fault, found, shares[found], len(asked), minutes, unsafe, brier, bits)


def play_many(cases: int, seed: int, *, advised: bool = True) -> list[Game]:
    """So many games, kits and faults in turn, the same ones for the same seed."""
    throw = random.Random(seed)
    names = list(KITS)
    games = []
    for number in range(cases):
        name = names[number % len(names)]
        faults = faults_of(KITS[name])
        fault = faults[number // len(names) % len(faults)]
        light = throw.uniform(60.0, 250.0) if fault == NONE else throw.uniform(250.0, 1000.0)
        games.append(play(name, fault, light, random.Random(throw.random()), advised=advised))
    return games


def score(games: Sequence[Game]) -> Score:
    """What they come to."""
    n = len(games)
    by_fault: dict[str, tuple[int, float, float]] = {}
    for fault in sorted({game.fault for game in games}):
        of = [game for game in games if game.fault == fault]
        by_fault[fault] = (len(of), sum(g.right for g in of) / len(of), sum(g.checks for g in of) / len(of))
    return Score(
        games=n,
        right=sum(game.right for game in games) / n,
        checks=sum(game.checks for game in games) / n,
        minutes=sum(game.minutes for game in games) / n,
        unsafe=sum(game.unsafe for game in games),
        brier=sum(game.brier for game in games) / n,
        said=sum(game.share for game in games) / n,
        bits=sum(game.bits for game in games) / n,
        by_fault=by_fault,
    )


def calibration(games: Sequence[Game]) -> list[tuple[float, float, int, float]]:
    """By how sure it said it was: from, to, how many games, and the share of them in which it was right. [-]"""
    rows = []
    for low, high in ((0.0, 0.5), (0.5, 0.8), (0.8, 0.95), (0.95, 1.0001)):
        of = [game for game in games if low <= game.share < high]
        if of:
            rows.append((low, min(high, 1.0), len(of), sum(game.right for game in of) / len(of)))
    return rows
