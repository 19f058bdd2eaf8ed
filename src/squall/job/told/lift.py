"""The lift lens worked out: what costs water, which end suits, the pump's life, the throttle, the joints."""

from dataclasses import dataclass
from math import isfinite

from squall.core.drive.known_pumps import half_of_label
from squall.core.errors import SquallError
from squall.core.explain import Figure, Input
from squall.core.hydraulics.curves import operating_point
from squall.core.hydraulics.losses import Cost, flow_on, water_costs
from squall.core.hydraulics.pipes import flow_for_loss
from squall.core.hydraulics.throttle import Throttle, throttle_for
from squall.core.kit.ends import EndAdvice, Life, advise_ends, life_of
from squall.core.kit.parts import Pump
from squall.core.sources.levels import good_enough_m
from squall.job.document.job import Job
from squall.job.told.finding import DARCY, DRIVE, Finding
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.job.worked.own_parts import Homemade, homemades
from squall.job.worked.run import bottom_m
from squall.job.worked.seasons import frozen_shut
from squall.words import Message, later, say
from squall.words.calendar import month_name
from squall.words.units import text


def lift_figures(chosen: KitAssessment) -> list[Figure]:
    """Operating point at the volts shown, and what the head is spent on."""
    layout, rated, crossing = chosen.layout, chosen.working, chosen.crossing
    pump = chosen.kit.pump
    flow = rated.flow_m3_s if rated.flow_m3_s is not None else rated.flow_at_least_m3_s
    losses = chosen.piece_losses
    friction, fittings = sum(x.friction_m for x in losses), sum(x.fittings_m for x in losses)
    fall = layout.drawdown_s_m2 * (flow or 0.0)
    flow_in = Input(say("flow"), flow, "flow")
    at_least = say(" (at least: the curve ends there)") if rated.flow_m3_s is None and flow else ""
    pump_in = (
        Input(say("pump"), pump.title, "text"),
        Input(say("volts: rated, or the brightest noon's where those bring none"), chosen.working_v, "volts"),
        Input(say("lift and end pressure"), layout.static_head_m, "head"),
    )
    figures = [
        Figure("rated-flow", say("Flow at {working:volts}{at_least}", working=chosen.working_v, at_least=at_least), flow, "flow", (*pump_in, *_pieces(chosen)),
               say("the flow at which the pump's head equals lift + friction + fittings"), DRIVE),
        Figure("total-head", say("Total dynamic head there"), layout.static_head_m + fall + friction + fittings, "head",
               (Input(say("lift and end pressure"), layout.static_head_m, "head"), Input(say("wall friction"), friction, "head"),
                Input(say("fittings"), fittings, "head"), Input(say("fall of the level"), fall, "head")),
               say("lift + end pressure + friction + fittings + what the level falls"), DARCY),
        Figure("lift-part", say("of it lift and pressure"), layout.static_head_m, "head",
               (Input(say("lift"), 0.0 if layout.closed_circuit else max(layout.lift_m, layout.highest_m), "head"),
                Input(say("pressure at the outlet"), layout.end_pressure_m, "head")),
               say("lift from the water level, not from the pump, to the outlet or a higher point before it; none in a closed circuit"),
               say("your survey")),
        Figure("friction-part", say("of it wall friction"), friction, "head", (flow_in, *_pieces(chosen)),
               say("f x L/d x v²/2g, for each piece"), DARCY),
        Figure("fittings-part", say("of it fittings"), fittings, "head", (flow_in, *_fittings(chosen)),
               say("K x v²/2g, for each piece"), say("K: EPANET 2.2 User Manual, table 3.3, where a fitting names no other source")),
    ]  # fmt: skip
    if fall > 0.0:
        figures.append(
            Figure("fall-part", say("of it the level falls"), fall, "head", (flow_in,), say("fall in proportion to the flow"), say("your survey"))
        )  # fmt: skip
    if crossing.limiting == "too-high":
        figures.append(
            Figure("head-missing", say("Head that the pump lacks at {working:volts}", working=chosen.working_v), crossing.missing_m, "head", pump_in,
                   say("lift less the head at which the pump's flow stops"), say("the pump's own points"))
        )  # fmt: skip
    return figures


def _pieces(chosen: KitAssessment) -> tuple[Input, ...]:
    line = chosen.layout.line(chosen.kit.hose)
    inputs: list[Input] = []
    for number, pipe in enumerate(line.pipes, start=1):
        inputs += [
            Input(say("piece {number} length", number=number), pipe.length_m, "length"),
            Input(say("piece {number} bore", number=number), pipe.inner_diameter_m, "bore"),
            Input(say("piece {number} roughness", number=number), pipe.roughness_m, "bore"),
        ]
    return (*inputs, Input(say("water"), line.water.temperature_c, "temperature"))


