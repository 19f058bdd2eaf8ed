"""Everything that a kit needs on the day, with counts and prices: to be bought, to be picked from the van, to be looked for."""

from collections.abc import Mapping
from dataclasses import dataclass

from squall.core.kit.parts import Part
from squall.core.kit.setup import cable_price, cables_of
from squall.core.kit.supply import Banked
from squall.core.reason import Reason, Spoken
from squall.job.document.job import Job
from squall.job.fitted.cutlist import CutLine, cable_key, cut_list
from squall.job.fitted.joints import joints_of
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.job.worked.resolve import devices_of, loop_of
from squall.words import later

# What a joint at the pump takes besides its sleeve, and what goes into every box: common practice, no source.
SPARE_FUSES = 1


# What a joint that is in no sleeve takes.
_SPLICE_PARTS = {
    "resin": later("resin splice for the cable at the pump"), "silicone": later("silicone, neutral, for the cable at the pump"),
    "clips": later("clips for the trial"),
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


def parts_list(job: Job, a: Assessment, chosen: KitAssessment, van: Mapping[str, int]) -> tuple[PartLine, ...]:
    """All parts of the chosen kit.

    Parameters
    ----------
    job, a, chosen
        The job, worked out, and its kit.
    van : mapping
        Parts in the van, by identifier.

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
    loop = loop_of(job, a.parts)
    if loop.pilots and kit.battery is not None:
        found.append(PartLine("suppressor", later("suppressor diode across the relay's coil, 1 A"), 1))
    found += [_length(line, a, chosen) for line in cut_list(job, a, chosen)]
    found += _fuses(a)
    joints = joints_of(a, chosen)
    for joint in joints.joints:
        for need in joint.needs:
            if need.code != "pushed-on":
                found.append(PartLine(f"joint-{len(found)}", need, 1))
    if a.rules.splice != "sleeve":
        found.append(PartLine("splice", _SPLICE_PARTS[a.rules.splice], 1))
    if joints.clamps:
        found.append(PartLine("clamps", later("hose clamps"), joints.clamps))
    if kit.in_parallel > 1:
        found.append(PartLine("y-leads", later("Y-leads, one for each pole"), 2 * (kit.in_parallel - 1)))
    return tuple(found)


def _length(line: CutLine, a: Assessment, chosen: KitAssessment) -> PartLine:
    metres = line.plan.bought_m if line.plan is not None else line.total_m
    price = None
    if line.key == f"hose-{chosen.kit.hose.id if chosen.kit.hose else ''}" and chosen.kit.hose is not None:
        price = chosen.kit.hose.price_of(metres)
    lead = None if a.wiring is None else a.wiring.charge_lead
    sizes = [(size, cores, lies) for size, _, cores, lies in cables_of(chosen.kit, chosen.layout, chosen.cabling)]
    for size, cores, lies in [*sizes, *([] if lead is None else [(lead.choice.conductor, 2, None)])]:
        if line.key == cable_key(size, cores, lies):
            price = metres * cable_price(size, cores)
    return PartLine(line.key, line.name, metres, metres=True, price=price)


def _fuses(a: Assessment) -> list[PartLine]:
    assert a.wiring is not None
    found: list[PartLine] = []
    rating = a.wiring.protection.rating_a
    if rating is not None:
        kind = later("fuse") if a.rules.kind == "fuse" else later("breaker")
        spare = SPARE_FUSES if a.rules.kind == "fuse" else 0
        found.append(PartLine("fuse", later("{kind} {rating:amps}, DC, one in use and its spare", kind=kind, rating=rating) if spare else later("{kind} {rating:amps}, DC", kind=kind, rating=rating), 1 + spare))  # fmt: skip
    if a.wiring.charge_fuse_a is not None:
        found.append(PartLine("charge-fuse", later("fuse {rating:amps}, DC, for the charger's lead, and its spare", rating=a.wiring.charge_fuse_a), 2))  # fmt: skip
    if a.wiring.bars is not None:
        found.append(PartLine("bus-bars", later("bus bars, plus and minus"), 2))
        branches = (("main-fuse", later("main fuse"), a.wiring.bars.main), *(
            (f"load-fuse-{n}", Reason("fuse-of-load", name=load.name), branch)
            for n, (load, branch) in enumerate(zip(a.rules.loads, a.wiring.bars.loads, strict=True), start=1)
        ))  # fmt: skip
        found += [
            PartLine(key, later("{name}, {rating:amps}, DC, and its spare", name=name, rating=branch.fuse_a), 2)
            for key, name, branch in branches
            if branch.fuse_a is not None
        ]
    if a.wiring.string_fuse_a is not None:
        assert a.chosen is not None
        strings = a.chosen.kit.in_parallel
        found.append(PartLine("string-fuse", later("string fuse {rating:amps}, for PV, and a spare", rating=a.wiring.string_fuse_a), strings + 1))  # fmt: skip
    return found
