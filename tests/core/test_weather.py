"""Made weather: means, persistence, seeds; and the light of whole years."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from squall.core.errors import OutOfRange
from squall.core.sky.climate import Site
from squall.core.sky.made_weather import (
    LEAST_CLEARNESS,
    MONTH_OF_DAY,
    PERSISTENCE,
    Draw,
    clearness_at,
    made_years,
    most_clearness,
    slope_of,
)
from squall.core.sky.typical_days import AVERAGE, Mounting, Post, light_of_year
from squall.core.sky.whole_year import MeasuredYear, made_light, measured_light, year_path

HILL = Site(-30.4, 24.6, 1180.0, 2.0)


@given(mean=st.floats(0.12, 0.8))
def test_the_distribution_has_its_mean_and_ends(mean: float) -> None:
    """The mean of ten thousand evenly spread shares is the month's, to a thousandth."""
    shares = (np.arange(10_000) + 0.5) / 10_000
    values = clearness_at(shares, mean)
    assert values.mean() == pytest.approx(mean, abs=1e-3)
    assert values.min() >= LEAST_CLEARNESS
    assert values.max() <= most_clearness(mean) + 1e-12
    assert (np.diff(values) >= 0.0).all()


def test_clear_months_lean_to_clear_days() -> None:
    assert slope_of(0.7) > 3.0
    assert slope_of(0.3) < 0.0
    assert np.median(clearness_at(np.linspace(0.01, 0.99, 99), 0.65)) > 0.65


def test_a_hundred_years_keep_mean_and_persistence(parts) -> None:
    """Each month's mean within 2 %; today and tomorrow correlate as published once the months' own course is taken out."""
    climate = parts.climates["ridge"]
    years = made_years(climate, Draw(100, 7))
    assert years.shape == (100, 365)
    for month, here in enumerate(climate.months):
        assert years[:, month == MONTH_OF_DAY].mean() == pytest.approx(here.clearness, rel=0.02)
    from scipy.stats import norm, rankdata

    flat = years.ravel()
    normal = np.empty(flat.size)
    months = np.tile(MONTH_OF_DAY, 100)
    for month in range(12):
        here = months == month
        normal[here] = norm.ppf(rankdata(flat[here]) / (here.sum() + 1.0))
    follow = np.corrcoef(normal[:-1], normal[1:])[0, 1]
    assert follow == pytest.approx(PERSISTENCE, abs=0.02)


def test_the_same_seed_makes_the_same_days(parts) -> None:
    climate = parts.climates["ridge"]
    assert (made_years(climate, Draw(3, 5)) == made_years(climate, Draw(3, 5))).all()
    assert (made_years(climate, Draw(3, 5)) != made_years(climate, Draw(3, 6))).any()
    assert (made_years(climate, Draw(5, 5))[:3] == made_years(climate, Draw(3, 5))).all()
    duller = made_years(climate, Draw(20, 5, 0.8))
    assert duller.mean() == pytest.approx(0.8 * made_years(climate, Draw(20, 5)).mean(), rel=0.01)


@pytest.mark.parametrize(("years", "seed"), [(0, 1), (201, 1), (3, -1)])
def test_years_that_cannot_be_made(parts, years: int, seed: int) -> None:
    with pytest.raises(OutOfRange):
        made_years(parts.climates["ridge"], Draw(years, seed))


