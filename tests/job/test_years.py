"""The years of a job: what is drawn, its tank, its report; panels stood, joined and told; stores and outdoors."""

from dataclasses import replace

import numpy as np
import pytest

from squall.core.errors import BadQuantity, NotFound, OutOfRange, SquallError, Stopped
from squall.core.sky.whole_year import MeasuredYear
from squall.demo import demo_jobs
from squall.job.document.fields import edit
from squall.job.edit import kits
from squall.job.edit.rows import add_typed_row
from squall.job.told.join import join_findings, light_figures, unlike
from squall.job.told.outdoors import freezing_order, frost_findings, wind_figures
from squall.job.told.power import power_figures
from squall.job.told.store import (
    bank_figures,
    both_schools,
    store_findings,
    supply_finding,
    timer_findings,
)
from squall.job.told.sun import groups_of_day, shadow_hours, shadow_rows, stand_options, stands_of, stood
from squall.job.told.years import years_figures
from squall.job.worked.assess import assess
from squall.job.worked.place import climate_of
from squall.job.worked.resolve import kit_of, mounting_of
from squall.job.worked.trials import NOW, STEEP, Trials
from squall.job.worked.use import tank_of, well_gives
from squall.job.worked.years import digest_of, report_of
from squall.words.calendar import day_name


@pytest.fixture(scope="module")
def goats():
    return demo_jobs()[0]


@pytest.fixture(scope="module")
def banked(goats):
    return kits.choose_option(goats, goats.options[0].id)[0]


def typed(job, parts, **fields: str):
    for path, value in fields.items():
        job = edit(job, path.replace("__", "."), value, parts)
    return job


@pytest.fixture(scope="module")
def report(goats, parts):
    a = assess(typed(goats, parts, years__count="2"))
    return report_of(a, a.chosen, None, "")


def test_a_report_adds_up(report) -> None:
    assert len(report.days) == 2
    assert {len(row) for row in report.days} == {365}
    short = sum(row.count("s") for row in report.days)
    assert report.short_in_a_hundred == pytest.approx(100.0 * short / 730.0)
    assert len(report.bad) == min(short, 40)
    assert all(report.days[b.year][b.day] == "s" for b in report.bad)
    assert report.litres_a_year == pytest.approx(sum(map(sum, report.litres)) / 2, rel=1e-3)
    assert abs(report.energy_off) < 1e-3
    assert all(0 <= v <= report.tank_l for row in report.stored for v in row)
    assert report.charge == []
    keys = {figure.key for figure in years_figures(report)}
    assert {"short-days", "hours-year", "starts-day", "energy-year"} <= keys
    assert "cycles" not in keys


def test_the_mark_changes_with_what_counts_and_not_with_words(goats, parts) -> None:
    mark = digest_of(goats)
    assert digest_of(typed(goats, parts, notes="a word")) == mark
    assert digest_of(goats.model_copy(update={"visits": []})) == mark
    assert digest_of(typed(goats, parts, lift="9.5 m")) != mark
    assert digest_of(typed(goats, parts, years__seed="2")) != mark
    assert digest_of(goats, "file") != mark


def test_a_stopped_run_says_so_and_a_bad_kit_is_refused(goats, parts) -> None:
    a = assess(goats)
    with pytest.raises(Stopped):
        report_of(a, a.chosen, None, "", progress=lambda share: False)
    donkeys = assess(demo_jobs()[3])
    with pytest.raises(SquallError, match="won't do"):
        report_of(donkeys, donkeys.chosen, None, "")


def test_what_is_drawn_is_what_is_wanted_in_its_hours(goats) -> None:
    """Half of the herd's water in the first hour from six, the rest to eighteen; months typed by hand scale it."""
    a = assess(goats)
    demand = a.used.demand
    assert demand.litres_a_day == pytest.approx(np.array(a.wanted_l))
    january = demand.draw_l_s[0] * 600.0
    assert january[36:42].sum() == pytest.approx(0.5 * a.wanted_l[0])
    assert january[:36].sum() == pytest.approx(0.0)
    assert demand.draw_l_s[5].sum() * 600.0 == pytest.approx(520.0)


def test_litres_typed_are_drawn_by_day(parts) -> None:
    ducks = demo_jobs()[2]
    demand = assess(ducks).used.demand
    assert demand.draw_l_s[0, :36].sum() == 0.0
    assert demand.litres_a_day[0] == pytest.approx(6000.0)


