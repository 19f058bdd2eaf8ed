"""What is said of the doubt: the range in a sentence."""

from squall.core.advice.doubt import Effect
from squall.core.sky.climate import MONTHS
from squall.job.worked.doubts import Doubt
from squall.words.units import System, text


def range_words(doubt: Doubt, units: System) -> str:
    """The range in one sentence, with what would narrow it most."""
    low, high = (text(litres / 1000.0, "litres", units) for litres in (doubt.litres.low, doubt.litres.high))
    said = f"With what is known it may be {low} to {high} on an average {MONTHS[doubt.month]} day"
    worst = doubt.litres.worst
    if worst is None:
        return said + "."
    hangs = "; the verdict hangs on it" if doubt.decides else ""
    best = doubt.litres.to_measure
    measure = f" The measurement that would narrow it most: {best.spread.remedy}." if best is not None else ""
    return f"{said}{hangs}. Most of that comes from {worst.spread.name}.{measure}"


def amount_words(effect: Effect, units: System) -> str:
    """How far one input may be off."""
    spread = effect.spread
    return "\u00b1 " + text(spread.amount, "head" if spread.key == "lift" else "share", units)
