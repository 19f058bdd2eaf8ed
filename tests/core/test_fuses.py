"""Fuse and breaker of many loops, by hand."""

import pytest

from squall.core.electrics.protection import CONTINUOUS_FACTOR, LoopPart, opens_within, protect, ratings, stall_current
from squall.core.errors import OutOfRange


@pytest.mark.parametrize(
    ("continuous", "ampacity", "devices", "maker", "kind", "rating", "weakest"),
    [
        (0.4, 10.0, [], None, "fuse", 1.0, "cable"),
        (0.8, 10.0, [], None, "fuse", 1.0, "cable"),
        (0.81, 10.0, [], None, "fuse", 2.0, "cable"),
        (4.0, 24.0, [], 5.0, "fuse", 5.0, "pump maker's limit"),
        (4.1, 24.0, [], 5.0, "fuse", None, "pump maker's limit"),
        (6.0, 7.0, [], None, "fuse", None, "cable"),
        (5.0, 41.0, [("timer", 16.0), ("float switch", 10.0)], 15.0, "fuse", 7.5, "float switch"),
        (5.0, 41.0, [("timer", 16.0), ("float switch", 10.0)], 15.0, "breaker", 10.0, "float switch"),
        (7.0, 41.0, [("float switch", 10.0)], None, "breaker", 10.0, "float switch"),
        (8.1, 41.0, [("float switch", 10.0)], None, "breaker", None, "float switch"),
        (70.0, 200.0, [], None, "fuse", 100.0, "cable"),
        (0.0, 10.0, [], None, "fuse", 1.0, "cable"),
    ],
)
def test_rating_is_the_smallest_that_all_allow(continuous, ampacity, devices, maker, kind, rating, weakest) -> None:
    parts = tuple(LoopPart(name, amps) for name, amps in devices)
    found = protect(continuous, ampacity, parts, 100.0, kind, maker)
    assert found.rating_a == rating
    assert str(found.weakest) == weakest
    if rating is not None:
        assert rating in ratings(kind)
        assert CONTINUOUS_FACTOR * continuous <= rating <= found.most_a
        assert found.reasons
    else:
        assert found.problems
        assert found.fixes or "split the load" in found.problems[0]
        assert not found.stall_blows


@pytest.mark.parametrize(
    ("stall", "within"), [(9.0, None), (10.0, None), (10.2, 1800.0), (12.1, 50.0), (15.0, 5.0), (30.0, 0.5)]
)
def test_a_fuse_opens_in_its_own_time(stall: float, within: float | None) -> None:
    """ISO 8820-3, blade fuses (from memory): 1.35 times within half an hour, 1.6 within 50 s, 2 within 5 s, 3.5 within 0.5 s.

    A motor that cooks for half an hour before its fuse opens is not protected, and that is said.
    """
    found = protect(5.0, 24.0, (), stall, "fuse")
    assert found.rating_a == 7.5
    assert found.opens_s == within
    assert found.stall_blows is (within is not None)
    assert bool(found.problems) is (within is None or within > 60.0)
    if within == 1800.0:
        assert "30 minutes" in str(found.problems[0])


@pytest.mark.parametrize(("stall", "within"), [(10.8, None), (10.9, 3600.0), (19.2, 60.0), (110.0, 0.1)])
def test_a_breaker_has_its_own_curve(stall: float, within: float | None) -> None:
    """IEC 60898-1 (from memory): 1.45 times within an hour, 2.55 within a minute, its magnet far above."""
    found = protect(5.0, 24.0, (), stall, "breaker")
    assert found.rating_a == 7.5 or found.rating_a == 10.0
    assert found.opens_s == opens_within("breaker", stall, found.rating_a)
    assert opens_within("breaker", stall, 7.5) == within


def test_no_cable_is_advised_where_none_can_help() -> None:
    """A rotor that would not draw enough through no cable at all can't be helped by a thicker one."""
    weak = protect(5.0, 24.0, (), 9.0, "fuse", free_stall_a=11.0)
    assert not any("thicker" in str(fix) for fix in weak.fixes)
    strong = protect(5.0, 24.0, (), 9.0, "fuse", free_stall_a=20.0)
    assert any("thicker" in str(fix) for fix in strong.fixes)


def test_each_part_that_is_too_weak_is_named_with_its_fix() -> None:
    found = protect(20.0, 15.0, (LoopPart("radio switch", 10.0), LoopPart("relay", 40.0)), 100.0, "fuse", 15.0)
    words = " ".join(map(str, found.problems))
    assert "radio switch" in words
    assert "cable" in words
    assert "maker" in words
    assert "relay stands" not in words
    assert any("thicker cable" in fix for fix in found.fixes)
    assert any("another pump" in fix for fix in found.fixes)


def test_beyond_the_table() -> None:
    assert "split the load" in protect(90.0, 300.0, (), 500.0, "fuse").problems[0]


def test_impossible_loops() -> None:
    with pytest.raises(OutOfRange):
        protect(-1.0, 10.0, (), 5.0, "fuse")
    with pytest.raises(OutOfRange):
        protect(1.0, 0.0, (), 5.0, "fuse")


def test_stall_current_is_ohms_law() -> None:
    assert stall_current(12.5, 0.2, 0.42) == pytest.approx(12.5 / 0.62)
