"""The pages of Survey, Need and Lift by real requests: entries kept, wrong ones told, files in and out."""

import csv
import io
import time

import pytest
from bs4 import BeautifulSoup

from squall.store.folder.database import connect
from squall.store.jobs import one_job

GPX = (
    b'<?xml version="1.0"?><gpx version="1.1" creator="t" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>'
    b'<trkpt lat="-30.4" lon="24.6"><ele>1180</ele></trkpt><trkpt lat="-30.4003" lon="24.6"><ele>1189</ele></trkpt>'
    b'<trkpt lat="-30.4006" lon="24.6"><ele>1186</ele></trkpt></trkseg></trk></gpx>'
)


def soup(answer) -> BeautifulSoup:
    return BeautifulSoup(answer.text, "html.parser")


def words(html) -> str:
    return html.get_text(" ", strip=True).replace("\u00a0", " ").replace("\u202f", " ")


def job(client, number: int = 1):
    conn = connect(client.settings.database)
    stored = one_job(conn, number)
    conn.close()
    return stored.job


def act(client, action: str, item: str = "", number: int = 1, stage: str = "survey"):
    return client.change(f"/jobs/{number}/do/{action}", {"stage": stage, "item": item})


def test_the_wells_readings_their_weight_and_the_one_apart(client) -> None:
    page = soup(client.get("/jobs/4/survey"))
    rows = page.select(".readings tbody tr")
    assert [row.select_one("th").text.split()[0] for row in rows] == ["timed", "line", "weighted"]
    assert "agree within their doubts" in words(page.select_one("#part-levels"))
    answer = client.change("/jobs/4/survey/reading", {"way": "meter", "value": "14.2 m", "on": "2026-11-20"})
    assert answer.status_code == 200
    apart = soup(answer).select(".readings tr.outlying")
    assert apart
    assert "lies apart" in apart[0].text
    assert job(client, 4).level.readings[-1].on == "2026-11-20"


@pytest.mark.parametrize(
    ("fields", "said"),
    [
        ({"way": "tape", "value": "three"}, "can't be read"),
        ({"way": "tape", "value": ""}, "Nothing is typed"),
        ({"way": "tape", "value": "900 m"}, "allowed is"),
        ({"way": "pebble", "value": "30 s"}, "allowed is"),
        ({"way": "pebble", "value": "12 m"}, "that is a length"),
        ({"way": "dowsing", "value": "12 m"}, "no way of reading"),
        ({"way": "tape", "value": "12 m", "on": "yesterday"}, "not a day"),
        ({"way": "tape", "value": "12 m", "raised": "x"}, "can't be read"),
    ],
)
def test_a_wrong_reading_is_told_beside_the_form_and_kept_typed(client, fields, said: str) -> None:
    before = job(client, 4)
    answer = client.change("/jobs/4/survey/reading", {"on": "2026-11-20", **fields})
    assert answer.status_code == 422
    page = soup(answer)
    assert said in page.select_one("#new-reading-problem").text.replace("\u00a0", " ")
    assert page.select_one("#new-value")["value"] == fields["value"]
    assert job(client, 4) == before


def test_a_reading_makes_the_job_go_by_readings(client) -> None:
    assert job(client).level.by == "lift"
    client.change("/jobs/1/survey/reading", {"way": "tape", "value": "2 m"})
    assert job(client).level.by == "readings"
    client.type("level.outlet_height", "7 m")
    assert "Lift, standing level to outlet" in words(soup(client.get("/jobs/1/survey")))
    assert act(client, "remove-row", "level.readings.r1").status_code == 200
    assert "the typed lift stands" in words(soup(client.get("/jobs/1/survey")))


def test_every_list_of_the_job_by_hand(client) -> None:
    for place in (
        "well.test",
        "pond.readings",
        "uses:crop",
        "uses:drip",
        "uses:taps",
        "uses:volume",
        "uses:channel",
        "own_pumps",
    ):
        assert act(client, "add-row", place).status_code == 200, place
    client.type("need_by", "herd")
    page = soup(client.get("/jobs/1/need"))
    assert len(page.select("details[id^=part-use-]")) == 5
    assert act(client, "remove-row", "uses.u2").status_code == 200
    assert len(job(client).uses) == 4
    for item in ("run", "uses:swimming", "level.readings:dowsing", "own_pumps.w9.points"):
        assert act(client, "add-row", item).status_code == 422, item
    assert act(client, "remove-row", "uses.u99").status_code == 422
    assert client.change("/jobs/1/undo", {"stage": "need"}).status_code == 200
    assert len(job(client).uses) == 5


