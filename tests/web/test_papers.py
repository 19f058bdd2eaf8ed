"""Papers: the sheet with its five lights, the whole job, the same as PDF files; and the file for a phone that comes back."""

import json
from io import BytesIO

import pytest
from bs4 import BeautifulSoup
from pypdf import PdfReader

from squall.core.prove.expect import light_from_short_amps
from squall.demo import demo_jobs
from squall.job.told.prove import expected_now, light_columns
from squall.job.worked.assess import assess


def soup(answer) -> BeautifulSoup:
    return BeautifulSoup(answer.text, "html.parser")


def plain(words: str) -> str:
    return " ".join(words.replace("\u202f", "").replace("\u00a0", " ").split())


def pdf_text(answer) -> str:
    assert answer.headers["content-type"] == "application/pdf"
    return plain(" ".join(page.extract_text() for page in PdfReader(BytesIO(answer.content)).pages))


def test_the_sheet_names_the_whole_kit_its_need_and_verdict_and_five_lights(client) -> None:
    page = soup(client.get("/jobs/2/sheet/test"))
    words = plain(page.text)
    for wanted in (
        "falls short",
        "Need:",
        "Stairwell 8",
        "Kite 80",
        "Warden 12",
        "38 m of",
        "clamps",
        "10 L bucket, seconds",
    ):
        assert wanted in words, wanted
    rows = page.select(".lights tbody tr")
    assert [len(row.select("td")) for row in rows] == [7] * 6


def test_what_it_should_read_is_what_prove_says_in_that_light() -> None:
    a = assess(demo_jobs()[0])
    for column in light_columns(a, a.chosen):
        now = light_from_short_amps(a.chosen.kit, column.points["short-amps"].value, 20.0)
        assert now.irradiance_w_m2 == pytest.approx(column.light_w_m2, rel=0.01)
        assert column.now.irradiance_w_m2 == pytest.approx(column.light_w_m2, rel=0.01)
        for expected in expected_now(a, a.chosen, column.now):
            assert column.points[expected.point].value == pytest.approx(expected.value, rel=1e-9)


def test_seconds_of_the_bucket_are_the_flow_turned_over(client) -> None:
    for units, litres, per in (("metric", 10.0, 1.0), ("us", 2.5, 1.0)):
        client.cookies.set("squall_units", units)
        rows = soup(client.get("/jobs/1/sheet/test")).select(".lights tbody tr")
        flow, seconds = (plain(row.select("td")[4].b.text).split()[0] for row in rows[-2:])
        assert float(seconds) == pytest.approx(litres / float(flow) * 60.0 * per, rel=0.01)


# Each kind of paper on kits of other kinds, and on the job without one.
@pytest.mark.parametrize(
    ("job", "kind"),
    [
        (2, "test"), (5, "test"), (4, "job"), (5, "job"), (1, "build"), (2, "build"), (5, "build"),
        (1, "fault"), (5, "fault"), (2, "labels"), (2, "cards"), (4, "booklet"), (5, "booklet"),
    ],
)  # fmt: skip
def test_the_pdf_is_the_page(client, job: int, kind: str) -> None:
    """Every word of the page's paper stands in the file, with the drawing's own words; no letter is replaced."""
    shown = soup(client.get(f"/jobs/{job}/sheet/{kind}")).select_one(".paper")
    answer = client.get(f"/jobs/{job}/sheet/{kind}.pdf")
    words = pdf_text(answer).replace(" ", "")
    for cell in shown.select("h1, h2, p:not(.signed), dt, dd, table th, table td"):
        for part in cell.find_all(string=True):
            assert plain(part).replace(" ", "") in words, part
    fonts = str(PdfReader(BytesIO(answer.content)).pages[0]["/Resources"]["/Font"])
    assert len(PdfReader(BytesIO(answer.content)).pages) <= {"build": 3, "fault": 5}.get(kind, 2)
    assert fonts


