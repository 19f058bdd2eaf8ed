"""What stands for the figures that no label states, each by a rule that is told: common practice, no source, unless one is named.

A rule reads the figures that are known, each in its column's unit, and answers the missing one or None. What it answers is
marked as guessed wherever the part is shown.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from math import pi

from squall.catalogue.makers import LITRES_PER_MIN
from squall.core.drive.known_pumps import (
    LEAST_BUCKET_BAND,
    BucketTest,
    KnownPump,
    curve_from_label,
    curve_from_one,
    motor_of,
)
from squall.core.drive.motors import Kind, Motor
from squall.core.electrics.protection import next_rating
from squall.core.errors import BadQuantity
from squall.core.hydraulics.curves import check_curve
from squall.core.hydraulics.joints import trade_inches
from squall.core.reason import Spoken
from squall.words import later

Known = Mapping[str, float | str]
# Typed points: flow [L/min], head [m], amps [A] where they were read.
Points = tuple[tuple[float, float, float | None], ...]


@dataclass(frozen=True)
class Guess:
    """A rule for one figure: its column, the rule in words, the rule itself."""

    column: str
    words: Spoken
    work: Callable[[Known], float | str | None]


def _number(known: Known, *columns: str) -> list[float] | None:
    """Figures of some columns, None unless all are known."""
    found = [known[column] for column in columns if isinstance(known.get(column), float | int)]
    return [float(value) for value in found] if len(found) == len(columns) else None


def _times(column: str, factor: float) -> Callable[[Known], float | None]:
    def work(known: Known) -> float | None:
        found = _number(known, column)
        return None if found is None else factor * found[0]

    return work


def _over(above: str, below: str) -> Callable[[Known], float | None]:
    def work(known: Known) -> float | None:
        found = _number(known, above, below)
        return None if found is None or found[1] <= 0.0 else found[0] / found[1]

    return work


def _always(value: float | str) -> Callable[[Known], float | str]:
    return lambda known: value


def _by(column: str, table: Mapping[str, float | str], other: float | str) -> Callable[[Known], float | str]:
    return lambda known: table.get(str(known.get(column)), other)


_CELL_V, _USUAL_CELLS = 0.63, (32.0, 33.0, 36.0, 40.0, 48.0, 50.0, 54.0, 60.0, 66.0, 72.0, 78.0, 84.0, 96.0)


def _cells(known: Known) -> float | None:
    found = _number(known, "voc_v")
    if found is None:
        return None
    wanted = found[0] / _CELL_V
    return min(_USUAL_CELLS, key=lambda n: abs(n - wanted)) if wanted > 30.0 else float(max(round(wanted), 1))


def _string_fuse(known: Known) -> float | None:
    found = _number(known, "isc_a")
    return None if found is None else next_rating("fuse", 1.5625 * found[0])


_LEAD = ("lead-acid (sealed)", "lead-acid (flooded)")


def _is_lead(known: Known) -> bool:
    return str(known.get("chemistry")) in _LEAD


def _rest_volts(known: Known) -> float | None:
    found = _number(known, "nominal_v")
    return None if found is None else found[0] / 12.0 * (12.5 if _is_lead(known) else 13.2)


def _inner_ohm(known: Known) -> float | None:
    found = _number(known, "nominal_v", "capacity_ah")
    return None if found is None else 0.5 / found[1] * found[0] / 12.0


def _battery_mass(known: Known) -> float | None:
    found = _number(known, "nominal_v", "capacity_ah")
    return None if found is None else found[1] * found[0] / 12.0 * (0.29 if _is_lead(known) else 0.12)


def _hose_name(known: Known) -> str | None:
    found = _number(known, "inner_diameter_mm")
    return None if found is None else f"{found[0]:.0f} mm ({trade_inches(found[0] / 1000.0)} in)"


def _tank_depth(known: Known) -> float | None:
    found = _number(known, "litres")
    return None if found is None else 0.95 * (found[0] / 1000.0) ** (1.0 / 3.0)


def _hose_mass(known: Known) -> float | None:
    found = _number(known, "inner_diameter_mm")
    return None if found is None else 950.0 * pi * found[0] / 1000.0 * 0.0025


GUESSES: Mapping[str, tuple[Guess, ...]] = {
    "panels": (
        Guess("vmp_v", later("0.82 of the open volts"), _times("voc_v", 0.82)),
        Guess("imp_a", later("watts over working volts"), _over("watts", "vmp_v")),
        Guess("imp_a", later("the short-circuit amps over 1.06"), _times("isc_a", 1 / 1.06)),
        Guess("isc_a", later("1.06 times the working amps"), _times("imp_a", 1.06)),
        Guess("cells", later("0.63 V open of each cell, the nearest usual count"), _cells),
        Guess("max_series_fuse_a", later("the next fuse from 1.56 times the short-circuit amps up"), _string_fuse),
        Guess("voc_percent_per_k", later("-0.3 % a kelvin, as silicon has it"), _always(-0.3)),
        Guess("isc_percent_per_k", later("0.05 % a kelvin, as silicon has it"), _always(0.05)),
        Guess("area_m2", later("200 W on a square metre"), lambda known: _product(known, "vmp_v", "imp_a", 1 / 200.0)),
        Guess("mass_kg", later("12 kg a square metre"), _times("area_m2", 12.0)),
    ),
    "pump-controllers": (
        Guess("efficiency", later("0.92: what it gives over what it takes"), _always(0.92)),
        Guess("own_a", later("0.02 A, day and night"), _always(0.02)),
    ),
    "chargers": (
        Guess("efficiency", later("0.95 where it tracks, 0.98 where it switches"), _by("kind", {"charge-tracking": 0.95}, 0.98)),
        Guess("own_a", later("0.02 A, day and night"), _always(0.02)),
    ),
    "batteries": (
        Guess("open_v", later("12.5 V of lead, 13.2 V of lithium iron phosphate, for each 12 V of its name"), _rest_volts),
        Guess("internal_ohm", later("0.5 ohm over its Ah for each 12 V: 10 mohm of 50 Ah"), _inner_ohm),
        Guess("usable", later("half of lead, 0.85 of lithium"), _by("chemistry", dict.fromkeys(_LEAD, 0.5), 0.85)),
        Guess("charge_efficiency", later("0.85 of lead, 0.97 of lithium"), _by("chemistry", dict.fromkeys(_LEAD, 0.85), 0.97)),
        Guess("mass_kg", later("0.29 kg an Ah of 12 V lead, 0.12 of lithium"), _battery_mass),
    ),
    "hoses": (
        Guess("nominal", later("its inner diameter, and the nearest trade size in inches"), _hose_name),
        Guess("roughness_mm", later("0.007 mm smooth, 0.15 layflat"), _by("kind", {"layflat": 0.15}, 0.007)),
        Guess("rated_head_m", later("40 m, for want of a mark: read it off the hose"), _always(40.0)),
        Guess("mass_kg", later("a wall of 2.5 mm of polyethylene"), _hose_mass),
    ),
    "tanks": (Guess("depth_m", later("about as deep as wide: 0.95 of the cube root of what it holds"), _tank_depth),),
    "switches": (Guess("rating_v", later("30 V, for want of a mark: most are made for less than a string's volts"), _always(30.0)),),
    "fuses": (Guess("rating_v", later("32 V, as blade fuses are marked at the least"), _always(32.0)),),
    "pumps": (
        Guess("brushed", later("yes: the one that wears sooner"), _always("yes")),
        Guess("life_h", later("750 h with brushes, 6000 h without"), _by("brushed", {"no": 6000.0}, 750.0)),
        Guess("barb_mm", later("19 mm"), _always(19.0)),
        Guess("passes_mm", later("1 mm"), _always(1.0)),
        Guess("npsh_required_m", later("3 m"), _always(3.0)),
        Guess("self_priming", later("diaphragm and piston ends do"), _by("end", {"diaphragm": "yes", "piston": "yes"}, "no")),
    ),
}  # fmt: skip
_COMMON = (
    Guess("maker", later("not named"), _always("")),
    Guess("mass_kg", later("1 kg, for want of a scale"), _always(1.0)),
    Guess("price", later("no price yet: it is left out of the ranking until it has one"), _always(0.0)),
)


def _product(known: Known, one: str, other: str, times: float) -> float | None:
    found = _number(known, one, other)
    return None if found is None else found[0] * found[1] * times


def fill(family: str, known: Known) -> tuple[dict[str, float | str], dict[str, Spoken]]:
    """The figures of a part with what can be guessed put in, and the rule of each guess by its column.

    Parameters
    ----------
    family : str
        Key of the family.
    known : mapping
        Figure by column, in the column's unit; points as text. [column's unit]

    Raises
    ------
    SquallError
        If a pump's points make no curve.
    """
    found: dict[str, float | str] = dict(known)
    by: dict[str, Spoken] = {}
    for guess in (*GUESSES.get(family, ()), *_COMMON):
        if guess.column in found:
            continue
        value = guess.work(found)
        if value is not None:
            found[guess.column] = value
            by[guess.column] = guess.words
    if family == "pumps":
        _fill_pump(found, by)
    return found, by


def points_of(text: str) -> Points:
    """Points of a row: ``flow head amps`` each [L/min], [m], [A], parted by semicolons; amps may be missing.

    Examples
    --------
    >>> points_of("12 6 4.2; 0 9")
    ((12.0, 6.0, 4.2), (0.0, 9.0, None))
    """
    found = []
    for point in text.split(";"):
        figures = [float(figure) for figure in point.split()]
        if len(figures) not in (2, 3):
            raise BadQuantity(
                later(
                    "A point is a flow, a head and, if they were read, amps; {point:quoted} is none.", point=point[:40]
                )
            )
        found.append((figures[0], figures[1], figures[2] if len(figures) == 3 else None))
    return tuple(found)


def _fill_pump(found: dict[str, float | str], by: dict[str, Spoken]) -> None:
    """A pump's curve, amps and winding from what is known of it."""
    kind: Kind = "centrifugal" if found.get("end") == "centrifugal" else "displacement"
    found["drive"] = kind
    points = points_of(str(found["points_l_min_m_a"])) if found.get("points_l_min_m_a") else ()
    known, words = _curve(points, kind, found)
    if words is not None:
        by["curve"] = words
    tests = [BucketTest(q * LITRES_PER_MIN, h, a) for q, h, a in points]
    read = [a for _, _, a in points if a is not None]
    volts = float(found["rated_v"])
    if "label_w" not in found:
        if not read:
            raise BadQuantity(
                later(
                    "A pump needs the watts on its label, or the amps of a measured point: its fuse and cable hang on them."
                )
            )
        found["label_w"] = volts * max(read)
        by["label_w"] = later("its volts times the most amps that were read")
    most = float(found["max_v"]) if "max_v" in found else None
    motor = motor_of(known, kind, volts, float(found["label_w"]), tests, most)
    if len(read) == len(points) >= 2 and len(known.points) == len(points):
        motor = _as_measured(points, motor)
    else:
        by["current"] = later("from watts over volts, or the amps that were read, less at low flow")
    for column, value in (("resistance_ohm", motor.resistance_ohm), ("no_load_a", motor.no_load_a)):
        if column not in found:
            found[column] = value
            by[column] = later("winding a tenth of volts over amps, running free a fifth of the amps")
    if "locked_rotor_a" not in found:
        found["locked_rotor_a"] = volts / float(found["resistance_ohm"])
        by["locked_rotor_a"] = later("volts over the winding's resistance")
    found["points_l_min_m_a"] = "; ".join(f"{q / LITRES_PER_MIN:.9g} {h:.9g} {a:.9g}" for q, h, a in motor.points)
    if known.band > LEAST_BUCKET_BAND:
        found["band"] = known.band


