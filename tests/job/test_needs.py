"""The need as a list: animals, crops, drippers, taps, tanks, channels; and pumps of one's own."""

import math

import fluids
import pytest
from hill import new_job
from hypothesis import given
from hypothesis import strategies as st

from squall.core.electrics.conductors import conductor
from squall.core.errors import BadQuantity, OutOfRange
from squall.core.hydraulics.water import water_at
from squall.core.kit.kit import Kit
from squall.core.kit.setup import Cabling
from squall.core.kit.supply import Direct
from squall.core.need.crops import effective_rain_mm
from squall.core.need.demand import burst, busiest_hour, in_season, litres_at, tap_litres
from squall.core.sky.outside import DAYS_IN_MONTH
from squall.core.years.typical import at_rated
from squall.job.document.fields import check_all, edit
from squall.job.document.job import Job
from squall.job.document.unsaid import unsaid_of
from squall.job.edit import changes, kits
from squall.job.edit.rows import add_row, add_typed_row, own_pump_from_curve, remove_row
from squall.job.fitted.joints import joints_of
from squall.job.told.lift import costs_of, ends_of, life_figures, own_view, trim_of
from squall.job.told.need import gravity_cautions, need_figures, need_findings
from squall.job.told.verdict import verdict_of
from squall.job.worked.assess import assess
from squall.job.worked.needs import et0_of, need_of, parts_of_need, zone_of
from squall.job.worked.own_parts import homemades, parts_of, pump_band

LM = 1.0 / 60_000.0


def typed(job: Job, parts, **fields: str) -> Job:
    for path, text in fields.items():
        job = edit(job, path.replace("__", "."), text, parts)
    return job


@pytest.fixture
def listed(parts) -> Job:
    return typed(new_job("list"), parts, need_by="herd", want__headroom="1")


def use(job: Job, kind: str, parts, **fields: str) -> Job:
    job, _ = add_row(job, "uses", kind)
    return typed(job, parts, **{f"uses__{job.uses[-1].id}__{name}": text for name, text in fields.items()})


def test_animals_drink_by_warmth_state_and_month(listed, parts) -> None:
    job, _ = changes.add_drinkers(listed)
    job = typed(job, parts, herd__h1__kind="donkey", herd__h1__count="10")
    kind = parts.stock_kinds["donkey"]
    assert job.herd[0].name == kind.name
    need, months = need_of(job, parts), parts.climates["ridge"].months
    assert need[0] == pytest.approx(10 * kind.hot_litres), "January days are over 30 °C"
    assert need[5] == pytest.approx(10 * kind.cool_litres), "June days are under 15 °C"
    assert need[3] == pytest.approx(10 * litres_at(months[3].t_max_c, kind.cool_litres, kind.hot_litres))
    milk = need_of(typed(job, parts, herd__h1__state="milk"), parts)
    assert milk[0] == pytest.approx(1.6 * need[0])
    summer = need_of(typed(job, parts, herd__h1__first="11", herd__h1__last="2"), parts)
    assert [litres > 0 for litres in summer] == [True, True, *[False] * 8, True, True]


def test_crop_follows_the_papers_sum(listed, parts) -> None:
    job = use(listed, "crop", parts, crop="tomato", first="10", area="200 m2", efficiency="80 %")
    et0, kc = et0_of(job, parts), parts.crops["tomato"].by_month(9)
    rain = parts.climates["ridge"].months[11].rain_mm
    wanted = (kc[11] * et0[11] - effective_rain_mm(rain) / DAYS_IN_MONTH[11]) * 200.0 / 0.8
    assert need_of(job, parts)[11] == pytest.approx(wanted)
    assert need_of(job, parts)[7] == 0.0
    assert job.uses[0].name == "tomato"
    hargreaves = need_of(typed(job, parts, want__et="hargreaves"), parts)
    assert hargreaves[11] != pytest.approx(wanted, rel=0.01)


def test_drippers_taps_tanks_and_channels(listed, parts) -> None:
    drip = use(listed, "drip", parts, emitters="120", rate="2 L/h", hours="1.5 h")
    assert need_of(drip, parts) == pytest.approx((360.0,) * 12)
    spaced = typed(drip, parts, uses__u1__row_length="30 m", uses__u1__spacing="0.5 m")
    assert need_of(spaced, parts)[0] == pytest.approx(60 * 2 * 1.5)
    taps = use(listed, "taps", parts, times="10", minutes="4 min", flow="6 L/min", running="30 %")
    assert need_of(taps, parts)[0] == pytest.approx(72.0)
    tank = use(listed, "volume", parts, volume="150 L", first="4", last="6")
    assert need_of(tank, parts)[2:6] == pytest.approx((0.0, 150.0, 150.0, 150.0))
    channel = use(listed, "channel", parts, volume="400 L", turnovers="0.5", hours="8 h")
    assert need_of(channel, parts)[0] == pytest.approx(1600.0)


