"""The place page: without a place, typed well and badly, elsewhere, by a track; and who else must know."""

import re

import pytest
from bs4 import BeautifulSoup

from squall.store.folder.database import connect
from squall.store.jobs import one_job

TRACK = b"""<?xml version="1.0"?><gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>
<trkpt lat="44.500" lon="7.600"><ele>600</ele></trkpt><trkpt lat="44.5005" lon="7.600"><ele>606</ele></trkpt></trkseg></trk></gpx>"""
WAITS = ("need", "power", "kits", "wire", "prove", "sun", "join", "store", "years", "outdoors")


def soup(answer) -> BeautifulSoup:
    return BeautifulSoup(answer.text, "html.parser")


def words(html) -> str:
    return " ".join(html.get_text(" ").split())


def job(client, number):
    conn = connect(client.settings.database)
    try:
        return one_job(conn, number).job
    finally:
        conn.close()


@pytest.fixture
def bare(client):
    """A job without a place: its number."""
    answer = client.change("/jobs", {"name": "Nowhere yet"}, htmx=False)
    return int(re.search(r"/jobs/(\d+)", answer.headers["location"])[1])


def put(client, number, place, stage="place"):
    return client.change(f"/jobs/{number}/place", {"place": place, "stage": stage})


@pytest.mark.parametrize("stage", WAITS)
def test_pages_say_what_cannot_be_said_yet(client, bare, stage):
    page = client.get(f"/jobs/{bare}/{stage}")
    assert page.status_code == 200
    assert "First: where is it?" in page.text
    assert soup(page).select_one("#place-at") is not None
    assert "needs 0" not in page.text


@pytest.mark.parametrize("stage", ["survey", "lift", "place"])
def test_what_can_be_said_anywhere_is_said(client, bare, stage):
    page = client.get(f"/jobs/{bare}/{stage}")
    assert page.status_code == 200
    assert "First: where is it?" not in page.text
    assert "where this job is" in words(soup(page).select_one("#verdict"))
    assert words(soup(page).select_one(".stamp")) == "no place yet"


def test_lists_drawings_sheets_and_files_of_a_job_that_is_nowhere(client, bare):
    for path in ("/", f"/jobs/{bare}/summary", f"/jobs/{bare}/drawing.svg?stage=power", f"/jobs/{bare}/export.json"):
        assert client.get(path).status_code == 200, path
    for path in (f"/jobs/{bare}/sheet/test", f"/jobs/{bare}/kits/ranking"):
        assert client.get(path).status_code in (200, 404, 422), path
    assert client.type("lift", "9 m", job=bare).status_code == 200
    assert client.type("run.p1.length", "30 m", job=bare).status_code == 200


def test_a_place_typed_brings_light_and_kits(client, bare):
    answer = put(client, bare, "30.4 S 24.6 E")
    assert answer.status_code == 200
    page = soup(answer)
    assert "30.4° S" in page.select_one("#place-at")["value"]
    assert len(page.select("svg.bands")) == 2
    assert "MERRA-2" in answer.text
    assert "guessed from latitude and height" in answer.text
    assert job(client, bare).latitude.si == -30.4
    assert "First: where" not in client.get(f"/jobs/{bare}/kits").text


@pytest.mark.parametrize(
    ("place", "said"),
    [
        ("95, 10", "beyond the pole"),
        ("", "a place is wanted"),
        ("hello", "can't be read as a place"),
        ("-30.4", "half a place"),
        ("80 N 10 E", "bring a weather file"),
    ],
)
def test_a_bad_place_is_told_beside_the_field_and_kept_typed(client, bare, place, said):
    answer = put(client, bare, place)
    assert answer.status_code == 422
    page = soup(answer)
    assert said in words(page.select_one("#place-at-problem"))
    assert page.select_one("#place-at")["value"] == place
    assert not job(client, bare).placed


def test_a_place_can_be_undone(client, bare):
    put(client, bare, "30.4 S 24.6 E")
    answer = client.change(f"/jobs/{bare}/undo", {"stage": "place"})
    assert "place set to 30.4° S, 24.6° E" in answer.text
    assert not job(client, bare).placed


def test_the_same_kit_elsewhere_leaves_the_job_where_it_is(client):
    page = client.get("/jobs/1/place?see=44.5+N+7.6+E")
    told = soup(page).select_one("#elsewhere")
    assert "44.5° N, 7.6° E" in words(told)
    assert len(told.select("tbody tr")) == 2
    assert job(client, 1).latitude.si == -30.4
    wrong = soup(client.get("/jobs/1/place?see=95,+10"))
    assert "beyond the pole" in words(wrong.select_one("#elsewhere"))


def test_a_track_gives_a_job_its_place(client, bare):
    answer = client.post(
        f"/jobs/{bare}/survey/track",
        files={"file": ("walk.gpx", TRACK, "application/gpx+xml")},
        headers={"x-squall-key": client.settings.key, "hx-request": "true", "hx-request-type": "partial"},
    )
    assert answer.status_code == 200
    assert job(client, bare).latitude.si == 44.5
    again = client.post(
        "/jobs/1/survey/track",
        files={"file": ("walk.gpx", TRACK, "application/gpx+xml")},
        headers={"x-squall-key": client.settings.key, "hx-request": "true", "hx-request-type": "partial"},
    )
    assert again.status_code == 200
    assert job(client, 1).latitude.si == -30.4


@pytest.mark.parametrize("stage", ["need", "kits", "join", "outdoors", "place", "survey"])
def test_whoever_goes_by_guessed_air_says_so(client, stage):
    put(client, 1, "44.5 N 7.6 E")
    assert "Nobody has said how cold and hot it gets here" in client.get(f"/jobs/1/{stage}").text
    client.type("air.by", "extremes")
    assert "Nobody has said how cold" not in client.get(f"/jobs/1/{stage}").text


@pytest.mark.parametrize("by", ["extremes", "like", "months"])
def test_every_way_to_know_the_air_has_its_fields(client, by):
    put(client, 1, "30.4 S 24.6 E")
    answer = client.type("air.by", by, stage="place")
    fields = {"extremes": "#f-air-hottest", "like": "#f-air-like", "months": "#f-air-months-11-t_min"}
    assert soup(answer).select_one(fields[by]) is not None


def test_a_measured_month_by_hand(client):
    put(client, 1, "30.4 S 24.6 E")
    answer = client.change("/jobs/1/do/add-row", {"stage": "place", "item": "measured"})
    assert answer.status_code == 200
    row = job(client, 1).measured[0].id
    assert client.type(f"measured.{row}.month", "6", stage="place").status_code == 200
    refused = client.type(f"measured.{row}.light", "40 kWh/m2", stage="place")
    assert refused.status_code == 422
    assert client.type(f"measured.{row}.light", "3.1 kWh/m2", stage="place").status_code == 200
    assert job(client, 1).measured[0].month == 6


def test_panels_that_face_away_are_told_on_every_page_of_the_place(client):
    client.type("latitude", "44.5")
    for stage in ("survey", "place", "sun"):
        assert "away from the sun" in client.get(f"/jobs/1/{stage}").text, stage


def test_the_outline_is_a_picture_that_can_be_kept(client):
    answer = client.get("/world.svg")
    assert answer.headers["content-type"].startswith("image/svg+xml")
    assert "max-age" in answer.headers["cache-control"]
    assert "<script" not in answer.text
