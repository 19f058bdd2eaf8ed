"""What the survey fixes whatever the kit: lift, run, water, cable lengths."""

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from squall.core.electrics.conductors import Conductor
from squall.core.hydraulics.pipes import Line, Pipe
from squall.core.hydraulics.water import GRAVITY_M_S2, Water
from squall.core.kit.parts import Hose, Pump
from squall.core.kit.pressure_switch import PressureSwitch

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class RunPiece:
    """One piece of the surveyed run.

    Attributes
    ----------
    length_m : float
        Length. [m]
    inner_diameter_m, roughness_m : float
        Bore and wall as surveyed. [m]
    minor_loss_k : float
        Sum of its fittings. [-]
    replaceable : bool
        Whether a kit's hose takes its place.
    suction : bool
        Whether a surface pump draws through it.
    end_height_m : float or None
        Its end above the standing water, where surveyed. [m]
    """

    length_m: float
    inner_diameter_m: float
    roughness_m: float
    minor_loss_k: float
    replaceable: bool = True
    suction: bool = False
    end_height_m: float | None = None


@dataclass(frozen=True)
class Falls:
    """How a source's level goes through the year, January first: lower than surveyed by so much, and no water at the intake for a share of the days.

    Attributes
    ----------
    months_m : tuple[float, ...]
        Twelve, 0 or more. [m]
    bare : tuple[float, ...]
        Twelve shares, 0 to 1. [-]
    """

    months_m: tuple[float, ...]
    bare: tuple[float, ...] = (0.0,) * 12

    @property
    def most_m(self) -> float:
        """At the lowest. [m]"""
        return max(self.months_m)

    @property
    def shares(self) -> tuple[float, ...]:
        """Each month's fall over the most. [-]"""
        return tuple(fall / self.most_m if self.most_m > 0.0 else 0.0 for fall in self.months_m)

    def between(self, now: Floats, low: Floats, month: NDArray[np.int64]) -> Floats:
        """A figure by rows of given months, January 0: straight between that at the level surveyed and that at the lowest, nil on bare days. [any]"""
        rows = (-1, *(1,) * (now.ndim - 1))
        down, wet = (
            np.array(shares)[month].reshape(rows) for shares in (self.shares, tuple(1.0 - b for b in self.bare))
        )
        mixed: Floats = (now + (low - now) * down) * wet
        return mixed


CablePlace = Literal["air", "sun", "buried", "water"]


@dataclass(frozen=True)
class CablePiece:
    """A piece of a run that is of other cable than the rest of it.

    Attributes
    ----------
    run : str
        ``array``, from panels to box, or ``pump``, from box to pump.
    length_m : float
        One way, counted in the run's own length. [m]
    conductor : Conductor
        Its size.
    place : str
        In what it lies: ``air``, ``sun``, ``buried``, ``water``.
    ambient_c : float or None
        Warmth around it; the job's where nobody says. [°C]
    """

    run: Literal["array", "pump"]
    length_m: float
    conductor: Conductor
    place: CablePlace = "air"
    ambient_c: float | None = None


RoundMode = Literal["carried", "turn", "together"]


@dataclass(frozen=True)
class Outlet:
    """One more place that a kit serves, beside the end of the run.

    Attributes
    ----------
    name : str
        What it is called.
    lift_m : float
        As :class:`Layout` has it. [m]
    pieces : tuple[RunPiece, ...]
        Its own, from where it leaves the run.
    share : float
        Of the day's water, above 0 and under 1. [-]
    after : int
        How many pieces of the run lie before it leaves; what a surface pump draws through always does.
    """

    name: str
    lift_m: float
    pieces: tuple[RunPiece, ...]
    share: float
    after: int = 0


