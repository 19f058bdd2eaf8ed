"""The places that share a job's kit: what each wants, what it gets while it is served, and for how long a day."""

from dataclasses import dataclass

from squall.core.kit.outlets import served_at
from squall.job.worked.assess import Assessment
from squall.words import Message, later


@dataclass(frozen=True)
class Served:
    """One place in the worst month.

    Attributes
    ----------
    id, name : str
        Of its row, empty for the end of the run; what it is called.
    lift_m : float
        From the pumping level, before any flow. [m]
    flow_m3_s, current_a : float
        While it is served, at the volts shown. [m3/s], [A]
    time_share : float
        Of the round; 1 where all are open together. [-]
    wanted_l, gets_l : float
        On an average day of the worst month, headroom in both. [L]
    """

    id: str
    name: str
    lift_m: float
    flow_m3_s: float
    current_a: float
    time_share: float
    wanted_l: float
    gets_l: float


def places_served(a: Assessment) -> list[Served]:
    """What each place gets, the end of the run first; nothing where there is one place, or no kit that runs."""
    chosen = a.judged.chosen
    if chosen is None or chosen.refusal is not None or chosen.layout.round is None:
        return []
    shared = chosen.layout.round
    at = served_at(chosen.kit.pump.motor, chosen.layout, chosen.kit.hose, chosen.working_v)
    rows = [("", str(later("the end of the run"))), *((row.id, row.name) for row in a.job.outlets)]
    # Together the pump runs until the place that is served worst has its share; the others get more.
    worst = min((each.flow_m3_s / share for each, share in zip(at, shared.shares, strict=True)), default=0.0)
    found = []
    for (row_id, name), each, share, place in zip(rows, at, shared.shares, chosen.layout.places, strict=True):
        over = each.flow_m3_s / share / worst if shared.mode == "together" and worst > 0.0 else 1.0
        found.append(
            Served(
                row_id, name, place.static_head_m, each.flow_m3_s, each.current_a, each.time_share,
                chosen.need_l[chosen.worst_month] * share, chosen.worst_litres * share * over,
            )
        )  # fmt: skip
    return found


def slowest_words(a: Assessment) -> Message | None:
    """One sentence of how many places share the kit, and which takes most of the round; None where there is one."""
    rows = places_served(a)
    if not rows:
        return None
    if a.job.served == "together":
        worst = min(rows, key=lambda row: row.gets_l / row.wanted_l if row.wanted_l > 0.0 else 0.0)
        return later("{count} places stand open at once; {name} is served worst, and what the others get beyond their share isn't counted.", count=len(rows), name=worst.name)  # fmt: skip
    slow = max(rows, key=lambda row: row.time_share)
    return later("{count} places share it, one after another; {name} takes {share:share} of the round.", count=len(rows), name=slow.name, share=slow.time_share)  # fmt: skip
