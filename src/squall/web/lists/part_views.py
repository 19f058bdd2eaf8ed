"""Parts as their pages show them: figures in the reader's units, what is guessed and by which rule, where a part is used."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from sqlite3 import Connection
from typing import Any

import numpy as np

from squall.catalogue.families import FAMILIES, Column, Family
from squall.catalogue.held import shipped_parts, shipped_row
from squall.catalogue.shelf import ShelfPart, odd
from squall.core.electrics.modules import Module, diode_at
from squall.core.errors import SquallError
from squall.core.kit.parts import Panel, Pump
from squall.core.reason import Spoken
from squall.formats.parts.cells import POINTS
from squall.store.jobs import all_jobs
from squall.store.shelf import counts_in_van, hidden_parts, on_shelf
from squall.web.frame.pages import chart_number
from squall.words import later, say, say_n
from squall.words.figures import figure_names
from squall.words.forms import own_sizes
from squall.words.units import number_text, shown, text

# Families whose parts are carried in a van; hose and cable are cut for a job.
CARRIED = tuple(key for key in FAMILIES if key not in ("cables", "hoses"))


@dataclass(frozen=True)
class PartView:
    """One part in a list.

    Attributes
    ----------
    part : ShelfPart
        Its figures.
    own, hidden : bool
        Whether it is a person's own; whether the ranking leaves it out.
    count : int
        How many are in the van.
    cells : tuple[str, ...]
        Its label's figures as the reader sees them.
    guessed : tuple[str, ...]
        Columns of the figures that nobody stated.
    problem : Spoken
        Why it makes no part any more, if so.
    """

    part: ShelfPart
    own: bool
    hidden: bool
    count: int
    cells: tuple[str, ...]
    guessed: tuple[str, ...]
    problem: Spoken = ""

    @property
    def guessed_words(self) -> str:
        """The figures that nobody stated, in few words."""
        if len(self.guessed) <= _MOST_NAMED:
            return figure_names(self.guessed)
        return say_n(
            "{named} and one more",
            "{named} and {n} more",
            len(self.guessed) - _MOST_NAMED,
            named=figure_names(self.guessed[:_MOST_NAMED]),
        )


# A pump's list has the ends of its curve in place of its points.
_ENDS = (Column("most_flow", "flow"), Column("most_head", "head"))
_NOT_LISTED = ("name", "maker", POINTS, "label_flow_l_min", "label_head_m", "label_w", "max_fuse_a")


def columns_of(kind: Family) -> tuple[Column, ...]:
    """Columns of a family's list: what its label states, and the price."""
    found = [c for c in kind.whole if c.label and c.key not in _NOT_LISTED]
    if kind.key == "pumps":
        found[-1:-1] = _ENDS
    return tuple(found)


def _with_ends(values: dict[str, float | str]) -> dict[str, float | str]:
    """Figures with what follows from others: a panel's watts, the ends of a pump's curve."""
    volts, amps = values.get("vmp_v"), values.get("imp_a")
    if "watts" not in values and isinstance(volts, float) and isinstance(amps, float):
        return values | {"watts": volts * amps}
    if not values.get(POINTS):
        return values
    points = [[float(figure) for figure in point.split()] for point in str(values[POINTS]).split(";")]
    return values | {
        "most_flow": max(point[0] for point in points) / 60_000.0,
        "most_head": max(point[1] for point in points),
    }


def shown_cell(column: Column, value: float | str | None) -> str:
    """A figure in the reader's units; empty where it isn't known."""
    if value is None or value == "":
        return ""
    if column.key == POINTS:
        return shown_points(str(value))
    if isinstance(value, str):
        return own_sizes(str(column.choices[value])) if column.choices and value in column.choices else own_sizes(value)
    if column.kind == "per-kelvin":
        return f"{number_text(value)}\u00a0%/K"
    if column.kind == "number":
        return number_text(value * column.si)
    return text(value * column.si, column.kind)


def shown_points(points: str) -> str:
    """Measured points in the reader's units."""
    found = []
    for point in points.split(";"):
        flow, head, *amps = (float(figure) for figure in point.split())
        said = [text(flow / 60_000.0, "flow"), say("at {head:head}", head=head)]
        found.append(" ".join(said) + (f", {text(amps[0], 'amps')}" if amps else ""))
    return "; ".join(found)


def heading_of(column: Column) -> str:
    """A column's name with the unit in which a bare number is read."""
    if column.key == POINTS:
        return say(
            "Points: flow [{flow}], head [{head}], amps [A]", flow=shown(0.0, "flow")[1], head=shown(0.0, "head")[1]
        )
    said = str(column.name)
    return said[:1].upper() + said[1:]


def _values(part: ShelfPart, own: bool) -> tuple[dict[str, float | str], tuple[str, ...], Spoken]:
    """Figures of a part, guessed ones too; names of the guessed; what is wrong."""
    known: dict[str, float | str] = {key: written.value for key, written in part.figures.items()}
    try:
        if own:
            figures, guessed = part.filled
            _ = part.part
            return _with_ends(dict(figures)), _told_first(key for key in guessed if key != "maker"), ""
    except SquallError as error:
        return known, (), error.said
    found = shipped_row(part.id)
    row = {} if found is None else found[1]
    for column in part.kind.whole:
        if row.get(column.key):
            known[column.key] = float(row[column.key]) if column.kind else row[column.key]
    return _with_ends(known), _told_first(row.get("guessed", "").split()), ""


# What matters most of what is guessed is told first, and no more than so many by name.
_FIRST = ("curve", "current", "price", "efficiency", "rating_v", "rated_head_m", "voc_v", "isc_a")
_MOST_NAMED = 4


