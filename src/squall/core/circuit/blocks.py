"""A circuit falls into blocks: what hangs on a single node, or leads nowhere, carries no current from the rest.

Blocks are the biconnected pieces of the graph. Each is solved alone; a piece that ends dead (an open switch behind it) has
no current, and pieces that nothing joins float, without anything going singular.
"""

from dataclasses import dataclass
from functools import lru_cache

from squall.core.circuit.curves import Curve, Straight


@dataclass(frozen=True)
class Edge:
    """One way through a part: which part, which of its two pairs of ends, from node to node, and its volts against amps."""

    part: str
    pair: int
    a: str
    b: str
    curve: Straight | Curve

    @property
    def key(self) -> tuple[str, int]:
        """What tells it from others."""
        return self.part, self.pair


@lru_cache(maxsize=512)
def blocks_of(ends: tuple[tuple[str, str], ...]) -> tuple[tuple[int, ...], ...]:
    """Edges, told by their nodes, grouped into blocks by their places; each two blocks share at most one node.

    Found once for circuits that hang together alike, whatever their parts' figures are.

    References
    ----------
    J. Hopcroft, R. Tarjan, "Algorithm 447: efficient algorithms for graph manipulation", CACM 16 (1973), 372-378 (from
    memory); here without recursion, and with several edges between two nodes.
    """
    beside: dict[str, list[int]] = {}
    for number, (a, b) in enumerate(ends):
        beside.setdefault(a, []).append(number)
        beside.setdefault(b, []).append(number)
    found: list[tuple[int, ...]] = []
    seen: dict[str, int] = {}
    low: dict[str, int] = {}
    used: set[int] = set()
    for root in beside:
        if root in seen:
            continue
        seen[root] = low[root] = len(seen)
        walked: list[int] = []
        path: list[tuple[str, int, int]] = [(root, 0, -1)]
        while path:
            node, next_one, came_by = path.pop()
            if next_one < len(beside[node]):
                path.append((node, next_one + 1, came_by))
                number = beside[node][next_one]
                if number in used:
                    continue
                used.add(number)
                walked.append(number)
                other = ends[number][1] if ends[number][0] == node else ends[number][0]
                if other in seen:
                    low[node] = min(low[node], seen[other])
                else:
                    seen[other] = low[other] = len(seen)
                    path.append((other, 0, number))
            elif path:
                parent = path[-1][0]
                low[parent] = min(low[parent], low[node])
                if low[node] >= seen[parent]:
                    cut = walked.index(came_by)
                    found.append(tuple(walked[cut:]))
                    del walked[cut:]
    return tuple(found)
