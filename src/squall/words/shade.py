"""Shade as people say it: ``after 2 pm``, ``the tree there until 10``, ``between 11:30 and 13``."""

import re
from dataclasses import dataclass

from squall.core.errors import BadQuantity
from squall.words.message import later

_CLOCK = r"(noon|midday|\d{1,2}(?:[:.]\d{2})?\s*(?:am|pm|a\.m\.|p\.m\.|h|o'clock)?)"
_BETWEEN = re.compile(rf"\b(?:between|from)\s+{_CLOCK}\s*(?:and|to|till|until|-|\u2013)\s*{_CLOCK}", re.IGNORECASE)
_AFTER = re.compile(rf"\b(?:after|from|past)\s+{_CLOCK}", re.IGNORECASE)
_UNTIL = re.compile(rf"\b(?:until|till|before|up to)\s+{_CLOCK}", re.IGNORECASE)
EXAMPLES = "after 2 pm, until 10, between 11:30 and 13:00"


@dataclass(frozen=True)
class Shade:
    """From when till when the sun is hidden, by the clock; from sunrise or till sunset where one is None. [h]"""

    from_h: float | None
    until_h: float | None


def read_shade(text: str) -> Shade:
    """Shade as typed.

    Raises
    ------
    BadQuantity
        With how it may be said.

    Examples
    --------
    >>> read_shade("after 2 pm")
    Shade(from_h=14.0, until_h=None)
    >>> read_shade("the tree there until 10")
    Shade(from_h=None, until_h=10.0)
    >>> read_shade("between 11:30 and 1 pm")
    Shade(from_h=11.5, until_h=13.0)
    """
    said = text.strip()[:200]
    both = _BETWEEN.search(said)
    if both:
        shade = Shade(_hour(both[1]), _hour(both[2]))
    else:
        after, until = _AFTER.search(said), _UNTIL.search(said)
        shade = Shade(_hour(after[1]) if after else None, _hour(until[1]) if until else None)
    if shade.from_h is None and shade.until_h is None:
        raise BadQuantity(
            later("{said:quoted} says no hours; say it like: {EXAMPLES}.", said=said[:60], EXAMPLES=EXAMPLES)
        )
    if shade.from_h is not None and shade.until_h is not None and shade.from_h >= shade.until_h:
        raise BadQuantity(
            later("{said:quoted} ends before it begins; say it like: {EXAMPLES}.", said=said[:60], EXAMPLES=EXAMPLES)
        )
    return shade


def _hour(text: str) -> float:
    """An hour of the clock, 0 to 24; without am or pm as a clock of twenty-four hours shows it."""
    plain = text.casefold().replace(".m.", "m").replace("o'clock", "").strip()
    if plain in ("noon", "midday"):
        return 12.0
    found = re.match(r"(\d{1,2})(?:[:.](\d{2}))?", plain)
    assert found is not None
    hour, minute = int(found[1]), int(found[2] or 0)
    if "pm" in plain or "am" in plain:
        if not 1 <= hour <= 12:
            raise BadQuantity(later("{text:quoted} is no hour of the clock.", text=text.strip()))
        hour = hour % 12 + (12 if "pm" in plain else 0)
    if hour > 24 or minute > 59 or hour + minute / 60.0 > 24.0:
        raise BadQuantity(later("{text:quoted} is no hour of the clock.", text=text.strip()))
    return hour + minute / 60.0
