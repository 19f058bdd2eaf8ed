"""Edits larger than one field: pieces, herds, devices, options, readings.

Each returns the changed job and a few words for its history.
"""

from datetime import UTC, datetime

from squall.catalogue import Catalogue
from squall.catalogue.reader import pick
from squall.core.errors import BadQuantity, NotFound
from squall.core.hydraulics.tracks import Profile
from squall.core.kit.relays import COMMANDS
from squall.core.reason import Spoken
from squall.job.document.job import HerdRow, Job, Piece, Typed, quantity
from squall.job.document.specs import MOST_FITTINGS
from squall.job.document.unsaid import with_said
from squall.words import later, say

Changed = tuple[Job, Spoken]


def next_id(prefix: str, taken: list[str]) -> str:
    """The first identifier of a prefix that isn't taken."""
    number = 1
    while f"{prefix}{number}" in taken:
        number += 1
    return f"{prefix}{number}"


def add_piece(job: Job) -> Changed:
    """One more piece at the outlet end, of the last piece's hose."""
    last = job.run[-1]
    piece = Piece(
        id=next_id("p", [piece.id for piece in job.run]),
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


def add_fitting(job: Job, item: str, parts: Catalogue) -> Changed:
    """One more fitting on a piece of the run; `item` is ``piece:fitting``."""
    piece_id, _, key = item.partition(":")
    piece = next((piece for piece in job.run if piece.id == piece_id), None)
    if piece is None:
        raise NotFound(later("That piece is not in the run any more."))
    fitting = pick(parts.fittings, key, "fitting")
    if piece.fittings.get(key, 0) >= MOST_FITTINGS:
        raise BadQuantity(later("{MOST_FITTINGS} of one fitting on a piece is the most.", MOST_FITTINGS=MOST_FITTINGS))
    more = piece.model_copy(update={"fittings": {**piece.fittings, key: piece.fittings.get(key, 0) + 1}})
    run = [more if one.id == piece_id else one for one in job.run]
    return job.model_copy(update={"run": run}), later("{name} added to {piece}", name=fitting.name, piece=piece.name)


def remove_piece(job: Job, piece_id: str) -> Changed:
    """The run without one piece; the last one stays."""
    if len(job.run) == 1:
        raise BadQuantity(later("A run has at least one piece; change this one instead."))
    kept = [piece for piece in job.run if piece.id != piece_id]
    if len(kept) == len(job.run):
        raise NotFound(later("That piece is not in the run any more."))
    # What left the run behind it leaves behind the piece before; nothing leaves behind the last.
    at = next(number for number, piece in enumerate(job.run) if piece.id == piece_id)
    before = job.run[at - 1].id if at else ""
    ends = {piece_id, kept[-1].id}
    outlets = [o.model_copy(update={"after": before}) if o.after in ends else o for o in job.outlets]
    return job.model_copy(update={"run": kept, "outlets": outlets}), later("a piece taken out of the run")


def run_from_track(job: Job, profile: Profile) -> Changed:
    """The run's delivery laid along a walked track; hose and fittings of its first piece stay, lift becomes its rise."""
    kept = [piece for piece in job.run if piece.side == "suction"]
    first = next((piece for piece in job.run if piece.side == "delivery"), job.run[-1])
    taken = [piece.id for piece in kept]
    for number, leg in enumerate(profile.legs, start=1):
        taken.append(next_id("p", taken))
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
    outlets = [outlet.model_copy(update={"after": ""}) for outlet in job.outlets]
    laid = job.model_copy(update={"run": kept, "outlets": outlets, "lift": _metres(rise)})
    return with_said(laid, "lift", *(f"run.{piece.id}.length" for piece in kept)), words


def _metres(metres: float) -> Typed:
    rounded = round(metres, 1)
    return quantity(f"{rounded:g} m", rounded)


def add_drinkers(job: Job) -> Changed:
    """One more row in the herd."""
    if len(job.herd) >= 40:
        raise BadQuantity(later("A herd of 40 rows is the most; join some."))
    row = HerdRow(
        id=next_id("h", [row.id for row in job.herd]),
        name=say("animals"),
        count=quantity("0", 0.0),
        each=quantity("0 L", 0.0),
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
    pilots = [one for one in job.pilots if one in kept]
    return job.model_copy(update={"devices": kept, "pilots": pilots}), later("{name} taken out of the loop", name=name)


def turn_pilot(job: Job, device_id: str, catalogue: Catalogue) -> Changed:
    """A switch of the loop drives the relay's coil, or carries the pump's amps again."""
    device = pick(catalogue.devices, device_id, "device")
    if device_id not in job.devices or device.kind not in COMMANDS:
        raise NotFound(later("That switch is not in the loop any more."))
    if device_id in job.pilots:
        kept = [one for one in job.pilots if one != device_id]
        return job.model_copy(update={"pilots": kept}), later("{name} carries the pump's amps", name=device.name)
    return job.model_copy(update={"pilots": [*job.pilots, device_id]}), later(
        "{name} drives the relay's coil", name=device.name
    )


def relay_for(job: Job, which: str, catalogue: Catalogue) -> Changed:
    """A relay takes the load off a switch: `which` is the switch and the relay, parted by a colon."""
    switch, _, relay = which.partition(":")
    job, _ = add_device(job, relay, catalogue)
    if switch not in job.pilots:
        job, _ = turn_pilot(job, switch, catalogue)
    name = pick(catalogue.devices, switch, "device").name
    return job, later("a relay carries the pump, {name} drives its coil", name=name)


def now_stamp() -> str:
    """This minute in universal time, as readings keep it."""
    return datetime.now(UTC).strftime("%Y-%m-%dT%H:%MZ")
