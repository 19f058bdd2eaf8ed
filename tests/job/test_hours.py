"""Hours that a pump has run: by its meter, else by a year's run; a meter changed, misread, a pump renewed."""

from datetime import date, timedelta

import pytest

from squall.core.errors import BadQuantity
from squall.core.upkeep.due import Last
from squall.job.document.base import quantity
from squall.job.document.job import Visit
from squall.job.kept.hours import MOST_METER_H, hours_run, meter_of
from squall.job.kept.record import Record
from squall.job.kept.upkeep import with_renewed

BEGUN, TODAY = date(2026, 1, 1), date(2026, 12, 31)


def visit(day: date, hours: float | None = None, *done: str, option: str = "kit") -> Visit:
    return Visit(
        id="v1", at=f"{day.isoformat()}T12:00Z", option=option, irradiance_w_m2=800.0, air_c=20.0, told_by="typed", values=[],
        done=list(done), meter=None if hours is None else quantity(f"{hours:g} h", hours),
    )  # fmt: skip


def test_without_a_meter_a_years_run_tells() -> None:
    run = hours_run(Record(docs=[visit(date(2026, 3, 1))], begun=BEGUN), "kit", TODAY, 2000.0)
    assert run.by == "year"
    assert run.hours == pytest.approx(2000.0 * 364 / 365.25)


def test_a_meter_tells_once_a_month_lies_between() -> None:
    read = [visit(date(2026, 2, 1), 100.0), visit(date(2026, 2, 20), 130.0)]
    assert hours_run(Record(docs=read, begun=BEGUN), "kit", TODAY, 2000.0).by == "year", (
        "19 days tell nothing of a year"
    )
    read.append(visit(date(2026, 8, 1), 100.0 + 181 * 4.0))
    run = hours_run(Record(docs=read[::-1], begun=BEGUN), "kit", TODAY, 2000.0)
    assert run.by == "meter"
    assert run.a_year == pytest.approx(4.0 * 365.25)
    assert run.hours == pytest.approx(4.0 * 364), "before its first reading and after its last as between"


@pytest.mark.parametrize("odd", [20.0, 100.0 + 24.0 * 400])
def test_a_meter_changed_or_misread_begins_anew(odd: float) -> None:
    """Fewer hours than before, or more than there were: what came before doesn't count."""
    read = [visit(date(2026, 2, 1), 100.0), visit(date(2026, 5, 1), odd)]
    assert hours_run(Record(docs=read, begun=BEGUN), "kit", TODAY, 2000.0).by == "year"
    again = hours_run(Record(docs=[*read, visit(date(2026, 7, 30), odd + 90 * 2.0)], begun=BEGUN), "kit", TODAY, 2000.0)
    assert again.a_year == pytest.approx(2.0 * 365.25)


def test_a_renewed_pump_begins_at_nothing() -> None:
    read = [visit(date(2026, 2, 1), 100.0), visit(date(2026, 6, 1), 700.0, "pump-renewed")]
    run = hours_run(Record(docs=read, begun=BEGUN), "kit", TODAY, 2000.0)
    assert run.since == date(2026, 6, 1)
    assert run.by == "year"
    after = [*read, visit(date(2026, 10, 1), 700.0 + 122 * 3.0)]
    assert hours_run(Record(docs=after, begun=BEGUN), "kit", TODAY, 2000.0).hours == pytest.approx(
        3.0 * (TODAY - date(2026, 6, 1)).days
    )


def test_other_kits_and_days_to_come_do_not_count() -> None:
    read = [visit(BEGUN, 0.0), visit(date(2026, 7, 1), 500.0, option="other"), visit(TODAY + timedelta(days=9), 900.0)]
    assert hours_run(Record(docs=read, begun=BEGUN), "kit", TODAY, 1000.0).by == "year"


def test_a_pump_renewed_at_a_visit_is_not_due_as_if_it_were_old() -> None:
    docs = [
        visit(date(2026, 6, 1), None, "pump-renewed"),
        visit(date(2026, 9, 1), None, "pump-renewed", option="other"),
    ]
    assert with_renewed({}, docs, "kit")["pump-life"].done == date(2026, 6, 1)
    later = {"pump-life": Last(date(2026, 7, 1))}
    assert with_renewed(later, docs, "kit") == later
    assert with_renewed({}, docs[1:], "kit") == {}


@pytest.mark.parametrize("text", ["soon", "-3 h", f"{MOST_METER_H * 2:g}", "12 m"])
def test_what_is_no_count_of_hours_is_said(text: str) -> None:
    with pytest.raises(BadQuantity):
        meter_of(text, "metric")


def test_a_meter_is_read_as_typed() -> None:
    assert meter_of("1234.5", "us").si == pytest.approx(1234.5)
    assert meter_of("", "metric") is None
