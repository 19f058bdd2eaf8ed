"""Parts of one's own: what a label says, what is guessed by which rule, what can't be, what is odd."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from squall.catalogue import catalogue
from squall.catalogue.families import FAMILIES
from squall.catalogue.held import beside, family_of, shipped_parts, shipped_row
from squall.catalogue.reader import shipped
from squall.catalogue.shelf import BadFigures, family, odd, read_points, written_part
from squall.core.drive.known_pumps import BucketTest, curve_from_one
from squall.core.errors import BadCurve, SquallError, UnknownPart
from squall.core.kit.parts import Part
from squall.words.figures import FIGURES

LM = 1.0 / 60_000.0
PUMP = {"name": "Shed", "end": "centrifugal", "placement": "submersible", "rated_v": "12 V", "price": "40"}
PANEL = {"name": "Box", "watts": "100 W", "voc_v": "22.3 V", "price": "60"}


def problems(family_key: str, **typed: str) -> dict[str, str]:
    with pytest.raises(BadFigures) as caught:
        written_part("x", family_key, typed, "metric")
    return {key: str(said) for key, said in caught.value.problems.items()}


def test_a_panels_label_is_filled_by_rules_that_are_told() -> None:
    part = written_part("x", "panels", {**PANEL, "vmp_v": "18.2"}, "metric")
    module = part.part.module
    # Watts over working volts is the definition of working amps; 1.06 is common practice, no source.
    assert module.imp_a == pytest.approx(100 / 18.2)
    assert module.isc_a == pytest.approx(1.06 * 100 / 18.2)
    assert module.cells == 36
    assert {"imp_a", "isc_a", "cells"} <= set(part.part.guessed)
    assert "vmp_v" not in part.part.guessed
    assert "watts over working volts" in str(part.filled[1]["imp_a"])


@pytest.mark.parametrize(
    ("typed", "column", "words"),
    [
        ({"vmp_v": "24"}, "vmp_v", "under the open volts"),
        ({"cells": "60"}, "cells", "a cell"),
        ({"cells": "36.5"}, "cells", "counted"),
        ({"isc_a": "5", "imp_a": "5.5"}, "imp_a", "swapped"),
        ({"voc_v": "2200 V"}, "voc_v", "0.1"),
        ({"watts": "a hundred"}, "watts", "can't be read"),
        ({"watts": "25 ft"}, "watts", "power"),
        ({"voc_v": ""}, "voc_v", "needed"),
        ({"watts": ""}, "watts", "needs its watts, or its amps"),
    ],
)
def test_a_panel_that_can_not_be_is_refused_beside_its_figure(typed, column, words) -> None:
    assert words in problems("panels", **{**PANEL, **typed})[column]


def test_what_is_odd_is_asked() -> None:
    part = written_part("x", "panels", {**PANEL, "vmp_v": "18", "imp_a": "4.5", "isc_a": "4.8"}, "metric")
    assert any("the label says" in str(said) for said in odd(part))
    assert odd(written_part("x", "panels", {**PANEL, "vmp_v": "18.2"}, "metric")) == []


def test_all_problems_are_told_at_once() -> None:
    assert set(problems("pumps", name="", end="turbine", rated_v="x")) == {"name", "end", "placement", "rated_v"}


def test_volts_of_a_pump_stand_in_their_order() -> None:
    typed = {**PUMP, "points_l_min_m_a": "12 6 4", "least_v": "14", "best_from_v": "12", "max_v": "11"}
    assert {"best_from_v", "max_v"} <= set(problems("pumps", **typed))


def test_one_measured_point_is_enough_and_its_band_is_wide() -> None:
    """A bucket of 2.5 gpm, 60 ft up, 5 A: common practice, no source."""
    part = written_part("x", "pumps", {**PUMP, "points_l_min_m_a": "2.5 gpm at 60 ft, 5 A"}, "us").part
    at = min(part.motor.points, key=lambda point: abs(point[1] - 18.288))
    assert at[0] == pytest.approx(2.5 * 3.785411784e-3 / 60, rel=1e-6)
    assert at[2] == pytest.approx(5.0)
    assert part.band == 0.4
    more = written_part("x", "pumps", {**PUMP, "label_head_m": "30", "points_l_min_m_a": "9.5 18 5"}, "metric").part
    assert more.band == 0.25
    whole = written_part("x", "pumps", {**PUMP, "points_l_min_m_a": "0 30 4.2; 9.5 18 5"}, "metric").part
    assert whole.band is None


def test_one_point_of_a_displacement_end_is_nearly_flat() -> None:
    known = curve_from_one(BucketTest(6 * LM, 20.0, 4.0), "displacement")
    flows = [q for q, _ in known.points]
    assert max(flows) / min(flows) < 1.15
    assert known.band == 0.2


def test_one_point_that_says_nothing_is_refused() -> None:
    with pytest.raises(BadCurve, match="no height"):
        curve_from_one(BucketTest(6 * LM, 0.0), "centrifugal")
    with pytest.raises(BadCurve, match="misread"):
        curve_from_one(BucketTest(6 * LM, 20.0), "centrifugal", 18.0)


@pytest.mark.parametrize(
    ("typed", "system", "row"),
    [
        ("12 6 4.2; 0 9 3", "metric", "12 6 4.2; 0 9 3"),
        ("12 L/min at 6 m, 4.2 A\n0 at 9 m", "metric", "12 6 4.2; 0 9"),
        ("3 20", "us", "11.3562354 6.096"),
        ("7,5 L/min at 6,2 m, 4,2 A", "metric", "7.5 6.2 4.2"),
    ],
)
def test_points_are_read_as_people_write_them(typed, system, row) -> None:
    assert read_points(typed, system) == row


@pytest.mark.parametrize("typed", ["12", "12 L/min", ";", "12 6 4 3", "-1 6", "12 at 9999 m", "a at b"])
def test_points_that_are_none_get_a_sentence(typed) -> None:
    with pytest.raises(SquallError):
        read_points(typed, "metric")


def test_a_pump_needs_watts_or_amps_and_a_curve() -> None:
    assert "watts" in next(iter(problems("pumps", **PUMP, points_l_min_m_a="12 6").values()))
    assert "measured point" in next(iter(problems("pumps", **PUMP, label_w="60").values()))


@given(
    st.sampled_from(["centrifugal", "helical", "diaphragm", "piston"]), st.sampled_from([12.0, 24.0, 48.0]),
    st.floats(1.0, 40.0), st.floats(2.0, 60.0), st.floats(20.0, 600.0), st.booleans(),
)  # fmt: skip
@settings(max_examples=120)
def test_no_label_of_a_pump_breaks_anything(end, volts, flow, head, watts, tested) -> None:
    typed = {**PUMP, "end": end, "rated_v": f"{volts:g}", "label_w": f"{watts:.4g}"}
    if tested:
        typed["points_l_min_m_a"] = f"{0.5 * flow:.4g} {0.6 * head:.4g} {watts / volts:.4g}"
    else:
        typed |= {"label_flow_l_min": f"{flow:.4g}", "label_head_m": f"{head:.4g}"}
    made = written_part("x", "pumps", typed, "metric").part
    assert made.motor.points
    assert made.band is not None
    assert made.locked_rotor_a > made.motor.no_load_a


def test_every_family_names_every_figure() -> None:
    for kind in FAMILIES.values():
        assert {column.key for column in kind.whole} <= set(FIGURES)
        assert len({column.key for column in kind.whole}) == len(kind.whole)
    with pytest.raises(UnknownPart):
        family("anchors")


def test_the_shipped_parts_have_the_same_shape_and_make_the_same_parts() -> None:
    seen = 0
    for kind in FAMILIES.values():
        for part in shipped_parts(kind.key):
            row = shipped_row(part.id)
            assert row is not None
            assert kind.make(row[1]) == shipped().slot(kind.slot)[part.id]
            assert family_of(shipped(), part.id) == kind.key
            seen += 1
    assert seen > 70


def test_a_shelf_stands_beside_the_shipped_parts() -> None:
    own = written_part("my-box", "panels", {**PANEL, "vmp_v": "18.2"}, "metric")
    free = written_part(
        "my-gift", "panels", {key: text for key, text in PANEL.items() if key != "price"} | {"vmp_v": "18"}, "metric"
    )
    whole = beside(shipped(), [own, free], frozenset({"kite-20"}))
    ranked = {panel.id for panel in whole.stock.panels}
    assert "my-box" in ranked
    assert "my-gift" not in ranked  # a part without a price must not win for want of one
    assert "kite-20" not in ranked
    assert "kite-20" in whole.panels
    assert whole.panels["my-gift"].price == 0.0
    assert beside(shipped(), []) is shipped()
    assert catalogue() is shipped()


def test_what_is_owned_costs_nothing_up_to_its_number() -> None:
    panel = Part("x", "", "panel", 40.0, 1.0, owned=2)
    assert [panel.price_of(n) for n in (1, 2, 3, 5)] == [0.0, 0.0, 40.0, 120.0]
