"""The fuse or breaker of a loop: its rating, the weakest part, and whether a stall would blow it."""

import csv
from bisect import bisect_left
from dataclasses import dataclass, replace
from functools import lru_cache
from importlib.resources import files
from typing import Literal

from squall.core.errors import OutOfRange
from squall.core.reason import Quantity, Reason, Told

Kind = Literal["fuse", "breaker"]
CONTINUOUS_FACTOR = 1.25
# Bands of time against current over rating: from each ratio up it opens within so many seconds at the latest.
# Fuse: blade fuses, ISO 8820-3. Breaker: thermal part IEC 60898-1 (1.45 times within an hour, 2.55 within a minute), its
# magnet at ten times; on direct current magnets pull at up to 1.4 times that. All from memory.
_OPENS_WITHIN: dict[Kind, tuple[tuple[float, float], ...]] = {
    "fuse": ((1.35, 1800.0), (1.6, 50.0), (2.0, 5.0), (3.5, 0.5)),
    "breaker": ((1.45, 3600.0), (2.55, 60.0), (14.0, 0.1)),
}
_OPENS_AT: dict[Kind, float] = {kind: bands[0][0] for kind, bands in _OPENS_WITHIN.items()}
# A winding that stands under full amps is hurt within this: a guess. [s]
SOON_S = 60.0


def opens_within(kind: Kind, current_a: float, rating_a: float) -> float | None:
    """Time within which a fuse or breaker surely opens; None where it may never. [s]

    Parameters
    ----------
    kind : str
        ``fuse`` or ``breaker``.
    current_a, rating_a : float
        What flows, 0 or more; its rating, above 0. [A]

    Examples
    --------
    >>> opens_within("fuse", 13.5, 10.0)
    1800.0
    >>> opens_within("fuse", 13.0, 10.0) is None
    True
    """
    ratio = current_a / rating_a
    within = [seconds for least, seconds in _OPENS_WITHIN[kind] if ratio >= least * (1.0 - 1e-12)]
    return min(within) if within else None


def next_rating(kind: Kind, least_a: float) -> float | None:
    """The smallest standard rating of at least so many amps; None above the table. [A]"""
    known = ratings(kind)
    place = bisect_left(known, least_a)
    return known[place] if place < len(known) else None


@dataclass(frozen=True)
class LoopPart:
    """Something in the loop that stands only so much; `rating_v` DC, None where nobody says; how many `poles` it parts. [A], [V], [-]"""

    name: str | Told
    rating_a: float
    rating_v: float | None = None
    poles: int = 1


def volts_problems(parts: tuple[LoopPart, ...], highest_v: float) -> tuple[Reason, ...]:
    """What in a loop is made for less than the highest DC volts [V] that it can see, each in a sentence.

    A contact that parts more volts than it is made for draws an arc that does not go out by itself; alternating-current
    ratings say nothing of it.
    """
    return tuple(
        Reason("part-made-for-fewer-volts", name=part.name, rating=part.rating_v, highest=highest_v)
        for part in parts
        if part.rating_v is not None and part.rating_v < highest_v
    )


@dataclass(frozen=True)
class Protection:
    """What to fit, and what it can and can't do.

    Attributes
    ----------
    rating_a : float or None
        Rating to fit; None if no rating satisfies all. [A]
    least_a, most_a : float
        1.25 times the continuous current, and what the weakest part stands. [A]
    weakest : str or Told
        The part that stands least.
    stall_current_a : float
        Current with the rotor held. [A]
    stall_blows : bool
        Whether that surely opens it at all.
    opens_s : float or None
        Within what time, at the latest; None where it may never. [s]
    problems, fixes : tuple[str, ...]
        Sentences.
    reasons : tuple[str, ...]
        Why this rating.
    """

    rating_a: float | None
    least_a: float
    most_a: float
    weakest: str | Told
    stall_current_a: float
    stall_blows: bool
    opens_s: float | None
    problems: tuple[Told, ...]
    fixes: tuple[Told, ...]
    reasons: tuple[Told, ...]


