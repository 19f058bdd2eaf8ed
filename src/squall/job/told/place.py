"""What is said of a job's place: where it is, what follows from it, its light through the year, its air."""

from math import isfinite

import numpy as np

from squall.core.explain import Figure, Input
from squall.core.sky.climate import Climate, wrong_season
from squall.core.sky.file_days import FILE_DOUBT
from squall.core.sky.land import COAST_KM, off_coast_km, on_land
from squall.core.sky.made_weather import PERSISTENCE
from squall.core.sky.place import WINTER_EXTRA_DEG, turned_away_deg
from squall.core.sky.world import CELL_DEG, CELL_DOUBT, DOUBT_A_KM, HIGH_A_CLEARNESS, great_circle_km
from squall.job.document.job import FILE_CLIMATE, WORLD_CLIMATE, Job
from squall.job.told.finding import Finding
from squall.job.worked.assess import Assessment
from squall.job.worked.bands import MonthBand
from squall.job.worked.place import (
    Followed,
    altitude_of,
    azimuth_of,
    chosen_climate,
    climate_of,
    clock_of,
    light_doubt,
    tilt_of,
    where,
)
from squall.words import Message, later, say, say_n
from squall.words.calendar import month_name
from squall.words.places import place_text

WORLD_SOURCE = later(
    "NASA's MERRA-2 reanalysis, 2011 to 2015 (Gelaro and others, J. Climate 30, 2017), daily light on cells of {cell:g}° by the package gsee-climate-data (Pfenninger and Staffell, Energy 114, 2016)",
    cell=CELL_DEG,
)
# Light that is less than so much of what is usual at its latitude's clear sky is told as a dark month. [kWh/m2]
_DARK_KWH = 0.3
# A weather file of a place further off is told as such: the fourth part of a cell of the table, a choice of ours. [km]
FAR_FILE_KM = 80.0


def place_words(job: Job) -> str:
    """Where the job is; or that nobody has said."""
    return place_text(*where(job)) if job.placed else say("no place yet")


def _told_by(followed: Followed, follows: Message) -> str:
    return say("typed") if followed.told_by == "typed" else str(follows)


def place_figures(job: Job) -> list[Figure]:
    """Height, clock, tilt and facing, each with where it comes from."""
    at = Input(say("place"), place_words(job), "text")
    height, clock, tilt, faces = altitude_of(job), clock_of(job), tilt_of(job), azimuth_of(job)
    by_map, by_sun = later("by the map of heights, to some {off:distance}", off=10_000.0), later("by the sun")
    winter = later("for the winter sun of the place")
    equator = later("towards the equator")
    return [
        Figure("altitude", say("Height, {by}", by=_told_by(height, by_map)), height.si, "altitude", (at,),
               say("typed, or read from a world table of heights"), say("pvlib's table of altitude, 5 minutes of arc")),
        Figure("clock", say("Clock from UTC, {by}", by=_told_by(clock, by_sun)), clock.si, "hours", (at,),
               say("typed, or longitude / 15°, rounded: clocks by law or by summer differ"), say("15° of longitude are an hour")),
        Figure("tilt", say("Panels from level, {by}", by=_told_by(tilt, winter)), tilt.si, "angle", (at,),
               say("typed, or latitude and {more:g}°, the steepest that is of use", more=WINTER_EXTRA_DEG), say("common practice, no source")),
        Figure("facing", say("Panels face, {by}", by=_told_by(faces, equator)), faces.si, "angle", (at,),
               say("typed, or 0° (north) south of the equator, 180° (south) north of it"), say("the sun's way")),
    ]  # fmt: skip


def place_findings(a: Assessment) -> list[Finding]:
    """What is odd or good about the place, its light and its stand."""
    if not a.job.placed:
        return []
    climate = climate_of(a.job, a.parts)
    found = [*_at_sea(a.job), *_cell_findings(climate), *_file_findings(a.job), *stand_findings(a)]
    return [*found, *air_findings(climate)]


def _at_sea(job: Job) -> list[Finding]:
    latitude, longitude = where(job)
    away = off_coast_km(latitude, longitude)
    if away <= COAST_KM:
        return []
    text = later("This place lies at sea, {away:distance} from land on the outline.", away=away * 1000.0)
    swapped = abs(longitude) <= 73.5 and on_land(longitude, latitude)
    answers = (
        later("Were latitude and longitude swapped? {place} is on land.", place=place_text(longitude, latitude)),
    )
    return [Finding("care", text, answers if swapped else (later("A small island may be missing from the outline."),))]


def _file_findings(job: Job) -> list[Finding]:
    """That a weather file is of another place, or names none; and one that is there but doesn't rule."""
    sky = job.file_sky
    if sky is None:
        return []
    if job.climate != FILE_CLIMATE:
        text = later("The weather file {name} does not rule: another light is chosen below.", name=sky.name)
        return [Finding("care", text, (later("Choose “the weather file” as the light, and all goes by it."),))]
    if sky.latitude is None or sky.longitude is None:
        text = later("The weather file {name} does not say of what place it is.", name=sky.name)
        return [Finding("care", text, (later("Check that it is of this country and side of the hills."),))]
    there = np.array([sky.latitude]), np.array([sky.longitude])
    away = float(great_circle_km(*where(job), *there)[0])
    if away <= FAR_FILE_KM:
        return []
    text = later(
        "The weather file {name} is of {place}, {away:distance} from here.",
        name=sky.name, place=place_text(sky.latitude, sky.longitude), away=away * 1000.0,
    )  # fmt: skip
    return [
        Finding(
            "care", text, (later("Take it only if land and weather are alike; else the place's own light is nearer."),)
        )
    ]


