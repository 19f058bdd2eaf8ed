"""Tank with its float switch, battery with its timer, and the two schools side by side."""

from dataclasses import dataclass
from math import ceil

from squall.catalogue import catalogue
from squall.core.advice.refusals import standing_v
from squall.core.electrics.energy import autonomy_hours
from squall.core.electrics.timers import MOST_STARTS, week_of
from squall.core.errors import SquallError
from squall.core.explain import Figure, Input
from squall.core.kit.bank import cold_factor, drawn_a, standing_a, usable_ah
from squall.core.kit.kit import Kit
from squall.core.kit.supply import Direct
from squall.core.years.tanks import Tank, float_cycle
from squall.core.years.typical import reserve_days
from squall.job.document.job import Job
from squall.job.told.finding import DRIVE, Finding, Grade
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.job.worked.needs import burst_of
from squall.job.worked.resolve import devices_of
from squall.job.worked.use import bank_of, floats_of, tank_of
from squall.words import say

HALF_HOUR_H = 0.5
# A plug-in supply is not run above this share of its amps: common practice, no source.
SUPPLY_SHARE = 0.8


def store_figures(a: Assessment, chosen: KitAssessment, tank: Tank) -> list[Figure]:
    """Water between on and off, shortest run, pause, starts a day, days the full tank lasts."""
    month = chosen.worst_month
    flow_l_s = chosen.season.most_flow_m3_s * 1000.0
    wanted = a.wanted_l[month]
    draw_l_s = wanted / 43_200.0
    inputs = (
        Input(say("tank"), tank.capacity_l / 1000.0, "litres"), Input(say("float's travel"), a.job.store.travel.si, "head"),
        Input(say("ripple"), a.job.store.ripple.si, "head"), Input(say("most flow"), chosen.season.most_flow_m3_s, "flow"),
        Input(say("drawn by day in {month:month}", month=month), draw_l_s / 1000.0, "flow"),
    )  # fmt: skip
    figures = [
        Figure("tank-days", say("A full tank lasts, with no water coming"), tank.capacity_l / wanted if wanted > 0 else None, "days",
               (*inputs[:1], Input(say("wanted a day"), wanted / 1000.0, "litres")), say("tank / wanted"), say("what you typed")),
    ]  # fmt: skip
    if floats_of(a.job):
        figures.append(
            Figure("travel-water", say("Water between on and off"), tank.travel_l / 1000.0, "litres", inputs,
                   say("tank x (travel - ripple) / depth"), say("straight walls"))
        )  # fmt: skip
        cycle = float_cycle(tank.travel_l, flow_l_s, draw_l_s)
        if cycle is not None:
            how = say("water between on and off / (most flow - drawn); drawn over twelve hours")
            figures += [
                Figure("run-time", say("A run at full sun lasts"), cycle.run_h, "hours", inputs, how, DRIVE),
                Figure("pause", say("then it stands for"), cycle.pause_h, "hours", inputs, say("water between on and off / drawn"), say("what you typed")),
            ]  # fmt: skip
    return figures


