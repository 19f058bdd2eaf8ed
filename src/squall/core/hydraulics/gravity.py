"""Water from a tank to a zone by its height alone: what pressure is left there, and what the pipe can carry at most."""

from dataclasses import dataclass

from squall.core.errors import require
from squall.core.hydraulics.pipes import Line, Pipe, flow_for_loss, pipe_loss
from squall.core.hydraulics.water import Water

# Wall of a plain plastic pipe. Moody, Trans. ASME 66 (1944): drawn tubing, from memory. [m]
PLAIN_WALL_M = 1.5e-6
# A rounded entry at the tank and the end of the pipe. Crane, Technical Paper 410, from memory. [-]
ENTRY_AND_END_K = 1.5


@dataclass(frozen=True)
class Zone:
    """What a zone gets from a tank above it.

    Attributes
    ----------
    fall_m : float
        Water in the tank over the zone. [m]
    flow_m3_s : float
        That the zone takes. [m3/s]
    loss_m : float or None
        Lost on the way at that flow; None where the pipe isn't known. [m]
    most_m3_s : float or None
        What the pipe carries at most, with nothing left at its end. [m3/s]
    """

    fall_m: float
    flow_m3_s: float
    loss_m: float | None = None
    most_m3_s: float | None = None

    @property
    def left_m(self) -> float:
        """Pressure left at the zone; under nothing where the pipe can't carry the flow. [m]"""
        return self.fall_m - (self.loss_m or 0.0)


def zone_below(fall_m: float, flow_m3_s: float, pipe: Pipe | None, water: Water) -> Zone:
    """Pressure that a tank's height leaves at a zone.

    Parameters
    ----------
    fall_m : float
        Water in the tank over the zone, 0 or more. [m]
    flow_m3_s : float
        That the zone takes, 0 or more. [m3/s]
    pipe : Pipe or None
        From the tank to the zone, running full; None where nobody measured it, and nothing is taken off.
    water : Water
        Its density and viscosity.

    Returns
    -------
    Zone
        What is lost, left, and carried at most.

    Raises
    ------
    OutOfRange
        If a height or flow is negative.

    Notes
    -----
    Darcy-Weisbach to the head of the pipe's end; the drip line's own friction, a few per cent of it where the line is made for
    its length, is its maker's.
    """
    require("head", fall_m, 0.0, 1000.0, "head")
    require("flow", flow_m3_s, 0.0, 1.0, "flow")
    if pipe is None:
        return Zone(fall_m, flow_m3_s)
    lost = pipe_loss(flow_m3_s, pipe, water).head_loss_m
    return Zone(fall_m, flow_m3_s, lost, flow_for_loss(fall_m, Line(0.0, (pipe,), water)))
