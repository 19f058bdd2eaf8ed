"""Photos and notes on a job: made smaller and upright, without their place unless it is wanted, out as a folder, back with the job."""

import io
import zipfile

import pytest
from bs4 import BeautifulSoup
from PIL import Image

from squall.formats import pictures

GPS = 0x8825


def soup(answer) -> BeautifulSoup:
    return BeautifulSoup(answer.text, "html.parser")


def photo(width: int = 2400, height: int = 1200, *, turned: bool = False, kind: str = "JPEG") -> bytes:
    """A picture, its left half red, its right half blue, as a phone would write it, with a place in it."""
    image = Image.new("RGB", (width, height), "blue")
    image.paste("red", (0, 0, width // 2, height))
    exif = Image.Exif()
    exif[0x010F] = "maker"
    if turned:
        exif[0x0112] = 6
    exif.get_ifd(GPS)[1] = "S"
    exif.get_ifd(GPS)[2] = (30.0, 24.0, 0.0)
    out = io.BytesIO()
    image.save(out, kind, **({"exif": exif} if kind == "JPEG" else {}))
    return out.getvalue()


def keep(client, data: bytes | None, job: int = 1, **more):
    files = (
        {"file": ("p.jpg", data, "image/jpeg")} if data is not None else {"file": ("", b"", "application/octet-stream")}
    )
    return client.change(f"/jobs/{job}/photos", {"stage": "survey", **more}, files=files)


def kept(client, job: int = 1) -> list[str]:
    return [image["src"].split("?")[0] for image in soup(client.get(f"/jobs/{job}/survey")).select(".photo-list img")]


def test_a_photo_is_made_smaller_and_forgets_where_it_was_taken(client) -> None:
    assert keep(client, photo(), part="pump", note="the old pump").status_code == 200
    page = soup(client.get("/jobs/1/survey"))
    assert "the pump" in page.select_one(".photo-list").text
    assert "the old pump" in page.select_one(".photo-list img")["alt"]
    answer = client.get(kept(client)[0])
    assert answer.headers["content-type"] == "image/jpeg"
    image = Image.open(io.BytesIO(answer.content))
    assert image.size == (1600, 800)
    assert dict(image.getexif()) == {}
    small = Image.open(io.BytesIO(client.get(kept(client)[0] + "?small=true").content))
    assert max(small.size) == 240


def test_its_place_stays_if_that_is_chosen_and_nothing_else(client) -> None:
    keep(client, photo(), place="yes")
    image = Image.open(io.BytesIO(client.get(kept(client)[0]).content))
    assert image.getexif().get_ifd(GPS)[1] == "S"
    assert 0x010F not in image.getexif()


def test_a_photo_held_sideways_stands_upright(client) -> None:
    keep(client, photo(turned=True))
    image = Image.open(io.BytesIO(client.get(kept(client)[0]).content))
    assert image.size == (800, 1600)
    red, _, blue = image.getpixel((400, 100))
    assert red > 200 > 100 > blue


@pytest.mark.parametrize("kind", ["PNG", "WEBP"])
def test_other_kinds_of_picture_are_taken(client, kind: str) -> None:
    assert keep(client, photo(300, 200, kind=kind)).status_code == 200
    assert len(kept(client)) == 1


@pytest.mark.parametrize(
    "data", [b"no picture", b"\x89PNG\r\n\x1a\n broken", photo()[:500], b"<svg onload='x()'/>", b"GIF89a......"]
)
def test_what_is_no_photo_is_refused_and_the_note_stays(client, data: bytes) -> None:
    answer = keep(client, data, note="by the trough", part="outlet")
    assert answer.status_code == 422
    form = soup(answer).select_one("#photo-form")
    assert "no photo that can be read" in form.select_one(".problem").text
    assert form.select_one("input[name=note]")["value"] == "by the trough"
    assert form.select_one("option[selected]")["value"] == "outlet"
    assert kept(client) == []


def test_too_large_ones_are_refused(client, monkeypatch) -> None:
    monkeypatch.setattr(pictures, "MOST_PIXELS", 1000)
    assert "too many pixels" in soup(keep(client, photo(100, 100))).select_one("#photo-form .problem").text
    monkeypatch.setattr(pictures, "MOST_BYTES", 100)
    assert "take a smaller one" in soup(keep(client, photo(100, 100))).select_one("#photo-form .problem").text


def test_a_note_alone_is_kept_and_nothing_at_all_is_not(client) -> None:
    assert keep(client, None, note="gate key hangs behind the <b>tank</b>").status_code == 200
    page = soup(client.get("/jobs/1/need"))
    assert "behind the <b>tank</b>" in page.select_one(".photo-list").text
    assert keep(client, None).status_code == 422


def test_one_is_taken_out_and_another_jobs_is_out_of_reach(client) -> None:
    keep(client, photo(200, 100))
    address = kept(client)[0]
    number = address.split("/")[-1].split(".")[0]
    assert client.get(f"/jobs/2/photos/{number}.jpg").status_code == 404
    client.change("/jobs/2/photos/remove", {"photo": number})
    assert client.get(address).status_code == 200
    assert client.change("/jobs/1/photos/remove", {"photo": number}).status_code == 200
    assert client.get(address).status_code == 404


def test_they_come_back_with_a_deleted_job(client) -> None:
    keep(client, photo(200, 100), job=3, note="ducks")
    before = client.get(kept(client, 3)[0]).content
    client.change("/jobs/3/delete")
    client.change("/restore", htmx=False)
    new = soup(client.get("/")).select(".job-link")
    number = next(int(link["href"].split("/")[2]) for link in new if "Duck" in link.text)
    assert client.get(kept(client, number)[0]).content == before


def test_the_folder_holds_the_job_its_photos_and_notes(client) -> None:
    keep(client, photo(200, 100), part="pump", note="new, clean")
    keep(client, None, note="no picture of this")
    answer = client.get("/jobs/1/export.zip")
    with zipfile.ZipFile(io.BytesIO(answer.content)) as folder:
        names = folder.namelist()
        assert folder.read("job.squall.json") == client.get("/jobs/1/export.json").content
        notes = folder.read("notes.csv").decode()
        assert Image.open(io.BytesIO(folder.read(next(name for name in names if name.endswith(".jpg"))))).size == (
            200,
            100,
        )
    assert '"new, clean"' in notes
    assert "no picture of this" in notes


def test_a_job_is_handed_over_with_all_that_was_done_to_it(client) -> None:
    client.type("lift", "8.4 m")
    client.change("/jobs/1/keep/visit", {"note": "=all well", "done-panels-cleaned": "yes"})
    client.change("/jobs/1/keep/due", {"task": "screen"})
    client.change("/jobs/1/fault/begin", {"story": "ran-and-stopped"})
    with zipfile.ZipFile(io.BytesIO(client.get("/jobs/1/export.zip").content)) as folder:
        names = set(folder.namelist())
        assert {"job.squall.json", "notes.csv", "log.csv", "history.csv", "upkeep.csv", "searches.csv"} <= names
        assert "first-day.csv" not in names, "nothing was tested yet"
        told = folder.read("history.csv").decode("utf-8-sig")
        assert "8.4 m" in told
        assert "readings kept" in told
        assert "'=all well" in folder.read("log.csv").decode("utf-8-sig")
        assert "ran-and-stopped" in folder.read("searches.csv").decode("utf-8-sig")
        assert "screen" in folder.read("upkeep.csv").decode("utf-8-sig")
    other = client.get("/jobs/2/export.zip").content
    with zipfile.ZipFile(io.BytesIO(other)) as folder:
        assert "upkeep.csv" not in folder.namelist(), "each job's own"


@pytest.mark.parametrize(
    ("stage", "part", "where"), [("fault", "search-1", "#seen"), ("keep", "visit-v1", "#visit-v1")]
)
def test_a_search_and_a_visit_are_photographed_where_they_stand(client, stage: str, part: str, where: str) -> None:
    client.change("/jobs/1/fault/begin", {"story": "slowly-less", "sky": "full", "light": "", "air": "20 °C"})
    form = soup(client.get(f"/jobs/1/{stage}")).select_one(f"{where} .step-photos form")
    assert form.select_one("[name=part]")["value"] == part
    sent = keep(client, photo(), part=part, stage=stage)
    assert soup(sent).select(f"{where} .step-photos img")
    assert ("a visit" if stage == "keep" else "a search") in soup(client.get("/jobs/1/survey")).select_one(
        ".photo-list"
    ).text
    bad = keep(client, b"no picture", part=part, stage=stage)
    assert bad.status_code == 422
    assert soup(bad).select_one(".banner.bad"), "said in sight"
