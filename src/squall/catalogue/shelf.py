"""A person's own parts: what was typed of each, what is guessed, what is odd, and the part that it makes."""

import itertools
import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from squall.catalogue.families import FAMILIES, Column, Family
from squall.catalogue.guesses import fill, points_of
from squall.catalogue.makers import LITRES_PER_MIN, Row, lamps_of
from squall.core.electrics.conductors import find_conductor
from squall.core.errors import BadQuantity, OutOfRange, SquallError, UnknownPart
from squall.core.reason import Spoken
from squall.words import later
from squall.words.units import System, parse, text

LONGEST = 120
_LONG = {"points_l_min_m_a": 800, "lamps": 800, "stall": 400, "inputs": 400, "source": 200}
# Volts of each cell of silicon, open: what a label may come to.
_LEAST_CELL_V, _MOST_CELL_V = 0.45, 0.80
_POINTS = "points_l_min_m_a"


class BadFigures(SquallError):
    """Figures of a part that can't be read or can't be: a sentence for each, by column."""

    def __init__(self, problems: Mapping[str, Spoken]) -> None:
        self.problems = dict(problems)
        super().__init__(next(iter(self.problems.values())))


@dataclass(frozen=True)
class Written:
    """One figure: as typed, and in its column's unit (or as words)."""

    typed: str
    value: float | str


@dataclass(frozen=True)
class ShelfPart:
    """One part of a person's own.

    Attributes
    ----------
    id, family : str
        What it is called by, and the key of its family.
    figures : mapping
        What was typed, by column.
    note : str
        Free words.
    on : str
        Day of the last change, which is the day of its price.
    """

    id: str
    family: str
    figures: Mapping[str, Written]
    note: str = ""
    on: str = ""

    @property
    def kind(self) -> Family:
        """Its family."""
        return family(self.family)

    @property
    def name(self) -> str:
        """As typed."""
        written = self.figures.get("name")
        return "" if written is None else str(written.value)

    @cached_property
    def filled(self) -> tuple[dict[str, float | str], dict[str, Spoken]]:
        """All its figures, each in its column's unit, and the rule of those that are guessed."""
        return fill(self.family, {key: written.value for key, written in self.figures.items()})

    @cached_property
    def row(self) -> Row:
        """Its whole row, as a file of the catalogue has it."""
        figures, guessed = self.filled
        return {key: _plain(value) for key, value in figures.items()} | {"id": self.id, "guessed": " ".join(guessed)}

    @cached_property
    def part(self) -> Any:
        """The part that it makes.

        Raises
        ------
        SquallError
            If its figures contradict one another.
        """
        return self.kind.make(self.row)


def family(key: str) -> Family:
    """The family of a key.

    Raises
    ------
    UnknownPart
        If there is none.
    """
    if key not in FAMILIES:
        raise UnknownPart(later("There is no family of parts called {key:quoted}.", key=key[:40]))
    return FAMILIES[key]


def _plain(value: float | str) -> str:
    return value if isinstance(value, str) else f"{value:.12g}"


def written_part(
    part_id: str, family_key: str, typed: Mapping[str, str], system: System, note: str = "", on: str = ""
) -> ShelfPart:
    """A part from what was typed of it, one text a column.

    Parameters
    ----------
    part_id : str
        What it shall be called by.
    family_key : str
        Its family.
    typed : mapping
        Text by column; empty ones are not known.
    system : str
        Units of bare numbers.
    note, on : str
        Free words; the day.

    Raises
    ------
    BadFigures
        With a sentence for every figure that can't be read, or for what contradicts something.
    """
    kind = family(family_key)
    figures: dict[str, Written] = {}
    problems: dict[str, Spoken] = {}
    for column in kind.whole:
        body = typed.get(column.key, "").strip()
        if not body:
            if column.needed:
                problems[column.key] = later("{name} is needed: nothing can stand for it.", name=column.name)
            continue
        try:
            figures[column.key] = read_figure(column, body, system)
        except SquallError as error:
            problems[column.key] = error.said
    if not problems:
        problems.update(_impossible(kind, figures))
    made = ShelfPart(part_id, family_key, figures, note.strip()[:2000], on)
    if not problems:
        try:
            _ = made.part
        except SquallError as error:
            problems[_blamed(kind)] = error.said
    if problems:
        raise BadFigures(problems)
    return made


