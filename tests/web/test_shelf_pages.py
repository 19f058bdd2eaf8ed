"""The shelf's pages and kits by hand: entered, judged, changed slot by slot, undone; a job keeps its own copies."""

import io
import json

import pytest
from bs4 import BeautifulSoup

from squall.core.kit.carried import mass_lines
from squall.job.worked.assess import assess
from squall.store.folder.database import connect
from squall.store.jobs import one_job
from squall.store.shelf import counts_in_van, on_shelf

PUMP = {
    "family": "pumps", "name": "Shed pump", "end": "centrifugal", "placement": "submersible", "rated_v": "12 V",
    "points_l_min_m_a": "10 L/min at 18 m, 5 A", "price": "40",
}  # fmt: skip
PANEL = {"family": "panels", "name": "Box 100", "watts": "100 W", "voc_v": "22.3 V", "vmp_v": "18.2 V", "price": "60"}
LIST = "Id,Name,Watts [W],Open volts [V],Working volts [V],Price\n"


def soup(answer) -> BeautifulSoup:
    assert answer.status_code in (200, 422), answer.text[:400]
    return BeautifulSoup(answer.text, "html.parser")


def job(client, number: int = 1):
    conn = connect(client.settings.database)
    try:
        return one_job(conn, number).job
    finally:
        conn.close()


def shelf(client):
    conn = connect(client.settings.database)
    try:
        return on_shelf(conn)
    finally:
        conn.close()


def put(client, typed: dict[str, str]) -> str:
    answer = client.change("/parts/save", typed, htmx=False)
    assert answer.status_code == 303, answer.text[:600]
    return answer.headers["location"].rsplit("/", 1)[1]


def enter(client, **slots: str):
    return client.change(
        "/jobs/1/kits/enter", {"pump": "my-shed-pump", "panel": "my-box-100", "source": "panel", **slots}
    )


def test_a_wrong_figure_keeps_what_was_typed_and_says_why(client) -> None:
    page = soup(client.change("/parts/save", {**PUMP, "points_l_min_m_a": "10 L/min"}, htmx=False))
    assert "a point is a flow" in page.select_one("#part-points_l_min_m_a-p").text
    assert page.select_one("#part-name")["value"] == "Shed pump"
    assert page.select_one("#part-end option[selected]")["value"] == "centrifugal"
    assert shelf(client) == {}


def test_a_part_has_a_page_that_tells_what_is_guessed(client) -> None:
    part = put(client, PUMP)
    page = soup(client.get(f"/parts/{part}"))
    assert "through its one measured point" in page.text
    assert "1 kg, for want of a scale" in page.text
    assert json.loads(page.select_one("#chart-part")["data-chart"])["type"] == "part"
    assert client.get("/parts/nobody").status_code == 404


def test_a_part_is_found_filtered_sorted_and_counted(client) -> None:
    part = put(client, PANEL)
    rows = soup(client.get("/parts?family=panels&sort=watts")).select("#panels tbody tr")
    assert [float(row.select("td.num")[0].text.split()[0]) for row in rows if row.select("td.num")[0].text] == sorted(
        float(row.select("td.num")[0].text.split()[0]) for row in rows if row.select("td.num")[0].text
    )
    assert len(soup(client.get("/parts?family=panels&whose=mine")).select("#panels tbody tr")) == 1
    assert soup(client.get("/parts?q=kite+50")).select_one("#kite-50")
    assert not soup(client.get("/parts?family=pumps&volts=48")).select_one("#rill-5")
    assert client.change("/parts/van", {"part": part, "count": "3"}, htmx=False).status_code == 303
    assert soup(client.get("/parts?family=panels&whose=van")).select_one(f"#{part} input[name=count]")["value"] == "3"
    assert client.change("/parts/van", {"part": part, "count": "many"}, htmx=False).status_code == 422


def test_undo_and_redo_of_the_shelf(client) -> None:
    part = put(client, PANEL)
    client.change("/parts/save", {**PANEL, "part_id": part, "price": "75"}, htmx=False)
    assert shelf(client)[part].part.price == 75.0
    client.change("/parts/undo", {}, htmx=False)
    assert shelf(client)[part].part.price == 60.0
    client.change("/parts/undo", {}, htmx=False)
    assert shelf(client) == {}
    client.change("/parts/redo", {}, htmx=False)
    client.change("/parts/redo", {}, htmx=False)
    assert shelf(client)[part].part.price == 75.0
    answer = client.change("/parts/redo", {}, htmx=False)
    assert "nothing" in client.get(answer.headers["location"]).text


