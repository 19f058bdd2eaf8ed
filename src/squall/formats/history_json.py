"""A job's whole history as a JSON file, ``squall-history`` version 1; a job's own file is a history of the job alone."""

import io
import json
import zipfile
import zlib

from squall.catalogue import Catalogue
from squall.core.errors import BadFile
from squall.formats import job_json
from squall.job.kept.history import HISTORY_FORMAT, HISTORY_VERSION, History
from squall.words import later

# Its name in the folder that a job is handed over as.
IN_FOLDER = "history.squall.json"
# How a folder's files may be pressed, and the mark of one that wants a password.
_PRESSED, _SEALED = (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED), 1


def export(history: History) -> str:
    """The history as JSON text; :func:`read` of it gives the same."""
    return json.dumps(history.model_dump(mode="json"), indent=1, ensure_ascii=False, allow_nan=False) + "\n"


def read(data: bytes, catalogue: Catalogue) -> History:
    """Read a history, or a job; of a folder that was handed over, the history in it.

    Parameters
    ----------
    data : bytes
        The file.
    catalogue : Catalogue
        Its parts must be here.

    Returns
    -------
    History
        Of a job's own file: the job, and nothing beside it.

    Raises
    ------
    BadFile
        As :func:`squall.formats.job_json.read`.
    """
    data = _unfolded(data)
    plain = job_json.plain_of(data)
    if not isinstance(plain, dict) or plain.get("format") != HISTORY_FORMAT:
        return History(job=job_json.read(data, catalogue))
    if plain.get("version") != HISTORY_VERSION:
        raise BadFile(
            later("This history is of version {version}; this Squall reads version {known}.", version=plain.get("version"), known=HISTORY_VERSION)
        )  # fmt: skip
    history = job_json.validated(History, plain)
    job_json.check_whole(history.job, catalogue)
    own = {option.id for option in history.job.options}
    named = {
        row.option
        for rows in (history.upkeep, history.births, history.proofs, history.ticks, history.searches)
        for row in rows
    }
    if not named <= own:
        raise BadFile(later("Something was kept of a kit that this job hasn't. Nothing was imported."))
    return history


def _unfolded(data: bytes) -> bytes:
    """The history in a folder; what is no folder stays as it is. No more of it is unpacked than a history may have."""
    if not data.startswith(b"PK\x03\x04"):
        return data
    refused = BadFile(later("This folder holds no history of a job, or is damaged. Nothing was imported."))
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as folder:
            member = next((one for one in folder.infolist() if one.filename == IN_FOLDER), None)
            # Squall's own are pressed by deflate and open to all; each other way of pressing fails in a way of its own.
            if member is None or member.flag_bits & _SEALED or member.compress_type not in _PRESSED:
                raise refused
            with folder.open(member) as file:
                return file.read(job_json.MOST_BYTES + 1)
    except (zipfile.BadZipFile, EOFError, zlib.error) as error:
        raise refused from error
