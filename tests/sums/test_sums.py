"""The sums: names, units and refusals of the contract."""

import json
import subprocess
import sys

import pytest

from squall.core.errors import BadCurve, NotFound, OutOfRange, SquallError
from squall.sums import SUMS, run
from squall.sums.registry import BadSum

CONTRACT = {
    "pipe-loss": {"head_loss_m", "velocity_m_per_s", "reynolds_number", "friction_factor"},
    "operating-point": {"flow_l_per_min", "head_m", "friction_m", "flows", "limiting"},
    "pv-curve": {"isc_a", "voc_v", "imp_a", "vmp_v", "pmp_w", "points"},
    "drive": {"flow_l_per_min", "head_m", "motor_v", "motor_a", "source_v", "source_w", "flows", "why_not"},
    "energy": {"power_w", "minutes", "energy_wh", "charge_ah", "battery_share"},
    "wire": {"resistance_ohm", "drop_v", "drop_fraction"},
    "choose-wire": {"size", "area_mm2", "drop_fraction", "ampacity_a", "limited_by"},
    "water-level-from-drop": {"depth_m", "uncertainty_m"},
    "combine-levels": {"depth_m", "uncertainty_m", "consistent"},
    "suction-limit": {"max_suction_lift_m"},
    "string-window": {"voc_cold_v", "vmp_hot_v", "verdict", "reasons"},
    "start-irradiance": {"irradiance_w_per_m2"},
    "autonomy": {"hours"},
    "reference-et": {"et0_mm_per_day", "extraterrestrial_mj_per_m2"},
    "sun-day": {"times", "irradiance_w_per_m2", "day_kwh_per_m2"},
    "storage-run": {"levels_l", "starts", "pumped_l", "short_l", "overflow_l", "run_h"},
    "circuit": {"component_a", "node_v", "probe_v", "flow_l_per_min", "floating", "would_open", "closed"},
    "netlist": {"spice"},
    "protect": {"rating_a", "weakest", "stall_current_a", "stall_blows", "problems", "fixes"},
}


def example(name: str, **change: object) -> dict[str, object]:
    return {**json.loads(json.dumps(SUMS[name].example)), **change}


@pytest.mark.parametrize("name", CONTRACT)
def test_examples_answer_with_the_contracts_names(name: str) -> None:
    assert set(run(name, SUMS[name].example).model_dump()) >= CONTRACT[name]


@pytest.mark.parametrize("name", CONTRACT)
def test_unknown_missing_and_mistyped_fields_are_refused(name: str) -> None:
    given = example(name)
    first = next(iter(given))
    for wrong in (
        {**given, "colour": "red"},
        {k: v for k, v in given.items() if k != first},
        {**given, first: "x"},
        {**given, first: None},
        [],
    ):
        with pytest.raises(SquallError):
            run(name, wrong)


