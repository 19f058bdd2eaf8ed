"""How a job begins: three questions, a kind of job, one more of one that there is."""

import pytest

from squall.catalogue import catalogue
from squall.core.errors import NotFound, SquallError
from squall.demo import demo_jobs
from squall.formats.job_json import export, read
from squall.job.document.fields import edit
from squall.job.document.job import quantity
from squall.job.document.unsaid import taken_of, unsaid_of
from squall.job.edit.beginnings import KINDS, begun, one_more
from squall.job.edit.changes import add_drinkers
from squall.job.edit.kits import copy_option, enter_kit, remove_option
from squall.job.edit.places import set_place
from squall.job.edit.rows import add_typed_row
from squall.job.told.verdict import gaps_in, verdict_of
from squall.job.worked.assess import assess
from squall.words import Voice, speaking


@pytest.mark.parametrize("kind", KINDS)
@pytest.mark.parametrize("system", ["metric", "us"])
def test_every_kind_of_job_is_whole_and_can_be_placed(kind, system) -> None:
    job = begun("new", kind, {}, catalogue(), system)
    assert assess(job).chosen is None
    placed = job.model_copy(update={"latitude": quantity("30 S", -30.0), "longitude": quantity("24 E", 24.0)})
    assert assess(placed).problem is None
    again = read(export(placed).encode(), catalogue())
    assert again.run == placed.run


def test_answers_are_typed_as_people_type_them() -> None:
    job = begun("new", "well-with-tank", {"water": "spring", "lift": "31 ft", "litres": "400 gal"}, catalogue(), "us")
    assert job.water == "spring"
    assert job.lift.si == pytest.approx(31 * 0.3048)
    assert job.litres.si == pytest.approx(400 * 3.785411784e-3)
    assert (
        begun("new", "", {"lift": " "}, catalogue(), "metric").lift == begun("new", "", {}, catalogue(), "metric").lift
    )
    for wrong in ({"lift": "far"}, {"water": "sea"}, {"litres": "-5"}):
        with pytest.raises(SquallError):
            begun("new", "", wrong, catalogue(), "metric")
    with pytest.raises(NotFound):
        begun("new", "cloud", {}, catalogue(), "metric")


def test_one_more_of_a_job_leaves_its_log_behind() -> None:
    first = demo_jobs()[0]
    more = one_more(first)
    assert more.name != first.name
    assert more.options == first.options
    assert more.visits == []


def test_a_job_is_begun_and_copied_from_the_list(client) -> None:
    wrong = client.change("/jobs", {"name": "Creek", "lift": "far", "kind": "portable"}, htmx=False)
    assert wrong.status_code == 422
    assert 'value="Creek"' in wrong.text
    assert 'value="far"' in wrong.text
    made = client.change("/jobs", {"name": "Creek", "lift": "31 ft", "kind": "portable"}, htmx=False)
    assert made.status_code == 303
    assert "9.45 m" in client.get(made.headers["location"]).text.replace("\u00a0", " ")
    copied = client.change("/jobs/1/copy", {}, htmx=False)
    assert copied.status_code == 303
    assert "copy" in client.get("/").text


def test_nothing_goes_by_a_figure_that_nobody_said(parts) -> None:
    """A new job draws itself; kits, verdict and fields wait for lift, length and litres, and a typed one counts even if it is the same."""
    job = begun("x", "", {"lift": "", "litres": "300 L"}, parts, "metric")
    assert unsaid_of(job) == ("water", "lift", "run.p1.length")
    job = edit(job, "water", "spring", parts)
    assert unsaid_of(job) == ("lift", "run.p1.length"), "said, though it is what stood there"
    assert unsaid_of(begun("x", "well-with-tank", {}, parts, "metric"))[0] == "lift", "a kind brings its water"
    placed = set_place(job, -30.0, 24.0)[0]
    a = assess(placed)
    assert a.chosen is None
    said = verdict_of(a)
    assert said.grade == "open"
    assert "Length of the hose" in said.sentence
    assert "lift" in said.sentence.lower()
    same = edit(placed, "lift", "6 m", parts)
    assert unsaid_of(same) == ("run.p1.length",)
    assert unsaid_of(edit(same, "run.p1.length", "20 m", parts)) == ()
    assert unsaid_of(edit(placed, "outlet", "loop", parts)) == ("run.p1.length",)
    read, _ = add_typed_row(placed, "level.readings", "tape", {"value": "5 m"}, parts, "metric")
    by = read.model_copy(update={"level": read.level.model_copy(update={"by": "readings"})})
    assert unsaid_of(by) == ("run.p1.length",)
    assert job.want.headroom.si == 1.0
    herd, _ = add_drinkers(job)
    assert (herd.herd[0].count.si, herd.herd[0].each.si) == (0.0, 0.0)


