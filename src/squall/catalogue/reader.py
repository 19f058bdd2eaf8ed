"""Reads the catalogue's CSV files."""

import csv
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cached_property, lru_cache
from importlib.resources import files
from typing import Literal, TypeVar, cast

from squall.core.drive.motors import Kind, Motor
from squall.core.electrics.modules import Module
from squall.core.errors import BadFile, SquallError, UnknownPart
from squall.core.kit.parts import (
    BatteryUnit,
    Controller,
    Device,
    Fitting,
    Hose,
    Panel,
    Part,
    Placement,
    Protector,
    Pump,
    Stock,
    TankUnit,
)
from squall.core.need.crops import Crop
from squall.core.need.demand import StockKind
from squall.core.sky.climate import Climate, MonthClimate
from squall.words import later

LITRES_PER_MIN = 1.0 / 60_000.0
Row = dict[str, str]
P = TypeVar("P", bound=Part)
T = TypeVar("T")


def rows(text: str) -> list[Row]:
    """Rows of a CSV text whose lines of comment start with ``#``."""
    return list(csv.DictReader(line for line in text.splitlines() if line.strip() and not line.startswith("#")))


FILES = {
    "pumps": "Pumps", "panels": "Panels", "batteries": "Batteries", "controllers": "Controllers",
    "hoses": "Hoses and pipes", "fittings": "Fittings", "protectors": "Fuses and breakers",
    "devices": "Switches, relays, connectors", "climates": "Climates", "stock": "Animals' water",
    "crops": "Crop coefficients", "tanks": "Tanks and troughs",
}  # fmt: skip


def table(name: str) -> tuple[list[str], list[str], list[Row]]:
    """One file of the catalogue as it lies: its comments, its columns, its rows.

    Raises
    ------
    UnknownPart
        For a file that is none.
    """
    if name not in FILES:
        raise UnknownPart(later("The catalogue has no file {name:quoted}.", name=name))
    text = _text(name)
    comments = [line.lstrip("# ") for line in text.splitlines() if line.startswith("#")]
    found = rows(text)
    return comments, list(found[0]), found


def _text(name: str) -> str:
    return (files("squall.catalogue") / "data" / f"{name}.csv").read_text("utf8")


class _Base(dict[str, object]):
    """Fields that all parts share, out of one row."""

    def __init__(self, row: Row) -> None:
        super().__init__(
            id=row["id"],
            maker=row["maker"],
            name=row["name"],
            price=float(row["price"]),
            mass_kg=float(row["mass_kg"]),
            guessed=tuple(row["guessed"].split()),
        )


def motor_from(row: Row) -> Motor:
    """Motor of a pump row: points ``l/min m A`` separated by semicolons."""
    points = []
    for triple in row["points_l_min_m_a"].split(";"):
        flow, head, amps = (float(x) for x in triple.split())
        points.append((flow * LITRES_PER_MIN, head, amps))
    return Motor(
        kind=cast(Kind, row["drive"]),
        rated_v=float(row["rated_v"]),
        points=tuple(points),
        resistance_ohm=float(row["resistance_ohm"]),
        no_load_a=float(row["no_load_a"]),
        max_v=float(row["max_v"]) if row["max_v"] else None,
    )


def _pump(row: Row) -> Pump:
    return Pump(
        **_Base(row),  # type: ignore[arg-type]
        end=row["end"],
        placement=cast(Placement, row["placement"]),
        brushed=row["brushed"] == "yes",
        motor=motor_from(row),
        locked_rotor_a=float(row["locked_rotor_a"]),
        max_fuse_a=float(row["max_fuse_a"]) if row["max_fuse_a"] else None,
        life_h=float(row["life_h"]),
        barb_m=float(row["barb_mm"]) / 1000.0,
        passes_m=float(row["passes_mm"]) / 1000.0,
        npsh_required_m=float(row["npsh_required_m"]),
        self_priming=row["self_priming"] == "yes",
    )


def _panel(row: Row) -> Panel:
    return Panel(
        **_Base(row),  # type: ignore[arg-type]
        module=Module(
            voc_v=float(row["voc_v"]),
            isc_a=float(row["isc_a"]),
            vmp_v=float(row["vmp_v"]),
            imp_a=float(row["imp_a"]),
            cells=int(row["cells"]),
            isc_percent_per_k=float(row["isc_percent_per_k"]),
            voc_percent_per_k=float(row["voc_percent_per_k"]),
        ),
        area_m2=float(row["area_m2"]),
        max_series_fuse_a=float(row["max_series_fuse_a"]),
    )


def _battery(row: Row) -> BatteryUnit:
    figures = {key: float(row[key]) for key in
               ("nominal_v", "open_v", "internal_ohm", "capacity_ah", "usable", "charge_efficiency")}  # fmt: skip
    return BatteryUnit(**_Base(row), chemistry=row["chemistry"], **figures)  # type: ignore[arg-type]


def _controller(row: Row) -> Controller:
    kind = cast(Literal["pump", "charge-tracking", "charge-switching"], row["kind"])
    figures = {key: float(row[key]) for key in ("min_v", "max_v", "out_max_v", "max_a", "efficiency", "own_a")}
    return Controller(**_Base(row), kind=kind, **figures)  # type: ignore[arg-type]


def _hose(row: Row) -> Hose:
    return Hose(
        **_Base(row),  # type: ignore[arg-type]
        nominal=row["nominal"],
        kind=row["kind"],
        inner_diameter_m=float(row["inner_diameter_mm"]) / 1000.0,
        roughness_m=float(row["roughness_mm"]) / 1000.0,
        rated_head_m=float(row["rated_head_m"]),
    )


