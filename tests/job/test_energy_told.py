"""Energy of a day's water as it is told: minutes of use by volume over flow, Wh, Ah, the bank's share by both schools."""

import pytest

from squall.demo import demo_jobs
from squall.job.edit.kits import choose_option
from squall.job.told.power import energy_figures
from squall.job.worked.assess import assess


def told(job) -> dict[str, float]:
    return {figure.key: figure.value for figure in energy_figures(assess(job))}


def test_a_straight_kit_tells_minutes_and_watt_hours() -> None:
    job = demo_jobs()[0]
    a, found = assess(job), told(job)
    k = a.chosen
    minutes = max(a.wanted_l) / (k.working.flow_m3_s * 60_000.0)
    assert found["energy-minutes"] == pytest.approx(minutes * 60.0)
    # Wh = V A h, by definition.
    assert found["energy-wh"] == pytest.approx(k.working_v * k.working.motor_a * minutes / 60.0)
    assert "energy-ah" not in found


def test_a_bank_tells_its_share_by_both_schools() -> None:
    goats = demo_jobs()[0]
    banked = next(o for o in goats.options if o.source == "battery")
    job = choose_option(goats, banked.id)[0]
    found, supply = told(job), assess(job).chosen.kit.supply
    assert found["energy-ah"] == pytest.approx(found["energy-wh"] / supply.open_v)
    assert found["energy-share"] == pytest.approx(found["energy-ah"] / supply.battery.capacity_ah)
    assert found["energy-usable"] == pytest.approx(found["energy-share"] / supply.battery.usable)


def test_without_a_kit_or_water_nothing_is_told() -> None:
    school = demo_jobs()[4]
    assert told(school) == {}