def store_findings(a: Assessment, chosen: KitAssessment) -> tuple[Tank | None, list[Finding]]:
    """The tank of a job, and what is to be said of it."""
    try:
        tank = tank_of(a.job, chosen.kit.tank)
    except SquallError as error:
        return None, [
            Finding("bad", say("{error} With so little it chatters in ripples and wears the pump out.", error=error))
        ]
    if tank is None:
        lost = say(
            "There is no tank: water that comes when nobody takes it is lost, and a float switch has nothing to ride on."
        )
        kept = say(
            "There is no tank: what a day wants is taken whenever it comes, and a float switch has nothing to ride on."
        )
        return None, [
            Finding("care", kept if a.used.by_sun else lost,
                    (say("a tank that holds a day or more carries nights and dull days"),))
        ]  # fmt: skip
    found = float_findings(a.job)
    wanted = max(a.wanted_l)
    days, reserve = tank.capacity_l / wanted if wanted > 0.0 else 0.0, a.job.want.reserve.si
    if wanted > 0.0:
        enough = days >= reserve
        found.append(
            Finding("good" if enough else "care",
                    say("{capacity:litres} lasts {days:.1f} days at the most that is wanted; {reserve:g} days were asked for.", capacity=tank.capacity_l / 1000.0, days=days, reserve=reserve),
                    () if enough else (say("{reserve:litres} would hold them", reserve=reserve * wanted / 1000.0),))
        )  # fmt: skip
    if not floats_of(a.job) and chosen.kit.battery is not None:
        found.append(
            Finding("care", say("No float switch: somebody must stop the pump when the tank is full, else it empties the battery. It is reckoned as if they did."),
                    (say("a float switch does it by night too"),))
        )  # fmt: skip
    if floats_of(a.job):
        cycle = float_cycle(tank.travel_l, chosen.season.most_flow_m3_s * 1000.0, wanted / 43_200.0)
        if cycle is not None and cycle.run_h < HALF_HOUR_H:
            more = a.job.store.travel.si * HALF_HOUR_H / cycle.run_h
            found.append(
                Finding("care", say("A run lasts {run:.0f} minutes; under half an hour the switch and the pump wear.", run=cycle.run_h * 60.0),
                        (say("a travel of about {more:head} would give half an hour", more=more), say("a larger tank")))
            )  # fmt: skip
        elif cycle is not None:
            found.append(
                Finding(
                    "good",
                    say(
                        "A run lasts {run:.0f} minutes at full sun: half an hour or more is wanted.",
                        run=cycle.run_h * 60.0,
                    ),
                )
            )
    crowd = burst_of(a.job, a.need_parts, chosen.season.most_flow_m3_s)
    if crowd is not None and crowd.short_l > 0.0:
        found.append(
            Finding("bad", say("When the herd comes, {drunk:litres} is drunk within the hour; trough and flow give {trough:litres}. On the page of the years each such day shows.", drunk=crowd.drunk_l / 1000.0, trough=(crowd.trough_l + crowd.flow_l) / 1000.0),
                    (say("{drunk:litres} of trough and tank would carry it", drunk=(crowd.drunk_l - crowd.flow_l) / 1000.0),))
        )  # fmt: skip
    return tank, found


def switch_findings(a: Assessment, chosen: KitAssessment) -> list[Finding]:
    """What a pressure switch does with this pump: how often it starts at a small flow, and what is left at the outlet when it starts."""
    layout, kit = chosen.layout, chosen.kit
    switch = layout.switch
    if switch is None:
        return []
    volts = standing_v(kit)
    why = switch.refusal(kit.pump.motor, volts, layout.column_m)
    if why is not None:
        return [Finding("bad", say("As it is set: {why}.", why=why))]
    found = [Finding("good", say("It stops against a shut outlet, and starts again when one opens."))]
    if isinstance(kit.supply, Direct):
        found.append(Finding("care", say("Straight on panels it may stand against a shut outlet below its cut-out in weak light, and hum: a pressure switch goes with a battery or a controller.")))  # fmt: skip
    cycles = switch.cycles(kit.pump.motor, volts)
    if switch.small_flow_m3_s is None:
        found.append(
            Finding("care", say("Say the least that is drawn for long, and how often it starts is worked out."))
        )
    elif cycles is None:
        found.append(Finding("good", say("At {flow:flow} it runs on without stopping, as far as its curve was measured.", flow=switch.small_flow_m3_s)))  # fmt: skip
    elif cycles.starts_h is None:
        found.append(Finding("bad", say("At {flow:flow} it chatters: no pressure tank stands behind the switch, and the pump gives {gives:flow}.", flow=switch.small_flow_m3_s, gives=cycles.gives_m3_s),
                             (say("a pressure tank behind the switch"), say("draw more at once, or into a tank by a float switch"))))  # fmt: skip
    else:
        said = say(
            "At {flow:flow} it starts {starts:.0f} times an hour and runs {run:.0f} s each: the pressure tank gives {water:litres} between them, the pump {gives:flow}.",
            flow=switch.small_flow_m3_s, starts=cycles.starts_h, run=cycles.run_s, water=switch.buffered_l / 1000.0,
            gives=cycles.gives_m3_s,
        )  # fmt: skip
        answers = (
            (say("a larger pressure tank"), say("more room between cut-in and cut-out")) if cycles.too_often else ()
        )
        found.append(Finding("bad" if cycles.too_often else "good", said, answers))
    return [*found, _left_at_outlet(a, chosen, switch.cut_in_m - layout.column_m)]


