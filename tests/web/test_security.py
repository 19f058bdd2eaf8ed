"""Who may ask what: every change needs the key, every answer carries the policy, nothing leaks."""

import re

import pytest
from starlette.testclient import TestClient

from squall.core.errors import BadQuantity
from squall.store.folder.database import connect, prepare
from squall.store.sessions import came_in, may_try
from squall.web.access import COOKIE
from squall.web.app import create_app
from squall.web.passphrases import fits, hash_passphrase, keep_passphrase
from squall.web.settings import Settings

CHANGES = [
    "/jobs",
    "/import",
    "/restore",
    "/standings",
    "/jobs/1/carried",
    "/jobs/1/sun/shade",
    "/jobs/1/photos",
    "/jobs/1/row",
    "/jobs/1/photos/remove",
    "/jobs/1/fit/tick",
    "/jobs/1/fit/cut",
    "/jobs/1/fit/offcut-out",
    "/jobs/1/commission/shown",
    "/jobs/1/commission/unshown",
    "/jobs/1/commission/birth",
    "/jobs/1/keep/visit",
    "/jobs/1/keep/visit/v1",
    "/jobs/1/keep/log",
    "/jobs/1/keep/due",
    "/jobs/1/keep/undue",
    "/jobs/1/logger",
    "/jobs/1/logger/1/columns",
    "/jobs/1/logger/1/read",
    "/jobs/1/logger/remove",
    "/yard/frequencies",
    "/jobs/1/fault/begin",
    "/jobs/1/fault/seen",
    "/jobs/1/fault/unsee",
    "/jobs/1/fault/end",
    "/jobs/1/fault/again",
    "/preferences",
    "/jobs/1/field",
    "/jobs/1/do/add-piece",
    "/jobs/1/undo",
    "/jobs/1/redo",
    "/jobs/1/delete",
    "/jobs/1/copy",
    "/jobs/1/readings",
    "/jobs/1/kits/stop",
    "/jobs/1/kits/take",
    "/jobs/1/survey/reading",
    "/jobs/1/survey/track",
    "/jobs/1/survey/place",
    "/jobs/1/place",
    "/jobs/1/lift/test",
    "/jobs/1/lift/curve",
    "/jobs/1/kits/take-trial",
    "/jobs/1/years/run",
    "/jobs/1/years/stop",
    "/jobs/1/years/weather",
    "/parts/van",
    "/parts/hide",
    "/parts/currency",
    "/parts/undo",
    "/parts/redo",
    "/parts/save",
    "/parts/look",
    "/parts/take-list",
    "/parts/kite-50/remove",
    "/jobs/1/kits/enter",
    "/jobs/1/kits/own",
    "/jobs/1/kits/fitted",
    "/leave",
    "/leave-all",
    "/people/add",
    "/people/remove",
    "/people/guest",
    "/people/guest-end",
    "/practise/course/outlet",
    "/jobs/1/learned/judge",
    "/jobs/1/live/open",
    "/jobs/1/live/end",
    "/practise/lesson",
    "/people/calendar",
    "/people/calendar-end",
    "/data/copy",
    "/data/look",
    "/data/remove",
]


@pytest.mark.parametrize("address", CHANGES)
def test_no_change_without_the_key(client, address: str) -> None:
    before = client.get("/jobs/1/export.json").text
    for headers in ({}, {"x-squall-key": "guess"}, {"x-squall-key": client.settings.key[:-1]}):
        assert client.post(address, headers=headers).status_code == 403
    assert client.get("/jobs/1/export.json").text == before


def test_a_form_without_scripts_brings_the_key_in_a_cookie_and_nowhere_else(client) -> None:
    """No secret in an address; the cookie alone is no proof, the browser must say that the page is of this origin."""
    page = client.get("/jobs/1/survey")
    assert page.text.count(client.settings.key) == 1, "for scripts, in the head"
    told = page.headers["set-cookie"]
    assert "HttpOnly" in told
    assert "SameSite=Strict" in told
    assert client.settings.key not in page.headers.get("location", "")
    sent = {"name": "by form"}
    for wrong in ({}, {"origin": "http://evil.example"}, {"origin": "null"}, {"sec-fetch-site": "same-site"},
                  {"sec-fetch-site": "none"}, {"sec-fetch-site": "cross-site", "origin": "http://testserver"}):  # fmt: skip
        assert client.post("/jobs", data=sent, headers=wrong, follow_redirects=False).status_code == 403
    assert client.post(f"/jobs?key={client.settings.key}", data=sent, follow_redirects=False).status_code == 403
    for right in ({"origin": "http://testserver"}, {"sec-fetch-site": "same-origin"}):
        assert client.post("/jobs", data=sent, headers=right, follow_redirects=False).status_code == 303
    assert "set-cookie" not in client.get("/jobs/1/survey").headers, "it is there already"
    client.cookies.clear()
    client.cookies.set("squall_key", "of another run")
    assert client.post("/jobs", data=sent, headers={"origin": "http://testserver"}).status_code == 403
    client.cookies.clear()
    client.get("/")
    assert client.post("/jobs", data=sent, headers={"origin": "http://testserver"}, follow_redirects=False).status_code == 303  # fmt: skip


