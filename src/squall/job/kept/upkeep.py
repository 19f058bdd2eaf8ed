"""What a kit's visits mean: what has worn, when that leaves too little water, what each remedy would bring, what is due."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import lru_cache

import numpy as np

from squall.core.errors import BadEvidence, SquallError
from squall.core.faults.chain import Chain
from squall.core.faults.checks import checks_of
from squall.core.reason import Spoken
from squall.core.upkeep.due import Due, Last, Place, due_of, tasks_of
from squall.core.upkeep.learned import Learned, learned_of
from squall.core.upkeep.states import DONE, Done, set_back_by, states_of
from squall.core.upkeep.wear import Ask, Estimate, Visit, Worn, estimate
from squall.job.document.job import Job
from squall.job.document.job import Visit as VisitDoc
from squall.job.kept.commission import AIR_C, HANGS_ON_LIGHT
from squall.job.kept.for_now import overdue
from squall.job.kept.hours import HoursRun, hours_run
from squall.job.kept.record import BornReading, Record, day_of
from squall.job.trouble.chain import chain_of
from squall.job.worked.assess import Assessment
from squall.job.worked.heights import lower_on
from squall.job.worked.kit import KitAssessment
from squall.job.worked.place import climate_of
from squall.words import Message, later

# Prove's points by the checks that tell of wear.
CHECK_OF = {
    "open-volts": "source-open-volts", "short-amps": "short-circuit-amps", "rest-volts": "battery-rest-volts",
    "pump-volts": "pump-volts-on", "pump-amps": "pump-amps-on", "outlet-flow": "outlet-flow",
}  # fmt: skip
# What of the first day's tests tells how the kit is, and how far the light of one may be from another's. [-]
_FIRST_DAY_TELLS = frozenset({*CHECK_OF.values(), "panel-open-volts", "cable-loop-ohms", "motor-ohms", "shut-off-head"})
_SAME_LIGHT = 0.1
# The light and air in which what the outlet gives is told. [W/m2], [°C]
ASK_LIGHT, ASK_AIR = 700.0, 20.0
# So many of the last visits are read together: older ones tell little more, and each costs time.
MOST_READ = 40
# Draws by which days ahead and remedies are told: their bands are rougher, and the page is there sooner.
ROUGHLY = 100
# How far ahead is looked, and by what steps. [months]
AHEAD_MONTHS = 36
# How far a sound kit may give less than stated: common practice, no source. [-]
STATED_OFF = 0.1
# A reading beyond this many times what a sound kit shows is a slip of the meter's range. [-]
BELIEVABLE = 20.0
DONE_WORDS: Mapping[Done, Message] = {
    "panels-cleaned": later("panels cleaned"), "joint-remade": later("a joint made anew"), "pump-cleaned": later("pump cleaned"),
    "pump-end-renewed": later("pump's end renewed"), "pump-renewed": later("pump renewed"), "hose-mended": later("hose mended"),
}  # fmt: skip


def light_read(doc: VisitDoc) -> float | None:
    """The light of a visit, where somebody read it. [W/m2]"""
    return None if doc.told_by == "light-not-known" else doc.irradiance_w_m2


@dataclass(frozen=True)
class Read:
    """A visit as it is understood, or why it isn't believed."""

    doc: VisitDoc
    visit: Visit | None
    doubt: Spoken = ""


@dataclass(frozen=True)
class Remedy:
    """What something done now would bring: the flow after it, and the day from which even so too little comes. [m3/s]"""

    done: Done
    flow_m3_s: float
    short_from: date | None


@dataclass(frozen=True)
class Kept:
    """What a kit's visits mean today.

    Attributes
    ----------
    reads : tuple of Read
        Every visit, newest first.
    worn : Worn
        What has worn, and what the outlet gives today.
    short_from, soonest, latest : date or None
        When the worst month falls under the need if nothing is done; and by the ends of the flow's band. None for not within
        three years.
    remedies : tuple of Remedy
        What brings water back, the most first.
    believed : int
        How many visits count.
    """

    reads: tuple[Read, ...]
    worn: Worn
    short_from: date | None
    soonest: date | None
    latest: date | None
    remedies: tuple[Remedy, ...]
    believed: int

    @property
    def less_beyond_doubt(self) -> bool:
        """Whether less comes than stated, whichever part it is that wears: even the upper end of the band lies under what a stated kit may be off."""
        return self.believed > 0 and self.worn.flow_high_m3_s < (1.0 - STATED_OFF) * self.worn.label_flow_m3_s