@lru_cache(maxsize=2)
def ratings(kind: Kind) -> tuple[float, ...]:
    """Standard ratings of fuses or breakers, least first. [A]

    Examples
    --------
    >>> ratings("fuse")[:3]
    (1.0, 2.0, 3.0)
    """
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
    *,
    free_stall_a: float | None = None,
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
    free_stall_a : float, optional
        What a held rotor would draw through no cable at all: whether a thicker one can help. [A]

    Returns
    -------
    Protection
        The smallest standard rating of at least 1.25 times the continuous current that is
        not above anything in the loop; None, problems and fixes where there is none.
    """
    if continuous_a < 0.0 or cable_ampacity_a <= 0.0:
        raise OutOfRange(
            "current",
            Reason("amps-on-cable", continuous=continuous_a, cable_ampacity=cable_ampacity_a),
            Reason("or-more-real-cable"),
        )
    limits = [LoopPart("cable", cable_ampacity_a), *devices]
    if maker_max_fuse_a is not None:
        limits.append(LoopPart(Reason("pump-makers-limit"), maker_max_fuse_a))
    weakest = min(limits, key=lambda part: part.rating_a)
    least = CONTINUOUS_FACTOR * continuous_a
    rating = next((r for r in ratings(kind) if r >= least and r <= weakest.rating_a), None)
    within = None if rating is None else opens_within(kind, stall_current_a, rating)
    problems: list[Told] = []
    fixes: list[Told] = []
    reasons: list[Told] = []
    if rating is None:
        _explain_gap(kind, continuous_a, least, limits, problems, fixes)
    else:
        reasons.append(Reason("least-x-so-doesnt-tire", factor=CONTINUOUS_FACTOR, continuous=continuous_a, least=least))
        reasons.append(Reason("most-weakest-loop", rating=weakest.rating_a, name=weakest.name))
        if within is None or within > SOON_S:
            _explain_stall(kind, rating, stall_current_a, within, free_stall_a, problems, fixes)
    return Protection(
        rating, least, weakest.rating_a, weakest.name, stall_current_a, within is not None, within,
        tuple(problems), tuple(fixes), tuple(reasons),
    )  # fmt: skip


def fitted(found: Protection, fitted_a: float, kind: Kind, *, free_stall_a: float | None = None) -> Protection:
    """The protection with another fuse or breaker in it than the one worked out: what is wrong with that, if anything.

    Parameters
    ----------
    found : Protection
        As :func:`protect` has it.
    fitted_a : float
        What is fitted, above 0. [A]
    kind : str
        ``fuse`` or ``breaker``.
    free_stall_a : float, optional
        As :func:`protect` has it. [A]

    Returns
    -------
    Protection
        Of that rating, with the time in which it opens on a stall.
    """
    problems: list[Told] = []
    fixes: list[Told] = []
    if fitted_a > found.most_a:
        problems.append(
            Reason("fitted-fuse-too-large", fitted=fitted_a, kind=kind, name=found.weakest, most=found.most_a)
        )
    if fitted_a < found.least_a:
        problems.append(Reason("fitted-fuse-too-small", fitted=fitted_a, kind=kind, least=found.least_a))
    within = opens_within(kind, found.stall_current_a, fitted_a)
    if problems:
        fixes.append(Reason("fit-the-fuse-worked-out"))
    elif within is None or within > SOON_S:
        _explain_stall(kind, fitted_a, found.stall_current_a, within, free_stall_a, problems, fixes)
    return replace(
        found, rating_a=fitted_a, stall_blows=within is not None, opens_s=within, problems=tuple(problems),
        fixes=tuple(fixes), reasons=(Reason("fuse-as-fitted"),),
    )  # fmt: skip


def _explain_stall(
    kind: Kind, rating_a: float, stall_a: float, within_s: float | None, free_stall_a: float | None,
    problems: list[Told], fixes: list[Told],
) -> None:  # fmt: skip
    needed = _OPENS_AT[kind] * rating_a
    if within_s is None:
        problems.append(
            Reason(
                "stalled-pump-draws-here-needs-about", stall_current=stall_a, rating=rating_a, kind=kind, opens=needed
            )
        )
    else:
        minutes = round(within_s / 60.0)
        problems.append(
            Reason("stalled-pump-opens-late", stall_current=stall_a, rating=rating_a, kind=kind, minutes=minutes)
        )
    soon = next((least for least, seconds in _OPENS_WITHIN[kind] if seconds <= SOON_S), needed)
    if free_stall_a is None or free_stall_a >= soon * rating_a:
        fixes.append(Reason("fit-thicker-or-shorter-cable-controller"))
    else:
        fixes.append(Reason("no-cable-helps-stall"))


def _explain_gap(
    kind: Kind, continuous_a: float, least_a: float, limits: list[LoopPart], problems: list[Told], fixes: list[Told]
) -> None:
    next_up = next((r for r in ratings(kind) if r >= least_a), None)
    if next_up is None:
        problems.append(Reason("more-than-any-table-split-load", least=least_a, kind=kind))
        return
    for part in sorted(limits, key=lambda part: part.rating_a):
        if part.rating_a < next_up:
            problems.append(
                Reason(
                    "pump-draws-so-must-stands-only",
                    continuous=continuous_a,
                    kind=kind,
                    next_up=next_up,
                    name=part.name,
                    rating=part.rating_a,
                )
            )
            if part.name == "cable":
                fixes.append(Reason("fit-thicker-cable"))
            elif part.name == Reason("pump-makers-limit"):
                fixes.append(Reason("run-pump-fewer-volts-or-amps"))
            else:
                fixes.append(Reason("take-out-load-path-let-drive", name=part.name))


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

    Examples
    --------
    >>> stall_current(12.0, 0.5, 1.5)
    6.0
    """
    total = loop_ohm + motor_ohm
    if total <= 0.0:
        raise OutOfRange("resistance-loop", Quantity(total, "ohms"), Reason("more-than-nothing"))
    return source_v / total