def test_two_that_run_on_one_machine_leave_each_others_cookies_alone(client) -> None:
    """A browser keeps one jar for a host, whatever the port."""
    one, other = {"host": "localhost:8037"}, {"host": "localhost:8038"}
    jar = client.get("/jobs/1/survey", headers=one).headers.get_list("set-cookie")
    assert {line.split("=")[0] for line in jar} == {"squall_key_8037", "squall_opened_8037"}
    assert "squall_key_8038" in str(client.get("/", headers=other).headers.get_list("set-cookie"))
    for host in (one, other):
        told = {"origin": f"http://{host['host']}", **host}
        assert client.post("/jobs", data={"name": "x"}, headers=told, follow_redirects=False).status_code == 303
    assert client.get("/", headers={"host": "localhost:123456789"}).status_code in (200, 400)


def test_the_list_of_changes_above_is_whole(client) -> None:
    page = client.get("/openapi.json").json()["paths"]
    posts = {re.sub(r"\{(job|file)_id\}", "1", path) for path, verbs in page.items() if "post" in verbs}
    posts = {re.sub(r"\{visit_id\}", "v1", re.sub(r"\{part_id\}", "kite-50", path)) for path in posts}
    posts = {re.sub(r"\{action\}", "add-piece", path) for path in posts if not path.startswith("/api/sums/")}
    posts = {path.replace("{code}", "outlet") for path in posts}
    assert posts - {"/enter", "/guest", "/live/outlet"} == set(CHANGES)


@pytest.mark.parametrize(
    "address", ["/", "/jobs/1/survey", "/nope", "/static/squall.css", "/api/sums/none", "/openapi.json"]
)
def test_every_answer_carries_the_policy(client, address: str) -> None:
    headers = client.get(address).headers
    assert "default-src 'self'" in headers["content-security-policy"]
    assert headers["x-content-type-options"] == "nosniff"
    assert headers["referrer-policy"] == "same-origin"
    assert headers["cross-origin-resource-policy"] == "same-origin"
    assert headers["cache-control"] == (
        "no-store" if "static" not in address else "public, max-age=31536000, immutable"
    )


@pytest.mark.parametrize(
    ("host", "status"), [("localhost:8017", 200), ("127.0.0.1", 200), ("evil.example", 400), ("", 400)]
)
def test_only_our_own_names_are_answered(client, host: str, status: int) -> None:
    assert client.get("/", headers={"host": host}).status_code == status


@pytest.mark.parametrize(
    "path", ["/static/../app.py", "/static/%2e%2e/app.py", "/static/..%2fapp.py", "/static/nope.css"]
)
def test_static_files_stay_in_their_folder(client, path: str) -> None:
    assert client.get(path).status_code in (400, 404)


def test_a_file_too_large_is_refused(client) -> None:
    answer = client.change("/import", htmx=False, files={"file": ("big.json", b" " * 8_100_000)})
    assert answer.status_code == 413
    assert "at most 8 MB" in answer.text.replace("\u00a0", " ")


def test_a_passphrase_is_kept_as_a_salted_hash() -> None:
    one, two = hash_passphrase("under the cairn"), hash_passphrase("under the cairn")
    assert one != two
    assert fits("under the cairn", one)
    assert not fits("under the stone", one)
    with pytest.raises(BadQuantity, match="twelve"):
        hash_passphrase("eleven char")


def test_the_hash_is_its_owners_only(tmp_path) -> None:
    keep_passphrase(tmp_path / "deep" / "passphrase.json", "under the cairn")
    assert (tmp_path / "deep" / "passphrase.json").stat().st_mode & 0o077 == 0


def test_a_session_cookie_is_not_for_scripts_or_other_sites(tmp_path) -> None:
    settings = Settings(tmp_path, hosts=("*",), need_passphrase=True)
    keep_passphrase(settings.passphrase_file, "under the cairn")
    outside = TestClient(create_app(settings))
    answer = outside.post("/enter", data={"passphrase": "under the cairn"}, follow_redirects=False)
    cookie = answer.headers["set-cookie"].lower()
    assert cookie.startswith(COOKIE)
    assert "httponly" in cookie
    assert "samesite=strict" in cookie
    assert outside.get("/enter").status_code == 200


def test_a_forged_session_is_no_session(tmp_path) -> None:
    settings = Settings(tmp_path, hosts=("*",), need_passphrase=True)
    keep_passphrase(settings.passphrase_file, "under the cairn")
    outside = TestClient(create_app(settings), cookies={COOKIE: "forged"})
    assert outside.get("/", follow_redirects=False).status_code == 303
    assert outside.get("/static/squall.css").status_code == 200


def test_tries_are_counted_before_they_are_looked_at_and_forgotten_after_a_minute(tmp_path) -> None:
    path = tmp_path / "squall.sqlite3"
    prepare(path)
    conn, other = connect(path), connect(path)
    assert [may_try(one, "here", 1000.0) for one in (conn, other) * 3] == [True] * 5 + [False]
    assert may_try(conn, "elsewhere", 1001.0)
    came_in(other, "elsewhere")
    assert may_try(conn, "here", 1061.0)
    assert conn.execute("SELECT count(*) FROM door_try").fetchone()[0] == 1, "what is over is forgotten"
    many = [may_try(conn, f"address {n}", 1062.0) for n in range(200)]
    assert sum(many) < 40, "nor may two hundred addresses try together"
    conn.close()
    other.close()
