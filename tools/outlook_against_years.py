"""Compare the quick verdict's ten years with ten years run in ten-minute steps, over random kits, places and uses.

``python tools/outlook_against_years.py 200 7`` (how many, which dice) prints the table that docs/method.md shows: by source, how far litres and
short days are apart.
"""

import random
import sys
from collections import defaultdict
from functools import partial
from typing import Any

import numpy as np

from squall.catalogue import catalogue
from squall.core.advice.refusals import place_refusal, supply_refusal
from squall.core.electrics.timers import TimerStart
from squall.core.errors import SquallError
from squall.core.hydraulics.water import water_at
from squall.core.kit.bank import BankState
from squall.core.kit.cabling import Rules, choose_cabling
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Layout, RunPiece
from squall.core.kit.setup import Setup
from squall.core.kit.supply import Banked, Controlled, Direct, Supply
from squall.core.need.demand import demand_of
from squall.core.sky.air import guessed_air
from squall.core.sky.climate import Climate, Site
from squall.core.sky.local import climate_at
from squall.core.sky.made_weather import Draw
from squall.core.sky.place import facing_deg, winter_tilt_deg
from squall.core.sky.typical_days import Light, Mounting, Post, light_of_year
from squall.core.sky.whole_year import YearLight, made_clearness, made_light
from squall.core.sky.world import light_at
from squall.core.years.many_days import SEED, days_of
from squall.core.years.nodes import means_of
from squall.core.years.outlook import outlook_of
from squall.core.years.tanks import Tank
from squall.core.years.use import Use
from squall.core.years.whole import LazyYears, run_years

LANDS = ((-32, -30, 20, 30), (42, 50, 0, 25), (15, 28, 75, 85), (-20, 5, 15, 35), (30, 45, -118, -85), (52, 61, 10, 45))


def random_place(rng: random.Random) -> tuple[Site, Mounting, Light]:
    """Somewhere on land, panels facing the equator more or less, now and then a post before one."""
    south, north, west, east = rng.choice(LANDS)
    latitude, longitude = rng.uniform(south, north), rng.uniform(west, east)
    site = Site(latitude, longitude, rng.choice((50.0, 600.0, 1400.0)), round(longitude / 15.0))
    light = light_at(latitude, longitude)
    climate = climate_at(light, guessed_air(latitude, site.altitude_m), site, "world")
    azimuth = (facing_deg(latitude) + rng.uniform(-40.0, 40.0)) % 360.0
    post = Post(azimuth, (azimuth + 30.0) % 360.0, 50.0) if rng.random() < 0.15 else None
    mounting = Mounting(max(winter_tilt_deg(latitude) + rng.uniform(-20.0, 10.0), 0.0), azimuth, post=post)
    return site, mounting, light_of_year(site, climate, mounting)


def random_setup(rng: random.Random, kind: str) -> Setup:
    """A kit of the catalogue of a kind, on a line that its pump can lift."""
    parts = catalogue()
    while True:
        pump = rng.choice(list(parts.pumps.values()))
        panel = rng.choice(list(parts.panels.values()))
        lift = rng.uniform(0.1, 0.7) * pump.motor.head_range[1]
        length = max(lift, 2.0) * rng.uniform(1.1, 4.0)
        hose = rng.choice(list(parts.hoses.values()))
        pieces = (RunPiece(length, 0.02, 1e-5, 3.0),)
        layout = Layout(lift, 0.0, pieces, water_at(15.0), False, 5.0, min(length, 30.0), 35.0, -5.0)
        supply: Supply = Direct()
        if kind == "controller":
            supply = Controlled(rng.choice([c for c in parts.controllers.values() if c.kind == "pump"]))
        elif kind == "battery":
            battery = rng.choice(list(parts.batteries.values()))
            count = round(pump.motor.rated_v / battery.nominal_v)
            if count < 1 or abs(count * battery.nominal_v - pump.motor.rated_v) > 1.0:
                continue
            supply = Banked(rng.choice([c for c in parts.controllers.values() if c.kind != "pump"]), battery, count)
        series = max(1, round(1.3 * pump.motor.rated_v / panel.module.vmp_v))
        kit = Kit(pump, supply, panel, series, rng.choice((1, 1, 2, 3)), hose)
        if supply_refusal(kit) is not None:
            continue
        try:
            cabling = choose_cabling(kit, layout, Setup(kit, layout, None).table, Rules(0.05, "metric"))  # type: ignore[arg-type]
        except SquallError:
            continue
        return Setup(kit, layout, cabling)


