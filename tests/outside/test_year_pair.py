"""A month in ten-minute steps against the pair: pvlib's ModelChain for the panels, EPANET (through wntr) for the water."""

import sys
from pathlib import Path

import numpy as np
import pytest

pytestmark = pytest.mark.filterwarnings("ignore")


@pytest.fixture(scope="module")
def case():
    sys.path.insert(0, str(Path(__file__).parents[2] / "tools"))
    import bench_years

    return bench_years, bench_years.Case()


def test_panels_power_is_model_chains(case) -> None:
    """The array's best power at every lit step: theirs with SAPM cells at 18 °C and 1 m/s, ours with NOCT; within 4 % of the sum."""
    from squall.core.years.whole import states_of

    bench, one = case
    power = bench.by_model_chain(one)
    light = one.light(0)
    states = states_of(one.chosen.kit.panel.module, light)
    ours = np.where(light.plane_w_m2 > 5.0, states.vmp_v * states.imp_a, 0.0)
    theirs = power[light.steps] * (1.0 - one.mounting.dirt)
    assert ours.sum() == pytest.approx(theirs.sum(), rel=0.04)
    assert np.corrcoef(ours, theirs)[0, 1] > 0.995


def test_a_months_litres_are_the_pairs(case) -> None:
    """Thirty days with the tank left to spill: litres within 4 % (their cells are a little cooler, their light not dirty)."""
    bench, one = case
    days = 30
    power = bench.by_model_chain(one) * (1.0 - one.mounting.dirt)
    theirs = bench.by_epanet(one, power, days)
    ours = float(one.year(tank=bench.without_switch(5000.0)).pumped_l[:days].sum())
    assert ours == pytest.approx(theirs, rel=0.04)