@pytest.mark.parametrize("kind", ["crop", "drip", "taps", "volume", "channel"])
def test_a_new_use_counts_nothing_until_it_is_said(listed, parts, kind) -> None:
    """No default poses as a fact: the verdict waits, names what it waits for, and goes on when all of it is typed or taken out."""
    goats = typed(with_kit(changes.add_drinkers(listed)[0], parts), parts, herd__h1__count="10", herd__h1__each="6 L")
    before = need_of(goats, parts)
    job, _ = add_row(goats, "uses", kind)
    assert need_of(job, parts) == before
    stem, waits = f"uses.{job.uses[0].id}", assess(job).unsaid
    assert waits
    assert verdict_of(assess(job)).grade == "open"
    assert f"({job.uses[0].name})" in str(verdict_of(assess(job)).sentence)
    assert remove_row(job, stem)[0].unsaid == goats.unsaid
    for path in waits:
        job = edit(job, path, {"area": "100 m2", "rate": "2 L/h", "minutes": "2 min", "flow": "6 L/min", "volume": "200 L",
                               "hours": "2 h"}.get(path.split(".")[-1], "20"), parts)  # fmt: skip
    assert assess(job).unsaid == ()
    assert sum(need_of(job, parts)) > sum(before)
    assert verdict_of(assess(job)).grade != "open"


def test_a_use_of_another_kind_asks_for_its_own_figures(listed, parts) -> None:
    job, _ = add_row(listed, "uses", "volume")
    stem = f"uses.{job.uses[0].id}"
    assert unsaid_of(edit(job, f"{stem}.volume", "200 L", parts)) == ()
    turned = edit(edit(job, f"{stem}.volume", "200 L", parts), f"{stem}.kind", "drip", parts)
    assert unsaid_of(turned) == (f"{stem}.emitters", f"{stem}.rate", f"{stem}.hours")
    spaced = edit(edit(turned, f"{stem}.row_length", "30 m", parts), f"{stem}.spacing", "0.5 m", parts)
    assert unsaid_of(spaced) == (f"{stem}.rate", f"{stem}.hours"), "the line counts its drippers"
    assert unsaid_of(edit(job, "need_by", "litres", parts)) == (), "the list doesn't count"


def test_a_months_own_figure_takes_the_sums_place(listed, parts) -> None:
    job = typed(use(listed, "volume", parts, volume="150 L"), parts, months__6="90 L", want__headroom="2")
    need = need_of(job, parts)
    assert need[6] == pytest.approx(180.0)
    assert need[0] == pytest.approx(300.0)
    figures = {figure.key: figure for figure in need_figures(assess(job))}
    assert figures["need-most"].value == pytest.approx(0.3)
    assert figures["need-reserve"].value == pytest.approx(0.3), "two days of 150 L, without headroom"


def test_tap_time_is_more_than_running_time() -> None:
    """Common practice, no source: about 30 % of the time at a sink the water really runs."""
    assert tap_litres(1, 10.0, 6 * LM, 0.3) == pytest.approx(18.0)
    with pytest.raises(OutOfRange):
        tap_litres(1, 10.0, 6 * LM, 1.3)


def test_season_over_new_year() -> None:
    assert [n + 1 for n, here in enumerate(in_season(11, 2)) if here] == [1, 2, 11, 12]
    assert all(in_season(1, 12))


def test_burst_against_trough_and_flow() -> None:
    found = burst(600.0, 0.5, 100.0, 2 * LM)
    assert (found.drunk_l, found.flow_l, found.short_l) == (300.0, pytest.approx(120.0), pytest.approx(80.0))
    assert burst(600.0, 0.5, 500.0, 0.0).short_l == 0.0


@given(st.lists(st.tuples(st.floats(0, 1e4), st.floats(0, 24), st.floats(0, 24)), min_size=1, max_size=5))
def test_no_hour_wants_more_than_the_day(parts_) -> None:
    hour, litres = busiest_hour(parts_)
    assert 0 <= hour < 24
    assert litres <= sum(day for day, *_ in parts_) * 1.000001
    assert litres >= sum(day for day, *_ in parts_) / 24.0 * 0.999999 - 1e-9


