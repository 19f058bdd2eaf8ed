"""Power: what the panels make of a day, and litres by month against need."""

from typing import Any

import numpy as np
from fastapi import Request

from squall.core.sky.typical_days import AVERAGE, CLEAR, STEP_H
from squall.job.told.power import energy_figures, month_figure, power_figures
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.kit import KitAssessment
from squall.store.jobs import Stored
from squall.web.frame.pages import Prefs, chart_number, clock
from squall.web.frame.strip import Lane, Strip
from squall.words import say
from squall.words.calendar import MONTHS, SHORT_MONTHS
from squall.words.units import shown, text


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """Figures, the table of months, and two charts; the month shown is the worst unless asked."""
    assessment = assess(stored.job).judged
    chosen = assessment.chosen
    if chosen is None:
        return {
            "figures": [],
            "months": [],
            "strip": None,
            "year_chart": None,
            "month": 0,
            "kind": AVERAGE,
            "month_names": MONTHS,
        }
    asked = request.query_params.get("month", "")
    month = int(asked) if asked.isdecimal() and int(asked) < 12 else chosen.worst_month
    kind = CLEAR if request.query_params.get("kind") == "clear" else AVERAGE
    return {
        "figures": [*power_figures(assessment, chosen), *energy_figures(assessment)],
        "months": [month_row(assessment, chosen, index) for index in range(12)],
        "strip": strip_of(chosen, month, kind, prefs),
        "kind": kind,
        "year_chart": year_chart(chosen, prefs),
        "month": month,
        "month_names": MONTHS,
    }


def month_row(assessment: Assessment, chosen: KitAssessment, month: int) -> dict[str, Any]:
    """One month: litres on both kinds of day, need, share, first and last water."""
    season, light = chosen.season, assessment.lit.plane_kwh_m2
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


def strip_of(chosen: KitAssessment, month: int, kind: int, prefs: Prefs) -> Strip:
    """The lanes of one month's clear or average day."""
    season = chosen.season
    flow = season.flow_of(kind, month)
    runs = season.motor_v[kind, month] > 0.0
    lanes = [
        Lane("light", say("light on the panels"), "irradiance", season.plane_w_m2[kind, month]),
        Lane("flow", say("flow"), "flow", flow),
        Lane("volts", say("volts at the pump"), "volts", np.where(runs, season.motor_v[kind, month], 0.0)),
        Lane("amps", say("amps"), "amps", np.where(runs, season.motor_a[kind, month], 0.0)),
    ]
    hours = season.water_hours(kind, month)
    litres = text(float(season.litres[kind, month]) / 1000.0, "litres")
    when = say(", from {hours} to {hours2}", hours=clock(hours[0]), hours2=clock(hours[1])) if hours is not None else ""
    day = "clear" if kind == CLEAR else "average"
    article = "An" if kind == AVERAGE else "A"
    return Strip(
        say("{article} {day} day in {month:month}", article=article, day=day, month=month),
        STEP_H,
        lanes,
        f"{litres}{when}.",
        None,
    )


def year_chart(chosen: KitAssessment, prefs: Prefs) -> dict[str, Any]:
    """Litres a day by month against need."""

    def litres(values: Any) -> list[float]:
        return [chart_number(float(v) / 1000.0, "litres") for v in values]

    return {
        "type": "year",
        "y": say("{shown} a day", shown=shown(0, "litres")[1]),
        "months": [str(name) for name in SHORT_MONTHS],
        "clear": litres(chosen.season.clear_litres),
        "average": litres(chosen.season.average_litres),
        "need": litres(chosen.need_l),
    }
