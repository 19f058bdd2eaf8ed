"""Friction and operating points against EPANET (through wntr), fluids, and published tables."""

import math

import fluids
import pytest
import wntr

from squall.core.hydraulics.curves import PumpCurve, operating_point
from squall.core.hydraulics.pipes import Line, Pipe, flow_for_loss, friction_factor, loss_at, pipe_loss
from squall.core.hydraulics.water import water_at

LM = 1.0 / 60_000.0


@pytest.mark.parametrize(
    ("celsius", "density", "dynamic_mpa_s"),
    [(5, 999.967, 1.5182), (15, 999.103, 1.1375), (25, 997.047, 0.8900), (40, 992.216, 0.6527)],
)
def test_water_against_published_properties(celsius: float, density: float, dynamic_mpa_s: float) -> None:
    """CRC Handbook of Chemistry and Physics, "Properties of water in the range 0-100 °C" (from memory).

    The table gives 5 to 6 figures of density and 4 of viscosity; its viscosity predates the present
    IAPWS formulation by up to 0.2 %.
    """
    water = water_at(celsius)
    assert water.density_kg_m3 == pytest.approx(density, rel=1e-5)
    assert water.viscosity_m2_s * water.density_kg_m3 * 1000 == pytest.approx(dynamic_mpa_s, rel=2e-3)


@pytest.mark.parametrize(("celsius", "kpa"), [(10, 1.2282), (20, 2.3393), (30, 4.2470), (50, 12.352)])
def test_vapour_pressure_against_steam_table(celsius: float, kpa: float) -> None:
    """IAPWS-IF97 steam tables, saturation by temperature (from memory, 5 figures)."""
    assert water_at(celsius).vapour_pressure_pa / 1000 == pytest.approx(kpa, rel=5e-4)


@pytest.mark.parametrize(
    ("reynolds", "relative_roughness", "factor"),
    [(1e5, 0.0001, 0.0185), (1e5, 0.001, 0.0222), (1e6, 0.0001, 0.0134), (1e4, 0.01, 0.0431), (1e7, 0.001, 0.0197)],
)
def test_friction_factor_against_moody(reynolds: float, relative_roughness: float, factor: float) -> None:
    """L. F. Moody, Trans. ASME 66 (1944), figure 1, as read in handbooks to three figures (from memory)."""
    assert friction_factor(reynolds, relative_roughness) == pytest.approx(factor, rel=0.01)


@pytest.mark.parametrize("flow", [0.4, 2.0, 7.0, 15.0, 40.0])
@pytest.mark.parametrize("bore_mm", [9.5, 12.7, 19.1, 25.4])
def test_loss_against_fluids(flow: float, bore_mm: float) -> None:
    """The general-purpose library ``fluids``: its Colebrook factor and its one-phase pressure drop.

    Between Re 2000 and 2040 the two switch to turbulent at different places; no case lies there.
    """
    water = water_at(15.0)
    pipe = Pipe(30.0, bore_mm / 1000, 7e-6, 3.0)
    loss = pipe_loss(flow * LM, pipe, water)
    assert not 1990 < loss.reynolds_number < 2050
    factor = fluids.friction_factor(loss.reynolds_number, eD=pipe.roughness_m / pipe.inner_diameter_m)
    drop = fluids.dP_from_K(K=factor * 30.0 / pipe.inner_diameter_m + 3.0, rho=water.density_kg_m3, V=loss.velocity_m_s)
    assert loss.head_loss_m == pytest.approx(drop / (water.density_kg_m3 * 9.80665), rel=1e-6)


def test_laminar_is_poiseuille() -> None:
    """Hagen-Poiseuille: h = 128 nu L Q / (pi g d^4)."""
    water = water_at(20.0)
    pipe, flow = Pipe(10.0, 0.010, 0.0), 0.5 * LM
    expected = 128 * water.viscosity_m2_s * 10 * flow / (math.pi * 9.80665 * 0.010**4)
    assert pipe_loss(flow, pipe, water).head_loss_m == pytest.approx(expected, rel=1e-9)