def _fittings(chosen: KitAssessment) -> tuple[Input, ...]:
    line = chosen.layout.line(chosen.kit.hose)
    return tuple(
        Input(say("piece {number} K", number=n), pipe.minor_loss_k, "number")
        for n, pipe in enumerate(line.pipes, start=1)
    )


# Hours a day that advice reckons with before a kit is chosen: a guess.
USUAL_HOURS = 6.0


def costs_of(a: Assessment, chosen: KitAssessment) -> list[Cost]:
    """Every wall and kind of fitting on the run by the water it costs, dearest first."""
    parts: list[tuple[str, str, int, float | None]] = []
    for number, piece in enumerate(a.job.run):
        parts.append(
            (say("{name}: wall of {length:length}", name=piece.name, length=piece.length.si), piece.id, number, None)
        )
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
    life: Life = life_of(chosen.kit.life_h, hours, chosen.kit.pumps * pump.price)
    word = say("brushes: common practice is 700 to 800 h") if pump.brushed else say("the pump's catalogue entry")
    inputs = (
        Input(say("hours until worn"), chosen.kit.life_h, "hours"), Input(say("hours a year here"), hours, "hours"),
        Input(say("price"), chosen.kit.pumps * pump.price, "money"),
    )  # fmt: skip
    return [
        Figure("life-months", say("Pump lasts, in months"), life.months, "number", inputs, say("12 x life / hours a year"), word),
        Figure("life-cost", say("Pumps cost a year"), life.cost_a_year, "money", inputs, say("price x hours a year / life"),
               say("the catalogue's price")),
    ]  # fmt: skip


@dataclass(frozen=True)
class Trim:
    """A wanted flow and the valve for it, or why not."""

    typed: str
    throttle: Throttle | None
    figures: list[Figure]
    problem: str


def trim_of(chosen: KitAssessment, flow_m3_s: float, typed: str) -> Trim:
    """The valve on the outlet that trims the chosen pump to a flow, at the volts shown."""
    line = chosen.layout.line(chosen.kit.hose)
    curve = chosen.working_curve
    try:
        found = throttle_for(curve, line, line.pipes[-1], flow_m3_s)
    except SquallError:
        most = text(flow_on(curve, line), "flow")
        least = text(curve.first[0], "flow")
        why = say(
            "At {working:volts} the pump gives {most} here with no valve at all; its curve speaks from {least} on.",
            working=chosen.working_v,
            most=most,
            least=least,
        )
        return Trim(typed, None, [], say("{why} There is nothing to trim to {typed}.", why=why, typed=typed))
    inputs = (
        Input(say("wanted"), flow_m3_s, "flow"), Input(say("pump's head there"), curve.head_m(flow_m3_s), "head"),
        Input(say("the line asks"), line.head_m(flow_m3_s), "head"), Input(say("outlet's bore"), line.pipes[-1].inner_diameter_m, "bore"),
    )  # fmt: skip
    figures = [
        Figure("trim-head", say("The valve has to take"), found.head_m, "head", inputs, say("pump's head - line's head"), DARCY),
        Figure("trim-k", say("K of the valve"), found.minor_loss_k, "number", inputs, say("head / (v² / 2g)"), DARCY),
        Figure("trim-open", say("A gate valve about this far open"), found.opening, "share", inputs,
               say("read between the table's rows; nothing is promised below a quarter"),
               say("Perry's Chemical Engineers' Handbook, 7th ed., table 6-4, from memory")),
    ]  # fmt: skip
    return Trim(typed, found, figures, "")


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
    if made.doc.by == "label" and made.doc.end == "centrifugal":
        half = half_of_label(made.doc.label_flow.si, made.doc.label_height.si, a.layout.static_head_m)
    return OwnView(made, flow, half)


def how_fitted(job: Job, pump: Pump) -> str:
    """What the points of a pump of the job's own are, for its file; empty for the catalogue's. In English, as files are."""
    for made in homemades(job):
        if made.part is None or made.known is None or made.part.id != pump.id:
            continue
        tests = len(made.doc.points)
        if made.doc.by == "label":
            return f"guessed from its label alone, may be off by {made.known.band:.0%}"
        if made.doc.by == "bucket":
            law = "H = A - B Q2" if made.doc.end == "centrifugal" else "Q = a - b H"
            return f"{law} fitted to {tests} bucket tests, {made.known.misfit:.1%} off them; winding guessed"
        return f"{tests} points as given; winding guessed"
    return ""


