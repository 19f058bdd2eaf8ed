"""A job's place given or changed, with what follows from it."""

import numpy as np

from squall.core.errors import OutOfRange
from squall.core.reason import Between, Quantity
from squall.core.sky.place import facing_deg
from squall.core.sky.world import great_circle_km, reach_deg
from squall.job.document.job import WORLD_CLIMATE, Job, Typed, quantity
from squall.job.edit.changes import Changed
from squall.words import later, say
from squall.words.places import axis_text, place_text

# Nearer than this it is the same place, better told: its height and clock stay as typed. [km]
SAME_PLACE_KM = 30.0


def _typed(value: float, axis: str) -> Typed:
    rounded = round(value, 4)
    return quantity(axis_text(rounded, axis), round(rounded, 3))


def set_place(job: Job, latitude_deg: float, longitude_deg: float) -> Changed:
    """The job at a place; what belonged to another place follows the new one, and the words say so.

    Raises
    ------
    OutOfRange
        Poleward of the world's table of light.

    Notes
    -----
    Light comes from the world's table from here on. Height and clock of a place further off than 30 km are let go, and
    the panels' facing where the equator lies on the other side; tilt and facing of one's own otherwise stay.
    """
    low, high = reach_deg()
    if not low <= latitude_deg <= high:
        raise OutOfRange("latitude-of-light", Quantity(latitude_deg, "latitude"), Between(low, high, "latitude"))
    update: dict[str, object] = {
        "latitude": _typed(latitude_deg, "latitude"), "longitude": _typed(longitude_deg, "longitude"), "climate": WORLD_CLIMATE,
    }  # fmt: skip
    follows = []
    if job.latitude is not None and job.longitude is not None:
        there = np.array([latitude_deg]), np.array([longitude_deg])
        moved = float(great_circle_km(job.latitude.si, job.longitude.si, *there)[0]) > SAME_PLACE_KM
        if moved and (job.altitude is not None or job.clock_offset is not None):
            update |= {"altitude": None, "clock_offset": None}
            follows.append(say("height and clock follow it"))
        crossed = facing_deg(job.latitude.si) != facing_deg(latitude_deg)
        if crossed and job.azimuth is not None:
            update["azimuth"] = None
            follows.append(say("panels turned towards the equator"))
    if job.climate != WORLD_CLIMATE:
        follows.append(say("light by the world's table"))
    words = later(
        "place set to {place}{more}",
        place=place_text(latitude_deg, longitude_deg),
        more="".join("; " + f for f in follows),
    )
    return job.model_copy(update=update), words
