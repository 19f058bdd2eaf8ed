"""How the panels of a job may stand, what a shadow does, how they are joined, and what the pump makes of every light."""

from dataclasses import dataclass, replace

import numpy as np

from squall.core.errors import BadQuantity
from squall.core.explain import Figure, Input
from squall.core.kits import TOUCH_LIMIT_V, Kit, table_for
from squall.core.mismatch import LitModule, Met, array_curve, meet, not_alike
from squall.core.modules import Module
from squall.core.overdrive import COMPARED_LIGHTS, Way, allowed_v, three_ways
from squall.core.parts import Panel
from squall.core.ratios import School, schools
from squall.core.season import MILD_LIGHTS_W_M2, flow_by_light, sum_of_year
from squall.core.sky import Floats, clear_sky
from squall.core.strings import StringWindow, string_window
from squall.core.sun import DAYS_OF_YEAR, Mounting, light_of_year
from squall.core.year_light import DAY_STEPS, day_path
from squall.job.assess import Assessment, KitAssessment
from squall.job.document import Job, quantity
from squall.job.figures import DRIVE
from squall.job.findings import Finding, Grade
from squall.job.resolve import climate_of, mounting_of, site_of
from squall.units import System, text

# What a shadow is compared at: a bright hour on a warm day, and what comes round a hand or a post.
BRIGHT_W_M2, WARM_CELL_C, SHADED_W_M2 = 800.0, 45.0, 120.0
HOT_CELL_RISE_K = 30.0
# Where a charge or motor has no lower window: a pump is taken to start working at this share of its rated volts, a guess.
LEAST_SHARE = 0.6
# A motor that stands asks this many times what it takes turning, to break away: a guess.
BREAK_AWAY = 1.3


@dataclass(frozen=True)
class Stand:
    """One way to stand: its key and words, litres in January, July and the kit's worst month, and over the year."""

    key: str
    words: str
    january_l: float
    july_l: float
    worst_l: float
    year_l: float
    months: tuple[float, ...]
    note: str = ""


@dataclass(frozen=True, eq=False)
class Group:
    """Panels that stand alike: words, and their light by the ten minutes of a clear day, after dirt. [W/m2]"""

    words: str
    light_w_m2: Floats

    @property
    def kwh_m2(self) -> float:
        """Of the day. [kWh/m2]"""
        return float(self.light_w_m2.sum()) / 6000.0


def groups_of_day(a: Assessment, month: int) -> list[Group]:
    """Light of each group of panels on a clear day in the middle of a month, and of a panel in the near shadow."""
    site, climate, mounting = site_of(a.job), climate_of(a.job, a.parts), mounting_of(a.job)
    path = day_path(site, int(DAYS_OF_YEAR[month]))
    sky = clear_sky(path, site.altitude_m, climate.months[month].turbidity)
    months = np.full(DAY_STEPS, month)
    faces = [mounting.azimuth_deg] + ([] if mounting.other_azimuth_deg is None else [mounting.other_azimuth_deg])
    tilts = [
        mounting.tilt_in(month),
        mounting.tilt_in(month) if mounting.group_tilt_deg is None else mounting.group_tilt_deg,
    ]
    lanes = mounting.groups_on(path, sky, months)
    words = [f"{tilt:g}° towards {azimuth:g}°" for tilt, azimuth in zip(tilts, faces, strict=False)]
    if mounting.post is not None:
        lanes += mounting.groups_on(path, sky, months, behind_post=True)[:1]
        words.append("a panel in the near shadow")
    return [Group(said, light * (1.0 - mounting.dirt)) for said, light in zip(words, lanes, strict=True)]


def equator(latitude_deg: float) -> float:
    """Azimuth that faces the equator. [°]"""
    return 0.0 if latitude_deg < 0.0 else 180.0


