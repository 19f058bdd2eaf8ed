"""The coming ninety days against the ten made years they are taken from: windows over the year's end, wear, runs, frost."""

from datetime import date, timedelta

import numpy as np
import pytest

from squall.demo import demo_jobs
from squall.job.document.fields import edit
from squall.job.kept.ahead import AHEAD_DAYS, ahead_of
from squall.job.worked.assess import assess

A = assess(demo_jobs()[0])


def short_of(parts):
    """The goats with a need that runs short now and then, and no trough to speak of."""
    job = edit(edit(demo_jobs()[0], "litres", "1500 L", parts), "want.trough", "0 L", parts)
    return assess(edit(job, "need_by", "litres", parts))


@pytest.mark.parametrize("today", [date(2026, 2, 1), date(2026, 6, 15), date(2026, 11, 27), date(2028, 12, 31)])
def test_the_window_is_that_of_each_made_year(parts, today: date) -> None:
    a = short_of(parts)
    found, ahead = a.chosen.outlook, ahead_of(a, a.chosen, today)
    first = min(today.timetuple().tm_yday, 365) - 1
    twice = np.concatenate([found.is_short, found.is_short])
    counts = [int(twice[y * 365 + first : y * 365 + first + AHEAD_DAYS].sum()) for y in range(10)]
    assert (ahead.short_days.best, ahead.short_days.worst) == (min(counts), max(counts))
    assert ahead.short_days.middle == pytest.approx(float(np.median(counts)))
    assert ahead.until == today + timedelta(days=89)
    assert ahead.longest_d <= max(counts)
    assert ahead.short_l.best <= ahead.short_l.middle <= ahead.short_l.worst
    assert ahead.litres_a_day.worst <= ahead.litres_a_day.middle <= ahead.litres_a_day.best


def test_a_worn_kit_brings_less_and_never_more(parts) -> None:
    a = short_of(parts)
    whole, worn, spent = (ahead_of(a, a.chosen, date(2026, 6, 1), left) for left in (1.0, 0.7, 0.0))
    assert worn.short_days.middle >= whole.short_days.middle
    assert worn.short_l.worst > whole.short_l.worst
    assert worn.litres_a_day.middle < whole.litres_a_day.middle
    assert spent.short_days.best == AHEAD_DAYS
    assert spent.longest_d == AHEAD_DAYS
    assert ahead_of(a, a.chosen, date(2026, 6, 1), 1.3).left == 1.0, "nobody gives more than all"


def test_frost_is_that_of_the_days_ahead() -> None:
    """The ridge lies in the south: its nights freeze in the middle of the year."""
    summer, winter = (ahead_of(A, A.chosen, date(2026, month, 1)).frost for month in (12, 6))
    assert summer < 1.0 < winter


def test_a_kit_that_holds_well_has_no_short_day_ahead(parts) -> None:
    a = assess(edit(edit(demo_jobs()[0], "need_by", "litres", parts), "litres", "20 L", parts))
    ahead = ahead_of(a, a.chosen, date(2026, 6, 1))
    assert (ahead.short_days.worst, ahead.short_l.worst, ahead.longest_d) == (0.0, 0.0, 0)


def test_a_bank_is_run_with_its_own_charge() -> None:
    banked = assess(demo_jobs()[0].model_copy(update={"chosen": "o1"}))
    assert banked.chosen.kit.battery is not None
    whole, worn = (ahead_of(banked, banked.chosen, date(2026, 6, 1), left) for left in (1.0, 0.5))
    assert worn.litres_a_day.middle < whole.litres_a_day.middle
    assert worn.short_days.worst >= whole.short_days.worst
