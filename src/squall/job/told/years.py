"""The figures of a run of the years, each with what it was computed from."""

from squall.core.explain import Figure, Input
from squall.core.years.typical import month_name
from squall.job.worked.years import YearsReport

YEARS = (
    "docs/method.md, the years: the drive at every ten minutes; tank from event to event; made weather after Bendt, "
    "Collares-Pereira and Rabl (1981) with the persistence of Graham, Hollands and Brunger (1988)"
)


def years_figures(report: YearsReport, life_h: float | None = None) -> list[Figure]:
    """Short days, worst month, dry spell, litres, hours and the pump's life in them, starts, cycles, energy."""
    told = Input("weather", report.told_by, "text")
    tank, bank = Input("tank", report.tank_l / 1000.0, "litres"), Input("usable charge", report.bank_ah, "charge")
    worst = report.worst_month
    array, motor, pump_cable, array_cable, controller, battery = report.energy_wh
    year = float(report.years)
    figures = [
        Figure("short-days", "Short days in a hundred", report.short_in_a_hundred, "number", (told, tank, bank),
               "days on which more than a hundredth of what was wanted was missing / days on which water is wanted", YEARS),
        Figure("worst-short", f"in the worst month, {month_name(worst)}", report.short_by_month[worst], "number", (told,),
               "as above, in that month alone", YEARS),
        Figure("dry-spell", "Longest run of short days", float(report.dry_spell_days), "days", (told,), "short days in a row", YEARS),
        Figure("litres-year", "Pumped in a year", report.litres_a_year / 1000.0, "litres", (told,), "flow x time, summed", YEARS),
        Figure("hours-year", "Hours run in a year", report.hours_a_year, "hours", (told,), "time with water flowing", YEARS),
        Figure("starts-day", "Starts on a mean day", report.starts_a_day, "number", (told, tank),
               "float closings with light or charge, and mornings with the float closed", YEARS),
    ]  # fmt: skip
    if life_h is not None and report.hours_a_year > 0.0:
        figures.append(
            Figure("life", "Pump's life at these hours, in years", life_h / report.hours_a_year, "number",
                   (Input("life", life_h, "hours"), Input("hours a year", report.hours_a_year, "hours")),
                   "life hours / hours run in a year", "life: the pump's catalogue entry")
        )  # fmt: skip
    if report.bank_ah > 0.0:
        figures.append(
            Figure("cycles", "Full cycles of the battery in a year", report.cycles_a_year, "number", (bank,),
                   "each day's fall of the charge / usable charge, summed", YEARS)
        )  # fmt: skip
    parts = (
        Input("motor", motor / year, "energy"), Input("cable to the pump", pump_cable / year, "energy"),
        Input("cable from the panels", array_cable / year, "energy"), Input("controller", controller / year, "energy"),
        Input("battery, its losses and what it kept", battery / year, "energy"),
        Input("out of balance", report.energy_off, "share"),
    )  # fmt: skip
    figures.append(
        Figure("energy-year", "Taken from the panels in a year", array / year, "energy", parts,
               "the panels' own curve at the volts they worked at, while the pump ran or the battery charged", YEARS)
    )  # fmt: skip
    return figures
