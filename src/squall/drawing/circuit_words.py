"""What is said of the circuit's parts where they are drawn: to a pointer, to a screen reader, and how likely each is what is wrong."""

from collections.abc import Mapping

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
    amps = later("{amps:amps}", amps=abs(part.amps_a))
    base = later("{number}: {name}, {amps}", number=part.number, name=part.placed.name, amps=amps)
    return later("{base}; {act}", base=base, act=act_words(part)) if part.can_open else base


def share_bars(middles: Mapping[str, tuple[float, float]], shares: Mapping[str, float], *, down: bool) -> str:
    """A bar with its share over each suspected part that is drawn, as on the long-section; to its left where the rails run down."""
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
