"""Pages by real requests on a real SQLite file, read as HTML."""

import json
import threading

import pytest
from bs4 import BeautifulSoup
from starlette.testclient import TestClient

from squall.demo import demo_jobs
from squall.formats.job_json import export
from squall.job.stages import MAIN, STAGES
from squall.job.worked.assess import assess
from squall.store.folder.database import connect
from squall.store.sessions import came_in
from squall.web.access import POLICY
from squall.web.app import create_app
from squall.web.frame.background import Background, Task
from squall.web.frame.warming import warm_up
from squall.web.passphrases import keep_passphrase
from squall.web.settings import Settings
from squall.web.stages.kit.filters import Filters
from squall.web.stages.kit.search import PARTS, search_for, search_key


def soup(answer) -> BeautifulSoup:
    return BeautifulSoup(answer.text, "html.parser")


def words_of(answer) -> str:
    return soup(answer).get_text(" ", strip=True).replace("\u00a0", " ").replace("\u202f", " ")


def kits(client, job: int = 1, query: str = "") -> BeautifulSoup:
    for _ in range(60):
        page = soup(client.get(f"/jobs/{job}/kits{query}"))
        if page.select(".kits tbody tr"):
            return page
    raise AssertionError("the ranking did not end")


def test_list_shows_thumbnail_verdict_and_what_is_missing(client) -> None:
    rows = soup(client.get("/")).select(".job-row")
    assert len(rows) == 5
    assert all(row.select_one("svg.thumb") and row.select_one(".stamp") for row in rows)
    assert "no kit is chosen" in rows[0].select_one(".missing").text


@pytest.mark.parametrize("place", ["/jobs/1/power", "/jobs/2/prove", "/parts", "/"])
def test_units_are_changed_where_one_stands(client, place) -> None:
    back = soup(client.get(place)).select_one(".prefs input[name=back]")["value"]
    assert back == place
    answer = client.change("/preferences", {"units": "us", "back": back}, htmx=False)
    assert (answer.status_code, answer.headers["location"]) == (303, place)
    assert "ft, gal" in soup(client.get(place)).select_one(".prefs [aria-pressed=true]").text


@pytest.mark.parametrize("job", [1, 4, 5])
@pytest.mark.parametrize("stage", [stage.key for stage in MAIN])
def test_every_stage_of_every_kind_of_job(client, job: int, stage: str) -> None:
    answer = client.get(f"/jobs/{job}/{stage}")
    assert answer.status_code == 200
    page = soup(answer)
    assert page.select_one(".tape a[aria-current]").text.strip() == str(STAGES[stage].name)
    assert page.select_one("#verdict").text
    ids = [tag["id"] for tag in page.select("[id]")]
    assert len(ids) == len(set(ids))


@pytest.mark.parametrize("stage", ["survey", "lift", "power", "wire", "prove"])
def test_every_part_of_the_drawing_is_a_named_link_to_its_panel(client, stage: str) -> None:
    page = soup(client.get(f"/jobs/1/{stage}"))
    links = page.select("svg.beside a.part")
    assert {link["class"][-1] for link in links} >= {"part-water", "part-pump", "part-run", "part-outlet", "part-panel"}
    for link in links:
        assert link["aria-label"]
        address, anchor = link["href"].split("#")
        target = soup(client.get(address))
        assert target.find(id=anchor) is not None, link["href"]


def test_heights_are_to_scale(client) -> None:
    """On the drawing, the lift measure over a staff interval equals the lift over the staff's metres."""
    page = soup(client.get("/jobs/1/survey"))
    svg = page.select_one("svg.beside")
    measure = svg.select_one("line.measure")
    ticks = {float(t.text.replace("\u2212", "-")): float(t["y"]) for t in svg.select("text.staff-words")[:-1]}
    (low, y_low), (high, y_high) = min(ticks.items()), max(ticks.items())
    per_metre = (y_low - y_high) / (high - low)
    assert (float(measure["y2"]) - float(measure["y1"])) / per_metre == pytest.approx(9.4, rel=0.01)


@pytest.mark.parametrize(("typed", "si"), [("7.6m", 7.6), ("25 ft", 7.62), ("7,6 m", 7.6)])
def test_lift_is_typed_and_all_changes_in_place(client, typed: str, si: float) -> None:
    before = words_of(client.get("/jobs/1/survey"))
    answer = client.type("lift", typed)
    assert answer.status_code == 200
    page = soup(answer)
    assert page.select_one("#f-lift")["value"] == typed
    assert f"lift {si:g}" in page.select_one("svg.beside").get_text(" ").replace("\u00a0", " ")
    assert page.select_one("#verdict").text not in before
    assert page.select_one("html") is None  # only the part that changes


