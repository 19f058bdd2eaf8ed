"""The derived figures of a job, each with what it was computed from, how, and on whose word."""

from squall.core.explain import Figure, Input
from squall.core.kits import CONDUCTOR_C, Cabling, Kit, Layout, kit_price, price_lines
from squall.core.season import month_name, reserve_days
from squall.core.sun import AVERAGE, CLEAR
from squall.job.assess import Assessment, CableRun, KitAssessment, Wiring

DARCY = "Darcy-Weisbach with Colebrook's factor (J. Inst. Civil Eng. 11, 1939) in turbulent, 64/Re in laminar flow"
DRIVE = "The drive model of docs/method.md: affinity laws, speed counted in volts of back-EMF"
SUN = (
    "NREL SPA sun position; Ineichen clear sky; Collares-Pereira and Rabl (1979) hours of the average day; "
    "Erbs (1982) diffuse; Hay and Davies (1980) onto the plane"
)


def lift_figures(chosen: KitAssessment) -> list[Figure]:
    """Operating point at the volts shown, and what the head is spent on."""
    layout, rated, crossing = chosen.layout, chosen.working, chosen.crossing
    pump = chosen.kit.pump
    flow = rated.flow_m3_s if rated.flow_m3_s is not None else rated.flow_at_least_m3_s
    losses = chosen.piece_losses
    friction, fittings = sum(x.friction_m for x in losses), sum(x.fittings_m for x in losses)
    fall = layout.drawdown_s_m2 * (flow or 0.0)
    flow_in = Input("flow", flow, "flow")
    at_least = " (at least: the curve ends there)" if rated.flow_m3_s is None and flow else ""
    pump_in = (
        Input("pump", pump.title, "text"),
        Input("volts: rated, or the brightest noon's where those bring none", chosen.working_v, "volts"),
        Input("lift and end pressure", layout.static_head_m, "head"),
    )
    figures = [
        Figure("rated-flow", f"Flow at {chosen.working_v:.3g} V{at_least}", flow, "flow", (*pump_in, *_pieces(chosen)),
               "the flow at which the pump's head equals lift + friction + fittings", DRIVE),
        Figure("total-head", "Total dynamic head there", layout.static_head_m + fall + friction + fittings, "head",
               (Input("lift and end pressure", layout.static_head_m, "head"), Input("wall friction", friction, "head"),
                Input("fittings", fittings, "head"), Input("fall of the level", fall, "head")),
               "lift + end pressure + friction + fittings + what the level falls", DARCY),
        Figure("lift-part", "of it lift and pressure", layout.static_head_m, "head",
               (Input("lift", 0.0 if layout.closed_circuit else max(layout.lift_m, layout.highest_m), "head"),
                Input("pressure at the outlet", layout.end_pressure_m, "head")),
               "lift from the water level, not from the pump, to the outlet or a higher point before it; none in a closed circuit",
               "your survey"),
        Figure("friction-part", "of it wall friction", friction, "head", (flow_in, *_pieces(chosen)),
               "f x L/d x v²/2g, for each piece", DARCY),
        Figure("fittings-part", "of it fittings", fittings, "head", (flow_in, *_fittings(chosen)),
               "K x v²/2g, for each piece", "K: EPANET 2.2 User Manual, table 3.3, where a fitting names no other source"),
    ]  # fmt: skip
    if fall > 0.0:
        figures.append(
            Figure("fall-part", "of it the level falls", fall, "head", (flow_in,), "fall in proportion to the flow", "your survey")
        )  # fmt: skip
    if crossing.limiting == "too-high":
        figures.append(
            Figure("head-missing", f"Head that the pump lacks at {chosen.working_v:.3g} V", crossing.missing_m, "head", pump_in,
                   "lift less the head at which the pump's flow stops", "the pump's own points")
        )  # fmt: skip
    return figures


def _pieces(chosen: KitAssessment) -> tuple[Input, ...]:
    line = chosen.layout.line(chosen.kit.hose)
    inputs: list[Input] = []
    for number, pipe in enumerate(line.pipes, start=1):
        inputs += [
            Input(f"piece {number} length", pipe.length_m, "length"),
            Input(f"piece {number} bore", pipe.inner_diameter_m, "bore"),
            Input(f"piece {number} roughness", pipe.roughness_m, "bore"),
        ]
    return (*inputs, Input("water", line.water.temperature_c, "temperature"))


