"""The numbers on the pages are the core's own, in either system of units."""

import json
import re

import pytest
from bs4 import BeautifulSoup

from squall.core.prove.expect import typed_light
from squall.core.sky.typical_days import AVERAGE, CLEAR
from squall.demo import demo_jobs
from squall.job.told.lift import costs_of
from squall.job.told.prove import expected_now
from squall.job.worked.assess import assess
from squall.job.worked.doubts import doubt_of
from squall.job.worked.run import stations_of
from squall.words.calendar import month_name
from squall.words.units import text


@pytest.fixture(scope="module")
def goats():
    return assess(demo_jobs()[0])


def page(client, address: str) -> BeautifulSoup:
    return BeautifulSoup(client.get(address).text, "html.parser")


def squeeze(words: str) -> str:
    return "".join(words.split()).replace("\u202f", "").replace("\u00a0", "")


def figure(html: BeautifulSoup, key: str) -> str:
    return squeeze(html.select_one(f'[popovertarget="why-{key}"]').text)


@pytest.mark.parametrize("units", ["metric", "us"])
def test_lift(client, goats, units: str) -> None:
    client.cookies.set("squall_units", units)
    html = page(client, "/jobs/1/lift")
    chosen = goats.chosen
    assert figure(html, "rated-flow") == squeeze(text(chosen.working.flow_m3_s, "flow", units))
    head = chosen.layout.line(chosen.kit.hose).head_m(chosen.working.flow_m3_s)
    assert figure(html, "total-head") == squeeze(text(head, "head", units))
    assert figure(html, "lift-part") == squeeze(text(9.4, "head", units))
    rows = html.select("#work table.plain")[0].select("tbody tr")
    costs = costs_of(goats, chosen)
    assert [squeeze(row.select("td")[1].text) for row in rows] == [
        squeeze(text(c.flow_m3_s, "flow", units)) for c in costs
    ]
    assert [squeeze(row.select("td")[2].text) for row in rows] == [
        squeeze(text(c.lost_m, "head", units)) for c in costs
    ]
    assert sum(c.lost_m for c in costs) == pytest.approx(
        sum(loss.head_loss_m for loss in chosen.piece_losses), rel=2e-3
    )
    pressures = [squeeze(row.select("td")[-1].text) for row in html.select("#part-grade tbody tr")]
    assert pressures == [squeeze(text(place.pressure_m, "head", units)) for place in stations_of(chosen)]


@pytest.mark.parametrize("units", ["metric", "us"])
def test_doubt(client, goats, units: str) -> None:
    client.cookies.set("squall_units", units)
    html = page(client, "/jobs/1/need")
    found = doubt_of(goats, goats.chosen)
    words = squeeze(html.select_one("#doubt").text)
    assert squeeze(text(found.litres.low / 1000, "litres", units)) in words
    assert squeeze(text(found.litres.high / 1000, "litres", units)) in words
    rows = html.select("#why-doubt tbody tr")
    assert [squeeze(row.select("td")[2].text) for row in rows] == [
        squeeze(text(effect.at_low / 1000, "litres", units)) for effect in found.litres.effects
    ]


def test_curves_cross_where_the_page_says(client, goats) -> None:
    chart = json.loads(page(client, "/jobs/1/lift").select_one("#chart-curves")["data-chart"])
    flow, head = chart["point"]
    assert flow == pytest.approx(goats.chosen.crossing.flow_m3_s * 60_000, rel=1e-3)
    below = [h for q, h in chart["pump"] if q <= flow][-1]
    above = next(h for q, h in chart["pump"] if q > flow)
    assert above <= head <= below
    assert len(chart["measured"]) == len(goats.chosen.kit.pump.motor.points)


@pytest.mark.parametrize("units", ["metric", "us"])
def test_months(client, goats, units: str) -> None:
    client.cookies.set("squall_units", units)
    rows = page(client, "/jobs/1/power").select("#day tbody tr")
    season = goats.chosen.season
    for month, row in enumerate(rows):
        cells = [squeeze((cell.select_one("button") or cell).text) for cell in row.select("td")]
        assert cells[0] == squeeze(text(season.clear_litres[month] / 1000, "litres", units))
        assert cells[1] == squeeze(text(season.average_litres[month] / 1000, "litres", units))
        assert cells[2] == squeeze(text(goats.need_l[month] / 1000, "litres", units))
        first, last = season.water_hours(AVERAGE, month)
        assert (
            cells[5]
            == f"{round(first * 60) // 60:02d}:{round(first * 60) % 60:02d}to{round(last * 60) // 60:02d}:{round(last * 60) % 60:02d}"
        )
    assert [row["class"] for row in rows if row.get("class")] == [["worst"]]


def test_the_days_chart_adds_up_to_the_days_litres(client, goats) -> None:
    for key, kind in (("clear", CLEAR), ("average", AVERAGE)):
        strip = json.loads(page(client, f"/jobs/1/power?month=0&kind={key}").select_one(".strip")["data-strip"])
        flow = next(lane for lane in strip["lanes"] if lane["name"] == "flow")
        assert flow["sign"] == "L/min"
        litres = sum(flow["values"]) * 60 * strip["step"]
        assert litres == pytest.approx(goats.chosen.season.litres[kind, 0], rel=2e-3)


