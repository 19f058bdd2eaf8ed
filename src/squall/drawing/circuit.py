"""The circuit diagram: sun at one end, pump at the other, plus rail before minus rail, boxes as outlines; live.

Two layings of the same columns: along the page, and down it for a phone. Both are made by rule from the columns of the
kit's circuit, so no line crosses another.
"""

from collections.abc import Callable, Sequence

from markupsafe import Markup, escape

from squall.core.circuit.laid import OTHER_POLE, Column, Placed
from squall.drawing.circuit_sheet import Laid, Sheet
from squall.drawing.circuit_terminals import box_named, ends_named, motor_named, upside_down
from squall.drawing.circuit_words import NO_MARKS, Marks, marked, part_says
from squall.drawing.symbols import MOVED, REACH, converter_sign
from squall.job.wired.live import LiveCircuit, LivePart
from squall.job.wired.terminals import Wire
from squall.words import say
from squall.words.units import text

# Room that a column takes along the rails.
_STRING, _CORE, _DEVICE, _BOX, _ACROSS = 74.0, 96.0, 74.0, 100.0, 74.0
# A controller's inputs behind its box: the loop of each, and its word.
_INPUT, _LOOP = 104.0, 34.0
# Between the rails at least, and of each panel in a string.
_SPAN, _PANEL = 132.0, 58.0
# A box's outline stands in from its column's ends by this.
BOX_INSET = 22.0
# Letters that fit under a part.
_LONG = 12
# Longer than this it is moved about in its frame rather than made small.
_WIDE = 1000.0


def draw_circuit(
    live: LiveCircuit, wires: Sequence[Wire], href: Callable[[LivePart], str], *, down: bool = False,
    marks: Marks = NO_MARKS,
) -> Markup:  # fmt: skip
    """The diagram of a kit's circuit.

    Parameters
    ----------
    live : LiveCircuit
        As it stands now.
    wires : sequence of Wire
        Its terminal map, for the numbers on the cores.
    href : callable
        Where a click on a part leads.
    down : bool
        Rails down the page, for a phone.
    marks : Marks
        What is suspected of some parts, or was read at them.

    Returns
    -------
    Markup
        An ``svg`` element.
    """
    stacks = max(len(stack) + (column.where != "array") for column in live.columns for stack in (*column.across, ()))
    # Three wires side by side want room for what is written at each.
    span = max(_SPAN if not live.kit.three_wires else 1.6 * _SPAN, _PANEL * stacks + 26.0)
    laid = Laid(down, 40.0 if down else 16.0, 66.0 if down else 52.0, span)
    sheet = Sheet(live, wires, laid, href)
    u = 0.0
    outlines: list[tuple[str, float, float]] = []
    for number, column in enumerate(live.columns):
        width = _width(column, down=down)
        _column(sheet, column, u, width, first=number == 0, last=number == len(live.columns) - 1)
        if column.where in ("box", "post"):
            if outlines and outlines[-1][0] == column.where and outlines[-1][2] == u:
                outlines[-1] = (column.where, outlines[-1][1], u + width)
            else:
                outlines.append((column.where, u, u + width))
        if sheet.third:
            _third_wire(sheet, sheet.third, column, u, width)
        u += width
    sheet.short_wires(wires)
    for where, begin, end in outlines:
        _outline(sheet, where, begin, end)
    length, breadth = u + (78.0 if down else 60.0), span + (132.0 if down else 100.0)
    width, height = (breadth, length) if down else (length, breadth)
    title = say("Circuit of the kit, from the panels to the pump")
    return Markup(
        f'<svg class="circuit {"down" if down else "along"}{" wide" if width > _WIDE else ""}" viewBox="0 0 {width:.0f} {height:.0f}" width="{width:.0f}" height="{height:.0f}" '
        f'role="group" aria-label="{escape(title)}" xmlns="http://www.w3.org/2000/svg">'
        f"{''.join(sheet.items)}{''.join(sheet.words)}{marked(sheet.middles, marks, down=down)}</svg>"
    )


