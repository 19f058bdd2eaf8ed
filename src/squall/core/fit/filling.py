"""How long an empty hose takes until the first water comes."""

from squall.core.hydraulics.pipes import Line, Pipe


def volume_above_m3(pipes: tuple[Pipe, ...], above_m: float) -> float:
    """Water in the last metres of a line. [m3]

    Parameters
    ----------
    pipes : tuple of Pipe
        From the pump to the outlet.
    above_m : float
        Length of the line above the water, counted from the outlet; all of it at most. [m]
    """
    left, found = above_m, 0.0
    for pipe in reversed(pipes):
        part = min(pipe.length_m, left)
        found += pipe.area_m2 * part
        left -= part
        if left <= 0.0:
            break
    return found


def first_water_s(line: Line, above_m: float, flow_m3_s: float) -> float | None:
    """Time from the switch to the first water at the outlet; None where none comes. [s]

    Parameters
    ----------
    line : Line
        The run.
    above_m : float
        How much of it lies above the water and is empty. [m]
    flow_m3_s : float
        What the pump gives at the outlet; while the hose fills it has less to climb and gives more, so water comes a little
        sooner. [m3/s]
    """
    if flow_m3_s <= 0.0:
        return None
    return volume_above_m3(line.pipes, above_m) / flow_m3_s
