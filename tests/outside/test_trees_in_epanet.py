"""A trunk with branches, all ends open, against EPANET through wntr."""

import numpy as np
import pytest
import wntr

from squall.core.hydraulics.branches import Branch, parted
from squall.core.hydraulics.curves import PumpCurve, operating_point
from squall.core.hydraulics.pipes import Line, Pipe
from squall.core.hydraulics.water import water_at

LM = 1.0 / 60_000.0
PUMP = PumpCurve(((0.0, 16.0), (14 * LM, 13.0), (30 * LM, 7.0), (44 * LM, 1.0)))
# Our own curve, finely: EPANET joins its points by straight lines.
CURVE = [(float(q), float(PUMP.heads_m(np.array([q]))[0])) for q in np.linspace(0.0, 44 * LM, 45)]
pytestmark = pytest.mark.filterwarnings("ignore:Changing the headloss formula:UserWarning")


def epanet(main: Line, branches: list[Branch]) -> list[float]:
    """Flow at each end, main first; a check valve before each, as an open end gives nothing back. [l/min]"""
    net = wntr.network.WaterNetworkModel()
    net.options.hydraulic.headloss, net.options.hydraulic.inpfile_units = "D-W", "LPM"
    net.options.hydraulic.viscosity, net.options.hydraulic.accuracy = main.water.viscosity_m2_s / 1.022e-6, 1e-6
    net.options.time.duration = 0
    net.add_reservoir("spring", base_head=0.0)
    net.add_junction("n0", elevation=0.0)
    net.add_curve("curve", "HEAD", CURVE)
    net.add_pump("pump", "spring", "n0", "HEAD", "curve")

    def way(start: str, key: str, pipes: tuple[Pipe, ...], static: float) -> None:
        at = start
        for number, pipe in enumerate(pipes):
            last = number == len(pipes) - 1
            end = f"{key}_end" if last else f"{key}_{number}"
            if last:
                net.add_reservoir(end, base_head=static)
            else:
                net.add_junction(end, elevation=0.0)
            net.add_pipe(f"{key}{number}", at, end, pipe.length_m, pipe.inner_diameter_m, pipe.roughness_m,
                         pipe.minor_loss_k, check_valve=last)  # fmt: skip
            at = end

    joints = sorted({branch.after for branch in branches})
    at, done = "n0", 0
    for joint in joints:
        for number in range(done, joint):
            pipe, end = main.pipes[number], f"t{number}"
            net.add_junction(end, elevation=0.0)
            net.add_pipe(f"trunk{number}", at, end, pipe.length_m, pipe.inner_diameter_m, pipe.roughness_m, pipe.minor_loss_k)  # fmt: skip
            at = end
        done = joint
        for number, branch in enumerate(branches):
            if branch.after == joint:
                way(at, f"b{number}", branch.pipes, branch.static_head_m)
    way(at, "m", main.pipes[done:], main.static_head_m)
    rates = wntr.sim.EpanetSimulator(net).run_sim().link["flowrate"].loc[0]
    ends = [f"m{len(main.pipes) - done - 1}", *(f"b{n}{len(b.pipes) - 1}" for n, b in enumerate(branches))]
    return [float(rates[end]) / LM for end in ends]


HOSE, NARROW = Pipe(30, 0.0191, 7e-6, 2.0), Pipe(20, 0.0127, 7e-6, 1.5)


@pytest.mark.parametrize(
    ("main", "branches"),
    [
        ((5.0, (HOSE, NARROW)), [Branch(4.0, (NARROW,), 1)]),
        ((6.0, (HOSE, HOSE, NARROW)), [Branch(2.0, (NARROW,), 1), Branch(5.0, (Pipe(50, 0.0159, 7e-6, 3.0),), 2)]),
        ((3.0, (NARROW,)), [Branch(3.0, (NARROW,), 0), Branch(5.0, (HOSE, NARROW), 0)]),
        ((8.0, (HOSE, NARROW)), [Branch(1.0, (Pipe(5, 0.0159, 7e-6, 40.0),), 1), Branch(7.5, (HOSE,), 1)]),
        # The upper end is not reached: the lower one takes all.
        ((2.0, (HOSE, Pipe(4, 0.0254, 7e-6, 1.0))), [Branch(12.0, (NARROW,), 1)]),
    ],
)
def test_every_end_gets_what_epanet_says(main, branches, tmp_path, monkeypatch) -> None:
    """Total within 1 %, each end within 2 % or 0.1 l/min (EPANET's friction factor is Swamee and Jain's, ours Colebrook's)."""
    monkeypatch.chdir(tmp_path)
    water = water_at(15.0)
    line = Line(main[0], main[1], water)
    whole = parted(line, branches)
    point = operating_point(PUMP, whole.line)
    ours = whole.flows(np.array([point.flow_m3_s]))[:, 0] / LM
    theirs = epanet(line, branches)
    assert ours.sum() == pytest.approx(sum(theirs), rel=0.01)
    assert ours.tolist() == pytest.approx(theirs, rel=0.02, abs=0.1)
    assert ours.sum() == pytest.approx(point.flow_m3_s / LM, rel=1e-9)


def test_one_branch_like_the_main_line_halves_the_flow() -> None:
    """By symmetry: two like ways ask at twice the flow what one asks."""
    water = water_at(15.0)
    whole, one = parted(Line(5.0, (NARROW,), water), [Branch(5.0, (NARROW,), 0)]), Line(5.0, (NARROW,), water)
    for flow in (1.0 * LM, 7.0 * LM, 20.0 * LM):
        assert whole.line.head_m(2.0 * flow) == pytest.approx(one.head_m(flow), rel=3e-4)
