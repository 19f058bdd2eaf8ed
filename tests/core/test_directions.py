"""Which way things must go: more of this never gives less of that."""

import itertools
from dataclasses import replace

import numpy as np
import pytest
from hill import PLAIN

from squall.core.advice.levers import next_hose, next_size, one_panel_fewer, with_controller
from squall.core.electrics.conductors import conductor
from squall.core.kit.cabling import Rules
from squall.core.kit.kit import Kit
from squall.core.kit.setup import Cabling, Setup, kit_price, pump_run_m
from squall.core.kit.supply import Banked, Controlled, Direct
from squall.core.sky.climate import Site
from squall.core.sky.typical_days import AVERAGE, CLEAR, Mounting, light_of_year
from squall.core.years.by_light import start_light
from squall.core.years.typical import at_rated, year_of

CABLES = Cabling(conductor("mm2:6"), conductor("mm2:2.5"))


def kit_of(parts, source: str) -> Kit:
    direct = Kit(parts.pumps["stairwell-8"], Direct(), parts.panels["kite-50"], 1, 2, parts.hoses["hose-13"])
    if source == "controller":
        return replace(direct, supply=Controlled(parts.controllers["warden-12"]))
    if source == "battery":
        return replace(direct, supply=Banked(parts.controllers["till-10"], parts.batteries["anvil-35"]))
    return direct


@pytest.fixture(params=["panel", "controller", "battery"])
def kit(request, parts) -> Kit:
    return kit_of(parts, request.param)


def litres(kit, layout, light, cables=CABLES) -> np.ndarray:
    return year_of(Setup(kit, layout, cables), light, PLAIN).litres


def test_a_wider_hose_never_gives_less(kit, layout, light, parts) -> None:
    sizes = ["hose-10", "hose-13", "hose-16", "hose-19", "hose-25", "hose-32"]
    years = [litres(replace(kit, hose=parts.hoses[size]), layout, light) for size in sizes]
    for narrow, wide in itertools.pairwise(years):
        assert (wide >= narrow * (1 - 1e-3)).all()


def test_more_lift_never_gives_more(kit, layout, light) -> None:
    years = [litres(kit, replace(layout, lift_m=lift), light) for lift in (2.0, 5.0, 8.0, 10.0, 11.5)]
    for low, high in itertools.pairwise(years):
        assert (high <= low * (1 + 1e-3) + 1e-6).all()


def test_a_thicker_cable_never_gives_less(kit, layout, light) -> None:
    years = [
        litres(kit, layout, light, Cabling(conductor(f"mm2:{size}"), CABLES.array)) for size in ("1.5", "4", "10", "25")
    ]
    for thin, thick in itertools.pairwise(years):
        assert (thick >= thin * (1 - 1e-3)).all()


def test_cleaner_panels_never_give_less(kit, layout, parts) -> None:
    site, climate = Site(-30.4, 24.6, 1180.0, 2.0), parts.climates["ridge"]
    years = [
        litres(kit, layout, light_of_year(site, climate, Mounting(35.0, 0.0, dirt))) for dirt in (0.3, 0.15, 0.05, 0.0)
    ]
    for dirty, clean in itertools.pairwise(years):
        assert (clean >= dirty * (1 - 1e-3)).all()


def test_one_more_string_never_gives_less(kit, layout, light) -> None:
    assert (litres(replace(kit, in_parallel=3), layout, light) >= litres(kit, layout, light) * (1 - 1e-3)).all()


def test_a_controller_starts_in_weaker_light_than_bare_panels(parts, layout) -> None:
    bare = start_light(Setup(kit_of(parts, "panel"), layout, CABLES))
    held = start_light(Setup(kit_of(parts, "controller"), layout, CABLES))
    assert held < bare


def test_cold_water_is_thicker_and_gives_less(parts, layout, light) -> None:
    from squall.core.hydraulics.water import water_at

    kit = kit_of(parts, "panel")
    cold, warm = (litres(kit, replace(layout, water=water_at(t)), light) for t in (2.0, 35.0))
    assert (warm >= cold).all()


def test_winter_is_dearer_than_summer_in_the_south(kit, layout, light) -> None:
    made = litres(kit, layout, light)[AVERAGE]
    assert made[5] < made[11]