def test_table_agrees_with_exact_loss() -> None:
    import numpy as np

    water, pipe = water_at(12.0), Pipe(40.0, 0.016, 7e-6, 4.0)
    flows = np.array([0.0, 0.2, 1.0, 3.0, 10.0, 40.0, 120.0]) * LM
    exact = [pipe_loss(float(flow), pipe, water).head_loss_m for flow in flows]
    assert loss_at(flows, pipe, water) == pytest.approx(exact, rel=2e-5)


def test_flow_for_loss_inverts_loss() -> None:
    line = Line(0.0, (Pipe(20.0, 0.019, 7e-6, 2.0),), water_at(15.0))
    assert line.loss_m(flow_for_loss(3.0, line)) == pytest.approx(3.0, rel=1e-9)
    assert flow_for_loss(1.0, Line(0.0, (), water_at(15.0))) == math.inf


CASES = [
    # head curve [l/min, m], lift, length, bore mm, roughness mm, K
    ([(0, 12.5), (12, 10.0), (22, 4.0)], 6.0, 64, 19.1, 0.007, 6.0),
    ([(0, 21.0), (15, 16.0), (30, 3.0)], 14.5, 38, 15.9, 0.007, 7.0),
    ([(0, 4.6), (30, 3.5), (60, 0.6)], 1.4, 26, 38.1, 0.15, 5.0),
    ([(0, 46.0), (20, 36.0), (40, 8.0)], 30.0, 120, 25.4, 0.007, 4.0),
    ([(0, 14.0), (20, 11.5), (45, 2.0)], 3.0, 90, 25.4, 0.1, 10.0),
    ([(0, 24.0), (30, 19.0), (68, 3.0)], 10.0, 200, 32.0, 0.007, 2.0),
]


def epanet_flow(curve, lift, length, bore_mm, roughness_mm, k, viscosity) -> float:
    """Flow in l/min by EPANET: a reservoir, the pump, one pipe with its minor loss, a reservoir."""
    net = wntr.network.WaterNetworkModel()
    net.options.hydraulic.headloss = "D-W"
    net.options.hydraulic.inpfile_units = "LPM"
    net.options.hydraulic.viscosity = viscosity / 1.022e-6
    net.options.hydraulic.accuracy = 1e-6
    net.add_reservoir("spring", base_head=0.0)
    net.add_junction("pump-outlet", elevation=0.0)
    net.add_reservoir("trough", base_head=lift)
    net.add_curve("curve", "HEAD", [(flow * LM, head) for flow, head in curve])
    net.add_pump("pump", "spring", "pump-outlet", "HEAD", "curve")
    net.add_pipe("hose", "pump-outlet", "trough", length, bore_mm / 1000, roughness_mm / 1000, k)
    net.options.time.duration = 0
    results = wntr.sim.EpanetSimulator(net).run_sim()
    return float(results.link["flowrate"].loc[0, "hose"]) / LM


@pytest.mark.filterwarnings("ignore:Changing the headloss formula:UserWarning")
@pytest.mark.parametrize("case", CASES)
def test_operating_point_against_epanet(case, tmp_path, monkeypatch) -> None:
    """EPANET 2.2 through wntr: within 2 %. It uses Swamee-Jain for Colebrook and rounds roughness in its file."""
    monkeypatch.chdir(tmp_path)
    curve, lift, length, bore_mm, roughness_mm, k = case
    water = water_at(15.0)
    line = Line(lift, (Pipe(length, bore_mm / 1000, roughness_mm / 1000, k),), water)
    ours = operating_point(PumpCurve(tuple((q * LM, h) for q, h in curve)), line)
    assert ours.flows
    theirs = epanet_flow(curve, lift, length, bore_mm, roughness_mm, k, water.viscosity_m2_s)
    assert ours.flow_m3_s / LM == pytest.approx(theirs, rel=0.02)
