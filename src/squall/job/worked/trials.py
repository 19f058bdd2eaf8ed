"""A search's best kits through made years."""

from collections.abc import Callable
from dataclasses import replace

from squall.core.advice.doubt import scaled
from squall.core.advice.rank import rank
from squall.core.advice.ranked import Ranking
from squall.core.advice.trials import Entrant, Trial, entrants, run_trials, with_front
from squall.core.kit.changes import flow_by, longer, lower
from squall.core.kit.layout import Layout
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

    `tilts` has the panels' tilt by key, `tried` the kits that both rankings tried.
    """

    def __init__(self, a: Assessment) -> None:
        self.a = a
        now = mounting_of(a.job)
        steep = winter_tilt_deg(where(a.job)[0])
        self.mountings = {NOW: now}
        if abs(steep - now.tilt_deg) > 4.0 or now.other_tilt_deg is not None:
            self.mountings[STEEP] = replace(now, tilt_deg=steep, other_tilt_deg=None)
        self.tilts = {key: m.tilt_deg for key, m in self.mountings.items()}
        self.tried = 0

    def rank_steep(self, progress: Callable[[float], bool] | None = None) -> Ranking | None:
        """The whole catalogue with the panels steeper; None where they stand steep already."""
        if STEEP not in self.mountings:
            return None
        a, job = self.a, self.a.job
        light = light_of_year(site_of(job), climate_of(job, a.parts), self.mountings[STEEP])
        return rank(a.parts.stock, a.layout, light, a.used, a.rules, progress)

    def run(self, ranking: Ranking, progress: Progress) -> list[Trial]:
        """Rank with steeper panels too, pick those worth it, run them.

        Parameters
        ----------
        ranking : Ranking
            As the panels stand now.
        progress : callable
            Gives the callback for a part of the work, from one share of it to another.

        Raises
        ------
        Stopped
            If a callback answers False.
        """
        a, job = self.a, self.a.job
        site, climate = site_of(job), climate_of(job, a.parts)
        rankings = {NOW: ranking}
        steep = self.rank_steep(progress(0.0, 0.4))
        if steep is not None:
            rankings[STEEP] = steep
        self.tried = sum(found.tried for found in rankings.values())
        own = job.want.trough.si * 1000.0
        field = entrants(rankings, a.parts.stock.tanks, max(a.wanted_l), own)
        if not field:
            return []
        lights = {key: light_of_year(site, climate, m) for key, m in self.mountings.items()}
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