@pytest.mark.parametrize(
    ("number", "stage", "place", "typed", "bad"),
    [
        (3, "survey", "pond.readings", {"on": "2026-11-20", "depth": "1.2 m"}, {"on": "2026-11-20", "depth": ""}),
        (4, "survey", "well.test", {"after": "8 min", "level": "18.4 m"}, {"after": "8 m", "level": "18.4 m"}),
        (1, "sun", "mount.horizon", {"azimuth": "300", "height": "12"}, {"azimuth": "300", "height": "95"}),
        (1, "place", "measured", {"month": "6", "light": "3.4"}, {"month": "6", "light": "much"}),
    ],
)  # fmt: skip
def test_a_row_is_typed_before_it_is_there(client, number: int, stage: str, place: str, typed: dict, bad: dict) -> None:
    """No figure of ours begins it; what can't be read stays typed and adds nothing."""
    if place == "well.test":
        client.type("well.drawdown_by", "test", job=number)
    if place == "measured":
        client.type("climate", "world", job=number)

    def rows() -> list:
        found = client.get(f"/jobs/{number}/export.json").json()
        for name in place.split("."):
            found = found[name]
        return found

    before = rows()
    form = soup(client.get(f"/jobs/{number}/{stage}")).select_one(f"#new-{place.replace('.', '-')}")
    assert [box["value"] for box in form.select("input:not([type=hidden]):not([type=date])")] == [""] * len(
        form.select("input:not([type=hidden]):not([type=date])")
    )
    wrong = client.change(f"/jobs/{number}/row", {"list": place, "stage": stage, **bad})
    assert wrong.status_code == 422
    again = soup(wrong).select_one(f"#new-{place.replace('.', '-')}")
    assert again.select_one(".problem").text
    assert {box["name"]: box["value"] for box in again.select("input:not([type=hidden])")}.items() <= bad.items()
    assert rows() == before
    assert client.change(f"/jobs/{number}/row", {"list": place, "stage": stage, **typed}).status_code == 200
    assert len(rows()) == len(before) + 1


def test_a_list_that_is_none_takes_no_row(client) -> None:
    for place in ("", "herd.h1", "nonsense", "options"):
        assert client.change("/jobs/1/row", {"list": place, "stage": "survey", "count": "3"}).status_code in (
            404,
            422,
        ), place


def test_a_track_becomes_the_run(client) -> None:
    answer = client.change("/jobs/1/survey/track", files={"file": ("walk.gpx", GPX, "application/gpx+xml")})
    assert answer.status_code == 200
    laid = job(client)
    assert [piece.name for piece in laid.run] == ["leg 1", "leg 2"]
    assert laid.run[0].end_height.si == pytest.approx(9.0)
    assert laid.lift.si == pytest.approx(6.0)
    assert "higher than its outlet" in words(soup(answer).select_one("#part-run"))
    before = job(client)
    bad = client.change("/jobs/1/survey/track", files={"file": ("walk.gpx", GPX[:200], "application/gpx+xml")})
    assert bad.status_code == 422
    assert "not a whole GPX" in soup(bad).select_one(".banner.bad").text
    assert job(client) == before


def test_the_pond_and_the_roof_on_their_pages(client) -> None:
    pond = soup(client.get("/jobs/3/survey"))
    assert "days" in words(pond.select_one("#pond-end"))
    assert pond.select_one("#chart-pond")
    client.type("pond.readings.d2.depth", "1.6 m", job=3)
    client.type("pond.readings.d1.on", "2026-11-16", job=3)
    assert "days between" in words(
        soup(client.get("/jobs/3/survey")).select_one("#part-pond .problem[role=alert]:not(:empty)")
    )
    roof = soup(client.get("/jobs/5/survey"))
    assert "too small" in words(roof.select_one("#overflow-end"))
    client.type("roof.overflow", "160 mm", job=5)
    assert "passes the storm" in words(soup(client.get("/jobs/5/survey")).select_one("#overflow-end"))
    for path, text in (
        ("roof.barrels", "0"),
        ("roof.barrel", "0 L"),
        ("pond.area_full", "0 m2"),
        ("roof.runoff", "120 %"),
    ):
        assert client.type(path, text, job=5).status_code == 422, path


