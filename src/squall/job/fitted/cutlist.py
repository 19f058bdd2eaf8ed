"""What is cut, how long, from which rolls; what hangs on the rope; when the first water comes."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from squall.core.electrics.conductors import Conductor
from squall.core.fit.cuts import MOST_PIECES, CutPlan, cut_plan
from squall.core.fit.filling import first_water_s, volume_above_m3
from squall.core.fit.lifting import Hung, Load, drum_litres, load_on_rope, rope_needs_kg
from squall.core.kit.layout import CablePlace
from squall.core.kit.setup import cables_of
from squall.core.kit.supply import Direct
from squall.core.reason import Spoken
from squall.job.document.job import Job, Piece, Typed
from squall.job.document.survey import OutletDoc
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.words import later

# Two sleeves on the joint at the pump, each this long: common practice, no source. [m]
SLEEVE_M = 0.08
# More ends of one kind than these make the plan slow and no shorter.
MOST_OFFCUTS = 12


@dataclass(frozen=True)
class CutLine:
    """Pieces of one kind of thing: what, which lengths with what each is for, and how they come off the rolls.

    Attributes
    ----------
    key : str
        ``hose``, ``cable``, ``rope`` or ``sleeve``, with what tells it from others.
    name : Spoken
        As it is bought.
    pieces : tuple
        (what for, length [m]).
    roll_m : float or None
        Length of a roll as it is sold, where somebody said. [m]
    plan : CutPlan or None
        How the pieces come off rolls of that length.
    """

    key: str
    name: Spoken
    pieces: tuple[tuple[Spoken, float], ...]
    roll_m: float | None = None
    plan: CutPlan | None = None

    @property
    def total_m(self) -> float:
        """All pieces together. [m]"""
        return sum(metres for _, metres in self.pieces)

    @property
    def too_short(self) -> bool:
        """Whether it is a rope and no roll is as long: whatever carries is of one piece."""
        return self.key == "rope" and self.plan is not None and self.plan.joints > 0


def hanging_m(a: Assessment) -> float:
    """From the pump to what holds its rope: the rim, the bank, the float. [m]"""
    return a.heights.rim_m + a.heights.pump_below_m


def hangs(a: Assessment, chosen: KitAssessment) -> bool:
    """Whether the pump hangs on a rope: it lies in the water, and nobody stands there."""
    return chosen.kit.pump.placement != "surface" and hanging_m(a) > 0.0


Offcuts = Mapping[str, Sequence[float]]


def _line(key: str, name: Spoken, pieces: list[tuple[Spoken, float]], roll: Typed | None, offcuts: Offcuts) -> CutLine:
    own = sorted(offcuts.get(key, ()), reverse=True)[:MOST_OFFCUTS]
    if roll is None and len(pieces) > MOST_PIECES:
        # What lies in the van takes no list from a job that asks for no plan: there are too many pieces for one.
        own = []
    if not pieces or (roll is None and not own):
        return CutLine(key, name, tuple(pieces))
    wanted = [metres for _, metres in pieces]
    # Where no roll is said it is sold by the metre: each piece as long as it is.
    sold = [roll.si] if roll is not None else sorted(set(wanted))
    return CutLine(key, name, tuple(pieces), None if roll is None else roll.si, cut_plan(wanted, sold, own))


# What tells the cores of a cable apart, by how many it has.
_CORES: dict[int, tuple[Spoken, ...]] = {
    2: (later("red"), later("black")), 3: (later("marked 1"), later("marked 2"), later("marked 3")),
}  # fmt: skip


# What a piece of cable is to be made for, by where it lies.
_CLASSES: dict[CablePlace, Spoken] = {
    "sun": later("UV-stable"), "buried": later("for burial, or in a duct"), "water": later("submersible, double insulated, tinned"),
}  # fmt: skip


def cable_key(size: Conductor, cores: int, lies: CablePlace | None = None) -> str:
    """Key of a line of cable, by its size, its cores and what it is made for."""
    key = f"cable-{size.label}" if cores == 2 else f"cable-{size.label}-{cores}"
    return f"{key}-{lies}" if lies in _CLASSES else key


def cut_list(job: Job, a: Assessment, chosen: KitAssessment, offcuts: Offcuts | None = None) -> tuple[CutLine, ...]:
    """Hose, cable, rope and sleeve of the chosen kit.

    Parameters
    ----------
    job : Job
        For slack and rolls.
    a : Assessment
        The job worked out.
    chosen : KitAssessment
        Its kit.
    offcuts : mapping, optional
        Ends that lie in the van, by the key of their line: cut from before anything is bought. [m]

    Returns
    -------
    tuple of CutLine
        The rope exactly as long as the pump hangs deep, so that it carries all; hose and cable longer by the slack.
    """
    slack, own = job.fit.slack.si, offcuts or {}
    hoses = _hoses(job, a, chosen)
    found = [_line(f"hose-{key}", name, pieces, job.fit.hose_roll, own) for key, (name, pieces) in hoses.items()]
    cables: dict[str, tuple[Spoken, list[tuple[Spoken, float]]]] = {}
    to_pump: Spoken = later("panels to pump") if isinstance(chosen.kit.supply, Direct) else later("box to pump")
    three = chosen.kit.pump_cores == 3
    runs, run = [to_pump, later("panels to box")], to_pump
    for size, metres, cores, lies in cables_of(chosen.kit, chosen.layout, chosen.cabling):
        run = runs.pop(0) if lies is None else run
        use = run if lies is None else later("{run}, a piece of other cable", run=run)
        name = (
            later("three-core cable, {size}", size=size.label)
            if cores == 3
            else later("two-core cable, {size}", size=size.label)
        )
        if lies is not None and lies in _CLASSES:
            name = later("{cable}, {made}", cable=name, made=_CLASSES[lies])
        cables.setdefault(cable_key(size, cores, lies), (name, []))[1].append((use, metres + slack))
    if a.wiring is not None and (lead := a.wiring.charge_lead) is not None:
        name = later("two-core cable, {size}", size=lead.choice.conductor.label)
        to_bank = later("charger to battery"), lead.one_way_m
        cables.setdefault(cable_key(lead.choice.conductor, 2, None), (name, []))[1].append(to_bank)
    found += [_line(key, name, pieces, job.fit.cable_roll, own) for key, (name, pieces) in cables.items()]
    if hangs(a, chosen):
        rope: list[tuple[Spoken, float]] = [(later("pump to its eye, exactly"), hanging_m(a))]
        found.append(_line("rope", later("rope, stainless or rot-proof"), rope, job.fit.rope_roll, own))
        if a.rules.splice == "sleeve":
            each = 3 if three else 2
            sleeves: list[tuple[Spoken, float]] = [
                (later("{colour} core at the pump", colour=colour), SLEEVE_M) for colour in _CORES[each]
            ]
            for number in range(1, len(chosen.layout.cable_pieces) + 1):
                sleeves += [(later("a core at joint {number} in the run", number=number), SLEEVE_M)] * each
            found.append(CutLine("sleeve", later("adhesive-lined sleeve"), tuple(sleeves)))
    return tuple(found)


def _hoses(job: Job, a: Assessment, chosen: KitAssessment) -> dict[str, tuple[Spoken, list[tuple[Spoken, float]]]]:
    """By hose its name and its pieces: the run's with the slack at the pump, then what leads to the other places."""
    brought, found = chosen.kit.hose, dict[str, tuple[Spoken, list[tuple[Spoken, float]]]]()

    def cut(row: Piece | OutletDoc, metres: float, keeps: bool, use: Spoken) -> None:
        hose = a.parts.hoses.get(row.hose) if keeps or brought is None else brought
        name: Spoken = hose.title if hose is not None else later("hose of {bore:bore} bore", bore=row.bore.si)
        found.setdefault(hose.id if hose is not None else f"own-{row.id}", (name, []))[1].append((use, metres))

    for number, (piece, laid) in enumerate(zip(job.run, chosen.layout.pieces, strict=True)):
        cut(piece, piece.length.si + (job.fit.slack.si if number == 0 else 0.0), not laid.replaceable, piece.name)
    if job.served != "carried":
        for row in job.outlets:
            cut(row, row.length.si, row.fixed, row.name)
    elif chosen.layout.round is not None:
        # One hose is carried round: as long as the farthest place wants it.
        own = sum(piece.length_m for piece in chosen.layout.pieces if piece.replaceable)
        if (more := chosen.layout.hose_m - own) > 0.0:
            cut(job.run[-1], more, False, later("longer, for the farthest place"))
    return found


