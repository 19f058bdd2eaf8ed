"""The world's land as a small outline: east to the right, a degree a unit, from 75° N down to 59° S."""

import itertools
from functools import cache

import numpy as np

from squall.core.sky.land import Floats, outline

NORTH_DEG, SOUTH_DEG = 75.0, -59.0
WIDTH, HEIGHT = 360.0, NORTH_DEG - SOUTH_DEG
# Rings smaller than this would be less than a dot. [°]
_LEAST_DEG = 1.0
_EDGE_DEG = 181.0


def spot(latitude_deg: float, longitude_deg: float) -> tuple[float, float]:
    """Where a place lies on the outline, as shares of its width and height from the upper left. [°], [-]

    Examples
    --------
    >>> spot(8.0, 0.0)
    (0.5, 0.5)
    """
    return (longitude_deg + 180.0) / WIDTH, (NORTH_DEG - latitude_deg) / HEIGHT


def _on_sheet(ring: Floats) -> Floats:
    """A ring without the bends that lie beyond the sheet's edges; nothing of one that lies there whole."""
    beyond = np.clip(ring[:, 0], -_EDGE_DEG, _EDGE_DEG) != ring[:, 0]
    if beyond.all():
        return np.empty((0, 2))
    deep = beyond & np.roll(beyond, 1) & np.roll(beyond, -1)
    kept: Floats = ring[~deep]
    return kept


@cache
def world_svg() -> str:
    """The outline as a picture of its own, to be used as a mask or an image."""
    parts = []
    for ring in outline():
        if max(ring.max(axis=0) - ring.min(axis=0)) < _LEAST_DEG:
            continue
        points = [f"{lon + 180.0:.1f} {NORTH_DEG - lat:.1f}" for lon, lat in _on_sheet(ring)]
        if not points:
            continue
        kept = [points[0], *(b for a, b in itertools.pairwise(points) if a != b)]
        parts.append("M" + "L".join(kept) + "Z")
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDTH:g} {HEIGHT:g}" preserveAspectRatio="none">'
        f'<path fill-rule="evenodd" d="{"".join(parts)}"/></svg>'
    )
