"""Persons with a passphrase of their own, and links to look on: in, named, out again; what a guest can't do."""

import re
import time
from datetime import date, timedelta
from pathlib import Path

import pytest
from bs4 import BeautifulSoup
from icalendar import Calendar
from starlette.testclient import TestClient

from squall.core.errors import BadQuantity
from squall.demo import demo_jobs
from squall.store import sessions
from squall.store.folder.database import connect
from squall.store.jobs import add_job
from squall.web.access import COOKIE
from squall.web.app import create_app
from squall.web.passphrases import hash_passphrase, keep_passphrase
from squall.web.settings import Settings

HOUSE, OWN = "under the third cairn", "rushes by the lower ford"


@pytest.fixture
def app(tmp_path: Path):
    settings = Settings(tmp_path, hosts=("testserver",), need_passphrase=True)
    keep_passphrase(settings.passphrase_file, HOUSE)
    made = create_app(settings)
    conn = connect(settings.database)
    add_job(conn, demo_jobs()[0], "demo")
    sessions.keep_person(conn, "Odile", hash_passphrase(OWN))
    conn.close()
    return made


def came(app, **given: str) -> TestClient:
    client = TestClient(app, headers={"x-squall-key": app.state.settings.key})
    client.post("/enter", data=given)
    return client


def inside(client: TestClient) -> bool:
    return client.get("/", follow_redirects=False).status_code == 200


def typed(client: TestClient, value: str):
    seen = re.search(r'name="revision" value="(\d+)"', client.get("/jobs/1/survey").text)[1]
    sent = {"path": "lift", "value": value, "stage": "survey", "revision": seen}
    return client.post("/jobs/1/field", data=sent, headers={"x-squall-tab": "tab one"})


def link_of(client: TestClient, **asked: str) -> str:
    answer = client.post("/people/guest", data=asked)
    return re.search(r"guest#([\w-]+)", answer.text)[1]


def test_a_person_comes_in_by_their_own_and_history_tells_who(app) -> None:
    odile, house = came(app, name=" Odile ", passphrase=OWN), came(app, passphrase=HOUSE)
    assert inside(odile)
    assert inside(house)
    assert typed(odile, "8.1 m").status_code == 200
    assert typed(house, "8.2 m").status_code == 200
    rows = BeautifulSoup(house.get("/jobs/1/history").text, "html.parser").select("tbody tr")
    assert [(row.select("td")[1].text, "8." in row.text) for row in rows[:2]] == [("–", True), ("Odile", True)]


@pytest.mark.parametrize(
    "given",
    [{"name": "Odile", "passphrase": HOUSE}, {"name": "Nobody", "passphrase": HOUSE}, {"name": "", "passphrase": OWN},
     {"name": "Nobody", "passphrase": OWN}, {"name": "odile", "passphrase": OWN}],
)  # fmt: skip
def test_neither_passphrase_opens_for_another_name(app, given: dict[str, str]) -> None:
    assert not inside(came(app, **given))


def test_a_person_is_out_by_a_new_passphrase_and_when_let_in_no_more(app) -> None:
    odile, house = came(app, name="Odile", passphrase=OWN), came(app, passphrase=HOUSE)
    wrong = house.post("/people/add", data={"name": "Odile", "passphrase": "short"})
    assert wrong.status_code == 422
    assert 'value="Odile"' in wrong.text
    assert "too short" in wrong.text
    assert inside(odile)
    assert house.post("/people/add", data={"name": "Odile", "passphrase": OWN + " two"}, follow_redirects=False).status_code == 303  # fmt: skip
    assert not inside(odile)
    odile = came(app, name="Odile", passphrase=OWN + " two")
    assert inside(odile)
    assert "Odile" in house.get("/people").text
    house.post("/people/remove", data={"name": "Odile"})
    assert not inside(odile)
    assert not inside(came(app, name="Odile", passphrase=OWN + " two"))
    assert inside(house)
    keep_passphrase(app.state.settings.passphrase_file, HOUSE + " again")
    assert not inside(house)


@pytest.mark.parametrize("name", ["", " ", "a, b", "x" * 25, "tab\there\x00"])
def test_a_name_that_could_not_be_told_is_refused(app, name: str) -> None:
    conn = connect(app.state.settings.database)
    with pytest.raises(BadQuantity):
        sessions.keep_person(conn, name, {"salt": "", "hash": ""})
    conn.close()


def test_a_guest_sees_and_changes_nothing(app) -> None:
    house = came(app, passphrase=HOUSE)
    code = link_of(house, note="the neighbour", hours="3 h")
    assert "the neighbour" in house.get("/people").text
    assert code not in house.get("/people").text, "shown once"
    guest = TestClient(app, headers={"x-squall-key": app.state.settings.key})
    assert guest.post("/guest", data={"code": code[:-1]}).status_code == 403
    assert not inside(guest)
    guest.post("/guest", data={"code": code})
    page = guest.get("/jobs/1/survey")
    assert page.status_code == 200
    assert "looking on" in page.text
    before = guest.get("/jobs/1/export.json").text
    assert typed(guest, "9.9 m").status_code == 403
    for address in (
        "/jobs",
        "/jobs/1/delete",
        "/people/guest",
        "/data/copy",
        "/leave-all",
        "/parts/save",
        "/jobs/1/photos",
    ):
        assert guest.post(address, data={}).status_code == 403, address
    for address in ("/data", "/people", "/phone", "/data/copies/x"):
        assert guest.get(address).status_code == 403, address
    assert guest.get("/jobs/1/export.json").text == before
    assert guest.post("/preferences", data={"units": "us", "back": "/"}, follow_redirects=False).status_code == 303
    assert guest.post("/api/sums/pipe-loss", json={}).status_code == 422, "a sum changes nothing"
    assert guest.post("/standings", data={}).status_code == 200, "how jobs stand is only worked out"
    for address in ("/yard/frequencies", "/jobs/1/logger", "/jobs/1/logger/1/read", "/jobs/1/logger/remove"):
        assert guest.post(address, data={}).status_code == 403, address
    guest.post("/leave")
    assert not inside(guest)


