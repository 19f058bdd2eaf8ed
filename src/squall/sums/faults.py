"""Sums of finding what is wrong: ``checks``, ``faults``, ``diagnose``."""

from typing import Annotated, Literal

from pydantic import Field, RootModel, model_validator

from squall.core.drive.solve import PvArray, Source
from squall.core.faults.causes import Story
from squall.core.faults.chain import Chain, Way
from squall.core.faults.checks import CHECKS, Check, Kind, caution_of, checks_of, minutes_of
from squall.core.faults.diagnosis import Belief, diagnose
from squall.core.faults.next_check import NextCheck
from squall.core.faults.suspicion import Evidence
from squall.core.faults.sweep import Lit
from squall.core.hydraulics.pipes import Line
from squall.core.hydraulics.water import water_at
from squall.core.reason import Reason
from squall.sums.fields import CellCelsius, Count, Finite, Head, Irradiance, NotNegative, Positive, Strict
from squall.sums.hydraulics import LITRES_PER_MIN, PipeIn
from squall.sums.power import BatteryIn, LimitsIn, ModuleIn, MotorIn, SupplyIn
from squall.words import later

# Light and heat that a kit's panels are built with; what they stand in is said beside the kit.
_ANY_LIGHT, _ANY_CELL_C = 1000.0, 25.0
# A reading's unit here, and its measure in SI.
_UNITS: dict[Kind, tuple[str, float]] = {
    "volts": ("V", 1.0), "amps": ("A", 1.0), "ohms": ("ohm", 1.0), "flow": ("L/min", LITRES_PER_MIN), "length": ("m", 1.0),
}  # fmt: skip


class UnlitIn(Strict):
    """Panels without their light; light and heat given here are not read: they are said beside the kit."""

    module: ModuleIn
    modules_in_series: Count = 1
    strings_in_parallel: Count = 1
    irradiance_w_per_m2: Irradiance | None = None
    cell_temperature_c: CellCelsius | None = None

    def array(self) -> PvArray:
        """The core's array."""
        return PvArray(self.module.module(), self.modules_in_series, self.strings_in_parallel, _ANY_LIGHT, _ANY_CELL_C)


class UnlitPvIn(UnlitIn):
    """An array joined straight to the cable."""

    type: Literal["pv"]

    def source(self) -> Source:
        """The core's source."""
        return self.array()


class UnlitControllerIn(UnlitIn, LimitsIn):
    """An array behind a pump controller."""

    type: Literal["pv-controller"]

    def source(self) -> Source:
        """The core's source."""
        return self.behind(self.array())


class WayIn(Strict):
    """A switch in the way of the current."""

    name: Annotated[str, Field(min_length=1, max_length=80)]
    kind: Literal["toggle", "float", "timer"]


class KitIn(Strict):
    """A kit as a chain: source, source cable, fuse, switches, controller if any, pump cable, motor."""

    source: Annotated[BatteryIn | SupplyIn | UnlitPvIn | UnlitControllerIn, Field(discriminator="type")]
    source_cable_ohm: NotNegative = 0.05
    pump_cable_ohm: NotNegative
    fuse_a: Positive | None = None
    switches: Annotated[list[WayIn], Field(max_length=20, default_factory=list)]
    inputs: Annotated[list[Literal["float", "probe"]], Field(max_length=4, default_factory=list)]
    motor: MotorIn
    motor_wires: Literal[2, 3]
    brushed: bool
    placement: Literal["submersible", "surface", "bilge"]
    static_head_m: Head
    pipes: Annotated[list[PipeIn], Field(max_length=200)]
    suction_pipes: Annotated[list[PipeIn], Field(max_length=200, default_factory=list)]
    check_valve: bool
    outlet_valve: bool
    age_hours: Annotated[float, Field(ge=0.0, le=1e6, allow_inf_nan=False)] = 0.0

    def chain(self) -> Chain:
        """The core's chain."""
        pipes = tuple(pipe.pipe() for pipe in (*self.suction_pipes, *self.pipes))
        return Chain(
            source=self.source.source(), source_cable_ohm=self.source_cable_ohm, pump_cable_ohm=self.pump_cable_ohm,
            fuse_a=self.fuse_a, switches=tuple(Way(way.name, way.kind) for way in self.switches), inputs=tuple(self.inputs),
            motor=self.motor.motor(), motor_wires=self.motor_wires, brushed=self.brushed, placement=self.placement,
            line=Line(self.static_head_m, pipes, water_at(15.0)), check_valve=self.check_valve,
            outlet_valve=self.outlet_valve, age_hours=self.age_hours,
        )  # fmt: skip


class ChecksIn(Strict):
    """A kit."""

    kit: KitIn


class CheckOut(Strict):
    """One check: what it reads or answers, what it takes, and what bites."""

    check: str
    unit: str | None
    answers: list[str] | None
    minutes: float
    tools: list[str]
    where: str
    caution: str
    power: Literal["off", "on", "any"]
    words: str


class ChecksOut(RootModel[list[CheckOut]]):
    """Every check that this kit has."""


def _said(code: str) -> str:
    return str(Reason(code))