def _width(column: Column, *, down: bool) -> float:
    if column.where == "array":
        return _STRING * len(column.across) + (26.0 if column.meets else 16.0)
    if any(one is not None and one.kind == "core" for one in (column.plus, column.minus)):
        return _CORE
    if column.plus is not None and column.across:
        return _ACROSS + _DEVICE
    kinds = [stack[0].kind for stack in column.across]
    if kinds and kinds[0] in ("controller", "charger"):
        return _BOX + (_INPUT if column.inputs else 0.0)
    if kinds and kinds[0] == "battery" and not down:
        # Its name stands beside it.
        return _ACROSS + 64.0
    return _ACROSS if kinds else _DEVICE


def _outline(sheet: Sheet, where: str, begin: float, end: float) -> None:
    before, after = (-58.0, 58.0) if sheet.laid.down else (-46.0, 26.0)
    (x1, y1), (x2, y2) = sheet.laid.at(begin + 3.0, before), sheet.laid.at(end - 3.0, sheet.laid.span + after)
    sheet.items.insert(
        0, f'<rect x="{x1:.1f}" y="{y1:.1f}" width="{x2 - x1:.1f}" height="{y2 - y1:.1f}" rx="4" class="outline"/>'
    )
    said = say("box") if where == "box" else say("at the battery")
    if sheet.laid.down:
        # Beside the minus rail there is room for a word, not for three.
        for number, line in enumerate(str(said).rsplit(" ", 1)):
            sheet.word(x2 - 5.0, y1 + 13.0 + 12.0 * number, line, "outline-word", "end")
    else:
        sheet.word(x1 + 6.0, y2 + 14.0, said, "outline-word", "start")


def _column(sheet: Sheet, column: Column, u: float, width: float, *, first: bool, last: bool) -> None:
    middle = u + width / 2.0
    if column.where == "array":
        _strings(sheet, column, u, width)
        return
    plus, minus = sheet.live.nodes_of(column)
    if column.across and column.across[0][0].kind in ("controller", "charger"):
        _box(sheet, column.across[0][0], (plus, minus), (u, u + width), room=_INPUT if column.inputs else 0.0)
        for number, asked in enumerate(column.inputs):
            _input(sheet, sheet.live.part(asked.id), u + width - _INPUT - BOX_INSET, number)
        return
    if column.plus is not None and column.across:
        # What commands stands before what it moves.
        sheet.rail(u, u + _ACROSS, plus[0], plus=True)
        _rail_with(sheet, column.plus, (u + _ACROSS, u + width), plus, is_plus=True)
        _rail_with(sheet, None, (u, u + width), minus, is_plus=False)
        _stack(sheet, column.across[0], u + _ACROSS / 2.0)
        return
    _rail_with(sheet, column.plus, (u, middle if last else u + width), plus, is_plus=True)
    _rail_with(sheet, column.minus, (u, middle if last else u + width), minus, is_plus=False)
    for stack in column.across:
        if len(stack) > 1:
            _stack(sheet, stack, middle)
            continue
        one = sheet.live.part(stack[0].id)
        span = sheet.laid.span
        dead = "" if one.live else " dead"
        sheet.spots[one.placed.id, "before"] = middle, 0.25 * span - 0.5 * REACH
        sheet.spots[one.placed.id, "under"] = middle, 0.75 * span + 0.5 * REACH
        sheet.line(middle, 0.0, middle, span / 2.0 - REACH, f"wire plus{dead}")
        sheet.line(middle, span / 2.0 + REACH, middle, span, f"wire minus{dead}")
        if one.placed.kind == "motor":
            _motor(sheet, one, middle, span / 2.0)
        else:
            _put(sheet, one, middle, span / 2.0, across=True)
            lines = [one.kind, text(abs(one.amps_a), "amps")]
            if sheet.laid.down:
                sheet.named(lines, middle + 21.0, span / 2.0 - 20.0)
            else:
                _beside(sheet, lines, middle, span / 2.0)


def _put(sheet: Sheet, part: LivePart, u: float, v: float, *, across: bool, turned: bool = False) -> None:
    """A part with the names of its two terminals."""
    sheet.put(part, u, v, across=across)
    ends_named(sheet, part.placed, u, v, across=across, turned=turned)


