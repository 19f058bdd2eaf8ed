"""A number that can be asked why: its inputs, formula and source."""

from dataclasses import dataclass
from typing import Literal

from squall.core.reason import Spoken

QuantityName = Literal[
    "length", "bore", "head", "flow", "litres", "volts", "amps", "watts", "ohms", "temperature", "angle",
    "altitude", "distance", "irradiance", "share", "money", "hours", "clock", "area", "number", "text", "speed", "charge",
    "pressure", "days", "seconds", "minutes", "ground", "rain", "trickle", "daylight", "energy", "force", "gust", "mass", "wind", "torque",
]  # fmt: skip


@dataclass(frozen=True)
class Input:
    """Something that a figure was computed from; `value` in SI."""

    name: Spoken
    value: float | Spoken | None
    quantity: QuantityName


@dataclass(frozen=True)
class Figure:
    """A derived number with its explanation.

    Attributes
    ----------
    key : str
        Unique on its page.
    label : str
        What it is.
    value : float or None
        In SI, None where nothing is promised.
    quantity : str
        How to show it.
    inputs : tuple[Input, ...]
        What went in.
    formula : str
        In plain words and symbols.
    source : str
        Where the formula comes from.
    """

    key: str
    label: Spoken
    value: float | None
    quantity: QuantityName
    inputs: tuple[Input, ...]
    formula: Spoken
    source: Spoken
