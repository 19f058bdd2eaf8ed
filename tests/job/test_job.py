"""The document, its fields and larger changes, and what follows from it."""

import pytest
from hill import new_job

from squall.core.electrics.conductors import conductor
from squall.core.errors import BadQuantity, NotFound, OutOfRange, SquallError
from squall.core.kit.kit import Kit
from squall.core.kit.setup import Cabling
from squall.core.kit.supply import Direct
from squall.demo import demo_jobs
from squall.job.document.fields import check_all, edit, read, spec
from squall.job.document.paths import value_at
from squall.job.edit import changes, kits
from squall.job.told.kits import price_figure
from squall.job.told.lift import lift_figures
from squall.job.told.need import need_figures
from squall.job.told.power import month_figure, power_figures
from squall.job.told.verdict import verdict_of
from squall.job.told.wire import protection_figures, run_figures
from squall.job.worked.assess import assess
from squall.job.worked.needs import need_of
from squall.job.worked.resolve import kit_of, layout_of, option_from
from squall.words import Voice, speaking
from squall.words.calendar import MONTHS
from squall.words.units import parse


@pytest.fixture
def job():
    return new_job("Trough")


def test_typed_text_is_kept_and_si_is_stored(job, parts) -> None:
    changed = edit(job, "lift", "25 ft", parts)
    assert changed.lift.typed == "25 ft"
    assert changed.lift.si == pytest.approx(7.62)
    assert job.lift.typed == "6 m"


def test_a_bare_number_keeps_the_unit_it_was_read_in(job, parts) -> None:
    assert edit(job, "lift", "25", parts, "us").lift.typed == "25 ft"
    assert edit(job, "latitude", "-31", parts).latitude.typed == "-31°"


def test_a_hose_brings_its_bore_and_a_typed_bore_is_ones_own(job, parts) -> None:
    changed = edit(job, "run.p1.hose", "layflat-38", parts)
    assert changed.run[0].bore.si == pytest.approx(0.0381)
    own = edit(changed, "run.p1.bore", "1 in", parts)
    assert (own.run[0].hose, own.run[0].bore.si) == ("own", pytest.approx(0.0254))
    with pytest.raises(OutOfRange, match="5 % of the bore"):
        edit(own, "run.p1.roughness", "4 mm", parts)


@pytest.mark.parametrize(
    ("path", "typed", "words"),
    [
        ("lift", "4,000 m", "allowed is −30 m to 250 m"), ("lift", "-33 m", "allowed is −30 m"), ("lift", "", "Nothing is typed"),
        ("run.p1.bore", "0", "Inner diameter is 0"), ("run.p1.length", "12 gpm", "that is a flow"),
        ("run.p1.hose", "gold", "not one of the choices"), ("run.p1.fittings.elbow", "two", "not a count"),
        ("name", "  ", "can't be empty"), ("name", "x" * 200, "at most 120"), ("outlet", "sky", "not one of the choices"),
        ("months.3", "-5 L", "allowed is 0 L"), ("water_temperature", "90 °C", "60"),
    ],
)  # fmt: skip
def test_bad_input_is_refused_with_a_sentence(job, parts, path: str, typed: str, words: str) -> None:
    with pytest.raises((BadQuantity, OutOfRange)) as caught:
        edit(job, path, typed, parts)
    assert words in str(caught.value).replace("\u00a0", " ")


@pytest.mark.parametrize(
    "path", ["nothing", "run.p9.length", "herd.h1.count", "months.12", "run.p1.colour", "lift.si", "__class__"]
)
def test_fields_that_are_not_there(job, parts, path: str) -> None:
    with pytest.raises(SquallError):
        edit(job, path, "5 m", parts)


def test_months_and_counts_can_be_emptied(job, parts) -> None:
    job = edit(edit(job, "want.headroom", "1", parts), "months.6", "1.2 m3", parts)
    assert need_of(job, parts)[6] == pytest.approx(1200)
    assert need_of(edit(job, "months.6", "", parts), parts)[6] == pytest.approx(500)
    job = edit(job, "run.p1.fittings.elbow", "3", parts)
    assert layout_of(job, parts).pieces[0].minor_loss_k == pytest.approx(0.5 + 1.0 + 3 * 0.9)
    assert "elbow" not in edit(job, "run.p1.fittings.elbow", "", parts).run[0].fittings


