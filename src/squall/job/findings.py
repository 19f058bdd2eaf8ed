"""What the survey and the lift show: good, to be minded, or wrong, each in a sentence in a person's units."""

from dataclasses import dataclass
from typing import Literal

from squall.core.choose import surface_check
from squall.core.kits import Layout
from squall.core.parts import Pump
from squall.core.pressures import Station, end_heights, lowest_pressure, sag_after, stations
from squall.core.suction import BOILING_MARGIN_M, SuctionCheck, barometer_m
from squall.core.wells import HangingRoom, hanging_room, judge_hang, minutes_of_storage, outpumped
from squall.job.assess import Assessment, KitAssessment
from squall.units import System, text

Grade = Literal["good", "care", "bad"]
DEEPER = "Hanging it deeper costs cable and hose, not head."
YIELD_ANSWERS = (
    "turn the speed down, if it has a dial",
    "throttle the outlet (the Lift page says how far), never the suction",
    "fit a low-level probe that stops it before it sucks air",
    "let it run on a float switch in the sunny hours only, so that the well recovers",
    "take a smaller pump",
)


@dataclass(frozen=True)
class Finding:
    """One thing seen: its grade, the sentence, and what could be done."""

    grade: Grade
    text: str
    answers: tuple[str, ...] = ()


def flow_now(chosen: KitAssessment) -> float:
    """Flow at the volts shown, or as far as the curve speaks. [m3/s]"""
    return chosen.working.flow_m3_s or chosen.working.flow_at_least_m3_s or 0.0


def pumping_depth(a: Assessment) -> float | None:
    """Depth below the datum while the chosen kit pumps at the volts shown; standing depth without one. [m]"""
    level = a.heights.level
    if level is None:
        return None
    fall = a.heights.drawdown_s_m2 * flow_now(a.chosen) if a.chosen is not None else 0.0
    return level.level.depth_m + fall


def lowest_depth(a: Assessment) -> float | None:
    """Depth below the datum at the most that the chosen kit pumps in the year. [m]"""
    level = a.heights.level
    if level is None:
        return None
    most = a.chosen.season.most_flow_m3_s if a.chosen is not None else 0.0
    return level.level.depth_m + a.heights.drawdown_s_m2 * most


def room_of(a: Assessment) -> HangingRoom | None:
    """Depths between which the pump may hang, where levels are read."""
    deepest = lowest_depth(a)
    if deepest is None:
        return None
    well = a.job.well
    total = None if well.total_depth is None else well.total_depth.si
    return hanging_room(deepest, total, well.cover.si, well.clear.si)


def well_findings(a: Assessment, units: System) -> list[Finding]:
    """Hanging depth, yield, and what the pumping test says."""
    found = []
    well, level = a.job.well, a.heights.level
    if a.heights.problem:
        found.append(Finding("care", f"The pumping test isn't used yet: {a.heights.problem}"))
    if a.heights.test is not None and a.heights.test.misfit_m > 0.25 * a.heights.test.per_cycle_m:
        off = text(a.heights.test.misfit_m, "head", units)
        found.append(
            Finding("care", f"The test's levels lie {off} off a straight line over log time: read them again.")
        )
    if level is not None and well.total_depth is not None and level.level.depth_m >= well.total_depth.si:
        found.append(
            Finding("bad", "By these readings the water stands below the bottom of the well: one of them is wrong.")
        )
    room = room_of(a)
    if room is not None and well.hang_depth is not None:
        found.append(_hang_finding(well.hang_depth.si, room, units))
    if a.chosen is not None and well.gives is not None:
        found.append(_yield_finding(a, a.chosen, well.gives.si, units))
    return found


def _hang_finding(hang_m: float, room: HangingRoom, units: System) -> Finding:
    def head(metres: float) -> str:
        return text(metres, "head", units)

    verdict = judge_hang(hang_m, room)
    top, deepest = head(room.shallowest_m), "" if room.deepest_m is None else head(room.deepest_m)
    if verdict == "no-room":
        return Finding(
            "bad",
            f"There is no room for this pump: {top} down keeps it covered at the lowest pumping level, {deepest} keeps it "
            "clear of the bottom. Pump less, so that the level falls less.",
        )
    if verdict == "may-run-dry":
        return Finding("bad", f"At {head(hang_m)} it may run dry: {top} keeps it covered at the lowest level. {DEEPER}")
    if verdict == "in-the-mud":
        return Finding("bad", f"At {head(hang_m)} it hangs in the mud: {deepest} keeps it clear of the bottom.")
    until = f" to {deepest}" if deepest else " or deeper"
    return Finding("good", f"At {head(hang_m)} it hangs well: {top}{until} will do. {DEEPER}")


