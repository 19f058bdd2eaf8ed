"""The names of terminals on a circuit diagram, beside where its wires end: the same words as on the terminal map."""

from collections.abc import Sequence
from textwrap import wrap

from squall.core.circuit.laid import Placed
from squall.core.reason import Spoken
from squall.drawing.circuit_sheet import Sheet
from squall.drawing.symbols import REACH
from squall.job.wired.terminals import terminal_of
from squall.words import later

# More letters side by side than lie within a box.
_BESIDE = 9
# As many letters as fit across it.
_WITHIN = 12


def _name(sheet: Sheet, said: Spoken, x: float, y: float, anchor: str) -> None:
    if str(said):
        sheet.word(x, y, said, "terminal", anchor)


def upside_down(stack: Sequence[Placed], number: int) -> bool:
    """Whether a part of a row from plus to minus stands with its second end towards plus."""
    one = stack[number]
    if number:
        return one.ends[1] in stack[number - 1].ends
    return len(stack) > 1 and one.ends[0] in stack[1].ends


def ends_named(sheet: Sheet, one: Placed, u: float, v: float, *, across: bool, turned: bool = False) -> None:
    """Both ends of a part of two terminals, at its middle: outside its symbol, beside its wire.

    A part that is turned has its second end towards the sun, or towards plus; so has whatever stands on the rail of minus.
    """
    if one.kind in ("core", "float-input", "probe-input"):
        return
    first, second = (terminal_of(one, node) for node in one.ends)
    if turned or (not across and v > 0.0):
        first, second = second, first
    if across != sheet.laid.down:
        # Upright: beside the wire over it and under it.
        x, y = sheet.laid.at(u, v)
        # Down the page inside the loop: outside of it stand the volts.
        side, anchor = (5.0, "start") if sheet.laid.down and v == 0.0 else (-5.0, "end")
        _name(sheet, first, x + side, y - REACH + 1.0, anchor)
        _name(sheet, second, x + side, y + REACH + 6.0, anchor)
    else:
        x, y = sheet.laid.at(u, v)
        _name(sheet, first, x - REACH + 3.0, y - 5.0, "end")
        _name(sheet, second, x + REACH - 3.0, y - 5.0, "start")


def box_named(sheet: Sheet, one: Placed, nodes: tuple[tuple[str, str], tuple[str, str]], u: float, end: float) -> None:
    """The four terminals of a box within it, where its rails end; what it has in common for minus once."""
    span = sheet.laid.span
    (into, out), (back, _) = ((terminal_of(one, node) for node in pair) for pair in nodes)
    low, high = sheet.laid.at(u, 0.0), sheet.laid.at(end, span)
    if sheet.third:
        out = later("motor 1")
    if sheet.laid.down:
        _name(sheet, into, low[0] - 8.0, low[1] + 11.0, "start")
        _name(sheet, out, low[0] - 8.0, high[1] - 5.0, "start")
        _name(sheet, back, high[0] + 8.0, low[1] + 11.0, "end")
        if sheet.third:
            _name(sheet, later("motor 2"), high[0] + 8.0, high[1] - 5.0, "end")
        return
    row = 0.0 if len(str(into)) + len(str(out)) <= _BESIDE else 11.0
    _name(sheet, into, low[0] + 3.0, low[1] + 3.0, "start")
    _name(sheet, out, high[0] - 3.0, low[1] + 3.0 + row, "end")
    lines = [] if sheet.third else wrap(str(back), _WITHIN)
    for number, line in enumerate(lines):
        _name(sheet, line, (low[0] + high[0]) / 2.0, high[1] + 6.0 - 10.0 * (len(lines) - 1 - number), "middle")
    if sheet.third:
        _name(sheet, back, low[0] + 3.0, high[1] - 8.0, "start")
        _name(sheet, later("motor 2"), high[0] - 3.0, high[1] + 3.0, "end")
        _name(sheet, later("motor 3"), high[0] - 3.0, low[1] + span / 2.0 + 3.0, "end")


def motor_named(sheet: Sheet, u: float, v: float) -> None:
    """A motor's leads: by their signs, or three by their numbers."""
    x, y = sheet.laid.at(u, v)
    first, second, third = ("1", "2", "3") if sheet.third else ("+", "\u2212", "")
    if sheet.laid.down:
        _name(sheet, first, x - REACH - 3.0, y - 5.0, "end")
        _name(sheet, second, x + REACH + 3.0, y - 5.0, "start")
        _name(sheet, third, x + 5.0, y - REACH - 3.0, "start")
        return
    _name(sheet, first, x + 5.0, y - REACH - 4.0, "start")
    _name(sheet, second, x + 5.0, y + REACH + 10.0, "start")
    _name(sheet, third, x - REACH - 4.0, y - 5.0, "end")
