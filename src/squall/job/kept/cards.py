"""The cards of upkeep that the chosen kit needs."""

from collections.abc import Mapping

from squall.core.upkeep.cards import Card, Family, Parts, cards_for
from squall.core.upkeep.due import Code
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


# The card on which each job that comes back is told step by step; of the pump's end, whichever it has.
_TOLD_ON: Mapping[Code, Family | None] = {
    "look": "panels", "screen": "screen", "box": "box", "plugs": "plugs", "battery": "lead", "pump-life": None, "before-frost": None,
}  # fmt: skip


def cards_by_task(a: Assessment, chosen: KitAssessment) -> Mapping[str, Family]:
    """The card of each job that comes back on the chosen kit, where one tells how it is done."""
    own = {card.family for card in cards_of(a, chosen)}
    found: dict[str, Family] = {}
    for code, family in _TOLD_ON.items():
        wanted = next((one for one in own if one == chosen.kit.pump.end), None) if family is None else family
        if wanted is not None and wanted in own:
            found[code] = wanted
    return found
