"""A circuit's answer: relays as their coils hold them, controllers at their best, every node and part.

Nothing here knows what a kit is; :mod:`squall.core.kit.circuit_of` makes the parts of one.
"""

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from squall.core.circuit.blocks import Edge
from squall.core.circuit.controllers import INPUT, OUTPUT, Driven, drive, edges_of
from squall.core.circuit.curves import Curve, DiodeCurve, PanelCurve, Straight, SupplyCurve
from squall.core.circuit.network import Flow, Network
from squall.core.circuit.parts import (
    CLOSED_OHM,
    OPENS_OVER,
    Bank,
    Controller,
    Diode,
    Panels,
    Part,
    PlugIn,
    Protector,
    Pump,
    Relay,
    Resistor,
    Source,
    Switch,
    ends,
)
from squall.core.circuit.pumps import PumpCurve, pump_curve
from squall.core.drive.motors import MotorState
from squall.core.errors import BadCircuit
from squall.core.reason import Reason

# A meter on its volts range. [ohm]
METER_OHM = 10e6
_MOST_SETTLING = 60
# Relays of which every set of states is tried when they chatter.
_MOST_RELAYS = 10


@dataclass(frozen=True)
class Answer:
    """What a circuit does.

    Attributes
    ----------
    part_a : dict
        Amps of each part; of a relay its contact's, of a controller its output's. [A]
    node_v : dict
        Volts of each node to the reference, without those that float. [V]
    probe_v : tuple
        What a meter of 10 megohm reads between each pair, one placed at a time. [V]
    pumps : dict
        State of each pump that turns forwards.
    backwards : tuple
        Pumps that turn backwards.
    floating : tuple
        Nodes that nothing ties to the reference.
    would_open : tuple
        Fuses and breakers that carry over 1.35 times their rating.
    closed : dict
        Whether each switch and relay is closed.
    input_a : dict
        Amps that each controller takes. [A]
    """

    part_a: Mapping[str, float]
    node_v: Mapping[str, float]
    probe_v: tuple[float, ...]
    pumps: Mapping[str, MotorState]
    backwards: tuple[str, ...]
    floating: tuple[str, ...]
    would_open: tuple[str, ...]
    closed: Mapping[str, bool]
    input_a: Mapping[str, float]


@dataclass(frozen=True)
class State:
    """Relays, controllers and the flow that hold one another."""

    pulled: Mapping[str, bool]
    driven: Mapping[str, Driven | None]
    flow: Flow


