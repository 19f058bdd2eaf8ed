"""The quote: its price, ten years of the kit beside today's way; only what somebody said is counted."""

from datetime import date

import pytest

from squall.catalogue import catalogue
from squall.core.errors import OutOfRange, SquallError
from squall.core.fit.costs import habit, offer, renewals
from squall.core.kit.setup import SUNDRIES_PRICE
from squall.demo import demo_jobs
from squall.job.document.fields import check_all, edit
from squall.job.document.job import Job
from squall.job.edit.changes import add_device, relay_for
from squall.job.edit.rows import add_typed_row, remove_row
from squall.job.fitted.parts_list import parts_list
from squall.job.kept.for_now import for_now_cautions, overdue
from squall.job.kept.quote import promises, quote_figures, quote_of
from squall.job.worked.assess import assess, physics_key

GOATS, TERRACES, DUCKS, DONKEYS, _ = demo_jobs()


def said(job: Job, **fields: str) -> Job:
    for name, text in fields.items():
        job = edit(job, f"quote.{name}", text, catalogue())
    return job


def bought(job: Job) -> float:
    """What Fit lists for the day, where a list has a price of it, with the small parts as a lump."""
    a = assess(job)
    lines = parts_list(job, a, a.chosen, {})
    return sum(line.price for line in lines if line.price is not None) + SUNDRIES_PRICE


def words(said_: object) -> str:
    return " ".join(str(one) for one in said_)  # type: ignore[attr-defined]


def test_a_quote_that_nobody_filled_in_is_the_parts_and_says_what_it_lacks() -> None:
    chosen = assess(GOATS).chosen
    quote = quote_of(GOATS, assess(GOATS), chosen)
    assert quote.offer.total == pytest.approx(bought(GOATS))
    assert sum(price for _, price in quote.parts) == pytest.approx(quote.offer.parts)
    assert {"work", "travel", "tax"} <= set(map(str, quote.unpriced))
    assert quote.today.money == 0.0
    assert quote.even_after is None, "nothing is known of today"


def test_switches_and_relays_are_paid_for_and_what_has_no_price_is_named() -> None:
    """The offer was the ranking's price: a timer and its relay were fitted, listed and given away."""
    bank = GOATS.model_copy(update={"chosen": "o1", "devices": []})
    timed = add_device(bank, "timer-16", catalogue())[0]
    driven = relay_for(timed, "timer-16:relay-40-12", catalogue())[0]
    plain, full = (quote_of(job, assess(job), assess(job).chosen) for job in (bank, driven))
    shelf = catalogue().devices
    assert full.offer.parts - plain.offer.parts == pytest.approx(
        shelf["timer-16"].price + shelf["relay-40-12"].price, abs=2.0
    )
    assert "weekly timer" in words(name for name, _ in full.parts)
    assert "suppressor" in words(full.lacking)
    assert not any(word in words(full.lacking) for word in ("rope", "clamps", "sleeve")), "the lump stands for them"
    panels = quote_of(GOATS, assess(GOATS), assess(GOATS).chosen)
    assert "Y-leads" in words(panels.lacking)


