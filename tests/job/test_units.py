"""Typed text to SI and back."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from squall.core.errors import BadQuantity
from squall.words.units import KINDS, number_text, parse, read_number, scale, text


@pytest.mark.parametrize(
    ("typed", "kind", "si"),
    [
        ("25 ft", "head", 7.62), ("7.6m", "head", 7.6), ("7,6 m", "head", 7.6), ("3 gpm", "flow", 3 * 3.785411784e-3 / 60),
        ("3/4 in", "bore", 0.01905), ("1 1/2 in", "bore", 0.0381), ('3/4"', "bore", 0.01905), ("1/2 hp", "watts", 372.85),
        ("57 °F", "temperature", 13.8889), ("14", "temperature", 14.0), ("0.5 bar", "pressure", 5.1032),
        ("1,200 L", "litres", 1.2), ("1 200 L", "litres", 1.2), ("1.200,5 L", "litres", 1.2005), ("900", "litres", 0.9),
        ("35°", "angle", 35.0), ("5 %", "share", 0.05), ("5", "share", 0.05), ("−30.4", "angle", -30.4), (".5 m", "head", 0.5),
        ("800 W/m2", "irradiance", 800.0), ("12 l/min", "flow", 0.0002), ("2 m3/h", "flow", 2 / 3600), ("40", "number", 40.0),
    ],
)  # fmt: skip
def test_what_people_type(typed: str, kind: str, si: float) -> None:
    """Conversions by definition: 1 ft = 0.3048 m, 1 US gal = 231 in3, 1 hp = 745.7 W (NIST SP 811, appendix B.8)."""
    assert parse(typed, kind) == pytest.approx(si, rel=2e-5)


def test_bare_numbers_take_the_persons_units() -> None:
    assert parse("25", "head", "us") == pytest.approx(7.62)
    assert parse("3", "flow", "us") == pytest.approx(parse("3 gpm", "flow"))
    assert parse("25", "head", "metric") == 25.0


@pytest.mark.parametrize(
    ("typed", "kind", "words"),
    [
        ("12 m", "flow", "that is a length; a flow is wanted, such as 12 L/min"),
        ("3 gpm", "head", "that is a flow; a height or head is wanted"),
        ("12 awg", "length", "is a wire size"),
        ("abc", "flow", "can't be read"),
        ("", "head", "Nothing is typed"),
        ("5 zorks", "head", "“zorks” is not known"),
        ("1/0 m", "length", "divides by nothing"),
        ("1e400", "head", "can be worked with"),
        ("7.6 m; DROP TABLE job", "head", "not known"),
        ("__import__('os')", "head", "can't be read"),
        ("2 m**99999999", "head", "not known"),
        ("1.2.3 m", "head", "not a number"),
    ],
)
def test_what_can_not_be_read_says_what_is_wanted(typed: str, kind: str, words: str) -> None:
    with pytest.raises(BadQuantity) as caught:
        parse(typed, kind)
    assert words in str(caught.value)


def read_or_refusal(typed: str, kind: str) -> float | str:
    try:
        return parse(typed, kind)
    except BadQuantity as error:
        return str(error)


@given(st.text(max_size=30))
def test_any_text_is_read_or_refused(typed: str) -> None:
    for kind in ("head", "flow", "share", "temperature"):
        answer = read_or_refusal(typed, kind)
        assert isinstance(answer, float) or answer.endswith(".")


@given(st.floats(0.001, 5000.0))
def test_shown_numbers_read_back(value: float) -> None:
    shown = number_text(value)
    assert read_number(shown.replace("\u202f", "").replace("\u2212", "-")) == pytest.approx(value, rel=0.051)


@pytest.mark.parametrize("kind", [k for k in KINDS if KINDS[k].metric])
def test_every_kind_is_shown_in_both_systems(kind: str) -> None:
    for system in ("metric", "us"):
        assert text(1.0, kind, system)
    factor, offset = scale(kind, KINDS[kind].us)
    assert factor > 0
    assert (offset == 32.0) == (kind == "temperature")


def test_shown_in_the_persons_units() -> None:
    assert text(7.62, "head", "us") == "25\u00a0ft"
    assert text(1.18, "litres") == "1\u202f180\u00a0L"
    assert text(-9.0, "temperature") == "\u22129\u00a0°C"
    assert number_text(0.0) == "0"
