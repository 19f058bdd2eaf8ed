"""A pump controller in a circuit: where its input stands at most power, and what its output then gives."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from squall.core.circuit.blocks import Edge
from squall.core.circuit.chains import Chains
from squall.core.circuit.curves import PanelCurve, PowerCurve, Straight
from squall.core.circuit.network import Network
from squall.core.circuit.newton import solve_block
from squall.core.circuit.parts import Controller
from squall.core.roots import root

INPUT, OUTPUT = 0, 1
# Newton's steps along one row of panels; some six are taken.
_MOST_STEPS = 60
# Input volts tried where the power may have several tops.
_TRIED = 24


@dataclass(frozen=True)
class Driven:
    """How a controller works.

    Attributes
    ----------
    input_v, input_a : float
        At its input; below 0 V where it takes nothing. [V], [A]
    watts : float
        What its output may give. [W]
    most_v : float
        Most volts there. [V]
    held : bool
        Whether it stands at those volts rather than at most power.
    """

    input_v: float
    input_a: float
    watts: float
    most_v: float
    held: bool = False


def edges_of(part: Controller, driven: Driven | None) -> list[Edge]:
    """A controller's edges; none while it takes and gives nothing."""
    if driven is None:
        return []
    given = Edge(part.id, OUTPUT, part.out_plus, part.out_minus, PowerCurve(driven.watts, driven.most_v))
    if driven.input_v < 0.0:
        return [given]
    return [Edge(part.id, INPUT, part.pv_plus, part.pv_minus, Straight(driven.input_v, 0.0)), given]


class _Row:
    """Like panels and straight parts one after another from a controller's plus round to its minus: all along one parameter.

    Parameters
    ----------
    panels : sequence of Edge
        All of one curve; its parameter is the row's. [V]
    emf_v, ohm : float
        Of all straight parts together, against the panels' volts. [V], [ohm]
    """

    def __init__(self, panels: Sequence[Edge], emf_v: float, ohm: float) -> None:
        self.panels, self.emf_v, self.ohm = panels, emf_v, ohm
        self.s = panels[0].curve.start  # type: ignore[union-attr]

    def at(self, volts: float) -> tuple[float, float] | None:
        """Amps at given volts, and how they grow with them; None where its own short way finds no answer. [A], [A/V]"""
        moved = np.inf
        curve, count = self.panels[0].curve, len(self.panels)
        assert isinstance(curve, PanelCurve)
        for _ in range(_MOST_STEPS):
            place = curve.at(self.s)
            spare = count * place.volts_v + self.emf_v + self.ohm * place.amps_a - volts
            slope = count * place.volts_slope + self.ohm * place.amps_slope
            then = curve.reach(self.s, self.s - spare / slope)
            moved, self.s = abs(then - self.s), then
            if moved <= 1e-14 + 1e-13 * abs(then):
                break
        if not moved <= 1e-12 + 1e-9 * abs(self.s):
            return None
        place = curve.at(self.s)
        return -place.amps_a, -place.amps_slope / (count * place.volts_slope + self.ohm * place.amps_slope)


def _row_of(rest: Sequence[Edge], plus: str, minus: str) -> _Row | None:
    """The rest of a controller's circuit as a row, if it is one of like panels that all face the same way."""
    at: dict[str, list[Edge]] = {}
    for edge in rest:
        at.setdefault(edge.a, []).append(edge)
        at.setdefault(edge.b, []).append(edge)
    if any(len(edges) != (1 if node in (plus, minus) else 2) for node, edges in at.items()):
        return None
    panels: list[Edge] = []
    emf_v = ohm = 0.0
    node, met = plus, set[object]()
    while node != minus:
        onward = [one for one in at.get(node, ()) if one.key not in met]
        if not onward:
            return None
        edge = onward[0]
        met.add(edge.key)
        ahead = edge.a == node
        if isinstance(edge.curve, Straight):
            emf_v += edge.curve.emf_v if ahead else -edge.curve.emf_v
            ohm += edge.curve.ohm
        elif isinstance(edge.curve, PanelCurve) and ahead:
            panels.append(edge)
        else:
            return None
        node = edge.b if ahead else edge.a
    like = {_mark(panel.curve) for panel in panels if isinstance(panel.curve, PanelCurve)}
    return _Row(panels, emf_v, ohm) if len(like) == 1 and len(met) == len(rest) else None


def _mark(curve: PanelCurve) -> tuple[object, ...]:
    return curve.diode, curve.array.in_series, curve.array.in_parallel