def test_a_list_is_looked_at_before_it_is_taken_and_is_one_step_of_undo(client) -> None:
    text = LIST + "my-a,A,100,22.3,18,60\nmy-b,B,50,22.3,18,30\nmy-c,C,oops,22,18,1\n"
    page = soup(
        client.change(
            "/parts/look", {"family": "panels"}, htmx=False, files={"file": ("mine.csv", io.BytesIO(text.encode()))}
        )
    )
    assert "oops" in page.text
    assert shelf(client) == {}
    mark = page.select_one("input[name=mark]")["value"]
    assert client.change("/parts/take-list", {"mark": mark}, htmx=False).status_code == 303
    assert set(shelf(client)) == {"my-a", "my-b"}
    assert client.change("/parts/take-list", {"mark": mark}, htmx=False).status_code == 404
    assert client.get("/parts/list.csv?family=panels").text.count("my-") == 2
    client.change("/parts/undo", {}, htmx=False)
    assert shelf(client) == {}
    broken = client.change(
        "/parts/look", {"family": "panels"}, htmx=False, files={"file": ("x.png", io.BytesIO(b"\0\1"))}
    )
    assert "Nothing was read" in soup(broken).text


def test_money_has_one_code(client) -> None:
    assert client.change("/parts/currency", {"code": "zar"}, htmx=False).status_code == 303
    assert "Price [ZAR]" in client.get("/parts/list.csv?family=panels&blank=true").text
    assert client.change("/parts/currency", {"code": "rand"}, htmx=False).status_code == 422


def test_a_kit_of_ones_own_parts_is_entered_and_judged(client) -> None:
    put(client, PUMP), put(client, PANEL)
    page = soup(enter(client, pump=""))
    assert "Which pump" in page.select_one("#enter-kit .problem").text
    assert page.select_one("#enter-panel option[selected]")["value"] == "my-box-100"
    page = soup(enter(client, in_parallel="2"))
    chosen = job(client).option
    assert (chosen.pump, chosen.in_parallel, chosen.hose) == ("my-shed-pump", 2, None)
    assert {copy.id for copy in job(client).parts} == {"my-shed-pump", "my-box-100"}
    assert page.select_one(".verdict")
    assert assess(job(client)).chosen is not None


def test_every_slot_is_changed_by_hand(client) -> None:
    put(client, PUMP), put(client, PANEL)
    enter(client)
    o = f"options.{job(client).chosen}"
    for slot, value in (
        ("source", "battery"),
        ("battery", "loaf-50"),
        ("panel", "kite-110"),
        ("name", "as found"),
        ("tank", "keg-200"),
    ):
        assert client.type(f"{o}.{slot}", value, stage="kits").status_code == 200
    option = job(client).option
    assert (option.source, option.battery, option.panel, option.tank) == ("battery", "loaf-50", "kite-110", "keg-200")
    assert option.controller is not None
    assert option.array_cable is not None
    assert {copy.id for copy in job(client).parts} == {"my-shed-pump"}  # the panel's copy goes with the panel
    assert client.type(f"{o}.source", "panel", stage="kits").status_code == 200
    assert (job(client).option.controller, job(client).option.battery, job(client).option.array_cable) == (
        None,
        None,
        None,
    )
    assert client.type(f"{o}.pump", "no-such", stage="kits").status_code == 422
    client.change("/jobs/1/do/copy-option", {"stage": "kits", "item": job(client).chosen})
    assert job(client).option.name.startswith("as found")
    assert len([x for x in job(client).options if x.pump == "my-shed-pump"]) == 2


@pytest.mark.parametrize(("amps", "words"), [("40 A", "burn before it opens"), ("1 A", "opens for nothing"), ("", "")])
def test_a_fitted_fuse_is_judged_on_every_page(client, amps, words) -> None:
    option = job(client).option
    assert client.type(f"options.{option.id}.fuse", amps, stage="kits").status_code == 200
    for stage in ("kits", "wire", "survey"):
        said = client.get(f"/jobs/1/{stage}").text
        assert (words in said) if words else ("that is fitted" not in said or stage == "kits")


