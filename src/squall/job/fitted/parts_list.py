"""Everything that a kit needs on the day, with counts and prices: to be bought, to be picked from the van, to be looked for."""

from collections.abc import Mapping
from dataclasses import dataclass

from squall.core.electrics.protection import Kind
from squall.core.kit.parts import Part
from squall.core.kit.setup import cable_price, cables_of
from squall.core.kit.supply import Banked, Controlled
from squall.core.reason import Reason, Spoken
from squall.job.document.job import Job
from squall.job.fitted.cutlist import CutLine, Offcuts, cable_key, cut_list
from squall.job.fitted.joints import joints_of
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.job.worked.resolve import devices_of, loop_of
from squall.words import later

# What a joint at the pump takes besides its sleeve, and what goes into every box: common practice, no source.
SPARE_FUSES = 1
# What is told one by one where sizes meet.
ADAPTER = "adapter"
ADAPTS = ("reducer", "enlarger", "barb-to-thread", "coupling")

# What a joint that is in no sleeve takes.
_SPLICE_PARTS = {
    "resin": later("resin splice for the cable at the pump"), "silicone": later("silicone, neutral, for the cable at the pump"),
    "clips": later("clips for the trial"),
}  # fmt: skip

# What a pump controller's inputs want at their ends; none of it carries the pump's amps.
_INPUT_PARTS = {
    "float": later("float switch of the tank, for the controller's input"),
    "probe": later("dry-run probe, for the controller's input"),
}  # fmt: skip


@dataclass(frozen=True)
class PartLine:
    """One line of the list.

    Attributes
    ----------
    key : str
        The part's identifier, or what tells the line from others.
    name : Spoken
        As it is asked for.
    count : float
        How many, or how many metres. [-] or [m]
    metres : bool
        Whether the count is a length.
    price : float or None
        Of all of them; None where no list has one. [catalogue's money]
    owned : bool
        Whether it is there already and costs nothing.
    van : int
        How many of them the van has. [-]
    """

    key: str
    name: Spoken
    count: float
    metres: bool = False
    price: float | None = None
    owned: bool = False
    van: int = 0

    @property
    def missing(self) -> float:
        """How many have to come from elsewhere. [-] or [m]"""
        return 0.0 if self.owned else max(self.count - self.van, 0.0)


def parts_list(
    job: Job, a: Assessment, chosen: KitAssessment, van: Mapping[str, int], offcuts: Offcuts | None = None
) -> tuple[PartLine, ...]:
    """All parts of the chosen kit.

    Parameters
    ----------
    job, a, chosen
        The job, worked out, and its kit.
    van : mapping
        Parts in the van, by identifier.
    offcuts : mapping, optional
        Ends that lie there, by their line of the cut list: so much less is bought. [m]

    Returns
    -------
    tuple of PartLine
        What the price of the kit counts, with the small parts that it only allows for: prices of those are not invented.
    """
    kit = chosen.kit
    found: list[PartLine] = []

    def whole(part: Part, count: int) -> None:
        price, owned = part.price_of(count), part.owned >= count
        found.append(PartLine(part.id, part.title, count, price=price, owned=owned, van=van.get(part.id, 0)))

    whole(kit.pump, kit.pumps)
    whole(kit.panel, kit.panels)
    if kit.controller is not None:
        whole(kit.controller, 1)
    if isinstance(kit.supply, Banked):
        whole(kit.supply.battery, kit.supply.count)
    if kit.tank is not None:
        whole(kit.tank, 1)
    for device in devices_of(job, a.parts):
        whole(device, 1)
    for fitting, count in _fittings(job, a):
        whole(fitting, count)
    asked = kit.supply.controller.asks if isinstance(kit.supply, Controlled) else ()
    found += [PartLine(f"{one}-input", _INPUT_PARTS[one], 1) for one in asked]
    loop = loop_of(job, a.parts)
    if loop.pilots and kit.battery is not None:
        found.append(PartLine("suppressor", later("suppressor diode across the relay's coil, 1 A"), 1))
    found += [_length(line, a, chosen) for line in cut_list(job, a, chosen, offcuts)]
    found += _fuses(a)
    joints = joints_of(a, chosen)
    for joint in joints.joints:
        for need in joint.needs:
            if need.code != "pushed-on":
                found.append(PartLine(f"joint-{len(found)}", need, 1, price=_adapter_price(a, need)))
    if a.rules.splice != "sleeve":
        found.append(PartLine("splice", _SPLICE_PARTS[a.rules.splice], 1))
    if joints.clamps:
        found.append(PartLine("clamps", later("hose clamps"), joints.clamps))
    if a.wiring is not None and a.wiring.stem_a is not None:
        name = later("Y-leads, one for each pole, made for {amps:amps} or more", amps=a.wiring.stem_a)
        found.append(PartLine("y-leads", name, 2 * (kit.in_parallel - 1)))
    return tuple(found)


