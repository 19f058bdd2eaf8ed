"""Heights, hydraulic grade and pressure along a run, and what they forbid."""

from collections.abc import Sequence
from dataclasses import dataclass

from squall.core.hydraulics.pipes import Line, pipe_loss
from squall.core.reason import Reason


@dataclass(frozen=True)
class Station:
    """One place on the run.

    Attributes
    ----------
    name : str
        ``water``, ``suction end``, ``pump``, ``end of piece 2``, ``outlet``.
    piece : int or None
        Number of the piece that ends here, from 0.
    along_m : float
        Length of run behind it. [m]
    height_m : float
        Above the standing water. [m]
    grade_m : float
        Hydraulic grade: height to which a tube would stand, velocity head left out. [m]
    """

    name: Reason
    piece: int | None
    along_m: float
    height_m: float
    grade_m: float

    @property
    def pressure_m(self) -> float:
        """Over air pressure, in metres of water. [m]"""
        return self.grade_m - self.height_m


def end_heights(lengths_m: Sequence[float], known: Sequence[float | None], start_m: float, end_m: float) -> list[float]:
    """Height of each piece's end; those not given are laid straight between their neighbours.

    Parameters
    ----------
    lengths_m : sequence of float
        Of the pieces. [m]
    known : sequence
        Height of each piece's end above the water, None where not given; the last is ignored. [m]
    start_m, end_m : float
        Where the first piece begins, and the last one ends. [m]

    Returns
    -------
    list[float]
        One for each piece. [m]

    Examples
    --------
    >>> end_heights([10.0, 10.0], [None, None], 0.0, 4.0)
    [2.0, 4.0]
    """
    ends = [*known[:-1], end_m]
    heights: list[float] = []
    before, gone = start_m, 0.0
    pending: list[float] = []
    for length, end in zip(lengths_m, ends, strict=True):
        gone += length
        pending.append(gone)
        if end is None:
            continue
        heights += [before + (end - before) * (x / gone if gone > 0.0 else 1.0) for x in pending]
        before, gone, pending = end, 0.0, []
    return heights


def stations(
    line: Line, flow_m3_s: float, suction_pieces: int, heights_m: Sequence[float], pump_m: float, pump_head_m: float
) -> list[Station]:
    """Every place on the run with its height, grade and pressure at a flow.

    Parameters
    ----------
    line : Line
        All pieces in series, suction first.
    flow_m3_s : float
        0 or more. [m3/s]
    suction_pieces : int
        How many of them come before the pump.
    heights_m : sequence of float
        Height of each piece's end above the standing water. [m]
    pump_m : float
        Height of the pump. [m]
    pump_head_m : float
        Head that the pump gives at that flow. [m]

    Returns
    -------
    list[Station]
        From the water to the outlet; the pump adds its head at its own place.
    """
    grade = -line.drawdown_s_m2 * flow_m3_s
    found = [Station(Reason("water"), None, 0.0, grade, grade)]
    along = 0.0
    for number, (pipe, height) in enumerate(zip(line.pipes, heights_m, strict=True)):
        if number == suction_pieces:
            found.append(Station(Reason("pump-suction-side"), None, along, pump_m, grade))
            grade += pump_head_m
            found.append(Station(Reason("pump-outlet-side"), None, along, pump_m, grade))
        grade -= pipe_loss(flow_m3_s, pipe, line.water).head_loss_m
        along += pipe.length_m
        last = number == len(line.pipes) - 1
        found.append(
            Station(Reason("outlet") if last else Reason("end-piece", number=number + 1), number, along, height, grade)
        )
    return found


def lowest_pressure(places: Sequence[Station]) -> Station:
    """The place where the water stands under least pressure, open ends left out where others are as low."""
    return min(places[1:], key=lambda place: (round(place.pressure_m, 6), place.name == "outlet"))


def sag_after(heights_m: Sequence[float], start_m: float) -> int | None:
    """Number of the first piece at whose end the run lies lower than before it; None if it drains all the way.

    Parameters
    ----------
    heights_m : sequence of float
        Height of each piece's end, pump to outlet. [m]
    start_m : float
        Height at the pump. [m]

    Returns
    -------
    int or None
        From 0. Water stays in the low place when the pump stops, and freezes there.

    Examples
    --------
    >>> sag_after([3.0, 1.0, 5.0], 0.0)
    1
    """
    before = start_m
    for number, height in enumerate(heights_m):
        if height < before - 0.02:
            return number
        before = height
    return None
