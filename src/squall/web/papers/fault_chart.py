"""What stands on the fault chart: numbered checks, where each answer leads, and what mends what is found."""

from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from squall.core.faults.causes import NONE, OTHER
from squall.core.faults.chart import SURE_ON_PAPER, Branch, chart_of
from squall.core.faults.checks import Check, caution_of
from squall.core.faults.sweep import Lit
from squall.core.reason import Reason, Spoken
from squall.job.kept.record import Record
from squall.job.kept.suspected import suspected_of
from squall.job.trouble.search import ANSWER_WORDS
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.web.papers.beside import NOTHING, Beside
from squall.words import Message, later, say
from squall.words.units import text

# The light that the chart is made for: a clear hour. [W/m2]
CHART_LIGHT = 800.0
_RANGES: dict[str, Message] = {
    "one-dead": later("one of them nothing"),
    "one-reversed": later("one of them the wrong way round"),
    "all-alike": later("all alike"),
    "open": later("open"),
}


@dataclass(frozen=True)
class ChartLine:
    """One answer on the chart: the answer, the step that it leads to or None, what it then likely is, and whether that is sure enough."""

    says: Spoken
    step: int | None
    cause: str
    sure: bool

    @property
    def words(self) -> Reason:
        """What it likely is."""
        return Reason(f"fault-{self.cause}")


@dataclass(frozen=True)
class ChartStep:
    """One step on the chart."""

    number: int
    check: Check
    name: Reason
    where: Reason
    caution: Reason | None
    lines: tuple[ChartLine, ...]


def _says(check: Check, branch: Branch) -> Spoken:
    if branch.answer in ANSWER_WORDS and check.kind is None:
        return ANSWER_WORDS[branch.answer]
    if branch.answer in _RANGES:
        return _RANGES[branch.answer]
    assert check.kind is not None
    low, high = branch.low, branch.high
    if low is None or (low <= 0.0 and high is not None):
        return say("up to {high}", high=text(high or 0.0, check.kind))
    if high is None:
        return say("over {low}", low=text(low, check.kind))
    return say("{low} to {high}", low=text(low, check.kind), high=text(high, check.kind))


def fault_chart(a: Assessment, chosen: KitAssessment, beside: Beside = NOTHING) -> dict[str, Any]:
    """The chart of the chosen kit, and the remedies that it ends with: by what is known of it and of its yard, as Fault's page."""
    suspected = suspected_of(a, chosen, beside.record or Record(), beside.known, datetime.now(UTC).date())
    chain = suspected.chain
    steps = []
    ends: dict[str, None] = {}
    for step in chart_of(chain, "unknown", Lit(CHART_LIGHT, 20.0), suspected.known):
        caution = caution_of(step.check, chain)
        lines = []
        for branch in step.branches:
            if branch.step is None and branch.cause not in (NONE, OTHER):
                ends[branch.cause] = None
            lines.append(ChartLine(_says(step.check, branch), branch.step, branch.cause, branch.sure >= SURE_ON_PAPER))
        steps.append(
            ChartStep(
                step.number,
                step.check,
                Reason(f"check-{step.check.code}"),
                Reason(f"where-{step.check.where}"),
                Reason(f"caution-{caution}") if caution else None,
                tuple(lines),
            )
        )
    remedies = [(Reason(f"fault-{cause}"), Reason(f"remedy-{cause}")) for cause in ends]
    return {"chart": steps, "light": CHART_LIGHT, "remedies": remedies}