def test_us_units_show_feet_and_read_bare_numbers_as_feet(client) -> None:
    client.cookies.set("squall_units", "us")
    page = soup(client.type("lift", "25"))
    assert page.select_one("#f-lift")["value"] == "25 ft"
    assert "gal" in page.select_one("#verdict").text


@pytest.mark.parametrize(
    ("path", "typed", "words"),
    [
        ("lift", "4000 m", "allowed is −30 m to 250 m"), ("lift", "", "Nothing is typed"), ("lift", "3 gpm", "that is a flow"),
        ("run.p1.bore", "0", "allowed is 3 mm"), ("run.p1.length", "-5", "allowed is"), ("lift", "high", "can't be read"),
    ],
)  # fmt: skip
def test_bad_input_gets_a_sentence_at_its_place_and_loses_nothing(client, path: str, typed: str, words: str) -> None:
    before = client.get("/jobs/1/export.json").text
    answer = client.type(path, typed)
    assert answer.status_code == 422
    page = soup(answer)
    field = page.select_one(f"#f-{path.replace('.', '-')}")
    assert field["value"] == typed
    assert field["aria-invalid"] == "true"
    assert words in page.select_one(f"#f-{path.replace('.', '-')}-problem").text.replace("\u00a0", " ")
    assert client.get("/jobs/1/export.json").text == before


def test_a_plain_form_without_scripts_gets_a_redirect(client) -> None:
    data = {"path": "lift", "value": "8 m", "stage": "survey", "revision": client.revision()}
    answer = client.change("/jobs/1/field", data, htmx=False)
    assert (answer.status_code, answer.headers["location"]) == (303, "/jobs/1/survey")


def test_two_tabs_on_one_field_show_both_values(client) -> None:
    old = client.revision()
    client.type("lift", "8 m", tab="hers")
    answer = client.type("lift", "9 m", revision=old, tab="his")
    assert answer.status_code == 409
    box = soup(answer).select_one(".conflict")
    assert "8 m" in box.text
    assert "9 m" in box.text
    kept = client.type("lift", "9 m", tab="his")
    assert soup(kept).select_one("#f-lift")["value"] == "9 m"


def test_undo_and_redo(client) -> None:
    client.type("lift", "8 m")
    undone = client.change("/jobs/1/undo", {"stage": "survey"})
    assert "Undone: Lift" in words_of(undone)
    assert soup(undone).select_one("#f-lift")["value"] == "9.4 m"
    assert soup(client.change("/jobs/1/redo", {"stage": "survey"})).select_one("#f-lift")["value"] == "8 m"
    assert client.change("/jobs/1/redo", {"stage": "survey"}).status_code == 422


def test_a_lever_is_pulled_by_one_click_and_undone_by_one(client) -> None:
    page = soup(client.get("/jobs/1/power"))
    levers, refused = page.select(".lever"), page.select(".refused-levers li")
    assert len(levers) >= 4
    assert all("% water" in lever.text for lever in levers)
    assert all(":" in row.text for row in refused)
    before = page.select_one("#verdict").text
    pulled = client.change("/jobs/1/do/pull-lever", {"stage": "power", "item": "hose"})
    assert soup(pulled).select_one("#verdict").text != before
    assert soup(client.change("/jobs/1/undo", {"stage": "power"})).select_one("#verdict").text == before
    assert client.change("/jobs/1/do/pull-lever", {"stage": "power", "item": "none"}).status_code == 422


@pytest.mark.parametrize(
    ("action", "item", "status"),
    [
        ("add-piece", "", 200), ("remove-piece", "p2", 200), ("remove-piece", "p9", 422), ("add-drinkers", "", 200),
        ("remove-drinkers", "h1", 200), ("add-device", "toggle-10", 200), ("add-device", "laser", 422),
        ("remove-device", "0", 200), ("remove-device", "first", 422), ("choose-option", "o1", 200), ("remove-option", "o2", 200),
        ("remove-visit", "v1", 200), ("fly", "", 404),
    ],
)  # fmt: skip
def test_larger_changes(client, action: str, item: str, status: int) -> None:
    assert client.change(f"/jobs/1/do/{action}", {"stage": "survey", "item": item}).status_code == status


