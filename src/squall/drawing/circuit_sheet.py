"""The sheet that a circuit diagram is drawn on: its rails along the page or down it, and what may be put on them."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from markupsafe import escape

from squall.drawing.circuit_words import part_says
from squall.drawing.symbols import symbol
from squall.job.wired.live import LIVE_V, LiveCircuit, LivePart
from squall.job.wired.terminals import Side, Wire
from squall.words import say
from squall.words.units import text

# Less is nothing: across a rail's drop. [V]
_NO_VOLTS = 0.05


@dataclass(frozen=True)
class Laid:
    """Where a diagram's rails run: along x, or down y."""

    down: bool
    first_u: float
    plus_v: float
    span: float

    def at(self, u: float, v: float) -> tuple[float, float]:
        """A place so far along, so far from the plus rail."""
        along, across = self.first_u + u, self.plus_v + v
        return (across, along) if self.down else (along, across)


class Sheet:
    """What is drawn, and over it what is written."""

    def __init__(self, live: LiveCircuit, wires: Sequence[Wire], laid: Laid, href: Callable[[LivePart], str]) -> None:
        self.live, self.laid, self.href = live, laid, href
        self.numbers = dict(_core_wires(live, wires))
        self.third = [wire for wire in wires if wire.third]
        self.items: list[str] = []
        self.words: list[str] = []
        self.middles: dict[str, tuple[float, float]] = {}
        # Where a short wire beside a part has its number, along and across.
        self.spots: dict[tuple[str, Side], tuple[float, float]] = {}

    def line(self, u1: float, v1: float, u2: float, v2: float, cls: str) -> None:
        (x1, y1), (x2, y2) = self.laid.at(u1, v1), self.laid.at(u2, v2)
        self.items.append(f'<line x1="{x1:.1f}" y1="{y1:.1f}" x2="{x2:.1f}" y2="{y2:.1f}" class="{cls}"/>')

    def word(self, x: float, y: float, said: object, cls: str, anchor: str = "middle") -> None:
        self.words.append(
            f'<text x="{x:.1f}" y="{y:.1f}" class="{cls}" text-anchor="{anchor}">{escape(str(said))}</text>'
        )

    def rail(self, u1: float, u2: float, node: str, *, plus: bool) -> None:
        """A stretch of rail at one node."""
        dead = not self.has_volts(node) and plus
        v = 0.0 if plus else self.laid.span
        if u2 > u1:
            self.line(u1, v, u2, v, f"wire {'plus' if plus else 'minus'}{' dead' if dead else ''}")

    def has_volts(self, node: str) -> bool:
        """Whether a node of the plus rail is live."""
        return abs(self.live.volts(node) or 0.0) >= LIVE_V

    def volts(self, u: float, node: str, *, plus: bool) -> None:
        """Volts of a node, outside its rail."""
        v = self.live.volts(node)
        if v is None:
            said: object = say("dead")
        elif not plus and abs(v) < _NO_VOLTS:
            return
        else:
            said = text(v, "volts")
        # Along the page in a row of their own, over whatever stands on a switch.
        x, y = self.laid.at(u, -31.0 if plus else self.laid.span + 21.0)
        if self.laid.down:
            x, y = self.laid.at(u, -8.0 if plus else self.laid.span + 8.0)
            self.word(x, y - 2.0, said, "volts", "end" if plus else "start")
        else:
            self.word(x, y, said, "volts", "end")

    def put(self, part: LivePart, u: float, v: float, *, across: bool) -> None:
        """A part's symbol, as a link."""
        x, y = self.middles[part.placed.id] = self.laid.at(u, v)
        turned = across != self.laid.down
        inner = symbol(part.placed.kind, closed=not part.open)
        turn = ' rotate(90)"' if turned else '"'
        marks = {"open": part.open, "dead": not part.live, "hot": part.would_open}
        cls = " ".join(["cpart", *(mark for mark, is_so in marks.items() if is_so)])
        self.items.append(
            f'<a href="{escape(self.href(part))}" class="{cls}" data-part="{part.placed.id}" '
            f'aria-label="{escape(str(part_says(part)))}"><rect x="{x - 22:.1f}" y="{y - 22:.1f}" width="44" height="44" class="hit"/>'
            f'<g transform="translate({x:.1f} {y:.1f}){turn}>{inner}</g></a>'
        )

    def short_wires(self, wires: Sequence[Wire]) -> None:
        """The numbers of the short wires, each on its own."""
        for wire in wires:
            spot = None if wire.by is None else self.spots.get(wire.by)
            if spot is None:
                continue
            x, y = self.laid.at(*spot)
            self.items.append(
                f'<circle cx="{x:.1f}" cy="{y:.1f}" r="6.5" class="wire-number short"><title>{escape(self.short_words(wire))}</title></circle>'
                f'<text x="{x:.1f}" y="{y + 3:.1f}" class="wire-digit short" text-anchor="middle">{wire.number}</text>'
            )

    @staticmethod
    def short_words(wire: Wire) -> str:
        """What a short wire is: its number, size, length, colour."""
        return say(
            "wire {number}: {size}, {length:length}, {colour}",
            number=wire.number, size=wire.conductor.label, length=wire.length_m, colour=wire.colour,
        )  # fmt: skip

    def named(self, lines: Sequence[object], u: float, v: float) -> None:
        """A few short lines beside a part."""
        x, y = self.laid.at(u, v)
        for number, line in enumerate(lines):
            if self.laid.down:
                self.word(x, y + 4.0 + 13.0 * (number - (len(lines) - 1) / 2.0), line, "name", "start")
            else:
                self.word(x, y + 13.0 * number, line, "name")


def _core_wires(live: LiveCircuit, wires: Sequence[Wire]) -> list[tuple[str, Wire]]:
    cores = [part.placed.id for part in live.parts if part.placed.kind == "core"]
    return list(zip(cores, [wire for wire in wires if not wire.link and not wire.third], strict=True))