def _blamed(kind: Family) -> str:
    return {"pumps": _POINTS, "panels": "vmp_v"}.get(kind.key, "name")


def read_figure(column: Column, body: str, system: System) -> Written:
    """One figure from its text.

    Raises
    ------
    BadQuantity, OutOfRange
        A sentence for beside it.
    """
    most = _LONG.get(column.key, LONGEST)
    if len(body) > most:
        raise BadQuantity(
            later("{name}: {n} letters; at most {most} are kept.", name=column.name, n=len(body), most=most)
        )
    if column.key == _POINTS:
        return Written(body, read_points(body, system))
    if column.choices is not None:
        return Written(body, _choice(column, body))
    if column.key == "lamps":
        lamps_of(body)
    if not column.kind:
        return Written(body, body)
    value = parse(body, column.kind, system)
    if not column.low <= value <= column.high:
        span = later(
            "{low} to {high}", low=text(column.low, column.kind, system), high=text(column.high, column.kind, system)
        )
        raise OutOfRange(column.name, body, span)
    return Written(body, value / column.si)


def _choice(column: Column, body: str) -> str:
    assert column.choices is not None
    for key, words in column.choices.items():
        if body.casefold() in (key.casefold(), str(words).casefold()):
            return key
    raise BadQuantity(
        later(
            "{name}: {body:quoted} is not one of {choices}.",
            name=column.name,
            body=body[:40],
            choices=", ".join(column.choices),
        )
    )


# A comma within a number is its decimal point.
_BETWEEN = re.compile(r"\s*(?:\bat\b|,(?!\d)|@)\s*")


def read_points(body: str, system: System) -> str:
    """Typed points as a row keeps them: ``12 L/min at 6 m, 4.2 A; 0 at 9 m``, or bare figures in a person's own units.

    Returns
    -------
    str
        ``flow head amps`` each in [L/min], [m], [A], parted by semicolons.

    Raises
    ------
    BadQuantity
        If one can't be read.

    Examples
    --------
    >>> read_points("2.5 gpm at 60 ft, 5 A", "us")
    '9.46352946 18.288 5'
    """
    found = []
    for point in re.split(r"[;\n]", body):
        if not point.strip():
            continue
        pieces = [piece for piece in _BETWEEN.split(point.strip()) if piece]
        if len(pieces) == 1 and not re.search(r"[^\d.\s-]", point):
            pieces = point.split()
        if len(pieces) not in (2, 3):
            raise BadQuantity(
                later("{point:quoted}: a point is a flow, a height and, if they were read, amps, such as {example}.",
                      point=point.strip()[:40], example=_EXAMPLE[system])
            )  # fmt: skip
        flow, head = parse(pieces[0], "flow", system) / LITRES_PER_MIN, parse(pieces[1], "head", system)
        amps = parse(pieces[2], "amps", system) if len(pieces) == 3 else None
        if not (0.0 <= flow <= 5000.0 and 0.0 <= head <= 300.0 and (amps is None or 0.0 < amps <= 400.0)):
            raise BadQuantity(
                later(
                    "{point:quoted} is no point of a small pump: its figures are too large, or under nothing.",
                    point=point.strip()[:40],
                )
            )
        found.append(" ".join(f"{value:.9g}" for value in (flow, head, amps) if value is not None))
    if not found or len(found) > 20:
        raise BadQuantity(later("1 to 20 points are wanted, parted by semicolons."))
    points_of("; ".join(found))
    return "; ".join(found)


_EXAMPLE = {"metric": "12 L/min at 6 m, 4.2 A", "us": "3 gpm at 20 ft, 4.2 A"}


