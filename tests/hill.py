"""A job that stands somewhere: steep hill country, where the demo's jobs are, under the demo's invented sky."""

from squall.core.kit.bank import AS_NEW, BankState
from squall.core.need.demand import Demand
from squall.core.years.tanks import Tank
from squall.core.years.use import Use, plain_use
from squall.job.document.job import Job, WantDoc, quantity
from squall.job.document.job import new_job as bare_job
from squall.words.message import System


def new_job(name: str, system: System = "metric") -> Job:
    """A new job with its place given, by the catalogue's first climate, twice its need, and its first figures taken for said."""
    altitude = quantity("3300 ft", 1005.84) if system == "us" else quantity("1000 m", 1000.0)
    place = {
        "latitude": quantity("-30°", -30.0), "longitude": quantity("24°", 24.0), "altitude": altitude,
        "clock_offset": quantity("2 h", 2.0), "climate": "ridge", "tilt": quantity("35°", 35.0), "azimuth": quantity("0°", 0.0),
        "unsaid": [], "want": WantDoc(headroom=quantity("2", 2.0)),
    }  # fmt: skip
    return bare_job(name, system).model_copy(update=place)


# So many litres a day, taken whenever they come, nothing stored: for what doesn't hang on the use.
PLAIN = plain_use((800.0,) * 12)


def use_with(demand: Demand, tank: Tank | None, bank: BankState = AS_NEW, most_l_s: float | None = None) -> Use:
    """A draw and a store, at their hours where there is a store."""
    return Use((0.0,) * 12, demand, tank, tank is None, bank, most_l_s)


def on_demand(demand: Demand) -> Use:
    """A draw at its hours, and nothing stored but charge."""
    return Use((0.0,) * 12, demand, None, by_sun=False)
