"""Cables: resistance, drop, ampacity, and the size that satisfies both."""

import csv
import re
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from typing import Literal

from squall.core.electrics.wire_gauge import awg_area_mm2, awg_ohm_per_m
from squall.core.errors import OutOfRange, require
from squall.core.reason import Quantity, Reason

Standard = Literal["metric", "awg"]
# Air for which the ampacity table stands. [°C]
TABLE_AIR_C = 30.0
COPPER_PER_K = 0.00393


@dataclass(frozen=True)
class Conductor:
    """One size of copper conductor.

    Attributes
    ----------
    standard : str
        ``metric`` or ``awg``.
    size : str
        ``"2.5"`` or ``"12"``, ``"2/0"``.
    area_mm2 : float
        Cross-section of copper. [mm2]
    ohm_per_m : float
        Of one conductor at 20 °C. [ohm/m]
    ampacity_30c_a : float
        Current it carries in air of 30 °C. [A]
    ampacity_source : str
        Where that comes from.
    price_m : float or None
        Of one metre of two-core cable of it, where somebody has a price. [money/m]
    """

    standard: Standard
    size: str
    area_mm2: float
    ohm_per_m: float
    ampacity_30c_a: float
    ampacity_source: str
    price_m: float | None = None

    @property
    def label(self) -> str:
        """As printed: ``2.5 mm²`` or ``AWG 12``."""
        return f"{self.size} mm²" if self.standard == "metric" else f"AWG {self.size}"

    @property
    def key(self) -> str:
        """Identifier in a job: ``mm2:2.5`` or ``awg:12``."""
        return f"{'mm2' if self.standard == 'metric' else 'awg'}:{self.size}"


@lru_cache(maxsize=1)
def _tables() -> tuple[tuple[Conductor, ...], dict[Standard, tuple[tuple[float, float], ...]]]:
    data = files("squall.core.electrics") / "data"
    sizes = []
    for row in _rows((data / "conductors.csv").read_text("utf8")):
        standard: Standard = "metric" if row["standard"] == "metric" else "awg"
        metric = standard == "metric"
        sizes.append(
            Conductor(
                standard=standard,
                size=row["size"],
                area_mm2=float(row["size"]) if metric else awg_area_mm2(row["size"]),
                ohm_per_m=float(row["ohm_per_km_20c"]) / 1000.0 if metric else awg_ohm_per_m(row["size"]),
                ampacity_30c_a=float(row["ampacity_30c_a"]),
                ampacity_source=row["ampacity_source"],
            )
        )
    factors: dict[Standard, list[tuple[float, float]]] = {"metric": [], "awg": []}
    for row in _rows((data / "ambient_factors.csv").read_text("utf8")):
        factors["metric" if row["standard"] == "metric" else "awg"].append(
            (float(row["ambient_c"]), float(row["factor"]))
        )
    return tuple(sizes), {standard: tuple(rows) for standard, rows in factors.items()}


def _rows(text: str) -> list[dict[str, str]]:
    return list(csv.DictReader(line for line in text.splitlines() if line and not line.startswith("#")))


@lru_cache(maxsize=2)
def sizes(standard: Standard) -> tuple[Conductor, ...]:
    """All sizes of one standard, thinnest first."""
    return tuple(size for size in _tables()[0] if size.standard == standard)


def conductor(key: str) -> Conductor:
    """The conductor with a key such as ``mm2:2.5`` or ``awg:12``.

    Raises
    ------
    OutOfRange
        If there is no such size.

    Examples
    --------
    >>> conductor("mm2:2.5").label
    '2.5 mm²'
    """
    for size in _tables()[0]:
        if size.key == key:
            return size
    raise OutOfRange("cable-size", key, Reason("one-of", names=", ".join(size.label for size in _tables()[0])))