def test_kits_are_ranked_with_price_litres_and_reason_and_one_click_takes_one(client) -> None:
    page = kits(client)
    rows = page.select(".kits tbody tr")
    assert "cheapest that holds" in rows[0].text
    assert all(row.select_one(".why-here").text and "L" in row.text for row in rows)
    assert len(page.select("details tbody tr")) > 5
    form = rows[0].select_one("form")
    data = {field["name"]: field["value"] for field in form.select("input")}
    taken = client.change(form["hx-post"], data)
    assert taken.status_code == 200
    options = soup(taken).select(".options thead th")
    assert len(options) == 4
    assert "(chosen)" in options[3].text
    said = soup(taken).select_one(".taken-note").text
    assert said.startswith("Taken:")
    assert "stays among the options" in said
    wrong = client.change(form["hx-post"], {**data, "mark": "other"})
    assert "has changed since" in words_of(wrong)


def never_ending(client) -> Task:
    """A search for the first job that runs and runs."""
    key = search_key(assess(demo_jobs()[0]).job, Filters(), frozenset())
    client.app.state.background.begin("search", key, PARTS, lambda task: task.parts["ranking"].done.wait(60.0))
    return client.app.state.background.task("search", key)


def test_taking_a_kit_never_waits_inside_the_change(client, monkeypatch) -> None:
    """A ranking that has not ended is refused at once in the change: no write lock is held for it."""
    monkeypatch.setattr("squall.web.stages.kits.MOST_WAIT_S", 0.1)
    never_ending(client)
    answer = client.change("/jobs/1/kits/take", {"number": 0, "mark": "any"})
    assert answer.status_code == 422
    assert client.type("lift", "8 m").status_code == 200


def test_kits_of_one_source_only(client) -> None:
    rows = kits(client, query="?source=panel&all=yes").select(".kits tbody tr")
    assert len(rows) > 5
    assert {row.select("td")[2].text for row in rows} == {"panel direct"}


def test_a_search_shows_progress_and_can_be_stopped(client) -> None:
    going = never_ending(client)
    going.parts["ranking"].share = 0.4
    page = soup(client.get("/jobs/1/kits"))
    assert "40 %" in page.select_one("#kit-search").text
    assert page.select_one("progress")["value"] == "0.4"
    threading.Timer(0.3, lambda: going.parts["ranking"].done.set()).start()
    assert going.stopped is False
    client.change("/jobs/1/kits/stop")
    assert going.stopped is True


def test_a_stopped_search_says_so_and_can_be_begun_again(client) -> None:
    client.get("/jobs/1/kits")
    background = client.app.state.background
    key = search_key(assess(demo_jobs()[0]).job, Filters(), frozenset())
    task = background.task("search", key)
    task.stop()
    for part in task.parts.values():
        part.done.wait(30.0)
    if task.parts["ranking"].result is None:
        assert "stopped" in words_of(client.change("/jobs/1/kits/stop"))
        assert search_for(background, assess(demo_jobs()[0]), Filters(), frozenset())._task is not task


def test_long_work_is_found_again_kept_short_and_ends_with_the_application() -> None:
    background, go = Background(keep=2, at_once=3), threading.Event()

    def work(task: Task) -> None:
        task.run("one", lambda: go.wait(5.0) or 1)
        task.run("two", lambda: 1 / 0 if task.key == "bad" else task.told("two", 0.5, 1.0)(0.5))

    first = background.begin("x", "a", ("one", "two"), work)
    assert background.begin("x", "a", ("one", "two"), work) is first
    background.begin("x", "b", ("one", "two"), work)
    background.begin("x", "c", ("one", "two"), work)
    assert background.task("x", "a") is None
    assert first.stopped
    kept = background.task("x", "c")
    background.stop_all()
    assert kept is not None
    assert kept.stopped
    go.set()
    kept.parts["two"].done.wait(5.0)
    assert (kept.parts["one"].result, kept.parts["two"].share, kept.parts["two"].result) == (True, 0.75, False)


def test_readings_are_judged_kept_and_dated(client) -> None:
    page = soup(client.get("/jobs/1/prove?short=4.6&air=22"))
    assert "short-circuit amps" in page.select_one("#light-now .note").text
    flow = float(page.select_one("#part-outlet-flow b").text)
    data = {"short": "4.6", "air": "22", "open-volts": "20.4", "outlet-flow": f"{flow * 0.7:.2f} L/min"}
    answer = client.change("/jobs/1/readings", data)
    assert answer.status_code == 200
    visit = soup(answer).select_one(".visit")
    assert visit.select_one("time")["datetime"].endswith("Z")
    assert [mark.text for mark in visit.select(".judge")] == ["good", "low"]
    assert "worn pump" in visit.text


