"""The quick search against trying everything: the same kits, at the same prices, whatever the shelf and the job."""

from dataclasses import replace

import numpy as np
import pytest

from squall.core.advice.asked import Asked
from squall.core.advice.bounds import bound_of
from squall.core.advice.joined import Joiner, arrays_of
from squall.core.advice.quick import Quick, best_hose, most_amps, narrower_gives_less
from squall.core.advice.rank import arrangements, candidates, rank
from squall.core.advice.refusals import place_refusal, stands_v
from squall.core.advice.search import search
from squall.core.drive.tables import on_volts
from squall.core.errors import Stopped
from squall.core.kit.cabling import Rules
from squall.core.kit.carried import carried_kg
from squall.core.kit.setup import Setup, table_for
from squall.core.kit.supply import Controlled
from squall.core.years.day_kernels import taken_of_days
from squall.core.years.many_days import days_of
from squall.core.years.use import plain_use
from squall.demo import demo_jobs
from squall.job.worked.assess import assess

RULES = Rules(0.05, "metric")


def some_of(stock, seed: int):
    """A few parts of a stock, at prices of their own."""
    rng = np.random.default_rng(seed)

    def few(parts, count):
        chosen = rng.choice(len(parts), size=min(count, len(parts)), replace=False)
        return tuple(
            replace(parts[int(n)], price=parts[int(n)].price * float(rng.uniform(0.6, 1.6))) for n in sorted(chosen)
        )

    return replace(
        stock, pumps=few(stock.pumps, 5), panels=few(stock.panels, 4), batteries=few(stock.batteries, 4),
        controllers=few(stock.controllers, 6), hoses=few(stock.hoses, 4),
    )  # fmt: skip


def of_each(found):
    """The cheapest that holds of each pump and source, out of all."""
    first: dict[tuple[str, str], object] = {}
    for row in found.holds:
        first.setdefault((row.kit.pump.id, row.kit.source), row)
    return sorted(first.values(), key=lambda row: (row.price, -row.worst_litres))


@pytest.mark.parametrize("seed", range(6))
def test_a_search_finds_what_trying_everything_finds(seed) -> None:
    a = assess(demo_jobs()[seed % 5])
    stock = some_of(a.parts.stock, seed)
    everything = rank(stock, a.layout, a.lit, a.used, a.rules)
    found = search(stock, a.layout, a.lit, a.used, a.rules, Asked(most=8, most_panels=4))
    wanted = of_each(everything)[:8]
    assert [row.kit for row in found.holds] == [row.kit for row in wanted]
    assert [row.price for row in found.holds] == pytest.approx([row.price for row in wanted])
    assert found.complete == (len(of_each(everything)) <= 8) or len(found.holds) == 8
    assert found.judged < everything.tried
    if not found.holds and everything.short:
        assert found.short[0].worst_share == pytest.approx(everything.short[0].worst_share)


@pytest.mark.parametrize("seed", [11, 12])
def test_of_all_kits_the_cheapest_come_first(seed) -> None:
    a = assess(demo_jobs()[0])
    stock = some_of(a.parts.stock, seed)
    one = search(stock, a.layout, a.lit, a.used, a.rules, Asked(1, each=False, most_panels=4)).holds
    many = search(stock, a.layout, a.lit, a.used, a.rules, Asked(30, each=False, most_panels=4)).holds
    assert [row.price for row in many] == sorted(row.price for row in many)
    assert one[0].kit == many[0].kit
    first = of_each(rank(stock, a.layout, a.lit, a.used, a.rules))[0]
    assert many[0].kit == first.kit


