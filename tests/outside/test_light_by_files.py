"""The world's table against the weather files that pvlib itself carries, and a kit's year by both.

Files (pvlib 0.16, ``pvlib/data``): 723170TYA.CSV, TMY3 of Greensboro, 36.1 N 79.95 W; 703165TY.csv, TMY3 of Sand
Point, an island of 55.3 N 160.5 W; 12839.tm2, TMY2 of Miami, 25.8 N 80.3 W. A typical year takes each month from another
year, so a month of a file has that year's luck: some 7 % of its mean (see made_weather). The table claims its doubt.
"""

from dataclasses import dataclass
from functools import cache
from pathlib import Path

import numpy as np
import pvlib
import pytest

from squall.core.sky.made_weather import MONTH_OF_DAY
from squall.core.sky.whole_year import MeasuredYear
from squall.core.sky.world import light_at
from squall.demo import demo_jobs
from squall.job.document.fields import edit
from squall.job.edit.places import set_place
from squall.job.worked.assess import assess
from squall.job.worked.years import run_of

DATA = Path(pvlib.__path__[0]) / "data"
MONTH_LUCK = 0.07


@dataclass(frozen=True)
class File:
    latitude: float
    longitude: float
    clock: str
    year: MeasuredYear

    @property
    def days(self):
        """Light on the level, each day. [kWh/m2]"""
        return self.year.whole_w_m2.reshape(365, 24).sum(axis=1) / 1000.0


@cache
def file(name):
    if name == "miami":
        data, meta = pvlib.iotools.read_tmy2(DATA / "12839.tm2")
        columns, air, clock = ("GHI", "DHI", "DryBulb"), 0.1, "-5 h"
    else:
        paper, clock = ("723170TYA.CSV", "-5 h") if name == "greensboro" else ("703165TY.csv", "-9 h")
        data, meta = pvlib.iotools.read_tmy3(DATA / paper, map_variables=True)
        columns, air = ("ghi", "dhi", "temp_air"), 1.0
    whole, diffuse, heat = (data[column].to_numpy(float)[:8760] for column in columns)
    return File(meta["latitude"], meta["longitude"], clock, MeasuredYear(whole, diffuse, heat * air, name))


@pytest.mark.parametrize("name", ["greensboro", "miami", "sand-point"])
def test_the_year_and_its_months_lie_within_what_the_table_claims(name):
    here = file(name)
    light = light_at(here.latitude, here.longitude)
    less = np.array([month.doubt + month.reads_high for month in light.months])
    more = np.array([month.doubt for month in light.months])
    mean = np.array([month.mean_kwh_m2 for month in light.months])
    months = np.array([here.days[month == MONTH_OF_DAY].mean() for month in range(12)])
    assert here.days.sum() == pytest.approx(light.year_kwh_m2, rel=float(less.mean()))
    low, high = (mean * (1.0 - np.hypot(less, 2 * MONTH_LUCK)), mean * (1.0 + np.hypot(more, 2 * MONTH_LUCK)))
    within = (months >= low) & (months <= high)
    # Two months in twelve lie beyond two spreads (Miami's July and August), on the cloudy island three.
    assert within.sum() >= (9 if name == "sand-point" else 10)


@pytest.mark.parametrize("name", ["greensboro", "miami", "sand-point"])
def test_dull_and_clear_days_are_spread_as_in_the_file(name):
    """A day over its month's mean, all months together: the shares' days within 0.15 of the file's."""
    here = file(name)
    light = light_at(here.latitude, here.longitude)
    ours = [
        light.months[m].under(share) / light.months[m].mean_kwh_m2
        for m in range(12)
        for share in np.linspace(0.02, 0.98, 49)
    ]
    mean = np.array([here.days[month == MONTH_OF_DAY].mean() for month in range(12)])
    theirs = here.days / mean[MONTH_OF_DAY]
    for share in (0.05, 0.25, 0.5, 0.75, 0.95):
        assert np.quantile(ours, share) == pytest.approx(np.quantile(theirs, share), abs=0.15)


def runs(number, name, parts):
    """Litres a year and short days in a hundred: by made years at the place, and by its file."""
    here = file(name)
    job, _ = set_place(demo_jobs()[number], here.latitude, here.longitude)
    typed = {
        "tilt": "",
        "azimuth": "",
        "clock_offset": here.clock,
        "need_by": "litres",
        "litres": "900 L",
        "want.headroom": "1",
    }
    for path, text in typed.items():
        job = edit(job, path, text, parts)
    a = assess(job)
    made, measured = run_of(a, a.chosen), run_of(a, a.chosen, here.year)
    return (made.pumped_l.sum() / made.years, made.short_in_a_hundred), (
        measured.pumped_l.sum(),
        measured.short_in_a_hundred,
    )


@pytest.mark.parametrize("name", ["greensboro", "miami", "sand-point"])
def test_a_kits_year_by_the_table_and_by_the_file(parts, name):
    """The saffron job's kit with a pump controller: litres within 12 %, short days within 5 in a hundred."""
    (litres, short), (file_litres, file_short) = runs(1, name, parts)
    assert litres == pytest.approx(file_litres, rel=0.12)
    assert short == pytest.approx(file_short, abs=5.0)


@pytest.mark.parametrize("name", ["greensboro", "miami"])
def test_a_kit_straight_on_its_panel_is_touchier(parts, name):
    """The goat job's kit starts late in the light, so a year's own luck counts for more: litres within 12 %, short days
    within 6 in a hundred. On the cloudy island (not here) it makes a third less by the table than by the file: most days
    there lie about its starting light."""
    (litres, short), (file_litres, file_short) = runs(0, name, parts)
    assert litres == pytest.approx(file_litres, rel=0.12)
    assert short == pytest.approx(file_short, abs=6.0)


@pytest.mark.parametrize(
    "place", [(-30.4, 24.6), (60.2, 24.9), (23.6, 58.1), (26.8, 85.3), (-3.1, -60.0), (-41.3, -71.4), (13.5, 2.1)]
)
def test_a_year_can_be_run_anywhere(parts, place):
    """Desert, monsoon, rain forest, both hemispheres, 60 N: no file there to hold it against, but the run is whole."""
    job, _ = set_place(demo_jobs()[1], *place)
    job = edit(edit(job, "tilt", "", parts), "years.count", "2", parts)
    a = assess(job)
    run = run_of(a, a.chosen)
    assert run.pumped_l.sum() > 0.0
    assert 0.0 <= run.short_in_a_hundred <= 100.0
    light = light_at(*place)
    assert max(month.mean_kwh_m2 for month in light.months) < 9.5
