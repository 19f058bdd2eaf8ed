"""A job handed over with all that was kept: out as a file, in again, the same; a file that lies changes nothing."""

import io
import json
import zipfile

import pytest

from squall.catalogue import catalogue
from squall.core.errors import BadFile
from squall.core.faults.suspicion import Evidence
from squall.formats import history_json
from squall.formats.job_json import export
from squall.store.folder.database import connect
from squall.store.jobs import one_job
from squall.store.kit.faults import Began, add_seen, begin_search, end_search, searches_of
from squall.store.kit.fit import tick
from squall.store.kit.handed import gather, take_in
from squall.store.kit.proofs import add_shown, birth_of, keep_birth, shown_of
from squall.store.kit.upkeep import keep_done, lasts_of

WHO = "Tamsin, tab 3"
BORN = {
    "check": "pump-amps-on", "group": "power", "kind": "amps", "value": 4.5, "answer": None, "skipped": "", "at": "2026-11-02T09:00:00+00:00",
    "low": 4.0, "high": None, "sound": None, "light_w_m2": 700.0, "grade": "good",
}  # fmt: skip


@pytest.fixture
def conn(client):
    conn = connect(client.settings.database)
    yield conn
    conn.close()


@pytest.fixture
def kept(conn):
    """The goats' kit with something of everything."""
    stored = one_job(conn, 1)
    option = stored.job.chosen
    keep_done(conn, 1, option, "screen", WHO)
    keep_birth(conn, 1, option, [BORN], WHO)
    add_shown(conn, 1, option, Evidence("panel-open-volts", (21.0, 21.2)), "21.0 21.2", "", WHO)
    tick(conn, 1, option, "lay-out", WHO, "along the fence")
    begin_search(conn, 1, option, Began("slowly-less", "full", "", "20 °C"), WHO)
    search = searches_of(conn, 1, option)[0]
    add_seen(conn, 1, search.id, Evidence("outlet-flow", 5e-5), "3 L/min", WHO)
    end_search(conn, 1, search.id, "screen-clogged", "leaves")
    return stored


def test_all_that_was_kept_goes_out_and_comes_in_again(conn, kept) -> None:
    out = gather(conn, kept)
    assert len(out.upkeep) == len(out.births) == len(out.proofs) == len(out.ticks) == len(out.searches) == 1
    again = history_json.read(history_json.export(out).encode(), catalogue())
    assert again == out
    taken = take_in(conn, again, "Oded, tab 1")
    option = taken.job.chosen
    assert gather(conn, taken) == out, "names stay, tabs don't"
    assert taken.visits == kept.visits
    assert set(lasts_of(conn, taken.id, option)) == {"screen"}
    assert birth_of(conn, taken.id, option).rows[0]["value"] == 4.5
    assert shown_of(conn, taken.id, option)[0].evidence.value == (21.0, 21.2)
    assert searches_of(conn, taken.id, option)[0].seen[0].evidence.value == 5e-5


def test_the_folder_of_a_handed_over_job_is_taken_in(client, kept) -> None:
    folder = client.get("/jobs/1/export.zip").content
    answer = client.change("/import", htmx=False, files={"file": ("goats.zip", folder)})
    assert answer.status_code == 303
    number = answer.headers["location"].split("/")[2]
    page = client.get(f"/jobs/{number}/keep").text
    assert "birth certificate" in page
    assert (
        client.get(f"/jobs/{number}/commission").status_code == client.get(f"/jobs/{number}/fault").status_code == 200
    )


def _file(conn, kept, change) -> bytes:
    plain = json.loads(history_json.export(gather(conn, kept)))
    change(plain)
    return json.dumps(plain).encode()


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (lambda plain: plain.update(version=9), "version 9"),
        (lambda plain: plain["upkeep"][0].update(at="yesterday"), "upkeep.0.at"),
        (lambda plain: plain["births"][0]["rows"][0].update(check="moon-phase"), "moon-phase"),
        (lambda plain: plain["searches"][0].update(story="gremlins"), "searches.0.story"),
        (lambda plain: plain["searches"][0].update(sky="plaid"), "plaid"),
        (lambda plain: plain["ticks"][0].update(option="o99"), "a kit that this job hasn't"),
        (lambda plain: plain.update(surprise=1), "surprise"),
        (lambda plain: plain["proofs"][0].update(value=float("inf")), "proofs.0.value"),
        (lambda plain: plain["proofs"][0].update(value=1e300), "proofs.0.value"),
        (lambda plain: plain["upkeep"].extend(plain["upkeep"] * 20_001), "upkeep"),
    ],
)
def test_a_history_that_lies_is_refused_with_its_place(conn, kept, change, said: str) -> None:
    with pytest.raises(BadFile, match=said):
        history_json.read(_file(conn, kept, change), catalogue())


