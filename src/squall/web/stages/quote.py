"""Quote: what the kit costs on the day and over ten years, beside what the water costs today."""

from typing import Any

from fastapi import Request

from squall.job.kept.quote import promises, quote_figures, quote_of
from squall.job.wired.not_yet import not_yet
from squall.job.worked.assess import assess
from squall.job.worked.doubts import doubt_in
from squall.store.jobs import Stored
from squall.web.frame.pages import Prefs, figure_map
from squall.web.stages.kits import currency_of


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """All of the page; nothing without a kit."""
    shown = quote_words(stored)
    return {**shown, "currency": currency_of(request)} if shown else {"quote": None}


def quote_words(stored: Stored) -> dict[str, Any]:
    """What page and paper tell alike; empty without a kit that works."""
    a = assess(stored.job)
    if a.chosen is None or a.chosen.refusal is not None:
        return {}
    quote, doubt = quote_of(stored.job, a, a.chosen), doubt_in(stored.job)
    low, high = (None, None) if doubt is None else (doubt.litres.low / 1000.0, doubt.litres.high / 1000.0)
    will, wont = promises(a.judged.chosen or a.chosen, low, high)
    return {
        "quote": quote,
        "quote_figures": figure_map(quote_figures(stored.job, quote)),
        "will": will,
        "wont": wont,
        "not_yet": not_yet(a, a.chosen),
    }
