"""The quote: what the chosen kit costs on the day and over ten years, beside what the water costs today; only what somebody said is counted."""

from dataclasses import dataclass

from squall.core.explain import Figure, Input
from squall.core.fit.costs import WEEKS, Habit, Offer, habit, offer, renewals
from squall.core.kit.setup import SUNDRIES_PRICE
from squall.core.kit.supply import Banked
from squall.core.reason import Reason, Spoken
from squall.job.document.fitting import QuoteDoc
from squall.job.document.job import Job, Typed
from squall.job.fitted.parts_list import PartLine, parts_list
from squall.job.told.verdict import short_days
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.words import later, say

YEARS = 10
# Lines of the parts that the lump stands for, by their keys; and those whose words tell how many.
IN_THE_LUMP = ("rope", "sleeve", "clamps", "splice")
COUNTED = ("fuse", "charge-fuse", "main-fuse", "string-fuse")


@dataclass(frozen=True)
class CostLine:
    """One cost over the years: of what, how it comes about, and how much. [money]"""

    name: Spoken
    how: Spoken
    money: float


@dataclass(frozen=True)
class Quote:
    """A quote.

    Attributes
    ----------
    offer : Offer
        The price with its parts.
    parts : tuple
        What the parts' price is made of: (part, price). [money]
    after : tuple of CostLine
        What ten years cost after the first day.
    today : Habit
        A year of today's way.
    unpriced, lacking, unknown : tuple of Spoken
        What the price lacks since nobody has said it, the parts in it that no list has a price of, and what the ten years lack.
    """

    offer: Offer
    parts: tuple[tuple[Spoken, float], ...]
    after: tuple[CostLine, ...]
    today: Habit
    unpriced: tuple[Spoken, ...]
    lacking: tuple[Spoken, ...]
    unknown: tuple[Spoken, ...]

    @property
    def after_money(self) -> float:
        """All that comes after the first day. [money]"""
        return sum(line.money for line in self.after)

    @property
    def kit_money(self) -> float:
        """Ten years with the kit. [money]"""
        return self.offer.total + self.after_money

    @property
    def today_money(self) -> float:
        """Ten years as today. [money]"""
        return YEARS * self.today.money

    @property
    def even_after(self) -> float | None:
        """Years until the kit has cost no more than today's way would have; None where it never does, or nothing is known of today. [years]"""
        saved = self.today.money - self.after_money / YEARS
        return self.offer.total / saved if saved > 0.0 else None


def _si(value: Typed | None) -> float:
    return 0.0 if value is None else value.si


def quote_of(job: Job, a: Assessment, chosen: KitAssessment) -> Quote:
    """The quote of the chosen kit.

    Parameters
    ----------
    job : Job
        For what was said of work, margin, tax, and today's way.
    a : Assessment
        The job worked out: what Fit lists as needed on the day is what is paid.
    chosen : KitAssessment
        The kit.

    Returns
    -------
    Quote
        What nobody said counts nothing, and stands in ``unpriced`` or ``unknown``.
    """
    said = job.quote
    lines = parts_list(job, a, chosen, {}) if a.wiring is not None else ()
    parts = [(_counted(line), line.price) for line in lines if line.price is not None]
    parts.append((Reason("clamps-rope-sleeves-fuse-holder"), SUNDRIES_PRICE))
    made = offer(
        sum(price for _, price in parts),
        _si(said.labour),
        _si(said.rate),
        _si(said.travel),
        _si(said.margin),
        _si(said.tax),
    )
    today = habit(
        _si(said.today_hours), _si(said.hour_worth), _si(said.loads), _si(said.load_price), _si(said.fuel), _si(said.fuel_price)
    )  # fmt: skip
    after, unknown = _after(said, chosen)
    lacking = tuple(line.name for line in lines if line.price is None and line.key not in IN_THE_LUMP)
    return Quote(made, tuple(parts), after, today, _unpriced(said), lacking, (*unknown, *_unworthed(said)))


def _counted(line: PartLine) -> Spoken:
    """A line of the parts with how many, or how long."""
    if line.metres:
        return Reason("length-of-part", metres=line.count, part=line.name)
    return (
        Reason("so-many-of-part", n=int(line.count), part=line.name)
        if line.count > 1 and line.key not in COUNTED
        else line.name
    )


def _after(said: QuoteDoc, chosen: KitAssessment) -> tuple[tuple[CostLine, ...], tuple[Spoken, ...]]:
    """Pumps, batteries and visits of ten years, and which of them nobody knows."""
    kit, lines, unknown = chosen.kit, [], []
    hours = chosen.season.hours_a_year
    life = kit.life_h / hours if hours > 0.0 else float("inf")
    pumps = renewals(YEARS, life) * kit.pumps
    lines.append(
        CostLine(later("pumps renewed"), later("{n} of them: worn after {life:hours}, it runs {hours:hours} a year", n=pumps, life=kit.life_h, hours=hours), pumps * kit.pump.price)
    )  # fmt: skip
    if isinstance(kit.supply, Banked):
        if said.battery_years is None:
            unknown.append(later("how long a battery lasts"))
        else:
            count = renewals(YEARS, said.battery_years.si) * kit.supply.count
            lines.append(
                CostLine(later("batteries renewed"), later("{n} of them: one lasts {years:g} years, as was said", n=count, years=said.battery_years.si), count * kit.supply.battery.price)
            )  # fmt: skip
    if said.visits and said.visit_price is not None:
        visits = YEARS * said.visits
        lines.append(CostLine(later("visits"), later("{n} of them, {each} a year", n=visits, each=said.visits), visits * said.visit_price.si))  # fmt: skip
    else:
        unknown.append(later("visits to keep it running"))
    return tuple(lines), tuple(unknown)


