"""Price lists: units in the headings, a row's faults in words, nothing lost on the way out and in again."""

import json

import pytest

from squall.catalogue.families import FAMILIES
from squall.catalogue.held import shipped_parts
from squall.catalogue.reader import shipped
from squall.catalogue.shelf import ShelfPart, written_part
from squall.core.errors import BadFile
from squall.formats.parts import files as part_files
from squall.formats.parts import lists as part_lists
from squall.words import Voice, speaking


def looked(text: str, family: str = "panels", shelf=None, currency: str = ""):
    return part_lists.read(text.encode(), family, shelf or {}, shipped(), currency)


def faults(text: str, family: str = "panels") -> list[str]:
    return [" ".join(f"{a}: {b}" for a, b in row.problems) for row in looked(text, family).rows]


HEAD = "Name,Watts [W],Open volts [V],Working volts [V],Price\n"


@pytest.mark.parametrize(
    ("row", "words"),
    [
        ("Box,abc,22,18,10", "Watts: “abc” can't be read"),
        ("Box,100,22,25,10", "Working volts"),
        ("Box,100,2200,18,10", "Open volts"),
        (",100,22,18,10", "Name is needed"),
        ("Box,100,,18,10", "Open volts is needed"),
        ("Box,100,22 ft,18,10", "Open volts"),
        ("Box,100,22,18,-5", "Price"),
        ("Box,100,22,18,10,left over", "cells and the headings"),
        ("Box,1,5,18", "Working volts"),
        ("Box,100,22,18,ten", "Price"),
    ],
)
def test_ten_kinds_of_fault_each_in_words(row, words) -> None:
    assert words in faults(HEAD + row)[0]


def test_one_wrong_row_harms_no_other() -> None:
    found = looked(HEAD + "Good,100,22,18,10\nBad,x,22,18,10\nGood,100,22,18,10\n")
    assert [row.status for row in found.rows] == ["new", "wrong", "wrong"]
    assert [row.line for row in found.rows] == [2, 3, 4]
    assert "stands in line 2" in str(found.rows[2].problems[0][1])


def test_identifiers_are_minded() -> None:
    head = "Id,Name,Watts [W],Open volts [V]\n"
    texts = faults(head + "kite-50,Box,100,22\nBig Box,Box2,100,22\nown-1,B3,100,22\nmine,B4,100,22\nmine,B5,100,22\n")
    assert "shipped catalogue" in texts[0]
    assert "small letters" in texts[1]
    assert "identifier" in texts[2]
    assert texts[3] == ""
    assert "line 5" in texts[4]


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "empty"),
        ("Name,Watts\n", "no parts"),
        ("Colour,Shape\nred,round\n", "Name"),
        ("Name,Price [ZAR],Open volts [V],Watts [W]\nBox,10,22,100\n", "converts none"),
        ("\0\0\0", "no text"),
        (HEAD + "Box,100,22,18,10\n" * 2001, "at most"),
    ],
)
def test_what_is_no_list_is_refused_whole(text, words) -> None:
    with pytest.raises(BadFile, match=words):
        looked(text, currency="EUR")


def test_headings_nobody_knows_are_told() -> None:
    assert looked("Name,Colour,Watts [W],Open volts [V]\nBox,red,100,22\n").unknown == ("Colour",)


@pytest.mark.parametrize("between", [",", ";", "\t"])
def test_lists_are_parted_as_sheets_write_them(between) -> None:
    text = between.join(("Name", "Watts [W]", "Open volts [V]")) + "\n" + between.join(("Box", "100", "22.3")) + "\n"
    assert looked(text).rows[0].status == "new"


def test_decimal_commas_are_read_where_semicolons_part() -> None:
    assert looked("Name;Watts [W];Open volts [V]\nBox;100;22,3\n").rows[0].part.part.module.voc_v == pytest.approx(22.3)


def test_the_headings_unit_rules_and_a_cells_own_wins() -> None:
    """1 ft is 0.3048 m exactly, 1 US gallon 231 cubic inches exactly (NIST SP 811, 2008, B.8)."""
    head = "Name,Kind of end,Stands,Volts on its label [V],Watts on its label [W],Flow on its label (no height) [gpm],Height on its label (flow stops) [ft]\n"
    row = looked(head + "A,centrifugal,bilge,12,60,3,20\nB,centrifugal,bilge,12,60,10 L/min,5 m\n", "pumps").rows
    figures = [part.part.figures for part in row]
    assert figures[0]["label_flow_l_min"].value == pytest.approx(3 * 3.785411784)
    assert figures[0]["label_head_m"].value == pytest.approx(6.096)
    assert figures[1]["label_flow_l_min"].value == pytest.approx(10.0)
    assert figures[1]["label_head_m"].value == pytest.approx(5.0)


def copies(family: str) -> dict[str, ShelfPart]:
    """The shipped parts of a family under names of one's own."""
    named = [(f"my-{part.id}".replace(".", "-"), part) for part in shipped_parts(family)]
    return {key: ShelfPart(key, family, part.figures, "a note") for key, part in named}


@pytest.mark.parametrize("units", ["metric", "us"])
@pytest.mark.parametrize("family", [key for key in FAMILIES if shipped_parts(key)])
def test_out_and_in_again_changes_nothing(family, units) -> None:
    shelf = copies(family)
    with speaking(Voice(units)):
        text = part_lists.write(family, shelf.values())
        found = looked(text, family, shelf)
        assert {row.status for row in found.rows} == {"same"}, [
            (r.problems, r.changes) for r in found.rows if r.status != "same"
        ]
        fresh = looked(text, family)
    assert len(fresh.of("new")) == len(shelf)
    for row in fresh.rows:
        assert row.part.part.price == pytest.approx(shelf[row.part.id].part.price, rel=1e-6)


def test_json_out_and_in_again_changes_nothing() -> None:
    shelf = copies("panels") | copies("pumps") | copies("batteries")
    found = part_files.read_json(part_files.write_json(shelf.values()).encode(), shelf, shipped())
    assert {row.status for row in found.rows} == {"same"}
    assert part_files.parts_schema()["properties"]["format"]["const"] == "squall-parts"


@pytest.mark.parametrize(
    "text",
    ["{", "[]", '{"format": "other"}', json.dumps({"format": "squall-parts", "version": 1, "parts": [{"id": "A B"}]})],
)
def test_json_that_is_none_is_refused(text) -> None:
    with pytest.raises(BadFile):
        part_files.read_json(text.encode(), {}, shipped())


def test_a_changed_price_shows_before_and_after() -> None:
    old = written_part("my-box", "panels", {"name": "Box", "watts": "100", "voc_v": "22", "price": "60"}, "metric")
    row = looked("Id,Name,Watts [W],Open volts [V],Price\nmy-box,Box,100,22,75\n", shelf={"my-box": old}).rows[0]
    assert row.status == "changed"
    assert [(str(a), b, c) for a, b, c in row.changes] == [("Price", "60", "75")]


def test_an_empty_list_has_all_headings_and_the_choices() -> None:
    text = part_lists.write("batteries", [], "EUR")
    assert "Price [EUR]" in text
    assert "lithium iron phosphate" in text
    assert not [word for word in text.split(",") if "_" in word]
    with pytest.raises(BadFile, match="no parts"):
        looked(text, "batteries")