class _Port:
    """What the rest of the circuit gives at a controller's input, over the volts held there."""

    def __init__(self, part: Controller, others: Sequence[Edge], network: Network) -> None:
        self.network = network
        self.key = (part.id, INPUT)
        edge = Edge(part.id, INPUT, part.pv_plus, part.pv_minus, Straight(0.0, 0.0))
        block = next(block for block in network.blocks([*others, edge]) if edge in block)
        self.rest = [one for one in Chains(block, self.key).edges if one.key != self.key]
        self.edge = edge
        self.row = _row_of(self.rest, part.pv_plus, part.pv_minus)
        # What was asked before of the same rest, in an earlier round.
        self.known = network.ports.setdefault((part.id, *self.rest), {})

    def at(self, volts: float) -> tuple[float, float]:
        """Amps taken at given volts, and how the power still grows with them. [A], [W/V]"""
        if volts in self.known:
            return self.known[volts]
        short = None if self.row is None else self.row.at(volts)
        if short is not None and self.row is not None:
            amps, per_v = short
            self.known[volts] = amps, amps + volts * per_v
            self.network.places.update((panel.key, self.row.s) for panel in self.row.panels)
        else:
            held = replace(self.edge, curve=Straight(volts, 0.0))
            solved = solve_block([*self.rest, held], self.network.places, self.key)
            self.network.places.update(solved.places)
            amps = solved.amps_a[self.key]
            self.known[volts] = amps, amps + volts * solved.amps_per_v
        return self.known[volts]

    def best(self, open_v: float) -> tuple[float, float]:
        """Volts and watts of most power, below the open volts. [V], [W]"""

        def growing(volts: float) -> float:
            return self.at(volts)[1]

        low, high = 0.25 * open_v, open_v
        # Panels and cable alone have one top, however they are joined: each curve bends one way.
        simple = all(isinstance(edge.curve, Straight | PanelCurve) for edge in self.rest)
        if not simple:
            low, high = self._around_the_top(open_v)
        if simple and growing(low) <= 0.0:
            low = 1e-6 * open_v
        if growing(low) <= 0.0 or growing(high) >= 0.0:
            volts = max((low, high), key=lambda v: v * self.at(v)[0])
        else:
            # The power is flat at its top: a millionth beside it is a millionth of a millionth of the watts.
            volts = root(growing, low, high, near=1e-7)
        return volts, volts * self.at(volts)[0]

    def _around_the_top(self, open_v: float) -> tuple[float, float]:
        tried = np.linspace(0.0, open_v, _TRIED + 1)[1:]
        power = [float(volts) * self.at(float(volts))[0] for volts in tried]
        top = int(np.argmax(power))
        low = float(tried[top - 1]) if top else 1e-6 * open_v
        return low, float(tried[min(top + 1, _TRIED - 1)])

    def above_the_top(self, watts: float, best_v: float, open_v: float) -> float:
        """Volts over those of most power at which it takes only some watts. [V]"""

        def spare(volts: float) -> float:
            return volts * self.at(volts)[0] - watts

        if spare(open_v) >= 0.0:
            return open_v
        return best_v if spare(best_v) <= 0.0 else root(spare, best_v, open_v, near=1e-10)


def drive(
    part: Controller, others: Sequence[Edge], network: Network, taken_w: Callable[[Driven], float]
) -> Driven | None:
    """How a controller works beside all other edges; None if it doesn't.

    Parameters
    ----------
    part : Controller
        The controller.
    others : sequence of Edge
        Everything else as it stands.
    network : Network
        Solves them.
    taken_w : callable
        What its output gives when it may give so much. [W]

    Notes
    -----
    It works while the open volts at its input are not over its limit and the volts of most power not under its least. At
    its most output volts, or its most watts, it takes what its output needs, on the side of higher input volts.
    """
    if not part.runs or part.most_out_v <= 0.0:
        return None
    flow = network.flow(others)
    if part.pv_plus not in flow.island or part.pv_minus not in flow.island:
        return None
    open_v = flow.across(part.pv_plus, part.pv_minus)
    if open_v <= 0.0 or open_v > part.max_v:
        return None
    port = _Port(part, others, network)
    best_v, most_w = port.best(open_v)
    if best_v < part.min_v or most_w <= 0.0:
        return None
    full_w = part.efficiency * most_w
    driven = Driven(best_v, most_w / best_v, min(full_w, part.most_w), part.most_out_v)
    given_w = taken_w(driven)
    if given_w >= full_w * (1.0 - 1e-9):
        return driven
    held = given_w < driven.watts * (1.0 - 1e-9)
    wanted_w = given_w / part.efficiency
    if wanted_w <= 1e-9 * most_w:
        return replace(driven, input_v=-1.0, input_a=0.0, held=held)
    input_v = port.above_the_top(wanted_w, best_v, open_v)
    return replace(driven, input_v=input_v, input_a=wanted_w / input_v, held=held)
