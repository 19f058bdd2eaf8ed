"""Changes of a setup, each a function from one setup to another: what a lever, a doubt and a fault all are."""

from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache

from squall.core.drive.motors import Motor
from squall.core.electrics.conductors import Conductor
from squall.core.kit.kit import Direction, Kit, with_hose, with_panels
from squall.core.kit.layout import Layout, RunPiece
from squall.core.kit.parts import Hose
from squall.core.kit.setup import Setup

Change = Callable[[Setup], Setup]


def hose_to(hose: Hose | None) -> Change:
    """Another hose on the replaceable run."""
    return lambda setup: replace(setup, kit=with_hose(setup.kit, hose))


def panels_by(more: int, direction: Direction) -> Change:
    """More panels in each string, or more strings; fewer where `more` is below 0."""
    return lambda setup: replace(setup, kit=with_panels(setup.kit, more, direction))


def kit_to(kit: Kit) -> Change:
    """Another kit on the same line; a run to a box that comes with it is as thick as the pump's."""

    def change(setup: Setup) -> Setup:
        cabling = setup.cabling
        if kit.controller is not None and cabling.array is None:
            cabling = replace(cabling, array=cabling.pump)
        return replace(setup, kit=kit, cabling=cabling)

    return change


def pump_cable_to(size: Conductor) -> Change:
    """Another conductor to the pump."""
    return lambda setup: replace(setup, cabling=replace(setup.cabling, pump=size))


def pump_cable_of(metres: float) -> Change:
    """Another length of cable to the pump, one way. [m]"""
    return lambda setup: replace(setup, layout=replace(setup.layout, pump_cable_m=metres))


def water_lower(more_m: float) -> Change:
    """The water standing that much lower: lift and bank grow. [m]"""
    return _of_layout(lambda layout: lower(layout, more_m))


def run_longer(factor: float) -> Change:
    """Every piece of the run longer or shorter by a factor. [-]"""
    return _of_layout(lambda layout: longer(layout, factor))


def pump_stronger(factor: float) -> Change:
    """The pump giving more or less at every head by a factor. [-]"""

    def change(setup: Setup) -> Setup:
        pump = setup.kit.pump
        return replace(setup, kit=replace(setup.kit, pump=replace(pump, motor=flow_by(pump.motor, factor))))

    return change


@lru_cache(maxsize=1024)
def flow_by(motor: Motor, factor: float) -> Motor:
    """A motor whose pump gives more or less at every head by a factor. [-]"""
    return replace(motor, points=tuple((q * factor, h, i) for q, h, i in motor.points))


def _of_layout(change: Callable[[Layout], Layout]) -> Change:
    return lambda setup: replace(setup, layout=change(setup.layout))


def lower(layout: Layout, more_m: float) -> Layout:
    """A layout with the water standing that much lower. [m]"""
    heights = tuple(
        piece if piece.end_height_m is None else replace(piece, end_height_m=piece.end_height_m + more_m)
        for piece in layout.pieces
    )
    lift = max(layout.lift_m + more_m, 0.0)
    others = None if layout.round is None else layout.round.lower(more_m)
    return replace(layout, lift_m=lift, bank_m=max(layout.bank_m + more_m, 0.0), pieces=heights, round=others)


def longer(layout: Layout, factor: float) -> Layout:
    """A layout whose every piece is longer or shorter by a factor. [-]"""

    def grown(pieces: tuple[RunPiece, ...]) -> tuple[RunPiece, ...]:
        return tuple(replace(piece, length_m=piece.length_m * factor) for piece in pieces)

    others = layout.round
    if others is not None:
        others = replace(others, outlets=tuple(replace(o, pieces=grown(o.pieces)) for o in others.outlets))
    return replace(layout, pieces=grown(layout.pieces), round=others)
