"""What gives way first as the pump draws more: worn, dragging, stalled."""

from dataclasses import dataclass

from squall.core.circuit.laid import Placed
from squall.core.electrics.protection import opens_within
from squall.core.kit.wiring import Wiring
from squall.core.reason import Spoken
from squall.job.wired.live import LiveCircuit
from squall.words import later

# Times the year's most amps that are looked at: a pump that wears, drags and at last stands.
UP_TO = 2.0


@dataclass(frozen=True)
class Weak:
    """A part of the loop with how many times the year's most amps it stands.

    Attributes
    ----------
    name : Spoken
        The part.
    stands_a : float
        Amps that it stands. [A]
    times : float
        Those over the most that the pump draws in the year. [-]
    guards : bool
        Whether it is there to open.
    after_s : float or None
        Within how long it surely opens at twice that; None for what doesn't open. [s]
    """

    name: Spoken
    stands_a: float
    times: float
    guards: bool
    after_s: float | None


def weak_parts(live: LiveCircuit, wiring: Wiring) -> tuple[Weak, ...]:
    """The pump's loop, weakest first.

    Parameters
    ----------
    live : LiveCircuit
        As it stands; its motor's amps count where they are more than the year's.
    wiring : Wiring
        Ampacities of the runs.

    Returns
    -------
    tuple of Weak
        Each counts from its rating, a fuse too, and before what stands no more: nothing in a loop may stand less than its
        fuse, as the page of cables has it. After how long it then opens is told beside it.
    """
    today = max(abs(live.part("motor").amps_a), wiring.continuous_a)
    found = []
    placed = live.kit.placed
    # What stands before a box has no more than the panels' amps, whatever the pump draws.
    boxes = [number for number, one in enumerate(placed) if one.kind in ("controller", "charger")]
    for part in live.parts[boxes[0] if boxes else 0 :]:
        one = part.placed
        if one.id == "charge_fuse":
            continue
        if one.kind in ("fuse", "breaker") and one.rating_a is not None:
            after = opens_within(one.kind, UP_TO * today, one.rating_a)
            found.append(Weak(one.name, one.rating_a, one.rating_a / today, True, after))
        elif _carries_the_pump(one) and one.rating_a is not None:
            found.append(Weak(one.name, one.rating_a, one.rating_a / today, False, None))
    bears = min(run.choice.ampacity_a for run in wiring.runs if run.of == "pump")
    found.append(Weak(later("cable to the pump"), bears, bears / today, False, None))
    return tuple(sorted(found, key=lambda weak: (weak.times, not weak.guards)))


def _carries_the_pump(one: Placed) -> bool:
    # What stands across the rails commands a relay, and carries its coil alone.
    return (one.pole == "plus" or one.kind == "controller") and one.kind in (
        "connector", "joint", "switch", "float switch", "timer", "pressure switch", "radio switch", "isolator", "relay", "controller"
    )  # fmt: skip
