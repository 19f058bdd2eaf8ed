"""What joins what along a run: sizes that meet, sizes that don't, and the adapters to buy."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

# Trade sizes of hose and thread: bore [m], inches. Common practice, no source.
TRADE_SIZES: tuple[tuple[float, str], ...] = (
    (0.0065, "1/4 in"), (0.0095, "3/8 in"), (0.0127, "1/2 in"), (0.0159, "5/8 in"), (0.0191, "3/4 in"),
    (0.0254, "1 in"), (0.032, "1 1/4 in"), (0.0381, "1 1/2 in"), (0.0508, "2 in"), (0.076, "3 in"), (0.102, "4 in"),
)  # fmt: skip
MEET_WITHIN = 0.08
CLAMPS_AN_END = 2


@dataclass(frozen=True)
class End:
    """One end of a part: what it is, its size, and whether it is stiff. [m]"""

    name: str
    size_m: float
    stiff: bool


@dataclass(frozen=True)
class Joint:
    """Two ends that are to be joined, whether they meet, and what it takes."""

    first: End
    second: End
    meets: bool
    needs: str


def trade_size(size_m: float) -> str:
    """Nearest trade size in inches, with its millimetres."""
    _, inches = min(TRADE_SIZES, key=lambda row: abs(row[0] - size_m))
    return f"{size_m * 1000:.0f} mm ({inches})"


def join(first: End, second: End) -> Joint:
    """How two ends are joined.

    Parameters
    ----------
    first, second : End
        In the direction of flow.

    Returns
    -------
    Joint
        Sizes meet within 8 %; a barb into a stiff pipe wants a piece of soft hose between, so that
        the barb doesn't snap.
    """
    meets = abs(first.size_m - second.size_m) <= MEET_WITHIN * max(first.size_m, second.size_m)
    needs = []
    if first.stiff != second.stiff:
        soft, stiff = (second, first) if first.stiff else (first, second)
        if not first.name.startswith("pump"):
            needs.append(f"barb {trade_size(soft.size_m)} to thread {trade_size(stiff.size_m)}")
    if not meets:
        word = "reducer" if first.size_m > second.size_m else "enlarger"
        needs.append(f"{word} {trade_size(first.size_m)} to {trade_size(second.size_m)}")
    if first.name.startswith("pump") and second.stiff:
        needs.append(f"short soft hose of {trade_size(first.size_m)} between barb and stiff pipe")
        needs.append(f"barb {trade_size(first.size_m)} to thread {trade_size(second.size_m)}")
    if not needs:
        needs.append("pushed on" if not (first.stiff and second.stiff) else f"coupling {trade_size(second.size_m)}")
    return Joint(first, second, meets, "; ".join(needs))


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
    """
    ends = [End("pump's barb", barb_m, True), *pieces]
    return [join(first, second) for first, second in pairwise(ends)]


def clamps(joints: Sequence[Joint]) -> int:
    """Clamps to buy: two on every soft end."""
    return CLAMPS_AN_END * sum((not joint.first.stiff) + (not joint.second.stiff) for joint in joints)