def siphon_findings(a: Assessment) -> list[Finding]:
    """An outlet that lies under the water: what runs by itself, what the pump is for, and how it is stopped."""
    fall = a.heights.fall_m
    if fall <= 0.0 or a.layout.closed_circuit:
        return []
    line = a.layout.line(None if a.chosen is None else a.chosen.kit.hose)
    flow = flow_for_loss(max(fall - a.layout.end_pressure_m, 0.0), line)
    if not isfinite(flow) or flow <= 0.0:
        said = later("The outlet lies {fall:head} under the water: once the run is full it flows by itself.", fall=fall)
    else:
        said = later("The outlet lies {fall:head} under the water: once the run is full, about {flow:flow} flows by itself, pump or no pump.",
                     fall=fall, flow=flow)  # fmt: skip
    return [
        Finding("care", said,
                (later("the pump is for filling the run, and for more than that flow; its lift is reckoned as none, for a siphon may break"),
                 later("it runs on when the pump stops, until the intake is bare: shut a valve at the outlet, or let air in at the highest point, which breaks the siphon"),
                 later("if the run climbs over a bank on its way, it must be filled there once and be tight")))
    ]  # fmt: skip


# Two ways of knowing a bottom agree within this: a guess. [m]
SAME_BOTTOM_M = 0.5


def level_findings(a: Assessment) -> list[Finding]:
    """Whether the lift is known well enough to choose a pump by, and what would make it so."""
    if a.layout.closed_circuit:
        return []
    heights = a.heights
    lift, wanted = heights.lift_m - heights.fall_m, good_enough_m(heights.lift_m or heights.fall_m)
    said = {"lift": lift, "off": heights.off_m, "wanted": wanted}
    if heights.off_m <= wanted:
        text = later("The lift of {lift:head}, ± {off:head}, is known well enough to choose a pump by.", **said)
        return [Finding("good", text)]
    by_readings = heights.level is not None
    better = (
        later("read the level once more, with a weighted tape or a contact meter")
        if by_readings
        else later("measure it: with a level or a water-filled hose step by step, or read the water below a mark")
    )
    text = later(
        "The lift of {lift:head} may be off by {off:head}: good for a first look. Know it to {wanted:head} before a pump is bought.",
        **said,
    )
    return [Finding("care", text, (better,))]


def bottom_findings(a: Assessment) -> list[Finding]:
    """Water below the bottom; and a bottom that two ways put in two places: the shallower rules, for wells fill up."""
    well, level, bottom = a.job.well, a.heights.level, bottom_m(a.job)
    if level is not None and bottom is not None and level.level.depth_m >= bottom:
        text = later("By these readings the water stands below the bottom of the well: one of them is wrong.")
        return [Finding("bad", text)]
    if well.total_depth is None or well.told_depth is None:
        return []
    felt, told = well.total_depth.si, well.told_depth.si
    if abs(felt - told) <= SAME_BOTTOM_M:
        return [Finding("good", later("Felt and told, the bottom agrees within {off:head}.", off=abs(felt - told)))]
    if felt < told:
        text = later(
            "The bottom was felt {by:head} above what was told: the well has filled up so far, or the weight hung on something. The shallower rules.",
            by=told - felt,
        )
        return [Finding("care", text, (later("have it cleaned before a pump hangs near the mud"),))]
    text = later(
        "The bottom was felt {by:head} below what was told: the shallower rules until it is felt once more.",
        by=felt - told,
    )
    return [Finding("care", text)]


def season_words(a: Assessment) -> list[Message]:
    """What the seasons take: a level that falls, months in which the intake lies bare, months in which the line is frozen shut."""
    falls = a.layout.falls
    if falls is None:
        return []
    frozen = frozen_shut(a.job, a.parts, a.layout)
    bare = [n for n, share in enumerate(falls.bare) if share > 0.0 and n not in frozen]
    said = []
    if falls.most_m > 0.0 and not a.layout.closed_circuit:
        lowest = falls.months_m.index(falls.most_m)
        said.append(
            later(
                "The {water} level falls by up to {most:head}, in {month:month}; the lift is counted with it.",
                water=later("well's") if a.job.water == "well" else later("pond's"),
                most=falls.most_m,
                month=lowest,
            )
        )
    if bare:
        said.append(
            later("The well's level falls to the pump in {months}: no water comes then.", months=_months(bare))
            if a.job.water == "well"
            else later("The pond's intake lies bare in {months}: no water comes then.", months=_months(bare))
        )
    if frozen:
        said.append(
            later(
                "In {months} the line stands full and freezes shut: no water comes then. Let it drain back, or bury it below the frost.",
                months=_months(sorted(frozen)),
            )
        )
    return said


def _months(numbers: list[int]) -> str:
    return ", ".join(month_name(number) for number in numbers)
