"""How a value of each kind is written inside a sentence: fills the forms of ``message``."""

import re
from typing import Any

from squall.core.hydraulics.joints import trade_inches
from squall.core.reason import Between, Quantity, Reason, Told, tell_by
from squall.words.calendar import MONTHS, WEEK_DAYS
from squall.words.message import FORMS, TEXT_FORMS, Message, say, voice
from squall.words.reasons import SENTENCES
from squall.words.units import KINDS, number_text, shown, text


def _kind_form(kind: str) -> Any:
    return lambda value: text(float(value), kind, voice().units)


def trade_size(bore_m: float) -> str:
    """A hose or thread by its nearest trade size: millimetres, or inches."""
    return f"{bore_m * 1000.0:.0f}\u00a0mm" if voice().units == "metric" else f"{trade_inches(bore_m)}\u00a0in"


_BOTH_SIZES = re.compile(r"(\d+ mm)( layflat)? \(([\d /]+ in)\)")


def own_sizes(text: str) -> str:
    """Text with trade sizes such as ``19 mm (3/4 in)``, each in the reader's own system alone."""
    place = 1 if voice().units == "metric" else 3
    return _BOTH_SIZES.sub(lambda found: found[place] + (found[2] or ""), text)


def quantity_text(value: float, kind: str) -> str:
    """A value with its unit, in the voice of this request."""
    form = FORMS.get(kind)
    return number_text(value) if form is None else form(value)


def _tell(told: Told) -> str:
    if isinstance(told, Reason):
        found = SENTENCES.get(told.code)
        if found is None:
            return str(Message(told.code.replace("-", " "), dict(told.values)))
        one, many = (found, None) if isinstance(found, str) else found
        return str(Message(one, dict(told.values), many))
    if isinstance(told, Quantity):
        return quantity_text(told.value, told.kind)
    if isinstance(told, Between):
        return _between(told)
    return repr(told)


def _between(span: Between) -> str:
    if span.low is None and span.high is not None:
        return say("at most {high}", high=quantity_text(span.high, span.kind))
    if span.high is None:
        low = span.low or 0.0
        return say("{low} or more", low=quantity_text(low, span.kind))
    low_text = (
        number_text(span.low or 0.0) if span.kind not in KINDS else shown(span.low or 0.0, span.kind, voice().units)[0]
    )
    return say("{low} to {high}", low=low_text, high=quantity_text(span.high, span.kind))


FORMS |= {kind: _kind_form(kind) for kind in KINDS}
FORMS |= {
    "month": lambda value: str(MONTHS[int(value)]),
    "weekday": lambda value: str(WEEK_DAYS[int(value)]),
    "trade": trade_size,
    "money": number_text,
    "whole": lambda value: f"{float(value):,.0f}".replace(",", "\u202f"),
    "one": lambda value: f"{float(value):.1f}",
    "plain": number_text,
}
TEXT_FORMS["sizes"] = own_sizes
tell_by(_tell)