def test_the_years_chart_is_the_table(client, goats) -> None:
    chart = json.loads(page(client, "/jobs/1/power").select_one("#chart-year")["data-chart"])
    assert chart["average"] == pytest.approx(list(goats.chosen.season.average_litres), rel=1e-3)
    assert chart["need"] == pytest.approx(list(goats.need_l))


def test_wires(client, goats) -> None:
    html = page(client, "/jobs/1/wire")
    run = goats.wiring.runs[0]
    assert figure(html, "pump-amps") == squeeze(text(run.amps_a, "amps"))
    assert figure(html, "pump-drop") == squeeze(text(run.choice.drop_fraction, "share"))
    assert figure(html, "pump-ampacity") == squeeze(text(run.choice.ampacity_a, "amps"))
    assert figure(html, "fuse") == squeeze(text(goats.wiring.protection.rating_a, "amps"))
    assert run.choice.drop_v == pytest.approx(run.drop_a * run.choice.resistance_ohm)
    assert goats.wiring.continuous_a >= run.drop_a


@pytest.mark.parametrize("units", ["metric", "us"])
@pytest.mark.parametrize("light", [400.0, 900.0])
def test_test_points(client, goats, units: str, light: float) -> None:
    client.cookies.set("squall_units", units)
    air = "18 °C" if units == "metric" else "64.4 °F"
    html = page(client, f"/jobs/1/prove?light={light:g}&air={air}")
    chosen = goats.chosen
    for expected in expected_now(goats, chosen, typed_light(light, 18.0)):
        kind = {"open-volts": "volts", "short-amps": "amps", "pump-volts": "volts", "pump-amps": "amps"}.get(
            expected.point, "flow"
        )
        cells = html.select(f"#part-{expected.point} td")
        assert squeeze(cells[0].select_one("button").text) == squeeze(text(expected.value, kind, units))
        judged = expected.low is not None
        assert squeeze(cells[1].text) == (squeeze(text(expected.low, kind, units)) if judged else "notjudged")
        assert squeeze(cells[2].text) == (squeeze(text(expected.high, kind, units)) if judged else "–")


def test_marks_on_the_drawing_are_those_of_the_sheet(client) -> None:
    for address in ("/jobs/1/prove", "/jobs/1/sheet/test"):
        html = page(client, address)
        drawn = {mark.text for mark in html.select("svg.beside text.test-words, svg.wide text.test-words")}
        assert drawn == {mark.text for mark in html.select("table .point-mark")} == {"1", "2", "3"}


def test_options_side_by_side(client, goats) -> None:
    table = page(client, "/jobs/1/kits").select_one("table.options")
    rows = {
        row.select_one("th").text: [squeeze(cell.text) for cell in row.select("td")] for row in table.select("tbody tr")
    }
    assert len(rows["price"]) == 2
    assert rows["source"][1] == "paneldirect"
    assert "battery" in rows["source"][0]
    assert rows["worst month"][1].endswith(f"in{month_name(goats.chosen.worst_month)}"), "the second is the chosen one"
    assert re.search(r"in(May|June|July|August)", rows["worst month"][0]), "the ridge's winter"
    assert "joined" in rows["worst month"][0]


def test_every_kit_can_be_asked_for_its_price_and_its_worst_month(client) -> None:
    for _ in range(60):
        html = page(client, "/jobs/1/kits")
        if html.select(".kits tbody tr"):
            break
    for row in html.select(".kits tbody tr"):
        boxes = [html.find(id=button["popovertarget"]).text for button in row.select("button.why")]
        assert len(boxes) == 2
        assert "sum of the parts" in boxes[0]
        assert "least of the need" in boxes[1]
    ids = [tag["id"] for tag in html.select("[id]")]
    assert len(ids) == len(set(ids))


def test_need_page(client, goats) -> None:
    html = page(client, "/jobs/1/need")
    assert figure(html, "need-most") == squeeze(text(0.75, "litres"))
    days = (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)
    year = sum(litres * n for litres, n in zip(goats.need_l, days, strict=True))
    assert figure(html, "need-year") == squeeze(text(year / 1000, "litres"))
    assert html.select_one("#f-months-5")["value"] == "520 L"


def test_verdict_repeats_the_months_own_numbers(client, goats) -> None:
    sentence = squeeze(page(client, "/jobs/1/power").select_one("#verdict").text)
    assert squeeze(text(goats.chosen.worst_litres / 1000, "litres")) in sentence
    assert squeeze(text(goats.need_l[goats.chosen.worst_month] / 1000, "litres")) in sentence
    assert f"{month_name(goats.chosen.worst_month)}istheworstmonth" in sentence


def test_levers_on_the_page_are_the_computed_ones(client, goats) -> None:
    buttons = page(client, "/jobs/1/survey").select(".lever")
    offered = [lever for lever in goats.levers if lever.refusal is None]
    assert len(buttons) == len(offered)
    for button, lever in zip(buttons, offered, strict=True):
        assert button.select_one(".lever-name").text == str(lever.label)
        assert f"{abs(round(lever.change * 100))} % water" in button.text
