"""A job that stands somewhere: steep hill country, where the demo's jobs are, under the demo's invented sky."""

from squall.job.document.job import Job, quantity
from squall.job.document.job import new_job as bare_job
from squall.words.message import System


def new_job(name: str, system: System = "metric") -> Job:
    """A new job with its place given, by the catalogue's first climate."""
    altitude = quantity("3300 ft", 1005.84) if system == "us" else quantity("1000 m", 1000.0)
    place = {
        "latitude": quantity("-30°", -30.0), "longitude": quantity("24°", 24.0), "altitude": altitude,
        "clock_offset": quantity("2 h", 2.0), "climate": "ridge", "tilt": quantity("35°", 35.0), "azimuth": quantity("0°", 0.0),
    }  # fmt: skip
    return bare_job(name, system).model_copy(update=place)
