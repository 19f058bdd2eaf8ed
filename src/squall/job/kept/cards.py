"""The cards of upkeep that the chosen kit needs."""

from squall.core.upkeep.cards import Card, Parts, cards_for
from squall.job.trouble.chain import chain_of
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment


def cards_of(a: Assessment, chosen: KitAssessment) -> tuple[Card, ...]:
    """The cards for what stands there: its pump's end, its motor, and what is joined to it."""
    kit, chain = chosen.kit, chain_of(a, chosen)
    return cards_for(
        Parts(
            end=kit.pump.end,
            brushed=kit.pump.brushed,
            screened=kit.pump.placement != "surface",
            panels=chosen.kit.panels > 0,
            boxed=kit.controller is not None or kit.battery is not None or bool(a.job.devices),
            lead=kit.battery is not None and kit.battery.chemistry.startswith("lead"),
            floats=chain.has_float,
        )
    )
