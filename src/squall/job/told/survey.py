"""The survey's derived figures, each with what it was computed from, how, and on whose word."""

from squall.core.explain import Figure, Input
from squall.core.hydraulics.pressures import lowest_pressure, sag_after
from squall.core.hydraulics.suction import BOILING_MARGIN_M, barometer_m
from squall.core.kit.layout import Layout
from squall.core.sources.levels import WAYS
from squall.core.sources.wells import HangingRoom, judge_hang, minutes_of_storage, outpumped
from squall.job.document.base import own
from squall.job.told.finding import Finding
from squall.job.told.lift import siphon_findings
from squall.job.told.sources import season_findings
from squall.job.worked.assess import Assessment
from squall.job.worked.heights import reading_level
from squall.job.worked.kit import KitAssessment
from squall.job.worked.run import (
    bottom_m,
    flow_now,
    heights_along,
    lowest_depth,
    pump_suction,
    pumping_depth,
    room_of,
    stations_of,
)
from squall.words import later, say
from squall.words.units import text

DEEPER = later("Hanging it deeper costs cable and hose, not head.")
YIELD_ANSWERS = (
    later("turn the speed down, if it has a dial"),
    later("throttle the outlet (the Lift page says how far), never the suction"),
    later("fit a low-level probe that stops it before it sucks air"),
    later("let it run on a float switch in the sunny hours only, so that the well recovers"),
    later("take a smaller pump"),
)


def well_findings(a: Assessment) -> list[Finding]:
    """Hanging depth, yield, and what the pumping test says."""
    found = []
    well = a.job.well
    if a.heights.problem:
        found.append(Finding("care", say("The pumping test isn't used yet: {problem}", problem=a.heights.problem)))
    if a.heights.test is not None and a.heights.test.misfit_m > 0.25 * a.heights.test.per_cycle_m:
        off = text(a.heights.test.misfit_m, "head")
        found.append(
            Finding(
                "care", say("The test's levels lie {off} off a straight line over log time: read them again.", off=off)
            )
        )
    room = room_of(a)
    if room is not None and well.hang_depth is not None:
        found.append(_hang_finding(well.hang_depth.si, room))
    found += season_findings(a)
    if a.chosen is not None and well.gives is not None:
        found.append(_yield_finding(a, a.chosen, well.gives.si))
    return found


def _hang_finding(hang_m: float, room: HangingRoom) -> Finding:
    def head(metres: float) -> str:
        return text(metres, "head")

    verdict = judge_hang(hang_m, room)
    top, deepest = head(room.shallowest_m), "" if room.deepest_m is None else head(room.deepest_m)
    if verdict == "no-room":
        return Finding(
            "bad",
            say(
                "There is no room for this pump: {top} down keeps it covered at the lowest pumping level, {deepest} keeps it clear of the bottom. Pump less, so that the level falls less.",
                top=top,
                deepest=deepest,
            ),
        )
    if verdict == "may-run-dry":
        return Finding(
            "bad",
            say(
                "At {hang} it may run dry: {top} keeps it covered at the lowest level. {DEEPER}",
                hang=head(hang_m),
                top=top,
                DEEPER=DEEPER,
            ),
        )
    if verdict == "in-the-mud":
        return Finding(
            "bad",
            say(
                "At {hang} it hangs in the mud: {deepest} keeps it clear of the bottom.",
                hang=head(hang_m),
                deepest=deepest,
            ),
        )
    until = say(" to {deepest}", deepest=deepest) if deepest else say(" or deeper")
    return Finding(
        "good",
        say(
            "At {hang} it hangs well: {top}{until} will do. {DEEPER}",
            hang=head(hang_m),
            top=top,
            until=until,
            DEEPER=DEEPER,
        ),
    )


def _yield_finding(a: Assessment, chosen: KitAssessment, gives: float) -> Finding:
    flow = chosen.season.most_flow_m3_s
    taken, given = text(flow, "flow"), text(gives, "flow")
    if not outpumped(flow, gives):
        return Finding(
            "good", say("At its most the pump takes {taken}; the well gives {given}.", taken=taken, given=given)
        )
    runs = ""
    if a.job.well.bore is not None:
        minutes = minutes_of_storage(a.job.well.bore.si, chosen.layout.pump_below_m, flow, gives)
        runs = (
            say(" The water standing over the pump lasts about {minutes:.0f} minutes.", minutes=minutes)
            if minutes is not None
            else ""
        )
    words = say(
        "The pump takes more than the well gives: {taken} against {given}. It will suck air.{runs}",
        taken=taken,
        given=given,
        runs=runs,
    )
    return Finding("bad", words, YIELD_ANSWERS)


