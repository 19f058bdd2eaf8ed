"""Frost and wind at a job: nights, what freezes first, answers; force on the panels, ballast, pegs, post."""

from dataclasses import dataclass
from math import inf

from squall.core.explain import Figure, Input
from squall.core.sky.climate import Climate
from squall.core.sky.frost import (
    BARE_FILM,
    SLEEVED_FILM,
    frost_nights,
    pipe_freezes,
    soil_least_c,
    trough_ice_m,
    trough_water_c,
)
from squall.core.sky.outside import day_sky
from squall.core.sky.typical_days import DAYS_OF_YEAR
from squall.core.sky.wind import PEG_HOLDS_N, ballast_kg, pegs, post_depth_m, sliding_kg, wind_load
from squall.job.told.finding import Finding
from squall.job.told.lift import season_words
from squall.job.told.survey import drain_finding
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.job.worked.place import altitude_of, climate_of, tilt_of, where
from squall.job.worked.seasons import frozen_shut
from squall.words import say
from squall.words.units import text

NIGHT_H = 12.0
# Depth of a trough, of frame legs along the wind, and width of a post with its footing, where nothing is typed: guesses. [m]
TROUGH_DEPTH_M, BASE_M, FOOTING_M, PANEL_RISE_M = 0.3, 1.0, 0.3, 0.4


@dataclass(frozen=True)
class Freezes:
    """One place of the line on the record night: hours until ice begins and until it is blocked; infinite if never."""

    words: str
    begins_h: float
    plugged_h: float
    stands: str


def freezing_order(a: Assessment, climate: Climate) -> list[Freezes]:
    """Every place where water stands, soonest to freeze first, on the record-low night."""
    job, night = a.job, climate.record_low_c
    water = job.water_temperature.si
    buried = job.outdoors.lies == "buried"
    film = SLEEVED_FILM if job.outdoors.lies == "insulated" else BARE_FILM
    rows = []
    for piece in job.run:
        if buried:
            ground = soil_least_c(climate, job.outdoors.buried.si)
            safe = ground >= 0.0
            rows.append(
                Freezes(say("{name}, buried", name=piece.name), inf if safe else 0.0, inf if safe else 24.0,
                        say("ground there falls to {ground:temperature} in a mean year", ground=ground))
            )  # fmt: skip
            continue
        found = pipe_freezes(piece.bore.si, water, night, film)
        rows.append(
            Freezes(
                f"{piece.name}, {text(piece.bore.si, 'bore')}",
                found.begins_h,
                found.plugged_h,
                say("if water stands in it"),
            )
        )
    if a.chosen is not None and a.chosen.kit.pump.placement == "surface":
        found = pipe_freezes(0.02, water, night, BARE_FILM)
        rows.append(
            Freezes(
                say("pump on the bank, its casing"),
                found.begins_h,
                found.plugged_h,
                say("if it isn't drained: it cracks"),
            )
        )
    return sorted(rows, key=lambda row: row.begins_h)


def frost_findings(a: Assessment) -> list[Finding]:
    """Nights below freezing, what freezes first, the trough, and the answers."""
    climate = climate_of(a.job, a.parts)
    nights = frost_nights(climate)
    total = sum(nights)
    if total < 0.5 and climate.record_low_c >= 0.0:
        return [
            Finding(
                "good",
                say(
                    "No frost is to be expected here: the record low is {record_low:temperature}.",
                    record_low=climate.record_low_c,
                ),
            )
        ]
    coldest = max(range(12), key=lambda month: nights[month])
    said = say(
        "About {total:.0f} nights a year fall below freezing, {nights:.0f} of them in {coldest:month}; the record is {record_low:temperature}.",
        total=total,
        nights=nights[coldest],
        coldest=coldest,
        record_low=climate.record_low_c,
    )
    found = [Finding("care" if total >= 1.0 else "good", said)]
    if frozen_shut(a.job, a.parts, a.layout):
        found += [Finding("bad", words) for words in season_words(a)[-1:]]
    order = freezing_order(a, climate)
    first = order[0]
    if first.begins_h < NIGHT_H:
        answers = [
            say("let it drain back when the pump stops: a small hole or a valve above the pump, the line falling all the way"),
            say("bury it below where frost reaches"), say("insulate it, and keep it dark"), say("keep it moving through the night, if charge allows"),
        ]  # fmt: skip
        if a.chosen is not None and drain_finding(a, a.chosen).grade == "good":
            answers[0] = say("it falls all the way: leave it to drain back through the pump, with no check valve")
        when = say("at once") if first.begins_h <= 0.0 else say("after {begins:hours}", begins=first.begins_h)
        found.append(
            Finding("bad", say("First to freeze on that night: {words}, ice {when}, blocked after {plugged:hours}, {stands}.", words=first.words, when=when, plugged=first.plugged_h, stands=first.stands), tuple(answers))
        )  # fmt: skip
    else:
        found.append(Finding("good", say("No part of the line freezes within one such night.")))
    # A record night ends a cold spell: the trough is cold already, and the night is as long as that month's.
    month = min(range(12), key=lambda n: climate.months[n].t_min_c)
    swing = (climate.months[month].t_max_c - climate.months[month].t_min_c) / 2.0
    water = trough_water_c(climate.record_low_c + swing, a.job.water_temperature.si)
    night_h = 24.0 - day_sky(where(a.job)[0], int(DAYS_OF_YEAR[month])).daylight_h
    ice = trough_ice_m(climate.record_low_c, night_h, water, TROUGH_DEPTH_M)
    if ice > 0.002:
        found.append(
            Finding("care", say("An open trough {TROUGH_DEPTH_M:head} deep grows about {ice:bore} of ice on that night, after a cold spell.", TROUGH_DEPTH_M=TROUGH_DEPTH_M, ice=ice),
                    (say("a black, heavy rubber trough freezes less; a deeper one later"), say("thaw the float before the animals come"), say("let the level fall under the first ice: air beneath keeps the intake open")))
        )  # fmt: skip
    if a.chosen is not None and a.chosen.kit.battery is not None and "lith" in a.chosen.kit.battery.chemistry.lower():
        found.append(
            Finding(
                "care",
                say(
                    "Lithium batteries must not be charged below freezing: house it warm, or take one that refuses by itself."
                ),
            )
        )
    return found