def _yield_finding(a: Assessment, chosen: KitAssessment, gives: float, units: System) -> Finding:
    flow = chosen.season.most_flow_m3_s
    taken, given = text(flow, "flow", units), text(gives, "flow", units)
    if not outpumped(flow, gives):
        return Finding("good", f"At its most the pump takes {taken}; the well gives {given}.")
    runs = ""
    if a.job.well.bore is not None:
        minutes = minutes_of_storage(a.job.well.bore.si, chosen.layout.pump_below_m, flow, gives)
        runs = f" The water standing over the pump lasts about {minutes:.0f} minutes." if minutes is not None else ""
    words = f"The pump takes more than the well gives: {taken} against {given}. It will suck air.{runs}"
    return Finding("bad", words, YIELD_ANSWERS)


def pump_suction(chosen: KitAssessment) -> SuctionCheck | None:
    """Suction of the chosen pump at its most flow of the year, if it stands on the bank."""
    if chosen.kit.pump.placement != "surface":
        return None
    return surface_check(chosen.kit.pump, chosen.layout, chosen.kit.hose, chosen.season.most_flow_m3_s)


def suction_findings(a: Assessment, units: System) -> list[Finding]:
    """Whether a surface pump can draw, and how it is primed."""
    chosen = a.chosen
    check = pump_suction(chosen) if chosen is not None else None
    if chosen is None or check is None:
        return []
    stands, limit = text(check.stands_m, "head", units), text(max(check.limit_m, 0.0), "head", units)
    found = []
    if check.spare_m < 0.0:
        answers = (
            "lower the pump",
            "widen or shorten the suction, with fewer bends",
            "take a pump that stands in the water",
        )
        found.append(
            Finding("bad", f"It stands {stands} above the water; here it can pull up {limit} at full flow.", answers)
        )
    else:
        found.append(Finding("good", f"It stands {stands} above the water and can pull up {limit} at full flow."))
    suction = a.job.run[: chosen.layout.suction_pieces]
    if not suction:
        found.append(
            Finding(
                "care", "No piece of the run is marked as suction, so its losses are not counted: mark the first piece."
            )
        )
    footed = any("foot" in piece.fittings for piece in suction)
    if not chosen.kit.pump.self_priming and not footed:
        found.append(
            Finding(
                "care",
                "This pump doesn't prime itself: fit a foot valve and fill the suction before it is switched on.",
            )
        )
    return found


def heights_along(layout: Layout, pump: Pump) -> list[float]:
    """Height of each piece's end above the standing water. [m]"""
    lengths = [piece.length_m for piece in layout.pieces]
    known = [piece.end_height_m for piece in layout.pieces]
    end = 0.0 if layout.closed_circuit else layout.lift_m
    count, pump_m = layout.suction_pieces, layout.pump_m(pump)
    if count and pump.placement == "surface":
        before = end_heights(lengths[:count], known[:count], 0.0, pump_m)
        return before + end_heights(lengths[count:], known[count:], pump_m, end)
    return end_heights(lengths, known, pump_m, end)


def stations_of(chosen: KitAssessment) -> list[Station]:
    """Heights, grade and pressure along the run at the flow at the volts shown; none without flow."""
    flow = flow_now(chosen)
    if flow <= 0.0:
        return []
    layout, pump = chosen.layout, chosen.kit.pump
    line = layout.line(chosen.kit.hose)
    count = layout.suction_pieces if pump.placement == "surface" else 0
    head = (
        line.head_m(flow)
        - line.static_head_m
        + (0.0 if layout.closed_circuit else layout.lift_m)
        + layout.end_pressure_m
    )
    return stations(line, flow, count, heights_along(layout, pump), layout.pump_m(pump), head)


def run_findings(a: Assessment, units: System) -> list[Finding]:
    """Highest point, filling and venting, low pressure, and whether the run drains back."""
    found: list[Finding] = []
    layout, chosen = a.layout, a.chosen
    if not layout.closed_circuit and layout.highest_m > layout.lift_m + 0.05:
        over = text(layout.highest_m - layout.lift_m, "head", units)
        found.append(
            Finding("care", f"The run climbs {over} higher than its outlet. The pump has to push over that point; "
                    "vent it, for air gathers there.")
        )  # fmt: skip
    if chosen is not None:
        found += _pressure_findings(a, chosen, units)
        found.append(drain_finding(a, chosen))
    return found