def suction_findings(a: Assessment) -> list[Finding]:
    """Whether a surface pump can draw, and how it is primed."""
    chosen = a.chosen
    check = pump_suction(chosen) if chosen is not None else None
    if chosen is None or check is None:
        return []
    stands, limit = text(check.stands_m, "head"), text(max(check.limit_m, 0.0), "head")
    found = []
    if check.spare_m < 0.0:
        answers = (
            say("lower the pump"),
            say("widen or shorten the suction, with fewer bends"),
            say("take a pump that stands in the water"),
        )
        found.append(
            Finding(
                "bad",
                say(
                    "It stands {stands} above the water; here it can pull up {limit} at full flow.",
                    stands=stands,
                    limit=limit,
                ),
                answers,
            )
        )
    else:
        said = say(
            "It stands {stands} above the water and can pull up {limit} at full flow.", stands=stands, limit=limit
        )
        found.append(Finding("good", said))
    suction = a.job.run[: chosen.layout.suction_pieces]
    if not suction:
        found.append(
            Finding(
                "care",
                say("No piece of the run is marked as suction, so its losses are not counted: mark the first piece."),
            )
        )
    footed = any("foot" in piece.fittings for piece in suction)
    if not chosen.kit.pump.self_priming and not footed:
        found.append(
            Finding(
                "care",
                say("This pump doesn't prime itself: fit a foot valve and fill the suction before it is switched on."),
            )
        )
    return found


def run_findings(a: Assessment) -> list[Finding]:
    """Highest point, filling and venting, low pressure, and whether the run drains back."""
    found: list[Finding] = []
    layout, chosen = a.layout, a.chosen
    found += siphon_findings(a)
    if not layout.closed_circuit and layout.highest_m > layout.lift_m + 0.05:
        over = text(layout.highest_m - layout.lift_m, "head")
        found.append(
            Finding("care", say("The run climbs {over} higher than its outlet. The pump has to push over that point; vent it, for air gathers there.", over=over))
        )  # fmt: skip
    if chosen is not None:
        found += _pressure_findings(a, chosen)
        found.append(drain_finding(a, chosen))
    return found


def _pressure_findings(a: Assessment, chosen: KitAssessment) -> list[Finding]:
    layout = chosen.layout
    found = []
    limit = -(barometer_m(layout.altitude_m, layout.water) - BOILING_MARGIN_M)
    if layout.closed_circuit:
        found.append(_filling_finding(layout, chosen))
    places = stations_of(chosen)
    if places:
        low = lowest_pressure(places)
        said = text(abs(low.pressure_m), "head")
        if low.pressure_m < limit:
            found.append(Finding("bad", say("At the {name} the water would stand under {said} of suction: it boils there and the column parts. Lower that point, or put pressure on the circuit.", name=low.name, said=said)))  # fmt: skip
        elif low.pressure_m < -0.5 and low.name != say("pump, suction side"):
            found.append(Finding("care", say("At the {name} the water stands under {said} of suction: every leak there draws in air. Make it tight, with a vent that can be shut.", name=low.name, said=said)))  # fmt: skip
    return found


def _filling_finding(layout: Layout, chosen: KitAssessment) -> Finding:
    top = layout.highest_m
    most = max(height for _, height in chosen.working_curve.points)
    high, reach = text(top, "head"), text(most, "head")
    allowed = barometer_m(layout.altitude_m, layout.water) - BOILING_MARGIN_M
    if top > allowed:
        at_most = text(allowed, "head")
        return Finding(
            "bad",
            say(
                "The circuit rises {high}; above {at_most} the water boils at the top at this altitude.",
                high=high,
                at_most=at_most,
            ),
        )
    if top <= most:
        return Finding("good", say("The circuit rises {high}; the pump reaches {reach} and can fill it by itself. Open the vent at the top until water comes, then shut it.", high=high, reach=reach))  # fmt: skip
    return Finding(
        "care",
        say("The circuit rises {high}, the pump reaches only {reach}: it runs such a circuit but can't fill it.", high=high, reach=reach),
        (say("fill it through a tee at the highest point, with the pump off and both ends under water"),
         say("let the air out at the top until water stands there, and shut the vent tight"),
         say("then start the pump")),
    )  # fmt: skip