def frost_nights_of(a: Assessment) -> list[float]:
    """Nights below freezing by month."""
    return list(frost_nights(climate_of(a.job, a.parts)))


def wind_figures(a: Assessment, chosen: KitAssessment) -> list[Figure]:
    """Force on the panels, and ballast, pegs or the post's depth."""
    job, kit = a.job, chosen.kit
    area, mass = kit.panels * kit.panel.area_m2, kit.panels * kit.panel.mass_kg
    tilt = max(tilt_of(job).si, 0.0 if job.mount.second_tilt is None else job.mount.second_tilt.si)
    load = wind_load(job.outdoors.wind.si, area, tilt, altitude_of(job).si)
    middle = job.outdoors.clearance.si + PANEL_RISE_M
    inputs = (
        Input(say("gust"), job.outdoors.wind.si, "wind"), Input(say("panels"), area, "ground"), Input(say("tilt"), tilt, "angle"),
        Input(say("altitude"), altitude_of(job).si, "altitude"), Input(say("panels weigh"), mass, "mass"),
        Input(say("their middle over ground"), middle, "head"),
    )  # fmt: skip
    force = say("1.4 x rho v²/2 x area; 1.4: a guess after tables of tilted plates")
    figures = [
        Figure("wind-pressure", say("The gust presses with"), load.pressure_pa, "gust", inputs, say("rho v²/2"), say("Bernoulli")),
        Figure("wind-force", say("Force on the panels"), load.force_n, "force", inputs, force, say("a guide; local codes decide")),
        Figure("wind-lift", say("of it upwards, from behind"), load.lift_n, "force", inputs, say("force x cos tilt"), say("a guide; local codes decide")),
    ]  # fmt: skip
    if job.outdoors.stand == "pole":
        depth = post_depth_m(load.push_n, middle, FOOTING_M)
        figures.append(
            Figure("post-depth", say("Post in a footing {FOOTING_M:head} wide, deep", FOOTING_M=FOOTING_M), depth, "head", inputs,
                   say("d = A/2 (1 + sqrt(1 + 4.36 h/A)), A = 2.34 P/(S b), S = 2 x 15.7 kPa/m x d/3"),
                   say("form of the International Building Code, 1807.3.2.1, and 1806.3.4 for a post that may move a little, from memory; firm sandy or silty ground"))
        )  # fmt: skip
    else:
        need = max(ballast_kg(load, mass, middle, BASE_M), sliding_kg(load, mass))
        figures.append(
            Figure("ballast", say("Ballast, legs {BASE_M:head} apart", BASE_M=BASE_M), need, "mass", inputs,
                   say("1.5 x the most of lift, tipping and sliding (friction 0.4), less what the panels weigh"), say("a guide; local codes decide"))
        )  # fmt: skip
        figures.append(
            Figure("pegs", say("or pegs in firm ground"), float(pegs(load, mass, middle, BASE_M)), "number", inputs,
                   say("at {peg:force} each, at least four", peg=PEG_HOLDS_N),
                   say("{peg:force}: a guess after common practice, no source", peg=PEG_HOLDS_N))
        )  # fmt: skip
    return figures


def wind_findings(a: Assessment, chosen: KitAssessment) -> list[Finding]:
    """What a portable set is told, and everybody."""
    found = []
    if a.job.outdoors.stand == "folding":
        found.append(
            Finding(
                "care",
                say(
                    "A folding set is up in minutes and over in a second: peg or weigh it down before you unfold the last panel, and lay it flat when nobody is by."
                ),
            )
        )
    if a.job.outdoors.wind.si >= 30.0:
        found.append(Finding("care", say("From 30 m/s on trees break: reckon with what flies, too.")))
    return found
