"""The verdict in one sentence with numbers, and how sure it is, in a person's own units."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal

from squall.core.advice.doubt import Effect
from squall.core.electrics.conductors import conductor
from squall.core.errors import NoPlace
from squall.core.reason import Spoken
from squall.job.document.fields import as_typed, spec, spec_in
from squall.job.document.paths import plain_of, value_in
from squall.job.document.specs import LABELS_OF_USE
from squall.job.document.unsaid import taken_of
from squall.job.told.lift import season_words
from squall.job.worked.assess import Assessment
from squall.job.worked.doubts import Doubt
from squall.job.worked.kit import KitAssessment
from squall.job.worked.served import slowest_words
from squall.words import Message, later, later_n, say, say_n
from squall.words.calendar import month_name
from squall.words.units import in_own_units, text

Grade = Literal["holds", "tight", "short", "stopped", "open"]
# Under this share of the need, or over this share of the short days allowed, it just holds: a choice of ours. [-]
TIGHT_SHARE, TIGHT_DAYS = 1.15, 0.5
# Months whose shares of their need lie no further apart than this are alike. [-]
ALIKE = 0.005
GRADE_WORDS: dict[Grade, Message] = {
    "holds": later("holds"),
    "tight": later("just holds"),
    "short": later("falls short"),
    "stopped": later("won't do"),
    "open": later("not chosen yet"),
}


@dataclass(frozen=True)
class Verdict:
    """A grade, the sentence, and a word of its own where the grade's does not fit."""

    grade: Grade
    sentence: str
    stamp: Message | None = None

    @property
    def word(self) -> str:
        """The grade in plain words."""
        return str(self.stamp or GRADE_WORDS[self.grade])


def verdict_of(assessment: Assessment) -> Verdict:
    """Say in one sentence how a job stands.

    Parameters
    ----------
    assessment : Assessment
        The job worked out.
    system : str
        Units to speak in.

    Returns
    -------
    Verdict
        ``holds`` from 1.15 times the need and with at most half the short days allowed, ``tight`` from once the need
        and with all those allowed, ``short`` below, ``stopped`` where a part would be harmed or no water comes, ``open``
        where no kit is chosen.
    """
    assessment = assessment.judged
    said = _stands(assessment)
    if assessment.job.option is None or assessment.unsaid or assessment.light is None:
        return said
    taken = "".join(f" {words}" for words in learned_words(assessment)) + "".join(
        f" {words}" for words in taken_words(assessment)
    )
    return replace(said, sentence=said.sentence + taken)


def learned_words(assessment: Assessment) -> list[Message]:
    """That the water is judged by what was learned, since when, and what it would be as stated; nothing where it isn't."""
    chosen = None if assessment.stated is None else assessment.stated.chosen
    if chosen is None or chosen.option.learned is None:
        return []
    learned = chosen.option.learned
    said = later(
        "The water is judged by what {visits} visits had taught by {day}; as stated it would make {stated:litres} in {month:month}, its worst month.",
        visits=learned.visits, day=learned.day, stated=chosen.worst_litres / 1000.0, month=chosen.worst_month,
    )  # fmt: skip
    return [said]


def _stands(assessment: Assessment) -> Verdict:
    if assessment.light is None:
        return Verdict("open", str(NoPlace().said), later("no place yet"))
    if assessment.problem is not None:
        return Verdict("stopped", say("This kit can't be worked out: {problem}", problem=assessment.problem))
    if assessment.unsaid:
        labels = "; ".join(str(label) for label in unsaid_labels(assessment).values())
        return Verdict("open", say("Nobody has said yet: {labels}.", labels=labels))
    chosen = assessment.chosen
    if chosen is None:
        return Verdict("open", say("No kit is chosen yet: look at the kits that would do it, and take one."))
    if chosen.refusal is not None:
        return Verdict("stopped", say("This kit won't do: {refusal}.", refusal=chosen.refusal))
    month = chosen.worst_month
    made, need = chosen.worst_litres / 1000.0, chosen.need_l[month] / 1000.0
    name = month_name(month)
    if need <= 0.0:
        sentence = say("Makes {made:litres} on an average {name} day; no need is set yet.", made=made, name=name)
        return Verdict("open", sentence)
    share = chosen.worst_share
    grade = grade_of(chosen)
    clear = float(chosen.season.clear_litres[month]) / 1000.0
    headroom = assessment.job.want.headroom.si
    times = say(" ({headroom:g} times what is wanted)", headroom=headroom) if headroom > 1.0 else ""
    start = say(
        "Makes {made:litres} on an average {name} day ({clear:litres} on a clear one), needs {need:litres}{times}",
        made=made,
        name=name,
        clear=clear,
        need=need,
        times=times,
    )
    if share < 1.0:
        short = sum(1 for value in chosen.season.share_of(chosen.need_l) if value < 1.0)
        months = say("this month") if short == 1 else say("{short} months of the year", short=short)
        middle = say("{need:litres} short a day, in {months}", need=need - made, months=months)
    elif float(max(chosen.season.share_of(chosen.need_l))) - share < ALIKE:
        middle = say("{share:.0f} % to spare, in every month alike", share=(share - 1.0) * 100.0)
    else:
        middle = say("{name} is the worst month, with {share:.0f} % to spare", name=name, share=(share - 1.0) * 100.0)
    middle = say("{middle}; {days}", middle=middle, days=short_days(chosen))
    said = slowest_words(assessment)
    shared = () if said is None else (str(said),)
    return Verdict(
        grade,
        say(
            "{start}: {middle}. What holds it back: {held_back_by}.{seasons}",
            start=start,
            middle=middle,
            held_back_by=chosen.held_back_by,
            seasons="".join(f" {words}" for words in (*season_words(assessment), *shared)),
        ),
    )


