"""The exported INP opened in EPANET through wntr: its flow against ours, over cases of different kinds.

Tolerance 2 %: EPANET reckons friction after Swamee-Jain, up to 1.4 % from Colebrook, and takes
a pump's curve as straight between the 25 points that we write.
"""

from dataclasses import replace
from pathlib import Path

import pytest
import wntr

from squall.core.errors import Unsolvable
from squall.core.hydraulics.water import water_at
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Layout, RunPiece
from squall.core.kit.supply import Direct
from squall.core.years.typical import at_rated
from squall.demo import demo_jobs
from squall.formats.epanet import write
from squall.job.worked.assess import assess
from squall.job.worked.run import heights_along

LM = 1.0 / 60_000.0
WATER = water_at(14.0)
pytestmark = pytest.mark.filterwarnings("ignore:Changing the headloss formula:UserWarning")


def layout_of(lift: float, *pieces: RunPiece, **more) -> Layout:
    plain = {
        "closed_circuit": False,
        "array_cable_m": 3.0,
        "pump_cable_m": 20.0,
        "ambient_c": 35.0,
        "record_low_c": -9.0,
    }
    return Layout(lift, more.pop("end_pressure_m", 0.0), pieces, more.pop("water", WATER), **(plain | more))


CASES: dict[str, tuple[str, str | None, Layout]] = {
    "open outlet": ("stairwell-8", "hose-19", layout_of(9.4, RunPiece(64, 0.0191, 7e-6, 6.0))),
    "thin hose": ("stairwell-8", "hose-10", layout_of(5.0, RunPiece(40, 0.0095, 7e-6, 3.0))),
    "layflat": ("dabchick-40", "layflat-25", layout_of(1.4, RunPiece(26, 0.0254, 1.5e-4, 4.0))),
    "three pieces": (
        "stairwell-14", None,
        layout_of(12.0, RunPiece(20, 0.0254, 7e-6, 2), RunPiece(30, 0.0191, 7e-6, 1), RunPiece(9, 0.0159, 7e-6, 5)),
    ),
    "closed circuit": (
        "dabchick-20", "hose-25", layout_of(5.0, RunPiece(30, 0.0254, 7e-6, 4, end_height_m=5.0),
                                            RunPiece(30, 0.0254, 7e-6, 2), closed_circuit=True),
    ),
    "surface pump with suction": (
        "heron-s", "hose-25", layout_of(8.0, RunPiece(4, 0.032, 7e-6, 3.5, False, True), RunPiece(50, 0.0254, 7e-6, 3),
                                        bank_m=2.0),
    ),
    "helical in a well": ("auger-7", "hose-25", layout_of(27.0, RunPiece(34, 0.0254, 7e-6, 5))),
    "level that falls": (
        "stairwell-30", "hose-25", layout_of(22.0, RunPiece(40, 0.0254, 7e-6, 5), drawdown_s_m2=0.25 / LM, pump_below_m=8.0),
    ),
    "pressure at the end": ("stairwell-14", "hose-19", layout_of(6.0, RunPiece(45, 0.0191, 7e-6, 6), end_pressure_m=7.0)),
    "cold water": ("rill-12", "hose-13", layout_of(1.2, RunPiece(14, 0.0127, 7e-6, 2), water=water_at(2.0))),
    "piston": ("ratchet-9", "hose-19", layout_of(18.0, RunPiece(60, 0.0191, 7e-6, 4), bank_m=1.0)),
    "heights along the run": (
        "stairwell-14", "hose-19", layout_of(11.0, RunPiece(30, 0.0191, 7e-6, 2, end_height_m=4.0),
                                             RunPiece(20, 0.0191, 7e-6, 2, end_height_m=10.5), RunPiece(10, 0.0191, 7e-6, 1)),
    ),
}  # fmt: skip


def epanet(tmp_path: Path, text: str) -> tuple[float, object]:
    """Flow through the pump, and node pressures, as EPANET finds them. [m3/s], [m]"""
    file = tmp_path / "model.inp"
    file.write_text(text, "utf8")
    net = wntr.network.WaterNetworkModel(str(file))
    results = wntr.sim.EpanetSimulator(net).run_sim(file_prefix=str(tmp_path / "run"))
    return float(results.link["flowrate"].loc[0, "pump"]), results.node["pressure"].loc[0]


@pytest.mark.parametrize("name", CASES)
def test_epanet_finds_the_same_flow(name: str, parts, tmp_path) -> None:
    pump, hose, layout = CASES[name]
    kit = Kit(parts.pumps[pump], Direct(), parts.panels["kite-50"], 1, 1, parts.hoses[hose] if hose else None)
    ours = at_rated(kit, layout).flow_m3_s
    assert ours is not None
    assert ours > 0.5 * LM
    theirs, _ = epanet(tmp_path, write(name, kit, layout, heights_along(layout, kit.pump)))
    assert theirs == pytest.approx(ours, rel=0.02)


@pytest.mark.parametrize("number", [0, 3])
def test_pressures_along_a_demo_job(number: int, tmp_path) -> None:
    """Every joint's pressure within 2 % of the pump's head (velocity head is left out by both)."""
    from squall.job.worked.run import stations_of

    chosen = assess(demo_jobs()[number]).chosen
    heights = heights_along(chosen.layout, chosen.kit.pump)
    _, pressure = epanet(tmp_path, write("demo", chosen.kit, chosen.layout, heights))
    places = stations_of(chosen)
    top = max(place.pressure_m for place in places)
    pump = next(place for place in places if str(place.name) == "pump, outlet side")
    assert pressure["pump_out"] == pytest.approx(pump.pressure_m, abs=0.02 * top)
    for place in places:
        if str(place.name).startswith("end of piece"):
            assert pressure[f"end{place.piece + 1}"] == pytest.approx(place.pressure_m, abs=0.02 * top)


def test_a_run_over_a_hump_is_not_exported(parts) -> None:
    """EPANET would count the fall beyond it as gain."""
    hump = layout_of(6.0, RunPiece(20, 0.0191, 7e-6, 2, end_height_m=9.0), RunPiece(20, 0.0191, 7e-6, 2))
    kit = Kit(parts.pumps["stairwell-14"], Direct(), parts.panels["kite-50"], 1, 1)
    with pytest.raises(Unsolvable, match="higher than its outlet"):
        write("hump", kit, hump, heights_along(hump, kit.pump))
    assert hump.static_head_m == 9.0
    assert replace(hump, closed_circuit=True).static_head_m == 0.0
