"""Everything that follows from a job, worked out once for each state of it."""

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

from squall.catalogue import Catalogue, catalogue
from squall.core.choose import Ranked, Ranking, limiting_cause, place_refusal, season_refusal
from squall.core.conductors import CableChoice, Conductor, rate
from squall.core.drive import Battery, DriveResult, solve
from squall.core.errors import SquallError
from squall.core.kits import (
    CONDUCTOR_C,
    TOUCH_LIMIT_V,
    Cabling,
    Kit,
    Layout,
    design_current_a,
    kit_price,
    pump_run_m,
    table_for,
)
from squall.core.levers import Lever, levers
from squall.core.motors import curve_at
from squall.core.parts import Device
from squall.core.pipes import PipeLoss, pipe_loss
from squall.core.protection import LoopPart, Protection, protect, stall_current
from squall.core.pumps import OperatingPoint, PumpCurve, operating_point
from squall.core.season import Season, at_rated, year_of
from squall.core.sun import Light
from squall.job.document import Job, OptionDoc
from squall.job.homemade import parts_of, pump_band
from squall.job.needs import Part, need_of, parts_of_need, wanted_of
from squall.job.resolve import Heights, cabling_of, devices_of, heights_of, kit_of, layout_of, light_of


@dataclass(frozen=True)
class CableRun:
    """One run of cable with its figures: drop at `drop_a` of `volts_v`, ampacity for `amps_a`."""

    key: str
    name: str
    volts_v: float
    drop_a: float
    amps_a: float
    one_way_m: float
    choice: CableChoice
    within_drop: bool
    within_ampacity: bool


@dataclass(frozen=True)
class Wiring:
    """Both runs, the protection, and whether the source can push a stall current at all."""

    runs: tuple[CableRun, ...]
    protection: Protection
    continuous_a: float
    source_limited: bool
    string_fuse_needed: bool
    open_cold_v: float


@dataclass(frozen=True)
class KitAssessment:
    """One option worked out."""

    option: OptionDoc
    kit: Kit
    cabling: Cabling
    layout: Layout
    season: Season
    need_l: tuple[float, ...]
    price: float
    refusal: str | None

    @cached_property
    def worst_month(self) -> int:
        """Month in which least of the need is covered, January 0."""
        return self.season.worst_month(self.need_l)

    @property
    def worst_litres(self) -> float:
        """Litres on the average day of the worst month."""
        return float(self.season.average_litres[self.worst_month])

    @property
    def worst_share(self) -> float:
        """That over the need."""
        return float(self.season.share_of(self.need_l)[self.worst_month])

    @property
    def holds(self) -> bool:
        """Whether the worst month's average day covers the need."""
        return self.refusal is None and self.worst_share >= 1.0

    @cached_property
    def _rated(self) -> DriveResult:
        return at_rated(self.kit, self.layout)

    @cached_property
    def working_v(self) -> float:
        """Volts at which the lift is shown: the pump's rated ones, or those of the year's brightest noon where the rated
        ones bring no water. [V]
        """
        noon = self.season.most_motor_v
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
    def held_back_by(self) -> str:
        """What most holds the kit back."""
        return limiting_cause(self.kit, self.layout, self.season)


@dataclass(frozen=True)
class Assessment:
    """A job worked out: its heights, layout, need, light, options, and what is missing."""

    job: Job
    parts: Catalogue
    heights: Heights
    layout: Layout
    light: Light
    need_l: tuple[float, ...]
    chosen: KitAssessment | None
    problem: str | None

    @cached_property
    def missing(self) -> tuple[str, ...]:
        """What a person still has to do, in order."""
        gaps = []
        if not any(self.need_l):
            gaps.append("no need is set")
        if self.chosen is None:
            gaps.append("no kit is chosen")
        if not self.job.visits:
            gaps.append("nothing is measured yet")
        return tuple(gaps)

    @cached_property
    def need_parts(self) -> list[Part]:
        """The rows of the need; none where litres are typed."""
        return parts_of_need(self.job, self.parts)

    @cached_property
    def wanted_l(self) -> tuple[float, ...]:
        """Litres a day by month before headroom."""
        return wanted_of(self.job, self.need_parts)

    @property
    def pump_band(self) -> float:
        """How far the chosen pump's curve may be off, each way."""
        return self.job.doubt.pump.si if self.chosen is None else pump_band(self.job, self.chosen.kit.pump)

    @cached_property
    def wiring(self) -> Wiring | None:
        """Cables and protection of the chosen kit."""
        return None if self.chosen is None else wiring_of(self.job, self.chosen, devices_of(self.job, self.parts))

    @cached_property
    def levers(self) -> tuple[Lever, ...]:
        """Single changes that are on offer, other pumps included."""
        if self.chosen is None:
            return ()
        stock = self.parts.stock
        return levers(
            self.chosen.kit, self.chosen.cabling, self.layout, self.light, self.need_l, stock,
            self.job.wire_standard, other_pumps(self.chosen.kit, self.layout, self.parts),
        )  # fmt: skip


