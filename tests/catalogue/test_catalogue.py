"""The shipped parts: enough of them, of every kind, and none that physics forbids."""

import pytest

from squall.catalogue.reader import FILES, pick, rows, table
from squall.core.electrics.conductors import sizes
from squall.core.electrics.modules import fit_module
from squall.core.electrics.protection import ratings
from squall.core.errors import UnknownPart
from squall.words.figures import FIGURES

EVERY = ("pumps", "panels", "batteries", "controllers", "hoses", "fittings", "devices", "protectors")


def test_there_are_enough_of_every_kind(parts) -> None:
    assert len(parts.pumps) >= 14
    assert {pump.end for pump in parts.pumps.values()} == {"centrifugal", "helical", "diaphragm", "piston"}
    assert {pump.motor.rated_v for pump in parts.pumps.values()} == {12.0, 24.0, 48.0}
    assert {pump.brushed for pump in parts.pumps.values()} == {True, False}
    assert {pump.placement for pump in parts.pumps.values()} == {"bilge", "surface", "submersible"}
    assert len(parts.panels) == 8
    watts = sorted(panel.module.watts for panel in parts.panels.values())
    assert watts[0] == pytest.approx(20, rel=0.05)
    assert watts[-1] == pytest.approx(450, rel=0.05)
    assert len(parts.batteries) >= 5
    assert len({battery.chemistry for battery in parts.batteries.values()}) >= 2
    assert {controller.kind for controller in parts.controllers.values()} == {
        "pump",
        "charge-tracking",
        "charge-switching",
    }
    assert {hose.kind for hose in parts.hoses.values()} == {"smooth", "layflat"}
    assert {one.kind for one in parts.protectors.values()} == {"fuse", "breaker"}
    assert {"switch", "relay"} <= {device.kind for device in parts.devices.values()}
    assert len(sizes("metric")) >= 10
    assert len(sizes("awg")) >= 10


@pytest.mark.parametrize("kind", EVERY)
def test_every_part_has_price_mass_and_says_what_is_guessed(parts, kind: str) -> None:
    columns = set(table(kind)[1])
    for part in getattr(parts, kind).values():
        assert part.price >= 0
        assert part.mass_kg >= 0
        assert part.maker
        assert set(part.guessed) <= columns - {"guessed"}
        assert set(part.guessed) <= set(FIGURES)


def test_no_pump_gives_more_power_than_it_takes(parts) -> None:
    """Hydraulic power rho g Q H over the power behind the winding stays under 75 % at every point."""
    for pump in parts.pumps.values():
        motor = pump.motor
        for flow, head, amps in motor.points:
            behind = (motor.rated_v - amps * motor.resistance_ohm) * amps
            assert 999 * 9.80665 * flow * head <= 0.75 * behind, pump.id


def test_locked_rotor_amps_follow_from_the_winding(parts) -> None:
    for pump in parts.pumps.values():
        assert pump.locked_rotor_a == pytest.approx(pump.motor.rated_v / pump.motor.resistance_ohm, rel=0.02)
        assert pump.motor.max_v >= pump.motor.rated_v
        assert pump.life_h >= 500
        assert 0.003 <= pump.barb_m <= 0.06


def test_brushed_pumps_wear_sooner(parts) -> None:
    """Common practice, no source: brushed bilge pumps last 700 to 800 h; brushless ones years."""
    bilge = [pump for pump in parts.pumps.values() if pump.placement == "bilge"]
    assert all(700 <= pump.life_h <= 800 for pump in bilge if pump.brushed)
    assert all(pump.life_h > 8760 for pump in bilge if not pump.brushed)


@pytest.mark.parametrize("number", range(8))
def test_every_panel_can_be_fitted_and_is_plausible(parts, number: int) -> None:
    panel = list(parts.panels.values())[number]
    assert fit_module(panel.module).series_ohm >= 0
    assert 90 <= panel.module.watts / panel.area_m2 <= 240
    assert 0.55 <= panel.module.voc_v / panel.module.cells <= 0.75


def test_windows_and_banks_are_in_order(parts) -> None:
    for controller in parts.controllers.values():
        assert 0 < controller.min_v < controller.max_v
        assert 0.8 <= controller.efficiency <= 1.0
    for battery in parts.batteries.values():
        assert battery.nominal_v <= battery.open_v <= 1.15 * battery.nominal_v
        assert 0 < battery.usable < 1
        assert battery.internal_ohm * battery.capacity_ah < 2


def test_lead_is_used_half_and_lithium_more(parts) -> None:
    """Common practice, no source."""
    for battery in parts.batteries.values():
        assert (battery.usable <= 0.5) == battery.chemistry.startswith("lead")


@pytest.mark.parametrize(
    ("fitting", "k"),
    [
        ("globe", 10.0),
        ("check", 2.5),
        ("elbow", 0.9),
        ("bend", 0.6),
        ("gate", 0.2),
        ("tee-through", 0.6),
        ("tee-branch", 1.8),
        ("exit", 1.0),
    ],
)
def test_fittings_against_the_manual(parts, fitting: str, k: float) -> None:
    """EPANET 2.2 User Manual (2020), table 3.3, minor loss coefficients."""
    assert parts.fittings[fitting].minor_loss_k == k
    assert "table 3.3" in parts.fittings[fitting].source


def test_every_fitting_names_its_source(parts) -> None:
    for fitting in parts.fittings.values():
        assert (
            any(word in fitting.source for word in ("EPANET", "Borda-Carnot"))
            or fitting.source == "common practice; no source"
        )
        assert ("minor_loss_k" in fitting.guessed) == ("EPANET" not in fitting.source)


def test_protectors_are_of_standard_ratings(parts) -> None:
    for one in parts.protectors.values():
        assert one.rating_a in ratings(one.kind)


def test_hoses_carry_their_true_bore(parts) -> None:
    """A nominal inch is 25.4 mm by definition."""
    assert parts.hoses["hose-25"].inner_diameter_m == pytest.approx(0.0254)
    assert parts.hoses["hose-13"].inner_diameter_m == pytest.approx(0.0127)
    assert parts.hoses["layflat-38"].roughness_m > 10 * parts.hoses["hose-38"].roughness_m


def test_climates_are_of_the_south(parts) -> None:
    for climate in parts.climates.values():
        assert climate.months[0].t_max_c > climate.months[6].t_max_c
        assert climate.record_low_c < min(month.t_min_c for month in climate.months)
        assert climate.record_high_c > max(month.t_max_c for month in climate.months)


def test_every_file_says_when_it_was_entered_and_opens_as_a_table() -> None:
    for name in FILES:
        comments, columns, found = table(name)
        assert any("Entered 20" in line for line in comments)
        assert all(set(row) == set(columns) for row in found)
    with pytest.raises(UnknownPart):
        table("submarines")


def test_an_unknown_part_is_named(parts) -> None:
    with pytest.raises(UnknownPart, match="no pump called “nessie”"):
        pick(parts.pumps, "nessie", "pump")


def test_comments_and_blank_lines_are_passed_over() -> None:
    assert rows("# a\n\nid,x\n# b\n1,2\n") == [{"id": "1", "x": "2"}]
