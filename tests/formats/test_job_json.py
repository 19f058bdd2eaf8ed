"""Export and import of a job."""

import json

import jsonschema
import pytest

from squall.core.errors import BadFile
from squall.demo import demo_jobs
from squall.formats.job_json import MOST_BYTES, export, read, schema


@pytest.fixture(scope="module")
def goats():
    return demo_jobs()[0]


@pytest.mark.parametrize("number", range(5))
def test_export_then_import_is_the_same_job(number: int, parts) -> None:
    job = demo_jobs()[number]
    assert read(export(job).encode(), parts) == job


def test_an_export_obeys_the_published_schema(goats) -> None:
    jsonschema.validate(json.loads(export(goats)), schema())


def changed(job, **change) -> bytes:
    return json.dumps({**json.loads(export(job)), **change}).encode()


@pytest.mark.parametrize(
    ("damage", "words"),
    [
        (lambda job: b"", "not whole JSON"),
        (lambda job: export(job).encode()[:-300], "cut off or damaged"),
        (lambda job: b"\xff\xfe\x00job", "not a text file"),
        (lambda job: b'{"pumps": []}', "not a Squall job"),
        (lambda job: b"[1, 2]", "not a Squall job"),
        (lambda job: b"[" * 100_000, "not whole JSON"),
        (lambda job: changed(job, version=7), "version 7"),
        (lambda job: changed(job, colour="red"), "colour is wrong"),
        (lambda job: changed(job, lift={"typed": "9 m", "si": -4}), "9 m"),
        (lambda job: changed(job, lift={"typed": "9000 m", "si": 9000}), "allowed is"),
        (lambda job: changed(job, run=[]), "run is wrong"),
        (lambda job: changed(job, chosen="o9"), "contradict"),
        (lambda job: changed(job, devices=["laser"]), "no device called"),
        (lambda job: changed(job, climate="moon"), "not one of the choices"),
        (lambda job: b" " * (MOST_BYTES + 1), "MB"),
    ],
)
def test_foreign_and_damaged_files_are_refused(goats, parts, damage, words: str) -> None:
    with pytest.raises(BadFile) as caught:
        read(damage(goats), parts)
    assert words in str(caught.value)