def stand_options(job: Job) -> dict[str, tuple[str, Mounting]]:
    """Ways to stand by key: as it is, by latitude, two tilts a year, east and west."""
    now, latitude = mounting_of(job), job.latitude.si
    tilt, faces = round(min(max(abs(latitude), 10.0), 60.0)), equator(latitude)
    winter = (3, 4, 5, 6, 7, 8) if latitude < 0.0 else (0, 1, 2, 9, 10, 11)
    base = replace(
        now, tilt_deg=float(tilt), azimuth_deg=faces, other_tilt_deg=None, other_azimuth_deg=None, group_tilt_deg=None
    )
    low = float(max(tilt - 15, 5))
    return {
        "now": ("as it is", now),
        "latitude": (f"by latitude: {tilt}° towards the equator", base),
        "two-season": (
            f"two tilts: {low:g}° in the summer half, {min(tilt + 15, 80)}° in the winter half",
            replace(base, tilt_deg=low, other_tilt_deg=float(min(tilt + 15, 80)),
                    other_months=tuple(month in winter for month in range(12))),
        ),
        "east-west": (
            f"half east, half west, {low:g}°",
            replace(base, tilt_deg=low, azimuth_deg=90.0, other_azimuth_deg=270.0),
        ),
    }  # fmt: skip


def stands_of(a: Assessment, chosen: KitAssessment) -> list[Stand]:
    """What each way to stand gives with the chosen kit, on average days."""
    site, climate = site_of(a.job), climate_of(a.job, a.parts)
    found = []
    for key, (words, mounting) in stand_options(a.job).items():
        light = a.light if key == "now" else light_of_year(site, climate, mounting)
        litres = sum_of_year(chosen.kit, chosen.layout, chosen.cabling, light).average_litres
        note = ""
        if mounting.other_azimuth_deg is not None and chosen.kit.in_parallel < 2:
            note = "needs two strings: panels of one string must face one way"
        found.append(
            Stand(key, words, float(litres[0]), float(litres[6]), float(litres[chosen.worst_month]),
                  float((litres * 365.0 / 12.0).sum()), tuple(litres.tolist()), note)
        )  # fmt: skip
    return found


def stood(job: Job, key: str) -> tuple[Job, str]:
    """The job with its panels standing another way.

    Raises
    ------
    BadQuantity
        For a way that is none.
    """
    options = stand_options(job)
    if key not in options:
        raise BadQuantity(f"{key[:20]!r} is no way for panels to stand.")
    words, m = options[key]

    def degrees(value: float | None) -> "object":
        return None if value is None else quantity(f"{value:g}°", value)

    update: dict[str, object] = {
        "second_tilt": degrees(m.other_tilt_deg), "second_azimuth": degrees(m.other_azimuth_deg), "group_tilt": degrees(m.group_tilt_deg),
    }  # fmt: skip
    if m.other_tilt_deg is not None:
        winter = [month + 1 for month, here in enumerate(m.other_months) if here]
        first = next(month for month in winter if (month - 2) % 12 + 1 not in winter)
        update |= {"second_first": first, "second_last": (first + len(winter) - 2) % 12 + 1}
    mount = job.mount.model_copy(update=update)
    changed = {"tilt": degrees(m.tilt_deg), "azimuth": degrees(m.azimuth_deg), "mount": mount}
    return job.model_copy(update=changed), f"panels stand {words}"


@dataclass(frozen=True)
class ShadowRow:
    """What one shaded panel leaves: words, watts at the array's best, tops of its power curve, and what the pump makes."""

    words: str
    watts: float
    peaks: int
    met: Met


def shadow_rows(chosen: KitAssessment) -> list[ShadowRow]:
    """One panel of a string in shadow, with and without bypass diodes, in bright light."""
    kit = chosen.kit
    table = table_for(kit.pump.motor, chosen.layout.line(kit.hose))
    ohm = chosen.cabling.pump_ohm(kit, chosen.layout)
    module = kit.panel.module

    def row(words: str, shaded: int, bypass: bool) -> ShadowRow:
        lit = LitModule(module, BRIGHT_W_M2, WARM_CELL_C, bypass)
        dim = LitModule(module, SHADED_W_M2, WARM_CELL_C - 15.0, bypass)
        strings = [[dim] * shaded + [lit] * (kit.in_series - shaded)] + [[lit] * kit.in_series] * (kit.in_parallel - 1)
        curve = array_curve(strings)
        return ShadowRow(words, curve.most_w, curve.peaks, meet(table, ohm, curve))

    rows = [row("no shadow", 0, True), row("one panel in shadow, with bypass diodes", 1, True)]
    return [*rows, row("one panel in shadow, without", 1, False)]