def read_visits(a: Assessment, chosen: KitAssessment, chain: Chain, docs: Sequence[VisitDoc], today: date, begun: date | None) -> tuple[Read, ...]:  # fmt: skip
    """Visits of the chosen kit as the estimate takes them; what can't be believed is kept and said.

    Parameters
    ----------
    a, chosen : Assessment, KitAssessment
        The job worked out, and the kit; each visit is read at the level of its day.
    chain : Chain
        As Fault sees it.
    docs : sequence of VisitDoc
        Newest first.
    today, begun : date, date or None
        A visit after today, or before the kit stood, is not believed.
    """
    own = {check.code for check in checks_of(chain)}
    found = []
    for doc in docs:
        if doc.option != chosen.option.name:
            found.append(Read(doc, None, later("of another kit of this job")))
            continue
        day = day_of(doc.at)
        if day > today:
            found.append(Read(doc, None, later("its day is yet to come")))
            continue
        if begun is not None and day < begun:
            found.append(Read(doc, None, later("it is older than the kit's birth certificate")))
            continue
        readings: dict[str, float | tuple[float, ...]] = {}
        odd = ""
        for value in doc.values:
            check = CHECK_OF[value.point]
            if check not in own:
                continue
            if (
                value.expected
                and not 1.0 / BELIEVABLE < max(value.measured.si, 1e-12) / value.expected < BELIEVABLE
                and value.measured.si > 0.0
            ):
                odd = value.point
                continue
            readings[check] = value.measured.si
        counts = bool(readings)
        if counts and (lower := lower_on(a.job, a.heights, day)):
            readings["pumping-water-level-drop"] = lower
        visit = Visit(day, doc.air_c, light_read(doc), readings, tuple(one for one in DONE if one in doc.done))
        doubt: Spoken = (
            later("one reading is far off anything this kit can show, and left out: was the meter on another range?")
            if odd
            else ""
        )
        found.append(Read(doc, visit if counts or visit.done else None, doubt))
    return tuple(found)


_Key = tuple[date, float, float | None, tuple[tuple[str, float | tuple[float, ...]], ...], tuple[Done, ...]]


@lru_cache(maxsize=32)
def _estimate(chain: Chain, visits: tuple[_Key, ...]) -> Estimate:
    return estimate(chain, [Visit(day, air, light, dict(rows), done) for day, air, light, rows, done in visits])


def _key(visit: Visit) -> _Key:
    return visit.day, visit.air_c, visit.irradiance_w_m2, tuple(visit.readings.items()), visit.done


def first_day(a: Assessment, chain: Chain, record: Record) -> Visit | None:
    """What was measured for the birth certificate, as a visit in the light in which its litres were measured; None without any.

    Readings that were taken in another light are left out.
    """
    own = {check.code for check in checks_of(chain)}
    told = [one for one in record.born if one.check in _FIRST_DAY_TELLS and one.check in own]
    lights = sorted((one.check != "outlet-flow", one.light_w_m2) for one in told if one.light_w_m2 is not None)
    light = lights[0][1] if lights else None

    def belongs(one: BornReading) -> bool:
        if chain.panels == 0 or one.check not in HANGS_ON_LIGHT:
            return True
        return light is not None and one.light_w_m2 is not None and abs(one.light_w_m2 - light) <= _SAME_LIGHT * light

    readings: dict[str, float | tuple[float, ...]] = {one.check: one.value for one in told if belongs(one)}
    if record.begun is None or not readings:
        return None
    if lower := lower_on(a.job, a.heights, record.begun):
        readings["pumping-water-level-drop"] = lower
    return Visit(record.begun, AIR_C, light, readings)


def taught_by(a: Assessment, chain: Chain, reads: Sequence[Read], record: Record) -> tuple[Estimate, int]:
    """What the first day and the last visits that count tell of a kit, and how many days they are."""
    believed = [read.visit for read in reads if read.visit is not None][:MOST_READ]
    first = first_day(a, chain, record)
    if first is not None:
        believed.append(first)
    return _estimate(chain, tuple(_key(visit) for visit in believed)), len(believed)


def kept_of(a: Assessment, chosen: KitAssessment, record: Record, today: date) -> Kept:
    """What the visits of the chosen kit mean, its first day among them.

    Parameters
    ----------
    a, chosen : Assessment, KitAssessment
        The job worked out, and its kit.
    record : Record
        What is kept of it.
    today : date
        The day that is asked about.
    """
    chain = chain_of(a, chosen)
    reads = read_visits(a, chosen, chain, record.docs, today, record.begun)
    found, believed = taught_by(a, chain, reads, record)
    ask = Ask(today, ASK_LIGHT, ASK_AIR)
    worn = found.at(ask)
    months = _ahead(today)
    dates = _short(chosen, found, months, ())
    remedies = []
    for done in DONE:
        touched = set(set_back_by(done, chain)) & set(states_of(chain))
        if not touched or found.last is None:
            continue
        after = found.at(ask, (done,), ROUGHLY)
        if after.flow_m3_s > worn.flow_m3_s * 1.01:
            remedies.append(Remedy(done, after.flow_m3_s, _short(chosen, found, months, (done,))[0]))
    remedies.sort(key=lambda remedy: -remedy.flow_m3_s)
    return Kept(reads, worn, *dates, tuple(remedies), believed)


def learned_now(a: Assessment, chosen: KitAssessment, record: Record, today: date) -> tuple[Learned, int]:
    """What the visits that count have taught of the chosen kit by a day, and how many they are; as :func:`kept_of` takes them."""
    chain = chain_of(a, chosen)
    found, believed = taught_by(a, chain, read_visits(a, chosen, chain, record.docs, today, record.begun), record)
    return learned_of(found, today), believed


