"""Lengths cut from rolls as they are sold, with the least bought."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from squall.core.errors import OutOfRange
from squall.core.reason import Between, Quantity

# Nothing is cut to a millimetre with a hacksaw, and an end is squared off: lost at each cut. A guess. [m]
CUT_M = 0.01
MOST_PIECES, _MOST_ROLLS = 24, 24


@dataclass(frozen=True)
class Roll:
    """One roll and what is cut from it, longest first; `own` where it is an offcut that was there. [m]"""

    length_m: float
    pieces: tuple[float, ...]
    own: bool = False

    @property
    def left_m(self) -> float:
        """What is left of it. [m]"""
        return self.length_m - sum(self.pieces) - CUT_M * max(len(self.pieces) - (self.length_m <= sum(self.pieces)), 0)


@dataclass(frozen=True)
class CutPlan:
    """Rolls with their cuts; `joints` is how often a piece longer than any roll is made of two or more. [-]"""

    rolls: tuple[Roll, ...]
    joints: int

    @property
    def bought_m(self) -> float:
        """All rolls together that aren't there already. [m]"""
        return sum(roll.length_m for roll in self.rolls if not roll.own)

    @property
    def left_m(self) -> float:
        """Offcuts together. [m]"""
        return sum(roll.left_m for roll in self.rolls)


def cut_plan(pieces_m: Sequence[float], rolls_m: Sequence[float], own_m: Sequence[float] = ()) -> CutPlan:
    """Which rolls to take, and what to cut from each.

    Parameters
    ----------
    pieces_m : sequence of float
        Lengths wanted, each above 0, up to 24. [m]
    rolls_m : sequence of float
        Lengths in which it is sold, any number of each. [m]
    own_m : sequence of float
        Offcuts that lie in the van already: used before anything is bought. [m]

    Returns
    -------
    CutPlan
        With the least length bought, then the fewest rolls; offcuts among them, marked as own.

    Raises
    ------
    OutOfRange
        For a piece or roll that is no length, for too many, or where nothing is sold.

    Notes
    -----
    Cutting stock in one dimension as an integer program, solved by HiGHS through SciPy: x[r, p] whether piece p is cut from
    roll r, y[r] whether that roll is taken; sum over p of (length + cut) x[r, p] <= (roll + cut) y[r]. A piece longer than the
    longest roll is cut from an end in the van that is as long, or laid of whole rolls and a rest, with a joint between.

    References
    ----------
    P. C. Gilmore, R. E. Gomory, "A linear programming approach to the cutting-stock problem", Oper. Res. 9 (1961), 849-859.

    Examples
    --------
    >>> plan = cut_plan([12.0, 9.0, 7.0], [25.0, 50.0])
    >>> plan.bought_m, len(plan.rolls)
    (50.0, 1)
    """
    _check(pieces_m, rolls_m)
    longest = max(rolls_m)
    pieces_m, own_m, whole_ends = _of_one_end(pieces_m, own_m, longest)
    whole = [roll for roll in pieces_m for _ in range(int(_joints(roll, longest)))]
    rests = [piece - longest * _joints(piece, longest) for piece in pieces_m]
    wanted = sorted((rest for rest in rests if rest > 1e-9), reverse=True)
    done = [Roll(longest, (longest,)) for _ in whole]
    return CutPlan((*whole_ends, *done, *_packed(wanted, sorted(set(rolls_m)), own_m)), len(whole))


def _of_one_end(
    pieces_m: Sequence[float], own_m: Sequence[float], longest_m: float
) -> tuple[list[float], list[float], list[Roll]]:
    """Pieces longer than any roll that an end in the van is long enough for: the other pieces, the other ends, those rolls."""
    pieces, own, made = sorted(pieces_m, reverse=True), sorted(own_m), list[Roll]()
    for piece in [one for one in pieces if one > longest_m]:
        end = next((one for one in own if one >= piece - 1e-9), None)
        if end is not None:
            pieces.remove(piece)
            own.remove(end)
            made.append(Roll(end, (piece,), own=True))
    return pieces, own, made


def _joints(piece_m: float, longest_m: float) -> int:
    """Whole rolls in a piece that is longer than the longest roll."""
    return max(int(np.ceil(piece_m / longest_m - 1e-9)) - 1, 0)


def _check(pieces_m: Sequence[float], rolls_m: Sequence[float]) -> None:
    for length in (*pieces_m, *rolls_m):
        if not 0.0 < length <= 5000.0:
            raise OutOfRange("length", Quantity(length, "length"), Between(0.0, 5000.0, "length"))
    if not 1 <= len(pieces_m) <= MOST_PIECES:
        raise OutOfRange("pieces", len(pieces_m), Between(1, MOST_PIECES, "number"))
    if not rolls_m:
        raise OutOfRange("rolls-sold", 0, Between(1, _MOST_ROLLS, "number"))


def _packed(wanted: Sequence[float], sold: Sequence[float], own: Sequence[float]) -> list[Roll]:
    """The cheapest rolls for pieces that each fit the longest."""
    if not wanted:
        return []
    from scipy.optimize import Bounds, LinearConstraint, milp

    # Of each length no more can be needed than there are pieces that fit it.
    rolls = [(length, 0.0) for length in own]
    rolls += [(length, length) for length in sold for piece in wanted if piece <= length + 1e-9]
    count, pieces = len(rolls), len(wanted)
    size = count * pieces + count
    # A roll more weighs a centimetre: between two ways of the same length the one with fewer rolls.
    cost = np.concatenate([np.zeros(count * pieces), [price + 0.01 for _, price in rolls]])
    rows, lows, highs = [], [], []
    for piece in range(pieces):
        row = np.zeros(size)
        row[[roll * pieces + piece for roll in range(count)]] = 1.0
        rows.append(row)
        lows.append(1.0)
        highs.append(1.0)
    for roll, (length, _) in enumerate(rolls):
        row = np.zeros(size)
        row[roll * pieces : (roll + 1) * pieces] = np.asarray(wanted) + CUT_M
        row[count * pieces + roll] = -(length + CUT_M)
        rows.append(row)
        lows.append(-np.inf)
        highs.append(1e-9)
    found = milp(
        cost, constraints=LinearConstraint(np.array(rows), lows, highs), integrality=np.ones(size), bounds=Bounds(0, 1)
    )
    if found.x is None:
        raise OutOfRange("length", Quantity(max(wanted), "length"), Between(0.0, max(sold), "length"))
    chosen = np.round(found.x).astype(int)
    made = []
    for roll, (length, _) in enumerate(rolls):
        cut = tuple(wanted[piece] for piece in range(pieces) if chosen[roll * pieces + piece])
        if cut:
            made.append(Roll(length, cut, own=roll < len(own)))
    return sorted(made, key=lambda one: -one.length_m)
