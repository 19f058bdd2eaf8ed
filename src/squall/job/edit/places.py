"""A job's place given or changed, with what follows from it."""

import numpy as np

from squall.core.errors import OutOfRange
from squall.core.reason import Between, Quantity
from squall.core.sky.file_days import months_of_file, require_light_of
from squall.core.sky.place import facing_deg
from squall.core.sky.whole_year import MeasuredYear
from squall.core.sky.world import great_circle_km, reach_deg
from squall.job.document.job import FILE_CLIMATE, WORLD_CLIMATE, Job, Typed, quantity
from squall.job.document.survey import FileMonthDoc, FileSky
from squall.job.edit.changes import Changed
from squall.job.worked.place import where
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
    Light comes from the world's table from here on, but that a weather file keeps ruling within 30 km. Height and clock of a place further off than 30 km are let go, and
    the panels' facing where the equator lies on the other side; tilt and facing of one's own otherwise stay.
    """
    low, high = reach_deg()
    if not low <= latitude_deg <= high:
        raise OutOfRange("latitude-of-light", Quantity(latitude_deg, "latitude"), Between(low, high, "latitude"))
    update: dict[str, object] = {
        "latitude": _typed(latitude_deg, "latitude"), "longitude": _typed(longitude_deg, "longitude"),
    }  # fmt: skip
    follows, moved = [], True
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
    if job.climate != WORLD_CLIMATE and (moved or job.climate != FILE_CLIMATE):
        update["climate"] = WORLD_CLIMATE
        follows.append(say("light by the world's table"))
    words = later(
        "place set to {place}{more}",
        place=place_text(latitude_deg, longitude_deg),
        more="".join("; " + f for f in follows),
    )
    return job.model_copy(update=update), words


def set_file_sky(job: Job, year: MeasuredYear, name: str) -> Changed:
    """The job with a weather file's light and air, by which all of it goes from here on.

    Raises
    ------
    OutOfRange
        If the file's months can't be of this place.
    """
    latitude, _ = where(job)
    months = months_of_file(year)
    require_light_of(months, latitude)
    docs = [
        FileMonthDoc(
            mean=round(m.light.mean_kwh_m2, 4), under=[round(v, 4) for v in m.light.quantiles_kwh_m2],
            t_min=round(m.t_min_c, 2), t_max=round(m.t_max_c, 2),
        )
        for m in months
    ]  # fmt: skip
    at = (None, None) if year.at is None else year.at
    sky = FileSky(name=name, latitude=at[0], longitude=at[1], months=docs)
    years = job.years.model_copy(update={"by": "file", "file": name})
    update = {"file_sky": sky, "climate": FILE_CLIMATE, "years": years}
    return job.model_copy(update=update), later("weather of {name} taken in", name=name)
