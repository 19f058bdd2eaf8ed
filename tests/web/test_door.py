"""The door to other machines: passphrases, sessions, certificate, code to be scanned, and how much a request may bring."""

import asyncio
import io
import socket
import ssl
import subprocess
import sys
import threading
import time
from datetime import UTC, datetime, timedelta
from pathlib import Path

import httpx2
import pytest
import segno
import zxingcpp
from PIL import Image
from starlette.testclient import TestClient

from squall.core.errors import BadFile, BadQuantity
from squall.store.folder.database import connect, prepare
from squall.store.sessions import LASTS_S, begin, session_of
from squall.web import limits, patience
from squall.web.access import COOKIE
from squall.web.app import create_app
from squall.web.certificate import LASTS_DAYS, certificate_in, names_here
from squall.web.frame.codes import code_of
from squall.web.passphrases import check, common, keep_passphrase, read_hash
from squall.web.settings import Settings

SECRET = "four goats under a cairn"


@pytest.fixture
def outside(tmp_path) -> TestClient:
    """A client as another machine is one."""
    settings = Settings(tmp_path, hosts=("testserver",), need_passphrase=True)
    keep_passphrase(settings.passphrase_file, SECRET)
    return TestClient(create_app(settings))


@pytest.mark.parametrize(
    "passphrase",
    [
        "short", "elevenchars", "aaaaaaaaaaaaaaa", "123456789012", "qwertyuiopqwerty", "abcabcabcabcabc", "Password Password",
        "correct horse battery staple", "LetMeInPlease!", "zyxwvutsrqponm", "password123456", "welcome-welcome-2026",
    ],
)  # fmt: skip
def test_what_is_guessed_first_is_no_passphrase(passphrase: str) -> None:
    with pytest.raises(BadQuantity):
        check(passphrase)


@pytest.mark.parametrize("passphrase", [SECRET, "three cairns", "Zwölf Ziegen am Grat", "jkq83-vv02-lmz"])
def test_words_of_ones_own_are(passphrase: str) -> None:
    check(passphrase)


def test_the_list_of_common_ones_is_shipped_and_long_enough() -> None:
    assert len(common()) > 300
    assert all(len(line) >= 8 and line.isalnum() for line in common())


def test_a_session_lasts_through_a_restart_and_ends_with_a_new_passphrase(outside, tmp_path) -> None:
    outside.post("/enter", data={"passphrase": SECRET})
    assert outside.get("/").status_code == 200
    again = TestClient(create_app(outside.app.state.settings), cookies=dict(outside.cookies))
    assert again.get("/", follow_redirects=False).status_code == 200
    keep_passphrase(outside.app.state.settings.passphrase_file, SECRET + "s")
    assert again.get("/", follow_redirects=False).headers["location"] == "/enter"


def test_logging_out_ends_ones_own_session_and_logging_out_everyone_all(outside) -> None:
    settings, app = outside.app.state.settings, outside.app
    others = [TestClient(app) for _ in range(2)]
    for client in (outside, *others):
        client.post("/enter", data={"passphrase": SECRET})
        assert client.get("/", follow_redirects=False).status_code == 200
    kept = outside.cookies[COOKIE]
    outside.post("/leave", headers={"x-squall-key": settings.key}, follow_redirects=False)
    outside.cookies.set(COOKIE, kept)
    assert outside.get("/", follow_redirects=False).status_code == 303, "the token itself is worth nothing any more"
    assert others[0].get("/", follow_redirects=False).status_code == 200
    assert others[0].post("/leave-all", follow_redirects=False).status_code == 403, "not without the key of a page"
    others[0].post("/leave-all", headers={"x-squall-key": settings.key}, follow_redirects=False)
    assert others[1].get("/", follow_redirects=False).status_code == 303


def test_a_session_ends_by_itself_and_its_token_is_not_kept(tmp_path, monkeypatch) -> None:
    path = tmp_path / "squall.sqlite3"
    prepare(path)
    conn = connect(path)
    token = begin(conn, "this passphrase")
    assert session_of(conn, token, "this passphrase")
    assert not session_of(conn, token, "another")
    assert not session_of(conn, token[:-1], "this passphrase")
    assert token not in str([tuple(row) for row in conn.execute("SELECT * FROM session")])
    now = time.time()
    monkeypatch.setattr("squall.store.sessions.time.time", lambda: now + LASTS_S + 1)
    assert not session_of(conn, token, "this passphrase")
    begin(conn, "this passphrase")
    assert conn.execute("SELECT count(*) FROM session").fetchone()[0] == 1, "what is over is gone"


def test_a_forwarding_header_brings_no_fresh_tries(outside) -> None:
    for n in range(5):
        headers = {"x-forwarded-for": f"10.0.0.{n}", "forwarded": f"for=10.0.0.{n}"}
        assert outside.post("/enter", data={"passphrase": "guess"}, headers=headers).status_code == 403
    answer = outside.post("/enter", data={"passphrase": SECRET}, headers={"x-forwarded-for": "10.0.0.99"})
    assert answer.status_code == 429