def _impossible(kind: Family, figures: Mapping[str, Written]) -> dict[str, Spoken]:
    """What no part of the family can be, by the column to blame."""

    def number(key: str) -> float | None:
        written = figures.get(key)
        return None if written is None or isinstance(written.value, str) else written.value

    found: dict[str, Spoken] = {}
    ordered = ("min_v", "least_v", "best_from_v", "best_to_v", "max_v")
    known = [(key, value) for key in ordered if (value := number(key)) is not None]
    for (low_key, low), (high_key, high) in itertools.pairwise(known):
        if low >= high:
            low_column, high_column = kind.column(low_key), kind.column(high_key)
            assert low_column is not None
            assert high_column is not None
            found[high_key] = later("{high_name} ({high:volts}) must be above {low_name} ({low:volts}).",
                                    high_name=high_column.name, high=high, low_name=low_column.name, low=low)  # fmt: skip
    rated, most = number("rated_v"), number("max_v")
    if kind.key == "pumps" and rated is not None and most is not None and most < rated:
        found["max_v"] = later(
            "Most volts ({most:volts}) can't be under those on its label ({rated:volts}).", most=most, rated=rated
        )
    open_v, cells = number("voc_v"), number("cells")
    if open_v is not None and cells is not None and not _LEAST_CELL_V <= open_v / cells <= _MOST_CELL_V:
        found["cells"] = later(
            "{open_v:volts} open over {cells:number} cells is {each:volts} a cell; silicon gives {least:volts} to {most:volts}: a panel of 12 V by name has 32 to 40 cells, one of 60 cells stands at about 38 V open.",
            open_v=open_v, cells=cells, each=open_v / cells, least=_LEAST_CELL_V, most=_MOST_CELL_V,
        )  # fmt: skip
    if kind.key == "cables" and "size" in figures:
        try:
            find_conductor(str(figures["size"].value), "metric")
        except OutOfRange as error:
            found["size"] = error.said
    working = number("vmp_v")
    if open_v is not None and working is not None and working >= open_v:
        found["vmp_v"] = later(
            "Working volts ({working:volts}) are always under the open volts ({open_v:volts}): are the two swapped?",
            working=working,
            open_v=open_v,
        )
    short, best = number("isc_a"), number("imp_a")
    if short is not None and best is not None and best >= short:
        found["imp_a"] = later(
            "Working amps ({best:amps}) are always under the short-circuit amps ({short:amps}): are the two swapped?",
            best=best,
            short=short,
        )
    if kind.key == "panels" and all(number(key) is None for key in ("watts", "isc_a", "imp_a")):
        found["watts"] = later("A panel needs its watts, or its amps.")
    if cells is not None and cells != round(cells):
        found["cells"] = later("Cells are counted: a whole number is wanted.")
    return found


def odd(part: ShelfPart) -> list[Spoken]:
    """What is not impossible but should be looked at once more."""
    figures, _ = part.filled
    found: list[Spoken] = []

    def number(key: str) -> float | None:
        value = figures.get(key)
        return value if isinstance(value, float | int) else None

    watts, volts, amps = number("watts"), number("vmp_v"), number("imp_a")
    if watts and volts and amps and abs(volts * amps / watts - 1.0) > 0.05:
        found.append(
            later(
                "Working volts times working amps are {made:watts}, the label says {watts:watts}: read all three once more.",
                made=volts * amps,
                watts=watts,
            )
        )
    open_v = number("voc_v")
    if open_v and volts and not 0.72 <= volts / open_v <= 0.88:
        found.append(
            later(
                "Working volts are {share:share} of the open ones; most panels have 78 to 85 %.", share=volts / open_v
            )
        )
    rated, label_w, flow, head = (number(key) for key in ("rated_v", "label_w", "label_flow_l_min", "label_head_m"))
    if label_w and flow and head and flow * LITRES_PER_MIN * head * 9807.0 > 2.0 * label_w:
        found.append(
            later(
                "Its flow and its height together would need more watts than its label has: nobody gets both at once, but these are far apart."
            )
        )
    if rated and rated not in (6.0, 12.0, 24.0, 36.0, 48.0, 60.0, 72.0):
        found.append(
            later("{rated:volts} on the label is unusual; most pumps of this kind say 12, 24 or 48 V.", rated=rated)
        )
    out, low = number("out_max_v"), number("min_v")
    if part.family == "pump-controllers" and out and low and low > out * 1.6:
        found.append(
            later(
                "It starts at {low:volts} but gives {out:volts} at most: is the one the panels' and the other the pump's?",
                low=low,
                out=out,
            )
        )
    if part.family == "batteries" and (nominal := number("nominal_v")) and nominal not in (6.0, 12.0, 24.0, 36.0, 48.0):
        found.append(later("{nominal:volts} is an unusual name of a battery's volts.", nominal=nominal))
    return found
