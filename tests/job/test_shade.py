"""Shade as people say it, as a horizon: against pvlib's own position of the sun (SPA), and what it does to the job."""

import numpy as np
import pandas as pd
import pytest
from pvlib.solarposition import get_solarposition

from squall.core.errors import BadQuantity
from squall.core.sky.sunlight import higher_of
from squall.demo import demo_jobs
from squall.job.edit.shade import add_shade
from squall.job.worked.assess import assess
from squall.job.worked.place import site_of
from squall.words.shade import Shade, read_shade


@pytest.fixture(scope="module")
def goats():
    """With nothing on the horizon yet."""
    job = demo_jobs()[0]
    return job.model_copy(update={"mount": job.mount.model_copy(update={"horizon": []})})


@pytest.mark.parametrize(
    ("said", "shade"),
    [
        ("after 2 pm", Shade(14.0, None)), ("After 14:30", Shade(14.5, None)), ("shady past noon", Shade(12.0, None)),
        ("the tree there until 10", Shade(None, 10.0)), ("before 9 a.m.", Shade(None, 9.0)), ("from 11 am to 1 pm", Shade(11.0, 13.0)),
        ("between 11:30 and 13", Shade(11.5, 13.0)), ("until 12 pm", Shade(None, 12.0)), ("after 12 am", Shade(0.0, None)),
    ],
)  # fmt: skip
def test_hours_are_read_as_they_are_said(said: str, shade: Shade) -> None:
    assert read_shade(said) == shade


@pytest.mark.parametrize(
    "said", ["", "a lot", "after lunch", "after 25", "after 14 pm", "until 9:75", "between 3 pm and 1 pm"]
)
def test_what_says_no_hours_is_refused(said: str) -> None:
    with pytest.raises(BadQuantity):
        read_shade(said)


def hidden_hours(job, month: int) -> tuple[np.ndarray, np.ndarray]:
    """Clock hours of daylight, and whether the job's horizon hides the sun then: by pvlib's position, not by ours."""
    site = site_of(job)
    hours = np.arange(0.0, 24.0, 1.0 / 12.0)
    start = pd.Timestamp(2025, month + 1, 15, tz="UTC") - pd.Timedelta(hours=site.utc_offset_h)
    sun = get_solarposition(pd.DatetimeIndex(start + pd.to_timedelta(hours, unit="h")), site.latitude_deg, site.longitude_deg, site.altitude_m)  # fmt: skip
    up = (sun.apparent_elevation > 1.0).to_numpy()
    points = sorted((row.azimuth.si, row.height.si) for row in job.mount.horizon)
    height = np.interp(sun.azimuth, [a for a, _ in points], [h for _, h in points], period=360.0)
    return hours[up], (sun.apparent_elevation.to_numpy() < height)[up]


@pytest.mark.parametrize("month", [0, 5, 8])
@pytest.mark.parametrize(
    ("said", "first", "last"), [("after 2 pm", 14.0, 24.0), ("until 9", 0.0, 9.0), ("between 10 and 11:30", 10.0, 11.5)]
)
def test_the_horizon_hides_the_sun_then_and_at_no_other_hour(
    goats, month: int, said: str, first: float, last: float
) -> None:
    job, words = add_shade(goats, said, month)
    hours, hidden = hidden_hours(job, month)
    inside = (hours >= first + 0.3) & (hours <= last - 0.3)
    outside = (hours < first - 0.3) | (hours > last + 0.3)
    assert hidden[inside].all(), said
    assert not hidden[outside].any(), said
    assert said in str(words)


def test_two_shades_add_up_and_the_hills_that_stood_there_stay(goats) -> None:
    job, _ = add_shade(goats, "after 3 pm", 5)
    job, _ = add_shade(job, "until 8:30", 5)
    hours, hidden = hidden_hours(job, 5)
    assert hidden[hours > 15.4].all()
    assert hidden[hours < 8.2].all()
    assert not hidden[(hours > 9.0) & (hours < 14.6)].any()
    assert higher_of(((0.0, 10.0),), ()) == ((0.0, 10.0),)
    joined = dict(higher_of(((0.0, 10.0), (180.0, 10.0)), ((90.0, 0.0), (200.0, 25.0), (220.0, 0.0))))
    assert min(joined.values()) >= 10.0 - 1e-9
    assert joined[200.0] == 25.0


def test_shade_costs_water_in_every_figure(goats) -> None:
    shaded, _ = add_shade(goats, "after 1 pm", 5)
    before, after = assess(goats).chosen, assess(shaded).chosen
    assert after.worst_litres < 0.9 * before.worst_litres


@pytest.mark.parametrize("said", ["after 10 pm", "until 5 am"])
def test_shade_at_night_is_asked_again(goats, said: str) -> None:
    with pytest.raises(BadQuantity, match="isn't up"):
        add_shade(goats, said, 5)
