"""Panels against pvlib, sun against published values, conductors against standards, energy against practice."""

import itertools

import numpy as np
import pandas as pd
import pvlib
import pytest

from squall.core.electrics.conductors import ambient_factor, conductor, resistance_ohm, sizes
from squall.core.electrics.energy import energy_use
from squall.core.electrics.modules import array_point, diode_at, fit_module
from squall.core.electrics.protection import ratings
from squall.core.electrics.wire_gauge import awg_area_mm2, awg_ohm_per_m
from squall.core.sky.climate import Site
from squall.core.sky.outside import TYPICAL_DAYS
from squall.core.sky.typical_days import AVERAGE, CLEAR, STEP_H, Mounting, light_of_year


@pytest.mark.parametrize(
    "panel_id", ["kite-20", "kite-50", "kite-80", "kite-110", "ridge-160", "ridge-215", "ridge-330", "ridge-450"]
)
def test_fit_gives_the_nameplate_back(parts, panel_id: str) -> None:
    """The five-parameter model must pass through the nameplate it was fitted from (De Soto 2006)."""
    module = parts.panels[panel_id].module
    point = array_point(diode_at(module, np.array([1000.0]), np.array([25.0])), 1, 1)[0]
    assert point.voc_v == pytest.approx(module.voc_v, rel=1e-4)
    assert point.isc_a == pytest.approx(module.isc_a, rel=1e-4)
    assert point.pmp_w == pytest.approx(module.watts, rel=1e-4)
    warm = array_point(diode_at(module, np.array([1000.0]), np.array([27.0])), 1, 1)[0]
    assert (warm.voc_v / point.voc_v - 1) / 2 * 100 == pytest.approx(module.voc_percent_per_k, rel=0.02)


@pytest.mark.parametrize(("irradiance", "cell"), [(1000, 25), (800, 45), (300, 20), (50, 5), (1100, 70)])
def test_module_points_against_pvlib(parts, irradiance: float, cell: float) -> None:
    """pvlib's own chain, calcparams_desoto and max_power_point by Newton, on the same parameters."""
    module = parts.panels["kite-110"].module
    ref = fit_module(module)
    params = pvlib.pvsystem.calcparams_desoto(
        irradiance, cell, ref.isc_a_per_k, ref.modified_ideality_v, ref.light_current_a, ref.saturation_current_a,
        ref.shunt_ohm, ref.series_ohm,
    )  # fmt: skip
    theirs = pvlib.pvsystem.max_power_point(*params, method="newton")
    ours = array_point(diode_at(module, np.array([float(irradiance)]), np.array([float(cell)])), 2, 3)[0]
    assert ours.pmp_w == pytest.approx(6 * float(theirs["p_mp"]), rel=1e-6)
    assert ours.vmp_v == pytest.approx(2 * float(theirs["v_mp"]), rel=1e-4)
    assert ours.imp_a == pytest.approx(3 * float(theirs["i_mp"]), rel=1e-4)


def test_extraterrestrial_light_against_fao(parts) -> None:
    """FAO Irrigation and Drainage Paper 56, example 8: 20 °S, 3 September, Ra 32.2 MJ/m2/d.

    The paper prints three figures and takes 1367 W/m2 for the solar constant; pvlib takes 1366.1.
    """
    times = pd.date_range("2025-09-03", periods=288, freq="5min", tz="UTC")
    sun = pvlib.solarposition.get_solarposition(times, -20.0, 0.0)
    level = pvlib.irradiance.get_extra_radiation(times) * np.cos(np.radians(sun["zenith"])).clip(lower=0)
    assert float(level.sum()) * 300 / 1e6 == pytest.approx(32.2, rel=0.01)


def test_sun_position_against_spa_example() -> None:
    """I. Reda, A. Andreas, NREL/TP-560-34302 (2008), table A5.1: zenith 50.11162°, azimuth 194.34024°."""
    at = pd.DatetimeIndex([pd.Timestamp("2003-10-17 12:30:30", tz="Etc/GMT+7")])
    found = pvlib.solarposition.get_solarposition(
        at, 39.742476, -105.1786, altitude=1830.14, pressure=82000, temperature=11, delta_t=67, method="nrel_numpy"
    )
    assert float(found["apparent_zenith"].iloc[0]) == pytest.approx(50.11162, abs=1e-4)
    assert float(found["azimuth"].iloc[0]) == pytest.approx(194.34024, abs=1e-4)