def test_a_paper_that_is_none_is_said(client) -> None:
    for address in (
        "/jobs/1/sheet/poster",
        "/jobs/1/sheet/poster.pdf",
        "/jobs/99/sheet/test.pdf",
        "/jobs/5/field.html",
    ):
        answer = client.get(address)
        assert answer.status_code == 404
        assert soup(answer).select_one(".error-page p").text


def test_a_machine_without_the_layouts_libraries_says_so(client, monkeypatch) -> None:
    import sys

    class Missing:
        def __getattr__(self, name: str) -> None:
            raise OSError("cannot load library 'libpango'")

    monkeypatch.setitem(sys.modules, "weasyprint", Missing())
    answer = client.get("/jobs/1/sheet/test.pdf")
    assert answer.status_code == 422
    assert "lacks Pango" in answer.text


def carried(client, job: int = 1, **more) -> dict:
    """A file as the phone saves it."""
    html = client.get(f"/jobs/{job}/field.html").text
    field = json.loads(html.split('id="field-data">')[1].split("</script>")[0])
    visit = {"at": "2026-11-20T10:15:00Z", "typed": {"short-amps": "4,8", "open-volts": "20.6", "outlet-flow": "5.5"}}
    return {
        "format": "squall-readings", "version": 1, "job": job, "name": field["name"], "kit": field["kit"], "units": field["units"],
        "visits": [visit], **more,
    }  # fmt: skip


def give(client, file: dict | bytes, job: int = 1):
    data = file if isinstance(file, bytes) else json.dumps(file).encode()
    return client.change(f"/jobs/{job}/carried", files={"file": ("r.json", data, "application/json")})


def visits(client, job: int = 1) -> list[dict]:
    return client.get(f"/jobs/{job}/export.json").json()["visits"]


def test_the_phones_file_needs_nothing_from_anywhere(client) -> None:
    answer = client.get("/jobs/1/field.html")
    assert len(answer.content) < 600_000
    html = soup(answer)
    assert not list(html.find_all(src=True))
    assert not html.find_all("link")
    assert "http://" not in answer.text.replace("http://www.w3.org/2000/svg", "")
    assert "https://" not in answer.text
    assert html.select_one("svg.narrow")
    assert html.select_one(".caution")


def test_readings_come_back_once_and_are_judged(client) -> None:
    before = len(visits(client))
    file = carried(client)
    assert "1 set of readings kept" in soup(give(client, file)).select_one(".banner").text
    kept = visits(client)
    assert len(kept) == before + 1
    new = next(visit for visit in kept if visit["at"] == "2026-11-20T10:15:00Z")
    assert {value["point"] for value in new["values"]} == {"short-amps", "open-volts", "outlet-flow"}
    assert new["told_by"] == "short-circuit-amps" or "amps" in new["told_by"]
    assert {value["point"]: value["verdict"] for value in new["values"]}["open-volts"] == "good"
    assert "not kept twice" in soup(give(client, file)).select_one(".banner").text
    assert len(visits(client)) == before + 1


def test_another_kit_is_asked_about(client) -> None:
    file, before = carried(client), len(visits(client))
    client.change("/jobs/1/field", {"path": "lift", "stage": "survey", "revision": 1, "value": "12 m"})
    answer = give(client, file)
    assert answer.status_code == 409
    page = soup(answer)
    assert "isn't this job's any more" in page.select_one(".banner.bad").text
    assert len(visits(client)) == before
    form = page.select_one("#kept form.conflict")
    sent = {field["name"]: field["value"] for field in form.select("input[name]")}
    assert client.change("/jobs/1/carried", sent).status_code == 200
    assert len(visits(client)) == before + 1


@pytest.mark.parametrize(
    "change", [{"format": "other"}, {"visits": []}, {"version": 2}, {"more": 1}, {"units": "cubits"}, {"visits": [{"at": "now", "typed": {}}]}]
)  # fmt: skip
def test_a_damaged_file_changes_nothing(client, change: dict) -> None:
    before = visits(client)
    answer = give(client, carried(client, **change))
    assert answer.status_code == 422
    assert "no file of readings" in soup(answer).select_one(".banner.bad").text
    assert visits(client) == before
    assert give(client, b"\xff\x00 no json").status_code == 422


