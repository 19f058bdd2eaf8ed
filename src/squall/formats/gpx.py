"""GPX tracks in: the walked run, from the water to the outlet."""

from collections.abc import Sequence
from typing import TYPE_CHECKING

from squall.core.errors import BadFile
from squall.core.hydraulics.tracks import TrackPoint
from squall.words import later

if TYPE_CHECKING:
    from gpxpy.gpx import GPXRoutePoint, GPXTrackPoint, GPXWaypoint

MOST_BYTES = 5_000_000
MOST_POINTS = 50_000


def read(data: bytes) -> list[TrackPoint]:
    """Points of the first track, route or row of waypoints that a GPX file has.

    Parameters
    ----------
    data : bytes
        The file.

    Returns
    -------
    list[TrackPoint]
        In the order walked; points without a height are left out.

    Raises
    ------
    BadFile
        If it is too large, no GPX, cut off, or has no heights. Nothing is kept of it.
    """
    from gpxpy import parse
    from gpxpy.gpx import GPXException

    if len(data) > MOST_BYTES:
        raise BadFile(
            later(
                "The file has {data:.1f} MB; a track has at most {MOST_BYTES:.0f} MB.",
                data=len(data) / 1e6,
                MOST_BYTES=MOST_BYTES / 1e6,
            )
        )
    if b"<!DOCTYPE" in data or b"<!ENTITY" in data:
        raise BadFile(later("This file defines words of its own, which no track needs. Nothing was imported."))
    try:
        track = parse(data.decode("utf-8-sig"))
    except (GPXException, UnicodeDecodeError, ValueError) as error:
        raise BadFile(
            later("This is not a whole GPX file: it is cut off, damaged or something else. Nothing was imported.")
        ) from error
    walked = [point for t in track.tracks for segment in t.segments for point in segment.points]
    planned = [point for route in track.routes for point in route.points]
    places: Sequence[GPXTrackPoint | GPXRoutePoint | GPXWaypoint] = walked or planned or track.waypoints
    if len(places) > MOST_POINTS:
        raise BadFile(
            later(
                "The track has {places} points; {MOST_POINTS} are the most.",
                places=len(places),
                MOST_POINTS=MOST_POINTS,
            )
        )
    found = [
        TrackPoint(float(place.latitude), float(place.longitude), float(place.elevation))
        for place in places
        if place.elevation is not None
    ]
    if len(found) < 2:
        raise BadFile(later("The file has no track with heights. Nothing was imported."))
    return found
