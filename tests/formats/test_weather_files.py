"""Weather files: written here in each kind's own layout, read back through pvlib; and what is refused."""

import io
from pathlib import Path

import numpy as np
import pandas as pd
import pvlib
import pytest

from squall.core.errors import BadFile
from squall.formats import weather
from squall.store.years import from_json, to_json

HOURS = pd.date_range("2019-01-01", periods=8760, freq="h")
LIGHT = np.clip(900.0 * np.sin((HOURS.hour - 6) / 12.0 * np.pi), 0.0, None) * (
    1.0 + 0.4 * np.cos(2 * np.pi * HOURS.dayofyear / 365)
)
AIR = 18.0 - 8.0 * np.cos(2 * np.pi * (HOURS.hour - 3) / 24.0)
SHIPPED = Path(pvlib.__file__).parent / "data" / "723170TYA.CSV"


def epw(hours: pd.DatetimeIndex = HOURS, light=LIGHT, air=AIR, offset: str = "2.0") -> str:
    """An EPW as its data dictionary has it: eight lines of header, 35 columns, hours 1 to 24."""
    head = [f"LOCATION,Nowhere,-,-,made,0,-30.4,24.6,{offset},1180.0"]
    head += ["DESIGN CONDITIONS,0", "TYPICAL/EXTREME PERIODS,0", "GROUND TEMPERATURES,0",
             "HOLIDAYS/DAYLIGHT SAVINGS,No,0,0,0", "COMMENTS 1,made", "COMMENTS 2,made",
             "DATA PERIODS,1,1,Data,Sunday,1/1,12/31"]  # fmt: skip
    rows = [
        f"{t.year},{t.month},{t.day},{t.hour + 1},0,?9,{a:.1f},5,50,88000,0,0,300,{g:.0f},{g * 0.8:.0f},{g * 0.3:.0f},"
        "0,0,0,0,180,3,5,5,20,7777,9,999999999,10,0.1,0,88,0,0,0"
        for t, g, a in zip(hours, light, air, strict=True)
    ]
    return "\n".join([*head, *rows]) + "\n"


def pvgis(hours: pd.DatetimeIndex = HOURS, light=LIGHT, slope: str = "0 deg.") -> str:
    """PVGIS-like: a header of site and plane, hours at ten minutes past, a footer of explanations."""
    head = ["Latitude (decimal degrees):\t-30.400", "Longitude (decimal degrees):\t24.600", "Elevation (m):\t1180",
            "Radiation database:\tmade", "", "", f"Slope: {slope}", "Azimuth: 0 deg.", "",
            "time,Gb(i),Gd(i),Gr(i),H_sun,T2m,WS10m,Int"]  # fmt: skip
    rows = [
        f"{t:%Y%m%d:%H10},{g * 0.7:.2f},{g * 0.3:.2f},0.0,{g / 20:.2f},{a:.2f},2.0,0.0"
        for t, g, a in zip(hours, light, AIR[np.arange(len(hours)) % 8760], strict=True)
    ]
    return "\n".join([*head, *rows, "", "Gb(i): Beam irradiance", "PVGIS (c) made"]) + "\n"


def test_an_epw_is_read_hour_by_hour() -> None:
    year = weather.read(epw().encode(), "hill.epw", 2.0)
    assert year.whole_w_m2 == pytest.approx(np.round(LIGHT), abs=0.51)
    assert year.diffuse_w_m2 == pytest.approx(LIGHT * 0.3, abs=0.51)
    assert year.air_c == pytest.approx(AIR, abs=0.06)
    assert "hill.epw" in year.told_by
    assert "EPW" in year.told_by


@pytest.mark.parametrize(("site", "file"), [(2.0, "0.0"), (5.0, "2.0"), (-7.0, "2.0")])
def test_another_clock_is_moved_to_the_sites(site: float, file: str) -> None:
    year = weather.read(epw(offset=file).encode(), "x.epw", site)
    assert year.whole_w_m2 == pytest.approx(np.roll(np.round(LIGHT), round(site - float(file))), abs=0.51)


