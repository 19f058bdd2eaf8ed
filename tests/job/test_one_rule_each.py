"""Things that two pages once knew differently, or that no page knew: floats, panels that face two ways, watts of a label, dust of rounding."""

import pytest

from squall.core.advice.rank import rank
from squall.core.advice.refusals import allowed_v, place_refusal
from squall.core.kit.cabling import Rules
from squall.core.kit.course import met_by
from squall.core.kit.setup import Setup
from squall.core.years.by_light import instant_v
from squall.core.years.many_days import days_of
from squall.core.years.nodes import hours_over
from squall.core.years.use import plain_use
from squall.demo import demo_jobs
from squall.job.document.base import quantity
from squall.job.document.fields import edit
from squall.job.document.own_pumps import OwnPump
from squall.job.edit import kits
from squall.job.told.join import join_findings
from squall.job.told.store import float_findings
from squall.job.told.sun import shadow_rows
from squall.job.told.wire import contact_findings
from squall.job.worked.assess import assess
from squall.job.worked.own_parts import parts_of
from squall.job.worked.resolve import devices_of
from squall.job.worked.use import floats_of, tank_of
from squall.job.worked.years import run_of
from squall.words import later
from squall.words.units import text


@pytest.fixture(scope="module")
def goats():
    return demo_jobs()[0]


def with_devices(job, *keys):
    return job.model_copy(update={"devices": list(keys)})


def test_a_float_in_the_loop_is_the_tanks_float(goats, parts) -> None:
    bare = edit(edit(goats, "store.float_switch", "no", parts), "want.trough", "2500 L", parts)
    assert tank_of(with_devices(bare)).off_above_l == float("inf")
    looped = with_devices(bare, "float-10")
    assert floats_of(looped) == 1
    assert tank_of(looped).off_above_l == pytest.approx(2500.0)
    assert "taken as this tank's" in str(float_findings(looped)[0].text)


def test_two_floats_for_one_tank_are_said_once(goats, parts) -> None:
    two = with_devices(edit(goats, "store.float_switch", "yes", parts), "float-10", "float-5", "toggle-20")
    found = float_findings(two)
    assert len(found) == 1
    assert "2 float switches" in str(found[0].text)
    assert "none stands in the pump's loop" in str(float_findings(with_devices(two))[0].text)
    assert float_findings(with_devices(two, "float-10")) == []


def test_whatever_starts_and_stops_the_pump_is_asked_for_in_its_loop(goats, parts) -> None:
    """Cut-in and cut-out stood under Tank and battery, and no rating of the contact that opens there was judged."""

    def told(job) -> str:
        a = assess(job)
        return " ".join(str(found.text) for found in contact_findings(a, a.chosen))

    still = edit(edit(goats, "store.float_switch", "no", parts), f"options.{goats.chosen}.pump", "bellows-11", parts)
    set_to = edit(edit(still, "store.cut_in", "12 m", parts), "store.cut_out", "20 m", parts)
    assert told(with_devices(still)) == ""
    assert "pressure switch is set under Tank and battery" in told(with_devices(set_to))
    assert told(with_devices(set_to, "press-12")) == ""
    assert "not said" in told(with_devices(still, "press-12"))
    stopped = [one for one in devices_of(with_devices(set_to, "press-12"), parts) if one.kind == "pressure switch"]
    assert [one.rating_a for one in stopped] == [12.0]


def test_a_float_on_its_controllers_input_bears_no_pump(goats, parts) -> None:
    three = {
        "pump": "auger-9t", "source": "controller", "controller": "warden-48t", "panel": "ridge-215", "in_series": 2, "in_parallel": 1,
    }  # fmt: skip
    option = goats.option.model_copy(update=three)
    job = with_devices(edit(goats, "store.float_switch", "yes", parts)).model_copy(update={"options": [option]})
    a = assess(job)
    assert contact_findings(a, a.chosen) == []
    bare = assess(with_devices(edit(goats, "store.float_switch", "yes", parts)))
    assert "none stands in the pump's loop" in str(contact_findings(bare, bare.chosen)[0].text)


def test_one_panel_cant_face_two_ways(goats, parts) -> None:
    """Refused on the verdict, in the ranking and by the levers alike; two strings may."""
    split = edit(edit(goats, "mount.second_azimuth", "90", parts), f"options.{goats.chosen}.in_parallel", "1", parts)
    a = assess(split)
    assert a.chosen.kit.in_parallel == 1
    assert "can't be shared out" in str(a.chosen.refusal)
    found = rank(parts.stock, a.layout, a.lit, plain_use(a.need_l), Rules(0.05, "metric"))
    assert found.holds
    assert all(row.kit.in_parallel % 2 == 0 for row in (*found.holds, *found.short))
    assert any("can't be shared out" in str(row.reason) for row in found.refused)
    both = kits.join(split, "parallel-more")[0]
    assert "shared out" not in str(assess(both).chosen.refusal)
    assert place_refusal(assess(both).chosen.kit, a.layout, a.lit) is None