class Circuit:
    """Parts joined at named nodes.

    Parameters
    ----------
    parts : sequence of Part
        Each with an id of its own.

    Raises
    ------
    BadCircuit
        For an id that stands twice, a part joined to itself, a fuse for no amps, or no source at all.
    """

    def __init__(self, parts: Sequence[Part]) -> None:
        self.parts = tuple(parts)
        self.nodes = tuple(dict.fromkeys(node for part in parts for pair in ends(part) for node in pair))
        self._check()
        self.reference = _reference(self.parts, self.nodes)
        self._curves = {part.id: _curve(part) for part in parts}

    def _check(self) -> None:
        seen: set[str] = set()
        for part in self.parts:
            if part.id in seen:
                raise BadCircuit(Reason("circuit-id-twice", part=part.id))
            seen.add(part.id)
            for a, b in ends(part):
                if a == b:
                    raise BadCircuit(Reason("circuit-part-on-itself", part=part.id, node=a))

    def edges(self, pulled: Mapping[str, bool], driven: Mapping[str, Driven | None]) -> list[Edge]:
        """What conducts, with relays and controllers in given states."""
        found = []
        for part in self.parts:
            if isinstance(part, Controller):
                found += edges_of(part, driven.get(part.id))
                continue
            curve = self._curves[part.id]
            if curve is not None:
                found.append(Edge(part.id, 0, *ends(part)[0], curve))
            if isinstance(part, Relay) and part.closed(pulled[part.id]):
                found.append(Edge(part.id, 1, part.contact_a, part.contact_b, Straight(0.0, CLOSED_OHM)))
        return found

    def solve(self, probes: Sequence[tuple[str, str]] = ()) -> Answer:
        """Volts and amps of everything.

        Parameters
        ----------
        probes : sequence of pairs of nodes
            Where a meter is held, one at a time.

        Returns
        -------
        Answer
            Balanced at every node.

        Raises
        ------
        BadCircuit
            For a meter on a node that there isn't, a relay that never settles, or a circuit without an answer.
        """
        for node in itertools.chain.from_iterable(probes):
            if node not in self.nodes:
                raise BadCircuit(Reason("circuit-unknown-node", node=node))
        network = Network(self.nodes, self.reference)
        state = self._settled(network)
        edges = self.edges(state.pulled, state.driven)
        read = tuple(self._read(network, edges, a, b) for a, b in probes)
        return self._told(state.flow, state.pulled, read)

    def state(self) -> State:
        """Relays, controllers and flow as they settle.

        Raises
        ------
        BadCircuit
            As :meth:`solve`.
        """
        return self._settled(Network(self.nodes, self.reference))

    def _read(self, network: Network, edges: Sequence[Edge], a: str, b: str) -> float:
        if a == b:
            return 0.0
        return network.flow([*edges, Edge("", 0, a, b, Straight(0.0, METER_OHM))]).across(a, b)

    def _settled(self, network: Network) -> State:
        """Relays as their coils hold them, reached from all released.

        A set that is met again goes round for ever; then every set is tried, and the first that holds itself is taken.
        """
        relays = [part for part in self.parts if isinstance(part, Relay)]
        pulled = {relay.id: False for relay in relays}
        met: list[dict[str, bool]] = []
        while pulled not in met:
            met.append(pulled)
            after, driven, flow = self._moved(network, relays, pulled)
            if after == pulled:
                return State(pulled, driven, flow)
            pulled = after
        chattering = [relay.id for relay in relays if any(state[relay.id] != pulled[relay.id] for state in met)]
        if len(relays) <= _MOST_RELAYS:
            for states in itertools.product((False, True), repeat=len(relays)):
                pulled = {relay.id: state for relay, state in zip(relays, states, strict=True)}
                after, driven, flow = self._moved(network, relays, pulled)
                if after == pulled:
                    return State(pulled, driven, flow)
        raise BadCircuit(Reason("circuit-relay-chatters", part=", ".join(chattering)))

    def _moved(
        self, network: Network, relays: Sequence[Relay], pulled: Mapping[str, bool]
    ) -> tuple[dict[str, bool], dict[str, Driven | None], Flow]:
        driven, flow = self._driven(network, pulled)
        after = {relay.id: abs(flow.across(relay.coil_a, relay.coil_b)) >= relay.pull_in_v for relay in relays}
        return after, driven, flow

    def _driven(self, network: Network, pulled: Mapping[str, bool]) -> tuple[dict[str, Driven | None], Flow]:
        """Controllers at their best, each beside the others, until none moves."""
        controllers = [part for part in self.parts if isinstance(part, Controller)]
        driven: dict[str, Driven | None] = {part.id: None for part in controllers}
        for _ in range(_MOST_SETTLING):
            before = dict(driven)
            for part in controllers:
                others = self.edges(pulled, {**driven, part.id: None})
                own = driven[part.id]
                beside = others if own is None else [*others, *(e for e in edges_of(part, own) if e.pair == OUTPUT)]

                def taken_w(wanted: Driven, part: Controller = part, others: list[Edge] = others) -> float:
                    flow = network.flow([*others, *edges_of(part, wanted)])
                    return -flow.across(part.out_plus, part.out_minus) * flow.amps_a[part.id, OUTPUT]

                driven[part.id] = drive(part, beside, network, taken_w)
            if self._apart(network, controllers, pulled, driven) or all(
                _same(before[part.id], driven[part.id]) for part in controllers
            ):
                return driven, network.flow(self.edges(pulled, driven))
        raise BadCircuit(Reason("circuit-controller-hunts", part=controllers[0].id))

    def _apart(
        self, network: Network, controllers: Sequence[Controller], pulled: Mapping[str, bool],
        driven: Mapping[str, Driven | None],
    ) -> bool:  # fmt: skip
        """Whether a single controller's input has nothing to do with its output, as in nearly every kit."""
        if len(controllers) != 1:
            return not controllers
        keys = {(controllers[0].id, INPUT), (controllers[0].id, OUTPUT)}
        return not any(keys <= {edge.key for edge in block} for block in network.blocks(self.edges(pulled, driven)))

    def _told(self, flow: Flow, pulled: Mapping[str, bool], read: tuple[float, ...]) -> Answer:
        part_a, closed, input_a = {}, {}, {}
        pumps: dict[str, MotorState] = {}
        opens, backwards = [], []
        for part in self.parts:
            amps = flow.amps_a.get((part.id, 1 if isinstance(part, Relay | Controller) else 0), 0.0)
            part_a[part.id] = -amps if isinstance(part, Source | Controller) else amps
            match part:
                case Switch():
                    closed[part.id] = part.closed
                case Relay():
                    closed[part.id] = part.closed(pulled[part.id])
                case Controller():
                    input_a[part.id] = flow.amps_a.get((part.id, INPUT), 0.0)
                case Protector() if abs(amps) > OPENS_OVER * part.rating_a:
                    opens.append(part.id)
                case Pump():
                    curve, at = self._curves[part.id], flow.places.get((part.id, 0))
                    state = curve.state(at) if isinstance(curve, PumpCurve) and at is not None else None
                    if state is not None:
                        pumps[part.id] = state
                    elif isinstance(curve, PumpCurve) and amps < 0.0 and -amps >= curve.starting_a[1]:
                        backwards.append(part.id)
                case _:
                    pass
        node_v = {node: flow.node_v[node] for node in self.nodes if flow.island[node] == 0}
        floating = tuple(node for node in self.nodes if flow.island[node] != 0)
        return Answer(part_a, node_v, read, pumps, tuple(backwards), floating, tuple(opens), closed, input_a)