def _stack(sheet: Sheet, stack: Sequence[Placed], u: float) -> None:
    """Parts in a row from rail to rail, each with its name beside it."""
    span = sheet.laid.span
    step, edge = span / len(stack), 0.0
    for number, placed in enumerate(stack):
        part = sheet.live.part(placed.id)
        place = step * (number + 0.5)
        sheet.line(u, edge, u, place - REACH, f"wire{' plus' if number == 0 else ''}{'' if part.live else ' dead'}")
        _put(sheet, part, u, place, across=True, turned=upside_down(stack, number))
        sheet.spots[placed.id, "before"] = u, (edge + place - REACH) / 2.0 + (1.5 if number == 0 else 0.0)
        edge = place + REACH
        lines = [part.kind, text(abs(part.amps_a), "amps")] if number == len(stack) - 1 else [part.kind]
        if sheet.laid.down:
            sheet.named(lines, u + 24.0, place - 10.0)
        else:
            _beside(sheet, lines, u + (10.0 if placed.kind in MOVED else 0.0), place)
    sheet.spots[stack[-1].id, "under"] = u, (edge + span) / 2.0 - 1.5
    sheet.line(u, edge, u, span, "wire minus")


def _beside(sheet: Sheet, lines: Sequence[object], u: float, v: float) -> None:
    """A part's lines at its right, clear of its own wire."""
    x, y = sheet.laid.at(u + 24.0, v)
    for number, line in enumerate(lines):
        sheet.word(x, y + 4.0 + 13.0 * number, line, "name", "start")


def _rail_with(
    sheet: Sheet, one: Placed | None, reach: tuple[float, float], nodes: tuple[str, str], *, is_plus: bool
) -> None:
    begin, end = reach
    if one is None:
        sheet.rail(begin, end, nodes[1], plus=is_plus)
        return
    middle, v = (begin + end) / 2.0, 0.0 if is_plus else sheet.laid.span
    part = sheet.live.part(one.id)
    if one.kind == "core":
        sheet.rail(begin, end, nodes[0], plus=is_plus)
        _core(sheet, part, middle, v, is_plus=is_plus)
    else:
        sheet.spots[one.id, "before"], sheet.spots[one.id, "behind"] = (begin, v), (end, v)
        sheet.spots[one.id, "back"] = begin, v
        sheet.rail(begin, middle - REACH, nodes[0], plus=is_plus)
        sheet.rail(middle + REACH, end, nodes[1], plus=is_plus)
        _put(sheet, part, middle, v, across=False)
        if one.id.endswith(OTHER_POLE):
            # One hand moves both poles: named at the first.
            begins = 88.0 if sheet.laid.down else 42.0
            sheet.line(middle, begins, middle, v - 6.0, "sym dash")
        else:
            rating = text(one.rating_a, "amps") if one.rating_a is not None else ""
            kind = str(part.kind)
            # Along the page a long name takes two lines, or lies over its neighbours.
            lines = kind.split() if len(kind) > _LONG and not sheet.laid.down else [kind]
            sheet.named([*lines, *([rating] if rating else [])], middle, v + (32.0 if sheet.laid.down else 24.0))
    sheet.volts(end - 6.0, nodes[1], plus=is_plus)


def _core(sheet: Sheet, part: LivePart, u: float, v: float, *, is_plus: bool) -> None:
    wire = sheet.numbers[part.placed.id]
    x, y = sheet.middles[part.placed.id] = sheet.laid.at(u, v)
    says = escape(say("wire {number}: {part}", number=wire.number, part=part_says(part)))
    sheet.items.append(
        f'<a href="{escape(sheet.href(part))}" class="cpart core{"" if part.live else " dead"}" data-part="{part.placed.id}" '
        f'aria-label="{says}"><rect x="{x - 22:.1f}" y="{y - 22:.1f}" width="44" height="44" class="hit"/>'
        f'<circle cx="{x:.1f}" cy="{y:.1f}" r="9" class="wire-number"/>'
        f'<text x="{x:.1f}" y="{y + 4:.1f}" class="wire-digit" text-anchor="middle">{wire.number}</text></a>'
    )
    size = wire.conductor.label
    if is_plus:
        apart = "\n" if sheet.third and sheet.laid.down else ", "
        run = f"{text(wire.length_m, 'length')}{apart}{wire.colour}"
        lines = [size, *run.split("\n"), text(abs(part.amps_a), "amps")]
        sheet.named(lines, u, v + 24.0)
    else:
        _minus_named(sheet, wire, u, v)


