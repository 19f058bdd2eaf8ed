"""Need: litres a day, or a herd, by month."""

from typing import Any

from fastapi import Request

from squall.core.climate import MONTHS
from squall.job.assess import assess
from squall.job.figures import need_figures
from squall.store.jobs import Stored
from squall.web.pages import Prefs


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """Months and totals."""
    need = assess(stored.job).need_l
    return {"figures": need_figures(stored.job, need), "months": MONTHS, "need_l": need}
