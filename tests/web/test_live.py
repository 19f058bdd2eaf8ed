"""Live: a logger's lines are read one by one, taken in by an address of their own, judged in the light they came with, and told of."""

import json
from datetime import UTC, datetime, timedelta

import pytest
from bs4 import BeautifulSoup
from fastapi.testclient import TestClient

from squall.demo import demo_jobs
from squall.formats.live_lines import MOST_LINES, read_lines
from squall.standins.instruments import EVERY_S, lines_at
from squall.standins.kits import KITS
from squall.store.folder.database import connect
from squall.store.jobs import add_job
from squall.store.kit.live import MOST_KEPT, Sent, add_sent, last_sent, newest_sent
from squall.web.app import create_app
from squall.web.settings import Settings
from squall.web.stages import live

NOW = datetime(2026, 6, 1, 12, 0, tzinfo=UTC)


def soup(answer) -> BeautifulSoup:
    return BeautifulSoup(answer.text, "html.parser")


def opened(client, job: int = 1) -> str:
    page = soup(client.change(f"/jobs/{job}/live/open", {"note": "the box"}))
    return page.select_one("#live-address-1 code").text.removeprefix("http://testserver")


def send(client, address: str, *lines: str):
    return client.post(address, content="\n".join(lines).encode())


def rows(client, job: int = 1, more: str = "") -> dict[str, list[str]]:
    page = soup(client.get(f"/jobs/{job}/live{more}"))
    cells = {row.th.text: [cell.text.replace("\xa0", " ").strip() for cell in row.select("td")] for row in page.select("#live-now tbody tr")}  # fmt: skip
    return {name: told[:3] for name, told in cells.items()}


def test_lines_are_read_with_their_units_their_time_or_none() -> None:
    found = read_lines("time,point,reading\n2026-06-01T11:59:30Z,pump-volts,15100 mV\n\n,outlet-flow,2 gpm\n2026-06-01T13:59:00+02:00,light,640\n,air,50 degF\n", NOW)  # fmt: skip
    assert found.refused == ()
    assert [(line.point, round(line.value, 6)) for line in found.read] == [
        ("pump-volts", 15.1), ("outlet-flow", round(2 * 3.785411784e-3 / 60, 6)), ("light", 640.0), ("air", 10.0),
    ]  # fmt: skip
    assert [line.at for line in found.read] == [NOW - timedelta(seconds=30), NOW, NOW - timedelta(minutes=1), NOW]


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("pump-volts,15 V", "this one has 2 cells"), (",moon,3 V", "is no point"), (",pump-volts,3 A", "3 A"), (",pump-volts,", "volt"),
        (",pump-amps,-2 A", "less than nothing"), ("yesterday,pump-amps,2 A", "no time"), (",pump-volts,1e999 V", ""), (",light,zebra", "zebra"),
    ],
)  # fmt: skip
def test_a_line_that_cannot_be_read_is_named_and_the_others_are_kept(line: str, says: str) -> None:
    found = read_lines(f",pump-volts,12 V\n{line}\n,pump-amps,3 A", NOW)
    assert [one.point for one in found.read] == ["pump-volts", "pump-amps"]
    ((number, why),) = found.refused
    assert number == 2
    assert says in str(why)


def test_a_clock_that_is_days_off_is_not_believed_and_too_many_lines_are_told() -> None:
    found = read_lines("2025-06-01T12:00:00Z,pump-volts,12 V\n2027-01-01T00:00:00Z,pump-volts,12 V\n2026-05-30T12:00:00Z,pump-volts,12 V", NOW)  # fmt: skip
    assert found.clock_off == 2
    assert [line.at for line in found.read] == [NOW, NOW, datetime(2026, 5, 30, 12, tzinfo=UTC)]
    many = read_lines(",pump-volts,12 V\n" * (MOST_LINES + 5), NOW)
    assert len(many.read) == MOST_LINES
    assert len(many.refused) == 1


def test_what_is_sent_stands_on_the_page_judged_in_its_light_and_is_kept_with_a_click(client) -> None:
    address = opened(client)
    told = send(client, address, ",light,640 W/m2", ",pump-volts,2.1 V", ",pump-amps,3.7 A", ",level,0.2 m", ",moon,1")
    assert told.status_code == 200
    assert told.text.startswith("4 readings kept.\nLine 5:")
    found = rows(client)
    assert found["volts at the pump, running"][2] == "low"
    assert found["amps at the pump, running"][0] == "3.7 A"
    assert found["water below its level"] == ["0.2 m", "", ""]
    page = soup(client.get("/jobs/1/live"))
    form = {
        field["name"]: field["value"] for field in page.select('form[action="/jobs/1/readings"] input[type="hidden"]')
    }
    assert form == {"light": "640 W/m2", "pump-volts": "2.1 V", "pump-amps": "3.7 A"}
    kept = client.change("/jobs/1/readings", form)
    assert kept.status_code == 200
    assert "low" in soup(kept).select_one("#kept .visit").text


def test_without_light_panels_are_not_judged_and_what_is_old_is_not_of_now(client) -> None:
    address = opened(client)
    old = (datetime.now(UTC) - timedelta(minutes=20)).isoformat()
    send(client, address, f"{old},pump-volts,9 V")
    page = soup(client.get("/jobs/1/live"))
    assert "nothing is of now" in page.select_one("#live-now").text
    assert page.select_one('form[action="/jobs/1/readings"]') is None
    send(client, address, ",pump-volts,9 V")
    assert "No light is sent" in client.get("/jobs/1/live").text


