"""Values of a job by their path, such as ``run.p1.length``: found, shown as typed, and set."""

import json
from typing import Any

from pydantic import ValidationError

from squall.core.errors import BadQuantity, NotFound
from squall.job.document.job import Job
from squall.job.document.remembered import Remembered
from squall.words import later
from squall.words.units import in_own_units

_PLAIN: Remembered[Any] = Remembered(64)


def value_at(job: Job, path: str) -> Any:
    """What stands at a path, as plain data.

    Raises
    ------
    NotFound
        If the path leads nowhere, such as a piece that was removed.
    """
    return value_in(plain_of(job), path)


def plain_of(job: Job) -> Any:
    """The job as plain data, to be read only: it is asked for some times a page, and made once."""
    return _PLAIN.get(job, (), lambda: json.loads(job.model_dump_json()))


def value_in(data: Any, path: str) -> Any:
    """As :func:`value_at`, in the plain data of a job."""
    return _dig(data, path)


def _dig(data: Any, path: str) -> Any:
    place = data
    for part in path.split("."):
        if isinstance(place, list):
            place = _item(place, part, path)
        elif isinstance(place, dict) and (part in place or part in ("own",)):
            place = place[part]
        elif isinstance(place, dict):
            return 0 if ".fittings." in path else _missing(path)
        else:
            _missing(path)
    return place


def _item(items: list[Any], part: str, path: str) -> Any:
    if (
        part.isdecimal()
        and int(part) < len(items)
        and not any(isinstance(i, dict) and i.get("id") == part for i in items)
    ):
        return items[int(part)]
    for item in items:
        if isinstance(item, dict) and item.get("id") == part:
            return item
    return _missing(path)


def _missing(path: str) -> Any:
    raise NotFound(
        later("{path:quoted} is not in this job any more; it may have been removed on another screen.", path=path)
    )


def as_typed(value: Any) -> str:
    """What a person sees in the field for a value of :func:`value_at`."""
    if value is None:
        return ""
    if isinstance(value, dict) and set(value) == {"typed", "si"}:
        return str(value["typed"])
    return str(value)


def shown_as(job: Job, path: str, kind: str) -> str | None:
    """A quantity as its field shows it; given back unchanged it stays what was typed, however rounded its showing is."""
    now = value_at(job, path)
    return in_own_units(now["typed"], now["si"], kind) if isinstance(now, dict) and "typed" in now else None


def with_value(job: Job, path: str, value: Any) -> Job:
    """The job with plain data put at a path.

    Raises
    ------
    NotFound
        If the path leads nowhere.
    BadQuantity
        If the job can't hold that value there.
    """
    data = json.loads(job.model_dump_json())
    *way, last = path.split(".")
    place = _dig(data, ".".join(way)) if way else data
    if isinstance(place, list):
        place[int(last)] = value
    elif ".fittings." in path and value == 0:
        place.pop(last, None)
    else:
        place[last] = value
    try:
        return Job.model_validate(data)
    except ValidationError as error:
        raise BadQuantity(f"{path}: {error.errors()[0]['msg']}.") from error