@pytest.mark.parametrize(
    ("name", "change"),
    [
        ("pipe-loss", {"flow_l_per_min": -1.0}),
        ("pipe-loss", {"length_m": float("nan")}),
        ("pipe-loss", {"length_m": float("inf")}),
        ("pipe-loss", {"inner_diameter_mm": 0.0}),
        ("pipe-loss", {"inner_diameter_mm": "19"}),
        ("pipe-loss", {"water_temperature_c": 90.0}),
        ("pipe-loss", {"roughness_mm": 5.0}),
        ("operating-point", {"pump_curve": [[0, 5]]}),
        ("operating-point", {"pump_curve": [[0, 5], [5, 6]]}),
        ("operating-point", {"pump_curve": [[0, 5, 1], [5, 4, 1]]}),
        ("pv-curve", {"irradiance_w_per_m2": 2000}),
        ("sun-day", {"sky": "cloudy"}),
        ("sun-day", {"sky": 1.4}),
        ("sun-day", {"sky": "clearness"}),
        ("sun-day", {"sky": "clear", "clearness": 0.5}),
        ("sun-day", {"step_min": 7.0}),
        ("sun-day", {"step_min": 0.0}),
        ("sun-day", {"latitude_deg": 80.0}),
        ("sun-day", {"date": "2026-02-30"}),
        ("sun-day", {"date": "1492-10-12"}),
        ("sun-day", {"tilt_deg": 120.0}),
        ("storage-run", {"tank_l": 0.0}),
        ("storage-run", {"tank_l": -5.0}),
        ("storage-run", {"start_l": 1200.0}),
        ("storage-run", {"on_below_l": 950.0}),
        ("storage-run", {"off_above_l": 1200.0}),
        ("storage-run", {"step_min": 0.0}),
        ("storage-run", {"draw_l_per_min": [1.0]}),
        ("storage-run", {"draw_l_per_min": []}),
        ("storage-run", {"draw_l_per_min": [0.0, -1.0, 0.0, 0.0]}),
        ("storage-run", {"inflow_l_per_min": None}),
        (
            "storage-run",
            {"pump": {"pump_curve": [[0, 5], [5, 2]], "static_head_to_floor_m": 1, "pipes": [], "tank_area_m2": 1}},
        ),
        ("pv-curve", {"modules_in_series": 0}),
        ("pv-curve", {"modules_in_series": 1.5}),
        ("drive", {"cable_resistance_ohm": -0.1}),
        ("drive", {"source": {"type": "wind"}}),
        ("energy", {"minutes_per_day": 1500}),
        ("energy", {"volume_l_per_day": 100, "flow_l_per_min": 10}),
        ("wire", {"awg": 12}),
        ("wire", {"area_mm2": 3.3}),
        ("wire", {"area_mm2": None, "awg": "57"}),
        ("choose-wire", {"max_drop_fraction": 0}),
        ("choose-wire", {"standard": "swg"}),
        ("choose-wire", {"current_a": 4000}),
        ("protect", {"kind": "wire"}),
        ("protect", {"devices": [{"name": "", "rating_a": 5}]}),
    ],
)
def test_impossible_values_are_refused_with_a_sentence(name: str, change: dict[str, object]) -> None:
    with pytest.raises(SquallError) as caught:
        run(name, example(name, **change))
    assert len(str(caught.value)) > 15
    assert str(caught.value).endswith((".", "?"))


def test_refusal_names_field_given_and_allowed() -> None:
    with pytest.raises(BadSum) as caught:
        run("pipe-loss", example("pipe-loss", flow_l_per_min=-3.0))
    problem = caught.value.problems[0]
    assert problem["field"] == "flow_l_per_min"
    assert problem["given"] == "-3.0"
    assert "greater than or equal to 0" in problem["message"]


def test_unknown_sum() -> None:
    with pytest.raises(NotFound, match="pipe-loss"):
        run("pipe-lost", {})


def test_closed_circuit_does_not_count_the_lift() -> None:
    open_end = run("operating-point", example("operating-point", static_head_m=11.0)).model_dump()
    closed = run("operating-point", example("operating-point", static_head_m=11.0, closed_circuit=True)).model_dump()
    assert closed["flow_l_per_min"] > 3 * open_end["flow_l_per_min"]
    assert closed["head_m"] == pytest.approx(closed["friction_m"])
    assert open_end["head_m"] == pytest.approx(11.0 + open_end["friction_m"])


def test_too_high_and_curve_end_say_so() -> None:
    high = run("operating-point", example("operating-point", static_head_m=20.0)).model_dump()
    assert (high["flows"], high["flow_l_per_min"]) == (False, 0.0)
    assert "7.50 m short" in high["reasons"][0]
    low = run("operating-point", example("operating-point", static_head_m=0.0, pipes=[])).model_dump()
    assert low["flow_l_per_min"] is None
    assert "nothing is promised" in low["reasons"][0]