def test_a_climate_of_ones_own(client) -> None:
    assert client.type("climate", "own").status_code == 200
    assert len(soup(client.get("/jobs/1/place")).select(".own-sky fieldset")) == 12
    assert client.type("sky.months.5.light", "2.5 kWh/m2").status_code == 200
    refused = client.type("sky.months.5.light", "11 kWh/m2", stage="place")
    assert refused.status_code == 422
    assert "clearness" in refused.text
    assert job(client).sky.months[5].light.si == 2.5


def test_own_pump_from_its_label_by_bucket_and_into_the_kit(client) -> None:
    act(client, "add-row", "own_pumps", stage="lift")
    page = soup(client.get("/jobs/1/lift"))
    assert "Nobody has said yet: Kind of pump" in words(page.select_one("#part-own-w1 > .problem"))
    for name in ("volts", "watts", "label_flow", "label_height"):
        assert page.select_one(f"[id='f-own_pumps-w1-{name}']")["value"] == "", name
    said = {
        "end": "centrifugal",
        "placement": "submersible",
        "volts": "12 V",
        "watts": "50 W",
        "label_flow": "20 L/min",
        "label_height": "10 m",
    }
    for name, text in said.items():
        assert client.type(f"own_pumps.w1.{name}", text, stage="lift").status_code == 200
    page = soup(client.get("/jobs/1/lift"))
    assert "give or take 30 %" in words(page.select_one("#part-own-w1"))
    client.type("own_pumps.w1.by", "bucket", stage="lift")
    for height, seconds in (("2 m", "20 s"), ("6 m", "26 s"), ("11 m", "60 s")):
        answer = client.change(
            "/jobs/1/lift/test", {"pump": "w1", "height": height, "bucket": "10 L", "seconds": seconds}
        )
        assert answer.status_code == 200
    assert "off the curve" in words(soup(answer).select_one("#part-own-w1"))
    wrong = client.change("/jobs/1/lift/test", {"pump": "w1", "height": "14 m", "bucket": "10 L", "seconds": "soon"})
    assert wrong.status_code == 422
    form = soup(wrong).select_one("#part-own-w1 .new-test")
    assert "can't be read" in form.text.replace("\u00a0", " ")
    assert form.select_one("[name=height]")["value"] == "14 m"
    assert len(job(client).own_pumps[0].points) == 3
    nonsense = client.change("/jobs/1/lift/test", {"pump": "w1", "height": "12 m", "bucket": "10 L", "seconds": "9 s"})
    assert "Time them again" in words(soup(nonsense).select_one("#part-own-w1 > .problem"))
    act(client, "remove-row", "own_pumps.w1.points.q4", stage="lift")
    assert act(client, "take-pump", "own-w1", stage="lift").status_code == 200
    assert job(client).option.pump == "own-w1"
    assert client.get("/jobs/1/kits").status_code == 200
    assert "uses that pump" in act(client, "remove-row", "own_pumps.w1", stage="lift").text
    assert client.get("/jobs/1/export.json").json()["own_pumps"][0]["by"] == "bucket"


def test_take_pump_wants_a_kit(client) -> None:
    act(client, "add-row", "own_pumps", number=5, stage="lift")
    answer = act(client, "take-pump", "own-w1", number=5, stage="lift")
    assert answer.status_code == 422
    assert "No kit is chosen yet" in answer.text


def test_curves_and_the_model_go_out_and_in(client) -> None:
    model = client.get("/jobs/1/model.inp")
    assert model.status_code == 200
    assert "[PUMPS]" in model.text
    assert "attachment" in model.headers["content-disposition"]
    curve = client.get("/jobs/1/pump.csv").text
    rows = list(csv.reader(io.StringIO("\n".join(line for line in curve.splitlines() if not line.startswith("#")))))
    assert rows[0] == ["flow [L/min]", "head [m]", "amps [A]"]
    answer = client.change("/jobs/1/lift/curve", files={"file": ("bench.csv", curve.encode(), "text/csv")})
    assert answer.status_code == 200
    assert job(client).own_pumps[0].name == "Oriel Hydraulics Stairwell 8"
    assert len(job(client).own_pumps[0].points) == len(rows) - 1
    bad = client.change("/jobs/1/lift/curve", files={"file": ("bench.csv", b"a,b\n1,2\n3,4\n", "text/csv")})
    assert bad.status_code == 422
    assert "lacks flow and head" in bad.text
    assert client.get("/jobs/5/model.inp").status_code == 404
    assert client.get("/jobs/5/pump.csv").status_code == 404


