"""The need's derived figures, and what the need says of trough, flow, pressure and reserve."""

from squall.core.explain import Figure, Input
from squall.core.need.demand import COOL_DAY_C, HOT_DAY_C, STATE_FACTORS
from squall.core.sky.climate import DAYS_IN_MONTH
from squall.core.years.typical import month_name
from squall.job.told.finding import Finding
from squall.job.worked.assess import Assessment
from squall.job.worked.needs import Part, burst_of, busiest
from squall.job.worked.run import flow_now
from squall.words.units import System, text


def need_figures(a: Assessment) -> list[Figure]:
    """Water wanted: most in a day, in a year, and what is kept in reserve."""
    job, wanted, need = a.job, a.wanted_l, a.need_l
    most = max(need)
    month = need.index(most)
    if job.need_by == "herd":
        parts: tuple[Input, ...] = tuple(
            Input(part.name, part.litres[month] / 1000.0, "litres") for part in a.need_parts
        )
        formula = "sum of the list x headroom; a month's own figure takes the sum's place"
    else:
        parts = (Input("typed", job.litres.typed, "text"),)
        formula = "as typed x headroom; a month's own figure takes its place"
    headroom = Input("headroom", job.want.headroom.si, "number")
    year = sum(litres * days for litres, days in zip(wanted, DAYS_IN_MONTH, strict=True))
    figures = [
        Figure("need-most", f"Most in a day ({month_name(month)})", most / 1000.0, "litres", (*parts, headroom), formula,
               "what you typed"),
        Figure("need-year", "Wanted in a year, without headroom", year / 1000.0, "litres",
               (Input("months", "litres a day x days of each month", "text"),), "sum over the months", "arithmetic"),
    ]  # fmt: skip
    if job.want.reserve.si > 0.0:
        litres = max(wanted) * job.want.reserve.si
        figures.append(
            Figure("need-reserve", "Store for the reserve", litres / 1000.0, "litres",
                   (Input("days held", job.want.reserve.si, "number"), Input("most wanted in a day", max(wanted) / 1000.0, "litres")),
                   "days x the most wanted in a day, without headroom", "two cloudy days: common practice, no source")
        )  # fmt: skip
    return figures


def part_figure(part: Part, month: int, et0_mm: float) -> Figure:
    """One row of the need in its thirstiest month."""
    inputs = [Input("hours of the clock", f"{part.from_hour:g} to {part.to_hour:g}", "text")]
    if part.how.startswith("(Kc"):
        inputs.append(Input("reference evapotranspiration", et0_mm / 1000.0, "rain"))
        source = "FAO Irrigation and Drainage Paper 56 (1998), tables 11 and 12; effective rain: FAO Training Manual 3 (1986)"
    elif part.how.startswith("count"):
        inputs.append(
            Input(f"in milk x{STATE_FACTORS['milk']:g}, near birth", f"x{STATE_FACTORS['birthing']:g}", "text")
        )
        source = f"stock table; {COOL_DAY_C:g} and {HOT_DAY_C:g} °C: a guess"
    else:
        source = "what you typed"
    return Figure(f"part-{part.id}", f"{part.name}, {month_name(month)} day", part.litres[month] / 1000.0, "litres",
                  tuple(inputs), part.how, source)  # fmt: skip


def need_findings(a: Assessment, units: System) -> list[Finding]:
    """Whether trough and flow carry the burst, the busiest hour, the pressure, and gravity alone."""
    found = []
    flow = 0.0 if a.chosen is None else flow_now(a.chosen)
    hour_flow = text(flow * 3600.0, "litres", units)
    rush = burst_of(a.job, a.need_parts, flow)
    if rush is not None:
        drunk = text(rush.drunk_l / 1000.0, "litres", units)
        if rush.short_l > 0.0:
            short = text(rush.short_l / 1000.0, "litres", units)
            found.append(
                Finding("bad", f"They come at once and drink {drunk} within the hour: {short} more than trough and flow give.",
                        ("a larger trough or tank", "a float valve fed from a tank, not from the pump alone"))
            )  # fmt: skip
        else:
            found.append(Finding("good", f"Trough and flow carry the burst: {drunk} within the hour."))
    if a.need_parts and a.chosen is not None:
        month = a.need_l.index(max(a.need_l))
        hour, litres = busiest(a.need_parts, month)
        said = text(litres / 1000.0, "litres", units)
        grade, word = (
            ("good", "the pump gives") if flow * 3.6e6 >= litres else ("care", "a store has to help: the pump gives")
        )
        found.append(
            Finding("good" if grade == "good" else "care",
                    f"Busiest is the hour from {hour}:00, {said} in {month_name(month)}; {word} {hour_flow} in an hour.")
        )  # fmt: skip
    return found + _filling_times(a, flow, units) + pressure_findings(a, units)


def _filling_times(a: Assessment, flow_m3_s: float, units: System) -> list[Finding]:
    """How long the pump takes for each tank to be topped up: volume / flow."""
    if flow_m3_s <= 0.0 or a.job.need_by == "litres":
        return []
    return [
        Finding("good", f"{use.name}: {text(use.volume.si, 'litres', units)} takes {use.volume.si / flow_m3_s / 60.0:.0f} minutes at "
                f"{text(flow_m3_s, 'flow', units)}.")
        for use in a.job.uses
        if use.kind == "volume"
    ]  # fmt: skip


def pressure_findings(a: Assessment, units: System) -> list[Finding]:
    """Whether each use gets its least pressure: from a tank's height alone, or from the pump."""
    found = []
    fall = a.job.want.fall
    for use in a.job.uses:
        wanted = use.pressure.si
        if wanted <= 0.0 or a.job.need_by == "litres":
            continue
        said = text(wanted, "head", units)
        if fall is not None:
            stands = text(fall.si, "head", units)
            if fall.si >= wanted:
                found.append(
                    Finding("good", f"{use.name}: {said} wanted; the tank stands {stands} above, so gravity will do.")
                )
            else:
                found.append(
                    Finding("care", f"{use.name}: {said} wanted, the tank's height gives {stands}: gravity alone won't do.",
                            ("raise the tank", "a small pressure-switched diaphragm pump after it",
                             "drippers and timers made for low pressure"))
                )  # fmt: skip
        elif a.job.end_pressure.si < wanted:
            given = text(a.job.end_pressure.si, "head", units)
            found.append(
                Finding("care", f"{use.name} wants {said} at the outlet; the survey asks {given}.",
                        ("type the pressure wanted on the Survey page", "or say how high the tank stands above the drippers"))
            )  # fmt: skip
    return found
