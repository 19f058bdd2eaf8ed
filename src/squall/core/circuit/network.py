"""All blocks of a circuit put together: volts to a reference, and what floats."""

from collections.abc import Sequence
from dataclasses import dataclass, field

from squall.core.circuit.blocks import Edge, blocks_of
from squall.core.circuit.chains import solve_chained
from squall.core.circuit.newton import Solved


@dataclass(frozen=True)
class Flow:
    """A circuit's answer with its switches, relays and controllers as they stand.

    Attributes
    ----------
    node_v : dict
        Volts of each node over its island's first. [V]
    island : dict
        Which nodes hang together: the reference's are 0.
    amps_a : dict
        Of each edge, from its first node to its second. [A]
    places : dict
        Parameters of its curves.
    """

    node_v: dict[str, float]
    island: dict[str, int]
    amps_a: dict[tuple[str, int], float]
    places: dict[tuple[str, int], float]

    def across(self, a: str, b: str) -> float:
        """Volts from a node to another; none between islands. [V]"""
        if self.island[a] != self.island[b]:
            return 0.0
        return self.node_v[a] - self.node_v[b]


@dataclass
class Network:
    """Solves edges over and over, as relays and controllers move, and remembers the blocks that stayed as they were."""

    nodes: Sequence[str]
    reference: str
    places: dict[tuple[str, int], float] = field(default_factory=dict)
    ports: dict[object, dict[float, tuple[float, float]]] = field(default_factory=dict)
    _blocks: dict[tuple[object, ...], Solved] = field(default_factory=dict)

    def blocks(self, edges: Sequence[Edge]) -> list[list[Edge]]:
        """Edges grouped into blocks; how they hang together is found once, whatever their curves become."""
        return [[edges[number] for number in block] for block in blocks_of(tuple([(edge.a, edge.b) for edge in edges]))]

    def block(self, edges: Sequence[Edge]) -> Solved:
        """One block's answer, remembered."""
        mark = tuple(edges)
        found = self._blocks.get(mark)
        if found is None:
            found = self._blocks[mark] = solve_chained(edges, self.places)
            self.places.update(found.places)
        return found

    def flow(self, edges: Sequence[Edge]) -> Flow:
        """Volts and amps everywhere."""
        solved = [self.block(block) for block in self.blocks(edges)]
        holding: dict[str, list[Solved]] = {}
        for one in solved:
            for node in one.node_v:
                holding.setdefault(node, []).append(one)
        node_v: dict[str, float] = {}
        island: dict[str, int] = {}
        for root in (self.reference, *self.nodes):
            if root in node_v:
                continue
            node_v[root], island[root] = 0.0, len(set(island.values()))
            waiting, met = [root], set[int]()
            while waiting:
                node = waiting.pop()
                for one in holding.get(node, ()):
                    if id(one) in met:
                        continue
                    met.add(id(one))
                    for other, volts in one.node_v.items():
                        if other not in node_v:
                            node_v[other] = node_v[node] + volts - one.node_v[node]
                            island[other] = island[root]
                            waiting.append(other)
        amps = {key: value for one in solved for key, value in one.amps_a.items()}
        return Flow(node_v, island, amps, {key: value for one in solved for key, value in one.places.items()})
