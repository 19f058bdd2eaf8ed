"""Fit: what is cut, what hangs, and the steps of each kind of place."""

from dataclasses import replace

import pytest

from squall.catalogue import catalogue
from squall.demo import demo_jobs
from squall.drawing.small.steps import step_picture
from squall.formats.build_lists import parts_csv
from squall.job.document.fields import edit
from squall.job.document.job import Job
from squall.job.edit.beginnings import begun
from squall.job.edit.rows import add_typed_row
from squall.job.fitted.cutlist import cut_list, hanging_m, lowering_of
from squall.job.fitted.parts_list import parts_list
from squall.job.fitted.steps import fit_steps
from squall.job.worked.assess import assess
from squall.job.worked.kit import KitAssessment
from squall.words.units import text

GOATS, TERRACES, DUCKS, DONKEYS, _ = demo_jobs()


def chosen_of(job: Job) -> KitAssessment:
    found = assess(job).chosen
    assert found is not None
    return found


def typed(job: Job, path: str, value: str) -> Job:
    return edit(job, path, value, catalogue(), "metric")


def test_rope_is_exact_and_hose_and_cable_are_longer() -> None:
    a, chosen = assess(DONKEYS), chosen_of(DONKEYS)
    lines = {line.key.split("-")[0]: line for line in cut_list(DONKEYS, a, chosen)}
    assert lines["rope"].total_m == pytest.approx(hanging_m(a))
    surveyed = sum(piece.length.si for piece in DONKEYS.run)
    assert lines["hose"].total_m == pytest.approx(surveyed + 0.5)
    more = typed(DONKEYS, "fit.slack", "1.5 m")
    longer = {line.key.split("-")[0]: line for line in cut_list(more, a, chosen)}
    assert longer["hose"].total_m == pytest.approx(surveyed + 1.5)
    assert longer["rope"].total_m == lines["rope"].total_m


def test_rolls_as_sold_are_planned_and_a_long_hose_is_joined() -> None:
    job = typed(GOATS, "fit.hose_roll", "25 m")
    hose = next(line for line in cut_list(job, assess(job), chosen_of(job)) if line.key.startswith("hose"))
    assert hose.plan is not None
    assert hose.plan.bought_m == pytest.approx(75.0)
    assert hose.plan.joints == 2
    assert (
        next(line for line in cut_list(job, assess(job), chosen_of(job)) if line.key.startswith("cable")).plan is None
    )


def test_a_rope_too_weak_is_seen_and_clamps_help_it() -> None:
    a, chosen = assess(DONKEYS), chosen_of(DONKEYS)
    plain = lowering_of(DONKEYS, a, chosen)
    assert plain is not None
    assert plain.rope_holds is None
    weak = typed(DONKEYS, "fit.rope_breaks", f"{0.8 * plain.needs_kg:.0f} kg")
    knot = lowering_of(weak, a, chosen)
    clamps = lowering_of(typed(weak, "fit.rope_end", "clamps"), a, chosen)
    assert knot is not None
    assert clamps is not None
    assert knot.rope_holds is False
    assert clamps.rope_holds is True


@pytest.mark.parametrize(("job", "has", "hasnt"), [
    (GOATS, "float", "lower"), (DONKEYS, "lower", "float"), (DUCKS, "float", "lower"),
])  # fmt: skip
def test_steps_follow_the_place(job: Job, has: str, hasnt: str) -> None:
    a, chosen = assess(job), chosen_of(job)
    steps = fit_steps(job, a, chosen, None)
    keys = [step.key for step in steps]
    assert len(keys) == len(set(keys))
    assert has in keys
    assert hasnt not in keys
    assert keys.index("bucket") < keys.index(has), "what fails is mended before it goes down"
    assert keys.index("join") < keys.index("on")
    assert next(step for step in steps if step.key == "bucket").hold
    assert all(str(step.check) and str(step.why) for step in steps)


def test_a_pump_on_the_bank_hangs_on_no_rope_and_stands_in_no_bucket() -> None:
    option = GOATS.option.model_copy(update={"pump": "bellows-11"})
    job = GOATS.model_copy(update={"options": [option], "chosen": option.id})
    a, chosen = assess(job), chosen_of(job)
    assert chosen.kit.pump.placement == "surface"
    steps = {step.key: step for step in fit_steps(job, a, chosen, None)}
    assert "lay-hose" in steps
    assert "lay-out" not in steps
    assert "pump beside a full bucket" in str(steps["bucket"].does)
    for key in ("lay-hose", "bucket", "bank", "end", "splice"):
        assert "rope" not in f"{steps[key].does} {steps[key].why} {steps[key].check}".lower(), key


def test_fitting_changes_no_result() -> None:
    before = assess(GOATS)
    assert assess(typed(GOATS, "fit.slack", "2 m")).chosen is before.chosen, "nothing is worked out anew"