def _pressure_findings(a: Assessment, chosen: KitAssessment, units: System) -> list[Finding]:
    layout = chosen.layout
    found = []
    limit = -(barometer_m(layout.altitude_m, layout.water) - BOILING_MARGIN_M)
    if layout.closed_circuit:
        found.append(_filling_finding(layout, chosen, units))
    places = stations_of(chosen)
    if places:
        low = lowest_pressure(places)
        said = text(abs(low.pressure_m), "head", units)
        if low.pressure_m < limit:
            found.append(Finding("bad", f"At the {low.name} the water would stand under {said} of suction: it boils there and "
                                 "the column parts. Lower that point, or put pressure on the circuit."))  # fmt: skip
        elif low.pressure_m < -0.5 and low.name != "pump, suction side":
            found.append(Finding("care", f"At the {low.name} the water stands under {said} of suction: every leak there draws "
                                 "in air. Make it tight, with a vent that can be shut."))  # fmt: skip
    return found


def _filling_finding(layout: Layout, chosen: KitAssessment, units: System) -> Finding:
    top = layout.highest_m
    most = max(height for _, height in chosen.working_curve.points)
    high, reach = text(top, "head", units), text(most, "head", units)
    allowed = barometer_m(layout.altitude_m, layout.water) - BOILING_MARGIN_M
    if top > allowed:
        at_most = text(allowed, "head", units)
        return Finding("bad", f"The circuit rises {high}; above {at_most} the water boils at the top at this altitude.")
    if top <= most:
        return Finding("good", f"The circuit rises {high}; the pump reaches {reach} and can fill it by itself. "
                       "Open the vent at the top until water comes, then shut it.")  # fmt: skip
    return Finding(
        "care",
        f"The circuit rises {high}, the pump reaches only {reach}: it runs such a circuit but can't fill it.",
        ("fill it through a tee at the highest point, with the pump off and both ends under water",
         "let the air out at the top until water stands there, and shut the vent tight",
         "then start the pump"),
    )  # fmt: skip


def drain_finding(a: Assessment, chosen: KitAssessment) -> Finding:
    """Whether the run empties itself when the pump stops."""
    layout, pump = chosen.layout, chosen.kit.pump
    count = layout.suction_pieces if pump.placement == "surface" else 0
    heights = heights_along(layout, pump)[count:]
    valves = [piece.name for piece in a.job.run if piece.fittings.get("check") or piece.fittings.get("foot")]
    if layout.closed_circuit:
        return Finding("care", "A closed circuit stays full: in frost keep it moving, or drain it by hand.")
    sag = sag_after(heights, layout.pump_m(pump))
    if sag is not None:
        name = a.job.run[count + sag].name
        return Finding("care", f"The run doesn't drain back: it falls along “{name}”, and the water left there can freeze. "
                       "Put a drain cock at the low place, or bury it.")  # fmt: skip
    if valves:
        return Finding("care", f"The run falls all the way to the pump, but the check or foot valve on “{valves[0]}” holds it "
                       "full: drill a small bleed hole or take the valve out if it shall drain in frost.")  # fmt: skip
    return Finding("good", "The run falls all the way back to the pump, so it drains when the pump stops.")


def water_findings(a: Assessment) -> list[Finding]:
    """What the water brings along, and who drinks it."""
    carries, pump = a.job.carries, a.chosen.kit.pump if a.chosen is not None else None
    found = []
    if pump is not None and pump.end == "helical" and (carries.sand or carries.clay):
        found.append(
            Finding("bad", "Sand and red clay cut a helical pump's stator: a centrifugal end stands them better.")
        )
    if pump is not None and pump.end in ("diaphragm", "piston") and (carries.sand or carries.leaves or carries.weed):
        found.append(
            Finding("care", f"Grit and rubbish hold a {pump.end} pump's valves open: screen the intake finely.")
        )
    if carries.weed or carries.leaves:
        found.append(
            Finding(
                "care",
                "Hang the pump under a float, about half a metre down, or in a crate with a screen; clean it often.",
            )
        )
    if carries.silt or carries.clay:
        found.append(Finding("care", "Keep the intake well off the bottom, and never bury it in mud."))
    if carries.drunk_by == "people":
        found.append(
            Finding("care", "People drink this: use parts made for drinking water, wipe them with dilute bleach, disinfect the "
                    "source after the work, keep a gap against backflow, and have the water tested. Local rules come first.")
        )  # fmt: skip
    return found


__all__ = [
    "Finding", "flow_now", "heights_along", "lowest_depth", "pump_suction", "pumping_depth", "room_of",
    "run_findings", "stations_of", "suction_findings", "water_findings", "well_findings",
]  # fmt: skip
