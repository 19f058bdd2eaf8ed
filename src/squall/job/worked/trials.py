"""A search's best kits through made years."""

from collections.abc import Callable, Sequence
from dataclasses import replace

from squall.core.advice.asked import MOST, Asked
from squall.core.advice.doubt import scaled
from squall.core.advice.ranked import Ranked, Ranking
from squall.core.advice.search import search
from squall.core.advice.trials import WORTH_SHARE, Entrant, Trial, entrants, run_trials, with_front
from squall.core.kit.changes import flow_by, longer, lower
from squall.core.kit.layout import Layout
from squall.core.kit.parts import Stock
from squall.core.sky.place import winter_tilt_deg
from squall.core.sky.typical_days import Light, light_of_year
from squall.job.worked.assess import Assessment
from squall.job.worked.doubts import spreads_in
from squall.job.worked.place import climate_of, site_of, where
from squall.job.worked.resolve import mounting_of

NOW, STEEP = "now", "steep"
Progress = Callable[[float, float], Callable[[float], bool]]


class Trials:
    """The kits of one job's search through the verdict's own made years.

    `tilts` has the panels' tilt by key, `tried` the kits that the searches worked out.
    """

    def __init__(self, a: Assessment, stock: Stock | None = None, asked: Asked | None = None) -> None:
        self.a, self.stock = a, a.parts.stock if stock is None else stock
        self.asked = asked or Asked()
        now = mounting_of(a.job)
        steep = winter_tilt_deg(where(a.job)[0])
        self.mountings = {NOW: now}
        if abs(steep - now.tilt_deg) > 4.0 or now.other_tilt_deg is not None:
            self.mountings[STEEP] = replace(now, tilt_deg=steep, other_tilt_deg=None)
        self.tilts = {key: m.tilt_deg for key, m in self.mountings.items()}
        self.tried = 0

    def worth_a_trial(self, light: Light, progress: Callable[[float], bool] | None = None) -> Ranking:
        """The cheapest of each pump and source that hold with the headroom left out, and those that a tank may help."""
        a = self.a
        less = replace(a.used, need_l=tuple(WORTH_SHARE * need for need in a.used.need_l))
        found = search(
            self.stock, a.layout, light, less, a.rules, replace(self.asked, most=MOST, each=True), progress
        ).ranking

        def whole(row: Ranked) -> Ranked:
            return replace(row, worst_share=WORTH_SHARE * row.worst_share)

        return Ranking(tuple(map(whole, found.holds)), tuple(map(whole, found.short)), (), found.tried)

    def run(self, held: Sequence[Ranked], progress: Progress) -> list[Trial]:
        """Search with the panels as they stand and steeper, pick those worth it, run them.

        Parameters
        ----------
        held : sequence of Ranked
            Kits that hold with the panels as they stand, headroom and all: they enter first.
        progress : callable
            Gives the callback for a part of the work, from one share of it to another.

        Raises
        ------
        Stopped
            If a callback answers False.
        """
        a, job = self.a, self.a.job
        site, climate = site_of(job), climate_of(job, a.parts)
        lights = {key: light_of_year(site, climate, m) for key, m in self.mountings.items()}
        span = 0.4 / len(lights)
        rankings = {
            key: self.worth_a_trial(light, progress(n * span, (n + 1) * span))
            for n, (key, light) in enumerate(lights.items())
        }
        now = rankings[NOW]
        rankings[NOW] = Ranking(tuple(held), (*now.holds, *now.short), (), now.tried)
        self.tried = sum(found.tried for found in rankings.values())
        own = job.want.trough.si * 1000.0
        field = entrants(rankings, self.stock.tanks, max(a.wanted_l), own)
        if not field:
            return []
        if held and not any(e.tilt == NOW and e.row.kit == held[0].kit for e in field):
            field.insert(0, Entrant(held[0], NOW, None))
        believed = run_trials(field, a.layout, lights, a.used, own, progress(0.4, 0.7))
        bad_field, bad_layout, bad_lights = self._at_bad_end(field, lights)
        worst = run_trials(bad_field, bad_layout, bad_lights, a.used, own, progress(0.7, 1.0))
        return with_front(
            [replace(t, short_at_worst=w.short_in_a_hundred) for t, w in zip(believed, worst, strict=True)]
        )

    def _at_bad_end(
        self, field: list[Entrant], lights: dict[str, Light]
    ) -> tuple[list[Entrant], Layout, dict[str, Light]]:
        """The field, the layout and the light with every doubtful input at the end that gives less water."""
        a = self.a
        lift, lengths, pump, light = spreads_in(a)

        def worse(entrant: Entrant) -> Entrant:
            kit, motor = entrant.row.kit, flow_by(entrant.row.kit.pump.motor, 1.0 - pump)
            return replace(entrant, row=replace(entrant.row, kit=replace(kit, pump=replace(kit.pump, motor=motor))))

        layout = longer(lower(a.layout, lift), 1.0 + lengths)
        dim = {key: scaled(found, 1.0 - light) for key, found in lights.items()}
        return [worse(entrant) for entrant in field], layout, dim