def _fittings(job: Job, a: Assessment) -> list[tuple[Part, int]]:
    """What the run has of fittings that are bought; adapters are told one by one by the joints, a kink by nobody."""
    counts: dict[str, int] = {}
    for piece in job.run:
        for key, count in piece.fittings.items():
            counts[key] = counts.get(key, 0) + count
    held = [
        (a.parts.fittings[key], count) for key, count in counts.items() if key != ADAPTER and key in a.parts.fittings
    ]
    return [(fitting, count) for fitting, count in held if count and fitting.price > 0.0]


def _adapter_price(a: Assessment, need: Reason) -> float | None:
    """What changes from one size or thread to another is an adapter of the shelf."""
    adapter = a.parts.fittings.get(ADAPTER)
    return adapter.price_of(1) if adapter is not None and need.code in ADAPTS else None


def _length(line: CutLine, a: Assessment, chosen: KitAssessment) -> PartLine:
    metres = line.plan.bought_m if line.plan is not None else line.total_m
    price = None
    hose = a.parts.hoses.get(line.key.removeprefix("hose-")) if line.key.startswith("hose-") else None
    if hose is not None:
        price = hose.price_of(metres)
    lead = None if a.wiring is None else a.wiring.charge_lead
    sizes = [(size, cores, lies) for size, _, cores, lies in cables_of(chosen.kit, chosen.layout, chosen.cabling)]
    for size, cores, lies in [*sizes, *([] if lead is None else [(lead.choice.conductor, 2, None)])]:
        if line.key == cable_key(size, cores, lies):
            price = metres * cable_price(size, cores)
    return PartLine(line.key, line.name, metres, metres=True, price=price)


def _fuses(a: Assessment) -> list[PartLine]:
    assert a.wiring is not None
    wiring, kind = a.wiring, a.rules.kind
    found: list[PartLine] = []
    rating = wiring.protection.rating_a
    if rating is not None:
        kind_words = later("fuse") if kind == "fuse" else later("breaker")
        spare = SPARE_FUSES if kind == "fuse" else 0
        name = later("{kind} {rating:amps}, DC, one in use and its spare", kind=kind_words, rating=rating) if spare else later("{kind} {rating:amps}, DC", kind=kind_words, rating=rating)  # fmt: skip
        found.append(_protector(a, "fuse", name, kind, rating, 1 + spare))
    if wiring.charge_fuse_a is not None:
        name = later("fuse {rating:amps}, DC, for the charger's lead, and its spare", rating=wiring.charge_fuse_a)
        found.append(_protector(a, "charge-fuse", name, "fuse", wiring.charge_fuse_a, 2))
    if wiring.bars is not None:
        found.append(PartLine("bus-bars", later("bus bars, plus and minus"), 2))
        branches = (("main-fuse", later("main fuse"), wiring.bars.main), *(
            (f"load-fuse-{n}", Reason("fuse-of-load", name=load.name), branch)
            for n, (load, branch) in enumerate(zip(a.rules.loads, wiring.bars.loads, strict=True), start=1)
        ))  # fmt: skip
        found += [
            _protector(a, key, later("{name}, {rating:amps}, DC, and its spare", name=name, rating=branch.fuse_a), "fuse", branch.fuse_a, 2)
            for key, name, branch in branches
            if branch.fuse_a is not None
        ]  # fmt: skip
    if wiring.string_fuse_a is not None:
        assert a.chosen is not None
        strings = a.chosen.kit.in_parallel
        found.append(PartLine("string-fuse", later("string fuse {rating:amps}, for PV, and a spare", rating=wiring.string_fuse_a), strings + 1))  # fmt: skip
    return found


def _protector(a: Assessment, key: str, name: Spoken, kind: Kind, rating_a: float, count: int) -> PartLine:
    """A fuse or breaker, at the price of the cheapest there is of its rating that parts the loop's volts."""
    assert a.wiring is not None
    fit = [
        part
        for part in a.parts.protectors.values()
        if (part.kind, part.rating_a) == (kind, rating_a) and part.rating_v >= a.wiring.loop_v
    ]
    return PartLine(key, name, count, price=min((part.price_of(count) for part in fit), default=None))
