"""Runs of several pieces, throttled runs and closed circuits against EPANET through wntr."""

import pytest
import wntr

from squall.core.hydraulics.curves import PumpCurve, operating_point
from squall.core.hydraulics.pipes import Line, Pipe
from squall.core.hydraulics.water import water_at

LM = 1.0 / 60_000.0
pytestmark = pytest.mark.filterwarnings("ignore:Changing the headloss formula:UserWarning")


def network(viscosity: float) -> wntr.network.WaterNetworkModel:
    net = wntr.network.WaterNetworkModel()
    net.options.hydraulic.headloss = "D-W"
    net.options.hydraulic.inpfile_units = "LPM"
    net.options.hydraulic.viscosity = viscosity / 1.022e-6
    net.options.hydraulic.accuracy = 1e-6
    net.options.time.duration = 0
    return net


def epanet_series(curve, lift: float, pieces: list[Pipe], viscosity: float) -> tuple[float, list[float]]:
    """Flow [l/min] and head lost in each piece, pieces in series between two reservoirs."""
    net = network(viscosity)
    net.add_reservoir("spring", base_head=0.0)
    net.add_junction("n0", elevation=0.0)
    net.add_curve("curve", "HEAD", [(flow * LM, head) for flow, head in curve])
    net.add_pump("pump", "spring", "n0", "HEAD", "curve")
    net.add_reservoir("trough", base_head=lift)
    for number, pipe in enumerate(pieces):
        end = "trough" if number == len(pieces) - 1 else f"n{number + 1}"
        if end != "trough":
            net.add_junction(end, elevation=0.0)
        net.add_pipe(
            f"p{number}", f"n{number}", end, pipe.length_m, pipe.inner_diameter_m, pipe.roughness_m, pipe.minor_loss_k
        )
    results = wntr.sim.EpanetSimulator(net).run_sim()
    heads = results.node["head"].loc[0]
    lost = []
    for number in range(len(pieces)):
        end = "trough" if number == len(pieces) - 1 else f"n{number + 1}"
        lost.append(float(heads[f"n{number}"] - heads[end]))
    return float(results.link["flowrate"].loc[0, "p0"]) / LM, lost


@pytest.mark.parametrize(
    ("lift", "pieces"),
    [
        (6.0, [Pipe(52, 0.0191, 7e-6, 4.0), Pipe(12, 0.0127, 7e-6, 1.5)]),
        (4.0, [Pipe(3, 0.0254, 7e-6, 3.0), Pipe(30, 0.0159, 7e-6, 2.0), Pipe(30, 0.0254, 1.5e-4, 1.0)]),
        (9.0, [Pipe(100, 0.0254, 7e-6, 0.5), Pipe(1, 0.0095, 7e-6, 10.0)]),
    ],
)
def test_pieces_in_series(lift: float, pieces: list[Pipe], tmp_path, monkeypatch) -> None:
    """Flow within 2 %, and each piece's own loss within 4 % (the loss goes with the flow's square)."""
    monkeypatch.chdir(tmp_path)
    from squall.core.hydraulics.pipes import pipe_loss

    water, curve = water_at(15.0), [(0, 12.5), (12, 10.0), (22, 4.0)]
    line = Line(lift, tuple(pieces), water)
    ours = operating_point(PumpCurve(tuple((q * LM, h) for q, h in curve)), line)
    theirs, lost = epanet_series(curve, lift, pieces, water.viscosity_m2_s)
    assert ours.flow_m3_s / LM == pytest.approx(theirs, rel=0.02)
    for pipe, theirs_lost in zip(pieces, lost, strict=True):
        assert pipe_loss(ours.flow_m3_s, pipe, water).head_loss_m == pytest.approx(theirs_lost, rel=0.04)


@pytest.mark.parametrize("k", [0.0, 20.0, 200.0])
def test_a_throttle_on_the_outlet(k: float, tmp_path, monkeypatch) -> None:
    monkeypatch.chdir(tmp_path)
    water, curve = water_at(15.0), [(0, 12.5), (12, 10.0), (22, 4.0)]
    pieces = [Pipe(20, 0.0191, 7e-6, 2.0 + k)]
    ours = operating_point(PumpCurve(tuple((q * LM, h) for q, h in curve)), Line(7.0, tuple(pieces), water))
    theirs, _ = epanet_series(curve, 7.0, pieces, water.viscosity_m2_s)
    assert ours.flow_m3_s / LM == pytest.approx(theirs, rel=0.02)


def test_a_closed_circuit_counts_friction_only(tmp_path, monkeypatch) -> None:
    """A loop over a rise of 5 m: EPANET's loop through a high point gives the flow that friction alone allows."""
    monkeypatch.chdir(tmp_path)
    water, curve = water_at(15.0), [(0, 4.6), (30, 3.5), (60, 0.6)]
    up, down = Pipe(13, 0.0318, 7e-6, 2.0), Pipe(13, 0.0318, 7e-6, 2.0)
    net = network(water.viscosity_m2_s)
    net.add_reservoir("channel", base_head=0.0)
    net.add_junction("pump-outlet", elevation=0.0)
    net.add_junction("top", elevation=5.0)
    net.add_curve("curve", "HEAD", [(q * LM, h) for q, h in curve])
    net.add_pump("pump", "channel", "pump-outlet", "HEAD", "curve")
    for name, begin, end, pipe in (("up", "pump-outlet", "top", up), ("down", "top", "channel", down)):
        net.add_pipe(name, begin, end, pipe.length_m, pipe.inner_diameter_m, pipe.roughness_m, pipe.minor_loss_k)
    results = wntr.sim.EpanetSimulator(net).run_sim()
    ours = operating_point(PumpCurve(tuple((q * LM, h) for q, h in curve)), Line(0.0, (up, down), water))
    assert ours.flow_m3_s / LM == pytest.approx(float(results.link["flowrate"].loc[0, "up"]) / LM, rel=0.02)
