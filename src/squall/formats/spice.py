"""A circuit as a netlist that a SPICE program runs as it stands: so that what is worked out here can be worked out elsewhere.

Relays stand as their coils hold them; a pump is its amps against its volts; a controller's input is the resistance it shows,
its output the watts it gives. Nodes keep their names, but for the reference, which is 0.
"""

from collections.abc import Callable, Iterator, Sequence

from squall.core.circuit.controllers import Driven
from squall.core.circuit.curves import PanelCurve
from squall.core.circuit.network import Flow
from squall.core.circuit.parts import (
    CLOSED_OHM,
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
    Switch,
)
from squall.core.circuit.pumps import PumpCurve, pump_curve
from squall.core.circuit.solve import Circuit

# Volts of one electron's charge at the 27 °C that SPICE takes where none is said: CODATA 2018's k and e. [V]
_THERMAL_V = 1.380649e-23 * 300.15 / 1.602176634e-19
# What an upright piece falls by over its whole length, as a share of its volts: SPICE wants a slope.
_FALL = 1e-3
_FLOATING_OHM = 1e12
# Beside a source that may give nothing: SPICE wants every node to have a slope.
_LEAK_OHM = 1e9
_PUMP_POINTS = 160


def netlist(circuit: Circuit) -> str:
    """Text of the netlist.

    Parameters
    ----------
    circuit : Circuit
        Solved first, so that relays and controllers stand as they do.

    Returns
    -------
    str
        With ``.op``; ends with ``.end``.

    Raises
    ------
    BadCircuit
        As the circuit's own answer.
    """
    state = circuit.state()

    def node(name: str) -> str:
        if name == circuit.reference:
            return "0"
        # SPICE takes this name for its reference.
        return "gnd_" if name == "gnd" else name

    lines = ["* a kit as a circuit", ".options reltol=1e-4 abstol=1e-9 vntol=1e-6 itl1=2000"]
    most_v = _most_volts(circuit)
    for part in circuit.parts:
        lines += _lines(part, node, state.pulled.get(part.id, False), state.driven.get(part.id), most_v)
    roots: dict[int, str] = {}
    for name in circuit.nodes:
        roots.setdefault(state.flow.island[name], name)
    lines += [
        f"Rfloat.{number} {node(name)} 0 {_FLOATING_OHM:g}"
        for number, name in roots.items()
        if name != circuit.reference
    ]
    return "\n".join([*lines, *_first_looks(circuit, state.flow, node, lines), ".op", ".end", ""])


def _first_looks(circuit: Circuit, flow: Flow, node: Callable[[str], str], lines: Sequence[str]) -> Iterator[str]:
    """Where a SPICE program may begin to look; it lets go of these before it is done. Not where bare volts stand already."""
    first = {node(name): volts for name, volts in flow.node_v.items() if name != circuit.reference}
    for part in circuit.parts:
        if isinstance(part, Panels):
            series = PanelCurve(part.array).diode[2] * part.array.in_series / part.array.in_parallel
            first[f"{part.id}.inner"] = flow.node_v[part.plus] - flow.amps_a.get((part.id, 0), 0.0) * series
    words = [line.split() for line in lines]
    bare = {name for line in words if line[0].startswith("V") for name in line[1:3]}
    named = {name for line in words for name in line[1:3]}
    for name, volts in first.items():
        if name in named and name not in bare:
            yield f".nodeset v({name})={volts:.9g}"


def _most_volts(circuit: Circuit) -> float:
    """More volts than can stand anywhere. [V]"""
    sources = 0.0
    for part in circuit.parts:
        match part:
            case Panels():
                sources += part.array.most_volts
            case Bank():
                sources += part.battery.open_v
            case PlugIn():
                sources += part.supply.set_v
            case Controller():
                sources += part.out_max_v
            case _:
                pass
    return 1.1 * sources + 5.0


def _lines(part: Part, node: Callable[[str], str], pulled: bool, driven: Driven | None, most_v: float) -> Iterator[str]:
    match part:
        case Panels():
            yield from _panels(part, node(part.plus), node(part.minus))
        case Bank():
            yield from _bank(part, node(part.plus), node(part.minus))
        case PlugIn():
            yield from _supply(part, node(part.plus), node(part.minus))
        case Resistor():
            yield _ohms(part.id, node(part.a), node(part.b), part.ohm)
        case Diode():
            yield f"D{part.id} {node(part.anode)} {node(part.cathode)} m_{part.id}"
            yield _model(part.id, part.saturation_a, part.slope_v)
        case Protector() if not part.blown:
            yield _ohms(part.id, node(part.a), node(part.b), part.ohm)
        case Switch() if part.closed:
            yield _ohms(part.id, node(part.a), node(part.b), CLOSED_OHM)
        case Relay():
            yield _ohms(f"{part.id}.coil", node(part.coil_a), node(part.coil_b), part.coil_ohm)
            if part.closed(pulled):
                yield _ohms(part.id, node(part.contact_a), node(part.contact_b), CLOSED_OHM)
        case Pump() if part.locked:
            yield _ohms(part.id, node(part.plus), node(part.minus), part.motor.resistance_ohm)
        case Pump():
            yield from _pump(part.id, node(part.plus), node(part.minus), pump_curve(part.motor, part.line), most_v)
        case Controller() if driven is not None:
            yield from _controller(part, node, driven)
        case _:
            yield f"* {part.id} is open"


