"""The lift lens worked out: what costs water, which end suits, the pump's life, the throttle, the joints."""

from dataclasses import dataclass

from squall.core.ends import EndAdvice, Life, advise_ends, life_of
from squall.core.errors import SquallError
from squall.core.explain import Figure, Input
from squall.core.joints import End, Joint, clamps, joints_along
from squall.core.pump_tests import half_of_label
from squall.core.pumps import operating_point
from squall.core.throttle import Throttle, throttle_for
from squall.core.water_costs import Cost, flow_on, water_costs
from squall.job.assess import Assessment, KitAssessment
from squall.job.figures import DARCY
from squall.job.homemade import Homemade
from squall.units import System, text

# Hours a day that advice reckons with before a kit is chosen: a guess.
USUAL_HOURS = 6.0


def costs_of(a: Assessment, chosen: KitAssessment) -> list[Cost]:
    """Every wall and kind of fitting on the run by the water it costs, dearest first."""
    parts: list[tuple[str, str, int, float | None]] = []
    for number, piece in enumerate(a.job.run):
        parts.append((f"{piece.name}: wall of {piece.length.typed}", piece.id, number, None))
        for key, count in piece.fittings.items():
            fitting = a.parts.fittings[key]
            label = f"{piece.name}: {count} x {fitting.name}" if count > 1 else f"{piece.name}: {fitting.name}"
            parts.append((label, piece.id, number, fitting.minor_loss_k * count))
    curve = chosen.working_curve
    return water_costs(curve, chosen.layout.line(chosen.kit.hose), parts)


def ends_of(a: Assessment) -> list[EndAdvice]:
    """How each pump end suits this job's head, flow, grit and hours."""
    chosen = a.chosen
    carries = a.job.carries
    hours = chosen.season.hours_a_year / 365.0 if chosen is not None else USUAL_HOURS
    flow = max(a.need_l) / 1000.0 / (max(hours, 1.0) * 3600.0)
    head = a.layout.line(chosen.kit.hose if chosen is not None else None).head_m(flow)
    gritty, dirty = carries.sand or carries.clay, carries.weed or carries.leaves or carries.silt
    return advise_ends(head, flow, gritty, dirty, hours, a.job.want.mended_by == "hand")


def life_figures(chosen: KitAssessment) -> list[Figure]:
    """Months until the pump is worn at this job's hours, and what that costs a year."""
    pump, hours = chosen.kit.pump, chosen.season.hours_a_year
    life: Life = life_of(pump.life_h, hours, pump.price)
    word = "brushes: common practice is 700 to 800 h" if pump.brushed else "the pump's catalogue entry"
    inputs = (
        Input("hours until worn", pump.life_h, "hours"), Input("hours a year here", hours, "hours"),
        Input("price", pump.price, "money"),
    )  # fmt: skip
    return [
        Figure("life-months", "Pump lasts, in months", life.months, "number", inputs, "12 x life / hours a year", word),
        Figure("life-cost", "Pumps cost a year", life.cost_a_year, "money", inputs, "price x hours a year / life",
               "the catalogue's price"),
    ]  # fmt: skip


@dataclass(frozen=True)
class Trim:
    """A wanted flow and the valve for it, or why not."""

    typed: str
    throttle: Throttle | None
    figures: list[Figure]
    problem: str


def trim_of(chosen: KitAssessment, flow_m3_s: float, typed: str, units: System) -> Trim:
    """The valve on the outlet that trims the chosen pump to a flow, at the volts shown."""
    line = chosen.layout.line(chosen.kit.hose)
    curve = chosen.working_curve
    try:
        found = throttle_for(curve, line, line.pipes[-1], flow_m3_s)
    except SquallError:
        most = text(flow_on(curve, line), "flow", units)
        least = text(curve.first[0], "flow", units)
        why = f"At {chosen.working_v:.3g} V the pump gives {most} here with no valve at all; its curve speaks from {least} on."
        return Trim(typed, None, [], f"{why} There is nothing to trim to {typed}.")
    inputs = (
        Input("wanted", flow_m3_s, "flow"), Input("pump's head there", curve.head_m(flow_m3_s), "head"),
        Input("the line asks", line.head_m(flow_m3_s), "head"), Input("outlet's bore", line.pipes[-1].inner_diameter_m, "bore"),
    )  # fmt: skip
    figures = [
        Figure("trim-head", "The valve has to take", found.head_m, "head", inputs, "pump's head - line's head", DARCY),
        Figure("trim-k", "K of the valve", found.minor_loss_k, "number", inputs, "head / (v² / 2g)", DARCY),
        Figure("trim-open", "A gate valve about this far open", found.opening, "share", inputs,
               "read between the table's rows; nothing is promised below a quarter",
               "Perry's Chemical Engineers' Handbook, 7th ed., table 6-4, from memory"),
    ]  # fmt: skip
    return Trim(typed, found, figures, "")


@dataclass(frozen=True)
class JointList:
    """Joints along the run, clamps to buy, and how many sizes don't meet."""

    joints: list[Joint]
    clamps: int

    @property
    def misfits(self) -> int:
        """Joints whose sizes don't meet."""
        return sum(not joint.meets for joint in self.joints)


def joints_of(a: Assessment, chosen: KitAssessment) -> JointList:
    """What joins what from the pump's barb to the outlet."""
    ends = []
    for piece, laid in zip(a.job.run, chosen.layout.pieces, strict=True):
        hose = chosen.kit.hose if chosen.kit.hose is not None and laid.replaceable else a.parts.hoses.get(piece.hose)
        bore = hose.inner_diameter_m if hose is not None else piece.bore.si
        ends.append(End(piece.name, bore, hose is not None and hose.name.startswith("pipe")))
    joints = joints_along(chosen.kit.pump.barb_m, ends[chosen.layout.suction_pieces :])
    return JointList(joints, clamps(joints))


@dataclass(frozen=True)
class OwnView:
    """An own pump on the page: what was made of it, its flow at this job's lift, and the half-of-label rule."""

    made: Homemade
    at_lift_m3_s: float | None
    half_label_m3_s: float | None


def own_view(a: Assessment, made: Homemade) -> OwnView:
    """What an own pump gives on this job's line at its own volts, beside half of its label."""
    flow = half = None
    if made.part is not None:
        found = operating_point(made.part.motor.rated_curve, a.layout.line(None))
        flow = found.flow_m3_s
    if made.doc.by == "label":
        half = half_of_label(made.doc.label_flow.si, made.doc.label_height.si, a.layout.static_head_m)
    return OwnView(made, flow, half)
