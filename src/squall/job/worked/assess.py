"""Everything that follows from a job, worked out once for each state of it."""

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

from squall.catalogue import Catalogue, catalogue
from squall.core.advice.levers import Goods, Lever, levers
from squall.core.errors import NoPlace, SquallError
from squall.core.kit.cabling import Rules
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Layout
from squall.core.kit.wiring import Wiring, wiring_of
from squall.core.reason import Spoken
from squall.core.sky.typical_days import Light
from squall.core.years.use import Use
from squall.job.document.fitting import FitDoc, QuoteDoc
from squall.job.document.job import Job
from squall.job.document.remembered import Remembered
from squall.job.document.unsaid import unsaid_of
from squall.job.worked.heights import Heights, heights_of
from squall.job.worked.kit import KitAssessment, Worked, assess_option, by_learned
from squall.job.worked.needs import Part, parts_of_need, wanted_of
from squall.job.worked.own_parts import parts_of, pump_band
from squall.job.worked.resolve import layout_of, light_of
from squall.job.worked.seasons import falls_of
from squall.job.worked.use import rules_of, use_of

# How many states of jobs are remembered.
KEPT = 64


@dataclass(frozen=True)
class Assessment:
    """A job worked out: its heights, layout, need, light, how it is wired, options, and what is missing.

    `stated` is the same by its labels, where this one is by what was learned.
    """

    job: Job
    parts: Catalogue
    heights: Heights
    layout: Layout
    light: Light | None
    use: Use | None
    rules: Rules
    chosen: KitAssessment | None
    problem: Spoken | None
    stated: "Assessment | None" = None

    @cached_property
    def judged(self) -> "Assessment":
        """The same with its kit's water, and its lift, as the kit's visits taught, if somebody asked for that.

        For whoever tells what water comes. Cables, fuses and ratings stay those of the kit as stated.
        """
        if self.chosen is None or self.chosen.option.learned is None:
            return self
        taught = by_learned(self.chosen)
        lift = replace(self.layout, end_pressure_m=taught.layout.end_pressure_m)
        return replace(self, layout=lift, chosen=taught, stated=self)

    @cached_property
    def unsaid(self) -> tuple[str, ...]:
        """Fields that everything beyond the survey waits for."""
        return unsaid_of(self.job)

    @property
    def lit(self) -> Light:
        """The light on the panels, for what can't do without.

        Raises
        ------
        NoPlace
            Before a place is given.
        """
        if self.light is None:
            raise NoPlace
        return self.light

    @property
    def used(self) -> Use:
        """What is wanted and what waits, for what can't do without.

        Raises
        ------
        NoPlace
            Before a place is given.
        """
        if self.use is None:
            raise NoPlace
        return self.use

    @property
    def need_l(self) -> tuple[float, ...]:
        """Litres a day by month, headroom counted; nil before a place is given."""
        return (0.0,) * 12 if self.use is None else self.use.need_l

    @cached_property
    def need_parts(self) -> list[Part]:
        """The rows of the need; none where litres are typed."""
        return parts_of_need(self.job, self.parts) if self.job.placed else []

    @cached_property
    def wanted_l(self) -> tuple[float, ...]:
        """Litres a day by month before headroom."""
        return wanted_of(self.job, self.need_parts)

    @property
    def worked(self) -> Worked:
        """What its options are worked out from.

        Raises
        ------
        NoPlace
            Before a place is given.
        """
        return Worked(self.job, self.parts, self.layout, self.lit, self.used, self.rules)

    @property
    def pump_band(self) -> float:
        """How far the chosen pump's curve may be off, each way."""
        return self.job.doubt.pump.si if self.chosen is None else pump_band(self.job, self.chosen.kit.pump)

    @cached_property
    def wiring(self) -> Wiring | None:
        """Cables and protection of the chosen kit."""
        if self.stated is not None:
            return self.stated.wiring
        if self.chosen is None:
            return None
        return wiring_of(self.chosen.setup, self.rules, self.chosen.season.most_motor_a)

    @cached_property
    def levers(self) -> tuple[Lever, ...]:
        """Single changes of the kit as stated that are on offer, other pumps included."""
        if self.stated is not None:
            return self.stated.levers
        if self.chosen is None:
            return ()
        others = other_pumps(self.chosen.kit, self.layout, self.parts)
        goods = Goods(self.parts.stock, self.rules, others)
        return levers(self.chosen.setup, self.lit, self.chosen.use, goods)


def other_pumps(kit: Kit, layout: Layout, parts: Catalogue) -> tuple[Kit, ...]:
    """The same kit with the next weaker and next stronger pump of its volts that lifts water here."""
    rated = kit.pump.motor.rated_v
    lifting = [
        pump
        for pump in sorted(parts.stock.pumps, key=lambda p: p.rated_w)
        if pump.motor.rated_v == rated and pump.id != kit.pump.id and pump.motor.head_range[1] > layout.static_head_m
    ]
    weaker = [pump for pump in lifting if pump.rated_w <= kit.pump.rated_w]
    stronger = [pump for pump in lifting if pump.rated_w > kit.pump.rated_w]
    return tuple(replace(kit, pump=pump) for pump in weaker[-1:] + stronger[:1])


def physics_key(job: Job) -> str:
    """All of a job that a result hangs on, as text: neither its words nor its log.

    Two jobs of one key have one answer; typing the place's name or adding a visit changes nothing
    that has been worked out.
    """
    return _KEYS.get(job, (), lambda: job.model_copy(update=NO_WORDS).model_dump_json())


# What a job is called, what was logged of it, how it is fitted and quoted: no result hangs on these.
NO_WORDS: dict[str, object] = {"name": "", "place": "", "notes": "", "visits": [], "fit": FitDoc(), "quote": QuoteDoc()}


# Their keys are asked for many times a page.
_KEYS: Remembered[str] = Remembered(2 * KEPT)


@lru_cache(maxsize=KEPT)
def assess_key(key: str, held: Catalogue) -> Assessment:
    """As :func:`assess`, of a job's :func:`physics_key` and the parts there are."""
    job = Job.model_validate_json(key)
    parts = parts_of(job, held)
    layout = layout_of(job, parts)
    rules = rules_of(job, parts)
    if not job.placed:
        # Lift and run can be worked out anywhere; light, need and kits wait for the place.
        return Assessment(job, parts, heights_of(job), layout, None, None, rules, None, None)
    wanted = wanted_of(job, parts_of_need(job, parts))
    layout = replace(layout, falls=falls_of(job, parts, wanted, layout))
    light, use = light_of(job, parts), use_of(job, parts)
    chosen: KitAssessment | None = None
    problem: Spoken | None = None
    if job.option is not None and not unsaid_of(job):
        try:
            chosen = assess_option(job.option, Worked(job, parts, layout, light, use, rules))
        except SquallError as error:
            problem = error.said
    return Assessment(job, parts, heights_of(job), layout, light, use, rules, chosen, problem)


def assess(job: Job) -> Assessment:
    """Work a job out; the same physics is worked out once.

    Parameters
    ----------
    job : Job
        The document.

    Returns
    -------
    Assessment
        Its ``job`` has no name, place, notes or visits. With ``problem`` set, and no chosen kit,
        where its parts can't be worked out. Without light, need and kit before a place is given.

    Raises
    ------
    SquallError
        If the survey itself is impossible (the edit that made it so should be refused).
    """
    return assess_key(physics_key(job), catalogue())
