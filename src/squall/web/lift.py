"""Lift: pump curve against system curve, and where the head goes."""

from typing import Any

import numpy as np
from fastapi import Request

from squall.job.assess import KitAssessment, assess
from squall.job.figures import lift_figures
from squall.store.jobs import Stored
from squall.units import KINDS, System, scale, shown
from squall.web.pages import Prefs


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """Figures, the ranked losses, and the chart of the two curves."""
    chosen = assess(stored.job).chosen
    if chosen is None:
        return {"figures": [], "losses": [], "chart": None}
    losses = []
    for piece, loss in zip(stored.job.run, chosen.piece_losses, strict=True):
        losses.append((loss.friction_m, f"{piece.name}: wall of {piece.length.typed}", piece.id))
        losses.append((loss.fittings_m, f"{piece.name}: fittings", piece.id))
    losses.sort(key=lambda row: -row[0])
    return {
        "figures": lift_figures(chosen),
        "losses": [row for row in losses if row[0] > 0.0],
        "chart": curve_chart(chosen, prefs.units),
    }


def number(value: float, kind: str, units: System) -> float:
    """A value as a bare number in a person's units, for charts."""
    unit = KINDS[kind].metric if units == "metric" else KINDS[kind].us
    factor, offset = scale(kind, unit)
    return round(float(value) * factor + offset, 4)


def curve_chart(chosen: KitAssessment, units: System) -> dict[str, Any]:
    """Pump curve at rated volts, the line's demand, and their crossing, in a person's units."""
    curve = chosen.kit.pump.motor.rated_curve
    line = chosen.layout.line(chosen.kit.hose)
    flows = np.linspace(curve.first[0], curve.last[0], 41)
    heads = curve.heads_m(flows)
    system = line.head_at(flows)
    top = max(float(np.nanmax(heads)), line.static_head_m) * 1.25
    crossing = chosen.crossing

    def pairs(values: Any) -> list[list[float]]:
        return [
            [number(q, "flow", units), number(h, "head", units)]
            for q, h in zip(flows, values, strict=True)
            if np.isfinite(h) and h <= top
        ]

    point = None
    if crossing.flow_m3_s and crossing.head_m is not None:
        point = [number(crossing.flow_m3_s, "flow", units), number(crossing.head_m, "head", units)]
    return {
        "type": "curves",
        "x": f"flow, {shown(0, 'flow', units)[1]}",
        "y": f"head, {shown(0, 'head', units)[1]}",
        "pump": pairs(heads),
        "measured": [[number(q, "flow", units), number(h, "head", units)] for q, h in curve.points],
        "system": pairs(system),
        "point": point,
    }