def _fittings(chosen: KitAssessment) -> tuple[Input, ...]:
    line = chosen.layout.line(chosen.kit.hose)
    return tuple(Input(f"piece {n} K", pipe.minor_loss_k, "number") for n, pipe in enumerate(line.pipes, start=1))


def power_figures(assessment: Assessment, chosen: KitAssessment) -> list[Figure]:
    """Array, worst month, starting light, highest volts and amps, hours, reserve."""
    kit, season, month = chosen.kit, chosen.season, chosen.worst_month
    name = month_name(month)
    light = assessment.light.plane_kwh_m2
    module = kit.panel.module
    sun_in = (
        Input("light on the panels, average day (kWh/m²)", float(light[AVERAGE, month]), "number"),
        Input("array", kit.array_w, "watts"),
        Input(
            "source",
            {"panel": "panel direct", "controller": "pump controller", "battery": "battery"}[kit.source],
            "text",
        ),
        Input("cable to the pump", chosen.cabling.pump_ohm(kit, chosen.layout), "ohms"),
    )
    figures = [
        Figure("array-watts", "Array", kit.array_w, "watts",
               (Input("panels", float(kit.panels), "number"), Input("one panel", module.watts, "watts")),
               "panels x best volts x best amps", "nameplate"),
        Figure("worst-average", f"Average {name} day", chosen.worst_litres / 1000.0, "litres", sun_in,
               "flow at every half hour's light, summed over the day", f"{DRIVE}. {SUN}"),
        Figure("worst-clear", f"Clear {name} day", float(season.clear_litres[month]) / 1000.0, "litres",
               (Input("light on the panels, clear day (kWh/m²)", float(light[CLEAR, month]), "number"), *sun_in[1:]),
               "flow at every half hour's light, summed over the day", f"{DRIVE}. {SUN}"),
        Figure("need-there", f"Need in {name}", chosen.need_l[month] / 1000.0, "litres", (),
               "from the Need page", "what you typed"),
        Figure("most-volts", "Highest volts at the pump", season.most_motor_v, "volts",
               (Input("maker allows", kit.pump.motor.max_v, "volts"), Input("brightest half hour",
                float(season.plane_w_m2.max()), "irradiance")), "the drive at the brightest clear half hour", DRIVE),
        Figure("most-amps", "Highest running amps", season.most_motor_a, "amps", sun_in[2:],
               "the drive at the brightest clear half hour", DRIVE),
        Figure("hours-run", f"Hours with water, average {name} day", season.hours_run(month), "hours", sun_in,
               "half hours with flow", DRIVE),
        Figure("life-years", "Pump's life at these hours, in years", kit.pump.life_h / max(season.hours_a_year, 1e-9)
               if season.hours_a_year > 0 else None, "number",
               (Input("life", kit.pump.life_h, "hours"), Input("hours a year", season.hours_a_year, "hours")),
               "life hours / hours with water in a year of average days", "life: the pump's catalogue entry"),
    ]  # fmt: skip
    if kit.source != "battery":
        figures.append(
            Figure("start-light", "First water at", season.start_w_m2, "irradiance", sun_in[1:],
                   "least light, in steps of 10 W/m², at which flow arrives on an 18 °C day", DRIVE)
        )  # fmt: skip
    else:
        days = reserve_days(kit, chosen.need_l[month], season)
        battery = kit.battery
        assert battery is not None
        figures.append(
            Figure("reserve", "Dark days a full battery bridges", days, "days",
                   (Input("charge", battery.capacity_ah, "charge"), Input("usable", battery.usable, "share"),
                    Input("pump draws", season.most_motor_a, "amps"), Input("need", chosen.need_l[month] / 1000.0, "litres")),
                   "usable charge / (amps x hours that the need takes)", "battery's catalogue entry")
        )  # fmt: skip
    return figures


