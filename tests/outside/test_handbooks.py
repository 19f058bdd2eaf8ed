"""Crop coefficients, effective rain, suction and fittings against handbooks and the fluids library."""

import fluids
import pytest

from squall.core.errors import OutOfRange
from squall.core.hydraulics.pipes import Line, Pipe
from squall.core.hydraulics.suction import barometer_m, check_suction, suction_limit
from squall.core.hydraulics.throttle import GATE_VALVE
from squall.core.hydraulics.water import water_at
from squall.core.need.crops import Crop, crop_litres, effective_rain_mm, monthly_et0
from squall.core.sky.outside import daylight_outside_kwh

LM = 1.0 / 60_000.0


@pytest.mark.parametrize(("day", "kc"), [(20, 0.15), (40, 0.77), (70, 1.19), (95, 0.56)])
def test_kc_of_the_papers_dry_beans(day: float, kc: float) -> None:
    """FAO-56 (1998), chapter 6, the example of daily Kc (equation 66): 25/25/30/20 days, 0.15/1.19/0.35; from memory."""
    beans = Crop("dry beans", 0.15, 1.19, 0.35, (25, 25, 30, 20), "")
    assert beans.coefficient(day) == pytest.approx(kc, abs=0.006)


def test_kc_by_month_is_the_mean_of_its_days(parts) -> None:
    onion = parts.crops["onion"]
    months = onion.by_month(8)
    assert months[8] == pytest.approx(sum(onion.coefficient(n + 0.5) for n in range(30)) / 30)
    assert months[7] == 0.0, "not planted yet"
    assert max(months) == pytest.approx(onion.kc_middle)


@pytest.mark.parametrize(
    ("rain", "effective"), [(10, 0), (30, 8), (50, 20), (80, 39), (100, 55), (200, 135), (250, 175)]
)
def test_effective_rain(rain: float, effective: float) -> None:
    """FAO Irrigation Water Management Training Manual 3 (1986), table of effective rainfall, from memory."""
    assert effective_rain_mm(rain) == pytest.approx(effective)


def test_crop_water_is_a_litre_for_a_millimetre_on_a_square_metre() -> None:
    steady = Crop("steady", 1.0, 1.0, 1.0, (90, 90, 90, 95), "")
    litres = crop_litres(steady, 0, 50.0, 0.8, [5.0] * 12, [0.0] * 12)
    assert litres[:11] == pytest.approx([5.0 * 50.0 / 0.8] * 11)
    wet = crop_litres(steady, 0, 50.0, 0.8, [5.0] * 12, [400.0] * 12)
    assert wet == (0.0,) * 12
    with pytest.raises(OutOfRange, match="efficiency"):
        crop_litres(steady, 0, 50.0, 0.0, [5.0] * 12, [0.0] * 12)


def test_reference_evapotranspiration_of_a_dry_place(parts) -> None:
    """FAO-56, table 2: semi-arid 20 °C and above 6 to 8 mm/d in the warm season, 10 to 20 °C 4 to 7, cool below (from memory)."""
    climate = parts.climates["ridge"]
    for method in ("penman-monteith", "hargreaves"):
        et0 = monthly_et0(climate, -30.4, 1180.0, method)
        assert 5.5 < et0[0] < 8.0
        assert 1.5 < et0[5] < 3.5
    with pytest.raises(OutOfRange, match="method"):
        monthly_et0(climate, -30.4, 1180.0, "guess")


def test_light_outside_the_atmosphere() -> None:
    """FAO-56, annex 2, table 2.6: 15 June at 30° S 19.2, 15 January 43.2 MJ/m2 a day (from memory)."""
    assert daylight_outside_kwh(-30.0, 5) * 3.6 == pytest.approx(19.2, abs=0.7)
    assert daylight_outside_kwh(-30.0, 0) * 3.6 == pytest.approx(43.2, abs=0.7)


def test_barometer_of_water() -> None:
    """Steam tables: 2.339 kPa and 998.2 kg/m3 at 20 °C, 19.95 kPa and 983.2 at 60 °C; (p - pv)/(rho g)."""
    assert barometer_m(0.0, water_at(20.0)) == pytest.approx((101_325 - 2_339) / (998.2 * 9.80665), abs=0.005)
    assert barometer_m(0.0, water_at(60.0)) == pytest.approx((101_325 - 19_950) / (983.2 * 9.80665), abs=0.01)


def test_suction_check_adds_up_to_the_limit() -> None:
    """Common practice, no source: 5 to 6 m is what a surface pump pulls, less at height."""
    line = Line(0.0, (Pipe(6.0, 0.0254, 7e-6, 3.5),), water_at(15.0))
    for flow in (0.0, 10 * LM, 30 * LM):
        check = check_suction(300.0, line, flow, 3.0, 0.5, 2.0)
        assert check.limit_m == pytest.approx(suction_limit(300.0, line, flow, 3.0, 0.5))
        assert check.spare_m == pytest.approx(check.limit_m - 2.0)
    assert 5.0 < check_suction(300.0, line, 0.0, 3.0, 0.5, 2.0).limit_m < 6.7
    assert suction_limit(2500.0, line, 0.0, 3.0, 0.5) < suction_limit(300.0, line, 0.0, 3.0, 0.5)


def test_published_k_values(parts) -> None:
    """Against the fluids library: its exit and sharp entrance, Borda-Carnot for the kink, Crane TP-410's open gate valve."""
    fittings = parts.fittings
    assert fittings["exit"].minor_loss_k == pytest.approx(fluids.exit_normal())
    assert fittings["adapter"].minor_loss_k == pytest.approx(fluids.entrance_sharp(method="Swamee"), abs=0.01)
    squeezed = (0.63 / 3.0) ** 0.5
    expansion = fluids.diffuser_sharp(Di1=squeezed, Di2=1.0) / squeezed**4
    assert fittings["kink"].minor_loss_k == pytest.approx(expansion, rel=0.02)
    crane = fluids.K_gate_valve_Crane(D1=0.0254, D2=0.0254, angle=0.0, fd=0.023)
    assert fittings["gate"].minor_loss_k == pytest.approx(crane, abs=0.05)
    assert GATE_VALVE[0][1] == pytest.approx(crane, abs=0.05)
    elbow = fluids.bend_miter(angle=90.0, Di=0.0254, Re=2e4, roughness=7e-6, method="Crane")
    assert fittings["elbow"].minor_loss_k < elbow, "a moulded elbow loses less than a mitre"
