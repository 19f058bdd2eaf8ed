"""Need: litres a day by month, from a figure or from a list of animals, crops and uses."""

from typing import Any

from fastapi import Request

from squall.job.document.specs import LABELS_OF_USE
from squall.job.told.need import et0_figure, need_figures, need_findings, part_figure
from squall.job.told.power import energy_figures
from squall.job.worked.assess import assess
from squall.job.worked.needs import emitters_of, et0_of
from squall.store.jobs import Stored
from squall.web.frame.pages import Prefs
from squall.words.calendar import MONTHS

BY_GRAVITY = ("fall", "pipe_length", "pipe_bore")
FIELDS_OF_USE = {
    "crop": ("crop", "area", "first", "efficiency", "pressure", *BY_GRAVITY),
    "drip": ("emitters", "row_length", "spacing", "rate", "hours", "pressure", "first", "last", *BY_GRAVITY),
    "taps": ("times", "minutes", "flow", "running", "pressure", "first", "last", *BY_GRAVITY),
    "volume": ("volume", "first", "last"),
    "channel": ("volume", "turnovers", "hours", "first", "last"),
}


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """The list's rows with their litres, totals, findings and months."""
    a = assess(stored.job)
    month = a.need_l.index(max(a.need_l))
    crops = a.job.need_by == "herd" and any(use.kind == "crop" for use in a.job.uses)
    et0 = et0_of(a.job, a.parts) if crops else (0.0,) * 12
    return {
        "figures": [*need_figures(a), *energy_figures(a)],
        "months": MONTHS,
        "thirstiest": month,
        "part_figures": {part.id: part_figure(part, month, et0[month]) for part in a.need_parts},
        "stock_sources": {row.id: a.parts.stock_kinds[row.kind].source for row in a.job.herd if row.kind != "own"},
        "need_found": need_findings(a),
        "fields_of_use": FIELDS_OF_USE,
        "labels_of_use": LABELS_OF_USE,
        "emitters": {use.id: emitters_of(use) for use in a.job.uses},
        "et0_figure": et0_figure(et0[month], MONTHS[month], a.job.want.et) if crops else None,
    }