def unsaid_labels(assessment: Assessment) -> dict[str, Spoken]:
    """What everything beyond the survey waits for: labels by the fields' paths."""
    job = assessment.job
    names = {f"run.{piece.id}.length": piece.name for piece in job.run}
    uses = {f"uses.{use.id}": use for use in job.uses}
    labels: dict[str, Spoken] = {}
    for path in assessment.unsaid:
        label, stem = spec(path, assessment.parts).label, path.rpartition(".")[0]
        if path in names:
            label = later("Length of the {name}", name=names[path])
        elif (use := uses.get(stem)) is not None:
            label = LABELS_OF_USE.get((use.kind, path.rpartition(".")[2]), label)
            label = later("{label} ({name})", label=label, name=use.name)
        labels[path] = label
    return labels


def figure_taken(a: Assessment, path: str) -> str:
    """The figure or the part that stands in at a path, in words."""
    field, plain = spec_in(a.job, path, a.parts), value_in(plain_of(a.job), path)
    if field.how == "choice":
        return str((field.choices or {}).get(str(plain), plain))
    if field.how == "cable":
        return conductor(str(plain)).label
    typed = as_typed(plain)
    return in_own_units(typed, plain["si"], field.kind) if field.kind else typed


def taken_words(a: Assessment) -> list[Spoken]:
    """One sentence of all that is taken because nobody said it; none where all is said."""
    taken = [
        later("{label} {figure}", label=spec_in(a.job, path, a.parts).label, figure=figure_taken(a, path))
        for path in taken_of(a.job)
    ]
    if not taken:
        return []
    return [later("Taken, because nobody has said it: {taken}.", taken="; ".join(str(words) for words in taken))]


def grade_of(chosen: KitAssessment) -> Grade:
    """How a kit stands that gives water: by the worst month's mean, and by the short days of ten years of made weather."""
    days, allowed = chosen.outlook.short_in_a_hundred, chosen.use.allowed
    if chosen.worst_share < 1.0 or days > allowed:
        return "short"
    return "holds" if chosen.worst_share >= TIGHT_SHARE and days <= TIGHT_DAYS * allowed else "tight"


def short_days(chosen: KitAssessment) -> Message:
    """How many days run short in ten years of made weather, and in which month most."""
    found = chosen.outlook
    days = found.short_in_a_hundred
    if days == 0.0:
        return later("short on no day of ten years of made weather")
    if days < 1.0:
        return later("fewer than 1 day in 100 runs short, most of them in {month:month}", month=found.worst_month)
    return later_n("{n} day in 100 runs short, mostly in {month:month}", "{n} days in 100 run short, most of them in {month:month}",
                   round(days), month=found.worst_month)  # fmt: skip


GAPS: Mapping[str, Message] = {
    "place": later("it isn't known where it is"),
    "unsaid": later("not all is said that a kit hangs on"),
    "taken": later("a figure is taken that nobody has said"),
    "need": later("no need is set"),
    "kit": later("no kit is chosen"),
    "wiring": later("the wiring is not safe yet"),
    "readings": later("nothing is measured yet"),
}


def gaps_in(assessment: Assessment, visits: int) -> tuple[str, ...]:
    """What a person still has to do, in order, as keys of :data:`GAPS`; `visits` is how many are logged."""
    if assessment.light is None:
        return ("place",)
    if assessment.unsaid:
        return ("unsaid",)
    there = {
        "need": not any(assessment.need_l),
        "kit": assessment.chosen is None,
        "taken": assessment.chosen is not None and bool(taken_of(assessment.job)),
        "wiring": assessment.wiring is not None and bool(assessment.wiring.problems),
        "readings": not visits,
    }
    return tuple(key for key, missing in there.items() if missing)


def range_words(doubt: Doubt) -> str:
    """The range in one sentence, with what would narrow it most."""
    low, high = (text(litres / 1000.0, "litres") for litres in (doubt.litres.low, doubt.litres.high))
    said = say(
        "With what is known it may be {low} to {high} on an average {month:month} day",
        low=low,
        high=high,
        month=doubt.month,
    )
    worst = doubt.litres.worst
    if worst is None:
        return said + "."
    hangs = say("; the verdict hangs on it") if doubt.decides else ""
    best = doubt.litres.to_measure
    measure = (
        say(" The measurement that would narrow it most: {remedy}.", remedy=best.spread.remedy)
        if best is not None
        else ""
    )
    days = ""
    if doubt.runs_short:
        days = say_n(" If every doubt goes badly {n} day in 100 runs short.", " If every doubt goes badly {n} days in 100 run short.",
                     round(doubt.short_at_worst))  # fmt: skip
    return say(
        "{said}{hangs}. Most of that comes from {name}.{days}{measure}",
        said=said,
        hangs=hangs,
        name=worst.spread.name,
        days=days,
        measure=measure,
    )


def amount_words(effect: Effect) -> str:
    """How far one input may be off."""
    spread = effect.spread
    kind = "head" if spread.key == "lift" else "share"
    if spread.less != spread.amount:
        return say("{less} less to {more} more", less=text(spread.less, kind), more=text(spread.amount, kind))
    return "\u00b1 " + text(spread.amount, kind)
