"""How well a lift is known: by how it was found, when it is good enough to choose by; a well's bottom known by two ways."""

import pytest
from hill import new_job

from squall.demo import demo_jobs
from squall.job.document.fields import edit
from squall.job.told.lift import bottom_findings, level_findings
from squall.job.worked.assess import assess
from squall.job.worked.doubts import doubt_in
from squall.job.worked.heights import lift_off_m
from squall.job.worked.run import bottom_m, room_of

DONKEYS = 3


def typed(job, parts, **fields):
    for path, text in fields.items():
        job = edit(job, path.replace("__", "."), text, parts)
    return job


@pytest.mark.parametrize(("how", "off"), [("eye", 2.0), ("map", 5.0), ("level", 0.16), ("tape", 0.08)])
def test_a_lift_without_its_doubt_gets_one_by_how_it_was_found(parts, how, off) -> None:
    job = typed(new_job("x"), parts, lift="8 m", lift_how=how)
    assert job.doubt.lift is None
    assert lift_off_m(job) == pytest.approx(off)
    assert assess(job).heights.off_m == pytest.approx(off)
    assert lift_off_m(typed(job, parts, doubt__lift="0.4 m")) == pytest.approx(0.4)


def test_the_range_of_water_counts_it(parts) -> None:
    goats = typed(demo_jobs()[0], parts, doubt__lift="")
    by_eye, by_tape = (doubt_in(typed(goats, parts, lift_how=how)).litres for how in ("eye", "tape"))
    assert by_eye.high - by_eye.low > 1.2 * (by_tape.high - by_tape.low)
    assert by_eye.to_measure.spread.key == "lift"


def test_a_level_says_when_it_is_good_enough_to_choose_by(parts) -> None:
    goats = demo_jobs()[0]
    assert [f.grade for f in level_findings(assess(goats))] == ["good"]
    guess = level_findings(assess(typed(goats, parts, doubt__lift="", lift_how="eye")))[0]
    assert guess.grade == "care"
    assert "before a pump is bought" in str(guess.text)
    donkeys = assess(demo_jobs()[DONKEYS])
    assert donkeys.heights.level is not None
    assert len(level_findings(donkeys)) == 1
    assert level_findings(assess(demo_jobs()[2])) == []  # a closed circuit lifts nothing


def test_of_two_bottoms_both_are_kept_and_the_shallower_rules(parts) -> None:
    donkeys = demo_jobs()[DONKEYS]
    alone = assess(donkeys)
    assert bottom_findings(alone) == []
    felt = donkeys.well.total_depth.si
    told = typed(donkeys, parts, well__told_depth=f"{felt + 4} m")
    assert (told.well.total_depth.si, told.well.told_depth.si) == (felt, felt + 4)
    assert bottom_m(told) == felt
    assert "filled up" in str(bottom_findings(assess(told))[0].text)
    shallow = typed(donkeys, parts, well__told_depth=f"{felt - 2} m")
    assert bottom_m(shallow) == felt - 2
    assert room_of(assess(shallow)).deepest_m == pytest.approx(room_of(alone).deepest_m - 2.0)
    assert bottom_findings(assess(typed(donkeys, parts, well__told_depth=f"{felt + 0.2} m")))[0].grade == "good"
    only_told = typed(donkeys, parts, well__total_depth="", well__told_depth="30 m")
    assert bottom_m(only_told) == 30.0


def test_water_below_the_bottom_is_a_wrong_reading(parts) -> None:
    job = typed(demo_jobs()[DONKEYS], parts, well__told_depth="11 m")
    assert "below the bottom" in str(bottom_findings(assess(job))[0].text)