def test_no_flow_and_no_amps_at_night(parts, layout, light) -> None:
    season = year_of(Setup(kit_of(parts, "panel"), layout, CABLES), light, PLAIN)
    dark = light.plane_w_m2 < 1.0
    assert not season.flow_m3_s[dark].any()
    assert not season.motor_a[dark].any()


def test_east_facing_panels_start_earlier_and_stop_earlier(parts, layout) -> None:
    site, climate = Site(-30.4, 24.6, 1180.0, 2.0), parts.climates["ridge"]
    kit = kit_of(parts, "panel")
    east, west = (
        year_of(Setup(kit, layout, CABLES), light_of_year(site, climate, Mounting(35.0, a)), PLAIN)
        for a in (90.0, 270.0)
    )
    (e_first, e_last), (w_first, w_last) = east.water_hours(CLEAR, 11), west.water_hours(CLEAR, 11)
    assert e_first < w_first
    assert e_last < w_last


def test_a_clock_an_hour_ahead_moves_the_day_an_hour(parts) -> None:
    climate, mounting = parts.climates["ridge"], Mounting(35.0, 0.0)
    one, two = (light_of_year(Site(-30.4, 24.6, 1180.0, h), climate, mounting) for h in (1.0, 2.0))
    assert two.plane_w_m2[CLEAR, 0, 2:] == pytest.approx(one.plane_w_m2[CLEAR, 0, :-2], abs=8.0)


def test_the_direct_run_is_both_lengths_and_costs_them(parts, layout) -> None:
    assert pump_run_m(kit_of(parts, "panel"), layout) == 25.0
    assert pump_run_m(kit_of(parts, "controller"), layout) == 22.0
    dear = kit_price(Setup(kit_of(parts, "panel"), layout, Cabling(conductor("mm2:10"), None)))
    assert dear > kit_price(Setup(kit_of(parts, "panel"), layout, Cabling(conductor("mm2:6"), None)))


def test_next_sizes(parts, layout) -> None:
    stock, kit = parts.stock, kit_of(parts, "panel")
    assert next_hose(kit, layout, stock).id == "hose-16"
    assert next_hose(replace(kit, hose=parts.hoses["layflat-25"]), layout, stock).id == "layflat-38"
    assert next_hose(replace(kit, hose=parts.hoses["hose-38"]), layout, stock) is None
    assert next_hose(replace(kit, hose=None), layout, stock).id == "hose-25"
    assert next_size(conductor("mm2:6"), Rules(0.05, "metric")).size == "10"
    assert next_size(conductor("mm2:6"), Rules(0.05, "awg")).size == "8"
    assert next_size(conductor("mm2:95"), Rules(0.05, "metric")) is None
    assert next_size(conductor("mm2:0.75"), Rules(0.05, "metric"), 2.5).size == "2.5"  # never one that burns too


def test_fewer_panels_and_a_controller_on_offer(parts) -> None:
    kit = kit_of(parts, "panel")
    assert one_panel_fewer(kit).panels == 1
    assert one_panel_fewer(replace(kit, in_series=2, in_parallel=1)).in_series == 1
    assert one_panel_fewer(replace(kit, in_parallel=1)) is None
    assert with_controller(kit, parts.stock).controller.id == "warden-12"
    assert with_controller(kit_of(parts, "battery"), parts.stock) is None


@pytest.mark.parametrize(
    "pump", ["rill-12", "stairwell-14", "auger-7", "bellows-11", "ratchet-9", "wellspring-6", "heron-m"]
)
def test_every_kind_of_pump_at_rated_volts(parts, layout, pump: str) -> None:
    kit = Kit(parts.pumps[pump], Direct(), parts.panels["kite-110"], 1, 1, parts.hoses["hose-25"])
    result = at_rated(kit, replace(layout, lift_m=2.0))
    assert result.flows
    flow = result.flow_m3_s or result.flow_at_least_m3_s
    assert 0 < flow <= max(q for q, _, _ in kit.pump.motor.points) * 1.001


def test_panels_are_joined_in_words(parts) -> None:
    kit = kit_of(parts, "panel")
    words = {(s, p): str(replace(kit, in_series=s, in_parallel=p).joining) for s in (1, 2) for p in (1, 2)}
    assert words == {
        (1, 1): "one panel",
        (1, 2): "2 in parallel",
        (2, 1): "2 in series",
        (2, 2): "2 strings of 2 in series",
    }