def _ahead(today: date) -> list[date]:
    return [
        date(today.year + (today.month - 1 + n) // 12, (today.month - 1 + n) % 12 + 1, 1)
        for n in range(1, AHEAD_MONTHS + 1)
    ]


# Wear goes slowly: the flow is worked out at so many days ahead, and straight between. [months]
_SAMPLED = (0, 4, 8, 12, 18, 24, 36)


def _short(chosen: KitAssessment, found: Estimate, months: Sequence[date], done: tuple[Done, ...]) -> tuple[date | None, date | None, date | None]:  # fmt: skip
    """The first of the coming months whose need isn't met any more, by the flow thought of and by both ends of its band.

    Each month's litres are those of the kit as stated, times what is left of its flow in good light.
    """
    today = months[0] - timedelta(days=31)
    sampled = [found.at(Ask(day, ASK_LIGHT, ASK_AIR), done, ROUGHLY) for day in (max(today, found.last or today) + timedelta(days=30 * n) for n in _SAMPLED)]  # fmt: skip
    label = sampled[0].label_flow_m3_s
    if label <= 0.0:
        return None, None, None
    flows = (
        [one.flow_m3_s for one in sampled],
        [one.flow_low_m3_s for one in sampled],
        [one.flow_high_m3_s for one in sampled],
    )
    litres = chosen.season.average_litres
    days: list[date | None] = []
    for course in flows:
        left = np.interp([(day - months[0]).days / 30.0 + 1.0 for day in months], _SAMPLED, course) / label
        short = [
            day
            for day, share in zip(months, left, strict=True)
            if float(litres[day.month - 1]) * share < chosen.need_l[day.month - 1]
        ]
        days.append(short[0] if short else None)
    return days[0], days[1], days[2]


def place_of(job: Job, a: Assessment, chosen: KitAssessment, hours_a_year: float | None = None) -> Place:
    """What the chosen kit and its place ask to be looked after; hours a year as its meter has them, else as worked out. [h]"""
    carries, kit = job.carries, chosen.kit
    try:
        months = climate_of(a.job, a.parts).months
        frost = tuple(number for number, month in enumerate(months, start=1) if month.t_min_c < 0.0)
    except SquallError:
        frost = ()
    tilts = () if job.mount.second_tilt is None else (job.mount.second_first, job.mount.second_last % 12 + 1)
    return Place(
        gritty=carries.sand or carries.silt or carries.clay or carries.weed or carries.leaves,
        chemistry="" if kit.battery is None else kit.battery.chemistry,
        hangs=kit.pump.placement != "surface" and job.water in ("well", "cistern"),
        drips=job.need_by != "litres" and any(use.kind == "drip" for use in job.uses),
        roof=job.water == "cistern" and job.roof.used,
        tilts=tilts,
        frost=frost,
        life_h=chosen.kit.life_h,
        hours_a_year=chosen.season.hours_a_year if hours_a_year is None else hours_a_year,
    )


def jobs_due(job: Job, a: Assessment, chosen: KitAssessment, lasts: Mapping[str, Last], begun: date, hours_a_year: float | None = None) -> tuple[Due, ...]:  # fmt: skip
    """Everything that is due on the chosen kit, the soonest first; hours a year as :func:`place_of` takes them. [h]"""
    return due_of(tasks_of(place_of(job, a, chosen, hours_a_year)), lasts, begun)


def run_of(chosen: KitAssessment, record: Record, today: date) -> HoursRun:
    """How long the chosen kit's pump has run until a day, and by what that is known."""
    return hours_run(record, chosen.option.name, today, chosen.season.hours_a_year)


def due_now(job: Job, a: Assessment, chosen: KitAssessment, record: Record, today: date) -> tuple[Due, ...]:
    """What is due, by what was said of it, by what the visits did, and by the hours that the pump runs."""
    lasts = with_renewed(record.lasts, record.docs, chosen.option.name)
    return jobs_due(job, a, chosen, lasts, record.since(today), run_of(chosen, record, today).a_year)


def with_renewed(lasts: Mapping[str, Last], docs: Sequence[VisitDoc], option: str) -> dict[str, Last]:
    """When each job was done last, a pump renewed at a visit among them: its hours count anew from there."""
    days = [day_of(doc.at) for doc in docs if doc.option == option and "pump-renewed" in doc.done]
    last = lasts.get("pump-life", Last())
    if not days or (last.done is not None and last.done >= max(days)):
        return dict(lasts)
    return {**lasts, "pump-life": Last(max(days))}


def late_count(job: Job, due: Sequence[Due], today: date) -> int:
    """How many jobs, and parts that were for now, are over their day."""
    return sum(1 for one in due if one.late(today)) + len(overdue(job, today))


def put_off_day(today: date, days: int) -> date:
    """The day that so many days lead to.

    Raises
    ------
    BadEvidence
        For none, or for more than a year.
    """
    if not 1 <= days <= 366:
        raise BadEvidence(later("Put it off by 1 to 366 days."))
    return today + timedelta(days=days)
