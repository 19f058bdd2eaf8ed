"""The log as CSV: out and in again, in both systems; ten kinds of wrong, each told by its line; the hour meter on the page."""

import csv
import io

import pytest
from bs4 import BeautifulSoup

from squall.formats import log_list
from squall.store.folder.database import connect
from squall.store.log import latest_visits


def words(answer) -> str:
    return " ".join(BeautifulSoup(answer.text, "html.parser").get_text(" ").replace("\u00a0", " ").split())


def visits(client):
    conn = connect(client.settings.database)
    found = latest_visits(conn, 1, 100)
    conn.close()
    return [visit for visit in found if visit.id != "v1"]  # the demo brings one along


def send(client, text: str, name: str = "log.csv"):
    return client.change("/jobs/1/keep/log", files={"file": (name, io.BytesIO(text.encode()), "text/csv")})


def heads() -> str:
    made = io.StringIO()
    keys = ("at", "light", "air", "meter", "pump-amps", "outlet-flow", "done", "note")
    csv.writer(made, lineterminator="\n").writerow([log_list._heading(key, "metric") for key in keys])
    return made.getvalue()


def test_a_table_comes_in_as_one_change_and_goes_out_again(client) -> None:
    text = heads() + (
        '2026-03-01 10:00,820,24,100,4.1,6.9,,"first, after fitting"\n'
        "2026-05-01,800,18,412.5,4.2,6.5,panels cleaned,\n"
        "2026-08-01 09:30,,,,,,pump renewed; panels cleaned,=danger\n"
    )
    answer = send(client, text)
    assert answer.status_code == 200
    assert "3 visits were taken in; 0 were there already" in words(answer)
    newest, middle, oldest = visits(client)
    assert oldest.at == "2026-03-01T10:00Z"
    assert oldest.meter.si == 100.0
    assert oldest.note == "first, after fitting"
    assert middle.at == "2026-05-01T12:00Z"
    assert middle.done == ["panels-cleaned"]
    assert newest.done == ["pump-renewed", "panels-cleaned"]
    assert newest.told_by == "light-not-known"
    page = words(client.get("/jobs/1/keep"))
    assert "Hour meter 412.5 h" in page
    out = client.get("/jobs/1/keep/log.csv").text.lstrip("\ufeff")
    rows = list(csv.DictReader(io.StringIO(out)))
    assert rows[-2]["Note"] == "'=danger", "no cell is a formula"
    assert "0 visits were taken in; 4 were there already" in words(send(client, out))
    client.cookies.set("squall_units", "us")
    us = client.get("/jobs/1/keep/log.csv").text
    assert "[gal/min]" in us
    assert "0 visits were taken in; 4 were there already" in words(send(client, us.lstrip("\ufeff")))
    assert client.change("/jobs/1/undo", {"stage": "keep"}).status_code == 200
    assert visits(client) == [], "one undo takes all back"


def test_numbers_are_read_in_the_units_of_their_heading(client) -> None:
    flow = log_list._heading("outlet-flow", "us")
    assert send(client, f"Time,Light,{flow}\n2026-03-01,800 W/m2,1.8\n").status_code == 200
    (one,) = visits(client)
    assert one.values[0].measured.si == pytest.approx(1.8 * 3.785411784e-3 / 60.0)


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("", "no rows"),
        ("Time\n", "no rows"),
        ("Light [W/m2]\n800\n", "No column says when"),
        ("Time,Weather\n2026-03-01,fine\n", "“Weather” means nothing here"),
        ("Time,Note\nyesterday,x\n", "Line 2: “yesterday” is no time"),
        ("Time,Note\n2999-01-01,x\n", "Line 2: 2999-01-01 is yet to come"),
        ("Time,Kit,Note\n2026-03-01,another,x\n", "Line 2: “another” is not the kit that is chosen"),
        ("Time,Done\n2026-03-01,prayed\n", "Line 2: “prayed” is nothing that is done here"),
        ("Time,Hour meter [h]\n2026-03-01,-5\n", "Line 2: “-5 h” is no count"),
        ("Time,pump-amps [A]\n2026-03-01,lots\n2026-03-02,-1\n", "Line 2: “lots” can't be read"),
        ("Time,pump-amps [A]\n2026-03-01,4.1\n2026-03-02,-1\n", "Line 3: “-1 A” is less than nothing"),
        ("Time,Note\n" + "2026-03-01,x\n" * 401, "401 rows; at most 400"),
        ("\0\0", "no text"),
    ],
)
def test_what_is_wrong_with_a_table_is_told_and_nothing_is_kept(client, text: str, told: str) -> None:
    answer = send(client, text)
    assert answer.status_code == 422
    assert told in words(answer)
    assert visits(client) == []


def test_a_job_without_a_kit_takes_no_log(client) -> None:
    answer = client.change("/jobs/5/keep/log", files={"file": ("a.csv", b"Time,Note\n2026-03-01,x\n")})
    assert answer.status_code == 404
    assert "no kit" in words(answer)


def test_the_hour_meter_is_typed_with_a_visit(client) -> None:
    bad = client.change("/jobs/1/keep/visit", {"meter": "many", "note": "hello"})
    assert bad.status_code == 422
    assert BeautifulSoup(bad.text, "html.parser").select_one("#v-meter")["value"] == "many"
    assert BeautifulSoup(bad.text, "html.parser").select_one("#v-note")["value"] == "hello"
    assert client.change("/jobs/1/keep/visit", {"meter": "1204.5"}).status_code == 200
    assert visits(client)[0].meter.si == 1204.5
    assert "by a year's run since" in words(client.get("/jobs/1/keep"))
    for day, hours in (("2026-02-01", "100"), ("2026-08-01", "824")):
        assert client.change("/jobs/1/keep/visit", {"meter": hours, "on": day}).status_code == 200
    client.change("/jobs/1/do/remove-visit", {"stage": "keep", "item": "v2"})
    assert "by its hour meter" in words(client.get("/jobs/1/keep"))