def _left_at_outlet(a: Assessment, chosen: KitAssessment, left_m: float) -> Finding:
    wanted = max([chosen.layout.end_pressure_m, *(use.pressure.si for use in a.job.uses)])
    if left_m < wanted:
        return Finding("bad", say("When it starts, {left:pressure} is left at the outlet; {wanted:pressure} is wanted there: a timer valve may not open, drippers give unevenly.", left=left_m, wanted=wanted))  # fmt: skip
    return Finding("good", say("When it starts, {left:pressure} is left at the outlet, with no flow; a tap timer or valve downstream wants what its label says.", left=left_m))  # fmt: skip


def bank_figures(a: Assessment, chosen: KitAssessment) -> list[Figure]:
    """Usable charge as it is, cold, hours it carries the pump, dark days; none without a battery."""
    kit = chosen.kit
    if kit.battery is None:
        return []
    bank = bank_of(a.job, a.parts)
    usable, cold = usable_ah(kit, bank), cold_factor(kit.battery.chemistry, bank.air_c)
    amps = drawn_a(chosen.season.most_motor_a, bank) + standing_a(kit, bank)
    hours = autonomy_hours(kit.battery.capacity_ah, kit.battery.usable, bank.age * cold, amps) if amps > 0.0 else None
    inputs = (
        Input(say("rated charge"), kit.battery.capacity_ah, "charge"), Input(say("usable"), kit.battery.usable, "share"),
        Input(say("still holds, of its age"), bank.age, "share"), Input(say("gives in the cold"), cold, "share"),
        Input(say("air of the coldest month"), bank.air_c, "temperature"), Input(say("pump draws, and what else is on the bank"), amps, "amps"),
    )  # fmt: skip
    source = say(
        "cold: a guess after common practice, no source; the rest: the battery's catalogue entry and what you typed"
    )
    return [
        Figure("usable-charge", say("Usable charge as it is"), usable, "charge", inputs[:5], say("rated x usable x age x cold"), source),
        Figure("autonomy", say("Carries the pump for"), hours, "hours", inputs, say("Ah x usable x age x cold / A"), source),
        *_other_school(kit, bank.age * cold, amps, inputs),
        dark_days(a, chosen, "dark-days"),
    ]  # fmt: skip


# What the school that empties a lead battery takes of it, and the one that spares it: common practice, no source.
NEARLY_ALL, HALF = 0.9, 0.5


def _other_school(kit: Kit, left: float, amps: float, inputs: tuple[Input, ...]) -> list[Figure]:
    """How long a lead bank carries the pump by the school that its catalogue entry doesn't follow."""
    battery = kit.battery
    if battery is None or not battery.chemistry.startswith("lead") or amps <= 0.0:
        return []
    other = NEARLY_ALL if battery.usable < 0.7 else HALF
    hours = autonomy_hours(battery.capacity_ah, other, left, amps)
    label = say("Carries it, nearly emptied") if other == NEARLY_ALL else say("Carries it, half emptied")
    return [
        Figure("autonomy-other", label, hours, "hours", inputs, say("Ah x {other:share} x age x cold / A", other=other),
               say("two habits: half the charge and a longer life, or nearly all of it; common practice, no source"))
    ]  # fmt: skip


