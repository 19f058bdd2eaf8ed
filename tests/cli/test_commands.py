"""The command: help, export, import, backup, passphrase, and what serve refuses."""

import json
import os
import signal
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from pathlib import Path

import pytest
from pypdf import PdfReader
from typer.testing import CliRunner

from squall import __version__
from squall.cli import app
from squall.demo import demo_jobs, fill
from squall.formats.job_json import export
from squall.store.folder.database import connect, prepare
from squall.store.jobs import all_jobs
from squall.web.settings import Settings, default_data

runner = CliRunner()


@pytest.fixture
def data(tmp_path: Path) -> Path:
    path = Settings(tmp_path).database
    prepare(path)
    conn = connect(path)
    fill(conn)
    conn.close()
    return tmp_path


@pytest.mark.parametrize("command", ["serve", "demo", "sum", "export", "import", "backup", "passphrase"])
def test_every_command_helps(command: str) -> None:
    done = runner.invoke(app, [command, "--help"])
    assert done.exit_code == 0
    assert "Usage" in done.stdout


def test_no_command_lists_them_all() -> None:
    done = runner.invoke(app, [])
    assert "serve" in done.output
    assert "backup" in done.output


def test_export_then_import(data: Path, tmp_path: Path) -> None:
    done = runner.invoke(app, ["export", "1", "--data", str(data)])
    assert done.exit_code == 0
    assert json.loads(done.stdout)["name"] == "Goat trough on Kestrel Ridge"
    file = tmp_path / "goats.json"
    file.write_text(done.stdout)
    back = runner.invoke(app, ["import", str(file), "--data", str(data)])
    assert "imported as job 6" in back.stdout
    conn = connect(Settings(data).database)
    jobs = all_jobs(conn)
    conn.close()
    assert jobs[5].job == jobs[0].job


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (["export", "99"], "no job 99"),
        (["backup", "{data}/squall.sqlite3"], "exists already"),
    ],
)
def test_refusals_are_one_sentence(data: Path, words: list[str], said: str) -> None:
    done = runner.invoke(app, [word.format(data=data) for word in words] + ["--data", str(data)])
    assert done.exit_code == 2
    assert said in done.output
    assert "Traceback" not in done.output


def test_a_damaged_file_is_not_imported(data: Path, tmp_path: Path) -> None:
    file = tmp_path / "half.json"
    file.write_text(export(demo_jobs()[0])[:-50])
    done = runner.invoke(app, ["import", str(file), "--data", str(data)])
    assert done.exit_code == 2
    assert "Nothing was imported" in done.output


def test_backup_goes_to_a_dated_file(data: Path) -> None:
    done = runner.invoke(app, ["backup", "--data", str(data)])
    assert done.exit_code == 0
    assert len(list((data / "backups").glob("squall-*-by-hand.sqlite3"))) == 1


def test_passphrase_is_asked_twice_and_long_enough(data: Path) -> None:
    short = runner.invoke(app, ["passphrase", "--data", str(data)], input="goat\ngoat\n")
    assert short.exit_code == 2
    assert "too short" in short.output
    kept = runner.invoke(app, ["passphrase", "--data", str(data)], input="three cairns\nthree cairns\n")
    assert kept.exit_code == 0
    assert "three cairns" not in Settings(data).passphrase_file.read_text()


def free_port() -> str:
    """A port at which nobody answers: a Squall may be running on this machine at the usual one."""
    with socket.socket() as one:
        one.bind(("127.0.0.1", 0))
        return str(one.getsockname()[1])


def test_serve_to_others_needs_a_passphrase(data: Path) -> None:
    done = runner.invoke(app, ["serve", "--host", "0.0.0.0", "--port", free_port(), "--data", str(data)])
    assert done.exit_code == 2
    assert "squall passphrase" in done.output


def test_serve_refuses_a_foreign_database(tmp_path: Path) -> None:
    (tmp_path / "squall.sqlite3").write_text("not a database " * 200)
    done = runner.invoke(app, ["serve", "--port", free_port(), "--data", str(tmp_path)])
    assert done.exit_code == 2
    assert "not a Squall database" in done.output


def test_data_folder_by_environment(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setenv("SQUALL_DATA", str(tmp_path / "here"))
    assert default_data() == tmp_path / "here"
    monkeypatch.delenv("SQUALL_DATA")
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "xdg"))
    assert default_data() == tmp_path / "xdg" / "squall"


def _wait_for(address: str) -> str:
    for _ in range(600):
        try:
            return str(urllib.request.urlopen(address).read().decode())
        except urllib.error.URLError:
            time.sleep(0.1)
    raise AssertionError("the demo did not start")


def test_the_demo_starts_and_a_killed_process_loses_nothing(tmp_path: Path) -> None:
    """Started, edited, killed without warning, started again: the edit is there."""
    words = [sys.executable, "-m", "squall.cli", "demo", "--data", str(tmp_path), "--port", "8171"]
    environment = {**os.environ, "NO_BROWSER": "1"}
    base = "http://127.0.0.1:8171"
    first = subprocess.Popen(words, env=environment, stdout=subprocess.PIPE, text=True)
    try:
        page = _wait_for(base + "/")
        assert "demo data, invented" in page
        key = page.split('name="squall-key" content="')[1].split('"')[0]
        fields = b"path=lift&value=11+m&stage=survey&revision=1"
        request = urllib.request.Request(base + "/jobs/1/field", fields, {"X-Squall-Key": key})
        urllib.request.urlopen(request).read()
    finally:
        first.send_signal(signal.SIGKILL)
        first.wait()
    assert first.stdout is not None
    with first.stdout:
        assert __version__ in first.stdout.readline()
    conn = connect(Settings(tmp_path).database)
    jobs = all_jobs(conn)
    conn.close()
    assert (len(jobs), jobs[0].job.lift.typed) == (5, "11 m")


def test_the_booklet_on_paper_has_its_history_and_a_paper_that_is_none_is_told(data: Path, tmp_path: Path) -> None:
    made = tmp_path / "kit.pdf"
    done = runner.invoke(app, ["sheet", "1", "--kind", "booklet", "--out", str(made), "--data", str(data)])
    assert done.exit_code == 0, done.output
    told = " ".join(page.extract_text() for page in PdfReader(made).pages)
    assert "Nothing is kept" not in told
    assert demo_jobs()[0].visits[0].at[:10] in told, "its first visit"
    none = runner.invoke(app, ["sheet", "1", "--kind", "zebra", "--data", str(data)])
    assert none.exit_code != 0
    assert "booklet" in none.output
