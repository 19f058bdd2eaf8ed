"""A job as a JSON file: ``squall-job`` version 2 (1 is read too), described by the JSON Schema served at ``/schema``."""

import json
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from squall.catalogue import Catalogue
from squall.catalogue.reader import pick
from squall.core.errors import BadFile, SquallError
from squall.job.document.fields import check_all, check_roughness
from squall.job.document.job import FORMAT, VERSION, Job
from squall.job.worked.assess import assess
from squall.job.worked.own_parts import parts_of
from squall.job.worked.resolve import cabling_of, kit_of
from squall.words import later

MOST_BYTES = 8_000_000
Model = TypeVar("Model", bound=BaseModel)
READ_VERSIONS = (1, VERSION)


def export(job: Job) -> str:
    """The job as JSON text; :func:`read` of it gives the same job."""
    return json.dumps(job.model_dump(mode="json"), indent=2, ensure_ascii=False, allow_nan=False) + "\n"


def schema() -> dict[str, Any]:
    """JSON Schema of an exported job."""
    described = Job.model_json_schema()
    described["$id"] = f"urn:squall:job:{VERSION}"
    described["$schema"] = "https://json-schema.org/draft/2020-12/schema"
    return described


def read(data: bytes, catalogue: Catalogue) -> Job:
    """Read an exported job.

    Parameters
    ----------
    data : bytes
        The file.
    catalogue : Catalogue
        Its parts must be here.

    Returns
    -------
    Job
        The job.

    Raises
    ------
    BadFile
        If it is too large, no JSON, cut off, foreign, or holds what no job can hold. Nothing is
        kept of it.
    """
    plain = plain_of(data)
    if not isinstance(plain, dict) or plain.get("format") != FORMAT:
        raise BadFile(
            later('This is JSON, but not a Squall job: it has no "format": "squall-job". Nothing was imported.')
        )
    if plain.get("version") not in READ_VERSIONS:
        known = " and ".join(str(version) for version in READ_VERSIONS)
        raise BadFile(
            later(
                "This job is of version {version}; this Squall reads versions {known}.",
                version=plain.get("version"),
                known=known,
            )
        )
    job = validated(Job, plain)
    check_whole(job, catalogue)
    return job


def plain_of(data: bytes) -> Any:
    """A file as plain JSON.

    Raises
    ------
    BadFile
        If it is too large, no text, no JSON, or cut off.
    """
    if len(data) > MOST_BYTES:
        raise BadFile(
            later(
                "The file has {data:.1f} MB; a job has at most {MOST_BYTES:.0f} MB.",
                data=len(data) / 1e6,
                MOST_BYTES=MOST_BYTES / 1e6,
            )
        )
    try:
        return json.loads(data.decode("utf-8-sig"))
    except UnicodeDecodeError:
        raise BadFile(later("This is not a text file; a Squall job is JSON text. Nothing was imported.")) from None
    except (ValueError, RecursionError) as error:
        where = f" (line {error.lineno})" if isinstance(error, json.JSONDecodeError) else ""
        raise BadFile(
            later("This is not whole JSON{where}: the file is cut off or damaged. Nothing was imported.", where=where)
        ) from None


def validated(model: type[Model], plain: Any) -> Model:
    """Plain JSON as a document.

    Raises
    ------
    BadFile
        With the first field that is wrong.
    """
    try:
        return model.model_validate(plain)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"])
        raise BadFile(
            later("The job's {where} is wrong: {first}. Nothing was imported.", where=where, first=first["msg"])
        ) from None


def check_whole(job: Job, catalogue: Catalogue) -> None:
    """Refuse a job whose parts aren't here, or that contradicts itself.

    Raises
    ------
    BadFile
        With what is wrong.
    """
    try:
        ids = [option.id for option in job.options]
        if len(set(ids)) != len(ids) or (job.chosen is not None and job.chosen not in ids):
            raise BadFile(later("The job's options contradict its choice. Nothing was imported."))
        parts = parts_of(job, catalogue)
        for option in job.options:
            kit_of(option, parts)
            cabling_of(option)
        for key in job.devices:
            pick(catalogue.devices, key, "device")
        for place, rows in (("run", job.run), ("outlets", job.outlets)):
            for row in rows:
                if row.hose != "own":
                    pick(catalogue.hoses, row.hose, "hose")
                check_roughness(job, place, row.id)
        check_all(job, catalogue)
        assess(job)
    except BadFile:
        raise
    except SquallError as error:
        raise BadFile(later("The job can't be worked out: {error} Nothing was imported.", error=error)) from error