def test_the_tmy3_style_file_that_pvlib_ships() -> None:
    """Its own sums, by pvlib alone: 8,760 hours, light of the year and mean air."""
    data = SHIPPED.read_bytes()
    theirs, _ = pvlib.iotools.read_tmy3(io.StringIO(data.decode()), map_variables=True)
    year = weather.read(data, "shipped.csv", -5.0)
    assert year.whole_w_m2.sum() == pytest.approx(theirs["ghi"].sum())
    assert year.air_c.mean() == pytest.approx(theirs["temp_air"].mean())
    noon = year.whole_w_m2.reshape(365, 24)[150:210].mean(axis=0).argmax()
    assert noon in (11, 12)


def test_a_pvgis_like_series_of_several_years_gives_its_last_whole_one() -> None:
    hours = pd.date_range("2015-01-01", "2016-12-31 23:00", freq="h")
    light = np.resize(LIGHT, len(hours))
    year = weather.read(pvgis(hours, light).encode(), "long.csv", 0.0)
    assert year.whole_w_m2.size == 8760
    assert "leap day left out" in year.told_by
    assert "year 2016" in year.told_by
    assert year.whole_w_m2.max() == pytest.approx(light.max(), rel=0.01)


def test_southern_months_stay_where_they_are() -> None:
    """A southern file has its bright months around New Year; they are not turned to the north's."""
    bright = LIGHT * 0 + np.clip(np.sin((HOURS.hour - 6) / 12.0 * np.pi), 0, None) * (
        700 + 250 * np.cos(2 * np.pi * HOURS.dayofyear / 365)
    )
    year = weather.read(pvgis(light=bright).encode(), "south.csv", 0.0)
    by_month = [year.whole_w_m2[m].mean() for m in (HOURS.month == 1, HOURS.month == 7)]
    assert by_month[0] > 1.3 * by_month[1]


LEAP = pd.date_range("2020-01-01", periods=8784, freq="h")


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "is empty"),
        ("a,b\n1,2\n", "no weather file that Squall knows"),
        ("LOCATION,only\nfoo\n", "looks like an EPW"),
        ("\n".join(epw().splitlines()[:3000]), "cut off"),
        ("\n".join(epw().splitlines()[:4000] + epw().splitlines()[4005:]), "gap"),
        ("\n".join(epw().splitlines()[:4000] + epw().splitlines()[3990:]), "gap or an hour twice"),
        (epw(light=LIGHT * 9), "W/m²"),
        (epw(air=AIR + 80), "°C"),
        (epw(light=LIGHT * 0), "no light in any hour"),
        (epw(hours=pd.date_range("2019-04-01", periods=8760, freq="h")), "begins in April"),
        (pvgis(slope="35 deg."), "tilted plane"),
        (pvgis().replace("Gb(i),Gd(i),Gr(i)", "G(i),x,y"), "beam and diffuse"),
        (pvgis(HOURS[:5000], LIGHT[:5000]), "cut off"),
    ],
)
def test_what_is_refused_and_why(text: str, said: str) -> None:
    with pytest.raises(BadFile, match=said):
        weather.read(text.encode(), "bad file", 2.0)


def test_a_leap_years_file_and_one_that_is_too_large() -> None:
    year = weather.read(epw(LEAP, np.resize(LIGHT, 8784), np.resize(AIR, 8784)).encode(), "leap.epw", 2.0)
    assert "leap day left out" in year.told_by
    with pytest.raises(BadFile, match="larger"):
        weather.read(b"x" * (weather.MOST_BYTES + 1), "huge", 2.0)
    assert (
        weather.read(epw().encode("latin-1").replace(b"Nowhere", b"Nowh\xe9re"), "odd.epw", 2.0).whole_w_m2.size == 8760
    )


def test_a_kept_year_comes_back() -> None:
    year = weather.read(epw().encode(), "hill.epw", 2.0)
    again = from_json(to_json(year))
    assert again.told_by == year.told_by
    assert again.whole_w_m2 == pytest.approx(year.whole_w_m2, abs=0.006)
