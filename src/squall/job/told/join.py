"""How the panels of a job may stand, what a shadow does, how they are joined, and what the pump makes of every light."""

import numpy as np

from squall.core.advice.overdrive import Way, three_ways
from squall.core.advice.ratios import School, schools
from squall.core.advice.refusals import allowed_v, clipped_share
from squall.core.drive.mismatch import LitModule, array_curve, not_alike
from squall.core.drive.strings import StringWindow, string_window
from squall.core.electrics.modules import Module
from squall.core.explain import Figure, Input
from squall.core.kit.kit import TOUCH_LIMIT_V, Kit
from squall.core.kit.parts import Panel
from squall.core.kit.setup import Setup, table_on
from squall.core.kit.supply import Banked, Direct
from squall.core.years.by_light import MILD_AIR_C, MILD_LIGHTS_W_M2, MILD_STEP_W_M2, flow_by_light
from squall.core.years.many_days import days_of
from squall.core.years.nodes import hours_over
from squall.job.told.finding import DRIVE, Finding, Grade
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.job.worked.place import climate_of
from squall.words import say
from squall.words.units import text

HOT_CELL_RISE_K = 30.0
# Where a charge or motor has no lower window: a pump is taken to start working at this share of its rated volts, a guess.
LEAST_SHARE = 0.6
# A motor that stands asks this many times what it takes turning, to break away: a guess.
BREAK_AWAY = 1.3


def window_of(a: Assessment, kit: Kit) -> tuple[str, StringWindow, float, float]:
    """Whose window the string is held against, the check, and the window's ends. [V]

    A pump joined straight is harmed by what it runs at, not by open volts: there only its lower end counts.
    """
    climate = climate_of(a.job, a.parts)
    hottest = climate.record_high_c + HOT_CELL_RISE_K
    if kit.controller is not None:
        c = kit.controller
        whose, low, high = say("the controller's window ({title})", title=c.title), c.min_v, c.max_v
    else:
        whose, low, high = (
            say("what the pump works from ({title})", title=kit.pump.title),
            kit.pump.least_v or LEAST_SHARE * kit.pump.motor.rated_v,
            1000.0,
        )
    return whose, string_window(kit.panel.module, kit.in_series, climate.record_low_c, hottest, high, low), low, high


def over_words(a: Assessment, chosen: KitAssessment, most_v: float) -> str:
    """For how many hours of a year a pump straight on its panels gets more than it stands [V]."""
    hours = hours_over(chosen.setup, days_of(a.lit), most_v)
    if hours < 1.0:
        return say("only for instants, beside a cloud's bright edge on a cold day: no half hour of a year is over it")
    return say(
        "for about {hours:.0f} hours a year it is over that, besides the instants beside a cloud's edge", hours=hours
    )


def join_findings(a: Assessment, chosen: KitAssessment) -> list[Finding]:
    """What the joined panels' volts are, loudly where they harm a part or a person."""
    kit = chosen.kit
    whose, window, low, high = window_of(a, kit)
    cold, hot = text(window.voc_cold_v, "volts"), text(window.vmp_hot_v, "volts")
    found = []
    if window.verdict == "too-high":
        found.append(
            Finding("bad", say("Stop: {cold} open on the coldest morning, over {whose}, {high:volts}. It would be destroyed.", cold=cold, whose=whose, high=high),
                    (say("join fewer in series, more side by side"), say("take a part with a higher limit")))
        )  # fmt: skip
    elif window.verdict == "too-low":
        found.append(
            Finding("bad", say("At the hottest the string works at {hot}, under {whose}, {low:volts}: it stops when it is needed.", hot=hot, whose=whose, low=low),
                    (say("join more in series"),))
        )  # fmt: skip
    elif kit.controller is not None:
        found.append(
            Finding("good", say("{cold} open at the coldest and {hot} working at the hottest are within {whose}, {low:g} to {high:volts}.", cold=cold, hot=hot, whose=whose, low=low, high=high))
        )  # fmt: skip
    else:
        running, most = chosen.season.most_motor_v, allowed_v(kit)
        grade: Grade = "good" if running <= most else "bad"
        said = say(
            "Working at {hot} at the hottest; {cold} open on the coldest morning, with nothing running. Under the pump's load the most is {running:volts}; it stands {most:volts}.",
            hot=hot,
            cold=cold,
            running=running,
            most=most,
        )
        ways = () if grade == "good" else (over_words(a, chosen, most), say("limit noon, as shown below"))
        found.append(Finding(grade, said, ways))
    found += best_findings(kit)
    if window.voc_cold_v > TOUCH_LIMIT_V:
        found.append(
            Finding("bad", say("Stop: {cold} is over {TOUCH_LIMIT_V:volts}. That is no touch-safe voltage: shock and arcs can kill.", cold=cold, TOUCH_LIMIT_V=TOUCH_LIMIT_V),
                    (say("fewer in series keeps it under"), say("above it: a licensed electrician, and local codes")))
        )  # fmt: skip
    clipped = clipped_share(kit)
    if clipped > 0.02 and kit.controller is not None:
        found.append(
            Finding("care", say("In full sun the charger ends at {most:amps} and leaves {share:share} of the panels' watts unused; that is counted.", most=kit.controller.max_a, share=clipped))
        )  # fmt: skip
    if kit.in_parallel >= 3:
        limit = kit.panel.max_series_fuse_a
        found.append(
            Finding("care", say("Three or more strings side by side: each needs a fuse of its own, at most {limit:amps} as the panel's label says.", limit=limit))
        )  # fmt: skip
    if kit.panels > 1:
        found.append(
            Finding(
                "good",
                say("Only like panels are joined here. Measure each one's open volts before joining, then the string."),
            )
        )
    return found