def test_hours_of_several_uses_meet() -> None:
    assert busiest_hour([(240.0, 6.0, 18.0), (60.0, 7.0, 8.0)]) == (7, pytest.approx(80.0))
    assert busiest_hour([(100.0, 22.0, 2.0)])[1] == pytest.approx(25.0)


def with_kit(job: Job, parts) -> Job:
    kit = Kit(parts.pumps["stairwell-8"], Direct(), parts.panels["kite-50"], 1, 2, parts.hoses["hose-19"])
    return kits.adopt(job, kit, Cabling(conductor("mm2:6"), None))[0]


def test_what_the_need_says(listed, parts) -> None:
    job, _ = changes.add_drinkers(listed)
    job = use(
        with_kit(typed(job, parts, herd__h1__count="400", herd__h1__each="6 L"), parts),
        "drip",
        parts,
        emitters="50",
        rate="2 L/h",
        hours="2 h",
        pressure="0.8 bar",
    )
    said = [f.text for f in need_findings(assess(job))]
    assert any("more than trough and flow give" in words for words in said)
    assert any("at the outlet" in words for words in said)
    raised = typed(job, parts, want__trough="3000 L", want__fall="1 m")
    said = [f.text for f in need_findings(assess(raised))]
    assert any("carry the burst" in words for words in said)
    assert any("gravity alone won't do" in words for words in said), "1 m of height is only 0.1 bar"
    high = need_findings(assess(typed(raised, parts, want__fall="9 m")))
    assert any("gravity will do" in f.text for f in high)
    tank = need_findings(assess(use(job, "volume", parts, volume="300 L")))
    assert any("takes" in f.text and "minutes" in f.text for f in tank)
    check_all(raised, parts)


def test_a_zone_below_a_tank_loses_its_pressure_in_its_pipe(listed, parts) -> None:
    """120 drippers of 2 L/h through 60 m of 13 mm from a tank 3 m above, by Darcy-Weisbach with the fluids library's factor."""
    job = typed(use(listed, "drip", parts, emitters="120", rate="2 L/h", pressure="0.5 m"), parts, want__fall="3 m")
    own = job.uses[-1].id
    laid = typed(job, parts, **{f"uses__{own}__pipe_length": "60 m", f"uses__{own}__pipe_bore": "13 mm"})
    zone = zone_of(laid, laid.uses[-1], assess(laid).need_parts[-1])
    flow = 120 * 2 / 3.6e6
    water = water_at(laid.water_temperature.si)
    speed = flow / (math.pi / 4 * 0.013**2)
    reynolds = speed * 0.013 / water.viscosity_m2_s
    factor = fluids.friction.friction_factor(Re=reynolds, eD=1.5e-6 / 0.013, Method="Colebrook")
    assert zone.loss_m == pytest.approx((factor * 60 / 0.013 + 1.5) * speed**2 / (2 * 9.80665), rel=1e-3)
    assert zone.left_m == pytest.approx(3.0 - zone.loss_m)
    assert gravity_cautions(assess(laid)) == []
    thin = typed(laid, parts, **{f"uses__{own}__pipe_bore": "6 mm"})
    (found,) = gravity_cautions(assess(thin))
    assert "its pipe brings" in str(found.text)
    high = typed(thin, parts, **{f"uses__{own}__fall": "160 m"})
    assert gravity_cautions(assess(high)) == [], "its own height counts, not that of all"
    wanting = typed(laid, parts, **{f"uses__{own}__pressure": "2.9 m"})
    assert "gravity alone won't do" in str(gravity_cautions(assess(wanting))[0].text)
    absurd = typed(
        laid,
        parts,
        **{f"uses__{own}__emitters": "1000000", f"uses__{own}__rate": "5 L/h", f"uses__{own}__hours": "1 h"},
    )
    assert gravity_cautions(assess(absurd))[0].grade == "bad", "told, and no page dies of it"


def test_parts_know_their_hours(listed, parts) -> None:
    job = use(listed, "volume", parts, from_hour="20 h", to_hour="4 h")
    assert (parts_of_need(job, parts)[0].from_hour, parts_of_need(job, parts)[0].to_hour) == (20.0, 4.0)


def own(parts, **fields: str) -> Job:
    job, _ = add_row(typed(new_job("own"), parts, lift="4 m", need_by="litres", litres="300 L"), "own_pumps")
    return typed(job, parts, **{f"own_pumps__w1__{name}": text for name, text in fields.items()})


ALL_OF_LABEL = {
    "end": "centrifugal", "placement": "submersible", "volts": "12 V", "label_flow": "20 L/min", "label_height": "10 m", "watts": "60 W",
}  # fmt: skip


