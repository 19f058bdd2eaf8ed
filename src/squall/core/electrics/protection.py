"""The fuse or breaker of a loop: its rating, the weakest part, and whether a stall would blow it."""

import csv
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from typing import Literal

from squall.core.errors import OutOfRange

Kind = Literal["fuse", "breaker"]
CONTINUOUS_FACTOR = 1.25
# Current over rating at which it is sure to open within half an hour, and within seconds.
# Fuse: ISO 8820-3, 1.35 and 2.0 times; breaker: IEC 60947-2, 1.3 times within an hour,
# taken as 1.45 to be on the safe side (both from memory).
_OPENS_AT: dict[Kind, float] = {"fuse": 1.35, "breaker": 1.45}


@dataclass(frozen=True)
class LoopPart:
    """Something in the loop that stands only so much. [A]"""

    name: str
    rating_a: float


@dataclass(frozen=True)
class Protection:
    """What to fit, and what it can and can't do.

    Attributes
    ----------
    rating_a : float or None
        Rating to fit; None if no rating satisfies all. [A]
    least_a, most_a : float
        1.25 times the continuous current, and what the weakest part stands. [A]
    weakest : str
        The part that stands least.
    stall_current_a : float
        Current with the rotor held. [A]
    stall_blows : bool
        Whether that opens it within half an hour.
    problems, fixes : tuple[str, ...]
        Sentences.
    reasons : tuple[str, ...]
        Why this rating.
    """

    rating_a: float | None
    least_a: float
    most_a: float
    weakest: str
    stall_current_a: float
    stall_blows: bool
    problems: tuple[str, ...]
    fixes: tuple[str, ...]
    reasons: tuple[str, ...]


@lru_cache(maxsize=2)
def ratings(kind: Kind) -> tuple[float, ...]:
    """Standard ratings of fuses or breakers, least first. [A]"""
    text = (files("squall.core.electrics") / "data" / "protector_ratings.csv").read_text("utf8")
    rows = csv.DictReader(line for line in text.splitlines() if not line.startswith("#"))
    return tuple(float(row["rating_a"]) for row in rows if row["kind"] == kind)


def protect(
    continuous_a: float,
    cable_ampacity_a: float,
    devices: tuple[LoopPart, ...],
    stall_current_a: float,
    kind: Kind,
    maker_max_fuse_a: float | None = None,
) -> Protection:
    """Choose a rating for a loop.

    Parameters
    ----------
    continuous_a : float
        Current in steady running, 0 or more. [A]
    cable_ampacity_a : float
        What the cable carries. [A]
    devices : tuple[LoopPart, ...]
        Switches, relays, timers, connectors in series.
    stall_current_a : float
        Current through the loop with the rotor held. [A]
    kind : str
        ``fuse`` or ``breaker``.
    maker_max_fuse_a : float, optional
        The largest that the pump's maker allows. [A]

    Returns
    -------
    Protection
        The smallest standard rating of at least 1.25 times the continuous current that is
        not above anything in the loop; None, problems and fixes where there is none.
    """
    if continuous_a < 0.0 or cable_ampacity_a <= 0.0:
        raise OutOfRange(
            "current", f"{continuous_a:g} A on a cable for {cable_ampacity_a:g} A", "0 A or more on a real cable"
        )
    limits = [LoopPart("cable", cable_ampacity_a), *devices]
    if maker_max_fuse_a is not None:
        limits.append(LoopPart("pump maker's limit", maker_max_fuse_a))
    weakest = min(limits, key=lambda part: part.rating_a)
    least = CONTINUOUS_FACTOR * continuous_a
    rating = next((r for r in ratings(kind) if r >= least and r <= weakest.rating_a), None)
    blows = rating is not None and stall_current_a >= _OPENS_AT[kind] * rating
    problems: list[str] = []
    fixes: list[str] = []
    reasons: list[str] = []
    if rating is None:
        _explain_gap(kind, continuous_a, least, limits, problems, fixes)
    else:
        reasons.append(f"at least {CONTINUOUS_FACTOR} x {continuous_a:.2f} A = {least:.2f} A, so that it doesn't tire")
        reasons.append(f"at most {weakest.rating_a:g} A: the weakest in the loop is the {weakest.name}")
        if not blows:
            problems.append(
                f"A stalled pump draws {stall_current_a:.1f} A here; a {rating:g} A {kind} needs about "
                f"{_OPENS_AT[kind] * rating:.1f} A to open. The motor would cook instead."
            )
            fixes.append(
                "Fit thicker or shorter cable, a controller or relay that senses a stall, or look at the pump "
                "whenever volts are present and no water comes."
            )
    return Protection(
        rating, least, weakest.rating_a, weakest.name, stall_current_a, blows,
        tuple(problems), tuple(fixes), tuple(reasons),
    )  # fmt: skip


def _explain_gap(
    kind: Kind, continuous_a: float, least_a: float, limits: list[LoopPart], problems: list[str], fixes: list[str]
) -> None:
    next_up = next((r for r in ratings(kind) if r >= least_a), None)
    if next_up is None:
        problems.append(f"{least_a:.0f} A is more than any {kind} in the table; split the load.")
        return
    for part in sorted(limits, key=lambda part: part.rating_a):
        if part.rating_a < next_up:
            problems.append(
                f"The pump draws {continuous_a:.1f} A, so the {kind} must be {next_up:g} A; "
                f"the {part.name} stands only {part.rating_a:g} A."
            )
            if part.name == "cable":
                fixes.append("Fit a thicker cable.")
            elif part.name == "pump maker's limit":
                fixes.append(
                    "Run the pump at fewer volts or amps, or choose another pump; never fit above its maker's limit."
                )
            else:
                fixes.append(f"Take the {part.name} out of the load path (let it drive a relay's coil) or replace it.")


def stall_current(source_v: float, loop_ohm: float, motor_ohm: float) -> float:
    """Current with the rotor held: source volts over all resistance in the loop.

    Parameters
    ----------
    source_v : float
        Open volts of a battery or supply. [V]
    loop_ohm, motor_ohm : float
        Source, cable and joints; winding. Their sum above 0. [ohm]

    Returns
    -------
    float
        Current. [A]

    Raises
    ------
    OutOfRange
        If there is no resistance at all.
    """
    total = loop_ohm + motor_ohm
    if total <= 0.0:
        raise OutOfRange("resistance of the loop", f"{total:g} ohm", "more than 0")
    return source_v / total
