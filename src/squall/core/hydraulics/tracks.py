"""A walked track made into pieces of a run: length along the ground, heights, the highest point."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import asin, cos, hypot, radians, sin, sqrt

from squall.core.errors import BadFile, OutOfRange
from squall.core.reason import Between, Quantity, Reason

EARTH_RADIUS_M = 6_371_008.8
MOST_PIECES = 8
# Heights from a pocket receiver wander by metres: a bend is kept only if it is larger than this. [m]
LEAST_BEND_M = 1.0


@dataclass(frozen=True)
class TrackPoint:
    """Where someone stood. Degrees, and metres above the sea."""

    latitude_deg: float
    longitude_deg: float
    height_m: float


@dataclass(frozen=True)
class Leg:
    """One straight piece of a walked run: its length along the slope, and its end above the start. [m]"""

    length_m: float
    end_m: float


@dataclass(frozen=True)
class Profile:
    """A walked run.

    Attributes
    ----------
    legs : tuple[Leg, ...]
        From the water to the outlet.
    length_m : float
        Along the slope, the whole walk. [m]
    rise_m, highest_m, highest_at_m : float
        Outlet over the start; the highest point over the start, and how far along it is. [m]
    """

    legs: tuple[Leg, ...]
    length_m: float
    rise_m: float
    highest_m: float
    highest_at_m: float


def distance_m(a: TrackPoint, b: TrackPoint) -> float:
    """Over level ground between two points, by the haversine on a sphere. [m]"""
    lat1, lat2 = radians(a.latitude_deg), radians(b.latitude_deg)
    half_lat = sin((lat2 - lat1) / 2.0)
    half_lon = sin(radians(b.longitude_deg - a.longitude_deg) / 2.0)
    return 2.0 * EARTH_RADIUS_M * asin(sqrt(half_lat**2 + cos(lat1) * cos(lat2) * half_lon**2))


def profile_of(points: Sequence[TrackPoint], most_pieces: int = MOST_PIECES) -> Profile:
    """Pieces of a run along a track.

    Parameters
    ----------
    points : sequence of TrackPoint
        Walked from the water to the outlet, two or more.
    most_pieces : int
        How many pieces at the most.

    Returns
    -------
    Profile
        The largest bends of the height profile are kept, after Douglas and Peucker; the length
        is that of the whole walk.

    Raises
    ------
    BadFile
        For a track too short to be a run.
    OutOfRange
        For one longer than 20 km.
    """
    if len(points) < 2:
        raise BadFile(Reason("track-has-fewer-than-two-points"))
    along = [0.0]
    for before, after in pairwise(points):
        along.append(along[-1] + hypot(distance_m(before, after), after.height_m - before.height_m))
    if along[-1] < 0.5:
        raise BadFile(Reason("tracks-points-all-lie-one-place"))
    if along[-1] > 20_000.0:
        raise OutOfRange("length-track", Quantity(along[-1], "length"), Between(0.0, 20_000.0, "length"))
    heights = [point.height_m - points[0].height_m for point in points]
    kept = _bends(along, heights, most_pieces)
    legs = tuple(Leg(along[b] - along[a], heights[b]) for a, b in pairwise(kept))
    top = max(range(len(heights)), key=lambda n: heights[n])
    return Profile(legs, along[-1], heights[-1], heights[top], along[top])


def _bends(along: Sequence[float], heights: Sequence[float], most: int) -> list[int]:
    kept = [0, len(along) - 1]
    while len(kept) <= most:
        best, where = LEAST_BEND_M, -1
        for a, b in pairwise(kept):
            for n in range(a + 1, b):
                share = (along[n] - along[a]) / max(along[b] - along[a], 1e-9)
                off = abs(heights[n] - (heights[a] + share * (heights[b] - heights[a])))
                if off > best:
                    best, where = off, n
        if where < 0:
            break
        kept = sorted([*kept, where])
    return kept
