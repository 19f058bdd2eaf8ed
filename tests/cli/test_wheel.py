"""The built wheel, alone in a fresh environment outside the tree: it brings what it needs and starts."""

import os
import shutil
import subprocess
import sys
import time
import urllib.error
import urllib.request
import zipfile
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
# What systems other than Unix lack: no fork, none of its modules. Read by the interpreter as it starts.
BARE = """import os, sys
for name in ("fork", "forkpty", "setsid", "killpg", "posix_spawn"):
    if hasattr(os, name):
        delattr(os, name)
for name in ("fcntl", "pwd", "grp", "termios", "resource", "readline", "tty", "pty"):
    sys.modules[name] = None
"""
# A console of old: no colour, no UTF-8.
PLAIN = {"LC_ALL": "C", "PYTHONUTF8": "0", "PYTHONIOENCODING": "ascii", "TERM": "dumb", "NO_BROWSER": "1"}


@pytest.fixture(scope="module")
def wheel(tmp_path_factory) -> Path:
    # From a copy: two workers that build in one tree take each other's files away, and what an older build left comes in.
    tree, out = tmp_path_factory.mktemp("tree"), tmp_path_factory.mktemp("wheel")
    shutil.copytree(ROOT / "src", tree / "src", ignore=shutil.ignore_patterns("__pycache__", "*.egg-info"))
    for name in ("pyproject.toml", "README.md", "LICENSE", "MANIFEST.in"):
        if (ROOT / name).exists():
            shutil.copy(ROOT / name, tree)
    build = ["-m", "pip", "wheel", "--quiet", "--no-deps", "--no-build-isolation", "--wheel-dir", str(out), str(tree)]
    subprocess.run([sys.executable, *build], check=True, cwd=out)
    return next(out.glob("squall-*.whl"))


def test_the_wheel_names_what_it_needs_and_holds_its_files(wheel: Path) -> None:
    with zipfile.ZipFile(wheel) as packed:
        names = packed.namelist()
        metadata = packed.read(next(n for n in names if n.endswith("METADATA"))).decode()
    for need in ("fastapi", "numba", "pvlib", "babel", "uvicorn", "tzdata"):
        assert f"Requires-Dist: {need}" in metadata
    for file in (
        "squall/drawing/static/drawing.css", "squall/web/static/squall.js", "squall/web/templates/base.html",
        "squall/store/migrations/0003_log_and_changes.sql", "squall/words/catalogues/squall.pot", "squall/demo/jobs.json",
        "squall/core/electrics/data/conductors.csv", "squall/catalogue/data/pumps.csv",
    ):  # fmt: skip
        assert file in names


def test_it_starts_from_a_fresh_environment(wheel: Path, tmp_path: Path) -> None:
    home = tmp_path / "env"
    uv = Path(sys.executable).parent / "uv"
    # Without its own installer where uv brings the packages: half of what a fresh environment takes to make.
    without = ["--without-pip"] if uv.exists() else []
    subprocess.run([sys.executable, "-m", "venv", *without, str(home)], check=True)
    folder = home / ("Scripts" if os.name == "nt" else "bin")
    tool = [str(uv), "pip", "install", "--python", str(folder / "python")] if uv.exists() else [
        str(folder / "python"), "-m", "pip", "install", "--disable-pip-version-check",
    ]  # fmt: skip
    subprocess.run([*tool, "--quiet", str(wheel)], check=True, cwd=tmp_path)
    environment = {k: v for k, v in os.environ.items() if k not in ("PYTHONPATH", "VIRTUAL_ENV")} | PLAIN
    (tmp_path / "bare").mkdir()
    (tmp_path / "bare" / "sitecustomize.py").write_text(BARE)
    environment["PYTHONPATH"] = str(tmp_path / "bare")
    squall, port = str(folder / "squall"), "8193"
    given = '{"depth_m": 1}'
    told = subprocess.run([squall, "sum", "nothing"], input=given, capture_output=True, text=True, env=environment, cwd=tmp_path)  # fmt: skip
    assert told.returncode == 2
    assert "There is no sum called" in told.stderr
    server = subprocess.Popen(
        [squall, "demo", "--port", port, "--data", str(tmp_path / "data")], env=environment, cwd=tmp_path,
        stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
    )  # fmt: skip
    try:
        assert "Goat trough" in fetch(f"http://127.0.0.1:{port}/", server)
        assert "Makes" in fetch(f"http://127.0.0.1:{port}/jobs/1/survey", server)
    finally:
        server.terminate()
        server.wait()


def fetch(url: str, server: subprocess.Popen[bytes]) -> str:
    for _ in range(600):
        assert server.poll() is None, "the application ended by itself"
        try:
            with urllib.request.urlopen(url) as answer:
                return str(answer.read().decode())
        except urllib.error.URLError:
            time.sleep(0.1)
    raise AssertionError("no answer in a minute")
