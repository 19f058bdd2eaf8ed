"""The pages under Power, and the kits' trials, by real requests."""

import time

import pytest
from bs4 import BeautifulSoup

from squall.job.stages import STAGES, pages_under
from squall.store.folder.database import connect
from squall.store.jobs import one_job
from squall.store.shelf import in_van
from squall.store.years import kept_run, kept_weather


def soup(answer) -> BeautifulSoup:
    return BeautifulSoup(answer.text, "html.parser")


def words(html) -> str:
    return html.get_text(" ", strip=True).replace("\u00a0", " ").replace("\u202f", " ")


def job(client, number: int = 1):
    conn = connect(client.settings.database)
    try:
        return one_job(conn, number).job
    finally:
        conn.close()


def act(client, action: str, item: str = "", number: int = 1, stage: str = "join"):
    return client.change(f"/jobs/{number}/do/{action}", {"stage": stage, "item": item})


def run_years(client, number: int = 1) -> BeautifulSoup:
    client.type("years.count", "2", job=number, stage="years")
    assert client.change(f"/jobs/{number}/years/run").status_code == 200
    for _ in range(200):
        page = soup(client.get(f"/jobs/{number}/years/state"))
        if page.select_one(".years-say") and not page.select_one("progress"):
            return page
        time.sleep(0.05)
    raise AssertionError("the years did not end")


@pytest.mark.parametrize("number", [1, 2, 3, 4, 5])
@pytest.mark.parametrize("name", [stage.key for stage in pages_under("power")])
def test_every_page_of_every_job_belongs_to_power(client, number: int, name: str) -> None:
    answer = client.get(f"/jobs/{number}/{name}")
    assert answer.status_code == 200
    page = soup(answer)
    assert page.select_one(".tape a[aria-current]").text.strip() == "Power"
    assert page.select_one(".under [aria-current]").text.strip() == str(STAGES[name].name)
    ids = [tag["id"] for tag in page.select("[id]")]
    assert len(ids) == len(set(ids))


def test_the_years_are_run_kept_and_go_stale(client) -> None:
    before = soup(client.get("/jobs/1/years"))
    assert before.select_one(".years-say") is None
    assert "Run its years day by day" in words(before.select_one(".years-line"))
    page = run_years(client)
    assert "as of now" in words(page.select_one(".years-say"))
    assert len(page.select(".calendar td")) == 365
    assert len(page.select(".calendar a[tabindex='0']")) == 1
    line = words(soup(client.get("/jobs/1/survey")).select_one(".years-line"))
    assert "2 years of made weather, number 1" in line
    client.type("lift", "9.6 m", stage="survey")
    later = soup(client.get("/jobs/1/years"))
    assert "stale" in words(later.select_one(".years-say"))
    assert "stale" in words(later.select_one(".years-line"))
    assert len(later.select(".calendar td")) == 365
    assert "run the years again" in words(soup(client.get("/jobs/1/years?day=10")).select_one("#day"))


def test_a_day_opens_with_its_lanes_and_its_story(client) -> None:
    client.type("want.trough", "1200 L", stage="store")
    page = run_years(client)
    short = page.select(".calendar .cell-s a")
    assert short
    opened = soup(client.get(short[0]["href"].split("#")[0]))
    strip = opened.select_one(".strip")
    assert "wanted" in words(strip)
    assert strip.select_one("input[type=range]")["max"] == "143"
    lanes = [t.text for t in strip.select(".strip-name")]
    assert lanes[:3] == ["light on the panels", "flow", "drawn"]
    assert "in the tank" in lanes
    assert "outruns flow and store" in words(strip)
    assert strip.select(".strip-missing")
    second = soup(client.get("/jobs/1/years?year=1&day=20"))
    assert "year 2" in words(second.select_one(".strip h3"))
    assert soup(client.get("/jobs/1/years?year=77&day=9999")).select_one(".strip") is not None


def test_what_cannot_be_run_is_said(client) -> None:
    answer = client.change("/jobs/5/years/run")
    assert answer.status_code == 422
    assert "No kit is chosen" in words(soup(answer))
    client.type("years.by", "file", stage="years")
    answer = client.change("/jobs/1/years/run")
    assert answer.status_code == 422
    assert "No weather file" in words(soup(answer))
    client.type("years.by", "made", job=4, stage="years")
    client.change("/jobs/4/years/run")
    for _ in range(100):
        page = soup(client.get("/jobs/4/years"))
        if page.select_one("#years-run .banner.bad"):
            break
        time.sleep(0.05)
    assert "won't do" in words(page.select_one("#years-run .banner.bad"))