def test_what_is_owned_costs_nothing_and_is_told(client) -> None:
    before = assess(job(client)).chosen
    panel = before.kit.panel.id
    client.change("/jobs/1/kits/own", {"part": panel, "count": str(before.kit.panels)})
    after = assess(job(client)).chosen
    assert after.price == pytest.approx(before.price - before.kit.panels * before.kit.panel.price)
    assert after.worst_litres == pytest.approx(before.worst_litres)
    client.change("/jobs/1/do/not-owned", {"stage": "kits", "item": panel})
    assert assess(job(client)).chosen.price == pytest.approx(before.price)
    assert client.change("/jobs/1/kits/own", {"part": panel, "count": "some"}).status_code == 422


def test_a_job_keeps_its_own_copy_until_it_takes_the_new_one(client) -> None:
    pump, panel = put(client, PUMP), put(client, PANEL)
    enter(client)
    litres = assess(job(client)).chosen.worst_litres
    client.change("/parts/save", {**PUMP, "part_id": pump, "points_l_min_m_a": "20 L/min at 18 m, 5 A"}, htmx=False)
    assert assess(job(client)).chosen.worst_litres == litres
    page = soup(client.get("/jobs/1/kits"))
    assert "has changed on your shelf" in page.text
    assert "older copy" in client.get(f"/parts/{pump}").text
    client.change("/jobs/1/do/renew-part", {"stage": "kits", "item": pump})
    assert assess(job(client)).chosen.worst_litres > litres
    client.change(f"/parts/{panel}/remove", {}, htmx=False)
    client.change(f"/parts/{pump}/remove", {}, htmx=False)
    assert client.get("/jobs/1/wire").status_code == 200
    assert assess(job(client)).chosen.kit.pump.name == "Shed pump"
    exported = client.get("/jobs/1/export.json").content
    assert client.change("/import", htmx=False, files={"file": ("job.json", io.BytesIO(exported))}).status_code == 303
    torn = json.loads(exported)
    torn["parts"][0]["row"].pop("name")
    refused = client.change("/import", htmx=False, files={"file": ("job.json", io.BytesIO(json.dumps(torn).encode()))})
    assert refused.status_code == 422
    assert "lacks a figure" in refused.text


def test_hidden_parts_stay_with_their_jobs(client) -> None:
    pump = job(client).option.pump
    assert client.change("/parts/hide", {"part": pump}, htmx=False).status_code == 303
    page = soup(client.get("/parts?family=pumps"))
    assert "hidden" in page.select_one(f"#{pump}").text
    assert client.get("/jobs/1/survey").status_code == 200
    client.change("/parts/hide", {"part": pump, "hidden": "no"}, htmx=False)
    assert "hidden" not in soup(client.get("/parts?family=pumps")).select_one(f"#{pump}").text
    assert client.change("/parts/hide", {"part": "nobody"}, htmx=False).status_code == 404


def test_a_kit_says_what_the_van_lacks_and_counts_it_down(client) -> None:
    option = job(client).option
    client.change("/parts/van", {"part": option.panel, "count": "5"}, htmx=False)
    table = soup(client.get("/jobs/1/kits")).select_one("#from-van")
    assert "missing" in table.text
    client.change("/jobs/1/kits/fitted", {})
    conn = connect(client.settings.database)
    left = counts_in_van(conn)
    conn.close()
    assert left[option.panel] == 5 - option.in_series * option.in_parallel
    assert client.change("/jobs/5/kits/fitted", {}).status_code == 404


def test_a_kits_weight_is_told_piece_by_piece(client) -> None:
    k = assess(job(client)).chosen
    lines = mass_lines(k.setup)
    assert sum(mass for _, mass in lines) > k.kit.pump.mass_kg + k.kit.panels * k.kit.panel.mass_kg
    assert "Weight to carry" in client.get("/jobs/1/kits").text


