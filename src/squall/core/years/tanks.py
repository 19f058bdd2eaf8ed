"""A tank with a float switch, through steps of steady inflow and draw.

The float switch closes where the level falls to `on_below` and opens where it rises to
`off_above`. Within a step the level is followed exactly, from event to event: inflow that depends
on the level is taken as straight between tabled levels, so that each stretch has a closed form.
"""

from collections.abc import Callable
from dataclasses import dataclass
from math import inf

import numpy as np
from numpy.typing import NDArray

from squall.core.errors import OutOfRange, Unsolvable, require
from squall.core.reason import Between, Quantity, Reason

Floats = NDArray[np.float64]
MOST_SWITCHINGS = 200_000


@dataclass(frozen=True)
class Tank:
    """A tank and its float switch, in litres throughout.

    Attributes
    ----------
    capacity_l : float
        Full. Above 0. [L]
    on_below_l, off_above_l : float
        Where the float switch closes and opens, 0 up to full, the first below the second. Without
        a switch `off_above_l` is infinite: the pump runs on and the tank spills. [L]
    """

    capacity_l: float
    on_below_l: float
    off_above_l: float

    def __post_init__(self) -> None:
        if not 0.0 < self.capacity_l < inf:
            raise OutOfRange("tank", Quantity(self.capacity_l / 1000.0, "litres"), Reason("more-than-nothing"))
        require("float-switch-below", self.on_below_l / 1000.0, 0.0, self.capacity_l / 1000.0, "litres")
        if self.off_above_l != inf:
            require("float-switch-off-above", self.off_above_l / 1000.0, 0.0, self.capacity_l / 1000.0, "litres")
        if self.on_below_l >= self.off_above_l:
            raise OutOfRange(
                "float-switch-below",
                Quantity(self.on_below_l / 1000.0, "litres"),
                Reason("less-than-where-goes-off", off_above=self.off_above_l / 1000.0),
            )

    @property
    def travel_l(self) -> float:
        """Water between on and off. [L]"""
        return min(self.off_above_l, self.capacity_l) - self.on_below_l


def without_switch(capacity_l: float) -> Tank:
    """A tank that the pump fills whenever it can, and that spills when full. [l]"""
    return Tank(capacity_l, capacity_l, inf)


@dataclass(frozen=True)
class StoreRun:
    """What a tank went through.

    Attributes
    ----------
    levels_l : NDArray
        At the beginning and after each step: one more than the steps. [L]
    starts : int
        How often the switch closed.
    pumped_l, short_l, overflow_l : float
        Pumped in; wanted and not there; spilled. [L]
    run_h : float
        Time in which the switch was closed and water came. [h]
    shortest_run_h : float or None
        Shortest time from a closing to the next opening; None if it never did both. [h]
    """

    levels_l: Floats
    starts: int
    pumped_l: float
    short_l: float
    overflow_l: float
    run_h: float
    shortest_run_h: float | None


