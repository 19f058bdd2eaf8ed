"""Typed text to SI and back: ``25 ft``, ``7,6 m``, ``3 gpm``, ``3/4 in``, ``12 awg``.

What a person types is kept as typed; here it is read once, with pint, and shown in the units
that the person prefers.
"""

import re
from dataclasses import dataclass
from functools import lru_cache
from math import isfinite
from typing import TYPE_CHECKING

from squall.core.errors import BadQuantity
from squall.words.message import Message, later, voice
from squall.words.message import System as System
from squall.words.spellings import COMPOUND, PER, WORDS, on_the_clock, shortened

if TYPE_CHECKING:
    from pint import UnitRegistry


@dataclass(frozen=True)
class Kind:
    """A kind of quantity: how it is called, its SI unit, units shown, bounds in SI.

    Attributes
    ----------
    noun : Message
        With article, for messages.
    si : str
        SI unit in pint's words; ``""`` for a plain number.
    metric, us : str
        Unit in which a bare number is read and figures are shown.
    metric_sign, us_sign : str
        As printed.
    metric_example, us_example : str
        For messages: as people of each system type it.
    """

    noun: Message
    si: str
    metric: str
    us: str
    metric_sign: str
    us_sign: str
    metric_example: str
    us_example: str = ""

    @property
    def example(self) -> str:
        """As the reader would type it."""
        return self.us_example if voice().units == "us" and self.us_example else self.metric_example


KINDS: dict[str, Kind] = {
    "length": Kind(later("a length"), "m", "m", "ft", "m", "ft", "7.6 m", "25 ft"),
    "head": Kind(later("a height or head"), "m", "m", "ft", "m", "ft", "7.6 m", "25 ft"),
    "distance": Kind(later("a distance"), "m", "km", "mile", "km", "mi", "300 km", "200 mi"),
    "altitude": Kind(later("an altitude"), "m", "m", "ft", "m", "ft", "1200 m", "3900 ft"),
    "bore": Kind(later("a bore"), "m", "mm", "inch", "mm", "in", "19 mm", "3/4 in"),
    "flow": Kind(later("a flow"), "m**3/s", "L/min", "gal/min", "L/min", "gpm", "12 L/min", "3 gpm"),
    "litres": Kind(later("a volume"), "m**3", "L", "gal", "L", "gal", "900 L", "240 gal"),
    "temperature": Kind(later("a temperature"), "degC", "degC", "degF", "°C", "°F", "14 °C", "57 °F"),
    "angle": Kind(later("an angle"), "degree", "degree", "degree", "°", "°", "35 or 35 deg"),
    "latitude": Kind(later("a latitude"), "degree", "degree", "degree", "°", "°", "30.4 S"),
    "longitude": Kind(later("a longitude"), "degree", "degree", "degree", "°", "°", "24.6 E"),
    "volts": Kind(later("a voltage"), "V", "V", "V", "V", "V", "12.4 V"),
    "amps": Kind(later("a current"), "A", "A", "A", "A", "A", "4.2 A"),
    "watts": Kind(later("a power"), "W", "W", "W", "W", "W", "100 W or 1/2 hp"),
    "ohms": Kind(later("a resistance"), "ohm", "ohm", "ohm", "Ω", "Ω", "0.2 ohm"),
    "irradiance": Kind(later("a light"), "W/m**2", "W/m**2", "W/m**2", "W/m²", "W/m²", "800 W/m2"),
    "share": Kind(later("a share"), "", "percent", "percent", "%", "%", "5 %"),
    "number": Kind(later("a number"), "", "", "", "", "", "40"),
    "hours": Kind(later("a time in hours"), "hour", "hour", "hour", "h", "h", "6 h"),
    "seconds": Kind(later("a time in seconds"), "s", "s", "s", "s", "s", "1.8 s"),
    "minutes": Kind(later("a time in minutes"), "s", "minute", "minute", "min", "min", "2 min"),
    "ground": Kind(later("an area"), "m**2", "m**2", "ft**2", "m²", "ft²", "300 m2", "0.5 ha"),
    "rain": Kind(later("a depth of water"), "m", "mm", "inch", "mm", "in", "12 mm", "0.5 in"),
    "trickle": Kind(later("a trickle"), "m**3/s", "L/hour", "gal/hour", "L/h", "gph", "2 L/h", "0.5 gph"),
    "daylight": Kind(later("a day's light"), "kW*hour/m**2", "kW*hour/m**2", "kW*hour/m**2", "kWh/m²", "kWh/m²", "5.5 kWh/m2"),
    "charge": Kind(later("a charge"), "A*hour", "A*hour", "A*hour", "Ah", "Ah", "35 Ah"),
    "speed": Kind(later("a speed"), "m/s", "m/s", "ft/s", "m/s", "ft/s", "1.2 m/s"),
    "wind": Kind(later("a wind"), "m/s", "m/s", "mile/hour", "m/s", "mph", "25 m/s, 90 km/h", "55 mph"),
    "clock": Kind(later("a time of the clock"), "hour", "hour", "hour", "h", "h", "6:30 or 6.5 h"),
    "energy": Kind(later("an energy"), "W*hour", "W*hour", "W*hour", "Wh", "Wh", "400 Wh"),
    "force": Kind(later("a force"), "N", "N", "lbf", "N", "lbf", "300 N"),
    "gust": Kind(later("a pressure of wind"), "Pa", "Pa", "lbf/ft**2", "N/m²", "lbf/ft²", "340 Pa"),
    "torque": Kind(later("a torque"), "N*m", "N*m", "inch*lbf", "N·m", "in·lb", "1.2 N·m", "11 in·lb"),
    "mass": Kind(later("a mass"), "kg", "kg", "lb", "kg", "lb", "12 kg"),
    "vapour": Kind(later("a vapour pressure"), "kPa", "kPa", "kPa", "kPa", "kPa", "1.4 kPa"),
    "radiation": Kind(later("a day's radiation"), "MJ/m**2", "MJ/m**2", "MJ/m**2", "MJ/m²", "MJ/m²", "22 MJ/m2"),
    "storm": Kind(later("a rate of rain"), "m/hour", "mm/hour", "inch/hour", "mm/h", "in/h", "60 mm/h", "2.4 in/h"),
    "per-kelvin": Kind(later("a share for each kelvin"), "", "", "", "%/K", "%/K", "-0.3"),
    # Money of whoever types it, for so much of something poured.
    "poured": Kind(later("a price for a volume"), "1/L", "1/L", "1/gal", "/L", "/gal", "1.5", "5.7"),
    "pressure": Kind(later("a head or pressure"), "m", "m", "ft", "m", "ft", "5 m", "0.5 bar"),
}  # fmt: skip