def test_herd_is_count_times_litres(job, parts) -> None:
    job, _ = changes.add_drinkers(edit(job, "need_by", "herd", parts))
    job = edit(edit(job, "herd.h1.count", "70", parts), "herd.h1.each", "9 L", parts)
    assert need_of(job, parts) == pytest.approx((1260.0,) * 12), "a new job has twice the need as headroom"
    assert need_of(edit(job, "want.headroom", "1", parts), parts) == pytest.approx((630.0,) * 12)
    job, _ = changes.remove_drinkers(job, "h1")
    assert need_of(job, parts) == (0.0,) * 12


def test_pieces_come_and_go(job, parts) -> None:
    longer, words = changes.add_piece(job)
    assert [piece.id for piece in longer.run] == ["p1", "p2"]
    assert "added" in words
    assert changes.remove_piece(longer, "p1")[0].run[0].id == "p2"
    with pytest.raises(BadQuantity, match="at least one piece"):
        changes.remove_piece(job, "p1")
    with pytest.raises(NotFound):
        changes.remove_piece(longer, "p7")
    fixed = edit(longer, "run.p2.fixed", "yes", parts)
    hose = parts.hoses["hose-38"]
    bores = [pipe.inner_diameter_m for pipe in layout_of(fixed, parts).line(hose).pipes]
    assert bores == pytest.approx([0.0381, 0.0191])


@pytest.fixture
def kitted(job, parts):
    kit = Kit(parts.pumps["stairwell-8"], Direct(), parts.panels["kite-110"], 1, 1, parts.hoses["hose-19"])
    return kits.adopt(job, kit, Cabling(conductor("mm2:4"), None))[0]


def test_options_are_adopted_chosen_and_removed(kitted, parts) -> None:
    kit, cabling = kit_of(kitted.option, parts), Cabling(conductor("mm2:6"), None)
    two, words = kits.adopt(kitted, kit, cabling)
    assert [option.id for option in two.options] == ["o1", "o2"]
    assert two.chosen == "o2"
    assert "Stairwell 8" in words
    again, _ = kits.adopt(two, kit, Cabling(conductor("mm2:4"), None))
    assert (len(again.options), again.chosen) == (2, "o1")
    left, _ = kits.remove_option(again, "o1")
    assert left.chosen == "o2"
    assert kits.remove_option(left, "o2")[0].chosen is None
    with pytest.raises(NotFound):
        kits.choose_option(left, "o9")
    assert kit_of(option_from(kit, cabling, "o5", "x"), parts) == kit


def test_every_lever_can_be_pulled(kitted) -> None:
    before = assess(kitted)
    assert len(before.levers) >= 4
    for lever in before.levers:
        if lever.refusal is None:
            after = assess(kits.pull(kitted, lever)[0])
            assert after.chosen.worst_litres == pytest.approx(lever.litres, rel=1e-9)
            assert after.chosen.price - before.chosen.price == pytest.approx(lever.price_change, abs=1e-6)


def test_devices_in_the_loop_bound_the_fuse(kitted, parts) -> None:
    with_float, _ = changes.add_device(kitted, "float-5", parts)
    assert assess(with_float).wiring.protection.weakest == "float switch 5 A"
    assert assess(with_float).wiring.protection.rating_a is None
    assert not changes.remove_device(with_float, 0, parts)[0].devices
    with pytest.raises(NotFound):
        changes.remove_device(with_float, 4, parts)


def test_thin_cable_is_named(kitted, parts) -> None:
    thin = edit(kitted, "options.o1.pump_cable", "mm2:0.5", parts)
    run = assess(thin).wiring.runs[0]
    assert not run.within_drop
    assert not run.within_ampacity