def test_tank_and_float_of_a_job(goats, parts) -> None:
    chosen = assess(goats).chosen
    tank = tank_of(goats)
    assert tank.capacity_l == pytest.approx(2500.0)
    assert tank.travel_l == pytest.approx(2500.0 * 0.10 / 0.9)
    bare = goats.model_copy(update={"devices": []})  # a float in the loop is the tank's too
    assert tank_of(typed(bare, parts, store__float_switch="no")).off_above_l == float("inf")
    assert tank_of(typed(goats, parts, want__trough="0 L")) is None
    with pytest.raises(OutOfRange, match="ripple"):
        tank_of(typed(goats, parts, store__travel="1 cm"))
    with pytest.raises(OutOfRange, match="depth"):
        tank_of(typed(goats, parts, store__travel="2 m"))
    brought = typed(goats, parts, **{f"options__{goats.chosen}__tank": "barrow-1000", "want__trough": "0 L"})
    a = assess(brought)
    assert tank_of(brought, a.chosen.kit.tank).capacity_l == 1000.0
    assert a.chosen.price == pytest.approx(chosen.price + parts.tanks["barrow-1000"].price)
    assert typed(brought, parts, **{f"options__{goats.chosen}__tank": "none"}).option.tank is None


def test_wells_cap_and_dial_slows(parts) -> None:
    donkeys = demo_jobs()[3]
    assert well_gives(donkeys)[0] == pytest.approx(7.0 / 60.0)
    assert well_gives(demo_jobs()[0]) == (None, None)
    saffron = demo_jobs()[1]
    slow = typed(saffron, parts, **{f"options__{saffron.chosen}__dial": "60 %"})
    assert kit_of(slow.option, parts).controller.out_max_v == pytest.approx(
        0.6 * kit_of(saffron.option, parts).controller.out_max_v
    )
    assert assess(slow).chosen.worst_litres < assess(saffron).chosen.worst_litres


def test_a_measured_year_is_run_once(goats, parts) -> None:
    hours = np.tile(np.clip(800.0 * np.sin((np.arange(24) - 6) / 12 * np.pi), 0, None), 365)
    year = MeasuredYear(hours, 0.2 * hours, np.full(8760, 15.0), "made.epw (an EPW file)")
    a = assess(goats)
    found = report_of(a, a.chosen, year, "mark")
    assert found.years == 1
    assert found.told_by.startswith("made.epw")
    assert found.digest == digest_of(goats, "mark")


def test_days_have_names() -> None:
    assert day_name(0) == "1 January"
    assert day_name(59) == "1 March"
    assert day_name(364) == "31 December"
    with pytest.raises(OutOfRange):
        day_name(365)


def test_ways_to_stand_can_be_taken(goats) -> None:
    a = assess(goats)
    ways = {stand.key: stand for stand in stands_of(a, a.chosen)}
    assert ways["two-season"].january_l > ways["latitude"].january_l * 0.99
    assert ways["two-season"].july_l > ways["latitude"].july_l * 0.99
    assert ways["now"].worst_l == pytest.approx(a.chosen.worst_litres)
    for key, stand in ways.items():
        job, _ = stood(goats, key)
        mounting = stand_options(goats)[key][1]
        assert mounting_of(job) == mounting
        assert assess(job).chosen.season.average_litres == pytest.approx(stand.months, rel=1e-9)
    with pytest.raises(BadQuantity):
        stood(goats, "upside-down")


def test_shadows_and_horizon_cost_water(goats, parts) -> None:
    free = assess(goats.model_copy(update={"mount": goats.mount.model_copy(update={"horizon": []})}))
    hills = assess(goats)
    assert (hills.light.plane_kwh_m2 <= free.light.plane_kwh_m2).all()
    assert hills.light.plane_kwh_m2.sum() < free.light.plane_kwh_m2.sum()
    shaded = typed(goats, parts, mount__post="yes", mount__post_from="320", mount__post_to="350", mount__post_top="60")
    assert max(shadow_hours(assess(shaded))) > 0.4
    assert shadow_hours(hills) == [0.0] * 12
    rows = shadow_rows(hills.chosen)
    assert [row.met.flow_m3_s for row in rows] == sorted((row.met.flow_m3_s for row in rows), reverse=True)


