"""Kits of a job by hand: taken, entered as they stand, copied, joined otherwise, changed by a lever; parts that are owned.

Each returns the changed job and a few words for its history.
"""

import re
from collections.abc import Mapping
from dataclasses import replace

from squall.catalogue import Catalogue
from squall.catalogue.reader import pick
from squall.core.advice.levers import Lever
from squall.core.electrics.conductors import find_conductor
from squall.core.errors import BadQuantity, NotFound
from squall.core.kit.kit import Kit
from squall.core.kit.parts import Pump
from squall.core.kit.setup import Cabling
from squall.job.document.fields import edit
from squall.job.document.job import Job, OptionDoc, OwnedRow, PartCopy, quantity
from squall.job.document.unsaid import with_said, with_unsaid, without_unsaid
from squall.job.edit.changes import Changed, next_id
from squall.job.worked.own_parts import parts_of
from squall.job.worked.resolve import kit_name, option_from
from squall.words import later, say


def adopt(job: Job, kit: Kit, cabling: Cabling) -> Changed:
    """A kit made this job's chosen option; the others stay beside it."""
    if len(job.options) >= 12:
        raise BadQuantity(later("Twelve options are the most; remove one first."))
    name = kit_name(kit)
    option = option_from(kit, cabling, next_id("o", [option.id for option in job.options]), name)
    for known in job.options:
        if known.model_copy(update={"id": option.id, "name": option.name}) == option:
            return job.model_copy(update={"chosen": known.id}), later("{name} chosen", name=known.name)
    return job.model_copy(update={"options": [*job.options, option], "chosen": option.id}), later(
        "{name} chosen", name=name
    )


def take_pump(job: Job, kit: Kit, cabling: Cabling, pump: Pump) -> Changed:
    """The chosen kit with another pump, as an option of its own."""
    return adopt(job, replace(kit, pump=pump), cabling)


JOINS = {"series-more": (1, 0), "series-less": (-1, 0), "parallel-more": (0, 1), "parallel-less": (0, -1)}


def join(job: Job, way: str) -> Changed:
    """The chosen option with one panel more or fewer in each string, or one string more or fewer.

    Raises
    ------
    NotFound
        For a way that is none, or without an option.
    BadQuantity
        Under one of each, or over twelve.
    """
    option = job.option
    if option is None or way not in JOINS:
        raise NotFound(later("There is no kit to join panels of yet; choose one first."))
    series, parallel = option.in_series + JOINS[way][0], option.in_parallel + JOINS[way][1]
    if not (1 <= series <= 12 and 1 <= parallel <= 12):
        raise BadQuantity(
            later(
                "{series} in a string and {parallel} strings: 1 to 12 of each can be joined.",
                series=series,
                parallel=parallel,
            )
        )
    changed = option.model_copy(update={"in_series": series, "in_parallel": parallel})
    options = [changed if known.id == option.id else known for known in job.options]
    return job.model_copy(update={"options": options}), later(
        "{series} in a string, {parallel} strings", series=series, parallel=parallel
    )


def enter_kit(job: Job, chosen: Mapping[str, str], parts: Catalogue) -> Changed:
    """The kit as it stands, entered by hand: any kit may be, also one that falls short or is wrong.

    Parameters
    ----------
    job : Job
        As it stands.
    chosen : mapping
        ``pump``, ``panel``, ``source``, ``in_series``, ``in_parallel``, ``pump_cable``: what is there. The hose stays as it
        was laid; what the source can't do without stands in until it is changed.
    parts : Catalogue
        All there are.

    Raises
    ------
    BadQuantity, UnknownPart
        For the first thing that is missing or can't be read.
    """
    if len(job.options) >= 12:
        raise BadQuantity(later("Twelve options are the most; remove one first."))
    parts = parts_of(job, parts)
    for slot, words in _MUST_CHOOSE.items():
        if not chosen.get(slot, "").strip():
            raise BadQuantity(words)
    pump, panel = pick(parts.pumps, chosen["pump"], "pump"), pick(parts.panels, chosen["panel"], "panel")
    option_id = next_id("o", [option.id for option in job.options])
    size = find_conductor(chosen.get("pump_cable", "").strip() or _USUAL_SIZE[job.wire_standard], job.wire_standard)
    option = OptionDoc(
        id=option_id, name=say("{pump} as it stands", pump=pump.name), pump=pump.id, source="panel", panel=panel.id, in_series=1,
        in_parallel=1, hose=None, controller=None, battery=None, pump_cable=size.key, array_cable=None,
    )  # fmt: skip
    job = job.model_copy(update={"options": [*job.options, option], "chosen": option_id})
    for slot in ("source", "in_series", "in_parallel"):
        job = edit(job, f"options.{option_id}.{slot}", chosen.get(slot, "") or "1", parts)
    if not chosen.get("pump_cable", "").strip():
        job = with_unsaid(job, f"options.{option_id}", ["pump_cable"])
    return job, later("{name} entered", name=option.name)