def test_a_bank_or_panels_under_the_least_volts_are_refused(client) -> None:
    """A label that states its least volts is read by verdict, search and slots alike."""
    put(client, {**PUMP, "rated_v": "24 V", "least_v": "20 V", "points_l_min_m_a": "10 L/min at 18 m, 3 A"})
    put(client, PANEL)
    enter(client)
    assert "gives as the pump's least" in str(assess(job(client)).chosen.refusal)
    page = soup(enter(client, source="battery"))
    assert "won't do" in page.text


def test_a_cable_of_ones_own_has_its_own_price(client) -> None:
    plain = assess(job(client)).chosen
    label = plain.cabling.pump.label.replace("\u00a0", " ")
    put(client, {"family": "cables", "name": "reel", "size": label, "price": "9.5"})
    # The job's own parts are read in its own request: the price stands on its page.
    assert str(round(plain.price)) not in soup(client.get("/jobs/1/kits")).select_one("table.options").text
    assert (
        "size"
        in client.change(
            "/parts/save", {"family": "cables", "name": "reel", "size": "thick", "price": "1"}, htmx=False
        ).text
    )


def test_a_controllers_lamps_are_a_table_where_the_hand_is(client) -> None:
    """Typed in a line, refused where it says nothing, shown on its page and on Prove."""
    row = {
        "family": "pump-controllers",
        "name": "Barn box",
        "min_v": "14",
        "max_v": "30",
        "out_max_v": "14",
        "max_a": "8",
    }
    wrong = client.change("/parts/save", row | {"lamps": "green"}, htmx=False)
    assert wrong.status_code == 422
    assert "green, steady: it runs" in wrong.text
    made = client.change("/parts/save", row | {"lamps": "green, steady: it runs; left, red, blinking: dry"}, htmx=False)
    assert made.status_code == 303
    page = soup(client.get(made.headers["location"]))
    rows = [[cell.text for cell in line.select("th, td")] for line in page.select("table.lamps tbody tr")]
    assert rows == [["green", "steady", "it runs"], ["left, red", "blinking", "dry"]]
    job = client.get("/jobs/1/export.json").json()
    option = f"options.{job['chosen']}"
    client.type(f"{option}.source", "controller", stage="kits")
    client.type(f"{option}.controller", "warden-12", stage="kits")
    shown = soup(client.get("/jobs/1/prove")).select("#lamps table.lamps tbody tr")
    assert len(shown) == 6
    assert "the probe ran dry" in shown[4].text


def test_an_odd_lot_of_panels_is_a_kits_panel(client) -> None:
    """Two unlike panels side by side feed a kit; unlike volts are refused in words; the ranking leaves the lot alone."""
    option = f"options.{client.get('/jobs/1/export.json').json()['chosen']}"
    client.change("/jobs/1/do/add-row", {"stage": "kits", "item": "lot:kite-50"})
    page = client.change("/jobs/1/do/add-row", {"stage": "kits", "item": "lot:kite-80"})
    assert "Together like one panel of" in page.text
    assert client.change("/jobs/1/do/add-row", {"stage": "kits", "item": "lot:nothing"}).status_code == 422
    client.type(f"{option}.in_parallel", "1", stage="kits")
    taken = client.type(f"{option}.panel", "odd-lot", stage="kits")
    assert taken.status_code == 200
    assert "odd lot of 2 panels" in client.get("/jobs/1/kits").text
    # 130 W straight on this pump: judged like any other panels, by the cloud's edge.
    assert "19.1 V at the motor" in soup(client.get("/jobs/1/survey")).select_one("#verdict").text.replace("\xa0", " ")
    client.type(f"{option}.cut_from", "an old orange lead, tinned", stage="kits")
    assert "an old orange lead" in client.get("/jobs/1/wire").text
    again = client.get("/jobs/1/export.json")
    assert [row["string"] for row in again.json()["lot"]] == [1, 2]
    client.settle()
    assert "odd lot" not in soup(client.get("/jobs/1/kits")).select_one("#kit-search").text
    client.type("lot.g1.count", "2", stage="kits")
    clash = client.get("/jobs/1/kits").text
    assert "Strings side by side want like volts" in clash
    assert "can&#39;t be worked out" in clash or "can't be worked out" in clash
    last = client.change("/jobs/1/do/remove-row", {"stage": "kits", "item": "lot.g1"})
    assert last.status_code == 200
    assert client.change("/jobs/1/do/remove-row", {"stage": "kits", "item": "lot.g2"}).status_code == 422