def test_joining_is_judged_loudly(parts) -> None:
    """Four panels in series on the 12 V controller: over its window on the coldest morning, and over 60 V."""
    saffron = demo_jobs()[1]
    option = saffron.option
    one_more, words = kits.join(saffron, "series-more")
    assert str(words) == f"{option.in_series + 1} in a string, {option.in_parallel} strings"
    fine = join_findings(assess(saffron), assess(saffron).chosen)
    assert fine[0].grade == "good"
    many = typed(saffron, parts, **{f"options__{option.id}__in_series": "4"})
    a = assess(many)
    found = [f.text for f in join_findings(a, a.chosen) if f.grade == "bad"]
    assert any("Stop" in text and "controller" in text for text in found)
    assert any("60\u00a0V" in text for text in found)
    assert a.chosen.refusal is not None
    with pytest.raises(BadQuantity, match="1 to 12"):
        kits.join(one_more, "series-less") and kits.join(saffron, "series-less")
    with pytest.raises(NotFound):
        kits.join(demo_jobs()[4], "series-more")


def test_unlike_panels_in_numbers(goats, parts) -> None:
    chosen = assess(goats).chosen
    figures, words = unlike(chosen, parts.panels["kite-20"], in_series=True)
    by_key = {figure.key: figure.value for figure in figures}
    assert by_key["unlike-watts"] < by_key["unlike-parts"]
    assert "Not alike" in words
    assert "Alike enough" in unlike(chosen, chosen.kit.panel, in_series=False)[1]


def test_start_takes_more_light_than_running_on(goats, banked) -> None:
    starts, keeps = light_figures(assess(goats).chosen)
    assert starts.value >= keeps.value > 0
    assert light_figures(assess(banked).chosen) == []


def test_store_is_told_its_runs_and_its_burst(goats, parts) -> None:
    a = assess(goats)
    _, fine = store_findings(a, a.chosen)
    assert {f.grade for f in fine} <= {"good", "care"}
    small = assess(typed(goats, parts, want__trough="150 L", want__burst="100 %", store__travel="4 cm"))
    _, found = store_findings(small, small.chosen)
    words = " ".join(f.text for f in found)
    assert "minutes" in words
    assert "When the herd comes" in words
    none, chattering = store_findings(assess(typed(goats, parts, store__travel="1 cm")), a.chosen)
    assert none is None
    assert "chatters" in chattering[0].text
    nothing = assess(typed(goats, parts, want__trough="0 L"))
    assert store_findings(nothing, nothing.chosen)[0] is None


def test_battery_timer_and_both_schools(banked, goats, parts) -> None:
    a = assess(banked)
    usable, hours, other, days = bank_figures(a, a.chosen)
    # Two schools: half of a lead battery's charge, or nearly all of it.
    assert other.value == pytest.approx(hours.value * 0.9 / 0.5)
    assert days.value == pytest.approx(power_figures(a, a.chosen)[-1].value)
    assert usable.value == pytest.approx(
        35 * 0.5 * 0.9 * (1 - 0.008 * (25 - min((m.t_min_c + m.t_max_c) / 2 for m in climate_of(banked, parts).months)))
    )
    own = a.chosen.kit.controller.own_a
    assert hours.value == pytest.approx(usable.value / (a.chosen.season.most_motor_a + own))
    assert days.value > 0
    assert bank_figures(assess(goats), assess(goats).chosen) == []
    assert "any time" in timer_findings(a, a.chosen)[0].text
    timed, _ = add_typed_row(banked, "bank.timer", "", {"at": "6:30", "minutes": "90 min"}, parts, "metric")
    assert timed.bank.timer[0].at.si == 6.5
    b = assess(typed(timed, parts, **{f"bank__timer__{timed.bank.timer[0].id}__sunday": "no"}))
    assert "0.0 to 1.5" in timer_findings(b, b.chosen)[0].text
    water, charge = both_schools(a, a.chosen)
    assert "Barrow" in water.takes
    assert water.price > 0
    assert "Ah" in charge.takes


