"""A pump's head against its flow, and where that meets the line."""

import itertools
from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from math import isfinite, log, nan

import numpy as np
from numpy.typing import NDArray

from squall.core.errors import BadCurve
from squall.core.hydraulics.pipes import Line, pipe_loss
from squall.core.reason import Reason
from squall.core.roots import root

_LOW_EXPONENT, _HIGH_EXPONENT = 0.1, 20.0


class MonotoneCubic:
    """Monotone cubic through points, not-a-number outside them.

    Parameters
    ----------
    x, y : sequence of float
        Rising x; y of the same length.

    Notes
    -----
    The pieces are SciPy's. A call takes an array; :meth:`at` takes one number and works the same
    pieces by hand, because a root search asks for a thousand single numbers.

    References
    ----------
    F. N. Fritsch, R. E. Carlson, SIAM J. Numer. Anal. 17 (1980), 238-246; solved by SciPy.

    Examples
    --------
    >>> MonotoneCubic([0.0, 1.0, 2.0], [0.0, 1.0, 4.0]).at(1.0)
    1.0
    """

    __slots__ = ("_cubic", "_pieces", "_x")

    def __init__(self, x: Sequence[float], y: Sequence[float]) -> None:
        from scipy.interpolate import PchipInterpolator

        self._cubic = PchipInterpolator(x, y, extrapolate=False)
        self._x: list[float] = self._cubic.x.tolist()
        self._pieces: list[list[float]] = self._cubic.c.T.tolist()

    def __call__(self, x: NDArray[np.float64]) -> NDArray[np.float64]:
        """Values at many places."""
        values: NDArray[np.float64] = self._cubic(x)
        return values

    @property
    def pieces(self) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """Knots, and of each piece the cube, square, slope and start, for compiled loops, in whatever the points were. [any]"""
        return self._cubic.x, np.ascontiguousarray(self._cubic.c.T)

    def at(self, x: float) -> float:
        """Value at one place; x and value in whatever the points were. [any]"""
        if not self._x[0] <= x <= self._x[-1]:
            return nan
        piece = min(bisect_right(self._x, x), len(self._pieces)) - 1
        cube, square, slope, start = self._pieces[piece]
        along = x - self._x[piece]
        return ((cube * along + square) * along + slope) * along + start

    def slope_at(self, x: float) -> float:
        """How the value grows with x at one place within the points; in value over x. [any]"""
        piece = min(max(bisect_right(self._x, x), 1), len(self._pieces)) - 1
        cube, square, slope, _ = self._pieces[piece]
        along = x - self._x[piece]
        return (3.0 * cube * along + 2.0 * square) * along + slope

    @property
    def ends(self) -> tuple[float, float]:
        """Least and greatest x, in whatever the points were. [any]"""
        return self._x[0], self._x[-1]


@dataclass(frozen=True)
class PumpCurve:
    """Head of a pump against its flow, at one speed.

    Attributes
    ----------
    points : tuple[tuple[float, float], ...]
        (flow [m3/s], head [m]), at least two, flow rising, head never rising.

    Notes
    -----
    Three points that start at zero flow are taken as head = A - B Q^C; any others are joined
    by a monotone cubic (Fritsch-Carlson). Either way the curve passes through its own points,
    and nothing is promised outside them.
    """

    points: tuple[tuple[float, float], ...]

    def __post_init__(self) -> None:
        object.__setattr__(self, "points", tuple(sorted(self.points)))
        check_curve(self.points)

    @property
    def first(self) -> tuple[float, float]:
        """Point of least flow. [m3/s], [m]"""
        return self.points[0]

    @property
    def last(self) -> tuple[float, float]:
        """Point of most flow. [m3/s], [m]"""
        return self.points[-1]

    @cached_property
    def _power_law(self) -> tuple[float, float, float] | None:
        if len(self.points) != 3 or self.points[0][0] != 0.0:
            return None
        (_, shut), (q1, h1), (q2, h2) = self.points
        if not shut > h1 > h2:
            return None
        exponent = log((shut - h2) / (shut - h1)) / log(q2 / q1)
        if not _LOW_EXPONENT <= exponent <= _HIGH_EXPONENT:
            return None
        return shut, (shut - h1) / q1**exponent, exponent

    @cached_property
    def _cubic(self) -> MonotoneCubic:
        flows, heads = zip(*self.points, strict=True)
        return MonotoneCubic(flows, heads)

    def head_m(self, flow_m3_s: float) -> float:
        """Head at a flow within the curve; not-a-number outside it. [m]"""
        if self._power_law is None:
            return self._cubic.at(flow_m3_s)
        return float(self.heads_m(np.array([flow_m3_s]))[0])

    def heads_m(self, flow_m3_s: NDArray[np.float64]) -> NDArray[np.float64]:
        """Heads at many flows; not-a-number outside the curve. [m]"""
        law = self._power_law
        if law is None:
            return self._cubic(flow_m3_s)
        shut, factor, exponent = law
        inside = (flow_m3_s >= 0.0) & (flow_m3_s <= self.last[0])
        powered: NDArray[np.float64] = np.where(inside, shut - factor * np.maximum(flow_m3_s, 0.0) ** exponent, np.nan)
        return powered


