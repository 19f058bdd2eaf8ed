"""What the core has to say, without words: a code and values in SI. ``words`` makes the sentence.

A reason is kept, compared and remembered like any value. Only when somebody reads it does it become a sentence, in that
person's language and units: ``words`` sets :data:`teller` for that. Without it a reason shows its code and values.
"""

from collections.abc import Callable
from dataclasses import dataclass


class Told:
    """Anything that becomes a sentence when it is read."""

    __slots__ = ()

    def __str__(self) -> str:
        return teller(self)

    def __format__(self, spec: str) -> str:
        return format(str(self), spec)

    def __contains__(self, words: str) -> bool:
        """Whether it says some words, whatever kind of space parts them."""
        return words in str(self).replace("\u00a0", " ").replace("\u202f", " ")


# What a reason carries: numbers in SI, text as data, and things to be said in their place.
Value = float | int | str | Told | None
# What a person reads: said already, or to be said in the voice of whoever reads it.
Spoken = str | Told


@dataclass(frozen=True)
class Quantity(Told):
    """A value in SI with its kind, such as ``Quantity(7.6, "length")``; see ``squall.words.units.KINDS``."""

    value: float
    kind: str

    __str__ = Told.__str__


@dataclass(frozen=True)
class Between(Told):
    """A range of one kind, both ends in SI and allowed; an end that is None is open."""

    low: float | None
    high: float | None
    kind: str

    __str__ = Told.__str__


class Reason(Told):
    """One thing to be said: a code in lower case with hyphens, and the values that belong to it.

    Parameters
    ----------
    code : str
        Key of the sentence in ``squall.words.reasons``.
    **values : float, int, str, Reason, Quantity or Between
        Numbers in SI (the sentence names their kind); text is data, such as a part's title; a
        reason within a reason is said in its place.
    """

    __slots__ = ("code", "values")

    def __init__(self, code: str, **values: Value) -> None:
        self.code = code
        self.values = values

    def _key(self) -> tuple[str, tuple[tuple[str, Value], ...]]:
        return self.code, tuple(self.values.items())

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Reason) and self._key() == other._key()

    def __hash__(self) -> int:
        return hash(self._key())

    def __repr__(self) -> str:
        inside = "".join(f", {name}={value!r}" for name, value in self.values.items())
        return f"Reason({self.code!r}{inside})"


def _bare(told: Told) -> str:
    return repr(told)


teller: Callable[[Told], str] = _bare


def tell_by(how: Callable[[Told], str]) -> None:
    """Let sentences be made by `how` from now on."""
    global teller
    teller = how
