"""Measures the years: one kit's year beside the same year by pvlib's ModelChain and EPANET, twenty years, the search."""

import os
import statistics
import tempfile
import time
import warnings
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import numpy as np

from squall.core.advice.asked import Found
from squall.core.advice.levers import with_controller
from squall.core.advice.search import search
from squall.core.kit.setup import Cabling, Setup, table_for
from squall.core.sky.made_weather import Draw, made_years
from squall.core.sky.whole_year import YEAR_STEPS, made_light, year_path
from squall.core.years.tanks import Tank, without_switch
from squall.core.years.use import Use
from squall.core.years.whole import LazyYears, run_year, run_years
from squall.demo import demo_jobs
from squall.job.worked.assess import assess
from squall.job.worked.place import climate_of, site_of
from squall.job.worked.resolve import mounting_of
from squall.job.worked.trials import Trials


def median_s(work: Callable[[], object], times: int) -> float:
    """Median duration of a piece of work. [s]"""
    taken = []
    for _ in range(times):
        begin = time.perf_counter()
        work()
        taken.append(time.perf_counter() - begin)
    return statistics.median(taken)


class Case:
    """The first demo job with its panels behind a pump controller: kit, site, climate, tank and made weather."""

    def __init__(self) -> None:
        self.a = assess(demo_jobs()[0])
        assert self.a.chosen is not None
        held = with_controller(self.a.chosen.kit, self.a.parts.stock)
        assert held is not None
        size = self.a.chosen.cabling.pump
        self.chosen = replace(self.a.chosen, kit=held, cabling=Cabling(size, size))
        job = self.a.job
        self.site, self.climate, self.mounting = site_of(job), climate_of(job, self.a.parts), mounting_of(job)
        self.clearness = made_years(self.climate, Draw(20, 1))
        self.demand, self.tank = self.a.used.demand, self.chosen.use.tank

    def light(self, number: int):  # type: ignore[no-untyped-def]
        """Light of one of the years."""
        return made_light(self.site, self.climate, self.mounting, self.clearness[number])

    def year(self, number: int = 0, tank: Tank | None = None) -> object:
        """Light, drive, tank and demand of one year."""
        c = self.chosen
        return run_year(Setup(c.kit, c.layout, c.cabling), self.light(number), self.demand, tank or self.tank)

    def years(self, count: int) -> object:
        """Several years in a row."""
        c = self.chosen
        return run_years(
            Setup(c.kit, c.layout, c.cabling),
            LazyYears(count, self.light),
            Use((0.0,) * 12, self.demand, self.tank, by_sun=False),
        )


def by_model_chain(case: Case) -> np.ndarray:
    """The array's power in every ten minutes, by pvlib's ModelChain on the same light. [W]"""
    import pandas as pd
    from pvlib.location import Location
    from pvlib.modelchain import ModelChain
    from pvlib.pvsystem import Array, FixedMount, PVSystem
    from pvlib.temperature import TEMPERATURE_MODEL_PARAMETERS

    from squall.core.electrics.modules import fit_module
    from squall.core.sky.sunlight import split_light

    module = case.chosen.kit.panel.module
    r = fit_module(module)
    start = pd.Timestamp(2025, 1, 1, tz="UTC") - pd.Timedelta(hours=case.site.utc_offset_h) + pd.Timedelta(minutes=5)
    times = pd.date_range(start, periods=YEAR_STEPS, freq="10min")
    sun = year_path(case.site)
    sky = split_light(sun.path, case.clearness[0][sun.day] * sun.shapes)
    frame = pd.DataFrame(0.0, index=times, columns=["ghi", "dni", "dhi"])
    for name, values in (("ghi", sky.whole), ("dni", sky.beam), ("dhi", sky.diffuse)):
        frame.iloc[sun.steps, frame.columns.get_loc(name)] = values
    frame["temp_air"], frame["wind_speed"] = 18.0, 1.0
    parameters = {"alpha_sc": r.isc_a_per_k, "a_ref": r.modified_ideality_v, "I_L_ref": r.light_current_a,
                  "I_o_ref": r.saturation_current_a, "R_sh_ref": r.shunt_ohm, "R_s": r.series_ohm}  # fmt: skip
    mount = FixedMount(case.mounting.tilt_deg, case.mounting.azimuth_deg)
    array = Array(mount, module_parameters=parameters,
                  temperature_model_parameters=TEMPERATURE_MODEL_PARAMETERS["sapm"]["open_rack_glass_polymer"])  # fmt: skip
    system = PVSystem(arrays=[array], inverter_parameters={"pdc0": 1000.0})
    place = Location(case.site.latitude_deg, case.site.longitude_deg, "UTC", case.site.altitude_m)
    chain = ModelChain(
        system, place, aoi_model="no_loss", spectral_model="no_loss", dc_model="desoto", ac_model="pvwatts"
    )
    chain.run_model(frame)
    found: np.ndarray = chain.results.dc["p_mp"].to_numpy()
    return found