@dataclass(frozen=True)
class Round:
    """The places that share a kit beside the end of the run, and how: the set is carried from one to the next, valves open
    them in turn, or all stand open together.
    """

    mode: RoundMode
    outlets: tuple[Outlet, ...]

    @property
    def shares(self) -> tuple[float, ...]:
        """Of the day's water, the run's own end first. [-]"""
        others = tuple(outlet.share for outlet in self.outlets)
        return (1.0 - sum(others), *others)

    def lower(self, more_m: float) -> "Round":
        """The same with the water standing that much lower. [m]"""
        return replace(
            self, outlets=tuple(replace(outlet, lift_m=max(outlet.lift_m + more_m, 0.0)) for outlet in self.outlets)
        )


@dataclass(frozen=True)
class Layout:
    """What the survey fixes whatever the kit: lift, run, water, cable lengths.

    Attributes
    ----------
    lift_m : float
        Water level to the free outlet, or to the tank's surface if fed from below. The level is
        the one while pumping, or the standing one where `drawdown_s_m2` says how far it falls. [m]
    end_pressure_m : float
        Pressure wanted at the outlet. [m]
    pieces : tuple[RunPiece, ...]
        The run from pump to outlet.
    water : Water
        The water.
    closed_circuit : bool
        Water returns to where it started, pipes full: lift is not counted.
    array_cable_m, pump_cable_m : float
        Panel to box, and box to pump, one way; a panel joined directly has both. [m]
    ambient_c : float
        Air around the cables on a hot day. [°C]
    record_low_c : float
        Coldest air. [°C]
    bank_m : float
        Bank or well rim above that level; a surface pump stands there. [m]
    altitude_m : float
        Above the sea. [m]
    pump_below_m : float
        How far under that level a submerged pump hangs. [m]
    drawdown_s_m2 : float
        How far the level falls for each flow. [m per m3/s]
    relief_m : float or None
        Head at the pump that a relief valve or a pressure switch allows; None without one. [m]
    restrict_s2_m5 : float
        Head that a fixed flow restrictor at the start of the delivery asks, over the flow's square; 0 without one. [s2/m5]
    switch : PressureSwitch or None
        What starts and stops the pump by pressure. [m]
    falls : Falls or None
        How the level goes through the year; None where it stays. [m]
    round : Round or None
        The other places that share the kit; the lift and the run above are those of the first.
    cable_pieces : tuple[CablePiece, ...]
        Of other cable than a kit's own.
    """

    lift_m: float
    end_pressure_m: float
    pieces: tuple[RunPiece, ...]
    water: Water
    closed_circuit: bool
    array_cable_m: float
    pump_cable_m: float
    ambient_c: float
    record_low_c: float
    bank_m: float = 0.0
    altitude_m: float = 0.0
    pump_below_m: float = 0.0
    drawdown_s_m2: float = 0.0
    relief_m: float | None = None
    restrict_s2_m5: float = 0.0
    switch: PressureSwitch | None = None
    falls: Falls | None = None
    round: Round | None = None
    cable_pieces: tuple[CablePiece, ...] = ()

    @cached_property
    def places(self) -> tuple["Layout", ...]:
        """The layout of each place that the kit serves, as if it were the only one; the end of the run first."""
        alone = replace(self, round=None)
        if self.round is None:
            return (alone,)
        others = []
        for outlet in self.round.outlets:
            trunk = self.pieces[: max(outlet.after, self.suction_pieces)]
            others.append(replace(alone, lift_m=outlet.lift_m, pieces=trunk + outlet.pieces))
        return (alone, *others)

    @property
    def steady(self) -> "Layout":
        """The same with the level staying where it was surveyed."""
        return replace(self, falls=None)

    @property
    def lowest(self) -> "Layout":
        """The same with the level staying at the lowest of the year."""
        most = 0.0 if self.falls is None else self.falls.most_m
        return replace(
            self,
            falls=None,
            lift_m=self.lift_m + most,
            bank_m=self.bank_m + most,
            pump_below_m=max(self.pump_below_m - most, 0.0),
            round=None if self.round is None else self.round.lower(most),
        )

    @property
    def static_head_m(self) -> float:
        """Head before any flow. [m]

        An open run that climbs over a point higher than its outlet has to be pushed over it; what
        it falls beyond is not counted as gain, for air gathers at the top.
        """
        return (0.0 if self.closed_circuit else max(self.lift_m, self.highest_m)) + self.end_pressure_m

    @property
    def least_static_m(self) -> float:
        """The least head before any flow, of all its places. [m]"""
        return min(place.static_head_m for place in self.places)

    @property
    def column_m(self) -> float:
        """Height of the water that stands over the pump when it stops, of the highest place: nil in a closed circuit. [m]"""
        return max(0.0 if place.closed_circuit else max(place.lift_m, place.highest_m) for place in self.places)

    @property
    def highest_m(self) -> float:
        """Highest surveyed point of the run above the standing water; the outlet if none is higher. [m]"""
        known = [piece.end_height_m for piece in self.pieces[:-1] if piece.end_height_m is not None]
        return max([*known, 0.0 if self.closed_circuit else self.lift_m])

    @cached_property
    def lowest_replaceable_m(self) -> float | None:
        """Lowest end of the delivery that a kit's hose takes the place of, above the standing water; None if there is none. [m]

        A piece begins where the one before it ends; where that was not surveyed, at the water.
        """
        starts, at = [], 0.0
        for piece in self.pieces:
            end = piece.end_height_m
            if piece.replaceable and not piece.suction:
                starts.append(min(at, at if end is None else end))
            at = 0.0 if end is None else end
        return min(starts) if starts else None

    @property
    def suction_pieces(self) -> int:
        """How many pieces, from the first, a surface pump draws through."""
        count = 0
        for piece in self.pieces[:-1]:
            if not piece.suction:
                break
            count += 1
        return count

    def suction_line(self, hose: Hose | None) -> Line:
        """The pieces that a surface pump draws through."""
        whole = self.line(hose)
        return Line(0.0, whole.pipes[: self.suction_pieces], self.water)

    def pump_m(self, pump: Pump) -> float:
        """Height of a pump above the standing water: on the bank, or under it. [m]"""
        return self.bank_m if pump.placement == "surface" else -self.pump_below_m

    def line(self, hose: Hose | None) -> Line:
        """The line with a hose in place of the replaceable pieces."""
        return _line(self, hose)

    def build_line(self, hose: Hose | None) -> Line:
        """As :meth:`line`, built anew."""
        pipes = tuple(
            Pipe(piece.length_m, hose.inner_diameter_m, hose.roughness_m, piece.minor_loss_k)
            if hose is not None and piece.replaceable
            else Pipe(piece.length_m, piece.inner_diameter_m, piece.roughness_m, piece.minor_loss_k)
            for piece in self.pieces
        )
        if self.restrict_s2_m5 > 0.0:
            drawn = self.suction_pieces
            first = pipes[drawn]
            more = self.restrict_s2_m5 * 2.0 * GRAVITY_M_S2 * first.area_m2**2
            held = replace(first, minor_loss_k=first.minor_loss_k + more)
            pipes = (*pipes[:drawn], held, *pipes[drawn + 1 :])
        return Line(self.static_head_m, pipes, self.water, self.drawdown_s_m2)

    @property
    def hose_m(self) -> float:
        """Length of hose that a kit brings: for all its places, or the longest of them where one hose is carried round. [m]"""
        own = sum(piece.length_m for piece in self.pieces if piece.replaceable)
        if self.round is None:
            return own
        if self.round.mode == "carried":
            return max(sum(p.length_m for p in place.pieces if p.replaceable) for place in self.places)
        return own + sum(p.length_m for outlet in self.round.outlets for p in outlet.pieces if p.replaceable)


@lru_cache(maxsize=1024)
def _line(layout: Layout, hose: Hose | None) -> Line:
    return layout.build_line(hose)