def _caution(code: str) -> str:
    return _said(f"caution-{code}") if code else ""


def _check_out(check: Check, chain: Chain) -> CheckOut:
    return CheckOut(
        check=check.code,
        unit=None if check.kind is None else _UNITS[check.kind][0],
        answers=list(check.answers) or None,
        minutes=minutes_of(check, chain),
        tools=[_said(f"tool-{tool}") for tool in check.tools],
        where=_said(f"where-{check.where}"),
        caution=_caution(caution_of(check, chain)),
        power=check.power,
        words=_said(f"check-{check.code}"),
    )


def sum_checks(given: ChecksIn) -> ChecksOut:
    """What can be looked at, felt or measured on a kit."""
    chain = given.kit.chain()
    return ChecksOut([_check_out(check, chain) for check in checks_of(chain)])


def in_si(code: str, value: float | list[float]) -> float | tuple[float, ...]:
    """A check's reading, or a list of them, in SI; of a check that is none as it stands. [of the check's kind]"""
    check = CHECKS.get(code)
    measure = 1.0 if check is None or check.kind is None else _UNITS[check.kind][1]
    return tuple(one * measure for one in value) if isinstance(value, list) else value * measure


class EvidenceIn(Strict):
    """What one check showed: a value (a list, one a panel), an answer, or that it was skipped."""

    check: str
    value: Finite | Annotated[list[Finite], Field(min_length=1, max_length=10_000)] | None = None
    answer: str | None = None
    skipped: bool = False

    @model_validator(mode="after")
    def one_of_them(self) -> "EvidenceIn":
        """Exactly one of value, answer, skipped."""
        if (self.value is not None) + (self.answer is not None) + self.skipped != 1:
            raise ValueError(later("give one of value, answer, or skipped: true"))
        return self

    def evidence(self) -> Evidence:
        """The core's piece."""
        value = None if self.value is None else in_si(self.check, self.value)
        return Evidence(self.check, value, self.answer)


class FaultsIn(ChecksIn):
    """A kit, its story, and what was seen."""

    story: Story
    evidence: Annotated[list[EvidenceIn], Field(max_length=200, default_factory=list)]

    @property
    def pieces(self) -> list[Evidence]:
        """The core's evidence."""
        return [piece.evidence() for piece in self.evidence]


class FaultOut(Strict):
    """One thing that can be wrong."""

    fault: str
    part: str
    words: str
    remedy: str
    probability: float


class FaultsOut(RootModel[list[FaultOut]]):
    """Everything that can be wrong with this kit, likeliest first."""


def _fault_out(belief: Belief) -> FaultOut:
    return FaultOut(
        fault=belief.cause,
        part=belief.part,
        words=str(belief.words),
        remedy=str(belief.remedy),
        probability=belief.share,
    )


def sum_faults(given: FaultsIn) -> FaultsOut:
    """What can be wrong with a kit, and how likely each is; what is left to 1 is nothing wrong, or none of these."""
    found = diagnose(given.kit.chain(), given.story, Lit(None, 20.0), given.pieces)
    return FaultsOut([_fault_out(belief) for belief in found.beliefs if belief.cause not in ("none", "other")])


class DiagnoseIn(FaultsIn):
    """A kit, its story, its light as far as it is known, and what was seen."""

    irradiance_w_per_m2: Irradiance | None = None
    air_c: Annotated[float, Field(ge=-40.0, le=60.0, allow_inf_nan=False)] = 20.0


class NextOut(Strict):
    """A check worth its minutes."""

    check: str
    gain_bits: float
    minutes: float
    why: str
    caution: str
    words: str


class TogetherOut(Strict):
    """Two faults that explain together what none does alone, and how likely among pairs and none of these."""

    faults: tuple[str, str]
    probability: float


class DiagnoseOut(Strict):
    """Beliefs that add up to 1, checks best first, whether enough is known, what it comes to; two at once where one can't explain."""

    beliefs: list[FaultOut]
    next: list[NextOut]
    done: bool
    verdict: str
    together: list[TogetherOut]


def _next_out(offer: NextCheck) -> NextOut:
    first, second = (Reason(f"fault-{cause}") for cause in offer.parts)
    return NextOut(
        check=offer.check.code,
        gain_bits=offer.gain_bits,
        minutes=offer.minutes,
        why=str(Reason("check-parts-two", first=first, second=second)),
        caution=_caution(offer.caution),
        words=_said(f"check-{offer.check.code}"),
    )


def sum_diagnose(given: DiagnoseIn) -> DiagnoseOut:
    """What is likely wrong with a kit, and which check to do next."""
    found = diagnose(given.kit.chain(), given.story, Lit(given.irradiance_w_per_m2, given.air_c), given.pieces)
    return DiagnoseOut(
        beliefs=[_fault_out(belief) for belief in found.beliefs],
        next=[_next_out(offer) for offer in found.advice.checks],
        done=found.advice.done,
        verdict=str(found.verdict),
        together=[TogetherOut(faults=(pair.first, pair.second), probability=pair.share) for pair in found.together],
    )