def by_epanet(case: Case, power: np.ndarray, days: int = 365) -> float:
    """Litres of the year's first days by EPANET: the pump's speed by the ten minutes, tank, draws, through wntr. [L]"""
    import wntr

    kit, layout = case.chosen.kit, case.chosen.layout
    line, controller = layout.line(kit.hose), kit.controller
    assert controller is not None
    table = table_for(kit.pump.motor, line)
    watts = table.volts_v * table.current_a
    given = power * kit.panels * controller.efficiency
    speeds = table.volts_v - table.current_a * kit.pump.motor.resistance_ohm
    rated = table.volts_v.searchsorted(kit.pump.motor.rated_v)
    top = min(controller.out_max_v, float(table.volts_v[-1]))
    speed = np.interp(np.minimum(given, np.interp(top, table.volts_v, watts)), watts, speeds) / speeds[rated]
    net = wntr.network.WaterNetworkModel()
    net.options.hydraulic.headloss = "D-W"
    net.options.hydraulic.inpfile_units = "LPM"
    net.options.time.duration = days * 86_400 - 600
    net.options.time.hydraulic_timestep = net.options.time.pattern_timestep = net.options.time.report_timestep = 600
    net.add_reservoir("spring", base_head=0.0)
    net.add_junction("low", elevation=0.0)
    net.add_curve("curve", "HEAD", [(q, h) for q, h, _ in kit.pump.motor.points])
    net.add_pattern("speed", np.clip(speed, 0.0, 1.4).tolist())
    net.add_pump("pump", "spring", "low", "HEAD", "curve", pattern="speed")
    net.add_tank("tank", elevation=line.static_head_m, init_level=0.5, max_level=0.9, diameter=1.4, overflow=True)
    for number, pipe in enumerate(line.pipes):
        begin, end = (f"n{number - 1}" if number else "low"), f"n{number}"
        if number == len(line.pipes) - 1:
            end = "tank"
        else:
            net.add_junction(end, elevation=0.0)
        net.add_pipe(
            f"p{number}", begin, end, pipe.length_m, pipe.inner_diameter_m, pipe.roughness_m, pipe.minor_loss_k
        )
    net.add_pattern("draw", np.tile(case.demand.draw_l_s[0] / 1000.0, 1).tolist())
    net.add_junction("trough", base_demand=1.0, demand_pattern="draw", elevation=0.0)
    net.add_pipe("down", "tank", "trough", 1.0, 0.1, 1e-5)
    here = os.getcwd()
    with tempfile.TemporaryDirectory() as folder:
        os.chdir(folder)
        try:
            results = wntr.sim.EpanetSimulator(net).run_sim(file_prefix=str(Path(folder) / "year"))
        finally:
            os.chdir(here)
    flow = results.link["flowrate"]["pump"].to_numpy()
    return float(np.maximum(flow, 0.0).sum() * 600.0 * 1000.0)


def rows() -> list[tuple[str, str, str]]:
    """The table's rows: what, how long, what is wanted."""
    warnings.simplefilter("ignore")
    case = Case()
    case.year()
    one = median_s(case.year, 15)
    begin = time.perf_counter()
    power = by_model_chain(case)
    chain = time.perf_counter() - begin
    begin = time.perf_counter()
    litres = by_epanet(case, power)
    epanet = time.perf_counter() - begin
    pair = chain + epanet
    ours = float(case.year(tank=without_switch(5000.0)).litres_a_year)  # type: ignore[attr-defined]
    found = [
        ("one kit, one year in ten-minute steps, warm", f"{one * 1000:.0f} ms", "under 60 ms"),
        ("the same year by ModelChain, and by EPANET through wntr", f"{chain:.1f} + {epanet:.1f} s", ""),
        ("the pair over ours", f"{pair / one:.0f} x", "at least 20 x"),
        ("litres of that year without a float, ours and the pair's", f"{ours:,.0f}, {litres:,.0f}", ""),
    ]
    for count in (1, 2, 5, 10, 20):
        wanted = "under 1.5 s" if count == 20 else "grows with the years"
        found.append((f"{count} years of one kit", f"{median_s(lambda n=count: case.years(n), 3):.2f} s", wanted))  # type: ignore[misc]
    found += _searches(case)
    return found


def _searches(case: Case) -> list[tuple[str, str, str]]:
    from squall.core.kit import layout, setup
    from squall.core.years import lit
    from squall.core.years import whole as running

    caches = [
        setup.table_for,
        layout._line,
        lit._remembered_charge,
        lit.lit_light,
        running.states_of,
    ]
    a = case.a

    def found() -> Found:
        return search(a.parts.stock, a.layout, a.lit, a.used, a.rules)

    def again() -> None:
        for cached in caches:
            cached.cache_clear()
        found()

    def trial() -> None:
        entered[0] = len(Trials(a).run(base.holds, lambda begin, end: lambda share: True))

    entered = [0]
    again()
    seconds = median_s(again, 3)
    base = found()
    trials_s = median_s(trial, 3)
    return [
        (
            f"search for kits ({base.judged} of {base.all_there_are} worked out), nothing remembered",
            f"{seconds:.2f} s",
            "under 1 s",
        ),
        (f"the same with {entered[0]} trials of the best through a made year", f"{seconds + trials_s:.2f} s", ""),
    ]
