"""Loading the heavy libraries before they are asked for."""

import gc
import logging
from pathlib import Path

from squall.catalogue import catalogue
from squall.core import years
from squall.core.electrics.conductors import conductor
from squall.core.errors import SquallError
from squall.core.faults.diagnosis import diagnose
from squall.core.faults.sweep import Lit
from squall.core.kit.kit import Kit
from squall.core.kit.setup import Cabling
from squall.core.kit.supply import Direct
from squall.job.document.job import new_job
from squall.job.edit.kits import adopt
from squall.job.edit.places import set_place
from squall.job.trouble.chain import chain_of
from squall.job.worked.assess import assess
from squall.words.units import parse

log = logging.getLogger("squall")


def compiled_before() -> bool:
    """Whether the loops were compiled on this machine already; else the first job's page waits some ten seconds for them."""
    beside = Path(years.__file__).parent / "__pycache__"
    return any(beside.glob("day_kernels.between-*.nbi"))


def warm_up() -> None:
    """Work a small job out once, so that libraries, tables and kernels are there."""
    parts = catalogue()
    try:
        parse("1 ft", "length")
        kit = Kit(parts.pumps["stairwell-8"], Direct(), parts.panels["kite-110"], 1, 1, parts.hoses["hose-19"])
        begun = new_job("warm").model_copy(update={"unsaid": []})
        job, _ = adopt(set_place(begun, -30.4, 24.6)[0], kit, Cabling(conductor("mm2:4"), None))
        assessment = assess(job)
        assert assessment.levers
        assert assessment.chosen is not None
        diagnose(chain_of(assessment, assessment.chosen), "unknown", Lit(None, 20.0), [])
    except SquallError as error:
        log.warning("warming stopped: %s", error)
    # What is loaded by now stays as long as the server: looking through it again and again cost an edit a quarter of its time.
    gc.collect()
    gc.freeze()
