"""What stands on the sheet of labels: one for each end of each wire, and one for each part that a stranger must understand."""

from dataclasses import dataclass
from typing import Any

from markupsafe import Markup

from squall.core.kit.supply import Banked, Controlled
from squall.core.prove.expect import unknown_light
from squall.core.reason import Spoken
from squall.job.fitted.cutlist import lowering_of
from squall.job.wired.live import live_circuit
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.store.jobs import Stored
from squall.web.frame.codes import code_of
from squall.web.frame.pages import file_name
from squall.web.stages.circuit import wires_of
from squall.words import say
from squall.words.units import text


@dataclass(frozen=True)
class Label:
    """One label: its head, and the lines under it."""

    head: Spoken
    lines: tuple[Spoken, ...]


@dataclass(frozen=True)
class Tag:
    """The kit's tag in one size: the code to be scanned, drawn so wide. [mm]"""

    width_mm: float
    code: Markup


# From a lid to a post. [mm]
TAG_SIZES = (24.0, 36.0, 54.0)


def labels_sheet(stored: Stored, a: Assessment, chosen: KitAssessment, address: str = "") -> dict[str, Any]:
    """Labels of the chosen kit's parts, the numbers of its wires with both their ends, and its tag in several sizes."""
    live = live_circuit(a, chosen, unknown_light(20.0))
    says = tag_text(stored, address)
    tags = [Tag(width, code_of(says, width)) for width in TAG_SIZES]
    return {
        "labels": part_labels(stored, a, chosen),
        "wires": wires_of(a, live),
        "tags": tags,
        "tag_says": says,
        "tag_opens": bool(address),
    }


def tag_text(stored: Stored, address: str) -> str:
    """What a tag says to a phone: where the kit's page is; where phones reach nothing, its number and the file to look for."""
    if address:
        return f"{address.rstrip('/')}/jobs/{stored.id}/keep"
    file = file_name(f"{stored.job.name} field", "html")
    return f"Squall {stored.id}: {stored.job.name[:60]} ({file})"


def part_labels(stored: Stored, a: Assessment, chosen: KitAssessment) -> list[Label]:
    """Of panels, fuse, controller or bank, pump and rope."""
    kit = chosen.kit
    open_v = text(kit.panel.module.voc_v * kit.in_series, "volts")
    short_a = text(kit.panel.module.isc_a * kit.in_parallel, "amps")
    found = [
        Label(say("Panels: live in any light"), (
            say("{open_v} open, {short_a} shorted, in full sun", open_v=open_v, short_a=short_a),
            say("Cover them before a plug is parted. Never part it under load."),
        )),
    ]  # fmt: skip
    rating = None if a.wiring is None else a.wiring.protection.rating_a
    if rating is not None:
        found.append(Label(
            say("Fuse {amps}, DC", amps=text(rating, "amps")),
            (say("The same again, never a bigger one. Find out first why it blew."), say("Spare: in the lid")),
        ))  # fmt: skip
    if isinstance(kit.supply, Banked):
        found.append(Label(say("Battery {volts}", volts=text(kit.supply.nominal_v, "volts")), (
            say("Minus off first, on last. No spark, no flame: gas."), say("Put in on …"),
        )))  # fmt: skip
    if isinstance(kit.supply, Controlled):
        controller = kit.supply.controller
        found.append(Label(controller.title, (
            say("Panels at most {volts} open", volts=text(controller.max_v, "volts")), say("Dial to full for any test"),
        )))  # fmt: skip
    hangs = lowering_of(stored.job, a, chosen)
    lines: list[Spoken] = [say("{volts}; put in on …", volts=text(kit.pump.motor.rated_v, "volts"))]
    if hangs is not None:
        lines.append(say("Out only by the rope: {mass} with the hose full", mass=text(hangs.load.lift_kg, "mass")))
    found.append(Label(kit.pump.title, tuple(lines)))
    found.append(Label(stored.job.name, (say("Off before any hand: switch, fuse, cover the panels"), say("Ask for …"))))
    return found
