"""A valve on the outlet that trims the flow to what is wanted: how much K, and about how far open."""

from dataclasses import dataclass
from itertools import pairwise
from math import exp, log

from squall.core.errors import OutOfRange
from squall.core.hydraulics.curves import PumpCurve
from squall.core.hydraulics.pipes import Line, Pipe
from squall.core.hydraulics.water import GRAVITY_M_S2
from squall.core.reason import Between, Quantity, Reason

# Loss coefficient of a gate valve by how far it is open. Perry's Chemical Engineers' Handbook, 7th ed.
# (1997), table 6-4: 0.17, 0.9, 4.5, 24 (from memory).
GATE_VALVE: tuple[tuple[float, float], ...] = ((1.0, 0.17), (0.75, 0.9), (0.5, 4.5), (0.25, 24.0))


@dataclass(frozen=True)
class Throttle:
    """What a valve has to do.

    Attributes
    ----------
    head_m : float
        To be taken out of the line. [m]
    minor_loss_k : float
        On the outlet piece's velocity head. [-]
    opening : float or None
        Of a gate valve, 0.25 to 1; None if less than a quarter. [-]
    """

    head_m: float
    minor_loss_k: float
    opening: float | None


def gate_opening(minor_loss_k: float) -> float | None:
    """How far open a gate valve has that K, read between the table's rows in log K; None below a quarter. [-]

    Examples
    --------
    >>> round(gate_opening(gate_k(0.5)), 6)
    0.5
    """
    if minor_loss_k <= GATE_VALVE[0][1]:
        return 1.0
    for (wide, low), (narrow, high) in pairwise(GATE_VALVE):
        if minor_loss_k <= high * (1.0 + 1e-9):
            return wide + (narrow - wide) * log(minor_loss_k / low) / log(high / low)
    return None


def gate_k(opening: float) -> float:
    """K of a gate valve from a quarter to fully open. [-]

    Examples
    --------
    >>> gate_k(1.0)
    0.17
    """
    if not GATE_VALVE[-1][0] <= opening <= 1.0:
        raise OutOfRange("opening-valve", Quantity(opening, "number"), Between(0.25, 1.0, "number"))
    for (wide, low), (narrow, high) in pairwise(GATE_VALVE):
        if opening >= narrow:
            share = (wide - opening) / (wide - narrow)
            return float(low * exp(share * log(high / low)))
    return GATE_VALVE[-1][1]


def throttle_for(curve: PumpCurve, line: Line, outlet: Pipe, flow_m3_s: float) -> Throttle:
    """The valve that trims a pump on a line to a wanted flow.

    Parameters
    ----------
    curve : PumpCurve
        At the volts it runs on.
    line : Line
        As it stands, without the valve.
    outlet : Pipe
        The piece the valve is fitted to.
    flow_m3_s : float
        Wanted, above 0 and within the curve. [m3/s]

    Returns
    -------
    Throttle
        Head to be lost, K and opening.

    Raises
    ------
    OutOfRange
        If the pump gives less than that with no valve at all, or the curve says nothing of that flow.

    Notes
    -----
    K = (pump's head - line's head) / (v^2 / 2g), at the wanted flow.
    """
    if not max(curve.first[0], 1e-9) <= flow_m3_s <= curve.last[0]:
        span = Reason("span-of-the-curve", first=curve.first[0], last=curve.last[0])
        raise OutOfRange("wanted-flow", Quantity(flow_m3_s, "flow"), span)
    spare = curve.head_m(flow_m3_s) - line.head_m(flow_m3_s)
    if spare < 0.0:
        raise OutOfRange("wanted-flow", Quantity(flow_m3_s, "flow"), Reason("less-than-pump-gives-no-valve"))
    velocity_head = (flow_m3_s / outlet.area_m2) ** 2 / (2.0 * GRAVITY_M_S2)
    k = spare / velocity_head
    return Throttle(spare, k, gate_opening(k))
