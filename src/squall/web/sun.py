"""Sun and shade: how the panels stand, what that gives, what a shadow does."""

from typing import Any

from fastapi import Request

from squall.core.climate import MONTHS
from squall.job.assess import assess
from squall.job.panel_views import BRIGHT_W_M2, shadow_hours, shadow_rows, stands_of
from squall.store.jobs import Stored
from squall.web.pages import Prefs


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """Ways to stand side by side, and a shadow in numbers."""
    a = assess(stored.job)
    chosen = a.chosen
    return {
        "stands": stands_of(a, chosen) if chosen is not None else [],
        "shadows": shadow_rows(chosen) if chosen is not None and chosen.kit.source != "battery" else [],
        "hours_hidden": shadow_hours(a),
        "bright": BRIGHT_W_M2,
        "month_names": MONTHS,
    }