def _minus_named(sheet: Sheet, wire: Wire, u: float, v: float) -> None:
    """Size, length and colour of a core that no amps stand beside: it carries what the plus does."""
    size, length = wire.conductor.label, text(wire.length_m, "length")
    if sheet.laid.down:
        sheet.named([size, length, wire.colour], u, v + 14.0)
    else:
        sheet.named([f"{size}, {length}", wire.colour], u, v - 27.0)


def _third_wire(sheet: Sheet, wires: Sequence[Wire], column: Column, u: float, width: float) -> None:
    """What of a motor's third wire lies in a column: between the rails, from the controller's box to the motor."""
    v = sheet.laid.span / 2.0
    cls = "wire" if sheet.live.part("motor").live else "wire dead"
    if column.across and column.across[0][0].kind == "controller":
        sheet.line(u + width - BOX_INSET - (_INPUT if column.inputs else 0.0), v, u + width, v, cls)
    elif column.where == "run-pump":
        sheet.line(u, v, u + width, v, cls)
        wire = wires[[one for one in sheet.live.columns if one.where == "run-pump"].index(column)]
        x, y = sheet.laid.at(u + width / 2.0, v)
        sheet.items.append(
            f'<circle cx="{x:.1f}" cy="{y:.1f}" r="9" class="wire-number"/>'
            f'<text x="{x:.1f}" y="{y + 4:.1f}" class="wire-digit" text-anchor="middle">{wire.number}</text>'
        )
        _minus_named(sheet, wire, u + width / 2.0, v)
    elif column.where == "pump":
        sheet.line(u, v, u + width / 2.0 - REACH, v, cls)


def _strings(sheet: Sheet, column: Column, u: float, width: float) -> None:
    span = sheet.laid.span
    last = u + width
    for number, stack in enumerate(column.across):
        middle = u + _STRING * (number + 0.5)
        parts = [sheet.live.part(one.id) for one in stack]
        dead = "" if any(part.live for part in parts) else " dead"
        step = span / len(parts)
        edge = 0.0
        for n, part in enumerate(parts):
            place = step * (n + 0.5)
            sheet.line(middle, edge, middle, place - REACH, f"wire plus{dead}" if n == 0 else f"wire{dead}")
            _put(sheet, part, middle, place, across=True, turned=upside_down(stack, n))
            edge = place + REACH
        sheet.line(middle, edge, middle, span, f"wire minus{dead}")
        amps = text(abs(parts[-1].amps_a), "amps")
        if sheet.laid.down:
            sheet.named([amps], middle + 22.0, span / 2.0 - 14.0)
        else:
            low = span - (26.0 if column.meets else 8.0)
            # Clear of a Y-lead, and of the last panel's own symbol: between it and what stands before it.
            at = step * (len(parts) - 1) + 4.0 if column.meets and len(parts) > 1 else low
            sheet.named([amps], middle + 26.0, at)
        if number:
            for v in (0.0, span):
                x, y = sheet.laid.at(middle, v)
                sheet.items.append(f'<circle cx="{x:.1f}" cy="{y:.1f}" r="2.6" class="sym dot"/>')
    _meet(sheet, column, u + _STRING * 0.5, last)
    sheet.volts(last - 8.0, "array_plus", plus=True)


def _meet(sheet: Sheet, column: Column, begin: float, end: float) -> None:
    """Both rails from the first string to the array's end, with a Y-lead behind each string that meets those before it."""
    for rail, is_plus in (("plus", True), ("minus", False)):
        at, v = begin, 0.0 if is_plus else sheet.laid.span
        for number, pair in enumerate(column.meets, start=1):
            one = pair[0] if is_plus else pair[1]
            middle = begin + _STRING * (number + 0.5)
            sheet.rail(at, middle - REACH, one.ends[0 if is_plus else 1], plus=is_plus)
            _put(sheet, sheet.live.part(one.id), middle, v, across=False)
            if is_plus:
                sheet.named([say("Y-lead")], middle, v + 22.0)
            at = middle + REACH
        sheet.rail(at, end, f"array_{rail}", plus=is_plus)


