"""The derived figures of a job, each with what it was computed from, how, and on whose word."""

from squall.core.explain import Figure, Input
from squall.core.sky.typical_days import AVERAGE, CLEAR
from squall.core.years.typical import month_name, reserve_days
from squall.job.told.sources import DRIVE, SUN
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment


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
