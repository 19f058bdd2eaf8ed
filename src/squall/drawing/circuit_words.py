"""What is said of the circuit's parts where they are drawn: to a pointer, to a screen reader, and how likely each is what is wrong."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from markupsafe import escape

from squall.core.reason import Spoken
from squall.job.wired.live import LivePart
from squall.words import later
from squall.words.units import text

# A bar at a suspected part: its length at a share of one, its height, and how far over the part's middle. [drawing's own]
_BAR, _THICK, _OVER = 40.0, 6.0, 21.0


def act_words(part: LivePart) -> Spoken:
    """What a click does to a part that can be opened."""
    if part.placed.kind in ("fuse", "string-fuse"):
        return later("put it in") if part.open else later("take it out")
    return later("close it") if part.open else later("open it")


def part_says(part: LivePart) -> Spoken:
    """A part as a screen reader and a pointer are told of it."""
    if part.signals:
        base: Spoken = later("{number}: {name}", number=part.number, name=part.placed.name)
        return later("{base}; {act}", base=base, act=act_words(part))
    amps = later("{amps:amps}", amps=abs(part.amps_a))
    base = later("{number}: {name}, {amps}", number=part.number, name=part.placed.name, amps=amps)
    return later("{base}; {act}", base=base, act=act_words(part)) if part.can_open else base


@dataclass(frozen=True)
class Marks:
    """What is laid over a circuit's parts, by their ids.

    Attributes
    ----------
    shares : mapping
        How likely each is what is wrong. [-]
    readings : mapping
        What was read at each, a line a reading.
    """

    shares: Mapping[str, float] = field(default_factory=dict)
    readings: Mapping[str, Sequence[str]] = field(default_factory=dict)


NO_MARKS = Marks()


def marked(middles: Mapping[str, tuple[float, float]], marks: Marks, *, down: bool) -> str:
    """Bars and readings over the parts that are drawn; to their left where the rails run down."""
    return _bars(middles, marks.shares, down=down) + _readings(middles, marks.readings, down=down)


def _bars(middles: Mapping[str, tuple[float, float]], shares: Mapping[str, float], *, down: bool) -> str:
    """A bar with its share over each suspected part, as on the long-section."""
    items = []
    for part, share in shares.items():
        if part not in middles:
            continue
        x, y = middles[part]
        left, top = (x - _BAR - _OVER, y - _THICK / 2.0) if down else (x - _BAR / 2.0, y - _OVER)
        at = (left, top - 3.0) if down else (left + _BAR + 3.0, top + _THICK)
        for kind, long in (("ground", _BAR), ("bar", _BAR * share)):
            items.append(
                f'<rect x="{left:.1f}" y="{top:.1f}" width="{long:.1f}" height="{_THICK:g}" class="suspect-{kind}"/>'
            )
        words = escape(text(round(share, 2), "share"))
        items.append(f'<text x="{at[0]:.1f}" y="{at[1]:.1f}" class="suspect-words">{words}</text>')
    return "".join(items)


def _readings(middles: Mapping[str, tuple[float, float]], readings: Mapping[str, Sequence[str]], *, down: bool) -> str:
    """What was read at each part, on a tag over it."""
    items = []
    for part, lines in readings.items():
        if part not in middles or not lines:
            continue
        x, y = middles[part]
        wide, high = 6.8 * max(len(line) for line in lines) + 10.0, 14.0 * len(lines) + 4.0
        left, top = (x - _OVER - wide, y - high / 2.0) if down else (x - wide / 2.0, y - _OVER - high + _THICK)
        items.append(
            f'<rect x="{left:.1f}" y="{top:.1f}" width="{wide:.1f}" height="{high:.1f}" rx="3" class="read-tag"/>'
        )
        for number, line in enumerate(lines):
            at = top + 13.0 + 14.0 * number
            items.append(
                f'<text x="{left + wide / 2.0:.1f}" y="{at:.1f}" class="read-words" text-anchor="middle">{escape(line)}</text>'
            )
    return "".join(items)
