"""The figures of a run of the years, each with what it was computed from."""

from squall.core.explain import Figure, Input
from squall.job.worked.years import YearsReport
from squall.words import later, say

YEARS = later(
    "docs/method.md, the years: the drive at every ten minutes; tank from event to event; made weather after Bendt, Collares-Pereira and Rabl (1981) with the persistence of Graham, Hollands and Brunger (1988)"
)


def years_figures(report: YearsReport, life_h: float | None = None) -> list[Figure]:
    """Short days, worst month, dry spell, litres, hours and the pump's life in them, starts, cycles, energy."""
    told = Input(say("weather"), report.weather, "text")
    tank, bank = (
        Input(say("tank"), report.tank_l / 1000.0, "litres"),
        Input(say("usable charge"), report.bank_ah, "charge"),
    )
    worst = report.worst_month
    array, motor, pump_cable, array_cable, controller, battery = report.energy_wh
    year = float(report.years)
    figures = [
        Figure("short-days", say("Short days in a hundred"), report.short_in_a_hundred, "number", (told, tank, bank),
               say("days on which more than a hundredth of what was wanted was missing / days on which water is wanted"), YEARS),
        Figure("worst-short", say("in the worst month, {worst:month}", worst=worst), report.short_by_month[worst], "number", (told,),
               say("as above, in that month alone"), YEARS),
        Figure("dry-spell", say("Longest run of short days"), float(report.dry_spell_days), "days", (told,), say("short days in a row"), YEARS),
        Figure("litres-year", say("Pumped in a year"), report.litres_a_year / 1000.0, "litres", (told,), say("flow x time, summed"), YEARS),
        Figure("hours-year", say("Hours run in a year"), report.hours_a_year, "hours", (told,), say("time with water flowing"), YEARS),
        Figure("starts-day", say("Starts on a mean day"), report.starts_a_day, "number", (told, tank),
               say("float closings with light or charge, and mornings with the float closed"), YEARS),
    ]  # fmt: skip
    if life_h is not None and report.hours_a_year > 0.0:
        figures.append(
            Figure("life", say("Pump's life at these hours, in years"), life_h / report.hours_a_year, "number",
                   (Input(say("life"), life_h, "hours"), Input(say("hours a year"), report.hours_a_year, "hours")),
                   say("life hours / hours run in a year"), say("life: the pump's catalogue entry"))
        )  # fmt: skip
    if report.bank_ah > 0.0:
        figures.append(
            Figure("cycles", say("Full cycles of the battery in a year"), report.cycles_a_year, "number", (bank,),
                   say("each day's fall of the charge / usable charge, summed"), YEARS)
        )  # fmt: skip
    parts = (
        Input(say("motor"), motor / year, "energy"), Input(say("cable to the pump"), pump_cable / year, "energy"),
        Input(say("cable from the panels"), array_cable / year, "energy"), Input(say("controller"), controller / year, "energy"),
        Input(say("battery, its losses and what it kept"), battery / year, "energy"),
        Input(say("out of balance"), report.energy_off, "share"),
    )  # fmt: skip
    figures.append(
        Figure("energy-year", say("Taken from the panels in a year"), array / year, "energy", parts,
               say("the panels' own curve at the volts they worked at, while the pump ran or the battery charged"), YEARS)
    )  # fmt: skip
    return figures
