"""The survey's derived figures, each with what it was computed from, how, and on whose word."""

from squall.core.crops import USUAL_WIND_M_S
from squall.core.explain import Figure, Input
from squall.core.levels import WAYS
from squall.job.assess import Assessment
from squall.job.findings import flow_now, lowest_depth, pump_suction, pumping_depth, room_of
from squall.job.resolve import reading_level
from squall.job.water_accounts import PondView, RoofView

WEIGHTS = (
    "Weights by inverse square of each reading's doubt; agreement by chi-squared at 95 %: NIST/SEMATECH e-Handbook"
)
COOPER_JACOB = "H. H. Cooper, C. E. Jacob, Trans. Am. Geophys. Union 27 (1946), 526-534"


def level_figures(a: Assessment) -> list[Figure]:
    """Standing level, what it falls while pumping, and the lift that follows."""
    heights, job = a.heights, a.job
    if heights.level is None:
        return []
    readings = []
    for row in job.level.readings:
        level = reading_level(job, row)
        readings.append(Input(f"{WAYS[row.way].name}, {row.value.typed}", level.depth_m, "head"))
        readings.append(Input("may be off by", level.uncertainty_m, "head"))
    found = [
        Figure("standing", f"Standing level below {job.level.datum}", heights.level.level.depth_m, "head", tuple(readings),
               "mean of the depths, each weighed by 1 / (how far it may be off)²", WEIGHTS),
        Figure("standing-off", "may be off by", heights.level.level.uncertainty_m, "head", tuple(readings),
               "1 / square root of the sum of the weights", WEIGHTS),
    ]  # fmt: skip
    depth = pumping_depth(a)
    if heights.drawdown_s_m2 > 0.0 and a.chosen is not None and depth is not None:
        found += _falling_figures(a, depth)
    found.append(
        Figure("lift-found", "Lift, standing level to outlet", heights.lift_m, "head",
               (Input("standing level", heights.level.level.depth_m, "head"),
                Input("outlet over the datum", job.level.outlet_height.si, "head")),
               "depth to water + height of the outlet over the datum; what the level falls while pumping is added with the flow",
               "your survey")
    )  # fmt: skip
    return found


def _falling_figures(a: Assessment, depth: float) -> list[Figure]:
    heights, well = a.heights, a.job.well
    assert heights.level is not None
    assert a.chosen is not None
    flow = flow_now(a.chosen)
    if heights.test is not None:
        inputs: tuple[Input, ...] = (
            Input("steady flow of the test", heights.test.flow_m3_s, "flow"),
            Input("fall each tenfold time", heights.test.per_cycle_m, "head"),
            Input("hours pumped", well.hours.si, "hours"),
            Input("levels lie off the line by", heights.test.misfit_m, "head"),
        )
        formula = "s = a + b log10(t) through the test, at the hours pumped, in proportion to the flow"
        source = COOPER_JACOB
    else:
        inputs = (Input("falls by", well.drawdown.si, "head"), Input("at", well.drawdown_flow.si, "flow"))
        formula, source = "fall in proportion to the flow", "what you typed"
    fall = heights.drawdown_s_m2 * flow
    return [
        Figure("fall", f"Falls while pumping, at {a.chosen.working_v:.3g} V", fall, "head", (*inputs, Input("flow", flow, "flow")), formula,
               source),
        Figure("pumping", f"Pumping level below {a.job.level.datum}", depth, "head",
               (Input("standing level", heights.level.level.depth_m, "head"), Input("falls by", fall, "head")),
               "found together with the flow: more flow, deeper level, more head, less flow", source),
        Figure("lowest", "Lowest pumping level of the year", lowest_depth(a), "head",
               (Input("most flow of the year", a.chosen.season.most_flow_m3_s, "flow"),), "at the most flow of any half hour",
               source),
    ]  # fmt: skip


def hang_figures(a: Assessment) -> list[Figure]:
    """Depths between which the pump may hang."""
    room, well = room_of(a), a.job.well
    if room is None:
        return []
    lowest = Input("lowest pumping level", lowest_depth(a), "head")
    found = [
        Figure("hang-top", "Pump hangs at least this deep", room.shallowest_m, "head",
               (lowest, Input("water wanted over it", well.cover.si, "head")), "lowest pumping level + cover", "your margins")
    ]  # fmt: skip
    if room.deepest_m is not None and well.total_depth is not None:
        found.append(
            Figure("hang-bottom", "and at most this deep", room.deepest_m, "head",
                   (Input("bottom", well.total_depth.si, "head"), Input("clear of it", well.clear.si, "head")),
                   "bottom - room under the pump", "your margins")
        )  # fmt: skip
    return found