# A head may be typed as a pressure: metres of water at 15 °C.
_PRESSURE_TO_HEAD = 1.0 / (999.1026 * 9.80665)
_NUMBER = r"[-+−]?(?:\d+\s+\d+/\d+|\d+/\d+|\d[\d\s,.']*\d|\d)(?:[eE][-+]?\d+)?"
_PATTERN = re.compile(rf"^\s*(?P<number>{_NUMBER}|[-+−]?[.,]\d+)\s*(?P<unit>[^\d\s].*?)?\s*$")
_OTHER_NOUNS = {
    "m**2": later("an area"), "s": later("a time"), "kg": later("a mass"), "Pa": later("a pressure"), "J": later("an energy"),
}  # fmt: skip


@lru_cache(maxsize=1)
def registry() -> "UnitRegistry[float]":
    """Pint's registry, made when first needed."""
    from pint import UnitRegistry

    return UnitRegistry(autoconvert_offset_to_baseunit=True)


def read_number(text: str) -> float:
    """A number as people type it: ``7,6``, ``1 200``, ``1,200.5``, ``3/4``, ``1 1/2``.

    Parameters
    ----------
    text : str
        The digits without a unit.

    Returns
    -------
    float
        A single comma followed by other than exactly three digits is a decimal comma;
        ``1,200`` is twelve hundred.

    Raises
    ------
    BadQuantity
        If it is no number.
    """
    body = text.strip().replace("−", "-")
    fraction = re.fullmatch(r"([-+]?)(?:(\d+)\s+)?(\d+)/(\d+)", body)
    if fraction:
        sign, whole, top, bottom = fraction.groups()
        if int(bottom) == 0:
            raise BadQuantity(later("“{text}” divides by nothing.", text=text))
        return (-1.0 if sign == "-" else 1.0) * (int(whole or 0) + int(top) / int(bottom))
    body = re.sub(r"[\s']", "", body)
    if body.count(",") == 1 and "." not in body and not re.fullmatch(r"[-+]?[1-9]\d{0,2},\d{3}", body):
        body = body.replace(",", ".")
    elif re.fullmatch(r"[-+]?\d{1,3}(\.\d{3})+,\d+", body):
        body = body.replace(".", "").replace(",", ".")
    elif re.fullmatch(r"[-+]?\d{1,3}(,\d{3})+(\.\d+)?", body):
        body = body.replace(",", "")
    try:
        value = float(body)
    except ValueError:
        raise BadQuantity(later("“{text}” is not a number.", text=text)) from None
    if not isfinite(value):
        raise BadQuantity(later("“{text}” is not a number that can be worked with.", text=text))
    return value


