"""How the parts of a kit are stripped, cleaned and put together again: a card for each family of parts, step by step.

What is done and in which order: common practice, no source. A maker's own sheet goes before a card.
"""

from dataclasses import dataclass
from typing import Literal

Family = Literal[
    "centrifugal", "helical", "diaphragm", "piston", "brushes", "screen", "plugs", "box", "lead", "panels", "float"
]
End = Literal["centrifugal", "helical", "diaphragm", "piston"]


@dataclass(frozen=True)
class CardStep:
    """A step of a card.

    Attributes
    ----------
    code : str
        Its name; words and why go by it.
    photo : bool
        Whether a photograph is taken before going on.
    holds : bool
        Whether nothing goes on until it is so.
    """

    code: str
    photo: bool = False
    holds: bool = False


@dataclass(frozen=True)
class Card:
    """What is done to a family of parts.

    Attributes
    ----------
    family : str
        Of the parts.
    minutes : int
        What it takes. [min]
    steps : tuple of CardStep
        In their order.
    """

    family: Family
    minutes: int
    steps: tuple[CardStep, ...]


def _step(code: str) -> CardStep:
    """From its code: `*` after one that is photographed, `!` after one that holds."""
    return CardStep(code.rstrip("*!"), "*" in code, "!" in code)


def _card(family: Family, minutes: int, *codes: str) -> Card:
    return Card(family, minutes, tuple(_step(code) for code in codes))


# Every end begins dead and marked, and ends in the bucket.
_OPEN, _CLOSE = ("dead!", "lift", "mark*", "open", "lay-out*"), ("snug", "bucket!")
CARDS: tuple[Card, ...] = (
    _card("screen", 15, "dead!", "lift", "screen-out", "screen-look", "flow-back", "screen-back"),
    _card("centrifugal", 45, *_OPEN, "impeller-turn", "soak", "vanes", "shaft", "seal", "marks-met", *_CLOSE),
    _card("helical", 45, *_OPEN, "rotor-out", "rubber-look", "rotor-look", "rubber-wet", "rotor-in", "thread-on", *_CLOSE),
    _card("diaphragm", 60, *_OPEN, "valves-row*", "membrane-look", "valves-clean", "seal", "membrane-flat", "marks-met", *_CLOSE),
    _card("piston", 60, *_OPEN, "valves-row*", "cups-look", "bore-look", "valves-clean", "cups-grease", "marks-met", *_CLOSE),
    _card("brushes", 40, "dead!", "lift", "cool", "brush-out*", "brush-length", "collector", "brush-in", "brush-bed", "bucket!"),
    _card("panels", 15, "panels-cool", "panels-wash", "panels-edge", "panels-frame", "panels-amps"),
    _card("plugs", 20, "plugs-dead!", "plugs-look", "plugs-part", "plugs-inside", "plugs-met", "plugs-tug"),
    _card("box", 15, "box-dead!", "box-open", "box-webs", "box-screws", "box-entries", "box-shut"),
    _card("lead", 20, "lead-face!", "lead-rest", "lead-water", "lead-posts", "lead-vent"),
    _card("float", 10, "float-free", "float-hand", "float-travel", "float-line"),
)  # fmt: skip


@dataclass(frozen=True)
class Parts:
    """What of a kit decides which cards it needs.

    Attributes
    ----------
    end : str
        Of its pump.
    brushed, screened, panels, boxed, lead, floats : bool
        Whether its motor has brushes, its pump stands in the water, it has panels, a box, a lead battery, a float switch.
    """

    end: str
    brushed: bool = False
    screened: bool = True
    panels: bool = True
    boxed: bool = False
    lead: bool = False
    floats: bool = False


def cards_for(parts: Parts) -> tuple[Card, ...]:
    """The cards that a kit needs, what is done oftenest first.

    Examples
    --------
    >>> [card.family for card in cards_for(Parts("centrifugal", brushed=True))]
    ['screen', 'centrifugal', 'brushes', 'panels', 'plugs']
    """
    wanted: dict[Family, bool] = {
        "screen": parts.screened, "brushes": parts.brushed, "panels": parts.panels, "plugs": True, "box": parts.boxed, "lead": parts.lead,
        "float": parts.floats,
    }  # fmt: skip
    return tuple(card for card in CARDS if wanted.get(card.family, card.family == parts.end))