def _cell_findings(climate: Climate) -> list[Finding]:
    light = climate.light
    if light is None:
        return []
    found = []
    if light.nearest_land_km > 0.0:
        far = later(
            "No light is known right here; that of the nearest land with data, {away:distance} off, stands in for it.",
            away=light.nearest_land_km * 1000.0,
        )
        found.append(Finding("care", far, (later("A month of your own meter readings would mend it."),)))
    dark = [number for number, month in enumerate(light.months) if month.mean_kwh_m2 < _DARK_KWH]
    if dark:
        names = ", ".join(month_name(number) for number in dark)
        found.append(
            Finding("care", later("Hardly any sun in {names}: no kit on panels alone works then.", names=names))
        )
    return found


def stand_findings(a: Assessment) -> list[Finding]:
    """Panels that face away from the sun, and a climate of the other hemisphere."""
    if not a.job.placed:
        return []
    (latitude, _), found = where(a.job), []
    away = turned_away_deg(latitude, azimuth_of(a.job).si, tilt_of(a.job).si)
    side = later("north") if latitude < 0.0 else later("south")
    if away is not None and a.job.mount.second_azimuth is None:
        text = later(
            "The panels face {azimuth:angle}, away from the sun: here it stands in the {side}.",
            azimuth=azimuth_of(a.job).si,
            side=side,
        )
        found.append(Finding("bad", text, (later("Empty the field “Panels face”, and they follow the place."),)))
    chosen = chosen_climate(a.job, a.parts)
    if chosen is not None and wrong_season(chosen, latitude):
        text = later("The climate chosen belongs to the other half of the world: its months are turned by half a year.")
        found.append(
            Finding("care", text, (later("The place's own light, from the world's table, needs no turning."),))
        )
    elif a.job.climate != WORLD_CLIMATE and wrong_season(climate_of(a.job, a.parts), latitude):
        text = later("The months typed are warm when it is winter here: they belong to the other half of the world.")
        found.append(Finding("bad", text, (later("Take the place's own, from the world's table."),)))
    return found


def air_findings(climate: Climate) -> list[Finding]:
    """That the air is a guess, where it is; for every page on which it decides."""
    if not climate.air_guessed:
        return []
    text = later(
        "Nobody has said how cold and hot it gets here: {low:temperature} and {high:temperature} at the most are guessed from latitude and height, and no rain is counted.",
        low=climate.record_low_c,
        high=climate.record_high_c,
    )
    return [
        Finding(
            "care", text, (later("Type the air on the page The place: the hottest and the coldest month are enough."),)
        )
    ]


def doubt_words(a: Assessment, climate: Climate, month: int) -> str:
    """How far a month's light may be off."""
    doubt = light_doubt(a.job, climate, month)
    if doubt.less == doubt.more:
        return say("± {off:share}", off=doubt.more)
    return say("{less:share} less to {more:share} more", less=doubt.less, more=doubt.more)


def light_how(job: Job) -> str:
    """How a month's days are known."""
    if job.climate == FILE_CLIMATE:
        return say("How many days of a month are how bright, counted in the file's year.")
    if job.climate == WORLD_CLIMATE:
        return say("How many days of a month are how bright, blended from the four cells about the place.")
    return say("How many days of a month are how bright, by the month's mean.")


def light_source(job: Job, climate: Climate) -> str:
    """Where the light comes from."""
    if job.climate == FILE_CLIMATE and job.file_sky is not None:
        return say("the weather file {name}", name=job.file_sky.name)
    if climate.light is not None:
        return str(WORLD_SOURCE)
    return say("the climate's months; days spread about their mean after Bendt and others (Solar Energy 27, 1981)")


def doubt_how(job: Job) -> str:
    """How the doubt of the light is reckoned."""
    if job.climate != WORLD_CLIMATE:
        return say(
            "{off:share} of a month, a choice of ours: years of one place differ by about as much.", off=FILE_DOUBT
        )
    return say(
        "{cell:share} for a cell of some {wide:distance}, with the spread of the cells about it and {far:share} for each {away:distance} to the nearest data, as squares add; besides, light is known to read high under much cloud: {high:share} for each tenth of clearness below 0.7.",
        cell=CELL_DOUBT,
        wide=300_000.0,
        away=1_000_000.0,
        far=DOUBT_A_KM * 1000.0,
        high=HIGH_A_CLEARNESS / 10.0,
    )


def made_how() -> str:
    """How the years are made from the months."""
    return say(
        "Years of made weather draw their days from these bands; a day follows the one before with a correlation of {persistence:g} (Graham and others, Solar Energy 40, 1988). So a month of one name differs from year to year by some 3 to 5 % in dry country and 15 % in a dark winter; real ones differ as much or more (Gueymard and Wilcox, Solar Energy 85, 2011, from memory).",
        persistence=PERSISTENCE,
    )


def short_words(bands: tuple[MonthBand, ...]) -> str:
    """Which months run short, in one sentence; empty without kit or need."""
    if all(band.short is None for band in bands):
        return ""
    days = [0.0 if band.short is None else band.short * 30.0 for band in bands]
    worst = max(range(12), key=lambda number: days[number])
    if days[worst] < 0.5:
        return say("This kit makes what is wanted on practically every day of every month, tank or no tank.")
    never = [
        month_name(n) for n, band in enumerate(bands) if band.need_kwh_m2 is not None and not isfinite(band.need_kwh_m2)
    ]
    if never:
        return say("In {never} no day is bright enough for what is wanted.", never=", ".join(never))
    return say_n(
        "In {month}, the worst month, about 1 day in 30 is too dull for what is wanted; a tank bridges it.",
        "In {month}, the worst month, about {n} days in 30 are too dull for what is wanted; a tank or battery bridges them.",
        max(round(days[worst]), 1),
        month=month_name(worst),
    )  # fmt: skip