@pytest.mark.parametrize(
    ("volts", "amps", "grade", "said"),
    [
        (12.0, 8.0, "good", "to spare"),
        (12.0, 3.4, "bad", "no water|near its limit"),
        (40.0, 9.0, "bad", "over what"),
        (3.0, 9.0, "bad", "no water"),
    ],
)
def test_plug_in_supplies(goats, volts, amps, grade, said) -> None:
    found = supply_finding(assess(goats).chosen, volts, amps)
    assert found.grade == grade
    import re

    assert re.search(said, found.text)


def test_frost_and_wind_of_a_job(goats, parts) -> None:
    a = assess(goats)
    found = frost_findings(a)
    assert "nights a year" in found[0].text
    order = freezing_order(a, climate_of(goats, parts))
    assert [row.begins_h for row in order] == sorted(row.begins_h for row in order)
    buried = assess(typed(goats, parts, outdoors__lies="buried", outdoors__buried="0.8 m"))
    assert all(row.begins_h == float("inf") for row in freezing_order(buried, climate_of(goats, parts)))
    sleeved = assess(typed(goats, parts, outdoors__lies="insulated"))
    assert freezing_order(sleeved, climate_of(goats, parts))[0].begins_h > 3 * order[0].begins_h
    ground = {f.key: f.value for f in wind_figures(a, a.chosen)}
    stormy = assess(typed(goats, parts, outdoors__wind="110 km/h"))
    assert {f.key: f.value for f in wind_figures(stormy, stormy.chosen)}["wind-force"] > ground["wind-force"]
    post = assess(typed(goats, parts, outdoors__stand="pole"))
    assert "post-depth" in {f.key for f in wind_figures(post, post.chosen)}


def test_trials_try_both_tilts(goats) -> None:
    a = assess(goats)
    trials = Trials(a)
    assert set(trials.mountings) == {NOW, STEEP}
    assert trials.tilts[STEEP] == 45.0
    steep = goats.model_copy(update={"tilt": replace_typed(goats.tilt, 46.0)})
    assert set(Trials(assess(steep)).mountings) == {NOW}


def replace_typed(value, si: float):
    return value.model_copy(update={"typed": f"{si:g}°", "si": si})


def test_two_tilts_are_in_the_month_they_are_for(goats, parts) -> None:
    two = mounting_of(typed(goats, parts, mount__second_tilt="50°", mount__second_first="11", mount__second_last="2"))
    assert [two.tilt_in(month) for month in (0, 1, 2, 9, 10, 11)] == [50.0, 50.0, 35.0, 35.0, 50.0, 50.0]
    assert replace(two, other_tilt_deg=None).tilt_in(0) == 35.0


def test_each_group_has_its_own_light(goats, parts) -> None:
    """East is bright before noon, west after; what the panels get is their mean; its own tilt changes one half alone."""
    split = typed(goats, parts, tilt="20", azimuth="90", mount__second_azimuth="270")
    a = assess(split)
    east, west = groups_of_day(a, 0)
    assert east.light_w_m2[:70].sum() > 1.4 * west.light_w_m2[:70].sum()
    assert west.light_w_m2[78:].sum() > 1.4 * east.light_w_m2[78:].sum()
    assert (east.kwh_m2 + west.kwh_m2) / 2.0 == pytest.approx(a.light.plane_kwh_m2[0, 0], rel=0.01)
    steep = assess(typed(split, parts, mount__group_tilt="60"))
    first, second = groups_of_day(steep, 0)
    assert first.light_w_m2 == pytest.approx(east.light_w_m2)
    assert second.kwh_m2 < west.kwh_m2
    shaded = assess(
        typed(goats, parts, mount__post="yes", mount__post_from="330", mount__post_to="30", mount__post_top="80")
    )
    open_sky, hidden = groups_of_day(shaded, 5)
    assert hidden.kwh_m2 < 0.8 * open_sky.kwh_m2


def test_trials_at_the_doubts_bad_end_are_no_drier(goats) -> None:
    a = assess(goats)
    stock = replace(a.parts.stock, pumps=(a.parts.pumps["bellows-4"], a.parts.pumps["stairwell-8"]))
    found = Trials(a, stock).run((), lambda begin, end: lambda share: True)
    assert found
    assert all(t.short_at_worst >= t.short_in_a_hundred - 0.6 for t in found)
    assert any(t.short_at_worst > t.short_in_a_hundred for t in found)


def replace_stock(parts, stock):
    return replace(parts, pumps={pump.id: pump for pump in stock.pumps})