def dark_days(a: Assessment, chosen: KitAssessment, key: str) -> Figure:
    """Days without any sun that the bank bridges: one figure on every page."""
    kit, bank = chosen.kit, chosen.use.bank
    assert kit.battery is not None
    month = chosen.worst_month
    wanted = a.wanted_l[month]
    return Figure(
        key, say("Dark days a full battery bridges"), reserve_days(kit, wanted, chosen.season, bank), "days",
        (Input(say("usable charge as it is"), usable_ah(kit, bank), "charge"),
         Input(say("pump draws"), chosen.season.most_motor_a, "amps"),
         Input(say("flow"), chosen.season.means.rate_l_s / 1000.0, "flow"),
         Input(say("wanted in {month:month}", month=month), wanted / 1000.0, "litres")),
        say("usable charge / (amps x hours that the water takes)"), say("battery's catalogue entry, its age and the cold"),
    )  # fmt: skip


def timer_findings(a: Assessment, chosen: KitAssessment) -> list[Finding]:
    """What the timer allows against what is wanted."""
    bank = bank_of(a.job, a.parts)
    if not bank.timer:
        return [
            Finding(
                "good",
                say(
                    "No timer: the pump may run at any time. A timer has up to {MOST_STARTS} starts a day.",
                    MOST_STARTS=MOST_STARTS,
                ),
            )
        ]
    try:
        week = week_of(bank.timer, 144)
    except SquallError as error:
        return [Finding("bad", str(error))]
    hours = week.reshape(7, 144).sum(axis=1) / 6.0
    most, least = float(hours.max()), float(hours.min())
    flow_l_h = chosen.season.most_flow_m3_s * 3_600_000.0
    gives, wanted = float(hours.mean()) * flow_l_h, max(a.wanted_l)
    span = (
        say("{most:hours} on every day", most=most)
        if most == least
        else say("{least:.1f} to {most:hours} a day", least=least, most=most)
    )
    grade: Grade = "good" if gives >= wanted else "bad"
    return [
        Finding(grade, say("The timer lets it run {span}: {gives:litres} a day, {wanted:litres} are wanted.", span=span, gives=gives / 1000.0, wanted=wanted / 1000.0))
    ]  # fmt: skip


@dataclass(frozen=True)
class Schooled:
    """Carrying the same dark days: in water or in charge; words, what it takes, price, and what speaks for and against."""

    words: str
    takes: str
    price: float | None
    speaks_for: str
    against: str


def both_schools(a: Assessment, chosen: KitAssessment) -> list[Schooled]:
    """Store water, or store electricity, for the days asked for, with the parts of the catalogue."""
    days, wanted = max(a.job.want.reserve.si, 0.5), max(a.wanted_l)
    litres = days * wanted
    tanks = a.parts.stock.tanks
    tank_price: float | None = None
    tank_words = say("{litres:litres} of tank", litres=litres / 1000.0)
    if tanks and litres > 0.0:
        unit, count = min(((t, ceil(litres / t.capacity_l)) for t in tanks), key=lambda row: row[0].price_of(row[1]))
        tank_price, tank_words = (
            unit.price_of(count),
            say("{count} x {title} for {litres:litres}", count=count, title=unit.title, litres=litres / 1000.0),
        )
    kit, motor = chosen.kit, chosen.kit.pump.motor
    flow, amps = chosen.working.flow_m3_s or 0.0, chosen.working.motor_a
    bank_price: float | None = None
    bank_words = say("no battery of the catalogue makes this pump's volts")
    best: tuple[float, str] | None = None
    for battery in a.parts.stock.batteries:
        series = round(motor.rated_v / battery.nominal_v)
        if series < 1 or abs(series * battery.nominal_v - motor.rated_v) > 1.0 or flow <= 0.0:
            continue
        charge = amps * litres / (flow * 3_600_000.0)
        strings = ceil(charge / (battery.capacity_ah * battery.usable)) if charge > 0.0 else 1
        price = battery.price_of(strings * series)
        words = say(
            "{strings} x {title} for {charge:charge} at {rated:volts}",
            strings=strings * series,
            title=battery.title,
            charge=charge,
            rated=motor.rated_v,
        )
        best = min(best or (price, words), (price, words))
    if best is not None:
        chargers = [
            c.price_of(1) for c in a.parts.stock.controllers if c.kind != "pump" and c.out_max_v >= motor.rated_v * 0.9
        ]
        bank_price, bank_words = best[0] + (min(chargers) if chargers and kit.battery is None else 0.0), best[1]
        if kit.battery is None:
            bank_words += say(" and a charge controller")
    return [
        Schooled(say("store water"), tank_words, tank_price, say("lasts decades, needs no care, pumps at the sun's pace"),
                 say("takes room, can freeze and grow green; must stand high enough")),
        Schooled(say("store charge"), bank_words, bank_price, say("pumps at night and on demand, at steady pressure"),
                 say("wears out in years, loses in the cold, can burn or short")),
    ]  # fmt: skip


