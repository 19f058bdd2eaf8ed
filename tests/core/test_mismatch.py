"""Panels that are not alike or not alike lit, against like panels and against pvlib's own curves."""

import numpy as np
import pvlib
import pytest

from squall.core.drive.mismatch import BYPASS_V, LitModule, array_curve, as_one, meet, module_volts, not_alike
from squall.core.drive.solve import solve
from squall.core.electrics.conductors import conductor
from squall.core.electrics.modules import array_point, diode_at
from squall.core.errors import BadNameplate, OutOfRange
from squall.core.hydraulics.pipes import Line, Pipe
from squall.core.hydraulics.water import water_at
from squall.core.kit.setup import Cabling, table_for

BRIGHT = 800.0


@pytest.fixture(scope="module")
def kite(parts):
    return parts.panels["kite-50"].module


def test_module_volts_are_pvlibs(kite) -> None:
    """v_from_i of pvlib (Lambert W) at the same five parameters, to a millivolt."""
    d = diode_at(kite, np.array([BRIGHT]), np.array([45.0]))
    amps = np.linspace(0.0, 0.98 * float(d.light_current_a[0]), 50)
    theirs = pvlib.pvsystem.v_from_i(
        amps, d.light_current_a[0], d.saturation_current_a[0], d.series_ohm[0], d.shunt_ohm[0], d.ideality_v[0]
    )
    assert module_volts(LitModule(kite, BRIGHT, 45.0), amps) == pytest.approx(theirs, abs=1e-3)


@pytest.mark.parametrize(("series", "strings"), [(1, 1), (2, 1), (1, 3), (3, 2)])
def test_like_panels_give_the_plain_arrays_points(kite, series: int, strings: int) -> None:
    one = LitModule(kite, BRIGHT, 45.0)
    curve = array_curve([[one] * series] * strings)
    point = array_point(diode_at(kite, np.array([BRIGHT]), np.array([45.0])), series, strings)[0]
    assert curve.most_w == pytest.approx(point.pmp_w, rel=2e-3)
    assert curve.open_v == pytest.approx(point.voc_v, rel=2e-3)
    assert curve.short_a == pytest.approx(point.isc_a, rel=2e-3)
    assert curve.peaks == 1


def test_one_shaded_panel_of_a_string(kite) -> None:
    """With bypass diodes the string works as one panel shorter, less the diode; without, it is held to the shaded amps."""
    lit, dim = LitModule(kite, 1000.0, 45.0), LitModule(kite, 150.0, 30.0)
    bare, bare_dim = LitModule(kite, 1000.0, 45.0, bypass=False), LitModule(kite, 150.0, 30.0, bypass=False)
    one, two = array_curve([[lit]]), array_curve([[lit, lit]])
    with_diode, without = array_curve([[lit, dim]]), array_curve([[bare, bare_dim]])
    assert with_diode.peaks == 2
    best_v, best_a = one.best
    assert with_diode.most_w == pytest.approx((best_v + BYPASS_V) * best_a, rel=0.01)
    assert without.most_w < 0.35 * two.most_w
    assert without.most_w < with_diode.most_w < two.most_w
    assert with_diode.open_v == pytest.approx(without.open_v, rel=1e-3)


def test_unlike_panels_give_less_than_their_sum(parts, kite) -> None:
    small = parts.panels["kite-20"].module
    big, little = LitModule(kite, 1000.0, 25.0, bypass=False), LitModule(small, 1000.0, 25.0, bypass=False)
    series = array_curve([[big, little]])
    assert series.most_w < 0.75 * (kite.watts + small.watts)
    side = array_curve([[big], [little]])  # their volts are near one another
    assert side.most_w == pytest.approx(kite.watts + small.watts, rel=0.02)
    assert "series" in not_alike(kite, small, in_series=True)
    assert not_alike(kite, small, in_series=False) is None
    assert not_alike(kite, kite, in_series=True) is None
    wide = parts.panels["ridge-215"].module
    assert abs(wide.vmp_v - kite.vmp_v) < 0.05 * wide.vmp_v or "side by side" in not_alike(kite, wide, in_series=False)


def test_a_string_of_higher_volts_drives_another_backwards(kite) -> None:
    lit = LitModule(kite, 1000.0, 25.0)
    curve = array_curve([[lit, lit], [lit]])
    assert curve.most_w < 2.3 * kite.watts
    assert curve.open_v < 2.0 * kite.voc_v


