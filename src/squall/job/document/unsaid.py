"""What nobody has said yet of a new job or a new row: a figure stands there so that it can be drawn, and nothing goes by it."""

from collections.abc import Iterable

from squall.job.document.job import Job
from squall.job.document.need import COUNTS_OF_USE, UseDoc
from squall.job.document.own_pumps import OwnPump

# What a kit can be judged by while nobody has said it: the figure that stands there is taken, and told as taken.
TAKEN = ("pump_depth", "array_cable", "pump_cable", "bank.lead")


def unsaid_of(job: Job) -> tuple[str, ...]:
    """Paths of the fields that still wait for a word and that something hangs on, in the order they are asked.

    Parameters
    ----------
    job : Job
        The job; what it knows not to be said stands in ``unsaid``.

    Notes
    -----
    A pump of one's own waits by itself: until all is said of it, it isn't a part that can be taken, and nothing else waits.
    """
    by_readings = job.level.by == "readings" and bool(job.level.readings)
    lengths = {f"run.{piece.id}.length" for piece in job.run}
    counting = _of_uses(job)
    found = []
    for path in job.unsaid:
        if path == "lift" and (by_readings or job.outlet == "loop"):
            continue
        if path == "litres" and job.need_by != "litres":
            continue
        if path == "want.trough" and not job.outlet.startswith("tank"):
            continue
        if path.startswith("run.") and path not in lengths:
            continue
        if path.startswith("uses.") and path not in counting:
            continue
        if not path.startswith(("own_pumps.", "options.")) and path not in TAKEN:
            found.append(path)
    return tuple(found)


def taken_of(job: Job) -> tuple[str, ...]:
    """Paths of the fields that nobody has said and whose figures are taken meanwhile."""
    of_the_kit = f"options.{job.chosen}."
    charged = job.option is not None and job.option.source == "battery"
    return tuple(
        path
        for path in job.unsaid
        if path.startswith(of_the_kit) or (path in TAKEN and (charged or path != "bank.lead"))
    )


def _of_uses(job: Job) -> set[str]:
    """The paths that count in the list of uses: none where the need is typed."""
    if job.need_by != "herd":
        return set()
    return {f"uses.{use.id}.{name}" for use in job.uses for name in _counts(use)}


def _counts(use: UseDoc) -> tuple[str, ...]:
    by_line = use.kind == "drip" and use.row_length is not None and use.spacing is not None
    return tuple(name for name in COUNTS_OF_USE[use.kind] if not (by_line and name == "emitters"))


def unsaid_of_pump(job: Job, pump: OwnPump) -> tuple[str, ...]:
    """Paths of what nobody has said yet of a pump of the job's own, as far as it is known by that."""
    known_by = {"label": ("label_flow", "label_height"), "curve": (), "bucket": ()}[pump.by]
    watts = () if any(point.amps is not None for point in pump.points) and pump.by != "label" else ("watts",)
    return tuple(
        path
        for name in ("end", "placement", "volts", *watts, *known_by)
        if (path := f"own_pumps.{pump.id}.{name}") in job.unsaid
    )


def with_said(job: Job, *paths: str) -> Job:
    """The job with fields that somebody typed."""
    if not any(path in job.unsaid for path in paths):
        return job
    return job.model_copy(update={"unsaid": [path for path in job.unsaid if path not in paths]})


def with_unsaid(job: Job, stem: str, names: Iterable[str]) -> Job:
    """The job with fields of a new row that still wait for a word."""
    fresh = [path for name in names if (path := f"{stem}.{name}") not in job.unsaid]
    return job.model_copy(update={"unsaid": [*job.unsaid, *fresh]}) if fresh else job


def without_unsaid(job: Job, stem: str) -> Job:
    """The job without what waited in a row that is gone."""
    return job.model_copy(update={"unsaid": [path for path in job.unsaid if not path.startswith(stem + ".")]})