def test_a_budget_and_sources_part_what_is_found(parts, layout, light) -> None:
    use = plain_use((400.0,) * 12)
    every = search(parts.stock, layout, light, use, RULES).holds
    limit = every[len(every) // 2].price
    cheap = search(parts.stock, layout, light, use, RULES, Asked(budget=limit)).holds
    assert [row.kit for row in cheap] == [row.kit for row in every if row.price <= limit]
    straight = search(parts.stock, layout, light, use, RULES, Asked(sources=("panel",))).holds
    assert {row.kit.source for row in straight} == {"panel"}


def test_where_nothing_holds_the_nearest_are_told(parts, layout, light) -> None:
    use = plain_use((60_000.0,) * 12)
    found = search(parts.stock, layout, light, use, RULES, Asked(most=5, most_panels=4))
    whole = rank(parts.stock, layout, light, use, RULES)
    assert not found.holds
    assert found.complete
    best: dict[tuple[str, str], float] = {}
    for row in whole.short:
        key = (row.kit.pump.id, row.kit.source)
        best[key] = max(best.get(key, 0.0), row.worst_share)
    assert [row.worst_share for row in found.short] == pytest.approx(sorted(best.values(), reverse=True)[:5])


def test_a_search_of_nothing_finds_nothing(parts, layout, light) -> None:
    for bare in (replace(parts.stock, panels=()), replace(parts.stock, pumps=())):
        assert search(bare, layout, light, plain_use((300.0,) * 12), RULES).holds == ()
    # With no hose to be bought the run stays as it was laid.
    laid = search(replace(parts.stock, hoses=()), layout, light, plain_use((300.0,) * 12), RULES).holds
    assert {row.kit.hose for row in laid} == {None}


def test_a_search_tells_and_stops(parts, layout, light) -> None:
    told: list[float] = []
    search(
        parts.stock, layout, light, plain_use((400.0,) * 12), RULES, progress=lambda share: told.append(share) or True
    )
    assert all(0.0 <= share <= 1.0 for share in told)
    assert told
    with pytest.raises(Stopped):
        search(parts.stock, layout, light, plain_use((400.0,) * 12), RULES, progress=lambda share: False)


def test_joining_all_at_once_is_joining_one_after_the_other(parts, layout, light) -> None:
    """The rules of one kit and those of all arrays at once are the same."""
    stock = parts.stock
    arrays = arrays_of(stock.panels, list(arrangements()))
    joiner = Joiner(arrays, layout, light)
    held = [Controlled(c) for c in sorted(stock.controllers, key=lambda c: c.price) if c.kind == "pump"]
    for pump in stock.pumps:
        one = {
            (kit.source, kit.panel.id, kit.in_series, kit.in_parallel, kit.controller and kit.controller.id)
            for kit, why in candidates(pump, replace(stock, batteries=()), lambda volts: 0.0)
            if why is None
            and place_refusal(replace(kit, pump=replace(pump, placement="submersible")), layout, light) is None
        }
        sized = (arrays.watts >= 0.6 * pump.rated_w) & (arrays.watts <= 3.0 * pump.rated_w)
        ways = joiner.direct(pump, sized)[0] + joiner.controlled(pump, held, stands_v(pump), sized)[0]
        kits = [joiner.kit(pump, way) for way in ways]
        assert {
            (k.source, k.panel.id, k.in_series, k.in_parallel, k.controller and k.controller.id) for k in kits
        } == one


def test_no_pump_does_more_than_its_bound(parts, layout) -> None:
    for pump in parts.pumps.values():
        bound = bound_of(pump, layout, stands_v(pump))
        for hose in parts.hoses.values():
            table = table_for(pump.motor, layout.line(hose))
            within = (table.volts_v <= stands_v(pump)) & (table.current_a > 0.0)
            flow, watts = table.flow_m3_s[within] * 1000.0, (table.volts_v * table.current_a)[within]
            assert (flow <= bound.most_l_s * (1 + 1e-9)).all(), pump.id
            assert (flow / watts <= bound.l_per_j * (1 + 1e-9)).all(), pump.id
            amps = np.interp(stands_v(pump), table.volts_v, table.current_a)
            assert amps <= most_amps(pump.motor, stands_v(pump)), pump.id


def test_the_best_hose_is_best(parts, layout) -> None:
    best = best_hose(tuple(parts.hoses.values()))
    for pump in parts.pumps.values():
        assert narrower_gives_less(pump)
        wide = table_for(pump.motor, layout.line(best))
        for hose in parts.hoses.values():
            narrow = table_for(pump.motor, layout.line(hose))
            for volts in (0.7, 0.85, 1.0):
                at = volts * pump.motor.rated_v
                assert on_volts(narrow, 0.0, at)[2] <= on_volts(wide, 0.0, at)[2] * 1.01 + 1e-9


def test_what_is_left_out_as_too_weak_is_short(parts, layout, light) -> None:
    """The most that a kit may cover is no less than what the whole judgement finds."""
    use = plain_use((900.0,) * 12)
    arrays = arrays_of(parts.stock.panels, list(arrangements()))
    joiner = Joiner(arrays, layout, light)
    quick = Quick(joiner, days_of(light), use, RULES)
    place = {
        (arrays.panel_of(n).id, int(arrays.series[n]), int(arrays.strings[n])): n for n in range(len(arrays.watts))
    }
    found = rank(parts.stock, layout, light, use, RULES)
    from squall.core.advice.joined import Joined

    assert len(found.short) > 50
    for row in [*found.short[::7], *found.holds[::11]]:
        kit = row.kit
        way = Joined(place[kit.panel.id, kit.in_series, kit.in_parallel], kit.supply, 0.0)
        most = quick.most_share(table_for(kit.pump.motor, layout.line(kit.hose)), way)
        assert most >= row.worst_share * 0.996, kit


def test_kits_are_told_as_they_are_found_and_no_later_one_is_cheaper() -> None:
    a = assess(demo_jobs()[0])
    told = []
    found = search(a.parts.stock, a.layout, a.lit, a.used, a.rules, Asked(most=6, as_found=told.append))
    assert told == list(found.holds)
    assert [row.price for row in told] == sorted(row.price for row in told)


def test_what_is_too_heavy_is_left_out_and_the_next_comes_up() -> None:
    """As all kits, less the heavy ones: a lighter kit of the same pump takes the place of the cheaper one."""
    a = assess(demo_jobs()[1])
    everything = search(a.parts.stock, a.layout, a.lit, a.used, a.rules, Asked(most=60, each=False, most_panels=3))
    weights = sorted(carried_kg(Setup(row.kit, a.layout, row.cabling)) for row in everything.holds)
    most = weights[len(weights) // 3]
    light = search(
        a.parts.stock, a.layout, a.lit, a.used, a.rules, Asked(most=12, each=False, most_panels=3, most_kg=most)
    )
    wanted = [row for row in everything.holds if carried_kg(Setup(row.kit, a.layout, row.cabling)) <= most][:12]
    assert wanted
    assert [row.kit for row in light.holds][: len(wanted)] == [row.kit for row in wanted]
    assert all(carried_kg(Setup(row.kit, a.layout, row.cabling)) <= most for row in (*light.holds, *light.short))


def test_a_family_that_no_light_can_serve_is_left_out_whole(monkeypatch) -> None:
    """The school drinks at its hours and stores nothing: its sun-driven pumps can't hold, and few of their kits are worked out."""
    a = assess(demo_jobs()[4])
    bare = replace(a.used, tank=None, by_sun=False)
    quick = search(a.parts.stock, a.layout, a.lit, bare, a.rules, Asked(most_panels=4))
    monkeypatch.setattr(Quick, "never_enough", lambda *_: False)
    slow = search(a.parts.stock, a.layout, a.lit, bare, a.rules, Asked(most_panels=4))
    assert [row.kit for row in quick.holds] == [row.kit for row in slow.holds]
    assert quick.judged < slow.judged / 2


def test_what_is_taken_of_made_days_is_what_numpy_reads_off() -> None:
    """The compiled sum against numpy's interpolation: moments of no light and beyond the last light too, three to a half hour."""
    dice = np.random.default_rng(7)
    lights = np.arange(0.0, 1300.1, 25.0)
    plane = np.where(dice.random((40, 144)) < 0.4, 0.0, dice.uniform(0.0, 1500.0, (40, 144))).astype(np.float32)
    month, litres = dice.integers(0, 12, 40), np.sort(dice.uniform(0.0, 300.0, lights.size)) - 0.0
    litres[0] = 0.0
    drawn = np.where(dice.random((12, 48)) < 0.5, 0.0, dice.uniform(0.0, 200.0, (12, 48)))
    out = np.empty(40)
    taken_of_days(plane, month, 25.0, litres, drawn, out)
    came = np.where(plane > 0.0, np.interp(plane, lights, litres), 0.0).reshape(40, 48, 3).mean(axis=2)
    wanted = np.minimum(came, drawn[month]).sum(axis=1)
    assert out == pytest.approx(wanted, rel=1e-6)
    assert out.max() > 0.0