@pytest.mark.parametrize(
    "source",
    [
        {"type": "battery", "open_v": 12.8, "internal_ohm": 0.02},
        {"type": "supply", "set_v": 12.0, "max_a": 10.0},
        {"type": "pv", "module": SUMS["pv-curve"].example["module"], "modules_in_series": 1, "strings_in_parallel": 1,
         "irradiance_w_per_m2": 900.0, "cell_temperature_c": 45.0},
        {"type": "pv-controller", "module": SUMS["pv-curve"].example["module"], "modules_in_series": 1,
         "strings_in_parallel": 1, "irradiance_w_per_m2": 900.0, "cell_temperature_c": 45.0, "efficiency": 0.94,
         "min_v": 10.0, "max_v": 50.0, "out_max_v": 14.0},
    ],
)  # fmt: skip
def test_drive_on_every_source(source: dict[str, object]) -> None:
    answer = run("drive", example("drive", source=source)).model_dump()
    assert answer["flows"]
    assert answer["why_not"] is None
    assert answer["source_v"] - answer["motor_v"] == pytest.approx(0.2 * answer["motor_a"], rel=1e-6)
    assert answer["source_w"] == pytest.approx(answer["source_v"] * answer["motor_a"])


def test_pv_curve_runs_from_short_to_open() -> None:
    answer = run("pv-curve", SUMS["pv-curve"].example).model_dump()
    points = answer["points"]
    assert points[0] == pytest.approx((0.0, answer["isc_a"]))
    assert points[-1] == pytest.approx((answer["voc_v"], 0.0), abs=1e-6)
    assert max(v * i for v, i in points) <= answer["pmp_w"] * 1.0001
    dark = run("pv-curve", example("pv-curve", irradiance_w_per_m2=0.0)).model_dump()
    assert dark["pmp_w"] == 0.0


def test_contradicting_nameplate_is_refused() -> None:
    module = dict(SUMS["pv-curve"].example["module"], imp_a=6.41, vmp_v=22.5)
    with pytest.raises(SquallError, match=r"contradict|single-diode"):
        run("pv-curve", example("pv-curve", module=module))


def test_wire_by_awg_and_by_area() -> None:
    metric = run("wire", example("wire")).model_dump()
    assert metric["resistance_ohm"] == pytest.approx(2 * 10 * 4.95e-3)
    awg = run("wire", {k: v for k, v in example("wire", awg="12").items() if k != "area_mm2"}).model_dump()
    same = run("wire", {k: v for k, v in example("wire", awg=12).items() if k != "area_mm2"}).model_dump()
    assert awg == same
    assert awg["resistance_ohm"] == pytest.approx(20 / 58 / 3.309, rel=1e-3)


def test_motor_that_cannot_be() -> None:
    motor = dict(SUMS["drive"].example["motor"], points=[[0, 5, 2.9], [8, 9, 4.5]])
    with pytest.raises(BadCurve, match="rises"):
        run("drive", example("drive", motor=motor))


def test_energy_by_volume() -> None:
    """Common practice, no source: 30 gal at 1 gal/min takes 30 min."""
    answer = run(
        "energy", {"voltage_v": 12, "current_a": 5, "volume_l_per_day": 113.56, "flow_l_per_min": 3.78541}
    ).model_dump()
    assert answer["minutes"] == pytest.approx(30.0, rel=1e-4)
    with pytest.raises(OutOfRange, match="1\u202f440"):
        run("energy", {"voltage_v": 12, "current_a": 5, "volume_l_per_day": 9000, "flow_l_per_min": 1})


def command(*words: str, given: str = "") -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-m", "squall.cli", *words], input=given, capture_output=True, text=True, check=False
    )