def test_a_float_that_chatters_stops_the_run_with_a_sentence(client) -> None:
    client.type("store.travel", "1 cm", stage="store")
    client.change("/jobs/1/years/run")
    for _ in range(100):
        page = soup(client.get("/jobs/1/years/state"))
        if page.select_one(".banner.bad"):
            break
        time.sleep(0.05)
    assert "more than the ripple" in words(page)


@pytest.mark.parametrize(
    ("path", "value", "said"),
    [("years.count", "0", "whole numbers from 1 to 100"), ("years.count", "101", "whole numbers from 1 to 100"),
     ("years.seed", "-3", "not a count"), ("mount.second_tilt", "95", "allowed is"), ("mount.post_panels", "0", "from 1 to 12"),
     ("bank.age", "5 %", "allowed is"), ("store.travel", "a bit", "can't be read"), ("outdoors.wind", "200 km/h", None),
     ("outdoors.wind", "400 km/h", "allowed is"), ("want.trough", "-5 L", "allowed is")],
)  # fmt: skip
def test_wrong_figures_are_told_beside_the_field(client, path: str, value: str, said: str | None) -> None:
    stage = {"years": "years", "mount": "sun", "outdoors": "outdoors"}.get(path.split(".")[0], "store")
    act(client, "choose-option", job(client).options[0].id, stage="store")
    client.type("mount.post", "yes", stage="sun")
    answer = client.type(path, value, stage=stage)
    if said is None:
        assert answer.status_code == 200
        return
    assert answer.status_code == 422
    assert said in words(soup(answer))


def epw(hours: int = 8760) -> bytes:
    import sys
    from pathlib import Path

    sys.path.insert(0, str(Path(__file__).parent.parent / "formats"))
    from test_weather_files import AIR, HOURS, LIGHT
    from test_weather_files import epw as write

    return write(HOURS[:hours], LIGHT[:hours], AIR[:hours]).encode()


def test_a_weather_file_is_taken_in_and_a_bad_one_loses_nothing(client) -> None:
    answer = client.change("/jobs/1/years/weather", files={"file": ("hill.epw", epw(), "text/plain")})
    assert answer.status_code == 200
    assert job(client).years.by == "file"
    page = run_years(client)
    assert "hill.epw" in words(page.select_one(".years-say"))
    conn = connect(client.settings.database)
    before = kept_weather(conn, 1)
    bad = client.change("/jobs/1/years/weather", files={"file": ("cut.epw", epw(900), "text/plain")})
    assert bad.status_code == 422
    assert "cut off" in words(soup(bad).select_one(".banner"))
    assert kept_weather(conn, 1).mark == before.mark
    assert kept_run(conn, 1).years == 1
    conn.close()
    assert "hill.epw" in words(soup(client.get("/jobs/1/years")).select_one(".years-say"))
    opened = soup(client.get("/jobs/1/years?day=100"))
    assert opened.select_one(".strip") is not None


def test_panels_are_joined_by_buttons_and_fields(client) -> None:
    page = soup(act(client, "join", "parallel-more"))
    assert "3 in parallel" in words(page.select_one("#part-panel h2"))
    assert len(page.select(".strings .cell")) == 3
    assert "needs a fuse of its own" in words(page)
    option = job(client).option
    assert (option.in_series, option.in_parallel) == (1, 3)
    wrong = client.type(f"options.{option.id}.in_series", "13", stage="join")
    assert wrong.status_code == 422
    assert "from 1 to 12" in words(soup(wrong))
    assert job(client).option.in_series == 1
    act(client, "join", "parallel-less")
    low = act(client, "join", "series-less")
    assert low.status_code == 422
    assert "1 to 12" in words(soup(low).select_one(".banner"))


def test_a_string_that_would_kill_its_controller_is_stopped_loudly(client) -> None:
    option = job(client, 2).option
    page = soup(client.type(f"options.{option.id}.in_series", "3", job=2, stage="join"))
    found = words(page.select_one(".found-bad"))
    assert "Stop" in found
    assert "destroyed" in found
    assert "won't do" in words(page.select_one(".verdict"))


