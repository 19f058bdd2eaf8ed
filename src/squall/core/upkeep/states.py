"""What wears: five slow states, how fast each is thought to go, and what sets it back.

The figures are guesses of the trade, common practice, no source: broad, so that visits soon outweigh them.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal, get_args

from squall.core.faults.chain import Chain

State = Literal["panel-light-lost", "joint-ohm", "drag", "head-lost", "flow-lost"]
STATES: tuple[State, ...] = get_args(State)
Done = Literal["panels-cleaned", "joint-remade", "pump-cleaned", "pump-end-renewed", "pump-renewed", "hose-mended"]
DONE: tuple[Done, ...] = get_args(Done)


@dataclass(frozen=True)
class Wearing:
    """How a state wears.

    Attributes
    ----------
    begin : float
        How much of it there may be at the first visit, one standard deviation. [its unit]
    rate, rate_off : float
        How much it grows, and how far that may be off. [its unit per year]
    wander : float
        How far it strays from a straight growth in a year, one standard deviation. [its unit]
    set_back : float
        How much may be left once it is set back, one standard deviation. [its unit]
    matters : float
        What is worth an alarm. [its unit]
    most : float
        More than this no kit runs with. [its unit]
    """

    begin: float
    rate: float
    rate_off: float
    wander: float
    set_back: float
    matters: float
    most: float


# Light, head and flow as shares; ohms; drag as what is over once the stated no-load amps.
WEARING: Mapping[State, Wearing] = {
    "panel-light-lost": Wearing(0.02, 0.06, 0.20, 0.06, 0.02, 0.05, 0.8),
    "joint-ohm": Wearing(0.03, 0.10, 0.40, 0.20, 0.04, 0.15, 8.0),
    "drag": Wearing(0.05, 0.15, 0.50, 0.15, 0.06, 0.20, 6.0),
    "head-lost": Wearing(0.02, 0.04, 0.15, 0.04, 0.03, 0.05, 0.7),
    "flow-lost": Wearing(0.02, 0.04, 0.20, 0.06, 0.03, 0.06, 0.95),
}
_SETS_BACK: Mapping[Done, tuple[State, ...]] = {
    "panels-cleaned": ("panel-light-lost",),
    "joint-remade": ("joint-ohm",),
    "pump-cleaned": ("drag",),
    "pump-end-renewed": ("head-lost",),
    "pump-renewed": ("drag", "head-lost"),
    "hose-mended": ("flow-lost",),
}


def states_of(chain: Chain) -> list[State]:
    """What can wear on a kit: light only on panels, head only of a centrifugal end (of the others it is flow)."""
    lacking: set[State] = set()
    if chain.panels == 0:
        lacking.add("panel-light-lost")
    if not chain.centrifugal:
        lacking.add("head-lost")
    return [state for state in STATES if state not in lacking]


def set_back_by(done: Done, chain: Chain) -> tuple[State, ...]:
    """What something that was done sets back; the valves of a membrane or piston come with its end. [codes]"""
    states = _SETS_BACK[done]
    if not chain.centrifugal and done in ("pump-end-renewed", "pump-renewed"):
        states = (*states, "flow-lost")
    return states
