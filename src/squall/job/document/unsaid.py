"""What nobody has said yet of a new job: a figure stands there so that it can be drawn, and nothing goes by it."""

from squall.job.document.job import Job


def unsaid_of(job: Job) -> tuple[str, ...]:
    """Paths of the fields that still wait for a word and that something hangs on, in the order they are asked.

    Parameters
    ----------
    job : Job
        The job; what it knows not to be said stands in ``unsaid``.
    """
    by_readings = job.level.by == "readings" and bool(job.level.readings)
    lengths = {f"run.{piece.id}.length" for piece in job.run}
    found = []
    for path in job.unsaid:
        if path == "lift" and (by_readings or job.outlet == "loop"):
            continue
        if path == "litres" and job.need_by != "litres":
            continue
        if path.startswith("run.") and path not in lengths:
            continue
        found.append(path)
    return tuple(found)


def with_said(job: Job, *paths: str) -> Job:
    """The job with fields that somebody typed."""
    if not any(path in job.unsaid for path in paths):
        return job
    return job.model_copy(update={"unsaid": [path for path in job.unsaid if path not in paths]})