def test_open_volts_are_held_against_the_label(client) -> None:
    good = soup(client.get("/jobs/1/join?open=20.9+V&cell=45+°C"))
    assert "as it should be" in words(good)
    bad = soup(client.get("/jobs/1/join?open=14&cell=45"))
    assert "don't join it yet" in words(bad)
    wrong = soup(client.get("/jobs/1/join?open=warm&cell=45"))
    assert "can't be read" in words(wrong.select_one(".problem[role=alert]:not([id])"))
    other = soup(client.get("/jobs/1/join?other=kite-20&how=series"))
    assert "Not alike" in words(other)
    assert other.select_one("#why-u-unlike-watts")


def test_limits_lights_and_schools_stand_on_the_page(client) -> None:
    page = words(soup(client.get("/jobs/1/join")))
    for said in (
        "with a dropping resistor",
        "with a regulator",
        "with controller",
        "slightly under",
        "2 : 1",
        "from standstill",
    ):
        assert said in page


def test_ways_to_stand_are_taken(client) -> None:
    page = soup(client.get("/jobs/1/sun"))
    assert "needs as many strings" not in words(page)
    assert "needs as many strings" in words(soup(client.get("/jobs/4/sun")))
    assert act(client, "stand", "two-season", stage="sun").status_code == 200
    after = job(client)
    assert after.mount.second_tilt.si == 45.0
    assert (after.mount.second_first, after.mount.second_last) == (4, 9)
    assert act(client, "stand", "sideways", stage="sun").status_code == 422
    assert act(client, "add-row", "mount.horizon", stage="sun").status_code == 200
    assert len(job(client).mount.horizon) == 4


def test_tank_timer_and_supply(client) -> None:
    act(client, "choose-option", job(client).options[0].id, stage="store")
    start = {"stage": "store", "list": "bank.timer", "at": "7:00"}
    assert "runs" in words(
        soup(client.change("/jobs/1/row", {**start, "minutes": ""})).select_one("#new-bank-timer-problem")
    )
    assert job(client).bank.timer == [], "nothing starts that nobody has timed"
    page = soup(client.change("/jobs/1/row", {**start, "minutes": "60 min"}))
    assert page.select_one(".timer-row")
    row = job(client).bank.timer[0]
    assert client.type(f"bank.timer.{row.id}.at", "6:45", stage="store").status_code == 200
    assert job(client).bank.timer[0].at.si == 6.75
    assert client.type(f"bank.timer.{row.id}.at", "27:00", stage="store").status_code == 422
    client.type(f"bank.timer.{row.id}.tuesday", "no", stage="store")
    assert "not on Tuesday" in words(soup(client.get("/jobs/1/store")))
    answer = words(soup(client.get("/jobs/1/store?supply_volts=12&supply_amps=9")))
    assert "to spare" in answer
    assert "more than nothing" in words(soup(client.get("/jobs/1/store?supply_volts=0&supply_amps=9")))


def test_frost_and_wind(client) -> None:
    page = words(soup(client.get("/jobs/1/outdoors")))
    assert "nights a year fall below freezing" in page
    assert "local codes" in page
    deep = soup(client.type("outdoors.lies", "buried", stage="outdoors"))
    assert "never" in words(deep)


def trials(client, query: str = "") -> BeautifulSoup:
    for _ in range(200):
        page = soup(client.get(f"/jobs/1/kits{query}"))
        if page.select_one("#trial-words") or "as filtered, comes near" in words(page):
            return page
        time.sleep(0.1)
    raise AssertionError("the trials did not end")


def test_kits_are_tried_through_a_year_filtered_and_taken(client) -> None:
    page = trials(client)
    said = words(page.select_one("#trial-words"))
    assert "Cheapest that holds" in said
    assert int(said.split(" kits were tried")[0].split()[-1].replace(",", "")) >= 300
    front = page.select("#kit-trials tbody tr")
    assert front
    dry = trials(client, "?source=no-battery")
    assert "battery" not in words(dry.select_one("#kit-trials table"))
    poor = words(trials(client, "?budget=100"))
    assert "as filtered, comes near" in poor
    odd = trials(client, "?budget=cheap&allowed=lots")
    assert "no figure for the budget" in words(odd)
    helical = trials(client, "?end=helical&allowed=50")
    assert helical.select(".kits tbody tr")
    assert all("Auger" in words(row) for row in helical.select(".kits tbody tr"))
    steep = next(form for form in page.select("#kit-trials form") if form.select_one("button"))
    fields = {tag["name"]: tag["value"] for tag in steep.select("input")}
    before = len(job(client).options)
    assert client.change("/jobs/1/kits/take-trial", fields).status_code == 200
    assert len(job(client).options) == before + 1
    stale = client.change("/jobs/1/kits/take-trial", {**fields, "mark": "0" * 12})
    assert stale.status_code == 422


