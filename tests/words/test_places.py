"""Places as people write them."""

import pytest

from squall.core.errors import BadQuantity
from squall.words.places import axis_text, place_text, read_angle, read_place


@pytest.mark.parametrize(
    ("typed", "latitude", "longitude"),
    [
        ("-30.4, 24.6", -30.4, 24.6),
        ("-30.4 24.6", -30.4, 24.6),
        ("−30,4; 24,6", -30.4, 24.6),
        ("-30,4 24,6", -30.4, 24.6),
        ("30.4 S 24.6 E", -30.4, 24.6),
        ("30.4S,24.6E", -30.4, 24.6),
        ("S 30.4 E 24.6", -30.4, 24.6),
        ("24.6 E 30.4 S", -30.4, 24.6),
        ("30.4 south, 24.6 east", -30.4, 24.6),
        ("44 30 N 7 36 E", 44.5, 7.6),
        ("44°30'N, 7°36'E", 44.5, 7.6),
        ("44° 30' 10\" N 7° 36' 0\" E", 44.502778, 7.6),
        ("44°30′10″N 7°36′0″E", 44.502778, 7.6),
        ("44:30:10N 7:36:00E", 44.502778, 7.6),
        ("N 44° 30.5' W 7° 36'", 44.508333, -7.6),
        ("geo:-30.4,24.6", -30.4, 24.6),
        ("geo:44.5,7.6,250;u=35", 44.5, 7.6),
        ("geo:44.5,7.6?z=12", 44.5, 7.6),
        ("51.5 deg N, 0.1 deg W", 51.5, -0.1),
        ("0, 0", 0.0, 0.0),
        ("٣٠, ٢٤", 30.0, 24.0),
        ("-16.5, 180", -16.5, 180.0),
    ],
)
def test_as_people_write_it(typed, latitude, longitude):
    assert read_place(typed) == pytest.approx((latitude, longitude), abs=1e-6)


@pytest.mark.parametrize(
    ("typed", "said"),
    [
        ("", "a place is wanted"),
        ("95, 10", "no latitude is beyond the pole"),
        ("130.4, 24.6", "were the two swapped"),
        ("200, 10", "no latitude is beyond the pole"),
        ("10, 190", "at most 180° east or west"),
        ("-30.4", "half a place"),
        ("44 30 N", "half a place"),
        ("44 70 N 7 E", "degrees, minutes and seconds"),
        ("44.5 30 N 7 E", "degrees, minutes and seconds"),
        ("-30 S 20 E", "both a minus and a letter"),
        ("30 N 20 S", "can't be read as a place"),
        ("the farm", "can't be read as a place"),
        ("<script>", "can't be read as a place"),
        ("1e400, 2", "can't be read as a place"),
        ("nan, nan", "can't be read as a place"),
    ],
)
def test_what_cannot_be_read_is_told_in_a_sentence(typed, said):
    with pytest.raises(BadQuantity) as refused:
        read_place(typed)
    assert said in str(refused.value)


@pytest.mark.parametrize(
    ("typed", "axis", "value"),
    [
        ("-30.4", "latitude", -30.4),
        ("30.4 S", "latitude", -30.4),
        ("44 30 N", "latitude", 44.5),
        ("7°36'W", "longitude", -7.6),
        ("-30.4°", "latitude", -30.4),
        ("-30.4 deg", "latitude", -30.4),
    ],
)
def test_one_coordinate(typed, axis, value):
    assert read_angle(typed, axis) == pytest.approx(value)


@pytest.mark.parametrize(("typed", "axis"), [("7 E", "latitude"), ("30 S", "longitude"), ("x", "latitude"), ("", "longitude")])  # fmt: skip
def test_one_coordinate_that_is_none(typed, axis):
    with pytest.raises(BadQuantity, match=axis):
        read_angle(typed, axis)


@pytest.mark.parametrize("place", [(-30.4, 24.6), (44.503, -7.6), (0.0, 0.0), (66.125, 180.0)])
def test_what_is_shown_can_be_typed_again(place):
    assert read_place(place_text(*place)) == pytest.approx(place, abs=5e-4)
    assert read_angle(axis_text(place[0], "latitude"), "latitude") == pytest.approx(place[0], abs=5e-4)