def shadow_hours(a: Assessment) -> list[float]:
    """Hours of a clear day in which the near shadow falls, by month; nil without one. [h]"""
    light = a.light
    if light.shaded_w_m2 is None:
        return [0.0] * 12
    hidden = light.shaded_w_m2[0] < light.plane_w_m2[0] - 1.0
    return [float(v) for v in hidden.sum(axis=1) * 0.5]


def window_of(a: Assessment, kit: Kit) -> tuple[str, StringWindow, float, float]:
    """Whose window the string is held against, the check, and the window's ends. [V]

    A pump joined straight is harmed by what it runs at, not by open volts: there only its lower end counts.
    """
    climate = climate_of(a.job, a.parts)
    hottest = climate.record_high_c + HOT_CELL_RISE_K
    if kit.controller is not None:
        c = kit.controller
        whose, low, high = f"the controller's window ({c.title})", c.min_v, c.max_v
    else:
        whose, low, high = f"what the pump works from ({kit.pump.title})", LEAST_SHARE * kit.pump.motor.rated_v, 1000.0
    return whose, string_window(kit.panel.module, kit.in_series, climate.record_low_c, hottest, high, low), low, high


def join_findings(a: Assessment, chosen: KitAssessment, units: System) -> list[Finding]:
    """What the joined panels' volts are, loudly where they harm a part or a person."""
    kit = chosen.kit
    whose, window, low, high = window_of(a, kit)
    cold, hot = text(window.voc_cold_v, "volts", units), text(window.vmp_hot_v, "volts", units)
    found = []
    if window.verdict == "too-high":
        found.append(
            Finding("bad", f"Stop: {cold} open on the coldest morning, over {whose}, {high:g} V. It would be destroyed.",
                    ("join fewer in series, more side by side", "take a part with a higher limit"))
        )  # fmt: skip
    elif window.verdict == "too-low":
        found.append(
            Finding("bad", f"At the hottest the string works at {hot}, under {whose}, {low:g} V: it stops when it is needed.",
                    ("join more in series",))
        )  # fmt: skip
    elif kit.controller is not None:
        found.append(
            Finding("good", f"{cold} open at the coldest and {hot} working at the hottest are within {whose}, {low:g} to {high:g} V.")
        )  # fmt: skip
    else:
        running, most = chosen.season.most_motor_v, allowed_v(kit)
        grade: Grade = "good" if running <= most else "bad"
        said = (
            f"Working at {hot} at the hottest; {cold} open on the coldest morning, with nothing running. Under the pump's load the "
            f"most is {text(running, 'volts', units)}; it stands {text(most, 'volts', units)}."
        )
        found.append(Finding(grade, said, () if grade == "good" else ("limit noon, as shown below",)))
    if window.voc_cold_v > TOUCH_LIMIT_V:
        found.append(
            Finding("bad", f"Stop: {cold} is over {TOUCH_LIMIT_V:g} V. That is no touch-safe voltage: shock and arcs can kill.",
                    ("fewer in series keeps it under", "above it: a licensed electrician, and local codes"))
        )  # fmt: skip
    if kit.in_parallel >= 3:
        limit = kit.panel.max_series_fuse_a
        found.append(
            Finding("care", f"Three or more strings side by side: each needs a fuse of its own, at most {limit:g} A as the panel's label says.")
        )  # fmt: skip
    if kit.panels > 1:
        found.append(
            Finding(
                "good",
                "Only like panels are joined here. Measure each one's open volts before joining, then the string.",
            )
        )
    return found


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
    how = "in series with the first string" if in_series else "side by side"
    inputs = (
        Input("these", kit.panel.title, "text"),
        Input("that one", other.title, "text"),
        Input("joined", how, "text"),
    )
    formula = "volts add in a string at one current, amps add between strings at one voltage; the top of the product"
    source = "De Soto (2006) single diode for each panel; bypass diodes at 0.5 V"
    figures = [
        Figure("unlike-watts", "Together they give", after.most_w, "watts", inputs, formula, source),
        Figure("unlike-parts", "Each by itself would add up to", parts, "watts", inputs, "nameplates", "nameplates"),
        Figure("unlike-gain", "More than before by", after.most_w - before, "watts", inputs, formula, source),
        Figure("unlike-open", "Open volts then", after.open_v, "volts", inputs, formula, source),
    ]
    why = not_alike(mine, theirs, in_series)
    return figures, f"Not alike: {why}." if why else "Alike enough to be joined so."


