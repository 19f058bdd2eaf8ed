"""The derived figures of a job, each with what it was computed from, how, and on whose word."""

from squall.core.electrics.energy import energy_use
from squall.core.explain import Figure, Input
from squall.core.kit.bank import drawn_a, standing_a
from squall.core.kit.supply import Banked
from squall.core.sky.typical_days import AVERAGE, CLEAR
from squall.core.years.by_light import EDGE_W_M2, MILD_AIR_C, MILD_STEP_W_M2
from squall.job.told.finding import DRIVE, SUN
from squall.job.told.store import dark_days
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.words import say
from squall.words.calendar import month_name


def power_figures(assessment: Assessment, chosen: KitAssessment) -> list[Figure]:
    """Array, worst month, starting light, highest volts and amps, hours, reserve."""
    kit, season, month = chosen.kit, chosen.season, chosen.worst_month
    name = month_name(month)
    light = assessment.lit.plane_kwh_m2
    module = kit.panel.module
    sun_in = (
        Input(say("light on the panels, average day (kWh/m²)"), float(light[AVERAGE, month]), "number"),
        Input(say("array"), kit.array_w, "watts"),
        Input(
            say("source"),
            {"panel": say("panel direct"), "controller": say("pump controller"), "battery": "battery"}[kit.source],
            "text",
        ),
        Input(say("cable to the pump, with fuse and contacts"), chosen.cabling.pump_ohm(kit, chosen.layout), "ohms"),
    )
    figures = [
        Figure("array-watts", say("Array"), kit.array_w, "watts",
               (Input(say("panels"), float(kit.panels), "number"), Input(say("one panel"), module.watts, "watts")),
               say("panels x best volts x best amps"), say("nameplate")),
        Figure("worst-average", say("Average {name} day", name=name), chosen.worst_litres / 1000.0, "litres", sun_in,
               say("flow at every half hour's light, summed over the day"), f"{DRIVE}. {SUN}"),
        Figure("worst-clear", say("Clear {name} day", name=name), float(season.clear_litres[month]) / 1000.0, "litres",
               (Input(say("light on the panels, clear day (kWh/m²)"), float(light[CLEAR, month]), "number"), *sun_in[1:]),
               say("flow at every half hour's light, summed over the day"), f"{DRIVE}. {SUN}"),
        Figure("need-there", say("Need in {name}", name=name), chosen.need_l[month] / 1000.0, "litres", (),
               say("from the Need page"), say("what you typed")),
        Figure("most-volts", say("Highest volts at the pump"), season.most_motor_v, "volts",
               (Input(say("maker allows"), kit.pump.motor.max_v, "volts"), Input(say("brightest half hour"),
                float(season.plane_w_m2.max()), "irradiance"),
                Input(say("a cloud's lit edge, on a record-cold day"), EDGE_W_M2, "irradiance")),
               say("the drive in the brightest half hour; straight on panels at a cloud's edge too, whichever is more"), DRIVE),
        Figure("most-amps", say("Highest running amps"), season.most_motor_a, "amps", sun_in[2:],
               say("the drive in the brightest half hour of ten years of made weather"), DRIVE),
        Figure("hours-run", say("Hours with water, average {name} day", name=name), season.hours_run(month), "hours", sun_in,
               say("half hours with flow"), DRIVE),
        Figure("life-years", say("Pump's life at these hours, in years"), kit.life_h / max(season.hours_a_year, 1e-9)
               if season.hours_a_year > 0 else None, "number",
               (Input(say("life"), kit.life_h, "hours"), Input(say("hours a year"), season.hours_a_year, "hours")),
               say("life hours / hours with water in a year of average days"), say("life: the pump's catalogue entry")),
    ]  # fmt: skip
    if not isinstance(kit.supply, Banked):
        figures.append(
            Figure("start-light", say("First water at"), season.start_w_m2, "irradiance", sun_in[1:],
                   say("least light, in steps of {step:irradiance}, at which flow arrives on a day of {air:temperature}", step=MILD_STEP_W_M2, air=MILD_AIR_C), DRIVE)
        )  # fmt: skip
    else:
        figures.append(dark_days(assessment, chosen, "reserve"))
    return figures