def suction_figures(a: Assessment) -> list[Figure]:
    """How far a surface pump can pull here."""
    check = pump_suction(a.chosen) if a.chosen is not None else None
    if a.chosen is None or check is None:
        return []
    pump = a.chosen.kit.pump
    word = "guessed" if "npsh_required_m" in pump.guessed else "the pump's catalogue entry"
    return [
        Figure("suction-limit", "Can pull up, at the year's most flow", check.limit_m, "head",
               (Input("air pressure less vapour pressure", check.barometer_m, "head"),
                Input("lost in the suction", check.losses_m, "head"), Input("the pump needs (NPSH)", check.npsh_required_m, "head"),
                Input("kept in hand", check.margin_m, "head")),
               "air pressure at this altitude - vapour pressure - suction losses - NPSH - margin",
               f"ISO 2533 atmosphere, IAPWS vapour pressure, Darcy-Weisbach; NPSH: {word}"),
        Figure("suction-stands", "Stands above the water", check.stands_m, "head",
               (Input("most flow", a.chosen.season.most_flow_m3_s, "flow"),), "bank over the water, plus what the level falls",
               "your survey"),
    ]  # fmt: skip


def pond_figures(view: PondView, month: int) -> list[Figure]:
    """What the pond holds, gains and loses in a day of one month, and how long it lasts."""
    pond, account = view.pond, view.account
    area = pond.area_m2(view.depth_m)
    shape = (
        Input("depth when full", pond.full_depth_m, "head"), Input("surface when full", pond.full_area_m2, "ground"),
        Input("volume goes as depth to the power", pond.power, "number"),
    )  # fmt: skip
    lost = -account.surface_m_d(month) * area
    fao = "FAO paper 56: ET0 x 1.05 for shallow open water; rain of the climate"
    return [
        Figure("pond-volume", "Holds now", pond.volume_m3(view.depth_m), "litres",
               (*shape, Input("depth now", view.depth_m, "head")), "full volume x (depth / full depth)^power", "shape as typed"),
        Figure("pond-inflow", "Runs in, a day", account.inflow_m3_d, "litres",
               (Input("may be off by", view.inflow_off_m3_d, "litres"),),
               "rise between the readings + drawn + lost over the days, or as typed", "your readings"),
        Figure("pond-lost", "Lost a day to sun and ground, less rain", lost, "litres",
               (Input("surface now", area, "ground"), Input("evaporation", account.evaporation_m_d[month], "rain"),
                Input("seepage", account.seepage_m_d, "rain"), Input("rain", account.rain_m_d[month], "rain")),
               "(evaporation + seepage - rain) x surface", fao),
        Figure("pond-drawn", "Drawn a day", account.draw_m3_d[month], "litres", (), "the need (none in a closed circuit, which gives it back), and what others draw",
               "Need page"),
    ]  # fmt: skip


def roof_figures(view: RoofView) -> list[Figure]:
    """What the roof brings, how many days it lasts, and the overflow."""
    year = view.year
    roof_in = (
        Input("roof", view.roof.area_m2, "ground"), Input("reaches the gutter", view.roof.runoff, "share"),
        Input("first flush", view.roof.first_flush_m, "rain"), Input("tanks together", view.tank_m3, "litres"),
    )  # fmt: skip
    steady = "a year of the climate's months, rain laid evenly on its wet days; the third of three such years"
    return [
        Figure("roof-caught", "Caught in a year", year.caught_m3, "litres", roof_in,
               "roof x (rain x runoff - first flush), for each wet day", steady),
        Figure("roof-spilt", "of it runs over", year.overflow_m3, "litres", roof_in, "what the full tanks can't hold", steady),
        Figure("roof-days", "Days of the year with all the water wanted", float(year.days_of_water), "number", roof_in,
               "days on which the tanks gave the whole need", steady),
        Figure("roof-storm", "The storm brings", view.storm_m3_s, "flow", (Input("roof", view.roof.area_m2, "ground"),),
               "roof x storm, nothing lost", "your storm; ask for the local design storm"),
        Figure("roof-passes", "The overflow passes", view.passes_m3_s, "flow", (), "0.6 A √(2 g h)", "Torricelli's theorem"),
        Figure("roof-bore", "It would have to be at least", view.needed_bore_m, "bore",
               (Input("the storm brings", view.storm_m3_s, "flow"),), "the same turned round", "Torricelli's theorem"),
    ]  # fmt: skip


def et0_figure(et0_mm: float, month_name: str, method: str) -> Figure:
    """Reference evapotranspiration of one month."""
    words = {
        "penman-monteith": f"FAO-56 equation 6; light from the climate, dew point 2 K under the night's least, wind {USUAL_WIND_M_S:g} m/s",
        "hargreaves": "FAO-56 equation 52, from temperatures alone",
    }[method]
    return Figure("et0", f"Reference evapotranspiration, {month_name} day", et0_mm / 1000.0, "rain", (), words,
                  "FAO Irrigation and Drainage Paper 56 (1998)")  # fmt: skip
