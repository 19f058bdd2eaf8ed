"""One figure of a part in a list: its heading, its cell, and how a cell is read under its heading's unit."""

import re
from collections.abc import Iterable, Mapping

from squall.catalogue.families import Column, Family
from squall.catalogue.shelf import ShelfPart
from squall.core.reason import Spoken
from squall.words import voice
from squall.words.units import KINDS, System, is_bare, read_number, scale

POINTS = "points_l_min_m_a"
NOTE = "Note"
_POINT_UNITS: Mapping[System, str] = {"metric": "L/min; m; A", "us": "gpm; ft; A"}


def sign_of(column: Column, system: System) -> str:
    """Unit in which a list of a system writes a column; empty for words."""
    if column.key == POINTS:
        return _POINT_UNITS[system]
    if not column.kind:
        return ""
    kind = KINDS[column.kind]
    return kind.us_sign if system == "us" else kind.metric_sign


def heading(column: Column, system: System) -> str:
    """A column's heading: its name, and its unit in brackets."""
    sign, name = sign_of(column, system), str(column.name)
    name = name[:1].upper() + name[1:]
    return f"{name} [{sign}]" if sign else name


def cell(column: Column, value: float | str, system: System) -> str:
    """A figure in a list of a system: the number alone, its unit stands in the heading."""
    if isinstance(value, str):
        return _points_in(value, system) if column.key == POINTS else value
    kind = KINDS[column.kind]
    factor, offset = scale(column.kind, kind.us if system == "us" else kind.metric)
    return f"{value * column.si * factor + offset:.7g}"


def _points_in(points: str, system: System) -> str:
    if system == "metric":
        return points
    (flow, _), (head, _) = scale("flow", KINDS["flow"].us), scale("head", KINDS["head"].us)
    found = []
    for point in points.split(";"):
        q, h, *amps = point.split()
        found.append(" ".join([f"{float(q) / 60_000.0 * flow:.7g}", f"{float(h) * head:.7g}", *amps]))
    return "; ".join(found)


def fresh_id(name: str, taken: Iterable[str]) -> str:
    """An identifier made of a name, and none that is taken.

    Examples
    --------
    >>> fresh_id("Old Bilge 12", {"my-old-bilge-12"})
    'my-old-bilge-12-2'
    """
    plain = re.sub(r"[^a-z0-9]+", "-", name.casefold()).strip("-")[:28] or "part"
    found, number, known = f"my-{plain}", 1, set(taken)
    while found in known:
        number += 1
        found = f"my-{plain}-{number}"
    return found


def with_heads_unit(column: Column, text: str, sign: str) -> str:
    """A cell's text with the unit of its heading, where it has none of its own; decimal commas stay.

    Raises
    ------
    BadQuantity
        If it is no number.
    """
    body = text.strip()
    if not body or (not column.kind and column.key != POINTS):
        return body
    if column.key == "price":
        return re.sub(r"^[A-Z]{3}\s*|\s*[A-Z]{3}$", "", body)
    if column.key == POINTS:
        if "gpm" in sign and not re.search(r"[a-zA-Z]", body):
            flows = [point.split() for point in body.split(";")]
            return "; ".join(
                f"{q[0]} gpm at {q[1]} ft" + (f", {q[2]} A" if len(q) > 2 else "") for q in flows if len(q) > 1
            )
        return body
    if not is_bare(body):
        return body
    number = read_number(body)
    kind = KINDS[column.kind]
    if not sign or sign == kind.metric_sign:
        return f"{number:.12g} {kind.metric_sign}".strip() if column.kind != "per-kelvin" else f"{number:.12g}"
    return f"{number:.12g} {sign}"


def changes_of(kind: Family, before: ShelfPart, after: ShelfPart) -> tuple[tuple[Spoken, str, str], ...]:
    """What a part would change: the figure's name, what was, what would be."""
    found: list[tuple[Spoken, str, str]] = []
    for column in kind.whole:
        was, will = (part.figures[column.key].value if column.key in part.figures else "" for part in (before, after))
        if not _same(was, will, points=column.key == POINTS):
            said = [cell(column, value, voice().units) if value != "" else "" for value in (was, will)]
            found.append((column.name, said[0], said[1]))
    if before.note != after.note:
        found.append((NOTE, before.note, after.note))
    return tuple(found)


def _same(was: float | str, will: float | str, *, points: bool) -> bool:
    """Whether two figures are one, but for the rounding of a list."""
    if points and was and will:
        pairs = [re.split(r"[;\s]+", str(value).strip()) for value in (was, will)]
        return len(pairs[0]) == len(pairs[1]) and all(
            _same(float(a), float(b), points=False) for a, b in zip(*pairs, strict=True)
        )
    if isinstance(was, str) or isinstance(will, str):
        return was == will
    return abs(was - will) <= 2e-6 * max(abs(was), abs(will))
