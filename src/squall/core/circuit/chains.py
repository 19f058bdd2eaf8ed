"""Straight parts in a row taken as one: a kit is mostly cable, joints, fuses and switches one after another."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from squall.core.circuit.blocks import Edge
from squall.core.circuit.curves import Straight
from squall.core.circuit.newton import Solved, solve_block

Key = tuple[str, int]


@dataclass(frozen=True)
class _Chain:
    """An edge that stands for some in a row, and those, each with whether it is met from its first node."""

    edge: Edge
    links: tuple[tuple[Edge, bool], ...]

    def turned(self) -> "_Chain":
        """The same from the other end."""
        curve = self.edge.curve
        assert isinstance(curve, Straight)
        other = replace(self.edge, a=self.edge.b, b=self.edge.a, curve=Straight(-curve.emf_v, curve.ohm))
        return _Chain(other, tuple((edge, not ahead) for edge, ahead in reversed(self.links)))


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
        self._by_key = {edge.key: _Chain(edge, ((edge, True),)) for edge in edges}
        self._join()

    def _join(self) -> None:
        meeting: dict[str, list[Key]] = {}
        for edge in self.edges:
            meeting.setdefault(edge.a, []).append(edge.key)
            meeting.setdefault(edge.b, []).append(edge.key)
        for node, keys in meeting.items():
            if len(keys) != 2 or not all(self._may_join(self._by_key[key]) for key in keys):
                continue
            first, second = (self._by_key[key] for key in keys)
            first = first if first.edge.b == node else first.turned()
            second = second if second.edge.a == node else second.turned()
            end = second.edge.b
            if first.edge.a == end:
                continue
            one, other = first.edge.curve, second.edge.curve
            assert isinstance(one, Straight)
            assert isinstance(other, Straight)
            curve = Straight(one.emf_v + other.emf_v, one.ohm + other.ohm)
            self._by_key[keys[0]] = _Chain(replace(first.edge, b=end, curve=curve), first.links + second.links)
            del self._by_key[keys[1]]
            meeting[end][meeting[end].index(keys[1])] = keys[0]

    def _may_join(self, chain: _Chain) -> bool:
        return isinstance(chain.edge.curve, Straight) and chain.edge.key != self.kept

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
