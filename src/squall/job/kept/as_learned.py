"""The chosen kit's year by what its visits have taught, beside its year as stated."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import date

from squall.core.errors import BadEvidence
from squall.core.prove.expect import Now, Point, expected_readings
from squall.core.reason import Spoken
from squall.core.upkeep.learned import Learned, as_learned
from squall.job.document.job import Job, LearnedDoc
from squall.job.edit.changes import Changed
from squall.job.kept.record import Record
from squall.job.kept.told import FORETELLS
from squall.job.kept.upkeep import learned_now
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment, as_taught, part_marks
from squall.words import later


@dataclass(frozen=True)
class MonthBeside:
    """A month, January 0: litres a day as stated, as learned, and wanted. [L/d]"""

    month: int
    stated_l: float
    learned_l: float
    need_l: float


@dataclass(frozen=True)
class Beside:
    """A kit's year both ways.

    Attributes
    ----------
    learned : Learned
        What was learned.
    believed : int
        By how many visits.
    months : sequence of MonthBeside
        Of the year.
    short_stated, short_learned : float
        Short days in a hundred of ten made years. [-]
    allowed : float
        How many are allowed. [-]
    refusal : Spoken or None
        Why the kit won't do as stated, whatever water it gives: that is judged by its label, and stays.
    """

    learned: Learned
    believed: int
    months: Sequence[MonthBeside]
    short_stated: float
    short_learned: float
    allowed: float
    refusal: Spoken | None = None

    @property
    def worst(self) -> MonthBeside:
        """The month in which least of the need is covered, as learned."""
        return min(self.months, key=lambda one: one.learned_l / max(one.need_l, 1e-9))

    @property
    def holds(self) -> bool:
        """Whether it holds as learned: every month its need on the mean, no more short days than allowed, and no part that is harmed."""
        return self.refusal is None and self.worst.learned_l >= self.worst.need_l and self.short_learned <= self.allowed


def points_as_learned(
    a: Assessment, chosen: KitAssessment, record: Record, now: Now, today: date
) -> Mapping[Point, float]:
    """What each test point should read by what the visits taught; nothing until so many count that they foretell anything. [SI]"""
    learned, believed = learned_now(a, chosen, record, today)
    if believed < FORETELLS:
        return {}
    found = {one.point: one.value for one in expected_readings(as_learned(chosen.setup, learned), now)}
    return {point: value for point, value in found.items() if value is not None}


def learned_doc(a: Assessment, chosen: KitAssessment, record: Record, today: date) -> LearnedDoc:
    """What the visits have taught by a day, as a job's document keeps it.

    Raises
    ------
    BadEvidence
        Before so many visits count that they foretell anything.
    """
    learned, believed = learned_now(a, chosen, record, today)
    if believed < FORETELLS:
        raise BadEvidence(
            later("Fewer than {n} visits count yet: what they say is less than what the label does.", n=FORETELLS)
        )
    figures = {name: round(float(value), 6) for name, value in asdict(learned).items()}
    of = {str(part): mark for part, mark in part_marks(chosen.kit, chosen.layout, chosen.cabling).items()}
    return LearnedDoc(day=today.isoformat(), visits=believed, of=of, **figures)


def judge_by(job: Job, learned: LearnedDoc | None) -> Changed:
    """A job whose chosen kit's water is judged by what was learned of it, or by its label again; and words for its history."""
    options = [one.model_copy(update={"learned": learned}) if one.id == job.chosen else one for one in job.options]
    said = (
        later("water judged by the label")
        if learned is None
        else later("water judged by what {n} visits taught", n=learned.visits)
    )
    return job.model_copy(update={"options": options}), said


def beside_of(a: Assessment, chosen: KitAssessment, record: Record, today: date) -> Beside | None:
    """Both years; None until so many visits count that they foretell anything.

    Parameters
    ----------
    a, chosen : Assessment, KitAssessment
        The job worked out, and its kit.
    record : Record
        What is kept of it.
    today : date
        The day for which it is learned.
    """
    learned, believed = learned_now(a, chosen, record, today)
    if believed < FORETELLS:
        return None
    taught = as_taught(chosen, learned)
    both = zip(chosen.season.average_litres, taught.season.average_litres, strict=True)
    months = [
        MonthBeside(month, float(stated), float(litres), chosen.need_l[month])
        for month, (stated, litres) in enumerate(both)
    ]
    return Beside(
        learned,
        believed,
        months,
        chosen.outlook.short_in_a_hundred,
        taught.outlook.short_in_a_hundred,
        chosen.use.allowed,
        chosen.refusal,
    )
