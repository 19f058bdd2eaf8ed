"""What the seasons take is counted by verdict, ranking, levers and years alike: a pond that falls, an intake laid bare, a frozen line."""

from dataclasses import replace

import numpy as np
import pytest
from hill import new_job

from squall.core.advice.rank import rank
from squall.core.electrics.conductors import conductor
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Falls
from squall.core.kit.setup import Cabling, Setup
from squall.core.kit.supply import Banked, Controlled, Direct
from squall.core.sky.frost import frozen_months
from squall.core.sources.ponds import pond_of
from squall.core.sources.roofs import overflow_bore, overflow_capacity
from squall.core.years.many_days import days_of
from squall.core.years.nodes import means_of
from squall.core.years.outlook import outlook_of
from squall.core.years.use import plain_use
from squall.job.document.fields import edit
from squall.job.edit.kits import adopt
from squall.job.edit.places import set_place
from squall.job.edit.rows import add_typed_row
from squall.job.told.lift import season_words
from squall.job.told.sources import pond_findings
from squall.job.told.verdict import verdict_of
from squall.job.worked.assess import assess
from squall.job.worked.place import climate_of
from squall.job.worked.seasons import kept_pond
from squall.job.worked.use import well_gives
from squall.job.worked.water_accounts import pond_view
from squall.job.worked.years import run_of

CABLES = Cabling(conductor("mm2:6"), conductor("mm2:4"))


def typed(job, parts, **fields):
    for path, text in fields.items():
        job = edit(job, path.replace("__", "."), text, parts)
    return job


def ponded(parts, source="panel", **fields):
    """A pond of four metres read full on the first of October, eight metres below its outlet."""
    pump, panel = parts.pumps["stairwell-14"], parts.panels["ridge-215"]
    supply = Direct() if source == "panel" else Banked(parts.controllers["sluice-30"], parts.batteries["anvil-120"], 2)
    kit = Kit(pump, supply, panel, 1 if source == "panel" else 2, 1, parts.hoses["hose-25"])
    job, _ = adopt(new_job("pond"), kit, CABLES if source != "panel" else replace(CABLES, array=None))
    job = typed(job, parts, water="pond", lift="8 m", litres="1500 L", want__headroom="1", pond__depth_full="4 m",
                pond__area_full="400 m2", pond__intake="0.5 m", pond__seepage="4 mm", **fields)  # fmt: skip
    return add_typed_row(job, "pond.readings", "", {"on": "2026-10-01", "depth": "4 m"}, parts, "metric")[0]


def test_a_falling_pond_raises_the_lift_month_by_month(parts) -> None:
    falling = ponded(parts)
    a = assess(falling)
    falls = a.layout.falls
    view = pond_view(a)
    assert falls.most_m > 1.0
    assert falls.months_m[9] < falls.months_m[8]  # read in October; September comes last
    assert falls.most_m == pytest.approx(4.0 - min(np.mean(view.depths_m[336:366]), 4.0), abs=0.4)
    still = assess(falling.model_copy(update={"pond": falling.pond.model_copy(update={"readings": []})}))
    assert still.layout.falls is None
    now, then = still.chosen.season.average_litres, a.chosen.season.average_litres
    assert (then < now).all()
    assert then[8] / now[8] < then[9] / now[9]
    sunk = replace(a.layout, falls=None, lift_m=a.layout.lift_m + falls.most_m)
    lowest = means_of(Setup(a.chosen.kit, sunk, a.chosen.cabling), days_of(a.lit), None, a.used).litres
    assert then[8] == pytest.approx(lowest[8] * (1.0 - falls.bare[8]), rel=1e-6)
    assert "falls by up to" in verdict_of(a).sentence


@pytest.mark.parametrize("source", ["panel", "battery"])
def test_the_years_run_and_the_verdict_agree_on_it(parts, source) -> None:
    job = typed(ponded(parts, source), parts, want__use="sun")
    a = assess(job)
    run, quick = run_of(a, a.chosen), a.chosen.outlook
    assert quick.pumped_l.sum() == pytest.approx(run.pumped_l.sum() * 10.0 / run.years, rel=0.03)
    assert quick.short_in_a_hundred == pytest.approx(run.short_in_a_hundred, abs=3.0)


@pytest.mark.parametrize("source", ["panel", "battery"])
def test_a_bare_intake_gives_nothing(parts, source) -> None:
    """A small pond is drunk dry: months without water are short, in the ranking too."""
    dry = assess(typed(ponded(parts, source), parts, pond__area_full="60 m2"))
    bare = dry.layout.falls.bare
    assert max(bare) == 1.0
    worst = dry.chosen.season.average_litres[int(np.argmax(bare))]
    assert worst == 0.0
    assert verdict_of(dry).grade == "short"
    assert "lies bare" in verdict_of(dry).sentence
    short = dry.chosen.outlook
    days = short.short_l.reshape(10, 365)[0]
    assert days[np.repeat(np.array(bare) == 1.0, (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31))].min() > 0.0
    found = rank(parts.stock, dry.layout, dry.lit, dry.used, dry.rules)
    assert not found.holds
    run = run_of(dry, dry.chosen)
    assert short.short_in_a_hundred == pytest.approx(run.short_in_a_hundred, abs=3.0)