def test_bad_readings_lose_nothing_typed(client) -> None:
    answer = client.change("/jobs/1/readings", {"open-volts": "20.4", "pump-amps": "12 V", "outlet-flow": "-3"})
    assert answer.status_code == 422
    page = soup(answer)
    assert page.select_one("#m-open-volts")["value"] == "20.4"
    assert "that is a voltage" in page.select_one("#mp-pump-amps").text
    assert "less than nothing" in page.select_one("#mp-outlet-flow").text
    assert "Nothing is typed" in words_of(client.change("/jobs/1/readings", {}))
    assert client.change("/jobs/5/readings", {"open-volts": "20"}).status_code == 404


def test_sheet_for_paper(client) -> None:
    page = soup(client.get("/jobs/1/sheet/test"))
    assert len(page.select(".lights tbody tr")) == 6
    assert page.select_one("svg.wide")
    job = soup(client.get("/jobs/1/sheet/job"))
    assert "worn pump" in job.text


@pytest.mark.parametrize(("units", "wanted"), [("metric", "flow [L/min], head [m]"), ("us", "flow [gpm], head [ft]")])
def test_points_of_a_pump_name_the_units_they_are_shown_in(client, units, wanted) -> None:
    client.cookies.set("squall_units", units)
    assert wanted in soup(client.get("/parts/rill-5")).text.replace("\u00a0", " ")


def test_parts_say_what_is_guessed(client) -> None:
    page = soup(client.get("/parts"))
    assert len(page.select("#pumps tbody tr")) >= 14
    assert "resistance" in page.select_one("#pumps tbody .guessed-cell").text
    assert not [th.text for th in page.select("table.parts th[scope=col]") if "_" in th.text]
    assert "guessed, not stated by its maker: resistance." in words_of(client.get("/jobs/1/lift"))


def test_wrong_light_is_said_beside_its_field(client) -> None:
    page = soup(client.get("/jobs/1/prove?light=9000&air=hot&short=99"))
    assert "1 to 1\u202f400" in page.select_one("#light-p").text
    assert "can't be read" in page.select_one("#air-p").text
    assert "for this array" in page.select_one("#short-p").text


def test_why_answers_with_inputs_formula_and_source(client) -> None:
    page = soup(client.get("/jobs/1/lift"))
    for button in page.select("button.why:not(.gloss)"):
        box = page.find(id=button["popovertarget"])
        assert "How" in box.text
        assert "Source" in box.text
    assert len(page.select("button.why")) >= 5


def test_make_export_delete_import_is_the_same_job(client) -> None:
    made = client.change("/jobs", {"name": "Hare Gully"}, htmx=False)
    assert made.headers["location"] == "/jobs/6/survey"
    exported = client.get("/jobs/1/export.json")
    assert exported.headers["content-disposition"] == 'attachment; filename="goat-trough-on-kestrel-ridge.squall.json"'
    client.change("/jobs/1/delete", htmx=False)
    assert client.get("/jobs/1/survey").status_code == 404
    back = client.change("/import", htmx=False, files={"file": ("goats.json", exported.content)})
    number = back.headers["location"].split("/")[2]
    assert client.get(f"/jobs/{number}/export.json").text == exported.text
    assert client.change("/restore", htmx=False).status_code == 303
    assert client.change("/jobs", {"name": " "}, htmx=False).status_code == 422


def test_a_foreign_file_changes_nothing(client) -> None:
    cut = export(demo_jobs()[0]).encode()[:-100]
    answer = client.change("/import", htmx=False, files={"file": ("half.json", cut)})
    assert answer.status_code == 422
    assert "half.json" in words_of(answer)
    assert "cut off" in words_of(answer)
    assert len(soup(client.get("/")).select(".job-row")) == 5


def test_a_damaged_job_does_not_break_the_list(client) -> None:
    from squall.store.folder.database import connect

    conn = connect(client.settings.database)
    document = json.loads(conn.execute("SELECT document FROM job WHERE id = 2").fetchone()[0])
    document["climate"] = "gone"
    conn.execute("UPDATE job SET document = ? WHERE id = 2", (json.dumps(document),))
    conn.close()
    assert "no climate called" in words_of(client.get("/"))
    assert client.get("/jobs/2/survey").status_code == 422


