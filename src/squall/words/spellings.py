"""How units and times are spelled: words for units, two units in one measure, hours of the clock."""

import re

WORDS = {
    "n·m": "N*m", "n*m": "N*m", "nm": "N*m", "n m": "N*m", "in·lb": "inch*lbf", "in-lb": "inch*lbf", "in lb": "inch*lbf", "inlb": "inch*lbf", "lb·in": "inch*lbf",
    "lb-in": "inch*lbf", "in·lbf": "inch*lbf", "in-lbf": "inch*lbf", "ft·lb": "ft*lbf", "ft-lb": "ft*lbf", "ft lb": "ft*lbf",
    "/l": "1/L", "/gal": "1/gal",
    "gpm": "gal/min", "gph": "gal/hour", "gpd": "gal", "gallons/day": "gal", "gallon/day": "gal", "gal/d": "gal",
    "gallons/minute": "gal/min", "gallon/minute": "gal/min", "gal/minute": "gal/min", "gallons/hour": "gal/hour",
    "gal/hour": "gal/hour", "litres/minute": "L/min", "liters/minute": "L/min", "l/minute": "L/min", "litres/hour": "L/hour",
    "liters/hour": "L/hour", "litres/day": "L", "liters/day": "L", "l/second": "L/s", "litres/second": "L/s", "lpm": "L/min", "l/min": "L/min", "l/h": "L/hour", "lph": "L/hour",
    "l/s": "L/s", "m3/h": "m**3/hour", "m³/h": "m**3/hour", "l": "L", "litres": "L", "litre": "L", "liters": "L",
    "gallons": "gal", "gallon": "gal", "in": "inch", '"': "inch", "”": "inch", "inches": "inch", "'": "ft", "′": "ft",
    "feet": "ft", "foot": "ft", "°c": "degC", "c": "degC", "degc": "degC", "°f": "degF", "f": "degF", "degf": "degF",
    "°": "degree", "deg": "degree", "degrees": "degree", "v": "V", "volts": "V", "a": "A", "amps": "A", "amp": "A",
    "w": "W", "watts": "W", "w/m2": "W/m**2", "w/m²": "W/m**2", "w/m^2": "W/m**2", "%": "percent", "ohm": "ohm",
    "ohms": "ohm", "ω": "ohm", "ah": "A*hour", "hp": "hp", "h": "hour", "hours": "hour", "min": "minute", "m": "m",
    "mm": "mm", "cm": "cm", "km": "km", "ft": "ft", "yd": "yd", "bar": "bar", "psi": "psi", "kpa": "kPa",
    "metres": "m", "meters": "m", "metre": "m", "meter": "m", "gal": "gal", "gal/min": "gal/min", "m3": "m**3",
    "m³": "m**3", "ml": "mL", "kw": "kW", "ma": "mA", "mv": "mV", "l/day": "L", "l/d": "L", "gal/day": "gal",
    "m/s": "m/s", "awg": "awg", "mm2": "mm**2", "mm²": "mm**2", "w/m": "W/m",
    "km/h": "km/hour", "kph": "km/hour", "mph": "mile/hour", "kt": "knot", "kn": "knot", "knots": "knot", "wh": "W*hour",
    "s": "s", "sec": "s", "seconds": "s", "second": "s", "minutes": "minute", "mins": "minute", "m2": "m**2", "m²": "m**2",
    "ha": "hectare", "hectare": "hectare", "hectares": "hectare", "acre": "acre", "acres": "acre", "ft2": "ft**2",
    "ft²": "ft**2", "sqft": "ft**2", "kwh/m2": "kW*hour/m**2", "kwh/m²": "kW*hour/m**2", "mm/day": "mm", "mm/d": "mm",
}  # fmt: skip
# Two units of one thing, larger first: feet and inches, hours and minutes, minutes and seconds.
_FEET, _INCHES = r"(?:ft|foot|feet|'|′|’)\.?", r"(?:in|inch|inches|\"|″|”|'')\.?"
_PART = r"\d+(?:[.,]\d+)?(?:[\s-]+\d+/\d+)?|\d+/\d+"
COMPOUND: tuple[tuple[re.Pattern[str], str, str, tuple[str, ...]], ...] = (
    (re.compile(rf"^\s*(-?\d+)\s*{_FEET}\s*-?\s*({_PART})\s*(?:{_INCHES})?\s*$", re.IGNORECASE), "ft", "in", ("m",)),
    (
        re.compile(r"^\s*(\d+)\s*(?:h|hours?|hr)\s*(\d+(?:[.,]\d+)?)\s*(?:min|minutes?|m)?\s*$", re.IGNORECASE),
        "h",
        "min",
        ("hour", "s"),
    ),
    (
        re.compile(r"^\s*(\d+)\s*(?:min|minutes?)\s*(\d+(?:[.,]\d+)?)\s*(?:s|sec|seconds?)?\s*$", re.IGNORECASE),
        "min",
        "s",
        ("hour", "s"),
    ),
)
_HALF_DAY = re.compile(r"^\s*(0?[1-9]|1[0-2])(?::([0-5]\d))?\s*([ap])\.?m\.?\s*$", re.IGNORECASE)
PER = re.compile(r"\s+(?:per|a|an|each)\s+", re.IGNORECASE)
_CLOCK = re.compile(r"^\s*([01]?\d|2[0-4])[:h]([0-5]\d)\s*$")


def on_the_clock(text: str) -> float | None:
    """Hour of the day of ``6:30``, ``6h30`` or ``10 pm``; None for anything else. [h]"""
    plain = _CLOCK.match(text)
    if plain is not None:
        return int(plain[1]) + int(plain[2]) / 60.0
    half = _HALF_DAY.match(text)
    if half is None:
        return None
    return int(half[1]) % 12 + (12 if half[3].lower() == "p" else 0) + int(half[2] or 0) / 60.0


def shortened(text: str) -> str:
    """Typed text as it is given back in a sentence: no longer than forty letters."""
    body = text.strip()
    return body if len(body) <= 40 else body[:37] + "..."