def run_figures(run: CableRun) -> list[Figure]:
    """Amps, drop, ampacity, resistance of one run of cable."""
    choice = run.choice
    size = Input("size", choice.conductor.label, "text")
    length = Input("one way", run.one_way_m, "length")
    amps = Input("amps at rated volts" if run.key == "pump" else "best amps of the panels", run.drop_a, "amps")
    return [
        Figure(f"{run.key}-amps", "Most amps", run.amps_a, "amps", (amps,),
               "most in any half hour of the year's clear days" if run.key == "pump" else "short-circuit amps x strings",
               "the drive" if run.key == "pump" else "panel's nameplate"),
        Figure(f"{run.key}-drop", "Drop, there and back", choice.drop_fraction, "share",
               (size, length, amps, Input("resistance", choice.resistance_ohm, "ohms"), Input("volts", run.volts_v, "volts")),
               "I x 2L x r x (1 + 0.00393 (T - 20)) / V, copper at 40 °C",
               "IEC 60228 class 5 (mm²) or ASTM B258 with copper at 1/58 (AWG)"),
        Figure(f"{run.key}-drop-volts", "Volts lost", choice.drop_v, "volts", (size, length, amps), "I x R",
               "Ohm's law"),
        Figure(f"{run.key}-ampacity", "Ampacity in the heat", choice.ampacity_a, "amps",
               (size, Input("at 30 °C", choice.conductor.ampacity_30c_a, "amps")),
               "table at 30 °C x factor for the air around it", choice.conductor.ampacity_source),
        Figure(f"{run.key}-ohm", "Resistance of the loop", choice.resistance_ohm, "ohms",
               (size, length, Input("copper", CONDUCTOR_C, "temperature")), "2L x r", "IEC 60228 / ASTM B258"),
    ]  # fmt: skip


def protection_figures(wiring: Wiring) -> list[Figure]:
    """Rating, its bounds, and the stall current."""
    found = wiring.protection
    reasons = tuple(Input(f"reason {n}", reason, "text") for n, reason in enumerate(found.reasons, start=1))
    return [
        Figure("fuse", "Rating", found.rating_a, "amps",
               (Input("continuous", wiring.continuous_a, "amps"), Input("weakest in the loop", found.weakest, "text"),
                Input("which stands", found.most_a, "amps"), *reasons),
               "smallest standard rating from 1.25 x continuous amps up, not above the weakest part",
               "ratings: ISO 8820-3 (fuse), IEC 60947-2 (breaker), from memory; 1.25: common practice, no source"),
        Figure("stall", "A stalled pump draws", found.stall_current_a, "amps",
               (Input("source can't push more than its own short-circuit amps", "yes" if wiring.source_limited else "no",
                      "text"),
                Input("loop", wiring.runs[0].choice.resistance_ohm, "ohms")),
               "source volts / (source + cable + winding), and no more than the panels' short-circuit amps",
               "Ohm's law"),
    ]  # fmt: skip


def price_figure(key: str, kit: Kit, layout: Layout, cabling: Cabling) -> Figure:
    """Price of a kit, part by part."""
    lines = price_lines(kit, layout, cabling)
    return Figure(
        key, "Price", kit_price(kit, layout, cabling), "money",
        tuple(Input(name, price, "money") for name, price in lines), "sum of the parts",
        "the catalogue's prices; cable and sundries: a guess of the demo catalogue",
    )  # fmt: skip


def month_figure(chosen: KitAssessment, month: int, kind: int, light_kwh_m2: float) -> Figure:
    """Litres of one month's clear or average day."""
    day = "Clear" if kind == CLEAR else "Average"
    litres = float(chosen.season.litres[kind, month]) / 1000.0
    return Figure(
        f"{day.lower()}-{month}", f"{day} {month_name(month)} day", litres, "litres",
        (Input("light on the panels (kWh/m²)", light_kwh_m2, "number"),
         Input("array", chosen.kit.array_w, "watts"),
         Input("most flow that day", float(chosen.season.flow_m3_s[kind, month].max()), "flow")),
        "flow at every half hour's light, summed over the day", f"{DRIVE}. {SUN}",
    )  # fmt: skip


def worst_figure(key: str, kit: Kit, month: int, litres: float, need_l: tuple[float, ...]) -> Figure:
    """Litres on the average day of a kit's worst month."""
    return Figure(
        key, f"Average {month_name(month)} day", litres / 1000.0, "litres",
        (Input("pump", kit.pump.title, "text"), Input("array", kit.array_w, "watts"), Input("joined", kit.joining, "text"),
         Input("need then", need_l[month] / 1000.0, "litres")),
        "the month in which least of the need is covered; flow at every half hour's light, summed over its average day",
        f"{DRIVE}. {SUN}",
    )  # fmt: skip
