"""Frost and wind."""

from typing import Any

from fastapi import Request

from squall.job.told.outdoors import freezing_order, frost_findings, frost_nights_of, wind_figures, wind_findings
from squall.job.worked.assess import assess
from squall.job.worked.place import climate_of
from squall.store.jobs import Stored
from squall.web.frame.pages import Prefs
from squall.words.calendar import MONTHS


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """Nights, what freezes first, force of the wind."""
    a = assess(stored.job)
    chosen = a.chosen
    return {
        "frost_found": frost_findings(a),
        "nights": frost_nights_of(a),
        "order": freezing_order(a, climate_of(a.job, a.parts)),
        "wind_figures": wind_figures(a, chosen) if chosen is not None else [],
        "wind_found": wind_findings(a, chosen) if chosen is not None else [],
        "month_names": MONTHS,
    }
