"""Two people on one job: each one's undo is their own, through the pages as they are sent."""

from bs4 import BeautifulSoup

from squall.store.folder.database import connect
from squall.store.jobs import one_job


def job(client):
    conn = connect(client.settings.database)
    try:
        return one_job(conn, 1).job
    finally:
        conn.close()


def turn(client, tab: str, way: str = "undo"):
    answer = client.change(f"/jobs/1/{way}", {"stage": "survey"}, tab=tab)
    return answer, " ".join(BeautifulSoup(answer.text, "html.parser").get_text(" ").replace("\u00a0", " ").split())


def test_the_phones_undo_leaves_what_the_laptop_typed(client) -> None:
    before = job(client)
    client.type("lift", "8.7 m", tab="phone")
    client.type("litres", "640 L", tab="laptop")
    client.type("name", "Ridge", tab="laptop")
    answer, told = turn(client, "phone")
    assert answer.status_code == 200
    assert "Undone: " in told
    assert "set to 8.7 m." in told
    assert (job(client).lift, job(client).litres.typed, job(client).name) == (before.lift, "640 L", "Ridge")
    answer, told = turn(client, "phone")
    assert answer.status_code == 422
    assert "nothing of yours to undo" in told
    answer, _ = turn(client, "phone", "redo")
    assert job(client).lift.typed == "8.7 m"
    assert job(client).name == "Ridge"


def test_what_both_changed_is_asked_about_not_turned(client) -> None:
    client.type("lift", "8.7 m", tab="phone")
    client.type("lift", "9.9 m", tab="laptop")
    client.type("name", "Ridge", tab="laptop")
    answer, told = turn(client, "phone")
    assert answer.status_code == 422
    assert "changed the same since" in told
    assert job(client).lift.typed == "9.9 m"


def test_a_visit_of_the_one_stays_when_the_other_undoes(client) -> None:
    client.change("/jobs/1/keep/visit", {"note": "by the phone"}, tab="phone")
    client.type("name", "Ridge", tab="laptop")
    turn(client, "laptop")
    assert "by the phone" in client.get("/jobs/1/keep").text
    client.type("name", "Ridge", tab="laptop")
    turn(client, "phone")
    assert "by the phone" not in client.get("/jobs/1/keep").text
    assert job(client).name == "Ridge"
    turn(client, "phone", "redo")
    assert "by the phone" in client.get("/jobs/1/keep").text


def test_a_page_loaded_anew_lets_one_undo(client) -> None:
    """It doesn't know its tab yet: its button stands ready, names the last change, and takes back one's own."""
    client.type("lift", "8.7 m", tab="phone")
    client.type("name", "Ridge", tab="laptop")
    page = BeautifulSoup(client.get("/jobs/1/power").text, "html.parser")
    assert not page.select_one("#undo").has_attr("disabled")
    assert "Ridge" in page.select_one("#undo")["title"]
    mine = BeautifulSoup(client.type("name", "Ridge", tab="phone").text, "html.parser").select_one("#undo")
    assert "8.7 m" in mine["title"], "an answer to a tab names that tab's own"
    turn(client, "phone")
    assert job(client).name == "Ridge"
    assert not BeautifulSoup(client.get("/jobs/1/power").text, "html.parser").select_one("#redo").has_attr("disabled")
