"""The circuit of a stand-in kit as a workplace: each terminal takes a lead; nothing is shown of what it carries.

Laid out as the circuit diagram is: along the page, and down it for a phone.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from markupsafe import Markup, escape

from squall.core.reason import Spoken
from squall.drawing.symbols import REACH, symbol
from squall.words import say

_SPAN, _STEP, _STRING, _MARGIN = 150.0, 92.0, 64.0, 46.0


@dataclass(frozen=True)
class Dot:
    """A terminal: its id, the number that stands at it, what it is called."""

    ident: str
    number: int
    name: Spoken


@dataclass(frozen=True)
class Piece:
    """What stands between two pairs of terminals.

    Attributes
    ----------
    kind : str
        As :func:`squall.drawing.symbols.symbol` has it, or ``panels``, ``core``, ``controller``, ``plug``, ``motor``.
    name : Spoken
        Written beside it.
    closed : bool
        Of a switch or plug.
    before : tuple of Dot
        At its near end, on the plus and on the minus rail: of a controller.
    plus, minus : Dot or None
        At its far end.
    strings : tuple
        Of panels: the terminals within each string, from the minus up.
    wires : int
        That reach its far end, of a core.
    """

    kind: str
    name: Spoken
    closed: bool = True
    before: tuple[Dot, ...] = ()
    plus: Dot | None = None
    minus: Dot | None = None
    strings: tuple[tuple[Dot, ...], ...] = ()
    wires: int = 2


class _Table:
    def __init__(self, held: Mapping[str, str], href: Callable[[str], str], down: bool) -> None:
        self.held, self.href, self.down = held, href, down
        self.lines: list[str] = []
        self.dots: list[str] = []

    def at(self, u: float, v: float) -> tuple[float, float]:
        """A place so far along, so far from the plus rail."""
        return (_MARGIN + v, _MARGIN + u) if self.down else (_MARGIN + u, _MARGIN + v)

    def wire(self, u1: float, v1: float, u2: float, v2: float, cls: str) -> None:
        (x1, y1), (x2, y2) = self.at(u1, v1), self.at(u2, v2)
        self.lines.append(f'<line x1="{x1:.1f}" y1="{y1:.1f}" x2="{x2:.1f}" y2="{y2:.1f}" class="wire {cls}"/>')

    def put(self, kind: str, u: float, v: float, *, across: bool, closed: bool = True) -> None:
        x, y = self.at(u, v)
        turn = " rotate(90)" if across != self.down else ""
        self.lines.append(f'<g transform="translate({x:.1f} {y:.1f}){turn}">{symbol(kind, closed=closed)}</g>')

    def word(self, u: float, v: float, said: Spoken, anchor: str = "middle") -> None:
        x, y = self.at(u, v)
        self.dots.append(
            f'<text x="{x:.1f}" y="{y + 4:.1f}" class="name" text-anchor="{anchor}">{escape(str(said))}</text>'
        )

    def dot(self, dot: Dot | None, u: float, v: float) -> None:
        """A terminal with its number, and the lead that is on it."""
        if dot is None:
            return
        x, y = self.at(u, v)
        lead = self.held.get(dot.ident, "")
        says = say("terminal {number}: {name}", number=dot.number, name=dot.name)
        self.dots.append(
            f'<a href="{escape(self.href(dot.ident))}" class="cpart terminal {lead}" aria-label="{escape(says)}"><title>{escape(says)}</title>'
            f'<rect x="{x - 22:.1f}" y="{y - 22:.1f}" width="44" height="44" class="hit"/>'
            f'<circle cx="{x:.1f}" cy="{y:.1f}" r="10" class="wire-number"/>'
            f'<text x="{x:.1f}" y="{y + 4:.1f}" class="wire-digit" text-anchor="middle">{dot.number}</text></a>'
        )
        if lead:
            word = say("red") if lead == "red" else say("black")
            self.dots.append(
                f'<path d="M{x + 7:.1f} {y - 7:.1f} l12 -12" class="lead {lead}"/><rect x="{x + 16:.1f}" y="{y - 33:.1f}" width="38" height="16" rx="3" class="lead-tag {lead}"/>'
                f'<text x="{x + 35:.1f}" y="{y - 21:.1f}" class="lead-word {lead}" text-anchor="middle">{escape(word)}</text>'
            )


def draw_bench(
    pieces: Sequence[Piece], held: Mapping[str, str], href: Callable[[str], str], *, down: bool = False
) -> Markup:
    """The workplace.

    Parameters
    ----------
    pieces : sequence of Piece
        From the source to the pump.
    held : mapping
        Terminals that have a lead, by id: ``red`` or ``black``.
    href : callable
        Where a click on a terminal leads.
    down : bool
        Rails down the page, for a phone.

    Returns
    -------
    Markup
        An ``svg`` element.
    """
    table, u = _Table(held, href, down), 0.0
    for number, piece in enumerate(pieces):
        u = _piece(table, piece, u, first=number == 0)
    length, breadth = u + 2.0 * _MARGIN + 24.0, _SPAN + 2.0 * _MARGIN + (30.0 if down else 0.0)
    width, height = (breadth, length) if down else (length, breadth)
    title = say("The kit as a workplace: every terminal takes a lead of the meter")
    return Markup(
        f'<svg class="circuit bench {"down" if down else "along"}{" wide" if width > 1000.0 else ""}" viewBox="0 0 {width:.0f} {height:.0f}" width="{width:.0f}" height="{height:.0f}" '
        f'role="group" aria-label="{escape(title)}" xmlns="http://www.w3.org/2000/svg">{"".join(table.lines)}{"".join(table.dots)}</svg>'
    )


def _piece(table: _Table, piece: Piece, u: float, *, first: bool) -> float:
    """One piece from `u` on; where it ends."""
    if first:
        return _source(table, piece, u)
    middle, end = u + _STEP / 2.0, u + _STEP
    if piece.kind == "motor":
        return _motor(table, piece, u)
    if piece.kind == "controller":
        return _box(table, piece, u)
    if piece.kind == "plug":
        for v, cls in ((0.0, "plus"), (_SPAN, "minus")):
            if piece.closed:
                table.wire(u, v, end, v, cls)
            else:
                table.wire(u, v, middle - 12.0, v, cls)
                table.wire(middle + 12.0, v, end, v, cls)
            table.put("connector", middle, v, across=False) if piece.closed else None
        table.word(middle, _SPAN / 2.0, piece.name)
    elif piece.kind == "core":
        table.wire(u, 0.0, end, 0.0, "plus")
        table.wire(u, _SPAN, end, _SPAN, "minus")
        if piece.wires == 3:
            table.wire(u, _SPAN / 2.0, end, _SPAN / 2.0, "minus")
        table.word(middle, _SPAN * (0.3 if piece.wires == 3 else 0.5), piece.name)
    else:
        table.wire(u, 0.0, middle - REACH, 0.0, "plus")
        table.wire(middle + REACH, 0.0, end, 0.0, "plus")
        table.wire(u, _SPAN, end, _SPAN, "minus")
        table.put(piece.kind, middle, 0.0, across=False, closed=piece.closed)
        table.word(
            middle,
            30.0 if not table.down else 24.0,
            piece.name,
            "start" if table.down else "middle",
        )
    table.dot(piece.plus, end, 0.0)
    table.dot(piece.minus, end, _SPAN)
    return end


def _source(table: _Table, piece: Piece, u: float) -> float:
    if piece.kind == "panels":
        strings = piece.strings or ((),)
        for number, between in enumerate(strings):
            middle = u + _STRING * number + 14.0
            step = _SPAN / (len(between) + 1)
            for n in range(len(between) + 1):
                place = step * (n + 0.5)
                table.wire(middle, step * n, middle, place - REACH, "plus")
                table.wire(middle, place + REACH, middle, step * (n + 1), "minus")
                table.put("panel", middle, place, across=True)
            for n, dot in enumerate(between):
                # Counted from the minus up.
                table.dot(dot, middle, _SPAN - step * (n + 1))
        last = u + _STRING * (len(strings) - 1) + 14.0
    else:
        last = u + 14.0
        table.wire(last, 0.0, last, _SPAN / 2.0 - REACH, "plus")
        table.wire(last, _SPAN / 2.0 + REACH, last, _SPAN, "minus")
        table.put("battery", last, _SPAN / 2.0, across=True)
        table.word(last + 24.0, _SPAN / 2.0 - (20.0 if table.down else 0.0), piece.name, "start")
    end = last + _STEP * 0.8
    table.wire(u + 14.0, 0.0, end, 0.0, "plus")
    table.wire(u + 14.0, _SPAN, end, _SPAN, "minus")
    table.dot(piece.plus, end, 0.0)
    table.dot(piece.minus, end, _SPAN)
    return end


def _box(table: _Table, piece: Piece, u: float) -> float:
    near, far = u + _STEP * 0.7, u + _STEP * 1.7
    end = far + _STEP * 0.7
    table.wire(u, 0.0, near, 0.0, "plus")
    table.wire(u, _SPAN, near, _SPAN, "minus")
    (x1, y1), (x2, y2) = table.at(near, -20.0), table.at(far, _SPAN + 20.0)
    table.lines.append(
        f'<rect x="{x1:.1f}" y="{y1:.1f}" width="{x2 - x1:.1f}" height="{y2 - y1:.1f}" class="sym fill"/>'
    )
    table.word((near + far) / 2.0, _SPAN / 2.0, piece.name)
    for dot, v in zip(piece.before, (0.0, _SPAN), strict=True):
        table.dot(dot, near, v)
    table.wire(far, 0.0, end, 0.0, "plus")
    table.wire(far, _SPAN, end, _SPAN, "minus")
    if piece.wires == 3:
        table.wire(far, _SPAN / 2.0, end, _SPAN / 2.0, "minus")
    table.dot(piece.plus, end, 0.0)
    table.dot(piece.minus, end, _SPAN)
    return end


def _motor(table: _Table, piece: Piece, u: float) -> float:
    end = u + _STEP * 0.7
    table.wire(u, 0.0, end, 0.0, "plus")
    table.wire(u, _SPAN, end, _SPAN, "minus")
    table.wire(end, 0.0, end, _SPAN / 2.0 - REACH, "plus")
    table.wire(end, _SPAN / 2.0 + REACH, end, _SPAN, "minus")
    x, y = table.at(end, _SPAN / 2.0)
    table.lines.append(
        f'<circle cx="{x:.1f}" cy="{y:.1f}" r="{REACH:g}" class="sym fill"/><text x="{x:.1f}" y="{y + 5:.1f}" class="motor-letter" text-anchor="middle">M</text>'
    )
    return end
