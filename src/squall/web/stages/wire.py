"""Wire: cables, fuse, stall."""

from typing import Any

from fastapi import Request

from squall.catalogue import catalogue
from squall.core.electrics.conductors import conductor, sizes
from squall.core.kit.relays import COMMANDS
from squall.job.told.wire import contact_findings, opens_words, protection_figures, relays_for, run_figures
from squall.job.worked.assess import assess
from squall.job.worked.resolve import devices_of, loop_of
from squall.store.jobs import Stored
from squall.web.frame.pages import Prefs, figure_map


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """Figures of every run, the protection, and devices in the loop."""
    assessment = assess(stored.job)
    wiring = assessment.wiring
    if wiring is None:
        return {"wiring": None, "devices": (), "all_devices": catalogue().devices, "sizes": ()}
    return {
        "wiring": wiring,
        "runs": [(run, figure_map(run_figures(run))) for run in wiring.runs],
        "opens": opens_words(wiring.protection),
        "protection_figures": figure_map(protection_figures(wiring)),
        "devices": devices_of(stored.job, catalogue()),
        "in_loop": loop_of(stored.job, catalogue()),
        "relays": {} if assessment.chosen is None else relays_for(assessment, assessment.chosen),
        "banked": assessment.chosen is not None and assessment.chosen.kit.battery is not None,
        "contacts_found": [] if assessment.chosen is None else contact_findings(assessment, assessment.chosen),
        "commands": COMMANDS,
        "all_devices": catalogue().devices,
        "sizes": sizes(stored.job.wire_standard),
        "piece_labels": {row.id: conductor(row.size).label for row in stored.job.cables},
    }