def _fitting(row: Row) -> Fitting:
    return Fitting(**_Base(row), minor_loss_k=float(row["minor_loss_k"]), source=row["source"])  # type: ignore[arg-type]


def _device(row: Row) -> Device:
    return Device(**_Base(row), kind=row["kind"], rating_a=float(row["rating_a"]), rating_v=float(row["rating_v"]))  # type: ignore[arg-type]


def _tank(row: Row) -> TankUnit:
    return TankUnit(**_Base(row), capacity_l=float(row["litres"]), depth_m=float(row["depth_m"]))  # type: ignore[arg-type]


def _protector(row: Row) -> Protector:
    kind = cast(Literal["fuse", "breaker"], row["kind"])
    return Protector(**_Base(row), kind=kind, rating_a=float(row["rating_a"]), rating_v=float(row["rating_v"]))  # type: ignore[arg-type]


def _load(name: str, make: Callable[[Row], P]) -> Mapping[str, P]:
    parts: dict[str, P] = {}
    for number, row in enumerate(rows(_text(name)), start=1):
        try:
            part = make(row)
        except (KeyError, ValueError, TypeError, SquallError) as error:
            raise BadFile(
                later(
                    "Catalogue file {name}.csv, part {number} ({get}): {error}",
                    name=name,
                    number=number,
                    get=row.get("id"),
                    error=error,
                )
            ) from error
        if part.id in parts:
            raise BadFile(later("Catalogue file {name}.csv has {id} twice.", name=name, id=part.id))
        parts[part.id] = part
    return parts


def _stock_kind(row: Row) -> StockKind:
    return StockKind(row["id"], row["name"], float(row["cool_litres"]), float(row["hot_litres"]), row["source"])


def _crop(row: Row) -> Crop:
    days = (int(row["days_initial"]), int(row["days_development"]), int(row["days_middle"]), int(row["days_late"]))
    coefficients = (float(row["kc_initial"]), float(row["kc_middle"]), float(row["kc_end"]))
    return Crop(row["name"], *coefficients, days, row["source"])


def _tabled(name: str, make: Callable[[Row], T]) -> Mapping[str, T]:
    """A reference table by identifier."""
    found: dict[str, T] = {}
    for number, row in enumerate(rows(_text(name)), start=1):
        try:
            found[row["id"]] = make(row)
        except (KeyError, ValueError, TypeError) as error:
            raise BadFile(
                later(
                    "Catalogue file {name}.csv, row {number} ({get}): {error}",
                    name=name,
                    number=number,
                    get=row.get("id"),
                    error=error,
                )
            ) from error
    return found


def _climates() -> Mapping[str, Climate]:
    grouped: dict[str, list[Row]] = {}
    for row in rows(_text("climates")):
        grouped.setdefault(row["id"], []).append(row)
    found = {}
    for key, months in grouped.items():
        months.sort(key=lambda row: int(row["month"]))
        found[key] = Climate(
            months[0]["name"],
            tuple(
                MonthClimate(
                    *(float(m[c]) for c in ("clearness", "t_min_c", "t_max_c", "turbidity", "rain_mm", "wet_days"))
                )
                for m in months
            ),
            float(months[0]["record_low_c"]),
            float(months[0]["record_high_c"]),
        )
    return found


@dataclass(frozen=True)
class Catalogue:
    """All parts by identifier."""

    pumps: Mapping[str, Pump]
    panels: Mapping[str, Panel]
    batteries: Mapping[str, BatteryUnit]
    controllers: Mapping[str, Controller]
    hoses: Mapping[str, Hose]
    fittings: Mapping[str, Fitting]
    devices: Mapping[str, Device]
    protectors: Mapping[str, Protector]
    climates: Mapping[str, Climate]
    stock_kinds: Mapping[str, StockKind]
    crops: Mapping[str, Crop]
    tanks: Mapping[str, TankUnit]

    @cached_property
    def stock(self) -> Stock:
        """What the ranking chooses from."""
        return Stock(
            tuple(self.pumps.values()),
            tuple(self.panels.values()),
            tuple(self.batteries.values()),
            tuple(self.controllers.values()),
            tuple(self.hoses.values()),
            tuple(sorted(self.tanks.values(), key=lambda tank: tank.capacity_l)),
        )


def pick(parts: Mapping[str, T], key: str, what: str) -> T:
    """The part with a key.

    Raises
    ------
    UnknownPart
        If the catalogue has none; the sentence names what was asked.
    """
    try:
        return parts[key]
    except KeyError:
        raise UnknownPart(later("The catalogue has no {what} called {key:quoted}.", what=what, key=key)) from None


@lru_cache(maxsize=1)
def catalogue() -> Catalogue:
    """The shipped catalogue, read once.

    Raises
    ------
    BadFile
        If one of its files is damaged; names file and part.
    """
    return Catalogue(
        pumps=_load("pumps", _pump),
        panels=_load("panels", _panel),
        batteries=_load("batteries", _battery),
        controllers=_load("controllers", _controller),
        hoses=_load("hoses", _hose),
        fittings=_load("fittings", _fitting),
        devices=_load("devices", _device),
        protectors=_load("protectors", _protector),
        climates=_climates(),
        stock_kinds=_tabled("stock", _stock_kind),
        crops=_tabled("crops", _crop),
        tanks=_load("tanks", _tank),
    )
