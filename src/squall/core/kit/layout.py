"""What the survey fixes whatever the kit: lift, run, water, cable lengths."""

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from squall.core.hydraulics.pipes import Line, Pipe
from squall.core.hydraulics.water import Water
from squall.core.kit.parts import Hose, Pump

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
    falls : Falls or None
        How the level goes through the year; None where it stays. [m]
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
    falls: Falls | None = None

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
        )

    @property
    def static_head_m(self) -> float:
        """Head before any flow. [m]

        An open run that climbs over a point higher than its outlet has to be pushed over it; what
        it falls beyond is not counted as gain, for air gathers at the top.
        """
        return (0.0 if self.closed_circuit else max(self.lift_m, self.highest_m)) + self.end_pressure_m

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
        return Line(self.static_head_m, pipes, self.water, self.drawdown_s_m2)

    @property
    def hose_m(self) -> float:
        """Length of hose that a kit brings. [m]"""
        return sum(piece.length_m for piece in self.pieces if piece.replaceable)


@lru_cache(maxsize=1024)
def _line(layout: Layout, hose: Hose | None) -> Line:
    return layout.build_line(hose)