def _box(
    sheet: Sheet,
    one: Placed,
    nodes: tuple[tuple[str, str], tuple[str, str]],
    reach: tuple[float, float],
    *,
    room: float,
) -> None:
    """A box with four terminals; behind it there may be room for what it asks by."""
    part = sheet.live.part(one.id)
    plus, minus = nodes
    inset, (u, end) = BOX_INSET, reach
    width = end - u - room
    sheet.rail(u, u + inset, plus[0], plus=True)
    sheet.rail(u + width - inset, end, plus[1], plus=True)
    sheet.rail(u, u + inset, minus[0], plus=False)
    sheet.rail(u + width - inset, end, minus[1], plus=False)
    sheet.middles[one.id] = sheet.laid.at(u + width / 2.0, 26.0)
    sheet.spots[one.id, "before"], sheet.spots[one.id, "back"] = (u, 0.0), (u, sheet.laid.span)
    (x1, y1), (x2, y2) = sheet.laid.at(u + inset, -12.0), sheet.laid.at(u + width - inset, sheet.laid.span + 12.0)
    says = escape(str(part_says(part)))
    sheet.items.append(
        f'<a href="{escape(sheet.href(part))}" class="cpart{"" if part.live else " dead"}" data-part="{one.id}" aria-label="{says}">'
        f'<rect x="{x1:.1f}" y="{y1:.1f}" width="{x2 - x1:.1f}" height="{y2 - y1:.1f}" class="sym fill"/>'
        f"{converter_sign(*_sign_of(sheet.laid, u + width / 2.0))}</a>"
    )
    x, y = sheet.laid.at(u + width / 2.0, sheet.laid.span / 2.0)
    x, y = (x + 12.0, y - 2.0) if sheet.laid.down else (x, y + (24.0 if sheet.third else 12.0))
    for number, line in enumerate(str(part.kind).split()):
        sheet.word(x, y + 13.0 * number, line, "name inside")
    sheet.volts(end - 8.0, plus[1], plus=True)
    box_named(sheet, one, nodes, u + inset, u + width - inset)


def _sign_of(laid: Laid, u: float) -> tuple[float, float]:
    """Where a box has its converter's sign, clear of its words: over them, or before them."""
    x, y = laid.at(u, laid.span / 2.0)
    return (x - 48.0, y) if laid.down else (x, y - 20.0)


def _input(sheet: Sheet, part: LivePart, u: float, number: int) -> None:
    """One of a controller's inputs: a loop from its box through a contact and back, the first over the middle, the second under it."""
    span, out = sheet.laid.span, u + _LOOP
    middle = span * (0.25 if number == 0 else 0.75)
    dead = "" if part.live else " dead"
    for side in (-1.0, 1.0):
        sheet.line(u, middle + side * (REACH + 4.0), out, middle + side * (REACH + 4.0), f"wire signal{dead}")
        sheet.line(out, middle + side * REACH, out, middle + side * (REACH + 4.0), f"wire signal{dead}")
    sheet.put(part, out, middle, across=True)
    x, y = sheet.laid.at(out + 20.0 if sheet.laid.down else out + 27.0, middle)
    sheet.word(
        x,
        y + 4.0,
        say("float") if part.placed.kind == "float-input" else say("probe"),
        "name",
        "middle" if sheet.laid.down else "start",
    )


def _motor(sheet: Sheet, part: LivePart, u: float, v: float) -> None:
    x, y = sheet.middles["motor"] = sheet.laid.at(u, v)
    says = escape(str(part_says(part)))
    sheet.items.append(
        f'<a href="{escape(sheet.href(part))}" class="cpart{"" if part.live else " dead"}" data-part="motor" aria-label="{says}">'
        f'<circle cx="{x:.1f}" cy="{y:.1f}" r="{REACH:g}" class="sym fill"/>'
        f'<text x="{x:.1f}" y="{y + 5:.1f}" class="motor-letter" text-anchor="middle">M</text></a>'
    )
    motor_named(sheet, u, v)
    volts = text(abs(part.across_v or 0.0), "volts")
    lines = [volts, text(abs(part.amps_a), "amps")]
    if sheet.laid.down:
        sheet.word(x, y + 34.0, " · ".join(lines), "name")
    else:
        for number, line in enumerate(lines):
            sheet.word(x + 24.0, y - 2.0 + 14.0 * number, line, "name", "start")
