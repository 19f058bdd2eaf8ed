"""Heights, depths and pressures along the run of a job, with its kit."""

from squall.core.advice.refusals import surface_check
from squall.core.hydraulics.pressures import Station, end_heights, stations
from squall.core.hydraulics.suction import SuctionCheck
from squall.core.kit.layout import Layout
from squall.core.kit.parts import Pump
from squall.core.sources.wells import HangingRoom, hanging_room
from squall.job.document.job import Job
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment


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
    """Depth below the datum at the most that the chosen kit pumps in the year, the level at its lowest of the year. [m]"""
    level = a.heights.level
    if level is None:
        return None
    most = a.chosen.season.most_flow_m3_s if a.chosen is not None else 0.0
    season = a.heights.season
    standing = level.level.depth_m if season is None else max(level.level.depth_m, season.lowest_m)
    return standing + a.heights.drawdown_s_m2 * most


def room_of(a: Assessment) -> HangingRoom | None:
    """Depths between which the pump may hang, where levels are read."""
    deepest = lowest_depth(a)
    if deepest is None:
        return None
    well = a.job.well
    return hanging_room(deepest, bottom_m(a.job), well.cover.si, well.clear.si)


def bottom_m(job: Job) -> float | None:
    """The bottom of the well below the datum: the shallower of what was felt and what was told, if either is known. [m]"""
    known = [depth.si for depth in (job.well.total_depth, job.well.told_depth) if depth is not None]
    return min(known) if known else None


def pump_suction(chosen: KitAssessment) -> SuctionCheck | None:
    """Suction of the chosen pump at its most flow of the year, if it stands on the bank."""
    if chosen.kit.pump.placement != "surface":
        return None
    return surface_check(chosen.kit.pump, chosen.layout, chosen.kit.hose, chosen.season.most_flow_m3_s)


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
