"""Sun and shade: how the panels stand, what that gives, what a shadow does."""

from typing import Any

from fastapi import Request

from squall.core.kit.supply import Banked
from squall.core.sky.whole_year import HOURS
from squall.job.told.place import stand_findings
from squall.job.told.sun import BRIGHT_W_M2, Group, groups_of_day, shadow_hours, shadow_rows, stands_of
from squall.job.worked.assess import assess
from squall.store.jobs import Stored
from squall.web.frame.pages import Prefs
from squall.words import say
from squall.words.calendar import MONTHS


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """Ways to stand side by side, and a shadow in numbers."""
    a = assess(stored.job)
    chosen = a.chosen
    month = _month(request, chosen.worst_month if chosen is not None else 5)
    groups = groups_of_day(a, month)
    return {
        "month": month,
        "stand_found": stand_findings(a),
        "group_chart": group_chart(groups),
        "group_words": [
            say("{words}: {kwh_m2:.2f} kWh on each m²", words=group.words, kwh_m2=group.kwh_m2) for group in groups
        ],
        "stands": stands_of(a, chosen) if chosen is not None else [],
        "shadows": shadow_rows(chosen) if chosen is not None and not isinstance(chosen.kit.supply, Banked) else [],
        "hours_hidden": shadow_hours(a),
        "bright": BRIGHT_W_M2,
        "month_names": MONTHS,
    }


def _month(request: Request, usual: int) -> int:
    asked = request.query_params.get("month", "")
    return int(asked) if asked.isdecimal() and int(asked) < 12 else usual


def group_chart(groups: list[Group]) -> dict[str, Any]:
    """Light of each group by the ten minutes."""
    return {
        "type": "groups",
        "names": [group.words for group in groups],
        "lanes": [[[round(float(h), 3), round(float(g))] for h, g in zip(HOURS, group.light_w_m2, strict=True)] for group in groups],
    }  # fmt: skip