def _unpriced(said: QuoteDoc) -> tuple[Spoken, ...]:
    """What the price on the day lacks."""
    asked: list[tuple[bool, Spoken]] = [
        (said.labour is None or said.rate is None, later("work")),
        (said.travel is None, later("travel")),
        (said.tax is None, later("tax")),
    ]
    return tuple(words for missing, words in asked if missing)


def _unworthed(said: QuoteDoc) -> tuple[Spoken, ...]:
    """What is said of today's way without what it costs."""
    asked: list[tuple[bool, Spoken]] = [
        (said.today_hours is not None and said.hour_worth is None, later("what an hour of today's work is worth")),
        (said.loads is not None and said.load_price is None, later("what a tanker's load costs")),
        (said.fuel is not None and said.fuel_price is None, later("what fuel costs")),
    ]
    return tuple(words for missing, words in asked if missing)


def quote_figures(job: Job, quote: Quote) -> list[Figure]:
    """The quote's figures, each with what it is made of."""
    made, said, today = quote.offer, job.quote, quote.today
    shelf = say("prices of the shelf; the small parts as a lump")
    yours = say("as said on this page; nothing that nobody said")
    figures = [
        Figure("quote-parts", say("Parts"), made.parts, "money", tuple(Input(str(name), price, "money") for name, price in quote.parts), say("sum of the parts"), shelf),
        Figure("quote-work", say("Work and travel"), made.labour + made.travel, "money",
               (Input(say("hours"), _si(said.labour), "hours"), Input(say("an hour costs"), _si(said.rate), "money"), Input(say("travel"), made.travel, "money")),
               say("hours x what an hour costs, + travel"), yours),
        Figure("quote-margin", say("Margin on parts"), made.margin, "money", (Input(say("parts"), made.parts, "money"), Input(say("share"), _si(said.margin), "share")), say("parts x share"), yours),
        Figure("quote-tax", say("Tax"), made.tax, "money", (Input(say("before tax"), made.net, "money"), Input(say("share"), _si(said.tax), "share")), say("all of it x share"), yours),
        Figure("quote-total", say("To pay"), made.total, "money", (Input(say("before tax"), made.net, "money"), Input(say("tax"), made.tax, "money")), say("parts + work + travel + margin + tax"), yours),
        Figure("ten-kit", say("Ten years with the kit"), quote.kit_money, "money",
               (Input(say("to pay"), made.total, "money"), *(Input(str(line.name), line.money, "money") for line in quote.after)),
               say("what is paid on the day, + what wears and who visits; no interest, no rise of prices"), yours),
        Figure("ten-today", say("Ten years as today"), quote.today_money, "money",
               (Input(say("hours a year"), today.hours, "hours"), Input(say("those hours"), today.work, "money"), Input(say("tanker"), today.loads, "money"),
                Input(say("fuel a year"), today.fuel_m3, "litres"), Input(say("that fuel"), today.fuel, "money")),
               say("ten times a year of hours, loads and fuel; a year has {weeks:.1f} weeks", weeks=WEEKS), yours),
    ]  # fmt: skip
    if quote.even_after is not None and quote.today.money > 0.0:
        figures.append(
            Figure("even-after", say("Has paid for itself after, in years"), quote.even_after, "number",
                   (Input(say("to pay"), made.total, "money"), Input(say("a year as today"), today.money, "money"), Input(say("a year of the kit, later"), quote.after_money / YEARS, "money")),
                   say("to pay / (a year as today - a later year of the kit)"), yours)
        )  # fmt: skip
    return figures


def promises(chosen: KitAssessment, low_m3: float | None, high_m3: float | None) -> tuple[tuple[Spoken, ...], tuple[Spoken, ...]]:  # fmt: skip
    """What a customer may count on, and what not, in plain words.

    Parameters
    ----------
    chosen : KitAssessment
        The kit.
    low_m3, high_m3 : float or None
        The range of the worst month's day with all that is in doubt. [m3]
    """
    month = chosen.worst_month
    need, made = chosen.need_l[month] / 1000.0, chosen.worst_litres / 1000.0
    will: list[Spoken] = [
        later("On an average day of {month:month}, its worst month, it gives {made:litres}; you asked for {need:litres}.", month=month, made=made, need=need)
    ]  # fmt: skip
    if low_m3 is not None and high_m3 is not None:
        will.append(later("As far as all this could be measured, that day may be {low:litres} to {high:litres}.", low=low_m3, high=high_m3))  # fmt: skip
    wont: list[Spoken] = []
    if made < need:
        wont.append(later("It does not give all you asked for in {month:month}: {less:litres} a day are missing.", month=month, less=need - made))  # fmt: skip
    wont.append(later("Over years of weather: {days}. On those days water has to come from elsewhere.", days=short_days(chosen)) if chosen.outlook.short_in_a_hundred > 0.0
                else later("{days}; a worse year than those may still come.", days=short_days(chosen)))  # fmt: skip
    if not isinstance(chosen.kit.supply, Banked):
        wont.append(later("It pumps while the sun is up: not at night, little under cloud. What is wanted then has to be in a tank."))  # fmt: skip
    wont.append(later("It doesn't do this shaded, dirty or with a blocked screen: keep panels and intake clear."))
    wont.append(later("It wears: a pump of this kind is made for {life:hours} of running.", life=chosen.kit.pump.life_h))  # fmt: skip
    return tuple(will), tuple(wont)