def _ohms(name: str, a: str, b: str, ohm: float) -> str:
    # A SPICE program takes no ohms at all for a thousandth of one.
    return f"R{name} {a} {b} {ohm:.12g}" if ohm > 0.0 else f"V{name} {a} {b} 0"


def _model(name: str, saturation_a: float, slope_v: float) -> str:
    return f".model m_{name} D(IS={saturation_a:.12g} N={slope_v / _THERMAL_V:.12g})"


def _panels(part: Panels, plus: str, minus: str) -> Iterator[str]:
    light, saturation, series, shunt, slope = PanelCurve(part.array).diode
    in_series, in_parallel = part.array.in_series, part.array.in_parallel
    inner = f"{part.id}.inner" if series > 0.0 else plus
    if light > 0.0:
        yield f"I{part.id} {minus} {inner} {light * in_parallel:.12g}"
        yield f"R{part.id}.shunt {inner} {minus} {shunt * in_series / in_parallel:.12g}"
    yield f"D{part.id} {inner} {minus} m_{part.id}"
    yield _model(part.id, saturation * in_parallel, slope * in_series)
    if series > 0.0:
        yield f"R{part.id} {inner} {plus} {series * in_series / in_parallel:.12g}"


def _bank(part: Bank, plus: str, minus: str) -> Iterator[str]:
    ohm, volts = part.battery.internal_ohm, part.battery.open_v
    if ohm == 0.0:
        yield f"V{part.id} {plus} {minus} {volts:.12g}"
        return
    # Its short-circuit amps beside its resistance: a SPICE program begins more surely from this than from bare volts.
    yield f"I{part.id} {minus} {plus} {volts / ohm:.12g}"
    yield _ohms(part.id, plus, minus, ohm)


def _supply(part: PlugIn, plus: str, minus: str) -> Iterator[str]:
    volts, most_a = part.supply.set_v, part.supply.max_a
    steep = most_a / (_FALL * volts)
    across = f"V({plus},{minus})"
    yield f"B{part.id} {minus} {plus} I=min({most_a:.12g}, max(0, ({volts:.12g}-{across})*{steep:.12g}))"
    yield _ohms(f"{part.id}.leak", plus, minus, _LEAK_OHM)


def _controller(part: Controller, node: Callable[[str], str], driven: Driven) -> Iterator[str]:
    if driven.input_v > 0.0 and driven.input_a > 0.0:
        ohm = driven.input_v / driven.input_a
        yield _ohms(f"{part.id}.input", node(part.pv_plus), node(part.pv_minus), ohm)
    plus, minus = node(part.out_plus), node(part.out_minus)
    if driven.held:
        # At its most volts it is a stiff source of them.
        ohm = 1e-4 * driven.most_v**2 / driven.watts
        yield f"I{part.id} {minus} {plus} {driven.most_v / ohm:.12g}"
        yield _ohms(part.id, plus, minus, ohm)
        return
    yield f"B{part.id} {minus} {plus} I={driven.watts:.12g}/max(V({plus},{minus}), {0.001 * driven.most_v:.6g})"
    yield _ohms(f"{part.id}.leak", plus, minus, _LEAK_OHM)


def _pump(name: str, plus: str, minus: str, curve: PumpCurve, most_v: float) -> Iterator[str]:
    """Amps against volts as straight pieces between points."""
    points: list[tuple[float, float]] = []
    for s in _walk(curve, most_v):
        place = curve.at(s)
        if not points or place.volts_v > points[-1][0] + 1e-6:
            points.append((place.volts_v, place.amps_a))
    yield f"B{name} {plus} {minus} I=pwl(V({plus},{minus}),"
    rows = [
        ", ".join(f"{volts:.9g}, {amps:.9g}" for volts, amps in points[n : n + 4]) for n in range(0, len(points), 4)
    ]
    for row in rows[:-1]:
        yield f"+ {row},"
    yield f"+ {rows[-1]})"


def _walk(curve: PumpCurve, most_v: float) -> list[float]:
    """Parameters from most volts backwards to most forwards, close together where water begins."""
    forwards, backwards = curve.starting_a
    # Closer together at few volts, where a pump begins to turn and its amps bend most.
    back = [-backwards - most_v * (n / _PUMP_POINTS) ** 2 for n in range(_PUMP_POINTS + 1)]
    ahead = [forwards + most_v * (n / _PUMP_POINTS) ** 2 for n in range(_PUMP_POINTS + 1)]
    near = [corner + step for corner in curve.corners[2:] for step in (-1e-6, 1e-6, 0.01, 0.03, 0.06, 0.1, 0.2, 0.4)]
    return sorted({*back, *ahead, *(s for s in near if s > forwards)})