def parse(text: str, kind_name: str, system: System = "metric") -> float:
    """Read typed text as a quantity.

    Parameters
    ----------
    text : str
        Such as ``25 ft``; a bare number is taken in the unit of `system`.
    kind_name : str
        Key of :data:`KINDS`.
    system : str
        ``metric`` or ``us``.

    Returns
    -------
    float
        In the SI unit of that kind (a share as 0 to 1, litres in m3).

    Raises
    ------
    BadQuantity
        With what was wrong and what was expected.
    """
    kind = KINDS[kind_name]
    if not text.strip():
        raise BadQuantity(
            later("Nothing is typed; {noun} is wanted, such as {example}.", noun=kind.noun, example=kind.example)
        )
    if kind.si == "hour" and (hour := on_the_clock(text)) is not None:
        return hour
    if (whole := _compound(text, kind_name, system)) is not None:
        return whole
    # 1-1/2 is one and a half; a unit may be written out: gallons per minute.
    text = re.sub(r"(\d)\s*-\s*(\d+/\d+)", r"\1 \2", text)
    found = _PATTERN.match(text)
    if found is None:
        raise BadQuantity(
            later(
                "“{typed}” can't be read; {noun} is wanted, such as {example}.",
                typed=shortened(text),
                noun=kind.noun,
                example=kind.example,
            )
        )
    number = read_number(found["number"])
    typed_unit = (found["unit"] or "").strip()
    typed_unit = PER.sub("/", typed_unit)
    unit = WORDS.get(typed_unit.lower(), typed_unit) if typed_unit else (kind.metric if system == "metric" else kind.us)
    if kind.si == "" and unit in ("", "percent"):
        return number / 100.0 if unit == "percent" else number
    if kind.si == "degree" and unit in ("degree", ""):
        return number
    return _convert(text, number, unit, kind_name)


def _compound(text: str, kind_name: str, system: System) -> float | None:
    """``25 ft 8 in``, ``2 min 5 s``, ``1 h 20 min`` in the kind's SI; None for anything else.

    Raises
    ------
    BadQuantity
        If the smaller part is as much as one of the larger: ``25 ft 13 in``.
    """
    for pattern, large, small, kinds in COMPOUND:
        found = pattern.match(text) if KINDS[kind_name].si in kinds else None
        if found is None:
            continue
        most = 12.0 if large == "ft" else 60.0
        if read_number(re.sub(r"-(?=\d+/)", " ", found[2])) >= most:
            raise BadQuantity(
                later(
                    "“{text}”: the second figure is at most {most:g} {small}.",
                    text=shortened(text),
                    most=most,
                    small=small,
                )
            )
        first, rest = parse(f"{found[1]} {large}", kind_name, system), parse(f"{found[2]} {small}", kind_name, system)
        return first - rest if found[1].startswith("-") else first + rest
    return None


def is_bare(text: str) -> bool:
    """Whether typed text is a number without a unit."""
    found = _PATTERN.match(text)
    return found is not None and not (found["unit"] or "").strip()


def _convert(text: str, number: float, unit: str, kind_name: str) -> float:
    from pint.errors import DimensionalityError, PintError

    kind = KINDS[kind_name]
    wanted = later("{noun} is wanted, such as {example}", noun=kind.noun, example=kind.example)
    if unit == "awg":
        raise BadQuantity(later("“{typed}” is a wire size; {wanted}.", typed=shortened(text), wanted=wanted))
    if unit not in WORDS.values() and not re.fullmatch(r"[A-Za-zµ]{1,12}(/[A-Za-z]{1,12})?", unit):
        raise BadQuantity(
            later(
                "“{typed}”: the unit “{unit}” is not known; {wanted}.",
                typed=shortened(text),
                unit=unit[:20],
                wanted=wanted,
            )
        )
    try:
        quantity = registry().Quantity(number, unit)
        if kind.si == "m" and quantity.check("[pressure]") and kind_name in ("head", "pressure"):
            return float(quantity.to("Pa").magnitude) * _PRESSURE_TO_HEAD
        return float(quantity.to(kind.si or "dimensionless").magnitude)
    except DimensionalityError:
        raise BadQuantity(
            later("“{typed}”: that is {noun}; {wanted}.", typed=shortened(text), noun=_noun(unit), wanted=wanted)
        ) from None
    except (PintError, ValueError, TypeError, AttributeError, SyntaxError, ArithmeticError):
        raise BadQuantity(
            later(
                "“{typed}”: the unit “{unit}” is not known; {wanted}.", typed=shortened(text), unit=unit, wanted=wanted
            )
        ) from None


