"""A message and the voice that speaks it: whose units, whose language.

English is the source: a message is written where it belongs, in plain English, with its values in
braces, and each value names its kind: ``"cut to {metres:length}"``. Another language is a gettext
catalogue of the same messages (``make words`` extracts them).

The voice belongs to the request (or the command) that reads: :func:`speaking` sets it. Whatever is
remembered between requests must therefore be a :class:`Message` or a ``Reason``, never its text.
"""

import re
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from functools import cache, lru_cache
from gettext import NullTranslations
from pathlib import Path
from string import Formatter
from typing import Any, Literal

from squall.core.reason import Told

System = Literal["metric", "us"]
CATALOGUES = Path(__file__).parent / "catalogues"
DOMAIN = "squall"


@dataclass(frozen=True)
class Voice:
    """How somebody is spoken to: ``units`` as ``metric`` or ``us``, ``language`` as a code such as ``en``."""

    units: System = "metric"
    language: str = "en"


PLAIN = Voice()
_voice: ContextVar[Voice] = ContextVar("voice", default=PLAIN)

# How a value of each kind is written; filled by ``forms``.
FORMS: dict[str, Callable[[Any], str]] = {}
# The same for text, such as a trade size in both systems.
TEXT_FORMS: dict[str, Callable[[str], str]] = {}
# Catalogues that stand beside the shipped ones, such as a test's.
ADDED: dict[str, NullTranslations] = {}


def voice() -> Voice:
    """The voice of this request."""
    return _voice.get()


def speak_as(new: Voice) -> None:
    """Speak so from here on, within this request."""
    _voice.set(new)


@contextmanager
def speaking(new: Voice) -> Iterator[None]:
    """Speak so within a block."""
    token = _voice.set(new)
    try:
        yield
    finally:
        _voice.reset(token)


def languages() -> list[str]:
    """Codes of the languages there are catalogues for, English first."""
    return ["en", *_on_disk(), *ADDED]


@cache
def _on_disk() -> list[str]:
    return sorted(path.parent.parent.name for path in CATALOGUES.glob(f"*/LC_MESSAGES/{DOMAIN}.mo"))


@lru_cache(maxsize=16)
def _shipped(language: str) -> NullTranslations:
    from babel.support import Translations

    found: NullTranslations = Translations.load(CATALOGUES, [language], DOMAIN)
    return found


def catalogue_of(language: str) -> NullTranslations | None:
    """The catalogue of a language; None for English, the source."""
    if language == "en":
        return None
    return ADDED.get(language) or _shipped(language)


def translated(text: str) -> str:
    """A message's text in the language of the voice."""
    catalogue = catalogue_of(_voice.get().language)
    return text if catalogue is None else catalogue.gettext(text)


def translated_n(one: str, many: str, n: int) -> str:
    """A message that counts, in the language of the voice."""
    catalogue = catalogue_of(_voice.get().language)
    if catalogue is None:
        return one if n == 1 else many
    return catalogue.ngettext(one, many, n)


class _Filler(Formatter):
    """Fills braces; a format that is a kind of quantity writes the value with its unit."""

    def format_field(self, value: Any, format_spec: str) -> str:
        if format_spec == "capital":
            said = str(value)
            return said[:1].upper() + said[1:]
        if format_spec in TEXT_FORMS:
            return TEXT_FORMS[format_spec](str(value))
        if format_spec == "quoted":
            return f"“{value}”"
        form = FORMS.get(format_spec)
        if form is not None and not isinstance(value, str | Told) and value is not None:
            return form(value)
        if form is not None or isinstance(value, Told) or value is None:
            return "" if value is None else str(value)
        said = format(value, format_spec)
        # Minus nothing, and the dust that rounding leaves, are nothing.
        if isinstance(value, float) and (abs(value) < 1e-9 or _MINUS_NOTHING.fullmatch(said)):
            return format(0.0, format_spec)
        return said


_MINUS_NOTHING = re.compile(r"-0(\.0*)?%?")
_FILLER = _Filler()


@lru_cache(maxsize=4096)
def pieces_of(text: str) -> tuple[tuple[str, str | None, str], ...] | None:
    """A text cut at its values: what stands before each, its name, its kind; None where a value isn't a plain name."""
    cut = tuple((before, name, spec or "") for before, name, spec, turned in _FILLER.parse(text) if not turned)
    plain = all(name is None or (name.isidentifier() and "{" not in spec) for _, name, spec in cut)
    return cut if plain and len(cut) == len(list(_FILLER.parse(text))) else None


def fill(text: str, values: dict[str, Any]) -> str:
    """A translated text with its values in place."""
    if "{" not in text and "}" not in text:
        return text
    pieces = pieces_of(text)
    if pieces is None:
        return _FILLER.vformat(text, (), values)
    put = _FILLER.format_field
    return "".join(before if name is None else before + put(values[name], spec) for before, name, spec in pieces)


class Message(Told):
    """A message to be spoken later; ``str()`` speaks it in the voice of that moment.

    Parameters
    ----------
    text : str
        In English, with values as ``{name:kind}``.
    values : dict
        Numbers in SI, text as data, other messages and reasons.
    many : str, optional
        The text for any number but one; the number is the value ``n``.
    """

    __slots__ = ("many", "text", "values")

    def __init__(self, text: str, values: dict[str, Any] | None = None, many: str | None = None) -> None:
        self.text = text
        self.values = values or {}
        self.many = many

    def __str__(self) -> str:
        if self.many is None:
            return fill(translated(self.text), self.values)
        return fill(translated_n(self.text, self.many, int(self.values["n"])), self.values)

    def _key(self) -> tuple[Any, ...]:
        return self.text, self.many, tuple(self.values.items())

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Message) and self._key() == other._key()

    def __hash__(self) -> int:
        return hash(self._key())

    def __repr__(self) -> str:
        return f"Message({self.text!r}, {self.values!r})"


def later(text: str, /, **values: Any) -> Message:
    """A message for whoever reads it, however much later."""
    return Message(text, values)


def later_n(one: str, many: str, /, n: int, **values: Any) -> Message:
    """A message that counts, for whoever reads it."""
    return Message(one, {"n": n, **values}, many)


def say(text: str, /, **values: Any) -> str:
    """A message spoken at once, in the voice of this request.

    Examples
    --------
    >>> say("lifts {head:head} at {volts:volts}", head=7.62, volts=12.0)
    'lifts 7.62\\xa0m at 12\\xa0V'
    """
    return fill(translated(text), values)


def say_n(one: str, many: str, /, n: int, **values: Any) -> str:
    """A message that counts, spoken at once."""
    return fill(translated_n(one, many, n), {"n": n, **values})


def N_(text: str) -> str:  # noqa: N802
    """Mark a text as a message without speaking it; ``say`` or ``Message`` does so elsewhere."""
    return text


def listed(parts: Any, between: str = ", ") -> str:
    """Several things in a row, spoken at once."""
    return between.join(str(part) for part in parts)
