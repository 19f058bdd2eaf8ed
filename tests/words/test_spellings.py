"""Lengths, flows and times as people spell them; feet and inches were read as inches on 0.3.0."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from squall.core.errors import BadQuantity
from squall.words.message import Voice, speaking
from squall.words.units import in_own_units, parse

FOOT, INCH, GALLON = 0.3048, 0.0254, 3.785411784e-3


@pytest.mark.parametrize(
    ("typed", "kind", "si"),
    [
        ("25'8\"", "length", 25 * FOOT + 8 * INCH),
        ("25' 8 in", "length", 25 * FOOT + 8 * INCH),
        ("25 ft 8 in", "length", 25 * FOOT + 8 * INCH),
        ("25 feet 8 inches", "length", 25 * FOOT + 8 * INCH),
        ("31ft6in", "length", 31 * FOOT + 6 * INCH),
        ("25' 8 1/2\"", "length", 25 * FOOT + 8.5 * INCH),
        ("25′8″", "length", 25 * FOOT + 8 * INCH),
        ("25 ft 8", "length", 25 * FOOT + 8 * INCH),
        ("-3 ft 6 in", "head", -(3 * FOOT + 6 * INCH)),
        ("25'", "length", 25 * FOOT),
        ("1-1/2 in", "bore", 1.5 * INCH),
        ("1 1/2 in", "bore", 1.5 * INCH),
        ("3/4 in", "bore", 0.75 * INCH),
        ("1'200 m", "length", 1200.0),
        ("400 gpd", "litres", 400 * GALLON),
        ("400 gal a day", "litres", 400 * GALLON),
        ("400 gallons per day", "litres", 400 * GALLON),
        ("900 litres a day", "litres", 0.9),
        ("3 gallons per minute", "flow", 3 * GALLON / 60),
        ("12 litres a minute", "flow", 12e-3 / 60),
        ("2 min 5 s", "seconds", 125.0),
        ("1 h 20 min", "hours", 4.0 / 3.0),
        ("10 pm", "clock", 22.0),
        ("12 am", "clock", 0.0),
        ("12:30 pm", "clock", 12.5),
        ("6:30", "clock", 6.5),
    ],
)
def test_as_people_spell_it(typed, kind, si):
    assert parse(typed, kind) == pytest.approx(si, rel=1e-9)
    assert parse(typed, kind, "us") == pytest.approx(si, rel=1e-9)


@pytest.mark.parametrize("typed", ["25 ft 13 in", "25'258\"", "2 min 75 s", "13 pm", "25 ft 8 m", "3 m 2 in"])
def test_what_is_no_measure_is_refused(typed):
    with pytest.raises(BadQuantity):
        parse(typed, "seconds" if "min" in typed else "clock" if "pm" in typed else "length")


FEET_MARKS, INCH_MARKS = st.sampled_from(["'", " ft", "ft", " feet", "′", " foot"]), st.sampled_from(['"', " in", "in", " inches", "″"])  # fmt: skip


@given(st.integers(0, 900), st.integers(0, 11), FEET_MARKS, INCH_MARKS, st.sampled_from(["", " "]))
def test_feet_and_inches_in_every_spelling(feet, inches, foot_mark, inch_mark, gap):
    typed = f"{feet}{foot_mark}{gap}{inches}{inch_mark}"
    assert parse(typed, "length") == pytest.approx(feet * FOOT + inches * INCH, abs=1e-9)


@given(st.integers(0, 59), st.floats(0.0, 59.0).map(lambda x: round(x, 1)))
def test_minutes_and_seconds(minutes, seconds):
    assert parse(f"{minutes} min {seconds:g} s", "seconds") == pytest.approx(60 * minutes + seconds)


def test_feet_and_inches_are_shown_in_the_readers_own_system():
    with speaking(Voice("metric")):
        assert in_own_units("25 ft 8 in", 25 * FOOT + 8 * INCH, "length") == "7.82 m"
    with speaking(Voice("us")):
        assert in_own_units("25 ft 8 in", 25 * FOOT + 8 * INCH, "length") == "25 ft 8 in"