def test_average_day_keeps_the_months_light(parts) -> None:
    """On the level, the average day's light is clearness times the extraterrestrial day, by an independent sum."""
    site, climate = Site(-30.4, 24.6, 1180.0, 2.0), parts.climates["ridge"]
    light = light_of_year(site, climate, Mounting(0.0, 0.0, 0.0))
    for month in (0, 5, 8):
        day = pd.Timestamp(2025, month + 1, TYPICAL_DAYS[month], tz="Etc/GMT-2")
        times = pd.date_range(day, periods=1440, freq="1min")
        sun = pvlib.solarposition.get_solarposition(times, site.latitude_deg, site.longitude_deg)
        outside = pvlib.irradiance.get_extra_radiation(times) * np.cos(np.radians(sun["zenith"])).clip(lower=0)
        expected = climate.months[month].clearness * float(outside.sum()) / 60.0 / 1000.0
        assert light.level_kwh_m2[AVERAGE, month] == pytest.approx(expected, rel=0.01)
        assert light.plane_w_m2[AVERAGE, month].sum() * STEP_H / 1000 == pytest.approx(expected, rel=0.02)


def test_clear_day_against_pvlib(parts) -> None:
    """pvlib's Location.get_clearsky (Ineichen, same turbidity) through one December day, on the level."""
    site = Site(-30.4, 24.6, 1180.0, 2.0)
    light = light_of_year(site, parts.climates["ridge"], Mounting(0.0, 0.0, 0.0))
    place = pvlib.location.Location(-30.4, 24.6, "Etc/GMT-2", 1180.0)
    times = pd.date_range("2025-12-10", periods=1440, freq="1min", tz="Etc/GMT-2")
    theirs = place.get_clearsky(times, model="ineichen", linke_turbidity=3.2)
    assert light.level_kwh_m2[CLEAR, 11] == pytest.approx(float(theirs["ghi"].sum()) / 60_000, rel=0.01)


@pytest.mark.parametrize(
    ("size", "ohm_per_km"), [("0.5", 39.0), ("1.5", 13.3), ("2.5", 7.98), ("6", 3.30), ("16", 1.21)]
)
def test_metric_resistance_against_iec(size: str, ohm_per_km: float) -> None:
    """IEC 60228:2004, table 3, class 5, plain copper, maximum at 20 °C."""
    assert conductor(f"mm2:{size}").ohm_per_m * 1000 == pytest.approx(ohm_per_km)


@pytest.mark.parametrize(("size", "mm2"), [("18", 0.823), ("14", 2.08), ("12", 3.31), ("10", 5.26), ("4/0", 107.2)])
def test_awg_area_against_astm(size: str, mm2: float) -> None:
    """ASTM B258, table 1, areas to three figures (from memory)."""
    assert awg_area_mm2(size) == pytest.approx(mm2, rel=0.002)


def test_awg_resistance_against_handbook() -> None:
    """12 AWG solid copper: 1.588 ohm per 1000 ft at 20 °C (NBS Handbook 100, from memory), same copper within 0.1 %."""
    assert awg_ohm_per_m("12") * 304.8 == pytest.approx(1.588, rel=0.002)


def test_temperature_raises_resistance() -> None:
    """Copper's 0.00393 /K at 20 °C: 100 m at 70 °C against 20 °C (IEC 60028)."""
    assert resistance_ohm(0.01, 50.0, 70.0) / resistance_ohm(0.01, 50.0, 20.0) == pytest.approx(1 + 0.00393 * 50)


def test_ambient_factors_against_iec() -> None:
    """IEC 60364-5-52:2009, table B.52.14, PVC (from memory); a temperature between rows takes the warmer one."""
    assert ambient_factor(30) == 1.0
    assert ambient_factor(45) == 0.79
    assert ambient_factor(41) == 0.79


def test_sizes_grow_in_every_column() -> None:
    for standard in ("metric", "awg"):
        rows = sizes(standard)
        assert all(a.area_mm2 < b.area_mm2 and a.ohm_per_m > b.ohm_per_m for a, b in itertools.pairwise(rows))
        assert all(a.ampacity_30c_a < b.ampacity_30c_a for a, b in itertools.pairwise(rows))


def test_energy_of_a_use_against_practice() -> None:
    """Common practice, no source: 7.5 A at 12 V for 15 min is 90 W, 22.5 Wh, 1.875 Ah; 30 gal at 3 gal/min takes 10 min."""
    use = energy_use(12.0, 7.5, 15.0, battery_ah=37.5)
    assert (use.power_w, use.energy_wh, use.charge_ah) == (90.0, 22.5, 1.875)
    assert use.battery_share == pytest.approx(0.05)
    assert pytest.approx(energy_use(12.0, 7.5, 30.0 / 3.0).minutes) == 30.0 / 3.0


def test_fuse_ratings_are_standard() -> None:
    """ISO 8820-3 blade fuse ratings (from memory)."""
    assert ratings("fuse")[:9] == (1, 2, 3, 4, 5, 7.5, 10, 15, 20)
