"""One option of a job worked out."""

from dataclasses import dataclass, replace
from functools import cached_property
from hashlib import sha256

from squall.catalogue import Catalogue
from squall.core.advice.refusals import limiting_cause, place_refusal, season_refusal, supply_refusal
from squall.core.drive.motors import curve_at
from squall.core.drive.solve import Battery, DriveResult, solve
from squall.core.electrics.splices import SPLICES
from squall.core.electrics.timers import week_of
from squall.core.errors import OutOfRange
from squall.core.hydraulics.curves import OperatingPoint, PumpCurve, operating_point
from squall.core.hydraulics.pipes import PipeLoss, pipe_loss
from squall.core.kit.cabling import Rules
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Layout
from squall.core.kit.setup import Cabling, Setup, kit_price
from squall.core.reason import Reason, Spoken
from squall.core.sky.typical_days import Light
from squall.core.upkeep.learned import Learned, Part, as_learned, of_same_parts
from squall.core.years.many_days import days_of
from squall.core.years.outlook import Outlook, outlook_of
from squall.core.years.typical import Season, at_rated, year_of
from squall.core.years.use import Use
from squall.job.document.job import Job, LearnedDoc, OptionDoc
from squall.job.worked.resolve import cabling_of, kit_of
from squall.job.worked.use import tank_of


@dataclass(frozen=True)
class KitAssessment:
    """One option worked out."""

    option: OptionDoc
    kit: Kit
    cabling: Cabling
    layout: Layout
    light: Light
    season: Season
    use: Use
    price: float
    refusal: Spoken | None

    @cached_property
    def setup(self) -> Setup:
        """The kit on its line with its cables."""
        return Setup(self.kit, self.layout, self.cabling)

    @property
    def need_l(self) -> tuple[float, ...]:
        """Litres a day by month, headroom counted."""
        return self.use.need_l

    @cached_property
    def outlook(self) -> Outlook:
        """Ten made years of it, day by day."""
        return outlook_of(self.setup, days_of(self.light), self.season.means, self.use)

    @cached_property
    def worst_month(self) -> int:
        """Month in which least of the need is covered, January 0."""
        return self.season.worst_month(self.need_l)

    @property
    def worst_litres(self) -> float:
        """Litres a day in the worst month, the mean of its days."""
        return float(self.season.average_litres[self.worst_month])

    @property
    def worst_share(self) -> float:
        """That over the need."""
        return float(self.season.share_of(self.need_l)[self.worst_month])

    @property
    def holds(self) -> bool:
        """Whether each month's days cover the need on the mean, and ten years bring no more short days than allowed."""
        return self.refusal is None and self.worst_share >= 1.0 and self.outlook.short_in_a_hundred <= self.use.allowed

    @cached_property
    def _rated(self) -> DriveResult:
        return at_rated(self.kit, self.layout)

    @cached_property
    def working_v(self) -> float:
        """Volts at which the lift is shown: the pump's rated ones, or those of the year's brightest noon where the rated
        ones bring no water. [V]
        """
        noon = self.season.noon_motor_v
        return noon if not self._rated.flows and noon > self.kit.pump.motor.rated_v else self.kit.pump.motor.rated_v

    @cached_property
    def working(self) -> DriveResult:
        """The pump on this line at those volts."""
        if self.working_v == self.kit.pump.motor.rated_v:
            return self._rated
        return solve(Battery(self.working_v, 0.0), 0.0, self.kit.pump.motor, self.layout.line(self.kit.hose))

    @cached_property
    def working_curve(self) -> PumpCurve:
        """The pump's curve at those volts."""
        return curve_at(self.kit.pump.motor, self.working_v)

    @cached_property
    def crossing(self) -> OperatingPoint:
        """Where that curve meets the line."""
        return operating_point(self.working_curve, self.layout.line(self.kit.hose))

    @cached_property
    def piece_losses(self) -> tuple[PipeLoss, ...]:
        """Loss of every piece of the run at that flow (nil where there is none)."""
        flow = self.working.flow_m3_s or self.working.flow_at_least_m3_s or 0.0
        line = self.layout.line(self.kit.hose)
        return tuple(pipe_loss(flow, pipe, line.water) for pipe in line.pipes)

    @cached_property
    def held_back_by(self) -> Reason:
        """What most holds the kit back."""
        return limiting_cause(self.kit, self.layout, self.season, self.use)