def test_a_pump_nobody_has_spoken_of_is_no_part_yet(parts) -> None:
    """A label is asked for, not made up: until all of it is said, no ranking and no lever may offer that pump."""
    said: dict[str, str] = {}
    for name, text in ALL_OF_LABEL.items():
        job = own(parts, **said)
        (made,) = homemades(job)
        assert made.part is None, said
        assert "Nobody has said yet" in made.problem
        assert "own-w1" not in parts_of(job, parts).pumps
        assert assess(job).unsaid == tuple(path for path in assess(job).unsaid if not path.startswith("own_pumps")), (
            "others go on"
        )
        said[name] = text
    assert homemades(own(parts, **said))[0].part is not None
    (bucket,) = homemades(own(parts, **{**said, "by": "bucket"}))
    assert "two heights" in bucket.problem


def test_a_pump_known_from_its_label(parts) -> None:
    job = own(parts, **ALL_OF_LABEL)
    made = homemades(job)[0]
    assert made.problem == ""
    assert "curve" in made.part.guessed
    assert pump_band(job, made.part) == pytest.approx(0.3)
    view = own_view(assess(job), made)
    assert view.half_label_m3_s == pytest.approx(10 * LM)
    assert 4 * LM < view.at_lift_m3_s < 20 * LM
    assert made.part.id in parts_of(job, parts).pumps


def test_a_pump_known_from_a_bucket(parts) -> None:
    job = own(parts, **ALL_OF_LABEL, by="bucket")
    assert "two heights" in homemades(job)[0].problem
    for height, seconds in (("1 m", "30 s"), ("4 m", "40 s"), ("7 m", "70 s")):
        tested = {"height": height, "bucket": "10 L", "seconds": seconds}
        job = add_typed_row(job, "own_pumps.w1.points", "", tested, parts, "metric")[0]
    made = homemades(job)[0]
    assert made.problem == ""
    assert made.known.misfit < 0.1
    job = with_kit(job, parts)
    taken, _ = kits.take_pump(job, assess(job).chosen.kit, assess(job).chosen.cabling, made.part)
    a = assess(taken)
    assert a.chosen.kit.pump.title == a.job.own_pumps[0].name
    assert a.pump_band == made.known.band
    assert at_rated(a.chosen.kit, a.layout).flow_m3_s == pytest.approx(a.chosen.working.flow_m3_s)
    with pytest.raises(BadQuantity, match="uses that pump"):
        remove_row(taken, "own_pumps.w1")
    check_all(taken, parts)


def test_a_pump_from_a_file(parts) -> None:
    points = [(q, h, i) for q, h, i in parts.pumps["stairwell-8"].motor.points]
    job, words = own_pump_from_curve(new_job("x"), "bench", points, {}, parts)
    assert "bench" in words
    assert "Kind of pump; Stands; Volts of the label or test." in homemades(job)[0].problem, "the file doesn't say"
    told = {"end": "centrifugal", "placement": "submersible", "volts": "12 V"}
    job, words = own_pump_from_curve(new_job("x"), "bench", points, told, parts)
    assert [q for q, *_ in homemades(job)[0].part.motor.points] == pytest.approx([q for q, *_ in points], rel=1e-3)
    told |= {"watts": "60 W"}
    swapped, _ = own_pump_from_curve(new_job("x"), "bench", [(1 * LM, 1.0, None), (5 * LM, 9.0, None)], told, parts)
    assert "swapped" in homemades(swapped)[0].problem


def test_the_lift_lens(parts) -> None:
    job, _ = changes.add_piece(with_kit(typed(new_job("x"), parts, lift="5 m"), parts))
    a = assess(typed(job, parts, run__p2__hose="hose-10", run__p2__fixed="yes", run__p1__fittings__elbow="4"))
    costs = costs_of(a, a.chosen)
    assert costs[0].key == "p2"
    assert any("4 x elbow" in cost.name for cost in costs)
    assert [joint.meets for joint in joints_of(a, a.chosen).joints].count(False) == 1
    trim = trim_of(a.chosen, 3 * LM, "3 L/min")
    assert trim.throttle is not None
    assert trim.figures[1].value == pytest.approx(trim.throttle.minor_loss_k)
    assert "nothing to trim" in trim_of(a.chosen, 300 * LM, "80 gpm").problem
    assert {f.key for f in life_figures(a.chosen)} == {"life-months", "life-cost"}
    assert ends_of(a)[0].end == "centrifugal"