# What a kit can't be entered without.
_MUST_CHOOSE = {
    "pump": later("Which pump is it? One that isn't in the list is put on your shelf first, under Parts."),
    "panel": later("Which panel is it? One that isn't in the list is put on your shelf first, under Parts."),
    "source": later("How is the pump fed: straight from the panels, through a controller, or from a battery?"),
}


_USUAL_SIZE = {"metric": "2.5 mm2", "awg": "12 awg"}


def carried_of(job: Job, option: OptionDoc) -> dict[str, int]:
    """How many of each part a kit takes from a van; hose and cable are cut for the job, and what is owned there is there."""
    wanted: dict[str, int] = {}
    for part, count in (
        (option.pump, 1), (option.panel, option.in_series * option.in_parallel), (option.controller, 1),
        (option.battery, option.batteries_in_series), (option.tank, 1), *((device, 1) for device in job.devices),
    ):  # fmt: skip
        if part is not None:
            wanted[part] = wanted.get(part, 0) + count
    there = {row.part: row.count for row in job.owned}
    return {part: count - there.get(part, 0) for part, count in wanted.items() if count > there.get(part, 0)}


def copy_option(job: Job, option_id: str) -> Changed:
    """One more of an option, to be changed beside it."""
    if len(job.options) >= 12:
        raise BadQuantity(later("Twelve options are the most; remove one first."))
    for option in job.options:
        if option.id == option_id:
            name = say("{name}, copy", name=option.name)[:120]
            made = option.model_copy(update={"id": next_id("o", [o.id for o in job.options]), "name": name})
            stem = f"options.{option_id}."
            same = [path.removeprefix(stem) for path in job.unsaid if path.startswith(stem)]
            job = with_unsaid(job, f"options.{made.id}", same)
            return job.model_copy(update={"options": [*job.options, made], "chosen": made.id}), later(
                "{name} copied", name=option.name
            )
    raise NotFound(later("That option is not in this job any more."))


def own_part(job: Job, part_id: str, count: str, parts: Catalogue) -> Changed:
    """A part that is there already: it costs nothing in any kit of this job, so many of it."""
    parts = parts_of(job, parts)
    part = next((found for slot in _OWNED_SLOTS if (found := parts.slot(slot).get(part_id)) is not None), None)
    if part is None:
        raise NotFound(later("There is no part called {part:quoted}.", part=part_id[:40]))
    if not re.fullmatch(r"[0-9]{1,3}", count.strip() or "1"):
        raise BadQuantity(later("{count:quoted} is not a count of parts; a whole number is wanted.", count=count[:20]))
    kept = [row for row in job.owned if row.part != part_id]
    number = int(count.strip() or "1")
    if number:
        kept.append(OwnedRow(id=next_id("b", [row.id for row in kept]), part=part_id, count=number))
    if len(kept) > 60:
        raise BadQuantity(later("Sixty owned parts are the most."))
    return job.model_copy(update={"owned": kept}), later("{n} of {part} owned", n=number, part=part.title)


_OWNED_SLOTS = ("pumps", "panels", "controllers", "batteries", "tanks")


def renew_part(job: Job, part_id: str, parts: Catalogue) -> Changed:
    """The job's own copy of a part replaced by the shelf's as it stands now."""
    row = parts.rows.get(part_id)
    if row is None:
        raise NotFound(later("That part is not on your shelf any more; the job keeps its own copy."))
    family, figures = row
    fresh = PartCopy(id=part_id, family=family, row=dict(figures))
    copies = [fresh if copy.id == part_id else copy for copy in job.parts]
    return job.model_copy(update={"parts": copies}), later(
        "{name} as it is on the shelf now", name=figures.get("name", part_id)
    )


def choose_option(job: Job, option_id: str) -> Changed:
    """Another option made the chosen one."""
    for option in job.options:
        if option.id == option_id:
            return job.model_copy(update={"chosen": option_id}), later("{name} chosen", name=option.name)
    raise NotFound(later("That option is not in this job any more."))


def remove_option(job: Job, option_id: str) -> Changed:
    """The job without one option; if it was chosen, the first left is."""
    kept = [option for option in job.options if option.id != option_id]
    if len(kept) == len(job.options):
        raise NotFound(later("That option is not in this job any more."))
    chosen = job.chosen
    if chosen == option_id:
        chosen = kept[0].id if kept else None
    left = without_unsaid(job, f"options.{option_id}")
    return left.model_copy(update={"options": kept, "chosen": chosen}), later("an option removed")


def pull(job: Job, lever: Lever) -> Changed:
    """A lever's change made to the chosen option, and to the cable lengths if it shortens them."""
    option = job.option
    if option is None:
        raise NotFound(later("There is no kit to change yet; choose one first."))
    changed = option_from(lever.setup.kit, lever.setup.cabling, option.id, kit_name(lever.setup.kit)).model_copy(
        update={"dial": option.dial, "fuse": option.fuse}
    )
    options = [changed if known.id == option.id else known for known in job.options]
    update: dict[str, object] = {"options": options}
    if lever.kind == "shorter":
        update["pump_cable"] = quantity(f"{lever.setup.layout.pump_cable_m:g} m", lever.setup.layout.pump_cable_m)
        job = with_said(job, "pump_cable")
    return job.model_copy(update=update), lever.label