def test_a_hand_on_one_panel_behind_a_controller(parts) -> None:
    """The water is what the controller makes of what is left, not what panels straight on the pump would give."""
    saffron = demo_jobs()[1]
    chosen = assess(saffron).chosen
    assert chosen.kit.source == "controller"
    rows = shadow_rows(chosen)
    flows = [row.met.flow_m3_s for row in rows]
    assert flows == sorted(flows, reverse=True)
    c = chosen.kit.controller
    assert rows[0].met.motor_v <= c.out_max_v * (1.0 + 1e-9)
    source_v = rows[0].met.motor_v + rows[0].met.motor_a * chosen.setup.pump_ohm
    assert source_v * rows[0].met.motor_a <= c.efficiency * rows[0].watts * (1.0 + 1e-3)


def test_outside_its_window_a_controller_gives_nothing(parts) -> None:
    from squall.core.drive.mismatch import LitModule, array_curve

    chosen = assess(demo_jobs()[1]).chosen
    lit = LitModule(chosen.kit.panel.module, 900.0, 45.0)
    assert met_by(chosen.setup, array_curve([[lit] * 12])).flow_m3_s == 0.0


def test_the_ratio_of_watts_goes_by_the_label(goats) -> None:
    job = goats.model_copy(update={"own_pumps": [OwnPump(id="mine", name="x", watts=quantity("90 W", 90.0))]})
    from squall.catalogue import catalogue

    assert parts_of(job, catalogue()).pumps["own-mine"].stated_w == 90.0


@pytest.mark.parametrize("kind", ["volts", "share", "head", "flow", "litres", "amps", "temperature", "number"])
def test_the_dust_of_rounding_is_nothing(kind) -> None:
    for dust in (-5.6e-17, 1.2e-16, -1e-18):
        said = text(dust, kind)
        assert said.startswith("0")
        assert "e" not in said.replace("de", "")


def test_no_sentence_says_minus_nothing() -> None:
    assert str(later("{a:.1f} and {b:.0f} and {c:g}", a=-1e-17, b=-0.2, c=-5.6e-17)) == "0.0 and 0 and 0"
    assert str(later("{a:.1f}", a=-0.26)) == "-0.3"


@pytest.mark.parametrize("number", range(5))
def test_a_run_of_no_length_is_worked_out(number, parts) -> None:
    job = demo_jobs()[number]
    for piece in job.run:
        job = edit(job, f"run.{piece.id}.length", "0 m", parts)
    a = assess(job)
    assert a.problem is None
    if a.chosen is not None and a.chosen.refusal is None:
        assert a.chosen.season.average_litres.min() >= 0.0
    found = rank(parts.stock, a.layout, a.lit, a.used, a.rules)
    assert found.tried > 100


def test_a_pump_whose_maker_states_no_limit_has_one_everywhere(goats, parts) -> None:
    """1.2 times its own volts, common practice, no source: in Joining, verdict, ranking and behind controllers alike."""
    pump = OwnPump(id="mine", name="no limit", volts=quantity("12 V", 12.0), label_flow=quantity("22 L/min", 22 / 60_000.0),
                   label_height=quantity("14 m", 14.0))  # fmt: skip
    job = goats.model_copy(update={"own_pumps": [pump]})
    options = [o.model_copy(update={"pump": "own-mine"}) if o.id == job.chosen else o for o in job.options]
    job = job.model_copy(update={"options": options})
    a = assess(job)
    assert allowed_v(a.chosen.kit) == pytest.approx(14.4)
    assert a.chosen.season.most_motor_v > 14.4
    assert "states no limit" in str(a.chosen.refusal)
    said = [str(f.text) + " ".join(map(str, f.answers)) for f in join_findings(a, a.chosen)]
    assert any("hours a year it is over that" in words or "only for instants" in words for words in said)
    found = rank(a.parts.stock, a.layout, a.lit, a.used, a.rules)
    mine = [row for row in (*found.holds, *found.short) if row.kit.pump.id == "own-mine" and row.kit.source == "panel"]
    assert mine
    assert all(instant_v(Setup(row.kit, a.layout, row.cabling)) <= 14.4 for row in mine)


def test_hours_over_the_limit_are_those_of_the_years(goats) -> None:
    """Against the years' own run: hours in which the motor gets more than a volt less than its noon."""
    a = assess(goats)
    noon = a.chosen.season.noon_motor_v
    days = days_of(a.lit)
    assert hours_over(a.chosen.setup, days, noon + 0.5) == 0.0
    run = run_of(a, a.chosen, only=0)
    theirs = float((run.last.motor_v > noon - 1.0).sum()) / 6.0
    assert hours_over(a.chosen.setup, days, noon - 1.0) == pytest.approx(theirs, rel=0.25)
