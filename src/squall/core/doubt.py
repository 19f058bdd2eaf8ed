"""Doubtful inputs: what they make of the year's litres, and which measurement would narrow them most."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from math import hypot

import numpy as np

from squall.core.kits import Kit, Layout
from squall.core.motors import Motor
from squall.core.sun import Light

MOST_SPREAD = 0.8


@dataclass(frozen=True)
class Case:
    """What a year is worked out from."""

    kit: Kit
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
    low, high : Case
        With that input at both ends.
    remedy : str
        What would narrow it.
    """

    key: str
    name: str
    amount: float
    low: Case
    high: Case
    remedy: str


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


def with_lift(case: Case, more_m: float) -> Case:
    """The water standing that much lower: lift and bank grow."""
    layout = case.layout
    heights = tuple(
        piece if piece.end_height_m is None else replace(piece, end_height_m=piece.end_height_m + more_m)
        for piece in layout.pieces
    )
    lift = max(layout.lift_m + more_m, 0.0)
    bank = max(layout.bank_m + more_m, 0.0)
    return replace(case, layout=replace(layout, lift_m=lift, bank_m=bank, pieces=heights))


def with_lengths(case: Case, factor: float) -> Case:
    """Every piece of the run longer or shorter by a factor."""
    pieces = tuple(replace(piece, length_m=piece.length_m * factor) for piece in case.layout.pieces)
    return replace(case, layout=replace(case.layout, pieces=pieces))


def with_pump(case: Case, factor: float) -> Case:
    """The pump giving more or less at every head by a factor."""
    pump = case.kit.pump
    return replace(case, kit=replace(case.kit, pump=replace(pump, motor=_with_flow(pump.motor, factor))))


def _with_flow(motor: Motor, factor: float) -> Motor:
    return replace(motor, points=tuple((q * factor, h, i) for q, h, i in motor.points))


def with_light(case: Case, factor: float) -> Case:
    """All light brighter or dimmer by a factor."""
    return replace(case, light=_scaled(case.light, factor))


@lru_cache(maxsize=32)
def _scaled(light: Light, factor: float) -> Light:
    return replace(light, plane_w_m2=np.minimum(light.plane_w_m2 * factor, 1400.0))


REMEDIES = {
    "lift": "read the level with a weighted tape or a contact meter, and level the outlet",
    "lengths": "tape the run",
    "pump": "time a bucket at this lift, at known volts",
    "light": "no measurement of today: keep a log through the seasons",
}


def spreads_of(case: Case, lift_m: float, lengths: float, pump: float, light: float) -> list[Spread]:
    """The four doubtful inputs of a job; those without doubt are left out.

    Parameters
    ----------
    case : Case
        As believed.
    lift_m : float
        Each way. [m]
    lengths, pump, light : float
        Each way, as shares below 0.8. [-]

    Returns
    -------
    list[Spread]
        With the cases at both ends; ``low`` is the end that gives less water.
    """
    found = []
    if lift_m > 0.0:
        found.append(("lift", "water level and lift", lift_m, with_lift(case, lift_m), with_lift(case, -lift_m)))
    shares: list[tuple[str, str, float, Callable[[Case, float], Case], float]] = [
        ("lengths", "length of the run", lengths, with_lengths, -1.0),
        ("pump", "the pump's curve", pump, with_pump, 1.0),
        ("light", "the light of the month", light, with_light, 1.0),
    ]
    for key, name, amount, change, sign in shares:
        share = min(amount, MOST_SPREAD)
        if share > 0.0:
            found.append((key, name, share, change(case, 1.0 - sign * share), change(case, 1.0 + sign * share)))
    return [Spread(key, name, amount, low, high, REMEDIES[key]) for key, name, amount, low, high in found]


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