def test_command_answers_as_the_api_does() -> None:
    done = command("sum", "wire", given=json.dumps(SUMS["wire"].example))
    assert json.loads(done.stdout) == run("wire", SUMS["wire"].example).model_dump()
    refused = command("sum", "wire", given='{"system_v": -1}')
    assert refused.returncode == 2
    assert "system_v" in refused.stderr
    assert "Traceback" not in refused.stderr
    assert "whole JSON" in command("sum", "wire", given="{").stderr


@pytest.mark.parametrize("name", CONTRACT)
def test_api_and_its_description(client, name: str) -> None:
    answer = client.post(f"/api/sums/{name}", json=dict(SUMS[name].example))
    assert answer.status_code == 200
    assert set(answer.json()) >= CONTRACT[name]
    refused = client.post(f"/api/sums/{name}", json={"colour": "red"})
    assert refused.status_code == 422
    assert refused.json()["problems"]
    described = client.get("/openapi.json").json()["paths"][f"/api/sums/{name}"]["post"]
    assert described["requestBody"]["content"]["application/json"]["example"] == json.loads(
        json.dumps(dict(SUMS[name].example))
    )


def test_api_refuses_what_is_no_json_or_no_sum(client) -> None:
    assert client.post("/api/sums/wire", content=b"{").status_code == 422
    assert client.post("/api/sums/wire", content=b'{"system_v": NaN}').status_code == 422
    assert client.post("/api/sums/wires", json={}).status_code == 404
    assert client.post("/api/sums/wire", content=b"[" * 100_000).status_code == 422
    assert client.post("/api/sums/wire", content=b"x" * 1_000_001).status_code == 422


def test_a_pump_from_below_slows_as_the_tank_fills() -> None:
    """With no pipe at all the flow is the curve's at floor + level: A - B Q^C through three points."""
    pump = {
        "pump_curve": [[0, 10.0], [10, 7.5], [20, 0.0]],
        "static_head_to_floor_m": 5.0,
        "pipes": [],
        "tank_area_m2": 1.0,
    }
    found = run("storage-run", {"tank_l": 2000.0, "start_l": 0.0, "on_below_l": 1500.0, "off_above_l": 1900.0, "step_min": 1.0,
                                "draw_l_per_min": [0.0] * 60, "pump": pump})  # fmt: skip
    rates = [after - before for before, after in zip(found.levels_l, found.levels_l[1:], strict=False)]
    assert rates == sorted(rates, reverse=True)
    # 10 - 0.025 Q^2 = 5: Q = sqrt(200) = 14.14 L/min at the empty tank.
    assert rates[0] == pytest.approx(200**0.5, rel=2e-3)
    assert not found.beyond_points
    far = run("storage-run", {"tank_l": 2000.0, "start_l": 0.0, "on_below_l": 1500.0, "off_above_l": 1900.0, "step_min": 1.0,
                              "draw_l_per_min": [0.0] * 5, "pump": {**pump, "pump_curve": [[0, 10.0], [5, 9.4], [10, 7.5]]}})  # fmt: skip
    assert far.beyond_points
    assert far.levels_l[1] == pytest.approx(10.0)
    with pytest.raises(OutOfRange, match="pump curve"):
        run("storage-run", {"tank_l": 2000.0, "start_l": 0.0, "on_below_l": 1500.0, "off_above_l": 1900.0, "step_min": 1.0,
                            "draw_l_per_min": [0.0], "pump": {**pump, "pump_curve": [[8, 5.0], [10, 2.0]]}})  # fmt: skip


def test_sun_days_times_are_the_middles_of_the_steps() -> None:
    found = run("sun-day", example("sun-day", step_min=60.0, longitude_deg=0.0))
    assert found.times[0] == "2026-06-21T00:30:00Z"
    assert len(found.times) == 24
    # Solar noon at Greenwich is at 12:02 that day: the two hours about it are nearly alike.
    assert found.irradiance_w_per_m2.index(max(found.irradiance_w_per_m2)) == 12
    assert found.irradiance_w_per_m2[11] == pytest.approx(found.irradiance_w_per_m2[12], rel=0.01)