def test_the_van_filters(client) -> None:
    assert client.change("/parts/van", {"part": "stairwell-8", "there": "yes"}, htmx=False).status_code == 303
    assert client.change("/parts/van", {"part": "kite-50", "there": "yes"}, htmx=False).status_code == 303
    conn = connect(client.settings.database)
    assert in_van(conn) == {"stairwell-8", "kite-50"}
    assert client.change("/parts/van", {"part": "hose-13", "there": "yes"}, htmx=False).status_code == 404
    page = trials(client, "?van=yes&allowed=100")
    rows = page.select(".kits tbody tr")
    assert rows
    assert all("Stairwell 8" in words(row) and "Kite 50" in words(row) and "direct" in words(row) for row in rows)
    client.change("/parts/van", {"part": "kite-50", "there": "no"}, htmx=False)
    assert in_van(conn) == {"stairwell-8"}
    conn.close()


def test_a_typical_day_is_scrubbed_by_month_and_kind(client) -> None:
    page = soup(client.get("/jobs/1/power?month=0&kind=clear"))
    strip = page.select_one(".strip")
    assert "A clear day in January" in words(strip)
    assert strip.select_one("input[type=range]")["max"] == "47"
    assert page.select_one("svg.beside .hour-now")
    assert "An average day in" in words(soup(client.get("/jobs/1/power?month=x&kind=odd")).select_one(".strip"))


def test_a_pressure_switch_is_judged_on_every_page(client) -> None:
    """One that never starts again is refused by the verdict, so by the kits; a sound one tells its starts."""
    lift = client.get("/jobs/1/export.json").json()["lift"]["si"]
    assert client.type("store.cut_in", f"{lift:.1f} m", stage="store").status_code == 200
    page = client.type("store.cut_out", f"{lift + 2:.1f} m", stage="store")
    assert "would not start again" in words(soup(page))
    assert "won't do" in soup(client.get("/jobs/1/wire")).select_one(".stamp").text
    backwards = client.type("store.cut_out", "1 m", stage="store")
    assert backwards.status_code == 422
    assert "the pressure at which the switch starts the pump" in words(soup(backwards))
    client.type("store.cut_in", f"{lift + 1:.1f} m", stage="store")
    client.type("store.buffer", "8 L", stage="store")
    page = words(soup(client.type("store.small_flow", "1 L/min", stage="store")))
    assert "times an hour" in page or "never stops" in page or "run on against" in page


def test_two_pumps_take_turns(client) -> None:
    job = client.get("/jobs/1/export.json").json()
    before = soup(client.get("/jobs/1/kits")).select_one("#verdict").text
    page = client.type(f"options.{job['chosen']}.pumps", "2", stage="kits")
    assert "take turns on one line" in words(soup(page))
    assert soup(page).select_one("#verdict").text == before
    assert client.type(f"options.{job['chosen']}.pumps", "3", stage="kits").status_code == 422


def test_a_restrictor_holds_the_flow(client) -> None:
    client.type("restrict_flow", "2 L/min")
    page = words(soup(client.type("restrict_at", "5 m")))
    assert "holds" not in soup(client.get("/jobs/1/survey")).select_one(".stamp").text
    assert "at a pressure of" in page


def test_a_portable_kit_in_bags_and_by_weight(client) -> None:
    client.type("outdoors.bags", "2", job=2, stage="outdoors")
    page = words(soup(client.get("/jobs/2/kits")))
    assert "Bag 1" in page
    assert "Bag 2" in page
    client.get("/jobs/2/kits?kilos=20+lb")
    client.settle()
    light = soup(client.get("/jobs/2/kits?kilos=20+lb"))
    assert light.select_one("input[name=kilos]")["value"].replace("\xa0", " ") == "9.07 kg"
    wrong = words(soup(client.get("/jobs/2/kits?kilos=heavy")))
    assert "It is left out" in wrong