def test_a_link_ends_by_itself_and_by_hand(app, monkeypatch) -> None:
    house = came(app, passphrase=HOUSE)
    for wrong in ("0 h", "200 h", "3 gpm", "soon"):
        assert house.post("/people/guest", data={"hours": wrong}).status_code == 422
    first, second = link_of(house, hours="2 h"), link_of(house, hours="48 h")
    guests = [TestClient(app) for _ in range(2)]
    for guest, code in zip(guests, (first, second), strict=True):
        guest.post("/guest", data={"code": code})
        assert inside(guest)
    real = time.time
    monkeypatch.setattr("squall.store.sessions.time.time", lambda: real() + 3 * 3600)
    assert not inside(guests[0])
    assert inside(guests[1])
    number = re.findall(r'name="guest" value="(\d+)"', house.get("/people").text)
    house.post("/people/guest-end", data={"guest": number[0]})
    assert not inside(guests[1])
    assert guests[1].post("/guest", data={"code": second}).status_code == 403


def test_codes_are_tried_as_seldom_as_passphrases_and_not_kept(app) -> None:
    house = came(app, passphrase=HOUSE)
    code = link_of(house)
    guest = TestClient(app)
    answers = [guest.post("/guest", data={"code": f"guess {n}"}).status_code for n in range(6)]
    assert answers == [403] * 5 + [429]
    conn = connect(app.state.settings.database)
    kept = " ".join(str(tuple(row)) for row in conn.execute("SELECT * FROM guest"))
    conn.close()
    assert code not in kept
    assert COOKIE not in guest.cookies


def address_of(client: TestClient, **asked: object) -> str:
    answer = client.post("/people/calendar", data=asked)
    assert answer.status_code == 200
    return re.search(r"http://testserver(/calendar/[\w-]+\.ics)", answer.text)[1]


def test_a_calendar_follows_by_its_address_alone(app) -> None:
    """Neither cookie nor passphrase: the address opens this one file, until it is ended."""
    house, outside = came(app, passphrase=HOUSE), TestClient(app)
    whole, one = address_of(house, note="van's phone"), address_of(house, job=1)
    for address in (whole, one):
        told = outside.get(address, follow_redirects=False)
        assert told.headers["content-type"].startswith("text/calendar")
        read = Calendar.from_ical(told.content)
        assert {str(event["location"]) for event in read.walk("VEVENT")} == {"Tamsin Ferro's spring pool, north slope"}
        assert all(event["dtstart"].dt <= date.today() + timedelta(days=367) for event in read.walk("VEVENT"))
        uids = [str(event["uid"]) for event in read.walk("VEVENT")]
        assert uids
        assert len(uids) == len(set(uids))
        assert outside.post(address, follow_redirects=False).status_code in (401, 403, 405)
    assert "all kits" in Calendar.from_ical(outside.get(whole).content)["x-wr-calname"]
    for path in ("/", "/people", "/jobs/1/survey", "/calendar/..%2Fpeople", "/calendar/", "/jobs/1/keep/calendar.ics"):
        assert "Kestrel" not in outside.get(path, follow_redirects=False).text
    listed = BeautifulSoup(house.get("/people").text, "html.parser").select_one("#calendars")
    assert "van's phone" in listed.text
    assert whole.split("/")[2].removesuffix(".ics") not in listed.text
    house.post("/people/calendar-end", data={"feed": "1"})
    gone = outside.get(whole, follow_redirects=False)
    assert gone.status_code == 404
    assert "under this address" in gone.text
    assert outside.get(one).status_code == 200


def test_a_calendar_of_a_deleted_job_waits_for_it(app) -> None:
    house = came(app, passphrase=HOUSE)
    one, whole = address_of(house, job=1), address_of(house)
    house.post("/jobs/1/delete")
    assert TestClient(app).get(one, follow_redirects=False).status_code == 404
    assert not Calendar.from_ical(TestClient(app).get(whole).content).walk("VEVENT")
    assert "a deleted job" in house.get("/people").text
    assert house.post("/people/calendar", data={"job": "1"}).status_code == 422
    assert house.post("/people/calendar", data={"job": "99999999999999999999999"}).status_code == 422


def test_a_guest_makes_no_calendar_and_there_are_not_too_many(app) -> None:
    house = came(app, passphrase=HOUSE)
    code = link_of(house)
    guest = TestClient(app, headers={"x-squall-key": app.state.settings.key})
    guest.post("/guest", data={"code": code})
    assert guest.post("/people/calendar").status_code == 403
    for _ in range(sessions.MOST_FEEDS):
        address_of(house)
    full = house.post("/people/calendar")
    assert full.status_code == 422
    assert "end one first" in full.text