def _as_measured(points: Points, motor: Motor) -> Motor:
    """The motor through its own measured points, amps and all."""
    measured = tuple(
        (q * LITRES_PER_MIN, h, 0.0 if a is None else a) for q, h, a in sorted(points, key=lambda p: (p[0], -p[1]))
    )
    return Motor(motor.kind, motor.rated_v, measured, motor.resistance_ohm, min(motor.no_load_a, 0.9 * min(a for _, _, a in measured)),
                 motor.max_v)  # fmt: skip


def _curve(points: Points, kind: Kind, found: Known) -> tuple[KnownPump, Spoken | None]:
    """A pump's curve by its points, by one point, or by its label; and the rule, where it is guessed."""
    label = _number(found, "label_head_m")
    top = None if label is None else label[0]
    if len(points) >= 2:
        ordered = tuple(sorted((q * LITRES_PER_MIN, h) for q, h, _ in points))
        check_curve(ordered)
        return KnownPump(ordered, 0.0, LEAST_BUCKET_BAND), None
    if points:
        flow, height, _ = points[0]
        known = curve_from_one(BucketTest(flow * LITRES_PER_MIN, height), kind, top)
        return known, later("through its one measured point, give or take {band:share}", band=known.band)
    flow_l_min = _number(found, "label_flow_l_min")
    if flow_l_min is None or top is None:
        raise BadQuantity(
            later(
                "A pump needs one measured point, or the flow and the height on its label: without either nothing can be told of it."
            )
        )
    known = curve_from_label(flow_l_min[0] * LITRES_PER_MIN, top, kind)
    return known, later("from its label, give or take {band:share}", band=known.band)
