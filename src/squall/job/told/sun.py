"""How the panels of a job may stand, and what a shadow does."""

from dataclasses import dataclass, replace

import numpy as np

from squall.core.drive.mismatch import LitModule, Met, array_curve
from squall.core.errors import BadQuantity
from squall.core.kit.course import met_by
from squall.core.reason import Spoken
from squall.core.sky.place import facing_deg
from squall.core.sky.sunlight import Floats, clear_sky
from squall.core.sky.typical_days import DAYS_OF_YEAR, Mounting, light_of_year
from squall.core.sky.whole_year import DAY_STEPS, day_path
from squall.core.years.typical import sum_of_year
from squall.job.document.job import Job, quantity
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.job.worked.place import climate_of, site_of, where
from squall.job.worked.resolve import mounting_of
from squall.words import later, say

# What a shadow is compared at: a bright hour on a warm day, and what comes round a hand or a post.
BRIGHT_W_M2, WARM_CELL_C, SHADED_W_M2 = 800.0, 45.0, 120.0


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
    lanes = mounting.groups_on(path, sky, months)
    words = [
        say("{tilt:g}° towards {azimuth:g}°", tilt=tilt, azimuth=azimuth) for azimuth, tilt in mounting.faces_in(month)
    ]
    if mounting.post is not None:
        lanes += mounting.groups_on(path, sky, months, behind_post=True)[:1]
        words.append(say("a panel in the near shadow"))
    return [Group(said, light * (1.0 - mounting.dirt)) for said, light in zip(words, lanes, strict=True)]


def stand_options(job: Job) -> dict[str, tuple[str, Mounting]]:
    """Ways to stand by key: as it is, by latitude, two tilts a year, east and west."""
    now, latitude = mounting_of(job), where(job)[0]
    tilt, faces = round(min(max(abs(latitude), 10.0), 60.0)), facing_deg(latitude)
    winter = (3, 4, 5, 6, 7, 8) if latitude < 0.0 else (0, 1, 2, 9, 10, 11)
    base = replace(
        now,
        tilt_deg=float(tilt),
        azimuth_deg=faces,
        other_tilt_deg=None,
        other_azimuth_deg=None,
        group_tilt_deg=None,
        third_azimuth_deg=None,
        third_tilt_deg=None,
    )
    low = float(max(tilt - 15, 5))
    return {
        "now": (say("as it is"), now),
        "latitude": (say("by latitude: {tilt}° towards the equator", tilt=tilt), base),
        "two-season": (
            say("two tilts: {low:g}° in the summer half, {tilt}° in the winter half", low=low, tilt=min(tilt + 15, 80)),
            replace(base, tilt_deg=low, other_tilt_deg=float(min(tilt + 15, 80)),
                    other_months=tuple(month in winter for month in range(12))),
        ),
        "east-west": (
            say("half east, half west, {low:g}°", low=low),
            replace(base, tilt_deg=low, azimuth_deg=90.0, other_azimuth_deg=270.0),
        ),
    }  # fmt: skip


def stands_of(a: Assessment, chosen: KitAssessment) -> list[Stand]:
    """What each way to stand gives with the chosen kit, on average days."""
    site, climate = site_of(a.job), climate_of(a.job, a.parts)
    found = []
    for key, (words, mounting) in stand_options(a.job).items():
        light = a.lit if key == "now" else light_of_year(site, climate, mounting)
        litres = sum_of_year(chosen.setup, light, chosen.use).average_litres
        note = ""
        if chosen.kit.in_parallel % mounting.ways:
            note = say("needs as many strings each way: panels of one string must face one way")
        found.append(
            Stand(key, words, float(litres[0]), float(litres[6]), float(litres[chosen.worst_month]),
                  float((litres * 365.0 / 12.0).sum()), tuple(litres.tolist()), note)
        )  # fmt: skip
    return found


def stood(job: Job, key: str) -> tuple[Job, Spoken]:
    """The job with its panels standing another way.

    Raises
    ------
    BadQuantity
        For a way that is none.
    """
    options = stand_options(job)
    if key not in options:
        raise BadQuantity(later("{key:quoted} is no way for panels to stand.", key=key[:20]))
    words, m = options[key]

    def degrees(value: float | None) -> "object":
        return None if value is None else quantity(f"{value:g}°", value)

    update: dict[str, object] = {
        "second_tilt": degrees(m.other_tilt_deg), "second_azimuth": degrees(m.other_azimuth_deg), "group_tilt": degrees(m.group_tilt_deg),
        "third_azimuth": degrees(m.third_azimuth_deg), "third_tilt": degrees(m.third_tilt_deg),
    }  # fmt: skip
    if m.other_tilt_deg is not None:
        winter = [month + 1 for month, here in enumerate(m.other_months) if here]
        first = next(month for month in winter if (month - 2) % 12 + 1 not in winter)
        update |= {"second_first": first, "second_last": (first + len(winter) - 2) % 12 + 1}
    mount = job.mount.model_copy(update=update)
    changed = {"tilt": degrees(m.tilt_deg), "azimuth": degrees(m.azimuth_deg), "mount": mount}
    return job.model_copy(update=changed), say("panels stand {words}", words=words)


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
    module = kit.panel.module

    def row(words: str, shaded: int, bypass: bool) -> ShadowRow:
        lit = LitModule(module, BRIGHT_W_M2, WARM_CELL_C, bypass)
        dim = LitModule(module, SHADED_W_M2, WARM_CELL_C - 15.0, bypass)
        strings = [[dim] * shaded + [lit] * (kit.in_series - shaded)] + [[lit] * kit.in_series] * (kit.in_parallel - 1)
        curve = array_curve(strings)
        return ShadowRow(words, curve.most_w, curve.peaks, met_by(chosen.setup, curve))

    rows = [row(say("no shadow"), 0, True), row(say("one panel in shadow, with bypass diodes"), 1, True)]
    return [*rows, row(say("one panel in shadow, without"), 1, False)]


def shadow_hours(a: Assessment) -> list[float]:
    """Hours of a clear day in which the near shadow falls, by month; nil without one. [h]"""
    light = a.lit
    if light.shaded_w_m2 is None:
        return [0.0] * 12
    hidden = light.shaded_w_m2[0] < light.plane_w_m2[0] - 1.0
    return [float(v) for v in hidden.sum(axis=1) * 0.5]