def test_a_year_of_mean_days_has_the_average_days_light(parts) -> None:
    """Every day at its month's clearness: the month's daily light within 2.5 % of the average day's (days run on, it stands)."""
    climate, mounting = parts.climates["ridge"], Mounting(35.0, 0.0)
    mean = np.array([month.clearness for month in climate.months])[MONTH_OF_DAY]
    year = made_light(HILL, climate, mounting, mean)
    typical = light_of_year(HILL, climate, mounting).plane_kwh_m2[AVERAGE]
    for month in range(12):
        assert year.day_kwh_m2[month == MONTH_OF_DAY].mean() == pytest.approx(typical[month], rel=0.025)
    assert year.plane_w_m2[year.steps // 144 == 10].sum() / 6000.0 == pytest.approx(year.day_kwh_m2[10])


def test_two_tilts_two_ways_and_a_post(parts) -> None:
    climate = parts.climates["ridge"]
    fixed = light_of_year(HILL, climate, Mounting(35.0, 0.0)).plane_kwh_m2[AVERAGE]
    winter = tuple(3 <= month <= 8 for month in range(12))
    two = light_of_year(HILL, climate, Mounting(15.0, 0.0, other_tilt_deg=50.0, other_months=winter)).plane_kwh_m2[
        AVERAGE
    ]
    assert two[5] > fixed[5]
    assert two[0] > fixed[0]
    split = light_of_year(HILL, climate, Mounting(30.0, 90.0, other_azimuth_deg=270.0))
    east = light_of_year(HILL, climate, Mounting(30.0, 90.0)).plane_w_m2
    west = light_of_year(HILL, climate, Mounting(30.0, 270.0)).plane_w_m2
    assert split.plane_w_m2 == pytest.approx((east + west) / 2.0)
    three = light_of_year(
        HILL, climate, Mounting(30.0, 90.0, other_azimuth_deg=270.0, third_azimuth_deg=0.0, third_tilt_deg=35.0)
    )
    flat = light_of_year(HILL, climate, Mounting(35.0, 0.0)).plane_w_m2
    assert three.plane_w_m2 == pytest.approx((east + west + flat) / 3.0)
    assert Mounting(30.0, 90.0, third_azimuth_deg=10.0).ways == 1  # a third without a second is none
    post = light_of_year(HILL, climate, Mounting(35.0, 0.0, post=Post(300.0, 340.0, 45.0)))
    assert post.plane_w_m2 == pytest.approx(light_of_year(HILL, climate, Mounting(35.0, 0.0)).plane_w_m2)
    hidden = post.shaded_w_m2 < post.plane_w_m2 - 1.0
    assert hidden[:, 5].any()
    assert not hidden[:, :, :22].any()  # it stands in the north-west: the afternoon


@pytest.mark.parametrize(
    "bad",
    [
        {"other_tilt_deg": 95.0},
        {"other_azimuth_deg": 400.0},
        {"third_azimuth_deg": -1.0},
        {"third_tilt_deg": 91.0},
        {"horizon": ((10.0, 85.0),)},
        {"horizon": ((-5.0, 10.0),)},
    ],
)
def test_stands_that_cannot_be(bad) -> None:
    with pytest.raises(OutOfRange):
        Mounting(35.0, 0.0, **bad)
    with pytest.raises(OutOfRange):
        Post(10.0, 20.0, 95.0)


def test_measured_hours_keep_their_sum(parts) -> None:
    """Hours made from ten minutes and read back: the level's light is kept hour by hour, the plane's to 2 %."""
    climate, mounting = parts.climates["ridge"], Mounting(35.0, 0.0)
    clearness = made_years(climate, Draw(1, 3))[0]
    sun = year_path(HILL)
    from squall.core.sky.sunlight import split_light

    sky = split_light(sun.path, clearness[sun.day] * sun.shapes)
    hours = [np.bincount(sun.steps // 6, values, 8760) / 6.0 for values in (sky.whole, sky.diffuse)]
    year = MeasuredYear(*hours, np.full(8760, 18.0), "made")
    read, made = measured_light(HILL, mounting, year), made_light(HILL, climate, mounting, clearness)
    assert read.day_kwh_m2.sum() == pytest.approx(made.day_kwh_m2.sum(), rel=0.02)
    assert np.corrcoef(read.day_kwh_m2, made.day_kwh_m2)[0, 1] > 0.999
    assert (read.air_c == 18.0).all()
    with pytest.raises(OutOfRange, match="365"):
        made_light(HILL, climate, mounting, clearness[:100])
