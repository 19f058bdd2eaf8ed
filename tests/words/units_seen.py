"""Which units a text shows, and whether they are those of the other system."""

import json
import re
from collections.abc import Iterable

from crawl import Seen

_METRIC = "N/m²|mm|cm|m|km|L|mL|L/min|L/h|L/d|m²|m³|°C|kg|N|m/s|km/h|mm/h|kPa|bar"
_US = "lbf/ft²|ft|in|yd|mi|gal|gpm|gph|ft²|°F|lb|lbf|mph|in/h|ft/s|psi"
# A number followed by a unit that the other system has no use for; ``W/m²`` and ``kWh/m²`` are the same in both.
OTHER = {
    "us": re.compile(
        rf"\d[\u00a0\u202f ]?(?:{_METRIC})(?![\w²³/])|\b(?:litres?|metres?|centimetres?)\b|(?<!kWh )on each m²",
        re.IGNORECASE,
    ),
    "metric": re.compile(
        rf"\d[\u00a0\u202f ]?(?:{_US})(?![\w²/]| (?:series|parallel|a|the|an|its)\b)|\b(?:feet|gallons?|inches)\b"
    ),
}
# A latitude is no force in newtons.
NORTH = re.compile(r"(?<=\d) N(?=[, ] ?\d+(?:\.\d+)? ?[EW]\b)")
UPPER_L = re.compile(r"\d[\u00a0\u202f ]?(?:M|KM|MM|KG|n|l/MIN)(?![\w²/])")


def wrong(seen: Iterable[Seen], system: str) -> list[str]:
    """What shows the other system's units."""
    found = []
    for text in seen:
        words = text.words
        if text.place.endswith(("@data-chart", "@data-strip")):
            words = " ".join(str(v) for v in _strings(json.loads(words)))
        if "from-file" in text.place:
            continue
        words = NORTH.sub("north", words)
        for hit in OTHER[system].finditer(words):
            if not UPPER_L.match(hit[0]):
                found.append(f"{text.url} {text.place}: …{words[max(hit.start() - 40, 0) : hit.end() + 20]}…")
    return found


def _strings(data: object) -> list[str]:
    if isinstance(data, dict):
        return [s for value in data.values() for s in _strings(value)]
    if isinstance(data, list):
        return [s for value in data for s in _strings(value)]
    return [data] if isinstance(data, str) else []