def test_a_reading_that_cannot_be_read_is_named_and_the_others_kept(client) -> None:
    file = carried(client)
    file["visits"].append({"at": "2026-11-20T11:00:00Z", "typed": {"open-volts": "many"}})
    words = soup(give(client, file)).select_one(".banner").text
    assert "1 set of readings kept" in words
    assert "2026-11-20T11:00:00Z" in words


def test_numbers_in_the_file_are_those_of_the_sheet(client) -> None:
    for units in ("metric", "us"):
        client.cookies.set("squall_units", units)
        html = client.get("/jobs/1/field.html").text
        field = json.loads(html.split('id="field-data">')[1].split("</script>")[0])
        at = field["lights"].index(800.0)
        rows = soup(client.get("/jobs/1/sheet/test")).select(".lights tbody tr")
        for point, row in zip(field["points"], rows, strict=False):
            shown = float(plain(row.select("td")[3].b.text).split()[0])
            assert shown == pytest.approx(point["lanes"][0][at], rel=0.006), point["point"]


@pytest.mark.parametrize("job", [1, 2, 3, 4])
def test_the_build_sheet_has_the_circuit_the_wires_the_cuts_and_a_box_for_each_step(client, job: int) -> None:
    page = soup(client.get(f"/jobs/{job}/sheet/build"))
    assert len(page.select("svg.circuit")) == 2, "along for paper and laptop, down for a phone"
    assert [h.text.split(",")[0] for h in page.select(".paper h2")] == [
        "Circuit", "Wires", "What to cut", "Order of joining", "Steps",
    ]  # fmt: skip
    steps = page.select(".paper-steps li")
    assert len(steps) >= 14
    assert all(step.select_one(".box") for step in steps)
    assert "cover every panel" in steps[0].text
    assert any("Local codes override" in caution.text for caution in page.select(".paper .caution"))
    surge = page.select_one(".paper .surge").text
    assert "local codes" in surge, "bonding and surge are for them and whoever is licensed"
    assert surge == soup(client.get(f"/jobs/{job}/wire")).select_one(".surge").text


def test_without_a_kit_the_build_sheet_says_so(client) -> None:
    assert "nothing to build" in client.get("/jobs/5/sheet/build").text


def test_labels_carry_the_fuse_the_battery_and_each_wire_twice(client) -> None:
    page = soup(client.get("/jobs/4/sheet/labels"))
    heads = [plain(head.text) for head in page.select(".label h2")]
    assert any(head.startswith("Fuse ") for head in heads)
    assert "Panels: live in any light" in heads
    numbers = [plain(number.text) for number in page.select(".wire-no")]
    assert numbers == sorted(numbers, key=int)
    assert all(numbers.count(number) == 2 for number in numbers)
    assert "nothing to label" in client.get("/jobs/5/sheet/labels").text


def test_the_kits_tag_comes_in_three_sizes_and_says_where_to_go(client) -> None:
    page = soup(client.get("/jobs/4/sheet/labels"))
    sizes = [svg["width"] for svg in page.select(".tag svg")]
    assert [float(size.removesuffix("mm")) for size in sizes] == pytest.approx([24.0, 36.0, 54.0], rel=0.02)
    assert plain(page.select_one(".tag-says").text).startswith("Squall 4: Donkey-trek way-station (")
    assert all("No. 4" in plain(tag.text) for tag in page.select(".tag"))
    object.__setattr__(client.settings, "addresses", ("https://192.168.7.20:8017/",))
    open_to_phones = soup(client.get("/jobs/4/sheet/labels"))
    assert plain(open_to_phones.select_one(".tag-says").text) == "https://192.168.7.20:8017/jobs/4/keep"
    assert client.get("/jobs/4/sheet/labels.pdf").content[:4] == b"%PDF"
