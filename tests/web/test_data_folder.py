"""The page of the data folder: where it is, whether it is whole, copies made, taken along and taken away."""

import sqlite3

from bs4 import BeautifulSoup

from squall.store.folder.copies import copies_of


def soup(answer) -> BeautifulSoup:
    return BeautifulSoup(answer.text, "html.parser")


def words(found: BeautifulSoup) -> str:
    return " ".join(found.get_text(" ").split())


def test_a_copy_is_made_taken_along_and_taken_away(client, tmp_path) -> None:
    page = client.get("/data")
    assert str(client.settings.database) in page.text
    assert "None yet" in page.text
    assert client.change("/data/copy", {}, htmx=False).status_code == 303
    ((name, size, _),) = copies_of(client.settings.database)
    assert size > 10_000
    shown = soup(client.get("/data"))
    assert shown.select_one(f'a[href="/data/copies/{name}"]')
    taken = client.get(f"/data/copies/{name}")
    assert taken.content[:15] == b"SQLite format 3"
    file = tmp_path / "taken.sqlite3"
    file.write_bytes(taken.content)
    with sqlite3.connect(file) as conn:
        assert conn.execute("SELECT count(*) FROM job").fetchone()[0] == 5
    conn.close()
    assert client.change("/data/remove", {"name": name}, htmx=False).status_code == 303
    assert copies_of(client.settings.database) == []


def test_nothing_else_of_the_machine_can_be_taken(client) -> None:
    client.change("/data/copy", {}, htmx=False)
    for name in (
        "..%2fsqualls.sqlite3",
        "../squall.sqlite3",
        "%2e%2e%2fpassphrase.json",
        "x.sqlite3",
        "squall.sqlite3",
    ):
        assert client.get(f"/data/copies/{name}").status_code == 404, name
        assert client.change("/data/remove", {"name": name}, htmx=False).status_code == 404, name
    assert client.settings.database.exists()


def test_a_look_says_whole_or_what_is_wrong(client, monkeypatch) -> None:
    assert "nothing is wrong" in words(soup(client.change("/data/look", {}, htmx=False)))
    monkeypatch.setattr("squall.web.lists.data_folder.wrong_with", lambda _: ["page 7 is never used"])
    told = words(soup(client.change("/data/look", {}, htmx=False)))
    assert "page 7 is never used" in told
    assert "squall restore" in told


def test_where_no_copy_can_be_made_that_is_said(client) -> None:
    (client.settings.data / "backups").write_text("a file where the folder should be")
    answer = client.change("/data/copy", {}, htmx=False)
    assert answer.status_code == 422
    assert soup(answer).select_one(".problem").text