def test_pages_for_what_is_not_there(client) -> None:
    for address in ("/nope", "/jobs/99/survey", "/jobs/1/flying", "/jobs/one/survey"):
        answer = client.get(address)
        assert answer.status_code in (404, 422)
        assert soup(answer).select_one(".error-page a")
        assert "Traceback" not in answer.text
    assert client.get("/jobs", headers={"accept": "application/json"}).json()["error"]


def test_a_fault_shows_no_inside(client, monkeypatch) -> None:
    monkeypatch.setattr("squall.web.lists.board.job_rows", lambda conn, today: 1 / 0)
    answer = client.get("/")
    assert answer.status_code == 500
    assert "fault of Squall's own" in words_of(answer)
    assert "ZeroDivisionError" not in answer.text


def test_drawing_as_a_file_carries_its_style(client) -> None:
    answer = client.get("/jobs/1/drawing.svg?stage=lift")
    assert answer.headers["content-type"] == "image/svg+xml"
    assert "<style>" in answer.text
    assert "http://www.w3.org/2000/svg" in answer.text


def test_text_of_people_is_never_markup(client) -> None:
    client.type("name", "<script>alert(1)</script>")
    client.type("run.p1.name", '"><b>x</b>')
    for address in ("/", "/jobs/1/survey", "/jobs/1/lift", "/jobs/1/sheet/test"):
        assert "<script>alert" not in client.get(address).text
        assert "<b>x</b>" not in client.get(address).text


def test_changes_need_the_key_and_our_own_site(client) -> None:
    data = {"path": "lift", "value": "8 m", "stage": "survey", "revision": 1}
    key = client.settings.key
    assert client.post("/jobs/1/field", data=data).status_code == 403
    assert client.post("/jobs/1/delete", headers={"x-squall-key": "wrong"}).status_code == 403
    for more in ({"origin": "http://elsewhere.example"}, {"sec-fetch-site": "cross-site"}):
        assert client.post("/jobs/1/delete", headers={"x-squall-key": key, **more}).status_code == 403
    assert client.get("/", headers={"host": "evil.example"}).status_code == 400
    assert client.get("/jobs/1/survey").status_code == 200


def test_policy_allows_nothing_remote_and_no_eval(client) -> None:
    answer = client.get("/jobs/1/lift")
    assert answer.headers["content-security-policy"] == POLICY
    assert "unsafe" not in POLICY
    page = soup(answer)
    for tag, name in (("script", "src"), ("link", "href"), ("img", "src")):
        for element in page.select(f"{tag}[{name}]"):
            assert element[name].startswith("/static/")
    assert not page.select("[style], [onclick], style")
    assert all(script.get("src") for script in page.select("script"))


def test_static_files_are_kept_by_browsers_and_pages_are_not(client) -> None:
    assert "immutable" in client.get("/static/squall.css").headers["cache-control"]
    assert client.get("/").headers["cache-control"] == "no-store"


def test_preferences_are_kept_and_lead_back_only_to_our_pages(client) -> None:
    answer = client.change("/preferences", {"theme": "sun", "units": "us", "back": "//elsewhere.example"}, htmx=False)
    assert answer.headers["location"] == "/"
    client.cookies.set("squall_theme", "sun")
    assert soup(client.get("/")).select_one("html")["data-theme"] == "sun"


def test_other_machines_need_the_passphrase(tmp_path) -> None:
    settings = Settings(tmp_path, hosts=("testserver",), need_passphrase=True)
    keep_passphrase(settings.passphrase_file, "under the third cairn")
    outside = TestClient(create_app(settings))
    assert outside.get("/", follow_redirects=False).headers["location"] == "/enter"
    assert outside.post("/api/sums/wire", json={}).status_code == 401
    for _ in range(5):
        assert outside.post("/enter", data={"passphrase": "guess"}).status_code == 403
    assert outside.post("/enter", data={"passphrase": "under the third cairn"}).status_code == 429
    conn = connect(settings.database)
    came_in(conn, "testclient")
    conn.close()
    outside.post("/enter", data={"passphrase": "under the third cairn"})
    assert outside.get("/").status_code == 200
    assert "third cairn" not in settings.passphrase_file.read_text()


def test_sums_and_schema_pages(client) -> None:
    assert "pipe-loss" in client.get("/sums").text
    assert client.get("/schema").json()["title"] == "Job"


def test_warming_up_works_a_whole_job_out(caplog) -> None:
    """It runs in a thread where nobody sees it fail: levers and all, without a word in the log."""
    warm_up()
    assert not caplog.records
