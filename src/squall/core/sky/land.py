"""Whether a place is on land: by the world's outline at 1:110 million, which leaves out small islands and is off by some 20 km.

The outline is Natural Earth's (public domain), derived by ``tools/world_land.py``.
"""

from functools import cache, lru_cache
from importlib.resources import files

import numpy as np
from numpy.typing import NDArray

from squall.core.sky.world import great_circle_km

Floats = NDArray[np.float64]
# The outline is so coarse that a place this near it may be on land. [km]
COAST_KM = 40.0
_FINE_DEG = 0.25


@cache
def outline() -> tuple[Floats, ...]:
    """Closed rings of the world's land, each (n, 2): longitude and latitude. [°]"""
    with (files("squall.core.sky") / "data" / "world_land.npz").open("rb") as file, np.load(file) as data:
        points = data["points"].astype(np.float64) * float(data["unit_deg"])
        return tuple(np.split(points, np.cumsum(data["sizes"].astype(np.int64))[:-1]))


@cache
def _coast() -> Floats:
    """Points along the outline, at most a quarter of a degree apart."""
    pieces = []
    for ring in outline():
        steps = np.hypot(*np.diff(ring, axis=0).T)
        along = np.concatenate([[0.0], np.cumsum(steps)])
        fine = np.linspace(0.0, along[-1], max(int(along[-1] / _FINE_DEG), 2))
        pieces.append(np.stack([np.interp(fine, along, ring[:, 0]), np.interp(fine, along, ring[:, 1])], axis=1))
    return np.concatenate(pieces)


@cache
def _edges() -> tuple[Floats, Floats, Floats, Floats]:
    """Every edge of all rings: longitude and latitude of one end, then of the other. [°]"""
    ends = np.concatenate([np.hstack([ring[:-1], ring[1:]]) for ring in outline()])
    x, y, next_x, next_y = np.ascontiguousarray(ends.T)
    return x, y, next_x, next_y


def on_land(latitude_deg: float, longitude_deg: float) -> bool:
    """Whether a place lies within the outline, an even count of rings around it being water. [°]

    Examples
    --------
    >>> on_land(-30.4, 24.6), on_land(0.0, -140.0)
    (True, False)
    """
    x, y, next_x, next_y = _edges()
    spans = np.flatnonzero((y > latitude_deg) != (next_y > latitude_deg))
    x, y, next_x, next_y = x[spans], y[spans], next_x[spans], next_y[spans]
    east = longitude_deg < (next_x - x) * (latitude_deg - y) / (next_y - y) + x
    return bool(east.sum() % 2)


@lru_cache(maxsize=256)
def off_coast_km(latitude_deg: float, longitude_deg: float) -> float:
    """How far out at sea a place lies; 0 on land. [°], [km]"""
    if on_land(latitude_deg, longitude_deg):
        return 0.0
    coast = _coast()
    return float(great_circle_km(latitude_deg, longitude_deg, coast[:, 1], coast[:, 0]).min())