@lru_cache(maxsize=128)
def _noun(unit: str) -> Message:
    """What a unit measures, in plain words."""
    found = registry().Unit(unit).dimensionality
    known = [(kind.si, kind.noun) for kind in KINDS.values() if kind.si] + list(_OTHER_NOUNS.items())
    return next((noun for si, noun in known if registry().Unit(si).dimensionality == found), later("something else"))


@lru_cache(maxsize=64)
def scale(kind_name: str, unit: str) -> tuple[float, float]:
    """Factor and offset from SI to a unit: shown = si * factor + offset."""
    kind = KINDS[kind_name]
    if kind.si in ("", "degree"):
        return (100.0, 0.0) if unit == "percent" else (1.0, 0.0)
    if kind_name == "temperature":
        return (1.0, 0.0) if unit == "degC" else (1.8, 32.0)
    return float(registry().Quantity(1.0, kind.si).to(unit).magnitude), 0.0


def shown(value: float, kind_name: str, system: System | None = None) -> tuple[str, str]:
    """A value as number and unit sign, in a person's own units.

    Parameters
    ----------
    value : float
        In SI.
    kind_name : str
        Key of :data:`KINDS`.
    system : str, optional
        ``metric`` or ``us``; the reader's own without it.

    Returns
    -------
    tuple[str, str]
        Three significant figures, thousands parted by a narrow space; and the sign.
    """
    kind = KINDS[kind_name]
    unit, sign = (kind.us, kind.us_sign) if (system or voice().units) == "us" else (kind.metric, kind.metric_sign)
    factor, offset = scale(kind_name, unit)
    return number_text(value * factor + offset), sign


# Units that belong to one system alone; all others are read in both.
_ONLY: dict[System, frozenset[str]] = {
    "metric": frozenset(
        ("m", "cm", "mm", "km", "L", "mL", "m**3", "L/min", "L/s", "L/hour", "m**3/hour", "degC", "kg", "N", "m/s", "km/hour",
         "mm/hour", "m**2", "hectare", "kPa", "bar")
    ),
    "us": frozenset(("ft", "inch", "yd", "gal", "gal/min", "gal/hour", "degF", "lb", "lbf", "mile/hour", "ft/s", "psi", "acre", "ft**2")),
}  # fmt: skip


def in_own_units(typed: str, si: float, kind_name: str) -> str:
    """What was typed, or the same in the reader's units where it was typed in the other system's.

    Parameters
    ----------
    typed : str
        Such as ``25 ft``.
    si : float
        The same in SI.
    kind_name : str
        Key of :data:`KINDS`; anything else leaves the text as it is.

    Examples
    --------
    >>> in_own_units("25 ft", 7.62, "length")
    '7.62 m'
    >>> in_own_units("7,62 m", 7.62, "length")
    '7,62 m'
    """
    kind, found = KINDS.get(kind_name), _PATTERN.match(typed)
    if kind is None or found is None or kind.metric_sign == kind.us_sign:
        return typed
    unit = "ft" if COMPOUND[0][0].match(typed) else (found["unit"] or "").strip()
    other: System = "metric" if voice().units == "us" else "us"
    if WORDS.get(unit.lower(), unit) not in _ONLY[other]:
        return typed
    return text(si, kind_name).replace("\u00a0", " ").replace("\u202f", "").replace("\u2212", "-")


# Less than this, in whatever unit is shown, is what rounding leaves of nothing.
_NOTHING = 1e-6


def number_text(value: float) -> str:
    """A number with three significant figures, whole from 100 up, thousands parted; the dust of rounding is 0."""
    if not isfinite(value):
        return "∞" if value > 0 else "−"
    size = abs(value)
    if size < _NOTHING:
        return "0"
    if size >= 99.95:
        text = f"{value:,.0f}".replace(",", "\u202f")
    elif size >= 9.995:
        text = f"{value:.1f}"
    elif size >= 0.0995:
        text = f"{value:.2f}"
    else:
        text = f"{value:.2g}"
    if "." in text and "e" not in text:
        text = text.rstrip("0").rstrip(".")
    return text.replace("-", "\u2212") if text not in ("-0", "") else "0"


def text(value: float, kind_name: str, system: System | None = None) -> str:
    """A value with its unit in one string, e.g. ``7.6 m``."""
    number, sign = shown(value, kind_name, system)
    space = "" if sign in ("°", "") else "\u00a0"
    return f"{number}{space}{sign}"