def test_a_level_that_stays_changes_nothing(parts, direct_kit, layout, light) -> None:
    from hill import PLAIN

    setup = Setup(direct_kit, layout, Cabling(conductor("mm2:6"), None))
    still = Setup(direct_kit, replace(layout, falls=Falls((0.0,) * 12)), setup.cabling)
    days = days_of(light)
    assert means_of(still, days, None, PLAIN).litres == pytest.approx(means_of(setup, days, None, PLAIN).litres)
    a, b = (outlook_of(s, days, means_of(s, days, None, PLAIN), PLAIN) for s in (still, setup))
    assert a.pumped_l == pytest.approx(b.pumped_l)


def test_a_negative_inflow_is_said(parts) -> None:
    job = typed(ponded(parts), parts, pond__inflow_by="readings", pond__seepage="0 mm")
    job = add_typed_row(job, "pond.readings", "", {"on": "2026-11-15", "depth": "2.2 m"}, parts, "metric")[0]
    a = assess(job)
    view = pond_view(a)
    assert view.account.inflow_m3_d < -view.inflow_off_m3_d
    assert "inflow comes out negative" in str(pond_findings(a, view)[0].text)


def frozen_place(parts, **fields):
    """50 N in the middle of a continent, its air guessed: months whose mean day is far below zero."""
    job, _ = set_place(new_job("north"), 50.0, 60.0)
    kit = Kit(parts.pumps["stairwell-8"], Direct(), parts.panels["kite-110"], 1, 1, parts.hoses["hose-19"])
    job, _ = adopt(job, kit, Cabling(conductor("mm2:6"), None))
    return typed(job, parts, water="pond", **fields)


def test_ice_stops_a_ponds_evaporation(parts) -> None:
    job = frozen_place(parts)
    under_ice = frozen_months(climate_of(job, parts))
    assert 0 in under_ice
    assert 6 not in under_ice
    account = kept_pond(job, parts, (0.0,) * 12, closed_circuit=False).account
    assert all(account.evaporation_m_d[month] == 0.0 for month in under_ice)
    assert account.evaporation_m_d[6] > 0.001


def test_a_line_that_stands_full_in_frost_gives_nothing(parts) -> None:
    """A check valve holds the run full: frozen shut from the first to the last month below zero. Drained or buried deep it is not."""
    held = assess(typed(frozen_place(parts), parts, run__p1__fittings__check="1"))
    frozen = sorted(frozen_months(climate_of(held.job, parts)))
    assert [n for n, bare in enumerate(held.layout.falls.bare) if bare == 1.0] == frozen
    assert held.chosen.season.average_litres[frozen].max() == 0.0
    assert held.chosen.season.clear_litres[frozen].max() == 0.0
    assert "freezes shut" in verdict_of(held).sentence
    drained = assess(frozen_place(parts))
    assert drained.layout.falls is None
    deep = typed(
        frozen_place(parts), parts, run__p1__fittings__check="1", outdoors__lies="buried", outdoors__buried="3 m"
    )
    assert season_words(assess(deep)) == []


def test_a_wait_after_the_dry_probe_bounds_a_narrow_well(parts) -> None:
    """In a bore of 10 cm a metre over the pump holds 7.9 L: in waits of a quarter of an hour no more than that comes."""
    job = typed(new_job("well"), parts, water="well", well__gives="5 L/min", pump_depth="1 m")
    box, panel = parts.controllers["warden-12"], parts.panels["kite-110"]
    kit = Kit(parts.pumps["stairwell-8"], Controlled(box), panel, 1, 1)

    def most(narrow: str, kit: Kit) -> float | None:
        gives, stands = well_gives(typed(job, parts, well__bore=narrow) if narrow else job)
        return replace(plain_use((1.0,) * 12), most_l_s=gives, stands_l=stands).most_of(kit)

    assert most("", kit) == pytest.approx(5.0 / 60.0)
    assert most("10 cm", kit) == pytest.approx(np.pi / 4.0 * 0.01 * 1000.0 / 900.0)
    assert most("1.2 m", kit) == pytest.approx(5.0 / 60.0)
    # A controller whose maker says that it starts again in five minutes lets three times as much be had.
    quick = replace(kit, supply=Controlled(replace(box, restart_dry_min=5.0)))
    assert most("10 cm", quick) == pytest.approx(np.pi / 4.0 * 0.01 * 1000.0 / 300.0)


def test_an_overflow_near_the_rim_passes_less(parts) -> None:
    """Just covered it is Torricelli's; nearer the rim only its filled part runs; and the bore that passes is the same turned round."""
    assert overflow_capacity(0.1, 0.05) == pytest.approx(0.6 * np.pi / 4 * 0.01 * np.sqrt(2 * 9.80665 * 0.05))
    assert overflow_capacity(0.1, 0.04999) == pytest.approx(overflow_capacity(0.1, 0.05), rel=1e-3)
    full = 0.6 * np.pi / 4 * 0.01 * np.sqrt(2 * 9.80665 * 0.01)
    assert overflow_capacity(0.1, 0.01) != pytest.approx(full, rel=0.05)
    for head in (0.01, 0.03, 0.2):
        for flow in (2e-4, 1e-3, 5e-3):
            assert overflow_capacity(overflow_bore(flow, head), head) == pytest.approx(flow, rel=1e-6)
    assert pond_of("bowl", 3.0, 900.0).full_m3 == pytest.approx(900.0)
