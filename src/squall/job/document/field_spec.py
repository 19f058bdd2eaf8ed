"""How one field of a job is typed."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from squall.core.reason import Spoken

How = Literal["quantity", "choice", "words", "yes-no", "count", "cable", "date"]


@dataclass(frozen=True)
class FieldSpec:
    """How one field is typed.

    Attributes
    ----------
    label : str
        Plain words.
    how : str
        ``quantity``, ``choice``, ``words``, ``yes-no``, ``count``, ``date`` or ``cable``.
    kind : str
        Of a quantity: key of :data:`squall.words.units.KINDS`.
    low, high : float
        Range in SI.
    choices : mapping
        Of a choice: value to words.
    optional : bool
        May be left empty.
    hint : str
        One line beside the field.
    """

    label: Spoken
    how: How = "quantity"
    kind: str = ""
    low: float = 0.0
    high: float = 0.0
    choices: Mapping[str, Spoken] | None = None
    optional: bool = False
    hint: Spoken = ""
