"""The hydraulic model of a job as an EPANET INP file: source, pump, pieces, outlet.

Written for EPANET 2.2: Darcy-Weisbach, litres a minute, the water's viscosity relative to
EPANET's own at 20 °C. EPANET's reservoirs don't fall with the flow drawn from them, so a well's
drawdown is entered as a general purpose valve with that head-loss curve.
"""

from collections.abc import Sequence

import numpy as np

from squall.core.errors import Unsolvable
from squall.core.hydraulics.curves import PumpCurve
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Layout
from squall.words import later

# What EPANET calls viscosity 1.0: water at 20 °C, 1.1e-5 ft2/s (EPANET 2.2 User Manual, hydraulic options).
EPANET_VISCOSITY_M2_S = 1.022e-6
CURVE_POINTS = 25


def write(name: str, kit: Kit, layout: Layout, heights_m: Sequence[float], curve: PumpCurve | None = None) -> str:
    """The line of a kit as an EPANET model.

    Parameters
    ----------
    name : str
        Title.
    kit : Kit
        Its pump's curve at rated volts, and its hose.
    layout : Layout
        Lift, run, water.
    heights_m : sequence of float
        Height of each piece's end above the standing water; the last is the outlet's. [m]

    curve : PumpCurve, optional
        Of the pump at other volts than its rated ones.

    Returns
    -------
    str
        INP text. The standing water is at elevation 0; the outlet a reservoir at the head wanted
        there. In a closed circuit both ends are the same water level.

    Raises
    ------
    Unsolvable
        If other places share the kit, or the run climbs over a point higher than its outlet: EPANET would count the fall beyond
        as gain, Squall does not.
    """
    if layout.round is not None:
        raise Unsolvable(later("Other places share this kit; the model of one line would leave them out. Take them out to write it for the end of the run."))  # fmt: skip
    if not layout.closed_circuit and layout.highest_m > layout.lift_m + 1e-9:
        raise Unsolvable(
            later(
                "The run climbs over a point higher than its outlet. EPANET counts the fall beyond as gain and Squall doesn't, so the two would not agree: raise the outlet to that point, or take the height out of the survey."
            )
        )
    line = layout.line(kit.hose)
    suction = layout.suction_pieces if kit.pump.placement == "surface" else 0
    pump_m = layout.pump_m(kit.pump)
    places = _Model()
    at = "source"
    places.reservoirs.append(f"source {0.0:.4f}")
    if layout.drawdown_s_m2 > 0.0:
        places.junctions.append("well 0 0")
        places.valves.append(f"fall {at} well 1000 GPV fall 0")
        at = "well"
    for number, pipe in enumerate(line.pipes):
        if number == suction:
            places.junctions.append(f"pump_in {pump_m:.4f} 0")
            places.junctions.append(f"pump_out {pump_m:.4f} 0")
            places.pipes.append(f"joint {at} pump_in 0.01 1000 0.0015 0 Open")
            places.pumps.append("pump pump_in pump_out HEAD curve")
            at = "pump_out"
        last = number == len(line.pipes) - 1
        end = "outlet" if last else f"end{number + 1}"
        if last:
            places.reservoirs.append(f"outlet {line.static_head_m:.4f}")
        else:
            places.junctions.append(f"{end} {heights_m[number]:.4f} 0")
        places.pipes.append(
            f"piece{number + 1} {at} {end} {max(pipe.length_m, 0.01):.4f} {pipe.inner_diameter_m * 1000:.4f} "
            f"{max(pipe.roughness_m * 1000, 1e-4):.5f} {pipe.minor_loss_k:.4f} Open"
        )
        at = end
    curve = curve or kit.pump.motor.rated_curve
    curves = _curve("curve", curve)
    if layout.drawdown_s_m2 > 0.0:
        most = curve.last[0] * 60_000
        curves += ["fall 0 0", f"fall {most:.5f} {most / 60_000 * layout.drawdown_s_m2:.5f}"]
    return places.text(name, curves, line.water.viscosity_m2_s / EPANET_VISCOSITY_M2_S)


def _curve(key: str, curve: PumpCurve) -> list[str]:
    flows = np.linspace(curve.first[0], curve.last[0], CURVE_POINTS)
    return [f"{key} {q * 60_000:.5f} {h:.5f}" for q, h in zip(flows, curve.heads_m(flows), strict=True)]


class _Model:
    """Lines of each section."""

    def __init__(self) -> None:
        self.junctions: list[str] = []
        self.reservoirs: list[str] = []
        self.pipes: list[str] = []
        self.pumps: list[str] = []
        self.valves: list[str] = []

    def text(self, name: str, curves: list[str], viscosity: float) -> str:
        sections: list[tuple[str, list[str]]] = [
            ("TITLE", [" ".join(name.split())]),
            ("JUNCTIONS", [";id elevation demand", *self.junctions]),
            ("RESERVOIRS", [";id head", *self.reservoirs]),
            ("PIPES", [";id from to length diameter roughness minor status", *self.pipes]),
            ("PUMPS", [";id from to", *self.pumps]),
            ("VALVES", self.valves),
            ("CURVES", [";id x y", *curves]),
            ("OPTIONS", ["UNITS LPM", "HEADLOSS D-W", f"VISCOSITY {viscosity:.6f}", "SPECIFIC GRAVITY 1.0", "TRIALS 200",
                         "ACCURACY 0.00001", "UNBALANCED CONTINUE 10"]),
            ("TIMES", ["DURATION 0", "HYDRAULIC TIMESTEP 1:00"]),
            ("REPORT", ["STATUS NO", "SUMMARY NO"]),
            ("END", []),
        ]  # fmt: skip
        return "\n\n".join("\n".join([f"[{head}]", *rows]) for head, rows in sections if rows or head == "END") + "\n"
