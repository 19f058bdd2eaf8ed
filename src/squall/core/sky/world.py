"""The light of anywhere on land: how a day's light on the level is spread, month by month, at any place.

A table of 3-degree cells (``data/world_light.npz``, about 0.8 MB; source, licence and citation in
``data/world_light.md``, derived by ``tools/world_light.py``) holds, for each cell and month, the light that
given shares of the days stay under, and the mean. A place is blended from the cells about it; where none has
data (the sea, a far island) the nearest cell speaks, and how far off it lies is told.

References
----------
R. Gelaro et al., J. Climate 30 (2017), 5419-5454 (MERRA-2, the reanalysis behind the table).
S. Pfenninger, I. Staffell, Energy 114 (2016), 1251-1265 (the package that the table is derived from).
"""

from dataclasses import dataclass
from functools import cache, cached_property, lru_cache
from importlib.resources import files

import numpy as np
from numpy.typing import NDArray

from squall.core.errors import OutOfRange, require
from squall.core.reason import Between, Quantity
from squall.core.sky.outside import DAYS_IN_MONTH, MOST_LATITUDE_DEG, typical_outside_kwh

Floats = NDArray[np.float64]
CELL_DEG = 3.0
EARTH_KM = 6371.0
# From a day's mean in W/m2 to its sum in kWh/m2.
KWH_OF_MEAN = 0.024
# A cell of some 300 km is not the valley: how far a month's light may be off, each way, on even ground. A choice
# of ours; reanalysis light has been found biased by about as much, mostly bright under much cloud:
# R. Urraca et al., Solar Energy 164 (2018), 339-354, from memory.
CELL_DOUBT = 0.10
# Under cloud the reanalysis lets too much light through: so much for each tenth of clearness under a bright month's.
# A slope of ours, that covers the five weather files it was held against (tests/outside/test_light_by_files.py).
BRIGHT_CLEARNESS, HIGH_A_CLEARNESS = 0.70, 0.5
# How much that grows where the nearest cell with data is far off: a choice of ours. [1/km]
DOUBT_A_KM = 0.0002
# Under this the sun is hardly up, and a ratio of two small lights means nothing; still less its spread. [kWh/m2]
_TWILIGHT_KWH, _DUSK_KWH = 0.1, 0.6


@dataclass(frozen=True)
class MonthLight:
    """A day's light on the level in one month.

    Attributes
    ----------
    mean_kwh_m2 : float
        Of all days. [kWh/m2]
    quantiles_kwh_m2 : tuple[float, ...]
        What the shares of :func:`shares_of_days` stay under, rising. [kWh/m2]
    doubt : float
        How far the mean may be off at the place, as a share each way. [-]
    reads_high : float
        How much too bright it may be besides, as a share, where it is often cloudy. [-]
    """

    mean_kwh_m2: float
    quantiles_kwh_m2: tuple[float, ...]
    doubt: float
    reads_high: float = 0.0

    def under(self, share: float) -> float:
        """Light that a share of the days stays under, 0 to 1. [kWh/m2]"""
        require("share-days", share, 0.0, 1.0, "share")
        return float(np.interp(share, shares_of_days(), self.quantiles_kwh_m2))

    def share_under(self, light_kwh_m2: float) -> float:
        """Share of the days that stay under a light [kWh/m2], 0 to 1. [-]"""
        return float(np.interp(light_kwh_m2, self.quantiles_kwh_m2, shares_of_days()))


@dataclass(frozen=True)
class PlaceLight:
    """The light of a place.

    Attributes
    ----------
    latitude_deg, longitude_deg : float
        The place. [°]
    months : tuple[MonthLight, ...]
        January first.
    nearest_land_km : float
        From the place to the nearest cell with data; 0 within one. [km]
    """

    latitude_deg: float
    longitude_deg: float
    months: tuple[MonthLight, ...]
    nearest_land_km: float

    @property
    def clearness(self) -> tuple[float, ...]:
        """Each month's mean over what is outside the atmosphere, 0 where the sun stays down. [-]"""
        return tuple(
            _ratio(month.mean_kwh_m2, typical_outside_kwh(self.latitude_deg, number))
            for number, month in enumerate(self.months)
        )

    @property
    def year_kwh_m2(self) -> float:
        """Light on the level in a year. [kWh/m2]"""
        return sum(month.mean_kwh_m2 * days for month, days in zip(self.months, DAYS_IN_MONTH, strict=True))