def month_figure(chosen: KitAssessment, month: int, kind: int, light_kwh_m2: float) -> Figure:
    """Litres of one month's clear or average day."""
    day = "Clear" if kind == CLEAR else "Average"
    flow = chosen.season.flow_of(kind, month)
    litres = float(chosen.season.litres[kind, month]) / 1000.0
    return Figure(
        f"{day.lower()}-{month}", say("{day} {month:month} day", day=day, month=month), litres, "litres",
        (Input(say("light on the panels (kWh/m²)"), light_kwh_m2, "number"),
         Input(say("array"), chosen.kit.array_w, "watts"),
         Input(say("most flow that day"), float(flow.max()), "flow")),
        say("flow at every half hour's light, summed over the day") if kind == CLEAR else say("flow at every half hour of ten years of made weather, summed, over the month's days"), f"{DRIVE}. {SUN}",
    )  # fmt: skip


def energy_figures(a: Assessment) -> list[Figure]:
    """What the thirstiest day's water takes of the chosen kit, by volume over flow; nothing without a kit that gives water."""
    chosen, litres = a.chosen, max(a.wanted_l) if a.job.placed else 0.0
    if chosen is None or litres <= 0.0:
        return []
    flow = chosen.working.flow_m3_s or 0.0
    volts, amps = chosen.working_v, drawn_a(chosen.working.motor_a, chosen.use.bank)
    minutes = litres / (flow * 60_000.0) if flow > 0.0 else 0.0
    if not 0.0 < minutes <= 1440.0 or amps <= 0.0:
        return []
    supply = chosen.kit.supply
    bank = supply if isinstance(supply, Banked) else None
    used = energy_use(volts, amps, minutes, bank.open_v if bank else None, bank.battery.capacity_ah if bank else None)
    inputs = (
        Input(say("water of the thirstiest day"), litres / 1000.0, "litres"), Input(say("flow"), flow, "flow"), Input(say("volts"), volts, "volts"),
        Input(say("amps"), amps, "amps"),
    )  # fmt: skip
    law = say("W = V A, Wh = W h, Ah = Wh / V: by definition; flow and amps: {drive}", drive=DRIVE)
    figures = [
        Figure("energy-minutes", say("Steady running for a day's water"), minutes * 60.0, "minutes", inputs[:2], say("the water over the flow, at the volts shown on Lift"), DRIVE),
        Figure("energy-wh", say("Energy for it"), used.energy_wh, "energy", inputs, say("volts x amps x hours"), law),
    ]  # fmt: skip
    if bank is None or used.battery_share is None:
        return figures
    drain = standing_a(chosen.kit, chosen.use.bank)
    figures += [
        Figure("energy-beside", say("Taken beside the pump, a day"), 24.0 * drain, "charge",
               (Input(say("charger, and the mean of other loads"), drain, "amps"), Input(say("a relay's coil, while the pump runs"), chosen.use.bank.coil_a, "amps")),
               say("amps x 24 h; the coil's amps stand in those of the pump"), law),
        Figure("energy-ah", say("Charge for it"), used.charge_ah, "charge", (*inputs, Input(say("volts of the bank"), bank.open_v, "volts")),
               say("Wh / volts of the bank"), law),
        Figure("energy-share", say("Share of the rated charge"), used.battery_share, "share",
               (Input(say("charge for it"), used.charge_ah, "charge"), Input(say("rated charge"), bank.battery.capacity_ah, "charge")),
               say("Ah / rated Ah: some look at this and stay under half of lead"), law),
        Figure("energy-usable", say("Share of what may be drawn"), used.battery_share / bank.battery.usable, "share",
               (Input(say("charge for it"), used.charge_ah, "charge"), Input(say("may be drawn"), bank.battery.usable, "share")),
               say("Ah / (rated Ah x the share that may be drawn): others fill this"), law),
    ]  # fmt: skip
    return figures
