"""Power: what the panels make of a day, and litres by month against need."""

from typing import Any

from fastapi import Request

from squall.core.climate import MONTHS
from squall.core.sun import AVERAGE, CLEAR
from squall.job.assess import Assessment, KitAssessment, assess
from squall.job.figures import month_figure, power_figures
from squall.store.jobs import Stored
from squall.units import shown
from squall.web.pages import Prefs, chart_number


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """Figures, the table of months, and two charts; the month shown is the worst unless asked."""
    assessment = assess(stored.job)
    chosen = assessment.chosen
    if chosen is None:
        return {"figures": [], "months": [], "day_chart": None, "year_chart": None, "month": 0, "month_names": MONTHS}
    asked = request.query_params.get("month", "")
    month = int(asked) if asked.isdecimal() and int(asked) < 12 else chosen.worst_month
    return {
        "figures": power_figures(assessment, chosen),
        "months": [month_row(assessment, chosen, index) for index in range(12)],
        "day_chart": day_chart(chosen, month, prefs),
        "year_chart": year_chart(chosen, prefs),
        "month": month,
        "month_names": MONTHS,
    }


def month_row(assessment: Assessment, chosen: KitAssessment, month: int) -> dict[str, Any]:
    """One month: litres on both kinds of day, need, share, first and last water."""
    season, light = chosen.season, assessment.light.plane_kwh_m2
    return {
        "name": MONTHS[month],
        "clear_l": month_figure(chosen, month, CLEAR, float(light[CLEAR, month])),
        "average_l": month_figure(chosen, month, AVERAGE, float(light[AVERAGE, month])),
        "need_l": chosen.need_l[month] / 1000.0,
        "covers": float(season.share_of(chosen.need_l)[month]),
        "clear_hours": season.water_hours(CLEAR, month),
        "average_hours": season.water_hours(AVERAGE, month),
        "worst": month == chosen.worst_month,
        "beyond": bool(season.beyond[:, month].any()),
    }


def day_chart(chosen: KitAssessment, month: int, prefs: Prefs) -> dict[str, Any]:
    """Flow and light by the half hour on a clear and an average day of one month."""
    season = chosen.season

    def series(values: Any, kind: str) -> list[list[float]]:
        return [[float(h), chart_number(v, kind, prefs.units)] for h, v in zip(season.hours, values, strict=True)]

    return {
        "type": "day",
        "y": f"flow, {shown(0, 'flow', prefs.units)[1]}",
        "clear": series(season.flow_m3_s[CLEAR, month], "flow"),
        "average": series(season.flow_m3_s[AVERAGE, month], "flow"),
        "light": series(season.plane_w_m2[CLEAR, month], "irradiance"),
    }


def year_chart(chosen: KitAssessment, prefs: Prefs) -> dict[str, Any]:
    """Litres a day by month against need."""

    def litres(values: Any) -> list[float]:
        return [chart_number(float(v) / 1000.0, "litres", prefs.units) for v in values]

    return {
        "type": "year",
        "y": f"{shown(0, 'litres', prefs.units)[1]} a day",
        "months": [name[:3] for name in MONTHS],
        "clear": litres(chosen.season.clear_litres),
        "average": litres(chosen.season.average_litres),
        "need": litres(chosen.need_l),
    }
