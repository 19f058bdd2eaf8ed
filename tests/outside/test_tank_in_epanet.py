"""Tank, float switch and pump through a day against EPANET's extended-period run (through wntr)."""

import numpy as np
import pytest
import wntr

from squall.sums.registry import run

LM = 1.0 / 60_000.0
pytestmark = pytest.mark.filterwarnings("ignore:Changing the headloss formula:UserWarning")
CURVE = [(0.0, 12.5), (8.8, 10.57), (17.6, 5.3)]
HOURS = 24
DRAWS = {
    "steady": [3.0] * HOURS,
    "by day": [0.0] * 6 + [6.0] * 12 + [0.0] * 6,
    "burst": [0.0] * 6 + [18.0] + [1.0] * 10 + [9.0] + [0.0] * 6,
}


def epanet(draw, area_m2: float, start_l: float, on_l: float, off_l: float, floor_m: float, length_m: float):
    """Level every 15 minutes [L], pump's starts, litres pumped: a tank fed from below, opened and closed by its level."""
    net = wntr.network.WaterNetworkModel()
    net.options.hydraulic.headloss = "D-W"
    net.options.hydraulic.inpfile_units = "LPM"
    net.options.hydraulic.viscosity = 1.138e-6 / 1.022e-6
    net.options.hydraulic.accuracy = 1e-6
    net.options.time.duration = HOURS * 3600
    net.options.time.hydraulic_timestep = 300
    net.options.time.report_timestep = 900
    net.options.time.pattern_timestep = 3600
    diameter = (4.0 * area_m2 / np.pi) ** 0.5
    net.add_reservoir("spring", base_head=0.0)
    net.add_junction("low", elevation=0.0)
    net.add_curve("curve", "HEAD", [(flow * LM, head) for flow, head in CURVE])
    net.add_pump("pump", "spring", "low", "HEAD", "curve")
    net.add_tank("tank", elevation=floor_m, init_level=start_l / 1000 / area_m2, min_level=0.0,
                 max_level=1000.0 / 1000 / area_m2, diameter=diameter)  # fmt: skip
    net.add_pipe("riser", "low", "tank", length_m, 0.0191, 7e-6, 6.0)
    net.add_pattern("draw", draw)
    net.add_junction("trough", base_demand=1.0 * LM, demand_pattern="draw", elevation=0.0)
    net.add_pipe("down", "tank", "trough", 1.0, 0.2, 1e-5)
    pump, tank = net.get_link("pump"), net.get_node("tank")
    for name, above, level, status in (("on", False, on_l, 1), ("off", True, off_l, 0)):
        condition = wntr.network.controls.ValueCondition(tank, "level", ">" if above else "<", level / 1000 / area_m2)
        action = wntr.network.controls.ControlAction(pump, "status", status)
        net.add_control(name, wntr.network.controls.Control(condition, action))
    pump.initial_status = "CLOSED" if start_l >= on_l else "OPEN"
    results = wntr.sim.EpanetSimulator(net).run_sim()
    levels = results.node["head"]["tank"].to_numpy() - floor_m
    status = results.link["status"]["pump"].to_numpy() > 0
    starts = int((~status[:-1] & status[1:]).sum()) + int(status[0])
    return levels * area_m2 * 1000.0, starts


@pytest.mark.parametrize("name", list(DRAWS))
@pytest.mark.parametrize(("area_m2", "floor_m", "length_m"), [(0.9, 5.0, 64.0), (0.5, 7.5, 30.0)])
def test_levels_starts_and_litres(
    name: str, area_m2: float, floor_m: float, length_m: float, tmp_path, monkeypatch
) -> None:
    """Levels within 1 % of the tank through the first six hours, 3 % through the day; the same starts, litres within 2 %.

    EPANET uses Swamee and Jain's factor and holds the flow through five minutes where ours follows the level: runs end a
    little earlier or later, which adds up over ten switchings.
    """
    monkeypatch.chdir(tmp_path)
    draw = DRAWS[name]
    start_l, on_l, off_l = 700.0, 600.0, 900.0
    theirs, starts = epanet(draw, area_m2, start_l, on_l, off_l, floor_m, length_m)
    ours = run(
        "storage-run",
        {"tank_l": 1000.0, "start_l": start_l, "on_below_l": on_l, "off_above_l": off_l, "step_min": 15.0,
         "draw_l_per_min": np.repeat(draw, 4).tolist(),
         "pump": {"pump_curve": CURVE, "static_head_to_floor_m": floor_m, "tank_area_m2": area_m2,
                  "pipes": [{"length_m": length_m, "inner_diameter_mm": 19.1, "roughness_mm": 0.007, "minor_loss_k": 6.0}]}},
    )  # fmt: skip
    assert not ours.beyond_points
    assert theirs.size == len(ours.levels_l)
    assert np.abs(np.array(ours.levels_l) - theirs)[:25].max() <= 10.0
    assert np.abs(np.array(ours.levels_l) - theirs).max() <= 30.0
    assert ours.starts == starts
    drawn = sum(draw) * 60.0
    assert ours.pumped_l == pytest.approx(theirs[-1] - theirs[0] + drawn, rel=0.02, abs=5.0)