def _ratio(light: float, outside: float) -> float:
    return light / outside if outside > _TWILIGHT_KWH else 0.0


@dataclass(frozen=True, eq=False)
class _Table:
    rows: NDArray[np.int64]
    columns: NDArray[np.int64]
    shares: Floats
    quantiles_w_m2: NDArray[np.float32]
    mean_w_m2: NDArray[np.float32]

    @cached_property
    def cells(self) -> dict[tuple[int, int], int]:
        """Number of the cell in a row and a column, counted in cells from the equator and from 180° west."""
        return {(int(i), int(j)): n for n, (i, j) in enumerate(zip(self.rows, self.columns, strict=True))}

    @cached_property
    def clearness(self) -> Floats:
        """Mean over what is outside the atmosphere, (cells, 12), 0 where the sun is hardly up."""
        outside = {
            int(row): [typical_outside_kwh(float(row) * CELL_DEG, month) for month in range(12)]
            for row in np.unique(self.rows)
        }
        over = np.array([outside[int(row)] for row in self.rows])
        light = self.mean_w_m2.astype(np.float64) * KWH_OF_MEAN
        ratio: Floats = np.divide(light, over, out=np.zeros_like(over), where=over > _DUSK_KWH)
        return ratio


COLUMNS = round(360.0 / CELL_DEG)


@cache
def _table() -> _Table:
    with (files("squall.core.sky") / "data" / "world_light.npz").open("rb") as file, np.load(file) as data:
        unit = np.float32(data["unit_w_m2"])
        return _Table(
            rows=np.round(data["latitude_deg"] / CELL_DEG).astype(np.int64),
            columns=np.round((data["longitude_deg"] + 180.0) / CELL_DEG).astype(np.int64) % COLUMNS,
            shares=data["shares"],
            quantiles_w_m2=np.cumsum(data["steps"], axis=-1, dtype=np.uint16).astype(np.float32) * unit,
            mean_w_m2=data["mean"].astype(np.float32) * unit,
        )


def shares_of_days() -> Floats:
    """Shares of a month's days that the table's quantiles are of, 0 to 1. [-]"""
    return _table().shares


def reach_deg() -> tuple[float, float]:
    """Latitudes between which the table speaks: the outer edges of its outermost cells. [°]"""
    rows = _table().rows
    return (float(rows.min()) - 0.5) * CELL_DEG, min((float(rows.max()) + 0.5) * CELL_DEG, MOST_LATITUDE_DEG)


def great_circle_km(latitude_deg: float, longitude_deg: float, latitudes_deg: Floats, longitudes_deg: Floats) -> Floats:
    """Distance from a place to others over the sphere. [°], [km]

    Examples
    --------
    >>> round(float(great_circle_km(0.0, 0.0, np.array([0.0]), np.array([90.0]))[0]))
    10008
    """
    lat, lats = np.radians(latitude_deg), np.radians(latitudes_deg)
    half = np.sin((lats - lat) / 2.0) ** 2
    half = half + np.cos(lat) * np.cos(lats) * np.sin(np.radians(longitudes_deg - longitude_deg) / 2.0) ** 2
    distance: Floats = 2.0 * EARTH_KM * np.arcsin(np.sqrt(np.clip(half, 0.0, 1.0)))
    return distance


