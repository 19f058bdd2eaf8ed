"""A job's odd lot: unlike panels that are there, joined, as one panel that a kit can have."""

from dataclasses import dataclass, replace

from squall.catalogue import Catalogue
from squall.catalogue.reader import pick
from squall.core.drive.mismatch import as_one
from squall.core.errors import SquallError
from squall.core.kit.parts import Panel
from squall.core.reason import Spoken
from squall.job.document.job import Job
from squall.job.document.power import LOT
from squall.words import later

# Strings whose panels must stand what all the others push back into a shaded one: more than so many want a fuse each.
FUSED_FROM = 3


@dataclass(frozen=True)
class OddLot:
    """The lot as a part, or why it makes none; and what is to be minded."""

    panel: Panel | None
    problem: Spoken = ""
    mind: Spoken = ""


def lot_of(job: Job, catalogue: Catalogue) -> OddLot | None:
    """The job's odd lot; None if it has none."""
    if not job.lot:
        return None
    try:
        strings: dict[int, list[Panel]] = {}
        for row in job.lot:
            strings.setdefault(row.string, []).extend([pick(catalogue.panels, row.panel, "panel")] * row.count)
        module = as_one([[panel.module for panel in string] for string in strings.values()])
    except SquallError as error:
        return OddLot(None, error.said)
    panels = [panel for string in strings.values() for panel in string]
    # In the weakest string a fault draws what all the others give.
    amps = [min(panel.module.isc_a for panel in string) for string in strings.values()]
    fuses = [min(panel.max_series_fuse_a for panel in string) for string in strings.values()]
    back = [1.25 * (sum(amps) - own) > fuse for own, fuse in zip(amps, fuses, strict=True)]
    mind = later("a shaded or faulty string would be fed back more than its panels stand: a fuse in each string") if any(back) else ""  # fmt: skip
    return OddLot(
        Panel(
            LOT, "", str(later("odd lot of {n} panels", n=len(panels))), sum(panel.price for panel in panels),
            sum(panel.mass_kg for panel in panels), module=module, area_m2=sum(panel.area_m2 for panel in panels),
            max_series_fuse_a=min(fuses), guessed=("vmp_v", "imp_a"),
        ),
        mind=mind,
    )  # fmt: skip


def with_lot(job: Job, catalogue: Catalogue) -> Catalogue:
    """The catalogue with the job's odd lot beside its panels; the ranking leaves it out."""
    lot = lot_of(job, catalogue)
    if lot is None or lot.panel is None:
        return catalogue
    return replace(catalogue, panels={**catalogue.panels, LOT: lot.panel}, unranked=catalogue.unranked | {LOT})
