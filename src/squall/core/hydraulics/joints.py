"""What joins what along a run: sizes that meet, sizes that don't, and the adapters to buy."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from squall.core.reason import Reason

# Trade sizes of hose and thread: bore [m], inches. Common practice, no source.
TRADE_SIZES: tuple[tuple[float, str], ...] = (
    (0.0065, "1/4"), (0.0095, "3/8"), (0.0127, "1/2"), (0.0159, "5/8"), (0.0191, "3/4"), (0.0254, "1"), (0.032, "1 1/4"),
    (0.0381, "1 1/2"), (0.0508, "2"), (0.076, "3"), (0.102, "4"),
)  # fmt: skip
MEET_WITHIN = 0.08
CLAMPS_AN_END = 2


@dataclass(frozen=True)
class End:
    """One end of a part: what it is (a name typed, or None for the pump's barb), its size, whether it is stiff. [m]"""

    name: str | None
    size_m: float
    stiff: bool


@dataclass(frozen=True)
class Joint:
    """Two ends that are to be joined, whether they meet, and what it takes."""

    first: End
    second: End
    meets: bool
    needs: tuple[Reason, ...]


def trade_inches(size_m: float) -> str:
    """Nearest trade size to a bore [m], in inches as the trade writes them: ``3/4``.

    Examples
    --------
    >>> trade_inches(0.0191)
    '3/4'
    """
    return min(TRADE_SIZES, key=lambda row: abs(row[0] - size_m))[1]


def join(first: End, second: End) -> Joint:
    """How two ends are joined.

    Parameters
    ----------
    first, second : End
        In the direction of flow.

    Returns
    -------
    Joint
        What it needs stands in the order in which it is put together. Sizes meet within 8 %; a barb into a stiff pipe wants a piece of soft hose between, so that
        the barb doesn't snap.

    Examples
    --------
    >>> join(End("hose", 0.0191, False), End("pipe", 0.0254, True)).meets
    False
    """
    meets = abs(first.size_m - second.size_m) <= MEET_WITHIN * max(first.size_m, second.size_m)
    needs = []
    sizes = {"wide": first.size_m, "narrow": second.size_m}
    change = [] if meets else [Reason("reducer" if first.size_m > second.size_m else "enlarger", **sizes)]
    # In the order in which they follow each other: a thread is made in the barb's own size, and brought to the other's after it.
    barb = first.name is None
    if second.stiff and (barb or not first.stiff):
        needs += [Reason("short-soft-hose", bore=first.size_m)] if barb else []
        needs += [Reason("barb-to-thread", barb=first.size_m, thread=second.size_m if meets else first.size_m), *change]
    elif first.stiff and not second.stiff and not barb:
        needs += [
            *change,
            Reason("barb-to-thread", barb=second.size_m, thread=first.size_m if meets else second.size_m),
        ]
    else:
        needs += change
    if not needs:
        both = first.stiff and second.stiff
        needs.append(Reason("coupling", bore=second.size_m) if both else Reason("pushed-on"))
    return Joint(first, second, meets, tuple(needs))


def joints_along(barb_m: float, pieces: Sequence[End]) -> list[Joint]:
    """Every joint from the pump's barb along the run.

    Parameters
    ----------
    barb_m : float
        Outer diameter of the pump's hose tail. [m]
    pieces : sequence of End
        The pieces in the direction of flow.

    Returns
    -------
    list[Joint]
        One for each piece.

    Examples
    --------
    >>> len(joints_along(0.019, [End("hose", 0.0191, False)]))
    1
    """
    ends = [End(None, barb_m, True), *pieces]
    return [join(first, second) for first, second in pairwise(ends)]


def clamps(joints: Sequence[Joint]) -> int:
    """Clamps to buy: two on every soft end, a short soft hose's two ends among them.

    Examples
    --------
    >>> clamps(joints_along(0.019, [End("hose", 0.0191, False)]))
    2
    """
    soft = sum((not joint.first.stiff) + (not joint.second.stiff) for joint in joints)
    between = sum(need.code == "short-soft-hose" for joint in joints for need in joint.needs)
    return CLAMPS_AN_END * (soft + 2 * between)
