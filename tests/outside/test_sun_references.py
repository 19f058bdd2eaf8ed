"""Sun, sky and plane against published examples and against pvlib used by itself."""

import numpy as np
import pandas as pd
import pvlib
import pytest

from squall.core.sky.climate import Site
from squall.core.sky.sunlight import clear_sky, hidden_by, onto_plane, shadow_over, split_light, sun_path
from squall.sums.registry import run

HILL = Site(-30.4, 24.6, 1180.0, 2.0)
DAY = pd.date_range("2026-06-21", periods=144, freq="10min", tz="Etc/GMT-2")


def test_spa_published_example() -> None:
    """Reda and Andreas, Solar Position Algorithm for Solar Radiation Applications, NREL/TP-560-34302 (2008), table A5.1.

    Zenith 50.11162, azimuth 194.34024 degrees on 17 October 2003, 12:30:30 at UTC-7; their air is 820 mbar and 11 °C,
    pvlib's default pressure follows from the altitude; hence 0.005 degrees. Read from memory.
    """
    site = Site(39.742476, -105.1786, 1830.14, -7.0)
    path = sun_path(site, pd.DatetimeIndex(["2003-10-17 12:30:30"], tz="Etc/GMT+7"))
    assert path.apparent_zenith_deg[0] == pytest.approx(50.11162, abs=0.005)
    assert path.azimuth_deg[0] == pytest.approx(194.34024, abs=0.005)


def fao_outside_mj(latitude: float, day_of_year: int) -> float:
    """FAO Irrigation and Drainage Paper 56 (1998), equations 21 to 25, with its solar constant 0.0820 MJ/m2/min."""
    phi = np.radians(latitude)
    distance = 1.0 + 0.033 * np.cos(2.0 * np.pi * day_of_year / 365.0)
    declination = 0.409 * np.sin(2.0 * np.pi * day_of_year / 365.0 - 1.39)
    sunset = np.arccos(-np.tan(phi) * np.tan(declination))
    turned = sunset * np.sin(phi) * np.sin(declination) + np.cos(phi) * np.cos(declination) * np.sin(sunset)
    return float(24.0 * 60.0 / np.pi * 0.0820 * distance * turned)


def outside_mj(latitude: float, day: str) -> float:
    found = run("sun-day", {"latitude_deg": latitude, "longitude_deg": 0.0, "altitude_m": 0.0, "date": day,
                            "tilt_deg": 0.0, "azimuth_deg": 0.0, "sky": "clear", "step_min": 5.0})  # fmt: skip
    return found.outside_kwh_per_m2 * 3.6


def test_light_outside_the_atmosphere_as_published() -> None:
    """FAO-56, example 8: 32.2 MJ/m2 on 3 September at 20° S (read from memory).

    Its solar constant is half a per cent over today's, its declination off by up to half a degree near the equinox.
    """
    assert outside_mj(-20.0, "2026-09-03") == pytest.approx(32.2, rel=0.02)


@pytest.mark.parametrize(
    ("latitude", "day", "number"),
    [
        (0.0, "2026-01-15", 15),
        (-30.4, "2026-06-15", 166),
        (40.0, "2026-03-15", 74),
        (-45.0, "2026-12-21", 355),
        (55.0, "2026-06-21", 172),
    ],
)
def test_light_outside_the_atmosphere(latitude: float, day: str, number: int) -> None:
    """Within 2 % of FAO-56's formula, for the same two reasons; within a thousandth of pvlib summed by the minute."""
    ours = outside_mj(latitude, day)
    assert ours == pytest.approx(fao_outside_mj(latitude, number), rel=0.02)
    minutes = pd.date_range(day, periods=1440, freq="min", tz="UTC")
    zenith = pvlib.solarposition.get_solarposition(minutes, latitude, 0.0)["zenith"]
    level = pvlib.irradiance.get_extra_radiation(minutes) * np.maximum(np.cos(np.radians(zenith)), 0.0)
    assert ours == pytest.approx(float(level.sum()) * 60.0 / 1e6, rel=1e-3)


@pytest.mark.parametrize(("tilt", "azimuth"), [(0.0, 0.0), (35.0, 0.0), (60.0, 90.0), (20.0, 270.0), (90.0, 180.0)])
def test_clear_day_on_a_plane_is_pvlibs(tilt: float, azimuth: float) -> None:
    """Ineichen's clear sky and Hay and Davies' plane, as pvlib's own Location and irradiance give them."""
    place = pvlib.location.Location(HILL.latitude_deg, HILL.longitude_deg, "UTC", HILL.altitude_m)
    sun = place.get_solarposition(DAY)
    clear = place.get_clearsky(DAY, model="ineichen", linke_turbidity=3.0, solar_position=sun)
    theirs = pvlib.irradiance.get_total_irradiance(
        tilt, azimuth, sun["apparent_zenith"], sun["azimuth"], clear["dni"], clear["ghi"], clear["dhi"],
        dni_extra=pvlib.irradiance.get_extra_radiation(DAY), model="haydavies", albedo=0.2,
    )["poa_global"].fillna(0.0)  # fmt: skip
    path = sun_path(HILL, DAY)
    ours = onto_plane(path, clear_sky(path, HILL.altitude_m, 3.0), tilt, azimuth)
    assert ours == pytest.approx(theirs.to_numpy(), abs=0.5)