def drain_finding(a: Assessment, chosen: KitAssessment) -> Finding:
    """Whether the run empties itself when the pump stops."""
    layout, pump = chosen.layout, chosen.kit.pump
    if a.heights.fall_m > 0.0 and not layout.closed_circuit:
        return Finding("care", later("When the pump stops this run doesn't drain back: water runs on to the outlet until air gets in or the source is bare."))  # fmt: skip
    count = layout.suction_pieces if pump.placement == "surface" else 0
    heights = heights_along(layout, pump)[count:]
    valves = [piece.name for piece in a.job.run if piece.fittings.get("check") or piece.fittings.get("foot")]
    if layout.closed_circuit:
        return Finding("care", say("A closed circuit stays full: in frost keep it moving, or drain it by hand."))
    sag = sag_after(heights, layout.pump_m(pump))
    if sag is not None:
        name = a.job.run[count + sag].name
        return Finding("care", say("The run doesn't drain back: it falls along “{name}”, and the water left there can freeze. Put a drain cock at the low place, or bury it.", name=name))  # fmt: skip
    if valves:
        return Finding("care", say("The run falls all the way to the pump, but the check or foot valve on “{valves}” holds it full: drill a small bleed hole or take the valve out if it shall drain in frost.", valves=valves[0]))  # fmt: skip
    return Finding("good", say("The run falls all the way back to the pump, so it drains when the pump stops."))


def water_findings(a: Assessment) -> list[Finding]:
    """What the water brings along, and who drinks it."""
    carries, pump = a.job.carries, a.chosen.kit.pump if a.chosen is not None else None
    found = []
    if pump is not None and pump.end == "helical" and (carries.sand or carries.clay):
        found.append(
            Finding("bad", say("Sand and red clay cut a helical pump's stator: a centrifugal end stands them better."))
        )
    if pump is not None and pump.end in ("diaphragm", "piston") and (carries.sand or carries.leaves or carries.weed):
        found.append(
            Finding(
                "care", say("Grit and rubbish hold a {end} pump's valves open: screen the intake finely.", end=pump.end)
            )
        )
    if carries.weed or carries.leaves:
        found.append(
            Finding(
                "care",
                say(
                    "Hang the pump under a float, about {depth:head} down, or in a crate with a screen; clean it often.",
                    depth=0.5,
                ),
            )
        )
    if carries.silt or carries.clay:
        found.append(Finding("care", say("Keep the intake well off the bottom, and never bury it in mud.")))
    if carries.drunk_by == "people":
        found.append(
            Finding("care", say("People drink this: use parts made for drinking water, wipe them with dilute bleach, disinfect the source after the work, keep a gap against backflow, and have the water tested. Local rules come first."))
        )  # fmt: skip
    return found


WEIGHTS = later(
    "Weights by inverse square of each reading's doubt; agreement by chi-squared at 95 %: NIST/SEMATECH e-Handbook"
)
COOPER_JACOB = later("H. H. Cooper, C. E. Jacob, Trans. Am. Geophys. Union 27 (1946), 526-534")


def level_figures(a: Assessment) -> list[Figure]:
    """Standing level, what it falls while pumping, and the lift that follows."""
    heights, job = a.heights, a.job
    if heights.level is None:
        return []
    readings, season = [], heights.season
    for number, row in enumerate(job.level.readings):
        if season is not None and number not in season.of_now:
            continue
        level = reading_level(job, row)
        readings.append(Input(f"{WAYS[row.way].name}, {own(row.value, 'head')}", level.depth_m, "head"))
        readings.append(Input(say("may be off by"), level.uncertainty_m, "head"))
    found = [
        Figure("standing", say("Standing level below {datum}", datum=job.level.datum), heights.level.level.depth_m, "head", tuple(readings),
               say("mean of the depths, each weighed by 1 / (how far it may be off)²"), WEIGHTS),
        Figure("standing-off", say("may be off by"), heights.level.level.uncertainty_m, "head", tuple(readings),
               say("1 / square root of the sum of the weights"), WEIGHTS),
    ]  # fmt: skip
    depth = pumping_depth(a)
    if heights.drawdown_s_m2 > 0.0 and a.chosen is not None and depth is not None:
        found += _falling_figures(a, depth)
    found.append(
        Figure("lift-found", say("Lift, standing level to outlet") if heights.fall_m <= 0.0 else say("The outlet lies under the standing level by"),
               heights.lift_m or heights.fall_m, "head",
               (Input(say("standing level"), heights.level.level.depth_m, "head"),
                Input(say("outlet over the mark"), job.level.outlet_height.si, "head")),
               say("depth to water + height of the outlet over the mark; what the level falls while pumping is added with the flow"),
               say("your survey"))
    )  # fmt: skip
    return found


