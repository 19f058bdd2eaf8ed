"""One number through the curve and many give the same; SciPy's own interpolator is the judge."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.interpolate import PchipInterpolator

from squall.core.hydraulics.curves import MonotoneCubic

STEPS = st.lists(st.floats(0.01, 5.0), min_size=1, max_size=6)


@given(STEPS, STEPS, st.floats(0.0, 1.0))
def test_at_one_place_as_scipy_says(across, down, share):
    n = min(len(across), len(down))
    x, y = np.cumsum([0.3, *across[:n]]), 40.0 - np.cumsum([0.0, *down[:n]])
    curve, place = MonotoneCubic(x.tolist(), y.tolist()), float(x[0] + share * (x[-1] - x[0]))
    place = min(place, float(x[-1]))
    assert curve.at(place) == pytest.approx(float(PchipInterpolator(x, y)(place)), rel=1e-12)
    assert curve(np.array([place]))[0] == pytest.approx(curve.at(place), rel=1e-12)


def test_nothing_is_promised_outside_the_points():
    curve = MonotoneCubic([1.0, 2.0, 4.0], [9.0, 7.0, 1.0])
    assert curve.ends == (1.0, 4.0)
    assert np.isnan(curve.at(0.999))
    assert np.isnan(curve.at(4.001))
    assert curve.at(1.0) == 9.0
    assert curve.at(4.0) == pytest.approx(1.0, rel=1e-15)


def test_it_never_overshoots_where_the_points_are_flat():
    curve = MonotoneCubic([0.0, 1.0, 2.0, 3.0], [8.0, 8.0, 3.0, 3.0])
    fine = curve(np.linspace(0.0, 3.0, 301))
    assert fine.max() <= 8.0
    assert fine.min() >= 3.0
    assert (np.diff(fine) <= 1e-12).all()