def run_store(
    tank: Tank,
    start_l: float,
    step_s: float,
    draw_l_s: Floats,
    inflow_l_s: Floats,
    by_level: tuple[Floats, Floats] | None = None,
) -> StoreRun:
    """Follow the level of a tank through steps of steady inflow and draw.

    Parameters
    ----------
    tank : Tank
        The tank and its switch.
    start_l : float
        Water at the beginning, 0 up to full; the switch is closed then only if it is below `on`. [L]
    step_s : float
        Length of a step, above 0. [s]
    draw_l_s, inflow_l_s : NDArray
        Steady within each step, 0 or more, of equal length: what is drawn, and what the pump gives
        while on. [L/s]
    by_level : tuple of NDArray, optional
        Rising levels from 0 to full [L], and the share of `inflow_l_s` that comes at each; without
        it all comes at every level.

    Returns
    -------
    StoreRun
        Start plus pumped is end plus drawn less short plus spilled, exactly.

    Raises
    ------
    OutOfRange
        For a start outside the tank, negative rates, or series that differ in length.
    Unsolvable
        If the switch would close more than two hundred thousand times.
    """
    from squall.core.years.kernels import follow

    require("water-start", start_l / 1000.0, 0.0, tank.capacity_l / 1000.0, "litres")
    if not step_s > 0.0:
        raise OutOfRange("step", Quantity(step_s, "seconds"), Reason("more-than-nothing"))
    if draw_l_s.size != inflow_l_s.size or draw_l_s.size == 0:
        raise OutOfRange(
            "steps",
            Reason("draw-inflow", draws=draw_l_s.size, inflows=inflow_l_s.size),
            Reason("the-same-number-at-least-one"),
        )
    if min(float(draw_l_s.min()), float(inflow_l_s.min())) < 0.0:
        raise OutOfRange("draw-and-inflow", Reason("a-negative-rate"), Between(0.0, None, "number"))
    nodes, share = by_level or (np.array([0.0, tank.capacity_l]), np.ones(2))
    levels, totals = np.empty(draw_l_s.size + 1), np.zeros(6)
    done = follow(
        np.ascontiguousarray(nodes), np.ascontiguousarray(share), tank.capacity_l, tank.on_below_l, tank.off_above_l,
        start_l, step_s, np.ascontiguousarray(draw_l_s), np.ascontiguousarray(inflow_l_s), levels, totals, MOST_SWITCHINGS,
    )  # fmt: skip
    if not done:
        raise Unsolvable(
            Reason("float-switch-would-close-more-than", most=MOST_SWITCHINGS, travel=tank.travel_l / 1000.0)
        )
    shortest = None if totals[5] == 0.0 else float(totals[5]) / 3600.0
    return StoreRun(
        levels,
        int(totals[0]),
        float(totals[1]),
        float(totals[2]),
        float(totals[3]),
        float(totals[4]) / 3600.0,
        shortest,
    )


NODES = 129


def fed_from_below(tank: Tank, area_m2: float, flow_at: Callable[[float], float]) -> tuple[Floats, Floats]:
    """Levels and flows of a pump that fills a tank from below, so that the level adds to its head.

    Parameters
    ----------
    tank : Tank
        The tank.
    area_m2 : float
        Its surface, above 0. [m2]
    flow_at : callable
        Flow [L/s] at a height of water over the floor [m], falling.

    Returns
    -------
    tuple of NDArray
        Levels [L] and flows [L/s], for ``by_level`` with an inflow of 1.
    """
    if not area_m2 > 0.0:
        raise OutOfRange("surface-tank", Quantity(area_m2, "ground"), Reason("more-than-nothing"))
    levels = np.linspace(0.0, tank.capacity_l, NODES)
    return levels, np.array([flow_at(float(level) / 1000.0 / area_m2) for level in levels])


@dataclass(frozen=True)
class FloatCycle:
    """What a float switch makes of steady rates: water between on and off, run, pause, starts a day."""

    travel_l: float
    run_h: float
    pause_h: float
    starts_a_day: float


def float_cycle(travel_l: float, inflow_l_s: float, draw_l_s: float) -> FloatCycle | None:
    """Run and pause at steady inflow and draw; None where the pump never fills or nothing is drawn.

    Parameters
    ----------
    travel_l : float
        Water between on and off, above 0. [L]
    inflow_l_s, draw_l_s : float
        While on; always. [L/s]

    Notes
    -----
    run = travel/(inflow - draw), pause = travel/draw.

    Examples
    --------
    >>> float_cycle(100.0, 0.2, 0.05)
    FloatCycle(travel_l=100.0, run_h=0.18518518518518515, pause_h=0.5555555555555556, starts_a_day=32.4)
    """
    if travel_l <= 0.0:
        raise OutOfRange("floats-travel", Quantity(travel_l / 1000.0, "litres"), Reason("more-than-nothing"))
    if inflow_l_s <= draw_l_s or draw_l_s <= 0.0:
        return None
    run, pause = travel_l / (inflow_l_s - draw_l_s) / 3600.0, travel_l / draw_l_s / 3600.0
    return FloatCycle(travel_l, run, pause, 24.0 / (run + pause))


def effective_travel_m(travel_m: float, ripple_m: float) -> float:
    """Travel that is left when waves of a height pass under the float: it goes on and off early by half a wave each. [m]

    Examples
    --------
    >>> round(effective_travel_m(0.12, 0.02), 3)
    0.1
    """
    return max(travel_m - ripple_m, 0.0)