def test_what_the_pump_gets_is_the_drives(layout, direct_kit) -> None:
    """Two like panels side by side: the meeting of curve and load is the drive's own answer, to a hundredth."""
    cables = Cabling(conductor("mm2:6"), None)
    table = table_for(direct_kit.pump.motor, layout.line(direct_kit.hose))
    ohm = cables.pump_ohm(direct_kit, layout)
    for irradiance in (450.0, 700.0, 1000.0):
        lit = LitModule(direct_kit.panel.module, irradiance, 40.0)
        met = meet(table, ohm, array_curve([[lit], [lit]]))
        answer = solve(direct_kit.source_at(irradiance, 40.0), ohm, direct_kit.pump.motor, layout.line(direct_kit.hose))
        assert met.flow_m3_s == pytest.approx(answer.flow_m3_s, rel=0.01, abs=1e-6)
        assert met.motor_v == pytest.approx(answer.motor_v, rel=0.01)


def test_no_light_moves_nothing(layout, direct_kit) -> None:
    table = table_for(direct_kit.pump.motor, layout.line(direct_kit.hose))
    met = meet(table, 0.1, array_curve([[LitModule(direct_kit.panel.module, 0.0, 10.0)]]))
    assert met.flow_m3_s == 0.0
    assert met.motor_v == 0.0
    with pytest.raises(OutOfRange):
        array_curve([])
    with pytest.raises(OutOfRange):
        array_curve([[]])


@pytest.mark.parametrize("lights", [(300.0, 500.0, 900.0), (150.0, 700.0, 750.0), (400.0, 420.0, 800.0)])
def test_groups_that_face_three_ways_give_what_their_mean_light_gives(kite, lights, centrifugal) -> None:
    """Three strings side by side in unlike light against the exact curve: a pump straight on them, and the most power."""
    exact = array_curve([[LitModule(kite, light, 25.0 + 0.031 * light)] for light in lights])
    mean = sum(lights) / 3.0
    like = array_curve([[LitModule(kite, mean, 25.0 + 0.031 * mean)]] * 3)
    assert like.short_a == pytest.approx(exact.short_a, rel=0.01)
    assert like.most_w == pytest.approx(exact.most_w, rel=0.03)
    line = Line(4.0, (Pipe(30.0, 0.0191, 7e-6, 2.0),), water_at(14.0))
    table = table_for(centrifugal, line)
    assert meet(table, 0.1, like).flow_m3_s == pytest.approx(meet(table, 0.1, exact).flow_m3_s, rel=0.04)


@pytest.mark.parametrize("names", [("kite-50", "kite-80"), ("kite-20", "kite-80"), ("kite-50", "kite-80", "kite-110")])
def test_unlike_panels_side_by_side_are_one_panel_in_any_light(parts, names) -> None:
    """Power, open volts and short-circuit amps of the lot as one panel within 1 % of the exact curve, dim and bright, hot and cold."""
    modules = [parts.panels[name].module for name in names]
    one = as_one([[module] for module in modules])
    for light, cell in ((1000.0, 55.0), (600.0, 45.0), (300.0, 30.0), (1200.0, 0.0)):
        exact = array_curve([[LitModule(module, light, cell)] for module in modules])
        ours = array_curve([[LitModule(one, light, cell)]])
        assert ours.most_w == pytest.approx(exact.most_w, rel=0.01)
        assert ours.open_v == pytest.approx(exact.open_v, rel=0.01)
        assert ours.short_a == pytest.approx(exact.short_a, rel=0.01)


@pytest.mark.parametrize("names", [("kite-50", "kite-80"), ("kite-20", "kite-110"), ("kite-50", "kite-50")])
def test_unlike_panels_in_series_give_no_more_than_their_exact_curve(parts, names) -> None:
    """The weakest's amps rule: never more power than the exact string without bypass, and within 12 % of it."""
    modules = [parts.panels[name].module for name in names]
    one = as_one([modules])
    for light, cell in ((1000.0, 45.0), (400.0, 30.0)):
        exact = array_curve([[LitModule(module, light, cell, bypass=False) for module in modules]])
        ours = array_curve([[LitModule(one, light, cell)]])
        assert 0.88 * exact.most_w <= ours.most_w <= 1.01 * exact.most_w
        assert ours.open_v == pytest.approx(exact.open_v, rel=0.01)


def test_strings_of_unlike_volts_are_no_panel(parts) -> None:
    low, high = parts.panels["kite-50"].module, parts.panels["kite-80"].module
    with pytest.raises(BadNameplate):
        as_one([[low, low], [high]])
    assert as_one([[low]]) is low