def float_findings(job: Job) -> list[Finding]:
    """Floats that the loop and the store tell of differently, or two for one tank."""
    in_loop = [device.name for device in devices_of(job, catalogue()) if device.kind == "float switch"]
    if len(in_loop) > 1:
        text = say(
            "{n} float switches stand in the pump's loop for one tank: whichever opens first stops the pump.",
            n=len(in_loop),
        )
        return [
            Finding("care", text, (say("take out all but one on Wire, unless the second guards against overflow"),))
        ]
    if in_loop and not job.store.float_switch:
        text = say(
            "The {name} in the pump's loop is taken as this tank's, though none is ticked here.", name=in_loop[0]
        )
        return [Finding("care", text, (say("tick it here too, and say how far it travels"),))]
    if job.store.float_switch and not in_loop:
        text = say(
            "A float switch is ticked, but none stands in the pump's loop: nobody checks that it bears the amps and volts."
        )
        return [
            Finding(
                "care",
                text,
                (
                    say(
                        "put the one that is bought into the loop on Wire; on a controller's own float input it carries none of them"
                    ),
                ),
            )
        ]
    return []


def supply_finding(chosen: KitAssessment, volts: float, amps: float) -> Finding:
    """Whether a plug-in supply of given volts and amps carries the chosen pump with headroom."""
    from squall.core.drive.solve import Supply, solve

    motor = chosen.kit.pump.motor
    met = solve(
        Supply(volts, amps),
        chosen.cabling.pump_ohm(chosen.kit, chosen.layout),
        motor,
        chosen.layout.line(chosen.kit.hose),
    )
    most = motor.max_v
    if most is not None and volts > most:
        return Finding("bad", say("{volts:volts} is over what the pump stands, {most:volts}.", volts=volts, most=most))
    flow = met.flow_m3_s if met.flow_m3_s is not None else met.flow_at_least_m3_s
    if not met.flows:
        return Finding(
            "bad",
            say("On that supply no water comes: {why_not}.", why_not=met.why_not or "the pump does not reach the lift"),
        )
    share = met.motor_a / amps
    words = say(
        "The pump draws {motor:amps} of its {amps:amps}, and gives {flow:flow}",
        motor=met.motor_a,
        amps=amps,
        flow=flow or 0.0,
    )
    if share > SUPPLY_SHARE:
        need = met.motor_a / SUPPLY_SHARE
        return Finding(
            "bad",
            say("{words}: too near its limit, a supply is never run at full.", words=words),
            (say("take one of {need:amps} or more", need=need),),
        )
    return Finding("good", say("{words}: {share:share} to spare.", words=words, share=1.0 - share))
