"""The need's derived figures, and what the need says of trough, flow, pressure and reserve."""

from squall.core.errors import SquallError
from squall.core.explain import Figure, Input
from squall.core.hydraulics.gravity import Zone
from squall.core.need.crops import USUAL_WIND_M_S
from squall.core.need.demand import COOL_DAY_C, HOT_DAY_C, STATE_FACTORS
from squall.core.reason import Spoken
from squall.core.sky.outside import DAYS_IN_MONTH
from squall.job.document.base import own
from squall.job.told.finding import Finding, Grade
from squall.job.worked.assess import Assessment
from squall.job.worked.needs import Part, burst_of, busiest, zone_of
from squall.job.worked.run import flow_now
from squall.words import say
from squall.words.units import text


def need_figures(a: Assessment) -> list[Figure]:
    """Water wanted: most in a day, in a year, and what is kept in reserve."""
    job, wanted, need = a.job, a.wanted_l, a.need_l
    most = max(need)
    month = need.index(most)
    if job.need_by == "herd":
        parts: tuple[Input, ...] = tuple(
            Input(part.name, part.litres[month] / 1000.0, "litres") for part in a.need_parts
        )
        formula = say("sum of the list x headroom; a month's own figure takes the sum's place")
    else:
        parts = (Input(say("typed"), own(job.litres, "litres"), "text"),)
        formula = say("as typed x headroom; a month's own figure takes its place")
    headroom = Input(say("headroom"), job.want.headroom.si, "number")
    year = sum(litres * days for litres, days in zip(wanted, DAYS_IN_MONTH, strict=True))
    figures = [
        Figure("need-most", say("Most in a day ({month:month})", month=month), most / 1000.0, "litres", (*parts, headroom), formula,
               say("what you typed")),
        Figure("need-year", say("Wanted in a year, without headroom"), year / 1000.0, "litres",
               (Input(say("months"), say("water a day x days of each month"), "text"),), say("sum over the months"), say("arithmetic")),
    ]  # fmt: skip
    if job.want.reserve.si > 0.0:
        litres = max(wanted) * job.want.reserve.si
        figures.append(
            Figure("need-reserve", say("Store for the reserve"), litres / 1000.0, "litres",
                   (Input(say("days held"), job.want.reserve.si, "number"), Input(say("most wanted in a day"), max(wanted) / 1000.0, "litres")),
                   say("days x the most wanted in a day, without headroom"), say("two cloudy days: common practice, no source"))
        )  # fmt: skip
    return figures


def part_figure(part: Part, month: int, et0_mm: float) -> Figure:
    """One row of the need in its thirstiest month."""
    inputs = [
        Input(
            say("hours of the clock"),
            say("{from_hour:g} to {to_hour:g}", from_hour=part.from_hour, to_hour=part.to_hour),
            "text",
        )
    ]
    if part.kind == "crop":
        inputs.append(Input(say("reference evapotranspiration"), et0_mm / 1000.0, "rain"))
        source = say(
            "FAO Irrigation and Drainage Paper 56 (1998), tables 11 and 12; effective rain: FAO Training Manual 3 (1986)"
        )
    elif part.kind == "herd":
        inputs.append(
            Input(
                say("in milk x{STATE_FACTORS:g}, near birth", STATE_FACTORS=STATE_FACTORS["milk"]),
                f"x{STATE_FACTORS['birthing']:g}",
                "text",
            )
        )
        source = say(
            "stock table; {COOL_DAY_C:g} and {HOT_DAY_C:temperature}: a guess",
            COOL_DAY_C=COOL_DAY_C,
            HOT_DAY_C=HOT_DAY_C,
        )
    else:
        source = say("what you typed")
    return Figure(f"part-{part.id}", say("{name}, {month:month} day", name=part.name, month=month), part.litres[month] / 1000.0, "litres",
                  tuple(inputs), part.how, source)  # fmt: skip


def need_findings(a: Assessment) -> list[Finding]:
    """Whether trough and flow carry the burst, the busiest hour, the pressure, and gravity alone."""
    found = []
    flow = 0.0 if a.chosen is None else flow_now(a.chosen)
    hour_flow = text(flow * 3600.0, "litres")
    rush = burst_of(a.job, a.need_parts, flow)
    if rush is not None:
        drunk = text(rush.drunk_l / 1000.0, "litres")
        if rush.short_l > 0.0:
            short = text(rush.short_l / 1000.0, "litres")
            found.append(
                Finding("bad", say("They come at once and drink {drunk} within the hour: {short} more than trough and flow give.", drunk=drunk, short=short),
                        (say("a larger trough or tank"), say("a float valve fed from a tank, not from the pump alone")))
            )  # fmt: skip
        else:
            found.append(Finding("good", say("Trough and flow carry the burst: {drunk} within the hour.", drunk=drunk)))
    if a.need_parts and a.chosen is not None:
        month = a.need_l.index(max(a.need_l))
        hour, litres = busiest(a.need_parts, month)
        said = text(litres / 1000.0, "litres")
        grade, word = (
            ("good", say("the pump gives"))
            if flow * 3.6e6 >= litres
            else ("care", say("a store has to help: the pump gives"))
        )
        found.append(
            Finding("good" if grade == "good" else "care",
                    say("Busiest is the hour from {hour}:00, {said} in {month:month}; {word} {hour_flow} in an hour.", hour=hour, said=said, month=month, word=word, hour_flow=hour_flow))
        )  # fmt: skip
    return found + _filling_times(a, flow) + pressure_findings(a)