def test_a_folder_without_a_history_or_a_damaged_one_is_refused() -> None:
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w") as folder:
        folder.writestr("letter.txt", "hello")
    for data in (made.getvalue(), b"PK\x03\x04 torn"):
        with pytest.raises(BadFile, match="no history"):
            history_json.read(data, catalogue())


@pytest.mark.parametrize("pressed", [zipfile.ZIP_LZMA, zipfile.ZIP_BZIP2, zipfile.ZIP_DEFLATED])
def test_a_folder_that_is_torn_within_is_refused_however_it_is_pressed(pressed: int) -> None:
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", pressed) as folder:
        folder.writestr(history_json.IN_FOLDER, bytes(range(256)) * 40)
    data = bytearray(made.getvalue())
    data[60:90] = b"\xff" * 30
    with pytest.raises(BadFile, match="no history"):
        history_json.read(bytes(data), catalogue())


def test_no_more_of_a_folder_is_unpacked_than_a_history_may_have() -> None:
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as folder:
        folder.writestr(history_json.IN_FOLDER, b" " * 60_000_000)
    with pytest.raises(BadFile, match="at most 8 MB"):
        history_json.read(made.getvalue(), catalogue())


def test_a_jobs_own_file_is_a_history_of_the_job_alone(conn, kept) -> None:
    read = history_json.read(export(kept.job).encode(), catalogue())
    assert read.alone
    assert read.job == kept.job


def test_whatever_odd_things_a_history_holds_every_page_stands(client, conn, kept) -> None:
    plain = json.loads(history_json.export(gather(conn, kept)))
    option, at = plain["upkeep"][0]["option"], plain["upkeep"][0]["at"]
    row = {"option": option, "at": at, "value": None, "answer": None, "skipped": None, "typed": "", "who": "<b>"}
    plain["upkeep"].append({"option": option, "task": "polish", "at": at, "put_off": None, "reason": "", "who": ""})
    plain["upkeep"].append(
        {"option": option, "task": "look", "at": at, "put_off": "2031-01-01", "reason": "x", "who": ""}
    )
    plain["ticks"].append({"option": option, "step": "nope", "at": at, "who": "", "note": ""})
    plain["proofs"] += [
        row | {"check": "panel-open-volts", "value": [1, 2, 3, 4]}, row | {"check": "outlet-flow", "value": -5},
        row | {"check": "rotor-by-hand", "answer": "weird"}, row | {"check": "battery-rest-volts", "value": 1e6},
    ]  # fmt: skip
    plain["births"][0]["rows"] += [
        BORN | {"check": "rotor-by-hand", "kind": None, "value": None, "answer": "weird", "sound": "weird", "at": ""},
        BORN | {"kind": None, "value": [1, 2], "light_w_m2": -5},
    ]
    seen = {key: value for key, value in row.items() if key != "option"}
    plain["searches"].append(
        {"option": option, "begun_at": at, "who": "", "story": "unknown", "sky": "typed", "light": "zorks", "air": "-9999", "ended_at": None,
         "found": "gremlin", "note": "", "seen": [seen | {"check": "outlet-flow", "answer": "weird"}, seen | {"check": "panel-open-volts", "value": [1e6, -1]}]},
    )  # fmt: skip
    answer = client.change("/import", htmx=False, files={"file": ("odd.json", json.dumps(plain).encode())})
    assert answer.status_code == 303
    number = answer.headers["location"].split("/")[2]
    for page in (
        "commission",
        "fault",
        "keep",
        "fit",
        "learned",
        "sheet/booklet",
        "sheet/handover",
        "export.zip",
        "history",
    ):
        assert client.get(f"/jobs/{number}/{page}").status_code == 200, page
    assert client.get("/round").status_code == client.get("/yard").status_code == 200