@pytest.mark.parametrize("share", [0.0, 0.1, 0.3, 0.5, 0.7, 0.85])
def test_beam_and_diffuse_are_pvlibs_erbs(share: float) -> None:
    path = sun_path(HILL, DAY)
    whole = share * path.level_outside_w_m2
    theirs = pvlib.irradiance.erbs(whole, path.zenith_deg, DAY)
    ours = split_light(path, whole)
    assert ours.diffuse == pytest.approx(np.nan_to_num(theirs["dhi"]), abs=0.05)
    assert ours.beam == pytest.approx(np.nan_to_num(theirs["dni"]), abs=0.2)


def test_the_sums_times_and_light_agree_with_pvlib_at_those_times() -> None:
    asked = {"latitude_deg": -30.4, "longitude_deg": 24.6, "altitude_m": 1180.0, "date": "2026-12-21", "tilt_deg": 20.0,
             "azimuth_deg": 0.0, "sky": "clear", "step_min": 30.0}  # fmt: skip
    found = run("sun-day", asked)
    times = pd.DatetimeIndex(pd.to_datetime(found.times))
    place = pvlib.location.Location(-30.4, 24.6, "UTC", 1180.0)
    sun, clear = place.get_solarposition(times), place.get_clearsky(times, linke_turbidity=3.0)
    theirs = pvlib.irradiance.get_total_irradiance(
        20.0, 0.0, sun["apparent_zenith"], sun["azimuth"], clear["dni"], clear["ghi"], clear["dhi"],
        dni_extra=pvlib.irradiance.get_extra_radiation(times), model="haydavies", albedo=0.2,
    )["poa_global"].fillna(0.0)  # fmt: skip
    assert found.irradiance_w_per_m2 == pytest.approx(theirs.tolist(), abs=0.6)
    assert found.day_kwh_per_m2 == pytest.approx(sum(found.irradiance_w_per_m2) * 0.5 / 1000.0)


@pytest.mark.parametrize("clearness", [0.2, 0.45, 0.62, 0.75])
def test_a_days_clearness_is_kept(clearness: float) -> None:
    for sky in ({"sky": clearness}, {"sky": "clearness", "clearness": clearness}):
        found = run("sun-day", {"latitude_deg": 34.0, "longitude_deg": -5.0, "altitude_m": 600.0, "date": "2026-03-21",
                                "tilt_deg": 0.0, "azimuth_deg": 180.0, "step_min": 10.0, **sky})  # fmt: skip
        assert found.level_kwh_per_m2 / found.outside_kwh_per_m2 == pytest.approx(clearness, rel=1e-9)


def test_hills_and_posts_hide_the_beam_alone() -> None:
    path = sun_path(HILL, DAY)
    sky = clear_sky(path, HILL.altitude_m, 3.0)
    free = onto_plane(path, sky, 35.0, 0.0)
    east = ((60.0, 25.0), (100.0, 25.0), (120.0, 0.0), (300.0, 0.0))
    behind = hidden_by(east, path)
    assert not hidden_by((), path).any()
    morning = (path.azimuth_deg > 61) & (path.azimuth_deg < 99) & (path.apparent_zenith_deg > 65.1)
    assert behind[morning].all()
    assert not behind[path.apparent_zenith_deg < 60].any()
    under = onto_plane(path, sky, 35.0, 0.0, behind)
    assert (under[behind & (sky.beam > 50)] < free[behind & (sky.beam > 50)]).all()
    assert under[~behind] == pytest.approx(free[~behind])
    # What is left in the shadow is sky and ground: never more than the level's diffuse with some of the ground's.
    assert (under[behind] <= sky.diffuse[behind] * 1.25 + 1.0).all()
    over_north = shadow_over(350.0, 10.0, 90.0, path)
    azimuth = path.azimuth_deg
    assert over_north.tolist() == ((azimuth >= 350) | (azimuth <= 10)).tolist()


@pytest.mark.parametrize("place", [(-30.4, 24.6, 1180.0), (60.2, 24.9, 20.0), (0.0, -60.0, 0.0), (72.0, 120.0, 300.0)])
def test_the_suns_path_is_pvlibs_own(place) -> None:
    """pvlib's get_solarposition and get_extra_radiation at the same moments: zenith, what is seen of it, azimuth to a hundred-thousandth of a degree."""
    import pandas as pd
    import pvlib

    from squall.core.sky.climate import Site
    from squall.core.sky.sunlight import sun_path

    moments = pd.date_range("2025-01-03 00:10", "2025-12-28", periods=977, tz="UTC")
    ours = sun_path(Site(*place, 2.0), moments)
    theirs = pvlib.solarposition.get_solarposition(moments, *place)
    assert ours.zenith_deg == pytest.approx(theirs["zenith"].to_numpy(), abs=1e-5)
    assert ours.apparent_zenith_deg == pytest.approx(theirs["apparent_zenith"].to_numpy(), abs=1e-5)
    assert ours.azimuth_deg == pytest.approx(theirs["azimuth"].to_numpy(), abs=1e-5)
    assert ours.outside_w_m2 == pytest.approx(pvlib.irradiance.get_extra_radiation(moments).to_numpy(), rel=1e-12)