def test_the_parts_list_has_every_part_and_no_price_of_ours() -> None:
    a, chosen = assess(GOATS), chosen_of(GOATS)
    lines = {line.key: line for line in parts_list(GOATS, a, chosen, {"kite-50": 1})}
    panel = lines[chosen.kit.panel.id]
    assert panel.count == 2
    assert panel.van == 1
    assert panel.missing == 1
    assert lines[chosen.kit.pump.id].price == chosen.kit.pump.price
    assert lines["fuse"].count == 2, "its spare lies in the box"
    assert lines["clamps"].price is None
    assert lines["y-leads"].count == 2
    stem = 1.25 * 2 * chosen.kit.panel.module.isc_a
    assert a.wiring.stem_a == pytest.approx(stem), "its last stem carries both strings"
    assert f"made for {text(stem, 'amps')} or more" in str(lines["y-leads"].name)
    assert any(line.metres and line.key.startswith("hose") for line in lines.values())
    priced = sum(
        line.price for line in lines.values() if line.price is not None and not line.key.startswith(("hose", "cable"))
    )
    assert priced <= chosen.price


def test_what_is_bought_in_rolls_is_listed_in_rolls() -> None:
    job = typed(GOATS, "fit.hose_roll", "25 m")
    lines = parts_list(job, assess(job), chosen_of(job), {})
    assert next(line for line in lines if line.key.startswith("hose")).count == pytest.approx(75.0)
    text = parts_csv(lines)
    assert len(text.strip().splitlines()) == len(lines) + 1


def test_ends_in_the_van_are_cut_from_first_and_bought_by_nobody() -> None:
    a, chosen = assess(GOATS), chosen_of(GOATS)
    plain = next(line for line in cut_list(GOATS, a, chosen) if line.key.startswith("cable"))
    assert plain.plan is None, "sold by the metre, nothing in the van"
    ends = {plain.key: [plain.total_m + 1.0, 3.0], "hose-none": [99.0]}
    line = next(one for one in cut_list(GOATS, a, chosen, ends) if one.key == plain.key)
    assert [(roll.length_m, roll.own) for roll in line.plan.rolls] == [(plain.total_m + 1.0, True)]
    listed = next(one for one in parts_list(GOATS, a, chosen, {}, ends) if one.key == plain.key)
    assert listed.count == 0.0
    assert listed.price == 0.0
    short = next(one for one in cut_list(GOATS, a, chosen, {plain.key: [1.0]}) if one.key == plain.key)
    assert not any(roll.own for roll in short.plan.rolls)
    assert short.plan.bought_m == pytest.approx(plain.total_m)


def test_an_end_in_the_van_takes_no_list_from_a_job_of_many_pieces() -> None:
    first = GOATS.run[0]
    job = GOATS.model_copy(update={"run": [first.model_copy(update={"id": f"p{n}"}) for n in range(1, 31)]})
    a, chosen = assess(job), chosen_of(job)
    plain = cut_list(job, a, chosen)
    hose = next(line.key for line in plain if line.key.startswith("hose"))
    assert cut_list(job, a, chosen, {hose: [5.0]}) == plain


def test_a_rope_is_of_one_piece() -> None:
    job = typed(DONKEYS, "fit.rope_roll", "10 m")
    rope = next(line for line in cut_list(job, assess(job), chosen_of(job)) if line.key == "rope")
    assert rope.total_m > 10.0
    assert rope.too_short
    fits = typed(DONKEYS, "fit.rope_roll", "30 m")
    assert not next(line for line in cut_list(fits, assess(fits), chosen_of(fits)) if line.key == "rope").too_short


def test_a_probe_hangs_above_its_pump() -> None:
    held = TERRACES.model_copy(update={"chosen": "o2"})
    a, chosen = assess(held), chosen_of(held)
    asks = replace(chosen.kit.controller, inputs="float, probe")
    kit = replace(chosen.kit, supply=replace(chosen.kit.supply, controller=asks))
    probed = replace(chosen, kit=kit)
    first = fit_steps(held, a, probed, None)[0]
    assert "probe a hand above the pump" in str(first.does)
    assert "probe" not in str(fit_steps(held, a, chosen, None)[0].does)


def test_hose_to_every_place_is_cut_and_bought() -> None:
    """The cut list had the run alone, while the price counted the other places' hose."""
    row = {"name": "second trough", "lift": "8 m", "length": "33 m", "share": "30 %"}
    for served, more in (("turn", 33.0), ("together", 33.0), ("carried", 0.0)):
        job = typed(add_typed_row(GOATS, "outlets", "", row, catalogue(), "metric")[0], "served", served)
        a, chosen = assess(job), chosen_of(job)
        hoses = [line for line in cut_list(job, a, chosen) if line.key.startswith("hose")]
        alone = sum(piece.length.si for piece in job.run) + job.fit.slack.si
        assert sum(line.total_m for line in hoses) == pytest.approx(alone + more)
        if chosen.kit.hose is not None:
            brought = chosen.layout.hose_m + job.fit.slack.si
            assert sum(line.total_m for line in hoses if line.key == f"hose-{chosen.kit.hose.id}") == pytest.approx(
                brought
            )


