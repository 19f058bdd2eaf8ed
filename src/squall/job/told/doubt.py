"""What is said of the doubt: the range in a sentence."""

from squall.core.advice.doubt import Effect
from squall.job.worked.doubts import Doubt
from squall.words import say
from squall.words.units import text


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
    return say(
        "{said}{hangs}. Most of that comes from {name}.{measure}",
        said=said,
        hangs=hangs,
        name=worst.spread.name,
        measure=measure,
    )


def amount_words(effect: Effect) -> str:
    """How far one input may be off."""
    spread = effect.spread
    kind = "head" if spread.key == "lift" else "share"
    if spread.less != spread.amount:
        return say("{less} less to {more} more", less=text(spread.less, kind), more=text(spread.amount, kind))
    return "\u00b1 " + text(spread.amount, kind)
