"""Loggers' files of many makes of table: what parts the cells, points and commas, zones, units; what is none is refused."""

import numpy as np
import pytest

from squall.core.errors import BadFile, BadQuantity
from squall.formats.logger_csv import check, guess, look, read
from squall.job.kept.logger import Mapped

ROWS = [
    ("2026-06-01 10:00:00", 15.2, 3100, 4.2),
    ("2026-06-01 10:01:00", 15.1, 3090, 4.1),
    ("2026-06-01 10:02:00", 15.3, 3120, 4.3),
]


def table(heads: str, rows=ROWS, parted_by: str = ",", comma: bool = False) -> bytes:
    lines = [heads]
    for row in rows:
        cells = [str(cell) for cell in row]
        lines.append(parted_by.join(cell.replace(".", ",") if comma and "-" not in cell else cell for cell in cells))
    return ("\n".join(lines) + "\n").encode()


@pytest.mark.parametrize(
    "data",
    [
        table("Time,Pump volts,Current [mA],Flow"),
        table("Time;Pump volts;Current [mA];Flow", parted_by=";"),
        table("Time;Pump volts;Current [mA];Flow", parted_by=";", comma=True),
        table("Time\tPump volts\tCurrent [mA]\tFlow", parted_by="\t"),
        b"\xef\xbb\xbf" + table("Time,Pump volts,Current [mA],Flow"),
        table("Time,Pump volts,Current [mA],Flow", [(f"{a.replace(' ', 'T')}.250", *b) for a, *b in ROWS]),
        table("Time,Pump volts,Current [mA],Flow", [(a[:-3], *b) for a, *b in ROWS]),
    ],
    ids=["commas", "semicolons", "decimal commas", "tabs", "mark", "fractions", "minutes"],
)
def test_one_table_is_read_however_it_is_written(data: bytes) -> None:
    mapped = guess(look(data))
    assert mapped == Mapped(0, {"volts": (1, "V"), "amps": (2, "mA"), "flow": (3, "L/min")})
    taken = read(data, mapped)
    assert taken.logged.columns["amps"] == pytest.approx([3.1, 3.09, 3.12])
    assert taken.logged.columns["flow"] == pytest.approx([4.2 / 60_000, 4.1 / 60_000, 4.3 / 60_000])
    assert np.diff(taken.logged.at_s).tolist() == [60, 60]
    assert taken.logged.at_s[0] % 86_400 == 36_000
    assert (taken.unread, taken.disordered) == (0, 0)


def test_a_zone_is_brought_to_the_kits_clock_and_so_is_a_count_of_seconds() -> None:
    for first, rows in (("2026-06-01T08:00:00Z", 36_000), ("2026-06-01T10:00:00+02:00", 36_000)):
        data = table("Time,V", [(first, 12.0), (first.replace(":00:00", ":01:00"), 12.1)])
        assert read(data, Mapped(0, {"volts": (1, "V")}), 2.0).logged.at_s[0] % 86_400 == rows
    for scale in (1, 1000):
        data = table("Time,V", [(1_780_300_800 * scale, 12.0), (1_780_300_860 * scale, 12.1)])
        assert read(data, Mapped(0, {"volts": (1, "V")}), 2.0).logged.at_s.tolist() == [1_780_308_000, 1_780_308_060]


def test_units_are_brought_to_si() -> None:
    data = table("t,a,b", [("2026-06-01 10:00:00", 60, 3), ("2026-06-01 10:01:00", 60, 3)])
    for unit, si in (("L/h", 60 / 3.6e6), ("m3/h", 60 / 3600), ("gpm", 60 * 3.785411784e-3 / 60), ("L/min", 1e-3)):
        assert read(data, Mapped(0, {"flow": (1, unit)})).logged.columns["flow"][0] == pytest.approx(si), unit
    for unit, si in (("ft", 0.9144), ("cm", 0.03), ("mm", 0.003), ("m", 3.0)):
        assert read(data, Mapped(0, {"level": (2, unit)})).logged.columns["level"][0] == pytest.approx(si), unit


def test_rows_out_of_order_twice_or_torn_are_counted_and_the_rest_is_kept() -> None:
    rows = [
        *ROWS,
        ROWS[0],
        *((f"2026-06-01 10:{n:02}:00", 15.0, 3000, 4.0) for n in range(3, 20)),
        ("nonsense", "x", "y", "z"),
    ]
    taken = read(
        table("Time,Pump volts,Current [mA],Flow", rows), guess(look(table("Time,Pump volts,Current [mA],Flow")))
    )
    assert (taken.unread, taken.disordered) == (1, 1)
    assert len(taken.logged.at_s) == 20
    assert (np.diff(taken.logged.at_s) > 0).all()


@pytest.mark.parametrize(
    "data",
    [b"", b"only a line\n", b"one\n1\n2\n", b"\x00\x01\x02,\x00\n\x00,\x00\n", ",".join("x" * 60).encode() + b"\n1\n"],
)
def test_what_is_no_table_is_refused(data: bytes) -> None:
    with pytest.raises(BadFile):
        look(data)


def test_columns_that_are_something_else_are_refused_with_their_count() -> None:
    data = table("when,what,more", [("never", "a", "b"), ("ever", "c", "d")])
    assert guess(look(data)) is None
    with pytest.raises(BadFile, match="2 of 2 rows"):
        read(data, Mapped(0, {"volts": (1, "V")}))


@pytest.mark.parametrize(
    "mapped",
    [
        Mapped(0, {}), Mapped(0, {"volts": (0, "V")}), Mapped(0, {"volts": (9, "V")}), Mapped(-1, {"volts": (1, "V")}),
        Mapped(0, {"volts": (1, "gpm")}), Mapped(0, {"volts": (1, "V"), "amps": (1, "A")}),
    ],
)  # fmt: skip
def test_columns_that_cant_be_are_refused(mapped: Mapped) -> None:
    with pytest.raises(BadQuantity):
        check(mapped, look(table("Time,Pump volts,Current [mA],Flow")))
