"""What the visits of a kit mean, in sentences: what has worn, when too little comes, the days ahead."""

from squall.core.explain import Figure, Input
from squall.core.reason import Reason, Spoken
from squall.core.upkeep.wear import Level
from squall.job.kept.ahead import AHEAD_DAYS, Ahead
from squall.job.kept.hours import HoursRun
from squall.job.kept.upkeep import ASK_LIGHT, DONE_WORDS, Kept
from squall.words import later, say
from squall.words.units import text

# Fewer visits than this foretell nothing: a line wants more than two points. [-]
FORETELLS = 3


def left_of(kept: Kept) -> float:
    """Share of its stated flow that a kit gives still; all of it until enough visits foretell anything. [-]"""
    if kept.believed < FORETELLS or kept.worn.label_flow_m3_s <= 0.0:
        return 1.0
    return kept.worn.flow_m3_s / kept.worn.label_flow_m3_s


def ahead_words(ahead: Ahead) -> list[Spoken]:
    """The coming ninety days in sentences."""
    days, litres = ahead.short_days, ahead.short_l
    said: list[Spoken] = []
    if days.worst == 0.0:
        said.append(
            later("In none of ten made years is a day short from now to {until}.", until=ahead.until.isoformat())
        )
    else:
        said.append(later("In the {days} days to {until}, {middle:.0f} run short in a middling year, {best:.0f} in the best of ten and {worst:.0f} in the worst; at most {longest} in a row.", until=ahead.until.isoformat(), middle=days.middle, days=AHEAD_DAYS, best=days.best, worst=days.worst, longest=ahead.longest_d))  # fmt: skip
        said.append(later("To be brought by hand, or done without: {middle:litres} in a middling year, {worst:litres} in the worst.", middle=litres.middle / 1000.0, worst=litres.worst / 1000.0))  # fmt: skip
    came = ahead.litres_a_day
    said.append(later("On the mean day {middle:litres} come ({worst:litres} to {best:litres}), {wanted:litres} are wanted.", middle=came.middle / 1000.0, worst=came.worst / 1000.0, best=came.best / 1000.0, wanted=ahead.wanted_l / 1000.0))  # fmt: skip
    if ahead.frost is not None and ahead.frost >= 0.5:
        said.append(later("About {nights:.0f} nights of frost.", nights=ahead.frost))
    if ahead.left < 0.995:
        said.append(later("Counted with what has worn: {left:share} of the stated flow is left.", left=ahead.left))
    return said


def hours_figure(run: HoursRun) -> Figure:
    """How long the pump has run, and by what that is known."""
    how = {
        "meter": say("what its hour meter showed, and before and after it at the same rate"),
        "logger": say("what its logger counted, and before and after it at the same rate"),
        "year": say("hours in a year, as worked out on Power, x the time since"),
    }[run.by]
    inputs = (Input(say("since"), run.since.isoformat(), "text"), Input(say("hours a year"), run.a_year, "hours"))
    source = {
        "meter": say("its hour meter"),
        "logger": say("its logger's files"),
        "year": say("docs/method.md, the day and the year; no hour meter is read yet"),
    }[run.by]
    return Figure("hours-run", say("The pump has run"), run.hours, "hours", inputs, how, source)


def level_words(level: Level) -> tuple[Spoken, Spoken, Spoken, Spoken]:
    """A state in words: what it is, its value, and the ends of its band."""
    kind = {"joint-ohm": "ohms", "drag": "number"}.get(level.state, "share")

    def said(value: float) -> Spoken:
        return later("{value:.2f} times", value=value) if kind == "number" else text(value, kind)

    return Reason(f"state-{level.state}"), said(level.value), said(level.low), said(level.high)


def flow_figures(kept: Kept) -> list[Figure]:
    """What the outlet gives today by all visits, and as stated."""
    worn = kept.worn
    visits = Input(say("visits that count"), float(kept.believed), "number")
    light = Input(say("light on the panels"), ASK_LIGHT, "irradiance")
    return [
        Figure("flow-now", say("The outlet gives today"), worn.flow_m3_s, "flow",
               (light, visits, Input(say("90 % band, from"), worn.flow_low_m3_s, "flow"), Input(say("to"), worn.flow_high_m3_s, "flow")),
               say("the kit's own circuit, pump and hose with what has worn, worked back from all readings together"),
               say("docs/method.md, wear; how fast each part wears before anything is read: common practice, no source")),
        Figure("flow-new", say("As stated, nothing worn"), worn.label_flow_m3_s, "flow", (light,), say("the same without any wear"),
               say("docs/method.md, the drive model")),
    ]  # fmt: skip


def short_words(kept: Kept) -> Spoken:
    """When the worst month falls under the need, with its range; nothing is foretold from a visit or two."""
    if kept.believed < FORETELLS:
        if kept.soonest is None:
            return later("Too few visits to foretell anything: {visits} of {wanted}. As such kits wear, three years bring no shortage.", visits=kept.believed, wanted=FORETELLS)  # fmt: skip
        return later("Too few visits to foretell anything: {visits} of {wanted}. As such kits wear, too little could come from {soonest} at the soonest.", visits=kept.believed, wanted=FORETELLS, soonest=kept.soonest.isoformat()[:7])  # fmt: skip
    if kept.short_from is None:
        if kept.soonest is None:
            return later("Within three years no month falls under its need, if it goes on wearing as it did.")
        return later("It may last three years; if every doubt goes badly, too little comes from {soonest} on.", soonest=kept.soonest.isoformat()[:7])  # fmt: skip
    soonest = (kept.soonest or kept.short_from).isoformat()[:7]
    if kept.latest is None:
        return later("If nothing is done, too little comes from {day} on (from {soonest} at the soonest, maybe not within three years).", day=kept.short_from.isoformat()[:7], soonest=soonest)  # fmt: skip
    return later("If nothing is done, too little comes from {day} on (between {soonest} and {latest}).", day=kept.short_from.isoformat()[:7], soonest=soonest, latest=kept.latest.isoformat()[:7])  # fmt: skip


def remedy_words(kept: Kept) -> list[Spoken]:
    """What each remedy brings, the most first."""
    said: list[Spoken] = []
    if kept.believed < FORETELLS:
        return said
    for remedy in kept.remedies:
        gain = remedy.flow_m3_s / max(kept.worn.flow_m3_s, 1e-12) - 1.0
        if remedy.short_from is None:
            said.append(later("{done}: {gain:share} more water; then no month is short within three years", done=DONE_WORDS[remedy.done], gain=gain))  # fmt: skip
        else:
            said.append(later("{done}: {gain:share} more water; then too little from {day} on", done=DONE_WORDS[remedy.done], gain=gain, day=remedy.short_from.isoformat()[:7]))  # fmt: skip
    return said
