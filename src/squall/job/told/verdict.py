"""The verdict: one sentence with numbers, in a person's own units."""

from dataclasses import dataclass
from typing import Literal

from squall.core.years.typical import month_name
from squall.job.worked.assess import Assessment
from squall.words.units import System, text

Grade = Literal["holds", "tight", "short", "stopped", "open"]
TIGHT_SHARE = 1.15
GRADE_WORDS: dict[Grade, str] = {
    "holds": "holds",
    "tight": "just holds",
    "short": "falls short",
    "stopped": "won't do",
    "open": "not chosen yet",
}


@dataclass(frozen=True)
class Verdict:
    """A grade, its word, and the sentence."""

    grade: Grade
    sentence: str

    @property
    def word(self) -> str:
        """The grade in plain words."""
        return GRADE_WORDS[self.grade]


def verdict_of(assessment: Assessment, system: System = "metric") -> Verdict:
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
        ``holds`` from 1.15 times the need, ``tight`` from 1, ``short`` below, ``stopped`` where a
        part would be harmed or no water comes, ``open`` where no kit is chosen.
    """
    if assessment.problem is not None:
        return Verdict("stopped", f"This kit can't be worked out: {assessment.problem}")
    chosen = assessment.chosen
    if chosen is None:
        return Verdict("open", "No kit is chosen yet: look at the kits that would do it, and take one.")
    if chosen.refusal is not None:
        return Verdict("stopped", f"This kit won't do: {chosen.refusal}.")
    month = chosen.worst_month
    made, need = chosen.worst_litres / 1000.0, chosen.need_l[month] / 1000.0
    name = month_name(month)
    if need <= 0.0:
        sentence = f"Makes {text(made, 'litres', system)} on an average {name} day; no need is set yet."
        return Verdict("open", sentence)
    share = chosen.worst_share
    grade: Grade = "holds" if share >= TIGHT_SHARE else "tight" if share >= 1.0 else "short"
    clear = float(chosen.season.clear_litres[month]) / 1000.0
    headroom = assessment.job.want.headroom.si
    times = f" ({headroom:g} times what is wanted)" if headroom > 1.0 else ""
    start = (
        f"Makes {text(made, 'litres', system)} on an average {name} day ({text(clear, 'litres', system)} on a clear one), "
        f"needs {text(need, 'litres', system)}{times}"
    )
    if grade == "short":
        short = sum(1 for value in chosen.season.share_of(chosen.need_l) if value < 1.0)
        months = "this month" if short == 1 else f"{short} months of the year"
        middle = f"{text(need - made, 'litres', system)} short a day, in {months}"
    else:
        middle = f"{name} is the worst month, with {(share - 1.0) * 100.0:.0f} % to spare"
    return Verdict(grade, f"{start}: {middle}. What holds it back: {chosen.held_back_by}.")