def _falling_figures(a: Assessment, depth: float) -> list[Figure]:
    heights, well = a.heights, a.job.well
    assert heights.level is not None
    assert a.chosen is not None
    flow = flow_now(a.chosen)
    if heights.test is not None:
        inputs: tuple[Input, ...] = (
            Input(say("steady flow of the test"), heights.test.flow_m3_s, "flow"),
            Input(say("fall each tenfold time"), heights.test.per_cycle_m, "head"),
            Input(say("hours pumped"), well.hours.si, "hours"),
            Input(say("levels lie off the line by"), heights.test.misfit_m, "head"),
        )
        formula = say("s = a + b log10(t) through the test, at the hours pumped, in proportion to the flow")
        source = str(COOPER_JACOB)
    else:
        inputs = (Input(say("falls by"), well.drawdown.si, "head"), Input(say("at"), well.drawdown_flow.si, "flow"))
        formula, source = say("fall in proportion to the flow"), say("what you typed")
    fall = heights.drawdown_s_m2 * flow
    return [
        Figure("fall", say("Falls while pumping, at {working:volts}", working=a.chosen.working_v), fall, "head", (*inputs, Input(say("flow"), flow, "flow")), formula,
               source),
        Figure("pumping", say("Pumping level below {datum}", datum=a.job.level.datum), depth, "head",
               (Input(say("standing level"), heights.level.level.depth_m, "head"), Input(say("falls by"), fall, "head")),
               say("found together with the flow: more flow, deeper level, more head, less flow"), source),
        Figure("lowest", say("Lowest pumping level of the year"), lowest_depth(a), "head",
               (Input(say("most flow of the year"), a.chosen.season.most_flow_m3_s, "flow"),), say("at the most flow of any half hour"),
               source),
    ]  # fmt: skip


def hang_figures(a: Assessment) -> list[Figure]:
    """Depths between which the pump may hang."""
    room, well = room_of(a), a.job.well
    if room is None:
        return []
    lowest = Input(say("lowest pumping level"), lowest_depth(a), "head")
    found = [
        Figure("hang-top", say("Pump hangs at least this deep"), room.shallowest_m, "head",
               (lowest, Input(say("water wanted over it"), well.cover.si, "head")), say("lowest pumping level + cover"), say("your margins"))
    ]  # fmt: skip
    bottom = bottom_m(a.job)
    if room.deepest_m is not None and bottom is not None:
        found.append(
            Figure("hang-bottom", say("and at most this deep"), room.deepest_m, "head",
                   (Input(say("bottom, the shallower of what is known"), bottom, "head"), Input(say("clear of it"), well.clear.si, "head")),
                   say("bottom - room under the pump"), say("your margins"))
        )  # fmt: skip
    return found


def suction_figures(a: Assessment) -> list[Figure]:
    """How far a surface pump can pull here."""
    check = pump_suction(a.chosen) if a.chosen is not None else None
    if a.chosen is None or check is None:
        return []
    pump = a.chosen.kit.pump
    word = say("guessed") if "npsh_required_m" in pump.guessed else say("the pump's catalogue entry")
    return [
        Figure("suction-limit", say("Can pull up, at the year's most flow"), check.limit_m, "head",
               (Input(say("air pressure less vapour pressure"), check.barometer_m, "head"),
                Input(say("lost in the suction"), check.losses_m, "head"), Input(say("the pump needs (NPSH)"), check.npsh_required_m, "head"),
                Input(say("kept in hand"), check.margin_m, "head")),
               say("air pressure at this altitude - vapour pressure - suction losses - NPSH - margin"),
               say("ISO 2533 atmosphere, IAPWS vapour pressure, Darcy-Weisbach; NPSH: {word}", word=word)),
        Figure("suction-stands", say("Stands above the water"), check.stands_m, "head",
               (Input(say("most flow"), a.chosen.season.most_flow_m3_s, "flow"),), say("bank over the water, plus what the level falls"),
               say("your survey")),
    ]  # fmt: skip
