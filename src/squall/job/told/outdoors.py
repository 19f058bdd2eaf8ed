"""Frost and wind at a job: nights, what freezes first, answers; force on the panels, ballast, pegs, post."""

from dataclasses import dataclass
from math import inf

from squall.core.explain import Figure, Input
from squall.core.sky.climate import MONTHS, Climate
from squall.core.sky.frost import (
    BARE_FILM,
    SLEEVED_FILM,
    frost_nights,
    pipe_freezes,
    soil_least_c,
    trough_ice_m,
)
from squall.core.sky.wind import ballast_kg, pegs, post_depth_m, wind_load
from squall.job.told.finding import Finding
from squall.job.told.survey import drain_finding
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.job.worked.resolve import climate_of
from squall.words.units import System, text

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
                Freezes(f"{piece.name}, buried", inf if safe else 0.0, inf if safe else 24.0,
                        f"ground there falls to {ground:.1f} °C in a mean year")
            )  # fmt: skip
            continue
        found = pipe_freezes(piece.bore.si, water, night, film)
        rows.append(
            Freezes(f"{piece.name}, {piece.bore.typed}", found.begins_h, found.plugged_h, "if water stands in it")
        )
    if a.chosen is not None and a.chosen.kit.pump.placement == "surface":
        found = pipe_freezes(0.02, water, night, BARE_FILM)
        rows.append(
            Freezes("pump on the bank, its casing", found.begins_h, found.plugged_h, "if it isn't drained: it cracks")
        )
    return sorted(rows, key=lambda row: row.begins_h)


def frost_findings(a: Assessment, units: System) -> list[Finding]:
    """Nights below zero, what freezes first, the trough, and the answers."""
    climate = climate_of(a.job, a.parts)
    nights = frost_nights(climate)
    total = sum(nights)
    if total < 0.5 and climate.record_low_c >= 0.0:
        return [
            Finding(
                "good",
                f"No frost is to be expected here: the record low is {text(climate.record_low_c, 'temperature', units)}.",
            )
        ]
    coldest = max(range(12), key=lambda month: nights[month])
    said = f"About {total:.0f} nights a year fall below zero, {nights[coldest]:.0f} of them in {MONTHS[coldest]}; the record is {text(climate.record_low_c, 'temperature', units)}."
    found = [Finding("care" if total >= 1.0 else "good", said)]
    order = freezing_order(a, climate)
    first = order[0]
    if first.begins_h < NIGHT_H:
        answers = [
            "let it drain back when the pump stops: a small hole or a valve above the pump, the line falling all the way",
            "bury it below where frost reaches", "insulate it, and keep it dark", "keep it moving through the night, if charge allows",
        ]  # fmt: skip
        if a.chosen is not None and drain_finding(a, a.chosen).grade == "good":
            answers[0] = "it falls all the way: leave it to drain back through the pump, with no check valve"
        when = "at once" if first.begins_h <= 0.0 else f"after {first.begins_h:.1f} h"
        found.append(
            Finding("bad", f"First to freeze on that night: {first.words}, ice {when}, blocked after {first.plugged_h:.0f} h, {first.stands}.", tuple(answers))
        )  # fmt: skip
    else:
        found.append(Finding("good", "No part of the line freezes within one such night."))
    ice = trough_ice_m(climate.record_low_c, NIGHT_H, a.job.water_temperature.si, TROUGH_DEPTH_M)
    if ice > 0.002:
        found.append(
            Finding("care", f"An open trough {TROUGH_DEPTH_M:g} m deep grows about {ice * 1000.0:.0f} mm of ice on that night.",
                    ("a black, heavy rubber trough freezes less; a deeper one later", "thaw the float before the animals come", "let the level fall under the first ice: air beneath keeps the intake open"))
        )  # fmt: skip
    if a.chosen is not None and a.chosen.kit.battery is not None and "lith" in a.chosen.kit.battery.chemistry.lower():
        found.append(
            Finding(
                "care",
                "Lithium batteries must not be charged below zero: house it warm, or take one that refuses by itself.",
            )
        )
    return found


def frost_nights_of(a: Assessment) -> list[float]:
    """Nights below zero by month."""
    return list(frost_nights(climate_of(a.job, a.parts)))


def wind_figures(a: Assessment, chosen: KitAssessment) -> list[Figure]:
    """Force on the panels, and ballast, pegs or the post's depth."""
    job, kit = a.job, chosen.kit
    area, mass = kit.panels * kit.panel.area_m2, kit.panels * kit.panel.mass_kg
    tilt = max(job.tilt.si, 0.0 if job.mount.second_tilt is None else job.mount.second_tilt.si)
    load = wind_load(job.outdoors.wind.si, area, tilt, job.altitude.si)
    middle = job.outdoors.clearance.si + PANEL_RISE_M
    inputs = (
        Input("gust", job.outdoors.wind.si, "wind"), Input("panels", area, "ground"), Input("tilt", tilt, "angle"),
        Input("altitude", job.altitude.si, "altitude"), Input("panels weigh", mass, "mass"),
        Input("their middle over ground", middle, "head"),
    )  # fmt: skip
    force = "1.4 x rho v²/2 x area; 1.4: a guess after tables of tilted plates"
    figures = [
        Figure("wind-pressure", "The gust presses with (N on each m²)", load.pressure_pa, "number", inputs, "rho v²/2", "Bernoulli"),
        Figure("wind-force", "Force on the panels", load.force_n, "force", inputs, force, "a guide; local codes decide"),
        Figure("wind-lift", "of it upwards, from behind", load.lift_n, "force", inputs, "force x cos tilt", "a guide; local codes decide"),
    ]  # fmt: skip
    if job.outdoors.stand == "pole":
        depth = post_depth_m(load.push_n, middle, FOOTING_M)
        figures.append(
            Figure("post-depth", f"Post in a footing {FOOTING_M:g} m wide, deep", depth, "head", inputs,
                   "d = A/2 (1 + sqrt(1 + 4.36 h/A)), A = 2.34 x 1.5 P/(S b), S = 15.7 kPa/m x d/3",
                   "form of the International Building Code, 1807.3.2.1, from memory; firm sandy or silty ground")
        )  # fmt: skip
    else:
        need = ballast_kg(load, mass, middle, BASE_M)
        figures.append(
            Figure("ballast", f"Ballast, feet {BASE_M:g} m apart", need, "mass", inputs,
                   "1.5 x the more of lift and tipping, less what the panels weigh", "a guide; local codes decide")
        )  # fmt: skip
        figures.append(
            Figure("pegs", "or pegs in firm ground", float(pegs(load, mass, middle, BASE_M)), "number", inputs,
                   "at 400 N each, at least four", "400 N: a guess after common practice, no source")
        )  # fmt: skip
    return figures


def wind_findings(a: Assessment, chosen: KitAssessment) -> list[Finding]:
    """What a portable set is told, and everybody."""
    found = []
    if a.job.outdoors.stand == "folding":
        found.append(
            Finding(
                "care",
                "A folding set is up in minutes and over in a second: peg or weigh it down before you unfold the last panel, and lay it flat when nobody is by.",
            )
        )
    if a.job.outdoors.wind.si >= 30.0:
        found.append(Finding("care", "From 30 m/s on trees break: reckon with what flies, too."))
    return found
