"""``squall parts``: lists in and out from the command line."""

import json

from typer.testing import CliRunner

from squall.cli import app

LIST = "Name,Watts [W],Open volts [V],Working volts [V],Price\nBox 100,100,22.3,18.2,60\n"


def run(tmp_path, *words: str):
    return CliRunner().invoke(app, ["parts", *words, "--data", str(tmp_path)])


def test_a_list_goes_in_and_out(tmp_path) -> None:
    file = tmp_path / "mine.csv"
    file.write_text(LIST)
    looked = run(tmp_path, "import", "panels", str(file), "--dry-run")
    assert "nothing written" in looked.output
    assert looked.exit_code == 0
    assert json.loads(run(tmp_path, "list", "panels", "--json").output)[0]["own"] is False
    assert "1 new" in run(tmp_path, "import", "panels", str(file)).output
    first = json.loads(run(tmp_path, "list", "panels", "--json").output)[0]
    assert (first["own"], first["figures"]["watts"]) == (True, 100.0)
    out = run(tmp_path, "export", "panels").output
    assert "Box 100" in out
    file.write_text(out)
    assert "1 as they stand" in run(tmp_path, "import", "panels", str(file)).output


def test_a_wrong_row_writes_nothing_unless_asked(tmp_path) -> None:
    file = tmp_path / "mine.csv"
    file.write_text(LIST + "Bad,x,22,18,5\n")
    refused = run(tmp_path, "import", "panels", str(file))
    assert (refused.exit_code, "nothing written" in refused.output) == (1, True)
    taken = run(tmp_path, "import", "panels", str(file), "--good-rows")
    assert (taken.exit_code, "; written" in taken.output) == (1, True)
    assert run(tmp_path, "list", "sails").exit_code == 2
    file.write_bytes(b"\0\1")
    assert run(tmp_path, "import", "panels", str(file)).exit_code == 2
