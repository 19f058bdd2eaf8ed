"""Air that is guessed, the outline of the land, and what follows from a place."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from squall.core.errors import OutOfRange
from squall.core.sky.air import Air, air_between, air_like, guessed_air
from squall.core.sky.ground import altitude_at, turbidity_at
from squall.core.sky.land import off_coast_km, on_land, outline
from squall.core.sky.local import climate_at
from squall.core.sky.place import clock_h, facing_deg, site_at, turned_away_deg, winter_tilt_deg
from squall.core.sky.typical_days import AVERAGE, CLEAR, Mounting, light_of_year
from squall.core.sky.world import light_at
from squall.drawing.world import spot, world_svg


@given(st.floats(-58.0, 73.0), st.floats(0.0, 5000.0))
def test_a_guess_is_a_climate_anywhere(latitude, height):
    air = guessed_air(latitude, height)
    assert air.guessed
    assert all(low < high for low, high in zip(air.t_min_c, air.t_max_c, strict=True))
    assert air.record_low_c < min(air.t_min_c)
    assert air.record_high_c > max(air.t_max_c)
    assert sum(air.rain_mm) == 0.0


@pytest.mark.parametrize(("latitude", "height", "low", "high"), [(-30.4, 1180.0, -20, -5), (60.2, 20.0, -55, -30), (0.0, 10.0, 5, 20), (-16.5, 3800.0, -30, -10)])  # fmt: skip
def test_the_coldest_of_a_guess_is_of_the_right_size(latitude, height, low, high):
    """Records of such country, from memory, no source: Karoo -10, south coast of Finland -35, equator at the sea 15, high plain -20."""
    assert low <= guessed_air(latitude, height).record_low_c <= high


def test_the_seasons_lie_right_on_both_sides_of_the_equator():
    north, south = guessed_air(45.0, 0.0), guessed_air(-45.0, 0.0)
    assert max(range(12), key=lambda m: north.t_max_c[m]) == 6
    assert max(range(12), key=lambda m: south.t_max_c[m]) == 0


def test_higher_is_colder_by_the_standard_atmosphere():
    assert guessed_air(30.0, 0.0).t_min_c[0] - guessed_air(30.0, 1000.0).t_min_c[0] == pytest.approx(6.5)


def test_two_figures_make_twelve_months():
    air = air_between(31.0, 2.0, -30.0, 1000.0)
    assert max(air.t_max_c) == pytest.approx(31.0, abs=0.5)
    assert min(air.t_min_c) == pytest.approx(2.0, abs=0.5)
    assert not air.guessed
    assert air.record_low_c < 2.0 < 31.0 < air.record_high_c
    with pytest.raises(OutOfRange, match="hottest month"):
        air_between(5.0, 6.0, -30.0, 1000.0)


def test_a_narrow_pair_still_makes_days():
    air = air_between(28.0, 24.0, 0.0, 0.0)
    assert all(low <= high for low, high in zip(air.t_min_c, air.t_max_c, strict=True))


def test_a_climate_of_the_place(parts):
    climate = climate_at(light_at(-30.4, 24.6), air_like(parts.climates["ridge"]), site_at(-30.4, 24.6), "world")
    assert climate.light is not None
    assert not climate.air_guessed
    assert climate.record_low_c == parts.climates["ridge"].record_low_c
    assert [month.rain_mm for month in climate.months] == [month.rain_mm for month in parts.climates["ridge"].months]
    assert all(0.3 < month.clearness < 0.85 for month in climate.months)


def test_dark_months_are_a_climate_too():
    air = Air((-20.0,) * 12, (-5.0,) * 12, -40.0, 20.0)
    assert climate_at(light_at(71.0, 25.0), air, site_at(71.0, 25.0), "north").months[11].clearness == 0.0


@pytest.mark.parametrize(
    ("place", "land"),
    [
        ((-30.4, 24.6), True),
        ((44.5, 7.6), True),
        ((0.0, -140.0), False),
        ((24.6, -30.4), False),
        ((-17.8, 178.0), True),
        ((66.0, -175.0), True),
        ((60.0, -40.0), False),
        ((26.8, 85.3), True),
        ((45.0, -86.8), True),
    ],
)
def test_land_and_sea(place, land):
    """Places by any atlas; the outline is too coarse for lakes, and for islands under some tens of kilometres."""
    assert on_land(*place) is land


def test_how_far_out_at_sea():
    """The middle of the Atlantic on the equator lies some 1500 km from either shore, by any atlas."""
    assert off_coast_km(-30.4, 24.6) == 0.0
    assert off_coast_km(0.0, -25.0) == pytest.approx(1500, rel=0.25)


def test_the_outline_is_whole_and_drawn_once():
    assert len(outline()) > 80
    assert all((ring[0] == ring[-1]).all() for ring in outline())
    svg = world_svg()
    assert svg.startswith("<svg")
    assert len(svg) < 60_000
    assert spot(75.0, -180.0) == (0.0, 0.0)


def test_heights_and_haze_as_pvlib_has_them():
    """Mount Everest's ten kilometres, the Dead Sea, the Karoo: pvlib's own tables; heights from memory within 400 m."""
    assert altitude_at(27.99, 86.93) == pytest.approx(5800, abs=1500)
    assert altitude_at(31.5, 35.5) == pytest.approx(-400, abs=400)
    assert altitude_at(-30.4, 24.6) == pytest.approx(1300, abs=200)
    assert all(2.0 < haze < 5.0 for haze in turbidity_at(-30.4, 24.6))


@pytest.mark.parametrize(("latitude", "azimuth", "tilt", "away"), [(-30.0, 0.0, 35.0, False), (-30.0, 180.0, 35.0, True), (44.0, 180.0, 40.0, False), (44.0, 350.0, 40.0, True), (44.0, 90.0, 40.0, False), (10.0, 0.0, 20.0, False), (44.0, 0.0, 5.0, False)])  # fmt: skip
def test_panels_that_face_away(latitude, azimuth, tilt, away):
    assert (turned_away_deg(latitude, azimuth, tilt) is not None) is away


def test_what_follows_from_a_place():
    assert (facing_deg(-0.1), facing_deg(0.1)) == (0.0, 180.0)
    assert winter_tilt_deg(-30.4) == 45.0
    assert winter_tilt_deg(70.0) == 75.0
    assert clock_h(-74.0) == -5.0
    site = site_at(-30.4, 24.6)
    assert (site.altitude_m, site.utc_offset_h) == (altitude_at(-30.4, 24.6), 2.0)


@pytest.mark.parametrize(
    "place", [(-30.4, 24.6), (30.0, 39.0), (42.0, 63.0), (36.0, -120.0), (15.0, -18.0), (60.2, 24.9), (-3.1, -60.0)]
)
def test_no_mean_day_is_brighter_than_a_clear_one(place):
    """Arabia, Turan and California among them, where the reanalysis's mean outshines pvlib's own clear sky by a tenth."""
    site, light = site_at(*place), light_at(*place)
    climate = climate_at(light, guessed_air(*place[:1], site.altitude_m), site, "x")
    year = light_of_year(site, climate, Mounting(30.0, facing_deg(place[0])))
    assert (year.level_kwh_m2[AVERAGE] <= year.level_kwh_m2[CLEAR] * 1.001).all()
    pvlibs = turbidity_at(*place)
    assert all(1.0 <= month.turbidity <= haze + 1e-9 for month, haze in zip(climate.months, pvlibs, strict=True))
