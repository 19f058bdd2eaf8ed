"""Joining: the string against its window, unlike panels, what the pump does at every light, noon and its limits, ratios."""

from typing import Any

from fastapi import Request

from squall.core.advice.overdrive import COMPARED_LIGHTS
from squall.core.advice.ratios import School
from squall.core.electrics.modules import open_volts_at
from squall.core.errors import SquallError
from squall.core.kit.kit import Kit
from squall.drawing.strings import draw_strings
from squall.job.told.finding import Finding
from squall.job.told.join import (
    every_light,
    join_findings,
    light_figures,
    limit_of,
    limit_ways,
    schools_of,
    unlike,
)
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.kit import KitAssessment
from squall.store.jobs import Stored
from squall.web.frame.pages import Prefs, chart_number
from squall.words.units import System, parse, shown, text

# Open volts within this of what heat and label say are good: common practice, no source.
OPEN_WITHIN = 0.04


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """All of the page; nothing without a kit."""
    a = assess(stored.job)
    chosen = a.chosen
    if chosen is None:
        return {"strings": None}
    kit, schools = chosen.kit, schools_of(a, chosen)
    return {
        "strings": draw_strings(stored.id, kit, prefs.units),
        "found": join_findings(a, chosen, prefs.units),
        "open_check": open_check(request, kit, prefs.units),
        "other": other_panel(request, a, chosen),
        "light_figures": light_figures(chosen),
        "light_chart": light_chart(chosen, prefs.units),
        "ways": limit_ways(a, chosen, None),
        "limit_v": limit_of(chosen),
        "compared": COMPARED_LIGHTS,
        "schools": schools,
        "ratio_chart": ratio_chart(schools, prefs.units),
        "ratio_now": kit.array_w / kit.pump.rated_w,
    }


def open_check(request: Request, kit: Kit, units: System) -> dict[str, Any]:
    """One panel's measured open volts against its label in this heat, if they are given in the address."""
    volts, cell = (request.query_params.get(name, "")[:30] for name in ("open", "cell"))
    typed = {"open": volts, "cell": cell, "problem": "", "finding": None}
    if not volts.strip():
        return typed
    try:
        measured = parse(volts, "volts", units)
        heat = parse(cell or "45 °C", "temperature", units)
    except SquallError as error:
        return typed | {"problem": str(error)}
    wanted = open_volts_at(kit.panel.module, heat)
    off = measured / wanted - 1.0
    said = f"At {text(heat, 'temperature', units)} and full sun the label means {text(wanted, 'volts', units)}; {text(measured, 'volts', units)} is {abs(off) * 100:.0f} % {'over' if off > 0 else 'under'}"
    if abs(off) <= OPEN_WITHIN:
        return typed | {"finding": Finding("good", f"{said}: as it should be.")}
    why = (
        (
            "a cell or a bypass diode has gone, or the panel is hotter, dull or dirty",
            "measure again in full sun, clean, and read the heat at its back",
        )
        if off < 0
        else ("it is colder than typed, or not the panel of the label",)
    )
    return typed | {"finding": Finding("bad", f"{said}: don't join it yet.", why)}


def other_panel(request: Request, a: Assessment, chosen: KitAssessment) -> dict[str, Any]:
    """What another panel joined to these would give, if one is asked in the address."""
    key, how = request.query_params.get("other", ""), request.query_params.get("how", "series")
    found: dict[str, Any] = {
        "key": key,
        "how": how if how in ("series", "parallel") else "series",
        "figures": [],
        "words": "",
    }
    if key in a.parts.panels:
        found["figures"], found["words"] = unlike(chosen, a.parts.panels[key], found["how"] == "series")
    return found


def light_chart(chosen: KitAssessment, units: System) -> dict[str, Any] | None:
    """Flow and volts against light."""
    course = every_light(chosen)
    if course is None:
        return None
    lights, flow, volts, amps = course
    every = slice(0, None, 2)
    return {
        "type": "lights",
        "y": f"flow, {shown(0, 'flow', units)[1]}",
        "flow": [[float(x), chart_number(y, "flow", units)] for x, y in zip(lights[every], flow[every], strict=True)],
        "volts": [[float(x), round(float(y), 2)] for x, y in zip(lights[every], volts[every], strict=True)],
        "amps": [[float(x), round(float(y), 2)] for x, y in zip(lights[every], amps[every], strict=True)],
    }


def ratio_chart(rows: list[School], units: System) -> dict[str, Any]:
    """Litres in January and July for each school."""
    return {
        "type": "schools",
        "y": f"{shown(0, 'litres', units)[1]} on an average day",
        "names": [row.words for row in rows],
        "january": [chart_number(row.litres[0] / 1000.0, "litres", units) for row in rows],
        "july": [chart_number(row.litres[6] / 1000.0, "litres", units) for row in rows],
    }