def test_trimming_the_flow(client) -> None:
    page = soup(client.get("/jobs/1/lift?trim=2+L/min"))
    assert "A gate valve about this far open" in words(page.select_one("#part-trim"))
    for typed, said in (("50 L/min", "nothing to trim"), ("much", "can't be read"), ("3 m", "that is a length")):
        page = soup(client.get("/jobs/1/lift", params={"trim": typed}))
        assert said in words(page.select_one("#trim-p"))
        assert page.select_one("#trim")["value"] == typed


def test_whether_the_choice_hangs_on_the_level(client) -> None:
    client.type("doubt.lift", "0.3 m")
    for _ in range(80):
        page = soup(client.get("/jobs/1/kits"))
        if page.select_one("#choice-words"):
            break
        time.sleep(0.2)
    said = words(page.select_one("#choice-words"))
    assert "Any level that makes the lift between 9.1 m and 9.7 m" in said or "the cheapest kit changes" in said
    assert page.select_one("#kit-choice tbody th").text == "as believed"
    assert client.change("/jobs/1/kits/stop", {}).status_code == 200


def test_grit_is_minded_in_the_kits(client) -> None:
    client.type("carries.sand", "yes", job=4)
    for _ in range(80):
        page = soup(client.get("/jobs/4/kits?all=yes"))
        if page.select(".kits tbody tr"):
            break
        time.sleep(0.1)
    helical = [row for row in page.select(".kits tbody tr") if "Auger" in row.text]
    assert all("grit cuts its stator" in row.text for row in helical)
    assert "grit cuts its stator" in words(soup(client.get("/jobs/4/lift")).select_one("#part-ends"))


def test_a_kit_serves_more_places_than_one(client) -> None:
    """A place is typed at once or not at all; the verdict, the page and the drawing speak of it; wrong figures lose nothing."""
    lone = client.get("/jobs/1/kits").text
    typed = {"name": "upper trough", "lift": "7 m", "length": "20 m", "share": "30 %", "after": ""}
    for wrong, words in (({"lift": ""}, "level to there: Nothing is typed"), ({"share": "100 %"}, "98"), ({"length": "long"}, "long"), ({"after": "p9"}, "not one of the choices")):  # fmt: skip
        page = client.change("/jobs/1/survey/place", typed | wrong)
        assert page.status_code == 422
        assert words in page.text
        assert 'value="upper trough"' in page.text
    page = client.change("/jobs/1/survey/place", typed).text
    assert "2 places share it, one after another" in page
    assert 'id="served"' in page
    drawn = client.get("/jobs/1/drawing.svg?stage=survey").text.replace("\xa0", " ")
    assert "upper trough: 7 m up, 20 m of hose, 30 % of the water" in drawn
    assert client.get("/jobs/1/kits").text != lone
    together = client.type("served", "together")
    assert "2 places stand open at once" in client.get("/jobs/1/survey").text, together.status_code
    over = client.change("/jobs/1/survey/place", typed | {"name": "pen", "share": "80 %"})
    assert "Shares of the other places, together is 110 %" in over.text.replace("\xa0", " ")
    loop = client.type("outlet", "loop")
    assert loop.status_code == 422
    again = client.get("/jobs/1/export.json").json()
    assert [row["name"] for row in again["outlets"]] == ["upper trough"]
    gone = client.change("/jobs/1/do/remove-row", {"stage": "survey", "item": "outlets.o1"}).text
    assert "share it" not in gone
    assert "upper trough" in client.change("/jobs/1/undo", {"stage": "survey"}).text


def test_a_place_behind_a_piece_that_goes_leaves_behind_the_one_before(client) -> None:
    typed = {"name": "pen", "lift": "3 m", "length": "15 m", "share": "20 %", "after": "p1"}
    assert client.change("/jobs/1/survey/place", typed).status_code == 200
    client.change("/jobs/1/do/remove-piece", {"stage": "survey", "item": "p1"})
    assert client.get("/jobs/1/export.json").json()["outlets"][0]["after"] == ""
    assert client.get("/jobs/1/survey").status_code == 200