def check_curve(points: tuple[tuple[float, float], ...]) -> None:
    """Refuse points that no pump can have.

    Parameters
    ----------
    points : tuple
        (flow [m3/s], head [m]) sorted by flow.

    Raises
    ------
    BadCurve
        Fewer than two points, a negative or endless figure, two heads at one flow, or head
        that rises with flow.
    """
    if len(points) < 2:
        raise BadCurve(Reason("pump-curve-needs-least-two-points-2"))
    for flow, head in points:
        if not (isfinite(flow) and isfinite(head) and flow >= 0.0 and head >= 0.0):
            raise BadCurve(Reason("point-impossible-both-must-or-more", flow=flow, head=head))
    for (q1, h1), (q2, h2) in itertools.pairwise(points):
        if q1 == q2:
            raise BadCurve(Reason("two-heads-given-curve-has-one", q1=q1))
        if h2 > h1:
            raise BadCurve(Reason("head-rises-flow-from-pumps-head", h1=h1, q1=q1, h2=h2, q2=q2))


@dataclass(frozen=True)
class OperatingPoint:
    """Where pump and line agree.

    Attributes
    ----------
    flows : bool
        Whether water comes out.
    flow_m3_s : float or None
        The flow; None where the curve promises nothing. [m3/s]
    head_m : float or None
        Head at that flow. [m]
    friction_m, fittings_m : float
        Head lost at that flow. [m]
    limiting : str
        What costs most: ``lift``, ``friction`` or ``fittings``; or ``too-high`` (the pump can't
        reach), ``curve-end`` or ``curve-start`` (the line asks for a flow outside the curve).
    missing_m : float
        Head that the pump lacks where it can't reach. [m]
    """

    flows: bool
    flow_m3_s: float | None
    head_m: float | None
    friction_m: float
    fittings_m: float
    limiting: str
    missing_m: float = 0.0


def operating_point(curve: PumpCurve, line: Line) -> OperatingPoint:
    """Find the flow at which the pump gives the head that the line asks for.

    Parameters
    ----------
    curve : PumpCurve
        The pump, at the speed it runs at.
    line : Line
        Lift and pipes.

    Returns
    -------
    OperatingPoint
        With ``flow_m3_s`` None where the crossing lies outside the curve's own points.

    Notes
    -----
    The pump's head falls and the line's rises with flow, so there is at most one crossing;
    it is bracketed by the first and last point and found by Brent's method.
    """

    def surplus(flow_m3_s: float) -> float:
        return curve.head_m(flow_m3_s) - line.head_m(flow_m3_s)

    (low, first_head), (high, _) = curve.first, curve.last
    if surplus(low) <= 0.0:
        if low == 0.0:
            return OperatingPoint(False, 0.0, first_head, 0.0, 0.0, "too-high", line.static_head_m - first_head)
        return OperatingPoint(False, None, None, 0.0, 0.0, "curve-start", line.head_m(low) - first_head)
    if surplus(high) > 0.0:
        friction, fittings = split_loss(high, line)
        return OperatingPoint(True, None, None, friction, fittings, "curve-end")
    flow = root(surplus, low, high)
    friction, fittings = split_loss(flow, line)
    limiting = max(("lift", line.static_head_m), ("friction", friction), ("fittings", fittings), key=lambda x: x[1])[0]
    return OperatingPoint(True, flow, line.head_m(flow), friction, fittings, limiting)


def split_loss(flow_m3_s: float, line: Line) -> tuple[float, float]:
    """Head lost to wall friction and to fittings, over all pipes of a line. [m], [m]"""
    losses = [pipe_loss(flow_m3_s, pipe, line.water) for pipe in line.pipes]
    return sum(loss.friction_m for loss in losses), sum(loss.fittings_m for loss in losses)
