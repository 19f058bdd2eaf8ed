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
from squall.words import say, voice
from squall.words.units import parse, shown

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
        "strings": draw_strings(stored.id, kit),
        "found": join_findings(a, chosen),
        "open_check": open_check(request, kit),
        "other": other_panel(request, a, chosen),
        "light_figures": light_figures(chosen),
        "light_chart": light_chart(chosen),
        "ways": limit_ways(a, chosen, None),
        "limit_v": limit_of(chosen),
        "compared": COMPARED_LIGHTS,
        "schools": schools,
        "ratio_chart": ratio_chart(schools),
        "ratio_now": kit.array_w / kit.pump.stated_w,
    }


def open_check(request: Request, kit: Kit) -> dict[str, Any]:
    """One panel's measured open volts against its label in this heat, if they are given in the address."""
    volts, cell = (request.query_params.get(name, "")[:30] for name in ("open", "cell"))
    typed = {"open": volts, "cell": cell, "problem": "", "finding": None}
    if not volts.strip():
        return typed
    try:
        measured = parse(volts, "volts", voice().units)
        heat = parse(cell or "45 °C", "temperature", voice().units)
    except SquallError as error:
        return typed | {"problem": str(error)}
    wanted = open_volts_at(kit.panel.module, heat)
    off = measured / wanted - 1.0
    said = say(
        "At {heat:temperature} and full sun the label means {wanted:volts}; {measured:volts} is {off:.0f} % {value}",
        heat=heat,
        wanted=wanted,
        measured=measured,
        off=abs(off) * 100,
        value="over" if off > 0 else "under",
    )
    if abs(off) <= OPEN_WITHIN:
        return typed | {"finding": Finding("good", say("{said}: as it should be.", said=said))}
    why = (
        (
            say("a cell or a bypass diode has gone, or the panel is hotter, dull or dirty"),
            say("measure again in full sun, clean, and read the heat at its back"),
        )
        if off < 0
        else (say("it is colder than typed, or not the panel of the label"),)
    )
    return typed | {"finding": Finding("bad", say("{said}: don't join it yet.", said=said), why)}


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


def light_chart(chosen: KitAssessment) -> dict[str, Any] | None:
    """Flow and volts against light."""
    course = every_light(chosen)
    if course is None:
        return None
    lights, flow, volts, amps = course
    every = slice(0, None, 2)
    return {
        "type": "lights",
        "y": say("flow, {shown}", shown=shown(0, "flow")[1]),
        "flow": [[float(x), chart_number(y, "flow")] for x, y in zip(lights[every], flow[every], strict=True)],
        "volts": [[float(x), round(float(y), 2)] for x, y in zip(lights[every], volts[every], strict=True)],
        "amps": [[float(x), round(float(y), 2)] for x, y in zip(lights[every], amps[every], strict=True)],
    }


def ratio_chart(rows: list[School]) -> dict[str, Any]:
    """Litres in January and July for each school."""
    return {
        "type": "schools",
        "y": say("{shown} on an average day", shown=shown(0, "litres")[1]),
        "names": [row.words for row in rows],
        "january": [chart_number(row.litres[0] / 1000.0, "litres") for row in rows],
        "july": [chart_number(row.litres[6] / 1000.0, "litres") for row in rows],
    }
