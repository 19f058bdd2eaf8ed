"""Doubtful inputs: what they make of the year's litres, and which measurement would narrow them most."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from math import hypot

import numpy as np

from squall.core.advice.asked import Asked
from squall.core.advice.rank import judge
from squall.core.advice.ranked import Ranked
from squall.core.advice.search import search
from squall.core.kit.cabling import Rules
from squall.core.kit.changes import Change, flow_by, longer, lower, pump_stronger, run_longer, water_lower
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Layout
from squall.core.kit.parts import Stock
from squall.core.kit.setup import Setup
from squall.core.kit.supply import Banked
from squall.core.reason import Reason
from squall.core.sky.typical_days import Light
from squall.core.years.use import Use

MOST_SPREAD = 0.8


@dataclass(frozen=True)
class Case:
    """What a year is worked out from: the setup, and the light on its panels."""

    setup: Setup
    light: Light

    def changed(self, change: Change) -> "Case":
        """The case with its setup changed."""
        return replace(self, setup=change(self.setup))


@dataclass(frozen=True)
class Place:
    """What a ranking is worked out from: the layout, and the light on any panels there."""

    layout: Layout
    light: Light


@dataclass(frozen=True)
class Spread:
    """One doubtful input.

    Attributes
    ----------
    key, name : str
        ``lift``, ``lengths``, ``pump`` or ``light``; and in plain words.
    amount : float
        Each way: metres for the lift, else a share.
    less : float
        Towards less water, where that is further than the other way; the same unit.
    low, high : Case
        With that input at both ends.
    remedy : str
        What would narrow it.
    """

    key: str
    name: Reason
    amount: float
    less: float
    low: Case
    high: Case
    remedy: Reason


@dataclass(frozen=True)
class Effect:
    """What one spread does to the litres: at its low end and at its high end. [L/d]"""

    spread: Spread
    at_low: float
    at_high: float

    @property
    def width(self) -> float:
        """Between both. [L/d]"""
        return abs(self.at_high - self.at_low)


@dataclass(frozen=True)
class LitreRange:
    """Litres of the worst month with their range, and what each spread does, widest first. [L/d]"""

    litres: float
    low: float
    high: float
    effects: tuple[Effect, ...]

    @property
    def worst(self) -> Effect | None:
        """The spread that does most, if any does anything."""
        return self.effects[0] if self.effects and self.effects[0].width > 0.0 else None

    @property
    def to_measure(self) -> Effect | None:
        """The spread that does most of those that a measurement can narrow."""
        return next((e for e in self.effects if e.spread.key != "light" and e.width > 0.0), None)


def with_light(case: Case, factor: float) -> Case:
    """All light brighter or dimmer by a factor. [-]"""
    return replace(case, light=scaled(case.light, factor))


@lru_cache(maxsize=32)
def scaled(light: Light, factor: float) -> Light:
    """The same hours with their light times a factor, nowhere above 1400 W/m2. [-]"""
    shaded = None if light.shaded_w_m2 is None else np.minimum(light.shaded_w_m2 * factor, 1400.0)
    origin = None if light.origin is None else replace(light.origin, factor=light.origin.factor * factor)
    return replace(
        light, plane_w_m2=np.minimum(light.plane_w_m2 * factor, 1400.0), shaded_w_m2=shaded, origin=origin
    )  # fmt: skip


def stock_with_pumps(stock: Stock, factor: float) -> Stock:
    """Every pump of a stock giving more or less by a factor. [-]"""
    pumps = tuple(replace(pump, motor=flow_by(pump.motor, factor)) for pump in stock.pumps)
    return replace(stock, pumps=pumps)


REMEDIES = {
    "lift": Reason("read-level-weighted-tape-or-contact"),
    "lengths": Reason("tape-run"),
    "pump": Reason("time-bucket-lift-known-volts"),
    "light": Reason("no-measurement-today-narrows-log-through"),
}


def spreads_of(
    case: Case, lift_m: float, lengths: float, pump: float, light: float, less_light: float | None = None
) -> list[Spread]:
    """The four doubtful inputs of a job; those without doubt are left out.

    Parameters
    ----------
    case : Case
        As believed.
    lift_m : float
        Each way. [m]
    lengths, pump, light : float
        Each way, as shares below 0.8. [-]
    less_light : float, optional
        How much dimmer the light may be, where that is more than how much brighter. [-]

    Returns
    -------
    list[Spread]
        With the cases at both ends; ``low`` is the end that gives less water.
    """
    found = []
    if lift_m > 0.0:
        low, high = case.changed(water_lower(lift_m)), case.changed(water_lower(-lift_m))
        found.append(("lift", Reason("water-level-lift"), (lift_m, lift_m), low, high))
    dim = light if less_light is None else less_light
    shares: list[tuple[str, Reason, tuple[float, float], Callable[[Case, float], Case], float]] = [
        ("lengths", Reason("length-run"), (lengths, lengths), lambda c, f: c.changed(run_longer(f)), -1.0),
        ("pump", Reason("pumps-curve"), (pump, pump), lambda c, f: c.changed(pump_stronger(f)), 1.0),
        ("light", Reason("light-month"), (dim, light), with_light, 1.0),
    ]
    for key, name, (less, more), change, sign in shares:
        off = min(less, MOST_SPREAD), min(more, MOST_SPREAD)
        if max(off) > 0.0:
            found.append((key, name, off, change(case, 1.0 - sign * off[0]), change(case, 1.0 + sign * off[1])))
    return [Spread(key, name, more, less, low, high, REMEDIES[key]) for key, name, (less, more), low, high in found]


def litre_range(litres: float, spreads: Sequence[Spread], litres_of: Callable[[Case], float]) -> LitreRange:
    """Litres with their range.

    Parameters
    ----------
    litres : float
        As believed. [L/d]
    spreads : sequence of Spread
        The doubtful inputs, taken as independent.
    litres_of : callable
        Litres of a case in the same month. [L/d]

    Returns
    -------
    LitreRange
        Each input moved to both its ends in turn; what they take away and add is summed by
        squares.
    """
    effects = [Effect(spread, litres_of(spread.low), litres_of(spread.high)) for spread in spreads]
    less = hypot(*(max(litres - min(e.at_low, e.at_high), 0.0) for e in effects))
    more = hypot(*(max(max(e.at_low, e.at_high) - litres, 0.0) for e in effects))
    effects.sort(key=lambda effect: -effect.width)
    return LitreRange(litres, max(litres - less, 0.0), litres + more, tuple(effects))


@dataclass(frozen=True)
class Pick:
    """The cheapest kit that holds in one case; None if none does. `words` say which case."""

    words: Reason
    lift_m: float
    best: Ranked | None


@dataclass(frozen=True)
class ChoiceRange:
    """Which kit is the cheapest that holds: as believed, at both ends of the lift, and with every doubt at its bad end.

    Attributes
    ----------
    picks : tuple[Pick, ...]
        As believed first, then the lift's lower and higher end if it is in doubt, last the bad end of all.
    holds_to_m : float or None
        Lift up to which the kit as believed still holds. [m]
    """

    picks: tuple[Pick, ...]
    holds_to_m: float | None

    @property
    def same_at_any_lift(self) -> bool:
        """Whether the lift's doubt doesn't change the kit."""
        return len({mark_of(pick.best) for pick in self.picks[:-1]}) == 1

    @property
    def same_at_worst(self) -> bool:
        """Whether not even all doubts together change it."""
        return mark_of(self.picks[0].best) == mark_of(self.picks[-1].best)


def mark_of(row: Ranked | None) -> str:
    """What tells one kit from another."""
    return "none" if row is None else mark_of_kit(row.kit)


def mark_of_kit(kit: Kit) -> str:
    """The same of a kit that isn't ranked."""
    hose = kit.hose.id if kit.hose is not None else "own"
    battery = f"{kit.supply.count}x{kit.supply.battery.id}" if isinstance(kit.supply, Banked) else ""
    return f"{kit.pump.id}/{kit.source}/{kit.panel.id}/{kit.in_series}x{kit.in_parallel}/{hose}/{battery}"


