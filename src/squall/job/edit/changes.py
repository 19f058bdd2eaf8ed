"""Edits larger than one field: pieces, herds, devices, options, readings.

Each returns the changed job and a few words for its history.
"""

from dataclasses import replace
from datetime import UTC, datetime

from squall.catalogue import Catalogue
from squall.catalogue.reader import pick
from squall.core.advice.levers import Lever
from squall.core.errors import BadQuantity, NotFound
from squall.core.hydraulics.tracks import Profile
from squall.core.kit.kit import Kit
from squall.core.kit.parts import Pump
from squall.core.kit.setup import Cabling
from squall.core.reason import Spoken
from squall.job.document.job import HerdRow, Job, Piece, Typed, quantity
from squall.job.worked.resolve import kit_name, option_from
from squall.words import later, say

Changed = tuple[Job, Spoken]


def _next_id(prefix: str, taken: list[str]) -> str:
    number = 1
    while f"{prefix}{number}" in taken:
        number += 1
    return f"{prefix}{number}"


def add_piece(job: Job) -> Changed:
    """One more piece at the outlet end, of the last piece's hose."""
    last = job.run[-1]
    piece = Piece(
        id=_next_id("p", [piece.id for piece in job.run]),
        name="hose",
        length=quantity("5 m", 5.0),
        hose=last.hose,
        bore=last.bore,
        roughness=last.roughness,
        fittings={},
    )
    if len(job.run) >= 40:
        raise BadQuantity(later("A run of 40 pieces is the most; join some."))
    return job.model_copy(update={"run": [*job.run, piece]}), later("a piece added to the run")


def remove_piece(job: Job, piece_id: str) -> Changed:
    """The run without one piece; the last one stays."""
    if len(job.run) == 1:
        raise BadQuantity(later("A run has at least one piece; change this one instead."))
    kept = [piece for piece in job.run if piece.id != piece_id]
    if len(kept) == len(job.run):
        raise NotFound(later("That piece is not in the run any more."))
    return job.model_copy(update={"run": kept}), later("a piece taken out of the run")


def run_from_track(job: Job, profile: Profile) -> Changed:
    """The run's delivery laid along a walked track; hose and fittings of its first piece stay, lift becomes its rise."""
    kept = [piece for piece in job.run if piece.side == "suction"]
    first = next((piece for piece in job.run if piece.side == "delivery"), job.run[-1])
    taken = [piece.id for piece in kept]
    for number, leg in enumerate(profile.legs, start=1):
        taken.append(_next_id("p", taken))
        kept.append(
            Piece(
                id=taken[-1],
                name=say("leg {number}", number=number),
                length=_metres(leg.length_m),
                hose=first.hose,
                bore=first.bore,
                roughness=first.roughness,
                fittings=first.fittings if number == 1 else {},
                fixed=first.fixed,
                end_height=_metres(leg.end_m),
            )
        )
    rise = max(profile.rise_m, 0.0)
    words = later("run laid along a track of {length:length}", length=profile.length_m)
    return job.model_copy(update={"run": kept, "lift": _metres(rise)}), words


def _metres(metres: float) -> Typed:
    rounded = round(metres, 1)
    return quantity(f"{rounded:g} m", rounded)


def add_drinkers(job: Job) -> Changed:
    """One more row in the herd."""
    if len(job.herd) >= 40:
        raise BadQuantity(later("A herd of 40 rows is the most; join some."))
    row = HerdRow(
        id=_next_id("h", [row.id for row in job.herd]),
        name="goats",
        count=quantity("10", 10.0),
        each=quantity("6 L", 0.006),
    )
    return job.model_copy(update={"herd": [*job.herd, row]}), later("a row added to the herd")


def remove_drinkers(job: Job, row_id: str) -> Changed:
    """The herd without one row."""
    kept = [row for row in job.herd if row.id != row_id]
    if len(kept) == len(job.herd):
        raise NotFound(later("That row is not in the herd any more."))
    return job.model_copy(update={"herd": kept}), later("a row taken out of the herd")


def add_device(job: Job, device_id: str, catalogue: Catalogue) -> Changed:
    """A switch, relay or connector put into the pump's loop."""
    device = pick(catalogue.devices, device_id, "device")
    if len(job.devices) >= 20:
        raise BadQuantity(later("Twenty devices in one loop are the most."))
    return job.model_copy(update={"devices": [*job.devices, device_id]}), later(
        "{name} put into the loop", name=device.name
    )


def remove_device(job: Job, number: int, catalogue: Catalogue) -> Changed:
    """The loop without its device of that number."""
    if not 0 <= number < len(job.devices):
        raise NotFound(later("That device is not in the loop any more."))
    name = pick(catalogue.devices, job.devices[number], "device").name
    kept = [device for place, device in enumerate(job.devices) if place != number]
    return job.model_copy(update={"devices": kept}), later("{name} taken out of the loop", name=name)


def adopt(job: Job, kit: Kit, cabling: Cabling) -> Changed:
    """A kit made this job's chosen option; the others stay beside it."""
    if len(job.options) >= 12:
        raise BadQuantity(later("Twelve options are the most; remove one first."))
    name = kit_name(kit)
    option = option_from(kit, cabling, _next_id("o", [option.id for option in job.options]), name)
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
    return job.model_copy(update={"options": kept, "chosen": chosen}), later("an option removed")


def pull(job: Job, lever: Lever) -> Changed:
    """A lever's change made to the chosen option, and to the cable lengths if it shortens them."""
    option = job.option
    if option is None:
        raise NotFound(later("There is no kit to change yet; choose one first."))
    changed = option_from(lever.setup.kit, lever.setup.cabling, option.id, kit_name(lever.setup.kit)).model_copy(
        update={"dial": option.dial}
    )
    options = [changed if known.id == option.id else known for known in job.options]
    update: dict[str, object] = {"options": options}
    if lever.kind == "shorter":
        update["pump_cable"] = quantity(f"{lever.setup.layout.pump_cable_m:g} m", lever.setup.layout.pump_cable_m)
    return job.model_copy(update=update), lever.label


def now_stamp() -> str:
    """This minute in universal time, as readings keep it."""
    return datetime.now(UTC).strftime("%Y-%m-%dT%H:%MZ")