def test_an_older_file_has_nothing_unsaid(parts) -> None:
    data = begun("x", "", {}, parts, "metric").model_dump(mode="json")
    del data["unsaid"]
    assert unsaid_of(type(begun("x", "", {}, parts, "metric")).model_validate(data)) == ()


def test_a_kind_poses_no_figure_as_a_fact(parts) -> None:
    """What a tank holds and the pressure that drippers want are asked; none of a kind's figures counts before."""
    place = {"latitude": quantity("30 S", -30.0), "longitude": quantity("24 E", 24.0)}
    all_said = {"water": "well", "lift": "6 m", "litres": "300 L"}
    well = begun("x", "well-with-tank", all_said, parts, "metric").model_copy(update=place)
    well = edit(well, "run.p1.length", "20 m", parts)
    assert unsaid_of(well) == ("want.trough",)
    assert "Trough and tank hold" in verdict_of(assess(well)).sentence
    assert unsaid_of(edit(well, "outlet", "open", parts)) == (), "without a tank nothing hangs on it"
    said = edit(well, "want.trough", "0 L", parts)
    assert unsaid_of(said) == ()
    assert said.want.trough.si == 0.0
    drip = begun("x", "drip-from-barrels", {}, parts, "metric")
    assert "end_pressure" in unsaid_of(drip)
    assert "end_pressure" not in unsaid_of(edit(drip, "end_pressure", "5 m", parts))


def test_what_is_taken_is_told_until_it_is_said(parts) -> None:
    """A kit is judged with a cable's length that nobody gave, but the verdict says so, and the gap stays."""
    job = begun("x", "", {"water": "spring", "lift": "6 m", "litres": "300 L"}, parts, "metric")
    job = set_place(edit(job, "run.p1.length", "20 m", parts), -30.0, 24.0)[0]
    kit = {"pump": "stairwell-8", "panel": "kite-110", "source": "battery", "in_series": "1", "in_parallel": "2"}
    job, _ = enter_kit(job, kit, parts)
    o = f"options.{job.chosen}"
    kept = {"pump_depth", "array_cable", "pump_cable", "bank.lead"}
    stand_in = {f"{o}.controller", f"{o}.battery", f"{o}.array_cable", f"{o}.pump_cable"}
    assert set(taken_of(job)) == kept | stand_in
    said = verdict_of(assess(job)).sentence
    assert "Taken, because nobody has said it" in said
    assert parts.batteries[job.option.battery].name in said
    assert "taken" in gaps_in(assess(job), 0)
    with speaking(Voice("us")):
        us = verdict_of(assess(job)).sentence.split("Taken")[1].replace("\u00a0", " ")
    assert "32.8 ft" in us, "each in the reader's own units"
    assert " m;" not in us
    copied, _ = copy_option(job, job.chosen)
    assert f"options.{copied.chosen}.battery" in taken_of(copied), "a copy knows no more than what it was copied from"
    for path, typed in {
        "pump_depth": "0.5 m", "bank.lead": "2 m", "array_cable": "3 m", "pump_cable": "10 m", f"{o}.controller": job.option.controller,
        f"{o}.battery": job.option.battery, f"{o}.array_cable": "2.5 mm2", f"{o}.pump_cable": "2.5 mm2",
    }.items():  # fmt: skip
        job = edit(job, path, typed, parts)
    assert taken_of(job) == (), "said, though each is what stood there"
    assert "Taken" not in verdict_of(assess(job)).sentence
    direct = edit(edit(job, f"{o}.source", "controller", parts), f"{o}.source", "panel", parts)
    assert taken_of(direct) == ()
    gone, _ = remove_option(enter_kit(job, kit, parts)[0], "o2")
    assert not any(path.startswith("options.o2") for path in gone.unsaid)
