"""Straight parts in a row taken as one: a kit is mostly cable, joints, fuses and switches one after another."""

from collections.abc import Sequence
from dataclasses import dataclass

from squall.core.circuit.blocks import Edge
from squall.core.circuit.curves import Straight
from squall.core.circuit.newton import Solved, solve_block

Key = tuple[str, int]


@dataclass(frozen=True)
class _Chain:
    """An edge that stands for some in a row, and those, each with whether it is met from its first node."""

    edge: Edge
    links: tuple[tuple[Edge, bool], ...]


def _one_of(edge: Edge, links: Sequence[tuple[Edge, bool]], begin: str, end: str) -> _Chain:
    """Straight parts in a row as one, under the first's key. [V], [ohm]"""
    if len(links) == 1:
        return _Chain(edge, tuple(links))
    emf_v = ohm = 0.0
    for link, ahead in links:
        assert isinstance(link.curve, Straight)
        emf_v += link.curve.emf_v if ahead else -link.curve.emf_v
        ohm += link.curve.ohm
    return _Chain(Edge(edge.part, edge.pair, begin, end, Straight(emf_v, ohm)), tuple(links))


class Chains:
    """A block with its straight rows taken together.

    Parameters
    ----------
    edges : sequence of Edge
        The block.
    kept : tuple, optional
        Key of an edge that stays alone.
    """

    def __init__(self, edges: Sequence[Edge], kept: Key | None = None) -> None:
        self.kept = kept
        self._by_key: dict[Key, _Chain] = {}
        self._join(edges)

    def _join(self, edges: Sequence[Edge]) -> None:
        meeting: dict[str, list[Edge]] = {}
        for edge in edges:
            meeting.setdefault(edge.a, []).append(edge)
            meeting.setdefault(edge.b, []).append(edge)
        joined: set[Key] = set()
        for edge in edges:
            if edge.key in joined:
                continue
            if not self._may_join(edge):
                self._by_key[edge.key] = _Chain(edge, ((edge, True),))
                continue
            joined.add(edge.key)
            links = [(edge, True)]
            begin, end = edge.a, edge.b
            while (more := self._beyond(meeting[end], links[-1][0], joined)) is not None:
                ahead = more.a == end
                if (more.b if ahead else more.a) == begin:
                    break
                links.append((more, ahead))
                joined.add(more.key)
                end = more.b if ahead else more.a
            while (more := self._beyond(meeting[begin], links[0][0], joined)) is not None:
                ahead = more.b == begin
                if (more.a if ahead else more.b) == end:
                    break
                links.insert(0, (more, ahead))
                joined.add(more.key)
                begin = more.a if ahead else more.b
            self._by_key[edge.key] = _one_of(edge, links, begin, end)

    def _beyond(self, here: Sequence[Edge], came: Edge, joined: set[Key]) -> Edge | None:
        """The only other edge at a node, if it may be taken with the one that leads there."""
        if len(here) != 2:
            return None
        other = here[1] if here[0] is came else here[0]
        return other if other.key not in joined and self._may_join(other) else None

    def _may_join(self, edge: Edge) -> bool:
        return isinstance(edge.curve, Straight) and edge.key != self.kept

    @property
    def edges(self) -> list[Edge]:
        """The fewer edges."""
        return [chain.edge for chain in self._by_key.values()]

    def told(self, solved: Solved) -> Solved:
        """The answer of the fewer edges told for each of the row. [V], [A]"""
        node_v, amps_a = dict(solved.node_v), {}
        for chain in self._by_key.values():
            amps, at = solved.amps_a[chain.edge.key], node_v[chain.edge.a]
            for edge, ahead in chain.links:
                own = amps if ahead else -amps
                amps_a[edge.key] = own
                if isinstance(edge.curve, Straight):
                    across = edge.curve.emf_v + edge.curve.ohm * own
                    at -= across if ahead else -across
                    node_v.setdefault(edge.b if ahead else edge.a, at)
        return Solved(node_v, amps_a, solved.places, solved.amps_per_v)


def solve_chained(edges: Sequence[Edge], begin: dict[Key, float]) -> Solved:
    """Volts and amps of one block, its straight rows taken together; see :func:`squall.core.circuit.newton.solve_block`. [V], [A]"""
    if len(edges) == 1:
        return solve_block(edges, begin)
    chains = Chains(edges)
    return chains.told(solve_block(chains.edges, begin))