def random_use(rng: random.Random, litres: np.ndarray, banked: bool) -> Use:
    """A need about what the kit gives, a store or none, now and then a timer or a weak well."""
    need = tuple(float(rng.uniform(0.4, 1.1) * max(litres.min(), 0.3 * litres.mean())) for _ in range(1)) * 12
    days = rng.choice((0.0, 0.3, 1.0, 3.0))
    size = days * need[0]
    tank = None if size <= 0.0 else Tank(size, 0.8 * size, size)
    timer = (TimerStart(rng.uniform(0.0, 20.0), rng.uniform(60.0, 400.0)),) if banked and rng.random() < 0.5 else ()
    well = None if rng.random() < 0.7 else float(litres.max()) / 6.0 / 3600.0 * rng.uniform(0.4, 1.2)
    demand = demand_of([(need, 6.0, 18.0)]) if rng.random() < 0.5 else demand_of([(need, 6.0, 9.0)])
    return Use(need, demand, tank, rng.random() < 0.4, BankState(0.9, 5.0, timer), well)


def _made(site: Site, climate: Climate, mounting: Mounting, clearness: np.ndarray, number: int) -> YearLight:
    return made_light(site, climate, mounting, clearness[number])


def main(count: int, seed: int) -> None:
    """Print the table."""
    rng = random.Random(seed)
    found: defaultdict[str, list[Any]] = defaultdict(list)
    while sum(len(rows) for rows in found.values()) < count:
        kind = ("panel", "controller", "battery")[sum(len(rows) for rows in found.values()) % 3]
        site, mounting, light = random_place(rng)
        setup, days = random_setup(rng, kind), days_of(light)
        if place_refusal(setup.kit, setup.layout, light) is not None:
            continue  # no page gives such a kit a verdict
        plain = Use((0.0,) * 12, demand_of([((0.0,) * 12, 0.0, 0.0)]), bank=BankState(0.9, 5.0))
        litres = means_of(setup, days, light.post, plain).litres
        if litres.min() < 20.0:
            continue
        use = random_use(rng, litres, kind == "battery")
        means = means_of(setup, days, light.post, use)
        quick = outlook_of(setup, days, means, use)
        assert light.origin is not None
        clearness = made_clearness(site, light.origin.climate, Draw(10, SEED))
        years = LazyYears(10, partial(_made, site, light.origin.climate, mounting, clearness))
        run = run_years(setup, years, use)
        free = (
            run
            if kind == "battery"
            else run_years(setup, years, Use(use.need_l, use.demand, None, True, use.bank, use.most_l_s))
        )
        month = np.tile(np.repeat(np.arange(12), (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)), 10)
        by_month = np.bincount(month, free.pumped_l) / np.bincount(month)
        quick_l = (
            np.bincount(quick.month, quick.pumped_l) / np.bincount(quick.month) if kind == "battery" else means.litres
        )
        worst = int(np.argmin(quick_l))
        if quick_l.sum() < 100.0:
            continue
        off = float((quick_l[worst] - by_month[worst]) / max(by_month[worst], 0.02 * by_month.mean()))
        whole = float(quick_l.sum() / by_month.sum() - 1.0)
        row = (
            off,
            whole,
            quick.short_in_a_hundred - run.short_in_a_hundred,
            quick.short_in_a_hundred,
            run.short_in_a_hundred,
        )
        found[kind].append(row)
        if abs(row[0]) > 0.05 or abs(row[2]) > 3.0:
            print(
                kind,
                f"{site.latitude_deg:.1f} {site.longitude_deg:.1f}",
                setup.kit.pump.id,
                setup.kit.panel.id,
                setup.kit.joining,
                [round(v, 3) for v in row],
                f"{quick_l[worst]:.0f} of {by_month[worst]:.0f} L",
                "tank" if use.tank else "-",
                use.by_sun,
                len(use.bank.timer),
                use.most_l_s,
                mounting.post is not None,
            )
    print(
        "| source | kits | litres, worst month: median and most apart | year's litres, most apart | short days in 100, most apart | kits over 5 % or 3 days |"
    )
    for kind, rows in found.items():
        v = np.abs(np.array(rows))
        over = int(((v[:, 0] > 0.05) | (v[:, 2] > 3.0)).sum())
        print(
            f"| {kind} | {len(rows)} | {np.median(v[:, 0]):.1%}, {v[:, 0].max():.1%} | {v[:, 1].max():.1%} | {v[:, 2].max():.1f} | {over} |"
        )


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 200, int(sys.argv[2]) if len(sys.argv) > 2 else 7)