@pytest.mark.parametrize(
    ("typed", "key"),
    [
        ("12 awg", "awg:12"),
        ("AWG 2/0", "awg:2/0"),
        ("4 mm2", "mm2:4"),
        ("2,5 mm²", "mm2:2.5"),
        ("10", "mm2:10"),
        ("mm2:1.5", "mm2:1.5"),
    ],
)
def test_cable_sizes_as_people_type_them(kitted, parts, typed: str, key: str) -> None:
    assert edit(kitted, "options.o1.pump_cable", typed, parts).option.pump_cable == key


@pytest.mark.parametrize("typed", ["3.3 mm2", "57 awg", "thick", "", "12 m"])
def test_cable_sizes_that_are_none(kitted, parts, typed: str) -> None:
    with pytest.raises(OutOfRange, match="one of"):
        edit(kitted, "options.o1.pump_cable", typed, parts)


def test_price_is_asked_part_by_part(kitted) -> None:
    chosen = assess(kitted).chosen
    figure = price_figure("price", chosen.setup)
    assert figure.value == pytest.approx(sum(line.value for line in figure.inputs))
    month = month_figure(chosen, 3, 1, 5.0)
    assert month.value * 1000 == pytest.approx(chosen.season.average_litres[3])
    assert month.label == "Average April day"


def test_verdicts_by_grade(job, kitted, parts) -> None:
    assert verdict_of(assess(job)).grade == "open"
    thirsty = edit(kitted, "litres", "40 m3", parts)
    short = verdict_of(assess(thirsty))
    assert short.grade == "short"
    assert "short a day, in 12 months" in short.sentence
    # However little is wanted, a pump straight on its panel stands on the darkest days: without a store it falls short.
    little = edit(kitted, "litres", "100 L", parts)
    assert verdict_of(assess(little)).grade == "short"
    assert "days in 100 run short" in verdict_of(assess(little)).sentence
    assert verdict_of(assess(edit(little, "want.trough", "500 L", parts))).grade == "holds"
    kitted = edit(kitted, "want.trough", "30 m3", parts)
    assert verdict_of(assess(edit(kitted, "lift", "120 m", parts))).grade == "stopped"
    need = float(assess(kitted).chosen.season.average_litres.min()) / 2.0  # the headroom of a new job
    assert verdict_of(assess(edit(kitted, "litres", f"{need / 1.05:.1f} L", parts))).grade == "tight"
    with speaking(Voice("us")):
        assert "gal" in verdict_of(assess(kitted)).sentence
    assert "no need is set" in verdict_of(assess(edit(kitted, "litres", "0", parts))).sentence


def test_an_unknown_part_is_said_not_thrown(kitted) -> None:
    lost = kitted.model_copy(update={"options": [kitted.options[0].model_copy(update={"pump": "gone"})]})
    assessment = assess(lost)
    assert "no pump called “gone”" in str(assessment.problem)
    assert verdict_of(assessment).grade == "stopped"


def test_every_figure_says_how_and_on_whose_word(kitted) -> None:
    assessment = assess(kitted)
    chosen, wiring = assessment.chosen, assessment.wiring
    found = [
        *need_figures(assessment), *lift_figures(chosen),
        *power_figures(assessment, chosen), *run_figures(wiring.runs[0]), *protection_figures(wiring),
    ]  # fmt: skip
    assert len({figure.key for figure in found}) == len(found)
    for figure in found:
        assert figure.label
        assert figure.formula
        assert figure.source
    head = {figure.key: figure.value for figure in found}
    assert head["total-head"] == pytest.approx(head["lift-part"] + head["friction-part"] + head["fittings-part"])


@pytest.mark.parametrize("number", range(5))
def test_demo_jobs_are_whole(number: int, parts) -> None:
    job = demo_jobs()[number]
    check_all(job, parts)
    assert verdict_of(assess(job)).sentence
    assert not set("$€") & set(job.model_dump_json())


def test_demo_shows_every_grade() -> None:
    assert {verdict_of(assess(job)).grade for job in demo_jobs()} >= {"holds", "short", "stopped", "open"}


def test_reading_fields(job, parts) -> None:
    assert value_at(job, "run.p1.fittings.elbow") == 0
    assert read("", spec("months.0", parts), "metric") is None
    assert spec("months.11", parts).label == MONTHS[11]
    assert parse(job.lift.typed, "head") == job.lift.si