def test_a_fuse_has_the_shelfs_price_where_it_parts_the_volts() -> None:
    a, chosen = assess(GOATS), chosen_of(GOATS)
    fuse = next(line for line in parts_list(GOATS, a, chosen, {}) if line.key == "fuse")
    at = next(
        p for p in catalogue().protectors.values() if p.kind == "fuse" and p.rating_a == a.wiring.protection.rating_a
    )
    assert fuse.price == pytest.approx(2 * at.price)
    weak = {key: replace(p, rating_v=12.0) for key, p in a.parts.protectors.items()}
    parts = replace(a.parts, protectors=weak)
    listed = parts_list(GOATS, replace(a, parts=parts), chosen, {})
    assert next(line for line in listed if line.key == "fuse").price is None, "made for fewer volts than stand there"


def test_fittings_and_a_controllers_float_and_probe_are_listed() -> None:
    a, chosen = assess(GOATS), chosen_of(GOATS)
    keys = [line.key for line in parts_list(GOATS, a, chosen, {})]
    bought = {key for piece in GOATS.run for key in piece.fittings if a.parts.fittings[key].price > 0.0} - {"adapter"}
    assert bought
    assert bought <= set(keys)
    assert "exit" not in keys
    assert "float-input" not in keys
    held = TERRACES.model_copy(update={"chosen": "o2"})
    asked = [line.key for line in parts_list(held, assess(held), chosen_of(held), {})]
    assert [key for key in asked if key.endswith("-input")] == [
        f"{one}-input" for one in chosen_of(held).kit.controller.asks
    ]


def test_the_chargers_lead_is_cut_and_bought_too() -> None:
    job = GOATS.model_copy(update={"chosen": "o1"})
    a, chosen = assess(job), chosen_of(job)
    assert chosen.kit.battery is not None
    cut = [(str(use), metres) for line in cut_list(job, a, chosen) for use, metres in line.pieces]
    assert ("charger to battery", pytest.approx(job.bank.lead.si)) in cut
    bought = sum(line.count for line in parts_list(job, a, chosen, {}) if line.key.startswith("cable"))
    assert bought == pytest.approx(
        sum(line.total_m for line in cut_list(job, a, chosen) if line.key.startswith("cable"))
    )


def test_a_box_without_a_word_of_its_cable_is_fed_by_the_pumps() -> None:
    """An imported kit said nothing: the circuit drew a cable that neither litres, price nor cuts knew."""
    job = GOATS.model_copy(update={"chosen": "o1"})
    bare = [row.model_copy(update={"array_cable": None}) if row.id == "o1" else row for row in job.options]
    same = [row.model_copy(update={"array_cable": row.pump_cable}) if row.id == "o1" else row for row in job.options]
    found, wanted = (assess(job.model_copy(update={"options": rows})) for rows in (bare, same))
    assert found.chosen is not None
    assert wanted.chosen is not None
    assert found.chosen.season.flow_m3_s == pytest.approx(wanted.chosen.season.flow_m3_s)
    assert found.chosen.price == wanted.chosen.price
    assert cut_list(job, found, found.chosen) == cut_list(job, wanted, wanted.chosen)


@pytest.mark.parametrize(
    ("kind", "has", "lacks"),
    [
        ("well-with-tank", {"eye", "lower", "tank"}, {"loop", "barrels", "pack", "float"}),
        ("bilge-in-pond", {"float"}, {"tank", "loop", "barrels", "pack", "eye"}),
        ("portable", {"float", "pack"}, {"eye", "barrels", "loop"}),
        ("channel", {"loop"}, {"tank", "barrels", "pack"}),
    ],
)
def test_each_kind_of_job_has_the_steps_of_its_place(kind: str, has: set[str], lacks: set[str]) -> None:
    job = DONKEYS.model_copy(
        update={
            name: getattr(begun("x", kind, {}, catalogue(), "metric"), name) for name in ("water", "outlet", "outdoors", "roof")
        }
    )  # fmt: skip
    a, chosen = assess(DONKEYS), chosen_of(DONKEYS)
    steps = {step.key: step for step in fit_steps(job, a, chosen, None)}
    assert has <= set(steps), kind
    assert not lacks & set(steps), kind
    assert all(str(step_picture(step.drawn)) for step in steps.values())
    if kind == "portable":
        assert list(steps)[-1] == "pack"


def test_a_full_barrels_weight_and_the_floats_heights_are_the_jobs() -> None:
    a, chosen = assess(DONKEYS), chosen_of(DONKEYS)
    job = typed(typed(DONKEYS, "roof.used", "yes"), "roof.barrel", "200 L")
    steps = {step.key: step for step in fit_steps(job, a, chosen, None)}
    assert text(200.0, "mass") in str(steps["barrels"].bites)
    tank = {step.key: step for step in fit_steps(typed(job, "store.depth", "1.3 m"), a, chosen, None)}["tank"]
    assert f"stops at {text(1.3, 'length')}" in str(tank.does)
    bare = {step.key: step for step in fit_steps(typed(job, "store.float_switch", "no"), a, chosen, None)}["tank"]
    assert "float" not in f"{bare.does}{bare.check}".lower()