def other_pumps(kit: Kit, layout: Layout, parts: Catalogue) -> tuple[Kit, ...]:
    """The same kit with the next weaker and next stronger pump of its volts that lifts water here."""
    rated = kit.pump.motor.rated_v
    lifting = [
        pump
        for pump in sorted(parts.pumps.values(), key=lambda p: p.rated_w)
        if pump.motor.rated_v == rated and pump.id != kit.pump.id and pump.motor.head_range[1] > layout.static_head_m
    ]
    weaker = [pump for pump in lifting if pump.rated_w <= kit.pump.rated_w]
    stronger = [pump for pump in lifting if pump.rated_w > kit.pump.rated_w]
    return tuple(replace(kit, pump=pump) for pump in weaker[-1:] + stronger[:1])


def assess_option(
    option: OptionDoc, layout: Layout, light: Light, need_l: tuple[float, ...], parts: Catalogue
) -> KitAssessment:
    """Work one option out.

    Parameters
    ----------
    option : OptionDoc
        The kit as a document.
    layout, light, need_l
        Of the job.
    parts : Catalogue
        With the job's own pumps.

    Returns
    -------
    KitAssessment
        Season, price, and the reason if a part would be harmed.

    Raises
    ------
    SquallError
        If a part is unknown or contradicts itself.
    """
    kit, cabling = kit_of(option, parts), cabling_of(option)
    season = year_of(kit, layout, cabling, light)
    refusal = place_refusal(kit, layout) or season_refusal(kit, layout, season)
    return KitAssessment(option, kit, cabling, layout, season, need_l, kit_price(kit, layout, cabling), refusal)


@lru_cache(maxsize=256)
def _assess(core_of_job: str) -> Assessment:
    job = Job.model_validate_json(core_of_job)
    parts = parts_of(job, catalogue())
    layout, light, need = layout_of(job, parts), light_of(job, parts), need_of(job, parts)
    chosen, problem = None, None
    if job.option is not None:
        try:
            chosen = assess_option(job.option, layout, light, need, parts)
        except SquallError as error:
            problem = str(error)
    return Assessment(job, parts, heights_of(job), layout, light, need, chosen, problem)


def assess(job: Job) -> Assessment:
    """Work a job out; the same state of it is worked out once.

    Parameters
    ----------
    job : Job
        The document.

    Returns
    -------
    Assessment
        With ``problem`` set, and no chosen kit, where its parts can't be worked out.

    Raises
    ------
    SquallError
        If the survey itself is impossible (the edit that made it so should be refused).
    """
    return _assess(job.model_dump_json())


def wiring_of(job: Job, chosen: KitAssessment, devices: tuple[Device, ...]) -> Wiring:
    """Cables, fuse and stall of a kit.

    Parameters
    ----------
    job : Job
        For drop allowed and kind of protection.
    chosen : KitAssessment
        The kit.
    devices : tuple[Device, ...]
        In the pump's loop.

    Returns
    -------
    Wiring
        One or two runs and the protection of the pump's loop.
    """
    kit, layout, cabling, season = chosen.kit, chosen.layout, chosen.cabling, chosen.season
    design = design_current_a(kit, table_for(kit.pump.motor, layout.line(kit.hose)))
    running = max(season.most_motor_a, design)
    metres = pump_run_m(kit, layout)
    runs = [_run("pump", _pump_run_name(kit), job, (kit.system_v, design, running), metres, cabling.pump, layout)]
    if cabling.array is not None:
        module = kit.panel.module
        load = (module.vmp_v * kit.in_series, module.imp_a * kit.in_parallel, module.isc_a * kit.in_parallel)
        runs.append(_run("array", "panel to box", job, load, layout.array_cable_m, cabling.array, layout))
    motor = kit.pump.motor
    source_limited = kit.source != "battery"
    if source_limited:
        array_short = kit.panel.module.isc_a * kit.in_parallel
        free = motor.rated_v / max(motor.resistance_ohm + runs[0].choice.resistance_ohm, 1e-6)
        stall = min(array_short, free) if kit.controller is None else min(kit.controller.max_a, free)
    else:
        stall = stall_current(kit.bank_v, kit.bank_ohm + runs[0].choice.resistance_ohm, motor.resistance_ohm)
    protection = protect(
        running,
        runs[0].choice.ampacity_a,
        tuple(LoopPart(device.name, device.rating_a) for device in devices),
        stall,
        job.protection,
        kit.pump.max_fuse_a,
    )
    return Wiring(
        tuple(runs), protection, running, source_limited, kit.in_parallel >= 3, kit.open_cold_v(layout.record_low_c)
    )


def _pump_run_name(kit: Kit) -> str:
    return {"panel": "panel to pump", "controller": "controller to pump", "battery": "battery to pump"}[kit.source]


def _run(
    key: str, name: str, job: Job, load: tuple[float, float, float], metres: float, size: Conductor, layout: Layout
) -> CableRun:
    volts, drop_a, amps = load
    choice = rate(size, volts, drop_a, metres, layout.ambient_c, CONDUCTOR_C)
    within_drop = choice.drop_fraction <= job.max_drop.si * 1.0001
    return CableRun(key, name, volts, drop_a, amps, metres, choice, within_drop, amps <= choice.ampacity_a)


__all__ = [
    "TOUCH_LIMIT_V", "Assessment", "CableRun", "KitAssessment", "Ranked", "Ranking", "Wiring", "assess",
    "assess_option", "wiring_of",
]  # fmt: skip
