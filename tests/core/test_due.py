"""What is due and when: by days, by months, by hours; done, put off, coming back. Intervals: common practice, no source."""

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from squall.core.upkeep.due import Last, Place, Task, due_of, due_on, tasks_of

BEGUN = date(2026, 3, 10)
SCREEN = Task("screen", 60, 15)


def test_a_job_counts_from_when_it_was_done_or_from_the_first_day() -> None:
    assert due_on(SCREEN, Last(), BEGUN) == BEGUN + timedelta(days=60)
    assert due_on(SCREEN, Last(date(2026, 8, 1)), BEGUN) == date(2026, 9, 30)


def test_what_is_put_off_comes_back_and_never_sooner_than_due() -> None:
    assert due_on(SCREEN, Last(None, date(2026, 7, 1), "mud"), BEGUN) == date(2026, 7, 1)
    assert due_on(SCREEN, Last(None, date(2026, 4, 1), "mud"), BEGUN) == BEGUN + timedelta(days=60)


def test_a_season_comes_once_a_year() -> None:
    tilt = Task("tilt", 0, 20, (4, 10))
    assert due_on(tilt, Last(), BEGUN) == date(2026, 4, 1)
    assert due_on(tilt, Last(date(2026, 4, 3)), BEGUN) == date(2026, 10, 1)
    assert due_on(tilt, Last(date(2026, 3, 25)), BEGUN) == date(2026, 10, 1), "a week early is done"
    assert due_on(tilt, Last(date(2026, 10, 2)), BEGUN) == date(2027, 4, 1)


@pytest.mark.parametrize(
    ("frost", "before", "after"),
    [((12, 1, 2), 11, 3), ((6, 7, 8), 5, 9), ((1,), 12, 2)],
)
def test_frost_has_its_jobs_a_month_before_and_after(frost, before, after) -> None:
    """Of both halves of the world, and where the winter goes over the year's end."""
    tasks = {task.code: task for task in tasks_of(Place(frost=tuple(sorted(frost))))}
    assert tasks["before-frost"].months == (before,)
    assert tasks["after-frost"].months == (after,)


def test_a_kit_asks_only_for_what_it_has() -> None:
    plain = {task.code for task in tasks_of(Place())}
    assert plain == {"look", "screen", "box", "plugs", "mice"}
    whole = Place(True, "lead-acid", True, True, True, (4, 10), (6, 7), 800.0, 1600.0)
    assert {task.code for task in tasks_of(whole)} > plain | {
        "battery",
        "rope",
        "filters",
        "leaves",
        "tilt",
        "pump-life",
    }
    assert not {"before-frost", "after-frost"} & {task.code for task in tasks_of(Place(frost=tuple(range(1, 13))))}
    life = next(task for task in tasks_of(whole) if task.code == "pump-life")
    assert life.every_days == pytest.approx(0.9 * 0.5 * 365.25, abs=1.0), "brushes of 800 h at 1600 h a year"


@given(
    done=st.dates(date(2020, 1, 1), date(2030, 1, 1)),
    months=st.lists(st.integers(1, 12), min_size=1, max_size=3, unique=True),
)
def test_a_season_is_always_ahead_of_what_was_done(done, months) -> None:
    on = due_on(Task("tilt", 0, 20, tuple(months)), Last(done), BEGUN)
    assert done < on <= done + timedelta(days=400)
    assert on.month in months


def test_the_soonest_stands_first() -> None:
    due = due_of(tasks_of(Place()), {"look": Last(date(2027, 1, 1))}, BEGUN)
    assert [one.on for one in due] == sorted(one.on for one in due)
    assert due[0].task.code == "screen"
    assert due[0].late(date(2026, 12, 1))
    assert not due[0].late(due[0].on), "on its day it isn't late"
