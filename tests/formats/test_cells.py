"""Cells that a spreadsheet would run, and texts with what can't be seen in them: made plain, and read back as they were meant."""

import csv
import io
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from squall.catalogue import catalogue
from squall.core.errors import BadFile
from squall.drawing.section import draw_file
from squall.formats import pump_curves
from squall.formats.cells import as_meant, safe_cell
from squall.formats.job_json import export, read
from squall.formats.parts import lists as part_lists
from squall.job.document.base import tidy
from squall.job.document.fields import edit
from squall.job.document.job import new_job
from squall.job.worked.assess import assess
from squall.web.frame.pages import file_name


@pytest.mark.parametrize("text", ["=1+1", "+cmd", "-cmd|' /C calc'!A0", "@SUM(A1)", "\t=1", "\r=1"])
def test_no_cell_is_a_formula(text: str) -> None:
    assert safe_cell(text)[0] == "'"
    assert as_meant(safe_cell(text)) == text


@pytest.mark.parametrize("text", ["-5", "+3.2", "-1,5", "12 V", "", "'quoted'", "rope -5 m"])
def test_numbers_and_words_stay_as_they_are(text: str) -> None:
    assert safe_cell(text) == text


@given(st.text(max_size=40))
def test_every_text_comes_back(text: str) -> None:
    assert as_meant(safe_cell(text)) == text or text.startswith("'")
    assert not safe_cell(text).startswith(("=", "@", "\t", "\r"))


def test_what_cannot_be_seen_reaches_no_drawing_and_no_file_name(parts) -> None:
    from squall.demo import demo_jobs

    job = edit(demo_jobs()[0], "name", "Goat\x00 tr\x1bough\u202egnp.exe\x7f", parts)
    assert job.name == "Goat troughgnp.exe"
    dirty = export(job).replace("Goat troughgnp.exe", "Goat\\u0007 tro\\u202eugh")
    again = read(dirty.encode(), catalogue())
    assert again.name == "Goat trough"
    drawn = draw_file(1, again.name, assess(again), "survey")
    assert not any(ord(c) < 32 and c not in "\n\t" for c in drawn)
    assert file_name("\x07a/../b\u202e", "pdf") == "a-b.pdf"
    assert tidy("two\nlines\tand a tab") == "two\nlines\tand a tab"


def test_a_list_of_parts_with_formulas_in_it_goes_out_plain_and_comes_back(client) -> None:
    made = io.StringIO()
    heads = ["id", "Name", "Watts [W]", "Open volts [V]", "Working volts [V]", "Price", "Note"]
    csv.writer(made).writerows([heads, ["my-a", "=SUM(A1:A9)", "100", "22.3", "18", "60", "@risk"]])
    files = {"file": ("mine.csv", made.getvalue().encode())}
    looked = client.change("/parts/look", {"family": "panels"}, htmx=False, files=files)
    mark = re.search(r'name="mark" value="([^"]+)"', looked.text)
    assert mark, looked.text[:2000]
    assert client.change("/parts/take-list", {"mark": mark[1]}, htmx=False).status_code == 303
    listed = client.get("/parts/list.csv?family=panels").text
    assert "'=SUM(A1:A9)" in listed
    assert ",=SUM" not in listed
    (mine,) = [row for row in csv.reader(io.StringIO(listed)) if "'=SUM(A1:A9)" in row]
    assert "'@risk" in mine


@pytest.mark.parametrize("number", ["9" * 5000, "1e999", "NaN", "-Infinity"])
def test_a_number_beyond_all_numbers_is_no_job(number: str) -> None:
    """Found by tools/attack.py: 5,000 digits were a fault of Squall's own."""
    told = export(new_job("x")).replace('"si":', f'"si": {number}, "was":', 1)
    with pytest.raises(BadFile):
        read(told.encode(), catalogue())


def test_a_cell_without_an_end_is_no_list() -> None:
    with pytest.raises(BadFile, match="never closed"):
        part_lists.read(b"Id,Name\n" + b'"' + b"a" * 200_001, "panels", {}, catalogue())


def test_a_long_curve_is_refused_before_its_rows_are_read(monkeypatch) -> None:
    monkeypatch.setattr("squall.formats.pump_curves._row", lambda *_: pytest.fail("read"))
    with pytest.raises(BadFile, match="30000 points"):
        pump_curves.read(b"flow [L/min],head [m]\n" + b"1,1\n" * 30_000)
