"""A line that parts: a trunk with branches that all stand open at once, solved as one.

Each end asks for head as its own flow grows; where two ways part, the same head stands on both and their flows add. So the
whole is one curve of head over flow, worked from the ends back to the pump, and the flow of each end follows from the head
at its parting on the way out again.

References: energy and continuity at a junction, any hydraulics handbook.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import pi

import numpy as np
from numpy.typing import NDArray

from squall.core.hydraulics.pipes import HeadCurve, Line, Pipe, loss_at
from squall.core.hydraulics.water import Water

Floats = NDArray[np.float64]
_FLOWS = 500
# Least flow of a curve [m3/s]; greatest Reynolds number, within what the friction table holds. [-]
_LEAST, _MOST_RE = 1e-9, 9.9e6


@dataclass(frozen=True)
class Branch:
    """A way out beside the main one.

    Attributes
    ----------
    static_head_m : float
        Head at its end before any flow, over the water that is pumped. [m]
    pipes : tuple[Pipe, ...]
        From the parting to its end.
    after : int
        How many of the main line's pipes lie before the parting; 0 is at the pump.
    """

    static_head_m: float
    pipes: tuple[Pipe, ...]
    after: int = 0


@dataclass(frozen=True, eq=False)
class Parted:
    """A main line and its branches as one.

    Attributes
    ----------
    line : Line
        Asks the head that all of them together ask of the pump.
    main : Line
        The main line.
    branches : tuple[Branch, ...]
        The others.
    """

    line: Line
    main: Line
    branches: tuple[Branch, ...]

    def flows(self, total_m3_s: Floats) -> Floats:
        """What each end gets of a flow at the pump, main line first: shape (ends, flows). [m3/s]

        Notes
        -----
        An end that the head doesn't reach gets nothing; nothing runs back through it, for an open end lets in air.
        """
        head = self.line.head_at(total_m3_s) - self.line.drawdown_s_m2 * total_m3_s
        left, found, at = total_m3_s.copy(), {}, 0
        for joint in sorted({branch.after for branch in self.branches}):
            for pipe in self.main.pipes[at:joint]:
                head = head - loss_at(left, pipe, self.main.water)
            at = joint
            for number, branch in enumerate(self.branches):
                if branch.after == joint:
                    taken = np.minimum(
                        _end_curve(branch.static_head_m, branch.pipes, self.main.water).flow_at(head), left
                    )
                    found[number], left = taken, left - taken
        return np.stack([left, *(found[number] for number in range(len(self.branches)))])


def parted(main: Line, branches: Sequence[Branch]) -> Parted:
    """A main line with branches as one line.

    Parameters
    ----------
    main : Line
        From pump to its own outlet.
    branches : sequence of Branch
        Each leaves it after so many pipes.

    Returns
    -------
    Parted
        With drawdown as the main line has it; its least static head is that of the lowest end.
    """
    water = main.water
    joints = sorted({branch.after for branch in branches}, reverse=True)
    end, curve = len(main.pipes), HeadCurve(np.zeros(1), np.array([main.static_head_m]))
    for joint in joints:
        curve = _after(curve, main.pipes[joint:end], water)
        ways = [_end_curve(branch.static_head_m, branch.pipes, water) for branch in branches if branch.after == joint]
        curve, end = _side_by_side([curve, *ways]), joint
    curve = _after(curve, main.pipes[:end], water)
    static = float(curve.heads_m[0])
    over = HeadCurve(curve.flows_m3_s, curve.heads_m - static)
    return Parted(Line(static, (), water, main.drawdown_s_m2, over), main, tuple(branches))


def _end_curve(static_head_m: float, pipes: Sequence[Pipe], water: Water) -> HeadCurve:
    return _after(HeadCurve(np.zeros(1), np.array([static_head_m])), pipes, water)


def _after(curve: HeadCurve, pipes: Sequence[Pipe], water: Water) -> HeadCurve:
    """Head asked before some pipes, by what is asked behind them."""
    known = curve.flows_m3_s.size > 1
    if not pipes and known:
        return curve
    bores = [pipe.inner_diameter_m for pipe in pipes] or [0.5]
    most = min(bores) * pi / 4.0 * _MOST_RE * water.viscosity_m2_s
    flows = np.concatenate([[0.0], np.geomspace(_LEAST, most, _FLOWS)])
    if known:
        inner = curve.flows_m3_s[curve.flows_m3_s <= most]
        flows = np.unique(np.concatenate([flows[flows <= curve.flows_m3_s[-1]], inner]))
    heads = curve.head_at(flows) if known else np.full(flows.size, float(curve.heads_m[0]))
    for pipe in pipes:
        heads = heads + loss_at(flows, pipe, water)
    return HeadCurve(flows, heads)


def _side_by_side(curves: Sequence[HeadCurve]) -> HeadCurve:
    """Ways under the same head: their flows add, up to the least of their last heads."""
    top = min(float(curve.heads_m[-1]) for curve in curves)
    heads = np.unique(np.concatenate([curve.heads_m for curve in curves]))
    heads = heads[heads <= top]
    flows = np.sum([curve.flow_at(heads) for curve in curves], axis=0)
    rising = np.concatenate([[True], np.diff(flows) > 0.0])
    return HeadCurve(flows[rising], heads[rising])