def part_marks(kit: Kit, layout: Layout, cabling: Cabling) -> dict[Part, str]:
    """What tells each part that something can be learned of from another one, short."""
    pump, panel = kit.pump, kit.panel
    said: dict[Part, object] = {
        "pump": (pump.id, pump.motor.rated_v, pump.motor.points), "panel": (panel.id, panel.module.isc_a, panel.module.voc_v),
        "cable": (cabling.pump.key, layout.pump_cable_m, [(one.run, one.length_m, one.conductor.key) for one in layout.cable_pieces]),
        "hose": (kit.hose and kit.hose.id, [(one.length_m, one.inner_diameter_m) for one in layout.pieces]),
        "lift": (layout.static_head_m, layout.end_pressure_m),
    }  # fmt: skip
    return {part: sha256(repr(what).encode()).hexdigest()[:12] for part, what in said.items()}


def same_parts(chosen: KitAssessment, learned: LearnedDoc) -> tuple[Part, ...]:
    """Of which parts what was learned still tells: those that are as they were that day."""
    now = part_marks(chosen.kit, chosen.layout, chosen.cabling)
    return tuple(part for part, mark in now.items() if learned.of.get(part) == mark)


def by_learned(chosen: KitAssessment) -> KitAssessment:
    """An option with its water as its visits taught, if somebody asked for that; else the same.

    Its price, and whether a part would be harmed, stay those of the kit as stated: dirt is washed off one day.
    """
    doc = chosen.option.learned
    if doc is None:
        return chosen
    learned = Learned(**doc.model_dump(exclude={"day", "visits", "of"}))
    return as_taught(chosen, of_same_parts(learned, same_parts(chosen, doc)))


def as_taught(chosen: KitAssessment, learned: Learned) -> KitAssessment:
    """An option with its water by what was learned of it."""
    setup = as_learned(chosen.setup, learned)
    season = year_of(setup, chosen.light, chosen.use)
    return replace(chosen, kit=setup.kit, layout=setup.layout, cabling=setup.cabling, season=season)


@dataclass(frozen=True, eq=False)
class Worked:
    """What of a job an option is worked out from."""

    job: Job
    parts: Catalogue
    layout: Layout
    light: Light
    use: Use
    rules: Rules


def assess_option(option: OptionDoc, on: Worked) -> KitAssessment:
    """Work one option out.

    Parameters
    ----------
    option : OptionDoc
        The kit as a document.
    on : Worked
        The job.

    Returns
    -------
    KitAssessment
        Season, price, and the reason if a part would be harmed.

    Raises
    ------
    SquallError
        If a part is unknown or contradicts itself.
    """
    kit = kit_of(option, on.parts)
    cabling = cabling_of(option, on.rules.cable_prices, (*on.rules.contacts(kit), SPLICES[on.rules.splice].ohm))
    setup = Setup(kit, on.layout, cabling)
    use, refusal = on.use, None
    try:
        use = use.with_tank(tank_of(on.job, kit.tank))
        week_of(use.bank.timer, 1)
    except OutOfRange as error:
        use, refusal = replace(on.use, bank=replace(use.bank, timer=())), error.said
    season = year_of(setup, on.light, use)
    refusal = refusal or supply_refusal(kit) or place_refusal(kit, on.layout, on.light) or season_refusal(setup, season)
    return KitAssessment(option, kit, cabling, on.layout, on.light, season, use, kit_price(setup), refusal)