def test_sixty_tries_at_once_are_five(outside) -> None:
    """Each hash takes 16 MB: what comes beyond the five is not hashed at all."""
    found: list[int] = []

    def guess() -> None:
        found.append(TestClient(outside.app).post("/enter", data={"passphrase": "guess"}).status_code)

    threads = [threading.Thread(target=guess) for _ in range(60)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(found) == [403] * 5 + [429] * 55


def test_a_damaged_passphrase_file_is_said_and_opens_nothing(outside) -> None:
    file: Path = outside.app.state.settings.passphrase_file
    for text in ("", "{", "[]", '{"salt": "x"}', '{"salt": "###", "hash": "###"}'):
        file.write_text(text)
        with pytest.raises(BadFile, match="squall passphrase"):
            read_hash(file)
        answer = outside.post("/enter", data={"passphrase": SECRET})
        assert answer.status_code == 422
        assert "damaged" in answer.text
        assert outside.get("/", follow_redirects=False).status_code == 303


def test_the_certificate_is_good_for_its_names_and_made_anew_in_time(tmp_path) -> None:
    names = ("192.168.7.20", "ridge.local", "localhost")
    made = certificate_in(tmp_path, names)
    assert made.fingerprint.count(":") == 31
    assert made.key.stat().st_mode & 0o077 == 0
    assert certificate_in(tmp_path, names[:2]).fingerprint == made.fingerprint
    assert certificate_in(tmp_path, (*names, "10.1.1.9")).fingerprint != made.fingerprint
    later = datetime.now(UTC) + timedelta(days=LASTS_DAYS - 20)
    kept = certificate_in(tmp_path, names)
    assert certificate_in(tmp_path, names, later).fingerprint != kept.fingerprint
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    context.load_cert_chain(made.path, made.key)
    made.path.write_text("no certificate")
    with pytest.raises(BadFile, match="damaged"):
        certificate_in(tmp_path, names)


def test_names_of_this_machine() -> None:
    names = names_here("0.0.0.0", ("ridge.example",))
    assert names[0] == "ridge.example"
    assert {"localhost", "127.0.0.1", "::1"} <= set(names)
    assert names_here("192.168.7.20")[0] == "192.168.7.20"


def test_the_code_is_read_by_another_library() -> None:
    """zxing-cpp (test only) reads what segno drew; the page's own drawing has the same squares."""
    address = "https://192.168.7.20:8017/"
    drawn = io.BytesIO()
    code = segno.make(address, error="m", micro=False)
    code.save(drawn, kind="png", scale=6, border=4)
    (read,) = zxingcpp.read_barcodes(Image.open(drawn).convert("L"))
    assert read.text == address
    svg = str(code_of(address))
    assert svg.count("<path") == 2
    assert "<script" not in str(code_of('https://x/"><script>'))


def test_the_page_of_the_phone_says_how_or_shows_the_code(client, tmp_path) -> None:
    assert "squall passphrase" in client.get("/phone").text
    sealed = Settings(
        tmp_path, sealed=True, addresses=("https://192.168.7.20:8017/",), fingerprint="AB:CD", hosts=("testserver",)
    )
    page = TestClient(create_app(sealed)).get("/phone").text
    assert "AB:<wbr>CD" in page
    assert "<svg" in page
    bare = Settings(tmp_path, addresses=("http://192.168.7.20:8017/",), hosts=("testserver",))
    assert "Not sealed" in TestClient(create_app(bare)).get("/phone").text


@pytest.mark.parametrize(
    ("path", "kind", "most"),
    [
        ("/jobs/1/field", "application/x-www-form-urlencoded", limits.FIELD),
        ("/import", "multipart/form-data; boundary=x", limits.FILE + limits.AROUND),
        ("/jobs/1/photos", "multipart/form-data; boundary=x", 25_000_000 + limits.AROUND),
        ("/api/sums/wear", "application/json", limits.SUM),
    ],
)
def test_each_address_has_its_limit(path: str, kind: str, most: int) -> None:
    assert limits.most_of(path, kind) == most


def test_too_much_for_a_field_is_said_before_it_is_read(client) -> None:
    before = client.get("/jobs/1/export.json").text
    answer = client.change("/jobs/1/field", {"path": "notes", "value": "x" * 70_000, "stage": "survey", "revision": 1})
    assert answer.status_code == 413
    assert "at most 64 kB" in answer.text
    assert client.get("/jobs/1/export.json").text == before

    def pieces():
        for _ in range(200):
            yield b"value=" + b"x" * 1000

    streamed = client.post("/jobs/1/field", content=pieces(), headers={"x-squall-key": client.settings.key,
                           "content-type": "application/x-www-form-urlencoded"})  # fmt: skip
    assert streamed.status_code == 413, "a body of no stated length is counted as it comes"
    odd = client.post("/jobs/1/field", headers={"x-squall-key": client.settings.key, "content-length": "9" * 30})
    assert odd.status_code == 413


def test_a_fault_goes_out_with_every_header_too(client, monkeypatch) -> None:
    def breaks(*_: object) -> None:
        raise RuntimeError("inside")

    monkeypatch.setattr("squall.web.access.code_of", breaks)
    object.__setattr__(client.settings, "addresses", ("https://192.168.7.20:8017/",))
    answer = client.get("/phone")
    assert answer.status_code == 500
    assert "inside" not in answer.text
    assert "default-src 'self'" in answer.headers["content-security-policy"]
    assert answer.headers["cache-control"] == "no-store"
    assert answer.headers["x-content-type-options"] == "nosniff"


@pytest.fixture
def served(tmp_path):
    """Squall as it is served to others, sealed, in a process of its own; with the head's time cut short."""
    keep_passphrase(Settings(tmp_path).passphrase_file, SECRET)
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    code = "import squall.web.patience as p; p.HEAD_S = 1.0; p.MOST_OPEN = 12; import squall.cli; squall.cli.app()"
    server = subprocess.Popen(
        [sys.executable, "-c", code, "serve", "--host", "0.0.0.0", "--name", "ridge.example", "--port", str(port), "--data", str(tmp_path)],
        stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True,
    )  # fmt: skip
    context = ssl.create_default_context()
    for _ in range(200):
        try:
            context.load_verify_locations(tmp_path / "certificate.pem")
            httpx2.get(f"https://127.0.0.1:{port}/enter", verify=context)
            break
        except (OSError, httpx2.HTTPError):
            time.sleep(0.1)
    yield port, context, server, tmp_path
    server.terminate()
    server.wait(10)


def test_it_is_served_sealed_patiently_and_under_its_names_only(served) -> None:
    port, context, server, data = served
    client = httpx2.Client(base_url=f"https://127.0.0.1:{port}", verify=context)
    entered = client.post("/enter", data={"passphrase": SECRET})
    cookie = entered.headers["set-cookie"]
    assert cookie.startswith(f"__Host-{COOKIE}_{port}=")
    assert "secure" in cookie.lower()
    assert "server" not in entered.headers
    client.cookies.set(f"__Host-{COOKIE}_{port}", cookie.split("=", 1)[1].split(";")[0])
    assert "ridge.example" in client.get("/phone").text
    assert client.get("/enter", headers={"host": "elsewhere.example"}).status_code == 400
    assert client.get("/enter", headers={"host": f"ridge.example:{port}"}).status_code == 200
    with pytest.raises((httpx2.HTTPError, OSError)):
        httpx2.get(f"http://127.0.0.1:{port}/enter")

    client.close()
    slow = context.wrap_socket(socket.create_connection(("127.0.0.1", port)), server_hostname="127.0.0.1")
    slow.settimeout(10)
    slow.sendall(b"GET /enter HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Slow: ")
    try:
        came = slow.recv(100)
    except OSError:
        came = b""
    assert came == b"", "a head that never ends is hung up on"
    slow.close()

    held = [socket.create_connection(("127.0.0.1", port)) for _ in range(40)]
    time.sleep(0.5)
    for one in held:
        one.close()
    time.sleep(0.5)
    assert httpx2.get(f"https://127.0.0.1:{port}/enter", verify=context).status_code == 200, (
        "and when they have gone it answers on"
    )

    again = subprocess.run(
        [sys.executable, "-m", "squall.cli", "serve", "--port", str(port), "--data", str(data / "other")],
        capture_output=True, text=True, timeout=60,
    )  # fmt: skip
    assert again.returncode == 2
    assert "running already" in again.stderr
    assert "http" not in again.stdout, "a busy port is said before an address is"
    server.terminate()
    told = server.communicate(timeout=20)[0]
    assert f"https://ridge.example:{port}/" in told
    assert "fingerprint" in told


def test_the_plain_way_says_what_it_means(tmp_path) -> None:
    keep_passphrase(Settings(tmp_path).passphrase_file, SECRET)
    from squall.cli import Door, _settings

    settings = _settings(tmp_path, Door("192.0.2.7", 8017, plain=True), demo=False)
    assert settings.addresses[0] == "http://192.0.2.7:8017/"
    assert not settings.sealed
    assert not (tmp_path / "certificate.pem").exists()


def test_patience_is_counted_by_address() -> None:
    assert patience.HEAD_S <= 30.0
    assert patience.MOST_OPEN <= 256


def test_what_came_whole_is_refused_without_waiting_for_more() -> None:
    """A body of no stated length whose last piece is the one too much: nothing more comes, so nothing more is asked for."""
    pieces = [{"type": "http.request", "body": b"x" * 70_000, "more_body": False}]
    sent = []

    async def receive():
        return pieces.pop()

    async def send(message) -> None:
        sent.append(message)

    scope = {"type": "http", "method": "POST", "path": "/jobs/1/field", "query_string": b"", "headers": []}
    asyncio.run(limits.Limits(None)(scope, receive, send))
    assert sent[0]["status"] == 413