def _filling_times(a: Assessment, flow_m3_s: float) -> list[Finding]:
    """How long the pump takes for each tank to be topped up: volume / flow."""
    if flow_m3_s <= 0.0 or a.job.need_by == "litres":
        return []
    return [
        Finding("good", say("{name}: {si:litres} takes {si2:.0f} minutes at {flow:flow}.", name=use.name, si=use.volume.si, si2=use.volume.si / flow_m3_s / 60.0, flow=flow_m3_s))
        for use in a.job.uses
        if use.kind == "volume"
    ]  # fmt: skip


def pressure_findings(a: Assessment) -> list[Finding]:
    """Whether each use gets its least pressure: from a tank's height and its pipe, or from the pump."""
    if a.job.need_by == "litres" or a.light is None:
        return []
    found = []
    by_id = {part.id: part for part in a.need_parts}
    for use in a.job.uses:
        wanted = use.pressure.si
        try:
            zone = zone_of(a.job, use, by_id[use.id])
        except SquallError as error:
            found.append(Finding("bad", say("{name}, fed by gravity: {why}", name=use.name, why=error.said)))
            continue
        if zone is not None:
            found += _zone_findings(use.name, zone, wanted)
        elif a.job.end_pressure.si < wanted:
            said, given = text(wanted, "head"), text(a.job.end_pressure.si, "head")
            found.append(
                Finding("care", say("{name} wants {said} at the outlet; the survey asks {given}.", name=use.name, said=said, given=given),
                        (say("type the pressure wanted on the Survey page"), say("or say how high the tank stands above the drippers")))
            )  # fmt: skip
    return found


def gravity_cautions(a: Assessment) -> list[Finding]:
    """Zones that a tank's height doesn't serve: told under the verdict, for the kit may fill the tank and the rows stay dry."""
    return [found for found in pressure_findings(a) if found.grade == "bad"]


def _zone_findings(name: str, zone: Zone, wanted_m: float) -> list[Finding]:
    """What one zone gets from the tank above it."""
    if zone.loss_m is None and wanted_m <= 0.0:
        return []
    said, stands, left = (text(value, "head") for value in (wanted_m, zone.fall_m, zone.left_m))
    flow = text(zone.flow_m3_s, "flow")
    if zone.left_m < 0.0:
        most = text(zone.most_m3_s or 0.0, "flow")
        return [
            Finding("bad", say("{name} takes {flow}; from a tank {stands} above it its pipe brings {most} at most.", name=name, flow=flow, stands=stands, most=most),
                    (say("a wider pipe"), say("fewer of them at once, in turn"), say("raise the tank")))
        ]  # fmt: skip
    if zone.left_m >= wanted_m:
        if zone.loss_m is None:
            return [Finding("good", say("{name}: {said} wanted; the tank stands {stands} above, so gravity will do. Its pipe is not known, and nothing taken off for it.", name=name, said=said, stands=stands))]  # fmt: skip
        return [
            Finding("good", say("{name}: {left} of the tank's {stands} are left at {flow}, {said} wanted: gravity will do.", name=name, left=left, stands=stands, flow=flow, said=said))
        ]  # fmt: skip
    grade: Grade = "bad" if zone.loss_m is not None else "care"
    lost = "" if zone.loss_m is None else say(" less {lost:head} in its pipe at {flow}", lost=zone.loss_m, flow=flow)
    return [
        Finding(grade, say("{name}: {said} wanted, the tank's height gives {stands}{lost}: gravity alone won't do.", name=name, said=said, stands=stands, lost=lost),
                (say("raise the tank"), say("a wider pipe"), say("a small pressure-switched diaphragm pump after it"), say("drippers and timers made for low pressure")))
    ]  # fmt: skip


def et0_figure(et0_mm: float, month_name: Spoken, method: str) -> Figure:
    """Reference evapotranspiration of one month."""
    words = {
        "penman-monteith": say(
            "FAO-56 equation 6; light from the climate, dew point 2 K under the night's least, wind {USUAL_WIND_M_S:head}/s",
            USUAL_WIND_M_S=USUAL_WIND_M_S,
        ),
        "hargreaves": say("FAO-56 equation 52, from temperatures alone"),
    }[method]
    return Figure("et0", say("Reference evapotranspiration, {month_name} day", month_name=month_name), et0_mm / 1000.0, "rain", (), words,
                  say("FAO Irrigation and Drainage Paper 56 (1998)"))  # fmt: skip