@dataclass(frozen=True)
class Lowering:
    """What hangs on the rope, what the rope must break at, and the drum that would float it. [m], [kg], [L]"""

    hanging_m: float
    load: Load
    needs_kg: float
    drum_l: float
    rope_breaks_kg: float | None

    @property
    def rope_holds(self) -> bool | None:
        """Whether the rope does; None where nobody said what it breaks at."""
        return None if self.rope_breaks_kg is None else self.rope_breaks_kg >= self.needs_kg


def lowering_of(job: Job, a: Assessment, chosen: KitAssessment) -> Lowering | None:
    """What hangs on the rope of the chosen kit's pump; None where it doesn't hang."""
    if not hangs(a, chosen):
        return None
    deep = hanging_m(a)
    pipe = chosen.layout.line(chosen.kit.hose).pipes[0]
    hose = chosen.kit.hose or a.parts.hoses.get(job.run[0].hose)
    # A hose that nobody weighed: a third of its water, a guess on the light side of none.
    mass = hose.mass_kg if hose is not None else 330.0 * pipe.area_m2
    load = load_on_rope(
        chosen.kit.pump.mass_kg, [Hung(deep, pipe.inner_diameter_m, mass)], chosen.cabling.pump.area_mm2, deep
    )
    breaks = None if job.fit.rope_breaks is None else job.fit.rope_breaks.si
    return Lowering(deep, load, rope_needs_kg(load, job.fit.rope_end), drum_litres(load), breaks)


@dataclass(frozen=True)
class FirstWater:
    """How long until the first water: litres of hose above the water, flow, seconds. [L], [m3/s], [s]"""

    litres: float
    flow_m3_s: float
    seconds: float


def first_water_of(a: Assessment, chosen: KitAssessment, flow_m3_s: float) -> FirstWater | None:
    """When the first water comes at a flow; None where none does. [m3/s]"""
    line = chosen.layout.line(chosen.kit.hose)
    pipes = line.pipes[chosen.layout.suction_pieces :]
    above = max(sum(pipe.length_m for pipe in pipes) - a.heights.pump_below_m, 0.0)
    seconds = first_water_s(line, above, flow_m3_s)
    if seconds is None:
        return None
    return FirstWater(1000.0 * volume_above_m3(line.pipes, above), flow_m3_s, seconds)