def test_price_and_ten_years_by_hand() -> None:
    job = said(GOATS, labour="6", rate="20", travel="30", margin="10 %", tax="15 %", visits="2", visit_price="25",
               today_hours="7", hour_worth="2", loads="1", load_price="40", fuel="5 L", fuel_price="1.5")  # fmt: skip
    chosen = assess(job).chosen
    quote, parts = quote_of(job, assess(job), chosen), bought(job)
    assert quote.unpriced == ()
    assert quote.offer.total == pytest.approx((parts * 1.1 + 120.0 + 30.0) * 1.15)
    weeks = 365 / 7
    a_year = 7 * weeks * 2 + 12 * 40 + 5 * weeks * 1.5
    assert quote.today.money == pytest.approx(a_year)
    hours = chosen.season.hours_a_year
    again = -(-10 * hours // chosen.kit.life_h) - 1
    later = again * chosen.kit.pump.price + 20 * 25
    assert quote.kit_money == pytest.approx(quote.offer.total + later)
    assert quote.even_after == pytest.approx(quote.offer.total / (a_year - later / 10))
    figures = {figure.key: figure.value for figure in quote_figures(job, quote)}
    assert figures["quote-total"] == pytest.approx(
        sum(figures[f"quote-{name}"] for name in ("parts", "work", "margin", "tax"))
    )


def test_a_battery_whose_life_nobody_knows_is_not_counted_and_said_so() -> None:
    job = GOATS.model_copy(update={"chosen": "o1"})
    chosen = assess(job).chosen
    assert "battery" in words(quote_of(job, assess(job), chosen).unknown)
    known = quote_of(said(job, battery_years="3"), assess(job), chosen)
    assert "battery" not in words(known.unknown)
    line = next(line for line in known.after if "batteries" in str(line.name))
    assert line.money == pytest.approx(3 * chosen.kit.supply.count * chosen.kit.battery.price)


def test_what_it_wont_do_stands_beside_what_it_will() -> None:
    chosen = assess(TERRACES).chosen
    will, wont = promises(chosen, 0.1, 0.2)
    assert "its worst month" in words(will)
    assert "does not give all you asked for" in words(wont), "the terraces' kit falls short"
    assert "does not give all" not in words(promises(assess(GOATS).chosen, None, None)[1])
    assert "not at night" in words(promises(assess(GOATS).chosen, None, None)[1])


@pytest.mark.parametrize(
    ("years", "lasts", "again"), [(10, 4, 2), (10, 5, 1), (10, 10, 0), (10, 0.5, 19), (0, 1, 0), (10, float("inf"), 0)]
)
def test_what_wears_is_bought_again(years, lasts, again) -> None:
    assert renewals(years, lasts) == again


def test_sums_refuse_what_cannot_be() -> None:
    with pytest.raises(OutOfRange):
        offer(-1.0, 0.0, 0.0, 0.0, 0.0, 0.0)
    with pytest.raises(OutOfRange):
        renewals(10.0, 0.0)
    assert habit(0, 0, 0, 0, 0, 0).money == 0.0
    for field, text in (("labour", "-3"), ("margin", "ten"), ("visits", "2.5"), ("valid_days", "9999"), ("fuel", "5 kg")):  # fmt: skip
        with pytest.raises(SquallError):
            said(GOATS, **{field: text})


def test_neither_quote_nor_for_now_makes_the_year_run_again() -> None:
    late = add_typed_row(said(GOATS, labour="6"), "fit.for_now", "", {"what": "25 A fuse", "until": "2026-03-01"}, catalogue(), "metric")[0]  # fmt: skip
    assert physics_key(late) == physics_key(GOATS)
    check_all(late, catalogue())


def test_what_is_for_now_stays_until_it_is_put_right() -> None:
    job = GOATS
    for what, until in (("25 A fuse", "2026-03-01"), ("clips", "2026-02-01")):
        job = add_typed_row(job, "fit.for_now", "", {"what": what, "until": until}, catalogue(), "metric")[0]
    assert overdue(job, date(2026, 2, 1)) == (), "on its day it is not late"
    assert [row.what for row in overdue(job, date(2026, 3, 2))] == ["clips", "25 A fuse"]
    assert "25 A fuse" in words(one.text for one in for_now_cautions(job, date(2026, 3, 2)))
    gone, _ = remove_row(job, "fit.for_now.f1")
    assert [row.what for row in gone.fit.for_now] == ["clips"]
    for wrong in ({"what": "", "until": "2026-03-01"}, {"what": "clips", "until": "soon"}):
        with pytest.raises(SquallError):
            add_typed_row(GOATS, "fit.for_now", "", wrong, catalogue(), "metric")