def test_a_stand_in_is_called_one_and_nothing_of_it_can_be_kept(client) -> None:
    page = soup(client.get("/jobs/1/live?standin=rotor-drags"))
    assert "invented readings" in page.select_one("#stands-in").text
    assert page.select_one('form[action="/jobs/1/readings"]') is None
    assert page.select_one("#live-now")["data-live"] == "/jobs/1/live/events?standin=rotor-drags"
    sound = rows(client, 1, "?standin=none")
    assert sound["volts at the pump, running"][2] == "good"
    stuck = rows(client, 1, "?standin=fuse-blown")
    assert stuck["amps at the pump, running"][2] == "low"
    conn = connect(client.settings.database)
    assert last_sent(conn, 1) == 0, "nothing of it came into the database"
    conn.close()
    assert soup(client.get("/jobs/1/live?standin=zebra")).select_one("#stands-in") is None


@pytest.mark.parametrize("kit", KITS)
def test_the_instruments_send_lines_that_are_read_whole(kit: str) -> None:
    body = lines_at(KITS[kit], "none", NOW, 3)
    found = read_lines(body, NOW + timedelta(seconds=1))
    assert found.refused == ()
    assert found.clock_off == 0
    points = {line.point for line in found.read}
    assert ("light" in points) == ("module" in KITS[kit]["source"])
    assert ("pump-volts" in points) == (KITS[kit]["motor_wires"] == 2)
    assert "outlet-flow" in points
    assert len({line.at for line in found.read}) == 3
    assert body == lines_at(KITS[kit], "none", NOW + timedelta(seconds=EVERY_S - 1), 3), "until it sends again"


def test_an_address_opens_one_kit_for_writing_and_nothing_else(tmp_path) -> None:
    app = create_app(Settings(tmp_path, hosts=("testserver",), need_passphrase=True))
    conn = connect(app.state.settings.database)
    number = add_job(conn, demo_jobs()[0], "demo").id
    code = live.open_address(conn, number, "")
    outside = TestClient(app, follow_redirects=False)
    assert outside.post(f"/live/{code}", content=b",pump-volts,12 V").text == "1 readings kept.\n"
    assert outside.get(f"/live/{code}").status_code in (404, 405)
    assert outside.get(f"/jobs/{number}/live").status_code == 303, "to the door"
    assert outside.get(f"/jobs/{number}/live/events").status_code == 303
    assert outside.post("/live/guess", content=b",pump-volts,12 V").status_code == 404
    assert outside.post(f"/live/{code}", content=b"garbage").status_code == 422
    assert outside.post(f"/live/{code}", content=b"\xff\xfe\x00").status_code == 422
    assert outside.post(f"/live/{code}", content=b"").status_code == 200
    assert outside.post(f"/live/{code}", content=b"x" * 90_000).status_code == 413
    assert outside.post(f"/live/{code}", content=b",pump-volts,12 V", headers={"origin": "http://evil.example"}).status_code == 403  # fmt: skip
    conn.close()


def test_an_ended_address_and_a_deleted_job_take_nothing_in(client) -> None:
    address = opened(client)
    page = soup(client.get("/jobs/1/live"))
    number = page.select_one('form[action="/jobs/1/live/end"] input')["value"]
    assert client.change("/jobs/2/live/end", {"address": number}).status_code == 404, "of another job"
    assert client.change("/jobs/1/live/end", {"address": number}).status_code == 200
    assert send(client, address, ",pump-volts,12 V").status_code == 404
    again = opened(client)
    client.change("/jobs/1/delete", {})
    assert send(client, again, ",pump-volts,12 V").status_code == 404
    assert client.change("/jobs/5/live/open", {}).status_code == 404, "it has no kit"


def test_only_the_last_thousands_stay(client) -> None:
    conn = connect(client.settings.database)
    at = datetime.now(UTC).isoformat()
    for number in range(3):
        add_sent(conn, 1, "o1", [Sent(at, "pump-volts", float(number))] * 2000)
    assert len(newest_sent(conn, 1, "o1", 10**6)) == MOST_KEPT
    assert newest_sent(conn, 1, "o1", 1)[0].value == 2.0
    conn.close()


def test_a_word_comes_when_something_did_and_at_each_sending_of_a_stand_in(client, monkeypatch) -> None:
    monkeypatch.setattr(live, "LISTENS_S", 1.5)
    monkeypatch.setattr(live, "LOOKS_EVERY_S", 0.25)
    told = client.get("/jobs/1/live/events")
    assert told.headers["content-type"].startswith("text/event-stream")
    assert [json.loads(line.removeprefix("data: ")) for line in told.text.split("\n\n") if line] == [{"came": 0}], "once, and quiet since"  # fmt: skip
    send(client, opened(client), ",pump-volts,12 V")
    assert client.get("/jobs/1/live/events").text == 'data: {"came": 1}\n\n'
    monkeypatch.setattr(live, "EVERY_S", 0.25)
    assert client.get("/jobs/1/live/events?standin=none").text.count("data: ") == 6
    assert client.get("/jobs/999/live/events").status_code == 404