def _same(one: Driven | None, other: Driven | None) -> bool:
    if one is None or other is None:
        return one is other
    near = abs(one.input_v - other.input_v) <= 1e-9 * (1.0 + abs(one.input_v))
    return near and abs(one.watts - other.watts) <= 1e-9 * (1e-6 + one.watts)


def _reference(parts: Sequence[Part], nodes: Sequence[str]) -> str:
    first = next((part for part in parts if isinstance(part, Source)), None)
    if first is None:
        raise BadCircuit(Reason("circuit-without-source"))
    return "0" if "0" in nodes else first.minus


def _curve(part: Part) -> Straight | Curve | None:
    """Volts against amps between a part's first two ends; None where nothing conducts."""
    match part:
        case Panels():
            return PanelCurve(part.array)
        case Bank():
            return Straight(part.battery.open_v, part.battery.internal_ohm)
        case PlugIn():
            return SupplyCurve(part.supply.set_v, part.supply.max_a)
        case Resistor():
            return Straight(0.0, part.ohm)
        case Diode():
            return DiodeCurve(part.saturation_a, part.slope_v)
        case Protector():
            return None if part.blown else Straight(0.0, part.ohm)
        case Switch():
            return Straight(0.0, CLOSED_OHM) if part.closed else None
        case Relay():
            return Straight(0.0, part.coil_ohm)
        case Pump():
            return Straight(0.0, part.motor.resistance_ohm) if part.locked else pump_curve(part.motor, part.line)
        case Controller():
            return None
