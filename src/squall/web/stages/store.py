"""Tank and battery: what carries the gaps."""

from typing import Any

from fastapi import Request

from squall.core.errors import SquallError
from squall.core.kit.pressure_switch import MOST_STARTS_H, OVER_COLUMN_M, OVER_CUT_OUT
from squall.job.document.power import DAY_NAMES
from squall.job.told.store import (
    bank_figures,
    both_schools,
    store_figures,
    store_findings,
    supply_finding,
    switch_findings,
    timer_findings,
)
from squall.job.worked.assess import assess
from squall.job.worked.kit import KitAssessment
from squall.store.jobs import Stored
from squall.web.frame.pages import Prefs
from squall.words import say, voice
from squall.words.calendar import WEEK_DAYS
from squall.words.units import parse, text


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """The tank's figures and findings, the battery's, both schools, a plug-in supply."""
    a = assess(stored.job)
    chosen = a.chosen
    if chosen is None:
        return {"tank": None, "store_found": [], "day_names": dict(zip(DAY_NAMES, WEEK_DAYS, strict=True))}
    tank, found = store_findings(a, chosen)
    return {
        "tank": tank,
        "store_found": found,
        "switch_found": switch_findings(a, chosen),
        "most_starts": f"{MOST_STARTS_H:g}",
        "over_share": text(OVER_CUT_OUT - 1.0, "share"),
        "column_room": OVER_COLUMN_M,
        "store_figures": store_figures(a, chosen, tank) if tank is not None else [],
        "bank_figures": bank_figures(a, chosen),
        "timer_found": timer_findings(a, chosen) if chosen.kit.battery is not None else [],
        "schools": both_schools(a, chosen),
        "supply": supply(request, chosen),
        "day_names": dict(zip(DAY_NAMES, WEEK_DAYS, strict=True)),
    }


def supply(request: Request, chosen: KitAssessment) -> dict[str, Any]:
    """A plug-in supply given in the address."""
    volts, amps = (request.query_params.get(name, "")[:30] for name in ("supply_volts", "supply_amps"))
    typed: dict[str, Any] = {"volts": volts, "amps": amps, "problem": "", "finding": None}
    if not volts.strip() or not amps.strip():
        return typed
    try:
        set_v, most_a = parse(volts, "volts", voice().units), parse(amps, "amps", voice().units)
        if set_v <= 0.0 or most_a <= 0.0:
            return typed | {"problem": say("Volts and amps of a supply are more than nothing.")}
        return typed | {"finding": supply_finding(chosen, set_v, most_a)}
    except SquallError as error:
        return typed | {"problem": str(error)}