def _told_first(guessed: Iterable[str]) -> tuple[str, ...]:
    return tuple(sorted(guessed, key=lambda key: _FIRST.index(key) if key in _FIRST else len(_FIRST)))


def views_of(conn: Connection, kind: Family) -> list[PartView]:
    """All parts of a family, a person's own first."""
    hidden, counts = hidden_parts(conn), counts_in_van(conn)
    mine = [part for part in on_shelf(conn).values() if part.family == kind.key]
    found = []
    for part, own in [*((part, True) for part in mine), *((part, False) for part in shipped_parts(kind.key))]:
        values, guessed, problem = _values(part, own)
        cells = tuple(shown_cell(column, values.get(column.key)) for column in columns_of(kind))
        found.append(PartView(part, own, part.id in hidden, counts.get(part.id, 0), cells, guessed, problem))
    return found


def sorted_by(views: list[PartView], kind: Family, key: str) -> list[PartView]:
    """Views by one column, those that lack it last."""
    if key not in {column.key for column in (*kind.whole, *columns_of(kind))}:
        return views

    def place(view: PartView) -> tuple[bool, float, str]:
        value = _values(view.part, view.own)[0].get(key)
        if isinstance(value, float | int):
            return False, float(value), ""
        return value is None, 0.0, str(value or "").casefold()

    return sorted(views, key=place)


def admitted(views: Iterable[PartView], words: str, volts: str, whose: str) -> list[PartView]:
    """Views whose words, volts by name and owner are asked for."""

    def fits(view: PartView) -> bool:
        said = " ".join((view.part.id, *(str(w.value) for w in view.part.figures.values()))).casefold()
        if not all(word in said for word in words.casefold().split()):
            return False
        by_name = [view.part.figures[key].value for key in ("rated_v", "nominal_v") if key in view.part.figures]
        if volts and by_name and f"{by_name[0]:g}" != volts:
            return False
        return not (whose == "mine" and not view.own) and not (whose == "van" and not view.count)

    return [view for view in views if fits(view)]


@dataclass(frozen=True)
class FigureView:
    """One figure on a part's page: its name, the figure, and the rule where it is guessed."""

    name: str
    value: str
    rule: Spoken = ""


def figures_of(part: ShelfPart, own: bool) -> list[FigureView]:
    """All figures of a part, what its label states first."""
    values, _, _ = _values(part, own)
    rules: Mapping[str, Spoken] = {}
    if own:
        try:
            rules = part.filled[1]
        except SquallError:
            rules = {}
    else:
        row = shipped_row(part.id)
        rules = {key: later("by its maker's other figures") for key in (row[1]["guessed"].split() if row else ())}
    found = []
    for column in part.kind.whole:
        if column.key in ("name", "maker") or values.get(column.key) in (None, ""):
            continue
        rule = rules.get(column.key, rules.get("curve", "") if column.key == POINTS else "")
        found.append(FigureView(heading_of(column), shown_cell(column, values[column.key]), rule))
    return found


def part_chart(part: Any) -> dict[str, Any] | None:
    """A pump's curve, or a panel's amps over volts at three lights; None for other parts."""
    if isinstance(part, Pump):
        points = sorted((q, h) for q, h, _ in part.motor.points)
        flow, head = shown(0, "flow")[1], shown(0, "head")[1]
        return {
            "type": "part", "x": say("flow, {unit}", unit=flow), "y": say("head, {unit}", unit=head),
            "names": [say("at {volts:volts}", volts=part.motor.rated_v)],
            "lanes": [[[chart_number(q, "flow"), chart_number(h, "head")] for q, h in points]],
        }  # fmt: skip
    if isinstance(part, Panel):
        return {
            "type": "part", "x": say("volts, V"), "y": say("amps, A"),
            "names": [say("{light:irradiance}, cells at {cell:temperature}", light=light, cell=25.0) for light in _LIGHTS],
            "lanes": [_iv(part.module, light) for light in _LIGHTS],
        }  # fmt: skip
    return None


_LIGHTS = (1000.0, 500.0, 200.0)


def _iv(module: Module, light_w_m2: float) -> list[list[float]]:
    """Amps over volts of a panel at a light and 25 °C."""
    from pvlib.pvsystem import i_from_v, v_from_i

    d = diode_at(module, np.array([light_w_m2]), np.array([25.0]))
    named = (
        float(d.light_current_a[0]),
        float(d.saturation_current_a[0]),
        float(d.series_ohm[0]),
        float(d.shunt_ohm[0]),
        float(d.ideality_v[0]),
    )
    most = float(v_from_i(0.0, *named))
    volts = np.linspace(0.0, most, 41)
    return [[round(float(v), 3), round(float(a), 3)] for v, a in zip(volts, i_from_v(volts, *named), strict=True)]


def jobs_with(conn: Connection, part_id: str) -> list[tuple[int, str, bool]]:
    """Jobs that use a part: number, name, and whether their copy is another than the shelf's now."""
    shelf = on_shelf(conn).get(part_id)
    found = []
    for stored in all_jobs(conn):
        if part_id in stored.job.used_parts:
            copy = next((copy for copy in stored.job.parts if copy.id == part_id), None)
            differs = shelf is not None and copy is not None and copy.row != shelf.row
            found.append((stored.id, stored.job.name, differs))
    return found


def oddities(part: ShelfPart) -> list[Spoken]:
    """What should be looked at once more; nothing of a part that makes none."""
    try:
        return odd(part)
    except SquallError:
        return []