def choice_range(
    stock: Stock, place: Place, use: Use, rules: Rules, best: Ranked | None,
    spreads: tuple[float, float, float, float], progress: Callable[[float], bool] | None = None,
) -> ChoiceRange:  # fmt: skip
    """Rank the catalogue again at the ends of the doubt.

    Parameters
    ----------
    stock : Stock
        The catalogue.
    place : Place
        As believed.
    use, rules
        As :func:`squall.core.advice.search.search` takes them.
    best : Ranked or None
        The cheapest that holds as believed.
    spreads : tuple[float, float, float, float]
        Lift [m]; lengths, pump, light, as shares.
    progress : callable, optional
        Called with the share done; answers False to stop.

    Returns
    -------
    ChoiceRange
        More lift never makes a kit hold that fell short, so the same kit at both ends of the
        lift is the cheapest at every lift between.

    Raises
    ------
    Stopped
        If `progress` answers False.
    """
    lift, lengths, pump, light = spreads
    bad = Place(longer(lower(place.layout, lift), 1.0 + lengths), scaled(place.light, 1.0 - light))
    cases = [(Reason("every-doubt-bad-end"), bad, stock_with_pumps(stock, 1.0 - pump))]
    if lift > 0.0:
        cases = [
            (Reason("water-higher"), replace(place, layout=lower(place.layout, -lift)), stock),
            (Reason("water-lower"), replace(place, layout=lower(place.layout, lift)), stock),
            *cases,
        ]
    picks = [Pick(Reason("as-believed"), place.layout.lift_m, best)]
    for number, (words, varied, shelf) in enumerate(cases):

        def part(share: float, number: int = number) -> bool:
            return progress is None or progress((number + share) / len(cases))

        holds = search(shelf, varied.layout, varied.light, use, rules, Asked(1, each=False), part).holds
        picks.append(Pick(words, varied.layout.lift_m, holds[0] if holds else None))
    return ChoiceRange(tuple(picks), _holds_to(place, best, use, rules))


def _holds_to(place: Place, best: Ranked | None, use: Use, rules: Rules) -> float | None:
    if best is None or place.layout.closed_circuit or not any(use.need_l):
        return None

    def holds(more_m: float) -> bool:
        return judge(best.kit, lower(place.layout, more_m), place.light, use, rules).holds

    low, high = 0.0, 4.0 + place.layout.lift_m
    if holds(high):
        return place.layout.lift_m + high
    for _ in range(7):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if holds(middle) else (low, middle)
    return place.layout.lift_m + low
