"""What a kit's visits mean: read back from a yard that wears, not believed where they can't be, and nothing foretold from too few."""

import random
from datetime import date, timedelta

import pytest

from squall.core.errors import BadEvidence
from squall.core.prove.expect import typed_light
from squall.demo import demo_jobs
from squall.job.document.base import quantity
from squall.job.document.job import ReadingValue, Visit
from squall.job.kept.record import Record
from squall.job.kept.upkeep import jobs_due, kept_of, place_of, put_off_day
from squall.job.told.prove import expected_now
from squall.job.worked.assess import assess

GOATS = demo_jobs()[0]
A = assess(GOATS)
TODAY = date(2026, 11, 27)


def visit(
    number: int, day: date, share: float = 1.0, done: tuple[str, ...] = (), amps: float = 1.0, option: str = ""
) -> Visit:
    """Readings of the goats' kit in 800 W/m2, with so much of its flow and of its amps, a meter's error in each."""
    throw = random.Random(number)
    factor = {"outlet-flow": share, "pump-amps": amps}
    values = [
        ReadingValue(point=one.point, measured=quantity("1", one.value * factor.get(one.point, 1.0) * throw.gauss(1.0, 0.01)),
                     expected=one.value, low=one.low, high=one.high, verdict=None)
        for one in expected_now(A, A.chosen, typed_light(800.0, 20.0))
        if one.value is not None
    ]  # fmt: skip
    return Visit(
        id=f"v{number}", at=f"{day.isoformat()}T12:00Z", option=option or A.chosen.option.name, irradiance_w_m2=800.0, air_c=20.0,
        told_by="typed-light", values=values, done=list(done),
    )  # fmt: skip


def years(shares: list[float], **more) -> list[Visit]:
    """A visit every two months up to today, newest first."""
    found = [
        visit(n, TODAY - timedelta(days=60 * (len(shares) - 1 - n)), share, **more) for n, share in enumerate(shares)
    ]
    return found[::-1]


def kept(docs: list[Visit], begun: date | None = None):
    return kept_of(A, A.chosen, Record(docs=docs, begun=begun), TODAY)


def test_a_sound_kit_raises_no_alarm_and_less_and_less_does() -> None:
    sound = kept(years([1.0] * 9))
    assert sound.worn.alarms == ()
    assert sound.worn.flow_m3_s == pytest.approx(sound.worn.label_flow_m3_s, rel=0.06)
    worn = kept(years([1.0, 0.96, 0.92, 0.88, 0.84, 0.8, 0.75, 0.7, 0.65]))
    assert worn.worn.flow_m3_s == pytest.approx(0.65 * worn.worn.label_flow_m3_s, rel=0.15), (
        "read in 800 W/m2, told for 700: less is left there"
    )
    assert worn.less_beyond_doubt
    assert not sound.less_beyond_doubt
    assert worn.short_from is not None
    assert sound.short_from is None or sound.short_from > worn.short_from
    assert worn.remedies
    assert worn.remedies[0].flow_m3_s > 1.2 * worn.worn.flow_m3_s


def test_a_mended_hose_sets_the_flow_back() -> None:
    falls = [1.0, 0.9, 0.8, 0.7, 0.6]
    after = [*falls, 1.0, 1.0]
    docs = years(after)[::-1]
    docs[4] = docs[4].model_copy(update={"done": ["hose-mended"]})
    told = kept(docs[::-1])
    assert told.worn.flow_m3_s == pytest.approx(told.worn.label_flow_m3_s, rel=0.08)
    assert told.worn.alarms == ()


def test_what_cant_be_believed_is_kept_and_said_and_counts_for_nothing() -> None:
    sound = years([1.0] * 5)
    far = visit(90, TODAY - timedelta(days=3))
    values = [
        value.model_copy(
            update={"measured": quantity("1", value.measured.si * (1000.0 if value.point == "pump-volts" else 1.0))}
        )
        for value in far.values
    ]
    thousand = far.model_copy(update={"values": values})
    others = [
        visit(91, TODAY + timedelta(days=9), 0.2), visit(92, TODAY - timedelta(days=2000), 0.2), visit(93, TODAY - timedelta(days=1), 0.2, option="another"),
    ]  # fmt: skip
    told = kept([*others, thousand, *sound], begun=TODAY - timedelta(days=400))
    doubts = {read.doc.id: str(read.doubt) for read in told.reads if read.doubt}
    assert set(doubts) == {"v90", "v91", "v92", "v93"}
    assert "another range" in doubts["v90"]
    assert told.believed == 6, "the odd reading alone is left out, its visit counts"
    assert told.worn.alarms == ()
    assert told.worn.flow_m3_s == pytest.approx(told.worn.label_flow_m3_s, rel=0.06)


def test_no_visit_says_what_such_kits_do_and_claims_nothing() -> None:
    none = kept([])
    assert none.believed == 0
    assert none.remedies == ()
    assert none.worn.alarms == ()


def test_an_odd_reading_alone_raises_no_alarm() -> None:
    assert kept([visit(1, TODAY, 0.5), *years([1.0] * 6)[1:]]).worn.alarms == ()


def test_many_visits_are_read_by_their_last_ones() -> None:
    docs = [visit(n, TODAY - timedelta(days=n)) for n in range(120)]
    told = kept(docs)
    assert told.believed == 40
    assert len(told.reads) == 120


def test_what_is_due_hangs_on_kit_and_place() -> None:
    place = place_of(GOATS, A, A.chosen)
    assert place.hours_a_year == pytest.approx(A.chosen.season.hours_a_year)
    assert place.chemistry == ""
    banked = GOATS.model_copy(update={"chosen": "o1"})
    with_bank = assess(banked)
    codes = {one.task.code for one in jobs_due(banked, with_bank, with_bank.chosen, {}, TODAY)}
    assert "battery" in codes
    for days in (0, 367):
        with pytest.raises(BadEvidence):
            put_off_day(TODAY, days)
    assert put_off_day(TODAY, 14) == date(2026, 12, 11)