def find_conductor(typed: str, standard: Standard) -> Conductor:
    """The conductor that a person means: ``4``, ``4 mm2``, ``12 awg``, ``AWG 2/0``, ``mm2:4``.

    Parameters
    ----------
    typed : str
        As typed; a comma is a decimal comma.
    standard : str
        In which a bare number is read.

    Returns
    -------
    Conductor
        The size.

    Raises
    ------
    OutOfRange
        If there is no such size; the message lists those there are.

    Examples
    --------
    >>> find_conductor("12", "awg").key
    'awg:12'
    """
    text = typed.strip().lower().replace("mm²", "mm2").replace(",", ".")
    number = re.sub(r"awg|mm2|:|\s", "", text)
    if "awg" in text:
        standard = "awg"
    elif "mm2" in text:
        standard = "metric"
    for size in sizes(standard):
        if size.size == number or (standard == "metric" and _same_number(size.size, number)):
            return size
    raise OutOfRange(
        "cable-size",
        repr(typed.strip()[:20]),
        Reason("one-of", names=", ".join(size.label for size in sizes(standard))),
    )


def _same_number(size: str, typed: str) -> bool:
    return re.fullmatch(r"\d+(\.\d*)?", typed) is not None and float(size) == float(typed)


def metric_conductor(area_mm2: float) -> Conductor:
    """The metric conductor of exactly this area. [mm2]

    Raises
    ------
    OutOfRange
        If it is not a standard size; the message names the neighbours.
    """
    metric = sizes("metric")
    for size in metric:
        if abs(size.area_mm2 - area_mm2) < 1e-9:
            return size
    raise OutOfRange(
        "area",
        f"{area_mm2:g} mm²",
        Reason("metric-size-of", sizes=", ".join(f"{s.area_mm2:g}" for s in metric)),
    )


def resistance_ohm(ohm_per_m: float, one_way_m: float, conductor_c: float = 20.0) -> float:
    """Resistance of a cable there and back.

    Parameters
    ----------
    ohm_per_m : float
        Of one conductor at 20 °C. [ohm/m]
    one_way_m : float
        Length of the run, 0 to 5000. [m]
    conductor_c : float
        Temperature of the copper, -60 to 120. [°C]

    Returns
    -------
    float
        2 L r (1 + 0.00393 (T - 20)). [ohm]

    Raises
    ------
    OutOfRange
        Outside those ranges.

    Examples
    --------
    >>> round(resistance_ohm(0.00795, 10.0), 4)
    0.159
    """
    require("cable-length", one_way_m, 0.0, 5000.0, "length")
    require("conductor-temperature", conductor_c, -60.0, 120.0, "temperature")
    return 2.0 * one_way_m * ohm_per_m * (1.0 + COPPER_PER_K * (conductor_c - 20.0))


@lru_cache(maxsize=256)
def ambient_factor(ambient_c: float, standard: Standard = "metric") -> float:
    """Factor on ampacity in warmer or cooler air than 30 °C.

    Parameters
    ----------
    ambient_c : float
        Air around the cable: up to 60 for metric sizes (PVC at 70 °C), 55 for AWG (the 60 °C column). [°C]
    standard : str
        ``metric`` or ``awg``: the ampacities of each stand for its own insulation, and so do the factors.

    Returns
    -------
    float
        Of the next warmer row of the table; below its first row that of the first. [-]

    Raises
    ------
    OutOfRange
        Above the last row, where that insulation carries nothing safely.

    References
    ----------
    IEC 60364-5-52:2009, table B.52.14; NEC 2020, table 310.15(B)(1), 60 °C column (values from memory).

    Examples
    --------
    >>> ambient_factor(30.0)
    1.0
    >>> ambient_factor(55.0, "awg")
    0.41
    """
    rows = _tables()[1][standard]
    for limit, factor in rows:
        if ambient_c <= limit:
            return factor
    raise OutOfRange(
        "ambient-temperature", Quantity(ambient_c, "temperature"), Reason("up-to-for-pvc", most=rows[-1][0])
    )