def best_findings(kit: Kit) -> list[Finding]:
    """Working volts outside those that a maker calls best, of the pump and of its controller."""
    match kit.supply:
        case Banked():
            fed = kit.supply.open_v
        case Direct():
            fed = kit.panel.module.vmp_v * kit.in_series
        case _:
            fed = kit.supply.controller.out_max_v
    checks = [(kit.pump.title, kit.pump.best_from_v, kit.pump.best_to_v, fed)]
    if kit.controller is not None:
        c = kit.controller
        checks.append((c.title, c.best_from_v, c.best_to_v, kit.panel.module.vmp_v * kit.in_series))
    return [
        Finding("care", say("{title} gets {volts:volts}; its maker calls {low:volts} to {high:volts} best: it works, with less to spare.",
                            title=title, volts=volts, low=low, high=high), (say("join the panels otherwise, or take a part made for these volts"),))
        for title, low, high, volts in checks
        if low is not None and high is not None and not low <= volts <= high
    ]  # fmt: skip


def unlike(chosen: KitAssessment, other: Panel, in_series: bool) -> tuple[list[Figure], str]:
    """What another panel added to the array in series or side by side would give, and whether they are alike."""
    kit = chosen.kit
    mine, theirs = kit.panel.module, other.module

    def lit(module: Module) -> LitModule:
        return LitModule(module, 1000.0, 25.0)

    strings = [[lit(mine)] * kit.in_series for _ in range(kit.in_parallel)]
    before = array_curve(strings).most_w
    if in_series:
        strings[0] = [*strings[0], lit(theirs)]
    else:
        strings.append([lit(theirs)])
    after = array_curve(strings)
    parts = kit.array_w + theirs.watts
    how = say("in series with the first string") if in_series else say("side by side")
    inputs = (
        Input(say("these"), kit.panel.title, "text"),
        Input(say("that one"), other.title, "text"),
        Input(say("joined"), how, "text"),
    )
    formula = say(
        "volts add in a string at one current, amps add between strings at one voltage; the top of the product"
    )
    source = say("De Soto (2006) single diode for each panel; bypass diodes at 0.5 V")
    figures = [
        Figure("unlike-watts", say("Together they give"), after.most_w, "watts", inputs, formula, source),
        Figure(
            "unlike-parts",
            say("Each by itself would add up to"),
            parts,
            "watts",
            inputs,
            say("nameplates"),
            say("nameplates"),
        ),
        Figure("unlike-gain", say("More than before by"), after.most_w - before, "watts", inputs, formula, source),
        Figure("unlike-open", say("Open volts then"), after.open_v, "volts", inputs, formula, source),
    ]
    why = not_alike(mine, theirs, in_series)
    return figures, say("Not alike: {why}.", why=why) if why else say("Alike enough to be joined so.")


def light_figures(chosen: KitAssessment) -> list[Figure]:
    """Light at which it starts from standstill, and down to which it keeps running; none for a battery."""
    kit = chosen.kit
    if isinstance(kit.supply, Banked):
        return []
    lights, course = flow_by_light(Setup(kit, chosen.layout, chosen.cabling))
    wet = np.nonzero(course.flow_m3_s > 0.0)[0]
    table = table_on(kit.pump.motor, chosen.layout, kit.hose)
    keeps = float(lights[wet[0]]) - 5.0 if wet.size else None
    starts = keeps
    if isinstance(kit.supply, Direct) and keeps is not None:
        breaking = BREAK_AWAY * table.standstill_a / (kit.panel.module.isc_a * kit.in_parallel) * 1000.0
        starts = max(keeps, breaking)
    inputs = (
        Input(say("array"), kit.array_w, "watts"), Input(say("joined"), kit.joining, "text"), Input(say("pump"), kit.pump.title, "text"),
        Input(say("amps that hold it at standstill"), table.standstill_a, "amps"),
    )  # fmt: skip
    return [
        Figure("starts-at", say("Water starts, from standstill, at"), starts, "irradiance", inputs,
               say("the light at which flow arrives, or at which the panel's short-circuit amps are {BREAK_AWAY:g} times those that turning takes, whichever is more", BREAK_AWAY=BREAK_AWAY), say("{DRIVE}; {BREAK_AWAY:g}: a guess, for sticking seals and brushes", DRIVE=DRIVE, BREAK_AWAY=BREAK_AWAY)),
        Figure("keeps-at", say("Once running, it keeps on down to"), keeps, "irradiance", inputs,
               say("the least light, in steps of {step:irradiance}, with flow on a day of {air:temperature}", step=MILD_STEP_W_M2, air=MILD_AIR_C), DRIVE),
    ]  # fmt: skip


def every_light(chosen: KitAssessment) -> tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray] | None:
    """Light, flow, volts and amps of a sun-driven kit, 10 to 1200 W/m2; None for a battery."""
    if isinstance(chosen.kit.supply, Banked):
        return None
    _, course = flow_by_light(chosen.setup)
    return MILD_LIGHTS_W_M2, course.flow_m3_s, course.motor_v, course.motor_a


def limit_ways(a: Assessment, chosen: KitAssessment, limit_v: float | None) -> list[Way]:
    """The ways of limiting noon, for a kit joined straight; none for others."""
    if not isinstance(chosen.kit.supply, Direct):
        return []
    return three_ways(chosen.setup, a.lit, a.parts.stock.controllers, limit_v)


def limit_of(chosen: KitAssessment) -> float:
    """Most volts that the chosen pump stands. [V]"""
    return allowed_v(chosen.kit)


def schools_of(a: Assessment, chosen: KitAssessment) -> list[School]:
    """What each ratio of panel to pump gives."""
    return schools(chosen.setup, a.lit, chosen.use)