def light_figures(chosen: KitAssessment) -> list[Figure]:
    """Light at which it starts from standstill, and down to which it keeps running; none for a battery."""
    kit = chosen.kit
    if kit.source == "battery":
        return []
    lights, course = flow_by_light(kit, chosen.layout, chosen.cabling)
    wet = np.nonzero(course.flow_m3_s > 0.0)[0]
    table = table_for(kit.pump.motor, chosen.layout.line(kit.hose))
    keeps = float(lights[wet[0]]) - 5.0 if wet.size else None
    starts = keeps
    if kit.source == "panel" and keeps is not None:
        breaking = BREAK_AWAY * table.standstill_a / (kit.panel.module.isc_a * kit.in_parallel) * 1000.0
        starts = max(keeps, breaking)
    inputs = (
        Input("array", kit.array_w, "watts"), Input("joined", kit.joining, "text"), Input("pump", kit.pump.title, "text"),
        Input("amps that hold it at standstill", table.standstill_a, "amps"),
    )  # fmt: skip
    return [
        Figure("starts-at", "Water starts, from standstill, at", starts, "irradiance", inputs,
               f"the light at which flow arrives, or at which the panel's short-circuit amps are {BREAK_AWAY:g} times those that "
               "turning takes, whichever is more", f"{DRIVE}; {BREAK_AWAY:g}: a guess, for sticking seals and brushes"),
        Figure("keeps-at", "Once running, it keeps on down to", keeps, "irradiance", inputs,
               "the least light, in steps of 10 W/m², with flow on an 18 °C day", DRIVE),
    ]  # fmt: skip


def every_light(chosen: KitAssessment) -> tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray] | None:
    """Light, flow, volts and amps of a sun-driven kit, 10 to 1200 W/m2; None for a battery."""
    if chosen.kit.source == "battery":
        return None
    _, course = flow_by_light(chosen.kit, chosen.layout, chosen.cabling)
    return MILD_LIGHTS_W_M2, course.flow_m3_s, course.motor_v, course.motor_a


def limit_ways(a: Assessment, chosen: KitAssessment, limit_v: float | None) -> list[Way]:
    """The ways of limiting noon, for a kit joined straight; none for others."""
    if chosen.kit.source != "panel":
        return []
    return three_ways(chosen.kit, chosen.layout, chosen.cabling, a.light, a.parts.stock.controllers, limit_v)


def limit_of(chosen: KitAssessment) -> float:
    """Most volts that the chosen pump stands. [V]"""
    return allowed_v(chosen.kit)


def schools_of(a: Assessment, chosen: KitAssessment) -> list[School]:
    """What each ratio of panel to pump gives."""
    return schools(chosen.kit, chosen.layout, chosen.cabling, a.light)


__all__ = [
    "BRIGHT_W_M2", "COMPARED_LIGHTS", "ShadowRow", "Stand", "every_light", "join_findings", "light_figures", "limit_of",
    "limit_ways", "schools_of", "shadow_hours", "shadow_rows", "stands_of", "stood", "unlike", "window_of",
]  # fmt: skip
