"""Places as people write them: ``-30.4, 24.6``, ``30.4 S 24.6 E``, ``44 30 N 7 36 E``, ``44°30'10"N 7°36'0"E``, ``geo:-30.4,24.6``."""

import re

from squall.core.errors import BadQuantity
from squall.words.message import later, say
from squall.words.spellings import shortened

_MINUS = str.maketrans({"−": "-", "–": "-", "º": "°", "’": "'", "′": "'", "´": "'", "”": '"', "″": '"'})
_DECIMAL = r"[-+]?\d{1,3}(?:[.,]\d+)?"
_PARTS = re.compile(r"\d+(?:[.,]\d+)?")
_ONE = r"[-+]?\d[\d.,°d'\"m:s\s]*?"
_LETTERS = {"n": "N", "north": "N", "s": "S", "south": "S", "e": "E", "east": "E", "w": "W", "west": "W"}
_WORD = re.compile(r"\b(north|south|east|west)\b", re.IGNORECASE)
_PAIR = re.compile(rf"^({_DECIMAL})\s*°?\s*[,;/\s]\s*({_DECIMAL})\s*°?$")
_AFTER = re.compile(rf"^({_ONE})\s*([NSEW])[\s,;/]*({_ONE})\s*([NSEW])$", re.IGNORECASE)
_BEFORE = re.compile(rf"^([NSEW])\s*({_ONE})[\s,;/]*([NSEW])\s*({_ONE})$", re.IGNORECASE)
_SINGLE = re.compile(rf"^(?:([NSEW])\s*({_ONE})|({_ONE})\s*([NSEW])?)$", re.IGNORECASE)
_GEO = re.compile(rf"^geo:\s*({_DECIMAL}),({_DECIMAL})(?:,{_DECIMAL})?(?:[;?].*)?$", re.IGNORECASE)
EXAMPLE = "30.4 S 24.6 E"


def read_place(text: str) -> tuple[float, float]:
    """Latitude and longitude of a place as typed. [°]

    Raises
    ------
    BadQuantity
        With what was wrong and how it may be written.

    Examples
    --------
    >>> read_place("30.4 S 24.6 E")
    (-30.4, 24.6)
    >>> read_place("geo:44.5,7.6;u=35")
    (44.5, 7.6)
    """
    body = _plain(text)
    if not body:
        raise BadQuantity(later("Nothing is typed; a place is wanted, such as {example}.", example=EXAMPLE))
    pair = _GEO.match(body) or _PAIR.match(body)
    if pair:
        return _checked(_decimal(pair[1]), _decimal(pair[2]), text)
    found = _lettered(body)
    if found is not None:
        said = {letter.upper(): _angle(part, letter.upper(), text) for part, letter in found}
        latitude, longitude = said.get("N", said.get("S")), said.get("E", said.get("W"))
        if latitude is not None and longitude is not None:
            return _checked(latitude, longitude, text)
    single = _SINGLE.match(body)
    if single and (single[1] or single[4] or re.fullmatch(_DECIMAL + "°?", body)):
        raise BadQuantity(
            later("“{text}” is half a place: latitude and longitude are wanted, such as {example}.", text=shortened(text), example=EXAMPLE)
        )  # fmt: skip
    raise BadQuantity(later("“{text}” can't be read as a place; write it as {example}, or -30.4, 24.6.", text=shortened(text), example=EXAMPLE))  # fmt: skip


def _lettered(body: str) -> tuple[tuple[str, str], tuple[str, str]] | None:
    """Two coordinates with their letters, before or after: (number, letter) each."""
    after, before = _AFTER.match(body), _BEFORE.match(body)
    if after:
        return (after[1], after[2]), (after[3], after[4])
    return ((before[2], before[1]), (before[4], before[3])) if before else None


def _plain(text: str) -> str:
    """Typed text with its signs and words made plain."""
    body = re.sub(r"\s*\b(?:deg|degrees?)\b\.?", "°", text.translate(_MINUS), flags=re.IGNORECASE)
    return _WORD.sub(lambda found: _LETTERS[found[0].lower()], body).strip()


def read_angle(text: str, axis: str) -> float:
    """One coordinate as typed: ``-30.4``, ``44 30 N``, ``7°36'E``. [°]

    Parameters
    ----------
    text : str
        As typed.
    axis : str
        ``latitude`` or ``longitude``.

    Raises
    ------
    BadQuantity
        With what was wrong.

    Examples
    --------
    >>> read_angle("44 30 N", "latitude")
    44.5
    """
    body = _plain(text)
    example = "30.4 S" if axis == "latitude" else "24.6 E"
    found = _SINGLE.match(body)
    if found is None:
        raise BadQuantity(
            later("“{text}” can't be read; a {axis} is wanted, such as {example}.", text=shortened(text), axis=_axis(axis), example=example)
        )  # fmt: skip
    letter = (found[1] or found[4] or "").upper()
    if letter and letter not in ("NS" if axis == "latitude" else "EW"):
        raise BadQuantity(
            later("“{text}” is no {axis}: north and south are latitude, east and west longitude.", text=shortened(text), axis=_axis(axis))
        )  # fmt: skip
    return _angle(found[2] or found[3], letter, text)


def _axis(axis: str) -> str:
    return say("latitude") if axis == "latitude" else say("longitude")


def _decimal(text: str) -> float:
    return float(text.replace(",", "."))


def _angle(part: str, letter: str, text: str) -> float:
    """Degrees, degrees and minutes, or degrees, minutes and seconds."""
    numbers = [_decimal(found) for found in _PARTS.findall(part)]
    sized = len(numbers) in (1, 2, 3) and all(number < 60.0 for number in numbers[1:])
    whole = all(number == int(number) for number in numbers[:-1])
    if not sized or not whole:
        raise BadQuantity(
            later(
                "“{text}” can't be read: degrees, minutes and seconds are wanted, such as 44 30 10 N.",
                text=shortened(text),
            )
        )
    size = sum(number / 60.0**place for place, number in enumerate(numbers))
    negative = part.strip().startswith("-")
    if negative and letter:
        raise BadQuantity(later("“{text}” has both a minus and a letter; one of them will do.", text=shortened(text)))
    return -size if negative or letter in ("S", "W") else size


def _checked(latitude: float, longitude: float, text: str) -> tuple[float, float]:
    if abs(latitude) > 90.0:
        swapped = abs(longitude) <= 90.0 and abs(latitude) <= 180.0
        hint = later(" Latitude comes first: were the two swapped?") if swapped else ""
        raise BadQuantity(
            later("“{text}”: no latitude is beyond the pole, 90°.{hint}", text=shortened(text), hint=hint)
        )
    if abs(longitude) > 180.0:
        raise BadQuantity(later("“{text}”: a longitude is at most 180° east or west.", text=shortened(text)))
    return latitude, longitude


def place_text(latitude_deg: float, longitude_deg: float) -> str:
    """A place as it is shown. [°]

    Examples
    --------
    >>> place_text(-30.4, 24.6)
    '30.4° S, 24.6° E'
    """
    return f"{axis_text(latitude_deg, 'latitude')}, {axis_text(longitude_deg, 'longitude')}"


def axis_text(value_deg: float, axis: str) -> str:
    """One coordinate as it is shown, to a thousandth of a degree (some 100 m). [°]"""
    if axis == "latitude":
        letter = say("N") if value_deg >= 0.0 else say("S")
    else:
        letter = say("E") if value_deg >= 0.0 else say("W")
    size = f"{abs(value_deg):.3f}".rstrip("0").rstrip(".")
    return f"{size}° {letter}"
