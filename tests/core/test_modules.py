"""Panels and arrays: scaling, directions, and nameplates that can't be."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from squall.core.drive.solve import PvArray
from squall.core.electrics.modules import Module, array_point, diode_at, fit_module, module_current, open_volts_at
from squall.core.errors import BadNameplate, OutOfRange

MODULE = Module(22.6, 6.42, 18.6, 5.93, 36, 0.05, -0.31)


def point(light: float, cell: float, series: int = 1, parallel: int = 1):
    return array_point(diode_at(MODULE, np.array([light]), np.array([cell])), series, parallel)[0]


@settings(max_examples=30, deadline=None)
@given(st.floats(30.0, 1200.0), st.floats(-20.0, 80.0), st.integers(1, 6), st.integers(1, 6))
def test_series_adds_volts_and_parallel_adds_amps(light: float, cell: float, series: int, parallel: int) -> None:
    one, many = point(light, cell), point(light, cell, series, parallel)
    assert many.voc_v == pytest.approx(series * one.voc_v)
    assert many.vmp_v == pytest.approx(series * one.vmp_v)
    assert many.isc_a == pytest.approx(parallel * one.isc_a)
    assert many.pmp_w == pytest.approx(series * parallel * one.pmp_w)


@settings(max_examples=30, deadline=None)
@given(st.floats(30.0, 1100.0), st.floats(0.0, 70.0))
def test_more_light_gives_more_of_everything(light: float, cell: float) -> None:
    dim, bright = point(light, cell), point(light * 1.05, cell)
    assert bright.isc_a > dim.isc_a
    assert bright.voc_v > dim.voc_v
    assert bright.pmp_w > dim.pmp_w


@settings(max_examples=30, deadline=None)
@given(st.floats(100.0, 1100.0), st.floats(-10.0, 65.0))
def test_heat_takes_volts_and_power_and_adds_a_little_current(light: float, cell: float) -> None:
    cool, warm = point(light, cell), point(light, cell + 5.0)
    assert warm.voc_v < cool.voc_v
    assert warm.pmp_w < cool.pmp_w
    assert warm.isc_a > cool.isc_a


def test_short_circuit_current_is_proportional_to_light() -> None:
    assert point(500.0, 25.0).isc_a / point(1000.0, 25.0).isc_a == pytest.approx(0.5, rel=2e-3)


def test_current_falls_with_volts_and_is_nil_at_open_circuit() -> None:
    diode = diode_at(MODULE, np.full(40, 800.0), np.full(40, 40.0))
    volts = np.linspace(0.0, point(800.0, 40.0).voc_v, 40)
    amps = module_current(volts, diode)
    assert (np.diff(amps) < 0).all()
    assert amps[-1] == pytest.approx(0.0, abs=1e-6)


def test_the_surplus_has_the_sign_of_what_is_left() -> None:
    array = PvArray(MODULE, 2, 2, 700.0, 35.0)
    for volts in (5.0, 25.0, 36.0):
        there = array.current_a(volts)
        assert array.surplus_a(volts, there) == pytest.approx(0.0, abs=1e-7)
        assert array.surplus_a(volts, there * 0.9) > 0
        assert array.surplus_a(volts, there * 1.1 + 0.1) < 0
    assert array.surplus_a(1e6, 0.1) < 0


def test_open_volts_by_the_coefficient() -> None:
    """22.6 V, -0.31 %/K, 34 K below 25 °C: 22.6 x 1.1054 = 24.98 V."""
    assert open_volts_at(MODULE, -9.0) == pytest.approx(24.98, abs=0.005)
    assert open_volts_at(MODULE, 25.0) == 22.6


def test_in_the_dark_there_is_nothing() -> None:
    dark = PvArray(MODULE, 1, 1, 0.0, 20.0)
    assert (dark.point.pmp_w, dark.current_a(5.0), dark.most_volts) == (0.0, 0.0, 0.0)


@pytest.mark.parametrize(
    ("change", "error", "words"),
    [
        ({"vmp_v": 23.0}, BadNameplate, "below the open-circuit"),
        ({"imp_a": 6.5}, BadNameplate, "below the short-circuit"),
        ({"cells": 10}, BadNameplate, "Count the cells"),
        ({"cells": 0}, OutOfRange, "cells"),
        ({"voc_percent_per_k": 0.31}, OutOfRange, "open volts per kelvin"),
        ({"isc_percent_per_k": 5.0}, OutOfRange, "short-circuit amps per kelvin"),
    ],
)
def test_nameplates_that_cannot_be(change: dict[str, float], error: type[Exception], words: str) -> None:
    plate = {
        "voc_v": 22.6,
        "isc_a": 6.42,
        "vmp_v": 18.6,
        "imp_a": 5.93,
        "cells": 36,
        "isc_percent_per_k": 0.05,
        "voc_percent_per_k": -0.31,
    }
    with pytest.raises(error, match=words):
        Module(**{**plate, **change})


def test_a_nameplate_with_too_square_a_curve_is_refused() -> None:
    with pytest.raises(BadNameplate, match="contradict"):
        fit_module(Module(22.6, 6.42, 22.4, 6.41, 36, 0.05, -0.31))


@pytest.mark.parametrize(("series", "parallel"), [(0, 1), (1, 0), (101, 1)])
def test_arrays_that_cannot_be(series: int, parallel: int) -> None:
    with pytest.raises(OutOfRange):
        PvArray(MODULE, series, parallel, 800.0, 30.0)


@settings(max_examples=30, deadline=None)
@given(st.floats(1.0, 1400.0), st.floats(-20.0, 80.0), st.integers(1, 4), st.integers(1, 3))
def test_open_volts_and_short_amps_alone_are_those_of_the_whole_curve(light, cell, series, parallel) -> None:
    array = PvArray(MODULE, series, parallel, light, cell)
    assert array.most_volts == pytest.approx(array.point.voc_v, rel=1e-12)
    assert array.short_a == pytest.approx(array.point.isc_a, rel=1e-12)
    assert PvArray(MODULE, series, parallel, 0.0, cell).most_volts == 0.0