@dataclass(frozen=True)
class CableChoice:
    """A size, its drop, ampacity where it lies, and what made it that thick."""

    conductor: Conductor
    resistance_ohm: float
    drop_v: float
    drop_fraction: float
    ampacity_a: float
    limited_by: Literal["drop", "ampacity"]


@lru_cache(maxsize=8192)
def choose(
    system_v: float,
    current_a: float,
    one_way_m: float,
    max_drop_fraction: float,
    standard: Standard,
    ambient_c: float = 30.0,
    conductor_c: float = 20.0,
) -> CableChoice:
    """Thinnest cable that meets both drop and ampacity.

    Parameters
    ----------
    system_v, current_a : float
        Volts of the system and amps of the run. [V], [A]
    one_way_m : float
        Length of the run. [m]
    max_drop_fraction : float
        Drop allowed there and back over system volts. [-]
    standard : str
        ``metric`` or ``awg``.
    ambient_c : float
        Air around the cable, for ampacity. [°C]
    conductor_c : float
        Copper temperature at which the drop is taken. [°C]

    Returns
    -------
    CableChoice
        The size and its figures.

    Raises
    ------
    OutOfRange
        If no size in the table is thick enough.
    """
    factor = ambient_factor(ambient_c, standard)
    per_ohm = current_a * resistance_ohm(1.0, one_way_m, conductor_c) / system_v
    offered = sizes(standard)
    by_drop = next((size for size in offered if size.ohm_per_m * per_ohm <= max_drop_fraction), None)
    by_ampacity = next((size for size in offered if size.ampacity_30c_a * factor >= current_a), None)
    if by_drop is None or by_ampacity is None:
        thickest = offered[-1]
        what = (
            Reason("drop-over", max_drop_fraction=max_drop_fraction, one_way=one_way_m)
            if by_drop is None
            else Reason("its-heat")
        )
        raise OutOfRange(
            "current",
            Quantity(current_a, "amps"),
            Reason("less-even-too-thin-raise-volts", label=thickest.label, what=what),
        )
    chosen = max(by_drop, by_ampacity, key=lambda size: size.area_mm2)
    return rate(chosen, system_v, current_a, one_way_m, ambient_c, conductor_c,
                "drop" if by_drop.area_mm2 >= by_ampacity.area_mm2 else "ampacity")  # fmt: skip


def ampacity_in(size: Conductor, ambient_c: float) -> float:
    """What a size bears in air of a temperature [°C]; nothing above its insulation's limit. [A]"""
    if ambient_c > _tables()[1][size.standard][-1][0]:
        return 0.0
    return size.ampacity_30c_a * ambient_factor(ambient_c, size.standard)


def rate(
    size: Conductor,
    system_v: float,
    current_a: float,
    one_way_m: float,
    ambient_c: float = 30.0,
    conductor_c: float = 20.0,
    limited_by: Literal["drop", "ampacity"] = "drop",
) -> CableChoice:
    """Figures of a given size on a given run, as :func:`choose` gives them.

    Parameters
    ----------
    size : Conductor
        The size.
    system_v : float
        Volts that the drop is a share of. [V]
    current_a : float
        Current. [A]
    one_way_m : float
        Length, one way. [m]
    ambient_c : float
        Air along the cable. [°C]
    conductor_c : float
        Copper, for its resistance. [°C]
    limited_by : str
        ``drop`` or ``ampacity``, passed on.

    Returns
    -------
    CableChoice
        Resistance, drop, share and what it may carry.
    """
    ohm = resistance_ohm(size.ohm_per_m, one_way_m, conductor_c)
    return CableChoice(
        conductor=size,
        resistance_ohm=ohm,
        drop_v=current_a * ohm,
        drop_fraction=current_a * ohm / system_v,
        ampacity_a=ampacity_in(size, ambient_c),
        limited_by=limited_by,
    )
