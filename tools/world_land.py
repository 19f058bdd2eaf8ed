"""Derives ``core/sky/data/world_land.npz``: the outline of the world's land at 1:110 million, without Antarctica.

Source: Natural Earth (public domain), as TopoJSON in the npm package ``world-atlas`` 2.0.2. Give the path of its
``land-110m.json``: ``npm pack world-atlas@2.0.2``, unpacked.
"""

import json
import sys
from pathlib import Path
from typing import Any

import numpy as np

OUTLINE = Path(__file__).parent.parent / "src" / "squall" / "core" / "sky" / "data" / "world_land.npz"
SOUTH_DEG = -59.0


def rings(topology: dict[str, Any]) -> list[np.ndarray]:
    """Closed rings of (longitude, latitude) of all land, holes among them. [°]"""
    scale, shift = (np.array(topology["transform"][key]) for key in ("scale", "translate"))
    arcs = [np.cumsum(np.array(arc), axis=0) * scale + shift for arc in topology["arcs"]]

    def joined(numbers: list[int]) -> np.ndarray:
        parts = [arcs[n] if n >= 0 else arcs[~n][::-1] for n in numbers]
        return np.concatenate([parts[0], *(part[1:] for part in parts[1:])])

    return [
        joined(ring)
        for shape in topology["objects"]["land"]["geometries"]
        for polygon in shape["arcs"]
        for ring in polygon
    ]


def unwrapped(ring: np.ndarray) -> list[np.ndarray]:
    """A ring that crosses the date line, whole, once on each side of the sheet; any other as it is."""
    steps = np.diff(ring[:, 0])
    turns = np.concatenate([[0.0], np.cumsum(np.where(steps > 180.0, -360.0, np.where(steps < -180.0, 360.0, 0.0)))])
    if not turns.any():
        return [ring]
    whole = ring + np.stack([turns, np.zeros_like(turns)], axis=1)
    return [whole, whole + np.array([-360.0 if whole[:, 0].max() > 180.0 else 360.0, 0.0])]


def main() -> None:
    """Write the outline."""
    topology = json.loads(Path(sys.argv[1]).read_text())
    found = [part for ring in rings(topology) if ring[:, 1].max() > SOUTH_DEG for part in unwrapped(ring)]
    points = np.round(np.concatenate(found) * 100.0).astype(np.int32)
    np.savez_compressed(OUTLINE, points=points, sizes=np.array([len(ring) for ring in found], np.int16), unit_deg=0.01)
    print(f"{len(found)} rings, {len(points)} points, {OUTLINE.stat().st_size / 1e3:.0f} kB")


if __name__ == "__main__":
    main()
