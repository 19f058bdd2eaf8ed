"""FAO Irrigation and Drainage Paper 56 (1998), its own worked examples (values from memory).

The paper rounds at every step, so its answers hold to about one in the last figure printed.
"""

import pytest

from squall.core.errors import OutOfRange
from squall.core.need.evapotranspiration import hargreaves, saturation_kpa, solar_from_sunshine, vapour_from_humidity
from squall.core.sky.outside import day_sky
from squall.sums import run
from squall.sums.registry import BadSum

UCCLE = {
    "method": "penman-monteith",
    "latitude_deg": 50.8,
    "day_of_year": 187,
    "altitude_m": 100.0,
    "t_min_c": 12.3,
    "t_max_c": 21.5,
    "rh_min_percent": 63.0,
    "rh_max_percent": 84.0,
    "wind_2m_m_per_s": 2.078,
    "sunshine_h": 9.25,
}
BANGKOK = {
    "method": "penman-monteith",
    "latitude_deg": 13.73,
    "day_of_year": 105,
    "altitude_m": 2.0,
    "t_min_c": 25.6,
    "t_max_c": 34.8,
    "ea_kpa": 2.85,
    "wind_2m_m_per_s": 2.0,
    "sunshine_h": 8.5,
    "soil_heat_mj_per_m2": 0.14,
}
LYON = {
    "method": "hargreaves",
    "latitude_deg": 45.72,
    "day_of_year": 196,
    "altitude_m": 200.0,
    "t_min_c": 14.8,
    "t_max_c": 26.6,
}


def test_example_8_extraterrestrial() -> None:
    """3 September at 20 °S: 32.2 MJ/m2."""
    assert day_sky(-20.0, 246).extraterrestrial_mj_m2 == pytest.approx(32.2, abs=0.05)


def test_example_9_daylight() -> None:
    """The same day and place: 11.7 h."""
    assert day_sky(-20.0, 246).daylight_h == pytest.approx(11.7, abs=0.05)


def test_example_3_saturation() -> None:
    """At 24.5 °C 3.075 kPa and at 15 °C 1.705 kPa."""
    assert saturation_kpa(24.5) == pytest.approx(3.075, abs=0.001)
    assert saturation_kpa(15.0) == pytest.approx(1.705, abs=0.001)


def test_example_5_vapour_pressure() -> None:
    """18 to 25 °C, 54 to 82 %: 1.70 kPa."""
    assert vapour_from_humidity(18.0, 25.0, 54.0, 82.0) == pytest.approx(1.70, abs=0.005)


def test_example_10_solar_radiation() -> None:
    """Rio de Janeiro, 22.9 °S, 15 May, 220 h of sun in the month: 14.5 MJ/m2."""
    assert solar_from_sunshine(day_sky(-22.9, 135), 220 / 31) == pytest.approx(14.5, abs=0.1)


def test_example_17_bangkok_in_april() -> None:
    """5.72 mm/d, from monthly means."""
    assert run("reference-et", BANGKOK).model_dump()["et0_mm_per_day"] == pytest.approx(5.72, abs=0.03)


def test_example_18_uccle_on_6_july() -> None:
    """3.88 mm/d, with Ra 41.09 MJ/m2."""
    answer = run("reference-et", UCCLE).model_dump()
    assert answer["et0_mm_per_day"] == pytest.approx(3.88, abs=0.02)
    assert answer["extraterrestrial_mj_per_m2"] == pytest.approx(41.09, abs=0.05)


def test_example_20_lyon_by_hargreaves() -> None:
    """5.0 mm/d."""
    assert run("reference-et", LYON).model_dump()["et0_mm_per_day"] == pytest.approx(5.0, abs=0.06)


@pytest.mark.parametrize(
    "change",
    [
        {"sunshine_h": 20.0},
        {"sunshine_h": None},
        {"solar_mj_per_m2": 20.0},
        {"ea_kpa": 1.4},
        {"rh_min_percent": None},
        {"rh_min_percent": 90.0},
        {"wind_2m_m_per_s": None},
        {"latitude_deg": 80.0},
        {"day_of_year": 0},
        {"t_min_c": 30.0},
    ],
)
def test_contradictions_are_refused(change: dict[str, object]) -> None:
    with pytest.raises((BadSum, OutOfRange)):
        run("reference-et", {**UCCLE, **change})


def test_hotter_days_want_more_water() -> None:
    sky = day_sky(-30.0, 15)
    assert hargreaves(sky, 18.0, 34.0) > hargreaves(sky, 15.0, 30.0) > 0
    assert hargreaves(sky, -30.0, -25.0) == 0.0
