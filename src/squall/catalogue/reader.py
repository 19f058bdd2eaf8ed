"""Reads the catalogue's CSV files."""

import csv
import itertools
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from importlib.resources import files
from typing import Any, TypeVar

from squall.catalogue import makers
from squall.catalogue.makers import Row
from squall.core.errors import BadFile, SquallError, UnknownPart
from squall.core.kit.parts import (
    BatteryUnit,
    Cable,
    Controller,
    Device,
    Fitting,
    Hose,
    Panel,
    Part,
    Protector,
    Pump,
    Stock,
    Sundry,
    TankUnit,
)
from squall.core.need.crops import Crop
from squall.core.need.demand import StockKind
from squall.core.sky.climate import Climate, MonthClimate
from squall.words import later

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


_MARKS = itertools.count()


@dataclass(frozen=True, eq=False)
class Catalogue:
    """All parts by identifier; one and the same object stands for one state of them.

    `unranked` are those that the ranking leaves out: hidden, or without a price. `rows` are the family and the row of those
    that aren't shipped; `mark` is another for each.
    """

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
    cables: Mapping[str, Cable] = field(default_factory=dict)
    sundries: Mapping[str, Sundry] = field(default_factory=dict)
    unranked: frozenset[str] = frozenset()
    rows: Mapping[str, tuple[str, Mapping[str, str]]] = field(default_factory=dict)
    mark: int = field(init=False, default_factory=_MARKS.__next__)

    @cached_property
    def stock(self) -> Stock:
        """What the ranking chooses from."""
        return Stock(
            self._ranked(self.pumps),
            self._ranked(self.panels),
            self._ranked(self.batteries),
            self._ranked(self.controllers),
            self._ranked(self.hoses),
            tuple(sorted(self._ranked(self.tanks), key=lambda tank: tank.capacity_l)),
        )

    def _ranked(self, parts: Mapping[str, P]) -> tuple[P, ...]:
        return tuple(part for key, part in parts.items() if key not in self.unranked)

    def slot(self, name: str) -> Mapping[str, Any]:
        """The parts of one slot by identifier, such as ``pumps``."""
        found: Mapping[str, Any] = getattr(self, name)
        return found


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
def shipped() -> Catalogue:
    """The shipped catalogue, read once.

    Raises
    ------
    BadFile
        If one of its files is damaged; names file and part.
    """
    return Catalogue(
        pumps=_load("pumps", makers.pump),
        panels=_load("panels", makers.panel),
        batteries=_load("batteries", makers.battery),
        controllers=_load("controllers", makers.controller),
        hoses=_load("hoses", makers.hose),
        fittings=_load("fittings", makers.fitting),
        devices=_load("devices", makers.device),
        protectors=_load("protectors", makers.protector),
        climates=_climates(),
        stock_kinds=_tabled("stock", _stock_kind),
        crops=_tabled("crops", _crop),
        tanks=_load("tanks", makers.tank),
    )
