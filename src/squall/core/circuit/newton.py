"""One block of a circuit, solved: Newton's method on its nodes' volts and every part's place on its own curve."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from squall.core.circuit.blocks import Edge
from squall.core.circuit.curves import Curve, Place, Straight
from squall.core.errors import BadCircuit
from squall.core.reason import Reason

# Near enough, as shares of the volts and amps of the place itself, and never finer than this of one volt and one amp.
_NEAR = 1e-10
_MOST_ROUNDS = 400
# After so many rounds steps are halved; later each of these shares in turn: steps of one length may go round in a ring for ever.
_IN_TURN = (0.23, 0.11, 0.04, 1.0)
_DAMPED_AFTER, _MORE_AFTER = 60, 150
_PAST_CORNER = 1e-9


@dataclass(frozen=True)
class Solved:
    """A block's answer.

    Attributes
    ----------
    node_v : dict
        Volts of each node over the block's first. [V]
    amps_a : dict
        Of each edge, from its first node to its second. [A]
    places : dict
        Parameter of each curve that isn't straight. [as the curve's]
    amps_per_v : float
        How the driven edge's amps grow with its emf; 0 without one. [A/V]
    """

    node_v: dict[str, float]
    amps_a: dict[tuple[str, int], float]
    places: dict[tuple[str, int], float]
    amps_per_v: float = 0.0


class _System:
    """Rows: amps of each node but the first, then volts along each edge. Columns: those nodes' volts, then each edge's parameter."""

    def __init__(self, edges: Sequence[Edge]) -> None:
        self.edges = edges
        self.nodes = list(dict.fromkeys(node for edge in edges for node in (edge.a, edge.b)))
        where = {node: number - 1 for number, node in enumerate(self.nodes)}
        self.inner = len(self.nodes) - 1
        size = self.inner + len(edges)
        self.matrix = np.zeros((size, size))
        self.right = np.zeros(size)
        self.ends = [(where[edge.a], where[edge.b]) for edge in edges]
        self.bent: list[tuple[int, Curve]] = []
        for number, edge in enumerate(edges):
            a, b = self.ends[number]
            row = self.inner + number
            if a >= 0:
                self.matrix[row, a] = 1.0
            if b >= 0:
                self.matrix[row, b] = -1.0
            if isinstance(edge.curve, Straight):
                self._put(number, edge.curve.ohm, 1.0)
                self.right[row] = edge.curve.emf_v
            else:
                self.bent.append((number, edge.curve))

    def _put(self, number: int, volts_slope: float, amps_slope: float) -> None:
        a, b = self.ends[number]
        column = self.inner + number
        self.matrix[column, column] = -volts_slope
        if a >= 0:
            self.matrix[a, column] = amps_slope
        if b >= 0:
            self.matrix[b, column] = -amps_slope

    def step(self, s: Sequence[float], places: Sequence[Place]) -> NDArray[np.float64]:
        """Volts and parameters if every curve went straight on from where it is."""
        right = self.right.copy()
        for (number, _), at, place in zip(self.bent, s, places, strict=True):
            self._put(number, place.volts_slope, place.amps_slope)
            a, b = self.ends[number]
            right[self.inner + number] = place.volts_v - place.volts_slope * at
            spare = place.amps_slope * at - place.amps_a
            if a >= 0:
                right[a] += spare
            if b >= 0:
                right[b] -= spare
        return self._solved(right)

    def _solved(self, right: NDArray[np.float64]) -> NDArray[np.float64]:
        # Rows in their own measure: the amps of a dark panel are a million millionth of a pump's.
        measure = np.abs(self.matrix).max(axis=1)
        if measure.min() == 0.0:
            raise BadCircuit(Reason("circuit-has-no-answer", part=self.edges[-1].part))
        _, _, found, failed = _lapack().dgesv(self.matrix / measure[:, None], right / measure, 1, 1)
        if failed:
            raise BadCircuit(Reason("circuit-has-no-answer", part=self.edges[-1].part))
        return np.asarray(found)

    def answer_to(self, row: int) -> float:
        """How the parameter of one edge moves with its own emf, as the curves stand. [A/V]"""
        right = np.zeros(self.right.size)
        right[row] = 1.0
        return float(self._solved(right)[row])


@cache
def _lapack() -> Any:
    """Solves some ten equations in a tenth of the time of its better known face; loaded when first needed."""
    from scipy.linalg import lapack

    return lapack


def solve_block(
    edges: Sequence[Edge], begin: dict[tuple[str, int], float], driven: tuple[str, int] | None = None
) -> Solved:
    """Volts and amps of one block.

    Parameters
    ----------
    edges : sequence of Edge
        One, or a biconnected piece.
    begin : dict
        Parameters to begin from, where known. [as the curves']
    driven : tuple, optional
        Key of a straight edge whose amps are to be told over its emf.

    Returns
    -------
    Solved
        To about 1e-10 of its volts and amps.

    Raises
    ------
    BadCircuit
        If there is no answer, naming a part.

    Notes
    -----
    Every curve rises, so the answer is one, and its parameter is walked by Newton's steps: all together at most to the next
    corner, each exponential at most as far as its own measure allows.
    """
    if len(edges) == 1:
        return _alone(edges[0])
    _no_bare_loop(edges)
    system = _System(edges)
    s = [begin.get(edges[number].key, curve.start) for number, curve in system.bent]
    for round_ in range(_MOST_ROUNDS):
        places = [curve.at(at) for (_, curve), at in zip(system.bent, s, strict=True)]
        found = system.step(s, places)
        aimed = [float(found[system.inner + number]) for number, _ in system.bent]
        if not np.isfinite(found).all():
            break
        if _arrived(system, s, aimed, places):
            return _told(system, found, list(zip(s, places, strict=True)), driven)
        s = _walked(system, s, aimed, round_)
    raise BadCircuit(
        Reason("circuit-has-no-answer", part=edges[system.bent[0][0]].part if system.bent else edges[0].part)
    )


def _alone(edge: Edge) -> Solved:
    """An edge that closes no loop carries nothing: its volts are those at no amps."""
    if isinstance(edge.curve, Straight):
        return Solved({edge.a: 0.0, edge.b: -edge.curve.emf_v}, {edge.key: 0.0}, {})
    at_rest = edge.curve.at(0.0)
    if at_rest.amps_a == 0.0:
        # A pump, a diode: nothing at its parameter's nothing; where it works it is better sought from its own start.
        return Solved({edge.a: 0.0, edge.b: -at_rest.volts_v}, {edge.key: 0.0}, {})
    curve, meter = edge.curve, Edge("", 2, edge.a, edge.b, Straight(0.0, 1e30))
    system = _System([edge, meter])
    s = [curve.start]
    for round_ in range(_MOST_ROUNDS):
        places = [curve.at(s[0])]
        aimed = [float(system.step(s, places)[system.inner])]
        if _arrived(system, s, aimed, places):
            return Solved({edge.a: 0.0, edge.b: -curve.at(aimed[0]).volts_v}, {edge.key: 0.0}, {edge.key: aimed[0]})
        s = _walked(system, s, aimed, round_)
    raise BadCircuit(Reason("circuit-has-no-answer", part=edge.part))


def _arrived(system: _System, s: Sequence[float], aimed: Sequence[float], places: Sequence[Place]) -> bool:
    """Whether the steps wanted move nobody's volts or amps any more."""
    for at, to, place in zip(s, aimed, places, strict=True):
        step = to - at
        if abs(step * place.volts_slope) > _NEAR * (1.0 + abs(place.volts_v)):
            return False
        if abs(step * place.amps_slope) > _NEAR * (1.0 + abs(place.amps_a)):
            return False
    return True


def _walked(system: _System, s: Sequence[float], aimed: Sequence[float], round_: int) -> list[float]:
    """The next parameters: all the same share of the way, to the first corner at most."""
    share = 1.0 if round_ < _DAMPED_AFTER else 0.5 if round_ < _MORE_AFTER else _IN_TURN[round_ % len(_IN_TURN)]
    reached = [curve.reach(at, to) for (_, curve), at, to in zip(system.bent, s, aimed, strict=True)]
    for (_, curve), at, to in zip(system.bent, s, reached, strict=True):
        for corner in curve.corners:
            past = _PAST_CORNER * max(1.0, abs(corner))
            beyond = corner + past if to > at else corner - past
            if min(at, to) < beyond < max(at, to) and (at - corner) * (to - corner) < 0.0:
                share = min(share, (beyond - at) / (to - at))
    return [at + share * (to - at) for at, to in zip(s, reached, strict=True)]


def _told(
    system: _System, found: NDArray[np.float64], at: Sequence[tuple[float, Place]], driven: tuple[str, int] | None
) -> Solved:
    node_v = {system.nodes[0]: 0.0} | {node: float(found[n]) for n, node in enumerate(system.nodes[1:])}
    amps, places = {}, {}
    for number, edge in enumerate(system.edges):
        if isinstance(edge.curve, Straight):
            amps[edge.key] = float(found[system.inner + number])
    for (number, _), (begun, place) in zip(system.bent, at, strict=True):
        to = float(found[system.inner + number])
        amps[system.edges[number].key] = place.amps_a + place.amps_slope * (to - begun)
        places[system.edges[number].key] = to
    slope = 0.0
    if driven is not None:
        number = next(n for n, edge in enumerate(system.edges) if edge.key == driven)
        slope = system.answer_to(system.inner + number)
    return Solved(node_v, amps, places, slope)


def _no_bare_loop(edges: Sequence[Edge]) -> None:
    """Refuse a loop of batteries and joints without any resistance: its amps would be endless, or anything."""
    root: dict[str, str] = {}

    def top(node: str) -> str:
        while root.get(node, node) != node:
            node = root[node]
        return node

    for edge in edges:
        if isinstance(edge.curve, Straight) and edge.curve.ohm == 0.0:
            a, b = top(edge.a), top(edge.b)
            if a == b:
                raise BadCircuit(Reason("circuit-loop-without-ohms", part=edge.part))
            root[a] = b
