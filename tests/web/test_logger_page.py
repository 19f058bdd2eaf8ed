"""A logger's file by hand: its columns said once, told in lanes and days, a reading a week into the log; lies are said and not believed."""

import math
from datetime import UTC, datetime, timedelta

import pytest
from test_job_list import soup

from squall.store.folder.database import connect
from squall.store.kit.loggers import hours_logged
from squall.store.kit.record import record_of
from squall.store.log import latest_visits

BEGIN = datetime.now(UTC).replace(tzinfo=None, hour=0, minute=0, second=0, microsecond=0) - timedelta(days=50)
NAMES = "Stamp,Bus voltage,Current [mA],Flow L/min"


def table(days: int = 40, off_h: float = 0.0, names: str = NAMES) -> bytes:
    """A kit that runs about noon, read every five minutes."""
    rows = [names]
    for n in range(days * 288):
        at = BEGIN + timedelta(minutes=5 * n)
        sun = math.sin(math.pi * (at.hour + at.minute / 60.0 - 6.3) / 12.0)
        on = sun > 0.5
        stamp = at + timedelta(hours=off_h)
        rows.append(f"{stamp:%Y-%m-%d %H:%M:%S},{15.0 * on:.2f},{3000 * on},{4.0 * on:.1f}")
    return "\n".join(rows).encode()


def send(client, data: bytes, name: str = "june.csv"):
    return client.change("/jobs/1/logger", files={"file": (name, data)})


def read(client, number: int = 1, **more: str):
    said = {
        "time": "0",
        "volts": "1",
        "volts-unit": "V",
        "amps": "2",
        "amps-unit": "mA",
        "flow": "3",
        "flow-unit": "L/min",
    }
    return client.change(f"/jobs/1/logger/{number}/columns", said | more)


def test_the_columns_are_asked_once_and_known_in_the_next_file(client) -> None:
    asked = soup(send(client, table(10)))
    assert "say what its columns are" in asked.text
    chosen = {select["name"]: select.select_one("option[selected]").text for select in asked.select("#file-1 select") if select.select_one("option[selected]")}  # fmt: skip
    assert chosen["amps"] == "Current [mA]"
    assert chosen["amps-unit"] == "mA"
    told = soup(read(client))
    assert told.select_one("#file-1 svg.logged-lanes")
    assert len(told.select("#days-1 tbody tr")) == 10
    again = soup(send(client, table(5), "july.csv"))
    assert "its columns as before" in again.text
    assert again.select_one("#file-2 svg.logged-lanes")
    other = soup(send(client, table(5, names=NAMES.replace("Bus", "Pump")), "other.csv"))
    assert other.select_one("#file-3 form[action$='/columns']"), "other names are asked about"


def test_its_hours_are_the_pumps_hours_everywhere(client) -> None:
    before = client.get("/jobs/1/keep").text
    assert "by a year" in before
    send(client, table(40))
    read(client)
    keep = soup(client.get("/jobs/1/keep"))
    assert "by its logger" in keep.select_one("#wears").text
    conn = connect(client.settings.database)
    option = client.get("/jobs/1/export.json").json()["chosen"]
    logged = hours_logged(conn, 1, option)[0]
    assert logged.hours == pytest.approx(8.0 * 40, rel=0.03)
    assert record_of(conn, 1, option).logged == (logged,)
    conn.close()
    assert "by its logger" in client.get("/jobs/1/sheet/booklet").text


def test_a_reading_a_week_goes_into_the_log_and_one_undo_takes_all_back(client) -> None:
    send(client, table(40))
    read(client)
    conn = connect(client.settings.database)
    before = len(latest_visits(conn, 1, 100))
    assert "readings are in the log" in client.change("/jobs/1/logger/1/read").text
    made = latest_visits(conn, 1, 100)
    assert len(made) - before == 6
    new = [visit for visit in made if visit.told_by == "light-not-known"]
    assert {value.point: value.measured.si for value in new[0].values} == pytest.approx(
        {"pump-volts": 15.0, "pump-amps": 3.0, "outlet-flow": 4.0 / 60_000.0}
    )
    noon = datetime.fromisoformat(new[0].at.replace("Z", ""))
    assert 6 <= noon.hour <= 14, "by universal time"
    for page in ("keep", "prove", "learned", "sheet/booklet", "sheet/job", "keep/log.csv", "field.html"):
        assert client.get(f"/jobs/1/{page}").status_code == 200, page
    client.change("/jobs/1/undo")
    assert len(latest_visits(conn, 1, 100)) == before
    conn.close()


def test_a_clock_off_by_hours_is_said_kept_and_not_believed(client) -> None:
    send(client, table(20, off_h=6.0))
    page = soup(read(client))
    assert "Its clock seems" in page.select_one("#file-1 li.problem").text
    assert not page.select_one("#file-1 form[action$='/read']")
    refused = client.change("/jobs/1/logger/1/read")
    assert refused.status_code == 422
    assert "can't be believed" in soup(refused).text


@pytest.mark.parametrize(
    ("data", "said"),
    [(b"", "no rows"), (b"\x00\x01,\x02\n\x00,\x00\n", "no text"), (b"alone\n1\n2\n", "a column of times")],
)
def test_what_is_no_loggers_file_changes_nothing(client, data: bytes, said: str) -> None:
    answer = send(client, data)
    assert answer.status_code == 422
    assert said in answer.text
    assert "No file yet." in client.get("/jobs/1/logger").text


def test_wrong_columns_are_refused_with_what_was_said_kept(client) -> None:
    send(client, table(3))
    for more, said in (
        ({"volts": "0"}, "the same column"), ({"time": ""}, "which column the time is"), ({"time": "1", "volts": ""}, "rows can't be read"),
        ({"amps-unit": "gpm"}, "no unit"), ({"volts": "77"}, "isn't in the file"), ({"volts": "-1"}, "which column"),
    ):  # fmt: skip
        answer = read(client, **more)
        assert answer.status_code == 422, more
        assert said in soup(answer).text, more
    kept = soup(read(client, volts="3", **{"flow": "3"}))
    assert kept.select_one("#c-1-volts option[selected]").text == "Flow L/min", "what was said stays"
    assert read(client, number=99).status_code == 404


def test_a_file_comes_back_as_it_came_and_is_taken_out(client) -> None:
    data = table(2)
    send(client, data, "../../etc/june.csv")
    answer = client.get("/jobs/1/logger/1.csv")
    assert answer.content == data
    assert ".." not in answer.headers["content-disposition"]
    assert client.get("/jobs/2/logger/1.csv").status_code == 404
    assert "Taken out." in client.change("/jobs/1/logger/remove", {"file": "1"}).text
    assert client.get("/jobs/1/logger/1.csv").status_code == 404


def test_a_job_without_a_kit_has_no_logger(client) -> None:
    assert client.change("/jobs/5/logger", files={"file": ("june.csv", table(1))}).status_code == 404
    assert "No kit is chosen yet" in client.get("/jobs/5/logger").text
