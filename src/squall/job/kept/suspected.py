"""What is known of a kit before anybody looks for a fault: its first day, its visits, the hours it has run, what its yard found before."""

from dataclasses import dataclass, replace
from datetime import date, timedelta

from squall.core.faults.causes import Frequencies
from squall.core.faults.chain import Chain
from squall.core.faults.checks import checks_of
from squall.core.faults.suspicion import Evidence
from squall.core.upkeep.suspects import offsets_of, times_likelier
from squall.job.document.job import Visit
from squall.job.kept.hours import HoursRun
from squall.job.kept.record import Record, day_of
from squall.job.kept.upkeep import CHECK_OF, light_read, read_visits, run_of, taught_by
from squall.job.trouble.chain import chain_of
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment

# Readings of a visit no older than this may be what a search begins with.
FRESH = timedelta(days=1)
# Hours tell of wear; near enough is enough, and keeps what was worked out for a chain good for weeks. [h]
_AGE_STEP_H = 50.0
# A log that makes a fault hardly likelier, or hardly rarer, isn't told of. [-]
_TOLD_FROM, _TOLD_BELOW = 1.3, 0.7


@dataclass(frozen=True)
class Suspected:
    """What a search begins with.

    Attributes
    ----------
    chain : Chain
        The kit as stated, with its hours and with how its readings showed it to be off.
    known : Frequencies
        What its yard found before, what its owner says, and what its own log makes likelier.
    run : HoursRun
        How long its pump has run.
    days : int
        Of readings that count: the first day and visits.
    """

    chain: Chain
    known: Frequencies
    run: HoursRun
    days: int

    @property
    def likelier(self) -> dict[str, float]:
        """Slow faults that the log makes clearly likelier, and how many times. [-]"""
        return {code: times for code, times in self.known.logged.items() if times >= _TOLD_FROM}

    @property
    def rarer(self) -> dict[str, float]:
        """Those that it makes clearly rarer. [-]"""
        return {code: times for code, times in self.known.logged.items() if times <= _TOLD_BELOW}


def suspected_of(a: Assessment, chosen: KitAssessment, record: Record, known: Frequencies, began: date) -> Suspected:
    """What is known when a search begins.

    Parameters
    ----------
    a, chosen : Assessment, KitAssessment
        The job worked out, and its kit.
    record : Record
        What is kept of it.
    known : Frequencies
        What the yard knows.
    began : date
        The day the search began: what was read from the day before on may be of the fault, and isn't counted as how the kit was.
    """
    run = run_of(chosen, record, began)
    chain = chain_of(a, chosen)
    before = replace(record, docs=[doc for doc in record.docs if day_of(doc.at) < began - FRESH])
    found, days = taught_by(a, chain, read_visits(a, chosen, chain, before.docs, began, before.begun), before)
    chain = replace(chain, age_hours=round(run.hours / _AGE_STEP_H) * _AGE_STEP_H)
    if days:
        chain = replace(chain, offsets=offsets_of(found, began))
    return Suspected(chain, replace(known, logged=times_likelier(found, began)), run, days)


@dataclass(frozen=True)
class Fresh:
    """A visit that a search may begin with.

    Attributes
    ----------
    doc : Visit
        As it stands in the log.
    pieces : tuple of Evidence
        Its readings as Fault takes them. [SI]
    light_w_m2 : float or None
        Its light, where that was read. [W/m2]
    """

    doc: Visit
    pieces: tuple[Evidence, ...]
    light_w_m2: float | None


def fresh_of(chosen: KitAssessment, chain: Chain, record: Record, today: date) -> Fresh | None:
    """The last visit of the chosen kit, if it is of today or yesterday and has readings that Fault can use.

    Parameters
    ----------
    chosen, chain : KitAssessment, Chain
        The kit, and as Fault sees it.
    record : Record
        What is kept of it.
    today : date
        The day that is asked about.
    """
    own = {check.code for check in checks_of(chain)}
    for doc in record.docs:
        if doc.option != chosen.option.name or not today - FRESH <= day_of(doc.at) <= today:
            continue
        pieces = tuple(
            Evidence(CHECK_OF[value.point], value.measured.si) for value in doc.values if CHECK_OF[value.point] in own
        )
        if pieces:
            return Fresh(doc, pieces, light_read(doc) if chain.panels else None)
    return None
