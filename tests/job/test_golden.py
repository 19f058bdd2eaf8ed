"""The demo jobs' figures as 0.3.0 gave them: what no move of code may change.

``golden.json`` was written before the first move of 0.4.0. A defect that is mended may change a row of it; then the
changelog names the defect: so far the lever of one more string beside a shaded one, the kits that ratings refuse since 0.5.0, all litres since 0.6.0, which come from the years, and since 0.7.0 what the closer load tables, the doubt of a lift and the ducks' pond moved, since 0.17.0 a half hour under a post and the light of dawn. ``python -m tests.job.test_golden`` writes it anew.
"""

import json
from pathlib import Path
from typing import Any

import pytest

from squall.core.advice.rank import rank
from squall.demo import demo_jobs
from squall.job.document.job import Job
from squall.job.worked.assess import assess
from squall.job.worked.doubts import doubt_in
from squall.job.worked.years import report_of

GOLDEN = Path(__file__).parent / "golden.json"


def figures_of(job: Job) -> dict[str, Any]:
    """All that a person would decide by, of one job."""
    a = assess(job)
    light = a.light
    ranking = rank(a.parts.stock, a.layout, light, a.used, a.rules)
    row: dict[str, Any] = {
        "need_l": list(a.need_l),
        "wanted_l": list(a.wanted_l),
        "lift_m": a.layout.lift_m,
        "static_head_m": a.layout.static_head_m,
        "kits": [len(ranking.holds), len(ranking.short), len(ranking.refused), ranking.tried],
        "best": [
            [r.kit.pump.id, r.kit.source, r.kit.panel.id, r.kit.in_series, r.kit.in_parallel, r.price, r.worst_litres]
            for r in (ranking.holds + ranking.short)[:40]
        ],
    }
    if a.chosen is None:
        return row
    wiring, doubt = a.wiring, doubt_in(job)
    assert wiring is not None
    row |= {
        "average_l": a.chosen.season.average_litres.tolist(),
        "clear_l": a.chosen.season.clear_litres.tolist(),
        "start_w_m2": a.chosen.season.start_w_m2,
        "price": a.chosen.price,
        "flow": a.chosen.working.flow_m3_s,
        "losses": [loss.head_loss_m for loss in a.chosen.piece_losses],
        "runs": [
            [run.key, run.choice.conductor.label, run.choice.drop_fraction, run.choice.ampacity_a, run.one_way_m]
            for run in wiring.runs
        ],
        "fuse_a": wiring.protection.rating_a,
        "stall_a": wiring.protection.stall_current_a,
        "levers": [[lever.key, lever.price_change, lever.litres] for lever in a.levers],
        "range_l": None if doubt is None else [doubt.litres.low, doubt.litres.high],
    }
    if a.chosen.refusal is None:
        report = report_of(a, a.chosen, None, "")
        row["years"] = [report.short_in_a_hundred, report.litres_a_year, report.energy_wh, report.dry_spell_days]
    return row


def all_figures() -> dict[str, Any]:
    """Of every demo job, by its name."""
    return {job.name: figures_of(job) for job in demo_jobs()}


def differences(old: Any, new: Any, path: str = "") -> list[str]:
    """Where two trees of figures are further apart than 1e-9 of a figure."""
    if isinstance(old, dict) and isinstance(new, dict):
        keys = sorted(old.keys() | new.keys())
        return [line for key in keys for line in differences(old.get(key), new.get(key), f"{path}/{key}")]
    if isinstance(old, list) and isinstance(new, list) and len(old) == len(new):
        return [line for n, pair in enumerate(zip(old, new, strict=True)) for line in differences(*pair, f"{path}/{n}")]
    if isinstance(old, float | int) and isinstance(new, float | int) and not isinstance(old, bool):
        return [] if abs(old - new) <= 1e-9 * max(abs(old), 1.0) else [f"{path}: {old!r} was, {new!r} is"]
    return [] if old == new else [f"{path}: {old!r} was, {new!r} is"]


@pytest.mark.parametrize("job", demo_jobs(), ids=lambda job: job.name)
def test_a_demo_job_gives_the_figures_it_gave(job: Job) -> None:
    old = json.loads(GOLDEN.read_text("utf8"))[job.name]
    assert differences(old, json.loads(json.dumps(figures_of(job)))) == []


def test_a_changed_figure_is_seen() -> None:
    assert differences({"a": [1.0, {"b": 2.0}]}, {"a": [1.0, {"b": 2.0 + 1e-6}]}) == ["/a/1/b: 2.0 was, 2.000001 is"]
    assert differences({"a": 1.0}, {})
    assert differences([1], [1, 2])


if __name__ == "__main__":
    GOLDEN.write_text(json.dumps(all_figures(), indent=1) + "\n", "utf8")