@lru_cache(maxsize=256)
def light_at(latitude_deg: float, longitude_deg: float) -> PlaceLight:
    """The light of a place on the level, month by month.

    Parameters
    ----------
    latitude_deg : float
        North positive, within :func:`reach_deg`. [°]
    longitude_deg : float
        East positive, -180 to 180. [°]

    Returns
    -------
    PlaceLight
        Twelve months.

    Raises
    ------
    OutOfRange
        Poleward of the table.

    Notes
    -----
    The four cells about the place count by their nearness in latitude and longitude, those without data not at
    all; each share of the days is blended for itself. The doubt is the cell's own (:data:`CELL_DOUBT`) together
    with the spread of clearness among the cells about it, and with how far off the nearest lies
    (:data:`DOUBT_A_KM`), as independent spreads add.
    """
    low, high = reach_deg()
    if not low <= latitude_deg <= high:
        raise OutOfRange("latitude-of-light", Quantity(latitude_deg, "angle"), Between(low, high, "angle"))
    require("longitude", longitude_deg, -180.0, 180.0, "angle")
    table = _table()
    cells, weights = _blend(latitude_deg, longitude_deg)
    quantiles = np.tensordot(weights, table.quantiles_w_m2[cells].astype(np.float64), 1) * KWH_OF_MEAN
    mean = weights @ table.mean_w_m2[cells].astype(np.float64) * KWH_OF_MEAN
    off_km = _off_land_km(latitude_deg, longitude_deg)
    doubt = np.hypot(np.hypot(CELL_DOUBT, DOUBT_A_KM * off_km), _spread(int(cells[np.argmax(weights)])))
    clearness = [_ratio(float(mean[month]), typical_outside_kwh(latitude_deg, month)) for month in range(12)]
    reads_high = [HIGH_A_CLEARNESS * max(BRIGHT_CLEARNESS - clear, 0.0) if clear > 0.0 else 0.0 for clear in clearness]
    months = tuple(
        MonthLight(float(mean[month]), tuple(quantiles[month].tolist()), float(doubt[month]), reads_high[month])
        for month in range(12)
    )
    return PlaceLight(latitude_deg, longitude_deg, months, off_km)


def _blend(latitude_deg: float, longitude_deg: float) -> tuple[NDArray[np.int64], Floats]:
    """Cells that speak for a place, and how much each counts."""
    row, column = latitude_deg / CELL_DEG, (longitude_deg + 180.0) / CELL_DEG
    below, left = int(np.floor(row)), int(np.floor(column))
    up, right = row - below, column - left
    found: dict[int, float] = {}
    for i, by_row in ((below, 1.0 - up), (below + 1, up)):
        for j, by_column in ((left, 1.0 - right), (left + 1, right)):
            cell = _table().cells.get((i, j % COLUMNS))
            if cell is not None and by_row * by_column > 0.0:
                found[cell] = found.get(cell, 0.0) + by_row * by_column
    if not found:
        found = {_nearest(latitude_deg, longitude_deg): 1.0}
    weights = np.array(list(found.values()))
    return np.array(list(found), dtype=np.int64), weights / weights.sum()


def _nearest(latitude_deg: float, longitude_deg: float) -> int:
    table = _table()
    away = great_circle_km(
        latitude_deg,
        longitude_deg,
        table.rows.astype(np.float64) * CELL_DEG,
        table.columns.astype(np.float64) * CELL_DEG - 180.0,
    )
    return int(np.argmin(away))


def _off_land_km(latitude_deg: float, longitude_deg: float) -> float:
    """From a place to the nearest edge of the cells that have data; 0 within one. [km]"""
    table = _table()
    half = CELL_DEG / 2.0
    middles = table.columns.astype(np.float64) * CELL_DEG - 180.0
    aside = (middles - longitude_deg + 180.0) % 360.0 - 180.0
    nearest_lon = np.asarray(longitude_deg + np.sign(aside) * np.maximum(np.abs(aside) - half, 0.0), np.float64)
    middle_lat = table.rows * CELL_DEG
    nearest_lat = np.asarray(np.clip(latitude_deg, middle_lat - half, middle_lat + half), np.float64)
    return float(great_circle_km(latitude_deg, longitude_deg, nearest_lat, nearest_lon).min())


def _spread(cell: int) -> Floats:
    """Spread of clearness among a cell and those about it, over their mean, by month. [-]"""
    table = _table()
    row, column = int(table.rows[cell]), int(table.columns[cell])
    beside = [(row + i, (column + j) % COLUMNS) for i in (-1, 0, 1) for j in (-1, 0, 1)]
    clearness = table.clearness[[table.cells[key] for key in beside if key in table.cells]]
    spread = np.zeros(12)
    for month in range(12):
        lit = clearness[clearness[:, month] > 0.0, month]
        spread[month] = lit.std() / lit.mean() if lit.size else 0.0
    return spread
