"""What costs water: how much more would flow if one loss on the run were not there."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from squall.core.hydraulics.curves import PumpCurve, operating_point
from squall.core.hydraulics.pipes import Line


@dataclass(frozen=True)
class Cost:
    """One loss and the flow it costs. `key` names the piece; `lost_m` its head at today's flow. [m3/s], [m]"""

    name: str
    key: str
    flow_m3_s: float
    lost_m: float


def flow_on(curve: PumpCurve, line: Line) -> float:
    """Flow where curve and line meet; the curve's last where they meet beyond it, 0 where it can't lift. [m3/s]"""
    found = operating_point(curve, line)
    if found.flow_m3_s is not None:
        return found.flow_m3_s
    return curve.last[0] if found.limiting == "curve-end" else 0.0


def water_costs(curve: PumpCurve, line: Line, parts: Sequence[tuple[str, str, int, float | None]]) -> list[Cost]:
    """Rank the losses of a line by the water they cost.

    Parameters
    ----------
    curve : PumpCurve
        The pump.
    line : Line
        Lift and pipes.
    parts : sequence of (name, key, piece, K or None)
        Losses to leave out one at a time: a piece's wall where K is None, else that much K of it.

    Returns
    -------
    list[Cost]
        Dearest first; those that cost nothing are left out. Flow can't be told beyond the
        curve's last point, so there a cost is a lower bound.
    """
    today = flow_on(curve, line)
    found = []
    for name, key, number, k in parts:
        pipe = line.pipes[number]
        bare = replace(pipe, length_m=0.0) if k is None else replace(pipe, minor_loss_k=max(pipe.minor_loss_k - k, 0.0))
        pipes = (*line.pipes[:number], bare, *line.pipes[number + 1 :])
        without = replace(line, pipes=pipes)
        gained = flow_on(curve, without) - today
        lost = line.loss_m(today) - without.loss_m(today)
        if lost > 1e-9:
            found.append(Cost(name, key, max(gained, 0.0), lost))
    return sorted(found, key=lambda cost: (-cost.flow_m3_s, -cost.lost_m))
